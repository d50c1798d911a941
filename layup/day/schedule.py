"""What a schedule is made of: owners, lanes, pots, layers, and the clocks that their cures run by."""

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cache
from math import inf

import numpy as np

from layup.chemistry.cure import CureClocks
from layup.day.forecast import Room
from layup.pots.mix import Mix
from layup.pots.sizing import Stuck
from layup.pots.work import Bay, Owner, Work

HALF_HOUR_MIN = 30.0
# Stands for the bay of what is laid over the whole of a lane after its bays.
LAST_OVER_ALL = -1


@dataclass(frozen=True)
class PlannedPot:
    """One pot: what it is for and when. Minutes from the start; the parts touch at `touch_min`.

    `bay` is the one it is laid in, from 1; nought where it lies on all of its lane before any bay, or there is none, and
    LAST_OVER_ALL where it does after all of them.
    """

    number: int
    lane: str
    owner: Owner
    works: tuple[Work, ...]
    shared_by: int
    mass_g: float
    laid_g: float
    surplus_g: float
    limited_by: str
    spread_g_per_min: float
    mix: Mix
    touch_min: float
    bay: int = 0
    bay_words: str = ""

    @property
    def on_from_min(self) -> float:
        """When the first of it is on the work."""
        return self.touch_min + self.mix.contact_min

    @property
    def used_min(self) -> float:
        """When the last of it is."""
        return self.on_from_min + self.mass_g / self.spread_g_per_min


@dataclass(frozen=True)
class Layer:
    """What one or several pots lay on one lane, with the window after it: when the next ply bonds, and until when.

    It closes where it was begun at `closes_min`, where it was ended at `closes_last_min`.

    `mended` is what a missed window cost before it; `peel_ply` where peel ply is laid on it for the night. It lies in a
    `bay`, as a pot does, on so much `area_m2`; it is `edge_peeled` where peel ply came off the edge of the bay before,
    which had closed.
    The first of it is tacky at `tacky_min`, the last at `tacky_last_min`; it has set, and its splinters stand up, at
    `sets_min` and `sets_last_min`.
    """

    lane: str
    works: tuple[Work, ...]
    from_min: float
    to_min: float
    first_pot: int
    last_pot: int
    opens_min: float
    closes_min: float
    mended: str = ""
    peel_ply: bool = False
    closes_last_min: float = inf
    bay: int = 0
    area_m2: float = 0.0
    edge_peeled: bool = False
    tacky_min: float = inf
    tacky_last_min: float = inf
    sets_min: float = inf
    sets_last_min: float = inf


@dataclass(frozen=True)
class Busy:
    """A stretch in which the hands do one thing, or wait."""

    from_min: float
    to_min: float
    words: str
    waits: bool = False


@dataclass(frozen=True)
class Lane:
    """One copy of an owner, or all of them where they share their pots, with the `bays` it is laid in."""

    id: str
    owner: Owner
    copy: int
    shared_by: int
    area_m2: float
    bays: tuple[Bay, ...] = ()
    coats_too: bool = False

    def bay_words(self, number: int) -> str:
        """A bay by its words; nothing where the lane is not divided, or all of it is meant."""
        return self.bays[number - 1].words if 0 < number <= len(self.bays) else ""


@dataclass(frozen=True)
class Division:
    """How an owner is laid: in so many bays of each copy, one copy after the other; 0 where its copies go by turns.

    `coats_too` where what is coated first is coated bay by bay as well.
    """

    bays: int = 0
    coats_too: bool = False


@dataclass(frozen=True)
class LaidAlready:
    """What is on the work already: on which lane and bay, how much, and when the parts of its pot touched.

    It makes the first `whole` of the works there whole, whatever they weigh by now; nought where it makes none whole.
    """

    lane: str
    laid_g: float
    touch_min: float
    bay: int = 0
    whole: int = 0


@dataclass
class Schedule:
    """All that is laid out, and what could not be.

    `stops` are breaks between two layers of a lane: its id, from and to when, what is done about the missed window.
    `stuck` are works that no pot fits, `too_long` works that no day of the shop holds, with the minutes they take.
    `rests` are works that wait for what is beneath to set, with the mm that may be wet at once. `too_many` is said of a
    schedule that was given up for its number of pots.
    """

    lanes: list[Lane] = field(default_factory=list)
    pots: list[PlannedPot] = field(default_factory=list)
    layers: list[Layer] = field(default_factory=list)
    busy: list[Busy] = field(default_factory=list)
    stops: list[tuple[str, float, float, str]] = field(default_factory=list)
    stuck: list[tuple[Owner, Stuck, Mix]] = field(default_factory=list)
    too_long: list[tuple[Lane, tuple[Work, ...], float]] = field(default_factory=list)
    rests: list[tuple[Owner, Work, float]] = field(default_factory=list)
    too_many: bool = False


class Clocks:
    """When a layer that was mixed at a minute comes to a state, in a room that changes.

    At one temperature a state takes so many minutes from mixing. In a changing room each half hour uses up its own share
    of that wait, half an hour over the minutes the state takes at the half hour's temperature, and the state is reached
    when the shares since mixing come to one.
    """

    def __init__(self, room: Room, clocks_at: Callable[[float], CureClocks]):
        self.room, self.clocks_at = room, clocks_at
        self._spent = cache(self._spent_of)

    def after(self, state: str, minute: float) -> float:
        """The minute at which a layer mixed at `minute` reaches a state, named as in CureClocks."""
        if self.room.steady:
            return minute + getattr(self.clocks_at(float(self.room.temperatures_c[0])), state)
        edges, spent = self._spent(state)
        if spent is None:
            return minute
        begun = np.interp(minute, edges, spent)
        if begun + 1 > spent[-1]:
            # Past the horizon its last pace goes on.
            pace = (spent[-1] - spent[-2]) / (edges[-1] - edges[-2])
            return float(edges[-1] + (begun + 1 - spent[-1]) / pace)
        return float(np.interp(begun + 1, spent, edges))

    def _spent_of(self, state: str) -> tuple[np.ndarray, np.ndarray | None]:
        """The room's half hours, by the minutes at which they begin, and what all of them before each have used up of one
        wait for the state: 2.5 is two waits and a half, one after the other. None for a state that comes at once.
        """
        temperatures, which = np.unique(self.room.grid_c, return_inverse=True)
        minutes = np.array([getattr(self.clocks_at(float(t)), state) for t in temperatures])
        edges = self.room.grid_min
        if not minutes.all():
            return edges, None
        spent = np.concatenate([[0.0], np.cumsum(HALF_HOUR_MIN / minutes[which][:-1])])
        return edges, spent
