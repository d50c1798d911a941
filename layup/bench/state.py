"""The state of a run: its card, what happened, and the time, folded. It depends on nothing else.

The bench of the web folds the same by itself, so that it goes on without a network; a test holds both to the same answers.
"""

from bisect import insort
from collections import defaultdict
from collections.abc import Iterable, Sequence
from math import inf

from layup.bench.card import BenchCard, CardPot
from layup.bench.events import About, Answered, Ended, Event, EventKind, RoomRead, Taken
from layup.bench.flow_now import flow_now
from layup.bench.layer_now import layers_now
from layup.bench.now import BenchState, PotNow
from layup.bench.pot_now import data_in, pot_now


def fold(card: BenchCard, events: Iterable[Event], now_min: float) -> BenchState:
    """A run's state at a moment, in minutes from its issue. What happens after it is not looked at; the order in which
    events come does not matter, each counts once, and one that was taken back never happened.

    >>> fold(BenchCard(pots=(), layers=()), [Event(id="a", about="run", kind="opened", at_min=0)], 5).opened
    True
    """
    folding = Folding(card)
    for event in events:
        folding.add(event)
    return folding.state(now_min)


class Folding:
    """A run that goes on: of each event only what it touches is worked out anew."""

    def __init__(self, card: BenchCard):
        self._issued = card
        self._known: dict[str, Event] = {}
        self._gone: set[str] = set()
        self._of: dict[tuple[str, str], list[Event]] = defaultdict(list)
        # Pots that no longer change by themselves, with when they last did.
        self._still: dict[int, tuple[float, PotNow]] = {}

    def add(self, event: Event) -> None:
        """Take one event more, whenever it happened.

        >>> run = Folding(BenchCard(pots=(), layers=()))
        >>> run.add(Event(id="b", about="run", kind="taken back", at_min=2, takes_back="a"))
        >>> run.add(Event(id="a", about="run", kind="opened", at_min=0))
        >>> run.state(5).opened
        False
        """
        if event.id in self._known:
            return
        self._known[event.id] = event
        if event.takes_back:
            self._gone.add(event.takes_back)
            wrong = self._known.get(event.takes_back)
            if wrong and wrong in (mine := self._of[wrong.about, wrong.subject]):
                mine.remove(wrong)
                self._touch(wrong)
        elif event.id not in self._gone:
            insort(self._of[event.about, event.subject], event, key=_happened)
            self._touch(event)

    def _touch(self, event: Event) -> None:
        if event.about == "pot" and event.subject.isdecimal():
            self._still.pop(int(event.subject), None)
        elif event.kind in ("room read", "plan taken"):
            self._still.clear()

    def _so_far(self, about: About, subject: str, now_min: float) -> list[Event]:
        events = self._of.get((about, subject), [])
        if not events or events[-1].at_min <= now_min:
            return events
        return [event for event in events if event.at_min <= now_min]

    def state(self, now_min: float) -> BenchState:
        """The run as it stands at a moment, in minutes from its issue.

        >>> Folding(BenchCard(pots=(), layers=())).state(0).opened
        False
        """
        of_run = self._so_far("run", "", now_min)
        card = self._issued
        for taken in data_in(of_run, "plan taken", Taken):
            card = card.taken(BenchCard.model_validate(taken.card))
        rooms = [(event.at_min, event.data.room_c) for event in of_run if isinstance(event.data, RoomRead)]
        pots = tuple(self._pot(pot, rooms, now_min) for pot in card.pots)
        told = {layer.id: self._so_far("layer", layer.id, now_min) for layer in card.layers}
        ended = [event.data.outcome for event in of_run if isinstance(event.data, Ended)]
        nights = [event.kind for event in of_run if event.kind in ("night", "gone on")]
        return BenchState(
            card=card,
            pots=pots,
            layers=tuple(layers_now(card, told, {pot.number: pot for pot in pots}, rooms, now_min)),
            flows=tuple(flow_now(flow, self._so_far("flow", flow.id, now_min), now_min) for flow in card.flows),
            out=self._things("fixing", "taken out", now_min),
            ticked=self._things("face", "ticked", now_min),
            answered=tuple(dict.fromkeys(data.key for data in data_in(of_run, "answered", Answered))),
            people=tuple(_people(of_run)),
            goggled=tuple(dict.fromkeys(event.by for event in of_run if event.kind == "goggles on")),
            room_c=rooms[-1][1] if rooms else None,
            opened=any(event.kind == "opened" for event in of_run),
            night=nights[-1:] == ["night"],
            outcome=ended[-1] if ended else None,
        )

    def _things(self, about: About, kind: EventKind, now_min: float) -> tuple[str, ...]:
        """The things of which a kind was said, in the order it was."""
        said = (event for (of, _), events in self._of.items() if of == about for event in events if event.kind == kind)
        return tuple(event.subject for event in sorted(said, key=_happened) if event.at_min <= now_min)

    def _pot(self, card: CardPot, rooms: Sequence[tuple[float, float]], now_min: float) -> PotNow:
        """A pot as it stands; one that does not age is not worked out again."""
        number = card.number
        since_min, still = self._still.get(number, (inf, None))
        if still and since_min <= now_min:
            return still
        events = self._so_far("pot", str(number), now_min)
        pot = pot_now(card, events, rooms, now_min, self._issued.too_hot_c)
        if pot.state != "live" and len(events) == len(self._of.get(("pot", str(number)), ())):
            self._still[number] = events[-1].at_min if events else -inf, pot
        return pot


def _happened(event: Event) -> tuple[float, str]:
    """The order in which things happened; of those in the same moment, by their names."""
    return event.at_min, event.id


def _people(events: Sequence[Event]) -> list[str]:
    here: dict[str, None] = {}
    for event in events:
        if event.kind in ("came", "opened"):
            here[event.by] = None
        elif event.kind == "left":
            here.pop(event.by, None)
    return list(here)
