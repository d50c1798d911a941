"""How what is laid is divided into bays: so that it is done soonest, with what missed windows and seams cost in it."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import inf

from layup.day.planner import MOST_POTS, Planner
from layup.day.schedule import Division, Layer, Schedule
from layup.day.shop_clock import ShopClock
from layup.day.windows import dried_layers, is_missed, laid_on_set, laid_on_tacky, late_layers
from layup.pots.work import Owner

# What it is worth to avoid a missed window, a ply on glass that has set, and one on tack, min a m² (memory): the bond on a
# sanded ply is the weaker, splinters keep a ply off, and tack wets none from beneath. A seam is lapped and looked after.
MISSED_MIN_PER_M2, ON_SET_MIN_PER_M2, ON_TACK_MIN_PER_M2, SEAM_MIN = 30.0, 10.0, 2.0, 5.0
# Once a division keeps every window so many finer ones that end no earlier are tried.
_TRIED_ON = 3
_MOST_PASSES = 3

MakePlanner = Callable[..., Planner]


def as_wished(owners: Sequence[Owner]) -> dict[str, Division]:
    """The divisions that the builder asks for."""
    return {owner.id: Division(owner.bays.wished) for owner in owners if owner.bays and owner.bays.wished}


def divided(owners: Sequence[Owner], planner: MakePlanner, clock: ShopClock) -> Planner:
    """The planner of all owners, each as it is divided.

    All is laid whole first. What then misses a window, takes longer than a day or is left over night in its middle is
    laid alone, from when it would be begun, in more and more bays, until every window is kept; then all is laid again.
    """
    found = as_wished(owners)
    whole = planner(owners, found)
    by_id = {owner.id: owner for owner in owners}
    asked = {
        owner.id for owner in owners if owner.bays and (_staged(owner) or not owner.bays.wished) and _counts(owner)
    }
    for _ in range(_MOST_PASSES):
        if not asked:
            break
        schedule = whole.run()
        troubled = {each for each in _troubled(schedule) if each in asked}
        if not troubled:
            break
        for each in troubled:
            found[each] = _best(by_id[each], planner, clock, _begun(schedule, each))
        asked -= troubled
        whole = planner(owners, found)
    return whole


def _best(owner: Owner, planner: MakePlanner, clock: ShopClock, from_min: float) -> Division:
    best, least = Division(), _Cost(MOST_POTS, inf, False)
    for ways in (_candidates(owner), _with_coats(owner)):
        kept, tried_on = False, 0
        for division in ways:
            schedule = planner([owner], {owner.id: division}, from_min).run()
            cost = _cost(schedule, clock, max(0, division.bays - 1) * owner.copies)
            kept = kept or cost.kept
            if (cost.cannot, cost.minutes) < (least.cannot, least.minutes):
                best, least, tried_on = division, cost, 0
            elif kept:
                tried_on += 1
            if tried_on == _TRIED_ON:
                break
    return best


def _candidates(owner: Owner) -> Iterator[Division]:
    if owner.bays and owner.bays.wished:
        yield Division(owner.bays.wished)
        return
    yield Division()
    if owner.copies > 1 and not owner.one_run:
        yield Division(1)
    for count in _counts(owner):
        yield Division(count)


def _counts(owner: Owner) -> tuple[int, ...]:
    """Into how many bays it may be divided: those the builder wished, where he did."""
    if owner.bays is None:
        return ()
    return (owner.bays.wished,) if owner.bays.wished > 1 else owner.bays.counts


def _staged(owner: Owner) -> bool:
    """Whether it begins with a coat that is opened area by area as a matter of course: a gel coat is laid in one go."""
    return owner.works[0].coat in ("primer", "seal")


def _with_coats(owner: Owner) -> Iterator[Division]:
    """The same with what is coated first coated bay by bay: for a coat that closes before all of it can be covered."""
    if owner.works[0].coat and owner.works[0].coat != "wet-out":
        for count in _counts(owner):
            yield Division(count, coats_too=True)


@dataclass(frozen=True)
class _Cost:
    """What a division costs: works that cannot be done at all; then, in minutes of the shop's day, the day itself and what
    is lost by windows missed, by plies on what has set or gone tacky, and by seams. `kept` says that no window is missed and
    no ply lies on what has set.
    """

    cannot: int
    minutes: float
    kept: bool


def _cost(schedule: Schedule, clock: ShopClock, seams: int) -> _Cost:
    end = max((layer.to_min for layer in schedule.layers), default=0.0)
    cannot = len(schedule.stuck) + len(schedule.too_long) + schedule.too_many
    missed_m2 = sum(layer.area_m2 for layer in schedule.layers if is_missed(layer))
    missed_m2 += sum(late.missed_m2 for of in (late_layers, dried_layers) for late in of(schedule))
    set_m2 = sum(late.missed_m2 for late in laid_on_set(schedule))
    tacky_m2 = sum(late.missed_m2 for late in laid_on_tacky(schedule))
    lost = MISSED_MIN_PER_M2 * missed_m2 + ON_SET_MIN_PER_M2 * set_m2 + ON_TACK_MIN_PER_M2 * tacky_m2 + SEAM_MIN * seams
    return _Cost(cannot, _shop_min(clock, end) + lost, not (cannot or missed_m2 > 0.05 or set_m2 > 0.05))


def _shop_min(clock: ShopClock, minute: float) -> float:
    """How much of the shop's hours is gone by a minute, counted from the opening of the first day."""
    days = (clock.local(minute).date() - clock.local(0).date()).days
    return days * clock.day_min + max(0.0, min(minute - clock.began(minute), clock.day_min))


def _troubled(schedule: Schedule) -> set[str]:
    """The owners some of whose windows are missed, or that no day holds."""
    owners = {lane.id: lane.owner.id for lane in schedule.lanes}
    missed: list[Layer] = [layer for layer in schedule.layers if is_missed(layer)]
    missed += [late.layer for of in (late_layers, dried_layers, laid_on_tacky) for late in of(schedule)]
    return {owners[layer.lane] for layer in missed} | {lane.owner.id for lane, _, _ in schedule.too_long}


def _begun(schedule: Schedule, owner_id: str) -> float:
    """When the first pot of an owner would be weighed."""
    return min((pot.touch_min for pot in schedule.pots if pot.owner.id == owner_id), default=0.0)
