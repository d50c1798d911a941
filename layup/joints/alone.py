"""One joint worked out by itself, at once, while it is drawn; and what resin in hand becomes for it."""

from dataclasses import dataclass

from layup.heat.pot_heat import HeatOf, full_heat
from layup.job import JobSpec
from layup.joints.answers import from_resin, joint_result
from layup.joints.outcome import FromResinResult, JointResult
from layup.joints.plan import too_few_pots
from layup.outcome import Problem
from layup.plan import settled
from layup.shop_facts import ShopFacts


@dataclass(frozen=True)
class JointAlone:
    """One joint worked out by itself; `joint` is None where something is missing, `hand` what resin in hand becomes."""

    joint: JointResult | None
    problems: list[Problem]
    hand: FromResinResult | None = None


def joint_alone(
    job: JobSpec, shop: ShopFacts, joint_id: str, heat_of: HeatOf = full_heat, resin_g: float | None = None
) -> JointAlone:
    """One joint's figures without the rest of its job, and what is missing of it, at its place in the job.

    With `resin_g` of mixed resin in hand, also what that becomes.

    >>> joint_alone(JobSpec(name="New"), ShopFacts(), "chine")
    JointAlone(joint=None, problems=[], hand=None)
    """
    place = next((at for at, joint in enumerate(job.joints) if joint.id == joint_id), None)
    if place is None:
        return JointAlone(None, [])
    of = settled(job.model_copy(update={"parts": (), "joints": (job.joints[place],)}), shop, heat_of)
    planned = next(iter(of.draft.found["joints"]), None)
    problems = [
        problem.model_copy(update={"path": problem.path.replace("joints.0", f"joints.{place}", 1)})
        for problem in of.draft.problems
    ]
    if planned is None:
        return JointAlone(None, problems)
    mix = of.mixes[planned.use_id]
    if too_few := too_few_pots(planned, mix):
        path = f"joints.{place}.wished_pots"
        problems.append(Problem(path=path, message=too_few, step="joints", wrong=True))
    hand = None if resin_g is None else from_resin(planned, resin_g, mix)
    return JointAlone(joint_result(planned, mix), problems, hand)
