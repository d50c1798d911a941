"""What was tried and what was signed, as a record is made of them."""

from datetime import datetime

from layup.record import Record


class Attempt(Record):
    """One thing tried: which (`tare-17`, `weigh-3`, `sample-5`, a lesson's id), whether it was right, when."""

    thing: str
    right: bool
    at: datetime

    @property
    def kind(self) -> str:
        """What it was one of."""
        return self.thing.rpartition("-")[0] or self.thing


class Signed(Record):
    """A task signed off."""

    task: str
    by: str
    at: datetime
