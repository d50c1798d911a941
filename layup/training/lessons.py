"""A first hour with a kit and a sheet of glass: eight short lessons, each of which ends with a figure of the shop's own."""

import tomllib
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal

from pydantic import Field

from layup.chemistry.off_ratio import grade_of
from layup.chemistry.ratio import weight_ratio_from_volume
from layup.errors import Missing, OutOfRange
from layup.laminate.weights import thickness_mm
from layup.record import Record
from layup.scales import METRIC, Scales
from layup.units import Dimension
from layup.workings.bench import TYPED, Given, Working

# The glass and the resin that the first ply is reckoned with, g/cm³ (published: ISO 12215-5).
_GLASS, _RESIN = 2.56, 1.20
_STANDARD_PCT = 5.0
# common practice: cloth by hand is half glass; what is far off it was misread
_SHARES_PCT = (15.0, 80.0)

FigureId = Literal["ratio", "cup", "off_ratio", "gel", "fibre_share", "pace", "tack", "thickness"]


class Lesson(Record):
    """A lesson: what is read, what is done with the kit, the figure it ends with, and what is practised: so many of a kind in a
    row.
    """

    id: str
    title: str
    minutes: int
    reads: tuple[str, ...] = Field(min_length=1)
    does: tuple[str, ...] = Field(min_length=1)
    figure: FigureId
    practise: dict[str, int] = Field(min_length=1)
    source: str


class Asked(Record):
    """A number that a lesson asks for: its label, its dimension, `count` for a bare number, and its limits in the core's unit."""

    name: str
    label: str
    dimension: Dimension | Literal["count"]
    least: float
    most: float


class Figure(Record):
    """A figure of the shop's own: its working, and what it says in words."""

    working: Working
    words: str


@cache
def lessons() -> tuple[Lesson, ...]:
    """All eight, in the order of the work.

    >>> len(lessons()), sum(lesson.minutes for lesson in lessons())
    (8, 60)
    """
    read = tomllib.loads(files("layup.library").joinpath("lessons.toml").read_text(encoding="utf-8"))
    return tuple(Lesson.model_validate(lesson) for lesson in read["lessons"])


def lesson(lesson_id: str) -> Lesson:
    """One of them. Raises Missing where there is no such lesson."""
    found = next((each for each in lessons() if each.id == lesson_id), None)
    if found is None:
        raise Missing("there is no such lesson", "lesson_id")
    return found


def figure_of(lesson_id: str, typed: Mapping[str, float], scales: Scales = METRIC) -> Figure:
    """What was read at the bench comes to. Raises Missing for a number that was not typed, OutOfRange for one that cannot be,
    each at its field.

    >>> figure_of("cup", {"five_g": 61}).words
    'Your cup weighs 12.2 g'
    """
    kind = FIGURES[lesson(lesson_id).figure]
    values = {}
    for asked in kind.asked:
        if asked.name not in typed:
            raise Missing("type what you read", asked.name)
        if not asked.least <= typed[asked.name] <= asked.most:
            raise OutOfRange("that cannot be what you read: look again, also at the unit", asked.name)
        values[asked.name] = typed[asked.name]
    return kind.worked(values, scales)


@dataclass(frozen=True)
class FigureKind:
    """What a figure asks for, and how it is worked out."""

    asked: tuple[Asked, ...]
    worked: Callable[[Mapping[str, float], Scales], Figure]


def _figure(
    title: str,
    formula: str,
    givens: tuple[tuple[str, str, float, str, str], ...],
    result: float,
    unit: str,
    rule: str,
    words: str,
) -> Figure:
    rows = tuple(
        Given(symbol=symbol, name=name, value=value, unit=given_unit, source=source)
        for symbol, name, value, given_unit, source in givens
    )
    working = Working(about=title, title=title, formula=formula, givens=rows, result=result, unit=unit, rule=rule)
    return Figure(working=working, words=words)


def _ratio(read: Mapping[str, float], scales: Scales) -> Figure:
    parts, a, b = read["parts"], read["a_g"], read["b_g"]
    per_100 = 100 * weight_ratio_from_volume(1 / parts, a, b)
    return _figure(
        "Hardener to 100 of resin, by weight",
        "100 × b ÷ a ÷ n",
        (
            ("n", "parts of resin to 1 of hardener, by volume", parts, "", TYPED),
            ("a", "a level cup of resin", a, "g", TYPED),
            ("b", "a level cup of hardener", b, "g", TYPED),
        ),
        per_100,
        "parts",
        "The same volume of each, weighed. The sheet's own ratio by weight wins: if yours is more than 3 parts off it, weigh again.",
        f"Your hardener goes {scales.written(per_100, '.0f')} to 100 of resin, by weight",
    )


def _cup(read: Mapping[str, float], scales: Scales) -> Figure:
    one = read["five_g"] / 5
    return _figure(
        "Your empty cup",
        "w ÷ 5",
        (("w", "five empty cups", read["five_g"], "g", TYPED),),
        one,
        "g",
        "Five together, since a scale of whole grams reads one of them badly.",
        f"Your cup weighs {scales.written(one, '.1f')} g",
    )


def _off_ratio(read: Mapping[str, float], scales: Scales) -> Figure:
    a, b = read["a_g"], read["b_g"]
    off = 100 * (b / a / 0.45 - 1)
    fits = (
        "which an epoxy takes"
        if grade_of(off, _STANDARD_PCT) == "within tolerance"
        else "which would leave an epoxy soft"
    )
    return _figure(
        "How far your pour was off",
        "100 × (b ÷ a ÷ 0.45 − 1)",
        (("a", "poured first", a, "g", TYPED), ("b", "poured after it", b, "g", TYPED)),
        off,
        "%",
        "Of a ratio of 45 to 100. A mix of two parts takes about 5 % either way (memory); the sheet wins.",
        f"Your pour was {scales.written(abs(off), '.1f')} % {'over' if off > 0 else 'under'} its ratio, {fits}",
    )


def _gel(read: Mapping[str, float], scales: Scales) -> Figure:
    minutes, room = read["gel_min"], read["room_c"]
    at_20 = minutes * 2 ** ((room - 20) / 10)
    return _figure(
        "Your gel time, brought to 20 °C",
        "t × exp(ln(2) × (r − 20) ÷ 10)",
        (("t", "from the parts' touch to the gel", minutes, "min", TYPED), ("r", "room", room, "°C", TYPED)),
        at_20,
        "min",
        "10 °C warmer is about half the time (common practice). It is of 10 g in a cup: a larger pot is quicker.",
        f"Your pot gelled after {minutes:.0f} min; in a room of {scales.temperature(20)} that is about {at_20:.0f} min",
    )


def _fibre_share(read: Mapping[str, float], scales: Scales) -> Figure:
    fabric, resin = read["fabric_g"], read["resin_g"]
    share = 100 * fabric / (fabric + resin)
    if not _SHARES_PCT[0] <= share <= _SHARES_PCT[1]:
        raise OutOfRange(
            "with this fabric that is no laminate: weigh the pot with its brush, before and after", "resin_g"
        )
    return _figure(
        "Fibre in your laminate, by weight",
        "100 × f ÷ (f + m)",
        (("f", "fabric", fabric, "g", TYPED), ("m", "resin that lies on the glass", resin, "g", TYPED)),
        share,
        "%",
        "Cloth by hand is 45 to 50 % fibre, mat 28 to 35 % (common practice).",
        f"Your laminate is {share:.0f} % fibre: {scales.written(resin / fabric, '.1f')} g of resin to each gram of fabric",
    )


def _pace(read: Mapping[str, float], scales: Scales) -> Figure:
    area = read["width_mm"] * read["length_mm"] / 1e6
    pace = read["minutes"] / area
    return _figure(
        "Minutes you take for a square metre",
        "t × 1000000 ÷ (w × l)",
        (
            ("t", "from the first drop to no white place", read["minutes"], "min", TYPED),
            ("w", "width", read["width_mm"], "mm", TYPED),
            ("l", "length", read["length_mm"], "mm", TYPED),
        ),
        pace,
        "min/m²",
        "A small piece is slow: edges take most of the time. On a large one a practised hand takes 4 to 10 min/m² (memory).",
        f"You wet out a square metre in about {pace:.0f} min, at this size",
    )


def _tack(read: Mapping[str, float], scales: Scales) -> Figure:
    minutes, gel = read["tack_min"], read["gel_min"]
    if minutes <= gel:
        raise OutOfRange(
            "a thin film sets after the pot in its cup, not before it: look at both times again", "tack_min"
        )
    return _figure(
        "From the gel in the cup to tack on the glass",
        "t ÷ g",
        (
            ("t", "from the parts' touch to tack on the glass", minutes, "min", TYPED),
            ("g", "from the parts' touch to the gel in the cup", gel, "min", TYPED),
        ),
        minutes / gel,
        "times",
        "A film loses its heat to the glass, and sets in two to five times the time of the cup (memory).",
        f"Your next ply goes on from {minutes:.0f} min after the parts touch, in a room like today's",
    )


def _thickness(read: Mapping[str, float], scales: Scales) -> Figure:
    area = read["width_mm"] * read["length_mm"] / 1e6
    told = thickness_mm(read["fabric_g"] / area, read["resin_g"] / area, _GLASS, _RESIN)
    measured = read["thickness_mm"]
    return _figure(
        "Thickness by its weights",
        "(f ÷ 2.56 + m ÷ 1.2) × 1000 ÷ (w × l)",
        (
            ("f", "fabric of glass", read["fabric_g"], "g", TYPED),
            ("m", "resin that lay on it", read["resin_g"], "g", TYPED),
            ("w", "width", read["width_mm"], "mm", TYPED),
            ("l", "length", read["length_mm"], "mm", TYPED),
        ),
        told,
        "mm",
        "Weight over density, as ISO 12215-5 has it for a laminate without voids. Thicker than that is air, or a gauge on a rough face.",
        f"Your laminate should be {scales.words('thickness', told)} thick by its weights, and measures "
        f"{scales.words('thickness', measured)}",
    )


def _asked(name: str, label: str, dimension: Dimension | Literal["count"], least: float, most: float) -> Asked:
    return Asked(name=name, label=label, dimension=dimension, least=least, most=most)


_SIDES = (
    _asked("width_mm", "Width of the square", "thickness", 50, 600),
    _asked("length_mm", "Length of it", "thickness", 50, 600),
)
FIGURES: Mapping[FigureId, FigureKind] = {
    "ratio": FigureKind(
        (
            _asked("parts", "Parts of resin to 1 of hardener, by volume", "count", 1, 12),
            _asked("a_g", "A level cup of resin", "mass", 2, 2000),
            _asked("b_g", "A level cup of hardener", "mass", 2, 2000),
        ),
        _ratio,
    ),
    "cup": FigureKind((_asked("five_g", "Five empty cups", "mass", 5, 1500),), _cup),
    "off_ratio": FigureKind(
        (_asked("a_g", "Poured first", "mass", 10, 1000), _asked("b_g", "Poured after it", "mass", 1, 1000)), _off_ratio
    ),
    "gel": FigureKind(
        (
            _asked("gel_min", "From the parts' touch to the gel in the cup", "time", 2, 900),
            _asked("room_c", "The room", "temperature", 5, 40),
        ),
        _gel,
    ),
    "fibre_share": FigureKind(
        (
            _asked("fabric_g", "The square of fabric", "mass", 1, 500),
            _asked("resin_g", "Resin gone from the pot", "mass", 1, 1500),
        ),
        _fibre_share,
    ),
    "pace": FigureKind((_asked("minutes", "Minutes it took", "time", 0.5, 120), *_SIDES), _pace),
    "tack": FigureKind(
        (
            _asked("tack_min", "From the parts' touch to tack on the glass", "time", 5, 2880),
            _asked("gel_min", "From the parts' touch to the gel in the cup", "time", 2, 900),
        ),
        _tack,
    ),
    "thickness": FigureKind(
        (
            _asked("fabric_g", "The square of fabric", "mass", 1, 500),
            _asked("resin_g", "Resin that lay on it", "mass", 1, 1500),
            *_SIDES,
            _asked("thickness_mm", "Thickness you measured", "thickness", 0.05, 20),
        ),
        _thickness,
    ),
}
