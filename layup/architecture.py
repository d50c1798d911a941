"""How fabrics are built: one table says all that holds of an architecture, whoever made the fabric."""

from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise
from math import cos, pi, sin
from typing import Literal

TABLE_SOURCE = "published (ISO 12215-5), from memory"

Segment = tuple[float, float, float, float]
# A tile's width and height, and the strokes in it.
Hatch = tuple[float, float, tuple[Segment, ...]]


class Architecture(StrEnum):
    CHOPPED_MAT = "chopped mat"
    WOVEN_CLOTH = "woven cloth"
    WOVEN_ROVING = "woven roving"
    BIAXIAL = "biaxial"
    TRIAXIAL = "triaxial"
    UNIDIRECTIONAL = "unidirectional"
    COMBINATION = "combination"
    VEIL = "veil"
    SPREAD_TOW = "spread tow"
    TAPE = "tape"
    CONTINUOUS_MAT = "continuous filament mat"
    CHOPPED_TOW = "chopped tow"
    CORE = "core"
    PEEL_PLY = "peel ply"
    PERFORATED_FILM = "perforated film"
    BLEEDER = "bleeder or breather"
    FLOW_MESH = "flow mesh"


@dataclass(frozen=True)
class Fraction:
    """Fibre content by mass, 0 to 1: open mould on a simple surface, on a complex one, in a vacuum bag; and where it comes
    from. None where no figure is known.
    """

    simple: float | None = None
    complex: float | None = None
    bagged: float | None = None
    source: str = ""


@dataclass(frozen=True)
class Build:
    """What holds of every fabric of an architecture.

    `spreading` is how many minutes one pair of hands takes to wet and consolidate a square metre, at the areal weight
    beside it, g/m² (memory). It `turns` on its roll any way, to itself after a quarter, or not at all, since it keeps its
    warp (common practice). A mat is sold by the square foot where it is sold by ounces, and is not laid lean; a woven one
    has a row of its own in carbon. One `comes_off` again with what it took. `kinds` is what it comes in kinds by, `bought`
    which of them is bought.
    """

    spreading: tuple[float, float]
    hatch: Hatch
    fraction: Fraction = Fraction()
    turns: Literal["any way", "a quarter", "no"] = "no"
    mat: bool = False
    woven: bool = False
    frays: bool = False
    comes_off: bool = False
    kinds: str = ""
    bought: str = ""


def _ring(x: float, y: float, radius: float) -> tuple[Segment, ...]:
    turns = [(x + radius * cos(pi * at / 4), y + radius * sin(pi * at / 4)) for at in range(9)]
    return tuple((*one, *other) for one, other in pairwise(turns))


_STROKES: Hatch = (34, 22, ((3, 5, 10, 8), (20, 3, 25, 9), (12, 14, 20, 12), (27, 16, 32, 12), (5, 19, 11, 14)))
_WEAVE: Hatch = (10, 10, ((0, 2.5, 5, 2.5), (5, 7.5, 10, 7.5), (7.5, 0, 7.5, 5), (2.5, 5, 2.5, 10)))
_CROSS: Hatch = (9, 9, ((0, 0, 9, 9), (9, 0, 0, 9)))
_CHECKS = ((0, 0, 11, 0), (11, 0, 11, 22), (0, 11, 22, 11), (0, 0, 0, 11), (22, 11, 22, 22), (11, 22, 22, 22))
_STITCHED = Fraction(0.50, 0.38, 0.60, TABLE_SOURCE)
_CLOTH = Fraction(0.475, 0.36, 0.58, "common practice")
_OPEN_MAT = Fraction(0.20, None, None, "memory")

BUILDS: dict[Architecture, Build] = {
    Architecture.CHOPPED_MAT: Build(
        (6, 450),
        _STROKES,
        Fraction(0.30, 0.25, 0.36, TABLE_SOURCE),
        turns="any way",
        mat=True,
        kinds="Mat by its binder",
    ),
    Architecture.WOVEN_CLOTH: Build((5, 300), _WEAVE, _CLOTH, woven=True, frays=True),
    Architecture.WOVEN_ROVING: Build((8, 600), _WEAVE, Fraction(0.48, 0.36, 0.58, TABLE_SOURCE), frays=True),
    Architecture.BIAXIAL: Build((8, 600), _CROSS, _STITCHED, turns="a quarter"),
    Architecture.TRIAXIAL: Build((8, 600), _CROSS, _STITCHED),
    Architecture.UNIDIRECTIONAL: Build(
        (5, 300), (8, 5, ((0, 2.5, 8, 2.5),)), Fraction(0.55, 0.41, 0.66, TABLE_SOURCE), frays=True
    ),
    # Its share of fibre goes by its share of mat.
    Architecture.COMBINATION: Build(
        (8, 600), (16, 16, ((0, 0, 16, 16), (16, 0, 0, 16), (3, 8, 7, 8), (10, 3, 13, 5))), turns="a quarter"
    ),
    Architecture.VEIL: Build((2, 50), _STROKES, _OPEN_MAT, turns="any way", mat=True),
    Architecture.SPREAD_TOW: Build((5, 160), (22, 22, _CHECKS), woven=True, frays=True),
    Architecture.TAPE: Build(
        (5, 300),
        _WEAVE,
        _CLOTH,
        woven=True,
        kinds="Tape by its edge",
        bought="sewn edges, unless they are to be faired in",
    ),
    Architecture.CONTINUOUS_MAT: Build((6, 450), _STROKES, _OPEN_MAT, turns="any way", mat=True),
    Architecture.CHOPPED_TOW: Build(
        (8, 450), (30, 20, ((3, 4, 12, 8), (18, 3, 26, 8), (8, 14, 18, 11), (22, 16, 28, 11))), turns="any way"
    ),
    Architecture.CORE: Build(
        (6, 800), (26, 22, (*_ring(4, 6.4, 2.4), *_ring(17, 11, 2), *_ring(9, 18.2, 2.2))), turns="any way"
    ),
    Architecture.PEEL_PLY: Build((3, 85), _CROSS, turns="any way", comes_off=True, bought="uncoated"),
    Architecture.PERFORATED_FILM: Build((2, 30), (9, 9, _ring(4.5, 4.5, 1)), turns="any way", comes_off=True),
    Architecture.BLEEDER: Build((2, 150), _CROSS, turns="any way", comes_off=True),
    Architecture.FLOW_MESH: Build((2, 150), _CROSS, turns="any way", comes_off=True),
}
