"""Windows kept and missed: how much of a layer meets what is beneath it open, and what would keep a window that closed."""

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from layup.day.schedule import Lane, Layer, Schedule
from layup.day.shop_clock import ShopClock, spoken_span

_ALL = 0.98  # so much of a layer in time is all of it (memory)
_WEIGHED_AND_MIXED_MIN = 10.0  # before the first of a layer is on the work (memory)
_TOO_CLOSE_MIN = 20.0  # neither kept nor missed for certain: pots and their mixing shift with the hour
_SANDED_ANYWAY = "sand, wipe"


@dataclass(frozen=True)
class Late:
    """A layer whose last part would lie on a surface that has closed: `covered_m2` of its lane's area is in time."""

    lane: Lane
    layer: Layer
    covered_m2: float

    @property
    def missed_m2(self) -> float:
        return self.layer.area_m2 - self.covered_m2


def late_layers(schedule: Schedule) -> Iterator[Late]:
    """The layers that are begun in their window and not ended in it; one that is mended first is no longer in any."""
    lanes = {lane.id: lane for lane in schedule.lanes}
    for beneath, layer in stacked(schedule):
        if beneath is None or layer.mended:
            continue
        share = covered_share(beneath, layer)
        lane = lanes[layer.lane]
        if share < _ALL and layer.area_m2:
            yield Late(lane, layer, share * layer.area_m2)


def dried_layers(schedule: Schedule) -> Iterator[Late]:
    """The layers that must go on wet, and whose last part would lie on what has gone tacky."""
    for beneath, layer, lane in _straight_on(schedule):
        if beneath.works[-1].with_next:
            yield from _past(layer, lane, _share_in_time(beneath, layer, beneath.tacky_min, beneath.tacky_last_min))


def laid_on_tacky(schedule: Schedule) -> Iterator[Late]:
    """The plies that follow straight on, part of them on plies that have gone tacky: they bond, and are harder to wet."""
    for beneath, layer, lane in _straight_on(schedule):
        if beneath.works[-1].ply and layer.works[0].ply:
            yield from _past(layer, lane, _share_in_time(beneath, layer, beneath.tacky_min, beneath.tacky_last_min))


def laid_on_set(schedule: Schedule) -> Iterator[Late]:
    """The plies that were to go on wet, and part of which would lie on plies that have set already."""
    for beneath, layer, lane in _straight_on(schedule):
        if beneath.works[-1].ply and layer.works[0].ply:
            yield from _past(layer, lane, _share_in_time(beneath, layer, beneath.sets_min, beneath.sets_last_min))


def _straight_on(schedule: Schedule) -> Iterator[tuple[Layer, Layer, Lane]]:
    """Each layer that waits for nothing and is not mended first, with the one beneath it and its lane."""
    lanes = {lane.id: lane for lane in schedule.lanes}
    for beneath, layer in stacked(schedule):
        if beneath is not None and layer.area_m2 and not (layer.mended or layer.works[0].waits):
            yield beneath, layer, lanes[layer.lane]


def _past(layer: Layer, lane: Lane, share: float) -> Iterator[Late]:
    if share < _ALL:
        yield Late(lane, layer, share * layer.area_m2)


def stacked(schedule: Schedule) -> Iterator[tuple[Layer | None, Layer]]:
    """Each layer with the one beneath it on its lane and in its bay, if this plan laid one there."""
    top: dict[tuple[str, int], Layer] = {}
    for layer in schedule.layers:
        yield top.get((layer.lane, layer.bay)), layer
        top[layer.lane, layer.bay] = layer


def covered_share(beneath: Layer, layer: Layer) -> float:
    """The share of a layer that goes on while what is beneath still takes it, both laid in the same order over the part.

    The first of what is beneath closes first, the last of it last; so it is the last gram above that counts, and how much
    slower it goes on. Exact, for even paces.

    >>> beneath = Layer("p", (), 0, 60, 1, 1, 0, 100, closes_last_min=160)
    >>> covered_share(beneath, Layer("p", (), 60, 160, 2, 2, 0, 0)), covered_share(beneath, Layer("p", (), 60, 240, 2, 2, 0, 0))
    (1.0, 0.3333333333333333)
    """
    return _share_in_time(beneath, layer, beneath.closes_min, beneath.closes_last_min)


def _share_in_time(beneath: Layer, layer: Layer, first_min: float, last_min: float) -> float:
    """The share of a layer that is on before the first and the last of what is beneath are past a state."""
    if layer.to_min <= last_min and layer.from_min <= first_min:
        return 1.0
    left, falls = first_min - layer.from_min, last_min - first_min
    behind = (layer.to_min - layer.from_min) - falls
    if left <= 0:
        return 0.0
    return 1.0 if behind <= left else left / behind


def missed_windows(schedule: Schedule) -> Iterator[tuple[str, int, str]]:
    """The layers that come after the window beneath them, by part or joint: its name, how many, what it costs first.

    Not those that wait to be sanded anyway, nor those for which peel ply was laid.
    """
    names = {lane.id: lane.owner.name for lane in schedule.lanes}
    late = Counter(
        (names[layer.lane], layer.mended)
        for layer in schedule.layers
        if is_missed(layer) and layer.mended != "peel ply"
    )
    for (name, first), count in late.items():
        yield name, count, first


def is_missed(layer: Layer) -> bool:
    """Whether a layer comes after the window beneath it, and not because it waits to be sanded anyway."""
    return bool(layer.mended) and layer.mended != _SANDED_ANYWAY


def what_keeps_it(beneath: Layer, layer: Layer, clock: ShopClock) -> str:
    """What would have kept a window that a night or other work closed, as a sentence that holds."""
    closing = clock.closing(beneath.from_min)
    if closing >= layer.from_min:
        return "Other work came between: more hands, or fewer at once, keeps it."
    ready = max(beneath.opens_min, beneath.to_min)
    if ready + _WEIGHED_AND_MIXED_MIN > beneath.closes_min:
        return "What is beneath closes before it is ended: more hands, a slower hardener, or less at once."
    needs = _WEIGHED_AND_MIXED_MIN + layer.to_min - layer.from_min
    short = needs - max(0.0, closing - ready)
    if clock.began(beneath.from_min) != clock.began(0.0):
        return "The night came between: more hands, or less at once."
    earlier = -clock.began(0.0)
    if 0 < short <= earlier:
        return f"Begun {spoken_span(short)} earlier it is kept."
    if short <= earlier + _TOO_CLOSE_MIN:
        return "Begun as the shop opens it may just be kept: more hands make it sure."
    return "The day is too short for both: more hands, a faster hardener, or less at once."
