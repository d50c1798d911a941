"""A damage looked over at the desk: from a hole to its printed plan, what does not fit, what is asked for first."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class LookOver(DeskTest):
    def test_from_a_hole_to_its_printed_plan(self):
        page = self.page
        page.get_by_role("link", name="Begin a repair").click()
        expect(page.get_by_text("Measure it: the patch is drawn here")).to_be_visible()
        make = page.get_by_role("button", name="Make the job")
        expect(make).to_be_disabled()
        self.fill("Name of the job", "Hole in the transom")
        self.fill("Wide", "80 mm")
        self.fill("Long", "14 cm")
        expect(page.get_by_text("how thick is the laminate there?")).to_be_visible()
        self.fill("Laminate there", "4 mm")
        patch = page.get_by_role("group", name=re.compile("The patch in plan and in section"))
        expect(patch).to_have_accessible_name(re.compile(r"12\.0 to 1, \d+ plies"))
        made = page.get_by_role("region", name="What the job is made of")
        expect(made).to_contain_text("Backing bedded behind the hole")
        expect(made).to_contain_text("Epoxy: it bonds best to an old laminate")
        # What was typed is there again after the page is loaded anew.
        page.reload()
        expect(page.get_by_label("Wide", exact=True)).to_have_value("80 mm")
        expect(patch).to_be_visible()
        # Flatter by the edge of its ground, until the panel has no more room.
        edge = page.get_by_role("slider", name="Edge of the ground")
        edge.press("ArrowRight")
        expect(patch).to_have_accessible_name(re.compile(r"12\.5 to 1"))
        self.fill("To the next edge", "45 mm")
        expect(page.get_by_text("go round the edge, or no flatter than 11 to 1").first).to_be_visible()
        expect(make).to_be_disabled()
        self.fill("To the next edge", "60 mm")
        # With gel coat last it is another resin.
        page.get_by_role("radio", name="gel coat").click()
        expect(made).to_contain_text("Polyester, since gel coat comes last")
        page.get_by_role("radio", name="paint").click()
        expect(made).to_contain_text("Epoxy: it bonds best to an old laminate")
        make.click()
        expect(page.get_by_label("Job", exact=True)).to_have_value("Hole in the transom")
        # The job keeps what was found, and it may be looked over again.
        expect(page.get_by_text("Begun from a damage: hole through, wide 80 mm, long 140 mm")).to_be_visible()
        self.step("Prepare")
        expect(page.get_by_text("Grind back").first).to_be_visible()
        expect(page.get_by_text("Tap all round it and mark what sounds dull").first).to_be_visible()
        self.step("Measure")
        page.get_by_role("link", name="Look it over again").click()
        expect(page.get_by_label("Long", exact=True)).to_have_value("14 cm")
        page.go_back()
        self.step("Cut")
        with page.expect_download() as taken:
            page.get_by_role("button", name="cut plan on A4", exact=True).click()
        self.assertEqual(taken.value.path().read_bytes()[:4], b"%PDF")

    def test_what_is_no_hole_is_filled_or_injected(self):
        page = self.page
        page.get_by_role("link", name="Begin a repair").click()
        self.pick("What is it?", "skin come loose from its core")
        self.fill("Wide", "240 mm")
        self.fill("Long", "400 mm")
        self.fill("Gap behind it", "2 mm")
        made = page.get_by_role("region", name="What the job is made of")
        expect(made).to_contain_text("area times gap and a fifth more goes in")
        expect(page.get_by_text("there is no patch to draw")).to_be_visible()
        self.fill("Moisture meter, %", "14")
        expect(made).to_contain_text("The meter reads 14 %")
        page.get_by_role("button", name="Make the job").click()
        # By hand: 240 by 400 by 2 mm, and a fifth more.
        steps = page.get_by_role("navigation", name="Steps")
        expect(steps.get_by_role("link", name="Joints")).to_contain_text("230 ml")
