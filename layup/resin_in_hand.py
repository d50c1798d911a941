"""A resin in use as it is settled: its verdict and its mix, and what is wrong with it at its fields."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cache, partial

from layup.chemistry.blend import blended
from layup.chemistry.catalyst import DoseVerdict, choose_dose
from layup.chemistry.hardeners import HardenerVerdict, choose_hardener, with_blend
from layup.chemistry.one_part import in_air
from layup.chemistry.ratio import parse_dose, parse_ratio
from layup.errors import LayupError, OutOfRange
from layup.heat.pot_heat import HeatOf
from layup.job import Conditions, JobSpec, ResinInUse
from layup.kind import Draft
from layup.materials import Catalyst, Hardener, ResinSystem
from layup.pots.mix import Mix, settle
from layup.scales import Scales
from layup.shop_facts import ShopFacts


@dataclass(frozen=True)
class InHand:
    """A resin in use as it is settled, at its `path` in the document. It has no mix where it cannot be mixed.

    `mix_at` is its mix for a room, °C.
    """

    path: str
    use: ResinInUse
    resin: ResinSystem
    hardener: HardenerVerdict | None
    dose: DoseVerdict | None
    mix: Mix | None
    mix_at: Callable[[float], Mix] | None


# Takes a field of a resin in use, or of the job where it has a dot, and what is the matter there.
Say = Callable[[str, str], None]


def in_hand(
    job: JobSpec,
    shop: ShopFacts,
    path: str,
    use: ResinInUse,
    resin: ResinSystem,
    conditions: Conditions,
    worked_c: float,
    draft: Draft,
    heat_of: HeatOf,
) -> InHand:
    """A resin in use with its verdict and its mix; what is wrong with it goes to the draft, at its fields."""
    say = partial(_say, draft, path)
    if resin.one_part:
        resin = resin.model_copy(update={"one_part": in_air(resin.one_part, conditions.humidity_pct)})
    own = _own_dose(use, resin, resin.catalyst, say) if resin.catalyst else None
    hardener, dose = _verdicts(job, use, resin, own, conditions, worked_c, shop.scales, heat_of, say)
    mix = _mix_of(job, shop, use, resin, hardener, dose, conditions, heat_of, say)
    by_hour = hardener and job.practice.over_day == "by the hour" and not is_named(use)
    mix_at = _mix_at(mix, own, resin if by_hour else None) if mix else None
    return InHand(path, use, resin, hardener, dose, mix, mix_at)


def _say(draft: Draft, path: str, field: str, message: str) -> None:
    draft.missing(field if "." in field else f"{path}.{field}", message, "chemistry")


def is_named(use: ResinInUse) -> bool:
    """Whether the builder chose the hardener himself."""
    return bool(use.hardener_id or use.blend_id)


def _mix_at(mix: Mix, own: float | None, by_hour: ResinSystem | None) -> Callable[[float], Mix]:
    """The mix for a room: the same hardener, or the one of `by_hour` for that room; or a dose solved anew where the builder
    has not set his `own`."""

    @cache
    def mixed(room_c: float) -> Mix:
        """One mix for each room, so that what it has worked out is kept from one start to the next."""
        if room_c == mix.room_c and not by_hour:
            return mix
        if mix.dose is None:
            chosen = (
                by_hour
                and choose_hardener(
                    by_hour.hardeners,
                    room_c,
                    mix.job.practice.hardener_school,
                    mix.use.deadline_h,
                    scales=mix.shop.scales,
                    heat_of=mix.heat_of,
                ).chosen
            )
            return replace(mix, room_c=room_c, set_by=chosen.hardener if chosen else mix.set_by)
        dose = choose_dose(mix.dose.catalyst, room_c, mix.use.wanted_gel_min, own, mix.shop.scales)
        return replace(mix, room_c=room_c, set_by=dose)

    return mixed


def _verdicts(
    job: JobSpec,
    use: ResinInUse,
    resin: ResinSystem,
    own: float | None,
    conditions: Conditions,
    worked_c: float,
    scales: Scales,
    heat_of: HeatOf,
    say: Say,
) -> tuple[HardenerVerdict | None, DoseVerdict | None]:
    if resin.one_part:
        return None, None
    if resin.catalyst:
        return None, choose_dose(resin.catalyst, conditions.room_c, use.wanted_gel_min, own, scales)
    school, deadline = job.practice.hardener_school, use.deadline_h
    try:
        verdict = choose_hardener(resin.hardeners, worked_c, school, deadline, use.hardener_id, scales, heat_of)
    except LayupError as error:
        say(error.path, error.message)
        verdict = choose_hardener(resin.hardeners, worked_c, school, deadline, scales=scales, heat_of=heat_of)
    if verdict.chosen is None:
        say("conditions.room_c", verdict.sentence)
        return verdict, None
    return _with_blend(use, resin, verdict, verdict.chosen.hardener, conditions.room_c, heat_of, say), None


def _own_dose(use: ResinInUse, resin: ResinSystem, catalyst: Catalyst, say: Say) -> float | None:
    """The builder's own dose, %: as the tin prints it, or as he typed it."""
    if not use.dose_words:
        return use.catalyst_pct
    try:
        return parse_dose(use.dose_words, resin.density_g_per_cm3, catalyst.density_g_per_cm3)
    except LayupError as error:
        say("dose_words", error.message)
        return use.catalyst_pct


def _with_blend(
    use: ResinInUse,
    resin: ResinSystem,
    verdict: HardenerVerdict,
    first: Hardener,
    room_c: float,
    heat_of: HeatOf,
    say: Say,
) -> HardenerVerdict:
    if use.blend_id is None:
        return verdict
    second = next((hardener for hardener in resin.hardeners if hardener.id == use.blend_id), None)
    try:
        if second is None:
            raise OutOfRange("the hardener to blend in is not of this family: choose one of its own", "blend_id")
        blend = blended(first, second, use.blend_share, heat_of)
    except LayupError as error:
        say(error.path, error.message)
        return verdict
    return with_blend(verdict, blend, use.blend_share, first.id, second.id, room_c, heat_of)


def _mix_of(
    job: JobSpec,
    shop: ShopFacts,
    use: ResinInUse,
    resin: ResinSystem,
    hardener: HardenerVerdict | None,
    dose: DoseVerdict | None,
    conditions: Conditions,
    heat_of: HeatOf,
    say: Say,
) -> Mix | None:
    _check_tin_ratio(use, resin, say)
    if conditions.room_c > resin.maximum_c:
        room, most = shop.scales.temperature(conditions.room_c), shop.scales.temperature(resin.maximum_c)
        say("conditions.room_c", f"{room} is over the {most} of {resin.name}: cool the room")
        return None
    set_by = resin.one_part or dose or (hardener.chosen.hardener if hardener and hardener.chosen else None)
    if set_by is None:
        return None
    try:
        return settle(job, use, shop, resin, set_by, conditions.room_c, heat_of)
    except LayupError as error:
        say(error.path, error.message)
        return None


def _check_tin_ratio(use: ResinInUse, resin: ResinSystem, say: Say) -> None:
    if not use.tin_ratio or not resin.two_part:
        return
    try:
        parse_ratio(use.tin_ratio)
    except LayupError as error:
        say("tin_ratio", error.message)
        return
    if use.tin_ratio_basis not in resin.bases:
        allowed = " or ".join(resin.bases)
        say("tin_ratio", f"{resin.name} is measured by {allowed} only: type its ratio by {allowed}")
