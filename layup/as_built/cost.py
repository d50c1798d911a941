"""What a run cost by what it really drew out of the stock, and how much of that was wasted."""

from collections.abc import Iterable, Mapping

from layup.as_built.outcome import AsBuilt, BuiltPot, LotDrawn
from layup.record import Record


class BuiltCost(Record):
    """In the shop's currency, as far as the prices of its lots are known; `unpriced` are those without one."""

    known: float
    wasted: float
    per_m2: float | None
    unpriced: tuple[str, ...]


def cost_of_built(built: AsBuilt, prices: Mapping[str, float | None], area_m2: float) -> BuiltCost | None:
    """What the lots of a run cost, and what of them went into pots that were lost or was left over in a cup. `prices` are of a
    kilo, a metre or a piece, by the lots' ids. None where nothing was drawn. Exact.

    >>> tin = LotDrawn(id="a", called="Epoxy", amount=200, unit="g")
    >>> pot = BuiltPot(number=1, where="", resin_name="", hardener="", planned_g=200, life_min=20, ended="gelled", lots=(tin,))
    >>> from datetime import datetime
    >>> built = AsBuilt(job_name="Deck", revision=1, issued_at=datetime(2026, 5, 4), planned_room_c=20, pots=(pot,))
    >>> cost = cost_of_built(built, {"a": 20.0}, 2.0)
    >>> cost.known, cost.wasted, cost.per_m2
    (4.0, 4.0, 2.0)
    """
    drawn = [*built.cut, *(lot for pot in built.pots for lot in pot.lots)]
    if not drawn:
        return None
    known = _cost(drawn, prices)
    unpriced = dict.fromkeys(lot.called for lot in drawn if prices.get(lot.id) is None)
    return BuiltCost(
        known=known,
        wasted=sum(_lost_share(pot) * _cost(pot.lots, prices) for pot in built.pots),
        per_m2=known / area_m2 if area_m2 and not unpriced else None,
        unpriced=tuple(unpriced),
    )


def _cost(lots: Iterable[LotDrawn], prices: Mapping[str, float | None]) -> float:
    return sum((prices.get(lot.id) or 0.0) * (lot.amount / 1000 if lot.unit == "g" else lot.amount) for lot in lots)


def _lost_share(pot: BuiltPot) -> float:
    """What of a pot was of no use."""
    if pot.ended in ("gelled", "dumped"):
        return 1.0
    made_g = pot.made_g or pot.planned_g
    return min(1.0, (pot.left_over_g or 0.0) / made_g) if made_g else 0.0
