"""A pot that is listened to: its sums against SciPy's, what it says of pots that are not quite as the model has them.

Of `layup.heat.listening`, `layup.bench.heard`.
"""

from dataclasses import replace
from unittest import TestCase

import numpy as np
from scipy.stats import multivariate_normal

from benchmarks.listening import PREPARE_MIN, listened, strayed
from layup.bench.heard import heard_of
from layup.bench.issue import as_heard
from layup.bench.state import fold
from layup.heat.conduction import cup
from layup.heat.heat_fit import StatedPot, fitted_cure
from layup.heat.listening import SIGMA_LIFE, Listening
from layup.heat.lumped_heat import cooling_per_s, lumped_gel_min, warmed
from tests.core.bench_days import JOBS, card_of, mixed, tap

TWENTY = fitted_cure(StatedPot(20, 25, 100))
LIFE_MIN = 28.0


def a_pot() -> Listening:
    return Listening(TWENTY, cup(300), 20.0, LIFE_MIN)


class Sums(TestCase):
    def test_what_is_summed_over_is_what_scipy_makes_of_the_whole(self):
        """A bias and a gain with normal priors are a normal of all readings at once: its density is SciPy's."""
        pot = a_pot()
        read = [(3.0, 21.5), (6.0, 24.0), (9.0, 29.0)]
        for minute, surface_c in read:
            pot.hear(minute, surface_c)
        told = pot._log_likelihood()
        minutes, surface = np.array(read).T
        noise = 1.0 + (0.2 * (surface - surface[0])) ** 2
        exact = []
        for pace in range(len(told)):
            over = np.interp(minutes, pot._minutes[:, pace], pot._over[:, pace])
            u = over - pot._over[0, pace]
            spread = np.diag(noise) + 1.0**2 * np.ones((3, 3)) + 0.15**2 * np.outer(u, u)
            exact.append(multivariate_normal.logpdf(surface - 20.0 - over, cov=spread))
        # But for what is alike for all.
        np.testing.assert_allclose(told - told[0], np.array(exact) - exact[0], atol=1e-6)

    def test_a_pot_that_starts_at_its_room_warms_as_the_lumped_model_has_it(self):
        cooling, faster = cooling_per_s(cup(300)), np.array([1.0, 1.4])
        minutes, over = warmed(TWENTY, cooling, 20.0, np.zeros(2), faster)
        np.testing.assert_allclose(minutes[-1], lumped_gel_min(TWENTY, np.full(2, cooling), 20.0, faster), rtol=1e-9)
        self.assertTrue((np.diff(over, axis=0) > 0).all())
        # Without heat it goes back to its room by Newton's law of cooling.
        starts = np.array([-5.0, 5.0])
        minutes, cold = warmed(replace(TWENTY, heat_j_per_g=0.0), cooling, 20.0, starts, np.ones(2))
        np.testing.assert_allclose(cold, starts * np.exp(-cooling * 60 * minutes), atol=1e-9)


class Told(TestCase):
    def test_before_anything_is_read_the_label_stands(self):
        pot = a_pot()
        heard, believed = pot.heard(0.0), pot._weights(0.0)
        # What the label says at the room's temperature is likeliest, and what is as far off either way is as likely.
        self.assertEqual(int(believed.argmax()), len(believed) // 2)
        np.testing.assert_allclose(believed, believed[::-1])
        self.assertAlmostEqual(heard.gels_min, LIFE_MIN, delta=0.5)
        self.assertAlmostEqual(np.log(heard.life_high / heard.life), 1.645 * SIGMA_LIFE, delta=0.03)
        self.assertEqual((heard.fast, a_pot().level(0.0)), (False, ""))

    def test_a_pot_that_outlives_all_that_was_thought_of_is_never_told_to_have_gelled(self):
        pot = a_pot()
        pot.hear(1, 20.0)
        late = pot.heard(3 * LIFE_MIN)
        self.assertGreater(late.gels_high_min, 1.5 * LIFE_MIN)
        self.assertAlmostEqual(late.life, pot._lives.max())
        self.assertTrue(np.isfinite([late.gels_low_min, late.gels_min, late.gels_high_min]).all())

    def test_a_mix_that_warms_early_is_fast_and_one_that_stays_cool_is_not(self):
        warm, cool = a_pot(), a_pot()
        for minute in range(1, 12):
            warm.hear(minute, 20 + 0.15 * minute**2)
            cool.hear(minute, 20.2)
        self.assertTrue(warm.heard(11).fast and not cool.heard(11).fast)
        self.assertLess(warm.heard(11).gels_high_min, cool.heard(11).gels_min)
        self.assertEqual(warm.level(11), "out now")

    def test_pots_unlike_the_model_are_told_better_than_by_their_label(self):
        """Sixteen pots of another kinetics, mass, draught and thermometer, through the full equation of heat."""
        rng = np.random.default_rng(5)
        pots = [listened(strayed(rng)) for _ in range(16)]
        label = np.mean([abs(pot.label_off) for pot in pots])
        for share, most in ((0.5, 0.75), (0.7, 0.5), (0.9, 0.35)):
            self.assertLess(np.mean([abs(pot.off[share]) for pot in pots]), most * label)
        held = [pot.held[share] for pot in pots for share in (0.3, 0.5, 0.7)]
        self.assertGreater(np.mean(held), 0.8)
        self.assertTrue(all(pot.prepare_min >= PREPARE_MIN for pot in pots))


class Together(TestCase):
    def test_readings_before_a_gap_are_not_lost(self):
        whole, alone = a_pot(), a_pot()
        for minute in (1.0, 2.0, 2.1, 2.2, 5.0):
            whole.hear(minute, 20 + minute)
        self.assertEqual(len(whole._means), 4)
        alone.hear(2.15, 22.15)
        np.testing.assert_allclose(whole._means[2], alone._means[0])


class AtTheBench(TestCase):
    def heard(self, *readings: tuple[float, float]):
        card = card_of("panel")
        told = mixed(1, 10, *(pour.amount for pour in card.pots[0].pours))
        told += [tap(10 + minute, "surface", temperature_c=surface_c) for minute, surface_c in readings]
        now = 10 + max(minute for minute, _ in readings)
        return heard_of(JOBS["panel"], fold(card, told, now), told, now)

    def test_a_pot_is_heard_by_its_readings(self):
        card = card_of("panel").pots[0]
        (plain,) = self.heard((2.0, card.room_c))
        self.assertEqual((plain.readings, plain.believed, plain.fast), (1, 1, False))
        self.assertTrue(plain.gels_low_min < 10 + card.life_min < plain.gels_high_min)
        rising = [(float(minute), card.room_c + 0.3 * minute**2) for minute in range(1, 9)]
        (fast,) = self.heard(*rising)
        self.assertTrue(fast.fast and fast.life_high < 1)
        # The sooner of label and surface: a fast mix shortens its time by its share, a cool one is given no more.
        share = (fast.gels_min - 10) / card.life_min
        self.assertAlmostEqual(fast.use_by_min, 10 + share * card.use_by_min, delta=0.3)
        self.assertEqual(fast.from_min, fast.gels_low_min)
        (slow,) = self.heard(*((float(minute), card.room_c - 1) for minute in range(1, 12)))
        self.assertGreater(slow.life, 1)
        self.assertAlmostEqual(slow.use_by_min, 10 + card.use_by_min, delta=0.3)
        self.assertLess(fast.gels_min, plain.gels_min)

    def test_what_is_left_is_planned_as_fast_as_the_tin_was_heard_to_be(self):
        job, card = JOBS["panel"], card_of("panel")
        (fast,) = self.heard(*((float(minute), card.pots[0].room_c + 0.3 * minute**2) for minute in range(1, 9)))
        planned = as_heard(job, card, [fast])
        chosen = card.pots[0].hardener_id
        for resin, before in zip(planned.materials.resins, job.materials.resins, strict=True):
            for hardener, was in zip(resin.hardeners, before.hardeners, strict=True):
                life = fast.life if hardener.id == chosen else 1.0
                self.assertAlmostEqual(hardener.pot_life_min, life * was.pot_life_min)
                for time, told in zip(hardener.stated_times, was.stated_times, strict=True):
                    self.assertAlmostEqual(time.minutes, life * told.minutes)
        (nominal,) = self.heard((2.0, card.pots[0].room_c))
        self.assertIs(as_heard(job, card, [nominal]), job)

    def test_an_ended_pot_is_heard_until_it_ended(self):
        card = card_of("panel")
        room_c = card.pots[0].room_c
        told = mixed(1, 10, *(pour.amount for pour in card.pots[0].pours))
        told += [tap(10.0 + minute, "surface", temperature_c=room_c + 0.5 * minute) for minute in range(1, 12)]
        told += [tap(16, "dumped"), tap(30, "surface", temperature_c=90, tap_id="late")]
        state = fold(card, told, 40)
        self.assertEqual(heard_of(JOBS["panel"], state, told, 40), (), "it is not live")
        (heard,) = heard_of(JOBS["panel"], state, told, 40, pots=state.pots[:1])
        self.assertEqual((heard.readings, heard.read_min, heard.touched_min), (6, 16, 10))
        self.assertEqual([read.at_min for read in heard.surface], [10.0 + minute for minute in range(1, 7)])
        (before,) = heard_of(JOBS["panel"], fold(card, told[:9], 16), told[:9], 16)
        self.assertEqual((heard.gels_min, heard.expected), (before.gels_min, before.expected))
        low, middle, high = (
            [getattr(each, name) for each in heard.expected] for name in ("low_c", "middle_c", "high_c")
        )
        self.assertTrue(all(a <= b <= c for a, b, c in zip(low, middle, high, strict=True)))
        self.assertEqual(middle, sorted(middle), "it warms until it gels")

    def test_what_is_read_off_the_floor_is_left_out(self):
        room_c = card_of("panel").pots[0].room_c
        good = [(2.0, room_c + 1), (4.0, room_c + 2)]
        (with_floor,) = self.heard(*good, (5.0, room_c - 9))
        (without,) = self.heard(*good)
        self.assertEqual((with_floor.readings, with_floor.believed), (3, 2))
        self.assertAlmostEqual(with_floor.life, without.life)

    def test_of_what_keeps_cool_or_stands_elsewhere_nothing_is_heard(self):
        lid, tray = card_of("lid"), card_of("tray")
        told = [*mixed(1, 0, *(pour.amount for pour in lid.pots[0].pours)), tap(5, "surface", temperature_c=24)]
        self.assertEqual(heard_of(JOBS["lid"], fold(lid, told, 6), told, 6), ())
        told = [*mixed(1, 0, *(pour.amount for pour in tray.pots[0].pours)), tap(3, "moved", to="tray")]
        told.append(tap(5, "surface", temperature_c=24))
        self.assertEqual(heard_of(JOBS["tray"], fold(tray, told, 6), told, 6), ())
