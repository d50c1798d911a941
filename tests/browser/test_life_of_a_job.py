"""What a job and its people live through: a note, a photo, a template that others begin from; a password forgotten; the guide
asked.

Of `cradle.jobs.photo_routes`, `cradle.jobs.saving`, `cradle.shops.people`, `cradle.guide`.
"""

from playwright.sync_api import expect

from tests.browser.desk import ROOT, DeskTest


class LifeOfAJob(DeskTest):
    def test_a_part_keeps_its_note_and_photo_and_a_template_begins_other_jobs(self):
        page = self.page
        self.open("Channel buoy lid")
        page.get_by_role("navigation", name="Steps").get_by_role("link", name="Measure").click()
        page.get_by_text("Note and photos").click()
        page.get_by_label("Note", exact=True).fill("Radius the lip first")
        page.get_by_label("Note", exact=True).press("Tab")
        page.get_by_label("Photo of Lid").set_input_files(ROOT / "docs" / "screenshots" / "bench.png")
        photo = page.get_by_role("list", name="Photos of Lid").get_by_role("img")
        expect(photo).to_have_count(1)
        self.assertGreater(photo.evaluate("image => image.decode().then(() => image.naturalWidth)"), 1000)
        page.get_by_role("navigation", name="Steps").get_by_role("link", name="Log").click()
        page.get_by_role("button", name="Keep as a template").click()
        page.get_by_label("What the shop calls it").fill("Our lid")
        page.get_by_role("button", name="Keep the template").click()
        expect(page.get_by_text("a new job on the floor may begin from it")).to_be_visible()
        page.goto(self.server.address)
        page.get_by_label("New job").fill("Lid 7")
        page.get_by_role("combobox", name="Begin from").click()
        page.get_by_role("option", name="Our lid", exact=True).click()
        page.get_by_role("button", name="Start", exact=True).click()
        expect(page.get_by_role("heading", name="Lid 7")).to_be_visible()
        # The note belongs to the work and comes along; the photo is of the lid it was taken of.
        page.get_by_text("Note and photos").click()
        expect(page.get_by_label("Note", exact=True)).to_have_value("Radius the lip first")
        expect(page.get_by_role("list", name="Photos of Lid")).to_have_count(0)
        page.goto(self.server.address)
        floor = page.get_by_role("list", name="Jobs")
        expect(floor.get_by_text("Lid 7", exact=True)).to_be_visible()
        expect(floor.get_by_text("Our lid")).to_have_count(0)

    def test_somebody_who_forgot_his_password_is_let_in_by_the_owner(self):
        page = self.page
        page.goto(f"{self.server.address}/people")
        page.get_by_role("button", name="Make a link").click()
        theirs = self.another_device().new_page()
        theirs.goto(page.get_by_label("Give this to one person").input_value())
        theirs.get_by_label("The name you want").fill("plover")
        theirs.get_by_label("A password").fill("soon-to-be-forgotten")
        theirs.get_by_role("button", name="Join").click()
        expect(theirs.get_by_role("heading", name="Jobs")).to_be_visible()
        page.reload()
        page.get_by_role("button", name="A new password for plover").click()
        link = page.get_by_label("Give this to plover").input_value()
        later = self.another_device().new_page()
        later.goto(self.server.address)
        expect(later.get_by_text("inch-cradle password")).to_be_visible()
        later.goto(link)
        expect(later.get_by_role("heading", name="wren lets you choose a new password, plover")).to_be_visible()
        later.get_by_label("A password").fill("plover")
        later.get_by_role("button", name="Take it, and sign in").click()
        expect(later.get_by_role("alert")).to_contain_text("password")
        later.get_by_label("A password").fill("samphire-and-salt")
        later.get_by_role("button", name="Take it, and sign in").click()
        expect(later.get_by_role("heading", name="Jobs")).to_be_visible()
        # The page that was opened with the old one has to sign in.
        theirs.reload()
        expect(theirs.get_by_label("Password")).to_be_visible()

    def test_the_guide_answers_a_question_and_a_word(self):
        page = self.page
        page.keyboard.press("g")
        page.keyboard.press("h")
        page.get_by_role("link", name="I poured too much of one part.").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Ticket: what the scale must show")
        page.get_by_role("article").get_by_role("button", name="ticket").first.click()
        expect(page.get_by_role("dialog")).to_be_visible()
        page.keyboard.press("Escape")
        page.get_by_label("Search the guide").fill("sticky pour")
        page.get_by_role("list", name="Found").get_by_role("link").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Repair, and what went wrong")
        page.get_by_role("link", name="About").click()
        page.get_by_text("react-router", exact=False).first.click()
        expect(page.locator("details[open] pre")).to_contain_text("MIT License")
