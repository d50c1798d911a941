"""The tables of heat that a process has: the server, and each worker, which is told of every one that is made."""

from collections.abc import Callable
from typing import TypeVar

from layup.heat.heat_fit import StatedPot
from layup.heat.pot_heat import HeatOf, PotHeat, full_heat, rough_heat

MOST_KEPT = 400

Answer = TypeVar("Answer")
Tables = dict[StatedPot, PotHeat]

_tables: Tables = {}


def keep_table(stated: StatedPot, heat: PotHeat) -> None:
    """Goes by a table from now on; the oldest goes where there are too many."""
    while len(_tables) >= MOST_KEPT:
        _tables.pop(next(iter(_tables)), None)
    _tables[stated] = heat


def table_of(stated: StatedPot) -> PotHeat | None:
    """The table of a product, where there is one."""
    return _tables.get(stated)


def tables_kept() -> Tables:
    """All of them."""
    return dict(_tables)


def full_at_hand(stated: StatedPot) -> PotHeat:
    """The table of a product; one that is not at hand is made."""
    return _tables.get(stated) or full_heat(stated)


def with_heat_at_hand(of: Callable[[HeatOf], Answer]) -> tuple[Answer, tuple[StatedPot, ...]]:
    """What is worked out with the heat that is at hand, full or rough, and the products whose tables it lacked.

    One answer reads one state of a product's table throughout.
    """
    read: Tables = {}

    def heat_of(stated: StatedPot) -> PotHeat:
        """What is at hand of a product, the same each time."""
        if stated not in read:
            read[stated] = _tables.get(stated) or rough_heat(stated)
        return read[stated]

    answer = of(heat_of)
    return answer, tuple(stated for stated, heat in read.items() if heat.rough)
