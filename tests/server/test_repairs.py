"""A damage over the API: what it would make, what is asked for first, what is refused at its field, and for whom.

Of `cradle.jobs.repair_routes`.
"""

from cradle.jobs.models import Job
from tests.server.people import TwoShops

HOLE = {"name": "Hole in the transom", "width_mm": 80, "length_mm": 140, "skin_mm": 4}


class Damages(TwoShops):
    def look(self, **said):
        return self.send("post", f"/api/shops/{self.shop.pk}/damage", HOLE | said)

    def test_it_says_what_it_would_make_and_saves_nothing(self):
        before = Job.objects.count()
        status, told = self.look()
        self.assertEqual(status, 200)
        self.assertEqual(told["makes"], ["Backing, laid on film and cured", "Backing bedded behind the hole", "Patch"])
        self.assertEqual((told["drawn"]["ground_mm"], told["asked"]), (48, None))
        self.assertEqual(Job.objects.count(), before)

    def test_what_is_not_measured_is_asked_for_and_what_cannot_be_is_refused(self):
        status, told = self.look(skin_mm=None)
        self.assertEqual((status, told["asked"]["path"], told["drawn"]), (200, "skin_mm", None))
        status, refused = self.look(to_edge_mm=20)
        self.assertEqual((status, refused["problems"][0]["path"]), (422, "to_edge_mm"))
        # The ends of what may be typed make a job, or are refused at their field.
        loose = {"kind": "skin come loose", "gap_mm": 20}
        for said in (
            {"width_mm": 1, "length_mm": 1},
            {"width_mm": 20_000, "length_mm": 20_000, "skin_mm": 200},
            {"kind": "crack in the surface coat", "depth_mm": 200, "length_mm": 20_000},
            loose | {"width_mm": 20_000, "length_mm": 20_000},
            {"kind": "crushed core", "skin_mm": 200, "core_mm": 200},
        ):
            self.assertEqual(self.look(**said)[0], 200, said)
        for said in ({"width_mm": -4}, {"skin_mm": 201}, loose | {"gap_mm": 21}):
            status, refused = self.look(**said)
            self.assertEqual((status, refused["problems"][0]["path"]), (422, f"damage.{next(reversed(said))}"))

    def test_the_job_is_begun_as_the_shop_works(self):
        self.shop.facts |= {"practice": {"mixing": "one pot"}}
        self.shop.save()
        status, job = self.send("post", f"/api/shops/{self.shop.pk}/jobs/from-damage", HOLE)
        self.assertEqual(status, 200, job)
        self.assertEqual(job["document"]["name"], "Hole in the transom")
        self.assertEqual(job["document"]["practice"]["mixing"], "one pot")
        self.assertTrue(job["plan"]["pots"])
        theirs = self.foreign.post(f"/api/shops/{self.shop.pk}/jobs/from-damage", HOLE, content_type="application/json")
        self.assertEqual(theirs.status_code, 404)
