"""What a piece of cloth is cut to: which way it lies on its roll, where it is split, and what is noted on it.

Pieces are cut square and trimmed on the job.
"""

from dataclasses import dataclass
from math import ceil, cos, radians, sin
from typing import Literal

from layup.architecture import Architecture
from layup.errors import LayupError
from layup.job import JobSpec
from layup.materials import Fabric

LONGEST_UNKNOWN_ROLL_M = 100.0  # memory: past it a roll is heavier than is handled


@dataclass(frozen=True)
class Cut:
    """One piece before it is packed: along the warp and across it, mm, and what split it."""

    along_mm: float
    across_mm: float
    part_of: str = ""


def may_turn(fabric: Fabric) -> bool:
    """Whether a piece may be laid on its roll a quarter turned: a mat is free, a biaxial is flipped (common practice).

    >>> from layup.library import generic
    >>> [may_turn(fabric) for fabric in generic().fabrics if fabric.id in ("csm-450", "cloth-300", "biax-600")]
    [True, False, True]
    """
    return fabric.build.turns != "no"


def across_the_roll(length_mm: float, width_mm: float, angle: str, fabric: Fabric) -> tuple[float, float]:
    """A piece of a part's length and width as (along, across) the warp, for the angle of its ply.

    An angle is from the part's longer side. A stitched biaxial is named by its own fibres, so that 45 comes straight off
    the roll and 0/90 is cut on the bias; of a woven cloth 45 is cut on the bias, as the square it fits in. Exact.

    >>> from layup.library import generic
    >>> cloth = next(fabric for fabric in generic().fabrics if fabric.id == "cloth-300")
    >>> across_the_roll(1000, 400, "90", cloth)
    (400.0, 1000.0)
    >>> [round(side) for side in across_the_roll(1000, 400, "45", cloth)]
    [990, 990]
    """
    turn = _turn_deg(angle, fabric)
    if turn == 0:
        return float(length_mm), float(width_mm)
    if turn == 90:
        return float(width_mm), float(length_mm)
    c, s = cos(radians(turn)), sin(radians(turn))
    return length_mm * c + width_mm * s, length_mm * s + width_mm * c


def _turn_deg(angle: str, fabric: Fabric) -> int:
    if fabric.build.turns == "any way" or not angle:
        return 0
    first = abs(int(angle.split("/")[0]))
    return abs(45 - first) if fabric.build.turns == "a quarter" else first


def split_to_roll(along_mm: float, across_mm: float, fabric: Fabric, overlap_mm: float) -> list[Cut]:
    """A piece as what its roll can give: strips along the warp, even, each overlapping the last.

    One that is longer than the roll is joined again across. A core is butted. Raises LayupError where the overlap is as
    wide as the roll.

    >>> from layup.library import generic
    >>> cloth = next(fabric for fabric in generic().fabrics if fabric.id == "cloth-300")
    >>> [(cut.across_mm, cut.part_of) for cut in split_to_roll(3000, 2000, cloth, 50)]
    [(1025.0, '1 of 2'), (1025.0, '2 of 2')]
    """
    overlap = 0.0 if fabric.architecture is Architecture.CORE else overlap_mm
    longest = (fabric.roll_length_m or LONGEST_UNKNOWN_ROLL_M) * 1000
    if overlap >= min(fabric.roll_width_mm, longest):
        raise LayupError(
            f"an overlap of {{={overlap:g} mm}} leaves nothing of {fabric.name}, {{={fabric.roll_width_mm:g} mm}} wide"
        )
    wide, widths = _even(across_mm, fabric.roll_width_mm, overlap)
    long_, lengths = _even(along_mm, longest, overlap)
    count = widths * lengths
    return [Cut(long_, wide, f"{number} of {count}" if count > 1 else "") for number in range(1, count + 1)]


def _even(whole_mm: float, most_mm: float, overlap_mm: float) -> tuple[float, int]:
    """Even pieces no longer than `most_mm` that cover `whole_mm` with overlaps between them."""
    if whole_mm <= most_mm:
        return float(whole_mm), 1
    count = ceil(round((whole_mm - overlap_mm) / (most_mm - overlap_mm), 9))
    return (whole_mm + (count - 1) * overlap_mm) / count, count


def edges_of(job: JobSpec, fabric: Fabric) -> Literal["torn", "cut"]:
    torn = fabric.architecture is Architecture.CHOPPED_MAT and job.practice.mat_edges == "torn"
    return "torn" if torn else "cut"


def fabric_notes(fabric: Fabric) -> tuple[str, ...]:
    frays = "frays: handle by the edges" if fabric.build.frays else ""
    return tuple(note for note in (fabric.cut_face and f"{fabric.cut_face} down", frays) if note)
