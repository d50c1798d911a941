"""The room through today, and the good hours of the resins that the shop's jobs use."""

from zoneinfo import ZoneInfo

from cradle.jobs.floor import JobStrip
from cradle.jobs.models import Job
from cradle.shops.models import Reading, Shop
from layup.day.forecast import room_of_shop
from layup.day.hours import Moment, ResinHours, good_hours, room_through
from layup.day.shop_clock import ShopClock, at_hour
from layup.shop_facts import ShopFacts

MOST_RESINS = 4


def hour_of(shop: Shop, moment) -> float:
    """The hour of day of a moment by the shop's clock."""
    local = moment.astimezone(shop.now().tzinfo)
    return local.hour + local.minute / 60


def room_today(shop: Shop, facts: ShopFacts) -> tuple[Moment, ...]:
    """The room from midnight to midnight; a reading of an earlier day bends nothing."""
    read_today = shop.conditions_read_at.astimezone(shop.now().tzinfo).date() == shop.now().date()
    read_at_h = hour_of(shop, shop.conditions_read_at) if read_today else None
    if not facts.forecast:
        return room_through(facts.conditions, read_at_h, facts.day)
    zone = ZoneInfo(shop.time_zone)
    midnight = at_hour(shop.now().date(), 0, zone)
    room = room_of_shop(facts, ShopClock(midnight, zone, facts.opens_h, facts.closes_h, facts.scales.customs))
    return room_through(facts.conditions, read_at_h, facts.day, lambda hour: room.at_c(60 * hour))


def readings_today(shop: Shop) -> list[Reading]:
    midnight = shop.now().replace(hour=0, minute=0, second=0, microsecond=0)
    return list(shop.readings.filter(read_at__gte=midnight))


def good_hours_of(strips: list[JobStrip], moments: tuple[Moment, ...], facts: ShopFacts) -> list[ResinHours]:
    """The good hours of each resin the newest jobs use, as those jobs carry it."""
    using: dict[str, JobStrip] = {}
    for strip in strips:
        if strip.resin_id:
            using.setdefault(strip.resin_id, strip)
    found = []
    for strip in list(using.values())[:MOST_RESINS]:
        spec = Job.objects.get(pk=strip.id).latest().spec()
        resin = next(resin for resin in spec.materials.resins if resin.id == strip.resin_id)
        found.append(good_hours(resin, moments, strip.wanted_gel_min, facts.scales))
    return found
