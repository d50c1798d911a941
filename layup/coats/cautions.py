"""Coats: what air keeps sticky, what does not level, a window shorter than the pot before it, a thin skin."""

from collections.abc import Iterator
from typing import Any

from layup.cautions.rule import Facts, Finding, Rule

# A gel coat is left in its window wet (common practice): thinner it does not cure, thicker it cracks.
_GEL_LEAST_UM, _GEL_MOST_UM = 350.0, 800.0
_FLOOD_LEAST_UM = 600.0  # memory
_BARRIER_LEAST_DRY_UM = 300.0  # common practice


def _coats(facts: Facts) -> tuple[Any, ...]:
    return tuple(facts.found["coats"] or ())


def _stays_sticky(facts: Facts) -> Iterator[Finding]:
    for each in _coats(facts):
        if each.on_top and each.product and each.product.air_inhibited:
            yield Finding(
                each.path,
                f"The {each.ply.name} on {each.part_name} is the last: {each.product.name} stays tacky in air",
            )


def _thin_or_thick(facts: Facts) -> Iterator[Finding]:
    size = facts.scales.words
    for each in _coats(facts):
        wet = each.film.each_wet_um
        if each.coat.kind in ("gel", "top") and not _GEL_LEAST_UM <= wet <= _GEL_MOST_UM:
            word = "thin" if wet < _GEL_LEAST_UM else "thick"
            yield Finding(
                each.path,
                f"The {each.ply.name} on {each.part_name} lies {size('film', wet)} wet: too {word}, "
                f"{size('film', 400)} to {size('film', 600)} is usual",
            )
        if each.coat.kind == "flood" and wet < _FLOOD_LEAST_UM:
            yield Finding(
                each.path,
                f"The flood coat on {each.part_name} lies {size('film', wet)} thick: it draws into islands",
            )
        if each.coat.kind == "barrier" and each.film.dry_um < _BARRIER_LEAST_DRY_UM - 1:
            yield Finding(
                each.path,
                f"The barrier on {each.part_name} dries to {size('film', each.film.dry_um)}; "
                f"{size('film', _BARRIER_LEAST_DRY_UM)} at least keep water out",
            )


def _one_surface_coat(facts: Facts) -> Iterator[Finding]:
    for _, part in facts.parts():
        surface = [each for each in _coats(facts) if each.part_id == part.id and each.coat.kind == "surface"]
        if surface and sum(each.film.count for each in surface) < 2:
            yield Finding(surface[0].path, f"{part.name or 'This mould'} has one surface coat")


RULES = (
    Rule(
        id="coats.stays_sticky",
        severity="care",
        step="pours",
        reason="Air keeps the face of such a resin from curing: fine under the next layer, sticky for good as the last.",
        do="Take the kind with wax for the last coat, stir wax solution in, or cover it with film until it is hard.",
        source="common practice",
        find=_stays_sticky,
    ),
    Rule(
        id="coats.thickness",
        severity="care",
        step="pours",
        reason="A thin coat cures badly and shows the weave, a thick one runs and cracks; a barrier keeps out water only "
        "from a certain thickness on.",
        do="Read a wet-film gauge on the first square metre, and set the weight by it.",
        source="common practice",
        find=_thin_or_thick,
    ),
    Rule(
        id="coats.one_surface_coat",
        severity="care",
        step="pours",
        reason="A mould's face is sanded and polished for years: one coat is through to the glass at the first repair.",
        do="Two coats of {350 g/m²} or so, the second at the brush-mark stage of the first.",
        source="common practice",
        find=_one_surface_coat,
    ),
)
