"""How much catalyst: solved for the gel time wanted, held inside the product's limits, and measured for real."""

from dataclasses import dataclass

from layup.chemistry.gel import catalysed_gel_min, catalyst_pct_for_gel, temperature_for_gel_c
from layup.materials import Catalyst
from layup.scales import METRIC, Scales

CHART_TEMPERATURES_C = (10, 15, 20, 25, 30)
DEFAULT_WANTED_GEL_MIN = 30.0  # common practice: what 1 % gives at 20 °C


@dataclass(frozen=True)
class ChartRow:
    """One row of the label's chart: the dose, % by weight, its gel time at each chart temperature and in the room, min."""

    catalyst_pct: float
    gel_min: tuple[float, ...]
    at_room_min: float


@dataclass(frozen=True)
class DoseVerdict:
    """The dose of a catalyst and the gel time it gives. `limit` names the product's limit where it bites."""

    catalyst: Catalyst
    catalyst_pct: float
    gel_min: float
    solved_pct: float
    limit: str
    sentence: str
    reason: str
    instead: tuple[str, ...]
    chart: tuple[ChartRow, ...]


def choose_dose(
    catalyst: Catalyst,
    temperature_c: float,
    wanted_gel_min: float | None,
    pinned_pct: float | None = None,
    scales: Scales = METRIC,
) -> DoseVerdict:
    """The catalyst dose, % by weight, for a wanted gel time at a temperature, within the product's limits.

    `pinned_pct` is the builder's own dose and is kept even outside the limits, where a caution says so.
    Where a limit bites, `instead` says what else would give the wanted time. Constants: common practice.

    >>> from layup.library import generic
    >>> verdict = choose_dose(generic().resins[2].catalyst, 20, 60)
    >>> verdict.limit, verdict.catalyst_pct, verdict.instead[0]
    ('least', 1.0, '11 °C in the room gels in 60 min at 1 %')
    """
    wanted = wanted_gel_min or DEFAULT_WANTED_GEL_MIN
    solved = catalyst_pct_for_gel(catalyst, temperature_c, wanted)
    limit = ""
    instead: tuple[str, ...] = ()
    if pinned_pct is not None:
        dose = pinned_pct
        if not catalyst.least_pct <= dose <= catalyst.most_pct:
            limit = "least" if dose < catalyst.least_pct else "most"
    else:
        dose = min(max(solved, catalyst.least_pct), catalyst.most_pct)
        if abs(dose - solved) > 1e-9:
            limit = "least" if solved < catalyst.least_pct else "most"
            instead = _instead(catalyst, dose, wanted, limit, scales)
    gel = catalysed_gel_min(catalyst, temperature_c, dose)
    chart = tuple(
        ChartRow(
            pct,
            tuple(catalysed_gel_min(catalyst, t, pct) for t in CHART_TEMPERATURES_C),
            catalysed_gel_min(catalyst, temperature_c, pct),
        )
        for pct in _chart_doses(catalyst)
    )
    sentence = f"{scales.written(dose, '.2g')} % catalyst gels in {gel:.0f} min at {scales.temperature(temperature_c)}"
    if pinned_pct is not None:
        reason = f"your dose; {wanted:.0f} min would take {scales.written(solved, '.2g')} %"
    elif limit:
        reason = f"{wanted:.0f} min would take {scales.written(solved, '.2g')} %, past the product's {limit}, {scales.written(dose)} %"
    else:
        limits = f"{scales.written(catalyst.least_pct)} to {scales.written(catalyst.most_pct)} %"
        reason = f"solved for {wanted:.0f} min, inside the product's {limits}"
    return DoseVerdict(catalyst, dose, gel, solved, limit, sentence, reason, instead, chart)


def _instead(catalyst: Catalyst, dose: float, wanted: float, limit: str, scales: Scales) -> tuple[str, ...]:
    at = scales.temperature(round(temperature_for_gel_c(catalyst, dose, wanted)))
    room = f"{at} in the room gels in {wanted:.0f} min at {scales.written(dose)} %"
    if limit == "least":
        return room, "smaller pots, or another pair of hands", "start in a cooler part of the day"
    return room, "a winter grade of this resin", "start in a warmer part of the day"


def _chart_doses(catalyst: Catalyst) -> tuple[float, ...]:
    span = catalyst.most_pct - catalyst.least_pct
    return tuple(round(catalyst.least_pct + span * step / 4, 3) for step in range(5))


def dose_ml(resin_g: float, catalyst_pct: float, catalyst: Catalyst) -> float:
    """Volume of catalyst for a weight of resin, ml: % · g / ρ. Exact.

    >>> from layup.library import generic
    >>> round(dose_ml(946.353 * 1.10, 1.25, generic().resins[2].catalyst), 2)
    11.62
    """
    return resin_g * catalyst_pct / 100 / catalyst.density_g_per_cm3
