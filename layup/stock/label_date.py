"""A date as a label prints it: a day, or a month of which the first or the last day is meant."""

import re
from calendar import month_abbr, monthrange
from datetime import date

from layup.customs import Customs
from layup.errors import OutOfRange, Unreadable

_MONTHS = {month_abbr[number].lower(): number for number in range(1, 13)}
_ISO = re.compile(r"(\d{4})-(\d{1,2})(?:-(\d{1,2}))?")
_NUMBERS = re.compile(r"(\d{1,2})[./ -](\d{1,2})[./ -](\d{4}|\d{2})")
_MONTH = re.compile(r"(\d{1,2})[./ -](\d{4})")
_NAMED = re.compile(r"(?:(\d{1,2})\.? )?([a-z]{3,9})\.?,? (\d{4})|([a-z]{3,9})\.? (\d{1,2}),? (\d{4})")
# A two-figure year on a label is of this century.
_CENTURY = 2000
_EXAMPLE = "type it such as 14 May 2027, or 05/2027 where the label says no day"


def read_date(words: str, *, last_of_month: bool, customs: Customs) -> date | None:
    """The day that a label means; None for no words. Of a month it is the last day, or the first.

    Day and month as two numbers are read as the country writes them, where they could be either way round. Raises
    Unreadable for what is no date, OutOfRange for one that the calendar does not have.

    >>> read_date("05/2027", last_of_month=True, customs=Customs())
    datetime.date(2027, 5, 31)
    >>> read_date("3/4/27", last_of_month=False, customs=Customs("en-US"))
    datetime.date(2027, 3, 4)
    """
    text = " ".join(words.lower().split())
    if not text:
        return None
    if found := _ISO.fullmatch(text):
        year, month, day = int(found[1]), int(found[2]), int(found[3] or 0)
    elif found := _MONTH.fullmatch(text):
        year, month, day = int(found[2]), int(found[1]), 0
    elif found := _NUMBERS.fullmatch(text):
        year = int(found[3]) + (_CENTURY if len(found[3]) == 2 else 0)
        day, month = _which(int(found[1]), int(found[2]), customs)
    elif found := _NAMED.fullmatch(text):
        name, year = found[2] or found[4], int(found[3] or found[6])
        month, day = _MONTHS.get(name[:3], 0), int(found[1] or found[5] or 0)
    else:
        raise Unreadable(f"is no date: {_EXAMPLE}")
    if not 1 <= month <= 12 or not 1990 <= year <= 2100:
        raise Unreadable(f"is no date: {_EXAMPLE}")
    days = monthrange(year, month)[1]
    if day > days:
        raise OutOfRange(f"that month has {days} days: read the label again")
    return date(year, month, day or (days if last_of_month else 1))


def _which(first: int, second: int, customs: Customs) -> tuple[int, int]:
    """Day and month of two numbers: by the one that can be no month, else as the country writes them."""
    if first > 12 or first == second:
        return first, second
    if second > 12:
        return second, first
    if not customs.locale:
        raise Unreadable("could be read both ways: type the month as a word, such as 3 Apr 2027")
    return (second, first) if customs.month_first else (first, second)
