"""What every piece of a job's document is made of: frozen, closed, with limits that no real job passes."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

# A document of a job is no longer than this, and nests no deeper.
MOST_BYTES = 2_000_000
DEEPEST = 12

Id = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9_-]+$")]
Name = Annotated[str, Field(max_length=120)]
Metres = Annotated[float, Field(ge=0.001, le=100, allow_inf_nan=False)]
SquareMetres = Annotated[float, Field(ge=1e-6, le=500, allow_inf_nan=False)]
Millimetres = Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)]
RoomTemperature = Annotated[float, Field(ge=-20, le=50, allow_inf_nan=False)]
Typed = dict[Annotated[str, Field(max_length=40)], Annotated[str, Field(max_length=60)]]


class Document(BaseModel):
    """A piece of the document. `typed` keeps the words a quantity was typed in, by field name."""

    model_config = ConfigDict(extra="forbid", frozen=True)
