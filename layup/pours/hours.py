"""A casting through its depth and its hours, for its picture; what other depths do in the same room, and other hours of pouring."""

from math import isfinite

import numpy as np

from layup.day.forecast import Room, room_of
from layup.day.run_sheet import clock_of
from layup.day.shop_clock import ShopClock
from layup.heat.cure_kinetics import Cure
from layup.heat.pot_heat import HeatOf, full_heat
from layup.heat.pour_heat import PourHistory, follow
from layup.job import JobSpec
from layup.plan import settled
from layup.pours.lifts import ROOMS_C, Lift, deepest_by_room_mm, history_of
from layup.pours.plan import PlannedPour
from layup.pours.surround import SUN_K
from layup.record import Record
from layup.shop_facts import ShopFacts

_MOMENTS, _ROWS_A_LIFT = 90, 12
_SHALLOWER, _DEEPER, _DEPTHS = 0.3, 2.6, 18
_STARTS_EVERY_H, _STARTS = 3, 8
# After the last gel a little more is shown.
_SHOWN_ON = 1.15


class DepthPoint(Record):
    """One pour of a depth in the room of the day: its peak and when; from when it bears the next, and until when it bonds."""

    depth_mm: float
    peak_c: float
    peak_h: float
    bears_h: float | None
    bonds_until_h: float | None
    cooled_h: float | None


class RoomDepth(Record):
    """The deepest single pour in a room of a temperature."""

    room_c: float
    depth_mm: float


class StartPoint(Record):
    """The first lift poured at an hour of the forecast: when, in words of a clock, and its peak."""

    at_h: float
    words: str
    peak_c: float
    open: bool


class PourHours(Record):
    """A casting through its hours: °C at each moment, of each height over the floor, from the ground up; None where nothing
    has been poured yet. `hottest_c` is of all of it. `lifts_mm` are the heights at which lifts end, `poured_h` when each is
    poured. `by_depth` has other depths of one pour, `by_room` the deepest that keeps under its peak in other rooms, `starts` other hours of it, where the room changes.
    """

    hours: tuple[float, ...]
    heights_mm: tuple[float, ...]
    ground_heights_mm: tuple[float, ...]
    temperatures_c: tuple[tuple[int | None, ...], ...]
    hottest_c: tuple[float, ...]
    cured: tuple[float, ...]
    lifts_mm: tuple[float, ...]
    poured_h: tuple[float, ...]
    room_c: float
    by_depth: tuple[DepthPoint, ...]
    by_room: tuple[RoomDepth, ...]
    starts: tuple[StartPoint, ...]


def pour_hours(job: JobSpec, shop: ShopFacts, pour_id: str, heat_of: HeatOf = full_heat) -> PourHours | None:
    """The picture of a casting; None where it is not worked out, or the heat model has nothing to say of it.

    >>> pour_hours(JobSpec(name="Empty"), ShopFacts(), "p") is None
    True
    """
    of = settled(job, shop, heat_of)
    found: list[PlannedPour] = of.draft.found.get("pours", [])
    planned = next((each for each in found if each.pour.id == pour_id), None)
    if planned is None or planned.cure is None or not planned.lifts:
        return None
    clock = clock_of(of.job, shop)
    return _through(planned, planned.cure, room_of(of.job, shop, clock), clock)


def _through(planned: PlannedPour, cure: Cure, room: Room, clock: ShopClock) -> PourHours:
    histories = history_of(cure, planned.surround, planned.depths_mm, planned.room_c)
    poured = np.cumsum([0.0, *(lift.opens_min for lift in planned.lifts[:-1])])
    last = planned.lifts[-1]
    ends = poured[-1] + _SHOWN_ON * _until(last, histories[-1])
    moments = np.linspace(0.0, ends, _MOMENTS)
    ground = histories[0].ground_cells
    cells = ground + _ROWS_A_LIFT * len(planned.lifts)
    rows, hottest, cured = [], [], []
    for minute in moments:
        at = int(np.searchsorted(poured, minute, side="right")) - 1
        history = histories[at]
        warm = _at(history, minute - poured[at])
        rows.append((*(round(float(t)) for t in warm), *[None] * (cells - len(warm))))
        hottest.append(round(float(warm[ground:].max()), 1))
        step = int(np.searchsorted(history.minutes, minute - poured[at]).clip(0, len(history.minutes) - 1))
        cured.append(round(float(history.states[step, -_ROWS_A_LIFT:, -1].mean()), 3))
    heights = histories[-1].height_mm
    return PourHours(
        hours=tuple(round(float(minute) / 60, 3) for minute in moments),
        heights_mm=tuple(round(float(height), 2) for height in heights[ground:]),
        ground_heights_mm=tuple(round(float(height), 2) for height in heights[:ground]),
        temperatures_c=tuple(rows),
        hottest_c=tuple(hottest),
        cured=tuple(cured),
        lifts_mm=tuple(round(float(each), 2) for each in np.cumsum(planned.depths_mm)),
        poured_h=tuple(round(float(each) / 60, 3) for each in poured),
        room_c=planned.room_c,
        by_depth=_by_depth(planned, cure),
        by_room=tuple(
            RoomDepth(room_c=room, depth_mm=round(deepest, 1))
            for room, deepest in zip(
                ROOMS_C, deepest_by_room_mm(cure, planned.surround, planned.pour.most_peak_c), strict=True
            )
        ),
        starts=_starts(planned, cure, room, clock),
    )


def _until(lift: Lift, history: PourHistory) -> float:
    """How long a last lift is shown for, min: until it is past its peak, hard on top and about as cool as the room."""
    ends = [each for each in (lift.gel_open_min, lift.peak_min, lift.cooled_min) if isfinite(each)]
    return min(max(ends), float(history.minutes[-1]))


def _at(history: PourHistory, minute: float) -> np.ndarray:
    over = int(np.searchsorted(history.minutes, minute).clip(1, len(history.minutes) - 1))
    before, after = history.minutes[over - 1], history.minutes[over]
    share = 0.0 if after == before else float(np.clip((minute - before) / (after - before), 0.0, 1.0))
    return history.cells_c[over - 1] * (1 - share) + history.cells_c[over] * share


def _by_depth(planned: PlannedPour, cure: Cure) -> tuple[DepthPoint, ...]:
    """Depths about the one that is planned and the deepest that keeps cool."""
    middle = planned.deepest_mm or planned.depths_mm[0]
    low = min(_SHALLOWER * middle, planned.depths_mm[0])
    high = max(_DEEPER * middle, planned.cavity.deepest_mm)
    depths = np.exp(np.linspace(np.log(max(low, 1.0)), np.log(high), _DEPTHS))
    bodies = [planned.surround.body((float(depth),)) for depth in depths]
    poured, _ = follow(bodies, cure, [planned.room_c] * _DEPTHS)
    return tuple(
        DepthPoint(
            depth_mm=round(float(depth), 2),
            peak_c=round(float(poured.peak_c[at]), 1),
            peak_h=round(float(poured.peak_min[at]) / 60, 3),
            bears_h=_hours(poured.bears_min[at]),
            bonds_until_h=_hours(poured.bonds_until_min[at]),
            cooled_h=_hours(poured.cooled_min[at]),
        )
        for at, depth in enumerate(depths)
    )


def _starts(planned: PlannedPour, cure: Cure, room: Room, clock: ShopClock) -> tuple[StartPoint, ...]:
    """The first lift poured every three hours of a day, where the room is not the same all day."""
    if room.steady:
        return ()
    more = SUN_K if planned.pour.in_the_sun else 0.0
    starts = [60.0 * _STARTS_EVERY_H * at for at in range(_STARTS)]
    rooms = []
    for start in starts:
        minutes = np.arange(0.0, 72 * 60.0, 60.0)
        rooms.append([(float(minute), room.at_c(start + float(minute)) + more) for minute in minutes])
    bodies = [planned.surround.body((planned.depths_mm[0],))] * len(starts)
    peaks = follow(bodies, cure, rooms, to_the_end=False)[0].peak_c
    return tuple(
        StartPoint(
            at_h=start / 60,
            words=f"{clock.local(start):%H:%M}",
            peak_c=round(float(peak), 1),
            open=clock.opening(start) <= start + 1e-6,
        )
        for start, peak in zip(starts, peaks, strict=True)
    )


def _hours(minutes: float) -> float | None:
    return round(float(minutes) / 60, 3) if isfinite(minutes) else None
