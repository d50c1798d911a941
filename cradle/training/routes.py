"""Routes of practice: what there is to try, how it was marked, who signed for whom."""

from datetime import datetime
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema

from cradle.shops.models import Membership, Role, Shop
from cradle.shops.people import Forbidden, require_owner, require_writer
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from cradle.training.marking import AttemptIn, Marked, keep
from cradle.training.models import Attempt, SignOff
from cradle.training.standing import learning, standing_of
from layup.day.why import STEP_KINDS, StepKind, Why, why_of
from layup.errors import Missing, OutOfRange
from layup.materials import ResinFamily
from layup.pots.crew import learners_largest_g
from layup.training.day import PracticeDay, practice_day
from layup.training.glossary import Word, glossary
from layup.training.lessons import FIGURES, Asked, Lesson, lessons
from layup.training.numbered import after
from layup.training.pouring import POURS, PourTask, pour_task
from layup.training.record import TASKS, Standing
from layup.training.samples import Sample, sample
from layup.training.sums import Sum, sums_after

router = Router(tags=["practice"])
# So many of each are at hand at a time: enough to go on with where there is no network.
_SUMS_OF_EACH, _POURS_OF_EACH, _SAMPLES, _DAYS = 3, 3, 12, 2
_FAMILIES: tuple[ResinFamily, ...] = ("epoxy", "polyester")


class GlossaryOut(Schema):
    words: tuple[Word, ...]
    run_sheet: dict[StepKind, Why]


class LessonOut(Schema):
    """A lesson, what its figure asks for, and the figure as it was written down last."""

    lesson: Lesson
    asks: tuple[Asked, ...]
    written: str
    written_at: datetime | None


class PotsOut(Schema):
    """The largest pot of a family: a beginner's, one's own, the shop's, g."""

    family: ResinFamily
    beginner_g: float
    own_g: float
    shop_g: float


class TrainingOut(Schema):
    """What a person has before him: lessons, sums, pours, samples, and how he stands."""

    learns: bool
    standing: Standing
    pots: list[PotsOut]
    lessons: list[LessonOut]
    sums: tuple[Sum, ...]
    pours: list[PourTask]
    samples: list[Sample]
    days: list[PracticeDay]


class MarkedOut(Schema):
    marked: Marked
    standing: Standing


class LearnerOut(Schema):
    """A learner as those see him who sign for him; `may_sign` says whether who asks does."""

    person: str
    standing: Standing
    may_sign: bool


class LearnsIn(Schema):
    learns: bool


class SignedIn(Schema):
    """A task signed, or the sign-off taken back."""

    task: str
    signed: bool


@router.get("/glossary", response=GlossaryOut)
def read_glossary(request: HttpRequest):
    """The words of the trade, as this program uses them, and why each step of a run sheet stands there."""
    return GlossaryOut(words=glossary().words, run_sheet={kind: why_of(kind) for kind in STEP_KINDS})


@router.get("/shops/{uuid:shop_id}/training", response=TrainingOut)
def read_training(request: HttpRequest, shop_id: UUID):
    """What there is to practise for who asks. It goes on from what he has tried."""
    shop = shop_of(request, shop_id)
    facts = facts_for(request.user, shop)
    scales, stands = facts.scales, standing_of(shop, request.user)
    figures: dict[str, Attempt] = {}
    last: dict[str, int] = {}
    for attempt in Attempt.objects.filter(shop=shop, person=request.user).order_by("at", "id"):
        kind, _, number = attempt.thing.rpartition("-")
        if number.isdigit():
            last[kind] = max(last.get(kind, 0), int(number))
        else:
            figures[attempt.thing] = attempt
    return TrainingOut(
        learns=shop.memberships.get(person=request.user).learns,
        standing=stands,
        pots=[
            PotsOut(
                family=family,
                beginner_g=learners_largest_g(facts, family, 1),
                own_g=learners_largest_g(facts, family, stands.times),
                shop_g=facts.largest_pot_g[family],
            )
            for family in _FAMILIES
        ],
        lessons=[_lesson_out(lesson, figures.get(lesson.id)) for lesson in lessons()],
        sums=sums_after(last, _SUMS_OF_EACH, scales),
        pours=[
            pour_task(after(kind, last.get(kind, 0), place), scales)
            for kind in POURS
            for place in range(_POURS_OF_EACH)
        ],
        samples=[sample(after("sample", last.get("sample", 0), place)) for place in range(_SAMPLES)],
        days=[practice_day(after("day", last.get("day", 0), place), scales) for place in range(_DAYS)],
    )


def _lesson_out(lesson: Lesson, written: Attempt | None) -> LessonOut:
    return LessonOut(
        lesson=lesson,
        asks=FIGURES[lesson.figure].asked,
        written=written.answer["words"][0] if written else "",
        written_at=written.at if written else None,
    )


@router.post("/shops/{uuid:shop_id}/training", response=MarkedOut)
def write_attempt(request: HttpRequest, shop_id: UUID, sent: AttemptIn):
    """Mark an answer, and write it down."""
    shop = shop_of(request, shop_id)
    told = keep(shop, request.user, sent, facts_for(request.user, shop).scales)
    return MarkedOut(marked=told, standing=standing_of(shop, request.user))


@router.get("/shops/{uuid:shop_id}/learners", response=list[LearnerOut])
def list_learners(request: HttpRequest, shop_id: UUID):
    """Those who learn here, and how they stand."""
    return _learners(request, shop_of(request, shop_id))


def _learners(request: HttpRequest, shop: Shop) -> list[LearnerOut]:
    mine = shop.memberships.get(person=request.user)
    return [
        LearnerOut(
            person=member.person.get_username(),
            standing=standing_of(shop, member.person),
            may_sign=_may_sign(mine, member),
        )
        for member in learning(shop)
    ]


def _may_sign(who: Membership, learner: Membership) -> bool:
    """Whoever works here and does not learn himself signs for others."""
    return who.role != Role.VIEWER and not who.learns and who.person_id != learner.person_id


@router.put("/shops/{uuid:shop_id}/learners/{person}", response=list[LearnerOut])
def set_learns(request: HttpRequest, shop_id: UUID, person: str, sent: LearnsIn):
    """Say that somebody learns here, which anyone may of himself; only an owner ends it."""
    shop = shop_of(request, shop_id, to_write=True)
    himself = person == request.user.get_username()
    if not (himself and sent.learns):
        require_owner(request.user, shop, "says who learns and who has learned")
    member = _member(shop, person)
    member.learns = sent.learns
    member.save(update_fields=["learns"])
    return _learners(request, shop)


@router.put("/shops/{uuid:shop_id}/learners/{person}/signed", response=list[LearnerOut])
def sign_task(request: HttpRequest, shop_id: UUID, person: str, sent: SignedIn):
    """Sign a task that a learner has passed, or take the sign-off back."""
    shop = shop_of(request, shop_id)
    require_writer(request.user, shop)
    learner, mine = _member(shop, person), shop.memberships.get(person=request.user)
    if not learner.learns or not _may_sign(mine, learner):
        raise Forbidden("somebody who has learned signs for somebody who learns, and nobody for himself")
    if sent.task not in TASKS:
        raise Missing("there is no such task", "task")
    if not sent.signed:
        SignOff.objects.filter(shop=shop, person=learner.person, task=sent.task).delete()
        return _learners(request, shop)
    task = next(each for each in standing_of(shop, learner.person).tasks if each.id == sent.task)
    if not task.passed:
        raise OutOfRange(f"{person} has not passed this yet: {task.in_a_row} of {task.of} right in a row", "task")
    SignOff.objects.get_or_create(shop=shop, person=learner.person, task=sent.task, defaults={"by": request.user})
    return _learners(request, shop)


def _member(shop: Shop, person: str) -> Membership:
    return get_object_or_404(shop.memberships.select_related("person"), person__username=person)
