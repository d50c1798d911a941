"""What went wrong, asked at the desk: from nothing by signs and tests, and from a run whose log has a wrong pour."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class WhatWentWrong(DeskTest):
    @property
    def causes(self):
        return self.page.get_by_role("list", name="Causes").get_by_role("listitem")

    def answer(self, question: str, words: str) -> None:
        expect(self.page.get_by_role("heading", name=question)).to_be_visible()
        self.page.get_by_role("region", name="The next question").get_by_role("button", name=words, exact=True).click()
        # The next is asked once this one was taken.
        expect(self.page.get_by_role("region", name="Answered").get_by_text(words, exact=True)).to_be_visible()

    def test_from_nothing_to_what_mends_it(self):
        page = self.page
        page.get_by_role("link", name="What went wrong?").click()
        self.answer("What do you see?", "sticky to the touch")
        may = page.get_by_role("region", name="May I")
        expect(may).to_contain_text("Sand a spot first: dry dust means that it is cured")
        self.answer("How deep does it go?", "only the surface: it is hard below")
        expect(may).to_contain_text("Find out first what the film is")
        # Who cannot tell is asked another.
        asked = page.get_by_role("region", name="The next question").get_by_role("heading")
        before = asked.inner_text()
        page.get_by_role("button", name="I cannot tell").click()
        expect(asked).not_to_have_text(before)
        while not page.get_by_role("heading", name="Wash a spot with warm water").is_visible():
            before = asked.inner_text()
            page.get_by_role("button", name="I cannot tell").click()
            expect(asked).not_to_have_text(before)
        self.answer("Wash a spot with warm water", "a greasy film goes away")
        expect(self.causes.first).to_contain_text("Blush: a greasy film of the hardener")
        expect(self.causes.first).to_contain_text("likely")
        mends = page.get_by_role("region", name="What mends it")
        expect(mends.get_by_role("heading", name="Wash it, then sand")).to_be_visible()
        self.fill("How large is the bad place?", "2 m²")
        expect(page.get_by_role("region", name="How much it takes")).to_contain_text("0.6 h of one pair of hands")
        self.fill("How large is the bad place?", "-2 m²")
        expect(page.get_by_text("type an area over 0 and up to 500 m²")).to_be_visible()
        self.fill("How large is the bad place?", "2 m²")
        expect(page.get_by_text("type an area over 0 and up to 500 m²")).to_have_count(0)
        # It stands through a reload; an answer taken back is asked again.
        page.reload()
        expect(self.causes.first).to_contain_text("Blush")
        page.get_by_role("region", name="Answered").get_by_role("button", name="Take back").last.click()
        expect(page.get_by_role("heading", name="Wash a spot with warm water")).to_be_visible()

    def test_it_begins_from_a_part_and_the_repair_is_added_to_its_job(self):
        page = self.page
        self.open("Springy foredeck")
        self.step("Measure")
        page.get_by_role("link", name="Something went wrong with Foredeck?").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("What went wrong: Springy foredeck")
        self.answer("What do you see?", "a hollow sound, or a layer came loose")
        self.answer("What lay beneath it?", "cured, not sanded")
        expect(self.causes.first).to_contain_text("Laid on a cured surface that was not sanded")
        expect(page.get_by_role("combobox", name="Which part is it on?")).to_have_text(re.compile("Foredeck"))
        self.fill("How large is the bad place?", "0.3 m²")
        # Three plies of 0.3 m², at 4 h for a square metre.
        takes = page.get_by_role("region", name="How much it takes")
        expect(takes).to_contain_text("1.2 h of one pair of hands")
        expect(takes).to_contain_text("0.900 m² of glass")
        page.get_by_role("button", name="Add it to Springy foredeck").click()
        expect(page.get_by_label("Job", exact=True)).to_have_value("Springy foredeck")
        expect(page.get_by_label("Part", exact=True).last).to_have_value("Foredeck, mended")

    def test_a_wrong_pour_in_the_log_is_found_and_mended(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Ticket")
        page.get_by_role("button", name="Take it to the bench").click()
        page.get_by_label("A poured, g").fill("100")
        page.get_by_label("B poured, g").fill("31")
        page.get_by_role("button", name="Poured").click()
        expect(page.get_by_role("button", name=re.compile("Poured .*:"))).to_be_disabled()
        self.step("Log")
        page.get_by_role("link", name="Something went wrong?").first.click()
        out = page.get_by_role("list", name="Ruled out by the log")
        expect(out).to_contain_text("Too much hardener: No pot was hardener heavy")
        self.answer("What do you see?", "soft, or like rubber")
        expect(self.causes.first).to_contain_text("Too little hardener")
        mends = page.get_by_role("region", name="What mends it")
        expect(mends).to_contain_text(re.compile(r"The log: Pot 1 was \d+ % resin heavy"))
        expect(page.get_by_role("region", name="May I")).to_contain_text("Never. Spread on top it does not mix")
        mends.get_by_role("button", name="Keep this in the run's log").click()
        expect(mends.get_by_role("status")).to_contain_text("What went wrong: Too little hardener")
        make = page.get_by_role("button", name="Make a job of the repair")
        make.click()
        expect(page.get_by_text("which part is it on?")).to_be_visible()
        page.get_by_role("combobox", name="Which part is it on?").click()
        page.get_by_role("option").first.click()
        self.fill("How large is the bad place?", "0.4 m²")
        expect(page.get_by_role("region", name="How much it takes")).to_contain_text("of glass")
        make.click()
        expect(page.get_by_label("Job", exact=True)).to_have_value(re.compile("^Estuary skiff: .*, mended$"))
        self.step("Pots")
        expect(page.get_by_role("heading", level=1)).to_contain_text("pot")
