"""What is sent and answered about benches and their instruments."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from layup.instruments.lines import Instrument as KindName

_Name = Annotated[str, Field(min_length=1, max_length=40, pattern=r"\S")]
_Line = Annotated[str, Field(max_length=400)]
Baud = Literal[1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200]
Unit = Literal["", "g", "kg", "oz", "lb", "°C", "°F"]
Trouble = Literal["", "unread", "unplugged", "refused", "knocked", "two at once", "jumped", "stuck", "silent"]
StandInDo = Literal[
    "start",
    "stop",
    "cup",
    "pour",
    "pour over",
    "halt",
    "lift",
    "put back",
    "nought",
    "knock",
    "unplug",
    "plug in",
    "set",
]


class ScaleCheckOut(Schema):
    """What a scale showed of a known weight, g."""

    at: datetime
    by: str
    known_g: float
    shown_g: float


class InstrumentOut(Schema):
    """An instrument with what it tells now; `silent_s` where it has sent nothing for longer than it should."""

    id: UUID
    kind: KindName
    name: str
    port: str
    baud: int
    by_token: bool
    own_shape: bool
    value: float | None
    trouble: Trouble
    silent_s: float | None
    lines: list[str]
    check: ScaleCheckOut | None


class StandInsOut(Schema):
    """The simulated instruments of a bench."""

    on: bool
    pace: int = 1
    fast: bool = False
    unplugged: list[KindName] = []


class PlaceOut(Schema):
    """A bench of the shop: what is worked there, its instruments."""

    id: UUID
    name: str
    run_id: UUID | None
    pot: int | None
    instruments: list[InstrumentOut]
    standins: StandInsOut


class PortOut(Schema):
    """A serial port that is plugged in, and whether an instrument is on it."""

    key: str
    words: str
    taken: bool


class InstrumentsOut(Schema):
    places: list[PlaceOut]
    ports: list[PortOut]


class PlaceIn(Schema):
    name: _Name


class AtPlaceIn(Schema):
    """What is worked at a bench now, and the pot its thermometer is pointed at."""

    run_id: UUID | None = None
    pot: Annotated[int, Field(ge=1, le=100_000)] | None = None


class ExampleIn(Schema):
    """Lines as an instrument sends them, and which of the numbers of the first, from 0, is the reading."""

    lines: Annotated[list[_Line], Field(max_length=12)]
    pressed: Annotated[int, Field(ge=-1, le=60)] = -1
    kind: KindName


class ExampleOut(Schema):
    """Where the numbers of the first line stand, and what each line reads as; nothing where it cannot be read."""

    numbers: list[tuple[int, int]]
    reads: list[float | None]


class InstrumentIn(Schema):
    """An instrument on a port, or without one: then it posts with a token. By `example` where no shape that ships reads it."""

    kind: KindName
    name: _Name
    port: Annotated[str, Field(max_length=200)] = ""
    baud: Baud = 9600
    unit: Unit = ""
    example: ExampleIn | None = None


class MadeOut(Schema):
    """An instrument that was made; its token is told this once."""

    id: UUID
    token: str


class ListenIn(Schema):
    port: Annotated[str, Field(max_length=200)]
    baud: Baud = 9600


class HeardOut(Schema):
    """What a port sent: its lines."""

    lines: list[str]


class ReadingIn(Schema):
    """A reading of a small sensor; the unit as it spells it, nothing for g or °C."""

    value: Annotated[float, Field(allow_inf_nan=False)]
    unit: Annotated[str, Field(max_length=8)] = ""
    still: bool | None = None


class TakenOut(Schema):
    """How a posted reading was taken."""

    trouble: Trouble


class ScaleCheckIn(Schema):
    known_g: Annotated[float, Field(gt=0, le=200_000, allow_inf_nan=False)]


class StandInIn(Schema):
    """What to do with the simulated instruments of a bench."""

    do: StandInDo
    kind: KindName = "scale"
    pace: Literal[1, 10, 60] | None = None
    fast: bool | None = None
