"""The resin and the money of a plan: what is laid, left in vessels, kept in reserve, and what it costs."""

from collections.abc import Iterator, Mapping, Sequence

from layup import kinds
from layup.day.schedule import PlannedPot
from layup.kind import Draft, Mixes
from layup.outcome import CostLine, CostRecord, ResinUse
from layup.pots.mix import Mix
from layup.pots.sizing import CUP_LOSS_SHARE
from layup.preparing.cost import Used, cost_of

# Over all that is laid, what is at hand comes to so much more; and so much of the mix is kept in any case (memory).
AIMED_ALLOWANCE_SHARE, LEAST_RESERVE_SHARE = 0.18, 0.03


def cost_record(draft: Draft, mixes: Mixes, uses: Mapping[str, ResinUse]) -> CostRecord:
    """What a job's fabrics, fillers and mixed resins cost, line by line; what has no price is named.

    `uses` tells where each resin in use goes, by its id.

    >>> from layup.plan import settled
    >>> from layup.job import JobSpec
    >>> from layup.shop_facts import ShopFacts
    >>> from layup.library import generic
    >>> resin = next(resin for resin in generic().resins if resin.id == "epoxy-2-1")
    >>> job = JobSpec(name="New", materials={"resins": [resin]}, resins=[{"id": "r", "resin_id": resin.id}])
    >>> of = settled(job, ShopFacts())
    >>> use = resin_use_of(of.draft, (), of.mixes["r"])
    >>> use.mixed_g, cost_record(of.draft, of.mixes, {"r": use}).known
    (0.0, 0.0)
    """
    used = [used for kind in kinds.KINDS for used in kind.used(draft)]
    for use_id, use in uses.items():
        used += _mixed(mixes[use_id], use)
    cost = cost_of(used)
    lines = tuple(CostLine(name=name, cost=amount) for name, amount in cost.lines.items())
    return CostRecord(total=cost.total, known=cost.known, unpriced=cost.unpriced, lines=lines)


def _mixed(mix: Mix, use: ResinUse) -> Iterator[Used]:
    part_a = use.mixed_g if use.part_a_g is None else use.part_a_g
    yield Used(mix.resin.name, part_a / 1000, mix.resin.price_per_kg)
    names = {hardener.id: hardener for hardener in mix.resin.hardeners}
    for hardener_id, grams in use.hardeners_g.items():
        hardener = names[hardener_id]
        yield Used(f"{hardener.name} hardener", grams / 1000, hardener.price_per_kg)
    if mix.hardener and use.part_b_g and not use.hardeners_g:
        yield Used(f"{mix.hardener.name} hardener", use.part_b_g / 1000, mix.hardener.price_per_kg)
    if mix.dose and use.catalyst_g:
        yield Used(mix.dose.catalyst.name, use.catalyst_g / 1000, mix.dose.catalyst.price_per_kg)


def _parts_ml(mix: Mix, mixed_g: float) -> tuple[float | None, float | None]:
    """Part A and part B of what is mixed, ml, where they are measured by volume."""
    if mix.by_volume_g_per_ml is None:
        return None, None
    part_a_ml = mixed_g / mix.by_volume_g_per_ml / (1 + mix.b_per_a_volume)
    return part_a_ml, part_a_ml * mix.b_per_a_volume


def resin_use_of(draft: Draft, pots: Sequence[PlannedPot], mix: Mix) -> ResinUse:
    """Where a resin in use goes, g: into plies, coats and joints, off again, into vessels and into the reserve.

    `pots` are all pots of the schedule, of whatever resin; what is only weighed, under a bag, is counted with what its cups
    would keep.

    >>> from layup.job import JobSpec
    >>> from layup.plan import plan
    >>> from layup.shop_facts import ShopFacts
    >>> plan(JobSpec(name="New"), ShopFacts()).resins
    ()
    """
    pots = [pot for pot in pots if pot.mix.use.id == mix.use.id]
    goes: dict[str, float] = {}
    for kind in kinds.KINDS:
        for where, grams in kind.resin_g(draft, mix.use.id).items():
            goes[where] = goes.get(where, 0.0) + grams
    # What is only weighed is lost in vessels as any other.
    bagged = sum(weighed.resin_g for weighed in draft.weighed if weighed.use_id == mix.use.id)
    mixed = sum(pot.mass_g for pot in pots) + bagged / (1 - CUP_LOSS_SHARE)
    surplus = sum(pot.surplus_g for pot in pots)
    laid = sum(pot.laid_g for pot in pots) + bagged
    reserve = max(LEAST_RESERVE_SHARE * mixed, (1 + AIMED_ALLOWANCE_SHARE) * laid - mixed)
    part_a, part_b, _ = mix.parts_g(mixed)
    catalyst = None
    if mix.dose:
        # Each pot by the dose of its own hour.
        dosed = [(pot.mix, pot.mass_g) for pot in pots] + [(mix, bagged / (1 - CUP_LOSS_SHARE))]
        catalyst = sum(each.parts_g(grams)[2] or 0.0 for each, grams in dosed)
    part_a_ml, part_b_ml = _parts_ml(mix, mixed)
    hardeners: dict[str, float] = {}
    for pot in pots:
        if pot.mix.hardener and part_b:
            share = part_b * pot.mass_g / mixed
            hardeners[pot.mix.hardener.id] = hardeners.get(pot.mix.hardener.id, 0.0) + share
    to_have = mixed + reserve
    density = mix.resin.density_g_per_cm3
    return ResinUse(
        **goes,
        allowance_share=to_have / laid - 1 if laid else 0,
        left_in_vessels_g=mixed - surplus - laid,
        surplus_g=surplus,
        mixed_g=mixed,
        reserve_g=reserve,
        to_have_g=to_have,
        to_have_ml=to_have / density if density and not mix.hardener else None,
        hardeners_g=hardeners if len(hardeners) > 1 else {},
        part_a_g=part_a,
        part_b_g=part_b,
        part_a_ml=part_a_ml,
        part_b_ml=part_b_ml,
        catalyst_g=catalyst,
        catalyst_ml=catalyst / mix.dose.catalyst.density_g_per_cm3 if mix.dose and catalyst is not None else None,
    )
