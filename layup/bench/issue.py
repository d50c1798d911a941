"""A plan taken to the bench: its card, and the rest of a run planned again with a card of its own."""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from layup.bench.card import BenchCard
from layup.bench.events import Event, FilmRead
from layup.bench.heard import PotHeard
from layup.bench.written_card import bench_card
from layup.day.outcome import RunSheet
from layup.day.pots_told import pot_results
from layup.day.run_sheet import run_sheet
from layup.day.schedule import Division, LaidAlready
from layup.errors import Missing
from layup.heat.pot_heat import HeatOf, full_heat
from layup.job import MOST_READ, JobSpec, Ply
from layup.materials import Hardener
from layup.outcome import Plan
from layup.plan import laid_out, settled
from layup.pots.outcome import PotResult
from layup.record import Record
from layup.shop_facts import ShopFacts


class Rest(Record):
    """What is left of a run: `laid` pots are on the work; no run sheet and no card where nothing is left to lay."""

    laid: int
    run_sheet: RunSheet | None
    pots: tuple[PotResult, ...]
    card: BenchCard | None = None


def issued_card(job: JobSpec, shop: ShopFacts, issued: Plan, heat_of: HeatOf = full_heat) -> BenchCard:
    """The card of a plan as it is issued. Raises Missing for a plan that has no run sheet."""
    sheet = _sheet_of(issued)
    of = settled(job, shop, heat_of)
    day = laid_out(of, divisions=_divisions(sheet))
    return bench_card(of.job, shop, issued, sheet, issued.pots, day.schedule.pots)


def as_gauged(job: JobSpec, card: BenchCard, events: Iterable[Event]) -> JobSpec:
    """The job with what a wet-film gauge showed of its coats at the bench: what is left of them is weighed by it.

    `events` are those that stand.

    >>> as_gauged(JobSpec(name="Deck"), BenchCard(pots=(), layers=()), []).name
    'Deck'
    """
    coats = {layer.id: layer.coat_id for layer in card.layers if layer.coat_id}
    read: dict[str, list[float]] = defaultdict(list)
    for event in events:
        if isinstance(event.data, FilmRead) and event.subject in coats:
            read[coats[event.subject]].append(event.data.wet_um)

    def gauged(ply: Ply) -> Ply:
        """A coat that was gauged, with what the gauge showed, µm; any other ply as it is."""
        if ply.coat is None or ply.id not in read:
            return ply
        return ply.model_copy(
            update={"coat": ply.coat.model_copy(update={"gauge_um": tuple(read[ply.id][-MOST_READ:])})}
        )

    parts = (part.model_copy(update={"plies": tuple(map(gauged, part.plies))}) for part in job.parts)
    return job.model_copy(update={"parts": tuple(parts)}) if read else job


def as_heard(job: JobSpec, card: BenchCard, heard: Iterable[PotHeard]) -> JobSpec:
    """The job with its tins as fast as their pots were heard to be: the next pot of the same tin is as fast as the last.

    >>> as_heard(JobSpec(name="Deck"), BenchCard(pots=(), layers=()), []).name
    'Deck'
    """
    lives: dict[tuple[str, str], float] = {}
    for each in heard:
        pot = card.pot(each.number)
        use = job.use_of(pot.use_id) if pot else None
        if pot and use and each.fast:
            lives[use.resin_id, pot.hardener_id] = each.life

    def faster(resin_id: str, hardener: Hardener) -> Hardener:
        """A hardener with all its times so much shorter."""
        life = lives.get((resin_id, hardener.id), 1.0)
        times = (time.model_copy(update={"minutes": life * time.minutes}) for time in hardener.stated_times)
        return hardener.model_copy(
            update={"pot_life_min": life * hardener.pot_life_min, "stated_times": tuple(times)} if life < 1 else {}
        )

    resins = (
        resin.model_copy(update={"hardeners": tuple(faster(resin.id, each) for each in resin.hardeners)})
        for resin in job.materials.resins
    )
    materials = job.materials.model_copy(update={"resins": tuple(resins)})
    return job.model_copy(update={"materials": materials}) if lives else job


def rest_of(
    job: JobSpec,
    shop: ShopFacts,
    issued: Plan,
    poured_at: Mapping[int, datetime],
    dumped: Sequence[int],
    now: datetime,
    heat_of: HeatOf = full_heat,
    card: BenchCard | None = None,
    laid_at: Mapping[str, datetime] | None = None,
) -> Rest:
    """Plan what is left of an issued plan. `poured_at` are its pots that were poured; those `dumped` are laid again. `card`
    is the one in force, and `laid_at` says when its layers were laid, by their ids, whatever their pots.

    Numbers go on after the last that was poured. Raises Missing for a run that was issued without a run sheet.
    """
    was = _sheet_of(issued)
    of = settled(job, shop, heat_of)
    if not of.mixes:
        raise Missing("the room as it is now leaves no mix to plan with: see Chemistry", "chemistry")
    used = {number: (at - now).total_seconds() / 60 for number, at in poured_at.items() if number not in dumped}
    pots_of = {pot.number: LaidAlready(pot.lane, pot.laid_g, 0.0, pot.bay) for pot in was.pots}
    if card:
        pots_of |= {pot.number: LaidAlready(pot.lane, pot.laid_g, 0.0, pot.bay_number) for pot in card.pots}
        ticked = {layer_id: (at - now).total_seconds() / 60 for layer_id, at in (laid_at or {}).items()}
        spans = [_Span(layer.first_pot, layer.last_pot, layer.works, ticked.get(layer.id)) for layer in card.layers]
    else:
        spans = [_Span(layer.first_pot, layer.last_pot, len(layer.item_ids)) for layer in was.layers]
    on_the_work = list(_on_the_work(spans, pots_of, used))
    first = max(poured_at, default=0) + 1
    lanes = {lane.id for lane in was.lanes}
    day = laid_out(of, now, first_number=first, laid=on_the_work, lane_ids=lanes, divisions=_divisions(was))
    pots, about = pot_results(day.schedule.pots, of.stirred)
    if not pots:
        return Rest(laid=len(used), run_sheet=None, pots=pots)
    sheet = run_sheet(day.schedule, about, of.job, shop, day.clock, day.room, day.clocks)
    anew = bench_card(of.job, shop, issued, sheet, pots, day.schedule.pots)
    later = _so_far_min(card, poured_at, now) if card else 0.0
    return Rest(laid=len(used), run_sheet=sheet, pots=pots, card=anew.later_by(later))


@dataclass(frozen=True)
class _Span:
    """A layer by the pots it is laid with and how many works it is, and when it was said to be laid, where it was."""

    first_pot: int
    last_pot: int
    works: int
    said_min: float | None = None


def _on_the_work(
    layers: Iterable[_Span], pots_of: Mapping[int, LaidAlready], used: Mapping[int, float]
) -> Iterator[LaidAlready]:
    """What is on the work, of layers in the order they are laid; `used` says when the parts of each pot on it touched.

    A layer that was said to be laid, or all of whose pots are on, is whole, also where it would weigh more by now. Of what
    lies over a layer that is not whole, the pots count by what they laid.
    """
    whole_works: dict[tuple[str, int], int] = {}
    open_places: set[tuple[str, int]] = set()
    for layer in layers:
        numbers = range(layer.first_pot, layer.last_pot + 1)
        on = [replace(pots_of[number], touch_min=used[number]) for number in numbers if number in used]
        lane, bay = place = pots_of[layer.first_pot].lane, pots_of[layer.first_pot].bay
        whole = layer.said_min is not None or len(on) == len(numbers)
        if not whole or not layer.works or place in open_places:
            open_places.add(place)
            yield from on
            continue
        whole_works[place] = whole_works.get(place, 0) + layer.works
        touched = max((each.touch_min for each in on), default=layer.said_min or 0.0)
        yield LaidAlready(lane, sum(each.laid_g for each in on), touched, bay, whole_works[place])


def _so_far_min(card: BenchCard, poured_at: Mapping[int, datetime], now: datetime) -> float:
    """How far the run has come by the clock of its own plan: that of its first pot, and the time since."""
    first = min(poured_at, key=lambda number: poured_at[number], default=None)
    planned = card.pot(first) if first is not None else None
    if first is None or planned is None:
        return 0.0
    return planned.planned_touch_min + (now - poured_at[first]).total_seconds() / 60


def _sheet_of(issued: Plan) -> RunSheet:
    if issued.run_sheet is None:
        raise Missing("this run was taken to the bench before there were run sheets: begin another", "run")
    return issued.run_sheet


def _divisions(sheet: RunSheet) -> dict[str, Division]:
    return {lane.owner_id: Division(len(lane.bays), lane.coats_too) for lane in sheet.lanes if lane.bays}
