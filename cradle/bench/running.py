"""What is done at the bench: take a plan there, write down what happened, read it back as each pot's story."""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, time, timedelta
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.db import IntegrityError, transaction
from django.utils import timezone

from cradle.bench.learning import learn_filler, learn_gel
from cradle.bench.models import PotEvent, Run
from cradle.beside.crew import PLANS
from cradle.beside.heat import begin_tables
from cradle.beside.written import rest_written
from cradle.jobs.models import Job
from cradle.jobs.ready import before_pot
from cradle.jobs.saving import MOST_OVERTAKEN, Overtaken
from cradle.plans import planned
from cradle.shops.models import Gel, Shop, Stirred
from cradle.shops.preferences import facts_for
from layup.day.rest import Rest
from layup.errors import LayupError, Missing, OutOfRange
from layup.joints.filler_log import MOST_OFF
from layup.outcome import Plan
from layup.pots.outcome import PotResult
from layup.pots.pot_check import check_pot
from layup.pots.pot_log import PotHistory, pot_history

_CLOCK_SLACK = timedelta(minutes=5)


@dataclass(frozen=True)
class PotStory:
    """One pot of a run: its number, its plan and what it did. `unfit` says why it must not be used, where it must not."""

    number: int
    planned: PotResult
    events: list[PotEvent]
    history: PotHistory
    dumped: bool
    unfit: str

    @property
    def poured_at(self) -> datetime | None:
        poured = _standing(self.events).get(PotEvent.Kind.POURED)
        return poured.happened_at if poured else None

    @property
    def ended(self) -> bool:
        """Whether somebody wrote down what became of it."""
        return bool(
            _standing(self.events).keys() & {PotEvent.Kind.USED_BY, PotEvent.Kind.GELLED_AT, PotEvent.Kind.DUMPED}
        )

    @property
    def filler_error_pct(self) -> float | None:
        """How far the filler really stirred in is off what the ticket expected."""
        stirred = next(
            (event.filler_loose_ml for event in _standing(self.events).values() if event.filler_loose_ml), None
        )
        thickened = self.planned.ticket and self.planned.ticket.thickened
        if stirred is None or not thickened:
            return None
        return 100 * (stirred / sum(row.loose_ml for row in thickened.fillers) - 1)


def issue_run(job: Job, person: AbstractBaseUser, tap_id: UUID | None = None) -> Run:
    """Take the latest revision to the bench, with its words in the units this person reads; the same tap counts once.

    Raises Missing where the plan is not whole, and LayupError where a stop stands that the job does not override, or
    pieces and lines that keep the first pot shut are neither ticked nor waived.
    """
    for _ in range(MOST_OVERTAKEN):
        run = _issued(job, person, tap_id)
        if run:
            return run
    raise Overtaken("others save this job all the time: try again in a moment")


def _issued(job: Job, person: AbstractBaseUser, tap_id: UUID | None) -> Run | None:
    """The run of the latest revision; None where another was saved while it was planned."""
    revision = job.latest()
    facts = facts_for(person, job.shop)
    answer = planned(job.shop_id, revision.spec(), facts, full=True)
    if answer.problems:
        raise Missing(answer.problems[0].message, answer.problems[0].path)
    for caution in answer.cautions:
        if caution.stops:
            raise LayupError(f"stopped: {caution.message}", caution.path)
    if not answer.pots or answer.stuck:
        raise Missing("not every piece of work has a pot that fits: see Pots", "pots")
    waiting = before_pot(job, revision.spec(), answer, facts).ready().waiting
    if waiting:
        raise LayupError(f"the first pot stays shut: {waiting[0]}", "gate")
    with transaction.atomic():
        # What it names and what it freezes are one: an edit may have come meanwhile.
        if not job.latest().same_as(revision):
            return None
        known = tap_id and Run.objects.filter(tap_id=tap_id).first()
        if known:
            if known.job_id != job.pk:
                raise OutOfRange("this tap belongs to another job", "tap_id")
            return known
        revision.fix()
        return Run.objects.create(
            job=job,
            tap_id=tap_id,
            revision_number=revision.number,
            document=revision.document,
            shop_facts=facts.model_dump(mode="json"),
            plan=answer.model_dump(mode="json"),
            started_by=person,
        )


def record_event(
    run: Run,
    person: AbstractBaseUser,
    *,
    tap_id: UUID,
    pot: int,
    kind: str,
    happened_at: datetime,
    part_a_g: float | None = None,
    part_b_g: float | None = None,
    filler_loose_ml: float | None = None,
    note: str = "",
) -> PotEvent:
    """Write down one event; the same tap sent twice is kept once. Raises OutOfRange at the field that is wrong.

    All is checked inside the transaction that writes it; of two that write the same at once the table keeps one.
    """
    if kind == PotEvent.Kind.TAKEN_BACK:
        raise OutOfRange("an event is taken back by its own name, with a reason", "kind")
    try:
        with transaction.atomic():
            known = _known_tap(run, tap_id)
            if known:
                return known
            planned = planned_pot(run.issued, pot)
            of_pot = list(run.events.filter(pot=pot))
            before = _standing(of_pot)
            _check_event(run, planned, before, pot, kind, happened_at, filler_loose_ml)
            event = PotEvent.objects.create(
                run=run,
                recorded_by=person,
                tap_id=tap_id,
                pot=pot,
                kind=kind,
                happened_at=happened_at,
                part_a_g=part_a_g,
                part_b_g=part_b_g,
                filler_loose_ml=filler_loose_ml,
                note=note,
                nth=sum(event.kind == kind for event in of_pot),
            )
            if kind == PotEvent.Kind.THICKENED:
                learn_filler(run, event, planned, before[PotEvent.Kind.POURED])
            if kind == PotEvent.Kind.GELLED_AT:
                story = _story(run, pot, planned, [*of_pot, event])
                learn_gel(run, event, story.planned, story.history)
            return event
    except IntegrityError:
        # Another wrote it in the same moment: the same tap is the same event, another tap came too late.
        known = _known_tap(run, tap_id)
        if known:
            return known
        raise _already(pot, kind) from None


def _known_tap(run: Run, tap_id: UUID) -> PotEvent | None:
    known = PotEvent.objects.filter(tap_id=tap_id).first()
    if known and known.run_id != run.pk:
        raise OutOfRange("this tap belongs to another run", "tap_id")
    return known


def _already(pot: int, kind: str) -> OutOfRange:
    return OutOfRange(f"pot {pot} already has “{kind}”; take that back first, or add a note to another event", "kind")


def _standing(events: Iterable[PotEvent]) -> dict[str, PotEvent]:
    """The events of one pot by kind, without those that were taken back."""
    events = list(events)
    gone = {event.takes_back_id for event in events if event.takes_back_id}
    return {event.kind: event for event in events if event.pk not in gone and not event.takes_back_id}


_AFTER_THE_POUR = (
    PotEvent.Kind.USED_BY,
    PotEvent.Kind.GELLED_AT,
    PotEvent.Kind.DUMPED,
    PotEvent.Kind.THICKENED,
)


def _check_event(
    run: Run,
    planned: PotResult,
    before: dict[str, PotEvent],
    pot: int,
    kind: str,
    happened_at: datetime,
    filler_loose_ml: float | None,
) -> None:
    """Whether an event can have happened, after what stands of its pot."""
    if happened_at > timezone.now() + _CLOCK_SLACK:
        raise OutOfRange("that time has not come yet: check the clock", "happened_at")
    # A run that a wrong clock began in the future still takes what happens now.
    if happened_at < min(run.started_at, timezone.now()) - timedelta(days=1):
        raise OutOfRange("that is more than a day before the run was started", "happened_at")
    if kind == PotEvent.Kind.THICKENED:
        _check_filler(planned, pot, filler_loose_ml)
    if kind in _AFTER_THE_POUR:
        poured = before.get(PotEvent.Kind.POURED)
        if poured is None:
            raise Missing(f"pot {pot} has not been poured: write that down first", "kind")
        if happened_at < poured.happened_at:
            raise OutOfRange("that is before the pot was poured", "happened_at")
    if kind in before and kind != PotEvent.Kind.GOGGLES_ON:
        raise _already(pot, kind)


@transaction.atomic
def take_back(run: Run, person: AbstractBaseUser, event_id: int, *, tap_id: UUID, reason: str) -> PotEvent:
    """Take a wrong event back, with a reason; both stay readable. What was learned of it is forgotten.

    Raises OutOfRange where it stands no longer, or others of its pot rest on it.
    """
    known = _known_tap(run, tap_id)
    if known:
        return known
    if len(reason.strip()) < 3:
        raise OutOfRange("say why it is taken back", "reason")
    wrong = run.events.filter(pk=event_id).exclude(kind=PotEvent.Kind.TAKEN_BACK).first()
    if wrong is None or PotEvent.objects.filter(takes_back=wrong).exists():
        raise OutOfRange("this event stands no longer: look again", "event")
    standing = _standing(run.events.filter(pot=wrong.pot))
    resting = [kind for kind in _AFTER_THE_POUR if kind in standing]
    if wrong.kind == PotEvent.Kind.POURED and resting:
        raise OutOfRange(f"pot {wrong.pot} has “{resting[0]}” after it: take that back first", "event")
    Gel.objects.filter(tap_id=wrong.tap_id).delete()
    Stirred.objects.filter(tap_id=wrong.tap_id).delete()
    return PotEvent.objects.create(
        run=run,
        recorded_by=person,
        tap_id=tap_id,
        pot=wrong.pot,
        kind=PotEvent.Kind.TAKEN_BACK,
        happened_at=timezone.now(),
        note=reason.strip(),
        takes_back=wrong,
    )


def _check_filler(planned: PotResult, pot: int, loose_ml: float | None) -> None:
    if planned.ticket is None or planned.ticket.thickened is None:
        raise OutOfRange(f"pot {pot} takes no filler", "kind")
    if loose_ml is None:
        raise Missing("type how much filler was stirred in, loose", "filler_loose_ml")
    expected = sum(row.loose_ml for row in planned.ticket.thickened.fillers)
    if not expected / MOST_OFF <= loose_ml <= expected * MOST_OFF:
        raise OutOfRange(
            f"{loose_ml:.0f} ml, where {expected:.0f} ml was planned: type it loose, as it lay in the cup",
            "filler_loose_ml",
        )


def moment_of(clock: time, shop: Shop) -> datetime:
    """The latest moment at which the shop's clock showed a time of day.

    An hour in the night that the clock skipped or showed twice is taken as the zone's database reads it first.
    """
    now = shop.now()
    at = now.replace(hour=clock.hour, minute=clock.minute, second=0, microsecond=0)
    return at if at <= now + _CLOCK_SLACK else at - timedelta(days=1)


def stories_of(run: Run) -> list[PotStory]:
    """Each pot of a run that has events, in order, with how it kept to its plan."""
    answer = run.issued
    by_pot: dict[int, list[PotEvent]] = defaultdict(list)
    for event in run.events.all():
        by_pot[event.pot].append(event)
    return [_story(run, number, planned_pot(answer, number), by_pot[number]) for number in sorted(by_pot)]


def planned_pot(answer: Plan, number: int) -> PotResult:
    """The plan of a pot of a run by its number. Raises OutOfRange for one it has not."""
    if not 1 <= number <= answer.pot_count:
        raise OutOfRange(f"this run has pots 1 to {answer.pot_count}", "pot")
    return next(pot for pot in answer.pots if pot.first <= number < pot.first + pot.count)


def rest_of_run(run: Run, person: AbstractBaseUser) -> Rest:
    """The run planned again from now on, with what was poured and the shop's room as it is."""
    now = timezone.now()
    poured = {event.pot: event.happened_at for event in run.standing() if event.kind == PotEvent.Kind.POURED}
    # What must not be used is no more on the work than what was dumped.
    dumped = [story.number for story in stories_of(run) if story.dumped or story.unfit]
    spec, facts = run.spec, facts_for(person, run.job.shop)
    of_run = spec.model_dump_json(), facts.model_dump_json(), run.plan, poured, dumped, now
    full = not settings.HEAT_IN_BACKGROUND
    written = PLANS.work(run.job.shop_id, settings.PLAN_BUDGET_S, rest_written, *of_run, full)
    begin_tables(written.lacked)
    return Rest.model_validate_json(written.json)


def age_of(run: Run, pot: int) -> float:
    """Minutes since a pot was poured; nought before that is written down."""
    poured = _standing(run.events.filter(pot=pot)).get(PotEvent.Kind.POURED)
    return max(0.0, (timezone.now() - poured.happened_at).total_seconds() / 60) if poured else 0.0


def _story(run: Run, number: int, planned: PotResult, events: list[PotEvent]) -> PotStory:
    at = _standing(events)
    poured = at.get(PotEvent.Kind.POURED)

    def when(kind: str) -> datetime | None:
        return at[kind].happened_at if kind in at else None

    ticket = planned.ticket
    weighed = ticket is not None and all(pour.tool == "scale" for pour in ticket.pours)
    second = ticket.second_part
    wanted = second.amount / ticket.first_part.amount if weighed and second else None
    history = pot_history(
        poured.happened_at if poured else None,
        when(PotEvent.Kind.USED_BY),
        when(PotEvent.Kind.GELLED_AT),
        planned.life_min,
        poured.part_a_g if poured else None,
        poured.part_b_g if poured else None,
        wanted,
    )
    return PotStory(number, planned, events, history, PotEvent.Kind.DUMPED in at, _unfit(run, planned, poured))


def _unfit(run: Run, planned: PotResult, poured: PotEvent | None) -> str:
    """Why a pot, as it was poured, must not be used; nothing where it may, or nobody wrote down what went in."""
    if poured is None or not poured.part_a_g or poured.part_b_g is None:
        return ""
    spec, facts = run.spec, run.facts
    try:
        age_min = (timezone.now() - poured.happened_at).total_seconds() / 60
        made = poured.part_a_g, poured.part_b_g
        verdict = check_pot(spec, facts, run.issued, planned, *made, age_min=age_min)
    except LayupError:
        return ""
    return verdict.unfit(facts.scales)
