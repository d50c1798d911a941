"""Eyes, skin, lungs and fire. Wordings from memory: the data sheet and local rules win."""

from collections.abc import Iterator
from itertools import islice

from layup.cautions.rule import Facts, Finding, Rule
from layup.heat.pot_lab import SUFFERS_C, peak_words
from layup.words import begun, with_article

WINS = "The data sheet and local rules win."
_BIG_EPOXY_POT_G = 1000
STYRENE_FLASHES_C = 31.0  # published: safety data sheets of styrene monomer


# While it is cool, once it is hot, and always.
_RUNAWAY = (
    "pour it out {3 mm} thin, outdoors, on sand, foil or metal. Or stand the cup in cold water: water outside the cup only.",
    "do not pour, stir, lid or carry it past people; slide it outdoors at arm's length if that takes seconds, else clear the "
    "room and ventilate.",
    f"never water into hot resin, never a bin, lid or fridge. Outdoors until cold through. {WINS}",
)


def _peroxide_and_eyes(facts: Facts) -> Iterator[Finding]:
    for each in islice(facts.mixed(lambda each: each.resin.catalyst is not None), 1):
        yield Finding(
            f"{each.path}.resin_id", "Peroxide catalyst: goggles, gloves and an apron on before the bottle is opened"
        )


def _skin(facts: Facts) -> Iterator[Finding]:
    for each in islice(facts.mixed(lambda each: each.resin.family == "epoxy"), 1):
        yield Finding(f"{each.path}.resin_id", "Epoxy resin and hardener both sensitise skin: gloves, sleeves, goggles")


def _runaway_pot(facts: Facts) -> Iterator[Finding]:
    # Of several resins the pot that would become the hottest speaks for all.
    worst = max(facts.mixed(), key=lambda each: each.peak_c or 0.0, default=None)
    if worst is None:
        return
    largest = max(worst.pot_masses_g)
    pot = begun(with_article(f"{facts.scales.mass(largest)} pot"))
    if worst.resin.family == "epoxy" and largest > _BIG_EPOXY_POT_G:
        yield Finding(
            "pots",
            f"{pot} of epoxy left in its cup runs away: over {facts.scales.mass(1000)} is never left standing",
        )
    elif worst.peak_c is not None and worst.peak_c > SUFFERS_C:
        comes_to = peak_words(worst.peak_c, facts.scales)
        yield Finding("pots", f"{pot} left in its cup comes to {comes_to}: know where it goes before you mix")
    else:
        yield Finding("pots", f"{pot} left in its cup can run away: know where it goes before you mix", "note")


def _styrene_vapour(facts: Facts) -> Iterator[Finding]:
    mixed = next(facts.mixed(lambda each: each.styrene), None)
    if mixed is None:
        return
    at, warmest_c = facts.scales.temperature(STYRENE_FLASHES_C), max(facts.room_c, facts.surface_c)
    if warmest_c >= STYRENE_FLASHES_C:
        warm = facts.scales.temperature(warmest_c)
        message = f"At {warm} styrene is over its flash point, {at}: any spark can light the air over the work"
        yield Finding("conditions.room_c", message, "stop")
    else:
        yield Finding(
            f"{mixed.path}.resin_id", f"Styrene vapour: air moving, vapour respirator, no sparks; it flashes at {at}"
        )


def _fibre_dust(facts: Facts) -> Iterator[Finding]:
    carbon = any(fabric.fibre == "carbon" for _, _, fabric in facts.plies)
    if carbon:
        yield Finding("parts", "Carbon dust gets into lungs and into electrical gear alike", "care")
    elif any(fabric.reinforces for _, _, fabric in facts.plies):
        yield Finding("parts", "Glass dust: respirator, gloves, eyes and sleeves where it is cut and sanded")


def _waste(facts: Facts) -> Iterator[Finding]:
    if any(facts.mixed()):
        yield Finding("pots", "Leftovers are never pooled: each cures by itself, thin, outdoors")


def _flame(facts: Facts) -> Iterator[Finding]:
    if facts.job.practice.bubbles != "flamed out":
        return
    if any(each.styrene for each in facts.resins):
        yield Finding(
            "practice.bubbles",
            f"A flame is never taken to styrene resin: its vapour flashes at about {facts.scales.temperature(STYRENE_FLASHES_C)}",
        )
    else:
        yield Finding(
            "practice.bubbles", "A flame over epoxy: never within 30 min of a solvent wipe, nor near peroxide", "care"
        )


_PEROXIDE = (
    "Gloves, sleeves and an apron.",
    "Splash in an eye: water at once, 15 minutes by the clock, then hospital with the label.",
    "Spill: wet sand or vermiculite, plastic scoop, outdoors; never sawdust, rags or paper.",
    "Never back into the bottle, never a tight lid on a measured dose.",
    "Shaded and cool.",
    WINS,
)

RULES = (
    Rule(
        id="people.styrene_vapour",
        severity="care",
        step="ticket",
        reason="Styrene makes you dizzy after your nose has stopped smelling it. A dust mask stops no vapour.",
        do="Air across the work and out, a respirator for organic vapour, no flame, heater or spark. Warm a cold tin only in "
        f"a bath under {{30 °C}} with its lid loosened; the peroxide never. {WINS}",
        source="memory",
        find=_styrene_vapour,
    ),
    Rule(
        id="people.fibre_dust",
        severity="note",
        step="cut",
        reason="Fibre ends itch for days and the finest stay in the lungs; carbon dust conducts electricity.",
        do=f"Respirator, gloves, eyes, sleeves; sand wet or at a hose; carbon away from motors and switches. {WINS}",
        source="memory",
        find=_fibre_dust,
    ),
    Rule(
        id="people.waste",
        severity="note",
        step="ticket",
        reason="What is left of several pots together is one big pot. Rags with solvent or peroxide take fire by themselves.",
        do="Pour each leftover out thin on sand, foil or metal. Solvent rags flat outdoors, then into a lidded metal can; "
        f"peroxide rags and catalysed dust wetted first. {WINS}",
        source="memory",
        find=_waste,
    ),
    Rule(
        id="people.flame_near_styrene",
        severity="stop",
        step="measure",
        reason="Styrene, solvent and peroxide burn before they are seen to.",
        do=f"Rest the mix, warm the resin in a bath and roll the bubbles out. {WINS}",
        source="memory",
        find=_flame,
        overridable=False,
    ),
    Rule(
        id="people.peroxide_and_eyes",
        severity="care",
        step="ticket",
        reason="A drop of peroxide in an eye can cost it. With promoter, acetone, acid, metal filings or a used cup it "
        "may explode. It burns skin, and sets cloth that soaks it up alight.",
        do=" ".join(_PEROXIDE),
        points=_PEROXIDE,
        source="memory",
        find=_peroxide_and_eyes,
        overridable=False,
    ),
    Rule(
        id="people.skin",
        severity="care",
        step="ticket",
        reason="Once sensitised, always sensitised. Dust of half-cured resin does it too, and hardener burns eyes.",
        do=f"Gloves and sleeves; goggles for hardener. Wash skin with soap, not solvent. Wait or wet-sand. {WINS}",
        source="memory",
        find=_skin,
    ),
    Rule(
        id="people.runaway_pot",
        severity="care",
        step="ticket",
        reason="Curing gives off heat and heat speeds curing. The smoke is poisonous.",
        do=f"Surface under {{40 °C}} and no smoke: {_RUNAWAY[0]} Over {{40 °C}} or smoking: {_RUNAWAY[1]} {begun(_RUNAWAY[2])}",
        points=_RUNAWAY,
        source="memory",
        find=_runaway_pot,
    ),
)
