"""An infusion worked out: its bed filled once, in S, and from that its minutes in any room, its resin and its pots."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, cached_property
from itertools import pairwise
from math import inf, isfinite, pi, sqrt

import numpy as np

from layup.architecture import Architecture
from layup.bag import stack
from layup.bag.plan import Pull, pull_of
from layup.day.planner import WEIGH_MIN, stands_min
from layup.errors import Missing, OutOfRange
from layup.infusion.bed import FINE, Filled, Line
from layup.infusion.fibre import MESH_PORES, FibreBed, fibre_bed
from layup.infusion.geometry import (
    Points,
    filled_bed,
    line_of,
    outline_of,
    points_of,
    proposed,
)
from layup.infusion.liquid import STYRENE_MPA_S, THIN_MPA_S, USUAL_MPA_S, Liquid
from layup.infusion.shots import OwnShots, bed_of, own_shots
from layup.job import Part
from layup.laminate.measures import measure
from layup.laminate.outcome import PartResult
from layup.pots.mix import Mix
from layup.pots.work import Handling, Work
from layup.shop_facts import ShopFacts
from layup.under_vacuum import InfusionWishes

_MOST_MIXES, _TRIES = 60, 12
_QUICKEST_MIN, _NOTHING_G = 0.2, 0.01
# What is left over from a mix and less than so much of it goes in with it.
_TOO_LITTLE = 0.02
# Past this nothing is planned: a bed that takes longer wants another way to be fed (memory).
_LONGEST_MIN = 12 * 60.0
_CHOKED = 1e-18


@dataclass(frozen=True)
class PlannedInfusion:
    """An infusion of one copy of a part, in the resin in use `use_id`."""

    path: str
    part: Part
    told: PartResult
    use_id: str
    mix: Mix
    pull: Pull
    bed: FibreBed
    rings: tuple[Points, ...]
    feeds: tuple[Line, ...]
    vents: tuple[Line, ...]
    by_memory_m2: float
    bed_name: str
    own: OwnShots | None = None
    cells: int = FINE

    @cached_property
    def filled(self) -> Filled:
        short_m = self.part.infusion.mesh_short_mm / 1000
        return filled_bed(self.rings, self.bed.plain, self.bed.meshed, short_m, self.feeds, self.vents, self.cells)

    @property
    def full_s(self) -> float:
        """When all of it is full, in S: the front at its last place, and the fabric under the mesh there."""
        return self.filled.full_s + self.bed.lag_s

    @property
    def at_25_mpa_s(self) -> float:
        """Viscosity of the fresh mix at 25 °C: as typed, or usual for what it is made for (memory)."""
        resin = self.mix.resin
        usual = STYRENE_MPA_S if resin.styrene else THIN_MPA_S if resin.made_for == "infusion" else USUAL_MPA_S
        return self.part.infusion.viscosity_mpa_s or usual

    def liquid(self, room_c: float) -> Liquid:
        """The same mix in another room, thin as it lies in the part."""
        return self._liquid(room_c)

    @cached_property
    def _liquid(self) -> Callable[[float], Liquid]:
        return cache(
            lambda room_c: Liquid(self.at_25_mpa_s, room_c, self.mix.life_min(100, room_c), self.mix.film_cure)
        )

    @cached_property
    def lead_min(self) -> float:
        """How long the first pot stands in the bucket before the valve is opened, min."""
        return stands_min([work.spread_min for work in self.works], WEIGH_MIN + self.mix.contact_min)

    @property
    def standing_g(self) -> float:
        """What stands mixed in the bucket when the valve is opened: the first pot, and those mixed while it stood."""
        cycle = WEIGH_MIN + self.mix.contact_min
        count = 1 + int(self.lead_min / cycle + 1e-9)
        return sum(self._mixes[:count])

    @property
    def begun_min(self) -> float:
        """How old the first of the resin is when the valve is opened, min."""
        return self.mix.contact_min + self.lead_min

    def minutes_at(self, s: float | np.ndarray, room_c: float) -> np.ndarray:
        """Minutes from the opening of the valve until the front has come so far."""
        liquid, begun = self.liquid(room_c), self.begun_min
        spent = liquid.s_at(begun, self.pull.pa)
        return liquid.minutes_at(np.asarray(s) + spent, self.pull.pa) - begun

    def s_gel(self, room_c: float) -> float:
        """How far the front comes before the first of it sets, in S."""
        liquid = self.liquid(room_c)
        return liquid.s_gel(self.pull.pa) - float(liquid.s_at(self.begun_min, self.pull.pa))

    def margin(self, room_c: float) -> float:
        return self.s_gel(room_c) / self.full_s if self.full_s else inf

    @property
    def resin_g_per_m3(self) -> float:
        return self.mix.density_g_per_ml * 1e6

    def drawn_g(self, s: np.ndarray | float) -> np.ndarray:
        """What one copy has drawn by S, g, the hoses with it."""
        return self.filled.drawn_at(s) * self._to_told * self.resin_g_per_m3 + self.hoses_g

    @cached_property
    def _to_told(self) -> float:
        """What brings the pores of the plan to the part's own resin: it may curve two ways, and its plies run past it."""
        in_plan = float(self.filled.pores_m3.sum()) * self.resin_g_per_m3
        holds = self.in_fibre_g + self.in_core_g + self.in_mesh_g + self.in_peel_ply_g
        return holds / in_plan if in_plan else 1.0

    @property
    def in_fibre_g(self) -> float:
        return sum(ply.resin_g for ply in self.told.plies if ply.fibre_weight_fraction)

    @property
    def in_core_g(self) -> float:
        return sum(ply.resin_g for ply in self.told.plies if ply.architecture is Architecture.CORE)

    @property
    def in_mesh_g(self) -> float:
        meshed_m = MESH_PORES * stack.MESH_MM / 1000
        return self.told.area_m2 * meshed_m * self.resin_g_per_m3 if self.bed.meshed else 0.0

    @property
    def in_peel_ply_g(self) -> float:
        written = sum(ply.resin_g for ply in self.told.plies if ply.architecture is Architecture.PEEL_PLY)
        comes = self.part.bag.peel_ply and not written
        return written or (float(comes) * self.told.area_m2 * (stack.PEEL_PLY.resin_taken_gsm or 0.0))

    @property
    def hoses_g(self) -> float:
        wishes = self.part.infusion
        feeds_m = sum(_length(line.points) for line in self.feeds)
        return pi / 4 * (wishes.bore_mm / 1000) ** 2 * (wishes.hose_m + feeds_m) * self.resin_g_per_m3

    @property
    def hose_min(self) -> float:
        """How long the hose alone would take for all that is drawn, min: V · 128 μ L / (π d⁴ Δp).

        Source: published (the law of Hagen and Poiseuille, for a straight round hose and slow flow).
        """
        wishes, liquid = self.part.infusion, self.liquid(self.mix.room_c)
        flow_m3_per_s = pi * (wishes.bore_mm / 1000) ** 4 * self.pull.pa / (128 * liquid.viscosity_pa_s)
        return self.drawn_in_all_g / self.resin_g_per_m3 * wishes.hose_m / flow_m3_per_s / 60

    @cached_property
    def in_trap_g(self) -> float:
        """What runs out by the vents until the last place is full, g; what the fabric lags behind is counted at its last
        rate."""
        found = self.filled
        ran = float(np.interp(found.full_s, found.drawn_s, found.left_m3))
        if found.drawn_s.size > 1 and self.bed.lag_s and found.full_s:
            at = found.full_s * 0.98
            late = (ran - float(np.interp(at, found.drawn_s, found.left_m3))) / (found.full_s - at)
            ran += late * self.bed.lag_s
        return ran * self._to_told * self.resin_g_per_m3

    @property
    def drawn_in_all_g(self) -> float:
        """What leaves the bucket, g, of one copy."""
        filled = self.in_fibre_g + self.in_core_g + self.in_mesh_g + self.in_peel_ply_g
        return filled + self.hoses_g + self.in_trap_g

    @property
    def mixed_g(self) -> float:
        return self.drawn_in_all_g + self.part.infusion.in_bucket_g

    @cached_property
    def works(self) -> tuple[Work, ...]:
        """The pots that go into the bucket, one after the other."""
        told, begun, drawn = list[Work](), 0.0, 0.0
        for number, grams in enumerate(self._mixes, 1):
            drawn += grams
            until = self._drawn_min(drawn)
            told.append(
                Work(
                    f"feed {number} of {len(self._mixes)}",
                    self.part.id,
                    f"{self.part.id}-feed-{number}",
                    grams,
                    max(_QUICKEST_MIN, until - begun),
                    area_m2=self.told.area_m2,
                    handling=Handling(alone=True, drawn=True),
                    short=f"feed {number}",
                    use_id=self.use_id,
                )
            )
            begun = until
        return tuple(told)

    @cached_property
    def _mixes(self) -> tuple[float, ...]:
        """What goes into the bucket at a time, g: each as much as lives until it is drawn."""
        rest, mixes = self.mixed_g, list[float]()
        while rest > _NOTHING_G and len(mixes) < _MOST_MIXES:
            mixes.append(self._next_mix_g(self.mixed_g - rest, rest))
            rest -= mixes[-1]
        return tuple(mixes)

    def _next_mix_g(self, done_g: float, rest_g: float) -> float:
        """The most that is drawn while it lives, of what is left; a first guess where no pot lives so long, of which the
        plan then says so."""
        begun, grams = self._drawn_min(done_g), rest_g
        for _ in range(_TRIES):
            rate = grams / max(_QUICKEST_MIN, self._drawn_min(done_g + grams) - begun)
            size = self.mix.size_for(rate, drawn=True)
            most_g = size.most_laid_g if size.largest_g is not None else None
            if most_g is None or grams <= most_g:
                break
            grams = most_g
        return grams if rest_g - grams > _TOO_LITTLE * grams else rest_g

    def _drawn_min(self, grams: float) -> float:
        """When so much has left the bucket, min from the valve; what stays in it is there from the last of it on."""
        minutes, drawn = self._draw
        return float(np.interp(grams, drawn, minutes))

    @cached_property
    def _draw(self) -> tuple[np.ndarray, np.ndarray]:
        """Minutes from the valve, and what has left the bucket by then, g; as if the first pot were poured in at once."""
        room_c, liquid, begun = self.mix.room_c, self.liquid(self.mix.room_c), self.mix.contact_min
        spent = float(liquid.s_at(begun, self.pull.pa))
        full = float(liquid.minutes_at(self.full_s + spent, self.pull.pa)) - begun
        until = min(full if isfinite(full) else liquid.sets_min - begun, _LONGEST_MIN)
        minutes = until * np.linspace(0, 1, 200) ** 2
        drawn = self._drawn_by(minutes, room_c, begun)
        # What fills the hoses is drawn at once.
        drawn[0] = 0.0
        return minutes, drawn * (self.drawn_in_all_g / drawn[-1])

    def drawn_by(self, minutes: np.ndarray, room_c: float) -> np.ndarray:
        """What one copy has drawn by minutes, g, until it is full."""
        return self._drawn_by(minutes, room_c, self.begun_min)

    def _drawn_by(self, minutes: np.ndarray, room_c: float, begun: float) -> np.ndarray:
        liquid = self.liquid(room_c)
        s = liquid.s_at(minutes + begun, self.pull.pa) - liquid.s_at(begun, self.pull.pa)
        return np.minimum(self.drawn_g(s), self.drawn_in_all_g)

    def sets_min(self, room_c: float) -> float:
        """When the first of it sets, min from the valve."""
        return self.liquid(room_c).sets_min - self.begun_min


def _length(points: Points) -> float:
    return sum(sqrt((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2) for a, b in pairwise(points))


def plan_infusion(
    path: str, part: Part, told: PartResult, use_id: str, mix: Mix, shop: ShopFacts, cells: int = FINE
) -> PlannedInfusion:
    """An infusion. Raises Missing or OutOfRange, with the field as its path, for what is missing and what cannot be."""
    measured = measure(part.shape)
    outline = outline_of(part, measured)
    wishes = part.infusion
    meshed = wishes.mesh or stack.has(told.plies, Architecture.FLOW_MESH)
    pull, bed_name = pull_of(part, shop.above_sea_m), bed_of(told.plies, meshed)
    own = own_shots(bed_name, pull.pa / 100, shop.shots)
    bed = fibre_bed(told.plies, wishes, mix.density_g_per_ml, meshed, own.times if own else 1.0)
    if not bed.fabric_m:
        raise Missing("nothing that resin runs through: write its stack", "plies")
    if bed.widest.kh_m3 < _CHOKED:
        raise OutOfRange("no resin runs through this: check its permeability", "infusion.permeability_m2")
    feeds = tuple(line_of(line, wishes.bore_mm / 2000) for line in wishes.lines if line.does == "feeds")
    vents = tuple(line_of(line, wishes.bore_mm / 2000) for line in wishes.lines if line.does == "vents")
    if not wishes.lines:
        feed, vent = proposed(outline)
        feeds, vents = (Line(feed, wishes.bore_mm / 2000),), (Line(vent, wishes.bore_mm / 2000),)
    if all(line.waits for line in feeds) and feeds:
        raise OutOfRange("every feed waits for resin: one has to be open from the start", "infusion.lines")
    rings = (points_of(outline.exterior), *(points_of(ring) for ring in outline.interiors))
    planned = PlannedInfusion(
        path,
        part,
        told,
        use_id,
        mix,
        pull,
        bed,
        rings,
        feeds,
        vents,
        _by_memory(told, wishes, mix, meshed),
        bed_name,
        own,
        cells,
    )
    try:
        reached = planned.filled.full_s
    except OutOfRange as error:
        raise OutOfRange(error.message, "shape" if error.path == "outline" else "infusion.lines") from error
    if not reached:
        raise OutOfRange("no resin comes into it from here: lay the feed on the part", "infusion.lines")
    if planned.sets_min(mix.room_c) < 1:
        raise OutOfRange("this resin sets before the valve is open: take a slower one", "infusion.viscosity_mpa_s")
    return planned


def _by_memory(told: PartResult, wishes: InfusionWishes, mix: Mix, meshed: bool) -> float:
    """How open its bed is told to be where no shot has said anything, m²."""
    untold = wishes.model_copy(update={"permeability_m2": None})
    return fibre_bed(told.plies, untold, mix.density_g_per_ml, meshed).permeability_m2
