"""A shop's people: invited by link, held to their role, guarded at the door."""

import json
from datetime import timedelta
from unittest.mock import patch
from urllib.parse import quote
from uuid import uuid4

from django.test import Client
from django.utils import timezone

from cradle.shops.models import Try
from tests.server.people import TwoShops

GOOD = "copper-rivet-99"


class People(TwoShops):
    def invited(self, role: str) -> str:
        return self.send("post", f"/api/shops/{self.shop.pk}/invitations", {"role": role})[1]["token"]

    def newcomer(self, role: str, name: str = "tern") -> Client:
        browser = Client()
        status, _ = self.send(
            "post", f"/api/invitations/{self.invited(role)}", {"person": name, "password": GOOD}, browser
        )
        self.assertEqual(status, 200)
        return browser

    def test_a_link_lets_one_person_in_once(self):
        token = self.invited("laminator")
        browser = Client()
        shown = self.get(f"/api/invitations/{token}", browser)[1]
        self.assertEqual(shown, {"shop": "Saltmarsh Slip", "renews": "", "role": "laminator", "invited_by": "wren"})
        status, session = self.send("post", f"/api/invitations/{token}", {"person": "tern", "password": GOOD}, browser)
        self.assertEqual((status, [shop["name"] for shop in session["shops"]]), (200, ["Saltmarsh Slip"]))
        self.assertEqual(
            self.send("post", f"/api/invitations/{token}", {"person": "knot", "password": GOOD}, Client())[0], 422
        )
        self.assertEqual(self.get(f"/api/invitations/{token}", Client())[0], 422)

    def test_a_link_runs_out(self):
        token = self.invited("viewer")
        later = timezone.now() + timedelta(days=8)
        with patch("cradle.shops.people.timezone.now", return_value=later):
            self.assertEqual(self.get(f"/api/invitations/{token}", Client())[0], 422)

    def test_somebody_with_an_account_belongs_to_both_shops(self):
        status, session = self.send("post", f"/api/invitations/{self.invited('viewer')}", {}, self.foreign)
        self.assertEqual((status, len(session["shops"])), (200, 2))
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}", self.foreign)[0], 200)

    def test_a_viewer_looks_and_changes_nothing(self):
        viewer = self.newcomer("viewer")
        job = f"/api/jobs/{self.job.pk}"
        document = self.get(job, viewer)[1]["document"]
        run = self.start_run()[1]
        event = {
            "tap_id": run["id"],
            "about": "pot",
            "subject": "1",
            "kind": "touched",
            "happened_at": timezone.now().isoformat(),
        }
        for method, path, body in (
            ("put", job, {"base": document, "document": document | {"name": "Mine now"}}),
            ("post", f"{job}/runs", {"tap_id": str(uuid4())}),
            ("post", f"{job}/revisions/1/restore", {}),
            ("post", f"/api/runs/{run['id']}/events", event),
            ("post", f"/api/shops/{self.shop.pk}/jobs", {"name": "New"}),
            ("post", f"/api/shops/{self.shop.pk}/jobs/from-file", document),
            ("put", f"/api/shops/{self.shop.pk}/conditions", {"room_c": 25}),
            ("post", f"/api/shops/{self.shop.pk}/invitations", {"role": "owner"}),
            ("put", f"/api/shops/{self.shop.pk}/people/tern", {"role": "owner"}),
            ("delete", f"/api/shops/{self.shop.pk}/people/wren", None),
        ):
            with self.subTest(path=path):
                status, answer = self.send(method, path, body, viewer)
                self.assertEqual((status, bool(answer["problems"][0]["message"])), (403, True))
        self.assertEqual(self.send("post", f"{job}/what-if", {"conditions": {"room_c": 25}}, viewer)[0], 200)

    def test_a_laminator_works_and_does_not_decide_who_belongs(self):
        laminator = self.newcomer("laminator")
        self.assertEqual(self.send("post", f"/api/shops/{self.shop.pk}/jobs", {"name": "New"}, laminator)[0], 200)
        self.assertEqual(
            self.send("post", f"/api/shops/{self.shop.pk}/invitations", {"role": "viewer"}, laminator)[0], 403
        )

    def test_roles_change_people_go_and_an_owner_stays(self):
        tern = self.newcomer("viewer")
        path = f"/api/shops/{self.shop.pk}/people"
        self.assertEqual(self.send("delete", f"{path}/wren")[0], 422)
        self.assertEqual(self.send("put", f"{path}/wren", {"role": "viewer"})[0], 422)
        self.send("put", f"{path}/tern", {"role": "owner"})
        self.assertEqual(self.send("put", f"{path}/wren", {"role": "viewer"}, tern)[0], 200)
        self.assertEqual(self.send("delete", f"{path}/wren")[1], [{"person": "tern", "role": "owner"}])
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}")[0], 404)

    def test_bad_names_and_passwords_are_refused_at_their_field(self):
        token = self.invited("viewer")
        for person, password, field in (
            ("a/b", GOOD, "person"),
            ("<b>", GOOD, "person"),
            ("n" * 61, GOOD, "person"),
            ("WREN", GOOD, "person"),
            ("knot", "short", "password"),
        ):
            with self.subTest(person=person):
                status, answer = self.send(
                    "post", f"/api/invitations/{token}", {"person": person, "password": password}, Client()
                )
                self.assertEqual((status, answer["problems"][0]["path"]), (422, field))

    def test_names_of_any_language_are_names_and_are_taken_once(self):
        for person in ("José", "Ane-Mette O'Neill", "Łucja", "山田 花子"):
            with self.subTest(person=person):
                body = {"person": person, "password": GOOD}
                joined = Client()
                self.assertEqual(self.send("post", f"/api/invitations/{self.invited('viewer')}", body, joined)[0], 200)
                self.assertEqual(self.get("/api/session", joined)[1]["person"], person)
                twice = body | {"person": person.upper()}
                again = self.send("post", f"/api/invitations/{self.invited('viewer')}", twice, Client())
                self.assertEqual((again[0], again[1]["problems"][0]["path"]), (422, "person"))
                path = f"/api/shops/{self.shop.pk}/people/{quote(person)}"
                self.assertEqual(self.send("delete", path)[0], 200)

    def test_five_wrong_passwords_close_the_door_for_that_name(self):
        def knock(name: str, password: str) -> int:
            return self.send("post", "/api/session", {"person": name, "password": password}, Client())[0]

        self.assertEqual([knock("wren", "wrong") for _ in range(6)], [422] * 5 + [429])
        self.assertEqual(knock("Wren", "a-long-test-word"), 429)
        # Made-up names clear nothing, and somebody else at the same address is let in.
        for n in range(20):
            knock(f"nobody-{n}", "wrong")
        self.assertEqual((knock("wren", "a-long-test-word"), knock("heron", "a-long-test-word")), (429, 200))
        with patch("cradle.shops.tries.timezone.now", return_value=timezone.now() + timedelta(minutes=16)):
            self.assertEqual(knock("wren", "a-long-test-word"), 200)

    def test_a_try_is_counted_before_the_password_is_looked_at(self):
        at_once = []

        def slow(**given):
            # While this one is looked at the others have come: they are counted already.
            at_once.append(Try.objects.filter(right=False).count())
            return None

        with patch("cradle.shops.people.authenticate", slow):
            for _ in range(3):
                self.send("post", "/api/session", {"person": "wren", "password": "wrong"}, Client())
        self.assertEqual(at_once, [1, 2, 3])

    def test_an_address_that_tries_many_names_waits_a_minute_and_no_longer(self):
        def knock(name: str, password: str) -> int:
            return self.send("post", "/api/session", {"person": name, "password": password}, Client())[0]

        for n in range(30):
            knock(f"nobody-{n}", "wrong")
        self.assertEqual(knock("wren", "a-long-test-word"), 429)
        with patch("cradle.shops.tries.timezone.now", return_value=timezone.now() + timedelta(seconds=61)):
            self.assertEqual(knock("wren", "a-long-test-word"), 200)

    def test_who_guesses_from_many_places_locks_nobody_out_where_he_was_before(self):
        def knock(password: str, address: str) -> int:
            body = json.dumps({"person": "wren", "password": password})
            sent = {"content_type": "application/json", "REMOTE_ADDR": address}
            return Client().post("/api/session", body, **sent).status_code

        self.assertEqual(knock("a-long-test-word", "10.0.0.1"), 200)
        for n in range(31):
            last = knock("wrong", f"10.1.0.{n}")
        self.assertEqual((last, knock("a-long-test-word", "10.2.0.1")), (429, 429))
        self.assertEqual(knock("a-long-test-word", "10.0.0.1"), 200)

    def test_old_passwords_are_not_guessed_at_either(self):
        def guess(old: str) -> int:
            return self.send("post", "/api/session/password", {"old": old, "new": GOOD})[0]

        self.assertEqual([guess("wrong") for _ in range(6)], [422] * 5 + [429])
        self.assertEqual(guess("a-long-test-word"), 429)

    def test_a_password_is_not_the_name(self):
        token = self.invited("viewer")
        status, told = self.send(
            "post", f"/api/invitations/{token}", {"person": "oystercatcher", "password": "oystercatcher"}, Client()
        )
        self.assertEqual((status, told["problems"][0]["path"]), (422, "password"))

    def test_links_are_listed_and_taken_back(self):
        path, token = f"/api/shops/{self.shop.pk}/invitations", self.invited("viewer")
        (link,) = self.get(path)[1]
        self.assertEqual((link["role"], link["made_by"], "token" in link), ("viewer", "wren", False))
        self.assertEqual(self.send("delete", f"{path}/{link['id']}"), (200, []))
        self.assertEqual(self.get(f"/api/invitations/{token}", Client())[0], 422)
        self.assertEqual(self.send("delete", f"{path}/{link['id']}")[0], 422)
        self.assertEqual(self.get(path, self.newcomer("laminator"))[0], 403)

    def test_a_removed_owner_does_not_come_back_by_a_link_made_earlier(self):
        for role in ("laminator", None):
            with self.subTest(role=role):
                name = f"gull-{role}"
                other = self.newcomer("owner", name)
                made = self.send("post", f"/api/shops/{self.shop.pk}/invitations", {"role": "owner"}, other)[1]["token"]
                at = f"/api/shops/{self.shop.pk}/people/{name}"
                if role:
                    self.send("put", at, {"role": role})
                else:
                    self.send("delete", at)
                self.assertEqual(self.send("post", f"/api/invitations/{made}", {}, other)[0], 422)
                # Nor once he is an owner again.
                self.shop.memberships.filter(person__username=name).update(role="owner")
                self.assertEqual(self.send("post", f"/api/invitations/{made}", {}, other)[0], 422)

    def test_a_new_password_keeps_this_session_and_ends_the_others(self):
        elsewhere = Client()
        elsewhere.force_login(self.person)
        self.assertEqual(self.send("post", "/api/session/password", {"old": "wrong", "new": GOOD})[0], 422)
        self.assertEqual(
            self.send("post", "/api/session/password", {"old": "a-long-test-word", "new": "short"})[0], 422
        )
        self.assertEqual(self.send("post", "/api/session/password", {"old": "a-long-test-word", "new": GOOD})[0], 200)
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}")[0], 200)
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}", elsewhere)[0], 401)
