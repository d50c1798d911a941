"""What is due in a shop: of every run that may still ask for something."""

import logging
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.utils import timezone
from pydantic import ValidationError

from cradle.bench.models import Run
from cradle.bench.running import state_of, stories_of
from cradle.jobs.floor import JobStrip, strips_of
from cradle.shops.models import Shop
from layup.bench.now import BenchState
from layup.day.due import Due, DueKind, PotDone, due_of
from layup.shop_facts import ShopFacts

# A run older than this has cured whatever it was (memory: a slow hardener in the cold loads after about a week).
_ASKED_FOR = timedelta(days=14)
_BEGINS_WITHIN = timedelta(hours=36)
_TAKEN_BEFORE = timedelta(hours=12)


logger = logging.getLogger(__name__)


def live_in(shop: Shop) -> Iterator[tuple[Run, BenchState, datetime]]:
    """The runs of a shop that were opened and not closed, as they stand, the newest first."""
    now = timezone.now()
    recent = Run.objects.filter(job__shop=shop, job__deleted_at=None, simulated=False, started_at__gte=now - _ASKED_FOR)
    for run in recent.filter(card__isnull=False).with_events().order_by("-started_at"):
        state = state_of(run)
        if state.outcome is None and (state.opened or state.live):
            yield run, state, now


@dataclass(frozen=True)
class JobDue:
    """One thing to come in one job, at its moment."""

    job_id: str
    job_name: str
    kind: DueKind
    words: str
    why: str
    owner_name: str
    at: datetime
    passed: bool


def due_in(shop: Shop, facts: ShopFacts) -> list[JobDue]:
    """What the shop's newest run of each job leads to, and the jobs that are to begin, soonest first."""
    now = timezone.now()
    # Of what is only simulated nothing falls due.
    recent = Run.objects.filter(job__shop=shop, job__deleted_at=None, simulated=False, started_at__gte=now - _ASKED_FOR)
    runs = recent.with_events().order_by("-started_at")
    newest: dict[str, Run] = {}
    for run in runs:
        newest.setdefault(run.job_id, run)
    found = [
        JobDue(
            job_id=job_id,
            job_name=run.document["name"],
            kind=due.kind,
            words=due.words,
            why=due.why,
            owner_name=due.owner_name,
            at=now + timedelta(minutes=due.in_min / run.pace),
            passed=due.in_min < 0,
        )
        for job_id, run in newest.items()
        for due in _due_of(run, now)
    ]
    return sorted(found + begins_in(shop, facts, newest, now), key=lambda due: due.at)


def _due_of(run: Run, now: datetime) -> list[Due]:
    """What one run leads to; nothing where its plan can no longer be read."""
    try:
        return due_of(run.issued, _poured(run, now))
    except ValidationError:
        logger.warning("the plan of run %s can no longer be read", run.pk)
        return []


def begins_in(shop: Shop, facts: ShopFacts, newest: dict[str, Run], now: datetime) -> list[JobDue]:
    """The jobs with a start of their own today or tomorrow that are not at the bench yet."""
    return [
        JobDue(
            job_id=str(strip.id),
            job_name=strip.name,
            kind="begin",
            words="weigh the first pot",
            why=strip.day_words,
            owner_name=strip.resin_name,
            at=strip.start_at,
            passed=strip.start_at < now,
        )
        for strip in strips_of(shop, facts, with_a_start=True)
        if strip.start_at and abs(strip.start_at - now) < _BEGINS_WITHIN and not _begun(newest.get(strip.id), strip)
    ]


def _begun(run: Run | None, strip: JobStrip) -> bool:
    """Whether a job was taken to the bench for the start it has."""
    return run is not None and run.started_at > strip.start_at - _TAKEN_BEFORE


def _poured(run: Run, now: datetime) -> list[PotDone]:
    return [
        PotDone(
            story.number,
            run.pace * (now - story.poured_at).total_seconds() / 60,
            # A pot that must not be used asks for it until it is dumped.
            not story.dumped if story.unfit else not story.ended,
            story.dumped,
            story.unfit,
        )
        for story in stories_of(run)
        if story.poured_at
    ]
