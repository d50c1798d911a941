"""What a shop does with its stock: receive, count, waste, try, mark as bad, put aside for a job."""

from collections.abc import Mapping
from datetime import date
from math import isclose
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Max, Q, Sum

from cradle.jobs.models import Job
from cradle.shelf.keeping import library_of
from cradle.shops.models import Shop
from cradle.stock.models import Aside, Lot, Movement
from layup.errors import LayupError, OutOfRange
from layup.stock.articles import Article, ArticleTold, amount_words, articles_of, mixed_from
from layup.stock.lead import LeadTime, lead_time
from layup.stock.lots import CONDITIONS, DIGITS, check_dates
from layup.stock.table import ReadTable
from layup.stock.trial import Trial, trial

MOST_LOTS = 5000
# A tin, a roll or a box holds no more than this, in its unit.
MOST_IN_A_LOT = {"g": 1_500_000.0, "m": 5_000.0, "": 100_000.0}


class Overtaken(LayupError):
    """Somebody else wrote down something of the same lot meanwhile."""


def told_of(shop: Shop) -> dict[str, ArticleTold]:
    """What a stock may be kept of: every article of the shop's library, by its key."""
    return articles_of(library_of(shop))


@transaction.atomic
def receive(
    shop: Shop,
    person: AbstractBaseUser,
    article: Article,
    amount: float,
    told: Mapping[str, ArticleTold] | None = None,
    **said: Any,
) -> Lot:
    """A lot that came, of an article among those `told`. Raises OutOfRange at the field that cannot be."""
    known = (told_of(shop) if told is None else told).get(article.key)
    if known is None:
        raise OutOfRange("this is no longer on the shelf: choose it anew", "article")
    if shop.lots.count() >= MOST_LOTS:
        raise OutOfRange(f"a stock holds {MOST_LOTS:,} lots: ask whoever keeps this program", "article")
    _check_amount(article, amount)
    lot = Lot(shop=shop, article_kind=article.kind, product_id=article.product_id, name=_named(known), **said)
    _check(lot)
    lot.save()
    move(lot, person, Movement.Kind.CAME, amount)
    return lot


@transaction.atomic
def bring_in(shop: Shop, person: AbstractBaseUser, table: ReadTable) -> int:
    """The rows of a table as lots, all or none. Raises OutOfRange at the first row that cannot be taken."""
    told = told_of(shop)
    for row in table.rows:
        if row.trouble:
            raise OutOfRange(f"row {row.line}: {row.trouble}", "table")
        try:
            receive(
                shop,
                person,
                told[row.article].article,
                row.amount,
                told=told,
                batch=row.cells.get("lot", "")[:60],
                place=row.cells.get("place", "")[:60],
                price=row.price,
                made=row.days.get("made"),
                opened=row.days.get("opened"),
                expires=row.days.get("use by"),
                received=row.days.get("came") or shop.now().date(),
            )
        except LayupError as error:
            raise OutOfRange(f"row {row.line}: {error.message}", "table") from error
    return len(table.rows)


def correct(lot: Lot, **said: Any) -> Lot:
    """What is known of a lot, written anew. Raises OutOfRange at the field that cannot be."""
    for name, value in said.items():
        setattr(lot, name, value)
    _check(lot)
    lot.save(update_fields=list(said))
    return lot


@transaction.atomic
def move(
    lot: Lot, person: AbstractBaseUser, kind: Movement.Kind, amount: float, reason: str = "", tap_id: UUID | None = None
) -> Lot:
    """So much into a lot, or out of it. The same tap counts once. Raises OutOfRange where it would go under nought."""
    lot = Lot.objects.select_for_update().get(pk=lot.pk)
    if tap_id and Movement.objects.filter(tap_id=tap_id).exists():
        return lot
    if round(lot.left + amount, DIGITS) < 0:
        raise OutOfRange(f"there is only {_left(lot)} left: count it", "amount")
    lot.move(person, kind, amount, reason=reason.strip(), tap_id=tap_id)
    return lot


def waste(lot: Lot, person: AbstractBaseUser, amount: float, reason: str, tap_id: UUID | None = None) -> Lot:
    """So much that is gone and was not laid. Raises OutOfRange without a reason."""
    if amount <= 0:
        raise OutOfRange("is nothing: type how much is gone", "amount")
    return move(lot, person, Movement.Kind.WASTED, -amount, _reason(reason, "say where it went"), tap_id)


@transaction.atomic
def count(
    lot: Lot, person: AbstractBaseUser, found: float, expected: float, reason: str = "", tap_id: UUID | None = None
) -> Lot:
    """A stocktake: so much is there, where the page said `expected`. Raises OutOfRange without a reason where they differ,
    and Overtaken where something was drawn since the page was read.
    """
    lot = Lot.objects.select_for_update().get(pk=lot.pk)
    if tap_id and Movement.objects.filter(tap_id=tap_id).exists():
        return lot
    if not isclose(lot.left, expected, abs_tol=10**-DIGITS):
        raise Overtaken(f"it was used meanwhile, and {_left(lot)} is left by the book: look again, and count it again")
    if not 0 <= found <= MOST_IN_A_LOT[lot.article.unit]:
        raise OutOfRange("cannot be: type what is really there", "amount")
    differs = round(found - lot.left, DIGITS)
    if differs:
        reason = _reason(reason, "it differs from the book: say why, as far as you know")
    return move(lot, person, Movement.Kind.COUNTED, differs, reason, tap_id)


def mark(lot: Lot, bad: str) -> Lot:
    """Mark a lot as one that must not be used, with why; or, with nothing, as one that may."""
    if bad and len(bad.strip()) < 3:
        raise OutOfRange("say what is wrong with it", "bad")
    lot.bad = bad.strip()
    lot.save(update_fields=["bad"])
    return lot


def try_out(
    lot: Lot, *, hardener_id: str, catalyst_pct: float | None, room_c: float, mass_g: float, seen_min: float
) -> Trial:
    """Hold a trial pot of a lot against what it should take; one that was right is kept with the lot."""
    resin = next((each for each in library_of(lot.shop).resins if lot.article in mixed_from(each)), None)
    if resin is None:
        raise OutOfRange("no resin of the shelf sets with it: only a resin, a hardener or a catalyst is tried", "lot")
    found = trial(
        resin,
        hardener_id=lot.product_id if lot.article_kind == "hardener" else hardener_id,
        catalyst_pct=catalyst_pct,
        room_c=room_c,
        mass_g=mass_g,
        seen_min=seen_min,
        gels=lot.shop.shop_facts().gels,
    )
    lot.trial_on = lot.shop.now().date() if found.verdict == "right" else None
    lot.save(update_fields=["trial_on"])
    return found


@transaction.atomic
def put_aside(job: Job, person: AbstractBaseUser, needs: Mapping[str, float]) -> None:
    """Put aside for a job what it needs of each article, as far as it is free; what it had put aside before is let go."""
    free, drawn = free_for(job), drawn_for(job)
    since = Movement.objects.aggregate(last=Max("pk"))["last"] or 0
    job.asides.all().delete()
    for key, need in needs.items():
        amount = round(min(need - drawn.get(key, 0.0), free.get(key, 0.0)), DIGITS)
        if amount > 0:
            kind, product_id = key.split(" ", 1)
            Aside.objects.create(
                job=job, article_kind=kind, product_id=product_id, amount=amount, by=person, since=since
            )


def let_go(job: Job) -> None:
    """Nothing stays put aside for a job."""
    job.asides.all().delete()


def there_for(job: Job) -> dict[str, float]:
    """What there is of each article for a job: what is free for it, and what it drew: its pieces that are cut, and the pots
    of its last run while that is not closed.
    """
    there = free_for(job)
    for key, amount in drawn_for(job).items():
        there[key] = round(there.get(key, 0.0) + amount, DIGITS)
    return there


def drawn_for(job: Job) -> dict[str, float]:
    """What a job drew of each article and still counts for it, by its key."""
    run = job.runs.order_by("-started_at").first()
    open_run = run if run and not run.events.filter(kind="closed", taken_back_by=None).exists() else None
    whole = Movement.objects.filter(lot__width_mm=None)
    mine = whole.filter(Q(job=job, run=None) | Q(run=open_run, run__isnull=False))
    rows = mine.values_list("lot__article_kind", "lot__product_id").annotate(sum=Sum("amount")).order_by()
    return {f"{kind} {product_id}": round(-total, DIGITS) for kind, product_id, total in rows if total < 0}


def free_for(job: Job) -> dict[str, float]:
    """What stands in the shop of each article for a job: all that is there and not bad, less what others have put aside."""
    there = on_hand(job.shop)
    for key, amount in put_aside_of(job.shop, but=job).items():
        there[key] = max(0.0, round(there.get(key, 0.0) - amount, DIGITS))
    return there


def leads_for(job: Job) -> dict[str, LeadTime]:
    """How long each article took to come, by its key, and by when it is to be ordered for the job's start."""
    try:
        start = job.latest().spec().pots.start
    except LayupError:
        start = None
    wanted_on = start.astimezone(ZoneInfo(job.shop.time_zone)).date() if start else None
    orders: dict[str, list[tuple[date, date]]] = {}
    for lot in job.shop.lots.exclude(ordered=None):
        orders.setdefault(lot.article.key, []).append((lot.ordered, lot.received))
    found = {key: lead_time(of_article, wanted_on) for key, of_article in orders.items()}
    return {key: lead for key, lead in found.items() if lead}


def on_hand(shop: Shop) -> dict[str, float]:
    """What stands in the shop of each article and is not bad, by its key."""
    rows = (
        shop.lots.filter(bad="", width_mm=None)
        .values_list("article_kind", "product_id")
        .annotate(left=Sum("left"))
        .order_by()
    )
    return {f"{kind} {product_id}": round(left, DIGITS) for kind, product_id, left in rows}


def put_aside_of(shop: Shop, but: Job | None = None) -> dict[str, float]:
    """What the jobs of a shop still have put aside of each article: what one of them drew since has come off it."""
    found: dict[str, float] = {}
    asides = Aside.objects.with_drawn().filter(job__shop=shop, job__put_away_at=None).exclude(job=but)
    for aside in asides:
        found[aside.article.key] = found.get(aside.article.key, 0.0) + aside.still
    return found


def _left(lot: Lot) -> str:
    return amount_words(lot.article.unit, lot.left, lot.shop.shop_facts().scales)


def _check(lot: Lot) -> None:
    check_dates(lot.made, lot.opened, lot.expires, lot.received, lot.shop.now().date())
    if lot.width_mm is not None and lot.article_kind != "fabric":
        raise OutOfRange("only of a fabric there are offcuts", "width_mm")
    if lot.ordered and lot.ordered > lot.received:
        raise OutOfRange("was ordered after it came: look at both days", "ordered")
    unknown = set(lot.conditions) - set(CONDITIONS)
    if unknown:
        raise OutOfRange(f"is one of {', '.join(CONDITIONS)}", "conditions")


def _check_amount(article: Article, amount: float) -> None:
    if amount <= 0:
        raise OutOfRange("is nothing: type how much came", "amount")
    if amount > MOST_IN_A_LOT[article.unit]:
        raise OutOfRange("is more than one lot holds: look at the unit", "amount")


def _named(told: ArticleTold) -> str:
    return f"{told.part_of}: {told.name}" if told.part_of else told.name


def _reason(words: str, lacks: str) -> str:
    if len(words.strip()) < 3:
        raise OutOfRange(lacks, "reason")
    return words.strip()
