"""What is done before a pot is opened, in order, as it follows from the ground, its state, the process and what comes.

Water comes first for blush and release film, solvent after sanding, dust-off and a wipe after every sanding.
"""

from collections.abc import Iterator

from layup import kinds
from layup.job import JobSpec
from layup.outcome import Plan
from layup.preparing.before_pot import PrepLine
from layup.preparing.lines import COMMON, MEMORY, line_of
from layup.scales import Scales


def checklist(job: JobSpec, plan: Plan, scales: Scales) -> tuple[PrepLine, ...]:
    """The lines of a job's preparation in the order they are done. Source: common practice or memory, as each says.

    >>> from layup.shop_facts import ShopFacts
    >>> job = JobSpec(name="Deck")
    >>> from layup.plan import plan
    >>> [line.id for line in checklist(job, plan(job, ShopFacts()), ShopFacts().scales)]
    []
    """
    own = [line for kind in kinds.KINDS for line in kind.preparation(job, plan, scales)]
    if not own:
        return ()
    sheets = line_of("sheets", "Read the data sheets of what is used today", "They win over every figure here.", COMMON)
    return (sheets, *own, *_before_the_pot(job, plan))


def _before_the_pot(job: JobSpec, plan: Plan) -> Iterator[PrepLine]:
    cups = vessels_needed(job, plan)
    if cups:
        words = f"Set out {cups} {'cup' if cups == 1 else 'cups'} and as many sticks, in the order of the pots"
        yield line_of("vessels", words, _vessels_why(job), COMMON)
    resins = [resin for use in job.resins if (resin := job.product_of(use))]
    if not resins:
        return
    families = {resin.family for resin in resins}
    styrene, epoxy = any(resin.styrene for resin in resins), "epoxy" in families
    if styrene:
        words = "Goggles before the bottle is opened; vapour filter, gloves, air moving, no spark or flame"
        why = "Peroxide blinds. Styrene vapour catches fire and makes you dizzy; a dust mask does not hold it back."
        yield line_of("protection", words, f"{why} By the data sheet and local rules.", MEMORY)
    if epoxy:
        words = "Gloves, sleeves, goggles; particle filter for dust and powder"
        why = "Resin and hardener sensitise, and the hardener burns eyes. Soap on skin, never solvent."
        thing = "protection-epoxy" if styrene else "protection"
        yield line_of(thing, words, f"{why} By the data sheet and local rules.", MEMORY)
    if "polyurethane" in families:
        words = "Gloves, sleeves, goggles; air moving, and brush or roll it: sprayed, it takes a mask fed with air"
        why = "What sets in the air's moisture sensitises lungs and skin, for good."
        yield line_of("protection-moisture", words, f"{why} By the data sheet and local rules.", MEMORY)
    words = "A place outdoors for a pot that runs away: sand or concrete; a bucket of cold water for a warm cup"
    yield line_of("runaway", words, "When it smokes there is no time to look for one.", MEMORY)
    if any(resin.catalyst for resin in resins):
        words = "Wet sand or vermiculite and a plastic scoop by the catalyst; no promoter or acetone near it"
        yield line_of("spill", words, "Peroxide on sawdust or rags takes fire by itself.", MEMORY)


def vessels_needed(job: JobSpec, plan: Plan) -> int:
    """Cups to set out: one a pot, one more where it is poured over, two more where each part has a cup of its own.

    Common practice. A part's own cups serve all pots.

    >>> from layup.shop_facts import ShopFacts
    >>> from layup.plan import plan
    >>> vessels_needed(JobSpec(name="Deck"), plan(JobSpec(name="Deck"), ShopFacts()))
    0
    """
    if not plan.pot_count:
        return 0
    each = 2 if job.practice.mixing == "two pots" else 1
    own = 2 if job.practice.vessels == "each in its own" else 0
    return plan.pot_count * each + own


def _vessels_why(job: JobSpec) -> str:
    if job.practice.mixing == "two pots":
        return "Two a pot: what clings to the first wall is not mixed, so it is poured over into a clean one."
    return "One a pot: half-set resin in a used cup sets the next one off."
