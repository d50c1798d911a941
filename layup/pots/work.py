"""What there is to lay: pieces of work in their order, of a part, a joint or whatever else is worked on."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from math import ceil
from typing import Literal

from layup.job import Applied
from layup.materials import CoatKind

Line = tuple[tuple[float, float], tuple[float, float]]
Waits = Literal["", "for tack", "to set", "to be sanded", "for the lift"]


@dataclass(frozen=True)
class PasteWay:
    """How a pot is thickened and run: what a gram of its resin comes to as paste, ml, and from what it is applied."""

    ml_per_g: float
    applied: Applied


@dataclass(frozen=True)
class Handling:
    """How resin goes from the cup onto the work: spread as it is mixed, unless a kind of work says otherwise.

    A pot that is handled `alone` serves that one work. Where it is thickened, `way` tells how its life is worked out. No
    pot lays more than `most_laid_g`, where the builder wants so many of them. What is `poured` goes in as a thin stream,
    what is `drawn` into a bucket, out of which the vacuum draws it.
    """

    alone: bool = False
    way: PasteWay | None = None
    most_laid_g: float | None = None
    poured: bool = False
    drawn: bool = False


SPREAD = Handling()


@dataclass(frozen=True)
class Sets:
    """When what stands deep may be poured on, and until when that bonds, minutes from its mixing: its own heat decides, not
    the clocks of a thin layer.
    """

    opens_min: float
    closes_min: float


@dataclass(frozen=True)
class StirsIn:
    """What is stirred into a pot: its name, how much of it a gram of mixed resin takes, g, and how it lies loose, g/l."""

    name: str
    on_resin: float
    loose_g_per_l: float


@dataclass(frozen=True)
class Work:
    """A piece of work on one copy of a part: grams to lay, and minutes to spread them with the hands there are.

    `waits` tells what the layer beneath must come to first: nothing, wet on wet; tack; set, where more wet at once would
    heat up too much; hard enough to be sanded; borne, and cool, where it is a lift on another.
    `thickness_mm` is what of it is wet laminate, in the part's skin `skin` from the surface; `covers` where it is a core,
    which shuts in the heat of the skin beneath.
    Its pots are at most the share `pots_at` of what they could be: resin runs off a wall and drips from overhead.
    It is laid in the resin in use `use_id`: a pot serves works of one resin only.
    It `sets` by its own heat where it stands deep, and `stirs_in` what is weighed to its resin.
    It is the `nth` of several alike on one another. It is laid in so many `strips`, alike. `with_next` where the next work goes into it at once, before any other copy has
    its turn. A `coat` lies without fabric.
    `ply` is its number in the stack, and `stuff` what it is of; `short` names another work in a word or two.
    """

    label: str
    owner_id: str
    item_id: str
    laid_g: float
    spread_min: float
    waits: Waits = ""
    area_m2: float = 0.0
    with_next: bool = False
    thickness_mm: float = 0.0
    strips: int = 1
    handling: Handling = SPREAD
    skin: int = 0
    covers: bool = False
    pots_at: float = 1.0
    ply: int = 0
    stuff: str = ""
    short: str = ""
    use_id: str = ""
    coat: CoatKind | None = None
    nth: int = 1
    sets: Sets | None = None
    stirs_in: StirsIn | None = None


@dataclass(frozen=True)
class Bay:
    """A section that is wetted and fully plied before the next is begun, from and to a place along the whole, m, or of so
    many alike.

    `shares` is what of each of the owner's works lies in it. It ends at `edge_m2` of plies, stepped back one by one, on
    which the next bay's lie; `seams` are the lines of that on the part as it is drawn, `middle` the middle of the bay.
    """

    number: int
    words: str
    begins: float
    ends: float
    shares: tuple[float, ...]
    edge_m2: float = 0.0
    seams: tuple[Line, ...] = ()
    middle: tuple[float, float] | None = None


@dataclass(frozen=True)
class Bays:
    """How an owner may be divided: into so many bays as `counts` has, or into `wished` where the builder has said so.

    `divide` gives the bays of a count.
    """

    counts: tuple[int, ...] = ()
    divide: Callable[[int], tuple[Bay, ...]] = field(default=lambda count: (), compare=False)
    wished: int = 0


def counts_of_bays(units: int) -> tuple[int, ...]:
    """Into how many bays so many drops or seams may fall, from two on: each way of taking no more than so many at once.

    >>> counts_of_bays(9), counts_of_bays(1)
    ((2, 3, 5, 9), ())
    """
    return tuple(sorted({ceil(units / most) for most in range(1, units)}))


@dataclass(frozen=True)
class LiesOn:
    """What an owner lies on, by its id: its first work waits for that to come to a state, and keeps its window."""

    owner_id: str
    waits: Waits = ""


@dataclass(frozen=True)
class UnderBag:
    """A bag over an owner, and how long it takes to put on once the last of it is laid, min; nought where it is on before any
    resin comes.
    """

    bagging_min: float = 0.0


@dataclass(frozen=True)
class Owner:
    """What is laid in a run, a part or a joint, with the works of one copy of it, in laying order.

    What is alike and `one_run` is laid as one: seams are wetted, filled and taped all along, not ten times over.
    `fixings` come out of it once it holds; it is `edged` where fabric is trimmed at it. It may be laid in `bays`. It is
    begun once what it `comes_after` is laid, by their ids, and what it `lies_on`. `under_bag` where a bag closes over it:
    then each copy is laid whole before the next.
    """

    id: str
    name: str
    copies: int
    works: tuple[Work, ...]
    one_run: bool = False
    fixings: str = ""
    edged: bool = False
    bays: Bays | None = None
    comes_after: tuple[str, ...] = ()
    lies_on: tuple[LiesOn, ...] = ()
    under_bag: UnderBag | None = None


def laid_of(works: Sequence[Work]) -> float:
    """What works lay, g."""
    return sum(work.laid_g for work in works)


def rate_of(works: Sequence[Work]) -> float:
    """How fast works are spread, one after the other, g/min."""
    return laid_of(works) / sum(work.spread_min for work in works)
