"""Labels for the tins, rolls and boxes of a stock."""

from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from layup.paper.kit import Masthead, beside, code, gap, words
from layup.paper.labels import LABEL_CODE, LABEL_ROOM, labels_on_sheets
from layup.record import Record
from layup.stock.lots import Kept, Lot


class LotLabel(Record):
    """What a label says of a lot, and the address that its code opens."""

    lot: Lot
    kept: Kept
    address: str


def lot_labels_pdf(head: Masthead, labels: Sequence[LotLabel]) -> bytes:
    """A label of 70 × 37 mm for each lot: what it is, its number, until when it keeps, a line for the day it is opened.

    >>> from datetime import date
    >>> lot_labels_pdf(Masthead("Stock", 1, date(2026, 5, 4)), ())[:5]
    b'%PDF-'
    """
    return labels_on_sheets(head, [_label(head, label) for label in labels])


def _label(head: Masthead, label: LotLabel) -> list[Flowable]:
    lot, day = label.lot, head.scales.customs.day
    opened = day(lot.opened) if lot.opened else "____________"
    until = day(label.kept.until) if label.kept.until else "no date" if label.kept.keeping == "no date" else "keeps"
    said = [
        words(lot.name, 10.5, bold=True, after=0),
        words(f"lot {lot.batch}" if lot.batch else "no lot number", 9, after=0),
        gap(1 * mm),
        words(f"Use by {until}" if label.kept.until else until, 10.5, bold=True, after=0),
        words(f"Opened {opened}", 8.5, after=0),
        words(f"Came {day(lot.received)}", 8, after=0),
    ]
    opens = code(label.address, LABEL_CODE, f"opens {lot.called}")
    return [beside((said, [opens]), (LABEL_ROOM - LABEL_CODE, LABEL_CODE))]
