"""What comes before a pot: the skiff cut on a phone, prepared, bought for, and the papers taken along."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class AtTheTable(DeskTest):
    size = (390, 844)

    def test_the_skiff_is_cut_on_a_phone_at_the_table(self):
        page = self.page
        page.get_by_label("New job").fill("Second skiff")
        self.pick("Begin from", "a copy of Estuary skiff")
        page.get_by_role("button", name="Start").click()
        self.step("Cut")
        expect(page.get_by_role("heading", level=1)).to_have_text("15 pieces left to cut")
        pieces = page.get_by_role("list", name="Pieces").get_by_role("checkbox")
        self.assertGreaterEqual(pieces.first.bounding_box()["height"], 48)
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
        pieces.nth(0).click()
        pieces.nth(1).click()
        expect(page.get_by_role("heading", level=1)).to_have_text("13 pieces left to cut")
        pieces.nth(1).click()
        expect(page.get_by_role("heading", level=1)).to_have_text("14 pieces left to cut")
        page.reload()
        expect(pieces.nth(0)).to_be_checked()
        expect(pieces.nth(1)).not_to_be_checked()
        expect(page.get_by_role("list", name="Pieces")).to_contain_text("wren")
        self.step("Prepare")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)


class BeforeAPot(DeskTest):
    def test_the_patch_is_cut_prepared_and_bought_for(self):
        page = self.page
        self.open("Locker lid")
        self.step("Cut")
        first = page.get_by_role("checkbox", name=re.compile("Piece 1,"))
        expect(first).to_contain_text("290 × 170")
        page.get_by_role("button", name="all 4 are cut").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("All of it is cut")
        self.step("Measure")
        self.fill("Each ply wider by", "20 mm")
        self.saved()
        self.step("Cut")
        expect(page.get_by_text("was cut as 290 × 170 mm 300 cloth, twill: cut again or waive it")).to_be_visible()
        expect(page.get_by_role("heading", level=1)).to_have_text("4 pieces left to cut")
        page.get_by_label("one of each fabric to spare").click()
        expect(page.get_by_role("img", name=re.compile("5 pieces on"))).to_be_visible()
        self.fill("Sheets overlap by", "9 m")
        expect(page.get_by_text("must be 500 or less")).to_be_visible()
        self.fill("Sheets overlap by", "60 mm")
        self.saved()
        for name, file in (("labels on A4", "labels.pdf"), ("cut plan on Letter", "cut-plan.pdf")):
            with page.expect_download() as download:
                page.get_by_role("button", name=name, exact=True).click()
            self.assertEqual(download.value.suggested_filename, file)
            self.assertEqual(download.value.path().read_bytes()[:5], b"%PDF-")

        self.step("Prepare")
        grind = page.get_by_role("checkbox", name=re.compile("^Grind back 42 mm"))
        grind.click()
        expect(page.get_by_text(re.compile("^done · wren"))).to_be_visible()
        self.step("Measure")
        page.get_by_label("right through").click()
        self.saved()
        self.step("Prepare")
        expect(page.get_by_role("checkbox", name=re.compile("^Back the hole through itself"))).to_be_visible()
        expect(page.get_by_role("link", name="Prepare")).to_contain_text("1 of 12 done")

        page.get_by_role("link", name="what to buy").click()
        expect(page.get_by_role("heading", name="To buy for this job")).to_be_visible()
        expect(page.get_by_role("row").filter(has_text="300 cloth")).to_contain_text("enough is there")
        # What stands in the stock is not bought; without it, it is bought off the roll.
        with self.server.data() as data:
            data.execute("UPDATE stock_lot SET bad = 'damp' WHERE product_id = 'cloth-300'")
        page.reload()
        expect(page.get_by_role("row").filter(has_text="300 cloth")).to_contain_text("m off the roll, 1,270 mm wide")
        expect(page.get_by_role("row").filter(has_text="Acetone, a can")).to_contain_text("fast, for small areas")
        with page.expect_download() as download:
            page.get_by_role("button", name="CSV").click()
        self.assertIn("Laminating epoxy", download.value.path().read_text(encoding="utf-8-sig"))
