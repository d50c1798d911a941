"""Gel times fitted to a label: against a reference, by properties, and in a plan.

Of `layup.chemistry.ends`, `layup.chemistry.label`.
"""

from math import exp, log
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from layup.chemistry.gel import catalysed_gel_min, catalyst_pct_for_gel, pot_life_min, temperature_for_gel_c
from layup.chemistry.gel_fit import GelPoint, GelPrior, doubt_about, fit_gel
from layup.chemistry.gel_law import GAS_CONSTANT_J_PER_MOL_K
from layup.chemistry.label import catalyst_label, hardener_label
from layup.errors import OutOfRange
from layup.materials import StatedTime
from layup.plan import plan
from tests.core.jobs import at, panel, resin

FLAT = GelPrior(gel_sd=1e6, ea_sd=1e6, n_sd=1e6)
POINT = st.builds(GelPoint, st.floats(5, 40), st.floats(2, 200), st.floats(0.5, 3))
SLOW = resin("epoxy-2-1").hardeners[2]
CATALYST = resin("polyester-general").catalyst


def on_a_line(*places: tuple[float, float], ea=60.0, n=0.9) -> list[GelPoint]:
    warmth = 1000 / GAS_CONSTANT_J_PER_MOL_K
    return [GelPoint(t, 25 * exp(ea * warmth * (1 / (t + 273.15) - 1 / 293.15)) * c**-n, c) for t, c in places]


def times(*rows: tuple[float, float], ends="pot life in the cup", **more) -> tuple[StatedTime, ...]:
    return tuple(StatedTime(ends=ends, temperature_c=t, minutes=m, **more) for t, m in rows)


class AgainstAReference(TestCase):
    def test_with_a_flat_prior_it_is_weighted_least_squares(self):
        """Outside truth: numpy's lstsq on the same points, at the weights the fit came to."""
        points = [GelPoint(15, 48, 1.0), GelPoint(20, 31, 1.2), GelPoint(25, 20, 1.0), GelPoint(30, 9, 2.0)]
        fit = fit_gel([*points, GelPoint(18, 55, 0.8)], FLAT)
        rows = np.array(
            [
                [
                    1,
                    1000 / GAS_CONSTANT_J_PER_MOL_K * (1 / (p.temperature_c + 273.15) - 1 / 293.15),
                    -log(p.catalyst_pct),
                ]
                for p in fit.points
            ]
        )
        root = np.sqrt(fit.weights)
        wanted = np.linalg.lstsq(root[:, None] * rows, root * np.log([p.minutes for p in fit.points]), rcond=None)[0]
        np.testing.assert_allclose(fit.mean[:3], wanted, rtol=1e-5)

    def test_points_on_a_line_give_the_line_back(self):
        fit = fit_gel(on_a_line((10, 1), (15, 1.5), (20, 2), (25, 1), (30, 2), (35, 1.2)), FLAT)
        self.assertAlmostEqual(fit.ea_kj_per_mol, 60, 3)
        self.assertAlmostEqual(fit.n, 0.9, 4)
        self.assertAlmostEqual(fit.gel_min(20, 1, shop=False), 25, 3)

    def test_without_points_it_is_the_prior(self):
        """common practice, no source: 1 % at 20 °C gels in about 30 min; twice the catalyst halves it."""
        fit = fit_gel([])
        self.assertAlmostEqual(fit.gel_min(20, 1), 30)
        self.assertAlmostEqual(fit.gel_min(20, 2), 15)


class Properties(TestCase):
    @given(st.lists(POINT, max_size=8), st.floats(5, 38), st.floats(0.5, 2.8))
    def test_more_heat_and_more_catalyst_never_lengthen_a_gel(self, points, temperature_c, pct):
        fit = fit_gel(points)
        here = fit.gel_min(temperature_c, pct)
        self.assertTrue(here > 0 and np.isfinite(here))
        self.assertLess(fit.gel_min(temperature_c + 1, pct), here)
        self.assertLess(fit.gel_min(temperature_c, pct + 0.1), here)

    @given(st.lists(st.tuples(st.floats(8, 35), st.floats(0.6, 2.5)), max_size=6), st.floats(5, 40))
    def test_a_wider_prior_never_narrows_the_band_of_a_sound_label(self, places, temperature_c):
        points = on_a_line(*places, ea=51.2, n=1.0)
        wide = fit_gel(points, GelPrior(gel_min=25, gel_sd=1, ea_sd=16, n_sd=0.3, shop_sd=0.3))
        narrow = fit_gel(points, GelPrior(gel_min=25))
        self.assertGreaterEqual(wide.ln_gel(temperature_c, 1)[1], narrow.ln_gel(temperature_c, 1)[1] - 1e-9)

    @given(st.floats(0.01, 100), st.floats(10, 32))
    def test_one_wild_point_does_not_own_the_answer(self, wild, temperature_c):
        sound = on_a_line((12, 1), (18, 1), (22, 1), (27, 1), (30, 1), ea=51.2, n=1)
        clean = fit_gel(sound).gel_min(20, 1)
        moved = fit_gel([*sound, GelPoint(temperature_c, 25 * wild, 1.0)]).gel_min(20, 1)
        self.assertLess(abs(log(moved / clean)), 0.25)

    def test_times_all_at_one_temperature_do_not_blow_up(self):
        fit = fit_gel([GelPoint(20, minutes, 1.0) for minutes in (28, 30, 32, 30)])
        self.assertAlmostEqual(fit.gel_min(20, 1), 30, delta=1)
        self.assertGreater(fit.ln_gel(35, 1)[1], fit.ln_gel(20, 1)[1])

    def test_the_shops_own_gels_move_an_offset_and_not_the_label(self):
        label = on_a_line((15, 1), (20, 1), (25, 1), ea=51.2, n=1)
        shop = [GelPoint(p.temperature_c, 0.85 * p.minutes, 1.0, shop=True) for p in label * 4]
        fit = fit_gel([*label, *shop])
        self.assertAlmostEqual(fit.shop_offset, log(0.85), delta=0.05)
        self.assertLess(fit.gel_min(20, 1), fit.gel_min(20, 1, shop=False))

    def test_a_gel_that_was_heard_weighs_as_little_as_it_is_unsure(self):
        label = on_a_line((15, 1), (20, 1), (25, 1), ea=51.2, n=1)

        def moved(spread: float) -> float:
            return fit_gel([*label, GelPoint(20, 18, 1.0, shop=True, spread=spread)]).shop_offset

        self.assertLess(moved(0.0), moved(0.15))
        self.assertLess(moved(0.15), moved(0.5))
        self.assertAlmostEqual(moved(50.0), 0, delta=0.001)
        # Of one point of nought spread and one of some, the first is weighed as four of twice its noise would be (Gaussian).
        flat = [GelPoint(20, 30, 1.0, spread=0.10 * 3**0.5)] * 4
        self.assertAlmostEqual(
            fit_gel([*flat, GelPoint(20, 33, 1.0)], FLAT).gel_min(20, 1, shop=False), (30 * 33) ** 0.5, delta=0.05
        )


class Doubts(TestCase):
    def test_a_far_point_is_flagged_kept_and_the_shorter_planned_with(self):
        label = hardener_label(SLOW.model_copy(update={"stated_times": times((15, 52), (20, 36), (30, 78))}))
        self.assertEqual([odd.place for odd in label.fit.far_off], [3])
        self.assertRegex(label.doubts[0], r"^78 min at 30 °C, where about 1\d is expected: is it so\? It is far from")
        self.assertEqual(len(label.fit.points), 4)
        self.assertLess(label.gel_min(100, 30), 26)

    def test_whatever_a_product_may_state_a_plan_can_read(self):
        for temperature_c, minutes in ((-20, 0.05), (200, 20_000), (20, 0.05)):
            label = hardener_label(SLOW.model_copy(update={"stated_times": times((temperature_c, minutes))}))
            self.assertTrue(0 < label.gel_min(100, 20) < 1e6)
        for beyond in ({"minutes": 1e9}, {"temperature_c": -1e300}, {"minutes": 1e-300}):
            with self.assertRaises(ValidationError):
                StatedTime.model_validate({"ends": "gel", "minutes": 20, "temperature_c": 20} | beyond)

    def test_slips_are_asked_about(self):
        fit = fit_gel([])
        self.assertIn("hours?", doubt_about(GelPoint(20, 0.45, 1.0), fit))
        self.assertIn("seconds?", doubt_about(GelPoint(20, 1800, 1.0), fit))
        self.assertIn("a fraction, 1 %?", doubt_about(GelPoint(20, 30, 0.01), fit))
        half = doubt_about(GelPoint(20, 0.5, 1.0), fit)
        self.assertIn("0.5 min at 20 °C, where about 30 is expected: half an hour?", half)

    def test_a_time_that_ends_before_the_gel_is_told_as_it_was_typed(self):
        """exact: 300 min to where a pot can no longer be worked is 500 to its gel; what is told is the 300."""
        fit = fit_gel([])
        worked = doubt_about(GelPoint(20, 500, 1.0, share_of_gel=0.6), fit)
        self.assertTrue(worked.startswith("300 min at 20 °C, where about 18 is expected"), worked)

    def test_what_cannot_be_is_refused_at_its_field(self):
        for point, field in (
            (GelPoint(20, 0, 1.0), "0.minutes"),
            (GelPoint(20, -5, 1.0), "0.minutes"),
            (GelPoint(20, 30, 0), "0.catalyst_pct"),
            (GelPoint(500, 30, 1.0), "0.temperature_c"),
        ):
            with self.subTest(point=point), self.assertRaises(OutOfRange) as refused:
                fit_gel([point])
            self.assertEqual(refused.exception.path, field)


class Labels(TestCase):
    def test_a_heavier_stated_pot_is_carried_to_the_stated_mass(self):
        """memory: a tenth shorter each doubling, beside the heat model."""
        light = hardener_label(SLOW.model_copy(update={"stated_times": times((25, 26), mass_g=100)}))
        heavy = hardener_label(SLOW.model_copy(update={"stated_times": times((25, 0.81 * 0.904 * 26), mass_g=400)}))
        self.assertAlmostEqual(light.gel_min(100, 25) / heavy.gel_min(100, 25), 1, delta=0.02)

    def test_a_dose_and_a_temperature_are_solved_on_the_fitted_line(self):
        label = times((15, 40), (25, 19), (30, 14), ends="gel", catalyst_pct=1.0)
        catalyst = CATALYST.model_copy(update={"stated_times": label})
        pct = catalyst_pct_for_gel(catalyst, 18, 25)
        self.assertAlmostEqual(catalysed_gel_min(catalyst, 18, pct), 25, 6)
        self.assertAlmostEqual(catalysed_gel_min(catalyst, temperature_for_gel_c(catalyst, 1.5, 20), 1.5), 20, 6)

    def test_a_table_bends_the_plan_and_narrows_its_band(self):
        job = panel("epoxy-2-1", "cloth-300", in_use={"resin_id": "epoxy-2-1", "hardener_id": SLOW.id})
        table = times((15, 40), (20, 28), (25, 20), (30, 14))
        typed = tuple(
            each.model_copy(update={"stated_times": table}) if each.id == SLOW.id else each
            for each in job.materials.resins[0].hardeners
        )
        held = job.materials.model_copy(
            update={"resins": (job.materials.resins[0].model_copy(update={"hardeners": typed}),)}
        )
        before, after = plan(job, at(22)), plan(job.model_copy(update={"materials": held}), at(22))
        self.assertLess(after.resins[0].chemistry.life_min, before.resins[0].chemistry.life_min)
        chosen = next(line for line in after.resins[0].chemistry.chart.lines if line.chosen)
        self.assertTrue(
            all(low < m < high for low, m, high in zip(chosen.low_min, chosen.minutes, chosen.high_min, strict=True))
        )
        self.assertEqual(len(after.resins[0].chemistry.chart.points), 5)
        slow = next(each for each in typed if each.id == SLOW.id)
        self.assertLess(hardener_label(slow).sigma(22, 100), hardener_label(SLOW).sigma(22, 100))
        self.assertLess(pot_life_min(slow, 22, 100), pot_life_min(SLOW, 22, 100))
        self.assertEqual(catalyst_label(CATALYST).doubts, ())
