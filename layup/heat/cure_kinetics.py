"""How a resin's cure goes on in one place: its rate by temperature and by how far it has got. Kelvin, seconds, J/g."""

from dataclasses import dataclass
from math import log, sqrt
from typing import ClassVar, TypeVar

import numpy as np
from scipy.optimize import brentq

from layup.chemistry.gel_law import (
    EPOXY_ACTIVATION_KJ_PER_MOL,
    GAS_CONSTANT_J_PER_MOL_K,
    GelLaw,
    kelvin,
)

REFERENCE_K = 298.15
HEAT_J_PER_G = 350.0  # of mixed resin (memory)
SPECIFIC_HEAT_J_PER_G_K = 2.0  # memory
_KAPPA, _ORDER_M, _ORDER_N = 0.1, 1.0, 1.5  # memory
_IGNITED = 0.02  # width of the step at the end of the induction, which a solver cannot take sharp


def gel_conversion(functionality_amine: int = 4, functionality_epoxide: int = 2) -> float:
    """Share cured at which an amine and an epoxide at balance gel: 1/√((f − 1)(g − 1)).

    Source: published (Flory and Stockmayer's gel point of a step growth, f of the amine, g of the epoxide). It holds for
    groups that react alike, at balance, without rings.

    >>> round(gel_conversion(), 3)
    0.577
    """
    return 1 / sqrt((functionality_amine - 1) * (functionality_epoxide - 1))


GEL_CONVERSION = gel_conversion()


# A share cured, or many.
Cured = TypeVar("Cured", float, np.ndarray)


def viscosity_rise(cured: Cured, gels_at: float = GEL_CONVERSION) -> Cured:
    """How many times as thick a resin is that has cured so far: (α_g/(α_g − α))^(1.5 + α).

    Source: published (Castro and Macosko, 1980, (α_g/(α_g − α))^(A + Bα)); A = 1.5 and B = 1 from memory. It holds before
    the gel, at one temperature.

    >>> round(viscosity_rise(0.0), 3), round(viscosity_rise(0.193), 1)
    (1.0, 2.0)
    """
    return (gels_at / (gels_at - cured)) ** (1.5 + cured)


def conversion_at_rise(rise: float) -> float:
    """The share cured at which a resin has become so many times as thick.

    >>> round(conversion_at_rise(2.0), 2)
    0.19
    """
    return brentq(lambda cured: viscosity_rise(cured) - rise, 0.0, GEL_CONVERSION * (1 - 1e-9))


# A resin at twice its first viscosity, and where it no longer wets fibre or levels: about four times (memory).
DOUBLED_AT, WORKABLE_UNTIL = conversion_at_rise(2.0), conversion_at_rise(4.0)


@dataclass(frozen=True)
class Glass:
    """How far a resin can cure at a temperature before it turns to glass and all but stops.

    Tg(α) = Tg0 + (Tg∞ − Tg0) λα/(1 − (1 − λ)α) (published, DiBenedetto's equation in the form of Pascault and Williams); its pace falls by 1/(1 + exp(C(α − α_v))), α_v the
    share cured at which Tg is the temperature (published, the diffusion factor of Chern and Poehlein, 1987). Constants: memory,
    of an epoxy that sets in a room.
    """

    uncured_c: float = -50.0
    cured_c: float = 90.0
    shape: float = 0.4
    steepness: float = 30.0

    def constants(self) -> tuple[float, float, float, float]:
        """Tg0 in K, how far it rises, K, λ and C: what its rate is made of."""
        return kelvin(self.uncured_c), self.cured_c - self.uncured_c, self.shape, self.steepness

    def slowing(self, temperature_k: np.ndarray, cured: np.ndarray) -> np.ndarray:
        """The share of its pace that a cure keeps, 0 to 1."""
        low_k, rises_k, shape, steepness = self.constants()
        along = (temperature_k - low_k) / rises_k
        turns_at = along / (shape + (1 - shape) * along)
        return 1 / (1 + np.exp(np.clip(steepness * (cured - turns_at), -60.0, 60.0)))


EPOXY_GLASS = Glass()
_NO_GLASS = (0.0, 1.0, 1.0, 0.0)


@dataclass(frozen=True)
class TwoPartCure:
    """dα/dt = A exp(−Ea/R (1/T − 1/298.15 K)) (κ + γ α^m)(1 − α)^n, the form of Kamal and Sourour (published, 1973).

    `ln_a` is of A per second. The heat is of a gram of mixed resin. Constants: memory, until fitted to a product.
    With a `glass` it slows as it outruns its glass transition.
    """

    ln_a: float
    ea_kj_per_mol: float = EPOXY_ACTIVATION_KJ_PER_MOL
    kappa: float = _KAPPA
    gamma: float = 1.0
    m: float = _ORDER_M
    n: float = _ORDER_N
    heat_j_per_g: float = HEAT_J_PER_G
    gels_at: float = GEL_CONVERSION
    glass: Glass | None = None
    states: ClassVar[int] = 1

    def rates(self, temperature_k: np.ndarray, state: np.ndarray) -> np.ndarray:
        """Rate of conversion, 1/s, where the conversion is `state[..., 0]`."""
        slope_k = self.ea_kj_per_mol * 1000 / GAS_CONSTANT_J_PER_MOL_K
        pace = np.exp(self.ln_a + slope_k / REFERENCE_K - slope_k / temperature_k)
        cured = state[..., 0]
        left = np.maximum(1 - cured, 0.0)
        helped = cured if self.m == 1 else np.maximum(cured, 0.0) ** self.m
        # The usual powers without a power, which costs more than all the rest.
        undone = left * np.sqrt(left) if self.n == 1.5 else left**self.n
        kept = self.glass.slowing(temperature_k, cured) if self.glass else 1.0
        return (pace * (self.kappa + self.gamma * helped) * undone * kept)[..., None]

    def constants(self) -> tuple[float, ...]:
        """ln of the pace at no cold, its slope in K, κ, γ, m and n, and the glass's: what its rate is made of."""
        slope_k = self.ea_kj_per_mol * 1000 / GAS_CONSTANT_J_PER_MOL_K
        glass = self.glass.constants() if self.glass else _NO_GLASS
        return self.ln_a + slope_k / REFERENCE_K, slope_k, self.kappa, self.gamma, self.m, self.n, *glass

    def isothermal_gel_s(self, temperature_c: float) -> float:
        """Seconds to gel in a film so thin that it stays at its room's temperature, by quadrature."""
        steps = np.linspace(0.0, self.gels_at, 401)
        rate = self.rates(np.full(steps.shape, kelvin(temperature_c)), steps[:, None])[:, 0]
        return float(np.trapezoid(1 / rate, steps))


@dataclass(frozen=True)
class CatalysedCure:
    """An induction X with dX/dt = 1/t_gel(T, dose); past X = 1 it cures and heats as `after` says (memory).

    It stays cool until it gels, at X = 1. `after` is of the form (0.1 + α)(1 − α)^1.5 with the gel law's usual slope.
    """

    law: GelLaw
    catalyst_pct: float
    after: TwoPartCure
    states: ClassVar[int] = 2

    @property
    def heat_j_per_g(self) -> float:
        return self.after.heat_j_per_g

    @property
    def gels_at(self) -> float:
        return 1.0

    def constants(self) -> tuple[float, ...]:
        """ln of the gel time at no cold, s, its slope in K, the step at its end, then what it cures by after."""
        dose = (self.catalyst_pct / self.law.catalyst_pct) ** -self.law.n
        slope_k = self.law.ea_kj_per_mol * 1000 / GAS_CONSTANT_J_PER_MOL_K
        ln_gel_s = log(60 * self.law.minutes * dose) - slope_k / kelvin(self.law.temperature_c)
        return ln_gel_s, slope_k, _IGNITED, *self.after.constants()

    def rates(self, temperature_k: np.ndarray, state: np.ndarray) -> np.ndarray:
        """Rates of induction and of conversion, 1/s, of a state (…, X, α) whose first column is the induction."""
        waited = state[..., 0]
        dose = (self.catalyst_pct / self.law.catalyst_pct) ** -self.law.n
        slope_k = self.law.ea_kj_per_mol * 1000 / GAS_CONSTANT_J_PER_MOL_K
        warmth = slope_k * (1 / temperature_k - 1 / kelvin(self.law.temperature_c))
        gel_s = 60 * self.law.minutes * dose * np.exp(warmth)
        lit = np.clip((waited - 1) / _IGNITED + 0.5, 0.0, 1.0)
        lit = lit * lit * (3 - 2 * lit)
        return np.stack([1 / gel_s, lit * self.after.rates(temperature_k, state[..., 1:])[..., 0]], axis=-1)


Cure = TwoPartCure | CatalysedCure


def adiabatic_rise_k(heat_j_per_g: float, specific_heat_j_per_g_k: float = SPECIFIC_HEAT_J_PER_G_K) -> float:
    """How far a pot that loses no heat warms until it is cured through, K: H/c. Exact.

    >>> adiabatic_rise_k(350)
    175.0
    """
    return heat_j_per_g / specific_heat_j_per_g_k
