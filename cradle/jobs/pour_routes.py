"""Routes of one casting: its temperatures through its depth and its hours."""

from typing import Annotated
from uuid import UUID

from django.conf import settings
from django.http import Http404, HttpRequest
from ninja import Field, Router, Schema

from cradle.beside.crew import PLANS
from cradle.beside.heat import begin_tables
from cradle.beside.written import pour_hours_written
from cradle.jobs.routes import job_of
from cradle.shops.preferences import facts_for
from layup.job_file import AnyJob
from layup.pours.hours import PourHours

router = Router(tags=["castings"])


class PourIn(Schema):
    """A casting by its id, in the document that it is being planned in."""

    document: AnyJob
    pour_id: Annotated[str, Field(max_length=40)]


class PourOut(Schema):
    """Its hours; nothing while it is not worked out, or where the heat model has nothing to say of its resin."""

    hours: PourHours | None


@router.post("/jobs/{uuid:job_id}/pour-hours", response=PourOut)
def through_its_hours(request: HttpRequest, job_id: UUID, sent: PourIn):
    """One casting through its depth and its hours, and what other depths and other hours of pouring do. Nothing is saved."""
    job = job_of(request, job_id)
    if not any(pour.id == sent.pour_id for pour in sent.document.pours):
        raise Http404
    words = sent.document.model_dump_json(), facts_for(request.user, job.shop).model_dump_json()
    full = not settings.HEAT_IN_BACKGROUND
    hours, lacked = PLANS.work(job.shop_id, settings.PLAN_BUDGET_S, pour_hours_written, *words, sent.pour_id, full)
    begin_tables(lacked)
    return {"hours": hours}
