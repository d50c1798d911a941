"""Routes of the shops: signing in, a shop's settings and its day, typed quantities."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID
from zoneinfo import ZoneInfo, available_timezones

from django.contrib.auth import login, logout
from django.db import transaction
from django.http import HttpRequest
from django.middleware.csrf import get_token
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema

from cradle.sent import require_page, sent_file
from cradle.shops.beginning import nobody_yet
from cradle.shops.day import drop_forecast, expect, forecast_from_table, keep_reading, locked, simulate_forecast
from cradle.shops.facts import measuring_library
from cradle.shops.models import Preferences, Role, Shop
from cradle.shops.people import AT_TABLET, require_writer, sign_in_person
from cradle.shops.preferences import preferences_of
from layup.bench_tools import BenchTools, measured_with
from layup.chemistry.ratio import parse_ratio
from layup.customs import LocaleName, locales
from layup.day.typed_moment import read_moment
from layup.errors import Missing, OutOfRange
from layup.job import Conditions, Practice
from layup.marks import RESIDUE_ML, DoseTool
from layup.practice import PracticeChoice, practice_choices
from layup.scales import FabricUnit, FieldUnit, Quantity, Rung, Scales
from layup.shop_facts import RoomDay, ShopFacts
from layup.units import CORE_UNIT, UNITS_OF, Dimension, FluidOunce, convert, parse

router = Router(tags=["shops"])
Text = Annotated[str, Field(max_length=200)]


class ShopName(Schema):
    """A shop of the person's, and what he may do in it."""

    id: UUID
    name: str
    role: Role


HintName = Literal["scrub", "quick line", "working"]


class PreferencesOut(Schema):
    units: Preferences.Units = Preferences.Units.AS_TYPED
    look: Preferences.Look = Preferences.Look.DEVICE
    single_keys: bool = True
    hints_closed: list[HintName] = []


class SessionOut(Schema):
    signed_in: bool
    # Nobody belongs to this program yet: who opens it first begins it.
    nobody_yet: bool = False
    person: str = ""
    shops: list[ShopName] = []
    preferences: PreferencesOut = PreferencesOut()
    # Signed in at a tablet of the bench, for the bench alone.
    at_tablet: bool = False


class SignIn(Schema):
    person: Text
    password: Text


class UnitSetOut(Schema):
    """The unit, factor and digits of every quantity, from the smallest value up, and the unit of each kind of field."""

    quantities: dict[Quantity, list[Rung]]
    fields: dict[Dimension, FieldUnit]


class ScaleTables(Schema):
    metric: UnitSetOut
    us: UnitSetOut


class ShopOut(Schema):
    id: UUID
    name: str
    time_zone: str
    currency: str
    facts: ShopFacts
    scales: ScaleTables
    locales: tuple[str, ...]
    conditions_read_at: datetime
    forecast_from: str


class SettingsIn(Schema):
    """What a shop says about itself, its units and its tools."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    time_zone: Annotated[str, Field(max_length=50)]
    currency: Annotated[str, Field(pattern=r"^[A-Z]{3}$")]
    fabric_unit: FabricUnit
    fluid_ounce: FluidOunce
    locale: LocaleName = ""
    tools: BenchTools = BenchTools()
    dose_tool: DoseTool
    residue_ml: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = RESIDUE_ML
    above_sea_m: Annotated[float, Field(ge=-450, le=5500, allow_inf_nan=False)] = 0
    scoop_ml: Annotated[float, Field(ge=1, le=5000, allow_inf_nan=False)] = 250
    learner: bool
    opens_h: Annotated[float, Field(ge=0, lt=24, allow_inf_nan=False)] = 8
    closes_h: Annotated[float, Field(gt=0, le=24, allow_inf_nan=False)] = 18
    practice: Practice = Practice()


class QuantityIn(Schema):
    """Typed words. A bare number is in `default_unit`; the answer is wanted in `unit`, the core's own if left out.

    A ratio is answered as B for one of A, and named in its order.
    """

    text: Text
    dimension: Dimension | Literal["ratio"]
    default_unit: Annotated[str, Field(max_length=20)] | None = None
    unit: Annotated[str, Field(max_length=20)] | None = None


class QuantityOut(Schema):
    value: float
    unit: str
    understood: str


class TypedMomentIn(Schema):
    """Typed words of a day and an hour; an hour alone is the next of its kind, or the last one where it is `past`."""

    text: Text
    past: bool = False


class TypedMomentOut(Schema):
    at: datetime
    understood: str


def shop_of(request: HttpRequest, shop_id: UUID, *, to_write: bool = False) -> Shop:
    """A shop the signed-in person belongs to, or 404. Raises Forbidden where it is to be changed and he may only look."""
    shop = get_object_or_404(Shop.objects.of(request.user), pk=shop_id)
    if to_write:
        require_writer(request.user, shop)
    return shop


def session_of(request: HttpRequest) -> SessionOut:
    get_token(request)
    if not request.user.is_authenticated:
        return SessionOut(signed_in=False, nobody_yet=nobody_yet())
    memberships = request.user.memberships.select_related("shop").order_by("shop__name")
    shops = [ShopName(id=member.shop.pk, name=member.shop.name, role=member.role) for member in memberships]
    preferences = PreferencesOut.model_validate(preferences_of(request.user), from_attributes=True)
    return SessionOut(
        signed_in=True,
        person=request.user.get_username(),
        shops=shops,
        preferences=preferences,
        at_tablet=AT_TABLET in request.session,
    )


@router.get("/session", auth=None, response=SessionOut)
def read_session(request: HttpRequest):
    return session_of(request)


@router.post("/session", auth=None, response=SessionOut)
def sign_in(request: HttpRequest, sent: SignIn):
    require_page(request)
    login(request, sign_in_person(sent.person, sent.password, request.META["REMOTE_ADDR"]))
    # Who gave his password is no longer limited to what a tablet may.
    request.session.pop(AT_TABLET, None)
    return session_of(request)


@router.delete("/session", response=SessionOut)
def sign_out(request: HttpRequest):
    logout(request)
    return session_of(request)


@router.put("/session/preferences", response=SessionOut)
def set_preferences(request: HttpRequest, sent: PreferencesOut):
    Preferences.objects.update_or_create(person=request.user, defaults=sent.model_dump())
    return session_of(request)


@router.get("/practice", response=list[PracticeChoice])
def list_practice(request: HttpRequest):
    """The choices on which schools differ, with the reasons of each."""
    return practice_choices()


def _shop_out(shop: Shop) -> ShopOut:
    facts = shop.shop_facts()
    sets = {name: Scales(unit_set, facts.fluid_ounce, facts.fabric_unit) for name, unit_set in _SETS.items()}
    return ShopOut(
        id=shop.pk,
        name=shop.name,
        time_zone=shop.time_zone,
        currency=shop.currency,
        facts=facts,
        scales=ScaleTables(
            **{name: UnitSetOut(quantities=scales.table(), fields=scales.fields()) for name, scales in sets.items()}
        ),
        locales=locales(),
        conditions_read_at=shop.conditions_read_at,
        forecast_from=shop.forecast_from,
    )


_SETS = {"metric": "metric", "us": "US"}


@router.get("/shops/{uuid:shop_id}", response=ShopOut)
def read_shop(request: HttpRequest, shop_id: UUID):
    return _shop_out(shop_of(request, shop_id))


@router.put("/shops/{uuid:shop_id}/settings", response=ShopOut)
def set_settings(request: HttpRequest, shop_id: UUID, sent: SettingsIn):
    shop = shop_of(request, shop_id, to_write=True)
    if sent.time_zone not in available_timezones():
        raise OutOfRange("is no time zone: take one of the list, such as Europe/London", "time_zone")
    facts = sent.model_dump(mode="json", exclude={"name", "time_zone", "currency"})
    facts |= measured_with(sent.tools, measuring_library(shop))
    if sent.dose_tool == "drops" and facts["drops_per_ml"] is None:
        raise Missing("choose a dropper whose drops are counted, and write them on the shelf", "tools.dropper_id")
    with transaction.atomic():
        shop = locked(shop)
        shop.name, shop.time_zone, shop.currency = sent.name, sent.time_zone, sent.currency
        shop.facts = ShopFacts.model_validate(shop.facts | facts).model_dump(mode="json")
        shop.save(update_fields=["name", "time_zone", "currency", "facts"])
    return _shop_out(shop)


@router.put("/shops/{uuid:shop_id}/conditions", response=ShopOut)
def set_conditions(request: HttpRequest, shop_id: UUID, sent: Conditions):
    """A reading of the room: the shop's day from now on, and a point on its curve."""
    shop = shop_of(request, shop_id, to_write=True)
    if "room_c" not in sent.model_fields_set and not shop.shop_facts().room_read:
        raise Missing("read the thermometer first: nobody has said how warm the room is", "room_c")
    return _shop_out(keep_reading(shop, sent, request.user))


@router.put("/shops/{uuid:shop_id}/expected", response=ShopOut)
def set_expected(request: HttpRequest, shop_id: UUID, sent: RoomDay):
    """The coldest and the warmest expected of the room today."""
    return _shop_out(expect(shop_of(request, shop_id, to_write=True), sent))


@router.post("/shops/{uuid:shop_id}/forecast", response=ShopOut)
def set_forecast(request: HttpRequest, shop_id: UUID):
    """The room hour by hour, as a table of hour and temperature sent as the body."""
    return _shop_out(forecast_from_table(shop_of(request, shop_id, to_write=True), sent_file(request)))


@router.post("/shops/{uuid:shop_id}/forecast/simulated", response=ShopOut)
def set_simulated_forecast(request: HttpRequest, shop_id: UUID):
    """The made-up week that ships with the program."""
    return _shop_out(simulate_forecast(shop_of(request, shop_id, to_write=True)))


@router.delete("/shops/{uuid:shop_id}/forecast", response=ShopOut)
def remove_forecast(request: HttpRequest, shop_id: UUID):
    return _shop_out(drop_forecast(shop_of(request, shop_id, to_write=True)))


@router.post("/shops/{uuid:shop_id}/quantities", response=QuantityOut)
def read_quantity(request: HttpRequest, shop_id: UUID, sent: QuantityIn):
    facts = shop_of(request, shop_id).shop_facts()
    if sent.dimension == "ratio":
        ratio = parse_ratio(sent.text)
        return QuantityOut(value=ratio.b_per_a, unit="", understood=f"{sent.text.strip()} = {ratio.words}")
    reading = parse(
        sent.text,
        sent.dimension,
        default_unit=sent.default_unit,
        fluid_ounce=facts.fluid_ounce,
        customs=facts.scales.customs,
    )
    unit = sent.unit or CORE_UNIT[sent.dimension]
    if unit not in UNITS_OF[sent.dimension]:
        raise OutOfRange(f"must be one of {', '.join(UNITS_OF[sent.dimension])}", "unit")
    return QuantityOut(value=convert(reading.value, reading.unit, unit), unit=unit, understood=reading.understood)


@router.post("/shops/{uuid:shop_id}/moments", response=TypedMomentOut)
def read_typed_moment(request: HttpRequest, shop_id: UUID, sent: TypedMomentIn):
    """A moment of the shop's clock, as somebody types it."""
    shop = shop_of(request, shop_id)
    facts, zone = shop.shop_facts(), ZoneInfo(shop.time_zone)
    at = read_moment(sent.text, shop.now(), zone, facts.scales.customs, opens_h=facts.opens_h, past=sent.past)
    return TypedMomentOut(at=at, understood=facts.scales.customs.moment(at))
