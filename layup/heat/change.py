"""How a pot's temperatures and its cure change in a moment: a table of gel times asks for it a hundred thousand times.

The same equations as `cure_kinetics` has them, of all cells at once and with nothing asked that is known beforehand.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

COLDEST_K = 150.0  # a solver's trial step may undershoot all sense
Rates = Callable[[np.ndarray, np.ndarray], np.ndarray]


@dataclass(frozen=True)
class Flows:
    """What moves warmth through a row of cells, per second: what `below`, `own` and `above` conduct, K/s per K (one shorter
    than there are cells, all, one shorter), what is `drawn` through the faces, K/s, and the `rise` of a whole cure, K.
    `live` is nought in a cell that does not react; None where all do."""

    below: np.ndarray
    own: np.ndarray
    above: np.ndarray
    drawn: np.ndarray
    rise: np.ndarray
    live: np.ndarray | None

    def warming(self, warm: np.ndarray, rate: np.ndarray) -> np.ndarray:
        """K/s of each cell at temperatures `warm`, K, that cures at `rate`, 1/s."""
        flow = self.own * warm
        flow += self.drawn
        flow[1:] += self.below * warm[:-1]
        flow[:-1] += self.above * warm[1:]
        flow += self.rise * rate
        return flow


def curing(
    ln_pace: float,
    slope_k: float,
    kappa: float,
    gamma: float,
    m: float,
    n: float,
    tg0_k: float,
    tg_rises_k: float,
    shape: float,
    steepness: float,
) -> Rates:
    """dα/dt of Kamal and Sourour's form, 1/s, slowed by its glass, of temperatures in K and the share cured; the usual
    powers without a power, which costs more than all the rest."""
    begins, leans = shape * tg_rises_k, 1.0 - shape

    def rate(held: np.ndarray, cured: np.ndarray) -> np.ndarray:
        left = np.maximum(1.0 - cured, 0.0)
        goes = np.exp(ln_pace - slope_k / held)
        goes *= kappa + gamma * (cured if m == 1.0 else np.maximum(cured, 0.0) ** m)
        if n == 1.5:
            goes *= left
            goes *= np.sqrt(left)
        else:
            goes *= left**n
        if steepness == 0.0:
            return goes
        above = held - tg0_k
        outran = cured - above / (begins + leans * above)
        outran *= steepness
        goes /= 1.0 + np.exp(np.minimum(outran, 60.0))
        return goes

    return rate


def two_part_change(flows: Flows, constants: tuple[float, ...]) -> Callable[[float, np.ndarray], np.ndarray]:
    """Time derivative, per second, of (T, α) of each cell, one after another."""
    cure_rate, live = curing(*constants), flows.live

    def change(_t: float, y: np.ndarray) -> np.ndarray:
        warm, cured = y[0::2], y[1::2]
        rate = cure_rate(np.maximum(warm, COLDEST_K), cured)
        if live is not None:
            rate *= live
        out = np.empty_like(y)
        out[0::2], out[1::2] = flows.warming(warm, rate), rate
        return out

    return change


def catalysed_change(flows: Flows, constants: tuple[float, ...]) -> Callable[[float, np.ndarray], np.ndarray]:
    """The same of (T, X, α): the induction X runs at one over the gel time, and past X = 1 it cures and heats.

    The constants are ln of the gel time at no cold, s, its slope, K, the step at its end, then what it cures by after.
    """
    ln_gel_s, gel_slope_k, lit_over, *after = constants
    cure_rate, live = curing(*after), flows.live

    def change(_t: float, y: np.ndarray) -> np.ndarray:
        warm, waited, cured = y[0::3], y[1::3], y[2::3]
        held = np.maximum(warm, COLDEST_K)
        lit = np.minimum(np.maximum((waited - 1.0) / lit_over + 0.5, 0.0), 1.0)
        rate = cure_rate(held, cured)
        rate *= lit * lit * (3.0 - 2.0 * lit)
        waits = np.exp(-ln_gel_s - gel_slope_k / held)
        if live is not None:
            rate *= live
            waits *= live
        out = np.empty_like(y)
        out[0::3], out[1::3], out[2::3] = flows.warming(warm, rate), waits, rate
        return out

    return change
