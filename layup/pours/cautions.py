"""Castings: too hot, too deep, too thin to level, lifts that do not bond, open grain that blows bubbles."""

from collections.abc import Iterator
from dataclasses import dataclass

from layup.cautions.rule import Facts, Finding, Rule
from layup.heat.pot_lab import SMOKE_C, peak_words
from layup.outcome import Severity
from layup.pours.filling import LEVELS_FROM_MM
from layup.pours.plan import OPEN_GRAINED, PlannedPour

_FOAM_SUFFERS_C = 60.0  # common practice
_HOT_BAND_K = 25.0  # how far a peak may be out where no depth is stated (memory)


@dataclass(frozen=True)
class PourFacts:
    """The castings that could be worked out."""

    pours: tuple[PlannedPour, ...]


def _pours(facts: Facts) -> tuple[PlannedPour, ...]:
    found: PourFacts = facts.found["pours"]
    return found.pours


def _named(planned: PlannedPour) -> str:
    return planned.pour.name or "This casting"


def _too_hot(facts: Facts) -> Iterator[Finding]:
    for planned in _pours(facts):
        hottest = max(planned.lifts, key=lambda lift: lift.peak_c, default=None)
        if hottest is None or hottest.peak_c <= planned.pour.most_peak_c + 1:
            continue
        severity: Severity = "stop" if hottest.peak_c > SMOKE_C else "care"
        scales = facts.scales
        said = peak_words(hottest.peak_c, scales)
        yield Finding(
            f"{planned.path}.lift_mm",
            f"{_named(planned)}: {scales.words('size', hottest.depth_mm)} at once comes to {said}, over the "
            f"{scales.temperature(planned.pour.most_peak_c)} it should stay under",
            severity,
        )


def _deeper_than_stated(facts: Facts) -> Iterator[Finding]:
    size = facts.scales.words
    for planned in _pours(facts):
        of = facts.resin_of(planned.use_id)
        stated = of.resin.deepest_pour_mm if of else None
        if of and stated and max(planned.depths_mm) > stated * 1.001:
            yield Finding(
                f"{planned.path}.lift_mm",
                f"{_named(planned)} is poured {size('size', max(planned.depths_mm))} deep at once; "
                f"{of.resin.name} states {size('size', stated)}",
            )


def _not_for_casting(facts: Facts) -> Iterator[Finding]:
    for planned in _pours(facts):
        of = facts.resin_of(planned.use_id)
        if of and of.resin.made_for != "casting" and planned.cavity.deepest_mm > 2 * LEVELS_FROM_MM:
            yield Finding(
                f"{planned.path}.use_id",
                f"{of.resin.name} is not made for casting, and its sheet states no depth: the peak of {_named(planned)} "
                f"is only known to {facts.scales.words('temperature_difference', _HOT_BAND_K)} either way",
            )


def _does_not_level(facts: Facts) -> Iterator[Finding]:
    size = facts.scales.words
    for planned in _pours(facts):
        if min(planned.depths_mm) < LEVELS_FROM_MM:
            yield Finding(
                f"{planned.path}.depth_mm",
                f"{_named(planned)} is {size('size', min(planned.depths_mm))} deep at once; it levels by itself from "
                f"about {size('size', LEVELS_FROM_MM)}",
            )


def _cools_too_late(facts: Facts) -> Iterator[Finding]:
    for planned in _pours(facts):
        late = [number for number, lift in enumerate(planned.lifts[:-1], 1) if lift.cools_too_late]
        if late:
            yield Finding(
                f"{planned.path}.lift_mm",
                f"{_named(planned)}: lift {late[0]} no longer bonds by the time it has cooled",
            )


def _open_grain(facts: Facts) -> Iterator[Finding]:
    for planned in _pours(facts):
        if planned.pour.lies_in in OPEN_GRAINED and not planned.pour.sealed and not planned.seal_g:
            yield Finding(f"{planned.path}.sealed", f"{_named(planned)} is poured onto open {planned.pour.lies_in}")


def _slow_seal(facts: Facts) -> Iterator[Finding]:
    for planned in _pours(facts):
        of = facts.resin_of(planned.seal_use_id)
        if planned.seal_g and of and of.resin.made_for == "casting":
            yield Finding(
                f"{planned.path}.seal_use_id", f"{_named(planned)} is sealed in {of.resin.name}, which is slow to tack"
            )


def _foam_beneath(facts: Facts) -> Iterator[Finding]:
    for planned in _pours(facts):
        peak = max((lift.peak_c for lift in planned.lifts), default=0.0)
        if planned.pour.lies_in == "foam" and peak > _FOAM_SUFFERS_C:
            yield Finding(
                f"{planned.path}.lies_in",
                f"{_named(planned)} comes to {facts.scales.temperature(round(peak))} on foam, which keeps its heat in",
            )


def _sun(facts: Facts) -> Iterator[Finding]:
    for planned in _pours(facts):
        if planned.pour.in_the_sun:
            yield Finding(f"{planned.path}.in_the_sun", f"{_named(planned)} is cast in the sun")


RULES = (
    Rule(
        id="pours.too_hot",
        severity="care",
        step="pours",
        reason="Resin that stands deep keeps the heat it makes, and heat hurries it on: a quarter more depth can take it from "
        "warm to smoking. It yellows, cracks, shrinks off its edge, chars wood.",
        do="Pour it in lifts, in a cooler room, with a fan over it; or take a slower casting resin.",
        source="the heat model, unproven; the data sheet wins",
        find=_too_hot,
    ),
    Rule(
        id="pours.deeper_than_stated",
        severity="care",
        step="pours",
        reason="The maker tried that depth; a deeper one nobody answers for.",
        do="Pour it in lifts of no more than the sheet says, or try this depth in a scrap of the same timber first.",
        source="the data sheet",
        find=_deeper_than_stated,
    ),
    Rule(
        id="pours.not_for_casting",
        severity="care",
        step="pours",
        reason="A laminating resin is made fast, for thin layers: in a cavity it heats up within the hour.",
        do="Take a casting resin with a stated depth, or cast a trial as deep as this first, with a thermometer in it.",
        source="common practice",
        find=_not_for_casting,
    ),
    Rule(
        id="pours.does_not_level",
        severity="care",
        step="pours",
        reason="A thin pour draws back from edges and stands in islands.",
        do="Pour it deeper or spread it with a notched edge and a warm brush, as a coat.",
        source="common practice",
        find=_does_not_level,
    ),
    Rule(
        id="pours.cools_too_late",
        severity="care",
        step="pours",
        reason="A lift on a warm one runs away with its heat; one on a hard one only lies on it.",
        do="Let it cool, sand it dull, wipe it, and pour the next: it then holds by its key. Thinner lifts cool sooner.",
        source="the heat model; shares cured from memory",
        find=_cools_too_late,
    ),
    Rule(
        id="pours.open_grain",
        severity="care",
        step="pours",
        reason="Open timber breathes air into the resin as it warms: strings of bubbles rise from it for hours.",
        do="Brush a thin sealing coat over all of it, knots and bark twice, and pour when that has set to tack.",
        source="common practice",
        find=_open_grain,
    ),
    Rule(
        id="pours.slow_seal",
        severity="note",
        step="pours",
        reason="A casting resin spread thin keeps cool, and takes half a day or more to come to tack: the pour waits for it.",
        do="Seal in a quick coating or laminating resin: add it under Chemistry, and name it here.",
        source="common practice",
        find=_slow_seal,
    ),
    Rule(
        id="pours.on_foam",
        severity="care",
        step="pours",
        reason="Foam insulates: the same depth comes out far hotter than in timber, and foam softens from about {60 °C}.",
        do="Thinner lifts, or a skin of glass and a day between foam and casting.",
        source="the heat model; common practice",
        find=_foam_beneath,
    ),
    Rule(
        id="pours.in_the_sun",
        severity="note",
        step="pours",
        reason="Sun warms clear resin through: it is worked out as a room {8 °C} warmer (memory).",
        do="Shade it until it has gelled, or pour towards evening.",
        source="memory",
        find=_sun,
    ),
)
