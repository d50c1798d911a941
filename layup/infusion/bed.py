"""A bed of fibre as cells: what each holds, and what flows from one to the next. Metres, seconds, Pa; flow in pseudo-time.

Of a part in plan, laid out on a raster whose cells are cut at its outline and stand at their centroids, so that a slanting
edge is no staircase.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import ceil, log, pi, sqrt

import numpy as np
import shapely
from shapely import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry

from layup.errors import OutOfRange
from layup.infusion.filling import FEED, PLAIN, VENT, Pores, fill

# Cells of a part: what the screen shows, and what is shown while something is dragged.
FINE, ROUGH = 1800, 300
# A cell that keeps less of its square than this is no cell.
_LEAST_SHARE = 0.005
# How near to a cell's middle a line runs for the cell to stand at the line's own pressure, in cells.
_THROUGH = 0.25


@dataclass(frozen=True)
class Layered:
    """What of the bed lies somewhere: permeability times thickness, m³, and porosity times thickness, m. Where it is another
    up and down the plan, as along grooves, that is `up_m3`."""

    kh_m3: float
    pores_m: float
    up_m3: float | None = None

    @property
    def kh_up_m3(self) -> float:
        return self.kh_m3 if self.up_m3 is None else self.up_m3

    @property
    def either_way_m3(self) -> float:
        """The mean of both ways, which flow round a port goes by (published: anisotropic Darcy flow)."""
        return sqrt(self.kh_m3 * self.kh_up_m3)


@dataclass(frozen=True)
class Line:
    """A feed or a vent, along points, m; of one point it is a port of a radius. A feed that `waits` opens when the resin
    comes to it."""

    points: tuple[tuple[float, float], ...]
    radius_m: float = 0.006
    waits: bool = False

    @property
    def as_laid(self) -> "Line":
        """Itself, or a port where its points lie on one another."""
        short = len(self.points) > 1 and LineString(self.points).length < 2 * self.radius_m
        return Line(self.points[:1], self.radius_m, self.waits) if short else self


@dataclass(frozen=True)
class Bed:
    """A part in plan: its outline with its holes, and what lies there. What is `over` it, such as a mesh, lies on `over_on`
    of it; all else is `plain`."""

    outline: Polygon
    plain: Layered
    over_on: BaseGeometry | None = None
    over: Layered | None = None


@dataclass(frozen=True)
class Filled:
    """How a bed filled. `at_s` is when the front passed the middle of each cell, and `filled_s` when it was full, in S,
    infinite where no resin comes; cells lie at `x_m`, `y_m`,
    hold `pores_m3` and stand in a raster of `columns` by `rows` at `column`, `row`.

    `drawn_s`, `drawn_m3` and `left_m3` are the steps of the filling: S, what was drawn, and what of it left by the vents.
    `vent_s` is when the first resin comes to each vent, `opens_s` when each feed opens.
    """

    x_m: np.ndarray
    y_m: np.ndarray
    pores_m3: np.ndarray
    at_s: np.ndarray
    filled_s: np.ndarray
    column: np.ndarray
    row: np.ndarray
    columns: int
    rows: int
    width_m: float
    height_m: float
    from_m: tuple[float, float]
    links: tuple[tuple[int, int], ...]
    drawn_s: np.ndarray
    drawn_m3: np.ndarray
    left_m3: np.ndarray
    vent_s: tuple[float, ...]
    opens_s: tuple[float, ...]

    @cached_property
    def full_s(self) -> float:
        """When the last cell that resin comes to is full, in S."""
        reached = self.filled_s[np.isfinite(self.filled_s)]
        return float(reached.max()) if reached.size else 0.0

    def drawn_at(self, s: np.ndarray | float) -> np.ndarray:
        """What was drawn by S, m³."""
        return np.interp(s, self.drawn_s, self.drawn_m3)


def filled(bed: Bed, feeds: Sequence[Line], vents: Sequence[Line], cells: int = FINE) -> Filled:
    """The bed, filled from its feeds. About so many cells. Source: Darcy's law, quasi-static (published); the raster's error
    on the time of a filling is under 2 % at `FINE` against the closed forms of line and point feed.

    Raises OutOfRange for an outline that crosses itself, no feed, no vent, and what lies outside the part.

    >>> strip = Bed(Polygon([(0, 0), (1, 0), (1, 0.1), (0, 0.1)]), Layered(1e-13, 5e-4))
    >>> left, right = Line(((0, 0), (0, 0.1))), Line(((1, 0), (1, 0.1)))
    >>> round(filled(strip, [left], [right]).full_s / (0.5 / (2 * 1e-10)), 2)
    1.0
    """
    if not bed.outline.is_valid:
        raise OutOfRange("the outline crosses itself: move its corners until no two sides cross", "outline")
    if not feeds:
        raise OutOfRange("no feed yet: resin has to come in somewhere", "feeds")
    if not vents:
        raise OutOfRange("no vent yet: the air has to go out somewhere", "vents")
    ports = [line.as_laid.points[0] for line in feeds if len(line.as_laid.points) == 1]
    raster = _Raster(bed, cells, ports[0] if ports else None)
    for at, line in enumerate(feeds):
        raster.feed(at, line.as_laid)
    for at, line in enumerate(vents):
        raster.vent(at, line.as_laid)
    return raster.fill()


def _aligned(begins: float, step: float, through: float) -> float:
    """Where cells begin, at `begins` or before it, so that one has its middle at `through`."""
    return through - (ceil((through - begins) / step - 0.5 - 1e-9) + 0.5) * step


class _Raster:
    """The cells of a bed with their links, and what its feeds and vents touch."""

    def __init__(self, bed: Bed, cells: int, port: tuple[float, float] | None):
        self.bed = bed
        left, low, right, high = bed.outline.bounds
        side = sqrt(bed.outline.area / cells)
        self.columns, self.rows = max(3, ceil((right - left) / side)), max(3, ceil((high - low) / side))
        self.dx, self.dy = (right - left) / self.columns, (high - low) / self.rows
        if port:
            # A port stands in the middle of its cell: half a cell aside it is a few per cent of the time.
            left, low = _aligned(left, self.dx, port[0]), _aligned(low, self.dy, port[1])
            self.columns, self.rows = ceil((right - left) / self.dx - 1e-9), ceil((high - low) / self.dy - 1e-9)
        self.left, self.low = left, low
        row, column = (grid.ravel() for grid in np.mgrid[0 : self.rows, 0 : self.columns])
        x0, y0 = left + column * self.dx, low + row * self.dy
        cut = shapely.box(x0, y0, x0 + self.dx, y0 + self.dy)
        shapely.prepare(bed.outline)
        whole = shapely.contains_properly(bed.outline, cut)
        cut[~whole] = shapely.intersection(cut[~whole], bed.outline)
        area = shapely.area(cut)
        kept = np.flatnonzero(area > _LEAST_SHARE * self.dx * self.dy)
        self.cut, self.area, self.whole = cut[kept], area[kept], whole[kept]
        self.column, self.row = column[kept], row[kept]
        middle = shapely.centroid(self.cut)
        self.x, self.y = shapely.get_x(middle), shapely.get_y(middle)
        self.number = np.full((self.rows, self.columns), -1)
        self.number[self.row, self.column] = np.arange(kept.size)
        self.kh, self.kh_up, self.pores = self._layered()
        count = kept.size
        self.from_feed, self.to_vent = np.zeros(count), np.zeros(count)
        self.role, self.waits_for = np.full(count, PLAIN), np.zeros(count, np.int64)
        self.touched: dict[int, np.ndarray] = {}
        self.vented: dict[int, np.ndarray] = {}
        self.one, self.other, self.conducts = self._links()

    def _layered(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        plain = self.bed.plain
        share = np.zeros(self.area.size)
        if self.bed.over_on is not None and self.bed.over is not None:
            shapely.prepare(self.bed.over_on)
            share = shapely.contains_properly(self.bed.over_on, self.cut).astype(float)
            part = (share == 0) & shapely.intersects(self.bed.over_on, self.cut)
            share[part] = shapely.area(shapely.intersection(self.cut[part], self.bed.over_on)) / self.area[part]
        over = self.bed.over or plain
        kh = share * over.kh_m3 + (1 - share) * plain.kh_m3
        up = share * over.kh_up_m3 + (1 - share) * plain.kh_up_m3
        # Slivers that are no cells of their own belong to the others.
        area = self.area * (self.bed.outline.area / self.area.sum())
        return kh, up, (share * over.pores_m + (1 - share) * plain.pores_m) * area

    def _links(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Each pair of neighbours once, and what flows from one to the other: through both halves of the way, one after
        the other, over the width that they share."""
        found = []
        for across in (True, False):
            one = self.number[:, :-1] if across else self.number[:-1, :]
            other = self.number[:, 1:] if across else self.number[1:, :]
            both = (one >= 0) & (other >= 0)
            i, j = one[both], other[both]
            if across:
                at = self.left + (self.column[i] + 1) * self.dx
                low = self.low + self.row[i] * self.dy
                ends = np.stack([np.stack([at, low], -1), np.stack([at, low + self.dy], -1)], 1)
                near, far, side = at - self.x[i], self.x[j] - at, self.dx
            else:
                at = self.low + (self.row[i] + 1) * self.dy
                left = self.left + self.column[i] * self.dx
                ends = np.stack([np.stack([left, at], -1), np.stack([left + self.dx, at], -1)], 1)
                near, far, side = at - self.y[i], self.y[j] - at, self.dy
            cut = ~(self.whole[i] | self.whole[j])
            width = np.full(i.size, self.dy if across else self.dx)
            width[cut] = shapely.length(shapely.intersection(shapely.linestrings(ends[cut]), self.bed.outline))
            least = 0.05 * side
            kh = self.kh if across else self.kh_up
            conducts = width / (np.maximum(near, least) / kh[i] + np.maximum(far, least) / kh[j])
            meet = width > 1e-9 * side
            found.append((i[meet], j[meet], conducts[meet]))
        one, other, conducts = (np.concatenate(parts) for parts in zip(*found, strict=True))
        return one, other, conducts

    def _cells_of(self, line: Line, what: str) -> tuple[np.ndarray, np.ndarray]:
        """The cells a line runs through, with its length in each, m: of both its sides the longer."""
        if len(line.points) == 1:
            return np.array([self._cell_at(line.points[0], what)]), np.zeros(1)
        whole = LineString(line.points)
        steps = max(2, ceil(whole.length / (min(self.dx, self.dy) / 8)))
        along = (np.arange(steps) + 0.5) / steps
        sides = []
        for offset in (0.02, -0.02):
            lengths = np.zeros(self.area.size)
            points = shapely.line_interpolate_point(whole, along, normalized=True)
            ahead = shapely.line_interpolate_point(whole, np.minimum(along + 0.5 / steps, 1.0), normalized=True)
            x, y = shapely.get_x(points), shapely.get_y(points)
            tx, ty = shapely.get_x(ahead) - x, shapely.get_y(ahead) - y
            size = np.maximum(np.hypot(tx, ty), 1e-12)
            x, y = x - offset * min(self.dx, self.dy) * ty / size, y + offset * min(self.dx, self.dy) * tx / size
            column = np.floor((x - self.left) / self.dx).astype(int)
            row = np.floor((y - self.low) / self.dy).astype(int)
            inside = (column >= 0) & (column < self.columns) & (row >= 0) & (row < self.rows)
            cell = np.where(
                inside, self.number[np.clip(row, 0, self.rows - 1), np.clip(column, 0, self.columns - 1)], -1
            )
            np.add.at(lengths, cell[cell >= 0], whole.length / steps)
            sides.append(lengths)
        lengths = np.maximum(*sides)
        touched = np.flatnonzero(lengths)
        if not touched.size:
            return np.array([self._cell_at(line.points[0], what)]), np.zeros(1)
        return touched, lengths[touched]

    def _cell_at(self, point: tuple[float, float], what: str) -> int:
        """The cell at a point, or the nearest to it. Raises OutOfRange where it lies outside the part."""
        away = np.hypot(self.x - point[0], self.y - point[1])
        nearest = int(away.argmin())
        if self.bed.outline.distance(Point(point)) > max(self.dx, self.dy):
            raise OutOfRange(f"this {what} lies outside the part: move it onto it", f"{what}s")
        return nearest

    def feed(self, at: int, line: Line) -> None:
        cells, lengths = self._cells_of(line, "feed")
        self.touched[at] = cells
        if line.waits:
            self.waits_for[cells] = at + 1
            self.role[cells] = FEED
        elif len(line.points) == 1:
            self._port(cells, line, FEED)
        else:
            self._along(cells, lengths, line, self.from_feed, FEED)

    def vent(self, at: int, line: Line) -> None:
        cells, lengths = self._cells_of(line, "vent")
        self.vented[at] = cells
        fed = (self.role[cells] == FEED) | (self.from_feed[cells] > 0)
        if fed.any():
            raise OutOfRange("this vent lies in a feed: the resin would go straight through", "vents")
        if len(line.points) == 1:
            self._port(cells, line, VENT)
        else:
            self._along(cells, lengths, line, self.to_vent, VENT)

    def _port(self, cells: np.ndarray, line: Line, role: int) -> None:
        """A port is far smaller than its cell: what flows round it goes by the logarithm of both."""
        self.role[cells] = role
        side = sqrt(self.dx * self.dy)
        scale = (pi / 2) / log(side / min(line.radius_m, side / 1.3))
        touches = np.isin(self.one, cells) | np.isin(self.other, cells)
        self.conducts[touches] *= scale

    def _along(self, cells: np.ndarray, lengths: np.ndarray, line: Line, to: np.ndarray, role: int) -> None:
        whole = LineString(line.points)
        away = shapely.distance(shapely.points(self.x[cells], self.y[cells]), whole)
        side = sqrt(self.dx * self.dy)
        through = away < _THROUGH * side
        self.role[cells[through]] = role
        beside = cells[~through]
        # What comes out of a line goes across it.
        (ax, ay), (bx, by) = line.points[0], line.points[-1]
        lies = (bx - ax) ** 2 / max((bx - ax) ** 2 + (by - ay) ** 2, 1e-18)
        kh = self.kh[beside] * (1 - lies) + self.kh_up[beside] * lies
        to[beside] += kh * lengths[~through] / away[~through]

    def fill(self) -> Filled:
        ends = np.concatenate([self.one, self.other])
        order = np.argsort(ends, kind="stable")
        told = fill(
            Pores(
                volume=self.pores,
                one=ends[order],
                other=np.concatenate([self.other, self.one])[order],
                conducts=np.concatenate([self.conducts, self.conducts])[order],
                from_feed=self.from_feed,
                to_vent=self.to_vent,
                role=self.role.astype(np.int64),
                waits_for=self.waits_for,
            )
        )
        return Filled(
            self.x,
            self.y,
            self.pores,
            told.passed_at,
            told.filled_at,
            self.column,
            self.row,
            self.columns,
            self.rows,
            self.dx,
            self.dy,
            (self.left, self.low),
            tuple(zip(self.one.tolist(), self.other.tolist(), strict=True)),
            told.at_s,
            told.drawn,
            told.left,
            tuple(float(told.passed_at[self.vented[at]].min()) for at in sorted(self.vented)),
            tuple(
                float(told.filled_at[cells].min()) if self.waits_for[cells].any() else 0.0
                for _, cells in sorted(self.touched.items())
            ),
        )
