"""The kinds of fabric a stack may be written in, with the words for each."""

import tomllib
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def kinds() -> dict[str, dict[str, Any]]:
    """The kinds of fabric the quick line knows, by their short name.

    >>> kinds()["csm"]["meaning"]
    'chopped mat, emulsion bound'
    """
    read: dict[str, dict[str, Any]] = tomllib.loads(
        files("layup.library").joinpath("kinds.toml").read_text(encoding="utf-8")
    )["kinds"]
    return read
