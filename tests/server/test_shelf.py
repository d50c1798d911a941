"""The shelf: products put on it, corrected, retired; the jobs that carry copies of them; their data sheets.

Of `layup.shelf`, `layup.product_fields`, `layup.materials`.
"""

import io

from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from cradle.jobs.saving import save_job
from cradle.shelf.sheets import MOST_BYTES
from layup.plan import plan
from tests.server.people import PDF, TwoShops, product_like


class Shelves(TwoShops):
    def put_on(self, kind: str, document: dict):
        return self.send("post", f"/api/shops/{self.shop.pk}/shelf", {"kind": kind, "document": document})

    def faults(self, kind: str, document: dict) -> dict[str, str]:
        status, answer = self.put_on(kind, document)
        self.assertEqual(status, 422, answer)
        return {fault["path"]: fault["message"] for fault in answer["problems"]}

    def test_each_kind_goes_on_and_comes_first_in_what_a_job_may_choose(self):
        kinds = {"fabric": "cloth-300", "resin": "epoxy-2-1", "filler": "silica", "vessel": "cup-700"}
        for kind, like in kinds.items():
            status, made = self.put_on(kind, product_like(like) | {"name": f"Our {like}"})
            self.assertEqual((status, made["name"], made["number"]), (200, f"Our {like}", 1))
        library = self.get(f"/api/shops/{self.shop.pk}/library")[1]
        for kind, like in kinds.items():
            self.assertEqual(library[f"{kind}s"][0]["name"], f"Our {like}")
        self.assertEqual(self.get(f"/api/shops/{self.other_shop.pk}/shelf", self.foreign)[1], [])

    def test_what_is_wrong_is_said_at_its_field(self):
        epoxy = product_like("epoxy-2-1")
        both = self.faults(
            "resin",
            epoxy | {"ratio_weight_b_per_a": 0.6, "sources": epoxy["sources"] | {"ratio_weight_b_per_a": "data sheet"}},
        )
        self.assertIn("by volume and the densities it is 100:45 by weight, not 100:60", both["ratio_weight_b_per_a"])
        self.assertIn(
            "where this number comes from", self.faults("resin", epoxy | {"shelf_life_months": 24})["shelf_life_months"]
        )
        cloth = product_like("cloth-300")
        self.assertIn("15 or more", self.faults("fabric", cloth | {"areal_weight_gsm": 9})["areal_weight_gsm"])
        self.assertIn("must be a number", self.faults("fabric", cloth | {"roll_width_mm": "wide"})["roll_width_mm"])
        self.assertIn("must be one of", self.faults("fabric", cloth | {"kind": "wool"})["kind"])
        self.assertIn("a combination", self.faults("fabric", cloth | {"architecture": "combination"})["mat_share"])
        self.assertIn("hardeners", self.faults("resin", epoxy | {"hardeners": "fast"}))

    def test_a_ratio_is_typed_as_the_tin_prints_it(self):
        epoxy = product_like("epoxy-2-1")
        made = self.put_on("resin", epoxy | {"ratio_volume_b_per_a": "2:1"})[1]
        self.assertEqual(made["document"]["ratio_volume_b_per_a"], 0.5)
        wrong = self.faults("resin", epoxy | {"ratio_volume_b_per_a": "two of these"})
        self.assertIn("ratio_volume_b_per_a", wrong)

    def test_two_who_correct_the_same_product(self):
        path = f"/api/shelf/{self.epoxy.pk}"
        document = self.epoxy.document
        first = self.send("put", path, {"number": 1, "document": document | {"maximum_c": 33}})
        self.assertEqual((first[0], first[1]["number"]), (200, 2))
        late = self.send("put", path, {"number": 1, "document": document | {"maximum_c": 31}})
        self.assertEqual(late[0], 422)
        self.assertIn("meanwhile", late[1]["problems"][0]["message"])
        self.assertEqual(self.epoxy.revisions.count(), 2)

    def test_a_job_keeps_its_copy_and_says_what_is_newer_or_retired(self):
        made = self.put_on("fabric", product_like("cloth-300") | {"name": "Our cloth"})[1]
        before = self.job.latest().spec()
        document = before.model_dump(mode="json")
        document["materials"]["fabrics"].append(made["document"])
        for part in document["parts"]:
            for ply in part["plies"]:
                ply["fabric_id"] = "" if ply["coat"] else made["document"]["id"]
        spec = type(before).model_validate(document)
        save_job(self.job, spec, before, self.person)
        said = f"/api/jobs/{self.job.pk}/shelf"
        self.assertEqual(self.get(said)[1], [])
        lighter = made["document"] | {"areal_weight_gsm": 290}
        self.send("put", f"/api/shelf/{made['id']}", {"number": 1, "document": lighter})
        self.assertEqual(self.get(said)[1][0]["changes"], ["areal weight gsm 300 → 290"])
        self.send("put", f"/api/shelf/{made['id']}/retired", {"retired": True})
        self.assertTrue(self.get(said)[1][0]["retired"])
        figures = self.get(f"/api/jobs/{self.job.pk}/plan")[1]
        self.assertEqual(figures["parts"][0]["plies"][0]["fibre_gsm"], 300)
        self.assertEqual(
            figures["problems"], [problem.model_dump() for problem in plan(spec, self.shop.shop_facts()).problems]
        )
        line = f"/api/jobs/{self.job.pk}/parts/bottom/quick-line"
        offered = self.send("post", line, {"text": "300 cloth"})[1]["plies"][0]["fabric_id"]
        self.assertNotEqual(offered, made["document"]["id"])


class Sheets(TwoShops):
    def give(self, name: str, content: bytes):
        path = f"/api/shelf/{self.epoxy.pk}/sheets"
        response = self.client.post(path, {"sheet": SimpleUploadedFile(name, content)})
        return response.status_code, response.json()

    def test_a_sheet_is_known_by_what_is_in_it(self):
        picture = io.BytesIO()
        Image.new("RGB", (40, 30), "white").save(picture, "PNG")
        for name, content, kept in (("tin.html", picture.getvalue(), "tin.png"), ("../../a b.exe", PDF, "a b.pdf")):
            status, answer = self.give(name, content)
            self.assertEqual((status, answer["sheets"][0]["name"]), (200, kept))
        for content in (
            b"<html><script>",
            b"\x89PNG\r\n\x1a\nand then nothing",
            b"",
            b"%PDF-1.4 but no end",
            b"GIF89a",
        ):
            with self.subTest(content=content):
                status, answer = self.give("tin.png", content)
                self.assertEqual((status, answer["problems"][0]["path"]), (422, "sheet"))

    def test_one_too_large_is_refused(self):
        status, answer = self.give("tin.pdf", b"%PDF-" + b"0" * (2 * MOST_BYTES) + b"%%EOF")
        self.assertEqual(status, 422)
        self.assertIn("is 30 MB: 15 MB at most", answer["problems"][0]["message"])

    def test_it_is_served_to_be_saved_and_never_shown(self):
        sheet = self.epoxy.sheets.get()
        response = self.client.get(f"/api/shelf/{self.epoxy.pk}/sheets/{sheet.pk}")
        self.assertTrue(response["Content-Disposition"].startswith("attachment"))
        self.assertEqual((response["X-Content-Type-Options"], response.content), ("nosniff", PDF))
        self.assertIn("sandbox", response["Content-Security-Policy"])
