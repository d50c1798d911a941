"""The shapes a builder measures. A measure that is not known yet is left out, and the plan asks for it."""

from typing import Annotated, Literal

from pydantic import Field

from layup.document import Document, Id, Metres, Name, SquareMetres, Typed

MOST_STATIONS = 101


class Rectangle(Document):
    kind: Literal["rectangle"] = "rectangle"
    width_m: Metres | None = None
    length_m: Metres | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


class Trapezoid(Document):
    """Two parallel sides and the distance between them, alike on both ends."""

    kind: Literal["trapezoid"] = "trapezoid"
    side_a_m: Metres | None = None
    side_b_m: Metres | None = None
    height_m: Metres | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


class Triangle(Document):
    """A base and the height over it."""

    kind: Literal["triangle"] = "triangle"
    base_m: Metres | None = None
    height_m: Metres | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


class Disc(Document):
    kind: Literal["disc"] = "disc"
    diameter_m: Metres | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


class CylinderSkin(Document):
    """The skin of a cylinder, or of `around` of its turn: 0.5 is half a pipe."""

    kind: Literal["cylinder"] = "cylinder"
    diameter_m: Metres | None = None
    length_m: Metres | None = None
    around: float = Field(default=1, gt=0, le=1, allow_inf_nan=False)
    typed: Typed = Field(default_factory=dict, max_length=4)


class FrustumSkin(Document):
    """The skin of a cone cut off at both ends: two diameters and the straight height between them."""

    kind: Literal["frustum"] = "frustum"
    diameter_a_m: Metres | None = None
    diameter_b_m: Metres | None = None
    height_m: Metres | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


class Strips(Document):
    """A strip along an edge or a seam, on one side or on both."""

    kind: Literal["strip"] = "strip"
    width_m: Metres | None = None
    length_m: Metres | None = None
    sides: int = Field(default=1, ge=1, le=8)
    typed: Typed = Field(default_factory=dict, max_length=4)


class Station(Document):
    """How far along, and how far round it is there. A pointed end has a girth of nought."""

    id: Id
    at_m: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] | None = None
    girth_m: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


class Girths(Document):
    """A surface by its girths at stations along it, in their order."""

    kind: Literal["girths"] = "girths"
    stations: tuple[Station, ...] = Field(default=(), max_length=MOST_STATIONS)


class TypedArea(Document):
    """An area that was measured elsewhere."""

    kind: Literal["area"] = "area"
    area_m2: SquareMetres | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


class Patch(Document):
    """A repair: a hole or a flaw, ground back in a taper all round it, whose plies step to the edge of the ground.

    `taper` is the ground's width for one of thickness; each ply is `step_mm` wider than the one before. `behind` says that
    its back can be reached.
    """

    kind: Literal["patch"] = "patch"
    width_m: Metres | None = None
    length_m: Metres | None = None
    depth_mm: float | None = Field(default=None, gt=0, le=200, allow_inf_nan=False)
    through: bool = True
    behind: bool = False
    taper: float = Field(default=12, ge=4, le=100, allow_inf_nan=False)
    step_mm: float = Field(default=20, ge=2, le=100, allow_inf_nan=False)
    order: Literal["largest first", "smallest first"] = "largest first"
    typed: Typed = Field(default_factory=dict, max_length=6)


Shape = Annotated[
    Rectangle | Trapezoid | Triangle | Disc | CylinderSkin | FrustumSkin | Strips | Girths | TypedArea | Patch,
    Field(discriminator="kind"),
]


class Band(Document):
    """A named strip of a part, which plies can be laid over instead of all of it: a keel, a chine, a transom's edge."""

    id: Id
    name: str = Field(min_length=1, max_length=30, pattern=r"^[^\s,+@]+$")
    width_m: Metres | None = None
    length_m: Metres | None = None
    typed: Typed = Field(default_factory=dict, max_length=4)


class CutOut(Document):
    """A hole in a part, `count` of them alike: a disc where it has a diameter, else a rectangle."""

    id: Id
    name: Name = ""
    diameter_m: Metres | None = None
    width_m: Metres | None = None
    length_m: Metres | None = None
    count: int = Field(default=1, ge=1, le=200)
    typed: Typed = Field(default_factory=dict, max_length=4)
