"""A product's cure fitted to what its sheet states of a pot: its life, its time as a film, its peak."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache
from math import exp, log

import numpy as np
from scipy.optimize import brentq, root_scalar

from layup.chemistry.gel_law import CATALYSED_ACTIVATION_KJ_PER_MOL, EPOXY_ACTIVATION_KJ_PER_MOL, GelLaw
from layup.errors import OutOfRange
from layup.heat.conduction import DENSITY_G_PER_CM3, cup, gel_min, simulate
from layup.heat.cure_kinetics import EPOXY_GLASS, GEL_CONVERSION, HEAT_J_PER_G, CatalysedCure, TwoPartCure
from layup.heat.lumped_heat import cooling_per_s, lumped_gel_min, lumped_peak

LEAST_KAPPA, MOST_KAPPA = 0.01, 0.5
LEAST_HEAT_J_PER_G = 60.0
STATED_CATALYSED_POT_G, STATED_CATALYSED_C = 100.0, 20.0
PEAK_AFTER_GEL = 1.8  # times the gel of a catalysed pot, where no peak is stated (memory)
_PACES = np.linspace(-5.0, 5.0, 81)
_TURNS = 4


@dataclass(frozen=True)
class StatedPot:
    """What is stated of a two-part pot: minutes until it has cured so far, of a mass at a temperature; as a thin film; its
    peak, °C.

    `ends_at` is the share cured that ends its time: its gel, or where it is twice as thick, or no longer worked.
    `film_gel_min` is at the same temperature. None for what the sheet does not say.
    """

    minutes: float
    temperature_c: float
    mass_g: float
    ends_at: float = GEL_CONVERSION
    ea_kj_per_mol: float = EPOXY_ACTIVATION_KJ_PER_MOL
    film_gel_min: float | None = None
    peak_c: float | None = None
    density_g_per_cm3: float = DENSITY_G_PER_CM3


@lru_cache(maxsize=256)
def fitted_cure(stated: StatedPot) -> TwoPartCure:
    """The cure whose pot in its cup gels when the sheet says, by the full model.

    A is solved for; κ from the film, within 0.01 to 0.5; heat is taken away where a lower peak is stated.

    >>> cure = fitted_cure(StatedPot(20, 25, 100))
    >>> round(gel_min(cup(100), cure, 25), 1)
    20.0
    """

    def gel(cure: TwoPartCure) -> float:
        """Minutes of the stated pot to what ends its stated time."""
        ended = replace(cure, gels_at=stated.ends_at)
        return gel_min(cup(stated.mass_g, density_g_per_cm3=stated.density_g_per_cm3), ended, stated.temperature_c)

    def peak(cure: TwoPartCure) -> float:
        """Its centre's peak, °C."""
        pot = cup(stated.mass_g, density_g_per_cm3=stated.density_g_per_cm3)
        return simulate(pot, cure, stated.temperature_c, until="peak").peak_c

    return _fitted(stated, lambda cure: _paced_fully(cure, stated, gel), peak)


@lru_cache(maxsize=1024)
def rough_cure(stated: StatedPot) -> TwoPartCure:
    """The same by the lumped model: at once."""

    def peak(cure: TwoPartCure) -> float:
        """The peak of its mean, °C."""
        return float(lumped_peak(cure, _cooling(stated), stated.temperature_c).peak_c)

    return _fitted(stated, lambda cure: _paced_roughly(cure, stated), peak)


def _cooling(stated: StatedPot) -> float:
    return cooling_per_s(cup(stated.mass_g, density_g_per_cm3=stated.density_g_per_cm3))


def _paced_roughly(cure: TwoPartCure, stated: StatedPot) -> TwoPartCure:
    """At the pace that gels when stated by the lumped model, read off a sweep of paces."""
    guess = replace(cure, ln_a=cure.ln_a + log(cure.isothermal_gel_s(stated.temperature_c) / (180 * stated.minutes)))
    ended = replace(guess, gels_at=stated.ends_at)
    ends = lumped_gel_min(ended, _cooling(stated), stated.temperature_c, np.exp(_PACES))
    change = float(np.interp(-log(stated.minutes), -np.log(ends), _PACES))
    return replace(guess, ln_a=guess.ln_a + change)


def _paced_fully(cure: TwoPartCure, stated: StatedPot, gel: Callable[[TwoPartCure], float]) -> TwoPartCure:
    near = _paced_roughly(cure, stated)
    found = root_scalar(
        lambda ln_a: log(gel(replace(near, ln_a=ln_a)) / stated.minutes),
        x0=near.ln_a,
        x1=near.ln_a + 0.02,
        method="secant",
        xtol=1e-5,
    )
    if not found.converged:
        raise OutOfRange("no cure gels as this pot is stated to: read its time, mass and temperature again")
    return replace(near, ln_a=float(found.root))


def _fitted(
    stated: StatedPot, paced: Callable[[TwoPartCure], TwoPartCure], peak: Callable[[TwoPartCure], float]
) -> TwoPartCure:
    cure = paced(TwoPartCure(0.0, stated.ea_kj_per_mol, glass=EPOXY_GLASS))
    # Each of the two moves the other a little, so where both are stated they take turns.
    for _ in range(_TURNS if stated.film_gel_min and stated.peak_c else 1):
        if stated.peak_c:
            cure = _with_peak(cure, stated.peak_c, paced, peak)
        if stated.film_gel_min:
            cure = _with_film(cure, stated.film_gel_min, stated.temperature_c, paced)
    return cure


def _with_film(
    cure: TwoPartCure, gel_min: float, temperature_c: float, paced: Callable[[TwoPartCure], TwoPartCure]
) -> TwoPartCure:
    """κ by the film: the larger, the sooner a film gels beside its pot. Past its limits it stays at the limit."""

    def at(ln_kappa: float) -> TwoPartCure:
        """The cure of a κ, at its pace."""
        return paced(replace(cure, kappa=exp(ln_kappa)))

    def film_late(ln_kappa: float) -> float:
        """ln of the film's time over the stated."""
        return log(at(ln_kappa).isothermal_gel_s(temperature_c) / 60 / gel_min)

    return at(_root_within(film_late, log(LEAST_KAPPA), log(MOST_KAPPA)))


def _with_peak(
    cure: TwoPartCure,
    peak_c: float,
    paced: Callable[[TwoPartCure], TwoPartCure],
    peak: Callable[[TwoPartCure], float],
) -> TwoPartCure:
    def at(heat: float) -> TwoPartCure:
        """The cure of a heat, at its pace."""
        return paced(replace(cure, heat_j_per_g=heat))

    return at(_root_within(lambda heat: peak(at(heat)) - peak_c, LEAST_HEAT_J_PER_G, HEAT_J_PER_G))


def _root_within(of: Callable[[float], float], low: float, high: float) -> float:
    """Where a function that runs one way passes nought, or the limit nearer to it."""
    at_low, at_high = of(low), of(high)
    if at_low * at_high > 0:
        return low if abs(at_low) < abs(at_high) else high
    return brentq(of, low, high, xtol=1e-3)


@lru_cache(maxsize=4096)
def catalysed_peak_c(law: GelLaw, catalyst_pct: float, mass_g: float, room_c: float) -> float:
    """The mean's peak of a catalysed pot left in its cup, °C, by the lumped model: it stays cool until it gels.

    >>> law = GelLaw(30, 20, CATALYSED_ACTIVATION_KJ_PER_MOL, 1.0, 1.0)
    >>> 150 < catalysed_peak_c(law, 1.0, 1000, 20) < 200
    True
    """
    after = TwoPartCure(_rough_after_gel(law, catalyst_pct), CATALYSED_ACTIVATION_KJ_PER_MOL)
    return float(lumped_peak(after, cooling_per_s(cup(mass_g)), room_c).peak_c)


@lru_cache(maxsize=256)
def _rough_after_gel(law: GelLaw, catalyst_pct: float, peak_min: float | None = None) -> float:
    """ln of the pace after gel that peaks when stated, by the lumped model."""
    after = TwoPartCure(0.0, CATALYSED_ACTIVATION_KJ_PER_MOL)
    paces = np.exp(np.linspace(-14, 2, 161))
    peaks = lumped_peak(after, cooling_per_s(cup(STATED_CATALYSED_POT_G)), STATED_CATALYSED_C, paces).peak_min
    wanted = _gel_to_peak_min(law, catalyst_pct, peak_min)
    return float(np.interp(-log(wanted), -np.log(peaks), np.log(paces)))


def _gel_to_peak_min(law: GelLaw, catalyst_pct: float, peak_min: float | None) -> float:
    gel = law.gel_min(STATED_CATALYSED_C, catalyst_pct)
    return max(peak_min or PEAK_AFTER_GEL * gel, 1.05 * gel) - gel


@lru_cache(maxsize=256)
def catalysed_cure(law: GelLaw, catalyst_pct: float, peak_min: float | None = None) -> CatalysedCure:
    """The cure of a catalysed resin whose 100 g cup at 20 °C peaks when stated, or 1.8 × its gel (memory).

    `peak_min` is at this dose. Source: memory.
    """
    gel = law.gel_min(STATED_CATALYSED_C, catalyst_pct)
    wanted = _gel_to_peak_min(law, catalyst_pct, peak_min)
    after = TwoPartCure(0.0, CATALYSED_ACTIVATION_KJ_PER_MOL)
    start = _rough_after_gel(law, catalyst_pct, peak_min)

    def late(ln_a: float) -> float:
        """Minutes between the model's peak and the stated one."""
        cure = CatalysedCure(law, catalyst_pct, replace(after, ln_a=ln_a))
        return simulate(cup(STATED_CATALYSED_POT_G), cure, STATED_CATALYSED_C, until="peak").peak_min - gel - wanted

    found = _root_within(late, start - 0.7, start + 0.7)
    return CatalysedCure(law, catalyst_pct, replace(after, ln_a=found))
