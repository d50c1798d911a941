"""What is done about a bag before any resin: cut, laid out, pulled down dry, tested."""

from collections.abc import Iterator

from layup.bag.outcome import BagResult
from layup.bag.vacuum import LEAK_MBAR, LEAK_MIN
from layup.job import JobSpec
from layup.outcome import Plan
from layup.preparing.before_pot import PrepLine
from layup.preparing.lines import COMMON, MEMORY, line_of
from layup.scales import Scales


def lines_of_bags(job: JobSpec, plan: Plan, scales: Scales) -> Iterator[PrepLine]:
    """The lines of each bag that could be worked out."""
    for bag in plan.bags:
        own = {"part_id": bag.id, "part_name": bag.name or "part"}
        for line in _lines(bag, scales):
            yield line.model_copy(update=own | {"id": f"{line.id}:{bag.id}"})


def _lines(bag: BagResult, scales: Scales) -> Iterator[PrepLine]:
    tape, film = scales.words("length", bag.tape_m), scales.words("area", bag.bag_m2)
    pleats = f", {bag.pleats} pleats" if bag.pleats else ""
    yield line_of(
        "bag-cut",
        f"Cut the film, {film}{pleats}, and lay {tape} of tape round the flange, its paper still on",
        "A bag that is too small bridges in corners, and lifts the laminate there.",
        COMMON,
    )
    yield line_of(
        "bag-flange",
        "Wipe the flange under the tape clean of wax and dust",
        "Tape does not hold on release wax: most leaks are there.",
        COMMON,
    )
    dry = "Lay it all dry, bag it, pull it down and shut the pump off"
    yield line_of(
        "bag",
        f"{dry}: no more than {LEAK_MBAR:.0f} mbar may come back in {LEAK_MIN:.0f} minutes",
        "A leak found under resin is a lost part. Type under Bag what the gauge showed.",
        MEMORY,
        gate=True,
    )
    if bag.infused:
        yield line_of(
            "bag-trap",
            "Resin trap between part and pump, hoses sealed at both ends, a clamp on each",
            "Resin that gets as far as the pump is the end of the pump.",
            COMMON,
            gate=True,
        )
        return
    yield line_of(
        "bag-order",
        "Peel ply, film, breather and bag in a pile in the order they go on, the pump running and tried",
        "From the last resin to a bag that is down the laminate's time runs.",
        COMMON,
        gate=True,
    )
