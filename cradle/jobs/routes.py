"""Routes of the jobs: the floor's list, one job with its plan, saving, trying other conditions."""

from datetime import datetime
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.text import slugify
from ninja import Router, Schema

from cradle.jobs.models import Job, JobRevision
from cradle.jobs.saving import plan_of, save_job, start_job
from cradle.shops.models import Shop
from cradle.shops.routes import shop_of
from layup import job_file
from layup.errors import OutOfRange
from layup.job import Conditions, JobSpec
from layup.outcome import Architecture, Fibre, NextStep, Plan

router = Router(tags=["jobs"])


class StripPly(Schema):
    architecture: Architecture
    fibre: Fibre
    thickness_mm: float


class JobStrip(Schema):
    """A job on the floor: its first stack in little, and what to do next."""

    id: UUID
    name: str
    saved_at: datetime
    saved_by: str
    resin_name: str
    part_count: int
    total_area_m2: float
    substrate: str
    plies: list[StripPly]
    next_step: NextStep


class JobOut(Schema):
    id: UUID
    shop_id: UUID
    revision: int
    saved_at: datetime
    saved_by: str
    document: JobSpec
    plan: Plan


class SaveIn(Schema):
    revision: int
    document: JobSpec


class WhatIf(Schema):
    """A document and conditions to try; what is left out stays as saved."""

    document: JobSpec | None = None
    conditions: Conditions | None = None


def job_of(request: HttpRequest, job_id: UUID) -> Job:
    """A job of one of the signed-in person's shops, or 404."""
    return get_object_or_404(Job.objects.of(request.user).select_related("shop"), pk=job_id)


def _job_out(job: Job, revision: JobRevision) -> JobOut:
    spec = revision.spec()
    return JobOut(
        id=job.pk,
        shop_id=job.shop_id,
        revision=revision.number,
        saved_at=revision.saved_at,
        saved_by=revision.saved_by.get_username(),
        document=spec,
        plan=plan_of(job.shop, spec),
    )


def _strip(shop: Shop, revision: JobRevision) -> JobStrip:
    spec = revision.spec()
    answer = plan_of(shop, spec)
    first = answer.parts[0] if answer.parts else None
    return JobStrip(
        id=revision.job_id,
        name=spec.name,
        saved_at=revision.saved_at,
        saved_by=revision.saved_by.get_username(),
        resin_name=answer.chemistry.resin_name if answer.chemistry else "",
        part_count=sum(part.count for part in answer.parts),
        total_area_m2=sum(part.total_area_m2 for part in answer.parts),
        substrate=first.substrate if first else "",
        plies=[
            StripPly(architecture=ply.architecture, fibre=ply.fibre, thickness_mm=ply.thickness_mm)
            for ply in first.plies
        ]
        if first
        else [],
        next_step=answer.next_step,
    )


@router.get("/shops/{uuid:shop_id}/jobs", response=list[JobStrip])
def list_jobs(request: HttpRequest, shop_id: UUID):
    shop = shop_of(request, shop_id)
    return [_strip(shop, revision) for revision in JobRevision.objects.latest_of_shop(shop)]


@router.post("/shops/{uuid:shop_id}/jobs", response=JobOut)
def new_job(request: HttpRequest, shop_id: UUID, document: JobSpec):
    revision = start_job(shop_of(request, shop_id), document, request.user)
    return _job_out(revision.job, revision)


@router.post("/shops/{uuid:shop_id}/jobs/from-file", response=JobOut)
def job_from_file(request: HttpRequest, shop_id: UUID):
    """A new job from the bytes of a job file, sent as the body."""
    shop = shop_of(request, shop_id)
    if int(request.headers.get("Content-Length") or 0) > job_file.MOST_BYTES:
        raise OutOfRange(f"is larger than {job_file.MOST_BYTES / 1e6:g} MB: no job is")
    revision = start_job(shop, job_file.read_job(request.body), request.user)
    return _job_out(revision.job, revision)


@router.get("/jobs/{uuid:job_id}/file", response=JobSpec)
def job_as_file(request: HttpRequest, job_id: UUID):
    """The job as its file."""
    spec = job_of(request, job_id).latest().spec()
    return _download(job_file.write_job(spec), f"{slugify(spec.name) or 'job'}.json")


@router.get("/jobs/{uuid:job_id}/plan-file", response=Plan)
def plan_as_file(request: HttpRequest, job_id: UUID):
    """The plan of the job, as of now, as a file."""
    job = job_of(request, job_id)
    spec = job.latest().spec()
    return _download(
        plan_of(job.shop, spec).model_dump_json(indent=1).encode(), f"{slugify(spec.name) or 'job'}-plan.json"
    )


def _download(content: bytes, name: str) -> HttpResponse:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(content, content_type="application/json", headers=headers)


@router.get("/jobs/{uuid:job_id}", response=JobOut)
def read_job(request: HttpRequest, job_id: UUID):
    job = job_of(request, job_id)
    return _job_out(job, job.latest())


@router.put("/jobs/{uuid:job_id}", response=JobOut)
def write_job(request: HttpRequest, job_id: UUID, sent: SaveIn):
    job = job_of(request, job_id)
    return _job_out(job, save_job(job, sent.document, sent.revision, request.user))


@router.get("/jobs/{uuid:job_id}/plan", response=Plan)
def read_plan(request: HttpRequest, job_id: UUID):
    job = job_of(request, job_id)
    return plan_of(job.shop, job.latest().spec())


@router.post("/jobs/{uuid:job_id}/what-if", response=Plan)
def try_plan(request: HttpRequest, job_id: UUID, sent: WhatIf):
    job = job_of(request, job_id)
    return plan_of(job.shop, sent.document or job.latest().spec(), sent.conditions)
