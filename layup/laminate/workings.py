"""Workings of the surface and its laminate: area, thickness, weights, the margin over the dew point."""

import re
from itertools import pairwise

from layup.architecture import TABLE_SOURCE
from layup.laminate.areas import girths_area_m2
from layup.laminate.measures import SHAPES
from layup.laminate.parts import coat_use
from layup.laminate.plies import CURED_DENSITY_G_PER_CM3
from layup.laminate.weights import fibre_density_g_per_cm3
from layup.materials import ResinSystem
from layup.shapes import Girths
from layup.workings.bench import MEMORY, TYPED, WORKED_OUT, Bench, Row, Write, Written, known, sum_of, symbol


def _area(bench: Bench, part_id: str) -> Written:
    if not part_id:
        rows = [(part.name or "part", part.total_area_m2, f"area:{part.id}") for part in bench.plan.parts]
        total = sum(part.total_area_m2 for part in bench.plan.parts)
        return sum_of("To cover", rows, "m²", total, "Every part, all its copies. Exact.")
    result = bench.part(part_id)
    part = next(part for part in bench.job.parts if part.id == part_id)
    givens: list[Row] = [
        ("A", result.area_rule, result.outline_m2, "m²", WORKED_OUT, f"outline:{part_id}"),
        ("k", "gained by curving two ways", part.developed_area_factor, "", TYPED),
        ("P", "edge", result.perimeter_m, "m", WORKED_OUT),
        ("e", "margin round it", part.margin_mm / 1000, "m", TYPED),
        ("c", "holes", result.holes_m2, "m²", WORKED_OUT),
        ("n", "copies", float(result.count), "", TYPED),
    ]
    formula = "A × k × n"
    if part.margin_mm or result.holes_m2:
        formula = "(A × k + P × e + 4 × e × e − c) × n"
    used = [given for given in givens if re.search(rf"\b{given[0]}\b", formula)]
    return "Area of this part", formula, used, result.total_area_m2, "m²", "Exact for a straight edge."


def _outline(bench: Bench, part_id: str) -> Written:
    """The area of the outline alone, by the formula of its shape."""
    result = bench.part(part_id)
    shape = next(part.shape for part in bench.job.parts if part.id == part_id)
    if shape.kind == "girths":
        formula, givens = _girths_formula(shape)
    else:
        told = SHAPES[shape.kind]
        formula = told.formula
        givens = [
            (each.letter, each.name, getattr(shape, each.field) / each.per, each.unit, TYPED) for each in told.symbols
        ]
    return "Area of the outline", formula, givens, result.outline_m2, "m²", f"By {result.area_rule}. Exact geometry."


def _girths_formula(shape: Girths) -> tuple[str, list[Row]]:
    at = [station.at_m or 0.0 for station in shape.stations]
    girths = [station.girth_m or 0.0 for station in shape.stations]
    givens: list[Row] = [
        (symbol(n), f"girth at {x:g} m", girth, "m", TYPED) for n, (x, girth) in enumerate(zip(at, girths, strict=True))
    ]
    if girths_area_m2(at, girths)[1] == "Simpson":
        weights = [1, *(4 if n % 2 else 2 for n in range(1, len(at) - 1)), 1]
        terms = " + ".join(f"{w} × {symbol(n)}" for n, w in enumerate(weights))
        spacing = at[1] - at[0]
        return f"({terms}) × o ÷ 3", [*givens, ("o", "spacing", spacing, "m", TYPED)]
    terms = " + ".join(f"({symbol(n)} + {symbol(n + 1)}) ÷ 2 × {b - a:.6g}" for n, (a, b) in enumerate(pairwise(at)))
    return terms, givens


def _thickness(bench: Bench, part_id: str) -> Written:
    part = bench.part(part_id)
    rows = [
        (f"ply {at}, {ply.name}", ply.thickness_mm, f"ply_thickness:{ply.id}")
        for at, ply in enumerate(part.plies, 1)
        if ply.stays
    ]
    rule = "The plies' thicknesses, each fibre and resin by their densities; no voids."
    return sum_of("Thickness", rows, "mm", part.thickness_mm, rule)


def _ply_thickness(bench: Bench, ply_id: str) -> Written:
    ply, resin = bench.ply(ply_id), _resin_of(bench, ply_id)
    cured = resin.cured_density_g_per_cm3 if resin else CURED_DENSITY_G_PER_CM3
    source = str(resin.sources.get("cured_density_g_per_cm3", MEMORY)) if resin else MEMORY
    if ply.coat:
        givens = [
            ("R", "resin in the coat", ply.resin_gsm, "g/m²", TYPED),
            ("c", "density of cured resin", cured, "g/cm³", source),
        ]
        return f"Thickness of {ply.name}", "R ÷ c ÷ 1000", givens, ply.thickness_mm, "mm", "Weight over density."
    fabric_id = next(p.fabric_id for part in bench.job.parts for p in part.plies if p.id == ply_id)
    fabric = next(fabric for fabric in bench.job.materials.fabrics if fabric.id == fabric_id)
    if fabric.core_thickness_mm:
        source = str(fabric.sources["core_thickness_mm"])
        givens = [("t", "the core's own thickness", ply.thickness_mm, "mm", source)]
        return f"Thickness of {ply.name}", "t", givens, ply.thickness_mm, "mm", "As its sheet says."
    givens = [
        ("W", "fibre", ply.fibre_gsm, "g/m²", str(fabric.sources.get("areal_weight_gsm", MEMORY))),
        ("R", "resin", ply.resin_gsm, "g/m²", WORKED_OUT),
        ("f", f"density of {fabric.fibre}", fibre_density_g_per_cm3(fabric), "g/cm³", MEMORY),
        ("c", "density of cured resin", cured, "g/cm³", source),
    ]
    rule = "Weights over densities (published, ISO 12215-5 in its two-term form)."
    return f"Thickness of {ply.name}", "(W ÷ f + R ÷ c) ÷ 1000", givens, ply.thickness_mm, "mm", rule


def _resin_of(bench: Bench, ply_id: str) -> ResinSystem | None:
    """What a ply or coat is worked out with; its part's resin stands in for that of a gel coat of no resin in use."""
    part, ply = next((part, ply) for part in bench.job.parts for ply in part.plies if ply.id == ply_id)
    use = (coat_use(bench.job, part, ply.coat) if ply.coat else None) or bench.job.use_of(part.use_id)
    return bench.of(known(use).id).resin


def _ply_resin(bench: Bench, ply_id: str) -> Written:
    ply = bench.ply(ply_id)
    count = next(part.count for part in bench.plan.parts if any(p.id == ply_id for p in part.plies))
    area = ("A", "area of this ply, overlaps counted", ply.area_m2, "m²", WORKED_OUT)
    copies = ("n", "copies", float(count), "", TYPED)
    if ply.fibre_weight_fraction is None:
        taken = ("R", "resin it takes", ply.resin_gsm / ply.layers_mean, "g/m²", ply.fraction_source)
        rule = "As the coat was written." if ply.coat else "What it takes by its sheet; it is no reinforcement."
        return f"Resin in {ply.name}", "R × A × n", [taken, area, copies], ply.resin_g * count, "g", rule
    givens = [
        ("W", "fibre", ply.fibre_gsm / ply.layers_mean, "g/m²", "data sheet"),
        area,
        ("y", "fibre weight fraction", ply.fibre_weight_fraction, "", ply.fraction_source),
        copies,
    ]
    rule = "Resin that stays in the fibre: what the fibre weighs, times what is not fibre over what is."
    return f"Resin in {ply.name}", "W × A × (1 − y) ÷ y × n", givens, ply.resin_g * count, "g", rule


def _laminate(bench: Bench, part_id: str) -> Written:
    part = bench.part(part_id)
    rows = [
        (f"ply {at}, {ply.name}", ply.fibre_gsm + ply.resin_gsm)
        for at, ply in enumerate(part.plies, 1)
        if ply.stays and ply.coat != "wet-out"
    ]
    return sum_of("Laminate", rows, "g/m²", part.laminate_gsm, "Fibre and resin of each ply.")


def _fibre_share(bench: Bench, part_id: str) -> Written:
    part = bench.part(part_id)
    plies = [ply for ply in part.plies if ply.fibre_weight_fraction is not None]
    fibre = sum(ply.fibre_gsm for ply in plies)
    givens = [
        ("W", "fibre of all plies", fibre, "g/m²", WORKED_OUT),
        (
            "L",
            "fibre and resin of the plies that reinforce",
            fibre + sum(p.resin_gsm for p in plies),
            "g/m²",
            WORKED_OUT,
        ),
    ]
    rule = f"Each ply's share: {TABLE_SOURCE} or your own."
    return "Fibre by weight", "100 × W ÷ L", givens, 100 * known(part.fibre_weight_fraction), "%", rule


def _fibre_volume(bench: Bench, part_id: str) -> Written:
    part = bench.part(part_id)
    plies = [ply for ply in part.plies if ply.fibre_weight_fraction is not None]
    fibre_mm = sum((ply.fibre_volume_fraction or 0.0) * ply.thickness_mm for ply in plies)
    givens = [
        ("V", "fibre alone, by its weight over its density", fibre_mm, "mm", WORKED_OUT),
        ("t", "thickness of the plies that reinforce", sum(ply.thickness_mm for ply in plies), "mm", WORKED_OUT),
    ]
    rule = "Exact, from the weights and the densities; no voids."
    return "Fibre by volume", "100 × V ÷ t", givens, 100 * known(part.fibre_volume_fraction), "%", rule


def _weight(bench: Bench, part_id: str) -> Written:
    part = bench.part(part_id)
    rows = [("fibre", part.fibre_g), ("resin in the plies", part.resin_in_plies_g)]
    coats_g = part.weight_g - part.fibre_g - part.resin_in_plies_g
    rows += [("coats", coats_g)] if coats_g > 1e-9 else []
    rule = "One copy, without what a bare surface soaks up."
    return "Weight of the laminate", *sum_of("", rows, "g", part.weight_g, rule)[1:]


WORKINGS: dict[str, Write] = {
    "area": _area,
    "outline": _outline,
    "thickness": _thickness,
    "ply_thickness": _ply_thickness,
    "ply_resin": _ply_resin,
    "laminate": _laminate,
    "fibre_share": _fibre_share,
    "fibre_volume": _fibre_volume,
    "weight": _weight,
}
