"""A caution's shape: the words are data, the trigger a small predicate over the facts of a plan."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from layup.catalyst import DoseVerdict
from layup.hardeners import HardenerVerdict
from layup.job import JobSpec, Part
from layup.materials import Fabric, ResinSystem
from layup.outcome import CautionRecord, Severity, Step


@dataclass(frozen=True)
class Facts:
    """What the rules read: the job and what the plan found so far. `pot_masses_g` has one entry a kind of pot."""

    job: JobSpec
    room_c: float
    surface_c: float
    resin: ResinSystem
    hardener: HardenerVerdict | None
    dose: DoseVerdict | None
    plies: tuple[tuple[str, Part, Fabric], ...]
    pot_masses_g: tuple[float, ...]
    weight_b_per_a: float | None


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
        """The cautions this rule raises."""
        return [
            CautionRecord(
                id=self.id,
                severity=finding.severity or self.severity,
                message=finding.message,
                reason=self.reason,
                do=self.do,
                source=self.source,
                step=self.step,
                path=finding.path,
                overridable=self.overridable,
            )
            for finding in self.find(facts)
        ]
