"""A shop's lots: they come, are drawn by pots and pieces, go back, are counted, tried and put aside.

Of `cradle.stock.drawing`, `cradle.stock.keeping`, `cradle.stock.models`, `cradle.stock.routes`, `cradle.stock.job_routes`, `cradle.stock.table_routes`.
"""

from datetime import timedelta
from io import BytesIO
from uuid import uuid4

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, transaction
from django.db.models import Sum
from django.test import Client
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase
from openpyxl import load_workbook
from pypdf import PdfReader

from cradle.bench.models import Event, Run
from cradle.bench.telling import logged
from cradle.jobs.models import Job
from cradle.shops.models import Membership, Role
from cradle.stock.drawing import Into, settle
from cradle.stock.keeping import Overtaken, count, move, put_aside_of, receive, waste
from cradle.stock.models import Lot, Movement
from layup.diagnosis.from_log import said_by
from layup.errors import OutOfRange
from layup.job import JobSpec
from layup.stock.articles import Article
from layup.stock.needs import Taken
from tests.server.people import TwoShops, shop_with_person

LIST = """Item,Qty,Batch no,Expiry date,Colour
"Laminating epoxy, 2 to 1",5 kg,X1,05/2030,clear
450 biaxial,12.5,X2,,
"""
RESIN = Article(kind="resin", product_id="epoxy-2-1")


class StockTest(TwoShops):
    def setUp(self):
        super().setUp()
        self.today = self.shop.now().date()
        self.path = f"/api/shops/{self.shop.pk}/stock"

    def lot(self, article: str, amount: float, **said) -> dict:
        body = {"article": article, "amount": amount, "received": str(self.today)} | said
        status, lot = self.send("post", self.path, body)
        self.assertEqual(status, 200, lot)
        return lot

    def left(self, lot: dict) -> float:
        return round(Lot.objects.get(pk=lot["id"]).left, 3)

    def moved(self, lot: dict) -> list[tuple[str, float]]:
        return list(Movement.objects.filter(lot_id=lot["id"]).values_list("kind", "amount"))


class Keeping(StockTest):
    def test_what_comes_stands_there_with_its_date_and_who_says_so(self):
        made = self.today - timedelta(days=31)
        self.lot("resin epoxy-2-1", 5000, batch="K7", made=str(made), price=17.5)
        answer = self.get(self.path)[1]
        (article,) = answer["articles"]
        (lot,) = article["lots"]
        self.assertEqual((article["there"], article["unit"], lot["left"], lot["came_with"]), (5000, "g", 5000, 5000))
        self.assertEqual((lot["keeping"], lot["source"]), ("good", "memory"))
        self.assertEqual(int(lot["until"][:4]), made.year + 2)
        self.assertIn(
            "fabric cloth-300",
            {told["article"]["kind"] + " " + told["article"]["product_id"] for told in answer["may_keep"]},
        )

    def test_what_cannot_be_is_told_at_its_field(self):
        tomorrow, yesterday = str(self.today + timedelta(days=1)), str(self.today - timedelta(days=1))
        for field, said in (
            ("article", {"article": "resin of nobody"}),
            ("amount", {"amount": 0}),
            ("amount", {"amount": -5}),
            ("amount", {"amount": 2_000_000}),
            ("received", {"received": tomorrow}),
            ("made", {"made": tomorrow}),
            ("opened", {"made": str(self.today), "opened": yesterday}),
            ("expires", {"made": yesterday, "expires": yesterday}),
            ("conditions", {"conditions": ["sticky"]}),
            ("price", {"price": -1}),
        ):
            with self.subTest(said=said):
                body = {"article": "resin epoxy-2-1", "amount": 900, "received": str(self.today)} | said
                status, told = self.send("post", self.path, body)
                self.assertEqual(status, 422)
                self.assertTrue(told["problems"][0]["path"].startswith(field), told)
        self.assertFalse(Lot.objects.exists())

    def test_dates_are_read_as_the_label_prints_them(self):
        lot = self.lot("resin epoxy-2-1", 900, made="Mar 2026", expires="05/2030", received="2026-05-04")
        self.assertEqual((lot["made"], lot["expires"], lot["received"]), ("2026-03-01", "2030-05-31", "2026-05-04"))
        status, told = self.send("post", self.path, {"article": "resin epoxy-2-1", "amount": 9, "expires": "3/4/30"})
        self.assertEqual((status, told["problems"][0]["path"]), (422, "expires"))
        self.assertIn("both ways", told["problems"][0]["message"])
        self.assertEqual(
            self.send("post", self.path, {"article": "resin epoxy-2-1", "amount": 9})[1]["received"], str(self.today)
        )

    def test_a_stocktake_is_an_event_with_the_difference_and_why(self):
        lot = self.lot("resin epoxy-2-1", 1000)
        at = f"/api/lots/{lot['id']}/count"
        found = {"tap_id": str(uuid4()), "amount": 880, "expected": 1000}
        status, told = self.send("post", at, found)
        self.assertEqual((status, told["problems"][0]["path"]), (422, "reason"))
        for _ in range(2):
            # Sent twice it counts once.
            self.assertEqual(self.send("post", at, found | {"reason": "a leaking lid"})[1]["left"], 880)
        self.assertEqual(self.moved(lot), [("came", 1000), ("counted", -120)])
        # One of a page that was read before something was drawn.
        status, told = self.send("post", at, found | {"tap_id": str(uuid4()), "reason": "of yesterday"})
        self.assertEqual(status, 422)
        self.assertIn("880 g is left by the book", str(told))
        same = {"tap_id": str(uuid4()), "amount": 880, "expected": 880}
        self.assertEqual(self.send("post", at, same)[1]["left"], 880)
        self.assertEqual(self.moved(lot)[-1], ("counted", 0))

    def test_stock_never_goes_under_nought(self):
        lot = self.lot("resin epoxy-2-1", 200)
        at = f"/api/lots/{lot['id']}/waste"
        status, told = self.send("post", at, {"tap_id": str(uuid4()), "amount": 201, "reason": "spilt"})
        self.assertEqual((status, told["problems"][0]["path"]), (422, "amount"))
        self.assertEqual(told["problems"][0]["message"], "there is only 200 g left: count it")
        for tap in (str(uuid4()),) * 2:
            # Two people with the last 200 g: the same tap is one, another tap is refused.
            self.assertEqual(self.send("post", at, {"tap_id": tap, "amount": 200, "reason": "spilt"})[0], 200)
        self.assertEqual(self.send("post", at, {"tap_id": str(uuid4()), "amount": 200, "reason": "spilt"})[0], 422)
        with self.assertRaises(IntegrityError), transaction.atomic():
            Lot.objects.filter(pk=lot["id"]).update(left=-1)
        self.assertEqual(self.get(self.path)[1]["articles"], [])

    def test_movements_only_ever_add(self):
        lot = self.lot("resin epoxy-2-1", 200)
        movement = Movement.objects.get(lot_id=lot["id"])
        movement.amount = 300
        with self.assertRaises(TypeError):
            movement.save()

    def test_a_trial_of_an_old_tin(self):
        lot = self.lot("hardener epoxy-2-1-slow", 900, expires=str(self.today - timedelta(days=3)))
        self.assertTrue(lot["asks_for_a_trial"])
        at = f"/api/lots/{lot['id']}/trial"
        body = {"room_c": 20, "mass_g": 100, "seen_min": 300}
        late = self.send("post", at, body)[1]
        self.assertEqual((late["trial"]["verdict"], late["lot"]["asks_for_a_trial"]), ("late", True))
        right = self.send("post", at, body | {"seen_min": late["trial"]["expected_min"]})[1]
        self.assertEqual((right["trial"]["verdict"], right["lot"]["asks_for_a_trial"]), ("right", False))
        roll = self.lot("fabric cloth-300", 20)
        self.assertEqual(self.send("post", f"/api/lots/{roll['id']}/trial", body)[0], 422)

    def test_a_job_is_told_of_the_tin_that_comes_next(self):
        def said() -> set[str]:
            plan = self.get(f"/api/jobs/{self.job.pk}")[1]["plan"]
            return {caution["message"] for caution in plan["cautions"] if caution["id"].startswith("tins.")}

        resin = self.job.latest().spec().materials.resins[0]
        self.assertEqual(said(), set())
        old = self.lot(f"resin {resin.id}", 900, batch="K1", expires=str(self.today - timedelta(days=1)))
        self.assertEqual(len(said()), 1)
        self.assertIn("lot K1 is past its date", said().pop())
        # A fresh tin beside it is taken first; marked as bad, it is not.
        fresh = self.lot(f"resin {resin.id}", 900, expires=str(self.today + timedelta(days=400)))
        self.assertEqual(said(), set())
        self.send("put", f"/api/lots/{fresh['id']}/bad", {"bad": "recalled by its maker"})
        self.assertIn("lot K1 is past its date", said().pop())
        self.send("put", f"/api/lots/{old['id']}", {"received": str(self.today), "batch": "K1", "stored_c": 4})
        self.assertEqual({words.split("lot K1 ")[1][:6] for words in said()}, {"has no", "stands"})

    def test_a_viewer_looks_and_does_not_write(self):
        lot = self.lot("resin epoxy-2-1", 200)
        Membership.objects.create(shop=self.shop, person=self.stranger, role=Role.VIEWER)
        viewer = Client()
        viewer.force_login(self.stranger)
        self.assertEqual(self.get(self.path, viewer)[0], 200)
        for method, path, body in (
            ("post", self.path, {"article": "resin epoxy-2-1", "amount": 5, "received": str(self.today)}),
            ("put", f"/api/lots/{lot['id']}", {"received": str(self.today)}),
            ("put", f"/api/lots/{lot['id']}/bad", {"bad": "old"}),
            ("post", f"/api/lots/{lot['id']}/count", {"tap_id": str(uuid4()), "amount": 1, "expected": 200}),
            ("post", f"/api/lots/{lot['id']}/waste", {"tap_id": str(uuid4()), "amount": 1, "reason": "spilt"}),
            ("put", f"/api/jobs/{self.job.pk}/aside", {"aside": True}),
        ):
            with self.subTest(path=path):
                self.assertEqual(self.send(method, path, body, viewer)[0], 403)


class Drawing(StockTest):
    def setUp(self):
        super().setUp()
        spec = self.job.latest().spec()
        self.resin = spec.product_of(spec.resins[0])
        self.tin = self.lot(f"resin {self.resin.id}", 5000, batch="A1", expires=str(self.today + timedelta(days=90)))
        self.later = self.lot(f"resin {self.resin.id}", 5000, batch="A2", expires=str(self.today + timedelta(days=400)))
        self.start_run()
        self.run_ = Run.objects.get()
        self.chosen = self.run_.issued.resins[0].chemistry.chosen_id
        self.hardener = self.lot(f"hardener {self.chosen}", 2000, batch="B1")

    def tap(self, kind: str, subject: str = "1", about: str = "pot", **data) -> dict:
        at = self.run_.job.shop.now().isoformat()
        body = {
            "tap_id": str(uuid4()),
            "about": about,
            "subject": subject,
            "kind": kind,
            "happened_at": at,
            "data": data,
        }
        status, event = self.send("post", f"/api/runs/{self.run_.pk}/events", body)
        self.assertEqual(status, 200, event)
        return event

    def test_a_pot_draws_what_was_poured_and_puts_back_what_was_taken_back(self):
        poured = self.tap("touched", a_g=400, b_g=180)
        self.assertEqual((self.left(self.tin), self.left(self.hardener), self.left(self.later)), (4600, 1820, 5000))
        self.send(
            "post",
            f"/api/runs/{self.run_.pk}/events/{poured['id']}/take-back",
            {"tap_id": str(uuid4()), "reason": "another cup"},
        )
        self.assertEqual((self.left(self.tin), self.left(self.hardener)), (5000, 2000))
        self.assertEqual(self.moved(self.tin), [("came", 5000), ("drawn", -400), ("put back", 400)])
        self.tap("touched")
        # Nobody wrote down what went in: as its ticket says.
        mass_g = self.run_.issued.pots[0].mass_g
        self.assertAlmostEqual(10_000 - self.left(self.tin) - self.left(self.hardener) + 2000 - 5000, mass_g, places=2)

    def test_part_by_part_a_pot_draws_once_both_are_in(self):
        self.tap("A in", amount=400)
        self.assertEqual(self.left(self.tin), 5000)
        self.tap("B in", amount=180)
        self.assertEqual((self.left(self.tin), self.left(self.hardener)), (4600, 1820))

    def test_the_tin_that_was_taken_is_drawn_and_what_no_tin_has_is_not(self):
        self.tap("tin taken", "", "run", lot=self.later["id"])
        self.tap("touched", a_g=4900, b_g=100)
        self.assertEqual((self.left(self.tin), self.left(self.later)), (5000, 100))
        # It is emptied; then the first to expire.
        self.tap("touched", "2", a_g=300, b_g=100)
        self.assertEqual((self.left(self.tin), self.left(self.later)), (4800, 0))
        self.tap("touched", "3", a_g=6000, b_g=100)
        self.assertEqual((self.left(self.tin), self.left(self.later), self.left(self.hardener)), (0, 0, 1700))

    def test_a_tin_that_is_not_there_is_refused(self):
        foreign = receive(self.other_shop, self.stranger, RESIN, 500, received=self.today)
        empty = self.lot("resin epoxy-2-1", 5)
        self.send("post", f"/api/lots/{empty['id']}/waste", {"tap_id": str(uuid4()), "amount": 5, "reason": "spilt"})
        bad = self.lot("resin epoxy-2-1", 5)
        self.send("put", f"/api/lots/{bad['id']}/bad", {"bad": "recalled"})
        for lot in (str(foreign.pk), empty["id"], bad["id"], "no tin"):
            body = {"tap_id": str(uuid4()), "about": "run", "kind": "tin taken", "data": {"lot": lot}}
            body["happened_at"] = self.shop.now().isoformat()
            status, told = self.send("post", f"/api/runs/{self.run_.pk}/events", body)
            self.assertEqual((status, told["problems"][0]["path"]), (422, "data.lot"), lot)
        self.assertFalse(Event.objects.filter(kind="tin taken").exists())

    def test_a_simulated_run_draws_nothing(self):
        Run.objects.update(simulated=True)
        self.tap("touched", a_g=400, b_g=180)
        self.assertEqual(self.left(self.tin), 5000)

    def test_a_fault_is_told_of_the_dates_of_its_tins(self):
        def said() -> dict[str, bool]:
            return {each.cause: each.rules_out for each in said_by(logged(Run.objects.get()))}

        self.tap("touched", a_g=400, b_g=180)
        # The hardener has no date: nothing is ruled out by what nobody knows.
        self.assertNotIn("old_catalyst", said())
        expires = str(self.today + timedelta(days=300))
        label = {"received": str(self.today), "batch": "B1", "expires": expires}
        self.send("put", f"/api/lots/{self.hardener['id']}", label)
        self.assertEqual(said()["old_catalyst"], True)
        past = label | {"received": "1 Jan 2020", "expires": str(self.today - timedelta(days=1))}
        self.send("put", f"/api/lots/{self.hardener['id']}", past)
        self.assertEqual(said()["old_catalyst"], False)

    def test_from_a_lot_to_every_pot_and_back(self):
        self.tap("touched", a_g=400, b_g=180)
        story = self.get(f"/api/lots/{self.tin['id']}")[1]
        drawn, came = story["movements"]
        self.assertEqual((drawn["kind"], drawn["amount"], came["kind"]), ("drawn", -400, "came"))
        self.assertEqual((drawn["job_name"], drawn["run_id"]), (self.job.latest().name(), str(self.run_.pk)))
        self.assertTrue(drawn["into"].startswith("pot 1, "), drawn["into"])
        (pot,) = self.get(f"/api/runs/{self.run_.pk}/lots")[1]
        self.assertEqual(pot["number"], 1)
        self.assertEqual({(each["batch"], each["amount"]) for each in pot["lots"]}, {("A1", 400), ("B1", 180)})
        self.assertEqual([each["bad"] for each in pot["lots"]], ["", ""])
        # A bad lot marks all it went into.
        self.send("put", f"/api/lots/{self.tin['id']}/bad", {"bad": "recalled by its maker"})
        marked = self.get(f"/api/runs/{self.run_.pk}/lots")[1][0]["lots"]
        self.assertEqual({each["bad"] for each in marked}, {"", "recalled by its maker"})


class Cutting(StockTest):
    def test_a_piece_that_is_cut_comes_off_its_roll_and_goes_back(self):
        cut = self.get(f"/api/jobs/{self.job.pk}/cut")[1]["plan"]
        roll = cut["rolls"][0]
        lot = self.lot(f"fabric {roll['fabric_id']}", 50)
        ids = sorted({placed["piece_id"] for placed in roll["pieces"]})
        other = sum(each["run_m"] for each in cut["rolls"] if each["fabric_id"] == roll["fabric_id"])
        every = sorted({piece["id"] for piece in cut["pieces"]})

        def tick(things, state):
            body = {"tap_id": str(uuid4()), "kind": "cut", "things": things, "state": state}
            self.assertEqual(self.send("post", f"/api/jobs/{self.job.pk}/ticks", body)[0], 200)

        tick(ids[:1], "done")
        first_m = 50 - self.left(lot)
        self.assertGreater(first_m, 0)
        tick(ids[:1], "done")
        self.assertAlmostEqual(50 - self.left(lot), first_m)
        tick(every, "done")
        self.assertAlmostEqual(50 - self.left(lot), other, places=1)
        # What was cut is there for the job, and not bought again.
        lines = self.get(f"/api/jobs/{self.job.pk}/buy")[1]["lines"]
        line = next(each for each in lines if each["article"] == f"fabric {roll['fabric_id']}")
        self.assertEqual((line["free"], line["buy"]), (line["need"], "nothing: enough is there"))
        self.send("put", f"/api/jobs/{self.job.pk}/aside", {"aside": True})
        (article,) = self.get(self.path)[1]["articles"]
        self.assertLess(article["aside"], 0.01)
        tick(every, "undone")
        self.assertEqual(self.left(lot), 50)


class Tables(StockTest):
    def bring(self, text: str | bytes, **said):
        raw = text if isinstance(text, bytes) else text.encode()
        sent = {"table": SimpleUploadedFile("list.csv", raw)} | said
        response = self.client.post(f"{self.path}/table", sent)
        return response.status_code, response.json()

    def test_a_list_is_shown_first_and_taken_when_it_is_said(self):
        status, answer = self.bring(LIST)
        self.assertEqual((status, answer["lots"]), (200, None), answer)
        self.assertEqual(answer["table"]["taken_for"], ["product", "amount", "lot", "use by", "left out"])
        self.assertFalse(Lot.objects.exists())
        self.assertEqual(self.bring(LIST, keep="true")[1]["lots"], 2)
        amounts = dict(Lot.objects.values_list("batch", "left"))
        self.assertEqual(amounts, {"X1": 5000, "X2": 12.5})
        self.assertEqual(str(Lot.objects.get(batch="X1").expires), "2030-05-31")

    def test_all_of_a_list_or_none_of_it(self):
        for row, words in (
            ("Unobtainium,3,,,", "row 4: “Unobtainium” is not on the shelf"),
            ('"Laminating epoxy, 2 to 1",lots,,,', "row 4: amount"),
            ('"Laminating epoxy, 2 to 1",0 kg,,,', "row 4: is nothing"),
            ('"Laminating epoxy, 2 to 1",1 kg,,soon,', "row 4: use by: is no date"),
        ):
            with self.subTest(row=row):
                status, told = self.bring(LIST + row, keep="true")
                self.assertEqual(status, 422)
                self.assertTrue(told["problems"][0]["message"].startswith(words), told)
        self.assertFalse(Lot.objects.exists())

    def test_another_programs_columns_are_said_by_hand(self):
        status, told = self.bring("Ding,Menge\n450 biaxial,3\n")
        self.assertEqual((status, told["problems"][0]["path"]), (422, "taken_for"))
        status, answer = self.bring("Ding,Menge\n450 biaxial,3\n", taken_for="product\r\namount", keep="true")
        self.assertEqual((status, answer["lots"]), (200, 1))
        for raw in (b"", b"only heads\n", b"\xff\xfe\x00", b"PK\x03\x04 no workbook"):
            self.assertEqual(self.bring(raw)[0], 422, raw)
        self.assertEqual(self.bring(LIST, taken_for="product\nnonsense")[0], 422)

    def test_what_leaves_comes_back_the_same(self):
        self.lot("resin epoxy-2-1", 1234.5, batch="=1+1", made="2026-03-02", place="door", price=17.5)
        self.lot("fabric biax-450", 12.25, batch="R2")
        csv_, xlsx = (self.client.get(f"{self.path}.{kind}").content for kind in ("csv", "xlsx"))
        self.assertIn(b'"\'=1+1"', csv_)
        sheet = load_workbook(BytesIO(xlsx)).active
        self.assertEqual(sheet["C2"].data_type, "s")
        before = self.shown()
        for raw in (csv_.replace(b"'=1+1", b"=1+1"), xlsx):
            Lot.objects.all().delete()
            status, answer = self.bring(raw, keep="true")
            self.assertEqual((status, answer.get("lots")), (200, 2), answer)
            self.assertEqual(self.shown(), before)

    def shown(self) -> list[tuple]:
        return list(
            Lot.objects.order_by("product_id").values_list("product_id", "batch", "left", "made", "place", "price")
        )

    def test_a_label_says_what_it_is_and_opens_it(self):
        lot = self.lot("resin epoxy-2-1", 900, batch="K7", expires="2030-05-31")
        answer = self.client.get(f"/api/lots/{lot['id']}/label.pdf")
        words = " ".join(page.extract_text() for page in PdfReader(BytesIO(answer.content)).pages)
        for said in ("Laminating epoxy, 2 to 1", "lot K7", "Use by 31 May 2030"):
            self.assertIn(said, words.replace("\n", " "))


class PuttingAside(StockTest):
    def test_what_a_job_has_put_aside_is_not_free_for_another(self):
        lines = {line["article"]: line for line in self.get(f"/api/jobs/{self.job.pk}/buy")[1]["lines"]}
        resin = next(key for key in lines if key.startswith("resin"))
        need_g = 1000 * lines[resin]["need"]
        self.lot(resin, need_g + 100)
        bought = {line["article"]: line for line in self.get(f"/api/jobs/{self.job.pk}/buy")[1]["lines"]}
        self.assertEqual(bought[resin]["buy"], "nothing: enough is there")
        aside = self.send("put", f"/api/jobs/{self.job.pk}/aside", {"aside": True})[1]
        self.assertAlmostEqual(aside["aside"][resin], need_g, places=2)
        self.assertAlmostEqual(aside["free"][resin], need_g + 100, places=2)
        other = self.send("post", f"/api/jobs/{self.job.pk}/copy", {"name": "Her sister"})[1]
        free = self.get(f"/api/jobs/{other['id']}/free")[1]["free"]
        self.assertAlmostEqual(free[resin], 100, places=2)
        (article,) = self.get(self.path)[1]["articles"]
        self.assertAlmostEqual(article["aside"], need_g, places=2)
        # However much is put aside, it is asked for at once.
        with self.assertNumQueries(1):
            put_aside_of(self.shop)
        # What the job draws comes off what it has put aside.
        job = Job.objects.get(pk=self.job.pk)
        taken = [Taken(article=Article(kind="resin", product_id=resin.split(" ", 1)[1]), amount=300)]
        settle(Into(job, "pot 1", piece="pot 1"), self.person, taken, JobSpec(name="Any"))
        (article,) = self.get(self.path)[1]["articles"]
        self.assertAlmostEqual(article["aside"], need_g - 300, places=2)
        self.send("put", f"/api/jobs/{self.job.pk}/aside", {"aside": False})
        self.assertAlmostEqual(self.get(f"/api/jobs/{other['id']}/free")[1]["free"][resin], need_g - 200, places=2)


_DO = st.tuples(
    st.sampled_from(("came", "taken", "wasted", "counted", "added")), st.integers(0, 3), st.integers(1, 900_000)
)


class Conservation(TestCase):
    @settings(max_examples=16, deadline=None)
    @given(st.lists(_DO, max_size=12))
    def test_what_is_left_is_what_came_less_what_went_over_any_run_of_days(self, days):
        shop, person = shop_with_person("Yard", "tern")
        job, spec, today = Job.objects.create(shop=shop), JobSpec(name="Any"), shop.now().date()
        drawn_mg: dict[int, int] = {}
        for what, which, mg in days:
            lots = list(shop.lots.order_by("received", "id"))
            lot, grams = (lots[which % len(lots)] if lots else None), mg / 1000
            before = sum(each.left for each in lots)
            if what == "came":
                receive(shop, person, RESIN, grams, received=today)
            elif what == "taken":
                # A pot is written down again and again: each time it holds what was said last, as far as there is.
                had = drawn_mg.get(which, 0) / 1000
                settle(Into(job, "a pot", piece=str(which)), person, [Taken(article=RESIN, amount=grams)], spec)
                after = sum(shop.lots.values_list("left", flat=True))
                self.assertAlmostEqual(after, before + had - min(grams, before + had), places=3)
                drawn_mg[which] = round(1000 * (before + had - after))
            elif lot and what == "counted":
                count(lot, person, grams, lot.left, "as found")
            elif lot and what == "added":
                move(lot, person, Movement.Kind.CAME, grams)
            elif lot:
                if grams > lot.left:
                    with self.assertRaises(OutOfRange):
                        waste(lot, person, grams, "spilt")
                else:
                    waste(lot, person, grams, "spilt")
        for lot in shop.lots.all():
            moved = lot.movements.aggregate(sum=Sum("amount"))["sum"]
            self.assertAlmostEqual(lot.left, moved, places=3)
            self.assertGreaterEqual(lot.left, 0)

    def test_a_count_of_yesterday_is_refused(self):
        shop, person = shop_with_person("Yard", "tern")
        lot = receive(shop, person, RESIN, 900, received=shop.now().date())
        waste(lot, person, 100, "spilt")
        with self.assertRaises(Overtaken):
            count(lot, person, 900, 900)
