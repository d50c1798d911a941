"""Finish as a kind of work: it takes no resin of the job's, only hands, hours and abrasives."""

from collections.abc import Callable, Iterator
from dataclasses import replace

from layup.day.outcome import RunSheet
from layup.day.schedule import Clocks, Schedule
from layup.finish.cautions import RULES
from layup.finish.outcome import FinishOnDay, FinishResult
from layup.finish.planned import PlannedFinish
from layup.finish.steps import fairing_ml, hours_of, steps_of
from layup.job import JobSpec
from layup.kind import Cell, Draft, Head, KindOfWork, Mixes, Products, Sheet
from layup.outcome import Plan, Step
from layup.pots.mix import Mix
from layup.preparing.before_pot import BuyLine
from layup.scales import Scales
from layup.shelf import Library


class Finishes(KindOfWork):
    """Parts that are sanded, faired, coated or polished once they are cured."""

    key = "finishes"
    after = ("finish",)
    rules = RULES

    def has(self, job: JobSpec) -> bool:
        return any(part.finish.to for part in job.parts)

    def weigh(self, job: JobSpec, products: Products, draft: Draft) -> None:
        found: dict[str, PlannedFinish] = draft.found.setdefault(self.key, {})
        told = {part.id: part for part in draft.found["parts"].parts}
        for number, part in enumerate(job.parts):
            if not part.finish.to or part.id not in told:
                continue
            measured = told[part.id]
            use = job.use_of(part.use_id)
            resin = products.get(use.id) if use else None
            # A hardener may leave a film that only water takes off; what is laid of one tin or with styrene does not.
            two_part = resin is not None and resin.two_part
            area_m2, edge_m = measured.total_area_m2, measured.perimeter_m * measured.count
            steps = steps_of(part.finish, area_m2, edge_m, blushes=two_part)
            found[part.id] = PlannedFinish(f"parts.{number}.finish", part, measured, steps, two_part)

    def on_its_day(self, schedule: Schedule, clocks: Callable[[Mix], Clocks], draft: Draft) -> None:
        found: dict[str, PlannedFinish] = draft.found.get(self.key, {})
        for part_id, planned in found.items():
            lanes = tuple(_on_day(part_id, schedule, clocks))
            found[part_id] = replace(planned, on_day=lanes)

    def marked(self, job: JobSpec, sheet: RunSheet, draft: Draft) -> RunSheet:
        # The hours are of all copies: they are told once, where the last of them may be begun.
        hours: dict[str, float] = {
            max(planned.on_day, key=lambda day: day.begins_min).lane: hours_of(planned.steps)[0]
            for planned in draft.found.get(self.key, {}).values()
            if planned.on_day
        }
        written = draft.scales.written
        marks = tuple(
            mark.model_copy(
                update={"words": f"{mark.words}; its finish may begin: {written(hours[mark.lane], '.1f')} h of work"}
            )
            if mark.lane in hours and mark.kind in ("sand", "open bag")
            else mark
            for mark in sheet.marks
        )
        return sheet.model_copy(update={"marks": marks})

    def results(self, mixes: Mixes, draft: Draft) -> list[FinishResult]:
        return [_result(planned) for planned in draft.found.get(self.key, {}).values()]

    def headline(self, step: Step, plan: Plan, scales: Scales) -> str:
        if not plan.finishes:
            return "nothing to finish yet"
        return f"{scales.written(sum(finish.work_h for finish in plan.finishes), '.1f')} h of work"

    def begun(self, step: Step, plan: Plan) -> bool:
        return bool(plan.finishes)

    def to_buy(self, job: JobSpec, plan: Plan, library: Library, scales: Scales) -> Iterator[BuyLine]:
        discs: dict[tuple[int, bool], int] = {}
        for finish in plan.finishes:
            for step in finish.steps:
                if step.grit and step.discs:
                    key = step.grit, step.wet
                    discs[key] = discs.get(key, 0) + step.discs
        for (grit, wet), count in sorted(discs.items()):
            variant = "for use with water" if wet else "as the machine takes them"
            yield _line(f"Abrasive {'sheets, wet' if wet else 'discs'}, P{grit}", variant, count)
        if any(step.kind == "polish" for finish in plan.finishes for step in finish.steps):
            yield _line("Polishing pads", "one for each compound", 2)
            yield _line("Cutting and fine compound", "without silicone", 2)
        if plan.finishes:
            yield _line("Tack cloths", "one for each grit", len(discs))
        fairing = sum(finish.fairing_ml for finish in plan.finishes)
        if fairing:
            yield _line("Fairing compound", f"{scales.words('volume', fairing)} mixed", 1)

    def sheets(self, job: JobSpec, plan: Plan) -> Iterator[Sheet]:
        if plan.finishes:
            yield Sheet("Finish", _HEADS, _rows(plan))


_HEADS: tuple[Head, ...] = ("part", "step", "grit", "min of one pair of hands", "then wait, h")


def _rows(plan: Plan) -> Iterator[tuple[Cell, ...]]:
    for finish in plan.finishes:
        for step in finish.steps:
            yield (finish.name, step.words, step.grit and f"P{step.grit}", round(step.minutes), step.wait_h)


def _line(what: str, variant: str, count: int) -> BuyLine:
    return BuyLine(
        chapter="used up", what=what, variant=variant, need=count, unit="", buy=str(count), cost=None, source="memory"
    )


def _on_day(part_id: str, schedule: Schedule, clocks: Callable[[Mix], Clocks]) -> Iterator[FinishOnDay]:
    for lane in schedule.lanes:
        pots = [pot for pot in schedule.pots if pot.lane == lane.id]
        if lane.owner.id == part_id and pots:
            at = {
                state: max(clocks(pot.mix).after(state, pot.touch_min) for pot in pots)
                for state in ("sandable_min", "knife_trim_min")
            }
            yield FinishOnDay(lane=lane.id, begins_min=at["sandable_min"], knife_min=at["knife_trim_min"])


def _result(planned: PlannedFinish) -> FinishResult:
    wishes, area_m2 = planned.part.finish, planned.told.total_area_m2
    work_h, wait_h = hours_of(planned.steps)
    low = wishes.low_mm
    return FinishResult(
        id=planned.part.id,
        name=planned.part.name,
        to=wishes.to,
        area_m2=area_m2,
        steps=planned.steps,
        work_h=work_h,
        wait_h=wait_h,
        mean_low_mm=sum(low) / len(low) if low else None,
        fairing_ml=fairing_ml(wishes, area_m2),
        own_minutes=wishes.own_min_per_m2 is not None,
        on_day=planned.on_day,
    )


FINISHES = Finishes()
