"""Routes of what went wrong: asked and answered, the log read first, and the repair made into a job."""

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema
from pydantic import Field

from cradle.bench.models import Run
from cradle.bench.telling import logged
from cradle.jobs.models import Job
from cradle.jobs.routes import JobOut, job_of, job_out
from cradle.jobs.saving import save_job, start_job
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from layup.cautions.chapters import rules
from layup.diagnosis.ask import Found, found
from layup.diagnosis.from_log import LogSays, of_pot, said_by
from layup.diagnosis.guide import Question, guide
from layup.diagnosis.mending import Mending, alone, mended, mending
from layup.errors import OutOfRange
from layup.job import Part
from layup.scales import Scales

router = Router(tags=["what went wrong"])

Area = Annotated[float, Field(allow_inf_nan=False)]


class WrongIn(Schema):
    """What is known of a fault: the answers so far by their questions and what nobody could answer, the run it is in and one
    of its pots, or the job and its part; how large the bad place is, m²; the cause to be mended, the likeliest where none
    is named.
    """

    answers: dict[str, str] = {}
    skipped: list[str] = []
    run_id: UUID | None = None
    pot: int | None = None
    job_id: UUID | None = None
    part_id: str = ""
    area_m2: Area | None = None
    cause: str = ""


class Named(Schema):
    """A part of the job, to choose the one it is on."""

    id: str
    name: str


class Caught(Schema):
    """The caution that would have caught it: what it looks for and, where it stood on the plan of the run, its words and
    what it was overridden with."""

    rule: str
    looks_for: str
    words: str = ""
    stood: bool = False
    override: str = ""


class WrongOut(Schema):
    """What is found so far. `answered` are the questions answered, in their order, to be taken back; `known` those that the
    run answers by itself. `log` says that there is one to read, and what it says is with each cause."""

    found: Found
    answered: list[Question]
    known: dict[str, str] = {}
    log: list[LogSays] = []
    pots: list[int] = []
    job_id: UUID | None = None
    job_name: str = ""
    parts: list[Named] = []
    mending: Mending | None = None
    caught: Caught | None = None


@router.post("/shops/{uuid:shop_id}/wrong", response=WrongOut)
def what_went_wrong(request: HttpRequest, shop_id: UUID, wrong: WrongIn):
    """The causes as they stand and the question that parts them best. Nothing is saved."""
    shop = shop_of(request, shop_id)
    scales = facts_for(request.user, shop).scales
    run = _run(request, shop.pk, wrong)
    job = run.job if run else _job(request, shop.pk, wrong)
    whole = logged(run) if run else None
    told = of_pot(whole, wrong.pot) if whole and wrong.pot is not None else whole
    says = said_by(told, scales) if told else ()
    known = {"family": told.family} if told and told.family else {}
    answers = wrong.answers | known
    so_far = found(answers, says, skipped=wrong.skipped)
    named = wrong.cause or so_far.causes[0].id
    if named not in {cause.id for cause in guide().causes}:
        raise OutOfRange("there is no such cause", "cause")
    spec = run.spec if run else job.latest().spec() if job else None
    part = next((each for each in spec.parts if each.id == wrong.part_id), None) if spec else None
    # Nothing is mended before anything was seen.
    mend = mending(guide().cause(named), wrong.area_m2, part, scales) if wrong.answers else None
    return WrongOut(
        found=so_far,
        answered=[guide().question(each) for each in wrong.answers],
        known=known,
        log=list(says),
        pots=[pot.number for pot in whole.pots if pot.written] if whole else [],
        job_id=job.pk if job else None,
        job_name=spec.name if spec else "",
        parts=[Named(id=each.id, name=each.name or f"part {n}") for n, each in enumerate(spec.parts, 1)]
        if spec
        else [],
        mending=mend,
        caught=_caught(run, guide().cause(named).rule, scales) if mend else None,
    )


@router.post("/shops/{uuid:shop_id}/jobs/from-wrong", response=JobOut)
def job_from_wrong(request: HttpRequest, shop_id: UUID, wrong: WrongIn):
    """A new job of the repair alone, in the materials and the practice of the job it belongs to."""
    shop = shop_of(request, shop_id, to_write=True)
    job, part = _mended(request, shop.pk, wrong)
    revision = start_job(shop, alone(job.latest().spec(), part), request.user)
    return job_out(request, revision.job, revision)


@router.post("/shops/{uuid:shop_id}/wrong/added", response=JobOut)
def add_to_job(request: HttpRequest, shop_id: UUID, wrong: WrongIn):
    """The repair added to the job it belongs to, as one more part that comes after the part it is on."""
    shop = shop_of(request, shop_id, to_write=True)
    job, part = _mended(request, shop.pk, wrong)
    stands = job.latest().spec()
    revision = save_job(job, stands.model_copy(update={"parts": (*stands.parts, part)}), stands, request.user)
    return job_out(request, job, revision)


def _mended(request: HttpRequest, shop_id: UUID, wrong: WrongIn) -> tuple[Job, Part]:
    run = _run(request, shop_id, wrong)
    job = run.job if run else _job(request, shop_id, wrong)
    if job is None:
        raise OutOfRange("choose the job it is on first", "job_id")
    cause = next((each for each in guide().causes if each.id == wrong.cause), None)
    if cause is None:
        raise OutOfRange("choose what it was", "cause")
    return job, mended(job.latest().spec(), cause, wrong.part_id, wrong.area_m2)


def _run(request: HttpRequest, shop_id: UUID, wrong: WrongIn) -> Run | None:
    runs = Run.objects.of(request.user).filter(job__shop_id=shop_id).with_events()
    return get_object_or_404(runs, pk=wrong.run_id) if wrong.run_id else None


def _job(request: HttpRequest, shop_id: UUID, wrong: WrongIn) -> Job | None:
    if wrong.job_id is None:
        return None
    job = job_of(request, wrong.job_id)
    return get_object_or_404(Job.objects.filter(shop_id=shop_id), pk=job.pk)


def _caught(run: Run | None, rule: str, scales: Scales) -> Caught | None:
    """Of a run: whether the caution stood on the plan it was begun with, and with what reason it was overridden."""
    if not rule:
        return None
    stood = [caution for caution in run.issued.cautions if caution.id == rule] if run else []
    first = next(iter(stood), None)
    given = next((caution.override for caution in stood if caution.override), None)
    return Caught(
        rule=rule,
        looks_for=scales.said(next(each.reason for each in rules() if each.id == rule)),
        words=first.message if first else "",
        stood=bool(stood),
        override=f"{given.reason} ({given.by})" if given else "",
    )
