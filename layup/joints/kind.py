"""Joints as a kind of work: fillets with their tabbing, glue lines, scarfs, gaps, bedding and holes."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from layup.day.schedule import PlannedPot
from layup.job import JobSpec
from layup.joints.answers import joint_result, thickened_result
from layup.joints.asked import joint_measures
from layup.joints.cautions import RULES, JointFacts
from layup.joints.deep import peak_of_joint_c
from layup.joints.filler_log import learned
from layup.joints.outcome import JointResult
from layup.joints.pieces import piece_count, tab_pieces
from layup.joints.plan import PlannedJoint, ask_measures, plan_joint, too_few_pots
from layup.joints.preparation import lines_of_joints
from layup.joints.seams import seams_in_turn
from layup.joints.sheets import sheets_of_joints
from layup.joints.workings import WORKINGS
from layup.kind import GONE, Draft, KindOfWork, Mixes, Sheet, Turn
from layup.order import made_apart
from layup.outcome import Plan, Step
from layup.pots.mix import Mix
from layup.pots.outcome import ThickenedResult
from layup.pots.work import Owner
from layup.preparing.before_pot import CutPiece, Divided, PrepLine
from layup.preparing.cost import Used
from layup.scales import Scales

_JOINT_MIN = 30.0  # about how long a joint takes (memory)


class Joints(KindOfWork):
    """What is joined with a thickened mix."""

    key = "joints"
    after = ("joints",)
    rules = RULES
    workings = WORKINGS

    def asked(self) -> dict[str, Any]:
        return joint_measures()

    def lay(self, job: JobSpec, mixes: Mixes, draft: Draft) -> None:
        found: list[PlannedJoint] = draft.found.setdefault(self.key, [])
        stirred = next((mix.shop.stirred for mix in mixes.values()), ())
        fillers = {filler.id: learned(filler, stirred) for filler in job.materials.fillers}

        def say(path: str, message: str, wrong: bool) -> None:
            draft.missing(path, message, "joints", wrong=wrong)

        for number, joint in enumerate(job.joints):
            path, use = f"joints.{number}", job.use_of(joint.use_id)
            if use is None:
                draft.missing(f"{path}.use_id", GONE, "joints")
                continue
            mix = mixes.get(use.id)
            if mix is None:
                ask_measures(path, joint, say)
                continue
            planned = plan_joint(path, joint, job, mix, fillers, say)
            if planned is None:
                continue
            found.append(planned)
            name, edged = joint.name or joint.kind, bool(joint.tabs)
            owner = Owner(
                joint.id,
                name,
                joint.count,
                planned.works,
                one_run=True,
                fixings=joint.fixings,
                edged=edged,
                bays=seams_in_turn(planned),
                comes_after=joint.comes_after,
                lies_on=made_apart(job, joint.comes_after),
            )
            assembles = joint.substrate in ("bare plywood", "timber") or joint.covered_by
            draft.lay(owner, Turn.HIDDEN if joint.hidden else Turn.ASSEMBLY if assembles else Turn.JOINTS)

    def about_min(self, job: JobSpec) -> float:
        return sum(_JOINT_MIN * joint.count for joint in job.joints)

    def results(self, mixes: Mixes, draft: Draft) -> list[JointResult]:
        return [joint_result(planned, mixes[planned.use_id]) for planned in draft.found[self.key] if mixes]

    def wrong_in(self, pots: Sequence[PlannedPot], draft: Draft) -> None:
        """Whether the pots wished for a paste do, in the warmest room that any of them is mixed for."""
        warmest: dict[str, Mix] = {}
        for pot in pots:
            if pot.mix.way and pot.mix.room_c >= warmest.get(pot.owner.id, pot.mix).room_c:
                warmest[pot.owner.id] = pot.mix
        for planned in draft.found[self.key]:
            if planned.joint.wished_pots and (mix := warmest.get(planned.joint.id)):
                too_few = too_few_pots(planned, mix.plain or mix)
                if too_few:
                    draft.missing(f"{planned.path}.wished_pots", too_few, "joints", wrong=True)

    def facts(self, mixes: Mixes, room_c: float, draft: Draft) -> JointFacts:
        found = tuple(draft.found[self.key])
        peaks_c = {each.path: peak_of_joint_c(each, mixes[each.use_id], room_c) for each in found if mixes}
        return JointFacts(found, peaks_c)

    def stirred(self, pot: PlannedPot, draft: Draft) -> ThickenedResult | None:
        of = next((each for each in draft.found[self.key] if each.joint.id == pot.owner.id), None)
        return thickened_result(pot, of) if of and pot.mix.way else None

    def headline(self, step: Step, plan: Plan, scales: Scales) -> str:
        if not plan.joints:
            return "not measured"
        run = sum(joint.run_m for joint in plan.joints)
        length = f"{scales.words('length', run)} · " if run else ""
        return f"{length}{scales.words('volume', sum(joint.paste_ml for joint in plan.joints))}"

    def resin_g(self, draft: Draft, use_id: str) -> Mapping[str, float]:
        mine = (each for each in draft.found[self.key] if each.use_id == use_id)
        laid = (each.joint.count * work.laid_g for each in mine for work in each.works)
        return {"in_joints_g": sum(laid)}

    def used(self, draft: Draft) -> Iterator[Used]:
        for planned in draft.found[self.key]:
            n = planned.joint.count
            for tab in planned.tabs:
                yield Used(tab.fabric.name, tab.area_m2 * n, tab.fabric.price_per_m2)
            if paste := planned.paste:
                for part in paste.recipe:
                    yield Used(part.filler.name, paste.grams(part) * n / 1000, part.filler.price_per_kg)

    def preparation(self, job: JobSpec, plan: Plan, scales: Scales) -> Iterator[PrepLine]:
        return lines_of_joints(job, plan)

    def piece_count(self, job: JobSpec, divided: Divided) -> int:
        return piece_count(job)

    def pieces(self, job: JobSpec, *, early: bool, divided: Divided) -> Iterator[CutPiece]:
        return tab_pieces(job, hidden=early)

    def sheets(self, job: JobSpec, plan: Plan) -> Iterator[Sheet]:
        return sheets_of_joints(plan)


JOINTS = Joints()
