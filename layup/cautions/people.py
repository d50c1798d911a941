"""Eyes, skin, lungs and fire. Wordings from memory: the data sheet and local rules win."""

from collections.abc import Iterator

from layup.cautions.rule import Facts, Finding, Rule

WINS = "The data sheet and local rules win."
_BIG_EPOXY_POT_G = 1000


def _peroxide_and_eyes(facts: Facts) -> Iterator[Finding]:
    if facts.resin.catalyst and facts.pot_masses_g:
        yield Finding("chemistry.resin_id", "Peroxide catalyst: goggles on before the bottle is opened")


def _skin(facts: Facts) -> Iterator[Finding]:
    if facts.resin.family == "epoxy" and facts.pot_masses_g:
        yield Finding("chemistry.resin_id", "Epoxy resin and hardener both sensitise skin: gloves, sleeves, goggles")


def _runaway_pot(facts: Facts) -> Iterator[Finding]:
    if not facts.pot_masses_g:
        return
    largest = max(facts.pot_masses_g)
    pot = facts.scales.mass(largest)
    if facts.resin.family == "epoxy" and largest > _BIG_EPOXY_POT_G:
        yield Finding(
            "pots",
            f"A {pot} pot of epoxy left in its cup runs away: over {facts.scales.mass(1000)} is never left standing",
        )
    else:
        yield Finding("pots", f"A {pot} pot left in its cup can run away: know where it goes before you mix", "note")


def _flame(facts: Facts) -> Iterator[Finding]:
    if facts.job.practice.bubbles != "flamed out":
        return
    if facts.styrene:
        yield Finding(
            "practice.bubbles",
            f"A flame is never taken to styrene resin: its vapour flashes at about {facts.scales.temperature(31)}",
        )
    else:
        yield Finding(
            "practice.bubbles", "A flame over epoxy: never within 30 min of a solvent wipe, nor near peroxide", "care"
        )


RULES = (
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
        "may explode.",
        do="Splash in an eye: water at once, 15 minutes by the clock, then hospital with the label. Spill: wet sand or "
        "vermiculite, plastic scoop, outdoors; never sawdust, rags or paper. Never back into the bottle, never a tight "
        f"lid on a measured dose. Shaded and cool. {WINS}",
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
        do="Surface under 40 °C and no smoke: pour it out 3 mm thin, outdoors, on sand, foil or metal. Over 40 °C or "
        "smoking: do not pour, stir, lid or carry it past people; slide it outdoors at arm's length if that takes "
        "seconds, else clear the room and ventilate. Never water into hot resin, never a bin, lid or fridge. A cup may "
        f"stand in cold water before 40 °C, water outside the cup only. Outdoors until cold through. {WINS}",
        source="memory",
        find=_runaway_pot,
    ),
)
