"""The pieces of a part's plies, in laying order: each copy of a part by itself, its plies from the surface outward."""

from collections.abc import Iterator
from contextlib import suppress
from math import ceil

from layup.errors import LayupError, Missing, OutOfRange
from layup.job import JobSpec, Part, Ply
from layup.laminate.footprint import flat_sizes, strips_laid
from layup.laminate.measures import Measured, asked_for, measure
from layup.materials import Fabric
from layup.preparing.before_pot import CutPiece
from layup.preparing.pieces import Cut, across_the_roll, edges_of, fabric_notes, split_to_roll


def piece_count(job: JobSpec) -> int:
    """How many pieces the parts are cut into. Raises LayupError for one that no roll holds.

    >>> piece_count(JobSpec(name="Deck"))
    0
    """
    return sum(part.copies * sum(len(cuts) for cuts in each) for part, each in _part_cuts(job))


def pieces_of_parts(job: JobSpec) -> Iterator[CutPiece]:
    """Every piece of the parts, not numbered yet."""
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    for part, cuts in _part_cuts(job):
        for copy in range(1, part.copies + 1):
            for at, ply in enumerate(part.plies):
                for nth, cut in enumerate(cuts[at], 1):
                    yield _piece(job, part, ply, at, copy, nth, cut, fabrics[ply.fabric_id])


def _part_cuts(job: JobSpec) -> Iterator[tuple[Part, list[list[Cut]]]]:
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


def _piece(job: JobSpec, part: Part, ply: Ply, at: int, copy: int, nth: int, cut: Cut, fabric: Fabric) -> CutPiece:
    which = _copy_words(part, copy)
    return CutPiece(
        id=f"{ply.id}.{copy}.{nth}",
        number=0,
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
        edges=edges_of(job, fabric),
        notes=(*((which,) if which else ()), *fabric_notes(fabric)),
    )


def _copy_words(part: Part, copy: int) -> str:
    if not part.pair:
        return ""
    side = "port" if copy % 2 else "starboard"
    return side if side == "port" else "starboard, mirrored: turn the cloth over to cut it"


def _ply_cuts(job: JobSpec, part: Part, at: int, fabrics: dict[str, Fabric], measured: Measured) -> Iterator[Cut]:
    ply = part.plies[at]
    fabric = fabrics.get(ply.fabric_id)
    if ply.coat or fabric is None:
        return
    if ply.strips and ply.strips.width_m:
        for count, long_mm in strips_laid(part, at, measured):
            for number in range(1, count + 1):
                yield Cut(long_mm, ply.strips.width_m * 1000, f"{number} of {count}" if count > 1 else "")
        return
    for length_mm, width_mm in flat_sizes(part, at, measured):
        length_mm, width_mm = max(length_mm, width_mm), min(length_mm, width_mm)
        along, across = across_the_roll(length_mm, width_mm, ply.angle, fabric)
        if fabric.build.turns == "any way" and across > fabric.roll_width_mm >= along:
            along, across = across, along
        yield from split_to_roll(along, across, fabric, job.cutting.sheet_overlap_mm)
