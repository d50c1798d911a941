"""The lengths of tabbing in the order they go down: joint by joint, each copy and side by itself."""

from collections.abc import Iterator
from math import ceil

from layup.job import JobSpec, Joint, TabStrip
from layup.joints.tabbing import lengths_laid
from layup.preparing.before_pot import CutPiece
from layup.preparing.pieces import Cut, edges_of, fabric_notes, split_to_roll


def piece_count(job: JobSpec) -> int:
    """How many lengths the tabbing is cut into.

    >>> piece_count(JobSpec(name="Deck"))
    0
    """
    return sum(joint.count * joint.sides * len(cuts) for joint, _, _, cuts in _tab_cuts(job))


def _tab_cuts(job: JobSpec) -> Iterator[tuple[Joint, int, TabStrip, list[Cut]]]:
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
            cuts = [Cut(piece_m * 1000, strip.width_mm, f"{n} of {count}") for n in range(1, count + 1)]
            if count == 1:
                cuts = split_to_roll(piece_m * 1000, strip.width_mm, fabric, job.cutting.sheet_overlap_mm)
            yield joint, at, strip, cuts


def tab_pieces(job: JobSpec, *, hidden: bool) -> Iterator[CutPiece]:
    """The lengths of tabbing in the order they go down: joint by joint, each copy and side by itself."""
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    cuts_of: dict[str, list[tuple[Joint, int, TabStrip, list[Cut]]]] = {}
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
                        edges=edges_of(job, fabric),
                        notes=fabric_notes(fabric),
                    )
