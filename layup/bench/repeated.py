"""A run begun again: as it was planned, or as it was really done."""

from collections.abc import Iterable

from layup.bench.events import Event
from layup.bench.now import BenchState
from layup.bench.pot_now import made_g
from layup.job import JobSpec
from layup.record import Record
from layup.shop_facts import ShopFacts

_MOST_HANDS = 8
# What a job may set as its largest pot, g.
_LEAST_G, _MOST_G = 30.0, 20_000.0


class Differs(Record):
    """In what a run was done otherwise than planned; None where it was not, or where nothing tells.

    `hands` is how many were at the bench at once, `room_c` the room as it was last read, °C, `largest_g` the largest pot that
    was used up, g.
    """

    hands: int | None = None
    room_c: float | None = None
    largest_g: float | None = None


def differs(job: JobSpec, room_c: float, state: BenchState, events: Iterable[Event]) -> Differs:
    """In what a run differs from its job and the room, °C, that it was planned for. A crew by name stands as it is.

    >>> from layup.bench.card import BenchCard
    >>> from layup.bench.state import fold
    >>> read = Event(id="a", about="run", kind="room read", at_min=0, data={"room_c": 24})
    >>> differs(JobSpec(name="Deck"), 20, fold(BenchCard(pots=(), layers=()), [read], 1), [read])
    Differs(hands=None, room_c=24.0, largest_g=None)
    """
    hands = min(_most_at_once(events), _MOST_HANDS)
    found = [(state.card.pot(pot.number), pot) for pot in state.pots if pot.state == "used up"]
    used = [(card, pot) for card, pot in found if card]
    largest_g = max((made_g(card, pot.first, pot.second) for card, pot in used), default=0.0)
    # Of the same pots: of those that were never mixed nothing is told.
    planned_g = max((card.mass_g for card, _ in used), default=0.0)
    return Differs(
        # A tablet is often shared: that fewer signed their presses does not say that fewer were there.
        hands=hands if not job.pots.crew and hands > job.pots.hands else None,
        room_c=state.room_c if state.room_c is not None and state.room_c != room_c else None,
        largest_g=round(largest_g) if _LEAST_G <= largest_g <= _MOST_G and largest_g < 0.95 * planned_g else None,
    )


def repeated(job: JobSpec, shop: ShopFacts, name: str, differs: Differs) -> JobSpec:
    """The document of a run as a job of its own, with what differs, and begun at no set hour.

    >>> again = repeated(JobSpec(name="Deck"), ShopFacts(), "Deck, again", Differs(hands=2, room_c=24))
    >>> again.name, again.pots.hands, again.conditions.room_c
    ('Deck, again', 2, 24.0)
    """
    wishes = job.pots.model_dump() | {"start": None}
    changes = {"hands": differs.hands, "largest_g": differs.largest_g}
    wishes |= {wish: value for wish, value in changes.items() if value is not None}
    document = job.model_dump() | {"name": name, "pots": wishes}
    if differs.room_c is not None:
        document["conditions"] = (job.conditions or shop.conditions).model_dump() | {
            "room_c": differs.room_c,
            "surface_c": None,
        }
    return JobSpec.model_validate(document)


def _most_at_once(events: Iterable[Event]) -> int:
    """How many people were at the bench at once."""
    here: set[str] = set()
    most = 0
    for event in sorted(events, key=lambda event: event.at_min):
        if event.kind in ("opened", "came"):
            here.add(event.by)
        elif event.kind == "left":
            here.discard(event.by)
        most = max(most, len(here))
    return most
