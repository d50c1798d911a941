"""A worked-out casting told as the plan's record."""

from collections.abc import Iterator
from math import isfinite

from layup.heat.pot_heat import stated_pot
from layup.materials import Hardener
from layup.pots.mix import Mix
from layup.pours.filling import FACE_SHARE, LEVELS_FROM_MM, kilo_for_litre
from layup.pours.outcome import CastingResult, KitResult, LiftResult
from layup.pours.plan import PlannedPour

# A casting is left so long, then a nail is pressed where it does not show: one that marks is left a day more (common practice).
FINGERNAIL_H = 48.0
_WATER_G_PER_L = 1000.0
_COVERS_WITHIN_MM = 0.05  # nobody sees less


def casting_result(planned: PlannedPour, mix: Mix) -> CastingResult:
    """A casting's figures, for all copies of it."""
    pour, cavity, of, fill, n = planned.pour, planned.cavity, planned.filled, planned.fill, planned.pour.count
    part_a, part_b, catalyst = mix.parts_g(of.resin_g * n)
    short_mm, short_l = kilo_for_litre(cavity.volume_l, cavity.surface_m2, mix.density_g_per_ml)
    lifts = tuple(_lifts(planned))
    last = lifts[-1]
    total = None if last.poured_h is None or last.gel_open_h is None else last.poured_h + last.gel_open_h
    held_g = pour.held_back * of.resin_g
    held_mm = _height_mm(planned, held_g, mix.density_g_per_ml)
    return CastingResult(
        id=pour.id,
        name=pour.name,
        copies=n,
        volume_l=cavity.volume_l,
        inserts_l=cavity.inserts_l,
        surface_m2=cavity.surface_m2,
        wetted_m2=cavity.wetted_m2,
        depth_mm=cavity.deepest_mm,
        across_mm=cavity.across_mm,
        ground_mm=1000 * planned.surround.ground.thickness_m,
        dam_m=cavity.round_m,
        water_g=_WATER_G_PER_L * cavity.volume_l,
        resin_g=of.resin_g * n,
        part_a_g=part_a,
        part_b_g=part_b,
        catalyst_g=catalyst,
        seal_g=planned.seal_g * n,
        face_g=FACE_SHARE * planned.of_lifts[0].resin_g * n if pour.face_first else 0.0,
        fill_name=fill.name if fill else "",
        fill_g=of.fill_g * n,
        fill_loose_l=of.fill_g * n / fill.loose_g_per_l if fill else 0.0,
        fill_on_resin=fill.on_resin if fill else 0.0,
        fill_of_whole=fill.on_resin / (1 + fill.on_resin) if fill else 0.0,
        fill_density_g_per_ml=fill.density_g_per_cm3 if fill else 0.0,
        density_g_per_ml=mix.density_g_per_ml,
        level_mm=of.level_mm,
        rise_mm=of.rise_mm,
        short_mm=of.short_mm,
        held_back_g=held_g * n,
        held_back_mm=held_mm,
        hold_covers=held_mm >= of.short_mm - _COVERS_WITHIN_MM,
        other_resin_g=planned.other.resin_g * n if planned.other else None,
        other_short_mm=planned.other.short_mm if planned.other else None,
        kilo_short_mm=short_mm,
        kilo_short_l=short_l,
        kits=tuple(_kits(planned, mix)),
        heat=_heat_known(planned, mix),
        room_c=planned.room_c,
        most_peak_c=pour.most_peak_c,
        stated_mm=mix.resin.deepest_pour_mm,
        deepest_mm=planned.deepest_mm,
        lifts=lifts,
        peak_c=max((lift.peak_c for lift in planned.lifts), default=None),
        total_h=total,
        fingernail_h=FINGERNAIL_H,
        levels_from_mm=LEVELS_FROM_MM,
    )


def _height_mm(planned: PlannedPour, resin_g: float, resin_g_per_ml: float) -> float:
    """How far so much resin, with its fill, lifts the level."""
    fill = planned.fill
    ml = resin_g / resin_g_per_ml + (resin_g * fill.on_resin / fill.density_g_per_cm3 if fill else 0.0)
    return ml / 1000 / planned.cavity.surface_m2


def _kits(planned: PlannedPour, mix: Mix) -> Iterator[KitResult]:
    """What each size of kit gives, used whole: part A as sold, with all the hardener that goes with it."""
    for kilos in mix.resin.sold_kg:
        mixed = 1000 * kilos * (1 + (mix.b_per_a_weight or 0.0))
        yield KitResult(mixed_g=mixed, depth_mm=_height_mm(planned, mixed, mix.density_g_per_ml))


def _heat_known(planned: PlannedPour, mix: Mix) -> str:
    if planned.cure is not None:
        return "known"
    rough = isinstance(mix.set_by, Hardener) and mix.heat_of(stated_pot(mix.set_by)).rough
    return "being worked out" if rough else "not known"


def _lifts(planned: PlannedPour) -> Iterator[LiftResult]:
    poured_h, n = 0.0, planned.pour.count
    for at, (depth, of) in enumerate(zip(planned.depths_mm, planned.of_lifts, strict=True)):
        weights = {"resin_g": of.resin_g * n, "fill_g": of.fill_g * n}
        if not planned.lifts:
            yield LiftResult(depth_mm=depth, **weights, poured_h=0.0 if at == 0 else None)
            continue
        lift = planned.lifts[at]
        yield LiftResult(
            depth_mm=depth,
            **weights,
            poured_h=_hours(60 * poured_h),
            peak_c=lift.peak_c,
            peak_h=_hours(lift.peak_min),
            gel_h=_hours(lift.gel_min),
            gel_under_h=_hours(lift.gel_under_min),
            gel_open_h=_hours(lift.gel_open_min),
            bears_h=_hours(lift.bears_min),
            bonds_until_h=_hours(lift.closes_min),
            cooled_h=_hours(lift.cooled_min),
            opens_h=_hours(lift.opens_min),
            cools_too_late=lift.cools_too_late,
        )
        poured_h += lift.opens_min / 60


def _hours(minutes: float) -> float | None:
    return minutes / 60 if isfinite(minutes) else None
