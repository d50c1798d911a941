"""Which chapter of the core may know which: what is drawn here is read out of the imports themselves."""

import ast
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path
from unittest import TestCase

import layup

ROOT = Path(layup.__file__).parent
# Who knows a kind of work by its name: the list of kinds, and its field in the plan. Its field in the job is a document.
_BY_NAME = {"kinds", "outcome"}
# What else reaches into a kind: the fewer the better, and none may come to it.
MAY_KNOW = {
    # Sums for learners are asked of what every chapter works out.
    "joints": _BY_NAME | {"training"},
    "pours": _BY_NAME,
    # A coat lies among the plies of a part: the part weighs it, and its own chapter tells it.
    "coats": _BY_NAME | {"laminate", "training"},
    "laminate": _BY_NAME
    | {
        "joints",
        "coats",
        "cautions",
        "heat",
        "workings",
        "bag",
        "infusion",
        "stiffness",
        "repair",
        "finish",
        "as_built",
        "training",
    },
    "stiffness": _BY_NAME,
    "finish": _BY_NAME,
    # What is laid under a bag is closed in by it, and an infusion is drawn through one.
    "bag": _BY_NAME | {"laminate", "infusion"},
    # The bench is told of an infusion by its record.
    "infusion": _BY_NAME | {"bench"},
}


def _imported(file: Path) -> Iterator[str]:
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module and node.module.split(".")[0] == "layup":
            whole = node.module.split(".")
            yield from [whole[1]] if whole[1:] else [alias.name for alias in node.names]
        elif isinstance(node, ast.Import):
            yield from (alias.name.split(".")[1] for alias in node.names if alias.name.startswith("layup."))


class Arrows(TestCase):
    def setUp(self):
        self.knows: dict[str, set[str]] = defaultdict(set)
        for file in ROOT.rglob("*.py"):
            chapter = file.relative_to(ROOT).parts[0].removesuffix(".py")
            self.knows[chapter] |= set(_imported(file)) - {chapter}

    def test_a_kind_of_work_is_known_to_few(self):
        for kind, may in MAY_KNOW.items():
            with self.subTest(kind=kind):
                self.assertEqual({who for who, knows in self.knows.items() if kind in knows} - may, set())
        # What is read here is really there.
        self.assertIn("laminate", self.knows["kinds"])

    def test_the_core_knows_neither_the_server_nor_its_library(self):
        for file in ROOT.rglob("*.py"):
            named = {
                word.split(".")[0]
                for node in ast.walk(ast.parse(file.read_text()))
                for word in (
                    [node.module or ""]
                    if isinstance(node, ast.ImportFrom)
                    else [alias.name for alias in node.names]
                    if isinstance(node, ast.Import)
                    else []
                )
            }
            self.assertEqual(named & {"django", "ninja", "cradle", "tests"}, set(), file.name)

    def test_the_job_document_knows_no_chapter(self):
        below = {
            "document",
            "materials",
            "shapes",
            "castings",
            "under_vacuum",
            "finish_wishes",
            "damage",
            "as_found",
            "usual",
            "errors",
            "architecture",
            "scales",
            "printable",
            "units",
        }
        self.assertLessEqual(self.knows["job"], below)

    def test_what_everything_stands_on_stands_on_nothing(self):
        for chapter in ("errors", "words", "record", "printable", "document"):
            self.assertLessEqual(self.knows[chapter], {"errors", "printable"}, chapter)
        for chapter in ("units", "customs", "scales", "paper", "csv_cells"):
            below = {"errors", "words", "record", "printable", "document", "units", "customs", "scales"}
            self.assertLessEqual(self.knows[chapter], below, chapter)
