"""What mass does to a pot of a product, by the heat model fitted to what the product states."""

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from layup.cure_kinetics import TwoPartCure
from layup.errors import OutOfRange
from layup.gel_law import arrhenius_factor
from layup.gel_table import GelTable, gel_table, rough_table
from layup.heat_fit import StatedPot, fitted_cure, rough_cure
from layup.label import GEL_FOR_END, hardener_label
from layup.materials import Hardener

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
    _stated_gel_min: dict[float, float] = field(default_factory=dict, repr=False)

    def times_stated(self, mass_g: float, temperature_c: float) -> float:
        """How many times as long a pot of a mass takes to gel as the stated mass at the same temperature."""
        if self.cup is None:
            return 1.0
        if temperature_c not in self._stated_gel_min:
            self._stated_gel_min[temperature_c] = self.cup.gel_min(self.stated.mass_g, temperature_c)
        return self.cup.gel_min(mass_g, temperature_c) / self._stated_gel_min[temperature_c]

    def peak_c(self, mass_g: float, temperature_c: float) -> float | None:
        """The mean's peak of a pot left in its cup, °C, where the model can tell."""
        return self.cup.peak_c(mass_g, temperature_c) if self.cup else None


# Where a plan takes the heat of its products from: the full model, or the rough one while that is built.
HeatOf = Callable[[StatedPot], PotHeat]


@lru_cache(maxsize=256)
def full_heat(stated: StatedPot) -> PotHeat:
    """By the full model: half a second the first time, kept after.

    >>> heat = full_heat(StatedPot(20, 25, 100))
    >>> round(20 * heat.times_stated(500, 25), 1)
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
    """What a hardener's label says of its pot: the gel by the fit, its time as a film carried there, its peak."""
    temperature_c, law = hardener.pot_life_temperature_c, hardener_label(hardener).law(hardener.pot_life_temperature_c)
    films = [
        time.minutes / GEL_FOR_END[time.ends] * arrhenius_factor(temperature_c, time.temperature_c, law.ea_kj_per_mol)
        for time in hardener.stated_times
        if time.ends == "working time as a film"
    ]
    return StatedPot(
        law.gel_min(temperature_c),
        temperature_c,
        hardener.pot_life_mass_g,
        law.ea_kj_per_mol,
        min(films, default=None),
        hardener.peak_exotherm_c,
    )
