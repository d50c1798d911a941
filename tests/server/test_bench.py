"""The bench's table: runs freeze their plan, events only add, each pot's story is read from them."""

import json
from datetime import timedelta
from pathlib import Path
from uuid import uuid4

from django.utils import timezone

from cradle.bench.models import PotEvent, Run
from cradle.demo_jobs import skiff
from cradle.jobs.saving import save_job
from tests.core.jobs import panel
from tests.server.people import TwoShops


class Bench(TwoShops):
    def start(self, job=None, **body):
        return self.send("post", f"/api/jobs/{(job or self.job).pk}/runs", body)

    def tap(self, run, kind, minute, pot=1, **more):
        at = self.began + timedelta(minutes=minute)
        body = {"tap_id": str(uuid4()), "pot": pot, "kind": kind, "happened_at": at.isoformat()} | more
        return self.send("post", f"/api/runs/{run['id']}/events", body)

    def setUp(self):
        super().setUp()
        self.began = timezone.now() - timedelta(hours=2)

    def test_a_pots_story(self):
        run = self.start()[1]
        self.tap(run, "poured", 0, part_a_g=372, part_b_g=170)
        self.tap(run, "used by", 11)
        status, answer = self.tap(run, "gelled at", 30, note="smelt warm")
        self.assertEqual(status, 200)
        story = answer["stories"][0]
        promised = run["plan"]["pots"][0]["life_min"]
        self.assertAlmostEqual(story["used_in_min"], 11)
        self.assertAlmostEqual(story["gel_error_pct"], 100 * (30 / promised - 1))
        ticket = run["plan"]["pots"][0]["ticket"]["pours"]
        self.assertAlmostEqual(
            story["ratio_error_pct"], 100 * (170 / 372 * ticket[0]["amount"] / ticket[1]["amount"] - 1)
        )
        self.assertEqual(story["events"][-1]["note"], "smelt warm")

    def test_a_run_keeps_its_numbers_when_the_job_changes(self):
        run = self.start()[1]
        save_job(self.job, skiff().model_copy(update={"parts": ()}), skiff(), self.person)
        kept = self.get(f"/api/runs/{run['id']}")[1]
        self.assertEqual(kept["plan"], run["plan"])

    def test_a_run_of_an_older_plan_still_opens(self):
        run = Run.objects.get(pk=self.start()[1]["id"])
        run.plan = json.loads((Path(__file__).parent / "samples" / "plan_v1.json").read_text())
        run.save()
        self.tap({"id": run.pk}, "poured", 0)
        status, answer = self.get(f"/api/runs/{run.pk}")
        self.assertEqual((status, answer["stories"][0]["mass_g"]), (200, run.plan["pots"][0]["mass_g"]))

    def test_a_tap_sent_twice_counts_once(self):
        run = self.start()[1]
        tap_id = str(uuid4())
        for _ in range(2):
            self.assertEqual(self.tap(run, "poured", 0, tap_id=tap_id)[0], 200)
        self.assertEqual(PotEvent.objects.count(), 1)

    def test_what_cannot_have_happened_is_refused(self):
        run = self.start()[1]
        for path, kind, minute, more in (
            ("kind", "gelled at", 5, {}),
            ("pot", "poured", 0, {"pot": 99}),
            ("happened_at", "poured", 600, {}),
            ("part_a_g", "poured", 0, {"part_a_g": -3}),
            ("kind", "exploded", 0, {}),
        ):
            with self.subTest(path=path, kind=kind):
                status, answer = self.tap(run, kind, minute, **more)
                self.assertEqual((status, answer["problems"][0]["path"]), (422, path))
        self.tap(run, "poured", 0)
        self.assertEqual(self.tap(run, "gelled at", -5)[0], 422)
        self.assertEqual(self.tap(run, "poured", 1)[0], 422)

    def test_events_are_never_changed_or_deleted(self):
        self.tap(self.start()[1], "poured", 0)
        event = PotEvent.objects.get()
        with self.assertRaises(TypeError):
            event.save()
        with self.assertRaises(TypeError):
            event.delete()

    def test_a_stop_holds_the_run_until_a_reason_is_given(self):
        save_job(self.job, panel("epoxy-2-1", "csm-450"), skiff(), self.person)
        status, answer = self.start()
        self.assertEqual((status, answer["problems"][0]["path"]), (422, "override_reason"))
        status, run = self.start(override_reason="this mat's maker names epoxy")
        self.assertEqual((status, run["override_reason"]), (200, "this mat's maker names epoxy"))

    def test_an_unfinished_job_does_not_reach_the_bench(self):
        save_job(self.job, skiff().model_copy(update={"parts": (), "joints": ()}), skiff(), self.person)
        self.assertEqual(self.start()[0], 422)
