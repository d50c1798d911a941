"""The run sheet, as plain frozen records."""

from datetime import datetime
from typing import Any, Literal

from pydantic import model_validator

from layup.record import Record


class SheetBay(Record):
    """A bay of a lane, from and to a place along it, m or seams; `area_m2` of it. `seams` are the lines at which it ends,
    on the part as it is drawn, x and y of both their ends, m; `middle` is its middle there."""

    number: int
    words: str
    begins: float
    ends: float
    area_m2: float
    seams: tuple[tuple[float, ...], ...] = ()
    middle: tuple[float, ...] = ()


class SheetLane(Record):
    """A lane of the run sheet: one copy of a part or a joint, or all copies that share their pots; and the `bays` it is
    laid in, where it is divided. `coats_too` where what is coated first is coated bay by bay; `which` copy it is, where
    there are several.
    """

    id: str
    owner_id: str
    name: str
    under: str
    bays: tuple[SheetBay, ...] = ()
    coats_too: bool = False
    which: str = ""


class SheetPot(Record):
    """One pot on the run sheet. Minutes from the start: its parts touch, it is on the work, used, to be used by, kicks.

    `about` is the id of its kind among the plan's pots. `bay` is the bay it is laid in, from 1; nought where it lies on
    all of its lane, −1 where it does after all bays.
    """

    number: int
    lane: str
    about: str
    mass_g: float
    laid_g: float
    room_c: float
    item_ids: tuple[str, ...]
    weigh_min: float
    touch_min: float
    on_from_min: float
    used_min: float
    use_by_min: float
    kick_min: float
    bay: int = 0


class SheetLayer(Record):
    """A layer on its lane, and the window after it. `mended` is what a missed window costs before it.

    `short` is what it lays in a word or two, in which `bay`, as of a pot; `edge_peeled` where peel ply came off the edge
    of the bay before. It is the `nth` of several alike on one another, laid in so many `strips`. Its window is `watched` where the next layer waits for it, or none follows: one that goes on wet has no use for it.
    """

    lane: str
    words: str
    item_ids: tuple[str, ...]
    from_min: float
    to_min: float
    first_pot: int
    last_pot: int
    opens_min: float
    closes_min: float
    mended: str
    peel_ply: bool
    watched: bool = True
    short: str = ""
    bay: int = 0
    nth: int = 1
    strips: int = 1
    edge_peeled: bool = False


class SheetBusy(Record):
    """What the hands do, or what a wait is good for."""

    from_min: float
    to_min: float
    words: str
    waits: bool


class SheetStretch(Record):
    """One stretch of work on a bay, as it is said: what is laid in it, how long that takes, in how many pots."""

    lane: str
    bay: int
    words: str
    from_min: float
    to_min: float


class SheetTask(Record):
    """What one person does for a stretch: `who`, by the id and the words for it, and on which pots."""

    who: str
    name: str
    task: Literal["mixes", "spreads"]
    words: str
    from_min: float
    to_min: float
    first_pot: int
    last_pot: int


RoomBy = Literal["forecast", "expected", "reading"]
MarkKind = Literal["test", "lift", "squeeze-out", "bag down", "trim", "sand", "open bag", "clamps", "load", "full cure"]


class SheetMark(Record):
    """A moment on a lane at which something is looked at, or becomes possible. `fixings` are what is taken out at it; `test`
    is how it is looked at."""

    lane: str
    kind: MarkKind
    at_min: float
    words: str
    fixings: str = ""
    test: Literal["thumb", "brush", "lift"] | None = None

    @model_validator(mode="before")
    @classmethod
    def _as_first_written(cls, told: Any) -> Any:
        """Marks of runs begun when their words alone said what is taken out."""
        if not isinstance(told, dict) or "fixings" in told:
            return told
        taken_out = told["words"].partition("take out: ")[2] if told["kind"] == "clamps" else ""
        return told | {"fixings": taken_out}


class SheetStop(Record):
    """A stop point: where a lane is left, until when, and what that costs."""

    lane: str
    from_min: float
    to_min: float
    words: str


class RunSheet(Record):
    """The day's plan. Minutes count from `start_at`, None for a plan without a date, which begins at an opening.

    `room_min` and `room_c` are the room's knots, told `room_by` a forecast, by what is expected or by a reading. `chance_any` that a pot of the job is lost.
    """

    start_at: datetime | None
    opens_at: str
    sentence: str
    room_words: str
    lanes: tuple[SheetLane, ...]
    pots: tuple[SheetPot, ...]
    layers: tuple[SheetLayer, ...]
    busy: tuple[SheetBusy, ...]
    marks: tuple[SheetMark, ...]
    stops: tuple[SheetStop, ...]
    room_min: tuple[float, ...]
    room_c: tuple[float, ...]
    laid_by_min: float
    trim_min: float
    load_min: float
    chance_any: float
    chance_words: str
    problems: tuple[str, ...]
    start_minute_of_day: float
    room_by: RoomBy | None = None
    tasks: tuple[SheetTask, ...] = ()
    stretches: tuple[SheetStretch, ...] = ()
