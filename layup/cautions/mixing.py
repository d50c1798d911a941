"""The mix itself."""

from collections.abc import Iterator

from layup.cautions.rule import Facts, Finding, Rule
from layup.chemistry.ratio import parse_ratio
from layup.errors import LayupError


def _more_hardener_is_not_faster(facts: Facts) -> Iterator[Finding]:
    resin, chemistry = facts.resin, facts.job.chemistry
    if not resin.two_part:
        return
    by_weight = chemistry.tin_ratio_basis == "weight"
    right = facts.weight_b_per_a if by_weight else resin.ratio_volume_b_per_a
    if chemistry.tin_ratio and right:
        try:
            typed = parse_ratio(chemistry.tin_ratio).b_per_a
        except LayupError:
            return
        off_pct = 100 * (typed / right - 1)
        if abs(off_pct) > resin.ratio_tolerance_pct:
            message = f"{chemistry.tin_ratio} by {chemistry.tin_ratio_basis} is off: this resin takes 100:{facts.scales.figures(100 * right, 3)}"
            if by_weight and resin.ratio_volume_b_per_a and abs(typed / resin.ratio_volume_b_per_a - 1) < 0.02:
                message += f" by weight; 100:{facts.scales.figures(100 * typed, 3)} is its ratio by volume"
            yield Finding("chemistry.tin_ratio", message)
    if facts.hardener and facts.hardener.chosen and chemistry.wanted_gel_min:
        life = facts.hardener.chosen.stated_pot_life_min
        if chemistry.wanted_gel_min < 0.9 * life:
            message = (
                f"{chemistry.wanted_gel_min:.0f} min is wanted of a {life:.0f} min mix: more hardener is not faster"
            )
            yield Finding("chemistry.wanted_gel_min", message, "care")


def _dose_outside_limits(facts: Facts) -> Iterator[Finding]:
    catalyst = facts.resin.catalyst
    if catalyst and facts.dose and not catalyst.least_pct <= facts.dose.catalyst_pct <= catalyst.most_pct:
        limits = f"{facts.scales.written(catalyst.least_pct)} to {facts.scales.written(catalyst.most_pct)} %"
        yield Finding(
            "chemistry.catalyst_pct",
            f"{facts.scales.written(facts.dose.catalyst_pct)} % catalyst is outside the product's {limits}",
        )


def _pumps_off_ratio(facts: Facts) -> Iterator[Finding]:
    right = facts.resin.ratio_volume_b_per_a
    if facts.pumps_b_per_a is None or not facts.resin.two_part or not right:
        return
    off_pct = 100 * (facts.pumps_b_per_a / right - 1)
    if abs(off_pct) > facts.resin.ratio_tolerance_pct:
        message = f"The pumps give {facts.scales.figures(1 / facts.pumps_b_per_a, 3)}:1 by volume, and this resin takes {facts.scales.figures(1 / right, 3)}:1"
        yield Finding("practice.basis", message)


def _blend(facts: Facts) -> Iterator[Finding]:
    if facts.job.chemistry.blend_id and facts.hardener and facts.hardener.chosen:
        yield Finding("chemistry.blend_id", f"{facts.hardener.chosen.hardener.name.capitalize()}: mix a test cup first")


def _one_pot(facts: Facts) -> Iterator[Finding]:
    if facts.resin.two_part and facts.pot_masses_g and facts.job.practice.mixing == "one pot":
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
