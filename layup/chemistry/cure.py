"""The separate clocks of a cure. There is no one cure time; a stated time wins over each of these."""

from dataclasses import dataclass
from math import inf

from layup.chemistry.gel import stated_pot_life_at_min
from layup.chemistry.gel_law import CATALYSED_ACTIVATION_KJ_PER_MOL, EPOXY_ACTIVATION_KJ_PER_MOL, arrhenius_factor
from layup.chemistry.one_part import cover_by_min, hard_min, tack_min
from layup.heat.pot_heat import HeatOf, full_heat, stated_pot
from layup.materials import Catalyst, Ends, Hardener, OnePart, StatedTime

# memory: two-part resin spread thin, in multiples of what the stated pot can be worked for, carried to the room's
# temperature; a first coat is tacky in about 75 min at 21 to 24 °C with the hardener made for it (common practice)
READY_FOR_NEXT_PLY = 4.5
KNIFE_TRIM = 9
WINDOW_CLOSES = 14
SANDABLE = 36
CLAMPS_OUT = 45
MAY_BE_LOADED = 150
# memory: catalysed resin, its tack and the trim in multiples of gel, the rest in minutes at 20 °C, carried by the law of its gel
CATALYSED_TACKS, CATALYSED_KNIFE_TRIM = 1.5, 2
CATALYSED_AT_C = 20.0
CATALYSED_WINDOW_MIN = 24 * 60
CATALYSED_SANDABLE_MIN = 12 * 60
CATALYSED_STRIP_MIN = 24 * 60
CATALYSED_LOAD_MIN = 48 * 60
# memory: either cures through in a week of ordinary rooms
FULL_CURE_MIN, FULL_CURE_C = 7 * 24 * 60, 20.0
_NOT_OVER = 1.5
# memory: how many times as long a state may take as is told of it; under its comfort a resin slows more than by any law
MAY_TAKE, MAY_TAKE_IN_THE_COLD = 1.25, 2.0


@dataclass(frozen=True)
class CureClocks:
    """Minutes from the mixing of a thin layer to each state. Source: memory, or what the label states of a state.

    A ply goes on from `next_ply_from_min`; what must find it tacky, a coat above all, from `tack_min`. Any of them may take
    `may_take` times as long. It has gelled, so that nothing more can be pressed out of it, at `film_gel_min`.
    """

    next_ply_from_min: float
    tack_min: float
    knife_trim_min: float
    window_closes_min: float
    sandable_min: float
    clamps_out_min: float
    load_min: float
    full_cure_min: float
    may_take: float = MAY_TAKE
    film_gel_min: float = inf


def may_take(temperature_c: float, comfort_minimum_c: float) -> float:
    """How many times as long as told the states of a cure may take in a room (memory).

    >>> may_take(20, 15), may_take(8, 15)
    (1.25, 2.0)
    """
    return MAY_TAKE if temperature_c >= comfort_minimum_c else MAY_TAKE_IN_THE_COLD


def two_part_clocks(hardener: Hardener, temperature_c: float, heat_of: HeatOf = full_heat) -> CureClocks:
    """Clocks of a two-part resin spread thin at a room temperature, minutes: the label's own, or multiples (memory).

    >>> from layup.library import generic
    >>> round(two_part_clocks(generic().resins[0].hardeners[1], 25).next_ply_from_min, 1)
    58.5
    """
    life = stated_pot_life_at_min(hardener, temperature_c, heat_of)

    def clock(ends: Ends | None, usual_min: float) -> float:
        """What the label states of a state, carried here, or the usual."""
        stated = _stated(hardener.stated_times, ends, temperature_c, EPOXY_ACTIVATION_KJ_PER_MOL)
        return usual_min if stated is None else stated

    week = FULL_CURE_MIN * arrhenius_factor(temperature_c, FULL_CURE_C, EPOXY_ACTIVATION_KJ_PER_MOL)
    load = clock("into service", MAY_BE_LOADED * life)
    tacks = clock("tack free", READY_FOR_NEXT_PLY * life)
    return CureClocks(
        next_ply_from_min=tacks,
        tack_min=tacks,
        knife_trim_min=KNIFE_TRIM * life,
        window_closes_min=clock("next coat by", WINDOW_CLOSES * life),
        sandable_min=clock("sandable", SANDABLE * life),
        clamps_out_min=CLAMPS_OUT * life,
        load_min=load,
        full_cure_min=clock("full cure", max(week, _NOT_OVER * load)),
        film_gel_min=min(tacks, _film_gel_min(hardener, temperature_c, heat_of)),
    )


def _film_gel_min(hardener: Hardener, temperature_c: float, heat_of: HeatOf) -> float:
    """When a thin layer has gelled by the heat model, min; infinite where it has nothing to say."""
    cure = heat_of(stated_pot(hardener)).cure
    return inf if cure is None else cure.isothermal_gel_s(temperature_c) / 60


def catalysed_clocks(
    gel_min: float, temperature_c: float = FULL_CURE_C, catalyst: Catalyst | None = None
) -> CureClocks:
    """Clocks of a catalysed resin from its gel time in a room, minutes (memory): the next ply goes on at once, but for one
    whose label states when it is tack free, such as a gel coat. A coat waits until it has gelled and is tacky.

    Like its gel, each takes half as long in a room 10 °C warmer.

    >>> clocks = catalysed_clocks(30)
    >>> clocks.next_ply_from_min, clocks.tack_min, clocks.knife_trim_min, round(catalysed_clocks(15, 30).load_min / 60)
    (0.0, 45.0, 60, 24)
    """
    times = catalyst.stated_times if catalyst else ()
    warmth = arrhenius_factor(temperature_c, CATALYSED_AT_C, CATALYSED_ACTIVATION_KJ_PER_MOL)

    def clock(ends: Ends, usual_min: float) -> float:
        """What the label states of a state, or the usual, carried here."""
        stated = _stated(times, ends, temperature_c, CATALYSED_ACTIVATION_KJ_PER_MOL)
        return usual_min * warmth if stated is None else stated

    load = clock("into service", CATALYSED_LOAD_MIN)
    week = FULL_CURE_MIN * arrhenius_factor(temperature_c, FULL_CURE_C, CATALYSED_ACTIVATION_KJ_PER_MOL)
    return CureClocks(
        next_ply_from_min=clock("tack free", 0),
        tack_min=_stated(times, "tack free", temperature_c, CATALYSED_ACTIVATION_KJ_PER_MOL)
        or CATALYSED_TACKS * gel_min,
        knife_trim_min=CATALYSED_KNIFE_TRIM * gel_min,
        window_closes_min=clock("next coat by", CATALYSED_WINDOW_MIN),
        sandable_min=clock("sandable", CATALYSED_SANDABLE_MIN),
        clamps_out_min=CATALYSED_STRIP_MIN * warmth,
        load_min=load,
        full_cure_min=clock("full cure", max(week, _NOT_OVER * load)),
        film_gel_min=gel_min,
    )


def one_part_clocks(sets: OnePart, temperature_c: float) -> CureClocks:
    """Clocks of what sets by the moisture of the air, minutes: its sheet's, and no trim or clamp that depends on it.

    >>> from layup.library import generic
    >>> primer = next(resin.one_part for resin in generic().resins if resin.one_part)
    >>> clocks = one_part_clocks(primer, 20)
    >>> clocks.tack_min, clocks.window_closes_min
    (75.0, 240.0)
    """
    hard = hard_min(sets, temperature_c)
    tacks = tack_min(sets, temperature_c)
    return CureClocks(
        next_ply_from_min=tacks,
        tack_min=tacks,
        knife_trim_min=hard,
        window_closes_min=cover_by_min(sets, temperature_c),
        sandable_min=hard,
        clamps_out_min=hard,
        load_min=hard,
        film_gel_min=tacks,
        full_cure_min=max(
            hard, FULL_CURE_MIN * arrhenius_factor(temperature_c, FULL_CURE_C, CATALYSED_ACTIVATION_KJ_PER_MOL)
        ),
    )


def _stated(
    times: tuple[StatedTime, ...], ends: Ends | None, temperature_c: float, ea_kj_per_mol: float
) -> float | None:
    """The label's time of a state nearest in temperature, carried by the law of a gel; None where it states none."""
    of_state = [time for time in times if time.ends == ends]
    if not of_state:
        return None
    nearest = min(of_state, key=lambda time: abs(time.temperature_c - temperature_c))
    return nearest.minutes * arrhenius_factor(temperature_c, nearest.temperature_c, ea_kj_per_mol)
