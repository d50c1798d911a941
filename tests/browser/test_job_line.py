"""A job begun in one line, by keyboard and by thumb; and the floor of a shop with sixty jobs."""

import json
import re
from uuid import uuid4

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class InOneLine(DeskTest):
    def come_to(self):
        return self.page.get_by_role("list", name="What it comes to")

    def test_a_line_is_a_job_with_pots_before_anything_else_is_pressed(self):
        page = self.page
        line = page.get_by_label("New job")
        line.fill("Hatch: 600 x 900 mm, mould, 2x 300 cloth, epoxy, slow")
        expect(self.come_to()).to_contain_text("0.54 m²")
        expect(self.come_to()).to_contain_text(re.compile(r"slow · \d+ min"))
        expect(self.come_to()).to_contain_text(re.compile(r"\d pots? · "))
        line.press("Enter")
        expect(page.get_by_role("navigation", name="Steps").get_by_role("link", name="Ticket")).to_contain_text("first")
        expect(page.get_by_label("Width", exact=True)).to_have_value("600 mm")
        self.step("Ticket")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Pot 1 of")

    def test_what_cannot_be_read_is_told_at_its_words_and_nothing_is_begun_or_lost(self):
        page = self.page
        line = page.get_by_label("New job")
        line.fill("Hatch: 600 x 900 mm, mould, 300 clth, epoxy")
        line.press("Enter")
        told = page.locator("#new-job-line")
        expect(told.locator("span.underline")).to_have_text("clth")
        expect(page).to_have_url(f"{self.server.address}/")
        told.get_by_role("button", name="take cloth").click()
        expect(line).to_have_value("Hatch: 600 x 900 mm, mould, 300 cloth, epoxy")
        expect(self.come_to()).to_contain_text("1 ply")

    def test_a_kind_of_job_stands_ready_to_be_typed_over(self):
        page = self.page
        self.pick("Begin from", "a lid from a mould")
        expect(page.get_by_label("New job")).to_have_value("Lid: disc 600 mm, mould, 2x 450 csm, polyester")
        page.keyboard.type("850")
        expect(page.get_by_label("New job")).to_have_value("Lid: disc 850 mm, mould, 2x 450 csm, polyester")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Diameter", exact=True)).to_have_value("850 mm")

    def test_a_name_with_no_colon_begins_an_empty_job_of_that_name(self):
        page = self.page
        page.get_by_label("New job").fill("Hatch 600 x 900 mm")
        page.get_by_role("button", name="Start").click()
        expect(page.get_by_label("Job", exact=True)).to_have_value("Hatch 600 x 900 mm")
        expect(page.get_by_role("button", name="Add a part")).to_be_visible()


class SixtyJobs(DeskTest):
    size = (390, 844)

    def sixty(self) -> None:
        """As many of the lid's job as make sixty, each with the revision it has."""
        with self.server.data() as data:
            jobs = data.execute("SELECT count(*) FROM jobs_job WHERE put_away_at IS NULL").fetchone()[0]
            (lid, document), *_ = [
                (job, json.loads(text))
                for job, text in data.execute("SELECT job_id, document FROM jobs_jobrevision ORDER BY number DESC")
                if "buoy lid" in text.lower()
            ]
            for number in range(jobs, 60):
                new = uuid4().hex
                named = json.dumps(document | {"name": f"Lid {number}"})
                for table, changed in (
                    ("jobs_job", {"id": new, "strips": "{}"}),
                    ("jobs_jobrevision", {"id": None, "job_id": new, "document": named}),
                ):
                    key = "id" if table == "jobs_job" else "job_id"
                    found = data.execute(f"SELECT * FROM {table} WHERE {key} = ? LIMIT 1", (lid,))
                    names = [column[0] for column in found.description]
                    row = dict(zip(names, found.fetchone(), strict=True)) | changed
                    marks = ", ".join("?" * len(row))
                    data.execute(f"INSERT INTO {table} ({', '.join(row)}) VALUES ({marks})", tuple(row.values()))

    def test_they_are_counted_and_found_by_a_word_and_by_what_they_wait_for(self):
        page = self.page
        self.sixty()
        page.reload()
        jobs = page.get_by_role("list", name="Jobs").get_by_role("listitem")
        expect(jobs).to_have_count(60)
        # What is being planned yet waits at its first step.
        expect(page.get_by_text("being planned")).to_have_count(0)
        everything = page.get_by_role("radio", name="All 60")
        expect(everything).to_be_checked()
        waiting = page.get_by_role("radiogroup", name="Waiting at")
        counts = [int(words.rsplit(" ", 1)[1]) for words in waiting.get_by_role("radio").all_inner_texts()]
        self.assertEqual(sum(counts[1:]), 60)
        waiting.get_by_role("radio", name=re.compile("^Ticket")).click()
        expect(jobs).to_have_count(int(waiting.get_by_role("radio", checked=True).inner_text().rsplit(" ", 1)[1]))
        expect(jobs.filter(has_text="Estuary skiff")).to_be_visible()
        everything.click()
        page.get_by_label("Find a job").fill("lid 4")
        expect(jobs).to_have_count(10)
        page.get_by_label("Find a job").fill("nothing of that name")
        expect(page.get_by_text("No job here says")).to_be_visible()

    def test_on_a_phone_what_is_live_is_the_first_thing_and_one_press_away(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Ticket")
        page.get_by_role("button", name="Take it to the bench").click()
        page.get_by_role("link", name="Open the bench").click()
        page.get_by_role("button", name=re.compile("^Start the bench")).first.click()
        page.goto(self.server.address)
        live = page.get_by_role("region", name="At the bench")
        expect(live).to_be_in_viewport()
        live.get_by_role("link").first.click()
        expect(page.get_by_role("navigation", name="Bench")).to_be_visible()
