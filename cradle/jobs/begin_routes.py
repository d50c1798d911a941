"""Routes of the first minute: the first account with its shop, and a job to look at."""

import secrets
from typing import Annotated
from zoneinfo import available_timezones

from django.contrib.auth import login
from django.db import transaction
from django.http import HttpRequest
from ninja import Field, Router, Schema

from cradle.demo_jobs import locker_lid
from cradle.jobs.saving import start_job
from cradle.sent import require_page
from cradle.shops.beginning import KEY, UnitsOfShop, asks_key, begin_shop, countries, nobody_yet
from cradle.shops.people import Forbidden
from cradle.shops.routes import SessionOut, Text, session_of
from layup.customs import LocaleName
from layup.errors import OutOfRange
from layup.job import Conditions, JobSpec
from layup.units import FluidOunce

router = Router(tags=["begin"])


def _sample() -> JobSpec:
    """Every step of it filled in, and a temperature of its own: nobody has read the room yet."""
    own = Conditions(room_c=19, surface_c=18, humidity_pct=60)
    return locker_lid().model_copy(update={"name": "A sample: a locker lid, patched", "conditions": own})


class CountryOut(Schema):
    locale: str
    currency: str
    units: UnitsOfShop
    fluid_ounce: FluidOunce


class BeginOut(Schema):
    """Whether nobody belongs here yet, and what the first is asked. `asks_key` where he must see the server's terminal."""

    open: bool
    asks_key: bool
    countries: list[CountryOut]


class BeginIn(Schema):
    person: Text
    password: Text
    shop: Annotated[str, Field(min_length=1, max_length=80)]
    locale: LocaleName = ""
    units: UnitsOfShop = "metric"
    time_zone: Annotated[str, Field(max_length=50)] = "UTC"
    currency: Annotated[str, Field(pattern=r"^[A-Z]{3}$")] = "EUR"
    key: Text = ""


@router.get("/begin", auth=None, response=BeginOut)
def read_begin(request: HttpRequest):
    is_open = nobody_yet()
    return BeginOut(
        open=is_open,
        asks_key=asks_key(request),
        countries=[CountryOut.model_validate(each, from_attributes=True) for each in countries()] if is_open else [],
    )


@router.post("/begin", auth=None, response=SessionOut)
def begin(request: HttpRequest, sent: BeginIn):
    """The first account, which owns its shop, with a job in it to look at."""
    require_page(request)
    if asks_key(request) and not secrets.compare_digest(sent.key.strip().lower(), KEY):
        raise Forbidden("that is not what the terminal of the server shows: look there", "key")
    if sent.time_zone not in available_timezones():
        raise OutOfRange("is no time zone: take one of the list, such as Europe/London", "time_zone")
    with transaction.atomic():
        owner, shop = begin_shop(
            sent.shop,
            sent.person,
            sent.password,
            locale=sent.locale,
            units=sent.units,
            time_zone=sent.time_zone,
            currency=sent.currency,
        )
        sample = start_job(shop, _sample(), owner)
        sample.job.is_sample = True
        sample.job.save(update_fields=["is_sample"])
    login(request, owner, backend="django.contrib.auth.backends.ModelBackend")
    return session_of(request)
