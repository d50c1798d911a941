"""Workings of the whole job: what is mixed, kept and paid for."""

from layup.chemistry.ratio import weight_ratio
from layup.day.dew import dew_point_c
from layup.resin_use import AIMED_ALLOWANCE_SHARE, LEAST_RESERVE_SHARE
from layup.workings.bench import MEMORY, TYPED, WORKED_OUT, Bench, Row, Write, Written, known, sum_of


def _dew(bench: Bench, _: str) -> Written:
    dew, conditions = known(bench.plan.dew), bench.plan.conditions
    point = dew_point_c(conditions.room_c, conditions.humidity_pct)
    givens: list[Row] = [
        ("s", "surface", conditions.surface_or_room_c, "°C", TYPED),
        (
            "d",
            f"dew point of {conditions.room_c:g} °C, {conditions.humidity_pct:g} %",
            point,
            "°C",
            "published (ASHRAE)",
        ),
    ]
    return "Margin over the dew point", "s − d", givens, dew.margin_c, "°C", "At least 3 °C (common practice)."


def _mixed(bench: Bench, _: str) -> Written:
    use = bench.use
    rows = [
        ("stays in the plies", use.in_plies_g),
        ("first wet-out of the surface", use.first_wet_out_g),
        ("coats", use.in_coats_g),
        ("in the joints", use.in_joints_g),
        ("in the castings", use.in_pours_g),
        ("in what lies under the bag", use.in_bag_g),
        ("mopped off, left on tools, or comes off with a peel ply", use.mopped_off_g),
        ("runs down and drips", use.runs_off_g),
        ("left in cups, brushes, rollers", use.left_in_vessels_g),
        ("over, so that pots can be read", use.surplus_g),
    ]
    rule = "Everything that has to be mixed; losses from memory until the shop's log corrects them."
    return sum_of("To mix for this job", [row for row in rows if row[1] > 1e-9], "g", use.mixed_g, rule)


def _to_have(bench: Bench, _: str) -> Written:
    use = bench.use
    givens: list[Row] = [
        ("m", "to mix", use.mixed_g, "g", WORKED_OUT, bench.own("mixed")),
        ("r", "reserve, kept in the tin", use.reserve_g, "g", MEMORY),
    ]
    rule = (
        f"In all {100 * use.allowance_share:.0f} % over what is laid: what stays in cups and brushes, what is over so that "
        f"pots can be read, and the reserve, which makes it up to {100 * AIMED_ALLOWANCE_SHARE:.0f} % and is "
        f"{100 * LEAST_RESERVE_SHARE:.0f} % of the mix at least (memory)."
    )
    return "Have at hand", "m + r", givens, use.to_have_g, "g", rule


def _part_a(bench: Bench, _: str) -> Written:
    use = bench.use
    return "A in the pots", "m ÷ (1 + r)", _mixed_and_ratio(bench), known(use.part_a_g), "g", "The ratio by weight."


def _part_b(bench: Bench, _: str) -> Written:
    use = bench.use
    return "B in the pots", "m × r ÷ (1 + r)", _mixed_and_ratio(bench), known(use.part_b_g), "g", "The ratio by weight."


def _mixed_and_ratio(bench: Bench) -> list[Row]:
    ratio = weight_ratio(bench.product, bench.hardener.density_g_per_cm3)
    return [
        ("m", "to mix", bench.use.mixed_g, "g", WORKED_OUT, bench.own("mixed")),
        ("r", "B for one of A, by weight", ratio.b_per_a, "", WORKED_OUT if ratio.derived else "data sheet"),
    ]


def _catalyst(bench: Bench, _: str) -> Written:
    use = bench.use
    poured_g, catalyst = known(use.catalyst_g), bench.catalyst
    source = str(catalyst.sources["density_g_per_cm3"])
    givens: list[Row] = [
        ("m", "to mix", use.mixed_g, "g", WORKED_OUT, bench.own("mixed")),
        ("p", "dose, over all its pots", 100 * poured_g / use.mixed_g, "%", WORKED_OUT),
        ("d", "density of the catalyst", catalyst.density_g_per_cm3, "g/cm³", source),
    ]
    return (
        "Catalyst",
        "m × p ÷ 100 ÷ d",
        givens,
        known(use.catalyst_ml),
        "ml",
        "By weight of resin, measured by volume.",
    )


def _cost(bench: Bench, _: str) -> Written:
    cost = known(bench.plan.cost)
    rows = [(line.name, line.cost) for line in cost.lines]
    rule = (
        "Fabric as covered, before cutting waste; resin, hardener and filler as mixed. Prices as the materials state."
    )
    return sum_of("Materials", rows, "", known(cost.total), rule)


JOB: dict[str, Write] = {
    "dew": _dew,
    "mixed": _mixed,
    "to_have": _to_have,
    "part_a": _part_a,
    "part_b": _part_b,
    "catalyst": _catalyst,
    "cost": _cost,
}
