"""The moisture of the air and the room through a day."""

from unittest import TestCase

import psychrolib
from hypothesis import given
from hypothesis import strategies as st

from layup.day.dew import dew_point_c, humidity_pct_at
from layup.day.hours import good_hours, moved_to, room_through
from layup.errors import OutOfRange
from layup.job import Conditions
from layup.shop_facts import RoomDay
from tests.core.jobs import resin

psychrolib.SetUnitSystem(psychrolib.SI)
AIR = {"temperature_c": st.floats(-15, 45), "humidity_pct": st.floats(3, 100)}
DAY = RoomDay(coldest_c=11, warmest_c=23)


class Dew(TestCase):
    @given(**AIR)
    def test_the_dew_point_is_psychrolibs(self, temperature_c, humidity_pct):
        """published: PsychroLib, a reference implementation of the ASHRAE formulas: air of that dew point is so humid."""
        dew_c = min(dew_point_c(temperature_c, humidity_pct), temperature_c)
        told = 100 * psychrolib.GetRelHumFromTDewPoint(temperature_c, dew_c)
        # A hundredth of a degree of dew point is a thousandth of the humidity.
        self.assertAlmostEqual(told / humidity_pct, 1, delta=0.001)

    def test_figures_of_tables(self):
        """published: 20 °C 60 % is 12.0, 25 °C 80 % is 21.3, 12 °C 75 % is 7.7."""
        for room, humidity, wanted in ((20, 60, 12.01), (25, 80, 21.31), (12, 75, 7.71)):
            with self.subTest(room=room):
                self.assertAlmostEqual(dew_point_c(room, humidity), wanted, delta=0.01)

    @given(**AIR, warmer=st.floats(0, 20))
    def test_heating_keeps_the_water_and_dries_the_air(self, temperature_c, humidity_pct, warmer):
        dew_c = dew_point_c(temperature_c, humidity_pct)
        self.assertLessEqual(dew_c, temperature_c + 1e-9)
        moved = humidity_pct_at(temperature_c + warmer, dew_c)
        self.assertLessEqual(moved, humidity_pct + 1e-3)
        if moved > 1:
            self.assertAlmostEqual(dew_point_c(temperature_c + warmer, moved), dew_c, delta=0.01)

    def test_no_air_is_that_dry_or_that_wet(self):
        for humidity in (0, -5, 101):
            with self.assertRaises(OutOfRange):
                dew_point_c(20, humidity)

    def test_a_cooled_room_is_full_at_its_dew_point(self):
        self.assertEqual(moved_to(Conditions(room_c=20, humidity_pct=60), 10).humidity_pct, 100)


class Through(TestCase):
    def test_the_curve_runs_from_coldest_to_warmest(self):
        temperatures = [moment.room_c for moment in room_through(Conditions(room_c=15), None, DAY)]
        self.assertEqual((min(temperatures), max(temperatures), len(temperatures)), (11, 23, 49))

    @given(st.floats(0, 23.5), st.floats(5, 30))
    def test_the_curve_passes_through_todays_reading(self, hour, room_c):
        hour = round(hour * 2) / 2
        moments = room_through(Conditions(room_c=room_c), hour, DAY)
        self.assertAlmostEqual(next(m.room_c for m in moments if m.hour == hour), room_c, places=6)

    def test_without_a_range_it_stays_as_read(self):
        self.assertEqual({moment.room_c for moment in room_through(Conditions(room_c=17), 9, None)}, {17})

    def test_good_hours_follow_the_bands(self):
        epoxy = resin("epoxy-2-1")
        hours = good_hours(epoxy, room_through(Conditions(room_c=15), None, DAY))
        names = [span.what for span in hours.spans]
        self.assertEqual(names, ["fast", "medium", "slow", "medium", "fast"])
        for before, after in zip(hours.spans, hours.spans[1:], strict=False):
            self.assertLessEqual(before.to_h, after.from_h)

    def test_damp_and_cold_hours_are_not_good(self):
        polyester = resin("polyester-general")
        damp = good_hours(polyester, room_through(Conditions(room_c=20, humidity_pct=90), 12, None))
        self.assertEqual((damp.spans, damp.otherwise), ((), "surface within 3 °C of the dew point"))
        cold = good_hours(polyester, room_through(Conditions(room_c=20, surface_c=12), 12, None))
        self.assertEqual((cold.spans, cold.otherwise), ((), "under 15 °C"))
        warm = good_hours(polyester, room_through(Conditions(room_c=20, humidity_pct=50), 12, None), 25)
        self.assertEqual([(span.from_h, span.to_h) for span in warm.spans], [(0, 24)])
        quick = good_hours(polyester, room_through(Conditions(room_c=20), 12, None), 5)
        self.assertEqual(quick.otherwise, "too cold, even the most catalyst gels too late")
