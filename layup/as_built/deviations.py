"""What of a run was done otherwise than it was planned or told."""

from collections.abc import Iterable, Iterator, Mapping, Sequence

from layup.as_built.outcome import BuiltLayer, DoneOtherwise
from layup.bench.card import CardLayer
from layup.bench.events import Event
from layup.bench.now import BenchState
from layup.outcome import Plan
from layup.words import counted


def deviations(
    plan: Plan, state: BenchState, events: Sequence[Event], layers: Mapping[str, BuiltLayer]
) -> Iterator[DoneOtherwise]:
    """Stops that were gone past, pots off their ratio or lost, layers that were not laid, or not in their window, presses that
    were taken back, plans that were taken anew. `events` are all, also those that stand no longer.

    >>> from layup.bench.card import BenchCard
    >>> from layup.bench.state import fold
    >>> from layup.outcome import Conditions
    >>> list(deviations(Plan(conditions=Conditions(room_c=20)), fold(BenchCard(pots=(), layers=()), [], 0), [], {}))
    []
    """
    yield from _overridden(plan)
    yield from _of_pots(state)
    for card, beneath in _with_beneath(state.card.layers):
        yield from _of_layer(layers[card.id], card, beneath, closed=state.outcome is not None)
    yield from _of_events(events)


def _overridden(plan: Plan) -> Iterator[DoneOtherwise]:
    for caution in plan.cautions:
        if caution.override:
            yield DoneOtherwise(
                kind="stop overridden", words=caution.message, by=caution.override.by, reason=caution.override.reason
            )


def _of_pots(state: BenchState) -> Iterator[DoneOtherwise]:
    for pot in state.pots:
        card = state.card.pot(pot.number)
        if pot.touched_min is None or card is None:
            continue
        if pot.off_pct is not None and (pot.mend or pot.lost):
            way = "more" if pot.off_pct > 0 else "less"
            words = f"pot {pot.number} has {abs(pot.off_pct):.0f} % {way} of its second part than its first asks for"
            yield DoneOtherwise(kind="off ratio", words=words, at_min=pot.touched_min)
        if pot.state in ("gelled", "dumped") or pot.lost:
            ended = pot.state if pot.state in ("gelled", "dumped") else "past mending"
            words = f"pot {pot.number}, {card.owner_name}: {ended}"
            yield DoneOtherwise(kind="pot lost", words=words, at_min=pot.ended_min)


def _with_beneath(layers: Iterable[CardLayer]) -> Iterator[tuple[CardLayer, CardLayer | None]]:
    last: dict[tuple[str, str], CardLayer] = {}
    for layer in layers:
        yield layer, last.get((layer.lane, layer.bay))
        last[layer.lane, layer.bay] = layer


def _of_layer(
    layer: BuiltLayer, card: CardLayer, beneath: CardLayer | None, *, closed: bool
) -> Iterator[DoneOtherwise]:
    """Of a run that is still open, what is not laid yet is still to come."""
    called = f"{card.lane_name}{f', {card.bay}' if card.bay else ''}: {layer.words}"
    if layer.state == "not laid" and closed:
        yield DoneOtherwise(kind="not laid", words=f"{called}, not laid")
    elif layer.state == "in part" and closed:
        of = f", {layer.strips_laid} of {counted(layer.strips, 'piece')}" if layer.strips > 1 else ""
        yield DoneOtherwise(kind="laid in part", words=f"{called}, not finished{of}")
    elif layer.went_on == "closed":
        words = f"{called}, laid after the window of what lies under it; nobody wrote down that it was keyed"
        yield DoneOtherwise(kind="window missed", words=words, at_min=layer.laid_min, by=layer.by)
    elif layer.went_on == "wet" and beneath is not None and beneath.test:
        words = f"{called}, laid before what lies under it could bear it"
        yield DoneOtherwise(kind="too early", words=words, at_min=layer.laid_min, by=layer.by)


def _of_events(events: Sequence[Event]) -> Iterator[DoneOtherwise]:
    known = {event.id: event for event in events}
    for event in sorted(events, key=lambda event: event.at_min):
        wrong = known.get(event.takes_back)
        if wrong:
            what = f"pot {wrong.subject}, “{wrong.kind}”" if wrong.about == "pot" else f"“{wrong.kind}”"
            words = f"{what} was taken back"
            reason = getattr(event.data, "words", "")
            yield DoneOtherwise(kind="taken back", words=words, at_min=event.at_min, by=event.by, reason=reason)
        elif event.kind == "plan taken":
            words = "the rest was planned anew"
            yield DoneOtherwise(kind="planned anew", words=words, at_min=event.at_min, by=event.by)
