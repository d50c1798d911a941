"""What lies under a bag, from the part outward, and how much of it is cut."""

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from math import ceil

from layup.architecture import Architecture
from layup.bag.outcome import BagLayer, BagLayerKind
from layup.job import Part
from layup.laminate.outcome import PartResult, PlyResult
from layup.library import generic
from layup.materials import Fabric

# What is cut over what is covered (memory).
PEEL_PLY_OVER, BREATHER_OVER, BAG_OVER = 1.10, 1.15, 1.40
PLEAT_EVERY_M = 0.6  # memory
LEAST_PLEATS = 4
# Tape runs round once, and up and down each pleat (common practice); a little is wasted at corners (memory).
TAPE_OVER = 1.05
BREATHER_HOLDS_GSM = 400.0  # of resin, in one of 150 g/m² (memory)
BREATHER_MM, FILM_MM, PEEL_MM, MESH_MM, BAG_MM = 3.0, 0.03, 0.12, 0.8, 0.06  # memory
# By hand and m of tape, and for laying out, min (memory).
BAGGING_MIN, BAGGING_MIN_PER_M = 5.0, 4.0
# Air under a bag that lies close, l/m² of part, and in hoses and trap, l (memory).
AIR_L_PER_M2, AIR_L = 4.0, 6.0
# What lies over a laminate, from it outward, and how thick, mm.
_OVER_IT: tuple[tuple[Architecture, BagLayerKind, float], ...] = (
    (Architecture.PEEL_PLY, "peel ply", PEEL_MM),
    (Architecture.PERFORATED_FILM, "perforated film", FILM_MM),
    (Architecture.FLOW_MESH, "flow mesh", MESH_MM),
    (Architecture.BLEEDER, "breather", BREATHER_MM),
)
# Under this it lies flat in the bag (memory).
_FLAT_MM = 5.0

_FABRICS = {fabric.id: fabric for fabric in generic().fabrics}
PEEL_PLY, FILM, BREATHER, MESH = (_FABRICS[each] for each in ("peel-85", "film-30", "breather-150", "mesh-150"))


@dataclass(frozen=True)
class Sheet:
    """What the bag itself takes: m² of film, its pleats, m of tape."""

    bag_m2: float
    pleats: int
    tape_m: float


def sheet_of(part: Part, told: PartResult) -> Sheet:
    """The bag over a part that stands up by its height: a pleat lets the film down into the corner.

    Each pleat takes twice its height of tape, and of film twice its height along the edge.
    """
    stands_m = part.bag.height_mm / 1000
    pleats = max(LEAST_PLEATS, ceil(told.perimeter_m / PLEAT_EVERY_M)) if part.bag.height_mm > _FLAT_MM else 0
    film = BAG_OVER * told.area_m2 + told.perimeter_m * stands_m
    return Sheet(film, pleats, TAPE_OVER * told.perimeter_m + pleats * 2 * stands_m)


def air_l(part: Part, told: PartResult) -> float:
    """The air that is pumped out, l: as typed, or what lies under a close bag, in hoses and trap (memory)."""
    return part.bag.air_l or AIR_L + AIR_L_PER_M2 * told.area_m2


def bagging_min(part: Part, told: PartResult, hands: float) -> float:
    """How long it takes from the last resin to a sealed bag, min: as typed, or by the tape that is stuck (memory)."""
    usual = (BAGGING_MIN + BAGGING_MIN_PER_M * sheet_of(part, told).tape_m) / hands
    return usual if part.bag.bagging_min is None else part.bag.bagging_min


def has(plies: tuple[PlyResult, ...], architecture: Architecture) -> bool:
    """Whether a stack has something of an architecture in it."""
    return any(ply.architecture is architecture for ply in plies)


def brings(part: Part, written: Collection[Architecture | str]) -> Iterator[tuple[Fabric, float]]:
    """What comes with the bag over a stack of these architectures: the fabric, and how much more is cut than is covered."""
    infused = part.process == "infusion"
    if part.bag.peel_ply and Architecture.PEEL_PLY not in written:
        yield PEEL_PLY, PEEL_PLY_OVER
    if not infused and part.bag.perforated_film and Architecture.PERFORATED_FILM not in written:
        yield FILM, PEEL_PLY_OVER
    if infused and part.infusion.mesh and Architecture.FLOW_MESH not in written:
        yield MESH, 1.0
    if not infused and part.bag.breather and Architecture.BLEEDER not in written:
        yield BREATHER, BREATHER_OVER


def added(part: Part, told: PartResult) -> Iterator[tuple[Fabric, float]]:
    """The same with how much of it is cut, m²."""
    for fabric, over in brings(part, {ply.architecture for ply in told.plies}):
        yield fabric, over * told.area_m2


def holds_gsm(part: Part, told: PartResult) -> float:
    """What of resin the breathers over a part can take, g/m² (memory)."""
    written = sum(ply.layers_mean for ply in told.plies if ply.architecture is Architecture.BLEEDER)
    breathers = written or float(part.bag.breather)
    return BREATHER_HOLDS_GSM * breathers


def layers_of(part: Part, told: PartResult) -> Iterator[BagLayer]:
    """The stack outward from the mould."""
    yield _layer("mould", told.substrate, told.area_m2, 0, 0)
    for ply in told.plies:
        if ply.stays and ply.thickness_mm > 0:
            core = ply.architecture is Architecture.CORE
            yield _layer("core" if core else "laminate", ply.name, ply.area_m2, ply.resin_gsm, ply.thickness_mm, True)
    coming = {fabric.architecture: (fabric, area) for fabric, area in added(part, told)}
    for architecture, kind, thick in _OVER_IT:
        for ply in told.plies:
            if ply.architecture is architecture:
                yield _layer(kind, ply.name, ply.area_m2, ply.resin_gsm, thick, True)
        if architecture in coming:
            fabric, area = coming[architecture]
            yield _layer(kind, fabric.name, area, fabric.resin_taken_gsm or 0.0, thick)
    yield _layer("bag", "Bag film", sheet_of(part, told).bag_m2, 0, BAG_MM)


def _layer(
    kind: BagLayerKind, name: str, area_m2: float, resin_gsm: float, thick: float, written: bool = False
) -> BagLayer:
    return BagLayer(kind=kind, name=name, area_m2=area_m2, resin_gsm=resin_gsm, thickness_mm=thick, written=written)
