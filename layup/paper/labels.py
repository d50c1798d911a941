"""Labels of one size on a sheet: for pieces, tins and what was built."""

from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from layup.paper.kit import Masthead, cards, printed

LABEL = (70 * mm, 37 * mm)
LABEL_INSET = 3 * mm
LABEL_ROOM = LABEL[0] - 2 * LABEL_INSET
LABEL_CODE = 22 * mm


def labels_on_sheets(head: Masthead, stories: Sequence[Sequence[Flowable]]) -> bytes:
    """Labels of 70 × 37 mm laid over the sheet, one for each story.

    >>> from datetime import date
    >>> labels_on_sheets(Masthead("Deck", 1, date(2026, 5, 4)), ())[:5]
    b'%PDF-'
    """
    wide, tall = head.size
    margins = wide % LABEL[0] / 2, tall % LABEL[1] / 2
    return printed(head, "labels", cards(stories, head, LABEL, LABEL_INSET), margins=margins)
