"""By how much plies stiffen what lies there: closed forms of bending, moduli by published forms, what is refused.

Of `layup.stiffness`.
"""

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from layup.plan import plan
from layup.stiffness.bending import THICKNESS_STRAYS, Layer, axis_mm, ratio_of, stiffness_nm
from layup.stiffness.moduli import krenchel, mat_gpa, mixed_gpa, modulus_of, woven_gpa
from tests.core.jobs import at, on, panel


def layer(thick: float, gpa: float, kind: str = "a", strays: float = 0.1) -> Layer:
    return Layer(kind, thick, gpa, strays, "", kind, False)


STRIPS = st.lists(st.tuples(st.floats(0.1, 40), st.floats(0.01, 200)), min_size=1, max_size=6)


class Bending(TestCase):
    @given(st.floats(0.5, 60), st.floats(0.1, 200))
    def test_one_layer_is_a_beam(self, thick, gpa):
        """textbook: EI = E t³/12 per width; GPa and mm give N·m."""
        self.assertAlmostEqual(stiffness_nm([layer(thick, gpa)]) / (gpa * thick**3 / 12), 1)
        self.assertAlmostEqual(axis_mm([layer(thick, gpa)]), thick / 2)

    @given(st.floats(0.5, 20), st.floats(0.5, 20), st.floats(1, 100), st.floats(1, 100))
    def test_a_strip_of_two_metals(self, a, b, of_a, of_b):
        """textbook (bimetal): EI = Ea a³/12 + Eb b³/12 + Ea a Eb b (a + b)² / 4 (Ea a + Eb b)."""
        closed = of_a * a**3 / 12 + of_b * b**3 / 12 + of_a * a * of_b * b * (a + b) ** 2 / (4 * (of_a * a + of_b * b))
        self.assertAlmostEqual(stiffness_nm([layer(a, of_a), layer(b, of_b)]) / closed, 1)

    @given(st.floats(0.2, 5), st.floats(3, 60), st.floats(5, 100), st.floats(0.01, 1))
    def test_a_sandwich(self, skin, core, of_skin, of_core):
        """textbook: EI = Ef tf (c + tf)²/2 + Ef tf³/6 + Ec c³/12."""
        closed = of_skin * skin * (core + skin) ** 2 / 2 + of_skin * skin**3 / 6 + of_core * core**3 / 12
        strip = [layer(skin, of_skin), layer(core, of_core), layer(skin, of_skin)]
        self.assertAlmostEqual(stiffness_nm(strip) / closed, 1)

    @given(STRIPS)
    def test_any_strip_against_an_integral(self, said):
        """Outside truth: ∫ E (y − ȳ)² dy by NumPy's Gauss–Legendre, exact for a cubic in each layer."""
        strip = [layer(*each) for each in said]
        points, weights = np.polynomial.legendre.leggauss(4)
        low, first, zero = 0.0, 0.0, 0.0
        spread = []
        for each in strip:
            y = low + each.thickness_mm * (points + 1) / 2
            w = each.gpa * weights * each.thickness_mm / 2
            first, zero = first + (w * y).sum(), zero + w.sum()
            spread.append((y, w))
            low += each.thickness_mm
        axis = first / zero
        self.assertAlmostEqual(axis_mm(strip) / axis, 1, places=9)
        self.assertAlmostEqual(stiffness_nm(strip) / sum((w * (y - axis) ** 2).sum() for y, w in spread), 1, places=9)
        # From either face it is the same strip.
        self.assertAlmostEqual(stiffness_nm(strip[::-1]) / stiffness_nm(strip), 1, places=9)

    @given(STRIPS, st.floats(0.1, 40), st.floats(0.01, 200), st.floats(0.1, 10))
    def test_what_is_laid_on_it_never_makes_it_less_stiff_and_units_do_not_matter(self, said, thick, gpa, times):
        before = [layer(*each) for each in said]
        after = [*before, layer(thick, gpa, "b")]
        told = ratio_of(before, after)
        self.assertGreaterEqual(told.times, 1)
        self.assertLessEqual(told.low, told.times)
        self.assertGreaterEqual(told.high, told.times)
        softer = [
            [layer(each.thickness_mm, each.gpa * times, each.kind) for each in strip] for strip in (before, after)
        ]
        self.assertAlmostEqual(ratio_of(*softer).times / told.times, 1, places=6)

    def test_the_band_is_what_nine_in_ten_throws_of_the_dice_fall_in(self):
        """Outside truth: NumPy's lognormal numbers for each modulus and thickness, ten thousand strips."""
        wood, glass = layer(9, 8, "wood", 0.2), layer(1.8, 14, "glass", 0.12)
        told, dice = ratio_of([wood], [wood, glass]), np.random.default_rng(5)

        def thrown(mean: float, strays: float) -> np.ndarray:
            return mean * np.exp(dice.normal(0, strays, 10_000))

        a, b = thrown(9, THICKNESS_STRAYS), thrown(1.8, THICKNESS_STRAYS)
        of_a, of_b = thrown(8, 0.2), thrown(14, 0.12)
        before = of_a * a**3 / 12
        after = before + of_b * b**3 / 12 + of_a * a * of_b * b * (a + b) ** 2 / (4 * (of_a * a + of_b * b))
        low, high = np.quantile(after / before, (0.05, 0.95))
        self.assertAlmostEqual(told.low / low, 1, delta=0.04)
        self.assertAlmostEqual(told.high / high, 1, delta=0.04)


class Moduli(TestCase):
    def test_by_class_society_rules(self):
        """published form, from memory: 15 ψ + 2 for chopped mat, 30 ψ − 0.5 for woven roving, GPa."""
        self.assertAlmostEqual(mat_gpa(0.30), 6.5)
        self.assertAlmostEqual(mat_gpa(0.36), 7.4)
        self.assertAlmostEqual(woven_gpa(0.48), 13.9)
        self.assertAlmostEqual(woven_gpa(0.55), 16.0)

    def test_krenchels_efficiency(self):
        """published (Krenchel): balanced 0/90 a half, ±45 a quarter, one way 1; random in the plane 3/8 is its mean all round."""
        self.assertAlmostEqual(krenchel((0, 90)), 1 / 2)
        self.assertAlmostEqual(krenchel((45, -45)), 1 / 4)
        self.assertAlmostEqual(krenchel((0,)), 1)
        self.assertAlmostEqual(krenchel(tuple(range(0, 180, 5))), 3 / 8)
        self.assertAlmostEqual(krenchel((90,)), 0)

    def test_of_plies_as_they_are_laid(self):
        def of(*stack: str, **ply) -> float:
            job = panel("epoxy-2-1", *stack)
            plies = tuple(each.model_copy(update=ply) for each in job.parts[0].plies)
            laid = plan(on(job, plies=plies), at(20)).parts[0].plies[0]
            return modulus_of(laid).gpa, laid

        woven, laid = of("biax-450")
        self.assertAlmostEqual(woven, 30 * laid.fibre_weight_fraction - 0.5)
        slant, laid = of("biax-450", angle="45")
        self.assertAlmostEqual(slant, mixed_gpa(1 / 4, laid.fibre_volume_fraction, 72))
        along, laid = of("carbon-uni-200")
        self.assertAlmostEqual(along, mixed_gpa(1, laid.fibre_volume_fraction, 230))
        self.assertLess(slant, woven)
        self.assertLess(woven, along)


def deck(*stack: str, layers: list[dict] | None = None, **found):
    job = panel("epoxy-2-1", *(stack or ("biax-450", "biax-450")))
    old = [{"id": "w", "made_of": "plywood", "thickness_mm": 9}] if layers is None else layers
    return on(job, found={"layers": old, **found})


class Decks(TestCase):
    def test_two_plies_of_biaxial_on_nine_millimetres_of_plywood(self):
        """By hand: the two layers of the bimetal form, plywood 8 GPa (memory) and glass by its rule."""
        answer = plan(deck(), at(20))
        (told,) = answer.stiffened
        glass = answer.parts[0].plies[0]
        e, t = 30 * glass.fibre_weight_fraction - 0.5, 2 * glass.thickness_mm
        closed = 8 * 9**3 / 12 + e * t**3 / 12 + 8 * 9 * e * t * (9 + t) ** 2 / (4 * (8 * 9 + e * t))
        self.assertAlmostEqual(told.before_nm, 486)
        self.assertAlmostEqual(told.after_nm, closed, places=6)
        self.assertAlmostEqual(told.times, closed / 486, places=6)
        self.assertLess(told.low, told.times)
        self.assertGreater(told.high, told.times)
        self.assertGreater(told.axis_after_mm, told.axis_before_mm)
        self.assertAlmostEqual(sum(each.share for each in told.layers), 1)
        self.assertEqual([each.old for each in told.layers], [True, False, False])
        self.assertEqual(answer.problems, ())

    def test_what_else_would_do_is_in_the_order_of_mechanics(self):
        """textbook: material far from the middle counts by the square of its way."""
        (told,) = plan(deck("csm-450", "csm-450"), at(20)).stiffened
        others = {each.way: each.times for each in told.others}
        self.assertGreater(others["core between"], others["twice as much"])
        self.assertGreater(others["twice as much"], told.times)
        self.assertGreater(others["biaxial for mat"], 1)
        (without,) = plan(deck(), at(20)).stiffened
        self.assertNotIn("biaxial for mat", {each.way for each in without.others})

    def test_a_modulus_that_is_typed_wins_and_is_known_better(self):
        known = [{"id": "w", "made_of": "plywood", "thickness_mm": 9, "modulus_gpa": 8}]
        (memory,), (typed,) = (plan(each, at(20)).stiffened for each in (deck(), deck(layers=known)))
        self.assertAlmostEqual(memory.times, typed.times)
        self.assertLess(typed.high / typed.low, memory.high / memory.low)
        self.assertEqual([each.layers[0].source for each in (memory, typed)], ["memory", "data sheet"])

    def test_a_bounce_test_stands_beside_it(self):
        told = plan(deck(gave_before_mm=6, gave_after_mm=3), at(20)).stiffened[0]
        self.assertEqual(told.seen_times, 2)
        self.assertEqual(told.seen_within, told.low <= 2 <= told.high)
        far = plan(deck(gave_before_mm=60, gave_after_mm=1), at(20)).stiffened[0]
        self.assertIs(far.seen_within, False)

    def test_what_cannot_be_is_said_at_its_field(self):
        for job, path in (
            (deck(layers=[{"id": "w", "made_of": "plywood"}]), "parts.0.found.layers.0.thickness_mm"),
            (deck(gave_before_mm=3, gave_after_mm=6), "parts.0.found.gave_after_mm"),
            (deck("peel-85"), "parts.0.found.layers"),
        ):
            answer = plan(job, at(20))
            self.assertEqual(answer.stiffened, ())
            self.assertIn(path, [problem.path for problem in answer.problems])
