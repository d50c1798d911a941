"""The floor's list: each job as a strip, planned once for a revision and a shop's facts, and kept."""

import hashlib
import json
import logging
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from contextvars import copy_context
from datetime import datetime
from functools import cache
from pathlib import Path
from threading import Lock
from uuid import UUID

from django.db import OperationalError
from django.db.models import Max, OuterRef, Subquery
from pydantic import BaseModel

import layup
from cradle.beside.crew import CORES, Busy
from cradle.jobs.models import Job, JobRevision
from cradle.jobs.ready import before_pot, next_before_pot
from cradle.plans import planned
from cradle.shops.models import Shop
from layup.job import JobSpec
from layup.laminate.outcome import LayerFibre, LayerKind
from layup.outcome import NextStep, Plan, StepState
from layup.scales import Scales
from layup.shop_facts import ShopFacts
from layup.week.jobs import WeekJob, in_week

# A floor of many jobs after a new reading is shown after so long, with those that are still to be planned.
WAITED_FOR_S, WAITED_FOR_ANOTHER_S = 0.3, 0.1
_AT_A_TIME = 2 * CORES
_CANNOT = "this job cannot be planned as it stands: open it, and go back to an earlier revision under Log"
_looks: dict[UUID, Lock] = {}
_looks_lock = Lock()
logger = logging.getLogger(__name__)


@cache
def _code() -> str:
    """A digest of all that a strip is made by: the core with its library, and this file. A changed rule is seen at once."""
    read = hashlib.sha256(Path(__file__).read_bytes())
    for path in sorted(Path(layup.__file__).parent.rglob("*")):
        if path.suffix in (".py", ".toml"):
            read.update(path.read_bytes())
    return read.hexdigest()


class StripPly(BaseModel):
    architecture: LayerKind
    fibre: LayerFibre
    thickness_mm: float


class JobStrip(BaseModel):
    """A job on the floor: its first stack in little, and what to do next."""

    id: UUID
    name: str
    saved_at: datetime
    saved_by: str
    resin_id: str
    resin_name: str
    wanted_gel_min: float | None
    part_count: int
    total_area_m2: float
    substrate: str
    plies: list[StripPly]
    state: StepState
    next_step: NextStep
    start_at: datetime | None
    day_words: str
    # As the shop's week sees it.
    week: WeekJob | None = None
    # It is being planned again: what it shows is of before.
    behind: bool = False
    # The job that a new person is shown round with.
    is_sample: bool = False


def strips_of(shop: Shop, facts: ShopFacts, *, with_a_start: bool = False) -> list[JobStrip]:
    """Every job of a shop, or those with a start of their own, newest first. Plans only what changed since its strip was kept.

    A floor does not wait for all of a hundred jobs: what could not be planned at once is behind, and asked for again.
    """
    return [JobStrip.model_validate(strip) for strip in _kept(shop, facts, with_a_start)]


def strips_written(shop: Shop, facts: ShopFacts) -> bytes:
    """The same of every job as JSON, as they were kept."""
    return json.dumps(_kept(shop, facts, with_a_start=False)).encode()


def _kept(shop: Shop, facts: ShopFacts, with_a_start: bool) -> list[dict]:
    floor = _Floor(shop, facts, with_a_start)
    if not floor.stale:
        return floor.strips(behind=set())
    # Who looks at a floor that another has planned for him already makes none of those plans again.
    with _one_at_a_time(shop.pk) as mine:
        floor = _Floor(shop, facts, with_a_start)
        return floor.strips(behind=floor.plan_what_is_stale() if mine else {job.pk for job in floor.stale})


class _Floor:
    """A shop's jobs, newest first, and those whose strip is not of now."""

    def __init__(self, shop: Shop, facts: ShopFacts, with_a_start: bool):
        newest = JobRevision.objects.filter(job=OuterRef("pk")).order_by("-number")
        self.jobs = (
            shop.jobs.filter(put_away_at=None)
            .with_newest()
            .annotate(
                last_tick=Max("ticks"),
                last_run=Max("runs__started_at"),
                last_event=Max("runs__events"),
            )
            .order_by("-newest_at")
        )
        if with_a_start:
            self.jobs = self.jobs.alias(start=Subquery(newest.values("document__pots__start")[:1])).exclude(start=None)
        self.facts = facts
        self.planned_with = f"{_code()} {facts.model_dump_json()}"
        self.stale = [
            job for job in self.jobs if job.strips.get(facts.units, {}).get("key") != _key(job, self.planned_with)
        ]

    def plan_what_is_stale(self) -> set[UUID]:
        """Plans those that are stale, as many as there is time for. Answers the jobs that are still behind."""
        until, to_do = time.monotonic() + WAITED_FOR_S, self.stale
        behind = {job.pk for job in to_do}
        while to_do and (time.monotonic() < until or to_do is self.stale):
            behind -= _make_strips(to_do[:_AT_A_TIME], self.facts, self.planned_with)
            to_do = to_do[_AT_A_TIME:]
        return behind

    def strips(self, behind: set[UUID]) -> list[dict]:
        return [_strip_of(job, self.facts, job.pk in behind) for job in self.jobs]


def _strip_of(job: Job, facts: ShopFacts, behind: bool) -> dict:
    kept = job.strips.get(facts.units) or next(iter(job.strips.values()), None)
    now = {"behind": behind, "is_sample": job.is_sample}
    if kept:
        return kept["strip"] | now
    planned_soon = _bare(job.latest(), "", NextStep(step="measure", words="being planned"))
    return planned_soon.model_dump(mode="json") | now


def _make_strips(jobs: list[Job], facts: ShopFacts, planned_with: str) -> set[UUID]:
    """Plans some jobs, beside each other, and keeps their strips. Answers which were."""
    revisions = JobRevision.objects.select_related("saved_by").in_bulk([job.newest_pk for job in jobs])
    with ThreadPoolExecutor(_AT_A_TIME) as beside:
        plans = {
            job.pk: beside.submit(copy_context().run, _planned, job.shop_id, revisions[job.newest_pk], facts)
            for job in jobs
        }
    made = set()
    for job in jobs:
        revision = revisions[job.newest_pk]
        try:
            strip, key = _strip(job, facts, revision, *plans[job.pk].result()), _key(job, planned_with)
        except Busy:
            # It is behind until the next look.
            continue
        except ValueError as failed:
            logger.warning("job %s has no strip: %s", job.pk, type(failed).__name__)
            # Tried again at the next look: what failed may have been of the moment.
            strip, key = _bare(revision, "stop", NextStep(step="log", words=_CANNOT)), ""
        job.strips[facts.units] = {"key": key, "strip": strip.model_dump(mode="json")}
        made.add(job.pk)
    try:
        Job.objects.bulk_update(jobs, ["strips"])
    except OperationalError:
        # A full disk keeps nobody from looking.
        logger.warning("no strip could be kept")
    return made


def _planned(shop_id: UUID, revision: JobRevision, facts: ShopFacts) -> tuple[JobSpec, Plan]:
    spec = revision.spec()
    return spec, planned(shop_id, spec, facts)


@contextmanager
def _one_at_a_time(shop_id: UUID) -> Iterator[bool]:
    """Whether it is this one's turn; not, where another has had it for as long as one waits."""
    with _looks_lock:
        look = _looks.setdefault(shop_id, Lock())
    mine = look.acquire(timeout=WAITED_FOR_ANOTHER_S)
    try:
        yield mine
    finally:
        if mine:
            look.release()


def _bare(revision: JobRevision, state: StepState, next_step: NextStep) -> JobStrip:
    """The strip of a job without a plan: it cannot be read or planned, or is not planned yet. The others' strips stand."""
    return JobStrip(
        id=revision.job_id,
        name=revision.name(),
        saved_at=revision.saved_at,
        saved_by=revision.saved_by.get_username(),
        resin_id="",
        resin_name="",
        wanted_gel_min=None,
        part_count=0,
        total_area_m2=0,
        substrate="",
        plies=[],
        state=state,
        next_step=next_step,
        start_at=None,
        day_words="",
    )


def _key(job: Job, planned_with: str) -> str:
    return hashlib.sha256(
        f"{job.newest_pk} {job.newest_at.isoformat()} {job.last_tick} {job.last_run} {job.last_event} {planned_with}".encode()
    ).hexdigest()


def _strip(job: Job, facts: ShopFacts, revision: JobRevision, spec: JobSpec, answer: Plan) -> JobStrip:
    next_step = answer.next_step
    if next_step.step == "ticket":
        next_step = next_before_pot(before_pot(job, spec, answer, facts).ready()) or next_step
    next_step = _next_at_bench(job, revision, facts.scales, next_step)
    first = answer.parts[0] if answer.parts else None
    plies = first.plies if first else ()
    return JobStrip(
        id=revision.job_id,
        name=spec.name,
        saved_at=revision.saved_at,
        saved_by=revision.saved_by.get_username(),
        resin_id=spec.resins[0].resin_id if answer.resins else "",
        resin_name=answer.resins[0].chemistry.resin_name if answer.resins else "",
        wanted_gel_min=spec.resins[0].wanted_gel_min,
        part_count=sum(part.count for part in answer.parts),
        total_area_m2=sum(part.total_area_m2 for part in answer.parts),
        substrate=first.substrate if first else "",
        plies=[StripPly(architecture=p.architecture, fibre=p.fibre, thickness_mm=p.thickness_mm) for p in plies],
        state=next((step.state for step in answer.steps if step.step == next_step.step), ""),
        next_step=next_step,
        start_at=spec.pots.start,
        day_words=answer.run_sheet.sentence if answer.run_sheet else "",
        week=in_week(spec, answer),
    )


def _next_at_bench(job: Job, revision: JobRevision, scales: Scales, planned_next: NextStep) -> NextStep:
    """What comes next of a job that is at the bench: the pot after the last that was poured, or what is planned next.

    Of a job that was changed since, its next step is the new plan's, and it says how far the old one had come.
    """
    run = job.runs.order_by("-started_at").first()
    if run is None or not run.standing():
        return planned_next
    if run.revision_number != revision.number:
        return _after_a_change(planned_next, run.next_pot(), run.plan["pot_count"])
    number = run.next_pot()
    if number is None:
        return NextStep(step="log", words=f"all {run.plan['pot_count']:,} pots are poured: watch the cure")
    pot = next(pot for pot in run.plan["pots"] if pot["first"] <= number < pot["first"] + pot["count"])
    words = f"mix pot {number} of {run.plan['pot_count']:,}, {scales.mass(pot['mass_g'])}"
    return NextStep(step="ticket", words=words)


def _after_a_change(planned_next: NextStep, number: int | None, count: int) -> NextStep:
    if number in (None, 1):
        return planned_next
    poured = f"pot 1 of {count:,} was poured" if number == 2 else f"{number - 1:,} of {count:,} pots were poured"
    return planned_next.model_copy(update={"words": f"{planned_next.words}; the job was changed after {poured}"})
