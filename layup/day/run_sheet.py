"""The run sheet: the schedule told in lanes, windows, tests and cures, with its two risks and what cannot be kept."""

from collections.abc import Callable, Iterator, Sequence
from datetime import UTC, date, datetime
from itertools import groupby
from zoneinfo import ZoneInfo

import numpy as np

from layup.day.dew import LEAST_MARGIN_C, dew_point_c
from layup.day.forecast import Room, gap_words
from layup.day.outcome import (
    MarkKind,
    RunSheet,
    SheetBay,
    SheetBusy,
    SheetLane,
    SheetLayer,
    SheetMark,
    SheetPot,
    SheetStop,
    SheetStretch,
)
from layup.day.planner import PREPARE_MIN_PER_M2, WEIGH_MIN
from layup.day.schedule import Clocks, Lane, Layer, PlannedPot, Schedule
from layup.day.shop_clock import NO_DAY, ShopClock, at_hour, spoken_span
from layup.day.who_does_what import tasks_of
from layup.day.windows import Late, dried_layers, is_missed, late_layers, stacked, what_keeps_it
from layup.heat.conduction import PACK_C
from layup.heat.wet_limit import WARN_FROM_C
from layup.job import JobSpec
from layup.pots.crew import team_of
from layup.pots.mix import Mix
from layup.pots.risk import chance_any_lost, in_such_jobs
from layup.pots.works_said import works_in_short, works_said
from layup.shop_facts import ShopFacts
from layup.vessels import VESSELS
from layup.words import counted

_TACK_TEST = "thumbprint: a mark is taken and nothing stays on the finger: go on; a string: wait; no mark: closed"
_CURES: tuple[tuple[MarkKind, str, str], ...] = (
    ("trim", "knife_trim_min", "trim the edge with a knife"),
    ("sand", "sandable_min", "sand, flip"),
    ("clamps", "clamps_out_min", "take out clamps and temporary fixings"),
    ("load", "load_min", "load"),
    ("full cure", "full_cure_min", "full cure"),
)
# What a wait is good for, in turn (common practice); the first where pieces are cut in the waits.
_CUT_NEXT = "cut the next fabric"
_WAITS = ("set out the next cups, chill the brush", "wet edges and corners looked over")
# So much of a pot left over, and so much in all, is worth a finer tool (memory).
_LEFT_OVER_SHARE, _LEFT_OVER_G = 0.25, 50.0
_ROOM_KNOT_MIN = 30.0
_DRAWN_MIN = 21 * 24 * 60.0


def clock_of(job: JobSpec, shop: ShopFacts, start: datetime | None = None) -> ShopClock:
    """The clock a plan counts by: from the start asked for, the job's own, or the opening of today."""
    zone = ZoneInfo(shop.time_zone)
    begins = start or job.pots.start or at_hour(shop.today or NO_DAY, shop.opens_h, zone)
    closes_h = min(24.0, shop.closes_h + job.pots.overtime_h)
    return ShopClock(begins.astimezone(UTC), zone, shop.opens_h, closes_h, shop.scales.customs)


def run_sheet(
    schedule: Schedule,
    about: Sequence[str],
    job: JobSpec,
    shop: ShopFacts,
    clock: ShopClock,
    room: Room,
    clocks: Callable[[Mix], Clocks],
) -> RunSheet:
    """The record of a schedule; `about` names each pot's kind among the plan's pots. Its words are in the shop's units."""
    dated = shop.today is not None or job.pots.start is not None
    later = _later(schedule)
    marks = _marks(schedule, clocks, later)
    laid_by = max((layer.to_min for layer in schedule.layers), default=0.0)
    of_kind = {kind: max((mark.at_min for mark in marks if mark.kind == kind), default=laid_by) for kind, *_ in _CURES}
    end = max([laid_by, *(mark.at_min for mark in marks if mark.kind in ("test", "trim"))])
    knots = np.array([0.0]) if room.steady else _knots(end + 8 * 60, of_kind["load"])
    chance = chance_of(schedule.pots)
    return RunSheet(
        start_at=clock.start if dated else None,
        opens_at=clock.customs.clock(clock.local(0)),
        sentence=_sentence(schedule, clock, laid_by, [mark.at_min for mark in marks if mark.kind == "trim"]),
        room_words=room.where_from,
        room_by=room.by,
        lanes=tuple(_lane(lane, job, shop) for lane in schedule.lanes),
        pots=tuple(_pot(pot, kind) for pot, kind in zip(schedule.pots, about, strict=True)),
        layers=tuple(
            SheetLayer(
                lane=layer.lane,
                words=", ".join(works_said(layer.works)),
                short=works_in_short(layer.works),
                item_ids=tuple(work.item_id for work in layer.works),
                from_min=_r(layer.from_min),
                to_min=_r(layer.to_min),
                first_pot=layer.first_pot,
                last_pot=layer.last_pot,
                opens_min=_r(layer.opens_min),
                closes_min=_r(layer.closes_min),
                mended=layer.mended,
                peel_ply=layer.peel_ply,
                watched=_watched(schedule, at, later),
                bay=layer.bay,
                edge_peeled=layer.edge_peeled,
            )
            for at, layer in enumerate(schedule.layers)
        ),
        busy=_busy(schedule, job),
        tasks=tuple(tasks_of(schedule, job)),
        stretches=tuple(_stretches(schedule)),
        marks=marks,
        stops=tuple(
            SheetStop(lane=lane, from_min=_r(from_min), to_min=_r(to_min), words=words)
            for lane, from_min, to_min, words in schedule.stops
        ),
        room_min=tuple(float(minute) for minute in knots),
        room_c=tuple(round(room.at_c(minute), 2) for minute in knots),
        laid_by_min=_r(laid_by),
        trim_min=_r(of_kind["trim"]),
        load_min=_r(of_kind["load"]),
        chance_any=chance,
        chance_words=in_such_jobs(chance) if schedule.pots else "",
        problems=_problems(schedule, job, shop, clock) + _trims_at_night(marks, schedule, job, clock),
        start_minute_of_day=round(clock.hour(0) * 60),
    )


def _knots(until_min: float, load_min: float) -> np.ndarray:
    """Half hours while anything is done or watched, and every two hours after, until it may be loaded."""
    until_min = min(until_min, _DRAWN_MIN)
    after = np.arange(until_min, min(load_min + 8 * 60, _DRAWN_MIN), 4 * _ROOM_KNOT_MIN)
    return np.concatenate([np.arange(-2 * _ROOM_KNOT_MIN, until_min, _ROOM_KNOT_MIN), after])


def _r(minutes: float) -> float:
    return round(minutes, 2)


def chance_of(pots: Sequence[PlannedPot]) -> float:
    """The chance that any of these pots is past working before it is used."""
    used, common, own = [], [], []
    for pot in pots:
        life = pot.mix.life
        shared, alone = life.sigmas(pot.mass_g, pot.spread_g_per_min)
        used.append(life.used_share(pot.mass_g, pot.spread_g_per_min) / life.workable(pot.mass_g))
        common.append(shared)
        own.append(alone)
    return chance_any_lost(used, common, own)


def _stretches(schedule: Schedule) -> Iterator[SheetStretch]:
    """The work on each bay, from its first pot weighed to its last layer laid, as long as nothing else comes between."""
    lanes = {lane.id: lane for lane in schedule.lanes}
    weighed = {pot.number: pot.touch_min - WEIGH_MIN for pot in schedule.pots}
    divided = (layer for layer in schedule.layers if lanes[layer.lane].bays)
    for (lane_id, bay), run in groupby(divided, key=lambda layer: (layer.lane, layer.bay)):
        layers = list(run)
        begins, ends = weighed[layers[0].first_pot], layers[-1].to_min
        pots = layers[-1].last_pot - layers[0].first_pot + 1
        laid = ", ".join(works_said([work for layer in layers for work in layer.works]))
        where = lanes[lane_id].bay_words(bay) or "all of it"
        yield SheetStretch(
            lane=lane_id,
            bay=bay,
            words=f"{where}: {laid}; {spoken_span(ends - begins)}, {counted(pots, 'pot')}",
            from_min=_r(begins),
            to_min=_r(ends),
        )


def _lane(lane: Lane, job: JobSpec, shop: ShopFacts) -> SheetLane:
    area = shop.scales.words("area", lane.area_m2) if lane.area_m2 else ""
    which = _which(lane, job)
    return SheetLane(
        id=lane.id,
        owner_id=lane.owner.id,
        name=lane.owner.name,
        under=", ".join(word for word in (which, area, f"{len(lane.bays)} bays" if lane.bays else "") if word),
        bays=tuple(
            SheetBay(
                number=bay.number,
                words=bay.words,
                begins=round(bay.begins, 3),
                ends=round(bay.ends, 3),
                area_m2=lane.area_m2 * max(bay.shares),
                seams=tuple((*a, *b) for a, b in bay.seams),
                middle=bay.middle or (),
            )
            for bay in lane.bays
        ),
        coats_too=lane.coats_too,
    )


def _which(lane: Lane, job: JobSpec) -> str:
    """Which copy of its part a lane is: port or starboard of a mirrored pair, else its number."""
    if lane.shared_by > 1:
        return f"all {lane.shared_by} alike"
    if lane.owner.copies == 1:
        return ""
    if any(part.pair for part in job.parts if part.id == lane.owner.id):
        side = "port" if lane.copy % 2 else "starboard"
        return side if lane.owner.copies == 2 else f"{side} {(lane.copy + 1) // 2}"
    return f"{lane.copy} of {lane.owner.copies}"


def _later(schedule: Schedule) -> dict[int, Layer]:
    """The next layer on the same lane and bay, by the place of each that has one; after the last of a bay, the first of the
    next, which meets its edge.
    """
    found, above = {}, dict[tuple[str, int], Layer]()
    for at in range(len(schedule.layers) - 1, -1, -1):
        layer = schedule.layers[at]
        key, beside = (layer.lane, layer.bay), (layer.lane, layer.bay + 1)
        if key in above:
            found[at] = above[key]
        elif layer.bay > 0 and beside in above:
            found[at] = above[beside]
        above[key] = layer
    return found


def _watched(schedule: Schedule, at: int, later: dict[int, Layer]) -> bool:
    return at not in later or later[at].from_min >= schedule.layers[at].opens_min


def _said(lane: Lane, job: JobSpec) -> str:
    which = _which(lane, job)
    return f"{lane.owner.name}, {which}" if which else lane.owner.name


def _pot(pot: PlannedPot, about: str) -> SheetPot:
    life, mass = pot.mix.life, pot.mass_g
    share = life.working_share(mass, pot.spread_g_per_min)
    return SheetPot(
        number=pot.number,
        lane=pot.lane,
        about=about,
        mass_g=mass,
        laid_g=pot.laid_g,
        room_c=pot.mix.room_c,
        item_ids=tuple(work.item_id for work in pot.works),
        weigh_min=_r(pot.touch_min - WEIGH_MIN),
        touch_min=_r(pot.touch_min),
        on_from_min=_r(pot.on_from_min),
        used_min=_r(pot.used_min),
        use_by_min=_r(pot.touch_min + life.minutes_at(share, mass)),
        kick_min=_r(pot.touch_min + life.minutes_at(1.0, mass)),
        bay=pot.bay,
    )


def _busy(schedule: Schedule, job: JobSpec) -> tuple[SheetBusy, ...]:
    """What the hands do, one stretch after the other: the same thing going on is one stretch."""
    hands = team_of(job.pots).hands
    uses = (_CUT_NEXT, *_WAITS) if job.practice.cutting == "in the tack waits" else _WAITS
    area = sum(lane.area_m2 for lane in schedule.lanes)
    rows = []
    if schedule.pots and area:
        rows.append((-PREPARE_MIN_PER_M2 * area / hands, 0.0, "sand, wipe, set out", False))
    for busy in schedule.busy:
        if rows and rows[-1][2] == busy.words and busy.from_min - rows[-1][1] < 1:
            rows[-1] = (rows[-1][0], busy.to_min, busy.words, busy.waits)
        else:
            rows.append((busy.from_min, busy.to_min, busy.words, busy.waits))
    told, waits = [], 0
    for from_min, to_min, words, is_wait in rows:
        if is_wait:
            words, waits = f"wait: {uses[waits % len(uses)]}", waits + 1
        told.append(SheetBusy(from_min=_r(from_min), to_min=_r(to_min), words=words, waits=is_wait))
    return tuple(told)


def _marks(schedule: Schedule, clocks: Callable[[Mix], Clocks], later: dict[int, Layer]) -> tuple[SheetMark, ...]:
    """The tests that decide, and the states of each lane's cure after its last pot."""
    touched = {pot.lane: pot for pot in schedule.pots}
    # Fabric can be trimmed whatever coat comes on it.
    edges = touched | {pot.lane: pot for pot in schedule.pots if any(not work.coat for work in pot.works)}
    names = {lane.id: lane for lane in schedule.lanes}
    marks = []
    for at, layer in enumerate(schedule.layers):
        next_ = later.get(at)
        if layer.opens_min > layer.to_min and (next_ is None or next_.works[0].waits == "for tack"):
            marks.append(SheetMark(lane=layer.lane, kind="test", at_min=_r(layer.opens_min), words=_TACK_TEST))
    pastes = {pot.lane: pot for pot in schedule.pots if pot.works[0].handling.way}
    for lane, pot in pastes.items():
        soft = pot.touch_min + pot.mix.life.minutes_at(1.0, pot.mass_g)
        marks.append(
            SheetMark(lane=lane, kind="squeeze-out", at_min=_r(soft), words="squeeze-out off by now, while soft")
        )
    for lane, pot in touched.items():
        for kind, state, words in _CURES:
            if kind == "trim" and not names[lane].owner.edged:
                continue
            fixings = names[lane].owner.fixings if kind == "clamps" else ""
            said = f"take out: {fixings}" if fixings else words
            of = edges[lane] if kind == "trim" else pot
            at_min = clocks(of.mix).after(state, of.touch_min)
            marks.append(SheetMark(lane=lane, kind=kind, at_min=_r(at_min), words=said, fixings=fixings))
    return tuple(sorted(marks, key=lambda mark: mark.at_min))


def spoken(clock: ShopClock, minute: float) -> str:
    """A moment as it is said: the time, and the day where it is another than the start's.

    >>> clock = ShopClock(datetime(2026, 5, 1, 8, 30, tzinfo=UTC), ZoneInfo("UTC"), 8, 18)
    >>> spoken(clock, 195), spoken(clock, 1440)
    ('11:45', 'Sat 2 May 08:30')
    """
    local = clock.local(minute)
    days = (local.date() - clock.local(0).date()).days
    return clock.customs.moment(local) if days else clock.customs.clock(local)


def _sentence(schedule: Schedule, clock: ShopClock, laid_by: float, trims: Sequence[float]) -> str:
    count = len(schedule.pots)
    if not count:
        return "No pots yet"
    pots = "One pot" if count == 1 else counted(count, "pot")
    trim = f", trim the edge at {spoken(clock, max(trims))}" if trims else ""
    laid = f"{pots}, laid by {spoken(clock, laid_by)}{trim}"
    left_out = list(dict.fromkeys(owner.name for owner, _, _ in schedule.stuck))
    if not left_out:
        return laid
    names = left_out[0] if len(left_out) == 1 else f"{len(left_out)} pieces of the work"
    return f"No pot lives long enough for {names}; for the rest {laid[0].lower()}{laid[1:]}"


def _problems(schedule: Schedule, job: JobSpec, shop: ShopFacts, clock: ShopClock) -> tuple[str, ...]:
    """What cannot be kept, or was not known, each with the way out."""
    lanes = {lane.id: lane for lane in schedule.lanes}
    names = {lane.id: _said(lane, job) for lane in schedule.lanes}
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
            "another pair of hands, or cut the part in two."
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


def coldest_before_hard(
    schedule: Schedule, clock: ShopClock, room: Room, clocks: Callable[[Mix], Clocks]
) -> dict[str, tuple[float, str]]:
    """How cold the room becomes from the first pot until the last layer can be sanded, °C, and when, in words: of each
    resin in use, by its id.

    Nothing where nothing is laid, or the room is only known as it is now.
    """
    touched: dict[str, list[PlannedPot]] = {}
    for pot in () if room.steady else schedule.pots:
        touched.setdefault(pot.mix.use.id, []).append(pot)
    found = {}
    for use_id, pots in touched.items():
        last = max(pots, key=lambda pot: pot.touch_min)
        hard = clocks(last.mix).after("sandable_min", last.touch_min)
        minute, coldest_c = room.coldest(min(pot.touch_min for pot in pots), hard)
        found[use_id] = coldest_c, spoken(clock, minute)
    return found


def _trims_at_night(marks: Sequence[SheetMark], schedule: Schedule, job: JobSpec, clock: ShopClock) -> tuple[str, ...]:
    """The edges that are soft enough for a knife only while the shop is closed."""
    names = {lane.id: _said(lane, job) for lane in schedule.lanes}
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


def _after_hours(schedule: Schedule, job: JobSpec, shop: ShopFacts, clock: ShopClock) -> Iterator[str]:
    """The evenings on which work goes on past the shop's own closing: until when, and what that comes to in hours."""
    late: dict[date, float] = {}
    for layer in schedule.layers:
        at = clock.local(layer.to_min)
        day = clock.local(layer.from_min).date()
        closes = at_hour(day, shop.closes_h, clock.zone)
        if at > closes:
            late[day] = max(late.get(day, 0.0), (at - closes).total_seconds() / 60)
    for day, over in late.items():
        until = clock.minutes(at_hour(day, shop.closes_h, clock.zone)) + over
        people = len(team_of(job.pots).people)
        price = f", {counted(people, 'person', 'people')}: {shop.scales.written(over * people / 60, '.1f')} h of work"
        yield f"Work goes on past closing, until {spoken(clock, until)}{price}."


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
    return f"{_said(lane, job)}, {bay}" if bay else _said(lane, job)


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
