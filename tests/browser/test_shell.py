"""The frame of every screen: conditions, units, working, hints, the floor; and axe wherever one can go."""

import re
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import expect

from tests.browser.desk import PASSWORD, PERSON, ROOT, DeskTest

AXE = Path(ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js")
STEPS = ("Measure", "Stack", "Chemistry", "Joints", "Pots", "Ticket", "Log")


class ShellTest(DeskTest):
    @contextmanager
    def units(self, face: str):
        """The unit set of a face on the switch, and the set as typed again after."""
        self.page.get_by_role("radio", name=face).click()
        expect(self.page.get_by_role("radio", name=face)).to_be_checked()
        try:
            yield
        finally:
            self.page.get_by_role("radio", name="typed").click()
            expect(self.page.get_by_role("radio", name="typed")).to_be_checked()


class Conditions(ShellTest):
    def verdict(self):
        return self.page.get_by_role("heading", level=1)

    def test_a_scrubbed_temperature_is_kept_for_the_shop_and_every_figure_follows(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Chemistry")
        ruler = page.get_by_role("slider", name="Try a room temperature")
        ruler.press("ArrowRight")
        ruler.press("ArrowRight")
        strip = page.get_by_role("region", name="Conditions")
        expect(strip).to_contain_text("18.5")  # the surface moved along
        page.get_by_role("button", name="Keep 20.0 °C").click()
        expect(strip.get_by_text("Trying")).to_have_count(0)
        page.reload()
        expect(strip).to_contain_text("20.0")
        page.get_by_title("Type the readings").click()
        self.fill("Room air", "19 °C")
        self.fill("Surface", "63.5F")
        self.fill("Humidity, %", "62")
        expect(strip).to_contain_text("+5.9")

    def test_a_job_fixes_its_own_conditions_and_lets_them_go(self):
        page = self.page
        self.open("Channel buoy lid")
        self.step("Chemistry")
        page.get_by_title("Type the readings").click()
        page.get_by_role("radio", name="this job's own").click()
        expect(page.get_by_role("button", name="fixed for this job")).to_be_visible()
        self.fill("Room air", "23")
        expect(self.verdict()).to_contain_text("at 23 °C")
        self.fill("Humidity, %", "140")
        expect(page.get_by_text("must be 100 or less")).to_be_visible()
        self.fill("Humidity, %", "95")
        expect(page.get_by_role("link", name="Chemistry")).to_contain_text("stop")
        self.fill("Humidity, %", "50")
        self.saved()
        page.goto(self.server.address)
        expect(page.get_by_role("region", name="Today")).to_contain_text("19.0")
        self.open("Channel buoy lid")
        page.get_by_title("Type the readings").click()
        page.get_by_role("radio", name="the shop's day").click()
        self.step("Chemistry")
        expect(self.verdict()).to_contain_text("at 19 °C")
        self.saved()

    def test_answers_are_never_shown_out_of_order(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Chemistry")
        expect(self.verdict()).to_contain_text("at 19 °C")
        waits = iter([0.6, 0.05, 0.3, 0.01])

        def late(route):
            page.wait_for_timeout(1000 * next(waits, 0.01))
            route.continue_()

        page.route("**/what-if", late)
        page.evaluate(
            """() => {
              window.seen = [];
              const title = document.querySelector('h1');
              new MutationObserver(() => window.seen.push(title.innerText)).observe(title, {
                subtree: true, childList: true, characterData: true });
            }"""
        )
        ruler = page.get_by_role("slider", name="Try a room temperature")
        for _ in range(8):
            ruler.press("ArrowRight")
        expect(self.verdict()).to_contain_text("at 23 °C")
        page.unroute("**/what-if")
        shown = [float(re.search(r"at ([\d.]+) °C", words)[1]) for words in page.evaluate("window.seen")]
        self.assertEqual(shown, sorted(shown))

    def test_the_ruler_is_dragged_with_the_pointer(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Chemistry")
        ring = page.get_by_role("slider", name="Try a room temperature").bounding_box()
        x, y = ring["x"] + ring["width"] / 2, ring["y"] + ring["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 40, y, steps=5)
        expect(page.get_by_text("Trying")).to_be_visible()
        expect(self.verdict()).to_contain_text("Slow hardener")
        page.mouse.up()
        page.keyboard.press("Escape")
        expect(self.verdict()).to_contain_text("Medium hardener")


class Reading(ShellTest):
    def test_three_unit_sets(self):
        page = self.page
        self.new_job("Sets")
        page.get_by_role("button", name="Add a part").click()
        self.fill("Width", "30 in")
        self.fill("Length", "2 m")
        expect(page.get_by_label("Width", exact=True)).to_have_value("30 in")
        self.saved()
        with self.units("oz °F"):
            expect(page.get_by_label("Width", exact=True)).to_have_value("2.5 ft")
            expect(page.get_by_role("link", name="Measure")).to_contain_text("16.4 ft²")
            self.fill("Width", "3")
            expect(page.get_by_text("3 ft", exact=True)).to_be_visible()
            self.fill("Width", "30 in")
            self.saved()
        with self.units("g °C"):
            expect(page.get_by_label("Width", exact=True)).to_have_value("0.762 m")
            expect(page.get_by_role("link", name="Measure")).to_contain_text("1.52 m²")
        expect(page.get_by_label("Width", exact=True)).to_have_value("30 in")

    def test_the_ticket_stays_in_the_scales_unit(self):
        page = self.page
        self.open("Estuary skiff")
        with self.units("oz °F"):
            self.step("Chemistry")
            expect(page.get_by_role("heading", level=1)).to_contain_text("at 66.2 °F")
            self.step("Ticket")
            page.get_by_role("button", name="Next").click()
            ticket = page.get_by_role("region", name="Ticket")
            expect(ticket).to_contain_text(re.compile(r"\(1\d\.\d oz"))

    def test_a_number_opens_its_working_and_the_numbers_in_it(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Stack")
        page.locator("button", has_text=re.compile(r"^0\.75\s*mm")).click()
        sheet = page.get_by_role("dialog")
        expect(sheet.get_by_role("heading", name="Thickness")).to_be_visible()
        expect(sheet).to_contain_text("= a + b")
        expect(sheet).to_contain_text("0.74578 mm")
        sheet.get_by_role("button", name="ply 1, 300 cloth, twill").click()
        expect(sheet).to_contain_text("(W ÷ f + R ÷ c) ÷ 1000")
        expect(sheet.get_by_role("row", name=re.compile("density of E-glass"))).to_contain_text("memory")
        sheet.get_by_role("button", name="Back").click()
        expect(sheet.get_by_role("heading", name="Thickness")).to_be_visible()
        page.keyboard.press("Escape")
        self.step("Pots")
        page.get_by_role("button", name=re.compile("^(under )?1 in")).click()
        expect(sheet).to_contain_text("1 − exp(x × ln(1 − p))")

    def test_hints_that_were_closed_never_come_back(self):
        page = self.page
        self.open("Channel buoy lid")
        expect(page.get_by_role("complementary", name="Hints")).to_have_count(0)
        page.goto(self.server.address)
        self.open("Estuary skiff")
        hints = page.get_by_role("complementary", name="Hints")
        expect(hints.get_by_role("listitem")).to_have_count(3)
        page.get_by_role("button", name="Close the hint: Move the weather").click()
        expect(hints.get_by_role("listitem")).to_have_count(2)
        other = self.another_device(self.size).new_page()
        other.goto(page.url)
        other.get_by_label("Name").fill(PERSON)
        other.get_by_label("Password").fill(PASSWORD)
        other.get_by_role("button", name="Sign in").click()
        there = other.get_by_role("complementary", name="Hints")
        expect(there.get_by_role("listitem")).to_have_count(2)
        for hint in ("Write a stack", "Ask any number"):
            # It is kept once the server has answered.
            with other.expect_response(lambda answer: answer.request.method != "GET"):
                other.get_by_role("button", name=f"Close the hint: {hint}").click()
        expect(there).to_have_count(0)
        page.reload()
        expect(page.get_by_role("navigation", name="Steps")).to_be_visible()
        expect(hints).to_have_count(0)


class FloorTest(ShellTest):
    weather = True

    def test_the_day_is_typed_and_its_good_hours_follow(self):
        page = self.page
        today = page.get_by_role("region", name="Today")
        expect(today.get_by_role("img")).to_have_accessible_name(re.compile("Laminating epoxy, 2 to 1: "))
        page.get_by_role("button", name="New reading").click()
        self.fill("Humidity, %", "97")
        expect(today.get_by_role("img")).to_have_accessible_name(re.compile("no good hour .*dew point"))
        self.fill("Humidity, %", "62")
        self.fill("Coldest expected", "28 °C")
        expect(today.get_by_role("alert")).to_contain_text("change them round")
        self.fill("Coldest expected", "57.2F")
        expect(today.get_by_role("alert")).to_have_count(0)
        expect(today.get_by_role("img")).not_to_have_accessible_name(
            re.compile(r"Laminating epoxy, 2 to 1: [^.]*dew point")
        )

    def test_a_number_typed_back_before_the_last_was_kept_is_kept(self):
        page = self.page
        page.get_by_role("button", name="New reading").click()
        for label, field, other, back in (
            ("Humidity, %", "humidity_pct", "97", 62),
            ("Surface", "surface_c", "25", 17.5),
        ):
            page.route("**/conditions", lambda route: None)
            with page.expect_request("**/conditions"):
                self.fill(label, other)
            self.fill(label, f"{back:g}" if field == "humidity_pct" else f"{back} °C")
            with page.expect_response(lambda answer, field=field, back=back: _sent(answer).get(field) == back):
                page.unroute("**/conditions")  # what was held goes on
        expect(page.get_by_role("region", name="Today").locator("button", has_text="+5.9")).to_be_visible()

    def test_the_dew_margin_of_the_day_opens_its_working(self):
        self.page.get_by_role("region", name="Today").locator("button", has_text="+5.9").click()
        expect(self.page.get_by_role("dialog")).to_contain_text("dew point of 19 °C, 62 %")

    def test_what_is_due_leads_to_its_job(self):
        due = self.page.get_by_role("region", name="Due")
        expect(due).to_contain_text(re.compile("h after its last pot"))
        expect(due).to_contain_text("next ply before")
        due.get_by_role("link").first.click()
        expect(self.page).to_have_url(re.compile("/ticket$"))

    def test_a_job_begins_from_a_copy(self):
        page = self.page
        self.pick("Begin from", "a copy of Channel buoy lid")
        page.get_by_label("New job").fill("Second lid")
        page.get_by_role("button", name="Start").click()
        expect(page.get_by_label("Job", exact=True)).to_have_value("Second lid")
        expect(page.get_by_role("link", name="Stack")).to_contain_text("4 plies")
        page.goto(self.server.address)
        page.get_by_role("button", name="Start").click()
        expect(page.get_by_role("alert")).to_contain_text("must not be empty")

    def test_the_shop_keeps_its_settings_and_says_what_is_wrong(self):
        page = self.page
        page.goto(f"{self.server.address}/shop")
        self.fill("Time zone", "Mars/Olympus")
        expect(page.get_by_text("is no time zone")).to_be_visible()
        self.fill("Time zone", "Pacific/Auckland")
        expect(page.get_by_text("is no time zone")).to_have_count(0)
        page.get_by_role("combobox", name="Pots are weighed on").click()
        page.get_by_role("option", name="Fine scale, 0.1 g").click()
        expect(page.get_by_role("combobox", name="Pots are weighed on")).to_contain_text("Fine scale")
        self.fill("Currency, its three letters", "nzd")
        expect(page.get_by_label("Currency, its three letters")).to_have_value("NZD")
        expect(page.get_by_role("status")).to_have_text("kept")
        page.reload()
        expect(page.get_by_label("Currency, its three letters")).to_have_value("NZD")
        page.goto(self.server.address)
        self.open("Estuary skiff")
        self.step("Pots")
        expect(page.get_by_text(re.compile(r"NZ\$\d+"))).to_be_visible()


class Axe(ShellTest):
    """Of what opens over a screen, by day at the desk and by night on the phone; the screens are in `test_every_view`."""

    night = False

    def axe(self) -> list[str]:
        self.page.wait_for_load_state("networkidle")
        if not self.page.evaluate("'axe' in window"):
            self.page.evaluate(AXE.read_text(encoding="utf-8"))
        found = self.page.evaluate("async () => (await axe.run({ resultTypes: ['violations'] })).violations")
        # Nothing runs off the side either.
        wide = self.page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, self.size[0])
        return [f"{rule['id']}: {node['html'][:160]}" for rule in found for node in rule["nodes"]]

    def test_open_sheets_and_the_door(self):
        page = self.page
        if self.night:
            page.emulate_media(color_scheme="dark")
        self.open("Estuary skiff")
        self.step("Stack")
        page.locator("button", has_text=re.compile(r"^0\.75\s*mm")).click()
        expect(page.get_by_role("dialog").get_by_role("heading")).to_be_visible()
        self.assertEqual(self.axe(), [])
        page.keyboard.press("Escape")
        page.get_by_role("button", name=re.compile("care")).click()
        self.assertEqual(self.axe(), [])
        page.keyboard.press("Escape")
        page.keyboard.press("?")
        expect(page.get_by_role("dialog", name="Keyboard shortcuts")).to_be_visible()
        self.assertEqual(self.axe(), [])
        page.keyboard.press("Escape")
        page.get_by_title("Type the readings").click()
        self.assertEqual(self.axe(), [])
        page.get_by_role("button", name=re.compile("wren:")).click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_role("button", name="Sign in")).to_be_visible()
        self.assertEqual(self.axe(), [])
        page.goto(f"{self.server.address}/join/nothing")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        self.assertEqual(self.axe(), [])


class AxeOnAPhone(Axe):
    size = (390, 844)
    night = True


class AtAThousand(ShellTest):
    size = (1024, 768)

    def test_the_steps_stand_in_one_row(self):
        self.open("Estuary skiff")
        row = self.page.get_by_role("navigation", name="Steps")
        self.assertLessEqual(row.evaluate("row => row.scrollWidth"), 1024)
        for name in STEPS:
            expect(row.get_by_role("link", name=name)).to_be_in_viewport()


def _sent(answer) -> dict:
    """The readings that an answer is about, or nothing."""
    return answer.request.post_data_json if answer.url.endswith("/conditions") else {}
