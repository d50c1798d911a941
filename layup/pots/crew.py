"""Who works on a job, and how fast: people with tasks, of whom the slowest task sets the pace."""

from dataclasses import dataclass
from itertools import combinations
from typing import get_args

from layup.job import Person, PotWishes, Task
from layup.materials import ResinFamily
from layup.pots.sizing import LARGEST_LEARNER_POT_G
from layup.shop_facts import ShopFacts

# What of the time a ply takes goes to each task, with all hands at it (memory).
SPREADING: dict[Task, float] = {"wets": 0.30, "lays": 0.25, "rolls": 0.45}
# From so many alike on, one of them mixes for the rest: mixing in turn would stop them all.
ONE_MIXES_FROM = 3


@dataclass(frozen=True)
class Team:
    """The people of a job, and what they come to: `hands` pairs that spread, and whether mixing goes on beside that.

    `idle` are tasks that nobody does.
    """

    people: tuple[Person, ...]
    hands: float
    mixer_apart: bool
    idle: tuple[Task, ...] = ()

    @property
    def mixers(self) -> tuple[Person, ...]:
        """Who may mix: those who do nothing else before the rest."""
        able = [person for person in self.people if "mixes" in person.tasks]
        return tuple(sorted(able, key=lambda person: len(person.tasks)))

    @property
    def learner_mixes_alone(self) -> bool:
        """Whether nobody who is practised mixes."""
        return bool(self.mixers) and all(person.learner for person in self.mixers)


def team_of(wishes: PotWishes) -> Team:
    """The people that a builder has named, or so many alike.

    Somebody who does nothing but mix leaves the rest to their work, and so does one of three or more.

    >>> team = team_of(PotWishes(hands=4))
    >>> team.hands, team.mixer_apart, team_of(PotWishes(hands=2)).mixer_apart
    (3.0, True, False)
    """
    people = wishes.crew or _alike(wishes)
    apart = [person for person in people if person.tasks == ("mixes",)]
    if not apart and len(people) >= ONE_MIXES_FROM:
        # Whoever mixes and is missed least by the rest.
        able = [person for person in people if "mixes" in person.tasks]
        spared = max(able, key=lambda person: pace_of([each for each in people if each is not person]), default=None)
        apart = [spared] if spared and pace_of([each for each in people if each is not spared]) > 0 else []
    hands = pace_of([person for person in people if person not in apart])
    done = {task for person in people for task in person.tasks}
    told = tuple(person.model_copy(update={"tasks": ("mixes",)}) if person in apart else person for person in people)
    return Team(told, hands, bool(apart), tuple(task for task in get_args(Task) if task not in done))


def largest_allowed_g(shop: ShopFacts, family: ResinFamily, wishes: PotWishes) -> float:
    """The largest pot of a family that the shop lets these people mix, g. Where only learners mix, the least of them sets it.

    A learner is known by his name on the job; one that the shop does not know mixes a beginner's pot.

    >>> from layup.shop_facts import Learner
    >>> shop = ShopFacts(learners=(Learner(name="Tern", times=2),))
    >>> alone = PotWishes(crew=(Person(id="a", name="tern", learner=True),))
    >>> largest_allowed_g(shop, "epoxy", PotWishes()), largest_allowed_g(shop, "epoxy", alone)
    (1000.0, 500.0)
    """
    most, team = shop.largest_pot_g[family], team_of(wishes)
    known = {learner.name.casefold(): learner.times for learner in shop.learners}
    if team.learner_mixes_alone:
        times = min(known.get(person.name.casefold(), 1.0) for person in team.mixers)
    elif shop.learner:
        times = min(known.values(), default=1.0)
    else:
        return most
    return learners_largest_g(shop, family, times)


def learners_largest_g(shop: ShopFacts, family: ResinFamily, times: float) -> float:
    """The largest pot of a learner who may mix so many times a beginner's, g: never larger than the shop's own.

    >>> [learners_largest_g(ShopFacts(), "epoxy", times) for times in (1, 2, 9)]
    [250.0, 500.0, 1000.0]
    """
    return min(shop.largest_pot_g[family], times * LARGEST_LEARNER_POT_G[family])


def pace_of(people: list[Person]) -> float:
    """How many pairs of hands people are worth that spread, each at what he does; nought where a task has nobody.

    Work flows from one task to the next, so the tasks that have the fewest people for their time set the pace. Exact for
    work that is shared out freely (Hall's condition).

    >>> alone, two = Person(id="a"), [Person(id="a", tasks=("wets", "lays")), Person(id="b", tasks=("rolls",))]
    >>> pace_of([alone]), pace_of([alone, alone]), round(pace_of(two), 2)
    (1.0, 2.0, 1.82)
    """
    if not people:
        return 0.0
    paces = []
    for count in range(1, len(SPREADING) + 1):
        for tasks in combinations(SPREADING, count):
            able = sum(any(task in person.tasks for task in tasks) for person in people)
            paces.append(able / sum(SPREADING[task] for task in tasks))
    return min(paces)


def _alike(wishes: PotWishes) -> tuple[Person, ...]:
    spread = tuple(Person(id=f"{number}") for number in range(1, wishes.hands + 1))
    if wishes.mixer == "a person more":
        return (*spread, Person(id="mixer", tasks=("mixes",)))
    return spread
