"""A bench card written from an issued plan."""

from collections.abc import Iterable, Sequence
from math import log

from layup.bench.card import (
    BenchCard,
    CardFace,
    CardFixing,
    CardFlow,
    CardLane,
    CardLayer,
    CardLife,
    CardMark,
    CardPot,
    CardPour,
    CardStop,
)
from layup.bench.events import Vessel
from layup.chemistry.off_ratio import LATEST_SHARE
from layup.day.outcome import RunSheet, SheetLane, SheetLayer
from layup.day.schedule import PlannedPot
from layup.errors import known
from layup.infusion.outcome import InfusionResult, InRoom
from layup.job import JobSpec
from layup.outcome import Plan
from layup.pots.crew import largest_allowed_g
from layup.pots.mix import Mix
from layup.pots.outcome import PotResult, PourResult, TicketResult
from layup.pots.sizing import MOST_VESSEL_FILL
from layup.shop_facts import ShopFacts

# Rooms a card knows the life of its pots in, from the room each was planned for, °C.
_ROOMS_C = (-9.0, -6.0, -3.0, 0.0, 3.0, 6.0, 9.0, 12.0)
_COLDEST_C, _WARMEST_C = 0.0, 50.0
# The shares of its life in its cup at which a card knows what is left to a pot that is poured out.
_SPENT = tuple(n / 8 for n in range(9))
# The second mass at which a life is looked up, over the planned one.
_HEAVIER = 1.3


def layer_id(layer: SheetLayer) -> str:
    """What a layer is called in events: its lane, its bay, and the last thing that is laid in it, of several alike which."""
    return ":".join([layer.lane, str(layer.bay), layer.item_ids[-1], *([str(layer.nth)] if layer.nth > 1 else [])])


def bench_card(
    job: JobSpec, shop: ShopFacts, resins: Plan, sheet: RunSheet, told: Sequence[PotResult], pots: Sequence[PlannedPot]
) -> BenchCard:
    """The card of a run sheet and its pots, `told` as the plan tells them. `resins` is a plan of the same resins."""
    of_number = {planned.number: planned for planned in pots}
    kinds = {result.first + at: result for result in told for at in range(result.count)}
    lanes = {lane.id: lane for lane in sheet.lanes}
    cards = tuple(
        _pot(job, shop, pot.touch_min, pot.lane, kinds[pot.number], of_number[pot.number]) for pot in sheet.pots
    )
    layers = tuple(_layer(layer, sheet, cards, resins) for layer in sheet.layers)
    last = {layer.lane: layer for layer in sheet.layers}
    fixings = tuple(
        CardFixing(
            id=f"{mark.lane}:{mark.kind}",
            lane=mark.lane,
            lane_name=_lane_name(lanes[mark.lane]),
            words=mark.fixings,
            after_min=mark.at_min - last[mark.lane].to_min,
        )
        for mark in sheet.marks
        if mark.fixings
    )
    hidden = _hidden(job)
    faces = tuple(
        CardFace(id=lane.id, lane=lane.id, lane_name=_lane_name(lane), words=hidden[lane.owner_id])
        for lane in sheet.lanes
        if lane.owner_id in hidden and any(layer.lane == lane.id for layer in sheet.layers)
    )
    drawn = tuple(_lane(lane, resins, sheet) for lane in sheet.lanes)
    stops = tuple(
        CardStop(
            lane=stop.lane,
            lane_name=_lane_name(lanes[stop.lane]),
            planned_from_min=stop.from_min,
            planned_to_min=stop.to_min,
            words=stop.words,
        )
        for stop in sheet.stops
    )
    flows = tuple(_flow(lane, told) for lane in sheet.lanes for told in resins.infusions if told.id == lane.owner_id)
    return BenchCard(pots=cards, layers=layers, fixings=fixings, faces=faces, lanes=drawn, flows=flows, stops=stops)


def _flow(lane: SheetLane, told: InfusionResult) -> CardFlow:
    known_min = [
        (minute, s) for minute, s in zip(_now_in(told).at_min, told.levels_s, strict=True) if minute is not None
    ]
    return CardFlow(
        id=lane.id,
        part_id=told.id,
        lane=lane.id,
        lane_name=_lane_name(lane),
        outline=told.outline,
        holes=told.holes,
        feeds=tuple(line.points for line in told.lines if line.does == "feeds"),
        vents=tuple(line.points for line in told.lines if line.does == "vents"),
        marks=tuple(CardMark(number=mark.number, x_m=mark.x_m, y_m=mark.y_m, s=mark.s) for mark in told.marks),
        minutes=tuple(minute for minute, _ in known_min),
        levels_s=tuple(s for _, s in known_min),
        full_s=told.full_s,
        sets_min=told.sets_min,
        permeability_m2=told.permeability_m2,
        draws_g=told.mixed_g - told.in_bucket_g,
    )


def _now_in(told: InfusionResult) -> InRoom:
    """An infusion in the room it is planned for."""
    return min(told.by_room, key=lambda room: abs(room.room_c - told.room_c))


def _hidden(job: JobSpec) -> dict[str, str]:
    """What of each part and joint nobody reaches again, by its id."""
    faces = {part.id: part.ground.hidden_faces for part in job.parts if part.ground.hidden_faces}
    return faces | {joint.id: "all of its faces and its corner" for joint in job.joints if joint.hidden}


def _lane(lane: SheetLane, plan: Plan, sheet: RunSheet) -> CardLane:
    part = next((part for part in plan.parts if part.id == lane.owner_id), None)
    joint = next((joint for joint in plan.joints if joint.id == lane.owner_id), None)
    pieces = part.pieces if part else ()
    return CardLane(
        id=lane.id,
        name=_lane_name(lane),
        pieces=tuple(tuple(tuple(round(at, 3) for at in point) for point in piece) for piece in pieces),
        bays=lane.bays,
        # What a joint's result tells is of all its copies; a lane may be one of them.
        run_m=joint.run_m / sum(other.owner_id == lane.owner_id for other in sheet.lanes) if joint else 0.0,
    )


def _lane_name(lane: SheetLane) -> str:
    return ", ".join(word for word in (lane.name, lane.which) if word)


def _pot(job: JobSpec, shop: ShopFacts, touch_min: float, lane: str, told: PotResult, planned: PlannedPot) -> CardPot:
    mix, ticket = planned.mix, known(told.ticket)
    pours = tuple(_pour(pour, shop) for pour in ticket.pours)
    least, most = _tolerance(mix, pours)
    return CardPot(
        number=planned.number,
        about=told.id,
        lane=lane,
        owner_name=told.owner_name,
        bay=told.bay,
        labels=told.labels,
        use_id=told.use_id,
        resin_name=told.resin_name,
        hardener=told.hardener,
        hardener_id=mix.hardener.id if mix.hardener else "",
        cup_mm=mix.cup_width_mm,
        hardener_changes=told.changes_at(planned.number),
        mass_g=told.mass_g,
        laid_g=planned.laid_g,
        bay_number=planned.bay,
        room_c=mix.room_c,
        pours=pours,
        b_first=ticket.b_first,
        second_per_first=_ratio(ticket),
        least_off_pct=least,
        most_off_pct=most,
        most_g=_most_g(mix),
        mended_until=LATEST_SHARE,
        cup_reads=ticket.cup_reads,
        scale_unit=ticket.scale_unit,
        mixing=ticket.mixing,
        filler=ticket.filler,
        filler_ml=sum(row.loose_ml for row in ticket.thickened.fillers) if ticket.thickened else None,
        lays=ticket.lays,
        goes_to=_goes_to(mix),
        contact_min=mix.contact_min,
        spread_min=told.spread_min,
        working_share=told.working_share,
        planned_touch_min=touch_min,
        life_min=told.life_min,
        use_by_min=told.use_by_min,
        lives=tuple(_lives(mix, told.mass_g)),
        by_mass=_by_mass(mix, told.mass_g),
        poured_left=mix.left_when_poured(told.mass_g, _SPENT),
        protection=ticket.protection,
    )


def _pour(pour: PourResult, shop: ShopFacts) -> CardPour:
    steps = {
        "scale": shop.scale.step,
        "syringe": shop.dose_marks.step,
        "drops": 1.0,
        "marked cup": shop.cup.step,
        "numbered cup": 0.5,
        "pumps": 1.0,
    }
    return CardPour(
        part=pour.part,
        what=pour.what,
        note=pour.note,
        tool=pour.tool,
        unit=pour.unit,
        unit_is=pour.unit_is,
        amount=pour.amount,
        step=steps[pour.tool],
        running=pour.running,
    )


def _goes_to(mix: Mix) -> Vessel:
    """What a pot is worked from: its cup, unless it is poured out of it."""
    if mix.way:
        return "bag" if mix.way.applied == "from a bag" else "tray"
    return "tray" if mix.in_tray else "cup"


def _ratio(ticket: TicketResult) -> float | None:
    """What is wanted of the second part over the first, as the tools read them: the ticket's, without its rounding."""
    second = ticket.second_part
    if second is None:
        return None
    return second.amount / ticket.first_part.amount / (1 + ticket.ratio_error_pct / 100)


def _tolerance(mix: Mix, pours: Sequence[CardPour]) -> tuple[float, float]:
    """How far off its ratio a pot may be, per cent, either way: of a dose, to what the product allows.

    What the tools cannot measure nearer, by half a mark of each, is never off.
    """
    marks = sum(50 * pour.step / pour.amount for pour in pours)
    least, most = -mix.resin.ratio_tolerance_pct, mix.resin.ratio_tolerance_pct
    if mix.dose:
        catalyst, wanted = mix.dose.catalyst, mix.dose.catalyst_pct
        least, most = 100 * (catalyst.least_pct / wanted - 1), 100 * (catalyst.most_pct / wanted - 1)
    return min(least, -marks), max(most, marks)


def _most_g(mix: Mix) -> float:
    by_cup = MOST_VESSEL_FILL * mix.cup_ml * mix.density_g_per_ml
    return min(by_cup, largest_allowed_g(mix.shop, mix.resin.family, mix.job.pots))


def _lives(mix: Mix, mass_g: float) -> Iterable[CardLife]:
    for off_c in _ROOMS_C:
        room_c = mix.room_c + off_c
        if not _COLDEST_C <= room_c <= _WARMEST_C:
            continue
        cup_min = mix.life.life_min(mass_g, room_c)
        poured = mix.life.poured_min
        yield CardLife(room_c=room_c, cup_min=cup_min, vessel_min=poured(mass_g, room_c) if poured else cup_min)


def _by_mass(mix: Mix, mass_g: float) -> float:
    """The power of its mass by which a pot's life goes."""
    at, heavier = (mix.life.life_min(mass, mix.room_c) for mass in (mass_g, _HEAVIER * mass_g))
    return log(heavier / at) / log(_HEAVIER)


def _layer(layer: SheetLayer, sheet: RunSheet, pots: Sequence[CardPot], plan: Plan) -> CardLayer:
    lane = next(lane for lane in sheet.lanes if lane.id == layer.lane)
    pot = next(pot for pot in pots if pot.number == layer.last_pot)
    mark = next(
        (mark for mark in sheet.marks if mark.lane == layer.lane and mark.test and mark.at_min == layer.opens_min), None
    )
    resin = plan.resin_of(pot.use_id)
    clocks = resin.chemistry.clocks if resin else None
    coat = next((coat for coat in plan.coats if coat.ply_id == layer.item_ids[-1]), None)
    bay = next((bay.words for bay in lane.bays if bay.number == layer.bay), "")
    return CardLayer(
        id=layer_id(layer),
        lane=layer.lane,
        lane_name=_lane_name(lane),
        bay=bay,
        words=layer.words,
        short=layer.short,
        first_pot=layer.first_pot,
        last_pot=layer.last_pot,
        planned_laid_min=layer.to_min,
        opens_after_min=layer.opens_min - layer.to_min,
        closes_after_min=layer.closes_min - layer.to_min,
        hard_after_min=max(clocks.sandable_min if clocks else 0.0, layer.closes_min - layer.to_min),
        use_id=pot.use_id,
        room_c=pot.room_c,
        test=mark.test if mark else None,
        test_words=mark.words if mark else "",
        mended=layer.mended,
        peel_ply=layer.peel_ply,
        works=len(layer.item_ids),
        item_ids=layer.item_ids,
        strips=layer.strips,
        coat_id=coat.ply_id if coat else "",
        wet_um=coat.each_wet_um if coat else None,
    )
