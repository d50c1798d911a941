"""Jobs over the API: saved as revisions, refused at the field, never overwritten unseen."""

import logging
from collections import OrderedDict
from contextlib import contextmanager
from unittest.mock import patch

from django.utils import timezone

from cradle.beside.crew import Busy
from cradle.faults import FaultFormatter
from cradle.jobs.models import Job, JobRevision
from cradle.jobs.saving import stored
from layup.plan import plan
from tests.core.jobs import panel
from tests.server.people import TwoShops


class Saving(TwoShops):
    def save(self, document, base=None, client=None):
        body = {"base": base or self.document(), "document": document}
        return self.send("put", f"/api/jobs/{self.job.pk}", body, client)

    def document(self):
        return self.get(f"/api/jobs/{self.job.pk}")[1]["document"]

    def test_a_save_appends_a_revision_and_answers_with_the_plan(self):
        document = self.document()
        document["parts"][0]["count"] = 1
        status, answer = self.save(document)
        self.assertEqual((status, answer["revision"]), (200, 2))
        self.assertAlmostEqual(answer["plan"]["parts"][0]["total_area_m2"], 0.62 * 3.9)
        self.assertEqual(list(self.job.revisions.order_by("number").values_list("number", flat=True)), [1, 2])
        self.assertEqual(self.job.revisions.get(number=1).document["parts"][0]["count"], 2)

    def test_the_same_document_is_no_new_revision(self):
        self.assertEqual(self.save(self.document())[1]["revision"], 1)

    def test_nonsense_is_refused_at_its_field_and_nothing_is_saved(self):
        document = self.document()
        document["parts"][0]["shape"]["width_m"] = -4
        document["resins"][0]["wanted_gel_min"] = 100000
        status, answer = self.save(document)
        self.assertEqual(status, 422)
        self.assertEqual(
            {fault["path"]: fault["message"] for fault in answer["problems"]},
            {
                "parts.0.shape.width_m": "must be 0.001 or more",
                "resins.0.wanted_gel_min": "must be 240 or less",
            },
        )
        self.assertEqual(JobRevision.objects.filter(job=self.job).count(), 1)

    def test_hostile_documents_are_refused_without_an_error_of_ours(self):
        document = self.document()
        for hostile in (
            document | {"parts": "all"},
            document | {"parts": [{"id": "a", "shape": {"kind": "blob"}}]},
            document | {"version": 7},
            document | {"materials": {"resins": [{"id": "x"}]}},
            document | {"parts": document["parts"] * 2},
            {"name": ""},
            [],
        ):
            with self.subTest(hostile=str(hostile)[:60]):
                status, answer = self.save(hostile)
                self.assertEqual(status, 422)
                self.assertTrue(answer["problems"][0]["message"])

    def test_a_document_of_the_version_before_is_brought_up_and_saved(self):
        document = self.document()
        (use,) = document["resins"][:1]
        older = {key: value for key, value in document.items() if key != "resins"} | {"version": 1, "joints": []}
        older["chemistry"] = {key: value for key, value in use.items() if key not in ("id", "word")}
        older["parts"] = [part | {"plies": part["plies"][:1]} for part in older["parts"]]
        sent = {"base": older, "document": older | {"name": "Skiff, typed before"}}
        status, answer = self.send("put", f"/api/jobs/{self.job.pk}", sent)
        self.assertEqual((status, answer["document"]["name"]), (200, "Skiff, typed before"))
        # What only the newer one holds stands.
        self.assertEqual([each["id"] for each in answer["document"]["resins"]], ["resin", "glue", "coating"])

    def test_a_fabric_that_the_job_does_not_carry_is_said_in_the_plan(self):
        document = self.document()
        document["parts"][0]["plies"][0]["fabric_id"] = "moonsilk"
        status, answer = self.save(document)
        self.assertEqual(status, 200)
        self.assertIn("parts.0.plies.0.fabric_id", [problem["path"] for problem in answer["plan"]["problems"]])


class Trying(TwoShops):
    def test_a_what_if_answers_and_saves_nothing(self):
        before = self.get(f"/api/jobs/{self.job.pk}/plan")[1]
        status, tried = self.send("post", f"/api/jobs/{self.job.pk}/what-if", {"room_c": 28})
        self.assertEqual(status, 200)
        self.assertTrue(tried["resins"][0]["chemistry"]["sentence"].startswith("Extra slow hardener"))
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}/plan")[1], before)

    def test_the_shops_day_moves_the_plan(self):
        status, _ = self.send("put", f"/api/shops/{self.shop.pk}/conditions", {"room_c": 12})
        self.assertEqual(status, 200)
        chemistry = self.get(f"/api/jobs/{self.job.pk}/plan")[1]["resins"][0]["chemistry"]
        self.assertEqual([h["name"] for h in chemistry["hardeners"] if h["chosen"]], ["fast"])
        self.assertEqual(self.send("put", f"/api/shops/{self.shop.pk}/conditions", {"room_c": 900})[0], 422)

    def test_a_new_job_needs_only_a_name(self):
        status, answer = self.send("post", f"/api/shops/{self.shop.pk}/jobs", {"name": "Locker lid"})
        self.assertEqual((status, answer["plan"]["next_step"]["step"]), (200, "measure"))
        listed = self.get(f"/api/shops/{self.shop.pk}/jobs")[1]
        self.assertEqual([job["name"] for job in listed], ["Locker lid", "Channel buoy lid", "Estuary skiff"])

    def test_typed_words_are_read_for_the_shop(self):
        path = f"/api/shops/{self.shop.pk}/quantities"
        self.assertEqual(
            self.send("post", path, {"text": "4 ft", "dimension": "length"})[1]["understood"], "4 ft = 1.219 m"
        )
        status, answer = self.send("post", path, {"text": "4 parsecs", "dimension": "length"})
        self.assertEqual(status, 422)
        self.assertIn("type one of m, mm", answer["problems"][0]["message"])
        path = f"/api/jobs/{self.job.pk}/parts/bottom/quick-line"
        status, line = self.send("post", path, {"text": "2x 450 mat, 3 blob"})
        standing = self.get(f"/api/jobs/{self.job.pk}")[1]
        self.assertEqual((status, line["problems"][0]["start"]), (200, 14))
        # Half a stack is another laminate: what stood stays, and is what is planned.
        self.assertEqual((line["plies"], line["plan"]), (standing["document"]["parts"][0]["plies"], standing["plan"]))
        line = self.send("post", path, {"text": "2x 450 mat"})[1]
        part = {"id": "bottom", "plies": line["plies"]}
        written = self.send("post", "/api/quick-line/written", {"part": part, "fabrics": line["fabrics"]})[1]
        self.assertEqual(written, {"written": "2x 450 csm"})

    def test_the_quick_line_plans_the_document_in_hand(self):
        document = self.get(f"/api/jobs/{self.job.pk}")[1]["document"]
        path = f"/api/jobs/{self.job.pk}/parts/bottom/quick-line"
        line = self.send("post", path, {"text": "300 cloth, 450 csm", "document": document})[1]
        document["parts"][0]["plies"] = line["plies"]
        document["materials"]["fabrics"] = line["fabrics"]
        planned = self.send("post", f"/api/jobs/{self.job.pk}/what-if", {"document": document})[1]
        self.assertEqual(line["plan"], planned)
        self.assertEqual(len(planned["parts"][0]["plies"]), 2)


class Overriding(TwoShops):
    """A stop is overridden in the document, and the server says who did it and when."""

    def setUp(self):
        super().setUp()
        self.path = f"/api/jobs/{self.job.pk}"
        base = self.get(self.path)[1]["document"]
        stopped = stored(panel("epoxy-2-1", "csm-450"))
        self.answer = self.send("put", self.path, {"base": base, "document": stopped})[1]
        self.stop = self.answer["plan"]["cautions"][0]

    def override(self, **changes):
        base = self.answer["document"]
        given = {
            "id": "o1",
            "caution_id": self.stop["id"],
            "about": self.stop["about"],
            "said": self.stop["said"],
            "reason": "its maker says epoxy",
        }
        return self.send("put", self.path, {"base": base, "document": base | {"overrides": [given | changes]}})

    def test_it_is_signed_by_who_gave_it_whatever_was_sent(self):
        status, answer = self.override(by="somebody else", at="1999")
        self.assertEqual(status, 200)
        signed = answer["plan"]["cautions"][0]["override"]
        self.assertEqual((signed["by"], signed["reason"]), ("wren", "its maker says epoxy"))
        self.assertTrue(signed["at"].startswith(str(timezone.now().year)))
        again = answer["document"] | {"name": "Renamed"}
        kept = self.send("put", self.path, {"base": answer["document"], "document": again})[1]
        self.assertEqual(kept["document"]["overrides"], answer["document"]["overrides"])

    def test_a_reason_is_a_reason(self):
        status, answer = self.override(reason="ok")
        self.assertEqual((status, answer["problems"][0]["path"]), (422, "overrides.0.reason"))

    def test_a_copy_asks_anew(self):
        self.override()
        status, copied = self.send("post", f"{self.path}/copy", {"name": "Second panel"})
        self.assertEqual(
            (status, copied["document"]["name"], copied["document"]["overrides"]), (200, "Second panel", [])
        )
        self.assertEqual(copied["plan"]["next_step"]["words"], self.stop["message"])
        self.assertEqual(copied["document"]["parts"], self.answer["document"]["parts"])


class Showing(TwoShops):
    def test_a_working_is_of_the_document_and_the_temperature_tried(self):
        path = f"/api/jobs/{self.job.pk}"
        tried = self.send("post", f"{path}/what-if", {"room_c": 24})[1]
        shown = self.send("post", f"{path}/working", {"about": "life", "room_c": 24})[1]
        self.assertAlmostEqual(shown["result"], tried["resins"][0]["chemistry"]["life_min"])
        status, refused = self.send("post", f"{path}/working", {"about": "luck"})
        self.assertEqual((status, refused["problems"][0]["path"]), (422, "about"))

    def test_words_are_in_the_readers_units_and_figures_are_not_touched(self):
        metric = self.get(f"/api/jobs/{self.job.pk}")[1]["plan"]
        self.send("put", "/api/session/preferences", {"units": "US"})
        us = self.get(f"/api/jobs/{self.job.pk}")[1]["plan"]
        self.assertIn("°F", us["resins"][0]["chemistry"]["sentence"])
        self.assertEqual(us["pots"][0]["mass_g"], metric["pots"][0]["mass_g"])
        self.start_run()
        floor = self.get(f"/api/shops/{self.shop.pk}/jobs")[1]
        words = next(job["next_step"]["words"] for job in floor if job["id"] == str(self.job.pk))
        self.assertIn("oz", words)

    def test_what_if_keeps_the_water_in_the_air(self):
        self.send("put", f"/api/shops/{self.shop.pk}/conditions", {"room_c": 20, "surface_c": 18, "humidity_pct": 60})
        before = self.get(f"/api/jobs/{self.job.pk}/plan")[1]
        tried = self.send("post", f"/api/jobs/{self.job.pk}/what-if", {"room_c": 26})[1]
        self.assertEqual(tried["conditions"]["surface_c"], 24)
        self.assertAlmostEqual(tried["dew"]["point_c"], before["dew"]["point_c"], delta=0.05)
        self.assertAlmostEqual(tried["dew"]["margin_c"] - before["dew"]["margin_c"], 6, delta=0.05)


class Unplannable(TwoShops):
    """A fault of the program's own in one job is that job's alone: it is told, opened and mended, and never kept."""

    def setUp(self):
        super().setUp()
        latest = self.lid.latest()
        latest.document |= {"name": "Lid that fails"}
        latest.save()

    @contextmanager
    def failing(self):
        def fails(spec, *rest):
            if "fails" in spec.name:
                raise ZeroDivisionError("a fault of ours")
            return plan(spec, *rest)

        kept = patch("cradle.plans._kept", OrderedDict())
        with kept, patch("cradle.beside.written.plan", fails), self.assertLogs("cradle", "WARNING"):
            yield

    def test_the_floor_the_day_and_what_is_due_stand(self):
        shop = f"/api/shops/{self.shop.pk}"
        with self.failing():
            status, strips = self.get(f"{shop}/jobs")
            self.assertEqual(status, 200)
            for path in ("day", "due"):
                self.assertEqual(self.get(f"{shop}/{path}")[0], 200)
        told, other = sorted(strips, key=lambda strip: strip["name"] != "Lid that fails")
        self.assertEqual((told["state"], told["next_step"]["step"]), ("stop", "log"))
        self.assertIn("cannot be planned as it stands", told["next_step"]["words"])
        self.assertEqual(other["part_count"], 3)

    def test_it_opens_with_its_revisions_and_is_mended(self):
        at = f"/api/jobs/{self.lid.pk}"
        with self.failing():
            status, job = self.get(at)
            self.assertEqual((status, self.get(f"{at}/revisions")[0]), (200, 200))
        self.assertIn("cannot be planned", job["plan"]["problems"][0]["message"])
        self.assertEqual([caution["severity"] for caution in job["plan"]["cautions"]], ["stop"])
        self.assertEqual({step["headline"] for step in job["plan"]["steps"]}, {"not planned"})
        self.assertEqual(job["document"]["name"], "Lid that fails")
        with self.failing():
            self.get(at)
            mended = job["document"] | {"name": "Lid"}
            status, after = self.send("put", at, {"base": job["document"], "document": mended})
        self.assertEqual((status, after["plan"]["problems"]), (200, []))

    def test_what_cannot_be_planned_is_not_kept(self):
        at, jobs = f"/api/jobs/{self.job.pk}", Job.objects.count()
        document = self.get(at)[1]["document"]
        with self.failing():
            changed = document | {"name": "Skiff that fails"}
            status, answer = self.send("put", at, {"base": document, "document": changed})
            self.assertEqual(status, 422)
            self.assertIn("take back what was changed last", answer["problems"][0]["message"])
            self.assertEqual(self.send("post", f"/api/shops/{self.shop.pk}/jobs", changed)[0], 422)
        self.assertEqual((self.get(at)[1]["document"], Job.objects.count()), (document, jobs))

    def test_a_document_that_no_longer_reads_is_told_opens_and_is_gone_back_from(self):
        at, sound = f"/api/jobs/{self.lid.pk}", self.lid.latest().document
        JobRevision.objects.filter(job=self.lid).update(document={"name": "Of another time", "parts": 7})
        JobRevision.objects.create(job=self.lid, number=0, document=sound, saved_by=self.person)
        with self.assertLogs("cradle", "WARNING"):
            status, strips = self.get(f"/api/shops/{self.shop.pk}/jobs")
            opened, revisions = self.get(at), self.get(f"{at}/revisions")
            mended = {"base": sound, "document": sound}
            self.assertEqual(self.send("put", at, mended)[0], 422)
        self.assertEqual((status, opened[0], revisions[0]), (200, 200, 200))
        self.assertIn(("Of another time", "stop"), {(strip["name"], strip["state"]) for strip in strips})
        self.assertEqual(opened[1]["document"]["name"], "Of another time")
        self.assertIn("can no longer be read", opened[1]["plan"]["problems"][0]["message"])
        self.assertEqual([revision["name"] for revision in revisions[1]], ["Of another time", sound["name"]])
        with self.assertLogs("cradle", "WARNING"):
            self.assertEqual(self.send("post", f"{at}/revisions/1/restore")[0], 422)
        self.assertEqual(self.send("post", f"{at}/revisions/0/restore")[1]["document"]["name"], sound["name"])

    def test_a_busy_moment_says_nothing_of_a_job(self):
        shop, at = f"/api/shops/{self.shop.pk}", f"/api/jobs/{self.job.pk}"
        document = self.job.latest().document
        busy = Busy("the program is busy with what others asked: try again in a minute")
        with patch("cradle.plans._kept", OrderedDict()), patch("cradle.plans.PLANS.work", side_effect=busy):
            strips = self.get(f"{shop}/jobs")[1]
            told = [self.get(at), self.send("put", at, {"base": document, "document": document | {"name": "New"}})]
        self.assertEqual([(strip["behind"], strip["state"]) for strip in strips], [(True, ""), (True, "")])
        self.assertEqual([status for status, _ in told], [503, 503])
        self.assertIn("try again in a minute", told[1][1]["problems"][0]["message"])
        self.assertEqual([strip["behind"] for strip in self.get(f"{shop}/jobs")[1]], [False, False])
        self.assertEqual(self.job.latest().document, document)

    def test_it_is_put_away_and_taken_out_again(self):
        shop, at = f"/api/shops/{self.shop.pk}", f"/api/jobs/{self.lid.pk}"
        JobRevision.objects.filter(job=self.lid).update(document={"name": "Of another time", "parts": 7})
        (away,) = self.send("put", f"{at}/put-away", {"away": True})[1]
        self.assertEqual((away["name"], away["id"]), ("Of another time", str(self.lid.pk)))
        self.assertEqual([strip["name"] for strip in self.get(f"{shop}/jobs")[1]], ["Estuary skiff"])
        self.assertEqual(self.get(f"{shop}/put-away")[1], [away])
        self.assertEqual(self.send("put", f"{at}/put-away", {"away": False}), (200, []))
        with self.assertLogs("cradle", "WARNING"):
            self.assertEqual(len(self.get(f"{shop}/jobs")[1]), 2)

    def test_what_failed_is_written_down_with_its_route_and_job_and_nobodys_words(self):
        with (
            self.assertLogs("cradle", "ERROR") as told,
            patch("cradle.jobs.routes.job_out", side_effect=KeyError("wren")),
        ):
            status, answer = self.get(f"/api/jobs/{self.lid.pk}")
        self.assertEqual(status, 500)
        self.assertIn("it was written down", answer["problems"][0]["message"])
        self.assertIn("KeyError", told.output[0])

        class Formatting(logging.Handler):
            lines = []

            def emit(self, record):
                self.lines.append(FaultFormatter().format(record))

        handler = Formatting()
        logging.getLogger("cradle").addHandler(handler)
        self.addCleanup(logging.getLogger("cradle").removeHandler, handler)
        with patch("cradle.shops.people_routes._people", side_effect=KeyError("a secret of wren")):
            self.send("put", f"/api/shops/{self.shop.pk}/people/wren", {"role": "owner"})
        (line,) = handler.lines
        self.assertIn(
            f"[PUT api/shops/<uuidstr:shop_id>/people/<person> shop_id={self.shop.pk}] a fault\n  KeyError", line
        )
        self.assertRegex(line, r"^\d{4}-\d\d-\d\dT.*ERROR")
        self.assertIn("people_routes.py", line)
        self.assertNotIn("wren", line)
