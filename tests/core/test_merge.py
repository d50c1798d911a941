"""Bringing two people's edits together: nobody's edit is lost, and only the same field of the same thing conflicts."""

import copy
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cradle.demo_jobs import skiff
from layup.job import JobSpec
from layup.merge import merge

BASE = skiff().model_dump(mode="json")


def edited(*changes) -> dict:
    """The skiff with (path by place, value) changes; a value of ... removes the thing."""
    document = copy.deepcopy(BASE)
    for path, value in changes:
        *steps, last = path
        holder = document
        for step in steps:
            holder = holder[step]
        if value is ...:
            del holder[last]
        else:
            holder[last] = value
    return document


FIELDS = [
    (("name",), "Another skiff"),
    (("parts", 0, "count"), 4),
    (("parts", 0, "shape", "width_m"), 0.7),
    (("parts", 1, "name"), "Transom, inside"),
    (("parts", 1, "plies", 0, "extra_mm"), 40.0),
    (("joints", 0, "radius_mm"), 20.0),
    (("pots", "hands"), 3),
    (("resins", 0, "deadline_h"), 24.0),
]


class Merging(TestCase):
    @given(st.sets(st.integers(0, len(FIELDS) - 1)), st.sets(st.integers(0, len(FIELDS) - 1)))
    def test_edits_of_different_fields_are_both_kept(self, mine_at, theirs_at):
        theirs_at = theirs_at - mine_at
        merged = merge(BASE, edited(*(FIELDS[i] for i in mine_at)), edited(*(FIELDS[i] for i in theirs_at)))
        self.assertEqual(merged.document, edited(*(FIELDS[i] for i in mine_at | theirs_at)))
        self.assertEqual(merged.conflicts, ())
        JobSpec.model_validate(merged.document)

    @given(st.sampled_from(FIELDS))
    def test_the_same_field_asks_with_both_values(self, field):
        path, value = field
        other = "Third" if isinstance(value, str) else value + 1
        merged = merge(BASE, edited(field), edited((path, other)))
        (conflict,) = merged.conflicts
        self.assertEqual((conflict.mine, conflict.theirs), (value, other))
        self.assertEqual(merged.document, edited(field))

    def test_the_same_change_twice_is_no_conflict(self):
        both = edited(FIELDS[2])
        self.assertEqual(merge(BASE, both, both).conflicts, ())

    def test_a_conflict_is_named_by_ids_not_by_places(self):
        reordered = edited()
        reordered["parts"].reverse()
        reordered["parts"][1]["count"] = 9
        merged = merge(BASE, edited(FIELDS[1]), reordered)
        self.assertEqual(merged.conflicts[0].path, "parts/bottom/count")
        self.assertEqual([part["id"] for part in merged.document["parts"]], ["transom", "bottom"])

    def test_both_add_a_part_and_both_stay(self):
        new = [{"id": i, "name": i, "shape": {"kind": "area", "area_m2": 1}} for i in ("mine", "theirs")]
        merged = merge(
            BASE,
            edited((("parts",), [*BASE["parts"], new[0]])),
            edited((("parts",), [new[1], *BASE["parts"]])),
        )
        self.assertEqual([part["id"] for part in merged.document["parts"]], ["theirs", "bottom", "transom", "mine"])

    def test_removed_by_one_and_left_alone_by_the_other_is_gone(self):
        self.assertEqual(len(merge(BASE, edited((("parts", 1), ...)), edited(FIELDS[0])).document["parts"]), 1)

    def test_removed_by_one_and_changed_by_the_other_asks(self):
        (conflict,) = merge(BASE, edited((("parts", 1), ...)), edited(FIELDS[3])).conflicts
        self.assertEqual((conflict.path, conflict.mine_removed), ("parts/transom", True))

    def test_the_words_go_with_the_quantity(self):
        shape = ("parts", 0, "shape")
        mine = edited(((*shape, "width_m"), 0.7), ((*shape, "typed"), {"width_m": "70 cm"}))
        theirs = edited(((*shape, "length_m"), 4.0), ((*shape, "typed"), {"length_m": "400 cm"}))
        merged = merge(BASE, mine, theirs)
        self.assertEqual(merged.document["parts"][0]["shape"]["typed"], {"width_m": "70 cm", "length_m": "400 cm"})
        self.assertEqual(merged.conflicts, ())

    def test_another_kind_of_shape_is_one_field(self):
        kind = edited((("parts", 0, "shape"), {"kind": "area", "area_m2": 2.5, "typed": {}}))
        (conflict,) = merge(BASE, kind, edited(FIELDS[2])).conflicts
        self.assertEqual(conflict.path, "parts/bottom/shape")
