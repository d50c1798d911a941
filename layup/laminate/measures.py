"""What a shape comes to: its area, its edge, how it lies flat with its dimensions, and the rule it was taken by."""

from dataclasses import asdict, dataclass, replace
from math import cos, hypot, pi, sin, sqrt
from typing import Any, get_args

from layup.asked import Asked
from layup.errors import Missing, OutOfRange
from layup.laminate.areas import (
    cylinder_skin_area_m2,
    disc_area_m2,
    frustum_skin_area_m2,
    frustum_slant_m,
    girths_area_m2,
    grown_area_m2,
    rectangle_area_m2,
    square_perimeter_m,
    trapezoid_area_m2,
    triangle_area_m2,
)
from layup.shapes import (
    CutOut,
    CylinderSkin,
    Disc,
    FrustumSkin,
    Girths,
    Patch,
    Rectangle,
    Shape,
    Strips,
    Trapezoid,
    Triangle,
    TypedArea,
)

Point = tuple[float, float]
_ARC_POINTS = 48


@dataclass(frozen=True)
class Symbol:
    """What stands in the formula of an outline for a field, what it is called, and its unit: the field's own, or `per` of
    it."""

    letter: str
    field: str
    name: str
    unit: str = "m"
    per: float = 1.0


@dataclass(frozen=True)
class ShapeTold:
    """What is told of a kind of shape: its name, what is measured of it in the order of the tape, and how its area is
    worked out from that."""

    name: str
    asked: tuple[Asked, ...]
    formula: str = ""
    symbols: tuple[Symbol, ...] = ()


_WIDTH = Asked("width_m", "Width", "type the width", 1.2)
_LENGTH = Asked("length_m", "Length", "type the length", 3.8)
_W, _L = Symbol("w", "width_m", "width"), Symbol("l", "length_m", "length")
_D, _H = Symbol("d", "diameter_m", "diameter"), Symbol("h", "height_m", "height")

# By kind, in the order they are offered.
SHAPES: dict[str, ShapeTold] = {
    "rectangle": ShapeTold("width × length", (_WIDTH, _LENGTH), "w × l", (_W, _L)),
    "girths": ShapeTold("girths at stations", ()),
    "trapezoid": ShapeTold(
        "trapezoid",
        (
            Asked("side_a_m", "One side", "type one parallel side", 0.8),
            Asked("side_b_m", "The other, parallel", "type the other parallel side", 1.2),
            Asked("height_m", "Between them", "type the distance between them", 0.5),
        ),
        "(a + b) ÷ 2 × h",
        (Symbol("a", "side_a_m", "one side"), Symbol("b", "side_b_m", "the other"), _H),
    ),
    "triangle": ShapeTold(
        "triangle",
        (Asked("base_m", "Base", "type the base", 1.2), Asked("height_m", "Height", "type the height", 0.5)),
        "b × h ÷ 2",
        (Symbol("b", "base_m", "base"), _H),
    ),
    "disc": ShapeTold("disc", (Asked("diameter_m", "Diameter", "type the diameter", 1.35),), "π × d × d ÷ 4", (_D,)),
    "cylinder": ShapeTold(
        "skin of a cylinder",
        (Asked("diameter_m", "Diameter", "type the diameter", 0.3), replace(_LENGTH, example=2)),
        "π × d × l × k",
        (_D, _L, Symbol("k", "around", "of the whole turn", "")),
    ),
    "frustum": ShapeTold(
        "skin of a cone",
        (
            Asked("diameter_a_m", "One diameter", "type one diameter", 1),
            Asked("diameter_b_m", "The other", "type the other diameter", 0.4),
            Asked("height_m", "Height", "type the height", 0.4),
        ),
        "π × (a + b) ÷ 2 × sqrt(h × h + (a − b) × (a − b) ÷ 4)",
        (Symbol("a", "diameter_a_m", "one diameter"), Symbol("b", "diameter_b_m", "the other"), _H),
    ),
    "strip": ShapeTold(
        "strip along an edge",
        (replace(_WIDTH, example=0.15), replace(_LENGTH, example=4.1)),
        "w × l × k",
        (_W, _L, Symbol("k", "sides", "sides", "")),
    ),
    "area": ShapeTold(
        "area",
        (Asked("area_m2", "Area of one", "type the area", 2.4),),
        "A",
        (Symbol("A", "area_m2", "area as typed", "m²"),),
    ),
    "patch": ShapeTold(
        "patch over a hole",
        (
            Asked("width_m", "Hole, width", "type the width of the hole", 0.12),
            Asked("length_m", "Hole, length", "type the length of the hole", 0.18),
            Asked("depth_mm", "Laminate there", "type how thick the laminate is there", 4),
        ),
        "(w + 2 × t × q) × (l + 2 × t × q)",
        (_W, _L, Symbol("t", "taper", "taper", ""), Symbol("q", "depth_mm", "thickness", "m", 1000)),
    ),
}


@dataclass(frozen=True)
class Dimension:
    """One measure on the drawing, from point to point: the field it is typed in and its value, m."""

    field: str
    value_m: float
    a: Point
    b: Point


@dataclass(frozen=True)
class Measured:
    """A shape lying flat: area, length of its edge, its pieces as polygons in m, and its dimensions on them."""

    area_m2: float
    perimeter_m: float
    pieces: tuple[tuple[Point, ...], ...]
    dimensions: tuple[Dimension, ...]
    rule: str


def asked_for(shape: Shape) -> list[tuple[str, str]]:
    """The measures that are still missing: each field with the words to ask for it.

    >>> asked_for(Rectangle(width_m=1.2))
    [('length_m', 'type the length')]
    """
    if isinstance(shape, Girths):
        if len(shape.stations) < 2:
            return [("stations", "add two stations or more, from one end to the other")]
        fields = (("at_m", "how far along"), ("girth_m", "the girth"))
        return [
            (f"stations.{number}.{field}", f"type {words}")
            for number, station in enumerate(shape.stations)
            for field, words in fields
            if getattr(station, field) is None
        ]
    return [(each.field, each.ask) for each in SHAPES[shape.kind].asked if getattr(shape, each.field) is None]


def shape_measures() -> list[dict[str, Any]]:
    """What a page must know to ask for a shape: each kind's name, its measures, and what else it begins with.

    >>> told = {each["kind"]: each for each in shape_measures()}
    >>> [each["label"] for each in told["triangle"]["asked"]], told["strip"]["begins_with"]
    (['Base', 'Height'], {'sides': 1})
    """
    fresh = {each().kind: each().model_dump(mode="json") for each in get_args(get_args(Shape)[0])}
    return [
        {
            "kind": kind,
            "name": told.name,
            "asked": [asdict(each) for each in told.asked],
            "begins_with": {
                name: value
                for name, value in fresh[kind].items()
                if name not in ("kind", "typed", "stations", *(each.field for each in told.asked))
            },
        }
        for kind, told in SHAPES.items()
    ]


def measure(shape: Shape) -> Measured:
    """Measure a shape. Raises Missing where a measure is, OutOfRange, at the shape's own field, where they cannot be.

    >>> round(measure(Disc(diameter_m=1.35)).area_m2, 3)
    1.431
    """
    match shape:
        case Rectangle(width_m=float(width), length_m=float(length)):
            return _rectangle(width, length)
        case Trapezoid(side_a_m=float(a), side_b_m=float(b), height_m=float(height)):
            return _trapezoid(a, b, height)
        case Triangle(base_m=float(base), height_m=float(height)):
            return _triangle(base, height)
        case Disc(diameter_m=float(diameter)):
            return _disc(diameter)
        case CylinderSkin(diameter_m=float(diameter), length_m=float(length)):
            return _cylinder(diameter, length, shape.around)
        case FrustumSkin(diameter_a_m=float(a), diameter_b_m=float(b), height_m=float(height)):
            return _frustum(a, b, height)
        case Strips(width_m=float(width), length_m=float(length)):
            return _strip(width, length, shape.sides)
        case TypedArea(area_m2=float(area)):
            return _typed(area)
        case Patch(width_m=float(width), length_m=float(length), depth_mm=float(depth)):
            return _patch(width, length, ground_m=shape.taper * depth / 1000)
        case Girths() if not asked_for(shape):
            return _girths([(station.at_m or 0.0, station.girth_m or 0.0) for station in shape.stations])
    field, message = asked_for(shape)[0]
    raise Missing(message, field)


def _box(width: float, height: float, x: float = 0, y: float = 0) -> tuple[Point, ...]:
    return ((x, y), (x + width, y), (x + width, y + height), (x, y + height))


def _edge(points: tuple[Point, ...]) -> float:
    return sum(hypot(b[0] - a[0], b[1] - a[1]) for a, b in zip(points, (*points[1:], points[0]), strict=True))


def _sides(across: str, across_m: float, down: str, down_m: float) -> tuple[Dimension, ...]:
    return (
        Dimension(across, across_m, (0, down_m), (across_m, down_m)),
        Dimension(down, down_m, (across_m, 0), (across_m, down_m)),
    )


def _rectangle(w: float, length: float) -> Measured:
    # The long way lies across, as a drawing would have it.
    across, down = (("length_m", length), ("width_m", w)) if length >= w else (("width_m", w), ("length_m", length))
    box = _box(across[1], down[1])
    return Measured(rectangle_area_m2(w, length), 2 * (w + length), (box,), _sides(*across, *down), "width × length")


def _trapezoid(a: float, b: float, h: float) -> Measured:
    wide = max(a, b)
    points = ((wide - a) / 2, 0.0), ((wide + a) / 2, 0.0), ((wide + b) / 2, h), ((wide - b) / 2, h)
    dimensions = (
        Dimension("side_a_m", a, points[0], points[1]),
        Dimension("side_b_m", b, points[3], points[2]),
        Dimension("height_m", h, (wide, 0), (wide, h)),
    )
    return Measured(trapezoid_area_m2(a, b, h), _edge(points), (points,), dimensions, "mean of the sides × distance")


def _triangle(b: float, h: float) -> Measured:
    points = ((b / 2, 0.0), (b, h), (0.0, h))
    dimensions = Dimension("base_m", b, (0, h), (b, h)), Dimension("height_m", h, (b, 0), (b, h))
    return Measured(triangle_area_m2(b, h), _edge(points), (points,), dimensions, "half of base × height")


def _disc(d: float) -> Measured:
    points = tuple(
        (d / 2 + d / 2 * cos(2 * pi * n / _ARC_POINTS), d / 2 + d / 2 * sin(2 * pi * n / _ARC_POINTS))
        for n in range(_ARC_POINTS)
    )
    return Measured(
        disc_area_m2(d), pi * d, (points,), (Dimension("diameter_m", d, (0, d), (d, d)),), "π × diameter² ÷ 4"
    )


def _cylinder(diameter: float, length: float, around: float) -> Measured:
    round_m = pi * diameter * around
    dimensions = (
        Dimension("length_m", length, (0, round_m), (length, round_m)),
        Dimension("diameter_m", diameter, (length, 0), (length, round_m)),
    )
    area = cylinder_skin_area_m2(diameter, length, around)
    box = _box(length, round_m)
    return Measured(area, _edge(box), (box,), dimensions, "skin of a cylinder, unrolled")


def _frustum(a: float, b: float, h: float) -> Measured:
    slant, area = frustum_slant_m(a, b, h), frustum_skin_area_m2(a, b, h)
    large, small = max(a, b), min(a, b)
    edge = pi * (a + b) + 2 * slant
    if large - small < 1e-9:
        box = _box(pi * a, slant)
        return Measured(area, edge, (box,), _sides("diameter_a_m", a, "height_m", h), "skin of a cylinder, unrolled")
    # Unrolled, the skin is a ring's sector: outer radius R, inner r, turned by the larger circle over R.
    outer = slant * large / (large - small)
    inner, turn = outer - slant, pi * large / outer
    angles = [pi / 2 - turn / 2 + turn * n / _ARC_POINTS for n in range(_ARC_POINTS + 1)]
    arc = [(outer * cos(t), outer * sin(t)) for t in angles] + [(inner * cos(t), inner * sin(t)) for t in angles[::-1]]
    left, top = min(x for x, _ in arc), min(y for _, y in arc)
    points = tuple((x - left, y - top) for x, y in arc)
    middle = points[_ARC_POINTS // 2]
    dimensions = (
        Dimension("diameter_a_m" if a >= b else "diameter_b_m", large, points[0], points[_ARC_POINTS]),
        Dimension("diameter_b_m" if a >= b else "diameter_a_m", small, points[-1], points[_ARC_POINTS + 1]),
        Dimension("height_m", h, (middle[0], middle[1] - slant), middle),
    )
    return Measured(area, edge, (points,), dimensions, "skin of a frustum, unrolled")


def _strip(w: float, length: float, sides: int) -> Measured:
    gap = w * 0.35
    pieces = tuple(_box(length, w, 0, n * (w + gap)) for n in range(sides))
    area = rectangle_area_m2(w, length) * sides
    rule = "width × length" + (f" × {sides} sides" if sides > 1 else "")
    return Measured(area, 2 * (w + length) * sides, pieces, _sides("length_m", length, "width_m", w), rule)


def _girths(stations: list[Point]) -> Measured:
    at, girths = [at for at, _ in stations], [girth for _, girth in stations]
    area, rule = girths_area_m2(at, girths)
    if area <= 0:
        raise OutOfRange("one girth at least is more than nought", "stations.0.girth_m")
    middle = max(girths) / 2
    upper = [(x - at[0], middle - girth / 2) for x, girth in zip(at, girths, strict=True)]
    lower = [(x - at[0], middle + girth / 2) for x, girth in zip(at, girths, strict=True)]
    dimensions = tuple(
        Dimension(f"stations.{n}.girth_m", girth, upper[n], lower[n]) for n, girth in enumerate(girths) if girth > 0
    )
    points = (*upper, *lower[::-1])
    return Measured(area, _edge(points), (points,), dimensions, f"girths at stations, {rule}'s rule")


def _typed(area: float) -> Measured:
    side = sqrt(area)
    return Measured(area, square_perimeter_m(area), (_box(side, side),), (), "as typed")


def ground_mm(shape: Patch) -> float:
    """How wide the ground is all round the hole, mm: the taper times the thickness, nought while that is not typed.

    >>> ground_mm(Patch(depth_mm=4, taper=12))
    48.0
    """
    return shape.taper * (shape.depth_mm or 0)


def patch_extra_mm(shape: Patch, place: int, count: int) -> float:
    """How far a ply of a patch runs past the hole, mm. Plies count from the first laid; the smallest steps once.

    >>> [patch_extra_mm(Patch(step_mm=20), place, 3) for place in range(3)]
    [60.0, 40.0, 20.0]
    """
    steps = count - place if shape.order == "largest first" else place + 1
    return shape.step_mm * steps


def _patch(w: float, length: float, ground_m: float) -> Measured:
    across, down = (("length_m", length), ("width_m", w)) if length >= w else (("width_m", w), ("length_m", length))
    outer = _box(across[1] + 2 * ground_m, down[1] + 2 * ground_m)
    hole = _box(across[1], down[1], ground_m, ground_m)
    dimensions = (
        Dimension(across[0], across[1], hole[3], hole[2]),
        Dimension(down[0], down[1], hole[1], hole[2]),
        Dimension("taper", ground_m, (0, ground_m), (ground_m, ground_m)),
    )
    area = grown_area_m2(rectangle_area_m2(w, length), 2 * (w + length), 1000 * ground_m)
    return Measured(area, _edge(outer), (outer, hole), dimensions, "the hole with its ground all round")


def cut_out_area_m2(cut_out: CutOut) -> float | None:
    """Area of the holes of one cut-out, m²; None while its measures are missing.

    >>> cut_out_area_m2(CutOut(id="c", width_m=0.3, length_m=0.5, count=2))
    0.3
    """
    if cut_out.diameter_m is not None:
        return disc_area_m2(cut_out.diameter_m) * cut_out.count
    if cut_out.width_m is None or cut_out.length_m is None:
        return None
    return cut_out.width_m * cut_out.length_m * cut_out.count


def hole_pieces(cut_outs: tuple[CutOut, ...], measured: Measured) -> tuple[tuple[Point, ...], ...]:
    """The holes as polygons in a row along the middle of the part: their size is known, their place is not.

    >>> box = measure(Rectangle(width_m=1, length_m=2))
    >>> [tuple(round(x, 2) for x in point) for point in hole_pieces((CutOut(id="c", width_m=0.2, length_m=0.4),), box)[0]]
    [(0.8, 0.4), (1.2, 0.4), (1.2, 0.6), (0.8, 0.6)]
    """
    holes = [cut_out for cut_out in cut_outs for _ in range(cut_out.count)]
    points = [point for piece in measured.pieces for point in piece]
    wide, tall = max(x for x, _ in points), max(y for _, y in points)
    found = []
    for number, hole in enumerate(holes):
        x, y = wide * (number + 0.5) / len(holes), tall / 2
        if hole.diameter_m is not None:
            r = hole.diameter_m / 2
            turns = (2 * pi * n / _ARC_POINTS for n in range(_ARC_POINTS))
            found.append(tuple((x + r * cos(t), y + r * sin(t)) for t in turns))
        elif hole.length_m is not None and hole.width_m is not None:
            found.append(_box(hole.length_m, hole.width_m, x - hole.length_m / 2, y - hole.width_m / 2))
    return tuple(found)


def missing_of(cut_out: CutOut) -> Missing | None:
    """What a cut-out still has to be told."""
    if cut_out_area_m2(cut_out) is not None:
        return None
    field = "length_m" if cut_out.width_m is not None else "width_m"
    return Missing("type the width and the length of the hole, or its diameter", field)
