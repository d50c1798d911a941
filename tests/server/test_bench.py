"""The bench's table: runs freeze their plan, events only add, each pot's story is read from them.

Of `layup.headlines`, `layup.pots.pot_log`, `layup.pots.risk`, `layup.day.due`, `layup.pots.verdict`, `layup.day.pots_told`.
"""

import json
from datetime import datetime, timedelta
from importlib import import_module
from io import BytesIO
from pathlib import Path
from types import SimpleNamespace
from unittest.mock import patch
from uuid import uuid4
from zoneinfo import ZoneInfo

from django.db import IntegrityError, transaction
from django.test import TransactionTestCase
from django.utils import timezone
from pypdf import PdfReader

from cradle.bench.models import Event, Run
from cradle.bench.running import record_event
from cradle.demo_jobs import skiff
from cradle.jobs import floor
from cradle.jobs.models import Tick
from cradle.jobs.saving import save_job, start_job
from cradle.plans import planned
from cradle.shops.models import Shop
from layup.errors import OutOfRange
from layup.job import Override
from layup.plan import plan
from tests.core.jobs import panel, primed
from tests.server.people import TwoShops, shop_with_person

_TOUCHED = {"about": "pot", "subject": "1", "kind": "touched"}
_DATA = {"a_g", "b_g", "loose_ml", "words", "amount", "grams"}


class Bench(TwoShops):
    def start(self, job=None):
        return self.start_run(job)

    def tap(self, run, kind, minute, pot=1, **more):
        at = self.began + timedelta(minutes=minute)
        body = {"tap_id": str(uuid4()), "about": "pot", "subject": str(pot), "kind": kind}
        body |= {"happened_at": at.isoformat(), "data": {key: more.pop(key) for key in _DATA & set(more)}} | more
        status, answer = self.send("post", f"/api/runs/{run['id']}/events", body)
        return (status, answer) if status != 200 else self.get(f"/api/runs/{run['id']}")

    def setUp(self):
        super().setUp()
        self.began = timezone.now() - timedelta(hours=2)

    def test_a_pots_story(self):
        run = self.start()[1]
        self.tap(run, "touched", 0, a_g=372, b_g=170)
        self.tap(run, "used up", 11)
        status, answer = self.tap(run, "gelled", 30, words="smelt warm")
        self.assertEqual(status, 200)
        story = answer["stories"][0]
        promised = run["plan"]["pots"][0]["life_min"]
        self.assertAlmostEqual(story["used_in_min"], 11)
        self.assertAlmostEqual(story["gel_error_pct"], 100 * (30 / promised - 1))
        ticket = run["plan"]["pots"][0]["ticket"]["pours"]
        self.assertAlmostEqual(
            story["ratio_error_pct"], 100 * (170 / 372 * ticket[0]["amount"] / ticket[1]["amount"] - 1)
        )
        self.assertEqual(story["events"][-1]["words"], "smelt warm")

    def test_a_wrong_event_is_taken_back_with_a_reason_and_stays_readable(self):
        run = self.start(self.lid)[1]
        self.tap(run, "touched", 0)
        story = self.tap(run, "gelled", 30)[1]["stories"][0]
        poured, gelled = story["events"]
        path = f"/api/runs/{run['id']}/events/{{}}/take-back"
        why = {"tap_id": str(uuid4()), "reason": "the wrong cup"}
        self.assertEqual(self.shop.gels.count(), 1)
        status, refused = self.send("post", path.format(poured["id"]), why)
        self.assertEqual((status, "take that back first" in refused["problems"][0]["message"]), (422, True))
        self.assertEqual(self.send("post", path.format(gelled["id"]), why | {"reason": " "})[0], 422)
        for _ in range(2):
            self.assertEqual(self.send("post", path.format(gelled["id"]), why)[0], 200)
            story = self.get(f"/api/runs/{run['id']}")[1]["stories"][0]
            self.assertEqual(story["gelled_in_min"], None)
        self.assertEqual(story["events"][1]["taken_back"]["reason"], "the wrong cup")
        self.assertEqual((self.shop.gels.count(), Event.objects.count()), (0, 3))
        again = self.tap(run, "gelled", 40)[1]["stories"][0]
        self.assertEqual((again["gelled_in_min"], self.shop.gels.count()), (40, 1))
        self.assertEqual(self.send("post", path.format(gelled["id"]), why | {"tap_id": str(uuid4())})[0], 422)

    def test_a_pot_past_mending_is_marked_until_it_is_dumped(self):
        """common practice: four and a half times the hardener is no mix; it may not look like a pot to be used up."""
        run = self.start()[1]
        first, second = run["plan"]["pots"][0]["ticket"]["pours"]
        answer = self.tap(run, "touched", 100, a_g=first["amount"], b_g=4.5 * second["amount"])[1]
        self.assertIn("do not use it", answer["stories"][0]["unfit"])
        due = self.get(f"/api/shops/{self.shop.pk}/due")[1]
        said = [one["words"] for one in due if one["job_id"] == str(self.job.pk)]
        self.assertEqual(said, ["pot 1 must not be used: mend it or dump it"])
        rest = self.get(f"/api/runs/{run['id']}/rest")[1]
        self.assertEqual(rest["laid"], 0)
        self.tap(run, "used up", 101)
        self.assertIn("must not be used", self.get(f"/api/shops/{self.shop.pk}/due")[1][0]["words"])
        self.tap(run, "dumped", 105)
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/due")[1], [])
        fine = self.tap(run, "touched", 100, pot=2, a_g=first["amount"], b_g=second["amount"])[1]
        self.assertEqual(fine["stories"][1]["unfit"], "")

    def test_a_pot_ages_while_its_ratio_is_asked_about(self):
        """A pot poured now may be mended, the same pot an hour on may not."""
        run = self.start(start_job(self.shop, panel("epoxy-2-1", "cloth-300"), self.person).job)[1]
        path = f"/api/runs/{run['id']}/check"
        for pot, minutes_ago, late in ((1, 1, False), (2, 60, True)):
            self.tap(run, "touched", 120 - minutes_ago, pot=pot)
            answer = self.send("post", path, {"pot": pot, "part_a_g": 100, "part_b_g": 55})[1]
            self.assertEqual("too late to mend" in answer["refused"], late, answer)

    def next_step(self) -> dict:
        strips = self.get(f"/api/shops/{self.shop.pk}/jobs")[1]
        return next(strip["next_step"] for strip in strips if strip["id"] == str(self.job.pk))

    def test_the_floor_goes_on_with_the_next_pot(self):
        run = self.start()[1]
        count = run["pot_count"]
        self.assertRegex(self.next_step()["words"], f"mix pot 1 of {count}, ")
        self.tap(run, "touched", 0)
        answer = self.tap(run, "touched", 20, pot=2)[1]
        self.assertEqual(answer["next_pot"], 3)
        self.assertRegex(self.next_step()["words"], f"mix pot 3 of {count}, ")
        for pot in range(3, count + 1):
            self.tap(run, "touched", 21, pot=pot)
        self.assertEqual(self.next_step(), {"step": "log", "words": f"all {count} pots are poured: watch the cure"})

    def test_the_floor_says_how_far_the_bench_had_come_when_the_job_was_changed(self):
        run = self.start()[1]
        planned = self.next_step()["words"]
        changed = skiff().model_copy(update={"name": "Estuary skiff, one hand"})
        save_job(self.job, changed, self.job.latest().spec(), self.person)
        self.assertNotIn("was changed", self.next_step()["words"])
        self.tap(run, "touched", 0)
        count = run["pot_count"]
        self.assertTrue(self.next_step()["words"].endswith(f"; the job was changed after pot 1 of {count} was poured"))
        self.tap(run, "touched", 20, pot=2)
        self.assertTrue(
            self.next_step()["words"].endswith(f"; the job was changed after 2 of {count} pots were poured")
        )
        self.assertEqual(self.next_step()["words"].split(";")[0], planned.split(";")[0])

    def test_a_kept_strip_is_made_anew_when_the_code_behind_it_changes(self):
        self.get(f"/api/shops/{self.shop.pk}/jobs")
        with patch("cradle.jobs.floor._strip", wraps=floor._strip) as made:
            self.get(f"/api/shops/{self.shop.pk}/jobs")
            self.assertEqual(made.call_count, 0)
            with patch("cradle.jobs.floor._code", return_value="another"):
                self.get(f"/api/shops/{self.shop.pk}/jobs")
            self.assertEqual(made.call_count, 2)

    def test_a_run_keeps_its_numbers_when_the_job_changes(self):
        run = self.start()[1]
        save_job(self.job, skiff().model_copy(update={"parts": ()}), skiff(), self.person)
        kept = self.get(f"/api/runs/{run['id']}")[1]
        self.assertEqual(kept["plan"], run["plan"])

    def test_a_run_of_an_older_plan_still_opens(self):
        run = Run.objects.get(pk=self.start()[1]["id"])
        run.plan = json.loads((Path(__file__).parent / "samples" / "plan_v1.json").read_text())
        run.save()
        self.tap({"id": run.pk}, "touched", 0)
        status, answer = self.get(f"/api/runs/{run.pk}")
        self.assertEqual((status, answer["stories"][0]["mass_g"]), (200, run.plan["pots"][0]["mass_g"]))
        parts = [pour["part"] for pour in answer["plan"]["pots"][0]["ticket"]["pours"]]
        self.assertEqual(parts, ["A", "B"])
        for about, number in (("mixed", run.plan["resin"]["mixed_g"]), ("pot:bottom-1", run.plan["pots"][0]["mass_g"])):
            status, worked = self.send("post", f"/api/runs/{run.pk}/working", {"about": about})
            self.assertEqual((status, worked["result"]), (200, number), about)

    def test_a_number_of_a_run_is_followed_as_it_was_frozen(self):
        """Not as the program of today would plan the same job."""
        run = Run.objects.get(pk=self.start()[1]["id"])
        run.plan["pots"][0] |= {"mass_g": 333.0, "surplus_g": 4.5}
        run.save()
        pot_id = run.plan["pots"][0]["id"]
        worked = self.send("post", f"/api/runs/{run.pk}/working", {"about": f"pot:{pot_id}"})[1]
        self.assertEqual(worked["result"], 333.0)
        self.assertIn(4.5, [given["value"] for given in worked["givens"]])

    def test_a_pot_out_of_one_tin_is_poured_told_and_printed_and_has_no_ratio(self):
        save_job(self.job, primed(), skiff(), self.person)
        run = self.start()[1]
        status, answer = self.tap(run, "touched", 0)
        self.assertEqual((status, answer["stories"][0]["ratio_error_pct"]), (200, None))
        self.assertEqual(self.tap(run, "gelled", 100)[0], 200)
        self.assertFalse(self.shop.gels.exists())
        check = {"pot": 1, "part_a_g": 200, "part_b_g": 20}
        status, refused = self.send("post", f"/api/runs/{run['id']}/check", check)
        self.assertEqual(status, 422)
        self.assertIn("there is no ratio to check", refused["problems"][0]["message"])
        trial = {"use_id": "second", "trials": [{"mass_g": 300, "room_c": 20}]}
        status, refused = self.send("post", f"/api/jobs/{self.job.pk}/pot-lab", trial)
        self.assertEqual((status, refused["problems"][0]["path"]), (422, "trials.0.mass_g"))
        card = (
            PdfReader(BytesIO(self.client.get(f"/api/jobs/{self.job.pk}/tickets.pdf").content)).pages[0].extract_text()
        )
        self.assertIn("skins over about", " ".join(card.split()))

    def test_a_tap_sent_twice_counts_once(self):
        run = self.start()[1]
        tap_id = str(uuid4())
        for _ in range(2):
            self.assertEqual(self.tap(run, "touched", 0, tap_id=tap_id)[0], 200)
        self.assertEqual(Event.objects.count(), 1)

    def test_what_cannot_have_happened_is_refused(self):
        run = self.start()[1]
        for path, kind, minute, more in (
            ("kind", "gelled", 5, {}),
            ("subject", "touched", 0, {"pot": 99}),
            ("happened_at", "touched", 600, {}),
            ("data.a_g", "touched", 0, {"a_g": -3}),
            ("kind", "exploded", 0, {}),
        ):
            with self.subTest(path=path, kind=kind):
                status, answer = self.tap(run, kind, minute, **more)
                self.assertEqual((status, answer["problems"][0]["path"]), (422, path))
        self.tap(run, "touched", 0)
        self.assertEqual(self.tap(run, "gelled", -5)[0], 422)
        self.assertEqual(self.tap(run, "touched", 1)[0], 422)

    def test_events_are_never_changed_or_deleted(self):
        self.tap(self.start()[1], "touched", 0)
        event = Event.objects.get()
        with self.assertRaises(TypeError):
            event.save()
        with self.assertRaises(TypeError):
            event.delete()

    def test_a_stop_holds_the_run_until_it_is_overridden_in_the_job(self):
        stopped = panel("epoxy-2-1", "csm-450")
        save_job(self.job, stopped, skiff(), self.person)
        status, answer = self.start()
        self.assertEqual((status, answer["problems"][0]["path"]), (422, "parts.0.plies.0"))
        stop = plan(stopped, self.shop.shop_facts()).cautions[0]
        given = Override(
            id="o", caution_id=stop.id, about=stop.about, said=stop.said, reason="this mat's maker says so"
        )
        save_job(self.job, stopped.model_copy(update={"overrides": (given,)}), stopped, self.person)
        status, run = self.start()
        self.assertEqual((status, run["plan"]["cautions"][0]["override"]["by"]), (200, "wren"))

    def test_a_reason_of_an_older_run_moves_into_its_plan(self):
        moving = import_module("cradle.bench.migrations.0002_overrides_live_in_the_plan").into_the_plan
        old = SimpleNamespace(
            override_reason="its maker says epoxy",
            started_by=self.person,
            started_at=timezone.now(),
            plan={"cautions": [{"severity": "stop"}, {"severity": "care"}]},
            save=lambda update_fields: None,
        )
        runs = SimpleNamespace(exclude=lambda **_: SimpleNamespace(select_related=lambda _: [old]))
        moving(SimpleNamespace(get_model=lambda *_: SimpleNamespace(objects=runs)), None)
        self.assertEqual(old.plan["cautions"][0]["override"]["reason"], "its maker says epoxy")
        self.assertNotIn("override", old.plan["cautions"][1])

    def test_a_time_of_day_is_the_shops(self):
        Shop.objects.filter(pk=self.shop.pk).update(time_zone="Pacific/Auckland")
        local = timezone.now().astimezone(ZoneInfo("Pacific/Auckland")) - timedelta(minutes=20)
        typed = {"text": f"{local:%H:%M}", "past": True}
        read = self.send("post", f"/api/shops/{self.shop.pk}/moments", typed)[1]
        self.assertAlmostEqual((local - datetime.fromisoformat(read["at"])).total_seconds(), 0, delta=60)
        ahead = self.send("post", f"/api/shops/{self.shop.pk}/moments", typed | {"past": False})[1]
        self.assertGreater(datetime.fromisoformat(ahead["at"]), timezone.now())
        status, none = self.send("post", f"/api/shops/{self.shop.pk}/moments", {"text": "when it is warm"})
        self.assertEqual((status, "tomorrow 8:00" in none["problems"][0]["message"]), (422, True))

    def test_an_unfinished_job_does_not_reach_the_bench(self):
        save_job(self.job, skiff().model_copy(update={"parts": (), "joints": ()}), skiff(), self.person)
        self.assertEqual(self.start()[0], 422)

    def due(self):
        return self.get(f"/api/shops/{self.shop.pk}/due")[1]

    def test_what_is_due_follows_the_pots(self):
        self.assertEqual(self.due(), [])
        run = self.start()[1]
        self.began = timezone.now()
        clocks, pots = run["plan"]["resins"][0]["chemistry"]["clocks"], run["plan"]["pots"]
        self.tap(run, "touched", -5, pot=2)
        live = self.due()
        self.assertEqual([due["words"] for due in live], ["pot 2 kicks", "next ply from"])
        kicks = datetime.fromisoformat(live[0]["at"]) - self.began
        self.assertAlmostEqual(kicks.total_seconds() / 60, pots[1]["life_min"] - 5, delta=0.2)
        self.tap(run, "used up", 0, pot=2)
        self.assertEqual([due["kind"] for due in self.due()], ["window"])

        run = self.start()[1]
        before_close = clocks["window_closes_min"] - 30
        self.tap(run, "touched", -before_close, pot=2)
        self.tap(run, "gelled", 0, pot=2)
        self.assertEqual([(due["words"], due["passed"]) for due in self.due()], [("next ply before", False)])

        run = self.start()[1]
        clocks, pots = run["plan"]["resins"][0]["chemistry"]["clocks"], run["plan"]["pots"]
        own = [
            n for pot in pots if pot["owner_id"] == "bottom" for n in range(pot["first"], pot["first"] + pot["count"])
        ]
        for number in own:
            self.tap(run, "touched", -clocks["knife_trim_min"] - 1, pot=number)
            self.tap(run, "used up", 0, pot=number)
        self.assertEqual([due["words"] for due in self.due()], ["sand from"])
        self.assertEqual(self.get(f"/api/shops/{self.other_shop.pk}/due", self.foreign)[1], [])

    def test_logged_gels_teach_the_shop_its_own_times(self):
        first = self.start()[1]["plan"]["resins"][0]["chemistry"]
        self.assertEqual(first["shop_words"], "")
        run = self.start()[1]
        at = next(n for n, pot in enumerate(run["plan"]["pots"]) if pot["owner_id"] == "bottom" and pot["count"] > 2)
        promised, first = run["plan"]["pots"][at]["life_min"], run["plan"]["pots"][at]["first"]
        for number in range(first, first + 3):
            self.tap(run, "touched", -0.8 * promised, pot=number)
            self.tap(run, "gelled", 0, pot=number)
        learnt = self.start()[1]["plan"]
        self.assertRegex(
            learnt["resins"][0]["chemistry"]["shop_words"], r"^This shop runs 1\d % quicker than the label, by 3 gels"
        )
        self.assertLess(learnt["pots"][at]["life_min"], 0.93 * promised)
        self.assertEqual(sum(point["shop"] for point in learnt["resins"][0]["chemistry"]["chart"]["points"]), 3)
        self.assertEqual(self.other_shop.gels.count(), 0)

    def test_a_gel_teaches_the_resin_that_its_pot_was_of(self):
        run = self.start(self.lid)[1]
        pots = {pot["use_id"]: pot for pot in reversed(run["plan"]["pots"])}
        for pot in (pots["gel"], pots["resin"]):
            self.tap(run, "touched", -0.7 * pot["life_min"], pot=pot["first"])
            self.tap(run, "gelled", 0, pot=pot["first"])
        gels = {gel.resin_id: gel for gel in self.shop.gels.all()}
        self.assertEqual(set(gels), {"gel-coat", "polyester-general"})
        for use_id, resin_id in (("gel", "gel-coat"), ("resin", "polyester-general")):
            self.assertAlmostEqual(gels[resin_id].catalyst_pct, pots[use_id]["catalyst_pct"])
            self.assertAlmostEqual(gels[resin_id].minutes, 0.7 * pots[use_id]["life_min"], delta=0.1)

    def test_a_run_begun_when_a_job_had_one_resin_goes_on(self):
        """Its document and its plan as they were kept then: it opens, takes what happens, and teaches."""
        run = self.start(self.lid)[1]
        kept = Run.objects.get(pk=run["id"])
        document, plan = kept.document, kept.plan
        laminate = document["resins"][0]
        document = document | {
            "version": 1,
            "chemistry": {k: v for k, v in laminate.items() if k not in ("id", "word")},
        }
        for part in document["parts"]:
            part.pop("use_id")
            for ply in part["plies"]:
                if ply["coat"]:
                    ply["coat"].pop("use_id")
        del document["resins"]
        of = plan["resins"][0]
        plan |= {"chemistry": of["chemistry"], "resin": of["use"] | {"gel_coat_g": 864.0}}
        del plan["resins"]
        for pot in plan["pots"]:
            del pot["use_id"], pot["resin_name"]
        kept.document, kept.plan = document, plan
        kept.save()
        opened = self.get(f"/api/runs/{kept.pk}")[1]
        self.assertEqual(opened["plan"]["resins"][0]["chemistry"]["resin_name"], "General-purpose polyester")
        self.assertEqual(opened["plan"]["gel_coat_g"], 864)
        life = plan["pots"][1]["life_min"]
        self.assertEqual(self.tap(run, "touched", -0.7 * life, pot=2)[0], 200)
        self.assertEqual(self.tap(run, "gelled", 0, pot=2)[0], 200)
        self.assertEqual([gel.resin_id for gel in self.shop.gels.all()], ["polyester-general"])

    def test_a_pot_off_its_ratio_teaches_nothing(self):
        run = self.start()[1]
        self.tap(run, "touched", -30, pot=2, a_g=100, b_g=70)
        self.tap(run, "gelled", 0, pot=2)
        self.assertEqual(self.shop.gels.count(), 0)

    def test_gelled_pressed_at_once_teaches_nothing_and_the_shop_goes_on(self):
        """No pot gels in two seconds; once such a row was kept, every page of the shop was refused."""
        run = self.start(self.lid)[1]
        self.tap(run, "touched", 0)
        self.assertEqual(self.tap(run, "gelled", 2 / 60)[0], 200)
        self.assertEqual(self.shop.gels.count(), 0)
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/jobs")[0], 200)

    def test_a_paste_gels_out_of_its_cup_and_teaches_nothing_of_it(self):
        run = self.start()[1]
        self.tap(run, "touched", -60, pot=1)
        self.tap(run, "gelled", 0, pot=1)
        self.assertEqual(self.shop.gels.count(), 0)

    def test_filler_really_stirred_in_corrects_the_shops_table(self):
        run = self.start()[1]
        row = run["plan"]["pots"][0]["ticket"]["thickened"]["fillers"][0]
        self.assertEqual(self.tap(run, "filler in", 0, loose_ml=90)[0], 422)
        self.tap(run, "touched", -5)
        for amount, field in ((-1, "data.loose_ml"), (row["loose_ml"] * 9, "data.loose_ml")):
            status, refused = self.tap(run, "filler in", -1, loose_ml=amount)
            self.assertEqual((status, refused["problems"][0]["path"]), (422, field))
        self.assertEqual(self.tap(run, "filler in", -1, pot=2, loose_ml=50)[0], 422)
        told = self.tap(run, "filler in", -1, loose_ml=1.25 * row["loose_ml"])[1]
        self.assertAlmostEqual(told["stories"][0]["filler_error_pct"], 25)
        now = self.start()[1]["plan"]["pots"][0]["ticket"]["thickened"]["fillers"][0]
        self.assertEqual(now["told_by"], "shop log, 1 pot")
        self.assertTrue(1.05 * row["parts"] < now["parts"] < 1.25 * row["parts"])
        self.assertEqual(self.other_shop.stirred.count(), 0)

    def test_a_larger_pot_that_took_more_filler_moves_nothing(self):
        ticket = (run := self.start()[1])["plan"]["pots"][0]["ticket"]
        row, a, b = ticket["thickened"]["fillers"][0], *(pour["amount"] for pour in ticket["pours"])
        aside, planned = ticket["thickened"]["aside_g"], ticket["total_g"]
        # A fifth more of both parts, and the filler that this thickens.
        self.tap(run, "touched", -5, a_g=1.2 * a, b_g=1.2 * b)
        thickens = (1.2 * planned - aside) / (planned - aside)
        self.tap(run, "filler in", -1, loose_ml=thickens * row["loose_ml"])
        self.assertAlmostEqual(self.shop.stirred.get().parts, row["parts"], 6)
        # A pot ten times its ticket was typed wrong: it teaches nothing.
        other = self.start()[1]
        self.tap(other, "touched", -5, a_g=10 * a, b_g=10 * b)
        self.assertEqual(self.tap(other, "filler in", -1, loose_ml=row["loose_ml"])[0], 200)
        self.assertEqual(self.shop.stirred.count(), 1)

    def test_a_dumped_pot_opens_no_window(self):
        run = self.start()[1]
        self.tap(run, "touched", 60)
        self.tap(run, "dumped", 90)
        self.assertEqual(self.due(), [])

    def test_a_pot_nobody_ended_is_asked_about(self):
        run = self.start()[1]
        self.tap(run, "touched", 0)
        asked = self.due()[0]
        self.assertTrue(asked["passed"] and "write down what it did" in asked["words"])


class Begun(TwoShops):
    """What a run names is what it froze, and one press begins one run."""

    def setUp(self):
        super().setUp()
        self.small = start_job(self.shop, panel("epoxy-2-1", "cloth-300"), self.person).job
        at = f"/api/jobs/{self.small.pk}"
        for kind, things in self.get(f"{at}/ready")[1]["to_waive"].items():
            if things:
                tick = {"tap_id": str(uuid4()), "kind": kind, "things": things, "state": "done"}
                self.send("post", f"{at}/ticks", tick)

    def begin(self, tap_id=None, job=None):
        body = {"tap_id": str(tap_id or uuid4())}
        return self.send("post", f"/api/jobs/{(job or self.small).pk}/runs", body)

    def test_the_same_press_begins_one_run(self):
        tap = uuid4()
        first, again = self.begin(tap), self.begin(tap)
        self.assertEqual((first[0], first[1]["id"]), (200, again[1]["id"]))
        self.assertEqual(self.small.runs.count(), 1)
        self.assertNotEqual(self.begin()[1]["id"], first[1]["id"])
        other = start_job(self.shop, panel("epoxy-2-1", "cloth-300"), self.person).job
        Tick.objects.bulk_create(
            Tick(
                job=other,
                tap_id=uuid4(),
                kind=tick.kind,
                thing=tick.thing,
                state="done",
                said=tick.said,
                by=self.person,
            )
            for tick in self.small.ticks.all()
        )
        self.assertEqual(self.begin(tap, other)[0], 422)

    def test_an_edit_that_comes_while_a_run_is_begun_is_in_neither_or_both(self):
        came = []

        def meanwhile(*given, **named):
            answer = planned(*given, **named)
            if not came:
                came.append(True)
                latest = self.small.latest()
                save_job(self.small, latest.spec().model_copy(update={"name": "Renamed"}), latest.spec(), self.person)
            return answer

        with patch("cradle.bench.running.planned", meanwhile):
            run = Run.objects.get(pk=self.begin()[1]["id"])
        revision = self.small.revisions.get(number=run.revision_number)
        self.assertEqual((run.document, run.spec.name, revision.fixed), (revision.document, "Renamed", True))

    def test_a_run_begun_by_a_clock_gone_wrong_still_takes_what_happens(self):
        for years in (-56, 60):
            with self.subTest(years=years):
                run = self.begin()[1]
                Run.objects.filter(pk=run["id"]).update(started_at=timezone.now() + timedelta(days=365 * years))
                now = timezone.now().isoformat()
                event = {"tap_id": str(uuid4()), "about": "pot", "subject": "1", "kind": "touched", "happened_at": now}
                self.assertEqual(self.send("post", f"/api/runs/{run['id']}/events", event)[0], 200)


class AtOnce(TransactionTestCase):
    """Two tablets in the same moment: each has read that nothing is written yet, and the table keeps one."""

    def setUp(self):
        self.shop, self.person = shop_with_person("Saltmarsh Slip", "wren")
        job = start_job(self.shop, panel("epoxy-2-1", "cloth-300"), self.person).job
        answer = plan(job.latest().spec(), self.shop.shop_facts())
        self.run_ = Run.objects.create(
            job=job,
            revision_number=1,
            document=job.latest().document,
            shop_facts=self.shop.shop_facts().model_dump(mode="json"),
            plan=answer.model_dump(mode="json"),
            started_by=self.person,
        )

    def pour(self, tap_id):
        return record_event(self.run_, self.person, tap_id=tap_id, **_TOUCHED, happened_at=timezone.now())

    def raced(self, tap_id, other_tap_id):
        """A pour whose look at the table came before another's pour was written."""

        def late(*_):
            with transaction.atomic():
                Event.objects.create(
                    run=self.run_,
                    by=self.person,
                    tap_id=other_tap_id,
                    **_TOUCHED,
                    happened_at=timezone.now(),
                )

        with patch("cradle.bench.running._check_event", side_effect=late):
            return self.pour(tap_id)

    def test_another_tap_is_told_that_it_came_too_late(self):
        with self.assertRaises(OutOfRange) as refused:
            self.raced(uuid4(), uuid4())
        self.assertIn("already has “touched”", refused.exception.message)

    def test_each_kind_stands_once_in_the_table_itself(self):
        self.pour(uuid4())
        with self.assertRaises(IntegrityError):
            Event.objects.create(run=self.run_, by=self.person, tap_id=uuid4(), **_TOUCHED, happened_at=timezone.now())

    def test_what_two_tablets_wrote_twice_before_is_numbered(self):
        migration = import_module("cradle.bench.migrations.0004_taken_back")
        seen = [
            SimpleNamespace(pk=n, run_id=1, pot=1, kind=kind) for n, kind in enumerate(["poured", "poured", "dumped"])
        ]
        numbered = {}

        class Events:
            def exclude(self, **_):
                return self

            def order_by(self, *_):
                return seen

            def filter(self, pk):
                return SimpleNamespace(update=lambda nth: numbered.update({pk: nth}))

        apps = SimpleNamespace(get_model=lambda *_: SimpleNamespace(objects=Events()))
        migration.number_doubles(apps, None)
        self.assertEqual(numbered, {1: 1})
