"""What only some systems have is asked for, not taken for granted: the program is installed on macOS and Windows as well.

Of every module of `cradle` and `layup`, and of `cradle.instruments.standins`.
"""

import ast
from pathlib import Path
from unittest import TestCase
from unittest.mock import patch
from uuid import uuid4

from django.conf import settings

from cradle.instruments.standins import StandIns
from layup.errors import OutOfRange

# Published: the library reference of Python names these as of Unix alone.
_MODULES = {"fcntl", "grp", "posix", "pty", "pwd", "resource", "syslog", "termios", "tty"}
_NAMES = {
    "os": {
        "chown",
        "fork",
        "getuid",
        "geteuid",
        "killpg",
        "mkfifo",
        "nice",
        "openpty",
        "set_blocking",
        "setsid",
        "ttyname",
    },
    "signal": {"SIGALRM", "SIGHUP", "SIGKILL", "SIGUSR1", "SIGUSR2", "alarm", "pause", "setitimer", "ITIMER_REAL"},
}
# Where a name is reached only once its system was asked.
_ASKED_FIRST = {
    "cradle/beside/worker.py": {"nice", "setitimer", "ITIMER_REAL"},
    "cradle/instruments/standins.py": {"set_blocking", "ttyname"},
}


def _files() -> list[Path]:
    return [file for folder in ("cradle", "layup") for file in (settings.BASE_DIR / folder).rglob("*.py")]


class OnEverySystem(TestCase):
    def test_no_module_is_imported_that_only_some_have(self):
        for file in _files():
            tree = ast.parse(file.read_text(encoding="utf-8"))
            tried = {id(part) for node in ast.walk(tree) if isinstance(node, ast.Try) for part in ast.walk(node)}
            for node in ast.walk(tree):
                names = [alias.name for alias in node.names] if isinstance(node, ast.Import) else []
                names += [node.module or ""] if isinstance(node, ast.ImportFrom) else []
                if id(node) not in tried:
                    self.assertFalse({name.split(".")[0] for name in names} & _MODULES, file)

    def test_no_name_is_reached_that_only_some_have(self):
        found: dict[str, set[str]] = {}
        for file in _files():
            for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
                of = node.value if isinstance(node, ast.Attribute) else None
                if isinstance(of, ast.Name) and node.attr in _NAMES.get(of.id, ()):
                    found.setdefault(file.relative_to(settings.BASE_DIR).as_posix(), set()).add(node.attr)
        self.assertEqual(found, _ASKED_FIRST)

    def test_simulated_instruments_say_what_they_lack(self):
        standins = StandIns()
        with patch("cradle.instruments.standins.pty", None), self.assertRaisesRegex(OutOfRange, "real ones work"):
            standins.start(uuid4(), 1.0, 20.0)
