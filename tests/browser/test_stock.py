"""A tin comes, is poured from at the bench, is found bad, and every pot it went into is marked.

Of `web/src/shelf/StockShelf.tsx`, `web/src/shelf/LotPage.tsx`, `web/src/shelf/ReceiveLot.tsx`, `web/src/shelf/BringStock.tsx`,
`web/src/bench/FromTin.tsx`, `web/src/steps/Buy.tsx`.
"""

import re

from playwright.sync_api import expect

from cradle.demo_words import PERSON
from tests.browser.test_bench import CUP_ON, IT_SHOWS, BenchTest

EPOXY = "Laminating epoxy, 2 to 1"


class Stock(BenchTest):
    job = "Locker lid"

    @property
    def stock(self):
        return self.page.get_by_role("region", name="Stock")

    @property
    def lot(self):
        return self.page.get_by_role("region", name="Lot", exact=True)

    def to_the_shelf(self) -> None:
        self.page.goto(f"{self.server.address}/shelf")
        expect(self.stock).to_be_visible()

    def came(self, what: str, how_much: str, batch: str, use_by: str) -> None:
        self.press("Something came")
        self.pick("What it is", what)
        self.fill("How much", how_much)
        self.fill("Lot number, off the label", batch)
        self.fill("Use by", use_by)
        self.press("Put it in the stock")

    def test_a_tin_from_its_label_to_every_pot_it_went_into(self):
        page = self.page
        self.to_the_shelf()
        self.came(EPOXY, "3 kg", "K7", "soon")
        # What cannot be read is told at its field, and nothing typed is lost.
        receiving = page.get_by_role("region", name="Something came")
        expect(receiving).to_contain_text("is no date: type it such as 14 May 2027")
        expect(page.get_by_label("Lot number, off the label")).to_have_value("K7")
        page.reload()
        self.press("Something came")
        expect(page.get_by_label("Lot number, off the label")).to_have_value("K7")
        self.fill("Use by", "03/2026")
        self.press("Put it in the stock")
        expect(self.lot).to_contain_text("Past its date, 31 Mar 2026: gel a trial pot first.")
        expect(self.lot).to_contain_text(re.compile("3 kg"))
        # A trial pot that gels late says nothing good of it; one in time does.
        self.press("Trial pot")
        self.pick("With which hardener", "medium")
        self.fill("It gelled after", "5 h")
        self.press("What does it say of the tin?")
        expect(self.lot.get_by_role("status")).to_contain_text("It gelled late")
        # It is poured from all the same, in the place of the tin that would have come next.
        page.goto(self.server.address)
        self.to_bench()
        self.press("Start the bench", CUP_ON)
        expect(page.get_by_text("from lot ME-2207, keeps until")).to_be_visible()
        self.press(re.compile("^Another tin"))
        page.get_by_role("list", name="Tins").get_by_role("button", name=re.compile("lot K7")).click()
        expect(page.get_by_text("from lot K7, past its date, 31 Mar 2026")).to_be_visible()
        self.written("tin taken")
        self.press(IT_SHOWS, IT_SHOWS)
        self.written("B in")
        # From the lot to the pot.
        self.to_the_shelf()
        self.stock.get_by_role("link").filter(has_text="K7").click()
        story = page.get_by_role("region", name="What came and went")
        expect(story.get_by_role("row").filter(has_text="into pot 1")).to_contain_text("Locker lid")
        # It was bad: the pot says so where it is logged.
        self.press("Must not be used")
        self.fill("What is wrong with it", "its maker called it back")
        self.press("Mark it, and all it went into")
        expect(self.lot).to_contain_text("Not to be used: its maker called it back")
        expect(story.get_by_role("row").filter(has_text="into pot 1")).to_contain_text("of a bad lot: look at it")
        story.get_by_role("link", name="Locker lid").click()
        expect(page.get_by_label("Pots of this run")).to_contain_text("a bad lot: its maker called it back")

    def test_counted_spilt_and_put_aside(self):
        page = self.page
        self.to_the_shelf()
        self.stock.get_by_role("link").filter(has_text="HS-142").click()
        self.press("Count it")
        self.fill("Really there", "12 kg")
        self.press("Keep the count")
        expect(self.lot.get_by_role("alert")).to_have_text("it differs from the book: say why, as far as you know")
        expect(page.get_by_label("Really there")).to_have_value("12 kg")
        self.fill("Why it differs, as far as you know", "a cup that nobody wrote down")
        self.press("Keep the count")
        story = page.get_by_role("region", name="What came and went")
        expect(story).to_contain_text("counted: a cup that nobody wrote down")
        expect(story).to_contain_text(PERSON)
        self.press("Some is gone")
        self.fill("How much is gone", "13 kg")
        self.fill("Where it went", "lent")
        self.press("Take it off")
        expect(self.lot.get_by_role("alert")).to_have_text("there is only 12 kg left: count it")
        # A job keeps what it needs from others.
        page.goto(self.server.address)
        self.open("Estuary skiff")
        page.goto(f"{page.url.split('/jobs/')[0]}/jobs/{page.url.split('/jobs/')[1].split('/')[0]}/buy")
        self.press("Put it aside")
        expect(page.get_by_text("put aside for this job")).to_be_visible()
        self.to_the_shelf()
        expect(self.stock.get_by_text("put aside for jobs").first).to_be_visible()

    def test_a_list_of_another_program(self):
        page = self.page
        self.to_the_shelf()
        self.press("Bring a list")
        listed = "Item,Qty,Location\n450 biaxial,12.5,loft\nNobody's cloth,3,loft\n"

        def bring(text: str) -> None:
            file = {"name": "list.csv", "mimeType": "text/csv", "buffer": text.encode()}
            page.get_by_label("The list", exact=True).set_input_files(file)

        bring(listed)
        brought = page.get_by_role("region", name="A list brought in")
        expect(brought).to_contain_text("“Nobody's cloth” is not on the shelf: put it there first")
        expect(self.button("Put 2 lots in the stock")).to_be_disabled()
        expect(page.get_by_role("combobox", name="Location")).to_have_text(re.compile("where it stands"))
        bring(listed.replace("Nobody's cloth", '"200 cloth, plain"'))
        self.press("Put 2 lots in the stock")
        expect(brought).to_have_count(0)
        expect(self.stock).to_contain_text("12.5 m")
