"""What a plan says of how its parts are finished, as plain frozen records."""

from typing import Literal

from layup.record import Record

FinishKind = Literal["trim", "wash", "fill", "grit", "coat", "polish", "fittings"]


class FinishStep(Record):
    """One step: what is done, the minutes of one pair of hands for all copies, the hours that are waited after it.

    A `grit` takes so many discs or sheets, and is followed by dust-off and wipe, whose minutes are in it.
    """

    kind: FinishKind
    words: str
    minutes: float
    wait_h: float = 0.0
    grit: int | None = None
    grain_um: float | None = None
    wet: bool = False
    discs: int = 0


class FinishOnDay(Record):
    """When a lane of a part may be finished, minutes from the start: sanded, and trimmed with a knife before that."""

    lane: str
    begins_min: float
    knife_min: float


class FinishResult(Record):
    """How a part is finished: its steps in order, its hours of one pair of hands and those that are waited.

    `fairing_ml` is what fills the low places, mixed; their mean gap is `mean_low_mm`.
    """

    id: str
    name: str
    to: str
    area_m2: float
    steps: tuple[FinishStep, ...]
    work_h: float
    wait_h: float
    mean_low_mm: float | None = None
    fairing_ml: float = 0.0
    own_minutes: bool = False
    on_day: tuple[FinishOnDay, ...] = ()
