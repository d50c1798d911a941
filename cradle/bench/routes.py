"""Routes of the bench: take a job there, write down what each pot did, read it back."""

from datetime import datetime, time
from typing import Annotated
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema
from pydantic import AwareDatetime

from cradle.bench.due import due_in
from cradle.bench.models import PotEvent, Run
from cradle.bench.running import (
    PotStory,
    age_of,
    issue_run,
    moment_of,
    planned_pot,
    record_event,
    rest_of_run,
    stories_of,
    take_back,
)
from cradle.beside.crew import PLANS
from cradle.jobs.routes import AboutIn, job_of
from cradle.shops.people import require_writer
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from layup.chemistry.off_ratio import Grade
from layup.day.due import DueKind
from layup.day.rest import Rest
from layup.outcome import Plan
from layup.pots.pot_check import check_pot
from layup.workings.worked import Working, working

router = Router(tags=["bench"])
Grams = Annotated[float, Field(ge=0.1, le=100_000, allow_inf_nan=False)]
Note = Annotated[str, Field(max_length=300)]


class RunIn(Schema):
    """`tap_id` is made where it was tapped."""

    tap_id: UUID


class EventIn(Schema):
    """What a tap says. `clock` is the time of day by the shop's clock, where it was not `happened_at`, the tap's own."""

    tap_id: UUID
    pot: int
    kind: PotEvent.Kind
    happened_at: AwareDatetime
    clock: time | None = None
    part_a_g: Grams | None = None
    part_b_g: Grams | None = None
    filler_loose_ml: Grams | None = None
    note: Note = ""


class CheckIn(Schema):
    """What a pot was really poured: A and B, or resin and catalyst; the second in g or in ml."""

    pot: int
    part_a_g: Grams
    part_b_g: Grams | None = None
    part_b_ml: Grams | None = None
    surface_c: float | None = Field(default=None, ge=-20, le=300)


class CheckOut(Schema):
    """How far off, its grade in words, what to put in; `refused` where it may not be mended."""

    off_pct: float
    grade: Grade
    words: str
    add: str
    add_g: float
    pot_g: float
    life_min: float | None
    refused: str


class TakenBackOut(Schema):
    """Who took an event back, when and why."""

    at: datetime
    by: str
    reason: str


class TakeBackIn(Schema):
    tap_id: UUID
    reason: Note


class EventOut(Schema):
    id: int
    taken_back: TakenBackOut | None
    kind: str
    happened_at: datetime
    recorded_by: str
    part_a_g: float | None
    part_b_g: float | None
    filler_loose_ml: float | None
    note: str


class StoryOut(Schema):
    """One pot of the log. Minutes count from the pour. `unfit` says why it must not be used, where it must not."""

    pot: int
    labels: list[str]
    owner_name: str
    bay: str = ""
    mass_g: float
    predicted_life_min: float
    use_by_min: float
    events: list[EventOut]
    used_in_min: float | None
    gelled_in_min: float | None
    gel_error_pct: float | None
    ratio_error_pct: float | None
    filler_error_pct: float | None
    unfit: str
    dumped: bool


class DueOut(Schema):
    """One thing to come in a job, at its moment; `passed` where it is past and still asks for something."""

    job_id: UUID
    job_name: str
    kind: DueKind
    words: str
    why: str
    owner_name: str
    at: datetime
    passed: bool


class RunOut(Schema):
    id: UUID
    next_pot: int | None
    job_id: UUID
    revision: int
    started_at: datetime
    started_by: str
    room_c: float
    pot_count: int
    plan: Plan
    stories: list[StoryOut]


def _story_out(story: PotStory) -> StoryOut:
    return StoryOut(
        pot=story.number,
        labels=list(story.planned.labels),
        owner_name=story.planned.owner_name,
        bay=story.planned.bay,
        mass_g=story.planned.mass_g,
        predicted_life_min=story.planned.life_min,
        use_by_min=story.planned.use_by_min,
        events=[
            EventOut(
                id=event.pk,
                taken_back=_taken_back(story, event),
                kind=event.kind,
                happened_at=event.happened_at,
                recorded_by=event.recorded_by.get_username(),
                part_a_g=event.part_a_g,
                part_b_g=event.part_b_g,
                filler_loose_ml=event.filler_loose_ml,
                note=event.note,
            )
            for event in story.events
            if not event.takes_back_id
        ],
        used_in_min=story.history.used_in_min,
        gelled_in_min=story.history.gelled_in_min,
        gel_error_pct=story.history.gel_error_pct,
        ratio_error_pct=story.history.ratio_error_pct,
        filler_error_pct=story.filler_error_pct,
        unfit=story.unfit,
        dumped=story.dumped,
    )


def _taken_back(story: PotStory, event: PotEvent) -> TakenBackOut | None:
    by = next((other for other in story.events if other.takes_back_id == event.pk), None)
    return by and TakenBackOut(at=by.happened_at, by=by.recorded_by.get_username(), reason=by.note)


def _run_out(run: Run) -> RunOut:
    answer = run.issued
    return RunOut(
        id=run.pk,
        next_pot=run.next_pot(),
        job_id=run.job_id,
        revision=run.revision_number,
        started_at=run.started_at,
        started_by=run.started_by.get_username(),
        room_c=answer.conditions.room_c,
        pot_count=answer.pot_count,
        plan=answer,
        stories=[_story_out(story) for story in stories_of(run)],
    )


@router.get("/shops/{uuid:shop_id}/due", response=list[DueOut])
def list_due(request: HttpRequest, shop_id: UUID):
    """Live pots, windows that close and cures that come due, soonest first."""
    shop = shop_of(request, shop_id)
    return due_in(shop, facts_for(request.user, shop))


@router.get("/runs/{uuid:run_id}/rest", response=Rest)
def read_rest(request: HttpRequest, run_id: UUID):
    """What is left of a run, planned again from now on."""
    return rest_of_run(get_object_or_404(Run.objects.of(request.user), pk=run_id), request.user)


@router.get("/jobs/{uuid:job_id}/runs", response=list[RunOut])
def list_runs(request: HttpRequest, job_id: UUID):
    runs = job_of(request, job_id).runs.with_events().order_by("-started_at")
    return [_run_out(run) for run in runs]


@router.post("/jobs/{uuid:job_id}/runs", response=RunOut)
def start_run(request: HttpRequest, job_id: UUID, sent: RunIn):
    """Take the job to the bench; the same tap sent twice begins one run."""
    return _run_out(issue_run(job_of(request, job_id, to_write=True), request.user, sent.tap_id))


@router.get("/runs/{uuid:run_id}", response=RunOut)
def read_run(request: HttpRequest, run_id: UUID):
    return _run_out(get_object_or_404(Run.objects.of(request.user).with_events(), pk=run_id))


@router.post("/runs/{uuid:run_id}/working", response=Working)
def show_run_working(request: HttpRequest, run_id: UUID, sent: AboutIn):
    """How one number of a run's plan was worked out, from what the run froze."""
    run = get_object_or_404(Run.objects.of(request.user).select_related("job"), pk=run_id)
    return PLANS.work(run.job.shop_id, settings.PLAN_BUDGET_S, working, sent.about, run.spec, run.facts, run.issued)


@router.post("/runs/{uuid:run_id}/check", response=CheckOut)
def check_ratio(request: HttpRequest, run_id: UUID, sent: CheckIn):
    """How far off a pot is as it was poured, and what to put in now; nothing is written down."""
    run = get_object_or_404(Run.objects.of(request.user), pk=run_id)
    answer = run.issued
    verdict = check_pot(
        run.spec,
        run.facts,
        answer,
        planned_pot(answer, sent.pot),
        sent.part_a_g,
        sent.part_b_g,
        second_ml=sent.part_b_ml,
        age_min=age_of(run, sent.pot),
        surface_c=sent.surface_c,
    )
    return vars(verdict)


@router.post("/runs/{uuid:run_id}/events/{int:event_id}/take-back", response=RunOut)
def take_event_back(request: HttpRequest, run_id: UUID, event_id: int, sent: TakeBackIn):
    """Take a wrong event back, with a reason; both stay readable."""
    run = get_object_or_404(Run.objects.of(request.user).select_related("job__shop"), pk=run_id)
    require_writer(request.user, run.job.shop)
    take_back(run, request.user, event_id, tap_id=sent.tap_id, reason=sent.reason)
    return read_run(request, run_id)


@router.post("/runs/{uuid:run_id}/events", response=RunOut)
def write_event(request: HttpRequest, run_id: UUID, sent: EventIn):
    run = get_object_or_404(Run.objects.of(request.user).select_related("job__shop"), pk=run_id)
    require_writer(request.user, run.job.shop)
    event = sent.model_dump(exclude={"clock"})
    if sent.clock is not None:
        event["happened_at"] = moment_of(sent.clock, run.job.shop)
    record_event(run, request.user, **event)
    return read_run(request, run_id)
