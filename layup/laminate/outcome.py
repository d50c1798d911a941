"""What a plan says of its parts and plies, as plain frozen records."""

from typing import Literal

from layup.architecture import Architecture
from layup.job import Substrate
from layup.materials import CoatKind, Fibre
from layup.record import Record

# A coat lies among the plies without a fabric.
LayerKind = Architecture | Literal["coat"]

LayerFibre = Fibre | Literal["none"]


class PlyResult(Record):
    """One ply or coat on one copy of its part. Weights in g, areas in m². What is no reinforcement has no fibre share.

    Under a bag `bled_g` more is laid than stays, and goes into what lies on it. Laid in strips, it has a least, a mean and a most number of layers; a ply that does not stay is in no total.
    """

    id: str
    name: str
    architecture: LayerKind
    fibre: LayerFibre
    angle: str
    area_m2: float
    fibre_gsm: float
    resin_gsm: float
    fibre_weight_fraction: float | None
    fraction_source: str
    resin_to_fibre: float | None
    thickness_mm: float
    fibre_volume_fraction: float | None
    fibre_g: float
    resin_g: float
    mopped_off_g: float
    roll_m: float
    tightest_radius_mm: float
    stays: bool = True
    layers_least: int = 1
    layers_mean: float = 1
    layers_most: int = 1
    strip_count: int | None = None
    extra_mm: float = 0
    coat: CoatKind | None = None
    coat_count: int = 1
    lost_g: float = 0
    bled_g: float = 0


class DimensionResult(Record):
    """One measure on a part's drawing: its field in the shape, its value, and where it stands, m."""

    field: str
    value_m: float
    a: tuple[float, ...]
    b: tuple[float, ...]


class PartResult(Record):
    """One part: its area is of one copy, `total_area_m2` of all. Plies as in the document, surface first.

    `pieces` are its polygons lying flat, m. The area of one is its outline's, times what it gains by curving, with the
    margin round it, less its holes.
    """

    id: str
    name: str
    substrate: Substrate
    count: int
    area_m2: float
    total_area_m2: float
    area_working: str
    wet_out_gsm: float
    wet_out_source: str
    wet_out_g: float
    plies: tuple[PlyResult, ...]
    thickness_mm: float
    laminate_gsm: float
    fibre_weight_fraction: float | None
    fibre_g: float
    resin_in_plies_g: float
    outline_m2: float = 0
    perimeter_m: float = 0
    holes_m2: float = 0
    area_rule: str = ""
    pieces: tuple[tuple[tuple[float, ...], ...], ...] = ()
    dimensions: tuple[DimensionResult, ...] = ()
    fibre_volume_fraction: float | None = None
    coats_g: float = 0
    gel_coat_g: float = 0
    weight_g: float = 0
