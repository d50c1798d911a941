"""Joints: their shapes and volumes against other geometry, pastes against densities, pots that are run in time.

Of `layup.joints.kind`, `layup.joints.pieces`, `layup.joints.plan`, `layup.joints.answers`, `layup.joints.alone`.
"""

from itertools import pairwise
from math import cos, hypot, pi, radians, sin, tan
from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.integrate import quad
from shapely.geometry import LineString, Point, Polygon

from layup.day.due import PotDone, due_of
from layup.errors import OutOfRange
from layup.joints.filler_log import learned
from layup.joints.tabbing import LEAST_FLAT_MM, lay_strip, next_width_mm
from layup.joints.thickening import CONSISTENCIES, paste_for_volume, paste_from_resin, reaches, recipe_for
from layup.joints.volumes import (
    bag_opening_mm,
    fillet_arc_mm,
    fillet_leg_mm,
    fillet_section_mm2,
    fillet_throat_mm,
    glue_line_ml,
    hole_ml,
    radius_for_leg_mm,
    scarf_face_mm,
)
from layup.library import generic
from layup.plan import plan
from layup.preparing.cutting import pieces_of
from layup.preparing.preparation import checklist
from layup.shop_facts import RoomDay, ShopFacts, StirredFiller
from tests.core.jobs import at, corner, filler, jointed, panel, strips

FILLERS = {each.id: each for each in generic().fillers}
words = st.sampled_from(CONSISTENCIES)
powders = st.sampled_from(generic().fillers)
angles = st.floats(20, 175)


def recipe(powder, consistency="stands", **more):
    return recipe_for(powder, consistency, fillers=FILLERS, **more)


class Shapes(TestCase):
    @given(st.floats(2, 100), angles)
    def test_the_section_against_numerical_integration(self, radius, angle):
        """published geometry: the wedge under the fillet's arc, integrated by SciPy in polar steps from the corner."""
        half = radians(angle) / 2
        centre = radius / sin(half)

        def to_the_arc(turn: float) -> float:
            return centre * cos(turn) - (radius**2 - (centre * sin(turn)) ** 2) ** 0.5

        edge = half * (1 - 1e-9)
        area, _ = quad(lambda turn: to_the_arc(turn) ** 2 / 2, -edge, edge, limit=200)
        self.assertAlmostEqual(fillet_section_mm2(radius, angle) / area, 1, delta=1e-3)

    @given(st.floats(2, 100), angles)
    def test_leg_throat_and_arc_against_shapely(self, radius, angle):
        """published: the circle that touches both faces, as Shapely draws it."""
        half = radians(angle) / 2
        circle = Point(radius / sin(half), 0).buffer(radius, quad_segs=720)
        self.assertAlmostEqual(circle.distance(Point(0, 0)), fillet_throat_mm(radius, angle), delta=radius * 1e-4)
        touches = Point(fillet_leg_mm(radius, angle) * cos(half), fillet_leg_mm(radius, angle) * sin(half))
        self.assertAlmostEqual(circle.exterior.distance(touches), 0, delta=radius * 1e-4)
        self.assertAlmostEqual(fillet_arc_mm(radius, angle), radius * (pi - 2 * half), 9)
        self.assertAlmostEqual(radius_for_leg_mm(fillet_leg_mm(radius, angle), angle) / radius, 1, 9)

    def test_a_right_angle(self):
        """published geometry: at 90° the section is (1 − π/4) r², the leg r, the throat (√2 − 1) r."""
        self.assertAlmostEqual(fillet_section_mm2(10), 21.46, 2)
        self.assertAlmostEqual(fillet_leg_mm(10), 10)
        self.assertAlmostEqual(fillet_throat_mm(10), 4.142, 3)
        for radius, angle in ((0, 90), (10, 0), (10, 180)):
            with self.subTest(radius=radius, angle=angle), self.assertRaises(OutOfRange):
                fillet_section_mm2(radius, angle)

    @given(st.floats(1, 40), st.floats(2, 20))
    def test_a_scarfs_face(self, stock, slope):
        """published geometry: the hypotenuse of the stock and what it runs."""
        self.assertAlmostEqual(scarf_face_mm(stock, slope), hypot(stock, stock * slope), 6)

    def test_lines_holes_and_the_bag(self):
        """exact arithmetic; a bag's corner passes what the section of the bead holds."""
        self.assertAlmostEqual(glue_line_ml(2.0 * 0.03, 0.5, 0.2), 36)
        self.assertAlmostEqual(hole_ml(5, 10), quad(lambda r: 2 * pi * r * 10, 0, 2.5)[0] / 1000, 9)
        self.assertAlmostEqual(pi / 4 * bag_opening_mm(134.1) ** 2, 134.1)


class Tabbing(TestCase):
    def test_the_worked_example(self):
        """memory: a strip of 190 mm over R 25 at 90° ends 100 mm from the corner."""
        self.assertAlmostEqual(lay_strip(190, 25, 90).end_mm, 100.37, 2)

    @given(st.floats(8, 60), st.floats(40, 170), st.floats(0.05, 4), st.floats(100, 400))
    def test_a_strip_lies_along_the_line_it_is_laid_on(self, radius, angle, beneath, width):
        """published: faces and fillet as a Shapely line, offset by what lies beneath; the strip is measured along it."""
        assume(radius - beneath > 1)
        try:
            laid = lay_strip(width, radius, angle, beneath)
        except OutOfRange:
            return
        half, leg = radians(angle) / 2, radius / tan(radians(angle) / 2)
        centre = radius / sin(half)
        spread = (pi - 2 * half) / 2
        turns = [pi - spread + 2 * spread * n / 1000 for n in range(1001)]
        arc = [(centre + radius * cos(turn), radius * sin(turn)) for turn in turns]
        far = leg + 400
        line = LineString([(far * cos(half), far * sin(half)), *arc, (far * cos(half), -far * sin(half))])
        on = line.offset_curve(beneath, quad_segs=200)
        middle = on.length / 2
        reach = Point(on.interpolate(middle + width / 2).coords[0])
        along = reach.x * cos(half) + abs(reach.y) * sin(half)
        self.assertAlmostEqual(along, laid.end_mm, delta=0.01 * width)
        self.assertAlmostEqual(laid.radius_mm, radius - beneath)

    @given(st.integers(1, 5), st.floats(6, 50), st.floats(60, 170))
    def test_the_usual_widths_lie_flat_and_stagger(self, count, radius, angle):
        widths = [next_width_mm(None, radius, angle)]
        for _ in range(count):
            widths.append(next_width_mm(widths[-1], radius, angle))
        laid = [lay_strip(width, radius, angle) for width in widths]
        self.assertTrue(all(strip.flat_mm >= LEAST_FLAT_MM for strip in laid))
        self.assertTrue(all(abs(after.end_mm - one.end_mm - 25) < 1e-6 for one, after in pairwise(laid)))

    def test_under_25_flat_is_refused_with_the_width_that_is_not(self):
        with self.assertRaisesRegex(OutOfRange, "{=90 mm} wide at least") as refused:
            lay_strip(80, 25.5, 90)
        self.assertIn("{=20 mm} flat", refused.exception.message)
        lay_strip(91, 25.5, 90)


class Pastes(TestCase):
    @given(st.floats(10, 5000), powders, words, st.floats(0.9, 1.4))
    def test_the_volumes_of_what_goes_in_are_the_volume(self, volume, powder, consistency, density):
        """exact: each mass over its true density; loose volumes by their bulk."""
        paste = paste_for_volume(volume, recipe(powder, consistency), density)
        solids = sum(paste.grams(part) / part.filler.true_density_g_per_cm3 for part in paste.recipe)
        self.assertAlmostEqual((paste.resin_g / density + solids) / volume, 1, 9)
        for part in paste.recipe:
            loose = paste.grams(part) / part.filler.bulk_density_g_per_l * 1000
            self.assertAlmostEqual(loose, paste.loose_ml(part), 6)
        self.assertAlmostEqual(paste.density_g_per_ml * volume, paste.mass_g, 6)
        self.assertAlmostEqual(paste.filler_mass_fraction, paste.filler_g / (paste.resin_g + paste.filler_g), 9)

    @given(st.floats(10, 2000), powders, words)
    def test_both_ways_are_one(self, grams, powder, consistency):
        there = paste_from_resin(grams, recipe(powder, consistency), 1.115)
        back = paste_for_volume(there.volume_ml, there.recipe, 1.115)
        self.assertAlmostEqual(back.resin_g, grams, 6)

    def test_filler_by_mass_stays_in_the_trades_range(self):
        """memory: parts of filler for 100 of resin, by weight."""
        ranges = {
            "silica": (2, 9),
            "wood-flour": (6, 28),
            "microfibres": (4, 20),
            "milled-glass": (20, 68),
            "glass-spheres": (4, 20),
            "phenolic-spheres": (4, 20),
        }
        self.assertEqual(set(ranges), set(FILLERS))
        for name, (low, high) in ranges.items():
            for consistency in CONSISTENCIES:
                with self.subTest(filler=name, consistency=consistency):
                    paste = paste_from_resin(100, recipe(FILLERS[name], consistency), 1.115)
                    self.assertTrue(low <= round(paste.filler_parts_per_100_resin) <= high)

    @given(powders, st.floats(0.05, 4), st.floats(0, 4))
    def test_more_filler_never_lowers_the_consistency(self, powder, parts, more):
        order = [None, *CONSISTENCIES]
        self.assertGreaterEqual(order.index(reaches(powder, parts + more)), order.index(reaches(powder, parts)))

    @given(powders, words)
    def test_stiffer_takes_more_filler_and_less_resin(self, powder, consistency):
        softer = [paste_for_volume(500, recipe(powder, word), 1.115) for word in CONSISTENCIES]
        for one, after in pairwise(softer):
            self.assertGreaterEqual(after.filler_g, one.filler_g)
            self.assertLessEqual(after.resin_g, one.resin_g)

    @given(powders, powders, st.floats(0.05, 0.95), words)
    def test_a_blend_lies_between_its_two(self, one, other, share, consistency):
        assume(one.id != other.id)
        grams = [
            sum(part.g_per_resin_ml for part in mixed)
            for mixed in (
                recipe(one.model_copy(update={"helper_id": "", "helper_parts": None}), consistency),
                recipe(one, consistency, second=other, second_share=share),
                recipe(other.model_copy(update={"helper_id": "", "helper_parts": None}), consistency),
            )
        ]
        self.assertTrue(min(grams[0], grams[2]) - 1e-9 <= grams[1] <= max(grams[0], grams[2]) + 1e-9)

    def test_silica_adds_little_volume_and_spheres_much(self):
        """memory: what builders notice in the cup."""
        volume = {name: paste_from_resin(100, recipe(FILLERS[name]), 1.115).volume_ml for name in FILLERS}
        plain = 100 / 1.115
        self.assertLess(volume["silica"] / plain, 1.06)
        self.assertGreater(volume["glass-spheres"] / plain, 1.8)

    def test_a_mix_that_would_not_wet_is_refused(self):
        dense = filler("milled-glass")
        with self.assertRaisesRegex(OutOfRange, "will not wet"):
            recipe(dense, own_parts=5)


class Learning(TestCase):
    @given(
        powders,
        st.lists(st.tuples(words, st.floats(0.3, 3)), min_size=1, max_size=12),
    )
    def test_the_four_stay_in_their_order_and_between_table_and_log(self, powder, seen):
        log = [StirredFiller(filler_id=powder.id, consistency=c, parts=powder.parts(c) * by) for c, by in seen]
        now = learned(powder, log)
        parts = [now.filler.parts(word) for word in CONSISTENCIES]
        self.assertEqual(parts, sorted(parts))
        self.assertEqual(sum(now.pots.values()), len(log))
        low, high = min(1, *(by for _, by in seen)), max(1, *(by for _, by in seen))
        self.assertTrue(low - 1e-9 <= now.filler.parts_runs / powder.parts_runs <= high + 1e-9)

    def test_many_pots_own_the_number_and_one_moves_it(self):
        flour = filler("wood-flour")
        pot = StirredFiller(filler_id=flour.id, consistency="stands", parts=1.75)
        one, many = (learned(flour, [pot] * count).filler.parts_stands for count in (1, 40))
        self.assertTrue(1.45 < one < 1.72 < many < 1.75)
        self.assertEqual(learned(flour, [pot]).told_by("stands"), "shop log, 1 pot")
        self.assertIn("memory", learned(flour, [pot]).told_by("runs"))

    def test_the_plan_stirs_in_what_the_shop_found(self):
        pot = StirredFiller(filler_id="wood-flour", consistency="stands", parts=1.75)
        facts = at(20).model_copy(update={"stirred": (pot,) * 5})
        before, after = (plan(jointed(corner()), shop).joints[0] for shop in (at(20), facts))
        self.assertGreater(after.filler_loose_ml, 1.1 * before.filler_loose_ml)
        self.assertEqual(after.fillers[0].told_by, "shop log, 5 pots")


class Planned(TestCase):
    def faults(self, *joints, **changes) -> dict[str, str]:
        return {problem.path: problem.message for problem in plan(jointed(*joints, **changes), at(20)).problems}

    @given(st.floats(6, 40), st.floats(1, 20), st.floats(60, 150), st.integers(1, 2))
    def test_a_larger_radius_never_needs_less(self, radius, more, angle, sides):
        small, large = (
            plan(jointed(corner(radius_mm=r, angle_deg=angle, sides=sides, tabs=strips(320))), at(20)).joints[0]
            for r in (radius, radius + more)
        )
        for figure in ("paste_ml", "wet_out_g", "smoothing_g", "all_resin_g"):
            self.assertGreaterEqual(getattr(large, figure) + 1e-9, getattr(small, figure), figure)

    def test_every_gram_of_resin_is_on_the_work_or_told(self):
        """conservation: what the pots lay is what the joints take, and what the fillers thicken is what went in."""
        tabbed = corner(count=2, sides=2, glue_mm=0.5, tabs=strips(100, 150), applied="from a bag")
        line = {"kind": "glue line", "length_m": 3, "width_mm": 30, "filler_id": "silica", "second_id": "wood-flour"}
        answer = plan(jointed(tabbed, line, pots={"hands": 2}), at(20))
        self.assertFalse(answer.problems or answer.stuck)
        laid = sum(pot.count * pot.laid_g for pot in answer.pots)
        self.assertAlmostEqual(laid, sum(joint.all_resin_g for joint in answer.joints), 6)
        self.assertAlmostEqual(answer.resins[0].use.in_joints_g, laid, 6)
        for joint in answer.joints:
            pastes = [pot for pot in answer.pots if pot.owner_id == joint.id and pot.ticket.thickened]
            self.assertTrue(pastes)
            for pot in pastes:
                thick = pot.ticket.thickened
                stirred = pot.mass_g - thick.aside_g
                wanted = joint.filler_parts_per_100_resin / 100
                self.assertAlmostEqual(sum(row.grams for row in thick.fillers) / stirred, wanted, 6)
                self.assertAlmostEqual(thick.scale_shows_g, 20 + stirred * (1 + wanted), 3)
            bead = sum(pot.count * pot.ticket.thickened.bead_m for pot in pastes)
            self.assertAlmostEqual(bead, joint.run_m, 6)

    def test_a_bag_keeps_a_shorter_life_than_a_board(self):
        """memory: thick, a paste keeps its heat; spread on a board it lasts longer."""
        bag, stick = (
            plan(jointed(corner(length_m=6, applied=way)), at(20)).pots[-1] for way in ("from a bag", "with a stick")
        )
        self.assertLess(bag.life_min, stick.life_min)
        self.assertLess(bag.mass_g, stick.mass_g)
        self.assertIn("Cut the corner", " ".join(bag.ticket.thickened.load))

    def test_one_pot_too_big_is_told_with_the_pots_it_takes(self):
        long = corner(length_m=12, applied="from a bag")
        said = self.faults(long | {"wished_pots": 1})["joints.0.wished_pots"]
        self.assertRegex(
            said, r"one pot at 20 °C: .* takes \d+ min to mix and run, and must be used within \d+; take (\d+) pots of"
        )
        needed = int(said.split("take ")[1].split(" ")[0])
        self.assertNotIn("joints.0.wished_pots", self.faults(long | {"wished_pots": needed}))
        # In a room that warms it takes more than the room as read would, and that is what is told.
        warming = at(20, day=RoomDay(coldest_c=18, warmest_c=25))
        for wished in range(1, 20):
            answer = plan(jointed(long | {"wished_pots": wished}), warming)
            made = sum(pot.count for pot in answer.pots if pot.ticket.thickened)
            self.assertEqual(bool(answer.problems), made > wished, wished)
            if not answer.problems:
                break
        self.assertGreater(wished, needed)
        answer = plan(jointed(long | {"wished_pots": needed + 2}), at(20))
        pastes = [pot for pot in answer.pots if pot.ticket.thickened]
        self.assertEqual(sum(pot.count for pot in pastes), needed + 2)
        self.assertTrue(all(pot.chance_lost < 0.02 for pot in pastes))

    def test_bad_input_is_said_at_its_field(self):
        faults = self.faults
        self.assertIn("choose a glue line", faults(corner(angle_deg=0))["joints.0.angle_deg"])
        self.assertIn("flat seam", faults(corner(angle_deg=180))["joints.0.angle_deg"])
        self.assertIn("R 15 mm at most", faults(corner(radius_mm=30, face_mm=15))["joints.0.radius_mm"])
        self.assertIn(
            "90 mm wide at least", faults(corner(radius_mm=25.4, tabs=strips(60)))["joints.0.tabs.0.width_mm"]
        )
        self.assertIn("face is 60 mm", faults(corner(face_mm=60, tabs=strips(180)))["joints.0.tabs.0.width_mm"])
        self.assertIn("will not wet", faults(corner(filler_id="milled-glass", own_parts=6))["joints.0.own_parts"])
        self.assertIn("how wide", faults({"kind": "gap", "length_m": 1, "filler_id": "silica"})["joints.0.width_mm"])
        self.assertEqual(faults({})["joints.0.filler_id"], "choose the filler")
        self.assertIn(
            "choose the fabric", faults(corner(tabs=[{"id": "t", "width_mm": 90}]))["joints.0.tabs.0.fabric_id"]
        )

    def test_what_is_not_typed_is_asked_for_before_a_resin_is_chosen_or_where_it_cannot_be_used(self):
        asked = {"joints.0.length_m", "joints.0.radius_mm", "joints.0.filler_id"}
        for job, facts in ((jointed({}, in_use={}), at(20)), (jointed({}), at(48))):
            answer = plan(job, facts)
            self.assertTrue(asked <= {problem.path for problem in answer.problems})
            self.assertEqual(next(step.state for step in answer.steps if step.step == "joints"), "to do")

    def test_a_flat_seam_takes_strips_and_no_fillet(self):
        seam = {"angle_deg": 180, "length_m": 2, "tabs": strips(80, 130)}
        answer = plan(jointed(seam), at(20))
        self.assertFalse(answer.problems)
        joint = answer.joints[0]
        self.assertEqual((joint.flat, joint.paste_ml), (True, 0))
        self.assertEqual([tab.end_mm for tab in joint.tabs], [40, 65])
        self.assertFalse(any(pot.ticket.thickened for pot in answer.pots))

    def test_lengths_overlapped_by_a_third_build_more_layers_and_take_more_fabric(self):
        one, lengths = (
            plan(jointed(corner(length_m=3, tabs=strips(100, 150), tab_piece_m=piece)), at(20)).joints[0]
            for piece in (None, 1.0)
        )
        self.assertIn("2 layers", one.layers_words)
        self.assertIn("2 to 4 layers", lengths.layers_words)
        self.assertAlmostEqual(lengths.tabs[0].area_m2, 4 * 1.0 * 0.1)
        self.assertGreater(lengths.tabs_resin_g, 1.3 * one.tabs_resin_g)


class InTheOrderOfTheWork(TestCase):
    def layers(self, *joints, **changes) -> list:
        sheet = plan(jointed(*joints, **changes), at(20)).run_sheet
        return [(layer.lane, layer.words.split(",")[0].split(" R ")[0], layer) for layer in sheet.layers]

    def test_faces_out_of_reach_come_first_then_what_is_put_together_on_wood(self):
        """common practice, no source: a fillet on wood goes before what covers it, one on a laminate after that is laid."""
        joints = [corner(id="on-it", substrate="sanded laminate"), corner(id="open"), corner(id="shut", hidden=True)]
        job = panel("epoxy-2-1", "cloth-300").model_dump()
        job["materials"]["fillers"] = [filler("wood-flour").model_dump()]
        job["joints"] = joints
        answer = plan(type(panel("epoxy-2-1")).model_validate(job), at(20))
        firsts = list(dict.fromkeys(layer.lane for layer in answer.run_sheet.layers))
        self.assertEqual(firsts, ["shut", "open", "p", "on-it"])

    def test_wet_under_its_tabbing_or_cured_and_sanded(self):
        tabbed = corner(tabs=strips(100))
        wet = self.layers(tabbed, practice={"paste_on_wood": "after tack"})
        self.assertEqual([words for _, words, _ in wet], ["wet out the faces", "fillet", "strip 1"])
        self.assertGreaterEqual(wet[1][2].from_min, wet[0][2].opens_min)
        self.assertLess(wet[2][2].from_min - wet[1][2].to_min, 10)
        # The other school, and the default: straight onto the wet coat.
        straight = self.layers(tabbed)
        self.assertLess(straight[1][2].from_min - straight[0][2].to_min, 12)
        cured = self.layers(tabbed, practice={"tabbing": "cured and sanded"})
        self.assertEqual(cured[2][2].mended, "sand, wipe")
        self.assertGreater(cured[2][2].from_min - cured[1][2].to_min, 4 * 60)

    def test_ground_that_does_not_drink_is_not_waited_for(self):
        glass = self.layers(corner(substrate="sanded laminate", length_m=6, tabs=strips(100)))
        self.assertLess(glass[1][2].from_min - glass[0][2].to_min, 8)

    def test_squeeze_out_and_fixings_have_their_hour(self):
        held = corner(fixings="8 temporary screws with washers")
        marks = {mark.kind: mark for mark in plan(jointed(held), at(20)).run_sheet.marks}
        self.assertEqual(marks["clamps"].words, "take out: 8 temporary screws with washers")
        # Paste has no edge of fabric to trim.
        self.assertLess(marks["squeeze-out"].at_min, marks["sand"].at_min)
        self.assertNotIn("trim", marks)
        taped = plan(jointed(held | {"tabs": strips(100)}), at(20)).run_sheet.marks
        self.assertIn("trim", {mark.kind for mark in taped})
        answer = plan(jointed(held), at(20))
        poured = [PotDone(pot.first, answer.resins[0].chemistry.clocks.sandable_min + 1, False) for pot in answer.pots]
        self.assertIn("take out: 8 temporary screws with washers from", [due.words for due in due_of(answer, poured)])
        for joint, first in ((held, "sand from"), (held | {"tabs": strips(100)}, "trim with a knife from")):
            answer = plan(jointed(joint), at(20))
            words = [due.words for due in due_of(answer, [PotDone(pot.first, 5, False) for pot in answer.pots])]
            self.assertEqual(words[:1], [first])
        lines = checklist(jointed(held), plan(jointed(held), at(20)), at(20).scales)
        self.assertTrue(any(line.gate and "temporary screws" in line.words for line in lines))

    def test_strips_are_cut_copy_by_copy_and_side_by_side(self):
        tabbed = corner(count=2, sides=2, length_m=1.1, tabs=strips(90, 140))
        pieces = list(pieces_of(jointed(tabbed, corner(hidden=True, id="shut", tabs=[strips(100)[0] | {"id": "h"}]))))
        self.assertEqual(len(pieces), 1 + 2 * 2 * 2)
        self.assertEqual((pieces[0].part_id, pieces[0].number), ("shut", 1))
        self.assertEqual([(piece.along_mm, piece.across_mm) for piece in pieces[1:3]], [(1100, 90), (1100, 140)])

    def test_two_hundred_joints(self):
        many = [corner(id=f"c{n}", length_m=0.5 + n / 200, radius_mm=8 + n % 20) for n in range(200)]
        answer = plan(jointed(*many), ShopFacts())
        self.assertEqual(len(answer.joints), 200)
        self.assertEqual({pot.owner_id for pot in answer.pots}, {f"c{n}" for n in range(200)})


class Polygons(TestCase):
    def test_a_section_against_polygon_geometry(self):
        """published: Shapely's area of the wedge less its circle, 2000 points on the arc."""
        for angle in (40, 60, 90, 120, 150, 170):
            half = radians(angle) / 2
            leg, centre = fillet_leg_mm(25, angle), 25 / sin(half)
            kite = Polygon(
                [(0, 0), (leg * cos(half), leg * sin(half)), (centre, 0), (leg * cos(half), -leg * sin(half))]
            )
            wedge = kite.difference(Point(centre, 0).buffer(25, quad_segs=500))
            with self.subTest(angle=angle):
                self.assertAlmostEqual(fillet_section_mm2(25, angle) / wedge.area, 1, delta=1e-3)
