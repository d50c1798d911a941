"""Routes of one part's stack: by the quick line, as a table for a spreadsheet, as a picture of its section."""

from typing import Annotated, Literal
from uuid import UUID, uuid4

from django.http import Http404, HttpRequest
from django.utils.text import slugify
from ninja import Field, Router, Schema

from cradle.jobs.prints import CSV, SVG, JobInHand
from cradle.jobs.routes import download, job_of
from cradle.plans import planned
from cradle.sent import sent_file
from cradle.shelf.keeping import generic_for, own_fabrics
from cradle.shops.models import Shop
from cradle.shops.preferences import facts_for, units_of
from layup.job import JobSpec, Part, Ply, ResinInUse
from layup.job_file import AnyJob
from layup.laminate.mould import mould_off
from layup.laminate.notation import parse_line
from layup.laminate.notation_written import format_line
from layup.laminate.section_picture import section_svg
from layup.laminate.section_print import laminate_pdf
from layup.laminate.stack_csv import read_stack, write_stack
from layup.laminate.stack_words import as_written, with_stack
from layup.materials import Fabric, ResinSystem
from layup.outcome import Plan
from layup.paper.kit import Paper
from layup.scales import FabricUnit, Scales
from layup.units import FluidOunce

router = Router(tags=["stack"])


class QuickLineIn(Schema):
    """A line for one part's stack, and the document it is typed into; the saved one where it is left out."""

    text: Annotated[str, Field(max_length=4000)]
    document: JobSpec | None = None


class QuickProblemOut(Schema):
    start: int
    end: int
    message: str
    offers: list[str]


class StackOut(Schema):
    """A part's plies, each in its place, and all of the job's fabrics that it then needs.

    As read where all of it was understood; else as they stand, since half a stack is another laminate.
    """

    plies: list[Ply]
    fabrics: list[Fabric]


class QuickLineOut(StackOut):
    problems: list[QuickProblemOut]
    notes: list[str]
    plan: Plan


class RowProblemOut(Schema):
    row: int
    message: str


class StackTableOut(StackOut):
    problems: list[RowProblemOut]


class WrittenIn(Schema):
    part: Part
    fabrics: Annotated[list[Fabric], Field(max_length=100)]
    fabric_unit: FabricUnit = "g/m²"
    fluid_ounce: FluidOunce = "us"


def _part_of(spec: JobSpec, part_id: str) -> Part:
    part = next((part for part in spec.parts if part.id == part_id), None)
    if part is None:
        raise Http404
    return part


def _known(spec: JobSpec, shop: Shop) -> tuple[tuple[Fabric, ...], set[str]]:
    """What a stack may be written in: the job's own fabrics, the shop's, the generic ones; and which are the shop's."""
    own, rest = own_fabrics(shop), generic_for(shop).fabrics
    return (*spec.materials.fabrics, *own, *rest), {fabric.id for fabric in own}


@router.post("/jobs/{uuid:job_id}/parts/{part_id}/quick-line", response=QuickLineOut)
def read_quick_line(request: HttpRequest, job_id: UUID, part_id: str, sent: QuickLineIn):
    """The stack a line says, with the plan of the job that has it; nothing is saved."""
    job = job_of(request, job_id)
    spec = sent.document or job.latest().spec()
    facts = facts_for(request.user, job.shop)
    strips = [band.name for band in _part_of(spec, part_id).bands]
    fabrics, own_ids = _known(spec, job.shop)
    line = parse_line(sent.text, fabrics, scales=facts.scales, strips=strips, own_ids=own_ids)
    after = spec if line.problems else with_stack(spec, part_id, line.plies)
    return {
        "plies": _part_of(after, part_id).plies,
        "fabrics": after.materials.fabrics,
        "problems": line.problems,
        "notes": line.notes,
        "plan": planned(job.shop_id, after, facts),
    }


@router.post("/quick-line/written", response=dict[Literal["written"], str])
def write_quick_line(request: HttpRequest, sent: WrittenIn):
    """One part's stack as a line."""
    scales = Scales(units_of(request.user), sent.fluid_ounce, sent.fabric_unit)
    return {"written": format_line(as_written(sent.part, sent.fabrics), scales)}


@router.get("/jobs/{uuid:job_id}/parts/{part_id}/stack.csv", response=str)
def stack_as_csv(request: HttpRequest, job_id: UUID, part_id: str):
    """One part's stack as a table in the reader's units; with semicolons where the shop writes decimals with a comma."""
    hand = JobInHand(request, job_id)
    part = _part_of(hand.spec, part_id)
    plies = as_written(part, hand.spec.materials.fabrics)
    text = write_stack(plies, hand.facts.scales)
    return download(text.encode(), f"{slugify(part.name) or 'stack'}.csv", CSV)


@router.post("/jobs/{uuid:job_id}/parts/{part_id}/stack-from-csv", response=StackTableOut)
def stack_from_csv(request: HttpRequest, job_id: UUID, part_id: str):
    """The plies of a table sent as the body, read against the job's fabrics and the library; nothing is saved."""
    job = job_of(request, job_id)
    spec = job.latest().spec()
    strips = [band.name for band in _part_of(spec, part_id).bands]
    fabrics, own_ids = _known(spec, job.shop)
    scales = facts_for(request.user, job.shop).scales
    table = read_stack(sent_file(request), fabrics, strips, own_ids, scales)
    after = spec if table.problems else with_stack(spec, part_id, table.plies)
    return {"plies": _part_of(after, part_id).plies, "fabrics": after.materials.fabrics, "problems": table.problems}


@router.get("/jobs/{uuid:job_id}/parts/{part_id}/section.svg", response=str)
def section_as_svg(request: HttpRequest, job_id: UUID, part_id: str):
    """One part's section, as a picture to print."""
    hand = JobInHand(request, job_id)
    part = next((part for part in hand.plan.parts if part.id == part_id), None)
    if part is None:
        raise Http404
    svg = section_svg(part, hand.facts.scales)
    return download(svg.encode(), f"{slugify(part.name) or 'section'}.svg", SVG)


@router.get("/jobs/{uuid:job_id}/laminate.pdf", response=str)
def laminate_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """Every part cut through, with its plies in a table."""
    hand = JobInHand(request, job_id)
    return hand.sent(laminate_pdf(hand.head(paper), hand.plan.parts), "laminate.pdf")


class MouldIn(Schema):
    """The document that the part is in, as it stands."""

    document: AnyJob


class MouldOut(Schema):
    """A mould as a part of its own, and what the job must hold besides to lay it."""

    part: Part
    fabrics: list[Fabric]
    products: list[ResinSystem]
    uses: list[ResinInUse]


@router.post("/jobs/{uuid:job_id}/parts/{part_id}/mould", response=MouldOut)
def mould_of(request: HttpRequest, job_id: UUID, part_id: str, sent: MouldIn):
    """The mould to make a part in. Nothing is saved."""
    job = job_of(request, job_id)
    part = _part_of(sent.document, part_id)
    plan = planned(job.shop_id, sent.document, facts_for(request.user, job.shop))
    thick = next((each.thickness_mm for each in plan.parts if each.id == part_id), 0.0)
    return vars(mould_off(sent.document, part, thick, lambda: uuid4().hex[:12]))
