"""`make shots`: retakes docs/screenshots from the demo data, in the real browser."""

import re

from playwright.sync_api import Page, expect, sync_playwright

from cradle.demo_words import PASSWORD, PERSON
from tests.browser.desk import ROOT, Server, launched

FOLDER = ROOT / "docs" / "screenshots"
SKIFF, LID, RUDDER = "Estuary skiff", "Channel buoy lid", "Rudder blade"
WIDE, PHONE = (1280, 800), (390, 844)
STEPS = (
    ("measure", RUDDER, "Measure", WIDE),
    ("stack", LID, "Stack", WIDE),
    ("cut", RUDDER, "Cut", WIDE),
    ("prepare", "Locker lid", "Prepare", WIDE),
    ("chemistry", SKIFF, "Chemistry", WIDE),
    ("catalyst", LID, "Chemistry", WIDE),
    ("joints", SKIFF, "Joints", WIDE),
    ("pots", SKIFF, "Pots", WIDE),
    ("ticket", SKIFF, "Ticket", WIDE),
    ("ticket-phone", LID, "Ticket", PHONE),
    ("log", SKIFF, "Log", WIDE),
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

    def look(self, name: str) -> None:
        self.page.get_by_role("button", name=re.compile(f"{PERSON}:")).click()
        self.page.get_by_role("menuitemradio", name=name, exact=True).click()
        self.page.keyboard.press("Escape")
        self.page.locator("body").click(position={"x": 5, "y": 790})


def main() -> None:
    server = Server()
    try:
        with sync_playwright() as play:
            browser = launched(play)
            context = browser.new_context(color_scheme="light", timezone_id="Europe/London")
            camera = Camera(context.new_page(), server.address)
            page = camera.page
            camera.size(WIDE)
            camera.sign_in()
            camera.take("floor")
            camera.size(PHONE)
            camera.take("floor-phone")
            camera.size(WIDE)
            page.goto(f"{server.address}/shop")
            page.get_by_role("heading", level=1).wait_for()
            camera.take("shop")
            page.goto(f"{server.address}/shelf")
            page.get_by_role("link", name="Brackwater laminating epoxy").click()
            page.get_by_role("heading", name="Brackwater").wait_for()
            camera.take("shelf")
            camera.open(SKIFF, "Measure")
            for title in ("Move the weather", "Write a stack as you would say it", "Ask any number"):
                page.get_by_role("button", name=f"Close the hint: {title}").click()
            for name, job, step, size in STEPS:
                camera.size(size)
                camera.open(job, step)
                goggles = page.get_by_role("button", name="Goggles are on")
                if goggles.count():
                    camera.take("goggles-phone")
                    goggles.click()
                    expect(goggles).to_have_count(0)
                if name == "joints":
                    page.get_by_role("button", name="Bulkheads to bottom", exact=True).click()
                    expect(page.get_by_role("heading", level=1)).to_contain_text("Bulkheads")
                camera.take(name)
            camera.size(WIDE)
            camera.open(SKIFF, "Cut")
            page.get_by_role("link", name="what to buy").click()
            page.get_by_role("heading", name="To buy for this job").wait_for()
            camera.take("buy")
            camera.open(SKIFF, "Pots")
            page.get_by_role("link", name="Try this pot before you pour it").click()
            page.get_by_text("min to gel").first.wait_for()
            camera.take("lab")
            camera.look("night")
            camera.open(SKIFF, "Pots")
            page.get_by_role("button", name=re.compile("^(under )?1 in")).click()
            expect(page.get_by_role("dialog").get_by_role("heading")).to_be_visible()
            camera.take("working")
            browser.close()
    finally:
        server.close()


if __name__ == "__main__":
    main()
