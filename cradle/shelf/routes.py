"""Routes of the shelf: its products, their data sheets, what a job may choose from."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Field, File, Router, Schema, UploadedFile

from cradle.shelf.keeping import (
    add_product,
    correct_product,
    library_of,
    retire_product,
)
from cradle.shelf.models import DataSheet, Product
from cradle.shelf.sheets import MOST_BYTES, MOST_SHEETS, content_type_of, safe_name
from cradle.shops.people import require_writer
from cradle.shops.routes import shop_of
from layup.errors import OutOfRange
from layup.library import generic
from layup.product_fields import SOURCE_KINDS, ProductField, fields_of
from layup.shelf import PRODUCT_KINDS, Library, ProductKind
from layup.tin_label import TinLabel, tin_of

router = Router(tags=["shelf"])


class SheetOut(Schema):
    id: UUID
    name: str
    size_bytes: int
    added_at: datetime


class ProductOut(Schema):
    """A product of the shelf. `number` is the revision to save from."""

    id: UUID
    kind: ProductKind
    number: int
    name: str
    retired: bool
    saved_at: datetime
    document: dict[str, Any]
    sheets: list[SheetOut]


class ProductIn(Schema):
    kind: ProductKind
    document: Annotated[dict[str, Any], Field(max_length=60)]


class CorrectionIn(Schema):
    number: int
    document: Annotated[dict[str, Any], Field(max_length=60)]


class RetireIn(Schema):
    retired: bool


class ShelfForms(Schema):
    """How each kind of product is written down, and where a number may come from."""

    kinds: dict[ProductKind, list[ProductField]]
    sources: list[str]


def product_of(request: HttpRequest, product_id: UUID, *, to_write: bool = False) -> Product:
    """A product of one of the signed-in person's shops, or 404. Raises Forbidden where he may only look at it."""
    product = get_object_or_404(Product.objects.of(request.user).select_related("shop"), pk=product_id)
    if to_write:
        require_writer(request.user, product.shop)
    return product


def _out(product: Product) -> ProductOut:
    sheets = product.sheets.defer("content")
    return ProductOut(
        id=product.pk,
        kind=product.kind,
        number=product.number,
        name=product.document["name"],
        retired=product.retired_at is not None,
        saved_at=product.saved_at,
        document=product.document,
        sheets=[SheetOut.model_validate(sheet, from_attributes=True) for sheet in sheets],
    )


@router.get("/shelf-forms", response=ShelfForms)
def read_forms(request: HttpRequest):
    return {"kinds": {kind: fields_of(kind) for kind in PRODUCT_KINDS}, "sources": SOURCE_KINDS}


@router.get("/shops/{uuid:shop_id}/library", response=Library)
def read_library(request: HttpRequest, shop_id: UUID):
    """What a job may choose from: the shop's own products, then the generic ones."""
    return library_of(shop_of(request, shop_id))


@router.get("/shops/{uuid:shop_id}/shelf", response=list[ProductOut])
def list_products(request: HttpRequest, shop_id: UUID):
    return [_out(product) for product in shop_of(request, shop_id).products.all()]


@router.post("/shops/{uuid:shop_id}/shelf", response=ProductOut)
def new_product(request: HttpRequest, shop_id: UUID, sent: ProductIn):
    shop = shop_of(request, shop_id, to_write=True)
    return _out(add_product(shop, sent.kind, sent.document, request.user))


@router.post("/shops/{uuid:shop_id}/shelf/from-label", response=ProductOut)
def new_tin(request: HttpRequest, shop_id: UUID, sent: TinLabel):
    """A resin on the shelf from what its label says; the rest is as of the generic one that it is like."""
    shop = shop_of(request, shop_id, to_write=True)
    return _out(add_product(shop, "resin", tin_of(sent, generic().resins), request.user))


@router.put("/shelf/{uuid:product_id}", response=ProductOut)
def write_product(request: HttpRequest, product_id: UUID, sent: CorrectionIn):
    product = product_of(request, product_id, to_write=True)
    return _out(correct_product(product, sent.number, sent.document, request.user))


@router.put("/shelf/{uuid:product_id}/retired", response=ProductOut)
def set_retired(request: HttpRequest, product_id: UUID, sent: RetireIn):
    return _out(retire_product(product_of(request, product_id, to_write=True), sent.retired))


@router.post("/shelf/{uuid:product_id}/sheets", response=ProductOut)
def add_sheet(request: HttpRequest, product_id: UUID, sheet: UploadedFile = File(...)):  # noqa: B008
    """A data sheet: a PDF or a picture."""
    product = product_of(request, product_id, to_write=True)
    if sheet.size > MOST_BYTES:
        raise OutOfRange(
            f"is {sheet.size / 1e6:.0f} MB: {MOST_BYTES / 1e6:.0f} MB at most, so save it smaller", "sheet"
        )
    if product.sheets.count() >= MOST_SHEETS:
        raise OutOfRange(f"a product keeps {MOST_SHEETS} sheets: remove an old one", "sheet")
    content = sheet.read()
    content_type = content_type_of(content)
    DataSheet.objects.create(
        product=product,
        name=safe_name(sheet.name or "", content_type),
        content_type=content_type,
        size_bytes=len(content),
        content=content,
        added_by=request.user,
    )
    return _out(product)


@router.get("/shelf/{uuid:product_id}/sheets/{uuid:sheet_id}", response=str)
def read_sheet(request: HttpRequest, product_id: UUID, sheet_id: UUID):
    """A data sheet, to be saved and never shown in the page."""
    sheet = get_object_or_404(product_of(request, product_id).sheets, pk=sheet_id)
    headers = {
        "Content-Disposition": f'attachment; filename="{sheet.name.encode("ascii", "ignore").decode()}"',
        "X-Content-Type-Options": "nosniff",
        "Content-Security-Policy": "default-src 'none'; sandbox",
    }
    return HttpResponse(bytes(sheet.content), content_type=sheet.content_type, headers=headers)


@router.delete("/shelf/{uuid:product_id}/sheets/{uuid:sheet_id}", response=ProductOut)
def remove_sheet(request: HttpRequest, product_id: UUID, sheet_id: UUID):
    product = product_of(request, product_id, to_write=True)
    get_object_or_404(product.sheets, pk=sheet_id).delete()
    return _out(product)
