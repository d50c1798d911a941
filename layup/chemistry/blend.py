"""A blend of two hardeners of one family: what it is, as a hardener of its own."""

from layup.chemistry.label import hardener_label
from layup.errors import OutOfRange, known
from layup.heat.pot_heat import HeatOf, full_heat
from layup.job import ResinInUse
from layup.materials import Hardener, ResinSystem, SourceKind

MIXED_BY_SHARE = (0.0, 0.25, 0.5, 0.75, 1.0)


def life_between(first_min: float, second_min: float, share: float) -> float:
    """Life of a pot with a share of the second hardener: rates add by share, 1/t = (1 − x)/t₁ + x/t₂.

    Within 0.3 % in a cup of adding the constants of the heat model (memory).

    >>> round(life_between(40, 20, 0.5), 1)
    26.7
    """
    return 1 / ((1 - share) / first_min + share / second_min)


def blended(first: Hardener, second: Hardener, share: float, heat_of: HeatOf = full_heat) -> Hardener:
    """`first` with a share, by mass, of `second` in it, stated for the mass and temperature of the first.

    Raises OutOfRange across families.

    >>> from layup.library import generic
    >>> medium, slow = generic().resins[0].hardeners[1:3]
    >>> mix = blended(slow, medium, 0.5)
    >>> mix.name, round(mix.pot_life_min, 1)
    ('slow with 50 % medium', 18.0)
    """
    if first.family != second.family:
        raise OutOfRange("two hardeners of different families are never blended", "blend_id")
    if first.id == second.id:
        raise OutOfRange("a hardener is not blended with itself: choose its neighbour", "blend_id")
    temperature_c = first.pot_life_temperature_c
    one, other = (
        hardener_label(each, heat_of).gel_min(first.pot_life_mass_g, temperature_c) for each in (first, second)
    )

    def between(one: float, other: float) -> float:
        """Part of the way from one number to the other."""
        return (1 - share) * one + share * other

    density = None
    if first.density_g_per_cm3 and second.density_g_per_cm3:
        density = 1 / between(1 / first.density_g_per_cm3, 1 / second.density_g_per_cm3)
    price = None
    if first.price_per_kg and second.price_per_kg:
        price = between(first.price_per_kg, second.price_per_kg)
    return first.model_copy(
        update={
            "id": _blend_id(first.id, second.id),
            "name": f"{first.name} with {share:.0%} {second.name}".replace("%", " %")[:40],
            "density_g_per_cm3": density,
            "price_per_kg": price,
            "band_low_f": between(first.band_low_f, second.band_low_f),
            "band_high_f": between(first.band_high_f, second.band_high_f),
            "pot_life_min": life_between(one, other, share),
            "pot_life_ends": "gel",
            "peak_exotherm_c": None,
            "stated_times": (),
            "sources": dict.fromkeys(first.sources, SourceKind.MEMORY),
        }
    )


def hardener_in_hand(resin: ResinSystem, use: ResinInUse, chosen_id: str) -> Hardener:
    """The hardener of a plan's chosen row: one of the resin's own, or the blend that the job asks for."""
    (first, _), *more = shares_in_hand(resin, use, chosen_id)
    return blended(first, more[0][0], use.blend_share) if more else first


def shares_in_hand(resin: ResinSystem, use: ResinInUse, chosen_id: str) -> list[tuple[Hardener, float]]:
    """The hardeners of a plan's chosen row, each with its share by mass: one, or the two of a blend."""
    by_id = {hardener.id: hardener for hardener in resin.hardeners}
    if chosen_id in by_id:
        return [(by_id[chosen_id], 1.0)]
    blend_id = known(use.blend_id)
    first = next(each for each in resin.hardeners if _blend_id(each.id, blend_id) == chosen_id)
    return [(first, 1 - use.blend_share), (by_id[blend_id], use.blend_share)]


def _blend_id(first_id: str, second_id: str) -> str:
    return f"{first_id}+{second_id}"
