"""The floor's list: each job as a strip, planned once for a revision and a shop's facts, and kept."""

import hashlib
from datetime import datetime
from uuid import UUID

from django.db.models import Max, OuterRef, Subquery
from pydantic import BaseModel

from cradle.heat import planned
from cradle.jobs.models import Job, JobRevision
from cradle.jobs.ready import before_pot, next_before_pot
from cradle.shops.models import Shop
from layup.job import ShopFacts
from layup.laminate.outcome import LayerFibre, LayerKind
from layup.outcome import NextStep, StepState

# Raised when a strip's shape or the planning behind it changes, so that kept strips are made anew.
STRIP_VERSION = 8


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
    ).order_by("-newest_at")
    planned_with = f"{STRIP_VERSION} {facts.model_dump_json()}"
    stale = [job for job in jobs if job.strips.get(facts.units, {}).get("key") != _key(job, planned_with)]
    revisions = JobRevision.objects.select_related("saved_by").in_bulk([job.newest_pk for job in stale])
    for job in stale:
        strip = _strip(job, facts, revisions[job.newest_pk]).model_dump(mode="json")
        job.strips[facts.units] = {"key": _key(job, planned_with), "strip": strip}
    Job.objects.bulk_update(stale, ["strips"])
    return [JobStrip.model_validate(job.strips[facts.units]["strip"]) for job in jobs]


def _key(job: Job, planned_with: str) -> str:
    return hashlib.sha256(
        f"{job.newest_pk} {job.newest_at.isoformat()} {job.last_tick} {planned_with}".encode()
    ).hexdigest()


def _strip(job: Job, facts: ShopFacts, revision: JobRevision) -> JobStrip:
    spec = revision.spec()
    answer = planned(spec, facts)
    next_step = answer.next_step
    if next_step.step == "ticket":
        next_step = next_before_pot(before_pot(job, spec, answer, facts).ready()) or next_step
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
        state=next(step.state for step in answer.steps if step.step == next_step.step),
        next_step=next_step,
        start_at=spec.pots.start,
        day_words=answer.run_sheet.sentence if answer.run_sheet else "",
    )
