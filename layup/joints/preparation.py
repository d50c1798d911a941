"""What is done before a joint is wetted: fitted dry, its fixings tried, keyed and wiped."""

from collections.abc import Iterator

from layup.job import JobSpec, Joint
from layup.outcome import Plan
from layup.preparing.before_pot import PrepLine
from layup.preparing.lines import COMMON, DUST, WOOD, line_of


def lines_of_joints(job: JobSpec, plan: Plan) -> Iterator[PrepLine]:
    """The lines of each joint that could be worked out, what will be out of reach first."""
    worked_out = {joint.id for joint in plan.joints}
    for joint in sorted(job.joints, key=lambda joint: not joint.hidden):
        if joint.id in worked_out:
            own = {"part_id": joint.id, "part_name": joint.name or joint.kind}
            for line in _lines(joint):
                yield line.model_copy(update=own | {"id": f"{line.id}:{joint.id}"})


def _lines(joint: Joint) -> Iterator[PrepLine]:
    if joint.hidden:
        words = "Tick each corner of it before it is closed: it is out of reach after"
        yield line_of("reach", words, "A face that was missed there cannot be coated again.", COMMON)
    fixings = f", with {joint.fixings} in place" if joint.fixings else ""
    words = f"Dry fit{fixings}; rehearse the clamps"
    yield line_of(
        "fit",
        words,
        "Drill for the screws now: once it is wet there is no time to look for anything.",
        COMMON,
        gate=True,
    )
    if joint.substrate == "cured epoxy":
        why = "Blush comes off with water and with nothing else; sanding drives it in."
        yield line_of("water", "Wash with water and a pad, rinse, dry", why, COMMON)
    key = "Sand, 80 grit along the grain" if joint.substrate in WOOD else "Sand dull, 80 grit, to past the last strip"
    yield line_of("sand", f"{key}, dust off", "Fresh fibre and a key for the first coat.", COMMON)
    if joint.substrate in (*WOOD, "concrete", "foam core", "polystyrene foam"):
        yield line_of("wipe", "Wipe with a clean dry cloth", f"{DUST}; solvent would soak in and stay.", COMMON)
    else:
        yield line_of("wipe", "Wipe with solvent, on with one cloth, off with another", f"{DUST}.", COMMON)
