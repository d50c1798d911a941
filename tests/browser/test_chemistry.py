"""The label typed in: the line bends to it, what does not fit is asked about, and a time taken away is gone."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class Labels(DeskTest):
    def row(self, at: int, temperature: str, minutes: str) -> None:
        for label, words in (("At", temperature), ("lives", minutes)):
            field = self.page.get_by_label(label, exact=True).nth(at)
            field.fill(words)
            field.press("Enter")

    def test_a_label_table_bends_the_line(self):
        page = self.page
        self.open("Rudder blade")
        self.step("Chemistry")
        verdict = page.get_by_role("heading", level=1)
        before = verdict.inner_text()
        for _ in range(3):
            page.get_by_role("button", name="add a time").click()
        expect(page.get_by_label("lives", exact=True)).to_have_count(3)
        for at, (temperature, minutes) in enumerate((("59 °F", "34 min"), ("20 °C", "24 min"), ("25 °C", "16 min"))):
            self.row(at, temperature, minutes)
        expect(verdict).not_to_have_text(before)
        expect(page.get_by_text("is far from what the rest say")).to_have_count(0)
        bent = verdict.inner_text()
        self.row(2, "25 °C", "2 h")
        expect(
            page.get_by_text(re.compile("^120 min at 25 °C, where about .* It is far from what the rest say"))
        ).to_be_visible()
        page.get_by_role("button", name="Remove the time at 25").click()
        expect(page.get_by_text("is far from what the rest say")).to_have_count(0)
        expect(page.get_by_label("lives", exact=True)).to_have_count(2)
        self.assertNotEqual(bent, before)
        page.locator("h1 button").click()
        expect(page.get_by_role("dialog")).to_contain_text("fitted to 3 times of the label")
        page.keyboard.press("Escape")
        self.saved()
        page.reload()
        expect(page.get_by_label("lives", exact=True).first).to_have_value(re.compile("34"))
