"""A real server with the demo shop in a folder of its own, and someone signed in to it."""

import http.client
import http.cookiejar
import json
import statistics
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path
from typing import TypeVar

from cradle.demo_words import PASSWORD, PERSON
from tests.browser.desk import ROOT, Server, environment_of

Answer = TypeVar("Answer")
KEPT_OPEN_S = 3
SET_UP = "import django; django.setup()\n"


class Desk:
    """The API as a signed-in person's program uses it."""

    def __init__(self, server: Server):
        self.server = server
        self.cookies = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.cookies))
        self.get("/api/session")
        session = self.send("POST", "/api/session", {"person": PERSON, "password": PASSWORD})
        self.shop_id = session["shops"][0]["id"]

    def get(self, path: str):
        return self.send("GET", path)

    def send(self, method: str, path: str, body=None):
        token = next((cookie.value for cookie in self.cookies if cookie.name == "csrftoken"), "")
        headers = {"Content-Type": "application/json", "X-CSRFToken": token}
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(self.server.address + path, data, headers, method=method)
        with self.opener.open(request, timeout=60) as answer:
            return json.load(answer)

    def script(self, code: str, *arguments: str) -> str:
        """What a script prints that is run on the server's data."""
        command = [sys.executable, "-c", SET_UP + code, *arguments]
        env = environment_of(self.server.folder)
        return subprocess.run(command, cwd=ROOT, env=env, check=True, stdout=subprocess.PIPE, text=True).stdout


class Tablet:
    """One person's device: a connection of its own that stays open, signed in."""

    def __init__(self, desk: Desk, session: str = ""):
        self.connection = http.client.HTTPConnection("127.0.0.1", desk.server.port, timeout=120)
        self.until = 0.0
        token = "t" * 32
        signed_in = f"sessionid={session}; " if session else ""
        self.headers = {
            "Content-Type": "application/json",
            "Cookie": f"{signed_in}csrftoken={token}",
            "X-CSRFToken": token,
        }

    def send(self, method: str, path: str, body: dict | None = None) -> tuple[int, bytes]:
        if time.monotonic() > self.until:
            # Kept open no longer by the server.
            self.connection.close()
        self.connection.request(method, path, body and json.dumps(body), self.headers)
        self.until = time.monotonic() + KEPT_OPEN_S
        answer = self.connection.getresponse()
        return answer.status, answer.read()


_PEOPLE = """
import sys
from django.contrib.auth import HASH_SESSION_KEY, SESSION_KEY, BACKEND_SESSION_KEY
from django.contrib.auth.models import User
from django.contrib.sessions.backends.db import SessionStore
from cradle.shops.models import Membership, Shop
shop = Shop.objects.get()
for at in range(int(sys.argv[1])):
    person = User.objects.create(username=f"person-{at}", password="!")
    Membership.objects.create(shop=shop, person=person, role="owner")
    session = SessionStore()
    session[SESSION_KEY], session[BACKEND_SESSION_KEY] = str(person.pk), "django.contrib.auth.backends.ModelBackend"
    session[HASH_SESSION_KEY] = person.get_session_auth_hash()
    session.create()
    print(session.session_key)
"""


def tablets(desk: Desk, count: int) -> list[Tablet]:
    """So many people of the demo shop, each at a device of his own."""
    return [Tablet(desk, session) for session in desk.script(_PEOPLE, str(count)).split()]


def at_once(asks: list[Callable[[], Answer]]) -> list[Answer]:
    """What each of them comes to, all begun in the same moment."""
    gate = threading.Barrier(len(asks))

    def ask(of: Callable[[], Answer]) -> Answer:
        gate.wait()
        return of()

    with ThreadPoolExecutor(len(asks)) as threads:
        return list(threads.map(ask, asks))


def processes_of(pid: int) -> list[int]:
    """A process with all that come of it."""
    children = Path(f"/proc/{pid}/task").glob("*/children")
    return [
        pid,
        *(below for each in children for child in each.read_text().split() for below in processes_of(int(child))),
    ]


def light_plan_ms(tablet: Tablet, job_id: str, room_c: float, times: int = 120) -> float:
    """The 95th percentile of the time to an answer, of a light job in one room after another, ms."""
    took = []
    for number in range(times):
        began = time.perf_counter()
        tablet.send("POST", f"/api/jobs/{job_id}/what-if", {"room_c": room_c + number / 100})
        took.append(1000 * (time.perf_counter() - began))
        time.sleep(0.05)
    return statistics.quantiles(took, n=20)[-1]


@contextmanager
def demo_server() -> Iterator[Desk]:
    server = Server()
    try:
        yield Desk(server)
    finally:
        server.close()
