"""What is used and not left in the work: vessels, measuring tools, consumables."""

from typing import Annotated, Literal

from pydantic import Field

from layup.materials import Count, Material, Price

MadeOf = Literal["polypropylene", "polyethylene", "polystyrene", "waxed paper", "plain paper", "steel", "glass"]
_HoldsMl = Annotated[float, Field(ge=1, le=1_000_000, allow_inf_nan=False)]
_MarkMl = Annotated[float, Field(ge=0.01, le=10_000, allow_inf_nan=False)]
_ReadsTo = Annotated[float, Field(ge=0.0001, le=10_000, allow_inf_nan=False)]
_DropsPerMl = Annotated[float, Field(ge=5, le=100, allow_inf_nan=False)]
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


class Vessel(Material):
    """A cup or bucket to mix in: what it holds, how wide it is inside, what it weighs empty, the marks on its wall."""

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=80)
    form: Literal["cup", "pail", "tray"] = "cup"
    holds_ml: _HoldsMl
    width_mm: float | None = Field(default=None, ge=20, le=600, allow_inf_nan=False)
    weighs_g: float | None = Field(default=None, ge=0, le=5000, allow_inf_nan=False)
    marked_every_ml: _MarkMl | None = None
    made_of: MadeOf = "polypropylene"
    used_once: bool = True
    sold_by: Count | None = None
    price_each: Price | None = None
    note: str = Field(default="", max_length=300)


class Tool(Material):
    """A tool to measure with: what it reads to and how far, in the unit of what it measures; drops in a millilitre."""

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=80)
    kind: ToolKind
    reads_to: _ReadsTo
    unit: Literal["g", "ml", "°C", "%"] = "g"
    most: Count | None = None
    drops_per_ml: _DropsPerMl | None = None
    note: str = Field(default="", max_length=300)


class Consumable(Material):
    """What a job uses up. `each_covers_m2` or `each_lasts_min` say how many it takes; `stands_up_to` is a solvent."""

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=80)
    kind: ConsumableKind
    each_covers_m2: Count | None = None
    each_lasts_min: Count | None = None
    stands_up_to: str = Field(default="", max_length=120)
    styrene_dissolves: bool = False
    sold_by: Count | None = None
    price_each: Price | None = None
    note: str = Field(default="", max_length=300)
