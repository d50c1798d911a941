"""A product's label read as gel laws: its one stated time, or the fit to its table of them and to the shop's own gels."""

from dataclasses import dataclass, replace
from functools import lru_cache
from math import exp, log2

from layup.gel_fit import PER_DOUBLING, REFERENCE_K, GelFit, GelPoint, GelPrior, fit_gel, with_stated
from layup.gel_law import (
    CATALYSED_ACTIVATION_KJ_PER_MOL,
    EPOXY_ACTIVATION_KJ_PER_MOL,
    SIGMA_GEL,
    GelLaw,
)
from layup.materials import Catalyst, Ends, Hardener, PotLifeEnds, SourceKind, StatedTime

SIGMA_PER_DOUBLING = 0.05  # memory: less is known of a pot heavier than the stated one
# The share of its gel at which a stated time ends (memory). Doubled viscosity comes about half way.
GEL_FOR_END: dict[Ends, float] = {
    "gel": 1.0,
    "pot life in the cup": 1.0,
    "workable in the cup": 0.8,
    "working time as a film": 0.8,
    "viscosity doubled": 0.5,
}
_POT_LIFE_AS: dict[PotLifeEnds, Ends] = {
    "gel": "gel",
    "workable": "workable in the cup",
    "viscosity doubled": "viscosity doubled",
}
IN_THE_CUP: tuple[Ends, ...] = ("gel", "pot life in the cup", "workable in the cup", "viscosity doubled")


@dataclass(frozen=True)
class Label:
    """A product's gel laws, of which the shorter holds; the fit behind them, where there is more than one time.

    `mass_g` is of the pot a two-part label speaks of. The laws are of this shop, where it has logged gels.
    """

    laws: tuple[GelLaw, ...]
    fit: GelFit | None = None
    mass_g: float = 0.0

    def law(self, temperature_c: float, catalyst_pct: float | None = None) -> GelLaw:
        """The law that holds at a temperature and dose: the one that gels sooner."""
        if len(self.laws) == 1:
            return self.laws[0]
        return min(self.laws, key=lambda law: law.gel_min(temperature_c, catalyst_pct))

    @property
    def kept_per_doubling(self) -> float:
        """The share of its life a two-part pot keeps at each doubling of the stated mass."""
        return exp(self.fit.per_doubling if self.fit else PER_DOUBLING)

    def heavier(self, mass_g: float) -> float:
        """The share of its life a pot heavier than the stated one keeps: what builders report and the model does not."""
        return self.kept_per_doubling ** doublings(mass_g, self.mass_g)

    def sigma(self, temperature_c: float, catalyst_pct: float | None = None, mass_g: float = 0.0) -> float:
        """The standard deviation of ln t there: the fit's own, or 0.15 where one time is all that is known (memory)."""
        times = doublings(mass_g, self.mass_g) if self.mass_g and mass_g else 0.0
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
        count = f"{self.fit.shop_gels} gel{'s' if self.fit.shop_gels > 1 else ''} logged"
        if abs(off) < 0.5:
            return f"This shop keeps to the label, by {count}"
        return f"This shop runs {abs(off):.0f} % {'slower' if off > 0 else 'quicker'} than the label, by {count}"

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
    """A hardener's label: what ends each time is carried to the gel, a heavier pot to the stated mass by the fit.

    >>> from layup.library import generic
    >>> hardener_label(generic().resins[0].hardeners[2]).laws[0].gel_min(25)
    40.0
    """
    stated_gel_min = hardener.pot_life_min / GEL_FOR_END[_POT_LIFE_AS[hardener.pot_life_ends]]
    stated = (stated_gel_min, hardener.pot_life_temperature_c, hardener.pot_life_mass_g)
    return _hardener_label(*stated, hardener.stated_times)


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
def _hardener_label(gel_min: float, temperature_c: float, mass_g: float, stated_times: tuple[StatedTime, ...]) -> Label:
    law = GelLaw(gel_min, temperature_c, EPOXY_ACTIVATION_KJ_PER_MOL)
    points = tuple(
        _point(time, doublings=doublings(time.mass_g or mass_g, mass_g))
        for time in stated_times
        if time.ends in IN_THE_CUP
    )
    if not points:
        return Label((law,), mass_g=mass_g)
    prior = with_stated(GelPrior(ea_kj_per_mol=EPOXY_ACTIVATION_KJ_PER_MOL, n=None), gel_min, temperature_c)
    return replace(_fitted((GelPoint(temperature_c, gel_min), *points), prior), mass_g=mass_g)


@lru_cache(maxsize=512)
def _catalyst_label(
    gel_min: float, temperature_c: float, pct: float, n: float, stated_times: tuple[StatedTime, ...]
) -> Label:
    law = GelLaw(gel_min, temperature_c, CATALYSED_ACTIVATION_KJ_PER_MOL, pct, n)
    points = tuple(
        _point(time, catalyst_pct=time.catalyst_pct or pct) for time in stated_times if time.ends in IN_THE_CUP
    )
    if not points:
        return Label((law,))
    at_one_pct = GelPrior(ea_kj_per_mol=CATALYSED_ACTIVATION_KJ_PER_MOL, n=n)
    prior = with_stated(at_one_pct, gel_min * pct**n, temperature_c)
    return _fitted((GelPoint(temperature_c, gel_min, pct), *points), prior)


def _point(time: StatedTime, **more: float) -> GelPoint:
    shop = time.source is SourceKind.SHOP_LOG
    return GelPoint(time.temperature_c, time.minutes / GEL_FOR_END[time.ends], shop=shop, **more)


def _fitted(points: tuple[GelPoint, ...], prior: GelPrior) -> Label:
    fit = fit_gel(points, prior)
    fits = [fit]
    if fit.far_off:
        odd = {found.place for found in fit.far_off}
        fits.append(fit_gel([point for at, point in enumerate(points) if at not in odd], prior))
    return Label(tuple(_law(each) for each in fits), fit)


def _law(fit: GelFit) -> GelLaw:
    stated = len(fit.points) - fit.shop_gels
    told_by = f"fitted to {stated} time{'s' if stated > 1 else ''} of the label"
    if fit.shop_gels:
        told_by += f" and {fit.shop_gels} logged here"
    at_reference = fit.mean[0] + (fit.shop_offset if fit.shop_gels else 0.0)
    return GelLaw(exp(at_reference), REFERENCE_K - 273.15, fit.ea_kj_per_mol, 1.0, fit.n or 0.0, told_by)
