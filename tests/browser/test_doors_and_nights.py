"""Who is let in and who no longer, a job put away, and a disk that is full: as people see it."""

import resource

from playwright.sync_api import expect

from tests.browser.desk import DeskTest

PASSWORD_OF_TERN = "copper-rivet-99"


class Doors(DeskTest):
    @property
    def open_links(self):
        return self.page.get_by_role("list", name="Open links").get_by_role("listitem")

    def link(self) -> str:
        """A new link, where there is no other: it is listed once it is made."""
        expect(self.open_links).to_have_count(0)
        self.page.get_by_role("button", name="Make a link").click()
        expect(self.open_links).to_have_count(1)
        return self.page.get_by_label("Give this to one person").input_value()

    def test_a_link_that_was_taken_back_lets_nobody_in_and_who_is_removed_is_out(self):
        self.page.goto(f"{self.server.address}/people")
        withdrawn = self.link()
        self.open_links.get_by_role("button", name="Take it back").click()
        link = self.link()
        expect(self.open_links).to_contain_text("As laminator")

        stranger = self.another_device().new_page()
        stranger.goto(withdrawn)
        expect(stranger.get_by_text("was used or taken back")).to_be_visible()
        stranger.goto(link)
        stranger.get_by_label("Name").fill("tern")
        stranger.get_by_label("Password").fill(PASSWORD_OF_TERN)
        stranger.get_by_role("button", name="Join").click()
        expect(stranger.get_by_role("heading", name="Jobs")).to_be_visible()

        self.page.reload()
        expect(self.page.get_by_role("button", name="Remove tern")).to_be_visible()
        expect(self.open_links).to_have_count(0)
        self.page.get_by_role("button", name="Remove tern").click()
        self.page.get_by_role("button", name="Yes, remove tern").click()
        expect(self.page.get_by_text("tern", exact=True)).to_have_count(0)
        stranger.reload()
        expect(stranger.get_by_role("heading", name="No shop yet")).to_be_visible()

    def test_a_job_is_put_away_and_taken_out_again(self):
        self.open("buoy lid")
        self.step("Log")
        self.page.get_by_role("button", name="Put this job away").click()
        expect(self.page.get_by_text("it is not on the floor")).to_be_visible()
        self.page.goto(self.server.address)
        jobs = self.page.get_by_role("list", name="Jobs")
        expect(jobs.get_by_text("Estuary skiff")).to_be_visible()
        expect(jobs.get_by_text("Channel buoy lid")).to_have_count(0)
        self.page.get_by_text("1 job put away").click()
        self.page.get_by_role("link", name="Channel buoy lid").click()
        self.page.get_by_role("button", name="Take it out again").click()
        expect(self.page.get_by_role("button", name="Put this job away")).to_be_visible()
        self.page.goto(self.server.address)
        expect(jobs.get_by_text("Channel buoy lid")).to_be_visible()


class FullDisk(DeskTest):
    def room_on_the_disk(self, most_bytes: int) -> None:
        """No file of the server may grow past so much: to who writes the same as a full disk."""
        resource.prlimit(self.server.process.pid, resource.RLIMIT_FSIZE, (most_bytes, resource.RLIM_INFINITY))

    def test_it_is_told_in_words_reads_go_on_and_what_was_typed_is_saved_once_there_is_room(self):
        self.open("Estuary skiff")
        self.step("Measure")
        self.addCleanup(self.room_on_the_disk, resource.RLIM_INFINITY)
        self.room_on_the_disk(1)
        self.page.get_by_label("Job", exact=True).fill("Skiff of the full disk")
        self.page.get_by_label("Job", exact=True).press("Enter")
        told = self.page.get_by_role("alert").filter(has_text="Not saved")
        expect(told).to_contain_text("the server cannot write to its disk")
        expect(told).to_contain_text("What you typed stays on this screen")
        other = self.page.context.new_page()
        other.goto(self.server.address)
        expect(other.get_by_role("list", name="Jobs").get_by_text("Estuary skiff")).to_be_visible()
        self.room_on_the_disk(resource.RLIM_INFINITY)
        expect(told).to_have_count(0)
        self.saved()
        other.reload()
        expect(other.get_by_role("list", name="Jobs").get_by_text("Skiff of the full disk")).to_be_visible()
