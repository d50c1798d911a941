"""What was built as a table: a row for each layer of each place."""

from layup.as_built.outcome import AsBuilt, BuiltLayer, BuiltPlace
from layup.as_built.words import went_on_words
from layup.csv_cells import csv_number, csv_text
from layup.scales import Scales

HEADS = (
    "place",
    "bay",
    "no",
    "layer",
    "state",
    "laid at",
    "by",
    "how it went on",
    "room °C",
    "pots",
    "lots",
    "resin laid over planned",
    "film µm",
)


def as_built_csv(built: AsBuilt, scales: Scales) -> str:
    """One row for each layer, the lowest first; moments as ISO 8601 with their offset, numbers in the units of their heads.

    >>> from datetime import datetime
    >>> built = AsBuilt(job_name="Deck", revision=1, issued_at=datetime(2026, 5, 4, 9, 0), planned_room_c=20)
    >>> as_built_csv(built, Scales())[:14]
    '\\ufeff"place","bay"'
    """
    comma = scales.customs.decimal_comma
    rows = [
        _row(place, number, layer, built, comma)
        for place in built.places
        for number, layer in enumerate(place.layers, 1)
    ]
    return csv_text(HEADS, rows, decimal_comma=comma)


def _row(place: BuiltPlace, number: int, layer: BuiltLayer, built: AsBuilt, comma: bool) -> tuple[str, ...]:
    lots = dict.fromkeys(lot.called for pot in built.pots if pot.number in layer.pots for lot in pot.lots)
    return (
        place.name,
        place.bay,
        str(number),
        layer.words,
        layer.state,
        built.moment(layer.laid_min).isoformat(timespec="minutes") if layer.laid_min is not None else "",
        layer.by,
        went_on_words(layer, place),
        csv_number(layer.room_c, decimal_comma=comma),
        " ".join(map(str, layer.pots)),
        "; ".join(lots),
        csv_number(layer.resin_share, decimal_comma=comma),
        csv_number(layer.film_um, decimal_comma=comma),
    )
