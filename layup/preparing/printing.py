"""What is printed: labels, the cut plan, the preparation, the shopping list. Black on white, on A4 or Letter."""

import io
from collections.abc import Mapping, Sequence
from math import ceil
from typing import Literal

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from layup.preparing.before_pot import CutPiece, CutPlan, CutRoll, PrepLine, ShoppingList, need_words
from layup.preparing.cut_pictures import boxes, roll_words
from layup.print_face import BOLD, PLAIN, printable, shortened, wrapped
from layup.scales import METRIC, Scales
from layup.units import convert

Paper = Literal["A4", "Letter"]
PAPER_SIZE = {"A4": A4, "Letter": LETTER}
LABEL_WIDE, LABEL_TALL = 70 * mm, 37 * mm
MARGIN = 14 * mm
AUTHOR = "Inch Cradle"
_LEAST_TALL, _MOST_TALL = 95.0, 230.0


class _Numbered(Canvas):
    """A canvas that knows how many pages it has before it writes the foot of each."""

    def __init__(self, out: io.BytesIO, title: str, **more: object):
        super().__init__(out, **more)
        self._foot, self._whole = title, []

    def showPage(self) -> None:
        """Keeps the page until all are there."""
        self._whole.append(dict(self.__dict__))
        self._startPage()

    def save(self) -> None:
        """Writes every page with its number and how many there are."""
        self.showPage()
        whole = self._whole
        for number, page in enumerate(whole, 1):
            self.__dict__.update(page)
            self.setFont(PLAIN, 8)
            self.setFillGray(0)
            self.drawString(MARGIN, 8 * mm, self._foot)
            self.drawRightString(self._pagesize[0] - MARGIN, 8 * mm, f"page {number} of {len(whole)}")
            super().showPage()
        super().save()


class Page:
    """A canvas that writes down the page and begins another where one is full, numbered at the foot."""

    def __init__(self, title: str, paper: Paper):
        self.out = io.BytesIO()
        self.wide, self.tall = PAPER_SIZE[paper]
        foot = printable(title)
        self.canvas = _Numbered(self.out, foot, pagesize=PAPER_SIZE[paper], invariant=True, initialFontName=PLAIN)
        self.canvas.setTitle(title)
        self.canvas.setAuthor(AUTHOR)
        self.page = 0
        self.y = 0.0
        self.turn()

    def turn(self) -> None:
        """Begin a page."""
        if self.page:
            self.canvas.showPage()
        self.page += 1
        self.y = self.tall - MARGIN

    def room_for(self, tall: float) -> None:
        """Begin another page where so much no longer fits on this one."""
        if self.y - tall < MARGIN:
            self.turn()

    def line(self, words: str, size: float = 10, *, bold: bool = False, indent: float = 0, gap: float = 3) -> None:
        """Words over as many lines as they take."""
        font = BOLD if bold else PLAIN
        for row in wrapped(words, font, size, self.wide - 2 * MARGIN - indent):
            self.room_for(size + gap)
            self.y -= size
            self.canvas.setFont(font, size)
            self.canvas.drawString(MARGIN + indent, self.y, row)
            self.y -= gap

    def columns(self, cells: Sequence[str], at: Sequence[float], size: float = 9, *, bold: bool = False) -> float:
        """One row of a table, as tall as its longest cell; the height of its first line, where a box is drawn."""
        font, ends = BOLD if bold else PLAIN, [*at[1:], self.wide - 2 * MARGIN]
        told = [wrapped(cell, font, size, right - left - 4) for cell, left, right in zip(cells, at, ends, strict=True)]
        step = size + 2
        self.room_for(step * max(map(len, told)) + 5)
        self.y -= size
        first = self.y
        self.canvas.setFont(font, size)
        for rows, left in zip(told, at, strict=True):
            for down, row in enumerate(rows):
                self.canvas.drawString(MARGIN + left, first - down * step, row)
        self.y = first - step * (max(map(len, told)) - 1) - 5
        return first

    def bytes(self) -> bytes:
        """The document."""
        self.canvas.save()
        return self.out.getvalue()


def labels_pdf(job_name: str, pieces: Sequence[CutPiece], paper: Paper = "A4", scales: Scales = METRIC) -> bytes:
    """A label of 70 × 37 mm for each piece, its ply number largest, in laying order.

    >>> labels_pdf("Deck", ())[:5]
    b'%PDF-'
    """
    wide, tall = PAPER_SIZE[paper]
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=PAPER_SIZE[paper], invariant=True, initialFontName=PLAIN)
    canvas.setTitle(f"{job_name}: labels")
    canvas.setAuthor(AUTHOR)
    across, down = int(wide // LABEL_WIDE), int(tall // LABEL_TALL)
    left, top = (wide - across * LABEL_WIDE) / 2, tall - (tall - down * LABEL_TALL) / 2
    for at, piece in enumerate(pieces):
        if at and at % (across * down) == 0:
            canvas.showPage()
        row, column = divmod(at % (across * down), across)
        _label(canvas, job_name, piece, scales, left + column * LABEL_WIDE, top - (row + 1) * LABEL_TALL)
    canvas.save()
    return out.getvalue()


def _label(canvas: Canvas, job_name: str, piece: CutPiece, scales: Scales, x: float, y: float) -> None:
    inset = 3 * mm
    canvas.setLineWidth(0.3)
    canvas.rect(x, y, LABEL_WIDE, LABEL_TALL)
    ply = str(piece.ply_number)
    size = 54 if len(ply) < 3 else 40
    canvas.setFont(PLAIN, 8)
    canvas.drawString(x + inset, y + LABEL_TALL - inset - 8, "ply")
    canvas.setFont(BOLD, size)
    canvas.drawString(x + inset, y + 11 * mm, ply)
    beside = x + inset + max(19 * mm, stringWidth(ply, BOLD, size) + 3 * mm)
    room = x + LABEL_WIDE - inset - beside
    angle = f" ±{piece.angle}" if piece.angle else ""
    rows = [(BOLD, 10.5, row) for row in wrapped(piece.part_name, BOLD, 10.5, room)[:2]]
    rows += [
        (PLAIN, 9.5, piece.fabric_name + angle),
        (BOLD, 10.5, _size(piece, scales)),
        (PLAIN, 8.5, ", ".join(word for word in (piece.part_of, piece.edges) if word)),
    ]
    under = y + LABEL_TALL - inset
    for font, points, words in rows:
        under -= points + 2.2
        canvas.setFont(font, points)
        canvas.drawString(beside, under, shortened(words, font, points, room))
    copy = (f"copy {piece.copy_number} of {piece.copies}",) if piece.copies > 1 else ()
    foot = " · ".join((f"piece {piece.number}", *copy, *piece.notes))
    canvas.setFont(PLAIN, 8)
    canvas.drawString(x + inset, y + 6 * mm, shortened(foot, PLAIN, 8, LABEL_WIDE - 2 * inset))
    canvas.drawString(x + inset, y + 2.6 * mm, shortened(job_name, PLAIN, 8, LABEL_WIDE - 2 * inset))


def _size(piece: CutPiece, scales: Scales) -> str:
    return f"{scales.number('cut', piece.along_mm)} × {scales.words('cut', piece.across_mm)}"


def cut_plan_pdf(job_name: str, cut: CutPlan, paper: Paper = "A4", scales: Scales = METRIC) -> bytes:
    """Every roll drawn to scale with its pieces, then the cut list in laying order with boxes to tick."""
    page = Page(f"{job_name}: cut plan", paper)
    page.line(f"{job_name}: cut plan", 16, bold=True, gap=8)
    for roll in cut.rolls:
        _drawn_roll(page, roll, scales)
    page.room_for(60)
    page.line("In laying order", 13, bold=True, gap=6)
    at = [0, 18, 44, 172, 200, 310, 396]
    page.columns(("", "no.", "part", "ply", "fabric", "along × across", "how"), at, bold=True)
    for piece in cut.pieces:
        copy = f"{piece.copy_number}/{piece.copies} " if piece.copies > 1 else ""
        how = ", ".join(word for word in (piece.part_of, piece.edges, *piece.notes) if word)
        first = page.columns(
            (
                "",
                str(piece.number),
                copy + piece.part_name,
                str(piece.ply_number),
                piece.fabric_name + (f" ±{piece.angle}" if piece.angle else ""),
                _size(piece, scales),
                how,
            ),
            at,
        )
        page.canvas.rect(MARGIN, first - 1, 8, 8)
    return page.bytes()


def _drawn_roll(page: Page, roll: CutRoll, scales: Scales) -> None:
    """A roll along the page, broken into even lengths where it would be drawn too small to read."""
    room, run_mm = page.wide - 2 * MARGIN, roll.run_m * 1000
    rows = ceil(_LEAST_TALL * run_mm / room / roll.roll_width_mm)
    scale = min(room * rows / run_mm, _MOST_TALL / roll.roll_width_mm)
    tall = roll.roll_width_mm * scale
    page.room_for(tall + 50)
    page.line(roll_words(roll, scales), 11, bold=True, gap=6)
    for row in range(rows):
        page.room_for(tall + 26)
        start, end = run_mm * row / rows, run_mm * (row + 1) / rows
        _stretch(page, roll, start, end, scale, scales)
        _tape(page, start, end, scale, tall, scales)
        page.y -= tall + 24


def _tape(page: Page, start_mm: float, end_mm: float, scale: float, tall: float, scales: Scales) -> None:
    """Marks each metre or yard along the roll, and each half."""
    canvas, foot = page.canvas, page.y - tall
    canvas.setFont(PLAIN, 7)
    canvas.setLineWidth(0.4)
    unit = scales.unit("roll_run", 0)
    half_mm = 500 * convert(1, unit, "m")
    for half in range(ceil(start_mm / half_mm), int(end_mm // half_mm) + 1):
        x = MARGIN + (half * half_mm - start_mm) * scale
        canvas.line(x, foot - 1, x, foot - (6 if half % 2 == 0 else 4))
        if half % 2 == 0:
            canvas.drawCentredString(x, foot - 13, f"{half // 2} {unit}")


def _stretch(page: Page, roll: CutRoll, start_mm: float, end_mm: float, scale: float, scales: Scales) -> None:
    canvas, top = page.canvas, page.y
    tall = roll.roll_width_mm * scale
    canvas.saveState()
    canvas.setLineWidth(0.5)
    canvas.setFillGray(0.9)
    canvas.rect(MARGIN, top - tall, (end_mm - start_mm) * scale, tall, fill=1)
    frame = canvas.beginPath()
    frame.rect(MARGIN - 0.5, top - tall - 0.5, (end_mm - start_mm) * scale + 1, tall + 1)
    canvas.clipPath(frame, stroke=0)
    for box in boxes(roll, scales):
        if box.along_mm >= end_mm or box.along_mm + box.length_mm <= start_mm:
            continue
        x = MARGIN + (box.along_mm - start_mm) * scale
        y = top - (box.across_mm + box.width_mm) * scale
        canvas.setFillGray(1)
        canvas.rect(x, y, box.length_mm * scale, box.width_mm * scale, fill=1)
        canvas.setFillGray(0)
        size = max(5.0, min(16.0, box.text_mm * scale))
        canvas.setFont(BOLD, size)
        middle = x + box.length_mm * scale / 2
        canvas.drawCentredString(middle, y + box.width_mm * scale / 2, box.number)
        canvas.setFont(PLAIN, max(4.5, size * 0.6))
        canvas.drawCentredString(middle, y + box.width_mm * scale / 2 - max(6, size * 0.75), box.size)
    canvas.restoreState()


def preparation_pdf(job_name: str, lines: Sequence[PrepLine], signed: Mapping[str, str], paper: Paper = "A4") -> bytes:
    """The preparation as a sheet to sign: each line with its why, and who signed it off."""
    page = Page(f"{job_name}: preparation", paper)
    page.line(f"{job_name}: preparation", 16, bold=True, gap=8)
    part = None
    for line in lines:
        page.room_for(44)
        if line.part_name != part:
            part = line.part_name
            page.y -= 4
            page.line(part or ("First" if line is lines[0] else "At the bench"), 12, bold=True, gap=4)
        box = (MARGIN, page.y - 10)
        page.canvas.rect(*box, 9, 9)
        if line.id in signed:
            page.canvas.lines([(box[0], box[1], box[0] + 9, box[1] + 9), (box[0], box[1] + 9, box[0] + 9, box[1])])
        page.line(line.words, 10.5, indent=16, gap=2)
        page.line(f"{line.why} ({line.source})", 8.5, indent=16, gap=2)
        page.line(signed.get(line.id, "signed ______________________   time ____________"), 8.5, indent=16, gap=7)
    return page.bytes()


def shopping_pdf(
    job_name: str, shopping: ShoppingList, currency: str, paper: Paper = "A4", scales: Scales = METRIC
) -> bytes:
    """The shopping list, chapter by chapter, with boxes to tick and what it comes to."""
    page = Page(f"{job_name}: to buy", paper)
    page.line(f"{job_name}: to buy", 16, bold=True, gap=8)
    at = [0, 18, 168, 340, 440]
    chapter = ""
    for line in shopping.lines:
        if line.chapter != chapter:
            chapter = line.chapter
            page.y -= 5
            page.line(chapter.capitalize(), 12, bold=True, gap=5)
        cost = "" if line.cost is None else f"{line.cost:,.2f} {currency}"
        first = page.columns(
            (
                "",
                line.what,
                line.buy,
                f"needs {need_words(line, scales)}",
                cost,
            ),
            at,
        )
        page.canvas.rect(MARGIN, first - 1, 8, 8)
        if line.variant:
            page.line(line.variant, 8.5, indent=18, gap=5)
    page.y -= 6
    if shopping.total is not None:
        page.line(f"What has a price comes to {shopping.total:,.2f} {currency}", 11, bold=True)
    if shopping.unpriced:
        page.line(f"Without a price: {', '.join(shopping.unpriced)}", 9)
    return page.bytes()
