"""Routes of one infusion: its flow in plan, as it stands or as its feeds and vents are tried."""

from typing import Annotated
from uuid import UUID

from django.conf import settings
from django.http import Http404, HttpRequest
from ninja import Field, Router, Schema

from cradle.beside.crew import PLANS
from cradle.beside.heat import begin_tables
from cradle.beside.written import flow_written
from cradle.jobs.routes import job_of
from cradle.shops.preferences import facts_for
from layup.infusion.flow import Flow
from layup.job_file import AnyJob
from layup.under_vacuum import MOST_LINES, FlowLine

router = Router(tags=["infusions"])


class FlowIn(Schema):
    """An infused part by its id, in the document that it is planned in; with other lines, where they are tried."""

    document: AnyJob
    part_id: Annotated[str, Field(max_length=40)]
    lines: Annotated[tuple[FlowLine, ...], Field(max_length=MOST_LINES)] | None = None
    rough: bool = False


class FlowOut(Schema):
    """How it fills; nothing while it cannot be worked out."""

    flow: Flow | None


@router.post("/jobs/{uuid:job_id}/flow", response=FlowOut)
def flow_in_plan(request: HttpRequest, job_id: UUID, sent: FlowIn):
    """How one part fills, cell by cell. Nothing is saved."""
    job = job_of(request, job_id)
    if not any(part.id == sent.part_id for part in sent.document.parts):
        raise Http404
    words = sent.document.model_dump_json(), facts_for(request.user, job.shop).model_dump_json()
    full = not settings.HEAT_IN_BACKGROUND
    flow, lacked = PLANS.work(
        job.shop_id, settings.PLAN_BUDGET_S, flow_written, *words, sent.part_id, sent.lines, sent.rough, full
    )
    begin_tables(lacked)
    return {"flow": flow}
