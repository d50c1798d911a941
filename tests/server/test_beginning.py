"""A program that nobody belongs to yet: who comes first owns it, once. What a shop is before its room was read; its tins from
their labels; a forgotten password; templates; photos of parts.

Of `cradle.shops.beginning`, `cradle.jobs.begin_routes`, `cradle.jobs.photo_routes`, `layup.tin_label`.
"""

from datetime import timedelta
from io import StringIO
from unittest.mock import patch
from uuid import uuid4

from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.test import Client, TestCase, override_settings
from django.utils import timezone

from cradle.jobs.models import Job, PartPhoto
from cradle.shops.beginning import KEY, countries
from cradle.shops.models import Invitation, Shop
from tests.server.people import TwoShops
from tests.server.test_doors import picture

FIRST = {
    "person": "tern",
    "password": "mudflat-and-oar",
    "shop": "Samphire Boats",
    "locale": "en-GB",
    "currency": "GBP",
}


@override_settings(PASSWORD_HASHERS=["django.contrib.auth.hashers.MD5PasswordHasher"])
class Nobody(TestCase):
    def begin(self, client=None, **changed):
        answer = (client or self.client).post("/api/begin", FIRST | changed, content_type="application/json")
        return answer.status_code, answer.json()

    def test_who_comes_first_owns_it_and_who_comes_next_does_not(self):
        self.assertTrue(self.client.get("/api/session").json()["nobody_yet"])
        self.assertTrue(self.client.get("/api/begin").json()["open"])
        status, session = self.begin(time_zone="Europe/London")
        self.assertEqual((status, session["person"], session["nobody_yet"]), (200, "tern", False))
        self.assertEqual([(shop["name"], shop["role"]) for shop in session["shops"]], [("Samphire Boats", "owner")])
        self.assertEqual(session["preferences"]["units"], "metric")
        shop = Shop.objects.get()
        facts = self.client.get(f"/api/shops/{shop.pk}").json()["facts"]
        self.assertEqual((facts["locale"], facts["fluid_ounce"], facts["room_read"]), ("en-GB", "imperial", False))
        other = Client()
        self.assertFalse(other.get("/api/session").json()["nobody_yet"])
        self.assertEqual(self.begin(other, person="knot")[0], 403)
        self.assertEqual((User.objects.count(), Shop.objects.count()), (1, 1))

    def test_a_sample_lies_there_with_a_room_of_its_own_and_a_job_of_ones_own_waits_for_a_reading(self):
        self.begin()
        shop = Shop.objects.get()
        (sample,) = Job.objects.all()
        self.assertTrue(sample.is_sample)
        said = {caution["id"] for caution in self.client.get(f"/api/jobs/{sample.pk}/plan").json()["cautions"]}
        self.assertNotIn("conditions.not_read", said)
        document = sample.latest().document | {"conditions": None, "name": "Mine"}
        send = {"content_type": "application/json"}
        mine = self.client.post(f"/api/shops/{shop.pk}/jobs", document, **send).json()["id"]

        def stops() -> set[str]:
            cautions = self.client.get(f"/api/jobs/{mine}/plan").json()["cautions"]
            return {caution["id"] for caution in cautions if caution["severity"] == "stop"}

        self.assertIn("conditions.not_read", stops())
        half = self.client.put(f"/api/shops/{shop.pk}/conditions", {"humidity_pct": 60}, **send)
        self.assertEqual((half.status_code, half.json()["problems"][0]["path"]), (422, "room_c"))
        self.assertIn("conditions.not_read", stops())
        whole = self.client.put(f"/api/shops/{shop.pk}/conditions", {"room_c": 18}, **send)
        self.assertEqual((whole.status_code, whole.json()["facts"]["room_read"]), (200, True))
        self.assertNotIn("conditions.not_read", stops())

    def test_each_fault_is_at_its_field_and_makes_nothing(self):
        for changed, path in (
            ({"person": "?"}, "person"),
            ({"password": "password"}, "password"),
            ({"shop": ""}, "shop"),
            ({"currency": "pound"}, "currency"),
            ({"time_zone": "Mars/Olympus"}, "time_zone"),
            ({"locale": "en-XX"}, "locale"),
        ):
            status, answer = self.begin(**changed)
            self.assertEqual((status, answer["problems"][0]["path"]), (422, path), changed)
        self.assertFalse(User.objects.exists() or Shop.objects.exists())

    def test_from_another_machine_or_by_a_proxy_it_asks_for_what_the_terminal_shows(self):
        far = Client(REMOTE_ADDR="192.168.1.20")
        self.assertTrue(far.get("/api/begin").json()["asks_key"])
        for key in ("", "0" * len(KEY)):
            status, answer = self.begin(far, key=key)
            self.assertEqual((status, answer["problems"][0]["path"]), (403, "key"))
        with override_settings(PROXIES=["127.0.0.1"]):
            self.assertEqual(self.begin()[0], 403)
        self.assertFalse(User.objects.exists())
        self.assertEqual(self.begin(far, key=f" {KEY.upper()} ")[0], 200)

    def test_a_page_of_another_site_cannot_begin_it(self):
        careful = Client(enforce_csrf_checks=True)
        self.assertEqual(self.begin(careful)[0], 403)
        self.assertFalse(User.objects.exists())

    def test_each_country_has_its_money_and_its_units(self):
        """Published: ISO 4217, by CLDR."""
        known = {each.locale: each for each in countries()}
        for locale, currency, units in (("en-GB", "GBP", "metric"), ("en-US", "USD", "US"), ("en-NZ", "NZD", "metric")):
            self.assertEqual((known[locale].currency, known[locale].units), (currency, units))
        self.assertEqual(known["en-DE"].currency, "EUR")


class Label(TwoShops):
    def tin(self, **said):
        return self.send("post", f"/api/shops/{self.shop.pk}/shelf/from-label", said)

    def test_a_label_makes_a_product_that_a_job_may_choose(self):
        label = {"like": "epoxy-2-1", "name": "Mudlark 40", "ratio": "100:44", "hardener": "H7", "minutes": 30}
        status, made = self.tin(**label, of_g=150, at_c=20)
        self.assertEqual(status, 200, made)
        document = made["document"]
        (hardener,) = document["hardeners"]
        self.assertEqual((document["ratio_weight_b_per_a"], document["ratio_volume_b_per_a"]), (0.44, None))
        read = ("pot_life_min", "pot_life_mass_g", "pot_life_temperature_c")
        self.assertEqual([hardener[field] for field in read], [30, 150, 20])
        self.assertEqual({hardener["sources"][field] for field in read}, {"data sheet"})
        self.assertEqual((document["sources"]["ratio_weight_b_per_a"], hardener["name"]), ("data sheet", "H7"))
        # What the label does not say keeps the source it had.
        self.assertEqual(document["sources"]["density_g_per_cm3"], "memory")
        resins = self.get(f"/api/shops/{self.shop.pk}/library")[1]["resins"]
        self.assertEqual(resins[0]["name"], "Mudlark 40")

    def test_a_catalysed_resin_by_its_gel_time(self):
        status, made = self.tin(like="polyester-general", name="Slip resin", minutes=18, at_c=22, catalyst_pct=1.5)
        catalyst = made["document"]["catalyst"]
        told = (catalyst["stated_pct"], catalyst["stated_gel_min"], catalyst["stated_temperature_c"])
        self.assertEqual((status, *told), (200, 1.5, 18, 22))
        self.assertEqual(catalyst["sources"]["stated_gel_min"], "data sheet")

    def test_what_is_left_out_or_cannot_be_is_told_at_its_field(self):
        epoxy = {"like": "epoxy-2-1", "name": "Mudlark", "ratio": "100:44", "minutes": 30}
        polyester = {"like": "polyester-general", "name": "Slip", "minutes": 18}
        for said, path in (
            (epoxy | {"like": "tar"}, "like"),
            (epoxy | {"name": ""}, "name"),
            (epoxy | {"name": "M" * 81}, "name"),
            (epoxy | {"ratio": ""}, "ratio"),
            (epoxy | {"ratio": "a lot"}, "ratio"),
            (epoxy | {"minutes": None}, "minutes"),
            (polyester | {"minutes": None}, "minutes"),
            (polyester | {"catalyst_pct": 9}, "catalyst_pct"),
        ):
            status, answer = self.tin(**said)
            self.assertEqual((status, answer["problems"][0]["path"]), (422, path), said)
        self.assertFalse(self.shop.products.filter(document__name__startswith="Mudlark").exists())


class Forgotten(TwoShops):
    def setUp(self):
        super().setUp()
        self.mate = User.objects.create_user("plover", password="old-and-forgotten")
        self.shop.memberships.create(person=self.mate, role="laminator")

    def ask(self, name="plover", client=None):
        return self.send("post", f"/api/shops/{self.shop.pk}/people/{name}/new-password", client=client)

    def take(self, token: str, password="samphire-and-salt", client=None):
        return self.send("post", f"/api/invitations/{token}", {"password": password}, client or Client())

    def test_an_owner_lets_somebody_choose_a_new_one_once(self):
        theirs = Client()
        theirs.force_login(self.mate)
        status, link = self.ask()
        self.assertEqual(status, 200)
        self.assertEqual(self.get(f"/api/invitations/{link['token']}", Client())[1]["renews"], "plover")
        self.assertEqual(self.take(link["token"], "short")[1]["problems"][0]["path"], "password")
        status, session = self.take(link["token"])
        self.assertEqual((status, session["person"]), (200, "plover"))
        # The old password and the pages opened with it are of no use any more, and the link neither.
        self.assertFalse(theirs.get("/api/session").json()["signed_in"])
        sign_in = {"person": "plover", "password": "old-and-forgotten"}
        self.assertEqual(self.send("post", "/api/session", sign_in, Client())[0], 422)
        self.assertEqual(self.take(link["token"], "another-good-word")[0], 422)

    def test_whoever_opens_it_signed_in_as_another_becomes_whom_it_is_for(self):
        _, link = self.ask()
        self.assertEqual(self.take(link["token"], client=self.client)[1]["person"], "plover")
        self.assertFalse(self.shop.memberships.get(person=self.person).person.check_password("samphire-and-salt"))

    def test_who_renews_his_own_stays_signed_in_at_that_page(self):
        theirs = Client()
        theirs.force_login(self.mate)
        self.assertTrue(self.take(self.ask()[1]["token"], client=theirs)[1]["signed_in"])
        self.assertEqual(theirs.get("/api/session").json()["person"], "plover")

    def test_only_an_owner_and_only_where_no_other_shop_is_opened_by_it(self):
        theirs = Client()
        theirs.force_login(self.mate)
        self.assertEqual(self.ask("wren", theirs)[0], 403)
        self.assertEqual(self.ask("nobody")[0], 422)
        before = self.ask()[1]["token"]
        self.other_shop.memberships.create(person=self.mate, role="viewer")
        self.assertEqual(self.ask()[0], 403)
        # A link from before he joined the other shop opens it as little.
        self.assertEqual(self.take(before)[0], 403)
        self.mate.refresh_from_db()
        self.assertTrue(self.mate.check_password("old-and-forgotten"))

    def test_it_ends_with_the_day_and_with_the_membership(self):
        token = self.ask()[1]["token"]
        Invitation.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
        self.assertEqual(self.take(token)[0], 422)
        token = self.ask()[1]["token"]
        self.shop.memberships.filter(person=self.mate).delete()
        self.assertEqual(self.take(token)[0], 422)

    def test_by_the_servers_own_command(self):
        def typed(*words):
            return patch("cradle.management.commands.password.getpass", side_effect=words)

        with self.assertRaisesMessage(CommandError, "plover"):
            call_command("password", "curlew")
        for words in (("one-good-word", "another-good-word"), ("12345", "12345")):
            with typed(*words), self.assertRaises(CommandError):
                call_command("password", "plover")
        self.mate.refresh_from_db()
        self.assertTrue(self.mate.check_password("old-and-forgotten"))
        with typed("one-good-word", "one-good-word"):
            call_command("password", "PLOVER", stdout=StringIO())
        self.mate.refresh_from_db()
        self.assertTrue(self.mate.check_password("one-good-word"))


class LifeOfAJob(TwoShops):
    def test_a_template_is_begun_from_and_is_on_no_floor(self):
        floor = self.get(f"/api/shops/{self.shop.pk}/jobs")[1]
        status, templates = self.send("post", f"/api/jobs/{self.job.pk}/template", {"name": "Our bottom"})
        self.assertEqual((status, [each["name"] for each in templates]), (200, ["Our bottom"]))
        template = templates[0]["id"]
        self.assertEqual(len(self.get(f"/api/shops/{self.shop.pk}/jobs")[1]), len(floor))
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/put-away")[1], [])
        begun = self.send("post", f"/api/jobs/{template}/copy", {"name": "Hull 4"})[1]
        self.assertEqual((begun["is_template"], begun["put_away"]), (False, False))
        parts = [part["id"] for part in self.job.latest().document["parts"]]
        self.assertEqual([part["id"] for part in begun["document"]["parts"]], parts)
        # Deleted and brought back it is a template still; taken out it is a job like others.
        self.send("post", f"/api/jobs/{template}/delete")
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/templates")[1], [])
        self.send("post", f"/api/jobs/{template}/bring-back")
        self.assertEqual(len(self.get(f"/api/shops/{self.shop.pk}/templates")[1]), 1)
        self.send("put", f"/api/jobs/{template}/put-away", {"away": False})
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/templates")[1], [])
        self.assertEqual(len(self.get(f"/api/shops/{self.shop.pk}/jobs")[1]), len(floor) + 2)

    def photo(self, part_id: str, photo_id=None, content=None, job=None):
        sent = {"id": photo_id or str(uuid4()), "part_id": part_id, "photo": content or picture()}
        return self.client.post(f"/api/jobs/{(job or self.job).pk}/photos", sent)

    def test_a_photo_of_a_part_is_kept_once_small_and_removed(self):
        one = str(uuid4())
        for _ in range(2):
            answer = self.photo("bottom", one)
            self.assertEqual((answer.status_code, len(answer.json())), (200, 1))
        shown = self.client.get(f"/api/jobs/{self.job.pk}/photos/{one}")
        self.assertEqual((shown["Content-Type"], shown.content[:3]), ("image/jpeg", b"\xff\xd8\xff"))
        none = SimpleUploadedFile("photo.png", b"no picture")
        for answer in (self.photo("no part"), self.photo("bottom", content=none)):
            self.assertEqual((answer.status_code, answer.json()["problems"][0]["path"]), (422, "photo"))
        # The same id of another job is not told, and changes nothing.
        self.assertEqual(self.photo(self.lid.latest().document["parts"][0]["id"], one, job=self.lid).status_code, 422)
        self.assertEqual(PartPhoto.objects.get().job_id, self.job.pk)
        self.assertEqual(self.client.delete(f"/api/jobs/{self.job.pk}/photos/{one}").json(), [])
