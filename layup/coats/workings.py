"""Workings of coats: what they weigh."""

from layup.coats.film import liquid_g_per_ml
from layup.laminate.parts import coat_use
from layup.workings.bench import MEMORY, TYPED, WORKED_OUT, Bench, Row, Write, Written, found


def _coat(bench: Bench, ply_id: str) -> Written:
    result = found((coat for coat in bench.plan.coats if coat.ply_id == ply_id), "this coat has no figures yet")
    part = next(part for part in bench.job.parts if part.id == result.part_id)
    coat = next(ply.coat for ply in part.plies if ply.id == ply_id and ply.coat)
    use = coat_use(bench.job, part, coat)
    density = liquid_g_per_ml(bench.job.product_of(use))
    givens: list[Row] = [
        ("u", "wet film of each", result.each_wet_um, "µm", TYPED if coat.wet_um else WORKED_OUT),
        ("d", "density of the mix", density, "g/ml", WORKED_OUT),
        ("c", "coats", float(result.count), "", TYPED),
        ("A", "area", result.area_m2, "m²", WORKED_OUT),
        ("n", "copies", float(part.copies), "", TYPED),
    ]
    formula = "u × d × c × A × n"
    if result.loss_share:
        givens.append(("l", f"lost with a {coat.tool}", result.loss_share, "", MEMORY))
        formula += " × (1 + l)"
    rule = "A micrometre over a square metre is a millilitre. Exact."
    return "Resin for this coat", formula, givens, result.resin_g + result.lost_g, "g", rule


WORKINGS: dict[str, Write] = {"coat": _coat}
