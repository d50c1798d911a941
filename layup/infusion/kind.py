"""Infusion as a kind of work: parts whose fibre is laid dry, and whose resin a vacuum draws in."""

from collections.abc import Iterator, Mapping
from dataclasses import replace

from layup.errors import LayupError, Missing
from layup.infusion.cautions import RULES
from layup.infusion.outcome import InfusionResult
from layup.infusion.plan import PlannedInfusion, plan_infusion
from layup.infusion.preparation import lines_of_infusions
from layup.infusion.sheets import sheets_of_infusions
from layup.infusion.told import infusion_result
from layup.job import JobSpec
from layup.kind import Draft, KindOfWork, Mixes, Sheet, Turn, Weighed
from layup.laminate.parts import in_part_g
from layup.outcome import Plan, Step
from layup.pots.work import Owner, UnderBag, Work
from layup.preparing.before_pot import PrepLine
from layup.scales import Scales

_INFUSION_MIN = 90.0  # about how long one takes (memory)


class Infusions(KindOfWork):
    """What is infused."""

    key = "infusions"
    after = ("bag",)
    rules = RULES

    def has(self, job: JobSpec) -> bool:
        return any(part.process == "infusion" for part in job.parts)

    def lay(self, job: JobSpec, mixes: Mixes, draft: Draft) -> None:
        found: dict[str, PlannedInfusion] = draft.found.setdefault(self.key, {})
        told = {part.id: part for part in draft.found["parts"].parts}
        bags, uses = draft.found.get("bags", {}), draft.found["parts"].use_ids
        for number, part in enumerate(job.parts):
            # What is wrong with the bag, or missing of the part, is said there.
            if part.process != "infusion" or part.id not in told or part.id not in bags:
                continue
            mix = mixes.get(uses[part.id])
            if mix is None:
                continue
            path = f"parts.{number}"
            try:
                planned = plan_infusion(f"{path}.infusion", part, told[part.id], mix.use.id, mix, draft.shop)
            except LayupError as error:
                step: Step = "measure" if error.path == "shape" else "stack" if error.path == "plies" else "bag"
                wrong = not isinstance(error, Missing)
                draft.missing(f"{path}.{error.path or 'infusion'}", error.message, step, wrong=wrong)
                for use in job.resins:
                    grams = told[part.id].count * in_part_g(told[part.id], uses, use.id)
                    if grams:
                        draft.weighed.append(Weighed(part.name or "this part", use.id, grams))
                continue
            found[part.id] = planned
            owner = Owner(
                part.id,
                part.name or "part",
                part.copies,
                _after_coats(draft.found["parts"].coats[part.id], planned.works),
                comes_after=part.comes_after,
                under_bag=UnderBag(),
            )
            draft.lay(owner, Turn.PARTS)

    def about_min(self, job: JobSpec) -> float:
        return sum(_INFUSION_MIN * part.copies for part in job.parts if part.process == "infusion")

    def results(self, mixes: Mixes, draft: Draft) -> list[InfusionResult]:
        return [infusion_result(planned) for planned in draft.found.get(self.key, {}).values()]

    def headline(self, step: Step, plan: Plan, scales: Scales) -> str:
        told = []
        for infusion in plan.infusions:
            if infusion.dry_share > 0:
                told.append(f"{100 * infusion.dry_share:.0f} % stays dry")
            elif infusion.full_min is not None:
                told.append(f"full in {infusion.full_min:.0f} min")
        return " · ".join(told)

    def begun(self, step: Step, plan: Plan) -> bool:
        return bool(plan.infusions)

    def resin_g(self, draft: Draft, use_id: str) -> Mapping[str, float]:
        found: dict[str, PlannedInfusion] = draft.found.get(self.key, {})
        mine = [each for each in found.values() if each.use_id == use_id]
        return {
            "in_bag_g": sum(
                each.told.count * (each.mixed_g - each.in_fibre_g - each.in_core_g - _written_peel_g(each))
                for each in mine
            )
        }

    def preparation(self, job: JobSpec, plan: Plan, scales: Scales) -> Iterator[PrepLine]:
        return lines_of_infusions(plan, scales)

    def sheets(self, job: JobSpec, plan: Plan) -> Iterator[Sheet]:
        return sheets_of_infusions(plan)


def _after_coats(coats: tuple[Work, ...], feeds: tuple[Work, ...]) -> tuple[Work, ...]:
    """The coats of a part, and what is drawn in once the last of them is tacky."""
    return (*coats, replace(feeds[0], waits="for tack"), *feeds[1:]) if coats else feeds


def _written_peel_g(planned: PlannedInfusion) -> float:
    """What of the peel ply stands in the stack, and is told of there."""
    return sum(ply.resin_g for ply in planned.told.plies if not ply.stays)


INFUSIONS = Infusions()
