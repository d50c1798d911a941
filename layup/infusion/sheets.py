"""Infusions as a table of the workbook."""

from collections.abc import Iterator

from layup.kind import Cell, Head, Sheet
from layup.outcome import Plan


def sheets_of_infusions(plan: Plan) -> Iterator[Sheet]:
    """The infusions that could be worked out, where there are any: one row a part."""
    if plan.infusions:
        yield Sheet("Infusions", _HEADS, _rows(plan))


_HEADS: tuple[Head, ...] = (
    *("part", "alike", ("fibre", "mass"), ("core", "mass"), ("mesh", "mass"), ("peel ply", "mass")),
    *(("hoses", "mass"), ("trap", "mass"), ("bucket", "mass"), ("mixed", "mass"), ("held ready", "mass")),
    *(("room", "temperature"), "full after, min", "sets after, min", "as far as it would come", "stays dry, %"),
)


def _rows(plan: Plan) -> Iterator[tuple[Cell, ...]]:
    for told in plan.infusions:
        yield (
            *(told.name, told.copies, told.in_fibre_g, told.in_core_g, told.in_mesh_g, told.in_peel_ply_g),
            *(told.in_hoses_g, told.in_trap_g, told.in_bucket_g, told.mixed_g, told.stand_by_g),
            *(told.room_c, told.full_min, told.sets_min, told.margin, 100 * told.dry_share),
        )
