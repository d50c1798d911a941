"""A casting as a builder measures it, in the job's document: its cavity, what stands in it, what fills it, what it lies in."""

from typing import Annotated, Literal

from pydantic import Field

from layup.document import Before, Document, Id, Metres, Name, Typed, UseId
from layup.usual import MOST_PEAK_C

MOST_READINGS = 60

PourMillimetres = Annotated[float, Field(ge=1, le=1000, allow_inf_nan=False)]
AcrossMillimetres = Annotated[float, Field(ge=1, le=20_000, allow_inf_nan=False)]


class Reading(Document):
    """How wide a cavity is at one place along it, and how deep where that differs; `at_m` where readings are not even."""

    id: Id
    at_m: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] | None = None
    width_mm: Annotated[float, Field(ge=0, le=20_000, allow_inf_nan=False)] | None = None
    depth_mm: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


class Insert(Document):
    """What stands in a pour and takes room from it: an end piece, a block, a fitting."""

    id: Id
    name: Name = ""
    count: int = Field(default=1, ge=1, le=1000)
    length_mm: AcrossMillimetres | None = None
    width_mm: AcrossMillimetres | None = None
    depth_mm: PourMillimetres | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


PourShape = Literal["even", "readings", "disc"]
LiesIn = Literal["softwood", "hardwood", "board", "laminate mould", "foam", "stone"]
FilledWith = Literal["", "chopped carbon", "chopped glass", "filler"]


class Pour(Document):
    """A casting, `count` of it alike: a cavity filled with resin, in one pour or in lifts.

    An even one may taper to `end_width_mm` and `end_depth_mm`; one of readings is measured along its length. Less its
    `inserts`. It is filled with chopped fibre or a filler, `filled_share` of the resin or of the whole, in every lift or in
    all `but_the_first`; the volume of that is taken off the resin, or left over. `face_first` casts its show face down, with a fifth of the resin worked in
    first. `held_back` of the resin waits until the level is seen. Open wood is sealed first, in the resin `seal_use_id` or its own. It lies in `lies_in` of a thickness. Peaks stay under
    `most_peak_c`; a builder may say how deep a lift is.
    """

    id: Id
    name: Name = ""
    use_id: UseId = ""
    count: int = Field(default=1, ge=1, le=200)
    shape: PourShape = "even"
    length_m: Metres | None = None
    width_mm: AcrossMillimetres | None = None
    end_width_mm: AcrossMillimetres | None = None
    depth_mm: PourMillimetres | None = None
    end_depth_mm: PourMillimetres | None = None
    diameter_mm: AcrossMillimetres | None = None
    readings: tuple[Reading, ...] = Field(default=(), max_length=MOST_READINGS)
    inserts: tuple[Insert, ...] = Field(default=(), max_length=30)
    filled_with: FilledWith = ""
    filler_id: str = Field(default="", max_length=60)
    filled_share: float = Field(default=0.2, ge=0.01, le=2, allow_inf_nan=False)
    share_of: Literal["the resin", "the whole"] = "the resin"
    fill_volume: Literal["taken off", "left over"] = "taken off"
    but_the_first: bool = False
    face_first: bool = False
    held_back: float = Field(default=0, ge=0, le=0.5, allow_inf_nan=False)
    lies_in: LiesIn = "softwood"
    form_mm: Annotated[float, Field(ge=1, le=300, allow_inf_nan=False)] | None = None
    fan: bool = False
    in_the_sun: bool = False
    sealed: bool = False
    seal_use_id: UseId = ""
    most_peak_c: float = Field(default=MOST_PEAK_C, ge=30, le=120, allow_inf_nan=False)
    lift_mm: PourMillimetres | None = None
    comes_after: Before = ()
    typed: Typed = Field(default_factory=dict, max_length=20)
