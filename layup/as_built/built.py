"""What a run built, told from its plan, its card and all that was written down of it."""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from statistics import fmean

from layup.as_built.deviations import deviations
from layup.as_built.outcome import (
    AsBuilt,
    BuiltLayer,
    BuiltPlace,
    BuiltPot,
    DoneOtherwise,
    LotDrawn,
    Noted,
    TestSeen,
    WentOn,
)
from layup.bench.card import BenchCard, CardLayer, CardPot
from layup.bench.events import Ended, Event, RoomRead, Tested
from layup.bench.now import BenchState, LayerNow, PotNow
from layup.bench.pot_now import made_g
from layup.bench.state import fold
from layup.bench.written_card import layer_id
from layup.job import JobSpec
from layup.laminate.as_laid import as_laid
from layup.laminate.outcome import PartResult
from layup.laminate.plies import CURED_DENSITY_G_PER_CM3
from layup.outcome import Plan

# A part that is so little of a pot says nothing of the rest.
_MOST_OF_IT = 0.5


@dataclass(frozen=True)
class RunToTell:
    """A run as it was issued and all that was said of it. `lots` are those that each of its pots drew, `cut` those of its pieces, `waived` what was let be
    before it, `photos` the number of each photo by its event.
    """

    job: JobSpec
    plan: Plan
    card: BenchCard
    events: Sequence[Event]
    issued_at: datetime
    now_min: float
    revision: int = 1
    simulated: bool = False
    lots: Mapping[int, tuple[LotDrawn, ...]] = field(default_factory=dict)
    cut: tuple[LotDrawn, ...] = ()
    waived: Sequence[DoneOtherwise] = ()
    photos: Mapping[str, int] = field(default_factory=dict)


def as_built(run: RunToTell) -> AsBuilt:
    """What a run built: each place with its layers as they were laid, its pots, what was done otherwise, notes and photos.

    >>> from layup.outcome import Conditions
    >>> issued = Plan(conditions=Conditions(room_c=20))
    >>> nothing = RunToTell(JobSpec(name="Deck"), issued, BenchCard(pots=(), layers=()), [], datetime(2026, 5, 4, 9, 0), 5)
    >>> as_built(nothing).places
    ()
    """
    state = fold(run.card, run.events, run.now_min)
    gone = {event.takes_back for event in run.events if event.takes_back}
    standing = sorted(
        (event for event in run.events if event.id not in gone and not event.takes_back),
        key=lambda event: (event.at_min, event.id),
    )
    layers = {layer.id: layer for layer in _layers(state, standing, _items(run.plan))}
    rooms = [event.data.room_c for event in standing if isinstance(event.data, RoomRead)]
    ended = [event for event in standing if isinstance(event.data, Ended)]
    places = tuple(_places(run, state.card, layers))
    pots = tuple(_pots(run, state, standing))
    return AsBuilt(
        job_name=run.job.name,
        revision=run.revision,
        issued_at=run.issued_at,
        begun_min=min((event.at_min for event in standing), default=0.0),
        ended_min=ended[-1].at_min if ended else None,
        outcome=state.outcome,
        simulated=run.simulated,
        people=tuple(dict.fromkeys(event.by for event in standing if event.by)),
        planned_room_c=run.plan.conditions.room_c,
        coldest_c=min(rooms, default=None),
        warmest_c=max(rooms, default=None),
        places=places,
        pots=pots,
        cut=run.cut,
        deviations=(*run.waived, *deviations(run.plan, state, run.events, layers)),
        noted=tuple(_noted(run, state.card, standing)),
    )


def _items(plan: Plan) -> dict[str, tuple[str, ...]]:
    """What each layer of a plan is of, by its id: cards from before they said it are read with this."""
    return {layer_id(layer): layer.item_ids for layer in plan.run_sheet.layers} if plan.run_sheet else {}


def _layers(state: BenchState, standing: Sequence[Event], items: Mapping[str, tuple[str, ...]]) -> Iterator[BuiltLayer]:
    """Each layer of the card in force, in laying order."""
    of: dict[str, list[Event]] = defaultdict(list)
    for event in standing:
        if event.about == "layer":
            of[event.subject].append(event)
    rooms = [(event.at_min, event.data.room_c) for event in standing if isinstance(event.data, RoomRead)]
    pots = {pot.number: pot for pot in state.pots}
    last: dict[str, list[tuple[CardLayer, LayerNow]]] = defaultdict(list)
    for card, now in zip(state.card.layers, state.layers, strict=True):
        beneath = [each for each in last[card.lane] if not each[0].bay or not card.bay or each[0].bay == card.bay]
        if not card.item_ids:
            card = card.model_copy(update={"item_ids": items.get(card.id, ())})
        yield _layer(state.card, card, now, beneath[-1] if beneath else None, of, rooms, pots)
        last[card.lane].append((card, now))


def _layer(
    card: BenchCard,
    layer: CardLayer,
    now: LayerNow,
    beneath: tuple[CardLayer, LayerNow] | None,
    events: Mapping[str, Sequence[Event]],
    rooms: Sequence[tuple[float, float]],
    pots: Mapping[int, PotNow],
) -> BuiltLayer:
    mine = events.get(layer.id, ())
    poured = [
        number
        for number in range(layer.first_pot, layer.last_pot + 1)
        if number in pots and pots[number].touched_min is not None
    ]
    at_min = now.laid_min
    read = [room for when, room in rooms if at_min is not None and when <= at_min]
    told = [event for event in mine if event.kind in ("laid", "strip laid")]
    return BuiltLayer(
        id=layer.id,
        words=layer.words,
        item_ids=layer.item_ids,
        state="laid" if at_min is not None else "in part" if now.strips or poured else "not laid",
        strips=layer.strips,
        strips_laid=layer.strips if at_min is not None else len(now.strips),
        laid_min=at_min,
        by=told[-1].by if told else "",
        went_on=_went_on(at_min, beneath, events) if at_min is not None else None,
        told_by=beneath[1].by if beneath else "clock",
        room_c=read[-1] if read else None,
        pots=tuple(poured),
        resin_share=_resin_share(card, layer, pots),
        film_um=now.film_um,
        planned_film_um=layer.wet_um,
        tests=tuple(
            TestSeen(test=event.data.test, shows=event.data.shows, at_min=event.at_min, by=event.by)
            for event in mine
            if isinstance(event.data, Tested)
        ),
    )


def _went_on(
    at_min: float, beneath: tuple[CardLayer, LayerNow] | None, events: Mapping[str, Sequence[Event]]
) -> WentOn | None:
    """How a layer went on to the one that lay beneath it. One that was not said to be laid tells nothing."""
    if beneath is None:
        return "ground"
    card, under = beneath
    if under.laid_min is None or under.opens_min is None or under.closes_min is None:
        return None
    if any(event.kind == "mended" and event.at_min <= at_min for event in events.get(card.id, ())):
        return "keyed"
    if at_min < under.opens_min:
        return "wet"
    return "tacky" if at_min <= under.closes_min else "closed"


def _resin_share(card: BenchCard, layer: CardLayer, pots: Mapping[int, PotNow]) -> float | None:
    """The resin that its pots laid over what they were to lay; None unless every one of them was weighed and used up."""
    planned_g = laid_g = 0.0
    for number in range(layer.first_pot, layer.last_pot + 1):
        pot, told = card.pot(number), pots.get(number)
        made_g = as_weighed(pot, told) if pot and told and told.state == "used up" else None
        if pot is None or told is None or made_g is None:
            return None
        planned_g += pot.laid_g
        laid_g += laid_of(pot, told, made_g)
    return laid_g / planned_g if planned_g else None


def laid_of(pot: CardPot, told: PotNow, made_g: float) -> float:
    """What a pot laid, g: what was made of it less what was left over, by weight where that was weighed, else by its plan.

    >>> pot = CardPot.model_construct(mass_g=400.0, laid_g=380.0)
    >>> laid_of(pot, PotNow(number=1, left_over_g=50), 400), laid_of(pot, PotNow(number=1), 400)
    (350.0, 380.0)
    """
    if told.left_over_g is not None:
        return max(0.0, made_g - told.left_over_g)
    return made_g * pot.laid_g / pot.mass_g


def as_weighed(pot: CardPot, told: PotNow) -> float | None:
    """What is in a pot, g, by what of it was read off a scale; None where that is not the most of it. A dose that was drawn up or
    counted goes with the resin that was weighed.
    """
    read = list(zip(pot.pours, (told.first, told.second), strict=False))
    weighed = [(pour, amount) for pour, amount in read if pour.tool == "scale" and amount is not None]
    planned_g = sum(pour.amount * pour.unit_is for pour, _ in weighed)
    if planned_g < _MOST_OF_IT * pot.mass_g:
        return None
    if len(weighed) == len(pot.pours):
        return made_g(pot, told.first, told.second)
    return pot.mass_g * sum(amount * pour.unit_is for pour, amount in weighed) / planned_g


def _places(run: RunToTell, card: BenchCard, layers: Mapping[str, BuiltLayer]) -> Iterator[BuiltPlace]:
    """Each lane of the card, one of its bays after the other."""
    parts = {part.id: part for part in run.plan.parts}
    infused = {told.id for told in run.plan.infusions}
    owners = _owners(run.plan)
    by_lane: dict[str, list[CardLayer]] = defaultdict(list)
    for layer in card.layers:
        by_lane[layer.lane].append(layer)
    for lane, mine in by_lane.items():
        owner_id, bays = owners.get(lane, lane), list(dict.fromkeys(layer.bay for layer in mine if layer.bay))
        for bay in bays or [""]:
            here = tuple(layers[layer.id] for layer in mine if layer.bay in ("", bay))
            part = parts.get(owner_id)
            by_the_bag = part is not None and _process(run.job, owner_id) != "open mould"
            yield BuiltPlace(
                id=f"{lane} {bay}".strip(),
                lane=lane,
                owner_id=owner_id,
                name=mine[0].lane_name,
                bay=bay,
                layers=here,
                planned=part,
                laid=part and _laid(run.job, part, here, drawn=owner_id in infused, by_the_bag=by_the_bag),
                by_the_bag=by_the_bag,
            )


def _owners(plan: Plan) -> dict[str, str]:
    """The part, joint or pour that each lane is of."""
    return {lane.id: lane.owner_id for lane in plan.run_sheet.lanes} if plan.run_sheet else {}


def _process(job: JobSpec, part_id: str) -> str:
    return next((part.process for part in job.parts if part.id == part_id), "open mould")


def _laid(
    job: JobSpec, part: PartResult, layers: Sequence[BuiltLayer], *, drawn: bool, by_the_bag: bool
) -> PartResult | None:
    """A part's section by the layers that were laid of it; of an infused one, whose resin was `drawn` through, by its feeds. None
    where an old record does not say what its layers are of: nothing is not the same as not known.
    """
    if any(not layer.item_ids for layer in layers):
        return None
    of: dict[str, list[BuiltLayer]] = defaultdict(list)
    for layer in layers:
        for item_id in layer.item_ids:
            of[item_id].append(layer)
    named = {ply.id for ply in part.plies}
    feeds = [layer for layer in layers if not named & set(layer.item_ids)]
    shares: dict[str, float] = {}
    for ply in part.plies:
        mine = of[ply.id] or (feeds if drawn else [])
        if not mine or any(layer.state != "laid" for layer in mine):
            continue
        known = [layer.resin_share for layer in mine if layer.resin_share is not None]
        shares[ply.id] = fmean(known) if known and not by_the_bag else 1.0
    use = job.use_of(next((each.use_id for each in job.parts if each.id == part.id), ""))
    product = job.product_of(use) if use else None
    return as_laid(part, shares, product.cured_density_g_per_cm3 if product else CURED_DENSITY_G_PER_CM3)


def _pots(run: RunToTell, state: BenchState, standing: Sequence[Event]) -> Iterator[BuiltPot]:
    """The pots whose parts have touched, in their order."""
    rooms = [(event.at_min, event.data.room_c) for event in standing if isinstance(event.data, RoomRead)]
    of: dict[str, list[Event]] = defaultdict(list)
    for event in standing:
        if event.about == "pot":
            of[event.subject].append(event)
    for now in state.pots:
        touched_min = now.touched_min
        if touched_min is None:
            continue
        card, mine = state.card.pot(now.number), of[str(now.number)]
        if card is None:
            continue
        at = {event.kind: event for event in mine}
        read = [room for when, room in rooms if when <= touched_min]
        mixed_by = at.get("touched") or at.get("B in") or at.get("A in")
        ends = {kind: at[kind].at_min - touched_min for kind in ("used up", "gelled") if kind in at}
        yield BuiltPot(
            number=now.number,
            where=", ".join(word for word in (card.owner_name, card.bay) if word),
            resin_name=card.resin_name,
            hardener=card.hardener,
            planned_g=card.mass_g,
            made_g=as_weighed(card, now),
            off_pct=now.off_pct,
            room_c=read[-1] if read else None,
            touched_min=touched_min,
            by=mixed_by.by if mixed_by else "",
            ended="" if now.state == "live" else now.state,
            used_in_min=ends.get("used up"),
            gelled_in_min=ends.get("gelled"),
            left_over_g=now.left_over_g,
            life_min=card.life_min,
            lots=run.lots.get(now.number, ()),
        )


def _noted(run: RunToTell, card: BenchCard, standing: Iterable[Event]) -> Iterator[Noted]:
    names = {layer.id: f"{layer.lane_name}, {layer.words}" for layer in card.layers}
    for things in (card.faces, card.fixings, card.flows):
        names |= {thing.id: thing.lane_name for thing in things}
    for event in standing:
        words = getattr(event.data, "words", "")
        photo = run.photos.get(event.id)
        if event.kind == "note" or photo is not None or (words and event.kind != "answered"):
            where = f"pot {event.subject}" if event.about == "pot" else names.get(event.subject, "")
            yield Noted(
                about=event.about,
                subject=event.subject,
                where=where,
                words=words,
                at_min=event.at_min,
                by=event.by,
                photo=photo,
            )
