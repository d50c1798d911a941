"""A day on the clock: a small job at the simulated bench, with a tin that is not as its label says and a phone that rings."""

from collections.abc import Collection, Iterator, Sequence
from functools import lru_cache
from math import inf
from random import Random

from layup.bench.card import BenchCard
from layup.bench.events import Event, EventKind
from layup.bench.issue import issued_card
from layup.bench.now import BenchState, LayerNow, PotNow
from layup.bench.state import fold
from layup.errors import OutOfRange
from layup.heat.pot_heat import HeatOf, full_heat
from layup.job import Conditions, JobMaterials, JobSpec, Part, Ply
from layup.library import generic
from layup.plan import plan
from layup.record import Record
from layup.scales import METRIC, Scales
from layup.shapes import Rectangle
from layup.shop_facts import ShopFacts
from layup.training.numbered import numbered
from layup.words import counted

DAYS = 12
PACE = 10
# memory: a tin lives so much shorter or longer than its label; a phone rings so often, and keeps one so long, min
_AS_LABELLED = (0.78, 0.85, 0.92, 1.0, 1.06)
_CALLS, _CALL_MIN = 2, (4.0, 7.0)
_LATE = 1.25
# memory: what hands are busy with, and how long, min
_TAKES_MIN: dict[EventKind, float] = {"cup on": 0.3, "A in": 0.7, "B in": 0.5, "stirred": 2.0, "poured over": 0.3}
_WHO = (
    "The phone rings. A customer asks about his mast",
    "The phone rings. The timber yard is at the gate",
    "The phone rings. Somebody has the wrong number",
)


class Call(Record):
    """Somebody who calls: when, in minutes of the day, how long he keeps one, what is said of it."""

    at_min: float
    for_min: float
    words: str


class PracticeDay(Record):
    """A day to be worked: its card, how many of its minutes go by in one, how the tin lives beside its label, who calls.

    `takes_min` is how long hands are busy before each is done; a pot is used up when it is spread. `planned_min` is when all
    would be laid by the plan.
    """

    id: str
    title: str
    says: str
    card: BenchCard
    pace: int = PACE
    lives: float
    calls: tuple[Call, ...]
    takes_min: dict[EventKind, float]
    planned_min: float


class DayMark(Record):
    """What came of a day: whether it was a good one, the pots that were lost and the layers that came too late, in words, and
    how long it took beside the plan.
    """

    right: bool
    lost_pots: int
    late_layers: int
    took_min: float
    words: tuple[str, ...]


def practice_day(day_id: str, scales: Scales = METRIC, heat_of: HeatOf = full_heat) -> PracticeDay:
    """The day that an id names, such as `day-2`. Raises Missing where there is none.

    >>> today = practice_day("day-2")
    >>> today == practice_day("day-2"), len(today.card.layers), today.pace
    (True, 2, 10)
    """
    _, seed = numbered(day_id, ("day",))
    # So many days are different; after them they come again.
    number = (seed - 1) % DAYS + 1
    dice = Random(f"day {number}")
    room_c = dice.choice((24, 26, 28, 30))
    width, length = dice.choice((0.7, 0.8, 0.9)), dice.choice((1.0, 1.2))
    card, planned = _card(width, length, room_c, scales, heat_of)
    calls = sorted(dice.sample(range(4, max(8, int(planned) - 2)), _CALLS))
    return PracticeDay(
        id=day_id,
        title="A day on the clock",
        says=f"A panel of {scales.words('length', width)} by {scales.words('length', length)} in a room of "
        f"{scales.temperature(room_c)}: two plies of cloth in epoxy, in {counted(len(card.pots), 'pot')}. Ten minutes go by "
        "in one. There is only a medium hardener, the tin may be quicker than its label, and somebody may call.",
        card=card,
        lives=dice.choice(_AS_LABELLED),
        calls=tuple(
            Call(at_min=at, for_min=round(dice.uniform(*_CALL_MIN), 1), words=words)
            for at, words in zip(calls, dice.sample(_WHO, _CALLS), strict=True)
        ),
        takes_min=_TAKES_MIN,
        planned_min=planned,
    )


@lru_cache(maxsize=DAYS)
def _card(width_m: float, length_m: float, room_c: float, scales: Scales, heat_of: HeatOf) -> tuple[BenchCard, float]:
    library = generic()
    cloth = next(fabric for fabric in library.fabrics if fabric.id == "cloth-300")
    epoxy = next(resin for resin in library.resins if resin.id == "epoxy-2-1")
    part = Part(
        id="panel",
        name="Panel",
        substrate="waxed mould",
        shape=Rectangle(width_m=width_m, length_m=length_m),
        plies=tuple(Ply(id=f"ply{number}", fabric_id=cloth.id) for number in (1, 2)),
    )
    job = JobSpec.model_validate(
        {
            "name": "Panel",
            "materials": JobMaterials(fabrics=(cloth,), resins=(epoxy,)),
            "resins": [{"id": "epoxy", "resin_id": epoxy.id, "hardener_id": "epoxy-2-1-medium"}],
            "parts": (part,),
        }
    )
    shop = ShopFacts(
        conditions=Conditions(room_c=room_c, surface_c=room_c, humidity_pct=55),
        units=scales.unit_set,
        fluid_ounce=scales.fluid_ounce,
        fabric_unit=scales.fabric_unit,
        locale=scales.customs.locale,
    )
    issued = plan(job, shop, heat_of)
    if issued.run_sheet is None:
        raise OutOfRange("this day cannot be planned")
    laid = max(layer.to_min for layer in issued.run_sheet.layers)
    return issued_card(job, shop, issued, heat_of), laid


def marked_day(day: PracticeDay, events: Sequence[Event], ended_min: float, scales: Scales = METRIC) -> DayMark:
    """What came of a day by all that was tapped until it ended.

    >>> marked_day(practice_day("day-2"), [], 1).words[0]
    '0 of 2 layers are laid'
    """
    state = fold(day.card, events, ended_min)
    lost = [pot for pot in state.pots if pot.state in ("gelled", "dumped")]
    off = [pot for pot in state.pots if pot.state == "used up" and not pot.on_ratio]
    laid = [layer for layer in state.layers if layer.laid_min is not None]
    late = list(_late(state, {event.subject for event in events if event.kind == "mended"}))
    words = [f"{len(laid)} of {counted(len(state.layers), 'layer')} {'is' if len(laid) == 1 else 'are'} laid"]
    words += [_of_lost(day, pot) for pot in lost]
    words += [f"Pot {pot.number} went on the work off its ratio: it stays soft there" for pot in off]
    words += [f"The window of {name} had closed: what lies on it does not bond" for name in late]
    if laid and len(laid) == len(state.layers) and not (lost or off or late):
        words.append("No pot was lost and every layer bonds")
    took = max((layer.laid_min or 0.0 for layer in laid), default=ended_min)
    if took > _LATE * day.planned_min and len(laid) == len(state.layers):
        words.append(f"It took {took:.0f} min where the plan had {day.planned_min:.0f}")
    words.append(_of_tin(day))
    return DayMark(
        right=len(laid) == len(state.layers) and not (lost or off or late),
        lost_pots=len(lost) + len(off),
        late_layers=len(late),
        took_min=took,
        words=tuple(words),
    )


def _of_lost(day: PracticeDay, pot: PotNow) -> str:
    if pot.state == "dumped":
        return f"Pot {pot.number} was thrown away"
    age = (pot.ended_min or 0.0) - (pot.touched_min or 0.0)
    grams = next(card.mass_g for card in day.card.pots if card.number == pot.number)
    return f"Pot {pot.number} kicked in its cup after {age:.0f} min, {grams:.0f} g of it"


def _of_tin(day: PracticeDay) -> str:
    if day.lives == 1:
        return "The tin lived as its label says"
    much = "shorter" if day.lives < 1 else "longer"
    return f"The tin lived {abs(100 * (day.lives - 1)):.0f} % {much} than its label says: a surface that warms tells it"


def _late(state: BenchState, mended: Collection[str]) -> Iterator[str]:
    """The layers whose window had closed when the next was laid on them, by their words; not those that were sanded before."""
    by_lane: dict[str, LayerNow] = {}
    words = {layer.id: layer.words for layer in state.card.layers}
    lanes = {layer.id: layer.lane for layer in state.card.layers}
    for layer in state.layers:
        beneath = by_lane.get(lanes[layer.id])
        by_lane[lanes[layer.id]] = layer
        if beneath is None or beneath.id in mended or beneath.laid_min is None or layer.laid_min is None:
            continue
        if layer.laid_min > (inf if beneath.closes_min is None else beneath.closes_min):
            yield words[beneath.id]
