"""A casting at the desk: a river measured and filled, its lifts by the room, its depth dragged, what cannot be said."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class Castings(DeskTest):
    def lifts(self):
        return self.page.get_by_role("region", name="Lifts", exact=True)

    def test_a_river_is_measured_and_poured_by_the_room(self):
        page = self.page
        self.new_job("River table")
        page.get_by_role("button", name="Add a casting").click()
        self.fill("Casting", "River")
        self.pick("Its shape", "Read along it")
        self.fill("Length", "1.33 m")
        self.fill("Depth", "25 mm")
        for number, width in enumerate(("150 mm", "165 mm", "172 mm", "158 mm", "149 mm"), 1):
            page.get_by_role("button", name="Add a reading").click()
            self.fill(f"Width {number}", width)
        self.step("Chemistry")
        self.pick("Resin", "Casting epoxy, 2 to 1")
        self.step("Pours")
        # 1.33 m × 161.25 mm by Simpson's rule × 25 mm.
        held = page.get_by_role("region", name="Filling")
        expect(held).to_contain_text("5.36 l")
        expect(held).to_contain_text("Measured as if it weighed like water")
        page.get_by_title("Type the readings").click()
        page.get_by_role("radio", name="this job's own").click()
        self.fill("Room air", "18")
        expect(self.lifts()).to_contain_text("28.")
        cool = self.peak()
        self.fill("Room air", "23")
        # The sheet's depth in the sheet's room: as hot as it may be.
        expect(self.lifts()).to_contain_text(re.compile(r"5\d\.\d °C"))
        self.assertGreater(self.peak(), cool + 20)
        expect(self.lifts().locator("tbody tr")).to_have_count(1)
        self.fill("Room air", "26")
        expect(self.lifts().locator("tbody tr")).to_have_count(2)
        self.saved()

    def peak(self) -> float:
        text = self.lifts().locator("tbody td").nth(2).inner_text()
        return float(text.split()[0])

    def test_its_depth_is_dragged_and_parted_into_lifts(self):
        page = self.page
        self.open("Tiller-head panel")
        self.step("Pours")
        depth = page.get_by_role("slider", name="Depth")
        expect(page.get_by_role("slider", name="Moment shown")).to_be_visible()
        expect(self.lifts().locator("tbody tr")).to_have_count(2)
        for _ in range(4):
            depth.press("PageUp")
        expect(depth).to_have_attribute("aria-valuetext", "80 mm")
        expect(self.lifts().locator("tbody tr")).to_have_count(4)
        expect(page.get_by_label("Depth", exact=True).and_(page.get_by_role("textbox"))).to_have_value("80 mm")
        self.saved()
        # What is said of one pour so deep, while it is held.
        box = depth.bounding_box()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] - 30, steps=5)
        expect(page.get_by_text("Too hot in one pour")).to_be_visible()
        page.mouse.up()
        expect(page.get_by_text("Too hot in one pour")).to_have_count(0)

    def test_a_wished_lift_is_warned_of_and_fibre_that_does_not_fit_is_said(self):
        page = self.page
        self.open("Tiller-head panel")
        self.step("Pours")
        self.fill("Each lift at most", "40 mm")
        expect(self.sheet.get_by_text("at once comes to").first).to_be_visible()
        expect(self.lifts().locator("tbody tr")).to_have_count(1)
        self.fill("How much, % of the resin", "190")
        expect(page.get_by_text("stands out of the resin: take less").first).to_be_visible()
        self.fill("How much, % of the resin", "20")
        expect(self.lifts()).to_be_visible()
        depth = page.get_by_label("Depth", exact=True).and_(page.get_by_role("textbox"))
        depth.fill("2 m")
        depth.press("Enter")
        expect(self.sheet.get_by_text("1000").first).to_be_visible()
        expect(depth).to_have_value("2 m")
        depth.fill("40 mm")
        depth.press("Enter")
        self.fill("Each lift at most", "")
        expect(self.lifts().locator("tbody tr")).to_have_count(2)
        self.saved()


class Coats(DeskTest):
    def test_a_primer_is_opened_area_by_area_and_a_flood_coat_is_typed_in_ounces(self):
        page = self.page
        self.open("Bait well")
        self.step("Pours")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Coats of Floor and walls")
        next_ = page.get_by_role("region", name="Next coat")
        expect(next_).to_contain_text("Area 1 is opened at 08:03")
        expect(next_).to_contain_text("the last start by 11:5")
        expect(next_).to_contain_text("Area 2 is opened at")
        expect(page.get_by_role("region", name="Areas")).to_contain_text("Opened in 2 areas")
        # Humid air hurries a primer that it sets: its last start comes sooner.
        page.get_by_title("Type the readings").click()
        self.fill("Humidity, %", "95")
        expect(next_).to_contain_text("the last start by 11:0")
        page.get_by_role("button", name=re.compile("^top coat ?500 µm wet")).click()
        self.fill("Wet film of each", "3 fl oz/ft²")
        expect(page.get_by_text("955 µm wet each")).to_be_visible()
        self.fill("Coverage", "4 m²/l")
        expect(page.get_by_text("as thick as by the wet film: leave one of them out").first).to_be_visible()
        expect(page.get_by_label("Coverage", exact=True)).to_have_value("4 m²/l")
        self.fill("Coverage", "")
        self.fill("Or by weight", "600 g/m²")
        expect(page.get_by_text("500 µm wet each")).to_be_visible()
        self.fill("Coats alike", "2")
        expect(page.get_by_role("link", name="Pours & coats")).to_contain_text("3 coats")
        self.saved()

    def test_a_mould_is_made_of_a_part_from_release_to_its_last_ply(self):
        page = self.page
        self.open("Channel buoy lid")
        self.step("Measure")
        page.get_by_role("button", name="Make a mould for").first.click()
        name = page.get_by_label("Part", exact=True).last
        expect(name).to_have_value(re.compile("^Mould of"))
        self.saved()
        self.step("Pours")
        page.get_by_role("button", name=re.compile("^Mould of")).click()
        expect(page.get_by_text("2 mould surface coats")).to_be_visible()
        expect(page.get_by_role("region", name="Next coat")).to_contain_text("A dry brush dabbed on it leaves marks")
        self.step("Prepare")
        for words in ("Wax and buff", "Level the plug both ways", "Putty at hand", "Board round the plug"):
            expect(page.get_by_text(words).first).to_be_visible()
        self.step("Pots")
        page.get_by_role("radio", name="list").click()
        expect(page.get_by_text("mould surface coat 1 of 2").first).to_be_visible()
        # Nothing is said against it: thick enough, two coats, glass within the window.
        expect(page.get_by_text("times as thick as its part")).to_have_count(0)
