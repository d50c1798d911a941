"""Routes of the stock on paper and as a table: a tin's label, the list as CSV and XLSX, and a list that is brought in."""

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import File, Form, Router, Schema, UploadedFile

from cradle.jobs.prints import CSV
from cradle.jobs.routes import XLSX, download
from cradle.lan.standing import address_for_all
from cradle.shops.models import Shop
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from cradle.stock.keeping import bring_in, told_of
from cradle.stock.routes import lot_of
from layup.csv_cells import MOST_BYTES
from layup.errors import OutOfRange
from layup.paper.kit import Masthead, Paper
from layup.stock.lots import kept
from layup.stock.printing import LotLabel, lot_labels_pdf
from layup.stock.table import COLUMNS, ReadTable, StockRow, read_table, stock_csv, stock_xlsx

router = Router(tags=["stock"])


@router.get("/lots/{uuid:lot_id}/label.pdf", response=str)
def label_as_pdf(request: HttpRequest, lot_id: UUID, paper: Paper = "A4"):
    """A label for the tin, with a code that opens it."""
    lot = lot_of(request, lot_id)
    told = told_of(lot.shop).get(lot.article.key)
    fact, today = lot.fact(), lot.shop.now().date()
    label = LotLabel(
        lot=fact,
        kept=kept(fact, told.keeps if told else None, today),
        address=f"{address_for_all(request)}/shelf/lot/{lot.pk}",
    )
    head = Masthead(lot.shop.name, 1, today, paper, facts_for(request.user, lot.shop).scales)
    return download(lot_labels_pdf(head, [label]), "tin-label.pdf", "application/pdf")


def _rows(shop: Shop) -> list[StockRow]:
    return [StockRow(lot=lot.fact(), place=lot.place, price=lot.price) for lot in shop.lots.filter(left__gt=0)]


@router.get("/shops/{uuid:shop_id}/stock.csv", response=str)
def stock_as_csv(request: HttpRequest, shop_id: UUID):
    """All that is there, a lot a row."""
    shop = shop_of(request, shop_id)
    decimal_comma = facts_for(request.user, shop).scales.customs.decimal_comma
    return download(stock_csv(_rows(shop), decimal_comma=decimal_comma).encode(), "stock.csv", CSV)


@router.get("/shops/{uuid:shop_id}/stock.xlsx", response=str)
def stock_as_xlsx(request: HttpRequest, shop_id: UUID):
    return download(stock_xlsx(_rows(shop_of(request, shop_id))), "stock.xlsx", XLSX)


class BroughtOut(Schema):
    """A table as it was read; `lots` is how many lots came of it, where they were taken."""

    table: ReadTable
    lots: int | None = None


@router.post("/shops/{uuid:shop_id}/stock/table", response=BroughtOut)
def bring_table(
    request: HttpRequest,
    shop_id: UUID,
    table: UploadedFile = File(...),  # noqa: B008
    taken_for: Annotated[str, Form(max_length=2000)] = "",
    keep: Annotated[bool, Form()] = False,
):
    """A list of stock as CSV or XLSX: read, and taken where `keep` says so. `taken_for` has a line for each column."""
    shop = shop_of(request, shop_id, to_write=True)
    if table.size > MOST_BYTES:
        raise OutOfRange(f"is larger than {MOST_BYTES / 1e6:g} MB: no list of stock is", "table")
    columns = taken_for.splitlines()
    unknown = set(columns) - set(COLUMNS)
    if unknown:
        raise OutOfRange(f"a column is one of {', '.join(COLUMNS)}", "taken_for")
    read = read_table(table.read(), told_of(shop).values(), columns, shop.shop_facts().scales.customs)
    return BroughtOut(table=read, lots=bring_in(shop, request.user, read) if keep else None)
