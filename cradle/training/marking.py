"""An answer of a learner, marked by the core and kept."""

from datetime import datetime, timedelta
from typing import Annotated
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import IntegrityError, transaction
from django.utils import timezone
from ninja import Field, Schema

from cradle.shops.models import Shop
from cradle.training.models import Attempt
from layup.bench.events import Event
from layup.errors import Missing, OutOfRange
from layup.scales import Scales
from layup.training.day import DayMark, marked_day, practice_day
from layup.training.lessons import Figure, figure_of, lessons
from layup.training.pouring import POURS, Poured, PourMark, marked, pour_task
from layup.training.samples import sample
from layup.training.sums import SUMS, sum_of

_CLOCK_SLACK = timedelta(minutes=10)
Number = Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)]


class DayDone(Schema):
    """What was tapped in a day on the clock, in its own minutes, and when it ended."""

    events: Annotated[list[Event], Field(max_length=400)]
    ended_min: Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)]


class AttemptIn(Schema):
    """What was tried (`tare-17`, `weigh-3`, `sample-5`, a lesson's id), and one answer: a number, a choice, a pour, a day, or what was
    read for a lesson's figure.
    """

    tap_id: UUID
    thing: Annotated[str, Field(max_length=40)]
    number: Number | None = None
    choice: Annotated[str, Field(max_length=40)] = ""
    poured: Poured | None = None
    day: DayDone | None = None
    read: Annotated[dict[str, Number], Field(max_length=12)] = {}
    at: datetime


class Marked(Schema):
    """How it was marked: right or not, in words, a pour's amounts, a lesson's figure."""

    right: bool
    words: tuple[str, ...] = ()
    pour: PourMark | None = None
    figure: Figure | None = None
    day: DayMark | None = None


def mark(sent: AttemptIn, scales: Scales) -> Marked:
    """What an answer is worth. Raises Missing for what there is not, or was not answered."""
    kind = sent.thing.rpartition("-")[0]
    if kind in SUMS:
        if sent.number is None:
            raise Missing("type what you make it", "number")
        asked = sum_of(sent.thing, scales)
        return Marked(right=asked.is_right(sent.number))
    if kind in POURS:
        if sent.poured is None:
            raise Missing("pour both parts first", "poured")
        told = marked(pour_task(sent.thing, scales), sent.poured, scales)
        return Marked(right=told.right, words=told.words, pour=told)
    if kind == "sample":
        shown = sample(sent.thing)
        if sent.choice not in {choice.id for choice in shown.choices}:
            raise Missing("choose one of the causes", "choice")
        return Marked(right=sent.choice == shown.cause)
    if kind == "day":
        if sent.day is None:
            raise Missing("work the day first", "day")
        came = marked_day(practice_day(sent.thing, scales), sent.day.events, sent.day.ended_min, scales)
        return Marked(right=came.right, words=came.words, day=came)
    if sent.thing in {lesson.id for lesson in lessons()}:
        figure = figure_of(sent.thing, sent.read, scales)
        return Marked(right=True, words=(figure.words,), figure=figure)
    raise Missing("there is nothing of this name to practise", "thing")


def keep(shop: Shop, person: AbstractBaseUser, sent: AttemptIn, scales: Scales) -> Marked:
    """Mark an answer and write it down, once, with the moment it was given. A thing is judged by its first answer: one who has
    seen what was right may try it again, and it no longer counts.
    """
    if sent.at > timezone.now() + _CLOCK_SLACK:
        raise OutOfRange("that time has not come yet: check the clock", "at")
    told = mark(sent, scales)
    once = sent.thing.rpartition("-")[0] in SUMS or sent.thing.startswith("sample-")
    mine = Attempt.objects.filter(shop=shop, person=person)
    try:
        # Of two that come in one moment, the second sees the first.
        with transaction.atomic():
            if mine.filter(tap_id=sent.tap_id).exists() or (once and mine.filter(thing=sent.thing).exists()):
                return told
            Attempt.objects.create(
                shop=shop,
                person=person,
                tap_id=sent.tap_id,
                thing=sent.thing,
                right=told.right,
                answer=sent.model_dump(mode="json", exclude={"tap_id", "thing", "at"}, exclude_defaults=True)
                | ({"words": told.words, "result": told.figure.working.result} if told.figure else {}),
                at=sent.at,
            )
    except IntegrityError:
        raise OutOfRange("this answer belongs to somebody else", "tap_id") from None
    return told
