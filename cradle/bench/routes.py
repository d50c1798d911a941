"""Routes of the bench: take a job there, write down what happened, read it back."""

from datetime import datetime
from typing import Any
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import File, Form, Router
from ninja.files import UploadedFile

from cradle.bench.deleting import KEPT_FOR, bring_back, delete_job, deleted_in, drop_what_is_past
from cradle.bench.due import due_in, live_in
from cradle.bench.hearing import heard_of_pots
from cradle.bench.models import Event, Photo, Run
from cradle.bench.photos import keep_photo
from cradle.bench.running import (
    PotStory,
    age_of,
    as_it_went,
    issue_run,
    planned_pot,
    record_event,
    rest_of_run,
    state_of,
    stories_of,
    take_back,
    take_plan,
)
from cradle.bench.schemas import (
    BenchOut,
    CheckIn,
    CheckOut,
    DeletedOut,
    DueOut,
    EventIn,
    EventOut,
    LiveLayer,
    LiveOut,
    LivePot,
    PhotoIn,
    PlanIn,
    RepeatIn,
    RunIn,
    RunOut,
    StoryOut,
    TakeBackIn,
    TakenBackOut,
    ToldEvent,
    WholeRunOut,
)
from cradle.bench.stream import told
from cradle.beside.crew import PLANS
from cradle.jobs.models import Job, JobRevision
from cradle.jobs.routes import AboutIn, JobOut, job_of, job_out
from cradle.jobs.saving import start_job
from cradle.pictures import as_jpeg, require_no_larger
from cradle.shops.models import Shop
from cradle.shops.people import require_writer
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from layup.bench.heard import PotHeard
from layup.bench.issue import Rest
from layup.bench.now import BenchState
from layup.bench.repeated import Differs, repeated
from layup.bench.to_do import deviation, due, to_do
from layup.errors import Missing, OutOfRange
from layup.pots.pot_check import check_pot
from layup.workings.worked import Working, working

router = Router(tags=["bench"])


def _story_out(story: PotStory) -> StoryOut:
    return StoryOut(
        pot=story.number,
        labels=list(story.planned.labels),
        owner_name=story.planned.owner_name,
        bay=story.planned.bay,
        mass_g=story.planned.mass_g,
        predicted_life_min=story.planned.life_min,
        use_by_min=story.planned.use_by_min,
        poured_at=story.poured_at,
        stirred_ml=story.stirred_ml,
        events=[
            ToldEvent(
                id=event.pk,
                taken_back=_taken_back(story, event),
                kind=event.kind,
                happened_at=event.happened_at,
                by=event.by.get_username(),
                words=event.words,
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


def _taken_back(story: PotStory, event: Event) -> TakenBackOut | None:
    by = next((other for other in story.events if other.takes_back_id == event.pk), None)
    return by and TakenBackOut(at=by.happened_at, by=by.by.get_username(), reason=by.words)


def _run_out(run: Run) -> RunOut:
    return RunOut(**_of_run(run))


def _whole_run_out(run: Run) -> WholeRunOut:
    return WholeRunOut(**_of_run(run), plan=run.issued)


def _of_run(run: Run) -> dict[str, Any]:
    answer, went = run.issued, as_it_went(run)
    closed = [event for event in run.standing() if event.kind == "closed"]
    return {
        "id": run.pk,
        "next_pot": run.next_pot(),
        "job_id": run.job_id,
        "revision": run.revision_number,
        "started_at": run.started_at,
        "started_by": run.started_by.get_username(),
        "room_c": answer.conditions.room_c,
        "simulated": run.simulated,
        "pot_count": answer.pot_count,
        "overridden": [caution for caution in answer.cautions if caution.override],
        "goggled": [event.by.get_username() for event in run.standing() if event.kind == "goggles on"],
        "outcome": closed[-1].data["outcome"] if closed else "",
        "differs": went.differs,
        "touches": went.touches,
        "fronts": went.fronts,
        "stories": [_story_out(story) for story in stories_of(run)],
    }


def run_of(request: HttpRequest, run_id: UUID, *, to_write: bool = False) -> Run:
    """A run of a shop the signed-in person belongs to, or 404. Raises Forbidden where he may only look."""
    runs = Run.objects.of(request.user).with_events().select_related("job__shop", "started_by")
    run = get_object_or_404(runs, pk=run_id)
    if to_write:
        require_writer(request.user, run.job.shop)
    return run


@router.get("/shops/{uuid:shop_id}/due", response=list[DueOut])
def list_due(request: HttpRequest, shop_id: UUID):
    """Live pots, windows that close and cures that come due, soonest first."""
    shop = shop_of(request, shop_id)
    return due_in(shop, facts_for(request.user, shop))


@router.get("/shops/{uuid:shop_id}/live", response=list[LiveOut])
def list_live(request: HttpRequest, shop_id: UUID):
    """The runs of a shop that are open, with what ages and what waits in them."""
    return [_live_out(*live) for live in live_in(shop_of(request, shop_id))]


def _live_out(run: Run, state: BenchState, now: datetime) -> LiveOut:
    def at(minutes: float | None) -> datetime:
        return run.moment_of(minutes or 0.0)

    now_min = run.minute_of(now)
    cards, layers = {card.number: card for card in state.card.pots}, zip(state.card.layers, state.layers, strict=True)
    return LiveOut(
        run_id=run.pk,
        job_id=run.job_id,
        job_name=run.document["name"],
        people=list(state.people),
        pots=[
            LivePot(
                number=pot.number,
                where=cards[pot.number].owner_name,
                touched_at=at(pot.touched_min),
                use_by_at=at(pot.use_by_min),
                gels_at=at(pot.gels_min),
                hot=pot.hot,
                lost=pot.lost,
            )
            for pot in state.live
        ],
        layers=[
            LiveLayer(
                where=layer.lane_name,
                words=layer.words,
                state=now_.state,
                opens_at=at(now_.opens_min),
                closes_at=at(now_.closes_min),
            )
            for layer, now_ in layers
            if now_.state in ("wet", "tacky")
        ],
        to_do=to_do(state, now_min),
        due=due(state),
        deviation=deviation(state),
        issued_at=run.started_at,
        server_now=now,
    )


@router.get("/runs/{uuid:run_id}/bench", response=BenchOut)
def read_bench(request: HttpRequest, run_id: UUID):
    """All that a bench begins with, and goes on from without a network."""
    run = run_of(request, run_id)
    if run.issued_card is None:
        raise Missing("this run was begun before there was a bench: take the job to the bench anew", "run")
    cautions = {caution.id: caution for caution in run.issued.cautions}
    events = list(run.events.all())
    return BenchOut(
        run_id=run.pk,
        job_id=run.job_id,
        shop_id=run.job.shop_id,
        job_name=run.document["name"],
        revision=run.revision_number,
        issued_at=run.started_at,
        pace=run.pace,
        started_by=run.started_by.get_username(),
        server_now=timezone.now(),
        card=run.issued_card,
        events=[told(event) | {"data": event.data} for event in events],
        last_id=max((event.pk for event in events), default=0),
        runaway=cautions.get("people.runaway_pot"),
        peroxide=cautions.get("people.peroxide_and_eyes"),
    )


@router.get("/runs/{uuid:run_id}/rest", response=Rest)
def read_rest(request: HttpRequest, run_id: UUID):
    """What is left of a run, planned again from now on."""
    return rest_of_run(run_of(request, run_id), request.user)


@router.get("/runs/{uuid:run_id}/heard", response=list[PotHeard])
def read_heard(request: HttpRequest, run_id: UUID):
    """How long the pots of a run still have, by the readings of their surface."""
    run = run_of(request, run_id)
    return heard_of_pots(run, state_of(run))


@router.post("/runs/{uuid:run_id}/plan", response=EventOut)
def take_new_plan(request: HttpRequest, run_id: UUID, sent: PlanIn):
    """Take the rest as it is planned now in the place of the plan in force."""
    run = run_of(request, run_id, to_write=True)
    event = take_plan(run, request.user, tap_id=sent.tap_id, instead_of=sent.instead_of)
    return told(event) | {"data": event.data}


@router.get("/runs/{uuid:run_id}/events", response=list[EventOut])
def list_events(request: HttpRequest, run_id: UUID):
    """All that was said of a run, in the order it happened, what was taken back too."""
    return [told(event) for event in run_of(request, run_id).events.all()]


@router.get("/runs/{uuid:run_id}/events/{int:event_id}", response=EventOut)
def read_event(request: HttpRequest, run_id: UUID, event_id: int):
    """One event whole."""
    event = get_object_or_404(run_of(request, run_id).events, pk=event_id)
    return told(event) | {"data": event.data}


@router.post("/jobs/{uuid:job_id}/delete", response=list[DeletedOut])
def remove_job(request: HttpRequest, job_id: UUID):
    """Delete a job with its runs; for a month it can be brought back. Answers what is deleted in its shop."""
    job = job_of(request, job_id, to_write=True)
    drop_what_is_past(timezone.now())
    delete_job(job, request.user)
    return _deleted_in(job.shop)


@router.post("/jobs/{uuid:job_id}/bring-back", response=list[DeletedOut])
def bring_job_back(request: HttpRequest, job_id: UUID):
    """A deleted job on the floor again, with its runs."""
    job = get_object_or_404(Job.objects.deleted_of(request.user).select_related("shop"), pk=job_id)
    require_writer(request.user, job.shop)
    return _deleted_in(bring_back(job).shop)


@router.get("/shops/{uuid:shop_id}/deleted", response=list[DeletedOut])
def list_deleted(request: HttpRequest, shop_id: UUID):
    """The jobs that were deleted and can be brought back, the last first."""
    return _deleted_in(shop_of(request, shop_id))


def _deleted_in(shop: Shop) -> list[DeletedOut]:
    jobs = deleted_in(shop, timezone.now())
    revisions = JobRevision.objects.in_bulk(job.newest_pk for job in jobs)
    return [
        DeletedOut(
            id=job.pk,
            name=revisions[job.newest_pk].name(),
            deleted_at=job.deleted_at,
            deleted_by=job.deleted_by.get_username(),
            gone_at=job.deleted_at + KEPT_FOR,
        )
        for job in jobs
    ]


@router.get("/jobs/{uuid:job_id}/runs", response=list[RunOut])
def list_runs(request: HttpRequest, job_id: UUID):
    runs = job_of(request, job_id).runs.with_events().order_by("-started_at")
    return [_run_out(run) for run in runs]


@router.post("/jobs/{uuid:job_id}/runs", response=WholeRunOut)
def start_run(request: HttpRequest, job_id: UUID, sent: RunIn):
    """Take the job to the bench; the same tap sent twice begins one run."""
    return _whole_run_out(issue_run(job_of(request, job_id, to_write=True), request.user, sent.tap_id))


@router.post("/runs/{uuid:run_id}/repeat", response=JobOut)
def repeat_run(request: HttpRequest, run_id: UUID, sent: RepeatIn):
    """A new job from what a run froze: as it was planned, or as it was done."""
    run = run_of(request, run_id, to_write=True)
    otherwise = as_it_went(run).differs if sent.as_done else Differs()
    again = repeated(run.spec, run.facts, sent.name, otherwise)
    revision = start_job(run.job.shop, again, request.user)
    return job_out(request, revision.job, revision)


@router.get("/runs/{uuid:run_id}", response=WholeRunOut)
def read_run(request: HttpRequest, run_id: UUID):
    return _whole_run_out(run_of(request, run_id))


@router.post("/runs/{uuid:run_id}/working", response=Working)
def show_run_working(request: HttpRequest, run_id: UUID, sent: AboutIn):
    """How one number of a run's plan was worked out, from what the run froze."""
    run = run_of(request, run_id)
    return PLANS.work(run.job.shop_id, settings.PLAN_BUDGET_S, working, sent.about, run.spec, run.facts, run.issued)


@router.post("/runs/{uuid:run_id}/check", response=CheckOut)
def check_ratio(request: HttpRequest, run_id: UUID, sent: CheckIn):
    """How far off a pot is as it was poured, and what to put in now; nothing is written down."""
    run = run_of(request, run_id)
    verdict = check_pot(
        run.spec,
        run.facts,
        run.issued,
        planned_pot(run, sent.pot),
        sent.part_a_g,
        sent.part_b_g,
        second_ml=sent.part_b_ml,
        age_min=age_of(run, sent.pot),
        surface_c=sent.surface_c,
    )
    return vars(verdict)


@router.post("/runs/{uuid:run_id}/events/{int:event_id}/take-back", response=EventOut)
def take_event_back(request: HttpRequest, run_id: UUID, event_id: int, sent: TakeBackIn):
    """Take a wrong event back, with a reason; both stay readable."""
    run = run_of(request, run_id, to_write=True)
    return told(take_back(run, request.user, event_id, tap_id=sent.tap_id, reason=sent.reason))


@router.post("/runs/{uuid:run_id}/events", response=EventOut)
def write_event(request: HttpRequest, run_id: UUID, sent: EventIn):
    """Write down one tap; the same tap sent twice is kept once."""
    run = run_of(request, run_id, to_write=True)
    if sent.kind in ("photo", "plan taken"):
        raise OutOfRange("this is not tapped: a photo is sent as a file, a plan is taken whole", "kind")
    return told(record_event(run, request.user, **sent.model_dump()))


@router.post("/runs/{uuid:run_id}/photos", response=EventOut)
def add_photo(request: HttpRequest, run_id: UUID, sent: Form[PhotoIn], photo: UploadedFile = File(...)):  # noqa: B008
    """A photo of what is on the bench, of any size a phone takes; it is kept small and without its place."""
    run = run_of(request, run_id, to_write=True)
    require_no_larger(photo.size)
    event = keep_photo(run, request.user, photo.read(), **sent.model_dump())
    return told(event)


@router.get("/runs/{uuid:run_id}/photos/{int:event_id}", response=str)
def read_photo(request: HttpRequest, run_id: UUID, event_id: int):
    """A photo, as a JPEG."""
    photo = get_object_or_404(Photo, event__run=run_of(request, run_id), event_id=event_id)
    return as_jpeg(photo.content)
