"""Where a second feed helps most: along the front at a quarter of the fill, opened when the resin comes to it."""

import numpy as np
import shapely
from shapely import LineString, MultiLineString, Polygon
from shapely.ops import linemerge

from layup.infusion.bed import Filled
from layup.infusion.geometry import Points

# Of the fill, in S: what is left then is filled from both, and takes about as long again (published form: the time of a line
# feed goes with the square of its way).
QUARTER = 0.25
# A line of so few points is laid by hand.
_MOST_POINTS = 8
# One that is shorter than so many cells is none, nor is one that is short beside all of the front.
_LEAST_CELLS = 3
_LEAST_SHARE = 0.2


def fronts_at(found: Filled, rings: tuple[Points, ...], s: float) -> tuple[Points, ...]:
    """The front at S as lines of few points: one, or several where a hole parts it; none where there is no front.

    >>> from layup.infusion.bed import Layered, Line
    >>> from layup.infusion.geometry import filled_bed
    >>> strip = ((0.0, 0.0), (1.0, 0.0), (1.0, 0.2), (0.0, 0.2))
    >>> ends = (Line(((0, 0), (0, 0.2))),), (Line(((1, 0), (1, 0.2))),)
    >>> found = filled_bed((strip,), Layered(1e-13, 5e-4), None, 0.0, *ends)
    >>> [[round(x, 1) for x, _ in line] for line in fronts_at(found, (strip,), found.full_s / 4)]
    [[0.5, 0.5]]
    """
    wet = found.at_s <= s
    if not wet.any() or wet.all():
        return ()
    side = float(np.hypot(found.width_m, found.height_m))
    column, row = found.column[wet], found.row[wet]
    # Joined in whole cells, so that neighbours meet exactly.
    cells = shapely.union_all(shapely.box(column, row, column + 1, row + 1))
    filled = shapely.transform(cells, lambda at: at * (found.width_m, found.height_m) + found.from_m)
    edge = Polygon(rings[0], rings[1:])
    front = filled.boundary.intersection(edge.buffer(-side))
    merged = linemerge(front) if isinstance(front, MultiLineString) else front
    pieces = list(merged.geoms) if isinstance(merged, MultiLineString) else [merged]
    lines = [piece for piece in pieces if isinstance(piece, LineString)]
    least = max(_LEAST_CELLS * side, _LEAST_SHARE * sum(line.length for line in lines))
    return tuple(_of_few_points(line, side) for line in lines if line.length >= least)


def _of_few_points(line: LineString, within_m: float) -> Points:
    """A line as one is laid by hand: as near to it as its few points allow."""
    laid = line.simplify(within_m)
    while len(laid.coords) > _MOST_POINTS:
        within_m *= 1.5
        laid = line.simplify(within_m)
    return tuple((round(x, 4), round(y, 4)) for x, y in laid.coords)
