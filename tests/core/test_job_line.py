"""A whole job in one line: its words, its sizes, its refusals."""

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from layup.customs import Customs
from layup.laminate.job_line.kinds_of_job import job_lines
from layup.laminate.job_line.read import read_job_line
from layup.laminate.job_line.sizes import lengths
from layup.library import generic
from layup.plan import plan
from layup.scales import METRIC, Scales
from layup.shop_facts import ShopFacts
from layup.units import parse


def read(text, **named):
    return read_job_line(text, generic(), **named)


def told(text):
    return [(text[problem.start : problem.end], problem.message) for problem in read(text).problems]


class EveryKind(TestCase):
    def test_each_example_is_understood_whole_and_plans_to_pots_or_pours(self):
        for unit in ("g/m²", "oz"):
            for name, words in job_lines(unit).items():
                with self.subTest(unit=unit, name=name):
                    line = read_job_line(
                        words, generic(in_ounces=unit == "oz"), scales=Scales("metric", "us", unit, METRIC.customs)
                    )
                    self.assertEqual(line.problems, ())
                    planned = plan(line.job, ShopFacts())
                    self.assertEqual([p.message for p in planned.problems], [])
                    works = [*planned.parts, *planned.joints, *planned.pours]
                    self.assertTrue(works)

    def test_both_unit_sets_say_the_same_kinds_of_nearly_the_same_size(self):
        for name, words in job_lines().items():
            one, other = (
                read_job_line(
                    each, generic(in_ounces=bool(unit)), scales=Scales("metric", "us", unit or "g/m²", METRIC.customs)
                ).job
                for each, unit in ((words, ""), (job_lines("oz")[name], "oz"))
            )
            with self.subTest(name=name):
                self.assertEqual(
                    [(part.substrate, part.process, part.count, len(part.plies)) for part in one.parts],
                    [(part.substrate, part.process, part.count, len(part.plies)) for part in other.parts],
                )
                self.assertEqual([joint.kind for joint in one.joints], [joint.kind for joint in other.joints])
                for mine, theirs in zip(one.parts, other.parts, strict=True):
                    mine, theirs = mine.shape.model_dump(), theirs.shape.model_dump()
                    for size in (key for key in mine if key.endswith(("_m", "_m2"))):
                        self.assertAlmostEqual(mine[size] / theirs[size], 1, delta=0.2)


class Sizes(TestCase):
    @given(
        st.floats(0.05, 20).map(lambda n: round(n, 2)),
        st.floats(0.05, 20).map(lambda n: round(n, 2)),
        st.integers(1, 40),
    )
    def test_a_size_is_what_its_fields_would_read(self, one, other, count):
        part = read(f"Part: {one} x {other} m x{count}").job.parts[0]
        self.assertEqual(
            (part.shape.width_m, part.shape.length_m, part.count), (min(one, other), max(one, other), count)
        )
        for field in ("width_m", "length_m"):
            self.assertEqual(parse(part.shape.typed[field], "length").value, getattr(part.shape, field))

    def test_a_unit_said_once_is_of_all_and_each_may_have_its_own(self):
        metres = [length.m for length in lengths("80 x 140 mm", METRIC)[0]]
        self.assertEqual(metres, [0.08, 0.14])
        feet = [round(length.m, 4) for length in lengths("20 in x 6 ft", METRIC)[0]]
        self.assertEqual(feet, [0.508, 1.8288])

    def test_decimals_after_a_comma_where_a_country_writes_them_so(self):
        line = read_job_line(
            "Deck: 1,2 x 2,4 m,plywood, 450 biax,300 cloth", generic(), scales=Scales(customs=Customs("en-DE"))
        )
        self.assertEqual(line.problems, ())
        self.assertEqual(line.job.parts[0].shape.width_m, 1.2)
        self.assertEqual(len(line.job.parts[0].plies), 2)

    def test_a_glue_line_and_a_scarf_take_their_sizes_in_any_order(self):
        for words in ("glue 25 mm x 3 m; scarf 9 mm x 1.2 m", "glue 3 m x 25 mm; scarf 1.2 m x 9 mm"):
            glue, scarf = read(f"Box: {words}").job.joints
            self.assertEqual((glue.kind, glue.width_mm, glue.length_m), ("glue line", 25, 3))
            self.assertEqual((scarf.kind, scarf.panel_thickness_mm, scarf.length_m), ("scarf", 9, 1.2))

    def test_joints_and_pours_are_measured_in_the_unit_of_each_field(self):
        job = read(
            "Box: fillet 12 mm x 6 m x2; gap 3 mm x 9 mm x 2 m; pour 900 x 60 x 25 mm x3; pour disc 30 cm x 2 cm"
        ).job
        corner, gap = job.joints
        self.assertEqual((corner.kind, corner.radius_mm, corner.length_m, corner.count), ("corner", 12, 6, 2))
        self.assertEqual((gap.width_mm, gap.depth_mm, gap.length_m), (3, 9, 2))
        block, disc = job.pours
        self.assertEqual((block.length_m, block.width_mm, block.depth_mm, block.count), (0.9, 60, 25, 3))
        self.assertEqual((disc.shape, disc.diameter_mm, disc.depth_mm), ("disc", 300, 20))


class Said(TestCase):
    def test_the_surface_holds_for_the_parts_after_it_until_another_is_said(self):
        job = read("Boat: a: 1 x 2 m, foam, vacuum bag, 300 cloth; b: 1 x 1 m, 300 cloth; c: 1 x 1 m, plywood").job
        self.assertEqual([part.substrate for part in job.parts], ["foam core", "foam core", "bare plywood"])
        self.assertEqual([part.process for part in job.parts], ["vacuum bag"] * 3)
        self.assertEqual([part.name for part in job.parts], ["a", "b", "c"])

    def test_a_second_resin_is_of_what_says_it_and_the_first_of_all_else(self):
        job = read("Lid: disc 1 m, mould, 450 csm, polyester; glue 25 mm x 3 m, epoxy, slow; 1 x 1 m, 450 csm").job
        first, second = job.resins
        self.assertEqual(
            (first.resin_id, second.resin_id, second.hardener_id), ("polyester-general", "epoxy-2-1", "epoxy-2-1-slow")
        )
        self.assertEqual([part.use_id for part in job.parts], ["", ""])
        self.assertEqual(job.joints[0].use_id, second.id)
        self.assertEqual({resin.id for resin in job.materials.resins}, {"polyester-general", "epoxy-2-1"})

    def test_a_job_has_eight_resins_and_no_ninth(self):
        resins = generic().resins[:9]
        line = read("Lid: " + "; ".join(f"{n} x 1 m, {resin.name}" for n, resin in enumerate(resins, 1)))
        self.assertEqual([use.resin_id for use in line.job.resins], [resin.id for resin in resins[:8]])
        (problem,) = line.problems
        self.assertIn("8 resins at most", problem.message)

    def test_the_shops_own_resin_comes_before_the_generic_one_of_its_kind(self):
        own = generic().resins[1].model_copy(update={"id": "mine", "name": "Mudlark 40"})
        shelf = generic().model_copy(update={"resins": (own, *generic().resins)})
        for words in ("epoxy", "mudlark 40"):
            self.assertEqual(read_job_line(f"Hatch: 1 x 1 m, {words}", shelf).job.resins[0].resin_id, "mine")

    def test_as_a_builder_says_it(self):
        job = read("Boat: hull 4.6 x 1.6 m, mould, 300 csm, polyester, 2%; fore deck 1.2 m 0.9 m, 300 cloth").job
        self.assertEqual([part.name for part in job.parts], ["hull", "fore deck"])
        self.assertEqual((job.parts[1].shape.width_m, job.parts[1].shape.length_m), (0.9, 1.2))
        self.assertEqual(job.resins[0].catalyst_pct, 2)
        for words in ("epoxy slow", "epoxy, slow hardener", "laminating epoxy, 2 to 1"):
            line = read(f"Lid: 0.6 x 0.5 m x 2, {words}")
            self.assertEqual(line.problems, ())
            job = line.job
            self.assertEqual(job.parts[0].count, 2)
            if "slow" in words:
                self.assertEqual((job.resins[0].resin_id, job.resins[0].hardener_id), ("epoxy-2-1", "epoxy-2-1-slow"))
        for words in ("fillet R12 6 m", "fillet R 12 mm x 6 m", "fillet 12mm 6m", "fillet 6 m x 12 mm"):
            (joint,) = read(f"Bulkhead: {words}").job.joints
            self.assertEqual((joint.radius_mm, joint.length_m), (12, 6), words)
        self.assertEqual(read("Table: pour 2 m x 10 cm x 4 cm, in oak").job.pours[0].lies_in, "hardwood")
        self.assertEqual(read("Mast: pipe 80 mm x 6 m, vacuum").job.parts[0].process, "vacuum bag")

    def test_what_is_offered_in_its_place_is_understood(self):
        for text in ("Deck: 600x900, plywood", "Deck: 2 x 1 m, 4 layers of 450 biax", "Deck: 2 x 1 m, gel coat"):
            (problem,) = read(text).problems
            mended = text[: problem.start] + problem.offers[0] + text[problem.end :]
            self.assertEqual(read(mended).problems, (), mended)

    def test_without_a_colon_it_is_a_name_and_nothing_else(self):
        for text in ("Hatch 2.4 x 1.1 m", "600 biax", ""):
            job = read(text).job
            self.assertEqual((job.parts, job.joints, job.pours), ((), (), ()))
        self.assertEqual(read("Hatch 2.4 x 1.1 m").job.name, "Hatch 2.4 x 1.1 m")

    def test_tabs_lie_over_the_fillet_they_follow_in_their_order(self):
        joint = read("B: fillet 12 mm x 3 m, tab 60 mm 300 biax, tab 90 mm 450 biax").job.joints[0]
        self.assertEqual([tab.width_mm for tab in joint.tabs], [60, 90])

    def test_a_pair_and_so_many_alike(self):
        job = read("B: 1 x 2 m, pair; 1 x 1 m, 3 of them").job
        self.assertEqual([(part.pair, part.count) for part in job.parts], [(True, 1), (False, 3)])


class Refused(TestCase):
    def test_what_cannot_be_read_is_told_where_it_stands_in_words_to_act_on(self):
        for text, at, words in (
            ("Deck: 2.4 x 1.1, plywood", "2.4 x 1.1", "say the unit, such as 2.4 x 1.1 m"),
            ("Deck: 600x900, plywood", "600x900", "say the unit, such as 600 x 900 mm"),
            ("Deck: 2 x 1 m, 4 layers of 450 biax", "4 layers of ", "4x"),
            ("Deck: 2 x 1 m, gel coat", "gel coat", "say how much of it"),
            ("Deck: 2 x 1 m, epoxy, 2 %", "2 %", "say first a resin that takes one"),
            ("Deck: 2 x 1 m, polyester, 40 %", "40 %", "must be 10 or less"),
            ("Deck: 2 x 1 m, plywoods", "plywoods", "this is no size"),
            ("Deck: 2 x 1 m, 600 bix", "bix", "no fabric known here"),
            ("Deck: 2 x 1 m, slow", "slow", "say the resin before its hardener"),
            ("Deck: 2 x 1 m, polyester, slow", "slow", "has no hardener of that name"),
            ("Deck: tab 90 mm 450 biax", "tab 90 mm 450 biax", "say the fillet first"),
            ("Deck: fillet 12 mm", "fillet 12 mm", "takes 2 sizes"),
            ("Deck: glue 25 mm", "glue 25 mm", "a glue takes 2 sizes"),
            ("Deck: scarf 9 mm", "scarf 9 mm", "a scarf takes 2 sizes"),
            ("Deck: hatch 4 pieces", "hatch 4 pieces", "this is no size"),
            ("Deck: disc 1 x 2 m", "disc 1 x 2 m", "takes one size"),
            ("Deck: 2 x 1 m, 4 mm deep", "4 mm deep", "say the patch first"),
            ("Deck: wood flour", "wood flour", "say the joint first"),
            ("Deck: fillet 12 mm x 6 m, 300 cloth", "300 cloth", "put a ; before it"),
            ("Deck: pair", "pair", "say first of what"),
            ("Deck: 2 x 1 m x999", "2 x 1 m x999", "the count must be 200 or less"),
            ("Deck: fillet 900 mm x 6 m", "fillet 900 mm x 6 m", "the radius, in mm, must be 200 or less"),
            ("Deck: pour 900 x 60 mm", "pour 900 x 60 mm", "takes 3 sizes"),
        ):
            with self.subTest(text=text):
                ((place, message),) = told(text)
                self.assertEqual(place, at)
                self.assertIn(words, message)

    def test_a_name_too_long_and_more_than_a_line_takes(self):
        (problem,) = read("x" * 121 + ": 1 x 1 m").problems
        self.assertIn("120 letters", problem.message)
        line = read("Deck:" + "1 x 1 m;" * 61)
        self.assertEqual((len(line.job.parts), len(line.problems)), (60, 1))

    def test_nothing_that_is_typed_breaks_it(self):
        @given(st.text("0123456789.x, :;mcipbdfols×²/\"'-+@", max_size=60))
        def breaks_nothing(text):
            for problem in read("Deck:" + text).problems:
                self.assertLessEqual(0, problem.start)
                self.assertLessEqual(problem.end, len(text) + 5)

        breaks_nothing()
