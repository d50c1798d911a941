"""What mass does to a pot of a product, by the heat model fitted to what the product states."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from math import log

import numpy as np

from layup.chemistry.ends import CURED_AT, FILM_SHARE, POT_LIFE_AS
from layup.chemistry.gel_law import EPOXY_ACTIVATION_KJ_PER_MOL, arrhenius_factor, kelvin
from layup.errors import OutOfRange, known
from layup.heat.conduction import as_deep_as_wide_g, cup, tray
from layup.heat.cure_kinetics import GEL_CONVERSION, WORKABLE_UNTIL, TwoPartCure
from layup.heat.gel_table import COLDEST_C, LEAST_G, MOST_G, WARMEST_C, GelTable, gel_table, rough_table, share_table
from layup.heat.heat_fit import StatedPot, fitted_cure, rough_cure
from layup.heat.lumped_heat import cooling_per_s, left_when_poured
from layup.job import PotVessel
from layup.materials import Hardener
from layup.vessels import VESSELS

LEAST_TRAY_GAIN = 0.20  # memory
# Past these nothing of the model was ever tried: a sheet that states them is read by its own law alone.
LEAST_GEL_MIN, MOST_GEL_MIN = 1.0, 3000.0


@dataclass(frozen=True, eq=False)
class PotHeat:
    """A product's cure, and the gel-time table of its pots in their cups. `rough` until the full table is built.

    Both are None where the model has nothing to say of a pot so stated: then its mass is not reckoned with.
    """

    stated: StatedPot
    cure: TwoPartCure | None = None
    cup: GelTable | None = None
    rough: bool = False

    def gel_min(self, mass_g: float, temperature_c: float, cup_mm: float | None = None) -> float:
        """Minutes to gel of a pot in a cup so wide, or as deep as it is wide where that is not known.

        Past the table, and without one, the law of a gel carries it on.
        """
        if self.cup is None:
            return self.stated_gel_min * self._warmth(temperature_c, self.stated.temperature_c)
        held_c = min(max(temperature_c, COLDEST_C), WARMEST_C)
        gel = self.cup.gel_min(stands_as_g(mass_g, cup_mm), held_c) * self._to_stated
        return gel if held_c == temperature_c else gel * self._warmth(temperature_c, held_c)

    @cached_property
    def stated_gel_min(self) -> float:
        """The gel of the stated pot, min: as stated, or as the model goes on from what ends its stated time."""
        return self.stated.minutes / self.share_of_gel(
            self.stated.ends_at, self.stated.mass_g, self.stated.temperature_c
        )

    def share_of_gel(self, ends_at: float, mass_g: float, temperature_c: float, cup_mm: float | None = None) -> float:
        """The share of its time to gel at which a pot has cured so far, by the lumped model."""
        if ends_at >= GEL_CONVERSION:
            return 1.0
        if self.cure is None:
            return _SHARE_WITHOUT_MODEL
        held_c = min(max(temperature_c, COLDEST_C), WARMEST_C)
        held_g = min(max(stands_as_g(mass_g, cup_mm), LEAST_G), MOST_G)
        return float(share_table(self.cure, ends_at).ev(log(held_g), 1 / kelvin(held_c)))

    def workable_share(self, mass_g: float, temperature_c: float, cup_mm: float | None = None) -> float:
        """The share of its time to gel for which a pot can be worked."""
        return self.share_of_gel(WORKABLE_UNTIL, mass_g, temperature_c, cup_mm)

    @cached_property
    def _to_stated(self) -> float:
        """What brings the table to the stated pot exactly."""
        stated = self.stated
        held_c = min(max(stated.temperature_c, COLDEST_C), WARMEST_C)
        told = known(self.cup).gel_min(stated.mass_g, held_c) * self._warmth(stated.temperature_c, held_c)
        return self.stated_gel_min / told

    def poured(self, vessel: PotVessel, *, roughly: bool = False) -> GelTable | None:
        """The same of its pots poured into a tray, by their depth, mm; half a second the first time, unless `roughly`.

        Until the full model stands a tray on a cool pack is taken for a plain one.
        """
        if self.cure is None:
            return None
        if self.rough or roughly:
            return _rough_tray(self.cure)
        return gel_table(self.cure, VESSELS[vessel].body)

    def poured_gain(
        self,
        vessel: PotVessel,
        mass_g: float,
        depth_mm: float,
        temperature_c: float,
        *,
        cup_mm: float | None = None,
        roughly: bool = False,
    ) -> float:
        """How many times as long a pot lives poured into a tray as in its cup; one where the model cannot tell.

        A gain under 20 % is called none (memory).
        """
        table = self.poured(vessel, roughly=roughly)
        if table is None or self.cup is None:
            return 1.0
        held_c = min(max(temperature_c, COLDEST_C), WARMEST_C)
        gain = table.gel_min(depth_mm, held_c) / self.cup.gel_min(stands_as_g(mass_g, cup_mm), held_c)
        return gain if gain >= 1 + LEAST_TRAY_GAIN else 1.0

    def left_when_poured(
        self,
        mass_g: float,
        depth_mm: float,
        temperature_c: float,
        spent: Sequence[float],
        *,
        cup_mm: float | None = None,
    ) -> tuple[float, ...]:
        """Shares of its life in a tray left to a pot that is poured out when it has spent such shares of its life in its
        cup, by the lumped model: what it is out by is out of both. Without a model what is not spent is left.

        >>> left = full_heat(StatedPot(20, 25, 100)).left_when_poured(300, 5, 20, (0.0, 0.5, 1.0))
        >>> [round(share, 2) for share in left]
        [1.0, 0.57, 0.0]
        """
        if self.cure is None:
            return tuple(1 - share for share in spent)
        held_c = min(max(temperature_c, COLDEST_C), WARMEST_C)
        in_cup = cooling_per_s(cup(stands_as_g(mass_g, cup_mm)))
        return left_when_poured(self.cure, in_cup, cooling_per_s(tray(depth_mm / 1000)), held_c, spent)

    def _warmth(self, temperature_c: float, from_c: float) -> float:
        return arrhenius_factor(temperature_c, from_c, self.stated.ea_kj_per_mol)

    def peak_c(self, mass_g: float, temperature_c: float, cup_mm: float | None = None) -> float | None:
        """The mean's peak of a pot left in its cup, °C, where the model can tell."""
        return self.cup.peak_c(stands_as_g(mass_g, cup_mm), temperature_c) if self.cup else None


def stands_as_g(mass_g: float, cup_mm: float | None) -> float:
    """The mass as deep as wide, g, that a pot in a cup of a width, mm, is cooled like; itself where no width is known."""
    return mass_g if cup_mm is None else as_deep_as_wide_g(mass_g, cup_mm)


# Of a sheet's time that is read without the model (memory).
_SHARE_WITHOUT_MODEL = 0.9


@lru_cache(maxsize=256)
def _rough_tray(cure: TwoPartCure) -> GelTable:
    return rough_table(cure, "tray")


# Where a plan takes the heat of its products from: the full model, or the rough one while that is built.
HeatOf = Callable[[StatedPot], PotHeat]


@lru_cache(maxsize=256)
def full_heat(stated: StatedPot) -> PotHeat:
    """By the full model: half a second the first time, kept after.

    >>> heat = full_heat(StatedPot(20, 25, 100))
    >>> round(heat.gel_min(500, 25), 1)
    18.9
    """
    if not _sane(stated):
        return PotHeat(stated)
    try:
        cure = fitted_cure(stated)
        return PotHeat(stated, cure, gel_table(cure))
    except OutOfRange:
        return PotHeat(stated)


@lru_cache(maxsize=256)
def rough_heat(stated: StatedPot) -> PotHeat:
    """By the lumped model: at once."""
    if not _sane(stated):
        return PotHeat(stated)
    cure = rough_cure(stated)
    table = rough_table(cure)
    return PotHeat(stated, cure, table, rough=True) if np.isfinite(table.gel_min(100, 20)) else PotHeat(stated)


def _sane(stated: StatedPot) -> bool:
    at_25_min = stated.minutes * arrhenius_factor(25.0, stated.temperature_c, stated.ea_kj_per_mol)
    return LEAST_GEL_MIN <= at_25_min <= MOST_GEL_MIN


def stated_pot(hardener: Hardener) -> StatedPot:
    """What a hardener's sheet states of one pot: its gel, its time as a film carried there, its peak."""
    temperature_c = hardener.pot_life_temperature_c
    films = [
        time.minutes / FILM_SHARE * arrhenius_factor(temperature_c, time.temperature_c, EPOXY_ACTIVATION_KJ_PER_MOL)
        for time in hardener.stated_times
        if time.ends == "working time as a film"
    ]
    return StatedPot(
        hardener.pot_life_min,
        temperature_c,
        hardener.pot_life_mass_g,
        ends_at=CURED_AT[POT_LIFE_AS[hardener.pot_life_ends]],
        film_gel_min=min(films, default=None),
        peak_c=hardener.peak_exotherm_c,
    )
