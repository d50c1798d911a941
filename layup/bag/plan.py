"""A bag over a part, worked out: what lies in it and bleeds, what pulls, by when it must be down."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from math import isfinite

from layup.bag import stack, vacuum
from layup.bag.outcome import BagOnDay, BagResult
from layup.day.schedule import Clocks, Lane, PlannedPot, Schedule
from layup.errors import OutOfRange
from layup.job import Part
from layup.laminate.outcome import PartResult
from layup.pots.mix import Mix


@dataclass(frozen=True)
class Pull:
    """The pressures of a bag, mbar absolute: the air outside, and what is held under it."""

    ambient_mbar: float
    level_mbar: float

    @property
    def pa(self) -> float:
        """What presses and draws, Pa."""
        return 100 * (self.ambient_mbar - self.level_mbar)


def pull_of(part: Part, above_sea_m: float) -> Pull:
    """The level of a part's bag at a height. Raises OutOfRange for one that no pump reaches, or that pulls nothing."""
    level = vacuum.level_mbar(part.bag.level, part.bag.level_in, above_sea_m)
    return Pull(vacuum.ambient_mbar(above_sea_m), level)


@dataclass(frozen=True)
class PlannedBag:
    """A bag worked out, over a part that was; `on_day` once its pots are laid out in time."""

    path: str
    part: Part
    told: PartResult
    above_sea_m: float
    pull: Pull
    bagging_min: float
    on_day: tuple[BagOnDay, ...] = field(default=())

    @property
    def air_l(self) -> float:
        return stack.air_l(self.part, self.told)

    @property
    def draw_down_min(self) -> float:
        return vacuum.draw_down_min(self.air_l, self.part.bag.pump_l_per_min, self.pull.level_mbar, self.above_sea_m)

    @property
    def leaks(self) -> bool:
        """Whether its test told of a leak that is too much."""
        bag = self.part.bag
        return bag.drop_mbar is not None and vacuum.leaks_too_much(bag.drop_mbar, bag.drop_min)

    @property
    def bled_gsm(self) -> float:
        """What goes from the laminate into what lies on it, g/m²."""
        return sum(ply.bled_g for ply in self.told.plies) / self.told.area_m2 if self.told.area_m2 else 0.0

    def with_day(self, schedule: Schedule, clocks: Callable[[Mix], Clocks]) -> "PlannedBag":
        """The same with its hours, of each lane of its part that pots are laid on."""
        of = [lane for lane in schedule.lanes if lane.owner.id == self.part.id]
        return replace(self, on_day=tuple(told for lane in of for told in _on_day(self, lane, schedule, clocks)))


def plan_bag(path: str, part: Part, told: PartResult, above_sea_m: float, hands: float) -> PlannedBag:
    """The bag over a part. Raises OutOfRange for a level that cannot be, and for a pump that will not get there."""
    pull = pull_of(part, above_sea_m)
    planned = PlannedBag(path, part, told, above_sea_m, pull, stack.bagging_min(part, told, hands))
    if planned.draw_down_min > _LONGEST_MIN:
        raise OutOfRange(
            f"this pump takes over {_LONGEST_MIN / 60:.0f} hours for so much air: check its litres a minute, or take a bigger one",
            "pump_l_per_min",
        )
    return planned


_LONGEST_MIN = 120.0


def _on_day(planned: PlannedBag, lane: Lane, schedule: Schedule, clocks: Callable[[Mix], Clocks]) -> Iterator[BagOnDay]:
    pots = [pot for pot in schedule.pots if pot.lane == lane.id]
    if not pots:
        return
    infused = planned.part.process == "infusion"
    first, last = pots[0], pots[-1]
    times = clocks(first.mix)
    gels = times.after("film_gel_min", first.touch_min)
    # Over infused fibre the bag is on before any resin comes.
    after = 0.0 if infused else (planned.bagging_min * lane.shared_by + planned.draw_down_min)
    laid = last.used_min
    bagged = laid if infused else laid + planned.bagging_min * lane.shared_by
    in_time = [pot for pot in pots if pot.used_min + after <= gels]
    yield BagOnDay(
        lane=lane.id,
        first_touch_min=first.touch_min,
        laid_min=laid,
        bagged_min=bagged,
        down_min=laid + after,
        gels_min=gels,
        opens_min=clocks(last.mix).after("sandable_min", last.touch_min),
        last_pot=_number(in_time),
        last_pot_by_min=gels - after,
        pots_in_all=last.number,
    )


def _number(pots: list[PlannedPot]) -> int:
    return pots[-1].number if pots else 0


def bag_result(planned: PlannedBag) -> BagResult:
    """What is told of a bag."""
    part, told, pull = planned.part, planned.told, planned.pull
    sheet, bag = stack.sheet_of(part, told), part.bag
    force = vacuum.force_kn(told.area_m2, pull.level_mbar, planned.above_sea_m)
    leak = None if bag.drop_mbar is None else vacuum.leak_mbar_l_per_s(planned.air_l, bag.drop_mbar, bag.drop_min)
    half = (pull.level_mbar + pull.ambient_mbar) / 2
    keeps = vacuum.lost_after_min(leak, planned.air_l, pull.level_mbar, half) if leak else None
    fibre = sum(ply.fibre_g for ply in told.plies if ply.fibre_weight_fraction)
    resin = sum(ply.resin_g for ply in told.plies if ply.fibre_weight_fraction)
    bled = sum(ply.bled_g for ply in told.plies)
    draws = planned.draw_down_min
    return BagResult(
        id=part.id,
        name=part.name,
        copies=told.count,
        infused=part.process == "infusion",
        layers=tuple(stack.layers_of(part, told)),
        area_m2=told.area_m2,
        perimeter_m=told.perimeter_m,
        bag_m2=sheet.bag_m2,
        tape_m=sheet.tape_m,
        pleats=sheet.pleats,
        by_hand_share=fibre / (fibre + resin + bled) if fibre and bled else None,
        bagged_share=fibre / (fibre + resin) if fibre else None,
        bled_g=bled,
        bled_gsm=planned.bled_gsm,
        holds_gsm=stack.holds_gsm(part, told),
        ambient_mbar=pull.ambient_mbar,
        level_mbar=pull.level_mbar,
        inhg=vacuum.inhg_below(pull.level_mbar, planned.above_sea_m),
        vacuum_pct=vacuum.vacuum_pct(pull.level_mbar, planned.above_sea_m),
        pull_mbar=pull.ambient_mbar - pull.level_mbar,
        force_kn=force,
        tonnes=force / 9.80665,
        air_l=planned.air_l,
        draw_down_min=draws if isfinite(draws) else None,
        bagging_min=planned.bagging_min,
        leak_mbar_l_per_s=leak,
        leaks=planned.leaks,
        rises_mbar=vacuum.held_mbar(leak, bag.pump_l_per_min) if leak else None,
        keeps_min=keeps,
        on_day=planned.on_day,
    )
