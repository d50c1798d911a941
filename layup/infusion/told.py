"""What is told of an infusion: how it fills in this room and in others, what it takes, its lines, its last places and its marks."""

from collections.abc import Sequence
from math import isfinite, sqrt

import numpy as np

from layup.infusion.bed import FINE, Line
from layup.infusion.geometry import Points, last_places, near_a_vent
from layup.infusion.outcome import (
    Drawn,
    FlowLineResult,
    FlowMap,
    FlowMark,
    InfusionResult,
    InRoom,
    LastPlace,
    PermeabilityFrom,
)
from layup.infusion.plan import PlannedInfusion

ENOUGH_MARGIN = 1.5  # how many times as far the resin should come before it sets (memory)
STAND_BY_SHARE = 1 / 3  # of the fill, held ready (common practice)
LEAST_ROOM_C, MOST_ROOM_C = 10, 40
_LEVELS, _DRAWS = 40, 30
# Marks for the film, at so much of the time; and where along the feed the first of them looks from.
_MARKS_AT, _MARKED_AT = (0.1, 0.4, 0.8), 0.25
# Stands for S where no resin comes.
NEVER_S = 1e30


def infusion_result(planned: PlannedInfusion) -> InfusionResult:
    """What is told of an infusion."""
    room_c, part, told = planned.mix.room_c, planned.part, planned.told
    levels = planned.full_s * np.linspace(0, 1, _LEVELS + 1) ** 2
    rooms = sorted({*range(LEAST_ROOM_C, MOST_ROOM_C + 1), round(room_c, 1)})
    by_room = tuple(_in_room(planned, float(each), levels) for each in rooms)
    enough = [each.room_c for each in by_room if each.margin >= ENOUGH_MARGIN and _worked_at(planned, each.room_c)]
    full = float(planned.minutes_at(planned.full_s, room_c))
    bed, widest = planned.bed, planned.bed.widest
    minutes = np.linspace(0, full if isfinite(full) else planned.sets_min(room_c), _DRAWS + 1)
    return InfusionResult(
        id=part.id,
        name=part.name,
        copies=told.count,
        area_m2=told.area_m2,
        in_fibre_g=planned.in_fibre_g,
        in_core_g=planned.in_core_g,
        in_mesh_g=planned.in_mesh_g,
        in_peel_ply_g=planned.in_peel_ply_g,
        in_hoses_g=planned.hoses_g,
        in_trap_g=planned.in_trap_g,
        in_bucket_g=part.infusion.in_bucket_g,
        mixed_g=planned.mixed_g,
        stand_by_g=STAND_BY_SHARE * planned.drawn_in_all_g,
        permeability_m2=bed.permeability_m2,
        by_memory_m2=planned.by_memory_m2,
        bed_name=planned.bed_name,
        porosity=widest.pores_m / bed.thickness_m,
        thickness_mm=1000 * bed.thickness_m,
        permeability_from=_permeability_from(planned),
        own_shots=planned.own.count if planned.own else 0,
        least_m2=planned.by_memory_m2 * planned.own.least if planned.own else None,
        most_m2=planned.by_memory_m2 * planned.own.most if planned.own else None,
        viscosity_mpa_s=planned.at_25_mpa_s,
        viscosity_typed=part.infusion.viscosity_mpa_s is not None,
        pull_mbar=planned.pull.pa / 100,
        room_c=room_c,
        full_min=full if isfinite(full) else None,
        sets_min=planned.sets_min(room_c),
        margin=planned.margin(room_c),
        dry_share=_dry_share(planned, planned.s_gel(room_c)),
        first_at_vent_min=_finite(planned.minutes_at(min(planned.filled.vent_s), room_c)),
        full_s=planned.full_s,
        lag_s=bed.lag_s,
        lag_mm=1000 * bed.lag_m,
        levels_s=tuple(float(level) for level in levels),
        by_room=by_room,
        best_c=max(enough, default=None),
        coolest_c=min(enough, default=None),
        longer=sqrt(max(planned.margin(room_c), 0.0)),
        draws=tuple(
            Drawn(at_min=float(at), grams=float(grams))
            for at, grams in zip(minutes, planned.drawn_by(minutes, room_c), strict=True)
        ),
        feeds_g=tuple(work.laid_g for work in planned.works),
        lines=_lines(planned, room_c),
        last_places=_last(planned, room_c),
        marks=_marks(planned, room_c),
        outline=planned.rings[0],
        holes=planned.rings[1:],
    )


def _permeability_from(planned: PlannedInfusion) -> PermeabilityFrom:
    if planned.part.infusion.permeability_m2 is not None:
        return "as typed"
    return "shop log" if planned.own else "memory"


def _worked_at(planned: PlannedInfusion, room_c: float) -> bool:
    return planned.mix.resin.minimum_c <= room_c <= planned.mix.resin.maximum_c


def _in_room(planned: PlannedInfusion, room_c: float, levels: np.ndarray) -> InRoom:
    minutes = planned.minutes_at(levels, room_c)
    return InRoom(
        room_c=room_c,
        full_min=_finite(minutes[-1]),
        sets_min=planned.sets_min(room_c),
        margin=planned.margin(room_c),
        at_min=tuple(_finite(each) for each in minutes),
    )


def _finite(value: float | np.ndarray) -> float | None:
    return float(value) if np.isfinite(value) else None


def _dry_share(planned: PlannedInfusion, s_gel: float) -> float:
    found = planned.filled
    dry = ~(found.at_s + planned.bed.lag_s <= s_gel)
    return float(found.pores_m3[dry].sum() / found.pores_m3.sum())


def _lines(planned: PlannedInfusion, room_c: float) -> tuple[FlowLineResult, ...]:
    wishes, found = planned.part.infusion.lines, planned.filled
    named = {does: [line for line in wishes if line.does == does] for does in ("feeds", "vents")}
    told = []
    groups: tuple[tuple[str, Sequence[Line], tuple[float, ...]], ...] = (
        ("feeds", planned.feeds, found.opens_s),
        ("vents", planned.vents, found.vent_s),
    )
    for does, lines, at_s in groups:
        for at, (line, comes_s) in enumerate(zip(lines, at_s, strict=True)):
            own = named[does][at] if named[does] else None
            number = f" {at + 1}" if len(lines) > 1 else ""
            told.append(
                FlowLineResult(
                    id=own.id if own else f"proposed-{does}",
                    name=(own.name if own and own.name else f"{'feed' if does == 'feeds' else 'vent'}{number}"),
                    does="feeds" if does == "feeds" else "vents",
                    points=line.points,
                    waits=line.waits,
                    proposed=own is None,
                    at_min=_finite(planned.minutes_at(comes_s, room_c)) if isfinite(comes_s) else None,
                )
            )
    return tuple(told)


def _last(planned: PlannedInfusion, room_c: float) -> tuple[LastPlace, ...]:
    found = planned.filled
    near = 2 * max(found.width_m, found.height_m)
    return tuple(
        LastPlace(
            x_m=x,
            y_m=y,
            at_min=_finite(planned.minutes_at(s + planned.bed.lag_s, room_c)),
            shut_in=not near_a_vent(x, y, planned.vents, near),
        )
        for x, y, s in last_places(found)[:6]
    )


def _marks(planned: PlannedInfusion, room_c: float) -> tuple[FlowMark, ...]:
    """Marks early, in the middle and late, as far apart as the front slows down, each beside the last, so that one pair of eyes sees them all."""
    full = float(planned.minutes_at(planned.full_s, room_c))
    ends = full if isfinite(full) else planned.sets_min(room_c)
    found, liquid, begun = planned.filled, planned.liquid(room_c), planned.begun_min
    # The mark is where the front is seen, on the mesh: the fabric under it lags.
    spent = float(liquid.s_at(begun, planned.pull.pa))
    line = planned.feeds[0].points
    beside = line[0] if len(line) == 1 else _along(line, _MARKED_AT)
    told = []
    for number, share in enumerate(_MARKS_AT, 1):
        s = float(liquid.s_at(share * ends + begun, planned.pull.pa)) - spent
        off = np.abs(found.at_s - s)
        near = np.flatnonzero(off <= max(off.min(), 0.02 * found.full_s))
        away = np.hypot(found.x_m[near] - beside[0], found.y_m[near] - beside[1])
        cell = near[away.argmin()]
        beside = float(found.x_m[cell]), float(found.y_m[cell])
        at_s = float(found.at_s[cell])
        told.append(
            FlowMark(
                number=number,
                x_m=beside[0],
                y_m=beside[1],
                s=at_s,
                at_min=_finite(planned.minutes_at(at_s, room_c)),
            )
        )
    return tuple(told)


def _along(points: Points, share: float) -> tuple[float, float]:
    """A place on a line, so far along its first and last point."""
    (ax, ay), (bx, by) = points[0], points[-1]
    return ax + share * (bx - ax), ay + share * (by - ay)


def flow_map(planned: PlannedInfusion) -> FlowMap:
    """The filling of its plan, for a drawing."""
    found = planned.filled
    grid: list[float | None] = [None] * (found.columns * found.rows)
    for column, row, s in zip(found.column.tolist(), found.row.tolist(), found.at_s.tolist(), strict=True):
        grid[row * found.columns + column] = s + planned.bed.lag_s if isfinite(s) else NEVER_S
    return FlowMap(
        columns=found.columns,
        rows=found.rows,
        left_m=found.from_m[0],
        low_m=found.from_m[1],
        width_m=found.width_m,
        height_m=found.height_m,
        at_s=tuple(grid),
        rough=planned.cells != FINE,
    )
