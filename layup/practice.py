"""The choices on which schools differ, each with what speaks for it."""

import tomllib
from functools import cache
from importlib.resources import files

from pydantic import BaseModel, ConfigDict


class School(BaseModel):
    model_config = ConfigDict(frozen=True)

    value: str
    reason: str


class PracticeChoice(BaseModel):
    """One field of a practice: the question, and each school with its reason. The first is the default."""

    model_config = ConfigDict(frozen=True)

    field: str
    question: str
    options: tuple[School, ...]


@cache
def practice_choices() -> tuple[PracticeChoice, ...]:
    """Every choice, in the order of the work. Source: common practice.

    >>> practice_choices()[0].options[0].value
    'weight'
    """
    read = tomllib.loads(files("layup.library").joinpath("practice.toml").read_text(encoding="utf-8"))
    return tuple(PracticeChoice.model_validate(choice) for choice in read["choices"])
