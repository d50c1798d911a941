"""A forecast that ships with the program, for trying things: seven days, a front passing on one, one humid night."""

from datetime import date, timedelta
from zoneinfo import ZoneInfo

from layup.day.hours import expected_c
from layup.day.shop_clock import at_hour
from layup.shop_facts import ForecastHour, RoomDay

# Coldest and warmest of each day, °C, its humidity at the warmest and at the coldest, %. Invented.
_DAYS = (
    (13.0, 24.5, 48, 74),
    (14.0, 26.0, 45, 72),
    (15.0, 27.5, 50, 78),
    (12.0, 19.0, 66, 90),
    (9.0, 16.5, 62, 85),
    (11.5, 20.0, 70, 98),
    (13.0, 22.5, 52, 80),
)
_FRONT_DAY, _FRONT_H, _FRONT_DROP_C, _FRONT_PASSES_H = 2, 14, 8.0, 3.0


def simulated_forecast(first: date, zone: ZoneInfo) -> tuple[ForecastHour, ...]:
    """Seven days from a date on, hour by hour: on the third a front takes 8 °C off the afternoon, on the sixth the night is humid.

    >>> hours = simulated_forecast(date(2026, 5, 1), ZoneInfo("UTC"))
    >>> len(hours), hours[14].room_c, max(hour.humidity_pct for hour in hours)
    (168, 24.5, 98.0)
    """
    hours = []
    for number, (coldest, warmest, dry_pct, damp_pct) in enumerate(_DAYS):
        for hour in range(24):
            room_c = expected_c(RoomDay(coldest_c=coldest, warmest_c=warmest), hour)
            share = (warmest - room_c) / (warmest - coldest)
            humidity = dry_pct + share * (damp_pct - dry_pct)
            if number == _FRONT_DAY and hour > _FRONT_H:
                passed = min(1.0, (hour - _FRONT_H) / _FRONT_PASSES_H)
                room_c -= _FRONT_DROP_C * passed
                humidity = min(95.0, humidity + 25 * passed)
            at = at_hour(first + timedelta(days=number), hour, zone)
            hours.append(ForecastHour(at=at, room_c=round(room_c, 1), humidity_pct=round(humidity, 1)))
    return tuple({hour.at: hour for hour in hours}.values())
