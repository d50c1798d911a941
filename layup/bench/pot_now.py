"""One pot as it stands: what was weighed, what mends it, how much of its life is spent."""

from bisect import bisect_right
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import exp, log
from typing import Literal, TypeVar

from layup.bench.card import CardLife, CardPot
from layup.bench.events import Data, Event, EventKind, Made, Moved, Read, Temperature, Vessel, Weighed
from layup.bench.now import PotNow, PotState

_ENDS: tuple[EventKind, ...] = ("used up", "gelled", "dumped")
Kind = TypeVar("Kind", bound=Data)


def data_in(events: Sequence[Event], kind: EventKind, of: type[Kind]) -> Iterable[Kind]:
    """What the events of a kind carry.

    >>> read = Event(id="a", about="pot", subject="1", kind="A in", at_min=0, data={"amount": 290})
    >>> [data.amount for data in data_in([read], "A in", Read)]
    [290.0]
    """
    return (event.data for event in events if event.kind == kind and isinstance(event.data, of))


def pot_now(
    card: CardPot, events: Sequence[Event], rooms: Sequence[tuple[float, float]], now_min: float, too_hot_c: float
) -> PotNow:
    """A pot at a moment, from its own events in their order and the rooms that were read, °C, by their moments.

    >>> pot_now(CardPot.model_construct(number=3, b_first=False, second_per_first=0.3, pours=()), [], [], 0, 40).state
    'planned'
    """
    again = max((at for at, event in enumerate(events) if event.kind == "started over"), default=-1)
    events = events[again + 1 :]
    at = {event.kind: event for event in reversed(events)}
    last = {event.kind: event for event in events}
    kinds: tuple[EventKind, EventKind] = ("B in", "A in") if card.b_first else ("A in", "B in")
    first, second = (_read(last.get(kind)) for kind in kinds)
    made = next(iter(data_in(events, "touched", Made)), None)
    if made and made.a_g is not None and made.b_g is not None:
        first, second = _as_read(card, made.a_g, made.b_g)
    touched_min = _touched_min(card, at)
    on_ratio = weighed(card, first, second)
    end = next((event for event in events if event.kind in _ENDS), None)
    moves = [(event.at_min, event.data.to) for event in events if isinstance(event.data, Moved)]
    hot = any(
        event.kind == "too hot" or (isinstance(event.data, Temperature) and event.data.temperature_c >= too_hot_c)
        for event in events
    )
    told = {
        "number": card.number,
        "vessel": moves[-1][1] if moves else "cup",
        "cup_g": _grams(events, "cup on"),
        "first": first,
        "second": second,
        # What is written down at once was mixed before.
        "stirred": "stirred" in at or "poured over" in at or bool(moves) or (made is not None and made.a_g is not None),
        "filled": "filler in" in at,
        "half_used": "half used" in at,
        "hot": hot,
        "left_over_g": _grams(events, "left over"),
        **vars(on_ratio),
    }
    if touched_min is None:
        return PotNow(state="weighing" if events else "planned", **told)
    state: PotState = end.kind if end and end.kind in _ENDS else "live"  # type: ignore[assignment]
    until = end.at_min if end else now_min
    life = _Life(card, made_g(card, first, second), rooms, moves)
    used = life.used(touched_min, until)
    lost = told["lost"] or bool(told["mend"] and used >= card.mended_until)
    return PotNow(
        state=state,
        touched_min=touched_min,
        ended_min=end.at_min if end else None,
        life_used=used,
        use_by_min=life.when(card.working_share, used, until),
        gels_min=life.when(1.0, used, until),
        **told | {"lost": lost, "mend": "" if lost else told["mend"]},
    )


def _grams(events: Sequence[Event], kind: EventKind) -> float | None:
    weighed = [data.grams for data in data_in(events, kind, Weighed)]
    return weighed[-1] if weighed else None


def _read(event: Event | None) -> float | None:
    return event.data.amount if event and isinstance(event.data, Read) else None


def _as_read(card: CardPot, a_g: float, b_g: float) -> tuple[float | None, float | None]:
    """Weights of A and B as the tools would have read them, in the order they go in."""
    pours = {pour.part in ("A", "resin"): pour for pour in card.pours if pour.tool == "scale"}
    a, b = pours.get(True), pours.get(False)
    read = a_g / a.unit_is if a else None, b_g / b.unit_is if b else None
    return (read[1], read[0]) if card.b_first else read


def _touched_min(card: CardPot, at: dict[EventKind, Event]) -> float | None:
    """When its parts touched: as tapped, or when the second of them was in."""
    if "touched" in at:
        return at["touched"].at_min
    kinds: tuple[EventKind, ...] = ("A in", "B in") if len(card.pours) > 1 else ("A in",)
    if not all(kind in at for kind in kinds):
        return None
    return max(at[kind].at_min for kind in kinds)


@dataclass(frozen=True)
class OnRatio:
    """What the second part must come to, how far what is in is off it, per cent, and what mends that, as the tools read."""

    target: float | None = None
    off_pct: float | None = None
    mend: Literal["", "first", "second"] = ""
    mend_amount: float = 0.0
    lost: bool = False


def weighed(card: CardPot, first: float | None, second: float | None) -> OnRatio:
    """What the second part poured must come to, and once it is in, how far it is off and what mends it.

    >>> card = CardPot.model_construct(second_per_first=0.5, b_first=False, least_off_pct=-5.0, most_off_pct=5.0)
    >>> weighed(card, 300, None).target, weighed(card, 300, 152).mend
    (150.0, '')
    """
    if card.second_per_first is None or first is None:
        return OnRatio()
    # The ratio is of the part that sets over the part that is set, whichever goes in first.
    wanted = first / card.second_per_first if card.b_first else first * card.second_per_first
    if second is None:
        return OnRatio(target=wanted)
    if not first or not wanted:
        return OnRatio(wanted, None, "first", card.pours[0].amount)
    off = 100 * (second / wanted - 1)
    low, high = card.least_off_pct, card.most_off_pct
    if card.b_first:
        low, high = 100 / (1 + high / 100) - 100, 100 / (1 + low / 100) - 100
    if low <= off <= high:
        return OnRatio(wanted, off)
    if off < 0:
        mend: Literal["first", "second"] = "second"
        amount = wanted - second
    else:
        mend, amount = "first", second * first / wanted - first
    pour = card.pours[0 if mend == "first" else 1]
    mass_g = made_g(card, first, second)
    lost = pour.tool == "scale" and mass_g + amount * pour.unit_is > card.most_g
    return OnRatio(wanted, off, "" if lost else mend, 0.0 if lost else amount, lost)


def made_g(card: CardPot, first: float | None, second: float | None) -> float:
    """What is in the cup, g, by its parts as they were read: as planned, where one is not weighed.

    >>> from layup.bench.card import CardPot
    >>> made_g(CardPot.model_construct(mass_g=420.0, pours=()), None, None)
    0
    """
    amounts = [amount for amount in (first, second) if amount is not None]
    if len(amounts) < len(card.pours) or any(pour.tool != "scale" for pour in card.pours):
        return card.mass_g
    return sum(amount * pour.unit_is for amount, pour in zip(amounts, card.pours, strict=True))


class _Life:
    """How a pot's life is spent, in the rooms it stood in and the vessels it was in.

    Until it is said to be poured out, it ages as in its cup.
    """

    def __init__(
        self,
        card: CardPot,
        mass_g: float,
        rooms: Sequence[tuple[float, float]],
        moves: Sequence[tuple[float, Vessel]],
    ):
        self._card, self._rooms, self._moves = card, rooms, moves
        self._by_mass = (mass_g / card.mass_g) ** card.by_mass if mass_g > 0 else 1.0

    def _min(self, at_min: float) -> float:
        """How long a pot lives that stays as it was at a moment."""
        room_c = _last_before(self._rooms, at_min, self._card.room_c)
        cup = _last_before(self._moves, at_min, "cup") == "cup"
        return self._by_mass * life_in(self._card.lives, room_c, cup=cup)

    def used(self, from_min: float, to_min: float) -> float:
        """The share of its life spent between two moments."""
        turns = sorted(at for at, _ in (*self._rooms, *self._moves) if from_min < at < to_min)
        used = 0.0
        for begin, end in pairwise([from_min, *turns, to_min]):
            if begin == self._out_min:
                used = self._poured(used)
            used += (end - begin) / self._min(begin)
        return used

    @property
    def _out_min(self) -> float | None:
        """When it first left its cup."""
        return next((at for at, to in self._moves if to != "cup"), None)

    def _poured(self, used: float) -> float:
        """The share of its life out of its cup that a pot has spent, which had spent such a share of its life in it."""
        left, at = self._card.poured_left, used * (len(self._card.poured_left) - 1)
        if not left or not 0 <= used < 1:
            return used
        low = int(at)
        return 1 - (left[low] + (at - low) * (left[low + 1] - left[low]))

    def when(self, share: float, used: float, now_min: float) -> float:
        """When it will have spent a share, staying as it is."""
        return now_min + (share - used) * self._min(now_min)


Value = TypeVar("Value")


def _last_before(changes: Sequence[tuple[float, Value]], at_min: float, else_: Value) -> Value:
    known = [value for at, value in changes if at <= at_min]
    return known[-1] if known else else_


def life_in(lives: Sequence[CardLife], room_c: float, *, cup: bool) -> float:
    """The life of a pot in a room, min, between those the card knows; past them the nearest stands.

    >>> rows = [CardLife(room_c=20, cup_min=40, vessel_min=80), CardLife(room_c=30, cup_min=10, vessel_min=20)]
    >>> round(life_in(rows, 25, cup=True)), life_in(rows, 50, cup=False)
    (20, 20.0)
    """
    at = bisect_right([row.room_c for row in lives], room_c)
    if at in (0, len(lives)):
        row = lives[0 if at == 0 else -1]
        return row.cup_min if cup else row.vessel_min
    low, high = lives[at - 1], lives[at]
    share = (room_c - low.room_c) / (high.room_c - low.room_c)
    ends = (low.cup_min, high.cup_min) if cup else (low.vessel_min, high.vessel_min)
    return exp((1 - share) * log(ends[0]) + share * log(ends[1]))
