"""The route of the search: over all that a shop keeps."""

from collections.abc import Iterator
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router, Schema
from pydantic import Field

from cradle.bench.models import Event, Run
from cradle.jobs.search import MOST_ASKED, MOST_FOUND, FoundKind, Line, lines_of_jobs, matching
from cradle.shops.models import Shop
from cradle.shops.routes import shop_of

router = Router(tags=["search"])
# Notes of so many presses are looked through, the last first.
_MOST_NOTES = 5000


class FoundOut(Schema):
    """One thing found: what it is, of what, and what opens it. `run_id` is the last run of its job, of a part or a joint that
    was taken to the bench, or the run that a note is of."""

    kind: FoundKind
    id: str
    name: str
    of: str
    job_id: UUID | None = None
    run_id: UUID | None = None
    put_away: bool = False


class FoundList(Schema):
    """What was found; `more` where there is more than is listed."""

    found: list[FoundOut]
    more: bool


@router.get("/shops/{uuid:shop_id}/search", response=FoundList)
def search_shop(request: HttpRequest, shop_id: UUID, q: Annotated[str, Field(max_length=MOST_ASKED)] = Query("")):
    """Jobs, parts, joints, pours, products, lots and notes that hold every word asked for."""
    shop = shop_of(request, shop_id)
    lines = [line for kind in (lines_of_jobs, _products, _lots, _notes) for line in matching(q, kind(shop))]
    listed = lines[:MOST_FOUND]
    jobs = {line.job.pk for line in listed if line.job}
    runs = dict(Run.objects.filter(job__in=jobs, simulated=False).order_by("started_at").values_list("job_id", "pk"))
    return FoundList(found=[_out(line, runs) for line in listed], more=len(lines) > len(listed))


def _out(line: Line, runs: dict[UUID, UUID]) -> FoundOut:
    if line.kind == "note":
        return FoundOut(kind=line.kind, id=line.id, name=line.name, of=line.of, run_id=UUID(line.id))
    job = line.job
    return FoundOut(
        kind=line.kind,
        id=line.id,
        name=line.name,
        of=line.of,
        job_id=job and job.pk,
        run_id=runs.get(job.pk) if job else None,
        put_away=job is not None and job.put_away_at is not None,
    )


def _products(shop: Shop) -> Iterator[Line]:
    for product in shop.products.all():
        yield Line("product", str(product.pk), str(product.document.get("name", "")), product.kind)


def _lots(shop: Shop) -> Iterator[Line]:
    for lot_id, name, *beside in shop.lots.values_list("pk", "name", "batch", "place"):
        yield Line("lot", str(lot_id), name, " ".join(word for word in ("lot", *beside) if word))


def _notes(shop: Shop) -> Iterator[Line]:
    """Whatever somebody wrote at the bench."""
    written = Event.objects.filter(run__job__shop=shop, run__job__deleted_at=None, data__words__isnull=False)
    rows = written.order_by("-id").values_list("run_id", "run__document__name", "data__words")[:_MOST_NOTES]
    for run_id, name, words in rows:
        if isinstance(words, str) and words:
            yield Line("note", str(run_id), words, str(name))
