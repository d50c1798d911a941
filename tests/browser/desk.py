"""A real server on a free port with its own data, and a real browser in front of it."""

import os
import shutil
import socket
import sqlite3
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.request
from collections.abc import Callable
from contextlib import closing, suppress
from fcntl import LOCK_EX, flock
from functools import cache
from multiprocessing.util import Finalize
from pathlib import Path

from playwright.sync_api import Browser, BrowserContext, Error, Page, Playwright, expect, sync_playwright

from cradle.demo_words import PASSWORD, PERSON

ROOT = Path(__file__).resolve().parent.parent.parent
_FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
# One process draws all pages, on one thread: the tests are many and the cores few.
_FEW_CORES = ["--process-per-site", "--renderer-process-limit=1", "--js-flags=--single-threaded"]
DATABASE = "cradle.sqlite3"
# A busy machine is slow, not broken.
_STARTS_WITHIN_S = 240
_SHOWS_WITHIN_MS = 120_000
expect.set_options(timeout=_SHOWS_WITHIN_MS)


def _at_the_end(of: Callable, *args, **named) -> None:
    """Called when this process of the tests ends; what is registered with `atexit` is not, in a parallel one."""
    Finalize(None, of, args, named, exitpriority=1)


# Parallel processes are begun with this read, so that they share it.
_SHARED = Path(tempfile.mkdtemp())
_at_the_end(shutil.rmtree, _SHARED, ignore_errors=True)


@cache
def _demo_data() -> Path:
    """A folder with the demo shop in it, made once, in one process, while the others wait for it."""
    folder = _SHARED / "demo"
    with (_SHARED / "lock").open("w") as lock:
        flock(lock, LOCK_EX)
        if not folder.exists():
            made = Path(tempfile.mkdtemp(dir=_SHARED))
            _manage(made, "shell", "--no-imports", "-c", _MADE)
            made.rename(folder)
    return folder


@cache
def _database(weather: bool) -> Path:
    """The demo shop's database; without weather its room stays as it was read."""
    if weather:
        return _demo_data() / DATABASE
    steady = Path(tempfile.mkdtemp()) / "steady.sqlite3"
    _at_the_end(shutil.rmtree, steady.parent, ignore_errors=True)
    shutil.copyfile(_demo_data() / DATABASE, steady)
    with closing(sqlite3.connect(steady)) as data, data:
        data.execute("UPDATE shops_shop SET forecast = '[]', forecast_from = '', expected = NULL")
    return steady


_MADE = "from django.core.management import call_command as c; c('migrate', verbosity=0); c('load_demo')"


def environment_of(folder: Path) -> dict[str, str]:
    return os.environ | {
        "CRADLE_DATA_DIR": str(folder),
        "CRADLE_HEAVY_BUDGET_S": "120",
        "DJANGO_SETTINGS_MODULE": "cradle.settings",
    }


def _manage(folder: Path, *arguments: str) -> None:
    command = [sys.executable, "manage.py", *arguments]
    subprocess.run(command, cwd=ROOT, env=environment_of(folder), check=True, capture_output=True)


class Server:
    """`manage.py serve` as a process, with the demo shop in a folder of its own."""

    where = ROOT

    def __init__(self):
        self.folder = Path(tempfile.mkdtemp())
        self._log, self._read = self.folder / "server.log", 0
        self.fill()
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.pages: Path | None = None
        self.start()

    def fill(self) -> None:
        """What lies in its folder before it starts."""
        shutil.copytree(_demo_data(), self.folder, dirs_exist_ok=True)

    def command(self) -> list[str]:
        return [sys.executable, "manage.py", "serve", "--port", str(self.port)]

    @property
    def answers_at(self) -> str:
        return self.address

    def start(self) -> None:
        environment = environment_of(self.folder) | ({"CRADLE_PAGES": str(self.pages)} if self.pages else {})
        with self._log.open("ab") as log:
            self.process = subprocess.Popen(self.command(), cwd=self.where, env=environment, stdout=log, stderr=log)
        until = time.monotonic() + _STARTS_WITHIN_S
        while time.monotonic() < until:
            with suppress(OSError), urllib.request.urlopen(self.answers_at, timeout=1):
                return
            time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def serve_pages_of(self, folder: Path | None) -> None:
        """Begin anew with the built pages of a folder; those of the project without one."""
        self.kill()
        self.pages = folder
        self.start()

    def begin_again(self, *, weather: bool) -> None:
        """The demo shop as it was at first, while the server runs; who is signed in stays so."""
        with closing(sqlite3.connect(_database(weather))) as first, closing(self.data()) as now, now:
            sessions = now.execute("SELECT * FROM django_session").fetchall()
            first.backup(now)
            now.executemany("INSERT INTO django_session VALUES (?, ?, ?)", sessions)
        if self.process.poll() is not None:
            self.start()

    def said(self) -> str:
        """What the server has written since it was last asked."""
        text = self._log.read_text(errors="replace")
        new, self._read = text[self._read :], len(text)
        return new

    def data(self) -> sqlite3.Connection:
        return sqlite3.connect(self.folder / DATABASE, timeout=60)

    def kill(self) -> None:
        self.process.kill()
        self.process.wait()

    def close(self) -> None:
        self.kill()
        shutil.rmtree(self.folder, ignore_errors=True)


@cache
def _server() -> Server:
    """One for all tests: it takes a while to start, and to make its tables of heat."""
    server = Server()
    _at_the_end(server.close)
    return server


@cache
def playwright() -> Playwright:
    play = sync_playwright().start()
    _at_the_end(play.stop)
    return play


@cache
def _browser() -> Browser:
    return launched(playwright(), *_FEW_CORES)


def launched(play: Playwright, *flags: str) -> Browser:
    """The packaged browser without a window."""
    return play.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=[*_FLAGS, *flags])


@cache
def _context(size: tuple[int, int]) -> BrowserContext:
    """One for all tests of a size: it has read the page's scripts before. Each test puts in it what it begins with."""
    return new_context(_browser(), size)


def new_context(browser: Browser, size: tuple[int, int], **named) -> BrowserContext:
    """A device of its own, which waits as long as all others for what it is to show."""
    width, height = size
    # What keeps the pages on a device is tried where it is meant: it would stand between all other tests and the server.
    named = {"color_scheme": "light", "service_workers": "block", **named}
    context = browser.new_context(viewport={"width": width, "height": height}, timezone_id="Europe/London", **named)
    context.set_default_timeout(_SHOWS_WITHIN_MS)
    return context


@cache
def _page(size: tuple[int, int]) -> Page:
    """One for all tests of a size: what it compiled of the page's scripts stays with it."""
    return _context(size).new_page()


def _put_away(page: Page, size: tuple[int, int]) -> None:
    """The page as the next test finds it, and no other beside it."""
    for other in page.context.pages:
        if other is not page:
            other.close()
    page.unroute_all(behavior="ignoreErrors")
    page.evaluate("() => sessionStorage.clear()")
    page.goto("about:blank")
    page.emulate_media(color_scheme="light")
    page.set_viewport_size({"width": size[0], "height": size[1]})


class DeskTest(unittest.TestCase):
    """A signed-in page for each test; anything the page reports as an error fails it."""

    size = (1280, 800)
    # A room that changes with the hour of the day changes what is chosen with it: tests that are not of it have it still.
    weather = False
    signed_in = None

    def __getstate__(self) -> dict[str, object]:
        """What goes with a test to another process, or is told of it there: not the browser it failed in."""
        browsers = [name for name, value in vars(self).items() if type(value).__module__.startswith("playwright")]
        return vars(self) | dict.fromkeys(browsers) | {"_cleanups": []}

    @classmethod
    def setUpClass(cls):
        cls.server, cls.browser = _server(), _browser()
        cls.server.begin_again(weather=cls.weather)

    def setUp(self):
        context, self.page = _context(self.size), _page(self.size)
        context.set_storage_state(DeskTest.signed_in or {})
        self.errors: list[str] = []

        def note(error: Error) -> None:
            self.errors.append(str(error))

        self.page.on("pageerror", note)
        self.addCleanup(_put_away, self.page, self.size)
        self.addCleanup(self.page.remove_listener, "pageerror", note)
        self.page.goto(self.server.address)
        name, floor = self.page.get_by_label("Name"), self.page.get_by_role("heading", name="Jobs")
        expect(name.or_(floor)).to_be_visible()
        if name.is_visible():
            name.fill(PERSON)
            self.page.get_by_label("Password").fill(PASSWORD)
            self.page.get_by_role("button", name="Sign in").click()
            expect(floor).to_be_visible()
            # The next test goes on from here.
            DeskTest.signed_in = context.storage_state()

    def tearDown(self):
        self.assertEqual(self.errors, [])
        said = self.server.said()
        self.assertFalse("Traceback" in said, said)

    def open(self, job: str) -> None:
        self.page.get_by_role("list", name="Jobs").get_by_role("link").filter(has_text=job).click()
        expect(self.page.get_by_role("navigation", name="Steps")).to_be_visible()

    def another_device(self, size: tuple[int, int] = (1024, 768), **named) -> BrowserContext:
        context = new_context(self.browser, size, **named)
        self.addCleanup(context.close)
        return context

    @property
    def sheet(self):
        return self.page.get_by_role("region", name="Sheet")

    def step(self, name: str) -> None:
        self.page.get_by_role("navigation", name="Steps").get_by_role("link", name=name).click()

    def fill(self, label: str, words: str) -> None:
        field = self.page.get_by_label(label, exact=True)
        field.fill(words)
        field.press("Enter")

    def pick(self, label: str, option: str) -> None:
        self.page.get_by_role("combobox", name=label).click()
        self.page.get_by_role("option", name=option, exact=True).click()
        expect(self.page.get_by_role("listbox")).to_have_count(0)
        # What closes gives the cursor back a moment later: what is typed next would go there.
        self.page.evaluate("() => new Promise((done) => setTimeout(done, 0))")

    def to_the_bench(self) -> None:
        """Take the plan to the bench past what is not cut and not signed off, with a reason."""
        self.page.get_by_label("Why go on all the same").fill("only a trial")
        self.page.get_by_role("button", name="Begin all the same").click()
        self.page.get_by_role("button", name="Take it to the bench").click()

    def saved(self) -> None:
        expect(self.page.get_by_role("status").filter(has_text="saved")).to_have_text("saved")

    def new_job(self, name: str) -> None:
        self.page.get_by_label("New job").fill(name)
        self.page.get_by_role("button", name="Start").click()
        expect(self.page.get_by_role("navigation", name="Steps")).to_be_visible()
