"""What stands between a job and its first pot: pieces to cut, lines to sign off, and what was ticked of them."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from cradle.jobs.models import Job, Tick
from layup.errors import OutOfRange
from layup.job import JobSpec
from layup.joints.answers import corners_of
from layup.outcome import NextStep, Plan
from layup.preparing.before_pot import CutPiece, Divided, PrepLine
from layup.preparing.cutting import pieces_of
from layup.preparing.preparation import checklist
from layup.scales import METRIC
from layup.shop_facts import ShopFacts

TickKind = Literal["cut", "prepare", "corner"]
TickState = Literal["done", "waived", "undone"]


@dataclass(frozen=True)
class Standing:
    """The latest tick of one thing. `changed` where the thing is no longer what was ticked."""

    kind: TickKind
    thing: str
    state: TickState
    said: str
    changed: bool
    reason: str
    by: str
    at: datetime


@dataclass(frozen=True)
class Ready:
    """How far a job is. `waiting` says what keeps the first pot shut, `open_gates` the lines of the
    preparation among it; `to_waive` names it."""

    piece_count: int
    cut_count: int
    line_count: int
    signed_count: int
    waiting: tuple[str, ...]
    open_gates: tuple[str, ...]
    to_waive: dict[TickKind, list[str]]


@dataclass(frozen=True)
class Before:
    """The pieces, the lines and the corners of a job with the ticks that stand, as its plan is `divided` into bays."""

    pieces: tuple[CutPiece, ...]
    lines: tuple[PrepLine, ...]
    corners: dict[str, str]
    standing: dict[tuple[TickKind, str], Standing]
    cut_in_waits: bool
    divided: Divided

    def settled(self, kind: TickKind, thing: str) -> bool:
        """Whether a thing is done as it now is, or waived."""
        tick = self.standing.get((kind, thing))
        return tick is not None and (tick.state == "waived" or (tick.state == "done" and not tick.changed))

    def ready(self) -> Ready:
        """How far the job is, and what keeps its first pot shut."""
        uncut = [piece.id for piece in self.pieces if not self.settled("cut", piece.id)]
        open_lines = [line for line in self.lines if not self.settled("prepare", line.id)]
        gates = [line for line in open_lines if line.gate]
        waiting = []
        if uncut and not self.cut_in_waits:
            waiting.append(f"{len(uncut):,} of {len(self.pieces):,} pieces are not cut")
        open_gates = [f"{line.words}{f', {line.part_name}' if line.part_name else ''}" for line in gates]
        waiting += [f"not signed off: {words}" for words in open_gates]
        return Ready(
            piece_count=len(self.pieces),
            cut_count=len(self.pieces) - len(uncut),
            line_count=len(self.lines),
            signed_count=len(self.lines) - len(open_lines),
            waiting=tuple(waiting),
            open_gates=tuple(open_gates),
            to_waive={
                "cut": [] if self.cut_in_waits else uncut,
                "prepare": [line.id for line in gates],
            },
        )


def before_pot(job: Job, spec: JobSpec, plan: Plan, facts: ShopFacts) -> Before:
    """A job's pieces, lines and corners with what was ticked of them."""
    pieces = tuple(pieces_of(spec, plan.divided))
    lines = checklist(spec, plan, facts.scales)
    corners = corners_of_job(spec)
    said = _said(pieces, lines, corners)
    standing = {}
    for tick in job.ticks.select_related("by"):
        key = (tick.kind, tick.thing)
        standing[key] = Standing(
            kind=tick.kind,
            thing=tick.thing,
            state=tick.state,
            said=tick.said,
            changed=key in said and said[key] != tick.said,
            reason=tick.reason,
            by=tick.by.get_username(),
            at=tick.at,
        )
    in_waits = spec.practice.cutting == "in the tack waits"
    return Before(
        pieces, lines, corners, {key: tick for key, tick in standing.items() if key in said}, in_waits, plan.divided
    )


def next_before_pot(ready: Ready) -> NextStep | None:
    """What keeps the first pot shut, as the next thing to do."""
    if not ready.waiting:
        return None
    uncut = len(ready.to_waive["cut"])
    if uncut:
        return NextStep(step="cut", words=f"cut {uncut:,} {'piece' if uncut == 1 else 'pieces'}")
    return NextStep(step="prepare", words=ready.open_gates[0])


def corners_of_job(spec: JobSpec) -> dict[str, str]:
    """What of each joint is ticked by itself, and what it is called."""
    return {
        f"{joint.id}.{number}": f"{joint.name or joint.kind}, {words}"
        for joint in spec.joints
        for number, words in enumerate(corners_of(joint), 1)
    }


def _said(
    pieces: tuple[CutPiece, ...], lines: tuple[PrepLine, ...], corners: dict[str, str]
) -> dict[tuple[str, str], str]:
    said = {("cut", piece.id): piece.size_words(METRIC) for piece in pieces}
    said |= {("prepare", line.id): line.words[:300] for line in lines}
    return said | {("corner", thing): words[:300] for thing, words in corners.items()}


@transaction.atomic
def tick_things(
    before: Before,
    job: Job,
    person: AbstractBaseUser,
    *,
    tap_id: UUID,
    kind: TickKind,
    things: list[str],
    state: TickState,
    reason: str = "",
) -> None:
    """Write down that things are done, waived or not done after all. The same tap sent twice counts once.

    Raises OutOfRange for a thing the job does not have, or a waiver without its reason.
    """
    if state == "waived" and len(reason.strip()) < 3:
        raise OutOfRange("say why it is waived", "reason")
    said = _said(before.pieces, before.lines, before.corners)
    unknown = [thing for thing in things if (kind, thing) not in said]
    if unknown:
        raise OutOfRange("the job has changed and no longer has this: look again", "things")
    known = set(job.ticks.filter(tap_id=tap_id, kind=kind).values_list("thing", flat=True))
    Tick.objects.bulk_create(
        Tick(
            job=job,
            tap_id=tap_id,
            kind=kind,
            thing=thing,
            state=state,
            said=said[kind, thing],
            reason=reason.strip(),
            by=person,
        )
        for thing in dict.fromkeys(things)
        if thing not in known
    )
