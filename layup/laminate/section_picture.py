"""What is also printed: the laminate cut through, to scale in thickness."""

from collections.abc import Iterator
from math import ceil

from layup.architecture import BUILDS, Architecture, Hatch, Segment
from layup.laminate.outcome import PartResult, PlyResult
from layup.paper.shapes import SOFT, Picture, Shape, svg_of
from layup.scales import METRIC, Scales

WIDTH, LEFT, RIGHT, TOP, BOTTOM, GROUND = 720.0, 90.0, 430.0, 40.0, 460.0, 50.0
_LABEL_GAP = 34.0
_RESIN, _CORE, _GROUND = "#F2D08C", "#DCD3BE", "#E7D8B8"

_COAT: Hatch = (12, 6, ((0, 3, 3, 3),))


def section_drawn(part: PartResult, scales: Scales = METRIC, tallest_mm: float | None = None) -> Picture:
    """A part's section: plies hatched by architecture, a rule in the unit asked for, their names. It fills the picture, or stands
    in it as the part of `tallest_mm` that it is, beside another.

    >>> section_drawn(PartResult.model_construct(name="Deck", substrate="timber", plies=(), thickness_mm=0.0)).words
    'Section through Deck, 0 mm'
    """
    plies = [ply for ply in part.plies if ply.stays and ply.thickness_mm]
    whole_mm = tallest_mm or part.thickness_mm
    scale = (BOTTOM - TOP) / (whole_mm or 1.0)
    shapes = [Shape("text", (LEFT, 22), part.name, size=17, bold=True), *_rule(whole_mm, scale, scales)]
    label_under, below = BOTTOM + 20, 0.0
    for ply in plies:
        top = BOTTOM - (below + ply.thickness_mm) * scale
        label_under = min(top + ply.thickness_mm * scale / 2, label_under - _LABEL_GAP)
        shapes += _ply(ply, top, ply.thickness_mm * scale, label_under, scales)
        below += ply.thickness_mm
    shapes.append(Shape("box", (LEFT, BOTTOM, RIGHT - LEFT, GROUND), colour=_GROUND))
    shapes.append(Shape("text", (RIGHT + 40, BOTTOM + 30), part.substrate, size=15))
    title = f"Section through {part.name or 'the part'}, {scales.words('thickness', part.thickness_mm)}"
    return Picture(tuple(shapes), WIDTH, BOTTOM + GROUND + 20, title)


def section_svg(part: PartResult, scales: Scales = METRIC) -> str:
    """A part's section as an SVG document."""
    return svg_of(section_drawn(part, scales))


def _ply(ply: PlyResult, top: float, tall: float, label: float, scales: Scales) -> Iterator[Shape]:
    fill = _CORE if ply.architecture is Architecture.CORE else _RESIN
    hatch = _COAT if ply.architecture == "coat" else BUILDS[ply.architecture].hatch
    box, middle = (LEFT, top, RIGHT - LEFT, tall), top + tall / 2
    yield Shape("box", box, colour=fill, id=f"ply-{ply.id}")
    strokes = tuple(hatching(*hatch, box))
    if strokes:
        yield Shape("line", tuple(end for stroke in strokes for end in stroke), colour=SOFT)
    bend = RIGHT + 24
    yield Shape("line", (RIGHT + 6, middle, bend, label, bend, label, bend + 10, label))
    yield Shape("text", (RIGHT + 40, label), ply.name + (f" ±{ply.angle}" if ply.angle else ""), size=15)
    resin = f"{scales.words('areal_weight', ply.resin_gsm)} resin, {scales.words('thickness', ply.thickness_mm)}"
    yield Shape("text", (RIGHT + 40, label + 15), resin, colour=SOFT, size=12.5)


def hatching(
    wide: float, tall: float, strokes: tuple[Segment, ...], box: tuple[float, float, float, float]
) -> Iterator[Segment]:
    """The strokes of a tile laid over a box (left, top, width, height), cut off at its edges.

    >>> list(hatching(10, 10, ((0, 5, 10, 5),), (0, 0, 15, 10)))
    [(0, 5, 10, 5), (10.0, 5.0, 15.0, 5.0)]
    """
    left, top, across, down = box
    for row in range(ceil(down / tall)):
        for column in range(ceil(across / wide)):
            x, y = left + column * wide, top + row * tall
            for x1, y1, x2, y2 in strokes:
                kept = _within((x + x1, y + y1, x + x2, y + y2), box)
                if kept:
                    yield kept


def _within(stroke: Segment, box: tuple[float, float, float, float]) -> Segment | None:
    """The length of a stroke that lies in a box, by its share from end to end."""
    x1, y1, x2, y2 = stroke
    left, top, wide, tall = box
    from_share, to_share = 0.0, 1.0
    for start, run, least, most in ((x1, x2 - x1, left, left + wide), (y1, y2 - y1, top, top + tall)):
        if run == 0:
            if not least <= start <= most:
                return None
            continue
        enters, leaves = sorted(((least - start) / run, (most - start) / run))
        from_share, to_share = max(from_share, enters), min(to_share, leaves)
    if from_share >= to_share:
        return None
    if (from_share, to_share) == (0.0, 1.0):
        return stroke
    run_x, run_y = x2 - x1, y2 - y1
    return x1 + run_x * from_share, y1 + run_y * from_share, x1 + run_x * to_share, y1 + run_y * to_share


def _rule(total_mm: float, scale: float, scales: Scales) -> Iterator[Shape]:
    """The rule up the side: four to ten marks in the unit asked for."""
    rung = scales.table()["thickness"][0]
    shown = total_mm * rung.factor
    steps = (0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.25, 0.5, 1, 2, 5, 10, 20)
    step = next((step for step in steps if shown / step <= 9), 50)
    yield Shape("line", (LEFT - 12, BOTTOM, LEFT - 12, TOP), colour=SOFT)
    for number in range(int(shown / step + 1e-9) + 1):
        y = BOTTOM - number * step / rung.factor * scale
        yield Shape("line", (LEFT - 20, y, LEFT - 12, y), colour=SOFT)
        yield Shape("text", (LEFT - 24, y + 5), f"{number * step:g}", colour=SOFT, size=13, anchor="end")
    yield Shape("text", (LEFT - 24, BOTTOM + 22), rung.unit, size=13, anchor="end")
