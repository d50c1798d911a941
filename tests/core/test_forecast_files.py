"""Forecasts as they are read and followed, and the papers that say what the list says.

Of `layup.day.forecast`, `layup.day.calendar_file`, `layup.day.day_list`, `layup.day.run_sheet`.
"""

import io
from collections import Counter
from datetime import UTC, date, datetime, timedelta
from itertools import pairwise
from unittest import TestCase
from zoneinfo import ZoneInfo

import vobject
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar
from pypdf import PdfReader

from cradle.demo_jobs import skiff
from layup.chemistry.hardeners import choose_hardener
from layup.day.calendar_file import calendar_file
from layup.day.day_list import day_list_csv, entries_of
from layup.day.forecast import read_forecast, room_of
from layup.day.run_sheet import clock_of
from layup.day.run_sheet_print import ticket_cards_pdf
from layup.errors import LayupError
from layup.job import Conditions
from layup.outcome import Plan
from layup.paper.kit import Masthead
from layup.plan import plan, settled
from layup.shop_facts import ShopFacts
from tests.core.jobs import DAY, LONDON, at, panel, resin, shed, wishing


class ForecastFiles(TestCase):
    TODAY = datetime(2026, 5, 4, 9, tzinfo=LONDON)

    def read(self, text: str):
        return read_forecast(text.encode(), LONDON, self.TODAY)

    def test_usual_tables(self):
        for text in (
            "hour,°C\n2026-05-04 08:00,14.5\n2026-05-04 09:00,15\n",
            "\ufeffZeit;Temperatur;Feuchte\n2026-05-04T08:00;14,5;60\n2026-05-04T09:00;15;62 %\n",
            "8:00\t14.5\n9:00\t15\n",
            "04.05.2026 08:00,14.5\n04.05.2026 09:00,15 °C\n",
            "2026-05-04T07:00:00+00:00,14.5\n2026-05-04T08:00:00Z,15\n",
        ):
            hours = self.read(text)
            self.assertEqual([hour.room_c for hour in hours], [14.5, 15.0], text)
            self.assertEqual(hours[0].at, datetime(2026, 5, 4, 8, tzinfo=LONDON), text)

    def test_the_first_and_the_last_of_these_times(self):
        hours = self.read("2000-01-01 08:00,14\n2200-12-31T08:00:00Z,15\n")
        self.assertEqual([hour.at.year for hour in hours], [2000, 2200])

    def test_what_is_wrong_is_said_by_its_row(self):
        for text, said in (
            ("hour,temp\n8:00,14\n9:00,warm", "row 3: “warm” is no temperature"),
            ("8:00,14\n25:00,15", "row 2: “25:00” is no hour"),
            ("8:00,14\n8:00,15", "row 2: “8:00” stands twice"),
            ("8:00,14\n9:00,80", "row 2: 80 °C is no room"),
            ("8:00,14\n9:00,15,140", "row 2: a humidity of 140 %"),
            ("8:00,14\n1999-12-31 09:00,15", "row 2: “1999-12-31 09:00” is of another time: a year from 2000 to 2200"),
            ("8:00,14\n2201-01-01T09:00:00Z,15", "row 2: .* is of another time"),
            ("8:00,14\n0001-01-01T00:00:00+23:59,15", "row 2: .* is of another time"),
            ("8:00,14", "give two hours"),
            ("", "give two hours"),
        ):
            with self.assertRaisesRegex(LayupError, said):
                self.read(text)

    def test_the_hour_that_is_shown_twice_is_read_twice(self):
        """In London 01:00 to 02:00 comes twice on 25 October 2026."""
        hours = self.read("".join(f"2026-10-25 0{h}:00,1{n}\n" for n, h in enumerate((0, 1, 1, 2))))
        self.assertEqual([(later.at - hour.at) for hour, later in pairwise(hours)], [timedelta(hours=1)] * 3)

    def test_a_gap_is_told_and_drawn_across(self):
        hours = self.read("".join(f"{h}:00,{10 + h / 2}\n" for h in (6, 7, 8, 14, 15, 16)))
        sheet = plan(skiff(), ShopFacts(today=DAY, time_zone="Europe/London", forecast=hours)).run_sheet
        self.assertIn("says nothing from Mon 4 May 08:00 to Mon 4 May 14:00", " ".join(sheet.problems))

    def test_the_hardener_is_chosen_for_the_hours_it_is_worked_in(self):
        """common practice: a reading on either side of a band's edge is one and the same working day."""
        hours = self.read(
            "".join(f"2026-05-05 {h:02d}:00,{c}\n" for h, c in zip(range(6, 20), range(9, 23), strict=True))
        )
        begun_at = {}
        for start_h, reading_c in ((8, 15.5), (8, 16.0), (14, 15.5)):
            tomorrow = wishing(skiff(), start=datetime(2026, 5, 5, start_h, tzinfo=LONDON))
            tomorrow = tomorrow.model_copy(update={"joints": (), "parts": tomorrow.parts[:1]})
            facts = ShopFacts(
                today=DAY, time_zone="Europe/London", forecast=hours, conditions=Conditions(room_c=reading_c)
            )
            answer = plan(tomorrow, facts)
            begun_at[start_h, reading_c] = next(row.name for row in answer.resins[0].chemistry.hardeners if row.chosen)
            last = max(pot.used_min for pot in answer.run_sheet.pots)
            room = room_of(tomorrow, facts, clock_of(tomorrow, facts))
            worked = settled(tomorrow, facts).in_hand[0].hardener.room_c
            self.assertTrue(min(room.at_c(0), room.at_c(last)) - 1 <= worked <= max(room.at_c(0), room.at_c(last)) + 1)
        self.assertEqual(begun_at, {(8, 15.5): "fast", (8, 16.0): "fast", (14, 15.5): "medium"})

    def test_near_an_edge_the_neighbour_is_told_with_what_it_would_give(self):
        near, far = (choose_hardener(resin("epoxy-2-1").hardeners, room_c).reason for room_c in (15.0, 12.0))
        self.assertRegex(near, r"Near the edge, 15.6 °C: medium would give \d+ min .* in place of \d+")
        self.assertNotIn("Near the edge", far)

    @given(st.binary(max_size=400) | st.text(max_size=300).map(str.encode))
    def test_any_bytes_are_read_or_refused(self, raw):
        try:
            self.assertTrue(read_forecast(raw, LONDON, self.TODAY))
        except LayupError as refused:
            self.assertTrue(refused.message)


def unfolded(raw: bytes) -> list[dict[str, str]]:
    """The events of a calendar file, by a reader of our own after RFC 5545: lines unfolded, then name;params:value."""
    events, event = [], None
    for line in raw.decode().replace("\r\n ", "").replace("\r\n\t", "").split("\r\n"):
        name, _, value = line.partition(":")
        if line == "BEGIN:VEVENT":
            event = {}
        elif line == "END:VEVENT":
            events.append(event)
            event = None
        elif event is not None:
            field, _, params = name.partition(";")
            event[field] = value
            event[f"{field} zone"] = params.removeprefix("TZID=")
    return events


def read_moment(words: str) -> datetime:
    """A time in UTC by its Z, else by the shop's clock: of an hour shown twice, the first (RFC 5545)."""
    at = datetime.strptime(words.removesuffix("Z"), "%Y%m%dT%H%M%S")
    return at.replace(tzinfo=UTC if words.endswith("Z") else LONDON)


class Papers(TestCase):
    def setUp(self):
        self.plan: Plan = plan(
            wishing(skiff(), start=datetime(2026, 10, 24, 15, tzinfo=LONDON)), shed(today=date(2026, 10, 24))
        )

    def test_the_calendar_says_what_the_list_says(self):
        """Read back by a second parser: the same starts, ends and zone, over a change of the clock too."""
        raw = calendar_file("Skiff", "job", self.plan, LONDON, datetime(2026, 10, 20, tzinfo=UTC))
        events = {event["UID"]: event for event in unfolded(raw)}
        entries = [entry for entry in entries_of(self.plan) if entry.kind != "wait"]
        self.assertEqual(len(events), len(entries))
        self.assertIn(b"BEGIN:VTIMEZONE", raw)
        for entry in entries:
            event = events[f"job-{entry.key.replace(' ', '-')}@inch-cradle"]
            self.assertEqual(event["DTSTART zone"], "" if event["DTSTART"].endswith("Z") else "Europe/London")
            begins = read_moment(event["DTSTART"])
            wanted = self.plan.run_sheet.start_at + timedelta(minutes=entry.from_min)
            self.assertAlmostEqual((begins.astimezone(UTC) - wanted).total_seconds(), 0, delta=1.1)
            if entry.to_min is not None:
                ends = read_moment(event["DTEND"])
                wanted = self.plan.run_sheet.start_at + timedelta(minutes=entry.to_min)
                self.assertAlmostEqual((ends.astimezone(UTC) - wanted).total_seconds(), 0, delta=1.1)

    def test_three_readers_find_the_same_moments(self):
        """icalendar, vobject by the zone in the file itself, and the shop's own clock; over changes of the clock."""
        for name, day in (
            ("Europe/London", datetime(2026, 10, 24, 15)),
            ("Europe/Dublin", datetime(2026, 3, 28, 15)),
            ("America/St_Johns", datetime(2026, 10, 31, 12)),
            ("Australia/Lord_Howe", datetime(2026, 4, 4, 9)),
            ("Asia/Kolkata", datetime(2026, 5, 4, 9)),
        ):
            with self.subTest(zone=name):
                zone = ZoneInfo(name)
                answer = plan(
                    wishing(panel("epoxy-2-1", "cloth-300"), start=day.replace(tzinfo=zone)),
                    shed(today=day.date(), time_zone=name),
                )
                raw = calendar_file("Deck", "job", answer, zone, datetime(2026, 1, 20, tzinfo=UTC))
                start = answer.run_sheet.start_at.astimezone(UTC)
                wanted = sorted(
                    (start + timedelta(minutes=entry.from_min)).replace(microsecond=0)
                    for entry in entries_of(answer)
                    if entry.kind != "wait"
                )
                by_icalendar = [event["DTSTART"].dt for event in Calendar.from_ical(raw).walk("VEVENT")]
                by_vobject = [event.dtstart.value for event in vobject.readOne(raw.decode()).vevent_list]
                for read in (by_icalendar, by_vobject):
                    self.assertEqual(sorted(at.astimezone(UTC) for at in read), wanted)

    def test_a_warmer_room_moves_what_is_there_and_makes_it_newer(self):
        """RFC 5545: the same thing keeps its UID, and a later SEQUENCE and DTSTAMP replace what a calendar holds."""
        day = wishing(skiff(), start=datetime(2026, 10, 24, 9, tzinfo=LONDON))
        written = [datetime(2026, 10, 20, hour, tzinfo=UTC) for hour in (8, 9)]
        cool, warm = (
            {
                event["UID"]: event
                for event in unfolded(calendar_file("Skiff", "job", plan(day, at(room)), LONDON, when))
            }
            for room, when in zip((19, 20), written, strict=True)
        )
        kept = cool.keys() & warm.keys()
        self.assertGreaterEqual(len(kept), 0.9 * max(len(cool), len(warm)))
        for uid in kept:
            self.assertGreater(int(warm[uid]["SEQUENCE"]), int(cool[uid]["SEQUENCE"]))
            self.assertNotEqual(warm[uid]["DTSTAMP"], cool[uid]["DTSTAMP"])

    def test_a_pot_and_a_closing_window_are_told_before(self):
        raw = calendar_file("Skiff", "job", self.plan, LONDON, datetime(2026, 10, 20, tzinfo=UTC))
        told = Counter(line for line in raw.decode().split("\r\n") if line.startswith("TRIGGER"))
        windows = sum(entry.kind == "window" for entry in entries_of(self.plan))
        self.assertEqual(told, {"TRIGGER:-PT10M": self.plan.pot_count, "TRIGGER;RELATED=END:-PT20M": windows})

    def test_a_card_names_every_ply_of_its_pot(self):
        stack = ("cloth-300", "biax-600", "cloth-200", "biax-450", "uni-300", "roving-600")
        job = panel("epoxy-2-1", *stack, width_m=0.2, length_m=0.2)
        answer = plan(job, shed(today=DAY))
        labels = answer.pots[0].labels
        self.assertGreaterEqual(len(labels), 5)
        for paper in ("A4", "Letter"):
            raw = ticket_cards_pdf(Masthead("Deck", 1, date(2026, 5, 4), paper), answer, LONDON, "http://localhost/")
            words = " ".join(PdfReader(io.BytesIO(raw)).pages[0].extract_text().split())
            for label in labels:
                self.assertIn(label, words)
            self.assertIn("The data sheet wins.", words)

    def test_the_table_holds_every_pot_with_its_offset(self):
        rows = day_list_csv(self.plan, LONDON).splitlines()
        pots = [row for row in rows if ',"pot",' in row]
        self.assertEqual(len(pots), self.plan.pot_count)
        self.assertIn("2026-10-24T15:00+01:00", pots[0])
