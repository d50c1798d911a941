"""Quantities as people type them, read at the edge into the core's own units. Pint holds the factors."""

import re
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from typing import TYPE_CHECKING, Literal, get_args

from layup.customs import UNSAID, Customs, DecimalMark
from layup.errors import OutOfRange, Unreadable

if TYPE_CHECKING:
    import pint

Dimension = Literal[
    "mass", "volume", "areal_weight", "length", "thickness", "film", "coverage", "area", "temperature", "time"
]
DIMENSIONS = get_args(Dimension)
FluidOunce = Literal["us", "imperial"]
OunceBase = Literal["square foot", "square yard"]

CORE_UNIT: dict[Dimension, str] = {
    "mass": "g",
    "volume": "ml",
    "areal_weight": "g/m²",
    "length": "m",
    "thickness": "mm",
    "film": "µm",
    "coverage": "m²/l",
    "area": "m²",
    "temperature": "°C",
    "time": "min",
}

_PINT_NAME = {
    "g": "gram",
    "kg": "kilogram",
    "oz": "avoirdupois_ounce",
    "lb": "avoirdupois_pound",
    "ml": "milliliter",
    "cc": "milliliter",
    "l": "liter",
    "US fl oz": "US_fluid_ounce",
    "Imperial fl oz": "imperial_fluid_ounce",
    "US qt": "US_liquid_quart",
    "Imperial qt": "imperial_quart",
    "US gal": "US_liquid_gallon",
    "Imperial gal": "imperial_gallon",
    "g/m²": "gram / meter ** 2",
    "oz/yd²": "avoirdupois_ounce / yard ** 2",
    "oz/ft²": "avoirdupois_ounce / foot ** 2",
    # A litre over a square metre lies a millimetre thick.
    "µm": "micrometer",
    "mil": "thou",
    "ml/m²": "milliliter / meter ** 2",
    "US fl oz/ft²": "US_fluid_ounce / foot ** 2",
    "Imperial fl oz/ft²": "imperial_fluid_ounce / foot ** 2",
    "m²/l": "meter ** 2 / liter",
    "ft²/US gal": "foot ** 2 / US_liquid_gallon",
    "ft²/Imperial gal": "foot ** 2 / imperial_gallon",
    "mm": "millimeter",
    "cm": "centimeter",
    "m": "meter",
    "in": "inch",
    "ft": "foot",
    "yd": "yard",
    "m²": "meter ** 2",
    "cm²": "centimeter ** 2",
    "ft²": "foot ** 2",
    "yd²": "yard ** 2",
    "°C": "degree_Celsius",
    "°F": "degree_Fahrenheit",
    "min": "minute",
    "h": "hour",
    "s": "second",
}
UNITS_OF: dict[Dimension, tuple[str, ...]] = {
    "mass": ("g", "kg", "oz", "lb"),
    "volume": ("ml", "l", "US fl oz", "Imperial fl oz", "US qt", "Imperial qt", "US gal", "Imperial gal"),
    "areal_weight": ("g/m²", "oz/yd²", "oz/ft²"),
    "length": ("m", "mm", "cm", "in", "ft", "yd"),
    "thickness": ("mm", "cm", "m", "in", "ft"),
    "film": ("µm", "mm", "mil", "in", "ml/m²", "US fl oz/ft²", "Imperial fl oz/ft²"),
    "coverage": ("m²/l", "ft²/US gal", "ft²/Imperial gal"),
    "area": ("m²", "cm²", "ft²"),
    "temperature": ("°C", "°F"),
    "time": ("min", "h", "s"),
}
_LENGTHS = {
    "m": "m metre metres meter meters",
    "mm": "mm millimetre millimetres",
    "cm": "cm",
    "in": "in inch inches \" ″ ''",
    "ft": "ft foot feet ' ′",
    "yd": "yd yard yards",
}
_SPELLINGS: dict[Dimension, dict[str, str]] = {
    "mass": {"g": "g gr gram grams gramme grammes", "kg": "kg kilo kilos", "oz": "oz ounce ounces", "lb": "lb lbs"},
    "volume": {
        "ml": "ml cc cm3 cm³ millilitre millilitres",
        "l": "l litre litres liter liters",
        "US fl oz": "usfloz floz(us)",
        "Imperial fl oz": "impfloz imperialfloz ukfloz",
        "US qt": "usqt usquart usquarts",
        "Imperial qt": "impqt imperialqt impquart imperialquart ukqt",
        "US gal": "usgal usgallon usgallons",
        "Imperial gal": "impgal imperialgal impgallon imperialgallon ukgal",
    },
    "areal_weight": {
        "g/m²": "g/m² g/m2 gsm g/sqm g",
        "oz/yd²": "oz/yd² oz/yd2 oz/sqyd osy",
        "oz/ft²": "oz/ft² oz/ft2 oz/sqft osf",
    },
    "length": _LENGTHS,
    "thickness": _LENGTHS,
    "film": {
        "µm": "µm um μm micron microns micrometre micrometres",
        "mm": "mm millimetre millimetres",
        "mil": "mil mils thou",
        "in": 'in inch inches "',
        "ml/m²": "ml/m² ml/m2 ml/sqm",
        "US fl oz/ft²": "usfloz/ft² usfloz/ft2 usfloz/sqft",
        "Imperial fl oz/ft²": "impfloz/ft² impfloz/ft2 impfloz/sqft",
    },
    "coverage": {
        "m²/l": "m²/l m2/l sqm/l m²/litre m2/litre",
        "ft²/US gal": "ft²/usgal ft2/usgal sqft/usgal",
        "ft²/Imperial gal": "ft²/impgal ft2/impgal sqft/impgal",
    },
    "area": {"m²": "m² m2 sqm", "cm²": "cm² cm2", "ft²": "ft² ft2 sqft"},
    "temperature": {"°C": "°c c degc celsius", "°F": "°f f degf fahrenheit"},
    "time": {"min": "min mins minute minutes m", "h": "h hr hrs hour hours", "s": "s sec secs seconds"},
}
# What a fluid ounce or a gallon goes over is the shop's own ounce and gallon too.
_SHOP_DECIDES_OVER = {f"floz/{foot}": "{} fl oz/ft²" for foot in ("ft²", "ft2", "sqft")} | {
    f"{foot}/gal": "ft²/{} gal" for foot in ("ft²", "ft2", "sqft")
}
# Words that mean one of two measures: the shop says which.
_SHOP_DECIDES = {"floz": "fl oz", "fl.oz": "fl oz", "qt": "qt", "quart": "qt", "quarts": "qt"} | {
    "gal": "gal",
    "gallon": "gal",
    "gallons": "gal",
}
COMMON_AREAL_WEIGHTS_GSM = (15, 2500)
# Thousands are parted by spaces, or by commas; a comma alone may be a decimal mark too.
_SPACED = r"\d{1,3}(?:[ \u00a0\u202f'’]\d{3})+(?:[.,]\d+)?"
_PARTED = r"\d{1,3}(?:(?:,\d{3})+\.\d+|(?:,\d{3}){2,}|(?:\.\d{3})+,\d+|(?:\.\d{3}){2,})"
_EITHER = re.compile(r"[-+]?[1-9]\d{0,2}[.,]\d{3}")
_NUMBER = rf"(?:\d+\s+\d+/\d+|\d+/\d+|{_SPACED}|{_PARTED}|\d*[.,]\d+|\d+)"
_TERM = re.compile(
    rf"\s*([-−+]?{_NUMBER})\s*([^\d\s,.+−-][^\d]*?(?:(?<=m)2(?:/[a-z]+)?|(?<=yd)2|(?<=ft)2(?:/[a-z]+(?: gal)?)?|(?<=cm)3)?)?\s*(?=$|\d)"
)


MOST_READINGS_LETTERS = 60


@dataclass(frozen=True)
class Reading:
    """What a typed quantity was understood to be: `value` in the core's unit, and the words for it."""

    value: float
    unit: str
    understood: str


@cache
def _registry() -> "pint.UnitRegistry[float]":
    # Here: it is large, and most commands tell no number.
    import pint

    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True, cache_folder=None)


@cache
def _spelling_table(dimension: Dimension) -> dict[str, str]:
    return {spelling: unit for unit, line in _SPELLINGS[dimension].items() for spelling in line.split()}


def convert(value: float, from_unit: str, to_unit: str) -> float:
    """Convert between two of this module's units. Source: published (Pint's factors).

    >>> round(convert(1, "US qt", "ml"), 1)
    946.4
    >>> round(convert(72, "°F", "°C"), 2)
    22.22
    """
    if from_unit == to_unit:
        return value
    quantity = _registry().Quantity(value, _PINT_NAME[from_unit])
    return float(quantity.to(_PINT_NAME[to_unit]).magnitude)


def figures(value: float, count: int) -> str:
    """A number by its first figures, written out: a builder reads no power of ten.

    >>> figures(12_500, 4), figures(33_000.4, 2), figures(0.00012345, 3)
    ('12500', '33000', '0.000123')
    """
    return format(Decimal(f"{value:.{count}g}"), "f")


def unit_shown(unit: str, fluid_ounce: FluidOunce) -> str:
    """A unit as a shop reads it: an ounce or a quart of its own has no more name, another's says whose it is.

    >>> unit_shown("US fl oz", "us"), unit_shown("US qt", "imperial"), unit_shown("Imperial fl oz", "imperial")
    ('fl oz', 'US qt', 'imp fl oz')
    """
    return unit.removeprefix("US ") if fluid_ounce == "us" else unit.replace("Imperial", "imp")


def _number(text: str, decimal: DecimalMark) -> float:
    text = text.strip().replace("−", "-")
    if "/" in text:
        whole, _, fraction = text.rpartition(" ")
        top, bottom = fraction.lstrip("+-").split("/")
        if float(bottom) == 0:
            raise Unreadable(f"“{text}” divides by nought; type it as a decimal")
        sign = -1 if text.startswith("-") else 1
        return sign * (abs(float(whole or 0)) + float(top) / float(bottom))
    text = re.sub(r"\s|(?<=\d)['’](?=\d)", "", text)
    if _EITHER.fullmatch(text):
        mark = "," if "," in text else "."
        # Thousands are printed with a comma or a space, never with a point.
        if mark != (decimal or "."):
            if decimal != ".":
                raise Unreadable(_either(text, mark, decimal))
            return float(text.replace(",", ""))
    if re.fullmatch(f"[-+]?{_PARTED}", text):
        parting = next(letter for letter in text if letter in ".,")
        text = text.replace(parting, "")
    return float(text.replace(",", "."))


def _either(text: str, mark: str, decimal: DecimalMark) -> str:
    whole, part = text.split(mark)
    parted = f"{whole}{decimal or '.'}{part.rstrip('0')}".rstrip(".,")
    advice = "type it so" if decimal else "type it so, or say under Shop which country’s numbers are meant"
    return f"“{text}” may be {whole}{part} or {parted}: {advice}"


def _unit(word: str, dimension: Dimension, default: str, fluid_ounce: FluidOunce, ounce_base: OunceBase | None) -> str:
    spelled = re.sub(r"[\s.]", "", word.lower()) if dimension != "areal_weight" else re.sub(r"\s", "", word.lower())
    if not spelled:
        return default
    table = _spelling_table(dimension)
    if spelled in table:
        return table[spelled]
    if dimension in ("film", "coverage") and spelled in _SHOP_DECIDES_OVER:
        return _SHOP_DECIDES_OVER[spelled].format("US" if fluid_ounce == "us" else "Imperial")
    if dimension == "volume":
        if spelled in _SHOP_DECIDES:
            return ("US " if fluid_ounce == "us" else "Imperial ") + _SHOP_DECIDES[spelled]
        if spelled in ("oz", "ounce", "ounces"):
            raise Unreadable("“oz” of a liquid may be weight or volume: type “fl oz”, or weigh it")
    if dimension == "areal_weight" and spelled in ("oz", "ounce", "ounces"):
        if ounce_base is None:
            raise Unreadable(
                "“oz” alone is per square foot for mat and per square yard for cloth: type oz/ft² or oz/yd²"
            )
        return "oz/ft²" if ounce_base == "square foot" else "oz/yd²"
    if dimension == "mass" and spelled in ("floz", "usfloz", "impfloz"):
        raise Unreadable("fluid ounces measure volume; this field is a weight: type g, kg or oz")
    known = ", ".join(UNITS_OF[dimension])
    raise Unreadable(f"“{word.strip()}” is no unit known here: type one of {known}")


def _terms(text: str, dimension: Dimension, default: str, decimal: DecimalMark) -> list[tuple[float, str]]:
    """Each number of a quantity with the word after it: several only where feet take inches, and the like."""
    if not text:
        raise Unreadable(f"type a number, with a unit if it is not {default}")
    if len(text) > 60:
        raise Unreadable("too long to be one quantity")
    terms, at = [], 0
    while at < len(text):
        match = _TERM.match(text, at)
        if not match or match.end() == at:
            raise Unreadable(f"“{text}” is not a quantity: type a number and a unit, such as 12 {default}")
        terms.append((_number(match[1], decimal), match[2] or ""))
        at = match.end()
    if len(terms) > 1 and (dimension not in ("length", "thickness", "time", "mass") or not all(w for _, w in terms)):
        raise Unreadable(f"“{text}” reads as {len(terms)} numbers: type one, with its unit")
    return terms


def parse(
    text: str,
    dimension: Dimension,
    *,
    default_unit: str | None = None,
    fluid_ounce: FluidOunce = "us",
    ounce_base: OunceBase | None = None,
    customs: Customs = UNSAID,
) -> Reading:
    """Read a typed quantity into the core's unit of its dimension.

    Several readings, parted by semicolons, give their mean, with half of what they spread over.
    `default_unit` is taken for a bare number. `ounce_base` says what an ounce of fabric is counted over
    (published trade use: mat per square foot, cloth and stitched per square yard). Either mark is read as a decimal
    mark; before three digits a comma parts thousands where a point is the decimal mark of the `customs`, and what could be
    both is asked about.
    Raises Unreadable for nonsense and OutOfRange for a temperature below absolute zero.

    >>> parse("5 ft 6 in", "length").understood
    '5 ft 6 in = 1.676 m'
    >>> parse("1,5 oz", "areal_weight", ounce_base="square foot").understood
    '1.5 oz/ft² = 457.7 g/m²'
    >>> [parse(typed, "mass").value for typed in ("1 120 g", "1,120.5 g", "1,234,567 g", "0,125 kg")]
    [1120.0, 1120.5, 1234567.0, 125.0]
    >>> round(parse("3/8 in", "thickness").value, 3)
    9.525
    >>> parse("0.61; 0.63; 0.62 m", "length").understood
    '3 readings = 0.62 m, give or take 0.01 m'
    """
    if ";" in text:
        return _mean_of(
            [
                parse(
                    one,
                    dimension,
                    default_unit=default_unit,
                    fluid_ounce=fluid_ounce,
                    ounce_base=ounce_base,
                    customs=customs,
                )
                for one in _readings(text)
            ],
            customs,
        )
    unit = CORE_UNIT[dimension]
    default = default_unit or unit
    if default not in UNITS_OF[dimension]:
        raise Unreadable(f"“{default}” is no unit of {dimension.replace('_', ' ')}")
    terms = _terms(text.strip(), dimension, default, customs.decimal)
    parts = [(number, _unit(word, dimension, default, fluid_ounce, ounce_base)) for number, word in terms]
    value = sum(convert(number, typed, unit) for number, typed in parts)
    if dimension == "temperature" and value < -273.15:
        raise OutOfRange("colder than absolute zero: check the sign and the unit")
    typed = " ".join(f"{customs.written(figures(number, 9))} {typed_unit}" for number, typed_unit in parts)
    same = len(parts) == 1 and parts[0][1] == default
    understood = typed if same else f"{typed} = {customs.written(figures(convert(value, unit, default), 4))} {default}"
    return Reading(value, unit, understood)


def _readings(text: str) -> list[str]:
    """Each of several readings; a unit said once, at the end, is that of all."""
    if len(text) > MOST_READINGS_LETTERS:
        raise Unreadable("too long: a dozen readings are enough")
    ones = [one.strip() for one in text.split(";") if one.strip()]
    unit = re.sub(r"^[-−+\d\s.,/]+", "", ones[-1]) if ones else ""
    return [one if re.search(r"[^-−+\d\s.,/]", one) else f"{one} {unit}".strip() for one in ones] or [text.strip(" ;")]


def _mean_of(readings: list[Reading], customs: Customs) -> Reading:
    values = [reading.value for reading in readings]
    mean, unit = sum(values) / len(values), readings[0].unit
    spread = (max(values) - min(values)) / 2
    middle, either_way = customs.written(figures(mean, 4)), customs.written(figures(spread, 2))
    understood = f"{len(values)} readings = {middle} {unit}, give or take {either_way} {unit}"
    return Reading(mean, unit, understood)


def areal_weight_doubt(value_gsm: float, typed_value: float, typed_unit: str, ounce_base: OunceBase) -> str | None:
    """The question to ask where a fabric's weight is outside 15 to 2,500 g/m² (common practice), or None.

    >>> areal_weight_doubt(10, 10, "g/m²", "square yard")
    '10 g/m² is lighter than any fabric: is it 10 oz/yd² (339 g/m²)?'
    >>> areal_weight_doubt(450, 450, "g/m²", "square foot") is None
    True
    """
    low, high = COMMON_AREAL_WEIGHTS_GSM
    if low <= value_gsm <= high:
        return None
    word = "lighter" if value_gsm < low else "heavier"
    ounces = "oz/ft²" if ounce_base == "square foot" else "oz/yd²"
    other = ounces if typed_unit == "g/m²" else "g/m²"
    reread = convert(typed_value, other, "g/m²")
    asked = f"{typed_value:g} {other}" + (f" ({reread:.0f} g/m²)" if other != "g/m²" else "")
    tail = f": is it {asked}?" if low <= reread <= high else "; check the number and the unit"
    return f"{figures(value_gsm, 4)} g/m² is {word} than any fabric{tail}"
