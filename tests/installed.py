"""The program as a shop installs it: a wheel, in a bare environment outside the checkout."""

import subprocess
import sys
import tempfile
from functools import cache
from pathlib import Path

ROOT = Path(__file__).parents[1]


@cache
def program() -> Path:
    """The folder of an environment in which nothing is but the wheel and what it asks for, with a place to work beside it."""
    place = Path(tempfile.mkdtemp(prefix="inch-cradle-installed-"))
    uv = [sys.executable, "-m", "uv"]
    subprocess.run([*uv, "build", "--wheel", "--no-build-isolation", "--quiet", "--out-dir", place, ROOT], check=True)
    subprocess.run([*uv, "venv", "--quiet", "--python", sys.executable, place / "bare"], check=True)
    (wheel,) = place.glob("*.whl")
    subprocess.run([*uv, "pip", "install", "--quiet", "--python", place / "bare", wheel], check=True)
    return place


def command() -> Path:
    """Its command."""
    return program() / "bare" / "bin" / "inch-cradle"
