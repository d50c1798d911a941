"""A shop that reads ounces, inches and °F: nothing it is shown, prints or takes away says a metric word outside a name."""

import io
import re

from openpyxl import load_workbook
from pypdf import PdfReader

from cradle.demo_jobs import foam_hatch
from cradle.jobs.saving import start_job
from layup.bench_tools import BenchTools
from layup.library import generic
from tests.metric_words import METRIC_WORD
from tests.server.people import TwoShops

# How a caution and a typed field are kept, addresses, the unit of a number in the core's own; what is said of any litre.
NOT_SHOWN = {"said", "typed", "about", "understood", "unit"}
AS_SAID = ("a minute for a litre",)
# A stack's table is read back as it was written: its heads name its units.
FILES = (
    *("plan", "buy", "cut", "prepare", "corners"),
    *("labels.pdf", "cut-plan.pdf", "preparation.pdf", "buy.pdf", "run-sheet.pdf", "day-list.pdf", "tickets.pdf"),
    "laminate.pdf",
    "joints.pdf",
    *("rolls/1.svg", "run-sheet.svg", "buy.csv", "run-sheet.csv", "run-sheet.ics", "workbook.xlsx"),
)


class InOunces(TwoShops):
    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        cls.hatch = start_job(cls.shop, foam_hatch(), cls.person).job
        tools = BenchTools(scale_id="scale-oz", cup_id="quart-cup", syringe_id="syringe-10-cc")
        cls.shop.facts |= {"tools": tools.model_dump(), "fabric_unit": "oz"}
        cls.shop.save()

    def setUp(self):
        super().setUp()
        wanted = {"units": "US", "look": "as the device", "single_keys": True, "hints_closed": []}
        self.send("put", "/api/session/preferences", wanted)

    def test_no_file_print_or_answer_says_a_metric_word(self):
        for job in (self.job, self.lid, self.hatch):
            names = self.names(job)
            for path in FILES:
                if not job.latest().spec().joints and path == "corners":
                    continue
                if job == self.hatch and path.startswith(("run-sheet", "day-list", "tickets")):
                    continue
                with self.subTest(job=job.latest().spec().name, path=path):
                    words = self.words(f"/api/jobs/{job.pk}/{path}")
                    self.assertTrue(words.strip())
                    for name in names:
                        words = words.replace(name, "")
                    self.assertEqual(sorted(set(METRIC_WORD.findall(words))), [])

    def test_a_refusal_says_its_measures_in_inches(self):
        spec = self.lid.latest().spec()
        tape = next(fabric for fabric in generic().fabrics if fabric.id == "tape-300-150")
        part = spec.parts[0].model_copy(
            update={"plies": (spec.parts[0].plies[-1].model_copy(update={"fabric_id": tape.id}),)}
        )
        changed = spec.model_copy(
            update={
                "parts": (part,),
                "materials": spec.materials.model_copy(update={"fabrics": (tape,)}),
                "cutting": spec.cutting.model_copy(update={"sheet_overlap_mm": 200}),
            }
        )
        path = f"/api/jobs/{self.lid.pk}"
        told = self.send(
            "put", path, {"base": spec.model_dump(mode="json"), "document": changed.model_dump(mode="json")}
        )[1]
        problem = next(p for p in told["plan"]["problems"] if p["path"] == "cutting.sheet_overlap_mm")
        self.assertIn(
            "an overlap of 7 7/8 in leaves nothing of 300 glass tape, 150 wide, 5 7/8 in wide", problem["message"]
        )
        refused = self.client.get(f"{path}/cut")
        self.assertEqual((refused.status_code, refused.json()["problems"][0]["message"]), (422, problem["message"]))

    def test_words_are_looked_for_that_would_be_found(self):
        for words in ("1,100 × 90 mm", "20 °C", "540 g pot", "0.5 l", "fibre g/m2"):
            self.assertRegex(words, METRIC_WORD)
        for words in ("12 fl oz", "3 lb", "5 ft", "68 °F", "300 cloth", "R 1/2 in", "15 min", "10 cc", "9.85 lb/gal"):
            self.assertNotRegex(words, METRIC_WORD)

    def names(self, job) -> list[str]:
        """What products and people call things, the longest first, and what was typed in free words."""
        spec = job.latest().spec()
        library, own = generic(), spec.materials
        every = (*library.fabrics, *library.vessels, *library.consumables, *library.tools, *own.fabrics)
        free = [part.ground.fixings for part in spec.parts]
        free += [joint.fixings for joint in spec.joints]
        return sorted({*(each.name for each in every), *filter(None, free), *AS_SAID}, key=len, reverse=True)

    def words(self, path: str) -> str:
        response = self.client.get(path)
        self.assertEqual(response.status_code, 200, path)
        if path.endswith(".pdf"):
            pages = PdfReader(io.BytesIO(response.content)).pages
            return " ".join(" ".join(page.extract_text() for page in pages).split())
        if path.endswith(".xlsx"):
            sheets = load_workbook(io.BytesIO(response.content))
            return "\n".join(str(cell) for sheet in sheets for row in sheet.iter_rows(values_only=True) for cell in row)
        if path.endswith(".svg"):
            return "\n".join(re.findall(r">([^<]+)<", response.content.decode()))
        if path.endswith(".ics"):
            return response.content.decode().replace("\r\n ", "")
        return response.content.decode() if "." in path else "\n".join(_strings(response.json()))


def _strings(told: object):
    if isinstance(told, str):
        yield told
    elif isinstance(told, dict):
        for name, value in told.items():
            if name not in NOT_SHOWN:
                yield from _strings(value)
    elif isinstance(told, list):
        for value in told:
            yield from _strings(value)
