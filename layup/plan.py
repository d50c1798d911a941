"""plan(job, shop): the whole answer, worked out in the order of the work. Pure: same input, same output."""

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

from layup import kinds
from layup.cautions.chapters import cautions_for
from layup.cautions.rule import Facts, ResinFacts
from layup.chemistry.hardeners import choose_hardener
from layup.chemistry.logged import with_logged
from layup.day.dew import LEAST_MARGIN_C, dew_point_c
from layup.day.division import divided
from layup.day.forecast import Room, room_of
from layup.day.planner import MOST_POTS, Planner
from layup.day.pots_told import pot_results, stuck_results
from layup.day.run_sheet import clock_of, coldest_before_hard, run_sheet
from layup.day.schedule import Clocks, Division, LaidAlready, PlannedPot, Schedule
from layup.day.shop_clock import ShopClock
from layup.day.windows import late_layers, missed_windows
from layup.errors import LayupError, OutOfRange
from layup.headlines import with_headlines
from layup.heat.pot_heat import HeatOf, full_heat
from layup.heat.wet_limit import WetLimit
from layup.job import Conditions, JobSpec
from layup.kind import Draft
from layup.order import check_order
from layup.outcome import DewResult, Plan, ResinResult, ResinUse, Step
from layup.pots.crew import team_of
from layup.pots.mix import Mix
from layup.pots.outcome import ThickenedResult
from layup.pots.verdict import LargestPot, chemistry_result
from layup.pots.work import Owner
from layup.preparing.before_pot import Divided
from layup.preparing.cutting import piece_count
from layup.preparing.preparation import checklist
from layup.resin_in_hand import InHand, in_hand, is_named
from layup.resin_use import cost_record, resin_use_of
from layup.shop_facts import ShopFacts

# Layers of all copies; past it no day is worked out for them.
MOST_LAYERS = 20_000
_MIXING_WITH_IT = 1.6  # how much longer work takes with the mixing between (memory)


def plan(job: JobSpec, shop: ShopFacts, heat_of: HeatOf = full_heat) -> Plan:
    """Plan a job with a shop's facts; a job's own conditions win over the shop's day.

    `heat_of` gives the heat model of a product, full or, until its table is built, rough. What is missing comes back in `problems`, and the rest is planned as far as it goes.

    >>> plan(JobSpec(name="New"), ShopFacts()).problems[0].message
    'add a part: what surface is it?'
    """
    answer = _planned(job, shop, heat_of)
    answer = answer.model_copy(update={"prepare_count": len(checklist(job, answer, shop.scales))})
    return with_headlines(answer, job, shop.scales)


@dataclass(frozen=True)
class Settled:
    """All of a job but its day: what is to be laid, with what, by what tools."""

    job: JobSpec
    shop: ShopFacts
    conditions: Conditions
    draft: Draft
    in_hand: tuple[InHand, ...] = ()

    @property
    def mixes(self) -> dict[str, Mix]:
        """The mix of each resin in use that can be mixed, by its id."""
        return {each.use.id: each.mix for each in self.in_hand if each.mix}

    @property
    def owners(self) -> list[Owner]:
        """What is to be laid, as far as there is something to lay it with."""
        mixes, first = self.mixes, self.job.resins[0].id
        named = (
            (owner, (work if work.use_id else replace(work, use_id=first) for work in owner.works))
            for owner in self.draft.owners
        )
        able = (replace(owner, works=tuple(work for work in works if work.use_id in mixes)) for owner, works in named)
        return [owner for owner in able if owner.works]

    def stirred(self, pot: PlannedPot) -> ThickenedResult | None:
        """How a pot is thickened, where it is."""
        return next(filter(None, (kind.stirred(pot, self.draft) for kind in kinds.KINDS)), None)


@dataclass(frozen=True)
class Day:
    """A job laid out from a start; `clocks` are those of what was laid of a mix."""

    clock: ShopClock
    room: Room
    clocks: Callable[[Mix], Clocks]
    schedule: Schedule


def settled(job: JobSpec, shop: ShopFacts, heat_of: HeatOf = full_heat) -> Settled:
    """Everything of a plan that does not depend on its start."""
    conditions = job.conditions or shop.conditions
    draft = Draft(shop)
    job = _staffed(_orderly(job, draft), draft)
    products = {
        use.id: with_logged(resin, shop.gels) for use in job.resins if (resin := job.product_of(use)) is not None
    }
    if not any(kind.has(job) for kind in kinds.KINDS):
        draft.missing("parts", "add a part: what surface is it?", "measure")
    for kind in kinds.KINDS:
        kind.weigh(job, products, draft)
    for at, use in enumerate(job.resins):
        if use.id not in products:
            message = f"choose the resin for {use.word}" if use.word else "choose the resin you hold"
            draft.missing(f"resins.{at}.resin_id", message, "chemistry")
    clock = clock_of(job, shop)
    worked_c = room_of(job, shop, clock).worked_c(clock, _about_min(job, draft)) if products else conditions.room_c
    resins = tuple(
        in_hand(job, shop, f"resins.{at}", use, products[use.id], conditions, worked_c, draft, heat_of)
        for at, use in enumerate(job.resins)
        if use.id in products
    )
    of = Settled(job, shop, conditions, draft, resins)
    for kind in kinds.KINDS:
        kind.lay(job, of.mixes, draft)
    count = sum(owner.copies * len(owner.works) for owner in draft.owners)
    if products and count > MOST_LAYERS:
        draft.missing("parts", f"{count:,} layers are more than one job can be planned with: split it", "stack")
        return replace(of, in_hand=tuple(replace(each, mix=None, mix_at=None) for each in resins))
    return of


def _orderly(job: JobSpec, draft: Draft) -> JobSpec:
    """The job, or if its order cannot be, the job without one and what is wrong with it said."""
    try:
        check_order(job)
    except OutOfRange as error:
        at: dict[str, Step] = {"joints": "joints", "pours": "pours"}
        draft.missing(error.path, error.message, at.get(error.path.split(".")[0], "measure"), wrong=True)
        free = {"comes_after": ()}
        return job.model_copy(
            update={
                "parts": tuple(part.model_copy(update=free) for part in job.parts),
                "joints": tuple(joint.model_copy(update=free | {"covered_by": ""}) for joint in job.joints),
                "pours": tuple(pour.model_copy(update=free) for pour in job.pours),
            }
        )
    return job


def _staffed(job: JobSpec, draft: Draft) -> JobSpec:
    """The job, or if its crew leaves a task to nobody, the job without one and what is wrong with it said."""
    team = team_of(job.pots)
    if team.idle:
        tasks = " and ".join(team.idle)
        draft.missing("pots.crew", f"nobody {tasks}: give that to somebody of the crew", "pots", wrong=True)
        return job.model_copy(update={"pots": job.pots.model_copy(update={"crew": ()})})
    if team.learner_mixes_alone and job.practice.learners == "never mix alone":
        message = "only a learner would mix, and here a learner never mixes alone: let somebody practised mix too"
        draft.missing("pots.crew", message, "pots", wrong=True)
    return job


def settled_for(of: Settled, start: datetime) -> Settled:
    """A settled job begun at another time: settled anew where the hours it is then worked in ask for another hardener."""
    job = of.job
    chosen = [(each, each.mix) for each in of.in_hand if each.mix and each.hardener and not is_named(each.use)]
    if not chosen:
        return of
    clock = clock_of(job, of.shop, start)
    worked_c = room_of(job, of.shop, clock).worked_c(clock, _about_min(job, of.draft))
    if all(_still_chosen(each, mix, worked_c, job) for each, mix in chosen):
        return of
    begun = job.model_copy(update={"pots": job.pots.model_copy(update={"start": start})})
    return settled(begun, of.shop, chosen[0][1].heat_of)


def _still_chosen(each: InHand, mix: Mix, worked_c: float, job: JobSpec) -> bool:
    school, deadline_h = job.practice.hardener_school, each.use.deadline_h
    then = choose_hardener(each.resin.hardeners, worked_c, school, deadline_h, heat_of=mix.heat_of).chosen
    return then is None or (mix.hardener is not None and then.hardener.id == mix.hardener.id)


def _about_min(job: JobSpec, draft: Draft) -> float:
    """About how long the work takes, min: its spreading with the mixing between, and what is not weighed yet (memory)."""
    spread = sum(owner.copies * work.spread_min for owner in draft.owners for work in owner.works)
    return _MIXING_WITH_IT * spread + sum(kind.about_min(job) for kind in kinds.KINDS) / team_of(job.pots).hands


def laid_out(
    of: Settled,
    start: datetime | None = None,
    *,
    first_number: int = 1,
    laid: Sequence[LaidAlready] = (),
    lane_ids: Collection[str] = (),
    divisions: Mapping[str, Division] | None = None,
) -> Day:
    """A settled job from a start, or from where it stands: `laid` are the pots that are on the work, by the lanes of
    `lane_ids`, divided as `divisions` tells; else its division is chosen here."""
    clock = clock_of(of.job, of.shop, start)
    room = room_of(of.job, of.shop, clock)
    mixed_at = {each.use.id: each.mix_at for each in of.in_hand if each.mix_at}

    def mix_at(use_id: str, room_c: float) -> Mix:
        return mixed_at[use_id](room_c)

    def limits(owner_id: str, room_c: float) -> tuple[WetLimit, ...]:
        mixes = {use_id: mix_at(use_id, room_c) for use_id in mixed_at}
        found = (kind.wet_limits(owner_id, mixes, room_c, of.draft) for kind in kinds.KINDS)
        return next(filter(None, found), ())

    def planner(owners: Sequence[Owner], divisions: Mapping[str, Division], from_min: float = 0.0) -> Planner:
        return Planner(
            owners,
            mix_at,
            of.job.pots,
            room,
            clock,
            wet_limits=limits,
            first_number=first_number,
            laid=laid,
            lane_ids=lane_ids,
            divisions=divisions,
            from_min=from_min,
        )

    owners = of.owners
    last = divided(owners, planner, clock) if divisions is None else planner(owners, divisions)
    return Day(clock, room, last.clocks, last.run())


def _planned(job: JobSpec, shop: ShopFacts, heat_of: HeatOf) -> Plan:
    of = settled(job, shop, heat_of)
    job, conditions, draft, mixes = of.job, of.conditions, of.draft, of.mixes
    dew = dew_of(conditions)

    def results() -> dict[str, tuple[Any, ...]]:
        return {kind.key: tuple(kind.results(mixes, draft)) for kind in kinds.KINDS if kind.key in Plan.model_fields}

    if not of.in_hand:
        return Plan(
            conditions=conditions,
            dew=dew,
            piece_count=_pieces(job, draft, {}),
            problems=tuple(draft.problems),
            **results(),
        )
    day = laid_out(of) if mixes else None
    pots = day.schedule.pots if day else []
    if day and day.schedule.too_many:
        draft.missing("pots.largest_g", f"more than {MOST_POTS:,} pots: set larger ones, or split the job", "pots")
        day, pots = None, []
    ends = {lane.owner.id: [bay.ends for bay in lane.bays] for lane in day.schedule.lanes if lane.bays} if day else {}
    pieces = _pieces(job, draft, ends)
    for kind in kinds.KINDS:
        kind.wrong_in(pots, draft)
        if day:
            kind.on_its_day(day.schedule, day.clocks, draft)
    told_of_all = results()
    stuck = day.schedule.stuck if day else []
    told = (pots or draft.weighed) and not stuck
    uses = {use_id: resin_use_of(draft, pots, mix) for use_id, mix in mixes.items()} if told else {}
    potted, about = pot_results(pots, of.stirred)
    sheet = run_sheet(day.schedule, about, job, shop, day.clock, day.room, day.clocks) if day and pots else None
    for kind in kinds.KINDS:
        sheet = sheet and kind.marked(job, sheet, draft)
    return Plan(
        conditions=conditions,
        dew=dew,
        resins=tuple(_resin_result(each, of, pots, uses.get(each.use.id), heat_of) for each in of.in_hand),
        gel_coat_g=sum(grams for kind in kinds.KINDS for grams in kind.resin_g(draft, "").values()),
        pots=potted,
        pot_count=len(pots),
        piece_count=pieces,
        cost=cost_record(draft, mixes, uses) if uses else None,
        stuck=stuck_results([(owner.name, group, at_hour) for owner, group, at_hour in stuck]),
        run_sheet=sheet,
        cautions=cautions_for(_facts(of, day, pots, dew)),
        problems=tuple(draft.problems),
        weighed_only=tuple(dict.fromkeys(weighed.name for weighed in draft.weighed)),
        **told_of_all,
    )


def _resin_result(
    each: InHand, of: Settled, pots: Sequence[PlannedPot], use: ResinUse | None, heat_of: HeatOf
) -> ResinResult:
    largest = _largest(_of_use(pots, each))
    return ResinResult(
        id=each.use.id,
        word=each.use.word,
        chemistry=chemistry_result(
            each.use,
            each.resin,
            each.hardener,
            each.dose,
            of.conditions.room_c,
            each.mix,
            LargestPot(largest.mass_g, largest.laid_g, largest.spread_g_per_min) if largest else None,
            of.shop.scales,
            heat_of,
        ),
        use=use,
        by_volume_g_per_ml=each.mix.by_volume_g_per_ml if each.mix else None,
    )


def _of_use(pots: Sequence[PlannedPot], each: InHand) -> list[PlannedPot]:
    return [pot for pot in pots if pot.mix.use.id == each.use.id]


def _facts(of: Settled, day: Day | None, pots: Sequence[PlannedPot], dew: DewResult | None) -> Facts:
    """What the cautions read."""
    job, shop, conditions = of.job, of.shop, of.conditions
    return Facts(
        job=job,
        conditions=conditions,
        room_c=conditions.room_c,
        surface_c=conditions.surface_or_room_c,
        dew=dew,
        day=shop.day,
        scales=shop.scales,
        resins=tuple(_resin_facts(each, _of_use(pots, each)) for each in of.in_hand),
        cup_made_of=shop.cup_made_of,
        pumps_b_per_a=_pumps(job, shop),
        late=tuple(_late(day.schedule)) if day else (),
        found={kind.key: kind.facts(of.mixes, conditions.room_c, of.draft) for kind in kinds.KINDS},
        missed=tuple(missed_windows(day.schedule)) if day else (),
        coldest=coldest_before_hard(day.schedule, day.clock, day.room, day.clocks) if day else {},
        tins={tin.article: tin for tin in shop.tins},
        room_read=shop.room_read or job.conditions is not None,
    )


def _resin_facts(each: InHand, pots: Sequence[PlannedPot]) -> ResinFacts:
    largest = _largest(pots)
    return ResinFacts(
        path=each.path,
        use=each.use,
        resin=each.resin,
        hardener=each.hardener,
        dose=each.dose,
        pot_masses_g=tuple(dict.fromkeys(pot.mass_g for pot in pots)),
        weight_b_per_a=each.mix.b_per_a_weight if each.mix else None,
        peak_c=largest.mix.peak_c(largest.mass_g) if largest else None,
    )


def _largest(pots: Sequence[PlannedPot]) -> PlannedPot | None:
    return max(pots, key=lambda pot: pot.mass_g, default=None)


def _pumps(job: JobSpec, shop: ShopFacts) -> float | None:
    """The ratio the pumps give, by volume, where they are what measures."""
    if job.practice.basis != "volume" or shop.volume_tool != "pumps":
        return None
    return shop.pump_b_ml / shop.pump_a_ml


def _late(schedule: Schedule) -> Iterator[tuple[str, float, float]]:
    """The layers that end after what is beneath has closed: the name, what is covered in time, m², and the whole."""
    for late in late_layers(schedule):
        yield f"{late.layer.works[0].label} of {late.lane.owner.name}", late.covered_m2, late.lane.area_m2


def _pieces(job: JobSpec, draft: Draft, divided: Divided) -> int:
    try:
        return piece_count(job, divided)
    except LayupError as error:
        draft.missing("cutting.sheet_overlap_mm", error.message, "cut")
        return 0


def dew_of(conditions: Conditions) -> DewResult | None:
    """The dew point and how far the surface is over it; None where the humidity is not known."""
    if conditions.humidity_pct is None:
        return None
    point = dew_point_c(conditions.room_c, conditions.humidity_pct)
    margin = conditions.surface_or_room_c - point
    return DewResult(point_c=point, margin_c=margin, frost=point < 0, safe=margin >= LEAST_MARGIN_C)
