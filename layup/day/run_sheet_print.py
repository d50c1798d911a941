"""The run sheet on paper, and a card for each pot: black on white, on A4 or Letter."""

import io
from dataclasses import dataclass
from zoneinfo import ZoneInfo

import segno
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from layup.day.day_list import entries_of, time_words
from layup.day.outcome import RunSheet, SheetPot
from layup.day.run_sheet_pictures import Shape, day_words, days_of, drawn
from layup.outcome import Plan
from layup.pots.outcome import PotResult, PourResult, TicketResult
from layup.preparing.printing import AUTHOR, MARGIN, PAPER_SIZE, Page, Paper
from layup.print_face import BOLD, PLAIN, printable, wrapped
from layup.scales import METRIC, Scales

# Of the caution on a pot that runs away.
_HOT = "Over {40 °C} or smoking: do not pour, stir or lid it; out of doors if that takes seconds, else clear the room. Never water into it."
# What a pour into a marked cup is said in: two figures, so smaller than one.
_MARK_SIZE = 20
_A6 = (105 * mm, 148 * mm)


def run_sheet_pdf(job_name: str, plan: Plan, zone: ZoneInfo, paper: Paper = "A4", scales: Scales = METRIC) -> bytes:
    """The run sheet drawn day by day, its two risks, and the list in the order of the clock with boxes to tick."""
    sheet = plan.run_sheet
    page = Page(f"{job_name}: run sheet", paper)
    page.line(f"{job_name}: run sheet", 16, bold=True, gap=6)
    page.line(_when(sheet, zone), 11, gap=4)
    page.line(f"{sheet.sentence}. {sheet.chance_words.capitalize()}. Room {sheet.room_words}.", 10, gap=6)
    for problem in sheet.problems:
        page.line(problem, 10, bold=True, gap=4)
    for begin, end in days_of(sheet, zone):
        shapes, tall = drawn(plan, zone, begin, end, page.wide - 2 * MARGIN, scales)
        page.room_for(min(tall + 20, page.tall - 3 * MARGIN))
        page.line(day_words(sheet, begin, zone), 11, bold=True, gap=8)
        for shape in shapes:
            _paint(page.canvas, shape, MARGIN, page.y)
        page.y -= tall + 10
    _list(page, plan, zone, scales)
    return page.bytes()


def day_list_pdf(job_name: str, plan: Plan, zone: ZoneInfo, paper: Paper = "A4", scales: Scales = METRIC) -> bytes:
    """The day's list alone."""
    page = Page(f"{job_name}: the day's list", paper)
    page.line(f"{job_name}: the day's list", 16, bold=True, gap=6)
    page.line(_when(plan.run_sheet, zone), 11, gap=4)
    _list(page, plan, zone, scales)
    return page.bytes()


def _when(sheet: RunSheet, zone: ZoneInfo) -> str:
    if sheet.start_at is None:
        return f"From {sheet.opens_at} of a day to be chosen"
    start = sheet.start_at.astimezone(zone)
    return f"{start:%A} {start.day} {start:%B %Y}, first pot weighed at {start:%H:%M} ({zone.key})"


def _list(page: Page, plan: Plan, zone: ZoneInfo, scales: Scales) -> None:
    page.room_for(60)
    page.line("In the order of the clock", 13, bold=True, gap=6)
    at = [0, 18, 78, 138, 300]
    page.columns(("", "from", "to", "where", "what"), at, bold=True)
    for entry in entries_of(plan, scales):
        ends = "" if entry.to_min is None else time_words(plan.run_sheet, entry.to_min, zone)
        first = page.columns(("", time_words(plan.run_sheet, entry.from_min, zone), ends, entry.where, entry.what), at)
        page.canvas.rect(MARGIN, first - 1, 8, 8)


def _paint(canvas: Canvas, shape: Shape, left: float, top: float) -> None:
    canvas.saveState()
    canvas.setLineWidth(0.6)
    if shape.kind == "text":
        canvas.setFont(BOLD if shape.bold else PLAIN, shape.size)
        draw = canvas.drawCentredString if shape.anchor == "middle" else canvas.drawString
        draw(left + shape.points[0], top - shape.points[1], printable(shape.text))
    elif shape.kind == "line":
        canvas.setStrokeGray(shape.grey)
        if shape.dashed:
            canvas.setDash(2, 2)
        x1, y1, x2, y2 = shape.points
        canvas.line(left + x1, top - y1, left + x2, top - y2)
    elif shape.kind == "box":
        canvas.setFillGray(shape.grey)
        x, y, wide, tall = shape.points
        canvas.rect(left + x, top - y - tall, wide, tall, fill=1)
    else:
        canvas.setFillGray(shape.grey)
        outline = canvas.beginPath()
        pairs = list(zip(shape.points[::2], shape.points[1::2], strict=True))
        outline.moveTo(left + pairs[0][0], top - pairs[0][1])
        for x, y in pairs[1:]:
            outline.lineTo(left + x, top - y)
        outline.close()
        canvas.drawPath(outline, fill=1)
    canvas.restoreState()


def ticket_cards_pdf(
    job_name: str, plan: Plan, zone: ZoneInfo, address: str, paper: Paper = "A4", scales: Scales = METRIC
) -> bytes:
    """A card for each pot, four to a sheet of A4, A6 each; on Letter a little shorter.

    `address` with the pot's number after it opens it on a phone.
    """
    wide, tall = PAPER_SIZE[paper]
    card = min(_A6[0], wide / 2), min(_A6[1], tall / 2)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(wide, tall), invariant=True, initialFontName=PLAIN)
    canvas.setTitle(f"{job_name}: tickets")
    canvas.setAuthor(AUTHOR)
    kinds = {pot.id: pot for pot in plan.pots}
    for at, pot in enumerate(plan.run_sheet.pots if plan.run_sheet else ()):
        if at and at % 4 == 0:
            canvas.showPage()
        column, row = at % 2, at % 4 // 2
        corner = column * card[0], tall - (row + 1) * card[1]
        told = job_name, plan, pot, kinds[pot.about], zone, f"{address}{pot.number}"
        # What is too long for its card is written smaller: nothing is left out.
        foot = _card(Canvas(io.BytesIO(), initialFontName=PLAIN), *told, (0, 0), card, scales)
        fits = min(1.0, (card[1] - 12 * mm) / (card[1] - 8 * mm - foot))
        canvas.saveState()
        canvas.setLineWidth(0.3)
        canvas.rect(*corner, *card)
        canvas.translate(corner[0], corner[1] + card[1])
        canvas.scale(fits, fits)
        _card(canvas, *told, (0, -card[1]), (card[0] / fits, card[1]), scales)
        canvas.restoreState()
    canvas.save()
    return out.getvalue()


@dataclass
class _Pen:
    """Where the next words of a card go: from `x`, under `y`, in so much `room`."""

    canvas: Canvas
    x: float
    y: float
    room: float

    def line(self, words: str, size: float, *, bold: bool = False, wide: float | None = None) -> None:
        """Words of a size, in points, under what is written already."""
        font = BOLD if bold else PLAIN
        for row in wrapped(words, font, size, wide or self.room):
            self.y -= size
            self.canvas.setFont(font, size)
            self.canvas.drawString(self.x, self.y, row)
            self.y -= size * 0.28

    def rule(self) -> None:
        self.y -= 1.5 * mm
        self.canvas.line(self.x, self.y, self.x + self.room, self.y)


def _card(
    canvas: Canvas,
    job_name: str,
    plan: Plan,
    pot: SheetPot,
    kind: PotResult,
    zone: ZoneInfo,
    address: str,
    corner: tuple[float, float],
    card: tuple[float, float],
    scales: Scales,
) -> float:
    """One pot's card, and the height at which its words end."""
    top = corner[1] + card[1] - 8 * mm
    pen = _Pen(canvas, corner[0] + 7 * mm, top, card[0] - 14 * mm)
    side = 24 * mm
    _code(canvas, address, pen.x + pen.room - side, pen.y - side + 3 * mm, side)
    sheet, beside = plan.run_sheet, pen.room - side - 3 * mm
    pen.line(f"Pot {pot.number} of {plan.pot_count}", 20, bold=True, wide=beside)
    pen.line(job_name, 9, wide=beside)
    lane = next(lane for lane in sheet.lanes if lane.id == pot.lane)
    pen.line(f"{lane.name}: {', '.join(kind.labels)}", 10, bold=True, wide=beside)
    pen.y = min(pen.y, top - side) - 2 * mm
    pen.line(f"weigh at {time_words(sheet, pot.weigh_min, zone)}, for {scales.temperature(pot.room_c)}", 11)
    pen.y -= 2 * mm
    _pours(pen, kind.ticket, 34 if card[1] >= _A6[1] and not kind.ticket.filler else 24)
    pen.line(f"on the work by {time_words(sheet, pot.use_by_min, zone)}", 17, bold=True)
    pen.line(f"kicks about {time_words(sheet, pot.kick_min, zone)}. {scales.said(_HOT)}", 8)
    if kind.ticket.left_in_cup_min is not None:
        left = time_words(sheet, pot.touch_min + kind.ticket.left_in_cup_min, zone)
        pen.line(f"left in its cup it kicks about {left}: pour it out at once", 8, bold=True)
    pen.line(f"Wear: {', '.join(kind.ticket.protection)}. The data sheet wins.", 8)
    return pen.y


def _pours(pen: _Pen, ticket: TicketResult, size: float) -> None:
    """What is poured, with the figure to hit the largest, and how it is mixed."""
    by_scale = ticket.by == "weight"
    if by_scale:
        pen.line(f"Cup on the scale, empty: {ticket.cup_reads:.10g} {ticket.scale_unit}, not tared", 10)
    for pour in ticket.pours:
        pen.rule()
        pen.line(pour.what, 13, bold=True)
        pen.line(pour_words(pour), _MARK_SIZE if _to_a_mark(pour) else size, bold=True)
        poured = f"on the scale: pour {pour.amount:.10g} {pour.unit}" if pour.tool == "scale" else ""
        pen.line(", ".join(word for word in (poured, pour.note) if word), 9.5)
    pen.rule()
    pen.y -= 1 * mm
    for words in ticket.mixing:
        pen.line(words, 9.5)
    if ticket.filler:
        pen.line(ticket.filler, 9.5, bold=True)
    pen.y -= 1 * mm


def pour_words(pour: PourResult) -> str:
    """The figure to hit at a pour, as it stands largest on a card.

    In a marked cup both are said, what is added and the mark it comes up to: the mark alone is poured by mistake.

    >>> on_top = PourResult(what="B", amount=50, unit="ml", running=150, tared=50, note="", tool="marked cup")
    >>> pour_words(on_top)
    'add 50 ml: up to the 150 mark'
    """
    if _to_a_mark(pour):
        return f"add {pour.amount:.10g} {pour.unit}: up to the {pour.running:.10g} mark"
    shows = pour.running if pour.tool in ("scale", "numbered cup") and pour.running is not None else pour.amount
    return f"{shows:.10g} {pour.unit}"


def _to_a_mark(pour: PourResult) -> bool:
    return pour.tool == "marked cup" and pour.running is not None


def _code(canvas: Canvas, address: str, x: float, y: float, side: float) -> None:
    """A square code of an address."""
    rows = [list(row) for row in segno.make(address, error="m", micro=False).matrix_iter(border=2)]
    step = side / len(rows)
    canvas.setFillGray(0)
    for down, row in enumerate(rows):
        for across, dark in enumerate(row):
            if dark:
                canvas.rect(x + across * step, y + side - (down + 1) * step, step + 0.1, step + 0.1, stroke=0, fill=1)
