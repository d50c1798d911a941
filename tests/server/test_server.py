"""The server as it is run: production checks, the content policy, backups that come back."""

import io
import os
import sqlite3
import subprocess
import sys
import tempfile
from contextlib import closing
from pathlib import Path
from unittest import TestCase

from django.conf import settings
from django.test import Client

from cradle.keeping import Unsound, require_sound
from tests.server.people import TwoShops


class Managed(TestCase):
    """Commands in a data folder of their own."""

    made = b""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def manage(self, *arguments: str, **environment: str) -> subprocess.CompletedProcess:
        settings_ = {"CRADLE_DATA_DIR": str(self.folder), "DJANGO_SETTINGS_MODULE": "cradle.settings"}
        command = [sys.executable, "manage.py", *arguments]
        return subprocess.run(
            command, cwd=settings.BASE_DIR, env=os.environ | settings_ | environment, capture_output=True, text=True
        )

    def test_production_checks_have_no_warnings(self):
        checked = self.manage(
            "check", "--deploy", "--fail-level", "WARNING", CRADLE_HTTPS="1", CRADLE_HOSTS="bench.example"
        )
        self.assertEqual(
            (checked.returncode, "no issues" in checked.stdout + checked.stderr), (0, True), checked.stderr
        )

    def test_the_signing_key_is_made_once_and_is_its_owners_alone(self):
        self.manage("check")
        key = self.folder / "secret_key"
        first = key.read_text()
        self.manage("check")
        self.assertEqual((key.read_text(), len(first) >= 50), (first, True))
        self.assertEqual(key.stat().st_mode & 0o077, 0)

    def test_the_database_waits_writes_through_and_keeps_its_references(self):
        code = (
            "from django.db import connection as c; cursor = c.cursor();"
            "print(*(cursor.execute(f'PRAGMA {p}').fetchone()[0] for p in"
            " ('journal_mode', 'synchronous', 'foreign_keys', 'busy_timeout')))"
        )
        said = self.manage("shell", "--no-imports", "-c", code).stdout.split()
        self.assertEqual(said, ["wal", "2", "1", "10000"])

    def demo_shop(self) -> None:
        """The demo shop in this test's folder; made once."""
        if not self.made:
            self.manage("migrate", "--verbosity", "0")
            self.manage("load_demo")
            type(self).made = (self.folder / "cradle.sqlite3").read_bytes()
        (self.folder / "cradle.sqlite3").write_bytes(self.made)

    def test_a_backup_comes_back_whole(self):
        self.demo_shop()
        copy = Path(self.manage("backup").stdout.strip())
        database = self.folder / "cradle.sqlite3"
        with closing(sqlite3.connect(database)) as opened:
            opened.execute("DELETE FROM bench_potevent")
            opened.commit()
        restored = self.manage("restore", str(copy))
        self.assertIn("what stood before is", restored.stdout)
        with closing(sqlite3.connect(database)) as opened:
            self.assertEqual(opened.execute("SELECT count(*) FROM bench_potevent").fetchone()[0], 12)

    def test_a_file_that_is_no_backup_touches_nothing(self):
        self.demo_shop()
        database = self.folder / "cradle.sqlite3"
        before = database.read_bytes()
        wrong = self.folder / "wrong.sqlite3"
        for content in (b"not a database at all" * 100, b""):
            with self.subTest(content=content[:10]):
                wrong.write_bytes(content)
                self.assertEqual(self.manage("restore", str(wrong)).returncode, 1)
                with self.assertRaises(Unsound):
                    require_sound(wrong)
        self.assertEqual(database.read_bytes(), before)
        self.assertEqual(self.manage("restore", "nowhere.sqlite3").returncode, 1)


class Headers(TwoShops):
    def test_every_answer_forbids_scripts_in_the_page(self):
        for path in ("/", "/api/session", "/jobs/x"):
            with self.subTest(path=path):
                policy = Client().get(path)["Content-Security-Policy"]
                self.assertIn("script-src 'self';", policy)
                self.assertIn("frame-ancestors 'none'", policy)

    def test_the_page_holds_no_script_of_its_own_and_nothing_from_outside(self):
        page = io.BytesIO(Client().get("/").content).read().decode()
        self.assertNotIn("http", page.replace("http-equiv", ""))
        self.assertEqual(page.count("<script"), page.count('<script type="module" crossorigin src="/static/'))

    def test_a_new_password_ends_the_other_sessions(self):
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}")[0], 200)
        self.person.set_password("another-long-word")
        self.person.save()
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}")[0], 401)
