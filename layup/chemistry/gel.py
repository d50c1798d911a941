"""Gel time of a product by temperature, by dose for a catalysed resin, by mass for a pot in its cup. Minutes, °C."""

from layup.chemistry.label import catalyst_label, hardener_label
from layup.errors import OutOfRange
from layup.heat.pot_heat import HeatOf, full_heat
from layup.materials import Catalyst, Hardener


def catalysed_gel_min(catalyst: Catalyst, temperature_c: float, catalyst_pct: float) -> float:
    """Gel time of a catalysed resin, by its one stated time or fitted to its label's table, minutes.

    Source: common practice for the default constants. Raises OutOfRange for a dose of nought or less.

    >>> from layup.library import generic
    >>> catalyst = next(resin.catalyst for resin in generic().resins if resin.catalyst)
    >>> round(catalysed_gel_min(catalyst, 20, 2), 1)
    15.0
    """
    if catalyst_pct <= 0:
        raise OutOfRange("with no catalyst it never sets")
    return catalyst_label(catalyst).law(temperature_c, catalyst_pct).gel_min(temperature_c, catalyst_pct)


def catalyst_pct_for_gel(catalyst: Catalyst, temperature_c: float, wanted_gel_min: float) -> float:
    """The dose that gels in `wanted_gel_min`, % by weight, not held to the product's limits.

    >>> from layup.library import generic
    >>> catalyst = next(resin.catalyst for resin in generic().resins if resin.catalyst)
    >>> round(catalyst_pct_for_gel(catalyst, 20, 20), 2)
    1.5
    """
    return min(law.pct_for(temperature_c, wanted_gel_min) for law in catalyst_label(catalyst).laws)


def temperature_for_gel_c(catalyst: Catalyst, catalyst_pct: float, wanted_gel_min: float) -> float:
    """The temperature at which a dose gels in the wanted time, °C: the inverse of the gel law.

    >>> from layup.library import generic
    >>> catalyst = next(resin.catalyst for resin in generic().resins if resin.catalyst)
    >>> round(temperature_for_gel_c(catalyst, 1.0, 15), 1)
    30.0
    """
    return min(law.temperature_for_c(catalyst_pct, wanted_gel_min) for law in catalyst_label(catalyst).laws)


def stated_pot_life_at_min(hardener: Hardener, temperature_c: float, heat_of: HeatOf = full_heat) -> float:
    """What the stated mass can be worked for at a temperature, carried by the law of a gel: a film's clocks go by it, min.

    >>> from layup.library import generic
    >>> slow = generic().resins[0].hardeners[2]
    >>> stated_pot_life_at_min(slow, 25)
    26.0
    """
    return hardener_label(hardener, heat_of).stated_workable_min(temperature_c)


def pot_life_min(
    hardener: Hardener,
    temperature_c: float,
    mass_g: float,
    heat_of: HeatOf = full_heat,
    cup_mm: float | None = None,
) -> float:
    """Minutes to gel of a pot in a cup so wide, or as deep as it is wide.

    By the heat model of its stated pot, and what else its label and the shop's gels say.

    A pot heavier than the stated one is given 10 % less a doubling besides, as builders report (memory), until the
    label states several masses or the shop has logged its own.

    >>> from layup.library import generic
    >>> slow = generic().resins[0].hardeners[2]
    >>> round(pot_life_min(slow, 25, 100), 1), round(pot_life_min(slow, 25, 400), 1)
    (27.1, 20.5)
    """
    return hardener_label(hardener, heat_of).gel_min(mass_g, temperature_c, cup_mm)
