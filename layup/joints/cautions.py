"""Fillets, tabbing and pastes: what does not hold, does not lie, or cannot be finished."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from layup.cautions.materials import NOT_SCANTLINGS
from layup.cautions.people import WINS
from layup.cautions.rule import Facts, Finding, Rule
from layup.heat.pot_lab import SMOKE_C, peak_words
from layup.heat.wet_limit import WARN_FROM_C
from layup.joints.deep import deepest_mm
from layup.joints.plan import PlannedJoint
from layup.joints.tabbing import STAGGER_MM
from layup.joints.thickening import CRUMBLES_FROM
from layup.outcome import Severity


@dataclass(frozen=True)
class JointFacts:
    """The joints that could be worked out, and how hot each thick one becomes that is filled at once, °C, by its path."""

    joints: tuple[PlannedJoint, ...]
    peaks_c: dict[str, float | None]


def _found(facts: Facts) -> JointFacts:
    return facts.found["joints"]


def _named(worked: PlannedJoint) -> str:
    return worked.joint.name or "This joint"


def _not_structural(facts: Facts) -> Iterator[Finding]:
    for worked in _found(facts).joints:
        if worked.paste is None or worked.joint.duty != "carries load":
            continue
        if not any(part.filler.structural for part in worked.paste.recipe):
            name = worked.paste.recipe[0].filler.name
            yield Finding(f"{worked.path}.filler_id", f"{name} alone in {_named(worked)}, which carries load")


def _fabric_too_stiff(facts: Facts) -> Iterator[Finding]:
    size = facts.scales.words
    for worked in _found(facts).joints:
        for number, tab in enumerate(worked.tabs):
            tightest, radius = tab.fabric.tightest_radius_mm, tab.laid.radius_mm
            if tightest > radius and not worked.flat:
                yield Finding(
                    f"{worked.path}.tabs.{number}.fabric_id",
                    f"{tab.fabric.name} turns no tighter than {size('size', tightest)}; strip {number + 1} of "
                    f"{_named(worked)} turns {size('size', radius)}",
                )
                break


def _edges_in_line(facts: Facts) -> Iterator[Finding]:
    size = facts.scales.words
    for worked in _found(facts).joints:
        for number, (under, over) in enumerate(zip(worked.tabs, worked.tabs[1:], strict=False), 2):
            if over.laid.end_mm - under.laid.end_mm < STAGGER_MM / 2:
                past = max(0.0, over.laid.end_mm - under.laid.end_mm)
                yield Finding(
                    f"{worked.path}.tabs.{number - 1}.width_mm",
                    f"Strip {number} of {_named(worked)} ends {size('size', past)} past the one beneath it",
                )
                break


def _too_hard_to_sand(facts: Facts) -> Iterator[Finding]:
    if facts.job.practice.tabbing != "cured and sanded":
        return
    for worked in _found(facts).joints:
        if worked.paste and worked.tabs and any(part.filler.sands == "hard" for part in worked.paste.recipe):
            yield Finding(
                f"{worked.path}.filler_id",
                f"{_named(worked)} is to be sanded before its tabbing, and its filler sands hard",
            )


def _crumbles(facts: Facts) -> Iterator[Finding]:
    for worked in _found(facts).joints:
        if worked.paste is None or worked.joint.own_parts is None:
            continue
        part = worked.paste.recipe[0]
        stands = part.filler.parts("stands")
        if part.parts > CRUMBLES_FROM * stands:
            yield Finding(
                f"{worked.path}.own_parts",
                f"{facts.scales.written(part.parts)} loose parts of {part.filler.name} in {_named(worked)}: it stands at {facts.scales.written(stands, '.1f')}",
            )


def _starved(facts: Facts) -> Iterator[Finding]:
    for worked in _found(facts).joints:
        if worked.joint.kind in ("glue line", "scarf") and worked.joint.squeeze_out < 0.10:
            yield Finding(
                f"{worked.path}.squeeze_out",
                f"{_named(worked)} has {100 * worked.joint.squeeze_out:.0f} % to squeeze out",
            )


def _too_deep(facts: Facts) -> Iterator[Finding]:
    size = facts.scales.words
    for worked in _found(facts).joints:
        deep, of = deepest_mm(worked.joint), facts.resin_of(worked.use_id)
        most_mm = of.resin.deepest_pour_mm if of else None
        if of and most_mm is not None and deep > most_mm:
            yield Finding(
                f"{worked.path}.depth_mm",
                f"{_named(worked)} is {size('size', deep)} deep; {of.resin.name} is poured {size('size', most_mm)} "
                "deep at most",
            )
        peak_c = _found(facts).peaks_c.get(worked.path)
        if peak_c is not None and peak_c > WARN_FROM_C:
            severity: Severity = "stop" if peak_c > SMOKE_C else "care"
            comes_to = peak_words(peak_c, facts.scales)
            yield Finding(f"{worked.path}.depth_mm", f"{_named(worked)} filled at once comes to {comes_to}", severity)


def _sharp_corner(facts: Facts) -> Iterator[Finding]:
    radii = [joint.radius_mm for joint in facts.job.joints if joint.kind == "corner" and joint.radius_mm]
    for path, part in facts.parts():
        if part.ground.sharp_corner and not radii:
            yield Finding(
                f"{path}.ground.sharp_corner",
                f"{part.name or 'This part'} has a sharp inside corner and the job no fillet",
            )


def _fabric_stiffer_than_fillet(facts: Facts) -> Iterator[Finding]:
    radii = [joint.radius_mm for joint in facts.job.joints if joint.kind == "corner" and joint.radius_mm]
    if not radii:
        return
    size = facts.scales.words
    for path, part, fabric in facts.plies:
        if part.ground.sharp_corner and fabric.tightest_radius_mm > min(radii):
            message = f"{fabric.name} turns no tighter than {size('size', fabric.tightest_radius_mm)}"
            yield Finding(path, f"{message}; the fillet is {size('size', min(radii))}")


def _filler_dust(facts: Facts) -> Iterator[Finding]:
    if any(joint.filler_id for joint in facts.job.joints):
        yield Finding("joints", "Filler floats: a particle mask while it is tipped, and no draught")


def _carries_load(facts: Facts) -> Iterator[Finding]:
    carries = next((worked for worked in _found(facts).joints if worked.joint.duty == "carries load"), None)
    if carries:
        yield Finding(carries.path, "What this joint has to carry is not worked out here")


RULES = (
    replace(NOT_SCANTLINGS, find=_carries_load),
    Rule(
        id="joints.too_deep_at_once",
        severity="care",
        step="joints",
        reason="Resin that stands deep keeps the heat it makes: it cracks, smokes, chars wood and melts foam.",
        do="Fill it in layers, each cooled to the room before the next, or glue in wood and fill what is left; a slower "
        "hardener stands deeper.",
        source="the heat model, 60 °C from memory; the data sheet wins",
        find=_too_deep,
    ),
    Rule(
        id="joints.filler_not_structural",
        severity="stop",
        step="joints",
        reason="Hollow spheres make a light paste that is easy to sand and easy to break: it fills, and does not bond.",
        do="Take a structural filler, or mix one in; or say that the joint only eases the corner for its tabbing.",
        source="common practice",
        find=_not_structural,
    ),
    Rule(
        id="joints.fabric_too_stiff",
        severity="care",
        step="joints",
        reason="A fabric that cannot follow the fillet lifts off it as soon as the brush has gone, and leaves air beneath.",
        do="Draw a larger radius, or take a lighter fabric or one cut on the bias. Each strip takes from the radius.",
        source="memory",
        find=_fabric_too_stiff,
    ),
    Rule(
        id="joints.edges_in_line",
        severity="care",
        step="joints",
        reason="Edges that end together end the joint there: it peels from its edge, and the step has to be faired.",
        do="Widen each strip by the stagger on both legs, {25 mm} or so.",
        source="common practice",
        find=_edges_in_line,
    ),
    Rule(
        id="joints.too_hard_to_sand",
        severity="care",
        step="joints",
        reason="Silica and milled glass cure too hard to sand fair: the ground round them goes first.",
        do="Tab it wet, or take wood flour or fibres, and draw it clean while it is soft.",
        source="common practice",
        find=_too_hard_to_sand,
    ),
    Rule(
        id="joints.crumbles",
        severity="care",
        step="joints",
        reason="Past what stands, filler is not wetted through: the paste crumbles off the stick and the bond is dry.",
        do="Stir it in by degrees, and stop at the word it should come to.",
        source="memory",
        find=_crumbles,
    ),
    Rule(
        id="joints.starved",
        severity="care",
        step="joints",
        reason="A joint that did not ooze all along is starved, and nobody sees where.",
        do="Lay on 15 to 30 % more than fills it, wet both faces, and do not clamp it dry.",
        source="common practice",
        find=_starved,
    ),
    Rule(
        id="materials.sharp_corner",
        severity="care",
        step="measure",
        reason="Glass cannot follow a sharp inside corner: it spans it, and air or dry fibre stays behind it.",
        do="Add a fillet first, of one to three times the panel's thickness.",
        source="common practice",
        find=_sharp_corner,
    ),
    Rule(
        id="materials.fabric_stiffer_than_fillet",
        severity="care",
        step="stack",
        reason="A fabric that cannot follow the fillet lifts off it as soon as the brush has gone.",
        do="Make the fillet larger, or take a lighter fabric or one cut on the bias.",
        source="memory",
        find=_fabric_stiffer_than_fillet,
    ),
    Rule(
        id="people.filler_dust",
        severity="note",
        step="joints",
        reason="Silica, microspheres and wood flour hang in the air where one breathes over the cup.",
        do=f"A particle mask on before the bag is opened; tip it in low and slowly. {WINS}",
        source="memory",
        find=_filler_dust,
    ),
)
