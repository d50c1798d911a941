"""What a shop does with its day: keep a reading of the room, say what is expected of it."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from cradle.shops.models import Reading, Shop
from layup.job import Conditions, RoomDay


@transaction.atomic
def keep_reading(shop: Shop, conditions: Conditions, person: AbstractBaseUser) -> Shop:
    """Make a reading the shop's conditions from now on, and keep it."""
    shop.facts = shop.facts | {"conditions": conditions.model_dump(mode="json")}
    shop.conditions_read_at = timezone.now()
    shop.save(update_fields=["facts", "conditions_read_at"])
    Reading.objects.create(shop=shop, read_at=shop.conditions_read_at, read_by=person, **conditions.model_dump())
    return shop


def expect(shop: Shop, day: RoomDay) -> Shop:
    """Say what is expected of the room today."""
    shop.expected = day.model_dump() | {"date": shop.now().date().isoformat()}
    shop.save(update_fields=["expected"])
    return shop
