"""plan(job, shop): the whole answer, worked out in the order of the work. Pure: same input, same output."""

from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from functools import cache

from layup import kinds
from layup.answers import chemistry_result, pot_results, stuck_results
from layup.cautions.chapters import cautions_for
from layup.cautions.rule import Facts
from layup.chemistry.blend import blended
from layup.chemistry.catalyst import DoseVerdict, choose_dose
from layup.chemistry.hardeners import HardenerVerdict, choose_hardener, with_blend
from layup.chemistry.logged import with_logged
from layup.chemistry.ratio import parse_dose, parse_ratio
from layup.day.dew import LEAST_MARGIN_C, dew_point_c
from layup.day.forecast import Room, room_of
from layup.day.planner import MOST_POTS, Planner
from layup.day.run_sheet import clock_of, coldest_before_hard, run_sheet
from layup.day.schedule import Clocks, LaidAlready, PlannedPot, Schedule
from layup.day.shop_clock import ShopClock
from layup.day.windows import late_layers, missed_windows
from layup.errors import LayupError, OutOfRange
from layup.headlines import with_headlines
from layup.heat.pot_heat import HeatOf, full_heat
from layup.heat.wet_limit import WetLimit
from layup.job import Conditions, JobSpec
from layup.kind import Draft
from layup.materials import ResinSystem
from layup.outcome import DewResult, Plan
from layup.pots.mix import Mix, settle
from layup.pots.outcome import ThickenedResult
from layup.preparing.cutting import piece_count
from layup.preparing.preparation import checklist
from layup.resin_use import cost_record, resin_use_of
from layup.scales import Scales
from layup.shop_facts import ShopFacts

# Layers of all copies; past it no day is worked out for them.
MOST_LAYERS = 20_000
_MIXING_WITH_IT = 1.6  # how much longer work takes with the mixing between (memory)
_BLEND = "chemistry.blend_id"


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
    """All of a job but its day: what is to be laid, with what, by what tools. `mix_at` is the mix for a room, °C."""

    job: JobSpec
    shop: ShopFacts
    conditions: Conditions
    draft: Draft
    resin: ResinSystem | None
    hardener: HardenerVerdict | None = None
    dose: DoseVerdict | None = None
    mix: Mix | None = None
    mix_at: Callable[[float], Mix] | None = None

    def stirred(self, pot: PlannedPot) -> ThickenedResult | None:
        """How a pot is thickened, where it is."""
        return next(filter(None, (kind.stirred(pot, self.draft) for kind in kinds.KINDS)), None)


@dataclass(frozen=True)
class Day:
    """A job laid out from a start."""

    clock: ShopClock
    room: Room
    clocks: Clocks
    schedule: Schedule


def settled(job: JobSpec, shop: ShopFacts, heat_of: HeatOf = full_heat) -> Settled:
    """Everything of a plan that does not depend on its start."""
    conditions = job.conditions or shop.conditions
    draft = Draft(shop.scales)
    resin = next((resin for resin in job.materials.resins if resin.id == job.chemistry.resin_id), None)
    if resin:
        resin = with_logged(resin, shop.gels)
    if not any(kind.has(job) for kind in kinds.KINDS):
        draft.missing("parts", "add a part: what surface is it?", "measure")
    for kind in kinds.KINDS:
        kind.weigh(job, resin, draft)
    if resin is None:
        draft.missing("chemistry.resin_id", "choose the resin you hold", "chemistry")
        _lay(job, None, draft)
        return Settled(job, shop, conditions, draft, None)
    clock = clock_of(job, shop)
    worked_c = room_of(job, shop, clock).worked_c(clock, _about_min(job, draft))
    hardener, dose = _verdicts(job, resin, conditions, worked_c, draft, shop.scales, heat_of)
    mix = _settled(job, shop, resin, hardener, dose, conditions, draft, heat_of)
    _lay(job, mix, draft)
    count = sum(owner.copies * len(owner.works) for owner in draft.owners)
    if count > MOST_LAYERS:
        draft.missing("parts", f"{count:,} layers are more than one job can be planned with: split it", "stack")
        mix = None
    return Settled(job, shop, conditions, draft, resin, hardener, dose, mix, mix and _mix_at(mix, draft))


def _lay(job: JobSpec, mix: Mix | None, draft: Draft) -> None:
    for kind in kinds.KINDS:
        kind.lay(job, mix, draft)


def settled_for(of: Settled, start: datetime) -> Settled:
    """A settled job begun at another time: settled anew where the hours it is then worked in ask for another hardener."""
    job, chemistry = of.job, of.job.chemistry
    if of.mix is None or of.hardener is None or chemistry.hardener_id or chemistry.blend_id:
        return of
    clock = clock_of(job, of.shop, start)
    worked_c = room_of(job, of.shop, clock).worked_c(clock, _about_min(job, of.draft))
    school, deadline_h = job.practice.hardener_school, chemistry.deadline_h
    then = choose_hardener(of.resin.hardeners, worked_c, school, deadline_h, heat_of=of.mix.heat_of).chosen
    if then and then.hardener.id == of.mix.hardener.id:
        return of
    begun = job.model_copy(update={"pots": job.pots.model_copy(update={"start": start})})
    return settled(begun, of.shop, of.mix.heat_of)


def _about_min(job: JobSpec, draft: Draft) -> float:
    """About how long the work takes, min: its spreading with the mixing between, and what is not weighed yet (memory)."""
    spread = sum(owner.copies * work.spread_min for owner in draft.owners for work in owner.works)
    return _MIXING_WITH_IT * spread + sum(kind.about_min(job) for kind in kinds.KINDS) / job.pots.hands


def _mix_at(mix: Mix, draft: Draft) -> Callable[[float], Mix]:
    """The mix for a room: the same hardener, or a dose solved anew where the builder has not set his own."""
    own = _own_dose(mix.job, mix.resin, draft) if mix.dose else None

    @cache
    def mixed(room_c: float) -> Mix:
        """One mix for each room, so that what it has worked out is kept from one start to the next."""
        if room_c == mix.room_c:
            return mix
        if mix.dose is None:
            return replace(mix, room_c=room_c)
        wanted = mix.job.chemistry.wanted_gel_min
        return replace(mix, room_c=room_c, dose=choose_dose(mix.resin.catalyst, room_c, wanted, own, mix.shop.scales))

    return mixed


def laid_out(
    of: Settled,
    start: datetime | None = None,
    *,
    first_number: int = 1,
    laid: Sequence[LaidAlready] = (),
    lane_ids: Collection[str] = (),
) -> Day:
    """A settled job from a start, or from where it stands: `laid` are the pots that are on the work, by the lanes of
    `lane_ids`."""
    clock = clock_of(of.job, of.shop, start)
    room = room_of(of.job, of.shop, clock)

    def limits(owner_id: str, room_c: float) -> tuple[WetLimit, ...]:
        found = (kind.wet_limits(owner_id, of.mix_at(room_c), room_c, of.draft) for kind in kinds.KINDS)
        return next(filter(None, found), ())

    planner = Planner(
        of.draft.owners,
        of.mix_at,
        room,
        clock,
        wet_limits=limits,
        first_number=first_number,
        laid=laid,
        lane_ids=lane_ids,
    )
    return Day(clock, room, planner.clocks, planner.run())


def _planned(job: JobSpec, shop: ShopFacts, heat_of: HeatOf) -> Plan:
    of = settled(job, shop, heat_of)
    conditions, draft, resin, mix = of.conditions, of.draft, of.resin, of.mix
    dew = dew_of(conditions)
    pieces = _pieces(job, draft)
    results = {kind.key: tuple(kind.results(mix, draft)) for kind in kinds.KINDS if kind.key in Plan.model_fields}
    if resin is None:
        return Plan(
            conditions=conditions,
            dew=dew,
            piece_count=pieces,
            problems=tuple(draft.problems),
            **results,
        )
    day = laid_out(of) if mix else None
    pots = day.schedule.pots if day else []
    if day and day.schedule.too_many:
        draft.missing("pots.largest_g", f"more than {MOST_POTS:,} pots: set larger ones, or split the job", "pots")
        day, pots = None, []
    for kind in kinds.KINDS:
        kind.wrong_in(pots, draft)
    largest = _largest(pots)
    stuck = day.schedule.stuck if day else []
    resin_use = resin_use_of(draft, pots, mix) if mix and (pots or draft.weighed) and not stuck else None
    potted, about = pot_results(pots, of.stirred)
    return Plan(
        conditions=conditions,
        dew=dew,
        resin=resin_use,
        chemistry=chemistry_result(
            job, resin, of.hardener, of.dose, conditions.room_c, mix, largest, shop.scales, heat_of
        ),
        pots=potted,
        pot_count=len(pots),
        piece_count=pieces,
        cost=cost_record(draft, mix, resin_use) if resin_use else None,
        stuck=stuck_results([(owner.name, group, at_hour) for owner, group, at_hour in stuck]),
        run_sheet=run_sheet(day.schedule, about, mix, day.clock, day.room, day.clocks) if pots else None,
        cautions=cautions_for(_facts(of, day, pots, dew)),
        problems=tuple(draft.problems),
        weighed_only=tuple(weighed.name for weighed in draft.weighed),
        by_volume_g_per_ml=mix.by_volume_g_per_ml if mix else None,
        **results,
    )


def _facts(of: Settled, day: Day | None, pots: Sequence[PlannedPot], dew: DewResult | None) -> Facts:
    """What the cautions read."""
    job, shop, conditions, draft, mix = of.job, of.shop, of.conditions, of.draft, of.mix
    largest = _largest(pots)
    return Facts(
        job=job,
        conditions=conditions,
        room_c=conditions.room_c,
        surface_c=conditions.surface_or_room_c,
        dew=dew,
        day=shop.day,
        scales=shop.scales,
        resin=of.resin,
        hardener=of.hardener,
        dose=of.dose,
        pot_masses_g=tuple(dict.fromkeys(pot.mass_g for pot in pots)),
        weight_b_per_a=mix.b_per_a_weight if mix else None,
        cup_made_of=shop.cup_made_of,
        peak_c=largest.mix.peak_c(largest.mass_g) if largest else None,
        pumps_b_per_a=_pumps(job, shop),
        late=tuple(_late(day.schedule)) if day else (),
        found={kind.key: kind.facts(mix, conditions.room_c, draft) for kind in kinds.KINDS},
        missed=tuple(missed_windows(day.schedule)) if day else (),
        coldest=coldest_before_hard(day.schedule, day.clock, day.room, day.clocks) if day else None,
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


def _pieces(job: JobSpec, draft: Draft) -> int:
    try:
        return piece_count(job)
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


def _verdicts(
    job: JobSpec,
    resin: ResinSystem,
    conditions: Conditions,
    worked_c: float,
    draft: Draft,
    scales: Scales,
    heat_of: HeatOf,
) -> tuple[HardenerVerdict | None, DoseVerdict | None]:
    chemistry = job.chemistry
    if resin.catalyst:
        wanted, own = chemistry.wanted_gel_min, _own_dose(job, resin, draft)
        return None, choose_dose(resin.catalyst, conditions.room_c, wanted, own, scales)
    school, deadline = job.practice.hardener_school, chemistry.deadline_h
    try:
        verdict = choose_hardener(resin.hardeners, worked_c, school, deadline, chemistry.hardener_id, scales, heat_of)
    except LayupError as error:
        draft.missing(error.path, error.message, "chemistry")
        verdict = choose_hardener(resin.hardeners, worked_c, school, deadline, scales=scales, heat_of=heat_of)
    if verdict.chosen is None:
        draft.missing("conditions.room_c", verdict.sentence, "chemistry")
        return verdict, None
    return _with_blend(job, resin, verdict, conditions.room_c, draft, heat_of), None


def _own_dose(job: JobSpec, resin: ResinSystem, draft: Draft) -> float | None:
    """The builder's own dose, %: as the tin prints it, or as he typed it."""
    words = job.chemistry.dose_words
    if not words:
        return job.chemistry.catalyst_pct
    try:
        return parse_dose(words, resin.density_g_per_cm3, resin.catalyst.density_g_per_cm3)
    except LayupError as error:
        draft.missing("chemistry.dose_words", error.message, "chemistry")
        return job.chemistry.catalyst_pct


def _with_blend(
    job: JobSpec, resin: ResinSystem, verdict: HardenerVerdict, room_c: float, draft: Draft, heat_of: HeatOf
) -> HardenerVerdict:
    chemistry = job.chemistry
    if chemistry.blend_id is None:
        return verdict
    first = verdict.chosen.hardener
    second = next((hardener for hardener in resin.hardeners if hardener.id == chemistry.blend_id), None)
    try:
        if second is None:
            raise OutOfRange("the hardener to blend in is not of this family: choose one of its own", _BLEND)
        blend = blended(first, second, chemistry.blend_share, heat_of)
    except LayupError as error:
        draft.missing(error.path, error.message, "chemistry")
        return verdict
    return with_blend(verdict, blend, chemistry.blend_share, first.id, second.id, room_c, heat_of)


def _settled(
    job: JobSpec,
    shop: ShopFacts,
    resin: ResinSystem,
    hardener: HardenerVerdict | None,
    dose: DoseVerdict | None,
    conditions: Conditions,
    draft: Draft,
    heat_of: HeatOf,
) -> Mix | None:
    _check_tin_ratio(job, resin, draft)
    if conditions.room_c > resin.maximum_c:
        room, most = shop.scales.temperature(conditions.room_c), shop.scales.temperature(resin.maximum_c)
        message = f"{room} is over the {most} of {resin.name}: cool the room"
        draft.missing("conditions.room_c", message, "chemistry")
        return None
    if hardener and hardener.chosen is None:
        return None
    in_hand = hardener.chosen.hardener if hardener else None
    try:
        return settle(job, shop, resin, in_hand, dose, conditions.room_c, heat_of)
    except LayupError as error:
        draft.missing(error.path, error.message, "chemistry")
        return None


def _check_tin_ratio(job: JobSpec, resin: ResinSystem, draft: Draft) -> None:
    chemistry = job.chemistry
    if not chemistry.tin_ratio or not resin.two_part:
        return
    try:
        parse_ratio(chemistry.tin_ratio)
    except LayupError as error:
        draft.missing("chemistry.tin_ratio", error.message, "chemistry")
        return
    if chemistry.tin_ratio_basis not in resin.bases:
        allowed = " or ".join(resin.bases)
        message = f"{resin.name} is measured by {allowed} only: type its ratio by {allowed}"
        draft.missing("chemistry.tin_ratio", message, "chemistry")
