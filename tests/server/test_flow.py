"""An infusion in plan, over the wire: as the document stands, or with lines that are tried; nothing is saved."""

from cradle.demo_jobs import foam_hatch
from cradle.jobs.saving import start_job
from tests.server.people import TwoShops


def line(name: str, does: str, *points: tuple[float, float]) -> dict:
    return {"id": name, "does": does, "points": [{"x_m": x, "y_m": y} for x, y in points]}


class OneFlow(TwoShops):
    def setUp(self):
        super().setUp()
        self.hatch = start_job(self.shop, foam_hatch(), self.person).job

    def flow_of(self, part_id: str = "hatch", lines: list[dict] | None = None, rough: bool = False, **infusion):
        document = self.hatch.latest().document
        document["parts"][0]["infusion"] |= infusion
        body = {"document": document, "part_id": part_id, "lines": lines, "rough": rough}
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
        tried = self.flow_of(lines=corner, rough=True)[1]["flow"]
        self.assertTrue(tried["map"]["rough"])
        self.assertGreater(tried["told"]["full_min"], planned["full_min"])
        self.assertEqual(self.hatch.latest().number, before)

    def test_lines_that_cannot_be_are_refused_where_they_lie(self):
        for lines, words in (
            ([line("f", "feeds", (0, 0))], "no vent yet"),
            ([line("f", "feeds", (0, 0)), line("v", "vents", (0, 0))], "straight through"),
            ([line("f", "feeds", (0, 0)), line("v", "vents", (5, 5))], "outside the part"),
        ):
            status, refused = self.flow_of(lines=lines, rough=True)
            self.assertEqual((status, refused["problems"][0]["path"]), (422, "infusion.lines"))
            self.assertIn(words, refused["problems"][0]["message"])

    def test_lines_that_are_tried_mend_those_that_cannot_be(self):
        alone = [line("f", "feeds", (0, 0))]
        self.assertEqual(self.flow_of(lines=None, **{"lines": alone}), (200, {"flow": None}))

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
