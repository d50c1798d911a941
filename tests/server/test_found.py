"""Search, jobs deleted and brought back, who did what, what the log has taught, what was built: over the API.

Of `cradle.jobs.search`, `cradle.bench.deleting`, `cradle.deeds`, `cradle.bench.built`.
"""

from datetime import timedelta
from unittest.mock import patch
from uuid import uuid4

from django.db import OperationalError
from django.utils import timezone

from cradle.api import api
from cradle.bench.deleting import KEPT_FOR, drop_what_is_past
from cradle.bench.models import Event, Photo, Run
from cradle.deeds import DEEDS, QUIET, SAME_FOR
from cradle.jobs.models import Job, JobRevision
from cradle.shops.models import Deed, Gel, Membership, Shop
from cradle.stock.keeping import receive
from cradle.stock.models import Lot, Movement
from layup.plan import plan
from layup.stock.articles import Article
from tests.server.people import TwoShops, product_like


class AtWork(TwoShops):
    def search(self, words: str, client=None) -> list[dict]:
        status, answer = self.get(f"/api/shops/{self.shop.pk}/search?q={words}", client)
        self.assertEqual(status, 200, answer)
        return answer["found"]

    def begin(self) -> Run:
        self.start_run()
        return Run.objects.get(job=self.job)

    def tap(self, run: Run, kind: str, about: str = "pot", subject: str = "1", **data) -> int:
        event = {
            "tap_id": str(uuid4()),
            "about": about,
            "subject": subject,
            "kind": kind,
            "happened_at": timezone.now().isoformat(),
            "data": data,
        }
        status, answer = self.send("post", f"/api/runs/{run.pk}/events", event)
        self.assertEqual(status, 200, answer)
        return answer["id"]


class Search(AtWork):
    def test_by_any_words_in_any_case_and_without_accents(self):
        self.rename("Chêne, port side")
        self.assertEqual(
            [found["name"] for found in self.search("PORT chene")], ["Chêne, port side", "Bottom, port and starboard"]
        )
        self.assertEqual(self.search("chene mizzen"), [])
        self.assertEqual(self.search("%20"), [])

    def rename(self, name: str) -> None:
        document = self.job.latest().document
        changed = document | {"name": name}
        status, answer = self.send("put", f"/api/jobs/{self.job.pk}", {"base": document, "document": changed})
        self.assertEqual(status, 200, answer)

    def test_a_part_a_joint_a_lot_a_product_and_a_note(self):
        run = self.begin()
        self.tap(run, "note", words="the transom stayed cold")
        self.send(
            "post",
            f"/api/shops/{self.shop.pk}/shelf",
            {"kind": "fabric", "document": product_like("cloth-300") | {"name": "Transom tape"}},
        )
        tin = Article(kind="resin", product_id="epoxy-2-1")
        receive(self.shop, self.person, tin, 500, received=self.shop.now().date(), batch="T-9", place="transom rack")
        found = self.search("transom")
        self.assertEqual({each["kind"] for each in found}, {"part", "lot", "product", "note"})
        part = next(each for each in found if each["kind"] == "part")
        self.assertEqual((part["of"], part["job_id"], part["run_id"]), ("Estuary skiff", str(self.job.pk), str(run.pk)))
        self.assertEqual(next(each for each in found if each["kind"] == "note")["run_id"], str(run.pk))
        self.assertEqual([each["kind"] for each in self.search("gunwales")], ["joint"])

    def test_what_was_renamed_is_found_by_its_new_name_alone(self):
        self.assertEqual([each["kind"] for each in self.search("estuary")], ["job"])
        self.assertEqual([each["name"] for each in self.search("estuary transom")], ["Transom, outside"])
        self.rename("Punt")
        self.assertEqual(self.search("estuary"), [])
        self.assertEqual([each["name"] for each in self.search("punt")], ["Punt"])

    def test_nothing_of_another_shop(self):
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/search?q=skiff", self.foreign)[0], 404)
        answer = self.get(f"/api/shops/{self.other_shop.pk}/search?q=skiff", self.foreign)
        self.assertEqual(answer, (200, {"found": [], "more": False}))

    def test_what_cannot_be_read_any_more_is_still_found_by_its_name(self):
        JobRevision.objects.filter(job=self.lid).update(document={"name": "Old lid", "parts": "spoiled", "joints": [3]})
        self.assertEqual([each["name"] for each in self.search("old")], ["Old lid"])

    def test_a_job_whose_newest_state_is_found_costs_no_document(self):
        self.search("skiff")
        with self.assertNumQueries(8):
            self.search("skiff")


class Deleting(AtWork):
    def delete(self, job: Job):
        return self.send("post", f"/api/jobs/{job.pk}/delete")

    def test_gone_from_everywhere_and_back_as_it_was(self):
        document = self.lid.latest().document
        status, listed = self.delete(self.lid)
        self.assertEqual((status, [each["name"] for each in listed]), (200, ["Channel buoy lid"]))
        self.assertEqual(listed[0]["deleted_by"], "wren")
        for path in (f"/api/jobs/{self.lid.pk}", f"/api/jobs/{self.lid.pk}/runs"):
            self.assertEqual(self.get(path)[0], 404)
        names = [each["name"] for each in self.get(f"/api/shops/{self.shop.pk}/jobs")[1]]
        self.assertEqual(names, ["Estuary skiff"])
        self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/put-away")[1], [])
        self.assertEqual(self.search("lid"), [])
        self.assertEqual(self.send("post", f"/api/jobs/{self.lid.pk}/bring-back")[1], [])
        self.assertEqual(self.lid.latest().document, document)
        self.assertEqual(len(self.get(f"/api/shops/{self.shop.pk}/jobs")[1]), 2)

    def test_not_while_a_run_of_it_is_open(self):
        run = self.begin()
        self.tap(run, "touched")
        status, answer = self.delete(self.job)
        self.assertEqual(status, 422)
        self.assertIn("still open: close it at the bench first", answer["problems"][0]["message"])
        self.tap(run, "closed", "run", "", outcome="good")
        self.assertEqual(self.delete(self.job)[0], 200)
        self.assertEqual(self.get(f"/api/runs/{run.pk}/as-built")[0], 404)

    def test_after_a_month_it_goes_and_what_it_taught_and_took_stays(self):
        tin = Article(kind="resin", product_id="epoxy-2-1")
        lot = receive(self.shop, self.person, tin, 5000, received=self.shop.now().date())
        run = self.begin()
        self.tap(run, "touched", a_g=60, b_g=27)
        wrong = self.tap(run, "note", words="wrong")
        back = {"tap_id": str(uuid4()), "reason": "it was another"}
        self.send("post", f"/api/runs/{run.pk}/events/{wrong}/take-back", back)
        Photo.objects.create(event_id=wrong, content=b"")
        self.tap(run, "used up")
        self.tap(run, "gelled")
        self.tap(run, "closed", "run", "", outcome="good")
        gels, left = Gel.objects.count(), Lot.objects.get(pk=lot.pk).left
        self.assertEqual(self.delete(self.job)[0], 200)
        now = timezone.now()
        self.assertEqual(drop_what_is_past(now + KEPT_FOR - timedelta(minutes=1)), 0)
        self.assertEqual(drop_what_is_past(now + KEPT_FOR + timedelta(minutes=1)), 1)
        self.assertEqual((Run.objects.count(), Event.objects.count(), Photo.objects.count()), (0, 0, 0))
        self.assertEqual((Gel.objects.count(), Lot.objects.get(pk=lot.pk).left), (gels, left))
        self.assertEqual(sum(Movement.objects.filter(lot=lot).values_list("amount", flat=True)), left)
        self.assertEqual(self.get(f"/api/lots/{lot.pk}")[0], 200)
        self.assertEqual(self.send("post", f"/api/jobs/{self.job.pk}/bring-back")[0], 404)
        self.assertTrue(Job.objects.filter(pk=self.lid.pk).exists())

    def test_who_may_only_look_deletes_nothing(self):
        Membership.objects.filter(person=self.person).update(role="viewer")
        self.assertEqual(self.delete(self.lid)[0], 403)
        self.assertIsNone(Job.objects.get(pk=self.lid.pk).deleted_at)
        Job.objects.filter(pk=self.lid.pk).update(deleted_at=timezone.now(), deleted_by=self.person)
        self.assertEqual(self.send("post", f"/api/jobs/{self.lid.pk}/bring-back")[0], 403)


class WhoDidWhat(AtWork):
    def deeds(self, of: str = "") -> list[tuple[str, str, int]]:
        answer = self.get(f"/api/shops/{self.shop.pk}/deeds{of}")[1]["deeds"]
        return [(deed["words"], deed["thing"], deed["times"]) for deed in answer]

    def test_every_route_that_writes_says_what_it_does_or_that_it_does_nothing(self):
        writing = {
            operation.view_func.__name__
            for router in api._get_bound_routers()
            for view in router.path_operations.values()
            for operation in view.operations
            if set(operation.methods) - {"GET"}
        }
        self.assertEqual(writing, DEEDS.keys() | QUIET)
        self.assertEqual(DEEDS.keys() & QUIET, set())

    def test_edits_of_an_hour_are_one_deed(self):
        for name in ("Punt", "Pram", "Dory"):
            document = self.job.latest().document
            self.send("put", f"/api/jobs/{self.job.pk}", {"base": document, "document": document | {"name": name}})
        self.assertEqual(self.deeds(), [("changed the job", "Pram", 3)])
        Deed.objects.update(begun_at=timezone.now() - SAME_FOR)
        self.send("put", f"/api/jobs/{self.job.pk}/put-away", {"away": True})
        self.send("put", f"/api/jobs/{self.lid.pk}/put-away", {"away": True})
        self.assertEqual(
            [(words, thing) for words, thing, _ in self.deeds()],
            [
                ("put the job away, or took it out", "Channel buoy lid"),
                ("put the job away, or took it out", "Dory"),
                ("changed the job", "Pram"),
            ],
        )
        self.assertEqual(self.deeds("?by=heron"), [])
        self.assertEqual(len(self.deeds("?after=1")), 2)

    def test_what_was_refused_or_only_tried_is_no_deed(self):
        self.send("put", f"/api/jobs/{self.job.pk}/put-away", {"away": True}, self.foreign)
        self.send("put", f"/api/jobs/{self.job.pk}", {"base": {}, "document": {"name": 3}})
        self.send("post", f"/api/jobs/{self.job.pk}/what-if", {"room_c": 25})
        document = self.job.latest().document
        mine, theirs = document | {"name": "Punt"}, document | {"name": "Pram"}
        self.send("put", f"/api/jobs/{self.job.pk}", {"base": document, "document": theirs})
        self.assertEqual(self.send("put", f"/api/jobs/{self.job.pk}", {"base": document, "document": mine})[0], 409)
        self.assertEqual([deed[2] for deed in self.deeds()], [1])

    def test_a_new_thing_is_named_and_a_person_too(self):
        self.send("post", f"/api/shops/{self.shop.pk}/places", {"name": "By the window"})
        self.send("post", f"/api/shops/{self.shop.pk}/jobs", {"name": "Punt"})
        self.assertEqual(
            [deed[:2] for deed in self.deeds()], [("began a job", "Punt"), ("added a bench", "By the window")]
        )

    def test_what_is_done_stays_done_where_nobody_could_write_it_down(self):
        with patch("cradle.deeds.write_down", side_effect=OperationalError("disk full")):
            status, _ = self.send("put", f"/api/jobs/{self.lid.pk}/put-away", {"away": True})
        self.assertEqual(status, 200)
        self.assertIsNotNone(Job.objects.get(pk=self.lid.pk).put_away_at)
        self.assertEqual(self.deeds(), [])

    def test_for_owners_alone(self):
        Membership.objects.filter(person=self.person).update(role="laminator")
        status, answer = self.get(f"/api/shops/{self.shop.pk}/deeds")
        self.assertEqual(
            (status, answer["problems"][0]["message"]), (403, "only an owner of Saltmarsh Slip sees who did what")
        )


class TaughtByTheLog(AtWork):
    def gel(self, minutes: float, **of) -> Gel:
        resin = self.job.latest().spec().materials.resins[0]
        chosen = plan(self.job.latest().spec(), self.shop.shop_facts()).resins[0].chemistry.chosen_id
        return Gel.objects.create(
            shop=self.shop,
            tap_id=uuid4(),
            gelled_at=timezone.now(),
            resin_id=resin.id,
            hardener_id=chosen,
            minutes=minutes,
            temperature_c=25,
            mass_g=100,
            **of,
        )

    def taught(self):
        return self.get(f"/api/shops/{self.shop.pk}/taught")[1]

    def leave_out(self, record: int, reason: str | None, kind: str = "gel", client=None):
        path = f"/api/shops/{self.shop.pk}/taught/{kind}/{record}"
        return self.send("put", path, {"left_out": reason is not None, "reason": reason or ""}, client)

    def test_a_record_left_out_moves_the_figure_to_what_was_foretold_and_the_plan_with_it(self):
        wild = self.gel(19)
        for minutes in (13, 14):
            self.gel(minutes)
        (before,) = self.taught()
        self.assertEqual(before["taught"]["count"], 3)
        foretold = next(each["without"] for each in before["records"] if each["id"] == wild.pk)
        words = self.get(f"/api/jobs/{self.job.pk}")[1]["plan"]["resins"][0]["chemistry"]["shop_words"]
        status, (after,) = self.leave_out(wild.pk, "the cup stood in ice")
        self.assertEqual((status, after["taught"]["count"]), (200, 2))
        self.assertAlmostEqual(after["taught"]["now"], foretold, 9)
        self.assertLess(after["taught"]["now"], before["taught"]["now"])
        record = next(each for each in after["records"] if each["id"] == wild.pk)
        self.assertEqual((record["left_out"], record["left_out_by"]), ("the cup stood in ice", "wren"))
        self.assertAlmostEqual(record["without"], before["taught"]["now"], 9)
        told = self.get(f"/api/jobs/{self.job.pk}")[1]["plan"]["resins"][0]["chemistry"]["shop_words"]
        self.assertIn("by 3 gels", words)
        self.assertIn("by 2 gels", told)
        self.assertEqual(self.leave_out(wild.pk, None)[1][0]["taught"], before["taught"])

    def test_why_must_be_said_and_by_one_of_the_shop(self):
        gel = self.gel(20)
        for said in ("", "x", "   "):
            status, answer = self.leave_out(gel.pk, said)
            self.assertEqual((status, answer["problems"][0]["path"]), (422, "reason"))
        self.assertEqual(self.leave_out(gel.pk, "a wet cup", client=self.foreign)[0], 404)
        self.assertEqual(self.leave_out(gel.pk, "a wet cup", "filler")[0], 404)
        Membership.objects.filter(person=self.person).update(role="viewer")
        self.assertEqual(self.leave_out(gel.pk, "a wet cup")[0], 403)
        gel.refresh_from_db()
        self.assertEqual(gel.left_out, "")

    def test_a_gel_of_a_product_that_is_gone_is_passed_over(self):
        Gel.objects.filter(pk=self.gel(20).pk).update(resin_id="gone")
        self.assertEqual(self.taught(), [])

    def test_fillers_and_beds(self):
        now = timezone.now()
        for parts in (1.5, 1.7):
            self.shop.stirred.create(
                tap_id=uuid4(), stirred_at=now, filler_id="wood-flour", consistency="stands", parts=parts
            )
        for pull, times in ((900, 1.0), (910, 1.44), (500, 2.0)):
            self.shop.shots.create(
                seen_at=now, run_id=uuid4(), flow_id="hatch", bed="600 biaxial", pull_mbar=pull, times=times
            )
        told = {(each["kind"], each["pull_mbar"]): each["taught"] for each in self.taught()}
        self.assertEqual({kind for kind, _ in told}, {"filler", "bed"})
        self.assertEqual(sorted(each["count"] for (kind, _), each in told.items() if kind == "bed"), [1, 2])
        self.assertAlmostEqual(
            next(each["now"] for (kind, pull), each in told.items() if pull == 910 or pull == 900), 1.2
        )


class Short(AtWork):
    def test_what_no_lot_gave_is_told_of_what_the_shop_keeps_a_stock_of(self):
        tin = Article(kind="resin", product_id="epoxy-2-1")
        lot = receive(self.shop, self.person, tin, 40, received=self.shop.now().date())
        run = self.begin()
        self.tap(run, "touched", a_g=60, b_g=27)
        (pot,) = self.get(f"/api/runs/{run.pk}/lots")[1]
        # 60 g were poured and 40 g were there; of the hardener the shop keeps no stock, and nothing is said.
        self.assertEqual([(each["amount"], each["unit"]) for each in pot["short"]], [(20, "g")])
        self.assertEqual([each["amount"] for each in pot["lots"]], [40])
        lot.refresh_from_db()
        self.assertEqual(lot.left, 0)
        self.assertEqual(self.get(f"/api/runs/{run.pk}/lots", self.foreign)[0], 404)


class LeadTimes(AtWork):
    def came(self, ordered: str, received: str) -> tuple[int, dict]:
        sent = {"article": "resin epoxy-2-1", "amount": 5000, "ordered": ordered, "received": received}
        return self.send("post", f"/api/shops/{self.shop.pk}/stock", sent)

    def lead(self) -> dict:
        return self.get(f"/api/jobs/{self.job.pk}/free")[1]["lead"]

    def test_what_took_nine_days_is_ordered_nine_days_before(self):
        self.assertEqual(self.lead(), {})
        for ordered, received in (("2026-05-04", "2026-05-07"), ("2026-06-01", "2026-06-10"), ("", "2026-06-12")):
            self.assertEqual(self.came(ordered, received)[0], 200)
        told = {"least_days": 3, "most_days": 9, "count": 2, "order_by": None}
        self.assertEqual(self.lead(), {"resin epoxy-2-1": told})
        # It begins at half past midnight there, the day before by the world's clock.
        Shop.objects.filter(pk=self.shop.pk).update(time_zone="Pacific/Auckland")
        self.send("put", f"/api/jobs/{self.job.pk}/start", {"start_at": "2126-05-09T12:30:00Z"})
        self.assertEqual(self.lead()["resin epoxy-2-1"]["order_by"], "2126-05-01")

    def test_only_the_last_five_orders_count(self):
        for day in range(1, 7):
            took = 20 if day == 1 else day
            self.came(f"2026-0{day}-01", f"2026-0{day}-{1 + took:02}")
        self.assertEqual((self.lead()["resin epoxy-2-1"]["most_days"], self.lead()["resin epoxy-2-1"]["count"]), (6, 5))

    def test_nothing_comes_before_it_is_ordered(self):
        status, answer = self.came("2026-06-10", "2026-06-01")
        self.assertEqual((status, answer["problems"][0]["path"]), (422, "ordered"))
        self.assertEqual(self.came("soon", "2026-06-01")[1]["problems"][0]["path"], "ordered")


class Offcuts(AtWork):
    def came(self, amount: float, **said) -> dict:
        sent = {"article": "fabric cloth-300", "amount": amount, "received": "2026-06-01"} | said
        status, answer = self.send("post", f"/api/shops/{self.shop.pk}/stock", sent)
        self.assertEqual(status, 200, answer)
        return answer

    def cut(self) -> list[tuple[str, float, int]]:
        rolls = self.get(f"/api/jobs/{self.job.pk}/cut")[1]["plan"]["rolls"]
        return [(roll["lot_id"], roll["run_m"], len(roll["pieces"])) for roll in rolls if "cloth" in roll["fabric_id"]]

    def tick(self, piece: str, state: str) -> None:
        sent = {"tap_id": str(uuid4()), "kind": "cut", "things": [piece], "state": state}
        self.assertEqual(self.send("post", f"/api/jobs/{self.job.pk}/ticks", sent)[0], 200)

    def test_what_was_left_over_is_cut_first_and_stays_laid_out_while_it_is_cut(self):
        roll, before = self.came(40), self.cut()
        offcut = self.came(1.2, batch="left 1", width_mm=1100)
        # What is left over is no metre of a roll: nobody counts on it for another.
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}/free")[1]["free"]["fabric cloth-300"], 40)
        laid = self.cut()
        self.assertEqual((laid[0][0], laid[0][2]), (offcut["id"], 1))
        self.assertEqual(laid[1][2], before[0][2] - 1)
        rolls = self.get(f"/api/jobs/{self.job.pk}/cut")[1]["plan"]["rolls"]
        piece = next(roll for roll in rolls if roll["lot_id"])["pieces"][0]["piece_id"]
        self.tick(piece, "done")
        left = {lot.pk: lot.left for lot in Lot.objects.all()}
        self.assertEqual(left[Lot.objects.get(pk=roll["id"]).pk], 40)
        self.assertAlmostEqual(left[Lot.objects.get(pk=offcut["id"]).pk], 1.2 - laid[0][1], 3)
        self.assertEqual(self.cut(), laid)
        self.tick(piece, "undone")
        self.assertEqual(Lot.objects.get(pk=offcut["id"]).left, 1.2)
        # Another job is offered it too; a bad one is offered to nobody.
        self.send("put", f"/api/lots/{offcut['id']}/bad", {"bad": "it got wet"})
        self.assertEqual(self.cut(), before)

    def test_what_is_cut_off_a_roll_does_not_move_to_an_offcut_that_comes_later(self):
        roll = self.came(40)
        pieces = self.get(f"/api/jobs/{self.job.pk}/cut")[1]["plan"]["pieces"]
        small = next(piece for piece in pieces if "transom" in piece["id"])
        self.tick(small["id"], "done")
        drawn = Lot.objects.get(pk=roll["id"]).left
        self.came(1.2, width_mm=1100)
        laid = self.get(f"/api/jobs/{self.job.pk}/cut")[1]["plan"]["rolls"]
        on_offcuts = {each["piece_id"] for roll in laid if roll["lot_id"] for each in roll["pieces"]}
        self.assertNotIn(small["id"], on_offcuts)
        self.tick(small["id"], "done")
        self.assertAlmostEqual(Lot.objects.get(pk=roll["id"]).left, drawn, 1)

    def test_of_a_resin_there_is_no_offcut(self):
        sent = {"article": "resin epoxy-2-1", "amount": 500, "width_mm": 300}
        status, answer = self.send("post", f"/api/shops/{self.shop.pk}/stock", sent)
        self.assertEqual((status, answer["problems"][0]["path"]), (422, "width_mm"))


class AsBuilt(AtWork):
    def test_it_names_lots_waivers_and_who(self):
        tin = Article(kind="resin", product_id="epoxy-2-1")
        receive(self.shop, self.person, tin, 5000, received=self.shop.now().date(), batch="E-7")
        ready = self.get(f"/api/jobs/{self.job.pk}/ready")[1]["to_waive"]
        kind, things = next((kind, things) for kind, things in ready.items() if things)
        waived = {
            "tap_id": str(uuid4()),
            "kind": kind,
            "things": things[:1],
            "state": "waived",
            "reason": "done last week",
        }
        self.assertEqual(self.send("post", f"/api/jobs/{self.job.pk}/ticks", waived)[0], 200)
        run = self.begin()
        self.tap(run, "touched", a_g=60, b_g=27)
        told = self.get(f"/api/runs/{run.pk}/as-built")[1]
        built = told["built"]
        self.assertEqual(built["deviations"][0]["kind"], "waived")
        self.assertEqual((built["deviations"][0]["reason"], built["deviations"][0]["by"]), ("done last week", "wren"))
        (pot,) = built["pots"]
        self.assertEqual([lot["amount"] for lot in pot["lots"]], [60])
        self.assertIn("E-7", pot["lots"][0]["called"])
        self.assertEqual(len(told["layers_said"]), len(built["places"]))
        table = self.client.get(f"/api/runs/{run.pk}/as-built.csv").content.decode()
        self.assertIn("E-7", table)

    def test_a_run_from_before_the_bench_says_so(self):
        run = self.begin()
        Run.objects.update(card=None)
        status, answer = self.get(f"/api/runs/{run.pk}/as-built")
        self.assertEqual(status, 422)
        self.assertIn("before there was a bench", answer["problems"][0]["message"])
