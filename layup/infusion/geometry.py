"""A part in plan as a bed: its outline with its holes, the feeds and vents a builder placed or those that are proposed."""

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from shapely import LinearRing, LineString, MultiLineString, Point, Polygon
from shapely.geometry.base import BaseGeometry

from layup.errors import Missing, OutOfRange
from layup.infusion.bed import FINE, Bed, Filled, Layered, Line, filled
from layup.job import Part
from layup.laminate.measures import Measured, hole_pieces
from layup.under_vacuum import FlowLine

Points = tuple[tuple[float, float], ...]
# How far inside an edge a proposed line lies, of what lies across.
_INSIDE = 0.002
# A place that fills last is one of its own where the front came from all round over so much of S.
_OF_ITS_OWN = 0.03


def outline_of(part: Part, measured: Measured) -> Polygon:
    """The part in plan, with its margin, less its holes where they are drawn. Raises Missing for an area without a shape,
    OutOfRange where its pieces do not hang together."""
    if part.shape.kind in ("area", "patch"):
        raise Missing("an area alone has no shape for resin to run in: measure it as a shape", "shape")
    if len(measured.pieces) != 1:
        raise OutOfRange("it lies in several pieces: make each of them a part to infuse", "shape")
    whole: BaseGeometry = Polygon(measured.pieces[0])
    if part.margin_mm:
        whole = whole.buffer(part.margin_mm / 1000, join_style="mitre")
    for hole in hole_pieces(part.cut_outs, measured):
        whole = whole.difference(Polygon(hole))
    if not isinstance(whole, Polygon):
        raise OutOfRange("its holes cut it in two: make each of them a part to infuse", "shape")
    return whole


def points_of(ring: LinearRing) -> Points:
    """The corners of a ring, rounded to a tenth of a millimetre, its last one once."""
    return tuple((round(x, 4), round(y, 4)) for x, y in list(ring.coords)[:-1])


def proposed(outline: Polygon) -> tuple[Points, Points]:
    """A feed along one long side, and a vent along the other: the resin's way is the short one."""
    left, low, right, high = outline.bounds
    lies = right - left >= high - low
    across = high - low if lies else right - left
    ends = (low, high) if lies else (left, right)
    inside = _INSIDE * across
    return tuple(_chord(outline, lies, at) for at in (ends[0] + inside, ends[1] - inside))  # type: ignore[return-value]


def _chord(outline: Polygon, lies: bool, at: float) -> Points:
    left, low, right, high = outline.bounds
    ends = ((left - 1, at), (right + 1, at)) if lies else ((at, low - 1), (at, high + 1))
    cut = outline.intersection(LineString(ends))
    pieces = list(cut.geoms) if isinstance(cut, MultiLineString) else [cut]
    longest = max(pieces, key=lambda piece: piece.length)
    return tuple((round(x, 4), round(y, 4)) for x, y in longest.coords)


def _shape_of(line: Line) -> LineString | Point:
    return LineString(line.points) if len(line.points) > 1 else Point(line.points[0])


def line_of(line: FlowLine, radius_m: float) -> Line:
    """A line of the document as the bed takes it, of a hose of a radius, m."""
    return Line(tuple((point.x_m, point.y_m) for point in line.points), radius_m, line.waits)


@lru_cache(maxsize=64)
def filled_bed(
    rings: tuple[Points, ...],
    plain: Layered,
    over: Layered | None,
    short_m: float,
    feeds: tuple[Line, ...],
    vents: tuple[Line, ...],
    cells: int = FINE,
) -> Filled:
    """The bed of an outline and its holes, filled; kept, since it is asked for at every change of anything else.

    The mesh stops `short_m` from each vent, and reaches the edge elsewhere.
    """
    outline = Polygon(rings[0], rings[1:])
    over_on: BaseGeometry = outline
    for vent in vents if over and short_m else ():
        shape = _shape_of(vent)
        over_on = over_on.difference(shape.buffer(short_m))
    return filled(Bed(outline, plain, over_on if over else None, over), feeds, vents, cells)


def last_places(found: Filled) -> list[tuple[float, float, float]]:
    """Where it fills last, and later than all round: x, y, S, the latest first.

    Going back through the order of filling, cells join their neighbours that filled after them; a place stands for itself
    as long as it joins a later one only by going well back. Source: the persistence of a maximum (published, computational
    topology); its threshold memory.
    """
    at = np.where(np.isfinite(found.at_s), found.at_s, -1.0)
    beside: list[list[int]] = [[] for _ in at]
    for one, other in found.links:
        beside[one].append(other)
        beside[other].append(one)
    top = np.full(at.size, -1)

    def root(cell: int) -> int:
        while top[cell] != cell:
            top[cell] = top[top[cell]]
            cell = int(top[cell])
        return cell

    own: list[int] = []
    least = _OF_ITS_OWN * found.full_s
    for cell in np.argsort(-at, kind="stable"):
        if at[cell] < 0:
            break
        top[cell] = cell
        roots = sorted(
            {root(other) for other in beside[cell] if top[other] >= 0 and other != cell}, key=lambda r: -at[r]
        )
        for later in roots:
            if later != roots[0] and at[later] - at[cell] > least:
                own.append(later)
        if roots:
            top[cell] = roots[0]
            for later in roots[1:]:
                top[later] = roots[0]
    if at.max() >= 0:
        own.append(int(at.argmax()))
    ordered = sorted(set(own), key=lambda cell: -at[cell])
    return [(float(found.x_m[cell]), float(found.y_m[cell]), float(at[cell])) for cell in ordered]


def near_a_vent(x: float, y: float, vents: Sequence[Line], within_m: float) -> bool:
    """Whether a place lies beside a vent."""
    for vent in vents:
        shape = _shape_of(vent)
        if shape.distance(Point(x, y)) <= within_m:
            return True
    return False
