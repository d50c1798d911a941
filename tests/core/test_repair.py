"""A damage and the job it makes: geometry against Shapely, volumes by hand, what is refused, what is told.

Of `layup.repair`.
"""

from math import isclose
from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st
from shapely import box

from layup.damage import Damage
from layup.errors import LayupError, Missing, OutOfRange
from layup.library import generic
from layup.plan import plan
from layup.preparing.preparation import checklist
from layup.repair.begin import ASKED, BED_MM, BED_WIDE_MM, ground_mm, job_of, taper_of
from layup.scales import Scales
from tests.core.jobs import at

LIBRARY = generic()
HOLE = {"kind": "hole through", "width_mm": 80, "length_mm": 140, "skin_mm": 4}
EVERY = (
    {"kind": "crack in the surface coat", "length_mm": 300, "depth_mm": 1.5},
    {"kind": "part way through", "width_mm": 60, "length_mm": 90, "depth_mm": 3, "skin_mm": 6},
    HOLE,
    HOLE | {"back_reached": True},
    {"kind": "skin come loose", "width_mm": 240, "length_mm": 400, "gap_mm": 2},
    {"kind": "blisters", "width_mm": 500, "length_mm": 900},
    {"kind": "crushed core", "width_mm": 120, "length_mm": 200, "skin_mm": 2.5, "core_mm": 12},
)


def begun(**said):
    return job_of(Damage(**said), LIBRARY)


class Made(TestCase):
    def test_every_kind_makes_a_job_that_can_be_planned(self):
        for said in EVERY:
            for look in ("gel coat", "paint", "nothing"):
                with self.subTest(kind=said["kind"], look=look):
                    made = begun(**said, look=look)
                    answer = plan(made.spec, at(20))
                    self.assertEqual([problem.message for problem in answer.problems], [])
                    self.assertTrue(answer.pots)
                    self.assertTrue(all(reason.words and reason.source for reason in made.because))

    def test_the_job_keeps_the_damage_and_tests_it_before_and_after(self):
        made = begun(**HOLE)
        self.assertEqual(made.spec.damage, Damage(**HOLE))
        told = plan(made.spec, at(20))
        before = [line for line in checklist(made.spec, told, at(20).scales) if line.part_id == "patch"]
        self.assertIn("Tap all round it", before[0].words)
        self.assertIn("Grind back", before[1].words)
        cured = {mark.lane: mark.words for mark in told.run_sheet.marks if mark.kind == "full cure"}
        lanes = {lane.owner_id: lane.id for lane in told.run_sheet.lanes}
        self.assertEqual(cured[lanes["patch"]], "full cure; tap, lamp and weight as before it")
        self.assertEqual(cured[lanes["bed"]], "full cure")

    def test_what_is_asked_of_each_kind_is_a_size_it_has(self):
        for kind, asked in ASKED.items():
            for each in asked:
                with self.subTest(kind=kind, field=each.field):
                    whole = next(said for said in EVERY if said["kind"] == kind)
                    with self.assertRaises(Missing) as missing:
                        begun(**{name: value for name, value in whole.items() if name != each.field})
                    self.assertEqual((missing.exception.path, missing.exception.message), (each.field, each.ask))

    def test_the_ground_and_each_ply_against_shapely(self):
        """Outside truth: Shapely's buffer of the hole, its corners kept."""
        made = begun(**HOLE)
        hole = box(0, 0, 0.08, 0.14)
        part = next(each for each in plan(made.spec, at(20)).parts if each.id == "patch")
        ground = hole.buffer(made.drawn.ground_mm / 1000, join_style="mitre")
        self.assertAlmostEqual(part.outline_m2, ground.area, delta=1e-3 * ground.area)
        fabrics = [ply for ply in part.plies if not ply.coat]
        for ply, drawn in zip(fabrics, made.drawn.plies, strict=True):
            around = hole.buffer(drawn.past_mm / 1000, join_style="mitre")
            self.assertAlmostEqual(ply.area_m2, around.area, delta=1e-3 * around.area)
            self.assertTrue(ground.contains(around))

    @given(
        st.floats(10, 400),
        st.floats(10, 400),
        st.floats(0.5, 20),
        st.sampled_from(["little", "as usual", "much"]),
        st.sampled_from(["largest first", "smallest first"]),
        st.one_of(st.none(), st.floats(5, 60)),
        st.booleans(),
    )
    def test_a_patch_never_runs_past_its_ground_and_fills_what_was_ground(
        self, width, length, skin, carries, order, step, reached
    ):
        said = {"width_mm": width, "length_mm": length, "skin_mm": skin, "carries": carries, "order": order}
        try:
            made = job_of(Damage(**said, step_mm=step, back_reached=reached), LIBRARY)
        except LayupError as refused:
            assume(refused.path in ("step_mm", "taper"))
            return
        drawn = made.drawn
        self.assertAlmostEqual(drawn.ground_mm, {"little": 8, "as usual": 12, "much": 20}[carries] * skin)
        pasts = [ply.past_mm for ply in drawn.plies]
        self.assertLessEqual(max(pasts), 0.9 * drawn.ground_mm + 1e-6)
        self.assertEqual(pasts, sorted(pasts, reverse=order == "largest first"))
        one = drawn.plies[0].thickness_mm
        self.assertLessEqual(abs(len(pasts) * one - skin), max(one / 2, one - skin) + 1e-9)

    def test_behind_a_loose_skin_goes_area_times_gap_and_a_fifth_more(self):
        """By hand: 240 × 400 × 2 mm is 192 ml, and with a fifth more 230.4."""
        said = {"kind": "skin come loose", "width_mm": 240, "length_mm": 400, "gap_mm": 2}
        answer = plan(begun(**said).spec, at(20))
        self.assertAlmostEqual(answer.joints[0].paste_ml, 230.4, delta=0.5)

    def test_what_is_wider_than_a_joint_is_spread_in_strips_alike(self):
        """By hand: 1.5 × 2 m and 1 mm is 3 l, and a fifth more 3.6; holes every 60 mm are 25 by 33."""
        made = begun(kind="skin come loose", width_mm=1500, length_mm=2000, gap_mm=1)
        told = plan(made.spec, at(20)).joints[0]
        joint = made.spec.joints[0]
        self.assertEqual((joint.count, joint.width_mm), (2, 750))
        self.assertAlmostEqual(told.paste_ml, 3600, delta=10)
        (words,) = (each.words for each in made.because if each.about == "injected")
        self.assertTrue(words.startswith("825 holes, 60 mm apart"), words)

    def test_a_crack_is_a_v_and_a_backing_is_bedded_all_round(self):
        """By hand: a V of 1.5 mm, twice as wide, over 300 mm is 0.675 ml; a bed of 25 × 1.5 mm round the hole."""
        crack = plan(begun(**EVERY[0]).spec, at(20)).joints[0]
        self.assertAlmostEqual(crack.paste_ml, 0.3 * 1.5 * 1.5, delta=0.01)
        bed = begun(**HOLE).spec.joints[0]
        self.assertAlmostEqual(bed.length_m, 2 * (0.08 + 0.14) + 8 * 0.025)
        self.assertEqual((bed.width_mm, bed.glue_mm), (BED_WIDE_MM, BED_MM))

    def test_one_thing_after_the_other(self):
        """common practice, no source: the backing before the patch, its bed between them where nobody reaches the back."""
        for said, order in (
            (HOLE, ["backing", "bed", "patch"]),
            (HOLE | {"back_reached": True}, ["backing", "patch"]),
            (EVERY[-1], ["bed", "core", "patch"]),
        ):
            answer = plan(begun(**said).spec, at(20))
            owner = {lane.id: lane.owner_id for lane in answer.run_sheet.lanes}
            self.assertEqual(list(dict.fromkeys(owner[pot.lane] for pot in answer.run_sheet.pots)), order)


class Told(TestCase):
    def test_which_resin_by_what_comes_last(self):
        """common practice, no source: gel coat wants polyester, paint takes epoxy; both schools may be chosen."""
        for look, chosen, resin in (
            ("paint", "by what comes last", "epoxy-2-1"),
            ("nothing", "by what comes last", "epoxy-2-1"),
            ("gel coat", "by what comes last", "polyester-general"),
            ("gel coat", "epoxy", "epoxy-2-1"),
            ("paint", "polyester", "polyester-general"),
        ):
            made = begun(**HOLE, look=look, resin=chosen)
            self.assertEqual(made.spec.materials.resins[0].id, resin)
        (risk,) = (
            each.words for each in begun(**HOLE, look="gel coat", resin="epoxy").because if each.about == "resin"
        )
        self.assertIn("at your own risk", risk)

    def test_a_taper_that_was_given_wins(self):
        made = begun(**HOLE, carries="little", taper=30)
        self.assertEqual((made.drawn.taper, made.drawn.ground_mm), (30, 120))
        (words,) = (each.words for each in made.because if each.about == "taper")
        self.assertIn("30 to 1, the figure you gave", words)
        self.assertIn("Ground back 120 mm on every side", words)
        self.assertEqual(taper_of(Damage(carries="much")), 20)
        self.assertEqual(ground_mm(Damage(skin_mm=4, depth_mm=1)), 48)

    def test_what_lies_there_is_laid_again(self):
        made = begun(**HOLE, old_stack="2x 450 csm, 600 biax 45")
        patch = next(part for part in made.spec.parts if part.id == "patch")
        laid = [(ply.fabric_id, ply.angle) for ply in patch.plies if not ply.coat]
        self.assertEqual(laid, [("csm-450", ""), ("csm-450", ""), ("biax-600", "45")])

    def test_wet_is_said_and_dry_is_not(self):
        self.assertIn("dry", {each.about for each in begun(**HOLE, moisture_pct=14).because})
        self.assertNotIn("dry", {each.about for each in begun(**HOLE, moisture_pct=4).because})

    def test_a_reader_in_ounces_reads_no_millimetre(self):
        for said in EVERY:
            made = job_of(Damage(**said), LIBRARY, Scales("US"))
            self.assertFalse([each.words for each in made.because if " mm" in each.words], said["kind"])


class Refused(TestCase):
    def refused(self, **said) -> LayupError:
        with self.assertRaises(LayupError) as caught:
            begun(**said)
        return caught.exception

    def test_what_is_not_measured_is_asked_for_at_its_field(self):
        for said in EVERY:
            for field in [name for name in said if name.endswith("_mm")]:
                error = self.refused(**{name: value for name, value in said.items() if name != field})
                self.assertIsInstance(error, Missing)
                self.assertEqual(error.path, field)

    def test_what_cannot_be_is_refused_at_its_field(self):
        deep = {"kind": "part way through", "width_mm": 60, "length_mm": 90, "depth_mm": 6, "skin_mm": 6}
        for said, path in (
            (HOLE | {"panel_width_mm": 70}, "width_mm"),
            (HOLE | {"panel_length_mm": 140}, "length_mm"),
            (HOLE | {"to_edge_mm": 40}, "to_edge_mm"),
            (HOLE | {"panel_width_mm": 160}, "panel_width_mm"),
            (deep, "depth_mm"),
            (HOLE | {"step_mm": 60}, "step_mm"),
            (HOLE | {"old_stack": "2x 450 nonsense"}, "old_stack"),
            (HOLE | {"old_stack": "250 g/m2 fill"}, "old_stack"),
            (HOLE | {"old_stack": "200x 450 csm, 201x 450 csm"}, "old_stack"),
        ):
            error = self.refused(**said)
            self.assertIsInstance(error, OutOfRange)
            self.assertEqual(error.path, path)

    def test_the_way_out_fits(self):
        """By hand: 40 mm of room for 4 mm of depth is 10 to 1."""
        error = self.refused(**HOLE | {"to_edge_mm": 40})
        self.assertIn("no flatter than 10 to 1", error.message)
        self.assertTrue(isclose(begun(**HOLE | {"to_edge_mm": 40, "taper": 10}).drawn.ground_mm, 40))
