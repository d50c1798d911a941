"""Drawings as plain shapes in points from the top left: laid out once, painted as SVG and on paper."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, TypeVar
from xml.sax.saxutils import escape, quoteattr

from reportlab.lib.colors import HexColor
from reportlab.pdfgen.canvas import Canvas

from layup.paper.face import BOLD, PLAIN, draw_words, width_of

INK, SOFT = "#12252B", "#4E6168"
FACE_NAMES = "Archivo, Helvetica, Arial, sans-serif"


T = TypeVar("T")
Anchor = Literal["start", "middle", "end"]


@dataclass(frozen=True)
class Shape:
    """Lines, a box, a filled outline or a word.

    `points` are x and y in turn: of lines the two ends of each, of a box its corner, width and height. `colour` is that of
    a line or a word, and the fill of a box or an outline, which is drawn round in `INK`. `id` names what it stands for.
    """

    kind: Literal["line", "box", "fill", "text"]
    points: tuple[float, ...]
    text: str = ""
    colour: str = INK
    size: float = 9.0
    bold: bool = False
    dashed: bool = False
    anchor: Anchor = "start"
    thick: float = 0.6
    id: str = ""

    def reach(self) -> float:
        """How wide its words are set, points."""
        return width_of(self.text, BOLD if self.bold else PLAIN, self.size)


@dataclass(frozen=True)
class Picture:
    """A drawing of a size, in points, and what it shows in words."""

    shapes: tuple[Shape, ...]
    wide: float
    tall: float
    words: str


def svg_of(picture: Picture, *, unit: str = "", scale: float = 1.0) -> str:
    """A picture as an SVG document, its size in `unit`, so many to a point. Every word is escaped.

    >>> svg_of(Picture((), 30, 20, "a deck"))[:73]
    '<svg xmlns="http://www.w3.org/2000/svg" width="30" height="20" viewBox="0'
    """
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{picture.wide * scale:g}{unit}" '
        f'height="{picture.tall * scale:g}{unit}" viewBox="0 0 {picture.wide:g} {picture.tall:g}" '
        f'font-family="{FACE_NAMES}" role="img"><title>{escape(picture.words)}</title>'
        f'<rect width="100%" height="100%" fill="#fff"/>{"".join(map(_as_svg, picture.shapes))}</svg>'
    )


def _as_svg(shape: Shape) -> str:
    points = [f"{point:.1f}" for point in shape.points]
    if shape.kind == "text":
        weight = ' font-weight="700"' if shape.bold else ""
        anchor = f' text-anchor="{shape.anchor}"' if shape.anchor != "start" else ""
        place = f'x="{points[0]}" y="{points[1]}" font-size="{shape.size:g}" fill="{shape.colour}"'
        return f"<text {place}{weight}{anchor}>{escape(shape.text)}</text>"
    if shape.kind == "line":
        dashes = ' stroke-dasharray="3 3"' if shape.dashed else ""
        path = "".join(f"M{x1} {y1}L{x2} {y2}" for x1, y1, x2, y2 in _fours(points))
        return f'<path d="{path}" fill="none" stroke="{shape.colour}" stroke-width="{shape.thick:g}"{dashes}/>'
    named = f" id={quoteattr(shape.id)}" if shape.id else ""
    edge = f'fill="{shape.colour}" stroke="{INK}" stroke-width="{shape.thick:g}"'
    if shape.kind == "box":
        left, top, wide, tall = points
        return f'<rect x="{left}" y="{top}" width="{wide}" height="{tall}" {edge}{named}/>'
    path = " ".join(f"{x},{y}" for x, y in zip(points[::2], points[1::2], strict=True))
    return f'<polygon points="{path}" {edge}{named}/>'


def _fours(points: Sequence[T]) -> list[Sequence[T]]:
    return [points[at : at + 4] for at in range(0, len(points), 4)]


def paint(canvas: Canvas, picture: Picture) -> None:
    """Paints a picture on paper with its foot at nought, in greys."""
    canvas.translate(0, picture.tall)
    for shape in picture.shapes:
        canvas.saveState()
        canvas.setLineWidth(shape.thick)
        _paint(canvas, shape)
        canvas.restoreState()


def _paint(canvas: Canvas, shape: Shape) -> None:
    points = [-point if odd % 2 else point for odd, point in enumerate(shape.points)]
    grey = _grey(shape.colour)
    if shape.kind == "text":
        left = {"start": 0.0, "middle": 0.5, "end": 1.0}[shape.anchor] * shape.reach()
        canvas.setFillGray(min(grey, 0.35))
        font = BOLD if shape.bold else PLAIN
        draw_words(canvas, points[0] - left, points[1], shape.text, font, shape.size)
    elif shape.kind == "line":
        canvas.setStrokeGray(grey)
        if shape.dashed:
            canvas.setDash(2, 2)
        canvas.lines(_fours(points))
    elif shape.kind == "box":
        canvas.setFillGray(grey)
        canvas.rect(*points, fill=1)
    else:
        canvas.setFillGray(grey)
        outline = canvas.beginPath()
        outline.moveTo(*points[:2])
        for x, y in zip(points[2::2], points[3::2], strict=True):
            outline.lineTo(x, y)
        outline.close()
        canvas.drawPath(outline, fill=1)


def _grey(colour: str) -> float:
    """How light a colour is, 0 black to 1 white, as the eye weighs its three parts."""
    made = HexColor(colour)
    return 0.3 * made.red + 0.59 * made.green + 0.11 * made.blue


def moved(shapes: Sequence[Shape], right: float, down: float) -> tuple[Shape, ...]:
    """Shapes set elsewhere.

    >>> moved([Shape("line", (0, 0, 5, 5))], 10, 1)[0].points
    (10, 1, 15, 6)
    """
    return tuple(_moved(shape, right, down) for shape in shapes)


def _moved(shape: Shape, right: float, down: float) -> Shape:
    still = 2 if shape.kind == "box" else len(shape.points)
    points = tuple(
        point if at >= still else point + (down if at % 2 else right) for at, point in enumerate(shape.points)
    )
    return Shape(**{**vars(shape), "points": points})
