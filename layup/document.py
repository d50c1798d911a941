"""What every piece of a job's document is made of: frozen, closed, with limits that no real job passes."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, model_validator

from layup.errors import OutOfRange
from layup.printable import all_printable

# A document of a job is no longer than this, nests no deeper, and holds no more: two thousand joints come to 80,000.
MOST_BYTES = 2_000_000
DEEPEST = 12
MOST_VALUES = 100_000

Id = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9_-]+$")]
Name = Annotated[str, Field(max_length=120)]
Metres = Annotated[float, Field(ge=0.001, le=100, allow_inf_nan=False)]
SquareMetres = Annotated[float, Field(ge=1e-6, le=500, allow_inf_nan=False)]
Millimetres = Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)]
RoomTemperature = Annotated[float, Field(ge=-20, le=50, allow_inf_nan=False)]
# Which of a job's resins in use a thing is laid in, by its id; where it names none, it is the first.
UseId = Annotated[str, Field(max_length=40)]
# What is laid first, by the ids of parts, joints and castings.
Before = Annotated[tuple[Id, ...], Field(max_length=40)]
Typed = dict[Annotated[str, Field(max_length=40)], Annotated[str, Field(max_length=60)]]


class Document(BaseModel):
    """A piece of the document. `typed` keeps the words a quantity was typed in, by field name."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    _printable = model_validator(mode="before")(all_printable)


def require_an_end(tree: object, most: int = MOST_VALUES) -> None:
    """Refuses what holds more values than any job, before each of them is looked at. Raises OutOfRange.

    >>> require_an_end({"parts": [0] * 100_001})
    Traceback (most recent call last):
    layup.errors.OutOfRange: holds more than 100,000 values: no job does
    """
    left, open_ = most, [tree]
    while open_:
        held = open_.pop()
        inner = held.values() if isinstance(held, dict) else held if isinstance(held, list) else ()
        left -= len(inner)
        if left < 0:
            raise OutOfRange(f"holds more than {most:,} values: no job does")
        open_ += [value for value in inner if isinstance(value, (dict, list))]
