"""What of a run comes due: pots that will kick, windows that close, cures that come to their next state."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from layup.chemistry.outcome import ClocksResult
from layup.outcome import Plan
from layup.pots.outcome import PotResult

DueKind = Literal["begin", "kicks", "window", "cure"]
# How long a pot that nobody wrote an end for is still asked about (memory).
ASKED_FOR_MIN = 12 * 60.0


@dataclass(frozen=True)
class PotDone:
    """A pot that was poured, `age_min` ago; `open` while nobody wrote that it was used up, gelled or dumped.

    `unfit` says why it must not be used, where it must not: it stays open until it is dumped.
    """

    number: int
    age_min: float
    open: bool
    dumped: bool = False
    unfit: str = ""


@dataclass(frozen=True)
class Due:
    """One thing to come, in minutes from now; negative where it has passed and still asks for something.

    `why` says what it is counted from.
    """

    kind: DueKind
    words: str
    why: str
    owner_name: str
    in_min: float


def due_of(plan: Plan, poured: Sequence[PotDone]) -> list[Due]:
    """What a run's poured pots lead to, soonest first. Clocks as the plan stated them.

    >>> due_of(Plan.model_construct(pots=(), resins=()), [])
    []
    """
    found = [due for pot in poured if pot.open for due in _kick(plan, pot)]
    for owner_id in dict.fromkeys(pot.owner_id for pot in plan.pots):
        found += _cure(plan, owner_id, poured)
    return sorted(found, key=lambda due: due.in_min)


def _planned(plan: Plan, number: int) -> PotResult:
    return next(pot for pot in plan.pots if pot.first <= number < pot.first + pot.count)


def _kick(plan: Plan, pot: PotDone) -> Iterator[Due]:
    planned = _planned(plan, pot.number)
    if pot.unfit:
        yield Due(
            "kicks",
            f"pot {pot.number} must not be used: mend it or dump it",
            pot.unfit,
            planned.owner_name,
            -pot.age_min,
        )
        return
    left = planned.life_min - pot.age_min
    why = f"a life of {planned.life_min:.0f} min from the moment the parts touched, as planned"
    if left >= 0:
        words = "kicks" if planned.ticket is None or planned.ticket.second_part else "skins over"
        yield Due("kicks", f"pot {pot.number} {words}", why, planned.owner_name, left)
    elif pot.age_min < ASKED_FOR_MIN:
        words = f"pot {pot.number} is past its life: write down what it did"
        yield Due("kicks", words, why, planned.owner_name, left)


def _cure(plan: Plan, owner_id: str, poured: Sequence[PotDone]) -> Iterator[Due]:
    """The next state of what lies on one part: while pots are to come, its window; after the last, its cure.

    By the clocks of the resin that was laid last.
    """
    mine = [pot for pot in plan.pots if pot.owner_id == owner_id]
    laid = [pot for pot in poured if not pot.dumped and not pot.unfit and _planned(plan, pot.number) in mine]
    if not laid:
        return
    top = min(laid, key=lambda pot: pot.age_min)
    age, told = top.age_min, plan.resin_of(_planned(plan, top.number).use_id)
    clocks = told.chemistry.clocks if told else None
    if clocks is None:
        return
    more = len(laid) < sum(pot.count for pot in mine)
    for kind, words, at_min in (
        _window(age, clocks) if more else _states(age, clocks, _fixings(plan, owner_id), _edged(plan, owner_id))
    ):
        why = f"{_spoken(at_min)} after its last pot (memory; a stated time wins)"
        yield Due(kind, words, why, mine[0].owner_name, at_min - age)


def _window(age_min: float, clocks: ClocksResult) -> Iterator[tuple[DueKind, str, float]]:
    if age_min < clocks.next_ply_from_min:
        yield "window", "next ply from", clocks.next_ply_from_min
    elif age_min < clocks.window_closes_min:
        yield "window", "next ply before", clocks.window_closes_min
    else:
        yield "window", "window closed: sand before the next ply", clocks.window_closes_min


def _fixings(plan: Plan, owner_id: str) -> str:
    """What was put in to hold it and is to be taken out."""
    sheet = plan.run_sheet
    lanes = {lane.id for lane in sheet.lanes if lane.owner_id == owner_id} if sheet else set()
    marks = (mark for mark in sheet.marks if mark.fixings and mark.lane in lanes) if sheet else ()
    return next((mark.fixings for mark in marks), "")


def _edged(plan: Plan, owner_id: str) -> bool:
    """Whether it has an edge of fabric to trim, as its run sheet says; so it is of a run from before there was one."""
    sheet = plan.run_sheet
    if sheet is None:
        return True
    lanes = {lane.id for lane in sheet.lanes if lane.owner_id == owner_id}
    return any(mark.kind == "trim" and mark.lane in lanes for mark in sheet.marks)


def _states(age_min: float, clocks: ClocksResult, fixings: str, edged: bool) -> Iterator[tuple[DueKind, str, float]]:
    """The next state of a cure; none once it may be loaded."""
    states = [("sand", clocks.sandable_min), ("load", clocks.load_min)]
    if edged:
        states.insert(0, ("trim with a knife", clocks.knife_trim_min))
    if fixings:
        states = sorted([*states, (f"take out: {fixings}", clocks.clamps_out_min)], key=lambda state: state[1])
    for words, at_min in states:
        if age_min < at_min:
            yield "cure", f"{words} from", at_min
            return


def _spoken(minutes: float) -> str:
    return f"{minutes:.0f} min" if minutes < 90 else f"{minutes / 60:.1f} h"
