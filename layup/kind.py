"""What a kind of work is: laminate, joints, and whatever else is mixed for. A kind gives its share wherever a job is told."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import IntEnum
from typing import Any

from layup.cautions.rule import Rule
from layup.day.outcome import RunSheet
from layup.day.schedule import Clocks, PlannedPot, Schedule
from layup.heat.wet_limit import WetLimit
from layup.job import JobSpec
from layup.materials import Fabric, ResinSystem
from layup.order import in_order
from layup.outcome import Plan, Problem, Step
from layup.pots.mix import Mix
from layup.pots.outcome import ThickenedResult
from layup.pots.work import Owner
from layup.preparing.before_pot import BuyLine, CutPiece, Divided, PrepLine
from layup.preparing.cost import Used
from layup.scales import Quantity, Scales
from layup.shelf import Library
from layup.shop_facts import ShopFacts
from layup.workings.bench import Write

Cell = str | float | int | None
# The products of a job's resins in use, and the mixes that could be settled, by the id of each.
Products = Mapping[str, ResinSystem]
Mixes = Mapping[str, Mix]
# Said where a thing names a resin that was taken out of the job.
GONE = "the resin that is named here is no longer in this job: choose another"
# The head of a column: words, or words and what is measured; then a spreadsheet is told how to show it.
Head = str | tuple[str, Quantity]


@dataclass(frozen=True)
class Sheet:
    """A table of the workbook: values, never formulas."""

    title: str
    heads: tuple[Head, ...]
    rows: Iterable[Sequence[Cell]]


@dataclass(frozen=True)
class Weighed:
    """What has its weight and neither pots nor hours yet: by what name, and how much of a resin in use, g."""

    name: str
    use_id: str
    resin_g: float


class Turn(IntEnum):
    """When a thing is laid where the job says nothing: what the rest will close in, what is put together on wood before
    anything lies over it, the parts, what is joined to them, and what is poured.
    """

    HIDDEN = 0
    ASSEMBLY = 1
    PARTS = 2
    JOINTS = 3
    POURS = 4


@dataclass
class Draft:
    """What a plan has found so far for a `shop`, kind by kind, and what was missing there, said in its scales.

    `found` holds what each kind worked out, by its key. `owners` are laid in their order.
    """

    shop: ShopFacts = field(default_factory=ShopFacts)
    problems: list[Problem] = field(default_factory=list)
    found: dict[str, Any] = field(default_factory=dict)
    weighed: list[Weighed] = field(default_factory=list)
    _owners: list[tuple[Turn, Owner]] = field(default_factory=list)

    @property
    def scales(self) -> Scales:
        return self.shop.scales

    @property
    def owners(self) -> list[Owner]:
        """What is to be laid, each after what it comes after and what it lies on, else as its turn is."""
        return in_order([owner for _, owner in sorted(self._owners, key=lambda each: each[0])])

    def lay(self, owner: Owner, turn: Turn) -> None:
        """Takes up what is to be laid. What has no works is not laid."""
        if owner.works:
            self._owners.append((turn, owner))

    def missing(self, path: str, message: str, step: Step, *, wrong: bool = False) -> None:
        self.problems.append(Problem(path=path, message=self.scales.said(message), step=step, wrong=wrong))


class KindOfWork:
    """One kind of work. What it leaves as it is here, it has nothing of.

    `key` is its field in the job and in the plan, `before` and `after` its steps: those before the cutting, and those
    after the resin is chosen. `rules` are its cautions, `workings` those of its numbers.
    """

    key: str = ""
    before: tuple[Step, ...] = ()
    after: tuple[Step, ...] = ()
    rules: tuple[Rule, ...] = ()
    workings: Mapping[str, Write] = {}

    def asked(self) -> Any:
        """What a page must know to ask for it; nothing where it asks in its own way."""
        return None

    def has(self, job: JobSpec) -> bool:
        """Whether the job has any of it."""
        return bool(getattr(job, self.key, ()))

    def weigh(self, job: JobSpec, products: Products, draft: Draft) -> None:
        """What can be told before there is a mix."""

    def lay(self, job: JobSpec, mixes: Mixes, draft: Draft) -> None:
        """Its work, with the mixes there are; of what has none, only what is missing."""

    def about_min(self, job: JobSpec) -> float:
        """About how long what was not weighed takes, min of one pair of hands."""
        return 0.0

    def results(self, mixes: Mixes, draft: Draft) -> Iterable[Any]:
        """Its records in the plan."""
        return ()

    def wrong_in(self, pots: Sequence[PlannedPot], draft: Draft) -> None:
        """Says what of it cannot be, now that its pots are known."""

    def on_its_day(self, schedule: Schedule, clocks: Callable[[Mix], Clocks], draft: Draft) -> None:
        """Keeps what of it depends on when its pots are laid; `clocks` are those of what was laid of a mix."""

    def marked(self, job: JobSpec, sheet: RunSheet, draft: Draft) -> RunSheet:
        """The run sheet with what of it is done at one of its marks."""
        return sheet

    def facts(self, mixes: Mixes, room_c: float, draft: Draft) -> Any:
        """What its own cautions read of it."""
        return draft.found.get(self.key)

    def wet_limits(self, owner_id: str, mixes: Mixes, room_c: float, draft: Draft) -> tuple[WetLimit, ...]:
        """How thick each skin of one of its owners may lie wet at once; none where it does not heat up so."""
        return ()

    def stirred(self, pot: PlannedPot, draft: Draft) -> ThickenedResult | None:
        """How one of its pots is thickened."""
        return None

    def headline(self, step: Step, plan: Plan, scales: Scales) -> str:
        """One of its steps in one line."""
        return ""

    def begun(self, step: Step, plan: Plan) -> bool:
        """Whether one of its steps has anything in it."""
        return True

    def resin_g(self, draft: Draft, use_id: str) -> Mapping[str, float]:
        """Where it takes one of the resins in use, g: by the fields of ResinUse."""
        return {}

    def used(self, draft: Draft) -> Iterator[Used]:
        """The materials it takes besides resin, with their prices."""
        yield from ()

    def preparation(self, job: JobSpec, plan: Plan, scales: Scales) -> Iterator[PrepLine]:
        """What is done before it is wetted, in order."""
        yield from ()

    def brings(self, job: JobSpec) -> Iterator[Fabric]:
        """The fabrics that it cuts and that are not the job's own."""
        yield from ()

    def piece_count(self, job: JobSpec, divided: Divided) -> int:
        """How many pieces are cut for it."""
        return 0

    def pieces(self, job: JobSpec, *, early: bool, divided: Divided) -> Iterator[CutPiece]:
        """Its pieces in laying order, not numbered yet: of what goes before all others, or of the rest; bay by bay of what
        is divided."""
        yield from ()

    def to_buy(self, job: JobSpec, plan: Plan, library: Library, scales: Scales) -> Iterator[BuyLine]:
        """What it needs besides fabric and resin."""
        yield from ()

    def sheets(self, job: JobSpec, plan: Plan) -> Iterator[Sheet]:
        """Its tables in the workbook."""
        yield from ()
