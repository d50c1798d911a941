"""What the touch of a run's layers says of the clocks they were planned by: observations for the log."""

from collections.abc import Iterable

from layup.bench.events import Event, RoomRead, Shows, Tested, Touch
from layup.bench.layer_now import warmth_of
from layup.bench.now import BenchState
from layup.record import Record


class TouchSeen(Record):
    """A layer that was touched so many minutes after it was laid, told in the room it was planned for, and what it showed.

    It was to be tacky from `opens_after_min` until `closes_after_min`. Its clock took at least `least` and at most `most`
    times as long as told; None where the touch sets no bound.
    """

    layer_id: str
    lane_name: str
    words: str
    resin_name: str
    test: Touch
    shows: Shows
    at_min: float
    age_min: float
    opens_after_min: float
    closes_after_min: float
    least: float | None
    most: float | None


def touches(state: BenchState, standing: Iterable[Event]) -> tuple[TouchSeen, ...]:
    """What the tests of a run showed, in their order. `standing` are its events, without those that were taken back.

    >>> from layup.bench.card import BenchCard
    >>> from layup.bench.state import fold
    >>> touches(fold(BenchCard(pots=(), layers=()), [], 0), [])
    ()
    """
    events = sorted(standing, key=lambda event: (event.at_min, event.id))
    rooms = [(event.at_min, event.data.room_c) for event in events if isinstance(event.data, RoomRead)]
    layers = {layer.id: (layer, now) for layer, now in zip(state.card.layers, state.layers, strict=True)}
    found = []
    for event in events:
        layer, now = layers.get(event.subject, (None, None))
        if not isinstance(event.data, Tested) or layer is None or now is None or now.laid_min is None:
            continue
        pot = state.card.pot(layer.last_pot)
        warmth = warmth_of(layer, state.card, [room for room in rooms if room[0] <= event.at_min])
        age_min = (event.at_min - now.laid_min) / warmth
        if age_min <= 0:
            continue
        shows = event.data.shows
        bonds, sets = age_min / max(layer.opens_after_min, 1.0), age_min / max(layer.closes_after_min, 1.0)
        found.append(
            TouchSeen(
                layer_id=layer.id,
                lane_name=layer.lane_name,
                words=layer.words,
                resin_name=pot.resin_name if pot else "",
                test=event.data.test,
                shows=shows,
                at_min=event.at_min,
                age_min=age_min,
                opens_after_min=layer.opens_after_min,
                closes_after_min=layer.closes_after_min,
                least={"wet": bonds, "tacky": sets, "closed": None}[shows],
                most={"wet": None, "tacky": bonds, "closed": sets}[shows],
            )
        )
    return tuple(found)
