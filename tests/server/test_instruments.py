"""Instruments of a shop: whose they are, tokens, lines that come, what is written down of itself, what is kept.

Of `cradle.instruments`, `layup.instruments.weighing`, `layup.bench.heard`.
"""

import json
import os
import pty
import threading
import time
import tty
from datetime import timedelta
from itertools import pairwise
from unittest import mock
from uuid import uuid4

from django.test import Client
from django.utils import timezone
from numpy import interp

from cradle.bench.models import Event, Run
from cradle.bench.running import state_of
from cradle.bench.stream import HUB
from cradle.instruments import ports
from cradle.instruments.feeds import FEEDS, Feed
from cradle.instruments.models import Instrument, Place, Warmth
from cradle.instruments.routes import PerInstrument
from cradle.instruments.standins import STANDINS, key_of
from cradle.jobs.saving import start_job
from cradle.shops.models import Gel, Membership, Role
from layup.bench.heard import cures_in
from layup.heat.listening import surface_of
from layup.instruments.stand_in import ScaleStandIn
from layup.instruments.weighing import OnScale
from tests.core.bench_days import JOBS
from tests.server.people import TwoShops


class KeptForGood(dict):
    """A cache that forgets nothing: the server's own forgets by true seconds."""

    def set(self, key, value, timeout):
        self[key] = value


class AtABench(TwoShops):
    """A small panel at a bench, its clock set back so that minutes may pass."""

    def setUp(self):
        super().setUp()
        self.place = Place.objects.create(shop=self.shop, name="By the door")
        panel = start_job(self.shop, JOBS["panel"], self.person).job
        self.run_id = self.start_run(panel)[1]["id"]
        self.begun = timezone.now() - timedelta(minutes=60)
        Run.objects.filter(pk=self.run_id).update(started_at=self.begun)
        self.card = self.get(f"/api/runs/{self.run_id}/bench")[1]["card"]
        self.send("put", f"/api/places/{self.place.pk}/run", {"run_id": self.run_id})

    def instrument(self, kind: str) -> tuple[str, str]:
        """One that posts: its id and its token."""
        made = self.send("post", f"/api/places/{self.place.pk}/instruments", {"kind": kind, "name": f"our {kind}"})[1]
        return made["id"], made["token"]

    def post(self, token: str, client: Client | None = None, **reading) -> tuple[int, dict]:
        answer = (client or Client()).post(
            "/api/readings",
            json.dumps(reading),
            content_type="application/json",
            headers={"Authorization": f"Bearer {token}"},
        )
        return answer.status_code, answer.json()

    def feed(self, kind: str) -> Feed:
        one, _ = self.instrument(kind)
        return FEEDS.of(Instrument.objects.select_related("place__shop").get(pk=one))

    def tap(self, minute: float, kind: str, subject: str = "1", about: str = "pot", **data) -> int:
        at = (self.begun + timedelta(minutes=minute)).isoformat()
        body = {"tap_id": str(uuid4()), "about": about, "subject": subject, "kind": kind, "happened_at": at}
        return self.send("post", f"/api/runs/{self.run_id}/events", body | {"data": data})[0]

    def said(self) -> list[tuple[str, str]]:
        return list(Event.objects.filter(run=self.run_id).order_by("id").values_list("kind", "device"))

    def told(self, instrument_id: str) -> dict:
        places = self.get(f"/api/shops/{self.shop.pk}/instruments")[1]["places"]
        return next(one for one in places[0]["instruments"] if one["id"] == instrument_id)


class WhoseTheyAre(AtABench):
    def test_a_stranger_reaches_none_of_it_and_who_looks_changes_nothing(self):
        one, _ = self.instrument("scale")
        viewer = Client()
        viewer.force_login(self.stranger)
        calls = (
            ("get", f"/api/shops/{self.shop.pk}/instruments", None),
            ("post", f"/api/shops/{self.shop.pk}/places", {"name": "x"}),
            ("put", f"/api/places/{self.place.pk}/run", {"run_id": None}),
            ("post", f"/api/places/{self.place.pk}/instruments", {"kind": "room", "name": "x"}),
            ("post", f"/api/places/{self.place.pk}/standins", {"do": "start"}),
            ("post", f"/api/shops/{self.shop.pk}/ports/listen", {"port": "x"}),
            ("post", f"/api/instruments/{one}/check", {"known_g": 5}),
            ("delete", f"/api/instruments/{one}", None),
            ("delete", f"/api/places/{self.place.pk}", None),
        )
        for method, path, body in calls:
            with self.subTest(path=path, method=method):
                asked = self.get(path, viewer) if method == "get" else self.send(method, path, body, viewer)
                self.assertEqual(asked[0], 404)
        Membership.objects.create(shop=self.shop, person=self.stranger, role=Role.VIEWER)
        for method, path, body in calls[1:]:
            with self.subTest(viewer=path, method=method):
                self.assertEqual(self.send(method, path, body, viewer)[0], 403)
        self.assertEqual(STANDINS.of(self.place.pk), None)

    def test_a_flood_of_one_instrument_is_held_off_and_the_others_are_heard(self):
        (_, loud), (_, calm) = self.instrument("room"), self.instrument("thermometer")

        def at(second: float):
            """What is counted is counted at this second, however slow the machine."""
            return mock.patch.object(PerInstrument, "timer", staticmethod(lambda: second))

        with mock.patch.object(PerInstrument, "cache", KeptForGood()):
            with at(1000.0):
                answers = [self.post(loud, value=20, unit="C")[0] for _ in range(40)]
                self.assertEqual(answers, [200] * 30 + [429] * 10)
                self.assertEqual(self.post(calm, value=21, unit="C")[0], 200)
                self.assertEqual(self.post("no such token", value=21, unit="C")[0], 401)
            with at(1002.0):
                self.assertEqual(self.post(loud, value=20, unit="C")[0], 200)

    def test_a_run_of_another_shop_is_not_worked_here(self):
        theirs = start_job(self.other_shop, JOBS["panel"], self.stranger).job
        run = Run.objects.create(
            job=theirs, revision_number=1, document={}, shop_facts={}, plan={}, started_by=self.stranger
        )
        status, _ = self.send("put", f"/api/places/{self.place.pk}/run", {"run_id": str(run.pk)})
        self.assertEqual(status, 404)

    def test_a_run_is_at_one_bench(self):
        other = Place.objects.create(shop=self.shop, name="By the window")
        self.send("put", f"/api/places/{other.pk}/run", {"run_id": self.run_id})
        self.place.refresh_from_db()
        self.assertIsNone(self.place.run)

    def test_what_cannot_be_made_is_said_at_its_field(self):
        self.instrument("scale")
        at = f"/api/places/{self.place.pk}/instruments"
        for path, said, body in (
            ("kind", "has a scale already", {"kind": "scale", "name": "second"}),
            ("port", "no such port", {"kind": "room", "name": "x", "port": "/dev/nothing"}),
            ("unit", "no unit of this", {"kind": "room", "name": "x", "unit": "kg"}),
            ("name", "", {"kind": "room", "name": "  "}),
        ):
            status, refused = self.send("post", at, body)
            problem = refused["problems"][0]
            self.assertEqual((status, problem["path"], said in problem["message"]), (422, path, True), refused)
        status, refused = self.send("post", f"/api/shops/{self.shop.pk}/places", {"name": "By the door"})
        self.assertEqual((status, refused["problems"][0]["path"]), (422, "name"))


class Tokens(AtABench):
    def test_a_token_posts_for_its_own_instrument_alone_until_it_is_withdrawn(self):
        one, token = self.instrument("room")
        self.assertEqual(self.post(token, value=71.6, unit="F"), (200, {"trouble": ""}))
        self.assertEqual(self.told(one)["value"], 22.0)
        self.assertNotIn(token, json.dumps(self.get(f"/api/shops/{self.shop.pk}/instruments")[1]))
        # It opens nothing else.
        elsewhere = Client().get(f"/api/shops/{self.shop.pk}", headers={"Authorization": f"Bearer {token}"})
        self.assertEqual(elsewhere.status_code, 401)
        for wrong in ("", "x", token[:-1], "x" * 5000):
            self.assertEqual(self.post(wrong, value=20)[0], 401)
        self.assertEqual(self.send("delete", f"/api/instruments/{one}")[0], 200)
        self.assertEqual(self.post(token, value=20)[0], 401)

    def test_the_token_of_another_shop_posts_for_that_shop_alone(self):
        one, _ = self.instrument("room")
        theirs = Place.objects.create(shop=self.other_shop, name="Theirs")
        body = {"kind": "room", "name": "their probe"}
        token = self.send("post", f"/api/places/{theirs.pk}/instruments", body, self.foreign)[1]["token"]
        shown = []
        with mock.patch.object(HUB, "publish", lambda shop_id, message: shown.append(shop_id)):
            self.assertEqual(self.post(token, self.client, value=31.0)[0], 200, "whoever else is signed in")
        self.assertEqual(set(shown), {str(self.other_shop.pk)})
        self.assertIsNone(self.told(one)["value"])
        self.shop.refresh_from_db()
        self.assertNotEqual(self.shop.shop_facts().conditions.room_c, 31.0)
        self.assertEqual((self.shop.readings.count(), self.other_shop.readings.count()), (0, 1))

    def test_only_an_owner_makes_a_token(self):
        mate = Client()
        mate.force_login(self.stranger)
        Membership.objects.create(shop=self.shop, person=self.stranger, role=Role.LAMINATOR)
        at = f"/api/places/{self.place.pk}/instruments"
        self.assertEqual(self.send("post", at, {"kind": "room", "name": "x"}, mate)[0], 403)

    def test_what_no_instrument_of_its_kind_sends_is_refused(self):
        _, token = self.instrument("thermometer")
        for reading in ({"value": 5, "unit": "g"}, {"value": 900}, {"value": -300}, {"value": "x"}, {}):
            self.assertEqual(self.post(token, **reading)[0], 422, reading)

    def test_the_room_as_its_probe_reads_it_is_the_shops_and_is_not_kept_for_every_tenth(self):
        _, token = self.instrument("room")
        self.tap(1, "opened", "", "run")
        for value in (23.0, 23.0, 23.1, 23.2, 23.3):
            self.post(token, value=value)
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}")[1]["facts"]["conditions"]["room_c"], 23.0)
        self.assertEqual([kind for kind, _ in self.said()], ["opened", "room read"])
        self.assertEqual(self.shop.readings.count(), 1)


class Weighed(AtABench):
    def setUp(self):
        super().setUp()
        self.scale, self.at_s = self.feed("scale"), (self.begun + timedelta(minutes=5)).timestamp()
        self.hand = ScaleStandIn(1.0, seed=4)
        self.tap(1, "opened", "", "run")

    def wait(self, seconds: float) -> None:
        for _ in range(round(10 * seconds)):
            self.at_s += 0.1
            self.scale.line(self.hand.line(0.1), self.at_s)

    def pour_all(self) -> None:
        first, second = (pour["amount"] for pour in self.card["pots"][0]["pours"])
        self.wait(2)
        self.hand.put_cup(self.card["pots"][0]["cup_reads"])
        self.wait(3)
        self.hand.pour(first, runs_over=False)
        self.wait(first / 8 + 6)
        self.hand.pour(second, runs_over=False)
        self.wait(second / 8 + 8)

    def test_a_pot_is_written_down_as_it_is_poured(self):
        self.pour_all()
        by = "our scale"
        self.assertEqual(self.said(), [("opened", ""), ("cup on", by), ("A in", by), ("touched", by), ("B in", by)])
        first, second = (pour["amount"] for pour in self.card["pots"][0]["pours"])
        story = self.get(f"/api/runs/{self.run_id}")[1]["stories"][0]
        self.assertAlmostEqual(story["ratio_error_pct"], 0, delta=4)
        touched, in_ = (Event.objects.get(kind=kind).happened_at for kind in ("touched", "B in"))
        self.assertGreater((in_ - touched).total_seconds(), second / 20, "its clock began before B was in")
        self.assertAlmostEqual(Event.objects.get(kind="A in").data["amount"], first, delta=2)

    def test_what_was_poured_by_hand_is_followed(self):
        first = self.card["pots"][0]["pours"][0]["amount"]
        self.tap(4, "A in", amount=first)
        self.hand.put_cup(20)
        self.hand.pour(first, runs_over=False)
        while "MV" in self.hand.line(0.5):
            pass
        self.wait(3)
        self.assertEqual([kind for kind, _ in self.said()], ["opened", "A in"])
        self.hand.pour(0.45 * first, runs_over=False)
        self.wait(12)
        self.assertEqual([kind for kind, _ in self.said()], ["opened", "A in", "touched", "B in"])

    def test_pages_are_shown_it_ten_times_a_second_at_most(self):
        shown = []
        with mock.patch.object(HUB, "publish", lambda shop_id, message: shown.append(json.loads(message[1]))):
            for n in range(400):
                self.scale.line("ST, +5.0 g", self.at_s + n / 100)
        self.assertTrue(35 <= len(shown) <= 42, len(shown))
        self.assertEqual((shown[-1]["value"], shown[-1]["pot"]), (5.0, 1))
        self.assertEqual(set(shown[-1]["on_scale"]), set(OnScale.__annotations__) - {"still"})

    def test_lines_that_cannot_be_read_are_told_and_the_rest_goes_on(self):
        for n in range(25):
            self.scale.line(f"\x00\x91~{n}", self.at_s)
        told = self.told(str(self.scale.id))
        self.assertEqual((told["trouble"], told["value"], len(told["lines"])), ("unread", None, 6))
        self.scale.line("ST, +5.0 g", time.time())
        self.assertEqual((self.told(str(self.scale.id))["trouble"], self.told(str(self.scale.id))["value"]), ("", 5.0))

    def test_a_silent_one_says_since_when(self):
        self.scale.line("ST, +5.0 g", time.time() - 70)
        told = self.told(str(self.scale.id))
        self.assertEqual((told["trouble"], round(told["silent_s"])), ("silent", 70))

    def test_a_known_weight_checks_it(self):
        at = f"/api/instruments/{self.scale.id}/check"
        self.assertEqual(self.send("post", at, {"known_g": 500})[1]["problems"][0]["path"], "known_g")
        for n in range(20):
            self.scale.line("ST, +502.0 g", time.time() + n / 10)
        self.assertEqual(self.send("post", at, {"known_g": 5})[0], 422, "nothing like it")
        status, check = self.send("post", at, {"known_g": 500})
        self.assertEqual((status, check["shown_g"], check["by"]), (200, 502.0, "wren"))
        self.assertEqual(self.told(str(self.scale.id))["check"]["known_g"], 500.0)

    def test_by_hand_again_nothing_is_written(self):
        self.send("put", f"/api/places/{self.place.pk}/run", {"run_id": None})
        self.pour_all()
        self.assertEqual(self.said(), [("opened", "")])


class Listened(AtABench):
    def setUp(self):
        super().setUp()
        self.tap(1, "opened", "", "run")
        first, second = (pour["amount"] for pour in self.card["pots"][0]["pours"])
        for kind, amount in (("A in", first), ("B in", second)):
            self.tap(10, kind, amount=amount)
        self.tap(12, "stirred")
        self.probe = self.feed("thermometer")
        self.life_min = self.card["pots"][0]["life_min"]

    def warm(self, minutes: float, rise_k, each_s: float = 1.0) -> None:
        room_c, n = self.card["pots"][0]["room_c"], 0
        while n * each_s <= minutes * 60:
            at = self.begun + timedelta(minutes=10, seconds=n * each_s)
            self.probe.line(f"probe, {room_c + rise_k(n * each_s / 60):.1f}, C", at.timestamp())
            n += 1

    def warm_as(self, share: float, until: float) -> float:
        """Its surface as the core's own model warms it, where it lives so much of its label; answers with its life, min."""
        run = Run.objects.with_events().get(pk=self.run_id)
        state = state_of(run)
        life_min, room_c = share * self.life_min, self.card["pots"][0]["room_c"]
        minutes, surface_c = surface_of(*cures_in(run.spec, state.card.pots[0], state.pots[0]), room_c, life_min)
        self.warm(until * life_min, lambda minute: interp(minute, minutes, surface_c) - room_c, each_s=5)
        return life_min

    def test_one_temperature_in_five_seconds_is_kept_and_listened_to(self):
        self.warm(5, lambda minute: 0.5 * minute)
        kept = list(Warmth.objects.values_list("at", flat=True))
        self.assertAlmostEqual(len(kept), 61, delta=1)
        self.assertTrue(all((later - one).total_seconds() >= 4.9 for one, later in pairwise(kept)))
        (heard,) = self.get(f"/api/runs/{self.run_id}/heard")[1]
        self.assertEqual((heard["number"], heard["readings"]), (1, len(kept)))
        self.assertTrue(10 <= len(heard["surface"]) <= 12, "each half minute as one")
        self.assertEqual(heard["expected"][0]["at_min"], heard["touched_min"])
        self.assertLess(heard["expected"][5]["low_c"], heard["expected"][5]["high_c"])
        self.assertEqual([kind for kind, _ in self.said()].count("surface"), 0, "no event for a reading")

    def test_too_hot_is_an_event_once(self):
        self.warm(4, lambda minute: 12 * minute)
        self.assertEqual([kind for kind, _ in self.said()].count("surface"), 1)

    def test_a_fast_tin_is_told_and_the_rest_is_planned_as_fast(self):
        before = self.get(f"/api/runs/{self.run_id}/rest")[1]["pots"][-1]["life_min"]
        life = self.warm_as(0.6, until=0.8)
        # The hour of the test is later than its pot: as it stood at its last reading.
        at = self.begun + timedelta(minutes=10 + 0.8 * life)
        with mock.patch("django.utils.timezone.now", lambda: at):
            (heard,) = self.get(f"/api/runs/{self.run_id}/heard")[1]
            after = self.get(f"/api/runs/{self.run_id}/rest")[1]["pots"][-1]["life_min"]
        self.assertTrue(heard["fast"])
        self.assertLess(heard["life"], 0.85)
        self.assertAlmostEqual(after / before, heard["life"], delta=0.12)

    def test_a_pot_that_was_dumped_teaches_when_it_would_have_gelled_with_its_band(self):
        life = self.warm_as(0.7, until=0.8)
        self.assertEqual(self.tap(10 + 0.8 * life, "dumped", words="it smoked"), 200)
        gel = Gel.objects.get()
        self.assertTrue(0.05 < gel.spread < 0.3, gel.spread)
        self.assertAlmostEqual(gel.minutes, life, delta=0.15 * life)

    def test_one_that_was_hardly_listened_to_teaches_nothing(self):
        self.warm(0.1 * self.life_min, lambda minute: 0.0, each_s=5)
        self.tap(10 + 0.1 * self.life_min, "dumped", words="spilt")
        self.assertEqual(Gel.objects.count(), 0)

    def test_it_is_pointed_at_the_pot_that_was_chosen(self):
        first, second = (pour["amount"] for pour in self.card["pots"][1]["pours"])
        for kind, amount in (("A in", first), ("B in", second)):
            self.tap(9, kind, "2", amount=amount)
        self.warm(0.2, lambda minute: 1.0)
        self.assertEqual(set(Warmth.objects.values_list("pot", flat=True)), {2}, "the oldest")
        self.send("put", f"/api/places/{self.place.pk}/run", {"run_id": self.run_id, "pot": 1})
        self.warm(0.4, lambda minute: 1.0)
        self.assertEqual(set(Warmth.objects.values_list("pot", flat=True)), {1, 2})


class Paced(AtABench):
    def test_a_run_on_a_fast_clock_counts_its_own_minutes_and_teaches_nothing(self):
        self.send("post", f"/api/places/{self.place.pk}/standins", {"do": "start"})
        self.addCleanup(STANDINS.stop, self.place.pk)
        set_pace = {"do": "set", "pace": 60, "fast": True}
        status, place = self.send("post", f"/api/places/{self.place.pk}/standins", set_pace)
        self.assertEqual((status, place["standins"]["pace"], place["standins"]["fast"]), (200, 60, True))
        self.assertEqual(self.get(f"/api/runs/{self.run_id}/bench")[1]["pace"], 60)
        self.assertTrue(self.get(f"/api/runs/{self.run_id}")[1]["simulated"])
        first, second = (pour["amount"] for pour in self.card["pots"][0]["pours"])
        for kind, amount in (("A in", first), ("B in", second)):
            self.tap(1, kind, amount=amount)
        self.tap(1.5, "gelled")
        story = self.get(f"/api/runs/{self.run_id}")[1]["stories"][0]
        self.assertAlmostEqual(story["gelled_in_min"], 30, places=3)
        self.assertEqual(Gel.objects.count(), 0)
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/live")[1], [], "a trial is not live in the shop")
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/due")[1], [])
        status, refused = self.send("post", f"/api/places/{self.place.pk}/standins", {"do": "set", "pace": 1})
        self.assertEqual((status, "keeps its clock" in refused["problems"][0]["message"]), (422, True))

    def test_simulated_instruments_are_put_where_none_is_and_taken_away_again(self):
        self.instrument("room")
        at = f"/api/places/{self.place.pk}/standins"
        self.assertEqual(self.send("post", at, {"do": "pour"})[0], 422, "there are none yet")
        place = self.send("post", at, {"do": "start"})[1]
        self.addCleanup(STANDINS.stop, self.place.pk)
        by_port = {one["kind"]: one["port"] for one in place["instruments"]}
        self.assertEqual(by_port, {"room": "", **{k: key_of(self.place.pk, k) for k in ("scale", "thermometer")}})
        listed = self.get(f"/api/shops/{self.shop.pk}/instruments")[1]["ports"]
        self.assertEqual(len([port for port in listed if port["words"].startswith("simulated")]), 3)
        others = self.get(f"/api/shops/{self.other_shop.pk}/instruments", self.foreign)[1]["ports"]
        self.assertEqual([port for port in others if port["words"].startswith("simulated")], [])
        place = self.send("post", at, {"do": "stop"})[1]
        self.assertEqual([one["kind"] for one in place["instruments"]], ["room"])


class Ports(AtABench):
    """A real thread on a pseudo-terminal; nothing is written down in it, since no run is at its bench."""

    def setUp(self):
        super().setUp()
        self.send("put", f"/api/places/{self.place.pk}/run", {"run_id": None})
        self.plugged: list[ports.Port] = []
        patch = mock.patch.object(ports, "ports", lambda: self.plugged)
        patch.start()
        self.addCleanup(patch.stop)
        self.ours, theirs = pty.openpty()
        tty.setraw(theirs)
        self.addCleanup(os.close, self.ours)
        self.path = os.ttyname(theirs)

    def until(self, holds) -> None:
        for _ in range(1200):
            if holds():
                return
            time.sleep(0.05)
        self.fail("it never came to that")

    def test_it_is_read_when_it_is_plugged_in_and_again_when_it_is_plugged_back(self):
        one = Instrument.objects.create(place=self.place, kind="scale", name="s", port="usb 1", made_by=self.person)
        feed = FEEDS.of(one)
        with mock.patch.object(feed._bench, "take"):
            reader = ports.Reader(one)
            reader.start()
            self.addCleanup(reader.stopped.set)
            self.until(lambda: feed.told.trouble == "unplugged")
            self.plugged.append(ports.Port("usb 1", self.path, "a scale"))

            def send(line: bytes) -> None:
                os.write(self.ours, line)

            self.until(lambda: send(b"ST, +12.0 g\r\n") or feed.told.value == 12.0)
            # Noise, half a line, a megabyte without an end: what comes after is read.
            os.set_blocking(self.ours, True)
            writer = threading.Thread(target=lambda: os.write(self.ours, b"\x00\xff" * 40_000 + b"\nST, +3"))
            writer.start()
            writer.join()
            send(b"0.0 g\r\n")
            for _ in range(3):
                send(b"ST, +30.0 g\r\n")
            self.until(lambda: feed.told.value == 30.0)
            reader.stopped.set()
            reader.join()

    def test_what_a_port_sends_is_listened_to_before_it_is_chosen(self):
        self.plugged.append(ports.Port("usb 1", self.path, "a scale"))
        with mock.patch("cradle.instruments.routes.ports", lambda: self.plugged):
            sends = threading.Event()

            def chatter() -> None:
                while not sends.wait(0.05):
                    os.write(self.ours, b"ST, +12.0 g\r\n")

            thread = threading.Thread(target=chatter)
            thread.start()
            status, heard = self.send("post", f"/api/shops/{self.shop.pk}/ports/listen", {"port": "usb 1"})
            sends.set()
            thread.join()
            self.assertEqual((status, heard["lines"][0]), (200, "ST, +12.0 g"))
            theirs = Place.objects.create(shop=self.other_shop, name="Theirs")
            Instrument.objects.create(place=theirs, kind="scale", name="t", port="usb 1", made_by=self.stranger)
            status, refused = self.send("post", f"/api/shops/{self.shop.pk}/ports/listen", {"port": "usb 1"})
            self.assertEqual((status, "of another shop" in refused["problems"][0]["message"]), (422, True))
            Instrument.objects.filter(place=theirs).delete()
            gone = [ports.Port("usb 1", "/dev/nothing-there", "a scale")]
            with mock.patch("cradle.instruments.routes.ports", lambda: gone):
                status, refused = self.send("post", f"/api/shops/{self.shop.pk}/ports/listen", {"port": "usb 1"})
            self.assertEqual((status, refused["problems"][0]["path"]), (422, "port"))

    def test_lines_of_the_shops_own_are_tried_before_they_are_kept(self):
        at = f"/api/shops/{self.shop.pk}/line-examples"
        lines = ["N1 G S 412.5g T 21", "N2 G M 420.0g T 21", "N3 G S 431.5g T 22"]
        tried = self.send("post", at, {"kind": "scale", "lines": lines})[1]
        self.assertEqual((len(tried["numbers"]), tried["reads"]), (3, [None] * 3))
        tried = self.send("post", at, {"kind": "scale", "lines": lines, "pressed": 1})[1]
        self.assertEqual(tried["reads"], [412.5, 420.0, 431.5])
        self.assertEqual(self.send("post", at, {"kind": "scale", "lines": lines[:2], "pressed": 1})[0], 422)
        self.plugged.append(ports.Port("usb 1", self.path, "a scale"))
        example = {"kind": "scale", "lines": lines, "pressed": 1}
        with mock.patch("cradle.instruments.routes.ports", lambda: self.plugged):
            body = {"kind": "scale", "name": "odd one", "port": "usb 1", "example": example}
            made = self.send("post", f"/api/places/{self.place.pk}/instruments", body)[1]
        one = Instrument.objects.select_related("place__shop").get(pk=made["id"])
        FEEDS.of(one).line("N9 G S 7.5g T 20", 1.0)
        self.assertEqual(FEEDS.of(one).told.value, 7.5)
