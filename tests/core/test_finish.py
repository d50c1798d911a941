"""Finish: grits against ISO 6344, ladders, fairing, hours.

Of `layup.finish.grits`, `layup.finish.steps`, `layup.finish.kind`.
"""

from itertools import pairwise
from math import prod
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from layup.errors import OutOfRange
from layup.finish.grits import GRAIN_UM, MOST_FINER, ladder
from layup.finish.steps import ENDS, fairing_ml, hours_of, steps_of
from layup.finish_wishes import FinishWishes
from layup.library import generic
from layup.plan import plan
from layup.preparing.buying import shopping_list
from layup.preparing.cutting import cut_plan
from tests.core.jobs import at, on, panel

GRITS = st.sampled_from(sorted(GRAIN_UM))


class Grits(TestCase):
    def test_grains_are_those_of_the_standard(self):
        """Published: ISO 6344-2 and -3, mean grain sizes."""
        macro = {36: 538, 40: 425, 60: 269, 80: 201, 100: 162, 120: 125, 150: 100, 180: 82, 220: 68}
        micro = {240: 58.5, 280: 52.2, 320: 46.2, 360: 40.5, 400: 35, 500: 30.2, 600: 25.8, 800: 21.8, 1000: 18.3}
        finest = {1200: 15.3, 1500: 12.6, 2000: 10.3, 2500: 8.4}
        self.assertEqual(GRAIN_UM, macro | micro | finest)

    def test_grains_become_finer_with_the_grit(self):
        grains = [GRAIN_UM[grit] for grit in sorted(GRAIN_UM)]
        self.assertEqual(grains, sorted(grains, reverse=True))
        self.assertTrue(all(coarse / fine <= MOST_FINER for coarse, fine in pairwise(grains)))

    @given(GRITS, GRITS)
    def test_no_grit_is_over_twice_finer_than_the_one_before(self, first, last):
        """Common practice: about 1.5 times, never more than twice."""
        found = ladder(first, last)
        self.assertEqual(found[-1], last)
        if GRAIN_UM[first] <= GRAIN_UM[last]:
            self.assertEqual(found, (last,))
            return
        self.assertEqual(found[0], first)
        finer = [GRAIN_UM[a] / GRAIN_UM[b] for a, b in pairwise(found)]
        self.assertTrue(all(1 < each <= MOST_FINER for each in finer))
        # All of it together is the whole way, whatever lies between.
        self.assertAlmostEqual(prod(finer), GRAIN_UM[first] / GRAIN_UM[last])
        # As many steps as the way is long, at one and a half a step, give or take one.
        if len(finer) > 1:
            self.assertTrue(1.25 < prod(finer) ** (1 / len(finer)) < 1.8)

    def test_from_weave_to_paint_as_a_shop_has_it(self):
        """Common practice, no source."""
        self.assertEqual(ladder(80, 240), (80, 120, 180, 240))
        self.assertEqual(ladder(1200, 2000), (1200, 2000))

    def test_there_are_no_other_grits(self):
        with self.assertRaises(OutOfRange):
            ladder(80, 250)


class Steps(TestCase):
    def test_nothing_is_wanted_nothing_is_done(self):
        self.assertEqual(steps_of(FinishWishes(trim="saw, when hard", topped="oil"), 2, 6), ())

    def test_each_finish_ends_at_its_grit(self):
        """Common practice: P80 to bond, P180 to 240 under paint, P320 under varnish, P800 to 1200 matt, P2000 gloss."""
        for to, grit in {
            "ready to bond": 80,
            "under paint": 240,
            "under varnish": 320,
            "clear, matt": 1200,
            "clear, gloss": 2000,
        }.items():
            with self.subTest(to=to):
                told = [step.grit for step in steps_of(FinishWishes(to=to, now="old laminate"), 1, 4) if step.grit]
                self.assertEqual((told[0], told[-1], ENDS[to]), (40, grit, grit))

    def test_wet_from_p400_and_all_of_it_where_its_dust_harms(self):
        gloss = steps_of(FinishWishes(to="clear, gloss"), 1, 4)
        self.assertEqual([step.wet for step in gloss if step.grit], [step.grit >= 400 for step in gloss if step.grit])
        green = steps_of(FinishWishes(to="under paint", wet=True), 1, 4)
        self.assertTrue(all(step.wet for step in green))
        self.assertEqual([step.kind for step in gloss][-2:], ["polish", "polish"])
        self.assertIn("Cutting", gloss[-2].words)

    def test_minutes_are_by_the_area_and_the_shops_own_win(self):
        """Memory: 8 min a m² at P80, 2 more to dust off and wipe, 3 to set out."""
        once, twice = (steps_of(FinishWishes(to="ready to bond"), area, 4) for area in (1.5, 3.0))
        self.assertEqual([step.minutes for step in once], [18.0])
        self.assertEqual([step.minutes for step in twice], [33.0])
        own = steps_of(FinishWishes(to="ready to bond", own_min_per_m2=20), 1.5, 4)
        self.assertEqual(own[0].minutes, 36.0)

    def test_discs_are_whole_and_at_least_one(self):
        small, large = (steps_of(FinishWishes(to="under paint"), area, 4) for area in (0.1, 4.1))
        self.assertEqual([step.discs for step in small], [1] * 4)
        # Memory: a disc a m² down to P120, 0.7 finer.
        self.assertEqual([step.discs for step in large], [5, 5, 3, 3])

    def test_trimmed_by_the_metre(self):
        knife, saw = (
            steps_of(FinishWishes(to="ready to bond", trim=trim), 1, 6)[0]
            for trim in ("knife, while green", "saw, when hard")
        )
        self.assertEqual((knife.kind, knife.minutes, saw.minutes), ("trim", 6.0, 24.0))

    def test_blush_is_washed_off_before_anything_is_sanded(self):
        """Common practice: sanding rubs the film in."""
        kinds = [step.kind for step in steps_of(FinishWishes(to="ready to bond"), 1, 4, blushes=True)]
        self.assertEqual(kinds, ["wash", "grit"])
        # Memory: 5, 15 and 10 min a square metre, 3 to set out.
        gloss = steps_of(FinishWishes(to="clear, gloss"), 2, 4, blushes=True)
        self.assertEqual([gloss[at].minutes for at in (0, -2, -1)], [13.0, 33.0, 23.0])

    def test_low_places_are_keyed_filled_boarded_and_sanded_on(self):
        told = steps_of(FinishWishes(to="under paint", low_mm=(1.0, 3.0), now="old laminate"), 2, 6)
        self.assertEqual([step.kind for step in told][:3], ["grit", "fill", "grit"])
        self.assertEqual([step.grit for step in told if step.grit], [80, 80, 120, 180, 240])
        # Of what is faired in part the rest is sanded from the beginning.
        some = steps_of(FinishWishes(to="under paint", low_mm=(1.0,), faired_m2=0.5), 2, 6)
        self.assertEqual([step.grit for step in some if step.grit], [80, 80, 80, 120, 180, 240])
        self.assertIn("Guide coat", told[2].words)
        # Memory: over 2 m², at 10 and 15 min a square metre, 3 to set out.
        self.assertEqual([step.minutes for step in told[1:3]], [23.0, 33.0])
        self.assertEqual(told[1].wait_h, 12.0)
        self.assertEqual(
            steps_of(FinishWishes(to="under paint", low_mm=(1.0,), fairing="polyester"), 2, 6)[1].wait_h, 1.0
        )
        # Gaps of nought need no filler.
        self.assertNotIn("fill", [step.kind for step in steps_of(FinishWishes(to="under paint", low_mm=(0.0,)), 2, 6)])

    @given(st.lists(st.floats(0, 50), min_size=1, max_size=30), st.floats(0.01, 100), st.floats(0.01, 100))
    def test_fairing_is_area_by_mean_gap_and_a_fifth(self, low, area, faired):
        """Exact form; the fifth is common practice. No more is filled than there is."""
        wishes = FinishWishes(to="under paint", low_mm=tuple(low), faired_m2=faired)
        expected = 1.2 * min(area, faired) * (sum(low) / len(low)) / 1000 * 1e6
        self.assertAlmostEqual(fairing_ml(wishes, area), expected, delta=1e-6 * (1 + expected))

    def test_coats_wait_between_and_not_after_the_last(self):
        told = steps_of(FinishWishes(to="under varnish", topped="varnish", top_coats=3, hours_between=16), 1, 4)
        coats = [step for step in told if step.kind == "coat"]
        self.assertEqual(len(coats), 3)
        self.assertEqual(hours_of(told)[1], 32)
        self.assertAlmostEqual(hours_of(told)[0], sum(step.minutes for step in told) / 60)


class Planned(TestCase):
    def job(self, **said):
        return on(panel("epoxy-2-1", "cloth-300", "cloth-300"), finish={"to": "under paint"} | said, count=2)

    def test_it_is_told_bought_and_written_in_the_workbook(self):
        job = self.job(low_mm=(2.0,), trim="knife, while green", fittings_min=30)
        told = plan(job, at(20))
        (finish,) = told.finishes
        # Two panels of 1 by 2 m.
        self.assertEqual((finish.area_m2, finish.mean_low_mm), (4.0, 2.0))
        self.assertAlmostEqual(finish.fairing_ml, 9600)
        self.assertEqual(finish.steps[0].minutes, 12.0)
        self.assertEqual([step.kind for step in finish.steps][:3], ["trim", "wash", "grit"])
        self.assertEqual(finish.steps[-1].kind, "fittings")
        headline = next(step for step in told.steps if step.step == "finish")
        self.assertEqual((headline.headline, headline.state), (f"{finish.work_h:.1f} h of work", "ready"))
        bought = {line.what: line for line in shopping_list(job, told, cut_plan(job), generic(), at(20).scales).lines}
        self.assertEqual(bought["Abrasive discs, P80"].need, sum(s.discs for s in finish.steps if s.grit == 80))
        self.assertEqual(bought["Tack cloths"].need, 4)
        self.assertIn("9.6 l mixed", bought["Fairing compound"].variant)

    def test_it_begins_when_the_last_of_it_sands_to_dust(self):
        told = plan(self.job(), at(20))
        marks = {(mark.lane, mark.kind): mark.at_min for mark in told.run_sheet.marks}
        for day in told.finishes[0].on_day:
            self.assertGreater(day.begins_min, day.knife_min)
            self.assertAlmostEqual(day.begins_min, marks[day.lane, "sand"], delta=1)
        self.assertTrue(told.finishes[0].on_day)
        said = [mark.words for mark in told.run_sheet.marks if mark.kind == "sand"]
        # Its hours are those of all copies, and told once.
        self.assertEqual(len([words for words in said if "its finish" in words]), 1)
        self.assertEqual(said[-1], f"sand, flip; its finish may begin: {told.finishes[0].work_h:.1f} h of work")

    def test_a_job_that_wants_no_finish_has_none(self):
        told = plan(panel("epoxy-2-1", "cloth-300"), at(20))
        self.assertEqual((told.finishes, [step.step for step in told.steps if step.step == "finish"]), ((), []))

    def test_what_carries_styrene_is_not_washed_for_blush(self):
        told = plan(on(panel("polyester-general", "csm-450"), finish={"to": "under paint"}), at(20))
        self.assertNotIn("wash", [step.kind for step in told.finishes[0].steps])
