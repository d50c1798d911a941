"""A whole shop as one archive of open files: jobs with their runs and photos, the shelf, the stock, the log."""

import csv
import io
from collections.abc import Iterator
from datetime import datetime
from mimetypes import guess_extension
from typing import IO
from zipfile import ZIP_DEFLATED, ZIP_STORED, ZipFile

from django.utils.text import slugify

from cradle.archive.rows import Row, row_of, text_of
from cradle.bench.models import Photo, Run
from cradle.instruments.models import Warmth
from cradle.jobs.models import Job
from cradle.shelf.models import DataSheet
from cradle.shops.models import Shop
from cradle.stock.models import Movement

VERSION = 1
_READ_ME = """This is a whole shop, taken out of Inch Cradle.

shop.json        the shop: its tools, its practice, its week
people.json      who belongs to it (no passwords)
practice.json    what its learners tried, and what was signed for them
readings.json    its room, as it was read
log.json         gels, fillers and infusions that it has learned from
products/        its own products, each with its revisions; sheets/ their data sheets
stock.json       lots and all that came and went; stock.csv what is left
jobs/            a folder for each job: job.json is the job file, history.json its revisions, photos/ of its parts,
                 runs/ what was done at the bench, with photos

All of it is plain JSON, CSV, PDF and JPEG. It can be brought in again under Shop.
"""


def write_archive(shop: Shop, to: IO[bytes], now: datetime) -> None:
    """Write all of a shop but its passwords, tablets and instruments."""
    with ZipFile(to, "w", ZIP_DEFLATED) as archive:
        archive.writestr("README.txt", _READ_ME)
        for name, told in _files(shop, now):
            archive.writestr(name, told if isinstance(told, bytes) else text_of(told), _packing(name))


def _packing(name: str) -> int:
    """What is packed already is not packed again."""
    return ZIP_STORED if name.endswith((".jpg", ".pdf", ".png")) else ZIP_DEFLATED


def _files(shop: Shop, now: datetime) -> Iterator[tuple[str, Row | list | bytes]]:
    yield "manifest.json", {"archive": "a shop of Inch Cradle", "version": VERSION, "made_at": now}
    yield "shop.json", row_of(shop, without=("id", "calendar_token"))
    members = shop.memberships.select_related("person").order_by("person__username")
    yield (
        "people.json",
        [{"name": each.person.get_username(), "role": each.role, "learns": each.learns} for each in members],
    )
    yield (
        "practice.json",
        {
            "attempts": [row_of(each) for each in shop.attempts.select_related("person")],
            "sign_offs": [row_of(each) for each in shop.sign_offs.select_related("person", "by")],
        },
    )
    yield "readings.json", [row_of(each) for each in shop.readings.select_related("read_by")]
    yield (
        "log.json",
        {
            "gels": [row_of(each) for each in shop.gels.select_related("left_out_by")],
            "stirred": [row_of(each) for each in shop.stirred.select_related("left_out_by")],
            "shots": [row_of(each) for each in shop.shots.select_related("left_out_by")],
            "deeds": [row_of(each) for each in shop.deeds.select_related("by").order_by("id")],
        },
    )
    yield from _products(shop)
    yield "stock.json", _stock(shop)
    yield "stock.csv", _table(shop)
    for number, job in enumerate(shop.jobs.order_by("created_at", "id"), 1):
        yield from _job(number, job)


def _products(shop: Shop) -> Iterator[tuple[str, Row | bytes]]:
    for product in shop.products.all():
        sheets = list(product.sheets.select_related("added_by"))
        yield (
            f"products/{product.pk}.json",
            row_of(product)
            | {
                "revisions": [row_of(each) for each in product.revisions.select_related("saved_by").order_by("id")],
                "sheets": [row_of(sheet) | {"file": _sheet_file(sheet)} for sheet in sheets],
            },
        )
        for sheet in sheets:
            yield _sheet_file(sheet), bytes(sheet.content)


def _sheet_file(sheet: DataSheet) -> str:
    return f"products/sheets/{sheet.pk}{guess_extension(sheet.content_type) or '.bin'}"


def _stock(shop: Shop) -> Row:
    """Movements stand in the order they were made; what is put aside says how many of them came before it."""
    movements = list(Movement.objects.filter(lot__shop=shop).select_related("by").order_by("id"))
    return {
        "lots": [row_of(lot) for lot in shop.lots.all()],
        "movements": [
            row_of(each) | {"lot": each.lot_id, "job": each.job_id, "run": each.run_id} for each in movements
        ],
    }


def _table(shop: Shop) -> bytes:
    text = io.StringIO()
    table = csv.writer(text)
    table.writerow(("kind", "product", "lot", "left", "use by", "place"))
    for lot in shop.lots.all():
        table.writerow((lot.article_kind, lot.name, lot.batch, f"{lot.left:g}", lot.expires or "", lot.place))
    return text.getvalue().encode()


def _job(number: int, job: Job) -> Iterator[tuple[str, Row | bytes]]:
    newest = job.latest()
    folder = f"jobs/{number:03}-{slugify(newest.name()) or 'job'}"
    before = Movement.objects.filter(lot__shop=job.shop)
    yield f"{folder}/job.json", newest.document
    yield (
        f"{folder}/history.json",
        row_of(job, without=("strips", "found_by"))
        | {
            "revisions": [row_of(each) for each in job.revisions.select_related("saved_by").order_by("number")],
            "ticks": [row_of(each) for each in job.ticks.select_related("by")],
            "part_photos": [
                row_of(each) | {"file": f"{folder}/photos/{each.pk}.jpg"}
                for each in job.part_photos.select_related("by")
            ],
            "asides": [
                row_of(each, without=("since",)) | {"after_movements": before.filter(pk__lte=each.since).count()}
                for each in job.asides.select_related("by")
            ],
        },
    )
    for photo in job.part_photos.all():
        yield f"{folder}/photos/{photo.pk}.jpg", bytes(photo.content)
    for nth, run in enumerate(job.runs.order_by("started_at", "id"), 1):
        yield from _run(f"{folder}/runs/{nth:02}", run)


def _run(place: str, run: Run) -> Iterator[tuple[str, Row | bytes]]:
    events = list(run.events.select_related("by", "takes_back").order_by("id"))
    yield (
        f"{place}.json",
        row_of(run)
        | {
            "events": [
                row_of(event) | {"takes_back": event.takes_back and event.takes_back.tap_id} for event in events
            ],
            "warmths": [row_of(each) for each in Warmth.objects.filter(run=run).order_by("id")],
        },
    )
    for photo in Photo.objects.filter(event__in=events).select_related("event"):
        yield f"{place}-photos/{photo.event.tap_id}.jpg", bytes(photo.content)
