"""The pot lab: pots tried by the heat model before any is poured."""

from functools import partial
from typing import Annotated
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest
from ninja import Field, Router, Schema

from cradle.beside.crew import PLANS
from cradle.jobs.routes import job_of
from cradle.plans import planned
from cradle.shops.preferences import facts_for
from layup.chemistry.blend import hardener_in_hand
from layup.chemistry.logged import with_logged
from layup.errors import LayupError, Missing, OutOfRange
from layup.heat.pot_lab import (
    LEVELS,
    POURED_OUT_MM,
    LabLevel,
    LabResult,
    MassPoint,
    PotTrial,
    by_mass,
    surface_words,
    try_pot,
)
from layup.job import JobSpec, ResinInUse, UseId
from layup.materials import Hardener, ResinSystem
from layup.shop_facts import ShopFacts

router = Router(tags=["pot lab"])


class LabIn(Schema):
    """Pots to try, of one of the job's resins in use; the first where none is named."""

    use_id: UseId = ""
    trials: Annotated[list[PotTrial], Field(min_length=1, max_length=3)]


class LabOut(Schema):
    """Each pot tried; what mass does to the first of them, left in its cup; the temperatures to know, and how to read
    them; how thin a pot is poured out, mm."""

    results: list[LabResult]
    by_mass: list[MassPoint]
    levels: list[LabLevel]
    surface_words: str
    poured_out_mm: float


@router.post("/jobs/{uuid:job_id}/pot-lab", response=LabOut)
def try_pots(request: HttpRequest, job_id: UUID, sent: LabIn):
    job = job_of(request, job_id)
    spec, facts = job.latest().spec(), facts_for(request.user, job.shop)
    use = spec.use_of(sent.use_id)
    resin = spec.product_of(use)
    if resin is None:
        raise Missing("choose the resin you hold, under Chemistry", "resins.0.resin_id")
    resin = with_logged(resin, facts.gels)
    work = partial(PLANS.work, job.shop_id, settings.PLAN_BUDGET_S)
    results, set_by = [], []
    # A trial that says no width stands in the shop's own cup.
    wide = [trial.model_copy(update={"cup_mm": trial.cup_mm or facts.cup_width_mm}) for trial in sent.trials]
    for at, trial in enumerate(wide):
        try:
            set_by.append(_in_hand(job.shop_id, spec, facts, use, resin, trial))
            results.append(work(try_pot, resin, *set_by[-1], trial, facts.scales, facts.cup_ml))
        except LayupError as error:
            raise OutOfRange(error.message, f"trials.{at}.{error.path or 'mass_g'}") from error
    first = wide[0]
    return {
        "results": results,
        "by_mass": work(by_mass, resin, *set_by[0], first.room_c, first.cup_mm),
        "levels": LEVELS,
        "surface_words": surface_words(facts.scales),
        "poured_out_mm": POURED_OUT_MM,
    }


def _in_hand(
    shop_id: UUID, spec: JobSpec, facts: ShopFacts, use: ResinInUse, resin: ResinSystem, trial: PotTrial
) -> tuple[Hardener | None, float | None]:
    """What sets a trial: its own hardener or dose, or what the plan takes today."""
    if resin.one_part:
        raise OutOfRange("it sets by the air, and a pot of it does not heat up: there is nothing to try here", "mass_g")
    if resin.catalyst and trial.catalyst_pct:
        return None, trial.catalyst_pct
    own = next((hardener for hardener in resin.hardeners if hardener.id == trial.hardener_id), None)
    if own:
        return own, None
    if trial.hardener_id:
        raise OutOfRange("this hardener does not belong to this resin: choose one of its family", "hardener_id")
    chemistry = planned(shop_id, spec, facts, full=True).resin_of(use.id).chemistry
    if resin.catalyst:
        return None, chemistry.dose.catalyst_pct
    if not chemistry.chosen_id:
        raise OutOfRange("nothing is defined this cold: choose the hardener to try", "hardener_id")
    return hardener_in_hand(resin, use, chemistry.chosen_id), None
