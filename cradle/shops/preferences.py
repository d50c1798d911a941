"""How a person wants the screens, and the shop's facts in the units that person reads."""

from django.contrib.auth.models import AbstractBaseUser

from cradle.shops.models import Preferences, Shop
from layup.shop_facts import ShopFacts


def preferences_of(person: AbstractBaseUser) -> Preferences:
    """A person's preferences; the defaults, not kept, until one is changed."""
    try:
        return person.preferences
    except Preferences.DoesNotExist:
        return Preferences(person=person)


def facts_for(person: AbstractBaseUser, shop: Shop) -> ShopFacts:
    """The shop's facts, with words in US units for those who read them; typed units stay the fields' own affair."""
    units = preferences_of(person).units
    return shop.shop_facts("US" if units == Preferences.Units.US else "metric")
