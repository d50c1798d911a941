"""Routes of what a job has of the stock: what is free for it and put aside, the lots of its pots, the tins it is poured from."""

from datetime import date
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema

from cradle.bench.models import Run
from cradle.jobs.models import Job
from cradle.jobs.prints import JobInHand
from cradle.jobs.routes import job_of
from cradle.stock.drawing import chosen_tins, held_of, keeps_of
from cradle.stock.keeping import free_for, let_go, put_aside
from cradle.stock.models import Lot
from layup.job import JobSpec
from layup.preparing.buying import needs
from layup.stock.articles import ArticleKind, Unit, mixed_from
from layup.stock.lots import Keeping, Kept, in_order, kept
from layup.stock.lots import Lot as LotFact

router = Router(tags=["stock"])


class FreeOut(Schema):
    """What stands in the shop for a job, by article: there, free of others, and put aside for it."""

    free: dict[str, float]
    aside: dict[str, float]


class AsideIn(Schema):
    """Whether a job's need is put aside, as far as it is free."""

    aside: bool


@router.get("/jobs/{uuid:job_id}/free", response=FreeOut)
def read_free(request: HttpRequest, job_id: UUID):
    """What stands in the shop for a job."""
    return _free(job_of(request, job_id))


def _free(job: Job) -> FreeOut:
    aside = {each.article.key: each.still for each in job.asides.with_drawn()}
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
    return [
        PotLots(number=number, lots=[_in_pot(lot, amount) for lot, amount in lots.items()])
        for number, lots in sorted(held_of(run).items())
    ]


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
