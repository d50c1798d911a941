"""What leaves the program: the workbook by its own library, the section as XML.

Of `layup.laminate.section_picture`, `layup.workbook`.
"""

import io
from unittest import TestCase
from xml.etree import ElementTree

from openpyxl import load_workbook

from cradle.demo_jobs import buoy_lid, foam_hatch, skiff
from layup.job import JobSpec
from layup.laminate.section_picture import section_svg
from layup.plan import plan
from layup.scales import METRIC, Scales
from layup.units import convert
from layup.workbook import write_workbook
from tests.core.jobs import at, on, panel

SVG = "{http://www.w3.org/2000/svg}"


class Workbooks(TestCase):
    def test_its_values_are_the_plans(self):
        for job in (skiff(), buoy_lid(), foam_hatch()):
            with self.subTest(job=job.name):
                answer = plan(job, at(20))
                book = load_workbook(io.BytesIO(write_workbook(job, answer)))
                vacuum = ["Bags", "Infusions"] * any(part.process == "infusion" for part in job.parts)
                self.assertEqual(book.sheetnames, ["Parts", "Plies", *["Joints"] * bool(job.joints), *vacuum, "Resin"])
                plies = list(book["Plies"].iter_rows(min_row=2, values_only=True))
                self.assertEqual(len(plies), sum(len(part.plies) for part in answer.parts))
                told = book["Resin"].iter_rows(min_row=2, values_only=True)
                mixed = [(name, grams) for name, what, grams in told if what == "to mix"]
                self.assertEqual([name for name, _ in mixed], [each.chemistry.resin_name for each in answer.resins])
                for (_, grams), each in zip(mixed, answer.resins, strict=True):
                    self.assertAlmostEqual(grams, each.use.mixed_g, places=3)
                self.assertAlmostEqual(
                    sum(row[9] for row in plies if row[2] not in ("85 peel ply", "gel coat", "fill coat")),
                    answer.resins[0].use.in_plies_g,
                    delta=0.01,
                )

    def test_joints_are_told_with_what_they_take(self):
        answer = plan(skiff(), at(20))
        head, *rows = load_workbook(io.BytesIO(write_workbook(skiff(), answer)))["Joints"].iter_rows(values_only=True)
        told = [dict(zip(head, row, strict=True)) for row in rows]
        self.assertEqual([row["joint"] for row in told], [joint.name for joint in answer.joints])
        in_joints = sum(each.use.in_joints_g for each in answer.resins)
        self.assertAlmostEqual(sum(row["resin in all, g"] for row in told), in_joints, 2)
        for row in told:
            parts = ("resin in the paste, g", "wet-out, g", "to smooth, g", "tabbing resin, g")
            self.assertLessEqual(sum(row[part] for part in parts), row["resin in all, g"] + 0.01)

    def test_numbers_are_written_to_four_places(self):
        job = panel("epoxy-2-1", "cloth-300", width_m=1.23456, length_m=1.0)
        head, row = load_workbook(io.BytesIO(write_workbook(job, plan(job, at(20)))))["Parts"].iter_rows(
            values_only=True
        )
        self.assertEqual(dict(zip(head, row, strict=True))["area of one, m²"], 1.2346)

    def test_in_a_us_shop_its_columns_are_in_us_units(self):
        """exact, against Pint's factors: the same job twice, each column in the unit its head says."""
        job = panel("epoxy-2-1", "cloth-300", width_m=1.2, length_m=2.0)
        books = [load_workbook(io.BytesIO(write_workbook(job, plan(job, at(20)), of))) for of in (METRIC, Scales("US"))]
        (head, metric), (us_head, us) = (book["Parts"].iter_rows(values_only=True) for book in books)
        units = [name.rpartition(", ")[2] for name in (head[4], us_head[4], us_head[6])]
        self.assertEqual(units, ["m²", "ft²", "in"])
        self.assertAlmostEqual(us[4], convert(metric[4], "m²", "ft²"), places=3)
        self.assertAlmostEqual(us[6], convert(metric[6], "mm", "in"), places=4)
        self.assertEqual(books[1]["Resin"]["C1"].value, "weight, oz")

    def test_text_that_looks_like_a_formula_stays_text(self):
        job = on(panel("epoxy-2-1", "cloth-300"), name="=1+1")
        cell = load_workbook(io.BytesIO(write_workbook(job, plan(job, at(20)))))["Parts"]["A2"]
        self.assertEqual((cell.value, cell.data_type), ("=1+1", "s"))

    def test_an_empty_job_is_a_workbook_as_well(self):
        job = JobSpec(name="New")
        self.assertEqual(load_workbook(io.BytesIO(write_workbook(job, plan(job, at(20)))))["Plies"].max_row, 1)


class Sections(TestCase):
    def test_plies_stand_to_scale_and_carry_their_ids(self):
        part = plan(foam_hatch(), at(20)).parts[0]
        root = ElementTree.fromstring(section_svg(part))
        drawn = {box.get("id"): float(box.get("height")) for box in root.iter(f"{SVG}rect") if box.get("id")}
        self.assertEqual(list(drawn), [f"ply-{ply.id}" for ply in part.plies])
        scale = sum(drawn.values()) / part.thickness_mm
        for ply in part.plies:
            self.assertAlmostEqual(drawn[f"ply-{ply.id}"], ply.thickness_mm * scale, delta=0.2)

    def test_names_cannot_break_out_of_it(self):
        job = on(panel("epoxy-2-1", "cloth-300"), name="<script>alert(1)</script> & co")
        svg = section_svg(plan(job, at(20)).parts[0])
        self.assertNotIn("<script", svg)
        self.assertIn("& co", "".join(ElementTree.fromstring(svg).itertext()))

    def test_it_is_read_in_the_unit_asked_for(self):
        part = plan(panel("epoxy-2-1", "cloth-300"), at(20)).parts[0]
        words = "".join(ElementTree.fromstring(section_svg(part, Scales("US"))).itertext())
        self.assertIn("oz/yd² resin", words)
        self.assertNotIn(" mm", words)
