"""What is printed before a pot: labels, the cut plan, the preparation, the shopping list."""

from collections.abc import Mapping, Sequence
from math import ceil

from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from layup.paper.face import BOLD, width_of
from layup.paper.kit import TICK_WIDE, Masthead, beside, drawn, gap, grid, heading, printed, tick, title, words
from layup.paper.labels import LABEL_ROOM, labels_on_sheets
from layup.preparing.before_pot import CutPiece, CutPlan, CutRoll, PrepLine, ShoppingList, need_words
from layup.preparing.cut_pictures import roll_drawn, roll_words
from layup.scales import Scales

_LEAST_TALL, _MOST_TALL = 95.0, 230.0


def labels_pdf(head: Masthead, pieces: Sequence[CutPiece]) -> bytes:
    """A label of 70 × 37 mm for each piece, its ply number largest, in laying order.

    >>> from datetime import date
    >>> labels_pdf(Masthead("Deck", 1, date(2026, 5, 4)), ())[:5]
    b'%PDF-'
    """
    return labels_on_sheets(head, [_label(head, piece) for piece in pieces])


def _label(head: Masthead, piece: CutPiece) -> list[Flowable]:
    ply = str(piece.ply_number)
    size = 54 if len(ply) < 3 else 40
    left = max(19 * mm, width_of(ply, BOLD, size) + 3 * mm)
    about = [
        words(", ".join(filter(None, (piece.part_name, piece.bay))), 10.5, bold=True, after=0),
        words(piece.fabric_name + _angle(piece), 9.5, after=0),
        words(_size(piece, head.scales), 10.5, bold=True, after=0),
        *_if_any(", ".join(word for word in (piece.part_of, piece.edges) if word), 8.5),
    ]
    copy = (f"copy {piece.copy_number} of {piece.copies}",) if piece.copies > 1 else ()
    return [
        beside(([words("ply", 8, after=0), words(ply, size, bold=True, after=0)], about), (left, LABEL_ROOM - left)),
        gap(1 * mm),
        words(", ".join((f"piece {piece.number}", *copy, *piece.notes)), 8, after=0),
        words(f"{head.job_name}, {head.edition()}", 7, after=0),
    ]


def _if_any(said: str, size: float) -> list[Flowable]:
    return [words(said, size, after=0)] if said else []


def _angle(piece: CutPiece) -> str:
    return f" ±{piece.angle}" if piece.angle else ""


def _size(piece: CutPiece, scales: Scales) -> str:
    return f"{scales.number('cut', piece.along_mm)} × {scales.words('cut', piece.across_mm)}"


def cut_plan_pdf(head: Masthead, cut: CutPlan) -> bytes:
    """Every roll drawn to scale with its pieces, then the cut list in laying order with boxes to tick."""
    story = [title(f"{head.job_name}: cut plan")]
    for roll in cut.rolls:
        story += _drawn_roll(head, roll)
    rows = [
        (
            str(piece.number),
            (f"{piece.copy_number}/{piece.copies} " if piece.copies > 1 else "")
            + ", ".join(filter(None, (piece.part_name, piece.bay))),
            str(piece.ply_number),
            piece.fabric_name + _angle(piece),
            _size(piece, head.scales),
            ", ".join(word for word in (piece.part_of, piece.edges, *piece.notes) if word),
        )
        for piece in cut.pieces
    ]
    heads = ("no.", "part", "ply", "fabric", "along × across", "how")
    widths = (26, 128, 28, 110, 86, head.room[0] - TICK_WIDE - 378)
    return printed(head, "cut plan", [*story, gap(6), heading("In laying order"), grid(heads, rows, widths)])


def _drawn_roll(head: Masthead, roll: CutRoll) -> list[Flowable]:
    """A roll along the page, broken into even lengths where it would be drawn too small to read."""
    room, run_mm = head.room[0], roll.run_m * 1000
    rows = ceil(_LEAST_TALL * run_mm / room / roll.roll_width_mm)
    scale = min(room * rows / run_mm, _MOST_TALL / roll.roll_width_mm)
    lengths = [(run_mm * row / rows, run_mm * (row + 1) / rows) for row in range(rows)]
    stretches = [drawn(roll_drawn(roll, head.scales, scale, length), head) for length in lengths]
    told = words(roll_words(roll, head.scales), 11, bold=True, after=6, kept=True)
    return [told, *(piece for stretch in stretches for piece in (stretch, gap(6)))]


def preparation_pdf(head: Masthead, lines: Sequence[PrepLine], signed: Mapping[str, str]) -> bytes:
    """The preparation as a sheet to sign: each line with its why, and who signed it off."""
    story, part = [title(f"{head.job_name}: preparation")], None
    for line in lines:
        if line.part_name != part:
            part = line.part_name
            story += [gap(4), heading(part or ("First" if line is lines[0] else "At the bench"))]
        said = [
            words(line.words, 10.5, after=1),
            words(f"{line.why} ({line.source})", 8.5, after=1),
            words(signed.get(line.id, "signed ______________________   time ____________"), 8.5, after=6),
        ]
        box = tick(crossed=line.id in signed, side=9)
        story.append(beside(([gap(2), box], said), (TICK_WIDE, head.room[0] - TICK_WIDE)))
    return printed(head, "preparation", story)


def shopping_pdf(head: Masthead, shopping: ShoppingList, currency: str) -> bytes:
    """The shopping list, chapter by chapter, with boxes to tick and what it comes to."""
    story, customs = [title(f"{head.job_name}: to buy")], head.scales.customs
    for chapter in dict.fromkeys(line.chapter for line in shopping.lines):
        rows = [
            (
                line.what + (f" ({line.variant})" if line.variant else ""),
                line.buy,
                need_words(line, head.scales),
                "" if line.cost is None else customs.money(line.cost, currency),
            )
            for line in shopping.lines
            if line.chapter == chapter
        ]
        widths = (170, 150, 95, head.room[0] - TICK_WIDE - 415)
        story += [gap(6), heading(chapter.capitalize()), grid(("what", "to buy", "needed", "comes to"), rows, widths)]
    story.append(gap(8))
    if shopping.total is not None:
        story.append(words(f"What has a price comes to {customs.money(shopping.total, currency)}", 11, bold=True))
    if shopping.unpriced:
        story.append(words(f"Without a price: {', '.join(shopping.unpriced)}", 9))
    return printed(head, "to buy", story)
