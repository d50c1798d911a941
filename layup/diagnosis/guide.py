"""The guide's data: questions with their answers, causes with how often they show each, and what mends them."""

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Literal, Self

from pydantic import Field, model_validator

from layup.record import Record

Often = Literal["always", "often", "sometimes", "seldom", "never"]
Family = Literal["two_part", "styrene"]
Again = Literal["nothing", "coat", "layers"]
# Of a hundred cases so many show it (memory): only the steps between the words count.
WEIGHTS: Mapping[Often, float] = {"always": 90, "often": 60, "sometimes": 25, "seldom": 6, "never": 1}


class Question(Record):
    """What is asked, with its answers by their ids. A `test` is something to do first; `rest` is how often a cause gives an
    answer that it does not name.
    """

    id: str
    words: str
    answers: dict[str, str]
    test: bool = False
    rest: Often = "seldom"


class Cause(Record):
    """What may have gone wrong. `prior` is how common it is beside the others; `shows` how often it gives each answer.

    `rule` is the id of the caution that would have caught it, none where no rule can see it.
    """

    id: str
    name: str
    says: str
    prior: float = Field(gt=0)
    mend: str
    record: str
    source: str
    family: Family | None = None
    rule: str = ""
    shows: dict[str, dict[str, Often]]

    def often(self, question: Question, answer: str) -> Often | None:
        """How often it gives an answer; None where it says nothing of the question."""
        if question.id == "family":
            return None if self.family is None else "always" if answer == self.family else "never"
        shown = self.shows.get(question.id)
        return None if shown is None else shown.get(answer, question.rest)

    def share(self, question: Question, answer: str) -> float:
        """The share of its cases that give an answer; alike for all answers of what it says nothing of.

        >>> cold = guide().cause("cold")
        >>> round(cold.share(guide().question("warm"), "harder"), 2)
        0.99
        """
        weights = {each: WEIGHTS[self.often(question, each) or "sometimes"] for each in question.answers}
        return weights[answer] / sum(weights.values())


class Mend(Record):
    """What mends it, step by step. `hours_per_m2` are of one pair of hands; `resin_gsm` is what a coat takes, g/m²."""

    id: str
    words: str
    steps: tuple[str, ...]
    hours_per_m2: float
    waits_h: float
    source: str
    again: Again = "nothing"
    resin_gsm: float = 0.0


class Guide(Record):
    """All of it. What names another has it, and every answer that a cause shows is one of the question's."""

    questions: tuple[Question, ...]
    causes: tuple[Cause, ...]
    mends: tuple[Mend, ...]

    @model_validator(mode="after")
    def _whole(self) -> Self:
        asked = {question.id: question for question in self.questions}
        mends = {mend.id for mend in self.mends}
        for cause in self.causes:
            if cause.mend not in mends:
                raise ValueError(f"{cause.id} is mended by {cause.mend}, which is not there")
            for question, shown in cause.shows.items():
                if question not in asked or set(shown) - set(asked[question].answers):
                    raise ValueError(f"{cause.id} shows what nobody asks: {question}")
        return self

    def question(self, question_id: str) -> Question:
        return next(each for each in self.questions if each.id == question_id)

    def cause(self, cause_id: str) -> Cause:
        return next(each for each in self.causes if each.id == cause_id)

    def mend(self, mend_id: str) -> Mend:
        return next(each for each in self.mends if each.id == mend_id)


@cache
def guide() -> Guide:
    """The guide that ships with the core.

    >>> len(guide().causes) > 20
    True
    """
    return Guide.model_validate(
        tomllib.loads(files("layup.library").joinpath("causes.toml").read_text(encoding="utf-8"))
    )
