"""A job as the week sees it: when it needs how many people, when its pump runs, until when it cures."""

from collections.abc import Iterator
from datetime import datetime, timedelta

from layup.day.outcome import RunSheet
from layup.job import JobSpec
from layup.outcome import Plan
from layup.pots.crew import team_of
from layup.record import Record

# memory: a break that is shorter frees nobody for another job
_BREAK_MIN = 30.0


class Busy(Record):
    """From one moment to another so many people are at it."""

    from_at: datetime
    to_at: datetime
    people: int


class Span(Record):
    """From one moment to another."""

    from_at: datetime
    to_at: datetime


class Cure(Record):
    """A moment of a cure that somebody waits for, and what it is."""

    at: datetime
    words: str


class Held(Record):
    """A mould of the shop that a job holds, from its first layer until what was laid in it is hard."""

    mould: str
    from_at: datetime
    to_at: datetime


class WeekJob(Record):
    """A job as it is begun at `start_at`; `given` where somebody gave it that start. `pump` is from when to when a vacuum pump
    runs for it, `moulds` what it is laid in, `warm` when it stands in a warm room, `laid_at` when the last of it is laid, `cures` what may be done when after that. `crew` are those it names.
    """

    start_at: datetime
    given: bool = True
    busy: tuple[Busy, ...]
    pump: tuple[Span, ...] = ()
    moulds: tuple[Held, ...] = ()
    warm: tuple[Span, ...] = ()
    laid_at: datetime
    cures: tuple[Cure, ...] = ()
    pots: int = 0
    people: int = 1
    crew: tuple[str, ...] = ()

    def later_by(self, by: timedelta) -> "WeekJob":
        """The same begun so much later, as if the room were the same."""
        return self.model_copy(
            update={
                "start_at": self.start_at + by,
                "busy": tuple(
                    each.model_copy(update={"from_at": each.from_at + by, "to_at": each.to_at + by})
                    for each in self.busy
                ),
                "pump": tuple(Span(from_at=each.from_at + by, to_at=each.to_at + by) for each in self.pump),
                "moulds": tuple(
                    each.model_copy(update={"from_at": each.from_at + by, "to_at": each.to_at + by})
                    for each in self.moulds
                ),
                "warm": tuple(Span(from_at=each.from_at + by, to_at=each.to_at + by) for each in self.warm),
                "laid_at": self.laid_at + by,
                "cures": tuple(each.model_copy(update={"at": each.at + by}) for each in self.cures),
            }
        )


def in_week(spec: JobSpec, plan: Plan) -> WeekJob | None:
    """A job as its plan lays it into the week; None of one without a run sheet of a day.

    >>> in_week(JobSpec(name="Deck"), Plan.model_construct(run_sheet=None)) is None
    True
    """
    sheet = plan.run_sheet
    if sheet is None or sheet.start_at is None:
        return None
    start_at, people = sheet.start_at, len(team_of(spec.pots).people)
    spans = _joined([(each.from_min, each.to_min) for each in sheet.busy if not each.waits])
    return WeekJob(
        start_at=start_at,
        given=spec.pots.start is not None,
        busy=tuple(
            Busy(from_at=_at(start_at, begins), to_at=_at(start_at, ends), people=people) for begins, ends in spans
        ),
        pump=tuple(Span(from_at=_at(start_at, begins), to_at=_at(start_at, ends)) for begins, ends in _pumped(sheet)),
        moulds=tuple(
            Held(mould=mould, from_at=_at(start_at, begins), to_at=_at(start_at, ends))
            for mould, begins, ends in _held(spec, sheet)
        ),
        warm=tuple(
            Span(from_at=_at(start_at, begins), to_at=_at(start_at, begins + 60 * spec.pots.post_cure_h))
            for begins in _hard(sheet)
            if spec.pots.post_cure_h
        ),
        laid_at=_at(start_at, sheet.laid_by_min),
        cures=tuple(
            Cure(at=_at(start_at, mark.at_min), words=mark.words)
            for mark in sheet.marks
            if mark.kind in ("trim", "sand", "open bag", "clamps", "load", "full cure")
        ),
        pots=len(sheet.pots),
        people=people,
        crew=tuple(person.name for person in spec.pots.crew if person.name),
    )


def _at(start_at: datetime, minute: float) -> datetime:
    return start_at + timedelta(minutes=round(minute))


def _joined(spans: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Spans that lie closer than a break, as one."""
    found: list[tuple[float, float]] = []
    for begins, ends in sorted(spans):
        if found and begins - found[-1][1] < _BREAK_MIN:
            found[-1] = (found[-1][0], max(found[-1][1], ends))
        else:
            found.append((begins, ends))
    return found


def _pumped(sheet: RunSheet) -> list[tuple[float, float]]:
    """From bag down to bag open, lane by lane."""
    found = []
    for lane in sheet.lanes:
        downs = [mark.at_min for mark in sheet.marks if mark.lane == lane.id and mark.kind == "bag down"]
        opens = [mark.at_min for mark in sheet.marks if mark.lane == lane.id and mark.kind == "open bag"]
        if downs and opens:
            found.append((min(downs), max(opens)))
    return _joined(found)


def _hard(sheet: RunSheet) -> list[float]:
    """When all of it can be sanded, min: no sooner it is warmed (memory). Nothing where no cure is told."""
    hard = [mark.at_min for mark in sheet.marks if mark.kind == "sand"]
    return [max(hard)] if hard else []


def _held(spec: JobSpec, sheet: RunSheet) -> Iterator[tuple[str, float, float]]:
    """Which mould is held from when to when, min: a part comes out of it once it can be sanded, no sooner (memory)."""
    moulds = {part.id: part.ground.mould.strip() for part in spec.parts if part.substrate == "waxed mould"}
    for mould in dict.fromkeys(name for name in moulds.values() if name):
        lanes = {lane.id for lane in sheet.lanes if moulds.get(lane.owner_id) == mould}
        layers = [layer for layer in sheet.layers if layer.lane in lanes]
        if layers:
            hard = [mark.at_min for mark in sheet.marks if mark.lane in lanes and mark.kind in ("sand", "open bag")]
            yield mould, min(layer.from_min for layer in layers), max([*hard, *(layer.to_min for layer in layers)])
