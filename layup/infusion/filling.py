"""How a bed of fibre fills, cell by cell: pressure solved on what is wet, the front moved on to the next cells that fill.
In pseudo-time S = ∫ Δp/μ dt, so that one filling holds for every temperature and every vacuum.

The pressure of the wet cells is a symmetric system whose matrix only grows: cells that fill add rows to one Cholesky
factor, numbered in the order of filling, and the rows that are there stay as they are. The front lies in the last rows,
so that only those are solved for.
"""

from dataclasses import dataclass

import numpy as np
from scipy.linalg.blas import dtrsm, dtrsv

# What a cell is.
PLAIN, FEED, VENT = 0, 1, 2
_FULL = 1 - 1e-9
_NO_CELL = np.empty(0, np.int64)


@dataclass(frozen=True)
class Pores:
    """What fills. `volume` is a cell's pores, m³. Link i leads from cell `one[i]` to `other[i]` and lets through
    `conducts[i]` for a full pressure, m³ per S; each link stands there both ways, in the order of `one`. `from_feed` and
    `to_vent` are the same to a feed and to a vent beside a cell. A cell's `role` is a feed, a vent or neither; one that
    `waits_for` a feed's number becomes a feed as soon as the first cell of that number is full."""

    volume: np.ndarray
    one: np.ndarray
    other: np.ndarray
    conducts: np.ndarray
    from_feed: np.ndarray
    to_vent: np.ndarray
    role: np.ndarray
    waits_for: np.ndarray

    def beside(self, pressure: np.ndarray) -> np.ndarray:
        """What flows to each cell from its neighbours at a pressure of theirs, m³ per S."""
        return np.bincount(self.one, self.conducts * pressure[self.other], self.volume.size)


@dataclass(frozen=True)
class Filling:
    """When the front passes the middle of each cell and when it is full, in S, infinite where no resin comes; and, at each
    step, S, the m³ that were `drawn` by then, and what `left` through the vents."""

    passed_at: np.ndarray
    filled_at: np.ndarray
    at_s: np.ndarray
    drawn: np.ndarray
    left: np.ndarray


class _Factor:
    """The lower Cholesky factor of the wet cells' matrix, and its right side carried through."""

    def __init__(self, most: int):
        self._lower = np.zeros((most, most), order="F")
        self._towards = np.zeros(most)
        self.count = 0

    def clear(self) -> None:
        self._lower[: self.count, : self.count] = 0.0
        self.count = 0

    def grow(self, first: int, across: np.ndarray, own: np.ndarray, known: np.ndarray) -> None:
        """Add rows: `across` is their part of the matrix in the columns from `first` on, a column each; `own` that among
        themselves; `known` their right side."""
        begins, ends = self.count, self.count + len(own)
        if first < begins:
            solved = dtrsm(1.0, self._lower[first:begins, first:begins], across, lower=1)
            own = own - solved.T @ solved
            known = known - self._towards[first:begins] @ solved
            self._lower[begins:ends, first:begins] = solved.T
        held = np.linalg.cholesky(own)
        self._lower[begins:ends, begins:ends] = held
        self._towards[begins:ends] = dtrsv(held, known, lower=1)
        self.count = ends

    def solved_from(self, first: int) -> np.ndarray:
        """The solution in the rows from `first` on, which asks for none before them."""
        begins = slice(first, self.count)
        return dtrsv(self._lower[begins, begins], self._towards[begins], lower=1, trans=1)


class _Front:
    """A bed while it fills."""

    def __init__(self, pores: Pores):
        cells = pores.volume.size
        self.pores = pores
        self.link_from = np.searchsorted(pores.one, np.arange(cells + 1))
        # What a cell lets through in all, whoever its neighbours are.
        self.whole = pores.from_feed + pores.to_vent + pores.beside(np.ones(cells))
        self.fed = (pores.role == FEED) & (pores.waits_for == 0)
        self.wet = self.fed.copy()
        self.vents = np.flatnonzero(pores.to_vent)
        self.share = self.fed.astype(float)
        self.pressure = self.fed.astype(float)
        self.by_feeds = pores.from_feed + pores.beside(self.pressure)
        self.factor = _Factor(cells)
        # The rows of cells, and the cells of rows.
        self.row, self.order = np.full(cells, -1), np.zeros(cells, np.int64)

    def wetted(self, fresh: np.ndarray) -> None:
        """Take cells that have filled into the factor."""
        begins, count = self.factor.count, fresh.size
        if not count:
            return
        self.row[fresh] = np.arange(begins, begins + count)
        self.order[begins : begins + count] = fresh
        self.wet[fresh] = True
        links = np.concatenate([np.arange(self.link_from[cell], self.link_from[cell + 1]) for cell in fresh])
        links = links[self.row[self.pores.other[links]] >= 0]
        at, beside = self.row[self.pores.one[links]] - begins, self.row[self.pores.other[links]]
        first = int(beside.min(initial=begins))
        rows = np.zeros((begins + count - first, count), order="F")
        rows[beside - first, at] = -self.pores.conducts[links]
        own = rows[begins - first :].copy()
        own[np.arange(count), np.arange(count)] = self.whole[fresh]
        self.factor.grow(first, rows[: begins - first], own, self.by_feeds[fresh])

    def flowing(self) -> tuple[np.ndarray, float]:
        """What flows into each cell that is not wet, and what leaves through the vents, m³ per S."""
        pores, count = self.pores, self.factor.count
        front = np.flatnonzero(self.wet[pores.other] & ~self.wet[pores.one])
        asked = np.concatenate([self.row[pores.other[front]], self.row[self.vents]])
        first = int(asked[asked >= 0].min(initial=count))
        if first < count:
            self.pressure[self.order[first:count]] = self.factor.solved_from(first)
        flow = pores.conducts[front] * self.pressure[pores.other[front]]
        inflow = np.bincount(pores.one[front], flow, pores.volume.size) + pores.from_feed
        inflow[self.wet] = 0.0
        # A vent is full and stays empty of pressure: what comes runs out.
        out = float(pores.to_vent @ self.pressure) + float(inflow[self.share >= _FULL].sum())
        return inflow, out

    def open(self, opens: np.ndarray) -> None:
        """Cells become feeds: the factor is made anew of all others that are wet."""
        kept = self.order[: self.factor.count]
        self.fed |= opens
        self.wet |= opens
        self.pressure[opens] = 1.0
        self.by_feeds = self.pores.from_feed + self.pores.beside(self.fed.astype(float))
        self.factor.clear()
        self.row[:] = -1
        self.wetted(kept[~self.fed[kept]])


def fill(pores: Pores) -> Filling:
    """The bed filled from its feeds, until nothing moves any more. Source: Darcy's law, quasi-static (published)."""
    front, volume = _Front(pores), pores.volume
    passed_at = np.where(front.fed, 0.0, np.inf)
    filled_at = passed_at.copy()
    opened = np.zeros(volume.size + 1, np.bool_)
    fresh = _NO_CELL
    now, drawn, left = 0.0, float(volume[front.fed].sum()), 0.0
    steps = [(now, drawn, left)]
    while True:
        front.wetted(fresh)
        inflow, out = front.flowing()
        filling = np.flatnonzero((inflow > 0.0) & (front.share < _FULL))
        flow = inflow[filling]
        into = float(flow.sum())
        if into <= 1e-14 * (out + into):
            break
        takes = float(((1.0 - front.share[filling]) * volume[filling] / flow).min())
        now, drawn, left = now + takes, drawn + (into + out) * takes, left + out * takes
        comes = flow * takes / volume[filling]
        before = front.share[filling]
        after = before + comes
        halfway = (before < 0.5) & (after >= 0.5)
        passed_at[filling[halfway]] = now - takes * (after[halfway] - 0.5) / comes[halfway]
        full = filling[after >= _FULL]
        front.share[filling] = after
        front.share[full], filled_at[full] = 1.0, now
        fresh = full[pores.role[full] != VENT]
        awaited = pores.waits_for[full]
        if not opened[awaited[awaited > 0]].all():
            opened[awaited[awaited > 0]] = True
            opens = (pores.role == FEED) & opened[pores.waits_for] & ~front.fed
            part = opens & (front.share < _FULL)
            drawn += float(((1.0 - front.share[part]) * volume[part]).sum())
            passed_at[part] = np.minimum(passed_at[part], now)
            front.share[part], filled_at[part] = 1.0, now
            front.open(opens)
            fresh = fresh[~front.fed[fresh]]
        steps.append((now, drawn, left))
    at_s, drawn_by, left_by = np.array(steps).T
    return Filling(passed_at, filled_at, at_s, drawn_by, left_by)
