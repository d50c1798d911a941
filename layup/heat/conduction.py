"""The heat in a pot: conduction and cure together, in one dimension, by finite volumes. SI inside, minutes and °C out."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import inf, pi
from typing import Literal

import numpy as np
from scipy.optimize import brentq

from layup.chemistry.gel_law import kelvin
from layup.errors import OutOfRange, known
from layup.heat.change import Flows, catalysed_change, two_part_change
from layup.heat.cure_kinetics import SPECIFIC_HEAT_J_PER_G_K, Cure

# Of epoxy (memory, physically plausible); polyester is near enough.
DENSITY_G_PER_CM3 = 1.10
CONDUCTIVITY_W_PER_M_K = 0.20
H_CUP, H_TRAY = 12.0, 9.0  # W/m²K of a cup's wall and of a face in still air (memory)
H_PACK = 60.0  # a tray lying on a cool pack (memory)
PACK_C = 16.0  # cool, not ice (memory)
CELLS = 10
_RTOL = 1e-5
_ATOL_K, _ATOL_STATE = 1e-3, 1e-7
_DAYS_S = 60 * 86400.0
_MOST_STEPS = 50_000
_PEAKED_BY = 8.0  # times the gel
Shape = Literal["slab", "cylinder", "sphere"]
SHAPE_POWER: dict[Shape, int] = {"slab": 0, "cylinder": 1, "sphere": 2}


@dataclass(frozen=True)
class Layer:
    """A layer of one stuff. `reacts` is the share of its mass that is resin: fibre and filler take heat and give none.

    `sink_w_per_m3_k` is what it loses to the room sideways, through walls that stand close.
    """

    thickness_m: float
    density_g_per_cm3: float = DENSITY_G_PER_CM3
    specific_heat_j_per_g_k: float = SPECIFIC_HEAT_J_PER_G_K
    conductivity_w_per_m_k: float = CONDUCTIVITY_W_PER_M_K
    reacts: float = 1.0
    cells: int = CELLS
    sink_w_per_m3_k: float = 0.0


@dataclass(frozen=True)
class Face:
    """How a face is cooled: by `h_w_per_m2_k` to the room, or to something at a temperature of its own."""

    h_w_per_m2_k: float
    temperature_c: float | None = None


@dataclass(frozen=True)
class Body:
    """Layers from the centre, or from an inner face that is cooled as well, to the outer face."""

    shape: Shape
    layers: tuple[Layer, ...]
    outer: Face
    inner: Face | None = None


@dataclass(frozen=True)
class History:
    """A pot through time. Temperatures in °C: at the centre, at the surface, and the mean of what reacts.

    `cured` is the mean conversion, `progress` the mean of what gel is told by.
    `gel_min` is None where it has not gelled by the end. The peak is of the centre, never the most of any cell.
    """

    minutes: np.ndarray
    centre_c: np.ndarray
    surface_c: np.ndarray
    mean_c: np.ndarray
    cured: np.ndarray
    progress: np.ndarray
    gel_min: float | None

    @cached_property
    def peak_c(self) -> float:
        return float(self.centre_c.max())

    @cached_property
    def peak_min(self) -> float:
        return float(self.minutes[int(self.centre_c.argmax())])


def cup(
    mass_g: float,
    width_mm: float | None = None,
    density_g_per_cm3: float = DENSITY_G_PER_CM3,
    h_w_per_m2_k: float = H_CUP,
) -> Body:
    """A pot in a cup of an inner width, or as deep as it is wide: a cylinder of radius 2 V/S, S its cooled surface (memory).

    >>> round(cup(100).layers[0].thickness_m * 1000, 1), round(cup(15, 68).layers[0].thickness_m * 1000, 1)
    (16.2, 3.4)
    """
    volume_m3 = mass_g / density_g_per_cm3 * 1e-6
    radius_m = (volume_m3 / (2 * pi)) ** (1 / 3) if width_mm is None else width_mm / 2000
    depth_m = volume_m3 / (pi * radius_m**2)
    cooled_m2 = 2 * pi * radius_m**2 + 2 * pi * radius_m * depth_m
    return Body("cylinder", (Layer(2 * volume_m3 / cooled_m2, density_g_per_cm3),), Face(h_w_per_m2_k))


def as_deep_as_wide_g(mass_g: float, width_mm: float, density_g_per_cm3: float = DENSITY_G_PER_CM3) -> float:
    """The pot, g, that stands as deep as it is wide and is cooled like a mass in a cup of an inner width. Exact.

    What lies shallow is cooled like less, what stands deep like more than it is up to a point.

    >>> [round(as_deep_as_wide_g(mass, 68), 1) for mass in (15, 272)]
    [0.9, 272.0]
    """
    (layer,) = cup(mass_g, width_mm, density_g_per_cm3).layers
    return density_g_per_cm3 * 2 * pi * (1.5 * layer.thickness_m * 100) ** 3


def tray(depth_m: float, pack_c: float | None = None, density_g_per_cm3: float = DENSITY_G_PER_CM3) -> Body:
    """A pot poured out to a depth, cooled on both faces; with `pack_c`, lying on a cool pack at that temperature, °C."""
    if pack_c is None:
        return Body("slab", (Layer(depth_m / 2, density_g_per_cm3),), Face(H_TRAY))
    return Body("slab", (Layer(depth_m, density_g_per_cm3),), Face(H_TRAY), Face(H_PACK, pack_c))


def film(depth_m: float, under: Layer | None = None, density_g_per_cm3: float = DENSITY_G_PER_CM3) -> Body:
    """A film spread on the work: air over it, and beneath it the work, or nothing that takes its heat."""
    resin = Layer(depth_m, density_g_per_cm3)
    if under is None:
        return Body("slab", (resin,), Face(H_TRAY))
    return Body("slab", (replace(under, reacts=0.0), resin), Face(H_TRAY), Face(H_TRAY))


def laminate(
    thickness_m: float, resin_share: float, density_g_per_cm3: float, mould: Layer, over: Layer | None = None
) -> Body:
    """Wet plies of a thickness on their mould, under a core where one lies `over` them, cooled on both sides.

    Fibre 0.8 J/gK, laminate 0.3 W/mK (memory).
    """
    heat = resin_share * SPECIFIC_HEAT_J_PER_G_K + (1 - resin_share) * 0.8
    plies = Layer(thickness_m, density_g_per_cm3, heat, 0.3, resin_share)
    covered = () if over is None else (replace(over, reacts=0.0),)
    return Body("slab", (replace(mould, reacts=0.0), plies, *covered), Face(H_TRAY), Face(H_TRAY))


def casting(depth_m: float, beneath: Layer, density_g_per_cm3: float = DENSITY_G_PER_CM3) -> Body:
    """A pour of a depth, air over it, and beneath it what it is poured on: wood, foam, a mould."""
    return Body("slab", (replace(beneath, reacts=0.0), Layer(depth_m, density_g_per_cm3)), Face(H_TRAY), Face(H_TRAY))


@dataclass(frozen=True)
class Mesh:
    """A body cut into cells: conduction as dT/dt = matrix·T + from_inner·T_inner + from_outer·T_outer + from_room·T_room, per
    second; `stores` is what each cell stores, J/K, of a square metre or of what stands for it."""

    matrix: np.ndarray
    from_inner: np.ndarray
    from_outer: np.ndarray
    from_room: np.ndarray
    stores: np.ndarray
    reacts: np.ndarray
    heat_capacity: np.ndarray
    weights: np.ndarray
    centre: np.ndarray
    surface: tuple[float, float]


def mesh_of(body: Body) -> Mesh:
    """Cells of each layer with conductances between their middles, the outer half cell in series with h."""
    power = SHAPE_POWER[body.shape]
    width = np.concatenate([np.full(layer.cells, layer.thickness_m / layer.cells) for layer in body.layers])
    per_cell = [
        np.repeat([getattr(layer, name) for layer in body.layers], [layer.cells for layer in body.layers])
        for name in (
            "conductivity_w_per_m_k",
            "density_g_per_cm3",
            "specific_heat_j_per_g_k",
            "reacts",
            "sink_w_per_m3_k",
        )
    ]
    k, density, specific, reacts, sink = per_cell
    edges = np.concatenate([[0.0], np.cumsum(width)])
    area = edges**power
    volume = np.diff(edges ** (power + 1)) / (power + 1)
    heat_capacity = specific * 1000.0
    mass = density * 1000.0 * volume
    between = area[1:-1] / (width[:-1] / 2 / k[:-1] + width[1:] / 2 / k[1:])
    out = area[-1] / (width[-1] / 2 / k[-1] + 1 / body.outer.h_w_per_m2_k) if body.outer.h_w_per_m2_k else 0.0
    inner = 0.0
    if body.inner and body.inner.h_w_per_m2_k:
        inner = area[0] / (width[0] / 2 / k[0] + 1 / body.inner.h_w_per_m2_k)
    flows = np.zeros((len(width), len(width)))
    for at, conductance in enumerate(between):
        flows[at, at] -= conductance
        flows[at, at + 1] += conductance
        flows[at + 1, at + 1] -= conductance
        flows[at + 1, at] += conductance
    flows[0, 0] -= inner
    flows[-1, -1] -= out
    flows[np.diag_indices_from(flows)] -= sink * volume
    stores = mass * heat_capacity
    from_inner, from_outer = np.zeros(len(width)), np.zeros(len(width))
    from_inner[0], from_outer[-1] = inner / stores[0], out / stores[-1]
    weights = mass * reacts
    half_out = width[-1] / 2 / k[-1]
    share = half_out / (half_out + 1 / body.outer.h_w_per_m2_k) if body.outer.h_w_per_m2_k else 0.0
    return Mesh(
        matrix=flows / stores[:, None],
        from_inner=from_inner,
        from_outer=from_outer,
        from_room=sink * volume / stores,
        stores=stores,
        reacts=reacts,
        heat_capacity=heat_capacity,
        weights=weights / weights.sum() if weights.any() else np.full(len(width), 1 / len(width)),
        centre=_centre(edges, reacts, power, body.inner is not None),
        surface=(1 - share, share),
    )


def _centre(edges: np.ndarray, reacts: np.ndarray, power: int, both_faces: bool) -> np.ndarray:
    """Weights that make the centre's temperature of the cells': a parabola through the two about it.

    Of a body cooled on both faces it is the middle of what reacts.
    """
    weights = np.zeros(len(reacts))
    if both_faces:
        hot = np.flatnonzero(reacts) if reacts.any() else np.arange(len(reacts))
        middle = hot[len(hot) // 2]
        weights[middle] = 1.0
        if len(hot) % 2 == 0:
            weights[middle] = weights[middle - 1] = 0.5
        return weights
    squares = (power + 1) / (power + 3) * np.diff(edges ** (power + 3)) / np.diff(edges ** (power + 1))
    lean = squares[0] / (squares[1] - squares[0])
    weights[0], weights[1] = 1 + lean, -lean
    return weights


def _equations(mesh: Mesh, body: Body, cure: Cure, room_c: float) -> Callable[[float, np.ndarray], np.ndarray]:
    """Time derivative of (T, state) of each cell, one after another."""
    flows = Flows(
        below=np.diag(mesh.matrix, -1).copy(),
        own=np.diag(mesh.matrix).copy(),
        above=np.diag(mesh.matrix, 1).copy(),
        drawn=drawn_of(mesh, body, room_c),
        rise=rise_of(mesh, cure),
        # Where nothing reacts nothing may be reckoned to, or the solver would follow it.
        live=None if mesh.reacts.all() else (mesh.reacts > 0).astype(float),
    )
    return (two_part_change if cure.states == 1 else catalysed_change)(flows, cure.constants())


def drawn_of(mesh: Mesh, body: Body, room_c: float) -> np.ndarray:
    """What each cell is warmed by through the faces, K/s at no temperature of its own."""
    room_k = kelvin(room_c)
    inner_k = room_k if body.inner is None or body.inner.temperature_c is None else kelvin(body.inner.temperature_c)
    outer_k = room_k if body.outer.temperature_c is None else kelvin(body.outer.temperature_c)
    return mesh.from_inner * inner_k + mesh.from_outer * outer_k + mesh.from_room * room_k


def rise_of(mesh: Mesh, cure: Cure) -> np.ndarray:
    """How far each cell warms that cures through and loses nothing, K."""
    return cure.heat_j_per_g * 1000.0 * mesh.reacts / mesh.heat_capacity


def simulate(
    body: Body,
    cure: Cure,
    room_c: float,
    *,
    start_c: float | None = None,
    start_state: Sequence[float] = (),
    until: Literal["gel", "peak", "time"] = "gel",
    most_min: float = _DAYS_S / 60,
    hottest_c: float = inf,
) -> History:
    """Follow a body from its mixing at `start_c` (the room's where None) to its gel, to past its peak, or for a time.

    `start_state` is of a pot that has begun: its conversion, or induction and conversion. It ends early where the centre passes `hottest_c`. Gel is when the mean conversion (the induction of a catalysed resin) passes the
    cure's own. Raises OutOfRange where it has not gelled in two months. Source: published, the
    heat equation in one dimension or in a cylinder with a source (Carslaw and Jaeger, Conduction of Heat in Solids).
    """
    from scipy.integrate import ode

    mesh, wide = mesh_of(body), 1 + cure.states
    change = _equations(mesh, body, cure, room_c)
    start = _start(mesh, wide, room_c if start_c is None else start_c, start_state)
    tolerance = np.tile([_ATOL_K, *[_ATOL_STATE] * cure.states], len(mesh.reacts))
    solver = ode(change).set_initial_value(start)
    solver.set_integrator("vode", method="bdf", rtol=_RTOL, atol=tolerance, lband=wide, uband=wide, nsteps=_MOST_STEPS)
    followed = _Followed(mesh, wide)
    times, states, gel_s = [0.0], [start], None
    hottest_k, end_s = followed.centre_k(start), most_min * 60
    for _ in range(_MOST_STEPS):
        if solver.t >= end_s:
            break
        before_s, before = solver.t, solver.y
        solver.integrate(end_s, step=True)
        if not solver.successful():
            raise OutOfRange("the heat of this pot cannot be worked out: check its temperatures and its mass")
        if solver.t > end_s:
            solver.integrate(end_s)
        if gel_s is None and followed.progress(solver.y) >= cure.gels_at:
            gel_s = followed.crossing_s(change, cure.gels_at, (before_s, before), (solver.t, solver.y))
            if until == "gel":
                none = np.empty(0)
                return History(none, none, none, none, none, none, gel_s / 60)
        if until == "gel":
            continue
        times.append(solver.t)
        states.append(solver.y)
        centre_k = followed.centre_k(solver.y)
        if centre_k > hottest_c + 273.15:
            break
        if until == "peak" and gel_s is not None:
            hottest_k = max(hottest_k, centre_k)
            if solver.t > _PEAKED_BY * gel_s or (followed.cured(solver.y) > 0.6 and centre_k < hottest_k - 0.5):
                break
    if until == "gel":
        raise OutOfRange("it has not gelled in two months: it is too cold for it")
    return followed.history(np.array(times), np.array(states), room_c, gel_s)


def _start(mesh: Mesh, wide: int, start_c: float, state: Sequence[float] = ()) -> np.ndarray:
    start = np.zeros((len(mesh.reacts), wide))
    start[:, 0] = kelvin(start_c)
    if state:
        start[:, 1:] = state
    return start.ravel()


def gel_min(body: Body, cure: Cure, room_c: float, *, start_c: float | None = None) -> float:
    """Minutes from mixing to gel."""
    return known(simulate(body, cure, room_c, start_c=start_c).gel_min)


@dataclass(frozen=True)
class _Followed:
    """What is read off a state: how far it is, its temperatures."""

    mesh: Mesh
    wide: int

    def progress(self, y: np.ndarray) -> float:
        """Mean of what gel is told by."""
        return float(self.mesh.weights @ y.reshape(-1, self.wide)[:, 1])

    def crossing_s(
        self,
        change: Callable[[float, np.ndarray], np.ndarray],
        level: float,
        before: tuple[float, np.ndarray],
        after: tuple[float, np.ndarray],
    ) -> float:
        """When the progress passed a level within a step, s: by the cubic through its ends with their slopes."""
        step = after[0] - before[0]
        low, high = (self.progress(y) - level for _, y in (before, after))
        rise, fall = (step * self.progress(change(t, y)) for t, y in (before, after))
        if low >= 0:
            return before[0]

        def off(s: float) -> float:
            """The cubic, where s runs from nought to one over the step."""
            return low + s * (rise + s * (3 * (high - low) - 2 * rise - fall + s * (2 * (low - high) + rise + fall)))

        return before[0] + step * brentq(off, 0.0, 1.0, xtol=1e-6)

    def cured(self, y: np.ndarray) -> float:
        return float(self.mesh.weights @ y.reshape(-1, self.wide)[:, -1])

    def centre_k(self, y: np.ndarray) -> float:
        return float(self.mesh.centre @ y.reshape(-1, self.wide)[:, 0])

    def history(self, times_s: np.ndarray, states: np.ndarray, room_c: float, gel_s: float | None) -> History:
        """The record of all that was followed."""
        cells = states.reshape(len(times_s), -1, self.wide)
        warm = cells[:, :, 0] - 273.15
        own, rooms = self.mesh.surface
        return History(
            minutes=times_s / 60,
            centre_c=warm @ self.mesh.centre,
            surface_c=own * warm[:, -1] + rooms * room_c,
            mean_c=warm @ self.mesh.weights,
            cured=cells[:, :, -1] @ self.mesh.weights,
            progress=cells[:, :, 1] @ self.mesh.weights,
            gel_min=None if gel_s is None else gel_s / 60,
        )
