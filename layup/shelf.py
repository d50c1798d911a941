"""A shop's shelf: every kind of product it may hold, how one is read, and how two copies of one differ."""

from typing import Any, Literal, get_args

from pydantic import BaseModel, ConfigDict

from layup.equipment import Consumable, Tool, Vessel
from layup.materials import Fabric, Filler, Material, ResinSystem, UsualCoat

ProductKind = Literal["fabric", "resin", "filler", "vessel", "tool", "consumable"]
PRODUCT_KINDS: tuple[ProductKind, ...] = get_args(ProductKind)
MODEL_OF: dict[ProductKind, type[Material]] = {
    "fabric": Fabric,
    "resin": ResinSystem,
    "filler": Filler,
    "vessel": Vessel,
    "tool": Tool,
    "consumable": Consumable,
}
_SHELF_OF: dict[ProductKind, str] = {kind: f"{kind}s" for kind in PRODUCT_KINDS}


class Library(BaseModel):
    """Products to choose from."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    fabrics: tuple[Fabric, ...] = ()
    resins: tuple[ResinSystem, ...] = ()
    fillers: tuple[Filler, ...] = ()
    coats: tuple[UsualCoat, ...] = ()
    vessels: tuple[Vessel, ...] = ()
    tools: tuple[Tool, ...] = ()
    consumables: tuple[Consumable, ...] = ()

    def of(self, kind: ProductKind) -> tuple[Material, ...]:
        """The products of one kind."""
        return getattr(self, _SHELF_OF[kind])

    def after(self, products: dict[ProductKind, list[Material]]) -> "Library":
        """This library with a shop's own products before it."""
        own = {_SHELF_OF[kind]: (*found, *self.of(kind)) for kind, found in products.items()}
        return self.model_copy(update=own)


def read_product(kind: ProductKind, document: dict[str, Any]) -> Material:
    """A product from its document. Raises pydantic's ValidationError with the fields at fault.

    >>> scale = {"id": "t", "name": "Scale", "kind": "scale", "reads_to": 1, "sources": {"reads_to": "data sheet"}}
    >>> read_product("tool", scale).reads_to
    1.0
    """
    return MODEL_OF[kind].model_validate(document)


def differences(before: Material, now: Material) -> tuple[str, ...]:
    """What changed between two copies of one product, in words.

    >>> cloth = Fabric.model_construct(name="300 cloth", areal_weight_gsm=300.0)
    >>> differences(cloth, cloth.model_copy(update={"areal_weight_gsm": 290.0}))
    ('areal weight gsm 300 → 290',)
    """
    old, new = before.model_dump(mode="json"), now.model_dump(mode="json")
    return tuple(_change(name, old.get(name), new.get(name)) for name in new if old.get(name) != new.get(name))


def _change(name: str, old: Any, new: Any) -> str:
    words = name.replace("_", " ")
    simple = all(value is None or isinstance(value, str | int | float) for value in (old, new))
    return f"{words} {_shown(old)} → {_shown(new)}" if simple else f"{words} changed"


def _shown(value: Any) -> str:
    if value is None or value == "":
        return "nothing"
    return f"{value:g}" if isinstance(value, float) else str(value)
