"""Sizes as they are said in a job line: `2.4 x 1.1 m`, `2 ft x 3 ft 6 in x2`, `disc 600 mm`, `patch 80 x 140 mm`, `3.2 m²`."""

import re
from collections.abc import Sequence
from dataclasses import dataclass

from layup.errors import LayupError, Unreadable
from layup.scales import Scales
from layup.shapes import CylinderSkin, Disc, Patch, Rectangle, Shape, Strips, Triangle, TypedArea
from layup.units import parse

# A metric length ends where the next begins; feet and inches may be of one.
_TIMES = re.compile(r"\s*[x×]\s*|\s+by\s+|(?<=m)\s+(?=\d)", re.IGNORECASE)
_PLAIN = re.compile(r"\d+(?:[.,]\d+)?")
_COUNT = re.compile(r"\d{1,3}")
_UNIT = re.compile(r"[^\d\s.,/][^\d]*$")
_FIRST_WORD = re.compile(r"(?P<word>[a-z]+)\s+(?=\d)", re.IGNORECASE)
_AREA = re.compile(r"[\d.,]+\s*(?:m²|m2|sq ?m|ft²|ft2|sq ?ft)", re.IGNORECASE)
_AREA_UNIT = {"m²": "m²", "m2": "m²", "sqm": "m²", "ft²": "ft²", "ft2": "ft²", "sqft": "ft²"}
_SHAPE_OF = {
    "disc": "disc",
    "disk": "disc",
    "round": "disc",
    "pipe": "pipe",
    "tube": "pipe",
    "triangle": "triangle",
    "strip": "strip",
    "patch": "patch",
    "hole": "patch",
}


# What is measured in metres is seldom so many of them.
_MOST_METRES = 40


class NoUnit(Unreadable):
    """A row of numbers that may be a size, of which no unit is said; `offers` it with the likely one."""

    def __init__(self, terms: Sequence[str]):
        of = " x ".join(terms)
        likely = "mm" if max(float(term.replace(",", ".")) for term in terms) > _MOST_METRES else "m"
        super().__init__(f"say the unit, such as {of} {likely}")
        self.offers = (f"{of} {likely}",)


@dataclass(frozen=True)
class Length:
    """One length as it was read, m, and as it was typed, its unit said."""

    m: float
    typed: str

    @property
    def mm(self) -> float:
        return round(1000 * self.m, 6)


def lengths(words: str, scales: Scales) -> tuple[list[Length], int]:
    """Lengths with a cross between them, and how many alike: a unit said once, at the end, is that of all.

    Raises Unreadable for what is no row of lengths, NoUnit where only the unit is not said.

    >>> from layup.scales import METRIC
    >>> read, count = lengths("2.4 x 1.1 m x2", METRIC)
    >>> [length.m for length in read], count
    ([2.4, 1.1], 2)
    """
    terms = [term.strip() for term in _TIMES.split(words)]
    count = 1
    if len(terms) > 1 and _COUNT.fullmatch(terms[-1]) and _UNIT.search(terms[-2]):
        count = int(terms.pop())
    unit = _UNIT.search(terms[-1])
    if not all(term[:1].isdigit() for term in terms):
        raise Unreadable("no size")
    if not unit:
        if not all(_PLAIN.fullmatch(term) for term in terms):
            raise Unreadable("no size")
        raise NoUnit(terms)
    typed = [term if _UNIT.search(term) else f"{term} {unit[0]}" for term in terms]
    return [
        Length(parse(each, "length", fluid_ounce=scales.fluid_ounce, customs=scales.customs).value, each)
        for each in typed
    ], count


def first_word(words: str) -> tuple[str, str]:
    """The word before the first number, and the rest.

    >>> first_word("Disc 600 mm"), first_word("600 biax")
    (('disc', '600 mm'), ('', '600 biax'))
    """
    found = _FIRST_WORD.match(words)
    return (found["word"].lower(), words[found.end() :]) if found else ("", words)


def name_before(words: str) -> tuple[str, str]:
    """A name before a size, and the size: `hull 4.6 x 1.6 m`.

    >>> name_before("fore deck 2 x 1 m"), name_before("2 x 1 m")
    (('fore deck', '2 x 1 m'), ('', '2 x 1 m'))
    """
    name = re.match(r"[^\d,;:]*[a-z)]\s+(?=\d)", words, re.IGNORECASE)
    return (words[: name.end()].strip(), words[name.end() :]) if name else ("", words)


def shape_said(words: str, scales: Scales) -> tuple[Shape, int] | None:
    """The shape that an item of the line says, and how many of it; None where it says no size.

    Raises LayupError for a size that cannot be.

    >>> from layup.scales import METRIC
    >>> shape_said("disc 600 mm", METRIC)[0].diameter_m, shape_said("600 biax", METRIC)
    (0.6, None)
    """
    if _AREA.fullmatch(words):
        number, unit = re.split(r"(?<=\d)\s*(?=[a-z])", words.lower(), maxsplit=1)
        typed = f"{number} {_AREA_UNIT[unit.replace(' ', '')]}"
        return TypedArea(area_m2=parse(typed, "area", customs=scales.customs).value, typed={"area_m2": typed}), 1
    said, rest = first_word(words)
    kind = _SHAPE_OF.get(said, "")
    if said and not kind:
        return None
    try:
        read, count = lengths(rest, scales)
    except NoUnit:
        # A lone number is of something else: a ply begins with one.
        if kind or _TIMES.search(rest):
            raise
        return None
    except Unreadable:
        if kind:
            raise
        return None
    return _of(kind, read), count


def _of(kind: str, read: Sequence[Length]) -> Shape:
    wanted = {"": 2, "disc": 1}.get(kind, 2)
    if len(read) != wanted:
        sizes = "one size, such as disc 600 mm" if wanted == 1 else "two sizes, such as 2.4 x 1.1 m"
        raise LayupError(f"{kind or 'a surface'} takes {sizes}")
    one, other = read[0], read[-1]
    match kind:
        case "disc":
            return Disc(diameter_m=one.m, typed={"diameter_m": one.typed})
        case "pipe":
            return CylinderSkin(
                diameter_m=one.m, length_m=other.m, typed={"diameter_m": one.typed, "length_m": other.typed}
            )
        case "triangle":
            return Triangle(base_m=one.m, height_m=other.m, typed={"base_m": one.typed, "height_m": other.typed})
    typed = {"width_m": one.typed, "length_m": other.typed}
    match kind:
        case "strip":
            return Strips(width_m=one.m, length_m=other.m, typed=typed)
        case "patch":
            return Patch(width_m=one.m, length_m=other.m, typed=typed)
    # Rolls run along the longer side.
    if one.m > other.m:
        one, other = other, one
    return Rectangle(width_m=one.m, length_m=other.m, typed={"width_m": one.typed, "length_m": other.typed})
