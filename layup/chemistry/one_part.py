"""What is used out of one tin and sets by the moisture of the air: how long it can be used, when it is tacky and covered."""

from math import sqrt

from layup.chemistry.gel_law import CATALYSED_ACTIVATION_KJ_PER_MOL, arrhenius_factor
from layup.materials import OnePart

STATED_HUMIDITY_PCT = 50.0  # what a sheet's times are taken to be stated at (memory)


def in_air(sets: OnePart, humidity_pct: float | None) -> OnePart:
    """The same in damper or drier air: four times the moisture takes half as long (memory); as stated where it is not known.

    >>> from layup.library import generic
    >>> primer = next(resin.one_part for resin in generic().resins if resin.one_part)
    >>> [round(in_air(primer, humidity).tack_min) for humidity in (None, 50, 80, 30)]
    [75, 75, 59, 97]
    """
    if humidity_pct is None:
        return sets
    longer = sqrt(STATED_HUMIDITY_PCT / humidity_pct)
    minutes = ("usable_min", "tack_min", "cover_by_min", "hard_min")
    return sets.model_copy(update={name: getattr(sets, name) * longer for name in minutes})


def _warmth(sets: OnePart, temperature_c: float) -> float:
    """How many times as long everything takes as its sheet states (memory: half as long in a room 10 °C warmer)."""
    return arrhenius_factor(temperature_c, sets.stated_temperature_c, CATALYSED_ACTIVATION_KJ_PER_MOL)


def usable_min(sets: OnePart, temperature_c: float) -> float:
    """How long it can be used once it is poured out of its tin, min.

    >>> from layup.library import generic
    >>> primer = next(resin.one_part for resin in generic().resins if resin.one_part)
    >>> round(usable_min(primer, 20)), round(usable_min(primer, 30))
    (120, 60)
    """
    return sets.usable_min * _warmth(sets, temperature_c)


def tack_min(sets: OnePart, temperature_c: float) -> float:
    """When it is tacky and may be covered, min from its pouring."""
    return sets.tack_min * _warmth(sets, temperature_c)


def cover_by_min(sets: OnePart, temperature_c: float) -> float:
    """By when it must be covered, min from its pouring."""
    return sets.cover_by_min * _warmth(sets, temperature_c)


def hard_min(sets: OnePart, temperature_c: float) -> float:
    """When it can be sanded, min from its pouring."""
    return sets.hard_min * _warmth(sets, temperature_c)
