"""What a log has taught: its bands against sums by hand, and what one record more does to them.

Of `layup.taught`, `layup.joints.filler_log`, `layup.infusion.shots`.
"""

from math import exp, log, sqrt
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from layup.chemistry.label import catalyst_label, hardener_label
from layup.infusion.shots import taught_bed
from layup.joints.filler_log import SIGMA_POT, SIGMA_POWDER, SIGMA_WORD, taught_filler
from layup.shop_facts import LoggedGel, LoggedShot, StirredFiller
from layup.taught import stated_pot_of, taught_gel
from tests.core.jobs import filler, resin

EPOXY, POLYESTER, FLOUR = resin("epoxy-2-1"), resin("polyester-general"), filler("wood-flour")
SLOW = EPOXY.hardeners[-1]


def gel(minutes: float, **of) -> LoggedGel:
    told = {"resin_id": EPOXY.id, "hardener_id": SLOW.id, "temperature_c": 25, "mass_g": 100}
    return LoggedGel.model_validate(told | {"minutes": minutes} | of)


class Gels(TestCase):
    def test_without_a_log_it_is_the_label_alone(self):
        found = taught_gel(EPOXY, SLOW.id, [])
        label, pot = hardener_label(SLOW), stated_pot_of(EPOXY, SLOW.id)
        self.assertEqual((pot.mass_g, pot.temperature_c), (SLOW.pot_life_mass_g, SLOW.pot_life_temperature_c))
        self.assertEqual(
            (found.count, found.told, found.now), (0, found.now, label.gel_min(pot.mass_g, pot.temperature_c))
        )
        # A deviation of 0.15 in ln t where one time is all that is known (memory): nine in ten within 1.645 of them.
        self.assertAlmostEqual(found.most, found.now * exp(1.645 * 0.15), 6)
        self.assertAlmostEqual(found.least, found.now / exp(1.645 * 0.15), 6)

    def test_a_catalysed_resin_is_told_of_its_stated_dose(self):
        catalyst = POLYESTER.catalyst
        found = taught_gel(POLYESTER, "", [])
        self.assertAlmostEqual(
            found.told, catalyst_label(catalyst).laws[0].gel_min(catalyst.stated_temperature_c, catalyst.stated_pct), 9
        )
        self.assertEqual(stated_pot_of(POLYESTER, "").catalyst_pct, catalyst.stated_pct)

    @given(st.integers(1, 8), st.floats(0.85, 1.15))
    def test_more_of_the_same_draws_nearer_and_is_surer(self, count, times):
        told = taught_gel(EPOXY, SLOW.id, []).told
        fewer, more = (taught_gel(EPOXY, SLOW.id, [gel(told * times)] * many) for many in (count, count + 4))
        self.assertEqual(more.count, count + 4)
        self.assertLessEqual(abs(log(more.now / (told * times))), abs(log(fewer.now / (told * times))) + 1e-9)
        self.assertLess(more.most / more.least, fewer.most / fewer.least)

    def test_gels_of_another_hardener_say_nothing_of_this(self):
        other = gel(3, hardener_id=EPOXY.hardeners[0].id)
        self.assertEqual(taught_gel(EPOXY, SLOW.id, [other]), taught_gel(EPOXY, SLOW.id, []))


class Fillers(TestCase):
    def test_the_band_of_three_pots_by_hand(self):
        pots = [StirredFiller(filler_id=FLOUR.id, consistency="stands", parts=1.6)] * 3
        found = taught_filler(FLOUR, "stands", pots)
        before = SIGMA_POWDER**2 + SIGMA_WORD**2
        deviation = sqrt(1 / (1 / before + 3 / SIGMA_POT**2))
        self.assertAlmostEqual(found.most / found.now, exp(1.645 * deviation), 9)
        self.assertAlmostEqual(found.now / found.least, exp(1.645 * deviation), 9)
        # The mean of a known prior and three seen: weights by their precisions.
        weight = before / (before + SIGMA_POT**2 / 3)
        self.assertAlmostEqual(log(found.now / found.told), weight * log(1.6 / found.told), 9)

    def test_pots_of_another_word_move_it_and_are_not_counted(self):
        pots = [StirredFiller(filler_id=FLOUR.id, consistency="peaks", parts=2 * FLOUR.parts("peaks"))]
        found = taught_filler(FLOUR, "stands", pots)
        self.assertEqual(found.count, 0)
        self.assertGreater(found.now, found.told)


class Beds(TestCase):
    def test_shots_under_another_pull_are_of_another_bed(self):
        shots = [
            LoggedShot(bed="biaxial", pull_mbar=pull, times=times) for pull, times in ((900, 0.5), (950, 2), (400, 3))
        ]
        found = taught_bed("biaxial", 920, shots)
        self.assertEqual((found.count, found.told, found.now, found.least, found.most), (2, 1, 1, 0.5, 2))
        self.assertIsNone(taught_bed("biaxial", 600, shots))
        self.assertIsNone(taught_bed("woven", 900, shots))
