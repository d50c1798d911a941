"""A whole shop out as one archive and in again: the same shop, beside the first; nothing of a spoiled one.

Of `cradle.archive.out`, `cradle.archive.back`, `cradle.archive.rows`.
"""

import io
import json
import re
import zipfile
from datetime import timedelta
from uuid import uuid4

from django.apps import apps
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone
from PIL import Image

from cradle.archive.back import MOST_BYTES
from cradle.bench.models import Event, Photo, Run
from cradle.jobs.models import Job
from cradle.shops.models import Gel, Shop
from cradle.stock.keeping import put_aside, receive
from cradle.stock.models import Lot, Movement
from cradle.training.models import Attempt, SignOff
from layup.stock.articles import Article
from tests.server.people import TwoShops

_ID = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")


class Archive(TwoShops):
    def setUp(self):
        super().setUp()
        # A shop that has worked: a product with its sheet, a tin, a run with a pot, a photo and a press taken back.
        self.assertTrue(self.epoxy.pk)
        tin = Article(kind="resin", product_id="epoxy-2-1")
        receive(self.shop, self.person, tin, 5000, received=self.shop.now().date(), batch="E-7")
        put_aside(self.lid, self.person, {})
        self.start_run()
        self.run_id = Run.objects.get().pk
        self.tap("touched", a_g=60, b_g=27)
        wrong = self.tap("note", words="the wrong pot")
        back = {"tap_id": str(uuid4()), "reason": "it was another"}
        self.assertEqual(self.send("post", f"/api/runs/{self.run_id}/events/{wrong}/take-back", back)[0], 200)
        picture = io.BytesIO()
        Image.new("RGB", (40, 30), "teal").save(picture, "PNG")
        sent = {"tap_id": str(uuid4()), "about": "pot", "subject": "1", "happened_at": timezone.now().isoformat()}
        sent["photo"] = SimpleUploadedFile("a.png", picture.getvalue())
        self.assertEqual(self.client.post(f"/api/runs/{self.run_id}/photos", sent).status_code, 200)
        part = self.lid.latest().document["parts"][0]["id"]
        sent = {"id": str(uuid4()), "part_id": part, "photo": SimpleUploadedFile("b.png", picture.getvalue())}
        self.assertEqual(self.client.post(f"/api/jobs/{self.lid.pk}/photos", sent).status_code, 200)
        Gel.objects.create(
            shop=self.shop,
            tap_id=uuid4(),
            gelled_at=timezone.now(),
            resin_id=str(self.epoxy.pk),
            hardener_id="h",
            minutes=24,
            temperature_c=20,
            mass_g=100,
            left_out="a wet cup",
            left_out_by=self.person,
        )
        mate = User.objects.create(username="tern")
        self.shop.memberships.create(person=mate, role="laminator", learns=True)
        Attempt.objects.create(
            shop=self.shop, person=mate, tap_id=uuid4(), thing="tare-1", right=True, at=timezone.now()
        )
        SignOff.objects.create(shop=self.shop, person=mate, task="weigh", by=self.person)
        # Moments are those of the record, not of the day it is brought in.
        Run.objects.update(started_at=timezone.now() - timedelta(hours=3))
        Job.objects.filter(pk=self.lid.pk).update(created_at=timezone.now() - timedelta(days=400))

    def tap(self, kind: str, **data) -> int:
        event = {
            "tap_id": str(uuid4()),
            "about": "pot",
            "subject": "1",
            "kind": kind,
            "happened_at": timezone.now().isoformat(),
            "data": data,
        }
        status, answer = self.send("post", f"/api/runs/{self.run_id}/events", event)
        self.assertEqual(status, 200, answer)
        return answer["id"]

    def taken_out(self, shop=None, client=None) -> bytes:
        answer = (client or self.client).get(f"/api/shops/{(shop or self.shop).pk}/archive.zip")
        self.assertEqual(answer.status_code, 200)
        return b"".join(answer.streaming_content)

    def bring(self, content: bytes, client=None):
        sent = {"archive": SimpleUploadedFile("shop.zip", content)}
        answer = (client or self.client).post("/api/archive", sent)
        return answer.status_code, answer.json()

    def files(self, content: bytes) -> dict[str, bytes]:
        with zipfile.ZipFile(io.BytesIO(content)) as opened:
            return {name: opened.read(name) for name in opened.namelist()}

    def zipped(self, files: dict[str, bytes]) -> bytes:
        written = io.BytesIO()
        with zipfile.ZipFile(written, "w") as archive:
            for name, content in files.items():
                archive.writestr(name, content)
        return written.getvalue()

    def alike(self, content: bytes) -> dict[str, str]:
        """Its files without what must differ: ids, in the order they first stand, and the moment it was made."""
        seen: dict[str, str] = {}

        def named(found: re.Match) -> str:
            return seen.setdefault(found.group(), f"id {len(seen)}")

        told = {}
        for name, raw in sorted(self.files(content).items(), key=lambda file: _ID.sub("", file[0])):
            if name.endswith((".jpg", ".pdf")) or name in ("manifest.json", "people.json"):
                continue
            words = raw.decode()
            if name == "log.json":
                words = json.dumps({**json.loads(words), "deeds": []})
            told[_ID.sub("", name)] = _ID.sub(named, words.replace(", brought in", ""))
        return told

    def test_what_comes_in_is_what_went_out_beside_it(self):
        first = self.taken_out()
        status, made = self.bring(first)
        self.assertEqual(status, 200, made)
        second = Shop.objects.get(pk=made["id"])
        self.assertNotEqual(second.pk, self.shop.pk)
        # Times are kept to the millisecond, as JSON has them: what went out once goes out the same again.
        status, again = self.bring(self.taken_out(second))
        self.assertEqual(status, 200, again)
        one, other = self.alike(self.taken_out(second)), self.alike(self.taken_out(Shop.objects.get(pk=again["id"])))
        self.assertEqual(one.keys(), other.keys())
        for name in one:
            self.assertEqual(one[name], other[name], name)
        self.assertEqual(one.keys(), self.alike(first).keys())

    def test_it_works_on_there(self):
        made = self.bring(self.taken_out())[1]
        shop = Shop.objects.get(pk=made["id"])
        run = Run.objects.get(job__shop=shop)
        self.assertEqual(self.get(f"/api/runs/{run.pk}/as-built")[0], 200)
        built = self.get(f"/api/runs/{run.pk}/as-built")[1]["built"]
        self.assertEqual([each["kind"] for each in built["deviations"] if each["kind"] == "taken back"], ["taken back"])
        self.assertEqual(sum(each["photo"] is not None for each in built["noted"]), 1)
        photo = Photo.objects.get(event__run=run)
        self.assertEqual(self.client.get(f"/api/runs/{run.pk}/photos/{photo.event_id}").status_code, 200)
        lot = Lot.objects.get(shop=shop)
        self.assertEqual((lot.batch, lot.left), ("E-7", 5000 - 60))
        self.assertEqual(self.get(f"/api/jobs/{run.job_id}")[0], 200)
        self.assertEqual(self.get(f"/api/shops/{shop.pk}/jobs")[0], 200)
        self.assertLess(run.started_at, timezone.now() - timedelta(hours=2))
        product = shop.products.get()
        self.assertEqual(shop.gels.get().resin_id, str(product.pk))
        self.assertEqual(self.client.get(f"/api/shelf/{product.pk}/sheets/{product.sheets.get().pk}").status_code, 200)
        # What is pressed there moves that shop's tins, and not the first one's.
        before = Lot.objects.get(shop=self.shop).left
        self.run_id = run.pk
        back = {"tap_id": str(uuid4()), "reason": "never poured"}
        # The note was taken back and the photo rests on no pot: what was poured can be taken back too.
        touched = Event.objects.get(run=run, kind="touched").pk
        self.assertEqual(self.send("post", f"/api/runs/{run.pk}/events/{touched}/take-back", back)[0], 200)
        lot.refresh_from_db()
        self.assertEqual((lot.left, Lot.objects.get(shop=self.shop).left), (5000, before))

    def test_who_is_named_in_it_gets_no_way_in(self):
        status, made = self.bring(self.taken_out(), self.foreign)
        self.assertEqual(status, 200)
        shop = Shop.objects.get(pk=made["id"])
        self.assertEqual([each.person for each in shop.memberships.all()], [self.stranger])
        named = User.objects.get(username="wren, brought in")
        self.assertFalse(named.is_active)
        self.assertFalse(named.has_usable_password())
        self.assertEqual(Event.objects.filter(run__job__shop=shop).first().by, named)
        self.assertEqual(self.get(f"/api/shops/{shop.pk}/jobs")[0], 404)

    def test_no_table_of_a_shop_is_forgotten(self):
        """A new table goes out and comes back, or is named here with why it does not."""
        taken = {"Shop", "Reading", "Gel", "Stirred", "Shot", "Deed", "Membership"}
        taken |= {"Product", "ProductRevision", "DataSheet", "Job", "JobRevision", "Tick", "Run", "Event", "Photo"}
        taken |= {"PartPhoto", "Warmth", "Lot", "Movement", "Aside", "Attempt", "SignOff"}
        # Ways in, and what stands at this machine alone; how one person likes his screens.
        left = {
            "Invitation",
            "Try",
            "Preferences",
            "Device",
            "Code",
            "ShortNumber",
            "Place",
            "Instrument",
            "ScaleCheck",
        }
        ours = {model.__name__ for model in apps.get_models() if model.__module__.startswith("cradle.")}
        self.assertEqual(ours, taken | left)

    def test_only_an_owner_takes_it_out(self):
        self.assertEqual(self.foreign.get(f"/api/shops/{self.shop.pk}/archive.zip").status_code, 404)
        self.shop.memberships.update(role="laminator")
        self.assertEqual(self.client.get(f"/api/shops/{self.shop.pk}/archive.zip").status_code, 403)

    def test_nothing_secret_goes_out(self):
        self.shop.calendar_token = "a-token-of-the-calendar"
        self.shop.save()
        everything = b"".join(self.files(self.taken_out()).values())
        for secret in (b"a-token-of-the-calendar", self.person.password.encode(), b"pbkdf2", b"md5$"):
            self.assertNotIn(secret, everything)

    def test_a_spoiled_archive_brings_in_nothing(self):
        whole = self.files(self.taken_out())
        run_file = next(name for name in whole if "/runs/" in name and name.endswith(".json"))
        stock = json.loads(whole["stock.json"])
        stock["lots"][0]["left"] += 1
        less = json.loads(whole["stock.json"])
        less["lots"][0]["left"] = -5
        events = json.loads(whole[run_file])
        events["events"][0]["kind"] = "flew away"
        facts = json.loads(whole["shop.json"])
        facts["facts"]["opens_h"] = 99
        zone = json.loads(whole["shop.json"]) | {"time_zone": "Atlantis/Sunk"}
        shops, people = Shop.objects.count(), User.objects.count()
        for name, spoiled in {
            "no archive at all": b"not a zip",
            "a zip of something else": self.zipped({"a.txt": b"a"}),
            "newer": self.zipped(whole | {"manifest.json": b'{"version": 99}'}),
            "no version": self.zipped(whole | {"manifest.json": b"{}"}),
            "cut off": self.taken_out()[:-400],
            "no stock": self.zipped({name: told for name, told in whole.items() if name != "stock.json"}),
            "a stock that does not add up": self.zipped(whole | {"stock.json": json.dumps(stock).encode()}),
            "a stock under nought": self.zipped(whole | {"stock.json": json.dumps(less).encode()}),
            "an event of no kind": self.zipped(whole | {run_file: json.dumps(events).encode()}),
            "hours that are none": self.zipped(whole | {"shop.json": json.dumps(facts).encode()}),
            "a zone that is none": self.zipped(whole | {"shop.json": json.dumps(zone).encode()}),
            "a list for a shop": self.zipped(whole | {"shop.json": b"[]"}),
            "no JSON": self.zipped(whole | {"log.json": b"\xff\xfe{"}),
            "deep": self.zipped(whole | {"log.json": b"[" * 100_000}),
        }.items():
            with self.subTest(name):
                status, answer = self.bring(spoiled)
                self.assertEqual((status, answer["problems"][0]["path"]), (422, "archive"), answer)
                self.assertEqual((Shop.objects.count(), User.objects.count()), (shops, people))
        self.assertEqual(Movement.objects.filter(lot__shop=self.shop).count(), 2)
        self.assertLess(len(self.taken_out()), MOST_BYTES)
