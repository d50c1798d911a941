"""The whole API under requests made up from its own OpenAPI file: answered or refused in words, never a 5xx."""

import json

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from schemathesis.core import NOT_SET
from schemathesis.generation import GenerationMode

from cradle.api import api
from cradle.bench.models import Run
from tests.server.people import TwoShops

EXAMPLES = 40


class Fuzzing(TwoShops):
    def test_no_request_breaks_the_server(self):
        self.start_run()
        ids = {"shop_id": self.shop.pk, "job_id": self.job.pk, "run_id": Run.objects.get().pk, "number": 1}
        ids |= {"product_id": self.epoxy.pk, "sheet_id": self.epoxy.sheets.get().pk}
        self.client.raise_request_exception = False
        schema = schemathesis.openapi.from_dict(json.loads(json.dumps(api.get_openapi_schema(), default=str)))
        walked = 0
        for found in schema.get_all_operations():
            operation = found.ok()
            path = operation.path.format(**{"token": "no-such-token", "person": "nobody", "part_id": "bottom"} | ids)
            with self.subTest(operation=operation.label):
                self.fuzz(operation, path)
            walked += 1
        self.assertGreaterEqual(walked, 20)

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
