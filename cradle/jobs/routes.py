"""Routes of the jobs: the floor's list, one job with its plan, saving, trying other conditions."""

from contextlib import suppress
from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from django.conf import settings
from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.text import slugify
from ninja import Field, Router, Schema, Status

from cradle.beside.crew import PLANS
from cradle.jobs.floor import JobStrip, strips_of, strips_written
from cradle.jobs.models import Job, JobRevision
from cradle.jobs.saving import (
    Conflicting,
    MadeFrom,
    copy_of,
    go_back,
    keep_as_template,
    put_away,
    save_job,
    start_job,
)
from cradle.jobs.today import good_hours_of, hour_of, readings_today, room_today
from cradle.plans import planned, planned_json, planned_or_told, told
from cradle.sent import sent_file
from cradle.shelf.keeping import ShelfWord, shelf_words
from cradle.shops.models import Shop
from cradle.shops.people import require_writer
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from layup import job_file
from layup.day.hours import in_words, moved_to
from layup.document import MOST_BYTES
from layup.errors import OutOfRange, Unreadable
from layup.job import Conditions, JobSpec, RoomTemperature
from layup.job_file import AnyJob
from layup.laminate.leaner import leaner
from layup.outcome import DewResult, Plan
from layup.plan import dew_of
from layup.shop_facts import RoomDay, ShopFacts
from layup.workbook import write_workbook
from layup.workings.worked import Working, working

router = Router(tags=["jobs"])
Count = Annotated[int, Field(ge=0, le=2**31 - 1)]
MOST_REVISIONS_LISTED = 50
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


class JobHead(Schema):
    """A job without its document and plan. `edit` counts the saves within its revision."""

    id: UUID
    shop_id: UUID
    revision: int
    edit: int
    put_away: bool
    saved_at: datetime
    saved_by: str
    is_sample: bool
    is_template: bool
    run_count: int


class JobOut(JobHead):
    document: JobSpec
    plan: Plan


class MadeFromIn(Schema):
    """A revision, as it was after so many saves."""

    revision: Count
    edit: Count


class SaveIn(Schema):
    """An edited document, and the one the edit was made from."""

    base: AnyJob
    document: AnyJob
    made_from: MadeFromIn | None = None


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
    """A document, a room temperature or a leaner practice to try; what is left out stays as saved.

    In a warmer or cooler room the surface moves along and the water in the air stays.
    """

    document: AnyJob | None = None
    room_c: RoomTemperature | None = None
    leaner: bool = False


class AboutIn(Schema):
    """The name of a figure, such as `life` or `thickness:p1`."""

    about: Annotated[str, Field(max_length=80)]


class WorkingIn(AboutIn, WhatIf):
    pass


class CopyIn(Schema):
    name: Annotated[str, Field(min_length=1, max_length=120)]


class MomentOut(Schema):
    hour: float
    room_c: float
    surface_c: float
    dew_margin_c: float | None


class ReadingOut(Schema):
    hour: float
    room_c: float


class SpanOut(Schema):
    from_h: float
    to_h: float
    what: str


class ResinHoursOut(Schema):
    resin_id: str
    resin_name: str
    spans: list[SpanOut]
    otherwise: str
    words: str


class DayOut(Schema):
    """The room through today, half-hourly from midnight by the shop's clock, and when each resin may be laid."""

    now_h: float
    conditions: Conditions
    dew: DewResult | None
    expected: RoomDay | None
    moments: list[MomentOut]
    readings: list[ReadingOut]
    resins: list[ResinHoursOut]


def job_of(request: HttpRequest, job_id: UUID, *, to_write: bool = False) -> Job:
    """A job of one of the signed-in person's shops, or 404. Raises Forbidden where he may only look at it."""
    job = get_object_or_404(Job.objects.of(request.user).select_related("shop"), pk=job_id)
    if to_write:
        require_writer(request.user, job.shop)
    return job


def job_out(request: HttpRequest, job: Job, revision: JobRevision) -> HttpResponse:
    """A job as `JobOut`, with its document and its plan as they were written."""
    head = JobHead(
        id=job.pk,
        shop_id=job.shop_id,
        revision=revision.number,
        edit=revision.edit,
        put_away=job.put_away_at is not None,
        is_template=job.is_template,
        saved_at=revision.saved_at,
        saved_by=revision.saved_by.get_username(),
        is_sample=job.is_sample,
        run_count=job.runs.count(),
    )
    spec, plan = _readable(revision, facts_for(request.user, job.shop))
    begun = head.model_dump_json().removesuffix("}").encode()
    return _sent(begun + b',"document":' + spec.model_dump_json().encode() + b',"plan":' + plan + b"}")


def _readable(revision: JobRevision, facts: ShopFacts) -> tuple[JobSpec, bytes]:
    """A revision's document and its plan as it is sent; of one that cannot be read or planned, a plan that says so."""
    shop_id = revision.job.shop_id
    try:
        spec = revision.spec()
    except Unreadable as failed:
        return JobSpec(name=revision.name()[:120] or "Not readable"), told(shop_id, failed, facts)
    return spec, planned_or_told(shop_id, spec, facts)


def _sent(written: bytes) -> HttpResponse:
    return HttpResponse(written, content_type="application/json; charset=utf-8")


@router.get("/shops/{uuid:shop_id}/jobs", response=list[JobStrip])
def list_jobs(request: HttpRequest, shop_id: UUID):
    shop = shop_of(request, shop_id)
    return _sent(strips_written(shop, facts_for(request.user, shop)))


@router.get("/shops/{uuid:shop_id}/day", response=DayOut)
def read_day(request: HttpRequest, shop_id: UUID):
    """The room's curve for today with its readings, and the good hours of the resins in use."""
    shop = shop_of(request, shop_id)
    facts = facts_for(request.user, shop)
    moments, now_h = room_today(shop, facts), hour_of(shop, shop.now())
    resins = good_hours_of(strips_of(shop, facts), moments, facts)
    return {
        "now_h": now_h,
        "conditions": facts.conditions,
        "dew": dew_of(facts.conditions),
        "expected": facts.day,
        "moments": moments,
        "readings": [
            {"hour": hour_of(shop, reading.read_at), "room_c": reading.room_c} for reading in readings_today(shop)
        ],
        "resins": [vars(hours) | {"words": in_words(hours, now_h, facts.scales.customs)} for hours in resins],
    }


@router.post("/shops/{uuid:shop_id}/jobs", response=JobOut)
def new_job(request: HttpRequest, shop_id: UUID, document: AnyJob):
    shop = shop_of(request, shop_id, to_write=True)
    if "practice" not in document.model_fields_set:
        document = document.model_copy(update={"practice": shop.shop_facts().practice})
    revision = start_job(shop, document, request.user)
    return job_out(request, revision.job, revision)


@router.post("/shops/{uuid:shop_id}/jobs/from-file", response=JobOut)
def job_from_file(request: HttpRequest, shop_id: UUID):
    """A new job from the bytes of a job file, sent as the body."""
    shop = shop_of(request, shop_id, to_write=True)
    if int(request.headers.get("Content-Length") or 0) > MOST_BYTES:
        raise OutOfRange(f"is larger than {MOST_BYTES / 1e6:g} MB: no job is")
    document = job_file.read_job(sent_file(request))
    revision = start_job(shop, document, request.user)
    return job_out(request, revision.job, revision)


@router.post("/shops/{uuid:shop_id}/working", response=Working)
def show_day_working(request: HttpRequest, shop_id: UUID, sent: AboutIn):
    """How a figure of the shop's day was worked out: of the day alone, without a job."""
    shop = shop_of(request, shop_id)
    return _working(shop.pk, sent.about, JobSpec(name=shop.name), facts_for(request.user, shop))


@router.post("/jobs/{uuid:job_id}/copy", response=JobOut)
def new_job_from_copy(request: HttpRequest, job_id: UUID, sent: CopyIn):
    job = job_of(request, job_id, to_write=True)
    revision = start_job(job.shop, copy_of(job, sent.name), request.user)
    return job_out(request, revision.job, revision)


class TemplateOut(Schema):
    """A job of the shop that others begin from."""

    id: UUID
    name: str


@router.post("/jobs/{uuid:job_id}/template", response=list[TemplateOut])
def new_template(request: HttpRequest, job_id: UUID, sent: CopyIn):
    """Keep a job as it stands now as a template of its shop; answers all of them."""
    job = job_of(request, job_id, to_write=True)
    keep_as_template(job, sent.name, request.user)
    return _templates_of(job.shop)


@router.get("/shops/{uuid:shop_id}/templates", response=list[TemplateOut])
def list_templates(request: HttpRequest, shop_id: UUID):
    """What the shop begins its jobs from."""
    return _templates_of(shop_of(request, shop_id))


def _templates_of(shop: Shop) -> list[TemplateOut]:
    templates = shop.jobs.filter(deleted_at=None, is_template=True)
    return sorted((TemplateOut(id=job.pk, name=job.latest().name()) for job in templates), key=lambda each: each.name)


@router.get("/jobs/{uuid:job_id}/file", response=JobSpec)
def job_as_file(request: HttpRequest, job_id: UUID):
    """The job as its file."""
    revision = job_of(request, job_id).latest()
    # A full disk keeps nobody from taking his job elsewhere.
    with suppress(OperationalError):
        revision.fix()
    spec = revision.spec()
    return download(job_file.write_job(spec), f"{slugify(spec.name) or 'job'}.json")


@router.get("/jobs/{uuid:job_id}/plan-file", response=Plan)
def plan_as_file(request: HttpRequest, job_id: UUID):
    """The plan of the job, as of now, as a file."""
    job = job_of(request, job_id)
    spec = job.latest().spec()
    answer = planned(job.shop_id, spec, facts_for(request.user, job.shop), full=True)
    return download(answer.model_dump_json(indent=1).encode(), f"{slugify(spec.name) or 'job'}-plan.json")


def download(content: bytes, name: str, content_type: str = "application/json") -> HttpResponse:
    """A file to be saved under a name."""
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(content, content_type=content_type, headers=headers)


@router.get("/jobs/{uuid:job_id}/workbook.xlsx", response=str)
def job_as_workbook(request: HttpRequest, job_id: UUID):
    """The job's parts, plies and resin as a workbook."""
    job = job_of(request, job_id)
    spec = job.latest().spec()
    facts = facts_for(request.user, job.shop)
    content = write_workbook(spec, planned(job.shop_id, spec, facts, full=True), facts.scales)
    return download(content, f"{slugify(spec.name) or 'job'}.xlsx", XLSX)


@router.get("/jobs/{uuid:job_id}/shelf", response=list[ShelfWord])
def compare_with_shelf(request: HttpRequest, job_id: UUID):
    """The job's products that the shelf has retired, or has newer."""
    job = job_of(request, job_id)
    return shelf_words(job.shop, job.latest().spec().materials)


@router.get("/jobs/{uuid:job_id}", response=JobOut)
def read_job(request: HttpRequest, job_id: UUID):
    job = job_of(request, job_id)
    return job_out(request, job, job.latest())


@router.put("/jobs/{uuid:job_id}", response={200: JobOut, 409: ConflictsOut})
def write_job(request: HttpRequest, job_id: UUID, sent: SaveIn):
    job = job_of(request, job_id, to_write=True)
    made_from = sent.made_from and MadeFrom(**sent.made_from.model_dump())
    try:
        revision = save_job(job, sent.document, sent.base, request.user, made_from)
    except Conflicting as refused:
        return Status(409, _conflicts_out(refused))
    return job_out(request, job, revision)


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


class PutAwayIn(Schema):
    away: bool


class PutAwayOut(Schema):
    id: UUID
    name: str
    put_away_at: datetime


@router.put("/jobs/{uuid:job_id}/put-away", response=list[PutAwayOut])
def set_put_away(request: HttpRequest, job_id: UUID, sent: PutAwayIn):
    """Take a job off the floor, or out again; answers what is put away in its shop."""
    job = put_away(job_of(request, job_id, to_write=True), sent.away)
    return _put_away_in(job.shop)


@router.get("/shops/{uuid:shop_id}/put-away", response=list[PutAwayOut])
def list_put_away(request: HttpRequest, shop_id: UUID):
    """The jobs that were taken off the floor, newest first."""
    return _put_away_in(shop_of(request, shop_id))


def _put_away_in(shop: Shop) -> list[PutAwayOut]:
    jobs = shop.jobs.filter(deleted_at=None, is_template=False).exclude(put_away_at=None).with_newest()
    revisions = JobRevision.objects.in_bulk(job.newest_pk for job in jobs)
    return [
        PutAwayOut(id=job.pk, name=revisions[job.newest_pk].name(), put_away_at=job.put_away_at)
        for job in jobs.order_by("-put_away_at")
    ]


@router.get("/jobs/{uuid:job_id}/revisions", response=list[RevisionOut])
def list_revisions(request: HttpRequest, job_id: UUID):
    """The job's latest revisions, newest first, each with its headline figures for today's conditions."""
    job = job_of(request, job_id)
    revisions = job.revisions.select_related("saved_by").order_by("-number")[:MOST_REVISIONS_LISTED]
    facts = facts_for(request.user, job.shop)
    return [_revision_out(facts, revision) for revision in revisions]


def _revision_out(facts: ShopFacts, revision: JobRevision) -> RevisionOut:
    spec, written = _readable(revision, facts)
    answer = Plan.model_validate_json(written)
    return RevisionOut(
        number=revision.number,
        saved_by=revision.saved_by.get_username(),
        begun_at=revision.begun_at,
        saved_at=revision.saved_at,
        name=spec.name,
        part_count=sum(part.count for part in answer.parts),
        total_area_m2=sum(part.total_area_m2 for part in answer.parts),
        mixed_g=answer.mixed_g or None,
        pot_count=answer.pot_count,
        cost=answer.cost.total if answer.cost else None,
    )


@router.post("/jobs/{uuid:job_id}/revisions/{int:number}/restore", response=JobOut)
def restore_revision(request: HttpRequest, job_id: UUID, number: int):
    """Make an earlier revision the latest again, as a new one."""
    job = job_of(request, job_id, to_write=True)
    get_object_or_404(job.revisions, number=number)
    return job_out(request, job, go_back(job, number, request.user))


@router.get("/jobs/{uuid:job_id}/plan", response=Plan)
def read_plan(request: HttpRequest, job_id: UUID):
    job = job_of(request, job_id)
    return _sent(planned_json(job.shop_id, job.latest().spec(), facts_for(request.user, job.shop)))


def tried(job: Job, facts: ShopFacts, sent: WhatIf) -> tuple[JobSpec, ShopFacts]:
    """The document and the facts to plan with. A room tried moves what is expected of it along, all day."""
    spec = sent.document or job.latest().spec()
    if sent.leaner:
        spec = leaner(spec) or spec
    if sent.room_c is None:
        return spec, facts
    if spec.conditions:
        return spec.model_copy(update={"conditions": moved_to(spec.conditions, sent.room_c)}), facts
    moved = moved_to(facts.conditions, sent.room_c)
    shift = facts.room_shift_c + sent.room_c - facts.conditions.room_c
    return spec, facts.model_copy(update={"conditions": moved, "room_shift_c": shift})


@router.post("/jobs/{uuid:job_id}/what-if", response=Plan)
def try_plan(request: HttpRequest, job_id: UUID, sent: WhatIf):
    job = job_of(request, job_id)
    facts = facts_for(request.user, job.shop)
    return _sent(planned_json(job.shop_id, *tried(job, facts, sent)))


@router.post("/jobs/{uuid:job_id}/working", response=Working)
def show_working(request: HttpRequest, job_id: UUID, sent: WorkingIn):
    """How one number of the plan was worked out."""
    job = job_of(request, job_id)
    facts = facts_for(request.user, job.shop)
    return _working(job.shop_id, sent.about, *tried(job, facts, sent))


def _working(shop_id: UUID, about: str, spec: JobSpec, facts: ShopFacts) -> Working:
    return PLANS.work(shop_id, settings.PLAN_BUDGET_S, working, about, spec, facts)
