"""The order of what is laid: each thing after what it must come after, and else as it stands. Circles are found, in words."""

from collections.abc import Iterable, Sequence
from graphlib import CycleError, TopologicalSorter
from heapq import heappop, heappush

from layup.castings import Pour
from layup.errors import OutOfRange
from layup.job import JobSpec, Joint, Part
from layup.pots.work import LiesOn, Owner


def in_order(owners: Sequence[Owner]) -> list[Owner]:
    """Owners in laying order: each as early as it stands, but after all that it comes after. They are in no circle.

    >>> a, b = Owner("a", "sheathing", 1, (), comes_after=("b",)), Owner("b", "fillet", 1, ())
    >>> [owner.name for owner in in_order([a, b])]
    ['fillet', 'sheathing']
    """
    place = {owner.id: at for at, owner in enumerate(owners)}
    before = {owner.id: {each for each in before_of(owner) if each in place} for owner in owners}
    if not any(before.values()):
        return list(owners)
    # What the first in line waits for goes before the rest that may be laid.
    wanted = dict(place)
    for each in reversed(list(TopologicalSorter(before).static_order())):
        for other in before[each]:
            wanted[other] = min(wanted[other], wanted[each])
    sorter = TopologicalSorter(before)
    sorter.prepare()
    laid: list[Owner] = []
    ready: list[tuple[int, int, str]] = []
    while sorter.is_active():
        for each in sorter.get_ready():
            heappush(ready, (wanted[each], place[each], each))
        *_, first = heappop(ready)
        laid.append(owners[place[first]])
        sorter.done(first)
    return laid


def before_of(owner: Owner) -> tuple[str, ...]:
    """All that an owner comes after, by its id."""
    return (*owner.comes_after, *(each.owner_id for each in owner.lies_on))


def check_order(job: JobSpec) -> None:
    """Refuses an order that cannot be. Raises OutOfRange, at the field of the first thing in the circle.

    >>> from layup.job import Part
    >>> check_order(JobSpec(name="x", parts=(Part(id="a", comes_after=("b",)), Part(id="b", comes_after=("a",)))))
    Traceback (most recent call last):
    layup.errors.OutOfRange: each of these is to come after the next: part 1, part 2, part 1. Take one of them out
    """
    names: dict[str, str] = {}
    paths: dict[str, str] = {}
    before: dict[str, set[str]] = {}
    kinds: tuple[tuple[str, str, Sequence[Part | Joint | Pour]], ...] = (
        ("part", "parts", job.parts),
        ("joint", "joints", job.joints),
        ("casting", "pours", job.pours),
    )
    for word, key, things in kinds:
        for at, thing in enumerate(things):
            names[thing.id] = thing.name or f"{word} {at + 1}"
            paths[thing.id] = f"{key}.{at}.comes_after"
            before.setdefault(thing.id, set()).update(thing.comes_after)
    for joint in job.joints:
        if joint.covered_by in before:
            before[joint.covered_by].add(joint.id)
    try:
        TopologicalSorter({each: others & before.keys() for each, others in before.items()}).prepare()
    except CycleError as error:
        circle: list[str] = error.args[1][::-1]
        said = ", ".join(names[each] for each in circle)
        message = f"each of these is to come after the next: {said}. Take one of them out"
        raise OutOfRange(message, paths[circle[0]]) from error


def made_apart(job: JobSpec, comes_after: Iterable[str]) -> tuple[LiesOn, ...]:
    """What of the things that another comes after was laid on a waxed mould: it is cured and sanded before it is taken in hand.

    >>> from layup.job import Part
    >>> job = JobSpec(name="Hole", parts=(Part(id="backing", substrate="waxed mould"), Part(id="patch")))
    >>> [(each.owner_id, each.waits) for each in made_apart(job, ("backing", "patch"))]
    [('backing', 'to be sanded')]
    """
    apart = {part.id for part in job.parts if part.substrate == "waxed mould"}
    return tuple(LiesOn(each, "to be sanded") for each in comes_after if each in apart)
