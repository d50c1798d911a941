"""The first minute of a new program: who opens it first becomes the owner of its first shop."""

import secrets
from dataclasses import dataclass
from functools import cache
from typing import Literal

from babel.numbers import get_territory_currencies
from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone

from cradle.shops.models import Membership, Preferences, Shop
from cradle.shops.people import Forbidden, new_person
from layup.customs import locales
from layup.units import FluidOunce

# Said by the terminal of the server, and good while it runs: who has it stands before the machine.
KEY = secrets.token_hex(4)
_HERE = {"127.0.0.1", "::1"}
_IN_US_UNITS = {"US", "LR", "MM"}
_IMPERIAL_OUNCES = {"GB", "IE"}
UnitsOfShop = Literal["metric", "US"]


@dataclass(frozen=True)
class Country:
    """A country with what is usual there: its money, its units, its fluid ounce."""

    locale: str
    currency: str
    units: UnitsOfShop
    fluid_ounce: FluidOunce


@cache
def countries() -> tuple[Country, ...]:
    """Those whose way of writing numbers is known."""
    return tuple(_country(locale) for locale in locales())


def _country(locale: str) -> Country:
    land = locale[3:]
    money = get_territory_currencies(land, timezone.now().date())
    return Country(
        locale=locale,
        currency=money[-1] if money else "EUR",
        units="US" if land in _IN_US_UNITS else "metric",
        fluid_ounce="imperial" if land in _IMPERIAL_OUNCES else "us",
    )


def nobody_yet() -> bool:
    """Whether the program has no account at all."""
    return not User.objects.exists()


def said_at_the_terminal() -> str:
    """What the server's terminal says while nobody belongs here; else nothing."""
    if not nobody_yet():
        return ""
    return f"Nobody belongs here yet: who opens it first makes it his. From another machine he types  {KEY}"


def asks_key(request: HttpRequest) -> bool:
    """Whether who asks must show that he sees the server's terminal: he comes from another machine, or by a proxy."""
    return request.META["REMOTE_ADDR"] not in _HERE or settings.HTTPS or bool(settings.PROXIES)


@transaction.atomic
def begin_shop(
    name: str, person: str, password: str, *, locale: str, units: UnitsOfShop, time_zone: str, currency: str
) -> tuple[User, Shop]:
    """The first account, as the owner of the first shop, where nobody has read the room yet.

    Raises Forbidden where somebody was first.
    """
    if not nobody_yet():
        raise Forbidden("this program has an owner already: sign in, or ask an owner for a link that lets you in")
    owner = new_person(person, password)
    country = next((each for each in countries() if each.locale == locale), None)
    facts = {
        "locale": locale,
        "room_read": False,
        "fabric_unit": "oz" if units == "US" else "g/m²",
        "fluid_ounce": country.fluid_ounce if country else "us",
    }
    shop = Shop(name=name, time_zone=time_zone, currency=currency)
    shop.facts |= facts
    shop.save()
    Membership.objects.create(shop=shop, person=owner)
    Preferences.objects.create(person=owner, units="US" if units == "US" else "metric")
    return owner, shop
