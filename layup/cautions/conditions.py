"""The room and the surface against the resin."""

from collections.abc import Iterator

from layup.cautions.rule import Facts, Finding, Rule

# How much warmer than planned for a day may become before pots are thought too large for it (memory).
_RISE_C = 3.0


def _under_minimum(facts: Facts) -> Iterator[Finding]:
    resin, shown = facts.resin, facts.scales.temperature
    for name, temperature_c, path in (
        ("room", facts.room_c, "conditions.room_c"),
        ("surface", facts.surface_c, "conditions.surface_c"),
    ):
        if temperature_c < resin.minimum_c:
            yield Finding(path, f"The {name} is {shown(temperature_c)}; {resin.name} needs {shown(resin.minimum_c)}")
        elif temperature_c < resin.comfort_minimum_c:
            under = shown(resin.comfort_minimum_c)
            yield Finding(
                path, f"The {name} is {shown(temperature_c)}; under {under} it cures late or not through", "care"
            )


def _near_the_dew_point(facts: Facts) -> Iterator[Finding]:
    if facts.dew is None or facts.dew.safe:
        return
    point = "frost point" if facts.dew.frost else "dew point"
    margin = facts.scales.words("temperature_difference", abs(facts.dew.margin_c))
    side = "over" if facts.dew.margin_c >= 0 else "under"
    yield Finding("conditions.surface_c", f"The surface is {margin} {side} the {point}: water settles on it")


def _warmer_later(facts: Facts) -> Iterator[Finding]:
    if facts.day is None or facts.job.conditions or facts.day.warmest_c - facts.room_c <= _RISE_C:
        return
    warmest, planned = facts.scales.temperature(facts.day.warmest_c), facts.scales.temperature(facts.room_c)
    yield Finding(
        "conditions.room_c", f"Today is expected to reach {warmest}; these pots are sized for {planned}", "care"
    )


def _hardener_off_band(facts: Facts) -> Iterator[Finding]:
    if facts.hardener is None:
        return
    path = "chemistry.hardener_id"
    row = facts.hardener.chosen
    if row is None:
        lowest = facts.scales.temperature(min(low for low, _ in (row.band_c for row in facts.hardener.rows)))
        yield Finding(path, f"No hardener for {facts.scales.temperature(facts.room_c)}: warm up to {lowest}")
        return
    name, low, high = row.hardener.name, *row.band_c
    shown = facts.scales.temperature
    at = shown(facts.room_c)
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
        yield Finding(path, f"{at} is over the {shown(high)} that {name} hardener is made for: pots shrink", "care")
    elif facts.room_c < low - 0.05:
        yield Finding(path, f"{at} is under the {shown(low)} that {name} hardener is made for: it cures later", "note")


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
    Rule(
        id="conditions.near_the_dew_point",
        severity="stop",
        step="chemistry",
        reason="Air gives its water to a surface near its dew point. Resin over that film does not bond, and may stay "
        "milky or greasy.",
        do="Warm the work rather than the air, or dry the air, until the surface is 3 °C over the dew point. Never a "
        "flame heater without a flue: it burns to water.",
        source="common practice; dew point published (ASHRAE)",
        find=_near_the_dew_point,
    ),
    Rule(
        id="conditions.warmer_later",
        severity="care",
        step="pots",
        reason="Every few degrees shorten a pot's life, and pots planned in the morning kick early in the afternoon.",
        do="Start early, take the readings again before each session, or plan for the warmest the day will be.",
        source="memory",
        find=_warmer_later,
    ),
)
