"""Laminate as a kind of work: parts with their plies and coats."""

from collections.abc import Iterator, Mapping
from typing import Any

from layup.day.outcome import RunSheet
from layup.heat.wet_limit import WetLimit, wet_limits
from layup.job import JobSpec
from layup.kind import Draft, KindOfWork, Mixes, Products, Sheet
from layup.laminate.measures import shape_measures
from layup.laminate.outcome import PartResult
from layup.laminate.parts import Parts, first_wet_out, plan_parts
from layup.laminate.pieces import piece_count, pieces_of_parts
from layup.laminate.preparation import lines_of_parts
from layup.laminate.sheets import sheets_of_parts
from layup.laminate.workings import WORKINGS
from layup.outcome import Plan, Step
from layup.preparing.before_pot import BuyLine, CutPiece, Divided, PrepLine
from layup.preparing.cost import Used
from layup.preparing.packs import covering
from layup.scales import Scales
from layup.shelf import Library
from layup.words import counted


class Laminate(KindOfWork):
    """Surfaces covered ply by ply, wet on wet or bagged."""

    key = "parts"
    before = ("measure", "stack")
    workings = WORKINGS

    def asked(self) -> list[dict[str, Any]]:
        return shape_measures()

    def weigh(self, job: JobSpec, products: Products, draft: Draft) -> None:
        draft.found[self.key] = plan_parts(job, products, draft)

    def results(self, mixes: Mixes, draft: Draft) -> tuple[PartResult, ...]:
        return draft.found[self.key].parts

    def wet_limits(self, owner_id: str, mixes: Mixes, room_c: float, draft: Draft) -> tuple[WetLimit, ...]:
        found: Parts = draft.found[self.key]
        part = next((part for part in found.parts if part.id == owner_id), None)
        mix = mixes.get(found.use_ids[owner_id]) if part else None
        return wet_limits(part, mix, room_c) if part and mix else ()

    def headline(self, step: Step, plan: Plan, scales: Scales) -> str:
        if step == "measure":
            count = sum(part.count for part in plan.parts)
            total = sum(part.total_area_m2 for part in plan.parts)
            return f"{counted(count, 'part')} · {scales.words('area', total)}" if count else "no part yet"
        most = max((sum(not ply.coat for ply in part.plies) for part in plan.parts), default=0)
        thickest = max((part.thickness_mm for part in plan.parts), default=0)
        return f"{counted(most, 'ply', 'plies')} · {scales.words('thickness', thickest)}" if most else "no ply yet"

    def begun(self, step: Step, plan: Plan) -> bool:
        return any(step == "measure" or part.plies for part in plan.parts)

    def resin_g(self, draft: Draft, use_id: str) -> Mapping[str, float]:
        found: Parts = draft.found[self.key]
        every = [(part, ply) for part in found.parts for ply in part.plies]
        mine = [(part, ply) for part, ply in every if found.use_ids[ply.id] == use_id]
        first = [(part, first_wet_out(part.plies)) for part in found.parts if part.plies]
        coats = [(part, ply) for part, ply in mine if ply.coat and (part, ply) not in first]
        return {
            "in_plies_g": sum(ply.resin_g * part.count for part, ply in mine if not ply.coat and ply.stays),
            "first_wet_out_g": sum(
                part.wet_out_g * part.count
                for part, ply in first
                if found.use_ids[ply.id if ply else part.id] == use_id
            ),
            "in_coats_g": sum(ply.resin_g * part.count for part, ply in coats),
            "mopped_off_g": sum((ply.mopped_off_g + ply.lost_g) * part.count for part, ply in mine)
            + sum(ply.resin_g * part.count for part, ply in mine if not ply.stays),
            "runs_off_g": sum(
                owner.copies * work.laid_g * (1 - 1 / (1 + found.runs_off.get(owner.id, 0.0)))
                for owner in draft.owners
                for work in owner.works
                if work.use_id == use_id
            ),
        }

    def used(self, draft: Draft) -> Iterator[Used]:
        found: Parts = draft.found[self.key]
        fabric_of = {part.plies[int(path.split(".")[-1])].id: fabric for path, part, fabric in found.plies}
        for part in found.parts:
            for ply in part.plies:
                if not ply.coat:
                    yield Used(ply.name, ply.area_m2 * part.count, fabric_of[ply.id].price_per_m2)

    def marked(self, job: JobSpec, sheet: RunSheet, draft: Draft) -> RunSheet:
        patches = {part.id for part in job.parts if part.shape.kind == "patch"}
        lanes = {lane.id for lane in sheet.lanes if lane.owner_id in patches}
        marks = tuple(
            mark.model_copy(update={"words": f"{mark.words}; tap, lamp and weight as before it"})
            if mark.kind == "full cure" and mark.lane in lanes
            else mark
            for mark in sheet.marks
        )
        return sheet.model_copy(update={"marks": marks})

    def preparation(self, job: JobSpec, plan: Plan, scales: Scales) -> Iterator[PrepLine]:
        return lines_of_parts(job, plan, scales)

    def piece_count(self, job: JobSpec, divided: Divided) -> int:
        return piece_count(job, divided)

    def pieces(self, job: JobSpec, *, early: bool, divided: Divided) -> Iterator[CutPiece]:
        return pieces_of_parts(job, early=early, divided=divided)

    def to_buy(self, job: JobSpec, plan: Plan, library: Library, scales: Scales) -> Iterator[BuyLine]:
        if not plan.pot_count:
            return
        area_m2 = sum(part.total_area_m2 for part in plan.parts)
        if any(part.shape.kind == "patch" or part.ground.show_face for part in job.parts):
            yield from covering(library, "masking", area_m2, "")

    def sheets(self, job: JobSpec, plan: Plan) -> Iterator[Sheet]:
        return sheets_of_parts(job, plan)


LAMINATE = Laminate()
