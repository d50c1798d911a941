"""A shop's settings, its day and its people's preferences."""

from datetime import timedelta
from importlib import import_module

from django.apps import apps
from django.utils import timezone

from cradle.shops.day import keep_reading
from cradle.shops.facts import facts_of
from cradle.shops.models import Shop
from layup.job import Conditions
from tests.server.people import TwoShops

SETTINGS = {
    "name": "Saltmarsh Slip",
    "time_zone": "America/Halifax",
    "currency": "CAD",
    "fabric_unit": "oz",
    "fluid_ounce": "imperial",
    "locale": "en-US",
    "tools": {"scale_id": "scale-tenth", "mixing_id": "cup-700"},
    "dose_tool": "scale",
    "learner": False,
}


class Settings(TwoShops):
    def put(self, **changes):
        return self.send("put", f"/api/shops/{self.shop.pk}/settings", SETTINGS | changes)

    def test_the_shops_units_and_tools_reach_its_fields_and_plans(self):
        status, shop = self.put()
        self.assertEqual((status, shop["currency"], shop["facts"]["scale_step_g"]), (200, "CAD", 0.1))
        self.assertEqual((shop["facts"]["cup_ml"], shop["facts"]["cup_g"]), (700, 20))
        self.assertEqual(shop["scales"]["us"]["quantities"]["volume"][0]["unit"], "imp fl oz")
        self.assertEqual(shop["scales"]["metric"]["quantities"]["areal_weight"][0]["unit"], "oz/yd²")
        path = f"/api/shops/{self.shop.pk}"
        read = self.send("post", f"{path}/quantities", {"text": "1 fl oz", "dimension": "volume"})[1]
        self.assertAlmostEqual(read["value"], 28.4131, delta=0.001)
        line = self.send("post", f"/api/jobs/{self.job.pk}/parts/bottom/quick-line", {"text": "10 cloth"})[1]
        weight = {fabric["id"]: fabric["areal_weight_gsm"] for fabric in line["fabrics"]}[line["plies"][0]["fabric_id"]]
        self.assertAlmostEqual(weight, 339.06, delta=0.5)
        pots = self.get(f"/api/jobs/{self.job.pk}/plan")[1]["pots"]
        self.assertEqual(pots[0]["ticket"]["scale_step_g"], 0.1)

    def test_a_country_writes_its_own_numbers_days_and_hours(self):
        """CLDR's customs, by Babel: a decimal comma in Germany, 12 hours and the month first in the United States."""
        job = f"/api/jobs/{self.job.pk}"
        spec = self.job.latest().spec()
        start = (self.shop.now() + timedelta(days=1)).replace(hour=8, minute=5)
        document = spec.model_copy(update={"pots": spec.pots.model_copy(update={"start": start})})
        self.send("put", job, {"base": spec.model_dump(mode="json"), "document": document.model_dump(mode="json")})
        for locale, laid, thick, decimal in (
            ("en-US", r"laid by \d+:\d\d\u202f[AP]M", "0.99 mm", "1,120.5 g"),
            ("en-DE", r"laid by \d\d:\d\d", "0,99 mm", "1 120,5 g"),
        ):
            with self.subTest(locale=locale):
                self.put(locale=locale, time_zone=self.shop.time_zone, fabric_unit="g/m²")
                plan = self.get(f"{job}/plan")[1]
                self.assertRegex(plan["run_sheet"]["sentence"], laid)
                section = self.client.get(f"{job}/parts/{spec.parts[0].id}/section.svg").content.decode()
                self.assertIn(thick.split()[0][:2], section)
                body = {"text": decimal, "dimension": "mass"}
                read = self.send("post", f"/api/shops/{self.shop.pk}/quantities", body)[1]
                self.assertEqual(read["value"], 1120.5)
                self.assertIn(f"1120{decimal[-4]}5 g", read["understood"])

    def test_the_cup_that_was_typed_becomes_one_of_the_shelf(self):
        move = import_module("cradle.shelf.migrations.0003_cup_of_the_shelf").choose_from_the_shelf
        move(apps, None)
        self.assertFalse(self.shop.products.filter(document__name="Usual mixing cup").exists())
        typed = {"cup_g": 31.5, "cup_ml": 900, "cup_mm": 104, "cup_made_of": "plain paper"}
        Shop.objects.filter(pk=self.shop.pk).update(facts=self.shop.facts | typed)
        move(apps, None)
        shop = Shop.objects.get(pk=self.shop.pk)
        cup = shop.products.get(document__name="Usual mixing cup").material()
        self.assertEqual((cup.weighs_g, cup.holds_ml, cup.width_mm, cup.made_of), tuple(typed.values()))
        facts = facts_of(shop, "metric")
        self.assertEqual({name: getattr(facts, name) for name in typed}, typed)

    def test_what_a_comma_was_becomes_a_country(self):
        move = import_module("cradle.shops.migrations.0009_country").choose_a_country
        for currency, comma, locale in (("USD", True, "en-US"), ("GBP", True, "en-GB"), ("EUR", False, "en-DE")):
            Shop.objects.filter(pk=self.shop.pk).update(currency=currency, facts={"thousands_comma": comma})
            move(apps, None)
            self.assertEqual(Shop.objects.get(pk=self.shop.pk).facts, {"locale": locale})
        Shop.objects.filter(pk=self.shop.pk).update(facts={"thousands_comma": None, "opens_h": 7})
        move(apps, None)
        self.assertEqual(Shop.objects.get(pk=self.shop.pk).facts, {"opens_h": 7})

    def test_a_shop_that_buys_by_the_ounce_is_offered_its_fabrics_by_it(self):
        def names() -> set[str]:
            return {fabric["name"] for fabric in self.get(f"/api/shops/{self.shop.pk}/library")[1]["fabrics"]}

        self.put(fabric_unit="g/m²")
        self.assertTrue({"450 chopped mat", "300 cloth, twill"} <= names())
        self.put(fabric_unit="oz")
        self.assertTrue({"1.5 oz chopped mat", "9 oz cloth, twill"} <= names())
        self.assertNotIn("450 chopped mat", names())

    def test_a_new_job_works_as_the_shop_does_and_may_differ(self):
        self.put(practice={"mixing": "one pot", "hardener_school": "one step slower"})
        path = f"/api/shops/{self.shop.pk}/jobs"
        practice = self.send("post", path, {"name": "As the shop"})[1]["document"]["practice"]
        self.assertEqual((practice["mixing"], practice["hardener_school"]), ("one pot", "one step slower"))
        own = self.send("post", path, {"name": "Its own", "practice": {"mixing": "two pots"}})[1]["document"][
            "practice"
        ]
        self.assertEqual((own["mixing"], own["hardener_school"]), ("two pots", "band"))
        self.assertEqual(self.put(practice={"mixing": "in a bucket"})[0], 422)

    def test_bad_settings_are_refused_at_their_field(self):
        for field, value in (
            ("time_zone", "Mars/Olympus"),
            ("currency", "pounds"),
            ("name", ""),
            ("locale", "xx-QQ"),
            ("locale", "en-ZZ"),
        ):
            with self.subTest(field=field):
                status, answer = self.put(**{field: value})
                self.assertEqual((status, answer["problems"][0]["path"]), (422, field))
        for tools in (
            {"scale_id": "syringe-10"},
            {"cup_id": "tray"},
            {"pump_b_id": "gone"},
            {"dropper_id": "scale-1"},
        ):
            status, answer = self.put(tools=tools)
            self.assertEqual((status, answer["problems"][0]["path"]), (422, f"tools.{next(iter(tools))}"))
        self.assertEqual(self.put(dose_tool="drops")[1]["problems"][0]["path"], "tools.dropper_id")
        self.assertEqual(Shop.objects.get(pk=self.shop.pk).currency, "EUR")

    def test_what_measures_is_a_tool_of_the_shelf_and_follows_it(self):
        """exact: 0.05 oz is 1.417 g; a scale corrected on the shelf is corrected at the bench."""
        shelf = f"/api/shops/{self.shop.pk}/shelf"
        scale = {"name": "Post scale", "kind": "scale", "reads_to": 0.05, "unit": "oz"}
        scale["sources"] = {"reads_to": "data sheet"}
        added = self.send("post", shelf, {"kind": "tool", "document": scale})[1]
        self.put(tools={"scale_id": added["document"]["id"]})

        def ticket():
            return self.get(f"/api/jobs/{self.job.pk}/plan")[1]["pots"][0]["ticket"]

        self.assertEqual({pour["unit"] for pour in ticket()["pours"] if pour["tool"] == "scale"}, {"oz"})
        finer = {"number": added["number"], "document": added["document"] | {"reads_to": 0.01}}
        self.send("put", f"/api/shelf/{added['id']}", finer)
        self.assertAlmostEqual(ticket()["scale_step_g"], 0.2835, delta=1e-4)
        self.send("put", f"/api/shelf/{added['id']}/retired", {"retired": True})
        self.assertAlmostEqual(ticket()["scale_step_g"], 0.2835, delta=1e-4, msg="it still stands at the bench")
        coarse = {"number": 2, "document": added["document"] | {"reads_to": 9}}
        self.assertEqual(self.send("put", f"/api/shelf/{added['id']}", coarse)[0], 200)
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}")[0], 200, "the shop still opens, to choose another")
        self.assertAlmostEqual(ticket()["scale_step_g"], 1.417, delta=1e-3, msg="as it was chosen")
        for unit in ("ml", "°C"):
            refused = self.send("post", shelf, {"kind": "tool", "document": scale | {"unit": unit}})
            self.assertEqual((refused[0], refused[1]["problems"][0]["path"]), (422, "unit"))

    def test_a_quantity_is_answered_in_the_unit_asked_for(self):
        path = f"/api/shops/{self.shop.pk}/quantities"
        self.assertEqual(self.send("post", path, {"text": "90 min", "dimension": "time", "unit": "h"})[1]["value"], 1.5)
        wrong = self.send("post", path, {"text": "90 min", "dimension": "time", "unit": "m"})
        self.assertEqual((wrong[0], wrong[1]["problems"][0]["path"]), (422, "unit"))


class Day(TwoShops):
    def day(self):
        return self.get(f"/api/shops/{self.shop.pk}/day")[1]

    def read(self, **conditions):
        return self.send("put", f"/api/shops/{self.shop.pk}/conditions", conditions)

    def test_the_curve_its_readings_and_the_good_hours(self):
        self.read(room_c=19, surface_c=17.5, humidity_pct=62)
        self.send("put", f"/api/shops/{self.shop.pk}/expected", {"coldest_c": 14, "warmest_c": 21.5})
        day = self.day()
        self.assertEqual((len(day["moments"]), [r["room_c"] for r in day["readings"]]), (49, [19]))
        self.assertAlmostEqual(day["dew"]["margin_c"], 17.5 - day["dew"]["point_c"])
        self.assertEqual({resin["resin_id"] for resin in day["resins"]}, {"epoxy-2-1", "polyester-general"})
        self.assertTrue(all(resin["spans"] or resin["otherwise"] for resin in day["resins"]))
        near = min(day["moments"], key=lambda moment: abs(moment["hour"] - day["now_h"]))
        self.assertAlmostEqual(near["room_c"], 19, delta=1)

    def test_what_was_expected_of_yesterday_is_over(self):
        self.send("put", f"/api/shops/{self.shop.pk}/expected", {"coldest_c": 14, "warmest_c": 21.5})
        shop = Shop.objects.get(pk=self.shop.pk)
        shop.expected = shop.expected | {"date": (shop.now() - timedelta(days=1)).date().isoformat()}
        shop.save()
        self.assertIsNone(self.day()["expected"])
        self.assertIsNone(shop.shop_facts().day)

    def test_a_reading_of_yesterday_is_no_point_of_today(self):
        self.read(room_c=19)
        self.shop.readings.update(read_at=timezone.now() - timedelta(days=1))
        self.assertEqual(self.day()["readings"], [])

    def test_what_cannot_be_is_refused(self):
        self.assertEqual(self.read(room_c=19, humidity_pct=0)[0], 422)
        path = f"/api/shops/{self.shop.pk}/expected"
        status, answer = self.send("put", path, {"coldest_c": 20, "warmest_c": 12})
        self.assertIn("change them round", answer["problems"][0]["message"])
        self.assertEqual(status, 422)


class Together(TwoShops):
    def test_a_reading_and_the_settings_are_both_kept_of_two_who_save_at_once(self):
        stale = Shop.objects.get(pk=self.shop.pk)
        Shop.objects.filter(pk=self.shop.pk).update(facts=self.shop.facts | {"scoop_ml": 400})
        keep_reading(stale, Conditions(room_c=11), self.person)
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}")[1]["facts"]["scoop_ml"], 400)


class Preferring(TwoShops):
    def test_preferences_are_ones_own_and_come_back(self):
        chosen = {"units": "US", "look": "night", "single_keys": False, "hints_closed": ["scrub"]}
        self.assertEqual(self.send("put", "/api/session/preferences", chosen)[0], 200)
        self.assertEqual(self.get("/api/session")[1]["preferences"], chosen)
        self.assertEqual(self.get("/api/session", self.foreign)[1]["preferences"]["units"], "as typed")

    def test_nonsense_is_refused(self):
        for sent in ({"units": "cubits"}, {"hints_closed": ["everything"]}):
            with self.subTest(sent=sent):
                self.assertEqual(self.send("put", "/api/session/preferences", sent)[0], 422)
