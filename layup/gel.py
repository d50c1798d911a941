"""Gel time by temperature, and by dose for a catalysed resin. Minutes, °C, kJ/mol."""

from math import exp, log, log2

from layup.errors import OutOfRange
from layup.materials import Catalyst, Hardener

GAS_CONSTANT_J_PER_MOL_K = 8.314462618
EPOXY_ACTIVATION_KJ_PER_MOL = 53.0  # memory
CATALYSED_HALVING_C = (20.0, 30.0)  # common practice: 10 °C warmer gels in half the time
SHORTER_PER_DOUBLING = 0.10  # memory: a pot heavier than the stated one, until the shop's own gels correct it


def kelvin(temperature_c: float) -> float:
    """Absolute temperature, K."""
    return temperature_c + 273.15


def activation_energy_from_halving(cool_c: float, warm_c: float) -> float:
    """Ea, kJ/mol, of a resin whose gel time halves from `cool_c` to `warm_c`: R ln 2 / (1/T₁ − 1/T₂).

    >>> round(activation_energy_from_halving(20, 30), 1)
    51.2
    """
    return GAS_CONSTANT_J_PER_MOL_K * log(2) / (1 / kelvin(cool_c) - 1 / kelvin(warm_c)) / 1000


CATALYSED_ACTIVATION_KJ_PER_MOL = activation_energy_from_halving(*CATALYSED_HALVING_C)


def arrhenius_factor(temperature_c: float, reference_c: float, activation_kj_per_mol: float) -> float:
    """How many times longer a gel takes at `temperature_c` than at `reference_c`. Source: published (Arrhenius).

    >>> round(arrhenius_factor(30, 20, CATALYSED_ACTIVATION_KJ_PER_MOL), 6)
    0.5
    """
    slope_k = activation_kj_per_mol * 1000 / GAS_CONSTANT_J_PER_MOL_K
    return exp(slope_k * (1 / kelvin(temperature_c) - 1 / kelvin(reference_c)))


def catalysed_gel_min(catalyst: Catalyst, temperature_c: float, catalyst_pct: float) -> float:
    """Gel time of a catalysed resin: ln t = ln t_ref − n ln(c/c_ref) + (Ea/R)(1/T − 1/T_ref), minutes.

    Source: common practice for the default constants. Raises OutOfRange for a dose of nought or less.

    >>> from layup.library import generic
    >>> catalyst = next(resin.catalyst for resin in generic().resins if resin.catalyst)
    >>> round(catalysed_gel_min(catalyst, 20, 2), 1)
    15.0
    """
    if catalyst_pct <= 0:
        raise OutOfRange("with no catalyst it never sets")
    dose = (catalyst_pct / catalyst.stated_pct) ** -catalyst.exponent_n
    warmth = arrhenius_factor(temperature_c, catalyst.stated_temperature_c, CATALYSED_ACTIVATION_KJ_PER_MOL)
    return catalyst.stated_gel_min * dose * warmth


def catalyst_pct_for_gel(catalyst: Catalyst, temperature_c: float, wanted_gel_min: float) -> float:
    """The dose that gels in `wanted_gel_min`, % by weight, not held to the product's limits.

    >>> from layup.library import generic
    >>> catalyst = next(resin.catalyst for resin in generic().resins if resin.catalyst)
    >>> round(catalyst_pct_for_gel(catalyst, 20, 20), 2)
    1.5
    """
    at_stated_dose = catalysed_gel_min(catalyst, temperature_c, catalyst.stated_pct)
    return catalyst.stated_pct * (at_stated_dose / wanted_gel_min) ** (1 / catalyst.exponent_n)


def temperature_for_gel_c(catalyst: Catalyst, catalyst_pct: float, wanted_gel_min: float) -> float:
    """The temperature at which a dose gels in the wanted time, °C: the inverse of the gel law.

    >>> from layup.library import generic
    >>> catalyst = next(resin.catalyst for resin in generic().resins if resin.catalyst)
    >>> round(temperature_for_gel_c(catalyst, 1.0, 15), 1)
    30.0
    """
    at_reference = catalysed_gel_min(catalyst, catalyst.stated_temperature_c, catalyst_pct)
    slope_k = CATALYSED_ACTIVATION_KJ_PER_MOL * 1000 / GAS_CONSTANT_J_PER_MOL_K
    inverse = 1 / kelvin(catalyst.stated_temperature_c) + log(wanted_gel_min / at_reference) / slope_k
    return 1 / inverse - 273.15


def stated_pot_life_at_min(hardener: Hardener, temperature_c: float) -> float:
    """The stated pot life of the stated mass, carried to another temperature, minutes (Ea from memory).

    >>> from layup.library import generic
    >>> slow = generic().resins[0].hardeners[2]
    >>> stated_pot_life_at_min(slow, 25)
    40.0
    """
    warmth = arrhenius_factor(temperature_c, hardener.pot_life_temperature_c, EPOXY_ACTIVATION_KJ_PER_MOL)
    return hardener.pot_life_min * warmth


def doublings_over_stated(hardener: Hardener, mass_g: float) -> float:
    """How many times the pot's mass doubles the stated one; nought for a lighter pot."""
    return max(0.0, log2(mass_g / hardener.pot_life_mass_g))


def pot_life_min(hardener: Hardener, temperature_c: float, mass_g: float) -> float:
    """Life of a pot in the cup: the stated life at this temperature, 10 % shorter for each doubling of mass (memory).

    It stands where a model of the pot's heat will; a lighter pot is given no more than the stated time.

    >>> from layup.library import generic
    >>> slow = generic().resins[0].hardeners[2]
    >>> round(pot_life_min(slow, 25, 200), 1)
    36.0
    """
    stated = stated_pot_life_at_min(hardener, temperature_c)
    return stated * (1 - SHORTER_PER_DOUBLING) ** doublings_over_stated(hardener, mass_g)
