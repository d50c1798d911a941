"""A stack through a spreadsheet and back.

Of `layup.csv_cells`, `layup.laminate.stack_words`, `layup.printable`.
"""

import csv
import io
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook
from pydantic import ValidationError

from layup.customs import Customs
from layup.errors import LayupError
from layup.job import Coat, JobSpec, Part
from layup.laminate.leaner import leaner
from layup.laminate.quick_ply import QuickPly
from layup.laminate.stack_csv import read_stack, write_stack
from layup.library import generic
from layup.plan import plan
from layup.scales import METRIC, Scales
from layup.workbook import write_workbook
from tests.core.jobs import at, fabric, panel

FABRICS = generic().fabrics
INCHES = Scales("US", fabric_unit="oz")
PLIES = st.lists(
    st.builds(
        QuickPly,
        st.sampled_from([fabric(name) for name in ("csm-450", "cloth-300", "biax-600", "carbon-200")]),
        st.sampled_from(["", "45", "0", "90"]),
        st.sampled_from([0.0, 25.0, 12.5]),
        st.sampled_from([None, 0.45, 0.475]),
        st.sampled_from(["", "keel"]),
    )
    | st.builds(QuickPly, strip=st.just("keel"), coat=st.just(Coat(kind="fill", resin_gsm=120.5))),
    max_size=12,
)


class ThereAndBack(TestCase):
    @given(PLIES, st.sampled_from([METRIC, Scales(customs=Customs("en-DE")), INCHES]))
    def test_a_stack_comes_back_as_it_went(self, plies, scales):
        table = read_stack(write_stack(plies, scales).encode(), FABRICS, ["keel"])
        self.assertEqual((table.problems, list(table.plies)), ((), plies))

    def test_a_shop_in_ounces_has_its_own_columns(self):
        """1 oz/yd² is 33.906 g/m², an inch 25.4 mm."""
        head, cloth = csv.reader(io.StringIO(write_stack([QuickPly(fabric("cloth-300"), extra_mm=38.1)], INCHES)[1:]))
        self.assertEqual([head[2], head[6]], ["oz/yd2", "wider in"])
        self.assertAlmostEqual(float(cloth[2]), 300 / 33.906, delta=1e-3)
        self.assertEqual(cloth[6], "1.5")
        for raw, said in ((b"oz/yd2;kind\nnine;cloth\n", "begin with the weight"), (b"kind\ncloth\n", "oz/yd2")):
            try:
                problems = [problem.message for problem in read_stack(raw, FABRICS, scales=INCHES).problems]
            except LayupError as error:
                problems = [error.message]
            self.assertIn(said, problems[0])

    def test_as_spreadsheets_write_it(self):
        for text in (
            "\ufeffg/m2;kind;wider mm\r\n300;cloth;12,5\r\n",
            "g/m2,kind,wider mm\n300,cloth,12.5\n",
            "Kind\tG/M2\tWider mm\nglass cloth\t300\t12,5\n",
        ):
            with self.subTest(text=text):
                table = read_stack(text.encode(), FABRICS)
                self.assertEqual([(p.fabric.id, p.extra_mm) for p in table.plies], [("cloth-300", 12.5)])

    def test_a_cell_that_would_run_is_made_harmless(self):
        evil = fabric("cloth-300").model_copy(update={"name": "=cmd|'/c calc'!A0"})
        cell = write_stack([QuickPly(evil, "-45")]).splitlines()[1].split(",")
        self.assertTrue(cell[1].startswith("'=") or cell[1].startswith("\"'="))
        self.assertEqual(read_stack(write_stack([QuickPly(evil, "-45")]).encode(), FABRICS).plies[0].angle, "-45")

    def test_no_letter_of_a_name_begins_a_row_or_breaks_a_file(self):
        evil = fabric("cloth-300").model_copy(update={"name": "300 cloth\r=cmd|'/c calc'!A0\n@x\x00\x01"})
        table = write_stack([QuickPly(evil, "45")])
        self.assertEqual(len(table.splitlines()), 2)
        self.assertEqual(next(csv.reader(io.StringIO(table.splitlines()[1])))[1], "300 cloth=cmd|'/c calc'!A0 @x")
        job = panel("epoxy-2-1", "cloth-300", name="Deck\x01\r\x1b")
        self.assertEqual(job.name, "Deck")
        self.assertEqual(Part.model_validate({"id": "a", "name": "two\nlines\x00"}).name, "two\nlines")
        # What is no thing at all is told as that, and a thing as it is.
        with self.assertRaisesRegex(ValidationError, "valid dictionary"):
            Part.model_validate("a\x01")
        self.assertIs(JobSpec.model_validate(job), job)
        # Nor one that came in before: what is written is cleaned as well.
        part = job.parts[0].model_copy(update={"name": "a\x01"})
        kept = job.model_copy(update={"parts": (part,)})
        book = load_workbook(io.BytesIO(write_workbook(kept, plan(kept, at(20)))))
        self.assertEqual(book["Parts"]["A2"].value, "a")

    def test_a_cell_that_goes_on_and_on_is_refused_by_its_row(self):
        table = read_stack(f"g/m2;kind\n300;cloth\n300;{'biax ' * 6000}\n".encode(), FABRICS)
        self.assertEqual(
            [(problem.row, problem.message[:40]) for problem in table.problems],
            [(3, "a cell holds more than 120 letters: no f")],
        )

    def test_rows_that_cannot_be_read_are_said_by_their_number(self):
        table = read_stack(b"g/m2;kind\n300;cloth\n300;wool\n;\n9;cloth\n450;csm\n", FABRICS)
        self.assertEqual([problem.row for problem in table.problems], [3, 5])
        self.assertEqual([ply.fabric.id for ply in table.plies], ["cloth-300", "csm-450"])

    def test_what_is_no_such_table_is_refused(self):
        for raw in (b"", b"a;b\n1;2\n", b"\xff\xfe\x00\x01", b"kind\ncloth\n", b"x" * 600_000):
            with self.subTest(raw=raw[:12]), self.assertRaises(LayupError):
                read_stack(raw, FABRICS)

    @given(st.binary(max_size=300))
    def test_no_bytes_are_an_error_of_ours(self, raw):
        try:
            read_stack(b"g/m2;kind\n" + raw, FABRICS)
        except LayupError as error:
            self.assertTrue(error.message)


class Leaner(TestCase):
    def test_each_step_holds_less_resin_and_is_thinner(self):
        job = panel("epoxy-2-1", "biax-600", "csm-450", practice={"resin_content": "generous"})
        seen = []
        while job:
            part = plan(job, at(20)).parts[0]
            seen.append((part.resin_in_plies_g, part.thickness_mm))
            job = leaner(job)
        self.assertEqual(len(seen), 3)
        self.assertEqual(seen, sorted(seen, reverse=True))
