"""The heat in a pot against analytic solutions, textbook limits and an independent solution.

Of `layup.heat.change`, `layup.heat.lumped_heat`, `layup.day.planner`.
"""

import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq
from scipy.special import j0, j1

from layup.chemistry.gel_law import CATALYSED_ACTIVATION_KJ_PER_MOL, GelLaw
from layup.equipment import usual_width_mm
from layup.heat.conduction import (
    Body,
    Face,
    Layer,
    _equations,
    as_deep_as_wide_g,
    casting,
    cup,
    gel_min,
    laminate,
    mesh_of,
    simulate,
    tray,
)
from layup.heat.cure_kinetics import DOUBLED_AT, EPOXY_GLASS, WORKABLE_UNTIL, TwoPartCure
from layup.heat.gel_table import gel_table
from layup.heat.heat_fit import StatedPot, catalysed_cure, fitted_cure
from layup.heat.pot_heat import full_heat, rough_heat, stated_pot
from layup.heat.wet_limit import skins_of, wet_limits
from layup.plan import laid_out, plan, settled
from layup.pots.sizing import PotLife, largest_by_life_g
from tests.core.heat_reference import independent, plain_change
from tests.core.jobs import at, on, panel, resin

INERT = TwoPartCure(-60.0, heat_j_per_g=0.0)
TWENTY = StatedPot(20, 25, 100)
EPOXY = fitted_cure(TWENTY)
LENGTH_M, DIFFUSIVITY = 0.02, 0.20 / (1100 * 2000)


def slab_series(biot: float, fourier: float) -> tuple[float, float, float]:
    """Mean, centre and surface, as shares of the first step, of a slab cooled on both faces."""
    roots = [
        brentq(lambda z: z * math.sin(z) - biot * math.cos(z), i * math.pi + 1e-9, i * math.pi + math.pi / 2)
        for i in range(60)
    ]
    terms = [(4 * math.sin(z) / (2 * z + math.sin(2 * z)) * math.exp(-z * z * fourier), z) for z in roots]
    return (
        sum(c * math.sin(z) / z for c, z in terms),
        sum(c for c, _ in terms),
        sum(c * math.cos(z) for c, z in terms),
    )


def cylinder_series(biot: float, fourier: float) -> tuple[float, float, float]:
    """The same of an infinite cylinder."""
    grid = np.linspace(1e-6, 190, 40000)
    value = grid * j1(grid) - biot * j0(grid)
    roots = [
        brentq(lambda z: z * j1(z) - biot * j0(z), a, b)
        for a, b, u, v in zip(grid, grid[1:], value, value[1:], strict=False)
        if u * v < 0
    ]
    terms = [(2 / z * j1(z) / (j0(z) ** 2 + j1(z) ** 2) * math.exp(-z * z * fourier), z) for z in roots]
    return sum(c * 2 * j1(z) / z for c, z in terms), sum(c for c, _ in terms), sum(c * j0(z) for c, z in terms)


class Compiled(unittest.TestCase):
    @given(
        st.lists(
            st.tuples(st.floats(100, 600), st.floats(-0.05, 1.05), st.floats(-0.05, 1.3)), min_size=12, max_size=12
        ),
        st.floats(5, 40),
        st.sampled_from([1.0, 0.8]),
        st.sampled_from([1.5, 1.2]),
    )
    def test_it_says_what_the_equations_say_written_with_arrays(self, states, room, m, n):
        """Outside truth: the same derivative by NumPy from `cure_kinetics`, for both kinds of cure, in resin and on foam."""
        two_part = TwoPartCure(EPOXY.ln_a, m=m, n=n)
        peroxide = catalysed_cure(GelLaw(30, 20, CATALYSED_ACTIVATION_KJ_PER_MOL, 1.0, 1.0), 1.4)
        on_foam = casting(0.01, Layer(0.02, 0.08, 1.4, 0.035, cells=2))
        for body, cells in ((tray(0.01, 15), 10), (on_foam, 12)):
            for cure, kept in ((two_part, (0, 2)), (peroxide, (0, 1, 2))):
                y = np.array([[state[at] for at in kept] for state in states[:cells]]).ravel()
                wanted = plain_change(body, cure, room)(0.0, y)
                got = _equations(mesh_of(body), body, cure, room)(0.0, y)
                np.testing.assert_allclose(got, wanted, rtol=1e-9, atol=1e-12)


class Conduction(unittest.TestCase):
    def test_a_body_that_only_cools_follows_the_series(self):
        """published: Carslaw and Jaeger, Conduction of Heat in Solids; Incropera and DeWitt, transient conduction."""
        for shape, series in (("slab", slab_series), ("cylinder", cylinder_series)):
            for biot in (0.1, 1.0, 10.0):
                h = biot * 0.20 / LENGTH_M
                body = Body(shape, (Layer(LENGTH_M),), Face(h))
                for fourier in (0.05, 0.2, 1.0, 5.0):
                    minutes = fourier * LENGTH_M**2 / DIFFUSIVITY / 60
                    end = simulate(body, INERT, 0.0, start_c=100.0, until="time", most_min=minutes)
                    found = np.array([end.mean_c[-1], end.centre_c[-1], end.surface_c[-1]]) / 100
                    with self.subTest(shape=shape, biot=biot, fourier=fourier):
                        np.testing.assert_allclose(found, series(biot, fourier), atol=0.01)


class Limits(unittest.TestCase):
    def test_a_pot_that_loses_nothing_warms_by_the_heat_over_the_capacity(self):
        """published: an energy balance, T − T0 = (H/c)·α in every cell."""
        body = Body("cylinder", (Layer(0.03),), Face(0.0))
        end = simulate(body, EPOXY, 20.0, until="time", most_min=600)
        np.testing.assert_allclose(end.centre_c - 20, 175 * end.cured, atol=0.1)
        self.assertAlmostEqual(end.mean_c[-1], 195.0, delta=0.1)

    def test_a_cure_without_heat_is_a_simple_decay(self):
        """published: first-order kinetics, α = 1 − exp(−A κ t)."""
        cure = TwoPartCure(-8.0, kappa=0.4, gamma=0.0, n=1.0, heat_j_per_g=0.0)
        run = simulate(cup(100), cure, 25.0, until="time", most_min=200)
        np.testing.assert_allclose(run.cured, 1 - np.exp(-math.exp(-8.0) * 0.4 * run.minutes * 60), atol=2e-4)

    def test_a_body_runs_away_past_the_critical_number_of_its_shape(self):
        """published: Frank-Kamenetskii, critical δ 0.878, 2.000, 3.322 for slab, cylinder and sphere."""
        gas, ea, wall_k = 8.314462618, 53000.0, 298.15
        warming = gas * wall_k**2 / ea
        for shape, critical in (("slab", 0.878), ("cylinder", 2.000), ("sphere", 3.322)):
            body = Body(shape, (Layer(LENGTH_M, cells=20),), Face(2000 * 0.20 / LENGTH_M))
            most_min = 40 * LENGTH_M**2 / DIFFUSIVITY / 60
            hot = 25 + 6 * warming

            def runs_away(delta: float, body=body, most_min=most_min, hot=hot) -> bool:
                per_s = delta * 0.20 * warming / (LENGTH_M**2 * 1100 * 350_000)
                cure = TwoPartCure(math.log(per_s), kappa=1.0, gamma=0.0, n=0.0)
                return simulate(body, cure, 25.0, until="time", most_min=most_min, hottest_c=hot).peak_c > hot

            low, high = 0.8 * critical, 1.3 * critical
            for _ in range(9):
                middle = (low + high) / 2
                low, high = (low, middle) if runs_away(middle) else (middle, high)
            with self.subTest(shape):
                expected = critical * (1 + 1.07 * gas * wall_k / ea)
                self.assertAlmostEqual(low / expected, 1.0, delta=0.03)

    def test_the_conversion_at_gel(self):
        """published: Flory and Stockmayer, a tetrafunctional amine with a difunctional epoxide at balance."""
        self.assertAlmostEqual(EPOXY.gels_at, 0.577, places=3)


class AgainstAnother(unittest.TestCase):
    def test_gel_and_peak_agree_with_a_fine_mesh(self):
        """published method: the same equations solved independently; gel to 1 %, the centre's peak to 2 K."""
        for body, room_c in ((cup(30), 12), (cup(100), 25), (cup(2000), 38), (tray(0.008), 20)):
            with self.subTest(body=body, room_c=room_c):
                gel, peak = independent(body, EPOXY, room_c)
                run = simulate(body, EPOXY, room_c, until="peak", most_min=3 * gel)
                self.assertAlmostEqual(run.gel_min / gel, 1.0, delta=0.01)
                self.assertAlmostEqual(run.peak_c, peak, delta=2.0)


class WhatTheTradeSees(unittest.TestCase):
    def test_mass_moves_the_gel_little(self):
        """memory: mass moves the gel little. 21.7 min of 25 g and 19.1 of 500 are the model's own, of 20 min at 100 g."""
        self.assertAlmostEqual(gel_min(cup(25), EPOXY, 25), 21.7, delta=0.4)
        self.assertAlmostEqual(gel_min(cup(500), EPOXY, 25), 19.1, delta=0.3)

    def test_spread_thin_it_lasts(self):
        """memory: a pot poured out 3 mm thin lives longer by more than half, and stays under 100 °C."""
        thin = simulate(tray(0.003), EPOXY, 25, until="peak")
        self.assertGreater(thin.gel_min, 30)
        self.assertLess(thin.peak_c, 100)

    def test_about_four_plies_of_mat_a_go(self):
        """common practice: about four plies a go. The peaks, 29, 53, 90 and 116 °C for 2, 4, 6 and 8 plies of 450 mat on a
        6 mm laminate mould at 20 °C, are the model's own, kept so that a change is seen."""
        law = GelLaw(30, 20, CATALYSED_ACTIVATION_KJ_PER_MOL, 1.0, 1.0)
        cure = catalysed_cure(law, 1.0)
        mould = Layer(0.006, 1.5, 1.2, 0.3)
        for plies, peak_c in ((2, 29), (4, 53), (6, 90), (8, 116)):
            run = simulate(laminate(plies * 1.0508e-3, 0.70, 1.42, mould), cure, 20, until="peak")
            self.assertAlmostEqual(run.peak_c, peak_c, delta=5)
            self.assertAlmostEqual(run.gel_min, 30, delta=0.1)

    def test_pots_from_the_cup_by_the_model(self):
        """The model's own figures, kept so that a change is seen: 1030, 630 and 370 g at 18, 24 and 30 °C of a gel stated
        as 20 min, over 300 cloth with 3 min contact, unlogged."""
        table = gel_table(EPOXY)
        for room_c, mass_g in ((18, 1030), (24, 630), (30, 370)):
            self.assertAlmostEqual(largest_by_life_g(PotLife(table.gel_min, room_c, 3.0), 67) / mass_g, 1, delta=0.04)


class Vessels(unittest.TestCase):
    """A pot in its real vessel, and a cure that turns to glass."""

    def test_a_cup_is_cooled_like_the_pot_as_deep_as_wide_that_stands_for_it(self):
        """exact: the same radius 2 V/S; a cup filled as deep as it is wide is itself."""
        for mass_g, width_mm in ((15, 68), (200, 90), (540, 124)):
            wide, like = cup(mass_g, width_mm), cup(as_deep_as_wide_g(mass_g, width_mm))
            self.assertAlmostEqual(wide.layers[0].thickness_m, like.layers[0].thickness_m, 9)
        full_g = 250 * 1.10
        self.assertAlmostEqual(as_deep_as_wide_g(full_g, usual_width_mm(250)), full_g, 6)
        self.assertAlmostEqual(math.pi / 4 * (usual_width_mm(250) / 10) ** 3, 250, 6)

    @settings(max_examples=40, deadline=None)
    @given(st.floats(5, 3000), st.floats(40, 300), st.floats(1.05, 2))
    def test_a_wider_cup_never_shortens_a_life(self, mass_g, width_mm, wider):
        table = gel_table(EPOXY)
        narrow, wide = (table.gel_min(as_deep_as_wide_g(mass_g, w), 20) for w in (width_mm, width_mm * wider))
        # A column narrower than it is deep is cooled from its side: there alone width holds the heat.
        if mass_g / 1.10 < math.pi / 4 * (width_mm / 10) ** 3:
            self.assertGreaterEqual(wide, narrow * 0.999)

    def test_what_is_left_to_a_pot_that_is_poured_out(self):
        """By the full equation of heat, followed in the cup and from its state there on in a tray."""
        for stated, mass_g, room_c in ((TWENTY, 300, 20.0), (StatedPot(45, 25, 150), 500, 22.0)):
            heat = full_heat(stated)
            in_cup, in_tray = cup(mass_g), tray(0.005)
            kicks, lasts = (gel_min(body, heat.cure, room_c) for body in (in_cup, in_tray))
            spent = (0.25, 0.5, 0.75, 0.9)
            for share, left in zip(spent, heat.left_when_poured(mass_g, 5.0, room_c, spent), strict=True):
                with self.subTest(stated=stated, share=share):
                    so_far = simulate(in_cup, heat.cure, room_c, until="time", most_min=share * kicks)
                    warm, cured = float(so_far.mean_c[-1]), so_far.cured[-1]
                    rest = simulate(in_tray, heat.cure, room_c, start_c=warm, start_state=(cured,)).gel_min
                    self.assertAlmostEqual(left, rest / lasts, delta=0.05)
        # Without a model what is not spent is left.
        self.assertEqual(full_heat(StatedPot(9000, 25, 100)).left_when_poured(100, 5, 20, (0.25,)), (0.75,))

    def test_fifteen_grams_in_a_wide_cup_stay_cool_and_large_pots_are_as_they_were(self):
        """common practice: a little in the bottom of a cup gets warm and no more, half a litre smokes."""
        medium = next(each for each in resin("epoxy-2-1").hardeners if each.name == "medium")
        cure, wide = full_heat(stated_pot(medium)).cure, usual_width_mm(250)
        self.assertLess(simulate(cup(15, wide), cure, 20, until="peak").peak_c, 80)
        self.assertGreater(simulate(cup(15), cure, 20, until="peak").peak_c, 120)
        self.assertGreater(simulate(cup(540), cure, 20, until="peak").peak_c, 150)
        for mass_g in (100, 540):
            unlimited = replace(cure, glass=None)
            self.assertAlmostEqual(gel_min(cup(mass_g), cure, 20) / gel_min(cup(mass_g), unlimited, 20), 1, delta=0.02)

    def test_a_film_stops_short_of_a_whole_cure_and_warmth_takes_it_on(self):
        """published: a cure that outruns its glass transition slows until it is warmed (DiBenedetto; Chern, Poehlein)."""
        cured = [
            simulate(tray(0.0005), EPOXY, room_c, until="time", most_min=7 * 1440).cured[-1] for room_c in (20, 60)
        ]
        self.assertTrue(0.75 < cured[0] < 0.92, cured)
        self.assertGreater(cured[1], 0.99)
        plain = simulate(tray(0.0005), replace(EPOXY, glass=None), 20, until="time", most_min=7 * 1440).cured[-1]
        self.assertGreater(plain, cured[0] + 0.05)

    def test_where_a_resin_can_no_longer_be_worked(self):
        """published form (Castro and Macosko), written out; twice as thick by the makers' test, four times: memory."""
        gels_at = math.sqrt(1 / 3)  # Flory and Stockmayer, a resin of two ends with a hardener of four
        for cured, rise in ((DOUBLED_AT, 2), (WORKABLE_UNTIL, 4)):
            self.assertAlmostEqual((gels_at / (gels_at - cured)) ** (1.5 + cured), rise, 9)

    def test_the_glass_transition_at_its_two_ends_and_between(self):
        """published (DiBenedetto): Tg0 uncured, Tg∞ cured; at α_v the pace is halved."""
        glass = EPOXY_GLASS
        for cured in (0.0, 0.3, 0.7, 1.0):
            tg_c = glass.uncured_c + (glass.cured_c - glass.uncured_c) * glass.shape * cured / (
                1 - (1 - glass.shape) * cured
            )
            kept = glass.slowing(np.array([tg_c + 273.15]), np.array([cured]))
            self.assertAlmostEqual(float(kept[0]), 0.5, 9)


class Skins(unittest.TestCase):
    """How much may lie wet at once, skin by skin: a core shuts heat in and is no wet mass."""

    def limits(self, *stack: str, **part):
        job = on(panel("polyester-general", *stack), **part)
        return wet_limits(plan(job, at(20)).parts[0], settled(job, at(20)).mixes["resin"], 20)

    def test_what_peaks_at_sixty(self):
        """The limit is where the body itself peaks at 60 °C: solved afresh, from what is beneath and over it."""
        job = panel("polyester-general", *["csm-450"] * 8, "foam-10")
        skin = skins_of(plan(job, at(20)).parts[0])[0]
        cure = catalysed_cure(GelLaw(30, 20, CATALYSED_ACTIVATION_KJ_PER_MOL, 1.0, 1.0), 1.0)
        limit = self.limits(*["csm-450"] * 8, "foam-10")[0]
        foam = Layer(0.010, 0.08, 1.4, 0.035, 0.0, 6)
        self.assertEqual(skin.over, foam)
        for mm, over in ((limit.open_mm, None), (limit.covered_mm, foam)):
            body = laminate(mm / 1000, 0.7, 1.4, Layer(0.006, 1.5, 1.2, 0.3, 0.0, 6), over)
            # To a tenth of a millimetre; a tenth more or less of the whole is some five degrees.
            self.assertAlmostEqual(simulate(body, cure, 20, until="peak").peak_c, 60, delta=1)

    def test_each_skin_has_its_own_weight_and_what_lies_under_and_over_it(self):
        """published: 30 % by weight of glass at 2.54 in polyester at 1.2 g/ml; what is not so thick is not limited."""
        parts = plan(panel("polyester-general", *["csm-450"] * 3, "foam-10", "csm-450"), at(20)).parts
        under, over = skins_of(parts[0])
        for skin in (under, over):
            self.assertAlmostEqual(skin.density_g_per_cm3, 1 / (0.3 / 2.54 + 0.7 / 1.2), delta=0.005)
            self.assertAlmostEqual(skin.resin_share, 0.7)
        self.assertAlmostEqual(under.thickness_mm / over.thickness_mm, 3)
        self.assertEqual((under.over, over.over, over.beneath), (over.beneath, None, under.over))
        self.assertEqual([limit.open_mm for limit in self.limits("csm-450", "foam-10", "csm-450")], [math.inf] * 2)

    def test_a_core_is_no_wet_resin_and_holds_the_heat_in(self):
        ((open_skin,), (under, over)) = self.limits(*["csm-450"] * 8), self.limits(*["csm-450"] * 8, "foam-10")
        self.assertEqual(under.open_mm, open_skin.open_mm)
        self.assertLess(under.covered_mm, 0.85 * under.open_mm)
        self.assertEqual(over.open_mm, math.inf)
        on_core = self.limits("foam-10", *["csm-450"] * 8)[1]
        self.assertLess(on_core.open_mm, 0.6 * open_skin.open_mm)

    def test_balsa_lets_more_heat_through_than_foam(self):
        """memory: 0.06 against 0.035 W/mK, and a block of 150 kg/m³."""
        foam = plan(panel("polyester-general", "csm-450", "foam-10"), at(20)).parts[0]
        core = next(ply for ply in foam.plies if ply.architecture == "core")
        balsa = core.model_copy(update={"fibre": "balsa", "fibre_gsm": 1500.0, "thickness_mm": 10.0})
        mats = tuple(ply for ply in foam.plies if ply is not core)
        skins = skins_of(foam.model_copy(update={"plies": (*mats, balsa)}))
        self.assertEqual((skins[0].over.conductivity_w_per_m_k, skins[0].over.density_g_per_cm3), (0.06, 0.15))
        self.assertEqual(skins_of(foam)[0].over.conductivity_w_per_m_k, 0.035)

    def test_a_heat_that_is_still_being_worked_out_limits_no_skin(self):
        job = panel("epoxy-2-1", *["csm-450"] * 8, "foam-10", "cloth-300")
        facts, part = at(20), plan(panel("epoxy-2-1", *["csm-450"] * 8, "foam-10", "cloth-300"), at(20)).parts[0]
        rough, full = (
            wet_limits(part, settled(job, facts, heat).mixes["resin"], 20) for heat in (rough_heat, full_heat)
        )
        self.assertEqual([limit.open_mm for limit in rough], [math.inf] * 2)
        self.assertEqual([limit.open_mm < 40 for limit in full], [True, False])

    def test_eight_mats_under_a_core_are_never_wet_at_once(self):
        sheet = plan(panel("polyester-general", *["csm-450"] * 8, "polystyrene-20"), at(20)).run_sheet
        said = " ".join(sheet.problems)
        self.assertIn("waits until what is beneath has set: under a core more than", said)
        job = on(panel("polyester-general", *["csm-450"] * 4, "foam-10", *["csm-450"] * 4), substrate="waxed mould")
        rests = laid_out(settled(job, at(20))).schedule.rests
        self.assertEqual([work.label.partition(",")[0] for _, work, _ in rests], ["ply 5", "ply 8"])


class Properties(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.floats(10, 5000), st.floats(1.05, 4), st.floats(2, 44), st.floats(0.5, 6))
    def test_a_bigger_or_a_warmer_pot_never_lives_longer(self, mass_g, times, room_c, warmer):
        table = gel_table(EPOXY)
        life = table.gel_min(mass_g, room_c)
        self.assertLessEqual(table.gel_min(mass_g * times, room_c), life * 1.0005)
        self.assertLess(table.gel_min(mass_g, room_c + warmer), life)

    @settings(max_examples=12, deadline=None)
    @given(st.floats(12, 5500), st.floats(1, 49))
    def test_the_table_is_within_a_hundredth_of_the_model(self, mass_g, room_c):
        self.assertAlmostEqual(gel_table(EPOXY).gel_min(mass_g, room_c) / gel_min(cup(mass_g), EPOXY, room_c), 1, 2)


class Fitted(unittest.TestCase):
    def test_the_model_keeps_to_what_the_sheet_states(self):
        film_and_peak = StatedPot(20, 25, 100, film_gel_min=70, peak_c=150)
        cure = fitted_cure(film_and_peak)
        pot = simulate(cup(100), cure, 25, until="peak")
        self.assertAlmostEqual(pot.gel_min, 20, delta=0.1)
        self.assertAlmostEqual(cure.isothermal_gel_s(25) / 60, 70, delta=1.5)
        self.assertAlmostEqual(pot.peak_c, 150, delta=3)

    def test_a_catalysed_pot_peaks_when_stated(self):
        law = GelLaw(30, 20, CATALYSED_ACTIVATION_KJ_PER_MOL, 1.0, 1.0)
        for peak_min in (None, 42.0):
            run = simulate(cup(100), catalysed_cure(law, 1.0, peak_min), 20, until="peak")
            self.assertAlmostEqual(run.peak_min, peak_min or 54, delta=0.7)
            self.assertAlmostEqual(run.gel_min, 30, delta=0.1)
