"""The wheel in a bare environment: the main job by command and by browser, a newcomer from nothing to his first ticket, a data
folder of the oldest version, and what is left when the program is removed.

Of `cradle.command`, `hatch_build`, `cradle.upgrading`, and what of the project goes into the wheel.
"""

import gzip
import json
import os
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from playwright.sync_api import expect

from cradle.demo_jobs import locker_lid
from cradle.demo_words import PASSWORD, PERSON
from cradle.version import VERSION
from tests.browser.desk import DATABASE, Server, launched, new_context, playwright
from tests.first_hour import MOST_PRESSES, Newcomer, begins, comes_to_a_ticket
from tests.installed import ROOT, command, program

OLDEST = ROOT / "tests" / "server" / "samples" / "data-0.1.0.sql.gz"


class InstalledServer(Server):
    """`inch-cradle` as a process, away from the checkout."""

    def __init__(self, fill=lambda folder: None):
        self._fill, self.where = fill, program()
        super().__init__()

    def fill(self) -> None:
        self._fill(self.folder)

    def command(self) -> list[str]:
        return [str(command()), "--port", str(self.port), "--quiet"]


def oldest(folder: Path) -> None:
    """The data of the oldest version that is kept."""
    with closing(sqlite3.connect(folder / DATABASE)) as data:
        data.executescript(gzip.decompress(OLDEST.read_bytes()).decode())


class Installed(unittest.TestCase):
    def run_it(self, *words: str, **environment: str) -> subprocess.CompletedProcess:
        folder = tempfile.mkdtemp()
        self.addCleanup(shutil.rmtree, folder)
        inherited = {name: value for name, value in os.environ.items() if not name.startswith(("CRADLE_", "DJANGO_"))}
        return subprocess.run(
            [command(), *words], cwd=folder, env=inherited | environment, capture_output=True, text=True
        )

    def browser(self, server: Server):
        self.addCleanup(server.close)
        chromium = launched(playwright())
        self.addCleanup(chromium.close)
        page = new_context(chromium, (1280, 800), locale="en-GB").new_page()
        errors: list[str] = []
        page.on("pageerror", lambda error: errors.append(str(error)))
        self.addCleanup(lambda: self.assertEqual(errors, []))
        page.goto(server.address)
        return page

    def test_the_main_job_by_command_needs_no_data(self):
        job = program() / "job.json"
        job.write_text(locker_lid().model_dump_json())
        with tempfile.TemporaryDirectory() as home:
            places = {"HOME": home, "XDG_DATA_HOME": f"{home}/data"}
            planned = self.run_it("plan", str(job), **places)
            self.assertEqual((planned.returncode, planned.stderr), (0, ""))
            by_core = subprocess.run(
                [sys.executable, "-m", "layup", "plan", job], cwd=ROOT, capture_output=True, text=True, check=True
            )
            self.assertEqual(json.loads(planned.stdout), json.loads(by_core.stdout))
            checked = self.run_it("check", str(job), **places)
            self.assertIn("sound", checked.stdout)
            for words in (("plan", "nowhere.json"), ("mix",)):
                refused = self.run_it(*words, **places)
                self.assertEqual(refused.returncode, 2)
                self.assertNotIn("Traceback", refused.stderr)
            self.assertEqual(self.run_it("--version").stdout, f"Inch Cradle {VERSION}\n")
            self.assertIn("inch-cradle restore FILE", self.run_it("help").stdout)
            self.assertEqual(os.listdir(home), [])
            # Its data lies where this system keeps such things, and nowhere else.
            self.run_it("backup", **places)
            self.assertEqual(os.listdir(home), ["data"])
            self.assertEqual(os.listdir(f"{home}/data"), ["inch-cradle"])

    def test_a_newcomer_comes_to_his_first_ticket(self):
        page = self.browser(InstalledServer())
        who = Newcomer(page)
        begins(who)
        comes_to_a_ticket(who)
        # What the scale must show, by the label he typed: 44 parts to 100 by weight.
        poured = [
            int(words.split()[1])
            for words in page.get_by_text("tared", exact=False).filter(has_text="pour").all_inner_texts()
        ]
        self.assertAlmostEqual(poured[1] / poured[0], 0.44, delta=0.005)
        self.assertLessEqual(who.presses, MOST_PRESSES)
        # The guide ships with its pictures.
        page.goto(f"{page.url.split('/jobs')[0]}/guide/ticket")
        shown = page.get_by_alt_text("The screen of Ticket")
        expect(shown).to_be_visible()
        self.assertGreater(shown.evaluate("image => image.naturalWidth"), 1000)

    def test_data_of_the_oldest_version_is_copied_then_brought_up_to_this_one(self):
        server = InstalledServer(oldest)
        page = self.browser(server)
        page.get_by_label("Name").fill(PERSON)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("list", name="Jobs").get_by_role("link").filter(has_text="Locker lid").click()
        page.get_by_role("navigation", name="Steps").get_by_role("link", name="Log").click()
        expect(page.get_by_role("table").filter(has_text="Poured")).to_be_visible()
        (copy,) = (server.folder / "backups" / "before-upgrades").iterdir()
        with closing(sqlite3.connect(copy)) as before, closing(server.data()) as now:
            applied = "SELECT count(*) FROM django_migrations"
            self.assertLess(before.execute(applied).fetchone(), now.execute(applied).fetchone())
            kept = "SELECT tap_id, kind, data FROM bench_event ORDER BY id"
            self.assertEqual(before.execute(kept).fetchall(), now.execute(kept).fetchall())
        # A second start changes nothing, and copies nothing but what each day has once.
        server.kill()
        server.start()
        self.assertEqual(len(list(copy.parent.iterdir())), 1)
        (of_today,) = (server.folder / "backups" / "daily").glob("*.sqlite3")
        self.assertGreater(of_today.stat().st_size, 0)
        self.assertIn(f"Inch Cradle is at {server.address}", server.said())

    def test_two_programs_do_not_share_a_port_or_a_folder(self):
        server = InstalledServer()
        self.addCleanup(server.close)
        folder = {"CRADLE_DATA_DIR": str(server.folder)}
        for port, words in ((server.port, "another program may be there"), (0, "served from this data folder already")):
            again = self.run_it("here", "--port", str(port), "--quiet", **folder)
            self.assertEqual(again.returncode, 1)
            self.assertIn(words, again.stderr)
            self.assertNotIn("Traceback", again.stderr)

    def test_all_it_asks_for_is_there_as_a_wheel_on_every_system(self):
        """Nothing comes as source: nobody at a boat has a compiler."""
        systems = ("x86_64-manylinux_2_28", "aarch64-manylinux_2_28", "aarch64-apple-darwin", "x86_64-apple-darwin")
        resolve = [sys.executable, "-m", "uv", "pip", "install", "--dry-run", "--quiet", "--only-binary", ":all:"]
        for system in (*systems, "x86_64-pc-windows-msvc"):
            for python in ("3.11", "3.12", "3.13"):
                with self.subTest(system=system, python=python), tempfile.TemporaryDirectory() as place:
                    of = ["--python-platform", system, "--python-version", python, "--target", place]
                    found = subprocess.run(
                        [*resolve, *of, "-r", ROOT / "requirements.txt"], capture_output=True, text=True
                    )
                    self.assertEqual(found.returncode, 0, found.stderr)

    def test_removed_it_takes_its_own_files_and_no_others(self):
        """An installer removes what the record names: nothing of it lies where data lies."""
        (record,) = (program() / "bare").glob("lib/*/site-packages/inch_cradle-*.dist-info/RECORD")
        names = {line.split(",")[0] for line in record.read_text().splitlines()}
        roots = {name.split("/")[0] for name in names if name != "../../../bin/inch-cradle"}
        self.assertEqual(roots, {"cradle", "layup", record.parent.name})
        # What only the checkout needs, and what nobody may have, stays out of it.
        self.assertFalse(
            [name for name in names if "test" in name.split("/")[0] or name.endswith((".sqlite3", "secret_key"))]
        )
        self.assertIn("cradle/pages/sw.js", names)
