"""The rest of a run: planned again from where it stands, with the pots that are on the work and the room as it is now."""

from collections.abc import Mapping, Sequence
from datetime import datetime

from layup.day.outcome import RunSheet
from layup.day.pots_told import pot_results
from layup.day.run_sheet import run_sheet
from layup.day.schedule import Division, LaidAlready
from layup.errors import Missing
from layup.heat.pot_heat import HeatOf, full_heat
from layup.job import JobSpec
from layup.outcome import Plan
from layup.plan import laid_out, settled
from layup.pots.outcome import PotResult
from layup.record import Record
from layup.shop_facts import ShopFacts


class Rest(Record):
    """What is left of a run: `laid` pots are on the work; no run sheet where nothing is left to lay."""

    laid: int
    run_sheet: RunSheet | None
    pots: tuple[PotResult, ...]


def rest_of(
    job: JobSpec,
    shop: ShopFacts,
    issued: Plan,
    poured_at: Mapping[int, datetime],
    dumped: Sequence[int],
    now: datetime,
    heat_of: HeatOf = full_heat,
) -> Rest:
    """Plan what is left of an issued plan. `poured_at` are its pots that were poured; those `dumped` are laid again.

    Numbers go on after the last that was poured. Raises Missing for a run that was issued without a run sheet.
    """
    if issued.run_sheet is None:
        raise Missing("this run was taken to the bench before there were run sheets: begin another", "run")
    of = settled(job, shop, heat_of)
    if not of.mixes:
        raise Missing("the room as it is now leaves no mix to plan with: see Chemistry", "chemistry")
    on_the_work = [
        LaidAlready(pot.lane, pot.laid_g, (poured_at[pot.number] - now).total_seconds() / 60, pot.bay)
        for pot in issued.run_sheet.pots
        if pot.number in poured_at and pot.number not in dumped
    ]
    first = max(poured_at, default=0) + 1
    lanes = {lane.id for lane in issued.run_sheet.lanes}
    divisions = {
        lane.owner_id: Division(len(lane.bays), lane.coats_too) for lane in issued.run_sheet.lanes if lane.bays
    }
    day = laid_out(of, now, first_number=first, laid=on_the_work, lane_ids=lanes, divisions=divisions)
    pots, about = pot_results(day.schedule.pots, of.stirred)
    sheet = None
    if pots:
        sheet = run_sheet(day.schedule, about, of.job, shop, day.clock, day.room, day.clocks)
    return Rest(laid=len(on_the_work), run_sheet=sheet, pots=pots)
