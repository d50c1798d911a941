"""Figures worked out a second time by another sum, and rules held on both sides of where they turn.

Of `layup.day.windows`, `layup.day.due`, `layup.heat.wet_limit`, `layup.pots.pot_check`, `layup.chemistry.cure`,
`layup.chemistry.ends`, `layup.day.planner`.
"""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from math import exp, log
from types import SimpleNamespace
from unittest import TestCase
from zoneinfo import ZoneInfo

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from layup.chemistry.catalyst import choose_dose
from layup.chemistry.gel import catalysed_gel_min, catalyst_pct_for_gel, temperature_for_gel_c
from layup.chemistry.gel_chart import gel_chart
from layup.chemistry.hardeners import choose_hardener
from layup.chemistry.label import catalyst_label, hardener_label
from layup.chemistry.logged import with_logged
from layup.day.best_start import levers, starts_of_day
from layup.day.due import PotDone, due_of
from layup.day.forecast import Room
from layup.day.schedule import Clocks, Layer
from layup.day.shop_clock import ShopClock
from layup.day.windows import covered_share, missed_windows, what_keeps_it
from layup.errors import Missing, OutOfRange
from layup.heat.conduction import H_TRAY, film
from layup.heat.conduction import Layer as Stuff
from layup.heat.cure_kinetics import GEL_CONVERSION
from layup.heat.heat_fit import StatedPot
from layup.heat.pot_heat import rough_heat, stated_pot
from layup.heat.pot_lab import PotTrial, try_pot
from layup.job import Conditions, PotWishes
from layup.marks import GRAMS
from layup.materials import StatedTime
from layup.plan import laid_out, plan, settled
from layup.pots.pot_check import check_pot
from layup.pots.ticket import catalysed
from layup.preparing.preparation import checklist
from layup.scales import Scales
from layup.shop_facts import ForecastHour, LoggedGel, ShopFacts
from tests.core.jobs import at, fabric, on, panel, resin

CATALYST = resin("polyester-general").catalyst
EPOXY = resin("epoxy-2-1")
DAY = date(2026, 5, 4)
R = 8.314462618


def stated(*rows: tuple[float, float, float]):
    """The catalyst with a table of (°C, %, min to gel)."""
    times = tuple(StatedTime(ends="gel", temperature_c=c, catalyst_pct=pct, minutes=m) for c, pct, m in rows)
    return CATALYST.model_copy(update={"stated_times": times})


def by_law(c: float, pct: float, *, minutes: float, at_c: float, at_pct: float, n: float, ea_kj: float) -> float:
    """ln t = ln t_ref − n ln(c/c_ref) + (Ea/R)(1/T − 1/T_ref), written out (Arrhenius, published; the rest common practice)."""
    return minutes * (pct / at_pct) ** -n * exp(ea_kj * 1000 / R * (1 / (c + 273.15) - 1 / (at_c + 273.15)))


class TheLawOfAGel(TestCase):
    @given(st.floats(0.5, 2.0), st.floats(5, 35), st.floats(0.6, 3.0))
    def test_a_catalyst_of_any_power(self, n, room_c, pct):
        """exact, against the law written out: no catalyst of the library has another power than one."""
        steep = CATALYST.model_copy(update={"exponent_n": n})
        ea_kj = R * log(2) / (1 / 293.15 - 1 / 303.15) / 1000
        wanted = by_law(room_c, pct, minutes=30, at_c=20, at_pct=1, n=n, ea_kj=ea_kj)
        self.assertAlmostEqual(catalysed_gel_min(steep, room_c, pct) / wanted, 1, 9)
        self.assertAlmostEqual(catalyst_pct_for_gel(steep, room_c, wanted) / pct, 1, 9)
        self.assertAlmostEqual(temperature_for_gel_c(steep, pct, wanted), room_c, 6)

    def test_a_label_that_is_typed_is_what_is_planned_with(self):
        """exact: nine times on one law of another slope and power, given back within the prior's pull."""
        law = {"minutes": 24, "at_c": 20, "at_pct": 1, "n": 0.9, "ea_kj": 56}
        rows = [(c, pct, by_law(c, pct, **law)) for c in (10, 20, 30) for pct in (1.0, 1.5, 2.0)]
        typed = stated(*rows)
        for c, pct, minutes in rows:
            self.assertAlmostEqual(catalysed_gel_min(typed, c, pct) / minutes, 1, delta=0.08)
        self.assertLess(catalysed_gel_min(typed, 20, 1), 0.87 * catalysed_gel_min(CATALYST, 20, 1))
        (fitted,) = catalyst_label(typed).laws
        self.assertAlmostEqual(fitted.gel_min(20, 1) / catalysed_gel_min(typed, 20, 1), 1, 9)
        self.assertAlmostEqual(fitted.temperature_c, 20)

    def test_what_is_solved_is_held_to_the_law_and_not_to_its_own_inverse(self):
        law = {"minutes": 24, "at_c": 20, "at_pct": 1, "n": 0.9, "ea_kj": 56}
        typed = stated(*[(c, pct, by_law(c, pct, **law)) for c in (10, 15, 20, 25, 30) for pct in (1.0, 2.0)])
        pct = catalyst_pct_for_gel(typed, 18, 15)
        self.assertAlmostEqual(by_law(18, pct, **law) / 15, 1, delta=0.06)
        room_c = temperature_for_gel_c(typed, 1.5, 12)
        self.assertAlmostEqual(by_law(room_c, 1.5, **law) / 12, 1, delta=0.06)

    def test_the_charts_points_are_carried_to_the_dose_of_the_line_by_its_power(self):
        """exact: on the line of 2 % a label's time at 1 % stands at t × (1/2)^n."""
        steep = CATALYST.model_copy(update={"exponent_n": 1.5})
        system = resin("polyester-general").model_copy(update={"catalyst": steep})
        (point,) = gel_chart(system, None, choose_dose(steep, 20, 30, pinned_pct=2.0), 20, None).points
        self.assertAlmostEqual(point.minutes, 30 / 2**1.5)

    def test_the_shops_own_gels_of_a_polyester_move_its_law(self):
        system = resin("polyester-general")
        gels = [
            LoggedGel(resin_id=system.id, minutes=24, temperature_c=20, mass_g=500, catalyst_pct=1.0) for _ in range(8)
        ]
        moved = with_logged(system, gels).catalyst
        self.assertEqual(len(moved.stated_times), 8)
        self.assertLess(catalysed_gel_min(moved, 20, 1), 0.93 * catalysed_gel_min(system.catalyst, 20, 1))


class Doses(TestCase):
    def test_a_stated_life_is_carried_to_the_pot_of_the_line(self):
        """exact: where the sheet states no more than it, its own point lies on its line, whatever the pot."""
        verdict = choose_hardener(EPOXY.hardeners, 20)
        for mass_g, cup_mm in ((None, None), (60, 80), (450, 110)):
            chart = gel_chart(EPOXY, verdict, None, 20, mass_g, cup_mm=cup_mm)
            (point,) = chart.points
            at_c, of_g = point.temperature_c, mass_g or 100
            wanted = hardener_label(verdict.chosen.hardener).gel_min(of_g, at_c, cup_mm)
            self.assertAlmostEqual(point.minutes / wanted, 1, 9)

    def test_a_working_time_as_a_film_is_four_fifths_of_its_gel(self):
        """memory: forty minutes as a film are fifty to its gel, at the temperature its pot is stated at."""
        slow = EPOXY.hardeners[2]
        film = StatedTime(ends="working time as a film", minutes=40, temperature_c=slow.pot_life_temperature_c)
        self.assertAlmostEqual(stated_pot(slow.model_copy(update={"stated_times": (film,)})).film_gel_min, 50)
        self.assertIsNone(stated_pot(slow).film_gel_min)

    def test_a_stated_pot_lives_as_stated_wherever_it_was_measured(self):
        """exact: also at a temperature that no table of the model reaches."""
        for measured_c in (-10, 25, 70):
            heat = rough_heat(StatedPot(30, measured_c, 150, ends_at=GEL_CONVERSION))
            self.assertAlmostEqual(heat.gel_min(150, measured_c) / 30, 1, 6)

    def test_a_pot_of_which_the_model_knows_nothing_goes_by_the_law_alone(self):
        """exact, Arrhenius (published): a life of three days at 25 °C, whatever the pot weighs."""
        heat = rough_heat(StatedPot(4320, 25, 100, ends_at=GEL_CONVERSION))
        self.assertIsNone(heat.cure)
        ea_kj = heat.stated.ea_kj_per_mol
        for room_c, mass_g in ((10, 50), (25, 2000), (32, 100)):
            wanted = 4320 * exp(ea_kj * 1000 / R * (1 / (room_c + 273.15) - 1 / 298.15))
            self.assertAlmostEqual(heat.gel_min(mass_g, room_c) / wanted, 1, 9)

    def test_a_larger_catalysed_pot_left_in_its_cup_gets_hotter(self):
        mix = settled(panel("polyester-general", "csm-450"), at(20)).mixes["resin"]
        small, large = mix.peak_c(50), mix.peak_c(1500)
        self.assertTrue(20 < small < large - 20, (small, large))
        self.assertTrue(150 < large < 250, large)

    def test_a_hardeners_line_is_the_life_of_the_pot_it_is_drawn_for(self):
        answer = plan(panel("epoxy-2-1", "cloth-300"), at(20))
        chart = answer.resins[0].chemistry.chart
        for pot in answer.pots:
            if pot.mass_g == chart.pot_g:
                self.assertAlmostEqual(
                    chart.life_at_room_min, pot.gel_min if hasattr(pot, "gel_min") else pot.life_min, 6
                )
        self.assertIn(chart.pot_g, {pot.mass_g for pot in answer.pots})

    def test_a_limit_holds_the_dose_and_says_which_way_out(self):
        """common practice: a wish past the least asks for a cooler room, one past the most for a warmer."""
        slow, quick = choose_dose(CATALYST, 20, 60), choose_dose(CATALYST, 20, 5)
        self.assertEqual((slow.catalyst_pct, slow.limit), (CATALYST.least_pct, "least"))
        self.assertEqual((quick.catalyst_pct, quick.limit), (CATALYST.most_pct, "most"))
        self.assertIn("cooler part of the day", " ".join(slow.instead))
        self.assertIn("warmer part of the day", " ".join(quick.instead))
        self.assertLess(float(slow.instead[0].split()[0]), 20)
        self.assertGreater(float(quick.instead[0].split()[0]), 20)

    def test_a_weighed_catalyst_comes_on_top_of_the_resin_on_the_scale(self):
        """exact: the scale shows cup, resin and catalyst together."""
        resin_pour, dose = catalysed(1000, 1.5, CATALYST, cup_g=20, scale=GRAMS, tool="scale", dose_marks=GRAMS).pours
        self.assertEqual((resin_pour.running, dose.amount, dose.tared), (1020, 15, 15))
        self.assertEqual(dose.running, 20 + 1000 + 15)

    def test_the_least_pot_by_each_tool(self):
        """exact: half a mark against 2 % of part B, or against 10 % of a catalyst's dose."""
        by_weight = settled(panel("epoxy-2-1", "cloth-300"), at(20)).mixes["resin"]
        ratio = 0.5 * 1.04 / 1.15
        self.assertAlmostEqual(by_weight.floor_g, 0.5 / 0.02 * (1 + ratio) / ratio, 6)
        cup = settled(panel("epoxy-2-1", "cloth-300", practice={"basis": "volume"}), at(20)).mixes["resin"]
        self.assertAlmostEqual(cup.floor_g / cup.density_g_per_ml, 1.0 / 0.02 * 1.5 / 0.5, 6)
        dosed = panel("polyester-general", "csm-450", in_use={"resin_id": "polyester-general", "catalyst_pct": 1})
        by_syringe = settled(dosed, at(20)).mixes["resin"]
        self.assertAlmostEqual(by_syringe.floor_g, 0.1 * 1.12 / 0.10 / 0.01, 6)
        by_scale = settled(dosed, at(20, dose_tool="scale")).mixes["resin"]
        self.assertAlmostEqual(by_scale.floor_g, 0.5 / 0.10 / 0.01, 6)


class AsItWasPoured(TestCase):
    def checked(self, resin_id: str, stack: str, first_g: float, second_g: float | None, **more):
        job = panel(resin_id, stack)
        answer = plan(job, at(20))
        return check_pot(job, at(20), answer, answer.pots[0], first_g, second_g, **more)

    def test_a_catalysed_pot_by_weight_and_by_syringe(self):
        """exact: 45 ml of 1.12 g/ml in a kilo is 5.04 %, past the 2 % that it takes."""
        right = self.checked("polyester-general", "csm-450", 1000, 15)
        self.assertEqual(right.grade, "within tolerance")
        self.assertIn("1.50 %, inside the product's 1 to 2", right.words)
        drawn = self.checked("polyester-general", "csm-450", 1000, None, second_ml=45)
        self.assertIn("5.04 % is over the most", drawn.words)
        lean = self.checked("polyester-general", "csm-450", 1000, 5)
        self.assertEqual((lean.grade, lean.add), ("outside", "catalyst"))

    def test_part_b_in_millilitres_goes_by_its_density_and_not_without(self):
        weighed = self.checked("epoxy-2-1", "cloth-300", 100, 45.2)
        drawn = self.checked("epoxy-2-1", "cloth-300", 100, None, second_ml=45.2 / 1.04)
        self.assertAlmostEqual(weighed.off_pct, drawn.off_pct, 6)
        job = panel("epoxy-2-1", "cloth-300")
        bare = [each.model_copy(update={"density_g_per_cm3": None}) for each in EPOXY.hardeners]
        known = EPOXY.model_copy(
            update={
                "hardeners": tuple(bare),
                "ratio_weight_b_per_a": 0.45,
                "sources": EPOXY.sources | {"ratio_weight_b_per_a": "data sheet"},
            }
        )
        job = job.model_copy(update={"materials": job.materials.model_copy(update={"resins": (known,)})})
        answer = plan(job, at(20))
        with self.assertRaisesRegex(Missing, "density of the hardener is not known"):
            check_pot(job, at(20), answer, answer.pots[0], 100, None, second_ml=40)

    def test_an_old_pot_is_past_mending_and_a_young_one_is_not(self):
        life = plan(panel("epoxy-2-1", "cloth-300"), at(20)).pots[0].life_min
        young = self.checked("epoxy-2-1", "cloth-300", 100, 60, age_min=0.14 * life)
        old = self.checked("epoxy-2-1", "cloth-300", 100, 60, age_min=0.16 * life)
        self.assertEqual((young.add, old.add), ("A", ""))
        # 60 g of B ask for 60 / 0.45 g of A: neither may be used as it stands.
        self.assertRegex(young.unfit(), "To mend it now, mix in 3[23] g more of A$")
        self.assertEqual(young.unfit() and old.unfit().endswith(old.refused), True)
        self.assertIn("too late to mend", old.refused)

    def test_nothing_poured_is_nothing_to_mend(self):
        with self.assertRaises(OutOfRange):
            self.checked("epoxy-2-1", "cloth-300", 0, 45)


class HoursAndWords(TestCase):
    def test_sanding_is_told_in_hours(self):
        """exact: 36 times what the stated pot can be worked for, in hours."""
        verdict = choose_hardener(EPOXY.hardeners, 23)
        slower = next(row for row in verdict.rows if row.steps_off == 1)
        hours = slower.clocks.sandable_min / 60
        self.assertTrue(10 < hours < 100)
        self.assertIn(f"sands after {hours:.0f} h", slower.reason)
        job = panel("epoxy-2-1", "cloth-300", in_use={"resin_id": EPOXY.id, "hardener_id": slower.hardener.id})
        said = next(c.message for c in plan(job, at(23)).cautions if c.id == "conditions.hardener_off_band")
        self.assertIn(f"sands after {hours:.0f} h", said)

    def test_protection_is_that_of_the_resin(self):
        """memory; the data sheet wins."""
        for resin_id, stack, has, has_not in (
            ("epoxy-2-1", "cloth-300", "sensitise", "Peroxide"),
            ("polyester-general", "csm-450", "Peroxide blinds", "sensitise"),
        ):
            job = panel(resin_id, stack)
            lines = checklist(job, plan(job, at(20)), at(20).scales)
            said = next(f"{line.words} {line.why}" for line in lines if line.id == "protection")
            self.assertIn(has, said)
            self.assertNotIn(has_not, said)
            self.assertEqual("spill" in {line.id for line in lines}, resin_id != "epoxy-2-1")

    def test_a_fluid_ounce_is_the_shops(self):
        """published: NIST SP 811; 29.5735 and 28.4131 ml."""
        for ounce, ml in (("us", 29.5735), ("imperial", 28.4131)):
            field = Scales("US", ounce).fields()["volume"]
            self.assertAlmostEqual(1 / field.factor, ml, 3)
            self.assertEqual(Scales("US", ounce).number("volume", 5 * ml), "5")


class InTime(TestCase):
    def test_copies_share_their_pots_where_one_holds_them_and_not_where_it_does_not(self):
        small = on(panel("epoxy-2-1", "cloth-300", width_m=0.3, length_m=0.3), count=4)
        large = on(panel("epoxy-2-1", "cloth-300", width_m=2, length_m=3), count=2)
        for job, shared in ((small, 4), (large, 1)):
            schedule = laid_out(settled(job, at(20))).schedule
            self.assertEqual({lane.shared_by for lane in schedule.lanes}, {shared})
            grams = sum(pot.laid_g for pot in schedule.pots)
            per_copy = sum(ply.resin_g + ply.mopped_off_g for ply in plan(job, at(20)).parts[0].plies)
            self.assertAlmostEqual(grams, per_copy * job.parts[0].copies, 6)

    def test_pots_end_where_a_strip_ends(self):
        ply = {"id": "y", "fabric_id": "cloth-300", "strips": {"width_m": 0.1, "overlap": 0.0}}
        job = on(panel("epoxy-2-1", "cloth-300", width_m=1.5, length_m=6), plies=[ply])
        schedule = laid_out(settled(job, at(20))).schedule
        (work,) = {pot.works[0].item_id: pot.works[0] for pot in schedule.pots}.values()
        strip_g = work.laid_g / work.strips
        self.assertGreater(len(schedule.pots), 2)
        for pot in schedule.pots:
            self.assertAlmostEqual(pot.laid_g / strip_g, round(pot.laid_g / strip_g), 6)

    def test_a_clock_past_the_end_of_the_room_goes_on_at_its_last_pace(self):
        """exact: the last half hours at 20 °C, so that ten days more are ten days more."""
        minutes = np.array([-2880.0, 75 * 1440.0])
        room = Room(minutes, np.array([20.0, 20.0]), "as it is", "reading")
        mix = settled(panel("epoxy-2-1", "cloth-300"), at(20)).mixes["resin"]
        clocks = Clocks(room, lambda c: mix.clocks)
        late = 75 * 1440.0 - 60
        self.assertAlmostEqual(clocks.after("load_min", late), late + mix.clocks.load_min, delta=31)

    def test_a_layer_that_is_begun_after_the_first_beneath_has_closed_is_not_counted_as_covered(self):
        """Its own first gram finds a closed surface; what closes at the very minute does not."""
        beneath = Layer("p", (), 0, 60, 1, 1, 0, 100, closes_last_min=160)
        for from_min, to_min, share in ((100, 150, 1.0), (101, 150, 0.0), (90, 160, 1.0), (90, 161, 10 / 11)):
            with self.subTest(from_min=from_min, to_min=to_min):
                layer = Layer("p", (), from_min, to_min, 2, 2, 0, 0)
                self.assertAlmostEqual(covered_share(beneath, layer), share)

    def test_what_keeps_a_window_turns_at_the_minute(self):
        """memory: ten minutes go by from the weighing of a layer's first pot until it is on the work."""
        clock = ShopClock(datetime(2026, 5, 4, 8, tzinfo=UTC), ZoneInfo("UTC"), 8, 18)
        next_day = Layer("p", (), 1440, 1500, 2, 2, 0, 0)
        for closes_min, said in ((109.5, "closes before it is ended"), (110.5, "day is too short")):
            beneath = Layer("p", (), 0, 100, 1, 1, 0, closes_min)
            self.assertIn(said, what_keeps_it(beneath, replace(next_day, to_min=next_day.from_min + 700), clock))
        # Ready at 17:10 and ended by the knife's edge of the day: what it is short by is what it is begun earlier.
        began_at_ten = ShopClock(datetime(2026, 5, 4, 10, tzinfo=UTC), ZoneInfo("UTC"), 8, 18)
        late = Layer("p", (), 0, 430, 1, 1, 0, 900)
        self.assertEqual(what_keeps_it(late, next_day, began_at_ten), "Begun 20 min earlier it is kept.")
        self.assertIn("Other work came between", what_keeps_it(late, replace(next_day, from_min=470), began_at_ten))

    def test_what_peel_ply_was_laid_for_is_no_window_missed(self):
        """Nor is what waits to be sanded anyway; the others are counted by name and by what they cost first."""
        layers = [
            Layer("p", (), 0, 60, 1, 1, 0, 100, mended=mended)
            for mended in ("", "peel ply", "sand, wipe", "wash, sand", "wash, sand")
        ]
        lanes = [SimpleNamespace(id="p", owner=SimpleNamespace(name="Hull"))]
        self.assertEqual(list(missed_windows(SimpleNamespace(lanes=lanes, layers=layers))), [("Hull", 2, "wash, sand")])

    def test_a_pot_that_must_not_be_used_is_due_now_and_opens_no_cure(self):
        answer = plan(panel("epoxy-2-1", "cloth-300"), at(20))
        number = answer.pots[0].first
        fit, unfit = (due_of(answer, [PotDone(number, 5, True, unfit=why)]) for why in ("", "four times its hardener"))
        self.assertEqual((fit[0].words, fit[0].in_min), (f"pot {number} kicks", answer.pots[0].life_min - 5))
        (only,) = unfit
        self.assertEqual(
            (only.words, only.why), (f"pot {number} must not be used: mend it or dump it", "four times its hardener")
        )

    def test_the_air_is_damp_where_the_surface_is_near_its_dew_point_and_not_far_from_it(self):
        """published (ASHRAE): at 60 and 20 °C the dew point is 12.0 °C, at 95 % it is 19.2."""
        job = panel("epoxy-2-1", "cloth-300")
        for humidity, surface_c, damp in ((60, 18, False), (95, 18, True), (78, 18, True), (78, 24, False)):
            hours = tuple(
                ForecastHour(at=datetime(2026, 5, 4, h, tzinfo=UTC), room_c=20, humidity_pct=humidity)
                for h in range(24)
            )
            facts = ShopFacts(
                today=DAY, conditions=Conditions(room_c=20, surface_c=surface_c, humidity_pct=humidity), forecast=hours
            )
            faults = {start.fault.partition(" ")[0] for start in starts_of_day(job, facts, DAY)}
            self.assertEqual(faults, {"damp"} if damp else {""}, (humidity, surface_c))

    def test_no_start_of_the_day_beats_the_best(self):
        """Nothing against it, then the fewest nights, the least chance of a lost pot, the fewest pots."""
        hours = tuple(
            ForecastHour(at=datetime(2026, 5, 4, tzinfo=UTC) + timedelta(hours=h), room_c=14 + 6 * (h % 24) / 23)
            for h in range(48)
        )
        facts = ShopFacts(today=DAY, forecast=hours)
        job = panel("epoxy-2-1", *["cloth-300"] * 2, width_m=1.5, length_m=3)
        tried = starts_of_day(job, facts, DAY)

        def worth(start) -> tuple:
            return bool(start.fault), start.nights, round(start.chance_any, 3), start.pot_count

        ranked = sorted(tried, key=lambda start: (worth(start), start.start_at))
        self.assertGreater(len({worth(start) for start in tried}), 3)
        self.assertEqual([start.rank for start in ranked], [worth(start) for start in ranked])

    def test_a_lever_that_helps_says_by_how_much(self):
        job = panel("epoxy-2-1", *["cloth-300"] * 2, width_m=2, length_m=3)
        said = {lever.name: lever for lever in levers(job, at(20, today=DAY))}
        alone = plan(job, at(20, today=DAY))
        two = plan(job.model_copy(update={"pots": PotWishes(hands=2)}), at(20, today=DAY))
        hands = said["People"]
        self.assertEqual(hands.pot_count, two.pot_count)
        self.assertLess(hands.laid_by_min, alone.run_sheet.laid_by_min)
        self.assertIn("laid by", hands.words)
        self.assertEqual(
            [lever.name for lever in said.values() if lever.words == "no gain"],
            [
                lever.name
                for lever in said.values()
                if lever.pot_count == alone.pot_count
                and abs(lever.laid_by_min - alone.run_sheet.laid_by_min) < 1
                and round(1 / lever.chance_any) == round(1 / alone.run_sheet.chance_any)
            ],
        )


class SpreadAndPouredOut(TestCase):
    def test_a_film_lies_on_what_is_under_it_with_air_over_it(self):
        wood = Stuff(0.009, 0.6, 1.6, 0.12, 0.5, 6)
        under, over = film(0.0006, wood).layers
        self.assertEqual((under.reacts, over.reacts, over.thickness_m), (0.0, 1.0, 0.0006))
        self.assertEqual(film(0.0006, wood).outer.h_w_per_m2_k, H_TRAY)
        self.assertEqual(len(film(0.0006).layers), 1)

    def test_the_curve_of_a_pot_poured_out_goes_on_from_when_it_was(self):
        slow = EPOXY.hardeners[2]
        kept = try_pot(EPOXY, slow, None, PotTrial(mass_g=800, room_c=22))
        out = try_pot(EPOXY, slow, None, PotTrial(mass_g=800, room_c=22, poured_out_min=8))
        self.assertEqual(list(out.minutes), sorted(out.minutes))
        self.assertAlmostEqual(out.marks[0].minute if out.marks[0].words.startswith("poured") else 8, 8)
        self.assertGreater(out.life_min, 1.3 * kept.life_min)
        before = [c for minute, c in zip(out.minutes, out.centre_c, strict=True) if minute <= 8]
        same = np.interp([m for m in out.minutes if m <= 8], kept.minutes, kept.centre_c)
        np.testing.assert_allclose(before, same, atol=0.6)
        self.assertLess(max(out.centre_c), 60)

    def test_a_spread_pot_outlives_its_cup(self):
        spread = try_pot(EPOXY, EPOXY.hardeners[2], None, PotTrial(mass_g=500, room_c=22, vessel="spread on the work"))
        self.assertEqual(spread.depth_mm, 0.6)
        self.assertGreater(spread.gain, 1.5)


class CarbonAndGlass(TestCase):
    def test_carbon_cloth_takes_its_own_time(self):
        """memory: 6 min/m² for 200 g carbon, 5 for 300 g cloth."""
        for stack, minutes in (("carbon-200", 6.0), ("cloth-300", 5.0)):
            schedule = laid_out(settled(panel("epoxy-2-1", stack, width_m=0.5, length_m=0.5), at(20))).schedule
            self.assertAlmostEqual(schedule.pots[0].works[0].spread_min, minutes * 0.25)
        self.assertEqual(fabric("carbon-200").fibre, "carbon")
