"""A run as it stands: its pots, its layers, and all else that is read of it."""

from typing import Literal

from layup.bench.card import BenchCard
from layup.bench.events import Outcome, Vessel
from layup.record import Record

PotState = Literal["planned", "weighing", "live", "used up", "gelled", "dumped"]
LayerState = Literal["to do", "wet", "tacky", "closed", "mended", "hard"]


class PotNow(Record):
    """One pot as it stands. Amounts are as the tools read them; moments in minutes from the run's issue.

    `life_used` is one at its gel. `target` is what the second part poured must come to; once both are in, `off_pct` is how
    far it is off, `mend` the part to put more of, `mend_amount` how much, and `lost` that it cannot be mended.
    """

    number: int
    state: PotState = "planned"
    vessel: Vessel = "cup"
    cup_g: float | None = None
    first: float | None = None
    second: float | None = None
    target: float | None = None
    off_pct: float | None = None
    mend: Literal["", "first", "second"] = ""
    mend_amount: float = 0.0
    lost: bool = False
    stirred: bool = False
    filled: bool = False
    half_used: bool = False
    hot: bool = False
    touched_min: float | None = None
    ended_min: float | None = None
    life_used: float = 0.0
    use_by_min: float | None = None
    gels_min: float | None = None
    left_over_g: float | None = None

    @property
    def on_ratio(self) -> bool:
        return not self.mend and not self.lost


class LayerNow(Record):
    """One layer as it stands. `by` says whether a test tells its state or the clock; it opens, closes and is hard when told.

    `strips` are those that were ticked, by their numbers. `film_um` is what a gauge showed of it wet, the mean where it was read several times.
    """

    id: str
    state: LayerState = "to do"
    by: Literal["clock", "test"] = "clock"
    laid_min: float | None = None
    opens_min: float | None = None
    closes_min: float | None = None
    hard_min: float | None = None
    tested: bool = False
    strips: tuple[int, ...] = ()
    film_um: float | None = None
    peel_ply: bool = False


class FlowNow(Record):
    """An infusion as it stands. Moments in minutes from the run's issue.

    Its valve was first opened at `opened_min`, and has been open for `open_for_min`. `reached` are the marks its front was seen
    at, in their order, and `paces` how many times as open its bed is as planned by each. `pace` is the last of them; by that it is full at
    `full_min`, and its front comes to the mark `next_mark` at `next_min`: none where the valve is shut, or the resin sets before.
    """

    id: str
    valve: Literal["shut", "open", "throttled"] = "shut"
    opened_min: float | None = None
    open_for_min: float = 0.0
    reached: tuple[int, ...] = ()
    paces: tuple[float, ...] = ()
    pace: float | None = None
    full_min: float | None = None
    sets_min: float | None = None
    next_mark: int | None = None
    next_min: float | None = None
    drawn_g: float | None = None
    trap_g: float | None = None


class BenchState(Record):
    """Everything of a run, folded. `card` is the one in force."""

    card: BenchCard
    pots: tuple[PotNow, ...]
    layers: tuple[LayerNow, ...]
    flows: tuple[FlowNow, ...] = ()
    out: tuple[str, ...] = ()
    ticked: tuple[str, ...] = ()
    answered: tuple[str, ...] = ()
    people: tuple[str, ...] = ()
    goggled: tuple[str, ...] = ()
    room_c: float | None = None
    opened: bool = False
    night: bool = False
    outcome: Outcome | None = None

    def pot(self, number: int) -> PotNow:
        return next(pot for pot in self.pots if pot.number == number)

    @property
    def live(self) -> list[PotNow]:
        """The pots that are ageing, the oldest first."""
        return sorted((pot for pot in self.pots if pot.state == "live"), key=lambda pot: pot.touched_min or 0.0)
