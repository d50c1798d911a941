"""Job files: what leaves comes back the same, old versions are read, hostile files are refused quickly and cheaply.

Of `layup.document`, `layup.job`, `layup.materials`.
"""

import json
import tracemalloc
from pathlib import Path
from unittest import TestCase

import jsonschema_rs
from hypothesis import given
from hypothesis import strategies as st

from cradle.demo_jobs import buoy_lid, skiff
from layup.__main__ import asked
from layup.document import DEEPEST, MOST_BYTES
from layup.errors import LayupError
from layup.job import VERSION
from layup.job_file import Refused, depth_of, fresh, may_stand_empty, read_job, schema, write_job
from layup.plan import plan
from tests.core.jobs import at

HERE = Path(__file__).parent
PUBLISHED = HERE.parent.parent / "docs" / "job.schema.json"
FOR_THE_PAGE = PUBLISHED.parent.parent / "web/src/api"


class ThereAndBack(TestCase):
    def test_a_job_comes_back_the_same_and_plans_the_same(self):
        for job in (skiff(), buoy_lid()):
            with self.subTest(job=job.name):
                again = read_job(write_job(job))
                self.assertEqual(again, job)
                self.assertEqual(plan(again, at(19)), plan(job, at(19)))

    def test_a_sample_of_every_version_is_read(self):
        for version in range(1, VERSION + 1):
            with self.subTest(version=version):
                job = read_job((HERE / "samples" / f"job_v{version}.json").read_bytes())
                self.assertEqual((job.version, plan(job, at(19)).problems), (VERSION, ()))

    def test_the_published_schema_is_the_models(self):
        self.assertEqual(json.loads(PUBLISHED.read_text()), schema(), "run `make schema`")
        for name, told in (
            ("may_stand_empty", may_stand_empty()),
            ("fresh", fresh()),
            ("asked", asked()),
        ):
            self.assertEqual(json.loads((FOR_THE_PAGE / f"{name}.json").read_text()), told, "run `make schema`")

    def test_a_strict_validator_takes_the_schema_and_the_jobs_and_no_other(self):
        """published: JSON Schema 2020-12, by a validator of its own."""
        jsonschema_rs.meta.validate(schema())
        validator = jsonschema_rs.Draft202012Validator(schema())
        for job in (skiff(), buoy_lid()):
            written = json.loads(write_job(job))
            self.assertEqual([str(fault) for fault in validator.iter_errors(written)], [])
            self.assertFalse(validator.is_valid(written | {"wings": 2}))

    def test_every_field_of_the_schema_says_what_it_is_and_in_which_unit(self):
        models = [schema(), *schema()["$defs"].values()]
        told = {name: field["description"] for model in models for name, field in model.get("properties", {}).items()}
        self.assertGreater(len(told), 150)
        for name, description in told.items():
            self.assertRegex(description, r"^[A-Z][^_]*\.$", name)
        for name, description in (
            ("roll_width_mm", "Roll width, in millimetres."),
            ("density_g_per_cm3", "Density, in grams a cubic centimetre."),
            ("bulk_density_g_per_l", "Bulk density, in grams a litre."),
            ("price_per_m2", "Price a square metre."),
            ("humidity_pct", "Humidity, in per cent."),
            ("substrate", "Substrate."),
        ):
            self.assertEqual(told[name], description)


class Hostile(TestCase):
    def check_refused(self, content: bytes, words: str) -> None:
        tracemalloc.start()
        with self.assertRaisesRegex(LayupError, words):
            read_job(content)
        _, peak = tracemalloc.get_traced_memory()
        tracemalloc.stop()
        self.assertLess(peak, 60e6)

    def test_each_cap(self):
        ply = {"fabric_id": "csm-450"}
        plies = [ply | {"id": f"y{n}"} for n in range(300)]
        shape = {"kind": "area", "area_m2": 1}
        parts = [
            {"id": f"p{p}", "shape": shape, "plies": [y | {"id": f"p{p}{y['id']}"} for y in plies]} for p in range(2)
        ]
        joints = [{"id": f"j{n}"} for n in range(2001)]
        for content, words in (
            (b" " * (MOST_BYTES + 1), "larger than 2 MB"),
            (b"[" * 900_000, "nests deeper than 12"),
            (b'{"a":' * (DEEPEST + 1), "nests deeper"),
            (json.dumps({"name": "x", "parts": parts}).encode(), "500 plies at most"),
            (json.dumps({"name": "x", "joints": joints}).encode(), "2000 at most"),
            (b'{"name": "' + b"x" * 1_900_000 + b'"}', "120 letters or fewer"),
            (b'{"name": "x", "parts": [' + b"0," * 900_000 + b"0]}", "more than 100,000 values"),
            (b"\xff\xfe\x00", "not text"),
            (b"name: x", "not JSON"),
            (b'{"name": "x", "version": NaN}', "no version"),
            (b"[]", "holds no job"),
            (b'{"name": "x", "version": 99}', "newer Inch Cradle"),
            (b'{"name": "x", "version": true}', "no version"),
            (b'{"name": "x", "pots": {"largest_g": 1e999}}', "must be"),
        ):
            with self.subTest(words=words, content=content[:30]):
                self.check_refused(content, words)

    def test_every_fault_is_told_with_its_path(self):
        document = json.loads(write_job(skiff()))
        document["parts"][0]["shape"]["width_m"] = -1
        document["joints"][0]["sides"] = 7
        with self.assertRaises(Refused) as refused:
            read_job(json.dumps(document).encode())
        self.assertEqual([path for path, _ in refused.exception.faults], ["parts.0.shape.width_m", "joints.0.sides"])

    @given(st.binary(max_size=400))
    def test_no_bytes_break_it(self, content):
        try:
            read_job(content)
        except LayupError as error:
            self.assertTrue(error.message)

    @given(st.recursive(st.none() | st.text(max_size=9), lambda inner: st.lists(inner, max_size=3)))
    def test_depth_is_that_of_the_parsed_text(self, tree):
        def deep(node) -> int:
            return 1 + max(map(deep, node), default=0) if isinstance(node, list) else 0

        self.assertEqual(depth_of(json.dumps(tree)), deep(tree))
