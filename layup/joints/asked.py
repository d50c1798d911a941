"""What each kind of joint is asked for, in the order it is measured, and what is usual where nothing is typed."""

from dataclasses import asdict
from typing import Any

from layup.asked import Asked
from layup.job import Joint, JointKind
from layup.joints.volumes import FLAT_FROM_DEG, GLUE_LINE_MM, LEAST_ANGLE_DEG
from layup.usual import SCARF_SLOPE, SCARF_SLOPE_WORKED_HARD, SQUEEZE_OUT_FROM, SQUEEZE_OUT_TO

_LENGTH = Asked("length_m", "Length", "type the length of the joint", 2.9)
_GLUE = Asked("glue_mm", "Glue line", usual=GLUE_LINE_MM)
_PANEL = Asked("panel_thickness_mm", "Panel", "type how thick the panel is", 6)

ASKED: dict[JointKind, tuple[Asked, ...]] = {
    "corner": (
        _LENGTH,
        Asked("radius_mm", "Radius", "type the radius of the fillet", 18),
        _PANEL,
        Asked("face_mm", "Narrower face", left_out="not known"),
        Asked("glue_mm", "Glue line under it", left_out="none"),
    ),
    "glue line": (_LENGTH, Asked("width_mm", "Width", "type how wide the glue line is", 30), _GLUE, _PANEL),
    "scarf": (
        Asked("length_m", "Across the stock", "type how long the scarf is, across the stock", 2.9),
        Asked("panel_thickness_mm", "Stock", "type how thick the stock is", 6),
        _GLUE,
    ),
    "gap": (
        Asked("length_m", "Length", "type the length of the gap", 2.9),
        Asked("width_mm", "Width", "type how wide the gap is", 4),
        Asked("depth_mm", "Depth", "type how deep the gap is", 9),
        _PANEL,
    ),
    "bedding": (
        Asked("length_m", "Length", "type the length of the bed", 2.9),
        Asked("width_mm", "Width", "type how wide the bed is", 40),
        Asked("depth_mm", "Teeth of the trowel", "type how high the teeth of the trowel are", 4),
        _PANEL,
    ),
    "holes": (
        Asked("hole_count", "How many holes", "type how many holes there are"),
        Asked("diameter_mm", "Across", "type how wide the holes are", 4),
        Asked("depth_mm", "Depth", "type how deep the holes are", 12),
        _PANEL,
    ),
}


def joint_measures() -> dict[str, Any]:
    """What a page must know to ask for a joint: its measures by kind, the least and the most of each number, what is usual.

    >>> told = joint_measures()
    >>> [each["field"] for each in told["asked"]["scarf"]], told["limits"]["slope"], told["usual"]["scarf_slope"]
    (['length_m', 'panel_thickness_mm', 'glue_mm'], [1, 40], 8.0)
    """
    fields = Joint.model_json_schema()["properties"]
    limited = {
        name: next((each for each in (field, *field.get("anyOf", ())) if "maximum" in each), None)
        for name, field in fields.items()
    }
    return {
        "asked": {kind: [asdict(each) for each in asked] for kind, asked in ASKED.items()},
        "limits": {name: [number["minimum"], number["maximum"]] for name, number in limited.items() if number},
        "usual": {
            "glue_mm": GLUE_LINE_MM,
            "flat_from_deg": FLAT_FROM_DEG,
            "least_angle_deg": LEAST_ANGLE_DEG,
            "scarf_slope": SCARF_SLOPE,
            "scarf_slope_worked_hard": SCARF_SLOPE_WORKED_HARD,
            "squeeze_out_from": SQUEEZE_OUT_FROM,
            "squeeze_out_to": SQUEEZE_OUT_TO,
        },
    }
