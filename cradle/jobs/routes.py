"""Routes of the jobs: the floor's list, one job with its plan, saving, trying other conditions."""

from datetime import datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.text import slugify
from ninja import Router, Schema, Status

from cradle.jobs.floor import JobStrip, strips_of
from cradle.jobs.models import Job, JobRevision
from cradle.jobs.saving import Conflicting, go_back, plan_of, save_job, start_job
from cradle.shops.models import Shop
from cradle.shops.people import require_writer
from cradle.shops.routes import shop_of
from layup import job_file
from layup.errors import OutOfRange
from layup.job import Conditions, JobSpec
from layup.outcome import Plan

router = Router(tags=["jobs"])
MOST_REVISIONS_LISTED = 50


class JobOut(Schema):
    id: UUID
    shop_id: UUID
    revision: int
    saved_at: datetime
    saved_by: str
    document: JobSpec
    plan: Plan


class SaveIn(Schema):
    """An edited document, and the one the edit was made from."""

    base: JobSpec
    document: JobSpec


class ConflictOut(Schema):
    """One field that both changed: its path by ids, and both values as JSON."""

    path: str
    mine: Any
    theirs: Any
    mine_removed: bool
    theirs_removed: bool


class ConflictsOut(Schema):
    """Why a save was not taken: what stands now, and both edits together with mine where they conflict."""

    saved_by: str
    latest: JobSpec
    merged: JobSpec
    conflicts: list[ConflictOut]


class RevisionOut(Schema):
    number: int
    saved_by: str
    begun_at: datetime
    saved_at: datetime
    name: str
    part_count: int
    total_area_m2: float
    mixed_g: float | None
    pot_count: int
    cost: float | None


class WhatIf(Schema):
    """A document and conditions to try; what is left out stays as saved."""

    document: JobSpec | None = None
    conditions: Conditions | None = None


def job_of(request: HttpRequest, job_id: UUID, *, to_write: bool = False) -> Job:
    """A job of one of the signed-in person's shops, or 404. Raises Forbidden where he may only look at it."""
    job = get_object_or_404(Job.objects.of(request.user).select_related("shop"), pk=job_id)
    if to_write:
        require_writer(request.user, job.shop)
    return job


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


@router.get("/shops/{uuid:shop_id}/jobs", response=list[JobStrip])
def list_jobs(request: HttpRequest, shop_id: UUID):
    return strips_of(shop_of(request, shop_id))


@router.post("/shops/{uuid:shop_id}/jobs", response=JobOut)
def new_job(request: HttpRequest, shop_id: UUID, document: JobSpec):
    revision = start_job(shop_of(request, shop_id, to_write=True), document, request.user)
    return _job_out(revision.job, revision)


@router.post("/shops/{uuid:shop_id}/jobs/from-file", response=JobOut)
def job_from_file(request: HttpRequest, shop_id: UUID):
    """A new job from the bytes of a job file, sent as the body."""
    shop = shop_of(request, shop_id, to_write=True)
    if int(request.headers.get("Content-Length") or 0) > job_file.MOST_BYTES:
        raise OutOfRange(f"is larger than {job_file.MOST_BYTES / 1e6:g} MB: no job is")
    revision = start_job(shop, job_file.read_job(request.body), request.user)
    return _job_out(revision.job, revision)


@router.get("/jobs/{uuid:job_id}/file", response=JobSpec)
def job_as_file(request: HttpRequest, job_id: UUID):
    """The job as its file."""
    revision = job_of(request, job_id).latest()
    revision.fix()
    spec = revision.spec()
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


@router.put("/jobs/{uuid:job_id}", response={200: JobOut, 409: ConflictsOut})
def write_job(request: HttpRequest, job_id: UUID, sent: SaveIn):
    job = job_of(request, job_id, to_write=True)
    try:
        revision = save_job(job, sent.document, sent.base, request.user)
    except Conflicting as refused:
        return Status(409, _conflicts_out(refused))
    return _job_out(job, revision)


def _conflicts_out(refused: Conflicting) -> ConflictsOut:
    return ConflictsOut(
        saved_by=refused.latest.saved_by.get_username(),
        latest=refused.latest.spec(),
        merged=JobSpec.model_validate(refused.merged.document),
        conflicts=[
            ConflictOut(
                path=conflict.path,
                mine=conflict.mine,
                theirs=conflict.theirs,
                mine_removed=conflict.mine_removed,
                theirs_removed=conflict.theirs_removed,
            )
            for conflict in refused.merged.conflicts
        ],
    )


@router.get("/jobs/{uuid:job_id}/revisions", response=list[RevisionOut])
def list_revisions(request: HttpRequest, job_id: UUID):
    """The job's latest revisions, newest first, each with its headline figures for today's conditions."""
    job = job_of(request, job_id)
    revisions = job.revisions.select_related("saved_by").order_by("-number")[:MOST_REVISIONS_LISTED]
    return [_revision_out(job.shop, revision) for revision in revisions]


def _revision_out(shop: Shop, revision: JobRevision) -> RevisionOut:
    spec = revision.spec()
    answer = plan_of(shop, spec)
    return RevisionOut(
        number=revision.number,
        saved_by=revision.saved_by.get_username(),
        begun_at=revision.begun_at,
        saved_at=revision.saved_at,
        name=spec.name,
        part_count=sum(part.count for part in answer.parts),
        total_area_m2=sum(part.total_area_m2 for part in answer.parts),
        mixed_g=answer.resin.mixed_g if answer.resin else None,
        pot_count=answer.pot_count,
        cost=answer.cost.total if answer.cost else None,
    )


@router.post("/jobs/{uuid:job_id}/revisions/{int:number}/restore", response=JobOut)
def restore_revision(request: HttpRequest, job_id: UUID, number: int):
    """Make an earlier revision the latest again, as a new one."""
    job = job_of(request, job_id, to_write=True)
    get_object_or_404(job.revisions, number=number)
    return _job_out(job, go_back(job, number, request.user))


@router.get("/jobs/{uuid:job_id}/plan", response=Plan)
def read_plan(request: HttpRequest, job_id: UUID):
    job = job_of(request, job_id)
    return plan_of(job.shop, job.latest().spec())


@router.post("/jobs/{uuid:job_id}/what-if", response=Plan)
def try_plan(request: HttpRequest, job_id: UUID, sent: WhatIf):
    job = job_of(request, job_id)
    return plan_of(job.shop, sent.document or job.latest().spec(), sent.conditions)
