"""From plies to pieces of cloth: what size each is, which way it lies on the roll, and the roll it is cut from.

Pieces are cut square and trimmed on the job. They are counted and labelled in the order they go down.
"""

from collections.abc import Iterable, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass
from math import ceil, cos, radians, sin
from typing import Literal

import rectpack

from layup.errors import LayupError, Missing, OutOfRange
from layup.job import CutWishes, JobSpec, Joint, Part, Ply, TabStrip
from layup.joints.tabbing import lengths_laid
from layup.laminate.footprint import flat_sizes, strips_laid
from layup.laminate.measures import Measured, asked_for, measure
from layup.materials import Architecture, Fabric
from layup.preparing.before_pot import CutPiece, CutPlan, CutRoll, PlacedPiece

# Which way a piece may be turned on its roll, by what is known of the fabric (common practice): mats have no grain, a
# stitched biaxial turned a quarter is itself again, everything woven or straight keeps its warp.
_FREE = (
    Architecture.CHOPPED_MAT,
    Architecture.CONTINUOUS_MAT,
    Architecture.VEIL,
    Architecture.CHOPPED_TOW,
    Architecture.PEEL_PLY,
    Architecture.BLEEDER,
    Architecture.FLOW_MESH,
    Architecture.CORE,
)
_QUARTER = (Architecture.BIAXIAL, Architecture.COMBINATION)
_FRAYS = (Architecture.WOVEN_CLOTH, Architecture.WOVEN_ROVING, Architecture.SPREAD_TOW, Architecture.UNIDIRECTIONAL)
_LONGEST_UNKNOWN_ROLL_M = 100.0  # memory: past it a roll is heavier than is handled
_MOST_PIECES = 5000


@dataclass(frozen=True)
class _Cut:
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
    return fabric.architecture in _FREE or fabric.architecture in _QUARTER


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
    if fabric.architecture in _FREE or not angle:
        return 0
    first = abs(int(angle.split("/")[0]))
    if fabric.architecture in _QUARTER or fabric.architecture is Architecture.TRIAXIAL:
        return abs(45 - first) if fabric.architecture in _QUARTER else first
    return first


def split_to_roll(along_mm: float, across_mm: float, fabric: Fabric, overlap_mm: float) -> list[_Cut]:
    """A piece as what its roll can give: strips along the warp, even, each overlapping the last.

    One that is longer than the roll is joined again across. A core is butted. Raises LayupError where the overlap is as
    wide as the roll.

    >>> from layup.library import generic
    >>> cloth = next(fabric for fabric in generic().fabrics if fabric.id == "cloth-300")
    >>> [(cut.across_mm, cut.part_of) for cut in split_to_roll(3000, 2000, cloth, 50)]
    [(1025.0, '1 of 2'), (1025.0, '2 of 2')]
    """
    overlap = 0.0 if fabric.architecture is Architecture.CORE else overlap_mm
    longest = (fabric.roll_length_m or _LONGEST_UNKNOWN_ROLL_M) * 1000
    if overlap >= min(fabric.roll_width_mm, longest):
        raise LayupError(
            f"an overlap of {overlap:g} mm leaves nothing of {fabric.name}, {fabric.roll_width_mm:g} mm wide"
        )
    wide, widths = _even(across_mm, fabric.roll_width_mm, overlap)
    long_, lengths = _even(along_mm, longest, overlap)
    count = widths * lengths
    return [_Cut(long_, wide, f"{number} of {count}" if count > 1 else "") for number in range(1, count + 1)]


def _even(whole_mm: float, most_mm: float, overlap_mm: float) -> tuple[float, int]:
    """Even pieces no longer than `most_mm` that cover `whole_mm` with overlaps between them."""
    if whole_mm <= most_mm:
        return float(whole_mm), 1
    count = ceil(round((whole_mm - overlap_mm) / (most_mm - overlap_mm), 9))
    return (whole_mm + (count - 1) * overlap_mm) / count, count


def piece_count(job: JobSpec) -> int:
    """How many pieces a job is cut into, spares not counted. Raises LayupError as `cut_plan` does.

    >>> piece_count(JobSpec(name="Deck"))
    0
    """
    count = sum(part.copies * sum(len(cuts) for cuts in each) for part, each in _part_cuts(job))
    count += sum(joint.count * joint.sides * len(cuts) for joint, _, _, cuts in _tab_cuts(job))
    if count > _MOST_PIECES:
        raise LayupError(f"{count:,} pieces are more than one job can be cut into: split it")
    return count


def _part_cuts(job: JobSpec) -> Iterator[tuple[Part, list[list[_Cut]]]]:
    """Each part that can be measured, with the cuts of each of its plies."""
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    for part in job.parts:
        if asked_for(part.shape):
            continue
        try:
            measured = measure(part.shape)
        except LayupError:
            continue
        # What is missing or wrong of a ply itself is said by the stack.
        with suppress(Missing, OutOfRange):
            yield part, [list(_ply_cuts(job, part, at, fabrics, measured)) for at in range(len(part.plies))]


def pieces_of(job: JobSpec) -> Iterator[CutPiece]:
    """Every piece of a job in laying order: each copy of a part by itself, its plies from the surface outward."""
    piece_count(job)
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    number = 0
    for piece in _tab_pieces(job, hidden=True):
        number += 1
        yield piece.model_copy(update={"number": number})
    for part, cuts in _part_cuts(job):
        for copy in range(1, part.copies + 1):
            for at, ply in enumerate(part.plies):
                for nth, cut in enumerate(cuts[at], 1):
                    number += 1
                    yield _piece(job, part, ply, at, copy, nth, cut, fabrics[ply.fabric_id], number)
    for piece in _tab_pieces(job, hidden=False):
        number += 1
        yield piece.model_copy(update={"number": number})


def _tab_cuts(job: JobSpec) -> Iterator[tuple[Joint, int, TabStrip, list[_Cut]]]:
    """Each strip of tabbing that is measured, its place in its joint, with the lengths it is cut into, of one side."""
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    for joint in job.joints:
        if joint.kind != "corner" or joint.length_m is None:
            continue
        for at, strip in enumerate(joint.tabs):
            fabric = fabrics.get(strip.fabric_id)
            if fabric is None or strip.width_mm is None or strip.width_mm > fabric.roll_width_mm:
                continue
            count, piece_m = lengths_laid(joint.length_m, joint.tab_piece_m, joint.tab_overlap)
            cuts = [_Cut(piece_m * 1000, strip.width_mm, f"{n} of {count}") for n in range(1, count + 1)]
            if count == 1:
                cuts = split_to_roll(piece_m * 1000, strip.width_mm, fabric, job.cutting.sheet_overlap_mm)
            yield joint, at, strip, cuts


def _tab_pieces(job: JobSpec, *, hidden: bool) -> Iterator[CutPiece]:
    """The lengths of tabbing in the order they go down: joint by joint, each copy and side by itself."""
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    cuts_of: dict[str, list] = {}
    for joint, at, strip, cuts in _tab_cuts(job):
        cuts_of.setdefault(joint.id, []).append((joint, at, strip, cuts))
    for rows in cuts_of.values():
        joint = rows[0][0]
        if joint.hidden != hidden:
            continue
        copies = joint.count * joint.sides
        for copy in range(1, copies + 1):
            for _, at, strip, cuts in rows:
                fabric = fabrics[strip.fabric_id]
                for nth, cut in enumerate(cuts, 1):
                    yield CutPiece(
                        id=f"{strip.id}.{copy}.{nth}",
                        number=0,
                        part_id=joint.id,
                        part_name=joint.name or "joint",
                        copy_number=copy,
                        copies=copies,
                        ply_id=strip.id,
                        ply_number=at + 1,
                        fabric_id=fabric.id,
                        fabric_name=fabric.name,
                        angle="",
                        along_mm=ceil(round(cut.along_mm, 6)),
                        across_mm=ceil(round(cut.across_mm, 6)),
                        part_of=cut.part_of,
                        edges=_edges(job, fabric),
                        notes=_fabric_notes(fabric),
                    )


def _edges(job: JobSpec, fabric: Fabric) -> Literal["torn", "cut"]:
    torn = fabric.architecture is Architecture.CHOPPED_MAT and job.practice.mat_edges == "torn"
    return "torn" if torn else "cut"


def _fabric_notes(fabric: Fabric) -> tuple[str, ...]:
    frays = "frays: handle by the edges" if fabric.architecture in _FRAYS else ""
    return tuple(note for note in (fabric.cut_face and f"{fabric.cut_face} down", frays) if note)


def _piece(
    job: JobSpec, part: Part, ply: Ply, at: int, copy: int, nth: int, cut: _Cut, fabric: Fabric, number: int
) -> CutPiece:
    which = _copy_words(part, copy)
    return CutPiece(
        id=f"{ply.id}.{copy}.{nth}",
        number=number,
        part_id=part.id,
        part_name=part.name or "part",
        copy_number=copy,
        copies=part.copies,
        ply_id=ply.id,
        ply_number=at + 1,
        fabric_id=fabric.id,
        fabric_name=fabric.name,
        angle=ply.angle,
        along_mm=ceil(round(cut.along_mm, 6)),
        across_mm=ceil(round(cut.across_mm, 6)),
        part_of=cut.part_of,
        edges=_edges(job, fabric),
        notes=(*((which,) if which else ()), *_fabric_notes(fabric)),
    )


def _copy_words(part: Part, copy: int) -> str:
    if not part.pair:
        return ""
    side = "port" if copy % 2 else "starboard"
    return side if side == "port" else "starboard, mirrored: cut it face over"


def _ply_cuts(job: JobSpec, part: Part, at: int, fabrics: dict[str, Fabric], measured: Measured) -> Iterator[_Cut]:
    ply = part.plies[at]
    fabric = fabrics.get(ply.fabric_id)
    if ply.coat or fabric is None:
        return
    if ply.strips and ply.strips.width_m:
        for count, long_mm in strips_laid(part, at, measured):
            for number in range(1, count + 1):
                yield _Cut(long_mm, ply.strips.width_m * 1000, f"{number} of {count}" if count > 1 else "")
        return
    for length_mm, width_mm in flat_sizes(part, at, measured):
        length_mm, width_mm = max(length_mm, width_mm), min(length_mm, width_mm)
        along, across = across_the_roll(length_mm, width_mm, ply.angle, fabric)
        if fabric.architecture in _FREE and across > fabric.roll_width_mm >= along:
            along, across = across, along
        yield from split_to_roll(along, across, fabric, job.cutting.sheet_overlap_mm)


def cut_plan(job: JobSpec) -> CutPlan:
    """All pieces of a job packed on its rolls, fabric by fabric.

    Packing: `rectpack`, maximal rectangles, the best of a few orders. A roll that states its length is not cut past it.
    """
    pieces = tuple(pieces_of(job))
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    rolls: list[CutRoll] = []
    for fabric_id in dict.fromkeys(piece.fabric_id for piece in pieces):
        fabric = fabrics[fabric_id]
        own = [piece for piece in pieces if piece.fabric_id == fabric_id]
        rolls += pack(own + _spares(own, job.cutting), fabric)
    return CutPlan(pieces=pieces, rolls=tuple(rolls))


def _spares(pieces: Sequence[CutPiece], wishes: CutWishes) -> list[CutPiece]:
    if not wishes.spare or not pieces:
        return []
    largest = max(pieces, key=lambda piece: piece.along_mm * piece.across_mm)
    return [largest.model_copy(update={"id": f"spare.{largest.fabric_id}", "number": 0, "notes": ("spare",)})]


_ORDERS = (rectpack.SORT_LSIDE, rectpack.SORT_AREA, rectpack.SORT_SSIDE)


def pack(pieces: Sequence[CutPiece], fabric: Fabric) -> list[CutRoll]:
    """Pieces of one fabric on as many rolls as they take; none overlap, and none turns that may not.

    Running length is what has to come off the roll; waste is what of it is in no piece.
    """
    if not pieces:
        return []
    width = int(fabric.roll_width_mm)
    length = int((fabric.roll_length_m or _LONGEST_UNKNOWN_ROLL_M) * 1000)
    packings = (_packed(pieces, width, length, may_turn(fabric), order) for order in _ORDERS)
    best = min(packings, key=lambda rolls: (len(rolls), sum(_run_mm(roll) for roll in rolls)))
    return [_roll(fabric, number, placed) for number, placed in enumerate(best, 1)]


def _packed(pieces: Sequence[CutPiece], width: int, length: int, turn: bool, order) -> list[list[PlacedPiece]]:
    """Rolls filled from their beginning: each is opened only as far as its pieces reach."""
    packer = rectpack.newPacker(
        mode=rectpack.PackingMode.Offline,
        bin_algo=rectpack.PackingBin.BBF,
        pack_algo=rectpack.MaxRectsBl,
        sort_algo=order,
        rotation=turn,
    )
    for at, piece in enumerate(pieces):
        packer.add_rect(piece.across_mm, piece.along_mm, at)
    packer.add_bin(width, length, count=float("inf"))
    packer.pack()
    rolls = []
    for bin_ in packer:
        rolls.append([_placed(pieces[rect.rid], rect) for rect in bin_])
    return rolls


def _placed(piece: CutPiece, rect) -> PlacedPiece:
    turned = (rect.width, rect.height) != (piece.across_mm, piece.along_mm)
    return PlacedPiece(
        piece_id=piece.id,
        number=piece.number,
        x_mm=rect.x,
        y_mm=rect.y,
        across_mm=rect.width,
        along_mm=rect.height,
        turned=turned,
        label=f"{piece.ply_number}",
    )


def _run_mm(placed: Iterable[PlacedPiece]) -> float:
    return max(piece.y_mm + piece.along_mm for piece in placed)


def _roll(fabric: Fabric, number: int, placed: list[PlacedPiece]) -> CutRoll:
    run = _run_mm(placed)
    used = sum(piece.across_mm * piece.along_mm for piece in placed)
    return CutRoll(
        fabric_id=fabric.id,
        fabric_name=fabric.name,
        number=number,
        roll_width_mm=fabric.roll_width_mm,
        roll_length_m=fabric.roll_length_m,
        run_m=run / 1000,
        area_m2=used / 1e6,
        waste_share=1 - used / (run * fabric.roll_width_mm),
        architecture=fabric.architecture,
        fibre=fabric.fibre,
        pieces=tuple(sorted(placed, key=lambda piece: (piece.number == 0, piece.number))),
    )
