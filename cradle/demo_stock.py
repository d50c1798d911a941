"""What stands in the stock of Saltmarsh Slip: invented lots, some with a date to look at. Nothing computes from these."""

from datetime import timedelta
from typing import Any

from cradle.shops.models import Shop
from cradle.stock.keeping import mark, receive, told_of, waste

# What it is of, how much came in its unit, how many days ago, and what its label says; days count from today.
_LOTS: tuple[tuple[str, float, int, dict[str, Any]], ...] = (
    ("resin epoxy-2-1", 5000, 40, {"batch": "ME-2207", "made": -120, "price": 16.5, "place": "warm cupboard"}),
    ("resin epoxy-2-1", 25_000, 12, {"batch": "ME-2311", "made": -30, "price": 14.2, "place": "warm cupboard"}),
    ("resin epoxy-2-1", 1000, 700, {"batch": "ME-0914", "made": -760, "opened": -600, "place": "top shelf"}),
    ("hardener epoxy-2-1-medium", 2500, 40, {"batch": "HM-118", "made": -120, "price": 24.0, "place": "warm cupboard"}),
    ("hardener epoxy-2-1-slow", 12_500, 12, {"batch": "HS-142", "made": -30, "price": 21.0, "place": "warm cupboard"}),
    ("hardener epoxy-2-1-fast", 500, 300, {"conditions": ["crystallised"], "place": "top shelf"}),
    ("resin polyester-general", 20_000, 25, {"batch": "P-4471", "made": -60, "price": 5.4, "place": "styrene locker"}),
    ("catalyst Peroxide catalyst, common solution", 1000, 25, {"batch": "K-90", "made": -45, "place": "peroxide box"}),
    ("resin gel-coat", 5000, 380, {"batch": "GC-77", "made": -400, "place": "styrene locker"}),
    ("fabric cloth-300", 60, 40, {"batch": "roll 12", "place": "rack", "ordered": -46}),
    ("fabric cloth-200", 50, 90, {"batch": "roll 9", "place": "rack"}),
    ("fabric biax-450", 25, 90, {"batch": "roll 10", "place": "rack", "ordered": -99}),
    ("fabric csm-450", 40, 25, {"batch": "bale 3", "place": "rack"}),
    ("filler wood-flour", 2500, 60, {"batch": "WF-5", "place": "dry bin"}),
    ("filler silica", 1500, 60, {"place": "dry bin"}),
    ("vessel cup-700", 100, 20, {"price": 0.35}),
    ("consumable gloves-nitrile", 100, 20, {"price": 0.28}),
)
# What went since, and why.
_GONE = (("ME-0914", 640, "trial panels"), ("roll 10", 17.5, "hatch of the winter"), ("bale 3", 6, "damp at the end"))
_BAD = ("HM-097", "hardener epoxy-2-1-medium", 900, "its lid was found open")


def fill_stock(shop: Shop, person) -> None:
    """Put the demo's lots into a shop."""
    today, told = shop.now().date(), told_of(shop)

    def day(back: int):
        return today + timedelta(days=back)

    def came(key: str, amount: float, days_ago: int, **said: Any):
        said |= {name: day(said[name]) for name in ("made", "opened", "ordered") if name in said}
        return receive(shop, person, told[key].article, amount, told=told, received=day(-days_ago), **said)

    for key, amount, days_ago, said in _LOTS:
        came(key, amount, days_ago, **said)
    for batch, amount, reason in _GONE:
        waste(shop.lots.get(batch=batch), person, amount, reason)
    batch, key, amount, why = _BAD
    mark(came(key, amount, 200, batch=batch, made=-220), why)
