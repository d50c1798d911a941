"""Gel time of a product in a kind of vessel as a table: built once from the full model, looked up in microseconds.

The full model is solved at a few nodes; between them the lumped model carries its shape.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache
from math import exp, log
from typing import Literal

import numpy as np
from scipy.interpolate import RectBivariateSpline

from layup.chemistry.gel_law import kelvin
from layup.heat.conduction import DENSITY_G_PER_CM3, PACK_C, Body, cup, gel_min, tray
from layup.heat.cure_kinetics import TwoPartCure
from layup.heat.lumped_heat import cooling_per_s, lumped_gel_min, lumped_peak

COLDEST_C, WARMEST_C = 0.0, 50.0
LEAST_G, MOST_G = 0.2, 6000.0
LEAST_DEPTH_MM, MOST_DEPTH_MM = 0.2, 100.0
_FINE = 24
_NODES: dict[str, tuple[int, int]] = {"cup": (14, 10), "tray": (16, 10), "cool pack": (16, 9)}

Vessel = Literal["cup", "tray", "cool pack"]


@dataclass(frozen=True)
class GelTable:
    """ln of gel time, and the peak, over ln of the size and 1/T. The size is g in a cup, mm of depth in a tray, on a cool pack or not.

    Past an edge the edge's value stands.
    """

    vessel: Vessel
    ln_gel: RectBivariateSpline
    peak: RectBivariateSpline

    def gel_min(self, size: float, room_c: float) -> float:
        """Minutes to gel."""
        return exp(self.ln_gel.ev(self._held(size), 1 / kelvin(min(max(room_c, COLDEST_C), WARMEST_C))))

    def peak_c(self, size: float, room_c: float) -> float:
        """The mean's peak if it is left standing, °C, by the lumped model."""
        return float(self.peak.ev(self._held(size), 1 / kelvin(min(max(room_c, COLDEST_C), WARMEST_C))))

    def _held(self, size: float) -> float:
        least, most = _sizes(self.vessel)
        return log(min(max(size, least), most))


def rough_table(cure: TwoPartCure, vessel: Vessel = "cup", density_g_per_cm3: float = DENSITY_G_PER_CM3) -> GelTable:
    """The table by the lumped model, at once."""
    sizes, inverse = _grid(vessel, _FINE, _FINE)
    body = _body(vessel, density_g_per_cm3)
    cooling = np.array([cooling_per_s(body(size)) for size in np.exp(sizes)])[:, None] * np.ones(_FINE)
    rooms = np.broadcast_to(1 / inverse - 273.15, (_FINE, _FINE))
    ln_gel = np.log(lumped_gel_min(cure, cooling, rooms))
    peak = lumped_peak(cure, cooling, rooms).peak_c
    # A straight line between the nodes of the peak: a cubic would swing past its cliff.
    linear = RectBivariateSpline(sizes, inverse, peak, kx=1, ky=1)
    return GelTable(vessel, RectBivariateSpline(sizes, inverse, ln_gel), linear)


@lru_cache(maxsize=256)
def gel_table(cure: TwoPartCure, vessel: Vessel = "cup", density_g_per_cm3: float = DENSITY_G_PER_CM3) -> GelTable:
    """The table by the full model, within 1 % of it.

    >>> from layup.heat.heat_fit import StatedPot, fitted_cure
    >>> table = gel_table(fitted_cure(StatedPot(20, 25, 100)))
    >>> round(table.gel_min(100, 25), 1)
    20.0
    """
    # A body cooled by two things is none that one temperature can stand for: its table is of the full model alone.
    rough = rough_table(cure, "tray" if vessel == "cool pack" else vessel, density_g_per_cm3)
    sizes, inverse = _grid(vessel, *_NODES[vessel])
    body = _body(vessel, density_g_per_cm3)
    full = np.log([[gel_min(body(size), cure, 1 / i - 273.15) for i in inverse] for size in np.exp(sizes)])
    if vessel == "cool pack":
        return GelTable(vessel, RectBivariateSpline(sizes, inverse, full), rough.peak)
    off = RectBivariateSpline(sizes, inverse, full - rough.ln_gel(sizes, inverse))
    fine = _grid(vessel, _FINE, _FINE)
    return GelTable(vessel, RectBivariateSpline(*fine, rough.ln_gel(*fine) + off(*fine)), rough.peak)


@lru_cache(maxsize=256)
def share_table(cure: TwoPartCure, ends_at: float) -> RectBivariateSpline:
    """The share of its time to gel at which a pot in its cup has cured so far, over ln of its mass and 1/T, by the lumped
    model: what it is out by is out of both times."""
    sizes, inverse = _grid("cup", _FINE, _FINE)
    body = _body("cup", DENSITY_G_PER_CM3)
    cooling = np.array([cooling_per_s(body(size)) for size in np.exp(sizes)])[:, None] * np.ones(_FINE)
    rooms = np.broadcast_to(1 / inverse - 273.15, (_FINE, _FINE))
    ends = lumped_gel_min(replace(cure, gels_at=ends_at), cooling, rooms)
    return RectBivariateSpline(sizes, inverse, ends / lumped_gel_min(cure, cooling, rooms), kx=1, ky=1)


def _sizes(vessel: Vessel) -> tuple[float, float]:
    return (LEAST_G, MOST_G) if vessel == "cup" else (LEAST_DEPTH_MM, MOST_DEPTH_MM)


def _grid(vessel: Vessel, by_size: int, by_warmth: int) -> tuple[np.ndarray, np.ndarray]:
    least, most = _sizes(vessel)
    return np.linspace(log(least), log(most), by_size), np.linspace(
        1 / kelvin(WARMEST_C), 1 / kelvin(COLDEST_C), by_warmth
    )


def _body(vessel: Vessel, density_g_per_cm3: float) -> Callable[[float], Body]:
    if vessel == "cup":
        return lambda mass_g: cup(mass_g, density_g_per_cm3=density_g_per_cm3)
    pack_c = PACK_C if vessel == "cool pack" else None
    return lambda depth_mm: tray(depth_mm / 1000, pack_c, density_g_per_cm3)
