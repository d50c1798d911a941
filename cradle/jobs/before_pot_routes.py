"""Routes of what comes before a pot: the pieces and their rolls, the preparation, what was ticked of both, what to buy."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.http import Http404, HttpRequest
from ninja import Field, Router, Schema

from cradle.jobs.models import Job
from cradle.jobs.prints import CSV, SVG, JobInHand
from cradle.jobs.ready import Before, TickKind, TickState, before_pot, tick_things
from cradle.jobs.routes import job_of
from cradle.plans import planned
from cradle.shops.preferences import facts_for
from cradle.stock.drawing import offcuts_for, settle_pieces
from cradle.stock.keeping import there_for
from layup.job import JobSpec
from layup.paper.kit import Paper
from layup.preparing.before_pot import CutPlan, PrepLine, ShoppingList
from layup.preparing.buying import shopping_csv
from layup.preparing.cut_pictures import roll_svg
from layup.preparing.cutting import cut_plan
from layup.preparing.printing import cut_plan_pdf, labels_pdf, preparation_pdf, shopping_pdf

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
    job, spec, before = _before(request, job_id)
    return {"plan": cut_plan(spec, before.divided, offcuts_for(job)), "ticks": _ticks(before, "cut")}


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
    with transaction.atomic():
        tick_things(before, job, request.user, **sent.model_dump())
        _, spec, after = _before(request, job_id)
        if sent.kind == "cut":
            _draw_pieces(job, request.user, spec, after, sent.things)
    return after.ready()


def _draw_pieces(job: Job, person: AbstractBaseUser, spec: JobSpec, after: Before, pieces: list[str]) -> None:
    """What is cut comes off its roll in the stock."""
    done = {
        piece: (tick := after.standing.get(("cut", piece))) is not None and tick.state == "done" for piece in pieces
    }
    settle_pieces(job, person, spec, cut_plan(spec, after.divided, offcuts_for(job)), done)


@router.get("/jobs/{uuid:job_id}/labels.pdf", response=str)
def labels(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """A label for each piece, in laying order."""
    hand = JobInHand(request, job_id)
    return hand.sent(labels_pdf(hand.head(paper), hand.cut.pieces), "labels.pdf")


@router.get("/jobs/{uuid:job_id}/cut-plan.pdf", response=str)
def cut_plan_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """Every roll drawn with its pieces, and the cut list."""
    hand = JobInHand(request, job_id)
    return hand.sent(cut_plan_pdf(hand.head(paper), hand.cut), "cut-plan.pdf")


@router.get("/jobs/{uuid:job_id}/rolls/{int:number}.svg", response=str)
def roll_as_svg(request: HttpRequest, job_id: UUID, number: int):
    """One roll with its pieces, to scale."""
    hand = JobInHand(request, job_id)
    rolls = hand.cut.rolls
    if not 1 <= number <= len(rolls):
        raise Http404
    return hand.sent(roll_svg(rolls[number - 1], hand.facts.scales).encode(), f"roll-{number}.svg", SVG)


@router.get("/jobs/{uuid:job_id}/preparation.pdf", response=str)
def preparation_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """The preparation as a sheet to sign."""
    hand = JobInHand(request, job_id)
    before = before_pot(hand.job, hand.spec, hand.plan, hand.facts)
    signed = {tick.thing: f"{tick.state}, {tick.by}" for tick in _ticks(before, "prepare") if tick.state != "undone"}
    return hand.sent(preparation_pdf(hand.head(paper), before.lines, signed), "preparation.pdf")


def _shopping(hand: JobInHand) -> ShoppingList:
    return hand.shopping(there_for(hand.job))


@router.get("/jobs/{uuid:job_id}/buy", response=ShoppingList)
def read_shopping(request: HttpRequest, job_id: UUID):
    """What to buy for the job, in the sizes it is sold in, with the variant named."""
    return _shopping(JobInHand(request, job_id))


@router.get("/jobs/{uuid:job_id}/buy.csv", response=str)
def shopping_as_csv(request: HttpRequest, job_id: UUID):
    hand = JobInHand(request, job_id)
    return hand.sent(shopping_csv(_shopping(hand), hand.facts.scales).encode(), "to-buy.csv", CSV)


@router.get("/jobs/{uuid:job_id}/buy.pdf", response=str)
def shopping_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    hand = JobInHand(request, job_id)
    return hand.sent(shopping_pdf(hand.head(paper), _shopping(hand), hand.job.shop.currency), "to-buy.pdf")
