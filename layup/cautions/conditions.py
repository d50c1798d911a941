"""The room and the surface against the resin."""

from collections.abc import Callable, Iterator

from layup.cautions.rule import Facts, Finding, Rule
from layup.chemistry.hardeners import HardenerVerdict
from layup.laminate.ground import STEEP
from layup.outcome import Severity
from layup.words import begun, with_article

# How much warmer than planned for a day may become before pots are thought too large for it (memory).
_RISE_C = 3.0
# Where blush is to be expected (memory): air as humid as this in a room as cool as that, or so little hardener to resin.
_HUMID_PCT, _COOL_C, _HIGH_RATIO_B_PER_A = 75.0, 18.0, 0.25
_DAMP_TIMBER_PCT, _WET_TIMBER_PCT = 12.0, 18.0  # memory
_CONCRETE_DAYS, _GREEN_CONCRETE_DAYS = 28.0, 21.0  # common practice


def _not_read(facts: Facts) -> Iterator[Finding]:
    if not facts.room_read:
        assumed = facts.scales.temperature(facts.room_c)
        yield Finding("conditions.room_c", f"Nobody has read this room yet: the plan goes by {assumed}")


def _under_minimum(facts: Facts) -> Iterator[Finding]:
    shown = facts.scales.temperature
    read = [("room", facts.room_c, "conditions.room_c")]
    if facts.conditions.surface_c is not None:
        read.append(("surface", facts.surface_c, "conditions.surface_c"))
    for name, temperature_c, path in read:
        too_cold = [each.resin for each in facts.resins if temperature_c < each.resin.minimum_c]
        for resin in too_cold:
            yield Finding(path, f"The {name} is {shown(temperature_c)}; {resin.name} needs {shown(resin.minimum_c)}")
        slowest = max((each.resin for each in facts.resins), key=lambda resin: resin.comfort_minimum_c)
        if not too_cold and temperature_c < slowest.comfort_minimum_c:
            which = f": {slowest.name}" if len(facts.resins) > 1 else ""
            under = shown(slowest.comfort_minimum_c)
            message = f"The {name} is {shown(temperature_c)}; under {under} it cures late or not through{which}"
            yield Finding(path, message, "care")


def _cold_before_it_is_hard(facts: Facts) -> Iterator[Finding]:
    shown = facts.scales.temperature
    for each in facts.resins:
        coldest_c, when = facts.coldest.get(each.use.id, (facts.room_c, ""))
        if facts.room_c >= each.resin.minimum_c > coldest_c:
            yield Finding(
                "conditions.room_c",
                f"The room falls to {shown(coldest_c)} at {when}, before the last layer is hard; "
                f"{each.resin.name} needs {shown(each.resin.minimum_c)}",
            )


def _near_the_dew_point(facts: Facts) -> Iterator[Finding]:
    if facts.dew is None or facts.dew.safe:
        return
    point = "frost point" if facts.dew.frost else "dew point"
    margin = facts.scales.words("temperature_difference", abs(facts.dew.margin_c))
    side = "over" if facts.dew.margin_c >= 0 else "under"
    yield Finding("conditions.surface_c", f"The surface is {margin} {side} the {point}: water settles on it")


def _warmer_later(facts: Facts) -> Iterator[Finding]:
    """The first resin whose choice is for a cooler room than is to come."""
    if facts.day is None or facts.job.conditions:
        return
    for each in facts.mixed(lambda each: each.resin.one_part is None):
        for_c = each.hardener.room_c if each.hardener else facts.room_c
        if facts.day.warmest_c - for_c > _RISE_C:
            warmest, planned = facts.scales.temperature(facts.day.warmest_c), facts.scales.temperature(for_c)
            chosen = "dose" if each.resin.catalyst else "hardener"
            said = f"Today is expected to reach {warmest}; the {chosen} under Chemistry is for {planned}"
            yield Finding("conditions.room_c", said, "care")
            return


def _blush(facts: Facts) -> Iterator[Finding]:
    humidity, shown = facts.conditions.humidity_pct, facts.scales.temperature(facts.room_c)
    epoxies = [each for each in facts.resins if each.resin.two_part and not each.styrene]
    if epoxies and humidity is not None and humidity >= _HUMID_PCT and facts.room_c < _COOL_C:
        yield Finding(
            "conditions.humidity_pct", f"Cool and humid, {shown} and {humidity:.0f} %: expect blush on the cure"
        )
        return
    for each in epoxies:
        ratio = each.resin.ratio_volume_b_per_a
        if ratio is not None and ratio <= _HIGH_RATIO_B_PER_A:
            said = with_article(f"{facts.scales.written(1 / ratio)} to 1 hardener blushes readily")
            yield Finding(f"{each.path}.resin_id", begun(said))


def _wet_or_green_ground(facts: Facts) -> Iterator[Finding]:
    for path, part in facts.parts():
        ground, name = part.ground, part.name or "this part"
        if part.substrate in ("bare plywood", "timber") and ground.moisture_pct is not None:
            if ground.moisture_pct > _WET_TIMBER_PCT:
                yield Finding(
                    f"{path}.ground.moisture_pct",
                    f"The timber of {name} holds {facts.scales.written(ground.moisture_pct)} % water",
                )
            elif ground.moisture_pct > _DAMP_TIMBER_PCT:
                message = (
                    f"The timber of {name} holds {facts.scales.written(ground.moisture_pct)} % water: twelve at most"
                )
                yield Finding(f"{path}.ground.moisture_pct", message, "care")
        if part.substrate == "concrete" and ground.age_days is not None and ground.age_days < _CONCRETE_DAYS:
            severity: Severity | None = None if ground.age_days < _GREEN_CONCRETE_DAYS else "care"
            message = f"The concrete of {name} is {facts.scales.written(ground.age_days)} days old: {facts.scales.written(_CONCRETE_DAYS)} are wanted"
            yield Finding(f"{path}.ground.age_days", message, severity)


def _contaminated(facts: Facts) -> Iterator[Finding]:
    for path, part in facts.parts():
        if part.ground.contaminated:
            yield Finding(f"{path}.ground.contaminated", f"Oil, wax or silicone may be on {part.name or 'this part'}")


def _hardener_off_band(facts: Facts) -> Iterator[Finding]:
    for each in facts.resins:
        if each.hardener:
            yield from _off_band(f"{each.path}.hardener_id", each.hardener, facts.scales.temperature)


def _off_band(path: str, verdict: HardenerVerdict, shown: Callable[[float], str]) -> Iterator[Finding]:
    row, room_c = verdict.chosen, verdict.room_c
    if row is None:
        lowest = shown(min(low for low, _ in (row.band_c for row in verdict.rows)))
        yield Finding(path, f"No hardener for {shown(room_c)}: warm up to {lowest}")
        return
    name, low, high = row.hardener.name, *row.band_c
    at = shown(room_c)
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
        yield Finding(
            path, f"{name.capitalize()} is one step faster than {at} asks for: each pot must be smaller", "care"
        )
    elif room_c > high + 0.05:
        yield Finding(
            path, f"{at} is over the {shown(high)} that {name} hardener is made for: each pot must be smaller", "care"
        )
    elif room_c < low - 0.05:
        yield Finding(path, f"{at} is under the {shown(low)} that {name} hardener is made for: it cures later", "note")


def _steep(facts: Facts) -> Iterator[Finding]:
    for path, part in facts.parts():
        steep = STEEP[part.orientation]
        if part.orientation == "down" or not part.plies:
            continue
        where = "overhead" if part.orientation == "overhead" else "on a wall"
        yield Finding(
            f"{path}.orientation",
            f"{part.name or 'This part'} is laid {where}: {facts.scales.written(steep.times)} times as long, pots "
            f"{100 * (1 - steep.pots_at):.0f} % smaller, {100 * steep.runs_off:.0f} % of the resin runs off",
        )


RULES = (
    Rule(
        id="conditions.steep",
        severity="note",
        step="measure",
        reason="Thin resin runs down before it has wetted the ply, and a heavy wet ply slides after it.",
        do="Take a thixotropic resin, or thicken it a little with silica; lay small pieces, and hold each one until it stays.",
        source="memory",
        find=_steep,
    ),
    Rule(
        id="conditions.not_read",
        severity="stop",
        step="chemistry",
        reason="The hardener, the dose and the size of each pot go by the temperature of the room.",
        do="Read the thermometer where the work stands, and type it above.",
        source="common practice",
        find=_not_read,
    ),
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
        id="conditions.cold_before_it_is_hard",
        severity="care",
        step="pots",
        reason="A resin that chills before it is hard stops where it is, and may never cure through as it should.",
        do="Keep the work warm overnight, under a tent with a heater and no flame, or begin when it has a warm night.",
        source="common practice; the data sheet wins",
        find=_cold_before_it_is_hard,
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
        do="Warm the work rather than the air, or dry the air, until the surface is {3 K} over the dew point. Never a "
        "flame heater without a flue: it burns to water.",
        source="common practice; dew point published (ASHRAE)",
        find=_near_the_dew_point,
    ),
    Rule(
        id="conditions.warmer_later",
        severity="care",
        step="chemistry",
        reason="Every few degrees shorten a pot's life. The run sheet sizes each pot for its hour, but one hardener is "
        "chosen for all the hours of the work, and one dose for the room as it was read.",
        do="Start early, or take a slower hardener for the warm hours. Take the readings again before each session.",
        source="memory",
        find=_warmer_later,
    ),
    Rule(
        id="conditions.blush",
        severity="care",
        step="chemistry",
        reason="Hardener at the surface takes water and carbon dioxide from the air and leaves a greasy film.",
        do="Wash with water and a pad before the next step, dry, then sand; or lay the next ply while it still bonds.",
        source="common practice; where it begins is memory",
        find=_blush,
    ),
    Rule(
        id="conditions.wet_or_green_ground",
        severity="stop",
        step="measure",
        reason="Water in the ground keeps resin out of it, and drives it off again as steam and blisters.",
        do="Dry it, and measure again: timber to 12 %, concrete 28 days old and dry under a taped sheet overnight.",
        source="common practice; the figures for timber from memory",
        find=_wet_or_green_ground,
    ),
    Rule(
        id="conditions.contaminated",
        severity="care",
        step="measure",
        reason="Resin draws back from oil, wax and silicone: it leaves craters on top and no bond beneath.",
        do="Solvent before sanding, so that it is not driven in, and again after; try whether water spreads on it.",
        source="common practice",
        find=_contaminated,
    ),
)
