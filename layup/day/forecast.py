"""The room hour by hour: a forecast, the day's range, or one reading; and a forecast read from a table."""

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import cached_property
from itertools import pairwise
from zoneinfo import ZoneInfo

import numpy as np

from layup.csv_cells import read_rows
from layup.customs import UNSAID, Customs
from layup.day.hours import READING_FADES_H, expected_c
from layup.day.outcome import RoomBy
from layup.day.shop_clock import ShopClock
from layup.errors import LayupError, Unreadable
from layup.job import JobSpec
from layup.shop_facts import ForecastHour, ShopFacts

MOST_HOURS = 24 * 21
LONGEST_GAP_H = 3.0
STEP_C = 0.5
_HORIZON_DAYS = 75
_LOOKED_AT_EACH_MIN = 15.0
_MOST_LOOKED_AT = 2000


@dataclass(frozen=True)
class Room:
    """The room's temperature over a plan, by minutes from its start: knots with straight lines between them.

    `where_from` tells in words what it was taken from.
    """

    minutes: np.ndarray
    temperatures_c: np.ndarray
    where_from: str
    by: RoomBy

    @property
    def steady(self) -> bool:
        return len(self.minutes) == 1

    def at_c(self, minute: float) -> float:
        """The room at a minute, °C."""
        return float(np.interp(minute, self.minutes, self.temperatures_c))

    def warmest_c(self, from_min: float, to_min: float) -> float:
        """The warmest of a stretch of time, up to the next half degree where the room is not steady: pots are sized for it."""
        if self.steady:
            return float(self.temperatures_c[0])
        inside = self.temperatures_c[np.searchsorted(self.minutes, from_min) : np.searchsorted(self.minutes, to_min)]
        warmest = max(self.at_c(from_min), self.at_c(to_min), *inside)
        return float(np.ceil(round(warmest / STEP_C, 6)) * STEP_C)

    def coldest(self, from_min: float, to_min: float) -> tuple[float, float]:
        """When a stretch of time is coldest, min, and how cold, °C: the first time where it is so twice."""
        inside = self.minutes[np.searchsorted(self.minutes, from_min) : np.searchsorted(self.minutes, to_min)]
        minutes = np.unique([from_min, *inside, to_min])
        temperatures = np.interp(minutes, self.minutes, self.temperatures_c)
        at = int(np.argmin(temperatures))
        return float(minutes[at]), float(temperatures[at])

    def worked_c(self, clock: ShopClock, needs_min: float) -> float:
        """The mean of the hours in which work that takes so long is done, from the start on, while the shop is open, °C.

        What a hardener is chosen for: one reading is but one of them.
        """
        if self.steady:
            return float(self.temperatures_c[0])
        left, at = max(needs_min, _LOOKED_AT_EACH_MIN), clock.opening(0.0)
        seen: list[float] = []
        while left >= 1 and len(seen) < _MOST_LOOKED_AT:
            until = min(at + left, clock.closing(at))
            minutes = np.arange(at, until, _LOOKED_AT_EACH_MIN)
            seen += list(np.interp(minutes, self.minutes, self.temperatures_c))
            left -= until - at
            at = clock.next_day(at)
        return round(float(np.mean(seen)), 1)

    @cached_property
    def grid_min(self) -> np.ndarray:
        """Half hours over all of the horizon, for the clocks of a cure."""
        return np.arange(-2 * 24 * 60, _HORIZON_DAYS * 24 * 60, 30.0)

    @cached_property
    def grid_c(self) -> np.ndarray:
        """The room in the middle of each of them, to the nearest half degree."""
        return np.round(np.interp(self.grid_min + 15, self.minutes, self.temperatures_c) / STEP_C) * STEP_C


def room_of(job: JobSpec, shop: ShopFacts, clock: ShopClock) -> Room:
    """The room over a plan: as the job fixes it, by the forecast, by the day's range, or as read.

    A reading of today bends what was expected to itself, less with every hour. `shop.room_shift_c` moves it all.
    """
    return _steady(job.conditions.room_c, "fixed by the job") if job.conditions else room_of_shop(shop, clock)


def room_of_shop(shop: ShopFacts, clock: ShopClock) -> Room:
    """The room as the shop expects it, whatever a job fixes for itself."""
    read = shop.conditions.room_c
    by: RoomBy
    if shop.forecast:
        minutes, temperatures = _of_forecast(shop.forecast, clock)
        by, where_from = "forecast", "by the forecast"
    elif shop.day:
        minutes = np.arange(-48, _HORIZON_DAYS * 24) * 60.0
        # The curve goes by the hour of day, so it is shifted by the start's own.
        begins_h = clock.hour(0)
        temperatures = np.array([expected_c(shop.day, (begins_h + minute / 60) % 24) for minute in minutes])
        by = "expected"
        where_from = f"{shop.scales.number('temperature', shop.day.coldest_c)} to {shop.scales.temperature(shop.day.warmest_c)} expected, each day alike"
    else:
        return _steady(read, "as read, all along")
    if shop.read_at:
        at = clock.minutes(shop.read_at)
        off = read - shop.room_shift_c - float(np.interp(at, minutes, temperatures))
        temperatures = temperatures + off * np.clip(1 - np.abs(minutes - at) / (60 * READING_FADES_H), 0, None)
    return Room(minutes, temperatures + shop.room_shift_c, where_from, by)


def _steady(room_c: float, where_from: str) -> Room:
    return Room(np.array([0.0]), np.array([room_c]), where_from, "reading")


def _of_forecast(hours: Sequence[ForecastHour], clock: ShopClock) -> tuple[np.ndarray, np.ndarray]:
    """Knots of a forecast; past its end its last day goes on, before its beginning its first hour stands."""
    minutes = np.array([clock.minutes(hour.at) for hour in hours])
    temperatures = np.array([hour.room_c for hour in hours])
    day = 24 * 60
    if minutes[-1] - minutes[0] < day - 61:
        return minutes, temperatures
    last = minutes > minutes[-1] - day
    reach = max(0, int((_HORIZON_DAYS * day - minutes[-1]) // day))
    more = [minutes[last] + day * (n + 1) for n in range(reach)]
    return np.concatenate([minutes, *more]), np.concatenate([temperatures, *[temperatures[last]] * reach])


def gap_words(hours: Sequence[ForecastHour], zone: ZoneInfo, customs: Customs = UNSAID) -> str:
    """What to say of hours that a forecast leaves out; nothing where it has them all."""
    gaps = [
        (before.at, after.at)
        for before, after in pairwise(hours)
        if after.at - before.at > timedelta(hours=LONGEST_GAP_H)
    ]
    if not gaps:
        return ""
    first, last = (moment.astimezone(zone) for moment in gaps[0])
    more = f" and {len(gaps) - 1} more" if len(gaps) > 1 else ""
    span = f"from {customs.moment(first)} to {customs.moment(last)}{more}"
    return f"the forecast says nothing {span}: a straight line is drawn across"


def read_forecast(raw: bytes, zone: ZoneInfo, today: datetime) -> tuple[ForecastHour, ...]:
    """A table of hour and temperature, and humidity where it has it, read by the shop's clock.

    The first column is a date and time, or an hour of today such as 14:00. An hour the clock shows twice is taken
    first as the earlier. Raises Unreadable, with the row, where one cannot be read.

    >>> hours = read_forecast(b"hour,temperature\\n14:00,19\\n15:00,20.5", ZoneInfo("UTC"), datetime(2026, 5, 1, tzinfo=UTC))
    >>> [(f"{hour.at:%d %H:%M}", hour.room_c) for hour in hours]
    [('01 14:00', 19.0), ('01 15:00', 20.5)]
    """
    found: dict[datetime, ForecastHour] = {}
    for row, cells in enumerate(read_rows(raw, "forecast"), 1):
        if not any(cell.strip() for cell in cells):
            continue
        if len(found) >= MOST_HOURS:
            raise Unreadable(f"row {row}: a forecast holds {MOST_HOURS} hours, three weeks, at most", "forecast")
        try:
            hour = _hour_of(cells, zone, today, found)
        except LayupError as error:
            # The first row may be the heads of the columns.
            if row == 1:
                continue
            raise Unreadable(f"row {row}: {error.message}", "forecast") from error
        found[hour.at] = hour
    if len(found) < 2:
        raise Unreadable("give two hours at least, one a row: 2026-05-01 08:00, 14.5", "forecast")
    return tuple(found[at] for at in sorted(found))


def _hour_of(
    cells: Sequence[str], zone: ZoneInfo, today: datetime, found: dict[datetime, ForecastHour]
) -> ForecastHour:
    if len(cells) < 2:
        raise Unreadable("it needs an hour and a temperature")
    at = _moment(cells[0].strip(), zone, today)
    if at in found:
        later = at + timedelta(hours=1)
        if f"{later.astimezone(zone):%F %T}" != f"{at.astimezone(zone):%F %T}" or later in found:
            raise Unreadable(f"“{cells[0].strip()}” stands twice")
        at = later
    room_c = _number(cells[1], "temperature")
    if not -20 <= room_c <= 50:
        raise Unreadable(f"{room_c:g} °C is no room to work in: -20 to 50 °C")
    humidity = _number(cells[2], "humidity") if len(cells) > 2 and cells[2].strip() else None
    if humidity is not None and not 1 <= humidity <= 100:
        raise Unreadable(f"a humidity of {humidity:g} %: 1 to 100")
    return ForecastHour(at=at, room_c=room_c, humidity_pct=humidity)


def _number(cell: str, of: str) -> float:
    try:
        return float(cell.strip().replace(",", ".").removesuffix("%").removesuffix("°C").strip())
    except ValueError:
        raise Unreadable(f"“{cell.strip()}” is no {of}: write a number, °C or %") from None


_FORMS = (
    "%Y-%m-%d %H:%M",
    "%Y-%m-%dT%H:%M",
    "%Y-%m-%dT%H:%M:%S",
    "%Y-%m-%d %H:%M:%S",
    "%d.%m.%Y %H:%M",
    "%d/%m/%Y %H:%M",
)


def _written_out(words: str) -> datetime | None:
    """A moment that says its day; one without a zone is of the shop's clock."""
    with suppress(ValueError):
        told = datetime.fromisoformat(words)
        if told.tzinfo:
            return told
    for form in _FORMS:
        with suppress(ValueError):
            return datetime.strptime(words, form)
    return None


def _moment(words: str, zone: ZoneInfo, today: datetime) -> datetime:
    """A moment of the shop's clock from its words, in UTC, so that an hour shown twice is told apart."""
    told = _written_out(words)
    if told:
        if not 2000 <= told.year <= 2200:
            raise Unreadable(f"“{words}” is of another time: a year from 2000 to 2200")
        return told.astimezone(UTC) if told.tzinfo else _by_clock(told, zone)
    try:
        hour = datetime.strptime(words if ":" in words else f"{words}:00", "%H:%M")
    except ValueError:
        raise Unreadable(f"“{words}” is no hour: write 2026-05-01 08:00, or 08:00 for today") from None
    return _by_clock(hour.replace(year=today.year, month=today.month, day=today.day), zone)


def _by_clock(naive: datetime, zone: ZoneInfo) -> datetime:
    return naive.replace(tzinfo=zone).astimezone(UTC)
