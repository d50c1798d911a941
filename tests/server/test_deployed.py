"""What keeps the server running for good says of it what is so: the unit, the container file.

Of `deploy/`. Nothing here can build an image; what the file runs is tried instead.
"""

import configparser
import json
import re
import shlex
import subprocess
from unittest import TestCase

from django.conf import settings
from django.core.management import load_command_class

DEPLOY = settings.BASE_DIR / "deploy"


def _instructions() -> list[tuple[str, str]]:
    """The container file, an instruction a line."""
    text = re.sub(r"\\\n\s*", " ", (DEPLOY / "Containerfile").read_text())
    lines = [line for line in text.splitlines() if line.strip() and not line.startswith("#")]
    return [(word, rest) for word, _, rest in (line.partition(" ") for line in lines)]


class Deployed(TestCase):
    def setUp(self):
        unit = configparser.ConfigParser(strict=False, interpolation=None)
        unit.optionxform = str
        unit.read(DEPLOY / "inch-cradle.service")
        self.service, self.container = unit["Service"], _instructions()

    def test_both_start_the_server_of_the_shop_as_it_takes_its_words(self):
        (runs,) = [json.loads(rest) for word, rest in self.container if word == "CMD"]
        self.assertEqual(shlex.split(self.service["ExecStart"]), runs)
        folder = next(rest for word, rest in reversed(self.container) if word == "WORKDIR")
        self.assertEqual(self.service["WorkingDirectory"], folder)
        self.assertEqual(runs[:2], [f"{folder}/.venv/bin/python", "manage.py"])
        parser = load_command_class("cradle", runs[2]).create_parser("manage.py", runs[2])
        options = parser.parse_args(runs[3:])
        (exposed,) = [rest for word, rest in self.container if word == "EXPOSE"]
        self.assertEqual(exposed.split(), [str(options.port), str(options.trust_port)])

    def test_what_the_container_makes_can_be_made(self):
        targets = [rest for word, rest in self.container if word == "RUN" and rest.startswith("make ")]
        self.assertEqual(len(targets), 1)
        wanted = shlex.split(targets[0].split("&&")[0])[1:]
        tried = subprocess.run(["make", "-n", *wanted], cwd=settings.BASE_DIR, capture_output=True, text=True)
        self.assertEqual(tried.returncode, 0, tried.stderr)

    def test_it_writes_in_its_own_folder_alone_and_says_how_it_is(self):
        (volume,) = [rest for word, rest in self.container if word == "VOLUME"]
        self.assertIn(("ENV", f"CRADLE_DATA_DIR={volume}"), self.container)
        self.assertEqual(self.service["Environment"], "CRADLE_DATA_DIR=/var/lib/inch-cradle")
        self.assertEqual(self.service["ProtectSystem"], "strict")
        (health,) = [rest for word, rest in self.container if word == "HEALTHCHECK"]
        command = json.loads(health[health.index("CMD") + 3 :])
        compile(command[2], "health", "exec")
        self.assertIn(f"{volume}/authority/authority.crt", command[2])
        self.assertIn("/api/health", command[2])

    def test_no_data_and_no_key_goes_into_an_image(self):
        left_out = (settings.BASE_DIR / ".dockerignore").read_text().split()
        self.assertLessEqual({"data", ".git", ".venv", "web/node_modules"}, set(left_out))
