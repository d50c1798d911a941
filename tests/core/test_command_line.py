"""`python -m layup`: JSON out, faults on standard error with their paths, exit 2."""

import contextlib
import io
import json
import tempfile
from pathlib import Path
from unittest import TestCase

from cradle.demo_jobs import skiff
from layup.__main__ import main


class CommandLine(TestCase):
    def run_core(self, text: str | None, *arguments: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with tempfile.TemporaryDirectory() as folder, contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            file = Path(folder) / "job.json"
            if text is not None:
                file.write_text(text, encoding="utf-8")
            code = main([word.replace("FILE", str(file)) for word in arguments])
        return code, out.getvalue(), err.getvalue()

    def test_a_job_file_plans_alone(self):
        code, out, err = self.run_core(skiff().model_dump_json(), "plan", "FILE")
        self.assertEqual((code, err), (0, ""))
        self.assertEqual(json.loads(out)["pots"][0]["first"], 1)

    def test_faults_name_their_field(self):
        document = skiff().model_dump(mode="json")
        document["parts"][0]["shape"]["width_m"] = -2
        code, out, err = self.run_core(json.dumps(document), "plan", "FILE")
        self.assertEqual((code, out, err), (2, "", "parts.0.shape.width_m: must be 0.001 or more\n"))

    def test_what_is_missing_is_a_fault_too(self):
        code, _, err = self.run_core('{"name": "New"}', "plan", "FILE")
        self.assertEqual(code, 2)
        self.assertIn("resins.0.resin_id: choose the resin", err)

    def test_check_says_whether_a_file_is_sound(self):
        code, out, _ = self.run_core(skiff().model_dump_json(), "check", "FILE")
        self.assertEqual(code, 0)
        self.assertRegex(out, r"^Estuary skiff: sound, \d+ pots, \d+ cautions$")
        self.assertEqual(self.run_core("[" * 50, "check", "FILE")[0], 2)

    def test_no_file_and_no_json(self):
        self.assertEqual(self.run_core(None, "plan", "FILE")[0], 2)
        self.assertEqual(self.run_core("{", "plan", "FILE")[0], 2)

    def test_the_schema_is_a_schema(self):
        code, out, _ = self.run_core(None, "schema")
        self.assertEqual((code, json.loads(out)["properties"]["version"]["const"]), (0, 2))
