"""What a plan takes from the shop: its day and forecast, its tools and cups, the gels and fillers it has logged."""

from dataclasses import replace
from datetime import date
from typing import Annotated, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from layup.bench_tools import BenchTools
from layup.customs import Customs, LocaleName
from layup.document import Document, RoomTemperature
from layup.equipment import CUP_ML, CupRatio, MadeOf, ScaleUnit, Vessel, VolumeUnit, usual_width_mm
from layup.errors import Missing, at_field
from layup.job import Conditions, Moment, Practice
from layup.marks import RESIDUE_ML, DoseTool, Marks, VolumeTool
from layup.materials import Consistency, DosePct, Grams, Minutes, ProductMillimetres
from layup.scales import FabricUnit, Scales, UnitSet
from layup.stock.lots import Condition, Keeping
from layup.units import FluidOunce, convert, unit_shown

# The largest pot of each family that is mixed at once, g (common practice).
LARGEST_POT_G = {"epoxy": 1000.0, "polyester": 3000.0, "vinyl ester": 3000.0, "polyurethane": 3000.0}


class RoomDay(Document):
    """What is expected of the room today: its coldest and its warmest."""

    coldest_c: RoomTemperature
    warmest_c: RoomTemperature

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.coldest_c > self.warmest_c:
            raise ValueError("the coldest is over the warmest: change them round")
        return self


class ForecastHour(Document):
    """What is expected of the room at an hour."""

    at: Moment
    room_c: RoomTemperature
    humidity_pct: float | None = Field(default=None, ge=1, le=100, allow_inf_nan=False)


class LoggedGel(Document):
    """A pot that gelled at this shop: of what, how long it took, how warm and how big it was, or at what dose.

    `spread` is the deviation of ln of its minutes, where its gel was heard by its surface and not seen.
    """

    resin_id: str
    hardener_id: str = ""
    minutes: Minutes
    temperature_c: RoomTemperature
    mass_g: Grams
    catalyst_pct: DosePct | None = None
    cup_mm: ProductMillimetres | None = None
    spread: float = Field(default=0.0, ge=0, le=2, allow_inf_nan=False)


# A bed may be three times as open as is told of its fabric (memory): one ten times as open was another mark.
MOST_TIMES_AS_OPEN = 10.0


class LoggedShot(Document):
    """An infusion of this shop whose front was seen at a mark: of what bed, under what pull, and how many times as open it
    was as is told of its fabric from memory. One that strays further was another mark, or another moment.
    """

    bed: str = Field(min_length=1, max_length=400)
    pull_mbar: float = Field(ge=1, le=1100, allow_inf_nan=False)
    times: float = Field(ge=1 / MOST_TIMES_AS_OPEN, le=MOST_TIMES_AS_OPEN, allow_inf_nan=False)


class ScaleChecked(Document):
    """What a scale of the shop last showed of a known weight, g, and on which day."""

    on: date
    known_g: float = Field(gt=0, le=200_000, allow_inf_nan=False)
    shown_g: float = Field(ge=-200_000, le=200_000, allow_inf_nan=False)


class StirredFiller(Document):
    """A pot of this shop that was thickened: how many loose volumes of a filler one of mixed resin took to stand so."""

    filler_id: str
    consistency: Consistency
    parts: float = Field(ge=0.001, le=100, allow_inf_nan=False)


class TinFact(Document):
    """The tin of an article that is taken next, as far as a caution asks: how it stands by its date, `until` when it keeps,
    what was seen of it, and how cold it stands where that is not the room.
    """

    article: str
    called: str
    keeping: Keeping
    until: date | None = None
    trial_holds: bool = False
    conditions: tuple[Condition, ...] = ()
    stored_c: RoomTemperature | None = None


class Learner(Document):
    """Somebody who learns here, and how many times a beginner's largest pot he may mix by what was signed and poured."""

    name: Annotated[str, Field(max_length=150)]
    times: float = Field(default=1.0, ge=1, le=100, allow_inf_nan=False)


class ShopFacts(BaseModel):
    """What a plan takes from the shop: the day's conditions, the tools at the bench, the units its words are in.

    `today` is the shop's date, by its own clock; `room_shift_c` tries a room that is warmer or cooler all along.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    conditions: Conditions = Conditions()
    # Whether somebody has read the room at all: until then the conditions are nobody's.
    room_read: bool = True
    practice: Practice = Practice()
    day: RoomDay | None = None
    today: date | None = None
    time_zone: str = "UTC"
    opens_h: float = Field(default=8, ge=0, lt=24, allow_inf_nan=False)
    closes_h: float = Field(default=18, gt=0, le=24, allow_inf_nan=False)
    forecast: tuple[ForecastHour, ...] = Field(default=(), max_length=504)
    read_at: Moment | None = None
    room_shift_c: float = Field(default=0, ge=-60, le=60, allow_inf_nan=False)
    units: UnitSet = "metric"
    fabric_unit: FabricUnit = "g/m²"
    fluid_ounce: FluidOunce = "us"
    locale: LocaleName = ""
    tools: BenchTools = BenchTools()
    scale_step_g: float = Field(default=1, ge=0.001, le=50, allow_inf_nan=False)
    scale_unit: ScaleUnit = "g"
    cup_step_ml: float = Field(default=2, ge=0.01, le=1000, allow_inf_nan=False)
    cup_unit: VolumeUnit = "ml"
    syringe_step_ml: float = Field(default=0.2, ge=0.001, le=30, allow_inf_nan=False)
    syringe_unit: VolumeUnit = "ml"
    syringe_ml: float | None = Field(default=None, ge=0.1, le=1000, allow_inf_nan=False)
    dose_tool: DoseTool = "syringe"
    drops_per_ml: float | None = Field(default=None, ge=5, le=100, allow_inf_nan=False)
    volume_tool: VolumeTool = "marked cup"
    cup_number_ml: float = Field(default=30, ge=0.1, le=1000, allow_inf_nan=False)
    cup_ratio: CupRatio = ""
    pump_a_ml: float = Field(default=20, ge=0.1, le=500, allow_inf_nan=False)
    pump_b_ml: float = Field(default=10, ge=0.1, le=500, allow_inf_nan=False)
    residue_ml: float = Field(default=RESIDUE_ML, ge=0, le=20, allow_inf_nan=False)
    above_sea_m: float = Field(default=0, ge=-450, le=5500, allow_inf_nan=False)
    scoop_ml: float = Field(default=250, ge=1, le=5000, allow_inf_nan=False)
    cup_g: float = Field(default=20, ge=0, le=5000)
    cup_ml: float = Field(default=1500, ge=CUP_ML[0], le=CUP_ML[1], allow_inf_nan=False)
    cup_mm: float | None = Field(default=None, ge=20, le=600, allow_inf_nan=False)
    cup_made_of: MadeOf = "polypropylene"
    vessels: tuple[Vessel, ...] = Field(default=(), max_length=60)
    gels: tuple[LoggedGel, ...] = ()
    scale_checked: ScaleChecked | None = None
    stirred: tuple[StirredFiller, ...] = ()
    shots: tuple[LoggedShot, ...] = ()
    tins: tuple[TinFact, ...] = ()
    learner: bool = False
    learners: tuple[Learner, ...] = ()
    largest_pot_g: dict[str, float] = LARGEST_POT_G

    @model_validator(mode="after")
    def _drops_are_counted_first(self) -> Self:
        if self.dose_tool == "drops" and self.drops_per_ml is None:
            raise at_field("drops_per_ml", "count the drops that fill 2 ml, and type half of that")
        return self

    @model_validator(mode="after")
    def _opens_before_it_closes(self) -> Self:
        if self.closes_h - self.opens_h < 1:
            raise at_field("closes_h", "the shop is open for an hour at least: close it later than it opens")
        return self

    @property
    def scale(self) -> Marks:
        """How the scale is read."""
        return self._marks(self.scale_step_g, self.scale_unit, "g")

    @property
    def cup(self) -> Marks:
        """How the measuring cup is read."""
        return self._marks(self.cup_step_ml, self.cup_unit, "ml")

    @property
    def dose_marks(self) -> Marks:
        """How the tool is read that a catalyst is measured with."""
        return self.marks_of(self.dose_tool)

    def marks_of(self, tool: DoseTool) -> Marks:
        """How a tool for a dose is read. Raises Missing for drops that nobody has counted."""
        if tool == "drops":
            if self.drops_per_ml is None:
                raise Missing("the drops of this dropper were not counted yet", "drops_per_ml")
            return Marks(1, "drops", 1 / self.drops_per_ml, Customs(self.locale))
        if tool == "scale":
            return self.scale
        syringe = self._marks(self.syringe_step_ml, self.syringe_unit, "ml")
        return replace(syringe, most=self.syringe_ml and self.syringe_ml / syringe.unit_is)

    def _marks(self, step_core: float, unit: str, core_unit: str) -> Marks:
        unit_is = convert(1, unit, core_unit)
        # What is printed on a tool has few digits: the last of a conversion are none of them.
        return Marks(
            float(f"{step_core / unit_is:.5g}"), unit_shown(unit, self.fluid_ounce), unit_is, Customs(self.locale)
        )

    @property
    def cup_width_mm(self) -> float:
        """The inner width of the usual cup, mm: as measured, or as a cup of its size usually is."""
        return usual_width_mm(self.cup_ml) if self.cup_mm is None else self.cup_mm

    @property
    def scales(self) -> Scales:
        return Scales(self.units, self.fluid_ounce, self.fabric_unit, Customs(self.locale))
