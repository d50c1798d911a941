"""A real server with the demo shop in a folder of its own, and someone signed in to it."""

import http.cookiejar
import json
import subprocess
import sys
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager

from cradle.demo_words import PASSWORD, PERSON
from tests.browser.desk import ROOT, Server, environment_of

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


@contextmanager
def demo_server() -> Iterator[Desk]:
    server = Server()
    try:
        yield Desk(server)
    finally:
        server.close()
