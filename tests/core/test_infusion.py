"""Infusion: how a bed fills against closed forms and computed check values, how resin thickens on its way, what it takes.

Of `layup.infusion`.
"""

import itertools
from math import log, pi
from unittest import TestCase

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from shapely import Polygon

from layup.errors import OutOfRange
from layup.heat.cure_kinetics import TwoPartCure
from layup.heat.pot_heat import full_heat
from layup.infusion.bed import FINE, Bed, Layered, Line, filled
from layup.infusion.fibre import FibreBed, groove_kh_m3, lag_of
from layup.infusion.filling import FEED, VENT, Pores, fill
from layup.infusion.flow import flow_of
from layup.infusion.geometry import last_places
from layup.infusion.liquid import Liquid
from layup.job import JobSpec
from layup.plan import plan, settled
from layup.shop_facts import LoggedShot
from layup.under_vacuum import FlowLine
from tests.core.jobs import at, on, panel, resin

# What the check values were computed with: m², 1, Pa·s, Pa.
K, PORES, VISCOSITY, PULL = 1e-10, 0.5, 0.3, 9e4
H = 3e-3
PLAIN = Layered(K * H, PORES * H)


def seconds(s: float) -> float:
    return s * VISCOSITY / PULL


def box(long: float, wide: float) -> Polygon:
    return Polygon([(0, 0), (long, 0), (long, wide), (0, wide)])


def ends(long: float, wide: float) -> tuple[list[Line], list[Line]]:
    return [Line(((0, 0), (0, wide)))], [Line(((long, 0), (long, wide)))]


class Filling(TestCase):
    def test_a_line_feed_is_the_closed_form(self):
        """published: S = φ L²/2K, Darcy's law in one dimension; 8,333.3 s here. Half the way is a quarter of the time."""
        found = filled(Bed(box(1, 0.3), PLAIN), *ends(1, 0.3))
        self.assertAlmostEqual(seconds(found.full_s), 8333.3, delta=8333.3 * 0.002)
        middle = found.at_s[np.abs(found.x_m - 0.5).argmin()]
        x = found.x_m[np.abs(found.x_m - 0.5).argmin()]
        self.assertAlmostEqual(middle / found.full_s, x * x, delta=0.01)

    def test_a_port_fills_a_disc_as_the_closed_form(self):
        """published: S = φ/2K [R² ln(R/R0) − (R² − R0²)/2], radial Darcy flow; 8,172.8 s for a port of 6 mm and R 0.5 m."""
        turns = np.linspace(0, 2 * pi, 120, endpoint=False)
        disc = Polygon([(0.5 * np.cos(a), 0.5 * np.sin(a)) for a in turns])
        found = filled(Bed(disc, PLAIN), [Line(((0, 0),), 0.006)], [Line(((0.495, 0),), 0.002)])
        self.assertAlmostEqual(seconds(found.full_s), 8172.8, delta=8172.8 * 0.02)
        for share in (0.3, 0.6, 0.9):
            r = 0.5 * share**0.5
            exact = PORES / (2 * K) * (r * r * log(r / 0.006) - (r * r - 0.006**2) / 2)
            inside = found.drawn_m3 - found.left_m3
            self.assertAlmostEqual(np.interp(share * inside[-1], inside, found.drawn_s) / exact, 1, delta=0.02)

    def test_an_l_shape_and_a_slanting_feed(self):
        """computed: by finite elements of many more cells, S 5.695e9 and 5.00e9 at one place; 2.321e9."""
        corner = Polygon([(0, 0), (1, 0), (1, 0.4), (0.4, 0.4), (0.4, 1), (0, 1)])
        found = filled(Bed(corner, PLAIN), [Line(((0, 1), (0.4, 1)))], [Line(((1, 0), (1, 0.4)))])
        self.assertAlmostEqual(found.full_s / 5.695e9, 1, delta=0.02)
        there = np.hypot(found.x_m - 0.9, found.y_m - 0.2).argmin()
        self.assertAlmostEqual(found.at_s[there] / 5.00e9, 1, delta=0.02)
        slant = Polygon([(0, 0), (1.2, 0), (0.9, 0.6), (0.2, 0.6)])
        found = filled(Bed(slant, PLAIN), [Line(((0, 0), (0.2, 0.6)))], [Line(((1.2, 0),), 0.001)])
        self.assertAlmostEqual(found.full_s / 2.321e9, 1, delta=0.02)

    def test_a_ring_fills_inward_faster_than_a_port_outward(self):
        """published: what is fed from outside to r has S = φ/2K [(R² − r²)/2 − r² ln(R/r)], a quarter of φR²/K in all."""
        turns = np.linspace(0, 2 * pi, 121)
        ring = tuple((0.5 * np.cos(a), 0.5 * np.sin(a)) for a in turns)
        found = filled(Bed(Polygon(ring), PLAIN), [Line(ring)], [Line(((0, 0),), 0.003)])
        exact = PORES / (4 * K) * 0.25
        self.assertAlmostEqual(found.at_s.max() / exact, 1, delta=0.04)

    @settings(max_examples=20, deadline=None)
    @given(st.floats(0.3, 3), st.floats(0.2, 2), st.floats(0.05, 0.95), st.floats(0.05, 0.95), st.integers(150, 500))
    def test_what_is_drawn_is_what_is_filled_and_what_runs_out(self, long, wide, u, v, cells):
        """conservation: to a part in a billion, whatever the shape of the mesh and wherever the port is."""
        assume((u - 0.9) ** 2 + (v - 0.9) ** 2 > 0.1)
        port, vent = Line(((u * long, v * wide),)), Line(((0.9 * long, 0.9 * wide),))
        found = filled(Bed(box(long, wide), PLAIN), [port], [vent], cells)
        self.assertTrue(np.isfinite(found.filled_s).all())
        self.assertAlmostEqual((found.drawn_m3[-1] - found.left_m3[-1]) / found.pores_m3.sum(), 1, places=9)
        self.assertAlmostEqual(found.pores_m3.sum(), PORES * H * long * wide, places=12)

    @settings(max_examples=15, deadline=None)
    @given(st.floats(0.4, 2), st.floats(0.3, 1), st.floats(0.1, 0.45))
    def test_a_mirrored_part_fills_mirrored(self, long, wide, u):
        """symmetry."""
        left = filled(Bed(box(long, wide), PLAIN), [Line(((u * long, 0), (u * long, wide)))], ends(long, wide)[1], 300)
        turned = (1 - u) * long
        right = filled(Bed(box(long, wide), PLAIN), [Line(((turned, 0), (turned, wide)))], ends(long, wide)[0], 300)
        self.assertAlmostEqual(left.full_s / right.full_s, 1, delta=1e-6)

    @settings(max_examples=15, deadline=None)
    @given(st.floats(0.3, 0.6), st.floats(0.65, 0.99))
    def test_a_further_vent_is_never_reached_earlier(self, near, far):
        """property: along one bed, resin comes to what is nearer first."""
        first, second = (
            filled(Bed(box(1, 0.3), PLAIN), ends(1, 0.3)[0], [Line(((x, 0.15),))], 300).vent_s[0] for x in (near, far)
        )
        self.assertLessEqual(first, second * (1 + 1e-9))

    def test_a_second_feed_halves_the_time_and_one_that_waits_opens_when_it_is_reached(self):
        """published: a way half as long takes a quarter of the time; a third of it each way a ninth."""
        bed, middle = Bed(box(1, 0.2), PLAIN), ((0.5, 0), (0.5, 0.2))
        one = filled(bed, *ends(1, 0.2))
        both = filled(bed, [*ends(1, 0.2)[0], Line(middle)], ends(1, 0.2)[1])
        self.assertAlmostEqual(both.full_s / one.full_s, 0.25, delta=0.02)
        later = filled(bed, [*ends(1, 0.2)[0], Line(middle, waits=True)], ends(1, 0.2)[1])
        self.assertAlmostEqual(later.opens_s[1] / one.full_s, 0.25, delta=0.02)
        self.assertAlmostEqual(later.full_s / one.full_s, 0.5, delta=0.03)

    def test_mesh_over_part_of_it_is_a_series_of_two(self):
        """published: two beds one after the other, S = φ₁h L₁²/2K₁h + φ₂ h (L₁ L₂ K₂/K₁ + L₂²/2)/K₂, exact in one dimension."""
        over = Layered(4 * PLAIN.kh_m3, PLAIN.pores_m)
        found = filled(Bed(box(1, 0.2), PLAIN, box(0.6, 0.2), over), *ends(1, 0.2))
        exact = PORES / K * (0.6**2 / 8 + 0.4 * 0.6 / 4 + 0.4**2 / 2)
        self.assertAlmostEqual(found.full_s / exact, 1, delta=0.01)

    def test_what_cannot_be_filled_is_refused_in_words(self):
        bow = Polygon([(0, 0), (1, 1), (1, 0), (0, 1)])
        feeds, vents = ends(1, 1)
        for bed, lines, path in (
            (Bed(bow, PLAIN), (feeds, vents), "outline"),
            (Bed(box(1, 1), PLAIN), ([], vents), "feeds"),
            (Bed(box(1, 1), PLAIN), (feeds, []), "vents"),
            (Bed(box(1, 1), PLAIN), (feeds, feeds), "vents"),
            (Bed(box(1, 1), PLAIN), (feeds, [Line(((3, 3),))]), "vents"),
        ):
            with self.assertRaises(OutOfRange) as refused:
                filled(bed, *lines)
            self.assertEqual(refused.exception.path, path)

    def test_where_it_fills_last_and_later_than_all_round(self):
        """A port in the middle of a square leaves its four corners alike; a line leaves the far end, as one place."""
        port = filled(Bed(box(1, 1), PLAIN), [Line(((0.5, 0.5),))], [Line(((1, 0.5),))], 600)
        places = last_places(port)
        self.assertEqual({(round(x), round(y)) for x, y, _ in places}, {(0, 0), (0, 1), (1, 0), (1, 1)})
        self.assertTrue(all(0.9 * port.full_s < s <= port.full_s for _, _, s in places))
        self.assertEqual(len(last_places(filled(Bed(box(1, 0.3), PLAIN), *ends(1, 0.3), 300))), 1)


def filled_plainly(pores: Pores) -> tuple[np.ndarray, np.ndarray]:
    """When each cell is passed and full: the same law written out, every pressure anew at every step by a whole matrix."""
    cells = pores.volume.size
    conducts = np.zeros((cells, cells))
    conducts[pores.one, pores.other] = pores.conducts
    fed = (pores.role == FEED) & (pores.waits_for == 0)
    wet, share, now = fed.copy(), fed.astype(float), 0.0
    passed, full = np.where(fed, 0.0, np.inf), np.where(fed, 0.0, np.inf)
    while True:
        pressure = fed.astype(float)
        free = np.flatnonzero(wet & ~fed)
        if free.size:
            matrix = np.diag(conducts.sum(1) + pores.from_feed + pores.to_vent) - conducts
            known = pores.from_feed[free] + conducts[np.ix_(free, np.flatnonzero(fed))].sum(1)
            pressure[free] = np.linalg.solve(matrix[np.ix_(free, free)], known)
        inflow = conducts @ pressure + pores.from_feed
        front = np.flatnonzero(~wet & (share < 1) & (inflow > 1e-12 * inflow.max(initial=0)))
        if not front.size:
            return passed, full
        step = ((1 - share[front]) * pores.volume[front] / inflow[front]).min()
        for cell in front:
            comes = inflow[cell] * step / pores.volume[cell]
            if share[cell] < 0.5 <= share[cell] + comes:
                passed[cell] = now + step * (0.5 - share[cell]) / comes
            share[cell] += comes
            if share[cell] > 1 - 1e-9:
                share[cell], full[cell] = 1.0, now + step
        now += step
        wet |= (share == 1.0) & (pores.role != VENT)
        met = {number for number in pores.waits_for[full == now] if number}
        opens = (pores.role == FEED) & np.isin(pores.waits_for, list(met)) & ~fed
        passed[opens], full[opens] = np.minimum(passed[opens], now), np.minimum(full[opens], now)
        share[opens], fed, wet = 1.0, fed | opens, wet | opens


class ByAWholeMatrix(TestCase):
    """The factor that grows with the front, and is solved for its last rows alone, against all of it at once."""

    @settings(max_examples=40, deadline=None)
    @given(st.integers(2, 7), st.integers(2, 6), st.randoms(use_true_random=False), st.booleans())
    def test_any_bed_fills_alike(self, columns, rows, dice, second):
        cells = columns * rows
        links = [
            (at, at + step)
            for at in range(cells)
            for step in (1, columns)
            if at + step < cells and (step > 1 or at % columns < columns - 1)
        ]
        conducts = {pair: 10 ** dice.uniform(-3, 1) for pair in links}
        both = sorted((*pair, value) for one, value in conducts.items() for pair in (one, one[::-1]))
        role, waits_for = np.zeros(cells, np.int64), np.zeros(cells, np.int64)
        from_feed, to_vent = np.zeros(cells), np.zeros(cells)
        role[0] = FEED
        from_feed[1] = dice.uniform(0, 1)
        role[-1] = VENT
        to_vent[-2] = dice.uniform(0, 1)
        if second and cells > 5:
            # A feed that waits until the front comes by.
            middle = cells // 2
            role[middle], waits_for[middle] = FEED, 1
        pores = Pores(
            volume=np.array([dice.uniform(0.1, 2) for _ in range(cells)]),
            one=np.array([one for one, _, _ in both]),
            other=np.array([other for _, other, _ in both]),
            conducts=np.array([value for _, _, value in both]),
            from_feed=from_feed,
            to_vent=to_vent,
            role=role,
            waits_for=waits_for,
        )
        told = fill(pores)
        passed, full = filled_plainly(pores)
        np.testing.assert_allclose(told.passed_at, passed, rtol=1e-7)
        np.testing.assert_allclose(told.filled_at, full, rtol=1e-7)
        # What was drawn and has not run out lies in the bed.
        held = pores.volume[np.isfinite(told.filled_at)].sum()
        self.assertGreaterEqual(told.drawn[-1] - told.left[-1], held * (1 - 1e-7))
        self.assertTrue((np.diff(told.at_s) >= 0).all() and (np.diff(told.left) >= 0).all())


class OnItsWay(TestCase):
    CURE = TwoPartCure(ln_a=log(1.2e-4), ea_kj_per_mol=55, kappa=0.05, gamma=1, m=1, n=2, gels_at=0.55)

    def test_how_far_a_resin_comes_before_it_sets(self):
        """computed: A(25 °C) 1.2e-4 1/s gels after 34,518 s, and S to there is 4.514e9."""
        liquid = Liquid(300, 25, 0, self.CURE)
        self.assertAlmostEqual(liquid.sets_min * 60, 34518, delta=35)
        self.assertAlmostEqual(liquid.s_gel(PULL) / 4.514e9, 1, delta=0.001)

    def test_a_grooved_core_and_a_lagging_fabric(self):
        """computed: 2 × 2 mm every 25 mm, 2.253e-11 m³ (exact 2.249e-11); mesh over 3 mm of biaxial fills in 668.7 s."""
        self.assertAlmostEqual(groove_kh_m3(2, 2, 25) / 2.253e-11, 1, delta=0.001)
        self.assertAlmostEqual(groove_kh_m3(2, 2, 25) / 2.249e-11, 1, delta=0.005)
        kh, pores = 2e-9 * 0.8e-3 + 6e-11 * 3e-3, 0.6 * 0.8e-3 + 0.5 * 3e-3
        found = filled(Bed(box(0.6, 0.2), Layered(kh, pores)), *ends(0.6, 0.2))
        lag = lag_of(0.5 * 3e-3, 3e-3, 6e-12)
        self.assertAlmostEqual(seconds(found.full_s + lag), 668.7, delta=668.7 * 0.002)

    def test_a_tight_fabric_under_mesh_lags_far_behind_it(self):
        """computed: mesh over 4 mm of carbon of K 5e-12, K_z 3e-13, φ .45 fills 0.6 m in 884.4 s, 130.6 mm behind the mesh."""
        kh, pores = 2e-9 * 0.8e-3 + 5e-12 * 4e-3, 0.6 * 0.8e-3 + 0.45 * 4e-3
        over = Layered(kh, pores)
        found = filled(Bed(box(0.6, 0.2), over), *ends(0.6, 0.2))
        lag = lag_of(0.45 * 4e-3, 4e-3, 3e-13)
        self.assertAlmostEqual(seconds(found.full_s + lag), 884.4, delta=884.4 * 0.002)
        self.assertAlmostEqual(1000 * FibreBed(over, over, 4e-3, lag).lag_m, 130.6, delta=0.1)

    @settings(max_examples=40, deadline=None)
    @given(st.floats(10, 39), st.floats(0.1, 10), st.floats(1e6, 4e9), st.booleans())
    def test_warmer_resin_is_never_slower_and_never_comes_further_by_its_cure_alone(self, room_c, warmer, s, cures):
        """properties: of the same state it is thinner; minutes and S go back and forth."""
        cool, warm = (Liquid(300, c, 120, self.CURE if cures else None) for c in (room_c, room_c + warmer))
        self.assertLess(warm.viscosity_pa_s, cool.viscosity_pa_s)
        minutes, warmed = float(cool.minutes_at(s, PULL)), float(warm.minutes_at(s, PULL))
        if s < 0.8 * warm.s_gel(PULL):
            # Near its gel a warmer one thickens first.
            self.assertLessEqual(warmed, minutes)
        if np.isfinite(minutes):
            self.assertAlmostEqual(float(cool.s_at(minutes, PULL)) / s, 1, places=6)
        self.assertLessEqual(warm.sets_min, cool.sets_min)


def infused(*stack: str, wide=0.5, long=1.0, part: dict | None = None, **said):
    job = panel("epoxy-infusion", *(stack or ("biax-450", "biax-450")), width_m=wide, length_m=long)
    return on(job, process="infusion", infusion=said, **(part or {}))


def line(name: str, does: str, *points: tuple[float, float], **said) -> dict:
    return {"id": name, "does": does, "points": [{"x_m": x, "y_m": y} for x, y in points], **said}


class Plans(TestCase):
    def test_every_gram_goes_somewhere_and_is_mixed(self):
        """conservation: where it goes adds up to what is mixed; the pots lay it; what stays in plies is the laminate's."""
        for job in (infused(), infused("biax-450", "foam-10", "biax-450"), infused(mesh=False, part={"count": 2})):
            answer = plan(job, at(20))
            told, use = answer.infusions[0], answer.resins[0].use
            into = ("in_fibre_g", "in_core_g", "in_mesh_g", "in_peel_ply_g", "in_hoses_g", "in_trap_g", "in_bucket_g")
            self.assertAlmostEqual(sum(getattr(told, each) for each in into), told.mixed_g, places=6)
            self.assertAlmostEqual(sum(told.feeds_g), told.mixed_g, places=6)
            laid = sum(pot.laid_g for pot in answer.run_sheet.pots)
            self.assertAlmostEqual(laid, told.copies * told.mixed_g, places=4)
            self.assertAlmostEqual(use.in_plies_g + use.in_bag_g, laid, places=4)
            self.assertAlmostEqual(told.draws[-1].grams, told.mixed_g - told.in_bucket_g, delta=0.01 * told.mixed_g)
            self.assertAlmostEqual(told.stand_by_g, (told.mixed_g - told.in_bucket_g) / 3)

    def test_a_gel_coat_is_laid_and_tacky_before_anything_is_drawn(self):
        """Its grams are mixed in pots of their own resin, and its window is kept."""
        document = infused().model_dump(mode="json")
        document["materials"]["resins"].append(resin("gel-coat").model_dump(mode="json"))
        document["resins"].append({"id": "gel", "resin_id": "gel-coat"})
        gel = {"id": "g", "coat": {"kind": "gel", "resin_gsm": 600, "use_id": "gel"}}
        document["parts"][0]["plies"].insert(0, gel)
        answer = plan(JobSpec.model_validate(document), at(20))
        coat, first = answer.run_sheet.layers[:2]
        self.assertEqual((coat.item_ids, first.item_ids), (("g",), ("p-feed-1",)))
        self.assertGreaterEqual(first.from_min, coat.opens_min - 0.01)
        laid = sum(pot.laid_g * pot.count for pot in answer.pots if pot.use_id == "gel")
        self.assertAlmostEqual(laid, 600 * 0.5, places=6)
        self.assertGreater(answer.resin_of("gel").use.to_have_g, laid)

    def test_hoses_and_mesh_by_hand(self):
        """exact: bore times length, thickness times openness times area, by the density of the mix."""
        answer = plan(infused(hose_m=3, bore_mm=10), at(20))
        told = answer.infusions[0]
        density = told.in_mesh_g / (0.5 * 0.8e-3 * 0.60 * 1e6)
        self.assertAlmostEqual(density, 1.09, delta=0.02)
        self.assertAlmostEqual(told.in_hoses_g, pi / 4 * 0.01**2 * (3 + 1.0) * density * 1e6, delta=0.2)

    def test_a_hose_by_hand(self):
        """published: Hagen and Poiseuille, V · 8 μ L/(π r⁴ Δp); half the bore takes sixteen times as long."""
        (planned,) = settled(infused(hose_m=3, bore_mm=8), at(20)).draft.found["infusions"].values()
        viscosity = planned.liquid(planned.mix.room_c).viscosity_pa_s
        litres = planned.drawn_in_all_g / planned.mix.density_g_per_ml / 1000
        by_hand = litres / 1000 * 8 * viscosity * 3 / (pi * 0.004**4 * planned.pull.pa) / 60
        self.assertAlmostEqual(planned.hose_min / by_hand, 1, places=9)

    def test_pots_for_the_bucket_are_used_while_they_live(self):
        """No pot is older than its life when the last of it is drawn, and the next is ready when the last is gone."""
        answer = plan(infused("csm-450", "csm-450", "csm-450", wide=1, long=2.5, part={"plies": _mat(4)}), at(22))
        pots = answer.run_sheet.pots
        self.assertGreater(len(pots), 2)
        for pot, after in itertools.pairwise(pots):
            self.assertLess(pot.used_min, pot.kick_min)
            self.assertLessEqual(after.on_from_min - pot.used_min, 0.05)

    def test_a_feed_so_placed_that_a_corner_stays_dry_and_one_that_mends_it(self):
        bad = infused(
            wide=1.6,
            long=2.4,
            mesh=False,
            viscosity_mpa_s=600,
            lines=[line("f", "feeds", (0, 0)), line("v", "vents", (2.4, 1.6))],
        )
        told = plan(bad, at(22)).infusions[0]
        self.assertGreater(told.dry_share, 0.2)
        self.assertIsNone(told.full_min)
        self.assertLess(told.margin, 1)
        middle = plan(
            infused(
                wide=1.6,
                long=2.4,
                viscosity_mpa_s=600,
                lines=[
                    line("f", "feeds", (0, 0.8), (2.4, 0.8)),
                    line("v", "vents", (0, 0), (2.4, 0)),
                    line("w", "vents", (0, 1.6), (2.4, 1.6)),
                ],
            ),
            at(22),
        ).infusions[0]
        self.assertEqual(middle.dry_share, 0)
        self.assertGreater(middle.margin, 1)

    def test_every_room_is_told_of_one_filling(self):
        """property: the same S in every room; a cooler room is slower, and by its margin the resin comes so far."""
        told = plan(infused(), at(20)).infusions[0]
        full = [each.full_min for each in told.by_room if each.full_min]
        self.assertEqual(full, sorted(full, reverse=True))
        for each in told.by_room:
            known = [minute for minute in each.at_min if minute is not None]
            self.assertEqual(known, sorted(known))
            self.assertEqual(each.full_min is None, each.margin < 1)
        now = next(each for each in told.by_room if each.room_c == round(told.room_c, 1))
        self.assertAlmostEqual(now.full_min, told.full_min, delta=0.2)

    def test_what_is_tried_is_rough_and_nearly_the_same(self):
        job = infused()
        fine, rough = (flow_of(job, at(20), "p", full_heat, rough=each) for each in (False, True))
        self.assertLess(rough.map.columns * rough.map.rows, FINE / 3)
        self.assertAlmostEqual(rough.told.full_min / fine.told.full_min, 1, delta=0.05)
        lines = [FlowLine.model_validate(each) for each in (line("f", "feeds", (0, 0)), line("v", "vents", (1, 0.5)))]
        tried = flow_of(job, at(20), "p", full_heat, lines=lines, rough=True)
        self.assertGreater(tried.told.full_min, fine.told.full_min)
        self.assertIsNone(flow_of(panel("epoxy-2-1", "cloth-300"), at(20), "p", full_heat))

    def test_bad_input_is_refused_at_its_field(self):
        port = line("f", "feeds", (0, 0))
        for said, path in (
            ({"lines": [port]}, "parts.0.infusion.lines"),
            ({"lines": [line("v", "vents", (0, 0))]}, "parts.0.infusion.lines"),
            ({"lines": [port, line("v", "vents", (0, 0))]}, "parts.0.infusion.lines"),
            ({"lines": [port, line("v", "vents", (9, 9))]}, "parts.0.infusion.lines"),
            ({"lines": [port | {"waits": True}, line("v", "vents", (1, 0.5))]}, "parts.0.infusion.lines"),
        ):
            answer = plan(infused(**said), at(20))
            self.assertEqual([problem.path for problem in answer.problems], [path], said)
            self.assertFalse(answer.pots)

    def test_a_shot_before_corrects_the_bed(self):
        told = plan(infused(), at(20)).infusions[0]
        twice = plan(infused(permeability_m2=2 * told.permeability_m2), at(20)).infusions[0]
        self.assertEqual((told.permeability_from, twice.permeability_from), ("memory", "as typed"))
        self.assertAlmostEqual(twice.permeability_m2 / told.permeability_m2, 2, places=6)
        self.assertLess(twice.full_min, 0.7 * told.full_min)

    def test_the_shops_own_shots_of_a_bed_correct_those_alike_and_no_others(self):
        """exact: Darcy's law is linear in permeability, so all of S goes with one over it; a mean of factors is geometric."""
        told = plan(infused(), at(20)).infusions[0]
        self.assertEqual(told.bed_name, "450 biaxial under flow mesh")
        shots = tuple(LoggedShot(bed=told.bed_name, pull_mbar=told.pull_mbar + 90, times=each) for each in (0.4, 0.9))
        shop = at(20).model_copy(update={"shots": shots})
        own = plan(infused(), shop).infusions[0]
        self.assertEqual((own.permeability_from, own.own_shots), ("shop log", 2))
        self.assertAlmostEqual(own.permeability_m2 / told.permeability_m2, 0.6, places=3)
        self.assertAlmostEqual(told.full_s / own.full_s, 0.6, places=3)
        self.assertAlmostEqual(told.lag_s / own.lag_s, 0.6, places=3)
        self.assertAlmostEqual(own.by_memory_m2, told.permeability_m2)
        self.assertAlmostEqual(own.least_m2 / own.by_memory_m2, 0.4)
        self.assertAlmostEqual(own.most_m2 / own.by_memory_m2, 0.9)
        for other in (infused(mesh=False), infused("cloth-300"), infused(part={"bag": {"level": 300}})):
            self.assertEqual(plan(other, shop).infusions[0].permeability_from, "memory")
        typed = plan(infused(permeability_m2=1e-10), shop).infusions[0]
        self.assertEqual(typed.permeability_from, "as typed")
        self.assertAlmostEqual(typed.permeability_m2, 1e-10, delta=1e-20)

    def test_a_bag_that_presses_less_leaves_a_bed_more_open(self):
        """published form: Kozeny and Carman, K as φ³/(1 − φ)²; its pores by what the plies hold."""
        hard, soft = (
            plan(infused(mesh=False, part={"bag": {"level": each}}), at(20)).infusions[0] for each in (50, 600)
        )
        self.assertGreater(soft.porosity, hard.porosity)
        self.assertGreater(soft.thickness_mm, hard.thickness_mm)

        def form(pores: float) -> float:
            return pores**3 / (1 - pores) ** 2

        # The density of the liquid is not quite that of the cured.
        self.assertAlmostEqual(
            soft.permeability_m2 / hard.permeability_m2, form(soft.porosity) / form(hard.porosity), delta=0.001
        )

    def test_one_more_feed_is_proposed_where_it_halves_the_time(self):
        """published form: the time of a line feed goes with the square of its way; at half of it a quarter of the time is
        gone, and as much again fills the rest."""
        lines = [line("f", "feeds", (0, 0), (0.5, 0)), line("v", "vents", (0, 0.3), (0.5, 0.3))]
        job = infused(mesh=False, long=0.3, lines=lines, viscosity_mpa_s=700)
        flow = flow_of(job, at(20), "p", full_heat)
        self.assertTrue(all(abs(y - 0.15) < 0.02 for _, y in flow.second.lines[0]))
        ways = [x for x, _ in flow.second.lines[0]]
        self.assertGreater(max(ways) - min(ways), 0.4)
        self.assertEqual(len(flow.second.lines), 1)
        laid = line("s", "feeds", *(tuple(point) for point in flow.second.lines[0]), waits=True)
        both = (*job.parts[0].infusion.lines, FlowLine.model_validate(laid))
        told = flow_of(job, at(20), "p", full_heat, lines=both).told
        self.assertAlmostEqual(told.full_s / flow.told.full_s, 0.5, delta=0.06)
        self.assertAlmostEqual(told.full_min / flow.second.full_min, 1, delta=0.02)
        # It opens when the resin comes there: at a quarter of the fill.
        opens = next(each.at_min for each in told.lines if each.id == "s")
        self.assertAlmostEqual(opens / flow.told.full_min, 0.25, delta=0.05)

    def test_grooves_that_run_one_way_help_one_way(self):
        """exact: Darcy's law in one dimension, with what grooves let through only where the resin runs along them."""
        stack, feeds = ("biax-450", "foam-10", "biax-450"), [line("f", "feeds", (0, 0), (0, 0.5))]
        lines = [*feeds, line("v", "vents", (1, 0), (1, 0.5))]
        said = {"mesh": False, "lines": lines, "groove_width_mm": 2}
        none = plan(infused(*stack, **said | {"groove_width_mm": None}), at(20)).infusions[0]
        full_s = {
            run: plan(infused(*stack, **said, grooves_run=run), at(20)).infusions[0].full_s
            for run in ("both ways", "left to right", "up and down")
        }
        self.assertAlmostEqual(full_s["left to right"] / full_s["both ways"], 1, places=6)
        self.assertAlmostEqual(full_s["up and down"] / none.full_s, 1, places=6)
        bed = none.permeability_m2 * none.thickness_mm / 1000
        self.assertAlmostEqual(none.full_s / full_s["left to right"], 1 + groove_kh_m3(2, 2, 25) / bed, places=4)


def _mat(count: int) -> list[dict]:
    return [{"id": f"m{n}", "fabric_id": "csm-450", "fibre_weight_fraction": 0.4} for n in range(count)]
