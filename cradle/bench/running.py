"""What is done at the bench: take a plan there, write down what happened, read it back as each pot's story."""

import json
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.utils import timezone

from cradle.bench.hearing import heard_of_pots
from cradle.bench.learning import learn_filler, learn_gel, learn_heard, learn_shot
from cradle.bench.models import Event, Run
from cradle.bench.stream import tell
from cradle.beside.crew import PLANS
from cradle.beside.heat import begin_tables
from cradle.beside.written import card_written, rest_written
from cradle.jobs.models import Job
from cradle.jobs.ready import before_pot
from cradle.jobs.saving import MOST_OVERTAKEN, Overtaken
from cradle.plans import planned
from cradle.shops.models import Gel, Stirred
from cradle.shops.preferences import facts_for
from cradle.stock.drawing import Into, chosen_tins, settle
from layup.bench.card import BenchCard
from layup.bench.events import KINDS, About, EventKind, FrontThere, StripLaid, TinTaken, data_of
from layup.bench.fronts import FrontSeen, fronts
from layup.bench.issue import Rest, as_gauged, as_heard
from layup.bench.now import BenchState
from layup.bench.repeated import Differs, differs
from layup.bench.state import fold
from layup.bench.touches import TouchSeen, touches
from layup.errors import LayupError, Missing, OutOfRange
from layup.job import JobSpec
from layup.joints.filler_log import MOST_OFF
from layup.outcome import Plan
from layup.pots.outcome import PotResult, PourResult
from layup.pots.pot_check import check_pot
from layup.pots.pot_log import PotHistory, pot_history
from layup.shop_facts import ShopFacts
from layup.stock.needs import Taken, taken_by_pot
from layup.words import counted

_CLOCK_SLACK = timedelta(minutes=5)


@dataclass(frozen=True)
class Poured:
    """When the parts of a pot touched, and what went in, g, where that was weighed."""

    at: datetime
    a_g: float | None
    b_g: float | None


@dataclass(frozen=True)
class PotStory:
    """One pot of a run: its number, its plan and what it did. `unfit` says why it must not be used, where it must not."""

    number: int
    planned: PotResult
    events: list[Event]
    history: PotHistory
    poured: Poured | None
    dumped: bool
    unfit: str

    @property
    def poured_at(self) -> datetime | None:
        return self.poured.at if self.poured else None

    @property
    def ended(self) -> bool:
        """Whether somebody wrote down what became of it."""
        return bool(_standing(self.events).keys() & {"used up", "gelled", "dumped"})

    @property
    def stirred_ml(self) -> float | None:
        """The filler really stirred in, loose."""
        stirred = _standing(self.events).get("filler in")
        return stirred.data["loose_ml"] if stirred else None

    @property
    def filler_error_pct(self) -> float | None:
        """How far the filler really stirred in is off what the ticket expected."""
        thickened = self.planned.ticket and self.planned.ticket.thickened
        if self.stirred_ml is None or not thickened:
            return None
        return 100 * (self.stirred_ml / sum(row.loose_ml for row in thickened.fillers) - 1)


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
    card = _card(job.shop_id, revision.spec(), facts, answer)
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
            card=card,
            started_by=person,
        )


def _card(shop_id: UUID, spec: JobSpec, facts: ShopFacts, answer: Plan) -> dict:
    """What a tablet goes by, of a plan that is issued."""
    plan_json = answer.model_dump_json()
    of_plan = spec.model_dump_json(), facts.model_dump_json(), plan_json
    written = PLANS.work(shop_id, settings.PLAN_BUDGET_S, card_written, *of_plan, True)
    return json.loads(written.json)


def record_event(
    run: Run,
    person: AbstractBaseUser,
    *,
    tap_id: UUID,
    about: About = "run",
    subject: str = "",
    kind: EventKind,
    happened_at: datetime,
    data: dict[str, Any] | None = None,
    device: str = "",
) -> Event:
    """Write down one event; the same tap sent twice is kept once. Raises OutOfRange at the field that is wrong.

    All is checked inside the transaction that writes it; of two that write the same at once the table keeps one.
    """
    if kind == "taken back":
        raise OutOfRange("an event is taken back by its own name, with a reason", "kind")
    said = data_of(kind, about, data or {})
    try:
        with transaction.atomic():
            known = _known_tap(run, tap_id)
            if known:
                return known
            of_subject = list(run.events.filter(about=about, subject=subject))
            before = _standing(of_subject)
            _check_event(run, before, about, subject, kind, happened_at)
            if kind == "filler in":
                _check_filler(planned_pot(run, subject), subject, said.loose_ml)
            if isinstance(said, StripLaid):
                _check_strip(run, subject, said.number, of_subject)
            if isinstance(said, TinTaken):
                _check_tin(run, said.lot)
            if isinstance(said, FrontThere):
                _check_mark(run, subject, said.mark, of_subject)
            event = Event.objects.create(
                run=run,
                by=person,
                tap_id=tap_id,
                about=about,
                subject=subject,
                kind=kind,
                data=said.model_dump(exclude_defaults=True),
                happened_at=happened_at,
                device=device,
                nth=sum(event.kind == kind for event in of_subject) if KINDS[kind].once else 0,
            )
            _learn(run, event, [*of_subject, event])
            _draw(run, person, event, [*of_subject, event])
            tell(event)
            return event
    except IntegrityError:
        # Another wrote it in the same moment: the same tap is the same event, another tap came too late.
        known = _known_tap(run, tap_id)
        if known:
            return known
        raise _already(run, about, subject, kind) from None


def _learn(run: Run, event: Event, of_subject: list[Event]) -> None:
    """What the shop learns of an event: a gel, what a filler took, how open a bed was."""
    if run.simulated:
        return
    if event.about == "flow" and run.issued_card:
        learn_shot(run, event.subject, _with_events(run)[1])
    if event.kind not in ("filler in", "gelled", "dumped"):
        return
    story = _story(run, int(event.subject), of_subject)
    if event.kind == "filler in" and story.poured:
        learn_filler(run, event, story.planned, story.poured.a_g)
    if event.kind == "gelled":
        learn_gel(run, event, story.planned, story.history)
    if event.kind == "dumped" and story.poured and run.issued_card:
        run, state = _with_events(run)
        for heard in heard_of_pots(run, state, [state.pot(int(event.subject))]):
            learn_heard(run, event, story.planned, story.history, heard)


_POURS = {"A in", "B in", "touched", "filler in"}


def _draw(run: Run, person: AbstractBaseUser, event: Event, of_subject: list[Event]) -> None:
    """Draw what a pot takes out of the shop's lots, or put it back where that was taken back."""
    kind = event.takes_back.kind if event.takes_back else event.kind
    if run.simulated or event.about != "pot" or kind not in _POURS or not run.job.shop.lots.exists():
        return
    story = _story(run, int(event.subject), of_subject)
    taken = taken_of(run, story, card_of(run) if run.issued_card else None)
    into = Into(run.job, f"pot {story.number}, {story.planned.where}", run=run, pot=story.number, at=event.happened_at)
    settle(into, person, taken, run.spec, chosen_tins(run))


def taken_of(run: Run, story: PotStory, card: BenchCard | None) -> tuple[Taken, ...]:
    """What a pot took of each article, by its weights where those were written down."""
    if not story.poured:
        return ()
    pot = card.pot(story.number) if card else None
    return taken_by_pot(
        run.spec,
        run.issued,
        story.planned,
        hardener_id=pot.hardener_id if pot else "",
        a_g=story.poured.a_g,
        b_g=story.poured.b_g,
        stirred_ml=story.stirred_ml,
    )


def _with_events(run: Run) -> tuple[Run, BenchState]:
    """A run as it stands with the event that was just written."""
    anew = Run.objects.with_events().select_related("job__shop").get(pk=run.pk)
    return anew, state_of(anew)


def _known_tap(run: Run, tap_id: UUID) -> Event | None:
    known = Event.objects.filter(tap_id=tap_id).first()
    if known and known.run_id != run.pk:
        raise OutOfRange("this tap belongs to another run", "tap_id")
    return known


def _already(run: Run, about: str, subject: str, kind: str) -> OutOfRange:
    """Of two who say the same, the second is told who was first."""
    stands = _standing(run.events.filter(about=about, subject=subject).select_related("by")).get(kind)
    name = {"pot": f"pot {subject}", "run": "this run"}.get(about, f"this {about}")
    who = f", by {stands.by.get_username()}" if stands else ""
    return OutOfRange(f"{name} already has “{kind}”{who}; take that back first, or add a note", "kind")


def _standing(events: Iterable[Event]) -> dict[str, Event]:
    """The events of one thing by kind, the last of each, without those that were taken back."""
    events = list(events)
    gone = {event.takes_back_id for event in events if event.takes_back_id}
    stands = (event for event in events if event.pk not in gone and not event.takes_back_id)
    return {event.kind: event for event in sorted(stands, key=lambda event: (event.happened_at, event.pk))}


def _check_event(
    run: Run, before: dict[str, Event], about: About, subject: str, kind: EventKind, happened_at: datetime
) -> None:
    """Whether an event can have happened, after what stands of its thing."""
    if happened_at > timezone.now() + _CLOCK_SLACK:
        raise OutOfRange("that time has not come yet: check the clock", "happened_at")
    # A run that a wrong clock began in the future still takes what happens now.
    if happened_at < min(run.started_at, timezone.now()) - timedelta(days=1):
        raise OutOfRange("that is more than a day before the run was started", "happened_at")
    if about == "run" and subject:
        raise OutOfRange("a run has no part of its own to name", "subject")
    if about == "pot":
        planned_pot(run, subject)
    if about in ("layer", "face", "fixing", "flow"):
        _require_on_card(run, about, subject)
    if KINDS[kind].touched:
        poured = _poured(run, subject, before)
        if poured is None:
            raise Missing(f"pot {subject} has not been poured: write that down first", "kind")
        if happened_at < poured.at:
            raise OutOfRange("that is before the pot was poured", "happened_at")
    if kind == "started over" and _poured(run, subject, before):
        raise OutOfRange("its parts have touched: it ages. Use it, or write down that it is dumped", "kind")
    if kind in before and KINDS[kind].once:
        raise _already(run, about, subject, kind)


def _require_on_card(run: Run, about: About, subject: str) -> None:
    card = card_of(run)
    things = {"layer": card.layers, "face": card.faces, "fixing": card.fixings, "flow": card.flows}[about]
    if all(thing.id != subject for thing in things):
        raise OutOfRange(f"this run has no such {about}", "subject")


def _check_strip(run: Run, layer_id: str, number: int, before: list[Event]) -> None:
    """Whether a layer has such a strip, and it is not laid yet."""
    strips = next(layer.strips for layer in card_of(run).layers if layer.id == layer_id)
    if number > strips:
        raise OutOfRange(f"this layer is laid in {counted(strips, 'piece')}", "data.number")
    gone = {event.takes_back_id for event in before}
    for event in before:
        if event.kind == "strip laid" and event.pk not in gone and event.data["number"] == number:
            raise OutOfRange(f"piece {number} is laid, by {event.by.get_username()}", "data.number")


def _check_tin(run: Run, lot_id: str) -> None:
    """Whether the shop has such a tin, and it may be used."""
    try:
        lot = run.job.shop.lots.filter(pk=lot_id).first()
    except ValidationError:
        lot = None
    if lot is None:
        raise OutOfRange("this shop has no such tin: look again under Stock", "data.lot")
    if lot.bad:
        raise OutOfRange(f"{lot} must not be used: {lot.bad}", "data.lot")
    if lot.left <= 0:
        raise OutOfRange(f"{lot} is empty by the stock: count it there first", "data.lot")


def _check_mark(run: Run, flow_id: str, mark: int, before: list[Event]) -> None:
    """Whether an infusion has such a mark, its valve was opened, and its front was not seen there yet."""
    flow = next(flow for flow in card_of(run).flows if flow.id == flow_id)
    if all(each.number != mark for each in flow.marks):
        raise OutOfRange(f"this part has {counted(len(flow.marks), 'mark')}", "data.mark")
    gone = {event.takes_back_id for event in before}
    stands = [event for event in before if event.pk not in gone]
    if all(event.kind not in ("valve opened", "valve throttled") for event in stands):
        raise Missing("its valve was not opened yet: write that down first", "kind")
    for event in stands:
        if event.kind == "front there" and event.data["mark"] == mark:
            raise OutOfRange(f"the front was seen at mark {mark}, by {event.by.get_username()}", "data.mark")


@transaction.atomic
def take_back(run: Run, person: AbstractBaseUser, event_id: int, *, tap_id: UUID, reason: str) -> Event:
    """Take a wrong event back, with a reason; both stay readable. What was learned of it is forgotten.

    Raises OutOfRange where it stands no longer, or others of its pot rest on it.
    """
    known = _known_tap(run, tap_id)
    if known:
        return known
    if len(reason.strip()) < 3:
        raise OutOfRange("say why it is taken back", "reason")
    wrong = run.events.filter(pk=event_id).exclude(kind="taken back").first()
    if wrong is None or Event.objects.filter(takes_back=wrong).exists():
        raise OutOfRange("this event stands no longer: look again", "event")
    standing = _standing(run.events.filter(about=wrong.about, subject=wrong.subject))
    resting = [kind for kind in standing if KINDS[kind].touched and kind != wrong.kind]
    left = {kind: event for kind, event in standing.items() if event.pk != wrong.pk}
    if resting and not _poured(run, wrong.subject, left):
        raise OutOfRange(f"pot {wrong.subject} has “{resting[0]}” after it: take that back first", "event")
    Gel.objects.filter(tap_id=wrong.tap_id).delete()
    Stirred.objects.filter(tap_id=wrong.tap_id).delete()
    back = Event.objects.create(
        run=run,
        by=person,
        tap_id=tap_id,
        about=wrong.about,
        subject=wrong.subject,
        kind="taken back",
        happened_at=timezone.now(),
        data={"words": reason.strip()},
        takes_back=wrong,
    )
    _draw(run, person, back, [*run.events.filter(about=wrong.about, subject=wrong.subject)])
    if wrong.about == "flow" and run.issued_card and not run.simulated:
        learn_shot(run, wrong.subject, _with_events(run)[1])
    tell(back)
    return back


def _check_filler(planned: PotResult, pot: str, loose_ml: float) -> None:
    if planned.ticket is None or planned.ticket.thickened is None:
        raise OutOfRange(f"pot {pot} takes no filler", "kind")
    expected = sum(row.loose_ml for row in planned.ticket.thickened.fillers)
    if not expected / MOST_OFF <= loose_ml <= expected * MOST_OFF:
        raise OutOfRange(
            f"{loose_ml:.0f} ml, where {expected:.0f} ml was planned: type it loose, as it lay in the cup",
            "data.loose_ml",
        )


def stories_of(run: Run) -> list[PotStory]:
    """Each pot of a run that has events, in order, with how it kept to its plan."""
    by_pot: dict[int, list[Event]] = defaultdict(list)
    for event in run.events.all():
        if event.about == "pot":
            by_pot[int(event.subject)].append(event)
    return [_story(run, number, by_pot[number]) for number in sorted(by_pot)]


def planned_pot(run: Run, number: int | str) -> PotResult:
    """The plan of a pot of a run by its number. Raises OutOfRange for one it has not."""
    if not str(number).isdecimal():
        raise OutOfRange("a pot is named by its number", "subject")
    pots = [*pots_taken(run), *run.issued.pots]
    found = next((pot for pot in pots if pot.first <= int(number) < pot.first + pot.count), None)
    if found is None:
        raise OutOfRange(f"this run has pots 1 to {run.issued.pot_count}", "subject")
    return found


def pots_taken(run: Run) -> list[PotResult]:
    """The pots of plans that were taken anew, those of the last first."""
    taken = [event for event in run.standing() if event.kind == "plan taken"]
    return [PotResult.model_validate(pot) for event in reversed(taken) for pot in event.data["pots"]]


def card_of(run: Run) -> BenchCard:
    """The card in force. Raises Missing for a run from before there was a bench."""
    if run.issued_card is None:
        raise Missing("this run was begun before there was a bench: take the job to the bench anew", "run")
    return state_of(run).card


def state_of(run: Run) -> BenchState:
    """A run as it stands now."""
    if run.issued_card is None:
        raise Missing("this run was begun before there was a bench: take the job to the bench anew", "run")
    events = [event.fact() for event in run.events.all()]
    return fold(run.issued_card, events, run.minute_of(timezone.now()))


@dataclass(frozen=True)
class AsItWent:
    """In what a run is being done otherwise than planned, what the touch of its layers showed, and the fronts of its
    infusions."""

    differs: Differs
    touches: tuple[TouchSeen, ...] = ()
    fronts: tuple[FrontSeen, ...] = ()


def as_it_went(run: Run) -> AsItWent:
    """What a run says of the plan it was begun with."""
    if run.issued_card is None:
        return AsItWent(Differs())
    events, state = [event.fact() for event in run.standing()], state_of(run)
    otherwise = differs(run.spec, run.issued.conditions.room_c, state, events)
    return AsItWent(otherwise, touches(state, events), tuple(fronts(state)))


def rest_of_run(run: Run, person: AbstractBaseUser) -> Rest:
    """The run planned again from now on, with what was poured and the shop's room as it is."""
    now = run.own_time(timezone.now())
    stories = stories_of(run)
    poured = {story.number: run.own_time(story.poured_at) for story in stories if story.poured_at}
    # What must not be used is no more on the work than what was dumped.
    dumped = [story.number for story in stories if story.dumped or story.unfit]
    spec, facts, card = run.spec, facts_for(person, run.job.shop), None
    laid: dict[str, datetime] = {}
    if run.card:
        state = state_of(run)
        in_force = state.card
        spec = as_gauged(spec, in_force, [event.fact() for event in run.standing()])
        # A gel that was written down has taught the shop already.
        begun = [pot for pot in state.pots if pot.touched_min is not None and pot.state != "gelled"]
        begun.sort(key=lambda pot: pot.touched_min or 0.0)
        spec = as_heard(spec, in_force, heard_of_pots(run, state, begun))
        card = in_force.model_dump(mode="json")
        began = run.started_at
        laid = {each.id: began + timedelta(minutes=each.laid_min) for each in state.layers if each.laid_min is not None}
    of_run = spec.model_dump_json(), facts.model_dump_json(), run.plan, poured, dumped, laid, now, card
    full = not settings.HEAT_IN_BACKGROUND
    written = PLANS.work(run.job.shop_id, settings.PLAN_BUDGET_S, rest_written, *of_run, full)
    begin_tables(written.lacked)
    return Rest.model_validate_json(written.json)


def take_plan(run: Run, person: AbstractBaseUser, *, tap_id: UUID, instead_of: UUID | None) -> Event:
    """Take the rest of a run as it is planned now in the place of the plan in force, which was taken by `instead_of`.

    Raises OutOfRange where another took one meanwhile, and Missing where nothing is left to lay.
    """
    known = _known_tap(run, tap_id)
    if known:
        return known
    rest = rest_of_run(run, person)
    if rest.card is None:
        raise Missing("all is laid: there is nothing to plan anew", "run")
    data = {"card": rest.card.model_dump(mode="json"), "pots": [pot.model_dump(mode="json") for pot in rest.pots]}
    with transaction.atomic():
        taken = _standing(run.events.filter(about="run").select_related("by")).get("plan taken")
        if taken and taken.tap_id != instead_of:
            raise OutOfRange(f"{taken.by.get_username()} took a new plan just before: look at that one first", "tap_id")
        return record_event(run, person, tap_id=tap_id, kind="plan taken", happened_at=timezone.now(), data=data)


def age_of(run: Run, pot: int) -> float:
    """Minutes since the parts of a pot touched; nought before that is written down."""
    poured = _poured(run, str(pot), _standing(run.events.filter(about="pot", subject=str(pot))))
    return max(0.0, run.pace * (timezone.now() - poured.at).total_seconds() / 60) if poured else 0.0


def _story(run: Run, number: int, events: list[Event]) -> PotStory:
    at, told = _standing(events), planned_pot(run, number)
    poured = _poured(run, str(number), at)

    def when(kind: str) -> datetime | None:
        return at[kind].happened_at if kind in at else None

    ticket = told.ticket
    weighed = ticket is not None and all(pour.tool == "scale" for pour in ticket.pours)
    second = ticket.second_part
    wanted = second.amount / ticket.first_part.amount if weighed and second else None
    history = pot_history(
        run.own_time(poured.at if poured else None),
        run.own_time(when("used up")),
        run.own_time(when("gelled")),
        told.life_min,
        poured.a_g if poured else None,
        poured.b_g if poured else None,
        wanted,
    )
    return PotStory(number, told, events, history, poured, "dumped" in at, _unfit(run, told, poured))


def _poured(run: Run, number: str, at: dict[str, Event]) -> Poured | None:
    """What went into a pot and when: written down at once, or read part by part."""
    ticket = planned_pot(run, number).ticket
    if "touched" in at:
        touched = at["touched"]
        if touched.data.get("a_g") is not None or "A in" not in at:
            return Poured(touched.happened_at, touched.data.get("a_g"), touched.data.get("b_g"))
    parts = ("A in", "B in") if ticket is None or ticket.second_part else ("A in",)
    if not all(part in at for part in parts):
        # The second is still going in: it ages since they touched.
        return Poured(at["touched"].happened_at, None, None) if "touched" in at else None
    moment = at["touched"].happened_at if "touched" in at else max(at[part].happened_at for part in parts)
    second = ticket.second_part if ticket else None
    a_g = _grams(ticket.first_part if ticket else None, at["A in"])
    return Poured(moment, a_g, _grams(second, at["B in"]) if second else None)


def _grams(pour: PourResult | None, read: Event) -> float | None:
    """What a part weighed that was read off a scale."""
    return read.data["amount"] * pour.unit_is if pour and pour.tool == "scale" else None


def _unfit(run: Run, planned: PotResult, poured: Poured | None) -> str:
    """Why a pot, as it was poured, must not be used; nothing where it may, or nobody wrote down what went in."""
    if poured is None or not poured.a_g or poured.b_g is None:
        return ""
    spec, facts = run.spec, run.facts
    try:
        age_min = run.pace * (timezone.now() - poured.at).total_seconds() / 60
        verdict = check_pot(spec, facts, run.issued, planned, poured.a_g, poured.b_g, age_min=age_min)
    except LayupError:
        return ""
    return verdict.unfit(facts.scales)
