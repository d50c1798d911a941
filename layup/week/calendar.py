"""All of a shop's jobs as one calendar that others subscribe to (iCalendar, RFC 5545)."""

from collections.abc import Mapping
from datetime import UTC, datetime, timedelta

from icalendar import Calendar, Event

from layup.week.jobs import WeekJob
from layup.words import counted


def week_calendar(shop_name: str, jobs: Mapping[str, tuple[str, WeekJob]], written_at: datetime) -> bytes:
    """An event for each stretch of work of each job, and one for each cure that somebody waits for; by id the name and the job.

    >>> week_calendar("Yard", {}, datetime(2026, 5, 1, tzinfo=UTC)).startswith(b"BEGIN:VCALENDAR")
    True
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Inch Cradle//Week//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", shop_name)
    # What subscribes looks again after an hour.
    calendar.add("refresh-interval", timedelta(hours=1), parameters={"VALUE": "DURATION"})
    stamp = written_at.astimezone(UTC).replace(microsecond=0)
    for job_id, (name, job) in jobs.items():
        for number, busy in enumerate(job.busy, 1):
            words = f"{name}: {counted(busy.people, 'person', 'people')}"
            calendar.add_component(_event(f"{job_id}-work-{number}", words, busy.from_at, busy.to_at, stamp))
        for number, cure in enumerate(job.cures, 1):
            until = cure.at + timedelta(minutes=5)
            calendar.add_component(_event(f"{job_id}-cure-{number}", f"{name}: {cure.words}", cure.at, until, stamp))
    return calendar.to_ical()


def _event(key: str, words: str, begins: datetime, ends: datetime, stamp: datetime) -> Event:
    event = Event()
    event.add("uid", f"{key}@inch-cradle")
    event.add("dtstamp", stamp)
    event.add("last-modified", stamp)
    event.add("dtstart", begins.astimezone(UTC).replace(microsecond=0))
    event.add("dtend", ends.astimezone(UTC).replace(microsecond=0))
    event.add("summary", words)
    return event
