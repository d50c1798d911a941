"""What prints are made of: the face, the tags, the kit, the drawings. Of `layup.paper`.

The structure of a tagged document is that of ISO 32000-1, 14.7 and 14.8; fillets against Shapely's own polygons.
"""

import io
from datetime import date
from math import pi
from unittest import TestCase
from xml.etree import ElementTree

from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader
from pypdf.generic import ContentStream
from shapely import Polygon

from layup.job import Joint
from layup.joints.corner_picture import Wedge, fillet_outline, is_drawn, strip_outline, wedges_of
from layup.joints.volumes import fillet_section_mm2
from layup.laminate.section_picture import hatching
from layup.paper.face import BOLD, MISSING, PLAIN, printable, width_of, wrapped
from layup.paper.kit import MARGIN, Masthead, cards, grid, heading, printed, tick, title, words
from layup.paper.shapes import Picture, Shape, svg_of

HEAD = Masthead("Deck", 3, date(2026, 5, 4))


def read(content: bytes) -> PdfReader:
    return PdfReader(io.BytesIO(content))


def flat(points: list[complex]) -> Polygon:
    return Polygon([(point.real, point.imag) for point in points])


def structure(pdf: PdfReader) -> list[tuple[str, str]]:
    """Every element of a document with its words for who cannot see it, in reading order."""
    found = []

    def walk(element) -> None:
        element = element.get_object()
        if not hasattr(element, "get") or "/S" not in element:
            return
        found.append((element["/S"], str(element.get("/Alt", ""))))
        for kid in element["/K"]:
            walk(kid)

    walk(pdf.trailer["/Root"]["/StructTreeRoot"]["/K"])
    return found


def unmarked_words(pdf: PdfReader) -> list:
    """What is written outside every mark, and marks without an entry in their page's list of parents."""
    parents = pdf.trailer["/Root"]["/StructTreeRoot"]["/ParentTree"]["/Nums"]
    of_page = dict(zip(parents[::2], parents[1::2], strict=True))
    loose = []
    for page in pdf.pages:
        depth, known = 0, len(of_page[page["/StructParents"]])
        for operands, operator in ContentStream(page.get_contents(), pdf).operations:
            if operator in (b"BDC", b"BMC"):
                depth += 1
                if operator == b"BDC" and operands[1]["/MCID"] >= known:
                    loose.append(operands)
            elif operator == b"EMC":
                depth -= 1
            elif operator in (b"Tj", b"TJ") and not depth:
                loose.append(operands)
    return loose


class Tags(TestCase):
    def test_a_document_is_read_in_its_order(self):
        story = [
            title("Deck: to buy"),
            words("first"),
            heading("Fibre"),
            grid(("what",), [("cloth",), ("mat",)], (90,)),
        ]
        pdf = read(printed(HEAD, "to buy", story))
        self.assertTrue(pdf.trailer["/Root"]["/MarkInfo"]["/Marked"])
        self.assertEqual(pdf.trailer["/Root"]["/Lang"], "en")
        kinds = [kind for kind, _ in structure(pdf)]
        row = ["/TR", "/TD", "/Figure", "/TD"]
        self.assertEqual(kinds, ["/Document", "/H1", "/P", "/H2", "/Table", "/TR", "/TH", *row, *row])
        self.assertEqual(unmarked_words(pdf), [])

    def test_what_runs_over_pages_stays_one_element_and_a_repeated_head_is_not_read_twice(self):
        story = [words("so it goes " * 900), grid(("no.",), [(str(number),) for number in range(120)], (60,))]
        pdf = read(printed(HEAD, "to buy", story))
        self.assertGreater(len(pdf.pages), 3)
        kinds = [kind for kind, _ in structure(pdf)]
        self.assertEqual([kinds.count(kind) for kind in ("/P", "/Table", "/TH", "/TR")], [1, 1, 1, 121])
        self.assertEqual(unmarked_words(pdf), [])
        self.assertGreaterEqual(sum("no." in page.extract_text() for page in pdf.pages), 2)

    def test_a_box_says_whether_it_is_ticked(self):
        told = structure(read(printed(HEAD, "x", [tick(), tick(crossed=True)])))
        self.assertEqual(told[1:], [("/Figure", "box to tick"), ("/Figure", "ticked")])


class Kit(TestCase):
    def test_every_page_says_what_it_is_of(self):
        pdf = read(printed(HEAD, "to buy", [words("so it goes " * 1500)]))
        for number, page in enumerate(pdf.pages, 1):
            foot = page.extract_text().replace("\n", " ")
            for said in ("Deck: to buy", "revision 3, printed 4 May 2026", "units g, mm, °C"):
                self.assertIn(said, foot)
            self.assertIn(f"page {number} of {len(pdf.pages)}", foot)

    def test_a_name_of_any_length_is_whole_in_the_foot_and_off_the_number_of_its_page(self):
        for name in ("Deck", "Estuary skiff, port side " * 5, "船底外板左右舷" * 17):
            name, foot = name.strip(), []

            def take(said, matrix, place, font, size, foot=foot):
                if said.strip() and place[5] < MARGIN:
                    foot.append((said.strip("\n"), *place[4:], size))

            pdf = read(printed(Masthead(name, 3, date(2026, 5, 4)), "the day's list", [words("x")]))
            pdf.pages[0].extract_text(visitor_text=take)
            told = "".join(said for said, *_ in foot)
            self.assertIn(f"{name}: the day's list", told)
            number = next(x for said, x, *_ in foot if said.startswith("page 1 of 1"))
            for said, x, y, size in foot:
                ends = x + width_of(said, PLAIN, size)
                self.assertLessEqual(ends, number if x < number and y < 23 else HEAD.size[0] - MARGIN + 0.5, said)
                self.assertGreater(size, 4)

    def test_a_cell_longer_than_a_page_goes_on_over_the_next(self):
        pdf = read(printed(HEAD, "x", [grid(("what",), [("word " * 3000,)], (60,))]))
        self.assertEqual("".join(page.extract_text() for page in pdf.pages).count("word"), 3000)

    def test_what_is_too_long_for_its_card_is_smaller_and_whole(self):
        stories = [[words("word " * count, 12)] for count in (3, 600)]
        pdf = read(printed(HEAD, "tickets", cards(stories, HEAD, (200, 200), 10), margins=(0, 0)))
        self.assertEqual((len(pdf.pages), pdf.pages[0].extract_text().count("word")), (1, 603))

    def test_a_story_without_a_word_is_still_a_page(self):
        self.assertEqual(len(read(printed(HEAD, "x", [])).pages), 1)


class Letters(TestCase):
    def test_letters_of_the_world_are_printed_and_copied_out_again(self):
        name = "Łódź Ж Ω 船 한 あ ไม้ 🚤"
        pdf = read(printed(HEAD, "x", [title(name)]))
        self.assertEqual("".join(pdf.pages[0].extract_text().split("page")[0].split()), "".join(name.split()))
        for font in pdf.pages[0]["/Resources"]["/Font"].values():
            self.assertIn("/FontFile2", font.get_object()["/FontDescriptor"])

    def test_letters_from_the_right_are_joined_and_turned(self):
        # The joined forms of Unicode's Arabic Presentation Forms-B: final beh, medial and initial letters of "boat".
        self.assertEqual(printable("مركب"), "\ufe90\ufedb\ufeae\ufee3")
        self.assertEqual(printable("pot 3: שלט"), "pot 3: טלש")

    @given(st.text(max_size=40))
    def test_no_word_breaks_a_print(self, name):
        story = [title(name), grid((name,), [(name,)], (40,))]
        pdf = read(printed(Masthead(name, 1, date(2026, 5, 4)), "x", story))
        self.assertEqual(unmarked_words(pdf), [])

    @given(st.text(alphabet="abcdé船Жש ", max_size=60), st.floats(12, 90))
    def test_rows_keep_to_their_width_and_lose_no_letter(self, said, wide):
        rows = wrapped(said, BOLD, 10, wide)
        self.assertEqual("".join(rows).replace(" ", ""), said.replace(" ", ""))
        for row in rows:
            self.assertTrue(width_of(row, BOLD, 10) <= wide or len(row) == 1, row)

    def test_only_what_no_face_has_is_a_question_mark(self):
        self.assertEqual(printable("नाव")[0], MISSING)
        self.assertEqual(printable("a\u1dc4"), "a")
        self.assertGreater(width_of("船", PLAIN, 10), 9)


class Drawings(TestCase):
    def test_a_drawing_says_how_large_it_is_and_its_words_cannot_break_out(self):
        shape = Shape("text", (1, 2), "</text><script>", size=8)
        root = ElementTree.fromstring(svg_of(Picture((shape,), 72, 36, "a <b>"), unit="mm", scale=0.5))
        self.assertEqual((root.get("width"), root.get("height"), root.get("viewBox")), ("36mm", "18mm", "0 0 72 36"))
        self.assertIn("</text><script>", "".join(root.itertext()))

    @given(st.floats(3, 80), st.floats(20, 160))
    def test_a_fillet_is_drawn_as_large_as_it_is_worked_out(self, radius_mm, angle_deg):
        """Shapely's area of the drawn outline is the closed form's, to what 24 chords leave of an arc."""
        near = wedges_of(Joint(id="j", radius_mm=radius_mm, angle_deg=angle_deg))[0]
        outline = flat(fillet_outline(near, radius_mm))
        self.assertTrue(outline.is_valid)
        chords = radius_mm**2 * (pi - near.angle) ** 3 / 12 / 24**2
        self.assertAlmostEqual(outline.area, fillet_section_mm2(radius_mm, angle_deg) + chords, delta=0.01 * chords)

    @given(st.floats(5, 60), st.floats(30, 150), st.floats(0.2, 2))
    def test_a_strip_lies_on_the_fillet_and_never_in_it(self, radius_mm, angle_deg, thick_mm):
        near = Wedge(0, 1, complex(*_unit(angle_deg)), angle_deg * pi / 180)
        reach = radius_mm * 3 + 40
        strip = flat(strip_outline(near, radius_mm, 0, thick_mm, reach))
        fillet = flat(fillet_outline(near, radius_mm))
        self.assertTrue(strip.is_valid)
        self.assertLess(strip.intersection(fillet).area, 1e-6)
        self.assertGreater(strip.boundary.intersection(fillet.boundary.buffer(1e-6)).length, radius_mm * 0.3)

    def test_a_corner_on_both_sides_of_a_panel_has_two_fillets_that_do_not_meet(self):
        joint = Joint(id="j", radius_mm=12, angle_deg=70, sides=2, panel_thickness_mm=9)
        near, far = wedges_of(joint)
        self.assertFalse(flat(fillet_outline(near, 12)).intersects(flat(fillet_outline(far, 12))))
        self.assertAlmostEqual(flat(fillet_outline(far, 12)).area, fillet_section_mm2(12, 110), delta=0.1)

    def test_faces_on_one_another_are_not_drawn(self):
        drawn = [is_drawn(Joint(id="j", angle_deg=angle, sides=sides)) for angle, sides in ((2, 1), (90, 2), (177, 2))]
        self.assertEqual((drawn, is_drawn(Joint(id="j", kind="scarf"))), ([False, True, False], False))

    @given(st.floats(1, 60), st.floats(1, 60))
    def test_hatching_stays_in_its_box(self, wide, tall):
        for x1, y1, x2, y2 in hatching(9, 7, ((0, 0, 9, 7), (3, 0, 3, 7), (-4, 2, 12, 2)), (5, 5, wide, tall)):
            for x, y in ((x1, y1), (x2, y2)):
                self.assertTrue(5 - 1e-9 <= x <= 5 + wide + 1e-9 and 5 - 1e-9 <= y <= 5 + tall + 1e-9)


def _unit(angle_deg: float) -> tuple[float, float]:
    turned = Joint(id="j", angle_deg=angle_deg)
    rise = wedges_of(turned)[0].rise
    return rise.real, rise.imag
