"""A pour through its depth and its hours: resin that cures on what it lies on, many pours at once.

Conduction is exact between the steps of the cure (the matrix's own modes), so a step is only as short as the cure asks.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import inf

import numpy as np

from layup.chemistry.gel_law import kelvin
from layup.heat.conduction import Body, mesh_of
from layup.heat.cure_kinetics import Cure

# Of a face in still air, in a draught, and of the underside of what it lies on, W/m²K (memory).
H_STILL, H_FAN, H_UNDER = 10.0, 25.0, 6.0
RESIN_CELLS, GROUND_CELLS = 12, 5
# The share cured from which a pour bears the next and until which the next still bonds (memory).
BEARS_AT, BONDS_UNTIL = 0.55, 0.75
COOLED_WITHIN_K = 5.0  # memory
MOST_H = 400.0
# A step is short until the middle has gelled: what is off by then is off for good.
_MOST_CURED_A_STEP = 0.02
_WARMED_TO_GEL_K, _WARMED_AFTER_K = 0.5, 1.5
_LONGEST_TO_GEL_S, _LONGEST_AFTER_S = 900.0, 3600.0
_MOST_STEPS = 6000
_DONE = 0.995
# A cure is fastest about a third of the way: from here on it only slows, and what has fallen so far rises no more.
_SLOWS_FROM, _FALLEN_K = 0.6, 0.5
# One temperature, °C, or points of (minute, °C).
RoomThrough = float | Sequence[tuple[float, float]]


@dataclass(frozen=True, eq=False)
class Start:
    """What has lain for a while: the temperature, K, and the state of each of its cells, from the ground up."""

    temperature_k: np.ndarray
    state: np.ndarray


@dataclass(frozen=True, eq=False)
class PourHistory:
    """A pour through its hours: minutes, °C of each cell from the ground up, and the state of each.

    `ground_cells` of them are of what it lies on. `height_mm` has the middle of each cell over the underside of the pour.
    """

    minutes: np.ndarray
    cells_c: np.ndarray
    states: np.ndarray
    ground_cells: int
    height_mm: np.ndarray

    @cached_property
    def hottest_c(self) -> np.ndarray:
        return self.cells_c[:, self.ground_cells :].max(axis=1)

    def at(self, minute: float) -> Start:
        """What it has come to by a minute, to the nearest step."""
        step = int(np.abs(self.minutes - minute).argmin())
        return Start(self.cells_c[step] + 273.15, self.states[step])

    @cached_property
    def peak_c(self) -> float:
        """The hottest of its resin at any time."""
        return float(self.hottest_c.max())

    @cached_property
    def peak_min(self) -> float:
        return float(self.minutes[int(self.hottest_c.argmax())])


@dataclass(frozen=True, eq=False)
class Poured:
    """What came of pours, one number each: the peak, °C, and when; minutes to the gel of the middle, of the face on the
    ground and of the open face; from when the open face bears the next pour, until when it bonds, and from when all of it is
    as cool as the room again. Infinite for what has not come within `MOST_H` hours, or was not waited for.
    """

    peak_c: np.ndarray
    peak_min: np.ndarray
    gel_min: np.ndarray
    gel_under_min: np.ndarray
    gel_open_min: np.ndarray
    bears_min: np.ndarray
    bonds_until_min: np.ndarray
    cooled_min: np.ndarray


def follow(
    bodies: Sequence[Body],
    cure: Cure,
    rooms_c: Sequence[RoomThrough],
    *,
    starts: Sequence[Start] = (),
    faster: Sequence[float] = (),
    to_the_end: bool = True,
    for_min: float | None = None,
    hottest_c: float = inf,
    kept: bool = False,
) -> tuple[Poured, PourHistory | None]:
    """Follow pours, all of the same number of cells, until each is past its peak; `to_the_end` until the next may be poured
    on it and no longer bonds, or for so many minutes; one that passes `hottest_c` is followed no further. Of one pour alone
    its history can be `kept`.

    `faster` has how many times as fast each cures. A room is one temperature, °C, or points of (minute, °C) between which it changes evenly. Source: published, the heat
    equation in one dimension with a source (Carslaw and Jaeger, Conduction of Heat in Solids), reaction and conduction in
    turns (Strang, 1968).
    """
    march = _March(bodies, cure, rooms_c, starts, faster)
    march.run(to_the_end, for_min, hottest_c, kept)
    return march.poured(), march.history() if kept else None


class _March:
    """Pours on their way: each at its own minute, all at the same step."""

    def __init__(
        self,
        bodies: Sequence[Body],
        cure: Cure,
        rooms: Sequence[RoomThrough],
        starts: Sequence[Start],
        faster: Sequence[float],
    ):
        meshes = [mesh_of(body) for body in bodies]
        self.bodies, self.cure = bodies, cure
        self.rooms = [None if isinstance(room, int | float) else np.array(room, float).T for room in rooms]
        steady_k = [kelvin(room if isinstance(room, int | float) else room[0][1]) for room in rooms]
        self.room_k = np.array(steady_k, float)
        # The matrix made even on both sides of its diagonal: its own modes are then found safely.
        root = np.sqrt(np.array([mesh.stores for mesh in meshes]))
        even = np.array([mesh.matrix for mesh in meshes]) * root[:, :, None] / root[:, None, :]
        self.decay, modes = np.linalg.eigh(even)
        self.to_modes = np.ascontiguousarray(modes.transpose(0, 2, 1) * root[:, None, :])
        self.from_modes = modes / root[:, :, None]
        self.reacts = np.array([mesh.reacts for mesh in meshes])
        self.resin = self.reacts > 0
        # How fast each cell cures, against the cure's own pace: not at all on the ground.
        self.pace = (self.resin * (np.array(faster)[:, None] if len(faster) else 1.0))[:, :, None]
        self.rise = cure.heat_j_per_g * 1000 * self.reacts / np.array([mesh.heat_capacity for mesh in meshes])
        count, cells = self.reacts.shape
        self.warm = np.repeat(self.room_k[:, None], cells, axis=1)
        self.state = np.zeros((count, cells, cure.states))
        for at, start in enumerate(starts):
            self.warm[at, : len(start.temperature_k)] = start.temperature_k
            self.state[at, : len(start.state)] = start.state
        self.seconds = np.zeros(count)
        self.peak_k, self.peak_s = np.full(count, -inf), np.zeros(count)
        self.warm_until = np.zeros(count)
        # Of the layer that was poured last: its middle, its face on what is beneath, its open face.
        top = np.array([body.layers[-1].cells for body in bodies])
        last = np.full(count, cells - 1)
        self.marked = (
            np.arange(count)[:, None],
            np.stack([cells - top + top // 2, cells - top, last, last, last], axis=1),
            np.array([0, 0, 0, -1, -1]),
        )
        self.levels = np.array([*[cure.gels_at] * 3, BEARS_AT, BONDS_UNTIL])
        self.passed_s = np.full((count, len(self.levels)), inf)
        self.taken: list[tuple[float, np.ndarray, np.ndarray]] = [(0.0, self.warm[0].copy(), self.state[0].copy())]

    def run(self, to_the_end: bool, for_min: float | None, hottest_c: float, kept: bool) -> None:
        going = np.ones(len(self.bodies), bool)
        ends_s = (MOST_H * 60 if for_min is None else for_min) * 60
        hottest_k, rate = kelvin(hottest_c), self._rate(self.warm, self.state)
        for _ in range(_MOST_STEPS):
            fastest = np.maximum(np.abs(rate).max(axis=(1, 2)), 1e-12)
            warming = np.maximum((self.rise * rate[:, :, -1]).max(axis=1), 1e-12)
            fluid = np.isinf(self.passed_s[:, 0])
            most_k = np.where(fluid, _WARMED_TO_GEL_K, _WARMED_AFTER_K)
            longest = np.where(fluid, _LONGEST_TO_GEL_S, _LONGEST_AFTER_S)
            step = np.minimum(np.minimum(_MOST_CURED_A_STEP / fastest, most_k / warming), longest)
            step = np.where(going, np.minimum(step, ends_s - self.seconds), 0.0)
            self._conduct(step / 2)
            self._react(step)
            self._conduct(step / 2)
            self.seconds = self.seconds + step
            rate = self._rate(self.warm, self.state)
            self._note(step, rate)
            if kept:
                self.taken.append((float(self.seconds[0]), self.warm[0].copy(), self.state[0].copy()))
            going &= (self.seconds < ends_s - 1e-6) & (self.peak_k <= hottest_k)
            if for_min is None:
                going &= ~self._past(to_the_end)
            if not going.any():
                return

    def _rate(self, warm: np.ndarray, state: np.ndarray) -> np.ndarray:
        return self.cure.rates(warm, state) * self.pace

    def _react(self, step: np.ndarray) -> None:
        """The cure of each cell by itself, warmed by no more than its own heat: the midpoint rule."""
        wide = step[:, None, None]
        half = self._rate(self.warm, self.state) * (wide / 2)
        rate = self._rate(self.warm + self.rise * half[:, :, -1], self.state + half)
        self.warm = self.warm + self.rise * rate[:, :, -1] * step[:, None]
        # A state that is reckoned by its rate may pass its end by a hair.
        cured = np.minimum(self.state[:, :, -1:] + rate[:, :, -1:] * wide, 1.0)
        self.state = np.concatenate([self.state[:, :, :-1] + rate[:, :, :-1] * wide, cured], axis=2)

    def _conduct(self, step: np.ndarray) -> None:
        for at, grid in enumerate(self.rooms):
            if grid is not None:
                self.room_k[at] = kelvin(float(np.interp(self.seconds[at] / 60, grid[0], grid[1])))
        room_k = self.room_k[:, None]
        along = np.matmul(self.to_modes, (self.warm - room_k)[:, :, None])[:, :, 0] * np.exp(self.decay * step[:, None])
        self.warm = room_k + np.matmul(self.from_modes, along[:, :, None])[:, :, 0]

    def _note(self, step: np.ndarray, rate: np.ndarray) -> None:
        self.hottest_k = np.where(self.resin, self.warm, -inf).max(axis=1)
        risen = self.hottest_k > self.peak_k
        self.peak_k = np.where(risen, self.hottest_k, self.peak_k)
        self.peak_s = np.where(risen, self.seconds, self.peak_s)
        self.warm_until = np.where(self.hottest_k > self.room_k + COOLED_WITHIN_K, self.seconds, self.warm_until)
        over = self.state[self.marked] - self.levels
        fresh = (over >= 0) & np.isinf(self.passed_s)
        if fresh.any():
            # Back from where the step ended by how far it went over.
            back = np.minimum(over / np.maximum(rate[self.marked], 1e-12), step[:, None])
            self.passed_s = np.where(fresh, self.seconds[:, None] - back, self.passed_s)

    def _past(self, to_the_end: bool) -> np.ndarray:
        """Which are past their peak: not at the first, but where what heat is left could not pass it."""
        left = 1 - self.state[:, :, -1]
        could = np.where(self.resin, self.warm + self.rise * left, -inf).max(axis=1)
        least = 1 - np.where(self.resin, left, 0.0).max(axis=1)
        falls = (least > _SLOWS_FROM) & (self.hottest_k < self.peak_k - _FALLEN_K)
        past = (could < self.peak_k) | (least > _DONE) | falls
        if not to_the_end:
            return past
        return past & (self.hottest_k <= self.room_k + COOLED_WITHIN_K) & np.isfinite(self.passed_s[:, -1])

    def poured(self) -> Poured:
        gel, under, open_, bears, bonds = self.passed_s.T / 60
        return Poured(
            peak_c=self.peak_k - 273.15,
            peak_min=self.peak_s / 60,
            gel_min=gel,
            gel_under_min=under,
            gel_open_min=open_,
            bears_min=bears,
            bonds_until_min=bonds,
            cooled_min=self.warm_until / 60,
        )

    def history(self) -> PourHistory:
        body, times = self.bodies[0], np.array([at for at, _, _ in self.taken]) / 60
        ground = sum(layer.cells for layer in body.layers if layer.reacts == 0)
        width = np.concatenate([np.full(layer.cells, 1000 * layer.thickness_m / layer.cells) for layer in body.layers])
        height = np.cumsum(width) - width / 2 - width[:ground].sum()
        warm, states = (np.array([each[which] for each in self.taken]) for which in (1, 2))
        return PourHistory(times, warm - 273.15, states, ground, height)
