"""A product's label read: its one stated time, or the fit to its table of them and to the shop's own gels."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import exp, log2

from layup.chemistry.ends import CATALYSED_SHARE, CURED_AT, IN_THE_CUP
from layup.chemistry.gel_fit import PER_DOUBLING, REFERENCE_K, GelFit, GelPoint, GelPrior, fit_gel, with_stated
from layup.chemistry.gel_law import (
    CATALYSED_ACTIVATION_KJ_PER_MOL,
    EPOXY_ACTIVATION_KJ_PER_MOL,
    SIGMA_GEL,
    GelLaw,
    arrhenius_factor,
)
from layup.heat.pot_heat import HeatOf, PotHeat, full_heat, stated_pot
from layup.materials import Catalyst, Hardener, SourceKind, StatedTime
from layup.words import counted

SIGMA_PER_DOUBLING = 0.05  # memory: less is known of a pot heavier than the stated one
_LEAST_EA_KJ = 5.0


@dataclass(frozen=True)
class Label:
    """What a label and the shop's gels say: the fit of them all and, where some are far off, one without those.

    Without more than the one stated time there is no fit.
    """

    fits: tuple[GelFit, ...]

    @property
    def fit(self) -> GelFit | None:
        """The fit of every point."""
        return self.fits[0] if self.fits else None

    @property
    def told_by(self) -> str:
        """Where its time comes from, in words."""
        if self.fit is None:
            return "stated"
        stated = len(self.fit.points) - self.fit.shop_gels
        words = f"fitted to {counted(stated, 'time')} of the label"
        return f"{words} and {self.fit.shop_gels} logged here" if self.fit.shop_gels else words

    def spread(self, temperature_c: float, catalyst_pct: float | None = None, times: float = 0.0) -> float:
        """The standard deviation of ln t there: the fit's own, or 0.15 where one time is all that is known (memory)."""
        if self.fit is None:
            return SIGMA_GEL + SIGMA_PER_DOUBLING * times
        # Before a shop has logged, its distance from the label is not reckoned with: its first gels may not cost it.
        shops = (False, True) if self.fit.shop_gels else (False,)
        return min(self.fit.ln_gel(temperature_c, catalyst_pct, shop=shop, doublings=times)[1] for shop in shops)

    @property
    def shop_words(self) -> str:
        """How far this shop is from the label, as a sentence; nothing before it has logged a gel."""
        if self.fit is None or not self.fit.shop_gels:
            return ""
        off = 100 * (exp(self.fit.shop_offset) - 1)
        count = f"{counted(self.fit.shop_gels, 'gel')} logged"
        if abs(off) < 0.5:
            return f"This shop keeps to the label, by {count}"
        return f"This shop runs {abs(off):.0f} % {'slower' if off > 0 else 'quicker'} than the label, by {count}"

    @property
    def doubts(self) -> tuple[str, ...]:
        """What to ask about the points far from the rest, as sentences."""
        if self.fit is None:
            return ()
        told = "" if self.fit.can_tell else " With fewer than four times nobody can say which one is wrong."
        return tuple(
            f"{odd.question} It is far from what the rest say; the shorter is planned with until it is settled.{told}"
            for odd in self.fit.far_off
        )


@dataclass(frozen=True)
class CatalystLabel(Label):
    """A catalyst's laws, of which the shorter holds: of this shop, where it has logged gels."""

    laws: tuple[GelLaw, ...]

    def law(self, temperature_c: float, catalyst_pct: float | None = None) -> GelLaw:
        """The law that holds at a temperature and dose: the one that gels sooner."""
        if len(self.laws) == 1:
            return self.laws[0]
        return min(self.laws, key=lambda law: law.gel_min(temperature_c, catalyst_pct))

    def sigma(self, temperature_c: float, catalyst_pct: float) -> float:
        """The standard deviation of ln of a gel time."""
        return self.spread(temperature_c, catalyst_pct)


@dataclass(frozen=True)
class HardenerLabel(Label):
    """A hardener's label: what the heat model of its stated pot expects, moved by what else is known."""

    heat: PotHeat

    @property
    def mass_g(self) -> float:
        """The mass of the stated pot."""
        return self.heat.stated.mass_g

    def kept_per_doubling(self, temperature_c: float) -> float:
        """The share of its life a pot keeps at each doubling of the stated mass, beside what the heat model says.

        What builders report and the model does not show.
        """
        fit = self._holds(temperature_c, 0.0)
        return exp(fit.per_doubling if fit else PER_DOUBLING)

    def moved(self, temperature_c: float, mass_g: float) -> float:
        """How many times as long a pot gels as the heat model expects: a fit's word, or a tenth less a doubling."""
        times = doublings(mass_g, self.mass_g)
        fit = self._holds(temperature_c, times)
        return exp(_ln_moved(fit, temperature_c, times) if fit else PER_DOUBLING * times)

    def gel_min(self, mass_g: float, temperature_c: float, cup_mm: float | None = None) -> float:
        """Minutes to gel of a pot in a cup so wide, or as deep as it is wide."""
        return self.heat.gel_min(mass_g, temperature_c, cup_mm) * self.moved(temperature_c, mass_g)

    def workable_min(self, mass_g: float, temperature_c: float, cup_mm: float | None = None) -> float:
        """Minutes for which a pot in its cup can be worked: it is four times as thick at the end of them."""
        share = self.heat.workable_share(mass_g, temperature_c, cup_mm)
        return self.gel_min(mass_g, temperature_c, cup_mm) * share

    def stated_workable_min(self, temperature_c: float) -> float:
        """What the stated pot can be worked for, carried by the law of a gel alone: what a film's clocks go by, min."""
        heat = self.heat
        stated = heat.stated
        warmth = arrhenius_factor(temperature_c, stated.temperature_c, stated.ea_kj_per_mol)
        workable = heat.stated_gel_min * heat.workable_share(stated.mass_g, stated.temperature_c)
        return workable * warmth * self.moved(temperature_c, stated.mass_g)

    def sigma(self, temperature_c: float, mass_g: float) -> float:
        """The standard deviation of ln of a pot's life."""
        return self.spread(temperature_c, times=doublings(mass_g, self.mass_g))

    def _holds(self, temperature_c: float, times: float) -> GelFit | None:
        return min(self.fits, key=lambda fit: _ln_moved(fit, temperature_c, times), default=None)


def _ln_moved(fit: GelFit, temperature_c: float, times: float) -> float:
    return fit.ln_gel(temperature_c, shop=fit.shop_gels > 0, doublings=times)[0]


def doublings(mass_g: float, stated_mass_g: float) -> float:
    """How many times a mass doubles the stated one; nought for a lighter pot.

    >>> doublings(400, 100)
    2.0
    """
    return max(0.0, log2(mass_g / stated_mass_g))


def hardener_label(hardener: Hardener, heat_of: HeatOf = full_heat) -> HardenerLabel:
    """A hardener's label: each time carried to the gel and set beside what the heat model expects of its pot.

    >>> from layup.library import generic
    >>> round(hardener_label(generic().resins[0].hardeners[2]).gel_min(100, 25), 1)
    27.1
    """
    return _hardener_label(heat_of(stated_pot(hardener)), hardener.stated_times)


def catalyst_label(catalyst: Catalyst) -> CatalystLabel:
    """A catalyst's label: its stated dose and time, with the table beside it.

    >>> from layup.library import generic
    >>> catalyst = next(resin.catalyst for resin in generic().resins if resin.catalyst)
    >>> round(catalyst_label(catalyst).laws[0].gel_min(20, 2), 1)
    15.0
    """
    stated = (catalyst.stated_gel_min, catalyst.stated_temperature_c, catalyst.stated_pct, catalyst.exponent_n)
    return _catalyst_label(*stated, catalyst.stated_times)


@lru_cache(maxsize=512)
def _hardener_label(heat: PotHeat, stated_times: tuple[StatedTime, ...]) -> HardenerLabel:
    stated = heat.stated
    points = []
    for time in stated_times:
        if time.ends in IN_THE_CUP:
            mass_g = time.mass_g or stated.mass_g
            expected = heat.gel_min(mass_g, time.temperature_c, time.cup_mm)
            share = heat.share_of_gel(CURED_AT[time.ends], mass_g, time.temperature_c, time.cup_mm)
            points.append(_point(time, share, doublings=doublings(mass_g, stated.mass_g), expected_min=expected))
    if not points:
        return HardenerLabel((), heat)
    own = GelPoint(stated.temperature_c, heat.stated_gel_min, expected_min=heat.stated_gel_min)
    prior = GelPrior(gel_min=1.0, ea_kj_per_mol=0.0, least_ea_kj=_LEAST_EA_KJ - EPOXY_ACTIVATION_KJ_PER_MOL, n=None)
    return HardenerLabel(_fits((own, *points), prior), heat)


@lru_cache(maxsize=512)
def _catalyst_label(
    gel_min: float, temperature_c: float, pct: float, n: float, stated_times: tuple[StatedTime, ...]
) -> CatalystLabel:
    law = GelLaw(gel_min, temperature_c, CATALYSED_ACTIVATION_KJ_PER_MOL, pct, n)
    points = tuple(
        _point(time, CATALYSED_SHARE[time.ends], catalyst_pct=time.catalyst_pct or pct)
        for time in stated_times
        if time.ends in IN_THE_CUP
    )
    if not points:
        return CatalystLabel((), (law,))
    at_one_pct = GelPrior(ea_kj_per_mol=CATALYSED_ACTIVATION_KJ_PER_MOL, n=n)
    prior = with_stated(at_one_pct, gel_min * pct**n, temperature_c)
    fits = _fits((GelPoint(temperature_c, gel_min, pct), *points), prior)
    return CatalystLabel(fits, tuple(map(_law, fits)))


def _point(time: StatedTime, share_of_gel: float, **more: float) -> GelPoint:
    """A stated time as the gel it speaks of."""
    shop = time.source is SourceKind.SHOP_LOG
    gel_min = time.minutes / share_of_gel
    return GelPoint(time.temperature_c, gel_min, shop=shop, share_of_gel=share_of_gel, spread=time.spread, **more)


def _fits(points: Sequence[GelPoint], prior: GelPrior) -> tuple[GelFit, ...]:
    fit = fit_gel(points, prior)
    if not fit.far_off:
        return (fit,)
    odd = {found.place for found in fit.far_off}
    return fit, fit_gel([point for at, point in enumerate(points) if at not in odd], prior)


def _law(fit: GelFit) -> GelLaw:
    at_reference = fit.mean[0] + (fit.shop_offset if fit.shop_gels else 0.0)
    return GelLaw(exp(at_reference), REFERENCE_K - 273.15, fit.ea_kj_per_mol, 1.0, fit.n or 0.0)
