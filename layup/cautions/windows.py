"""The time in which one layer takes the next."""

from collections.abc import Iterator

from layup.cautions.rule import Facts, Finding, Rule


def _longer_than_its_window(facts: Facts) -> Iterator[Finding]:
    area = facts.scales.words
    for name, covered_m2, whole_m2 in facts.late:
        yield Finding(
            "pots",
            f"{name[0].upper()}{name[1:]}: {area('area', covered_m2)} of {area('area', whole_m2)} is covered before what "
            "is beneath has closed, and the rest after",
        )


def _set_between_plies(facts: Facts) -> Iterator[Finding]:
    plies: dict[str, int] = {}
    for _, part, fabric in facts.plies:
        plies[part.id] = plies.get(part.id, 0) + fabric.stays
    if facts.job.practice.plies == "set and sanded" and max(plies.values(), default=0) > 1:
        two_part = any(each.resin.two_part for each in facts.resins)
        wash = "wash with water, then sand" if two_part else "sand, since its window is shut by then"
        yield Finding("practice.plies", f"Every ply is left to set before the next: {wash}, each time")


def _missed(facts: Facts) -> Iterator[Finding]:
    for name, count, first in facts.missed:
        come = "A layer of {} comes" if count == 1 else f"{count} layers of {{}} come"
        yield Finding("pots", f"{come.format(name)} after the window beneath has closed: {first} first")


RULES = (
    Rule(
        id="windows.missed",
        severity="care",
        step="pots",
        reason="A closed surface bonds no more by itself, and what blushed on it lets go of the next layer.",
        do="Touch it first: no mark taken, and it is closed. Then do what the run sheet has before the layer; or begin "
        "sooner, take more hands, or leave peel ply on the last layer of the day.",
        source="memory; a stated time wins",
        find=_missed,
    ),
    Rule(
        id="windows.ply_longer_than_its_window",
        severity="care",
        step="pots",
        reason="Past its window a layer no longer bonds by itself to what comes on it.",
        do="Another pair of hands, a slower hardener or a cooler room; or stop at a seam with peel ply, and wash, sand and "
        "go on.",
        source="memory; a stated time wins",
        find=_longer_than_its_window,
    ),
    Rule(
        id="windows.set_between_plies",
        severity="note",
        step="pots",
        reason="A layer that has set holds the next by its scratches alone, and what blushed on it lets go.",
        do="Water and a scrubbing pad first where it may have blushed, then sand dull all over, dust off, wipe, lay on.",
        source="common practice",
        find=_set_between_plies,
    ),
)
