"""The bench as it is worked: two tablets, a phone, a pot over-poured and one dumped, a night, a server that goes down.

Of `web/src/bench`.
"""

import re
from datetime import timedelta
from uuid import UUID

from django.utils.dateparse import parse_datetime
from playwright.sync_api import Page, expect

from cradle.demo_words import PASSWORD, PERSON
from layup.job_file import write_job
from tests.browser.desk import DeskTest
from tests.core.bench_days import JOBS


class BenchTest(DeskTest):
    job = "Locker lid"

    # Whether all of it is prepared, so that nobody asks why it goes on all the same.
    ready = False

    def to_bench(self) -> None:
        self.open(self.job)
        self.step("Ticket")
        if self.ready:
            self.press("Take it to the bench")
        else:
            self.to_the_bench()
        self.page.get_by_role("link", name="Open the bench").click()
        expect(self.button("Start the bench")).to_be_visible()

    def button(self, words: str | re.Pattern, page: Page | None = None):
        return (page or self.page).get_by_role("button", name=words).first

    def press(self, *buttons: str | re.Pattern, page: Page | None = None) -> None:
        for words in buttons:
            self.button(words, page).click()

    def another_tablet(self, *, with_first: str = "") -> Page:
        tablet = self.another_device().new_page()
        if with_first:
            tablet.add_init_script(with_first)
        tablet.on("pageerror", lambda error: self.errors.append(str(error)))
        tablet.goto(self.page.url)
        tablet.get_by_label("Name").fill(PERSON)
        tablet.get_by_label("Password").fill(PASSWORD)
        tablet.get_by_role("button", name="Sign in").click()
        return tablet

    def events(self) -> list[tuple[str, str]]:
        rows = self.server.data().execute("SELECT kind, subject FROM bench_event ORDER BY id").fetchall()
        return [row for row in rows if row[0] != "answered"]

    def written(self, kind: str, count: int = 1) -> None:
        """Waits until the server has written down so many of a kind."""
        expect(self.page.get_by_text(re.compile("taps? waits?"))).to_have_count(0)
        for _ in range(600):
            if sum(row[0] == kind for row in self.events()) >= count:
                return
            self.page.wait_for_timeout(100)
        self.fail(f"{kind} was not written down {count} times: {self.events()}")

    def press_and_wait(self, kind: str, *buttons: str | re.Pattern, page: Page | None = None) -> None:
        """Presses, and waits until the last of it is written down: what another tablet does next comes after it."""
        before = sum(row[0] == kind for row in self.events())
        self.press(*buttons, page=page)
        self.written(kind, before + 1)


IT_SHOWS, CUP_ON = re.compile(r"^It shows \d"), re.compile("^Cup on the scale")


class Day(BenchTest):
    """The skiff's morning from opening to closing."""

    job, ready = "Estuary skiff", True

    def weigh(self) -> None:
        self.press_and_wait("stirred", CUP_ON, IT_SHOWS, IT_SHOWS, "It is stirred")

    def test_two_tablets_work_a_morning_through(self):
        before = len(self.events())
        self.to_bench()
        other = self.another_tablet()
        expect(self.button("Start the bench", other)).to_be_visible()
        self.press("Start the bench", CUP_ON)
        # What one tablet taps the other shows.
        expect(other.get_by_role("heading", name=re.compile("^Pour A, resin"))).to_be_visible()
        self.press(IT_SHOWS, page=other)
        expect(self.page.get_by_role("heading", name=re.compile("^Pour B"))).to_be_visible()
        # Over-poured: the next number mends it.
        stop = int(re.search(r"\d+", self.button(IT_SHOWS).inner_text())[0])
        self.page.keyboard.type(str(stop + 10))
        expect(self.page.get_by_text("10 g too much")).to_be_visible()
        self.press("It is in: how do I mend it?")
        expect(self.page.get_by_role("alert").filter(has_text="% off its ratio")).to_be_visible()
        more = int(re.search(r"\d+", self.button(IT_SHOWS).inner_text())[0])
        self.assertGreater(more, stop + 10)
        self.press(IT_SHOWS, "It is stirred", re.compile("^It took"), "It is on the board")
        expect(self.page.get_by_text("to use up pot 1").first).to_be_visible()
        # The wrong one is taken back in two presses, and the pot is on the work after all.
        self.press("Half of it is on")
        self.written("half used")  # one that still waits would never be sent
        self.press("Take it back", "Yes, take it back")
        expect(self.button("Half of it is on")).to_be_visible()
        self.written("taken back")
        # What is left over is weighed. Meanwhile the server goes down: taps wait, nothing is lost.
        self.press("Laid, and the rest is weighed")
        self.page.keyboard.type("9999")
        expect(self.page.get_by_role("alert").filter(has_text="more than the cup may hold")).to_be_visible()
        for _ in "9999":
            self.page.keyboard.press("Backspace")
        self.page.keyboard.type("12")
        self.server.kill()
        self.press("Laid, so much is left over")
        expect(self.page.get_by_role("status").filter(has_text="3 taps wait for the server")).to_be_visible()
        # The box will be closed: it is looked at before.
        hidden = "Look at it once more: all of its faces and its corner"
        expect(self.page.get_by_role("heading", name=hidden)).to_be_visible()
        self.server.start()
        expect(self.page.get_by_text("wait for the server")).to_have_count(0)
        self.written("laid")
        other.reload()
        expect(other.get_by_role("heading", name=hidden)).to_be_visible()
        self.press_and_wait("ticked", "All of it is coated: it may close")
        expect(other.get_by_role("heading", name=hidden)).to_have_count(0)
        # A thumb test closes the window, whatever the clock says.
        self.press("Lay", re.compile("^fillet R 12 mm"), page=other)
        self.press("No mark: closed", page=other)
        expect(other.get_by_text("Closed, as touch told")).to_be_visible()
        self.press_and_wait("mended", "Washed and sanded", page=other)
        # The next gets hot and is dumped: what it was for is planned again at once.
        self.weigh()
        self.press("Pot getting hot?")
        sheet = self.page.get_by_role("dialog", name="Pot getting hot")
        # Its surface, read off a thermometer, says how long it still has.
        sheet.get_by_role("button", name="Read its surface").click()
        self.page.keyboard.type("21")
        self.press_and_wait("surface", "So warm it is")
        live = self.page.get_by_role("complementary", name="Live")
        expect(live.get_by_text("by its surface")).to_be_attached()
        expect(sheet).to_contain_text("never water into hot resin")
        expect(sheet).to_contain_text("Over 40 °C, or it smokes")
        sheet.get_by_role("button", name="It is too hot").click()
        sheet.get_by_role("button", name="Back").click()
        expect(self.page.get_by_role("alert").filter(has_text="Pot 2 is too hot")).to_be_visible()
        expect(self.page.get_by_role("heading", name="Do not touch it")).to_be_visible()
        self.press("Pot getting hot?", "It is outdoors", "See the new plan")
        expect(self.page.get_by_text("1 pot lost")).to_be_visible()
        expect(self.button("Take the new plan")).to_be_enabled()
        self.press("Take the new plan")
        expect(self.page.get_by_role("status").filter(has_text="The new plan is in force")).to_be_visible()
        self.press("Now")
        expect(self.page.get_by_text(re.compile(r"^g, pot 3 of \d+$"))).to_be_visible()
        # The night, and the next day.
        self.press("Write", "Leave it for the night", "Now")
        self.press("Now", page=other)
        expect(self.button("Good morning: go on", other)).to_be_visible()
        self.press_and_wait("gone on", "Good morning: go on")
        self.weigh()
        self.press("Write", "Close the run", "To be watched", page=other)
        self.press("Now", page=other)
        expect(other.get_by_role("heading", name="Closed: to be watched")).to_be_visible()
        self.written("closed")
        kinds = [kind for kind, _ in self.events()[before:]]
        self.assertEqual(
            kinds,
            [
                *(
                    "opened",
                    "cup on",
                    "A in",
                    "B in",
                    "A in",
                    "stirred",
                    "filler in",
                    "moved",
                    "half used",
                    "taken back",
                ),
                *("left over", "used up", "laid", "ticked", "tested", "mended"),
                *(
                    "cup on",
                    "A in",
                    "B in",
                    "stirred",
                    "surface",
                    "too hot",
                    "dumped",
                    "plan taken",
                    "night",
                    "gone on",
                ),
                *("cup on", "A in", "B in", "stirred", "closed"),
            ],
        )
        self.press("Now")
        self.page.get_by_role("link", name="Open the log").click()
        expect(self.page.get_by_text("closed, to be watched")).to_be_visible()
        run = self.page.get_by_role("main")
        expect(run).to_contain_text("3 of 25 pots poured")
        expect(run.get_by_role("table", name="What touch showed")).to_contain_text("no mark, closed")
        # Once more, as it was planned: a job of its own.
        self.press("Repeat as planned")
        expect(self.page.get_by_role("banner")).to_contain_text("Estuary skiff, again")


class Phone(BenchTest):
    """A phone in a glove: knuckle-sized targets, no typing, a pedal that sends a key."""

    size = (390, 844)
    job = "Channel buoy lid"

    def require_knuckle_sized(self) -> None:
        small = self.page.evaluate(
            """() => [...document.querySelectorAll('button, a, label')]
              .map((each) => [each.innerText || each.ariaLabel, each.getBoundingClientRect()])
              .filter(([, box]) => box.width && (box.height < 63.5 || box.width < 63.5))
              .map(([words]) => words)"""
        )
        self.assertEqual(small, [])

    def test_a_polyester_pot_on_a_phone(self):
        page = self.page
        self.open(self.job)
        self.step("Ticket")
        # Goggles come before the ticket of a peroxide, and before its bench.
        self.press("Goggles are on")
        self.to_the_bench()
        expect(self.button("Goggles are on")).to_be_visible()
        (run,) = self.server.data().execute("SELECT id FROM bench_run ORDER BY started_at DESC").fetchone()
        page.goto(f"{self.server.address}/bench/{UUID(run)}")
        expect(page.get_by_role("heading", name="Goggles on, before the bottle is opened")).to_be_visible()
        self.require_knuckle_sized()
        self.press("My goggles are on")
        expect(self.button("Start the bench")).to_be_visible()
        for words in ("Start the bench", CUP_ON, IT_SHOWS):
            expect(self.button(words)).to_be_visible()
            self.require_knuckle_sized()
            page.keyboard.press("PageDown")
        expect(page.get_by_role("heading", name="Draw Catalyst")).to_be_visible()
        # A dose outside what the product takes does not open the next step.
        self.press("It shows something else", "9", "9")
        expect(page.get_by_text("too much")).to_be_visible()
        self.require_knuckle_sized()
        self.press("Delete the last digit", "Delete the last digit")
        self.press(re.compile(r"^It is \d"), "It is stirred")
        expect(page.get_by_role("list", name="Live pots")).to_contain_text("Pot 1")
        for view in ("Lay", "Clocks", "Plan", "Write"):
            page.get_by_role("navigation", name="Bench").get_by_role("button", name=view).click()
            self.require_knuckle_sized()
        self.press("a dry spot")
        self.written("note")
        expect(page.get_by_role("listitem").filter(has_text="“a dry spot”")).to_be_visible()
        shot = {"name": "spot.png", "mimeType": "image/png", "buffer": page.screenshot()}
        # A photo taken without the server waits on the phone, also while the page is closed.
        self.server.kill()
        page.get_by_label("Photos").set_input_files([shot])
        expect(page.get_by_role("status").filter(has_text="A photo is on the way")).to_be_visible()
        bench = page.url
        page.goto("about:blank")
        self.server.start()
        page.goto(bench)
        self.press("Write")
        expect(page.get_by_role("img", name="on the bench")).to_be_visible()
        self.press("Read the room", "2", "4", "That is the room now")
        self.written("room read")
        wide = page.evaluate("() => document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 390)


TEN_MINUTES_FAST = """
const Real = Date;
globalThis.Date = class extends Real {
  constructor(...given) { given.length ? super(...given) : super(Real.now() + 600_000); }
  static now() { return Real.now() + 600_000; }
};"""


class Clock(BenchTest):
    """A tablet whose clock is ten minutes wrong says so, and writes down the true time."""

    def test_the_servers_time_counts(self):
        self.to_bench()
        fast = self.another_tablet(with_first=TEN_MINUTES_FAST)
        said = fast.get_by_role("status").filter(has_text="The clock of this tablet is 10 min fast")
        expect(said).to_be_visible()
        self.press("Start the bench", page=fast)
        expect(self.button(CUP_ON)).to_be_visible()
        row = "SELECT happened_at, came_at FROM bench_event WHERE kind = 'opened' ORDER BY id DESC"
        happened, came = map(parse_datetime, self.server.data().execute(row).fetchone())
        self.assertLess(abs(happened - came), timedelta(minutes=5))


class Infused(BenchTest):
    """The hatch: its first pot into the bucket, the valve, the front at its marks, and what that says of the next shot."""

    job = "Foredeck hatch"

    def test_the_valve_is_opened_and_the_front_ticked(self):
        page = self.page
        self.to_bench()
        self.press("Start the bench")
        self.press_and_wait("stirred", CUP_ON, IT_SHOWS, IT_SHOWS, "It is stirred")
        expect(page.get_by_role("main").get_by_text("Open the valve: Hatch").first).to_be_visible()
        self.press_and_wait("valve opened", "The valve is open")
        self.press("Lay")
        flow = page.get_by_role("region", name="The flow of Hatch")
        expect(flow).to_contain_text("min until it is full")
        expect(flow).to_contain_text("By the plan, until the front is seen at a mark.")
        self.press_and_wait("front there", "The front is at mark 1")
        # Seconds after the valve: a bed far more open than planned.
        expect(flow).to_contain_text("times as open as planned")
        expect(self.button("The front is at mark 1")).to_have_count(0)
        self.press("Weigh what is drawn")
        page.keyboard.type("640")
        self.press_and_wait("drawn", "So much it is")
        expect(flow).to_contain_text("Drawn: 640 g of")
        self.press_and_wait("valve throttled", "It is throttled")
        self.press_and_wait("valve closed", "The valve is closed")
        expect(flow).to_contain_text("the valve is shut")
        self.opened_before(minutes=5)
        page.get_by_role("link", name="Leave the bench").click()
        self.step("Log")
        showed = page.get_by_role("region", name="What the front showed")
        expect(showed).to_contain_text("Hatch: by 1 mark its bed lets through")
        expect(showed).to_contain_text("It drew 640 g of")
        self.press("Plan this part by it")
        expect(showed).to_contain_text("The part is planned by it now.")
        self.saved()
        self.step("Bag")
        expect(page.get_by_role("region", name="Where the resin goes")).to_contain_text("as you typed it")

    def opened_before(self, minutes: float) -> None:
        """As if the valve had been opened so much before its front was seen: nobody waits for that here."""
        with self.server.data() as data:
            (when,) = data.execute("SELECT happened_at FROM bench_event WHERE kind = 'valve opened'").fetchone()
            before = parse_datetime(when) - timedelta(minutes=minutes)
            data.execute("UPDATE bench_event SET happened_at = ? WHERE kind = 'valve opened'", (str(before),))


class InStrips(BenchTest):
    """Tabbing in lengths that overlap: ticked length by length."""

    job = "Tabbed corner"

    def to_bench(self) -> None:
        job = write_job(JOBS["tabbed corner"].model_copy(update={"name": "Tabbed corner"}))
        self.page.get_by_label("A job file").set_input_files(
            {"name": "corner.json", "mimeType": "application/json", "buffer": job}
        )
        expect(self.page.get_by_label("Job", exact=True)).to_have_value("Tabbed corner")
        self.page.goto(f"{self.server.address}/jobs")
        super().to_bench()

    def test_the_last_strip_lays_its_layer(self):
        self.to_bench()
        self.press("Start the bench", "Lay", re.compile("^strip 1, 450 biaxial"))
        lane = self.page.get_by_role("listitem").filter(has_text="strip 1, 450 biaxial").last
        for number, shown in ((1, "to do, 1 of 3"), (2, "to do, 2 of 3"), (3, "wet")):
            self.press(f"Piece {number} of 3 is laid")
            expect(lane).to_contain_text(shown)
        expect(self.page.get_by_text(re.compile("^Laid .*; the next bonds from"))).to_be_visible()
