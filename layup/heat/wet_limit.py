"""How thick plies may lie wet at once before their own heat spoils them: by the heat model, on what is beneath."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import inf

from layup.architecture import Architecture
from layup.chemistry.gel_law import GelLaw
from layup.chemistry.label import catalyst_label
from layup.errors import LayupError
from layup.heat.conduction import Layer, laminate, simulate
from layup.heat.cure_kinetics import Cure
from layup.heat.heat_fit import catalysed_cure
from layup.heat.pot_heat import stated_pot
from layup.job import Substrate
from layup.laminate.outcome import PartResult, PlyResult
from layup.materials import Hardener, OnePart
from layup.pots.mix import Mix

WARN_FROM_C = 60.0  # memory: warned from here, stopped at 100
# Under this no laminate warms by much, and none is worked out (memory: four plies of mat a go are over 4 mm).
ALWAYS_ALLOWED_MM = 2.0
MOST_MM = 40.0
_LAMINATE, _FOAM = Layer(0.006, 1.5, 1.2, 0.3, 0.0, 6), Layer(0.020, 0.08, 1.4, 0.035, 0.0, 6)
_BALSA_W_PER_M_K = 0.06  # memory
_WOOD = Layer(0.009, 0.6, 1.6, 0.12, 0.0, 6)
# What carries the heat away beneath a part: usual thicknesses and stuffs (memory).
_BENEATH: dict[Substrate, Layer] = {
    "bare plywood": _WOOD,
    "timber": _WOOD,
    "foam core": _FOAM,
    "polystyrene foam": _FOAM,
    "aluminium": Layer(0.004, 2.7, 0.9, 200.0, 0.0, 4),
    "concrete": Layer(0.030, 2.3, 0.9, 1.5, 0.0, 6),
}


def beneath(substrate: Substrate) -> Layer:
    """What carries the heat away beneath resin on a ground.

    >>> beneath("foam core").conductivity_w_per_m_k
    0.035
    """
    return _BENEATH.get(substrate, _LAMINATE)


@dataclass(frozen=True)
class Skin:
    """The plies of a part between two cores, or between its ground and a core: what is wet at once, and what is round it.

    `density_g_per_cm3` and `resin_share` are of the plies alone; a core is an insulator and no wet mass.
    """

    thickness_mm: float
    resin_share: float
    density_g_per_cm3: float
    beneath: Layer
    over: Layer | None = None


@dataclass(frozen=True)
class WetLimit:
    """How much of a skin may lie wet at once, mm: open to the air, and once the core over it is laid."""

    open_mm: float = inf
    covered_mm: float = inf


def skins_of(part: PartResult) -> list[Skin]:
    """The skins of a part, from the surface outward; one more than it has cores.

    >>> skins_of(PartResult.model_construct(substrate="waxed mould", plies=()))[0].thickness_mm
    0.0
    """
    groups: list[list[PlyResult]] = [[]]
    cores: list[PlyResult] = []
    for ply in part.plies:
        if ply.architecture is Architecture.CORE:
            cores.append(ply)
            groups.append([])
        elif ply.stays and ply.coat not in ("wet-out", "gel"):
            groups[-1].append(ply)
    layers = [beneath(part.substrate), *map(_core_layer, cores)]
    return [
        _skin(plies, layers[at], layers[at + 1] if at + 1 < len(layers) else None) for at, plies in enumerate(groups)
    ]


def _skin(plies: Sequence[PlyResult], beneath: Layer, over: Layer | None) -> Skin:
    thick = sum((ply.thickness_mm for ply in plies), 0.0)
    fibre, resin = sum(ply.fibre_gsm for ply in plies), sum(ply.resin_gsm for ply in plies)
    if not thick:
        return Skin(0.0, 0.0, 1.0, beneath, over)
    return Skin(thick, resin / (fibre + resin), (fibre + resin) / thick / 1000, beneath, over)


def _core_layer(core: PlyResult) -> Layer:
    conductivity = _BALSA_W_PER_M_K if core.fibre == "balsa" else _FOAM.conductivity_w_per_m_k
    density = core.fibre_gsm / core.thickness_mm / 1000
    return Layer(core.thickness_mm / 1000, density, _FOAM.specific_heat_j_per_g_k, conductivity, 0.0, _FOAM.cells)


def wet_limits(part: PartResult, mix: Mix, room_c: float) -> tuple[WetLimit, ...]:
    """The greatest thickness of each of a part's skins, mm, that peaks under 60 °C laid all at once in a room.

    Infinite where the heat model has nothing to say. Source: the heat model; 60 °C from memory.
    """
    skins = skins_of(part)
    if all(skin.thickness_mm <= ALWAYS_ALLOWED_MM for skin in skins):
        return (WetLimit(),) * len(skins)
    cure = cure_of(mix, room_c)
    if cure is None:
        return (WetLimit(),) * len(skins)
    return tuple(_limit(skin, cure, round(room_c)) for skin in skins)


def _limit(skin: Skin, cure: Cure, room_c: float) -> WetLimit:
    if skin.thickness_mm <= ALWAYS_ALLOWED_MM:
        return WetLimit()
    like = round(skin.resin_share, 1), round(skin.density_g_per_cm3, 1), skin.beneath
    open_mm = _limit_mm(cure, room_c, *like, None)
    return WetLimit(open_mm, open_mm if skin.over is None else _limit_mm(cure, room_c, *like, skin.over))


def cure_of(mix: Mix, room_c: float) -> Cure | None:
    """How a mix cures in a room; None where the heat model has nothing to say of it, or its table is still being built."""
    if isinstance(mix.set_by, Hardener):
        heat = mix.heat_of(stated_pot(mix.set_by))
        return None if heat.rough else heat.cure
    if isinstance(mix.set_by, OnePart):
        return None
    pct = mix.set_by.catalyst_pct
    return _catalysed(catalyst_label(mix.set_by.catalyst).law(room_c, pct), round(pct, 1))


@lru_cache(maxsize=64)
def _catalysed(law: GelLaw, pct: float) -> Cure | None:
    try:
        return catalysed_cure(law, pct)
    except LayupError:
        return None


@lru_cache(maxsize=256)
def _limit_mm(
    cure: Cure, room_c: float, resin_share: float, density_g_per_cm3: float, beneath: Layer, over: Layer | None
) -> float:
    """The thickness at which the peak is 60 °C, to a tenth of a millimetre, between what is always allowed and 40 mm."""

    def too_hot(mm: float) -> bool:
        """Whether so much peaks at 60 °C; where the heat cannot be worked out, no more than what is always allowed."""
        body = laminate(mm / 1000, resin_share, density_g_per_cm3, beneath, over)
        try:
            return simulate(body, cure, room_c, until="peak", hottest_c=WARN_FROM_C).peak_c >= WARN_FROM_C
        except LayupError:
            return True

    low, high = ALWAYS_ALLOWED_MM, MOST_MM
    if not too_hot(high):
        return inf
    while high - low > 0.1:
        middle = (low + high) / 2
        low, high = (low, middle) if too_hot(middle) else (middle, high)
    return low
