"""The plan in one line: each step with its headline figure and its state, and the one thing to do next."""

from collections.abc import Sequence

from layup import kinds
from layup.chemistry.outcome import ChemistryResult
from layup.job import JobSpec
from layup.kind import KindOfWork
from layup.outcome import NextStep, Plan, Step, StepResult, StepState
from layup.scales import Scales
from layup.words import counted


def with_headlines(plan: Plan, job: JobSpec, scales: Scales) -> Plan:
    """The plan with its steps, only those the job has, in the order of the work, and its next step."""
    before = [step for kind in kinds.KINDS for step in kind.before]
    after = dict.fromkeys(step for kind in kinds.KINDS if kind.has(job) for step in kind.after)
    rows = []
    for step in (*before, "cut", "prepare", "chemistry", *after, "pots", "ticket", "log"):
        told_by = [kind for kind in kinds.KINDS if step in kind.before or (step in kind.after and kind.has(job))]
        said = [kind.headline(step, plan, scales) for kind in told_by]
        headline = " · ".join(filter(None, said)) if told_by else _headline(step, plan, scales)
        rows.append(StepResult(step=step, headline=headline, state=_state(step, plan, told_by)))
    return plan.model_copy(update={"steps": tuple(rows), "next_step": _next_step(plan, scales)})


def _state(step: Step, plan: Plan, told_by: Sequence[KindOfWork]) -> StepState:
    if any(caution.step == step and caution.stops for caution in plan.cautions):
        return "stop"
    if step == "pots" and plan.stuck:
        return "stop"
    if step == "log":
        return ""
    if any(problem.step == step for problem in plan.problems):
        return "to do"
    if told_by:
        return "ready" if any(kind.begun(step, plan) for kind in told_by) else ""
    if step in ("cut", "prepare"):
        return ""
    if step in ("pots", "ticket"):
        return "ready" if plan.pots and not plan.problems and not plan.stuck else ""
    return "ready" if plan.resins else ""


def _headline(step: Step, plan: Plan, scales: Scales) -> str:
    match step:
        case "cut":
            return counted(plan.piece_count, "piece") if plan.piece_count else "nothing to cut"
        case "prepare":
            return f"{counted(plan.prepare_count, 'thing')} to do" if plan.prepare_count else "nothing yet"
        case "chemistry":
            return _chemistry(plan, scales)
        case "pots":
            if plan.stuck:
                return "no pot lasts"
            return f"{counted(plan.pot_count, 'pot')} · {_mixed(plan, scales)}" if plan.pot_count else "none yet"
        case "ticket":
            return f"first {plan.pot_words(plan.pots[0], scales)}" if plan.pots else "none yet"
    return "what was done"


def _mixed(plan: Plan, scales: Scales) -> str:
    """All that is mixed: of one resin as it is measured, of several by weight."""
    mixed = [(resin, resin.use.mixed_g) for resin in plan.resins if resin.use and resin.use.mixed_g]
    if len(mixed) == 1:
        ((resin, grams),) = mixed
        return resin.words(grams, scales)
    return scales.mass(plan.mixed_g)


def _chemistry(plan: Plan, scales: Scales) -> str:
    if not plan.resins:
        return "no resin yet"
    more = f" + {len(plan.resins) - 1}" if len(plan.resins) > 1 else ""
    return f"{_verdict(plan.resins[0].chemistry, scales)}{more}"


def _verdict(chemistry: ChemistryResult, scales: Scales) -> str:
    if chemistry.dose:
        return f"{scales.written(chemistry.dose.catalyst_pct, '.2f')} % · {chemistry.dose.gel_min:.0f} min"
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
        return NextStep(step="pots", words=f"no pot lives long enough for {plan.stuck[0].labels[0]}")
    if plan.weighed_only and not plan.pots:
        names = " and ".join(plan.weighed_only)
        words = f"{names}: weights to buy by; its pots wait for a plan of its flow"
        return NextStep(step="stack", words=words)
    if not plan.pots:
        return NextStep(step="stack", words="nothing to mix yet: write what is laid in this resin")
    return NextStep(step="ticket", words=f"mix pot 1 of {plan.pot_count:,}, {plan.pot_words(plan.pots[0], scales)}")
