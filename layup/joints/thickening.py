"""Thickened mixes: what filler a consistency takes, how much resin and filler make a volume of paste, and the other way."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import get_args

from layup.errors import OutOfRange
from layup.materials import Consistency, Filler

MOST_SOLIDS_BY_VOLUME = 0.55
STIRRED_IN_AIR_SHARE = 0.03  # memory: what stirring by hand leaves in
CRUMBLES_FROM = 1.5  # memory: past so many times what stands, a paste is dry and crumbles
CONSISTENCIES: tuple[Consistency, ...] = get_args(Consistency)


@dataclass(frozen=True)
class Stirred:
    """One filler of a recipe, `parts` loose volumes of it for one volume of mixed resin."""

    filler: Filler
    parts: float

    @property
    def g_per_resin_ml(self) -> float:
        return self.parts * self.filler.bulk_density_g_per_l / 1000

    @property
    def solid_ml_per_resin_ml(self) -> float:
        return self.g_per_resin_ml / self.filler.true_density_g_per_cm3


Recipe = tuple[Stirred, ...]


def recipe_for(
    filler: Filler,
    consistency: Consistency,
    *,
    second: Filler | None = None,
    second_share: float = 0.0,
    own_parts: float | None = None,
    fillers: Mapping[str, Filler] | None = None,
) -> Recipe:
    """What makes a consistency: one filler, or two that each do their share of it.

    Of two, a `second_share` of what the second would take alone goes in, and the rest of what the first would (memory).
    A filler that does not stand by itself takes its helper from `fillers`. `own_parts` are the builder's own, of the first.
    Raises OutOfRange where solids pass 0.55 by volume, since the mix will not wet, or the helper is not at hand.

    >>> from layup.library import generic
    >>> shelf = {filler.id: filler for filler in generic().fillers}
    >>> [(part.filler.id, part.parts) for part in recipe_for(shelf["milled-glass"], "stands", fillers=shelf)]
    [('milled-glass', 0.9), ('silica', 0.5)]
    >>> mixed = recipe_for(shelf["wood-flour"], "stands", second=shelf["silica"], second_share=0.5)
    >>> [round(part.parts, 2) for part in mixed]
    [0.7, 0.95]
    """
    share = second_share if second else 0.0
    parts = [Stirred(filler, own_parts or (1 - share) * filler.parts(consistency))]
    if second:
        parts.append(Stirred(second, share * second.parts(consistency)))
    elif own_parts is None and consistency == "stands" and filler.helper_id:
        helper = (fillers or {}).get(filler.helper_id)
        if helper is None:
            raise OutOfRange(f"{filler.name} does not stand by itself: put {filler.helper_id} beside it")
        parts.append(Stirred(helper, filler.helper_parts or 0.0))
    found = tuple(part for part in parts if part.parts > 0)
    solids = solids_by_volume(found)
    if solids > MOST_SOLIDS_BY_VOLUME:
        raise OutOfRange(
            f"{filler.name} comes to {100 * solids:.0f} % solids by volume and will not wet: mix it softer"
        )
    return found


def solids_by_volume(recipe: Recipe) -> float:
    """The fillers' share of a paste's volume, 0 to 1; the powders' air is stirred out."""
    solid = sum(part.solid_ml_per_resin_ml for part in recipe)
    return solid / (1 + solid)


def reaches(filler: Filler, parts: float) -> Consistency | None:
    """The stiffest consistency that so many loose parts of a filler reach; None where it hardly thickens.

    >>> from layup.library import generic
    >>> reaches(generic().fillers[1], 1.2)
    'peaks'
    """
    reached = [word for word in CONSISTENCIES if parts >= filler.parts(word) - 1e-9]
    return reached[-1] if reached else None


@dataclass(frozen=True)
class Paste:
    """Mixed resin with its fillers: masses in g, volumes in ml. Its own volume is without the air stirred in."""

    resin_g: float
    resin_ml: float
    recipe: Recipe

    @cached_property
    def volume_ml(self) -> float:
        """V = m_resin/ρ_resin + m_filler/ρ_true."""
        return self.resin_ml * (1 + sum(part.solid_ml_per_resin_ml for part in self.recipe))

    @property
    def with_air_ml(self) -> float:
        """What it comes to in the cup, with the air that stirring leaves."""
        return self.volume_ml / (1 - STIRRED_IN_AIR_SHARE)

    def loose_ml(self, part: Stirred) -> float:
        """Loose volume of one of its fillers."""
        return self.resin_ml * part.parts

    def grams(self, part: Stirred) -> float:
        """Mass of one of its fillers."""
        return self.resin_ml * part.g_per_resin_ml

    @cached_property
    def filler_g(self) -> float:
        return sum(map(self.grams, self.recipe))

    @property
    def filler_loose_ml(self) -> float:
        return sum(map(self.loose_ml, self.recipe))

    @property
    def mass_g(self) -> float:
        return self.resin_g + self.filler_g

    @property
    def density_g_per_ml(self) -> float:
        return self.mass_g / self.volume_ml

    @property
    def filler_mass_fraction(self) -> float:
        return self.filler_g / self.mass_g

    @property
    def filler_parts_per_100_resin(self) -> float:
        return 100 * self.filler_g / self.resin_g

    def times(self, share: float) -> "Paste":
        """So much of it."""
        return Paste(self.resin_g * share, self.resin_ml * share, self.recipe)


def paste_from_resin(resin_g: float, recipe: Recipe, resin_density_g_per_ml: float) -> Paste:
    """What so much mixed resin makes, stirred by a recipe.

    >>> from layup.library import generic
    >>> paste = paste_from_resin(112, recipe_for(generic().fillers[1], "stands"), 1.12)
    >>> round(paste.volume_ml, 1), round(paste.filler_g, 1), round(paste.filler_loose_ml)
    (121.2, 30.8, 140)
    """
    return Paste(resin_g, resin_g / resin_density_g_per_ml, recipe)


def paste_for_volume(volume_ml: float, recipe: Recipe, resin_density_g_per_ml: float) -> Paste:
    """Resin and fillers that yield `volume_ml` of paste: V = m_resin/ρ_resin + m_filler/ρ_true, solved for the resin.

    >>> from layup.library import generic
    >>> paste = paste_for_volume(428, recipe_for(generic().fillers[1], "stands"), 1.12)
    >>> round(paste.resin_g), round(paste.filler_g), round(paste.filler_loose_ml)
    (395, 109, 494)
    """
    resin_ml = volume_ml / (1 + sum(part.solid_ml_per_resin_ml for part in recipe))
    return Paste(resin_ml * resin_density_g_per_ml, resin_ml, recipe)
