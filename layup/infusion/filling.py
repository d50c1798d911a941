"""How a bed of fibre fills, cell by cell, compiled: pressure solved on what is wet, the front moved on to the next cell
that fills. In pseudo-time S = ∫ Δp/μ dt, so that one filling holds for every temperature and every vacuum.

The pressure of the wet cells is a symmetric system whose matrix only grows: a cell that fills adds a row to one Cholesky
factor, numbered in the order of filling, and the rows that are there stay as they are.
"""

from math import sqrt

import numpy as np
from numba import njit

from layup.infusion.bed import FEED, VENT

_NOT_YET, _FED = -1, -2
_FULL = 1 - 1e-9
# Sums may be taken several at a time; what is infinite stays so.
_SUMS_IN_ANY_ORDER = {"reassoc", "contract", "nsz"}


@njit("void(float64[::1], int64[::1], int64[::1], float64[::1], int64)", cache=True, fastmath=_SUMS_IN_ANY_ORDER)
def _solve_back(lower: np.ndarray, starts: np.ndarray, firsts: np.ndarray, x: np.ndarray, count: int) -> None:
    """Lᵀ x = x, in place, of rows that are kept from their first entry on."""
    for row in range(count - 1, -1, -1):
        begin, first = starts[row], firsts[row]
        x[row] /= lower[begin + row - first]
        held = x[row]
        for column in range(first, row):
            x[column] -= lower[begin + column - first] * held


@njit(
    "Tuple((float64[::1], float64[::1], float64[::1], float64[::1], float64[::1]))"
    "(float64[::1], int64[::1], int64[::1], float64[::1], float64[::1], float64[::1], int64[::1], int64[::1])",
    cache=True,
    fastmath=_SUMS_IN_ANY_ORDER,
)
def fill(
    volume: np.ndarray,
    link_from: np.ndarray,
    link_to: np.ndarray,
    conducts: np.ndarray,
    from_feed: np.ndarray,
    to_vent: np.ndarray,
    role: np.ndarray,
    waits_for: np.ndarray,
) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
    """When the front passes the middle of each cell and when it is full, in S; and, at each step, S, what was drawn by
    then, and what left through the vents.

    `volume` is a cell's pores, m³. The links of cell i are those from `link_from[i]` to `link_from[i + 1]`: the cell they
    lead to, and what flows through for a full pressure, m³ per S. `from_feed` and `to_vent` are the same to a feed and to a
    vent beside it. A cell's `role` is a feed, a vent or neither; one that `waits_for` a feed's number becomes a feed as
    soon as the first cell of that number is full. A cell that no resin reaches fills at infinity.
    """
    cells = volume.size
    place = np.full(cells, _NOT_YET)
    passed_at, filled_at = np.full(cells, np.inf), np.full(cells, np.inf)
    share = np.zeros(cells)
    order = np.empty(cells, np.int64)
    starts, firsts = np.empty(cells, np.int64), np.empty(cells, np.int64)
    lower = np.empty(max(64 * cells, 64))
    towards, pressure = np.empty(cells), np.empty(cells)
    inflow = np.zeros(cells)
    count, used = 0, 0
    at_s, drawn, left = np.zeros(cells + 1), np.zeros(cells + 1), np.zeros(cells + 1)
    steps, now, taken, gone = 0, 0.0, 0.0, 0.0
    opened = np.zeros(cells + 1, np.bool_)
    for cell in range(cells):
        if role[cell] == FEED and waits_for[cell] == 0:
            place[cell], passed_at[cell], filled_at[cell], share[cell] = _FED, 0.0, 0.0, 1.0
            taken += volume[cell]
    drawn[0] = taken
    fresh = np.empty(cells, np.int64)
    fresh_count = 0
    anew = False
    while True:
        # What has filled is taken into the factor; where a feed has opened, all of it is built again.
        if anew:
            kept = 0
            for row in range(count):
                if place[order[row]] >= 0:
                    order[kept] = order[row]
                    kept += 1
            for at in range(fresh_count):
                if place[fresh[at]] != _FED:
                    order[kept] = fresh[at]
                    kept += 1
            todo, count, used = kept, 0, 0
            for row in range(todo):
                place[order[row]] = _NOT_YET
        else:
            todo = count
            for at in range(fresh_count):
                order[todo] = fresh[at]
                todo += 1
        for row in range(count, todo):
            cell = order[row]
            first, whole, feeds = row, from_feed[cell] + to_vent[cell], from_feed[cell]
            for link in range(link_from[cell], link_from[cell + 1]):
                other = link_to[link]
                whole += conducts[link]
                if place[other] == _FED:
                    feeds += conducts[link]
                elif 0 <= place[other] < first:
                    first = place[other]
            if used + row - first + 1 > lower.size:
                grown = np.empty(2 * lower.size + row)
                grown[:used] = lower[:used]
                lower = grown
            for column in range(first, row + 1):
                lower[used + column - first] = 0.0
            for link in range(link_from[cell], link_from[cell + 1]):
                other = link_to[link]
                if place[other] >= 0:
                    lower[used + place[other] - first] = -conducts[link]
            diagonal, known = whole, feeds
            for column in range(first, row):
                begin, its_first = starts[column], firsts[column]
                value = lower[used + column - first]
                for inner in range(max(first, its_first), column):
                    value -= lower[used + inner - first] * lower[begin + inner - its_first]
                value /= lower[begin + column - its_first]
                lower[used + column - first] = value
                diagonal -= value * value
                known -= value * towards[column]
            held = sqrt(max(diagonal, 1e-300))
            lower[used + row - first] = held
            towards[row] = known / held
            starts[row], firsts[row], place[cell] = used, first, row
            used += row - first + 1
        count = todo
        # The pressures now, and what flows into each cell of the front.
        pressure[:count] = towards[:count]
        _solve_back(lower, starts, firsts, pressure, count)
        soonest, out, into = np.inf, 0.0, 0.0
        for cell in range(cells):
            if place[cell] >= 0:
                out += to_vent[cell] * pressure[place[cell]]
                continue
            if place[cell] == _FED:
                out += to_vent[cell]
                continue
            flow = from_feed[cell]
            for link in range(link_from[cell], link_from[cell + 1]):
                other = link_to[link]
                if place[other] == _FED:
                    flow += conducts[link]
                elif place[other] >= 0:
                    flow += conducts[link] * pressure[place[other]]
            inflow[cell] = flow
            if share[cell] >= _FULL:
                out += flow
            elif flow > 0.0:
                into += flow
                soonest = min(soonest, (1.0 - share[cell]) * volume[cell] / flow)
        if soonest == np.inf or into <= 1e-14 * (out + into):
            break
        now += soonest
        taken += (into + out) * soonest
        gone += out * soonest
        fresh_count, anew = 0, False
        for cell in range(cells):
            if place[cell] != _NOT_YET or share[cell] >= _FULL or inflow[cell] <= 0.0:
                continue
            comes = inflow[cell] * soonest / volume[cell]
            if share[cell] < 0.5 <= share[cell] + comes:
                passed_at[cell] = now - soonest * (share[cell] + comes - 0.5) / comes
            share[cell] += comes
            if share[cell] < _FULL:
                continue
            share[cell], filled_at[cell] = 1.0, now
            # A vent is full and stays empty of pressure: what comes runs out.
            if role[cell] != VENT:
                fresh[fresh_count] = cell
                fresh_count += 1
            if waits_for[cell] and not opened[waits_for[cell]]:
                opened[waits_for[cell]] = True
                anew = True
        if anew:
            for cell in range(cells):
                if role[cell] == FEED and waits_for[cell] and opened[waits_for[cell]] and place[cell] != _FED:
                    if share[cell] < _FULL:
                        taken += (1.0 - share[cell]) * volume[cell]
                        passed_at[cell] = min(passed_at[cell], now)
                        share[cell], filled_at[cell] = 1.0, now
                    place[cell] = _FED
        steps += 1
        at_s[steps], drawn[steps], left[steps] = now, taken, gone
    return passed_at, filled_at, at_s[: steps + 1].copy(), drawn[: steps + 1].copy(), left[: steps + 1].copy()
