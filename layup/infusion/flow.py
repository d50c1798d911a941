"""One infusion of a job drawn in plan, as its lines lie or as somebody tries them."""

from collections.abc import Sequence
from dataclasses import replace
from math import isfinite

from layup.errors import OutOfRange
from layup.heat.pot_heat import HeatOf
from layup.infusion.bed import FINE, ROUGH
from layup.infusion.outcome import FlowMap, InfusionResult
from layup.infusion.plan import PlannedInfusion, plan_infusion
from layup.infusion.second_feed import QUARTER, fronts_at
from layup.infusion.told import flow_map, infusion_result
from layup.job import JobSpec
from layup.plan import settled
from layup.record import Record
from layup.shop_facts import ShopFacts
from layup.under_vacuum import MOST_LINES, FlowLine

# Nobody lays one more feed where the resin would come three times as far, nor one that saves less than a quarter (memory).
_ROOMY, _HELPS = 3.0, 0.75


class SecondFeed(Record):
    """Where one more feed helps most, m, opened when the resin comes to it: a line, or several where a hole lies in its way;
    and how long it then takes to fill, None where the resin sets before."""

    lines: tuple[tuple[tuple[float, ...], ...], ...]
    full_min: float | None


class Flow(Record):
    """How a part fills: the drawing, what is told of it, and where one more feed helps, if it does."""

    map: FlowMap
    told: InfusionResult
    second: SecondFeed | None = None


def flow_of(
    job: JobSpec,
    shop: ShopFacts,
    part_id: str,
    heat_of: HeatOf,
    *,
    lines: Sequence[FlowLine] | None = None,
    rough: bool = False,
) -> Flow | None:
    """One infusion of a job, None where it could not be worked out; with other `lines` than the job's, where they are tried.

    Roughly it is worked out with a sixth of the cells, for what follows a finger. Raises LayupError where the lines that are
    tried cannot be.
    """
    wished = next((part.infusion for part in job.parts if part.id == part_id), None)
    # Lines that are tried may mend those that cannot be.
    stands = job if lines is None else _with_lines(job, part_id, ())
    found: PlannedInfusion | None = settled(stands, shop, heat_of).draft.found.get("infusions", {}).get(part_id)
    if found is None or wished is None:
        if lines is not None:
            raise OutOfRange("this part cannot be infused as it stands: see what is missing first", "part_id")
        return None
    cells = ROUGH if rough else FINE
    if lines is not None or rough:
        tried = wished.lines if lines is None else tuple(lines)
        part = found.part.model_copy(update={"infusion": wished.model_copy(update={"lines": tried})})
        found = plan_infusion(found.path, part, found.told, found.use_id, found.mix, shop, cells)
    return Flow(map=flow_map(found), told=infusion_result(found), second=None if rough else _second(found))


def _second(found: PlannedInfusion) -> SecondFeed | None:
    if found.margin(found.mix.room_c) >= _ROOMY:
        return None
    fronts = fronts_at(found.filled, found.rings, QUARTER * found.filled.full_s)
    if not fronts or len(found.feeds) + len(found.vents) + len(fronts) > MOST_LINES:
        return None
    more = (replace(found.feeds[0], points=points, waits=True) for points in fronts)
    try:
        both = replace(found, feeds=(*found.feeds, *more))
        full_s = both.full_s
    except OutOfRange:
        return None
    if full_s > _HELPS * found.full_s:
        return None
    minutes = float(found.minutes_at(full_s, found.mix.room_c))
    return SecondFeed(lines=fronts, full_min=minutes if isfinite(minutes) else None)


def _with_lines(job: JobSpec, part_id: str, lines: tuple[FlowLine, ...]) -> JobSpec:
    return job.model_copy(
        update={
            "parts": tuple(
                part.model_copy(update={"infusion": part.infusion.model_copy(update={"lines": lines})})
                if part.id == part_id
                else part
                for part in job.parts
            )
        }
    )
