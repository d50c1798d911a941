"""A job as a workbook: its parts, its plies and its resin, as values that a spreadsheet can go on with."""

import io
from collections.abc import Iterable, Sequence

from openpyxl import Workbook
from openpyxl.styles import Font

from layup.job import JobSpec
from layup.outcome import Plan

Cell = str | float | int | None


def write_workbook(job: JobSpec, plan: Plan) -> bytes:
    """The job with its plan as XLSX, one sheet each for parts, plies and resin. Values, never formulas.

    >>> from layup.job import ShopFacts
    >>> from layup.plan import plan
    >>> job = JobSpec(name="Deck")
    >>> write_workbook(job, plan(job, ShopFacts()))[:2]
    b'PK'
    """
    book = Workbook()
    book.remove(book.active)
    _sheet(
        book,
        "Parts",
        ("part", "surface", "process", "copies", "area of one m2", "area of all m2", "thickness mm", "laminate g/m2"),
        (
            (
                result.name,
                result.substrate,
                part.process,
                result.count,
                result.area_m2,
                result.total_area_m2,
                result.thickness_mm,
                result.laminate_gsm,
            )
            for result in plan.parts
            for part in job.parts
            if part.id == result.id
        ),
    )
    _sheet(
        book,
        "Plies",
        (
            *("part", "ply", "fabric", "angle", "area of one m2", "fibre g/m2", "fibre %", "resin g/m2"),
            *("fibre g, all", "resin g, all", "thickness mm", "off the roll m, all", "source of the fibre share"),
        ),
        (
            (
                *(part.name, number, ply.name, ply.angle, ply.area_m2, ply.fibre_gsm),
                None if ply.fibre_weight_fraction is None else 100 * ply.fibre_weight_fraction,
                *(ply.resin_gsm, ply.fibre_g * part.count, ply.resin_g * part.count, ply.thickness_mm),
                *(ply.roll_m * part.count, ply.fraction_source),
            )
            for part in plan.parts
            for number, ply in enumerate(part.plies, 1)
        ),
    )
    use = plan.resin
    rows: list[tuple[str, float | None]] = []
    if use:
        rows = [
            ("stays in the plies", use.in_plies_g),
            ("first wet-out of the surface", use.first_wet_out_g),
            ("coats", use.in_coats_g),
            ("in the joints", use.in_joints_g),
            ("mopped off, or comes off with a peel ply", use.mopped_off_g),
            ("left in cups, brushes and rollers", use.left_in_vessels_g),
            ("over, so that pots can be read", use.surplus_g),
            ("to mix", use.mixed_g),
            ("reserve, kept in the tin", use.reserve_g),
            ("to have", use.to_have_g),
            ("part A of what is mixed", use.part_a_g),
            ("part B of what is mixed", use.part_b_g),
            ("catalyst", use.catalyst_g),
            ("gel coat, from its own tin", use.gel_coat_g),
        ]
    _sheet(book, "Resin", ("what", "g"), rows)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _sheet(book: Workbook, title: str, header: Sequence[str], rows: Iterable[Sequence[Cell]]) -> None:
    sheet = book.create_sheet(title)
    for place, row in enumerate((header, *rows), 1):
        for column, value in enumerate(row, 1):
            cell = sheet.cell(place, column)
            cell.value = round(value, 4) if isinstance(value, float) else value
            if isinstance(value, str):
                # Text that begins like a formula stays text.
                cell.data_type = "s"
            if place == 1:
                cell.font = Font(bold=True)
    sheet.freeze_panes = "A2"
    for column in sheet.columns:
        width = max(len(str(cell.value or "")) for cell in column)
        sheet.column_dimensions[column[0].column_letter].width = min(48, width + 2)
