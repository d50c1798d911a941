"""Castings as a kind of work: cavities filled with resin, in one pour or in lifts."""

from collections.abc import Iterator, Mapping
from typing import Any

from layup.errors import LayupError, Missing
from layup.job import JobSpec
from layup.kind import GONE, Draft, KindOfWork, Mixes, Sheet, Turn
from layup.outcome import Plan, Step
from layup.pots.work import Owner
from layup.pours.answers import casting_result
from layup.pours.asked import pour_measures
from layup.pours.cautions import RULES, PourFacts
from layup.pours.cavity import cavity_of
from layup.pours.outcome import CastingResult
from layup.pours.plan import PlannedPour, plan_pour
from layup.pours.preparation import lines_of_pours
from layup.pours.sheets import sheets_of_pours
from layup.pours.workings import WORKINGS
from layup.preparing.before_pot import BuyLine, PrepLine
from layup.preparing.cost import Used
from layup.preparing.packs import covering
from layup.scales import Scales
from layup.shelf import Library
from layup.words import counted

_POUR_MIN = 40.0  # about how long a casting takes (memory)


class Pours(KindOfWork):
    """What is cast."""

    key = "pours"
    after = ("pours",)
    rules = RULES
    workings = WORKINGS

    def asked(self) -> dict[str, Any]:
        return pour_measures()

    def lay(self, job: JobSpec, mixes: Mixes, draft: Draft) -> None:
        found: list[PlannedPour] = draft.found.setdefault(self.key, [])
        fillers = {filler.id: filler for filler in job.materials.fillers}

        def say(path: str, message: str, wrong: bool) -> None:
            draft.missing(path, message, "pours", wrong=wrong)

        for number, pour in enumerate(job.pours):
            path, use = f"pours.{number}", job.use_of(pour.use_id)
            if use is None:
                draft.missing(f"{path}.use_id", GONE, "pours")
                continue
            if job.use_of(pour.seal_use_id) is None:
                draft.missing(f"{path}.seal_use_id", GONE, "pours")
            mix = mixes.get(use.id)
            if mix is None:
                try:
                    cavity_of(pour)
                except LayupError as error:
                    say(f"{path}.{error.path or 'depth_mm'}", error.message, not isinstance(error, Missing))
                continue
            planned = plan_pour(path, pour, job, mix, fillers, say)
            if planned is None:
                continue
            found.append(planned)
            name = pour.name or f"casting {number + 1}"
            owner = Owner(pour.id, name, pour.count, planned.works, one_run=True, comes_after=pour.comes_after)
            draft.lay(owner, Turn.POURS)

    def about_min(self, job: JobSpec) -> float:
        return sum(_POUR_MIN * pour.count for pour in job.pours)

    def results(self, mixes: Mixes, draft: Draft) -> list[CastingResult]:
        return [casting_result(planned, mixes[planned.use_id]) for planned in draft.found[self.key] if mixes]

    def facts(self, mixes: Mixes, room_c: float, draft: Draft) -> PourFacts:
        return PourFacts(tuple(draft.found[self.key]))

    def headline(self, step: Step, plan: Plan, scales: Scales) -> str:
        if not plan.pours:
            return "not measured"
        lifts = sum(len(pour.lifts) for pour in plan.pours)
        return f"{scales.mass(sum(pour.resin_g for pour in plan.pours))} · {counted(lifts, 'lift')}"

    def begun(self, step: Step, plan: Plan) -> bool:
        return bool(plan.pours)

    def resin_g(self, draft: Draft, use_id: str) -> Mapping[str, float]:
        found: list[PlannedPour] = draft.found[self.key]
        mine = (each for each in found if each.use_id == use_id)
        return {
            "in_pours_g": sum(each.pour.count * each.filled.resin_g for each in mine),
            "in_coats_g": sum(each.pour.count * each.seal_g for each in found if each.seal_use_id == use_id),
        }

    def used(self, draft: Draft) -> Iterator[Used]:
        for planned in draft.found[self.key]:
            if planned.fill:
                kilos = planned.filled.fill_g * planned.pour.count / 1000
                yield Used(planned.fill.name, kilos, planned.fill.price_per_kg)

    def preparation(self, job: JobSpec, plan: Plan, scales: Scales) -> Iterator[PrepLine]:
        return lines_of_pours(job, plan, scales)

    def to_buy(self, job: JobSpec, plan: Plan, library: Library, scales: Scales) -> Iterator[BuyLine]:
        if plan.pours:
            yield from covering(library, "masking", sum(pour.wetted_m2 * pour.copies for pour in plan.pours), "")

    def sheets(self, job: JobSpec, plan: Plan) -> Iterator[Sheet]:
        return sheets_of_pours(plan)


POURS = Pours()
