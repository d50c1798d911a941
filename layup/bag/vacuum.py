"""Pressure under a bag: levels in every unit, force, pumping down, leaks. Pressures in mbar absolute unless said."""

from math import inf, log

from layup.errors import OutOfRange
from layup.under_vacuum import LevelIn

SEA_LEVEL_MBAR = 1013.25
_MBAR_PER_INHG = 33.8639
# What a pump cannot pull under, mbar (memory): its own oil and what boils out of the resin.
PUMP_ENDS_MBAR = 1.0
# Under this a styrene resin may boil: its vapour stands at about 8 mbar at 25 °C, with room for warmth (memory).
LEAST_STYRENE_MBAR = 30.0
# A leak that is let pass: so many mbar in ten minutes with the pump shut (memory).
LEAK_MBAR, LEAK_MIN = 10.0, 10.0


def ambient_mbar(above_sea_m: float) -> float:
    """Air pressure at a height above the sea, mbar.

    Source: published (the international standard atmosphere, ISO 2533): p = p0 (1 − 0.0065 h / 288.15)^5.25588, h in m. The
    weather moves it by 3 % either way.

    >>> round(ambient_mbar(0), 1), round(ambient_mbar(1000))
    (1013.2, 899)
    """
    return SEA_LEVEL_MBAR * (1 - 0.0065 * above_sea_m / 288.15) ** 5.25588


def pull_mbar(mbar: float, above_sea_m: float = 0.0) -> float:
    """What presses on the bag, mbar: the air outside less what is left under it.

    >>> round(pull_mbar(100), 1)
    913.2
    """
    return ambient_mbar(above_sea_m) - mbar


def level_mbar(level: float, level_in: LevelIn, above_sea_m: float = 0.0) -> float:
    """A level as a builder reads it, mbar absolute. Raises OutOfRange for one that no pump pulls, or that pulls nothing.

    >>> round(level_mbar(27, "inHg below the air")), round(level_mbar(90, "% of a full vacuum"))
    (99, 101)
    """
    ambient = ambient_mbar(above_sea_m)
    mbar = {
        "mbar absolute": level,
        "inHg below the air": ambient - level * _MBAR_PER_INHG,
        "% of a full vacuum": ambient * (1 - level / 100),
    }[level_in]
    if mbar < PUMP_ENDS_MBAR:
        raise OutOfRange("no shop pump pulls so far: type what its gauge shows", "level")
    if mbar >= ambient - 1:
        raise OutOfRange("that pulls nothing: type a level under the air outside", "level")
    return mbar


def inhg_below(mbar: float, above_sea_m: float = 0.0) -> float:
    """The same as a gauge shows it, inches of mercury under the air outside (exact conversion).

    >>> round(inhg_below(100), 1)
    27.0
    """
    return (ambient_mbar(above_sea_m) - mbar) / _MBAR_PER_INHG


def vacuum_pct(mbar: float, above_sea_m: float = 0.0) -> float:
    """The same as a share of what could be pulled there, %.

    >>> round(vacuum_pct(100), 1)
    90.1
    """
    return 100 * (1 - mbar / ambient_mbar(above_sea_m))


def force_kn(area_m2: float, mbar: float, above_sea_m: float = 0.0) -> float:
    """What the bag presses on a mould with, kN: pressure times area (exact). Near a full vacuum ten tonnes a square metre.

    >>> round(force_kn(1.0, 1.0) / 9.80665, 1)
    10.3
    """
    return pull_mbar(mbar, above_sea_m) * 100 * area_m2 / 1000


def draw_down_min(air_l: float, pump_l_per_min: float, mbar: float, above_sea_m: float = 0.0) -> float:
    """How long a pump takes to the level, minutes: t = V/S · ln(p0/p1).

    Source: published (the pump-down equation of vacuum textbooks), for a pump of constant speed and nothing that leaks or
    gives off vapour. Infinite where the pump ends before.

    >>> round(draw_down_min(50, 100, 100), 2)
    1.16
    """
    if mbar <= PUMP_ENDS_MBAR:
        return inf
    return air_l / pump_l_per_min * log(ambient_mbar(above_sea_m) / mbar)


def leak_mbar_l_per_s(air_l: float, drop_mbar: float, drop_min: float) -> float:
    """How much leaks, mbar·l/s: V Δp/Δt.

    Source: published (the rate-of-rise test of vacuum textbooks).

    >>> round(leak_mbar_l_per_s(30, 10, 10), 2)
    0.5
    """
    return air_l * drop_mbar / (60 * drop_min)


def held_mbar(leak: float, pump_l_per_min: float) -> float:
    """How far a pump that runs lets the pressure rise over its own end for a leak of mbar·l/s: leak over pumping speed.

    Source: published (balance of throughput and pumping speed).

    >>> round(held_mbar(0.5, 60), 2)
    0.5
    """
    return leak / (pump_l_per_min / 60)


def lost_after_min(leak: float, air_l: float, mbar: float, to_mbar: float) -> float:
    """How long a bag whose pump stops takes to rise to a pressure, min, at a steady leak; infinite without one.

    >>> round(lost_after_min(0.5, 30, 100, 200))
    100
    """
    return inf if leak <= 0 else (to_mbar - mbar) * air_l / leak / 60


def leaks_too_much(drop_mbar: float, drop_min: float) -> bool:
    """Whether a leak test says to find the leak first: over 10 mbar in 10 min with the pump shut (memory).

    >>> leaks_too_much(4, 10), leaks_too_much(9, 5)
    (False, True)
    """
    return drop_mbar / drop_min > LEAK_MBAR / LEAK_MIN
