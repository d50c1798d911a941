"""What went wrong, over the API: the log of a run read, the repair made into a job."""

from datetime import timedelta
from uuid import uuid4

from django.utils import timezone

from cradle.bench.models import Run
from tests.server.people import TwoShops


class WhatWentWrong(TwoShops):
    def wrong(self, **known) -> tuple[int, dict]:
        return self.send("post", f"/api/shops/{self.shop.pk}/wrong", known)

    def poured(self, hardener_share: float) -> tuple[str, dict]:
        """A run of the skiff whose first pot was written down with so much of its hardener, and used up in time."""
        run = self.start_run()[1]
        ticket = Run.objects.get(pk=run["id"]).plan["pots"][0]["ticket"]
        a_g, b_g = (pour["amount"] * pour["unit_is"] for pour in ticket["pours"][:2])
        said = {"a_g": a_g, "b_g": b_g * hardener_share}
        at = timezone.now()
        for kind, data, moment in (("touched", said, at), ("used up", {}, at + timedelta(minutes=2))):
            event = {"tap_id": str(uuid4()), "about": "pot", "subject": "1", "kind": kind, "data": data}
            status, answer = self.send(
                "post", f"/api/runs/{run['id']}/events", event | {"happened_at": moment.isoformat()}
            )
            self.assertEqual(status, 200, answer)
        return run["id"], said

    def test_it_begins_from_nothing(self):
        status, first = self.wrong()
        self.assertEqual((status, first["found"]["ask"]["id"], first["mending"]), (200, "seen", None))
        status, next_one = self.wrong(answers={"seen": "soft"}, skipped=["depth"])
        self.assertEqual(status, 200)
        self.assertNotIn(next_one["found"]["ask"]["id"], ("seen", "depth"))
        self.assertEqual([question["id"] for question in next_one["answered"]], ["seen"])
        self.assertEqual(next_one["mending"]["cause"], next_one["found"]["causes"][0]["id"])

    def test_a_wrong_pour_in_the_log_is_found_and_its_opposite_struck_out(self):
        run, _ = self.poured(1.4)
        status, told = self.wrong(run_id=run, answers={"seen": "soft"})
        self.assertEqual(status, 200)
        self.assertEqual(told["known"], {"family": "two_part"})
        first = told["found"]["causes"][0]
        self.assertEqual((first["id"], first["log"]), ("hardener_heavy", ["Pot 1 was 40 % hardener heavy"]))
        out = {cause["id"]: cause["log"] for cause in told["found"]["causes"] if cause["standing"] == "ruled out"}
        self.assertEqual(out["resin_heavy"], ["No pot was resin heavy"])
        self.assertIn("past_gel", out)
        self.assertEqual((told["pots"], told["job_name"]), ([1], self.job.latest().document["name"]))

    def test_a_pot_on_its_ratio_rules_the_ratio_out(self):
        run, _ = self.poured(1.0)
        out = [c["id"] for c in self.wrong(run_id=run, pot=1)[1]["found"]["causes"] if c["standing"] == "ruled out"]
        self.assertEqual(sorted(out), ["hardener_heavy", "past_gel", "resin_heavy"])
        status, refused = self.wrong(run_id=run, pot=2)
        self.assertEqual((status, refused["problems"][0]["path"]), (422, "pot"))

    def test_a_pot_that_was_passed_over_keeps_the_whole_run_from_ruling_out(self):
        run, said = self.poured(1.0)
        event = {"tap_id": str(uuid4()), "about": "pot", "subject": "3", "kind": "touched", "data": said}
        status, answer = self.send(
            "post", f"/api/runs/{run}/events", event | {"happened_at": timezone.now().isoformat()}
        )
        self.assertEqual(status, 200, answer)
        whole = self.wrong(run_id=run)[1]
        self.assertEqual([c["id"] for c in whole["found"]["causes"] if c["standing"] == "ruled out"], [])
        self.assertEqual(whole["pots"], [1, 3])
        one = self.wrong(run_id=run, pot=1)[1]
        self.assertIn("hardener_heavy", [c["id"] for c in one["found"]["causes"] if c["standing"] == "ruled out"])

    def test_the_caution_that_stood_is_told_with_its_override(self):
        run, _ = self.poured(1.0)
        told = self.wrong(run_id=run, answers={"seen": "sticky"}, cause="unmixed")[1]["caught"]
        self.assertEqual((told["rule"], told["stood"], told["override"]), ("mixing.one_pot", False, ""))
        self.assertIn("misses its hardener", told["looks_for"])
        issued = Run.objects.get(pk=run)
        caution = dict(issued.plan["cautions"][0])
        caution |= {"id": "mixing.one_pot", "message": "Mixed in one cup", "severity": "stop"}
        caution["override"] = {"reason": "only a test", "by": "wren", "at": ""}
        issued.plan["cautions"] = [caution]
        Run.objects.filter(pk=run).update(plan=issued.plan)
        told = self.wrong(run_id=run, answers={"seen": "sticky"}, cause="unmixed")[1]["caught"]
        self.assertEqual(
            (told["stood"], told["words"], told["override"]), (True, "Mixed in one cup", "only a test (wren)")
        )

    def test_the_repair_becomes_a_job_or_a_part_of_the_job(self):
        part = self.job.latest().document["parts"][0]
        known = {
            "job_id": str(self.job.pk),
            "part_id": part["id"],
            "area_m2": 0.3,
            "answers": {"seen": "hollow"},
            "cause": "not_keyed",
        }
        glass = sum(1 for ply in part["plies"] if ply["fabric_id"])
        mending = self.wrong(**known)[1]["mending"]
        self.assertAlmostEqual(mending["fabric_m2"], 0.3 * glass)
        self.assertAlmostEqual(mending["hours"], 1.2)
        shop = f"/api/shops/{self.shop.pk}"
        status, own = self.send("post", f"{shop}/jobs/from-wrong", known)
        self.assertEqual(status, 200)
        self.assertEqual([each["shape"]["area_m2"] for each in own["document"]["parts"]], [0.3])
        self.assertNotEqual(own["id"], str(self.job.pk))
        before = len(self.job.latest().document["parts"])
        status, whole = self.send("post", f"{shop}/wrong/added", known)
        self.assertEqual((status, whole["id"]), (200, str(self.job.pk)))
        self.assertEqual(len(whole["document"]["parts"]), before + 1)
        self.assertEqual(whole["document"]["parts"][-1]["comes_after"], [part["id"]])

    def test_what_is_missing_is_refused_at_its_field(self):
        known = {"job_id": str(self.job.pk), "part_id": "", "cause": "not_keyed", "answers": {"seen": "hollow"}}
        made = f"/api/shops/{self.shop.pk}/jobs/from-wrong"
        for changed, path in (
            ({}, "part_id"),
            ({"part_id": self.job.latest().document["parts"][0]["id"]}, "area_m2"),
            ({"cause": "gremlins"}, "cause"),
            ({"job_id": None}, "job_id"),
        ):
            with self.subTest(path=path):
                status, refused = self.send("post", made, known | changed)
                self.assertEqual((status, refused["problems"][0]["path"]), (422, path))
        for answers, path in (({"seen": "green"}, "answers.seen"), ({"x": "y"}, "answers.x")):
            status, refused = self.wrong(answers=answers)
            self.assertEqual((status, refused["problems"][0]["path"]), (422, path))
        self.assertEqual(self.wrong(area_m2=-1, answers={"seen": "soft"})[1]["problems"][0]["path"], "area_m2")

    def test_no_other_shops_run_or_job_is_read(self):
        run, _ = self.poured(1.4)
        other = f"/api/shops/{self.other_shop.pk}"
        for known in ({"run_id": run}, {"job_id": str(self.job.pk)}):
            for path in ("wrong", "jobs/from-wrong", "wrong/added"):
                with self.subTest(path=path, known=list(known)):
                    self.assertEqual(
                        self.send("post", f"{other}/{path}", known | {"cause": "cold"}, self.foreign)[0], 404
                    )
