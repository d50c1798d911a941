"""Routes of a shop's tablets: let in, listed, withdrawn; who works at one; one's short number."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

import segno
from django.conf import settings
from django.contrib.auth import login, logout
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema
from ninja.errors import HttpError

from cradle.devices.letting_in import (
    OPEN_FOR,
    let_in,
    make_code,
    open_code,
    set_number,
    want_numbers,
    withdraw,
    worker,
    workers_of,
)
from cradle.devices.limits import COOKIE, device_here
from cradle.devices.models import Device
from cradle.lan.standing import address_for_all
from cradle.sent import require_page
from cradle.shops.models import Shop
from cradle.shops.people import AT_TABLET, require_owner
from cradle.shops.routes import SessionOut, session_of, shop_of

router = Router(tags=["devices"])
Text = Annotated[str, Field(max_length=200)]
_KEPT_FOR_S = 365 * 24 * 3600


class DeviceIn(Schema):
    name: Annotated[str, Field(max_length=60)]


class DeviceOut(Schema):
    id: UUID
    name: str
    let_in_by: str
    let_in_at: datetime
    seen_at: datetime | None


class DevicesOut(Schema):
    """The tablets of a shop, and whether everybody says a short number at them."""

    numbers_wanted: bool
    devices: list[DeviceOut]


class WantedIn(Schema):
    wanted: bool


class CodeOut(Schema):
    """What the tablet scans: its address, which is shown once, as a picture too, and for how many minutes it is good."""

    address: str
    picture: str
    minutes: int


class CodeIn(Schema):
    code: Text


class ToBeOut(Schema):
    """What a tablet becomes by a code."""

    name: str
    shop: str
    by: str


class WorkerOut(Schema):
    person: str
    initials: str
    by_number: bool
    lacks_number: bool


class HereOut(Schema):
    """What this tablet is, where it was let in, and who may work at it."""

    name: str = ""
    shop: str = ""
    people: list[WorkerOut] = []


class WorkIn(Schema):
    person: Text
    number: Text = ""


class NumberIn(Schema):
    number: Text


class NumberOut(Schema):
    asked: bool


def _listed(shop: Shop) -> DevicesOut:
    devices = shop.devices.filter(withdrawn_at=None).select_related("let_in_by")
    told = [
        DeviceOut(
            id=device.pk,
            name=device.name,
            let_in_by=device.let_in_by.get_username(),
            let_in_at=device.let_in_at,
            seen_at=device.seen_at,
        )
        for device in devices
    ]
    return DevicesOut(numbers_wanted=shop.short_numbers, devices=told)


@router.get("/shops/{uuid:shop_id}/devices", response=DevicesOut)
def list_devices(request: HttpRequest, shop_id: UUID):
    """The tablets that are let in; for owners."""
    shop = shop_of(request, shop_id)
    require_owner(request.user, shop)
    return _listed(shop)


@router.post("/shops/{uuid:shop_id}/devices", response=CodeOut)
def show_code(request: HttpRequest, shop_id: UUID, sent: DeviceIn):
    """A code that lets a tablet in. It stands behind the # of an address, which no server and no log is told."""
    secret, _ = make_code(shop_of(request, shop_id), request.user, sent.name)
    address = f"{address_for_all(request)}/let-in#{secret}"
    picture = segno.make(address, micro=False).svg_data_uri(border=2, light="#fff", scale=8)
    return CodeOut(address=address, picture=picture, minutes=int(OPEN_FOR.total_seconds() // 60))


@router.put("/shops/{uuid:shop_id}/devices/numbers", response=DevicesOut)
def want_short_numbers(request: HttpRequest, shop_id: UUID, sent: WantedIn):
    """Whether everybody says a short number at the tablets of a shop; for owners."""
    want_numbers(shop_of(request, shop_id), request.user, sent.wanted)
    return _listed(shop_of(request, shop_id))


@router.delete("/devices/{uuid:device_id}", response=DevicesOut)
def withdraw_device(request: HttpRequest, device_id: UUID):
    """Let a tablet in no more."""
    mine = Device.objects.filter(shop__memberships__person=request.user, withdrawn_at=None)
    device = get_object_or_404(mine.select_related("shop"), pk=device_id)
    withdraw(device, request.user)
    return _listed(device.shop)


@router.post("/devices/code", auth=None, response=ToBeOut)
def look_at_code(request: HttpRequest, sent: CodeIn):
    """What the tablet that shows a code would become."""
    require_page(request)
    code = open_code(sent.code)
    return ToBeOut(name=code.name, shop=code.shop.name, by=code.made_by.get_username())


@router.post("/devices/let-in", auth=None, response=HereOut)
def let_device_in(request: HttpRequest, response: HttpResponse, sent: CodeIn):
    """Let this tablet in: it keeps what it shows at the door in a cookie that no script reads."""
    require_page(request)
    token, device = let_in(sent.code)
    logout(request)
    response.set_cookie(
        COOKIE, token, max_age=_KEPT_FOR_S, secure=settings.SESSION_COOKIE_SECURE, httponly=True, samesite="Lax"
    )
    return _here(device)


@router.get("/devices/here", auth=None, response=HereOut)
def read_here(request: HttpRequest):
    """What this tablet is, and who may work at it; nothing where it was not let in."""
    device = device_here(request)
    return _here(device) if device else HereOut()


def _here(device: Device) -> HereOut:
    people = [WorkerOut(**vars(each)) for each in workers_of(device.shop)]
    return HereOut(name=device.name, shop=device.shop.name, people=people)


@router.post("/devices/work", auth=None, response=SessionOut)
def begin_work(request: HttpRequest, sent: WorkIn):
    """Who works at this tablet from now on: for the bench, and nothing else."""
    require_page(request)
    device = device_here(request)
    if device is None:
        raise HttpError(403, "this tablet is let in no more: an owner lets it in again under People")
    login(request, worker(device, sent.person, sent.number, request.META["REMOTE_ADDR"]))
    request.session[AT_TABLET] = str(device.pk)
    return session_of(request)


@router.get("/session/number", response=NumberOut)
def read_number(request: HttpRequest):
    """Whether one is asked for a short number at tablets."""
    return NumberOut(asked=hasattr(request.user, "short_number"))


@router.put("/session/number", response=NumberOut)
def write_number(request: HttpRequest, sent: NumberIn):
    """Be asked for a short number at tablets; an empty one is asked for no more."""
    set_number(request.user, sent.number)
    return NumberOut(asked=bool(sent.number))
