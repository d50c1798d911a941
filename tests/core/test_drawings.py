"""What drawings show, measured on the shapes themselves, and the prints that carry them.

Of `layup.joints.corner_picture`, `layup.joints.corner_print`, `layup.preparing.cut_pictures`, `layup.day.run_sheet_pictures`,
`layup.laminate.section_picture`, `layup.laminate.section_print`. Areas and places against the closed forms of the chapters
that they draw, by Shapely.
"""

import io
from datetime import date, datetime, timedelta
from itertools import pairwise
from math import radians, tan
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader
from shapely import Polygon

from cradle.demo_jobs import buoy_lid, foam_hatch, skiff
from layup.day.day_list import clock_words
from layup.day.run_sheet_pictures import LEFT, day_drawn, days_of
from layup.job import Joint
from layup.joints.corner_picture import EDGE_TO_EDGE_FROM_DEG, LEAST_STRIP, corner_drawn
from layup.joints.corner_print import joints_pdf
from layup.joints.volumes import fillet_section_mm2
from layup.laminate.section_picture import BOTTOM, TOP, section_drawn
from layup.laminate.section_print import laminate_pdf
from layup.paper.kit import Masthead
from layup.paper.shapes import Picture, Shape
from layup.plan import plan
from layup.preparing.cut_pictures import roll_drawn
from layup.preparing.cutting import cut_plan
from layup.scales import METRIC, Scales
from tests.core.jobs import DAY, LONDON, at, corner, jointed, panel, shed, strips, wishing

HEAD = Masthead("Skiff", 4, date(2026, 5, 4))


def polygon(shape: Shape) -> Polygon:
    return Polygon(list(zip(shape.points[::2], shape.points[1::2], strict=True)))


def texts(picture: Picture) -> list[Shape]:
    return [shape for shape in picture.shapes if shape.kind == "text"]


def words_of(content: bytes) -> str:
    return " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(content)).pages).split())


class Corners(TestCase):
    def drawn(self, **changes):
        job = jointed(corner(**changes))
        result = plan(job, at(20)).joints[0]
        picture = corner_drawn(job.joints[0], result)
        outlines = [polygon(shape) for shape in picture.shapes if shape.kind == "fill"]
        base = outlines[0]
        scale = (base.bounds[3] - base.bounds[1]) / job.joints[0].panel_thickness_mm
        return picture, result, outlines, scale

    @settings(max_examples=12, deadline=None)
    @given(st.integers(8, 40), st.integers(60, 130), st.sampled_from([1, 2]))
    def test_panels_fillets_and_strips_are_to_one_scale(self, radius_mm, angle_deg, sides):
        picture, result, outlines, scale = self.drawn(
            radius_mm=radius_mm, angle_deg=angle_deg, sides=sides, tabs=strips(260, 330)
        )
        base, upright, *laid = outlines
        # Stitched edge to edge, or the square end of the one dips into the other where it leans back.
        stitched = sides == 1 and angle_deg > EDGE_TO_EDGE_FROM_DEG
        dips = 0.0 if stitched or angle_deg <= 90 else -1 / tan(radians(angle_deg)) / 2
        self.assertAlmostEqual(base.intersection(upright).area, dips * (6 * scale) ** 2, delta=0.6)
        a_side = len(laid) // sides
        self.assertEqual((len(laid), a_side), (3 * sides, 3))
        for side, angle in enumerate((angle_deg, 180 - angle_deg)[:sides]):
            fillet, *strip = laid[side * a_side : (side + 1) * a_side]
            section = fillet_section_mm2(radius_mm, angle) * scale**2
            self.assertAlmostEqual(fillet.area / section, 1, delta=0.02)
            for tab, outline in zip(result.tabs, strip, strict=True):
                self.assertLess(outline.intersection(fillet).area, 0.02 * fillet.area)
                thick = max(tab.thickness_mm * scale, LEAST_STRIP)
                self.assertAlmostEqual(outline.area / thick, tab.width_mm * scale, delta=0.15 * tab.width_mm * scale)
        left, top, right, foot = (f(o.bounds[n] for o in outlines) for n, f in enumerate((min, min, max, max)))
        self.assertTrue(left >= -0.5 and top >= 0 and right <= picture.wide + 0.5 and foot <= picture.tall)

    def test_a_strip_ends_where_it_is_said_to_end(self):
        _, result, outlines, scale = self.drawn(radius_mm=25, angle_deg=90, tabs=strips(190))
        corner_x = outlines[2].bounds[0]
        ends = outlines[3].bounds[2] - corner_x
        # Worked by hand in `layup.joints.tabbing`: 190 wide over a 25 mm fillet ends 100.4 mm out.
        self.assertAlmostEqual(ends / scale, 100.4, delta=0.1)
        self.assertAlmostEqual(result.tabs[0].end_mm, 100.4, delta=0.05)

    def test_what_is_told_is_the_corners(self):
        picture, result, *_ = self.drawn(radius_mm=20, angle_deg=120, panel_thickness_mm=9, tabs=strips(120))
        said = [shape.text for shape in texts(picture)]
        leg = 20 / tan(radians(60))
        self.assertEqual(said[0], f"fillet R 20 mm at 120° between 9 mm panels: leg {leg:.1f} mm, throat 3.1 mm")
        self.assertEqual(
            said[1], f"strip 1: 450 biaxial, 120 mm wide, ends {result.tabs[0].end_mm:.1f} mm from the corner"
        )
        self.assertIn(said[0], picture.words)

    def test_a_flat_seam_has_its_strips_over_the_middle(self):
        picture, result, outlines, scale = self.drawn(angle_deg=180, radius_mm=None, tabs=strips(80, 120))
        laid = outlines[1:]
        self.assertEqual(len(laid), 2)
        seam = next(shape.points[0] for shape in picture.shapes if shape.kind == "line" and shape.thick == 2)
        for tab, outline in zip(result.tabs, laid, strict=True):
            left, _, right, _ = outline.bounds
            self.assertAlmostEqual((left + right) / 2, seam, delta=0.01)
            self.assertAlmostEqual(right - left, tab.width_mm * scale, delta=0.01)
        self.assertLess(laid[1].bounds[3], laid[0].bounds[3])

    def test_the_print_says_what_each_joint_takes(self):
        job = skiff()
        answer = plan(job, at(20))
        said = words_of(joints_pdf(HEAD, job.joints, answer.joints))
        for joint, result in zip(job.joints, answer.joints, strict=True):
            self.assertIn(f"Resin in all {METRIC.mass(result.all_resin_g)}", said)
            self.assertIn(f"paste {METRIC.words('volume', result.paste_ml)} ({METRIC.mass(result.paste_g)})", said)
            self.assertIn(joint.name + (f", {joint.count} alike" if joint.count > 1 else ""), said)
            for step in result.steps:
                self.assertIn(step.words, said)
        self.assertIn("not worked out yet", words_of(joints_pdf(HEAD, [Joint(id="j")], [])))


class Rolls(TestCase):
    def test_stretches_show_every_piece_once_and_whole(self):
        """The white of all stretches together is the area of the pieces, wherever the roll is parted."""
        for job in (skiff(), buoy_lid()):
            for roll in cut_plan(job).rolls:
                run, wanted = roll.run_m * 1000, sum(p.along_mm * p.across_mm for p in roll.pieces)
                for parts, scale in ((1, 0.1), (3, 0.25)):
                    white = 0.0
                    for start, end in pairwise(run * n / parts for n in range(parts + 1)):
                        picture = roll_drawn(roll, METRIC, scale, (start, end))
                        cloth, *pieces = [shape for shape in picture.shapes if shape.kind == "box"]
                        self.assertAlmostEqual(cloth.points[2], (end - start) * scale, places=6)
                        self.assertAlmostEqual(cloth.points[3], roll.roll_width_mm * scale, places=6)
                        white += sum(piece.points[2] * piece.points[3] for piece in pieces)
                        for piece in pieces:
                            x, y, wide, deep = piece.points
                            self.assertTrue(x >= -1e-6 and x + wide <= cloth.points[2] + 1e-6)
                            self.assertTrue(y >= -1e-6 and y + deep <= cloth.points[3] + 1e-6)
                    self.assertAlmostEqual(white / scale**2, wanted, delta=1e-6 * wanted)

    def test_words_stay_in_their_piece_and_the_tape_counts_the_length(self):
        roll = cut_plan(skiff()).rolls[0]
        for scales, metres in ((METRIC, 1.0), (Scales("US"), 0.9144)):
            picture = roll_drawn(roll, scales, 0.12)
            cloth, *pieces = [shape for shape in picture.shapes if shape.kind == "box"]
            foot = cloth.points[3]
            inside = [text for text in texts(picture) if text.points[1] <= foot]
            for text in inside:
                middle, y = text.points
                self.assertTrue(
                    any(
                        x <= middle - text.reach() / 2
                        and middle + text.reach() / 2 <= x + wide
                        and top < y <= top + deep
                        for x, top, wide, deep in (piece.points for piece in pieces)
                    ),
                    text.text,
                )
            self.assertEqual(
                {text.text for text in inside if text.bold},
                {str(piece.number) for piece in roll.pieces if piece.number},
            )
            marks = {text.text: text.points[0] for text in texts(picture) if text.points[1] > foot}
            self.assertEqual(len(marks), int(roll.run_m / metres) + 1)
            for said, x in marks.items():
                self.assertAlmostEqual(x, float(said.split()[0]) * metres * 1000 * 0.12, delta=0.01)


class RunSheets(TestCase):
    def ticks(self, answer) -> list[tuple[str, float]]:
        (stretch,) = days_of(answer.run_sheet, LONDON)
        picture = day_drawn(answer, LONDON, *stretch, 900, METRIC)
        return [(text.text, text.points[0]) for text in texts(picture) if text.points[1] == 12]

    def test_an_hour_shown_twice_is_written_twice(self):
        """The clock of London goes back at 02:00 on 25 October 2026 (published, the zone's rules)."""
        start = datetime(2026, 10, 25, 0, 30, tzinfo=LONDON)
        day = shed(today=date(2026, 10, 25), time_zone="Europe/London", opens_h=0, closes_h=24)
        answer = plan(wishing(panel("epoxy-2-1", "cloth-300", "biax-450", "cloth-300", length_m=6), start=start), day)
        ticks = self.ticks(answer)
        places = [x for _, x in ticks]
        self.assertEqual(places, sorted(places))
        begun = answer.run_sheet.start_at.astimezone(LONDON)
        for minute in (0, 60, 120, 180):
            local = (answer.run_sheet.start_at + timedelta(minutes=minute)).astimezone(LONDON)
            self.assertEqual(clock_words(answer.run_sheet, minute, LONDON), f"{local:%H:%M}")
        self.assertEqual(begun.utcoffset(), timedelta(hours=1))
        hours = [said for said, _ in ticks if said.endswith(":00")]
        self.assertEqual(hours.count("01:00"), 2, ticks)

    def test_a_tick_stands_over_its_minute(self):
        answer = plan(wishing(skiff(), start=datetime(2026, 5, 4, 9, tzinfo=LONDON)), shed(today=DAY))
        (stretch,) = days_of(answer.run_sheet, LONDON)
        begin, end = stretch
        for said, x in self.ticks(answer):
            minute = begin + (x - LEFT) / (900 - LEFT - 16) * (end - begin)
            local = (answer.run_sheet.start_at + timedelta(minutes=minute)).astimezone(LONDON)
            self.assertEqual(said, f"{local + timedelta(seconds=30):%H:%M}")

    def test_a_long_name_is_written_whole_and_over_nothing(self):
        job = skiff()
        name = "Bottom planking, port and starboard, outside, below the second chine"
        job = job.model_copy(update={"parts": (job.parts[0].model_copy(update={"name": name}), *job.parts[1:])})
        answer = plan(wishing(job, start=datetime(2026, 5, 4, 9, tzinfo=LONDON)), shed(today=DAY))
        (stretch,) = days_of(answer.run_sheet, LONDON)
        picture = day_drawn(answer, LONDON, *stretch, 900, METRIC)
        lanes = [text for text in texts(picture) if text.points[0] == 0]
        self.assertIn(name.replace(" ", ""), "".join(text.text for text in lanes).replace(" ", ""))
        for text in lanes:
            self.assertLessEqual(text.reach(), LEFT)
        for one, other in pairwise(sorted(text.points[1] for text in lanes)):
            self.assertGreaterEqual(other - one, 8)


class Sections(TestCase):
    def test_plies_lie_on_one_another_and_labels_apart(self):
        part = plan(foam_hatch(), at(20)).parts[0]
        picture = section_drawn(part)
        plies = [shape for shape in picture.shapes if shape.id]
        self.assertAlmostEqual(plies[0].points[1] + plies[0].points[3], BOTTOM, places=6)
        self.assertAlmostEqual(plies[-1].points[1], TOP, places=6)
        for lower, upper in pairwise(plies):
            self.assertAlmostEqual(upper.points[1] + upper.points[3], lower.points[1], places=6)
        labels = [
            text.points[1] for text in texts(picture) if text.size == 15 and text.text in {p.name for p in part.plies}
        ]
        self.assertTrue(all(below - above >= 33 for below, above in pairwise(labels)), labels)

    def test_the_rule_up_the_side_measures_the_plies(self):
        part = plan(foam_hatch(), at(20)).parts[0]
        for scales, mm in ((METRIC, 1.0), (Scales("US"), 25.4)):
            marks = [text for text in texts(section_drawn(part, scales)) if text.size == 13 and text.text[0].isdigit()]
            self.assertTrue(4 <= len(marks) <= 10)
            for mark in marks:
                up = (BOTTOM + 5 - mark.points[1]) * part.thickness_mm / (BOTTOM - TOP)
                self.assertAlmostEqual(up, float(mark.text) * mm, delta=0.01)

    def test_the_print_has_every_ply_with_its_weights(self):
        job = buoy_lid()
        (part,) = plan(job, at(20)).parts
        said = words_of(laminate_pdf(HEAD, [part]))
        for ply in part.plies:
            told = f"{METRIC.words('areal_weight', ply.resin_gsm)}"
            share = "" if ply.fibre_weight_fraction is None else f" {100 * ply.fibre_weight_fraction:.0f} %"
            fibre = "" if not share else f" {METRIC.words('areal_weight', ply.fibre_gsm)}"
            self.assertIn(f"{ply.name}{fibre} {told}{share} {METRIC.words('thickness', ply.thickness_mm)}", said)
        self.assertIn(f"{METRIC.words('area', part.area_m2)} on {part.substrate}", said)
        self.assertIn(f"fibre {METRIC.mass(part.fibre_g)}", said)
        self.assertNotIn("wet-out 0", said)
        bare = part.model_copy(update={"plies": (), "count": 3})
        self.assertIn("Lid, 3 alike It has no ply yet.", words_of(laminate_pdf(HEAD, [bare])))
