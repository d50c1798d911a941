"""What each shape of a casting is asked for, in the order it is measured."""

from dataclasses import asdict
from typing import Any

from layup.asked import Asked
from layup.castings import Pour, PourShape

_LENGTH = Asked("length_m", "Length", "type how long the cavity is", 0.6)
_DEPTH = Asked("depth_mm", "Depth", "type how deep it is poured", 20)

ASKED: dict[PourShape, tuple[Asked, ...]] = {
    "even": (
        _LENGTH,
        Asked("width_mm", "Width", "type how wide the cavity is", 300),
        _DEPTH,
        Asked("end_width_mm", "Width at the far end", left_out="the same"),
        Asked("end_depth_mm", "Depth at the far end", left_out="the same"),
    ),
    "readings": (_LENGTH, _DEPTH),
    "disc": (Asked("diameter_mm", "Across", "type how wide the disc is", 300), _DEPTH),
}


def pour_measures() -> dict[str, Any]:
    """What a page must know to ask for a casting: its measures by shape, the least and the most of each number.

    >>> told = pour_measures()
    >>> [each["field"] for each in told["asked"]["disc"]], told["limits"]["held_back"]
    (['diameter_mm', 'depth_mm'], [0, 0.5])
    """
    fields = Pour.model_json_schema()["properties"]
    limited = {
        name: next((each for each in (field, *field.get("anyOf", ())) if "maximum" in each), None)
        for name, field in fields.items()
    }
    return {
        "asked": {shape: [asdict(each) for each in asked] for shape, asked in ASKED.items()},
        "limits": {name: [number["minimum"], number["maximum"]] for name, number in limited.items() if number},
    }
