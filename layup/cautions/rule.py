"""A caution's shape: the words are data, the trigger a small predicate over the facts of a plan."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from layup.chemistry.catalyst import DoseVerdict
from layup.chemistry.hardeners import HardenerVerdict
from layup.equipment import MadeOf
from layup.job import Conditions, JobSpec, Part, ResinInUse, id_path
from layup.materials import Fabric, ResinSystem
from layup.outcome import CautionRecord, DewResult, OverrideRecord, Severity, Step
from layup.scales import METRIC, Scales
from layup.shop_facts import RoomDay, TinFact


@dataclass(frozen=True)
class ResinFacts:
    """A resin in use, at its `path` in the document, and what the plan found of it. `pot_masses_g` has one entry a kind
    of pot; `peak_c` is of the largest of them left in its cup.
    """

    path: str
    use: ResinInUse
    resin: ResinSystem
    hardener: HardenerVerdict | None
    dose: DoseVerdict | None
    pot_masses_g: tuple[float, ...]
    weight_b_per_a: float | None
    peak_c: float | None = None

    @property
    def styrene(self) -> bool:
        """Whether it carries styrene."""
        return self.resin.styrene


@dataclass(frozen=True)
class Facts:
    """What the rules read: the job, its resins in use that are chosen, and what the plan found so far.

    `found` is what each kind of work found, by its key. `pumps_b_per_a` is the ratio by volume of the pumps, where they
    measure; `late` the layers that end after what is beneath them has closed: the name, what is covered in time, m², and the
    whole. `missed` has the layers that come after the window beneath them, by part or joint: its name, how many, what must
    be done first. `coldest` is how cold the room becomes before the last layer of a resin is hard, °C, and when, in words.
    `tins` are those that are taken next, by their article's key. `room_read` is whether anybody has read the room.
    """

    job: JobSpec
    conditions: Conditions
    room_c: float
    surface_c: float
    dew: DewResult | None
    day: RoomDay | None
    scales: Scales
    resins: tuple[ResinFacts, ...]
    cup_made_of: MadeOf = "polypropylene"
    pumps_b_per_a: float | None = None
    late: tuple[tuple[str, float, float], ...] = ()
    found: Mapping[str, Any] = field(default_factory=dict)
    missed: tuple[tuple[str, int, str], ...] = ()
    coldest: Mapping[str, tuple[float, str]] = field(default_factory=dict)
    tins: Mapping[str, TinFact] = field(default_factory=dict)
    room_read: bool = True

    def resin_of(self, *named: str) -> ResinFacts | None:
        """The resin in use that is the first of these to be named, else the job's first; None while it is not chosen."""
        use = self.job.use_of(*named)
        return next((each for each in self.resins if use and each.use.id == use.id), None)

    def mixed(self, fits: Callable[[ResinFacts], bool] = lambda resin: True) -> Iterator[ResinFacts]:
        """The resins that pots are mixed of, and that fit."""
        return (each for each in self.resins if each.pot_masses_g and fits(each))

    @property
    def plies(self) -> Sequence[tuple[str, Part, Fabric]]:
        """Every ply of a known fabric: its path, its part and the fabric."""
        return self.found["parts"].plies

    @property
    def thickness_mm(self) -> dict[str, float]:
        """How thick each part is that could be worked out, by its id."""
        return {part.id: part.thickness_mm for part in self.found["parts"].parts}

    def parts(self) -> Iterator[tuple[str, Part]]:
        """Each part with its path."""
        for number, part in enumerate(self.job.parts):
            yield f"parts.{number}", part


@dataclass(frozen=True)
class Finding:
    """One time a rule fires: where, and what its words need. `severity` overrides the rule's own."""

    path: str
    message: str
    severity: Severity | None = None


@dataclass(frozen=True)
class Rule:
    """A judgement call as data. `points` are what to do where that stands on a screen of its own, one thing each."""

    id: str
    severity: Severity
    step: Step
    reason: str
    do: str
    source: str
    find: Callable[[Facts], Iterable[Finding]]
    overridable: bool = True
    points: tuple[str, ...] = ()

    def fire(self, facts: Facts) -> list[CautionRecord]:
        """The cautions this rule raises, each with the override that was given for it."""
        found = list(self.find(facts))
        said = found if facts.scales == METRIC else list(self.find(replace(facts, scales=METRIC)))
        return [self._record(facts, finding, metric.message) for finding, metric in zip(found, said, strict=True)]

    def _record(self, facts: Facts, finding: Finding, said: str) -> CautionRecord:
        about = id_path(facts.job, finding.path)
        severity = finding.severity or self.severity
        given = next(
            (
                override
                for override in facts.job.overrides
                if (override.caution_id, override.about, override.said) == (self.id, about, said)
            ),
            None,
        )
        holds = given if severity == "stop" and self.overridable else None
        return CautionRecord(
            id=self.id,
            severity=severity,
            message=finding.message,
            reason=facts.scales.said(self.reason),
            do=facts.scales.said(self.do),
            points=tuple(map(facts.scales.said, self.points)),
            source=self.source,
            step=self.step,
            path=finding.path,
            overridable=self.overridable,
            about=about,
            said=said,
            override=OverrideRecord(reason=holds.reason, by=holds.by, at=holds.at) if holds else None,
        )
