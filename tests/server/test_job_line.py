"""A whole job in one line, over the API: of the shop's own shelf, by the shop's practice, in its units; nothing is kept."""

from cradle.jobs.models import Job
from cradle.shelf.keeping import add_product
from tests.server.people import TwoShops, product_like

LINE = "Hatch: 600 x 900 mm, mould, 2x 300 cloth, epoxy, slow"


class JobLines(TwoShops):
    def said(self, text):
        status, line = self.send("post", f"/api/shops/{self.shop.pk}/job-line", {"text": text})
        self.assertEqual(status, 200, line)
        return line

    def test_a_line_is_read_planned_and_begun_and_reading_it_keeps_nothing(self):
        before = Job.objects.count()
        line = self.said(LINE)
        self.assertEqual(Job.objects.count(), before)
        headlines = {step["step"]: step["headline"] for step in line["steps"]}
        self.assertEqual(line["problems"], [])
        self.assertIn("0.54 m²", headlines["measure"])
        self.assertIn("slow", headlines["chemistry"])
        status, job = self.send("post", f"/api/shops/{self.shop.pk}/jobs", line["document"])
        self.assertEqual((status, job["plan"]["problems"]), (200, []))
        self.assertEqual({step["step"]: step["headline"] for step in job["plan"]["steps"]}, headlines)

    def test_epoxy_is_the_shops_own_and_it_works_as_the_shop_does(self):
        made = add_product(self.shop, "resin", product_like("epoxy-5-1") | {"name": "Bench epoxy"}, self.person)
        self.shop.facts |= {"practice": {"hardener_school": "one step slower"}}
        self.shop.save()
        document = self.said(LINE)["document"]
        self.assertEqual(document["resins"][0]["resin_id"], made.pk.hex)
        self.assertEqual(document["practice"]["hardener_school"], "one step slower")

    def test_what_cannot_be_read_is_told_at_its_letters(self):
        text = "Hatch: 600 x 900 mm, mold, 300 clth"
        (problem,) = self.said(text)["problems"]
        self.assertEqual(text[problem["start"] : problem["end"]], "clth")

    def test_kinds_of_job_are_in_the_units_that_the_shop_buys_in(self):
        path = f"/api/shops/{self.shop.pk}/job-lines"
        metric = {kind["name"]: kind["line"] for kind in self.get(path)[1]}
        self.shop.facts |= {"fabric_unit": "oz"}
        self.shop.save()
        ounces = {kind["name"]: kind["line"] for kind in self.get(path)[1]}
        self.assertEqual(list(metric), list(ounces))
        self.assertEqual(len(metric), 18)
        self.assertIn("450 biax", metric["a deck"])
        self.assertIn("18 biax", ounces["a deck"])
        for line in ounces.values():
            self.assertEqual(self.said(line)["problems"], [])
