"""Pots: each cap where it bites, the floor of the tool, how works are split and shared.

Of `layup.pots.mix`, `layup.pots.outcome`, `layup.workings.pots`, `layup.cautions.conditions`,
`layup.laminate.parts`, `layup.day.planner`.
"""

from math import exp
from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st

from layup.equipment import usual_width_mm
from layup.job import PotWishes
from layup.library import generic
from layup.plan import plan, settled
from layup.pots.mix import cup_wishes, larger_vessel
from layup.pots.sizing import (
    Batch,
    PotLife,
    PotSize,
    PotSteps,
    largest_by_life_g,
    mixed_for_g,
    next_batch,
    readable_g,
    size_pot,
    spreading_min_per_m2,
    works_for_one_pot,
)
from layup.pots.work import Work
from layup.shop_facts import ShopFacts
from tests.core.jobs import at, fabric, on, panel


def constant_life(minutes: float, contact_min: float = 3) -> PotLife:
    """A pot whose life falls by half each 10 °C and does not know its mass."""
    return PotLife(lambda mass_g, t: minutes * 2 ** ((20 - t) / 10), 20, contact_min)


def size(life: PotLife, rate: float, **changes) -> PotSize:
    settings = {
        "vessel_ml": 50_000,
        "density_g_per_ml": 1.1,
        "largest_allowed_g": 50_000,
        "open_min": 10_000,
        "floor_g": 30,
    }
    return size_pot(life, rate, **(settings | changes))


def up_to(largest_g: float, floor_g: float = 30):
    """A sizer that allows the same largest pot at any rate."""
    return lambda rate: PotSize(largest_g, "pot life", floor_g, ())


class Caps(TestCase):
    def test_each_cap_where_it_bites(self):
        slow = constant_life(400)
        for limited_by, changes, grams in (
            ("cup 70% full", {"vessel_ml": 1000}, 770),
            ("largest pot allowed", {"largest_allowed_g": 1000}, 1000),
            ("20 min of spreading", {}, 20 * 100),
            ("open for the next ply", {"open_min": 5}, 500),
            ("your own limit", {"set_by_hand_g": 300}, 300),
        ):
            with self.subTest(cap=limited_by):
                found = size(slow, 100, **changes)
                self.assertEqual((found.limited_by, round(found.largest_g, 6)), (limited_by, grams))

    def test_the_life_of_the_pot_bites_where_it_is_short(self):
        found = size(constant_life(15), 100)
        self.assertEqual(found.limited_by, "pot life")
        self.assertAlmostEqual(found.largest_g, largest_by_life_g(constant_life(15), 100))

    def test_contact_alone_can_use_the_life_up(self):
        found = size(constant_life(4), 100)
        self.assertIsNone(found.largest_g)
        self.assertEqual(found.limited_by, "pot life")

    def test_a_pot_the_tool_cannot_measure_is_not_printed(self):
        found = size(constant_life(8), 20, floor_g=81)
        self.assertIsNone(found.largest_g)
        self.assertEqual((found.limited_by, round(found.floor_g)), ("pot life, under what the tool can measure", 81))

    def test_of_the_least_the_tool_measures_what_is_spread_in_time_is_laid_and_the_rest_left(self):
        """A short fillet: 81 g is mixed, though not half of it is run in twenty minutes."""
        found = size(constant_life(90), 2, floor_g=81)
        self.assertEqual((found.largest_g, round(found.spread_g)), (81, 40))
        pot = next_batch(30, found, PotSteps(1))
        self.assertEqual((pot.mass_g, round(pot.laid_g)), (81, 30))
        self.assertAlmostEqual(pot.surplus_g, 81 - mixed_for_g(30))

    def test_a_learners_pot_is_smaller(self):
        job = panel("epoxy-2-1", "cloth-300", width_m=3, length_m=5)
        self.assertLessEqual(max(pot.mass_g for pot in plan(job, at(23, learner=True)).pots), 250)
        self.assertGreater(max(pot.mass_g for pot in plan(job, at(23)).pots), 250)

    @given(st.floats(8, 200), st.floats(5, 400), st.floats(0, 5))
    def test_the_largest_pot_uses_exactly_the_working_share(self, minutes, rate, contact_min):
        life = constant_life(minutes, contact_min)
        mass = largest_by_life_g(life, rate)
        assume(mass is not None and mass < 90_000)
        # A hundredth of a gram is as near as the root is sought.
        self.assertAlmostEqual(life.used_share(mass, rate), life.working_share(mass, rate), delta=1e-3)
        self.assertLessEqual(life.chance_lost(mass, rate), 0.0201)
        smaller = life.chance_lost(mass / 2, rate)
        self.assertLessEqual(smaller, life.chance_lost(mass, rate))

    def test_the_working_share_never_passes_eighty_per_cent(self):
        certain = PotLife(lambda mass_g, t: 1000, 20, 3, lambda mass_g: 0.0)
        self.assertEqual(certain.working_share(1, 1000), 0.80)

    def test_warmth_moves_the_share_as_well_as_the_life(self):
        steep = PotLife(lambda mass_g, t: 30 * exp(-0.2 * (t - 20)), 20, 3)
        self.assertLess(steep.working_share(500, 100), constant_life(30).working_share(500, 100))


def even_pots(laid_g: float, size: PotSize, step_g: float = 1) -> list[Batch]:
    """All the pots that lay so much."""
    pots, left = [], laid_g
    while left > 1e-9:
        pots.append(next_batch(left, size, PotSteps(step_g)))
        left -= pots[-1].laid_g
    return pots


class Splitting(TestCase):
    def work(self, grams: float, name: str = "ply", waits: str = "") -> Work:
        return Work(name, "p", name, grams, grams / 100, waits)

    def test_four_even_pots_not_three_and_a_dribble(self):
        pots = even_pots(3000, up_to(1000)(100))
        self.assertEqual((len(pots), len({pot.mass_g for pot in pots})), (4, 1))
        self.assertAlmostEqual(pots[0].mass_g, 3000 / 0.9 / 4, delta=10)

    def test_small_neighbours_share_a_pot_and_large_ones_do_not(self):
        works = [self.work(200, "wet-out"), self.work(300, "ply 1"), self.work(800, "ply 2")]
        self.assertEqual([work.label for work in works_for_one_pot(works, 0, up_to(1000))], ["wet-out", "ply 1"])
        self.assertEqual([work.label for work in works_for_one_pot(works, 2, up_to(1000))], ["ply 2"])

    def test_a_coat_that_waits_for_tack_is_never_in_the_pot_of_its_ply(self):
        works = [self.work(200, "ply"), self.work(100, "fill coat", "for tack")]
        self.assertEqual(len(works_for_one_pot(works, 0, up_to(1000))), 1)

    def test_under_the_floor_the_surplus_is_told(self):
        (pot,) = even_pots(20, up_to(1000, floor_g=81)(100))
        self.assertGreaterEqual(pot.mass_g, 81)
        self.assertAlmostEqual(pot.surplus_g, pot.mass_g - mixed_for_g(20))

    @given(st.floats(1, 20000), st.floats(60, 3000), st.sampled_from([0.1, 1.0, 5.0]))
    def test_all_work_is_covered_and_no_pot_is_too_large(self, grams, largest_g, step_g):
        pots = even_pots(grams, up_to(largest_g)(100), step_g)
        self.assertAlmostEqual(sum(pot.laid_g for pot in pots), grams, delta=1e-6)
        for pot in pots:
            self.assertLessEqual(pot.mass_g, largest_g + 1e-9)
            self.assertGreaterEqual(pot.mass_g - mixed_for_g(pot.laid_g), -1e-9)

    @given(st.floats(1, 3000), st.floats(1, 3000), st.sampled_from([0.1, 1.0]))
    def test_a_rounded_pot_can_be_read_off_the_tool(self, mass, largest, step):
        rounded = readable_g(mass, largest, PotSteps(step))
        self.assertAlmostEqual(rounded / step, round(rounded / step), 6)
        self.assertLessEqual(rounded, max(largest, mass) + 10)


class Rates(TestCase):
    def test_minutes_a_square_metre(self):
        """memory: 450 mat 6, 300 cloth 5, 600 stitched 8, 200 carbon 6; in proportion to weight between."""
        for name, minutes in (("csm-450", 6), ("cloth-300", 5), ("biax-600", 8), ("carbon-200", 6), ("csm-300", 4)):
            with self.subTest(fabric=name):
                self.assertAlmostEqual(spreading_min_per_m2(fabric(name)), minutes)

    def test_two_pairs_of_hands_spread_twice_as_fast(self):
        alone = plan(panel("epoxy-2-1", "cloth-300", width_m=2, length_m=4), at(23)).pots
        helped = plan(panel("epoxy-2-1", "cloth-300", width_m=2, length_m=4, pots={"hands": 2}), at(23)).pots
        self.assertLess(sum(pot.count for pot in helped), sum(pot.count for pot in alone))


class NotDownhand(TestCase):
    def test_a_wall_and_overhead_take_longer_and_lose_more_in_smaller_pots(self):
        """memory: half as long again and twice; a twentieth and three twentieths run off; pots of three quarters and half."""
        down = on(panel("epoxy-2-1", "biax-600", width_m=2, length_m=4), orientation="down")
        largest = max(pot.mass_g for pot in plan(down, at(20)).pots)
        for orientation, times, runs_off, pots_at, hands in (
            ("upright", 1.5, 0.05, 0.75, 1),
            # Two pairs of hands make up for the time it takes.
            ("overhead", 2.0, 0.15, 0.5, 2),
        ):
            with self.subTest(orientation=orientation):
                steep = on(down, orientation=orientation).model_copy(update={"pots": PotWishes(hands=hands)})
                answer = plan(steep, at(20))
                spread = [sum(work.spread_min for work in self.works(job)) for job in (down, steep)]
                self.assertAlmostEqual(spread[1] / spread[0], times / hands)
                laid = answer.resins[0].use.in_plies_g + answer.resins[0].use.mopped_off_g
                self.assertAlmostEqual(answer.resins[0].use.runs_off_g / laid, runs_off)
                self.assertEqual({work.pots_at for work in self.works(steep)}, {pots_at})
                self.assertLess(max(pot.mass_g for pot in answer.pots) / largest, pots_at + 0.1)
                (said,) = (caution.message for caution in answer.cautions if caution.id == "conditions.steep")
                self.assertIn(
                    f"{100 - 100 * pots_at:.0f} % smaller, {100 * runs_off:.0f} % of the resin runs off", said
                )

    def test_the_first_wet_out_of_a_wall_goes_by_the_wall_as_well(self):
        """memory: half as long again, and a twentieth more mixed than stays."""
        down = on(panel("epoxy-2-1", "cloth-300", width_m=2, length_m=4), substrate="bare plywood")
        flat, wall = (self.works(on(down, orientation=way))[0] for way in ("down", "upright"))
        self.assertEqual((flat.label, wall.label), ("wet out the surface",) * 2)
        self.assertAlmostEqual(wall.spread_min / flat.spread_min, 1.5)
        self.assertAlmostEqual(wall.laid_g / flat.laid_g, 1.05)

    def works(self, job):
        return settled(job, at(20)).draft.owners[0].works


class Vessels(TestCase):
    def test_the_next_cup_by_what_it_holds_and_never_a_tray(self):
        sizes = (("tray", 900), ("pail", 5000), ("cup", 1000), ("cup", 600), ("cup", 590))
        held = tuple(
            generic().vessels[0].model_copy(update={"id": f"{form}-{ml}", "form": form, "holds_ml": ml})
            for form, ml in sizes
        )
        shop = ShopFacts(vessels=held)
        # From a fifth more on it is worth a change.
        for cup_ml, wanted in (
            (450, "cup-590"),
            (495, "cup-600"),
            (505, "cup-1000"),
            (700, "cup-1000"),
            (900, "pail-5000"),
        ):
            with self.subTest(cup_ml=cup_ml):
                self.assertEqual(larger_vessel(shop, cup_ml).id, wanted)
        self.assertIsNone(larger_vessel(shop, 4200))
        # Wished for, it is what is mixed in.
        pail = held[1]
        wished = cup_wishes(pail)
        self.assertEqual(wished, {"cup_ml": 5000, "cup_mm": pail.width_mm, "cup_g": pail.weighs_g})
        self.assertEqual(PotWishes(**wished).cup_ml, 5000)

    def test_the_width_in_hand_is_that_of_the_cup_that_is_mixed_in(self):
        facts = ShopFacts(cup_ml=500, cup_mm=88)
        for pots, wanted in (
            ({}, 88),
            ({"cup_ml": 1000}, usual_width_mm(1000)),
            ({"cup_ml": 1000, "cup_mm": 140}, 140),
        ):
            with self.subTest(pots=pots):
                self.assertEqual(
                    settled(panel("epoxy-2-1", "cloth-300", pots=pots), facts).mixes["resin"].cup_width_mm, wanted
                )
