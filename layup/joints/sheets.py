"""Joints as a table of the workbook."""

from collections.abc import Iterator

from layup.kind import Cell, Head, Sheet
from layup.outcome import Plan


def sheets_of_joints(plan: Plan) -> Iterator[Sheet]:
    """The joints that could be worked out, where there are any."""
    if plan.joints:
        yield Sheet("Joints", _JOINTS, _joints(plan))


_JOINTS: tuple[Head, ...] = (
    *("joint", "kind", "copies", ("run", "length"), ("paste", "volume"), ("resin in the paste", "mass"), "filler"),
    *("stands how", ("filler", "mass"), ("filler loose", "volume"), ("wet-out", "mass"), ("to smooth", "mass")),
    *("strips", ("tabbing fibre", "mass"), ("tabbing resin", "mass"), ("resin in all", "mass")),
)


def _joints(plan: Plan) -> Iterator[tuple[Cell, ...]]:
    for joint in plan.joints:
        yield (
            *(joint.name, joint.kind, joint.copies, joint.run_m, joint.paste_ml, joint.resin_g, joint.filler_name),
            *(joint.consistency, joint.filler_g, joint.filler_loose_ml, joint.wet_out_g, joint.smoothing_g),
            *(len(joint.tabs), joint.tabs_fibre_g, joint.tabs_resin_g, joint.all_resin_g),
        )
