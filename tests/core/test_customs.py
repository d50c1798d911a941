"""How a shop's country writes: numbers, hours, days and money in every word of a plan. Of `layup.customs`.

The marks themselves are CLDR's, by Babel; Python's own formatting is the other side of each check.
"""

import re
from datetime import datetime, time
from math import ceil
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cradle.demo_jobs import DEMO_JOBS, skiff
from layup.customs import NARROW_SPACE, Customs, locales
from layup.marks import Marks
from layup.plan import plan
from tests.core.jobs import LONDON, at, panel, shed, wishing

ENGLISH_DECIMAL = re.compile(r"\d\.\d")
ENGLISH_CLOCK = re.compile(r"\b\d\d:\d\d\b(?!:)")
# What a caution was said about is kept in one form, whoever reads it.
KEPT = {"said"}


def strings(told: object):
    if isinstance(told, str):
        yield told
    elif isinstance(told, dict):
        yield from (each for name, value in told.items() if name not in KEPT for each in strings(value))
    elif isinstance(told, list | tuple):
        yield from (each for value in told for each in strings(value))


class Written(TestCase):
    def test_no_sentence_of_a_plan_keeps_a_point_where_the_country_has_a_comma(self):
        for made in DEMO_JOBS:
            job = made()
            for units in ("metric", "US"):
                for room_c in (12, 20, 31):
                    facts = at(room_c, humidity_pct=83, locale="en-DE", units=units)
                    said = list(strings(plan(job, facts).model_dump(mode="json")))
                    with self.subTest(job=job.name, units=units, room_c=room_c):
                        self.assertEqual([words for words in said if ENGLISH_DECIMAL.search(words)], [])
                        self.assertTrue(any(re.search(r"\d,\d", words) for words in said))

    def test_no_sentence_of_a_plan_keeps_24_hours_where_the_country_has_12(self):
        start = datetime(2026, 5, 4, 14, tzinfo=LONDON)
        answer = plan(wishing(skiff(), start=start), shed(today=start.date(), locale="en-US"))
        said = list(strings(answer.model_dump(mode="json", exclude={"run_sheet": {"start_at"}})))
        self.assertEqual([words for words in said if ENGLISH_CLOCK.search(words) and "T" not in words], [])
        self.assertRegex(answer.run_sheet.sentence, r"laid by .*\d:\d\d\u202f[AP]M")

    @given(st.floats(-1e7, 1e7), st.sampled_from(["", *locales()]))
    def test_a_number_has_the_digits_of_pythons_and_two_marks_at_most(self, value, locale):
        customs, plain = Customs(locale), format(value, ",.2f")
        written = customs.number(value, ",.2f")
        self.assertEqual([c for c in written if c.isdigit()], [c for c in plain if c.isdigit()])
        self.assertEqual(written[-3], "," if customs.decimal_comma else ".")
        self.assertLessEqual(set(written) - set("-0123456789"), {".", ",", NARROW_SPACE})
        self.assertNotIn(".", written[:-3])

    @given(st.integers(0, 24 * 60 - 1), st.sampled_from(["", *locales()]))
    def test_an_hour_is_the_same_however_it_is_asked_for(self, minute, locale):
        customs = Customs(locale)
        said = customs.clock(time(minute // 60, minute % 60))
        self.assertEqual(customs.hour(minute / 60), said)
        hours, minutes = (int(each) for each in re.findall(r"\d+", said))
        self.assertEqual(minutes, minute % 60)
        self.assertIn(hours, {minute // 60, (minute // 60 - 1) % 12 + 1, minute // 60 % 12})

    def test_the_end_of_a_day_is_its_beginning(self):
        self.assertEqual((Customs().hour(24), Customs().hour(23.999)), ("00:00", "00:00"))

    def test_a_tool_is_read_in_the_countrys_marks(self):
        self.assertEqual(Marks(0.05, "oz", 28.35, Customs("en-FR")).reads(12.05), "12,05 oz")


class Syringes(TestCase):
    def test_a_dose_of_more_than_it_holds_says_how_often_it_is_filled(self):
        """exact: the fills times what each holds are the dose."""
        job = panel("polyester-general", "csm-450", "csm-450", width_m=1.2, length_m=2.4)
        job = wishing(job, largest_g=3000)
        for holds_ml in (3.0, 5.0, 6.0, 10.0, None):
            ticket = plan(job, at(20, syringe_ml=holds_ml)).pots[0].ticket
            dose = next(pour for pour in ticket.pours if pour.what == "Catalyst")
            fills = ceil(dose.amount / holds_ml) if holds_ml else 1
            with self.subTest(holds_ml=holds_ml, note=dose.note):
                self.assertEqual(dose.amount, 10)
                found = re.match(r"in (\d+) fills(?: of ([\d.]+) ml)?, by syringe, ", dose.note)
                self.assertEqual(int(found[1]) if found else 1, fills)
                if found and found[2]:
                    self.assertAlmostEqual(fills * float(found[2]), dose.amount)
        self.assertIn("in 2 fills of 5 ml, ", plan(job, at(20, syringe_ml=6)).pots[0].ticket.pours[1].note)
