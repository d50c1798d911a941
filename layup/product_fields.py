"""How each kind of product is written down, field by field, taken from its model: a form can be made of nothing else."""

from enum import Enum
from functools import cache
from types import NoneType, UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin

from annotated_types import MaxLen
from pydantic import BaseModel, ConfigDict

from layup.fabric_words import kinds
from layup.materials import SourceKind
from layup.shelf import MODEL_OF, ProductKind
from layup.units import UNITS_OF, Dimension

Takes = Literal["number", "numbers", "words", "long words", "choice", "choices", "tick", "thing", "things"]


class ProductField(BaseModel):
    """One field: what it is called, what it takes and its unit. `fields` are those of a thing inside the product.

    A number with a `dimension` may be typed in any of its `units`, a ratio as a tin prints it. One that is `sourced` says
    where it comes from.
    """

    model_config = ConfigDict(frozen=True)

    name: str
    label: str
    takes: Takes
    unit: str = ""
    dimension: Dimension | Literal["ratio"] | None = None
    units: tuple[str, ...] = ()
    options: tuple[str, ...] = ()
    required: bool = False
    sourced: bool = False
    hint: str = ""
    usual: Any = None
    fields: tuple["ProductField", ...] = ()


# What the end of a name says about a number: its unit, and what it measures where that may be typed in others.
_UNITS: dict[str, tuple[str, Dimension | Literal["ratio"] | None]] = {
    "_b_per_a": ("", "ratio"),
    "_g_per_cm3": ("g/cm³", None),
    "_g_per_l": ("g/l", None),
    "_per_kg": ("a kg", None),
    "_per_m2": ("a m²", None),
    "_per_ml": ("in 1 ml", None),
    "_gsm": ("g/m²", "areal_weight"),
    "_m2": ("m²", "area"),
    "_mm": ("mm", "thickness"),
    "_ml": ("ml", "volume"),
    "_kg": ("kg", None),
    "_pct": ("%", None),
    "_min": ("min", "time"),
    "_months": ("months", None),
    "_c": ("°C", "temperature"),
    "_f": ("°F", "temperature"),
    "_g": ("g", "mass"),
    "_m": ("m", "length"),
}
_LABELS = {
    "epoxy_ok": "its maker says epoxy",
    "mat_share": "mat's share of the glass",
    "core_thickness_mm": "thickness of the core",
    "resin_taken_gsm": "resin it takes",
    "styrene_dissolves": "styrene dissolves it",
    "dries": "how a solvent dries",
    "roll_width_mm": "roll, width",
    "roll_length_m": "roll, length",
    "tightest_radius_mm": "tightest radius it turns",
    "cut_face": "face to the mould",
    "density_g_per_cm3": "density",
    "cured_density_g_per_cm3": "density, cured",
    "ratio_volume_b_per_a": "B for one of A, by volume",
    "ratio_weight_b_per_a": "B for one of A, by weight",
    "ratio_tolerance_pct": "ratio may be off by",
    "bases": "may be measured by",
    "minimum_c": "not under",
    "comfort_minimum_c": "better over",
    "maximum_c": "not over",
    "air_inhibited": "stays tacky in air",
    "deepest_pour_mm": "deepest pour",
    "band_low_f": "made for, from",
    "band_high_f": "to",
    "pot_life_mass_g": "of a pot of",
    "pot_life_temperature_c": "at",
    "least_pct": "dose, least",
    "most_pct": "dose, most",
    "stated_pct": "stated dose",
    "stated_temperature_c": "at",
    "stated_gel_min": "gels in",
    "exponent_n": "how a dose shortens it",
    "ends": "what ends it",
    "minutes": "after",
    "sold_kg": "sold in",
    "sold_by": "sold by the",
    "mass_g": "of a pot of",
    "unit": "reads in",
    "reads_to": "reads to; of a pump, a stroke gives",
    "marks_in": "its marks are in",
    "columns_for": "its two columns are printed for",
    "most": "reads up to",
    "made_of": "made of",
    "parts_runs": "loose parts to one of resin: runs",
    "parts_drapes": "drapes",
    "parts_peaks": "peaks",
    "parts_stands": "stands",
    "price_per_kg": "price",
    "price_per_m2": "price",
}
_HINTS = {
    "mat_share": "0 to 1; a combination only",
    "core_thickness_mm": "a core only",
    "resin_taken_gsm": "a core, peel ply, breather or mesh",
    "hardener_family": "the name its hardeners share, such as the tin's own",
    "ratio_volume_b_per_a": "as the tin says, 2:1, or 0.5",
    "ratio_weight_b_per_a": "100:45, or 0.45",
    "exponent_n": "1: twice the dose, half the time",
    "columns_for": "2:1, as on the cup; leave empty where it has plain marks",
    "marked_every_ml": "of a cup with columns, one number of the first",
    "kind": "such as cloth, csm, biax",
}
_MINUTES = {"minutes"}


@cache
def fields_of(kind: ProductKind) -> tuple[ProductField, ...]:
    """The fields of a kind of product, in the order its label is read.

    >>> weight = next(field for field in fields_of("fabric") if field.name == "areal_weight_gsm")
    >>> weight.label, weight.unit, weight.takes, weight.required, weight.sourced
    ('areal weight', 'g/m²', 'number', True, True)
    """
    return _fields(MODEL_OF[kind])


def _fields(model: type[BaseModel]) -> tuple[ProductField, ...]:
    sourced = "sources" in model.model_fields
    hidden = {"id", "sources"} if sourced else set()
    found = [_field(name, info, sourced) for name, info in model.model_fields.items() if name not in hidden]
    # What has to be there comes first, things with fields of their own last.
    return tuple(sorted(found, key=lambda field: (field.takes in ("thing", "things"), not field.required)))


def _field(name: str, info: Any, sourced: bool) -> ProductField:
    kind, many = _kind(info.annotation)
    suffix = next((end for end in _UNITS if name.endswith(end)), "")
    none: tuple[str, Dimension | None] = ("min", "time") if name in _MINUTES else ("", None)
    unit, dimension = _UNITS.get(suffix, none)
    options = tuple(kinds()) if sourced and name == "kind" and kind is str else _options(kind)
    takes = "choice" if options and not many else _takes(kind, many, info)
    number = takes == "number"
    return ProductField(
        name=name,
        label=_LABELS.get(name, name.removesuffix(suffix).replace("_", " ")),
        takes=takes,
        unit=unit,
        dimension=dimension if number else None,
        units=UNITS_OF[dimension] if number and dimension in UNITS_OF else (),
        options=options,
        required=info.is_required(),
        sourced=sourced and number,
        hint=_HINTS.get(name, ""),
        usual=None if info.is_required() or many else _plain(info.default),
        fields=_fields(kind) if takes in ("thing", "things") else (),
    )


def _kind(annotation: Any) -> tuple[Any, bool]:
    """What a field holds, and whether it holds many of it."""
    origin = get_origin(annotation)
    if origin is Annotated:
        return _kind(get_args(annotation)[0])
    if origin in (Union, UnionType):
        return _kind(next(part for part in get_args(annotation) if part is not NoneType))
    if origin is tuple:
        return _kind(get_args(annotation)[0])[0], True
    return annotation, False


def _takes(kind: Any, many: bool, info: Any) -> Takes:
    if isinstance(kind, type) and issubclass(kind, BaseModel):
        return "things" if many else "thing"
    if _options(kind):
        return "choices" if many else "choice"
    if kind is bool:
        return "tick"
    if kind is str:
        longest = next((limit.max_length for limit in info.metadata if isinstance(limit, MaxLen)), 0)
        return "long words" if longest > 100 else "words"
    return "numbers" if many else "number"


def _options(kind: Any) -> tuple[str, ...]:
    if get_origin(kind) is Literal:
        return get_args(kind)
    if isinstance(kind, type) and issubclass(kind, Enum):
        return tuple(member.value for member in kind)
    return ()


def _plain(value: Any) -> Any:
    return value.value if isinstance(value, Enum) else value


SOURCE_KINDS = tuple(kind.value for kind in SourceKind if kind is not SourceKind.INVENTED)
