"""Tables as CSV: those that leave the program are read by any spreadsheet and run by none; those brought in are read."""

import csv
import io
from collections.abc import Iterable, Sequence

from layup.errors import OutOfRange, Unreadable
from layup.printable import plain

MOST_BYTES = 1_000_000
_DELIMITERS = (";", "\t", ",")
# What a spreadsheet would take for a formula.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def csv_text(header: Sequence[str], rows: Iterable[Sequence[str]], *, decimal_comma: bool = False) -> str:
    """A table as CSV with a byte-order mark; semicolons where decimals are written with a comma. Rows end
    as RFC 4180 has them.

    A cell that a spreadsheet would run is written with an apostrophe before it; letters that do not print are left out,
    and every cell is quoted, so that none begins a row.

    >>> csv_text(("what",), [("=1+1",), ("a\\r=1",)])
    '\\ufeff"what"\\r\\n"\\'=1+1"\\r\\n"a=1"\\r\\n'
    """
    text = io.StringIO()
    table = csv.writer(text, delimiter=";" if decimal_comma else ",", lineterminator="\r\n", quoting=csv.QUOTE_ALL)
    table.writerow([_harmless(plain(name)) for name in header])
    for row in rows:
        table.writerow([_harmless(plain(cell)) for cell in row])
    return "\ufeff" + text.getvalue()


def _harmless(cell: str) -> str:
    return f"'{cell}" if cell.startswith(_FORMULA) else cell


def csv_number(value: float | None, *, decimal_comma: bool = False) -> str:
    """A number's cell, empty where there is none.

    >>> csv_number(12.5, decimal_comma=True), csv_number(1_250_000.0)
    ('12,5', '1250000')
    """
    if value is None:
        return ""
    written = f"{value:.6f}".rstrip("0").rstrip(".")
    return written.replace(".", ",") if decimal_comma else written


def read_rows(raw: bytes, what: str) -> list[list[str]]:
    """The rows of a CSV: any of the usual delimiters, with or without a byte-order mark. `what` it is to be, in a word.

    Raises OutOfRange or Unreadable for what is no table at all.

    >>> read_rows("hour;°C\\n8:00;14,5\\n".encode(), "forecast")
    [['hour', '°C'], ['8:00', '14,5']]
    """
    if len(raw) > MOST_BYTES:
        raise OutOfRange(f"is larger than {MOST_BYTES / 1e6:g} MB: no {what} is")
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Unreadable("is not text: save it as CSV, UTF-8") from error
    first = text.split("\n", 1)[0]
    try:
        return list(csv.reader(io.StringIO(text), delimiter=max(_DELIMITERS, key=first.count)))
    except csv.Error as error:
        raise Unreadable("is no table: save it as CSV, one row a line") from error
