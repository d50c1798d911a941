"""Samples to judge by their signs: what went wrong, or nothing. The signs are drawn as its cause shows them."""

from collections.abc import Mapping
from functools import partial
from random import Random

from layup.diagnosis.ask import CauseFound, found, shares_of
from layup.diagnosis.guide import Cause, Guide, Question, guide
from layup.record import Record
from layup.training.numbered import numbered

GOOD = "good"
# A sample is told until its cause is so likely, by so many signs at most, and so many causes are offered (memory).
_PLAIN, _FEWEST_SIGNS, _MOST_SIGNS, _OFFERED = 0.8, 3, 7, 4
_NOTHING = "Nothing: it is cured as it should be"
# Of so many samples one is good.
_ONE_GOOD_OF = 6
_GOOD_SIGNS: Mapping[str, str] = {"mark": "none", "sand": "dust", "rag": "nothing", "knock": "clear", "cup": "hard"}


class Sign(Record):
    """A sign of a sample: what was asked or done, and what it showed."""

    question: str
    asked: str
    answer: str
    shown: str
    test: bool


class Choice(Record):
    """A cause that is offered."""

    id: str
    name: str


class Sample(Record):
    """A sample with its signs, the causes offered, the right one, and why: what it is, what its record would have told, and
    what speaks against each of the others.
    """

    id: str
    signs: tuple[Sign, ...]
    choices: tuple[Choice, ...]
    cause: str
    says: str
    record: str
    against: dict[str, str]
    source: str


def sample(sample_id: str) -> Sample:
    """The sample that an id names, such as `sample-12`. Raises Missing where there is none.

    >>> told = sample("sample-12")
    >>> told == sample("sample-12"), told.cause in [choice.id for choice in told.choices]
    (True, True)
    """
    _, seed = numbered(sample_id, ("sample",))
    dice = Random(f"sample {seed}")
    if seed % _ONE_GOOD_OF == 0:
        return _good(sample_id, dice)
    data = guide()
    cause, answers = _plain(data, dice)
    others = [each for each in found(answers).causes if each.id != cause.id][: _OFFERED - 2]
    choices = [Choice(id=each.id, name=each.name) for each in (cause, *(data.cause(other.id) for other in others))]
    dice.shuffle(choices)
    return Sample(
        id=sample_id,
        signs=tuple(_sign(data.question(question), answer) for question, answer in answers.items()),
        choices=(*choices, Choice(id=GOOD, name=_NOTHING)),
        cause=cause.id,
        says=cause.says,
        record=cause.record,
        against={each.id: _against(each) for each in others},
        source=cause.source,
    )


def _plain(data: Guide, dice: Random) -> tuple[Cause, dict[str, str]]:
    """A cause and its signs, drawn until they leave little doubt."""
    while True:
        cause = dice.choice(data.causes)
        answers = _signs_of(data, cause, dice)
        if shares_of(data, answers)[cause.id] >= _PLAIN:
            return cause, answers


def _signs_of(data: Guide, cause: Cause, dice: Random) -> dict[str, str]:
    """Signs as the cause shows them, the ones that part it from the others first, until it is plain."""
    answers: dict[str, str] = {}
    for question_id in ("seen", "family"):
        question = data.question(question_id)
        answers[question_id] = _shown(question, cause, dice)
    while len(answers) < _MOST_SIGNS:
        if shares_of(data, answers)[cause.id] >= _PLAIN and len(answers) > _FEWEST_SIGNS:
            break
        worth = [question for question in data.questions if question.id not in answers and question.id in cause.shows]
        if not worth:
            break
        best = max(worth, key=partial(_share_after, data, cause, answers))
        answers[best.id] = _most_shown(best, cause)
    return answers


def _share_after(data: Guide, cause: Cause, answers: Mapping[str, str], question: Question) -> float:
    return shares_of(data, {**answers, question.id: _most_shown(question, cause)})[cause.id]


def _most_shown(question: Question, cause: Cause) -> str:
    return max(question.answers, key=lambda answer: cause.share(question, answer))


def _shown(question: Question, cause: Cause, dice: Random) -> str:
    """An answer that the cause gives often, one time this and another time that."""
    most = cause.share(question, _most_shown(question, cause))
    return dice.choice([answer for answer in question.answers if cause.share(question, answer) > 0.6 * most])


def _sign(question: Question, answer: str) -> Sign:
    return Sign(
        question=question.id, asked=question.words, answer=answer, shown=question.answers[answer], test=question.test
    )


def _against(other: CauseFound) -> str:
    if other.against:
        return f"It seldom goes with “{other.against[0]}”."
    return "It may show the same, and less often."


def _good(sample_id: str, dice: Random) -> Sample:
    data = guide()
    causes = dice.sample([cause for cause in data.causes if cause.shows.keys() & _GOOD_SIGNS.keys()], _OFFERED - 1)
    standing = {each.id: each for each in found(_GOOD_SIGNS).causes}
    return Sample(
        id=sample_id,
        signs=tuple(_sign(data.question(question), answer) for question, answer in _GOOD_SIGNS.items()),
        choices=(*(Choice(id=cause.id, name=cause.name) for cause in causes), Choice(id=GOOD, name=_NOTHING)),
        cause=GOOD,
        says="A nail leaves no mark, it sands to dry dust, it sounds clear, and the rest in the cup is hard right through.",
        record="Write down when it could be sanded: your own clock for this resin in this room.",
        against={cause.id: _against(standing[cause.id]) for cause in causes},
        source="common practice",
    )
