"""What a shop does with its day: keep a reading of the room, say what is expected of it."""

from collections.abc import Sequence
from zoneinfo import ZoneInfo

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from cradle.shops.models import Reading, Shop
from layup.day.forecast import read_forecast
from layup.day.simulated_forecast import simulated_forecast
from layup.job import Conditions
from layup.shop_facts import ForecastHour, RoomDay


@transaction.atomic
def keep_reading(shop: Shop, conditions: Conditions, person: AbstractBaseUser) -> Shop:
    """Make a reading the shop's conditions from now on, and keep it."""
    shop = locked(shop)
    shop.facts = shop.facts | {"conditions": conditions.model_dump(mode="json"), "room_read": True}
    shop.conditions_read_at = timezone.now()
    shop.save(update_fields=["facts", "conditions_read_at"])
    Reading.objects.create(shop=shop, read_at=shop.conditions_read_at, read_by=person, **conditions.model_dump())
    return shop


def expect(shop: Shop, day: RoomDay) -> Shop:
    """Say what is expected of the room today."""
    shop.expected = day.model_dump() | {"date": shop.now().date().isoformat()}
    shop.save(update_fields=["expected"])
    return shop


def locked(shop: Shop) -> Shop:
    """The shop as it stands now, for a change of its facts: inside a transaction, so that no other change is lost."""
    return Shop.objects.select_for_update().get(pk=shop.pk)


SIMULATED = "simulated"


def forecast_from_table(shop: Shop, raw: bytes) -> Shop:
    """Take a table of hours and temperatures for the shop's forecast."""
    zone = ZoneInfo(shop.time_zone)
    return _keep_forecast(shop, read_forecast(raw, zone, shop.now()), "a file")


def simulate_forecast(shop: Shop) -> Shop:
    """Take the seven made-up days that ship with the program, from today on."""
    return _keep_forecast(shop, simulated_forecast(shop.now().date(), ZoneInfo(shop.time_zone)), SIMULATED)


def drop_forecast(shop: Shop) -> Shop:
    """Go by the day's range, or by the reading, again."""
    return _keep_forecast(shop, (), "")


def _keep_forecast(shop: Shop, hours: Sequence[ForecastHour], where_from: str) -> Shop:
    shop.forecast = [hour.model_dump(mode="json") for hour in hours]
    shop.forecast_from = where_from
    shop.save(update_fields=["forecast", "forecast_from"])
    return shop
