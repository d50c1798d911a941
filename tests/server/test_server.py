"""The server as it is run: production checks, the content policy, backups that come back."""

import gzip
import io
import json
import os
import re
import sqlite3
import subprocess
import sys
import tempfile
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from types import SimpleNamespace
from unittest import TestCase
from unittest.mock import Mock, patch

from asgiref.sync import async_to_sync
from django.conf import settings
from django.db import DatabaseError, OperationalError
from django.test import Client
from django.utils import timezone
from uvicorn.config import Config
from uvicorn.server import ServerState

from cradle.daily_backups import DailyBackups
from cradle.door import PatientProtocol, with_a_cap
from cradle.keeping import Unsound, alone_at, put_back, require_sound, take_backup
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
        self.manage("diffsettings")
        key = self.folder / "secret_key"
        first = key.read_text()
        self.manage("diffsettings")
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

    def test_an_upgrade_copies_the_data_before_it_changes_it_and_one_can_go_back(self):
        self.shop()
        code = (
            "from pathlib import Path; from django.conf import settings; from cradle.upgrading import bring_up_to_date;"
            "print(bring_up_to_date(Path(settings.DATABASES['default']['NAME'])))"
        )
        self.assertEqual(self.manage("shell", "--no-imports", "-c", code).stdout.strip(), "None")
        # As it was before tablets could be let in.
        self.manage("migrate", "devices", "zero", "--verbosity", "0")
        copy = Path(self.manage("shell", "--no-imports", "-c", code).stdout.strip())
        self.assertTrue(copy.is_file())
        with closing(sqlite3.connect(self.database)) as now, closing(sqlite3.connect(copy)) as then:
            table = "SELECT count(*) FROM sqlite_master WHERE name = 'devices_device'"
            self.assertEqual((now.execute(table).fetchone(), then.execute(table).fetchone()), ((1,), (0,)))
            self.assertEqual(then.execute("SELECT username FROM auth_user").fetchall(), [("wren",)])
        self.manage("restore", str(copy))
        with closing(sqlite3.connect(self.database)) as now:
            self.assertEqual(now.execute(table).fetchone(), (0,))

    def test_a_server_before_older_or_newer_data_says_so_and_changes_nothing(self):
        empty = self.manage("serve", "--port", "0")
        self.assertEqual(empty.returncode, 1)
        self.assertIn("the data was not begun yet", empty.stderr)
        self.shop()
        applied = "SELECT count(*) FROM django_migrations"
        with closing(sqlite3.connect(self.database)) as data, data:
            data.execute("DELETE FROM django_migrations WHERE app = 'training'")
            before = data.execute(applied).fetchone()
        older = self.manage("serve", "--port", "0")
        self.assertIn("the data is of an earlier version", older.stderr)
        # Of the stock too: an app that another version added last.
        with closing(sqlite3.connect(self.database)) as data, data:
            data.execute(
                "INSERT INTO django_migrations (app, name, applied) VALUES ('stock', '9999_later', '2030-01-01')"
            )
        for command in (
            ("serve", "--port", "0"),
            ("here", "--quiet", "--port", "0"),
            ("shop", "--port", "0"),
            ("demo",),
        ):
            newer = self.manage(*command)
            self.assertIn("the data is of a newer version of Inch Cradle", newer.stderr, command)
            self.assertNotIn("Traceback", newer.stderr)
        with closing(sqlite3.connect(self.database)) as data:
            self.assertEqual(data.execute(applied).fetchone()[0], before[0] + 1)

    def test_one_copy_a_day_and_the_last_ones_stay(self):
        self.shop()
        day, daily = [datetime(2026, 11, 1, 9, tzinfo=UTC)], self.folder / "daily"
        backups, made = DailyBackups(self.database, daily, 3, lambda: day[0]), []
        for _ in range(5):
            made.append(backups.see_to_it())
            self.assertIsNone(backups.see_to_it())
            day[0] += timedelta(days=1)
        self.assertEqual(sorted(daily.iterdir()), made[-3:])
        require_sound(made[-1])
        # A day on which none can be made takes none of the others away.
        self.database.write_bytes(b"noise")
        with self.assertRaises(Unsound):
            backups.see_to_it()
        self.assertEqual(sorted(daily.iterdir()), made[-3:])

    @property
    def database(self) -> Path:
        return self.folder / "cradle.sqlite3"

    def shop(self) -> None:
        """A database with somebody in it, in this test's folder; made once."""
        if not self.made:
            self.manage("migrate", "--verbosity", "0")
            with closing(sqlite3.connect(self.database)) as opened:
                opened.execute(
                    "INSERT INTO auth_user (username, password, first_name, last_name, email, is_superuser, is_staff,"
                    " is_active, date_joined) VALUES ('wren', '!', '', '', '', 0, 0, 1, '2026-01-01')"
                )
                opened.commit()
                opened.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            type(self).made = self.database.read_bytes()
        self.database.write_bytes(self.made)

    def people(self) -> int:
        with closing(sqlite3.connect(self.database)) as opened:
            return opened.execute("SELECT count(*) FROM auth_user").fetchone()[0]

    def test_a_backup_comes_back_whole(self):
        self.shop()
        copy = Path(self.manage("backup").stdout.strip())
        with closing(sqlite3.connect(self.database)) as opened, opened:
            opened.execute("DELETE FROM auth_user")
        restored = self.manage("restore", str(copy))
        self.assertIn("what stood before is", restored.stdout)
        self.assertEqual(self.people(), 1)

    def test_what_is_foreign_newer_noise_or_nothing_touches_nothing(self):
        self.shop()
        other, before = self.folder / "other.sqlite3", self.database.read_bytes()

        def changed(statement: str) -> bytes:
            other.write_bytes(self.made)
            with closing(sqlite3.connect(other)) as opened, opened:
                opened.execute("PRAGMA journal_mode=DELETE")
                opened.execute(statement)
            return other.read_bytes()

        newer = "INSERT INTO django_migrations (app, name, applied) VALUES ('jobs', '0999_later', '2030-01-01')"
        for content, words in (
            (b"not a database at all" * 100, "no Inch Cradle database"),
            (b"", "no Inch Cradle database"),
            (changed("DROP TABLE django_migrations"), "no Inch Cradle database"),
            (changed("DROP TABLE bench_run"), "no whole copy"),
            (changed(newer), "newer than this one"),
            (self.made[: len(self.made) // 2], "database"),
        ):
            with self.subTest(content=content[:10], words=words):
                other.write_bytes(content)
                with self.assertRaisesRegex(Unsound, words):
                    put_back(other, self.database, timezone.now())
        self.assertEqual((self.database.read_bytes(), (self.folder / "backups").exists()), (before, False))
        refused = self.manage("restore", "nowhere.sqlite3")
        self.assertEqual((refused.returncode, "is not there" in refused.stderr), (1, True))

    def test_a_backup_comes_back_from_a_read_only_place_with_a_strange_name(self):
        self.shop()
        copy = take_backup(self.database, self.folder / "backups", timezone.now())
        strange = copy.with_name("the 3rd #1 100%?.sqlite3")
        copy.rename(strange)
        strange.chmod(0o400)
        strange.parent.chmod(0o500)
        self.addCleanup(strange.parent.chmod, 0o700)
        require_sound(strange)
        self.assertEqual([path.name for path in strange.parent.iterdir()], [strange.name])

    def test_nothing_is_restored_under_a_running_server_nor_served_twice(self):
        self.shop()
        copy = take_backup(self.database, self.folder / "backups", timezone.now())
        with alone_at(self.folder) as alone:
            self.assertTrue(alone)
            with self.assertRaisesRegex(Unsound, "stop it first, then restore"):
                put_back(copy, self.database, timezone.now())
            refused = self.manage("serve", "--port", "0")
            self.assertEqual((refused.returncode, "stop that server first" in refused.stderr), (1, True))
        put_back(copy, self.database, timezone.now())
        self.assertEqual(self.people(), 1)

    def test_a_backup_that_fails_says_so_and_leaves_nothing(self):
        self.shop()
        # Not a disk that is full, but a file that may not grow: the same to who writes.
        command = f"ulimit -f 100; exec {sys.executable} manage.py backup"
        failed = subprocess.run(
            ["bash", "-c", command],
            cwd=settings.BASE_DIR,
            env=os.environ | {"CRADLE_DATA_DIR": str(self.folder)},
            capture_output=True,
            text=True,
        )
        self.assertEqual(failed.returncode, 1)
        self.assertIn("no copy could be written", failed.stderr)
        self.assertEqual(list((self.folder / "backups").iterdir()), [])

    def test_an_empty_key_is_said(self):
        (self.folder / "secret_key").write_text("")
        refused = self.manage("diffsettings")
        self.assertEqual(refused.returncode, 1)
        self.assertIn("holds no key: delete it", refused.stderr)

    def test_the_folder_the_data_and_its_copies_are_their_owners_alone(self):
        self.shop()
        # As an older one left them.
        for path in (self.folder, self.folder / "cradle.sqlite3"):
            path.chmod(0o755)
        self.manage("backup")
        for path in (self.folder, *self.folder.rglob("*")):
            with self.subTest(path=path.name):
                self.assertEqual(path.stat().st_mode & 0o077, 0)


class Door(TestCase):
    """The ASGI application and the protocol around Django, as uvicorn calls them."""

    def asked(self, headers: list, messages: list[dict]) -> tuple[list[dict], list[dict]]:
        """What was answered, and what the application within was given."""
        answered, given = [], []

        async def application(scope, receive, send):
            given.extend([await receive() for _ in messages])

        async def receive():
            return next(waiting)

        async def send(message):
            answered.append(message)

        waiting = iter(messages)
        async_to_sync(with_a_cap(application))({"type": "http", "headers": headers}, receive, send)
        return answered, given

    def test_what_is_too_large_is_refused_before_it_is_taken_in(self):
        answered, given = self.asked([(b"content-length", b"400000000")], [])
        self.assertEqual((answered[0]["status"], given), (413, []))
        self.assertIn(
            "400 MB were sent at once, and 16 MB is the most", json.loads(answered[1]["body"])["problems"][0]["message"]
        )

    def test_what_does_not_say_how_large_it_is_ends_where_it_is_too_large(self):
        piece = {"type": "http.request", "body": b"x" * 9_000_000, "more_body": True}
        _, given = self.asked([], [piece, piece])
        self.assertEqual([message["type"] for message in given], ["http.request", "http.disconnect"])
        self.assertEqual(self.asked([(b"content-length", b"9000000")], [piece])[1], [piece])

    def test_a_request_that_is_never_sent_whole_is_hung_up_on(self):
        hung_up, scheduled = [], []
        loop = SimpleNamespace(time=lambda: 100.0, call_at=lambda at, of: scheduled.append(at) or Mock())
        loop.create_task = lambda work: work.close() or Mock()
        config = Config(None, lifespan="off")
        config.load()
        protocol = PatientProtocol(config=config, server_state=ServerState(), app_state={}, _loop=loop)
        transport = Mock()
        transport.close = lambda: hung_up.append(True)
        transport.get_extra_info.return_value = None
        protocol.connection_made(transport)
        # Nothing at all was sent, then half a head, then half a body, at the pace of a poor wireless.
        self.assertEqual(scheduled, [120.0])
        protocol.data_received(b"POST /api/session HTTP/1.1\r\nHost: bench")
        protocol.data_received(b"\r\nContent-Length: 200000\r\n\r\n")
        protocol.data_received(b"x" * 100_000)
        self.assertTrue(all(20 <= at - 100 < 20.1 for at in scheduled[:3]))
        self.assertAlmostEqual(scheduled[3], 122.0, delta=0.1)
        self.assertIsNotNone(protocol._hanging_up)
        protocol.data_received(b"x" * 100_000)
        self.assertIsNone(protocol._hanging_up)
        self.assertEqual(hung_up, [])


class Headers(TwoShops):
    def test_nothing_of_the_api_is_kept_by_a_browser(self):
        for path in ("/api/session", f"/api/jobs/{self.job.pk}", f"/api/jobs/{self.job.pk}/file"):
            self.assertEqual(self.client.get(path).headers["Cache-Control"], "no-store")
        self.assertEqual(Client().get(f"/api/jobs/{self.job.pk}").headers["Cache-Control"], "no-store")

    def test_answers_travel_compressed(self):
        path = f"/api/jobs/{self.job.pk}"
        plain, small = (self.client.get(path, headers=of) for of in ({}, {"Accept-Encoding": "gzip"}))
        self.assertEqual((small.headers["Content-Encoding"], "Content-Encoding" in plain.headers), ("gzip", False))
        self.assertLess(4 * len(small.content), len(plain.content))
        self.assertEqual(json.loads(gzip.decompress(small.content)), plain.json())

    def test_a_file_with_its_digest_in_its_name_is_kept_for_a_year_and_no_other(self):
        page = self.client.get("/")
        self.assertNotIn("immutable", page.headers.get("Cache-Control", ""))
        (script,) = re.findall(r'src="(/static/assets/index-[^"]+\.js)"', page.content.decode())
        kept = self.client.get(script)
        self.assertEqual(kept.headers["Cache-Control"], "max-age=315360000, public, immutable")

    def test_what_is_unchanged_is_answered_without_a_body(self):
        """Source: RFC 9110, 15.4.5."""
        for compressed in ({}, {"Accept-Encoding": "gzip"}):
            first = self.client.get("/static/sw.js", headers=compressed)
            again = self.client.get("/static/sw.js", headers=compressed | {"If-None-Match": first.headers["ETag"]})
            self.assertEqual((again.status_code, b"".join(again)), (304, b""))

    def test_what_keeps_the_pages_on_a_device_answers_for_all_of_them_and_is_looked_at_anew(self):
        keeper = self.client.get("/static/sw.js")
        self.assertEqual((keeper["Service-Worker-Allowed"], keeper["Cache-Control"]), ("/", "no-cache"))
        (script,) = re.findall(r'src="/static/(assets/index-[^"]+\.js)"', self.client.get("/").content.decode())
        self.assertIn(script, b"".join(keeper).decode())
        manifest = self.client.get("/static/manifest.webmanifest")
        self.assertEqual(manifest["Content-Type"], "application/manifest+json")
        told = json.loads(b"".join(manifest))
        self.assertEqual((told["scope"], told["display"]), ("/", "standalone"))
        for icon in told["icons"]:
            self.assertEqual(self.client.get(f"/static/{icon['src']}").status_code, 200)
        self.assertNotIn("Service-Worker-Allowed", self.client.get(f"/static/{script}"))

    def test_whoever_watches_over_it_may_ask_how_it_is(self):
        answer = Client().get("/api/health")
        self.assertEqual((answer.status_code, answer.json()["ok"]), (200, True))
        self.assertGreater(answer.json()["disk_free_mb"], 0)
        with patch("cradle.api.connection.cursor", side_effect=DatabaseError):
            self.assertEqual((Client().get("/api/health").status_code), 503)

    def test_a_disk_that_is_full_is_told_in_words_and_reads_go_on(self):
        path, document = f"/api/jobs/{self.job.pk}", self.job.latest().document
        changed = {"base": document, "document": document | {"name": "Not kept"}}
        for said, words in (
            ("database or disk is full", "disk of the server is full"),
            ("attempt to write a readonly database", "may not write in its data folder"),
            ("disk I/O error", "cannot write to its disk"),
        ):
            full = OperationalError(said)
            with (
                self.subTest(said=said),
                patch("django.db.models.Model.save", side_effect=full),
                patch("django.db.models.query.QuerySet.bulk_update", side_effect=full),
                self.assertLogs("cradle", "WARNING"),
            ):
                status, answer = self.send("put", path, changed)
                self.assertEqual(status, 507)
                self.assertIn(words, answer["problems"][0]["message"])
                for reading in (path, f"/api/shops/{self.shop.pk}/jobs", f"{path}/file", f"{path}/run-sheet.pdf"):
                    self.assertEqual(self.client.get(reading).status_code, 200)
        self.assertEqual(self.job.latest().document, document)

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
