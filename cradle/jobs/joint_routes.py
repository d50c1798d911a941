"""Routes of one joint: its figures while it is being drawn, widths for its strips."""

from typing import Annotated
from uuid import UUID

from django.http import Http404, HttpRequest
from django.utils.text import slugify
from ninja import Field, Router, Schema

from cradle.beside.heat import with_heat_at_hand
from cradle.jobs.prints import SVG, JobInHand
from cradle.jobs.routes import download, job_of
from cradle.shops.preferences import facts_for
from layup.job_file import AnyJob
from layup.joints.alone import joint_alone
from layup.joints.corner_picture import corner_drawn, is_drawn
from layup.joints.corner_print import joints_pdf
from layup.joints.outcome import FromResinResult, JointResult
from layup.joints.tabbing import next_width_mm
from layup.outcome import Problem
from layup.paper.kit import Paper
from layup.paper.shapes import svg_of
from layup.usual import TABBING_KIND

router = Router(tags=["joints"])


class JointIn(Schema):
    """A joint by its id, in the document that it is being drawn in, and mixed resin in hand for it, g."""

    document: AnyJob
    joint_id: Annotated[str, Field(max_length=40)]
    resin_g: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)] | None = None


class JointOut(Schema):
    """Its figures without its pots, or what is missing; what the resin in hand becomes."""

    joint: JointResult | None
    problems: list[Problem]
    hand: FromResinResult | None


class StripIn(Schema):
    """How wide the last strip is, where there is one, over what radius at what angle."""

    last_mm: Annotated[float, Field(ge=1, le=2000, allow_inf_nan=False)] | None = None
    radius_mm: Annotated[float, Field(ge=0, le=200, allow_inf_nan=False)]
    angle_deg: Annotated[float, Field(ge=0, le=180, allow_inf_nan=False)]


class StripOut(Schema):
    """The usual width of the next strip, and the kind of fabric that it is mostly cut of."""

    width_mm: float
    kind: str


@router.post("/jobs/{uuid:job_id}/joint", response=JointOut)
def try_joint(request: HttpRequest, job_id: UUID, sent: JointIn):
    """One joint worked out by itself: at once, for what is being dragged. Nothing is saved."""
    job = job_of(request, job_id)
    if not any(joint.id == sent.joint_id for joint in sent.document.joints):
        raise Http404
    facts = facts_for(request.user, job.shop)
    return with_heat_at_hand(lambda heat_of: joint_alone(sent.document, facts, sent.joint_id, heat_of, sent.resin_g))


@router.post("/next-strip", response=StripOut)
def usual_strip(request: HttpRequest, sent: StripIn):
    """The strip that usually comes next over a fillet."""
    return {"width_mm": next_width_mm(sent.last_mm, sent.radius_mm, sent.angle_deg), "kind": TABBING_KIND}


@router.get("/jobs/{uuid:job_id}/joints.pdf", response=str)
def joints_as_pdf(request: HttpRequest, job_id: UUID, paper: Paper = "A4"):
    """Every joint with its corner drawn, what it takes and its steps."""
    hand = JobInHand(request, job_id)
    return hand.sent(joints_pdf(hand.head(paper), hand.spec.joints, hand.plan.joints), "joints.pdf")


@router.get("/jobs/{uuid:job_id}/joints/{joint_id}/corner.svg", response=str)
def corner_as_svg(request: HttpRequest, job_id: UUID, joint_id: str):
    """One joint's corner to scale; 404 for a joint that has none, or is not worked out yet."""
    hand = JobInHand(request, job_id)
    joint = next((joint for joint in hand.spec.joints if joint.id == joint_id and is_drawn(joint)), None)
    result = next((result for result in hand.plan.joints if result.id == joint_id), None)
    if joint is None or result is None:
        raise Http404
    svg = svg_of(corner_drawn(joint, result, hand.facts.scales))
    return download(svg.encode(), f"{slugify(joint.name) or 'corner'}.svg", SVG)
