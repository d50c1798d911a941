"""Shapes, overlaps and stacks against outside geometry.

Of `layup.laminate.kind`, `layup.laminate.parts`, `layup.laminate.pieces`, `layup.laminate.plies`, `layup.laminate.footprint`.
"""

from math import pi
from unittest import TestCase

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.integrate import quad
from shapely import Point, Polygon, box

from layup.errors import LayupError, Missing, OutOfRange
from layup.job import JobSpec
from layup.laminate.areas import girths_area_m2
from layup.laminate.footprint import flat_sizes
from layup.laminate.measures import measure
from layup.laminate.overlap import advance_m, layers, overlap_for_layers, strips_for
from layup.laminate.weights import fibre_weight_fraction
from layup.plan import plan
from layup.preparing.cutting import cut_plan
from layup.shapes import (
    CylinderSkin,
    Disc,
    FrustumSkin,
    Girths,
    Patch,
    Rectangle,
    Station,
    Strips,
    Trapezoid,
    Triangle,
)
from tests.core.jobs import at, fabric, on, panel

LENGTH = st.floats(0.05, 20)


def stations(at_m, girth_m) -> Girths:
    rows = zip(at_m, girth_m, strict=True)
    return Girths(stations=tuple(Station(id=f"s{n}", at_m=x, girth_m=g) for n, (x, g) in enumerate(rows)))


class Shapes(TestCase):
    """published: plane geometry, by Shapely on the shape as it is drawn."""

    def drawn(self, shape) -> float:
        return sum(Polygon(piece).area for piece in measure(shape).pieces)

    @given(LENGTH, LENGTH, LENGTH)
    def test_drawn_areas_are_the_areas(self, a, b, c):
        for shape in (
            Rectangle(width_m=a, length_m=b),
            Trapezoid(side_a_m=a, side_b_m=b, height_m=c),
            Triangle(base_m=a, height_m=b),
            CylinderSkin(diameter_m=a, length_m=b, around=0.5),
            Strips(width_m=a, length_m=b, sides=3),
        ):
            with self.subTest(shape=shape.kind):
                self.assertAlmostEqual(self.drawn(shape) / measure(shape).area_m2, 1, places=6)

    @given(LENGTH, LENGTH, LENGTH)
    def test_round_shapes_to_the_fineness_of_their_arcs(self, a, b, c):
        assume(abs(a - b) > 0.02 * max(a, b))
        for shape in (Disc(diameter_m=a), FrustumSkin(diameter_a_m=a, diameter_b_m=b, height_m=c)):
            with self.subTest(shape=shape.kind):
                self.assertAlmostEqual(self.drawn(shape) / measure(shape).area_m2, 1, delta=0.02)

    @given(LENGTH, LENGTH)
    def test_a_frustum_is_the_integral_of_its_circles(self, a, height):
        """published: the surface of revolution, by SciPy."""
        b = 0.4 * a
        slant = ((height**2 + ((a - b) / 2) ** 2) ** 0.5) / height
        wanted, _ = quad(lambda x: pi * (a + (b - a) * x / height) * slant, 0, height)
        shape = FrustumSkin(diameter_a_m=a, diameter_b_m=b, height_m=height)
        self.assertAlmostEqual(measure(shape).area_m2 / wanted, 1, places=6)

    @given(st.lists(st.floats(0, 3), min_size=4, max_size=4), st.integers(1, 12), st.floats(0.1, 2))
    def test_simpson_is_exact_for_cubics(self, coefficients, pairs, spacing):
        """published: Simpson's rule integrates a cubic exactly."""
        at_m = [spacing * n for n in range(2 * pairs + 1)]
        cubic = np.polynomial.Polynomial([1, *coefficients[1:]])
        area, rule = girths_area_m2(at_m, [float(cubic(x)) for x in at_m])
        wanted = float(cubic.integ()(at_m[-1]))
        self.assertEqual(rule, "Simpson")
        self.assertAlmostEqual(area / wanted, 1, places=6)

    def test_uneven_stations_go_by_trapezia(self):
        """published: NumPy's trapezium rule."""
        at_m, girth = [0, 0.5, 1.4, 2.0], [0.3, 0.9, 1.0, 0.2]
        area, rule = girths_area_m2(at_m, girth)
        self.assertEqual(rule, "trapezium")
        self.assertAlmostEqual(area, float(np.trapezoid(girth, at_m)))

    def test_stations_out_of_order_are_refused(self):
        for at_m in ([0, 2, 1], [0, 0]):
            with self.subTest(at=at_m), self.assertRaises(OutOfRange):
                measure(stations(at_m, [1] * len(at_m)))

    def test_what_is_not_measured_yet_is_asked_for_at_its_field(self):
        for shape, field in (
            (stations([1], [1]), "stations"),
            (Rectangle(width_m=1), "length_m"),
            (Disc(), "diameter_m"),
        ):
            with self.subTest(field), self.assertRaises(Missing) as told:
                measure(shape)
            self.assertEqual(told.exception.path, field)

    def test_a_patch_steps_over_its_ground(self):
        """published: twelve times the thickness; polygons by Shapely."""
        shape = Patch(width_m=0.2, length_m=0.3, depth_mm=4, taper=12)
        ground = box(0, 0, 0.2, 0.3).buffer(0.048, join_style="mitre")
        measured = measure(shape)
        self.assertAlmostEqual(measured.area_m2, ground.area)
        drawn, hole = map(Polygon, measured.pieces)
        self.assertAlmostEqual(drawn.area, ground.area)
        self.assertAlmostEqual(hole.area, 0.2 * 0.3)
        self.assertTrue(drawn.contains(hole) and drawn.centroid.equals_exact(hole.centroid, 1e-9))


class Overlaps(TestCase):
    @given(st.floats(0, 0.9), st.floats(0.05, 1.5))
    def test_layers_as_counted_across_the_strips(self, overlap, width):
        """exact geometry: strips laid one by one, counted at points well inside."""
        step = advance_m(width, overlap)
        assume(abs(1 / (1 - overlap) - round(1 / (1 - overlap))) > 1e-3)
        starts = step * np.arange(60)[:, None]
        points = np.linspace(20 * step, 40 * step, 4001)[:-1] + step / 7919
        counted = ((starts <= points) & (points < starts + width)).sum(axis=0)
        told = layers(overlap)
        self.assertTrue(told.least <= counted.min() and counted.max() <= told.most)
        self.assertAlmostEqual(counted.mean(), told.mean, delta=0.02 * told.mean)

    @given(st.floats(0.1, 30), st.floats(0.05, 1.5), st.floats(0, 0.9))
    def test_the_least_layers_reach_both_ends_and_one_strip_fewer_does_not(self, run, width, overlap):
        """exact geometry: the first strip is put as far in as full layers at the near end allow."""
        count, step, least = strips_for(run, width, overlap), advance_m(width, overlap), layers(overlap).least

        # The strips that still cover the far end, of so many laid from the near one on.
        def over_the_end(of: int) -> int:
            starts = [step * (n - (least - 1)) for n in range(of)]
            return sum(start < run + 1e-6 and start + width >= run - 1e-6 for start in starts)

        self.assertGreaterEqual(over_the_end(count), least)
        if count > least:
            self.assertLess(sum(step * (n - least + 1) + width >= run + 1e-6 for n in range(count - 1)), least)

    def test_a_third_is_not_three_layers(self):
        """common practice, no source: said "a third", meant three."""
        self.assertEqual((layers(1 / 3).mean, layers(overlap_for_layers(3)).mean), (1.5, 3))
        self.assertEqual(strips_for(2.0, 0.3, overlap_for_layers(3)), 22)

    @given(st.integers(2, 6), st.floats(0.05, 0.4))
    def test_what_is_cut_in_strips_is_never_less_than_what_is_laid(self, count, width):
        """exact: full layers up to both ends; the plan counted three and the cutting table two."""
        ply = {"id": "y", "fabric_id": "cloth-300", "strips": {"width_m": width, "layers": count}}
        job = on(panel("epoxy-2-1", "cloth-300", width_m=0.2, length_m=0.2), plies=[ply])
        laid, cut = plan(job, at(20)).parts[0].plies[0], cut_plan(job)
        cut_m2 = sum(piece.along_mm * piece.across_mm for piece in cut.pieces) / 1e6
        self.assertEqual(laid.strip_count, len(cut.pieces))
        self.assertAlmostEqual(laid.area_m2, count * 0.04)
        self.assertGreaterEqual(cut_m2, laid.area_m2 - 1e-6)

    def test_strips_without_end_are_refused_before_one_is_made(self):
        for width, overlap in ((0.001, 0.5), (0.002, 0.95)):
            ply = {"id": "y", "fabric_id": "cloth-300", "strips": {"width_m": width, "overlap": overlap}}
            answer = plan(on(panel("epoxy-2-1", "cloth-300"), plies=[ply]), at(20))
            self.assertIn("more than 2,000 strips", answer.problems[0].message)
            self.assertEqual(answer.problems[0].path, "parts.0.plies.0.strips.width_m")

    def test_an_overlap_of_all_of_it_gets_nowhere(self):
        with self.assertRaises(OutOfRange):
            advance_m(0.3, 1.0)


class Parts(TestCase):
    def area(self, **part) -> float:
        return plan(on(panel("epoxy-2-1", "cloth-300"), **part), at(20)).parts[0].total_area_m2

    def problem(self, **part) -> str:
        problems = plan(on(panel("epoxy-2-1", "cloth-300"), **part), at(20)).problems
        return f"{problems[0].path}: {problems[0].message}" if problems else ""

    def test_holes_margins_curves_and_pairs(self):
        """published: polygons by Shapely."""
        hole = {"id": "h", "diameter_m": 0.4}
        outline = box(0, 0, 1, 2).buffer(0.05, join_style="mitre")
        wanted = (outline.area - Point(0, 0).buffer(0.2, quad_segs=256).area) * 2
        self.assertAlmostEqual(self.area(cut_outs=[hole], margin_mm=50, pair=True), wanted, places=4)
        self.assertAlmostEqual(self.area(developed_area_factor=1.08, count=3), 2 * 1.08 * 3)

    def test_what_cannot_be_is_said_at_its_field(self):
        self.assertIn("parts.0.cut_outs: the holes are bigger", self.problem(cut_outs=[{"id": "h", "diameter_m": 3}]))
        self.assertIn("parts.0.cut_outs.0.width_m: type the width", self.problem(cut_outs=[{"id": "h"}]))
        self.assertIn("parts.0.shape.diameter_m: type the diameter", self.problem(shape={"kind": "disc"}))
        backwards = stations([0, 2, 1], [1, 1, 1]).model_dump()
        self.assertIn("parts.0.shape.stations: the stations run", self.problem(shape=backwards))
        wide = {"id": "y", "fabric_id": "cloth-300", "strips": {"width_m": 1.5}}
        self.assertIn(
            "parts.0.plies.0.strips.width_m: 300 cloth, twill comes 1\u202f270 mm", self.problem(plies=[wide])
        )

    def test_overlapped_strips_are_so_many_layers_of_glass_and_resin(self):
        half = {"id": "y", "fabric_id": "cloth-300", "strips": {"width_m": 0.5, "overlap": 0.5}}
        once = plan(panel("epoxy-2-1", "cloth-300"), at(20)).parts[0].plies[0]
        twice = plan(on(panel("epoxy-2-1", "cloth-300"), plies=[half]), at(20)).parts[0].plies[0]
        self.assertEqual((twice.layers_least, twice.layers_most, twice.strip_count), (2, 2, 9))
        asked = {"id": "y", "fabric_id": "cloth-300", "strips": {"width_m": 0.5, "layers": 2}}
        self.assertEqual(plan(on(panel("epoxy-2-1", "cloth-300"), plies=[asked]), at(20)).parts[0].plies[0], twice)
        for field in ("area_m2", "fibre_g", "resin_g", "thickness_mm"):
            self.assertAlmostEqual(getattr(twice, field), 2 * getattr(once, field))

    def test_a_patchs_plies_step_from_the_largest_or_the_smallest(self):
        patch = {"kind": "patch", "width_m": 0.2, "length_m": 0.3, "depth_mm": 4, "step_mm": 15}
        stack = [{"id": f"y{n}", "fabric_id": "cloth-300"} for n in range(3)]
        for order, wanted in (("largest first", [45, 30, 15]), ("smallest first", [15, 30, 45])):
            part = plan(on(panel("epoxy-2-1", "cloth-300"), shape=patch | {"order": order}, plies=stack), at(20)).parts[
                0
            ]
            self.assertEqual([ply.extra_mm for ply in part.plies], wanted)
            for ply in part.plies:
                e = ply.extra_mm / 1000
                self.assertAlmostEqual(ply.area_m2, (0.2 + 2 * e) * (0.3 + 2 * e))
            asked = on(panel("epoxy-2-1", "cloth-300"), shape=patch | {"order": order}, plies=stack).parts[0]
            for place, extra_mm in enumerate(wanted):
                (cut,) = flat_sizes(asked, place, measure(asked.shape))
                self.assertEqual(cut, (300 + 2 * extra_mm, 200 + 2 * extra_mm))

    def test_a_ply_lies_on_a_named_strip(self):
        keel = {"id": "k", "name": "keel", "width_m": 0.2, "length_m": 1.8}
        ply = {"id": "y", "fabric_id": "cloth-300", "band_id": "k", "extra_mm": 10}
        part = plan(on(panel("epoxy-2-1", "cloth-300"), bands=[keel], plies=[ply]), at(20)).parts[0]
        self.assertAlmostEqual(part.plies[0].area_m2, 0.22 * 1.82)
        self.assertIn(
            "type the width and the length of the strip “keel”",
            self.problem(bands=[keel | {"width_m": None}], plies=[ply]),
        )
        self.assertIn("is gone", self.problem(plies=[ply]))

    def test_a_partial_ply_is_cut_with_its_own_margin_only(self):
        ply = {"id": "y", "fabric_id": "cloth-300", "extra_mm": 10}
        job = on(
            panel("epoxy-2-1", "cloth-300"), plies=[ply | {"over": {"width_m": 0.5, "length_m": 0.4}}], margin_mm=25
        )
        whole = on(panel("epoxy-2-1", "cloth-300"), plies=[ply], margin_mm=25)
        # The longer side first; the panel is 1 by 2 m.
        for part, wanted in ((job.parts[0], (520, 420)), (whole.parts[0], (2070, 1070))):
            sizes = [sorted(size, reverse=True) for size in flat_sizes(part, 0, measure(part.shape))]
            self.assertEqual([[round(side, 6) for side in size] for size in sizes], [list(wanted)])

    def test_what_comes_off_takes_resin_and_leaves_nothing(self):
        bare = plan(panel("epoxy-2-1", "triax-750"), at(20))
        bagged = plan(panel("epoxy-2-1", "triax-750", "peel-85", "mesh-150", "breather-150"), at(20))
        for field in ("thickness_mm", "laminate_gsm", "fibre_weight_fraction", "resin_in_plies_g"):
            self.assertAlmostEqual(getattr(bagged.parts[0], field), getattr(bare.parts[0], field))
        taken = (70 + 500 + 150) * 2.0
        self.assertAlmostEqual(bagged.resins[0].use.mopped_off_g - bare.resins[0].use.mopped_off_g, taken)

    def test_a_core_is_thick_and_a_peel_ply_comes_off(self):
        document = panel("epoxy-2-1", "cloth-300", "foam-10", "peel-85")
        part = plan(document, at(20)).parts[0]
        cloth, core, peel = part.plies
        self.assertEqual((core.thickness_mm, core.fibre_weight_fraction, peel.stays), (10, None, False))
        self.assertAlmostEqual(part.thickness_mm, cloth.thickness_mm + 10)
        self.assertAlmostEqual(part.fibre_weight_fraction, cloth.fibre_weight_fraction)
        use = plan(document, at(20)).resins[0].use
        self.assertAlmostEqual(use.in_plies_g, cloth.resin_g + core.resin_g)
        self.assertAlmostEqual(use.mopped_off_g, cloth.mopped_off_g + peel.resin_g)


class Processes(TestCase):
    def test_the_bags_column_of_the_table(self):
        """published: ISO 12215-5 table of glass content by mass (from memory)."""
        for name, wanted in (("csm-450", 0.36), ("roving-600", 0.58), ("biax-600", 0.60), ("uni-300", 0.66)):
            with self.subTest(fabric=name):
                found = fibre_weight_fraction(fabric(name), "simple", "lean", "vacuum bag")
                self.assertEqual((found.value, found.mopped_off_share), (wanted, 0))

    def test_infusion_is_memory_and_unknown_is_asked(self):
        self.assertEqual(fibre_weight_fraction(fabric("biax-600"), "simple", "lean", "infusion").value, 0.68)
        self.assertEqual(fibre_weight_fraction(fabric("carbon-200"), "simple", "lean", "infusion").source, "memory")
        for name, process in (("csm-450", "infusion"), ("veil-30", "vacuum bag"), ("carbon-spread-160", "open mould")):
            with self.subTest(fabric=name):
                if name == "carbon-spread-160":
                    self.assertEqual(fibre_weight_fraction(fabric(name), "simple", "as the table", process).value, 0.45)
                    continue
                with self.assertRaises(LayupError):
                    fibre_weight_fraction(fabric(name), "simple", "lean", process)

    def test_an_old_file_still_plans_as_it_did(self):
        job = panel("epoxy-2-1", "cloth-300").model_dump(mode="json")
        for field in ("process", "ground", "cut_outs", "pair", "orientation", "mould_for", "margin_mm"):
            job["parts"][0].pop(field)
        self.assertEqual(
            plan(JobSpec.model_validate(job), at(20)).parts, plan(panel("epoxy-2-1", "cloth-300"), at(20)).parts
        )
