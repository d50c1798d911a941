"""How long things take to come, by the shop's own orders, and by when to order."""

from collections.abc import Iterable
from datetime import date, timedelta

from layup.record import Record

# The last orders say most: a maker that was slow three years ago may be quick now (memory).
_LAST = 5


class LeadTime(Record):
    """In how many days the last orders of an article came, at the least and at the most, and how many they are. To be there when
    it is wanted it is ordered on `order_by` at the latest, where that day is known.
    """

    least_days: int
    most_days: int
    count: int
    order_by: date | None = None


def lead_time(orders: Iterable[tuple[date, date]], wanted_on: date | None = None) -> LeadTime | None:
    """The lead time of an article by its orders, each the day it was ordered and the day it came; None without any. Source: the
    shop's log; it is reckoned with the longest of the last five.

    >>> orders = [(date(2026, 5, 4), date(2026, 5, 7)), (date(2026, 6, 1), date(2026, 6, 10))]
    >>> found = lead_time(orders, date(2026, 7, 20))
    >>> found.least_days, found.most_days, found.count, str(found.order_by)
    (3, 9, 2, '2026-07-11')
    """
    last = sorted(orders, key=lambda order: order[1])[-_LAST:]
    days = [(came - ordered).days for ordered, came in last]
    if not days:
        return None
    order_by = wanted_on - timedelta(days=max(days)) if wanted_on else None
    return LeadTime(least_days=min(days), most_days=max(days), count=len(days), order_by=order_by)
