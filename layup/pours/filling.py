"""What fills a cavity: resin, fibre or filler in it, how far it rises, what is short, and what a whole kit gives."""

from collections.abc import Sequence
from dataclasses import dataclass, fields

from layup.errors import OutOfRange
from layup.materials import FIBRE_DENSITY_G_PER_CM3, Fibre

# More of the volume than this does not fit: fibre stands out of the resin (memory, chopped tow shaken down).
MOST_FILL_BY_VOLUME = 0.45
FACE_SHARE = 0.20  # of the resin, worked in first for a show face (common practice)
LEVELS_FROM_MM = 3.0  # common practice: a thinner pour does not level by itself
# Chopped tow and what is weighed of it: where it lies, loose, g/l (memory).
CHOPPED: dict[str, tuple[Fibre, str, float]] = {
    "chopped carbon": ("carbon", "Chopped carbon tow", 350.0),
    "chopped glass": ("E-glass", "Chopped glass strand", 300.0),
}


@dataclass(frozen=True)
class Fill:
    """What is stirred in: its name, its own density, g/cm³, how it lies loose, g/l, its share of the resin, its price."""

    name: str
    density_g_per_cm3: float
    loose_g_per_l: float
    on_resin: float
    price_per_kg: float | None = None


def on_the_resin(share: float, of_the_whole: bool) -> float:
    """A share as one of the resin. Raises OutOfRange for a whole that holds no resin. Exact.

    >>> round(on_the_resin(1 / 6, True), 3), on_the_resin(0.2, False)
    (0.2, 0.2)
    """
    if not of_the_whole:
        return share
    if share >= 1:
        raise OutOfRange("of the whole it must be under 100 %", "filled_share")
    return share / (1 - share)


def chopped_fill(kind: str, on_resin: float) -> Fill:
    """Chopped fibre as a fill. Densities: published, textbook values; how it lies loose from memory.

    >>> chopped_fill("chopped carbon", 0.2).density_g_per_cm3
    1.79
    """
    fibre, name, loose = CHOPPED[kind]
    return Fill(name, FIBRE_DENSITY_G_PER_CM3[fibre], loose, on_resin)


@dataclass(frozen=True)
class Filled:
    """Resin and fill of one cavity, g. Over the floor the resin alone stands at `level_mm`, what is stirred in lifts it by
    `rise_mm`, and `short_mm` are left to the brim: under nought it stands over it.
    """

    resin_g: float
    fill_g: float
    level_mm: float
    rise_mm: float
    short_mm: float


def filled(
    volume_l: float,
    surface_m2: float,
    resin_g_per_ml: float,
    fill: Fill | None = None,
    *,
    taken_off: bool = True,
    held_back: float = 0.0,
) -> Filled:
    """What a cavity takes: m = V/(1/ρ + w/ρ_f), or V ρ where the volume of the fill is left over. Exact.

    `held_back` is the share of the resin, with its fill, that waits: what is then short is told. Raises OutOfRange, at
    `filled_share`, for more than fits.

    >>> carbon = Fill("tow", 1.78, 350, 0.2)
    >>> both = [filled(3.6, 0.18, 1.10, carbon, taken_off=off) for off in (True, False)]
    >>> [(round(each.resin_g), round(each.fill_g), round(each.short_mm, 2)) for each in both]
    [(3524, 705, 0.0), (3960, 792, -2.47)]
    """
    share, density = (fill.on_resin, fill.density_g_per_cm3) if fill else (0.0, 1.0)
    by_volume = share / density / (1 / resin_g_per_ml + share / density)
    if by_volume > MOST_FILL_BY_VOLUME:
        raise OutOfRange(
            f"so much is {100 * by_volume:.0f} % of the volume and stands out of the resin: take less", "filled_share"
        )
    ml = 1000 * volume_l
    resin = ml / (1 / resin_g_per_ml + share / density) if taken_off else ml * resin_g_per_ml
    brim, now = volume_l / surface_m2, 1 - held_back
    level, rise = (
        now * grams / each / 1000 / surface_m2 for grams, each in ((resin, resin_g_per_ml), (resin * share, density))
    )
    return Filled(resin, resin * share, level, rise, round(brim - level - rise, 9) + 0.0)


def filled_in_lifts(
    count: int,
    volume_l: float,
    surface_m2: float,
    resin_g_per_ml: float,
    fill: Fill | None,
    *,
    clear_first: bool = False,
    taken_off: bool = True,
    held_back: float = 0.0,
) -> tuple[Filled, ...]:
    """What each of so many even lifts takes; with `clear_first` the first has nothing stirred in, where there is a second.

    >>> carbon = Fill("tow", 1.78, 350, 0.2)
    >>> [round(each.fill_g) for each in filled_in_lifts(2, 3.6, 0.18, 1.10, carbon, clear_first=True)]
    [0, 352]
    """
    return tuple(
        filled(
            volume_l / count,
            surface_m2,
            resin_g_per_ml,
            None if clear_first and count > 1 and number == 0 else fill,
            taken_off=taken_off,
            held_back=held_back,
        )
        for number in range(count)
    )


def in_all(lifts: Sequence[Filled]) -> Filled:
    """What several lifts take together. Exact."""
    return Filled(*(sum(getattr(each, field.name) for each in lifts) for field in fields(Filled)))


def kilo_for_litre(volume_l: float, surface_m2: float, resin_g_per_ml: float) -> tuple[float, float]:
    """What is short where a litre is taken for a kilo: mm under the brim, and litres; under nought it is over. Exact.

    >>> [round(each, 3) for each in kilo_for_litre(3.6, 0.18, 1.10)]
    [1.818, 0.327]
    """
    short_l = volume_l * (1 - 1 / resin_g_per_ml)
    return short_l / surface_m2, short_l
