"""What the front of a run's infusions says of the beds they were planned by: observations for the log, and for the next shot."""

from collections.abc import Iterator

from layup.bench.now import BenchState
from layup.record import Record
from layup.shop_facts import MOST_TIMES_AS_OPEN


class FrontSeen(Record):
    """An infusion whose front was seen at marks: how open its bed is, m², by the last of them, and between what the marks
    have it; `planned_m2` is what it was planned with. One that strays further than a bed does is not `believed`. It is of the part `part_id`, and drew and lost so much, g, where that was
    weighed."""

    part_id: str
    lane_name: str
    marks: int
    planned_m2: float
    permeability_m2: float
    least_m2: float
    most_m2: float
    believed: bool
    planned_g: float
    drawn_g: float | None
    trap_g: float | None


def fronts(state: BenchState) -> Iterator[FrontSeen]:
    """Each infusion of a run that was seen at a mark, in the order of its card.

    >>> from layup.bench.card import BenchCard
    >>> from layup.bench.state import fold
    >>> list(fronts(fold(BenchCard(pots=(), layers=()), [], 0)))
    []
    """
    for card, flow in zip(state.card.flows, state.flows, strict=True):
        if flow.pace is None:
            continue
        seen = [pace * card.permeability_m2 for pace in flow.paces]
        yield FrontSeen(
            part_id=card.part_id,
            lane_name=card.lane_name,
            marks=len(seen),
            planned_m2=card.permeability_m2,
            permeability_m2=flow.pace * card.permeability_m2,
            least_m2=min(seen),
            most_m2=max(seen),
            believed=1 / MOST_TIMES_AS_OPEN <= flow.pace <= MOST_TIMES_AS_OPEN,
            planned_g=card.draws_g,
            drawn_g=flow.drawn_g,
            trap_g=flow.trap_g,
        )
