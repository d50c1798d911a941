"""What ends a time that a label states, and how far a resin has cured by then."""

from layup.heat.cure_kinetics import DOUBLED_AT, GEL_CONVERSION, WORKABLE_UNTIL
from layup.materials import Ends, PotLifeEnds

# The share cured at which each stated time of a pot ends. A "pot life" is mostly what can be worked (memory).
CURED_AT: dict[Ends, float] = {
    "gel": GEL_CONVERSION,
    "pot life in the cup": WORKABLE_UNTIL,
    "workable in the cup": WORKABLE_UNTIL,
    "viscosity doubled": DOUBLED_AT,
}
IN_THE_CUP: tuple[Ends, ...] = tuple(CURED_AT)
POT_LIFE_AS: dict[PotLifeEnds, Ends] = {
    "gel": "gel",
    "workable": "workable in the cup",
    "viscosity doubled": "viscosity doubled",
}
# A working time as a film, and any of a catalysed pot that is no gel, as a share of its gel (memory). A catalysed pot
# stays thin until it gels.
FILM_SHARE = 0.8
CATALYSED_SHARE: dict[Ends, float] = {
    "gel": 1.0,
    "pot life in the cup": 1.0,
    "workable in the cup": FILM_SHARE,
    "viscosity doubled": FILM_SHARE,
}
