"""What holds of every schedule of joints, whatever they are and whoever runs them.

Of `layup.joints.plan`, `layup.day.planner`, `layup.pots.mix`.
"""

from datetime import date, timedelta
from itertools import pairwise
from unittest import TestCase

from hypothesis import example, given, settings
from hypothesis import strategies as st

from layup.bench.issue import rest_of
from layup.plan import plan
from tests.core.jobs import at, corner, jointed, strips

lengths = st.floats(0.3, 6).map(lambda length: round(length, 2))
pastes = st.fixed_dictionaries(
    {
        "length_m": lengths,
        "count": st.integers(1, 3),
        "filler_id": st.sampled_from(["wood-flour", "silica", "glass-spheres"]),
        "consistency": st.sampled_from(["drapes", "peaks", "stands"]),
        "applied": st.sampled_from(["with a stick", "from a bag"]),
        "hidden": st.booleans(),
        "substrate": st.sampled_from(["bare plywood", "sanded laminate"]),
    }
)
corners = st.builds(
    lambda paste, more, tabs: paste | more | {"kind": "corner", "tabs": strips(*tabs)},
    pastes,
    st.fixed_dictionaries(
        {
            "radius_mm": st.integers(8, 30),
            "angle_deg": st.integers(60, 140),
            "sides": st.integers(1, 2),
            "tab_piece_m": st.sampled_from([None, 0.6]),
        }
    ),
    st.sampled_from([(), (160,), (160, 210)]),
)
lines = st.builds(
    lambda paste, kind, width: paste | {"kind": kind, "width_mm": width, "depth_mm": 6},
    pastes,
    st.sampled_from(["glue line", "scarf", "gap", "bedding"]),
    st.integers(8, 40),
)


def _with_own_ids(joints: list[dict]) -> list[dict]:
    return [
        joint | {"id": f"j{n}", "tabs": [tab | {"id": f"{tab['id']}-{n}"} for tab in joint.get("tabs", ())]}
        for n, joint in enumerate(joints)
    ]


JOBS = st.builds(
    lambda joints, hands, mixer, tabbing: jointed(
        *_with_own_ids(joints), pots={"hands": hands, "mixer": mixer}, practice={"tabbing": tabbing}
    ),
    st.lists(corners | lines, min_size=1, max_size=3),
    st.integers(1, 3),
    st.sampled_from(["one of the hands", "a person more"]),
    st.sampled_from(["wet under it", "cured and sanded"]),
)


class EverySchedule(TestCase):
    @settings(max_examples=50, deadline=None)
    @given(JOBS, st.floats(14, 27))
    def test_what_holds_of_it(self, job, room_c):
        """properties: in time, in order, every gram and every metre in some pot."""
        answer = plan(job, at(room_c))
        self.assertFalse(answer.problems)
        if answer.stuck:
            return
        sheet, kinds = answer.run_sheet, {kind.id: kind for kind in answer.pots}
        for pot in sheet.pots:
            self.assertLessEqual(pot.used_min, pot.use_by_min + 0.02, "a pot passes its working share")
            self.assertLessEqual(kinds[pot.about].chance_lost, 0.0201)
            ticket = kinds[pot.about].ticket
            if ticket.left_in_cup_min is not None:
                # Out of the cup and onto the board before the cup has used its life up.
                self.assertLess(pot.on_from_min - pot.touch_min, ticket.left_in_cup_min)
        for pot, later in pairwise(sheet.pots):
            self.assertLessEqual(pot.used_min, later.on_from_min + 0.02)
        # Every gram that a joint takes is laid by its own pots, and every metre of its bead by pots of its paste.
        for joint in answer.joints:
            own = [kind for kind in answer.pots if kind.owner_id == joint.id]
            self.assertAlmostEqual(sum(kind.count * kind.laid_g for kind in own), joint.all_resin_g, 4)
            run = sum(kind.count * kind.ticket.thickened.bead_m for kind in own if kind.ticket.thickened)
            self.assertAlmostEqual(run, joint.run_m, 6)
            self.assertTrue(all(len(kind.labels) == 1 for kind in own if kind.ticket.thickened), "paste serves its own")
        self._in_order(job, answer)

    def _in_order(self, job, answer):
        """Hidden joints before all others; on each lane the steps in their order, tabbing by the job's school."""
        sheet = answer.run_sheet
        hidden = {joint.id for joint in job.joints if joint.hidden}
        owner = {lane.id: lane.owner_id for lane in sheet.lanes}
        began = [owner[lane] for lane in dict.fromkeys(layer.lane for layer in sheet.layers)]
        self.assertEqual(sorted(began, key=lambda joint_id: joint_id not in hidden), began)
        sanded = job.practice.tabbing == "cured and sanded"
        bays = list(dict.fromkeys((layer.lane, layer.bay) for layer in sheet.layers))
        for lane, bay in ((lane, bay) for lane in sheet.lanes for lane_id, bay in bays if lane_id == lane.id):
            layers = [layer for layer in sheet.layers if (layer.lane, layer.bay) == (lane.id, bay)]
            ids = [item for layer in layers for item in layer.item_ids]
            joint = next(joint for joint in job.joints if joint.id == lane.owner_id)
            wanted = [f"{joint.id}.wet", joint.id, *(tab.id for tab in joint.tabs)]
            self.assertEqual(list(dict.fromkeys(ids)), [item for item in wanted if item in ids])
            for beneath, layer in pairwise(layers):
                first_strip = joint.tabs and layer.item_ids[0] == joint.tabs[0].id and beneath.item_ids[-1] == joint.id
                self.assertEqual(layer.mended == "sand, wipe", bool(first_strip and sanded))
                if not layer.mended:
                    self.assertLessEqual(layer.from_min, beneath.closes_min + 0.02)

    @settings(max_examples=25, deadline=None)
    @given(JOBS, st.floats(14, 27))
    def test_a_plan_is_the_same_twice_and_a_colder_room_never_makes_smaller_pots(self, job, room_c):
        answer = plan(job, at(room_c))
        self.assertEqual(plan(job, at(room_c)), answer)
        cooler = plan(job.model_copy(update={"resins": (_held(job, answer),)}), at(room_c - 2))
        if answer.stuck or cooler.stuck:
            return
        self.assertLessEqual(cooler.pot_count, answer.pot_count)


def _held(job, answer):
    """The resin in use with the hardener that was chosen."""
    chosen = next(row.id for row in answer.resins[0].chemistry.hardeners if row.chosen)
    return job.resins[0].model_copy(update={"hardener_id": chosen})


class WhatIsLeft(TestCase):
    @settings(max_examples=60, deadline=None)
    # Two copies that have pots of their own as it is, and would share them in another room, and the other way round.
    @example(jointed(corner(count=2, length_m=3)), 15, 3, 0.5, False)
    @example(jointed(corner(count=2, length_m=4)), 19, -6, 0.5, False)
    # A run that is left in the middle of a strip.
    @example(
        jointed(corner(length_m=5, radius_mm=8, angle_deg=60, sides=2, tabs=strips(160)), pots={"hands": 2}),
        14,
        2,
        7 / 8,
        False,
    )
    @given(JOBS, st.floats(14, 24), st.floats(-4, 6), st.floats(0, 1), st.booleans())
    def test_what_is_laid_and_what_is_left_are_the_whole(self, job, room_c, warmer, done_share, dumped):
        """conservation: from wherever a run stands, in whatever room, every gram is laid once, and dumped pots again."""
        facts = at(room_c, today=date(2026, 5, 4))
        issued = plan(job, facts)
        if issued.stuck:
            return
        begun, pots = issued.run_sheet.start_at, issued.run_sheet.pots
        done = pots[: round(done_share * len(pots))]
        poured = {pot.number: begun + timedelta(minutes=pot.touch_min) for pot in done}
        again = [done[-1].number] if dumped and done else []
        now = begun + timedelta(minutes=done[-1].used_min if done else 0)
        rest = rest_of(job, at(room_c + warmer, today=date(2026, 5, 4)), issued, poured, again, now)
        left = sum(pot.laid_g for pot in rest.run_sheet.pots) if rest.run_sheet else 0.0
        laid = sum(pot.laid_g for pot in done if pot.number not in again)
        self.assertAlmostEqual(laid + left, sum(pot.laid_g for pot in pots), 3)
        self.assertTrue(all(pot.number > len(done) for pot in (rest.run_sheet.pots if rest.run_sheet else ())))

    @settings(max_examples=40, deadline=None)
    @given(JOBS, st.floats(14, 24), st.floats(-4, 6))
    def test_a_fillet_that_is_to_be_sanded_is_waited_for_after_a_break_too(self, job, room_c, warmer):
        """A tabbing school of cured and sanded holds over a run that is planned again right after its pastes."""
        job = job.model_copy(update={"practice": job.practice.model_copy(update={"tabbing": "cured and sanded"})})
        facts, later = (at(c, today=date(2026, 5, 4)) for c in (room_c, room_c + warmer))
        issued = plan(job, facts)
        if issued.stuck:
            return
        kinds = {kind.id: kind for kind in issued.pots}
        begun, pots = issued.run_sheet.start_at, issued.run_sheet.pots
        pasted = [n for n, pot in enumerate(pots) if kinds[pot.about].ticket.thickened]
        done = pots[: max(pasted) + 1]
        poured = {pot.number: begun + timedelta(minutes=pot.touch_min) for pot in done}
        now = begun + timedelta(minutes=done[-1].used_min)
        rest = rest_of(job, later, issued, poured, [], now)
        hard_min = min(plan(job, each).resins[0].chemistry.clocks.sandable_min for each in (facts, later))
        for lane in rest.run_sheet.lanes if rest.run_sheet else ():
            joint = next(joint for joint in job.joints if joint.id == lane.owner_id)
            own = [pot for pot in done if pot.lane == lane.id]
            layers = [layer for layer in rest.run_sheet.layers if layer.lane == lane.id]
            if joint.tabs and own and layers and layers[0].item_ids[0] == joint.tabs[0].id:
                last = max(pot.touch_min for pot in own if kinds[pot.about].ticket.thickened)
                waited = (now - begun).total_seconds() / 60 + layers[0].from_min - last
                self.assertGreaterEqual(waited, hard_min - 1, joint.id)
                self.assertEqual(layers[0].mended, "sand, wipe")


class Wished(TestCase):
    def test_a_wish_for_smaller_pots_is_kept_and_one_for_larger_is_not(self):
        """A builder's own number of pots makes them smaller; what one pot cannot hold in its life stays several."""
        long = corner(length_m=8, radius_mm=25)

        def fillets(**wish) -> int:
            return sum(pot.count for pot in plan(jointed(long | wish), at(20)).pots if "fillet" in pot.labels[0])

        needed = fillets()
        self.assertGreater(needed, 1)
        self.assertEqual(
            [fillets(wished_pots=wished) for wished in (1, needed, needed + 2)], [needed, needed, needed + 2]
        )
