"""Moisture in the air: when a surface takes water from it."""

from functools import lru_cache
from math import exp, log

from scipy.optimize import brentq

from layup.chemistry.gel_law import kelvin
from layup.errors import OutOfRange

LEAST_MARGIN_C = 3.0  # common practice: a surface closer than this to the dew point is not coated
_TRIPLE_POINT_C = 0.01
_COLDEST_C = -100.0
# ASHRAE Handbook of Fundamentals, psychrometrics: ln of the saturation pressure in Pa, over ice and over water.
_OVER_ICE = (-5.6745359e3, 6.3925247, -9.6778430e-3, 6.2215701e-7, 2.0747825e-9, -9.4840240e-13, 4.1635019)
_OVER_WATER = (-5.8002206e3, 1.3914993, -4.8640239e-2, 4.1764768e-5, -1.4452093e-8, 0.0, 6.5459673)


def saturation_pressure_pa(temperature_c: float) -> float:
    """Pressure of water vapour at saturation, Pa; over ice under the triple point.

    Source: published (ASHRAE Handbook of Fundamentals, Psychrometrics: the equation of saturation pressure over ice, which
    holds from −100 to 0 °C, and that over water, from 0 to 200 °C).

    >>> round(saturation_pressure_pa(20))
    2339
    """
    t = kelvin(temperature_c)
    a, b, c, d, e, f, g = _OVER_ICE if temperature_c <= _TRIPLE_POINT_C else _OVER_WATER
    return exp(a / t + b + c * t + d * t**2 + e * t**3 + f * t**4 + g * log(t))


@lru_cache(maxsize=4096)
def dew_point_c(temperature_c: float, humidity_pct: float) -> float:
    """Temperature at which air begins to give up its water, °C; under 0 °C it is the frost point.

    Raises OutOfRange for a humidity outside more than 0 to 100 %. Source: published (the same equations), solved for the
    temperature whose saturation pressure is the vapour's own; it holds down to a dew point of −100 °C.

    >>> round(dew_point_c(20, 60), 2)
    12.01
    """
    if not 0 < humidity_pct <= 100:
        raise OutOfRange("humidity is more than 0 and at most 100 %", "conditions.humidity_pct")
    if humidity_pct == 100:
        return temperature_c
    vapour = log(saturation_pressure_pa(temperature_c) * humidity_pct / 100)
    return brentq(lambda t: log(saturation_pressure_pa(t)) - vapour, _COLDEST_C, temperature_c, xtol=1e-6)


def humidity_pct_at(temperature_c: float, dew_c: float) -> float:
    """Relative humidity of air of a dew point at another temperature, %; 100 where it is as cold as that or colder.

    >>> round(humidity_pct_at(26, dew_point_c(20, 60)))
    42
    """
    if temperature_c <= dew_c:
        return 100.0
    return 100 * saturation_pressure_pa(dew_c) / saturation_pressure_pa(temperature_c)
