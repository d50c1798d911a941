"""How big a pot is: the largest that can be spread inside its life, under its caps and over its floor."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from fractions import Fraction
from math import ceil, exp, floor, hypot, log, sqrt
from statistics import NormalDist

from scipy.optimize import brentq

from layup.architecture import Architecture
from layup.chemistry.gel_law import SIGMA_GEL
from layup.errors import known
from layup.materials import Fabric
from layup.pots.work import Work, laid_of, rate_of

# Standard deviations until the shop has logged its own (memory).
SIGMA_TEMPERATURE_C = 1.5
SIGMA_SPREADING = 0.20
Z_FOR_1_IN_50 = 2.054
MOST_WORKING_SHARE = 0.80  # common practice: past it the resin no longer wets fibre well
MOST_SPREADING_MIN = 20.0
MOST_VESSEL_FILL = 0.70
TRAY_M2 = 0.06  # memory
CUP_LOSS_SHARE = 0.10  # memory
CUP_LOSS_LEAST_G = 15.0  # memory
LARGEST_LEARNER_POT_G = {"epoxy": 250.0, "polyester": 500.0, "vinyl ester": 500.0, "polyurethane": 500.0}
TWO_PART_DOSE_ERROR = 0.02
CATALYST_DOSE_ERROR = 0.10
MOST_FOR_A_STRIP = 0.15
LEAST_POT_G = 30.0  # of a smaller pot, half stays in the cup
MARK_HIT_TO_ML, MARK_HIT_TO_SHARE = 1.5, 0.05  # memory
_MOST_MARKS, _AS_GOOD_AS_WHOLE = 6, 0.003
_HEAVIEST_G = 100_000.0
# Of the smallest pot that can be measured, so many minutes must be left to work from: less is a pot lost (memory).
LEAST_WORKED_MIN = 3.0
_SHORTEST_MIN = 0.05
_STEEP_CAP = "what stays on a wall or overhead"
_SPREADING_CAP, _OPEN_CAP = f"{MOST_SPREADING_MIN:.0f} min of spreading", "open for the next ply"

_CARBON_CLOTH_SPREADING = (6, 200)  # memory
COAT_MIN_PER_M2 = 2.0


def spreading_min_per_m2(fabric: Fabric) -> float:
    """Minutes a square metre of a ply takes one pair of hands, in proportion to its areal weight (memory).

    >>> from layup.library import generic
    >>> spreading_min_per_m2(generic().fabrics[1])
    6.0
    """
    carbon = fabric.fibre == "carbon" and fabric.architecture is Architecture.WOVEN_CLOTH
    minutes, at_gsm = _CARBON_CLOTH_SPREADING if carbon else fabric.build.spreading
    return minutes * fabric.areal_weight_gsm / at_gsm


@dataclass(frozen=True)
class PotLife:
    """How long a pot of a mass lasts in its cup, `life_min(mass_g, temperature_c)`, and how sure that is.

    `poured_min` is how long it would last in the vessel it is spread from, where that is not the cup. Its life ends at
    gel; `workable(mass_g)` is the share of it for which it can be worked. `by_hand` is a working share that the builder
    has set.
    """

    life_min: Callable[[float, float], float]
    temperature_c: float
    contact_min: float
    sigma_gel: Callable[[float], float] = field(default=lambda mass_g: SIGMA_GEL)
    poured_min: Callable[[float, float], float] | None = None
    by_hand: float | None = None
    workable: Callable[[float], float] = field(default=lambda mass_g: 1.0)

    def cup_min(self, mass_g: float) -> float:
        """Its life if it stays in its cup."""
        return self.life_min(mass_g, self.temperature_c)

    def vessel_min(self, mass_g: float) -> float:
        """Its life if it were in the vessel it is spread from all along."""
        return (self.poured_min or self.life_min)(mass_g, self.temperature_c)

    def minutes_at(self, share: float, mass_g: float) -> float:
        """When it has spent a share of its life: in the cup while it is mixed, then in the vessel it is spread from."""
        cup = self.cup_min(mass_g)
        if self.poured_min is None or share * cup <= self.contact_min:
            return share * cup
        return self.contact_min + (share - self.contact_min / cup) * self.vessel_min(mass_g)

    def sensitivity_per_c(self, mass_g: float) -> float:
        """d ln(life)/dT, per °C, taken from the life itself."""
        warm, cool = self.life_min(mass_g, self.temperature_c + 0.5), self.life_min(mass_g, self.temperature_c - 0.5)
        return log(warm / cool)

    def sigma(self, mass_g: float, spread_g_per_min: float) -> float:
        """Standard deviation of ln(life used) for a pot spread at a rate."""
        return hypot(*self.sigmas(mass_g, spread_g_per_min))

    def sigmas(self, mass_g: float, spread_g_per_min: float) -> tuple[float, float]:
        """The same in two: what a day's pots have in common, gel and thermometer, and what is each pot's own, its pace."""
        spreading = mass_g / spread_g_per_min
        own = spreading / (self.contact_min + spreading) * SIGMA_SPREADING
        return sqrt(self.sigma_gel(mass_g) ** 2 + (SIGMA_TEMPERATURE_C * self.sensitivity_per_c(mass_g)) ** 2), own

    def working_share(self, mass_g: float, spread_g_per_min: float) -> float:
        """The share of a pot's life that may be planned on: min(0.80, v exp(−z σ)), or as set by hand.

        v is the share for which it can be worked: one margin, against its end.
        """
        if self.by_hand is not None:
            return self.by_hand
        margin = exp(-Z_FOR_1_IN_50 * self.sigma(mass_g, spread_g_per_min))
        return min(MOST_WORKING_SHARE, self.workable(mass_g) * margin)

    def used_share(self, mass_g: float, spread_g_per_min: float) -> float:
        """The share of its life a pot has spent when its last gram is on the work."""
        spread = mass_g / spread_g_per_min
        if self.poured_min is None:
            return (self.contact_min + spread) / self.cup_min(mass_g)
        return self.contact_min / self.cup_min(mass_g) + spread / self.vessel_min(mass_g)

    def chance_lost(self, mass_g: float, spread_g_per_min: float) -> float:
        """The chance, 0 to 1, that the pot can no longer be worked before it is used up."""
        margin = log(self.workable(mass_g) / self.used_share(mass_g, spread_g_per_min))
        return 1 - NormalDist().cdf(margin / self.sigma(mass_g, spread_g_per_min))


@dataclass(frozen=True)
class PotLimit:
    """One reason a pot can be no larger: its words and the mass, g."""

    name: str
    mass_g: float


@dataclass(frozen=True)
class PotSize:
    """The largest pot for a piece of work. `largest_g` is None where no pot can be used inside its life.

    Where the smallest that can be measured is more than can be spread in time, it is mixed, `spread_g` of it are spread
    and the rest is left.
    """

    largest_g: float | None
    limited_by: str
    floor_g: float
    limits: tuple[PotLimit, ...]
    spread_g: float | None = None

    @property
    def most_laid_g(self) -> float:
        """The most that one pot lays, when there is one."""
        largest_g = known(self.largest_g)
        spread_g = largest_g if self.spread_g is None else self.spread_g
        return min(spread_g * (1 - CUP_LOSS_SHARE), largest_g - CUP_LOSS_LEAST_G)

    def count_for(self, laid_g: float) -> int:
        """How many such pots lay so much."""
        return max(1, ceil(round(laid_g / self.most_laid_g, 9)))


def smaller(size: PotSize, share: float) -> PotSize:
    """A size for work that takes only a share of what a pot could be, never under what the tool measures.

    >>> smaller(PotSize(900, "pot life", 81, ()), 0.5).largest_g
    450.0
    """
    if share == 1 or size.largest_g is None or size.spread_g is not None:
        return size
    less = max(share * size.largest_g, size.floor_g)
    return replace(size, largest_g=less, limited_by=_STEEP_CAP) if less < size.largest_g else size


def largest_by_life_g(life: PotLife, spread_g_per_min: float) -> float | None:
    """The largest pot, g, with contact/life + (m/s)/life ≤ w; None where even the smallest is too late.

    The left side rises with m and w falls, so there is one root. Margin: 1 pot in 50 may gel before it is used.

    >>> polyester = PotLife(lambda mass_g, temperature_c: 30 * 2 ** ((20 - temperature_c) / 10), 20, 3)
    >>> round(largest_by_life_g(polyester, 175) / 100)
    26
    """

    def overrun(mass_g: float) -> float:
        return life.used_share(mass_g, spread_g_per_min) - life.working_share(mass_g, spread_g_per_min)

    if overrun(1.0) >= 0:
        return None
    if overrun(_HEAVIEST_G) <= 0:
        return _HEAVIEST_G
    return brentq(overrun, 1.0, _HEAVIEST_G, xtol=0.01)


def size_pot(
    life: PotLife,
    spread_g_per_min: float,
    *,
    vessel_ml: float,
    density_g_per_ml: float,
    largest_allowed_g: float,
    open_min: float,
    floor_g: float,
    set_by_hand_g: float | None = None,
    most_min: float = MOST_SPREADING_MIN,
) -> PotSize:
    """The largest pot under every cap, and which cap bites; no pot where that is under the floor.

    It is spread for `most_min` at most. `open_min` is how long the first of it stays open for the next ply; `floor_g` the least the tool can measure.
    """
    floor_g = max(floor_g, LEAST_POT_G)
    by_life = largest_by_life_g(life, spread_g_per_min)
    caps = [
        PotLimit(f"cup {MOST_VESSEL_FILL:.0%} full", MOST_VESSEL_FILL * vessel_ml * density_g_per_ml),
        PotLimit("largest pot allowed", largest_allowed_g),
        PotLimit(_SPREADING_CAP, most_min * spread_g_per_min),
        PotLimit(_OPEN_CAP, open_min * spread_g_per_min),
    ]
    if set_by_hand_g is not None:
        caps.append(PotLimit("your own limit", set_by_hand_g))
    limits = tuple(caps) if by_life is None else (PotLimit("pot life", by_life), *caps)
    least = min(limits, key=lambda limit: limit.mass_g)
    if by_life is not None and least.mass_g >= floor_g:
        return PotSize(least.mass_g, least.name, floor_g, limits)
    name = "pot life" if by_life is None else least.name
    holds = min(limit.mass_g for limit in limits if limit.name not in ("pot life", _SPREADING_CAP, _OPEN_CAP))
    minutes = min(most_min, open_min, _longest_spread_min(life, floor_g))
    if holds < floor_g or minutes < LEAST_WORKED_MIN:
        words = name if by_life is None else f"{name}, under what the tool can measure"
        return PotSize(None, words, floor_g, limits)
    return PotSize(floor_g, f"{name}; it is the least the tool measures", floor_g, limits, minutes * spread_g_per_min)


def _longest_spread_min(life: PotLife, mass_g: float) -> float:
    """How long a pot of a mass may be spread for, min, at whatever pace; nought where it is too late once it is mixed."""

    def overrun(minutes: float) -> float:
        return life.used_share(mass_g, mass_g / minutes) - life.working_share(mass_g, mass_g / minutes)

    if overrun(_SHORTEST_MIN) >= 0:
        return 0.0
    return 24 * 60.0 if overrun(24 * 60) <= 0 else brentq(overrun, _SHORTEST_MIN, 24 * 60, xtol=0.01)


def two_part_floor_g(tool_step: float, b_per_a: float) -> float:
    """Smallest pot whose part B is measured to 2 %, in the tool's unit: half a step against B's share.

    >>> round(two_part_floor_g(1.0, 0.45))
    81
    """
    return tool_step / 2 / TWO_PART_DOSE_ERROR * (1 + b_per_a) / b_per_a


def marked_floor_ml(step_ml: float, b_per_a: float) -> float:
    """Smallest pot measured in one marked cup whose part B is right to 2 %, ml.

    Of a ratio in whole marks nothing is rounded, and a mark is hit to 1.5 ml, or to a twentieth of a wide one (memory);
    of any other ratio B is rounded, by half a mark at most.

    >>> round(marked_floor_ml(10, 0.5)), round(marked_floor_ml(10, 0.45)), round(marked_floor_ml(2, 0.5))
    (225, 806, 150)
    """
    off_ml = step_ml / 2
    if marks_of_ratio(b_per_a) > 1:
        off_ml = min(off_ml, max(MARK_HIT_TO_ML, MARK_HIT_TO_SHARE * step_ml))
    return two_part_floor_g(2 * off_ml, b_per_a)


def marks_of_ratio(b_per_a: float) -> int:
    """How many marks of one cup hold both parts in their ratio, in whole marks of each; 1 where it takes too many.

    >>> marks_of_ratio(0.5), marks_of_ratio(0.2), marks_of_ratio(2 / 3), marks_of_ratio(0.37)
    (3, 6, 5, 1)
    """
    whole = Fraction(b_per_a).limit_denominator(_MOST_MARKS)
    exact = whole > 0 and abs(whole / b_per_a - 1) < _AS_GOOD_AS_WHOLE
    return whole.numerator + whole.denominator if exact and whole.numerator <= _MOST_MARKS else 1


def catalysed_floor_g(dose_step_g: float, catalyst_pct: float) -> float:
    """Smallest amount of resin, g, whose catalyst is measured to 10 % of the dose.

    >>> round(catalysed_floor_g(1.0, 1.0)), round(catalysed_floor_g(0.2 * 1.12, 1.0))
    (500, 112)
    """
    return dose_step_g / 2 / CATALYST_DOSE_ERROR / (catalyst_pct / 100)


def mixed_for_g(laid_g: float) -> float:
    """What to mix so that `laid_g` reaches the work: 10 % stays in cup, brush and roller, at least 15 g (memory).

    >>> mixed_for_g(90), mixed_for_g(900)
    (105.0, 1000.0)
    """
    return max(laid_g / (1 - CUP_LOSS_SHARE), laid_g + CUP_LOSS_LEAST_G)


@dataclass(frozen=True)
class PotSteps:
    """What pots are rounded to: whole marks of the tool, `mark_g` of pot each, and as round a number of its own unit,
    `unit_g`, as can be read at a glance.

    >>> PotSteps(1.0).at(612), PotSteps(1.4175, unit_g=28.35).at(612) / 28.35
    (10.0, 0.5)
    """

    mark_g: float
    unit_g: float = 1.0

    def at(self, mass_g: float) -> float:
        """The step for a pot of about such a mass, g."""
        large, middle, small = (10.0, 5.0, 1.0) if self.unit_g == 1.0 else (0.5, 0.25, 0.05)
        wanted = self.unit_g * (large if mass_g >= 200 else middle if mass_g >= 50 else small)
        return max(1, ceil(round(wanted / self.mark_g, 3))) * self.mark_g


def readable_g(mass_g: float, largest_g: float, steps: PotSteps) -> float:
    """A mass rounded up to what a person can read off the tool, or down where up would pass the largest pot.

    >>> readable_g(612, 900, PotSteps(1.0)), readable_g(612, 615, PotSteps(1.0))
    (620.0, 615.0)
    """
    step = steps.at(mass_g)
    up = ceil(round(mass_g / step, 6)) * step
    return float(up if up <= largest_g else floor(round(largest_g / steps.mark_g, 6)) * steps.mark_g)


@dataclass(frozen=True)
class Stuck:
    """Works for which no pot fits, and why."""

    works: tuple[Work, ...]
    size: PotSize
    spread_g_per_min: float


@dataclass(frozen=True)
class Batch:
    """One pot to be mixed: what it weighs, lays, and leaves over, g, and what its size was limited by."""

    mass_g: float
    laid_g: float
    surplus_g: float
    limited_by: str


def works_for_one_pot(works: Sequence[Work], at: int, size_for: Callable[[float], PotSize]) -> tuple[Work, ...]:
    """The works that the next pot serves: the one at `at`, and those after it as long as one pot still lays them all.

    It ends before a work that waits for the layer beneath, that is of another resin, or that takes a pot alone as paste
    does. `size_for` gives the largest pot at a pace of spreading, g/min.
    """
    first, end = works[at], at + 1
    while (
        end < len(works)
        and works[end].use_id == first.use_id
        and not (works[end].waits or first.handling.alone or works[end].handling.alone)
    ):
        wider = works[at : end + 1]
        size = size_for(rate_of(wider))
        if size.largest_g is None or size.count_for(laid_of(wider)) > 1:
            break
        end += 1
    return tuple(works[at:end])


def next_batch(left_g: float, size: PotSize, steps: PotSteps, strip_g: float | None = None) -> Batch:
    """The next of the even pots that lay what is left: an equal share of it, rounded so that it can be read.

    Where a ply is laid in strips of `strip_g` it ends with a strip, if that costs less than 15 % more pots.

    >>> pot = next_batch(3000, PotSize(1000, "pot life", 81, ()), PotSteps(1.0))
    >>> pot.mass_g, pot.laid_g
    (840.0, 750.0)
    """
    count = size.count_for(left_g)
    while mixed_for_g(left_g / count) > (mass := _rounded(left_g / count, size, steps)):
        count += 1
    laid = left_g / count
    if strip_g:
        whole = _whole_strips_g(left_g, count, size, strip_g)
        if whole and mixed_for_g(whole) <= (rounded := _rounded(whole, size, steps)):
            laid, mass = whole, rounded
    return Batch(mass, laid, mass - mixed_for_g(laid), size.limited_by)


def _whole_strips_g(left_g: float, count: int, size: PotSize, strip_g: float) -> float | None:
    """What the next pot lays, g, so that it ends where a strip ends; None where that costs too many more pots.

    So many whole strips as the largest pot holds give the least number of pots; the strips are then shared evenly among
    that number, the first of them less what of it is laid already. `count` is the number without regard to strips.
    """
    left, held, most_g = ceil(round(left_g / strip_g, 6)), 0, known(size.largest_g)
    begun_g = left * strip_g - left_g
    while mixed_for_g((held + 1) * strip_g) <= most_g and held < left:
        held += 1
    if not held or ceil(left / held) >= (1 + MOST_FOR_A_STRIP) * count:
        return None
    return ceil(left / ceil(left / held)) * strip_g - begun_g


def _rounded(laid_g: float, size: PotSize, steps: PotSteps) -> float:
    return readable_g(max(mixed_for_g(laid_g), size.floor_g), known(size.largest_g), steps)
