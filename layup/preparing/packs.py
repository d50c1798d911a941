"""A need in the sizes it is sold in: so many packs of each, so many pieces, as many as cover or last."""

from collections.abc import Iterator, Sequence
from math import ceil, inf

from layup.equipment import Consumable, ConsumableKind, Vessel
from layup.preparing.before_pot import BuyLine
from layup.scales import Scales
from layup.shelf import Library

KG_ROUNDED_TO = 0.1
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
    what: str, variant: str, grams: float, sizes: Sequence[float], price_per_kg: float | None, scales: Scales
) -> BuyLine:
    """A line for what is bought by weight: so many grams, in its packs where sizes are known."""
    packs = packs_for(grams / 1000, sizes)
    bought_kg = sum(size * count for size, count in packs.items()) or rounded_up(grams / 1000, KG_ROUNDED_TO)
    return BuyLine(
        chapter="resin",
        what=what,
        variant=variant,
        need=grams / 1000,
        unit="kg",
        buy=pack_words(packs, scales) or scales.mass(1000 * bought_kg),
        cost=None if price_per_kg is None else price_per_kg * bought_kg,
        source="the plan, reserve and all",
    )


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
