"""A pot as it was really poured, held against its plan: the ratio it has, and how to mend it."""

from layup.chemistry.blend import hardener_in_hand
from layup.chemistry.gel import catalysed_gel_min, pot_life_min
from layup.chemistry.logged import with_logged
from layup.chemistry.off_ratio import Cup, Verdict, catalysed, two_part
from layup.chemistry.ratio import weight_ratio
from layup.errors import Missing, known
from layup.job import JobSpec
from layup.outcome import Plan
from layup.pots.crew import largest_allowed_g
from layup.pots.outcome import PotResult
from layup.pots.sizing import MOST_VESSEL_FILL
from layup.shop_facts import ShopFacts


def check_pot(
    job: JobSpec,
    shop: ShopFacts,
    plan: Plan,
    pot: PotResult,
    first_g: float,
    second_g: float | None,
    *,
    second_ml: float | None = None,
    age_min: float = 0.0,
    surface_c: float | None = None,
) -> Verdict:
    """What was poured of A and B, or of resin and catalyst, g; the second may be told in ml where its density is known.

    `age_min` counts from when the parts touched. Raises Missing where a density is not known, OutOfRange for nought.
    """
    use, chemistry = known(job.use_of(pot.use_id)), known(plan.resin_of(pot.use_id)).chemistry
    resin, room_c = with_logged(known(job.product_of(use)), shop.gels), plan.conditions.room_c
    if resin.one_part:
        raise Missing(f"nothing is mixed into {resin.name}: there is no ratio to check", "part_b_g")
    most = min(
        MOST_VESSEL_FILL * shop.cup_ml * (resin.density_g_per_cm3 or resin.cured_density_g_per_cm3),
        largest_allowed_g(shop, resin.family, job.pots),
    )
    cup = Cup(most, age_min / pot.life_min, surface_c)
    if catalyst := resin.catalyst:
        grams = second_g if second_ml is None else second_ml * catalyst.density_g_per_cm3
        limits = (catalyst.least_pct, catalyst.most_pct)
        return catalysed(
            first_g,
            grams or 0.0,
            known(chemistry.dose).catalyst_pct,
            limits,
            cup,
            lambda pct: catalysed_gel_min(catalyst, room_c, pct),
            shop.scales,
        )
    hardener = hardener_in_hand(resin, use, chemistry.chosen_id)
    if second_ml is not None:
        if hardener.density_g_per_cm3 is None:
            raise Missing("the density of the hardener is not known: weigh it", "part_b_ml")
        second_g = second_ml * hardener.density_g_per_cm3
    ratio = weight_ratio(resin, hardener.density_g_per_cm3).b_per_a
    return two_part(
        first_g,
        second_g or 0.0,
        ratio,
        resin.ratio_tolerance_pct,
        cup,
        lambda mass_g: pot_life_min(hardener, room_c, mass_g, cup_mm=shop.cup_width_mm),
        shop.scales,
    )
