"""The mix a job has settled on for a resin in use: with its hardener or its dose, at today's temperature, with today's tools."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache, partial
from math import inf
from typing import Any

from layup.chemistry.blend import shares_in_hand
from layup.chemistry.catalyst import DoseVerdict
from layup.chemistry.cure import CureClocks, catalysed_clocks, may_take, one_part_clocks, two_part_clocks
from layup.chemistry.gel import catalysed_gel_min
from layup.chemistry.label import catalyst_label, hardener_label
from layup.chemistry.one_part import usable_min
from layup.chemistry.ratio import Ratio, parse_ratio, require_basis, weight_ratio
from layup.equipment import Vessel, usual_width_mm
from layup.errors import LayupError, Missing, OutOfRange, known
from layup.heat.cure_kinetics import TwoPartCure
from layup.heat.heat_fit import catalysed_peak_c
from layup.heat.pot_heat import HeatOf, PotHeat, full_heat, stands_as_g, stated_pot
from layup.job import JobSpec, ResinInUse
from layup.marks import round_to
from layup.materials import Hardener, OnePart, ResinSystem
from layup.pots.crew import largest_allowed_g, team_of
from layup.pots.sizing import (
    LEAST_POT_G,
    TRAY_M2,
    PotLife,
    PotSize,
    PotSteps,
    catalysed_floor_g,
    marked_floor_ml,
    marks_of_ratio,
    size_pot,
    two_part_floor_g,
)
from layup.pots.ticket import (
    Amounts,
    catalysed,
    one_part,
    thinner_first,
    two_part_by_number,
    two_part_by_pumps,
    two_part_by_volume,
    two_part_by_weight,
    with_residue,
)
from layup.pots.work import PasteWay
from layup.shop_facts import ShopFacts
from layup.units import convert
from layup.vessels import VESSELS

CONTACT_TWO_POTS_MIN = 3.0
CONTACT_ONE_POT_MIN = 2.0
CONTACT_ONE_TIN_MIN = 1.0  # memory: stirred up in its tin, poured
STIR_IN_MIN = 2.0  # memory: tipping the filler in and stirring it smooth
LOAD_BAG_MIN = 1.0  # memory
COLUMNS_OFF_BY = 0.01  # how far the ratio printed on a cup may be rounded
_FINE_SCALE_G = {"g": 0.1, "oz": convert(0.005, "oz", "g"), "lb": convert(0.001, "lb", "g")}
BUCKET_ML = 10_000.0  # a bucket to infuse from (memory)
BAG_LIFE_SHARE = 0.8  # memory: thick, and held in a warm hand, a paste keeps the heat it makes


# What sets a mix: a hardener, a dose of catalyst, or the air.
SetBy = Hardener | DoseVerdict | OnePart


@dataclass(frozen=True)
class Mix:
    """Everything a pot needs to know. `b_per_a_weight` is None where the product cannot be weighed.

    One that is thickened has its `way`, and comes from a `plain` one.
    """

    resin: ResinSystem
    set_by: SetBy
    room_c: float
    b_per_a_weight: float | None
    contact_min: float
    use: ResinInUse
    job: JobSpec
    shop: ShopFacts
    heat_of: HeatOf = full_heat
    way: PasteWay | None = None
    plain: "Mix | None" = None

    @property
    def hardener(self) -> Hardener | None:
        return self.set_by if isinstance(self.set_by, Hardener) else None

    @property
    def dose(self) -> DoseVerdict | None:
        return self.set_by if isinstance(self.set_by, DoseVerdict) else None

    @property
    def b_per_a_volume(self) -> float:
        """Parts B to one part A by volume. Raises Missing where the product states none."""
        return known(self.resin.ratio_volume_b_per_a, f"{self.resin.name} states no ratio by volume: weigh it")

    def thickened(self, way: PasteWay | None) -> "Mix":
        """The same mix as a paste, or itself where there is no filler: longer in the cup, less life in a bag."""
        return self if way is None else self._thickened(way)

    @cached_property
    def _thickened(self) -> Callable[[PasteWay], "Mix"]:
        def as_paste(way: PasteWay) -> Mix:
            longer = STIR_IN_MIN + (LOAD_BAG_MIN if way.applied == "from a bag" else 0)
            return replace(self, way=way, plain=self, contact_min=self.contact_min + longer)

        return lru_cache(maxsize=256)(as_paste)

    @property
    def by_weight(self) -> bool:
        """Whether its pots are weighed: a catalysed resin is, whatever the practice for two parts."""
        return self.hardener is None or self.job.practice.basis == "weight"

    @property
    def cup_g(self) -> float:
        return self.shop.cup_g if self.job.pots.cup_g is None else self.job.pots.cup_g

    @property
    def cup_ml(self) -> float:
        return self.shop.cup_ml if self.job.pots.cup_ml is None else self.job.pots.cup_ml

    @property
    def cup_width_mm(self) -> float:
        """The inner width of the cup in hand, mm: as measured, or as a cup of its size usually is."""
        if self.job.pots.cup_ml is None:
            return self.shop.cup_width_mm
        return self.job.pots.cup_mm or usual_width_mm(self.job.pots.cup_ml)

    @property
    def density_g_per_ml(self) -> float:
        """Density of the mixed liquid; the cured density stands in where the parts' are not known."""
        a = self.resin.density_g_per_cm3
        if a is None:
            return self.resin.cured_density_g_per_cm3
        if self.hardener is None:
            return a
        b, ratio = self.hardener.density_g_per_cm3, self.b_per_a_weight
        if b is None or ratio is None:
            return self.resin.cured_density_g_per_cm3
        return (1 + ratio) / (1 / a + ratio / b)

    def life_min(self, mass_g: float, temperature_c: float) -> float:
        """Life of a pot in the cup, minutes."""
        return self.life.life_min(mass_g, temperature_c)

    @cached_property
    def life(self) -> PotLife:
        """How long pots last at today's temperature, with the spread of a gel time grown for a heavy pot (memory)."""
        if self.way and self.plain:
            life = self.plain.life
            from_ = lru_cache(maxsize=2048)(partial(self._applied_min, self.way)) if self.hardener else None
            return replace(life, contact_min=self.contact_min, poured_min=from_)
        by_hand = self.job.pots.share
        if isinstance(self.set_by, DoseVerdict):
            catalyst, pct = self.set_by.catalyst, self.set_by.catalyst_pct
            spread = catalyst_label(catalyst).sigma(self.room_c, pct)

            def gel_min(_mass_g: float, temperature_c: float) -> float:
                """A catalysed pot keeps cool until it gels, so its mass does not count."""
                return catalysed_gel_min(catalyst, temperature_c, pct)

            return PotLife(gel_min, self.room_c, self.contact_min, lambda mass_g: spread, by_hand=by_hand)
        if isinstance(self.set_by, OnePart):
            alone = self.set_by
            return PotLife(
                lambda _mass_g, temperature_c: usable_min(alone, temperature_c),
                self.room_c,
                self.contact_min,
                by_hand=by_hand,
            )
        label, cup_mm = hardener_label(self.set_by, self.heat_of), self.cup_width_mm
        heat = label.heat
        lives = lru_cache(maxsize=2048)(lambda mass_g, temperature_c: label.gel_min(mass_g, temperature_c, cup_mm))
        share = lru_cache(maxsize=2048)(lambda mass_g: heat.workable_share(mass_g, self.room_c, cup_mm))
        sigma = lru_cache(maxsize=2048)(lambda mass_g: label.sigma(self.room_c, mass_g))
        poured = lru_cache(maxsize=2048)(self._in_tray_min) if self.in_tray else None
        return PotLife(lives, self.room_c, self.contact_min, sigma, poured, by_hand, share)

    @property
    def in_tray(self) -> bool:
        """Whether pots are spread from a tray. A catalysed pot keeps cool until it gels, so that a tray buys nothing."""
        return VESSELS[self.job.pots.vessel].poured and self.hardener is not None and self.way is None

    def left_in_cup_min(self, mass_g: float) -> float | None:
        """When a pot kicks that is not poured out of its cup in time; None for one that is meant to stay in it."""
        on_a_board = self.way is not None and self.way.applied == "with a stick" and self.hardener is not None
        return self.life_min(mass_g, self.room_c) if self.in_tray or on_a_board else None

    def left_when_poured(self, mass_g: float, spent: Sequence[float]) -> tuple[float, ...]:
        """Shares of its life where it is worked from that are left to a pot that comes there when it has spent such shares
        of its life in its cup. Nothing, where one life goes on as the other does."""
        if self.life.poured_min is None or self.life.vessel_min(mass_g) <= self.life.cup_min(mass_g):
            return ()
        depth_mm = self._in_tray_mm(mass_g)
        return self._heat.left_when_poured(mass_g, depth_mm, self.room_c, spent, cup_mm=self.cup_width_mm)

    def _in_tray_mm(self, mass_g: float) -> float:
        """How deep a pot lies where it is poured out to be worked from."""
        ml_per_g = self.way.ml_per_g if self.way else 1 / self.density_g_per_ml
        return mass_g * ml_per_g / TRAY_M2 / 1000

    def _in_tray_min(self, mass_g: float, temperature_c: float) -> float:
        depth_mm, cup_mm = self._in_tray_mm(mass_g), self.cup_width_mm
        gain = self._heat.poured_gain(self.job.pots.vessel, mass_g, depth_mm, temperature_c, cup_mm=cup_mm)
        return self.life_min(mass_g, temperature_c) * gain

    @property
    def film_cure(self) -> TwoPartCure | None:
        """How it cures where it lies thin, of a two-part resin that the heat model knows."""
        return self._heat.cure if self.hardener else None

    @property
    def _heat(self) -> PotHeat:
        """The heat model of its hardener."""
        return self.heat_of(stated_pot(known(self.hardener)))

    def _applied_min(self, way: PasteWay, mass_g: float, temperature_c: float) -> float:
        """Life of a paste where it is run from: less in a bag; on a board, spread out to work from, about as in a tray."""
        in_cup = self.life_min(mass_g, temperature_c)
        if way.applied == "from a bag":
            return BAG_LIFE_SHARE * in_cup
        depth_mm, cup_mm = self._in_tray_mm(mass_g), self.cup_width_mm
        return in_cup * self._heat.poured_gain("tray", mass_g, depth_mm, temperature_c, cup_mm=cup_mm, roughly=True)

    def peak_c(self, mass_g: float) -> float | None:
        """What the mean of a pot left in its cup reaches, °C; of a catalysed resin it is by the lumped model too."""
        if isinstance(self.set_by, Hardener):
            return self._heat.peak_c(mass_g, self.room_c, self.cup_width_mm)
        if isinstance(self.set_by, OnePart):
            return None
        pct = self.set_by.catalyst_pct
        law = catalyst_label(self.set_by.catalyst).law(self.room_c, pct)
        return catalysed_peak_c(law, pct, stands_as_g(mass_g, self.cup_width_mm), self.room_c)

    @cached_property
    def clocks(self) -> CureClocks:
        """The clocks of a thin layer of it."""
        if isinstance(self.set_by, Hardener):
            clocks = two_part_clocks(self.set_by, self.room_c, self.heat_of)
        elif isinstance(self.set_by, OnePart):
            clocks = one_part_clocks(self.set_by, self.room_c)
        else:
            clocks = catalysed_clocks(self.set_by.gel_min, self.room_c, self.set_by.catalyst)
        return replace(clocks, may_take=may_take(self.room_c, self.resin.comfort_minimum_c))

    @property
    def open_min(self) -> float:
        """How long a spread layer still takes the next ply, minutes."""
        return self.clocks.window_closes_min

    @property
    def floor_g(self) -> float:
        """The least the tool in hand can measure, g of pot."""
        if isinstance(self.set_by, DoseVerdict):
            per_ml = 1.0 if self.shop.dose_tool == "scale" else self.set_by.catalyst.density_g_per_cm3
            return catalysed_floor_g(self.shop.dose_marks.step_core * per_ml, self.set_by.catalyst_pct)
        if isinstance(self.set_by, OnePart):
            return LEAST_POT_G
        if self.by_weight:
            return two_part_floor_g(self.shop.scale.step_core, known(self.b_per_a_weight))
        return self._least_ml * self.density_g_per_ml

    @cached_property
    def steps(self) -> PotSteps:
        """What its pots are rounded to."""
        if self.by_weight:
            return PotSteps(self.shop.scale.step_core, self.shop.scale.unit_is)
        return PotSteps(self._mark_ml * self.density_g_per_ml)

    @property
    def by_volume_g_per_ml(self) -> float | None:
        """The density its pots are told by, where they are measured by volume: so much of A and B in all."""
        return self.density_g_per_ml if self.hardener and not self.by_weight else None

    def pot_words(self, grams: float) -> str:
        """So much of it, as it is measured: by weight, or by volume."""
        return self.shop.scales.mixed(grams, self.by_volume_g_per_ml)

    @property
    def _mark_ml(self) -> float:
        """What the pot grows by at a mark of the tool, ml."""
        shop, ratio = self.shop, self.b_per_a_volume
        if shop.volume_tool == "pumps":
            return shop.pump_a_ml + shop.pump_b_ml
        if shop.volume_tool == "numbered cup":
            return shop.cup_number_ml / 2 * (1 + ratio)
        return shop.cup.step_core * marks_of_ratio(ratio)

    @property
    def _least_ml(self) -> float:
        """The smallest pot the tool measures: a stroke, half a number, or what keeps B to 2 %."""
        if self.shop.volume_tool == "marked cup":
            return max(self._mark_ml, marked_floor_ml(self.shop.cup.step_core, self.b_per_a_volume))
        return self._mark_ml

    @cached_property
    def _sized(self) -> Callable[[float, bool], PotSize]:
        allowed = largest_allowed_g(self.shop, self.resin.family, self.job.pots)
        sized = partial(
            size_pot,
            self.life,
            density_g_per_ml=1 / self.way.ml_per_g if self.way else self.density_g_per_ml,
            largest_allowed_g=allowed,
            floor_g=self.floor_g,
            set_by_hand_g=self.job.pots.largest_g,
        )

        def size(spread_g_per_min: float, drawn: bool) -> PotSize:
            # Nobody spreads what is drawn out of a bucket, and nothing is laid on it.
            if drawn:
                return sized(spread_g_per_min, vessel_ml=BUCKET_ML, open_min=inf, most_min=inf)
            return sized(spread_g_per_min, vessel_ml=self.cup_ml, open_min=self.open_min)

        return lru_cache(maxsize=512)(size)

    def size_for(self, spread_g_per_min: float, *, drawn: bool = False) -> PotSize:
        """The largest pot at a spreading rate, or at the rate it is `drawn` out of its bucket; worked out once for each."""
        return self._sized(round(spread_g_per_min, 3) or spread_g_per_min, drawn)

    def amounts(self, pot_g: float) -> Amounts:
        """The pours of a pot in the units of the tool in hand."""
        if isinstance(self.set_by, DoseVerdict):
            return catalysed(
                pot_g,
                self.set_by.catalyst_pct,
                self.set_by.catalyst,
                cup_g=self.cup_g,
                scale=self.shop.scale,
                tool=self.shop.dose_tool,
                dose_marks=self.shop.dose_marks,
            )
        if isinstance(self.set_by, OnePart):
            return one_part(pot_g, cup_g=self.cup_g, scale=self.shop.scale, name=self.resin.name)
        name, shop = self.set_by.name, self.shop
        own_cups = self.job.practice.vessels == "each in its own"
        if self.by_weight:
            cup_g, scale = self.cup_g, shop.scale
            amounts = two_part_by_weight(
                pot_g, known(self.b_per_a_weight), cup_g=cup_g, scale=scale, hardener_name=name
            )
            amounts = self._with_blend_told(self.set_by, self._in_order(amounts))
            return with_residue(amounts, shop.residue_ml * self.density_g_per_ml, scale) if own_cups else amounts
        pot_ml, ratio = pot_g / self.density_g_per_ml, self.b_per_a_volume
        if shop.volume_tool == "numbered cup":
            # Its columns have an order of their own.
            return two_part_by_number(pot_ml, ratio, number_ml=shop.cup_number_ml, hardener_name=name)
        if shop.volume_tool == "pumps":
            pumped = two_part_by_pumps(pot_ml, ratio, a_ml=shop.pump_a_ml, b_ml=shop.pump_b_ml, hardener_name=name)
            return self._in_order(pumped)
        amounts = self._in_order(two_part_by_volume(pot_ml, ratio, cup=shop.cup, hardener_name=name))
        return with_residue(amounts, shop.residue_ml, shop.cup) if own_cups else amounts

    def _in_order(self, amounts: Amounts) -> Amounts:
        """The pours as the practice has them."""
        return thinner_first(amounts) if self.job.practice.pour_order == "the thinner part" else amounts

    def _with_blend_told(self, hardener: Hardener, amounts: Amounts) -> Amounts:
        """Where the hardener is a blend: how much of each goes into the second pour, and what the scale shows between."""
        if hardener in self.resin.hardeners:
            return amounts
        (first, _), (second, _) = shares_in_hand(self.resin, self.use, hardener.id)
        b = amounts.pours[0 if amounts.b_first else 1]
        scale = self.shop.scale
        more = round_to(b.amount * self.use.blend_share, scale.step)
        less = round(b.amount - more, 6)
        shows = scale.reads(round(known(b.running) - b.amount + less, 6))
        note = f"{scale.reads(less)} {first.name}, to {shows} on the scale, then {scale.reads(more)} {second.name}"
        return replace(amounts, pours=tuple(replace(b, note=note) if pour is b else pour for pour in amounts.pours))

    def parts_g(self, mixed_g: float) -> tuple[float | None, float | None, float | None]:
        """Part A, part B and catalyst of a mixed mass, g; None where the product cannot be weighed or has none."""
        if isinstance(self.set_by, DoseVerdict):
            return None, None, mixed_g * self.set_by.catalyst_pct / 100
        if self.b_per_a_weight is None:
            return None, None, None
        part_a = mixed_g / (1 + self.b_per_a_weight)
        return part_a, mixed_g - part_a, None

    def _with_pots(self, **wishes: object) -> JobSpec:
        """The job with other wishes about its pots."""
        return self.job.model_copy(update={"pots": self.job.pots.model_copy(update=wishes)})

    def _other(self, **changes: Any) -> "Mix":
        """The mix with something else in it, thickened the same way."""
        return replace(self.plain or self, **changes).thickened(self.way)

    @property
    def finer(self) -> tuple[str, "Mix"] | None:
        """A finer tool of the kind in hand, in words, and what is mixed with it; None where the tool is as fine as any."""
        shop = self.shop
        tool: str = "scale" if self.by_weight else shop.volume_tool
        if self.dose:
            tool = shop.dose_tool
        changes: dict[str, Any]
        ml = "cc" if shop.units == "US" else "ml"
        match tool:
            case "scale" if shop.scale_step_g > _FINE_SCALE_G[shop.scale_unit]:
                changes = {"scale_step_g": _FINE_SCALE_G[shop.scale_unit]}
                fine = shop.model_copy(update=changes).scale
                words = f"a finer scale, one that reads {fine.reads(fine.step)}"
            case "syringe" if shop.syringe_step_ml > 0.1:
                words, changes = (
                    f"a finer syringe, one marked every 0.1 {ml}",
                    {"syringe_step_ml": 0.1, "syringe_unit": ml},
                )
            case "marked cup" if shop.cup_step_ml > 0.5:
                changes = {"cup_step_ml": 0.5, "cup_unit": ml}
                words = f"a finer cup or a syringe, one marked every 0.5 {ml}"
            case "numbered cup" | "pumps":
                words = f"a cup or a syringe marked every 0.5 {ml}"
                changes = {"volume_tool": "marked cup", "cup_step_ml": 0.5, "cup_unit": ml}
            case _:
                return None
        return words, self._other(shop=shop.model_copy(update=changes))

    def levers(self, rate: float) -> list[tuple[str, float | None]]:
        """What would free a larger pot at a spreading rate, and the pot each gives, g."""
        hands = team_of(self.job.pots).hands
        others = [("another pair of hands", self, rate * (hands + 1) / hands)]
        if self.way and self.plain and self.way.applied == "from a bag":
            stick = self.plain.thickened(replace(self.way, applied="with a stick"))
            others.append(("a stick and a board in place of the bag", stick, rate))
        if self.hardener and not self.in_tray and not self.way:
            others.append(("pouring it into a tray", self._other(job=self._with_pots(vessel="tray")), rate))
        cooler = self.shop.scales.words("temperature_difference", 3)
        others.append((f"a room {cooler} cooler", self._other(room_c=self.room_c - 3), rate))
        if isinstance(self.set_by, Hardener):
            bands = self.set_by.band_low_f, self.set_by.band_high_f
            slower = min(
                (other for other in self.resin.hardeners if (other.band_low_f, other.band_high_f) > bands),
                key=lambda other: (other.band_low_f, other.band_high_f),
                default=None,
            )
            if slower:
                others.append((f"{slower.name} hardener, where its band allows", self._other(set_by=slower), rate))
        elif isinstance(self.set_by, DoseVerdict) and self.set_by.catalyst_pct > self.set_by.catalyst.least_pct:
            least = self.set_by.catalyst.least_pct
            gel = catalysed_gel_min(self.set_by.catalyst, self.room_c, least)
            lean = self._other(set_by=replace(self.set_by, catalyst_pct=least, gel_min=gel))
            others.append((f"{self.shop.scales.written(least)} % catalyst, the least allowed", lean, rate))
        vessel = larger_vessel(self.shop, self.cup_ml)
        if vessel:
            bigger = self._other(job=self._with_pots(**cup_wishes(vessel)))
            others.append((f"a bigger cup: {vessel.name}", bigger, rate))
        if self.job.pots.largest_g is not None:
            others.append(("no limit of your own", self._other(job=self._with_pots(largest_g=None)), rate))
        if self.finer:
            others.append((*self.finer, rate))
        return [(name, other.size_for(other_rate).largest_g) for name, other, other_rate in others]


def larger_vessel(shop: ShopFacts, cup_ml: float) -> Vessel | None:
    """The next larger cup or pail of the shelf to mix in."""
    larger = [vessel for vessel in shop.vessels if vessel.form != "tray" and vessel.holds_ml > 1.2 * cup_ml]
    return min(larger, key=lambda vessel: vessel.holds_ml, default=None)


def cup_wishes(vessel: Vessel) -> dict[str, float | None]:
    """What a job wishes that is mixed in another cup than the usual one."""
    return {"cup_ml": vessel.holds_ml, "cup_mm": vessel.width_mm, "cup_g": vessel.weighs_g}


def settle(
    job: JobSpec,
    use: ResinInUse,
    shop: ShopFacts,
    resin: ResinSystem,
    set_by: SetBy,
    room_c: float,
    heat_of: HeatOf = full_heat,
) -> Mix:
    """Settle on a mix. Raises LayupError, at the field, where the way of measuring is not allowed or not possible."""
    ratio, hardener = None, set_by if isinstance(set_by, Hardener) else None
    try:
        if not isinstance(set_by, OnePart):
            require_basis(resin, job.practice.basis)
        if hardener and (job.practice.basis == "weight" or hardener.density_g_per_cm3):
            ratio = weight_ratio(resin, hardener.density_g_per_cm3).b_per_a
        if hardener and job.practice.basis == "volume" and not resin.ratio_volume_b_per_a:
            raise LayupError(f"{resin.name} states no ratio by volume: weigh it")
    except LayupError as error:
        raise LayupError(error.message, "practice.basis") from error
    if hardener and job.practice.basis == "volume" and shop.volume_tool == "numbered cup":
        _require_columns(resin, shop)
    two_pots = job.practice.mixing == "two pots" and resin.two_part
    contact = CONTACT_TWO_POTS_MIN if two_pots else CONTACT_ONE_POT_MIN
    if isinstance(set_by, OnePart):
        contact = CONTACT_ONE_TIN_MIN
    return Mix(resin, set_by, room_c, ratio, contact, use, job, shop, heat_of)


def _require_columns(resin: ResinSystem, shop: ShopFacts) -> None:
    """Refuse a cup with numbered columns that are printed for another ratio than the resin's, or nobody knows which."""
    if not shop.cup_ratio:
        raise Missing(
            "the columns of a numbered cup are printed for one ratio: say on the shelf for which", "practice.basis"
        )
    printed, own = parse_ratio(shop.cup_ratio), known(resin.ratio_volume_b_per_a)
    if abs(printed.b_per_a / own - 1) > COLUMNS_OFF_BY:
        raise OutOfRange(
            f"the columns of this cup are printed for {printed.words}, and {resin.name} takes "
            f"{Ratio(own).words}: take another cup, or weigh it",
            "practice.basis",
        )
