"""What ends a time that a label states, and at what share of the gel that is."""

from layup.materials import Ends, PotLifeEnds

# The share of its gel at which a stated time ends (memory). Doubled viscosity comes about half way.
GEL_FOR_END: dict[Ends, float] = {
    "gel": 1.0,
    "pot life in the cup": 1.0,
    "workable in the cup": 0.8,
    "working time as a film": 0.8,
    "viscosity doubled": 0.5,
}
IN_THE_CUP: tuple[Ends, ...] = ("gel", "pot life in the cup", "workable in the cup", "viscosity doubled")
_POT_LIFE_AS: dict[PotLifeEnds, Ends] = {
    "gel": "gel",
    "workable": "workable in the cup",
    "viscosity doubled": "viscosity doubled",
}


def gel_of(minutes: float, ends: Ends) -> float:
    """The gel, min, that a stated time speaks of.

    >>> gel_of(32, "workable in the cup")
    40.0
    """
    return minutes / GEL_FOR_END[ends]


def gel_of_pot_life(minutes: float, ends: PotLifeEnds) -> float:
    """The gel, min, that a sheet's pot life speaks of, by what the sheet says ends it."""
    return gel_of(minutes, _POT_LIFE_AS[ends])
