"""Lanes on their way through a day, and their bays: the works still to be laid, what each waits for and lies on."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise, takewhile
from math import inf

from layup.day.schedule import LAST_OVER_ALL, Division, Lane
from layup.pots.mix import Mix
from layup.pots.work import Bay, Owner, Sets, Waits, Work


@dataclass(frozen=True)
class Top:
    """What was laid last: of which mix, when its first and its last pot were mixed, when it was all on; how it `sets` where
    it stands deep."""

    mix: Mix
    first_touch: float
    last_touch: float
    used_min: float
    sets: Sets | None = None


@dataclass(eq=False)
class Chain:
    """A lane on its way, or a bay of it: the work it is at, when that may begin and must have begun.

    `turn` orders the chains of an owner that do not go by turns. It is begun `after` others are done, lies on what of them
    `lies_on` has and waits there as said, and meets the edge of the bay `beside` it.
    """

    lane: Lane
    works: tuple[Work, ...]
    owner_order: int
    order: int
    turn: int = 0
    bay: int = 0
    area_m2: float = 0.0
    edge_m2: float = 0.0
    after: list["Chain"] = field(default_factory=list)
    lies_on: list[tuple["Chain", Waits]] = field(default_factory=list)
    beside: "Chain | None" = None
    top: Top | None = None
    layer: int | None = None
    at: int = 0
    round: int = 0
    ready_min: float = 0.0
    closes_min: float = inf
    sandable_min: float = 0.0
    to_mend: str = ""
    left_g: float | None = None

    @property
    def done(self) -> bool:
        return self.at >= len(self.works)

    @property
    def begun(self) -> bool:
        return self.at > 0 or self.left_g is not None

    @property
    def blocked(self) -> bool:
        """Whether what it comes after is not done, or the bay before it is still to be begun or is being laid."""
        if self.begun:
            return False
        beside = self.beside
        busy = beside is not None and not beside.done and not (beside.begun and beside.next_waits)
        return busy or any(not chain.done for chain in self.after)

    @property
    def next_waits(self) -> Waits:
        """What the next work waits for."""
        return "" if self.done else self.works[self.at].waits


def chains_of_lane(lane: Lane, division: Division) -> list[Chain]:
    """The chains of a lane: itself, or what lies over all of it first, each bay, and what lies over all of it last."""
    owner = lane.owner
    works = tuple(_times(work, lane.shared_by) for work in owner.works)
    if division.bays < 2 or owner.bays is None:
        return [Chain(lane, works, 0, 0, area_m2=lane.area_m2)]
    lane = replace(lane, bays=owner.bays.divide(division.bays), coats_too=division.coats_too)
    first, last = 0 if division.coats_too else _coats_first(works), len(works) - _coats_last(works)
    chains = [chain for bay in lane.bays if (chain := _of_bay(lane, bay, works, first, last)).works]
    for beside, chain in pairwise(chains):
        chain.beside = beside
    over_all = Chain(lane, works[:first], 0, 0, area_m2=lane.area_m2)
    on_top = Chain(lane, works[last:], 0, 0, bay=LAST_OVER_ALL, area_m2=lane.area_m2)
    if first:
        for chain in chains:
            chain.after, chain.lies_on = [over_all], [(over_all, "")]
    on_top.after, on_top.lies_on = list(chains), [(chain, "") for chain in chains]
    return [*([over_all] if first else []), *chains, *([on_top] if on_top.works else [])]


def _of_bay(lane: Lane, bay: Bay, works: Sequence[Work], first: int, last: int) -> Chain:
    """What of the works from one to another lies in a bay."""
    shared = list(zip(works, bay.shares, strict=True))[first:last]
    laid = tuple(_times(work, share) for work, share in shared if share > 0)
    area_m2 = lane.area_m2 * max(bay.shares)
    return Chain(lane, laid, 0, 0, bay=bay.number, area_m2=area_m2, edge_m2=bay.edge_m2)


def tie(chains: Sequence[Chain], owners: Sequence[Owner]) -> None:
    """Holds back what comes after other owners until they are done, with the windows of what it lies on."""
    of_owner: dict[str, list[Chain]] = {}
    for chain in chains:
        of_owner.setdefault(chain.lane.owner.id, []).append(chain)
    for owner in owners:
        tied = [(each.owner_id, each.waits) for each in owner.lies_on]
        for chain in of_owner[owner.id]:
            if chain.after:
                continue
            for owner_id in (*owner.comes_after, *(each for each, _ in tied)):
                chain.after += of_owner.get(owner_id, [])
            chain.lies_on += [(beneath, waits) for each, waits in tied for beneath in of_owner.get(each, [])]


def lane_id(owner: Owner, copy: int) -> str:
    """The id of the lane of one copy, counted from 1."""
    return f"{owner.id}/{copy}"


def _times(work: Work, share: float) -> Work:
    """So much of a work: a share of it, or several alike."""
    if share == 1:
        return work
    strips = max(1, round(work.strips * share)) if work.strips > 1 else 1
    area = work.area_m2 * share if share < 1 else work.area_m2
    return replace(work, laid_g=work.laid_g * share, spread_min=work.spread_min * share, area_m2=area, strips=strips)


def wet_together(works: Sequence[Work], at: int) -> tuple[Work, ...]:
    """A work, and with it the next where that goes on wet and a pot serves both: each pot wets what it then covers."""
    first = works[at]
    following = works[at + 1] if first.with_next and at + 1 < len(works) else None
    if following is None or first.handling.alone or following.handling.alone:
        return (first,)
    return (first, following) if following.use_id == first.use_id and not following.waits else (first,)


def _coats_first(works: Sequence[Work]) -> int:
    """How many works are coats over the whole before anything else lies on it, which waits for their tack."""
    count = sum(1 for _ in takewhile(lambda work: work.coat and work.coat != "wet-out", works))
    return count if count < len(works) and works[count].waits else 0


def _coats_last(works: Sequence[Work]) -> int:
    """How many works are coats over the whole once all else is laid."""
    return sum(1 for _ in takewhile(lambda work: work.coat and work.waits, reversed(works)))
