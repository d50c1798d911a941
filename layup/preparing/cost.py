"""What a job's materials cost, as far as their prices are known. In the shop's own currency."""

from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True)
class Used:
    """So much of one material: `amount` in the unit its price is for (m² of fabric, kg of the rest)."""

    name: str
    amount: float
    price: float | None


@dataclass(frozen=True)
class Cost:
    """What each priced material comes to, and the names of what has no price."""

    lines: dict[str, float]
    unpriced: tuple[str, ...]

    @property
    def known(self) -> float:
        return sum(self.lines.values())

    @property
    def total(self) -> float | None:
        """The cost of everything; None while any price is missing."""
        return None if self.unpriced else self.known


def cost_of(used: Iterable[Used]) -> Cost:
    """Add up materials. Exact; fabric as covered, before cutting waste.

    >>> cost_of([Used("cloth", 2, 6.5), Used("resin", 0.5, 20)]).total
    23.0
    >>> cost_of([Used("cloth", 2, 6.5), Used("resin", 0.5, None)]).unpriced
    ('resin',)
    """
    used = [item for item in used if item.amount > 0]
    lines: dict[str, float] = {}
    for item in used:
        if item.price is not None:
            lines[item.name] = lines.get(item.name, 0) + item.amount * item.price
    return Cost(lines, tuple(dict.fromkeys(item.name for item in used if item.price is None)))
