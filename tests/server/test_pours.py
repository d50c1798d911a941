"""A casting through its hours, over the wire: as the document stands, with nothing saved."""

from cradle.demo_jobs import tiller_head
from cradle.jobs.saving import start_job
from tests.server.people import TwoShops


class OneCasting(TwoShops):
    def setUp(self):
        super().setUp()
        self.tiller = start_job(self.shop, tiller_head(), self.person).job

    def hours_of(self, pour_id: str = "panel", **change):
        document = self.tiller.latest().document
        for pour in document["pours"]:
            pour |= change
        return self.send("post", f"/api/jobs/{self.tiller.pk}/pour-hours", {"document": document, "pour_id": pour_id})

    def test_its_hours_are_the_plans_and_follow_the_document(self):
        planned = self.get(f"/api/jobs/{self.tiller.pk}/plan")[1]["pours"][0]
        before = self.tiller.latest().number
        shown = self.hours_of()[1]["hours"]
        self.assertAlmostEqual(shown["poured_h"][1], planned["lifts"][1]["poured_h"], 2)
        self.assertAlmostEqual(max(shown["hottest_c"]), planned["peak_c"], delta=1)
        deeper = self.hours_of(lift_mm=40)[1]["hours"]
        self.assertEqual((len(deeper["poured_h"]), deeper["lifts_mm"]), (1, [40]))
        self.assertGreater(max(deeper["hottest_c"]), 90)
        self.assertEqual(self.tiller.latest().number, before)

    def test_one_that_is_not_measured_has_none(self):
        self.assertEqual(self.hours_of(depth_mm=None), (200, {"hours": None}))
        self.assertEqual(self.hours_of("nowhere")[0], 404)

    def test_sizes_that_cannot_be_are_refused_at_their_field(self):
        for change, words in (
            ({"depth_mm": 0}, "1 or more"),
            ({"depth_mm": 2000}, "1000"),
            ({"length_m": -1}, "0.001"),
            ({"filled_share": 3}, "2"),
        ):
            status, refused = self.hours_of(**change)
            field = next(iter(change))
            problem = refused["problems"][0]
            self.assertEqual((status, problem["path"]), (422, f"pours.0.{field}"))
            self.assertIn(words, problem["message"])
