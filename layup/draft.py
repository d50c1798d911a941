"""What a plan has found so far, while it is being worked out."""

from dataclasses import dataclass, field

from layup.job import Part
from layup.joints.plan import PlannedJoint
from layup.laminate.outcome import PartResult
from layup.materials import Fabric
from layup.outcome import Problem, Step
from layup.pots.sizing import Work


@dataclass
class Draft:
    """Results of the rooms already gone through, and what was missing there.

    `weighed_only` are the parts under a bag: their weights are worked out, their pots and hours are not.
    """

    problems: list[Problem] = field(default_factory=list)
    parts: list[PartResult] = field(default_factory=list)
    joints: list[PlannedJoint] = field(default_factory=list)
    works: list[tuple[str, int, list[Work]]] = field(default_factory=list)
    weighed_only: list[PartResult] = field(default_factory=list)
    plies: list[tuple[str, Part, Fabric]] = field(default_factory=list)

    def missing(self, path: str, message: str, step: Step, *, wrong: bool = False) -> None:
        self.problems.append(Problem(path=path, message=message, step=step, wrong=wrong))

    def missing_of_joint(self, path: str, message: str, wrong: bool) -> None:
        self.missing(path, message, "joints", wrong=wrong)
