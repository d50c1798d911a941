"""Routes of the stock: what is there, what came and went, which pots it went into, what jobs have put aside."""

from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Field, File, Form, Router, Schema, UploadedFile

from cradle.bench.models import Run
from cradle.jobs.models import Job
from cradle.jobs.prints import CSV, JobInHand
from cradle.jobs.routes import XLSX, download, job_of
from cradle.lan.standing import address_for_all
from cradle.shops.models import Shop
from cradle.shops.people import require_writer
from cradle.shops.preferences import facts_for
from cradle.shops.routes import shop_of
from cradle.stock.drawing import chosen_tins, drawn_by, keeps_of
from cradle.stock.keeping import (
    bring_in,
    correct,
    count,
    free_for,
    let_go,
    mark,
    put_aside,
    put_aside_of,
    receive,
    still_aside,
    told_of,
    try_out,
    waste,
)
from cradle.stock.models import Lot, Movement
from layup.csv_cells import MOST_BYTES
from layup.errors import LayupError, Missing, OutOfRange
from layup.job import JobSpec
from layup.materials import SourceKind
from layup.paper.kit import Masthead, Paper
from layup.preparing.buying import needs
from layup.stock.articles import Article, ArticleKind, ArticleTold, KeepsFor, Unit, mixed_from
from layup.stock.label_date import read_date
from layup.stock.lots import DIGITS, Condition, Keeping, Kept, in_order, kept
from layup.stock.lots import Lot as LotFact
from layup.stock.printing import LotLabel, lot_labels_pdf
from layup.stock.table import COLUMNS, ReadTable, StockRow, read_table, stock_csv, stock_xlsx
from layup.stock.trial import Trial

router = Router(tags=["stock"])
Amount = Annotated[float, Field(ge=0, le=10_000_000, allow_inf_nan=False)]
Words = Annotated[str, Field(max_length=300)]
Short = Annotated[str, Field(max_length=60)]


class LotOut(Schema):
    """One tin, roll or box: how much is left of it, and how it stands by its dates."""

    id: UUID
    article: str
    name: str
    batch: str
    left: float
    came_with: float
    received: date
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


class ArticleOut(Schema):
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


class StockOut(Schema):
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
    made: Short = ""
    opened: Short = ""
    expires: Short = ""
    place: Short = ""
    stored_c: Annotated[float, Field(ge=-40, le=60, allow_inf_nan=False)] | None = None
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


class FreeOut(Schema):
    """What stands in the shop for a job, by article: there, free of others, and put aside for it."""

    free: dict[str, float]
    aside: dict[str, float]


class AsideIn(Schema):
    """Whether a job's need is put aside, as far as it is free."""

    aside: bool


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
    *("price", "trial_on", "bad"),
)


def _one(lot: Lot) -> LotOut:
    return _out(lot, told_of(lot.shop), _came_with(lot), lot.shop.now().date())


def _came_with(lot: Lot) -> float:
    """What it held when it came, as far as that is written down."""
    return sum(lot.movements.filter(kind=Movement.Kind.CAME).values_list("amount", flat=True))


@router.get("/shops/{uuid:shop_id}/stock", response=StockOut)
def read_stock(request: HttpRequest, shop_id: UUID):
    """What the shop has of each thing, lot by lot. A lot that is used up is shown no more than with its story."""
    return stock_of(shop_of(request, shop_id))


def stock_of(shop: Shop) -> StockOut:
    told, today, aside = told_of(shop), shop.now().date(), put_aside_of(shop)
    came: dict[UUID, float] = {}
    of_shop = Movement.objects.filter(lot__shop=shop, kind=Movement.Kind.CAME, lot__left__gt=0)
    for lot_id, amount in of_shop.values_list("lot_id", "amount"):
        came[lot_id] = came.get(lot_id, 0.0) + amount
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
                there=round(sum(lot.left for lot in of_article if not lot.bad), 3),
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
    for name in ("received", "made", "opened", "expires"):
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


@router.get("/jobs/{uuid:job_id}/free", response=FreeOut)
def read_free(request: HttpRequest, job_id: UUID):
    """What stands in the shop for a job."""
    return _free(job_of(request, job_id))


def _free(job: Job) -> FreeOut:
    aside: dict[str, float] = {}
    for each in job.asides.all():
        aside[each.article.key] = still_aside(each)
    return FreeOut(free=free_for(job), aside=aside)


@router.put("/jobs/{uuid:job_id}/aside", response=FreeOut)
def set_aside(request: HttpRequest, job_id: UUID, sent: AsideIn):
    """Put aside what a job needs, as far as it is free; or let it go again."""
    job = job_of(request, job_id, to_write=True)
    if sent.aside:
        put_aside(job, request.user, needs(JobInHand(request, job_id).shopping({})))
    else:
        let_go(job)
    return _free(job)


class LotInPot(Schema):
    """So much of a lot in a pot; `bad` why the lot must not be used, where it must not."""

    id: UUID
    name: str
    batch: str
    amount: float
    unit: Unit
    bad: str


class PotLots(Schema):
    """The lots that a pot of a run is of."""

    number: int
    lots: list[LotInPot]


class TinOut(Schema):
    """A tin that a run may pour from, and what is left in it. A resin and a catalyst name the resins in use
    that they are poured for, a hardener its own id.
    """

    id: UUID
    kind: ArticleKind
    use_ids: list[str]
    hardener_id: str
    name: str
    batch: str
    left: float
    until: date | None
    keeping: Keeping


@router.get("/runs/{uuid:run_id}/lots", response=list[PotLots])
def read_lots_of_run(request: HttpRequest, run_id: UUID):
    """Which lots each pot of a run is of."""
    run = get_object_or_404(Run.objects.of(request.user), pk=run_id)
    return [PotLots(number=number, lots=_held(moved)) for number, moved in sorted(drawn_by(run).items())]


def _held(moved: list[Movement]) -> list[LotInPot]:
    """What a pot holds of each lot: what it drew, less what went back."""
    amounts: dict[Lot, float] = {}
    for each in moved:
        amounts[each.lot] = round(amounts.get(each.lot, 0.0) - each.amount, DIGITS)
    return [
        LotInPot(id=lot.pk, name=lot.name, batch=lot.batch, amount=amount, unit=lot.article.unit, bad=lot.bad)
        for lot, amount in amounts.items()
        if amount > 0
    ]


@router.get("/runs/{uuid:run_id}/tins", response=list[TinOut])
def read_tins_of_run(request: HttpRequest, run_id: UUID):
    """The tins that the pots of a run may be poured from, in the order they are taken."""
    run = get_object_or_404(Run.objects.of(request.user).select_related("job__shop"), pk=run_id)
    keeps, chosen, today = keeps_of(run.spec), chosen_tins(run), run.job.shop.now().date()
    uses = _uses_of(run.spec)
    lots: dict[str, list[LotFact]] = {}
    for lot in run.job.shop.lots.filter(article_kind__in=("resin", "hardener", "catalyst"), left__gt=0, bad=""):
        if lot.article.key in uses:
            lots.setdefault(lot.article.key, []).append(lot.fact())
    return [
        _tin(lot, uses[key], kept(lot, keeps[key], today))
        for key, of_article in lots.items()
        for lot in in_order(of_article, keeps[key], today, chosen.get(key, ""))
    ]


def _tin(lot: LotFact, use_ids: list[str], standing: Kept) -> TinOut:
    article = lot.article
    return TinOut(
        id=lot.id,
        kind=article.kind,
        use_ids=use_ids,
        hardener_id=article.product_id if article.kind == "hardener" else "",
        name=lot.name,
        batch=lot.batch,
        left=lot.left,
        until=standing.until,
        keeping=standing.keeping,
    )


def _uses_of(spec: JobSpec) -> dict[str, list[str]]:
    """The resins in use that each article is poured for, by its key."""
    found: dict[str, list[str]] = {}
    for use in spec.resins:
        resin = spec.product_of(use)
        if resin:
            for article in mixed_from(resin):
                found.setdefault(article.key, []).append(use.id)
    return found


@router.get("/lots/{uuid:lot_id}/label.pdf", response=str)
def label_as_pdf(request: HttpRequest, lot_id: UUID, paper: Paper = "A4"):
    """A label for the tin, with a code that opens it."""
    lot = lot_of(request, lot_id)
    told = told_of(lot.shop).get(lot.article.key)
    fact, today = lot.fact(), lot.shop.now().date()
    label = LotLabel(
        lot=fact,
        kept=kept(fact, told.keeps if told else None, today),
        address=f"{address_for_all(request)}/shelf/lot/{lot.pk}",
    )
    head = Masthead(lot.shop.name, 1, today, paper, facts_for(request.user, lot.shop).scales)
    return download(lot_labels_pdf(head, [label]), "tin-label.pdf", "application/pdf")


def _rows(shop: Shop) -> list[StockRow]:
    return [StockRow(lot=lot.fact(), place=lot.place, price=lot.price) for lot in shop.lots.filter(left__gt=0)]


@router.get("/shops/{uuid:shop_id}/stock.csv", response=str)
def stock_as_csv(request: HttpRequest, shop_id: UUID):
    """All that is there, a lot a row."""
    shop = shop_of(request, shop_id)
    decimal_comma = facts_for(request.user, shop).scales.customs.decimal_comma
    return download(stock_csv(_rows(shop), decimal_comma=decimal_comma).encode(), "stock.csv", CSV)


@router.get("/shops/{uuid:shop_id}/stock.xlsx", response=str)
def stock_as_xlsx(request: HttpRequest, shop_id: UUID):
    return download(stock_xlsx(_rows(shop_of(request, shop_id))), "stock.xlsx", XLSX)


class BroughtOut(Schema):
    """A table as it was read; `lots` is how many lots came of it, where they were taken."""

    table: ReadTable
    lots: int | None = None


@router.post("/shops/{uuid:shop_id}/stock/table", response=BroughtOut)
def bring_table(
    request: HttpRequest,
    shop_id: UUID,
    table: UploadedFile = File(...),  # noqa: B008
    taken_for: Annotated[str, Form(max_length=2000)] = "",
    keep: Annotated[bool, Form()] = False,
):
    """A list of stock as CSV or XLSX: read, and taken where `keep` says so. `taken_for` has a line for each column."""
    shop = shop_of(request, shop_id, to_write=True)
    if table.size > MOST_BYTES:
        raise OutOfRange(f"is larger than {MOST_BYTES / 1e6:g} MB: no list of stock is", "table")
    columns = taken_for.splitlines()
    unknown = set(columns) - set(COLUMNS)
    if unknown:
        raise OutOfRange(f"a column is one of {', '.join(COLUMNS)}", "taken_for")
    read = read_table(table.read(), told_of(shop).values(), columns, shop.shop_facts().scales.customs)
    return BroughtOut(table=read, lots=bring_in(shop, request.user, read) if keep else None)
