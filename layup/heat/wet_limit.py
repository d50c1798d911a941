"""How thick plies may lie wet at once before their own heat spoils them: by the heat model, on what is beneath."""

from functools import lru_cache

from layup.chemistry.label import catalyst_label
from layup.errors import LayupError
from layup.heat.conduction import Layer, laminate, simulate
from layup.heat.cure_kinetics import Cure
from layup.heat.heat_fit import catalysed_cure
from layup.heat.pot_heat import stated_pot
from layup.job import Substrate
from layup.laminate.outcome import PartResult
from layup.pots.mix import Mix

WARN_FROM_C = 60.0  # memory: warned from here, stopped at 100
# Under this no laminate warms by much, and none is worked out (memory: four plies of mat a go are over 4 mm).
ALWAYS_ALLOWED_MM = 2.0
MOST_MM = 40.0
_LAMINATE, _FOAM = Layer(0.006, 1.5, 1.2, 0.3, 0.0, 6), Layer(0.020, 0.08, 1.4, 0.035, 0.0, 6)
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


def wet_limit_mm(part: PartResult, mix: Mix, room_c: float) -> float:
    """The greatest thickness of a part's plies, mm, that peaks under 60 °C laid all at once in a room.

    Infinite where the heat model has nothing to say. Source: the heat model; 60 °C from memory.
    """
    if part.thickness_mm <= ALWAYS_ALLOWED_MM or not part.fibre_weight_fraction:
        return float("inf")
    cure = _cure_of(mix, room_c)
    if cure is None:
        return float("inf")
    density = part.laminate_gsm / part.thickness_mm / 1000
    beneath = _BENEATH.get(part.substrate, _LAMINATE)
    return _limit_mm(cure, round(room_c), round(1 - part.fibre_weight_fraction, 1), round(density, 1), beneath)


def _cure_of(mix: Mix, room_c: float) -> Cure | None:
    if mix.hardener:
        heat = mix.heat_of(stated_pot(mix.hardener))
        return None if heat.rough else heat.cure
    pct = round(mix.dose.catalyst_pct, 1)
    return _catalysed(catalyst_label(mix.resin.catalyst).law(room_c, mix.dose.catalyst_pct), pct)


@lru_cache(maxsize=64)
def _catalysed(law, pct: float) -> Cure | None:
    try:
        return catalysed_cure(law, pct)
    except LayupError:
        return None


@lru_cache(maxsize=256)
def _limit_mm(cure: Cure, room_c: float, resin_share: float, density_g_per_cm3: float, beneath: Layer) -> float:
    """The thickness at which the peak is 60 °C, to a tenth of a millimetre, between what is always allowed and 40 mm."""

    def too_hot(mm: float) -> bool:
        body = laminate(mm / 1000, resin_share, density_g_per_cm3, beneath)
        try:
            return simulate(body, cure, room_c, until="peak", hottest_c=WARN_FROM_C).peak_c >= WARN_FROM_C
        except LayupError:
            return False

    low, high = ALWAYS_ALLOWED_MM, MOST_MM
    if not too_hot(high):
        return float("inf")
    while high - low > 0.1:
        middle = (low + high) / 2
        low, high = (low, middle) if too_hot(middle) else (middle, high)
    return low
