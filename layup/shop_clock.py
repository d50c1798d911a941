"""The shop's clock: minutes from a start, its days, its opening hours, across changes of the clock."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

# A plan that has no date counts from the opening of a day without a name.
NO_DAY = date(2001, 1, 1)


@dataclass(frozen=True)
class ShopClock:
    """Minutes count from `start`, in UTC, real minutes: an hour that the clock skips is none."""

    start: datetime
    zone: ZoneInfo
    opens_h: float
    closes_h: float

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
        """The next closing of the shop, in minutes; the same minute where it is closed."""
        hour = self.hour(minutes)
        if not self.opens_h <= hour < self.closes_h:
            return minutes
        return self._at(self.local(minutes).date(), self.closes_h)

    def opening(self, minutes: float) -> float:
        """The minute itself while the shop is open, else its next opening."""
        if self.closing(minutes) > minutes:
            return minutes
        local = self.local(minutes)
        day = local.date() if self.hour(minutes) < self.opens_h else local.date() + timedelta(days=1)
        return self._at(day, self.opens_h)

    def began(self, minutes: float) -> float:
        """When the shop opened on the day of a minute."""
        return self._at(self.local(minutes).date(), self.opens_h)

    def next_day(self, minutes: float) -> float:
        """The opening of the day after."""
        return self._at(self.local(minutes).date() + timedelta(days=1), self.opens_h)

    @property
    def day_min(self) -> float:
        """How long the shop is open."""
        return (self.closes_h - self.opens_h) * 60

    def _at(self, day: date, hour: float) -> float:
        return self.minutes(at_hour(day, hour, self.zone))


def at_hour(day: date, hour: float, zone: ZoneInfo) -> datetime:
    """A moment by the shop's clock, in UTC; 24 is the midnight after. A time that the clock skips is the one an hour on."""
    whole = time(int(hour) % 24, round(hour % 1 * 60) % 60)
    moment = datetime.combine(day + timedelta(days=int(hour) // 24), whole, zone)
    return moment.astimezone(UTC)
