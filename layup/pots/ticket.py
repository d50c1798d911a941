"""The ticket: what the mixer reads. One pot, the amounts, and the number the scale must show at each pour."""

from dataclasses import dataclass, replace
from math import ceil

from layup.chemistry.catalyst import dose_ml
from layup.marks import DoseTool, Marks, PourPart, PourTool, round_to
from layup.materials import Catalyst


@dataclass(frozen=True)
class Pour:
    """One pour. `amount` in `unit`, as `tool` reads it; `running` is the scale's reading, or the cup's mark, with nothing
    tared away, and `tared` the reading where the tool is set to nought before each pour. Both are None off the scale.

    In a marked cup it is read as `amount` added, up to the mark `running`: one without the other is poured wrong. One
    unit of `amount` is `unit_is` g, or ml.
    """

    what: str
    amount: float
    unit: str
    running: float | None
    tared: float | None
    note: str = ""
    tool: PourTool = "scale"
    unit_is: float = 1.0
    part: PourPart = "A"


@dataclass(frozen=True)
class Amounts:
    """The pours of a pot in order. `ratio_error_pct` is how far rounding to the tool moves the ratio or the dose.

    `b_first` where part B goes in before part A.
    """

    pours: tuple[Pour, ...]
    total_g: float | None
    ratio_error_pct: float
    b_first: bool = False


def one_part(pot_g: float, *, cup_g: float, scale: Marks, name: str) -> Amounts:
    """One pour, by the scale: there is nothing to be mixed into it.

    >>> from layup.marks import GRAMS
    >>> [(pour.what, pour.amount, pour.running) for pour in one_part(145, cup_g=7, scale=GRAMS, name="Primer").pours]
    [('Primer', 145.0, 152.0)]
    """
    grams = scale.nearest(pot_g)
    return Amounts(
        (_on_the_scale(name, grams, scale.nearest(cup_g) + grams, scale, "all"),), grams * scale.unit_is, 0.0
    )


def two_part_by_weight(pot_g: float, b_per_a: float, *, cup_g: float, scale: Marks, hardener_name: str) -> Amounts:
    """Resin first, then hardener to what the resin, as rounded, asks for, all as the scale reads it. Exact.

    >>> from layup.marks import GRAMS
    >>> amounts = two_part_by_weight(145, 0.45, cup_g=7, scale=GRAMS, hardener_name="slow")
    >>> [(pour.amount, pour.running, pour.tared) for pour in amounts.pours]
    [(100.0, 107.0, 100.0), (45.0, 152.0, 45.0)]
    """
    a = scale.nearest(pot_g / (1 + b_per_a))
    b = round_to(a * b_per_a, scale.step)
    cup = scale.nearest(cup_g)
    pours = (
        _on_the_scale("A, resin", a, cup + a, scale, "A"),
        _on_the_scale(f"B, {hardener_name} hardener", b, cup + a + b, scale, "B"),
    )
    return Amounts(pours, (a + b) * scale.unit_is, 100 * (b / a / b_per_a - 1))


def _on_the_scale(what: str, amount: float, running: float, scale: Marks, part: PourPart) -> Pour:
    return Pour(what, amount, scale.unit, round(running, 6), amount, unit_is=scale.unit_is, part=part)


def two_part_by_volume(pot_ml: float, b_per_a: float, *, cup: Marks, hardener_name: str) -> Amounts:
    """Marks for one straight cup, in its own unit: resin to its mark, hardener on top of it to the second.

    >>> ml = two_part_by_volume(540, 0.5, cup=Marks(10, "ml"), hardener_name="slow")
    >>> [(pour.amount, pour.running) for pour in ml.pours]
    [(360.0, 360.0), (180.0, 540.0)]
    >>> ounces = two_part_by_volume(532, 0.5, cup=Marks(0.5, "fl oz", 29.5735295625), hardener_name="slow")
    >>> [(pour.amount, pour.unit) for pour in ounces.pours]
    [(12.0, 'fl oz'), (6.0, 'fl oz')]
    """
    b = cup.nearest(pot_ml * b_per_a / (1 + b_per_a))
    a = round_to(b / b_per_a, cup.step)
    pours = (
        Pour("A, resin", a, cup.unit, a, a, "first", "marked cup", cup.unit_is),
        Pour(
            f"B, {hardener_name} hardener",
            b,
            cup.unit,
            round(a + b, 6),
            b,
            "on top of it; never the other way round",
            "marked cup",
            cup.unit_is,
            "B",
        ),
    )
    return Amounts(pours, None, 100 * (b / a / b_per_a - 1))


def thinner_first(amounts: Amounts) -> Amounts:
    """The same two pours the other way round: the hardener, as a rule the thinner part, goes in first (common practice).

    The number for each moves with its place, and so does what is said of the place.

    >>> from layup.marks import GRAMS
    >>> amounts = two_part_by_weight(145, 0.45, cup_g=7, scale=GRAMS, hardener_name="slow")
    >>> [(pour.what, pour.amount, pour.running) for pour in thinner_first(amounts).pours]
    [('B, slow hardener', 45.0, 52.0), ('A, resin', 100.0, 152.0)]
    """
    a, b = amounts.pours
    running = None if a.running is None else round(a.running - a.amount + b.amount, 6)
    # Off the scale a mark is read from the cup's floor for the first part, and the second is what comes on top.
    pours = (replace(b, running=running, note=a.note), replace(a, running=b.running, note=b.note))
    return replace(amounts, pours=pours, b_first=True)


def with_residue(amounts: Amounts, residue: float, marks: Marks) -> Amounts:
    """Pours measured in cups of their own, over by what stays on each cup's wall, g or ml (memory).

    Equal films left of unequal parts move the ratio: of 100 and 50 ml, 2 ml each leave 98 and 48.

    >>> from layup.marks import GRAMS
    >>> amounts = two_part_by_weight(145, 0.45, cup_g=0, scale=GRAMS, hardener_name="slow")
    >>> [pour.amount for pour in with_residue(amounts, 2, GRAMS).pours]
    [102.0, 47.0]
    """
    pours = []
    for pour in amounts.pours:
        more = round_to(pour.amount + residue / marks.unit_is, marks.step)
        note = f"in a cup of its own: {marks.reads(round(more - pour.amount, 6))} of it stays on the wall"
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
        Pour("A, resin", number, "mark", number, None, f"to {said} in the first column", "numbered cup"),
        Pour(
            f"B, {hardener_name} hardener",
            number,
            "mark",
            number,
            None,
            f"on top, to {said} in the second column; never the other way round",
            "numbered cup",
            part="B",
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
        Pour("A, resin", strokes, "strokes", None, None, note, "pumps"),
        Pour(f"B, {hardener_name} hardener", strokes, "strokes", None, None, note, "pumps", part="B"),
    )
    return Amounts(pours, None, 100 * (b_ml / a_ml / b_per_a - 1))


@dataclass(frozen=True)
class Dose:
    """A dose as one tool measures it: what to read off it, what it really is, how far it may be out by half a mark, %."""

    tool: DoseTool
    amount: float
    unit: str
    real_pct: float
    error_pct: float


def dose_by(tool: DoseTool, resin_g: float, catalyst_pct: float, catalyst: Catalyst, *, marks: Marks) -> Dose:
    """A dose by a tool, as it is read; a dropper's marks are its drops. Exact.

    >>> from layup.library import generic
    >>> by = dose_by("drops", 100, 1.0, generic().resins[2].catalyst, marks=Marks(1, "drops", 1 / 30))
    >>> by.amount, round(by.real_pct, 2), round(by.error_pct, 1)
    (27.0, 1.01, 1.9)
    """
    wanted = resin_g * catalyst_pct / 100 if tool == "scale" else dose_ml(resin_g, catalyst_pct, catalyst)
    amount = max(marks.step, marks.nearest(wanted))
    grams = amount * marks.unit_is * (1.0 if tool == "scale" else catalyst.density_g_per_cm3)
    return Dose(tool, amount, marks.unit, 100 * grams / resin_g, 100 * marks.step / 2 / amount)


def catalysed(
    resin_g: float,
    catalyst_pct: float,
    catalyst: Catalyst,
    *,
    cup_g: float,
    scale: Marks,
    tool: DoseTool,
    dose_marks: Marks,
) -> Amounts:
    """Resin on the scale, then catalyst by syringe, drops or scale, with the percentage it really is.

    >>> from layup.marks import GRAMS
    >>> from layup.library import generic
    >>> c, syringe = generic().resins[2].catalyst, Marks(0.2, "ml")
    >>> pours = catalysed(1000, 1.2, c, cup_g=20, scale=GRAMS, tool="syringe", dose_marks=syringe).pours
    >>> pours[1].amount, pours[1].running
    (10.8, 1032.0)
    """
    resin, cup = scale.nearest(resin_g), scale.nearest(cup_g)
    resin_g = resin * scale.unit_is
    dose = dose_by(tool, resin_g, catalyst_pct, catalyst, marks=dose_marks)
    grams = resin_g * dose.real_pct / 100
    shows, tared, by = round_to(cup + resin + grams / scale.unit_is, scale.step), None, _BY.get(tool, "")
    if tool == "scale":
        shows, tared = round(cup + resin + dose.amount, 6), dose.amount
    note = f"{_fills(dose.amount, dose_marks)}{by}{scale.customs.number(dose.real_pct, '.2f')} %"
    pour = Pour("Catalyst", dose.amount, dose.unit, shows, tared, note, tool, dose_marks.unit_is, "catalyst")
    pours = (_on_the_scale("Resin", resin, cup + resin, scale, "resin"), pour)
    return Amounts(pours, resin_g + grams, 100 * (dose.real_pct / catalyst_pct - 1))


def _fills(amount: float, marks: Marks) -> str:
    """How often a tool is filled for so much, where once does not hold it.

    >>> _fills(24, Marks(0.2, "ml", most=10)), _fills(9, Marks(0.2, "ml", most=10))
    ('in 3 fills of 8 ml, ', '')
    """
    if marks.most is None or amount <= marks.most:
        return ""
    fills = ceil(amount / marks.most - 1e-9)
    each = amount / fills
    same = abs(marks.nearest(each * marks.unit_is) - each) < 1e-9
    return f"in {fills} fills of {marks.reads(round(each, 6))}, " if same else f"in {fills} fills, "


_BY: dict[DoseTool, str] = {"syringe": "by syringe, ", "drops": "counted, "}
