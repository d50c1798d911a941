"""Rectangles on sheets: none lies over another, none is lost, none turns that may not; by properties, and by sums done by hand.

Of `layup.preparing.packing`.
"""

from itertools import combinations
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import box

from layup.preparing.packing import Put, area, longer_side, packed, shorter_side

WIDTH, LENGTH = 1270, 5000
sizes = st.lists(st.tuples(st.integers(1, 1600), st.integers(1, 5200)), max_size=25)
orders = st.sampled_from((area, longer_side, shorter_side))


def outline(put: Put):
    return box(put.x, put.y, put.x + put.across, put.y + put.along)


def fits(across: int, along: int, turn: bool) -> bool:
    return (across <= WIDTH and along <= LENGTH) or (turn and along <= WIDTH and across <= LENGTH)


class Packing(TestCase):
    @settings(max_examples=120)
    @given(sizes, st.booleans(), orders)
    def test_each_that_fits_lies_once_whole_on_its_sheet_and_over_no_other(self, pieces, turn, order):
        sheets = packed(pieces, WIDTH, LENGTH, turn=turn, order=order)
        put = [each for sheet in sheets for each in sheet]
        wanted = [which for which, size in enumerate(pieces) if fits(*size, turn)]
        self.assertEqual(sorted(each.which for each in put), wanted)
        for each in put:
            straight = (each.across, each.along) == pieces[each.which]
            self.assertTrue(straight or (turn and (each.along, each.across) == pieces[each.which]))
        whole = box(0, 0, WIDTH, LENGTH)
        for sheet in sheets:
            self.assertTrue(sheet, "no sheet is opened for nothing")
            self.assertTrue(all(whole.covers(outline(each)) for each in sheet))
            for one, other in combinations(sheet, 2):
                self.assertEqual(outline(one).intersection(outline(other)).area, 0)

    @settings(max_examples=60)
    @given(sizes, st.integers(0, 2))
    def test_no_more_sheets_than_there_are(self, pieces, most):
        sheets = packed(pieces, WIDTH, LENGTH, turn=True, order=area, sheets=most)
        self.assertLessEqual(len(sheets), most)
        # As many as all sheets give, the first are packed alike.
        self.assertEqual(sheets, packed(pieces, WIDTH, LENGTH, turn=True, order=area)[:most])

    def test_it_reaches_least_far(self):
        """Worked by hand: two of 600 lie side by side on 1270, the third past the shorter of them."""
        (sheet,) = packed([(600, 900), (600, 500), (600, 300)], WIDTH, LENGTH, turn=False, order=area)
        self.assertEqual([(put.which, put.x, put.y) for put in sheet], [(0, 0, 0), (1, 600, 0), (2, 600, 500)])
        # Turned, the long one lies across.
        (turned,) = packed([(300, 1270)], WIDTH, LENGTH, turn=True, order=area)
        self.assertEqual((turned[0].across, turned[0].along), (1270, 300))

    def test_each_order_begins_with_its_own(self):
        pieces = [(100, 1000), (400, 400), (300, 450)]
        firsts = [
            packed(pieces, WIDTH, LENGTH, turn=False, order=by)[0][0].which for by in (longer_side, area, shorter_side)
        ]
        self.assertEqual(firsts, [0, 1, 1])
