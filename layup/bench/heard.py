"""What the surface of a run's pots, as it was read, says of how long they still have."""

from collections.abc import Iterable

from layup.bench.card import CardPot
from layup.bench.events import Event, Temperature
from layup.bench.now import BenchState, PotNow
from layup.bench.pot_now import made_g
from layup.heat.conduction import Body, cup
from layup.heat.cure_kinetics import TwoPartCure
from layup.heat.listening import Level, Listening, believed
from layup.heat.pot_heat import HeatOf, full_heat, stands_as_g, stated_pot
from layup.job import JobSpec
from layup.record import Record

# What is expected of a surface is told at so many places of its life.
_SHOWN = 0.05


class SurfaceRead(Record):
    """The surface of a pot as it was read, °C, at a moment, min."""

    at_min: float
    surface_c: float


class SurfaceExpected(Record):
    """What a pot's label lets one expect of its surface at a moment, min: the low, the middle and the high, °C."""

    at_min: float
    low_c: float
    middle_c: float
    high_c: float


class PotHeard(Record):
    """A live pot that was listened to. Of `readings` of its surface so many were `believed`; moments count from the run's issue,
    min. It gels at `gels_min`, between the low and the high in nine of ten; it lives `life` times as long as its label, the
    same way. It is to be used up by `use_by_min` and gels from `from_min` on by its label or its surface, whichever is sooner:
    a mix that seems slow is given no longer. It was read last at `read_min`; its `surface` as it was read, and what its label
    lets one expect of it, stand beside.
    """

    number: int
    touched_min: float
    readings: int
    believed: int
    gels_min: float
    gels_low_min: float
    gels_high_min: float
    use_by_min: float
    from_min: float
    life: float
    life_low: float
    life_high: float
    fast: bool
    level: Level
    read_min: float
    surface: tuple[SurfaceRead, ...] = ()
    expected: tuple[SurfaceExpected, ...] = ()


def heard_of(
    job: JobSpec,
    state: BenchState,
    events: Iterable[Event],
    now_min: float,
    heat_of: HeatOf = full_heat,
    pots: Iterable[PotNow] | None = None,
) -> tuple[PotHeard, ...]:
    """What is heard of pots, the live ones, that stand in their cups. A catalysed pot tells nothing before it gels, a blend
    has no label of its own, and one that is poured out keeps no heat to read.

    >>> from layup.bench.card import BenchCard
    >>> from layup.bench.state import fold
    >>> heard_of(JobSpec(name="Deck"), fold(BenchCard(pots=(), layers=()), [], 0), [], 0)
    ()
    """
    read = [event for event in events if isinstance(event.data, Temperature) and event.at_min <= now_min]
    listened = state.live if pots is None else pots
    found = (_heard(job, state, pot, read, now_min, heat_of) for pot in listened if pot.vessel == "cup")
    return tuple(heard for heard in found if heard)


def _heard(
    job: JobSpec,
    state: BenchState,
    pot: PotNow,
    read: Iterable[Event],
    now_min: float,
    heat_of: HeatOf,
) -> PotHeard | None:
    card = state.card.pot(pot.number)
    touched, use_by, gels = pot.touched_min, pot.use_by_min, pot.gels_min
    readings = sorted(
        (event.at_min - touched, event.data.temperature_c)
        for event in read
        if isinstance(event.data, Temperature) and touched is not None
        if event.subject == str(pot.number) and touched <= event.at_min <= (pot.ended_min or now_min)
    )
    if card is None or touched is None or use_by is None or gels is None or not readings:
        return None
    cures = cures_in(job, card, pot, heat_of)
    if cures is None:
        return None
    room_c = card.room_c if state.room_c is None else state.room_c
    pot_heard = Listening(*cures, room_c, gels - touched)
    can_be = believed(readings, room_c)
    for minute, surface_c in can_be:
        pot_heard.hear(minute, surface_c)
    if not can_be:
        return None
    now_min = min(now_min, pot.ended_min or now_min)
    heard = pot_heard.heard(now_min - touched)
    shown = [_SHOWN * n * heard.gels_high_min for n in range(round(1 / _SHOWN) + 1)]
    return PotHeard(
        number=pot.number,
        touched_min=touched,
        readings=len(readings),
        believed=len(can_be),
        gels_min=touched + heard.gels_min,
        gels_low_min=touched + heard.gels_low_min,
        gels_high_min=touched + heard.gels_high_min,
        use_by_min=touched + min(1.0, heard.gels_min / (gels - touched)) * (use_by - touched),
        from_min=min(gels, touched + heard.gels_low_min),
        life=heard.life,
        life_low=heard.life_low,
        life_high=heard.life_high,
        fast=heard.fast,
        level=pot_heard.level(now_min - touched),
        read_min=touched + can_be[-1][0],
        surface=tuple(
            SurfaceRead(at_min=round(touched + at, 2), surface_c=round(surface_c, 2))
            for at, surface_c in pot_heard.means
        ),
        expected=tuple(
            SurfaceExpected(
                at_min=round(touched + at, 2), low_c=round(low, 2), middle_c=round(middle, 2), high_c=round(high, 2)
            )
            for at, (low, middle, high) in zip(shown, pot_heard.expected(shown), strict=True)
        ),
    )


def cures_in(job: JobSpec, card: CardPot, pot: PotNow, heat_of: HeatOf = full_heat) -> tuple[TwoPartCure, Body] | None:
    """How what is in a pot cures, and the body it stands as; None where nothing is known to hear it by.

    >>> card = CardPot.model_construct(use_id="r", hardener_id="")
    >>> cures_in(JobSpec(name="Deck", resins=[{"id": "r", "resin_id": "none"}]), card, PotNow(number=1)) is None
    True
    """
    product = job.product_of(job.use_of(card.use_id))
    hardener = next((each for each in product.hardeners if each.id == card.hardener_id), None) if product else None
    cure = heat_of(stated_pot(hardener)).cure if hardener else None
    if cure is None:
        return None
    return cure, cup(stands_as_g(made_g(card, pot.first, pot.second), card.cup_mm))
