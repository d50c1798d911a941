"""Routes of the stock: what is there, what came and went, which pots it went into, what jobs have put aside."""

from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from django.db.models import Sum
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema
from pydantic import BaseModel

from cradle.shops.models import Shop
from cradle.shops.people import require_writer
from cradle.shops.routes import shop_of
from cradle.stock.keeping import (
    correct,
    count,
    mark,
    put_aside_of,
    receive,
    told_of,
    try_out,
    waste,
)
from cradle.stock.models import Lot, Movement
from layup.errors import LayupError, Missing, OutOfRange
from layup.materials import SourceKind
from layup.stock.articles import Article, ArticleKind, ArticleTold, KeepsFor, Unit
from layup.stock.label_date import read_date
from layup.stock.lots import Condition, Keeping, in_order, kept
from layup.stock.trial import Trial

router = Router(tags=["stock"])
Amount = Annotated[float, Field(ge=0, le=10_000_000, allow_inf_nan=False)]
Words = Annotated[str, Field(max_length=300)]
Short = Annotated[str, Field(max_length=60)]


class LotOut(BaseModel):
    """One tin, roll or box: how much is left of it, and how it stands by its dates."""

    id: UUID
    article: str
    name: str
    batch: str
    left: float
    came_with: float
    received: date
    ordered: date | None
    width_mm: float | None
    made: date | None
    opened: date | None
    expires: date | None
    place: str
    stored_c: float | None
    conditions: list[Condition]
    price: float | None
    trial_on: date | None
    bad: str
    keeping: Keeping
    until: date | None
    source: SourceKind | None
    asks_for_a_trial: bool


class ArticleOut(BaseModel):
    """What a stock is kept of: how much is there, how much of that jobs have put aside, and its lots."""

    key: str
    kind: ArticleKind
    unit: Unit
    name: str
    part_of: str
    sold_in: list[float]
    price: float | None
    there: float
    aside: float
    lots: list[LotOut]


class StockOut(BaseModel):
    """The shop's stock, and all that a stock may be kept of."""

    today: date
    articles: list[ArticleOut]
    may_keep: list[ArticleTold]


class MovementOut(Schema):
    """So much in or out, with why. `into` is what it went into, of a job's run."""

    kind: Movement.Kind
    amount: float
    at: datetime
    by: str
    reason: str
    into: str
    job_id: UUID | None
    job_name: str
    run_id: UUID | None


class LotStory(Schema):
    """A lot with all that came and went."""

    lot: LotOut
    unit: Unit
    today: date
    movements: list[MovementOut]


class KnownOfLot(Schema):
    """What is known of a lot beside how much of it there is. Dates are words, as a label prints them; it came today where
    nothing is said.
    """

    batch: Short = ""
    received: Short = ""
    ordered: Short = ""
    made: Short = ""
    opened: Short = ""
    expires: Short = ""
    place: Short = ""
    stored_c: Annotated[float, Field(ge=-40, le=60, allow_inf_nan=False)] | None = None
    width_mm: Annotated[float, Field(ge=10, le=10_000, allow_inf_nan=False)] | None = None
    conditions: Annotated[list[Condition], Field(max_length=4)] = []
    price: Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)] | None = None


class LotIn(KnownOfLot):
    """A lot that came: so much of an article, in its unit."""

    article: Annotated[str, Field(max_length=120)]
    amount: Amount


class WasteIn(Schema):
    tap_id: UUID
    amount: Amount
    reason: Words = ""


class CountIn(Schema):
    """A stocktake: `amount` was found where the page said `expected`."""

    tap_id: UUID
    amount: Amount | None = None
    expected: Amount
    reason: Words = ""


class BadIn(Schema):
    """Why a lot must not be used; nothing where it may."""

    bad: Words = ""


class TrialIn(Schema):
    """A trial pot: so much, in so warm a room, gelled after so long."""

    hardener_id: Short = ""
    catalyst_pct: Annotated[float, Field(ge=0.01, le=20, allow_inf_nan=False)] | None = None
    room_c: Annotated[float, Field(ge=-40, le=60, allow_inf_nan=False)]
    mass_g: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)]
    seen_min: Annotated[float, Field(gt=0, le=20_000, allow_inf_nan=False)]


class TrialOut(Schema):
    trial: Trial
    lot: LotOut


def lot_of(request: HttpRequest, lot_id: UUID, *, to_write: bool = False) -> Lot:
    """A lot of one of the signed-in person's shops, or 404. Raises Forbidden where he may only look at it."""
    lot = get_object_or_404(Lot.objects.of(request.user).select_related("shop"), pk=lot_id)
    if to_write:
        require_writer(request.user, lot.shop)
    return lot


def _out(lot: Lot, told: dict[str, ArticleTold], came_with: float, today: date) -> LotOut:
    of = told.get(lot.article.key)
    standing = kept(lot.fact(), of.keeps if of else None, today)
    return LotOut(
        article=lot.article.key,
        came_with=came_with,
        keeping=standing.keeping,
        until=standing.until,
        source=standing.source,
        asks_for_a_trial=standing.asks_for_a_trial,
        **{name: getattr(lot, name) for name in _AS_KEPT},
    )


_AS_KEPT = (
    *("id", "name", "batch", "left", "received", "made", "opened", "expires", "place", "stored_c", "conditions"),
    *("price", "trial_on", "bad", "ordered", "width_mm"),
)


def _one(lot: Lot) -> LotOut:
    return _out(lot, told_of(lot.shop), _came_with(lot), lot.shop.now().date())


def _came_with(lot: Lot) -> float:
    """What it held when it came, as far as that is written down."""
    return sum(lot.movements.filter(kind=Movement.Kind.CAME).values_list("amount", flat=True))


@router.get("/shops/{uuid:shop_id}/stock", response=StockOut)
def read_stock(request: HttpRequest, shop_id: UUID):
    """What the shop has of each thing, lot by lot. A lot that is used up is shown no more than with its story."""
    stock = stock_of(shop_of(request, shop_id))
    # Written as it is: a second look at 300 lots costs more than all the rest.
    return HttpResponse(stock.model_dump_json(), content_type="application/json")


def stock_of(shop: Shop) -> StockOut:
    told, today, aside = told_of(shop), shop.now().date(), put_aside_of(shop)
    of_shop = Movement.objects.filter(lot__shop=shop, kind=Movement.Kind.CAME, lot__left__gt=0).order_by()
    came = dict(of_shop.values_list("lot_id").annotate(Sum("amount")))
    lots: dict[Article, list[Lot]] = {}
    for lot in shop.lots.filter(left__gt=0):
        lots.setdefault(lot.article, []).append(lot)
    articles = []
    for article, of_article in lots.items():
        known = told.get(article.key)
        articles.append(
            ArticleOut(
                key=article.key,
                kind=article.kind,
                unit=article.unit,
                name=known.name if known else of_article[0].name,
                part_of=known.part_of if known else "",
                sold_in=known.sold_in if known else (),
                price=known.price if known else None,
                there=round(sum(lot.left for lot in of_article if not lot.bad and lot.width_mm is None), 3),
                aside=aside.get(article.key, 0.0),
                lots=[
                    _out(lot, told, came.get(lot.pk, lot.left), today)
                    for lot in _as_taken(of_article, known.keeps if known else None, today)
                ],
            )
        )
    return StockOut(today=today, articles=articles, may_keep=list(told.values()))


def _as_taken(lots: list[Lot], keeps: KeepsFor | None, today: date) -> list[Lot]:
    """Lots in the order they are taken; then those that must not be."""
    by_id = {str(lot.pk): lot for lot in lots}
    order = in_order((lot.fact() for lot in lots), keeps, today)
    return [*(by_id[fact.id] for fact in order), *(lot for lot in lots if lot.bad)]


@router.post("/shops/{uuid:shop_id}/stock", response=LotOut)
def new_lot(request: HttpRequest, shop_id: UUID, sent: LotIn):
    """A lot that came."""
    shop = shop_of(request, shop_id, to_write=True)
    told = told_of(shop).get(sent.article)
    if told is None:
        raise OutOfRange("choose what came: it is on the shelf, or put there first", "article")
    return _one(receive(shop, request.user, told.article, sent.amount, **_known(shop, sent)))


def _known(shop: Shop, sent: KnownOfLot) -> dict[str, Any]:
    """What is known of a lot, its dates read. Raises LayupError at the date that is none."""
    customs, said = shop.shop_facts().scales.customs, sent.model_dump(include=set(KnownOfLot.model_fields))
    for name in ("received", "ordered", "made", "opened", "expires"):
        try:
            said[name] = read_date(said[name], last_of_month=name == "expires", customs=customs)
        except LayupError as error:
            error.path = name
            raise
    return said | {"received": said["received"] or shop.now().date()}


@router.get("/lots/{uuid:lot_id}", response=LotStory)
def read_lot(request: HttpRequest, lot_id: UUID):
    """A lot, what came and went, and which pots and pieces it is in."""
    lot = lot_of(request, lot_id)
    moved = lot.movements.select_related("by", "job").order_by("-id")
    names = {movement.job: "" for movement in moved if movement.job}
    names = {job.pk: job.latest().name() for job in names}
    return LotStory(
        lot=_one(lot),
        unit=lot.article.unit,
        today=lot.shop.now().date(),
        movements=[
            MovementOut(
                by=each.by.get_username(),
                job_name=names.get(each.job_id, ""),
                **{
                    name: getattr(each, name) for name in ("kind", "amount", "at", "reason", "into", "job_id", "run_id")
                },
            )
            for each in moved
        ],
    )


@router.put("/lots/{uuid:lot_id}", response=LotOut)
def write_lot(request: HttpRequest, lot_id: UUID, sent: KnownOfLot):
    """What is known of a lot, written anew."""
    lot = lot_of(request, lot_id, to_write=True)
    return _one(correct(lot, **_known(lot.shop, sent)))


@router.post("/lots/{uuid:lot_id}/count", response=LotOut)
def count_lot(request: HttpRequest, lot_id: UUID, sent: CountIn):
    """A stocktake of one lot."""
    lot = lot_of(request, lot_id, to_write=True)
    if sent.amount is None:
        raise Missing("type what is really there", "amount")
    return _one(count(lot, request.user, sent.amount, sent.expected, sent.reason, sent.tap_id))


@router.post("/lots/{uuid:lot_id}/waste", response=LotOut)
def waste_lot(request: HttpRequest, lot_id: UUID, sent: WasteIn):
    """So much of a lot that is gone and was not laid."""
    lot = lot_of(request, lot_id, to_write=True)
    return _one(waste(lot, request.user, sent.amount, sent.reason, sent.tap_id))


@router.put("/lots/{uuid:lot_id}/bad", response=LotOut)
def mark_lot(request: HttpRequest, lot_id: UUID, sent: BadIn):
    """Mark a lot as one that must not be used, or as one that may."""
    return _one(mark(lot_of(request, lot_id, to_write=True), sent.bad))


@router.post("/lots/{uuid:lot_id}/trial", response=TrialOut)
def try_lot(request: HttpRequest, lot_id: UUID, sent: TrialIn):
    """A trial pot of a lot, held against what it should take."""
    lot = lot_of(request, lot_id, to_write=True)
    found = try_out(lot, **sent.model_dump())
    return TrialOut(trial=found, lot=_one(lot))
