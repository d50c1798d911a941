"""Routes of a damage that is looked over: what job it makes and why, and the job begun from it."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Schema

from cradle.jobs.routes import JobOut, job_out
from cradle.jobs.saving import start_job
from cradle.shelf.keeping import library_of
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from layup.damage import Damage
from layup.errors import Missing
from layup.repair.begin import Because, PatchDrawn, job_of

router = Router(tags=["repairs"])


class AskedFirst(Schema):
    """What of a damage has to be measured first: its field, and the question."""

    path: str
    message: str


class DamageOut(Schema):
    """What a damage makes: the parts and joints of its job by name, the reasons, its patch drawn; or what is asked for first."""

    asked: AskedFirst | None = None
    makes: list[str] = []
    because: list[Because] = []
    drawn: PatchDrawn | None = None


@router.post("/shops/{uuid:shop_id}/damage", response=DamageOut)
def look_over(request: HttpRequest, shop_id: UUID, damage: Damage):
    """What job a damage would make. Nothing is saved."""
    shop = shop_of(request, shop_id)
    try:
        begun = job_of(damage, library_of(shop), facts_for(request.user, shop).scales)
    except Missing as missing:
        return DamageOut(asked=AskedFirst(path=missing.path, message=missing.message))
    return DamageOut(makes=list(begun.makes), because=list(begun.because), drawn=begun.drawn)


@router.post("/shops/{uuid:shop_id}/jobs/from-damage", response=JobOut)
def job_from_damage(request: HttpRequest, shop_id: UUID, damage: Damage):
    """A new job that mends a damage, worked as the shop works."""
    shop = shop_of(request, shop_id, to_write=True)
    facts = facts_for(request.user, shop)
    begun = job_of(damage, library_of(shop), facts.scales)
    revision = start_job(shop, begun.spec.model_copy(update={"practice": facts.practice}), request.user)
    return job_out(request, revision.job, revision)
