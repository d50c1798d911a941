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
from cradle.shelf.keeping import library_of
from cradle.shops.facts import measuring_library
from cradle.shops.models import Shop
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from layup.chemistry.blend import hardener_in_hand
from layup.chemistry.logged import with_logged
from layup.equipment import usual_width_mm
from layup.errors import LayupError, Missing, OutOfRange, known
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
from layup.job import JobMaterials, JobSpec, ResinInUse, UseId
from layup.materials import Hardener, ResinSystem
from layup.pours.surround import casting_cure, in_softwood
from layup.shop_facts import ShopFacts

router = Router(tags=["pot lab"])


class Tried(PotTrial):
    """A pot to try; `vessel_id` is a cup or pail of the shelf that it stands in, in place of the shop's usual cup."""

    vessel_id: Annotated[str, Field(max_length=60)] = ""


class LabIn(Schema):
    """Pots to try, of one of the job's resins in use; the first where none is named."""

    use_id: UseId = ""
    trials: Annotated[list[Tried], Field(min_length=1, max_length=3)]


class ShopLabIn(Schema):
    """Pots to try of any resin of the shelf."""

    resin_id: Annotated[str, Field(max_length=60)]
    trials: Annotated[list[Tried], Field(min_length=1, max_length=3)]


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
    if spec.product_of(use) is None:
        raise Missing("choose the resin you hold, under Chemistry", "resins.0.resin_id")
    return _tried(job.shop, spec, facts, use, sent.trials)


@router.post("/shops/{uuid:shop_id}/pot-lab", response=LabOut)
def try_pots_of_shelf(request: HttpRequest, shop_id: UUID, sent: ShopLabIn):
    """Pots of a resin of the shelf, with no job at hand."""
    shop = shop_of(request, shop_id)
    resin = next((each for each in library_of(shop).resins if each.id == sent.resin_id), None)
    if resin is None:
        raise Missing("choose a resin of the shelf", "resin_id")
    use = ResinInUse(id="tried", resin_id=resin.id)
    spec = JobSpec(name="Pot lab", resins=(use,), materials=JobMaterials(resins=(resin,)))
    return _tried(shop, spec, facts_for(request.user, shop), use, sent.trials)


def _tried(shop: Shop, spec: JobSpec, facts: ShopFacts, use: ResinInUse, trials: list[Tried]) -> dict:
    resin = with_logged(known(spec.product_of(use)), facts.gels)
    work = partial(PLANS.work, shop.pk, settings.PLAN_BUDGET_S)
    vessels = {vessel.id: vessel for vessel in measuring_library(shop).vessels}
    casts = casting_cure(resin.deepest_pour_mm) if resin.deepest_pour_mm and resin.two_part else None
    results, set_by, wide = [], [], []
    for at, sent in enumerate(trials):
        vessel = vessels.get(sent.vessel_id)
        if sent.vessel_id and vessel is None:
            raise Missing("choose a vessel of the shelf", f"trials.{at}.vessel_id")
        # A trial that says no width stands in the shop's own cup.
        width_mm = (
            sent.cup_mm or (vessel and (vessel.width_mm or usual_width_mm(vessel.holds_ml))) or facts.cup_width_mm
        )
        wide.append(PotTrial(**sent.model_dump(exclude={"vessel_id", "cup_mm"}), cup_mm=width_mm))
        holds_ml = vessel.holds_ml if vessel else facts.cup_ml
        try:
            set_by.append(_in_hand(shop.pk, spec, facts, use, resin, wide[-1]))
            dense = resin.density_g_per_cm3 or resin.cured_density_g_per_cm3
            lies = in_softwood(wide[-1].casting_mm, round(dense, 2), casting=casts is not None)
            results.append(work(try_pot, resin, *set_by[-1], wide[-1], facts.scales, holds_ml, lies, casts))
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
