"""Typed quantities, quick lines and ratios: what is understood, what is refused and in which words.

Of `layup.laminate.notation`, `layup.laminate.notation_written`, `layup.laminate.named_fabric`, `layup.laminate.quick_ply`.
"""

from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st

from layup.chemistry.ratio import LEAST_RATIO, MOST_RATIO, parse_dose, parse_ratio
from layup.customs import Customs, locales
from layup.errors import LayupError, Unreadable
from layup.job import Coat
from layup.laminate.notation import parse_line
from layup.laminate.notation_written import format_line
from layup.laminate.quick_ply import QuickPly
from layup.library import generic
from layup.scales import METRIC, Scales
from layup.shop_facts import ShopFacts
from layup.units import DIMENSIONS, parse
from tests.core.jobs import fabric

FABRICS = generic().fabrics
OUNCES = Scales("US", fabric_unit="oz")


class Quantities(TestCase):
    def test_what_is_understood(self):
        for text, dimension, value in (
            ("5 ft 6 in", "length", 1.6764),
            ("1 1/2 in", "thickness", 38.1),
            ("1,5", "mass", 1.5),
            ("72F", "temperature", 22.2222),
            ("-3 °C", "temperature", -3),
            ("1 h 20 min", "time", 80),
            ("4.2m2", "area", 4.2),
            ("2 kg 250 g", "mass", 2250),
        ):
            with self.subTest(text=text):
                self.assertAlmostEqual(parse(text, dimension).value, value, 3)
        self.assertEqual(parse("1,500 g", "mass", customs=Customs("en-US")).value, 1500)
        self.assertEqual(parse("1,500 g", "mass", customs=Customs("en-DE")).value, 1.5)

    def test_a_mark_that_could_be_both_is_asked_about(self):
        with self.assertRaisesRegex(Unreadable, "may be 1120 or 1.12: type it so, or say under Shop which country"):
            parse("1,120 g", "mass")
        with self.assertRaisesRegex(Unreadable, "may be 1120 or 1,12: type it so$"):
            parse("1.120 g", "mass", customs=Customs("en-DE"))
        self.assertEqual(parse("1.120 g", "mass").value, 1.12)
        for typed, grams in (
            *(("1,5 kg", 1500), ("0,125 kg", 125), ("0.125 kg", 125), ("1,120.5 g", 1120.5), ("1,234,567 g", 1234567)),
            *(("1.120,5 g", 1120.5), ("1'120 g", 1120), ("1’120.5 g", 1120.5), ("1.234.567 g", 1234567)),
        ):
            for locale in ("", "en-US", "en-DE", "en-CH"):
                with self.subTest(typed=typed, locale=locale):
                    self.assertAlmostEqual(parse(typed, "mass", customs=Customs(locale)).value, grams)

    @given(st.floats(25, 900_000), st.sampled_from(["metric", "US"]), st.sampled_from(["", *locales()]))
    def test_what_is_printed_is_read_back(self, grams, units, locale):
        """exact, to the digits that are printed, in every country's customs."""
        scales = ShopFacts(units=units, locale=locale).scales
        printed = scales.mass(grams)
        self.assertNotIn("e+", printed)
        back = parse(printed, "mass", customs=scales.customs).value
        self.assertAlmostEqual(back / grams, 1, delta=0.02, msg=printed)
        self.assertNotIn("e", parse(f"{grams:.3f} g", "mass", default_unit="oz").understood.replace("readings", ""))

    def test_what_was_understood_is_said_in_the_fields_own_unit(self):
        self.assertEqual(parse("340 g", "mass", default_unit="oz").understood, "340 g = 11.99 oz")
        self.assertEqual(parse("12", "mass", default_unit="oz").understood, "12 oz")
        self.assertEqual(parse("12 oz", "mass").understood, "12 oz = 340.2 g")
        self.assertEqual(parse("1250000 g", "mass", default_unit="kg").understood, "1250000 g = 1250 kg")

    def test_the_shops_fluid_ounce_decides_and_is_named(self):
        self.assertEqual(parse("3 fl oz", "volume").understood, "3 US fl oz = 88.72 ml")
        self.assertEqual(parse("3 fl oz", "volume", fluid_ounce="imperial").understood, "3 Imperial fl oz = 85.24 ml")

    def test_what_is_refused_and_what_to_type(self):
        for text, dimension, words in (
            ("12 oz", "volume", "may be weight or volume"),
            ("3 fl oz", "mass", "measure volume"),
            ("10 oz", "areal_weight", "oz/ft² or oz/yd²"),
            ("2 bananas", "length", "type one of m, mm, cm, in, ft"),
            ("", "length", "type a number"),
            ("nan", "mass", "not a quantity"),
            ("1/0 in", "length", "divides by nought"),
            ("-300 C", "temperature", "absolute zero"),
            ("12 g 3", "mass", "type one, with its unit"),
        ):
            with self.subTest(text=text), self.assertRaisesRegex(LayupError, words):
                parse(text, dimension)

    @given(st.text(max_size=70), st.sampled_from(DIMENSIONS))
    def test_no_text_breaks_it(self, text, dimension):
        try:
            reading = parse(text, dimension)
        except LayupError as error:
            self.assertTrue(error.message)
        else:
            self.assertEqual(reading.value, reading.value)


class QuickLines(TestCase):
    def test_every_fabric_is_written_and_read_by_its_ounces(self):
        """common practice: a fabric is sold by round ounces, 8.85 as 9; an ounce of mat is of a square foot."""
        sold = generic(in_ounces=True).fabrics
        for each in sold:
            with self.subTest(fabric=each.name):
                written = format_line([QuickPly(each)], OUNCES)
                (ply,) = parse_line(written, sold, scales=OUNCES).plies
                self.assertEqual(ply.fabric.areal_weight_gsm, each.areal_weight_gsm, written)
                if not each.core_thickness_mm:
                    self.assertIn(written.split()[0], each.name.split())
        bare = parse_line("9 cloth, 1.5 csm", sold, scales=OUNCES)
        self.assertEqual([ply.fabric.id for ply in bare.plies], ["cloth-300", "csm-450"])
        self.assertEqual(bare.notes, ())

    def test_ounces_that_nothing_is_sold_by_make_a_fabric_of_their_own(self):
        sold = generic(in_ounces=True).fabrics
        for typed, weight_gsm, name in (("10 cloth", 339.1, "10 oz cloth"), ("8.6 cloth", 291.6, "8.6 oz cloth")):
            (ply,) = parse_line(typed, sold, scales=OUNCES).plies
            self.assertEqual((ply.fabric.areal_weight_gsm, ply.fabric.name), (weight_gsm, name))
            self.assertEqual(format_line([ply], OUNCES), f"{name.split()[0]} oz cloth")
        # A shop that buys by the gram means the ounces that it types.
        (ply,) = parse_line("9 oz cloth", generic().fabrics).plies
        self.assertEqual(ply.fabric.areal_weight_gsm, 305.2)

    @given(
        st.lists(
            st.builds(
                QuickPly,
                fabric=st.sampled_from(FABRICS),
                angle=st.sampled_from(["", "45", "0/90", "-30"]),
                extra_mm=st.sampled_from([0.0, 25.0, 50.0]),
                fibre_weight_fraction=st.sampled_from([None, 0.45]),
                strip=st.sampled_from(["", "keel"]),
            )
            | st.builds(
                QuickPly,
                extra_mm=st.sampled_from([0.0, 25.0]),
                coat=st.builds(
                    Coat, kind=st.sampled_from(["wet-out", "fill", "seal", "gel"]), resin_gsm=st.just(150.0)
                ),
            ),
            max_size=12,
        )
    )
    def test_both_ways(self, plies):
        for scales in (METRIC, Scales("US", "imperial")):
            written = format_line(plies, scales)
            self.assertEqual(list(parse_line(written, FABRICS, scales=scales, strips=["keel"]).plies), plies)

    @given(st.floats(10, 2000).map(lambda gsm: round(gsm, 1)), st.sampled_from(["us", "imperial"]))
    def test_a_coat_is_written_as_a_film_of_the_shops_fluid_ounces(self, resin_gsm, ounce):
        scales = Scales("US", ounce, "oz")
        coat = QuickPly(coat=Coat(kind="fill", resin_gsm=resin_gsm))
        written = format_line([coat], scales)
        self.assertIn(" fl oz/ft² fill coat", written)
        self.assertEqual(list(parse_line(written, FABRICS, scales=scales).plies), [coat])

    def test_cores_and_edges_by_the_inch_rule(self):
        """exact: an inch is 25.4 mm."""
        line = parse_line('3/8 in core, 1 1/2in core, 0.5" core, 9 cloth +2in, 9 cloth +1 1/4"', FABRICS, scales=OUNCES)
        cores, edges = line.plies[:3], line.plies[3:]
        self.assertEqual([ply.fabric.core_thickness_mm for ply in cores], [9.525, 38.1, 12.7])
        self.assertEqual([ply.fabric.name for ply in cores], ["3/8 in core", "1 1/2 in core", "0.5 in core"])
        self.assertEqual([ply.extra_mm for ply in edges], [50.8, 31.75])
        self.assertEqual(format_line(cores, OUNCES), "0.375 in core, 1.5 in core, 0.5 in core")
        refused = parse_line("10 in core, 9 in cloth, 1/2 in fill coat, 9 cloth +90in", FABRICS, scales=OUNCES)
        for problem, said in zip(
            refused.problems, ("up to 8 in thick", "only a core", "0.5 fl oz/ft² fill", "78 3/4 in"), strict=True
        ):
            self.assertIn(said, problem.message)

    def test_a_core_goes_by_its_thickness(self):
        line = parse_line("10 mm core, 12mm foam, 10 core, 450 mm csm, 700 core", FABRICS)
        self.assertEqual([ply.fabric.core_thickness_mm for ply in line.plies], [10, 12])
        self.assertEqual(line.problems[0].offers, ("10 mm core",))
        self.assertIn("only a core", line.problems[1].message)
        self.assertIn("say how thick", line.problems[2].message)

    def test_a_coat_says_what_it_weighs_and_no_more(self):
        line = parse_line("5 oz fill, 3 seal, 150 fill 45, 150 gelcoat", FABRICS)
        self.assertEqual([ply.coat for ply in line.plies], [Coat(kind="gel", resin_gsm=150)])
        for problem, words in zip(line.problems, ("volume or a weight", "is no coat", "no angle"), strict=True):
            self.assertIn(words, problem.message)

    def test_an_ounce_of_resin_is_a_film_or_is_asked_about(self):
        """exact: 3 US fl oz on a square foot is 0.955 mm, 1.05 kg/m² at 1.1 g/ml; a bare ounce may be either."""
        film = parse_line("3 fl oz/ft2 fill coat", FABRICS)
        self.assertAlmostEqual(film.plies[0].coat.resin_gsm, 0.955 * 1100, delta=1)
        self.assertIn("a film of 0.95 mm, at 1.1 g/ml", film.notes[0])
        imperial = parse_line("3 imp fl oz/ft2 fill", FABRICS).plies[0].coat.resin_gsm
        self.assertAlmostEqual(imperial / film.plies[0].coat.resin_gsm, 28.4131 / 29.5735, 4)
        asked = parse_line("3oz/ft2 fill coat", FABRICS).problems[0]
        self.assertIn("may be a volume or a weight", asked.message)
        for offer in asked.offers:
            taken = parse_line(offer, FABRICS)
            self.assertEqual((len(taken.plies), taken.problems), (1, ()))
        bare = parse_line("3 fill coat", FABRICS, scales=OUNCES).problems[0]
        self.assertEqual(bare.offers, asked.offers)
        self.assertIn("3 fl oz/ft², or 27 oz/yd²?", bare.message)
        in_inches = parse_line("3 fl oz/ft2 fill coat", FABRICS, scales=OUNCES).notes[0]
        self.assertIn("= 31 oz/yd², a film of 0.038 in, at 9.18 lb/gal", in_inches)
        self.assertEqual(parse_line("10 fl oz/yd2 cloth", FABRICS).problems[0].offers, ("10 oz cloth",))

    @given(st.text(alphabet="0123456789xcsm biax,+@psi./%±", max_size=60))
    def test_problems_stand_inside_the_line(self, text):
        for problem in parse_line(text, FABRICS).problems:
            self.assertTrue(0 <= problem.start < problem.end <= len(text))

    def test_what_cannot_be_read_is_marked_and_the_rest_is_taken(self):
        text = "450 csm, 600 blanket, 300 cloth"
        line = parse_line(text, FABRICS)
        self.assertEqual([ply.fabric.id for ply in line.plies], ["csm-450", "cloth-300"])
        self.assertEqual(text[line.problems[0].start : line.problems[0].end], "blanket")

    def test_a_weight_that_no_fabric_has_is_planned_as_typed_and_says_so(self):
        """common practice: 6 oz cloth is sold as 200 or 203 g/m²; published: 6 oz/yd² is 203.4."""
        for text, weight_gsm, like in (
            ("6 oz cloth", 203.4, "200 cloth, plain"),
            ("204 cloth", 204, "200 cloth, plain"),
            ("1.5 oz csm", 457.7, "450 chopped mat"),
            ("202 carbon twill", 202, "200 carbon cloth, twill"),
        ):
            with self.subTest(text=text):
                line = parse_line(text, FABRICS)
                self.assertEqual(line.plies[0].fabric.areal_weight_gsm, weight_gsm)
                self.assertIn(f"planned as typed, else like {like}", line.notes[0])
        self.assertEqual(parse_line("300 cloth", FABRICS).notes, ())

    def test_the_shops_own_rolls_come_first(self):
        roll = fabric("cloth-300").model_copy(update={"id": "own", "name": "Our 290", "areal_weight_gsm": 290})
        twin = roll.model_copy(update={"id": "twin", "name": "Our 300", "areal_weight_gsm": 300})
        known, own = (roll, twin, *FABRICS), {"own", "twin"}
        self.assertEqual(parse_line("300 cloth", known, own_ids=own).plies[0].fabric.name, "Our 300")
        self.assertIn("else like Our 290", parse_line("204 cloth", known, own_ids=own).notes[0])

    def test_the_nearest_thing_meant_is_offered_and_what_may_follow_is_said(self):
        line = parse_line("2x 200 carbon twil, 300 clth, 450 csm wavy", FABRICS)
        self.assertEqual([len(line.plies)], [0])
        self.assertIn("after the fabric may follow an angle", line.problems[0].message)
        self.assertEqual(line.problems[0].offers[0], "carbon twill")
        self.assertEqual(line.problems[1].offers[0], "cloth")
        self.assertIn("“wavy” is not understood", line.problems[2].message)
        for text in ("2x 200 carbon twill", "200 twill, 200 glass twill"):
            self.assertEqual((len(parse_line(text, FABRICS).plies), parse_line(text, FABRICS).problems), (2, ()))

    def test_what_was_misspelled_is_marked_by_itself(self):
        text = "450 csm, 2x 200 carbon twil, 300 clth"
        marked = [text[each.start : each.end] for each in parse_line(text, FABRICS).problems]
        self.assertEqual(marked, ["carbon twil", "clth"])

    def test_a_bare_ten_in_a_gram_shop_is_asked_about(self):
        line = parse_line("10 cloth", FABRICS)
        self.assertEqual(line.problems[0].offers, ("10 oz/yd² cloth",))
        self.assertEqual(parse_line(line.problems[0].offers[0], FABRICS).plies[0].fabric.areal_weight_gsm, 339.1)
        self.assertEqual(parse_line("10 cloth", FABRICS, scales=OUNCES).plies[0].fabric.areal_weight_gsm, 339.1)

    def test_the_four_digit_name_is_two_weights(self):
        """common practice: 17 oz/yd² biaxial and 0.75 oz/ft² mat."""
        line = parse_line("1708", FABRICS)
        self.assertEqual(line.plies[0].fabric.id, "combi-805")
        self.assertEqual(line.notes, ("1708 = 576 g/m² biaxial + 229 g/m² mat = 805 g/m², mat share 0.28",))

    def test_a_stack_without_end_is_refused(self):
        self.assertIn("500", parse_line("400x 450 csm, 400x 450 csm", FABRICS).problems[0].message)


class Ratios(TestCase):
    def test_as_printed_with_a_first_unless_it_is_named(self):
        for text, wanted in (
            ("2:1", 0.5),
            ("100:45", 0.45),
            ("5 to 1", 0.2),
            ("45 phr", 0.45),
            ("50 %", 0.5),
            ("100:110", 1.1),
            ("110 phr", 1.1),
            ("1:2", 2.0),
            ("0,45", 0.45),
            ("2A:1B", 0.5),
            ("B:A 1:2", 0.5),
            ("1 part hardener to 4 parts resin", 0.25),
            ("100 g resin + 30 g hardener", 0.3),
            ("3:1 by volume", 1 / 3),
        ):
            with self.subTest(text=text):
                self.assertAlmostEqual(parse_ratio(text).b_per_a, wanted)
        for text, reads in (("1:20.1", "2010"), ("1000:4.9", "0.49"), ("10000:1", "0.01")):
            with self.assertRaisesRegex(LayupError, f"reads as {reads} of B to 100 of A, and no resin takes that"):
                parse_ratio(text)
        self.assertEqual([parse_ratio(text).b_per_a for text in ("1:20", "1000:5")], [20.0, 0.005])
        for text in ("two to one", "0:0", "", "1:2:3", "45", "A 2 : A 1", "A:A 2:1"):
            with self.subTest(text=text), self.assertRaises(LayupError):
                parse_ratio(text)

    @given(st.floats(0.1, 500), st.floats(0.1, 500))
    def test_its_order_is_always_named_back(self, a, b):
        a, b = round(a, 1), round(b, 1)
        assume(LEAST_RATIO <= b / a <= MOST_RATIO)
        ratio = parse_ratio(f"{a}:{b}")
        self.assertAlmostEqual(ratio.b_per_a, b / a)
        self.assertEqual(parse_ratio(f"B:A {b}:{a}"), ratio)
        self.assertAlmostEqual(parse_ratio(ratio.words.replace("of ", "").replace(" to ", ":")).b_per_a, b / a, 2)

    def test_a_dose_as_a_ratio_has_the_resin_first(self):
        """exact: one of catalyst to a hundred of resin is 1 %."""
        self.assertEqual([parse_dose(text, 1.1, 1.12) for text in ("100:1", "50 to 1", "100/2")], [1.0, 2.0, 2.0])
        for text in ("1:100", "100:0"):
            with self.subTest(text=text), self.assertRaisesRegex(LayupError, "resin first"):
                parse_dose(text, 1.1, 1.12)
