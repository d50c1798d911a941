"""Routes of what was built: to look at, on paper, as files, as tags for the parts."""

from uuid import UUID

from django.http import HttpRequest
from django.utils.text import slugify
from ninja import Router, Schema

from cradle.bench.built import built_of, cost_of, photos_of
from cradle.bench.models import Run
from cradle.bench.routes import run_of
from cradle.jobs.prints import CSV
from cradle.jobs.routes import download
from cradle.lan.standing import address_for_all
from cradle.shops.preferences import facts_for
from layup.as_built.cost import BuiltCost
from layup.as_built.damaged import damage_of
from layup.as_built.outcome import AsBuilt
from layup.as_built.report import report_pdf, tags_pdf
from layup.as_built.table import as_built_csv
from layup.as_built.words import LayerSaid, gel_words, layer_said
from layup.bench.card import CardLane
from layup.damage import Damage
from layup.paper.kit import Masthead, Paper

router = Router(tags=["as built"])


class BuiltOut(Schema):
    """What a run built, with its words for each layer of each place and for each pot, its lanes as they lie flat, and what a
    damage of each place begins with."""

    shop_id: UUID
    job_id: UUID
    built: AsBuilt
    layers_said: list[list[LayerSaid]]
    pots_said: list[str]
    lanes: list[CardLane]
    cost: BuiltCost | None
    damages: list[Damage | None]


def _head(request: HttpRequest, run: Run, paper: Paper) -> Masthead:
    shop = run.job.shop
    scales = facts_for(request.user, shop).scales
    return Masthead(run.document["name"], run.revision_number, shop.now().date(), paper, scales)


def _name(run: Run, what: str) -> str:
    return f"{slugify(run.document['name']) or 'job'}-{what}"


def _address(request: HttpRequest, run: Run) -> str:
    return f"{address_for_all(request)}/built/{run.pk}"


@router.get("/runs/{uuid:run_id}/as-built", response=BuiltOut)
def read_as_built(request: HttpRequest, run_id: UUID):
    """What a run built: each place with its layers as they were laid, its pots, what was done otherwise, notes and photos."""
    run = run_of(request, run_id)
    built, scales = built_of(run), facts_for(request.user, run.job.shop).scales
    return BuiltOut(
        shop_id=run.job.shop_id,
        job_id=run.job_id,
        built=built,
        layers_said=[[layer_said(layer, place, built, scales) for layer in place.layers] for place in built.places],
        pots_said=[gel_words(pot) for pot in built.pots],
        lanes=list(run.issued_card.lanes) if run.issued_card else [],
        cost=cost_of(run, built),
        damages=[damage_of(run.spec, place) for place in built.places],
    )


@router.get("/runs/{uuid:run_id}/as-built.json", response=str)
def as_built_as_json(request: HttpRequest, run_id: UUID):
    """The same as a file, by its published schema."""
    run = run_of(request, run_id)
    return download(built_of(run).model_dump_json(indent=1).encode(), _name(run, "as-built.json"))


@router.get("/runs/{uuid:run_id}/as-built.csv", response=str)
def as_built_as_csv(request: HttpRequest, run_id: UUID):
    """A row for each layer."""
    run = run_of(request, run_id)
    table = as_built_csv(built_of(run), facts_for(request.user, run.job.shop).scales)
    return download(table.encode(), _name(run, "as-built.csv"), CSV)


@router.get("/runs/{uuid:run_id}/as-built.pdf", response=str)
def as_built_as_pdf(request: HttpRequest, run_id: UUID, paper: Paper = "A4"):
    """The report, with its sections and photos."""
    run = run_of(request, run_id)
    built = built_of(run)
    report = report_pdf(_head(request, run, paper), built, _address(request, run), photos_of(run, built))
    return download(report, _name(run, "as-built.pdf"), "application/pdf")


@router.get("/runs/{uuid:run_id}/tags.pdf", response=str)
def tags_as_pdf(request: HttpRequest, run_id: UUID, paper: Paper = "A4"):
    """A tag for each place, with a code that opens it."""
    run = run_of(request, run_id)
    built = built_of(run)
    places = [(place, f"{_address(request, run)}?place={at}") for at, place in enumerate(built.places, 1)]
    return download(tags_pdf(_head(request, run, paper), built, places), _name(run, "tags.pdf"), "application/pdf")
