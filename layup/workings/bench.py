"""What every working is written with: a plan and what it was made from, the numbers put in, sums of rows."""

from collections.abc import Callable, Iterable, Sequence
from typing import TypeVar

from pydantic import BaseModel, ConfigDict

from layup import errors
from layup.chemistry.blend import hardener_in_hand
from layup.chemistry.logged import with_logged
from layup.errors import Missing
from layup.job import JobSpec
from layup.laminate.outcome import PartResult, PlyResult
from layup.materials import Catalyst, Hardener, ResinSystem
from layup.outcome import Plan, ResinResult, ResinUse
from layup.pots.outcome import PotResult
from layup.shop_facts import ShopFacts

T = TypeVar("T")
_NOT_YET = "the plan has no such number yet"
TYPED, WORKED_OUT, MEMORY, COMMON = "typed", "worked out", "memory", "common practice"


# A number put in: its symbol, name, value, unit and source; and its own working where it has one.
Row = tuple[str, str, float, str, str] | tuple[str, str, float, str, str, str]
# A working: its title, formula, givens, result, unit and rule.
Written = tuple[str, str, Sequence[Row], float, str, str]


class Given(BaseModel):
    """One number put in: its symbol in the formula, what it is, its unit and its kind of source.

    One that was itself worked out may name its own working in `about`.
    """

    model_config = ConfigDict(frozen=True)

    symbol: str
    name: str
    value: float
    unit: str
    source: str
    about: str = ""


class Working(BaseModel):
    """A number worked out, in the core's own unit. `rule` says in words what the formula does, and its source."""

    model_config = ConfigDict(frozen=True)

    about: str
    title: str
    formula: str
    givens: tuple[Given, ...]
    result: float
    unit: str
    rule: str


class Bench:
    """A plan with what it was made from, the things in it found by id, and the resin in use that is in hand."""

    def __init__(self, job: JobSpec, shop: ShopFacts, plan: Plan, use_id: str = ""):
        self.job, self.shop, self.plan = job, shop, plan
        self.in_use = job.use_of(use_id) or job.resins[0]
        resin = job.product_of(self.in_use)
        self.resin: ResinSystem | None = with_logged(resin, shop.gels) if resin else None

    def of(self, use_id: str) -> "Bench":
        """The same with another resin in hand."""
        return Bench(self.job, self.shop, self.plan, use_id)

    def own(self, name: str) -> str:
        """The name of a working of the resin in hand: the first's is not named."""
        return name if self.in_use is self.job.resins[0] else f"{name}:{self.in_use.id}"

    @property
    def told(self) -> ResinResult:
        """What the plan tells of the resin in hand. Raises Missing where it tells nothing yet, as the others do."""
        return known(self.plan.resin_of(self.in_use.id))

    def part(self, part_id: str) -> PartResult:
        """A part's figures. Raises Missing where it has none, as the next two do."""
        return found((part for part in self.plan.parts if part.id == part_id), "this part has no figures yet")

    def ply(self, ply_id: str) -> PlyResult:
        """A ply's figures."""
        plies = (ply for part in self.plan.parts for ply in part.plies)
        return found((ply for ply in plies if ply.id == ply_id), "this ply has no figures yet")

    def pot(self, pot_id: str) -> PotResult:
        """A pot of the plan."""
        return found((pot for pot in self.plan.pots if pot.id == pot_id), "there is no such pot in this plan")

    @property
    def use(self) -> ResinUse:
        """Where the resin in hand goes."""
        return known(self.told.use)

    @property
    def product(self) -> ResinSystem:
        """The resin in hand."""
        return known(self.resin)

    @property
    def catalyst(self) -> Catalyst:
        """What sets the resin in hand, where it is a catalyst."""
        return known(self.product.catalyst)

    @property
    def b_per_a_volume(self) -> float:
        """Its ratio by volume."""
        return known(self.product.ratio_volume_b_per_a)

    @property
    def hardener(self) -> Hardener:
        """The hardener that was chosen, or the blend."""
        chosen = self.told.chemistry.chosen_id
        if not chosen:
            raise Missing(_NOT_YET)
        return hardener_in_hand(self.product, self.in_use, chosen)


def known(value: T | None) -> T:
    """A number or a record that the plan has. Raises Missing where it has none yet.

    >>> known(2.5)
    2.5
    """
    return errors.known(value, _NOT_YET, "about")


def found(things: Iterable[T], message: str) -> T:
    """The first of some things. Raises Missing, with the message, where there is none."""
    for thing in things:
        return thing
    raise Missing(message, "about")


def sum_of(
    title: str,
    rows: Sequence[tuple[str, float] | tuple[str, float, str]],
    unit: str,
    result: float,
    rule: str,
) -> Written:
    """A working that adds up rows of (name, value, own working if any).

    >>> sum_of("Both", [("one", 1), ("two", 2)], "g", 3, "")[1]
    'a + b'
    """
    givens: list[Row] = [
        (symbol(at), row[0], row[1], unit, WORKED_OUT, row[2] if len(row) == 3 else "") for at, row in enumerate(rows)
    ]
    return title, " + ".join(given[0] for given in givens) or "0", givens, result, unit, rule


def symbol(at: int) -> str:
    """The letter of a row, from a on; o is left out, since it looks like nought.

    >>> symbol(0), symbol(13), symbol(25)
    ('a', 'n', 'a1')
    """
    return "abcdefghijklmnpqrstuvwxyz"[at % 25] + (str(at // 25) if at >= 25 else "")


Write = Callable[[Bench, str], Written]
