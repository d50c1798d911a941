"""Castings: cavities, what fills them, their heat, their lifts, and their day.

Of `layup.heat.pour_heat`, `layup.day.planner`, `layup.pours.plan`, `layup.pours.answers`, `layup.pours.kind`,
`layup.pours.preparation`, `layup.pours.workings`, `layup.pours.asked`.
"""

import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import dblquad
from scipy.optimize import brentq

from layup.castings import Insert, Pour, Reading
from layup.errors import LayupError
from layup.heat.conduction import Body, Face, Layer, simulate
from layup.heat.cure_kinetics import TwoPartCure
from layup.heat.pour_heat import Start, follow
from layup.plan import plan
from layup.pours.cavity import cavity_of, tapered_l
from layup.pours.filling import Fill, filled, kilo_for_litre, on_the_resin
from layup.pours.hours import pour_hours
from layup.pours.lifts import cool_lifts, deepest_mm, lifts_of, peaks_at, second_peak_c
from layup.pours.surround import casting_cure, surround_of
from layup.preparing.preparation import checklist
from layup.shop_facts import RoomDay, ShopFacts
from layup.workings.worked import working
from tests.core.jobs import at, cast, filler, resin, slab

CARBON = Fill("tow", 1.78, 350, 0.2)


def kinetics(pace_per_s: float, heat_j_per_g: float) -> TwoPartCure:
    return TwoPartCure(math.log(pace_per_s), 55.0, kappa=0.05, n=2.0, heat_j_per_g=heat_j_per_g, gels_at=0.55)


FAST, SLOW, CASTING = kinetics(7.128e-4, 315), kinetics(2.890e-4, 309), kinetics(5.005e-5, 380)


def wood(**changes):
    """A wide pour of unfilled resin in softwood of 25 mm, in still air."""
    return surround_of(Pour(id="p", **changes), 1.10, None, 300, True)


class Cavities(unittest.TestCase):
    def test_stations_wedges_and_discs_hold_what_they_hold(self):
        """Exact arithmetic, and Simpson's rule (published)."""
        readings = tuple(Reading(id=f"r{n}", width_mm=w) for n, w in enumerate((300, 340, 360, 330, 310)))
        edge = cavity_of(Pour(id="p", shape="readings", length_m=1, depth_mm=25, readings=readings))
        self.assertAlmostEqual(edge.volume_l, 8.354, delta=0.001)
        self.assertAlmostEqual(edge.surface_m2, 8.354 / 25, delta=1e-4)
        uneven = [
            each.model_copy(update={"at_m": at}) for each, at in zip(readings, (0, 0.3, 0.5, 0.75, 1), strict=True)
        ]
        trapezia = 25 * (0.3 * 320 + 0.2 * 350 + 0.25 * 345 + 0.25 * 320) / 1000
        placed = Pour(id="p", shape="readings", length_m=1, depth_mm=25, readings=uneven)
        self.assertAlmostEqual(cavity_of(placed).volume_l, trapezia, 9)
        wedge = cavity_of(Pour(id="p", length_m=0.6, width_mm=300, depth_mm=10, end_depth_mm=25))
        self.assertAlmostEqual(wedge.volume_l, 3.150, 9)
        self.assertEqual(wedge.deepest_mm, 25)
        disc = cavity_of(Pour(id="p", shape="disc", diameter_mm=200, depth_mm=10))
        self.assertAlmostEqual(disc.volume_l, math.pi * 0.1, 9)
        self.assertAlmostEqual(disc.round_m, math.pi * 0.2, 9)
        self.assertAlmostEqual(disc.wetted_m2, math.pi * 0.01 + math.pi * 0.2 * 0.01, 9)

    @given(st.lists(st.floats(5, 900), min_size=4, max_size=4), st.floats(0.05, 4))
    def test_a_taper_both_ways_is_its_integral(self, ends: list[float], length: float):
        """Published rule against numeric integration of the depth over the plan."""
        w0, w1, d0, d1 = ends

        def depth(_across: float, along: float) -> float:
            return d0 + (d1 - d0) * along / length

        integral, _ = dblquad(depth, 0, length, 0, lambda along: w0 + (w1 - w0) * along / length)
        self.assertAlmostEqual(tapered_l(length, w0, d0, w1, d1) / (integral / 1000), 1, 6)

    def test_what_stands_in_it_takes_its_room(self):
        block = Insert(id="i", count=2, length_mm=100, width_mm=50, depth_mm=10)
        whole = Pour(id="p", length_m=0.6, width_mm=300, depth_mm=20)
        drowned = cavity_of(whole.model_copy(update={"inserts": (block,)}))
        through = cavity_of(whole.model_copy(update={"inserts": (block.model_copy(update={"depth_mm": 30}),)}))
        self.assertAlmostEqual(drowned.volume_l, 3.6 - 0.1, 9)
        self.assertAlmostEqual(drowned.surface_m2, 0.18, 9)
        # One that is higher than the pour takes only what is under its surface, and that much of the surface.
        self.assertAlmostEqual(through.volume_l, 3.6 - 0.2, 9)
        self.assertAlmostEqual(through.surface_m2, 0.17, 9)

    def test_the_dam_and_the_walls_of_an_even_one(self):
        even = cavity_of(Pour(id="p", length_m=0.6, width_mm=300, depth_mm=20))
        self.assertAlmostEqual(even.round_m, 1.8, 9)
        self.assertAlmostEqual(even.wetted_m2, 0.18 + 1.8 * 0.02, 9)
        self.assertEqual(even.across_mm, 300)

    def test_what_cannot_be_is_said_at_its_field(self):
        def readings(*pairs):
            return tuple(Reading(id=f"r{n}", at_m=at, width_mm=w) for n, (at, w) in enumerate(pairs))

        full = Insert(id="i", length_mm=600, width_mm=300, depth_mm=20)
        flat = {"length_m": 1, "depth_mm": 20, "shape": "readings"}
        for changes, path, words in (
            (slab(inserts=(full,)), "inserts", "fills it"),
            (slab(inserts=(Insert(id="i", length_mm=60, width_mm=30),)), "inserts.0.depth_mm", "how high"),
            (slab(depth_mm=None), "depth_mm", "how deep"),
            (flat | {"readings": readings((0, 100))}, "readings", "two places"),
            (flat | {"readings": readings((None, 100), (None, None))}, "readings.1.width_mm", "how wide"),
            (flat | {"readings": readings((0, 100), (None, 90))}, "readings.1.at_m", "where"),
            (flat | {"readings": readings((0, 100), (0.6, 90), (0.5, 90))}, "readings.2.at_m", "no further"),
            (flat | {"readings": readings((0, 100), (0.6, 90))}, "readings.1.at_m", "the last at the other"),
            (flat | {"readings": readings((0.1, 100), (1, 90))}, "readings.0.at_m", "at one end"),
            (flat | {"readings": readings((0, 0), (1, 0))}, "readings.0.width_mm", "nought wide"),
        ):
            with self.subTest(words), self.assertRaises(LayupError) as refused:
                cavity_of(Pour(id="p", **changes))
            self.assertEqual(refused.exception.path, path)
            self.assertIn(words, refused.exception.message)


class Fillings(unittest.TestCase):
    def test_a_filled_slab_both_ways(self):
        """Exact arithmetic: 600 × 300 × 20 mm, densities 1.10 and 1.78, 20 % on resin."""
        over = filled(3.6, 0.18, 1.10, CARBON, taken_off=False)
        just = filled(3.6, 0.18, 1.10, CARBON)
        self.assertAlmostEqual(over.resin_g, 3960, delta=0.5)
        self.assertAlmostEqual(over.fill_g, 792, delta=0.1)
        self.assertAlmostEqual(over.short_mm, -2.47, delta=0.005)
        self.assertAlmostEqual(just.resin_g, 3524, delta=0.5)
        self.assertAlmostEqual(just.fill_g, 705, delta=0.5)
        short_mm, short_l = kilo_for_litre(3.6, 0.18, 1.10)
        self.assertAlmostEqual(20 - short_mm, 18.18, delta=0.005)
        self.assertAlmostEqual(short_l, 0.327, delta=0.0005)

    @given(st.floats(0.05, 40), st.floats(0.9, 1.6), st.floats(0.01, 0.5), st.floats(1.2, 2.7), st.floats(0, 0.5))
    def test_what_goes_in_is_what_stands_there(self, litres, density, share, own, held):
        """Exact: the volumes of resin and fill make the cavity full, and what is held back is what is short."""
        fill = Fill("x", own, 300, share)
        try:
            just = filled(litres, 0.2, density, fill, held_back=held)
        except LayupError:
            self.assertGreater(share / own / (1 / density + share / own), 0.449)
            return
        self.assertAlmostEqual(just.resin_g / density + just.fill_g / own, 1000 * litres, 6)
        self.assertAlmostEqual(just.level_mm + just.rise_mm + just.short_mm, litres / 0.2, 6)
        self.assertAlmostEqual(just.short_mm, held * litres / 0.2, 6)

    @given(st.floats(0.01, 0.3), st.floats(0.01, 0.3))
    def test_more_fibre_never_lowers_the_level(self, one, other):
        less, more = sorted((one, other))
        for taken_off in (True, False):
            levels = [
                filled(3.6, 0.18, 1.1, replace(CARBON, on_resin=share), taken_off=taken_off) for share in (less, more)
            ]
            stands = [each.level_mm + each.rise_mm for each in levels]
            self.assertGreaterEqual(stands[1], stands[0] - 1e-9)

    def test_a_share_says_of_what(self):
        """Exact arithmetic: 20 % on resin is 16.7 % of the whole."""
        self.assertAlmostEqual(on_the_resin(1 / 6, True), 0.2, 9)
        with self.assertRaises(LayupError) as refused:
            on_the_resin(1.2, True)
        self.assertEqual(refused.exception.path, "filled_share")
        with self.assertRaises(LayupError) as refused:
            filled(3.6, 0.18, 1.1, replace(CARBON, on_resin=1.6))
        self.assertIn("stands out of the resin", refused.exception.message)


class Heat(unittest.TestCase):
    """Of one pour. Where no other source is named: memory, another program's run of the same equations."""

    def one(self, cure, depth_mm, room_c, **changes):
        poured, _ = follow([wood(**changes).body((depth_mm,))], cure, [room_c])
        return {name: float(value[0]) for name, value in vars(poured).items()}

    def test_peaks_and_their_hours(self):
        for cure, depth, room, peak, minutes, changes in (
            (FAST, 10, 20, 142.9, 45.8, {}),
            (SLOW, 20, 20, 144.2, 112.4, {}),
            (CASTING, 25, 23, 60.1, 12.93 * 60, {}),
            (CASTING, 25, 23, 33.7, 13.8 * 60, {"fan": True}),
            (CASTING, 35, 23, 152.0, None, {}),
            (CASTING, 25, 23, 137.0, None, {"lies_in": "foam"}),
        ):
            with self.subTest(depth=depth, **changes):
                found = self.one(cure, depth, room, **changes)
                self.assertAlmostEqual(found["peak_c"], peak, delta=2)
                if minutes:
                    self.assertAlmostEqual(found["peak_min"] / minutes, 1, delta=0.012)

    def test_the_deepest_pour_of_a_room(self):
        for cure, caps in (
            (FAST, (6.4, 4.8, 3.6, 3.0)),
            (SLOW, (13, 9.7, 7.2, 5.3)),
            (CASTING, (39, 29.6, 22.2, 16.6)),
            (casting_cure(50.0), (77, 59, 45, 34)),
        ):
            for room, cap in zip((15, 20, 25, 30), caps, strict=True):
                self.assertAlmostEqual(deepest_mm(cure, wood(), 60, room), cap, delta=max(0.4, 0.025 * cap))

    def test_a_sheets_depth_gives_its_pace(self):
        self.assertAlmostEqual(math.exp(casting_cure(25.0).ln_a), 5.005e-5, delta=5e-7)
        self.assertIsNone(casting_cure(20_000.0))

    def test_a_second_lift_by_its_wait(self):
        for hours, peak in ((12.9, 220), (14, 134), (15, 83), (17, 60), (20, 55), (24, 53)):
            self.assertAlmostEqual(second_peak_c(CASTING, wood(), 25, 23, 60 * hours), peak, delta=5)
        self.assertAlmostEqual(float(peaks_at(CASTING, wood(), (50.0,), 23)[0]), 220, delta=4)

    def test_the_window_of_a_lift(self):
        for room, opens, closes in ((20, 24, 41), (25, 13, 22)):
            (lift,) = lifts_of(CASTING, wood(), (20.0,), room)
            self.assertAlmostEqual(lift.bears_min / 60, opens, delta=0.7)
            self.assertAlmostEqual(lift.closes_min / 60, closes, delta=0.7)

    def test_filler_takes_heat_and_gives_none(self):
        filled_with = surround_of(Pour(id="p"), 1.1, CARBON, 300, True)
        self.assertAlmostEqual(380 * filled_with.stuff.resin_share / filled_with.stuff.heat_j_per_g_k, 185, delta=2)
        gain = deepest_mm(CASTING, filled_with, 60, 23) / deepest_mm(CASTING, wood(), 60, 23)
        self.assertTrue(1.12 < gain < 1.17, gain)

    def test_narrow_walls_help_and_wide_ones_do_not(self):
        narrow, middling = (surround_of(Pour(id="p"), 1.1, None, across, True) for across in (40, 120))
        peaks = [float(peaks_at(CASTING, each, (30.0,), 23)[0]) for each in (narrow, middling, wood())]
        self.assertEqual(peaks, sorted(peaks))
        self.assertEqual(surround_of(Pour(id="p"), 1.1, None, 151, True), wood())

    def test_without_reaction_it_cools_as_the_series(self):
        """Published: Carslaw and Jaeger's series, a slab cooled on one face: 20 mm, 50 to 0 °C, h 10, one hour."""
        resin_ = Layer(0.02, 1.1, 1.9, 0.2, 1.0, 24)
        inert = TwoPartCure(-60.0, heat_j_per_g=0.0)
        warm = np.full(24, 273.15 + 50)
        start = Start(warm, np.zeros((24, 1)))
        body = Body("slab", (resin_,), Face(10))
        _, history = follow([body], inert, [0.0], starts=[start], for_min=60, kept=True)
        biot, fourier = 1.0, 3600 * 0.2 / (1100 * 1900) / 0.02**2
        series = 0.0
        for i in range(40):
            z = brentq(lambda z: z * math.sin(z) - biot * math.cos(z), i * math.pi + 1e-9, i * math.pi + math.pi / 2)
            series += 4 * math.sin(z) / (2 * z + math.sin(2 * z)) * math.exp(-z * z * fourier)
        self.assertAlmostEqual(50 * series, 29.58, delta=0.01)
        self.assertAlmostEqual(float(history.cells_c[-1, 0]), 50 * series, delta=0.05)

    def test_kept_from_its_surround_it_warms_by_all_its_heat(self):
        """Published: the adiabatic limit, T − T₀ = (H/c) α in every cell; 380 J/g over 1.9 is 200 K."""
        body = Body("slab", (Layer(0.02, 1.1, 1.9, 0.2, 1.0, 6),), Face(0))
        poured, history = follow([body], CASTING, [23.0], kept=True, for_min=6000)
        self.assertAlmostEqual(float(poured.peak_c[0]) - 23, 200, delta=1)
        rise = history.cells_c - 23
        np.testing.assert_allclose(rise, 200 * history.states[:, :, 0], atol=0.2)

    def test_the_same_equations_by_a_library_solver(self):
        """SciPy's VODE on the same cells: gel within 1 %, peak within 2 K."""
        for depth, ground in ((12, "softwood"), (30, "softwood"), (18, "foam"), (22, "stone")):
            body = wood(lies_in=ground).body((float(depth),))
            fine = simulate(replace(body, inner=Face(6.0)), CASTING, 24, until="peak")
            found, _ = follow([replace(body, inner=Face(6.0))], CASTING, [24.0], kept=True)
            self.assertAlmostEqual(float(found.peak_c[0]), fine.peak_c, delta=2)

    def test_each_of_many_is_as_it_would_be_alone(self):
        depths, rooms = (5.0, 12.0, 30.0, 60.0), (15.0, 22.0, 30.0, 18.0)
        bodies = [wood().body((depth,)) for depth in depths]
        together, _ = follow(bodies, CASTING, rooms)
        for at_, (body, room) in enumerate(zip(bodies, rooms, strict=True)):
            alone, _ = follow([body], CASTING, [room])
            self.assertAlmostEqual(float(together.peak_c[at_]), float(alone.peak_c[0]), 6)
            self.assertAlmostEqual(float(together.bears_min[at_]), float(alone.bears_min[0]), 4)

    def test_a_room_that_stands_still_is_one_temperature(self):
        body = wood().body((25.0,))
        still, _ = follow([body], CASTING, [23.0])
        through, _ = follow([body], CASTING, [[(0.0, 23.0), (6000.0, 23.0)]])
        falling, _ = follow([body], CASTING, [[(0.0, 23.0), (600.0, 15.0), (6000.0, 15.0)]])
        self.assertAlmostEqual(float(still.peak_c[0]), float(through.peak_c[0]), 6)
        self.assertLess(float(falling.peak_c[0]), float(still.peak_c[0]) - 10)

    @settings(max_examples=12, deadline=None)
    @given(st.floats(8, 60), st.floats(16, 30))
    def test_lifts_stay_cool_and_make_the_depth(self, depth, room):
        lifts = cool_lifts(CASTING, wood(), round(depth, 1), round(2 * room) / 2, 60, 25)
        self.assertAlmostEqual(sum(lift.depth_mm for lift in lifts), round(depth, 1), 6)
        self.assertTrue(all(lift.peak_c <= 60.5 and lift.depth_mm <= 25 for lift in lifts), lifts)
        self.assertTrue(all(lift.opens_min >= max(lift.bears_min, lift.cooled_min) for lift in lifts))

    def test_where_nothing_keeps_cool_the_most_lifts_are_told(self):
        lifts = cool_lifts(CASTING, wood(), 36, 30, 30.1)
        self.assertEqual([round(lift.depth_mm, 6) for lift in lifts], [3.0] * 12)
        self.assertGreater(max(lift.peak_c for lift in lifts), 30.6)


class Planned(unittest.TestCase):
    def test_a_deep_panel_is_poured_in_lifts_each_when_the_last_bears_it(self):
        answer = plan(cast(slab(depth_mm=40)), at(20))
        (panel,) = answer.pours
        self.assertEqual([lift.depth_mm for lift in panel.lifts], [20, 20])
        self.assertEqual(panel.heat, "known")
        self.assertAlmostEqual(panel.lifts[1].poured_h, panel.lifts[0].opens_h, 9)
        self.assertEqual(panel.lifts[0].opens_h, max(panel.lifts[0].bears_h, panel.lifts[0].cooled_h))
        self.assertLess(panel.peak_c, 60)
        sheet = answer.run_sheet
        first, second = (layer for layer in sheet.layers if "lift" in layer.words)
        waits_h = (second.from_min - first.to_min) / 60
        self.assertGreaterEqual(waits_h, panel.lifts[0].bears_h - 0.5)
        self.assertLessEqual(waits_h, panel.lifts[0].bonds_until_h)
        self.assertIn("the next lift may be poured", " ".join(mark.words for mark in sheet.marks))
        self.assertAlmostEqual(answer.resins[0].use.in_pours_g, panel.resin_g, 6)

    def test_it_is_sealed_first_where_wood_is_open(self):
        open_, sealed, mould = (
            plan(cast(slab(**changes)), at(20)) for changes in ({}, {"sealed": True}, {"lies_in": "laminate mould"})
        )
        self.assertAlmostEqual(open_.pours[0].seal_g, 100 * open_.pours[0].wetted_m2, 6)
        self.assertEqual(open_.pots[0].labels, ("sealing coat",))
        self.assertEqual((sealed.pours[0].seal_g, mould.pours[0].seal_g), (0, 0))
        never = plan(cast(slab(), practice={"sealing": "never"}), at(20))
        self.assertIn("pours.open_grain", [caution.id for caution in never.cautions])
        self.assertNotIn("pours.open_grain", [caution.id for caution in open_.cautions])

    def test_wood_is_sealed_in_a_quicker_resin_where_the_job_says_so(self):
        both = {
            "materials": {"resins": [resin("epoxy-casting"), resin("epoxy-coating")]},
            "resins": [{"id": "r", "resin_id": "epoxy-casting"}, {"id": "s", "resin_id": "epoxy-coating"}],
        }
        own, other = (plan(cast(slab(seal_use_id=use), **both), at(20)) for use in ("", "s"))
        self.assertEqual([pot.use_id for pot in other.pots][:2], ["s", "r"])
        self.assertAlmostEqual(other.resins[1].use.in_coats_g, other.pours[0].seal_g, 6)
        self.assertEqual(other.resins[0].use.in_coats_g, 0)
        self.assertAlmostEqual(other.resins[0].use.in_pours_g, other.pours[0].resin_g, 6)
        self.assertEqual(other.resins[1].use.in_pours_g, 0)
        self.assertLess(other.run_sheet.layers[1].from_min, own.run_sheet.layers[1].from_min)
        gone = plan(cast(slab(seal_use_id="gone"), **both), at(20))
        self.assertIn("pours.0.seal_use_id", [problem.path for problem in gone.problems])

    def test_a_show_face_has_its_fifth_worked_in_first(self):
        answer = plan(cast(slab(face_first=True, sealed=True)), at(20))
        self.assertAlmostEqual(answer.pours[0].face_g, 0.2 * answer.pours[0].resin_g, 6)
        laid = {label: pot.laid_g * pot.count for pot in answer.pots for label in pot.labels}
        self.assertAlmostEqual(laid["face layer, worked in"], answer.pours[0].face_g, 6)
        self.assertAlmostEqual(sum(pot.laid_g * pot.count for pot in answer.pots), answer.pours[0].resin_g, 6)

    def test_a_laminating_resin_bonds_to_itself_as_its_clocks_have_it(self):
        """common practice, no source: thin lifts of one day, each on the last while that still takes it."""
        answer = plan(cast(slab(depth_mm=12, sealed=True), resin_id="epoxy-2-1"), at(18))
        (panel,) = answer.pours
        self.assertGreater(len(panel.lifts), 1)
        self.assertFalse(any(lift.cools_too_late for lift in panel.lifts[:-1]))
        self.assertTrue(all(not layer.mended for layer in answer.run_sheet.layers))
        self.assertNotIn("pours.cools_too_late", [caution.id for caution in answer.cautions])

    def test_every_pot_says_what_is_stirred_in(self):
        answer = plan(cast(slab(filled_with="chopped carbon", sealed=True)), at(20))
        pot = answer.pots[0]
        self.assertIn("thin stream", pot.ticket.lays)
        self.assertIn(f"stir in {0.2 * pot.mass_g:.0f} g of chopped carbon tow", pot.ticket.filler)
        shown = working("casting:c0", cast(slab(filled_with="chopped carbon")), at(20))
        self.assertAlmostEqual(shown.result, answer.pours[0].resin_g, 6)

    def test_a_filler_of_the_shelf_is_weighed_in(self):
        """Exact arithmetic, with the filler's own density."""
        glass = filler("milled-glass")
        materials = {"resins": [resin("epoxy-casting")], "fillers": [glass]}
        job = cast(slab(filled_with="filler", filler_id=glass.id, filled_share=0.5), materials=materials)
        (panel,) = plan(job, at(20)).pours
        ml = panel.resin_g / panel.density_g_per_ml + panel.fill_g / glass.true_density_g_per_cm3
        self.assertAlmostEqual(ml, 3600, 6)
        self.assertEqual((panel.fill_name, panel.fill_on_resin), (glass.name, 0.5))

    def test_a_warmer_room_never_takes_a_deeper_pour(self):
        deepest = [plan(cast(slab()), at(room)).pours[0].deepest_mm for room in (18, 20, 23, 26)]
        self.assertEqual(deepest, sorted(deepest, reverse=True))

    def test_a_wished_lift_stands_and_is_warned_of(self):
        answer = plan(cast(slab(depth_mm=40, lift_mm=40)), at(23))
        self.assertEqual(len(answer.pours[0].lifts), 1)
        said = {caution.id: caution for caution in answer.cautions}
        self.assertEqual(said["pours.too_hot"].severity, "stop")
        self.assertIn("states 25 mm", said["pours.deeper_than_stated"].message)
        self.assertIn("150 °C", said["pours.too_hot"].message)

    def test_a_kit_used_whole_says_its_depth(self):
        """Exact arithmetic."""
        product = resin("epoxy-casting").model_copy(update={"sold_kg": (2.0,)})
        (kit,) = plan(cast(slab(), materials={"resins": [product]}), at(20)).pours[0].kits
        b_per_a = 0.5 * 0.98 / 1.1
        self.assertAlmostEqual(kit.mixed_g, 2000 * (1 + b_per_a), 6)
        density = plan(cast(slab()), at(20)).pours[0].density_g_per_ml
        self.assertAlmostEqual(kit.depth_mm, kit.mixed_g / density / 180, 6)

    def test_what_is_held_back_is_what_is_short(self):
        (panel,) = plan(cast(slab(held_back=0.1)), at(20)).pours
        self.assertAlmostEqual(panel.short_mm, 2, 6)
        self.assertAlmostEqual(panel.held_back_mm, panel.short_mm, 6)
        self.assertAlmostEqual(panel.held_back_g, 0.1 * panel.resin_g, 6)
        self.assertTrue(panel.hold_covers)
        # 20 % on resin is 16.7 % of the whole: what waits with its fibre still fills it.
        (tow,) = plan(cast(slab(held_back=0.1, filled_with="chopped carbon")), at(20)).pours
        self.assertAlmostEqual(tow.fill_of_whole, 1 / 6, 9)
        self.assertTrue(tow.hold_covers)

    def test_it_is_prepared_level_tight_and_released(self):
        def said(**changes):
            job = cast(slab(**changes))
            return " ".join(line.words for line in checklist(job, plan(job, at(20)), at(20).scales))

        self.assertIn("Level it both ways", said())
        self.assertIn(
            "3600 g of water".replace("3600 g", "3.6 kg"), said(lies_in="laminate mould").replace("3.60 kg", "3.6 kg")
        )
        self.assertIn("Release wax", said(lies_in="board"))
        self.assertNotIn("Release wax", said())

    def test_what_is_missing_or_cannot_be_is_asked_for(self):
        for changes, path, wrong in (
            ({"width_mm": None}, "pours.0.width_mm", False),
            ({"filled_with": "filler"}, "pours.0.filler_id", False),
            ({"filled_with": "chopped carbon", "filled_share": 1.9}, "pours.0.filled_share", True),
            ({"use_id": "gone"}, "pours.0.use_id", False),
        ):
            answer = plan(cast(slab(**changes)), at(20))
            found = {problem.path: problem for problem in answer.problems}
            self.assertEqual(found[path].wrong, wrong)
            self.assertEqual(found[path].step, "pours")
            self.assertEqual(answer.pours, ())
        without = plan(cast(slab(length_m=None), resins=[{"id": "r"}]), at(20))
        self.assertIn("pours.0.length_m", [problem.path for problem in without.problems])

    def test_sizes_that_no_casting_has_are_refused_in_words(self):
        for changes in (
            {"depth_mm": 0},
            {"depth_mm": 2000},
            {"width_mm": -4},
            {"filled_share": 0},
            {"most_peak_c": 300},
        ):
            with self.subTest(changes), self.assertRaises(ValueError):
                cast(slab(**changes))

    def test_castings_stand_in_the_order_of_the_rest(self):
        both = cast(slab(comes_after=("c1",)), slab(name="First"))
        answer = plan(both, at(20))
        self.assertEqual(list(dict.fromkeys(pot.owner_name for pot in answer.pots)), ["First", "Panel"])
        circle = plan(cast(slab(comes_after=("c1",)), slab(comes_after=("c0",))), at(20))
        problem = next(problem for problem in circle.problems if problem.path.endswith("comes_after"))
        self.assertEqual((problem.step, problem.wrong), ("pours", True))

    def test_a_lift_that_is_ready_at_night_waits_for_the_morning(self):
        sheet = plan(cast(slab(depth_mm=40)), at(20)).run_sheet
        begun = [(sheet.start_minute_of_day + layer.from_min) / 60 for layer in sheet.layers]
        self.assertTrue(all(8 <= hour % 24 < 18 for hour in begun), begun)
        self.assertGreater(begun[-1] // 24, begun[0] // 24)


class Through(unittest.TestCase):
    """The picture of a casting through its hours."""

    def test_it_shows_what_the_plan_says(self):
        job, shop = cast(slab(depth_mm=40)), at(20)
        shown, (panel,) = pour_hours(job, shop, "c0"), plan(job, shop).pours
        self.assertEqual(shown.lifts_mm, (20, 40))
        self.assertAlmostEqual(shown.poured_h[1], panel.lifts[1].poured_h, 2)
        self.assertAlmostEqual(max(shown.hottest_c), panel.peak_c, delta=0.7)
        self.assertEqual(len(shown.heights_mm), 24)
        # Of a lift that is not poured yet there is no temperature.
        self.assertTrue(all(each is None for each in shown.temperatures_c[0][17:]))
        self.assertTrue(all(each is not None for each in shown.temperatures_c[-1]))
        depths = [point.depth_mm for point in shown.by_depth]
        peaks = [point.peak_c for point in shown.by_depth]
        self.assertEqual((depths, peaks), (sorted(depths), sorted(peaks)))
        near = float(np.interp(panel.deepest_mm, depths, peaks))
        self.assertTrue(50 < near < 72, near)

    def test_hours_of_the_day_only_where_the_room_changes(self):
        self.assertEqual(pour_hours(cast(slab()), at(20), "c0").starts, ())
        shop = ShopFacts(day=RoomDay(coldest_c=17, warmest_c=28))
        starts = pour_hours(cast(slab(depth_mm=25)), shop, "c0").starts
        self.assertEqual(len(starts), 8)
        self.assertGreater(max(each.peak_c for each in starts) - min(each.peak_c for each in starts), 3)

    def test_nothing_is_shown_of_what_is_not_known(self):
        self.assertIsNone(pour_hours(cast(slab(depth_mm=None)), at(20), "c0"))
        self.assertIsNone(pour_hours(cast(slab()), at(20), "other"))
        moisture = cast(slab(depth_mm=5), resin_id="moisture-primer")
        self.assertIsNone(pour_hours(moisture, at(20), "c0"))
        self.assertEqual(plan(moisture, at(20)).pours[0].heat, "not known")
