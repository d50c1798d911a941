"""When to begin: every half hour of a day tried, the latest start that still meets an hour, what each lever buys."""

from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from itertools import takewhile
from typing import Literal
from zoneinfo import ZoneInfo

from layup.chemistry.hardeners import fast_to_slow
from layup.day.dew import LEAST_MARGIN_C, dew_point_c
from layup.day.planner import MOST_POTS
from layup.day.problems import past_closing_h
from layup.day.run_sheet import chance_of
from layup.day.said import spoken
from layup.day.shop_clock import at_hour
from layup.errors import OutOfRange
from layup.heat.pot_heat import HeatOf, full_heat
from layup.job import MOST_PEOPLE, JobSpec, Person, PotWishes, ResinInUse, Task
from layup.materials import Hardener, ResinSystem
from layup.plan import Day, Settled, laid_out, settled, settled_for
from layup.pots.crew import team_of
from layup.pots.mix import Mix, cup_wishes, larger_vessel
from layup.record import Record
from layup.shop_facts import ShopFacts
from layup.vessels import VESSELS
from layup.words import counted

STEP_MIN = 30
_SEARCH_DAYS = 21
_OVERTIME_H = 2.0
Aim = Literal["laid", "trim", "load"]


class StartTried(Record):
    """A start and what comes of it. `fault` is what speaks against it, empty where nothing does.

    Of two starts the one with the lesser `rank` is better: nothing against it, fewest nights, least chance of a lost
    pot, fewest pots.
    """

    start_at: datetime
    pot_count: int
    chance_any: float
    laid_by: datetime
    trim_at: datetime
    nights: int
    fault: str
    rank: tuple[float, ...] = ()


class LeverTried(Record):
    """One thing changed: how it is named, what it gives, and what to set in the job's wishes for it, or as the hardener of
    its resin in use."""

    name: str
    now: str
    then: str
    pot_count: int | None
    laid_by_min: float | None
    chance_any: float | None
    words: str
    pots: dict[str, object]
    hardener_id: str = ""
    use_id: str = ""


@dataclass(frozen=True)
class _Outcome:
    pots: int
    laid_by_min: float
    trim_min: float
    load_min: float
    chance: float


def _outcome(of: Settled, day: Day) -> _Outcome | None:
    """What a day comes to; None where some of it has no pot."""
    schedule = day.schedule
    if schedule.stuck or schedule.too_many or not schedule.pots:
        return None
    last = {pot.lane: pot for pot in schedule.pots}.values()
    laid_by = max(layer.to_min for layer in schedule.layers)
    trim, load = (
        max(day.clocks(pot.mix).after(state, pot.touch_min) for pot in last) for state in ("knife_trim_min", "load_min")
    )
    return _Outcome(len(schedule.pots), laid_by, trim, load, chance_of(schedule.pots))


def starts_of_day(
    job: JobSpec,
    shop: ShopFacts,
    day: date,
    heat_of: HeatOf = full_heat,
    go_on: Callable[[], bool] = lambda: True,
) -> tuple[StartTried, ...]:
    """The job begun at every half hour of a day within the shop's hours, as long as `go_on` says so. None where it cannot
    be planned at all.

    >>> starts_of_day(JobSpec(name="New"), ShopFacts(), date(2026, 5, 1))
    ()
    """
    of = settled(job, shop, heat_of)
    if not of.owners:
        return ()
    zone = ZoneInfo(shop.time_zone)
    halves = takewhile(lambda _: go_on(), _halves(day, shop, zone))
    return tuple(_tried(settled_for(of, start), start) for start in halves)


def _tried(of: Settled, start: datetime) -> StartTried:
    if not of.mixes:
        return _without_pots(start, "no hardener for the room of those hours")
    day = laid_out(of, start)
    outcome = _outcome(of, day)
    at = day.clock.local
    if outcome is None:
        fault = f"more than {MOST_POTS:,} pots" if day.schedule.too_many else _stuck_words(of, day)
        return _without_pots(start, fault)
    nights = (at(outcome.laid_by_min).date() - at(0).date()).days
    missed = sum(bool(layer.mended) and layer.mended != "sand, wipe" for layer in day.schedule.layers)
    fault = _damp(of, day, outcome) or (f"{counted(missed, 'window')} missed" if missed else "")
    return StartTried(
        start_at=start,
        pot_count=outcome.pots,
        chance_any=outcome.chance,
        laid_by=at(outcome.laid_by_min),
        trim_at=at(outcome.trim_min),
        nights=nights,
        fault=fault,
        rank=(bool(fault), nights, round(outcome.chance, 3), outcome.pots),
    )


def _without_pots(start: datetime, fault: str) -> StartTried:
    return StartTried(start_at=start, pot_count=0, chance_any=1.0, laid_by=start, trim_at=start, nights=0, fault=fault)


def _stuck_words(of: Settled, day: Day) -> str:
    if not day.schedule.stuck:
        return "nothing to lay"
    _, stuck, mix = day.schedule.stuck[0]
    return f"no pot lives long enough for {stuck.works[0].label} at {of.shop.scales.temperature(mix.room_c)}"


def _damp(of: Settled, day: Day, outcome: _Outcome) -> str:
    """Whether the surface comes within 3 °C of the dew point before the last layer has tacked, by the forecast."""
    if of.job.conditions:
        return ""
    off = of.conditions.surface_or_room_c - of.conditions.room_c
    on_top = max(day.schedule.pots, key=lambda pot: pot.used_min).mix
    until = day.clocks(on_top).after("tack_min", outcome.laid_by_min)
    for hour in of.shop.forecast:
        minute = day.clock.minutes(hour.at)
        if hour.humidity_pct is not None and 0 <= minute <= until:
            room_c = day.room.at_c(minute)
            # The water in the air is the forecast's; the room may be kept warmer than it says.
            if room_c + off - dew_point_c(hour.room_c, hour.humidity_pct) < LEAST_MARGIN_C:
                return f"damp from {spoken(day.clock, minute)}"
    return ""


def best_of(tried: tuple[StartTried, ...]) -> StartTried | None:
    """The best of some starts that have pots for all of it, the earliest of equals."""
    sound = [start for start in tried if start.pot_count]
    return min(sound, key=lambda start: (start.rank, start.start_at), default=None)


def latest_start(
    job: JobSpec, shop: ShopFacts, by: datetime, aim: Aim, now: datetime, heat_of: HeatOf = full_heat
) -> StartTried:
    """The latest half hour at which a job may begin and be laid, trimmed or loaded by an hour.

    Raises OutOfRange where the hour is past, or no start from now on meets it, with the soonest that can be had.
    """
    if by <= now:
        raise OutOfRange("that is past: type an hour to come", "by")
    of = settled(job, shop, heat_of)
    if not of.owners:
        raise OutOfRange("the job is not whole yet: finish its stack and its chemistry", "by")
    zone = ZoneInfo(shop.time_zone)

    def done(start: datetime) -> datetime | None:
        """When the aim is met from a start; None where some of the job has no pot then."""
        then = settled_for(of, start)
        if not then.mixes:
            return None
        day = laid_out(then, start)
        outcome = _outcome(then, day)
        if outcome is None:
            return None
        at_min = {"laid": outcome.laid_by_min, "trim": outcome.trim_min, "load": outcome.load_min}[aim]
        return day.clock.local(at_min)

    # Whole days first, from the last back, then the half hours of the one that will do.
    for halves in _days_back(by, now, shop, zone):
        ends = done(halves[0])
        if ends and ends <= by:
            latest = next(start for start in reversed(halves) if (at := done(start)) and at <= by)
            return _tried(settled_for(of, latest), latest)
    soonest = done(_soonest(now, shop, zone))
    if soonest is None:
        raise OutOfRange("no start from now on has a pot for all of it: see what frees one", "by")
    ready = {"laid": "laid", "trim": "ready to trim", "load": "ready to load"}[aim]
    raise OutOfRange(
        f"begun as soon as the shop is open it is {ready} on {shop.scales.customs.moment(soonest)}: "
        "type a later hour, or take a faster hardener or more hands",
        "by",
    )


def _days_back(by: datetime, now: datetime, shop: ShopFacts, zone: ZoneInfo) -> Iterator[list[datetime]]:
    """The half hours to begin at of each day of the shop, the last day first, back to now."""
    day, today = min(by, now + timedelta(days=_SEARCH_DAYS)).astimezone(zone).date(), now.astimezone(zone).date()
    while day >= today:
        halves = [start for start in _halves(day, shop, zone) if now <= start < by]
        if halves:
            yield halves
        day -= timedelta(days=1)


def _halves(day: date, shop: ShopFacts, zone: ZoneInfo) -> list[datetime]:
    begun = at_hour(day, shop.opens_h, zone)
    count = int((shop.closes_h - shop.opens_h) * 60 / STEP_MIN)
    return [begun + timedelta(minutes=STEP_MIN * half) for half in range(count)]


def _soonest(now: datetime, shop: ShopFacts, zone: ZoneInfo) -> datetime:
    """The next half hour at which the shop is open."""
    today = now.astimezone(zone).date()
    return next(start for n in range(2) for start in _halves(today + timedelta(days=n), shop, zone) if start >= now)


def levers(job: JobSpec, shop: ShopFacts, heat_of: HeatOf = full_heat) -> tuple[LeverTried, ...]:
    """What one step of each lever gives: hands, a mixer, pot size, the tray, the next hardener, an hour earlier."""
    of = settled(job, shop, heat_of)
    if not of.mixes:
        return ()
    day = laid_out(of)
    before, use = _outcome(of, day), _in_question(of, day).use
    found = []
    for name, now, then, wishes, hardener_id in _changes(of, day):
        changed = job.model_copy(update={"pots": job.pots.model_copy(update=wishes)})
        if hardener_id:
            changed = _with_hardener(changed, use, hardener_id)
        other = settled(changed, shop, heat_of)
        other_day = laid_out(other) if other.mixes else None
        after = _outcome(other, other_day) if other_day else None
        found.append(
            LeverTried(
                name=name,
                now=now,
                then=then,
                pot_count=after.pots if after else None,
                laid_by_min=_laid_by_min(after, day, other_day) if after and other_day else None,
                chance_any=after.chance if after else None,
                words=_told(before, after, day, other_day) + _price(other, other_day),
                pots=wishes,
                hardener_id=hardener_id,
                use_id=use.id if hardener_id else "",
            )
        )
    return tuple(found)


def _price(of: Settled, day: Day | None) -> str:
    """What overtime costs in hours of work, where there is any."""
    late_h = sum(past_closing_h(day.schedule, of.shop, day.clock).values()) if day and of.job.pots.overtime_h else 0.0
    hours = late_h * len(team_of(of.job.pots).people)
    return f", for {of.shop.scales.written(hours, '.1f')} h past closing" if hours >= 0.05 else ""


def _in_question(of: Settled, day: Day) -> Mix:
    """The mix that most pots are of, plain: what a lever is tried on."""
    uses = Counter(pot.mix.use.id for pot in day.schedule.pots)
    mixes = of.mixes
    return max(mixes.values(), key=lambda mix: uses[mix.use.id])


def _with_hardener(job: JobSpec, use: ResinInUse, hardener_id: str) -> JobSpec:
    changed = use.model_copy(update={"hardener_id": hardener_id, "blend_id": None})
    return job.model_copy(update={"resins": tuple(changed if each.id == use.id else each for each in job.resins)})


def _changes(of: Settled, day: Day) -> Iterator[tuple[str, str, str, Mapping[str, object], str]]:
    """Each lever: its name, where it stands, where it would, and the wishes for it."""
    job, shop, mix = of.job, of.shop, _in_question(of, day)
    pots = job.pots
    earlier = day.clock.start - timedelta(hours=1)
    if day.clock.closing(-60) > -60:
        yield "Start", spoken(day.clock, 0), day.clock.customs.clock(day.clock.local(-60)), {"start": earlier}, ""
    yield from _more_people(pots)
    if pots.overtime_h == 0 and shop.closes_h <= 24 - _OVERTIME_H:
        now, then = (day.clock.customs.hour(hour) for hour in (shop.closes_h, shop.closes_h + _OVERTIME_H))
        yield "Closing", now, then, {"overtime_h": _OVERTIME_H}, ""
    if mix.hardener:
        other = VESSELS[pots.vessel].instead
        yield "Vessel", pots.vessel, other, {"vessel": other}, ""
        yield from _next_hardener(mix.hardener, mix.resin)
    vessel = larger_vessel(shop, mix.cup_ml)
    if vessel:
        yield "Cup", shop.scales.words("volume", mix.cup_ml), vessel.name, cup_wishes(vessel), ""
    largest = max((pot.mass_g for pot in day.schedule.pots if pot.mix.use.id == mix.use.id), default=0.0)
    if largest:
        step = mix.steps.at(largest / 2)
        half = max(30.0, round(largest / 2 / step) * step)
        if half < largest:
            yield "Largest pot", mix.pot_words(largest), mix.pot_words(half), {"largest_g": half}, ""
    if pots.share is None:
        return
    yield "Share of its life", f"{100 * pots.share:.0f} %", "as worked out", {"share": None}, ""


def _more_people(pots: PotWishes) -> Iterator[tuple[str, str, str, Mapping[str, object], str]]:
    """One person more, by what he would do: to see who helps most."""
    if not pots.crew:
        if pots.hands < 8:
            yield "People", str(pots.hands), str(pots.hands + 1), {"hands": pots.hands + 1}, ""
        if pots.mixer == "one of the hands":
            yield "Mixing", "in turn", "a person more", {"mixer": "a person more"}, ""
        return
    if len(pots.crew) == MOST_PEOPLE:
        return
    ids = {person.id for person in pots.crew}
    new = next(f"more{n}" for n in range(1, MOST_PEOPLE + 2) if f"more{n}" not in ids)
    every: tuple[Task, ...] = ("mixes", "wets", "lays", "rolls")
    for tasks in (*((task,) for task in every), every):
        crew = (*pots.crew, Person(id=new, tasks=tasks))
        does = "does all" if tasks == every else tasks[0]
        yield f"One more who {does}", str(len(pots.crew)), str(len(crew)), {"crew": crew}, ""


def _next_hardener(in_hand: Hardener, resin: ResinSystem) -> Iterator[tuple[str, str, str, Mapping[str, object], str]]:
    """The next slower hardener of the family, or the next faster where there is none."""
    ordered = fast_to_slow(resin.hardeners)
    ids = [hardener.id for hardener in ordered]
    if in_hand.id not in ids or len(ids) < 2:
        return
    at = ids.index(in_hand.id)
    other = ordered[at + 1] if at + 1 < len(ids) else ordered[at - 1]
    yield "Hardener", in_hand.name, other.name, {}, other.id


def _laid_by_min(after: _Outcome, day: Day, other: Day) -> float:
    """When all is laid on another day, in minutes of this one."""
    return day.clock.minutes(other.clock.local(after.laid_by_min))


def _told(before: _Outcome | None, after: _Outcome | None, day: Day, other: Day | None) -> str:
    """The difference that counts, in few words."""
    if after is None or other is None:
        return "no pot lives long enough"
    if before is None:
        return f"{after.pots} pots fit"
    said = []
    if after.pots != before.pots:
        said.append(f"{after.pots} pots")
    laid = _laid_by_min(after, day, other)
    if abs(laid - before.laid_by_min) >= 1:
        said.append(f"laid by {spoken(day.clock, laid)}")
    odds = [_one_in(outcome.chance) for outcome in (before, after)]
    if odds[0] != odds[1]:
        said.append(odds[1])
    return ", ".join(said) or "no gain"


def _one_in(chance: float) -> str:
    return "under 1 in 1000" if chance < 0.001 else f"1 in {round(1 / chance)}"
