"""What a plan says, as plain frozen records: the answer the API gives and `python -m layup plan` prints."""

from typing import Any, Literal

from pydantic import model_validator

from layup.bag.outcome import BagResult
from layup.chemistry.outcome import ChemistryResult
from layup.coats.outcome import CoatResult
from layup.day.outcome import RunSheet
from layup.finish.outcome import FinishResult
from layup.infusion.outcome import InfusionResult
from layup.job import Conditions
from layup.joints.outcome import JointResult
from layup.laminate.outcome import PartResult
from layup.pots.outcome import PotResult, StuckResult
from layup.pours.outcome import CastingResult
from layup.record import Record
from layup.scales import Scales
from layup.stiffness.outcome import StiffResult

Severity = Literal["stop", "care", "note"]

Step = Literal[
    "measure", "stack", "cut", "prepare", "chemistry", "joints", "pours", "bag", "finish", "pots", "ticket", "log"
]


class Problem(Record):
    """Something the plan cannot go on without, at the field `path` of the document, shown on `step`.

    It is `wrong` where what stands there cannot be, rather than missing.
    """

    path: str
    message: str
    step: Step
    wrong: bool = False


class OverrideRecord(Record):
    """Who went on past a stop, when, and why."""

    reason: str
    by: str
    at: str


class CautionRecord(Record):
    """A judgement call: what is wrong, why, what to do.

    `path` points at what it is about in the document as it stands, `about` names the same by ids. `said` is the
    message in metric words, whatever units it is read in: what an override is of. `points` is what to do, one thing each,
    for a caution that has a screen of its own.
    """

    id: str
    severity: Severity
    message: str
    reason: str
    do: str
    source: str
    step: Step
    path: str
    overridable: bool
    points: tuple[str, ...] = ()
    about: str = ""
    said: str = ""
    override: OverrideRecord | None = None

    @property
    def stops(self) -> bool:
        return self.severity == "stop" and self.override is None


class ResinUse(Record):
    """Where the job's resin goes, g. The reserve stays in the tin; with it, what is at hand is `allowance_share` over all
    that is laid. `part_b_g` and `catalyst_g` belong to `mixed_g`; of pots measured by volume it is told as volumes,
    `part_a_ml` and `part_b_ml`, which stand in the tin's own ratio.

    `in_plies_g` is without coats. `in_bag_g` goes into what lies under a bag and does not stay: breather, mesh, hoses, trap. `hardeners_g` is what of part B is of which hardener, by its id, where they change over
    the day.
    """

    in_plies_g: float = 0
    first_wet_out_g: float = 0
    in_joints_g: float = 0
    in_pours_g: float = 0
    mopped_off_g: float = 0
    left_in_vessels_g: float
    surplus_g: float
    mixed_g: float
    reserve_g: float
    to_have_g: float
    to_have_ml: float | None
    part_a_g: float | None
    part_b_g: float | None
    part_a_ml: float | None = None
    part_b_ml: float | None = None
    catalyst_g: float | None
    catalyst_ml: float | None
    in_coats_g: float = 0
    in_bag_g: float = 0
    runs_off_g: float = 0
    allowance_share: float = 0
    hardeners_g: dict[str, float] = {}


class ResinResult(Record):
    """A resin in use: what it is for, its verdict, and where it goes.

    `by_volume_g_per_ml` is the density of its mix where its pots are measured by volume, and so told.
    """

    id: str
    word: str
    chemistry: ChemistryResult
    use: ResinUse | None = None
    by_volume_g_per_ml: float | None = None

    def words(self, grams: float, scales: Scales) -> str:
        """So much of its mix, as it is measured."""
        return scales.mixed(grams, self.by_volume_g_per_ml)


class CostLine(Record):
    name: str
    cost: float


class CostRecord(Record):
    """Materials in the shop's currency: `total` is None while the price of any of `unpriced` is not known."""

    total: float | None
    known: float
    unpriced: tuple[str, ...]
    lines: tuple[CostLine, ...] = ()


class DewResult(Record):
    """The surface against the moisture of the air, °C. Under 0 °C the point is a frost point."""

    point_c: float
    margin_c: float
    frost: bool
    safe: bool


StepState = Literal["stop", "to do", "ready", ""]


class StepResult(Record):
    """A step of the job in one line: its headline figure, and whether it stops, waits or is ready."""

    step: Step
    headline: str
    state: StepState


class NextStep(Record):
    step: Step
    words: str


class Plan(Record):
    """The whole answer. `problems` are what is missing; everything else is as far as the job allows.

    `weighed_only` names the parts that are infused and whose flow could not be worked out, so that no pots are planned. `gel_coat_g` is of no resin in use:
    it is mixed by its own sheet, and is in no other figure.
    """

    version: Literal[1] = 1
    conditions: Conditions
    dew: DewResult | None = None
    parts: tuple[PartResult, ...] = ()
    joints: tuple[JointResult, ...] = ()
    pours: tuple[CastingResult, ...] = ()
    coats: tuple[CoatResult, ...] = ()
    bags: tuple[BagResult, ...] = ()
    infusions: tuple[InfusionResult, ...] = ()
    stiffened: tuple[StiffResult, ...] = ()
    finishes: tuple[FinishResult, ...] = ()
    resins: tuple[ResinResult, ...] = ()
    pots: tuple[PotResult, ...] = ()
    pot_count: int = 0
    piece_count: int = 0
    prepare_count: int = 0
    cost: CostRecord | None = None
    stuck: tuple[StuckResult, ...] = ()
    run_sheet: RunSheet | None = None
    cautions: tuple[CautionRecord, ...] = ()
    problems: tuple[Problem, ...] = ()
    steps: tuple[StepResult, ...] = ()
    next_step: NextStep = NextStep(step="measure", words="")
    weighed_only: tuple[str, ...] = ()
    gel_coat_g: float = 0

    @model_validator(mode="before")
    @classmethod
    def _as_first_written(cls, told: Any) -> Any:
        """Plans of runs begun when a job had one resin."""
        if not isinstance(told, dict) or told.get("chemistry") is None:
            return told
        use = told.get("resin")
        first = {
            "id": "",
            "word": "",
            "use": use,
            **{key: told.get(key) for key in ("chemistry", "by_volume_g_per_ml")},
        }
        return told | {"resins": (first,), "gel_coat_g": use.get("gel_coat_g", 0) if use else 0}

    @property
    def divided(self) -> dict[str, tuple[float, ...]]:
        """Where the bays of each part end that is laid in several, m along it, by its id."""
        lanes = self.run_sheet.lanes if self.run_sheet else ()
        return {lane.owner_id: tuple(bay.ends for bay in lane.bays) for lane in lanes if lane.bays}

    def resin_of(self, use_id: str) -> ResinResult | None:
        """What is told of a resin in use, by its id; of the only one where job and plan were made when there was but one."""
        return next((resin for resin in self.resins if use_id in (resin.id, "") or not resin.id), None)

    def pot_words(self, pot: PotResult, scales: Scales) -> str:
        """How much of a mix a pot is, as it is measured."""
        told = self.resin_of(pot.use_id)
        return told.words(pot.mass_g, scales) if told else scales.mass(pot.mass_g)

    @property
    def mixed_g(self) -> float:
        """All that is mixed, g, of whatever resin."""
        return sum(resin.use.mixed_g for resin in self.resins if resin.use)
