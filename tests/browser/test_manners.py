"""What the screens do with bad input, a scrubbed temperature and a lost server."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class Manners(DeskTest):
    def test_bad_input_is_answered_at_the_field_and_kept(self):
        page = self.page
        self.new_job("Doubtful")
        page.get_by_role("button", name="Add a part").click()
        self.fill("Width", "2 bananas")
        expect(page.get_by_text("“bananas” is no unit known here")).to_be_visible()
        self.fill("Length", "-3 m")
        expect(page.get_by_text("must be 0.001 or more")).to_be_visible()
        self.saved()  # everything but the refused quantity, which waits in its field
        self.fill("Part", "Keelson")
        self.saved()
        expect(page.get_by_text("must be 0.001 or more")).to_be_visible()
        self.step("Chemistry")
        self.step("Measure")
        expect(page.get_by_label("Width", exact=True)).to_have_value("2 bananas")
        expect(page.get_by_label("Length", exact=True)).to_have_value("-3 m")
        page.reload()
        expect(page.get_by_label("Width", exact=True)).to_have_value("2 bananas")
        expect(page.get_by_text("“bananas” is no unit known here")).to_be_visible()
        expect(page.get_by_label("Length", exact=True)).to_have_value("-3 m")
        expect(page.get_by_text("type the length")).to_be_visible()
        expect(page.get_by_label("Part", exact=True)).to_have_value("Keelson")
        self.fill("Length", "3 m")
        self.fill("Width", "1 m")
        self.saved()

        self.step("Stack")
        expect(page.get_by_text("has no plies")).to_be_visible()
        page.get_by_label("Write the stack").fill("450 csm, 10 cloth")
        expect(page.get_by_text("is it 10 oz/yd² (339 g/m²)?")).to_be_visible()
        expect(page.get_by_role("row").filter(has_text="450 chopped mat")).to_have_count(0)
        page.get_by_role("button", name="take 10 oz/yd² cloth").click()
        expect(page.get_by_role("row").filter(has_text="10 oz cloth")).to_have_count(1)

    def test_a_product_measured_by_volume_only_will_not_be_weighed(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Chemistry")
        self.pick("Resin", "Epoxy, 5 to 1, by pump or cup only")
        expect(page.get_by_role("alert").filter(has_text="by volume only")).to_be_visible()
        page.get_by_role("radio", name="volume").first.click()
        expect(page.get_by_text(re.compile(r"For a [\d,.]+ (ml|l) pot, by volume"))).to_be_visible()
        self.pick("Resin", "Laminating epoxy, 2 to 1")
        page.get_by_role("radio", name="weight").first.click()
        self.saved()

    def test_the_temperature_is_scrubbed_from_the_keys_and_springs_back(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Chemistry")
        verdict = page.get_by_role("heading", level=1)
        expect(verdict).to_contain_text("Medium hardener")
        ruler = page.get_by_role("slider", name="Try a room temperature")
        for _ in range(10):
            ruler.press("ArrowRight")
        expect(verdict).to_contain_text("Slow hardener")
        expect(verdict).to_contain_text("at 24 °C")
        page.get_by_role("button", name="Spring back").click()
        expect(verdict).to_contain_text("Medium hardener")
        for _ in range(10):
            ruler.press("ArrowLeft")
        expect(verdict).to_contain_text("at 14 °C")

    def test_edits_made_while_the_server_is_away_are_sent_when_it_is_back(self):
        page = self.page
        self.open("Channel buoy lid")
        self.step("Measure")
        expect(page.get_by_label("Width", exact=True)).to_have_value("1.2 m")
        self.server.kill()
        page.get_by_label("Job", exact=True).fill("Channel buoy lid, spare")
        page.get_by_label("Job", exact=True).press("Enter")
        expect(page.get_by_role("status").filter(has_text="no connection")).to_be_visible()
        self.server.start()
        self.saved()
        page.reload()
        expect(page.get_by_label("Job", exact=True)).to_have_value("Channel buoy lid, spare")

    def test_tools_chosen_faster_than_the_shop_is_kept_do_not_undo_each_other(self):
        page = self.page
        page.goto(f"{self.server.address}/shop")
        page.route("**/settings", lambda route: None)
        self.pick("Pots are weighed on", "Bench scale, 0.05 oz")
        self.pick("The syringe", "Syringe, 10 cc")
        expect(page.get_by_role("status")).to_have_text("keeping")
        page.unroute("**/settings")  # what was held goes on
        expect(page.get_by_role("status")).to_have_text("kept")
        page.reload()
        expect(page.get_by_role("combobox", name="Pots are weighed on")).to_contain_text("Bench scale, 0.05 oz")
        expect(page.get_by_role("combobox", name="The syringe")).to_contain_text("Syringe, 10 cc")
