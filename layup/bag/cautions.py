"""Bags: too late, leaking, a layer that is missing, more bleeding than the breather holds, what would be crushed."""

from collections.abc import Iterator

from layup.architecture import Architecture
from layup.bag import stack
from layup.bag.plan import PlannedBag
from layup.bag.vacuum import LEAST_STYRENE_MBAR
from layup.cautions.rule import Facts, Finding, Rule

# A bag that is down with less than this to spare is near its deadline, min (memory).
_NEAR_MIN = 10.0


def _bags(facts: Facts) -> tuple[PlannedBag, ...]:
    return tuple(facts.found.get("bags", {}).values())


def _named(bag: PlannedBag) -> str:
    return bag.part.name or "This part"


def _late(facts: Facts) -> Iterator[Finding]:
    for bag in _bags(facts):
        if bag.part.process != "vacuum bag":
            continue
        for day in bag.on_day:
            if day.to_spare_min < 0:
                last = (
                    f"pot {day.last_pot} is the last that may be laid under it"
                    if day.last_pot
                    else "not even its first pot is laid in time"
                )
                yield Finding(
                    bag.path,
                    f"{_named(bag)}: the bag is down {-day.to_spare_min:.0f} min after the first pot has gelled; {last}",
                    "stop",
                )
                break
            if day.to_spare_min < _NEAR_MIN:
                yield Finding(
                    bag.path,
                    f"{_named(bag)}: the bag is down only {day.to_spare_min:.0f} min before the first pot has gelled",
                )
                break


def _leaks(facts: Facts) -> Iterator[Finding]:
    for bag in _bags(facts):
        if bag.leaks:
            wishes = bag.part.bag
            yield Finding(
                f"{bag.path}.drop_mbar",
                f"{_named(bag)}: {wishes.drop_mbar:.0f} mbar came back in {wishes.drop_min:.0f} min with the pump shut",
            )


def _no_peel_ply(facts: Facts) -> Iterator[Finding]:
    for bag in _bags(facts):
        if not bag.part.bag.peel_ply and not stack.has(bag.told.plies, Architecture.PEEL_PLY):
            yield Finding(f"{bag.path}.peel_ply", f"{_named(bag)}: no peel ply lies between the laminate and the bag")


def _no_breather(facts: Facts) -> Iterator[Finding]:
    for bag in _bags(facts):
        bare = not bag.part.bag.breather and not stack.has(bag.told.plies, Architecture.BLEEDER)
        if bag.part.process == "vacuum bag" and bare:
            yield Finding(f"{bag.path}.breather", f"{_named(bag)}: no breather lies under the film")


def _bleeds_over(facts: Facts) -> Iterator[Finding]:
    weight = facts.scales.words
    for bag in _bags(facts):
        holds = stack.holds_gsm(bag.part, bag.told)
        if bag.part.process == "vacuum bag" and holds and bag.bled_gsm > holds:
            yield Finding(
                bag.path,
                f"{_named(bag)}: {weight('areal_weight', bag.bled_gsm)} bleeds out, and its breather holds "
                f"{weight('areal_weight', holds)}",
            )


def _boils(facts: Facts) -> Iterator[Finding]:
    for bag in _bags(facts):
        resin = facts.resin_of(bag.part.use_id)
        if resin and resin.styrene and bag.pull.level_mbar < LEAST_STYRENE_MBAR:
            yield Finding(
                f"{bag.path}.level",
                f"{_named(bag)} is pulled down to {bag.pull.level_mbar:.0f} mbar in {resin.resin.name}",
            )


def _crushes(facts: Facts) -> Iterator[Finding]:
    for bag in _bags(facts):
        if bag.part.substrate in ("foam core", "polystyrene foam"):
            tonnes = facts.scales.written(bag.pull.pa / 9806.65, ".1f")
            yield Finding(
                f"{bag.path}.level",
                f"{_named(bag)}: the bag presses with {tonnes} tonnes on each square metre of foam",
            )


RULES = (
    Rule(
        id="bag.late",
        severity="care",
        step="bag",
        reason="The bag presses out only what still flows: what has gelled before stays thick, and its air stays in it. The "
        "first pot decides, not the last.",
        do="A slower hardener, a cooler room, more hands, or fewer plies under one bag; have peel ply, breather and film laid "
        "out in their order. Its label and the shop's own log win over this figure.",
        source="the cure clock of the first pot; time to put a bag on from memory",
        find=_late,
    ),
    Rule(
        id="bag.leaks",
        severity="stop",
        step="bag",
        reason="A leak feeds air into the laminate for as long as it cures, and a pump that stops then leaves no pull at all.",
        do="Listen along the tape, press pleats and hose ends down, pull it down and test again. Type what the gauge shows then.",
        source="memory: 10 mbar in 10 minutes",
        find=_leaks,
    ),
    Rule(
        id="bag.no_peel_ply",
        severity="care",
        step="bag",
        reason="Film and breather bond to the laminate and do not come off; the face they leave bonds badly.",
        do="Lay peel ply over all of it, uncoated, a hand wider than the part.",
        source="common practice",
        find=_no_peel_ply,
    ),
    Rule(
        id="bag.no_breather",
        severity="care",
        step="bag",
        reason="Film that lies straight on the peel ply seals off the way to the pump: part of the bag goes down, the rest does not.",
        do="Lay breather over all of it and under the hose end, out to the edge.",
        source="common practice",
        find=_no_breather,
    ),
    Rule(
        id="bag.bleeds_over",
        severity="care",
        step="bag",
        reason="A breather that is full carries no air any more, and the resin goes on to the trap.",
        do="Wet it out leaner, lay a second breather, or a perforated film under it that lets less through.",
        source="memory: a 150 g/m² breather holds about {400 g} on a square metre",
        find=_bleeds_over,
    ),
    Rule(
        id="bag.boils",
        severity="stop",
        step="bag",
        reason="Styrene boils at about 8 mbar at {25 °C}, sooner in a warm room: it foams in the laminate.",
        do="Hold 30 mbar or more; let in a little air at the trap's valve.",
        source="memory; the data sheet wins",
        find=_boils,
    ),
    Rule(
        id="bag.crushes",
        severity="note",
        step="bag",
        reason="Light foam creeps under a full vacuum, and a hollow form falls in.",
        do="Ask the foam's sheet what it bears while it is warm; fill or prop what is hollow; hold less vacuum if need be.",
        source="exact arithmetic; what foam bears is on its sheet",
        find=_crushes,
    ),
)
