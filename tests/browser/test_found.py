"""What was built is looked up a year later: searched, opened by its code, printed; a record left out; a job deleted and fetched back.

Of `web/src/found/Search.tsx`, `web/src/built/Built.tsx`, `web/src/taught/Taught.tsx`, `web/src/floor/Deeds.tsx`,
`web/src/floor/WholeShop.tsx`, `web/src/steps/History.tsx`.
"""

import io
import re
import zipfile

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.test_bench import BenchTest


class LookedUp(BenchTest):
    def downloaded(self, name: str) -> bytes:
        with self.page.expect_download() as file:
            self.press(name)
        return file.value.path().read_bytes()

    def test_what_lies_on_the_bottom_and_what_it_took(self):
        page = self.page
        page.get_by_role("link", name="Search").click()
        expect(page.get_by_role("searchbox")).to_be_focused()
        page.keyboard.type("bottom estuary")
        row = page.get_by_role("list", name="Parts").get_by_role("listitem")
        expect(row).to_contain_text("Bottom, port and starboard")
        row.get_by_role("link", name="What lies there").click()
        expect(page).to_have_title(re.compile("Estuary skiff, as built"))
        # The place that was asked for stands open: half of it is laid.
        here = page.get_by_role("region", name="Bottom, port and starboard, 1 of 2")
        expect(here).to_contain_text("0.37 mm")
        expect(here).to_contain_text("0.75 mm planned")
        expect(here.get_by_role("img", name=re.compile("^Section through .*: 1 plies"))).to_be_visible()
        layers = here.get_by_role("table").get_by_role("row")
        expect(layers.nth(1)).to_contain_text("as planned")
        expect(layers.nth(2)).to_contain_text("not laid")
        expect(page.get_by_role("link", name="324 g of Laminating epoxy, 2 to 1, lot ME-2207").first).to_be_visible()
        expect(page.get_by_role("heading", name="What it took and cost")).to_be_visible()
        # Another place, by its name.
        page.get_by_role("searchbox").fill("transom")
        expect(page.get_by_role("list", name="Places").get_by_role("button")).to_have_count(1)
        expect(page.get_by_role("region", name="Transom, outside")).to_contain_text("0 mm")
        page.get_by_role("searchbox").fill("keel")
        expect(page.get_by_text("Nothing here is called that.")).to_be_visible()
        page.get_by_role("searchbox").fill("bottom")
        page.get_by_role("link", name="It is damaged here: begin its repair").click()
        expect(page.get_by_label("Laminate there", exact=True)).to_have_value(re.compile("^0.37"))
        expect(page.get_by_label("What lies there", exact=False).first).to_have_value(re.compile("300 "))
        page.go_back()
        report = PdfReader(io.BytesIO(self.downloaded("Report on A4")))
        said = " ".join("".join(sheet.extract_text() for sheet in report.pages).split())
        for words in ("Estuary skiff: as built", "As planned 0.75 mm", "lot ME-2207", "gelled in 18 of"):
            self.assertIn(words, said)
        self.assertIn("Transom", PdfReader(io.BytesIO(self.downloaded("Tags with a code"))).pages[0].extract_text())

    def test_a_gel_of_an_iced_cup_teaches_nothing_any_more(self):
        page = self.page
        page.get_by_role("navigation", name="Places").get_by_role("link", name="Log").click()
        figure = page.locator("section").filter(has_text="Laminating epoxy, 2 to 1, medium")
        expect(figure).to_contain_text("3 records")
        self.press("Its 3 records")
        first = page.get_by_role("list", name=re.compile("^Records of Laminating epoxy")).get_by_role("listitem").first
        told = first.get_by_role("button").inner_text()
        foretold = re.search(r"then ([\d.]+) min", told).group(1)
        first.get_by_role("button", name=re.compile("^leave it out")).click()
        page.get_by_role("button", name="Leave it out", exact=True).click()
        expect(first.get_by_role("alert")).to_have_text("say why it is left out, in a word or two")
        page.get_by_label("Why it is left out").fill("the cup stood in ice")
        page.get_by_role("button", name="Leave it out", exact=True).click()
        expect(first).to_contain_text("left out by wren: “the cup stood in ice”")
        expect(figure).to_contain_text(f"{foretold} min")
        expect(figure).to_contain_text("2 records")
        first.get_by_role("button", name=re.compile("^take it in again")).click()
        expect(figure).to_contain_text("3 records")

    def test_a_job_is_deleted_fetched_back_and_told_of(self):
        page = self.page
        self.open("Rudder blade")
        self.step("Log")
        self.press("Delete this job")
        expect(page.get_by_role("region", name="Delete this job")).to_contain_text("For 30 days it can be brought back")
        self.press("Yes, delete it")
        jobs = page.get_by_role("list", name="Jobs")
        expect(jobs.get_by_role("link", name=re.compile("Estuary skiff"))).to_be_visible()
        expect(jobs.get_by_role("link", name=re.compile("Rudder blade"))).to_have_count(0)
        page.get_by_text("1 job deleted").click()
        self.press("Bring back Rudder blade")
        expect(jobs.get_by_role("link", name=re.compile("Rudder blade"))).to_be_visible()
        # A run that is open keeps its job.
        self.open("Estuary skiff")
        self.step("Log")
        self.press("Delete this job", "Yes, delete it")
        expect(page.get_by_role("alert").filter(has_text="is still open: close it at the bench first")).to_be_visible()
        page.goto(f"{self.server.address}/people")
        self.press("Open the list")
        deeds = page.get_by_role("list", name="Who did what").get_by_role("listitem")
        expect(deeds.filter(has_text="brought back the deleted job: Rudder blade")).to_have_count(1)
        expect(deeds.filter(has_text="deleted the job: Rudder blade")).to_have_count(1)
        # The whole shop out, and in beside itself.
        page.goto(f"{self.server.address}/shop")
        out = self.downloaded("Take it all out")
        with zipfile.ZipFile(io.BytesIO(out)) as archive:
            self.assertIn("stock.csv", archive.namelist())
        picked = page.get_by_label("An archive of a shop")
        picked.set_input_files({"name": "none.zip", "mimeType": "application/zip", "buffer": b"none"})
        expect(page.get_by_role("alert").filter(has_text="is no archive of a shop")).to_be_visible()
        picked.set_input_files({"name": "shop.zip", "mimeType": "application/zip", "buffer": out})
        self.press("Open it")
        page.get_by_role("navigation", name="Places").get_by_role("link", name="Floor").click()
        expect(page.get_by_text("Saltmarsh Slip, brought in").first).to_be_visible()
        expect(page.get_by_role("list", name="Jobs").get_by_role("link")).to_have_count(9)
