"""Thickened mixes: how much resin and filler make a wanted volume of paste."""

from dataclasses import dataclass

from layup.errors import OutOfRange
from layup.materials import Consistency, Filler

MOST_SOLIDS_BY_VOLUME = 0.55


@dataclass(frozen=True)
class Paste:
    """Mixed resin and filler for a volume of paste: masses in g, volumes in ml, density in g/ml."""

    volume_ml: float
    resin_g: float
    filler_g: float
    filler_loose_ml: float
    solids_by_volume: float
    filler_parts_per_100_resin: float


def paste_for_volume(
    volume_ml: float, filler: Filler, consistency: Consistency, resin_density_g_per_ml: float
) -> Paste:
    """Resin and filler that yield `volume_ml` of paste at a consistency: V = m_resin/ρ_resin + m_filler/ρ_true.

    Filler is counted as loose volumes for one of mixed resin (memory; the powder's air is stirred out).
    Raises OutOfRange where solids pass 0.55 by volume, since the mix will not wet.

    >>> from layup.library import generic
    >>> flour = generic().fillers[1]
    >>> paste = paste_for_volume(428, flour, "stands", 1.12)
    >>> round(paste.resin_g), round(paste.filler_g), round(paste.filler_loose_ml)
    (395, 109, 494)
    """
    loose = filler.parts(consistency)
    filler_g_per_resin_ml = loose * filler.bulk_density_g_per_l / 1000
    solid_ml_per_resin_ml = filler_g_per_resin_ml / filler.true_density_g_per_cm3
    solids = solid_ml_per_resin_ml / (1 + solid_ml_per_resin_ml)
    if solids > MOST_SOLIDS_BY_VOLUME:
        raise OutOfRange(f"{filler.name} at “{consistency}” is {solids:.0%} solids and will not wet: mix it softer")
    resin_ml = volume_ml / (1 + solid_ml_per_resin_ml)
    resin_g = resin_ml * resin_density_g_per_ml
    filler_g = resin_ml * filler_g_per_resin_ml
    return Paste(volume_ml, resin_g, filler_g, resin_ml * loose, solids, 100 * filler_g / resin_g)
