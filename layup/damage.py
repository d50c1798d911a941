"""A damage as somebody looked it over: what it is, how big, what lies there, what it must look like when it is done."""

from typing import Annotated, Literal

from pydantic import Field

from layup.document import Document, Name, Typed

DamageKind = Literal[
    "crack in the surface coat",
    "part way through",
    "hole through",
    "skin come loose",
    "blisters",
    "crushed core",
]
Look = Literal["gel coat", "paint", "nothing"]
Carries = Literal["little", "as usual", "much"]
WhichResin = Literal["by what comes last", "epoxy", "polyester"]
_Size = Annotated[float, Field(ge=1, le=20_000, allow_inf_nan=False)]
_Thickness = Annotated[float, Field(ge=0.1, le=200, allow_inf_nan=False)]
# A wider gap is no glue line any more: the skin comes off, and is laid anew.
_Gap = Annotated[float, Field(ge=0.1, le=20, allow_inf_nan=False)]


class Damage(Document):
    """What was found. Sizes in mm: the damage's own, how deep it goes, how thick the skin is there and the core under it, the gap
    behind a loose skin; the panel it is in and how near its next edge is. `taper` is the ground's width for one of depth, where
    a designer or a surveyor gave it; each ply reaches `step_mm` further than the next. `old_stack` is what lies there, as the quick line writes it.
    """

    name: Name = ""
    kind: DamageKind = "hole through"
    width_mm: _Size | None = None
    length_mm: _Size | None = None
    depth_mm: _Thickness | None = None
    skin_mm: _Thickness | None = None
    core_mm: _Thickness | None = None
    gap_mm: _Gap | None = None
    panel_width_mm: _Size | None = None
    panel_length_mm: _Size | None = None
    to_edge_mm: _Size | None = None
    back_reached: bool = False
    moisture_pct: float | None = Field(default=None, ge=0, le=100, allow_inf_nan=False)
    old_resin: Literal["polyester", "epoxy"] = "polyester"
    look: Look = "paint"
    carries: Carries = "as usual"
    taper: float | None = Field(default=None, ge=4, le=100, allow_inf_nan=False)
    step_mm: float | None = Field(default=None, ge=2, le=100, allow_inf_nan=False)
    order: Literal["largest first", "smallest first"] = "largest first"
    resin: WhichResin = "by what comes last"
    old_stack: str = Field(default="", max_length=400)
    typed: Typed = Field(default_factory=dict, max_length=12)
