"""The finish of a part at the desk: its grits, its gaps under a batten, what does not go together, what is bought."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class Finish(DeskTest):
    def test_a_patch_is_finished_from_filler_to_paint_and_to_gloss(self):
        page = self.page
        self.open("Stern locker, holed through")
        self.step("Finish")
        steps = page.get_by_role("list", name="Steps of the finish").get_by_role("listitem")
        expect(steps).to_have_count(9)
        expect(steps.nth(2)).to_contain_text("Fill the low places with epoxy fairing compound")
        expect(steps.nth(2)).to_contain_text("then wait 12 h")
        self.pick("Finished to", "clear, gloss")
        expect(steps.filter(has_text="Cutting compound")).to_have_count(1)
        expect(steps.filter(has_text="P2000 wet")).to_have_count(1)
        expect(page.get_by_text("paint does not hold on a face that was sanded to gloss")).to_be_visible()
        self.pick("Then comes", "nothing more")
        expect(page.get_by_text("paint does not hold on a face")).to_have_count(0)
        # One gap more under the batten takes more to fill; it goes again at a press.
        filled = page.get_by_text(re.compile(r"of fairing compound, at a mean gap of 0\.7 mm"))
        expect(filled).to_be_visible()
        self.fill("One more", "2.7 mm")
        expect(page.get_by_text("at a mean gap of 1.2 mm")).to_be_visible()
        page.get_by_role("button", name="Take away 2.7 mm").click()
        expect(filled).to_be_visible()
        self.fill("Our min a m² and grit", "0")
        expect(page.get_by_text(re.compile(r"must be 0\.1 or more")).first).to_be_visible()
        expect(page.get_by_label("Our min a m² and grit")).to_have_value("0")
        self.fill("Our min a m² and grit", "25")
        expect(page.get_by_label("Our min a m² and grit")).to_have_value("25")
        self.saved()

    def test_it_is_said_under_measure_and_taken_back(self):
        page = self.page
        self.new_job("Hatch")
        page.get_by_role("button", name="Add a part").click()
        self.fill("Width", "1 m")
        self.fill("Length", "2 m")
        page.get_by_text("How it is laid, on what, and what comes over it").click()
        steps = page.get_by_role("navigation", name="Steps")
        expect(steps.get_by_role("link", name="Finish")).to_have_count(0)
        self.pick("Finished to", "ready to bond")
        self.step("Finish")
        one = page.get_by_role("list", name="Steps of the finish").get_by_role("listitem")
        expect(one.first).to_contain_text("P80 dry; dust off and wipe, 2 discs")
        self.pick("Finished to", "as it is laid")
        expect(page.get_by_text("Nothing of this job is finished further")).to_be_visible()
