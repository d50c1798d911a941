"""`make shots`: retakes docs/screenshots from the demo data, in the real browser."""

import shutil

from playwright.sync_api import Page, expect, sync_playwright

from cradle.demo_words import PASSWORD, PERSON
from tests.browser.desk import FLAGS, ROOT, Server

FOLDER = ROOT / "docs" / "screenshots"
SKIFF, LID = "Estuary skiff", "Channel buoy lid"
WIDE, PHONE = (1280, 800), (390, 844)
SHOTS = (
    ("measure", SKIFF, "Measure", WIDE),
    ("stack", LID, "Stack", WIDE),
    ("chemistry", SKIFF, "Chemistry", WIDE),
    ("catalyst", LID, "Chemistry", WIDE),
    ("joints", SKIFF, "Joints", WIDE),
    ("pots", SKIFF, "Pots", WIDE),
    ("ticket", SKIFF, "Ticket", WIDE),
    ("ticket-phone", LID, "Ticket", PHONE),
    ("log", SKIFF, "Log", WIDE),
)


def settled(page: Page) -> None:
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")


def main() -> None:
    server = Server()
    try:
        with sync_playwright() as play:
            browser = play.chromium.launch(executable_path=shutil.which("chromium"), args=FLAGS)
            page = browser.new_page()
            page.goto(server.address)
            page.get_by_label("Name").fill(PERSON)
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.get_by_role("heading", name="Jobs").wait_for()
            page.goto(f"{server.address}/people")
            settled(page)
            page.set_viewport_size({"width": WIDE[0], "height": WIDE[1]})
            page.get_by_role("button", name="Make a link").wait_for()
            page.screenshot(path=FOLDER / "people.png")
            for name, job, step, (width, height) in (("floor", "", "", WIDE), *SHOTS):
                page.set_viewport_size({"width": width, "height": height})
                page.goto(server.address)
                expect(page.get_by_role("list", name="Jobs").get_by_text(SKIFF)).to_be_visible()
                if job:
                    page.get_by_role("list", name="Jobs").get_by_role("link").filter(has_text=job).click()
                    page.get_by_role("navigation", name="Steps").get_by_role("link", name=step).click()
                    settled(page)
                    goggles = page.get_by_role("button", name="Goggles are on")
                    if goggles.count():
                        page.screenshot(path=FOLDER / "goggles-phone.png")
                        goggles.click()
                settled(page)
                page.mouse.move(width // 2, height - 4)
                page.screenshot(path=FOLDER / f"{name}.png")
            browser.close()
    finally:
        server.close()


if __name__ == "__main__":
    main()
