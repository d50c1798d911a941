"""Two jobs of the shop's week: begun, found to clash, parted; the board for the wall and the calendar's address.

Of `web/src/week/Week.tsx`, `web/src/week/PeopleFields.tsx`, `web/src/drawing/WeekPicture.tsx`.
"""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class Week(DeskTest):
    @property
    def idle(self):
        return self.page.get_by_role("region", name="Without a start")

    def planned(self) -> None:
        expect(self.idle).to_be_visible()
        expect(self.page.get_by_text("being planned")).to_have_count(0)

    def begin(self, job: str) -> None:
        row = self.idle.get_by_role("listitem").filter(has_text=job)
        row.get_by_role("button").click()
        expect(row).to_have_count(0)
        expect(self.page.get_by_role("slider", name=f"Start of {job}")).to_be_visible()

    def test_two_jobs_that_clash_and_are_parted(self):
        page = self.page
        page.goto(f"{self.server.address}/week")
        self.planned()
        expect(page.get_by_text("No job begins in these days.")).to_be_visible()
        # One man is there: two jobs at once are one too many.
        page.get_by_role("button", name="Who works when").click()
        page.get_by_role("button", name="Remove tern").click()
        page.get_by_role("button", name="Remove knot").click()
        page.get_by_label("To, h").first.fill("7")
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_text("goes before coming: a night shift is written as two").first).to_be_visible()
        page.get_by_label("To, h").first.fill("20")
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_text("kept", exact=True)).to_be_visible()
        page.get_by_role("button", name="Done").click()
        self.planned()
        self.begin("Rudder blade")
        self.begin("Foredeck hatch")
        self.planned()
        status = page.get_by_role("status").filter(has_text="Everybody who is wanted is there")
        expect(status).to_be_visible()
        # Dragged by its keys onto the other, it is told before it is kept.
        hatch, blade = (
            page.get_by_role("slider", name=f"Start of {job}") for job in ("Foredeck hatch", "Rudder blade")
        )
        hatch.focus()
        apart_ms = int(blade.get_attribute("aria-valuenow")) - int(hatch.get_attribute("aria-valuenow"))
        for _ in range(abs(apart_ms) // 1_800_000):
            page.keyboard.press("ArrowRight" if apart_ms > 0 else "ArrowLeft")
        expect(hatch).to_have_attribute("aria-valuetext", blade.get_attribute("aria-valuetext"))
        clashes = page.get_by_role("region", name="Clashes").get_by_role("listitem")
        expect(clashes.first).to_contain_text("2 people are wanted, and 1 is there")
        page.get_by_role("button", name="Begin it then").click()
        expect(page.get_by_role("button", name="Begin it then")).to_have_count(0)
        self.planned()
        expect(clashes.first).to_contain_text(re.compile("Rudder blade|Foredeck hatch"))
        # Its way out parts them.
        clashes.first.get_by_role("button", name=re.compile("^Foredeck hatch ")).click()
        expect(page.get_by_text("2 people are wanted, and 1 is there")).to_have_count(0)
        self.planned()
        # The address of the calendar, and the board for the wall.
        page.get_by_role("button", name="A calendar to subscribe to").click()
        expect(page.get_by_label("Calendar address: whoever has it reads the week")).to_have_value(
            re.compile(r"\.ics$")
        )
        page.get_by_role("link", name="Board for the wall").click()
        expect(page.get_by_role("heading", level=2).first).to_be_visible()
        expect(page.get_by_role("button", name="From today")).to_have_count(0)
