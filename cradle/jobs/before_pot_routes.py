"""Routes of what comes before a pot: the pieces and their rolls, the preparation, what was ticked of both, what to buy."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import Http404, HttpRequest
from django.utils.text import slugify
from ninja import Field, Router, Schema

from cradle.jobs.models import Job
from cradle.jobs.ready import Before, TickKind, TickState, before_pot, tick_things
from cradle.jobs.routes import download, job_of
from cradle.plans import planned
from cradle.shelf.keeping import library_of
from cradle.shops.preferences import facts_for
from layup.job import JobSpec
from layup.preparing.before_pot import CutPlan, PrepLine, ShoppingList
from layup.preparing.buying import shopping_csv, shopping_list
from layup.preparing.cut_pictures import roll_svg
from layup.preparing.cutting import cut_plan
from layup.preparing.printing import Paper, cut_plan_pdf, labels_pdf, preparation_pdf, shopping_pdf
from layup.shop_facts import ShopFacts

router = Router(tags=["before a pot"])


class TickOut(Schema):
    kind: TickKind
    thing: str
    state: TickState
    said: str
    changed: bool
    reason: str
    by: str
    at: datetime


class ReadyOut(Schema):
    piece_count: int
    cut_count: int
    line_count: int
    signed_count: int
    waiting: list[str]
    to_waive: dict[TickKind, list[str]]


class CuttingOut(Schema):
    plan: CutPlan
    ticks: list[TickOut]


class PreparingOut(Schema):
    lines: list[PrepLine]
    ticks: list[TickOut]


class CornersOut(Schema):
    """What of the joints is ticked by itself, by its id."""

    corners: dict[str, str]
    ticks: list[TickOut]


class TickIn(Schema):
    """One tap. `tap_id` is made where it was tapped, so that it never counts twice."""

    tap_id: UUID
    kind: TickKind
    things: Annotated[list[Annotated[str, Field(max_length=120)]], Field(min_length=1, max_length=5000)]
    state: TickState
    reason: Annotated[str, Field(max_length=300)] = ""


def _before(request: HttpRequest, job_id: UUID, *, to_write: bool = False):
    job = job_of(request, job_id, to_write=to_write)
    spec, facts = job.latest().spec(), facts_for(request.user, job.shop)
    return job, spec, before_pot(job, spec, planned(job.shop_id, spec, facts), facts)


def _ticks(before: Before, kind: TickKind) -> list:
    return [tick for tick in before.standing.values() if tick.kind == kind]


@router.get("/jobs/{uuid:job_id}/ready", response=ReadyOut)
def read_ready(request: HttpRequest, job_id: UUID):
    """How far the job is with what comes before its first pot."""
    return _before(request, job_id)[2].ready()


@router.get("/jobs/{uuid:job_id}/cut", response=CuttingOut)
def read_cut(request: HttpRequest, job_id: UUID):
    _, spec, before = _before(request, job_id)
    return {"plan": cut_plan(spec), "ticks": _ticks(before, "cut")}


@router.get("/jobs/{uuid:job_id}/prepare", response=PreparingOut)
def read_prepare(request: HttpRequest, job_id: UUID):
    _, _, before = _before(request, job_id)
    return {"lines": before.lines, "ticks": _ticks(before, "prepare")}


@router.get("/jobs/{uuid:job_id}/corners", response=CornersOut)
def read_corners(request: HttpRequest, job_id: UUID):
    """Which corners of the joints there are, and which are done."""
    _, _, before = _before(request, job_id)
    return {"corners": before.corners, "ticks": _ticks(before, "corner")}


@router.post("/jobs/{uuid:job_id}/ticks", response=ReadyOut)
def tick(request: HttpRequest, job_id: UUID, sent: TickIn):
    job, _, before = _before(request, job_id, to_write=True)
    tick_things(before, job, request.user, **sent.model_dump())
    return _before(request, job_id)[2].ready()


@router.get("/jobs/{uuid:job_id}/labels.pdf", response=str)
def labels(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """A label for each piece, in laying order."""
    job = job_of(request, job_id)
    spec = job.latest().spec()
    scales = facts_for(request.user, job.shop).scales
    content = labels_pdf(spec.name, cut_plan(spec).pieces, paper, scales)
    return download(content, f"{slugify(spec.name) or 'job'}-labels.pdf", "application/pdf")


@router.get("/jobs/{uuid:job_id}/cut-plan.pdf", response=str)
def cut_plan_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """Every roll drawn with its pieces, and the cut list."""
    job = job_of(request, job_id)
    spec = job.latest().spec()
    content = cut_plan_pdf(spec.name, cut_plan(spec), paper, facts_for(request.user, job.shop).scales)
    return download(content, f"{slugify(spec.name) or 'job'}-cut-plan.pdf", "application/pdf")


@router.get("/jobs/{uuid:job_id}/rolls/{int:number}.svg", response=str)
def roll_as_svg(request: HttpRequest, job_id: UUID, number: int):
    """One roll with its pieces, to scale."""
    job = job_of(request, job_id)
    spec = job.latest().spec()
    rolls = cut_plan(spec).rolls
    if not 1 <= number <= len(rolls):
        raise Http404
    svg = roll_svg(rolls[number - 1], facts_for(request.user, job.shop).scales)
    return download(svg.encode(), f"{slugify(spec.name) or 'job'}-roll-{number}.svg", "image/svg+xml")


@router.get("/jobs/{uuid:job_id}/preparation.pdf", response=str)
def preparation_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """The preparation as a sheet to sign."""
    _, spec, before = _before(request, job_id)
    signed = {tick.thing: f"{tick.state}, {tick.by}" for tick in _ticks(before, "prepare") if tick.state != "undone"}
    content = preparation_pdf(spec.name, before.lines, signed, paper)
    return download(content, f"{slugify(spec.name) or 'job'}-preparation.pdf", "application/pdf")


def _shopping(request: HttpRequest, job_id: UUID) -> tuple[Job, JobSpec, ShopFacts, ShoppingList]:
    job = job_of(request, job_id)
    spec, facts = job.latest().spec(), facts_for(request.user, job.shop)
    plan, library = planned(job.shop_id, spec, facts), library_of(job.shop)
    return job, spec, facts, shopping_list(spec, plan, cut_plan(spec), library, facts.scales)


@router.get("/jobs/{uuid:job_id}/buy", response=ShoppingList)
def read_shopping(request: HttpRequest, job_id: UUID):
    """What to buy for the job, in the sizes it is sold in, with the variant named."""
    return _shopping(request, job_id)[3]


@router.get("/jobs/{uuid:job_id}/buy.csv", response=str)
def shopping_as_csv(request: HttpRequest, job_id: UUID):
    _, spec, facts, shopping = _shopping(request, job_id)
    text = shopping_csv(shopping, decimal_comma=facts.thousands_comma is False, scales=facts.scales)
    return download(text.encode(), f"{slugify(spec.name) or 'job'}-to-buy.csv", "text/csv; charset=utf-8")


@router.get("/jobs/{uuid:job_id}/buy.pdf", response=str)
def shopping_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    job, spec, facts, shopping = _shopping(request, job_id)
    content = shopping_pdf(spec.name, shopping, job.shop.currency, paper, facts.scales)
    return download(content, f"{slugify(spec.name) or 'job'}-to-buy.pdf", "application/pdf")
