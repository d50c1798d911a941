"""What is done for an infusion before its resin is mixed."""

from collections.abc import Iterator

from layup.infusion.outcome import InfusionResult
from layup.outcome import Plan
from layup.preparing.before_pot import PrepLine
from layup.preparing.lines import COMMON, MEMORY, line_of
from layup.scales import Scales
from layup.words import counted


def lines_of_infusions(plan: Plan, scales: Scales) -> Iterator[PrepLine]:
    """The lines of each infusion that could be worked out."""
    for told in plan.infusions:
        own = {"part_id": told.id, "part_name": told.name or "part"}
        for line in _lines(told, scales):
            yield line.model_copy(update=own | {"id": f"{line.id}:{told.id}"})


def _lines(told: InfusionResult, scales: Scales) -> Iterator[PrepLine]:
    feeds = sum(line.does == "feeds" for line in told.lines)
    vents = sum(line.does == "vents" for line in told.lines)
    yield line_of(
        "flow-lines",
        f"Lay {counted(feeds, 'feed')} and {counted(vents, 'vent')} as drawn, each with a clamp and its number on it",
        "Resin goes where the lines lie, not where they were meant to.",
        COMMON,
        gate=True,
    )
    yield line_of(
        "flow-mesh",
        "Mesh ends short of every vent; no gap along an edge for resin to run ahead in",
        "A channel along an edge carries it past the fibre, to the vent.",
        COMMON,
        gate=True,
    )
    left, low = (min(point[axis] for point in told.outline) for axis in (0, 1))
    places = "; ".join(
        f"{mark.number}, {scales.words('length', mark.x_m - left)} along and {scales.words('length', mark.y_m - low)} across, "
        f"{mark.at_min:.0f} min"
        for mark in told.marks
        if mark.at_min is not None
    )
    yield line_of(
        "flow-marks",
        f"Mark on the film where the front should be, as drawn: {places}",
        "The first mark that comes early or late tells it while there is still time.",
        COMMON,
    )
    yield line_of(
        "flow-feeds-tried",
        "With the feeds clamped, hold the bag overnight or for an hour, and look at the gauge again",
        "A slow leak shows as foam at the feed, once the valve is open.",
        MEMORY,
    )
    yield line_of(
        "flow-resin",
        f"{scales.mass(told.mixed_g)} weighed out in its pots, unmixed, and {scales.mass(told.stand_by_g)} more at hand",
        "A bucket that runs dry feeds air into the part.",
        COMMON,
        gate=True,
    )
