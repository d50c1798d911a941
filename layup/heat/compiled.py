"""How a pot's temperatures and its cure change in a moment, compiled: a table of gel times asks for it a hundred
thousand times. The same equations as `cure_kinetics` has them, cell by cell."""

from math import exp, sqrt

import numpy as np
from numba import njit

COLDEST_K = 150.0  # a solver's trial step may undershoot all sense

# Compiled for these and no others when this is read, so that nothing is compiled in the middle of a work that may be ended.
_ARRAYS, _ROW = ", ".join(["float64[::1]"] * 7), ", ".join(["float64"] * 10)


@njit(f"float64(float64, float64, {_ROW})", cache=True)
def _cure_rate(
    warm_k: float,
    cured: float,
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
) -> float:
    """dα/dt of Kamal and Sourour's form, 1/s, slowed by its glass; the usual powers without a power, which costs more than
    all the rest."""
    left = max(1.0 - cured, 0.0)
    helped = cured if m == 1.0 else max(cured, 0.0) ** m
    undone = left * sqrt(left) if n == 1.5 else left**n
    rate = exp(ln_pace - slope_k / warm_k) * (kappa + gamma * helped) * undone
    if steepness == 0.0:
        return rate
    along = (warm_k - tg0_k) / tg_rises_k
    turns_at = along / (shape + (1.0 - shape) * along)
    return rate / (1.0 + exp(min(max(steepness * (cured - turns_at), -60.0), 60.0)))


@njit(f"float64[::1]({_ARRAYS}, {_ROW})", cache=True)
def two_part_change(
    y: np.ndarray,
    below: np.ndarray,
    own: np.ndarray,
    above: np.ndarray,
    drawn: np.ndarray,
    rise: np.ndarray,
    live: np.ndarray,
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
) -> np.ndarray:
    """Time derivative of (T, α) of each cell, one after another, per second.

    `below`, `own` and `above` are what a cell's neighbours and itself conduct, `drawn` what the faces do, `rise` the
    warmth of a whole cure, K; `live` is nought in a cell that does not react.
    """
    cells = own.size
    out = np.empty(2 * cells)
    for at in range(cells):
        warm, cured = y[2 * at], y[2 * at + 1]
        held = max(warm, COLDEST_K)
        rate = live[at] * _cure_rate(
            held, cured, ln_pace, slope_k, kappa, gamma, m, n, tg0_k, tg_rises_k, shape, steepness
        )
        flow = own[at] * warm + drawn[at]
        if at > 0:
            flow += below[at] * y[2 * at - 2]
        if at < cells - 1:
            flow += above[at] * y[2 * at + 2]
        out[2 * at] = flow + rise[at] * rate
        out[2 * at + 1] = rate
    return out


@njit(f"float64[::1]({_ARRAYS}, float64, float64, float64, {_ROW})", cache=True)
def catalysed_change(
    y: np.ndarray,
    below: np.ndarray,
    own: np.ndarray,
    above: np.ndarray,
    drawn: np.ndarray,
    rise: np.ndarray,
    live: np.ndarray,
    ln_gel_s: float,
    gel_slope_k: float,
    lit_over: float,
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
) -> np.ndarray:
    """The same of (T, X, α): the induction X runs at one over the gel time, and past X = 1 it cures and heats."""
    cells = own.size
    out = np.empty(3 * cells)
    for at in range(cells):
        warm, waited, cured = y[3 * at], y[3 * at + 1], y[3 * at + 2]
        held = max(warm, COLDEST_K)
        lit = min(max((waited - 1.0) / lit_over + 0.5, 0.0), 1.0)
        lit = lit * lit * (3.0 - 2.0 * lit)
        rate = (
            live[at]
            * lit
            * _cure_rate(held, cured, ln_pace, slope_k, kappa, gamma, m, n, tg0_k, tg_rises_k, shape, steepness)
        )
        flow = own[at] * warm + drawn[at]
        if at > 0:
            flow += below[at] * y[3 * at - 3]
        if at < cells - 1:
            flow += above[at] * y[3 * at + 3]
        out[3 * at] = flow + rise[at] * rate
        out[3 * at + 1] = live[at] * exp(-(ln_gel_s + gel_slope_k / held))
        out[3 * at + 2] = rate
    return out
