"""From answers and the log to the causes, the question that parts them best, and what may be done over it meanwhile."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from math import log2
from typing import Literal

from layup.diagnosis.from_log import LogSays
from layup.diagnosis.guide import Cause, Guide, Question, guide
from layup.errors import OutOfRange
from layup.record import Record

# What the log points to is so many times as likely as before (memory).
POINTED_TO = 20.0
# Something to do counts as so many questions (memory); a question that parts less than this, in bits, is not worth asking.
A_TEST_COSTS, WORTH_ASKING = 1.5, 0.02
# So far apart two causes answer what is said to tell them apart (memory).
TELLS_APART = 0.25
# By its share a cause is called likely, or one that may be (memory).
LIKELY, MAY_BE = 0.5, 0.08
# Of the likeliest cause so many odd answers are doubted (memory): one that it seldom gives counts once, one it never gives twice.
ODD = 2

Standing = Literal["likely", "may be", "hardly", "ruled out"]
Wish = Literal["pour", "missing part", "top up", "coat", "warm"]
State = Literal["not known", "uncured", "sticky surface", "cured"]
WISHES: Mapping[Wish, str] = {
    "pour": "Pour a fresh mix over it",
    "missing part": "Spread the missing part over it",
    "top up": "Top it up",
    "coat": "Sand it and coat it",
    "warm": "Warm it and wait",
}


class CauseFound(Record):
    """A cause as it stands: its share of what is possible, and why: what the log says of it, which answers it seldom gives."""

    id: str
    name: str
    says: str
    source: str
    share: float
    standing: Standing
    log: tuple[str, ...] = ()
    against: tuple[str, ...] = ()


class Ask(Record):
    """The next question, and the two causes it parts best, by name."""

    id: str
    words: str
    answers: dict[str, str]
    test: bool
    parts: tuple[str, ...] = ()


class MayIt(Record):
    """Whether what somebody would like to do may be done, and why."""

    wish: Wish
    words: str
    allowed: bool | None
    because: str


class Found(Record):
    """What is found so far. `doubt` says that no one cause shows all of it."""

    causes: tuple[CauseFound, ...]
    ask: Ask | None
    state: State
    may: tuple[MayIt, ...]
    doubt: str = ""


def found(
    answers: Mapping[str, str],
    log: Iterable[LogSays] = (),
    *,
    skipped: Collection[str] = (),
    of: Guide | None = None,
) -> Found:
    """What the answers, by the ids of their questions, and the log make of it. Raises OutOfRange, with the question as its
    path, for an answer that is not one of its own. What was `skipped` is not asked again.

    Naive Bayes: each cause by how common it is times how often it gives each answer; the log rules out or points to. The next
    question is the one that is expected to leave the least doubt (entropy), a test counted dearer. Published forms; every
    frequency in them is from memory.

    >>> known = found({"seen": "sticky", "family": "two_part", "depth": "surface", "water": "goes"})
    >>> known.causes[0].name, known.causes[0].standing
    ('Blush: a greasy film of the hardener', 'likely')
    """
    data, log = of or guide(), tuple(log)
    _require(data, answers)
    out = {each.cause for each in log if each.rules_out}
    shares = shares_of(data, answers, log)
    causes = sorted((_told(data, cause, shares[cause.id], answers, log) for cause in data.causes), key=_place)
    leading = [cause for cause in data.causes if cause.id not in out and shares[cause.id] > 0]
    leading.sort(key=lambda cause: -shares[cause.id])
    state = _state(answers)
    return Found(
        causes=tuple(causes),
        ask=_next(data, {*answers, *skipped}, shares, leading),
        state=state,
        may=tuple(_may(wish, state) for wish in WISHES),
        doubt=_doubt(data, causes, answers),
    )


def _require(data: Guide, answers: Mapping[str, str]) -> None:
    asked = {question.id: question for question in data.questions}
    for question, answer in answers.items():
        if question not in asked:
            raise OutOfRange("nobody asks this", f"answers.{question}")
        if answer not in asked[question].answers:
            raise OutOfRange("choose one of its answers", f"answers.{question}")


def shares_of(data: Guide, answers: Mapping[str, str], log: Sequence[LogSays] = ()) -> dict[str, float]:
    """The share that each cause has of what is possible, by its id; all nought where the log leaves none.

    >>> told = shares_of(guide(), {"seen": "sticky", "water": "goes"})
    >>> max(told, key=told.get), round(sum(told.values()), 9)
    ('blush', 1.0)
    """
    out = {each.cause for each in log if each.rules_out}
    pointed = {each.cause for each in log if not each.rules_out}
    weights = {}
    for cause in data.causes:
        weight = 0.0 if cause.id in out else cause.prior * (POINTED_TO if cause.id in pointed else 1.0)
        for question, answer in answers.items():
            weight *= cause.share(data.question(question), answer)
        weights[cause.id] = weight
    whole = sum(weights.values())
    return {cause: weight / whole if whole else 0.0 for cause, weight in weights.items()}


def _told(data: Guide, cause: Cause, share: float, answers: Mapping[str, str], log: Sequence[LogSays]) -> CauseFound:
    said = [each for each in log if each.cause == cause.id]
    against = [
        data.question(question).answers[answer]
        for question, answer in answers.items()
        if cause.often(data.question(question), answer) in ("seldom", "never")
    ]
    standing: Standing = "likely" if share >= LIKELY else "may be" if share >= MAY_BE else "hardly"
    if any(each.rules_out for each in said):
        standing = "ruled out"
    return CauseFound(
        id=cause.id,
        name=cause.name,
        says=cause.says,
        source=cause.source,
        share=share,
        standing=standing,
        log=tuple(each.words for each in said),
        against=tuple(against),
    )


def _place(cause: CauseFound) -> tuple[bool, float]:
    return cause.standing == "ruled out", -cause.share


def _doubt(data: Guide, causes: Sequence[CauseFound], answers: Mapping[str, str]) -> str:
    first = causes[0]
    if first.standing == "ruled out":
        return "The log rules out every cause that is known here: look whether it was written down as it was"
    cause = data.cause(first.id)
    often = [cause.often(data.question(question), answer) for question, answer in answers.items()]
    odd = 2 * often.count("never") + often.count("seldom")
    if odd < ODD or odd * 2 < len(answers):
        return ""
    return (
        "No one cause here shows all of this. Two things may have gone wrong, or one answer is off: "
        f"{first.name.lower()} seldom goes with “{first.against[0]}”"
    )


def _next(data: Guide, asked: Collection[str], shares: Mapping[str, float], leading: Sequence[Cause]) -> Ask | None:
    """The question that is worth most for its cost; none where nothing would be learned."""
    open_questions = [question for question in data.questions if question.id not in asked]
    if len(leading) < 2 or not open_questions:
        return None
    worth = {question.id: _bits(question, shares, leading) for question in open_questions}
    best = max(open_questions, key=lambda question: worth[question.id] / (A_TEST_COSTS if question.test else 1.0))
    if worth[best.id] < WORTH_ASKING:
        return None
    first, second = leading[:2]
    parts = (first.name, second.name) if _apart(best, first, second) > TELLS_APART else ()
    return Ask(id=best.id, words=best.words, answers=best.answers, test=best.test, parts=parts)


def _apart(question: Question, one: Cause, other: Cause) -> float:
    """How far two causes differ in what they answer: nought alike, one never the same."""
    answers = question.answers
    return sum(abs(one.share(question, answer) - other.share(question, answer)) for answer in answers) / 2


def _bits(question: Question, shares: Mapping[str, float], causes: Sequence[Cause]) -> float:
    """How much doubt a question is expected to take away, bits."""
    before, after = _doubt_bits([shares[cause.id] for cause in causes]), 0.0
    for answer in question.answers:
        together = [shares[cause.id] * cause.share(question, answer) for cause in causes]
        after += sum(together) * _doubt_bits(together)
    return before - after


def _doubt_bits(weights: Sequence[float]) -> float:
    whole = sum(weights)
    return -sum(weight / whole * log2(weight / whole) for weight in weights if weight > 0) if whole else 0.0


def _state(answers: Mapping[str, str]) -> State:
    """How it stands, by what was touched. What tears or runs is not cured, whatever else was said."""
    sand, depth, mark = answers.get("sand"), answers.get("depth"), answers.get("mark")
    if mark == "tears" or answers.get("seen") == "liquid":
        return "uncured"
    if depth == "surface":
        return "cured" if sand == "dust" or answers.get("seen") in ("craters", "wrinkled") else "sticky surface"
    if sand in ("clogs", "smears") or depth == "through" or answers.get("seen") == "soft":
        return "uncured"
    if sand == "dust" or mark == "none":
        return "cured"
    return "not known"


_NEVER = "Never. What is below stays soft under it, and the new coat lifts off or cracks: take the soft off first"
_TEST_FIRST = "Sand a spot first: dry dust means that it is cured"
_MAY: Mapping[Wish, Mapping[State, tuple[bool, str]]] = {
    "pour": {
        "uncured": (False, _NEVER),
        "sticky surface": (False, "Not yet. Find out first what the film is: over wax, grease or blush nothing holds"),
        "cured": (False, "Not as it is: sand it first, or nothing holds it"),
    },
    "missing part": dict.fromkeys(
        ("not known", "uncured", "sticky surface", "cured"),
        (False, "Never. Spread on top it does not mix into what is below, and both stay soft"),
    ),
    "top up": {
        "uncured": (
            False,
            "Only while the first mix, on its ratio, is still wet in its life; on one that failed, never",
        ),
        "sticky surface": (False, "Find out first what the film is"),
        "cured": (True, "Yes, washed and sanded first so that it keys"),
    },
    "coat": {
        "uncured": (False, "Not yet: what clogs the paper is not cured, and its dust harms"),
        "sticky surface": (True, "Yes, once the film is washed or wiped off: sanding first rubs it in"),
        "cured": (True, "Yes: wash, sand, dust off, wipe, coat"),
    },
    "warm": {
        "uncured": (True, "Try it on a spot: it helps what is cold, and never what is off its ratio"),
        "sticky surface": (True, "It does no harm, and seldom helps a film"),
        "cured": (True, "There is no need: it is cured"),
    },
}


def _may(wish: Wish, state: State) -> MayIt:
    allowed, because = _MAY[wish].get(state, (None, _TEST_FIRST))
    return MayIt(wish=wish, words=WISHES[wish], allowed=allowed, because=because)
