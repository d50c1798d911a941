"""Several jobs on one clock: what each wants when, what cannot be at once, and how it is parted.

Of `layup.week.jobs`, `layup.week.people`, `layup.week.clashes`.
"""

from datetime import UTC, date, datetime, timedelta
from unittest import TestCase
from zoneinfo import ZoneInfo

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from layup.job import PotWishes
from layup.plan import plan
from layup.week.clashes import clashes_between, clashes_of, earliest_free
from layup.week.jobs import Busy, Held, Span, WeekJob, in_week
from layup.week.people import PersonsHours, ShopWeek
from tests.core.jobs import DAY, on, panel, shed

LONDON = ZoneInfo("Europe/London")
# A Monday, in winter.
MONDAY = date(2026, 11, 30)
BEFORE = datetime(2026, 11, 29, tzinfo=UTC)


def at(day: int, hour: float) -> datetime:
    return datetime(2026, 11, 30, tzinfo=UTC) + timedelta(days=day, hours=hour)


def job(*busy: tuple[int, float, float], people: int = 1, pump: tuple[tuple[datetime, datetime], ...] = ()) -> WeekJob:
    """A job that is worked at on some days, from an hour to another."""
    spans = tuple(Busy(from_at=at(day, begins), to_at=at(day, ends), people=people) for day, begins, ends in busy)
    start_at = spans[0].from_at if spans else pump[0][0]
    pumped = tuple(Span(from_at=begins, to_at=ends) for begins, ends in pump)
    return WeekJob(start_at=start_at, busy=spans, laid_at=spans[-1].to_at if spans else start_at, pump=pumped)


def shop(*hours: tuple[float, float], **said) -> ShopWeek:
    people = tuple(
        PersonsHours(name=f"p{number}", from_h=from_h, to_h=to_h) for number, (from_h, to_h) in enumerate(hours)
    )
    return ShopWeek(people=people, **said)


def found(jobs: dict[str, WeekJob], week: ShopWeek):
    return clashes_of(jobs, week, LONDON, BEFORE)


class Clashing(TestCase):
    def test_two_jobs_of_two_people_each_where_three_are_there(self):
        jobs = {"a": job((0, 8, 12), people=2), "b": job((0, 11, 15), people=2)}
        (clash,) = found(jobs, shop((8, 17), (8, 17), (8, 17)))
        self.assertEqual((clash.lack, clash.wanted, clash.there), ("people", 4, 3))
        self.assertEqual((clash.from_at, clash.to_at, clash.job_ids), (at(0, 11), at(0, 12), ("a", "b")))
        # a after b, b after a, or one person more for the hour.
        ways = [(way.job_id, way.start_at, way.people_more) for way in clash.ways]
        self.assertEqual(ways, [("a", at(1, 8), 0), ("b", at(0, 12), 0), ("", None, 1)])

    def test_one_mould_holds_one_job(self):
        def laid_in(mould: str, begins: float, hard: float) -> WeekJob:
            held = Held(mould=mould, from_at=at(0, begins), to_at=at(1, hard))
            return job((0, begins, begins + 1)).model_copy(update={"moulds": (held,)})

        jobs = {"a": laid_in("Hull 4", 8, 9), "b": laid_in(" hull 4", 13, 16), "c": laid_in("Deck 4", 9.5, 12)}
        (clash,) = found(jobs, shop((8, 19)))
        self.assertEqual((clash.lack, clash.mould, clash.wanted, clash.there), ("mould", "Hull 4", 2, 1))
        self.assertEqual((clash.from_at, clash.to_at, clash.job_ids), (at(0, 13), at(1, 9), ("a", "b")))
        # b may begin when a is out of it, and a when b is.
        self.assertEqual([(way.job_id, way.start_at) for way in clash.ways], [("a", at(1, 16)), ("b", at(1, 9))])
        apart = jobs | {"b": jobs["b"].later_by(timedelta(hours=20))}
        self.assertEqual(found(apart, shop((8, 19))), ())

    def test_one_warm_room_takes_one_job_and_two_take_two(self):
        def warmed(begins: float) -> WeekJob:
            warm = (Span(from_at=at(1, begins), to_at=at(1, begins + 8)),)
            return job((0, begins, begins + 1)).model_copy(update={"warm": warm})

        jobs = {"a": warmed(8), "b": warmed(12)}
        (clash,) = found(jobs, shop((8, 19)))
        self.assertEqual((clash.lack, clash.wanted, clash.there), ("warm room", 2, 1))
        self.assertEqual((clash.from_at, clash.to_at), (at(1, 12), at(1, 16)))
        self.assertEqual([(way.job_id, way.start_at) for way in clash.ways], [("a", at(1, 8)), ("b", at(0, 16))])
        self.assertEqual(found(jobs, shop((8, 19), warm_rooms=2)), ())
        (none,) = found({"a": warmed(8)}, shop((8, 19), warm_rooms=0))
        self.assertEqual((none.there, none.ways), (0, ()))

    def test_it_is_warmed_once_all_of_it_is_hard(self):
        facts = shed()
        of = panel("epoxy-2-1", "cloth-300", pots={"start": at(0, 9).isoformat(), "post_cure_h": 8})
        told = plan(of, facts)
        (warm,) = in_week(of, told).warm
        hard = max(mark.at_min for mark in told.run_sheet.marks if mark.kind == "sand")
        self.assertEqual(round((warm.from_at - told.run_sheet.start_at) / timedelta(minutes=1)), round(hard))
        self.assertEqual(warm.to_at - warm.from_at, timedelta(hours=8))
        later = in_week(of, told).later_by(timedelta(hours=3))
        self.assertEqual(later.warm[0].from_at - warm.from_at, timedelta(hours=3))
        unwarmed = panel("epoxy-2-1", "cloth-300", pots={"start": at(0, 9).isoformat()})
        self.assertEqual(in_week(unwarmed, plan(unwarmed, facts)).warm, ())

    def test_a_mould_is_held_from_its_first_layer_until_it_is_hard(self):
        facts = shed().model_copy(update={"today": DAY})
        of = on(
            panel("polyester-general", "csm-450", "csm-450", pots={"start": at(0, 9).isoformat()}),
            ground={"mould": "Lid"},
        )
        told = plan(of, facts)
        (held,) = in_week(of, told).moulds
        hard = next(mark for mark in told.run_sheet.marks if mark.kind == "sand")
        begins = min(layer.from_min for layer in told.run_sheet.layers)
        self.assertEqual(held.mould, "Lid")
        self.assertEqual(
            [round((moment - told.run_sheet.start_at) / timedelta(minutes=1)) for moment in (held.from_at, held.to_at)],
            [round(begins), round(hard.at_min)],
        )
        # What lies on plywood holds no mould, whatever was typed before.
        self.assertEqual(in_week(ply := on(of, substrate="bare plywood"), plan(ply, facts)).moulds, ())
        self.assertEqual(in_week(bare := on(of, ground={"mould": "  "}), plan(bare, facts)).moulds, ())

    def test_a_break_of_one_is_the_others_time(self):
        jobs = {"a": job((0, 8, 10), (0, 13, 15)), "b": job((0, 10, 13))}
        self.assertEqual(found(jobs, shop((8, 17))), ())

    def test_hours_and_shut_days_are_held(self):
        late = {"a": job((0, 15, 19))}
        (clash,) = found(late, shop((8, 17)))
        self.assertEqual((clash.from_at, clash.to_at, clash.there), (at(0, 17), at(0, 19), 0))
        self.assertEqual([way.start_at for way in clash.ways], [at(1, 8)])
        (shut,) = found({"a": job((0, 9, 10))}, shop((8, 17), shut=(MONDAY,)))
        self.assertEqual((shut.lack, shut.ways[0].start_at), ("shut", at(1, 8)))
        # On Saturday nobody works; a shop that has named nobody is not held to any hours.
        (weekend,) = found({"a": job((5, 9, 10))}, shop((8, 17)))
        self.assertEqual(weekend.ways[0].start_at, at(7, 8))
        self.assertEqual(found(late | {"b": job((5, 3, 4), people=9)}, ShopWeek()), ())

    def test_a_learner_alone_does_not_mix(self):
        learner = PersonsHours(name="tern", may_mix=False)
        self.assertEqual(found({"a": job((0, 9, 10))}, ShopWeek(people=(learner,)))[0].lack, "mixers")
        both = ShopWeek(people=(learner, PersonsHours(name="wren", from_h=10)))
        (clash,) = found({"a": job((0, 9, 12))}, both)
        self.assertEqual((clash.from_at, clash.to_at), (at(0, 9), at(0, 10)))

    def test_one_pump_is_not_promised_twice(self):
        jobs = {"a": job(pump=((at(0, 10), at(1, 8)),)), "b": job(pump=((at(0, 16), at(1, 12)),))}
        (clash,) = found(jobs, shop((8, 17)))
        self.assertEqual((clash.lack, clash.from_at, clash.to_at), ("pump", at(0, 16), at(1, 8)))
        self.assertEqual([(way.job_id, way.start_at) for way in clash.ways], [("a", at(1, 12)), ("b", at(1, 8))])
        self.assertEqual(found(jobs, shop((8, 17), pumps=2)), ())

    def test_what_has_begun_is_not_begun_again(self):
        jobs = {"a": job((0, 8, 12)), "b": job((0, 11, 13))}
        clashes = clashes_of(jobs, shop((8, 17)), LONDON, at(0, 9))
        self.assertEqual([way.job_id for way in clashes[0].ways], ["b", ""])

    def test_hours_are_of_the_shops_own_clock(self):
        summer = datetime(2026, 6, 1, 7, tzinfo=UTC)
        early = WeekJob(
            start_at=summer, laid_at=summer, busy=(Busy(from_at=summer, to_at=summer + timedelta(hours=1), people=1),)
        )
        # Seven by UTC is eight in London.
        self.assertEqual(clashes_of({"a": early}, shop((8, 17)), LONDON, BEFORE), ())

    _SPAN = st.tuples(st.integers(0, 3), st.integers(12, 40), st.integers(1, 8))

    @settings(max_examples=16, deadline=None)
    @given(
        st.lists(
            st.tuples(st.lists(_SPAN, min_size=1, max_size=3, unique_by=lambda span: span[0]), st.integers(1, 3)),
            min_size=1,
            max_size=4,
        ),
        st.lists(st.tuples(st.integers(12, 20), st.integers(22, 40)), min_size=1, max_size=4),
    )
    def test_minute_by_minute_the_same_is_found(self, wanted, hours):
        """By another way: each quarter of an hour is asked by itself."""
        week = shop(*((begins / 2, ends / 2) for begins, ends in hours))
        jobs = {
            str(number): job(*((day, half / 2, (half + long) / 2) for day, half, long in sorted(spans)), people=people)
            for number, (spans, people) in enumerate(wanted)
        }
        clashes = found(jobs, week)
        for quarter in range(4 * 24 * 5):
            moment = at(0, quarter / 4 + 0.1)
            at_it = [busy for each in jobs.values() for busy in each.busy if busy.from_at <= moment < busy.to_at]
            there = sum(begins / 2 <= moment.hour + moment.minute / 60 < ends / 2 for begins, ends in hours)
            told = any(clash.from_at <= moment < clash.to_at for clash in clashes)
            lacks = sum(busy.people for busy in at_it) > (there if moment.weekday() < 5 else 0)
            self.assertEqual(told, lacks, moment)
        for clash in clashes:
            for way in clash.ways:
                if way.job_id:
                    self.assertGreater(way.start_at, jobs[way.job_id].start_at)
                    self.assertIn(way.start_at.minute, (0, 30))
                    moved = jobs[way.job_id].later_by(way.start_at - jobs[way.job_id].start_at)
                    left = clashes_between(jobs | {way.job_id: moved}, week, LONDON)
                    self.assertFalse(any(way.job_id in each.job_ids for each in left))


class OfAJob(TestCase):
    def test_a_job_is_laid_into_the_week_as_its_run_sheet_says(self):
        start = datetime(DAY.year, DAY.month, DAY.day, 8, tzinfo=LONDON)
        spec = panel("epoxy-2-1", "cloth-300", pots=PotWishes(hands=2, start=start).model_dump(mode="json"))
        answer = plan(spec, shed())
        told, sheet = in_week(spec, answer), answer.run_sheet
        self.assertEqual((told.start_at, told.given, told.people, told.pots), (start, True, 2, len(sheet.pots)))
        self.assertEqual(told.laid_at, start + timedelta(minutes=round(sheet.laid_by_min)))
        works = [each for each in sheet.busy if not each.waits]
        self.assertEqual(told.busy[0].from_at, start + timedelta(minutes=round(min(each.from_min for each in works))))
        self.assertEqual(told.busy[-1].to_at, start + timedelta(minutes=round(max(each.to_min for each in works))))
        # Breaks that free nobody are no breaks.
        for one, other in zip(told.busy, told.busy[1:], strict=False):
            self.assertGreaterEqual(other.from_at - one.to_at, timedelta(minutes=29))
        self.assertEqual(in_week(spec.model_copy(update={"pots": PotWishes()}), answer).given, False)
        later = told.later_by(timedelta(hours=3))
        self.assertEqual(later.cures[0].at - told.cures[0].at, timedelta(hours=3))
        self.assertEqual(later.later_by(timedelta(hours=-3)), told)

    def test_a_bag_keeps_its_pump_from_down_to_open(self):
        from tests.core.test_vacuum import bagged

        spec = bagged()
        answer = plan(spec, shed())
        marks = answer.run_sheet.marks
        (pump,) = in_week(spec, answer).pump
        minutes = [
            round((edge - answer.run_sheet.start_at) / timedelta(minutes=1)) for edge in (pump.from_at, pump.to_at)
        ]
        down = min(mark.at_min for mark in marks if mark.kind == "bag down")
        opens = max(mark.at_min for mark in marks if mark.kind == "open bag")
        self.assertEqual(minutes, [round(down), round(opens)])


class Hours(TestCase):
    def test_who_cannot_be(self):
        for said in (
            {"people": [{"name": "wren", "from_h": 17, "to_h": 8}]},
            {"people": [{"name": "wren"}, {"name": "Wren"}]},
            {"people": [{"name": ""}]},
            {"people": [{"name": "wren", "days": [7]}]},
            {"pumps": -1},
        ):
            with self.subTest(said=said), self.assertRaises(ValidationError):
                ShopWeek.model_validate(said)

    def test_what_was_kept_is_read_again(self):
        week = shop((8, 17), (9, 12), pumps=3, shut=(MONDAY,))
        self.assertEqual(ShopWeek.model_validate(week.model_dump(mode="json")), week)

    def test_no_start_within_two_weeks_is_none(self):
        jobs = {"a": job((0, 9, 10), people=3)}
        self.assertIsNone(earliest_free("a", jobs, shop((8, 17)), LONDON, BEFORE))
