"""The smaller rooms of the core by their properties: laminate, areas, gel, thickening, tickets, materials."""

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from layup.chemistry.catalyst import CHART_TEMPERATURES_C, choose_dose
from layup.chemistry.cure import two_part_clocks
from layup.chemistry.gel import catalysed_gel_min, catalyst_pct_for_gel, pot_life_min, temperature_for_gel_c
from layup.chemistry.hardeners import choose_hardener
from layup.chemistry.ratio import parse_dose, require_basis, weight_ratio, weight_ratio_from_volume
from layup.errors import LayupError, Missing, OutOfRange, Unreadable
from layup.laminate.areas import grown_area_m2, rectangle_area_m2
from layup.laminate.weights import fibre_volume_fraction, fibre_weight_fraction, resin_areal_weight_gsm, thickness_mm
from layup.library import generic
from layup.marks import GRAMS, Marks
from layup.materials import Fabric, Filler, Hardener
from layup.plan import plan
from layup.pots.mix import settle
from layup.pots.ticket import catalysed, two_part_by_volume, two_part_by_weight
from tests.core.jobs import at, fabric, filler, panel, resin

EPOXY = resin("epoxy-2-1")
CATALYST = resin("polyester-general").catalyst


class Laminate(TestCase):
    @given(st.floats(15, 2500), st.floats(0.1, 0.8))
    def test_the_shares_agree_with_each_other(self, weight, psi):
        held = resin_areal_weight_gsm(weight, psi)
        self.assertAlmostEqual(weight / (weight + held), psi, 9)
        thick = thickness_mm(weight, held, 2.56, 1.15)
        by_volume = fibre_volume_fraction(weight, thick, 2.56)
        self.assertAlmostEqual(by_volume, (psi / 2.56) / (psi / 2.56 + (1 - psi) / 1.15), 9)

    def test_ways_of_working_move_the_share(self):
        """memory: lean +0.03, generous −0.04 on woven and stitched, ±0.02 on mat."""
        for name, lean, generous in (("biax-600", 0.53, 0.46), ("csm-450", 0.32, 0.28)):
            with self.subTest(fabric=name):
                self.assertEqual(fibre_weight_fraction(fabric(name), "simple", "lean").value, lean)
                self.assertEqual(fibre_weight_fraction(fabric(name), "simple", "generous").value, generous)

    def test_by_fabric_is_lean_for_woven_and_the_table_for_mat(self):
        woven = fibre_weight_fraction(fabric("cloth-300"), "simple", "by fabric")
        mat = fibre_weight_fraction(fabric("csm-450"), "simple", "by fabric")
        self.assertEqual((woven.value, woven.mopped_off_share), (0.505, 0.10))
        self.assertEqual((mat.value, mat.mopped_off_share), (0.30, 0.0))
        self.assertIn("memory", woven.source)

    def test_a_share_of_nought_or_one_is_refused(self):
        for psi in (0, 1, -0.2):
            with self.subTest(psi=psi), self.assertRaises(OutOfRange):
                resin_areal_weight_gsm(300, psi)

    @given(st.floats(0.01, 20), st.floats(0.01, 20), st.floats(0, 500))
    def test_a_ply_grown_on_every_side_is_the_larger_rectangle(self, width, length, extra_mm):
        grown = grown_area_m2(width * length, 2 * (width + length), extra_mm)
        self.assertAlmostEqual(grown, rectangle_area_m2(width + extra_mm / 500, length + extra_mm / 500), 9)


class Gel(TestCase):
    @given(st.floats(5, 35), st.floats(0.5, 3), st.floats(5, 120))
    def test_the_gel_law_turns_round(self, room_c, pct, wanted):
        gel = catalysed_gel_min(CATALYST, room_c, pct)
        self.assertAlmostEqual(catalyst_pct_for_gel(CATALYST, room_c, gel), pct, 6)
        self.assertAlmostEqual(temperature_for_gel_c(CATALYST, pct, gel), room_c, 6)
        dose = choose_dose(CATALYST, room_c, wanted)
        self.assertTrue(CATALYST.least_pct <= dose.catalyst_pct <= CATALYST.most_pct)
        if not dose.limit:
            self.assertAlmostEqual(dose.gel_min, wanted, 6)

    def test_the_chart_is_the_law_at_the_charts_points(self):
        row = choose_dose(CATALYST, 20, 30).chart[0]
        wanted = [catalysed_gel_min(CATALYST, t, row.catalyst_pct) for t in CHART_TEMPERATURES_C]
        self.assertEqual(list(row.gel_min), wanted)

    def test_no_catalyst_never_sets(self):
        with self.assertRaises(OutOfRange):
            catalysed_gel_min(CATALYST, 20, 0)

    @given(st.floats(8, 35), st.floats(20, 2000))
    def test_warmer_and_heavier_pots_last_no_longer(self, room_c, mass_g):
        for hardener in EPOXY.hardeners:
            here = pot_life_min(hardener, room_c, mass_g)
            self.assertLess(pot_life_min(hardener, room_c + 1, mass_g), here)
            self.assertLessEqual(pot_life_min(hardener, room_c, mass_g * 2), here)

    def test_cure_clocks_run_in_the_order_of_the_work(self):
        """common practice, no source: flip and bag off about 24 h at the bench with a slow hardener."""
        clocks = two_part_clocks(EPOXY.hardeners[2], 21)
        order = [
            clocks.next_ply_from_min,
            clocks.knife_trim_min,
            clocks.window_closes_min,
            clocks.sandable_min,
            clocks.load_min,
        ]
        self.assertEqual(order, sorted(order))
        self.assertAlmostEqual(clocks.sandable_min / 60, 24, delta=5)

    @given(st.floats(7.3, 40), st.sampled_from(["band", "one step slower"]), st.none() | st.floats(1, 200))
    def test_two_steps_slower_is_never_recommended(self, room_c, school, deadline_h):
        verdict = choose_hardener(EPOXY.hardeners, room_c, school, deadline_h)
        self.assertIn(verdict.chosen.steps_off, (0, 1))
        if school == "band":
            self.assertEqual(verdict.chosen.steps_off, 0)
        if verdict.chosen.steps_off == 1 and deadline_h:
            self.assertLessEqual(verdict.chosen.clocks.sandable_min, deadline_h * 60)


MARKS = {"scale": Marks(0.1, "g"), "syringe": Marks(0.2, "ml"), "drops": Marks(1, "drops", 1 / 30)}


class Measuring(TestCase):
    @given(st.floats(81, 3000), st.floats(0.1, 1), st.floats(0, 200))
    def test_the_scale_rises_by_what_is_poured(self, pot_g, ratio, cup_g):
        cup_g = round(cup_g)
        a, b = two_part_by_weight(pot_g, ratio, cup_g=cup_g, scale=GRAMS, hardener_name="slow").pours
        self.assertEqual((a.running, b.running), (cup_g + a.amount, cup_g + a.amount + b.amount))
        self.assertLessEqual(abs(b.amount - a.amount * ratio), 0.5 + 1e-9)

    @given(st.floats(150, 3000), st.sampled_from([0.5, 0.2, 1.0]))
    def test_marks_rise_in_order_and_the_second_holds_both(self, pot_ml, ratio):
        a, b = two_part_by_volume(pot_ml, ratio, cup=Marks(2, "ml"), hardener_name="slow").pours
        self.assertEqual(b.running, a.running + b.amount)
        self.assertIn("never the other way round", b.note)

    @given(st.floats(150, 5000), st.floats(1, 2), st.sampled_from(sorted(MARKS)))
    def test_the_dose_it_really_is_stands_on_the_ticket(self, resin_g, pct, tool):
        amounts = catalysed(resin_g, pct, CATALYST, cup_g=20, scale=Marks(0.1, "g"), tool=tool, dose_marks=MARKS[tool])
        resin_pour, dose = amounts.pours
        per_unit = {"scale": 1.0, "syringe": 1.12, "drops": 1.12 / 30}[tool]
        grams = dose.amount * per_unit
        self.assertIn(f"{100 * grams / resin_pour.amount:.2f} %", dose.note)
        self.assertLess(abs(amounts.ratio_error_pct), 10)

    def test_weight_is_never_inferred_without_both_densities(self):
        bare = EPOXY.model_copy(update={"density_g_per_cm3": None})
        with self.assertRaisesRegex(Missing, "density of the resin"):
            weight_ratio(bare, 1.04)
        with self.assertRaisesRegex(Missing, "density of the hardener"):
            weight_ratio(EPOXY, None)
        with self.assertRaisesRegex(LayupError, "by volume only"):
            require_basis(resin("epoxy-5-1"), "weight")

    def test_a_sheet_whose_two_ratios_disagree_is_remarked_on(self):
        stated = EPOXY.model_copy(update={"ratio_weight_b_per_a": 0.50})
        found = weight_ratio(stated, 1.04)
        self.assertEqual(found.b_per_a, 0.50)
        self.assertIn("give 100:45.2", found.remark)
        close = EPOXY.model_copy(update={"ratio_weight_b_per_a": 0.45})
        self.assertEqual(weight_ratio(close, 1.04).remark, "")

    def test_a_ratio_by_weight_that_was_worked_out_says_why_it_differs(self):
        """exact: what is heavier for its volume weighs more of the mix."""
        bare = EPOXY.model_copy(update={"ratio_weight_b_per_a": None})
        for density_b, words in (
            (1.04, "100:50 by volume is 100:45.2 by weight, since B is lighter"),
            (1.3, "since B is heavier"),
        ):
            found = weight_ratio(bare, density_b)
            self.assertTrue(found.derived)
            self.assertIn(words, found.remark)

    def test_the_mixs_density_lies_between_its_parts(self):
        job = panel("epoxy-2-1", "cloth-300")
        mix = settle(job, job.resins[0], at(20), EPOXY, EPOXY.hardeners[1], 20)
        self.assertTrue(1.04 < mix.density_g_per_ml < 1.15)
        part_a, part_b, catalyst = mix.parts_g(1000)
        self.assertAlmostEqual(part_a + part_b, 1000)
        self.assertAlmostEqual(part_b / part_a, weight_ratio_from_volume(0.5, 1.15, 1.04))
        self.assertIsNone(catalyst)


class Shelf(TestCase):
    def test_the_library_has_what_was_promised(self):
        library = generic()
        self.assertGreaterEqual(len(library.fabrics), 8)
        self.assertEqual([len(r.hardeners) for r in library.resins if r.id == "epoxy-2-1"], [4])
        self.assertTrue(any(r.catalyst for r in library.resins))
        self.assertGreaterEqual(len(library.fillers), 3)

    def test_materials_that_cannot_be_are_refused(self):
        combi = fabric("combi-805").model_dump()
        slow = EPOXY.hardeners[2].model_dump()
        for model, broken, words in (
            (Fabric, combi | {"mat_share": None}, "mat share"),
            (Fabric, combi | {"areal_weight_gsm": 9}, "greater than or equal to 15"),
            (Hardener, slow | {"band_low_f": 90}, "low end"),
            (Filler, filler("silica").model_dump() | {"parts_runs": -1}, "greater than or equal to 0.01"),
            (
                type(EPOXY),
                EPOXY.model_dump() | {"catalyst": CATALYST.model_dump()},
                "hardeners, or a catalyst, or sets out of one tin",
            ),
            (type(EPOXY), EPOXY.model_dump() | {"hardener_family": "another"}, "another family"),
            (type(EPOXY), EPOXY.model_dump() | {"minimum_c": 90}, "run upward"),
        ):
            with self.subTest(words=words), self.assertRaisesRegex(ValidationError, words):
                model.model_validate(broken)

    def test_a_typed_psi_wins_over_the_table(self):
        job = panel("polyester-general", "csm-450")
        own = job.parts[0].plies[0].model_copy(update={"fibre_weight_fraction": 0.4})
        typed = job.model_copy(update={"parts": (job.parts[0].model_copy(update={"plies": (own,)}),)})
        ply = plan(typed, at(20)).parts[0].plies[0]
        self.assertEqual((ply.fibre_weight_fraction, ply.fraction_source), (0.4, "data sheet"))


class Doses(TestCase):
    def test_a_dose_is_read_as_tins_print_it(self):
        """Exact arithmetic: one US quart, 946 ml, at 1.25 % by mass takes 11.62 ml of 1.12 g/ml; 12.5 ml is 1.34 %."""
        for text, pct in (
            ("1.5 %", 1.5),
            ("2 phr", 2.0),
            ("1,25%", 1.25),
            ("11.62 ml per quart", 1.25),
            ("12.5 cc/qt", 1.345),
            ("15 g per kg", 1.5),
            ("10 ml per kg", 1.12),
            ("9 ml per litre", 0.916),
        ):
            with self.subTest(text):
                self.assertAlmostEqual(parse_dose(text, 1.10, 1.12), pct, 3)

    def test_what_is_no_dose_is_said_so(self):
        for text, error in (
            ("two", Unreadable),
            ("9 ml per bucket", Unreadable),
            ("40 %", OutOfRange),
            ("0 %", OutOfRange),
        ):
            with self.subTest(text), self.assertRaises(error):
                parse_dose(text, 1.10, 1.12)
        with self.assertRaisesRegex(Missing, "density of the resin"):
            parse_dose("9 ml per litre", None, 1.12)

    def test_a_dose_in_words_is_planned_with_and_told_both_ways(self):
        wishes = {"resin_id": "polyester-general", "dose_words": "12.5 cc per quart"}
        dose = plan(panel("polyester-general", "csm-450", in_use=wishes), at(20)).resins[0].chemistry.dose
        self.assertAlmostEqual(dose.catalyst_pct, 1.345, 3)
        self.assertRegex(dose.understood, r"^1.34 % by weight, 12.0 ml per kg, 13.2 ml per litre$")
        wrong = plan(panel("polyester-general", "csm-450", in_use=wishes | {"dose_words": "a splash"}), at(20))
        self.assertEqual(wrong.problems[0].path, "resins.0.dose_words")
