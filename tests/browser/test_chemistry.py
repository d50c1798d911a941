"""Chemistry at the desk: the label typed in and dragged, the room scrubbed, a blend, a pot tried, a ratio mended."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class Labels(DeskTest):
    def row(self, at: int, temperature: str, minutes: str) -> None:
        for label, words in (("At", temperature), ("it takes", minutes)):
            field = self.page.get_by_label(label, exact=True).nth(at)
            field.fill(words)
            field.press("Enter")

    def settled(self, thing) -> dict[str, float]:
        """Where a thing on a drawing has come to rest: the chart is scaled anew with every answer."""
        before = None
        for _ in range(30):
            box = thing.bounding_box()
            if box == before:
                return box
            before = box
            self.page.wait_for_timeout(600)
        raise AssertionError("the chart never came to rest")

    def test_a_label_table_bends_the_line(self):
        page = self.page
        self.open("Locker lid, cracked")
        self.step("Chemistry")
        expect(page.get_by_text("Roughly, for a moment")).to_have_count(0)
        lines = "[...document.querySelectorAll('svg[aria-label^=\"Gel time\"] path')].map((p) => p.getAttribute('d')).join()"
        before = page.evaluate(f"() => {lines}")
        for at, (temperature, minutes) in enumerate((("59 °F", "24 min"), ("20 °C", "17 min"), ("25 °C", "11 min"))):
            page.get_by_role("button", name="add a time").click()
            # A row that nobody filled is no time of the label.
            expect(page.get_by_text("Type both: it counts from then on.")).to_be_visible()
            self.row(at, temperature, minutes)
            expect(page.get_by_text("Type both: it counts from then on.")).to_have_count(0)
        expect(page.get_by_label("it takes", exact=True)).to_have_count(3)
        page.wait_for_function(f"(before) => {lines} !== before", arg=before)
        expect(page.get_by_text("is far from what the rest say")).to_have_count(0)
        self.row(2, "25 °C", "2 h")
        expect(
            page.get_by_text(re.compile("^120 min at 25 °C, where about .* It is far from what the rest say"))
        ).to_be_visible()
        page.get_by_role("button", name="Remove the time at 25").click()
        expect(page.get_by_text("is far from what the rest say")).to_have_count(0)
        expect(page.get_by_label("it takes", exact=True)).to_have_count(2)
        page.locator("h1 button").click()
        expect(page.get_by_role("dialog")).to_contain_text("fitted to 3 times of the label")
        page.keyboard.press("Escape")
        self.saved()
        page.reload()
        expect(page.get_by_label("it takes", exact=True).first).to_have_value("24 min")

    def test_a_time_is_dragged_on_the_chart_and_taken_away_there(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Chemistry")
        expect(page.get_by_text("shaded: where 95 of 100 gel")).to_be_visible()
        expect(page.get_by_text("Roughly, for a moment")).to_have_count(0)
        page.get_by_role("button", name="add a time").click()
        self.row(0, "15 °C", "50 min")
        self.saved()
        mark = page.get_by_role("slider", name="The label's time at 15.0 °C")
        expect(mark).to_be_visible()
        square = self.settled(mark)
        middle = (square["x"] + square["width"] / 2, square["y"] + square["height"] / 2)
        page.mouse.move(*middle)
        page.mouse.down()
        page.mouse.move(middle[0], middle[1] + 20, steps=4)
        page.mouse.up()
        typed = page.get_by_label("it takes", exact=True).first
        expect(typed).not_to_have_value("50 min")
        self.saved()
        page.get_by_role("slider", name=re.compile("The label's time at 15")).press("Delete")
        expect(page.get_by_label("it takes", exact=True)).to_have_count(0)


class TheRoom(DeskTest):
    def test_the_point_is_dragged_from_twelve_to_thirty_two(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Chemistry")
        point = page.get_by_role("slider", name="Today's point on the chart")
        verdict = page.get_by_role("heading", level=1)
        expect(verdict).to_have_text(re.compile("^Medium hardener"))
        for _ in range(14):
            point.press("ArrowLeft")
        expect(verdict).to_have_text(re.compile("^Fast hardener: .* at 12 °C"))
        for _ in range(40):
            point.press("ArrowRight")
        expect(verdict).to_have_text(re.compile("^Extra slow hardener: .* at 32 °C"))
        page.get_by_role("button", name="Spring back").click()
        expect(verdict).to_have_text(re.compile("^Medium hardener"))

    def test_the_dose_of_a_polyester_follows_the_room_and_the_ruler(self):
        page = self.page
        self.open("Channel buoy lid")
        self.step("Chemistry")
        verdict = page.get_by_role("heading", level=1)
        expect(verdict).to_have_text(re.compile("^1.3 % catalyst"))
        page.get_by_role("slider", name="Dose of catalyst").press("End")
        expect(verdict).to_have_text(re.compile("^2 % catalyst gels in 16 min"))
        expect(page.get_by_role("row", name=re.compile("^syringe .* ml 2.00 %"))).to_be_visible()
        page.get_by_role("button", name="Let the plan solve the dose").click()
        expect(verdict).to_have_text(re.compile("^1.3 % catalyst"))


class Blending(DeskTest):
    def test_two_hardeners_are_blended_and_told_apart_on_the_ticket(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Chemistry")
        page.get_by_role("region", name="Blend").get_by_role("radio", name="slow", exact=True).click()
        share = page.get_by_role("slider", name="Share of slow")
        for _ in range(5):
            share.press("ArrowRight")
        expect(page.get_by_role("heading", level=1)).to_have_text(re.compile("^Medium with 25 % slow hardener"))
        expect(page.get_by_text("mix a test cup first")).to_be_visible()
        self.saved()
        self.step("Ticket")
        expect(page.get_by_text(re.compile(r"\d+ g medium, to \d+ g on the scale, then \d+ g slow"))).to_be_visible()
        self.step("Chemistry")
        share.press("Home")
        expect(page.get_by_role("heading", level=1)).to_have_text(re.compile("^Medium hardener"))


class PotLab(DeskTest):
    def test_pots_are_tried_side_by_side(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Pots")
        page.get_by_role("link", name="Try this pot before you pour it").click()
        first, second = page.get_by_role("region", name="Pot A"), page.get_by_role("region", name="Pot B")
        expect(first.get_by_text("min to gel")).to_be_visible()
        expect(first.get_by_text("over 150 °C, smoke")).to_be_visible()
        # So large a pot lies too deep in the tray there is.
        for label, words, said in (
            ("A pot of", "700 g", "no gain over the cup worth the trouble"),
            ("a tray of", "0.25", "longer than in the cup"),
        ):
            field = second.get_by_label(label)
            field.fill(words)
            field.press("Enter")
            expect(second.get_by_text(re.compile(said))).to_be_visible()
        poured = first.get_by_label("poured out 3 mm thin after")
        poured.fill("10 min")
        poured.press("Enter")
        expect(first.get_by_text(re.compile("^poured out after 10 min it gels at"))).to_be_visible()
        poured.fill("5 h")
        poured.press("Enter")
        expect(first.get_by_text(re.compile("it has gelled after .* before it is poured out"))).to_be_visible()
        page.get_by_role("button", name="Put another beside them").click()
        expect(page.get_by_role("region", name="Pot C")).to_be_visible()


class OffTheRatio(DeskTest):
    size = (390, 844)

    def test_a_broken_ratio_is_told_its_rescue(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Ticket")
        page.get_by_role("button", name="Take it to the bench").click()
        page.get_by_label("A poured, g").fill("372")
        page.get_by_label("B poured, g").fill("130")
        check = page.get_by_role("status", name="Ratio check")
        expect(check).to_contain_text("Gone. 23 % resin heavy")
        expect(check).to_contain_text("38 g of B")
        page.get_by_label("B poured, g").fill("168")
        expect(check).to_contain_text("within the 5 % it takes")
