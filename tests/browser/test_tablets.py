"""A tablet is let in by a code, worked at by initials and a short number, and withdrawn in the middle of a pot.

Of `cradle.devices`, `web/src/floor/Tablets.tsx`, `web/src/floor/WhoWorks.tsx`.
"""

import re

from playwright.sync_api import expect

from cradle.demo_words import PASSWORD, PERSON
from tests.browser.test_bench import CUP_ON, IT_SHOWS, BenchTest


class Tablets(BenchTest):
    job = "Locker lid"

    def test_let_in_worked_at_and_withdrawn_while_a_pot_is_open(self):
        desk = self.page
        self.to_bench()
        bench = desk.url
        desk.goto(f"{self.server.address}/people")
        # He wants nobody else to write under his name.
        desk.get_by_label("Four to six digits").fill("1111")
        self.press("Keep it")
        expect(desk.get_by_role("alert").filter(has_text="at least three different digits")).to_be_visible()
        desk.get_by_label("Four to six digits").fill("2580")
        self.press("Keep it")
        expect(self.button("Ask me for none")).to_be_visible()
        self.press("Show its code")
        expect(desk.get_by_role("alert").filter(has_text="give the tablet a name")).to_be_visible()
        desk.get_by_label("Another tablet is called").fill("bench stand")
        self.press("Show its code")
        expect(desk.get_by_role("img", name="Code that lets a tablet in")).to_be_visible()
        address = desk.get_by_text(re.compile("/let-in#")).inner_text()
        tablet = self.another_device().new_page()
        tablet.on("pageerror", lambda error: self.errors.append(str(error)))
        tablet.goto(address)
        expect(tablet.get_by_role("heading", name="This tablet becomes “bench stand”")).to_be_visible()
        self.press("Let this tablet in", page=tablet)
        expect(tablet.get_by_role("heading", name="Who works here?")).to_be_visible()
        expect(desk.get_by_role("status").filter(has_text="bench stand is let in")).to_be_visible()
        # A code is good once.
        late = self.another_device().new_page()
        late.goto(address)
        expect(late.get_by_role("alert")).to_contain_text("this code was used or has run out")
        # Who works: by initials and number.
        self.press(PERSON, page=tablet)
        tablet.keyboard.type("1234")
        self.press("Begin", page=tablet)
        expect(tablet.get_by_role("alert")).to_contain_text("not the short number of this person")
        tablet.keyboard.type("2580")
        self.press("Begin", page=tablet)
        expect(tablet.get_by_role("heading", name="Jobs")).to_be_visible()
        # A job is looked at from there, and none is begun; the shop's pages are not there, and it is said how they are come to.
        expect(tablet.get_by_label("New job")).to_have_count(0)
        expect(tablet.get_by_role("link", name="Shelf")).to_have_count(0)
        for page in ("people", "shop", "shelf", "week", "search"):
            tablet.goto(f"{self.server.address}/{page}")
            expect(tablet.get_by_role("heading", level=1)).to_have_text("This tablet is for the bench")
            expect(tablet.get_by_text(PERSON, exact=True)).to_have_count(0)
        tablet.goto(bench)
        self.press("Start the bench", CUP_ON, IT_SHOWS, page=tablet)
        self.written("A in")
        # Withdrawn: what is tapped from now on waits, and goes once somebody has signed in.
        self.press("Withdraw bench stand", "Yes, let bench stand in no more")
        expect(self.button("Withdraw bench stand")).to_have_count(0)
        self.press(IT_SHOWS, page=tablet)
        tablet.get_by_label("Name").fill(PERSON)
        tablet.get_by_label("Password").fill(PASSWORD)
        self.press("Sign in", page=tablet)
        expect(tablet.get_by_role("navigation", name="Bench")).to_be_visible()
        self.page = tablet
        self.written("B in")
