"""What of a day cannot be kept, or was not known: each as a sentence with the way out."""

from collections.abc import Iterator, Sequence
from datetime import date, timedelta

from layup.day.dew import LEAST_MARGIN_C, dew_point_c
from layup.day.forecast import gap_words
from layup.day.outcome import SheetMark
from layup.day.said import lane_said, spoken
from layup.day.schedule import Lane, Layer, Schedule
from layup.day.shop_clock import ShopClock, at_hour
from layup.day.windows import Late, dried_layers, is_missed, late_layers, stacked, what_keeps_it
from layup.heat.conduction import PACK_C
from layup.heat.wet_limit import WARN_FROM_C
from layup.job import JobSpec
from layup.pots.crew import team_of
from layup.shop_facts import ShopFacts
from layup.vessels import VESSELS
from layup.words import counted

# So much of a pot left over, and so much in all, is worth a finer tool (memory).
_LEFT_OVER_SHARE, _LEFT_OVER_G = 0.25, 50.0


def problems_of(schedule: Schedule, job: JobSpec, shop: ShopFacts, clock: ShopClock) -> tuple[str, ...]:
    """What cannot be kept, or was not known, each with the way out."""
    lanes = {lane.id: lane for lane in schedule.lanes}
    names = {lane.id: lane_said(lane, job) for lane in schedule.lanes}
    said = []
    if shop.today and clock.local(0).date() < shop.today:
        said.append(f"The start, {clock.customs.moment(clock.local(0))}, is past: move it to today or later.")
    if clock.opening(0) > 0:
        hours = f"{clock.customs.hour(shop.opens_h)} to {clock.customs.hour(shop.closes_h)}"
        said.append(f"The shop is open {hours}: the first pot waits until {spoken(clock, clock.opening(0))}.")
    said += _after_hours(schedule, job, shop, clock)
    gaps = gap_words(shop.forecast, clock.zone, clock.customs) if not job.conditions else ""
    if gaps:
        said.append(f"{gaps[0].upper()}{gaps[1:]}.")
    if shop.forecast and not job.conditions:
        last = max((layer.to_min for layer in schedule.layers), default=0)
        if clock.minutes(shop.forecast[-1].at) < last:
            said.append("The forecast ends before the work does: its last day is taken again.")
        elif clock.minutes(shop.forecast[0].at) > 60:
            said.append("The forecast begins after the start: its first hour stands for what is before it.")
    for owner, work, limit_mm in schedule.rests:
        over = "under a core " if work.covers else ""
        said.append(
            f"{work.label.capitalize()} of {owner.name} waits until what is beneath has set: {over}more than "
            f"{shop.scales.words('thickness', limit_mm)} wet at once would pass {shop.scales.temperature(WARN_FROM_C)}."
        )
    for lane, works, needs in schedule.too_long:
        said.append(
            f"{works[0].label.capitalize()} of {names[lane.id]} takes {shop.scales.written(needs / 60, '.1f')} h, longer than the shop is open: "
            "another pair of hands, or lay it in bays."
        )
    said += [
        _missed(beneath, layer, lanes[layer.lane], clock, job, shop)
        for beneath, layer in stacked(schedule)
        if is_missed(layer)
    ]
    said += [_late(late, job, shop) for late in late_layers(schedule)]
    said += _too_dry(schedule, job, shop)
    said += _left_over(schedule)
    said += _pack_words(job, shop)
    return tuple(said)


def trims_at_night(marks: Sequence[SheetMark], schedule: Schedule, job: JobSpec, clock: ShopClock) -> tuple[str, ...]:
    """The edges that are soft enough for a knife only while the shop is closed."""
    names = {lane.id: lane_said(lane, job) for lane in schedule.lanes}
    late = [mark for mark in marks if mark.kind == "trim" and clock.opening(mark.at_min) > mark.at_min]
    if not late:
        return ()
    first = min(late, key=lambda mark: mark.at_min)
    others = f" and {len(late) - 1} more" if len(late) > 1 else ""
    return (
        f"The edge of {names[first.lane]}{others} can be trimmed with a knife from {spoken(clock, first.at_min)}, when the shop is closed: "
        "come back for it, or saw and grind it when it is hard.",
    )


def _left_over(schedule: Schedule) -> Iterator[str]:
    """What is mixed only because the tool in hand measures no less, and the tool that would."""
    pots = [pot for pot in schedule.pots if pot.surplus_g > _LEFT_OVER_SHARE * pot.mass_g]
    over_g = sum(pot.surplus_g for pot in pots)
    if over_g < _LEFT_OVER_G:
        return
    of = pots[0].mix
    mass = of.pot_words
    least = max(pots, key=lambda pot: pot.surplus_g).mass_g
    mixed = f"pot {pots[0].number}" if len(pots) == 1 else f"{len(pots)} pots"
    words = (
        f"{mass(least)} is the least that the tool in hand measures well, so {mass(over_g)} of {mixed} is left over."
    )
    if of.finer:
        tool, finer = of.finer
        words += f" {tool[0].upper()}{tool[1:]}, measures well from {mass(finer.floor_g)}."
    yield words


def _missed(beneath: Layer | None, layer: Layer, lane: Lane, clock: ShopClock, job: JobSpec, shop: ShopFacts) -> str:
    """A window that could not be kept: what it costs, and how much could be covered inside it."""
    words = (
        f"{layer.works[0].label.capitalize()} of {_where(layer, lane, job)} misses the window beneath it: "
        f"{layer.mended} first, at {spoken(clock, layer.from_min)}."
    )
    if beneath is None:
        # It lies on what was laid before this plan began.
        return words
    spent = layer.to_min - layer.from_min
    opens = clock.opening(max(beneath.opens_min, beneath.to_min))
    until = min(beneath.closes_min, clock.closing(opens))
    covered = layer.area_m2 * max(0.0, until - opens) / spent if spent else 0.0
    if 0.05 * layer.area_m2 < covered < layer.area_m2:
        return f"{words} About {shop.scales.words('area', covered)} could be covered in time: open no more at once."
    return f"{words} {what_keeps_it(beneath, layer, clock)}"


def _late(late: Late, job: JobSpec, shop: ShopFacts) -> str:
    """A layer whose end comes too late: how much of it can be covered in time."""
    area = shop.scales.words("area", late.layer.area_m2)
    covered = shop.scales.words("area", late.covered_m2)
    return (
        f"{late.layer.works[0].label.capitalize()} of {_where(late.layer, late.lane, job)} is begun in its window and not ended in it: "
        f"{covered} of {area} can be covered before what is beneath has closed. Open no more than that at once."
    )


def past_closing_h(schedule: Schedule, shop: ShopFacts, clock: ShopClock) -> dict[date, float]:
    """How long work goes on past the shop's own closing, h, on each day that it does."""
    late: dict[date, float] = {}
    for layer in schedule.layers:
        day, ends = clock.local(layer.from_min).date(), clock.local(layer.to_min)
        closes = at_hour(day, shop.closes_h, clock.zone)
        if ends > closes:
            late[day] = max(late.get(day, 0.0), (ends - closes) / timedelta(hours=1))
    return late


def _after_hours(schedule: Schedule, job: JobSpec, shop: ShopFacts, clock: ShopClock) -> Iterator[str]:
    """The evenings on which work goes on past closing: until when, and what that comes to in hours of work."""
    people = len(team_of(job.pots).people)
    for day, over_h in past_closing_h(schedule, shop, clock).items():
        until = clock.minutes(at_hour(day, shop.closes_h, clock.zone)) + 60 * over_h
        price = f"{counted(people, 'person', 'people')}: {shop.scales.written(over_h * people, '.1f')} h of work"
        yield f"Work goes on past closing, until {spoken(clock, until)}, {price}."


def _too_dry(schedule: Schedule, job: JobSpec, shop: ShopFacts) -> Iterator[str]:
    """What was to go on wet, and finds it tacky: of each lane the worst."""
    worst: dict[str, Late] = {}
    for late in dried_layers(schedule):
        if late.lane.id not in worst or late.missed_m2 > worst[late.lane.id].missed_m2:
            worst[late.lane.id] = late
    for late in worst.values():
        covered = shop.scales.words("area", late.covered_m2)
        yield (
            f"What {_where(late.layer, late.lane, job)} is wetted with goes tacky before "
            f"{late.layer.works[0].label} is on all of it: {covered} of {shop.scales.words('area', late.layer.area_m2)} "
            "can be covered wet. Wet no more than that at once, or take more hands."
        )


def _where(layer: Layer, lane: Lane, job: JobSpec) -> str:
    """The lane of a layer, and its bay where it has bays."""
    bay = lane.bay_words(layer.bay)
    return f"{lane_said(lane, job)}, {bay}" if bay else lane_said(lane, job)


def _pack_words(job: JobSpec, shop: ShopFacts) -> list[str]:
    """A pack that is colder than the dew point allows would wet the tray."""
    humidity = shop.conditions.humidity_pct
    if not VESSELS[job.pots.vessel].on_a_pack or humidity is None:
        return []
    dew_c = dew_point_c(shop.conditions.room_c, humidity)
    if dew_c + LEAST_MARGIN_C <= PACK_C:
        return []
    scales = shop.scales
    return [
        f"The cool pack, {scales.temperature(PACK_C)}, is within {scales.words('temperature_difference', LEAST_MARGIN_C)} "
        f"of the dew point, {scales.temperature(dew_c)}: water would settle in the tray. Take a plain tray."
    ]
