"""What of several jobs cannot be at once: people, pumps, warm rooms, moulds, days shut; and how each clash is parted."""

from bisect import bisect_left
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import cache
from itertools import pairwise
from zoneinfo import ZoneInfo

from layup.day.shop_clock import at_hour
from layup.record import Record
from layup.week.jobs import Held, Span, WeekJob
from layup.week.people import Lack, ShopWeek, days_between

# A start is looked for by half hours, so many days on.
_STEP = timedelta(minutes=30)
_LOOKED_FOR_DAYS = 14
_NONE = timedelta(0)


class Way(Record):
    """A way out of a clash: a job begun at another moment, or so many people more while it lasts."""

    job_id: str = ""
    start_at: datetime | None = None
    people_more: int = 0


class Clash(Record):
    """From one moment to another more is wanted than is there: of what, how much of it, by which jobs; `mould` is which."""

    lack: Lack
    mould: str = ""
    from_at: datetime
    to_at: datetime
    wanted: int
    there: int
    job_ids: tuple[str, ...]
    ways: tuple[Way, ...] = ()


class _Moment(Record):
    """What is wanted of a thing from one edge of the day to the next, and what is there."""

    from_at: datetime
    to_at: datetime
    wanted: int
    there: int
    job_ids: tuple[str, ...]
    lack: Lack
    mould: str = ""


def clashes_of(jobs: Mapping[str, WeekJob], week: ShopWeek, zone: ZoneInfo, now: datetime) -> tuple[Clash, ...]:
    """Every clash of some jobs, by their ids, in the order of the clock, each with its ways out: the least later start of one
    of its jobs at which nothing of it clashes any more, and how many people more it takes.

    A shop that has named nobody is not held to its hours. `now` is the moment before which nothing can be begun.
    """
    found = clashes_between(jobs, week, zone)
    free: dict[str, datetime | None] = {}
    for job_id in dict.fromkeys(job_id for clash in found for job_id in clash.job_ids):
        free[job_id] = earliest_free(job_id, jobs, week, zone, now)
    return tuple(clash.model_copy(update={"ways": tuple(_ways(clash, jobs, free, now))}) for clash in found)


def earliest_free(
    job_id: str, jobs: Mapping[str, WeekJob], week: ShopWeek, zone: ZoneInfo, now: datetime
) -> datetime | None:
    """The first half hour, after its own start and not before now, at which a job clashes with nothing; None within two weeks.

    The job is moved as it stands: in another room it may take other hours, as its plan will say.
    """
    job = jobs[job_id]
    others = [each for other, each in jobs.items() if other != job_id]
    start = max(job.start_at, now).astimezone(zone)
    first = start.replace(minute=0, second=0, microsecond=0) + _STEP * (1 + start.minute // 30)
    spans = [(busy.from_at, busy.to_at, busy.people) for busy in job.busy]
    held_until = [each.to_at for each in (*job.pump, *job.warm)] + [each.to_at for each in job.moulds]
    ends_at = max((job.laid_at, *(ends for _, ends, _ in spans), *held_until))
    last = first + timedelta(days=_LOOKED_FOR_DAYS)
    until = last + (ends_at - job.start_at)
    people = _free_people(others, week, zone, first, until)
    needs = [(people, *span) for span in spans if week.people]
    for _, spans_of, there in _counted(week):
        free = _free_of(others, spans_of, there, first, until)
        needs += [(free, span.from_at, span.to_at, 1) for span in spans_of(job)]
    needs += [(_free_mould(held, others, first, until), held.from_at, held.to_at, 1) for held in job.moulds]
    at = first
    while at < last:
        by = at - job.start_at
        waits = max((free.waits(begins + by, ends + by, wanted) for free, begins, ends, wanted in needs), default=_NONE)
        if not waits:
            return at
        at += _STEP * -(-waits // _STEP)
    return None


@dataclass(frozen=True)
class _Free:
    """How many of a thing are free from each edge to the next."""

    edges: Sequence[datetime]
    free: Sequence[int]

    def waits(self, begins: datetime, ends: datetime, wanted: int) -> timedelta:
        """How much later so many are free for as long: nothing begun earlier gets past what is in the way; nought where
        they are free.
        """
        place = min(bisect_left(self.edges, ends), len(self.edges) - 1) - 1
        while place >= 0 and self.edges[place + 1] > begins:
            if self.free[place] < wanted:
                return self.edges[place + 1] - begins
            place -= 1
        return _NONE


def _free_people(others: Sequence[WeekJob], week: ShopWeek, zone: ZoneInfo, first: datetime, last: datetime) -> _Free:
    """Who is there and at no other job; none while nobody is there who may mix."""
    taken = [(busy.from_at, busy.to_at, busy.people) for each in others for busy in each.busy]
    days = days_between(first.astimezone(zone), last.astimezone(zone))
    hours = {_at(day, hour, zone) for day in days for hour in (0, *week.edges(day))}

    def there(moment: datetime) -> int:
        local = moment.astimezone(zone)
        return week.there(local) if week.mixes(local) else 0

    return _less(taken, hours, there, first, last)


SpansOf = Callable[[WeekJob], tuple[Span, ...]]


def _counted(week: ShopWeek) -> tuple[tuple[Lack, SpansOf, int], ...]:
    """What a shop has so many of, when a job has one of it, and how many there are."""
    return (("pump", lambda job: job.pump, week.pumps), ("warm room", lambda job: job.warm, week.warm_rooms))


def _free_of(others: Sequence[WeekJob], spans_of: SpansOf, there: int, first: datetime, last: datetime) -> _Free:
    taken = [(span.from_at, span.to_at, 1) for each in others for span in spans_of(each)]
    return _less(taken, set(), lambda _: there, first, last)


def _free_mould(held: Held, others: Sequence[WeekJob], first: datetime, last: datetime) -> _Free:
    taken = [
        (each.from_at, each.to_at, 1) for other in others for each in other.moulds if _same(each.mould, held.mould)
    ]
    return _less(taken, set(), lambda _: 1, first, last)


def _same(mould: str, other: str) -> bool:
    """Whether two names are of one mould, however they were typed."""
    return mould.strip().casefold() == other.strip().casefold()


def _less(
    taken: Sequence[tuple[datetime, datetime, int]],
    hours: set[datetime],
    there: Callable[[datetime], int],
    first: datetime,
    last: datetime,
) -> _Free:
    """What is there, less what is taken, from edge to edge."""
    own = {edge for begins, ends, _ in taken for edge in (begins, ends)}
    edges = sorted({first, last, *(edge for edge in own | hours if first < edge < last)})
    free = [there(edge) - sum(count for begins, ends, count in taken if begins <= edge < ends) for edge in edges]
    return _Free(edges, free)


def _ways(
    clash: Clash, jobs: Mapping[str, WeekJob], free: Mapping[str, datetime | None], now: datetime
) -> Iterator[Way]:
    for job_id in clash.job_ids:
        start_at = free[job_id]
        # What has begun is not begun again.
        if start_at and jobs[job_id].start_at > now:
            yield Way(job_id=job_id, start_at=start_at)
    if clash.lack in ("people", "mixers") and clash.there:
        yield Way(people_more=clash.wanted - clash.there)


def clashes_between(jobs: Mapping[str, WeekJob], week: ShopWeek, zone: ZoneInfo) -> list[Clash]:
    """Every clash of some jobs, in the order of the clock, without its ways out."""
    counted = [moment for each in _counted(week) for moment in _too_many(jobs, *each)]
    moments = [*_people(jobs, week, zone), *counted, *_moulds(jobs)]
    return sorted(_joined(moments), key=lambda clash: (clash.from_at, clash.lack))


def _people(jobs: Mapping[str, WeekJob], week: ShopWeek, zone: ZoneInfo) -> Iterator[_Moment]:
    """Where more people are wanted than are there, stretch by stretch between the edges of all that is done."""
    if not week.people:
        return
    spans = [(busy.from_at, busy.to_at, busy.people, job_id) for job_id, job in jobs.items() for busy in job.busy]
    edges = {edge for begins, ends, _, _ in spans for edge in (begins, ends)}
    for begins, ends, _, _ in spans:
        for day in days_between(begins.astimezone(zone), ends.astimezone(zone)):
            midnight = _at(day, 0, zone)
            hours = (_at(day, hour, zone) for hour in week.edges(day))
            edges |= {edge for edge in (midnight, *hours) if begins < edge < ends}
    for begins, ends in _between(edges):
        at_it = [(people, job_id) for first, last, people, job_id in spans if first <= begins and last >= ends]
        wanted, local = sum(people for people, _ in at_it), begins.astimezone(zone)
        there = week.there(local)
        if wanted > there:
            lack: Lack = "shut" if local.date() in week.shut else "people"
            job_ids = tuple(dict.fromkeys(job_id for _, job_id in at_it))
            yield _Moment(from_at=begins, to_at=ends, wanted=wanted, there=there, job_ids=job_ids, lack=lack)
        elif at_it and not week.mixes(local):
            job_ids = tuple(dict.fromkeys(job_id for _, job_id in at_it))
            yield _Moment(from_at=begins, to_at=ends, wanted=1, there=0, job_ids=job_ids, lack="mixers")


def _too_many(jobs: Mapping[str, WeekJob], lack: Lack, spans_of: SpansOf, there: int) -> Iterator[_Moment]:
    """Where more jobs want one of a thing than there are of it."""
    spans = [(span.from_at, span.to_at, job_id) for job_id, job in jobs.items() for span in spans_of(job)]
    for begins, ends in _between({edge for first, last, _ in spans for edge in (first, last)}):
        job_ids = tuple(dict.fromkeys(job_id for first, last, job_id in spans if first <= begins and last >= ends))
        if len(job_ids) > there:
            yield _Moment(from_at=begins, to_at=ends, wanted=len(job_ids), there=there, job_ids=job_ids, lack=lack)


def _moulds(jobs: Mapping[str, WeekJob]) -> Iterator[_Moment]:
    """Where two jobs lie in one mould."""
    spans: dict[str, list[tuple[datetime, datetime, str, str]]] = {}
    for job_id, job in jobs.items():
        for held in job.moulds:
            spans.setdefault(held.mould.strip().casefold(), []).append((held.from_at, held.to_at, job_id, held.mould))
    for of_mould in spans.values():
        for begins, ends in _between({edge for first, last, *_ in of_mould for edge in (first, last)}):
            job_ids = tuple(
                dict.fromkeys(job_id for first, last, job_id, _ in of_mould if first <= begins and last >= ends)
            )
            if len(job_ids) > 1:
                yield _Moment(
                    from_at=begins,
                    to_at=ends,
                    wanted=len(job_ids),
                    there=1,
                    job_ids=job_ids,
                    lack="mould",
                    mould=of_mould[0][3],
                )


@cache
def _at(day: date, hour: float, zone: ZoneInfo) -> datetime:
    return at_hour(day, hour, zone)


def _between(edges: set[datetime]) -> Iterator[tuple[datetime, datetime]]:
    """Each edge with the next."""
    ordered = sorted(edges)
    return pairwise(ordered)


def _joined(moments: Sequence[_Moment]) -> list[Clash]:
    """Stretches that touch, of one lack and the same jobs, as one clash: of the most that is wanted, and the least there."""
    found: list[Clash] = []
    for each in sorted(moments, key=lambda each: (each.lack, each.mould, each.job_ids, each.from_at)):
        last = found[-1] if found else None
        if last and (last.lack, last.mould, last.job_ids, last.to_at) == (
            each.lack,
            each.mould,
            each.job_ids,
            each.from_at,
        ):
            worst = max(
                (last.wanted - last.there, last.wanted, last.there), (each.wanted - each.there, each.wanted, each.there)
            )
            found[-1] = last.model_copy(update={"to_at": each.to_at, "wanted": worst[1], "there": worst[2]})
        else:
            found.append(
                Clash(
                    lack=each.lack,
                    from_at=each.from_at,
                    to_at=each.to_at,
                    wanted=each.wanted,
                    there=each.there,
                    job_ids=each.job_ids,
                    mould=each.mould,
                )
            )
    return found
