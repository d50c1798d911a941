"""The fabric that a weight and a kind mean: one of the shelf, else one like it, made to the weight that was typed."""

import re
from collections.abc import Collection, Iterable, Sequence
from math import isclose

from layup.architecture import Architecture
from layup.errors import Unreadable
from layup.fabric_words import kinds
from layup.laminate.quick_ply import INCH_MM, Doubt, number_of
from layup.materials import Fabric, SourceKind
from layup.units import areal_weight_doubt, convert, figures

# A typed weight is a fabric's own within what a name is rounded by; past it, it is another fabric.
_SAME_WEIGHT_GSM = 0.5
# How far the ounces that a fabric is sold by are rounded from its weight (common practice: 8.85 is sold as 9).
_TRADE_ROUNDS = 0.04
_THICKEST_BARE_CORE_MM = 60
THICK = ("mm", "in", '"', "″")
MAT_CODE_OZ_PER_FT2 = {"08": 0.75, "10": 1.0, "15": 1.5}


def _exactly(fabrics: Iterable[Fabric], weight_gsm: float) -> Fabric | None:
    """The fabric that a weight names, the first of several alike."""
    same = [fabric for fabric in fabrics if abs(fabric.areal_weight_gsm - weight_gsm) <= _SAME_WEIGHT_GSM]
    return min(same, key=lambda fabric: abs(fabric.areal_weight_gsm - weight_gsm), default=None)


def _sold_by(fabrics: Iterable[Fabric], ounces: str, unit: str) -> Fabric | None:
    """The fabric that is sold by so many ounces: its weight rounds to them, as they are typed."""
    digits, typed = len(ounces.partition(".")[2]), float(ounces)
    weights = [(convert(fabric.areal_weight_gsm, "g/m²", unit), fabric) for fabric in fabrics]
    near = [pair for pair in weights if round(pair[0], digits) == typed and abs(pair[0] / typed - 1) < _TRADE_ROUNDS]
    return min(near, key=lambda pair: abs(pair[0] - typed), default=(0.0, None))[1]


def _like(fabrics: Sequence[Fabric], weight_gsm: float, own_ids: Collection[str]) -> Fabric:
    """The fabric nearest in weight, of the shop's own rolls where it has any."""
    own = [fabric for fabric in fabrics if fabric.id in own_ids]
    return min(own or fabrics, key=lambda fabric: abs(fabric.areal_weight_gsm - weight_gsm))


def _made_to_weight(like: Fabric, weight_gsm: float, sold_as: str = "", **changes: object) -> Fabric:
    """A fabric like another, of a weight, by the name it is sold under: by its grams, or as it was typed."""
    name = kinds()[like.kind]["words"][0]
    weight_gsm = round(weight_gsm, 1)
    return like.model_copy(
        update={
            "id": f"{like.kind}-{weight_gsm:g}",
            "name": f"{sold_as or f'{weight_gsm:.0f}'} {name}",
            "areal_weight_gsm": weight_gsm,
            "sources": like.sources | {"areal_weight_gsm": SourceKind.DATA_SHEET},
        }
        | changes
    )


def fabric_named(
    weight: str,
    unit: str,
    kind: str,
    fabrics: Sequence[Fabric],
    fabric_unit: str,
    own_ids: Collection[str],
    start: int,
    end: int,
) -> tuple[Fabric, str]:
    """The fabric of a kind, `fabrics` all of it, that a weight names, with what is to be said of it."""
    if not fabrics:
        raise Doubt(f"no {kinds()[kind]['meaning']} on the shelf", start, end)
    base = _like(fabrics, 0, own_ids)
    if unit.lower() in THICK or (base.core_thickness_mm and not unit and number_of(weight) <= _THICKEST_BARE_CORE_MM):
        return _core_by_thickness(weight, unit.lower(), kind, fabrics, base, start, end), ""
    spelled = (unit or fabric_unit).lower().replace("2", "²")
    per = "oz/ft²" if base.ounce_base == "square foot" else "oz/yd²"
    taken = "g/m²" if spelled in ("g/m²", "gsm", "g") else per if spelled == "oz" else spelled
    weight_gsm = convert(number_of(weight), taken, "g/m²")
    doubt = areal_weight_doubt(weight_gsm, number_of(weight), taken, base.ounce_base)
    if doubt:
        other = per if taken == "g/m²" else "g/m²"
        offers = (f"{weight} {other} {kind}",) if doubt.endswith("?") else ()
        raise Doubt(doubt, start, end, offers)
    in_grams = fabric_unit == "g/m²"
    note = f"{weight} {taken} = {weight_gsm:.0f} g/m²" if taken != "g/m²" and in_grams else ""
    per_ounce = fabric_unit == "oz" and taken.startswith("oz")
    exact = _exactly(fabrics, weight_gsm) or (_sold_by(fabrics, weight, taken) if per_ounce else None)
    if exact:
        return exact, note
    like = _like(fabrics, weight_gsm, own_ids)
    if like.core_thickness_mm:
        message = f"no core of {{={weight_gsm:.0f} g/m²}} is known: say how thick it is"
        raise Doubt(message, start, end, (f"{like.core_thickness_mm:g} mm {kind}",))
    share = f", mat share {like.mat_share:g}" if like.architecture is Architecture.COMBINATION else ""
    typed = note or (f"{figures(weight_gsm, 4)} g/m²" if in_grams else f"{weight} {taken}")
    sold_as = f"{weight} oz" if taken.startswith("oz") else ""
    return _made_to_weight(like, weight_gsm, sold_as), f"{typed}: planned as typed, else like {like.name}{share}"


def _core_by_thickness(
    typed: str, unit: str, kind: str, fabrics: Sequence[Fabric], base: Fabric, start: int, end: int
) -> Fabric:
    if not base.core_thickness_mm:
        raise Doubt("only a core goes by its thickness: say what a fabric weighs", start, end)
    thickness_mm = round(number_of(typed) * (1 if unit in ("", "mm") else INCH_MM), 3)
    if not unit:
        asked = f"is it {thickness_mm:g} mm thick?"
        raise Doubt(
            f"{thickness_mm:g} g/m² is lighter than any core: {asked}", start, end, (f"{thickness_mm:g} mm core",)
        )
    if not 0 < thickness_mm <= 200:
        raise Doubt("a core is up to {200 mm} thick", start, end)
    cores = ((fabric.core_thickness_mm, fabric) for fabric in fabrics if fabric.core_thickness_mm)
    known_mm, like = min(cores, key=lambda core: abs(core[0] - thickness_mm))
    if isclose(known_mm, thickness_mm, rel_tol=1e-3):
        return like
    weight_gsm = like.areal_weight_gsm * thickness_mm / known_mm
    if not 15 <= weight_gsm <= 2500:
        raise Doubt(f"no core of {{={thickness_mm:g} mm}} is known, and like {like.name} none is likely", start, end)
    return like.model_copy(
        update={
            "id": f"{kind}-{thickness_mm:g}mm",
            "name": f"{typed} {'mm' if unit == 'mm' else 'in'} {kinds()[kind]['words'][0]}",
            "core_thickness_mm": thickness_mm,
            "areal_weight_gsm": round(weight_gsm, 1),
            "sources": like.sources | {"core_thickness_mm": SourceKind.DATA_SHEET},
        }
    )


def fabric_of_code(code: re.Match[str], fabrics: Sequence[Fabric], own_ids: Collection[str]) -> tuple[Fabric, str]:
    """A four-digit trade name of a stitched combination is two weights (common practice)."""
    stitched_gsm = convert(float(code[1]), "oz/yd²", "g/m²")
    mat_gsm = convert(MAT_CODE_OZ_PER_FT2[code[2]], "oz/ft²", "g/m²")
    total, share = stitched_gsm + mat_gsm, mat_gsm / (stitched_gsm + mat_gsm)
    note = (
        f"{code[0]} = {{={stitched_gsm:.0f} g/m²}} biaxial + {{={mat_gsm:.0f} g/m²}} mat = {{={total:.0f} g/m²}}, "
        f"mat share {share:.2f}"
    )
    combinations = [fabric for fabric in fabrics if fabric.kind == "combi"]
    exact = _exactly(combinations, total)
    if exact:
        return exact, note
    like = _like(combinations, total, own_ids)
    if like is None:
        raise Unreadable("no combination on the shelf")
    return _made_to_weight(like, total, code[0], mat_share=round(share, 3)), note
