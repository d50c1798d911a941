"""A job as a workbook: its parts, plies, joints and resin, as values that a spreadsheet can go on with."""

import io
from collections.abc import Iterable, Iterator, Sequence

from openpyxl import Workbook
from openpyxl.styles import Font

from layup.job import JobSpec
from layup.outcome import Plan
from layup.printable import plain

Cell = str | float | int | None


def write_workbook(job: JobSpec, plan: Plan) -> bytes:
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
    _sheet(book, "Parts", _PARTS, _parts(job, plan))
    _sheet(book, "Plies", _PLIES, _plies(plan))
    if plan.joints:
        _sheet(book, "Joints", _JOINTS, _joints(plan))
    _sheet(book, "Resin", ("what", "g"), _resin(plan))
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


_PARTS = ("part", "surface", "process", "copies", "area of one m2", "area of all m2", "thickness mm", "laminate g/m2")


def _parts(job: JobSpec, plan: Plan) -> Iterator[tuple[Cell, ...]]:
    process = {part.id: part.process for part in job.parts}
    for part in plan.parts:
        yield (
            *(part.name, part.substrate, process[part.id], part.count, part.area_m2, part.total_area_m2),
            *(part.thickness_mm, part.laminate_gsm),
        )


_PLIES = (
    *("part", "ply", "fabric", "angle", "area of one m2", "fibre g/m2", "fibre %", "resin g/m2"),
    *("fibre g, all", "resin g, all", "thickness mm", "off the roll m, all", "source of the fibre share"),
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


_JOINTS = (
    *("joint", "kind", "copies", "run m", "paste ml", "resin in the paste g", "filler", "stands how", "filler g"),
    *("filler loose ml", "wet-out g", "to smooth g", "strips", "tabbing fibre g", "tabbing resin g", "resin in all g"),
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


def _sheet(book: Workbook, title: str, header: Sequence[str], rows: Iterable[Sequence[Cell]]) -> None:
    sheet = book.create_sheet(title)
    for place, row in enumerate((header, *rows), 1):
        for column, value in enumerate(row, 1):
            cell = sheet.cell(place, column)
            cell.value = (
                round(value, 4) if isinstance(value, float) else plain(value) if isinstance(value, str) else value
            )
            if isinstance(value, str):
                # Text that begins like a formula stays text.
                cell.data_type = "s"
            if place == 1:
                cell.font = Font(bold=True)
    sheet.freeze_panes = "A2"
    for column in sheet.columns:
        width = max(len(str(cell.value or "")) for cell in column)
        sheet.column_dimensions[column[0].column_letter].width = min(48, width + 2)
