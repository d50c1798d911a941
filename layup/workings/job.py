"""Workings of the whole job: what is mixed, kept and paid for."""

from layup.chemistry.ratio import weight_ratio
from layup.joints.volumes import FILLET_WASTE_SHARE, GLUE_LINE_MM, NOTCHED_SHARE, fillet_section_mm2, side_angles_deg
from layup.resin_use import AIMED_ALLOWANCE_SHARE, LEAST_RESERVE_SHARE
from layup.workings.bench import COMMON, MEMORY, TYPED, WORKED_OUT, Bench, Write, found, sum_of


def _paste(bench: Bench, joint_id: str):
    result = found((joint for joint in bench.plan.joints if joint.id == joint_id), "this joint has no figures yet")
    joint = next(joint for joint in bench.job.joints if joint.id == joint_id)
    length = ("l", "length", joint.length_m, "m", TYPED)
    copies = ("n", "alike", float(joint.count), "", TYPED)
    width, depth = ("w", "width", joint.width_mm, "mm", TYPED), ("d", "depth", joint.depth_mm, "mm", TYPED)
    thick = joint.glue_mm or GLUE_LINE_MM
    line = ("g", "glue line", thick, "mm", TYPED if joint.glue_mm else COMMON)
    oozes = ("q", "squeezed out", joint.squeeze_out, "", COMMON)
    rule = "Exact geometry. A square millimetre over a metre is a millilitre."
    match joint.kind:
        case "corner":
            sections = sum(
                fillet_section_mm2(joint.radius_mm, angle) for angle in side_angles_deg(joint.angle_deg, joint.sides)
            )
            sides = "section of the bead" if joint.sides == 1 else "sections of both beads"
            givens = [
                ("F", sides, sections, "mm²", "exact geometry"),
                length,
                ("w", "lost on stick and board", FILLET_WASTE_SHARE, "", MEMORY),
                copies,
            ]
            formula = "F × l × (1 + w) × n"
            if joint.glue_mm:
                givens += [("p", "panel", joint.panel_thickness_mm, "mm", TYPED), line, oozes]
                formula = "(F × l × (1 + w) + p × g × l × (1 + q)) × n"
            rule = f"The section is r² (cot(θ/2) − (π − θ)/2), at 90° 0.2146 r². {rule}"
        case "glue line":
            formula, givens = "w × g × l × (1 + q) × n", [width, line, length, oozes, copies]
        case "scarf":
            face = ("f", "length of the sloped face, t √(1 + s²)", result.face_mm, "mm", WORKED_OUT)
            formula, givens = "f × g × l × (1 + q) × n", [face, line, length, oozes, copies]
        case "gap":
            formula, givens = "w × d × l × n", [width, depth, length, copies]
        case "bedding":
            share = ("s", "what a notched trowel leaves", NOTCHED_SHARE, "", COMMON)
            formula, givens = "w × d × s × l × n", [width, depth, share, length, copies]
        case _:
            across = ("a", "across a hole", joint.diameter_mm, "mm", TYPED)
            holes = ("h", "holes", float(joint.hole_count), "", TYPED)
            formula, givens = "π ÷ 4 × a × a × d ÷ 1000 × h × n", [across, depth, holes, copies]
    return "Paste for this joint", formula, givens, result.paste_ml, "ml", rule


def _joint_resin(bench: Bench, joint_id: str):
    result = found((joint for joint in bench.plan.joints if joint.id == joint_id), "this joint has no figures yet")
    mopped = result.all_resin_g - result.resin_g - result.wet_out_g - result.smoothing_g - result.tabs_resin_g
    if result.kind == "corner" or not result.brushed_g:
        rows = [
            ("wet-out of its faces", result.wet_out_g),
            ("in the paste", result.resin_g),
            ("brushed on the fillet", result.smoothing_g),
            ("in the tabbing", result.tabs_resin_g),
            ("mopped off the tabbing", mopped),
        ]
    else:
        rows = [("in the paste", result.resin_g), ("wet-out of its faces", result.brushed_g)]
    rule = "Mixed resin on the work; what stays in cups and brushes comes on top."
    return "Resin for this joint", *sum_of("", [row for row in rows if row[1] > 1e-9], "g", result.all_resin_g, rule)[
        1:
    ]


def _mixed(bench: Bench, _: str):
    use = bench.plan.resin
    rows = [
        ("stays in the plies", use.in_plies_g),
        ("first wet-out of the surface", use.first_wet_out_g),
        ("coats", use.in_coats_g),
        ("in the joints", use.in_joints_g),
        ("mopped off, or comes off with a peel ply", use.mopped_off_g),
        ("runs down and drips", use.runs_off_g),
        ("left in cups, brushes, rollers", use.left_in_vessels_g),
        ("over, so that pots can be read", use.surplus_g),
    ]
    rule = "Everything that has to be mixed; losses from memory until the shop's log corrects them."
    return sum_of("To mix for this job", [row for row in rows if row[1] > 1e-9], "g", use.mixed_g, rule)


def _to_have(bench: Bench, _: str):
    use = bench.plan.resin
    givens = [
        ("m", "to mix", use.mixed_g, "g", WORKED_OUT, "mixed"),
        ("r", "reserve, kept in the tin", use.reserve_g, "g", MEMORY),
    ]
    rule = (
        f"In all {100 * use.allowance_share:.0f} % over what is laid: what stays in cups and brushes, what is over so that "
        f"pots can be read, and the reserve, which makes it up to {100 * AIMED_ALLOWANCE_SHARE:.0f} % and is "
        f"{100 * LEAST_RESERVE_SHARE:.0f} % of the mix at least (memory)."
    )
    return "Have at hand", "m + r", givens, use.to_have_g, "g", rule


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
    "joint_resin": _joint_resin,
    "mixed": _mixed,
    "to_have": _to_have,
    "part_a": _part_a,
    "part_b": _part_b,
    "catalyst": _catalyst,
    "cost": _cost,
}
