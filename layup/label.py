"""A product's label read as gel laws: its one stated time, or the fit to its table of them."""

from dataclasses import dataclass, replace
from functools import lru_cache
from math import exp, log2

from layup.gel_fit import REFERENCE_K, GelFit, GelPoint, GelPrior, fit_gel, with_stated
from layup.gel_law import (
    CATALYSED_ACTIVATION_KJ_PER_MOL,
    EPOXY_ACTIVATION_KJ_PER_MOL,
    SIGMA_GEL,
    GelLaw,
)
from layup.materials import Catalyst, Hardener, StatedTime

SHORTER_PER_DOUBLING = 0.10  # memory: a pot heavier than the stated one, until the shop's own gels correct it
_GELS = ("gel", "pot life in the cup")


@dataclass(frozen=True)
class Label:
    """A product's gel laws, of which the shorter holds; the fit behind them, where its label has a table.

    `mass_g` is of the pot a two-part label speaks of.
    """

    laws: tuple[GelLaw, ...]
    fit: GelFit | None = None
    mass_g: float = 0.0

    def law(self, temperature_c: float, catalyst_pct: float | None = None) -> GelLaw:
        """The law that holds at a temperature and dose: the one that gels sooner."""
        if len(self.laws) == 1:
            return self.laws[0]
        return min(self.laws, key=lambda law: law.gel_min(temperature_c, catalyst_pct))

    def pot_life_min(self, temperature_c: float, mass_g: float) -> float:
        """Life of a two-part pot in its cup: a tenth shorter for each doubling of the stated mass (memory)."""
        stated = self.law(temperature_c).gel_min(temperature_c)
        return stated * (1 - SHORTER_PER_DOUBLING) ** doublings(mass_g, self.mass_g)

    def sigma(self, temperature_c: float, catalyst_pct: float | None = None) -> float:
        """The standard deviation of ln t there: the fit's own, or 0.15 where one time is all that is known (memory)."""
        return SIGMA_GEL if self.fit is None else self.fit.ln_gel(temperature_c, catalyst_pct, shop=False)[1]

    @property
    def doubts(self) -> tuple[str, ...]:
        """What to ask about the points far from the rest, as sentences."""
        if self.fit is None:
            return ()
        told = "" if self.fit.can_tell else " Under four times it cannot be told which is wrong."
        return tuple(
            f"{odd.question} It is far from what the rest say; the shorter is planned with until it is settled.{told}"
            for odd in self.fit.far_off
        )


def doublings(mass_g: float, stated_mass_g: float) -> float:
    """How many times a mass doubles the stated one; nought for a lighter pot.

    >>> doublings(400, 100)
    2.0
    """
    return max(0.0, log2(mass_g / stated_mass_g))


def hardener_label(hardener: Hardener) -> Label:
    """A hardener's label: times of heavier pots are carried to the stated mass, 10 % a doubling (memory).

    >>> from layup.library import generic
    >>> hardener_label(generic().resins[0].hardeners[2]).laws[0].gel_min(25)
    40.0
    """
    return _hardener_label(
        hardener.pot_life_min, hardener.pot_life_temperature_c, hardener.pot_life_mass_g, hardener.stated_times
    )


def catalyst_label(catalyst: Catalyst) -> Label:
    """A catalyst's label: its stated dose and time, with the table beside it.

    >>> from layup.library import generic
    >>> catalyst = next(resin.catalyst for resin in generic().resins if resin.catalyst)
    >>> round(catalyst_label(catalyst).laws[0].gel_min(20, 2), 1)
    15.0
    """
    stated = (catalyst.stated_gel_min, catalyst.stated_temperature_c, catalyst.stated_pct, catalyst.exponent_n)
    return _catalyst_label(*stated, catalyst.stated_times)


@lru_cache(maxsize=512)
def _hardener_label(
    pot_life_min: float, temperature_c: float, mass_g: float, stated_times: tuple[StatedTime, ...]
) -> Label:
    law = GelLaw(pot_life_min, temperature_c, EPOXY_ACTIVATION_KJ_PER_MOL)
    points = tuple(
        GelPoint(
            time.temperature_c, time.minutes / (1 - SHORTER_PER_DOUBLING) ** doublings(time.mass_g or mass_g, mass_g)
        )
        for time in stated_times
        if time.ends in _GELS
    )
    if not points:
        return Label((law,), mass_g=mass_g)
    prior = with_stated(GelPrior(ea_kj_per_mol=EPOXY_ACTIVATION_KJ_PER_MOL, n=None), pot_life_min, temperature_c)
    return replace(_fitted((GelPoint(temperature_c, pot_life_min), *points), prior), mass_g=mass_g)


@lru_cache(maxsize=512)
def _catalyst_label(
    gel_min: float, temperature_c: float, pct: float, n: float, stated_times: tuple[StatedTime, ...]
) -> Label:
    law = GelLaw(gel_min, temperature_c, CATALYSED_ACTIVATION_KJ_PER_MOL, pct, n)
    points = tuple(
        GelPoint(time.temperature_c, time.minutes, time.catalyst_pct or pct)
        for time in stated_times
        if time.ends in _GELS
    )
    if not points:
        return Label((law,))
    at_one_pct = GelPrior(ea_kj_per_mol=CATALYSED_ACTIVATION_KJ_PER_MOL, n=n)
    prior = with_stated(at_one_pct, gel_min * pct**n, temperature_c)
    return _fitted((GelPoint(temperature_c, gel_min, pct), *points), prior)


def _fitted(points: tuple[GelPoint, ...], prior: GelPrior) -> Label:
    fit = fit_gel(points, prior)
    fits = [fit]
    if fit.far_off:
        odd = {found.place for found in fit.far_off}
        fits.append(fit_gel([point for at, point in enumerate(points) if at not in odd], prior))
    return Label(tuple(_law(each) for each in fits), fit)


def _law(fit: GelFit) -> GelLaw:
    told_by = f"fitted to {len(fit.points)} times of the label"
    return GelLaw(exp(fit.mean[0]), REFERENCE_K - 273.15, fit.ea_kj_per_mol, 1.0, fit.n or 0.0, told_by)
