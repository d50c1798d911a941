"""What a plan has found so far, while it is being worked out."""

from dataclasses import dataclass, field

from layup.job import Joint, Part
from layup.materials import Fabric, Filler
from layup.outcome import JointResult, PartResult, Problem, Step
from layup.pots import Work
from layup.thickening import Paste


@dataclass
class Draft:
    """Results of the rooms already gone through, and what was missing there."""

    problems: list[Problem] = field(default_factory=list)
    parts: list[PartResult] = field(default_factory=list)
    joints: list[JointResult] = field(default_factory=list)
    works: list[tuple[str, int, list[Work]]] = field(default_factory=list)
    pastes: dict[str, tuple[Joint, Paste, Filler]] = field(default_factory=dict)
    plies: list[tuple[str, Part, Fabric]] = field(default_factory=list)

    def missing(self, path: str, message: str, step: Step) -> None:
        self.problems.append(Problem(path=path, message=message, step=step))
