"""Why each step of a run sheet stands there: one line a kind, for those who learn."""

from collections.abc import Mapping
from typing import Literal, get_args

from layup.day.outcome import MarkKind
from layup.record import Record

LineKind = Literal["busy", "wait", "bay", "pot", "window", "stop"]
StepKind = LineKind | MarkKind
STEP_KINDS: tuple[StepKind, ...] = (*get_args(LineKind), *get_args(MarkKind))


class Why(Record):
    """The reason for a kind of step, and its kind of source."""

    words: str
    source: str


def why_of(kind: StepKind) -> Why:
    """Why a step of this kind stands on a run sheet.

    >>> why_of("squeeze-out").words
    'Soft it comes off with a stick, hard it has to be ground off.'
    """
    return WHY[kind]


_PRACTICE = "common practice"
WHY: Mapping[StepKind, Why] = {
    "busy": Why(words="So long these hands are busy: what must not wait is planned around it.", source=_PRACTICE),
    "wait": Why(words="What was laid has to set so far that the next does it no harm.", source=_PRACTICE),
    "bay": Why(
        words="A piece that is wetted and laid whole leaves no seam that has set in the middle of a layer.",
        source=_PRACTICE,
    ),
    "pot": Why(
        words="Its clock runs from the moment the parts touch: it is weighed when hands are free.", source=_PRACTICE
    ),
    "window": Why(
        words="While it is tacky the next layer bonds by itself; later it has to be washed and sanded first.",
        source=_PRACTICE,
    ),
    "stop": Why(
        words="Here the work may stand over night: what comes after still bonds, or is sanded anyway.", source=_PRACTICE
    ),
    "test": Why(words="The clock guesses, a finger knows: the room is never quite as planned.", source=_PRACTICE),
    "lift": Why(words="What lifts with the brush would be pulled out of place by the next layer.", source=_PRACTICE),
    "squeeze-out": Why(words="Soft it comes off with a stick, hard it has to be ground off.", source=_PRACTICE),
    "bag down": Why(words="A bag presses nothing any more once the first pot has gelled.", source=_PRACTICE),
    "trim": Why(words="While it is like leather a knife cuts it; hard it takes a saw, and dust.", source=_PRACTICE),
    "sand": Why(words="Before this it gums up the paper and stays soft under the scratches.", source=_PRACTICE),
    "open bag": Why(words="Opened sooner, the layers spring apart and air goes in.", source=_PRACTICE),
    "clamps": Why(words="It holds by itself now; before, the joint would creep.", source=_PRACTICE),
    "load": Why(words="Under a load before this it creeps, and stays bent.", source=_PRACTICE),
    "full cure": Why(words="Only now has it the strength and the heat resistance of its sheet.", source=_PRACTICE),
}
