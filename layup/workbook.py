"""A job as a workbook: its parts, plies, joints and resin, as values that a spreadsheet can go on with."""

import io
from collections.abc import Iterable, Iterator, Sequence

from openpyxl import Workbook
from openpyxl.styles import Font

from layup.job import JobSpec
from layup.outcome import Plan
from layup.printable import plain
from layup.scales import METRIC, Quantity, Scales

Cell = str | float | int | None
# The head of a column: words, or words and what is measured; then a spreadsheet is told how to show it.
Head = str | tuple[str, Quantity]


def write_workbook(job: JobSpec, plan: Plan, scales: Scales = METRIC) -> bytes:
    """The job with its plan as XLSX, one sheet each for parts, plies, joints where there are any, and resin.

    Values, never formulas.

    >>> from layup.shop_facts import ShopFacts
    >>> from layup.plan import plan
    >>> job = JobSpec(name="Deck")
    >>> write_workbook(job, plan(job, ShopFacts()))[:2]
    b'PK'
    """
    book = Workbook()
    book.remove(book.active)
    _sheet(book, "Parts", _PARTS, _parts(job, plan), scales)
    _sheet(book, "Plies", _PLIES, _plies(plan), scales)
    if plan.joints:
        _sheet(book, "Joints", _JOINTS, _joints(plan), scales)
    _sheet(book, "Resin", ("what", ("weight", "mass")), _resin(plan), scales)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


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


_JOINTS: tuple[Head, ...] = (
    *("joint", "kind", "copies", ("run", "length"), ("paste", "volume"), ("resin in the paste", "mass"), "filler"),
    *("stands how", ("filler", "mass"), ("filler loose", "volume"), ("wet-out", "mass"), ("to smooth", "mass")),
    *("strips", ("tabbing fibre", "mass"), ("tabbing resin", "mass"), ("resin in all", "mass")),
)


def _joints(plan: Plan) -> Iterator[tuple[Cell, ...]]:
    for joint in plan.joints:
        yield (
            *(joint.name, joint.kind, joint.copies, joint.run_m, joint.paste_ml, joint.resin_g, joint.filler_name),
            *(joint.consistency, joint.filler_g, joint.filler_loose_ml, joint.wet_out_g, joint.smoothing_g),
            *(len(joint.tabs), joint.tabs_fibre_g, joint.tabs_resin_g, joint.all_resin_g),
        )


def _resin(plan: Plan) -> Iterator[tuple[Cell, ...]]:
    use = plan.resin
    if use is None:
        return
    yield "stays in the plies", use.in_plies_g
    yield "first wet-out of the surface", use.first_wet_out_g
    yield "coats", use.in_coats_g
    yield "in the joints", use.in_joints_g
    yield "mopped off, or comes off with a peel ply", use.mopped_off_g
    yield "left in cups, brushes and rollers", use.left_in_vessels_g
    yield "over, so that pots can be read", use.surplus_g
    yield "to mix", use.mixed_g
    yield "reserve, kept in the tin", use.reserve_g
    yield "to have", use.to_have_g
    yield "part A of what is mixed", use.part_a_g
    yield "part B of what is mixed", use.part_b_g
    yield "catalyst", use.catalyst_g
    yield "gel coat, from its own tin", use.gel_coat_g


def _sheet(book: Workbook, title: str, heads: Sequence[Head], rows: Iterable[Sequence[Cell]], scales: Scales) -> None:
    sheet = book.create_sheet(title)
    quantities = [None if isinstance(head, str) else head[1] for head in heads]
    names = [head if isinstance(head, str) else scales.column(*head) for head in heads]
    for column, name in enumerate(names, 1):
        cell = sheet.cell(1, column, name)
        cell.font = Font(bold=True)
    for place, row in enumerate(rows, 2):
        for column, (value, quantity) in enumerate(zip(row, quantities, strict=True), 1):
            cell = sheet.cell(place, column)
            if isinstance(value, str):
                cell.value = plain(value)
                # Text that begins like a formula stays text.
                cell.data_type = "s"
                continue
            shown = scales.in_column(quantity, value) if quantity else value
            cell.value = round(shown, 4) if isinstance(shown, float) else shown
            if isinstance(shown, float):
                cell.number_format = "#,##0.0##"
    sheet.freeze_panes = "A2"
    for column in sheet.columns:
        width = max(len(str(cell.value or "")) for cell in column)
        sheet.column_dimensions[column[0].column_letter].width = min(48, width + 2)
