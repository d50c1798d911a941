"""Grits: how coarse each is, and the ladder from one to another."""

from collections.abc import Mapping
from functools import cache
from math import inf, log

from layup.errors import OutOfRange

# Mean grain size of P grits, µm (ISO 6344, published): macrogrits to P220, microgrits after.
GRAIN_UM: Mapping[int, float] = {
    **{36: 538.0, 40: 425.0, 60: 269.0, 80: 201.0, 100: 162.0, 120: 125.0, 150: 100.0, 180: 82.0, 220: 68.0},
    **{240: 58.5, 280: 52.2, 320: 46.2, 360: 40.5, 400: 35.0, 500: 30.2, 600: 25.8, 800: 21.8, 1000: 18.3},
    **{1200: 15.3, 1500: 12.6, 2000: 10.3, 2500: 8.4},
}
# Each grit about so many times finer than the one before it, and never more than that (common practice).
FINER, MOST_FINER = 1.5, 2.0


def ladder(first: int, last: int) -> tuple[int, ...]:
    """The grits from one to another, each as near as it can be to 1.5 times finer than the one before and none over twice;
    the last alone where the surface is as fine already. Raises OutOfRange for a grit that there is not.

    >>> ladder(80, 240)
    (80, 120, 180, 240)
    >>> ladder(320, 80)
    (80,)
    """
    for grit in (first, last):
        if grit not in GRAIN_UM:
            raise OutOfRange(f"there is no grit P{grit}")
    if GRAIN_UM[first] <= GRAIN_UM[last]:
        return (last,)
    return _best(first, last)[1]


@cache
def _best(first: int, last: int) -> tuple[float, tuple[int, ...]]:
    """The ladder whose steps differ least from the wanted one, by the squares of their logarithms."""
    if first == last:
        return 0.0, (last,)
    best: tuple[float, tuple[int, ...]] = (inf, ())
    for grit, grain_um in GRAIN_UM.items():
        finer = GRAIN_UM[first] / grain_um
        if not 1 < finer <= MOST_FINER or grain_um < GRAIN_UM[last]:
            continue
        off, rest = _best(grit, last)
        off += (log(finer) - log(FINER)) ** 2
        if off < best[0]:
            best = off, (first, *rest)
    return best
