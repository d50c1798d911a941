"""Routes of the job line: a whole job as one types it, with what it comes to, before it is begun."""

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Schema

from cradle.jobs.stack_routes import QuickProblemOut
from cradle.plans import planned
from cradle.shelf.keeping import library_of, own_fabrics
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from layup.job import JobSpec
from layup.laminate.job_line.kinds_of_job import job_lines
from layup.laminate.job_line.read import read_job_line
from layup.outcome import StepResult

router = Router(tags=["job line"])


class JobLineIn(Schema):
    text: Annotated[str, Field(max_length=4000)]


class JobLineOut(Schema):
    """The job that a line says, the headline of each of its steps, and what could not be taken."""

    document: JobSpec
    steps: list[StepResult]
    problems: list[QuickProblemOut]


class KindOfJob(Schema):
    """A kind of job, and a line to begin one from."""

    name: str
    line: str


@router.get("/shops/{uuid:shop_id}/job-lines", response=list[KindOfJob])
def kinds_of_job(request: HttpRequest, shop_id: UUID):
    """The kinds of job that a line is kept of, in the units that the shop buys in."""
    lines = job_lines(shop_of(request, shop_id).shop_facts().fabric_unit)
    return [{"name": name, "line": line} for name, line in lines.items()]


@router.post("/shops/{uuid:shop_id}/job-line", response=JobLineOut)
def read_line(request: HttpRequest, shop_id: UUID, sent: JobLineIn):
    """What a line says; nothing is saved."""
    shop = shop_of(request, shop_id)
    facts = facts_for(request.user, shop)
    own_ids = {fabric.id for fabric in own_fabrics(shop)}
    practice = shop.shop_facts().practice
    line = read_job_line(sent.text, library_of(shop), own_ids=own_ids, practice=practice, scales=facts.scales)
    return {
        "document": line.job,
        "steps": planned(shop.pk, line.job, facts).steps,
        "problems": line.problems,
    }
