"""The builder's moves on each screen, one by one, in the real browser."""

import re

from playwright.sync_api import Page, expect

from tests.browser.desk import PASSWORD, PERSON, ROOT, DeskTest


class Desk(DeskTest):
    """Each test takes a job of its own, so that none rests on another's edits."""

    def open_new(self, name: str, stack: str = "", resin: str = "") -> None:
        self.new_job(name)
        self.page.get_by_role("button", name="Add a part").click()
        self.fill("Width", "1 m")
        self.fill("Length", "2 m")
        expect(self.page.get_by_role("link", name="Measure")).to_contain_text("2 m²")
        if stack:
            self.step("Stack")
            self.page.get_by_label("Write the stack").fill(stack)
            expect(self.page.get_by_text(re.compile(r"pl(y|ies) read"))).to_be_visible()
        if resin:
            self.step("Chemistry")
            self.pick("Resin", resin)
            expect(
                self.page.get_by_text("To be sanded within").or_(self.page.get_by_text("Gel time wanted"))
            ).to_be_visible()
        self.saved()

    def ledger(self) -> list[str]:
        rows = self.page.get_by_role("table").get_by_role("row").all()[1:]
        named = [row.get_by_role("button").first for row in rows if row.get_attribute("data-path")]
        return [button.inner_text().strip() for button in named]

    def test_plies_are_moved_doubled_and_removed_in_the_ledger(self):
        page = self.page
        self.open_new("Ledger", "450 csm, 600 biax 45")
        page.get_by_role("button", name="600 biaxial").click()
        page.get_by_role("button", name="earlier").click()
        self.saved()
        self.assertEqual(self.ledger(), ["600 biaxial ±45", "450 chopped mat"])
        page.get_by_role("button", name="double").click()
        expect(page.get_by_label("Write the stack")).to_have_value("2x 600 biax 45, 450 csm")
        page.get_by_role("button", name="450 chopped mat", exact=True).focus()
        page.get_by_role("button", name="remove").press("Enter")
        expect(page.get_by_label("Write the stack")).to_have_value("2x 600 biax 45")
        self.saved()
        self.assertEqual(self.ledger(), ["600 biaxial ±45"] * 2)

    def test_a_part_is_removed_and_counted(self):
        page = self.page
        self.open_new("Counting")
        page.get_by_label("How many").fill("3")
        expect(page.get_by_role("link", name="Measure")).to_contain_text("3 parts · 6 m²")
        page.get_by_label("How many").fill("900")
        expect(page.get_by_text("must be 200 or less")).to_be_visible()
        page.get_by_label("How many").fill("2")
        self.saved()
        page.get_by_role("button", name="Remove Part 1").click()
        expect(page.get_by_text("Begin with the surface")).to_be_visible()
        self.saved()

    def test_the_builder_takes_another_hardener_and_hears_what_it_costs(self):
        page = self.page
        self.open_new("Own hardener", "300 cloth", "Laminating epoxy, 2 to 1")
        page.get_by_role("button", name="extra slow", exact=True).click()
        expect(self.sheet.get_by_text("2 steps slower than 19 °C asks for")).to_be_visible()
        expect(page.get_by_role("link", name="Chemistry")).to_contain_text("stop")
        page.get_by_role("button", name="slow", exact=True).click()
        expect(self.sheet.get_by_text("Slow is one step slower than 19 °C asks for")).to_be_visible()
        page.get_by_role("button", name="Let the plan choose the hardener").click()
        expect(page.get_by_role("heading", level=1)).to_contain_text("Medium hardener")

    def test_one_step_slower_until_the_deadline_forbids_it(self):
        page = self.page
        self.open_new("School", "300 cloth", "Laminating epoxy, 2 to 1")
        page.get_by_role("radio", name="a step slower").click()
        expect(page.get_by_role("heading", level=1)).to_contain_text("Slow hardener")
        self.fill("To be sanded within", "14 h")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Medium hardener")
        expect(page.get_by_text("14 h are given").first).to_be_visible()

    def test_the_tins_ratio_is_checked(self):
        page = self.page
        self.open_new("Tin", "300 cloth", "Laminating epoxy, 2 to 1")
        self.fill("What your tin says, to check it", "2:1")
        page.get_by_role("radio", name="weight").last.click()
        expect(self.sheet.get_by_text("100:50 is its ratio by volume")).to_be_visible()
        self.fill("What your tin says, to check it", "two")
        expect(page.get_by_text("“two” is no ratio")).to_be_visible()
        self.fill("What your tin says, to check it", "100:45")
        expect(page.get_by_text("is its ratio by volume")).to_have_count(0)
        self.saved()

    def test_a_dose_outside_the_limits_is_a_stop_and_a_limit_offers_ways_round(self):
        page = self.page
        self.open_new("Dose", "450 csm", "General-purpose polyester")
        self.fill("Gel time wanted", "90")
        expect(page.get_by_text("in the room gels in 90 min at 1 %")).to_be_visible()
        own = page.get_by_label("or your own dose, as the tin prints it")
        own.fill("3")
        own.press("Enter")
        expect(self.sheet.get_by_text("3 % catalyst is outside the product's 1 to 2 %")).to_be_visible()

    def test_the_ring_is_dragged_and_the_paste_follows(self):
        page = self.page
        self.open_new("Corner", "300 cloth", "Laminating epoxy, 2 to 1")
        self.step("Measure")
        page.get_by_role("button", name="Add a joint").click()
        expect(page.get_by_label("Joint", exact=True)).to_be_focused()
        # From nothing the ring is pulled out of the corner.
        expect(self.sheet.get_by_text("type the radius of the fillet")).to_be_visible()
        page.get_by_role("slider", name="Radius of the fillet").press("ArrowUp")
        expect(page.get_by_label("Radius", exact=True)).to_have_value("2 mm")
        expect(self.sheet.get_by_text("type the radius of the fillet")).to_have_count(0)
        self.fill("Length", "2 m")
        self.fill("Radius", "12 mm")
        self.pick("Filler", "Microfibres or flock")
        expect(page.get_by_role("link", name="Joints")).to_contain_text("68 ml")
        ring = page.get_by_role("slider", name="Radius of the fillet").bounding_box()
        x, y = ring["x"] + ring["width"] / 2, ring["y"] + ring["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 30, y - 30, steps=4)
        page.mouse.up()
        # 30 pixels each way on a picture of 8 to 9 pixels a millimetre, over 1 − √½: about 12 mm more.
        expect(page.get_by_label("Radius", exact=True)).not_to_have_value("12 mm")
        radius = float(page.get_by_label("Radius", exact=True).input_value().split()[0])
        self.assertTrue(20 <= radius <= 30, radius)
        paste = 0.21460 * radius**2 * 2 * 1.1
        expect(page.get_by_role("link", name="Joints")).to_contain_text(f"{paste:.0f} ml")
        self.saved()

    def test_hands_and_a_smaller_pot_move_the_count(self):
        page = self.page
        self.open_new("Pots", "2x 600 biax", "Laminating epoxy, 2 to 1")
        # Pots by the rough model are not those by the full one.
        expect(page.get_by_text("Roughly, for a moment")).to_have_count(0)
        self.saved()
        self.step("Pots")
        title = page.get_by_role("heading", level=1)
        expect(title).to_contain_text("pots, laid by")
        page.get_by_text("Set by hand").click()
        alone = int(title.inner_text().split()[0])
        self.fill("Largest pot, if you set it", "7 oz")
        expect(page.get_by_text("7 oz = 198.4 g")).to_be_visible()
        expect(title).not_to_have_text(re.compile(f"^{alone} pots"))
        self.assertGreater(int(title.inner_text().split()[0]), alone)
        self.fill("Largest pot, if you set it", "")
        expect(page.get_by_text("limited by pot life")).to_be_visible()
        expect(title).to_have_text(re.compile(f"^{alone} pots"))
        page.get_by_role("radio", name="3", exact=True).click()
        expect(title).not_to_have_text(re.compile(f"^{alone} pots"))
        self.saved()
        self.assertLess(int(title.inner_text().split()[0]), alone)

    def test_a_heavier_cup_moves_every_reading(self):
        page = self.page
        self.open_new("Cup", "300 cloth", "Laminating epoxy, 2 to 1")
        self.step("Ticket")
        first = page.get_by_role("region", name="Ticket").locator("div.fig").nth(1)
        before = int(first.inner_text().split()[0].rstrip("g").replace(",", ""))
        self.fill("This cup weighs", "50 g")
        expect(first).to_contain_text(str(before + 30))
        page.get_by_role("button", name="Next").click()
        expect(page.get_by_role("heading", level=1)).to_contain_text("Pot 2")

    def test_what_was_poured_is_written_in_any_unit_and_nonsense_is_not(self):
        page = self.page
        self.open_new("Poured", "300 cloth", "Laminating epoxy, 2 to 1")
        self.step("Ticket")
        self.to_the_bench()
        page.get_by_label("A poured, g").fill("4 fl oz")
        expect(page.get_by_text("fluid ounces measure volume")).to_be_visible()
        page.get_by_role("button", name="Poured").click()
        expect(page.get_by_role("alert").filter(has_text="mend what was poured first")).to_be_visible()
        page.get_by_label("A poured, g").fill("4 oz")
        expect(page.get_by_text("4 oz = 113.4 g")).to_be_visible()
        page.get_by_label("B poured, g").fill("51")
        page.get_by_role("button", name="Poured").click()
        expect(page.get_by_role("button", name=re.compile("Poured .*:"))).to_be_disabled()
        self.step("Log")
        expect(page.get_by_role("cell", name=re.compile(r"^[+−][\d.]+ %$"))).to_be_visible()

    def test_a_stop_points_at_its_ply_and_is_overridden_with_a_reason_that_is_kept(self):
        page = self.page
        self.open_new("Override", "300 cloth, 450 csm", "Laminating epoxy, 2 to 1")
        self.step("Ticket")
        expect(page.get_by_role("button", name="Take it to the bench")).to_be_disabled()
        page.get_by_role("button", name=re.compile("1 stop")).click()
        page.get_by_role("button", name="show me where, under stack").first.click()
        expect(page.get_by_role("button", name="450 chopped mat", exact=True)).to_be_focused()
        page.get_by_text("Why, and what to do").first.click()
        page.get_by_role("button", name="Override this stop").click()
        expect(page.get_by_role("alert").filter(has_text="say why")).to_be_visible()
        page.get_by_label("To go on all the same").fill("maker says epoxy")
        page.get_by_role("button", name="Override this stop").click()
        expect(page.get_by_text(re.compile("wren, .*“maker says epoxy”"))).to_be_visible()
        expect(page.get_by_role("link", name="Stack")).to_contain_text("ready")
        self.saved()
        self.step("Ticket")
        self.to_the_bench()
        expect(page.get_by_role("heading", name="Write down pot 1")).to_be_visible()
        self.step("Log")
        expect(page.get_by_text("wren went on past a stop")).to_contain_text("maker says epoxy")
        self.step("Stack")
        page.get_by_text("Overridden:").click()
        page.get_by_role("button", name="Let it stop again").click()
        expect(page.get_by_role("link", name="Stack")).to_contain_text("stop")

    def test_typed_readings_become_the_shops_day_in_any_unit(self):
        page = self.page
        self.open_new("Day", "300 cloth", "Laminating epoxy, 2 to 1")
        page.get_by_title("Type the readings").click()
        self.fill("Room air", "77F")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Slow hardener")
        self.fill("Room air", "500 C")
        expect(page.get_by_text("must be 50 or less").first).to_be_visible()
        self.fill("Room air", "19 °C")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Medium hardener")

    def second_page(self) -> Page:
        other = self.page.context.new_page()
        other.goto(self.page.url)
        return other

    def rename_job(self, page: Page, name: str) -> None:
        page.get_by_label("Job", exact=True).fill(name)
        page.get_by_label("Job", exact=True).press("Enter")

    def test_two_pages_on_one_job_change_different_fields_and_both_stay(self):
        self.open_new("Shared")
        other = self.second_page()
        self.rename_job(other, "Shared, renamed")
        expect(other.get_by_role("status").filter(has_text="saved")).to_have_text("saved")
        self.fill("Part", "Transom")
        expect(self.page.get_by_label("Job", exact=True)).to_have_value("Shared, renamed")
        expect(self.page.get_by_label("Part", exact=True)).to_have_value("Transom")
        self.saved()

    def test_the_same_field_on_two_pages_asks_with_both_values(self):
        page = self.page
        self.open_new("Contested")
        other = self.second_page()
        self.rename_job(other, "Theirs")
        expect(other.get_by_role("status").filter(has_text="saved")).to_have_text("saved")
        self.rename_job(page, "Mine")
        expect(page.get_by_role("alertdialog")).to_contain_text("yours: Mine")
        page.get_by_role("radio", name="wren: Theirs").click()
        page.get_by_role("button", name="Keep these").click()
        expect(page.get_by_label("Job", exact=True)).to_have_value("Theirs")
        self.saved()

    def test_undo_and_redo_across_three_screens(self):
        page = self.page
        self.open_new("Undone", "2x 300 cloth", "Laminating epoxy, 2 to 1")
        page.wait_for_timeout(800)  # edits within a burst are undone together
        self.step("Measure")
        self.fill("Width", "2 m")
        self.saved()
        page.wait_for_timeout(800)
        self.step("Stack")
        # The line arrives from the server: typing while it lands would type into its end.
        expect(page.get_by_label("Write the stack")).to_have_value("2x 300 cloth")
        page.get_by_label("Write the stack").fill("300 cloth")
        expect(page.get_by_role("row").filter(has_text="300 cloth")).to_have_count(1)
        page.wait_for_timeout(800)
        self.step("Pots")
        page.get_by_text("Set by hand").click()
        page.get_by_role("radio", name="3", exact=True).click()
        self.saved()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("radio", name="1", exact=True)).to_be_checked()
        page.keyboard.press("Control+z")
        expect(page.get_by_role("link", name="Stack")).to_contain_text("2 plies")
        page.keyboard.press("Control+z")
        expect(page.get_by_role("link", name="Measure")).to_contain_text("2 m²")
        for _ in range(3):
            page.get_by_role("button", name="Redo").click()
        expect(page.get_by_role("radio", name="3", exact=True)).to_be_checked()
        expect(page.get_by_role("link", name="Measure")).to_contain_text("4 m²")
        self.saved()

    def test_an_earlier_revision_is_compared_and_gone_back_to(self):
        page = self.page
        self.open_new("Revised", "300 cloth", "Laminating epoxy, 2 to 1")
        self.step("Log")
        page.get_by_role("button", name="compare with this").last.click()
        expect(page.get_by_text("+2.00 m²")).to_be_visible()
        page.get_by_role("button", name="go back to it").last.click()
        expect(page.get_by_role("link", name="Measure")).to_contain_text("no part yet")
        expect(page.get_by_role("row").filter(has_text="the latest")).to_contain_text("3")

    def test_a_job_comes_from_a_file_and_a_bad_file_says_why(self):
        page = self.page
        picker = page.get_by_label("A job file")
        picker.set_input_files(
            {"name": "x.json", "mimeType": "application/json", "buffer": b'{"name": "x", "parts": [{"id": "!"}]}'}
        )
        expect(page.get_by_role("alert")).to_contain_text("parts.0.id")
        sample = (
            (ROOT / "tests" / "core" / "samples" / "job_v1.json")
            .read_bytes()
            .replace(b"Estuary skiff", b"Skiff from afar")
        )
        picker.set_input_files({"name": "skiff.json", "mimeType": "application/json", "buffer": sample})
        expect(page.get_by_label("Job", exact=True)).to_have_value("Skiff from afar")
        with page.expect_download() as download:
            page.get_by_role("link", name="this job as a file").click()
        self.assertEqual(download.value.suggested_filename, "skiff-from-afar.json")

    def test_a_mate_is_invited_by_link_and_may_only_look(self):
        page = self.page
        self.open_new("Looked at")
        page.goto(f"{self.server.address}/people")
        page.get_by_role("radio", name="viewer").last.click()
        page.get_by_role("button", name="Make a link").click()
        link = page.get_by_label("Give this to one person").input_value()
        theirs = self.another_device().new_page()
        theirs.goto(link)
        expect(theirs.get_by_role("heading", level=1)).to_have_text("wren invites you to Saltmarsh Slip, as viewer")
        theirs.get_by_label("The name you want").fill("tern")
        theirs.get_by_label("A password").fill("copper-rivet-99")
        theirs.get_by_role("button", name="Join").click()
        theirs.get_by_role("link").filter(has_text="Looked at").click()
        theirs.get_by_role("navigation", name="Steps").get_by_role("link", name="Measure").click()
        expect(theirs.get_by_role("status").filter(has_text="to look at, not to change")).to_be_visible()
        expect(theirs.get_by_label("Job", exact=True)).not_to_be_editable()
        expect(theirs.get_by_role("button", name="Add a part")).to_be_disabled()
        theirs.get_by_role("navigation", name="Steps").get_by_role("link", name="Chemistry").click()
        expect(theirs.get_by_role("combobox", name="Resin")).to_be_disabled()
        theirs.get_by_role("radio", name="oz °F").click()
        expect(theirs.get_by_role("radio", name="oz °F")).to_be_checked()
        page.reload()
        expect(page.get_by_text("tern")).to_be_visible()
        theirs.goto(link)
        expect(theirs.get_by_role("heading", level=1)).to_contain_text("ask for another")

    def test_signing_out_and_a_wrong_password(self):
        page = self.page
        page.get_by_role("button", name=re.compile("wren:")).click()
        page.get_by_role("menuitem", name="Sign out").click()
        page.get_by_label("Name").fill(PERSON)
        page.get_by_label("Password").fill("wrong")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("do not fit together")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Jobs")).to_be_visible()
        page.goto(f"{self.server.address}/jobs/00000000-0000-4000-8000-000000000000/measure")
        expect(page.get_by_role("heading", name="This job cannot be opened")).to_be_visible()
