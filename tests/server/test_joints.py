"""One joint tried by itself: the same figures as the plan's, at its own place, with nothing saved."""

from tests.server.people import TwoShops


class OneJoint(TwoShops):
    def try_joint(self, joint_id: str = "bulkhead", **change):
        document = self.job.latest().document
        for joint in document["joints"]:
            if joint["id"] == joint_id:
                joint |= change
        return self.send("post", f"/api/jobs/{self.job.pk}/joint", {"document": document, "joint_id": joint_id})

    def test_its_figures_are_the_plans(self):
        planned = next(j for j in self.get(f"/api/jobs/{self.job.pk}/plan")[1]["joints"] if j["id"] == "bulkhead")
        alone = self.try_joint()[1]
        self.assertEqual((alone["joint"], alone["problems"]), (planned, []))

    def test_what_is_wrong_is_said_at_its_own_place_and_nothing_is_saved(self):
        before = self.job.latest().number
        told = self.try_joint(radius_mm=40, face_mm=20)[1]
        self.assertIsNone(told["joint"])
        self.assertEqual([(p["path"], p["wrong"]) for p in told["problems"]], [("joints.2.radius_mm", True)])
        larger = self.try_joint(radius_mm=20)[1]["joint"]
        self.assertGreater(larger["paste_ml"], self.try_joint()[1]["joint"]["paste_ml"])
        self.assertEqual(self.job.latest().number, before)

    def test_a_joint_the_document_has_not_is_not_found(self):
        document = self.job.latest().document
        body = {"document": document, "joint_id": "nowhere"}
        self.assertEqual(self.send("post", f"/api/jobs/{self.job.pk}/joint", body)[0], 404)

    def test_usual_widths_for_strips(self):
        widths = self.send("post", "/api/tabbing-widths", {"count": 3, "radius_mm": 25, "angle_deg": 90})[1]
        self.assertEqual(widths["widths_mm"], [90, 140, 190])
        self.assertEqual(
            self.send("post", "/api/tabbing-widths", {"count": 0, "radius_mm": 25, "angle_deg": 90})[0], 422
        )
