"""Routes of what a job has of the stock: what is free for it and put aside, the lots of its pots, the tins it is poured from."""

from datetime import date
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema

from cradle.bench.models import Run
from cradle.bench.running import card_of, stories_of, taken_of
from cradle.jobs.models import Job
from cradle.jobs.prints import JobInHand
from cradle.jobs.routes import job_of
from cradle.stock.drawing import chosen_tins, held_of, keeps_of
from cradle.stock.keeping import free_for, leads_for, let_go, put_aside, told_of
from cradle.stock.models import Lot
from layup.job import JobSpec
from layup.preparing.buying import needs
from layup.stock.articles import ArticleKind, Unit, mixed_from
from layup.stock.lead import LeadTime
from layup.stock.lots import Keeping, Kept, in_order, kept
from layup.stock.lots import Lot as LotFact
from layup.stock.needs import together

router = Router(tags=["stock"])


class FreeOut(Schema):
    """What stands in the shop for a job, by article: there, free of others, and put aside for it; and how long each took to
    come, with the day it is to be ordered on for the job's start.
    """

    free: dict[str, float]
    aside: dict[str, float]
    lead: dict[str, LeadTime]


class AsideIn(Schema):
    """Whether a job's need is put aside, as far as it is free."""

    aside: bool


@router.get("/jobs/{uuid:job_id}/free", response=FreeOut)
def read_free(request: HttpRequest, job_id: UUID):
    """What stands in the shop for a job."""
    return _free(job_of(request, job_id))


def _free(job: Job) -> FreeOut:
    aside = {each.article.key: each.still for each in job.asides.with_drawn()}
    return FreeOut(free=free_for(job), aside=aside, lead=leads_for(job))


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


class ShortInPot(Schema):
    """So much of what a pot took that no lot has given: there is less in the stock than was poured."""

    name: str
    amount: float
    unit: Unit


class PotLots(Schema):
    """The lots that a pot of a run is of, and what it took beside them of what the shop keeps a stock of."""

    number: int
    lots: list[LotInPot]
    short: list[ShortInPot]


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
    """Which lots each pot of a run is of, and what of it no lot has given."""
    run = get_object_or_404(Run.objects.of(request.user).with_events().select_related("job__shop"), pk=run_id)
    held, short = held_of(run), _short_in(run)
    return [
        PotLots(
            number=number,
            lots=[_in_pot(lot, amount) for lot, amount in held.get(number, {}).items()],
            short=short.get(number, []),
        )
        for number in sorted(held.keys() | short.keys())
    ]


def _short_in(run: Run) -> dict[int, list[ShortInPot]]:
    """What the pots of a run took beyond their lots, of articles that the shop keeps a stock of."""
    shop = run.job.shop
    kept_here = {
        f"{kind} {product}" for kind, product in shop.lots.values_list("article_kind", "product_id").distinct()
    }
    if run.simulated or not kept_here:
        return {}
    told, held = told_of(shop), held_of(run)
    card = card_of(run) if run.issued_card else None
    found: dict[int, list[ShortInPot]] = {}
    for story in stories_of(run):
        drawn: dict[str, float] = {}
        for lot, amount in held.get(story.number, {}).items():
            drawn[lot.article.key] = drawn.get(lot.article.key, 0.0) + amount
        for key, amount in together(taken_of(run, story, card)).items():
            lacking = round(amount - drawn.get(key, 0.0), 1)
            if lacking > 0 and key in kept_here and key in told:
                short = ShortInPot(name=told[key].name, amount=lacking, unit=told[key].article.unit)
                found.setdefault(story.number, []).append(short)
    return found


def _in_pot(lot: Lot, amount: float) -> LotInPot:
    return LotInPot(id=lot.pk, name=lot.name, batch=lot.batch, amount=amount, unit=lot.article.unit, bad=lot.bad)


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
