"""How a headline number was worked out: the formula, the numbers put in and where each comes from, the result.

A formula is written in the symbols of its givens with + − × ÷ ( ), and with π, exp, ln, sqrt, max, min,
nearest(x, step) and Φ, the share of a normal spread under a value. What is worked out here is checked against the plan's own number.
"""

from layup import kinds
from layup.errors import Missing
from layup.job import JobSpec
from layup.outcome import Plan
from layup.plan import plan
from layup.shop_facts import ShopFacts
from layup.workings.bench import Bench, Given, Working, Write
from layup.workings.job import JOB
from layup.workings.pots import POTS


def workings() -> dict[str, Write]:
    """Every working by its name: those of the kinds of work, of pots, of the whole job."""
    return {name: write for kind in kinds.KINDS for name, write in kind.workings.items()} | POTS | JOB


def working(about: str, job: JobSpec, shop: ShopFacts, at_hand: Plan | None = None) -> Working:
    """How the number named `about` was worked out, such as `life` or `thickness:p1`; `life:r2` of the resin in use r2.

    `at_hand` is the plan that holds it where there is one already, such as a run's; else the job is planned. Raises Missing
    where the plan holds no such number.

    >>> from layup.job import Conditions
    >>> warm = ShopFacts(conditions=Conditions(room_c=20, surface_c=18, humidity_pct=60))
    >>> shown = working("dew", JobSpec(name="Deck"), warm)
    >>> shown.formula, round(shown.result, 1)
    ('s − d', 6.0)
    """
    return worked(Bench(job, shop, at_hand or plan(job, shop)), about)


def worked(bench: Bench, about: str) -> Working:
    """The same, of a plan that is at hand."""
    kind, _, thing = about.partition(":")
    by_name = workings()
    if kind not in by_name:
        raise Missing("there is no working of this name", "about")
    of_use = any(use.id == thing for use in bench.job.resins)
    pot = next((pot for pot in bench.plan.pots if pot.id == thing), None)
    in_hand = bench.of(thing if of_use else pot.use_id if pot else "")
    title, formula, givens, result, unit, rule = by_name[kind](in_hand, "" if of_use else thing)
    rows = tuple(
        Given(symbol=letter, name=name, value=value, unit=unit_, source=source, about="".join(own))
        for letter, name, value, unit_, source, *own in givens
    )
    return Working(about=about, title=title, formula=formula, givens=rows, result=result, unit=unit, rule=rule)
