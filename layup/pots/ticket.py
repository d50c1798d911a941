"""The ticket: what the mixer reads. One pot, the amounts, and the number the scale must show at each pour."""

from dataclasses import dataclass, replace
from typing import Literal

from layup.chemistry.catalyst import dose_ml
from layup.materials import Catalyst

DoseTool = Literal["scale", "syringe", "drops"]
VolumeTool = Literal["marked cup", "numbered cup", "pumps"]
RESIDUE_ML = 2.0  # stays on the wall of a measuring cup (memory)
PourUnit = Literal["g", "ml", "mark", "strokes", "drops"]


@dataclass(frozen=True)
class Pour:
    """One pour. `amount` in `unit`; `running` is the scale's reading, or the cup's mark, with nothing tared away,
    and `tared` the reading where the tool is set to nought before each pour. Both are None off the scale.

    In a marked cup it is read as `amount` added, up to the mark `running`: one without the other is poured wrong.
    """

    what: str
    amount: float
    unit: PourUnit
    running: float | None
    tared: float | None
    note: str = ""


@dataclass(frozen=True)
class Amounts:
    """The pours of a pot in order. `ratio_error_pct` is how far rounding to the tool moves the ratio or the dose.

    `b_first` where part B goes in before part A.
    """

    pours: tuple[Pour, ...]
    total_g: float | None
    ratio_error_pct: float
    b_first: bool = False


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
        Pour("A, resin", a, "ml", a, a, "first"),
        Pour(f"B, {hardener_name} hardener", b, "ml", a + b, b, "on top of it; never the other way round"),
    )
    return Amounts(pours, None, 100 * (b / a / b_per_a - 1))


def thinner_first(amounts: Amounts) -> Amounts:
    """The same two pours the other way round: the hardener, as a rule the thinner part, goes in first (common practice).

    The number for each moves with its place, and so does what is said of the place.

    >>> amounts = two_part_by_weight(145, 0.45, cup_g=7, step_g=1, hardener_name="slow")
    >>> [(pour.what, pour.amount, pour.running) for pour in thinner_first(amounts).pours]
    [('B, slow hardener', 45.0, 52.0), ('A, resin', 100.0, 152.0)]
    """
    a, b = amounts.pours
    running = None if a.running is None else round(a.running - a.amount + b.amount, 6)
    # Off the scale a mark is read from the cup's floor for the first part, and the second is what comes on top.
    pours = (replace(b, running=running, note=a.note), replace(a, running=b.running, note=b.note))
    return replace(amounts, pours=pours, b_first=True)


def with_residue(amounts: Amounts, residue: float, step: float) -> Amounts:
    """Pours measured in cups of their own, over by what stays on each cup's wall, in their unit (memory).

    Equal films left of unequal parts move the ratio: of 100 and 50 ml, 2 ml each leave 98 and 48.

    >>> amounts = two_part_by_weight(145, 0.45, cup_g=0, step_g=1, hardener_name="slow")
    >>> [pour.amount for pour in with_residue(amounts, 2, 1).pours]
    [102.0, 47.0]
    """
    pours = []
    for pour in amounts.pours:
        more = round_to(pour.amount + residue, step)
        note = f"in a cup of its own: {round(more - pour.amount, 1):g} {pour.unit} of it stays on the wall"
        pours.append(replace(pour, amount=more, running=None, tared=more, note=note))
    return replace(amounts, pours=tuple(pours))


def two_part_by_number(pot_ml: float, b_per_a: float, *, number_ml: float, hardener_name: str) -> Amounts:
    """A cup printed with a column for each part: resin to a number of the first, hardener on top to the same of the second.

    `number_ml` is what one number stands for, of A. Half numbers are read.

    >>> [(pour.amount, pour.note) for pour in two_part_by_number(270, 0.5, number_ml=30, hardener_name="slow").pours][0]
    (6.0, 'to 6 in the first column')
    """
    number = max(0.5, round(pot_ml / (1 + b_per_a) / number_ml * 2) / 2)
    said = f"{number:g}"
    pours = (
        Pour("A, resin", number, "mark", number, None, f"to {said} in the first column"),
        Pour(
            f"B, {hardener_name} hardener",
            number,
            "mark",
            number,
            None,
            f"on top, to {said} in the second column; never the other way round",
        ),
    )
    return Amounts(pours, None, 0.0)


def two_part_by_pumps(pot_ml: float, b_per_a: float, *, a_ml: float, b_ml: float, hardener_name: str) -> Amounts:
    """Strokes of two pumps, one of each for one of the other; the error is what the pumps give against the ratio.

    >>> [pour.amount for pour in two_part_by_pumps(300, 0.5, a_ml=20, b_ml=10, hardener_name="slow").pours]
    [10.0, 10.0]
    """
    strokes = float(max(1, round(pot_ml / (a_ml + b_ml))))
    note = "full strokes, slowly, and let the spout run out"
    pours = (
        Pour("A, resin", strokes, "strokes", None, None, note),
        Pour(f"B, {hardener_name} hardener", strokes, "strokes", None, None, note),
    )
    return Amounts(pours, None, 100 * (b_ml / a_ml / b_per_a - 1))


@dataclass(frozen=True)
class Dose:
    """A dose as one tool measures it: what to read off it, what it really is, how far it may be out by half a mark, %."""

    tool: DoseTool
    amount: float
    unit: PourUnit
    real_pct: float
    error_pct: float


def dose_by(tool: DoseTool, resin_g: float, catalyst_pct: float, catalyst: Catalyst, *, step: float) -> Dose:
    """A dose by a tool whose mark is `step` g or ml, or one drop in ml. Exact.

    >>> from layup.library import generic
    >>> by = dose_by("drops", 100, 1.0, generic().resins[2].catalyst, step=1 / 30)
    >>> by.amount, round(by.real_pct, 2), round(by.error_pct, 1)
    (27.0, 1.01, 1.9)
    """
    wanted = resin_g * catalyst_pct / 100 if tool == "scale" else dose_ml(resin_g, catalyst_pct, catalyst)
    marks = max(1, round(wanted / step))
    grams = marks * step * (1.0 if tool == "scale" else catalyst.density_g_per_cm3)
    amount = float(marks) if tool == "drops" else round(marks * step, 6)
    unit: PourUnit = "g" if tool == "scale" else "drops" if tool == "drops" else "ml"
    return Dose(tool, amount, unit, 100 * grams / resin_g, 100 * step / 2 / (marks * step))


def catalysed(
    resin_g: float,
    catalyst_pct: float,
    catalyst: Catalyst,
    *,
    cup_g: float,
    step_g: float,
    tool: DoseTool,
    dose_step: float,
) -> Amounts:
    """Resin on the scale, then catalyst by syringe, drops or scale, with the percentage it really is.

    >>> from layup.library import generic
    >>> c = generic().resins[2].catalyst
    >>> pours = catalysed(1000, 1.2, c, cup_g=20, step_g=1, tool="syringe", dose_step=0.2).pours
    >>> pours[1].amount, pours[1].running
    (10.8, 1032.0)
    """
    resin = round_to(resin_g, step_g)
    dose = dose_by(tool, resin, catalyst_pct, catalyst, step=dose_step)
    grams = resin * dose.real_pct / 100
    if tool == "scale":
        shows, tared, by = round(cup_g + resin + grams, 6), dose.amount, ""
    else:
        shows, tared, by = round_to(cup_g + resin + grams, step_g), None, _BY[tool]
    pour = Pour("Catalyst", dose.amount, dose.unit, shows, tared, f"{by}{dose.real_pct:.2f} %")
    pours = (Pour("Resin", resin, "g", round(cup_g + resin, 6), resin), pour)
    return Amounts(pours, resin + grams, 100 * (dose.real_pct / catalyst_pct - 1))


_BY: dict[DoseTool, str] = {"syringe": "by syringe, ", "drops": "counted, "}
