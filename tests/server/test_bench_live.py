"""The live bench over the wire: what a tablet begins with, what it taps, what all others hear.

Of `layup.bench.state`, `layup.bench.issue`.
"""

import asyncio
import json
from contextlib import suppress
from datetime import timedelta
from io import BytesIO
from uuid import uuid4

from asgiref.sync import sync_to_async
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connections
from django.test import Client, TransactionTestCase
from django.utils import timezone
from PIL import Image
from PIL.ExifTags import IFD, Base

from cradle.asgi import application
from cradle.bench.models import Event, Photo, Run
from cradle.bench.running import issue_run, record_event, state_of
from cradle.bench.stream import HUB
from cradle.jobs.ready import before_pot, tick_things
from cradle.jobs.saving import start_job
from cradle.pictures import MOST_BYTES
from cradle.shops.models import Membership
from layup.plan import plan
from tests.core.bench_days import JOBS
from tests.server.people import TwoShops, shop_with_person


class Tablet(TwoShops):
    """One run of a small panel, tapped by hand."""

    def setUp(self):
        super().setUp()
        self.panel = start_job(self.shop, JOBS["panel"], self.person).job
        self.run_id = self.start_run(self.panel)[1]["id"]
        self.begun = timezone.now() - timedelta(minutes=30)
        Run.objects.filter(pk=self.run_id).update(started_at=self.begun)
        self.bench = self.get(f"/api/runs/{self.run_id}/bench")[1]

    def tap(self, minute, kind, subject="1", about="pot", client=None, tap_id=None, **data):
        at = (self.begun + timedelta(minutes=minute)).isoformat()
        body = {"tap_id": str(tap_id or uuid4()), "about": about, "subject": subject, "kind": kind, "happened_at": at}
        return self.send("post", f"/api/runs/{self.run_id}/events", body | {"data": data}, client)

    def state(self):
        return state_of(Run.objects.with_events().get(pk=self.run_id))

    def weigh(self, pot: int, minute: float, of_b: float = 1.0):
        first, second = self.bench["card"]["pots"][pot - 1]["pours"]
        self.tap(minute - 1, "A in", str(pot), amount=first["amount"])
        return self.tap(minute, "B in", str(pot), amount=of_b * second["amount"])

    def test_a_tap_is_answered_with_what_changed_and_no_plan(self):
        status, answer = self.weigh(1, 5)
        self.assertEqual((status, answer["kind"], answer["by"]), (200, "B in", "wren"))
        self.assertLess(len(json.dumps(answer)), 600)
        self.assertEqual((self.state().pot(1).state, self.bench["card"]["pots"][0]["number"]), ("live", 1))

    def test_a_bench_is_given_all_that_it_goes_on_from(self):
        self.weigh(1, 5)
        again = self.get(f"/api/runs/{self.run_id}/bench")[1]
        self.assertEqual([event["kind"] for event in again["events"]], ["A in", "B in"])
        self.assertEqual(again["last_id"], max(event["id"] for event in again["events"]))
        self.assertEqual([pot["number"] for pot in again["card"]["pots"]], [1, 2])
        self.assertIn("slide it outdoors", " ".join(again["runaway"]["points"]))
        self.assertIsNone(again["peroxide"])

    def test_what_was_read_part_by_part_is_the_pots_story_and_teaches(self):
        self.weigh(1, 5)
        life = self.bench["card"]["pots"][0]["life_min"]
        self.assertEqual(self.tap(5 + 0.8 * life, "gelled")[0], 200)
        story = self.get(f"/api/runs/{self.run_id}")[1]["stories"][0]
        self.assertAlmostEqual(story["gel_error_pct"], -20, delta=0.5)
        self.assertAlmostEqual(story["ratio_error_pct"], 0, delta=1)
        self.assertEqual(self.shop.gels.count(), 1)

    def test_what_cannot_be_is_refused_in_words_at_its_field(self):
        coat = self.bench["card"]["layers"][1]["id"]
        for path, said in (
            ("data.amount", (3, "A in", "1", "pot", {"amount": -5})),
            ("subject", (3, "A in", "77", "pot", {"amount": 5})),
            ("subject", (3, "A in", "one", "pot", {"amount": 5})),
            ("subject", (3, "laid", "no such layer", "layer", {})),
            ("subject", (3, "opened", "1", "run", {})),
            ("about", (3, "laid", "1", "pot", {})),
            ("happened_at", (90, "A in", "1", "pot", {"amount": 5})),
            ("happened_at", (-3 * 24 * 60, "A in", "1", "pot", {"amount": 5})),
            ("kind", (3, "used up", "1", "pot", {})),
            ("kind", (3, "taken back", "1", "pot", {})),
            ("data.shows", (3, "tested", coat, "layer", {"test": "thumb", "shows": "green"})),
        ):
            minute, kind, subject, about, data = said
            with self.subTest(kind=kind, subject=subject):
                status, answer = self.tap(minute, kind, subject, about, **data)
                self.assertEqual((status, answer["problems"][0]["path"]), (422, path))
        self.assertEqual(Event.objects.count(), 0)

    def test_weighing_begins_again_until_both_parts_are_in(self):
        first = self.bench["card"]["pots"][0]["pours"][0]["amount"]
        self.tap(2, "A in", amount=first + 80)
        self.assertEqual(self.tap(3, "started over")[0], 200)
        self.assertEqual(self.state().pot(1).state, "planned")
        self.weigh(1, 6)
        status, refused = self.tap(7, "started over")
        self.assertEqual(status, 422)
        self.assertIn("it ages", refused["problems"][0]["message"])

    def test_two_who_press_the_same_are_told_and_it_counts_once(self):
        second = Client()
        second.force_login(self.stranger)
        Membership.objects.create(shop=self.shop, person=self.stranger)
        self.weigh(1, 5)
        self.assertEqual(self.tap(9, "used up")[0], 200)
        status, told = self.tap(9.1, "used up", client=second)
        self.assertEqual(status, 422)
        self.assertIn("already has “used up”, by wren", told["problems"][0]["message"])
        self.assertEqual(Event.objects.filter(kind="used up").count(), 1)

    def test_what_rests_on_a_tap_keeps_it(self):
        b_in = self.weigh(1, 5)[1]
        stirred = self.tap(7, "stirred")[1]
        path = f"/api/runs/{self.run_id}/events/{{}}/take-back"
        why = {"reason": "read wrong"}
        status, refused = self.send("post", path.format(b_in["id"]), why | {"tap_id": str(uuid4())})
        self.assertEqual(status, 422)
        self.assertIn("has “stirred” after it", refused["problems"][0]["message"])
        for event in (stirred, b_in):
            status, _ = self.send("post", path.format(event["id"]), why | {"tap_id": str(uuid4())})
            self.assertEqual(status, 200, event["kind"])
        self.assertEqual((self.state().pot(1).state, self.state().pot(1).second), ("weighing", None))

    def test_a_pot_of_which_one_part_is_in_is_neither_stirred_nor_used(self):
        self.tap(3, "A in", amount=self.bench["card"]["pots"][0]["pours"][0]["amount"])
        for kind in ("stirred", "used up", "dumped", "gelled"):
            status, refused = self.tap(4, kind)
            self.assertEqual((status, refused["problems"][0]["path"]), (422, "kind"), kind)

    def test_the_rest_is_planned_again_by_the_runs_own_clock_and_taken_once(self):
        self.weigh(1, 5)
        self.tap(9, "dumped", words="kicked over")
        tap_id = str(uuid4())
        path = f"/api/runs/{self.run_id}/plan"
        status, event = self.send("post", path, {"tap_id": tap_id})
        self.assertEqual((status, event["kind"]), (200, "plan taken"))
        self.assertEqual(self.send("post", path, {"tap_id": tap_id})[1]["id"], event["id"])
        status, refused = self.send("post", path, {"tap_id": str(uuid4())})
        self.assertEqual(status, 422)
        self.assertIn("wren took a new plan just before", refused["problems"][0]["message"])
        state = self.state()
        self.assertEqual(state.pot(1).state, "dumped")
        self.assertEqual(state.pots[1].number, 2)
        # Half an hour has gone by; its first pot was mixed after five minutes.
        planned = self.bench["card"]["pots"][0]["planned_touch_min"]
        self.assertGreaterEqual(state.card.pots[1].planned_touch_min, planned + 24)
        # A pot of the new plan is one of the run's: it is weighed, told, and has a story.
        last = state.card.pots[-1].number
        self.assertEqual(self.tap(20, "A in", str(last), amount=50)[0], 200)
        self.assertEqual(self.tap(20, "A in", str(last + 1), amount=50)[0], 422)
        self.assertEqual(self.send("post", path, {"tap_id": str(uuid4()), "instead_of": tap_id})[0], 200)

    def test_a_run_stays_what_it_was_when_its_job_is_edited(self):
        before = self.get(f"/api/runs/{self.run_id}/bench")[1]["card"]
        latest = self.panel.latest().document
        thicker = latest | {"parts": [latest["parts"][0] | {"plies": latest["parts"][0]["plies"][:1]}]}
        self.assertEqual(self.send("put", f"/api/jobs/{self.panel.pk}", {"base": latest, "document": thicker})[0], 200)
        self.assertEqual(self.get(f"/api/runs/{self.run_id}/bench")[1]["card"], before)

    def test_a_run_is_repeated_as_planned_or_as_done(self):
        self.tap(1, "opened", "", "run")
        self.tap(2, "room read", "", "run", room_c=23.5)
        self.weigh(1, 5)
        self.tap(9, "used up")
        layer = self.bench["card"]["layers"][0]["id"]
        self.tap(9, "laid", layer, "layer")
        self.tap(20, "tested", layer, "layer", test="thumb", shows="wet")
        run = self.get(f"/api/runs/{self.run_id}")[1]
        self.assertEqual(run["differs"], {"hands": None, "room_c": 23.5, "largest_g": None})
        (touch,) = run["touches"]
        self.assertEqual((touch["shows"], touch["most"]), ("wet", None))
        for as_done, room_c in ((False, None), (True, 23.5)):
            with self.subTest(as_done=as_done):
                sent = {"name": "Panel, again", "as_done": as_done}
                status, job = self.send("post", f"/api/runs/{self.run_id}/repeat", sent)
                self.assertEqual((status, job["document"]["name"]), (200, "Panel, again"))
                fixed = job["document"]["conditions"]
                self.assertEqual(fixed and fixed["room_c"], room_c)
                self.assertEqual(job["document"]["parts"], self.panel.latest().document["parts"])
        status, refused = self.send("post", f"/api/runs/{self.run_id}/repeat", {"name": "", "as_done": False})
        self.assertEqual((status, refused["problems"][0]["path"]), (422, "name"))

    def test_a_strip_is_laid_once_and_the_last_lays_its_layer(self):
        corner = start_job(self.shop, JOBS["tabbed corner"], self.person).job
        self.run_id = self.start_run(corner)[1]["id"]
        self.begun = timezone.now() - timedelta(minutes=30)
        tabbing = self.get(f"/api/runs/{self.run_id}/bench")[1]["card"]["layers"][-1]

        def lay(minute: float, number: int) -> tuple[int, str]:
            status, answer = self.tap(minute, "strip laid", tabbing["id"], "layer", number=number)
            return status, "" if status == 200 else answer["problems"][0]["message"]

        self.assertEqual((tabbing["strips"], [lay(3, 1)[0], lay(4, 2)[0]]), (3, [200, 200]))
        self.assertEqual(lay(5, 2), (422, "piece 2 is laid, by wren"))
        self.assertEqual(lay(5, 4), (422, "this layer is laid in 3 pieces"))
        self.assertIsNone(self.state().layers[-1].laid_min)
        wrong = Event.objects.get(data={"number": 2})
        status, _ = self.send(
            "post", f"/api/runs/{self.run_id}/events/{wrong.pk}/take-back", {"tap_id": str(uuid4()), "reason": "slid"}
        )
        self.assertEqual((status, lay(6, 2)[0], lay(7, 3)[0]), (200, 200, 200))
        self.assertIsNotNone(self.state().layers[-1].laid_min)

    def test_what_will_be_hidden_and_what_a_gauge_showed_are_written_down(self):
        coat = self.bench["card"]["layers"][-1]
        before = self.get(f"/api/runs/{self.run_id}/rest")[1]["pots"][-1]["mass_g"]
        self.assertEqual(self.tap(3, "film read", coat["id"], "layer", wet_um=2 * coat["wet_um"])[0], 200)
        self.assertGreater(self.get(f"/api/runs/{self.run_id}/rest")[1]["pots"][-1]["mass_g"], before)
        for path, (kind, subject, about, data) in (
            ("data.wet_um", ("film read", coat["id"], "layer", {"wet_um": 2})),
            ("subject", ("ticked", "no such face", "face", {})),
        ):
            status, answer = self.tap(4, kind, subject, about, **data)
            self.assertEqual((status, answer["problems"][0]["path"]), (422, path))

    def test_a_pot_whose_surface_is_read_tells_how_long_it_has(self):
        self.assertEqual(self.get(f"/api/runs/{self.run_id}/heard"), (200, []))
        self.weigh(1, 20)
        room_c = self.bench["card"]["pots"][0]["room_c"]
        for minute in range(22, 30):
            self.tap(minute, "surface", temperature_c=room_c + 0.3 * (minute - 20) ** 2)
        (heard,) = self.get(f"/api/runs/{self.run_id}/heard")[1]
        self.assertEqual((heard["number"], heard["readings"], heard["believed"], heard["fast"]), (1, 8, 8, True))
        self.assertTrue(heard["gels_low_min"] < heard["gels_min"] < heard["gels_high_min"])
        # What was taken back was never read.
        last = self.get(f"/api/runs/{self.run_id}/events")[1][-1]["id"]
        back = {"tap_id": str(uuid4()), "reason": "read off the floor"}
        self.send("post", f"/api/runs/{self.run_id}/events/{last}/take-back", back)
        self.assertEqual(self.get(f"/api/runs/{self.run_id}/heard")[1][0]["readings"], 7)

    def test_the_floor_shows_what_is_live_in_this_shop_alone(self):
        live = f"/api/shops/{self.shop.pk}/live"
        self.assertEqual(self.get(live)[1], [])
        self.tap(1, "opened", "", "run")
        self.weigh(1, 5)
        layer = self.bench["card"]["layers"][0]["id"]
        self.tap(12, "laid", layer, "layer")
        (run,) = self.get(live)[1]
        self.assertEqual((run["people"], run["pots"][0]["number"], run["layers"][0]["state"]), (["wren"], 1, "wet"))
        self.assertEqual(run["to_do"][0]["subject"], "1")
        self.assertEqual(self.foreign.get(live).status_code, 404)
        self.tap(20, "closed", "", "run", outcome="good")
        self.assertEqual(self.get(live)[1], [])

    def test_a_run_from_before_there_was_a_bench_says_so(self):
        Run.objects.filter(pk=self.run_id).update(card=None)
        status, refused = self.get(f"/api/runs/{self.run_id}/bench")
        self.assertEqual(status, 422)
        self.assertIn("take the job to the bench anew", refused["problems"][0]["message"])
        self.assertEqual(self.tap(3, "touched")[0], 200)


def camera(width=3000, height=2000, kind="JPEG", turned=6) -> bytes:
    """A photo as a phone takes it: turned on its side by its camera's word, with a place."""
    exif = Image.Exif()
    exif[Base.Orientation] = turned
    exif.get_ifd(IFD.GPSInfo)[1] = "N"
    exif.get_ifd(IFD.GPSInfo)[2] = (51.0, 30.0, 0.0)
    written = BytesIO()
    Image.effect_noise((width, height), 60).convert("RGB").save(written, kind, exif=exif)
    return written.getvalue()


class Photos(Tablet):
    def send_photo(self, raw: bytes, name="photo.jpg", tap_id=None, client=None):
        sent = {
            "tap_id": str(tap_id or uuid4()),
            "happened_at": timezone.now().isoformat(),
            "photo": SimpleUploadedFile(name, raw),
        }
        answer = (client or self.client).post(f"/api/runs/{self.run_id}/photos", sent)
        return answer.status_code, answer.json()

    def test_a_photo_is_kept_small_upright_and_without_its_place(self):
        raw, tap_id = camera(), uuid4()
        for _ in range(2):
            status, event = self.send_photo(raw, tap_id=tap_id)
            self.assertEqual((status, event["kind"], event["data"]), (200, "photo", {"width": 1067, "height": 1600}))
        self.assertEqual(Photo.objects.count(), 1)
        answer = self.client.get(f"/api/runs/{self.run_id}/photos/{event['id']}")
        self.assertEqual((answer["Content-Type"], answer["X-Content-Type-Options"]), ("image/jpeg", "nosniff"))
        with Image.open(BytesIO(answer.content)) as kept:
            self.assertEqual((kept.size, dict(kept.getexif()), "exif" in kept.info), ((1067, 1600), {}, False))
        self.assertLess(len(answer.content), len(raw))
        self.assertEqual(self.foreign.get(f"/api/runs/{self.run_id}/photos/{event['id']}").status_code, 404)
        self.assertEqual(self.send_photo(raw, client=self.foreign)[0], 404)

    def test_what_is_no_picture_is_refused_at_its_field_and_nothing_is_written(self):
        bomb = BytesIO()
        Image.new("1", (12_000, 9_000)).save(bomb, "PNG")
        for raw, said in (
            (b"%PDF-1.4", "no picture"),
            (b"", "no picture"),
            (camera()[:4000], "no picture"),
            (bomb.getvalue(), "12000 by 9000 pixels"),
            (b"0" * (MOST_BYTES + 1), "15 MB at most"),
        ):
            with self.subTest(said=said):
                status, refused = self.send_photo(raw)
                self.assertEqual((status, refused["problems"][0]["path"]), (422, "photo"))
                self.assertIn(said, refused["problems"][0]["message"])
        self.assertEqual(self.tap(3, "photo", "", "run", width=3, height=3)[0], 422)
        self.assertFalse(Event.objects.exists())

    def test_twenty_large_ones_are_all_kept(self):
        """Of 12 MB and more each, as a new phone takes them."""
        raw = camera(2600, 1950, "PNG")
        self.assertTrue(12_000_000 < len(raw) < MOST_BYTES, len(raw))
        for n in range(20):
            status, said = self.send_photo(raw if n % 10 == 0 else camera(40 + n, 30), f"{n}.png")
            self.assertEqual(status, 200, said)
        self.assertEqual(Photo.objects.count(), 20)


class Page:
    """A page that watches a shop's stream, over ASGI as a server would drive it."""

    def __init__(self, shop_id, client: Client, last: int | None = None):
        cookies = "; ".join(f"{name}={morsel.value}" for name, morsel in client.cookies.items())
        headers = [(b"cookie", cookies.encode()), (b"host", b"localhost")]
        if last is not None:
            headers.append((b"last-event-id", str(last).encode()))
        self.scope = {
            "type": "http",
            "method": "GET",
            "path": f"/api/shops/{shop_id}/stream",
            "query_string": b"",
            "headers": headers,
            "scheme": "http",
        }
        self.status, self.heard = 0, []
        self.news, self.leave = asyncio.Event(), asyncio.Event()

    async def send(self, message):
        self.status = message.get("status", self.status)
        for part in message.get("body", b"").decode().split("\n\n"):
            lines = dict(line.split(": ", 1) for line in part.splitlines() if ": " in line)
            if "id" in lines:
                self.heard.append(json.loads(lines["data"]))
        self.news.set()

    async def receive(self):
        await self.leave.wait()
        return {"type": "http.disconnect"}

    async def until(self, count: int):
        while len(self.heard) < count:
            self.news.clear()
            await asyncio.wait_for(self.news.wait(), 60)

    def open(self) -> asyncio.Task:
        return asyncio.ensure_future(application(self.scope, self.receive, self.send))

    async def opened(self):
        while not self.status:
            await asyncio.sleep(0.01)


class Stream(TransactionTestCase):
    """Every page of a shop hears each event once, from where it was; nobody else hears anything."""

    def setUp(self):
        self.shop, self.person = shop_with_person("Saltmarsh Slip", "wren")
        self.other, self.stranger = shop_with_person("Another Yard", "heron")
        job = start_job(self.shop, JOBS["panel"], self.person).job
        spec, facts = job.latest().spec(), self.shop.shop_facts()
        before = before_pot(job, spec, plan(spec, facts), facts)
        for kind, things in (("cut", [p.id for p in before.pieces]), ("prepare", [line.id for line in before.lines])):
            tick_things(before, job, self.person, tap_id=uuid4(), kind=kind, things=things, state="done")
        self.run_ = issue_run(job, self.person)
        self.mine, self.foreign = Client(), Client()
        self.mine.force_login(self.person)
        self.foreign.force_login(self.stranger)

    def tap(self, words: str) -> Event:
        """A note, written in a thread of its own as a server does."""
        try:
            return record_event(
                self.run_, self.person, tap_id=uuid4(), kind="note", happened_at=timezone.now(), data={"words": words}
            )
        finally:
            connections.close_all()

    async def tapped(self, words: str) -> Event:
        return await sync_to_async(self.tap, thread_sensitive=False)(words)

    async def closed(self, *pages: tuple[Page, asyncio.Task]):
        for page, task in pages:
            page.leave.set()
            with suppress(asyncio.CancelledError):
                await asyncio.wait_for(task, 60)

    async def test_pages_hear_each_event_once_and_go_on_from_the_last_they_heard(self):
        first, second = Page(self.shop.pk, self.mine), Page(self.shop.pk, self.mine)
        tasks = first.open(), second.open()
        await first.opened()
        await second.opened()
        events = [await self.tapped(f"note {n}") for n in range(5)]
        await first.until(5)
        await second.until(5)
        for page in (first, second):
            self.assertEqual([event["id"] for event in page.heard], [event.pk for event in events])
            self.assertEqual(page.heard[0]["data"], {"words": "note 0"})
        await self.closed((first, tasks[0]), (second, tasks[1]))
        await self.tapped("while nobody watched")
        back = Page(self.shop.pk, self.mine, last=events[2].pk)
        task = back.open()
        await back.until(3)
        last = await self.tapped("again")
        await back.until(4)
        self.assertEqual(
            [event["data"]["words"] for event in back.heard], ["note 3", "note 4", "while nobody watched", "again"]
        )
        self.assertEqual(back.heard[-1]["id"], last.pk)
        await self.closed((back, task))
        self.assertEqual(HUB._pages, {})

    async def test_a_stranger_and_nobody_hear_nothing(self):
        for client, shop_id in ((self.foreign, self.shop.pk), (Client(), self.shop.pk), (self.mine, "0" * 36)):
            page = Page(shop_id, client)
            await asyncio.wait_for(page.open(), 60)
            self.assertEqual((page.status, page.heard), (404, []))
        theirs = Page(self.other.pk, self.foreign)
        task = theirs.open()
        await theirs.opened()
        await self.tapped("not for them")
        await self.closed((theirs, task))
        self.assertEqual(theirs.heard, [])
