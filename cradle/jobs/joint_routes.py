"""Routes of one joint: its figures while it is being drawn, widths for its strips."""

from typing import Annotated
from uuid import UUID

from django.http import Http404, HttpRequest
from ninja import Field, Router, Schema

from cradle.beside.heat import with_heat_at_hand
from cradle.jobs.routes import job_of
from cradle.shops.preferences import facts_for
from layup.job import JobSpec
from layup.joints.alone import joint_alone
from layup.joints.outcome import FromResinResult, JointResult
from layup.joints.tabbing import staggered_widths_mm
from layup.outcome import Problem

router = Router(tags=["joints"])


class JointIn(Schema):
    """A joint by its id, in the document that it is being drawn in, and mixed resin in hand for it, g."""

    document: JobSpec
    joint_id: Annotated[str, Field(max_length=40)]
    resin_g: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)] | None = None


class JointOut(Schema):
    """Its figures without its pots, or what is missing; what the resin in hand becomes."""

    joint: JointResult | None
    problems: list[Problem]
    hand: FromResinResult | None


class StripsIn(Schema):
    """How many strips, over what radius at what angle."""

    count: Annotated[int, Field(ge=1, le=12)]
    radius_mm: Annotated[float, Field(ge=0, le=200, allow_inf_nan=False)]
    angle_deg: Annotated[float, Field(ge=5, le=180, allow_inf_nan=False)]


class StripsOut(Schema):
    widths_mm: list[float]


@router.post("/jobs/{uuid:job_id}/joint", response=JointOut)
def try_joint(request: HttpRequest, job_id: UUID, sent: JointIn):
    """One joint worked out by itself: at once, for what is being dragged. Nothing is saved."""
    job = job_of(request, job_id)
    if not any(joint.id == sent.joint_id for joint in sent.document.joints):
        raise Http404
    facts = facts_for(request.user, job.shop)
    return with_heat_at_hand(lambda heat_of: joint_alone(sent.document, facts, sent.joint_id, heat_of, sent.resin_g))


@router.post("/tabbing-widths", response=StripsOut)
def usual_widths(request: HttpRequest, sent: StripsIn):
    """The usual widths of so many strips over a fillet."""
    return {"widths_mm": staggered_widths_mm(sent.count, sent.radius_mm, sent.angle_deg)}
