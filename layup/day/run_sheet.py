"""The run sheet: the schedule told in lanes, windows, tests and cures, with its two risks and what cannot be kept."""

from collections.abc import Callable, Iterator, Sequence
from datetime import UTC, datetime
from itertools import groupby
from typing import Literal
from zoneinfo import ZoneInfo

import numpy as np

from layup.day.forecast import Room
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
from layup.day.problems import problems_of, trims_at_night
from layup.day.said import spoken, which_copy
from layup.day.schedule import Clocks, Lane, Layer, PlannedPot, Schedule
from layup.day.shop_clock import NO_DAY, ShopClock, at_hour, spoken_span
from layup.day.who_does_what import tasks_of
from layup.job import JobSpec
from layup.pots.crew import team_of
from layup.pots.mix import Mix
from layup.pots.risk import chance_any_lost, in_such_jobs
from layup.pots.work import UnderBag
from layup.pots.works_said import works_in_short, works_said
from layup.shop_facts import ShopFacts
from layup.words import counted

_BRUSH_TEST = "a dry brush dabbed on it leaves marks and pulls no hairs: go on; it drags up coat: wait; no mark: closed"
_LIFT_TEST = "cool to the hand, and a nail leaves no dent: the next lift may be poured"
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
    # Nobody touches what lies under a bag.
    under_bag = {lane.id: lane.owner.under_bag is not None for lane in schedule.lanes}
    marks = _marks(schedule, clocks, later)
    laid_by = max((layer.to_min for layer in schedule.layers), default=0.0)
    of_kind = {kind: max((mark.at_min for mark in marks if mark.kind == kind), default=laid_by) for kind, *_ in _CURES}
    end = max([laid_by, *(mark.at_min for mark in marks if mark.kind in ("test", "lift", "trim"))])
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
                watched=_watched(schedule, at, later) and not under_bag[layer.lane],
                bay=layer.bay,
                nth=layer.works[-1].nth,
                strips=sum(work.strips for work in layer.works if work.strips > 1) or 1,
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
        problems=problems_of(schedule, job, shop, clock) + trims_at_night(marks, schedule, job, clock),
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
    which = which_copy(lane, job)
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
        which=which,
    )


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
        if names[layer.lane].owner.under_bag:
            continue
        if (
            layer.opens_min > layer.to_min
            and (next_ is None or next_.works[0].waits == "for tack")
            and not (layer.works[-1].sets)
        ):
            test, words = _test_of(layer)
            marks.append(SheetMark(lane=layer.lane, kind="test", at_min=_r(layer.opens_min), words=words, test=test))
        if next_ is not None and next_.works[0].waits == "for the lift":
            marks.append(
                SheetMark(lane=layer.lane, kind="lift", at_min=_r(layer.opens_min), words=_LIFT_TEST, test="lift")
            )
    pastes = {pot.lane: pot for pot in schedule.pots if pot.works[0].handling.way}
    for lane, pot in pastes.items():
        soft = pot.touch_min + pot.mix.life.minutes_at(1.0, pot.mass_g)
        marks.append(
            SheetMark(lane=lane, kind="squeeze-out", at_min=_r(soft), words="squeeze-out off by now, while soft")
        )
    for lane, pot in touched.items():
        bag = names[lane].owner.under_bag
        if bag:
            marks += _under_bag(lane, bag, [each for each in schedule.pots if each.lane == lane], clocks)
        for kind, state, words in _CURES:
            if kind == "trim" and not names[lane].owner.edged:
                continue
            # Nobody comes at what lies under a bag before it is opened.
            if bag and kind in ("sand", "clamps") and not names[lane].owner.fixings:
                continue
            fixings = names[lane].owner.fixings if kind == "clamps" else ""
            said = f"take out: {fixings}" if fixings else words
            of = edges[lane] if kind == "trim" else pot
            at_min = clocks(of.mix).after(state, of.touch_min)
            marks.append(SheetMark(lane=lane, kind=kind, at_min=_r(at_min), words=said, fixings=fixings))
    return tuple(sorted(marks, key=lambda mark: mark.at_min))


def _under_bag(
    lane: str, bag: UnderBag, pots: Sequence[PlannedPot], clocks: Callable[[Mix], Clocks]
) -> Iterator[SheetMark]:
    """By when a bag must be down, which goes over what is laid wet; and when it may be opened."""
    first, last = pots[0], pots[-1]
    if bag.bagging_min:
        gels = clocks(first.mix).after("film_gel_min", first.touch_min)
        words = "bag on and pulled down by now: its first pot has gelled"
        yield SheetMark(lane=lane, kind="bag down", at_min=_r(gels), words=words)
    opens = clocks(last.mix).after("sandable_min", last.touch_min)
    words = "pump off, open the bag: it can be sanded"
    yield SheetMark(lane=lane, kind="open bag", at_min=_r(opens), words=words)


def _test_of(layer: Layer) -> tuple[Literal["thumb", "brush"], str]:
    return ("brush", _BRUSH_TEST) if layer.works[-1].coat == "surface" else ("thumb", _TACK_TEST)


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
