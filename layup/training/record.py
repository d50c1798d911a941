"""What a learner has passed, who signed it, and how large a pot that lets him mix."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from layup.record import Record
from layup.training.lessons import lessons
from layup.training.sums import SUMS
from layup.training.tried import Attempt, Signed
from layup.words import counted

# memory: signed for pouring a learner mixes twice as much, and with each of so many good pots in a row half as much again
_SIGNED_FOR_POURING, _POTS_FOR_MORE, _MORE = 2.0, 5, 0.5


@dataclass(frozen=True)
class Task:
    """Something to be able to do. It is passed when so many of its kinds in a row were right; a skilled hand then signs it."""

    title: str
    says: str
    kinds: tuple[str, ...]
    in_a_row: int


class TaskStanding(Record):
    """A task as it stands for a learner: so many right in a row of so many, passed or not, and who signed it when."""

    id: str
    title: str
    says: str
    in_a_row: int
    of: int
    passed: bool
    signed_by: str = ""
    signed_at: datetime | None = None


class Standing(Record):
    """A learner's record: his tasks, the lessons he has ended, his pots, and how many times a beginner's pot he may mix.

    `next_step` says what would let him mix more.
    """

    tasks: tuple[TaskStanding, ...]
    lessons: tuple[str, ...]
    good_pots: int
    lost_pots: int
    times: float
    next_step: str


def standing(attempts: Sequence[Attempt], signed: Iterable[Signed], pots: Sequence[bool]) -> Standing:
    """What a record comes to. `pots` are those he mixed in real runs, in their order: good or lost.

    >>> from datetime import UTC, datetime
    >>> noon = datetime(2026, 5, 1, 12, tzinfo=UTC)
    >>> three = [Attempt(thing=f"weigh-{n}", right=True, at=noon) for n in (1, 2, 3)]
    >>> standing(three, [], []).tasks[1].passed, standing(three, [], []).times
    (True, 1.0)
    >>> standing(three, [Signed(task="weigh", by="wren", at=noon)], [True] * 5).times
    2.5
    """
    by_task = {each.task: each for each in signed}
    tasks = tuple(_task(task_id, task, attempts, by_task.get(task_id)) for task_id, task in TASKS.items())
    known = {lesson.id for lesson in lessons()}
    ended = {attempt.thing for attempt in attempts if attempt.right and attempt.thing in known}
    good = good_in_a_row(pots)
    pouring = POURING in by_task
    return Standing(
        tasks=tasks,
        lessons=tuple(lesson.id for lesson in lessons() if lesson.id in ended),
        good_pots=sum(pots),
        lost_pots=len(pots) - sum(pots),
        times=times_larger(signed_for_pouring=pouring, good_in_a_row=good),
        next_step=_next(pouring, next(task for task in tasks if task.id == POURING), good),
    )


def times_larger(*, signed_for_pouring: bool, good_in_a_row: int) -> float:
    """How many times a beginner's largest pot a learner may mix. Source: memory; the shop's own largest still holds.

    >>> [times_larger(signed_for_pouring=True, good_in_a_row=pots) for pots in (0, 4, 5, 10)]
    [2.0, 2.0, 2.5, 3.0]
    >>> times_larger(signed_for_pouring=False, good_in_a_row=40)
    1.0
    """
    if not signed_for_pouring:
        return 1.0
    return _SIGNED_FOR_POURING + _MORE * (good_in_a_row // _POTS_FOR_MORE)


def good_in_a_row(pots: Sequence[bool]) -> int:
    """Good pots since the last that was lost.

    >>> good_in_a_row([True, False, True, True])
    2
    """
    lost = [place for place, good in enumerate(pots) if not good]
    return len(pots) - (lost[-1] + 1 if lost else 0)


def _task(task_id: str, task: Task, attempts: Sequence[Attempt], signed: Signed | None) -> TaskStanding:
    tried = sorted((each for each in attempts if each.kind in task.kinds), key=lambda each: each.at)
    longest = row = 0
    for each in tried:
        row = row + 1 if each.right else 0
        longest = max(longest, row)
    passed = longest >= task.in_a_row
    return TaskStanding(
        id=task_id,
        title=task.title,
        says=task.says,
        # What was passed once stays passed.
        in_a_row=task.in_a_row if passed else row,
        of=task.in_a_row,
        passed=passed,
        signed_by=signed.by if signed else "",
        signed_at=signed.at if signed else None,
    )


def _next(signed: bool, pouring: TaskStanding, good: int) -> str:
    if signed:
        left = _POTS_FOR_MORE - good % _POTS_FOR_MORE
        return f"{counted(left, 'good pot')} more in a row, and the pots may grow again"
    if pouring.passed:
        return "Somebody skilled watches a real pour, and signs it: then the pots may be twice as large"
    return f"{counted(pouring.of - pouring.in_a_row, 'more pour')} right in a row by the scale, then somebody skilled signs it"


POURING = "weigh"
TASKS: Mapping[str, Task] = {
    "sums": Task(
        "Sums of the bench",
        "Ten sums right, one after the other.",
        tuple(SUMS),
        10,
    ),
    POURING: Task("Pouring by the scale", "Three pots poured on their ratio, one after the other.", ("weigh",), 3),
    "rescue-pour": Task("Setting a ratio right", "Two pots with too much hardener, set right.", ("rescue-pour",), 2),
    "marks": Task("Pouring by the marks of a cup", "Two pots by volume, in the right order.", ("marks",), 2),
    "hot": Task("Against the clock", "Two pots poured, stirred and out of the cup in time, on a hot day.", ("hot",), 2),
    "sample": Task("What went wrong", "Five samples judged right, one after the other.", ("sample",), 5),
    "day": Task(
        "A day on the clock", "A job on the simulated bench, with no pot lost and no window missed.", ("day",), 1
    ),
}
