"""How a person wants the screens, and the shop's facts in the units that person reads."""

from django.contrib.auth.models import AbstractBaseUser

from cradle.shops.models import Preferences, Shop
from layup.scales import UnitSet
from layup.shop_facts import ShopFacts


def preferences_of(person: AbstractBaseUser) -> Preferences:
    """A person's preferences; the defaults, not kept, until one is changed."""
    try:
        return person.preferences
    except Preferences.DoesNotExist:
        return Preferences(person=person)


def units_of(person: AbstractBaseUser) -> UnitSet:
    """The units that words are said in to a person; typed units stay the fields' own affair."""
    return "US" if preferences_of(person).units == Preferences.Units.US else "metric"


def facts_for(person: AbstractBaseUser, shop: Shop) -> ShopFacts:
    """The shop's facts, with words in the units of who reads them."""
    return shop.shop_facts(units_of(person))
