"""How a quantity is shown: its unit and digits in each unit set. One table, for the words here and the numbers on screen."""

import re
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from functools import cache
from typing import Literal, get_args

from pydantic import BaseModel, ConfigDict

from layup.customs import UNSAID, Customs
from layup.units import CORE_UNIT, Dimension, FluidOunce, convert, figures, unit_shown

UnitSet = Literal["metric", "US"]
FabricUnit = Literal["g/m²", "oz"]
Quantity = Literal[
    "mass",
    "volume",
    "areal_weight",
    "laminate_weight",
    "length",
    "roll_run",
    "thickness",
    "film",
    "coverage",
    "size",
    "cut",
    "section",
    "density",
    "area",
    "temperature",
    "temperature_difference",
]
QUANTITIES = get_args(Quantity)


class Rung(BaseModel):
    """From `from_value` (in the core's unit) on, a quantity is shown as value × factor + offset, in `unit`.

    Where `parts` is more than 1 it is shown in whole numbers and parts of one, as an inch rule is read: 43 5/16.
    """

    model_config = ConfigDict(frozen=True)

    from_value: float
    unit: str
    factor: float
    offset: float
    digits: int
    parts: int = 1


@cache
def _factor(from_unit: str, to_unit: str) -> float:
    return convert(1, from_unit, to_unit)


def _rungs(core_unit: str, *steps: tuple[float, str, int]) -> tuple[Rung, ...]:
    return tuple(_rung(unit, _factor(core_unit, unit), digits, from_value=at) for at, unit, digits in steps)


def _rung(unit: str, factor: float, digits: int, *, offset: float = 0, from_value: float = 0) -> Rung:
    return Rung(from_value=from_value, unit=unit, factor=factor, offset=offset, digits=digits)


def _named(rungs: tuple[Rung, ...], unit: str) -> tuple[Rung, ...]:
    return tuple(rung.model_copy(update={"unit": unit}) for rung in rungs)


def _in_parts(rungs: tuple[Rung, ...]) -> tuple[Rung, ...]:
    return tuple(rung.model_copy(update={"parts": SIXTEENTHS}) for rung in rungs)


SIXTEENTHS = 16


# Made when a number is first told: units of the trade take a while to load, and most commands tell none.
@cache
def _metric() -> dict[Quantity, tuple[Rung, ...]]:
    return {
        "mass": _rungs("g", (0, "g", 1), (25, "g", 0), (2000, "kg", 2), (20_000, "kg", 1)),
        "volume": _rungs("ml", (0, "ml", 1), (25, "ml", 0), (2000, "l", 2)),
        "areal_weight": _rungs("g/m²", (0, "g/m²", 0)),
        "laminate_weight": (_rung("kg/m²", 0.001, 2),),
        "length": _rungs("m", (0, "m", 2)),
        "roll_run": _rungs("m", (0, "m", 2)),
        "thickness": _rungs("mm", (0, "mm", 2)),
        "film": _rungs("µm", (0, "µm", 0), (1000, "mm", 2)),
        "coverage": _rungs("m²/l", (0, "m²/l", 1)),
        "size": _rungs("mm", (0, "mm", 1)),
        "cut": _rungs("mm", (0, "mm", 0)),
        "section": (_rung("mm²", 1, 0),),
        "density": (_rung("g/ml", 1, 2),),
        "area": _rungs("m²", (0, "m²", 3), (1, "m²", 2), (100, "m²", 1)),
        "temperature": (_rung("°C", 1, 1),),
        "temperature_difference": (_rung("°C", 1, 1),),
    }


@cache
def _us() -> dict[Quantity, tuple[Rung, ...]]:
    inch_mm, foot_m, pound_g = convert(1, "in", "mm"), convert(1, "ft", "m"), convert(1, "lb", "g")
    return {
        "mass": _rungs("g", (0, "oz", 2), (convert(10, "oz", "g"), "oz", 1), (2 * pound_g, "lb", 2)),
        "areal_weight": _rungs("g/m²", (0, "oz/yd²", 1)),
        "laminate_weight": (_rung("lb/ft²", foot_m**2 / pound_g, 2),),
        "length": _rungs("m", (0, "ft", 2)),
        "roll_run": _rungs("m", (0, "yd", 2)),
        "thickness": _rungs("mm", (0, "in", 3)),
        "film": _rungs("µm", (0, "mil", 1)),
        "coverage": _rungs("m²/l", (0, "ft²/US gal", 0)),
        "size": (*_rungs("mm", (0, "in", 2)), *_in_parts(_rungs("mm", (6, "in", 2)))),
        "cut": _in_parts(_rungs("mm", (0, "in", 2))),
        "section": (_rung("in²", 1 / inch_mm**2, 2),),
        "density": (_rung("lb/gal", convert(1, "US gal", "ml") / pound_g, 2),),
        "area": _rungs("m²", (0, "ft²", 2), (convert(10, "ft²", "m²"), "ft²", 1)),
        "temperature": (_rung("°F", 1.8, 1, offset=32),),
        "temperature_difference": (_rung("°F", 1.8, 1),),
    }


_US_FIELDS: dict[Dimension, str] = {
    "mass": "oz",
    "areal_weight": "oz/yd²",
    "length": "ft",
    "thickness": "in",
    "film": "mil",
    "coverage": "ft²/US gal",
    "area": "ft²",
    "temperature": "°F",
}


class FieldUnit(BaseModel):
    """The unit that a bare number in a field is in, and as the shop reads it; shown as value × factor + offset, `value` in
    the core's unit.
    """

    model_config = ConfigDict(frozen=True)

    unit: str
    shown: str
    factor: float
    offset: float


@dataclass(frozen=True)
class Scales:
    """One unit set, with the shop's fluid ounce, the unit it weighs fabric in, and how it writes numbers: what is printed
    is read back as the same number.
    """

    unit_set: UnitSet = "metric"
    fluid_ounce: FluidOunce = "us"
    fabric_unit: FabricUnit = "g/m²"
    customs: Customs = UNSAID

    def table(self) -> dict[Quantity, tuple[Rung, ...]]:
        """The rungs of every quantity, smallest first."""
        return _table(self.unit_set, self.fluid_ounce, self.fabric_unit)

    def fields(self) -> dict[Dimension, FieldUnit]:
        """The unit of each kind of field.

        >>> Scales("US").fields()["temperature"].unit
        '°F'
        """
        units = dict(CORE_UNIT)
        if self.unit_set == "US":
            ounce = "US fl oz" if self.fluid_ounce == "us" else "Imperial fl oz"
            units |= _US_FIELDS | {"volume": ounce}
        if self.fabric_unit == "oz":
            units["areal_weight"] = "oz/yd²"
        found = {}
        for dimension, unit in units.items():
            offset = convert(0, CORE_UNIT[dimension], unit)
            factor = convert(1, CORE_UNIT[dimension], unit) - offset
            shown = unit_shown(unit, self.fluid_ounce)
            found[dimension] = FieldUnit(unit=unit, shown=shown, factor=factor, offset=round(offset, 9))
        return found

    def words(self, quantity: Quantity, value: float) -> str:
        """A number with its unit, as in a sentence: no digits that say nothing. `value` in the core's unit.

        >>> METRIC.words("temperature", 21.111), Scales("US").words("temperature", 21.111)
        ('21.1 °C', '70 °F')
        >>> Scales("US").words("temperature_difference", 3), METRIC.words("mass", 2400)
        ('5.4 °F', '2.4 kg')
        """
        return f"{self.number(quantity, value)} {self.unit(quantity, value)}"

    def number(self, quantity: Quantity, value: float) -> str:
        """The number alone, of a value in the core's unit.

        >>> METRIC.number("temperature", 19.04)
        '19'
        """
        rung = self._rung(quantity, value)
        if rung.parts > 1:
            return self.customs.written(in_parts(value * rung.factor + rung.offset, rung.parts))
        text = f"{value * rung.factor + rung.offset:,.{rung.digits}f}"
        text = text.rstrip("0").rstrip(".") if "." in text else text
        return "0" if text == "-0" else self.customs.written(text)

    def unit(self, quantity: Quantity, value: float) -> str:
        """The unit that a value of this size is shown in.

        >>> METRIC.unit("mass", 1999), METRIC.unit("mass", 2000)
        ('g', 'kg')
        """
        return self._rung(quantity, value).unit

    def _rung(self, quantity: Quantity, value: float) -> Rung:
        return [rung for rung in self.table()[quantity] if abs(value) >= rung.from_value][-1]

    def column(self, title: str, quantity: Quantity) -> str:
        """The head of a column of a quantity: what it is, and the one unit that all of it is in.

        >>> METRIC.column("area", "area"), Scales("US").column("resin", "mass")
        ('area, m²', 'resin, oz')
        """
        return f"{title}, {self.table()[quantity][0].unit}"

    def in_column(self, quantity: Quantity, value: float | None) -> float | None:
        """A value in the unit of its column.

        >>> round(Scales("US").in_column("thickness", 25.4), 6)
        1.0
        """
        rung = self.table()[quantity][0]
        return None if value is None else value * rung.factor + rung.offset

    def mass(self, grams: float) -> str:
        return self.words("mass", grams)

    def mixed(self, grams: float, by_volume_g_per_ml: float | None) -> str:
        """So much of a mix, as it is measured: a weight, or a volume where its density is given.

        >>> METRIC.mixed(550, None), METRIC.mixed(550, 1.1)
        ('550 g', '500 ml')
        """
        return self.words("volume", grams / by_volume_g_per_ml) if by_volume_g_per_ml else self.mass(grams)

    def temperature(self, celsius: float) -> str:
        return self.words("temperature", celsius)

    def said(self, words: str) -> str:
        """Words of the trade with the quantities marked in them, {40 °C}, {3 K}, {25 mm}, {100 g}, as its readers say them;
        one that was measured, {=38.1 mm}, as it is.

        >>> METRIC.said("over {40 °C}, {3 mm} thin"), Scales("US").said("over {40 °C}, {3 mm} thin, {3 K} off")
        ('over 40 °C, 3 mm thin', 'over 105 °F, 1/8 in thin, 5 °F off')
        >>> Scales("US").said("{75 mm} wide, a {100 g} pot, {80 to 120 °C}")
        '3 in wide, a 3.5 oz pot, 175 to 250 °F'
        >>> METRIC.said("{=38.1 mm} wide"), Scales("US").said("{=38.1 mm} wide")
        ('38.1 mm wide', '1 1/2 in wide')
        """
        return _MARKED.sub(lambda found: self._rounded(*found.groups()), words)

    def _rounded(self, measured: str | None, low: str | None, number: str, unit: str) -> str:
        if measured:
            return self.words(_AS_MEASURED[unit], float(number))
        if self.unit_set == "metric":
            words = f"{f'{low} to ' if low else ''}{number} {'°C' if unit == 'K' else unit}"
        else:
            shown, own = self._said[unit](float(number))
            words = f"{self._said[unit](float(low))[0]} to {shown} {own}" if low else f"{shown} {own}"
        return self.customs.written(words)

    def written(self, value: float, form: str = "g") -> str:
        """A number without a quantity, in the marks of the shop's country; `form` as Python formats numbers.

        >>> Scales(customs=Customs("en-DE")).written(1234.56, ",.1f"), Scales().written(2.5)
        ('1\\u202f234,6', '2.5')
        """
        return self.customs.number(value, form)

    def figures(self, value: float, count: int) -> str:
        """A number by its first figures, in the same marks.

        >>> Scales(customs=Customs("en-FR")).figures(2.3456, 3)
        '2,35'
        """
        return self.customs.written(figures(value, count))

    @property
    def _said(self) -> dict[str, Callable[[float], tuple[str, str]]]:
        """How a round figure of each metric unit is said in US ones."""
        return {
            "°C": lambda celsius: (f"{5 * round((1.8 * celsius + 32) / 5):g}", "°F"),
            "K": lambda kelvins: (f"{round(1.8 * kelvins):g}", "°F"),
            "mm": lambda mm: (in_parts(mm * _factor("mm", "in"), 16 if mm < 25 else 4 if mm < 150 else 1), "in"),
            "m": lambda metres: (f"{metres * _factor('m', 'ft'):.0f}", "ft"),
            "g": lambda grams: (f"{figures(grams * _factor('g', 'oz'), 2)}", "oz"),
            "kg": lambda kg: (f"{figures(kg * _factor('kg', 'lb'), 2)}", "lb"),
        }

    def whole_degrees(self, celsius: float) -> str:
        """A temperature to the degree, without its unit.

        >>> METRIC.whole_degrees(19.6), Scales("US").whole_degrees(20)
        ('20', '68')
        """
        (rung,) = self.table()["temperature"]
        return f"{celsius * rung.factor + rung.offset:.0f}"

    def temperatures(self, low_c: float, high_c: float) -> str:
        """A range of temperatures.

        >>> METRIC.temperatures(15.5556, 21.1111)
        '15.6 to 21.1 °C'
        """
        return f"{self.number('temperature', low_c)} to {self.temperature(high_c)}"


def in_parts(value: float, parts: int) -> str:
    """A number as an inch rule is read: whole, and a fraction in its lowest terms.

    >>> in_parts(43.31, 16), in_parts(0.5, 16), in_parts(2.99, 16), in_parts(0.01, 16)
    ('43 5/16', '1/2', '3', '0')
    """
    whole, rest = divmod(round(abs(value) * parts), parts)
    share = str(Fraction(rest, parts)) if rest else ""
    sign = "-" if value < 0 and (whole or rest) else ""
    return sign + (f"{whole:,} {share}".strip() if whole or not rest else share)


@cache
def _table(unit_set: UnitSet, fluid_ounce: FluidOunce, fabric_unit: FabricUnit) -> dict[Quantity, tuple[Rung, ...]]:
    table = dict(_metric())
    if unit_set == "US":
        ounce, quart, gallon = (
            f"{'US' if fluid_ounce == 'us' else 'Imperial'} {unit}" for unit in ("fl oz", "qt", "gal")
        )
        quarts = _named(_rungs("ml", (convert(2, quart, "ml"), quart, 2)), unit_shown(quart, fluid_ounce))
        gallons = _named(_rungs("ml", (convert(2, gallon, "ml"), gallon, 2)), unit_shown(gallon, fluid_ounce))
        small = _named(
            _rungs("ml", (0, ounce, 2), (convert(10, ounce, "ml"), ounce, 1)), unit_shown(ounce, fluid_ounce)
        )
        table |= _us() | {"volume": (*small, *quarts, *gallons)}
    if fabric_unit == "oz":
        table["areal_weight"] = _us()["areal_weight"]
    return table


_MARKED = re.compile(r"\{(=)?(?:([\d.]+) to )?([\d.]+) (°C|K|mm|m|g|kg|g/m²)\}")
_AS_MEASURED: dict[str, Quantity] = {
    "°C": "temperature",
    "mm": "size",
    "m": "length",
    "g": "mass",
    "g/m²": "areal_weight",
}

METRIC = Scales(customs=Customs("en-GB"))
