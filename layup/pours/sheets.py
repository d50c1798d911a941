"""Castings as a table of the workbook."""

from collections.abc import Iterator

from layup.kind import Cell, Head, Sheet
from layup.outcome import Plan


def sheets_of_pours(plan: Plan) -> Iterator[Sheet]:
    """The castings that could be worked out, where there are any: one row a lift."""
    if plan.pours:
        yield Sheet("Castings", _HEADS, _rows(plan))


_HEADS: tuple[Head, ...] = (
    *("casting", "alike", "lift", ("depth", "size"), ("resin", "mass"), "filled with", ("fill", "mass")),
    *(("peak", "temperature"), "poured after, h", "bears the next after, h", "bonds until, h"),
)


def _rows(plan: Plan) -> Iterator[tuple[Cell, ...]]:
    for pour in plan.pours:
        for number, lift in enumerate(pour.lifts, 1):
            yield (
                *(pour.name, pour.copies, number, lift.depth_mm, lift.resin_g, pour.fill_name, lift.fill_g),
                *(lift.peak_c, lift.poured_h, lift.bears_h, lift.bonds_until_h),
            )
