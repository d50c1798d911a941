"""How deep one pour may be, and the lifts that a deeper one takes: each when the last bears, bonds and has cooled."""

from dataclasses import dataclass
from functools import lru_cache
from math import ceil, inf, isfinite

import numpy as np

from layup.heat.cure_kinetics import Cure
from layup.heat.pour_heat import PourHistory, Start, follow
from layup.pours.surround import Surround

SHALLOWEST_MM, DEEPEST_MM = 1.0, 300.0
MOST_LIFTS = 12
# The rooms that a chart of deepest pours has, °C.
ROOMS_C = (10.0, 14.0, 18.0, 22.0, 26.0, 30.0, 34.0)
_SWEPT, _REFINED = 12, 6
# A lift on a lift may come out hotter than on its ground: so many more lifts than the first needs are tried.
_MORE_TRIED = 3


@dataclass(frozen=True)
class Lift:
    """One lift: how deep, how hot its hottest becomes and when; when its middle and its faces gel; the next may be poured from
    `opens_min`, and bonds until `closes_min`. Minutes from its own pouring; infinite for what does not come.

    `cooled_min` is when all of it is within 5 °C of the room.
    """

    depth_mm: float
    peak_c: float
    peak_min: float
    gel_min: float
    gel_under_min: float
    gel_open_min: float
    bears_min: float
    closes_min: float
    cooled_min: float

    @property
    def opens_min(self) -> float:
        return max(self.bears_min, self.cooled_min)

    @property
    def cools_too_late(self) -> bool:
        """Whether it no longer bonds by the time it has cooled: then it is keyed."""
        return self.opens_min > self.closes_min


@lru_cache(maxsize=512)
def lifts_of(cure: Cure, surround: Surround, depths_mm: tuple[float, ...], room_c: float) -> tuple[Lift, ...]:
    """Lifts on one another, each poured as the one beneath has cooled and bears it.

    >>> from layup.castings import Pour
    >>> from layup.pours.surround import casting_cure, surround_of
    >>> wood = surround_of(Pour(id="p"), 1.1, None, 300, True)
    >>> [round(lift.peak_c) for lift in lifts_of(casting_cure(25.0), wood, (25.0,), 23.0)]
    [60]
    """
    return tuple(lift for lift, _ in _poured(cure, surround, depths_mm, room_c))


def history_of(cure: Cure, surround: Surround, depths_mm: tuple[float, ...], room_c: float) -> tuple[PourHistory, ...]:
    """The same lifts through their hours, each with what lies beneath it."""
    return tuple(history for _, history in _poured(cure, surround, depths_mm, room_c))


@lru_cache(maxsize=64)
def _poured(
    cure: Cure, surround: Surround, depths_mm: tuple[float, ...], room_c: float
) -> tuple[tuple[Lift, PourHistory], ...]:
    found: list[tuple[Lift, PourHistory]] = []
    start: Start | None = None
    for at in range(1, len(depths_mm) + 1):
        body = surround.body(depths_mm[:at])
        poured, history = follow([body], cure, [room_c], starts=[start] if start else [], kept=True)
        if history is None:
            break
        told = (poured.peak_c, poured.peak_min, poured.gel_min, poured.gel_under_min, poured.gel_open_min)
        lift = Lift(
            depths_mm[at - 1],
            *(float(each[0]) for each in told),
            *(float(each[0]) for each in (poured.bears_min, poured.bonds_until_min, poured.cooled_min)),
        )
        found.append((lift, history))
        start = history.at(lift.opens_min if isfinite(lift.opens_min) else history.minutes[-1])
    return tuple(found)


def second_peak_c(cure: Cure, surround: Surround, depth_mm: float, room_c: float, after_min: float) -> float:
    """The peak of a lift poured on one as deep, so many minutes after it, °C."""
    ((_, history),) = _poured(cure, surround, (depth_mm,), room_c)
    body = surround.body((depth_mm, depth_mm))
    poured, _ = follow([body], cure, [room_c], starts=[history.at(after_min)], to_the_end=False)
    return float(poured.peak_c[0])


def peaks_at(cure: Cure, surround: Surround, depths_mm: tuple[float, ...], room_c: float) -> np.ndarray:
    """The peak of single pours of several depths, °C."""
    bodies = [surround.body((depth,)) for depth in depths_mm]
    return follow(bodies, cure, [room_c] * len(bodies), to_the_end=False)[0].peak_c


def deepest_by_room_mm(cure: Cure, surround: Surround, most_c: float) -> tuple[float, ...]:
    """The same in each of `ROOMS_C`."""
    return _deepest_mm(cure, surround, most_c, ROOMS_C)


def deepest_mm(cure: Cure, surround: Surround, most_c: float, room_c: float) -> float:
    """The deepest single pour that stays under a peak in a room, mm; nought where none does.

    Source: the heat model, unproven.

    >>> from layup.castings import Pour
    >>> from layup.pours.surround import casting_cure, surround_of
    >>> wood = surround_of(Pour(id="p"), 1.1, None, 300, True)
    >>> 24.5 < deepest_mm(casting_cure(25.0), wood, 60, 23) < 25.5
    True
    """
    return _deepest_mm(cure, surround, most_c, (room_c,))[0]


@lru_cache(maxsize=256)
def _deepest_mm(cure: Cure, surround: Surround, most_c: float, rooms_c: tuple[float, ...]) -> tuple[float, ...]:
    low, high = np.full(len(rooms_c), SHALLOWEST_MM), np.full(len(rooms_c), DEEPEST_MM)
    rows = np.arange(len(rooms_c))
    for count in (_SWEPT, _REFINED, _REFINED):
        depths = np.exp(np.linspace(np.log(low), np.log(high), count, axis=1))
        bodies = [surround.body((float(depth),)) for depth in depths.ravel()]
        rooms = np.repeat(rooms_c, count).tolist()
        peaks = follow(bodies, cure, rooms, to_the_end=False, hottest_c=most_c)[0].peak_c
        cool = np.sum(peaks.reshape(depths.shape) < most_c, axis=1)
        if not cool.all():
            return tuple(np.where(cool == 0, 0.0, low).tolist())
        low, high = depths[rows, cool - 1], depths[rows, np.minimum(cool, count - 1)]
    return tuple(low.tolist())


def even_lifts(depth_mm: float, most_mm: float) -> tuple[float, ...]:
    """A depth in as few even lifts as keep under a most. So many at once are no plan.

    >>> even_lifts(40, 25), len(even_lifts(40, 0.5))
    ((20.0, 20.0), 12)
    """
    count = min(MOST_LIFTS, max(1, ceil(round(depth_mm / most_mm, 6)) if most_mm > 0 else MOST_LIFTS))
    return (depth_mm / count,) * count


def cool_lifts(
    cure: Cure, surround: Surround, depth_mm: float, room_c: float, most_c: float, most_mm: float = inf
) -> tuple[Lift, ...]:
    """The fewest even lifts of a depth that all stay under a peak, none deeper than `most_mm`; the most that are tried where none
    do."""
    depths = even_lifts(depth_mm, min(most_mm, deepest_mm(cure, surround, most_c, room_c)))
    for count in range(len(depths), min(MOST_LIFTS, len(depths) + _MORE_TRIED) + 1):
        lifts = lifts_of(cure, surround, (depth_mm / count,) * count, room_c)
        if all(lift.peak_c <= most_c + 0.5 for lift in lifts):
            return lifts
    return lifts
