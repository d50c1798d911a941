"""What a builder says of a bag and of an infusion, in the job's document: the stack of the bag, its level, feeds and vents."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from layup.document import Document, Id, Millimetres, Name, Typed

MOST_LINES = 12
MOST_POINTS = 24

# How a level is read: what is left, or how far a gauge stands under the air outside, or a share of what could be pulled.
LevelIn = Literal["mbar absolute", "inHg below the air", "% of a full vacuum"]
# How grooves lie as the part is drawn in plan.
GroovesRun = Literal["both ways", "left to right", "up and down"]
_Metre = Annotated[float, Field(ge=-200, le=200, allow_inf_nan=False)]


class BagWishes(Document):
    """The bag over a part: what lies in it, how it is pulled down.

    `height_mm` is how far the part stands up from its flange, which the bag's pleats take up. `level` is what is held
    under it, said as `level_in` tells. `drop_mbar` in `drop_min` is what its leak test showed with the pump shut. `bagging_min` is how
    long it takes to lay breather and bag and seal it, where the builder knows better.
    """

    peel_ply: bool = True
    perforated_film: bool = False
    breather: bool = True
    height_mm: Millimetres = 20
    level: Annotated[float, Field(ge=0, le=1100, allow_inf_nan=False)] = 100
    level_in: LevelIn = "mbar absolute"
    pump_l_per_min: float = Field(default=100, ge=0.1, le=100_000, allow_inf_nan=False)
    air_l: float | None = Field(default=None, ge=0.01, le=100_000, allow_inf_nan=False)
    drop_mbar: float | None = Field(default=None, ge=0, le=1000, allow_inf_nan=False)
    drop_min: float = Field(default=10, ge=0.1, le=1440, allow_inf_nan=False)
    bagging_min: float | None = Field(default=None, ge=0.5, le=600, allow_inf_nan=False)
    typed: Typed = Field(default_factory=dict, max_length=6)


class PlanPoint(Document):
    """A place on the part as it is drawn, m."""

    x_m: _Metre
    y_m: _Metre


class FlowLine(Document):
    """A feed or a vent: a port of one point, or a line along several. A feed that waits is opened when resin comes to it."""

    id: Id
    name: Name = ""
    does: Literal["feeds", "vents"]
    points: tuple[PlanPoint, ...] = Field(min_length=1, max_length=MOST_POINTS)
    waits: bool = False

    @model_validator(mode="after")
    def _only_a_feed_waits(self) -> Self:
        if self.waits and self.does == "vents":
            raise ValueError("only a feed is opened later: a vent is open from the start")
        return self


class InfusionWishes(Document):
    """How a part is infused: a flow mesh over it that stops short of the edge, grooves in its core, feeds and vents.

    Without any line a feed along one end and a vent along the other are proposed. `viscosity_mpa_s` is of the fresh mix at
    25 °C, as its sheet states. `permeability_m2` of the bed is what a shot before showed. `hose_m` is what leads from bucket to
    part and on to the trap, of `bore_mm`. `in_bucket_g` stays in the bucket.
    """

    mesh: bool = True
    mesh_short_mm: float = Field(default=40, ge=0, le=1000, allow_inf_nan=False)
    lines: tuple[FlowLine, ...] = Field(default=(), max_length=MOST_LINES)
    viscosity_mpa_s: float | None = Field(default=None, ge=1, le=20_000, allow_inf_nan=False)
    permeability_m2: float | None = Field(default=None, ge=1e-14, le=1e-7, allow_inf_nan=False)
    groove_width_mm: float | None = Field(default=None, ge=0.2, le=20, allow_inf_nan=False)
    groove_depth_mm: float = Field(default=2, ge=0.2, le=20, allow_inf_nan=False)
    groove_every_mm: float = Field(default=25, ge=1, le=500, allow_inf_nan=False)
    grooves_run: GroovesRun = "both ways"
    hose_m: float = Field(default=2, ge=0, le=200, allow_inf_nan=False)
    bore_mm: float = Field(default=10, ge=2, le=50, allow_inf_nan=False)
    in_bucket_g: float = Field(default=150, ge=0, le=20_000, allow_inf_nan=False)
    typed: Typed = Field(default_factory=dict, max_length=10)
