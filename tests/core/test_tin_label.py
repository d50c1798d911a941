"""A tin from its label: what is read off it is its own, all else is as of its kind.

Of `layup.tin_label`.
"""

from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from layup.library import generic
from layup.materials import ResinSystem
from layup.tin_label import TinLabel, tin_of

RESINS = generic().resins
TWO_PART = [resin for resin in RESINS if resin.two_part]
# Read, not made up: what a label says of the products that are written down, with the fraction it is.
RATIOS = {"100:44": 0.44, "2 to 1": 0.5, "5:1": 0.2, "100 : 30": 0.3, "1:1": 1.0}


class Labels(TestCase):
    @settings(max_examples=80)
    @given(
        st.sampled_from(TWO_PART),
        st.sampled_from(sorted(RATIOS)),
        st.sampled_from(("weight", "volume")),
        st.floats(3, 400),
        st.floats(-5, 45),
    )
    def test_any_label_of_two_parts_is_a_whole_product(self, like, ratio, by, minutes, at_c):
        label = TinLabel(like=like.id, name="Mudlark", ratio=ratio, ratio_by=by, minutes=minutes, at_c=at_c)
        tin = ResinSystem.model_validate(tin_of(label, RESINS) | {"id": "tin"} | _with_ids(tin_of(label, RESINS)))
        stated = {"weight": tin.ratio_weight_b_per_a, "volume": tin.ratio_volume_b_per_a}
        self.assertAlmostEqual(stated[by], RATIOS[ratio])
        self.assertIsNone(stated["volume" if by == "weight" else "weight"])
        (hardener,) = tin.hardeners
        self.assertEqual((hardener.pot_life_min, hardener.pot_life_temperature_c), (minutes, at_c))
        self.assertIn(by, tin.bases)
        # The other way of measuring is worked out of both densities, or is not offered.
        known = tin.density_g_per_cm3 is not None and hardener.density_g_per_cm3 is not None
        self.assertTrue(known or tin.bases == (by,))

    def test_its_room_is_the_labels_or_that_of_its_kind_and_the_next(self):
        """Of the generic epoxy 2 to 1: fast 45 to 60 °F, medium 60 to 70, slow 70 to 80, extra slow 80 to 95 (common practice)."""
        epoxy = {"like": "epoxy-2-1", "name": "Mudlark", "ratio": "2:1", "ratio_by": "volume"}
        for minutes, low_f, high_f in ((5, 45, 70), (13, 45, 80), (26, 60, 95), (90, 70, 95)):
            (hardener,) = tin_of(TinLabel(**epoxy, minutes=minutes), RESINS)["hardeners"]
            self.assertEqual((hardener["band_low_f"], hardener["band_high_f"]), (low_f, high_f))
            self.assertEqual(hardener["sources"]["band_low_f"], "memory")
        said = TinLabel(**epoxy, minutes=26, room_from_c=15, room_to_c=30)
        (hardener,) = tin_of(said, RESINS)["hardeners"]
        self.assertAlmostEqual(hardener["band_low_f"], 59)
        self.assertAlmostEqual(hardener["band_high_f"], 86)
        self.assertEqual(hardener["sources"]["band_high_f"], "data sheet")

    def test_what_the_label_leaves_out_is_not_dressed_as_its_own(self):
        epoxy = tin_of(TinLabel(like="epoxy-2-1", name="Mudlark", ratio="2:1", minutes=26), RESINS)["hardeners"][0]
        polyester = tin_of(TinLabel(like="polyester-general", name="Slip", minutes=18), RESINS)["catalyst"]
        for told, read, lent in (
            (epoxy, "pot_life_min", ("pot_life_mass_g", "pot_life_temperature_c")),
            (polyester, "stated_gel_min", ("stated_pct", "stated_temperature_c")),
        ):
            self.assertEqual(told["sources"][read], "data sheet")
            self.assertNotIn("data sheet", [told["sources"][field] for field in lent])

    def test_what_nobody_reads_off_a_label_is_left_behind(self):
        """A price, the sizes it is sold in and words of the generic product are none of this tin."""
        for like in RESINS:
            label = TinLabel(like=like.id, name="Mudlark", ratio="2:1", minutes=20)
            tin = tin_of(label, RESINS)
            self.assertFalse({"id", "price_per_kg", "sold_kg", "note"} & set(tin))
            self.assertEqual(tin["family"], like.family)


def _with_ids(tin: dict) -> dict:
    """As the shelf gives them."""
    return {"hardeners": [hardener | {"id": f"h{at}"} for at, hardener in enumerate(tin["hardeners"])]}
