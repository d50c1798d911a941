"""What a builder says of how a part is finished, in the job's document: from the surface as it is to what it should become."""

from typing import Annotated, Literal

from pydantic import Field

from layup.document import Document, SquareMetres, Typed

MOST_READINGS = 30
MOST_TOP_COATS = 12

FinishedTo = Literal["", "ready to bond", "under paint", "under varnish", "clear, matt", "clear, gloss"]
SurfaceNow = Literal["old laminate", "weave or brush marks", "filled", "from a mould"]
Trim = Literal["", "knife, while green", "saw, when hard"]
Topped = Literal["", "paint", "varnish", "oil", "wax"]
_Low = Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)]


class FinishWishes(Document):
    """How a part is finished: from `now` to `to`, with nothing done where that is empty.

    `low_mm` are the gaps under a batten, over `faired_m2` or all of it. `own_min_per_m2` are the shop's own minutes for a
    square metre and grit. What is `topped` takes so many coats, so many hours apart. `wet` sands all of it wet.
    """

    to: FinishedTo = ""
    now: SurfaceNow = "weave or brush marks"
    trim: Trim = ""
    low_mm: tuple[_Low, ...] = Field(default=(), max_length=MOST_READINGS)
    faired_m2: SquareMetres | None = None
    fairing: Literal["epoxy", "polyester"] = "epoxy"
    wet: bool = False
    own_min_per_m2: float | None = Field(default=None, ge=0.1, le=240, allow_inf_nan=False)
    topped: Topped = ""
    top_coats: int = Field(default=2, ge=1, le=MOST_TOP_COATS)
    hours_between: float = Field(default=12, ge=0.1, le=336, allow_inf_nan=False)
    fittings_min: float | None = Field(default=None, ge=0, le=6000, allow_inf_nan=False)
    typed: Typed = Field(default_factory=dict, max_length=4)
