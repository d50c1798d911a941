"""The layers of a run as they stand, by touch where they were tested, by the clock where not."""

from collections.abc import Iterable, Mapping, Sequence
from math import inf
from statistics import fmean

from layup.bench.card import BenchCard, CardLayer
from layup.bench.events import Event, FilmRead, StripLaid, Tested
from layup.bench.now import LayerNow, LayerState, PotNow
from layup.bench.pot_now import life_in

# memory: a layer found wet or tacky past its time is so for a tenth of its age more
_STAYS = 1.1
# memory: no clock goes faster than four times as fast as told; what is tacky sooner does not close as much sooner
_FASTEST = 0.25


def layers_now(
    card: BenchCard,
    events: Mapping[str, Sequence[Event]],
    pots: dict[int, PotNow],
    rooms: Sequence[tuple[float, float]],
    now_min: float,
) -> Iterable[LayerNow]:
    """Each layer of a card, from its events, its pots by their numbers, and the rooms that were read, °C, by their moments.

    >>> list(layers_now(BenchCard(pots=(), layers=()), {}, {}, [], 0))
    []
    """
    laid = {layer.id: _laid_min(layer, events[layer.id], pots) for layer in card.layers}
    warmth = {layer.id: warmth_of(layer, card, rooms) for layer in card.layers}
    told = []
    for layer in card.layers:
        at_min = laid[layer.id]
        for event in events[layer.id]:
            if isinstance(event.data, Tested) and at_min is not None and event.at_min > at_min:
                span = told_by(layer, event.data, (event.at_min - at_min) / warmth[layer.id])
                told.append((event.at_min, event.id, layer, span))
    told.sort(key=lambda test: test[:2])
    for layer in card.layers:
        yield _layer(layer, laid[layer.id], warmth[layer.id], events[layer.id], told, now_min)


Span = tuple[float, float]


def told_by(layer: CardLayer, tested: Tested, age_min: float) -> Span:
    """Between which factors the clock of a layer must go, for a test to show what it showed when it was so old, min.

    >>> layer = CardLayer.model_construct(opens_after_min=60.0, closes_after_min=240.0)
    >>> told_by(layer, Tested(test="thumb", shows="closed"), 120)
    (0.0, 0.5)
    """
    opens, closes = max(layer.opens_after_min, 1e-9), max(layer.closes_after_min, 1e-9)
    # What is found wet or tacky later than told stays so for a while.
    if tested.shows == "wet":
        return _STAYS * age_min / opens, inf
    if tested.shows == "tacky":
        most = max(age_min / opens, _FASTEST)
        return min(_STAYS * age_min / closes, most), most
    return 0.0, age_min / closes


def _layer(
    layer: CardLayer,
    laid_min: float | None,
    warmth: float,
    events: Sequence[Event],
    told: Sequence[tuple[float, str, CardLayer, Span]],
    now_min: float,
) -> LayerNow:
    read = [event.data.wet_um for event in events if isinstance(event.data, FilmRead)]
    film_um = fmean(read) if read else None
    if laid_min is None:
        return LayerNow(id=layer.id, strips=tuple(sorted(_strips(layer, events))), film_um=film_um)
    own = [test for test in told if test[2].id == layer.id]
    others = [test for test in told if test[2].use_id == layer.use_id and test[2].id != layer.id]
    factor = 1.0
    # What it showed itself stands over what others of its resin showed.
    for _, _, _, (least, most) in (*others, *own):
        factor = min(max(factor, least), most)
    pace = factor * warmth
    opens, closes, hard = (
        laid_min + pace * after for after in (layer.opens_after_min, layer.closes_after_min, layer.hard_after_min)
    )
    wet = bool(own) and own[-1][3][1] == inf
    if own and not wet and own[-1][3][0] > 0:
        # It was tacky when it was touched, whatever its clock says.
        opens = min(opens, own[-1][0])
    mended = [event.at_min for event in events if event.kind == "mended"]
    if mended and mended[-1] >= opens:
        state: LayerState = "mended"
    elif now_min < opens:
        state = "wet"
    elif now_min < closes:
        state = "tacky"
    else:
        state = "hard" if now_min >= hard else "closed"
    return LayerNow(
        id=layer.id,
        state=state,
        by="test" if own or others else "clock",
        laid_min=laid_min,
        opens_min=opens,
        closes_min=closes,
        hard_min=hard,
        tested=bool(own) and not wet,
        strips=tuple(sorted(_strips(layer, events))),
        film_um=film_um,
        peel_ply=_peel_ply(events),
    )


def _peel_ply(events: Sequence[Event]) -> bool:
    told = [event.kind for event in events if event.kind in ("peel ply on", "peel ply off")]
    return told[-1:] == ["peel ply on"]


def _strips(layer: CardLayer, events: Sequence[Event]) -> dict[int, float]:
    """When each of its strips was laid: two who tap the same one have laid it once."""
    laid: dict[int, float] = {}
    for event in events:
        if isinstance(event.data, StripLaid) and event.data.number <= layer.strips:
            laid.setdefault(event.data.number, event.at_min)
    return laid


def _laid_min(layer: CardLayer, events: Sequence[Event], pots: dict[int, PotNow]) -> float | None:
    """When it was laid: as tapped, or when its last strip was, or the last of its pots was used up."""
    tapped = [event.at_min for event in events if event.kind == "laid"]
    if layer.strips > 1 and len(strips := _strips(layer, events)) == layer.strips:
        tapped.append(max(strips.values()))
    if tapped:
        return min(tapped)
    mine = [pots[number] for number in range(layer.first_pot, layer.last_pot + 1) if number in pots]
    if not mine or any(pot.state != "used up" or pot.ended_min is None for pot in mine):
        return None
    return max(pot.ended_min for pot in mine if pot.ended_min is not None)


def warmth_of(layer: CardLayer, card: BenchCard, rooms: Sequence[tuple[float, float]]) -> float:
    """How much longer the clock of a layer takes in the room as it was last read, than in the room it was planned for: as its
    pots do. `rooms` are moments with the room read then, °C.

    >>> layer = CardLayer.model_construct(last_pot=1)
    >>> warmth_of(layer, BenchCard(pots=(), layers=(layer,)), [(0.0, 25.0)])
    1.0
    """
    pot = card.pot(layer.last_pot)
    if not rooms or pot is None:
        return 1.0
    return life_in(pot.lives, rooms[-1][1], cup=True) / life_in(pot.lives, layer.room_c, cup=True)
