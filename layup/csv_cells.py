"""Cells of the CSV that leaves the program: read by any spreadsheet, run by none."""

import csv
import io
from collections.abc import Iterable, Sequence

# What a spreadsheet would take for a formula.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def csv_text(header: Sequence[str], rows: Iterable[Sequence[str]], *, decimal_comma: bool = False) -> str:
    """A table as CSV with a byte-order mark; semicolons where decimals are written with a comma.

    A cell that a spreadsheet would run is written with an apostrophe before it.

    >>> csv_text(("what",), [("=1+1",)])
    "\\ufeffwhat\\n'=1+1\\n"
    """
    text = io.StringIO()
    table = csv.writer(text, delimiter=";" if decimal_comma else ",", lineterminator="\n")
    table.writerow(header)
    for row in rows:
        table.writerow([f"'{cell}" if cell.startswith(_FORMULA) else cell for cell in row])
    return "\ufeff" + text.getvalue()


def csv_number(value: float | None, *, decimal_comma: bool = False) -> str:
    """A number's cell, empty where there is none.

    >>> csv_number(12.5, decimal_comma=True)
    '12,5'
    """
    if value is None:
        return ""
    written = f"{value:.6g}"
    return written.replace(".", ",") if decimal_comma else written
