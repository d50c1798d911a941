"""The pieces of a part's plies, in laying order: each copy of a part by itself, bay by bay, its plies from the surface outward."""

from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass
from math import ceil, sqrt

from layup.architecture import Architecture
from layup.errors import LayupError, Missing, OutOfRange
from layup.job import JobSpec, Part
from layup.laminate.bays import Run, run_of
from layup.laminate.footprint import flat_sizes, strips_laid
from layup.laminate.measures import Measured, asked_for, measure
from layup.materials import Fabric
from layup.preparing.before_pot import CutPiece, Divided
from layup.preparing.pieces import Cut, across_the_roll, edges_of, fabric_notes, split_to_roll


def piece_count(job: JobSpec, divided: Divided) -> int:
    """How many pieces the parts are cut into. Raises LayupError for one that no roll holds.

    >>> piece_count(JobSpec(name="Deck"), {})
    0
    """
    return sum(part.copies * sum(len(each.cuts) for each in laid) for part, laid in _laid(job, divided))


def pieces_of_parts(job: JobSpec, *, early: bool, divided: Divided) -> Iterator[CutPiece]:
    """Every piece of the parts, not numbered yet: of those with hidden faces, or of the rest."""
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    for part, laid in _laid(job, divided):
        if bool(part.ground.hidden_faces) != early:
            continue
        for copy in range(1, part.copies + 1):
            for each in laid:
                for nth, cut in enumerate(each.cuts, 1):
                    yield _piece(job, part, each, copy, nth, cut, fabrics[part.plies[each.place].fabric_id])


@dataclass(frozen=True)
class _PlyLaid:
    """The pieces of one ply, or of what of it lies in a bay, from 1; its `place` is counted from nought."""

    place: int
    cuts: tuple[Cut, ...]
    bay: int = 0
    bays: int = 0


def _laid(job: JobSpec, divided: Divided) -> Iterator[tuple[Part, list[_PlyLaid]]]:
    """Each part that can be measured, with the cuts of each of its plies in laying order."""
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
            yield part, list(_plies_laid(job, part, fabrics, measured, divided.get(part.id, ())))


def _plies_laid(
    job: JobSpec, part: Part, fabrics: dict[str, Fabric], measured: Measured, ends: Sequence[float]
) -> Iterator[_PlyLaid]:
    run = run_of(part, measured) if ends else None
    if run is None:
        for at in range(len(part.plies)):
            yield _PlyLaid(at, tuple(_ply_cuts(job, part, at, fabrics, measured)))
        return
    for bay in range(1, len(ends) + 1):
        number = -1
        for at, ply in enumerate(part.plies):
            fabric = fabrics.get(ply.fabric_id)
            if ply.coat or fabric is None:
                continue
            number += 1
            if ply.strips or ply.over or ply.band_id:
                # Its place along the part is not known: it is at hand from the first bay on.
                if bay == 1:
                    yield _PlyLaid(at, tuple(_ply_cuts(job, part, at, fabrics, measured)))
                continue
            back_m = number * part.bays.stagger_mm / 1000
            cuts = _in_bay(job, part, at, fabric, run, ends, bay, back_m)
            yield _PlyLaid(at, tuple(cuts), bay, len(ends))


def _in_bay(
    job: JobSpec, part: Part, at: int, fabric: Fabric, run: Run, ends: Sequence[float], bay: int, back_m: float
) -> Iterator[Cut]:
    """What of a ply lies in a bay, cut square: lapped over the bay before, or butted where it is a core."""
    grown, wider = sqrt(part.developed_area_factor) * 1000, part.margin_mm + part.plies[at].extra_mm
    first, last = bay == 1, bay == len(ends)
    begins = 0.0 if first else ends[bay - 2] - back_m
    stops = ends[bay - 1] - (0.0 if last else back_m)
    lap = 0.0 if first or fabric.architecture is Architecture.CORE else job.cutting.sheet_overlap_mm
    along_run = (stops - begins) * grown + lap + wider * (first + last)
    across_run = run.widest_m(begins, stops) * grown + 2 * wider
    run_is_longer = run.length_m >= run.widest_m(0.0, run.length_m)
    length, width = (along_run, across_run) if run_is_longer else (across_run, along_run)
    along, across = across_the_roll(length, width, part.plies[at].angle, fabric)
    if fabric.build.turns == "any way" and across > fabric.roll_width_mm >= along:
        along, across = across, along
    yield from split_to_roll(along, across, fabric, job.cutting.sheet_overlap_mm)


def _piece(job: JobSpec, part: Part, laid: _PlyLaid, copy: int, nth: int, cut: Cut, fabric: Fabric) -> CutPiece:
    which, ply = _copy_words(part, copy), part.plies[laid.place]
    bay = f".bay{laid.bay}of{laid.bays}" if laid.bay else ""
    return CutPiece(
        id=f"{ply.id}.{copy}{bay}.{nth}",
        number=0,
        part_id=part.id,
        part_name=part.name or "part",
        copy_number=copy,
        copies=part.copies,
        ply_id=ply.id,
        ply_number=laid.place + 1,
        fabric_id=fabric.id,
        fabric_name=fabric.name,
        angle=ply.angle,
        along_mm=ceil(round(cut.along_mm, 6)),
        across_mm=ceil(round(cut.across_mm, 6)),
        part_of=cut.part_of,
        edges=edges_of(job, fabric),
        notes=(*((which,) if which else ()), *fabric_notes(fabric)),
        bay=f"bay {laid.bay} of {laid.bays}" if laid.bay else "",
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
