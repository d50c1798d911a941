"""Who does what through the day: each person's stretches, by the tasks he has."""

from collections.abc import Iterator

from layup.day.outcome import SheetTask
from layup.day.planner import WEIGH_MIN
from layup.day.schedule import Layer, Schedule
from layup.job import JobSpec, Person, Task
from layup.pots.crew import Team, team_of
from layup.pots.works_said import works_in_short

_SPREADS: tuple[Task, ...] = ("wets", "lays", "rolls")


def tasks_of(schedule: Schedule, job: JobSpec) -> Iterator[SheetTask]:
    """Everybody's stretches: the first of the mixers mixes, all others do what of a layer is theirs. Nobody is told apart
    where one works alone.
    """
    team = team_of(job.pots)
    if len(team.people) < 2 or not team.mixers:
        return
    mixer = team.mixers[0]
    names = names_of(team)
    for pot in schedule.pots:
        begins, ends = pot.touch_min - WEIGH_MIN, pot.on_from_min
        yield SheetTask(
            who=mixer.id,
            name=names[mixer.id],
            task="mixes",
            words=f"mixes pot {pot.number}",
            from_min=round(begins, 2),
            to_min=round(ends, 2),
            first_pot=pot.number,
            last_pot=pot.number,
        )
    for layer in schedule.layers:
        for person in team.people:
            if team.mixer_apart and person is mixer:
                continue
            theirs = _theirs(person, layer)
            if theirs:
                yield SheetTask(
                    who=person.id,
                    name=names[person.id],
                    task="spreads",
                    words=f"{works_in_short(layer.works)}: {', '.join(theirs)}",
                    from_min=round(layer.from_min, 2),
                    to_min=round(layer.to_min, 2),
                    first_pot=layer.first_pot,
                    last_pot=layer.last_pot,
                )


def names_of(team: Team) -> dict[str, str]:
    """What each is called: by name, or by number, or as the one who mixes.

    >>> from layup.job import PotWishes
    >>> list(names_of(team_of(PotWishes(hands=2, mixer="a person more"))).values())
    ['person 1', 'person 2', 'mixer']
    """
    found = {}
    for number, person in enumerate(team.people, 1):
        apart = team.mixer_apart and person.tasks == ("mixes",)
        found[person.id] = person.name or ("mixer" if apart else f"person {number}")
    return found


def _theirs(person: Person, layer: Layer) -> list[Task]:
    """What of a layer a person does: a coat is only wetted, paste is laid, plies are all three."""
    if any(work.ply or work.thickness_mm for work in layer.works):
        wanted = _SPREADS
    elif layer.works[0].handling.alone:
        wanted = ("lays",)
    else:
        wanted = ("wets",)
    return [task for task in wanted if task in person.tasks]
