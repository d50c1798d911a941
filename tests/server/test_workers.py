"""Work beside the server: in time, in turn, left when nobody waits. Of `cradle.beside`, `cradle.plans`."""

import gc
import os
import signal
import subprocess
import sys
import time
from collections import OrderedDict
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from threading import Event
from unittest import mock

from asgiref.sync import async_to_sync, sync_to_async
from django.conf import settings
from django.test import override_settings

from cradle.beside.crew import PLANS, STARTS, Crew, NobodyWaits
from cradle.beside.gone import gone_of_asker, telling_who_is_gone
from cradle.beside.starts import starts_in_time
from cradle.beside.worker import Ended, Worker
from cradle.beside.written import plan_written
from cradle.jobs.saving import start_job
from cradle.plans import planned, planned_json
from layup.errors import OutOfRange
from layup.plan import plan
from tests.core.jobs import panel
from tests.deaf import sleep_deaf
from tests.server.people import TwoShops


class InProcesses(TwoShops):
    """Heavy work stands beside the server: the same answers, within a budget, one at a time a shop."""

    @override_settings(HEAVY_IN_PROCESSES=True, HEAVY_BUDGET_S=600)
    def test_the_same_levers_and_starts_from_another_process(self):
        # A catalysed panel, for which a fresh worker has no tables of heat to make.
        small = start_job(self.shop, panel("polyester-general", "csm-450", "csm-450"), self.person).job
        job, tomorrow = f"/api/jobs/{small.pk}", (self.shop.now() + timedelta(days=1)).date().isoformat()
        beside = [self.send("post", f"{job}/{what}", {"day": tomorrow}) for what in ("levers", "starts")]
        with override_settings(HEAVY_IN_PROCESSES=False):
            here = [self.send("post", f"{job}/{what}", {"day": tomorrow}) for what in ("levers", "starts")]
        self.assertEqual(beside, here)
        self.assertEqual((beside[1][0], beside[1][1]["whole"]), (200, True))

    @override_settings(HEAVY_IN_PROCESSES=True)
    def test_what_is_past_its_budget_is_ended_and_the_next_is_answered(self):
        with self.assertRaisesRegex(OutOfRange, "longer than 1 s to try"):
            STARTS.work(self.shop.pk, 1, time.sleep, 600)
        self.assertEqual(STARTS.work(self.shop.pk, 240, abs, -3), 3)

    @override_settings(HEAVY_IN_PROCESSES=True, HEAVY_BUDGET_S=600)
    def test_what_nobody_waits_for_is_left_and_no_other_work_is(self):
        gone, worker = Event(), Worker(nice=True)
        with ThreadPoolExecutor(1) as others:
            slept = others.submit(worker.work, Event(), 600, time.sleep, 1.5)
            while not worker.pid.value:
                time.sleep(0.01)
            # Somebody else's work has another number.
            worker.leave(-1)
            self.assertIsNone(slept.result())
            left = others.submit(worker.work, gone, 600, time.sleep, 600)
            gone.set()
            with self.assertRaises(Ended):
                left.result()
        self.assertEqual(worker.work(Event(), 600, abs, -3), 3)

    @override_settings(HEAVY_IN_PROCESSES=True)
    def test_a_work_that_does_not_hear_is_killed_and_the_next_is_answered(self):
        worker = Worker(nice=True)
        self.assertEqual(worker.work(Event(), 240, abs, -3), 3)
        with mock.patch("cradle.beside.worker._ENDED_WITHIN_S", 0.2), self.assertRaises(Ended):
            worker.work(Event(), 0.1, sleep_deaf, 600)
        self.assertEqual(worker.work(Event(), 240, abs, -3), 3)

    @override_settings(HEAVY_IN_PROCESSES=True)
    def test_one_shop_cannot_hold_all_workers(self):
        crew, go_on, order = Crew(2, 1, nice=True, too_long="{}", path=""), Event(), []

        class Held:
            def work(self, gone, budget_s, of, *args):
                order.append(args[0])
                go_on.wait(240)

        crew._free = [Held(), Held()]
        with ThreadPoolExecutor(4) as askers:
            asked = [askers.submit(crew.work, "busy", 600, abs, "busy") for _ in range(3)]
            asked.append(askers.submit(crew.work, "quiet", 600, abs, "quiet"))
            until = time.monotonic() + 240
            while len(order) < 2 and time.monotonic() < until:
                time.sleep(0.01)
            self.assertCountEqual(order, ["busy", "quiet"])
            go_on.set()
            for each in asked:
                each.result()
        self.assertCountEqual(order, ["busy"] * 3 + ["quiet"])

    @override_settings(HEAVY_IN_PROCESSES=True)
    def test_a_plan_past_its_budget_is_refused_in_words(self):
        with self.assertRaisesRegex(OutOfRange, "longer than 1 s to plan: split the job"):
            PLANS.work(self.shop.pk, 1, time.sleep, 600)

    @override_settings(HEAVY_IN_PROCESSES=True)
    def test_who_has_gone_waits_for_no_turn_and_the_next_comes(self):
        crew, gone = Crew(1, 1, nice=True, too_long="{}", path=""), Event()
        gone.set()
        held, crew._free = crew._free, []

        async def asks(scope, receive, send):
            await receive()
            await sync_to_async(crew.work)("shop", 600, abs, -3)

        async def leaves():
            return {"type": "http.disconnect"}

        with self.assertRaises(NobodyWaits):
            async_to_sync(telling_who_is_gone(asks))({"type": "http"}, leaves, None)
        crew._free = held
        self.assertEqual((crew._waiting, crew.work("shop", 600, abs, -3)), ([], 3))

    def test_who_waits_for_a_plan_that_its_asker_left_has_it_made_anew(self):
        spec, facts, came, left = panel("polyester-general", "csm-450"), self.shop.shop_facts(), Event(), Event()
        made = []

        def work(*given):
            made.append(given)
            if len(made) == 1:
                came.set()
                left.wait(240)
                raise NobodyWaits("nobody waits for this any more")
            return plan_written(*given[3:])

        kept = mock.patch("cradle.plans._kept", OrderedDict())
        with kept, mock.patch.object(PLANS, "work", work), ThreadPoolExecutor(2) as askers:
            asked = [askers.submit(planned_json, self.shop.pk, spec, facts)]
            came.wait(240)
            asked.append(askers.submit(planned_json, self.shop.pk, spec, facts))
            # It waits for the first by now.
            time.sleep(0.5)
            left.set()
            self.assertIsInstance(asked[0].exception(), NobodyWaits)
            self.assertIn(b'"pots"', asked[1].result())
        self.assertEqual(len(made), 2)

    @override_settings(HEAVY_IN_PROCESSES=True)
    def test_too_many_who_wait_are_told_so(self):
        with (
            mock.patch("cradle.beside.crew.MOST_WAITING", 0),
            self.assertRaisesRegex(OutOfRange, "busy with what others"),
        ):
            STARTS.work(self.shop.pk, 1, abs, -3)

    @override_settings(HEAVY_IN_PROCESSES=True)
    def test_a_plan_of_a_worker_is_the_same(self):
        spec, facts = panel("polyester-general", "csm-450"), self.shop.shop_facts()
        self.assertEqual(planned(self.shop.pk, spec, facts, full=True), plan(spec, facts))

    def test_a_request_knows_when_its_connection_is_closed(self):
        told = []

        async def application(scope, receive, send):
            await receive()
            told.append(gone_of_asker().is_set())
            await receive()
            # Of the threads that work for it as well.
            told.append(await sync_to_async(lambda: gone_of_asker().is_set())())

        messages = iter([{"type": "http.request"}, {"type": "http.disconnect"}])

        async def receive():
            return next(messages)

        scope = {"type": "http", "method": "GET", "path": "/", "headers": [], "query_string": b""}
        async_to_sync(telling_who_is_gone(application))(scope, receive, None)
        self.assertEqual(told, [False, True])

    @override_settings(HEAVY_IN_PROCESSES=True)
    def test_a_worker_that_dies_is_begun_anew(self):
        worker = Worker(nice=False)
        of_worker = worker.work(Event(), 240, os.getpid)
        self.assertNotEqual(of_worker, os.getpid())
        os.kill(of_worker, signal.SIGKILL)
        self.assertEqual(worker.work(Event(), 240, abs, -3), 3)

    def test_a_day_that_runs_out_of_time_says_so(self):
        spec, facts = self.job.latest().spec(), self.shop.shop_facts()
        found, whole = starts_in_time(spec, facts, (self.shop.now() + timedelta(days=1)).date(), 0.0)
        self.assertEqual((found, whole), ((), False))

    @override_settings(HEAVY_IN_PROCESSES=True)
    def test_a_worker_comes_with_all_it_works_with_and_never_looks_through_it(self):
        self.assertGreater(Worker(nice=False).work(Event(), 240, gc.get_freeze_count), 100_000)

    def test_a_command_that_plans_nothing_loads_no_planner(self):
        loads = "import sys, django; django.setup(); print('scipy' in sys.modules, 'layup.plan' in sys.modules)"
        environment = os.environ | {"DJANGO_SETTINGS_MODULE": "cradle.settings"}
        found = subprocess.run(
            [sys.executable, "-c", loads], cwd=settings.BASE_DIR, env=environment, capture_output=True, text=True
        )
        self.assertEqual(found.stdout.split(), ["False", "False"], found.stderr)
