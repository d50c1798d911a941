"""What stands on the shelf of Saltmarsh Slip: invented products like the generic ones, at invented prices."""

from typing import Any

from cradle.shelf.keeping import add_product
from cradle.shops.models import Shop
from layup.library import generic
from layup.materials import SourceKind
from layup.shelf import ProductKind

INVENTED = SourceKind.INVENTED.value
# Kind, the generic product it is like, and what its label says otherwise.
_PRODUCTS: tuple[tuple[ProductKind, str, dict[str, Any]], ...] = (
    ("fabric", "cloth-200", {"name": "Reedbed 200 plain", "price_per_m2": 6.4, "roll_length_m": 50}),
    ("fabric", "csm-600", {"name": "Reedbed 600 mat, emulsion", "price_per_m2": 3.9, "roll_length_m": 40}),
    ("resin", "epoxy-2-1", {"name": "Brackwater laminating epoxy", "price_per_kg": 17.5, "shelf_life_months": 24}),
    ("filler", "wood-flour", {"name": "Brackwater wood flour", "price_per_kg": 9.5}),
    ("vessel", "cup-700", {"name": "Slip cup, 700 ml", "price_each": 0.35, "sold_by": 50}),
    ("consumable", "gloves-nitrile", {"name": "Blue nitrile gloves, pairs", "price_each": 0.28}),
    ("consumable", "roller-mohair", {"name": "Short-pile mohair sleeve", "price_each": 2.4}),
    ("consumable", "stir-stick", {"name": "Birch stir sticks", "price_each": 0.03}),
)
_SOLD_KG = {"resin": [1, 5, 25], "filler": [0.5, 2.5]}


def fill_shelf(shop: Shop, person) -> None:
    """Put the demo's products on a shop's shelf."""
    library = generic()
    for kind, like, label in _PRODUCTS:
        product = next(found for found in library.of(kind) if found.id == like).model_dump(mode="json")
        numbers = [name for name, value in label.items() if isinstance(value, int | float)]
        document = product | label | {"sources": product["sources"] | dict.fromkeys(numbers, INVENTED)}
        if kind in _SOLD_KG:
            document["sold_kg"] = _SOLD_KG[kind]
        for hardener in document.get("hardeners", ()):
            hardener |= {"id": "", "sold_kg": [0.5, 2.5, 12.5], "price_per_kg": 24}
            hardener["sources"] |= {"price_per_kg": INVENTED}
        add_product(shop, kind, document, person)
