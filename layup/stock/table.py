"""A stock as a table: as it leaves the program, and as another program or a shop's own list brings it."""

import io
import re
import zipfile
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal, get_args

from openpyxl import Workbook, load_workbook
from openpyxl.styles import Font

from layup.csv_cells import csv_number, csv_text, read_rows
from layup.customs import UNSAID, Customs
from layup.errors import LayupError, OutOfRange, Unreadable
from layup.printable import plain
from layup.record import Record
from layup.stock.articles import ArticleTold
from layup.stock.label_date import read_date
from layup.stock.lots import Lot
from layup.units import Dimension, parse

Column = Literal["product", "amount", "lot", "made", "opened", "use by", "came", "place", "price", "left out"]
COLUMNS: tuple[Column, ...] = get_args(Column)
HEADS = (
    "kind",
    "product",
    "lot",
    "left",
    "unit",
    "came",
    "made",
    "opened",
    "use by",
    "place",
    "seen",
    "price",
    "not to be used",
)
MOST_ROWS = 2000
MOST_UNPACKED_BYTES = 40_000_000
# What lists of other programs call their columns, in lower case.
_CALLED: Mapping[Column, tuple[str, ...]] = {
    "product": ("product", "item", "article", "material", "description", "name", "what"),
    "amount": ("amount", "quantity", "qty", "left", "on hand", "stock", "in stock", "weight", "balance"),
    "lot": ("lot", "batch", "lot no", "lot number", "batch no", "batch number", "lot/batch"),
    "made": ("made", "made on", "manufactured", "production date", "date of manufacture", "mfg date"),
    "opened": ("opened", "opened on", "date opened"),
    "use by": ("use by", "expires", "expiry", "expiry date", "best before", "expiration date", "exp"),
    "came": ("came", "received", "received on", "date received", "delivered"),
    "place": ("place", "location", "shelf", "bin", "where"),
    "price": ("price", "unit price", "cost", "unit cost", "price per unit"),
}


class StockRow(Record):
    """A row of the stock as it leaves: a lot, the price of its unit, and where it stands."""

    lot: Lot
    place: str = ""
    price: float | None = None


class ReadRow(Record):
    """A row that was brought: its line in the file, the article it is of, and its cells by column. `trouble` says at which
    column it cannot be taken, and why.
    """

    line: int
    article: str = ""
    amount: float = 0.0
    cells: dict[Column, str] = {}
    days: dict[Column, date | None] = {}
    price: float | None = None
    trouble: str = ""


class ReadTable(Record):
    """A table that was brought: what its heads are taken for, in their order, and its rows."""

    heads: tuple[str, ...]
    taken_for: tuple[Column, ...]
    rows: tuple[ReadRow, ...]


def stock_csv(rows: Sequence[StockRow], *, decimal_comma: bool = False) -> str:
    """The stock as CSV, amounts in the unit beside them: g, m, or pieces where there is none.

    >>> stock_csv(()).startswith('\\ufeff"kind","product","lot"')
    True
    """
    told = (
        [csv_number(cell, decimal_comma=decimal_comma) if isinstance(cell, float) else cell for cell in _cells(row)]
        for row in rows
    )
    return csv_text(HEADS, told, decimal_comma=decimal_comma)


def stock_xlsx(rows: Sequence[StockRow]) -> bytes:
    """The same as a workbook of one sheet. Values, never formulas.

    >>> stock_xlsx(())[:2]
    b'PK'
    """
    book = Workbook()
    sheet = book.active
    sheet.title = "Stock"
    for column, head in enumerate(HEADS, 1):
        sheet.cell(1, column, head).font = Font(bold=True)
    for line, row in enumerate(rows, 2):
        for column, told in enumerate(_cells(row), 1):
            cell = sheet.cell(line, column)
            cell.value = told if isinstance(told, float) else plain(told)
            if isinstance(told, str):
                cell.data_type = "s"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _cells(row: StockRow) -> tuple[str | float, ...]:
    lot = row.lot
    days = (str(day) if day else "" for day in (lot.received, lot.made, lot.opened, lot.expires))
    price = "" if row.price is None else float(row.price)
    of_lot: tuple[str | float, ...] = (lot.article.kind, lot.name, lot.batch, float(lot.left), lot.article.unit)
    return (*of_lot, *days, row.place, ", ".join(lot.conditions), price, lot.bad)


def read_table(
    raw: bytes, told: Iterable[ArticleTold], taken_for: Sequence[Column] = (), customs: Customs = UNSAID
) -> ReadTable:
    """A table that was brought, CSV or XLSX, with its first row as heads.

    `taken_for` says what each head is; where nothing is said it is guessed by its name. Products are found by their name in
    `told`. Raises LayupError for what is no table; what is wrong with a row is told with it.
    """
    lines = _from_xlsx(raw) if raw[:2] == b"PK" else read_rows(raw, "stock")
    lines = [line for line in lines if any(cell.strip() for cell in line)]
    if len(lines) < 2:
        raise Unreadable("holds no row under its heads")
    if len(lines) > MOST_ROWS + 1:
        raise OutOfRange(f"holds {len(lines) - 1:,} rows: {MOST_ROWS:,} at most, so bring it in parts")
    heads = tuple(head.strip()[:60] for head in lines[0])
    columns = tuple(taken_for) or guessed(heads)
    if len(columns) != len(heads):
        raise OutOfRange("say of each column what it is", "taken_for")
    for needed in ("product", "amount"):
        if columns.count(needed) != 1:
            raise OutOfRange(f"one column must be the {needed}: say which", "taken_for")
    unit_at = next((at for at, head in enumerate(heads) if head.lower() == "unit"), None)
    names = _by_name(told)
    reader = _Reader(columns, unit_at, names, customs)
    rows = tuple(reader.read(number, line) for number, line in enumerate(lines[1:], 2))
    return ReadTable(heads=heads, taken_for=columns, rows=rows)


def guessed(heads: Sequence[str]) -> tuple[Column, ...]:
    """What the heads of a table are, by their names; each column but once.

    >>> guessed(("Item", "Qty", "Batch no", "Colour"))
    ('product', 'amount', 'lot', 'left out')
    """
    found: list[Column] = []
    for head in heads:
        words = re.sub(r"[\s_]+", " ", re.sub(r"\(.*?\)", "", head.lower())).strip(" .:")
        column = next((each for each, called in _CALLED.items() if words in called and each not in found), None)
        found.append(column or "left out")
    return tuple(found)


@dataclass(frozen=True)
class _Reader:
    """What is needed to read a row: what its columns are, where its unit stands, the products by name."""

    columns: tuple[Column, ...]
    unit_at: int | None
    names: Mapping[str, ArticleTold]
    customs: Customs

    def read(self, line: int, cells: Sequence[str]) -> ReadRow:
        """A row, or what is wrong with it."""
        padded = [*cells, *[""] * (len(self.columns) - len(cells))]
        said: dict[Column, str] = {column: padded[at].strip() for at, column in enumerate(self.columns)}
        said.pop("left out", None)
        row = ReadRow(line=line, cells=said)
        told = self.names.get(said["product"].casefold())
        if told is None:
            trouble = (
                f"“{said['product']}” is not on the shelf: put it there first" if said["product"] else "no product"
            )
            return row.model_copy(update={"trouble": trouble})
        unit = padded[self.unit_at].strip() if self.unit_at is not None else ""
        found: dict[str, object] = {"article": told.article.key}
        at = "amount"
        try:
            found["amount"] = _amount(said["amount"], unit, told, self.customs)
            days: dict[str, date | None] = {}
            for at in _DAYS:
                days[at] = read_date(said.get(at, ""), last_of_month=at == "use by", customs=self.customs)
            found["days"] = days
            at = "price"
            found["price"] = float(said["price"].replace(",", ".")) if said.get("price") else None
        except LayupError as error:
            found["trouble"] = f"{at}: {error.message}"
        except ValueError:
            found["trouble"] = f"{at}: is no number"
        return row.model_copy(update=found)


_DAYS: tuple[Column, ...] = ("made", "opened", "use by", "came")


def _amount(words: str, unit: str, told: ArticleTold, customs: Customs) -> float:
    """An amount in the article's unit: with its own unit, with that of the row, or in the article's."""
    if told.article.unit == "":
        try:
            return float(words.replace(",", "."))
        except ValueError:
            raise Unreadable("is no number of pieces") from None
    bare = re.fullmatch(r"[\d.,\s]+", words) is not None
    dimension: Dimension = "mass" if told.article.unit == "g" else "length"
    typed = f"{words} {unit}" if bare and unit else words
    return parse(typed, dimension, default_unit=told.article.unit, customs=customs).value


def _by_name(told: Iterable[ArticleTold]) -> dict[str, ArticleTold]:
    found: dict[str, ArticleTold] = {}
    for each in told:
        for name in (f"{each.part_of}: {each.name}" if each.part_of else each.name, each.name, each.article.product_id):
            found.setdefault(name.casefold(), each)
    return found


def _from_xlsx(raw: bytes) -> list[list[str]]:
    try:
        with zipfile.ZipFile(io.BytesIO(raw)) as packed:
            whole = sum(part.file_size for part in packed.infolist())
    except zipfile.BadZipFile as error:
        raise Unreadable("is no workbook: save it as XLSX or CSV") from error
    if whole > MOST_UNPACKED_BYTES:
        raise OutOfRange("is far larger than any list of stock: save the list alone, as CSV")
    try:
        book = load_workbook(io.BytesIO(raw), read_only=True, data_only=True)
    except Exception as error:
        raise Unreadable("is no workbook: save it as XLSX or CSV") from error
    lines: list[list[str]] = []
    for row in book.worksheets[0].iter_rows(max_row=MOST_ROWS + 2, max_col=40, values_only=True):
        lines.append([_cell(value) for value in row])
    return lines


def _cell(value: object) -> str:
    if value is None:
        return ""
    day = getattr(value, "date", None)
    return str(day()) if callable(day) else str(value)
