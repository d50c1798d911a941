"""Resin for a ply, its thickness and its shares. Fibre areal weight W in g/m², fibre weight fraction ψ."""

from dataclasses import dataclass

from layup.architecture import TABLE_SOURCE, Fraction
from layup.errors import Missing, OutOfRange
from layup.job import Process, ResinContent, Surface
from layup.materials import FIBRE_DENSITY_G_PER_CM3, Fabric

# Carbon has no row of its own in the table (memory): cloth and spread tow by hand, in a bag.
_CARBON_CLOTH = Fraction(0.45, None, 0.575, "memory")
# Infused, whatever the architecture of the glass (memory).
_INFUSED = {"carbon": 0.625, "E-glass": 0.68}
# How far a way of working moves the table (memory).
_SHIFT_WOVEN = {"as the table": 0.0, "lean": 0.03, "generous": -0.04}
_SHIFT_MAT = {"as the table": 0.0, "lean": 0.02, "generous": -0.02}
MOPPED_OFF_SHARE_LEAN = 0.10
# What presses on a bag at the level that the figures above are of, mbar: 100 mbar left under it, at the sea (memory).
TABLE_PULL_MBAR = 913.25
# How fibre gives way to what presses on it: its share of the volume goes with so small a power of the pressure. The form is
# published (the power law of fabric compaction, P = a·Vf^b), its number of glass and carbon is from memory.
_GIVES = 0.1


@dataclass(frozen=True)
class FibreFraction:
    """A fibre weight fraction with where it comes from and whether resin is put on and mopped off to reach it."""

    value: float
    source: str
    mopped_off_share: float = 0.0


def fibre_weight_fraction(
    fabric: Fabric, surface: Surface, resin_content: ResinContent, process: Process = "open mould"
) -> FibreFraction:
    """The fibre weight fraction to expect of a fabric, 0 to 1.

    By hand in an open mould `resin_content` moves it: "by fabric" is lean for woven and stitched goods and the table's
    value for mat. A bag and an infusion set their own share. Raises Missing where no figure is known. Source:
    ISO 12215-5 from memory, common practice or memory, as the result says.

    >>> from layup.library import generic
    >>> mat = next(fabric for fabric in generic().fabrics if fabric.id == "csm-450")
    >>> fibre_weight_fraction(mat, "simple", "as the table")
    FibreFraction(value=0.3, source='published (ISO 12215-5), from memory', mopped_off_share=0.0)
    >>> fibre_weight_fraction(mat, "simple", "as the table", "vacuum bag").value
    0.36
    """
    if process == "infusion":
        return _infused(fabric)
    row = _row(fabric)
    if process == "vacuum bag":
        return FibreFraction(_known(row.bagged, fabric, "in a vacuum bag"), row.source)
    where = "by hand" if surface == "simple" else "on a complex surface"
    base = _known(row.simple if surface == "simple" else row.complex, fabric, where)
    is_mat = fabric.build.mat
    content = resin_content
    if content == "by fabric":
        content = "as the table" if is_mat else "lean"
    shift = (_SHIFT_MAT if is_mat else _SHIFT_WOVEN)[content]
    moved = f"{100 * abs(shift):.0f} % {'more' if shift > 0 else 'less'} fibre"
    told = row.source if not shift else f"{row.source}; {content}, {moved} (memory)"
    return FibreFraction(round(base + shift, 4), told, MOPPED_OFF_SHARE_LEAN if content == "lean" else 0.0)


def _row(fabric: Fabric) -> Fraction:
    if (share := fabric.mat_share) is not None:
        return Fraction(0.46 - 0.18 * share, 0.35 - 0.11 * share, 0.56 - 0.22 * share, TABLE_SOURCE)
    if fabric.fibre == "carbon" and fabric.build.woven:
        return _CARBON_CLOTH
    return fabric.build.fraction


def _infused(fabric: Fabric) -> FibreFraction:
    if fabric.build.mat:
        return FibreFraction(_known(None, fabric, "by infusion"), "")
    return FibreFraction(_known(_INFUSED.get(fabric.fibre), fabric, "by infusion"), "memory")


def _known(fraction: float | None, fabric: Fabric, how: str) -> float:
    if fraction is None:
        raise Missing(f"no fibre share is known for {fabric.name} {how}: type psi for this ply")
    return fraction


def pressed_fraction(fraction: float, fibre_density: float, resin_density: float, pull_mbar: float) -> float:
    """The fibre weight fraction at what presses on a bag, mbar, of a `fraction` that is told of `TABLE_PULL_MBAR`, 0 to 1.

    Vf goes with the pull to the power 0.1. Source: published form (the power law of fabric compaction), its number memory.

    >>> round(pressed_fraction(0.575, 1.8, 1.15, 913.25), 3), round(pressed_fraction(0.575, 1.8, 1.15, 400), 3)
    (0.575, 0.538)
    """
    fibre, resin = fraction / fibre_density, (1 - fraction) / resin_density
    by_volume = fibre / (fibre + resin) * (pull_mbar / TABLE_PULL_MBAR) ** _GIVES
    mass = by_volume * fibre_density
    return mass / (mass + (1 - by_volume) * resin_density)


def resin_areal_weight_gsm(fibre_gsm: float, fibre_fraction: float) -> float:
    """Resin held by a ply: R = W (1 − ψ) / ψ, g/m². Raises OutOfRange unless 0 < ψ < 1.

    >>> round(resin_areal_weight_gsm(450, 0.30))
    1050
    """
    if not 0 < fibre_fraction < 1:
        raise OutOfRange("the fibre's share of the weight lies between 0 and 1")
    return fibre_gsm * (1 - fibre_fraction) / fibre_fraction


def thickness_mm(fibre_gsm: float, resin_gsm: float, fibre_density: float, resin_density: float) -> float:
    """Thickness of a ply: t = W/ρ_fibre + R/ρ_resin, mm, densities in g/cm³ (no voids).

    Source: published, weight over density. For E-glass, 2.56, in polyester, 1.20, it is the thickness of ISO 12215-5,
    t = w/3.072 · (2.56/ψ − 1.36), w in kg/m²; it holds for a laminate without voids.

    >>> round(thickness_mm(450, 1050, 2.56, 1.20), 4)
    1.0508
    """
    return (fibre_gsm / fibre_density + resin_gsm / resin_density) / 1000


def fibre_volume_fraction(fibre_gsm: float, thickness_mm: float, fibre_density: float) -> float:
    """Vf = (W/ρ_fibre) / t, 0 to 1.

    >>> round(fibre_volume_fraction(450, 1.0508, 2.56), 3)
    0.167
    """
    return fibre_gsm / fibre_density / 1000 / thickness_mm


def fibre_density_g_per_cm3(fabric: Fabric) -> float:
    """Density of a fabric's fibre, g/cm³ (memory)."""
    return FIBRE_DENSITY_G_PER_CM3[fabric.fibre]
