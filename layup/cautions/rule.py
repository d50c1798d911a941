"""A caution's shape: the words are data, the trigger a small predicate over the facts of a plan."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from layup.chemistry.catalyst import DoseVerdict
from layup.chemistry.hardeners import HardenerVerdict
from layup.equipment import MadeOf
from layup.job import Conditions, JobSpec, Part, id_path
from layup.materials import Fabric, ResinSystem
from layup.outcome import CautionRecord, DewResult, OverrideRecord, Severity, Step
from layup.scales import METRIC, Scales
from layup.shop_facts import RoomDay


@dataclass(frozen=True)
class Facts:
    """What the rules read: the job and what the plan found so far. `pot_masses_g` has one entry a kind of pot.

    `found` is what each kind of work found, by its key. `peak_c` is of the largest pot left in its cup; `pumps_b_per_a` the
    ratio by volume of the pumps, where they measure; `late` the layers that end after what is beneath them has closed: the name, what is
    covered in time, m², and the whole. `missed` has the layers that come after the window beneath them, by part or
    joint: its name, how many, what must be done first. `coldest` is how cold the room becomes before the last layer is
    hard, °C, and when, in words.
    """

    job: JobSpec
    conditions: Conditions
    room_c: float
    surface_c: float
    dew: DewResult | None
    day: RoomDay | None
    scales: Scales
    resin: ResinSystem
    hardener: HardenerVerdict | None
    dose: DoseVerdict | None
    pot_masses_g: tuple[float, ...]
    weight_b_per_a: float | None
    cup_made_of: MadeOf = "polypropylene"
    peak_c: float | None = None
    pumps_b_per_a: float | None = None
    late: tuple[tuple[str, float, float], ...] = ()
    found: Mapping[str, Any] = field(default_factory=dict)
    missed: tuple[tuple[str, int, str], ...] = ()
    coldest: tuple[float, str] | None = None

    @property
    def styrene(self) -> bool:
        """Whether the resin carries styrene."""
        return self.resin.family != "epoxy"

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
    id: str
    severity: Severity
    step: Step
    reason: str
    do: str
    source: str
    find: Callable[[Facts], Iterable[Finding]]
    overridable: bool = True

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
        holds = given is not None and severity == "stop" and self.overridable
        return CautionRecord(
            id=self.id,
            severity=severity,
            message=finding.message,
            reason=facts.scales.said(self.reason),
            do=facts.scales.said(self.do),
            source=self.source,
            step=self.step,
            path=finding.path,
            overridable=self.overridable,
            about=about,
            said=said,
            override=OverrideRecord(reason=given.reason, by=given.by, at=given.at) if holds else None,
        )
