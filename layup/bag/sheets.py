"""Bags as a table of the workbook."""

from collections.abc import Iterator

from layup.kind import Cell, Head, Sheet
from layup.outcome import Plan


def sheets_of_bags(plan: Plan) -> Iterator[Sheet]:
    """The bags that could be worked out, where there are any: one row a layer."""
    if plan.bags:
        yield Sheet("Bags", _HEADS, _rows(plan))


_HEADS: tuple[Head, ...] = (
    *("part", "alike", "layer", "of", ("cut", "area"), ("takes", "areal_weight"), ("thick", "thickness")),
    *("level, mbar absolute", "force, kN"),
)


def _rows(plan: Plan) -> Iterator[tuple[Cell, ...]]:
    for bag in plan.bags:
        for layer in bag.layers[1:]:
            yield (
                *(bag.name, bag.copies, layer.kind, layer.name, layer.area_m2, layer.resin_gsm, layer.thickness_mm),
                *(round(bag.level_mbar), round(bag.force_kn, 1)),
            )
