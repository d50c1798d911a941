"""How freely resin runs through what is laid: permeability by fabric, of the whole bed, and how far the fabric lags behind a
mesh that lies over it. Permeability in m², thickness in m.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from layup.architecture import Architecture as A
from layup.bag.stack import MESH_MM
from layup.infusion.bed import Layered
from layup.laminate.outcome import PlyResult
from layup.under_vacuum import InfusionWishes


@dataclass(frozen=True)
class Permeability:
    """Of a fabric under a bag: along it and through it, m², where so much of it is open, 0 to 1 (memory)."""

    along_m2: float
    through_m2: float
    pores: float

    def at(self, pores: float) -> "Permeability":
        """The same where more or less of it is open: as φ³ / (1 − φ)².

        Source: published (the equation of Kozeny and Carman).

        >>> round(Permeability(6e-11, 6e-12, 0.50).at(0.55).along_m2 * 1e12, 1)
        98.6
        """
        times = (pores / self.pores) ** 3 * ((1 - self.pores) / (1 - pores)) ** 2
        return Permeability(self.along_m2 * times, self.through_m2 * times, pores)


_MAT = Permeability(4e-10, 5e-11, 0.73)
_STITCHED = Permeability(6e-11, 6e-12, 0.50)
_CLOTH = Permeability(3e-11, 3e-12, 0.52)
_CARBON = Permeability(2e-11, 1e-12, 0.48)
_SPREAD_TOW = Permeability(5e-12, 3e-13, 0.45)
_BY_BUILD: dict[A, Permeability] = {
    A.CHOPPED_MAT: _MAT,
    A.CONTINUOUS_MAT: _MAT,
    A.VEIL: _MAT,
    A.CHOPPED_TOW: _MAT,
    A.COMBINATION: Permeability(1e-10, 1e-11, 0.60),
    A.BIAXIAL: _STITCHED,
    A.TRIAXIAL: _STITCHED,
    A.UNIDIRECTIONAL: _STITCHED,
    A.WOVEN_CLOTH: _CLOTH,
    A.WOVEN_ROVING: _CLOTH,
    A.TAPE: _CLOTH,
    A.SPREAD_TOW: _SPREAD_TOW,
}
MESH_M2, MESH_PORES = 2e-9, 0.60  # memory


def permeability_of(ply: PlyResult) -> Permeability | None:
    """Of one ply: by what it is made of; none of what is no fibre. Carbon lets less through than glass of its build."""
    found = _BY_BUILD.get(ply.architecture) if ply.architecture != "coat" else None
    if found is None or ply.fibre != "carbon":
        return found
    return found if found.along_m2 < _CARBON.along_m2 else _CARBON


@dataclass(frozen=True)
class FibreBed:
    """The bed of a part: what flows in it without mesh and under it, how thick its fabric lies, m, and what it lags, in S."""

    plain: Layered
    meshed: Layered | None
    fabric_m: float
    lag_s: float

    @property
    def widest(self) -> Layered:
        return self.meshed or self.plain

    @property
    def thickness_m(self) -> float:
        return self.fabric_m + (MESH_MM / 1000 if self.meshed else 0.0)

    @property
    def lag_m(self) -> float:
        """How far the front in the fabric lies behind that in the mesh over it, m: √(2 S_lag K/φ).

        Source: published form (one-dimensional Darcy flow, along the mesh and through the fabric).
        """
        return sqrt(2 * self.lag_s * self.widest.either_way_m3 / self.widest.pores_m)

    @property
    def permeability_m2(self) -> float:
        """Of all of it, m²; where its grooves run one way, the mean of both ways."""
        return self.widest.either_way_m3 / self.thickness_m


def groove_kh_m3(width_mm: float, depth_mm: float, every_mm: float) -> float:
    """What grooves in a core let through, as permeability times thickness, m³.

    Kh = b d³/12 · (1 − 0.63 (d/b)(1 − (d/b)⁴/12)) / pitch, the longer side as b.
    Source: published (laminar flow in a rectangular duct, textbook approximation).

    >>> f"{groove_kh_m3(2, 2, 25):.3e}"
    '2.253e-11'
    """
    b, d = max(width_mm, depth_mm) / 1000, min(width_mm, depth_mm) / 1000
    return b * d**3 / 12 * (1 - 0.63 * d / b * (1 - (d / b) ** 4 / 12)) / (every_mm / 1000)


def lag_of(pores_m: float, fabric_m: float, through_m2: float) -> float:
    """How far the fabric fills behind the mesh over it, in S: φ h²/2K_z.

    Source: published form (one-dimensional Darcy flow through the thickness).

    >>> f"{lag_of(0.5 * 3e-3, 3e-3, 6e-12):.3e}"
    '3.750e+05'
    """
    return pores_m * fabric_m / (2 * through_m2) if fabric_m else 0.0


def fibre_bed(
    plies: Sequence[PlyResult], wishes: InfusionWishes, resin_g_per_ml: float, meshed: bool, times: float = 1.0
) -> FibreBed:
    """The bed of a stack, so many `times` as open as its fabrics are told to be. What a ply holds of resin over its thickness
    is its porosity, so that all three agree."""
    kh, pores, fabric_m, over_k, along, up = 0.0, 0.0, 0.0, 0.0, 0.0, 0.0
    grooved = wishes.groove_width_mm
    for ply in plies:
        held_m = ply.resin_gsm / resin_g_per_ml / 1e6
        if ply.architecture is A.CORE:
            pores += held_m
            if grooved:
                in_grooves = groove_kh_m3(grooved, wishes.groove_depth_mm, wishes.groove_every_mm)
                along += in_grooves * (wishes.grooves_run != "up and down")
                up += in_grooves * (wishes.grooves_run != "left to right")
        found = permeability_of(ply)
        if found is None or not ply.stays:
            continue
        thick = ply.thickness_mm / 1000
        found = found.at(held_m / thick)
        kh += found.along_m2 * thick
        over_k += thick / found.through_m2
        fabric_m += thick
        pores += held_m
    known_m2, mesh_m = wishes.permeability_m2, MESH_MM / 1000

    def layered(of_fabric_m3: float, thickness_m: float, holds_m: float, *, known: bool) -> Layered:
        if known and known_m2 is not None:
            return Layered(known_m2 * thickness_m, holds_m)
        return Layered(times * (of_fabric_m3 + along), holds_m, times * (of_fabric_m3 + up))

    if not meshed:
        return FibreBed(layered(kh, fabric_m, pores, known=True), None, fabric_m, 0.0)
    plain = layered(kh, fabric_m, pores, known=False)
    over = layered(kh + MESH_M2 * mesh_m, fabric_m + mesh_m, pores + MESH_PORES * mesh_m, known=True)
    through = times * fabric_m / over_k if over_k else 1.0
    return FibreBed(plain, over, fabric_m, lag_of(pores, fabric_m, through))
