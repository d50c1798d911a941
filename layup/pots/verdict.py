"""The verdict on a resin in use: its sentence, its chart, its hardeners or its dose, in words where a builder reads words."""

from dataclasses import dataclass
from math import ceil

from layup.chemistry.blend import MIXED_BY_SHARE, life_between
from layup.chemistry.catalyst import CHART_TEMPERATURES_C, DEFAULT_WANTED_GEL_MIN, DoseVerdict
from layup.chemistry.gel import pot_life_min
from layup.chemistry.gel_chart import gel_chart
from layup.chemistry.hardeners import HardenerVerdict, fast_to_slow
from layup.chemistry.label import Label, catalyst_label, hardener_label
from layup.chemistry.one_part import cover_by_min, tack_min
from layup.chemistry.outcome import (
    BlendPoint,
    BlendResult,
    ChemistryResult,
    ClocksResult,
    DoseResult,
    DoseRow,
    DoseWay,
    HardenerResult,
)
from layup.chemistry.ratio import parse_ratio, weight_ratio
from layup.errors import LayupError, Missing, known
from layup.heat.pot_heat import HeatOf, stated_pot
from layup.heat.pot_lab import SUFFERS_C, peak_words
from layup.job import ResinInUse
from layup.marks import DoseTool
from layup.materials import Hardener, ResinSystem
from layup.pots.mix import Mix
from layup.pots.sizing import catalysed_floor_g
from layup.pots.ticket import dose_by
from layup.scales import Scales
from layup.shop_facts import ShopFacts
from layup.units import convert

_CURING_TWO_PART = "Warmth under the cup, threads behind the paddle, a skin on the wall: it has begun to cure, and no stirring stops it."
_CURING_CATALYSED = (
    "Cool and runny until strings form and it drags on the brush: that is the gel. The heat comes after it, not before."
)
_CURING_ONE_PART = (
    "A skin in the cup, then threads: what is left is not stirred back in, and does not go back into the tin."
)
# Rooms nearer than this are one (memory).
_SAME_ROOM_C = 0.5


@dataclass(frozen=True)
class LargestPot:
    """The largest pot of a resin: what it weighs and lays, g, and at what pace it is spread."""

    mass_g: float
    laid_g: float
    spread_g_per_min: float


def chemistry_result(
    use: ResinInUse,
    resin: ResinSystem,
    hardener: HardenerVerdict | None,
    dose: DoseVerdict | None,
    room_c: float,
    mix: Mix | None,
    largest: LargestPot | None,
    scales: Scales,
    heat_of: HeatOf,
) -> ChemistryResult:
    """The verdict on the resin, with the life of the job's largest pot of it and the chart behind it."""
    mass = largest.mass_g if largest else None
    life = workable = cup_mm = needed = give_or_take = None
    if mix and largest:
        life, cup_mm = mix.life_min(largest.mass_g, room_c), mix.cup_width_mm
        workable = life * mix.life.workable(largest.mass_g)
        give_or_take = None if resin.one_part else life * mix.life.sigma_gel(largest.mass_g)
        spread = largest.laid_g / largest.spread_g_per_min
        needed = (mix.contact_min + spread) / mix.life.working_share(largest.mass_g, largest.spread_g_per_min)
    sentence, reason = _said(resin, hardener, dose, room_c, scales)
    if mix and mix.hardener and workable is not None:
        name, at = mix.hardener.name.capitalize(), scales.temperature(room_c)
        sentence = f"{name} hardener: {workable:.0f} min to work with at {at}"
    if hardener and abs(hardener.room_c - room_c) >= _SAME_ROOM_C:
        reason = f"for {scales.temperature(hardener.room_c)}, the room from the start to the last pot: {reason}"
    by_volume, by_weight, remark = _ratio_words(resin, hardener, scales)
    label = _label(resin, hardener, heat_of)
    peak = mix.peak_c(mass) if mix and mass else None
    return ChemistryResult(
        two_part=resin.two_part,
        one_part=resin.one_part is not None,
        resin_name=resin.name,
        sentence=sentence,
        reason=reason,
        life_min=life,
        workable_min=workable,
        life_give_or_take_min=give_or_take,
        life_of_pot_g=mass,
        needed_min=needed,
        ratio_by_volume=by_volume,
        ratio_by_weight=by_weight,
        ratio_remark=remark,
        mixed_signs=resin.mixed_signs,
        hardeners=_hardener_results(resin, hardener, room_c, mass, heat_of, cup_mm) if hardener else (),
        dose=_dose_result(use, resin, dose, scales) if dose else None,
        chart=gel_chart(resin, hardener, dose, room_c, mass, heat_of, cup_mm, scales),
        clocks=_clocks(mix) if mix else None,
        label_doubts=label.doubts if label else (),
        shop_words=label.shop_words if label else "",
        peak_c=peak,
        peak_words="" if peak is None or peak <= SUFFERS_C else peak_words(peak, scales),
        blends=_blends(use, resin, hardener, room_c, mass, heat_of, cup_mm) if hardener else (),
        rough=any(heat_of(stated_pot(row.hardener)).rough for row in hardener.rows) if hardener else False,
        dose_ways=_dose_ways(mix.dose, mix.shop, mass) if mix and mass and mix.dose else (),
        keeps=_keeps(resin, scales),
        curing_signs=_CURING_TWO_PART if resin.two_part else _CURING_ONE_PART if resin.one_part else _CURING_CATALYSED,
        tin_ratio_words=_tin_ratio_words(use) if resin.two_part else "",
    )


def _said(
    resin: ResinSystem,
    hardener: HardenerVerdict | None,
    dose: DoseVerdict | None,
    room_c: float,
    scales: Scales,
) -> tuple[str, str]:
    if resin.one_part:
        sets, at = resin.one_part, scales.temperature(room_c)
        tacky, by = tack_min(sets, room_c), cover_by_min(sets, room_c)
        return (
            f"Out of one tin: tacky from {tacky:.0f} min at {at}, to be covered within {scales.written(by / 60, '.1f')} h",
            "the moisture of the air sets it, sooner where it is humid; nothing is mixed in",
        )
    told: HardenerVerdict | DoseVerdict = hardener or known(dose)
    return told.sentence, told.reason


def _tin_ratio_words(use: ResinInUse) -> str:
    try:
        return parse_ratio(use.tin_ratio).words if use.tin_ratio else ""
    except LayupError:
        # Said at its field.
        return ""


def _clocks(mix: Mix) -> ClocksResult:
    remark = ""
    if mix.room_c < mix.resin.comfort_minimum_c:
        room, comfort = (mix.shop.scales.temperature(c) for c in (mix.room_c, mix.resin.comfort_minimum_c))
        remark = (
            f"At {room}, under {comfort}, this resin slows more than its law says: each of these may take "
            f"{mix.shop.scales.written(mix.clocks.may_take)} times as long. Test before you go on, and warm the work if you can."
        )
    return ClocksResult(**vars(mix.clocks), remark=remark)


def _label(resin: ResinSystem, hardener: HardenerVerdict | None, heat_of: HeatOf) -> Label | None:
    if resin.catalyst:
        return catalyst_label(resin.catalyst)
    return hardener_label(hardener.chosen.hardener, heat_of) if hardener and hardener.chosen else None


def _blends(
    use: ResinInUse,
    resin: ResinSystem,
    verdict: HardenerVerdict,
    room_c: float,
    mass_g: float | None,
    heat_of: HeatOf,
    cup_mm: float | None,
) -> tuple[BlendResult, ...]:
    """What lies between the hardener in hand and each of its neighbours in the family."""
    if verdict.chosen is None:
        return ()
    ordered = fast_to_slow(resin.hardeners)
    ids = [hardener.id for hardener in ordered]
    in_hand = use.hardener_id if use.blend_id else verdict.chosen.hardener.id
    at = ids.index(in_hand) if in_hand in ids else None
    if at is None:
        return ()
    first = ordered[at]

    lives = {each.id: _life_in_pot_min(each, room_c, mass_g, heat_of, cup_mm) for each in ordered}
    return tuple(
        BlendResult(
            with_id=second.id,
            with_name=second.name,
            points=tuple(
                BlendPoint(share=share, life_min=life_between(lives[first.id], lives[second.id], share))
                for share in MIXED_BY_SHARE
            ),
        )
        for second in ordered[max(0, at - 1) : at + 2]
        if second.id != first.id
    )


def _dose_ways(verdict: DoseVerdict, shop: ShopFacts, mass_g: float) -> tuple[DoseWay, ...]:
    """The dose of a pot by each tool of the shop, with its error."""
    tools: list[DoseTool] = ["scale", "syringe"]
    if shop.drops_per_ml:
        tools.append("drops")
    ways = []
    for tool in tools:
        marks = shop.marks_of(tool)
        dose = dose_by(tool, mass_g, verdict.catalyst_pct, verdict.catalyst, marks=marks)
        step_g = marks.step_core * (1.0 if tool == "scale" else verdict.catalyst.density_g_per_cm3)
        floor = catalysed_floor_g(step_g, verdict.catalyst_pct)
        fit = mass_g >= floor
        words = "" if fit else f"too coarse for this pot: from {shop.scales.mass(ceil(floor))} on"
        ways.append(DoseWay(**vars(dose), fit=fit, words=words))
    return tuple(ways)


def _ratio_words(resin: ResinSystem, hardener: HardenerVerdict | None, scales: Scales) -> tuple[str, str, str]:
    if hardener is None:
        return "", "", ""
    by_volume = f"{scales.written(1 / resin.ratio_volume_b_per_a)} : 1" if resin.ratio_volume_b_per_a else ""
    if "weight" not in resin.bases or hardener.chosen is None:
        return (
            by_volume,
            "",
            "its sheet gives no densities, so it is not weighed" if "weight" not in resin.bases else "",
        )
    try:
        ratio = weight_ratio(resin, hardener.chosen.hardener.density_g_per_cm3, scales)
    except Missing as unknown:
        return by_volume, "", unknown.message
    return by_volume, f"100 : {scales.written(ratio.parts_b_per_100_a, '.1f')}", ratio.remark


def _life_in_pot_min(
    hardener: Hardener, room_c: float, mass_g: float | None, heat_of: HeatOf, cup_mm: float | None
) -> float:
    return pot_life_min(hardener, room_c, mass_g or hardener.pot_life_mass_g, heat_of, cup_mm)


def _hardener_results(
    resin: ResinSystem,
    verdict: HardenerVerdict,
    room_c: float,
    mass_g: float | None,
    heat_of: HeatOf,
    cup_mm: float | None,
) -> tuple[HardenerResult, ...]:
    defined = verdict.chosen is not None
    return tuple(
        HardenerResult(
            id=row.hardener.id,
            name=row.hardener.name,
            band_low_c=row.band_c[0],
            band_high_c=row.band_c[1],
            steps_off=row.steps_off,
            pot_life_min=_life_in_pot_min(row.hardener, room_c, mass_g, heat_of, cup_mm) if defined else None,
            next_ply_from_min=row.clocks.next_ply_from_min if defined else None,
            window_closes_min=row.clocks.window_closes_min if defined else None,
            sandable_min=row.clocks.sandable_min if defined else None,
            chosen=row.chosen,
            reason=row.reason,
            blend=row.hardener not in resin.hardeners,
        )
        for row in verdict.rows
    )


def _dose_result(use: ResinInUse, resin: ResinSystem, dose: DoseVerdict, scales: Scales) -> DoseResult:
    return DoseResult(
        catalyst_pct=dose.catalyst_pct,
        solved_pct=dose.solved_pct,
        wanted_gel_min=use.wanted_gel_min or DEFAULT_WANTED_GEL_MIN,
        gel_min=dose.gel_min,
        least_pct=dose.catalyst.least_pct,
        most_pct=dose.catalyst.most_pct,
        limit=dose.limit,
        instead=dose.instead,
        chart_temperatures_c=CHART_TEMPERATURES_C,
        chart=tuple(
            DoseRow(catalyst_pct=row.catalyst_pct, gel_min=row.gel_min, at_room_min=row.at_room_min)
            for row in dose.chart
        ),
        understood=_dose_understood(use, resin, dose, scales),
    )


def _dose_understood(use: ResinInUse, resin: ResinSystem, dose: DoseVerdict, scales: Scales) -> str:
    """A dose by weight and by volume, where it was typed in words."""
    if not use.dose_words:
        return ""
    by_weight = f"{scales.written(dose.catalyst_pct, '.2f')} % by weight"
    ml_per_kg = 10 * dose.catalyst_pct / dose.catalyst.density_g_per_cm3
    if resin.density_g_per_cm3 is None:
        return f"{by_weight}, {scales.written(ml_per_kg, '.1f')} ml per kg"
    ml_per_litre = ml_per_kg * resin.density_g_per_cm3
    if scales.unit_set == "US":
        return f"{by_weight}, {scales.written(ml_per_litre * convert(1, 'US qt', 'l'), '.1f')} cc per US quart"
    return (
        f"{by_weight}, {scales.written(ml_per_kg, '.1f')} ml per kg, {scales.written(ml_per_litre, '.1f')} ml per litre"
    )


def _keeps(resin: ResinSystem, scales: Scales) -> str:
    """How long a tin keeps: its sheet's months, or what is usual (common practice: polyester about a year)."""
    if resin.shelf_life_months:
        return f"Keeps {scales.written(resin.shelf_life_months)} months from its making, unopened and cool. Read the dates on the tins."
    usual = "two years or so" if resin.two_part else "about a year"
    return f"Its sheet gives no shelf life: usual is {usual} (common practice). Read the dates on the tins."
