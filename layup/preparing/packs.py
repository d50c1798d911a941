"""A need in the sizes it is sold in: so many packs of each, so many pieces, as many as cover or last."""

from collections.abc import Iterator, Sequence
from math import ceil, inf

from layup.equipment import Consumable, ConsumableKind, Vessel
from layup.preparing.before_pot import BuyLine, BuyUnit, Sold
from layup.scales import METRIC, Scales
from layup.shelf import Library
from layup.stock.articles import of_piece
from layup.units import convert

KG_ROUNDED_TO = 0.1
CUT_OFF_BY = 0.5  # fabric is sold off the roll by the half metre, or half yard (common practice)
_STEPS_PER_KG = 100
_MOST_PACKS_SOUGHT = 40


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


def rounded_up(value: float, step: float) -> float:
    """A value up to the next whole step."""
    return ceil(round(value / step, 6)) * step


def pack_words(packs: dict[float, int], scales: Scales) -> str:
    """Packs in words, kg said in the shop's units: the largest first."""
    sizes = {scales.mass(1000 * size_kg): count for size_kg, count in packs.items()}
    return " and ".join(f"{count} × {size}" if count > 1 else size for size, count in sizes.items())


def by_weight(
    what: str,
    variant: str,
    grams: float,
    sizes: Sequence[float],
    price_per_kg: float | None,
    scales: Scales,
    article: str = "",
) -> BuyLine:
    """A line for what is bought by weight: so many grams, in its packs where sizes are known."""
    sold = Sold(sizes=tuple(sizes), price=price_per_kg)
    buy, cost = bought("kg", grams / 1000, sold, scales)
    return BuyLine(
        chapter="resin",
        what=what,
        variant=variant,
        need=grams / 1000,
        unit="kg",
        buy=buy,
        cost=cost,
        source="the plan, reserve and all",
        article=article,
        sold=sold,
    )


def bought(unit: BuyUnit, amount: float, sold: Sold, scales: Scales) -> tuple[str, float | None]:
    """An amount in the sizes it is sold in, in words, and what that costs where its price is known.

    >>> bought("", 30, Sold(sizes=(50,), price=0.5), METRIC)
    ('1 pack of 50', 25.0)
    """
    if amount <= 0:
        return "nothing: enough is there", None if sold.price is None else 0.0
    if unit == "kg":
        packs = packs_for(amount, sold.sizes)
        comes_to = sum(size * count for size, count in packs.items()) or rounded_up(amount, KG_ROUNDED_TO)
        words = pack_words(packs, scales) or scales.mass(1000 * comes_to)
    elif unit == "m":
        comes_to, words = _off_the_roll(amount, sold, scales)
    else:
        by = int(sold.sizes[0]) if sold.sizes else 1
        packs_wanted = ceil(amount / by)
        comes_to = packs_wanted * by
        words = f"{packs_wanted} {'pack' if packs_wanted == 1 else 'packs'} of {by}" if by > 1 else f"{comes_to}"
    return words, None if sold.price is None else sold.price * comes_to


def _off_the_roll(run_m: float, sold: Sold, scales: Scales) -> tuple[float, str]:
    """Fabric by the half metre, or by the whole roll where it takes more than half of one."""
    metres = rounded_up(run_m, CUT_OFF_BY * convert(1, scales.unit("roll_run", 0), "m"))
    roll_m = sold.sizes[0] if sold.sizes else None
    if roll_m and metres > roll_m / 2:
        rolls = ceil(round(run_m / roll_m, 6))
        return rolls * roll_m, f"{rolls} {'roll' if rolls == 1 else 'rolls'} of {scales.words('roll_run', roll_m)}"
    wide = f", {scales.words('cut', sold.wide_mm)} wide" if sold.wide_mm else ""
    return metres, f"{scales.words('roll_run', metres)} off the roll{wide}"


def less_stock(line: BuyLine, free: float, scales: Scales) -> BuyLine:
    """A line with what stands in the shop taken off what is bought; `free` in the line's unit."""
    has = min(line.need, free)
    if has <= 0:
        return line
    buy, cost = bought(line.unit, line.need - has, line.sold, scales)
    return line.model_copy(update={"free": has, "buy": buy, "cost": cost})


def first(library: Library, kind: ConsumableKind) -> Consumable | None:
    """The first consumable of a kind that the shop has, if any."""
    return next((each for each in library.consumables if each.kind == kind), None)


def counted(library: Library, kind: ConsumableKind, count: int, variant: str) -> Iterator[BuyLine]:
    """A line for a consumable of which so many are needed."""
    found = first(library, kind)
    if found and count:
        yield pieces(found, count, variant)


def lasting(library: Library, kind: ConsumableKind, minutes: float, variant: str) -> Iterator[BuyLine]:
    """A line for a consumable that lasts so long: as many as the minutes take."""
    found = first(library, kind)
    if found and found.each_lasts_min:
        yield pieces(found, ceil(minutes / found.each_lasts_min), variant)


def covering(library: Library, kind: ConsumableKind, area_m2: float, variant: str) -> Iterator[BuyLine]:
    """A line for a consumable that covers so much: as many as the square metres take."""
    found = first(library, kind)
    if found and found.each_covers_m2 and area_m2:
        yield pieces(found, ceil(area_m2 / found.each_covers_m2), variant)


def pieces(thing: Consumable | Vessel, count: int, variant: str) -> BuyLine:
    """A line for so many pieces, in the packs they are sold in."""
    sold = Sold(sizes=(thing.sold_by,) if thing.sold_by else (), price=thing.price_each)
    buy, cost = bought("", count, sold, METRIC)
    return BuyLine(
        chapter="used up",
        what=thing.name,
        variant=variant or thing.note,
        need=count,
        unit="",
        buy=buy,
        cost=cost,
        source="memory",
        article=of_piece(thing).key,
        sold=sold,
    )
