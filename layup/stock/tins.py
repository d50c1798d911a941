"""The tin of each article that is taken next, as a plan asks for it."""

from collections.abc import Iterable
from datetime import date

from layup.shop_facts import TinFact
from layup.stock.articles import Article, KeepsFor
from layup.stock.lots import Lot, in_order, kept


def next_tin(article: Article, lots: Iterable[Lot], keeps: KeepsFor | None, today: date) -> TinFact | None:
    """How the tin stands that is taken next of an article; None where there is none.

    >>> article = Article(kind="resin", product_id="r")
    >>> tin = Lot(id="1", article=article, name="Resin", left=900, received=date(2026, 1, 1))
    >>> next_tin(article, [tin], KeepsFor(months=12, source="memory"), date(2026, 2, 1)).keeping
    'no date'
    """
    lot = next(iter(in_order(lots, keeps, today)), None)
    if lot is None:
        return None
    standing = kept(lot, keeps, today)
    return TinFact(
        article=article.key,
        called=lot.called,
        keeping=standing.keeping,
        until=standing.until,
        trial_holds=standing.trial_holds,
        conditions=lot.conditions,
        stored_c=lot.stored_c,
    )
