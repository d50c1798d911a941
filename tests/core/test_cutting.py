"""Pieces, the rolls they are cut from, their labels, and what is bought for them."""

import io
import re
from datetime import date
from itertools import combinations, pairwise, product
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader
from shapely import affinity
from shapely.geometry import box

from cradle.demo_jobs import buoy_lid, foam_hatch, locker_lid, rudder_blade, skiff, tiller_head
from layup.errors import LayupError
from layup.job import JobSpec
from layup.library import generic
from layup.paper.kit import Masthead
from layup.plan import plan
from layup.preparing.before_pot import CutPiece, Offcut
from layup.preparing.buying import shopping_list
from layup.preparing.cut_pictures import roll_drawn, roll_svg, roll_words
from layup.preparing.cutting import cut_plan, from_offcuts, pack
from layup.preparing.packs import packs_for
from layup.preparing.pieces import across_the_roll, may_turn, split_to_roll
from layup.preparing.preparation import checklist
from layup.preparing.printing import cut_plan_pdf, labels_pdf, preparation_pdf
from layup.scales import METRIC
from tests.core.jobs import at, fabric, on, panel

DAY = date(2026, 5, 4)
PIECE = st.tuples(st.integers(20, 2400), st.integers(20, 1200))


def pieces(sizes) -> list[CutPiece]:
    first = cut_plan(panel("epoxy-2-1", "cloth-300")).pieces[0]
    return [
        first.model_copy(update={"id": f"y.1.{n}", "number": n, "along_mm": along, "across_mm": across})
        for n, (along, across) in enumerate(sizes, 1)
    ]


def offcut(lot_id: str, length_mm: int, width_mm: int, fabric_id: str) -> Offcut:
    called = f"number {lot_id}"
    return Offcut(lot_id=lot_id, called=called, fabric_id=fabric_id, width_mm=width_mm, length_mm=length_mm)


def fabric_need(job: JobSpec, of, cut) -> dict[str, float]:
    lines = shopping_list(job, of, cut, generic()).lines
    return {line.what: line.need for line in lines if line.chapter == "fabric"}


class Packing(TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.lists(PIECE, min_size=1, max_size=25), st.sampled_from(["cloth-300", "csm-450", "biax-600"]))
    def test_nothing_overlaps_nothing_leaves_the_roll_and_no_grain_turns(self, sizes, name):
        cloth, cut = fabric(name), pieces(sizes)
        rolls = pack(cut, cloth)
        placed = [piece for roll in rolls for piece in roll.pieces]
        self.assertEqual(sorted(piece.piece_id for piece in placed), sorted(piece.id for piece in cut))
        wanted = {piece.id: (piece.across_mm, piece.along_mm) for piece in cut}
        for piece in placed:
            size = (piece.across_mm, piece.along_mm)
            self.assertEqual(size[::-1] if piece.turned else size, wanted[piece.piece_id])
            self.assertFalse(piece.turned and not may_turn(cloth))
        for roll in rolls:
            boxes = [box(p.x_mm, p.y_mm, p.x_mm + p.across_mm, p.y_mm + p.along_mm) for p in roll.pieces]
            self.assertTrue(all(one.intersection(other).area == 0 for one, other in combinations(boxes, 2)))
            self.assertTrue(
                all(box(0, 0, cloth.roll_width_mm, 1000 * roll.run_m + 1e-6).covers(each) for each in boxes)
            )
            self.assertAlmostEqual(roll.waste_share, 1 - roll.area_m2 / (roll.run_m * cloth.roll_width_mm / 1000))

    @settings(max_examples=40, deadline=None)
    @given(
        st.lists(PIECE, min_size=1, max_size=15), st.lists(PIECE, max_size=4), st.sampled_from(["cloth-300", "csm-450"])
    )
    def test_offcuts_are_kept_to_and_each_piece_is_cut_once(self, sizes, left, name):
        cloth, cut = fabric(name), pieces(sizes)
        offcuts = [offcut(f"o{n}", along, across, name) for n, (along, across) in enumerate(left)]
        rolls = from_offcuts(cut, cloth, offcuts)
        placed = [piece for roll in rolls for piece in roll.pieces]
        self.assertEqual(len({piece.piece_id for piece in placed}), len(placed))
        of = {each.lot_id: each for each in offcuts}
        for roll in rolls:
            own = of[roll.lot_id]
            boxes = [box(p.x_mm, p.y_mm, p.x_mm + p.across_mm, p.y_mm + p.along_mm) for p in roll.pieces]
            self.assertTrue(all(one.intersection(other).area == 0 for one, other in combinations(boxes, 2)))
            self.assertTrue(all(box(0, 0, own.width_mm, own.length_mm).covers(each) for each in boxes))
            self.assertFalse(any(piece.turned for piece in roll.pieces) and not may_turn(cloth))
        # What fits on none of them that is still whole is left for the roll; what fits a whole one is not.
        bare = [each for each in offcuts if each.lot_id not in {roll.lot_id for roll in rolls}]
        for piece in cut:
            if piece.id not in {each.piece_id for each in placed}:
                self.assertFalse(any(piece.along_mm <= o.length_mm and piece.across_mm <= o.width_mm for o in bare))

    def test_the_smallest_that_serves_is_cut_first_and_what_was_cut_stays(self):
        job = panel("epoxy-2-1", "cloth-300", "cloth-300", width_m=0.4, length_m=0.5)
        large, small = (offcut(name, long, 700, "cloth-300") for name, long in (("large", 1200), ("small", 600)))
        plan_of = cut_plan(job, offcuts=[large, small])
        self.assertEqual([(roll.lot_id, len(roll.pieces)) for roll in plan_of.rolls], [("small", 1), ("large", 1)])
        first = plan_of.pieces[0].id
        told = roll_words(plan_of.rolls[0], METRIC)
        self.assertIn("offcut number small, 700 mm wide:", told)
        # The first piece was cut off the roll before the offcuts came.
        again = cut_plan(
            job, offcuts=[each.model_copy(update={"not_for": frozenset({first})}) for each in (large, small)]
        )
        self.assertEqual([roll.lot_id for roll in again.rolls], ["small", ""])
        self.assertEqual([piece.piece_id for piece in again.rolls[1].pieces], [first])
        # Only what comes off the roll is bought.
        of = plan(job, at(20))
        self.assertEqual(fabric_need(job, of, plan_of), {})
        self.assertAlmostEqual(fabric_need(job, of, again)["300 cloth, twill"], again.rolls[1].run_m)
        self.assertEqual(cut_plan(job, offcuts=[offcut("other", 9000, 900, "csm-450")]).rolls, cut_plan(job).rolls)

    def test_a_roll_with_an_end_is_not_cut_past_it(self):
        short = fabric("cloth-300").model_copy(update={"roll_length_m": 2.0})
        rolls = pack(pieces([(1500, 1000)] * 3), short)
        self.assertEqual([(roll.number, roll.run_m) for roll in rolls], [(1, 1.5), (2, 1.5), (3, 1.5)])


class Pieces(TestCase):
    @given(st.floats(10, 9000), st.floats(10, 9000), st.floats(0, 300))
    def test_what_is_split_still_covers_with_its_overlaps(self, along, across, overlap):
        cuts = split_to_roll(along, across, fabric("cloth-300").model_copy(update={"roll_length_m": 5.0}), overlap)
        wide, long_ = cuts[0].across_mm, cuts[0].along_mm
        self.assertLessEqual(wide, 1270 + 1e-6)
        self.assertLessEqual(long_, 5000 + 1e-6)
        fits = [(m, len(cuts) // m) for m in range(1, len(cuts) + 1) if len(cuts) % m == 0]
        covers = [(m * wide - (m - 1) * overlap, n * long_ - (n - 1) * overlap) for m, n in fits]
        self.assertTrue(
            any(abs(w - across) < 1e-6 * across + 1e-6 and abs(v - along) < 1e-6 * along + 1e-6 for w, v in covers)
        )

    @given(st.floats(10, 3000), st.floats(10, 3000), st.sampled_from([15, 30, 45, 60, 75]))
    def test_on_the_bias_a_piece_takes_the_box_it_fits_in(self, length, width, turn):
        """Outside truth: shapely's bounds of the rectangle turned by that angle."""
        x0, y0, x1, y1 = affinity.rotate(box(0, 0, length, width), turn).bounds
        along, across = across_the_roll(length, width, str(turn), fabric("cloth-300"))
        self.assertAlmostEqual(along, x1 - x0, 4)
        self.assertAlmostEqual(across, y1 - y0, 4)

    def test_a_stitched_45_comes_straight_off_the_roll_and_0_90_does_not(self):
        """common practice, no source: a biaxial is named by its own fibres."""
        self.assertEqual(across_the_roll(1000, 400, "45", fabric("biax-600")), (1000, 400))
        self.assertGreater(across_the_roll(1000, 400, "0/90", fabric("biax-600"))[0], 980)

    def test_each_demo_job_is_cut_in_the_order_it_is_laid(self):
        counts = {
            "Estuary skiff": 15,
            "Channel buoy lid": 4,
            "Rudder blade": 12,
            "Foredeck hatch": 6,
            "Tiller-head panel": 0,
        }
        for job in (skiff(), buoy_lid(), rudder_blade(), foam_hatch(), locker_lid(), tiller_head()):
            with self.subTest(job=job.name):
                cut = cut_plan(job).pieces
                self.assertEqual(len(cut), counts.get(job.name, 4))
                self.assertEqual([piece.number for piece in cut], list(range(1, len(cut) + 1)))
                for one, after in pairwise(cut):
                    same = (one.part_id, one.copy_number) == (after.part_id, after.copy_number)
                    self.assertTrue(not same or one.ply_number <= after.ply_number)
                self.assertEqual(plan(job, at(20)).piece_count, len(cut))

    def test_a_patch_is_cut_as_it_steps_and_a_coat_is_not_cut(self):
        sizes = [(piece.along_mm, piece.across_mm) for piece in cut_plan(locker_lid()).pieces]
        self.assertEqual(sizes, [(290, 170), (270, 150), (250, 130), (230, 110)])

    def test_a_pair_says_which_is_turned_over(self):
        cut = cut_plan(on(panel("epoxy-2-1", "cloth-300"), pair=True)).pieces
        self.assertEqual(
            [piece.notes[0] for piece in cut], ["port", "starboard, mirrored: turn the cloth over to cut it"]
        )

    def test_mat_is_torn_or_cut_as_the_practice_says(self):
        for edges in ("torn", "cut"):
            job = panel("polyester-general", "csm-450", practice={"mat_edges": edges})
            self.assertEqual(cut_plan(job).pieces[0].edges, edges)
        self.assertEqual(cut_plan(panel("epoxy-2-1", "cloth-300")).pieces[0].edges, "cut")

    def test_strips_are_cut_one_by_one_and_a_spare_on_top(self):
        plies = [{"id": "y0", "fabric_id": "cloth-300", "strips": {"width_m": 0.3, "overlap": 0.5}}]
        job = on(panel("epoxy-2-1", "cloth-300", width_m=0.5, length_m=3), plies=plies)
        pieces = cut_plan(job).pieces
        self.assertEqual({(piece.along_mm, piece.across_mm) for piece in pieces}, {(500, 300)})
        self.assertEqual(pieces[0].part_of, f"1 of {len(pieces)}")
        spared = JobSpec.model_validate(job.model_dump() | {"cutting": {"spare": True}})
        placed = [piece for roll in cut_plan(spared).rolls for piece in roll.pieces]
        self.assertEqual(len(placed), len(cut_plan(job).pieces) + 1)

    def test_an_overlap_as_wide_as_the_roll_is_said_at_its_field(self):
        job = panel("epoxy-2-1", "cloth-300", width_m=3, length_m=3, cutting={"sheet_overlap_mm": 500})
        narrow = fabric("cloth-300").model_copy(update={"roll_width_mm": 400.0})
        held = job.materials.model_copy(update={"fabrics": (narrow,)})
        problem = plan(job.model_copy(update={"materials": held}), at(20)).problems[0]
        self.assertEqual((problem.path, problem.step), ("cutting.sheet_overlap_mm", "cut"))
        self.assertIn("leaves nothing of 300 cloth", problem.message)

    def test_more_pieces_than_a_job_can_have_are_refused(self):
        plies = [{"id": f"y{n}", "fabric_id": "cloth-300"} for n in range(60)]
        job = on(panel("epoxy-2-1", "cloth-300"), count=200, plies=plies)
        with self.assertRaisesRegex(LayupError, "12,000 pieces"):
            cut_plan(job)


class OnPaper(TestCase):
    def words(self, content: bytes) -> list[str]:
        return [page.extract_text() for page in PdfReader(io.BytesIO(content)).pages]

    def test_labels_come_in_laying_order_on_a4_and_letter(self):
        cut = pieces([(500, 400)] * 30)
        for paper, a_page, size in (("A4", 24, (595, 842)), ("Letter", 21, (612, 792))):
            with self.subTest(paper=paper):
                content = labels_pdf(Masthead("Deck", 1, DAY, paper), cut)
                pages = self.words(content)
                self.assertEqual(len(pages), -(-30 // a_page))
                self.assertEqual(re.findall(r"piece (\d+)", "".join(pages)), [str(n) for n in range(1, 31)])
                media = PdfReader(io.BytesIO(content)).pages[0].mediabox
                self.assertEqual((round(media.width), round(media.height)), size)

    def test_the_cut_plan_lists_every_piece_whatever_it_is_called(self):
        job = on(panel("epoxy-2-1", "cloth-300", "cloth-300"), name="Łódka Ωmega </text> (hull)")
        text = "".join(self.words(cut_plan_pdf(Masthead("Łódka", 1, DAY), cut_plan(job))))
        self.assertIn("Łódka: cut plan", text)
        self.assertIn("Łódka Ωmega", text)
        self.assertIn("4 m off the roll, 21 % waste", text)
        self.assertEqual(len(re.findall(r"2,000 × 1,000", text)), 4)
        self.assertNotIn("</text> (hull)</text>", roll_svg(cut_plan(job).rolls[0]))

    def test_the_tape_is_read_from_end_to_end_and_no_figure_leaves_the_roll(self):
        pieces = cut_plan(panel("epoxy-2-1", "cloth-300")).rolls[0].model_copy(update={"run_m": 2.0})
        drawn = roll_drawn(pieces, METRIC, 0.1)
        tape = {shape.text: shape for shape in drawn.shapes if shape.text in ("0 m", "1 m", "2 m")}
        self.assertEqual([tape[f"{at} m"].anchor for at in range(3)], ["start", "middle", "end"])
        self.assertEqual([tape[f"{at} m"].points[0] for at in range(3)], [0, 100, 200])

    def test_the_sheet_to_sign_holds_every_line(self):
        job = skiff()
        lines = checklist(job, plan(job, at(20)), at(20).scales)
        text = "".join(self.words(preparation_pdf(Masthead("Skiff", 1, DAY), lines, {"sheets": "done, wren"})))
        self.assertEqual(text.count("Dry fit"), 6)
        self.assertIn("done, wren", text)


class Buying(TestCase):
    @given(
        st.floats(0.05, 30), st.lists(st.sampled_from([0.25, 0.5, 1, 2.5, 5, 20]), min_size=1, max_size=4, unique=True)
    )
    def test_packs_cover_the_need_with_the_least_over(self, need, sizes):
        packs = packs_for(need, sizes)
        bought = sum(size * count for size, count in packs.items())
        self.assertGreaterEqual(bought, need - 0.01)
        small = [size for size in sizes if size <= 5] or sizes
        tried = product(*(range(int(need // size) + 2) for size in small)) if need < 6 else [()]
        for counts in tried:
            total = sum(size * count for size, count in zip(small, counts, strict=False))
            if counts and total >= need:
                self.assertLessEqual(bought, total + 0.01)

    def test_the_list_names_variants_and_takes_what_comes_off_the_roll(self):
        job = buoy_lid()
        cut = cut_plan(job)
        bought = {line.what: line for line in shopping_list(job, plan(job, at(20)), cut, generic()).lines}
        self.assertIn("emulsion bound", bought["450 chopped mat"].variant)
        self.assertAlmostEqual(
            bought["450 chopped mat"].need, sum(r.run_m for r in cut.rolls if r.fabric_id == "csm-450")
        )
        self.assertIn("without wax in a mould", bought["Gel coat, without wax"].variant)
        self.assertNotIn("Foam roller sleeve", bought)
        self.assertFalse(any("paper" in name.lower() for name in bought))
        use = plan(job, at(20)).resins[0].use
        self.assertAlmostEqual(
            bought["General-purpose polyester"].need * 1000, use.part_a_g * 1.1 if use.part_a_g else use.to_have_g
        )

    def test_what_has_no_price_is_said_and_the_rest_is_added_up(self):
        job = skiff()
        bought = shopping_list(job, plan(job, at(20)), cut_plan(job), generic())
        self.assertAlmostEqual(bought.total, sum(line.cost for line in bought.lines if line.cost is not None))
        self.assertIn("Flat stir sticks", bought.unpriced)
        self.assertAlmostEqual(bought.per_m2, bought.total / bought.area_m2)
