"""The core against figures from outside the project. Each check names its kind of source."""

import random
from math import exp, log, pi, sqrt
from unittest import TestCase

import pint
from hypothesis import given
from hypothesis import strategies as st
from shapely import Polygon

from layup.chemistry.catalyst import choose_dose, dose_ml
from layup.chemistry.gel import catalysed_gel_min, pot_life_min, stated_pot_life_at_min
from layup.chemistry.gel_law import activation_energy_from_halving
from layup.chemistry.ratio import parse_dose, parse_ratio, weight_ratio
from layup.heat.pot_heat import full_heat, stated_pot
from layup.joints.volumes import fillet_section_mm2
from layup.laminate.weights import fibre_weight_fraction, resin_areal_weight_gsm, thickness_mm
from layup.marks import GRAMS, Marks
from layup.pots.sizing import PotLife, catalysed_floor_g, largest_by_life_g, two_part_floor_g
from layup.pots.ticket import two_part_by_volume, two_part_by_weight
from layup.units import convert, parse
from tests.core.jobs import fabric, resin


class Published(TestCase):
    def test_laminate_thickness_of_iso_12215_5(self):
        """published: ISO 12215-5, t = w/3.072 · (2.56/ψ − 1.36), E-glass in polyester."""
        for weight, psi, wanted in ((450, 0.30, 1.0508), (600, 0.50, 0.7344), (800, 0.48, 1.0347)):
            with self.subTest(weight=weight):
                got = thickness_mm(weight, resin_areal_weight_gsm(weight, psi), 2.56, 1.20)
                self.assertAlmostEqual(got, wanted, delta=1e-4)

    @given(st.floats(15, 2500), st.floats(0.1, 0.8))
    def test_two_term_thickness_equals_the_standards_form(self, weight, psi):
        """published: ISO 12215-5, over the whole range."""
        standard = weight / 1000 / 3.072 * (2.56 / psi - 1.36)
        ours = thickness_mm(weight, resin_areal_weight_gsm(weight, psi), 2.56, 1.20)
        self.assertAlmostEqual(ours / standard, 1, delta=1e-3)

    def test_glass_content_by_hand(self):
        """published: ISO 12215-5 table of glass content by mass (from memory)."""
        for name, simple, complex_ in (
            ("csm-450", 0.30, 0.25),
            ("roving-600", 0.48, 0.36),
            ("biax-600", 0.50, 0.38),
            ("uni-300", 0.55, 0.41),
            ("combi-805", 0.46 - 0.18 * 0.28, 0.35 - 0.11 * 0.28),
        ):
            with self.subTest(fabric=name):
                self.assertAlmostEqual(fibre_weight_fraction(fabric(name), "simple", "as the table").value, simple, 3)
                self.assertAlmostEqual(
                    fibre_weight_fraction(fabric(name), "complex", "as the table").value, complex_, 3
                )

    def test_areal_and_fluid_ounces(self):
        """published: the conversions of NIST SP 811 and the Imperial gallon of 4.54609 l."""
        for value, unit, core, wanted in (
            (1, "oz/ft²", "g/m²", 305.15),
            (1, "oz/yd²", "g/m²", 33.906),
            (1, "US fl oz", "ml", 29.5735),
            (1, "Imperial fl oz", "ml", 28.4131),
            (1, "US qt", "ml", 946.353),
            (1, "Imperial gal", "ml", 4546.09),
            (1, "oz", "g", 28.3495),
        ):
            with self.subTest(unit=unit):
                self.assertAlmostEqual(convert(value, unit, core) / wanted, 1, delta=2e-5)

    @given(st.floats(0.01, 1e4), st.sampled_from(["in", "ft", "mm", "cm"]))
    def test_typed_lengths_agree_with_pint(self, value, unit):
        """published: Pint's own registry, by another route than ours."""
        wanted = pint.get_application_registry().parse_expression(f"{value:.6f} {unit}").to("m").magnitude
        self.assertAlmostEqual(parse(f"{value:.6f} {unit}", "length").value / wanted, 1, delta=1e-9)

    def test_fillet_section_against_polygons(self):
        """published: Shapely's polygon area, 2000 points on the arc."""
        for theta in (40, 60, 90, 120, 150, 170, 179.5):
            with self.subTest(theta=theta):
                self.assertAlmostEqual(fillet_section_mm2(25, theta) / _polygon_fillet(25, theta), 1, delta=1e-3)

    def test_working_share_against_samples(self):
        """published: the lognormal's quantile, by 20 000 seeded samples; 2 % was promised."""
        life = PotLife(lambda mass, t: 30 * exp(-0.0717 * (t - 20)), 20, 3)
        mass = largest_by_life_g(life, 175)
        walk = random.Random(11)
        lost = 0
        for _ in range(20_000):
            real_life = life.life_min(mass, 20 + walk.gauss(0, 1.5)) * exp(walk.gauss(0, 0.15))
            lost += 3 + mass / 175 * exp(walk.gauss(0, 0.20)) > real_life
        self.assertAlmostEqual(lost / 20_000, 0.02, delta=0.004)


def _polygon_fillet(radius: float, theta_deg: float) -> float:
    """Area between two faces and the arc touching both, by points on the arc."""
    from numpy import array, cos, linspace, radians, sin, stack

    half = radians(theta_deg) / 2
    centre = array([radius / sin(half), 0.0])
    outside = pi - 2 * half
    turns = linspace(pi - outside / 2, pi + outside / 2, 2000)
    arc = centre + radius * stack([cos(turns), sin(turns)], axis=1)
    return Polygon([(0, 0), *map(tuple, arc)]).area


class CommonPractice(TestCase):
    """common practice, no source."""

    catalyst = resin("polyester-general").catalyst

    def test_one_per_cent_at_20_gels_in_half_an_hour(self):
        self.assertAlmostEqual(catalysed_gel_min(self.catalyst, 20, 1), 30, delta=0.01)

    def test_ten_degrees_or_twice_the_dose_halves_it(self):
        self.assertAlmostEqual(catalysed_gel_min(self.catalyst, 30, 1), 15, delta=0.01)
        self.assertAlmostEqual(catalysed_gel_min(self.catalyst, 20, 2), 15, delta=0.01)

    def test_activation_energies_of_the_halving(self):
        self.assertAlmostEqual(activation_energy_from_halving(20, 30), 51.2, delta=0.05)
        self.assertAlmostEqual(activation_energy_from_halving(25, 35), 53.0, delta=0.06)

    def test_a_quart_at_one_and_a_quarter_per_cent(self):
        """Exact arithmetic: 946 ml of 1.10 resin, peroxide 1.12."""
        grams = 946.353 * 1.10
        self.assertAlmostEqual(dose_ml(grams, 1.25, self.catalyst), 11.62, delta=0.005)
        self.assertAlmostEqual(parse_dose("12.5 ml per quart", 1.10, 1.12), 1.34, delta=0.006)

    def test_two_to_one_weighs_about_100_to_45(self):
        self.assertAlmostEqual(weight_ratio(resin("epoxy-2-1"), 1.04).parts_b_per_100_a, 45, delta=2)

    def test_volumes_scale_exactly(self):
        ounce = convert(1, "US fl oz", "ml")
        pours = two_part_by_volume(18 * ounce, 0.5, cup=Marks(1, "fl oz", ounce), hardener_name="slow").pours
        self.assertEqual([(pour.amount, pour.unit) for pour in pours], [(12, "fl oz"), (6, "fl oz")])
        self.assertAlmostEqual(parse_ratio("5:1").b_per_a, 0.2)

    def test_slow_is_four_times_fast_and_twice_medium_at_80_f(self):
        fast, medium, slow, _ = resin("epoxy-2-1").hardeners
        at_80 = convert(80, "°F", "°C")
        self.assertAlmostEqual(pot_life_min(slow, at_80, 100) / pot_life_min(fast, at_80, 100), 4, delta=0.2)
        self.assertAlmostEqual(pot_life_min(slow, at_80, 100) / pot_life_min(medium, at_80, 100), 2, delta=0.1)

    def test_mat_takes_two_to_two_and_a_half_and_woven_about_one(self):
        for name, low, high in (("csm-450", 2, 2.5), ("cloth-300", 0.8, 1.2), ("biax-600", 0.8, 1.2)):
            with self.subTest(fabric=name):
                psi = fibre_weight_fraction(fabric(name), "simple", "by fabric").value
                self.assertTrue(low <= (1 - psi) / psi <= high)

    def test_the_scale_shows_the_sum_and_the_increment(self):
        pours = two_part_by_weight(145, 0.45, cup_g=7, scale=GRAMS, hardener_name="slow").pours
        self.assertEqual([pour.running for pour in pours], [107, 152])
        self.assertEqual([pour.tared for pour in pours], [100, 45])

    def test_fabric_ounces_by_architecture(self):
        self.assertAlmostEqual(parse("1.5 oz", "areal_weight", ounce_base="square foot").value, 458, delta=0.5)
        self.assertAlmostEqual(parse("10 oz", "areal_weight", ounce_base="square yard").value, 339, delta=0.5)

    def test_bands_of_the_four_hardeners(self):
        bands = [(h.band_low_f, h.band_high_f) for h in resin("epoxy-2-1").hardeners]
        self.assertEqual(bands, [(45, 60), (60, 70), (70, 80), (80, 95)])


class FromMemory(TestCase):
    """memory."""

    def test_smallest_pots_by_tool(self):
        self.assertAlmostEqual(two_part_floor_g(1, 0.45), 81, delta=0.5)
        self.assertAlmostEqual(catalysed_floor_g(1, 1), 500, delta=0.5)
        self.assertAlmostEqual(catalysed_floor_g(0.1, 1), 50, delta=0.5)
        self.assertAlmostEqual(catalysed_floor_g(0.2 * 1.12, 1), 112, delta=0.5)

    def test_polyester_pot_over_mat_is_about_two_point_six_kilos(self):
        catalyst = resin("polyester-general").catalyst
        life = PotLife(lambda mass, t: catalysed_gel_min(catalyst, t, 1), 20, 3)
        self.assertAlmostEqual(largest_by_life_g(life, 1050 / 6) / 2600, 1, delta=0.03)

    def test_unlogged_working_share_lies_between_055_and_063(self):
        life = PotLife(lambda mass, t: 30 * exp(-0.0717 * (t - 20)), 20, 3)
        self.assertTrue(0.55 <= life.working_share(2600, 175) <= 0.63)

    def test_ten_per_cent_shorter_a_doubling(self):
        slow = resin("epoxy-2-1").hardeners[2]
        by_heat = full_heat(stated_pot(slow)).gel_min(400, 25)
        self.assertAlmostEqual(pot_life_min(slow, 25, 400), 0.81 * by_heat, 6)
        self.assertGreater(pot_life_min(slow, 25, 50), stated_pot_life_at_min(slow, 25))

    def test_a_hundred_to_five_hundred_grams_costs_a_quarter_to_a_third(self):
        for hardener in resin("epoxy-2-1").hardeners:
            kept = pot_life_min(hardener, 25, 500) / pot_life_min(hardener, 25, 100)
            self.assertTrue(0.62 <= kept <= 0.78, kept)

    def test_dose_solved_for_gel_inside_the_limits(self):
        catalyst = resin("polyester-general").catalyst
        for wanted, pct, limit in ((20, 1.5, ""), (60, 1.0, "least"), (5, 2.0, "most")):
            with self.subTest(wanted=wanted):
                dose = choose_dose(catalyst, 20, wanted)
                self.assertAlmostEqual(dose.catalyst_pct, pct, 6)
                self.assertEqual((dose.limit, bool(dose.instead)), (limit, bool(limit)))

    def test_the_sigma_behind_the_share(self):
        life = PotLife(lambda mass, t: 30 * exp(-0.0717 * (t - 20)), 20, 3)
        spread = 2600 / 175
        by_hand = sqrt(0.15**2 + (1.5 * 0.0717) ** 2 + (spread / (3 + spread) * 0.20) ** 2)
        self.assertAlmostEqual(log(life.working_share(2600, 175)), -2.054 * by_hand, delta=1e-3)
