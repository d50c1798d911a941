"""What a stock is kept of: each thing that is bought by itself, of all the products of a library."""

from collections.abc import Iterator, Sequence
from typing import Literal

from layup.equipment import Consumable, Vessel
from layup.materials import Catalyst, Fabric, Filler, Hardener, ResinSystem, SourceKind
from layup.record import Record
from layup.scales import Scales
from layup.shelf import Library

ArticleKind = Literal["fabric", "resin", "hardener", "catalyst", "filler", "vessel", "consumable"]
# Fabric is counted by the running metre, what is poured by the gram, the rest by the piece.
Unit = Literal["m", "g", ""]


class Article(Record):
    """One thing that is bought by itself. `product_id` is a product's of the shelf; a hardener is named by its own id, and a
    catalyst by its name, since one bottle serves several resins.
    """

    kind: ArticleKind
    product_id: str

    @property
    def unit(self) -> Unit:
        if self.kind == "fabric":
            return "m"
        return "" if self.kind in ("vessel", "consumable") else "g"

    @property
    def key(self) -> str:
        """One word for it.

        >>> Article(kind="resin", product_id="epoxy-2-1").key
        'resin epoxy-2-1'
        """
        return f"{self.kind} {self.product_id}"


def amount_words(unit: Unit, amount: float, scales: Scales) -> str:
    """An amount in words.

    >>> from layup.scales import METRIC
    >>> [amount_words(unit, 1250, METRIC) for unit in ("g", "m", "")]
    ['1,250 g', '1,250 m', '1,250']
    """
    if unit == "g":
        return scales.words("mass", amount)
    return scales.words("roll_run", amount) if unit == "m" else f"{amount:,.0f}"


class KeepsFor(Record):
    """How long a thing keeps from its making, in months, and who says so; once opened, in days, where that is shorter."""

    months: float
    source: SourceKind
    opened_days: int | None = None


class ArticleTold(Record):
    """An article in words, how long it keeps where it spoils, the sizes it is sold in, kg or m, and what it is part of."""

    article: Article
    name: str
    keeps: KeepsFor | None = None
    sold_in: tuple[float, ...] = ()
    price: float | None = None
    part_of: str = ""


# A styrene resin thickens in its tin (common practice: about a year). The others are from memory.
_STYRENE_MONTHS, _RESIN_MONTHS, _HARDENER_MONTHS, _PEROXIDE_MONTHS, _ONE_PART_MONTHS = 12.0, 24.0, 24.0, 12.0, 12.0
# memory: the moisture of the air skins over what is left of an opened tin
_ONE_PART_OPENED_DAYS = 30


def articles_of(library: Library) -> dict[str, ArticleTold]:
    """Every article of a library, by its key; of two alike the first is told.

    >>> from layup.library import generic
    >>> told = articles_of(generic())["resin epoxy-2-1"]
    >>> told.article.unit, told.keeps.months, told.keeps.source.value
    ('g', 24.0, 'memory')
    """
    found: dict[str, ArticleTold] = {}
    for told in _all(library):
        found.setdefault(told.article.key, told)
    return found


def of_fabric(fabric: Fabric) -> Article:
    return Article(kind="fabric", product_id=fabric.id)


def of_resin(resin: ResinSystem) -> Article:
    return Article(kind="resin", product_id=resin.id)


def of_hardener(hardener: Hardener) -> Article:
    return Article(kind="hardener", product_id=hardener.id)


def of_catalyst(catalyst: Catalyst) -> Article:
    return Article(kind="catalyst", product_id=catalyst.name)


def of_piece(thing: Vessel | Consumable) -> Article:
    return Article(kind="vessel" if isinstance(thing, Vessel) else "consumable", product_id=thing.id)


def of_filler(filler: Filler) -> Article:
    return Article(kind="filler", product_id=filler.id)


def mixed_from(resin: ResinSystem) -> tuple[Article, ...]:
    """All that a resin may be mixed from: itself, and what sets it.

    >>> from layup.library import generic
    >>> [article.kind for article in mixed_from(next(resin for resin in generic().resins if resin.catalyst))]
    ['resin', 'catalyst']
    """
    sets = (of_catalyst(resin.catalyst),) if resin.catalyst else tuple(map(of_hardener, resin.hardeners))
    return (of_resin(resin), *sets)


def _all(library: Library) -> Iterator[ArticleTold]:
    for fabric in library.fabrics:
        rolls = (fabric.roll_length_m,) if fabric.roll_length_m else ()
        price = fabric.price_per_m2 and fabric.price_per_m2 * fabric.roll_width_mm / 1000
        yield ArticleTold(article=of_fabric(fabric), name=fabric.name, sold_in=rolls, price=price)
    for resin in library.resins:
        yield from _of_resin(resin)
    for filler in library.fillers:
        yield _by_weight(of_filler(filler), filler.name, filler, None)
    pieces: Sequence[Vessel | Consumable] = (*library.vessels, *library.consumables)
    for thing in pieces:
        packs = (thing.sold_by,) if thing.sold_by else ()
        yield ArticleTold(article=of_piece(thing), name=thing.name, sold_in=packs, price=thing.price_each)


def _of_resin(resin: ResinSystem) -> Iterator[ArticleTold]:
    yield _by_weight(of_resin(resin), resin.name, resin, resin_keeps(resin))
    for hardener in resin.hardeners:
        told = _by_weight(of_hardener(hardener), f"Hardener, {hardener.name}", hardener, hardener_keeps(resin))
        yield told.model_copy(update={"part_of": resin.name})
    if resin.catalyst:
        yield _by_weight(of_catalyst(resin.catalyst), resin.catalyst.name, resin.catalyst, catalyst_keeps())


def _by_weight(
    article: Article, name: str, sold: ResinSystem | Hardener | Catalyst | Filler, keeps: KeepsFor | None
) -> ArticleTold:
    return ArticleTold(article=article, name=name, keeps=keeps, sold_in=sold.sold_kg, price=sold.price_per_kg)


def resin_keeps(resin: ResinSystem) -> KeepsFor:
    """How long a resin keeps: as its sheet says, else as its family usually does."""
    opened = _ONE_PART_OPENED_DAYS if resin.one_part else None
    if resin.shelf_life_months:
        return KeepsFor(months=resin.shelf_life_months, source=resin.sources["shelf_life_months"], opened_days=opened)
    if resin.styrene:
        return KeepsFor(months=_STYRENE_MONTHS, source=SourceKind.COMMON_PRACTICE)
    months = _ONE_PART_MONTHS if resin.one_part else _RESIN_MONTHS
    return KeepsFor(months=months, source=SourceKind.MEMORY, opened_days=opened)


def hardener_keeps(resin: ResinSystem) -> KeepsFor:
    """How long a hardener keeps: as long as the sheet of its resin says, else as one usually does."""
    if resin.shelf_life_months:
        return KeepsFor(months=resin.shelf_life_months, source=resin.sources["shelf_life_months"])
    return KeepsFor(months=_HARDENER_MONTHS, source=SourceKind.MEMORY)


def catalyst_keeps() -> KeepsFor:
    """How long a peroxide keeps in its own bottle, cool and dark."""
    return KeepsFor(months=_PEROXIDE_MONTHS, source=SourceKind.MEMORY)
