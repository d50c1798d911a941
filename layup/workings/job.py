"""Workings of the whole job: what is mixed, kept and paid for."""

from layup.joints import FILLET_WASTE_SHARE
from layup.plan import RESERVE_SHARE
from layup.ratio import weight_ratio
from layup.workings.bench import MEMORY, TYPED, WORKED_OUT, Bench, Write, found, sum_of


def _paste(bench: Bench, joint_id: str):
    result = found((joint for joint in bench.plan.joints if joint.id == joint_id), "this joint has no figures yet")
    joint = next(joint for joint in bench.job.joints if joint.id == joint_id)
    givens = [
        ("F", "section of the bead", result.section_mm2, "mm²", "exact geometry"),
        ("l", "length", joint.length_m, "m", TYPED),
        ("k", "sides", float(joint.sides), "", TYPED),
        ("w", "lost on stick and board", FILLET_WASTE_SHARE, "", MEMORY),
    ]
    rule = "The section is (1 − π/4) r² for a right angle; a square millimetre over a metre is a millilitre."
    return "Paste for this joint", "F × l × k × (1 + w)", givens, result.paste_ml, "ml", rule


def _mixed(bench: Bench, _: str):
    use = bench.plan.resin
    rows = [
        ("stays in the plies", use.in_plies_g),
        ("first wet-out of the surface", use.first_wet_out_g),
        ("coats", use.in_coats_g),
        ("in the joints", use.in_joints_g),
        ("mopped off, or comes off with a peel ply", use.mopped_off_g),
        ("left in cups, brushes, rollers", use.left_in_vessels_g),
        ("over, so that pots can be read", use.surplus_g),
    ]
    rule = "Everything that has to be mixed; losses from memory until the shop's log corrects them."
    return sum_of("To mix for this job", [row for row in rows if row[1] > 1e-9], "g", use.mixed_g, rule)


def _to_have(bench: Bench, _: str):
    use = bench.plan.resin
    givens = [
        ("m", "to mix", use.mixed_g, "g", WORKED_OUT, "mixed"),
        ("r", "reserve, kept in the tin", RESERVE_SHARE, "", MEMORY),
    ]
    return "Have at hand", "m × (1 + r)", givens, use.to_have_g, "g", "A tenth more than is mixed."


def _part_a(bench: Bench, _: str):
    use = bench.plan.resin
    return "A in the pots", "m ÷ (1 + r)", _mixed_and_ratio(bench), use.part_a_g, "g", "The ratio by weight."


def _part_b(bench: Bench, _: str):
    use = bench.plan.resin
    return "B in the pots", "m × r ÷ (1 + r)", _mixed_and_ratio(bench), use.part_b_g, "g", "The ratio by weight."


def _mixed_and_ratio(bench: Bench) -> list[tuple]:
    ratio = weight_ratio(bench.resin, bench.hardener.density_g_per_cm3)
    return [
        ("m", "to mix", bench.plan.resin.mixed_g, "g", WORKED_OUT, "mixed"),
        ("r", "B for one of A, by weight", ratio.b_per_a, "", WORKED_OUT if ratio.derived else "data sheet"),
    ]


def _catalyst(bench: Bench, _: str):
    use, catalyst = bench.plan.resin, bench.resin.catalyst
    source = str(catalyst.sources["density_g_per_cm3"])
    givens = [
        ("m", "to mix", use.mixed_g, "g", WORKED_OUT, "mixed"),
        ("p", "dose, over all its pots", 100 * use.catalyst_g / use.mixed_g, "%", WORKED_OUT),
        ("d", "density of the catalyst", catalyst.density_g_per_cm3, "g/cm³", source),
    ]
    return "Catalyst", "m × p ÷ 100 ÷ d", givens, use.catalyst_ml, "ml", "By weight of resin, measured by volume."


def _cost(bench: Bench, _: str):
    rows = [(line.name, line.cost) for line in bench.plan.cost.lines]
    rule = (
        "Fabric as covered, before cutting waste; resin, hardener and filler as mixed. Prices as the materials state."
    )
    return sum_of("Materials", rows, "", bench.plan.cost.total, rule)


JOB: dict[str, Write] = {
    "paste": _paste,
    "mixed": _mixed,
    "to_have": _to_have,
    "part_a": _part_a,
    "part_b": _part_b,
    "catalyst": _catalyst,
    "cost": _cost,
}
