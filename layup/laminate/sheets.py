"""Parts and plies as tables of the workbook."""

from collections.abc import Iterator

from layup.job import JobSpec
from layup.kind import Cell, Head, Sheet
from layup.outcome import Plan


def sheets_of_parts(job: JobSpec, plan: Plan) -> Iterator[Sheet]:
    """The parts, and their plies in laying order."""
    yield Sheet("Parts", _PARTS, _parts(job, plan))
    yield Sheet("Plies", _PLIES, _plies(plan))


_PARTS: tuple[Head, ...] = (
    *("part", "surface", "process", "copies", ("area of one", "area"), ("area of all", "area")),
    *(("thickness", "thickness"), ("laminate", "laminate_weight")),
)


def _parts(job: JobSpec, plan: Plan) -> Iterator[tuple[Cell, ...]]:
    process = {part.id: part.process for part in job.parts}
    for part in plan.parts:
        yield (
            *(part.name, part.substrate, process[part.id], part.count, part.area_m2, part.total_area_m2),
            *(part.thickness_mm, part.laminate_gsm),
        )


_PLIES: tuple[Head, ...] = (
    *("part", "ply", "fabric", "angle", ("area of one", "area"), ("fibre", "areal_weight"), "fibre %"),
    *(("resin", "areal_weight"), ("fibre of all", "mass"), ("resin of all", "mass"), ("thickness", "thickness")),
    *(("off the roll for all", "roll_run"), "source of the fibre share"),
)


def _plies(plan: Plan) -> Iterator[tuple[Cell, ...]]:
    for part in plan.parts:
        for number, ply in enumerate(part.plies, 1):
            yield (
                *(part.name, number, ply.name, ply.angle, ply.area_m2, ply.fibre_gsm),
                None if ply.fibre_weight_fraction is None else 100 * ply.fibre_weight_fraction,
                *(ply.resin_gsm, ply.fibre_g * part.count, ply.resin_g * part.count, ply.thickness_mm),
                *(ply.roll_m * part.count, ply.fraction_source),
            )
