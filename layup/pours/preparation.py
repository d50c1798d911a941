"""What is done before anything is poured: levelled, sealed, tried with water, released."""

from collections.abc import Iterator

from layup.castings import Pour
from layup.job import JobSpec
from layup.outcome import Plan
from layup.pours.outcome import CastingResult
from layup.pours.plan import OPEN_GRAINED
from layup.preparing.before_pot import PrepLine
from layup.preparing.lines import COMMON, line_of
from layup.scales import Scales


def lines_of_pours(job: JobSpec, plan: Plan, scales: Scales) -> Iterator[PrepLine]:
    """The lines of each casting that could be worked out."""
    of_id = {pour.id: pour for pour in job.pours}
    for result in plan.pours:
        pour = of_id[result.id]
        own = {"part_id": result.id, "part_name": result.name or "casting"}
        for line in _lines(pour, result, scales):
            yield line.model_copy(update=own | {"id": f"{line.id}:{result.id}"})


def _lines(pour: Pour, result: CastingResult, scales: Scales) -> Iterator[PrepLine]:
    tilt = scales.words("size", 1)
    yield line_of(
        "level",
        "Level it both ways, and prop it so that it stays",
        f"What is {tilt} low at one end is {tilt} deeper there.",
        COMMON,
        gate=True,
    )
    dam = scales.words("length", result.dam_m)
    yield line_of(
        "dam",
        f"Seal the dam round it, {dam}, and every joint and knot",
        "Resin finds a hole that water takes an hour to find.",
        COMMON,
    )
    if pour.lies_in in OPEN_GRAINED:
        yield line_of(
            "leaks",
            "Look for light through knots and cracks, and fill them from beneath",
            "Water would swell the wood.",
            COMMON,
        )
    else:
        water = scales.mass(result.water_g)
        yield line_of(
            "leaks",
            f"Fill it with {water} of water for ten minutes; pour it out and dry it well",
            "It shows the leaks, and that much water proves the measures too.",
            COMMON,
        )
    if pour.lies_in in ("laminate mould", "board", "stone"):
        yield line_of(
            "release",
            "Release wax or film over mould, dams and plugs, corners too",
            "What is missed there holds for good.",
            COMMON,
        )
    yield line_of(
        "near",
        "All vessels for one lift set out and weighed before the first is mixed",
        "A lift is one pour: its pots go in one after the other, before the first thickens.",
        COMMON,
    )
