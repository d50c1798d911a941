"""What a shop does with its shelf: put a product on it, correct it, retire it, compare a job's copies with it."""

from collections.abc import Iterable
from typing import Any
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone
from pydantic import BaseModel

from cradle.shelf.models import Product, ProductRevision
from cradle.shops.models import Shop
from layup.chemistry.ratio import parse_ratio
from layup.errors import LayupError, OutOfRange, Unreadable
from layup.job import JobMaterials
from layup.library import generic
from layup.materials import Fabric, Material
from layup.shelf import MODEL_OF, Library, ProductKind, differences, read_product

MOST_PRODUCTS = 500


class Overtaken(LayupError):
    """Somebody saved the same product meanwhile."""


class ShelfWord(BaseModel):
    """How a job's copy of a product stands to the shelf: retired there, or newer, and in what."""

    kind: ProductKind
    id: str
    name: str
    retired: bool
    changes: tuple[str, ...]


@transaction.atomic
def add_product(shop: Shop, kind: ProductKind, document: dict[str, Any], person: AbstractBaseUser) -> Product:
    """A new product on the shelf. Raises pydantic's ValidationError at the fields at fault."""
    if shop.products.count() >= MOST_PRODUCTS:
        raise OutOfRange(f"a shelf holds {MOST_PRODUCTS} products: retire some, or correct one that is there")
    product = Product(shop=shop, kind=kind)
    product.document = _document(product, document)
    product.save()
    _keep_revision(product, person)
    return product


@transaction.atomic
def correct_product(product: Product, number: int, document: dict[str, Any], person: AbstractBaseUser) -> Product:
    """Save a product that was read at a revision. Raises Overtaken where another was saved since."""
    product = Product.objects.select_for_update().get(pk=product.pk)
    if product.number != number:
        raise Overtaken("somebody corrected this product meanwhile: close it, open it again and look")
    corrected = _document(product, document)
    if corrected != product.document:
        product.document, product.number = corrected, number + 1
        product.save()
        _keep_revision(product, person)
    return product


def retire_product(product: Product, retired: bool) -> Product:
    """Take a product off the lists to choose from, or put it back. Jobs keep their copies."""
    product.retired_at = timezone.now() if retired else None
    product.save(update_fields=["retired_at"])
    return product


def _document(product: Product, document: dict[str, Any]) -> dict[str, Any]:
    own_id = {"id": product.pk.hex} if "id" in MODEL_OF[product.kind].model_fields else {}
    # What is inside a product and has an id of its own gets one here, where it is put on the shelf.
    inside = {}
    if product.kind == "resin":
        hardeners = document.get("hardeners")
        if isinstance(hardeners, list):
            inside = {"hardeners": [_with_id(product, at, each) for at, each in enumerate(hardeners)]}
    written = _written(document | own_id | inside)
    return read_product(product.kind, written | _ratios(written)).model_dump(mode="json")


def _ratios(document: dict[str, Any]) -> dict[str, float]:
    """Ratios typed as the tin prints them, 2:1 or 100:45, as B for one of A. Raises Unreadable at the field."""
    typed = {name: document.get(name) for name in ("ratio_volume_b_per_a", "ratio_weight_b_per_a")}
    found = {}
    for name, words in typed.items():
        if isinstance(words, str):
            try:
                found[name] = parse_ratio(words).b_per_a
            except LayupError as error:
                raise Unreadable(error.message, name) from error
    return found


def _written(document: Any) -> Any:
    """Without the fields left empty, so that one that is needed is said to be missing."""
    if isinstance(document, dict):
        return {name: _written(value) for name, value in document.items() if value is not None}
    return [_written(each) for each in document] if isinstance(document, list) else document


def _with_id(product: Product, at: int, hardener: Any) -> Any:
    if not isinstance(hardener, dict):
        return hardener
    return hardener | {"id": hardener.get("id") or f"{product.pk.hex}-{at}"}


def _keep_revision(product: Product, person: AbstractBaseUser) -> None:
    ProductRevision.objects.create(product=product, number=product.number, document=product.document, saved_by=person)


def products_of(shop: Shop) -> dict[ProductKind, list[Material]]:
    """What is on the shelf and not retired, by kind."""
    found: dict[ProductKind, list[Material]] = {}
    for product in shop.products.filter(retired_at=None):
        found.setdefault(product.kind, []).append(product.material())
    return found


def own_fabrics(shop: Shop) -> tuple[Fabric, ...]:
    """The rolls that stand on the shop's shelf."""
    return tuple(product.material() for product in shop.products.filter(kind="fabric", retired_at=None))


def library_of(shop: Shop) -> Library:
    """What a job of the shop may choose from: its own products, then the generic ones."""
    return generic_for(shop).after(products_of(shop))


def generic_for(shop: Shop) -> Library:
    """The generic library, its fabrics called as the shop buys them."""
    return generic(in_ounces=shop.shop_facts().fabric_unit == "oz")


def shelf_words(shop: Shop, materials: JobMaterials) -> tuple[ShelfWord, ...]:
    """The job's products that are retired on the shelf, or newer there."""
    copies: list[Material] = [*materials.fabrics, *materials.resins, *materials.fillers]
    standing = {product.pk.hex: product for product in shop.products.filter(pk__in=_uuids(copies))}
    words = []
    for copy in copies:
        product = standing.get(copy.id)
        if product is None:
            continue
        changes = differences(copy, product.material())
        if changes or product.retired_at:
            words.append(
                ShelfWord(
                    kind=product.kind,
                    id=copy.id,
                    name=copy.name,
                    retired=product.retired_at is not None,
                    changes=changes,
                )
            )
    return tuple(words)


def _uuids(copies: Iterable[Material]) -> list[UUID]:
    return [
        UUID(hex=copy.id) for copy in copies if len(copy.id) == 32 and all(c in "0123456789abcdef" for c in copy.id)
    ]
