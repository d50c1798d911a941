"""What a shop's log has taught, with how many observations stand behind it and its band: of gel times."""

from collections.abc import Sequence
from math import exp

from layup.chemistry.blend import hardener_in_hand
from layup.chemistry.label import catalyst_label, hardener_label
from layup.chemistry.logged import with_logged
from layup.heat.pot_heat import HeatOf, full_heat
from layup.job import ResinInUse
from layup.materials import ResinSystem
from layup.record import Record
from layup.shop_facts import LoggedGel

# Nine in ten lie within so many deviations.
NINE_IN_TEN = 1.645


class Pot(Record):
    """The pot that a gel time is told of: g, °C, and the dose of a catalysed resin, % by weight."""

    mass_g: float | None = None
    temperature_c: float
    catalyst_pct: float | None = None


class Taught(Record):
    """A figure as it was told before the log, and as it is with it: nine in ten lie from `least` to `most`. `count` observations
    stand behind it.
    """

    count: int
    told: float
    now: float
    least: float
    most: float


def stated_pot_of(resin: ResinSystem, hardener_id: str) -> Pot:
    """The pot that a product's own label speaks of.

    >>> from layup.library import generic
    >>> stated_pot_of(generic().resins[0], generic().resins[0].hardeners[2].id).mass_g
    100.0
    """
    if resin.catalyst:
        return Pot(temperature_c=resin.catalyst.stated_temperature_c, catalyst_pct=resin.catalyst.stated_pct)
    hardener = next(each for each in resin.hardeners if each.id == hardener_id)
    return Pot(mass_g=hardener.pot_life_mass_g, temperature_c=hardener.pot_life_temperature_c)


def taught_gel(resin: ResinSystem, hardener_id: str, gels: Sequence[LoggedGel], heat_of: HeatOf = full_heat) -> Taught:
    """When the pot that the label speaks of gels, min: by the label alone, and with the shop's own gels.

    >>> from layup.library import generic
    >>> polyester = next(resin for resin in generic().resins if resin.catalyst)
    >>> dose = polyester.catalyst.stated_pct
    >>> gel = LoggedGel(resin_id=polyester.id, minutes=20, temperature_c=20, mass_g=200, catalyst_pct=dose)
    >>> found = taught_gel(polyester, "", [gel])
    >>> found.count, 20 < found.now < found.told
    (1, True)
    """
    pot = stated_pot_of(resin, hardener_id)
    mine = [gel for gel in gels if gel.resin_id == resin.id and gel.hardener_id == hardener_id]
    (told, _), (now, sigma) = (_gel(with_logged(resin, some), hardener_id, pot, heat_of) for some in ([], mine))
    band = exp(NINE_IN_TEN * sigma)
    return Taught(count=len(mine), told=told, now=now, least=now / band, most=now * band)


def _gel(resin: ResinSystem, hardener_id: str, pot: Pot, heat_of: HeatOf) -> tuple[float, float]:
    """Minutes to the gel of a pot, and the deviation of their ln."""
    if resin.catalyst:
        dose, catalysed = pot.catalyst_pct or resin.catalyst.stated_pct, catalyst_label(resin.catalyst)
        minutes = catalysed.law(pot.temperature_c, dose).gel_min(pot.temperature_c, dose)
        return minutes, catalysed.sigma(pot.temperature_c, dose)
    hardener = hardener_in_hand(resin, ResinInUse(id="resin", resin_id=resin.id), hardener_id)
    label, mass_g = hardener_label(hardener, heat_of), pot.mass_g or hardener.pot_life_mass_g
    return label.gel_min(mass_g, pot.temperature_c), label.sigma(pot.temperature_c, mass_g)
