"""`make shots`: retakes docs/screenshots from the demo data, in the real browser."""

import re

from playwright.sync_api import Page, expect, sync_playwright

from cradle.demo_words import PASSWORD, PERSON
from tests.browser.desk import ROOT, Server, launched

FOLDER = ROOT / "docs" / "screenshots"
SKIFF, LID, RUDDER = "Estuary skiff", "Channel buoy lid", "Rudder blade"
WIDE, PHONE = (1280, 800), (390, 844)
STEPS = (
    ("stack", LID, "Stack", WIDE),
    ("cut", RUDDER, "Cut", WIDE),
    ("flow", "Foredeck hatch", "Bag", WIDE),
    ("chemistry", SKIFF, "Chemistry", WIDE),
    ("joints", SKIFF, "Joints", WIDE),
    ("pours", "Tiller-head panel", "Pours", WIDE),
    ("finish", "Stern locker", "Finish", WIDE),
    ("pots", SKIFF, "Pots", WIDE),
    ("ticket", SKIFF, "Ticket", WIDE),
)


class Camera:
    def __init__(self, page: Page, address: str):
        self.page, self.address = page, address

    def size(self, size: tuple[int, int]) -> None:
        self.page.set_viewport_size({"width": size[0], "height": size[1]})

    def take(self, name: str) -> None:
        self.page.wait_for_load_state("networkidle")
        self.page.evaluate("document.fonts.ready")
        self.page.evaluate("window.scrollTo(0, 0)")
        self.page.screenshot(path=FOLDER / f"{name}.png")

    def open(self, job: str, step: str) -> None:
        self.page.goto(self.address)
        self.page.get_by_role("list", name="Jobs").get_by_role("link").filter(has_text=job).click()
        self.page.get_by_role("navigation", name="Steps").get_by_role("link", name=step).click()
        # The step before has a heading as well: this one has come once it asks for nothing more.
        self.page.wait_for_timeout(800)
        self.page.wait_for_load_state("networkidle")
        expect(self.page.get_by_role("heading", level=1)).to_be_attached()
        # The first plan after a start is rough for a moment, and levers take a while.
        for words in ("Roughly, for a moment", "being worked out"):
            expect(self.page.get_by_text(words)).to_have_count(0)

    def sign_in(self) -> None:
        self.page.goto(self.address)
        self.page.get_by_label("Name").fill(PERSON)
        self.page.get_by_label("Password").fill(PASSWORD)
        self.page.get_by_role("button", name="Sign in").click()
        expect(self.page.get_by_role("list", name="Jobs").get_by_text(SKIFF)).to_be_visible()

    def bench(self) -> None:
        """The skiff begun: one pot on the work, the next on the scale of a phone."""
        self.open(SKIFF, "Ticket")
        self.page.get_by_role("button", name="Take it to the bench").click()
        self.page.get_by_role("link", name="Open the bench").click()
        for words in (
            "Start the bench",
            "Cup on the scale",
            "It shows",
            "It shows",
            "It is stirred",
            "It took",
            "It is on",
        ):
            self.next(words)
        self.next("Used up, and it is laid")
        self.next("All of it is coated")
        for words in ("Cup on the scale", "It shows", "It shows", "It is stirred"):
            self.next(words)
        self.page.get_by_text("to use up pot 2").first.wait_for()
        self.next("Work at Bench by the door")
        self.next("Try it with simulated instruments")
        self.page.get_by_role("complementary", name="Live").get_by_text("Surface").first.wait_for()
        self.take("bench")
        self.size(PHONE)
        self.next("Pot 2 is used up")
        for words in ("Simulated: take a hand", "Put a cup on"):
            self.next(words)
        expect(self.page.get_by_role("heading", name=re.compile("^Pour A"))).to_be_visible()
        self.next("Pour$")
        expect(self.page.get_by_role("heading", name=re.compile("^Pour B"))).to_be_visible()
        self.next("Pour$")
        self.next("Put away")
        self.page.wait_for_timeout(1500)
        self.take("bench-phone")

    def next(self, words: str) -> None:
        """The next step at the bench, by the words it begins with."""
        self.page.get_by_role("button", name=re.compile(f"^{words}")).first.click()


def main() -> None:
    server = Server()
    try:
        with sync_playwright() as play:
            browser = launched(play)
            context = browser.new_context(color_scheme="light", timezone_id="Europe/London", service_workers="block")
            camera = Camera(context.new_page(), server.address)
            page = camera.page
            camera.size(WIDE)
            camera.sign_in()
            page.goto(f"{server.address}/shelf")
            page.get_by_role("region", name="Stock").wait_for()
            camera.take("shelf")
            page.goto(f"{server.address}/search?q=bottom")
            page.get_by_role("link", name="What lies there").first.click()
            page.get_by_text("as laid", exact=True).wait_for()
            camera.take("built")
            camera.open(SKIFF, "Measure")
            for title in ("Move the weather", "Write a stack as you would say it", "Ask any number"):
                page.get_by_role("button", name=f"Close the hint: {title}").click()
            for name, job, step, size in STEPS:
                camera.size(size)
                camera.open(job, step)
                goggles = page.get_by_role("button", name="Goggles are on")
                if goggles.count():
                    goggles.click()
                    expect(goggles).to_have_count(0)
                if name == "joints":
                    page.get_by_role("button", name="Bulkheads to bottom", exact=True).click()
                    expect(page.get_by_role("heading", level=1)).to_contain_text("Bulkheads")
                camera.take(name)
            camera.size(WIDE)
            page.goto(f"{server.address}/week")
            idle = page.get_by_role("region", name="Without a start")
            for job in ("Rudder blade", "Foredeck hatch", "Stern locker", "Channel buoy lid"):
                row = idle.get_by_role("listitem").filter(has_text=job)
                begin = row.get_by_role("button")
                # Some week has no room for it.
                expect(begin.or_(row.get_by_text("fits nowhere"))).to_be_visible()
                if begin.count():
                    begin.click()
                    expect(row).to_have_count(0)
            expect(page.get_by_text("being planned")).to_have_count(0)
            camera.take("week")
            page.goto(f"{server.address}/damage")
            for label, words in (("Wide", "80 mm"), ("Long", "140 mm"), ("Laminate there", "4 mm")):
                page.get_by_label(label, exact=True).fill(words)
                page.get_by_label(label, exact=True).press("Enter")
            page.get_by_role("group", name=re.compile("The patch in plan")).wait_for()
            camera.take("repair")
            page.goto(f"{server.address}/wrong")
            for answer in ("sticky to the touch", "only the surface: it is hard below"):
                page.get_by_role("button", name=answer).click()
                page.get_by_role("region", name="Answered").get_by_text(answer).wait_for()
            camera.take("wrong")
            page.goto(f"{server.address}/practice/pour")
            for part, ms in (("resin", 5200), ("hardener", 3300)):
                page.get_by_role("button", name=f"Hold to pour {part}").hover()
                page.mouse.down()
                page.wait_for_timeout(ms)
                page.mouse.up()
            page.get_by_role("button", name="It is in").click()
            page.get_by_text("This pot").wait_for()
            camera.take("practice")
            page.goto(f"{server.address}/first")
            page.get_by_role("combobox", name="It is most like").click()
            page.get_by_role("option", name="Laminating epoxy, 2 to 1").click()
            for label, words in (("Its name, as on the tin", "Mudlark 40"), ("Resin to hardener", "100:44")):
                page.get_by_label(label).fill(words)
            page.get_by_label("The hardener's name").fill("slow")
            page.get_by_label("A pot can be worked for, minutes").fill("30")
            camera.take("first")
            page.goto(server.address)
            expect(page.get_by_text(re.compile("being planned", re.IGNORECASE))).to_have_count(0)
            expect(page.get_by_role("region", name="Today").get_by_role("img")).to_have_accessible_name(
                re.compile("epoxy")
            )
            camera.take("floor")
            # At any hour a hardener holds in the room as it was read.
            server.begin_again(weather=False)
            camera.bench()
            browser.close()
    finally:
        server.close()


if __name__ == "__main__":
    main()
