"""The heat in a pot with one temperature for the whole: within some per cent of the full model, and at once.

It answers while a table of the full model is built, carries that table between its nodes, and begins the search for a
product's pace.
"""

from dataclasses import dataclass

import numpy as np

from layup.chemistry.gel_law import kelvin
from layup.heat.conduction import SHAPE_POWER, Body
from layup.heat.cure_kinetics import TwoPartCure, adiabatic_rise_k

_STEPS = 200
_CURED_THROUGH = 0.995


def cooling_per_s(body: Body) -> float:
    """Rate at which a body of one layer comes to its room, 1/s: U S/(V ρ c), U = 1/(1/h + L/((s + 3) k)).

    Source: memory; the resistance inside is that of a body heated evenly through.
    """
    (layer,) = body.layers
    power = SHAPE_POWER[body.shape]
    inside = layer.thickness_m / ((power + 3) * layer.conductivity_w_per_m_k)
    through = 1 / (1 / body.outer.h_w_per_m2_k + inside)
    stored_j_per_m3_k = layer.density_g_per_cm3 * 1e6 * layer.specific_heat_j_per_g_k
    return through * (power + 1) / (layer.thickness_m * stored_j_per_m3_k)


@dataclass(frozen=True)
class Lumped:
    """Pots of one temperature each: minutes to gel and to the peak, and the peak, °C. Arrays of one shape."""

    gel_min: np.ndarray
    peak_min: np.ndarray
    peak_c: np.ndarray


def lumped_gel_min(
    cure: TwoPartCure,
    cooling: np.ndarray | float,
    room_c: np.ndarray | float,
    faster: np.ndarray | float = 1.0,
) -> np.ndarray:
    """Minutes to gel of pots that start at their room; `cooling` as `cooling_per_s` gives it, `faster` times the pace.

    Marches in conversion; in each step the temperature goes to where the heat made and the heat lost balance.
    """
    return _march(cure, cooling, room_c, cure.gels_at, faster).gel_min


def lumped_peak(
    cure: TwoPartCure,
    cooling: np.ndarray | float,
    room_c: np.ndarray | float,
    faster: np.ndarray | float = 1.0,
) -> Lumped:
    """The same pots left standing until they are cured through."""
    return _march(cure, cooling, room_c, _CURED_THROUGH, faster)


def _march(
    cure: TwoPartCure,
    cooling: np.ndarray | float,
    room_c: np.ndarray | float,
    to: float,
    faster: np.ndarray | float,
) -> Lumped:
    cooling, room_k, faster = np.broadcast_arrays(
        *(np.asarray(a, float) for a in (cooling, kelvin(np.asarray(room_c)), faster))
    )
    over, seconds, most, peaked, gelled = (np.zeros(cooling.shape) for _ in range(5))
    full_rise = adiabatic_rise_k(cure.heat_j_per_g)
    step = to / _STEPS

    def rate(above: np.ndarray, cured: float) -> np.ndarray:
        """Conversion per second."""
        return faster * cure.rates(room_k + above, np.full((*above.shape, 1), cured))[..., 0]

    for place in range(_STEPS):
        cured = (place + 0.5) * step
        half = _relaxed(over, rate(over, cured), cooling, full_rise, step / 2)
        pace = rate(half, cured)
        over = _relaxed(over, pace, cooling, full_rise, step)
        seconds = seconds + step / pace
        peaked = np.where(over > most, seconds, peaked)
        most = np.maximum(most, over)
        if (place + 1) * step <= cure.gels_at + 1e-9:
            gelled = seconds
    return Lumped(gelled / 60, peaked / 60, room_k - 273.15 + most)


def _relaxed(over: np.ndarray, pace: np.ndarray, cooling: np.ndarray, full_rise: float, step: float) -> np.ndarray:
    """The excess over the room after a step of conversion at a pace: exponential towards rise × pace / cooling."""
    if not cooling.any():
        return over + full_rise * step
    settled = full_rise * pace / cooling
    return settled + (over - settled) * np.exp(-cooling * step / pace)
