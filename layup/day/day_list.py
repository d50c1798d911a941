"""The run sheet as a list in the order of the clock: for print, for a screen reader, for a spreadsheet, for a calendar."""

from collections import Counter
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal
from zoneinfo import ZoneInfo

from layup.csv_cells import csv_number, csv_text
from layup.customs import UNSAID, Customs
from layup.day.outcome import RunSheet, SheetLane
from layup.errors import known
from layup.outcome import Plan
from layup.pots.outcome import PotResult
from layup.scales import METRIC, Scales

Kind = Literal["bay", "pot", "window", "test", "stop", "cure", "wait"]


@dataclass(frozen=True)
class Entry:
    """One line: what begins when, in minutes from the start, and when it ends, where it lasts."""

    key: str
    kind: Kind
    from_min: float
    to_min: float | None
    where: str
    what: str
    mass_g: float | None = None
    room_c: float | None = None


def _mix_words(plan: Plan, pot: PotResult, scales: Scales) -> str:
    """How much a pot is, and of which resin where the job has several."""
    words = plan.pot_words(pot, scales)
    return f"{words} of {pot.resin_name}" if len(plan.resins) > 1 else words


def entries_of(plan: Plan, scales: Scales = METRIC) -> list[Entry]:
    """Everything of a run sheet, in the order of the clock."""
    sheet = plan.run_sheet
    if sheet is None:
        return []
    where = {lane.id: _where(lane) for lane in sheet.lanes}
    kinds = {pot.id: pot for pot in plan.pots}
    found = [
        Entry(
            f"pot-{pot.number}",
            "pot",
            pot.weigh_min,
            pot.use_by_min,
            _in_bay(where[pot.lane], kinds[pot.about].bay),
            f"pot {pot.number}, {_mix_words(plan, kinds[pot.about], scales)}: {', '.join(kinds[pot.about].labels)}",
            pot.mass_g,
            pot.room_c,
        )
        for pot in sheet.pots
    ]
    for number, stretch in enumerate(sheet.stretches, 1):
        found.append(
            Entry(f"bay-{number}", "bay", stretch.from_min, stretch.to_min, where[stretch.lane], stretch.words)
        )
    nth: Counter[str] = Counter()

    def key(kind: str, lane: str) -> str:
        """A name that a thing keeps when its hour moves: the how manieth of its kind it is on its lane."""
        nth[f"{kind}-{lane}"] += 1
        return f"{kind}-{lane}-{nth[f'{kind}-{lane}']}"

    for layer in sheet.layers:
        if not layer.watched:
            continue
        words = f"window after {layer.words}: the next layer bonds"
        if layer.peel_ply:
            words += "; peel ply on it for the night"
        found.append(
            Entry(key("window", layer.lane), "window", layer.opens_min, layer.closes_min, where[layer.lane], words)
        )
    for mark in sheet.marks:
        kind: Kind = "test" if mark.kind in ("test", "lift") else "cure"
        found.append(Entry(key(mark.kind, mark.lane), kind, mark.at_min, None, where[mark.lane], mark.words))
    for stop in sheet.stops:
        words = f"stop point: {stop.words}"
        found.append(Entry(key("stop", stop.lane), "stop", stop.from_min, stop.to_min, where[stop.lane], words))
    for busy in sheet.busy:
        if busy.waits:
            found.append(Entry(f"wait-{busy.from_min}", "wait", busy.from_min, busy.to_min, "", busy.words))
    return sorted(found, key=lambda entry: (entry.from_min, entry.kind != "bay", entry.key))


def _in_bay(where: str, bay: str) -> str:
    return f"{where}, {bay}" if bay else where


def _where(lane: SheetLane) -> str:
    """A lane by its name and what tells its copies apart."""
    which = lane.under.split(", ")[0]
    return f"{lane.name}, {which}" if which and lane.id != lane.owner_id else lane.name


def moment(sheet: RunSheet, minute: float, zone: ZoneInfo) -> datetime | None:
    """A minute of the sheet by the shop's clock; None where the plan has no date."""
    if sheet.start_at is None:
        return None
    return (sheet.start_at + timedelta(minutes=minute)).astimezone(zone)


def clock_words(sheet: RunSheet, minute: float, zone: ZoneInfo, customs: Customs = UNSAID) -> str:
    """A minute's hour of the day: over a change of the clock too, where the plan has a date."""
    at = moment(sheet, minute, zone)
    return customs.clock(at) if at else customs.hour((sheet.start_minute_of_day + minute) / 60 % 24)


def time_words(sheet: RunSheet, minute: float, zone: ZoneInfo, customs: Customs = UNSAID) -> str:
    """A minute as it is written on a list: the time and, on another day than the start's, the day."""
    at = moment(sheet, minute, zone)
    if at is None or sheet.start_at is None:
        day = round(sheet.start_minute_of_day + minute) // 1440 + 1
        return clock_words(sheet, minute, zone, customs) + (f" day {day}" if day > 1 else "")
    begun = sheet.start_at.astimezone(zone)
    return customs.moment(at) if at.date() != begun.date() else clock_words(sheet, minute, zone, customs)


def day_list_csv(plan: Plan, zone: ZoneInfo, scales: Scales = METRIC) -> str:
    """The list as CSV; moments as ISO times with their offset, so that nothing is lost when the clock changes."""
    sheet, decimal_comma = known(plan.run_sheet), scales.customs.decimal_comma

    def written(minute: float | None) -> str:
        """A minute as an ISO moment; by the hour of the clock where the day has no date."""
        if minute is None:
            return ""
        at = moment(sheet, minute, zone)
        return at.isoformat(timespec="minutes") if at else time_words(sheet, minute, zone)

    rows = [
        (
            written(entry.from_min),
            written(entry.to_min),
            entry.kind,
            entry.where,
            entry.what,
            csv_number(scales.in_column("mass", entry.mass_g), decimal_comma=decimal_comma),
            csv_number(scales.in_column("temperature", entry.room_c), decimal_comma=decimal_comma),
        )
        for entry in entries_of(plan, scales)
    ]
    columns = (
        "begins",
        "ends",
        "kind",
        "where",
        "what",
        scales.column("pot", "mass"),
        scales.column("room", "temperature"),
    )
    return csv_text(columns, rows, decimal_comma=decimal_comma)
