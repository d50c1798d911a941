"""Sums of the bench without end: each made from a number, asked with its units, and worked as the program works it."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from random import Random

from layup.chemistry.catalyst import dose_ml
from layup.chemistry.ratio import weight_ratio_from_volume
from layup.coats.film import gsm_of_film, spreading_rate_m2_per_l
from layup.errors import known
from layup.joints.volumes import fillet_volume_ml
from layup.laminate.measures import ground_mm, patch_extra_mm
from layup.laminate.overlap import layers, overlap_for_layers
from layup.laminate.weights import resin_areal_weight_gsm
from layup.library import generic
from layup.marks import Marks
from layup.pots.ticket import two_part_by_weight
from layup.record import Record
from layup.scales import METRIC, Scales
from layup.shapes import Patch
from layup.training.numbered import after, numbered
from layup.units import convert
from layup.workings.bench import COMMON, Given, Working

_EXACT, _UNITS = "exact arithmetic", "published: the units’ own definitions"
# A hand rounds on the way: so much off is no mistake.
_NEAR_SHARE = 0.01
_GIVEN = "in the question"
_TENTHS = Marks(0.1, "g")

_Row = tuple[str, str, float, str, str]


class Sum(Record):
    """A sum to work out. Its `id` makes the same one again, in every shop and year.

    `answer` is in `unit`, and so is `near`: how far off still counts, said in `near_words`. `working` explains it.
    """

    id: str
    kind: str
    title: str
    question: str
    asks: str
    unit: str
    answer: float
    near: float
    near_words: str
    working: Working

    def is_right(self, given: float) -> bool:
        """Whether an answer is near enough.

        >>> tare = sum_of("tare-17")
        >>> tare.is_right(tare.answer + tare.near), tare.is_right(tare.answer + 2 * tare.near)
        (True, False)
        """
        return abs(given - self.answer) <= self.near + 1e-9


@dataclass(frozen=True)
class _Asked:
    """What a sum comes to: its words, its numbers, its answer by the core, how far off still counts."""

    question: str
    asks: str
    unit: str
    answer: float
    formula: str
    givens: Sequence[_Row]
    near: float | None = None


@dataclass(frozen=True)
class SumKind:
    """One kind of sum: its name, the rule behind it with its source, and how one is made from dice."""

    title: str
    rule: str
    source: str
    made: Callable[[Random, Scales], _Asked]


def sum_of(sum_id: str, scales: Scales = METRIC) -> Sum:
    """The sum that an id names, such as `tare-17`, its numbers in the marks of the shop's country.

    Raises Missing where there is no such kind, or no such number.

    >>> tare = sum_of("tare-17")
    >>> tare.asks, tare.unit, tare.near_words
    ('What does the scale show with both parts in?', 'g', 'to 1 g')
    """
    kind_id, _ = numbered(sum_id, SUMS)
    kind = SUMS[kind_id]
    asked = kind.made(Random(sum_id), scales)
    # One figure, as it is said.
    near = float(f"{_NEAR_SHARE * asked.answer if asked.near is None else asked.near:.1g}")
    return Sum(
        id=sum_id,
        kind=kind_id,
        title=kind.title,
        question=asked.question,
        asks=asked.asks,
        unit=asked.unit,
        answer=asked.answer,
        near=near,
        near_words=f"to {scales.figures(near, 1)} {asked.unit}",
        working=Working(
            about=sum_id,
            title=kind.title,
            formula=asked.formula,
            givens=tuple(
                Given(symbol=symbol, name=name, value=value, unit=unit, source=source)
                for symbol, name, value, unit, source in asked.givens
            ),
            result=asked.answer,
            unit=asked.unit,
            rule=f"{kind.rule} ({kind.source}).",
        ),
    )


def sums_after(tried: Mapping[str, int], of_each: int, scales: Scales = METRIC) -> tuple[Sum, ...]:
    """So many sums of each kind after those that were tried, by the number of the last; the kinds by turns. They are enough to
    go on with where there is no network.

    >>> [each.id for each in sums_after({"tare": 4}, 2)][:2], len(sums_after({}, 2)) == 2 * len(SUMS)
    (['tare-5', 'follows-1'], True)
    """
    return tuple(sum_of(after(kind, tried.get(kind, 0), place), scales) for place in range(of_each) for kind in SUMS)


def _ratio(dice: Random) -> int:
    return dice.choice((20, 25, 28, 30, 33, 40, 43, 45, 50))


def _tare(dice: Random, scales: Scales) -> _Asked:
    cup, ratio, resin = dice.randrange(8, 36), _ratio(dice), dice.randrange(60, 640, 20)
    pot_g = resin * (1 + ratio / 100)
    poured = two_part_by_weight(pot_g, ratio / 100, cup_g=cup, scale=_TENTHS, hardener_name="")
    return _Asked(
        f"A cup of {cup} g stands on the scale, and the scale is not set to nought. {resin} g of resin go in, then "
        f"hardener: {ratio} parts to 100 of resin by weight.",
        "What does the scale show with both parts in?",
        "g",
        known(poured.pours[-1].running),
        "c + a + a × r ÷ 100",
        (
            ("c", "the empty cup", cup, "g", _GIVEN),
            ("a", "resin", resin, "g", _GIVEN),
            ("r", "hardener to 100 of resin", ratio, "parts", _GIVEN),
        ),
        near=1.0,
    )


def _follows(dice: Random, scales: Scales) -> _Asked:
    ratio, meant = _ratio(dice), dice.randrange(100, 600, 10)
    poured = meant + dice.randrange(3, 25)
    amounts = two_part_by_weight(poured * (1 + ratio / 100), ratio / 100, cup_g=0, scale=_TENTHS, hardener_name="")
    return _Asked(
        f"{meant} g of resin were planned, and {poured} g ran into the cup. It takes {ratio} parts of hardener to 100 of "
        "resin by weight.",
        "How much hardener goes in now?",
        "g",
        amounts.pours[-1].amount,
        "a × r ÷ 100",
        (
            ("a", "resin really in the cup", poured, "g", _GIVEN),
            ("r", "hardener to 100 of resin", ratio, "parts", _GIVEN),
        ),
        near=1.0,
    )


def _rescue(dice: Random, scales: Scales) -> _Asked:
    ratio, resin = dice.choice((25, 40, 45, 50)), dice.randrange(100, 500, 20)
    hardener = round(resin * ratio / 100) + dice.randrange(4, 16)
    return _Asked(
        f"A pot of {resin} g of resin should get {ratio} parts of hardener to 100 by weight. {hardener} g of hardener ran "
        "in.",
        "How much more resin sets it right?",
        "g",
        hardener / (ratio / 100) - resin,
        "b × 100 ÷ r − a",
        (
            ("b", "hardener in the cup", hardener, "g", _GIVEN),
            ("r", "hardener to 100 of resin", ratio, "parts", _GIVEN),
            ("a", "resin in the cup", resin, "g", _GIVEN),
        ),
        near=1.0,
    )


def _by_weight(dice: Random, scales: Scales) -> _Asked:
    parts = dice.choice((1, 2, 3, 4, 5))
    density_a, density_b = dice.choice((1.10, 1.13, 1.15, 1.18)), dice.choice((0.94, 0.97, 1.00, 1.04))
    written = [scales.written(density, ".2f") for density in (density_a, density_b)]
    return _Asked(
        f"A resin is mixed {parts} to 1 by volume. A millilitre of the resin weighs {written[0]} g, one of the hardener "
        f"{written[1]} g.",
        "How many parts of hardener go to 100 of resin by weight?",
        "parts",
        100 * weight_ratio_from_volume(1 / parts, density_a, density_b),
        "100 × q ÷ p ÷ n",
        (
            ("n", "resin to one of hardener by volume", parts, "parts", _GIVEN),
            ("p", "resin", density_a, "g/ml", _GIVEN),
            ("q", "hardener", density_b, "g/ml", _GIVEN),
        ),
        near=0.5,
    )


def _fluid_ounces(dice: Random, scales: Scales) -> _Asked:
    ounces, of = dice.randrange(2, 33), dice.choice(("US", "Imperial"))
    return _Asked(
        f"A recipe from elsewhere says {ounces} {of} fluid ounces of resin.",
        "How many millilitres are that?",
        "ml",
        convert(ounces, f"{of} fl oz", "ml"),
        "n × f",
        (
            ("n", f"{of} fluid ounces", ounces, "", _GIVEN),
            ("f", f"one {of} fluid ounce", convert(1, f"{of} fl oz", "ml"), "ml", _UNITS),
        ),
        # Thirty to the ounce, as many reckon, is near enough of a US ounce, and not of an Imperial one.
        near=0.02 * convert(ounces, f"{of} fl oz", "ml"),
    )


def _cloth_ounces(dice: Random, scales: Scales) -> _Asked:
    mat = dice.random() < 0.5
    ounces = (
        dice.choice((0.75, 1.0, 1.5, 2.0, 3.0)) if mat else dice.choice((2.0, 4.0, 6.0, 8.0, 10.0, 12.0, 17.0, 24.0))
    )
    unit = "oz/ft²" if mat else "oz/yd²"
    return _Asked(
        f"A roll of {'chopped mat' if mat else 'woven cloth'} is marked {scales.written(ounces)} oz. It is counted over a "
        f"square {'foot' if mat else 'yard'}.",
        "What does a square metre of it weigh?",
        "g/m²",
        convert(ounces, unit, "g/m²"),
        "n × f",
        (
            ("n", "marked", ounces, unit, _GIVEN),
            ("f", f"one {unit}", convert(1, unit, "g/m²"), "g/m²", _UNITS),
        ),
        near=0.02 * convert(ounces, unit, "g/m²"),
    )


def _laps(dice: Random, scales: Scales) -> _Asked:
    width, count = dice.choice((60, 120, 180, 240, 300)), dice.choice((2, 3, 4, 5))
    covers = width - width // count
    return _Asked(
        f"Strips {width} mm wide are laid side by side. Each covers {covers} mm of the one before.",
        "How many layers lie everywhere between the ends?",
        "layers",
        layers(covers / width).mean,
        "w ÷ (w − v)",
        (("w", "width of a strip", width, "mm", _GIVEN), ("v", "covered of the one before", covers, "mm", _GIVEN)),
        near=0.05,
    )


def _overlap(dice: Random, scales: Scales) -> _Asked:
    width, count = dice.choice((60, 120, 180, 240, 300)), dice.choice((2, 3, 4, 5))
    return _Asked(
        f"Strips {width} mm wide are to lie {count} layers deep everywhere, by their overlap alone.",
        "How much of the one before does each strip cover?",
        "mm",
        width * overlap_for_layers(count),
        "w × (1 − 1 ÷ n)",
        (("w", "width of a strip", width, "mm", _GIVEN), ("n", "layers", count, "", _GIVEN)),
    )


def _catalyst(dice: Random, scales: Scales) -> _Asked:
    catalyst = known(next(resin.catalyst for resin in generic().resins if resin.catalyst))
    resin, dose = dice.randrange(200, 3000, 50), dice.choice((1.0, 1.25, 1.5, 1.75, 2.0, 2.5))
    dense = catalyst.density_g_per_cm3
    return _Asked(
        f"{resin} g of polyester resin take {scales.written(dose)} % of catalyst by weight. A millilitre of the catalyst "
        f"weighs {scales.written(dense)} g.",
        "How many millilitres go into the syringe?",
        "ml",
        dose_ml(resin, dose, catalyst),
        "a × p ÷ 100 ÷ d",
        (
            ("a", "resin", resin, "g", _GIVEN),
            ("p", "catalyst", dose, "%", _GIVEN),
            ("d", "catalyst", dense, "g/ml", _GIVEN),
        ),
        near=max(0.1, 0.02 * dose_ml(resin, dose, catalyst)),
    )


def _fillet(dice: Random, scales: Scales) -> _Asked:
    radius, length = dice.randrange(8, 42, 2), dice.randrange(5, 80) / 10
    return _Asked(
        f"A fillet with a radius of {radius} mm runs for {scales.written(length)} m along a right angle. Nothing is lost.",
        "How much paste is in it?",
        "ml",
        fillet_volume_ml(length, radius, waste_share=0),
        "r × r × (1 − π ÷ 4) × l",
        (("r", "radius", radius, "mm", _GIVEN), ("l", "length", length, "m", _GIVEN)),
        # A fifth of the radius squared times the length, as many reckon, is not near enough.
        near=0.03 * fillet_volume_ml(length, radius, waste_share=0),
    )


def _patch(dice: Random, scales: Scales) -> _Asked:
    hole, step, count = dice.randrange(20, 160, 5), dice.choice((10, 12, 15, 20, 25)), dice.randrange(2, 9)
    patch = Patch(width_m=hole / 1000, length_m=hole / 1000, step_mm=step)
    return _Asked(
        f"A round hole is {hole} mm across. {count} plies close it. The smallest runs {step} mm past the hole all round, "
        f"and each one larger {step} mm further.",
        "How wide is the largest ply?",
        "mm",
        hole + 2 * patch_extra_mm(patch, 0, count),
        "h + 2 × n × s",
        (
            ("h", "hole", hole, "mm", _GIVEN),
            ("n", "plies", count, "", _GIVEN),
            ("s", "step", step, "mm", _GIVEN),
        ),
        near=1.0,
    )


def _ground(dice: Random, scales: Scales) -> _Asked:
    hole, deep, taper = dice.randrange(20, 160, 5), dice.randrange(2, 10), dice.choice((8, 10, 12, 20))
    patch = Patch(width_m=hole / 1000, length_m=hole / 1000, depth_mm=deep, taper=taper)
    return _Asked(
        f"A round hole {hole} mm across goes through a laminate {deep} mm thick. It is ground back {taper} to 1.",
        "How wide is the ground place, from edge to edge?",
        "mm",
        hole + 2 * ground_mm(patch),
        "h + 2 × t × d",
        (
            ("h", "hole", hole, "mm", _GIVEN),
            ("t", "taper to one", taper, "", _GIVEN),
            ("d", "thickness", deep, "mm", _GIVEN),
        ),
        near=1.0,
    )


def _wet_out(dice: Random, scales: Scales) -> _Asked:
    weight, glass_pct = dice.choice((200, 300, 450, 600, 800)), dice.choice((30, 35, 40, 45, 50, 55))
    area, plies = dice.randrange(4, 60) / 10, dice.randrange(1, 5)
    resin_g = area * plies * resin_areal_weight_gsm(weight, glass_pct / 100)
    of = "1 ply" if plies == 1 else f"{plies} plies"
    return _Asked(
        f"{scales.written(area)} m² get {of} of {weight} g/m². Of the finished laminate, {glass_pct} % of the weight is to "
        "be glass.",
        "How much resin does it hold?",
        "g",
        resin_g,
        "m × n × w × (100 − g) ÷ g",
        (
            ("m", "area", area, "m²", _GIVEN),
            ("n", "plies", plies, "", _GIVEN),
            ("w", "one ply", weight, "g/m²", _GIVEN),
            ("g", "glass in the laminate", glass_pct, "%", _GIVEN),
        ),
        near=0.02 * resin_g,
    )


def _coverage(dice: Random, scales: Scales) -> _Asked:
    area, solids, dry = dice.randrange(20, 300, 5) / 10, dice.choice((45, 50, 55, 60, 100)), dice.randrange(30, 160, 10)
    return _Asked(
        f"A paint of {solids} % solids by volume is to dry {dry} µm thick over {scales.written(area)} m². Nothing is lost.",
        "How much paint does one coat take?",
        "l",
        area / spreading_rate_m2_per_l(solids, dry),
        "m × d ÷ (10 × s)",
        (
            ("m", "area", area, "m²", _GIVEN),
            ("d", "dry film", dry, "µm", _GIVEN),
            ("s", "solids by volume", solids, "%", _GIVEN),
        ),
        near=max(0.01, 0.02 * area / spreading_rate_m2_per_l(solids, dry)),
    )


def _flood(dice: Random, scales: Scales) -> _Asked:
    length, width, deep = dice.randrange(40, 240, 5), dice.randrange(20, 100, 5), dice.choice((1, 2, 3, 5, 10))
    dense = dice.choice((1.05, 1.08, 1.10, 1.12))
    grams = length * width / 10_000 * gsm_of_film(1000 * deep, dense)
    return _Asked(
        f"A table {length} cm by {width} cm is flooded {deep} mm deep. A millilitre of the mix weighs "
        f"{scales.written(dense, '.2f')} g.",
        "What does the mix weigh?",
        "g",
        grams,
        "l × b ÷ 10 × d × p",
        (
            ("l", "length", length, "cm", _GIVEN),
            ("b", "width", width, "cm", _GIVEN),
            ("d", "depth", deep, "mm", _GIVEN),
            ("p", "the mix", dense, "g/ml", _GIVEN),
        ),
    )


def _celsius(dice: Random, scales: Scales) -> _Asked:
    degrees = dice.randrange(41, 105)
    return _Asked(
        f"A data sheet states its pot life at {degrees} °F.",
        "What is that in °C?",
        "°C",
        convert(degrees, "°F", "°C"),
        "(f − 32) ÷ 1.8",
        (("f", "stated at", degrees, "°F", _GIVEN),),
        near=0.5,
    )


_KEPT = "What is in the cup counts, and never what was planned"
SUMS: Mapping[str, SumKind] = {
    "tare": SumKind("A scale that is not set to nought", "The cup stays in the reading to the end", _EXACT, _tare),
    "follows": SumKind("Hardener follows the resin", _KEPT, _EXACT, _follows),
    "rescue": SumKind("Too much hardener", f"{_KEPT}: resin is added until the ratio is right again", _EXACT, _rescue),
    "by-weight": SumKind(
        "From a ratio by volume to one by weight", "The hardener is mostly the lighter of the two", _EXACT, _by_weight
    ),
    "fluid-ounces": SumKind(
        "Fluid ounces", "A fluid ounce is a volume, and there are two of them", _UNITS, _fluid_ounces
    ),
    "cloth-ounces": SumKind(
        "Ounces of fabric", "Mat is counted over a square foot, cloth over a square yard", COMMON, _cloth_ounces
    ),
    "laps": SumKind("From an overlap to layers", "Half covered is two layers, two thirds three", _EXACT, _laps),
    "overlap": SumKind("From layers to an overlap", "A third covered is not three layers", _EXACT, _overlap),
    "catalyst": SumKind(
        "Catalyst in a syringe", "The dose is a weight, and the syringe reads a volume", _EXACT, _catalyst
    ),
    "fillet": SumKind(
        "Paste in a fillet", "What lies between the corner and a quarter of a circle", "exact geometry", _fillet
    ),
    "patch": SumKind("The largest ply of a patch", "Each ply steps past the last on both sides", _EXACT, _patch),
    "ground": SumKind("How wide to grind", "The taper runs out on both sides of the hole", _EXACT, _ground),
    "wet-out": SumKind(
        "Resin for a laminate", "What is not glass is resin: the shares are of the weight", _EXACT, _wet_out
    ),
    "coverage": SumKind(
        "Paint for a film", "10 × solids ÷ dry film is what a litre covers", "published: ISO 12944", _coverage
    ),
    "flood": SumKind("A flood coat", "A millimetre over a square metre is a litre", _EXACT, _flood),
    "celsius": SumKind("From °F to °C", "32 off, and what is left by 1.8", _UNITS, _celsius),
}
