"""What to buy for a job: each need in the sizes it is sold in, the right variant named, and what the job uses up."""

from collections.abc import Iterator, Sequence
from math import ceil, inf

from layup.chemistry.blend import shares_in_hand
from layup.csv_cells import csv_number, csv_text
from layup.equipment import Consumable, ConsumableKind, Vessel
from layup.job import JobSpec
from layup.materials import Architecture, Fabric, ResinSystem
from layup.outcome import Plan
from layup.pots.sizing import MOST_VESSEL_FILL
from layup.preparing.before_pot import BuyLine, CutPlan, ShoppingList
from layup.preparing.preparation import LARGE_AREA_M2, vessels_needed
from layup.scales import METRIC, Scales
from layup.shelf import Library
from layup.units import convert

CUT_OFF_BY = 0.5  # fabric is sold off the roll by the half metre, or half yard (common practice)
KG_ROUNDED_TO = 0.1
FOAM_IN_STYRENE_MIN = 20.0  # memory: a sleeve is gone by then
FIRST_ANYTHING_MIN = 30.0  # memory: sanding, wiping and setting out, beside the spreading
_STEPS_PER_KG = 100
_MOST_PACKS_SOUGHT = 40


def shopping_list(job: JobSpec, plan: Plan, cut: CutPlan, library: Library, scales: Scales = METRIC) -> ShoppingList:
    """The need of a job as lines to buy, with what they cost where a price is known.

    Fabric is what comes off the rolls, resin what the plan says to have, reserve and all. `library` gives the vessels
    and consumables, the shop's own first. Source: common practice and memory, as each line says.

    >>> from layup.shop_facts import ShopFacts
    >>> from layup.plan import plan
    >>> job = JobSpec(name="Deck")
    >>> shopping_list(job, plan(job, ShopFacts()), CutPlan(pieces=(), rolls=()), Library()).lines
    ()
    """
    lines = [
        *_fabrics(job, cut, scales),
        *_resins(job, plan, scales),
        *_fillers(job, plan, library, scales),
        *_used_up(job, plan, library),
    ]
    priced = [line.cost for line in lines if line.cost is not None]
    area_m2 = sum(part.total_area_m2 for part in plan.parts)
    whole = all(line.cost is not None for line in lines if line.chapter != "used up")
    total = sum(priced) if priced else None
    return ShoppingList(
        lines=tuple(lines),
        total=total,
        per_m2=total / area_m2 if total is not None and area_m2 and whole else None,
        area_m2=area_m2,
        unpriced=tuple(line.what for line in lines if line.cost is None),
    )


BUY_COLUMNS = ("chapter", "what", "variant", "needed", "unit", "buy", "cost")


def shopping_csv(shopping: ShoppingList, *, decimal_comma: bool = False, scales: Scales = METRIC) -> str:
    """The list as CSV, with a byte-order mark; semicolons where decimals are written with a comma.

    >>> shopping_csv(ShoppingList(lines=(), total=None, per_m2=None, area_m2=0, unpriced=())).strip()
    '\ufeff"chapter","what","variant","needed","unit","buy","cost"'
    """
    sold_in = {"m": scales.unit("roll_run", 0), "kg": "kg" if scales.unit_set == "metric" else "lb", "": ""}
    rows = (
        (
            *(line.chapter, line.what, line.variant),
            csv_number(round(_converted(line.need, line.unit, sold_in[line.unit]), 3), decimal_comma=decimal_comma),
            *(sold_in[line.unit], line.buy),
            csv_number(None if line.cost is None else round(line.cost, 2), decimal_comma=decimal_comma),
        )
        for line in shopping.lines
    )
    return csv_text(BUY_COLUMNS, rows, decimal_comma=decimal_comma)


def _converted(need: float, unit: str, wanted: str) -> float:
    return convert(need, unit, wanted) if unit else need


def packs_for(need: float, sizes: Sequence[float]) -> dict[float, int]:
    """How many of each size cover a need with the least left over, and of those the fewest packs.

    Sizes and need in one unit, kg or pieces. Raises nothing: without sizes the answer is empty.

    >>> packs_for(6.2, (1, 5))
    {5.0: 1, 1.0: 2}
    >>> packs_for(4.7, (1, 5))
    {5.0: 1}
    """
    units = sorted({round(size * _STEPS_PER_KG) for size in sizes if size > 0}, reverse=True)
    wanted = ceil(round(need * _STEPS_PER_KG, 6))
    if not units or wanted <= 0:
        return {}
    # A need of very many packs is mostly of the largest.
    many = max(0, wanted // units[0] - _MOST_PACKS_SOUGHT)
    rest = wanted - many * units[0]
    most = rest + units[0]
    fewest: list[float] = [0.0] + [inf] * most
    last = [0] * (most + 1)
    for total in range(1, most + 1):
        for size in units:
            if size <= total and fewest[total - size] + 1 < fewest[total]:
                fewest[total], last[total] = fewest[total - size] + 1, size
    reached = next(total for total in range(rest, most + 1) if fewest[total] < inf)
    counts = dict.fromkeys(units, 0)
    counts[units[0]] += many
    while reached:
        counts[last[reached]] += 1
        reached -= last[reached]
    return {size / _STEPS_PER_KG: count for size, count in counts.items() if count}


def _rounded_up(value: float, step: float) -> float:
    return ceil(round(value / step, 6)) * step


def _pack_words(packs: dict[float, int], scales: Scales) -> str:
    sizes = {scales.mass(1000 * size_kg): count for size_kg, count in packs.items()}
    return " and ".join(f"{count} × {size}" if count > 1 else size for size, count in sizes.items())


def _fabrics(job: JobSpec, cut: CutPlan, scales: Scales) -> Iterator[BuyLine]:
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    for fabric_id in dict.fromkeys(roll.fabric_id for roll in cut.rolls):
        fabric = fabrics[fabric_id]
        run_m = sum(roll.run_m for roll in cut.rolls if roll.fabric_id == fabric_id)
        metres = _rounded_up(run_m, CUT_OFF_BY * convert(1, scales.unit("roll_run", 0), "m"))
        wide = scales.words("cut", fabric.roll_width_mm)
        buy = f"{scales.words('roll_run', metres)} off the roll, {wide} wide"
        if fabric.roll_length_m and metres > fabric.roll_length_m / 2:
            rolls = ceil(round(run_m / fabric.roll_length_m, 6))
            metres = rolls * fabric.roll_length_m
            buy = f"{rolls} {'roll' if rolls == 1 else 'rolls'} of {scales.words('roll_run', fabric.roll_length_m)}"
        cost = fabric.price_per_m2 and fabric.price_per_m2 * metres * fabric.roll_width_mm / 1000
        yield BuyLine(
            chapter="fabric",
            what=fabric.name,
            variant=_fabric_variant(fabric, scales),
            need=run_m,
            unit="m",
            buy=buy,
            cost=cost,
            source="the cut plan",
        )


def _fabric_variant(fabric: Fabric, scales: Scales) -> str:
    words = []
    if fabric.architecture is Architecture.CHOPPED_MAT:
        words.append(f"{fabric.binder} bound" + (", says epoxy" if fabric.epoxy_ok else ", for styrene resins"))
    if fabric.architecture is Architecture.TAPE:
        words.append("sewn edges, unless they are to be faired in")
    if fabric.architecture is Architecture.PEEL_PLY:
        words.append("uncoated")
    if fabric.architecture is Architecture.CORE and fabric.core_thickness_mm:
        words.append(f"{scales.words('cut', fabric.core_thickness_mm)}; scored where it bends")
    return "; ".join(words)


def _resins(job: JobSpec, plan: Plan, scales: Scales) -> Iterator[BuyLine]:
    resin = next((resin for resin in job.materials.resins if resin.id == job.chemistry.resin_id), None)
    use = plan.resin
    if resin is None or use is None:
        return
    with_reserve = use.to_have_g / use.mixed_g if use.mixed_g else 1
    part_a_g = (use.mixed_g if use.part_a_g is None else use.part_a_g) * with_reserve
    yield _by_weight(resin.name, _resin_variant(job, resin), part_a_g, resin.sold_kg, resin.price_per_kg, scales)
    chosen = next((row.id for row in plan.chemistry.hardeners if row.chosen), None)
    if chosen and use.part_b_g:
        for hardener, share in shares_in_hand(resin, job.chemistry, chosen):
            variant = f"{hardener.name}, of the family {hardener.family}"
            what, grams = f"Hardener, {hardener.name}", use.part_b_g * with_reserve * share
            yield _by_weight(what, variant, grams, hardener.sold_kg, hardener.price_per_kg, scales)
    if resin.catalyst and use.catalyst_g:
        catalyst = resin.catalyst
        variant = "to this resin's sheet; fresh, in its own bottle"
        yield _by_weight(
            catalyst.name, variant, use.catalyst_g * with_reserve, catalyst.sold_kg, catalyst.price_per_kg, scales
        )
    if use.gel_coat_g:
        variant = "without wax in a mould; with wax, or top coat, where it comes last"
        yield _by_weight("Gel coat", variant, use.gel_coat_g * 1.1, (), None, scales)


def _resin_variant(job: JobSpec, resin: ResinSystem) -> str:
    if resin.two_part:
        return ""
    last = (
        "with wax, or film, where it is left to the air"
        if resin.air_inhibited
        else "laminating, without wax between plies"
    )
    return last


def _by_weight(
    what: str, variant: str, grams: float, sizes: Sequence[float], price_per_kg: float | None, scales: Scales
) -> BuyLine:
    packs = packs_for(grams / 1000, sizes)
    bought_kg = sum(size * count for size, count in packs.items()) or _rounded_up(grams / 1000, KG_ROUNDED_TO)
    return BuyLine(
        chapter="resin",
        what=what,
        variant=variant,
        need=grams / 1000,
        unit="kg",
        buy=_pack_words(packs, scales) or scales.mass(1000 * bought_kg),
        cost=None if price_per_kg is None else price_per_kg * bought_kg,
        source="the plan, reserve and all",
    )


def _fillers(job: JobSpec, plan: Plan, library: Library, scales: Scales) -> Iterator[BuyLine]:
    """Fillers as they go into the pots, what stays in the cups and all."""
    known = {filler.id: filler for filler in (*library.fillers, *job.materials.fillers)}
    grams: dict[str, float] = {}
    for pot in plan.pots:
        for row in pot.ticket.thickened.fillers if pot.ticket and pot.ticket.thickened else ():
            grams[row.filler_id] = grams.get(row.filler_id, 0.0) + pot.count * row.grams
    for filler in (known[name] for name in grams if name in known):
        line = _by_weight(filler.name, filler.uses, grams[filler.id], filler.sold_kg, filler.price_per_kg, scales)
        yield line.model_copy(update={"chapter": "filler", "source": "the pots of the plan"})


def _used_up(job: JobSpec, plan: Plan, library: Library) -> Iterator[BuyLine]:
    """Consumables by what is spread, sanded, wiped and mixed. Counts from memory until the shop counts its own."""
    if not plan.pot_count:
        return
    resin = next(resin for resin in job.materials.resins if resin.id == job.chemistry.resin_id)
    styrene = resin.family != "epoxy"
    area_m2 = sum(part.total_area_m2 for part in plan.parts)
    ground_m2 = sum(part.total_area_m2 for part in plan.parts if part.substrate != "waxed mould")
    minutes = sum(pot.count * (pot.spread_min or 0) for pot in plan.pots) + FIRST_ANYTHING_MIN
    cups = vessels_needed(job, plan)
    yield from _cups(plan, library.vessels, cups, styrene)
    yield from _counted(library, "stirrer", cups, "as many as cups")
    yield from _lasting(library, "gloves", minutes * job.pots.hands, "nitrile: acetone goes through it in minutes")
    yield from _covering(library, "brush", area_m2, "")
    sleeve = _sleeve(library, styrene)
    if sleeve and sleeve.each_lasts_min:
        lasts = (
            min(sleeve.each_lasts_min, FOAM_IN_STYRENE_MIN)
            if styrene and sleeve.styrene_dissolves
            else sleeve.each_lasts_min
        )
        yield _pieces(
            sleeve, ceil(minutes / lasts), "styrene eats foam" if sleeve.styrene_dissolves and styrene else ""
        )
    yield from _covering(library, "abrasive", ground_m2, "80 grit")
    yield from _covering(library, "wipes", 2 * ground_m2, "two a wipe: one on, one off")
    solvent = "slow, for large areas" if ground_m2 > LARGE_AREA_M2 else "fast, for small areas"
    found = [each for each in library.consumables if each.kind == "solvent"]
    if ground_m2 and found:
        slow = [each for each in found if "slow" in each.note.lower()]
        chosen = slow[0] if slow and ground_m2 > LARGE_AREA_M2 else found[0]
        yield _pieces(chosen, ceil(ground_m2 / (chosen.each_covers_m2 or inf)) or 1, solvent)
    if any(part.shape.kind == "patch" or part.ground.show_face for part in job.parts):
        yield from _covering(library, "masking", area_m2, "")
    if styrene:
        yield from _lasting(library, "respirator", minutes * job.pots.hands, "vapour, not dust alone")
    if any(part.process != "open mould" for part in job.parts):
        yield from _covering(library, "bag", area_m2, "film, tape and breather by the Bag step")


def _first(library: Library, kind: ConsumableKind) -> Consumable | None:
    return next((each for each in library.consumables if each.kind == kind), None)


def _sleeve(library: Library, styrene: bool) -> Consumable | None:
    sleeves = [each for each in library.consumables if each.kind == "roller"]
    stands = [each for each in sleeves if not (styrene and each.styrene_dissolves)]
    return next(iter(stands or sleeves), None)


def _counted(library: Library, kind: ConsumableKind, count: int, variant: str) -> Iterator[BuyLine]:
    found = _first(library, kind)
    if found and count:
        yield _pieces(found, count, variant)


def _lasting(library: Library, kind: ConsumableKind, minutes: float, variant: str) -> Iterator[BuyLine]:
    found = _first(library, kind)
    if found and found.each_lasts_min:
        yield _pieces(found, ceil(minutes / found.each_lasts_min), variant)


def _covering(library: Library, kind: ConsumableKind, area_m2: float, variant: str) -> Iterator[BuyLine]:
    found = _first(library, kind)
    if found and found.each_covers_m2 and area_m2:
        yield _pieces(found, ceil(area_m2 / found.each_covers_m2), variant)


def _cups(plan: Plan, vessels: Sequence[Vessel], count: int, styrene: bool) -> Iterator[BuyLine]:
    """Cups that hold the largest pot no fuller than they may be, of something the resin leaves alone."""
    largest_ml = max(pot.mass_g for pot in plan.pots) / 1.1 / MOST_VESSEL_FILL
    fit = [
        vessel
        for vessel in vessels
        if vessel.holds_ml >= largest_ml
        and not (styrene and vessel.made_of == "polystyrene")
        and vessel.made_of != "waxed paper"
        and vessel.form != "tray"
    ]
    cup = min(fit, key=lambda vessel: (vessel.form == "pail", vessel.holds_ml), default=None)
    if cup:
        # What is used again is wanted in turn: one in hand, one curing, one being cleaned.
        wanted = count if cup.used_once else min(count, 3)
        yield _pieces(cup, wanted, f"{cup.made_of}; holds a pot {MOST_VESSEL_FILL:.0%} full")


def _pieces(thing: Consumable | Vessel, count: int, variant: str) -> BuyLine:
    by = int(thing.sold_by or 1)
    packs = ceil(count / by)
    return BuyLine(
        chapter="used up",
        what=thing.name,
        variant=variant or thing.note,
        need=count,
        unit="",
        buy=f"{packs} {'pack' if packs == 1 else 'packs'} of {by}" if by > 1 else f"{count}",
        cost=None if thing.price_each is None else thing.price_each * packs * by,
        source="memory",
    )
