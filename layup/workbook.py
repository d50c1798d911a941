"""A job as a workbook: the tables of each kind of work and its resin, as values that a spreadsheet can go on with."""

import io
from collections.abc import Iterator

from openpyxl import Workbook
from openpyxl.styles import Font

from layup import kinds
from layup.job import JobSpec
from layup.kind import Cell, Sheet
from layup.outcome import Plan, ResinUse
from layup.printable import plain
from layup.scales import METRIC, Scales


def write_workbook(job: JobSpec, plan: Plan, scales: Scales = METRIC) -> bytes:
    """The job with its plan as XLSX, the sheets of each kind of work, and one of resin.

    Values, never formulas.

    >>> from layup.shop_facts import ShopFacts
    >>> from layup.plan import plan
    >>> job = JobSpec(name="Deck")
    >>> write_workbook(job, plan(job, ShopFacts()))[:2]
    b'PK'
    """
    book = Workbook()
    book.remove(book.active)
    for kind in kinds.KINDS:
        for sheet in kind.sheets(job, plan):
            _write(book, sheet, scales)
    _write(book, Sheet("Resin", ("resin", "what", ("weight", "mass")), _resins(plan)), scales)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _resins(plan: Plan) -> Iterator[tuple[Cell, ...]]:
    for resin in plan.resins:
        for what, grams in _where(resin.use) if resin.use else ():
            yield resin.chemistry.resin_name, what, grams
    if plan.gel_coat_g:
        yield "", "gel coat, from its own tin", plan.gel_coat_g


def _where(use: ResinUse) -> Iterator[tuple[str, float | None]]:
    yield "stays in the plies", use.in_plies_g
    yield "first wet-out of the surface", use.first_wet_out_g
    yield "coats", use.in_coats_g
    yield "in the joints", use.in_joints_g
    yield "in the castings", use.in_pours_g
    yield "in what lies under the bag", use.in_bag_g
    yield "mopped off, left on tools, or comes off with a peel ply", use.mopped_off_g
    yield "left in cups, brushes and rollers", use.left_in_vessels_g
    yield "over, so that pots can be read", use.surplus_g
    yield "to mix", use.mixed_g
    yield "reserve, kept in the tin", use.reserve_g
    yield "to have", use.to_have_g
    yield "part A of what is mixed", use.part_a_g
    yield "part B of what is mixed", use.part_b_g
    yield "catalyst", use.catalyst_g


def _write(book: Workbook, told: Sheet, scales: Scales) -> None:
    sheet = book.create_sheet(told.title)
    quantities = [None if isinstance(head, str) else head[1] for head in told.heads]
    names = [head if isinstance(head, str) else scales.column(*head) for head in told.heads]
    for column, name in enumerate(names, 1):
        cell = sheet.cell(1, column, name)
        cell.font = Font(bold=True)
    for place, row in enumerate(told.rows, 2):
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
