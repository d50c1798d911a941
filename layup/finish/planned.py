"""The finish of a part as it is planned."""

from dataclasses import dataclass

from layup.finish.outcome import FinishOnDay, FinishStep
from layup.job import Part
from layup.laminate.outcome import PartResult


@dataclass(frozen=True)
class PlannedFinish:
    """The finish of a part, at its `path` in the document, and when its lanes may be begun on."""

    path: str
    part: Part
    told: PartResult
    steps: tuple[FinishStep, ...]
    two_part: bool
    on_day: tuple[FinishOnDay, ...] = ()
