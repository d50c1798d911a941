"""A moment of the shop's clock as somebody types it: “tomorrow 8”, “Thu 7:30”, “3 Dec 14:15”, “8 pm”."""

import re
from calendar import day_name, month_abbr
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from layup.customs import Customs
from layup.day.shop_clock import at_hour
from layup.errors import OutOfRange, Unreadable
from layup.stock.label_date import read_date

# A noon and a midnight by their names, in minutes of the day.
_NAMED_HOURS = {"noon": 12 * 60, "midday": 12 * 60, "midnight": 24 * 60}
_HOUR = re.compile(r"(\d{1,2})(?:[:.h](\d{2}))? ?(?:(a|p)\.?m\.?)?(?: ?h| o'clock)?")
_DAYS_AHEAD = {"today": 0, "tonight": 0, "tomorrow": 1}
_WEEKDAYS = {day_name[number].lower()[:3]: number for number in range(7)}
_MONTHS = {month_abbr[number].lower() for number in range(1, 13)}
_DAY_OF_YEAR = re.compile(r"(\d{1,2})\.? ([a-z]{3,9})\.?|([a-z]{3,9})\.? (\d{1,2})")
_EXAMPLE = "type it such as tomorrow 8:00, Thu 7:30 or 3 Dec 14:15"


def read_moment(
    words: str, now: datetime, zone: ZoneInfo, customs: Customs, *, opens_h: float = 8.0, past: bool = False
) -> datetime:
    """The moment that is meant, in the shop's zone, of words typed at `now`.

    An hour alone is the next of its kind; `past` asks for the last one instead. A day alone begins at `opens_h`. A day without a
    year is the next of its kind. Raises Unreadable for what is no moment, OutOfRange for an hour that the clock does not have.

    >>> now = datetime(2026, 12, 1, 9, 30, tzinfo=ZoneInfo("Europe/London"))
    >>> read = lambda words: f"{read_moment(words, now, now.tzinfo, Customs('en-GB')):%a %d %b %H:%M}"
    >>> read("8"), read("tomorrow 7:30"), read("Thu"), read("3 Dec 2 pm")
    ('Wed 02 Dec 08:00', 'Wed 02 Dec 07:30', 'Thu 03 Dec 08:00', 'Thu 03 Dec 14:00')
    """
    text = " ".join(words.lower().replace(",", " ").split())
    if not text:
        raise Unreadable(f"is empty: {_EXAMPLE}")
    local = now.astimezone(zone)
    # The longest end that is an hour; what stands before it is a day.
    pieces = text.removeprefix("at ").split(" ")
    for begins in range(len(pieces)):
        before = " ".join(pieces[:begins]).removesuffix(" at")
        minutes = _minutes(" ".join(pieces[begins:]), alone=not before)
        if minutes is None or (before and not _is_day(before)):
            continue
        if before:
            return _on(before, minutes, local, zone, customs)
        return _nearest(minutes, local, zone, past=past)
    return _on(text, round(opens_h * 60), local, zone, customs)


def _on(day: str, minutes: int, local: datetime, zone: ZoneInfo, customs: Customs) -> datetime:
    named = _weekday(day)
    if named is None:
        return _at(_day(day, local.date(), customs), minutes, zone)
    ahead = timedelta(days=(named - local.weekday()) % 7)
    found = _at(local.date() + ahead, minutes, zone)
    return found if found > local else _at(local.date() + ahead + timedelta(days=7), minutes, zone)


def _weekday(text: str) -> int | None:
    """The number of a day of the week, from Monday; None for what is none."""
    number = _WEEKDAYS.get(text[:3])
    return number if number is not None and day_name[number].lower().startswith(text) else None


def _nearest(minutes: int, local: datetime, zone: ZoneInfo, *, past: bool) -> datetime:
    found = _at(local.date(), minutes, zone)
    if past and found > local:
        return _at(local.date() - timedelta(days=1), minutes, zone)
    if not past and found <= local:
        return _at(local.date() + timedelta(days=1), minutes, zone)
    return found


def _at(day: date, minutes: int, zone: ZoneInfo) -> datetime:
    return at_hour(day, minutes / 60, zone).astimezone(zone)


def _minutes(text: str, *, alone: bool) -> int | None:
    """Minutes of the day; None for what is no hour. `alone` there is no day beside it, so that a number is an hour."""
    if text in _NAMED_HOURS:
        return _NAMED_HOURS[text]
    found = _HOUR.fullmatch(text)
    if not found:
        return None
    hour, minute = int(found[1]), int(found[2] or 0)
    if found[3]:
        if not 1 <= hour <= 12:
            raise OutOfRange("has an hour from 1 to 12 before am or pm")
        hour = hour % 12 + (12 if found[3] == "p" else 0)
    if hour > 24 or minute > 59 or (hour == 24 and minute):
        if alone:
            raise OutOfRange("is no hour of the day: 0:00 to 24:00")
        return None
    return hour * 60 + minute


def _is_day(text: str) -> bool:
    """Whether words are a day already, without what comes after."""
    named = _DAY_OF_YEAR.fullmatch(text)
    whole = named and (named[2] or named[3])[:3] in _MONTHS
    return text in _DAYS_AHEAD or text[:3] in _WEEKDAYS or bool(whole) or bool(re.search(r"\d[./-]\d|\d{4}", text))


def _day(text: str, today: date, customs: Customs) -> date:
    if text in _DAYS_AHEAD:
        return today + timedelta(days=_DAYS_AHEAD[text])
    # A day may stand beside its date: Thu 3 Dec.
    text = re.sub(rf"^(?:{'|'.join(_WEEKDAYS)})[a-z]* (?=\S)", "", text)
    if (named := _DAY_OF_YEAR.fullmatch(text)) and (named[2] or named[3])[:3] in _MONTHS:
        try:
            found = read_date(f"{text} {today.year}", last_of_month=False, customs=customs)
            if found and found < today:
                found = read_date(f"{text} {today.year + 1}", last_of_month=False, customs=customs)
        except Unreadable as error:
            raise Unreadable(f"is no day: {_EXAMPLE}") from error
    else:
        try:
            found = read_date(text, last_of_month=False, customs=customs)
        except Unreadable as error:
            said = error.message if "both ways" in error.message else f"is no moment: {_EXAMPLE}"
            raise Unreadable(said) from error
    if found is None:
        raise Unreadable(f"is no moment: {_EXAMPLE}")
    return found
