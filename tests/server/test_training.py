"""Practice over the API: what is marked and kept, who signs for whom, whose pots grow; none of it another shop's."""

import json
from datetime import timedelta
from uuid import uuid4

from django.contrib.auth.models import User
from django.test import Client
from django.utils import timezone

from cradle.bench.models import Event, Run
from cradle.demo_jobs import skiff
from cradle.devices.letting_in import let_in, make_code
from cradle.jobs.saving import start_job
from cradle.shops.models import Membership, Role
from cradle.training.models import Attempt, SignOff
from layup.training.pouring import Press, in_cup, pour_task
from layup.training.samples import sample
from layup.training.sums import sum_of
from tests.server.people import TwoShops


class Practice(TwoShops):
    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        cls.learner = User.objects.create(username="tern")
        Membership.objects.create(shop=cls.shop, person=cls.learner, role=Role.LAMINATOR, learns=True)

    def setUp(self):
        super().setUp()
        self.tern = Client()
        self.tern.force_login(self.learner)
        self.at = f"/api/shops/{self.shop.pk}"

    def try_it(self, thing: str, *, client: Client | None = None, tap=None, **answer):
        body = {"tap_id": str(tap or uuid4()), "thing": thing, "at": timezone.now().isoformat(), **answer}
        return self.send("post", f"{self.at}/training", body, client or self.tern)

    def pours_well(self, thing: str, **named):
        task = pour_task(thing)
        holds = []
        for part, wanted in (("A", task.wanted_a), ("B", task.wanted_a * task.b_per_a)):
            low, high = 0.0, 60.0
            for _ in range(50):
                middle = (low + high) / 2
                now = in_cup(task, [*holds, Press(part=part, hold_s=max(middle, 1e-6))])[part == "B"]
                low, high = (middle, high) if now < wanted else (low, middle)
            holds.append(Press(part=part, hold_s=high))
        poured = {"presses": [press.model_dump() for press in holds], "seconds": 30, **named}
        return self.try_it(thing, poured=poured)

    def tern_has_passed_pouring(self):
        for seed in (1, 2, 3):
            status, told = self.pours_well(f"weigh-{seed}")
            self.assertEqual((status, told["marked"]["right"]), (200, True), told)

    def test_there_is_something_of_each_to_go_on_with(self):
        status, told = self.get(f"{self.at}/training", self.tern)
        self.assertEqual(status, 200)
        self.assertTrue(told["learns"])
        self.assertEqual(len(told["lessons"]), 8)
        self.assertEqual({pour["kind"] for pour in told["pours"]}, {"weigh", "rescue-pour", "marks", "hot"})
        self.assertEqual(len({each["id"] for each in told["sums"]}), len(told["sums"]))
        first = told["sums"][0]["id"]
        self.try_it(first, number=told["sums"][0]["answer"])
        self.assertNotIn(first, [each["id"] for each in self.get(f"{self.at}/training", self.tern)[1]["sums"]])

    def test_an_answer_is_marked_by_the_core_and_counts_once(self):
        asked = sum_of("fillet-9")
        tap = uuid4()
        for _ in range(2):
            status, told = self.try_it("fillet-9", number=asked.answer, tap=tap)
            self.assertEqual((status, told["marked"]["right"]), (200, True))
        # Another answer to what was answered is told, and does not count.
        status, told = self.try_it("fillet-9", number=asked.answer * 2)
        self.assertFalse(told["marked"]["right"])
        kept = Attempt.objects.get(person=self.learner)
        self.assertEqual((kept.thing, kept.right, kept.shop), ("fillet-9", True, self.shop))

    def test_a_sample_and_a_lesson_are_marked(self):
        shown = sample("sample-4")
        wrong = next(choice.id for choice in shown.choices if choice.id != shown.cause)
        self.assertFalse(self.try_it("sample-4", choice=wrong)[1]["marked"]["right"])
        self.assertTrue(self.try_it("sample-5", choice=sample("sample-5").cause)[1]["marked"]["right"])
        _, told = self.try_it("cup", read={"five_g": 61})
        self.assertEqual(told["marked"]["figure"]["words"], "Your cup weighs 12.2 g")
        self.assertEqual(told["standing"]["lessons"], ["cup"])
        lesson = self.get(f"{self.at}/training", self.tern)[1]["lessons"][1]
        self.assertEqual(lesson["written"], "Your cup weighs 12.2 g")
        # His own: nobody else's first hour is done with it.
        self.assertEqual(self.get(f"{self.at}/training")[1]["lessons"][1]["written"], "")

    def test_a_day_is_marked_by_what_was_tapped_in_it(self):
        day = self.get(f"{self.at}/training", self.tern)[1]["days"][0]
        mixed = [
            {"id": f"{at}", "about": "pot", "subject": "1", "kind": kind, "at_min": at, "by": "tern", "data": data}
            for at, kind, data in ((1, "A in", {"amount": 100}), (2, "B in", {"amount": 45}), (15, "gelled", {}))
        ]
        status, told = self.try_it(day["id"], day={"events": mixed, "ended_min": 20})
        self.assertEqual(status, 200, told)
        self.assertEqual((told["marked"]["right"], told["marked"]["day"]["lost_pots"]), (False, 1))
        self.assertEqual(told["standing"]["tasks"][-1]["in_a_row"], 0)
        self.assertEqual(Attempt.objects.get().answer["day"]["events"][2]["kind"], "gelled")
        # What no bench takes is refused, and so is more than a day holds.
        mixed[0]["kind"] = "danced"
        self.assertEqual(self.try_it(day["id"], day={"events": mixed, "ended_min": 20})[0], 422)
        self.assertEqual(self.try_it(day["id"], day={"events": mixed[1:] * 300, "ended_min": 20})[0], 422)

    def test_pots_of_the_shelf_are_tried_without_a_job(self):
        at = f"{self.at}/pot-lab"

        def trial(**named):
            return {"resin_id": "epoxy-2-1", "trials": [{"mass_g": 400, "room_c": 22, **named}]}

        status, told = self.send("post", at, trial())
        self.assertEqual(status, 200, told)
        cup = told["results"][0]
        # A wide pail keeps a pot cooler than a cup does, and a deep casting hotter than a shallow one.
        wide = self.send("post", at, trial(vessel_id="pail-gallon"))[1]["results"][0]
        self.assertGreater(wide["life_min"], cup["life_min"])
        deep, flat = (
            self.send("post", at, trial(vessel="casting", casting_mm=deep))[1]["results"][0]["peak_c"]
            for deep in (60, 6)
        )
        self.assertGreater(deep, flat + 10)
        for sent, field in (
            (trial(vessel_id="thimble"), "trials.0.vessel_id"),
            (trial(hardener_id="epoxy-5-1-slow"), "trials.0.hardener_id"),
            (trial() | {"resin_id": "nothing"}, "resin_id"),
        ):
            status, told = self.send("post", at, sent)
            self.assertEqual((status, told["problems"][0]["path"]), (422, field), told)
        self.assertEqual(self.send("post", at, trial(), self.foreign)[0], 404)

    def test_a_let_in_tablet_practises_and_signs_nothing(self):
        tablet = Client()
        token = let_in(make_code(self.shop, self.person, "bench stand")[0])[0]
        tablet.cookies["device"] = token
        self.assertEqual(self.send("post", "/api/devices/work", {"person": "tern"}, tablet)[0], 200)
        self.assertEqual(self.get(f"{self.at}/training", tablet)[0], 200)
        self.assertEqual(self.get("/api/glossary", tablet)[0], 200)
        self.assertEqual(self.try_it("tare-1", number=1, client=tablet)[0], 200)
        self.assertEqual(self.send("put", f"{self.at}/learners/tern", {"learns": True}, tablet)[0], 403)

    def test_what_cannot_be_marked_is_refused_at_its_field(self):
        for thing, answer, field in (
            ("tare-1", {}, "number"),
            ("nothing-1", {}, "thing"),
            # One thing has one id: whoever has seen its answer does not get it again.
            ("tare-01", {"number": 1}, "thing"),
            ("weigh-0", {"poured": {"presses": [{"part": "A", "hold_s": 1}], "seconds": 3}}, "thing"),
            ("weigh-1", {}, "poured"),
            ("day-1", {}, "day"),
            ("weigh-1", {"poured": {"presses": [{"part": "A", "hold_s": 1}], "seconds": 3}}, "presses"),
            ("sample-1", {"choice": "nonsense"}, "choice"),
            ("cup", {"read": {"five_g": 0.1}}, "five_g"),
            ("cup", {}, "five_g"),
        ):
            with self.subTest(thing, answer=answer):
                status, told = self.try_it(thing, **answer)
                self.assertEqual((status, told["problems"][0]["path"]), (422, field), told)
        status, told = self.send(
            "post",
            f"{self.at}/training",
            {
                "tap_id": str(uuid4()),
                "thing": "tare-1",
                "number": 3,
                "at": (timezone.now() + timedelta(days=1)).isoformat(),
            },
            self.tern,
        )
        self.assertEqual((status, told["problems"][0]["path"]), (422, "at"))
        self.assertFalse(Attempt.objects.exists())

    def test_a_tap_of_another_is_not_taken(self):
        tap = uuid4()
        self.try_it("tare-1", number=1, tap=tap)
        status, told = self.try_it("tare-2", number=1, tap=tap, client=self.client)
        self.assertEqual((status, told["problems"][0]["path"]), (422, "tap_id"))

    def test_somebody_skilled_signs_what_was_passed(self):
        path = f"{self.at}/learners/tern/signed"
        signs = {"task": "weigh", "signed": True}
        status, told = self.send("put", path, signs)
        self.assertEqual((status, told["problems"][0]["path"]), (422, "task"))
        self.tern_has_passed_pouring()
        self.assertEqual(self.send("put", path, signs, self.tern)[0], 403)
        mate = User.objects.create(username="rail")
        Membership.objects.create(shop=self.shop, person=mate, role=Role.LAMINATOR, learns=True)
        rail = Client()
        rail.force_login(mate)
        self.assertEqual(self.send("put", path, signs, rail)[0], 403)
        Membership.objects.filter(person=mate).update(learns=False, role=Role.VIEWER)
        self.assertEqual(self.send("put", path, signs, rail)[0], 403)
        Membership.objects.filter(person=mate).update(role=Role.LAMINATOR)
        status, told = self.send("put", path, signs, rail)
        self.assertEqual(status, 200)
        weigh = next(task for task in told[0]["standing"]["tasks"] if task["id"] == "weigh")
        self.assertEqual((weigh["signed_by"], told[0]["standing"]["times"]), ("rail", 2.0))
        # Twice is once, and it can be taken back.
        self.send("put", path, signs)
        self.assertEqual(SignOff.objects.get().by, mate)
        status, told = self.send("put", path, {"task": "weigh", "signed": False})
        self.assertEqual(told[0]["standing"]["times"], 1.0)
        self.assertEqual(self.send("put", path, {"task": "dance", "signed": True})[0], 422)

    def test_anybody_may_say_that_he_learns_and_an_owner_alone_that_he_has_learned(self):
        path = f"{self.at}/learners/tern"
        self.assertEqual(self.send("put", path, {"learns": False}, self.tern)[0], 403)
        self.assertEqual(self.send("put", f"{self.at}/learners/wren", {"learns": True}, self.tern)[0], 403)
        self.assertEqual(self.send("put", path, {"learns": False})[1], [])
        self.assertEqual(self.send("put", path, {"learns": True}, self.tern)[0], 200)
        self.assertEqual(self.send("put", f"{self.at}/learners/nobody", {"learns": True})[0], 404)

    def test_nobody_of_another_shop_sees_or_signs(self):
        self.tern_has_passed_pouring()
        for method, path, body in (
            ("get", "training", None),
            ("get", "learners", None),
            (
                "post",
                "training",
                {"tap_id": str(uuid4()), "thing": "tare-1", "number": 1, "at": timezone.now().isoformat()},
            ),
            ("put", "learners/tern", {"learns": False}),
            ("put", "learners/tern/signed", {"task": "weigh", "signed": True}),
        ):
            with self.subTest(path):
                sent = (
                    self.get(f"{self.at}/{path}", self.foreign)
                    if body is None
                    else self.send(method, f"{self.at}/{path}", body, self.foreign)
                )
                self.assertEqual(sent[0], 404)
        # Of two shops of one person, each has its own record.
        Membership.objects.create(shop=self.other_shop, person=self.learner, learns=True)
        other = self.get(f"/api/shops/{self.other_shop.pk}/training", self.tern)[1]["standing"]
        self.assertFalse(any(task["passed"] for task in other["tasks"]))

    def largest_pot_g(self) -> float:
        """The largest pot that a plan gives a learner who mixes alone."""
        document = json.loads(skiff().model_dump_json())
        document["pots"]["crew"] = [{"id": "a", "name": "Tern", "learner": True}]
        from layup.job_file import read_document

        job = start_job(self.shop, read_document(document), self.person).job
        pots = self.get(f"/api/jobs/{job.pk}")[1]["plan"]["pots"]
        return max(pot["mass_g"] for pot in pots)

    def test_a_signed_pour_and_good_pots_let_his_pots_grow(self):
        first = self.largest_pot_g()
        self.assertLessEqual(first, 250)
        self.tern_has_passed_pouring()
        self.assertEqual(self.largest_pot_g(), first)
        self.send("put", f"{self.at}/learners/tern/signed", {"task": "weigh", "signed": True})
        signed = self.largest_pot_g()
        self.assertTrue(first < signed <= 500, signed)

    def test_real_pots_count_by_who_mixed_them_and_how_they_ended(self):
        self.tern_has_passed_pouring()
        self.send("put", f"{self.at}/learners/tern/signed", {"task": "weigh", "signed": True})
        _, run = self.start_run()
        at = f"/api/runs/{run['id']}"

        def pot(number: int, off: float, end: str, client: Client) -> None:
            card = Run.objects.get(pk=run["id"]).issued_card.pot(number)
            a, b = card.pours[0].amount, card.pours[1].amount * (1 + off)
            for kind, data in (("A in", {"amount": a}), ("B in", {"amount": b}), (end, {})):
                body = {
                    "tap_id": str(uuid4()),
                    "about": "pot",
                    "subject": str(number),
                    "kind": kind,
                    "data": data,
                    "happened_at": timezone.now().isoformat(),
                }
                status, told = self.send("post", f"{at}/events", body, client)
                self.assertEqual(status, 200, told)

        pot(1, 0.0, "used up", self.tern)
        pot(2, 0.0, "used up", self.client)
        pot(3, 0.2, "used up", self.tern)
        standing = self.get(f"{self.at}/training", self.tern)[1]["standing"]
        self.assertEqual((standing["good_pots"], standing["lost_pots"]), (1, 1))
        self.assertEqual(self.get(f"{self.at}/training")[1]["standing"]["good_pots"], 1)
        for number in range(4, 9):
            pot(number, 0.0, "used up", self.tern)
        self.assertEqual(self.get(f"{self.at}")[1]["facts"]["learners"], [{"name": "tern", "times": 2.5}])
        # On simulated instruments nothing counts.
        Run.objects.update(simulated=True)
        Event.objects.create(
            run=Run.objects.get(),
            by=self.learner,
            tap_id=uuid4(),
            about="pot",
            subject="1",
            kind="gelled",
            happened_at=timezone.now(),
        )
        self.assertEqual(self.get(f"{self.at}")[1]["facts"]["learners"], [{"name": "tern", "times": 2.0}])

    def test_the_glossary_is_read(self):
        status, told = self.get("/api/glossary", self.tern)
        self.assertEqual(status, 200)
        self.assertIn("fillet", [word["term"] for word in told["words"]])
