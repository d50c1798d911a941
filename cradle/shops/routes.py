"""Routes of the people and their shops: signing in, the day's conditions, typed words read against the shelf."""

from typing import Annotated, Literal
from uuid import UUID

from django.contrib.auth import login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Field, Router, Schema
from ninja.errors import HttpError
from ninja.utils import check_csrf

from cradle.shops.models import Shop
from cradle.shops.people import require_writer, sign_in_person
from layup.job import Conditions, ShopFacts
from layup.library import generic
from layup.materials import Fabric, Library
from layup.notation import QuickPly, format_line, parse_line
from layup.units import Dimension, parse

router = Router(tags=["shops"])
Text = Annotated[str, Field(max_length=200)]


class ShopName(Schema):
    id: UUID
    name: str


class SessionOut(Schema):
    signed_in: bool
    person: str = ""
    shops: list[ShopName] = []


class SignIn(Schema):
    person: Text
    password: Text


class ShopOut(Schema):
    id: UUID
    name: str
    time_zone: str
    currency: str
    facts: ShopFacts
    conditions_read_at: str


class QuantityIn(Schema):
    text: Text
    dimension: Dimension
    default_unit: Annotated[str, Field(max_length=20)] | None = None


class QuantityOut(Schema):
    value: float
    unit: str
    understood: str


class QuickLineIn(Schema):
    text: Annotated[str, Field(max_length=4000)]
    fabrics: Annotated[list[Fabric], Field(max_length=100)] = []


class QuickPlyOut(Schema):
    fabric: Fabric
    angle: str
    extra_mm: float
    fibre_weight_fraction: float | None


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


def shop_of(request: HttpRequest, shop_id: UUID, *, to_write: bool = False) -> Shop:
    """A shop the signed-in person belongs to, or 404. Raises Forbidden where it is to be changed and he may only look."""
    shop = get_object_or_404(Shop.objects.of(request.user), pk=shop_id)
    if to_write:
        require_writer(request.user, shop)
    return shop


def session_of(request: HttpRequest) -> SessionOut:
    get_token(request)
    if not request.user.is_authenticated:
        return SessionOut(signed_in=False)
    shops = [ShopName(id=shop.pk, name=shop.name) for shop in Shop.objects.of(request.user).order_by("name")]
    return SessionOut(signed_in=True, person=request.user.get_username(), shops=shops)


@router.get("/session", auth=None, response=SessionOut)
def read_session(request: HttpRequest):
    return session_of(request)


@router.post("/session", auth=None, response=SessionOut)
def sign_in(request: HttpRequest, sent: SignIn):
    if check_csrf(request):
        raise HttpError(403, "the page is out of date: load it again")
    login(request, sign_in_person(sent.person, sent.password, request.META["REMOTE_ADDR"]))
    return session_of(request)


@router.delete("/session", response=SessionOut)
def sign_out(request: HttpRequest):
    logout(request)
    return session_of(request)


@router.get("/library", response=Library)
def read_library(request: HttpRequest):
    return generic()


def _shop_out(shop: Shop) -> ShopOut:
    return ShopOut(
        id=shop.pk,
        name=shop.name,
        time_zone=shop.time_zone,
        currency=shop.currency,
        facts=shop.shop_facts(),
        conditions_read_at=shop.conditions_read_at.isoformat(),
    )


@router.get("/shops/{uuid:shop_id}", response=ShopOut)
def read_shop(request: HttpRequest, shop_id: UUID):
    return _shop_out(shop_of(request, shop_id))


@router.put("/shops/{uuid:shop_id}/conditions", response=ShopOut)
def set_conditions(request: HttpRequest, shop_id: UUID, sent: Conditions):
    shop = shop_of(request, shop_id, to_write=True)
    shop.facts = shop.shop_facts().model_copy(update={"conditions": sent}).model_dump(mode="json")
    shop.conditions_read_at = timezone.now()
    shop.save(update_fields=["facts", "conditions_read_at"])
    return _shop_out(shop)


@router.post("/shops/{uuid:shop_id}/quantities", response=QuantityOut)
def read_quantity(request: HttpRequest, shop_id: UUID, sent: QuantityIn):
    facts = shop_of(request, shop_id).shop_facts()
    reading = parse(
        sent.text,
        sent.dimension,
        default_unit=sent.default_unit,
        fluid_ounce=facts.fluid_ounce,
        thousands_comma=facts.thousands_comma,
    )
    return QuantityOut(value=reading.value, unit=reading.unit, understood=reading.understood)


@router.post("/shops/{uuid:shop_id}/quick-line", response=QuickLineOut)
def read_quick_line(request: HttpRequest, shop_id: UUID, sent: QuickLineIn):
    facts = shop_of(request, shop_id).shop_facts()
    line = parse_line(sent.text, (*sent.fabrics, *generic().fabrics), fabric_unit=facts.fabric_unit)
    return {"plies": line.plies, "problems": line.problems, "notes": line.notes, "written": format_line(line.plies)}


@router.post("/quick-line/written", response=dict[Literal["written"], str])
def write_quick_line(request: HttpRequest, sent: StackIn):
    plies = [QuickPly(ply.fabric, ply.angle, ply.extra_mm, ply.fibre_weight_fraction) for ply in sent.plies]
    return {"written": format_line(plies)}
