"""A stack as a table that a spreadsheet opens, and one that a spreadsheet wrote read back."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from layup.csv_cells import csv_number, csv_text, read_rows
from layup.errors import OutOfRange, Unreadable
from layup.job import MOST_PLIES
from layup.laminate.notation import QuickPly, parse_line, quick_words
from layup.materials import Fabric

COLUMNS = ("ply", "fabric", "g/m2", "kind", "angle", "strip", "wider mm", "fibre %")
_NEEDED = ("g/m2", "kind")
# A cell is read word by word, each against those after it.
MOST_CELL = 120


@dataclass(frozen=True)
class RowProblem:
    """A row that could not be taken, counted as a spreadsheet counts, the header being row 1."""

    row: int
    message: str


@dataclass(frozen=True)
class StackTable:
    plies: tuple[QuickPly, ...]
    problems: tuple[RowProblem, ...]


def write_stack(plies: Sequence[QuickPly], *, decimal_comma: bool = False) -> str:
    """A stack as CSV, with a byte-order mark; semicolons where decimals are written with a comma.

    A cell that a spreadsheet would run is written with an apostrophe before it.

    >>> from layup.library import generic
    >>> cloth = next(fabric for fabric in generic().fabrics if fabric.id == "cloth-300")
    >>> write_stack([QuickPly(cloth, "45", 50, 0.475)], decimal_comma=True).splitlines()[1]
    '"1";"300 cloth, twill";"300";"cloth";"45";"";"50";"47,5"'
    """
    rows = []
    for place, ply in enumerate(plies, 1):
        if ply.coat:
            of_what = (f"{ply.coat.kind} coat", ply.coat.resin_gsm, f"{ply.coat.kind} coat")
        else:
            of_what = (ply.fabric.name, ply.fabric.areal_weight_gsm, ply.fabric.kind)
        name, weight_gsm, kind = of_what
        share = None if ply.fibre_weight_fraction is None else 100 * ply.fibre_weight_fraction
        numbers = [
            csv_number(value, decimal_comma=decimal_comma) for value in (weight_gsm, ply.extra_mm or None, share)
        ]
        rows.append((str(place), name, numbers[0], kind, ply.angle, ply.strip, *numbers[1:]))
    return csv_text(COLUMNS, rows, decimal_comma=decimal_comma)


def read_stack(
    raw: bytes, fabrics: Sequence[Fabric], strips: Sequence[str] = (), own_ids: Collection[str] = ()
) -> StackTable:
    """Read a stack from CSV: any of the usual delimiters, a decimal comma or point, with or without a byte-order mark.

    `strips` are the named strips of the part, `own_ids` the fabrics on the shop's shelf. What cannot be read is said by
    its row. Raises OutOfRange or Unreadable for what is no such table at all.

    >>> from layup.library import generic
    >>> table = read_stack("g/m2;kind;wider mm\\n300;cloth;12,5\\n4;wool;\\n".encode(), generic().fabrics)
    >>> [(ply.fabric.name, ply.extra_mm) for ply in table.plies], table.problems[0].row
    ([('300 cloth, twill', 12.5)], 3)
    """
    rows = read_rows(raw, "stack")
    header = [name.strip().lower() for name in rows[0]] if rows else []
    missing = [name for name in _NEEDED if name not in header]
    if missing:
        raise Unreadable(f"has no column “{missing[0]}”: its first row names them, such as {', '.join(COLUMNS)}")
    plies: list[QuickPly] = []
    problems: list[RowProblem] = []
    for number, row in enumerate(rows[1:], 2):
        cells = {name: cell.strip().lstrip("'") for name, cell in zip(header, row, strict=False)}
        if not any(cells.values()):
            continue
        if max(map(len, row)) > MOST_CELL:
            problems.append(RowProblem(number, f"a cell holds more than {MOST_CELL} letters: no fabric is named so"))
            continue
        words = quick_words(
            weight=_decimal(cells.get("g/m2", "")),
            kind=cells.get("kind", ""),
            angle=cells.get("angle", ""),
            strip=cells.get("strip", ""),
            extra_mm=_decimal(cells.get("wider mm", "")),
            psi_pct=_decimal(cells.get("fibre %", "")),
        )
        line = parse_line(words, fabrics, strips=strips, own_ids=own_ids)
        problems += [RowProblem(number, problem.message) for problem in line.problems]
        plies += line.plies
        if len(plies) > MOST_PLIES:
            raise OutOfRange(f"has more than {MOST_PLIES} plies: split it")
    return StackTable(tuple(plies), tuple(problems))


def _decimal(cell: str) -> str:
    return cell.replace(",", ".")
