"""A part as it was laid: its plies with the resin that really went into them."""

from collections.abc import Mapping

from layup.laminate.outcome import PartResult, PlyResult
from layup.laminate.weights import fibre_volume_fraction, thickness_mm
from layup.materials import FIBRE_DENSITY_G_PER_CM3


def as_laid(part: PartResult, resin_shares: Mapping[str, float], cured_g_per_cm3: float) -> PartResult:
    """A part with those of its plies that were laid, each with so many times the resin it was planned with.

    `resin_shares` are by ply, a ply that is not among them was not laid. The density is that of the cured resin, g/cm³.
    A core keeps its thickness; a coat is as much thicker as it is heavier. Exact, without voids.

    >>> bare = PartResult.model_construct(plies=(), thickness_mm=2.0, fibre_weight_fraction=0.5)
    >>> as_laid(bare, {}, 1.15).thickness_mm
    0.0
    """
    plies = tuple(
        ply_as_laid(ply, resin_shares[ply.id], cured_g_per_cm3) for ply in part.plies if ply.id in resin_shares
    )
    left_in = [ply for ply in plies if ply.stays and ply.coat != "wet-out"]
    whole = [ply for ply in left_in if ply.fibre_weight_fraction is not None]
    fibre_gsm, resin_gsm = sum(ply.fibre_gsm for ply in whole), sum(ply.resin_gsm for ply in whole)
    reinforced_mm = sum(ply.thickness_mm for ply in whole)
    fibre_mm = sum((ply.fibre_volume_fraction or 0.0) * ply.thickness_mm for ply in whole)
    return part.model_copy(
        update={
            "plies": plies,
            "thickness_mm": float(sum(ply.thickness_mm for ply in left_in)),
            "laminate_gsm": sum(ply.fibre_gsm + ply.resin_gsm for ply in left_in),
            "fibre_weight_fraction": fibre_gsm / (fibre_gsm + resin_gsm) if fibre_gsm else None,
            "fibre_volume_fraction": fibre_mm / reinforced_mm if reinforced_mm else None,
            "fibre_g": sum(ply.fibre_g for ply in left_in),
            "resin_in_plies_g": sum(ply.resin_g for ply in left_in if not ply.coat),
            "coats_g": sum(ply.resin_g for ply in left_in if ply.coat),
            "weight_g": sum(ply.fibre_g + ply.resin_g for ply in left_in),
        }
    )


def ply_as_laid(ply: PlyResult, resin_share: float, cured_g_per_cm3: float) -> PlyResult:
    """A ply with so many times the resin it was planned with. Exact, without voids.

    >>> mat = PlyResult.model_construct(fibre="E-glass", fibre_gsm=450, resin_gsm=1050, resin_g=1050,
    ...     fibre_weight_fraction=0.3, thickness_mm=1.05, architecture="CSM", resin_to_fibre=2.33, stays=True, coat=None)
    >>> more = ply_as_laid(mat, 1.2, 1.2)
    >>> round(more.fibre_weight_fraction, 3), round(more.thickness_mm, 3)
    (0.263, 1.226)
    """
    resin_gsm = ply.resin_gsm * resin_share
    changed: dict[str, float] = {"resin_gsm": resin_gsm, "resin_g": ply.resin_g * resin_share}
    if ply.fibre == "none":
        changed["thickness_mm"] = ply.thickness_mm * resin_share
    elif ply.fibre_weight_fraction is not None:
        density = FIBRE_DENSITY_G_PER_CM3[ply.fibre]
        thick = thickness_mm(ply.fibre_gsm, resin_gsm, density, cured_g_per_cm3)
        changed |= {
            "thickness_mm": thick,
            "fibre_weight_fraction": ply.fibre_gsm / (ply.fibre_gsm + resin_gsm),
            "fibre_volume_fraction": fibre_volume_fraction(ply.fibre_gsm, thick, density),
            "resin_to_fibre": resin_gsm / ply.fibre_gsm,
        }
    return ply.model_copy(update=changed)
