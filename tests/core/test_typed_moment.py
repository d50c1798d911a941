"""A moment as it is typed: what is shown reads back as itself; an hour alone is the next, or the last; by the shop's clock.

Of `layup.day.typed_moment`.
"""

from datetime import UTC, datetime, timedelta
from unittest import TestCase
from zoneinfo import ZoneInfo

from hypothesis import given, settings
from hypothesis import strategies as st

from layup.customs import Customs, locales
from layup.day.typed_moment import read_moment
from layup.errors import LayupError, OutOfRange, Unreadable

LONDON = ZoneInfo("Europe/London")
# A Tuesday.
NOW = datetime(2026, 12, 1, 9, 30, tzinfo=LONDON)


def read(words: str, locale: str = "en-GB", **more) -> str:
    return f"{read_moment(words, NOW, LONDON, Customs(locale), **more):%a %d %b %Y %H:%M}"


class Moments(TestCase):
    @settings(max_examples=150)
    @given(
        st.datetimes(datetime(2026, 12, 1, 9, 31), datetime(2027, 11, 30)),
        st.sampled_from(locales()),
    )
    def test_what_is_shown_reads_back_as_itself(self, at, locale):
        """By the customs of every country; a screen shows a moment so, and what stands in its field is read again."""
        moment = at.replace(second=0, microsecond=0, tzinfo=UTC)
        said = Customs(locale).moment(moment)
        self.assertEqual(read_moment(said, NOW, ZoneInfo("UTC"), Customs(locale)), moment, said)

    def test_an_hour_alone_is_the_next_and_of_what_was_the_last(self):
        self.assertEqual(
            [read(words) for words in ("10", "9:30", "8")],
            [
                "Tue 01 Dec 2026 10:00",
                "Wed 02 Dec 2026 09:30",
                "Wed 02 Dec 2026 08:00",
            ],
        )
        self.assertEqual(
            [read(words, past=True) for words in ("9:20", "9.30", "10 pm")],
            [
                "Tue 01 Dec 2026 09:20",
                "Tue 01 Dec 2026 09:30",
                "Mon 30 Nov 2026 22:00",
            ],
        )

    def test_a_day_of_the_week_is_the_next_of_its_name_today_while_the_hour_is_to_come(self):
        self.assertEqual(
            [read(words) for words in ("Tue 10", "Tuesday 9", "thurs at noon", "mon")],
            [
                "Tue 01 Dec 2026 10:00",
                "Tue 08 Dec 2026 09:00",
                "Thu 03 Dec 2026 12:00",
                "Mon 07 Dec 2026 08:00",
            ],
        )
        self.assertEqual(read("tomorrow", opens_h=7.5), "Wed 02 Dec 2026 07:30")

    def test_a_date_is_read_as_the_country_writes_it(self):
        self.assertEqual(read("4/12/26 8:00", "en-GB"), "Fri 04 Dec 2026 08:00")
        self.assertEqual(read("4/12/27 8:00", "en-US"), "Mon 12 Apr 2027 08:00")
        with self.assertRaisesRegex(Unreadable, "both ways"):
            read("4/12/26 8:00", "")
        # One that has gone by this year is of the next.
        self.assertEqual(read("30 Nov 9"), "Tue 30 Nov 2027 09:00")

    def test_noon_midnight_and_twelve(self):
        """Common practice: 12 pm is noon, 12 am the midnight before it; 24:00 the end of a day."""
        for words, hour in (
            ("12 pm", "01 Dec 2026 12:00"),
            ("12 am", "02 Dec 2026 00:00"),
            ("midnight", "02 Dec 2026 00:00"),
        ):
            self.assertIn(hour, read(words))
        self.assertIn("04 Dec 2026 00:00", read("3 Dec 24:00"))

    def test_by_the_shops_clock_over_its_changes(self):
        """Published: the zone's own rules. In Lisbon 1:30 of 29 March 2026 was skipped."""
        lisbon = ZoneInfo("Europe/Lisbon")
        eve = datetime(2026, 3, 28, 20, tzinfo=lisbon)
        for words, utc in (("1:30", 1.5), ("3", 2.0)):
            found = read_moment(words, eve, lisbon, Customs()).astimezone(UTC)
            self.assertEqual(found, datetime(2026, 3, 29, tzinfo=UTC) + timedelta(hours=utc), words)

    def test_what_is_no_moment_is_refused_in_words(self):
        for words in ("", "soon", "3 8", "8 30", "yesterday", "32 Dec 8", "Thu 3 8"):
            with self.subTest(words), self.assertRaisesRegex(LayupError, "type it such as|read the label"):
                read(words)
        for words in ("25:00", "24:30", "13 pm", "0 am", "8:75"):
            with self.subTest(words), self.assertRaisesRegex(OutOfRange, "hour"):
                read(words)
