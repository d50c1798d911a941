"""One joint tried by itself: the same figures as the plan's, at its own place, with nothing saved."""

from tests.server.people import TwoShops


class OneJoint(TwoShops):
    def try_joint(self, joint_id: str = "bulkhead", **change):
        document = self.job.latest().document
        for joint in document["joints"]:
            if joint["id"] == joint_id:
                joint |= change
        return self.send("post", f"/api/jobs/{self.job.pk}/joint", {"document": document, "joint_id": joint_id})

    def try_joint_with(self, resin_g: float):
        document = self.job.latest().document
        body = {"document": document, "joint_id": "bulkhead", "resin_g": resin_g}
        return self.send("post", f"/api/jobs/{self.job.pk}/joint", body)

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

    def test_resin_in_hand_goes_as_far_as_its_share_of_the_joint(self):
        """conservation: the joint's own resin makes the joint's own paste, and half of it half as much."""
        alone = self.try_joint()[1]["joint"]
        for share in (1, 0.5):
            grams = share * alone["resin_g"] / alone["copies"]
            hand = self.try_joint_with(grams)[1]["hand"]
            self.assertAlmostEqual(hand["bead_m"], share * alone["run_m"] / alone["copies"], 6)
            self.assertAlmostEqual(hand["paste_ml"], share * alone["with_air_ml"] / alone["copies"], 4)
            self.assertAlmostEqual(hand["fillers"][0]["grams"], share * alone["filler_g"] / alone["copies"], 4)
        for wrong in (0, -3, 1e9):
            status, refused = self.try_joint_with(wrong)
            self.assertEqual((status, refused["problems"][0]["path"]), (422, "resin_g"))

    def test_a_joint_the_document_has_not_is_not_found(self):
        document = self.job.latest().document
        body = {"document": document, "joint_id": "nowhere"}
        self.assertEqual(self.send("post", f"/api/jobs/{self.job.pk}/joint", body)[0], 404)

    def test_the_strip_that_usually_comes_next(self):
        """common practice, no source: 25 mm past the last on both legs."""
        over = {"radius_mm": 25, "angle_deg": 90}
        self.assertEqual(self.send("post", "/api/next-strip", over)[1], {"width_mm": 90, "kind": "biax"})
        self.assertEqual(self.send("post", "/api/next-strip", over | {"last_mm": 110})[1]["width_mm"], 160)
        status, refused = self.send("post", "/api/next-strip", over | {"angle_deg": 181})
        self.assertEqual((status, refused["problems"][0]["path"]), (422, "angle_deg"))
