"""The whole API under requests made up from its own OpenAPI file: answered or refused in words, never a 5xx."""

import json
from uuid import uuid4

import schemathesis
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from schemathesis.core import NOT_SET
from schemathesis.generation import GenerationMode

from cradle.bench.models import Run
from cradle.devices.letting_in import let_in, make_code
from cradle.instruments.benches import add_instrument, add_place
from cradle.instruments.standins import STANDINS
from cradle.jobs.models import PartPhoto
from cradle.stock.keeping import receive
from layup.stock.articles import Article
from tests.changed_documents import documents
from tests.server.people import TwoShops
from tests.server.test_doors import SCHEMA

EXAMPLES = 6
MADE_UP_WHOLE = ("PUT /api/jobs/{job_id}", "POST /api/jobs/{job_id}/what-if", "POST /api/shops/{shop_id}/jobs")
DOCUMENTS, SEED = 40, 29


class Fuzzing(TwoShops):
    def test_no_changed_document_breaks_the_server_or_the_floor(self):
        """Numbers, lists and words of the demo jobs changed anywhere: refused at a field, or planned and kept."""
        self.client.raise_request_exception = False
        shop, job, kept = f"/api/shops/{self.shop.pk}", f"/api/jobs/{self.job.pk}", 0
        for number, document in enumerate(documents(DOCUMENTS, SEED)):
            with self.subTest(document=number):
                tried = self.send("post", f"{job}/what-if", {"document": document})
                made = self.send("post", f"{shop}/jobs", document)
                self.assertEqual((tried[0], made[0]), (made[0], tried[0]))
                self.assertIn(made[0], (200, 422))
                if made[0] == 422:
                    self.assertTrue(all(problem["message"] for problem in made[1]["problems"]))
                kept += made[0] == 200
        self.assertGreaterEqual(kept, 3)
        for path in ("jobs", "day", "due"):
            self.assertEqual(self.get(f"{shop}/{path}")[0], 200)

    def test_a_form_is_no_file(self):
        for path in (
            f"/api/shops/{self.shop.pk}/jobs/from-file",
            f"/api/shops/{self.shop.pk}/forecast",
            f"/api/jobs/{self.job.pk}/parts/bottom/stack-from-csv",
        ):
            with self.subTest(path=path):
                form = SimpleUploadedFile("file.csv", b"hour,temperature")
                client = Client(enforce_csrf_checks=True)
                client.force_login(self.person)
                client.get("/api/session")
                token = client.cookies["csrftoken"].value
                answer = client.post(path, {"file": form, "csrfmiddlewaretoken": token})
                self.assertEqual(answer.status_code, 422, answer.content)
                self.assertIn("as the body, not as a form", answer.json()["problems"][0]["message"])

    def test_a_save_that_is_too_large_is_told_so_in_words(self):
        big = {"base": {}, "document": {"name": "x" * 4_200_000}}
        status, answer = self.send("put", f"/api/jobs/{self.job.pk}", big)
        self.assertEqual(status, 422)
        self.assertIn("4.2 MB were sent at once, and 4.1 MB is the most", answer["problems"][0]["message"])

    def test_what_holds_more_than_any_job_is_refused_before_each_value_is_looked_at(self):
        bomb = {"document": {"name": "x", "parts": [0] * 500_000}}
        for method, path in (("post", f"/api/jobs/{self.job.pk}/what-if"), ("put", f"/api/jobs/{self.job.pk}")):
            status, answer = self.send(method, path, bomb)
            self.assertEqual(status, 422)
            self.assertEqual(
                [fault["message"][:30] for fault in answer["problems"]], ["holds more than 200,000 values"]
            )
        # What is wrong all over, and no longer than a job, is told as far as one reads.
        status, answer = self.send("post", f"/api/jobs/{self.job.pk}/what-if", {"document": {"parts": [0] * 5_000}})
        self.assertEqual((status, len(answer["problems"])), (422, 500))

    def test_a_moment_without_its_zone_is_refused_at_its_field(self):
        run = self.start_run()[1]
        event = {
            "tap_id": str(uuid4()),
            "about": "pot",
            "subject": "1",
            "kind": "touched",
            "happened_at": "2026-05-01T09:00:00",
        }
        status, answer = self.send("post", f"/api/runs/{run['id']}/events", event)
        self.assertEqual((status, answer["problems"][0]["path"]), (422, "happened_at"))

    def test_a_body_in_the_wrong_form_is_refused_in_words_by_every_route(self):
        forms = (
            b"[]",
            b'"words"',
            b"null",
            b"7",
            b"{",
            b"\xff\xfe",
            b"[" * 900 + b"]" * 900,
            b"9" * 4301,
            b'{"a":' + b"9" * 4301 + b"}",
        )
        for operation, path in self.operations():
            if operation.method == "get":
                continue
            for form in forms:
                with self.subTest(operation=operation.label, form=form[:12]):
                    self.client.force_login(self.person)
                    answer = self.client.generic(operation.method.upper(), path, form, content_type="application/json")
                    self.assertLess(answer.status_code, 500)
                    if operation.body and answer.status_code != 200:
                        self.assertTrue(self.words_of(answer), answer.content[:200])

    def words_of(self, answer) -> str:
        told = answer.json()
        return told["problems"][0]["message"] if "problems" in told else told["detail"]

    def test_moments_at_the_ends_of_time_are_planned_or_refused_at_their_field(self):
        job, document = f"/api/jobs/{self.job.pk}", self.job.latest().document
        run = self.start_run()[1]["id"]
        for moment in (
            *(
                "0001-01-01T00:00:00Z",
                "9999-12-31T23:59:59Z",
                "9999-12-31T23:59:59.999999-23:59",
                "0001-01-01T00:00:00+23:59",
            ),
            *("2026-05-01T08:00:00.5Z", "2026-05-01T08:00:00.123456789Z", "1900-01-01T08:00:00Z"),
        ):
            wished = document | {"pots": document["pots"] | {"start": moment}}
            event = {"tap_id": str(uuid4()), "about": "pot", "subject": "1", "kind": "touched", "happened_at": moment}
            for path, body in (
                (f"{job}/what-if", {"document": wished}),
                (f"/api/shops/{self.shop.pk}/jobs", wished),
                (f"{job}/starts", {"day": moment[:10]}),
                (f"{job}/latest-start", {"by": moment}),
                (f"/api/runs/{run}/events", event),
            ):
                with self.subTest(moment=moment, path=path):
                    status, answer = self.send("post", path, body)
                    self.assertIn(status, (200, 422))
                    if status == 422:
                        self.assertTrue(answer["problems"][0]["message"])
            table = f"hour;°C\n{moment};14\n".encode()
            forecast = self.client.post(f"/api/shops/{self.shop.pk}/forecast", table, content_type="text/csv")
            self.assertIn(forecast.status_code, (200, 422))
        for path in ("jobs", "day", "due"):
            self.assertEqual(self.get(f"/api/shops/{self.shop.pk}/{path}")[0], 200)

    def test_a_job_near_the_caps_is_saved_again(self):
        whole = self.job.latest().document
        joint = whole["joints"][0] | {"name": "x" * 120, "length_m": None}
        joints = [joint | {"id": f"{n:040}"} for n in range(1_900)]
        big = whole | {"parts": [], "joints": joints, "overrides": []}
        self.assertGreater(len(json.dumps(big)), 1_300_000)
        before = self.job.latest().document
        path = f"/api/jobs/{self.job.pk}"
        status, kept = self.send("put", path, {"base": before, "document": big})
        self.assertEqual(status, 200)
        again = {"base": kept["document"], "document": kept["document"] | {"name": "Again"}}
        self.assertEqual(self.send("put", path, again)[0], 200)

    def test_no_request_breaks_the_server(self):
        walked = 0
        for operation, path in self.operations():
            with self.subTest(operation=operation.label):
                self.fuzz(operation, path)
            walked += 1
        self.assertGreaterEqual(walked, 20)

    def operations(self):
        """Every operation of the API, with a path to things of this shop."""
        self.start_run()
        ids = {
            "shop_id": self.shop.pk,
            "job_id": self.job.pk,
            "run_id": Run.objects.get().pk,
            "number": 1,
            "event_id": 1,
            "invitation_id": 1,
            "kind": "filler",
            "record_id": 1,
        }
        place = add_place(self.shop, "By the door")
        ids |= {
            "place_id": place.pk,
            "device_id": let_in(make_code(self.shop, self.person, "bench stand")[0])[1].pk,
            "instrument_id": add_instrument(place, self.person, kind="scale", name="scale")[0].pk,
        }
        tin = Article(kind="resin", product_id="epoxy-2-1")
        ids["lot_id"] = receive(self.shop, self.person, tin, 900, received=self.shop.now().date()).pk
        photo = {"job": self.job, "part_id": "bottom", "by": self.person, "content": b""}
        ids["photo_id"] = PartPhoto.objects.create(id=uuid4(), **photo).pk
        self.addCleanup(STANDINS.stop, place.pk)
        ids |= {"product_id": self.epoxy.pk, "sheet_id": self.epoxy.sheets.get().pk}
        # The committed file is the API's own: `test_doors` holds them equal.
        whole = json.loads(SCHEMA.read_text())
        # A document made up is turned away by all routes alike: only those that keep and plan one are sent such; what is made up
        # beside the job's own gets further.
        schemas = whole["components"]["schemas"] | {"JobSpec": {"enum": [self.job.latest().document]}}
        narrow = whole | {"components": whole["components"] | {"schemas": schemas}}
        of_whole = {
            found.ok().label: found.ok() for found in schemathesis.openapi.from_dict(whole).get_all_operations()
        }
        for found in schemathesis.openapi.from_dict(narrow).get_all_operations():
            operation = found.ok()
            if operation.label in MADE_UP_WHOLE:
                operation = of_whole[operation.label]
            names = {"token": "no-such-token", "person": "nobody", "part_id": "bottom", "joint_id": "no-such-joint"}
            yield operation, operation.path.format(**names | ids)

    def fuzz(self, operation, path: str) -> None:
        def send(body) -> None:
            self.client.force_login(self.person)
            content = b"" if body is NOT_SET else json.dumps(body, default=str).encode()
            response = self.client.generic(operation.method.upper(), path, content, content_type="application/json")
            self.assertLess(response.status_code, 500, f"{operation.label} with {content[:400]}")

        if not operation.body:
            send(NOT_SET)
            return
        cases = (
            operation.as_strategy(generation_mode=mode) for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)
        )

        @settings(
            max_examples=EXAMPLES, phases=[Phase.generate], suppress_health_check=list(HealthCheck), database=None
        )
        @given(st.one_of(*cases))
        def run(case) -> None:
            send(case.body)

        run()
