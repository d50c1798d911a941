"""A shop brought in from an archive: as a shop of its own, beside what is there; every id of it given anew."""

import json
import logging
import re
from collections import defaultdict
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import IO, Any
from uuid import UUID, uuid4
from zipfile import BadZipFile, ZipFile

from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from pydantic import ValidationError as PydanticError

from cradle.archive.out import VERSION
from cradle.archive.rows import Row, keep, made_of, of_kind
from cradle.bench.models import Event, Photo, Run
from cradle.instruments.models import Warmth
from cradle.jobs.models import Job, JobRevision, PartPhoto, Tick
from cradle.pictures import small
from cradle.shelf.models import DataSheet, Product, ProductRevision
from cradle.shops.models import Deed, Gel, Membership, Reading, Role, Shop, Shot, Stirred
from cradle.stock.models import Aside, Lot, Movement
from cradle.training.models import Attempt, SignOff
from layup.bench.card import BenchCard
from layup.errors import LayupError, OutOfRange, Unreadable
from layup.job_file import read_document
from layup.shelf import read_product
from layup.shop_facts import ShopFacts
from layup.stock.lots import DIGITS
from layup.week.people import ShopWeek

logger = logging.getLogger(__name__)
MOST_BYTES = 200_000_000
_MOST_UNPACKED_BYTES = 1_000_000_000
_MOST_FILES = 50_000
_AN_ID = re.compile(r"\b[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}\b")
_A_JOB = re.compile(r"jobs/[^/]+/history\.json")
_WRONG = (ValidationError, PydanticError, LayupError, KeyError, TypeError, ValueError, AttributeError, IntegrityError)


class _Archive:
    """The files of an archive, with every id in them given anew: the same one everywhere."""

    def __init__(self, opened: ZipFile):
        self._opened = opened
        self._anew: dict[str, str] = defaultdict(lambda: str(uuid4()))
        infos = opened.infolist()
        if len(infos) > _MOST_FILES or sum(info.file_size for info in infos) > _MOST_UNPACKED_BYTES:
            raise OutOfRange("holds more than any shop does", "archive")
        self.names = [info.filename for info in infos]
        self._of = {self.anew(name): name for name in self.names}

    def anew(self, words: str) -> str:
        """Words with the ids in them given anew."""
        return _AN_ID.sub(lambda found: self._anew[found.group()], words)

    def json(self, name: str, kind: type) -> Any:
        """A file as JSON: an object, or a list."""
        with _reading(name):
            return of_kind(json.loads(self.anew(self._opened.read(name).decode())), kind)

    def content(self, name: str) -> bytes:
        """A file as it is, by the name it has now."""
        with _reading(name):
            return self._opened.read(self._of[name])


@contextmanager
def _reading(name: str) -> Iterator[None]:
    """Whatever is wrong in a file is said of that file."""
    try:
        yield
    except Unreadable:
        raise
    except (*_WRONG, BadZipFile, RecursionError) as failed:
        logger.info("%s: %r", name, failed)
        raise Unreadable(
            f"{name} in it is not as this program writes it: nothing was brought in", "archive"
        ) from failed


def bring_in(sent: IO[bytes], person: User) -> Shop:
    """A new shop of what an archive holds, this person its owner. All of it, or nothing: raises Unreadable, at `archive`.

    Whoever else is named in it becomes a name without a password.
    """
    try:
        opened = ZipFile(sent)
    except BadZipFile as failed:
        raise Unreadable(
            "is no archive of a shop: choose the file that was taken out under Shop", "archive"
        ) from failed
    with opened, transaction.atomic():
        archive = _Archive(opened)
        if "manifest.json" not in archive.names:
            raise Unreadable("is no archive of a shop: choose the file that was taken out under Shop", "archive")
        manifest = archive.json("manifest.json", dict)
        if not isinstance(manifest.get("version"), int) or manifest["version"] > VERSION:
            raise Unreadable("was taken out by a newer version of this program: bring this one up to date", "archive")
        return _Bringing(archive, person).shop()


class _Bringing:
    def __init__(self, archive: _Archive, person: User):
        self._archive, self._me = archive, person
        self._people: dict[str, User] = {person.get_username(): person}

    def person(self, name: str) -> User:
        """Who is named in the archive: oneself, or a name that nobody signs in with."""
        if name not in self._people:
            named = User(username=_free_name(name), is_active=False)
            named.set_unusable_password()
            named.save()
            self._people[name] = named
        return self._people[name]

    def _made(self, model, row: Row, **links):
        return made_of(model, of_kind(row, dict), self.person, **links)

    def shop(self) -> Shop:
        archive = self._archive
        with _reading("shop.json"):
            row = archive.json("shop.json", dict)
            ShopFacts.model_validate(row["facts"])
            ShopWeek.model_validate(row["week"])
            if Shop.objects.of(self._me).filter(name=row["name"]).exists():
                row["name"] = f"{row['name'][:60]}, brought in"
            (shop,) = keep([self._made(Shop, row)])
            # A zone or a currency that is none would break every page of the shop.
            shop.now()
        Membership.objects.create(shop=shop, person=self._me, role=Role.OWNER)
        with _reading("readings.json"):
            keep([self._made(Reading, row, shop=shop) for row in archive.json("readings.json", list)])
        with _reading("log.json"):
            log = archive.json("log.json", dict)
            for model, name in ((Gel, "gels"), (Stirred, "stirred"), (Shot, "shots"), (Deed, "deeds")):
                rows = keep([self._made(model, row, shop=shop) for row in log[name]])
                if model is not Deed:
                    [row.fact() for row in rows]
        # None in what was taken out before there was practice.
        if "practice.json" in archive.names:
            with _reading("practice.json"):
                practice = archive.json("practice.json", dict)
                for model, name in ((Attempt, "attempts"), (SignOff, "sign_offs")):
                    [row.fact() for row in keep([self._made(model, row, shop=shop) for row in practice[name]])]
        for name in archive.names:
            if re.fullmatch(r"products/[^/]+\.json", name):
                self._product(name, shop)
        jobs: dict[str, Job] = {}
        runs: dict[str, Run] = {}
        asides: list[tuple[Job, Row]] = []
        for name in sorted(filter(_A_JOB.fullmatch, archive.names)):
            job, waiting = self._job(name, shop)
            jobs[str(job.pk)] = job
            asides += [(job, row) for row in waiting]
            folder = name.removesuffix("history.json")
            for of_run in sorted(
                each for each in archive.names if re.fullmatch(f"{re.escape(folder)}runs/[^/]+\\.json", each)
            ):
                run = self._run(of_run, job)
                runs[str(run.pk)] = run
        with _reading("stock.json"):
            self._stock(shop, jobs, runs, asides)
        return shop

    def _product(self, name: str, shop: Shop) -> None:
        with _reading(name):
            row = self._archive.json(name, dict)
            product = self._made(Product, row, shop=shop)
            read_product(product.kind, product.document)
            keep([product])
            keep([self._made(ProductRevision, each, product=product) for each in row["revisions"]])
            sheets = [
                self._made(DataSheet, each, product=product, content=self._archive.content(each["file"]))
                for each in row["sheets"]
            ]
            keep(sheets)

    def _job(self, name: str, shop: Shop) -> tuple[Job, list[Row]]:
        with _reading(name):
            row = self._archive.json(name, dict)
            (job,) = keep([self._made(Job, row, shop=shop, strips={}, found_by={})])
            revisions = [self._made(JobRevision, each, job=job) for each in row["revisions"]]
            read_document(max(revisions, key=lambda revision: revision.number).document)
            keep(revisions)
            keep([self._made(Tick, each, job=job) for each in row["ticks"]])
            # An archive of a version that kept none has none.
            for each in of_kind(row.get("part_photos", []), list):
                content, _ = small(self._archive.content(each["file"]))
                keep([self._made(PartPhoto, each, job=job, content=content)])
            return job, of_kind(row["asides"], list)

    def _run(self, name: str, job: Job) -> Run:
        with _reading(name):
            row = self._archive.json(name, dict)
            (run,) = keep([self._made(Run, row, job=job)])
            ShopFacts.model_validate(run.shop_facts)
            if run.card:
                BenchCard.model_validate(run.card)
            _ = run.spec, run.issued
            rows = of_kind(row["events"], list)
            made = keep([self._made(Event, each, run=run) for each in rows])
            by_tap = {str(event.tap_id): event for event in made}
            backs = []
            for event, told in zip(made, rows, strict=True):
                if told["takes_back"]:
                    event.takes_back = by_tap[told["takes_back"]]
                    backs.append(event)
                event.fact()
            Event.objects.bulk_update(backs, ["takes_back"])
            keep([self._made(Warmth, each, run=run) for each in row["warmths"]])
            self._photos(name, by_tap)
            return run

    def _photos(self, name: str, by_tap: Mapping[str, Event]) -> None:
        """A photo is made small anew: what comes in is a picture, whatever it was called."""
        folder = f"{name.removesuffix('.json')}-photos/"
        for place in self._archive.names:
            if place.startswith(folder) and place.endswith(".jpg"):
                now = self._archive.anew(place)
                content, _ = small(self._archive.content(now))
                Photo.objects.create(event=by_tap[now[len(folder) : -len(".jpg")]], content=content)

    def _stock(
        self, shop: Shop, jobs: Mapping[str, Job], runs: Mapping[str, Run], asides: list[tuple[Job, Row]]
    ) -> None:
        told = self._archive.json("stock.json", dict)
        lots = {str(lot.pk): lot for lot in keep([self._made(Lot, row, shop=shop) for row in told["lots"]])}
        made = keep(
            [
                self._made(
                    Movement,
                    row,
                    lot=lots[row["lot"]],
                    job=jobs[row["job"]] if row["job"] else None,
                    run=runs[row["run"]] if row["run"] else None,
                )
                for row in told["movements"]
            ]
        )
        sums: dict[UUID, float] = defaultdict(float)
        for movement in made:
            sums[movement.lot_id] += movement.amount
        if any(round(sums[lot.pk] - lot.left, DIGITS) for lot in lots.values()):
            raise ValueError("what is left of a lot is not the sum of what came and went")
        numbers = [0, *(movement.pk for movement in made)]
        keep(
            [
                self._made(Aside, row, job=job, since=numbers[min(row["after_movements"], len(made))])
                for job, row in asides
            ]
        )


def _free_name(name: str) -> str:
    """A name that nobody has on this server yet."""
    first = f"{name[:120]}, brought in"
    taken = set(User.objects.filter(username__startswith=first).values_list("username", flat=True))
    numbered = (first, *(f"{first} {number}" for number in range(2, len(taken) + 2)))
    return next(each for each in numbered if each not in taken)
