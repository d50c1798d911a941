"""What lies there already, under what is laid: its layers as somebody found them, and how it gave under a load."""

from typing import Annotated, Literal

from pydantic import Field

from layup.document import Document, Id, Typed

MOST_OLD_LAYERS = 12

MadeOfOld = Literal[
    "plywood",
    "timber",
    "foam",
    "end-grain balsa",
    "mat laminate",
    "woven laminate",
    "mat and woven laminate",
    "carbon laminate",
]


class OldLayer(Document):
    """A layer that lies there, from the side that nothing is laid on. Its `modulus_gpa` along the strip, where somebody knows it."""

    id: Id
    made_of: MadeOfOld = "plywood"
    thickness_mm: Annotated[float, Field(ge=0.1, le=200, allow_inf_nan=False)] | None = None
    modulus_gpa: float | None = Field(default=None, ge=0.001, le=400, allow_inf_nan=False)
    typed: Typed = Field(default_factory=dict, max_length=2)


class AsFound(Document):
    """What is stiffened: its layers, and by how much it gave under the same load at the same place, before and after, mm."""

    layers: tuple[OldLayer, ...] = Field(default=(), max_length=MOST_OLD_LAYERS)
    gave_before_mm: float | None = Field(default=None, ge=0.01, le=1000, allow_inf_nan=False)
    gave_after_mm: float | None = Field(default=None, ge=0.01, le=1000, allow_inf_nan=False)
    tried_with: Annotated[str, Field(max_length=200)] = ""
    typed: Typed = Field(default_factory=dict, max_length=2)
