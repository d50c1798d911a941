"""The room and the surface against the resin."""

from collections.abc import Iterator

from layup.cautions.rule import Facts, Finding, Rule


def _under_minimum(facts: Facts) -> Iterator[Finding]:
    resin = facts.resin
    for name, temperature_c, path in (
        ("room", facts.room_c, "conditions.room_c"),
        ("surface", facts.surface_c, "conditions.surface_c"),
    ):
        if temperature_c < resin.minimum_c:
            yield Finding(path, f"The {name} is {temperature_c:.3g} °C; {resin.name} needs {resin.minimum_c:g} °C")
        elif temperature_c < resin.comfort_minimum_c:
            message = f"The {name} is {temperature_c:.3g} °C; under {resin.comfort_minimum_c:g} °C it cures late or not through"
            yield Finding(path, message, "care")


def _hardener_off_band(facts: Facts) -> Iterator[Finding]:
    if facts.hardener is None:
        return
    path = "chemistry.hardener_id"
    row = facts.hardener.chosen
    if row is None:
        yield Finding(path, facts.hardener.sentence)
        return
    name, low, high = row.hardener.name, *row.band_c
    at = f"{facts.room_c:.3g} °C"
    if row.steps_off >= 2:
        yield Finding(path, f"{name.capitalize()} hardener is {row.steps_off} steps slower than {at} asks for")
    elif row.steps_off == 1:
        sandable_h = row.clocks.sandable_min / 60
        yield Finding(
            path, f"{name.capitalize()} is one step slower than {at} asks for: sands after {sandable_h:.0f} h", "note"
        )
    elif row.steps_off <= -2:
        yield Finding(path, f"{name.capitalize()} hardener is {-row.steps_off} steps faster than {at} asks for")
    elif row.steps_off == -1:
        yield Finding(path, f"{name.capitalize()} is one step faster than {at} asks for: pots shrink", "care")
    elif facts.room_c > high + 0.05:
        yield Finding(path, f"{at} is over the {high:.0f} °C that {name} hardener is made for: pots shrink", "care")
    elif facts.room_c < low - 0.05:
        yield Finding(path, f"{at} is under the {low:.0f} °C that {name} hardener is made for: it cures later", "note")


RULES = (
    Rule(
        id="conditions.under_minimum",
        severity="stop",
        step="chemistry",
        reason="Air and surface both have to stay over the resin's minimum through the cure, or it stays soft.",
        do="Warm the room and the work first, and keep them warm overnight; or take a winter grade by its sheet.",
        source="common practice, and memory for two-part resin; the data sheet wins",
        find=_under_minimum,
    ),
    Rule(
        id="conditions.hardener_off_band",
        severity="stop",
        step="chemistry",
        reason="Each hardener is made for a band of room temperature: too slow may not be set after a day, too fast "
        "kicks in the cup.",
        do="Take the hardener whose band holds today's temperature, or change the temperature.",
        source="common practice",
        find=_hardener_off_band,
    ),
)
