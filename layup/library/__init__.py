"""The generic library: materials of the usual kinds, under generic names, used until a shop types its own sheets."""

import tomllib
from functools import cache
from importlib.resources import files

from layup.shelf import Library


@cache
def generic() -> Library:
    """The library that ships with the core.

    >>> len(generic().fabrics) >= 8
    True
    """
    read = {}
    for name in ("fabrics", "resins", "fillers", "coats", "equipment"):
        read |= tomllib.loads(files("layup.library").joinpath(f"{name}.toml").read_text(encoding="utf-8"))
    return Library.model_validate(read)
