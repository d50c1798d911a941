"""The invented shop Saltmarsh Slip and its jobs. Nothing computes from these figures."""

from cradle.demo_jobs import buoy_lid, skiff
from cradle.jobs.saving import start_job
from cradle.shops.models import Membership, Shop
from layup.job import Conditions, ShopFacts

SHOP_NAME = "Saltmarsh Slip"
PERSON, PASSWORD = "wren", "tide-and-tar"


def load(person) -> Shop:
    """Make the demo shop, its person's membership and its jobs."""
    facts = ShopFacts(conditions=Conditions(room_c=19, surface_c=17.5, humidity_pct=62))
    shop = Shop.objects.create(
        name=SHOP_NAME, time_zone="Europe/London", currency="GBP", facts=facts.model_dump(mode="json")
    )
    Membership.objects.create(shop=shop, person=person)
    for spec in (buoy_lid(), skiff()):
        start_job(shop, spec, person)
    return shop
