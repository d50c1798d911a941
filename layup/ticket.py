"""The ticket: what the mixer reads. One pot, the amounts, and the number the scale must show at each pour."""

from dataclasses import dataclass
from typing import Literal

from layup.catalyst import actual_pct, dose_ml
from layup.materials import Catalyst

DoseTool = Literal["scale", "syringe"]


@dataclass(frozen=True)
class Pour:
    """One pour. `amount` in `unit`; `running` is the scale's reading, or the cup's mark, with nothing tared away,
    and `tared` the reading where the tool is set to nought before each pour. Both are None off the scale."""

    what: str
    amount: float
    unit: Literal["g", "ml"]
    running: float | None
    tared: float | None
    note: str = ""


@dataclass(frozen=True)
class Amounts:
    """The pours of a pot in order. `ratio_error_pct` is how far rounding to the tool moves the ratio or the dose."""

    pours: tuple[Pour, ...]
    total_g: float | None
    ratio_error_pct: float


def round_to(value: float, step: float) -> float:
    """A value rounded to the nearest mark of a tool.

    >>> round_to(282.4, 1), round_to(10.74, 0.2)
    (282.0, 10.8)
    """
    return float(round(round(value / step) * step, 6))


def two_part_by_weight(pot_g: float, b_per_a: float, *, cup_g: float, step_g: float, hardener_name: str) -> Amounts:
    """Resin first, then hardener to what the resin, as rounded, asks for. Exact.

    >>> amounts = two_part_by_weight(145, 0.45, cup_g=7, step_g=1, hardener_name="slow")
    >>> [(pour.amount, pour.running, pour.tared) for pour in amounts.pours]
    [(100.0, 107.0, 100.0), (45.0, 152.0, 45.0)]
    """
    a = round_to(pot_g / (1 + b_per_a), step_g)
    b = round_to(a * b_per_a, step_g)
    error = 100 * (b / a / b_per_a - 1)
    pours = (
        Pour("A, resin", a, "g", round(cup_g + a, 6), a),
        Pour(f"B, {hardener_name} hardener", b, "g", round(cup_g + a + b, 6), b),
    )
    return Amounts(pours, a + b, error)


def two_part_by_volume(pot_ml: float, b_per_a: float, *, step_ml: float, hardener_name: str) -> Amounts:
    """Marks for one straight cup: resin to its mark, hardener on top of it to the second.

    >>> [(pour.amount, pour.running) for pour in two_part_by_volume(540, 0.5, step_ml=10, hardener_name="slow").pours]
    [(360.0, 360.0), (180.0, 540.0)]
    """
    b = round_to(pot_ml * b_per_a / (1 + b_per_a), step_ml)
    a = round_to(b / b_per_a, step_ml)
    pours = (
        Pour("A, resin", a, "ml", a, a, "to this mark first"),
        Pour(f"B, {hardener_name} hardener", b, "ml", a + b, b, "on top, up to this mark; never the other way round"),
    )
    return Amounts(pours, None, 100 * (b / a / b_per_a - 1))


def catalysed(
    resin_g: float,
    catalyst_pct: float,
    catalyst: Catalyst,
    *,
    cup_g: float,
    step_g: float,
    tool: DoseTool,
    syringe_step_ml: float,
) -> Amounts:
    """Resin on the scale, then catalyst by syringe (or on the scale), with the percentage it really is.

    >>> from layup.library import generic
    >>> c = generic().resins[2].catalyst
    >>> pours = catalysed(1000, 1.2, c, cup_g=20, step_g=1, tool="syringe", syringe_step_ml=0.2).pours
    >>> pours[1].amount, pours[1].running
    (10.8, 1032.0)
    """
    resin = round_to(resin_g, step_g)
    if tool == "syringe":
        ml = round_to(dose_ml(resin, catalyst_pct, catalyst), syringe_step_ml)
        grams = ml * catalyst.density_g_per_cm3
        real = actual_pct(resin, ml, catalyst)
        dose = Pour("Catalyst", ml, "ml", round_to(cup_g + resin + grams, step_g), None, f"by syringe, {real:.2f} %")
    else:
        grams = round_to(resin * catalyst_pct / 100, step_g)
        real = 100 * grams / resin
        dose = Pour("Catalyst", grams, "g", round(cup_g + resin + grams, 6), grams, f"{real:.2f} %")
    pours = (Pour("Resin", resin, "g", round(cup_g + resin, 6), resin), dose)
    return Amounts(pours, resin + grams, 100 * (real / catalyst_pct - 1))
