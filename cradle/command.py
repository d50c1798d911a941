"""`inch-cradle`: the program as it is installed, for a shop without a checkout."""

import os
import sys
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from cradle.version import VERSION


@dataclass(frozen=True)
class _Command:
    """What is typed, what it does, the words it takes after it, and how it goes on."""

    does: str
    run: Callable[[list[str]], int]
    takes: str = ""


def _django(name: str) -> Callable[[list[str]], int]:
    """Run as a command of the server, which knows its own options."""

    def run(rest: list[str]) -> int:
        from django.core.management import ManagementUtility

        ManagementUtility(["inch-cradle", name, *rest]).execute()
        return 0

    return run


def _core(name: str) -> Callable[[list[str]], int]:
    """Run as a command of the core, which needs no data."""

    def run(rest: list[str]) -> int:
        from layup.__main__ import main as core

        return core([name, *rest])

    return run


def _demo(rest: list[str]) -> int:
    """The invented shop, in a folder of its own beside the shop's data."""
    from platformdirs import user_data_path

    os.environ.setdefault("CRADLE_DATA_DIR", str(user_data_path("inch-cradle") / "demo"))
    return _django("demo")(rest)


_COMMANDS = {
    "here": _Command("open it on this machine; the same as no word at all", _django("here"), "[--port N] [--quiet]"),
    "shop": _Command("serve it on the shop's network, for tablets and phones", _django("shop"), "[--port N]"),
    "demo": _Command("try it with an invented shop, apart from your own data", _demo, "[--port N]"),
    "backup": _Command("copy the data, also while it runs", _django("backup")),
    "restore": _Command("put a copy back, and keep what stood there", _django("restore"), "FILE"),
    "password": _Command("give somebody a new password, who has forgotten his", _django("password"), "NAME"),
    "plan": _Command("plan a job from its file, without any data", _core("plan"), "FILE"),
    "check": _Command("say whether a job file is sound, and what its plan waits for", _core("check"), "FILE"),
}


def _help() -> str:
    wide = max(len(f"{name} {command.takes}") for name, command in _COMMANDS.items())
    rows = [f"  inch-cradle {f'{name} {command.takes}':{wide}}  {command.does}" for name, command in _COMMANDS.items()]
    where = "The data lies where this system keeps such things, or in the folder that CRADLE_DATA_DIR names."
    return "\n".join(["Inch Cradle plans and runs fibreglass and carbon layups.", "", *rows, "", where])


def main(typed: Sequence[str] | None = None) -> int:
    """Run what was typed. Answers 0, or 2 where it is not understood."""
    words = list(sys.argv[1:] if typed is None else typed)
    if words[:1] in (["--help"], ["-h"], ["help"]):
        print(_help())
        return 0
    if words[:1] == ["--version"]:
        print(f"Inch Cradle {VERSION}")
        return 0
    name, rest = (words[0], words[1:]) if words and not words[0].startswith("-") else ("here", words)
    command = _COMMANDS.get(name)
    if command is None:
        print(f"{name} is no word of this program.\n\n{_help()}", file=sys.stderr)
        return 2
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "cradle.settings")
    # Settings tell by the first word whether it serves a network.
    sys.argv = ["inch-cradle", name, *rest]
    return command.run(rest)
