"""A springy deck at the desk: how many times as stiff, what would do more, the bounce test beside it, what cannot be."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class Stiffer(DeskTest):
    def times(self) -> float:
        told = self.page.get_by_role("region", name="How much stiffer")
        return float(re.search(r"([\d.]+)\s*times as stiff", told.inner_text())[1])

    def test_a_springy_deck_is_compared_and_tried(self):
        page = self.page
        self.open("Springy foredeck")
        self.step("Stack")
        told = page.get_by_role("region", name="How much stiffer")
        expect(told).to_contain_text("times as before, as far as its moduli are known")
        first = self.times()
        self.assertGreater(first, 1.3)
        section = told.get_by_role("img", name=re.compile("Section of the strip: plywood, 450 biaxial"))
        expect(section).to_be_visible()
        # Thinner wood is stiffened more.
        self.fill("Thick", "6 mm")
        expect(told).not_to_contain_text(f"{first:.1f} times as stiff")
        expect(section).to_have_accessible_name(re.compile("moves from 3.00 mm"))
        self.assertGreater(self.times(), first)
        # What was seen stands beside what was reckoned.
        self.fill("Gives after", "3.5 mm")
        expect(told).to_contain_text("The bounce test says 2.0")
        self.fill("Gives after", "9 mm")
        expect(page.get_by_text("it gave more after than before")).to_be_visible()
        expect(page.get_by_label("Gives after")).to_have_value("9 mm")
        self.fill("Gives after", "")
        expect(told).not_to_contain_text("The bounce test says")
        self.saved()

    def test_any_part_may_be_asked_and_what_is_not_measured_is_asked_for(self):
        page = self.page
        self.open("Locker lid")
        self.step("Stack")
        told = page.get_by_role("region", name="How much stiffer")
        expect(told).to_have_count(0)
        page.get_by_role("button", name="Tell how much stiffer it gets").click()
        expect(page.get_by_text("how thick is it? Measure it at an edge or a hole").first).to_be_visible()
        self.pick("Made of", "woven laminate")
        self.fill("Thick", "3.5")
        expect(told).to_contain_text("A comparison of one strip, not a proof of strength")
        page.get_by_role("button", name="Remove", exact=True).click()
        expect(told).to_have_count(0)
        self.saved()
