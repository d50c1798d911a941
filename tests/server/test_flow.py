"""An infusion over the wire: in plan, as the document stands or with lines that are tried; and at the bench, its valve and its
front. Of `cradle.jobs.flow_routes`, `layup.bench.flow_now`, `layup.bench.fronts`.
"""

from datetime import timedelta
from uuid import uuid4

from django.utils import timezone

from cradle.bench.models import Run
from cradle.demo_jobs import foam_hatch
from cradle.jobs.saving import start_job
from tests.server.people import TwoShops


def line(name: str, does: str, *points: tuple[float, float]) -> dict:
    return {"id": name, "does": does, "points": [{"x_m": x, "y_m": y} for x, y in points]}


class OneFlow(TwoShops):
    def setUp(self):
        super().setUp()
        self.hatch = start_job(self.shop, foam_hatch(), self.person).job

    def flow_of(self, part_id: str = "hatch", tried: list[dict] | None = None, rough: bool = False, **infusion):
        document = self.hatch.latest().document
        document["parts"][0]["infusion"] |= infusion
        body = {"document": document, "part_id": part_id, "lines": tried, "rough": rough}
        return self.send("post", f"/api/jobs/{self.hatch.pk}/flow", body)

    def test_it_is_the_plans_and_what_is_tried_is_not_kept(self):
        planned = self.get(f"/api/jobs/{self.hatch.pk}/plan")[1]["infusions"][0]
        before = self.hatch.latest().number
        flow = self.flow_of()[1]["flow"]
        self.assertEqual(flow["told"], planned)
        cells = flow["map"]
        self.assertEqual(len(cells["at_s"]), cells["columns"] * cells["rows"])
        reached = [s for s in cells["at_s"] if s is not None]
        self.assertAlmostEqual(max(reached) / planned["full_s"], 1, delta=0.05)
        corner = [line("f", "feeds", (0, 0)), line("v", "vents", (0.7, 0.5))]
        tried = self.flow_of(tried=corner, rough=True)[1]["flow"]
        self.assertTrue(tried["map"]["rough"])
        self.assertGreater(tried["told"]["full_min"], planned["full_min"])
        self.assertEqual(self.hatch.latest().number, before)

    def test_lines_that_cannot_be_are_refused_where_they_lie(self):
        for lines, words in (
            ([line("f", "feeds", (0, 0))], "no vent yet"),
            ([line("f", "feeds", (0, 0)), line("v", "vents", (0, 0))], "straight through"),
            ([line("f", "feeds", (0, 0)), line("v", "vents", (5, 5))], "outside the part"),
        ):
            status, refused = self.flow_of(tried=lines, rough=True)
            self.assertEqual((status, refused["problems"][0]["path"]), (422, "infusion.lines"))
            self.assertIn(words, refused["problems"][0]["message"])

    def test_lines_that_are_tried_mend_those_that_cannot_be(self):
        alone = [line("f", "feeds", (0, 0))]
        self.assertEqual(self.flow_of(lines=alone), (200, {"flow": None}))
        both = [*alone, line("v", "vents", (0.7, 0.5))]
        self.assertTrue(self.flow_of(lines=alone, tried=both, rough=True)[1]["flow"]["told"]["full_min"])

    def test_what_is_not_infused_has_none(self):
        self.assertEqual(self.flow_of("nowhere")[0], 404)
        document = self.hatch.latest().document
        document["parts"][0]["process"] = "open mould"
        body = {"document": document, "part_id": "hatch"}
        self.assertEqual(self.send("post", f"/api/jobs/{self.hatch.pk}/flow", body), (200, {"flow": None}))

    def test_numbers_that_cannot_be_are_refused_at_their_field(self):
        for field, value in (("permeability_m2", 0), ("viscosity_mpa_s", -1), ("bore_mm", 0), ("mesh_short_mm", -5)):
            status, refused = self.flow_of(**{field: value})
            self.assertEqual((status, refused["problems"][0]["path"]), (422, f"parts.0.infusion.{field}"))


class AtTheBench(TwoShops):
    """A hatch that is infused: its run set back, so that minutes may pass."""

    def setUp(self):
        super().setUp()
        self.hatch = start_job(self.shop, foam_hatch(), self.person).job
        self.run_id = self.start_run(self.hatch)[1]["id"]
        self.begun = timezone.now() - timedelta(minutes=90)
        Run.objects.filter(pk=self.run_id).update(started_at=self.begun)
        self.told = self.now()
        (self.card,) = self.get(f"/api/runs/{self.run_id}/bench")[1]["card"]["flows"]

    def say(self, minute: float, kind: str, subject: str = "", **data):
        event = {"tap_id": str(uuid4()), "about": "flow", "subject": subject or self.card["id"], "kind": kind}
        happened = (self.begun + timedelta(minutes=minute)).isoformat()
        return self.send("post", f"/api/runs/{self.run_id}/events", event | {"data": data, "happened_at": happened})

    def now(self):
        return self.get(f"/api/jobs/{self.hatch.pk}/plan")[1]["infusions"][0]

    def planned(self, number: int) -> float:
        """After how many minutes of open valve the plan has the front at a mark."""
        (mark,) = (each for each in self.card["marks"] if each["number"] == number)
        (at,) = (each for each in self.told["marks"] if each["number"] == number)
        self.assertEqual(at["s"], mark["s"])
        return at["at_min"]

    def test_what_its_front_showed_is_kept_for_the_next_shot(self):
        """exact: a front that takes so many times as long runs through a bed that is so many times as tight."""
        self.assertEqual(self.say(10, "valve opened")[0], 200)
        for number in (1, 2):
            status, told = self.say(10 + 1.25 * self.planned(number), "front there", mark=number)
            self.assertEqual(status, 200, told)
        self.say(40, "drawn", grams=900)
        self.say(70, "valve closed")
        (front,) = self.get(f"/api/runs/{self.run_id}")[1]["fronts"]
        self.assertEqual((front["part_id"], front["marks"], front["drawn_g"]), ("hatch", 2, 900))
        # The resin has hardly thickened by then: minutes and S go together.
        self.assertAlmostEqual(front["permeability_m2"] / front["planned_m2"], 1 / 1.25, delta=0.02)
        self.assertLessEqual(front["least_m2"], front["permeability_m2"])
        self.assertTrue(front["believed"])
        after = self.now()
        self.assertEqual((after["permeability_from"], after["own_shots"]), ("shop log", 1))
        self.assertAlmostEqual(
            after["permeability_m2"], front["permeability_m2"], delta=1e-3 * front["permeability_m2"]
        )
        self.assertAlmostEqual(after["full_min"] / self.told["full_min"], 1.25, delta=0.08)
        # Of another shop it is not.
        theirs = start_job(self.other_shop, foam_hatch(), self.stranger).job
        elsewhere = self.foreign.get(f"/api/jobs/{theirs.pk}/plan").json()["infusions"][0]
        self.assertEqual(elsewhere["permeability_from"], "memory")

    def test_what_was_taken_back_and_what_was_only_tried_teaches_nothing(self):
        self.say(10, "valve opened")
        self.say(10 + 2 * self.planned(1), "front there", mark=1)
        self.say(10 + 1.25 * self.planned(2), "front there", mark=2)
        self.assertAlmostEqual(self.now()["permeability_m2"] / self.told["permeability_m2"], 1 / 1.25, delta=0.02)
        self.take_back(2)
        self.assertAlmostEqual(self.now()["permeability_m2"] / self.told["permeability_m2"], 0.5, delta=0.02)
        self.take_back(1)
        self.assertEqual(self.now()["permeability_from"], "memory")
        Run.objects.filter(pk=self.run_id).update(simulated=True)
        self.say(10 + 1.25 * self.planned(3), "front there", mark=3)
        self.assertEqual(self.now()["permeability_from"], "memory")

    def take_back(self, mark: int) -> None:
        (event_id,) = (
            each["id"]
            for each in self.get(f"/api/runs/{self.run_id}/events")[1]
            if each["kind"] == "front there" and each["data"]["mark"] == mark
        )
        back = {"tap_id": str(uuid4()), "reason": "the wrong mark"}
        self.assertEqual(self.send("post", f"/api/runs/{self.run_id}/events/{event_id}/take-back", back)[0], 200)

    def test_what_cannot_have_happened_is_refused(self):
        status, refused = self.say(10, "front there", mark=1)
        self.assertEqual((status, refused["problems"][0]["path"]), (422, "kind"))
        self.assertEqual(self.say(10, "valve opened", subject="elsewhere")[0], 422)
        self.assertEqual(self.say(10, "valve opened")[0], 200)
        self.assertEqual(self.say(12, "front there", mark=1)[0], 200)
        for mark, words in ((1, "was seen at mark 1"), (9, "3 marks")):
            status, refused = self.say(13, "front there", mark=mark)
            self.assertEqual((status, refused["problems"][0]["path"]), (422, "data.mark"))
            self.assertIn(words, refused["problems"][0]["message"])
        self.take_back(1)
        self.assertEqual(self.say(14, "front there", mark=1)[0], 200)
