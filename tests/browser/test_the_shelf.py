"""The shelf: a tin entered from its label on a phone, and what jobs say when it changes or is retired."""

from playwright.sync_api import expect

from tests.browser.desk import DeskTest
from tests.server.people import PDF


class OnAPhone(DeskTest):
    size = (390, 844)

    def wide(self) -> int:
        return self.page.evaluate("document.documentElement.scrollWidth")

    def new(self, chapter: str, like: str) -> None:
        self.page.goto(f"{self.server.address}/shelf")
        self.page.get_by_role("combobox", name=f"Add to {chapter}").click()
        self.page.get_by_role("option", name=like, exact=True).click()

    def number(self, label: str, figures: str, unit: str = "") -> None:
        if unit:
            self.page.get_by_label(f"{label}, unit", exact=True).select_option(unit)
        field = self.page.get_by_label(label, exact=True) if len(label) < 12 else self.page.get_by_label(label).first
        self.assertEqual(field.get_attribute("inputmode"), "decimal", label)
        field.fill(figures)
        field.press("Enter")

    def test_a_tin_from_its_label_with_every_field_on_the_number_pad(self):
        page = self.page
        self.new("resins", "from nothing")
        page.get_by_label("Name", exact=True).fill("Quay epoxy")
        page.get_by_role("button", name="Put it on the shelf").click()
        expect(page.get_by_role("status").filter(has_text="fields to mend")).to_be_visible()
        expect(page.get_by_text("is missing").first).to_be_visible()
        self.number("density, cured", "1,15")
        for label, figures in (("not under", "50"), ("better over", "60"), ("not over", "95")):
            self.number(label, figures, "°F")
        expect(page.get_by_text("= 10 °C")).to_be_visible()
        page.get_by_role("checkbox", name="weight").click()
        page.get_by_role("checkbox", name="volume").click()
        self.number("density", "1.15")
        page.get_by_label("Hardener family").fill("quay 2 to 1")
        self.number("B for one of A, by volume", "0.5")
        page.get_by_role("button", name="a size").first.click()
        page.get_by_label("sold in 1").fill("5")
        page.get_by_role("button", name="Add a hardener").click()
        page.get_by_label("Name", exact=True).last.fill("slow")
        page.get_by_label("Family", exact=True).last.fill("quay 2 to 1")
        for label, figures in (("made for, from", "65"), ("to", "80"), ("pot life", "40"), ("of a pot of", "100")):
            self.number(label, figures)
        self.number("at", "25")
        page.get_by_role("button", name="Add a stated time").click()
        for field in page.locator("input").all():
            kept = field.get_attribute("inputmode") or field.get_attribute("type")
            self.assertIn(kept, ("decimal", None, "file"))
        page.get_by_role("button", name="remove").last.click()
        self.assertLessEqual(self.wide(), 390)
        page.get_by_role("button", name="Put it on the shelf").click()
        expect(page.get_by_text("as first written")).to_be_visible()
        page.get_by_label("A data sheet").set_input_files(
            {"name": "quay.pdf", "mimeType": "application/pdf", "buffer": PDF}
        )
        expect(page.get_by_role("link", name="quay.pdf")).to_be_visible()
        page.get_by_label("A data sheet").set_input_files(
            {"name": "quay.png", "mimeType": "image/png", "buffer": b"not a picture"}
        )
        expect(page.get_by_role("alert")).to_contain_text("neither a PDF nor a picture")
        page.goto(self.server.address)
        self.open("Foredeck hatch")
        self.step("Chemistry")
        self.pick("Resin", "Quay epoxy")
        expect(page.get_by_text("the density of the hardener is not known").first).to_be_visible()
        self.saved()

    def test_no_kind_of_product_runs_off_the_side_and_what_is_typed_stays(self):
        page = self.page
        for chapter, like in (
            ("fabrics", "from nothing"),
            ("fillers", "from nothing"),
            ("vessels", "like Mixing cup, marked"),
            ("tools", "from nothing"),
            ("used up", "from nothing"),
        ):
            self.new(chapter, like)
            page.get_by_label("Name", exact=True).fill(f"Ours of {chapter}")
            page.get_by_label("Name", exact=True).press("Tab")
            self.assertLessEqual(self.wide(), 390, chapter)
            page.reload()
            expect(page.get_by_label("Name", exact=True)).to_have_value(f"Ours of {chapter}")
        page.goto(f"{self.server.address}/shelf")
        self.assertLessEqual(self.wide(), 390)


class AtTheDesk(DeskTest):
    def test_a_job_takes_over_what_is_newer_and_outlives_what_is_retired(self):
        page = self.page
        page.get_by_role("link", name="Shelf").click()
        page.get_by_role("combobox", name="Add to fabrics").click()
        page.get_by_role("option", name="like 300 cloth, twill", exact=True).click()
        page.get_by_label("Name", exact=True).fill("Loft cloth")
        page.get_by_role("button", name="Put it on the shelf").click()
        expect(page.get_by_text("as first written")).to_be_visible()
        address = page.url
        page.get_by_role("link", name="Floor").click()
        self.new_job("With our cloth")
        page.get_by_role("button", name="Add a part").click()
        self.fill("Width", "1 m")
        self.fill("Length", "1 m")
        self.step("Stack")
        page.get_by_label("Write the stack").fill("2x 300 cloth")
        expect(page.get_by_role("button", name="Loft cloth", exact=True)).to_have_count(2)
        self.saved()
        job = page.url
        page.goto(address)
        page.get_by_label("areal weight", exact=True).fill("280")
        page.get_by_role("button", name="Keep the changes").click()
        expect(page.get_by_text("corrected 1 times")).to_be_visible()
        page.goto(job)
        expect(page.get_by_text("is newer on the shelf: areal weight gsm 300 → 280")).to_be_visible()
        page.get_by_role("button", name="Take it over").click()
        expect(page.get_by_text("is newer on the shelf")).to_have_count(0)
        expect(page.get_by_label("Write the stack")).to_have_value("2x 280 cloth")
        self.saved()
        page.goto(address)
        page.get_by_role("button", name="Retire", exact=True).click()
        expect(page.get_by_text("jobs that use it keep their copy")).to_be_visible()
        page.goto(job)
        expect(page.get_by_text("is retired on the shelf. This job goes on with its copy.")).to_be_visible()
        expect(page.get_by_role("link", name="Stack")).to_contain_text("2 plies")
        page.get_by_role("combobox", name="Add a ply").click()
        expect(page.get_by_role("option", name="300 cloth, twill")).to_be_visible()
        expect(page.get_by_role("option", name="Loft cloth")).to_have_count(0)
