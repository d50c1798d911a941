"""The preparation: its order, and what follows from the ground. common practice, no source, unless it says otherwise."""

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cradle.demo_jobs import buoy_lid, foam_hatch, locker_lid, rudder_blade
from layup.job import Substrate
from layup.plan import plan
from layup.preparing.preparation import checklist, vessels_needed
from tests.core.jobs import at, on, panel

GROUNDS = Substrate.__args__


def codes(job) -> list[str]:
    lines = checklist(job, plan(job, at(20)), at(20).scales)
    return [line.id.split(":")[0] for line in lines]


class Order(TestCase):
    @given(
        st.sampled_from(GROUNDS),
        st.booleans(),
        st.booleans(),
        st.sampled_from(["", "paint", "gel coat"]),
        st.sampled_from(["epoxy-2-1", "polyester-general"]),
        st.sampled_from(["open mould", "vacuum bag", "infusion"]),
    )
    def test_water_then_sand_then_dust_then_wipe_then_fit(self, ground, dirty, clear, later, resin, process):
        state = {"contaminated": dirty, "show_face": clear, "later": later, "fixings": "six clamps"}
        job = on(panel(resin, "cloth-300"), substrate=ground, ground=state, process=process)
        found = codes(job)
        self.assertEqual(len(found), len(set(found)))
        for before, after in (
            ("water", "sand"),
            ("degrease", "sand"),
            ("sand", "dust"),
            ("dust", "wipe"),
            ("wipe", "seal"),
            ("wipe", "fit"),
            ("fit", "vessels"),
        ):
            if before in found and after in found:
                self.assertLess(found.index(before), found.index(after))
        self.assertEqual("sand" in found, "dust" in found)
        self.assertEqual("sand" in found, "wipe" in found)
        self.assertIn("clamps", found)
        self.assertEqual("bag" in found, process != "open mould")


class Grounds(TestCase):
    def test_blush_comes_off_with_water_first(self):
        found = codes(on(panel("epoxy-2-1", "cloth-300"), substrate="cured epoxy"))
        self.assertEqual(found[:5], ["sheets", "water", "sand", "dust", "wipe"])

    def test_polystyrene_and_wood_get_no_solvent_and_size_picks_it_elsewhere(self):
        def wipe(width_m, **changes):
            job = on(panel("epoxy-2-1", "cloth-300", width_m=width_m), **changes)
            lines = checklist(job, plan(job, at(20)), at(20).scales)
            return next(line.words for line in lines if line.id.startswith("wipe"))

        self.assertIn("no solvent", wipe(1, substrate="polystyrene foam"))
        self.assertIn("dry cloth", wipe(1, substrate="bare plywood"))
        self.assertIn("fast solvent", wipe(0.3, substrate="sanded laminate"))
        self.assertIn("slow solvent", wipe(1.2, substrate="sanded laminate"))

    def test_a_patch_is_ground_masked_and_backed_where_it_goes_through(self):
        self.assertNotIn("backing", codes(locker_lid()))
        shape = locker_lid().parts[0].shape.model_dump() | {"through": True}
        through = codes(on(locker_lid(), shape=shape))
        self.assertLess(through.index("grind"), through.index("backing"))
        self.assertIn("mask", through)

    def test_a_mould_is_waxed_and_peroxide_has_its_sand(self):
        found = codes(buoy_lid())
        self.assertIn("release", found)
        self.assertNotIn("sand", found)
        self.assertIn("spill", found)
        self.assertNotIn("spill", codes(rudder_blade()))
        self.assertIn("bag", codes(foam_hatch()))

    def test_cups_are_counted_by_the_way_of_mixing(self):
        for practice, each, own in (
            ({"mixing": "two pots"}, 2, 0),
            ({"mixing": "one pot"}, 1, 0),
            ({"mixing": "one pot", "vessels": "each in its own"}, 1, 2),
        ):
            job = panel("epoxy-2-1", "cloth-300", practice=practice)
            answer = plan(job, at(20))
            self.assertEqual(vessels_needed(job, answer), each * answer.pot_count + own)
