"""A resin on its way: how thin it is in a room, how it thickens as it cures, and how far in S it comes before it sets."""

from dataclasses import dataclass
from functools import cached_property
from math import exp

import numpy as np

from layup.chemistry.gel_law import GAS_CONSTANT_J_PER_MOL_K, kelvin
from layup.heat.cure_kinetics import REFERENCE_K, TwoPartCure, viscosity_rise

# Of a fresh mix at 25 °C, where its sheet says nothing (memory).
THIN_MPA_S, USUAL_MPA_S, STYRENE_MPA_S = 300.0, 700.0, 250.0
VISCOSITY_KJ_PER_MOL = 40.0  # how it thins with warmth, as the law of a gel (memory)
# A catalysed resin keeps thin until it is this far to its gel, and then sets within minutes (memory).
THIN_UNTIL = 0.9
_STEPS = 240


def viscosity_pa_s(at_25_mpa_s: float, temperature_c: float) -> float:
    """Viscosity of the fresh mix at a temperature, Pa·s: μ25 · exp(E/R (1/T − 1/298.15)), E 40 kJ/mol (memory).

    >>> [round(viscosity_pa_s(300, room), 3) for room in (15, 25, 35)]
    [0.525, 0.3, 0.178]
    """
    slope_k = VISCOSITY_KJ_PER_MOL * 1000 / GAS_CONSTANT_J_PER_MOL_K
    return at_25_mpa_s / 1000 * exp(slope_k * (1 / kelvin(temperature_c) - 1 / REFERENCE_K))


@dataclass(frozen=True)
class Liquid:
    """A resin as it flows, spread thin at one temperature. Of a two-part one `cure` tells how it thickens; of any other, or
    where the heat model has nothing to say, `gel_min` at that temperature alone."""

    at_25_mpa_s: float
    temperature_c: float
    gel_min: float
    cure: TwoPartCure | None = None

    @property
    def viscosity_pa_s(self) -> float:
        return viscosity_pa_s(self.at_25_mpa_s, self.temperature_c)

    @cached_property
    def _path(self) -> tuple[np.ndarray, np.ndarray]:
        """Seconds since it was mixed, and ∫ dt / (how many times as thick it is by then), s; to its gel."""
        if self.cure is None:
            ends = 60 * THIN_UNTIL * self.gel_min
            return np.array([0.0, ends]), np.array([0.0, ends])
        gels_at = self.cure.gels_at
        # Closer to the gel the steps are finer, where it thickens fastest.
        cured = gels_at * (1 - (1 - np.linspace(0, 1, _STEPS)) ** 2) * (1 - 1e-9)
        rate = self.cure.rates(np.full(_STEPS, kelvin(self.temperature_c)), cured[:, None])[..., 0]
        slower = 1 / rate
        thinner = slower / viscosity_rise(cured, gels_at)
        return _summed(cured, slower), _summed(cured, thinner)

    @property
    def sets_min(self) -> float:
        """When it no longer flows, min from its mixing."""
        return float(self._path[0][-1]) / 60

    def s_at(self, minutes: float | np.ndarray, pull_pa: float) -> np.ndarray:
        """S = ∫ Δp/μ dt of a front that has been drawn for so long."""
        seconds, flowed = self._path
        return pull_pa / self.viscosity_pa_s * np.interp(np.asarray(minutes) * 60, seconds, flowed)

    def s_gel(self, pull_pa: float) -> float:
        """How far it comes before it sets, in S."""
        return float(self._path[1][-1] * pull_pa / self.viscosity_pa_s)

    def minutes_at(self, s: float | np.ndarray, pull_pa: float) -> np.ndarray:
        """When it has come so far, min; infinite past its gel."""
        seconds, flowed = self._path
        told = np.asarray(s) * self.viscosity_pa_s / pull_pa
        return np.where(told <= flowed[-1], np.interp(told, flowed, seconds) / 60, np.inf)


def _summed(x: np.ndarray, y: np.ndarray) -> np.ndarray:
    """∫ y dx from the first of x on, by trapezia."""
    return np.concatenate([[0.0], np.cumsum((y[1:] + y[:-1]) / 2 * np.diff(x))])
