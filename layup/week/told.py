"""The days of a week as a shop has them: who is there from hour to hour, and what the room will be."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

from layup.day.shop_clock import at_hour
from layup.record import Record
from layup.shop_facts import ForecastHour
from layup.week.people import ShopWeek


class Shift(Record):
    """From one moment to another so many people are there."""

    from_at: datetime
    to_at: datetime
    people: int


class WeekDay(Record):
    """A day from midnight to midnight; `names` are those who work on it, `coldest_c` and `warmest_c` the room by the forecast."""

    day: date
    from_at: datetime
    to_at: datetime
    shut: bool
    names: tuple[str, ...]
    shifts: tuple[Shift, ...]
    coldest_c: float | None = None
    warmest_c: float | None = None


def days_of(
    first: date, count: int, week: ShopWeek, zone: ZoneInfo, forecast: Sequence[ForecastHour] = ()
) -> tuple[WeekDay, ...]:
    """So many days from the first on.

    >>> days_of(date(2026, 5, 4), 7, ShopWeek(), ZoneInfo("UTC"))[6].day
    datetime.date(2026, 5, 10)
    """
    rooms: dict[date, list[float]] = {}
    for hour in forecast:
        rooms.setdefault(hour.at.astimezone(zone).date(), []).append(hour.room_c)
    return tuple(_day(first + timedelta(days=number), week, zone, rooms) for number in range(count))


def _day(day: date, week: ShopWeek, zone: ZoneInfo, rooms: dict[date, list[float]]) -> WeekDay:
    edges = [at_hour(day, hour, zone) for hour in week.edges(day)]
    shifts = (
        Shift(from_at=begins, to_at=ends, people=week.there(begins.astimezone(zone)))
        for begins, ends in pairwise(edges)
    )
    room = rooms.get(day, [])
    return WeekDay(
        day=day,
        from_at=at_hour(day, 0, zone),
        to_at=at_hour(day, 24, zone),
        shut=day in week.shut,
        names=tuple(each.name for each in week.people if day.weekday() in each.days and day not in week.shut),
        shifts=tuple(shift for shift in shifts if shift.people),
        coldest_c=min(room, default=None),
        warmest_c=max(room, default=None),
    )
