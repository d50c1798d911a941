"""What the routes of the bench take and give."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from ninja import Field, Schema
from pydantic import AwareDatetime

from layup.bench.card import BenchCard
from layup.bench.events import About, EventKind
from layup.bench.fronts import FrontSeen
from layup.bench.now import LayerState
from layup.bench.repeated import Differs
from layup.bench.to_do import Deviation, Due, ToDo
from layup.bench.touches import TouchSeen
from layup.chemistry.off_ratio import Grade
from layup.day.due import DueKind
from layup.outcome import CautionRecord, Plan

Grams = Annotated[float, Field(ge=0.1, le=100_000, allow_inf_nan=False)]
Note = Annotated[str, Field(max_length=300)]


class RunIn(Schema):
    """`tap_id` is made where it was tapped."""

    tap_id: UUID


class DeletedOut(Schema):
    """A deleted job, and when it goes for good."""

    id: UUID
    name: str
    deleted_at: datetime
    deleted_by: str
    gone_at: datetime


class EventIn(Schema):
    """What a tap says, and when it happened.

    `about` and `subject` name the thing: a pot by its number, a layer, a face or a fixing by its id on the card, a
    run by nothing.
    """

    tap_id: UUID
    about: About
    subject: Annotated[str, Field(max_length=200)] = ""
    kind: EventKind
    happened_at: AwareDatetime
    data: dict[str, Any] = {}
    device: Annotated[str, Field(max_length=40)] = ""


class EventOut(Schema):
    """One event, as it stands in the record. One that takes another back names its tap."""

    id: int
    run_id: UUID
    tap_id: UUID
    about: About
    subject: str
    kind: EventKind
    happened_at: datetime
    came_at: datetime
    by: str
    device: str
    data: dict[str, Any]
    takes_back: str


class BenchOut(Schema):
    """A run as its bench begins with: its card, all that happened, and the server's time. `runaway` is what to do with a
    pot that gets hot, `peroxide` what is read before the bottle is opened, where there is one."""

    run_id: UUID
    job_id: UUID
    shop_id: UUID
    job_name: str
    revision: int
    issued_at: datetime
    pace: int
    started_by: str
    server_now: datetime
    card: BenchCard
    events: list[EventOut]
    last_id: int
    runaway: CautionRecord | None
    peroxide: CautionRecord | None


class PhotoIn(Schema):
    """What is said of a photo beside its file."""

    tap_id: UUID
    about: About = "run"
    subject: Annotated[str, Field(max_length=200)] = ""
    happened_at: AwareDatetime


class PlanIn(Schema):
    """`instead_of` is the tap that took the plan in force, where one was taken."""

    tap_id: UUID
    instead_of: UUID | None = None


class LivePot(Schema):
    """A pot that ages somewhere in the shop."""

    number: int
    where: str
    touched_at: datetime
    use_by_at: datetime
    gels_at: datetime
    hot: bool
    lost: bool


class LiveLayer(Schema):
    """A layer that waits for the next."""

    where: str
    words: str
    state: LayerState
    opens_at: datetime
    closes_at: datetime


class LiveOut(Schema):
    """A run that is open: who is at it, what ages, what waits, what is to do and what comes due there, and how far it has
    left its plan. Their minutes count from `issued_at`."""

    run_id: UUID
    job_id: UUID
    job_name: str
    people: list[str]
    pots: list[LivePot]
    layers: list[LiveLayer]
    to_do: list[ToDo]
    due: list[Due]
    deviation: Deviation
    issued_at: datetime
    server_now: datetime


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


class ToldEvent(Schema):
    """An event of a pot's story, with what became of it."""

    id: int
    taken_back: TakenBackOut | None
    kind: str
    happened_at: datetime
    by: str
    words: str


class StoryOut(Schema):
    """One pot of the log. Minutes count from the pour. `unfit` says why it must not be used, where it must not."""

    pot: int
    labels: list[str]
    owner_name: str
    bay: str = ""
    mass_g: float
    predicted_life_min: float
    use_by_min: float
    poured_at: datetime | None
    events: list[ToldEvent]
    used_in_min: float | None
    gelled_in_min: float | None
    gel_error_pct: float | None
    ratio_error_pct: float | None
    filler_error_pct: float | None
    stirred_ml: float | None
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
    simulated: bool
    pot_count: int
    overridden: list[CautionRecord]
    goggled: list[str]
    outcome: str
    differs: Differs
    touches: list[TouchSeen]
    fronts: list[FrontSeen]
    stories: list[StoryOut]


class RepeatIn(Schema):
    """A run begun again as a job of its own: as planned, or with what was done otherwise."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    as_done: bool


class WholeRunOut(RunOut):
    """A run with the plan it froze."""

    plan: Plan
