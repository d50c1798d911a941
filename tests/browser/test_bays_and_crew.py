"""A long hull at the screen: its bays seen and dragged, kept for the cutter, its crew named, its day watched."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class LaidAsItIsLaid(DeskTest):
    def long_hull(self) -> None:
        """Twelve metres of bare plywood, three plies of biaxial in epoxy."""
        page = self.page
        self.new_job("Long hull")
        page.get_by_role("button", name="Add a part").click()
        self.pick("Surface", "Bare plywood")
        self.fill("Width", "2.4 m")
        self.fill("Length", "12 m")
        self.step("Stack")
        self.fill("Write the stack, surface first", "3x 600 biax")
        self.step("Chemistry")
        page.get_by_role("combobox").first.click()
        page.get_by_role("option", name=re.compile("2 to 1")).first.click()
        self.saved()

    @property
    def title(self):
        return self.page.get_by_role("heading", level=1)

    def seams(self):
        return self.page.get_by_role("slider", name=re.compile("^Seam after bay"))

    def test_bays_are_dragged_kept_cut_and_laid(self):
        page = self.page
        self.long_hull()
        self.step("Measure")
        expect(self.seams().first).to_be_visible()
        bays = self.seams().count() + 1
        self.assertGreaterEqual(bays, 2)
        page.get_by_text(f"Bays: {bays}, as planned").click()
        first = self.seams().first
        before = first.get_attribute("aria-valuetext")
        handle = first.locator("circle").bounding_box()
        x, y = handle["x"] + handle["width"] / 2, handle["y"] + handle["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x - 40, y, steps=4)
        page.mouse.up()
        expect(page.get_by_text("Bays: as you set them")).to_be_visible()
        expect(first).not_to_have_attribute("aria-valuetext", before)
        self.saved()
        dragged = first.get_attribute("aria-valuetext")
        first.press("ArrowRight")
        expect(first).not_to_have_attribute("aria-valuetext", dragged)
        self.saved()
        # The cutter is told the bays, and the foreman's list says them whole.
        self.step("Cut")
        expect(page.get_by_text(re.compile(rf"Panel|Part 1, bay 1 of {bays}, ply 1")).first).to_be_visible()
        expect(page.get_by_role("button", name="Keep these bays")).to_have_count(0)
        self.step("Pots")
        page.get_by_role("radio", name="list").click()
        expect(
            page.get_by_role("cell", name=re.compile(rf"^bay 2 of {bays}: .*plies 1 to 3, 600 biaxial; .*pots$")).first
        ).to_be_visible()
        self.step("Ticket")
        expect(page.get_by_text(re.compile(rf"bay 1 of {bays}: wet out the surface")).first).to_be_visible()
        # As the plan would have it, and laid whole.
        self.step("Measure")
        page.get_by_role("button", name="Let the plan choose").click()
        page.get_by_text(f"Bays: {bays}, as planned").click()
        self.fill("Each ply steps back", "200 mm")
        self.saved()
        self.fill("So many bays", "60")
        expect(page.get_by_text("a bay of 0.2 m is narrower than the 400 mm its plies step back").first).to_be_visible()
        expect(page.get_by_label("So many bays", exact=True)).to_have_value("60")

    def test_a_crew_is_named_and_its_day_is_seen(self):
        page = self.page
        self.long_hull()
        self.step("Pots")
        expect(self.title).to_contain_text("pots, laid by")
        alone = self.title.inner_text()
        page.get_by_text("Set by hand").click()
        page.get_by_role("button", name="Name them and their tasks").click()
        page.get_by_role("button", name="One more").click()
        crew = page.get_by_role("region", name="Crew")
        self.fill("Person 1", "Wren")
        self.fill("Person 2", "Alder")
        for task in ("wets", "lays", "rolls"):
            crew.get_by_label(task).first.uncheck()
        expect(self.title).not_to_have_text(alone)
        self.saved()
        drawing = page.get_by_role("group", name=re.compile("^Run sheet"))
        expect(drawing.get_by_text("Wren", exact=True)).to_be_visible()
        expect(drawing.get_by_text("Alder", exact=True)).to_be_visible()
        # Nobody rolls any more: said at the crew, and nothing typed is lost.
        crew.get_by_label("rolls").nth(1).uncheck()
        expect(page.get_by_text("Nobody rolls: give that to somebody of the crew.").first).to_be_visible()
        expect(page.get_by_label("Person 2", exact=True)).to_have_value("Alder")

    def test_an_order_that_cannot_be_is_refused_in_words(self):
        page = self.page
        self.open("Estuary skiff")
        # The chines come after the bottom already: the bottom after the chines closes the circle.
        self.step("Measure")
        page.get_by_text("How it is laid, on what, and what comes over it").first.click()
        self.pick("Laid after", "Chines, inside")
        refused = "each of these is to come after the next"
        expect(page.get_by_text(re.compile(refused)).first).to_be_visible()
        expect(page.get_by_text("after Chines, inside", exact=True)).to_be_visible()
        page.get_by_role("button", name="No longer after Chines, inside").click()
        expect(page.get_by_text(re.compile(refused))).to_have_count(0)
