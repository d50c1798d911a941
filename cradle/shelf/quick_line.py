"""The quick line, read against what is at hand: the job's own fabrics, the shop's shelf, the generic library."""

from typing import Annotated, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Schema

from cradle.shelf.keeping import fabrics_at_hand
from cradle.shops.routes import Text, shop_of
from layup.job import Coat
from layup.materials import Fabric
from layup.notation import QuickPly, format_line, parse_line

router = Router(tags=["shelf"])


class QuickLineIn(Schema):
    text: Annotated[str, Field(max_length=4000)]
    fabrics: Annotated[list[Fabric], Field(max_length=100)] = []
    strips: Annotated[list[Text], Field(max_length=30)] = []


class QuickPlyOut(Schema):
    fabric: Fabric | None = None
    coat: Coat | None = None
    angle: str
    extra_mm: float
    fibre_weight_fraction: float | None
    strip: Text = ""


class QuickProblemOut(Schema):
    start: int
    end: int
    message: str
    offers: list[str]


class QuickLineOut(Schema):
    plies: list[QuickPlyOut]
    problems: list[QuickProblemOut]
    notes: list[str]
    written: str


class StackIn(Schema):
    plies: Annotated[list[QuickPlyOut], Field(max_length=500)]


@router.post("/shops/{uuid:shop_id}/quick-line", response=QuickLineOut)
def read_quick_line(request: HttpRequest, shop_id: UUID, sent: QuickLineIn):
    shop = shop_of(request, shop_id)
    fabrics = (*sent.fabrics, *fabrics_at_hand(shop))
    line = parse_line(sent.text, fabrics, fabric_unit=shop.shop_facts().fabric_unit, strips=sent.strips)
    return {"plies": line.plies, "problems": line.problems, "notes": line.notes, "written": format_line(line.plies)}


@router.post("/quick-line/written", response=dict[Literal["written"], str])
def write_quick_line(request: HttpRequest, sent: StackIn):
    plies = [QuickPly(**dict(ply)) for ply in sent.plies if ply.fabric or ply.coat]
    return {"written": format_line(plies)}
