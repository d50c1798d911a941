"""A job as it stands, for what is made of it to be taken away: prints, tables, drawings, a calendar."""

from collections.abc import Mapping
from functools import cached_property
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify

from cradle.jobs.models import Job
from cradle.jobs.routes import download, job_of
from cradle.plans import planned
from cradle.shelf.keeping import library_of
from cradle.shops.preferences import facts_for
from cradle.stock.drawing import offcuts_for
from layup.job import JobSpec
from layup.outcome import Plan
from layup.paper.kit import Masthead, Paper
from layup.preparing.before_pot import CutPlan, ShoppingList
from layup.preparing.buying import shopping_list
from layup.preparing.cutting import cut_plan
from layup.shop_facts import ShopFacts

SVG, CSV = "image/svg+xml", "text/csv; charset=utf-8"


class JobInHand:
    """A job's latest revision with the facts of who asks for it; its plan where it is wanted."""

    def __init__(self, request: HttpRequest, job_id: UUID):
        self.job: Job = job_of(request, job_id)
        self.revision = self.job.latest()
        self.spec: JobSpec = self.revision.spec()
        self.facts: ShopFacts = facts_for(request.user, self.job.shop)

    @cached_property
    def plan(self) -> Plan:
        """The job worked out."""
        return planned(self.job.shop_id, self.spec, self.facts)

    @cached_property
    def cut(self) -> CutPlan:
        """Its pieces, on what is left over of their fabrics and on rolls."""
        return cut_plan(self.spec, self.plan.divided, offcuts_for(self.job))

    def shopping(self, free: Mapping[str, float]) -> ShoppingList:
        """What to buy for the job beside what is free of each article."""
        return shopping_list(self.spec, self.plan, self.cut, library_of(self.job.shop), self.facts.scales, free)

    def head(self, paper: Paper) -> Masthead:
        """What every sheet of a print says of itself."""
        day = self.job.shop.now().date()
        return Masthead(self.spec.name, self.revision.number, day, paper, self.facts.scales)

    def sent(self, content: bytes, what: str, content_type: str = "application/pdf") -> HttpResponse:
        """A file of the job, by its name and what the file is."""
        return download(content, f"{slugify(self.spec.name) or 'job'}-{what}", content_type)
