"""What is used and not left in the work: vessels, measuring tools, consumables."""

from math import pi
from typing import Annotated, Literal, Self, get_args

from pydantic import AfterValidator, Field, model_validator

from layup.chemistry.ratio import parse_ratio
from layup.errors import at_field
from layup.materials import Count, Material, Price
from layup.words import with_article

MadeOf = Literal["polypropylene", "polyethylene", "polystyrene", "waxed paper", "plain paper", "steel", "glass"]
# What may be a mixing cup, ml.
CUP_ML = (5, 50_000)
_HoldsMl = Annotated[float, Field(ge=1, le=1_000_000, allow_inf_nan=False)]
_MarkMl = Annotated[float, Field(ge=0.01, le=10_000, allow_inf_nan=False)]
_ReadsTo = Annotated[float, Field(ge=0.0001, le=10_000, allow_inf_nan=False)]
_DropsPerMl = Annotated[float, Field(ge=5, le=100, allow_inf_nan=False)]
ScaleUnit = Literal["g", "oz", "lb"]
VolumeUnit = Literal["ml", "cc", "US fl oz", "Imperial fl oz", "US qt", "Imperial qt", "US gal", "Imperial gal"]
MASS_UNITS: tuple[str, ...] = get_args(ScaleUnit)
VOLUME_UNITS: tuple[str, ...] = get_args(VolumeUnit)
ToolKind = Literal["scale", "syringe", "dropper", "pump", "thermometer", "moisture meter"]
ConsumableKind = Literal[
    "gloves",
    "brush",
    "roller",
    "cup",
    "stirrer",
    "squeegee",
    "solvent",
    "wipes",
    "abrasive",
    "masking",
    "peel ply",
    "bag",
    "respirator",
    "release",
]


def _readable_ratio(words: str) -> str:
    if words:
        parse_ratio(words)
    return words


# The ratio that the columns of a numbered cup are printed for, as printed.
CupRatio = Annotated[str, Field(max_length=30), AfterValidator(_readable_ratio)]


class Vessel(Material):
    """A cup or bucket to mix or measure in: what it holds, how wide it is inside, what it weighs empty, the marks on its
    wall and the unit they are printed in.

    One with a column for each part names the ratio they are printed for; a mark is then a number of the first column.
    """

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=80)
    form: Literal["cup", "pail", "tray"] = "cup"
    holds_ml: _HoldsMl
    width_mm: float | None = Field(default=None, ge=20, le=600, allow_inf_nan=False)
    weighs_g: float | None = Field(default=None, ge=0, le=5000, allow_inf_nan=False)
    marked_every_ml: _MarkMl | None = None
    marks_in: VolumeUnit = "ml"
    columns_for: CupRatio = ""
    made_of: MadeOf = "polypropylene"
    used_once: bool = True
    sold_by: Count | None = None
    price_each: Price | None = None
    note: str = Field(default="", max_length=300)


class Tool(Material):
    """A tool to measure with: what it reads to and how far, in the unit it reads in; drops in a millilitre.

    A pump reads to what one stroke gives.
    """

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=80)
    kind: ToolKind
    reads_to: _ReadsTo
    unit: ScaleUnit | VolumeUnit | Literal["°C", "°F", "%"] = "g"
    most: Count | None = None
    drops_per_ml: _DropsPerMl | None = None
    note: str = Field(default="", max_length=300)

    @model_validator(mode="after")
    def _reads_what_it_measures(self) -> Self:
        if self.unit not in _READS_IN[self.kind]:
            raise at_field("unit", f"{with_article(self.kind)} reads in {' or '.join(_READS_IN[self.kind])}")
        return self


_READS_IN: dict[ToolKind, tuple[str, ...]] = {
    "scale": MASS_UNITS,
    "syringe": VOLUME_UNITS,
    "dropper": VOLUME_UNITS,
    "pump": VOLUME_UNITS,
    "thermometer": ("°C", "°F"),
    "moisture meter": ("%",),
}


class Consumable(Material):
    """What a job uses up. `each_covers_m2` or `each_lasts_min` say how many it takes; `stands_up_to` is a solvent.

    A solvent `dries` fast, for small areas, or slowly, for large ones.
    """

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=80)
    kind: ConsumableKind
    each_covers_m2: Count | None = None
    each_lasts_min: Count | None = None
    stands_up_to: str = Field(default="", max_length=120)
    styrene_dissolves: bool = False
    dries: Literal["", "fast", "slowly"] = ""
    sold_by: Count | None = None
    price_each: Price | None = None
    note: str = Field(default="", max_length=300)


def usual_width_mm(holds_ml: float) -> float:
    """The inner width of a cup that says no more than what it holds: as deep, brim full, as it is wide (memory).

    >>> round(usual_width_mm(250))
    68
    """
    return 10 * (4 * holds_ml / pi) ** (1 / 3)
