"""What is cut for a bag and stands in no stack: peel ply, mesh, breather."""

from collections.abc import Iterator
from contextlib import suppress
from math import ceil, sqrt

from layup.bag import stack
from layup.errors import LayupError
from layup.job import JobSpec, Part
from layup.laminate.measures import asked_for, measure
from layup.materials import Fabric
from layup.preparing.before_pot import CutPiece
from layup.preparing.pieces import edges_of, split_to_roll


def brought(job: JobSpec) -> Iterator[Fabric]:
    """The fabrics that bags bring, each once."""
    return iter({fabric.id: fabric for part in job.parts for fabric, _ in _brings(job, part)}.values())


def pieces_of_bags(job: JobSpec) -> Iterator[CutPiece]:
    """Their pieces, part by part and copy by copy, not numbered yet."""
    for part in job.parts:
        brings = list(_brings(job, part))
        if not brings or asked_for(part.shape):
            continue
        with suppress(LayupError):
            measured = measure(part.shape)
            for copy in range(1, part.copies + 1):
                for place, (fabric, over) in enumerate(brings, len(part.plies) + 1):
                    for flat, polygon in enumerate(measured.pieces):
                        xs, ys = [x for x, _ in polygon], [y for _, y in polygon]
                        wider = sqrt(part.developed_area_factor * over) * 1000
                        sides = sorted(max(each) - min(each) for each in (xs, ys))
                        across, along = (side * wider + 2 * part.margin_mm for side in sides)
                        for cut in split_to_roll(along, across, fabric, job.cutting.sheet_overlap_mm):
                            yield CutPiece(
                                id=f"{part.id}.{fabric.id}.{copy}.{flat}.{cut.part_of or 1}".replace(" ", ""),
                                number=0,
                                part_id=part.id,
                                part_name=part.name or "part",
                                copy_number=copy,
                                copies=part.copies,
                                ply_id=fabric.id,
                                ply_number=place,
                                fabric_id=fabric.id,
                                fabric_name=fabric.name,
                                angle="",
                                along_mm=ceil(round(cut.along_mm, 6)),
                                across_mm=ceil(round(cut.across_mm, 6)),
                                part_of=cut.part_of,
                                edges=edges_of(job, fabric),
                                notes=("for the bag",),
                            )


def _brings(job: JobSpec, part: Part) -> Iterator[tuple[Fabric, float]]:
    """What a part's bag brings, with how much more of it is cut than is covered."""
    if part.process == "open mould":
        return
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    yield from stack.brings(
        part, {fabrics[ply.fabric_id].architecture for ply in part.plies if ply.fabric_id in fabrics}
    )
