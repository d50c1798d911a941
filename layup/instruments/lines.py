"""The lines that instruments send: read by shapes that ship, or by one that a shop made from three of its own."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from math import isfinite
from typing import Literal

from layup.errors import OutOfRange
from layup.record import Record
from layup.units import convert

Instrument = Literal["scale", "thermometer", "room"]

# No instrument says so much at once: what is longer is noise.
LONGEST_LINE = 120
_NUMBER = r"(?:[+-][ \t]{0,12})?\d{1,9}(?:[.,]\d{1,6})?"
_UNIT = r"[A-Za-zµ°º%]{0,8}"
_WORD = r"[A-Za-z]{1,12}"
# What a unit may be spelled as, and what it is; a scale's pound is no thermometer's.
_MASS = {"g": "g", "gr": "g", "gram": "g", "grams": "g", "kg": "kg", "oz": "oz", "lb": "lb", "lbs": "lb"}
_WARMTH = {"c": "°C", "°c": "°C", "ºc": "°C", "degc": "°C", "f": "°F", "°f": "°F", "ºf": "°F", "degf": "°F"}
_SPELLED: dict[Instrument, dict[str, str]] = {"scale": _MASS, "thermometer": _WARMTH, "room": _WARMTH}
UNITS: dict[Instrument, tuple[str, ...]] = {
    "scale": ("g", "kg", "oz", "lb"),
    "thermometer": ("°C", "°F"),
    "room": ("°C", "°F"),
}
CORE: dict[Instrument, str] = {"scale": "g", "thermometer": "°C", "room": "°C"}
# What an instrument can show at all, in the core's unit.
_CAN_BE: dict[Instrument, tuple[float, float]] = {
    "scale": (-200_000.0, 200_000.0),
    "thermometer": (-40.0, 400.0),
    "room": (-40.0, 60.0),
}
# How a status word begins that says that it stands still.
_STILL = ("s", "ok")


class LineShape(Record):
    """How a line is matched: by a pattern with a group `value`, and where the line has them `unit` and `status`."""

    name: str
    pattern: str


PLAIN = LineShape(name="number and unit", pattern=rf"(?P<value>{_NUMBER})[ \t]*(?P<unit>{_UNIT})")
STATUS = LineShape(
    name="status word, sign, number, unit",
    pattern=rf"(?P<status>{_WORD})(?:[ \t]*,[ \t]*{_WORD})?[ \t,:]+(?P<value>{_NUMBER})[ \t]*(?P<unit>{_UNIT})",
)
NAMED = LineShape(
    name="name, number and unit, parted by commas",
    pattern=rf"[\w .-]{{1,30}},[ \t]*(?P<value>{_NUMBER})[ \t]*,?[ \t]*(?P<unit>{_UNIT})(?:,[ \t]*(?P<status>{_WORD}))?",
)
SHAPES = (PLAIN, STATUS, NAMED)


@dataclass(frozen=True)
class LineRead:
    """What a line said, g or °C; whether it stands still, where the line says so."""

    value: float
    still: bool | None


@cache
def _compiled(pattern: str) -> re.Pattern[str]:
    return re.compile(pattern, re.ASCII)


def read_line(text: str, kind: Instrument, shape: LineShape | None = None, unit: str = "") -> LineRead | None:
    """What a line says, by one shape or the first of those that ship; `unit` where the line names none. None where it is no
    reading: half a line, noise, another kind's unit, or more than an instrument can show.

    >>> read_line("ST,  +  412.5 g", "scale"), read_line("US: 0.91 lb", "scale")
    (LineRead(value=412.5, still=True), LineRead(value=412.769057, still=False))
    >>> read_line("probe 1, 71.6, F", "thermometer")
    LineRead(value=22.0, still=None)
    >>> read_line("12.5 g", "thermometer"), read_line("\\x00\\x91~", "scale")
    (None, None)
    """
    text = text.strip(" \t\r\n")
    if not text or len(text) > LONGEST_LINE:
        return None
    for each in (shape,) if shape else SHAPES:
        found = _compiled(each.pattern).fullmatch(text)
        read = _taken(found, kind, unit) if found else None
        if read:
            return read
    return None


def _taken(found: re.Match[str], kind: Instrument, default: str) -> LineRead | None:
    parts = found.groupdict()
    number = float(re.sub(r"[ \t]", "", parts["value"]).replace(",", "."))
    value = in_core(number, parts.get("unit") or default, kind)
    if value is None:
        return None
    status = (parts.get("status") or "").lower()
    return LineRead(value, status.startswith(_STILL) if status else None)


def in_core(number: float, unit: str, kind: Instrument) -> float | None:
    """A number as an instrument of a kind sends it, in g or °C; `unit` as it is spelled, nothing for the core's own. None
    where the unit is another kind's, or the instrument can show no such thing.

    >>> in_core(2, "lb", "scale"), in_core(212, "F", "thermometer"), in_core(21.5, "", "room"), in_core(5, "C", "scale")
    (907.18474, 100.0, 21.5, None)
    """
    known = _SPELLED[kind].get(unit.strip().lower()) if unit.strip() else CORE[kind]
    if known is None or not isfinite(number):
        return None
    value = round(convert(number, known, CORE[kind]), 6)
    least, most = _CAN_BE[kind]
    return value if least <= value <= most else None


_TOKEN = re.compile(rf"(?P<number>{_NUMBER})|(?P<word>[A-Za-zµ°º%]+)|(?P<gap>[ \t]+)|(?P<mark>.)", re.ASCII)


def numbers_in(line: str) -> list[tuple[int, int]]:
    """Where the numbers of a line stand, from and to: what may be pressed as the reading.

    >>> numbers_in("W1 +0412.5 g 7")
    [(1, 2), (3, 10), (13, 14)]
    """
    return [found.span() for found in _TOKEN.finditer(line.strip()) if found.lastgroup == "number"]


def shape_by_example(lines: Sequence[str], pressed: int, kind: Instrument, name: str = "as this shop's") -> LineShape:
    """A shape made from lines that an instrument sent, of which the number `pressed`, counted from 0, is the reading.

    What differs from line to line may differ; a word before the reading that does is taken for its status.
    Raises OutOfRange where the lines are not alike, or no such number is in them.

    >>> shape = shape_by_example(["#1 S 12.0g 9", "#1 M 14.5g 9", "#1 S 15.0g 9"], 1, "scale")
    >>> read_line("#1 M 20.5g 9", "scale", shape)
    LineRead(value=20.5, still=False)
    """
    tokens = [list(_TOKEN.finditer(line.strip())) for line in lines if line.strip()]
    if len(tokens) < 3:
        raise OutOfRange("paste three lines as the instrument sends them", "lines")
    kinds = [[each.lastgroup for each in row if each.lastgroup != "gap"] for row in tokens]
    for at, row in enumerate(kinds[1:], 2):
        if row != kinds[0]:
            raise OutOfRange(f"line {at} is not built like the first: paste lines that are alike", "lines")
    columns = list(zip(*([each for each in row if each.lastgroup != "gap"] for row in tokens), strict=True))
    pattern, numbers, status = "", -1, False
    unit_next = False
    for column in columns:
        first, said = column[0], {each.group() for each in column}
        numbers += first.lastgroup == "number"
        if first.lastgroup == "number":
            unit_next = numbers == pressed
            piece = f"(?P<value>{_NUMBER})" if unit_next else _NUMBER
        elif first.lastgroup == "word" and unit_next and first.group().lower() in _SPELLED[kind]:
            piece, unit_next = rf"(?P<unit>{_UNIT})", False
        elif first.lastgroup == "word" and len(said) > 1:
            piece, unit_next = (_WORD if status or numbers >= pressed else rf"(?P<status>{_WORD})"), False
            status = status or numbers < pressed
        else:
            piece, unit_next = ("|".join(sorted(map(re.escape, said)))), False
            piece = f"(?:{piece})" if len(said) > 1 else piece
        pattern += rf"[ \t]*{piece}"
    if not 0 <= pressed <= numbers:
        raise OutOfRange("press the number that is the reading", "pressed")
    shape = LineShape(name=name, pattern=pattern)
    for at, line in enumerate(lines, 1):
        if line.strip() and read_line(line, kind, shape) is None:
            raise OutOfRange(f"what is pressed reads as no {_WHAT[kind]} in line {at}", "pressed")
    return shape


_WHAT: dict[Instrument, str] = {"scale": "weight", "thermometer": "temperature", "room": "temperature"}
