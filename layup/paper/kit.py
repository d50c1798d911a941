"""The kit that every print is laid out with: words, tables, pictures and cards that flow over the pages, black on white."""

import io
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from functools import partial
from typing import Any, Literal

import segno
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    KeepInFrame,
    PageTemplate,
    Paragraph,
    Spacer,
    Table,
    TableStyle,
)

from layup.paper.face import BOLD, PLAIN, markup
from layup.paper.shapes import Picture, paint
from layup.paper.tagged import MARGIN, Element, TaggedCanvas
from layup.scales import METRIC, Scales

Paper = Literal["A4", "Letter"]
PAPER_SIZE = {"A4": A4, "Letter": LETTER}
AUTHOR = "Inch Cradle"
_LEADING = 1.22
_CELL_GAP = 4
_TITLE_SIZE, _HEADING_SIZE, CELL_SIZE = 16, 12, 9
TICK_WIDE = 18
# A cell without a word would name a face of the reader's.
_FACE = ("FONTNAME", (0, 0), (-1, -1), PLAIN)


@dataclass(frozen=True)
class Masthead:
    """What every sheet of a print says of itself: the job, its revision, the day, its units; and the paper it is on."""

    job_name: str
    revision: int
    printed_on: date
    paper: Paper = "A4"
    scales: Scales = METRIC

    @property
    def size(self) -> tuple[float, float]:
        """The paper's width and height, points."""
        return PAPER_SIZE[self.paper]

    @property
    def room(self) -> tuple[float, float]:
        """Width and height within the margins, points."""
        return self.size[0] - 2 * MARGIN, self.size[1] - 2 * MARGIN

    def day_words(self) -> str:
        """
        >>> Masthead("Deck", 3, date(2026, 5, 4)).day_words()
        '4 May 2026'
        """
        return self.scales.customs.day(self.printed_on)

    def edition(self) -> str:
        """
        >>> Masthead("Deck", 3, date(2026, 5, 4)).edition()
        'revision 3, printed 4 May 2026'
        """
        return f"revision {self.revision}, printed {self.day_words()}"

    def units(self) -> str:
        """
        >>> Masthead("Deck", 3, date(2026, 5, 4)).units()
        'units g, mm, °C'
        """
        units = self.scales.unit("mass", 100), self.scales.unit("cut", 100), self.scales.unit("temperature", 20)
        return f"units {', '.join(units)}"


class _Words(Paragraph):
    """A paragraph that is tagged, over as many pages as it runs."""

    element: Element

    def split(self, wide: float, tall: float) -> list[Flowable]:
        """Its pieces over pages, all of one element."""
        pieces = super().split(wide, tall)
        for piece in pieces:
            piece.element = self.element
        return pieces

    def draw(self) -> None:
        """Draws its rows, marked."""
        with self.canv.marked(self.element):
            super().draw()


class _Grid(Table):
    """A table whose rules are for the eye."""

    def _drawBkgrnd(self) -> None:
        with self.canv.unread():
            super()._drawBkgrnd()

    def _drawLines(self) -> None:
        with self.canv.unread():
            super()._drawLines()


class _Drawn(Flowable):
    """A picture, made smaller where it is wider or taller than its page."""

    def __init__(self, picture: Picture, most: tuple[float, float], element: Element):
        super().__init__()
        self._picture, self._most, self._element = picture, most, element

    def wrap(self, wide: float, tall: float) -> tuple[float, float]:
        most_wide, most_tall = min(wide, self._most[0]), self._most[1]
        self._scale = min(1.0, most_wide / self._picture.wide, most_tall / self._picture.tall)
        self.width, self.height = self._picture.wide * self._scale, self._picture.tall * self._scale
        return self.width, self.height

    def draw(self) -> None:
        """Paints the picture, marked as one."""
        self.canv.scale(self._scale, self._scale)
        with self.canv.marked(self._element):
            paint(self.canv, self._picture)


class _Tick(Flowable):
    """A box to tick, crossed where it is done."""

    def __init__(self, element: Element, side: float, crossed: bool):
        super().__init__()
        self.width = self.height = side
        self._element, self._crossed = element, crossed

    def draw(self) -> None:
        """Draws the box, and its cross."""
        side = self.width
        with self.canv.marked(self._element):
            self.canv.setLineWidth(0.7)
            self.canv.rect(0, 0, side, side)
            if self._crossed:
                self.canv.lines([(0, 0, side, side), (0, side, side, 0)])


class _Photo(Flowable):
    """A photo, so wide at most and so tall at most."""

    def __init__(self, jpeg: bytes, most: tuple[float, float], element: Element):
        super().__init__()
        self._image, self._element = ImageReader(io.BytesIO(jpeg)), element
        wide, tall = self._image.getSize()
        scale = min(most[0] / wide, most[1] / tall)
        self.width, self.height = wide * scale, tall * scale

    def draw(self) -> None:
        """Draws the photo, marked as one."""
        with self.canv.marked(self._element):
            self.canv.drawImage(self._image, 0, 0, self.width, self.height)


class _Code(Flowable):
    """A square code of an address."""

    def __init__(self, address: str, side: float, element: Element):
        super().__init__()
        self.width = self.height = side
        self._element = element
        self._rows = [list(row) for row in segno.make(address, error="m", micro=False).matrix_iter(border=2)]

    def draw(self) -> None:
        """Draws the dark squares."""
        step = self.width / len(self._rows)
        with self.canv.marked(self._element):
            self.canv.setFillGray(0)
            for down, row in enumerate(self._rows):
                for across, dark in enumerate(row):
                    if dark:
                        foot = self.width - (down + 1) * step
                        self.canv.rect(across * step, foot, step + 0.1, step + 0.1, stroke=0, fill=1)


def words(
    said: str,
    size: float = 10,
    *,
    bold: bool = False,
    after: float = 3,
    element: Element | None = None,
    kept: bool = False,
) -> Flowable:
    """A paragraph; `kept` stays with what comes next."""
    font = BOLD if bold else PLAIN
    style = ParagraphStyle(
        "words",
        fontName=font,
        fontSize=size,
        leading=size * _LEADING,
        spaceAfter=after,
        keepWithNext=kept,
        splitLongWords=1,
    )
    made = _Words(markup(said, font), style)
    made.element = element or Element("P")
    return made


def title(said: str) -> Flowable:
    """What a print is."""
    return words(said, _TITLE_SIZE, bold=True, after=6, element=Element("H1"), kept=True)


def heading(said: str) -> Flowable:
    """What comes next in it."""
    return words(said, _HEADING_SIZE, bold=True, after=4, element=Element("H2"), kept=True)


class _Rule(Flowable):
    """A line across, for the eye."""

    def wrap(self, wide: float, tall: float) -> tuple[float, float]:
        self.width, self.height = wide, 3 * mm
        return self.width, self.height

    def draw(self) -> None:
        """Draws the line."""
        with self.canv.unread():
            self.canv.setLineWidth(0.7)
            self.canv.line(0, self.height / 2, self.width, self.height / 2)


def rule() -> Flowable:
    """A line across between what stands above and beneath."""
    return _Rule()


def gap(tall: float) -> Flowable:
    """So much left free, points."""
    return Spacer(0, tall)


def drawn(
    picture: Picture, head: Masthead, *, parent: Element | None = None, most: tuple[float, float] | None = None
) -> Flowable:
    """A picture with what it shows told to who cannot see it; on the whole page, or within a width and height, points."""
    room = most or (head.room[0], head.room[1] - 3 * _TITLE_SIZE)
    return _Drawn(picture, room, Element("Figure", parent, alt=picture.words))


def photo(jpeg: bytes, most: tuple[float, float], told: str) -> Flowable:
    """A photo within a width and a height, points, with what it shows."""
    return _Photo(jpeg, most, Element("Figure", alt=told))


def code(address: str, side: float, told: str) -> Flowable:
    """A square code of an address, so large."""
    return _Code(address, side, Element("Figure", alt=told))


def tick(*, crossed: bool = False, side: float = 8, parent: Element | None = None) -> Flowable:
    """A box to tick."""
    return _Tick(Element("Figure", parent, alt="ticked" if crossed else "box to tick"), side, crossed)


def grid(
    heads: Sequence[str], rows: Iterable[Sequence[str]], widths: Sequence[float], *, ticks: bool = True
) -> Flowable:
    """A table with its heads on every page; with `ticks`, a box to tick before each row. `widths` are points."""
    table = Element("Table")
    lead = [TICK_WIDE] if ticks else []

    def row_of(cells: Sequence[str], *, head: bool = False) -> list[Flowable | str]:
        """One row's cells, its box before them."""
        row = Element("TR", table)
        made = [
            words(cell, CELL_SIZE, bold=head, after=0, element=Element("TH" if head else "TD", row, once=head))
            for cell in cells
        ]
        boxes = ["" if head else tick(parent=Element("TD", row))] if ticks else []
        return [*boxes, *made]

    data = [row_of(heads, head=True), *(row_of(row) for row in rows)]
    return _Grid(
        data,
        colWidths=[*lead, *widths],
        repeatRows=1,
        splitInRow=1,
        hAlign="LEFT",
        style=TableStyle(
            [
                _FACE,
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LEFTPADDING", (0, 0), (-1, -1), 0),
                ("RIGHTPADDING", (0, 0), (-1, -1), _CELL_GAP),
                ("TOPPADDING", (0, 0), (-1, -1), 2),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 3),
                ("LINEBELOW", (0, 0), (-1, 0), 0.7, "#000000"),
            ]
        ),
    )


def beside(cells: Sequence[Flowable | Sequence[Flowable]], widths: Sequence[float]) -> Flowable:
    """Things side by side, their tops in line."""
    style = [_FACE, ("VALIGN", (0, 0), (-1, -1), "TOP"), *_no_padding()]
    return _Grid(
        [[list(c) if isinstance(c, Sequence) else c for c in cells]], colWidths=list(widths), style=style, hAlign="LEFT"
    )


def _no_padding() -> list[tuple[Any, ...]]:
    return [(f"{side}PADDING", (0, 0), (-1, -1), 0) for side in ("LEFT", "RIGHT", "TOP", "BOTTOM")]


def cards(
    stories: Sequence[Sequence[Flowable]], head: Masthead, card: tuple[float, float], inset: float
) -> list[Flowable]:
    """Cards of one size laid over the whole sheet, cut lines round them; what is too long for its card is set smaller."""
    wide, tall = card
    across, down = max(1, int(head.size[0] / wide + 1e-6)), max(1, int(head.size[1] / tall + 1e-6))
    inner = wide - 2 * inset, tall - 2 * inset
    boxes = [KeepInFrame(*inner, list(story), mode="shrink", mergeSpace=0) for story in stories]
    sheets = []
    for first in range(0, len(boxes), across * down):
        on_it = [*boxes[first : first + across * down]]
        on_it += [""] * (-len(on_it) % across)
        rows = [on_it[at : at + across] for at in range(0, len(on_it), across)]
        style = [
            _FACE,
            ("GRID", (0, 0), (-1, -1), 0.3, "#000000"),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            *((f"{side}PADDING", (0, 0), (-1, -1), inset) for side in ("LEFT", "RIGHT", "TOP", "BOTTOM")),
        ]
        sheets.append(_Grid(rows, colWidths=[wide] * across, rowHeights=[tall] * len(rows), style=style, hAlign="LEFT"))
    return sheets


def printed(
    head: Masthead,
    what: str,
    story: Sequence[Flowable],
    *,
    margins: tuple[float, float] | None = None,
    edition: str = "",
) -> bytes:
    """A story as a document. With `margins` (side, top) of its own it has no foot: its cards say what they are of. The foot says
    the `edition`, where it is of no job.

    >>> printed(Masthead("Deck", 3, date(2026, 5, 4)), "to buy", [title("Deck: to buy")])[:5]
    b'%PDF-'
    """
    name = f"{head.job_name}: {what}"
    side, top = margins or (MARGIN, MARGIN)
    wide, tall = head.size
    frame = Frame(side, top, wide - 2 * side, tall - 2 * top, 0, 0, 0, 0)
    out = io.BytesIO()
    document = BaseDocTemplate(
        out,
        pagesize=head.size,
        pageTemplates=[PageTemplate(frames=[frame])],
        title=name,
        author=AUTHOR,
        invariant=True,
        lang="en",
        initialFontName=PLAIN,
    )
    foot = None if margins else (name, edition or f"{head.edition()}, {head.units()}")
    document.build(list(story) or [gap(1)], canvasmaker=partial(TaggedCanvas, foot=foot))
    return out.getvalue()
