"""A roll with its pieces, to scale: laid out once as plain boxes in millimetres, painted as SVG and on paper."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil

from layup.paper.shapes import SOFT, Anchor, Picture, Shape, moved, svg_of
from layup.preparing.before_pot import CutRoll
from layup.scales import METRIC, Scales
from layup.units import convert

_ROLL, _PIECE = "#DFE5E1", "#FFFFFF"
_TEXT_SHARE = 0.42
_LEAST_TEXT, _MOST_TEXT = 5.0, 16.0
# Points to a millimetre of a roll, and the room left round it.
_SVG_SCALE, _SVG_EDGE = 0.3, 16.0


@dataclass(frozen=True)
class Box:
    """One piece on its roll: where it lies along and across, mm, and its words."""

    along_mm: float
    across_mm: float
    length_mm: float
    width_mm: float
    number: str
    size: str

    @property
    def end_mm(self) -> float:
        """Where along the roll it ends."""
        return self.along_mm + self.length_mm


def boxes(roll: CutRoll, scales: Scales) -> list[Box]:
    """The pieces of a roll as boxes, the roll lying along the page."""
    return [
        Box(
            along_mm=piece.y_mm,
            across_mm=piece.x_mm,
            length_mm=piece.along_mm,
            width_mm=piece.across_mm,
            number=str(piece.number) if piece.number else "spare",
            size=f"{scales.number('cut', piece.along_mm)} × {scales.number('cut', piece.across_mm)}",
        )
        for piece in roll.pieces
    ]


def roll_words(roll: CutRoll, scales: Scales) -> str:
    """A roll in a line: what it is, what comes off it, what of that is waste.

    >>> roll_words(CutRoll.model_construct(fabric_name="300 cloth", number=1, lot_id="", roll_width_mm=1270, run_m=4.2,
    ...     waste_share=0.08), METRIC)
    '300 cloth, roll 1, 1,270 mm wide: 4.2 m off the roll, 8 % waste'
    """
    what = f"offcut {roll.called}" if roll.lot_id else f"roll {roll.number}"
    off = "of it" if roll.lot_id else "off the roll"
    return (
        f"{roll.fabric_name}, {what}, {scales.words('cut', roll.roll_width_mm)} wide: "
        f"{scales.words('roll_run', roll.run_m)} {off}, {100 * roll.waste_share:.0f} % waste"
    )


def roll_drawn(
    roll: CutRoll,
    scales: Scales,
    scale: float,
    stretch_mm: tuple[float, float] | None = None,
    text: tuple[float, float] = (_LEAST_TEXT, _MOST_TEXT),
) -> Picture:
    """A roll, or a stretch of it, along the page, so many points to a millimetre, with a tape along its edge.

    `text` is the least and the most size of a piece's number, points.
    """
    start, end = stretch_mm or (0.0, roll.run_m * 1000)
    wide, tall = (end - start) * scale, roll.roll_width_mm * scale
    shapes = [Shape("box", (0, 0, wide, tall), colour=_ROLL)]
    for box in boxes(roll, scales):
        left, right = max(0.0, (box.along_mm - start) * scale), min(wide, (box.end_mm - start) * scale)
        if left >= right:
            continue
        top, deep = box.across_mm * scale, box.width_mm * scale
        shapes.append(Shape("box", (left, top, right - left, deep), colour=_PIECE))
        shapes += _told(box, (left + right) / 2, top + deep / 2, right - left, deep, text)
    return Picture((*shapes, *_tape(start, end, scale, tall, scales)), wide, tall + 18, roll_words(roll, scales))


def _told(
    box: Box, middle: float, centre: float, wide: float, deep: float, text: tuple[float, float]
) -> Iterator[Shape]:
    """A piece's number, and its size beneath where both are read: the list has what a narrow strip cannot hold."""
    least, most = text
    size = max(least, min(most, _TEXT_SHARE * min(deep, wide / 1.6)))
    number = Shape("text", (middle, centre), box.number, size=size, bold=True, anchor="middle")
    small = max(least * 0.8, size * 0.55)
    below = Shape("text", (middle, centre + small * 1.15), box.size, colour=SOFT, size=small, anchor="middle")
    if below.reach() <= wide - 2 and size + small * 1.4 <= deep:
        yield number
        yield below
    elif number.reach() <= wide - 2:
        yield Shape(**{**vars(number), "points": (middle, centre + size * 0.35)})


def _tape(start_mm: float, end_mm: float, scale: float, tall: float, scales: Scales) -> Iterator[Shape]:
    """Marks each metre or yard along the roll, and each half."""
    unit = scales.unit("roll_run", 0)
    half_mm, wide = 500 * convert(1, unit, "m"), (end_mm - start_mm) * scale
    for half in range(ceil(start_mm / half_mm), int(end_mm // half_mm) + 1):
        x = (half * half_mm - start_mm) * scale
        yield Shape("line", (x, tall + 1, x, tall + (6 if half % 2 == 0 else 4)))
        if half % 2 == 0:
            anchor: Anchor = "start" if x < 8 else "end" if x > wide - 12 else "middle"
            yield Shape("text", (x, tall + 14), f"{half // 2} {unit}", size=7, anchor=anchor)


def roll_svg(roll: CutRoll, scales: Scales = METRIC) -> str:
    """A roll with its pieces as an SVG document, a tenth of its size."""
    picture = roll_drawn(roll, scales, _SVG_SCALE, text=(_LEAST_TEXT, 4 * _MOST_TEXT))
    title = Shape("text", (_SVG_EDGE, 22), roll_words(roll, scales), size=13, bold=True)
    shapes = (title, *moved(picture.shapes, _SVG_EDGE, 34))
    wide = max(picture.wide, title.reach()) + 2 * _SVG_EDGE
    return svg_of(Picture(shapes, wide, picture.tall + 44, picture.words), unit="mm", scale=0.1 / _SVG_SCALE)
