"""Lists that are longer than a screen is: in groups, counted, and drawn where one looks."""

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class LongLists(DeskTest):
    def begin(self, line: str) -> None:
        field = self.page.get_by_label("New job")
        field.fill(line)
        field.press("Enter")
        expect(self.page.get_by_role("navigation", name="Steps")).to_be_visible()

    def group(self, title: str):
        return self.page.locator("details").filter(has=self.page.locator("summary").filter(has_text=title))

    def test_a_hundred_and_twenty_pieces_are_ticked_forty_at_a_time(self):
        page = self.page
        self.begin("Lids: 0.3 x 0.3 m x40, mould, 3x 300 cloth, epoxy")
        self.step("Cut")
        expect(page.get_by_role("heading", level=1)).to_have_text("120 pieces left to cut")
        first, second, third = (self.group(f"Lids: {pieces}") for pieces in ("1 to 40", "41 to 80", "81 to 120"))
        for group in (first, second, third):
            expect(group.locator("summary")).to_contain_text("0 of 40 cut")
        expect(page.get_by_role("checkbox", name="Piece")).to_have_count(40)
        first.get_by_role("button", name="These 40 are cut").click()
        expect(first.locator("summary")).to_contain_text("40 of 40 cut")
        expect(page.get_by_role("heading", level=1)).to_have_text("80 pieces left to cut")
        # Who comes again goes on where it was left.
        page.reload()
        expect(second.get_by_role("checkbox", name="Piece 41,")).to_be_visible()
        expect(page.get_by_role("checkbox", name="Piece")).to_have_count(40)
        third.locator("summary").click()
        third.get_by_role("checkbox", name="Piece 120,").click()
        expect(third.locator("summary")).to_contain_text("1 of 40 cut")

    def test_of_a_long_roll_only_what_is_near_is_drawn(self):
        page = self.page
        self.begin("Lids: 1 x 1.2 m x190, mould, 300 cloth, epoxy")
        self.step("Cut")
        roll = page.locator('svg[aria-label*="pieces on"]').first
        drawn = roll.locator("g.cursor-pointer")
        expect(roll.get_by_text("1", exact=True).first).to_be_visible()
        self.assertLess(drawn.count(), 100)
        page.locator("html").evaluate("html => html.scrollTo(0, html.scrollHeight)")
        last = page.locator('svg[aria-label*="pieces on"]').last
        expect(last.get_by_text("190", exact=True)).to_be_visible()

    def test_of_many_lines_of_prepare_the_first_group_that_waits_is_open(self):
        page = self.page
        self.begin("Boat: " + "; ".join(f"seam {n}: fillet 12 mm x 1 m, wood flour, epoxy" for n in range(1, 26)))
        self.step("Prepare")
        groups = page.locator("details").filter(has=page.locator("summary").filter(has_text=" of "))
        expect(groups.first).to_have_attribute("open", "")
        self.assertGreater(groups.count(), 20)
        expect(page.locator("details[open]").filter(has_text="done")).to_have_count(1)
        seam = groups.filter(has_text="seam 7")
        expect(seam.locator("summary")).to_contain_text("0 of")
        seam.locator("summary").click()
        seam.get_by_role("checkbox").first.click()
        expect(seam.locator("summary")).to_contain_text("1 of")
