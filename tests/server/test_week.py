"""The shop's week: jobs on one clock, a start given and moved, who is there, and the calendar that others read.

Of `cradle.jobs.week_routes`.
"""

from datetime import date, datetime, timedelta
from unittest import mock
from uuid import uuid4

import vobject
from django.test import Client

from cradle.jobs.models import Job
from cradle.shops.models import Membership, Role, Shop
from tests.server.people import TwoShops

PEOPLE = {"people": [{"name": "wren"}, {"name": "tern", "to_h": 16}], "shut": [], "pumps": 1}


class WeekTest(TwoShops):
    def setUp(self):
        super().setUp()
        self.path = f"/api/shops/{self.shop.pk}/week"
        today = self.shop.now().date()
        # The Monday after the next, so that no hour of it has begun.
        self.monday = today + timedelta(days=14 - today.weekday())

    def at(self, hour: float, days: int = 0) -> str:
        moment = datetime.combine(self.monday, datetime.min.time(), self.shop.now().tzinfo)
        return (moment + timedelta(days=days, hours=hour)).isoformat()

    def week(self, first: date | None = None) -> dict:
        """The week once all of it is planned."""
        for _ in range(200):
            status, answer = self.get(f"{self.path}?first={first or self.monday}")
            self.assertEqual(status, 200, answer)
            if not any(job["behind"] for job in answer["jobs"]):
                return answer
        self.fail("a job stays behind")

    def begin(self, job: Job, start_at: str | None) -> None:
        status, answer = self.send("put", f"/api/jobs/{job.pk}/start", {"start_at": start_at})
        self.assertEqual(status, 200, answer)


class InTheWeek(WeekTest):
    def test_a_start_is_given_moved_and_taken_back(self):
        told = {job["name"]: job for job in self.week()["jobs"]}
        self.assertFalse(told["Estuary skiff"]["work"]["given"])
        self.begin(self.job, self.at(9))
        first = self.week()["jobs"][0]
        self.assertEqual((first["name"], first["work"]["given"]), ("Estuary skiff", True))
        self.assertEqual(datetime.fromisoformat(first["work"]["start_at"]), datetime.fromisoformat(self.at(9)))
        body = {"job_id": str(self.job.pk), "start_at": self.at(11), "first": str(self.monday)}
        status, tried = self.send("post", f"{self.path}/moved", body)
        self.assertEqual(status, 200, tried)
        self.assertEqual(
            datetime.fromisoformat(tried["jobs"][0]["work"]["start_at"]), datetime.fromisoformat(self.at(11))
        )
        # Tried is not kept.
        self.assertEqual(self.week()["jobs"][0]["work"]["start_at"], first["work"]["start_at"])
        self.assertEqual(self.job.latest().spec().pots.start, datetime.fromisoformat(self.at(9)))
        self.begin(self.job, None)
        self.assertFalse(any(job["work"] and job["work"]["given"] for job in self.week()["jobs"]))

    def test_of_two_starts_in_one_moment_the_later_stands(self):
        real, asked = Job.latest, []

        def latest(job: Job):
            """The base that one goes by is read; then another begins the job elsewhere."""
            found = real(job)
            asked.append(found.number)
            if len(asked) == 1:
                self.begin(self.job, self.at(7))
            return found

        with mock.patch.object(Job, "latest", latest):
            self.begin(self.job, self.at(10))
        self.assertEqual(self.job.latest().spec().pots.start, datetime.fromisoformat(self.at(10)))
        self.assertGreater(len(asked), 4)

    def test_two_jobs_that_want_the_same_hands_are_parted(self):
        self.send("put", f"{self.path}/people", {"people": [{"name": "wren"}], "shut": [], "pumps": 1})
        self.begin(self.job, self.at(9))
        self.begin(self.lid, self.at(9))
        clashes = [clash for clash in self.week()["clashes"] if len(clash["job_ids"]) == 2]
        self.assertEqual({clash["lack"] for clash in clashes}, {"people"})
        self.assertEqual(set(clashes[0]["job_ids"]), {str(self.job.pk), str(self.lid.pk)})
        way = next(way for way in clashes[0]["ways"] if way["job_id"] == str(self.lid.pk))
        self.begin(self.lid, way["start_at"])
        self.assertFalse([clash for clash in self.week()["clashes"] if len(clash["job_ids"]) == 2])

    def test_what_to_buy_for_all_jobs_of_the_week(self):
        path = f"{self.path}/buy?first={self.monday}"
        self.assertEqual(self.get(path)[1]["lines"], [])
        self.begin(self.job, self.at(9))
        self.begin(self.lid, self.at(9, days=1))
        self.week()
        needs = {}
        for job in (self.job, self.lid):
            for line in self.get(f"/api/jobs/{job.pk}/buy")[1]["lines"]:
                needs[line["article"]] = needs.get(line["article"], 0) + line["need"]
        found = {line["article"]: line["need"] for line in self.get(path)[1]["lines"]}
        self.assertEqual(set(found), set(needs))
        for article, need in found.items():
            self.assertAlmostEqual(need, needs[article], msg=article)
        # Of another week there is nothing to buy.
        later = self.monday + timedelta(days=21)
        self.assertEqual(self.get(f"{self.path}/buy?first={later}")[1]["lines"], [])

    def test_who_cannot_work_so_is_told_at_his_field(self):
        for people, path in (
            ([{"name": "wren", "from_h": 17, "to_h": 8}], "people.0.to_h"),
            ([{"name": ""}], "people.0.name"),
            ([{"name": "wren", "from_h": 25}], "people.0.from_h"),
        ):
            with self.subTest(people=people):
                status, told = self.send("put", f"{self.path}/people", {"people": people})
                self.assertEqual((status, told["problems"][0]["path"]), (422, path))
        self.assertEqual(self.send("put", f"{self.path}/people", {"people": [], "shut": ["25 Dec"]})[0], 422)
        self.assertEqual(Shop.objects.get(pk=self.shop.pk).week, {})

    def test_the_days_say_who_is_there_and_which_are_shut(self):
        self.send("put", f"{self.path}/people", PEOPLE | {"shut": [str(self.monday)]})
        days = self.week()["days"]
        self.assertEqual([day["shut"] for day in days], [True, *[False] * 6])
        self.assertEqual([len(day["names"]) for day in days], [0, 2, 2, 2, 2, 0, 0])
        self.assertEqual([shift["people"] for shift in days[1]["shifts"]], [2, 1])

    def test_a_viewer_sees_the_week_and_not_its_address(self):
        address = self.send("post", f"{self.path}/calendar")[1]["calendar"]
        self.assertTrue(address.endswith(".ics"))
        Membership.objects.create(shop=self.shop, person=self.stranger, role=Role.VIEWER)
        viewer = Client()
        viewer.force_login(self.stranger)
        status, answer = self.get(self.path, viewer)
        self.assertEqual((status, answer["calendar"]), (200, ""))
        for method, path, body in (
            ("put", f"{self.path}/people", PEOPLE),
            ("post", f"{self.path}/calendar", {}),
            ("put", f"/api/jobs/{self.job.pk}/start", {"start_at": self.at(9)}),
        ):
            self.assertEqual(self.send(method, path, body, viewer)[0], 403, path)


class Calendar(WeekTest):
    def test_whoever_has_the_address_reads_the_week_until_there_is_a_new_one(self):
        self.begin(self.job, self.at(9))
        address = self.send("post", f"{self.path}/calendar")[1]["calendar"]
        path = address[address.index("/api/") :]
        nobody = Client()
        answer = nobody.get(path)
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "text/calendar; charset=utf-8"))
        events = vobject.readOne(answer.content.decode()).vevent_list
        works = [event for event in events if "person" in event.summary.value or "people" in event.summary.value]
        busy = self.week()["jobs"][0]["work"]["busy"]
        self.assertEqual(
            [event.dtstart.value for event in works], [datetime.fromisoformat(one["from_at"]) for one in busy]
        )
        self.assertTrue(all(event.summary.value.startswith("Estuary skiff: ") for event in events))
        # A thing keeps its id while its hour moves.
        before = sorted(event.uid.value for event in works)
        self.begin(self.job, self.at(9, days=1))
        moved = vobject.readOne(nobody.get(path).content.decode()).vevent_list
        self.assertTrue(set(before) & {event.uid.value for event in moved})
        again = self.send("post", f"{self.path}/calendar")[1]["calendar"]
        self.assertNotEqual(again, address)
        self.assertEqual(nobody.get(path).status_code, 404)
        for token in ("", "x", str(uuid4())):
            self.assertEqual(nobody.get(f"/api/calendar/{token}.ics").status_code, 404)
