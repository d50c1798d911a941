"""Numbers as they are shown in each unit set, and words that follow the set."""

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from layup.plan import plan
from layup.scales import METRIC, QUANTITIES, Scales
from layup.units import parse
from tests.core.jobs import at, panel

US = Scales("US")


class Shown(TestCase):
    def test_known_conversions(self):
        """published: NIST SP 811."""
        for quantity, value, wanted in (
            ("mass", 28.349523, "1 oz"),
            ("mass", 2267.96, "5 lb"),
            ("volume", 29.5735, "1 fl oz"),
            ("area", 9.290304, "100 ft²"),
            ("length", 3.048, "10 ft"),
            ("thickness", 25.4, "1 in"),
            ("areal_weight", 203.43, "6 oz/yd²"),
            ("laminate_weight", 4882.43, "1 lb/ft²"),
            ("section", 645.16, "1 in²"),
            ("temperature", 25, "77 °F"),
            ("temperature_difference", 3, "5.4 °F"),
        ):
            with self.subTest(quantity=quantity, value=value):
                self.assertEqual(US.words(quantity, value), wanted)

    def test_an_imperial_shop_has_its_own_fluid_ounce(self):
        self.assertEqual(Scales("US", "imperial").words("volume", 28.4131), "1 imp fl oz")

    def test_a_shop_that_weighs_fabric_in_ounces_reads_it_so_in_metric(self):
        self.assertEqual(Scales("metric", "us", "oz").words("areal_weight", 339.06), "10 oz/yd²")

    @given(st.sampled_from(QUANTITIES), st.floats(0, 50_000))
    def test_rungs_climb_and_shown_numbers_never_fall(self, quantity, value):
        for scales in (METRIC, US):
            rungs = scales.table()[quantity]
            self.assertEqual([rung.from_value for rung in rungs], sorted(rung.from_value for rung in rungs))
            self.assertEqual(rungs[0].from_value, 0)
            for rung in rungs:
                self.assertLess(rung.factor * value, rung.factor * (value + 1))

    @given(st.floats(10, 5000))
    def test_a_shown_mass_is_read_back_as_itself(self, grams):
        for scales in (METRIC, US):
            shown = scales.mass(grams)
            self.assertAlmostEqual(parse(shown, "mass", customs=scales.customs).value / grams, 1, delta=0.02)


class InWords(TestCase):
    def test_every_sentence_of_a_plan_is_in_the_set_asked_for(self):
        job = panel("epoxy-2-1", "csm-450", "cloth-300", in_use={"resin_id": "epoxy-2-1", "tin_ratio": "100:45"})
        answer = plan(job, at(9, surface_c=5, units="US"))
        words = [caution.message for caution in answer.cautions] + [step.headline for step in answer.steps]
        words += [answer.resins[0].chemistry.sentence, answer.resins[0].chemistry.reason, answer.parts[0].area_working]
        words += [row.reason for row in answer.resins[0].chemistry.hardeners]
        for sentence in words:
            with self.subTest(sentence=sentence):
                self.assertNotRegex(sentence, r"\d (°C|g|kg|mm|m|m²|ml)\b")
        self.assertTrue(any("°F" in sentence for sentence in words))

    def test_the_figures_are_the_same_in_either_set(self):
        job = panel("epoxy-2-1", "cloth-300")
        metric, us = plan(job, at(20)), plan(job, at(20, units="US"))
        self.assertEqual([pot.mass_g for pot in metric.pots], [pot.mass_g for pot in us.pots])
        self.assertEqual(metric.steps[0].headline, "1 part · 2 m²")
        self.assertEqual(us.steps[0].headline, "1 part · 21.5 ft²")
