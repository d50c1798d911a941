"""A tin from the few things its label says: all else is taken from the generic product that it is like, and keeps its source."""

from math import log
from typing import Any, Literal

from pydantic import Field

from layup.chemistry.ratio import parse_ratio
from layup.document import Document
from layup.errors import Missing, OutOfRange, Unreadable
from layup.materials import Basis, Celsius, DosePct, Grams, Hardener, Minutes, ResinSystem
from layup.units import convert

# A hardener whose label names no room may be used in that of the next faster and of the next slower as well.
_LABEL, _LENT = "data sheet", "memory"


class TinLabel(Document):
    """What is read off a tin. `like` is the id of the generic resin it is like.

    Of two parts: the ratio as it is printed, by what it is, and how long a pot of `of_g` lasts at `at_c`. Of a catalysed
    resin: its gel time at `at_c` and a dose, the usual one where none is said. `room_from_c` and `room_to_c` are what a
    hardener is made for, where the label says it.
    """

    like: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=80)
    ratio: str = Field(default="", max_length=40)
    ratio_by: Basis = "weight"
    hardener: str = Field(default="", max_length=40)
    minutes: Minutes | None = None
    of_g: Grams | None = None
    at_c: Celsius | None = None
    catalyst_pct: DosePct | None = None
    room_from_c: Celsius | None = None
    room_to_c: Celsius | None = None


def tin_of(label: TinLabel, generic: tuple[ResinSystem, ...]) -> dict[str, Any]:
    """The product's document for the shelf, whose numbers of the label have the source kind data sheet.

    Raises Missing where `like` is not known, or the ratio or the minutes of the label are left out, each at its field.

    >>> from layup.library import generic
    >>> label = TinLabel(like="epoxy-2-1", name="Bench epoxy", ratio="100:44", hardener="slow", minutes=30)
    >>> tin = tin_of(label, generic().resins)
    >>> tin["ratio_weight_b_per_a"], tin["hardeners"][0]["pot_life_min"], tin["hardeners"][0]["band_low_f"]
    (0.44, 30.0, 60.0)
    """
    like = next((resin for resin in generic if resin.id == label.like), None)
    if like is None:
        raise Missing("say which kind of resin it is", "like")
    written = like.model_dump(mode="json", exclude={"id", "price_per_kg", "sold_kg", "note"})
    written["name"] = label.name
    if like.two_part:
        written |= _two_part(label, like)
    elif like.catalyst:
        written["catalyst"] = _catalysed(label, written["catalyst"])
    return written


def _two_part(label: TinLabel, like: ResinSystem) -> dict[str, Any]:
    if not label.ratio.strip():
        raise Missing("type the ratio as the tin says it, such as 100:44 or 2 to 1", "ratio")
    if label.minutes is None:
        raise Missing("type for how long a pot can be worked, as the tin says it", "minutes")
    try:
        b_per_a = parse_ratio(label.ratio).b_per_a
    except (OutOfRange, Unreadable) as error:
        raise type(error)(error.message, "ratio") from error
    by, other = _FIELD_OF[label.ratio_by], _FIELD_OF["volume" if label.ratio_by == "weight" else "weight"]
    by_pace = sorted(like.hardeners, key=lambda each: each.pot_life_min)
    at = min(range(len(by_pace)), key=lambda place: _apart(label.minutes or 1.0, by_pace[place]))
    nearest = by_pace[at]
    said = _said(pot_life_min=label.minutes, pot_life_mass_g=label.of_g, pot_life_temperature_c=label.at_c)
    hardener = nearest.model_dump(
        mode="json", exclude={"id", "price_per_kg", "sold_kg", "stated_times", "peak_exotherm_c"}
    )
    hardener |= {
        "name": label.hardener.strip() or nearest.name,
        **said,
        "sources": nearest.sources | dict.fromkeys(said, _LABEL),
    }
    for field, said_c, lent in (
        ("band_low_f", label.room_from_c, by_pace[max(at - 1, 0)].band_low_f),
        ("band_high_f", label.room_to_c, by_pace[min(at + 1, len(by_pace) - 1)].band_high_f),
    ):
        hardener[field] = lent if said_c is None else convert(said_c, "°C", "°F")
        hardener["sources"][field] = _LENT if said_c is None else _LABEL
    known = like.density_g_per_cm3 is not None and nearest.density_g_per_cm3 is not None
    sources = {field: kind for field, kind in like.sources.items() if field != other}
    return {
        by: b_per_a,
        other: None,
        # As the label says it; the other way needs both densities.
        "bases": [basis for basis in _FIELD_OF if basis == label.ratio_by or (known and basis in like.bases)],
        "hardeners": [hardener],
        "sources": sources | {by: _LABEL},
    }


_FIELD_OF: dict[Basis, Literal["ratio_weight_b_per_a", "ratio_volume_b_per_a"]] = {
    "weight": "ratio_weight_b_per_a",
    "volume": "ratio_volume_b_per_a",
}


def _said(**fields: float | None) -> dict[str, float]:
    """What the label says of these fields; the others stay as of the kind it is like, with their source."""
    return {name: value for name, value in fields.items() if value is not None}


def _apart(minutes: float, hardener: Hardener) -> float:
    """How far a pot life is from a generic hardener's."""
    return abs(log(minutes / hardener.pot_life_min))


def _catalysed(label: TinLabel, catalyst: dict[str, Any]) -> dict[str, Any]:
    if label.minutes is None:
        raise Missing("type its gel time, as the tin says it", "minutes")
    dose = label.catalyst_pct
    if dose is not None and not catalyst["least_pct"] <= dose <= catalyst["most_pct"]:
        limits = f"{catalyst['least_pct']:g} to {catalyst['most_pct']:g} %"
        raise OutOfRange(f"such a resin takes {limits} of catalyst: read the tin again", "catalyst_pct")
    said = _said(stated_pct=dose, stated_temperature_c=label.at_c, stated_gel_min=label.minutes)
    return catalyst | said | {"stated_times": [], "sources": catalyst["sources"] | dict.fromkeys(said, _LABEL)}
