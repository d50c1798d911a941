"""What comes before a pot: ticks that only add, the gate of the first pot, files to take along."""

from uuid import uuid4

from cradle.jobs.models import Tick
from cradle.jobs.saving import save_job
from tests.server.people import TwoShops


class BeforePot(TwoShops):
    @property
    def at(self) -> str:
        return f"/api/jobs/{self.job.pk}"

    def tick(self, kind, *things, state="done", **more):
        body = {"tap_id": str(uuid4()), "kind": kind, "things": things, "state": state} | more
        return self.send("post", f"{self.at}/ticks", body)

    def pieces(self) -> list[str]:
        return [piece["id"] for piece in self.get(f"{self.at}/cut")[1]["plan"]["pieces"]]

    def test_the_first_pot_stays_shut_until_all_is_cut_and_fitted(self):
        status, refused = self.send("post", f"{self.at}/runs", {"tap_id": str(uuid4())})
        self.assertEqual((status, refused["problems"][0]["path"]), (422, "gate"))
        self.assertIn("15 of 15 pieces are not cut", refused["problems"][0]["message"])
        ready = self.tick("cut", *self.pieces())[1]
        self.assertEqual((ready["cut_count"], len(ready["waiting"])), (15, 6))
        self.assertEqual(self.send("post", f"{self.at}/runs", {"tap_id": str(uuid4())})[0], 422)
        self.tick("prepare", *ready["to_waive"]["prepare"], state="waived", reason="fitted last week")
        self.assertEqual(self.send("post", f"{self.at}/runs", {"tap_id": str(uuid4())})[0], 200)

    def test_the_floor_says_what_is_next(self):
        def next_words() -> str:
            jobs = self.get(f"/api/shops/{self.shop.pk}/jobs")[1]
            return next(job["next_step"]["words"] for job in jobs if job["id"] == str(self.job.pk))

        self.assertEqual(next_words(), "cut 15 pieces")
        self.tick("cut", *self.pieces()[:14])
        self.assertEqual(next_words(), "cut 1 piece")
        ready = self.tick("cut", *self.pieces())[1]
        self.assertTrue(next_words().startswith("Dry fit"))
        self.tick("prepare", *ready["to_waive"]["prepare"])
        self.assertTrue(next_words().startswith("mix pot 1 of"))

    def test_in_the_tack_waits_the_pieces_keep_nothing_shut(self):
        before = self.job.latest().spec()
        practice = before.practice.model_copy(update={"cutting": "in the tack waits"})
        save_job(self.job, before.model_copy(update={"practice": practice}), before, self.person)
        ready = self.get(f"{self.at}/ready")[1]
        self.assertEqual((ready["to_waive"]["cut"], len(ready["waiting"])), ([], 6))

    def test_corners_are_ticked_one_by_one_and_keep_no_pot_shut(self):
        """The bulkheads have two copies with two sides each: none of the four is forgotten."""
        there = self.get(f"{self.at}/corners")[1]
        mine = {thing: words for thing, words in there["corners"].items() if thing.startswith("bulkhead.")}
        self.assertEqual(mine["bulkhead.4"], "Bulkheads to bottom, 2, other side")
        self.assertEqual(len(mine), 4)
        self.assertEqual(self.tick("corner", "bulkhead.1", "bulkhead.4")[0], 200)
        standing = self.get(f"{self.at}/corners")[1]["ticks"]
        self.assertEqual({tick["thing"] for tick in standing if tick["state"] == "done"}, {"bulkhead.1", "bulkhead.4"})
        self.assertEqual(self.tick("corner", "bulkhead.5")[0], 422)
        self.assertNotIn("corner", self.get(f"{self.at}/ready")[1]["to_waive"])

    def test_a_tap_counts_once_a_tick_is_taken_back_and_nothing_is_changed(self):
        first, tap = self.pieces()[0], str(uuid4())
        for _ in range(2):
            self.tick("cut", first, tap_id=tap)
        self.assertEqual(Tick.objects.count(), 1)
        self.assertEqual(self.tick("cut", first, state="undone")[1]["cut_count"], 0)
        standing = self.get(f"{self.at}/cut")[1]["ticks"]
        self.assertEqual([(tick["thing"], tick["state"], tick["by"]) for tick in standing], [(first, "undone", "wren")])
        with self.assertRaises(TypeError):
            Tick.objects.first().save()

    def test_a_piece_that_changed_its_size_is_not_cut_any_more(self):
        first = self.pieces()[0]
        self.tick("cut", first)
        before = self.job.latest().spec()
        shape = before.parts[0].shape.model_copy(update={"width_m": 0.7})
        part = before.parts[0].model_copy(update={"shape": shape})
        save_job(self.job, before.model_copy(update={"parts": (part, *before.parts[1:])}), before, self.person)
        answer = self.get(f"{self.at}/cut")[1]
        self.assertEqual([tick["changed"] for tick in answer["ticks"]], [True])
        self.assertIn("620 mm", answer["ticks"][0]["said"])
        self.assertEqual(self.get(f"{self.at}/ready")[1]["cut_count"], 0)

    def test_what_is_not_there_and_a_waiver_without_a_reason_are_refused(self):
        self.assertEqual(self.tick("cut", "no-such-piece")[1]["problems"][0]["path"], "things")
        self.assertEqual(self.tick("cut", self.pieces()[0], state="waived")[1]["problems"][0]["path"], "reason")
        self.assertEqual(Tick.objects.count(), 0)

    def test_every_file_is_what_it_says_on_either_paper(self):
        for name in ("labels.pdf", "cut-plan.pdf", "preparation.pdf", "buy.pdf"):
            for paper in ("A4", "Letter"):
                response = self.client.get(f"{self.at}/{name}?paper={paper}")
                self.assertEqual((response.status_code, response.content[:5]), (200, b"%PDF-"), name)
        self.assertEqual(self.client.get(f"{self.at}/labels.pdf?paper=A0").status_code, 422)
        self.assertIn(b"<svg", self.client.get(f"{self.at}/rolls/1.svg").content)
        self.assertEqual(self.client.get(f"{self.at}/rolls/9.svg").status_code, 404)
        self.assertIn(b"Laminating epoxy", self.client.get(f"{self.at}/buy.csv").content)
