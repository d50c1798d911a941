"""Rectangles on sheets of one size, each pushed as far as it goes towards the beginning: maximal rectangles, bottom left
(published, Jylänki, A thousand ways to pack the bin, 2010)."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

Order = Callable[[int, int], int]


@dataclass(frozen=True)
class Put:
    """Which rectangle lies where on its sheet: `x` and `y` of its corner, how wide it lies, how far along."""

    which: int
    x: int
    y: int
    across: int
    along: int


class _Sheet:
    """The largest rectangles that are free on a sheet, as rows of left, low, right, high."""

    def __init__(self, width: int, length: int):
        self._free = np.array([[0, 0, width, length]], dtype=np.int64)

    def lowest(self, across: int, along: int) -> tuple[int, int] | None:
        """Where a rectangle reaches least far, then lies furthest left: its low side and its left; None where it does not fit."""
        left, low, right, high = self._free.T
        fits = np.flatnonzero((right - left >= across) & (high - low >= along))
        if not fits.size:
            return None
        first = fits[np.lexsort((left[fits], low[fits]))[0]]
        return int(low[first]), int(left[first])

    def put(self, x: int, y: int, across: int, along: int) -> None:
        """What is free when a rectangle lies there."""
        left, low, right, high = self._free.T
        met = (left < x + across) & (right > x) & (low < y + along) & (high > y)
        cut = self._free[met]
        beside = [self._free[~met]]
        for side, edge, keeps in ((2, x, cut[:, 0] < x), (0, x + across, cut[:, 2] > x + across)):
            beside.append(_with(cut[keeps], side, edge))
        for side, edge, keeps in ((3, y, cut[:, 1] < y), (1, y + along, cut[:, 3] > y + along)):
            beside.append(_with(cut[keeps], side, edge))
        fresh = np.unique(np.concatenate(beside[1:]), axis=0)
        every = np.concatenate([beside[0], fresh])
        # Only a fresh one can lie within another: those that were there lay in none.
        a, b = fresh[:, None, :], every[None, :, :]
        within = (a[..., :2] >= b[..., :2]).all(-1) & (a[..., 2:] <= b[..., 2:]).all(-1)
        lies = within.sum(axis=1) > 1
        self._free = np.concatenate([beside[0], fresh[~lies]])


def _with(rows: np.ndarray, side: int, edge: int) -> np.ndarray:
    changed = rows.copy()
    changed[:, side] = edge
    return changed


def packed(
    sizes: Sequence[tuple[int, int]],
    width: int,
    length: int,
    *,
    turn: bool,
    order: Order,
    sheets: int | None = None,
) -> list[list[Put]]:
    """Rectangles of (across, along) on as many sheets as they take, or on `sheets` at most, the largest by `order` first; what fits
    on none is left out.

    >>> [[(put.which, put.x, put.y) for put in sheet] for sheet in packed([(400, 400), (600, 900)], 1000, 2000, turn=False, order=area)]
    [[(1, 0, 0), (0, 600, 0)]]
    """
    opened: list[_Sheet] = []
    lie: list[list[Put]] = []
    for which in sorted(range(len(sizes)), key=lambda at: order(*sizes[at]), reverse=True):
        across, along = sizes[which]
        ways = [(across, along), (along, across)] if turn and across != along else [(across, along)]
        for at in range(len(opened) + 1):
            if at == len(opened):
                if at == sheets:
                    break
                opened.append(_Sheet(width, length))
                lie.append([])
            found = [
                (spot[0] + high, spot[1], wide, high) for wide, high in ways if (spot := opened[at].lowest(wide, high))
            ]
            if found:
                reaches, x, wide, high = min(found, key=lambda each: each[:2])
                opened[at].put(x, reaches - high, wide, high)
                lie[at].append(Put(which, x, reaches - high, wide, high))
                break
            if not lie[at]:
                # It does not fit on an empty one.
                opened.pop()
                lie.pop()
                break
    return lie


def area(across: int, along: int) -> int:
    return across * along


def longer_side(across: int, along: int) -> int:
    return max(across, along)


def shorter_side(across: int, along: int) -> int:
    return min(across, along)
