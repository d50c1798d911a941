"""Bags: pressures against published forms and another library's units, what lies in one, when it must be down.

Of `layup.bag`.
"""

from datetime import date
from math import exp
from unittest import TestCase

import pint
from hypothesis import given, settings
from hypothesis import strategies as st

from layup.bag import vacuum
from layup.errors import OutOfRange
from layup.library import generic
from layup.plan import plan
from layup.preparing.buying import shopping_list
from layup.preparing.cutting import cut_plan
from tests.core.jobs import at, on, panel

UNITS = pint.UnitRegistry()
MONDAY = date(2026, 5, 4)


def bagged(*stack: str, wide=0.5, long=1.0, part: dict | None = None, **bag):
    job = panel("epoxy-2-1", *(stack or ("cloth-300", "cloth-300")), width_m=wide, length_m=long)
    return on(job, process="vacuum bag", bag=bag, **(part or {}))


class Pressures(TestCase):
    def test_the_air_at_a_height(self):
        """published: tables of the international standard atmosphere (ISO 2533), hPa."""
        for height_m, hpa in ((0, 1013.25), (500, 954.6), (1000, 898.7), (1500, 845.6), (2000, 795.0), (3000, 701.1)):
            self.assertAlmostEqual(vacuum.ambient_mbar(height_m), hpa, delta=0.15)

    @given(st.floats(0, 28), st.floats(0, 2500))
    def test_a_gauge_in_inches_of_mercury(self, below, height_m):
        """Outside truth: Pint's inch of mercury, under the air outside."""
        ambient = vacuum.ambient_mbar(height_m)
        mbar = ambient - (below * UNITS.inHg).to("mbar").magnitude
        if not vacuum.PUMP_ENDS_MBAR < mbar < ambient - 1:
            with self.assertRaises(OutOfRange):
                vacuum.level_mbar(below, "inHg below the air", height_m)
            return
        told = vacuum.level_mbar(below, "inHg below the air", height_m)
        self.assertAlmostEqual(told, mbar, delta=0.01)
        self.assertAlmostEqual(vacuum.inhg_below(told, height_m), below, places=6)
        self.assertAlmostEqual(
            vacuum.level_mbar(vacuum.vacuum_pct(told, height_m), "% of a full vacuum", height_m), told
        )

    def test_near_a_full_vacuum_ten_tonnes_press_on_a_square_metre(self):
        """exact arithmetic: pressure times area; Pint's tonne-force."""
        told = vacuum.force_kn(1.0, 1.0)
        pressure = (vacuum.SEA_LEVEL_MBAR - 1) * UNITS.mbar * UNITS.meter**2
        self.assertAlmostEqual(told, pressure.to("kN").magnitude, places=6)
        self.assertAlmostEqual(told * UNITS.kN / UNITS.metric_ton_force, 10.3, delta=0.05)

    @given(st.floats(1, 500), st.floats(1, 500), st.floats(2, 900))
    def test_pumping_down_is_an_exponential(self, air_l, pump, level):
        """published: p = p0 exp(−S t / V), pumped at a constant speed."""
        minutes = vacuum.draw_down_min(air_l, pump, level)
        self.assertAlmostEqual(vacuum.SEA_LEVEL_MBAR * exp(-pump * minutes / air_l), level, delta=1e-6 * level)

    def test_a_leak_by_its_rise(self):
        """published: V Δp/Δt; 30 l that rise 10 mbar in 10 min leak half a mbar·l/s, and keep half their pull for hours."""
        leak = vacuum.leak_mbar_l_per_s(30, 10, 10)
        self.assertAlmostEqual(leak, 0.5)
        self.assertAlmostEqual(vacuum.lost_after_min(leak, 30, 100, 110), 10)
        self.assertAlmostEqual(vacuum.held_mbar(leak, 60), 0.5)

    def test_what_no_pump_does_is_refused_where_it_was_typed(self):
        for said, words in (
            ({"level": 0}, "no shop pump"),
            ({"level": 31, "level_in": "inHg below the air"}, "no shop pump"),
            ({"level": 1013}, "pulls nothing"),
            ({"level": 0, "level_in": "% of a full vacuum"}, "pulls nothing"),
        ):
            problem = plan(bagged(**said), at(20)).problems[0]
            self.assertEqual((problem.path, problem.wrong, problem.step), ("parts.0.bag.level", True, "bag"))
            self.assertIn(words, problem.message)
        slow = plan(bagged(pump_l_per_min=1, air_l=10_000), at(20)).problems[0]
        self.assertEqual(slow.path, "parts.0.bag.pump_l_per_min")
        # What cannot be of the bag stops neither the weights nor the pots.
        self.assertTrue(plan(bagged(level=0), at(20)).pots)

    def test_a_shop_on_a_mountain_has_less_to_pull(self):
        """common practice, no source: about 12 % less at a thousand metres."""
        low, high = (plan(bagged(), at(20, above_sea_m=m)).bags[0] for m in (0, 1000))
        self.assertAlmostEqual(high.ambient_mbar / low.ambient_mbar, 0.887, delta=0.002)
        self.assertLess(high.force_kn, low.force_kn)


class InTheBag(TestCase):
    def test_the_stack_outward_and_what_of_it_comes_with_the_bag(self):
        told = plan(bagged("cloth-300", "foam-10", perforated_film=True), at(20)).bags[0]
        self.assertEqual(
            [(layer.kind, layer.written) for layer in told.layers],
            [
                ("mould", False),
                ("laminate", True),
                ("core", True),
                ("peel ply", False),
                ("perforated film", False),
                ("breather", False),
                ("bag", False),
            ],
        )
        areas = {layer.kind: layer.area_m2 for layer in told.layers}
        self.assertAlmostEqual(areas["peel ply"], 0.5 * 1.10)
        self.assertAlmostEqual(areas["breather"], 0.5 * 1.15)
        # A film 40 % over, and the sides it stands up by.
        self.assertAlmostEqual(areas["bag"], 0.5 * 1.40 + 3.0 * 0.020)
        self.assertAlmostEqual(told.tape_m, 1.05 * 3.0 + told.pleats * 2 * 0.020)
        self.assertEqual(plan(bagged(height_mm=2), at(20)).bags[0].pleats, 0)

    def test_what_stands_in_the_stack_is_not_brought_again(self):
        """What the bag brings is cut, counted and bought; what is written is there already."""
        for stack, brought in (
            (("cloth-300",), {"peel-85", "breather-150"}),
            (("cloth-300", "peel-85"), {"breather-150"}),
            (("cloth-300", "peel-85", "breather-150"), set()),
        ):
            job = bagged(*stack)
            answer, cut = plan(job, at(20)), cut_plan(job)
            own = {piece.fabric_id for piece in cut.pieces if "for the bag" in piece.notes}
            self.assertEqual(own, brought)
            self.assertEqual(answer.piece_count, len(cut.pieces))
            bought = {line.what for line in shopping_list(job, answer, cut, generic()).lines}
            self.assertEqual({"85 peel ply", "150 breather"} - bought, set())

    def test_hand_laid_resin_is_what_stays_and_what_bleeds(self):
        """exact: W (1 − ψ)/ψ by hand, less the same under the bag; both go by the table of ISO 12215-5, from memory."""
        job = bagged("csm-450")
        told, part = plan(job, at(20)).bags[0], plan(job, at(20)).parts[0]
        by_hand, under = 450 * 0.70 / 0.30, 450 * 0.64 / 0.36
        self.assertAlmostEqual(told.bled_gsm, by_hand - under, places=6)
        self.assertAlmostEqual(told.bled_g, 0.5 * told.bled_gsm)
        self.assertAlmostEqual(told.by_hand_share, 0.30)
        self.assertAlmostEqual(told.bagged_share, 0.36)
        use = plan(job, at(20)).resins[0].use
        self.assertAlmostEqual(use.in_bag_g, told.bled_g)
        pots = sum(pot.laid_g * pot.count for pot in plan(job, at(20)).pots)
        self.assertAlmostEqual(pots, part.resin_in_plies_g + told.bled_g, places=6)

    def test_a_ply_that_says_its_own_share_bleeds_down_to_it(self):
        plies = [{"id": "y", "fabric_id": "cloth-300", "fibre_weight_fraction": 0.6}]
        told = plan(bagged("cloth-300", part={"plies": plies}), at(20)).bags[0]
        self.assertAlmostEqual(told.bagged_share, 0.6)
        self.assertGreater(told.bled_gsm, 0)

    @given(st.floats(5, 900), st.floats(5, 900))
    def test_what_is_pulled_harder_is_never_richer_in_resin_and_never_leaner_than_what_was_laid(self, one, other):
        hard, soft = (plan(bagged(level=level), at(20)) for level in sorted((one, other)))
        (lean, rich) = (answer.bags[0] for answer in (hard, soft))
        self.assertGreaterEqual(lean.bagged_share, rich.bagged_share - 1e-12)
        self.assertGreaterEqual(lean.bled_g, rich.bled_g - 1e-9)
        self.assertGreaterEqual(rich.bled_g, 0)
        # What is mixed is laid by hand, whatever is pulled after.
        self.assertAlmostEqual(
            *(sum(pot.mass_g for pot in answer.run_sheet.pots) for answer in (hard, soft)), delta=1e-6
        )

    def test_fibre_gives_way_as_a_small_power_of_what_presses(self):
        """published form: Vf as a power of the pressure; its number, 0.1, memory. At 100 mbar left by the sea it is the
        table's own share."""

        def by_volume(level: float) -> float:
            return plan(bagged(level=level), at(20)).parts[0].plies[0].fibre_volume_fraction

        table = plan(bagged(), at(20)).parts[0].plies[0]
        self.assertAlmostEqual(table.fibre_weight_fraction, 0.58)
        # Where it is pulled otherwise, its source says so.
        self.assertNotIn("mbar", table.fraction_source)
        self.assertIn("at 513 mbar", plan(bagged(level=500), at(20)).parts[0].plies[0].fraction_source)
        pulls = [vacuum.pull_mbar(level) for level in (100, 500)]
        self.assertAlmostEqual(by_volume(500) / by_volume(100), (pulls[1] / pulls[0]) ** 0.1, places=6)
        typed = bagged(level=500)
        plies = tuple(ply.model_copy(update={"fibre_weight_fraction": 0.55}) for ply in typed.parts[0].plies)
        kept = plan(on(typed, plies=plies), at(20)).parts[0].plies[0]
        self.assertEqual((kept.fibre_weight_fraction, kept.fraction_source), (0.55, "data sheet"))

    def test_a_perforated_film_is_cut_paid_for_and_drawn_between_peel_ply_and_breather(self):
        job = bagged(perforated_film=True)
        answer = plan(job, at(20))
        kinds = [layer.kind for layer in answer.bags[0].layers]
        self.assertEqual(kinds[kinds.index("peel ply") :], ["peel ply", "perforated film", "breather", "bag"])
        cut = cut_plan(job)
        (film,) = (each for each in cut.pieces if each.fabric_id == "film-30")
        # A tenth more than the part, on a square metre's half.
        self.assertAlmostEqual(film.along_mm * film.across_mm / 1e6, 1.1 * 0.5, delta=0.005)
        self.assertIn("30 perforated film", {line.what for line in shopping_list(job, answer, cut, generic()).lines})
        # One that stands in the stack is not brought again.
        written = bagged("cloth-300", "peel-85", "film-30", perforated_film=True)
        self.assertFalse(
            [each for each in cut_plan(written).pieces if "for the bag" in each.notes and "film" in each.fabric_id]
        )


class Deadline(TestCase):
    @settings(max_examples=25, deadline=None)
    @given(st.floats(14, 28), st.integers(1, 6), st.integers(1, 3), st.floats(2, 60))
    def test_the_last_pot_is_the_last_that_is_bagged_before_the_first_gels(self, room_c, plies, count, bagging_min):
        """properties: each copy whole before the next; the last pot in time is the last whose bag is down before the gel."""
        job = bagged(*["cloth-300"] * plies, bagging_min=bagging_min, part={"count": count})
        answer = plan(job, at(room_c, today=MONDAY))
        if answer.stuck or not answer.pots:
            return
        told, sheet = answer.bags[0], answer.run_sheet
        for day in told.on_day:
            pots = [pot for pot in sheet.pots if pot.lane == day.lane]
            self.assertAlmostEqual(day.first_touch_min, pots[0].touch_min, delta=0.01)
            self.assertAlmostEqual(day.laid_min, pots[-1].used_min, delta=0.01)
            after = day.down_min - day.laid_min
            in_time = [pot.number for pot in pots if pot.used_min + after <= day.gels_min + 0.01]
            self.assertEqual(day.last_pot, max(in_time, default=0))
            self.assertEqual(day.to_spare_min < 0, day.last_pot < day.pots_in_all)
        lanes = [pot.lane for pot in sheet.pots]
        self.assertEqual(lanes, sorted(lanes, key=lanes.index))
        bags = [busy for busy in sheet.busy if busy.words == "put the bag on"]
        self.assertEqual(len(bags), len(told.on_day))

    def test_a_slow_crew_misses_it_and_more_hands_make_it(self):
        def spare(hands: int, **bag) -> float:
            job = bagged(*["csm-450"] * 4, wide=1.5, long=3, **bag).model_dump(mode="json")
            job["pots"] |= {"hands": hands, "mixer": "a person more"}
            answer = plan(panel("epoxy-2-1", "csm-450").model_validate(job), at(24, today=MONDAY))
            return answer.bags[0].on_day[0].to_spare_min

        self.assertLess(spare(1), 0)
        self.assertGreater(spare(4), spare(1) + 30)

    def test_a_warmer_room_leaves_less_time(self):
        job = bagged(bagging_min=15).model_dump(mode="json")
        job["resins"][0] |= {"hardener_id": "epoxy-2-1-medium"}
        held = panel("epoxy-2-1", "cloth-300").model_validate(job)
        spare = [plan(held, at(room_c)).bags[0].on_day[0].to_spare_min for room_c in (16, 20, 24, 28)]
        self.assertEqual(spare, sorted(spare, reverse=True))

    def test_what_a_bag_presses_is_begun_when_it_can_be_ended_the_same_day(self):
        """It is laid wet on wet: what does not fit before closing is begun in the morning, not left over night."""
        job = bagged(*["cloth-300"] * 3, bagging_min=60).model_dump(mode="json")
        job["pots"] |= {"start": "2026-05-04T16:40:00Z"}
        answer = plan(panel("epoxy-2-1", "cloth-300").model_validate(job), at(20, today=MONDAY))
        self.assertGreater(answer.run_sheet.pots[0].touch_min, 12 * 60)
        self.assertGreater(answer.bags[0].on_day[0].to_spare_min, 0)
