"""The plan in one line: each step with its headline figure and its state, and the one thing to do next."""

from layup.job import JobSpec
from layup.outcome import NextStep, Plan, Step, StepResult, StepState
from layup.scales import Scales
from layup.words import counted


def with_headlines(plan: Plan, job: JobSpec, scales: Scales) -> Plan:
    """The plan with its steps, only those the job has, in the order of the work, and its next step."""
    steps: list[Step] = ["measure", "stack", "cut", "prepare", "chemistry", "joints", "pots", "ticket", "log"]
    if not job.joints:
        steps.remove("joints")
    rows = tuple(
        StepResult(step=step, headline=_headline(step, plan, scales), state=_state(step, plan)) for step in steps
    )
    return plan.model_copy(update={"steps": rows, "next_step": _next_step(plan, scales)})


def _state(step: Step, plan: Plan) -> StepState:
    if any(caution.step == step and caution.stops for caution in plan.cautions):
        return "stop"
    if step == "pots" and plan.stuck:
        return "stop"
    if step == "log":
        return ""
    if any(problem.step == step for problem in plan.problems) or (step == "measure" and not plan.parts):
        return "to do"
    if step in ("cut", "prepare"):
        return ""
    if step in ("pots", "ticket"):
        return "ready" if plan.pots and not plan.problems and not plan.stuck else ""
    return "ready" if step != "chemistry" or plan.chemistry else ""


def _headline(step: Step, plan: Plan, scales: Scales) -> str:
    match step:
        case "measure":
            count = sum(part.count for part in plan.parts)
            total = sum(part.total_area_m2 for part in plan.parts)
            return f"{counted(count, 'part')} · {scales.words('area', total)}" if count else "no part yet"
        case "stack":
            most = max((sum(not ply.coat for ply in part.plies) for part in plan.parts), default=0)
            thickest = max((part.thickness_mm for part in plan.parts), default=0)
            return f"{counted(most, 'ply', 'plies')} · {scales.words('thickness', thickest)}" if most else "no ply yet"
        case "cut":
            return counted(plan.piece_count, "piece") if plan.piece_count else "nothing to cut"
        case "prepare":
            return f"{counted(plan.prepare_count, 'thing')} to do" if plan.prepare_count else "nothing yet"
        case "chemistry":
            return _chemistry(plan)
        case "joints":
            paste = sum(joint.paste_ml for joint in plan.joints)
            run = sum(joint.run_m for joint in plan.joints)
            if not plan.joints:
                return "not measured"
            length = f"{scales.words('length', run)} · " if run else ""
            return f"{length}{scales.words('volume', paste)}"
        case "pots":
            if plan.stuck:
                return "no pot fits"
            mixed = plan.resin.mixed_g if plan.resin else 0
            return (
                f"{counted(plan.pot_count, 'pot')} · {plan.pot_words(mixed, scales)}" if plan.pot_count else "none yet"
            )
        case "ticket":
            return f"first {plan.pot_words(plan.pots[0].mass_g, scales)}" if plan.pots else "none yet"
    return "what was done"


def _chemistry(plan: Plan) -> str:
    chemistry = plan.chemistry
    if chemistry is None:
        return "no resin yet"
    if chemistry.dose:
        return f"{chemistry.dose.catalyst_pct:.2f} % · {chemistry.dose.gel_min:.0f} min"
    chosen = next((hardener for hardener in chemistry.hardeners if hardener.chosen), None)
    if chosen is None:
        return "none for this cold"
    name = "blend" if chosen.blend else chosen.name
    return f"{name} · {chemistry.workable_min or chosen.pot_life_min or 0:.0f} min"


def _next_step(plan: Plan, scales: Scales) -> NextStep:
    """What the builder does next: the first thing missing, else what stops the job, else the first pot."""
    if plan.problems:
        return NextStep(step=plan.problems[0].step, words=plan.problems[0].message)
    for caution in plan.cautions:
        if caution.stops:
            return NextStep(step=caution.step, words=caution.message)
    if plan.stuck:
        return NextStep(step="pots", words=f"no pot fits: {plan.stuck[0].labels[0]}")
    if plan.weighed_only and not plan.pots:
        names = " and ".join(plan.weighed_only)
        words = f"{names}: weights to buy by; pots and hours under a bag are not planned yet"
        return NextStep(step="stack", words=words)
    if not plan.pots:
        return NextStep(step="stack", words="nothing to mix yet: write what is laid in this resin")
    first = plan.pot_words(plan.pots[0].mass_g, scales)
    return NextStep(step="ticket", words=f"mix pot 1 of {plan.pot_count:,}, {first}")
