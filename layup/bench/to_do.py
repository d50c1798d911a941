"""What to do now at the bench, in its order, each with its reason; and what falls due, so that it can be sounded.

Codes, not words: whoever shows them has the words.
"""

from collections.abc import Iterator
from typing import Literal

from layup.bench.card import CardFlow, CardLayer, CardPot
from layup.bench.events import About
from layup.bench.now import BenchState, LayerNow, PotNow
from layup.record import Record

Code = Literal[
    "get away",
    "dump",
    "top up",
    "what became of it",
    "use up",
    "cover",
    "weigh first",
    "weigh second",
    "stir",
    "fill",
    "pour out",
    "test",
    "key",
    "lay",
    "tick",
    "mix",
    "plan anew",
    "wait for tack",
    "take out",
    "open the valve",
    "watch the front",
    "close the valve",
    "night",
    "begin",
    "close",
    "closed",
]
Why = Literal[
    "too hot",
    "off its ratio",
    "off its ratio, and too late or too large to mend",
    "past its gel",
    "nearly at the end of its working time",
    "its window closes",
    "in the cup",
    "both parts are in",
    "mixed",
    "touch decides",
    "its window has closed",
    "its pot is live",
    "half of the last is on the work",
    "nothing is live",
    "the layer under it is still wet",
    "it is hard enough",
    "nobody reaches it again",
    "its first resin is in the bucket",
    "the front tells how open the bed is",
    "it is full",
    "a pot was lost",
    "left for the night",
    "nobody has begun",
    "all is laid",
    "",
]
Level = Literal["soon", "now", "get away"]
# memory: what cannot wait is told so many minutes before it is too late
_LAST_MIN, _LAST_SHARE, _COVER_WITHIN_MIN = 3.0, 0.25, 20.0
_PAST_IT_MIN = 12 * 60.0
# memory: a front is looked for so long before it should be there
_WATCH_MIN = 1.0


class ToDo(Record):
    """One thing to do: what, about what, why; `by_min` when it is too late, `from_min` when it can be begun."""

    code: Code
    about: About = "run"
    subject: str = ""
    why: Why = ""
    by_min: float | None = None
    from_min: float | None = None


class Due(Record):
    """A moment that sounds. `key` names it, so that it is answered once for all."""

    key: str
    level: Level
    at_min: float
    about: About
    subject: str


class Deviation(Record):
    """How far a run has left its plan: min behind, g mixed over what was planned of the same pots, pots lost."""

    minutes: float
    grams: float
    pots: int


def to_do(state: BenchState, now_min: float) -> list[ToDo]:
    """What to do, the first first. Never empty.

    >>> from layup.bench.card import BenchCard
    >>> to_do(BenchState(card=BenchCard(pots=(), layers=()), pots=(), layers=()), 0)[0].code
    'begin'
    """
    if state.outcome:
        return [ToDo(code="closed")]
    found = [*_cannot_wait(state, now_min), *_windows(state, now_min)]
    if not state.opened and not any(pot.state != "planned" for pot in state.pots):
        return [*found, ToDo(code="begin", why="nobody has begun")]
    if state.night:
        return [*found, ToDo(code="night", why="left for the night")]
    found += [
        *_in_hand(state),
        *_flow(state, now_min),
        *_lay(state, now_min),
        *_tick(state),
        *_next(state, now_min),
        *_take_out(state, now_min),
    ]
    return found or [ToDo(code="close", why="all is laid")]


def _cannot_wait(state: BenchState, now_min: float) -> Iterator[ToDo]:
    for pot in state.live:
        subject, gels = str(pot.number), pot.gels_min or now_min
        if pot.hot:
            yield ToDo(code="get away", about="pot", subject=subject, why="too hot")
    for pot in state.live:
        subject = str(pot.number)
        if pot.hot:
            continue
        if pot.lost:
            yield ToDo(
                code="dump", about="pot", subject=subject, why="off its ratio, and too late or too large to mend"
            )
        elif pot.mend:
            yield ToDo(code="top up", about="pot", subject=subject, why="off its ratio")
        gels = pot.gels_min or now_min
        if now_min >= gels:
            if now_min - gels < _PAST_IT_MIN:
                yield ToDo(code="what became of it", about="pot", subject=subject, why="past its gel")
        elif pot.on_ratio and _nearly_used(pot, now_min):
            yield ToDo(
                code="use up",
                about="pot",
                subject=subject,
                why="nearly at the end of its working time",
                by_min=pot.use_by_min,
            )


def _nearly_used(pot: PotNow, now_min: float) -> bool:
    if pot.use_by_min is None or pot.touched_min is None:
        return False
    return pot.use_by_min - now_min < max(_LAST_MIN, _LAST_SHARE * (pot.use_by_min - pot.touched_min))


def _windows(state: BenchState, now_min: float) -> Iterator[ToDo]:
    """Layers that close before the next is on them."""
    for layer, now in _waiting(state):
        if now.state == "tacky" and now.closes_min is not None and now.closes_min - now_min < _COVER_WITHIN_MIN:
            yield ToDo(code="cover", about="layer", subject=layer.id, why="its window closes", by_min=now.closes_min)


def _waiting(state: BenchState) -> Iterator[tuple[CardLayer, LayerNow]]:
    """Laid layers on which another is to come that is not laid yet, in the order of the work."""
    for at, (layer, now) in enumerate(zip(state.card.layers, state.layers, strict=True)):
        above = _above(state, at)
        if now.laid_min is not None and above is not None and state.layers[above].laid_min is None:
            yield layer, now


def _above(state: BenchState, at: int) -> int | None:
    mine = state.card.layers[at]
    rest = range(at + 1, len(state.card.layers))
    return next((i for i in rest if _same_place(state.card.layers[i], mine)), None)


def _beneath(state: BenchState, at: int) -> int | None:
    mine = state.card.layers[at]
    return next((i for i in range(at - 1, -1, -1) if _same_place(state.card.layers[i], mine)), None)


def _same_place(one: CardLayer, other: CardLayer) -> bool:
    return one.lane == other.lane and one.bay == other.bay


def _in_hand(state: BenchState) -> Iterator[ToDo]:
    """The pots that are being weighed and mixed."""
    for card, pot in zip(state.card.pots, state.pots, strict=True):
        subject = str(pot.number)
        if pot.state == "weighing":
            code: Code = "weigh first" if pot.first is None else "weigh second"
            yield ToDo(code=code, about="pot", subject=subject, why="in the cup")
        elif pot.state == "live" and pot.on_ratio and not pot.hot:
            if not pot.stirred and pot.first is not None and pot.second is None and len(card.pours) > 1:
                yield ToDo(code="weigh second", about="pot", subject=subject, why="in the cup")
            elif not pot.stirred:
                yield ToDo(code="stir", about="pot", subject=subject, why="both parts are in")
            elif card.filler_ml and not pot.filled and pot.vessel == "cup":
                yield ToDo(code="fill", about="pot", subject=subject, why="mixed")
            elif pot.vessel == "cup" and card.goes_to != "cup" and not pot.half_used:
                yield ToDo(code="pour out", about="pot", subject=subject, why="mixed")


def _lay(state: BenchState, now_min: float) -> Iterator[ToDo]:
    """The layers that live pots are for."""
    for pot in state.live:
        if not pot.on_ratio or pot.hot or not pot.stirred or _gelled(pot, now_min):
            continue
        for layer, now in zip(state.card.layers, state.layers, strict=True):
            if layer.first_pot <= pot.number <= layer.last_pot and now.laid_min is None:
                yield ToDo(code="lay", about="layer", subject=layer.id, why="its pot is live", by_min=pot.use_by_min)


def _flow(state: BenchState, now_min: float) -> Iterator[ToDo]:
    """The valves, and the marks that a front is about to come to."""
    for card, flow in zip(state.card.flows, state.flows, strict=True):

        def about(code: Code, why: Why, card: CardFlow = card, **moment: float | None) -> ToDo:
            return ToDo(code=code, about="flow", subject=card.id, why=why, **moment)

        if flow.opened_min is None:
            if _first_is_in(state, card.lane):
                yield about("open the valve", "its first resin is in the bucket")
        elif flow.valve != "shut":
            if flow.full_min is not None and flow.full_min <= now_min and flow.next_mark is None:
                yield about("close the valve", "it is full")
            elif flow.next_min is not None and flow.next_min - now_min < _WATCH_MIN:
                yield about("watch the front", "the front tells how open the bed is", from_min=flow.next_min)


def _first_is_in(state: BenchState, lane: str) -> bool:
    """Whether the first pot of a lane is mixed."""
    number = next((pot.number for pot in state.card.pots if pot.lane == lane), None)
    pot = next((pot for pot in state.pots if pot.number == number), None)
    return pot is not None and (pot.stirred or pot.state == "used up")


def _tick(state: BenchState) -> Iterator[ToDo]:
    """Faces whose lane is laid, and that are not looked at yet."""
    for face in state.card.faces:
        laid = [
            now.laid_min is not None
            for layer, now in zip(state.card.layers, state.layers, strict=True)
            if layer.lane == face.lane
        ]
        if face.id not in state.ticked and laid and all(laid):
            yield ToDo(code="tick", about="face", subject=face.id, why="nobody reaches it again")


def _gelled(pot: PotNow, now_min: float) -> bool:
    """Whether it has gelled by its clock, said or not."""
    return pot.gels_min is not None and now_min >= pot.gels_min


def _next(state: BenchState, now_min: float) -> Iterator[ToDo]:
    """The next pot, or what it waits for."""
    if _lost_work(state):
        yield ToDo(code="plan anew", why="a pot was lost")
        return
    waits = (pot.state == "weighing" or (pot.state == "live" and (pot.hot or not pot.on_ratio)) for pot in state.pots)
    numbers = (pot.number for pot in state.pots if pot.state == "planned" and not _all_laid(state, pot.number))
    number = next(numbers, None)
    if number is None or any(waits):
        return
    live = [pot for pot in state.live if not pot.half_used and not _gelled(pot, now_min)]
    beneath = _under(state, number)
    if beneath is not None:
        layer, now = state.card.layers[beneath], state.layers[beneath]
        found, open_ = _on_top_of(layer, now, now_min)
        yield from found
        if not open_:
            return
    if not live:
        yield ToDo(code="mix", about="pot", subject=str(number), why="nothing is live")
        return
    newest, touched = state.card.pot(live[-1].number), live[-1].touched_min
    if newest and touched is not None and now_min >= touched + newest.contact_min + newest.spread_min / 2:
        yield ToDo(code="mix", about="pot", subject=str(number), why="half of the last is on the work")


def _on_top_of(layer: CardLayer, now: LayerNow, now_min: float) -> tuple[list[ToDo], bool]:
    """What a layer asks before the next is laid on it, and whether the next pot may be mixed."""

    def about(code: Code, why: Why, **moment: float | None) -> ToDo:
        return ToDo(code=code, about="layer", subject=layer.id, why=why, **moment)

    if layer.test and now.laid_min is None:
        return [], False
    if layer.test and now.opens_min is not None and now.opens_min > now_min:
        return [about("wait for tack", "the layer under it is still wet", from_min=now.opens_min)], False
    if now.state in ("closed", "hard"):
        return [about("key", "its window has closed")], False
    if layer.test and now.state in ("wet", "tacky") and not now.tested:
        return [about("test", "touch decides", by_min=now.closes_min)], True
    return [], True


def _lost_work(state: BenchState) -> bool:
    """Whether a pot was lost whose work is not laid."""
    lost = {pot.number for pot in state.pots if pot.state in ("dumped", "gelled")}
    return any(
        now.laid_min is None and any(layer.first_pot <= number <= layer.last_pot for number in lost)
        for layer, now in zip(state.card.layers, state.layers, strict=True)
    )


def _all_laid(state: BenchState, number: int) -> bool:
    """Whether all that a pot is for is laid without it."""
    mine = [
        now
        for layer, now in zip(state.card.layers, state.layers, strict=True)
        if layer.first_pot <= number <= layer.last_pot
    ]
    return bool(mine) and all(now.laid_min is not None for now in mine)


def _under(state: BenchState, number: int) -> int | None:
    """The place of the layer that lies under what a pot begins."""
    first = next((at for at, layer in enumerate(state.card.layers) if layer.first_pot == number), None)
    return None if first is None else _beneath(state, first)


def _take_out(state: BenchState, now_min: float) -> Iterator[ToDo]:
    for fixing_id, at_min in _fixings(state):
        if at_min <= now_min:
            yield ToDo(code="take out", about="fixing", subject=fixing_id, why="it is hard enough", from_min=at_min)


def _fixings(state: BenchState) -> Iterator[tuple[str, float]]:
    """What is still in, and when it may be taken out: once all of its lane is laid."""
    for fixing in state.card.fixings:
        laid = [
            now.laid_min
            for layer, now in zip(state.card.layers, state.layers, strict=True)
            if layer.lane == fixing.lane
        ]
        known = [at for at in laid if at is not None]
        if fixing.id not in state.out and laid and len(known) == len(laid):
            yield fixing.id, max(known) + fixing.after_min


def due(state: BenchState) -> list[Due]:
    """The moments that sound, in their order, without those that were answered.

    >>> from layup.bench.card import BenchCard
    >>> due(BenchState(card=BenchCard(pots=(), layers=()), pots=(), layers=()))
    []
    """
    if state.outcome:
        return []
    found = [*_due_of_pots(state), *_due_of_layers(state)]
    found += [
        Due(key=f"fixing {fixing_id}", level="soon", at_min=at_min, about="fixing", subject=fixing_id)
        for fixing_id, at_min in _fixings(state)
    ]
    found += _due_of_flows(state)
    return sorted((one for one in found if one.key not in state.answered), key=lambda one: (one.at_min, one.key))


def _due_of_pots(state: BenchState) -> Iterator[Due]:
    for pot in state.live:
        if pot.touched_min is None or pot.use_by_min is None or pot.gels_min is None:
            continue
        subject = str(pot.number)
        half = pot.touched_min + (pot.use_by_min - pot.touched_min) / 2
        moments: tuple[tuple[str, Level, float], ...] = (
            ("half", "soon", half),
            ("end", "now", pot.use_by_min),
            ("gel", "now", pot.gels_min),
        )
        for name, level, at_min in moments:
            yield Due(key=f"pot {subject} {name}", level=level, at_min=at_min, about="pot", subject=subject)
        if pot.hot:
            yield Due(key=f"pot {subject} hot", level="get away", at_min=pot.touched_min, about="pot", subject=subject)


def _due_of_flows(state: BenchState) -> Iterator[Due]:
    """The next mark of each front, and when it is full."""
    for flow in state.flows:
        moments = ((f"mark {flow.next_mark} {flow.id}", flow.next_min), (f"full {flow.id}", flow.full_min))
        for key, at_min in moments:
            if flow.valve != "shut" and at_min is not None:
                yield Due(key=key, level="soon", at_min=at_min, about="flow", subject=flow.id)


def _due_of_layers(state: BenchState) -> Iterator[Due]:
    for layer, now in _waiting(state):
        if now.opens_min is None or now.closes_min is None or now.state in ("closed", "mended", "hard"):
            continue
        if layer.test and not now.tested:
            yield Due(key=f"test {layer.id}", level="soon", at_min=now.opens_min, about="layer", subject=layer.id)
        closes: tuple[tuple[str, Level, float], ...] = (
            ("closing", "soon", now.closes_min - _COVER_WITHIN_MIN),
            ("closes", "now", now.closes_min),
        )
        for name, level, at_min in closes:
            yield Due(key=f"{name} {layer.id}", level=level, at_min=at_min, about="layer", subject=layer.id)


def deviation(state: BenchState) -> Deviation:
    """How far a run has left its plan, by its pots: minutes behind at the last that was mixed, counted from the first.

    >>> from layup.bench.card import BenchCard
    >>> deviation(BenchState(card=BenchCard(pots=(), layers=()), pots=(), layers=())).pots
    0
    """
    cards = {card.number: card for card in state.card.pots}
    mixed = sorted((pot for pot in state.pots if pot.touched_min is not None), key=lambda pot: pot.number)
    lost = sum(pot.state == "dumped" for pot in mixed)
    if not mixed:
        return Deviation(minutes=0, grams=0, pots=0)
    first, last = mixed[0], max(mixed, key=lambda pot: (pot.touched_min or 0.0, pot.number))
    done = (last.touched_min or 0.0) - (first.touched_min or 0.0)
    planned = cards[last.number].planned_touch_min - cards[first.number].planned_touch_min
    over = sum(_over_g(cards[pot.number], pot) for pot in mixed)
    return Deviation(minutes=done - planned, grams=over, pots=lost)


def _over_g(card: CardPot, pot: PotNow) -> float:
    amounts = [pot.first, pot.second][: len(card.pours)]
    if any(pour.tool != "scale" for pour in card.pours):
        return 0.0
    made = [amount * pour.unit_is for amount, pour in zip(amounts, card.pours, strict=True) if amount is not None]
    planned = sum(pour.amount * pour.unit_is for pour in card.pours)
    return sum(made) - planned if len(made) == len(card.pours) else 0.0
