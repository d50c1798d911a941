"""What goes with what: resin, fabric, what lies beneath and what comes on top."""

from collections.abc import Iterator

from layup.cautions.layers import meetings
from layup.cautions.rule import Facts, Finding, ResinFacts, Rule
from layup.job import Part
from layup.laminate.measures import ground_mm, patch_extra_mm
from layup.materials import Fabric
from layup.usual import MOULD_TO_PART

# A patch makes up so much of the depth of its hole; a skim of filler does the rest (memory).
PATCH_FILLS = 0.8


def _named(part: Part) -> str:
    return part.name or "This part"


def _mat_binder_with_epoxy(facts: Facts) -> Iterator[Finding]:
    seen = set()
    for path, part, fabric in facts.plies:
        of = facts.resin_of(part.use_id)
        if of is None or of.styrene:
            continue
        if fabric.epoxy_ok or fabric.id in seen or fabric.binder not in ("emulsion", "powder"):
            continue
        seen.add(fabric.id)
        if fabric.binder == "emulsion":
            yield Finding(path, f"{fabric.name} is held by an emulsion binder that epoxy does not dissolve")
        else:
            yield Finding(path, f"{fabric.name} is powder bound: epoxy may not take its binder", "care")


def _styrene_over_epoxy(facts: Facts) -> Iterator[Finding]:
    for part, beneath, above in meetings(facts):
        if (beneath.bond, above.bond) != ("epoxy", "styrene") or beneath.primes or above.primes:
            continue
        if beneath.ground:
            yield Finding(beneath.path, f"{_named(part)} is cured epoxy: {above.name} bonds poorly to it")
        elif above.later:
            message = f"{above.name.capitalize()} is to come over epoxy on {_named(part)}: it cures badly and peels"
            yield Finding(above.path, message)
        else:
            yield Finding(above.path, f"{above.name} comes on {beneath.name} on {_named(part)}: it bonds poorly to it")


def _epoxy_over_polyester(facts: Facts) -> Iterator[Finding]:
    for part, beneath, above in meetings(facts):
        if above.later or (beneath.bond, above.bond) != ("styrene", "epoxy") or not beneath.ground:
            continue
        if part.ground.washed_and_abraded:
            yield Finding(beneath.path, f"Epoxy over sound, abraded polyester on {_named(part)} is fine", "note")
        else:
            message = f"{_named(part)} is cured polyester and not yet washed and abraded: epoxy needs a key"
            yield Finding(beneath.path, message)


def _epoxy_on_gel_coat(facts: Facts) -> Iterator[Finding]:
    for part, beneath, above in meetings(facts):
        if beneath.gel_coat and above.bond == "epoxy" and not (beneath.ground or above.later):
            yield Finding(above.path, f"{above.name} comes on the polyester gel coat of {_named(part)}")


def _styrene_on_polystyrene(facts: Facts) -> Iterator[Finding]:
    for part, beneath, above in meetings(facts):
        if beneath.ground and part.substrate == "polystyrene foam" and above.bond == "styrene" and not above.later:
            yield Finding(beneath.path, f"{above.name} dissolves the polystyrene of {_named(part)}")
    for path, part, fabric in facts.plies:
        of = facts.resin_of(part.use_id)
        if fabric.styrene_dissolves and of and of.styrene:
            yield Finding(path, f"{of.resin.name} dissolves {fabric.name}")


def _carbon_on_metal(facts: Facts) -> Iterator[Finding]:
    first: dict[str, tuple[str, Part, Fabric]] = {}
    for path, part, fabric in facts.plies:
        first.setdefault(part.id, (path, part, fabric))
    for path, part, fabric in first.values():
        if fabric.fibre != "carbon":
            continue
        if part.substrate == "aluminium":
            yield Finding(path, f"Carbon lies against aluminium on {_named(part)}: it makes the metal corrode")
        elif part.ground.afloat:
            yield Finding(path, f"Carbon may touch metal in the water on {_named(part)}: it makes the metal corrode")


def _thin_mould(facts: Facts) -> Iterator[Finding]:
    for path, part in facts.parts():
        mould, made = facts.thickness_mm.get(part.id), facts.thickness_mm.get(part.mould_for)
        if mould and made and mould < MOULD_TO_PART * made:
            times = facts.scales.written(round(mould / made, 1))
            yield Finding(
                f"{path}.mould_for", f"The mould {part.name} is {times} times as thick as its part: three at least"
            )


def _plastic_fittings(facts: Facts) -> Iterator[Finding]:
    for path, part in facts.parts():
        if part.ground.plastic_fittings:
            yield Finding(f"{path}.ground.plastic_fittings", f"Smooth plastic fittings are bonded into {_named(part)}")


def _patch_past_its_ground(facts: Facts) -> Iterator[Finding]:
    size = facts.scales.words
    for path, part in facts.parts():
        shape = part.shape
        count = sum(not ply.coat for ply in part.plies)
        if shape.kind != "patch" or shape.depth_mm is None or not count:
            continue
        widest = max(patch_extra_mm(shape, place, count) for place in range(count))
        if widest > ground_mm(shape):
            message = f"The widest ply of {_named(part)} runs {size('size', widest)} past the hole"
            yield Finding(f"{path}.shape.step_mm", f"{message}; the ground ends at {size('size', ground_mm(shape))}")


def _foam_rollers(facts: Facts) -> Iterator[Finding]:
    for each in _styrene(facts)[:1]:
        if facts.plies:
            yield Finding(f"{each.path}.resin_id", "Styrene dissolves foam rollers and sheds the wax of waxed cups")


def _cup_and_resin(facts: Facts) -> Iterator[Finding]:
    for each in _styrene(facts):
        if facts.cup_made_of == "polystyrene":
            message = f"{each.resin.name} dissolves the polystyrene cup it is mixed in"
            yield Finding(f"{each.path}.resin_id", message)


def _styrene(facts: Facts) -> list[ResinFacts]:
    return [each for each in facts.resins if each.styrene]


def _patch_under_flush(facts: Facts) -> Iterator[Finding]:
    size = facts.scales.words
    for path, part in facts.parts():
        shape, thick = part.shape, facts.thickness_mm.get(part.id)
        if shape.kind != "patch" or shape.depth_mm is None or not thick:
            continue
        if thick < PATCH_FILLS * shape.depth_mm:
            message = (
                f"The patch of {_named(part)} comes to {size('thickness', thick)} "
                f"in a hole {size('thickness', shape.depth_mm)} deep"
            )
            yield Finding(f"{path}.plies", message)


def _foam_cup_with_epoxy(facts: Facts) -> Iterator[Finding]:
    epoxy = next((each for each in facts.resins if not each.styrene), None)
    if epoxy and facts.cup_made_of == "polystyrene":
        message = "Epoxy mixed in a polystyrene cup: it keeps the heat in, and softens with it"
        yield Finding(f"{epoxy.path}.resin_id", message)


def _waxed_cup(facts: Facts) -> Iterator[Finding]:
    for each in facts.resins[:1]:
        if facts.cup_made_of == "waxed paper":
            yield Finding(f"{each.path}.resin_id", "The usual cup is waxed paper: its wax goes into the resin")


def _not_scantlings(facts: Facts) -> Iterator[Finding]:
    if facts.plies:
        yield Finding(facts.plies[0][0], "How thick this has to be is not worked out here")


NOT_SCANTLINGS = Rule(
    id="materials.not_scantlings",
    severity="note",
    step="stack",
    reason="Structural thickness is for the designer, the class rules or a licensed naval architect, and local codes.",
    do="Take the stack from them where the part carries load or keeps water out.",
    source="common practice",
    find=_not_scantlings,
)

RULES = (
    Rule(
        id="materials.mat_binder_with_epoxy",
        severity="stop",
        step="stack",
        reason="The binder of ordinary mat dissolves in styrene. In epoxy it does not: the mat stays stiff and dry.",
        do="Take a stitched fabric, or mat whose maker names epoxy. Powder bound: wet a test square, which should go "
        "clear within 10 min.",
        source="common practice",
        find=_mat_binder_with_epoxy,
    ),
    Rule(
        id="materials.styrene_on_polystyrene",
        severity="stop",
        step="stack",
        reason="Styrene dissolves expanded polystyrene: the core is gone under the glass, and the fumes with it.",
        do="Take epoxy, or a foam that stands styrene. Do not mix polyester in a polystyrene cup either.",
        source="common practice",
        find=_styrene_on_polystyrene,
        overridable=False,
    ),
    Rule(
        id="materials.cup_and_resin",
        severity="stop",
        step="chemistry",
        reason="Styrene goes through a polystyrene cup in minutes, with the catalysed resin in it.",
        do="Mix in polypropylene or polyethylene, and say so on the shop's page.",
        source="common practice",
        find=_cup_and_resin,
        overridable=False,
    ),
    Rule(
        id="materials.epoxy_in_a_foam_cup",
        severity="care",
        step="chemistry",
        reason="Foam holds the heat of the pot, so that it kicks early, and from about {80 °C} the cup sags over the hand.",
        do="Mix in polypropylene or polyethylene, and say so on the shop's page.",
        source="memory",
        find=_foam_cup_with_epoxy,
    ),
    Rule(
        id="materials.styrene_over_epoxy",
        severity="stop",
        step="measure",
        reason="Polyester and gel coat hardly bond to cured epoxy, and its amines keep them from curing through.",
        do="Stay with epoxy, or paint. If a small area must be: cured through, washed with water, abraded, and proved "
        "on a scrap first.",
        source="common practice",
        find=_styrene_over_epoxy,
    ),
    Rule(
        id="materials.epoxy_over_polyester",
        severity="care",
        step="measure",
        reason="Epoxy bonds well to sound polyester that has been washed and abraded, and poorly to any other.",
        do="Wipe with solvent, abrade to a dull face, dust off, wipe again; then say so under Measure.",
        source="common practice",
        find=_epoxy_over_polyester,
    ),
    Rule(
        id="materials.epoxy_on_gel_coat",
        severity="care",
        step="stack",
        reason="Epoxy does not knit with a polyester gel coat that is still green: it holds to it only by a key.",
        do="Let the gel coat cure hard, wash off its wax, abrade it to a dull face, dust off and wipe; or put a primer made "
        "for it between. Try it on a scrap.",
        source="memory",
        find=_epoxy_on_gel_coat,
    ),
    Rule(
        id="materials.carbon_on_metal",
        severity="care",
        step="stack",
        reason="Wet carbon that touches aluminium or steel makes the metal corrode.",
        do="Lay a ply of glass between, and seal the edges.",
        source="common practice",
        find=_carbon_on_metal,
    ),
    Rule(
        id="materials.thin_mould",
        severity="care",
        step="stack",
        reason="A thin mould bends as the part in it heats and shrinks, and its weave shows on the part.",
        do="Build it up, or stiffen it with a core or ribs, before the first part.",
        source="common practice",
        find=_thin_mould,
    ),
    Rule(
        id="materials.plastic_fittings",
        severity="care",
        step="measure",
        reason="Resin holds to smooth plastic only by its shape: it lets go when the fitting is worked.",
        do="Abrade and prime with a primer made for that plastic, or fasten it through.",
        source="memory",
        find=_plastic_fittings,
    ),
    Rule(
        id="materials.patch_past_its_ground",
        severity="care",
        step="measure",
        reason="A ply past the ground lies on old gel coat or paint: it lifts at the edge, and has to be sanded away.",
        do="Grind wider, take smaller steps, or fewer plies.",
        source="common practice",
        find=_patch_past_its_ground,
    ),
    Rule(
        id="materials.patch_under_flush",
        severity="care",
        step="stack",
        reason="What is missing of the thickness is missing of the strength, and filler does not make it up.",
        do="Write more plies, as many as were there before, or type how deep the hole is.",
        source="memory",
        find=_patch_under_flush,
    ),
    Rule(
        id="materials.foam_rollers",
        severity="note",
        step="stack",
        reason="A foam roller in polyester comes apart in the laminate; a waxed cup gives its wax to the resin.",
        do="Take mohair or metal rollers and plain cups; count foam ones as used up.",
        source="common practice",
        find=_foam_rollers,
    ),
    Rule(
        id="materials.waxed_cup",
        severity="care",
        step="chemistry",
        reason="Wax on the ground keeps the next coat from bonding, and fish-eyes a clear one.",
        do="Mix in plain plastic cups, and say so on the shop's page.",
        source="common practice",
        find=_waxed_cup,
    ),
    NOT_SCANTLINGS,
)
