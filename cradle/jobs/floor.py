"""The floor's list: each job as a strip, planned once for a revision and a shop's facts, and kept."""

import hashlib
import logging
from datetime import datetime
from functools import cache
from pathlib import Path
from uuid import UUID

from django.db.models import Max, OuterRef, Subquery
from pydantic import BaseModel

import layup
from cradle.heat import planned
from cradle.jobs.models import Job, JobRevision
from cradle.jobs.ready import before_pot, next_before_pot
from cradle.shops.models import Shop
from layup.laminate.outcome import LayerFibre, LayerKind
from layup.outcome import NextStep, StepState
from layup.scales import Scales
from layup.shop_facts import ShopFacts

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


def strips_of(shop: Shop, facts: ShopFacts) -> list[JobStrip]:
    """Every job of a shop, newest first. Plans only what changed since its strip was kept."""
    newest = JobRevision.objects.filter(job=OuterRef("pk")).order_by("-number")
    jobs = shop.jobs.annotate(
        newest_pk=Subquery(newest.values("pk")[:1]),
        newest_at=Subquery(newest.values("saved_at")[:1]),
        last_tick=Max("ticks"),
        last_run=Max("runs__started_at"),
        last_event=Max("runs__events"),
    ).order_by("-newest_at")
    planned_with = f"{_code()} {facts.model_dump_json()}"
    stale = [job for job in jobs if job.strips.get(facts.units, {}).get("key") != _key(job, planned_with)]
    revisions = JobRevision.objects.select_related("saved_by").in_bulk([job.newest_pk for job in stale])
    for job in stale:
        try:
            strip, key = _strip(job, facts, revisions[job.newest_pk]), _key(job, planned_with)
        except ValueError as failed:
            logger.warning("job %s has no strip: %s", job.pk, type(failed).__name__)
            # Tried again at the next look: what failed may have been of the moment.
            strip, key = _told(revisions[job.newest_pk]), ""
        job.strips[facts.units] = {"key": key, "strip": strip.model_dump(mode="json")}
    Job.objects.bulk_update(stale, ["strips"])
    return [JobStrip.model_validate(job.strips[facts.units]["strip"]) for job in jobs]


def _told(revision: JobRevision) -> JobStrip:
    """The strip of a job that cannot be read or planned: it says so, and the others' strips stand."""
    words = "this job cannot be planned as it stands: open it, and go back to an earlier revision under Log"
    return JobStrip(
        id=revision.job_id,
        name=str(revision.document.get("name", "")),
        saved_at=revision.saved_at,
        saved_by=revision.saved_by.get_username(),
        resin_id="",
        resin_name="",
        wanted_gel_min=None,
        part_count=0,
        total_area_m2=0,
        substrate="",
        plies=[],
        state="stop",
        next_step=NextStep(step="log", words=words),
        start_at=None,
        day_words="",
    )


def _key(job: Job, planned_with: str) -> str:
    return hashlib.sha256(
        f"{job.newest_pk} {job.newest_at.isoformat()} {job.last_tick} {job.last_run} {job.last_event} {planned_with}".encode()
    ).hexdigest()


def _strip(job: Job, facts: ShopFacts, revision: JobRevision) -> JobStrip:
    spec = revision.spec()
    answer = planned(spec, facts)
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
        resin_id=spec.chemistry.resin_id if answer.chemistry else "",
        resin_name=answer.chemistry.resin_name if answer.chemistry else "",
        wanted_gel_min=spec.chemistry.wanted_gel_min,
        part_count=sum(part.count for part in answer.parts),
        total_area_m2=sum(part.total_area_m2 for part in answer.parts),
        substrate=first.substrate if first else "",
        plies=[StripPly(architecture=p.architecture, fibre=p.fibre, thickness_mm=p.thickness_mm) for p in plies],
        state=next((step.state for step in answer.steps if step.step == next_step.step), ""),
        next_step=next_step,
        start_at=spec.pots.start,
        day_words=answer.run_sheet.sentence if answer.run_sheet else "",
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
