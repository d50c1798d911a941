"""Where a hand slips: a line half understood, a pot past mending, a press on the wrong pot, a cup with marks."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class AtTheDesk(DeskTest):
    def test_no_pot_is_mixed_for_a_line_that_is_half_understood(self):
        page = self.page
        self.new_job("Half a line")
        page.get_by_role("button", name="Add a part").click()
        self.fill("Width", "1 m")
        self.fill("Length", "1 m")
        self.step("Chemistry")
        self.pick("Resin", "Laminating epoxy, 2 to 1")
        self.step("Stack")
        line = page.get_by_label("Write the stack")
        line.fill("300 cloth")
        expect(page.get_by_text("1 ply read")).to_be_visible()
        self.saved()
        line.fill("2x 200 carbn twill, 300 cloth")
        expect(page.get_by_text("The last whole stack stands until all of the line is understood.")).to_be_visible()
        expect(page.get_by_role("row").filter(has_text="cloth")).to_have_count(1)
        self.step("Ticket")
        expect(page.get_by_role("heading", level=1)).to_have_text("No ticket yet")
        expect(page.get_by_text("no pot is mixed for half a stack")).to_be_visible()
        page.get_by_role("link", name="Finish it there").click()
        expect(line).to_have_value("2x 200 carbn twill, 300 cloth")
        page.get_by_role("button", name=re.compile("^take .*carbon")).first.click()
        expect(page.get_by_text("3 plies read")).to_be_visible()
        expect(page.get_by_role("row").filter(has_text="carbon")).to_have_count(2)
        self.step("Ticket")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Pot 1 of")

    def test_a_marked_cup_says_what_is_added_and_the_mark_it_comes_to(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Chemistry")
        page.get_by_role("radio", name="volume").first.click()
        self.saved()
        self.step("Ticket")
        rows = page.get_by_role("region", name="Ticket").locator("ol").first.locator("li")
        second = rows.filter(has_text="hardener").inner_text()
        added, mark = (int(n) for n in re.search(r"add (\d+) ml\s+→?\s*to the mark\s+(\d+)", second).groups())
        first = int(re.search(r"(\d+) ml", rows.filter(has_text="A, resin").inner_text())[1])
        self.assertEqual(first + added, mark)
        self.assertGreater(first, added)


class AtTheBench(DeskTest):
    size = (390, 844)

    def test_a_pot_past_mending_is_no_pot_until_it_is_taken_back_or_dumped(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Ticket")
        page.get_by_role("button", name="Take it to the bench").click()
        # The hardener of a pot four times its size.
        page.get_by_label("A poured, g").fill("22")
        page.get_by_label("B poured, g").fill("45")
        page.get_by_role("button", name="Poured", exact=True).click()
        alarm = page.get_by_role("alert").filter(has_text="Do not use this pot")
        expect(alarm).to_be_visible()
        expect(page.get_by_text(re.compile(r"On the work by\s*\d\d:\d\d"))).to_have_count(0)
        self.step("Log")
        expect(page.get_by_text("must not be used")).to_be_visible()
        self.step("Ticket")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Pot 2 of")
        page.get_by_role("button", name="Before").click()
        page.get_by_role("button", name=re.compile("^take “poured .* back$")).click()
        page.get_by_label("Why “poured” is wrong").fill("read the wrong cup")
        page.get_by_role("button", name="Take it back").click()
        expect(alarm).to_have_count(0)
        expect(page.get_by_role("button", name="Poured", exact=True)).to_be_enabled()
        page.get_by_role("button", name="Poured", exact=True).click()
        expect(page.get_by_text(re.compile(r"On the work by\s*\d\d:\d\d"))).to_be_visible()
        self.step("Log")
        expect(page.get_by_text("taken back by wren: “read the wrong cup”")).to_be_visible()
        expect(page.get_by_text("must not be used")).to_have_count(0)
