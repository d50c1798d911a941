"""Other starts, levers, jobs over weeks, and what is left of a run.

Of `layup.day.best_start`, `layup.bench.issue`, `layup.day.planner`, `layup.day.run_sheet`.
"""

from datetime import UTC, date, datetime, timedelta
from unittest import TestCase

from cradle.demo_jobs import skiff
from layup.bench.issue import issued_card, rest_of
from layup.day.best_start import best_of, latest_start, levers, starts_of_day
from layup.day.simulated_forecast import simulated_forecast
from layup.errors import LayupError
from layup.job import Conditions
from layup.plan import plan
from layup.shop_facts import ShopFacts
from tests.core.jobs import DAY, LONDON, at, panel, shed, stacked, wishing


class Levers(TestCase):
    def test_each_lever_does_what_it_says(self):
        facts = shed(18, 25)
        for lever in levers(skiff(), facts):
            job = skiff()
            changed = {"hardener_id": lever.hardener_id}
            in_use = (use.model_copy(update=changed) if use.id == lever.use_id else use for use in job.resins)
            job = job.model_copy(update={"pots": job.pots.model_copy(update=lever.pots), "resins": tuple(in_use)})
            answer = plan(job, facts)
            self.assertEqual(answer.pot_count, lever.pot_count, lever.name)
            self.assertAlmostEqual(answer.run_sheet.chance_any, lever.chance_any, places=9)

    def test_the_best_start_is_none_that_another_beats(self):
        facts = shed(forecast=simulated_forecast(DAY, LONDON))
        job = skiff().model_copy(update={"joints": ()})
        tried = starts_of_day(job, facts, DAY)
        self.assertEqual(len(tried), 20)
        best = best_of(tried)
        self.assertTrue(best.pot_count and not best.fault)
        answer = plan(wishing(job, start=best.start_at), facts)
        self.assertEqual((answer.pot_count, answer.run_sheet.chance_any), (best.pot_count, best.chance_any))

    def test_a_start_that_no_pot_fits_says_what_fits_none(self):
        """A scale that reads fifty grams measures no pot of this job, whenever it is begun."""
        job = panel("epoxy-2-1", "cloth-300")
        day = starts_of_day(job, at(20, today=DAY, scale_step_g=50), DAY)
        self.assertGreater(len(day), 10)
        for tried in day:
            self.assertEqual((tried.pot_count, tried.fault[:29]), (0, "no pot lives long enough for "))
            self.assertEqual((tried.laid_by, tried.nights), (tried.start_at, 0))

    def test_a_front_and_a_humid_night_count(self):
        """On the sixth simulated day the air is near its dew point in the morning."""
        facts = shed(
            forecast=simulated_forecast(DAY, LONDON), conditions=Conditions(room_c=14, surface_c=12.5, humidity_pct=60)
        )
        job = skiff().model_copy(update={"joints": ()})
        faults = [start.fault for start in starts_of_day(job, facts, DAY + timedelta(days=5))]
        self.assertTrue(faults[0].startswith("damp"))

    def test_the_latest_start_meets_its_hour_and_the_next_half_hour_does_not(self):
        facts, now = shed(18, 24), datetime(2026, 5, 4, 6, tzinfo=UTC)
        by = datetime(2026, 5, 5, 14, tzinfo=LONDON)
        start = latest_start(skiff(), facts, by, "laid", now)
        self.assertLessEqual(start.laid_by, by)
        later = plan(wishing(skiff(), start=start.start_at + timedelta(minutes=30)), facts).run_sheet
        self.assertGreater(later.start_at + timedelta(minutes=later.laid_by_min), by)

    def test_an_hour_that_cannot_be_met_is_refused_with_the_soonest(self):
        facts, now = shed(18, 24), datetime(2026, 5, 4, 7, tzinfo=UTC)
        with self.assertRaisesRegex(LayupError, "type a later hour"):
            latest_start(skiff(), facts, now + timedelta(hours=2), "load", now)
        with self.assertRaisesRegex(LayupError, "is past"):
            latest_start(skiff(), facts, now - timedelta(hours=1), "laid", now)


class AcrossDays(TestCase):
    def test_an_hour_that_the_clock_skips_is_no_hour_of_cure(self):
        """In London the clock goes from 01:00 to 02:00 on 29 March 2026: an hour by the wall is not an hour of cure."""
        facts = ShopFacts(
            conditions=Conditions(room_c=20), today=date(2026, 3, 28), time_zone="Europe/London", opens_h=8, closes_h=20
        )
        job = wishing(panel("epoxy-2-1", "cloth-300"), start=datetime(2026, 3, 28, 17, tzinfo=LONDON))
        answer = plan(job, facts)
        sand = next(mark for mark in answer.run_sheet.marks if mark.kind == "sand")
        (last,) = answer.run_sheet.pots[-1:]
        self.assertAlmostEqual(sand.at_min - last.touch_min, answer.resins[0].chemistry.clocks.sandable_min, delta=0.1)

    def test_a_job_over_weeks(self):
        job = stacked(("cloth-300", "biax-600"), 1.5, 3, False)
        parts = [
            job.parts[0].model_copy(
                update={
                    "id": f"p{n}",
                    "plies": tuple(ply.model_copy(update={"id": f"{ply.id}{n}"}) for ply in job.parts[0].plies),
                    "count": 30,
                }
            )
            for n in range(3)
        ]
        answer = plan(job.model_copy(update={"parts": tuple(parts)}), shed(16, 22))
        sheet = answer.run_sheet
        self.assertGreater(sheet.laid_by_min, 14 * 24 * 60)
        self.assertEqual([pot.number for pot in sheet.pots], list(range(1, answer.pot_count + 1)))

    def test_far_too_many_pots_are_refused_in_words(self):
        job = panel("epoxy-2-1", "biax-600", width_m=90, length_m=90)
        answer = plan(wishing(job, largest_g=100), at(20))
        self.assertEqual((answer.pots, answer.run_sheet), ((), None))
        self.assertIn("more than 3,000 pots", answer.problems[0].message)

    def test_a_past_start_and_a_closed_shop_are_told(self):
        sheet = plan(wishing(skiff(), start=datetime(2026, 5, 1, 20, tzinfo=LONDON)), shed()).run_sheet
        self.assertIn("is past", sheet.problems[0])
        self.assertIn("08:00 to 18:00", sheet.problems[1])
        self.assertGreaterEqual(sheet.pots[0].weigh_min, 12 * 60)


class Rest(TestCase):
    def test_the_rest_lays_what_is_left_and_no_more(self):
        facts, job = shed(), stacked(("cloth-300", "cloth-300"), 0.8, 2, True)
        issued = plan(job, facts)
        begun = issued.run_sheet.start_at
        done = issued.run_sheet.pots[: len(issued.run_sheet.pots) // 2]
        poured = {pot.number: begun + timedelta(minutes=pot.touch_min) for pot in done}
        now = begun + timedelta(minutes=done[-1].used_min)
        rest = rest_of(job, facts, issued, poured, [], now)
        everything = sum(pot.laid_g for pot in issued.run_sheet.pots)
        self.assertAlmostEqual(
            sum(pot.laid_g for pot in rest.run_sheet.pots), everything - sum(pot.laid_g for pot in done), places=3
        )
        self.assertEqual(rest.run_sheet.pots[0].number, done[-1].number + 1)
        again = rest_of(job, facts, issued, poured, [done[0].number], now)
        self.assertAlmostEqual(
            sum(pot.laid_g for pot in again.run_sheet.pots) - sum(pot.laid_g for pot in rest.run_sheet.pots),
            done[0].laid_g,
            places=3,
        )

    def test_a_window_that_closed_meanwhile_is_mended(self):
        facts, job = shed(), stacked(("cloth-300", "cloth-300"), 0.8, 1, False)
        issued = plan(job, facts)
        first = issued.run_sheet.pots[: len(issued.run_sheet.pots) // 2]
        poured = {pot.number: issued.run_sheet.start_at for pot in first}
        later = rest_of(job, facts, issued, poured, [], issued.run_sheet.start_at + timedelta(days=1)).run_sheet
        self.assertEqual(later.layers[0].mended, "wash, sand, wipe")
        self.assertIn("misses the window beneath it", later.problems[0])

    def test_nothing_left(self):
        facts, job = shed(), stacked(("cloth-300",), 0.3, 1, False)
        issued = plan(job, facts)
        poured = {pot.number: issued.run_sheet.start_at for pot in issued.run_sheet.pots}
        self.assertIsNone(
            rest_of(job, facts, issued, poured, [], issued.run_sheet.start_at + timedelta(hours=1)).run_sheet
        )

    def test_a_layer_said_to_be_laid_is_not_planned_again(self):
        """No source: what a foreman says is on, is on, also with a pot fewer than planned."""
        facts, job = shed(), stacked(("cloth-300", "cloth-300"), 0.8, 1, False)
        issued = plan(job, facts)
        card = issued_card(job, facts, issued)
        first, second = card.layers[0], card.layers[1]
        self.assertGreater(first.last_pot, first.first_pot)
        begun = issued.run_sheet.start_at
        poured = {first.first_pot: begun}
        now = begun + timedelta(minutes=30)
        for laid, next_up in ({}, first.id), ({first.id: now}, second.id):
            rest = rest_of(job, facts, issued, poured, [], now, card=card, laid_at=laid)
            self.assertEqual(rest.card.layers[0].id, next_up)
            self.assertEqual(rest.pots[0].first, first.first_pot + 1)
        self.assertAlmostEqual(
            sum(pot.laid_g for pot in rest.card.pots),
            sum(pot.laid_g for pot in card.pots if pot.number > first.last_pot),
            places=6,
        )

    def test_a_layer_whose_pots_are_on_takes_no_more_where_it_would_weigh_more_by_now(self):
        """No source: nobody mixes a pot for the two grams by which a recipe was bettered since."""
        facts, job = shed(), stacked(("cloth-300", "cloth-300"), 0.8, 1, False)
        issued = plan(job, facts)
        layer = issued.run_sheet.layers[0]
        poured = dict.fromkeys(range(1, layer.last_pot + 1), issued.run_sheet.start_at)
        now = issued.run_sheet.start_at + timedelta(minutes=30)
        for fraction in (0.46, 0.54):
            wetter = job.model_dump(mode="json")
            for ply in wetter["parts"][0]["plies"]:
                ply["fibre_weight_fraction"] = fraction
            rest = rest_of(type(job).model_validate(wetter), facts, issued, poured, [], now)
            self.assertEqual(rest.run_sheet.layers[0].item_ids, issued.run_sheet.layers[1].item_ids)
            whole = plan(type(job).model_validate(wetter), facts).run_sheet
            ply_2 = sum(pot.laid_g for pot in whole.pots if pot.number >= whole.layers[1].first_pot)
            self.assertAlmostEqual(sum(pot.laid_g for pot in rest.run_sheet.pots), ply_2, places=6)

    def test_the_rest_of_a_half_laid_ply_does_not_wait_for_its_own_tack(self):
        facts, job = shed(), stacked(("cloth-300", "cloth-300"), 1.2, 1, True)
        issued = plan(job, facts)
        begun = issued.run_sheet.start_at
        waiting = [kind for kind in issued.run_sheet.layers if kind.last_pot > kind.first_pot and kind.first_pot > 1]
        layer = waiting[-1]
        pots = issued.run_sheet.pots[: layer.first_pot]
        poured = {pot.number: begun + timedelta(minutes=pot.touch_min) for pot in pots}
        now = begun + timedelta(minutes=pots[-1].used_min)
        rest = rest_of(job, facts, issued, poured, [], now).run_sheet
        self.assertEqual(rest.layers[0].item_ids, layer.item_ids)
        self.assertLess(rest.layers[0].from_min, 15)

    def test_what_waits_begins_when_it_would_have_begun_however_long_ago_the_last_was_laid(self):
        facts, job = at(20, today=DAY), stacked(("cloth-300", "cloth-300"), 0.8, 1, True)
        issued = plan(job, facts)
        card, sheet = issued_card(job, facts, issued), issued.run_sheet
        coat = sheet.layers[-1]
        laid = [pot for pot in sheet.pots if pot.number < coat.first_pot]
        poured = {pot.number: sheet.start_at + timedelta(minutes=pot.touch_min) for pot in laid}
        for waited_min in (5, 25):
            now = sheet.start_at + timedelta(minutes=laid[-1].used_min + waited_min)
            for in_force in (None, card):
                rest = rest_of(job, facts, issued, poured, [], now, card=in_force).run_sheet
                self.assertEqual(rest.layers[0].item_ids, coat.item_ids)
                planned_min = coat.from_min - (now - sheet.start_at).total_seconds() / 60
                self.assertAlmostEqual(rest.layers[0].from_min, planned_min, delta=1)
