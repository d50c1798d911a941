"""What has been read of a job line so far, and how a thing of it is begun, changed and found."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Protocol, TypeVar
from uuid import uuid4

from layup.castings import Pour
from layup.errors import LayupError
from layup.job import FIRST_USE, Joint, Part, ResinInUse
from layup.laminate.job_line.sizes import Length
from layup.laminate.notation import parse_line
from layup.laminate.quick_ply import Doubt, QuickPly
from layup.materials import Fabric, Filler, ResinSystem
from layup.scales import Scales
from layup.shelf import Library

MOST_THINGS = 60


class _Named(Protocol):
    @property
    def name(self) -> str: ...


Thing = TypeVar("Thing", bound=_Named)


@dataclass
class Reading:
    """What has been read so far; `part`, `joint` and `pour` are of the clause in hand."""

    library: Library
    own_ids: frozenset[str]
    scales: Scales
    uses: list[ResinInUse] = field(default_factory=lambda: [ResinInUse(id=FIRST_USE)])
    parts: list[Part] = field(default_factory=list)
    joints: list[Joint] = field(default_factory=list)
    pours: list[Pour] = field(default_factory=list)
    stacks: dict[str, list[QuickPly]] = field(default_factory=dict)
    fabrics: dict[str, Fabric] = field(default_factory=dict)
    fillers: dict[str, Filler] = field(default_factory=dict)
    resins: dict[str, ResinSystem] = field(default_factory=dict)
    # What the clause in hand is of: a list above, whose last it is.
    in_hand: str = ""
    title: str = ""
    use_id: str = ""


def begin(reading: Reading, kind: str, thing: Part | Joint | Pour) -> None:
    """A new thing of a kind, parts, joints or pours, which the rest of the clause is about. Raises LayupError past the most."""
    if len(reading.parts) + len(reading.joints) + len(reading.pours) == MOST_THINGS:
        raise LayupError(f"a line takes {MOST_THINGS} surfaces, joints and castings at most: add the rest in the job")
    getattr(reading, kind).append(thing)
    reading.in_hand = kind


def change(reading: Reading, **said: object) -> None:
    """The thing in hand with what is said of it."""
    things = getattr(reading, reading.in_hand)
    things[-1] = things[-1].model_validate(things[-1].model_dump() | said)


def part_in_hand(reading: Reading, words: str) -> Part:
    """The part in hand; one is begun where the clause has none yet, on what the one before it lies on."""
    if reading.in_hand not in ("", "parts"):
        raise LayupError(f"“{words}” is of a surface: put a ; before it")
    if not reading.in_hand:
        begun = Part(id=new_id(), name=reading.title, use_id=reading.use_id)
        if reading.parts:
            before = reading.parts[-1]
            begun = begun.model_copy(update={"substrate": before.substrate, "process": before.process})
        begin(reading, "parts", begun)
    return reading.parts[-1]


def plies_said(reading: Reading, words: str, at: int) -> tuple[QuickPly, ...]:
    """Plies in the words of the quick line, `at` letters into the item. Raises Doubt at what cannot be read."""
    line = parse_line(words, reading.library.fabrics, scales=reading.scales, own_ids=reading.own_ids)
    if line.problems:
        problem = line.problems[0]
        raise Doubt(problem.message, at + problem.start, at + problem.end, problem.offers)
    return line.plies


def kept(reading: Reading, fabric: Fabric) -> str:
    """The id of a fabric that the job is to hold."""
    reading.fabrics[fabric.id] = fabric
    return fabric.id


def called(things: Sequence[Thing], words: str) -> Thing | None:
    """The thing of that name."""
    return next((thing for thing in things if thing.name.lower() == words.lower()), None)


def exactly(count: int, kind: str, such: str, read: list[Length]) -> list[Length]:
    """The sizes, if they are as many as that kind takes. Raises LayupError."""
    if len(read) != count:
        raise LayupError(f"a {kind} takes {count} sizes, such as {kind} {such}")
    return read


def new_id() -> str:
    """An id for a thing made now."""
    return uuid4().hex[:12]
