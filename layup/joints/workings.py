"""Workings of joints: their paste and their resin."""

from layup.joints.plan import sized
from layup.joints.volumes import FILLET_WASTE_SHARE, GLUE_LINE_MM, NOTCHED_SHARE, fillet_section_mm2, side_angles_deg
from layup.workings.bench import COMMON, MEMORY, TYPED, WORKED_OUT, Bench, Row, Write, Written, found, sum_of


def _paste(bench: Bench, joint_id: str) -> Written:
    result = found((joint for joint in bench.plan.joints if joint.id == joint_id), "this joint has no figures yet")
    joint = next(joint for joint in bench.job.joints if joint.id == joint_id)
    of = sized(joint)
    length: Row = ("l", "length", of.length_m, "m", TYPED)
    copies: Row = ("n", "alike", float(joint.count), "", TYPED)
    width: Row = ("w", "width", of.width_mm, "mm", TYPED)
    depth: Row = ("d", "depth", of.depth_mm, "mm", TYPED)
    givens: list[Row]
    thick = joint.glue_mm or GLUE_LINE_MM
    line: Row = ("g", "glue line", thick, "mm", TYPED if joint.glue_mm else COMMON)
    oozes: Row = ("q", "squeezed out", joint.squeeze_out, "", COMMON)
    rule = "Exact geometry. A square millimetre over a metre is a millilitre."
    match joint.kind:
        case "corner":
            sections = sum(
                fillet_section_mm2(of.radius_mm, angle) for angle in side_angles_deg(joint.angle_deg, joint.sides)
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
            face: Row = ("f", "length of the sloped face, t √(1 + s²)", result.face_mm, "mm", WORKED_OUT)
            formula, givens = "f × g × l × (1 + q) × n", [face, line, length, oozes, copies]
        case "gap":
            formula, givens = "w × d × l × n", [width, depth, length, copies]
        case "bedding":
            share: Row = ("s", "what a notched trowel leaves", NOTCHED_SHARE, "", COMMON)
            formula, givens = "w × d × s × l × n", [width, depth, share, length, copies]
        case _:
            across: Row = ("a", "across a hole", of.diameter_mm, "mm", TYPED)
            holes: Row = ("h", "holes", float(of.hole_count), "", TYPED)
            formula, givens = "π ÷ 4 × a × a × d ÷ 1000 × h × n", [across, depth, holes, copies]
    return "Paste for this joint", formula, givens, result.paste_ml, "ml", rule


def _joint_resin(bench: Bench, joint_id: str) -> Written:
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


WORKINGS: dict[str, Write] = {"paste": _paste, "joint_resin": _joint_resin}
