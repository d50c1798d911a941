"""How a lane and a moment of the day are said."""

from layup.day.schedule import Lane
from layup.day.shop_clock import ShopClock
from layup.job import JobSpec


def which_copy(lane: Lane, job: JobSpec) -> str:
    """Which copy of its part a lane is: port or starboard of a mirrored pair, else its number."""
    if lane.shared_by > 1:
        return f"all {lane.shared_by} alike"
    if lane.owner.copies == 1:
        return ""
    if any(part.pair for part in job.parts if part.id == lane.owner.id):
        side = "port" if lane.copy % 2 else "starboard"
        return side if lane.owner.copies == 2 else f"{side} {(lane.copy + 1) // 2}"
    return f"{lane.copy} of {lane.owner.copies}"


def lane_said(lane: Lane, job: JobSpec) -> str:
    """A lane by its name, and which copy it is."""
    which = which_copy(lane, job)
    return f"{lane.owner.name}, {which}" if which else lane.owner.name


def spoken(clock: ShopClock, minute: float) -> str:
    """A moment as it is said: the time, and the day where it is another than the start's.

    >>> from datetime import UTC, datetime
    >>> from zoneinfo import ZoneInfo
    >>> clock = ShopClock(datetime(2026, 5, 1, 8, 30, tzinfo=UTC), ZoneInfo("UTC"), 8, 18)
    >>> spoken(clock, 195), spoken(clock, 1440)
    ('11:45', 'Sat 2 May 08:30')
    """
    local = clock.local(minute)
    days = (local.date() - clock.local(0).date()).days
    return clock.customs.moment(local) if days else clock.customs.clock(local)
