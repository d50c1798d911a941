"""What to buy for a job: each need in the sizes it is sold in, the right variant named, and what the job uses up."""

from collections.abc import Iterator, Mapping, Sequence
from math import ceil, inf
from types import MappingProxyType
from typing import get_args

from layup import kinds
from layup.architecture import Architecture
from layup.chemistry.blend import shares_in_hand
from layup.csv_cells import csv_number, csv_text
from layup.equipment import Consumable, Vessel
from layup.job import JobSpec, ResinInUse
from layup.materials import Catalyst, Fabric, Hardener, ResinSystem
from layup.outcome import Plan, ResinResult, ResinUse
from layup.pots.crew import team_of
from layup.pots.sizing import MOST_VESSEL_FILL
from layup.preparing.before_pot import BuyLine, Chapter, CutPlan, ShoppingList, Sold
from layup.preparing.cutting import fabrics_cut
from layup.preparing.lines import LARGE_AREA_M2
from layup.preparing.packs import bought, by_weight, counted, covering, lasting, less_stock, pieces
from layup.preparing.preparation import vessels_needed
from layup.scales import METRIC, Scales
from layup.shelf import Library
from layup.stock.articles import Article, of_catalyst, of_fabric, of_filler, of_hardener, of_resin
from layup.units import convert

FOAM_IN_STYRENE_MIN = 20.0  # memory: a sleeve is gone by then
FIRST_ANYTHING_MIN = 30.0  # memory: sanding, wiping and setting out, beside the spreading


def shopping_list(
    job: JobSpec,
    plan: Plan,
    cut: CutPlan,
    library: Library,
    scales: Scales = METRIC,
    free: Mapping[str, float] = MappingProxyType({}),
) -> ShoppingList:
    """The need of a job as lines to buy, with what they cost where a price is known.

    Fabric is what comes off the rolls, resin what the plan says to have, reserve and all. `library` gives the vessels
    and consumables, the shop's own first, `free` what there is of each article for the job, by its key. Source: common practice and memory, as each line says.

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
        *(line for kind in kinds.KINDS for line in kind.to_buy(job, plan, library, scales)),
        *_used_up(job, plan, library),
    ]
    lines.sort(key=lambda line: get_args(Chapter).index(line.chapter))
    area_m2 = sum(part.total_area_m2 for part in plan.parts)
    whole = all(line.cost is not None for line in lines if line.chapter != "used up")
    comes_to = _cost(lines)
    lines = [less_stock(line, _in_its_unit(line, free), scales) for line in lines]
    return ShoppingList(
        lines=tuple(lines),
        total=_cost(lines),
        per_m2=comes_to / area_m2 if comes_to is not None and area_m2 and whole else None,
        area_m2=area_m2,
        unpriced=tuple(line.what for line in lines if line.cost is None),
    )


def of_several(
    lists: Sequence[ShoppingList], scales: Scales = METRIC, free: Mapping[str, float] = MappingProxyType({})
) -> ShoppingList:
    """What several jobs need as one list: alike lines together, in the packs that cover all of them, less what is there.

    >>> of_several([]).lines
    ()
    """
    alike: dict[tuple[str, str, str, str, Sold], list[BuyLine]] = {}
    for line in (line for shopping in lists for line in shopping.lines):
        alike.setdefault((line.chapter, line.what, line.variant, line.article, line.sold), []).append(line)
    lines = [less_stock(_summed(same, scales), _in_its_unit(same[0], free), scales) for same in alike.values()]
    lines.sort(key=lambda line: get_args(Chapter).index(line.chapter))
    return ShoppingList(
        lines=tuple(lines),
        total=_cost(lines),
        per_m2=None,
        area_m2=sum(shopping.area_m2 for shopping in lists),
        unpriced=tuple(line.what for line in lines if line.cost is None),
    )


def _summed(same: Sequence[BuyLine], scales: Scales) -> BuyLine:
    need = sum(line.need for line in same)
    buy, cost = bought(same[0].unit, need, same[0].sold, scales)
    return same[0].model_copy(update={"need": need, "buy": buy, "cost": cost, "free": 0.0})


def needs(shopping: ShoppingList) -> dict[str, float]:
    """What a list needs of each article, bought or there, by its key, in the article's unit: m, g or pieces.

    >>> needs(ShoppingList(lines=(), total=None, per_m2=None, area_m2=0, unpriced=()))
    {}
    """
    found: dict[str, float] = {}
    for line in shopping.lines:
        if line.article:
            found[line.article] = found.get(line.article, 0.0) + (1000 * line.need if line.unit == "kg" else line.need)
    return found


def _cost(lines: Sequence[BuyLine]) -> float | None:
    priced = [line.cost for line in lines if line.cost is not None]
    return sum(priced) if priced else None


def _in_its_unit(line: BuyLine, free: Mapping[str, float]) -> float:
    has = free.get(line.article, 0.0)
    return has / 1000 if line.unit == "kg" else has


BUY_COLUMNS = ("chapter", "what", "variant", "needed", "there", "unit", "buy", "cost")


def shopping_csv(shopping: ShoppingList, scales: Scales = METRIC) -> str:
    """The list as CSV, with a byte-order mark; semicolons where decimals are written with a comma.

    >>> shopping_csv(ShoppingList(lines=(), total=None, per_m2=None, area_m2=0, unpriced=())).strip()
    '\ufeff"chapter","what","variant","needed","there","unit","buy","cost"'
    """
    decimal_comma = scales.customs.decimal_comma
    sold_in = {"m": scales.unit("roll_run", 0), "kg": "kg" if scales.unit_set == "metric" else "lb", "": ""}
    rows = (
        (
            *(line.chapter, line.what, line.variant),
            *(
                csv_number(round(_converted(amount, line.unit, sold_in[line.unit]), 3), decimal_comma=decimal_comma)
                for amount in (line.need, line.free)
            ),
            *(sold_in[line.unit], line.buy),
            csv_number(None if line.cost is None else round(line.cost, 2), decimal_comma=decimal_comma),
        )
        for line in shopping.lines
    )
    return csv_text(BUY_COLUMNS, rows, decimal_comma=decimal_comma)


def _converted(need: float, unit: str, wanted: str) -> float:
    return convert(need, unit, wanted) if unit else need


def _fabrics(job: JobSpec, cut: CutPlan, scales: Scales) -> Iterator[BuyLine]:
    fabrics = fabrics_cut(job)
    # What is left over of an earlier job is there already.
    off_rolls = [roll for roll in cut.rolls if not roll.lot_id]
    for fabric_id in dict.fromkeys(roll.fabric_id for roll in off_rolls):
        fabric = fabrics[fabric_id]
        run_m = sum(roll.run_m for roll in off_rolls if roll.fabric_id == fabric_id)
        sold = Sold(
            sizes=(fabric.roll_length_m,) if fabric.roll_length_m else (),
            price=fabric.price_per_m2 and fabric.price_per_m2 * fabric.roll_width_mm / 1000,
            wide_mm=fabric.roll_width_mm,
        )
        buy, cost = bought("m", run_m, sold, scales)
        yield BuyLine(
            chapter="fabric",
            what=fabric.name,
            variant=_fabric_variant(fabric, scales),
            need=run_m,
            unit="m",
            buy=buy,
            cost=cost,
            source="the cut plan",
            article=of_fabric(fabric).key,
            sold=sold,
        )


def _fabric_variant(fabric: Fabric, scales: Scales) -> str:
    words = []
    if fabric.architecture is Architecture.CHOPPED_MAT:
        words.append(f"{fabric.binder} bound" + (", says epoxy" if fabric.epoxy_ok else ", for styrene resins"))
    if fabric.build.bought:
        words.append(fabric.build.bought)
    if fabric.architecture is Architecture.CORE and fabric.core_thickness_mm:
        words.append(f"{scales.words('cut', fabric.core_thickness_mm)}; scored where it bends")
    return "; ".join(words)


def _resins(job: JobSpec, plan: Plan, scales: Scales) -> Iterator[BuyLine]:
    """Resins with what sets them; what several works take of one tin is one line."""
    need: dict[tuple[str, str, tuple[float, ...], float | None, str], float] = {}
    for told in plan.resins:
        use = job.use_of(told.id)
        resin = job.product_of(use)
        if told.use is None or use is None or resin is None or not told.use.mixed_g:
            continue
        for what, variant, grams, sold, article in _of_one(use, resin, told, told.use):
            line = (what, variant, sold.sold_kg, sold.price_per_kg, article.key)
            need[line] = need.get(line, 0.0) + grams * told.use.to_have_g / told.use.mixed_g
    for (what, variant, sold_kg, price, article_key), grams in need.items():
        yield by_weight(what, variant, grams, sold_kg, price, scales, article_key)
    if plan.gel_coat_g:
        yield by_weight("Gel coat", _GEL_COAT, plan.gel_coat_g * 1.1, (), None, scales)


def _of_one(
    in_use: ResinInUse, resin: ResinSystem, told: ResinResult, use: ResinUse
) -> Iterator[tuple[str, str, float, ResinSystem | Hardener | Catalyst, Article]]:
    """What is bought for a resin in use: its name, which of its kind, g without the reserve, what is sold, and its article."""
    part_a_g = use.mixed_g if use.part_a_g is None else use.part_a_g
    yield resin.name, _resin_variant(resin), part_a_g, resin, of_resin(resin)
    chosen = told.chemistry.chosen_id
    by_hour = {hardener.id: hardener for hardener in resin.hardeners if hardener.id in use.hardeners_g}
    for hardener_id, hardener in by_hour.items():
        variant = f"{hardener.name}, of the family {hardener.family}"
        yield f"Hardener, {hardener.name}", variant, use.hardeners_g[hardener_id], hardener, of_hardener(hardener)
    if chosen and use.part_b_g and not by_hour:
        for hardener, share in shares_in_hand(resin, in_use, chosen):
            variant = f"{hardener.name}, of the family {hardener.family}"
            yield f"Hardener, {hardener.name}", variant, use.part_b_g * share, hardener, of_hardener(hardener)
    if resin.catalyst and use.catalyst_g:
        fresh = "to this resin's sheet; fresh, in its own bottle"
        yield resin.catalyst.name, fresh, use.catalyst_g, resin.catalyst, of_catalyst(resin.catalyst)


_GEL_COAT = "without wax in a mould; with wax, or top coat, where it comes last"


def _resin_variant(resin: ResinSystem) -> str:
    if resin.two_part:
        return ""
    if resin.one_part:
        return "moisture-cured; small tins, since an open one skins over"
    if resin.made_for == "gel coat":
        return _GEL_COAT
    return (
        "with wax, or film, where it is left to the air"
        if resin.air_inhibited
        else "laminating, without wax between plies"
    )


def _fillers(job: JobSpec, plan: Plan, library: Library, scales: Scales) -> Iterator[BuyLine]:
    """Fillers as they go into the pots, what stays in the cups and all."""
    known = {filler.id: filler for filler in (*library.fillers, *job.materials.fillers)}
    grams: dict[str, float] = {}
    for pot in plan.pots:
        for row in pot.ticket.thickened.fillers if pot.ticket and pot.ticket.thickened else ():
            grams[row.filler_id] = grams.get(row.filler_id, 0.0) + pot.count * row.grams
    for filler in (known[name] for name in grams if name in known):
        sold, article = (filler.sold_kg, filler.price_per_kg), of_filler(filler).key
        line = by_weight(filler.name, filler.uses, grams[filler.id], *sold, scales, article)
        yield line.model_copy(update={"chapter": "filler", "source": "the pots of the plan"})


def _used_up(job: JobSpec, plan: Plan, library: Library) -> Iterator[BuyLine]:
    """Consumables by what is spread, sanded, wiped and mixed. Counts from memory until the shop counts its own."""
    if not plan.pot_count:
        return
    styrene = any(resin.styrene for use in job.resins if (resin := job.product_of(use)))
    area_m2 = sum(part.total_area_m2 for part in plan.parts)
    ground_m2 = sum(part.total_area_m2 for part in plan.parts if part.substrate != "waxed mould")
    minutes = sum(pot.count * (pot.spread_min or 0) for pot in plan.pots) + FIRST_ANYTHING_MIN
    cups = vessels_needed(job, plan)
    yield from _cups(plan, library.vessels, cups, styrene)
    yield from counted(library, "stirrer", cups, "as many as cups")
    yield from lasting(
        library, "gloves", minutes * len(team_of(job.pots).people), "nitrile: acetone goes through it in minutes"
    )
    yield from covering(library, "brush", area_m2, "")
    sleeve = _sleeve(library, styrene)
    if sleeve and sleeve.each_lasts_min:
        lasts = (
            min(sleeve.each_lasts_min, FOAM_IN_STYRENE_MIN)
            if styrene and sleeve.styrene_dissolves
            else sleeve.each_lasts_min
        )
        yield pieces(sleeve, ceil(minutes / lasts), "styrene eats foam" if sleeve.styrene_dissolves and styrene else "")
    yield from covering(library, "abrasive", ground_m2, "80 grit")
    yield from covering(library, "wipes", 2 * ground_m2, "two a wipe: one on, one off")
    solvent = "slow, for large areas" if ground_m2 > LARGE_AREA_M2 else "fast, for small areas"
    found = [each for each in library.consumables if each.kind == "solvent"]
    if ground_m2 and found:
        slow = [each for each in found if each.dries == "slowly"]
        chosen = slow[0] if slow and ground_m2 > LARGE_AREA_M2 else found[0]
        yield pieces(chosen, ceil(ground_m2 / (chosen.each_covers_m2 or inf)) or 1, solvent)
    if styrene:
        yield from lasting(library, "respirator", minutes * len(team_of(job.pots).people), "vapour, not dust alone")


def _sleeve(library: Library, styrene: bool) -> Consumable | None:
    sleeves = [each for each in library.consumables if each.kind == "roller"]
    stands = [each for each in sleeves if not (styrene and each.styrene_dissolves)]
    return next(iter(stands or sleeves), None)


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
        yield pieces(cup, wanted, f"{cup.made_of}; holds a pot {MOST_VESSEL_FILL:.0%} full")
