"""The run sheet as a calendar file (iCalendar, RFC 5545): pots, windows, tests, stops and cures."""

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

from icalendar import Alarm, Calendar, Event

from layup.day.day_list import Kind, entries_of, moment
from layup.errors import Missing, known
from layup.outcome import Plan
from layup.scales import METRIC, Scales

# What has no length is shown so long.
_POINT_MIN = 5.0
_TOLD_BEFORE: dict[Kind, timedelta] = {"pot": timedelta(minutes=10), "window": timedelta(minutes=20)}  # memory
# A later state of a plan has a higher number: its seconds since then.
_FIRST = datetime(2024, 1, 1, tzinfo=UTC)


def calendar_file(
    job_name: str, job_id: str, plan: Plan, zone: ZoneInfo, written_at: datetime, scales: Scales = METRIC
) -> bytes:
    """An event for each line of the day's list but its waits, with an alarm before a pot and before a window closes.

    A thing keeps its id when its hour moves, and a calendar replaces what is older: `written_at` is when the job or the
    room last changed. Raises Missing where the plan has no date.

    >>> calendar_file("Deck", "j", Plan.model_construct(run_sheet=None), ZoneInfo("UTC"), datetime(2026, 5, 1, tzinfo=UTC))
    Traceback (most recent call last):
    ...
    layup.errors.Missing: there is no run sheet with a date yet: finish the plan
    """
    sheet = plan.run_sheet
    if sheet is None or sheet.start_at is None:
        raise Missing("there is no run sheet with a date yet: finish the plan")
    calendar = Calendar()
    calendar.add("prodid", "-//Inch Cradle//Run sheet//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", job_name)
    stamp = written_at.astimezone(UTC).replace(microsecond=0)
    for entry in entries_of(plan, scales):
        if entry.kind == "wait":
            continue
        begins = known(moment(sheet, entry.from_min, zone))
        ends = known(moment(sheet, entry.to_min or entry.from_min + _POINT_MIN, zone))
        event = Event()
        event.add("uid", f"{job_id}-{entry.key.replace(' ', '-')}@inch-cradle")
        event.add("dtstamp", stamp)
        event.add("last-modified", stamp)
        event.add("sequence", int((stamp - _FIRST).total_seconds()))
        event.add("dtstart", _told(begins))
        event.add("dtend", _told(max(ends, begins + timedelta(minutes=1))))
        event.add("summary", f"{entry.where}: {entry.what}" if entry.where else entry.what)
        event.add("categories", [entry.kind])
        if entry.kind in _TOLD_BEFORE:
            event.add_component(_alarm(entry.kind, event["summary"]))
        calendar.add_component(event)
    # Changes of the clock long past, of other rules, have led a reader astray.
    year = sheet.start_at.year
    calendar.add_missing_timezones(first_date=date(year - 1, 1, 1), last_date=date(year + 3, 1, 1))
    return calendar.to_ical()


def _alarm(kind: Kind, words: str) -> Alarm:
    """Before the pot is weighed, there is time to set out; before a window closes, to lay the next ply."""
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", words)
    parameters = {"RELATED": "END"} if kind == "window" else {}
    alarm.add("trigger", -_TOLD_BEFORE[kind], parameters=parameters)
    return alarm


def _told(at: datetime) -> datetime:
    """By the shop's clock; in UTC in the hour that the clock shows a second time, which a local time cannot name."""
    return (at.astimezone(UTC) if at.fold else at).replace(microsecond=0)
