"""What the guide says, and what changed in each version: read once, from the files beside this."""

import tomllib
from datetime import date
from functools import cache
from pathlib import Path
from typing import Self

from django.conf import settings
from pydantic import Field, model_validator

from layup.record import Record


class Block(Record):
    """One of four: words, steps to follow, the name of a picture, or a caution."""

    words: str = ""
    steps: tuple[str, ...] = ()
    picture: str = ""
    careful: str = ""

    @model_validator(mode="after")
    def _is_one(self) -> Self:
        if [bool(self.words), bool(self.steps), bool(self.picture), bool(self.careful)].count(True) != 1:
            raise ValueError("a block is one thing")
        return self


class GuidePage(Record):
    """A page, with the questions that lead to it."""

    id: str = Field(min_length=1)
    title: str = Field(min_length=1)
    asks: tuple[str, ...] = Field(min_length=1)
    blocks: tuple[Block, ...] = Field(min_length=1)


class Version(Record):
    """What changed in a version, in words for builders."""

    version: str
    on: date
    words: tuple[str, ...] = Field(min_length=1)


def _read(name: str) -> dict:
    return tomllib.loads((Path(__file__).parent / name).read_text(encoding="utf-8"))


@cache
def pages() -> tuple[GuidePage, ...]:
    """All of the guide, in the order of the work."""
    return tuple(GuidePage.model_validate(page) for page in _read("pages.toml")["pages"])


@cache
def versions() -> tuple[Version, ...]:
    """The newest first."""
    return tuple(Version.model_validate(version) for version in _read("changes.toml")["versions"])


def picture(name: str) -> Path:
    """Where a picture of the guide lies."""
    return settings.GUIDE_PICTURES / f"{name}.png"
