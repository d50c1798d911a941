"""The heat model behind the screen: an answer at once, the exact one when its table is built; the pot lab's manners."""

import shutil
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from threading import Event
from unittest import mock

from django.test import SimpleTestCase, override_settings

from cradle import plans
from cradle.beside import heat, tables, tables_on_disk
from layup.heat.heat_fit import StatedPot
from layup.heat.pot_heat import PotHeat, full_heat
from layup.plan import plan
from layup.shop_facts import ShopFacts
from tests.server.people import TwoShops


class OnDisk(SimpleTestCase):
    """What the model says of a product is worked out once, not at every start."""

    def setUp(self):
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder)
        for patched in (override_settings(DATA_DIR=self.folder), mock.patch.object(tables, "_tables", {})):
            patched.__enter__()
            self.addCleanup(patched.__exit__, None, None, None)
        self.stated = StatedPot(41.0, 25, 100)

    def kept(self) -> list[Path]:
        return list(self.folder.glob("heat/*/*.table"))

    def test_a_table_says_the_same_after_another_start(self):
        made = full_heat(self.stated)
        tables_on_disk.write_table(self.stated, made)
        tables_on_disk.read_tables()
        read = tables.table_of(self.stated)
        self.assertIsNot(read, made)
        for mass_g, room_c in ((50, 8), (300, 21.5), (1500, 31)):
            self.assertEqual(read.gel_min(mass_g, room_c, 90), made.gel_min(mass_g, room_c, 90))
            self.assertEqual(read.peak_c(mass_g, room_c), made.peak_c(mass_g, room_c))

    def test_one_that_is_spoiled_is_made_anew_and_holds_up_no_other(self):
        other = StatedPot(23.0, 25, 100)
        for stated in (self.stated, other):
            tables_on_disk.write_table(stated, PotHeat(stated))
        spoiled = self.kept()[0]
        spoiled.write_bytes(spoiled.read_bytes()[:40])
        with self.assertLogs("cradle.beside", "WARNING"):
            tables_on_disk.read_tables()
        self.assertEqual((len(tables.tables_kept()), len(self.kept())), (1, 1))

    def test_tables_of_another_model_are_removed_and_not_read(self):
        with mock.patch.object(tables_on_disk, "_model", lambda: "older"):
            tables_on_disk.write_table(self.stated, PotHeat(self.stated))
        tables_on_disk.read_tables()
        self.assertEqual((tables.tables_kept(), self.kept()), ({}, []))

    def test_a_disk_that_takes_nothing_stops_nobody(self):
        (self.folder / "heat").write_text("in the way")
        with self.assertLogs("cradle.beside", "WARNING"):
            tables_on_disk.write_table(self.stated, PotHeat(self.stated))
        tables_on_disk.read_tables()


class InTheBackground(TwoShops):
    def planned_with(self, pot_life_min: float):
        spec = self.job.latest().spec()
        resin = spec.materials.resins[0]
        hardeners = tuple(each.model_copy(update={"pot_life_min": pot_life_min}) for each in resin.hardeners)
        held = spec.materials.model_copy(update={"resins": (resin.model_copy(update={"hardeners": hardeners}),)})
        return spec.model_copy(update={"materials": held})

    @override_settings(HEAT_IN_BACKGROUND=True)
    def test_a_rough_answer_at_once_and_the_exact_one_soon(self):
        spec, facts = self.planned_with(23.7), ShopFacts()
        rough = plans.planned(self.shop.pk, spec, facts)
        self.assertTrue(rough.resins[0].chemistry.rough)
        until = time.monotonic() + 240
        while (answer := plans.planned(self.shop.pk, spec, facts)).resins[
            0
        ].chemistry.rough and time.monotonic() < until:
            time.sleep(0.05)
        exact = plan(spec, facts)
        self.assertEqual(answer, exact)
        self.assertAlmostEqual(rough.resins[0].chemistry.life_min / exact.resins[0].chemistry.life_min, 1, delta=0.1)

    def test_one_plan_is_made_for_all_who_ask_at_a_time(self):
        spec, made, came, go_on = self.planned_with(31.3), [], [], Event()

        def slow(*given):
            made.append(given)
            go_on.wait(240)
            if len(made) == 1:
                raise RuntimeError("the first try fails")
            return plan(*given)

        def ask():
            came.append(True)
            return plans.planned_json(self.shop.pk, spec, ShopFacts())

        with (
            mock.patch("cradle.beside.written.plan", slow),
            ThreadPoolExecutor(4) as pool,
            self.assertLogs("cradle.plans", "ERROR"),
        ):
            for failing in (True, False):
                go_on.clear()
                came.clear()
                asked = [pool.submit(ask) for _ in range(4)]
                until = time.monotonic() + 240
                while len(came) < 4 and time.monotonic() < until:
                    time.sleep(0.01)
                # Each has said that it comes: let it come in before the plan is done.
                time.sleep(0.5)
                go_on.set()
                if failing:
                    self.assertTrue(all(isinstance(one.exception(), plans.Unplannable) for one in asked))
                else:
                    self.assertTrue(all(one.result() is asked[0].result() for one in asked))
        self.assertEqual(len(made), 2)

    @override_settings(HEAT_IN_BACKGROUND=True)
    def test_no_more_are_taken_on_than_may_wait(self):
        held = Event()

        def slow(stated):
            held.wait(240)
            return PotHeat(stated)

        with mock.patch("cradle.beside.heat.full_heat", slow), mock.patch("cradle.beside.heat.MOST_WAITING", 4):
            try:
                for n in range(8):
                    self.assertTrue(
                        plans.planned(self.shop.pk, self.planned_with(30 + n / 100), ShopFacts())
                        .resins[0]
                        .chemistry.rough
                    )
                self.assertEqual(heat._asked.qsize(), 4)
            finally:
                held.set()
                until = time.monotonic() + 240
                while heat._asked.qsize() and time.monotonic() < until:
                    time.sleep(0.01)


class Lab(TwoShops):
    def lab(self, *trials: dict):
        return self.send("post", f"/api/jobs/{self.job.pk}/pot-lab", {"trials": list(trials)})

    def test_pots_are_tried_and_refused_at_their_field(self):
        trial = {"mass_g": 400, "room_c": 19}
        status, answer = self.lab(trial, trial | {"vessel": "tray"}, trial | {"poured_out_min": 8})
        self.assertEqual(status, 200)
        lives = [result["life_min"] for result in answer["results"]]
        self.assertLess(lives[0], min(lives[1:]))
        masses = [point["life_min"] for point in answer["by_mass"]]
        self.assertEqual(masses, sorted(masses, reverse=True))
        for wrong, path in (
            ({"mass_g": 40000}, "trials.0.mass_g"),
            ({"poured_out_min": 500}, "trials.0.poured_out_min"),
            ({"hardener_id": "epoxy-5-1-fast"}, "trials.0.hardener_id"),
        ):
            status, answer = self.lab(trial | wrong)
            self.assertEqual((status, answer["problems"][0]["path"]), (422, path))


class Check(TwoShops):
    def test_a_pot_off_its_ratio_is_told_what_mends_it(self):
        run = self.start_run()[1]
        at = f"/api/runs/{run['id']}/check"
        pot = run["plan"]["pots"][0]["ticket"]["pours"]
        a, b = pot[0]["amount"], pot[1]["amount"]
        right = self.send("post", at, {"pot": 1, "part_a_g": a, "part_b_g": b})[1]
        self.assertEqual((right["grade"], right["add_g"]), ("within tolerance", 0))
        short = self.send("post", at, {"pot": 1, "part_a_g": a, "part_b_g": 0.7 * b})[1]
        self.assertEqual((short["grade"], short["add"]), ("gone", "B"))
        self.assertAlmostEqual(short["add_g"], 0.3 * b, delta=1)
        hot = self.send("post", at, {"pot": 1, "part_a_g": a, "part_b_g": 0.7 * b, "surface_c": 35})[1]
        self.assertIn("too far on", hot["refused"])
        self.assertEqual(self.send("post", at, {"pot": 99, "part_a_g": a, "part_b_g": b})[0], 422)
        self.assertEqual(self.get(f"/api/runs/{run['id']}")[1]["stories"], [])
