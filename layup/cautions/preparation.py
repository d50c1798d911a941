"""What is forgotten before the pot is opened. The rest of the chapter is the ordered checklist of `preparation`."""

from collections.abc import Iterator

from layup.architecture import Architecture
from layup.cautions.rule import Facts, Finding, Rule

_POROUS = ("concrete", "foam core", "polystyrene foam")


def _comes_in_kinds(facts: Facts) -> Iterator[Finding]:
    named: dict[str, str] = {}
    for path, part in facts.parts():
        for at, ply in enumerate(part.plies):
            if ply.coat and ply.coat.kind == "gel":
                named.setdefault("Gel coat with or without wax", f"{path}.plies.{at}")
    for path, _part, fabric in facts.plies:
        if fabric.build.kinds:
            named.setdefault(fabric.build.kinds, path)
    if named:
        words = ", ".join(named)
        yield Finding(next(iter(named.values())), f"{words[0]}{words[1:].lower()}: the list to buy says which")


def _peel_ply_on_nothing_wet(facts: Facts) -> Iterator[Finding]:
    fabric_at = {path: fabric for path, _, fabric in facts.plies}
    for path, part in facts.parts():
        fabric = fabric_at.get(f"{path}.plies.0")
        if fabric and fabric.architecture is Architecture.PEEL_PLY:
            name = part.name or "this part"
            yield Finding(f"{path}.plies.0", f"Peel ply lies first on {name}: there is nothing wet under it to hold it")


def _unsealed(facts: Facts) -> Iterator[Finding]:
    if facts.job.practice.sealing != "never":
        return
    for path, part in facts.parts():
        name = part.name or "this part"
        if part.substrate in _POROUS:
            yield Finding(f"{path}.substrate", f"{name} is porous and left unsealed: it soaks up the laminate's resin")
        elif part.substrate == "timber" and part.ground.show_face:
            yield Finding(
                f"{path}.substrate", f"{name} is open timber under a clear face, and left unsealed: it bubbles"
            )


def _cut_in_the_waits(facts: Facts) -> Iterator[Finding]:
    if facts.job.practice.cutting == "in the tack waits" and facts.plies:
        yield Finding(facts.plies[0][0], "Pieces are cut while resin is live")


RULES = (
    Rule(
        id="preparation.peel_ply_on_nothing_wet",
        severity="care",
        step="stack",
        reason="Peel ply is pressed into a layer that is still wet; on a cured hull it is glued on, or falls off.",
        do="Write it last, over the plies it keeps clean. A cured surface is washed and sanded instead.",
        source="common practice",
        find=_peel_ply_on_nothing_wet,
    ),
    Rule(
        id="preparation.unsealed",
        severity="care",
        step="prepare",
        reason="Porous or foamed ground takes the resin out of the first ply, and open timber breathes into a clear coat.",
        do="Seal it first and let it tack, or let the practice seal where it is porous.",
        source="common practice",
        find=_unsealed,
    ),
    Rule(
        id="preparation.comes_in_kinds",
        severity="note",
        step="prepare",
        reason="They are sold by one name, and the wrong one stays tacky, stays dry or prints its edge.",
        do="Read the variant off the list to buy, and the label against it.",
        source="common practice",
        find=_comes_in_kinds,
    ),
    Rule(
        id="preparation.cut_in_the_waits",
        severity="note",
        step="cut",
        reason="Who counts layers from memory often lays one too few, and a pot does not wait while you cut.",
        do="Have the next piece marked out, and cut with clean gloves; or cut it all before the first pot.",
        source="common practice",
        find=_cut_in_the_waits,
    ),
)
