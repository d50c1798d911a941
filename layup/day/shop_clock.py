"""The shop's clock: minutes from a start, its days, its opening hours, across changes of the clock."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from functools import cache, cached_property
from math import ceil
from zoneinfo import ZoneInfo

from layup.customs import UNSAID, Customs

# A plan that has no date counts from the opening of a day without a name.
NO_DAY = date(2001, 1, 1)


@dataclass(frozen=True)
class ShopClock:
    """Minutes count from `start`, in UTC, real minutes: an hour that the clock skips is none."""

    start: datetime
    zone: ZoneInfo
    opens_h: float
    closes_h: float
    customs: Customs = UNSAID

    def local(self, minutes: float) -> datetime:
        """The shop's own time of a minute.

        >>> clock = ShopClock(datetime(2026, 3, 29, 0, 30, tzinfo=UTC), ZoneInfo("Europe/Lisbon"), 8, 18)
        >>> f"{clock.local(60):%H:%M}"
        '02:30'
        """
        return (self.start + timedelta(minutes=minutes)).astimezone(self.zone)

    def minutes(self, moment: datetime) -> float:
        """Minutes from the start to a moment."""
        return (moment - self.start) / timedelta(minutes=1)

    def hour(self, minutes: float) -> float:
        """The hour of day, with its fraction."""
        local = self.local(minutes)
        return local.hour + local.minute / 60 + local.second / 3600

    def closing(self, minutes: float) -> float:
        """The next closing of the shop, in minutes; the same minute where it is closed.

        >>> clock = ShopClock(datetime(2026, 5, 1, 8, 0, tzinfo=UTC), ZoneInfo("UTC"), 8, 18)
        >>> clock.closing(0), clock.closing(600), clock.opening(600), clock.next_day(0)
        (600.0, 600, 1440.0, 1440.0)
        """
        _, opens, closes = self._day(minutes)
        return closes if opens <= minutes < closes else minutes

    def opening(self, minutes: float) -> float:
        """The minute itself while the shop is open, else its next opening."""
        _, opens, closes = self._day(minutes)
        if minutes < opens:
            return opens
        return minutes if minutes < closes else self.next_day(minutes)

    def began(self, minutes: float) -> float:
        """When the shop opened on the day of a minute."""
        return self._day(minutes)[1]

    def next_day(self, minutes: float) -> float:
        """The opening of the day after."""
        return self._hours_of(self._day_number(minutes) + 1)[1]

    def _day(self, minutes: float) -> tuple[float, float, float]:
        return self._hours_of(self._day_number(minutes))

    def _day_number(self, minutes: float) -> int:
        """Which day a minute is of, counted from the start's: a day of a change of the clock is no 1440 minutes long."""
        number = int((minutes - self._hours_of(0)[0]) // 1440)
        while minutes < self._hours_of(number)[0]:
            number -= 1
        while minutes >= self._hours_of(number + 1)[0]:
            number += 1
        return number

    @cached_property
    def _hours_of(self) -> Callable[[int], tuple[float, float, float]]:
        """A day's midnight, opening and closing, worked out once each: days are asked for thousands of times."""
        first = self.local(0).date()

        def hours(number: int) -> tuple[float, float, float]:
            day = first + timedelta(days=number)
            return self._at(day, 0), self._at(day, self.opens_h), self._at(day, self.closes_h)

        return cache(hours)

    @property
    def day_min(self) -> float:
        """How long the shop is open."""
        return (self.closes_h - self.opens_h) * 60

    def _at(self, day: date, hour: float) -> float:
        return self.minutes(at_hour(day, hour, self.zone))


def spoken_span(minutes: float) -> str:
    """A stretch of time as it is said, up to the next ten minutes.

    >>> spoken_span(41), spoken_span(60), spoken_span(100)
    ('50 min', '1 h', '1 h 40 min')
    """
    hours, rest = divmod(ceil(round(minutes / 10, 6)) * 10, 60)
    return " ".join(words for words in (f"{hours} h" if hours else "", f"{rest} min" if rest else "") if words)


def at_hour(day: date, hour: float, zone: ZoneInfo) -> datetime:
    """A moment by the shop's clock, in UTC; 24 is the midnight after. A time that the clock skips is the one an hour on."""
    whole = time(int(hour) % 24, round(hour % 1 * 60) % 60)
    moment = datetime.combine(day + timedelta(days=int(hour) // 24), whole, zone)
    return moment.astimezone(UTC)
