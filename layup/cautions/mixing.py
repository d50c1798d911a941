"""The mix itself."""

from collections.abc import Iterator

from layup.cautions.rule import Facts, Finding, ResinFacts, Rule
from layup.chemistry.ratio import parse_ratio
from layup.errors import LayupError
from layup.scales import Scales


def _more_hardener_is_not_faster(facts: Facts) -> Iterator[Finding]:
    for each in facts.resins:
        if each.resin.two_part:
            yield from _off_its_tin(each, facts.scales)
            yield from _wanted_faster(each)


def _off_its_tin(each: ResinFacts, scales: Scales) -> Iterator[Finding]:
    resin, use = each.resin, each.use
    by_weight = use.tin_ratio_basis == "weight"
    right = each.weight_b_per_a if by_weight else resin.ratio_volume_b_per_a
    if not (use.tin_ratio and right):
        return
    try:
        typed = parse_ratio(use.tin_ratio).b_per_a
    except LayupError:
        return
    if abs(100 * (typed / right - 1)) > resin.ratio_tolerance_pct:
        message = (
            f"{use.tin_ratio} by {use.tin_ratio_basis} is off: this resin takes 100:{scales.figures(100 * right, 3)}"
        )
        if by_weight and resin.ratio_volume_b_per_a and abs(typed / resin.ratio_volume_b_per_a - 1) < 0.02:
            message += f" by weight; 100:{scales.figures(100 * typed, 3)} is its ratio by volume"
        yield Finding(f"{each.path}.tin_ratio", message)


def _wanted_faster(each: ResinFacts) -> Iterator[Finding]:
    wanted = each.use.wanted_gel_min
    if not (each.hardener and each.hardener.chosen and wanted):
        return
    life = each.hardener.chosen.stated_pot_life_min
    if wanted < 0.9 * life:
        message = f"{wanted:.0f} min is wanted of a {life:.0f} min mix: more hardener is not faster"
        yield Finding(f"{each.path}.wanted_gel_min", message, "care")


def _dose_outside_limits(facts: Facts) -> Iterator[Finding]:
    written = facts.scales.written
    for each in facts.resins:
        catalyst = each.resin.catalyst
        if catalyst and each.dose and not catalyst.least_pct <= each.dose.catalyst_pct <= catalyst.most_pct:
            limits = f"{written(catalyst.least_pct)} to {written(catalyst.most_pct)} %"
            message = f"{written(each.dose.catalyst_pct)} % catalyst is outside the product's {limits}"
            yield Finding(f"{each.path}.catalyst_pct", message)


def _pumps_off_ratio(facts: Facts) -> Iterator[Finding]:
    pumps, figures = facts.pumps_b_per_a, facts.scales.figures
    for each in facts.resins:
        right = each.resin.ratio_volume_b_per_a
        if pumps is None or not each.resin.two_part or not right:
            continue
        if abs(100 * (pumps / right - 1)) > each.resin.ratio_tolerance_pct:
            message = (
                f"The pumps give {figures(1 / pumps, 3)}:1 by volume, and this resin takes {figures(1 / right, 3)}:1"
            )
            yield Finding("practice.basis", message)


def _blend(facts: Facts) -> Iterator[Finding]:
    for each in facts.resins:
        if each.use.blend_id and each.hardener and each.hardener.chosen:
            name = each.hardener.chosen.hardener.name.capitalize()
            yield Finding(f"{each.path}.blend_id", f"{name}: mix a test cup first")


def _one_pot(facts: Facts) -> Iterator[Finding]:
    two_part = any(facts.mixed(lambda each: each.resin.two_part))
    if two_part and facts.job.practice.mixing == "one pot":
        yield Finding("practice.mixing", "Mixed in one cup: what clings to its wall may not be mixed")


RULES = (
    Rule(
        id="mixing.pumps_off_ratio",
        severity="stop",
        step="ticket",
        reason="A pump is made for one ratio; of another resin it mixes nothing that cures.",
        do="Fit the pumps made for this resin, or measure it another way. Weigh ten strokes of each before you trust them.",
        source="common practice",
        find=_pumps_off_ratio,
    ),
    Rule(
        id="mixing.blend_wants_a_test_cup",
        severity="note",
        step="chemistry",
        reason="The life of a blend is worked out from the two it is made of, and no sheet states it.",
        do="Mix a small cup, write down when it gels, and only then the pots. Never blend across families.",
        source="memory",
        find=_blend,
    ),
    Rule(
        id="mixing.one_pot",
        severity="note",
        step="ticket",
        reason="Resin on the wall and in the corner of the cup misses its hardener and leaves sticky spots on the work.",
        do="Stir two minutes, scrape wall and bottom twice, and leave the last of it in the cup; or pour it over into a "
        "second cup and stir a minute more.",
        source="common practice",
        find=_one_pot,
    ),
    Rule(
        id="mixing.more_hardener_is_not_faster",
        severity="stop",
        step="chemistry",
        reason="The ratio of a two-part resin is fixed: off it, the mix stays soft, brittle or sticky for good.",
        do="Keep the ratio. For speed choose another hardener of the family, or warm the room and the work.",
        source="common practice",
        find=_more_hardener_is_not_faster,
    ),
    Rule(
        id="mixing.catalyst_outside_limits",
        severity="stop",
        step="chemistry",
        reason="Under the least it never cures through; over the most it cooks, cracks or is left soft.",
        do="Dose inside the limits, and change the temperature or the size of the pot instead.",
        source="common practice; the data sheet wins",
        find=_dose_outside_limits,
    ),
)
