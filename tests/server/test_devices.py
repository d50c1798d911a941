"""Tablets at the bench: let in by a code, limited to it, withdrawn; who works there.

Of `cradle.devices`.
"""

import json
from datetime import timedelta
from uuid import uuid4

from django.core.cache import cache
from django.db import connection
from django.test import Client
from django.utils import timezone

from cradle.api import api
from cradle.bench.stream import _may_watch
from cradle.devices.letting_in import initials_of
from cradle.devices.limits import _BENCH
from cradle.devices.models import Code, Device, ShortNumber
from cradle.shops.models import Membership, Role
from tests.server.people import TwoShops


class DeviceTest(TwoShops):
    def setUp(self):
        super().setUp()
        cache.clear()

    def let_in(self, name: str = "bench stand", client: Client | None = None) -> Client:
        """A tablet that was let in, before anybody works at it."""
        tablet = client or Client()
        status, told = self.send("post", "/api/devices/let-in", {"code": self.code(name)}, tablet)
        self.assertEqual((status, told["name"]), (200, name))
        return tablet

    def code(self, name: str = "bench stand") -> str:
        status, told = self.send("post", f"/api/shops/{self.shop.pk}/devices", {"name": name})
        self.assertEqual(status, 200, told)
        return told["address"].split("#")[1]

    def at_work(self, number: str = "") -> Client:
        tablet = self.let_in()
        status, session = self.send("post", "/api/devices/work", {"person": "wren", "number": number}, tablet)
        self.assertEqual((status, session["signed_in"], session["at_tablet"]), (200, True, True))
        return tablet


class LettingIn(DeviceTest):
    def test_a_code_lets_one_tablet_in_once(self):
        code = self.code()
        told = self.send("post", "/api/devices/code", {"code": code}, Client())[1]
        self.assertEqual(told, {"name": "bench stand", "shop": "Saltmarsh Slip", "by": "wren"})
        self.assertEqual(self.send("post", "/api/devices/let-in", {"code": code}, Client())[0], 200)
        for again in (code, "never was", ""):
            status, told = self.send("post", "/api/devices/let-in", {"code": again}, Client())
            self.assertEqual((status, told["problems"][0]["path"]), (422, "code"))

    def test_a_code_runs_out(self):
        code = self.code()
        Code.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
        self.assertEqual(self.send("post", "/api/devices/let-in", {"code": code}, Client())[0], 422)

    def test_two_tablets_of_one_name_are_told_apart_before_they_are_two(self):
        first, second = self.code("phone"), self.code("phone")
        self.assertEqual(self.send("post", "/api/devices/let-in", {"code": first}, Client())[0], 200)
        status, told = self.send("post", "/api/devices/let-in", {"code": second}, Client())
        self.assertEqual(status, 422)
        self.assertIn("another tablet is called phone now", told["problems"][0]["message"])
        status, told = self.send("post", f"/api/shops/{self.shop.pk}/devices", {"name": " Phone "})
        self.assertEqual((status, told["problems"][0]["path"]), (422, "name"))
        # One that was withdrawn leaves its name.
        self.send("delete", f"/api/devices/{Device.objects.get().pk}")
        self.let_in("phone")

    def test_only_an_owner_shows_codes_lists_and_withdraws(self):
        self.let_in()
        Membership.objects.update(role=Role.LAMINATOR)
        path = f"/api/shops/{self.shop.pk}/devices"
        device = f"/api/devices/{Device.objects.get().pk}"
        for method, at, body in (("post", path, {"name": "x"}), ("get", path, None), ("delete", device, None)):
            self.assertEqual(self.send(method, at, body)[0] if method != "get" else self.get(at)[0], 403)
        self.assertIsNone(Device.objects.get().withdrawn_at)

    def test_no_secret_lies_in_the_data_in_an_address_or_in_an_answer(self):
        code = self.code()
        tablet = Client()
        answer = tablet.post("/api/devices/let-in", json.dumps({"code": code}), content_type="application/json")
        token = tablet.cookies["device"].value
        self.assertTrue(tablet.cookies["device"]["httponly"])
        self.assertNotIn(token, answer.content.decode())
        self.send("put", "/api/session/number", {"number": "2580"})
        with connection.cursor() as cursor:
            for table in connection.introspection.table_names():
                rows = cursor.execute(f'SELECT * FROM "{table}"').fetchall()
                for secret in (code, token, "2580"):
                    self.assertNotIn(secret, [str(value) for row in rows for value in row], table)
        # What stands behind # is sent to no server.
        shown = self.send("post", f"/api/shops/{self.shop.pk}/devices", {"name": "phone"})[1]["address"]
        self.assertEqual(shown.count("#"), 1)
        self.assertTrue(shown.split("#")[0].endswith("/let-in"))


class AtWork(DeviceTest):
    def test_the_bench_and_nothing_else(self):
        self.start_run()
        run = self.shop.jobs.get(pk=self.job.pk).runs.get().pk
        tablet = self.at_work()
        event = {"tap_id": str(uuid4()), "about": "run", "subject": "", "kind": "opened"}
        event["happened_at"] = timezone.now().isoformat()
        for path in (
            f"/api/runs/{run}/bench",
            f"/api/jobs/{self.job.pk}",
            f"/api/shops/{self.shop.pk}/live",
            "/api/session",
        ):
            self.assertEqual(self.get(path, tablet)[0], 200, path)
        status, told = self.send("post", f"/api/runs/{run}/events", event, tablet)
        self.assertEqual((status, told["by"]), (200, "wren"))
        document = self.job.latest().document
        settings = {"role": "viewer"}
        for method, path, body in (
            ("put", f"/api/jobs/{self.job.pk}", {"base": document, "document": document}),
            ("post", f"/api/shops/{self.shop.pk}/invitations", settings),
            ("post", f"/api/shops/{self.shop.pk}/devices", {"name": "mine"}),
            ("post", "/api/session/password", {"old": "a-long-test-word", "new": "another-long-word"}),
            ("put", "/api/session/number", {"number": "2580"}),
            ("put", "/api/session/preferences", {}),
            ("post", f"/api/runs/{run}/repeat", {"name": "x", "as_done": True}),
        ):
            status, told = self.send(method, path, body, tablet)
            self.assertEqual(status, 403, path)
            self.assertIn("let in for the bench alone", told["problems"][0]["message"])
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/people", tablet)[0], 403)

    def test_an_address_of_nothing_is_nothing_and_no_fault(self):
        tablet = self.at_work()
        for about in ("-" * 36, "x", str(uuid4()), str(self.shop.pk).upper()):
            for path in (f"/api/runs/{about}/bench", f"/api/jobs/{about}", f"/api/shops/{about}/live"):
                self.assertEqual(tablet.get(path).status_code, 404, path)

    def test_every_route_of_the_api_is_of_the_bench_or_refused(self):
        """What comes to the API later is refused from a tablet until somebody lets it in."""
        tablet, paths = self.at_work(), api.get_openapi_schema()["paths"]
        ids = dict.fromkeys(
            ("job_id", "run_id", "place_id", "device_id", "product_id", "instrument_id", "lot_id", "photo_id"), uuid4()
        )
        ids |= {"shop_id": self.shop.pk, "person": "x", "token": "x", "part_id": "x", "number": 1, "kind": "gel"}
        refused = 0
        for path, methods in paths.items():
            for method in methods:
                names = {
                    name: ids.get(name, 1)
                    for name in ("invitation_id", "event_id", "sheet_id", "joint_id", "record_id")
                }
                filled = path.format(**names | ids)
                if any(allowed.fullmatch(filled) and method.upper() in of for of, allowed in _BENCH):
                    continue
                answer = tablet.generic(method.upper(), filled, "{}", content_type="application/json")
                self.assertEqual(answer.status_code, 403, f"{method} {path}")
                refused += 1
        self.assertGreater(refused, 60)

    def test_a_person_of_two_shops_sees_one_of_them_from_its_tablet(self):
        Membership.objects.create(shop=self.other_shop, person=self.person)
        tablet = self.at_work()
        self.assertEqual(self.get(f"/api/shops/{self.other_shop.pk}/live")[0], 200)
        status, told = self.get(f"/api/shops/{self.other_shop.pk}/live", tablet)
        self.assertEqual((status, told["problems"][0]["message"]), (403, "bench stand belongs to Saltmarsh Slip alone"))
        scope = self._scope(tablet, self.other_shop.pk)
        self.assertFalse(_may_watch(scope, str(self.other_shop.pk)))
        self.assertTrue(_may_watch(self._scope(tablet, self.shop.pk), str(self.shop.pk)))

    def _scope(self, tablet: Client, shop_id) -> dict:
        cookies = "; ".join(f"{name}={each.value}" for name, each in tablet.cookies.items())
        path = f"/api/shops/{shop_id}/stream"
        return {
            "type": "http",
            "method": "GET",
            "path": path,
            "query_string": b"",
            "headers": [(b"cookie", cookies.encode())],
        }

    def test_withdrawn_in_the_middle_it_is_signed_out_and_watches_no_more(self):
        tablet = self.at_work()
        self.assertTrue(_may_watch(self._scope(tablet, self.shop.pk), str(self.shop.pk)))
        left = self.send("delete", f"/api/devices/{Device.objects.get().pk}")
        self.assertEqual((left[0], left[1]["devices"]), (200, []))
        self.assertFalse(_may_watch(self._scope(tablet, self.shop.pk), str(self.shop.pk)))
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}", tablet)[0], 401)
        self.assertFalse(self.get("/api/session", tablet)[1]["signed_in"])
        self.assertEqual(self.get("/api/devices/here", tablet)[1]["name"], "")
        self.assertEqual(self.send("post", "/api/devices/work", {"person": "wren"}, tablet)[0], 403)

    def test_who_gives_his_password_at_a_tablet_may_do_all_that_he_may(self):
        tablet = self.at_work()
        sent = {"person": "wren", "password": "a-long-test-word"}
        self.assertFalse(self.send("post", "/api/session", sent, tablet)[1]["at_tablet"])
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/people", tablet)[0], 200)

    def test_nobody_of_another_shop_works_here(self):
        tablet = self.let_in()
        status, told = self.send("post", "/api/devices/work", {"person": "heron"}, tablet)
        self.assertEqual((status, told["problems"][0]["path"]), (422, "person"))
        self.assertEqual([each["person"] for each in self.get("/api/devices/here", tablet)[1]["people"]], ["wren"])
        # Without being let in, nobody works by initials.
        self.assertEqual(self.send("post", "/api/devices/work", {"person": "wren"}, Client())[0], 403)

    def test_another_site_begins_no_work(self):
        careful = Client(enforce_csrf_checks=True)
        for path in ("/api/devices/work", "/api/devices/let-in", "/api/devices/code"):
            self.assertEqual(self.send("post", path, {"person": "wren", "code": "x"}, careful)[0], 403)


class ShortNumbers(DeviceTest):
    def test_it_is_asked_for_where_it_was_set_and_no_more_where_it_was_given_up(self):
        self.send("put", "/api/session/number", {"number": "2580"})
        tablet = self.let_in()
        self.assertTrue(self.get("/api/devices/here", tablet)[1]["people"][0]["by_number"])
        for wrong in ("", "2581"):
            status, told = self.send("post", "/api/devices/work", {"person": "wren", "number": wrong}, tablet)
            self.assertEqual((status, told["problems"][0]["path"]), (422, "number"))
        status, session = self.send("post", "/api/devices/work", {"person": "wren", "number": "2580"}, tablet)
        self.assertEqual((status, session["signed_in"]), (200, True))
        self.assertTrue(self.get("/api/session", tablet)[1]["signed_in"])
        self.send("put", "/api/session/number", {"number": ""})
        self.assertEqual(ShortNumber.objects.count(), 0)
        self.assertEqual(self.send("post", "/api/devices/work", {"person": "wren"}, tablet)[0], 200)

    def test_a_shop_may_want_one_of_everybody(self):
        path = f"/api/shops/{self.shop.pk}/devices/numbers"
        self.assertTrue(self.send("put", path, {"wanted": True})[1]["numbers_wanted"])
        tablet = self.let_in()
        (wren,) = self.get("/api/devices/here", tablet)[1]["people"]
        self.assertEqual((wren["by_number"], wren["lacks_number"]), (False, True))
        status, told = self.send("post", "/api/devices/work", {"person": "wren"}, tablet)
        self.assertEqual((status, told["problems"][0]["path"]), (422, "number"))
        self.send("put", "/api/session/number", {"number": "2580"})
        (wren,) = self.get("/api/devices/here", tablet)[1]["people"]
        self.assertEqual((wren["by_number"], wren["lacks_number"]), (True, False))
        self.assertEqual(self.send("post", "/api/devices/work", {"person": "wren", "number": "2580"}, tablet)[0], 200)
        Membership.objects.update(role=Role.LAMINATOR)
        self.assertEqual(self.send("put", path, {"wanted": False})[0], 403)

    def test_who_guesses_waits_and_locks_nobody_out_at_another_tablet_or_by_his_password(self):
        self.send("put", "/api/session/number", {"number": "2580"})
        tablet, other = self.let_in(), self.let_in("phone")
        guesses = [
            self.send("post", "/api/devices/work", {"person": "wren", "number": f"99{n}1"}, tablet)[0] for n in range(7)
        ]
        self.assertEqual(guesses, [422] * 5 + [429] * 2)
        right = {"person": "wren", "number": "2580"}
        self.assertEqual(self.send("post", "/api/devices/work", right, tablet)[0], 429)
        self.assertEqual(self.send("post", "/api/devices/work", right, other)[0], 200)
        sent = {"person": "wren", "password": "a-long-test-word"}
        self.assertEqual(self.send("post", "/api/session", sent, Client())[0], 200)

    def test_what_anybody_guesses_is_no_number(self):
        for number in ("123", "1234567", "1111", "12 4", "wren", "١٢٣٤"):
            status, told = self.send("put", "/api/session/number", {"number": number})
            self.assertEqual((status, told["problems"][0]["path"]), (422, "number"), number)

    def test_initials_tell_people_apart(self):
        self.assertEqual(initials_of(["wren", "heron"]), ["W", "H"])
        self.assertEqual(initials_of(["Ada Reed", "Ada Rush", "Ole"]), ["ARe", "ARu", "O"])
        self.assertEqual(len(set(initials_of(["wren", "wrenna", "Wren K"]))), 3)
        self.assertEqual(initials_of(["Ane-Mette Å"]), ["AMÅ"])
