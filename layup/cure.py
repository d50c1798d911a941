"""The separate clocks of a cure. There is no one cure time; a stated time wins over each of these."""

from dataclasses import dataclass

from layup.gel import stated_pot_life_at_min
from layup.materials import Hardener
from layup.pot_heat import HeatOf, full_heat

# memory: two-part resin spread thin, in multiples of the stated pot life carried to the room's temperature
READY_FOR_NEXT_PLY = 3
KNIFE_TRIM = 6
WINDOW_CLOSES = 9
SANDABLE = 24
CLAMPS_OUT = 30
MAY_BE_LOADED = 100
# memory: catalysed resin, the trim in multiples of gel, the rest in minutes by the clock
CATALYSED_KNIFE_TRIM = 2
CATALYSED_WINDOW_MIN = 24 * 60
CATALYSED_SANDABLE_MIN = 12 * 60
CATALYSED_LOAD_MIN = 48 * 60


@dataclass(frozen=True)
class CureClocks:
    """Minutes from the mixing of a thin layer to each state. Source: memory."""

    next_ply_from_min: float
    knife_trim_min: float
    window_closes_min: float
    sandable_min: float
    load_min: float


def two_part_clocks(hardener: Hardener, temperature_c: float, heat_of: HeatOf = full_heat) -> CureClocks:
    """Clocks of a two-part resin spread thin at a room temperature, minutes (memory).

    >>> from layup.library import generic
    >>> two_part_clocks(generic().resins[0].hardeners[1], 25).next_ply_from_min
    60.0
    """
    life = stated_pot_life_at_min(hardener, temperature_c, heat_of)
    return CureClocks(
        next_ply_from_min=READY_FOR_NEXT_PLY * life,
        knife_trim_min=KNIFE_TRIM * life,
        window_closes_min=WINDOW_CLOSES * life,
        sandable_min=SANDABLE * life,
        load_min=MAY_BE_LOADED * life,
    )


def catalysed_clocks(gel_min: float) -> CureClocks:
    """Clocks of a catalysed resin from its gel time, minutes (memory): the next ply goes on at once.

    >>> catalysed_clocks(30).knife_trim_min
    60
    """
    return CureClocks(
        0, CATALYSED_KNIFE_TRIM * gel_min, CATALYSED_WINDOW_MIN, CATALYSED_SANDABLE_MIN, CATALYSED_LOAD_MIN
    )
