"""Bags as a kind of work: over parts laid by hand, and over those that are infused."""

from collections.abc import Callable, Iterator, Mapping

from layup.bag import stack
from layup.bag.cautions import RULES
from layup.bag.outcome import BagResult
from layup.bag.pieces import brought, pieces_of_bags
from layup.bag.plan import PlannedBag, bag_result, plan_bag
from layup.bag.preparation import lines_of_bags
from layup.bag.sheets import sheets_of_bags
from layup.day.schedule import Clocks, Schedule
from layup.errors import LayupError
from layup.job import JobSpec
from layup.kind import Draft, KindOfWork, Mixes, Products, Sheet
from layup.materials import Fabric
from layup.outcome import Plan, Step
from layup.pots.crew import team_of
from layup.pots.mix import Mix
from layup.preparing.before_pot import BuyLine, CutPiece, Divided, PrepLine
from layup.preparing.cost import Used
from layup.preparing.packs import covering
from layup.scales import Scales
from layup.shelf import Library


class Bags(KindOfWork):
    """What lies under a bag."""

    key = "bags"
    after = ("bag",)
    rules = RULES

    def has(self, job: JobSpec) -> bool:
        return any(part.process != "open mould" for part in job.parts)

    def weigh(self, job: JobSpec, products: Products, draft: Draft) -> None:
        found: dict[str, PlannedBag] = draft.found.setdefault(self.key, {})
        told = {part.id: part for part in draft.found["parts"].parts}
        for number, part in enumerate(job.parts):
            if part.process == "open mould" or part.id not in told or not told[part.id].plies:
                continue
            try:
                hands = team_of(job.pots).hands
                found[part.id] = plan_bag(f"parts.{number}.bag", part, told[part.id], draft.shop.above_sea_m, hands)
            except LayupError as error:
                draft.missing(f"parts.{number}.bag.{error.path}", error.message, "bag", wrong=True)

    def on_its_day(self, schedule: Schedule, clocks: Callable[[Mix], Clocks], draft: Draft) -> None:
        found: dict[str, PlannedBag] = draft.found[self.key]
        for part_id, planned in found.items():
            found[part_id] = planned.with_day(schedule, clocks)

    def results(self, mixes: Mixes, draft: Draft) -> list[BagResult]:
        return [bag_result(planned) for planned in draft.found.get(self.key, {}).values()]

    def headline(self, step: Step, plan: Plan, scales: Scales) -> str:
        if not plan.bags:
            return "no bag yet"
        spare = [day.to_spare_min for bag in plan.bags if not bag.infused for day in bag.on_day]
        if not spare:
            return ""
        least = min(spare)
        return f"{abs(least):.0f} min {'too late' if least < 0 else 'to spare'}"

    def begun(self, step: Step, plan: Plan) -> bool:
        return bool(plan.bags)

    def resin_g(self, draft: Draft, use_id: str) -> Mapping[str, float]:
        found: dict[str, PlannedBag] = draft.found.get(self.key, {})
        uses = draft.found["parts"].use_ids
        mine = (each for each in found.values() if uses.get(each.part.id) == use_id)
        return {
            "in_bag_g": sum(
                each.told.count * sum(ply.bled_g for ply in each.told.plies)
                for each in mine
                if each.part.process == "vacuum bag"
            )
        }

    def used(self, draft: Draft) -> Iterator[Used]:
        for planned in draft.found.get(self.key, {}).values():
            for fabric, area in stack.added(planned.part, planned.told):
                yield Used(fabric.name, area * planned.told.count, fabric.price_per_m2)

    def preparation(self, job: JobSpec, plan: Plan, scales: Scales) -> Iterator[PrepLine]:
        return lines_of_bags(job, plan, scales)

    def brings(self, job: JobSpec) -> Iterator[Fabric]:
        return brought(job)

    def piece_count(self, job: JobSpec, divided: Divided) -> int:
        return sum(1 for _ in pieces_of_bags(job))

    def pieces(self, job: JobSpec, *, early: bool, divided: Divided) -> Iterator[CutPiece]:
        return iter(()) if early else pieces_of_bags(job)

    def to_buy(self, job: JobSpec, plan: Plan, library: Library, scales: Scales) -> Iterator[BuyLine]:
        if plan.bags:
            tape = scales.words("length", sum(bag.tape_m * bag.copies for bag in plan.bags))
            area = sum(bag.bag_m2 * bag.copies for bag in plan.bags)
            yield from covering(library, "bag", area, f"film as wide as it comes, and {tape} of tape")

    def sheets(self, job: JobSpec, plan: Plan) -> Iterator[Sheet]:
        return sheets_of_bags(plan)


BAGS = Bags()
