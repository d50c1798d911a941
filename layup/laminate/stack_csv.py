"""A stack as a table that a spreadsheet opens, and one that a spreadsheet wrote read back."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

from layup.csv_cells import csv_number, csv_text, read_rows
from layup.errors import OutOfRange, Unreadable, known
from layup.job import MOST_PLIES
from layup.laminate.notation import parse_line
from layup.laminate.notation_written import quick_words
from layup.laminate.quick_ply import QuickPly
from layup.materials import Fabric
from layup.scales import METRIC, Scales
from layup.units import convert

COLUMNS = ("ply", "fabric", "g/m2", "kind", "angle", "strip", "wider mm", "fibre %")
# The heads of a shop in ounces and of one in inches, with what one of theirs is in the core's unit.
_IN_OUNCES = ("oz/yd2", convert(1, "oz/yd²", "g/m²"))
_IN_INCHES = ("wider in", convert(1, "in", "mm"))
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


def write_stack(plies: Sequence[QuickPly], scales: Scales = METRIC) -> str:
    """A stack as CSV in the shop's units, with a byte-order mark; semicolons where decimals are written with a comma.

    A cell that a spreadsheet would run is written with an apostrophe before it.

    >>> from layup.customs import Customs
    >>> from layup.library import generic
    >>> cloth = next(fabric for fabric in generic().fabrics if fabric.id == "cloth-300")
    >>> write_stack([QuickPly(cloth, "45", 50, 0.475)], Scales(customs=Customs("en-DE"))).splitlines()[1]
    '"1";"300 cloth, twill";"300";"cloth";"45";"";"50";"47,5"'
    """
    decimal_comma = scales.customs.decimal_comma
    by_ounces = scales.unit("areal_weight", 0) == "oz/yd²"
    weigh, gsm = _IN_OUNCES if by_ounces else ("g/m2", 1)
    wide, mm = ("wider mm", 1) if scales.unit_set == "metric" else _IN_INCHES
    heads = [{"g/m2": weigh, "wider mm": wide}.get(name, name) for name in COLUMNS]
    rows = []
    for place, ply in enumerate(plies, 1):
        if ply.coat:
            of_what = (f"{ply.coat.kind} coat", ply.coat.resin_gsm, f"{ply.coat.kind} coat")
        else:
            fabric = known(ply.fabric)
            of_what = (fabric.name, fabric.areal_weight_gsm, fabric.kind)
        name, weight_gsm, kind = of_what
        share = None if ply.fibre_weight_fraction is None else 100 * ply.fibre_weight_fraction
        numbers = [
            csv_number(value, decimal_comma=decimal_comma)
            for value in (weight_gsm / gsm, ply.extra_mm / mm if ply.extra_mm else None, share)
        ]
        rows.append((str(place), name, numbers[0], kind, ply.angle, ply.strip, *numbers[1:]))
    return csv_text(heads, rows, decimal_comma=decimal_comma)


def read_stack(
    raw: bytes,
    fabrics: Sequence[Fabric],
    strips: Sequence[str] = (),
    own_ids: Collection[str] = (),
    scales: Scales = METRIC,
) -> StackTable:
    """Read a stack from CSV: any of the usual delimiters, a decimal comma or point, with or without a byte-order mark;
    weights in g/m2 or oz/yd2, wider edges in mm or in.

    `strips` are the named strips of the part, `own_ids` the fabrics on the shop's shelf. What cannot be read is said by
    its row. Raises OutOfRange or Unreadable for what is no such table at all.

    >>> from layup.library import generic
    >>> table = read_stack("g/m2;kind;wider mm\\n300;cloth;12,5\\n4;wool;\\n".encode(), generic().fabrics)
    >>> [(ply.fabric.name, ply.extra_mm) for ply in table.plies], table.problems[0].row
    ([('300 cloth, twill', 12.5)], 3)
    """
    rows = read_rows(raw, "stack")
    header = [name.strip().lower() for name in rows[0]] if rows else []
    missing = [] if {"g/m2", _IN_OUNCES[0]} & set(header) else [_IN_OUNCES[0] if scales.fabric_unit == "oz" else "g/m2"]
    missing += [] if "kind" in header else ["kind"]
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
            weight=_measure(cells, "g/m2", _IN_OUNCES, digits=1),
            kind=cells.get("kind", ""),
            angle=cells.get("angle", ""),
            strip=cells.get("strip", ""),
            extra_mm=_measure(cells, "wider mm", _IN_INCHES, digits=3),
            psi_pct=_decimal(cells.get("fibre %", "")),
        )
        line = parse_line(
            words,
            fabrics,
            scales=Scales(scales.unit_set, scales.fluid_ounce, "g/m²", scales.customs),
            strips=strips,
            own_ids=own_ids,
        )
        problems += [RowProblem(number, problem.message) for problem in line.problems]
        plies += line.plies
        if len(plies) > MOST_PLIES:
            raise OutOfRange(f"has more than {MOST_PLIES} plies: split it")
    return StackTable(tuple(plies), tuple(problems))


def _measure(cells: Mapping[str, str], name: str, other: tuple[str, float], *, digits: int) -> str:
    """A cell's number in the core's unit, whichever of the two columns it stands in; what is no number, as it stands."""
    own, (other_name, in_core) = _decimal(cells.get(name, "")), other
    if own or not cells.get(other_name):
        return own
    typed = _decimal(cells[other_name])
    try:
        return f"{round(float(typed) * in_core, digits):g}"
    except ValueError:
        return typed


def _decimal(cell: str) -> str:
    return cell.replace(",", ".")
