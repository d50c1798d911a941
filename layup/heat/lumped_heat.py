"""The heat in a pot with one temperature for the whole: within some per cent of the full model, and at once.

It answers while a table of the full model is built, carries that table between its nodes, and begins the search for a
product's pace.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from layup.chemistry.gel_law import kelvin
from layup.heat.conduction import SHAPE_POWER, Body
from layup.heat.cure_kinetics import TwoPartCure, adiabatic_rise_k

_STEPS = 200
# Enough for shares of a life, which both vessels are out by alike.
_COARSE = 50
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


def warmed(
    cure: TwoPartCure,
    cooling_per_s: float,
    room_c: float,
    start_k: np.ndarray,
    faster: np.ndarray,
    steps: int = _STEPS,
) -> tuple[np.ndarray, np.ndarray]:
    """How pots warm that start so many K over their room and cure so many times as fast: minutes, and K over the room, a row
    for each step of their conversion from none to the gel, a column for each pot.

    >>> from layup.heat.heat_fit import StatedPot, rough_cure
    >>> minutes, over = warmed(rough_cure(StatedPot(20, 25, 100)), 1e-3, 20.0, np.zeros(2), np.array([1.0, 2.0]))
    >>> minutes.shape, bool(minutes[-1, 0] > minutes[-1, 1]), bool(over[-1, 1] > over[-1, 0])
    ((201, 2), True, True)
    """
    cooling, room_k = np.full(len(start_k), cooling_per_s), kelvin(room_c)
    full_rise, step = adiabatic_rise_k(cure.heat_j_per_g), cure.gels_at / steps
    over, seconds = [np.asarray(start_k, float)], [np.zeros(len(start_k))]
    for place in range(steps):
        cured = np.full((len(start_k), 1), (place + 0.5) * step)
        half = _relaxed(over[-1], faster * cure.rates(room_k + over[-1], cured)[..., 0], cooling, full_rise, step / 2)
        pace = faster * cure.rates(room_k + half, cured)[..., 0]
        over.append(_relaxed(over[-1], pace, cooling, full_rise, step))
        seconds.append(seconds[-1] + step / pace)
    return np.array(seconds) / 60, np.array(over)


def left_when_poured(
    cure: TwoPartCure, in_cup_per_s: float, in_tray_per_s: float, room_c: float, spent: Sequence[float]
) -> tuple[float, ...]:
    """Shares of its life in a tray that are left to pots poured into it when they have spent such shares of their life in
    their cup. They bring their heat with them.

    >>> from layup.heat.heat_fit import StatedPot, rough_cure
    >>> left = left_when_poured(rough_cure(StatedPot(20, 25, 100)), 2e-4, 2e-2, 20.0, (0.0, 0.5, 1.0))
    >>> [round(share, 2) for share in left]
    [1.0, 0.86, 0.0]
    """
    step, full_rise, room_k = cure.gels_at / _COARSE, adiabatic_rise_k(cure.heat_j_per_g), kelvin(room_c)

    def stepped(place: int, over: np.ndarray, cooling: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """The excess over the room after one more step of conversion, and the seconds it took."""

        def rate(above: np.ndarray) -> np.ndarray:
            return cure.rates(room_k + above, np.full((*above.shape, 1), (place + 0.5) * step))[..., 0]

        pace = rate(_relaxed(over, rate(over), cooling, full_rise, step / 2))
        return _relaxed(over, pace, cooling, full_rise, step), step / pace

    over, seconds = [np.zeros(1)], [np.zeros(1)]
    for place in range(_COARSE):
        warmer, took = stepped(place, over[-1], np.full(1, in_cup_per_s))
        over.append(warmer)
        seconds.append(seconds[-1] + took)
    along = np.concatenate(seconds) / seconds[-1]
    # Where in its conversion each is poured out, and how warm; one that never stood in its cup comes first.
    poured = np.concatenate([[0.0], np.interp(spent, along, np.arange(_COARSE + 1))])
    warm, left = np.interp(poured, np.arange(_COARSE + 1), np.concatenate(over)), np.zeros(len(poured))
    for place in range(_COARSE):
        part = np.clip(place + 1 - poured, 0.0, 1.0)
        cooler, took = stepped(place, warm, np.full(len(poured), in_tray_per_s))
        warm = np.where(part > 0, cooler, warm)
        left += part * took
    return tuple(float(share) for share in left[1:] / left[0])


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
