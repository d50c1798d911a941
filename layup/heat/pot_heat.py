"""What mass does to a pot of a product, by the heat model fitted to what the product states."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np

from layup.chemistry.ends import gel_of, gel_of_pot_life
from layup.chemistry.gel_law import EPOXY_ACTIVATION_KJ_PER_MOL, arrhenius_factor
from layup.errors import OutOfRange
from layup.heat.cure_kinetics import TwoPartCure
from layup.heat.gel_table import COLDEST_C, WARMEST_C, GelTable, gel_table, rough_table
from layup.heat.heat_fit import StatedPot, fitted_cure, rough_cure
from layup.materials import Hardener

LEAST_TRAY_GAIN = 0.20  # memory
PotVessel = Literal["cup", "tray", "tray on a cool pack"]
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

    def gel_min(self, mass_g: float, temperature_c: float) -> float:
        """Minutes to gel of a pot in its cup. Past the table, and without one, the law of a gel carries it on."""
        if self.cup is None:
            return self.stated.gel_min * self._warmth(temperature_c, self.stated.temperature_c)
        held_c = min(max(temperature_c, COLDEST_C), WARMEST_C)
        gel = self.cup.gel_min(mass_g, held_c) * self._to_stated
        return gel if held_c == temperature_c else gel * self._warmth(temperature_c, held_c)

    @cached_property
    def _to_stated(self) -> float:
        """What brings the table to the stated pot exactly."""
        stated = self.stated
        held_c = min(max(stated.temperature_c, COLDEST_C), WARMEST_C)
        return stated.gel_min / (self.cup.gel_min(stated.mass_g, held_c) * self._warmth(stated.temperature_c, held_c))

    def poured(self, vessel: PotVessel, *, roughly: bool = False) -> GelTable | None:
        """The same of its pots poured into a tray, by their depth, mm; half a second the first time, unless `roughly`.

        Until the full model stands a tray on a cool pack is taken for a plain one.
        """
        if self.cure is None:
            return None
        if self.rough or roughly:
            return _rough_tray(self.cure)
        return gel_table(self.cure, "cool pack" if vessel == "tray on a cool pack" else "tray")

    def poured_gain(
        self, vessel: PotVessel, mass_g: float, depth_mm: float, temperature_c: float, *, roughly: bool = False
    ) -> float:
        """How many times as long a pot lives poured into a tray as in its cup; one where the model cannot tell.

        A gain under 20 % is called none (memory).
        """
        table = self.poured(vessel, roughly=roughly)
        if table is None:
            return 1.0
        held_c = min(max(temperature_c, COLDEST_C), WARMEST_C)
        gain = table.gel_min(depth_mm, held_c) / self.cup.gel_min(mass_g, held_c)
        return gain if gain >= 1 + LEAST_TRAY_GAIN else 1.0

    def _warmth(self, temperature_c: float, from_c: float) -> float:
        return arrhenius_factor(temperature_c, from_c, self.stated.ea_kj_per_mol)

    def peak_c(self, mass_g: float, temperature_c: float) -> float | None:
        """The mean's peak of a pot left in its cup, °C, where the model can tell."""
        return self.cup.peak_c(mass_g, temperature_c) if self.cup else None


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
    at_25_min = stated.gel_min * arrhenius_factor(25.0, stated.temperature_c, stated.ea_kj_per_mol)
    return LEAST_GEL_MIN <= at_25_min <= MOST_GEL_MIN


def stated_pot(hardener: Hardener) -> StatedPot:
    """What a hardener's sheet states of one pot: its gel, its time as a film carried there, its peak."""
    temperature_c = hardener.pot_life_temperature_c
    films = [
        gel_of(time.minutes, time.ends)
        * arrhenius_factor(temperature_c, time.temperature_c, EPOXY_ACTIVATION_KJ_PER_MOL)
        for time in hardener.stated_times
        if time.ends == "working time as a film"
    ]
    return StatedPot(
        gel_of_pot_life(hardener.pot_life_min, hardener.pot_life_ends),
        temperature_c,
        hardener.pot_life_mass_g,
        film_gel_min=min(films, default=None),
        peak_c=hardener.peak_exotherm_c,
    )
