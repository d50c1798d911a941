"""What happens at the bench: events, each of one kind, about one thing, said once and never changed."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import ConfigDict, Field, SerializeAsAny, ValidationError, model_validator

from layup.errors import OutOfRange, field_path, place_of, words_for
from layup.record import Record

About = Literal["run", "pot", "layer", "face", "fixing", "flow"]
EventKind = Literal[
    "opened",
    "came",
    "left",
    "goggles on",
    "room read",
    "night",
    "gone on",
    "plan taken",
    "tin taken",
    "closed",
    "cup on",
    "A in",
    "B in",
    "touched",
    "started over",
    "stirred",
    "poured over",
    "filler in",
    "moved",
    "surface",
    "half used",
    "used up",
    "left over",
    "gelled",
    "too hot",
    "dumped",
    "strip laid",
    "laid",
    "wetted through",
    "peel ply on",
    "peel ply off",
    "tested",
    "film read",
    "mended",
    "ticked",
    "taken out",
    "valve opened",
    "valve throttled",
    "valve closed",
    "front there",
    "drawn",
    "in the trap",
    "answered",
    "note",
    "photo",
    "taken back",
]
Vessel = Literal["cup", "tray", "bag", "work"]
Touch = Literal["thumb", "brush", "lift"]
Shows = Literal["wet", "tacky", "closed"]
Outcome = Literal["good", "to be watched", "lost"]
_Grams = Annotated[float, Field(ge=0, le=200_000, allow_inf_nan=False)]
_Celsius = Annotated[float, Field(ge=-40, le=400, allow_inf_nan=False)]
_Words = Annotated[str, Field(max_length=300)]


class Data(Record):
    """What an event carries beside its kind: nothing, unless its kind says so."""

    model_config = ConfigDict(extra="forbid")


class Said(Data):
    """Words: why, a note, who came."""

    words: _Words = ""


class Read(Data):
    """What the tool showed of one part, in the tool's own unit, of that part alone."""

    amount: _Grams


class Weighed(Data):
    """So many grams."""

    grams: _Grams


class Made(Data):
    """What went into a pot, g, where it was written down all at once."""

    a_g: _Grams | None = None
    b_g: _Grams | None = None
    words: _Words = ""


class StirredIn(Data):
    """The filler really stirred in, loose, ml."""

    loose_ml: _Grams


class Moved(Data):
    """Where a pot is from now on."""

    to: Vessel


class Temperature(Data):
    """What a thermometer showed, °C."""

    temperature_c: _Celsius


class RoomRead(Data):
    """The room as it was read, °C; `surface_c` of the work."""

    room_c: _Celsius
    surface_c: _Celsius | None = None


class StripLaid(Data):
    """Which strip of a layer that is laid in several, counted from 1 in the order they are laid."""

    number: Annotated[int, Field(ge=1, le=10_000)]


class FilmRead(Data):
    """What a wet-film gauge showed, µm."""

    wet_um: Annotated[float, Field(ge=5, le=10_000, allow_inf_nan=False)]


class Tested(Data):
    """A test and what it showed."""

    test: Touch
    shows: Shows


class FrontThere(Data):
    """The mark on the film that the front has come to, counted from 1."""

    mark: Annotated[int, Field(ge=1, le=20)]


class Ended(Data):
    """How a run came out."""

    outcome: Outcome
    words: _Words = ""


class Answered(Data):
    """The alarm that was answered, by its key."""

    key: Annotated[str, Field(max_length=200)]


class Picture(Data):
    """A photo, in pixels."""

    width: Annotated[int, Field(ge=1, le=20_000)]
    height: Annotated[int, Field(ge=1, le=20_000)]


class TinTaken(Data):
    """The tin, by its lot, that its article is poured from, from now on: until it is empty, or another is taken."""

    lot: Annotated[str, Field(min_length=1, max_length=60)]


class Taken(Data):
    """A plan made anew: its card, and its pots as a plan tells them."""

    card: dict[str, Any]
    pots: list[dict[str, Any]] = []


@dataclass(frozen=True)
class KindOfEvent:
    """What an event of a kind may be about and carries. `once` where only one may stand of each thing; `touched` where it is
    said of a pot whose parts have touched."""

    about: tuple[About, ...]
    data: type[Data] = Said
    once: bool = False
    touched: bool = False


_RUN: tuple[About, ...] = ("run",)
_POT: tuple[About, ...] = ("pot",)
_LAYER: tuple[About, ...] = ("layer",)
_FACE: tuple[About, ...] = ("face",)
_FLOW: tuple[About, ...] = ("flow",)
_ANY: tuple[About, ...] = ("run", "pot", "layer", "face", "fixing", "flow")

KINDS: Mapping[EventKind, KindOfEvent] = {
    "opened": KindOfEvent(_RUN, once=True),
    "came": KindOfEvent(_RUN),
    "left": KindOfEvent(_RUN),
    "goggles on": KindOfEvent(_RUN),
    "room read": KindOfEvent(_RUN, RoomRead),
    "night": KindOfEvent(_RUN),
    "gone on": KindOfEvent(_RUN),
    "plan taken": KindOfEvent(_RUN, Taken),
    "tin taken": KindOfEvent(_RUN, TinTaken),
    "closed": KindOfEvent(_RUN, Ended, once=True),
    "cup on": KindOfEvent(_POT, Weighed),
    "A in": KindOfEvent(_POT, Read),
    "B in": KindOfEvent(_POT, Read),
    "touched": KindOfEvent(_POT, Made, once=True),
    "started over": KindOfEvent(_POT),
    "stirred": KindOfEvent(_POT, once=True, touched=True),
    "poured over": KindOfEvent(_POT, once=True, touched=True),
    "filler in": KindOfEvent(_POT, StirredIn, once=True, touched=True),
    "moved": KindOfEvent(_POT, Moved, touched=True),
    "surface": KindOfEvent(_POT, Temperature),
    "half used": KindOfEvent(_POT, once=True, touched=True),
    "used up": KindOfEvent(_POT, once=True, touched=True),
    "left over": KindOfEvent(_POT, Weighed, once=True, touched=True),
    "gelled": KindOfEvent(_POT, once=True, touched=True),
    "too hot": KindOfEvent(_POT, touched=True),
    "dumped": KindOfEvent(_POT, once=True, touched=True),
    "strip laid": KindOfEvent(_LAYER, StripLaid),
    "laid": KindOfEvent(_LAYER, once=True),
    "wetted through": KindOfEvent(_LAYER, once=True),
    "peel ply on": KindOfEvent(_LAYER, once=True),
    "peel ply off": KindOfEvent(_LAYER, once=True),
    "tested": KindOfEvent(_LAYER, Tested),
    "film read": KindOfEvent(_LAYER, FilmRead),
    "mended": KindOfEvent(_LAYER),
    "ticked": KindOfEvent(_FACE, once=True),
    "taken out": KindOfEvent(("fixing",), once=True),
    "valve opened": KindOfEvent(_FLOW),
    "valve throttled": KindOfEvent(_FLOW),
    "valve closed": KindOfEvent(_FLOW),
    "front there": KindOfEvent(_FLOW, FrontThere),
    "drawn": KindOfEvent(_FLOW, Weighed),
    "in the trap": KindOfEvent(_FLOW, Weighed),
    "answered": KindOfEvent(_RUN, Answered),
    "note": KindOfEvent(_ANY),
    "photo": KindOfEvent(_ANY, Picture),
    "taken back": KindOfEvent(_ANY),
}


class Event(Record):
    """One thing that happened. `id` is made where it was tapped; `at_min` is when, in minutes from the run's issue.

    `subject` names what it is `about`: a pot by its number, a layer, a face, a fixing or a flow by its id on the card, a run by
    nothing.
    One that takes another back names it in `takes_back`.
    """

    id: str
    about: About
    subject: str = ""
    kind: EventKind
    at_min: float
    by: str = ""
    data: SerializeAsAny[Data] = Said()
    takes_back: str = ""

    @model_validator(mode="before")
    @classmethod
    def _by_kind(cls, sent: Any) -> Any:
        """Data as its kind carries it."""
        if isinstance(sent, dict) and isinstance(sent.get("data"), dict) and sent.get("kind") in KINDS:
            return sent | {"data": KINDS[sent["kind"]].data.model_validate(sent["data"])}
        return sent


def data_of(kind: EventKind, about: About, sent: Mapping[str, Any]) -> Data:
    """What a tap of a kind carries, checked. Raises OutOfRange at the field that is wrong.

    >>> data_of("A in", "pot", {"amount": 290}).amount
    290.0
    >>> data_of("A in", "layer", {"amount": 290})
    Traceback (most recent call last):
    layup.errors.OutOfRange: “A in” is not said of a layer
    """
    known = KINDS[kind]
    if about not in known.about:
        raise OutOfRange(f"“{kind}” is not said of a {about}", "about")
    try:
        return known.data.model_validate(dict(sent))
    except ValidationError as error:
        detail = error.errors()[0]
        raise OutOfRange(words_for(detail), field_path(["data", *place_of(detail)])) from None
