"""What plans take from a shop: read once, and kept while nothing of it has changed."""

import json
from collections import OrderedDict
from datetime import date
from threading import Lock
from typing import TYPE_CHECKING
from zoneinfo import ZoneInfo

from django.db import connection

from layup.bench_tools import measured_with
from layup.errors import LayupError
from layup.library import generic
from layup.materials import Material
from layup.scales import UnitSet
from layup.shelf import Library, ProductKind
from layup.shop_facts import ForecastHour, Learner, RoomDay, ScaleChecked, ShopFacts, TinFact
from layup.stock.articles import Article, articles_of
from layup.stock.lots import Lot
from layup.stock.tins import next_tin

if TYPE_CHECKING:
    from cradle.shops.models import Shop

MOST_GELS_LEARNT = 200
MOST_STIRRED_LEARNT = 200
MOST_SHOTS_LEARNT = 200
_MOST_KEPT = 40

_kept: OrderedDict[tuple, ShopFacts] = OrderedDict()
_lock = Lock()
# Rows of the log are added or deleted, each of its own tap, and left out or taken in; a product has its revision.
_STANDING = """
SELECT
  (SELECT count(*) FROM shops_gel WHERE shop_id = %(shop)s),
  (SELECT tap_id FROM shops_gel WHERE shop_id = %(shop)s ORDER BY id DESC LIMIT 1),
  (SELECT count(*) FROM shops_stirred WHERE shop_id = %(shop)s),
  (SELECT tap_id FROM shops_stirred WHERE shop_id = %(shop)s ORDER BY id DESC LIMIT 1),
  (SELECT count(*) FROM shops_shot WHERE shop_id = %(shop)s),
  (SELECT max(id) FROM shops_shot WHERE shop_id = %(shop)s),
  (SELECT group_concat(id) FROM shops_gel WHERE shop_id = %(shop)s AND left_out != ''),
  (SELECT group_concat(id) FROM shops_stirred WHERE shop_id = %(shop)s AND left_out != ''),
  (SELECT group_concat(id) FROM shops_shot WHERE shop_id = %(shop)s AND left_out != ''),
  (SELECT group_concat(id || ' ' || number || ' ' || (retired_at IS NULL)) FROM shelf_product
    WHERE shop_id = %(shop)s AND kind IN ('vessel', 'tool')),
  (SELECT max(scale.id) FROM instruments_scalecheck scale
    JOIN instruments_instrument instrument ON instrument.id = scale.instrument_id
    JOIN instruments_place place ON place.id = instrument.place_id WHERE place.shop_id = %(shop)s),
  (SELECT group_concat(id || ' ' || (left > 0) || ' ' || coalesce(made, '') || ' ' || coalesce(opened, '') || ' '
      || coalesce(expires, '') || ' ' || coalesce(trial_on, '') || ' ' || coalesce(stored_c, '') || conditions || bad || name || batch)
    FROM stock_lot WHERE shop_id = %(shop)s AND article_kind IN ('resin', 'hardener', 'catalyst')),
  (SELECT group_concat(id || ' ' || number || ' ' || (retired_at IS NULL)) FROM shelf_product
    WHERE shop_id = %(shop)s AND kind = 'resin'),
  (SELECT group_concat(person_id) FROM shops_membership WHERE shop_id = %(shop)s AND learns),
  (SELECT group_concat(id) FROM training_signoff WHERE shop_id = %(shop)s),
  (SELECT max(event.id) FROM bench_event event
    JOIN shops_membership member ON member.person_id = event.by_id AND member.learns AND member.shop_id = %(shop)s
    WHERE event.kind IN ('used up', 'gelled', 'dumped', 'taken back'))
"""


def facts_of(shop: "Shop", units: UnitSet) -> ShopFacts:
    """The shop's facts today, with the units that words are wanted in."""
    today = shop.now().date()
    own = json.dumps((shop.facts, shop.expected, shop.forecast))
    with connection.cursor() as cursor:
        standing = cursor.execute(_STANDING, {"shop": shop.pk.hex}).fetchone()
    key = shop.pk, units, shop.time_zone, shop.conditions_read_at, today, own, standing
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
            return _kept[key]
    facts = _read(shop, units, today)
    with _lock:
        _kept[key] = facts
        while len(_kept) > _MOST_KEPT:
            _kept.popitem(last=False)
    return facts


def _read(shop: "Shop", units: UnitSet, today: date) -> ShopFacts:
    gels = tuple(
        gel.fact() for gel in reversed(shop.gels.filter(left_out="").order_by("-gelled_at", "-id")[:MOST_GELS_LEARNT])
    )
    forecast = tuple(ForecastHour.model_validate(hour) for hour in shop.forecast)
    facts = ShopFacts.model_validate(shop.facts)
    now = _measured(shop, facts) | {
        "day": _day_of(forecast, ZoneInfo(shop.time_zone), today) or shop.room_day(),
        "today": today,
        "time_zone": shop.time_zone,
        "forecast": forecast,
        "read_at": shop.conditions_read_at,
        "units": units,
        "gels": gels,
        "scale_checked": _scale_checked(shop),
        "vessels": tuple(product.material() for product in shop.products.filter(kind="vessel", retired_at=None)),
        "shots": tuple(
            shot.fact() for shot in shop.shots.filter(left_out="").order_by("-seen_at", "-id")[:MOST_SHOTS_LEARNT]
        ),
        "tins": _tins(shop, today),
        "learners": _learners(shop),
        "stirred": tuple(
            pot.fact() for pot in shop.stirred.filter(left_out="").order_by("-stirred_at", "-id")[:MOST_STIRRED_LEARNT]
        ),
    }
    return facts.model_copy(update=now)


def _learners(shop: "Shop") -> tuple[Learner, ...]:
    # A learner's record is read out of runs, which hold a shop's facts themselves.
    from cradle.training.standing import learners_of

    return learners_of(shop)


def _tins(shop: "Shop", today: date) -> tuple[TinFact, ...]:
    """The tin of each thing that is mixed which is taken next, as plans ask for it."""
    lots: dict[Article, list[Lot]] = {}
    for lot in shop.lots.filter(article_kind__in=("resin", "hardener", "catalyst"), left__gt=0, bad=""):
        lots.setdefault(lot.article, []).append(lot.fact())
    if not lots:
        return ()
    resins: list[Material] = [product.material() for product in shop.products.filter(kind="resin")]
    told = articles_of(generic().after({"resin": resins}))
    found = (
        next_tin(article, of_article, told[article.key].keeps if article.key in told else None, today)
        for article, of_article in lots.items()
    )
    return tuple(sorted((tin for tin in found if tin), key=lambda tin: tin.article))


def _scale_checked(shop: "Shop") -> ScaleChecked | None:
    """What a scale of the shop last showed of a known weight."""
    check = "instruments__checks__"
    checks = shop.places.filter(instruments__checks__isnull=False).order_by(f"-{check}id")
    last = checks.values_list(f"{check}at", f"{check}known_g", f"{check}shown_g").first()
    if last is None:
        return None
    return ScaleChecked(on=last[0].astimezone(ZoneInfo(shop.time_zone)).date(), known_g=last[1], shown_g=last[2])


def _measured(shop: "Shop", facts: ShopFacts) -> dict[str, object]:
    """How the bench's tools are read today. One that was corrected so that it can measure no more is read as it was chosen."""
    try:
        return measured_with(facts.tools, measuring_library(shop))
    except LayupError:
        return {}


def measuring_library(shop: "Shop") -> Library:
    """What may measure at the shop's bench; also what was taken off its shelf since it was chosen."""
    own: dict[ProductKind, list[Material]] = {}
    for product in shop.products.filter(kind__in=("vessel", "tool")):
        own.setdefault(product.kind, []).append(product.material())
    return generic().after(own)


def _day_of(forecast: tuple[ForecastHour, ...], zone: ZoneInfo, today: date) -> RoomDay | None:
    """The coldest and the warmest of a day by a forecast; None where it does not have that day."""
    rooms = [hour.room_c for hour in forecast if hour.at.astimezone(zone).date() == today]
    return RoomDay(coldest_c=min(rooms), warmest_c=max(rooms)) if rooms else None
