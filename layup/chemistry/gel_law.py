"""The law of a gel: how long at a temperature and a dose, from one time and two slopes. Minutes, °C, kJ/mol."""

from dataclasses import dataclass
from math import exp, log
from typing import TypeVar

import numpy as np

GAS_CONSTANT_J_PER_MOL_K = 8.314462618
EPOXY_ACTIVATION_KJ_PER_MOL = 53.0  # memory
CATALYSED_HALVING_C = (20.0, 30.0)  # common practice: 10 °C warmer gels in half the time
SIGMA_GEL = 0.15  # of ln t, of a product known by one time alone (memory)

Degrees = TypeVar("Degrees", float, np.ndarray)


def kelvin(temperature_c: Degrees) -> Degrees:
    """Absolute temperature, K."""
    return temperature_c + 273.15


def activation_energy_from_halving(cool_c: float, warm_c: float) -> float:
    """Ea, kJ/mol, of a resin whose gel time halves from `cool_c` to `warm_c`: R ln 2 / (1/T₁ − 1/T₂).

    >>> round(activation_energy_from_halving(20, 30), 1)
    51.2
    """
    return GAS_CONSTANT_J_PER_MOL_K * log(2) / (1 / kelvin(cool_c) - 1 / kelvin(warm_c)) / 1000


CATALYSED_ACTIVATION_KJ_PER_MOL = activation_energy_from_halving(*CATALYSED_HALVING_C)


def arrhenius_factor(temperature_c: float, reference_c: float, activation_kj_per_mol: float) -> float:
    """How many times longer a gel takes at `temperature_c` than at `reference_c`: exp(Ea/R (1/T − 1/T_ref)).

    Source: published (Arrhenius' law of a reaction's rate). It holds where one reaction sets the pace, in a film or a pot
    that stays at its temperature: what a pot's own heat does comes from `heat`.

    >>> round(arrhenius_factor(30, 20, CATALYSED_ACTIVATION_KJ_PER_MOL), 6)
    0.5
    """
    slope_k = activation_kj_per_mol * 1000 / GAS_CONSTANT_J_PER_MOL_K
    return exp(slope_k * (1 / kelvin(temperature_c) - 1 / kelvin(reference_c)))


@dataclass(frozen=True)
class GelLaw:
    """`minutes` at a temperature and, of a catalysed resin, at a dose; Ea and the power n of the dose carry it on.

    ln t = ln t_ref − n ln(c/c_ref) + (Ea/R)(1/T − 1/T_ref).
    """

    minutes: float
    temperature_c: float
    ea_kj_per_mol: float
    catalyst_pct: float = 1.0
    n: float = 0.0

    def gel_min(self, temperature_c: float, catalyst_pct: float | None = None) -> float:
        """The gel time, min, at a temperature and dose.

        >>> round(GelLaw(30, 20, CATALYSED_ACTIVATION_KJ_PER_MOL, 1.0, 1.0).gel_min(30, 2.0), 3)
        7.5
        """
        dose = 1.0 if catalyst_pct is None else (catalyst_pct / self.catalyst_pct) ** -self.n
        return self.minutes * dose * arrhenius_factor(temperature_c, self.temperature_c, self.ea_kj_per_mol)

    def pct_for(self, temperature_c: float, wanted_min: float) -> float:
        """The dose that gels in the wanted time, %, not held to any limit."""
        return self.catalyst_pct * (self.gel_min(temperature_c) / wanted_min) ** (1 / self.n)

    def temperature_for_c(self, catalyst_pct: float, wanted_min: float) -> float:
        """The temperature at which a dose gels in the wanted time, °C."""
        slope_k = self.ea_kj_per_mol * 1000 / GAS_CONSTANT_J_PER_MOL_K
        at_reference = self.gel_min(self.temperature_c, catalyst_pct)
        return 1 / (1 / kelvin(self.temperature_c) + log(wanted_min / at_reference) / slope_k) - 273.15
