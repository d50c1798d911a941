"""What was built, as plain frozen records: asked for by place, beside what was planned."""

from datetime import datetime, timedelta
from typing import Literal

from layup.bench.events import About, Outcome, Shows, Touch
from layup.laminate.outcome import PartResult
from layup.record import Record
from layup.stock.articles import Unit

# How a layer went on to what lay beneath it: on the bare ground, while that was wet, within its window, after it was
# keyed, or after it had closed without a word of a key.
WentOn = Literal["ground", "wet", "tacky", "keyed", "closed"]
LaidState = Literal["laid", "in part", "not laid"]
OtherwiseKind = Literal[
    "stop overridden",
    "waived",
    "not laid",
    "laid in part",
    "window missed",
    "too early",
    "off ratio",
    "pot lost",
    "taken back",
    "planned anew",
]


class TestSeen(Record):
    """A test by touch and what it showed, so many minutes from the issue."""

    test: Touch
    shows: Shows
    at_min: float
    by: str


class BuiltLayer(Record):
    """A layer as it was laid. Minutes from the issue of its run; None of what nobody wrote down.

    `item_ids` are the works it is of: the ids of its plies. `went_on` says how, by a test or by the clock (`told_by`).
    `resin_share` is the resin laid over the resin planned, None where its pots were not weighed. `pots` are those it was
    laid with, as far as they were poured.
    """

    id: str
    words: str
    item_ids: tuple[str, ...]
    state: LaidState
    strips: int = 1
    strips_laid: int = 0
    laid_min: float | None = None
    by: str = ""
    went_on: WentOn | None = None
    told_by: Literal["clock", "test"] = "clock"
    room_c: float | None = None
    pots: tuple[int, ...] = ()
    resin_share: float | None = None
    film_um: float | None = None
    planned_film_um: float | None = None
    tests: tuple[TestSeen, ...] = ()


class BuiltPlace(Record):
    """A place that can be asked for: a part, a joint or a pour, one copy of it, one of its bays; and what lies there, the
    lowest first.

    `planned` and `laid` are its section, of a part; `by_the_bag` where a bag sets the resin and not what was poured.
    """

    id: str
    lane: str = ""
    owner_id: str
    name: str
    bay: str
    layers: tuple[BuiltLayer, ...]
    planned: PartResult | None = None
    laid: PartResult | None = None
    by_the_bag: bool = False

    @property
    def called(self) -> str:
        """
        >>> BuiltPlace(id="a", owner_id="a", name="Bottom", bay="bay 2", layers=()).called
        'Bottom, bay 2'
        """
        return ", ".join(word for word in (self.name, self.bay) if word)


class LotDrawn(Record):
    """So much of a lot, in its own unit. `bad` is why it must not be used, where it must not."""

    id: str = ""
    called: str
    amount: float
    unit: Unit
    bad: str = ""


class BuiltPot(Record):
    """A pot as it was made: g planned, g poured where it was weighed, how far off its ratio, per cent, the room, °C, its
    life in minutes as told and when it was seen to gel; the lots it is of.
    """

    number: int
    where: str
    resin_name: str
    hardener: str
    planned_g: float
    made_g: float | None = None
    off_pct: float | None = None
    room_c: float | None = None
    touched_min: float | None = None
    by: str = ""
    ended: str = ""
    used_in_min: float | None = None
    gelled_in_min: float | None = None
    left_over_g: float | None = None
    life_min: float
    lots: tuple[LotDrawn, ...] = ()


class DoneOtherwise(Record):
    """Something that was done otherwise than planned or told, in words, by whom and why, where that is known."""

    kind: OtherwiseKind
    words: str
    at_min: float | None = None
    by: str = ""
    reason: str = ""


class Noted(Record):
    """A note or a photo, of what; `photo` is the number that opens the picture."""

    about: About
    subject: str
    where: str
    words: str
    at_min: float
    by: str
    photo: int | None = None


class AsBuilt(Record):
    """A run as it was built, from its first press to its last; `cut` is what its pieces took off which rolls. `coldest_c` and `warmest_c` are what was read of the room, °C."""

    version: Literal[1] = 1
    job_name: str
    revision: int
    issued_at: datetime
    begun_min: float = 0.0
    ended_min: float | None = None
    outcome: Outcome | None = None
    simulated: bool = False
    people: tuple[str, ...] = ()
    planned_room_c: float
    coldest_c: float | None = None
    warmest_c: float | None = None
    places: tuple[BuiltPlace, ...] = ()
    pots: tuple[BuiltPot, ...] = ()
    cut: tuple[LotDrawn, ...] = ()
    deviations: tuple[DoneOtherwise, ...] = ()
    noted: tuple[Noted, ...] = ()

    def moment(self, minutes: float) -> datetime:
        """When a minute of the run was, by the clock of its shop.

        >>> built = AsBuilt(job_name="Deck", revision=1, issued_at=datetime(2026, 5, 4, 9, 0), planned_room_c=20)
        >>> f"{built.moment(75):%H:%M}"
        '10:15'
        """
        return self.issued_at + timedelta(minutes=minutes)

    def at(self, name: str) -> tuple[BuiltPlace, ...]:
        """The places whose name holds the words asked for, in any case.

        >>> AsBuilt(job_name="Deck", revision=1, issued_at=datetime(2026, 5, 4, 9, 0), planned_room_c=20).at("keel")
        ()
        """
        return tuple(place for place in self.places if name.strip().lower() in place.called.lower())
