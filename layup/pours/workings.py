"""Workings of castings: the resin that fills them."""

from layup.workings.bench import TYPED, WORKED_OUT, Bench, Row, Write, Written, found


def _resin(bench: Bench, pour_id: str) -> Written:
    result = found((pour for pour in bench.plan.pours if pour.id == pour_id), "this casting has no figures yet")
    pour = next(pour for pour in bench.job.pours if pour.id == pour_id)
    givens: list[Row] = [
        (
            "V",
            "what the cavity holds" + (", less what stands in it" if result.inserts_l else ""),
            result.volume_l * 1000,
            "ml",
            WORKED_OUT,
        ),
        ("d", "density of the mix", result.density_g_per_ml, "g/ml", WORKED_OUT),
        ("n", "alike", float(pour.count), "", TYPED),
    ]
    formula = "V × d × n"
    if result.fill_on_resin and pour.fill_volume == "taken off":
        clear = result.lifts[0].resin_g if pour.but_the_first and len(result.lifts) > 1 else 0.0
        givens[2:2] = [
            ("w", f"{result.fill_name.lower()} to one of resin", result.fill_on_resin, "", TYPED),
            ("f", "its own density", result.fill_density_g_per_ml, "g/ml", "published, textbook values"),
        ]
        formula = "V ÷ (1 ÷ d + w ÷ f) × n"
        if clear:
            givens[:1] = [
                (
                    "V",
                    "what the lifts that are filled hold",
                    result.volume_l * 1000 * (1 - 1 / len(result.lifts)),
                    "ml",
                    WORKED_OUT,
                )
            ]
            givens.append(("c", "the first lift, clear", clear, "g", WORKED_OUT))
            formula = f"{formula} + c"
    rule = "By its real density: a litre is not a kilo. What stays in the cups comes on top."
    return "Resin for this casting", formula, givens, result.resin_g, "g", rule


WORKINGS: dict[str, Write] = {"casting": _resin}
