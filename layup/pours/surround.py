"""What a pour lies in, and how a casting resin cures: fitted to the deepest pour that its sheet states."""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from layup.castings import LiesIn, Pour
from layup.heat.conduction import CONDUCTIVITY_W_PER_M_K, Body, Face, Layer
from layup.heat.cure_kinetics import Cure, TwoPartCure
from layup.heat.pour_heat import GROUND_CELLS, H_FAN, H_STILL, H_UNDER, RESIN_CELLS, follow
from layup.heat.wet_limit import cure_of
from layup.pots.mix import Mix
from layup.pours.filling import Fill

# Of what a pour lies in: thickness, density, heat, conductivity (memory).
_GROUNDS: dict[LiesIn, Layer] = {
    "softwood": Layer(0.025, 0.45, 1.6, 0.12, 0.0, GROUND_CELLS),
    "hardwood": Layer(0.025, 0.70, 1.6, 0.17, 0.0, GROUND_CELLS),
    "board": Layer(0.018, 0.70, 1.7, 0.13, 0.0, GROUND_CELLS),
    "laminate mould": Layer(0.006, 1.50, 1.2, 0.30, 0.0, GROUND_CELLS),
    "foam": Layer(0.025, 0.03, 1.4, 0.035, 0.0, GROUND_CELLS),
    "stone": Layer(0.030, 2.30, 0.9, 1.50, 0.0, GROUND_CELLS),
}
# A casting resin until its sheet is fitted: E, κ, n, gel, heat of a gram and its own heat (memory).
_CASTING = TwoPartCure(0.0, 55.0, kappa=0.05, n=2.0, heat_j_per_g=380.0, gels_at=0.55)
_CASTING_J_PER_G_K, _OTHER_J_PER_G_K, _FILL_J_PER_G_K = 1.9, 2.0, 0.71
# What a sheet's deepest pour is taken to be: in softwood, in still air, at 23 °C, with a peak of 60 °C (memory).
STATED_IN: LiesIn = "softwood"
STATED_ROOM_C, STATED_PEAK_C = 23.0, 60.0
SUN_K = 8.0  # what sun on it does, as if the room were so much warmer (memory)
NARROW_MM = 150.0  # only where a cavity is narrower do its walls take heat that counts (memory)
_LEAST_LN_A, _MOST_LN_A = -14.0, -3.0


@dataclass(frozen=True)
class Stuff:
    """What a lift is of: `resin_share` of its mass cures."""

    density_g_per_cm3: float
    resin_share: float
    heat_j_per_g_k: float


@dataclass(frozen=True)
class Surround:
    """What a pour lies in and what its lifts are of: all that its heat depends on but its depth and its room.

    The first lift is of something else than the others where `first` says so. `across_mm` is how wide it is between its
    walls, where that is narrow; else 0.
    """

    ground: Layer
    h_over: float
    stuff: Stuff
    first: Stuff | None = None
    across_mm: float = 0.0

    def body(self, depths_mm: tuple[float, ...]) -> Body:
        """Pours on one another on their ground, the last with the air over it."""
        return Body(
            "slab", (self.ground, *map(self._lift, range(len(depths_mm)), depths_mm)), Face(self.h_over), Face(H_UNDER)
        )

    def _lift(self, number: int, depth_mm: float) -> Layer:
        of = self.first if self.first and number == 0 else self.stuff
        return Layer(
            depth_mm / 1000,
            of.density_g_per_cm3,
            of.heat_j_per_g_k,
            CONDUCTIVITY_W_PER_M_K,
            of.resin_share,
            RESIN_CELLS,
            self.sink_w_per_m3_k,
        )

    @property
    def sink_w_per_m3_k(self) -> float:
        """What the walls of a narrow cavity take, 2 U/a, U = 1/(1/h + t/k + a/12k) (memory); nought where it is wide."""
        if not self.across_mm:
            return 0.0
        across, wall = self.across_mm / 1000, self.ground
        through = 1 / (
            1 / H_UNDER + wall.thickness_m / wall.conductivity_w_per_m_k + across / 12 / CONDUCTIVITY_W_PER_M_K
        )
        return 2 * through / across


def surround_of(pour: Pour, resin_g_per_ml: float, fill: Fill | None, across_mm: float, casting: bool) -> Surround:
    """What a pour lies in and what it is of.

    >>> round(surround_of(Pour(id="p"), 1.1, None, 300, True).stuff.density_g_per_cm3, 2)
    1.1
    """
    ground = _GROUNDS[pour.lies_in]
    if pour.form_mm:
        ground = replace(ground, thickness_m=pour.form_mm / 1000)
    own = _CASTING_J_PER_G_K if casting else _OTHER_J_PER_G_K
    clear = Stuff(round(resin_g_per_ml, 2), 1.0, own)
    narrow = round(across_mm) if across_mm < NARROW_MM else 0.0
    stuff = _filled(clear, fill) if fill else clear
    first = clear if fill and pour.but_the_first else None
    return Surround(ground, H_FAN if pour.fan else H_STILL, stuff, first, narrow)


def _filled(clear: Stuff, fill: Fill) -> Stuff:
    share = 1 / (1 + fill.on_resin)
    density = (1 + fill.on_resin) / (1 / clear.density_g_per_cm3 + fill.on_resin / fill.density_g_per_cm3)
    heat = share * clear.heat_j_per_g_k + (1 - share) * _FILL_J_PER_G_K
    return Stuff(round(density, 2), round(share, 3), round(heat, 3))


def in_softwood(depth_mm: float, resin_g_per_ml: float, *, casting: bool) -> Body:
    """A clear pour in a form of softwood, in still air: as a sheet's deepest pour is taken to be stated.

    >>> len(in_softwood(20, 1.1, casting=True).layers)
    2
    """
    own = _CASTING_J_PER_G_K if casting else _OTHER_J_PER_G_K
    return Surround(_GROUNDS[STATED_IN], H_STILL, Stuff(resin_g_per_ml, 1.0, own)).body((depth_mm,))


@lru_cache(maxsize=64)
def casting_cure(deepest_mm: float) -> TwoPartCure | None:
    """The cure of a casting resin whose stated deepest pour peaks at 60 °C where a sheet means it; None past all castings.

    Not fitted to its pot life: a casting tin's hours are no gel. Source: memory, unproven on real castings.

    >>> cure = casting_cure(25.0)
    >>> round(1e5 * float(np.exp(cure.ln_a)), 1)
    5.0
    """
    low, high = _LEAST_LN_A, _MOST_LN_A
    for count in (24, 8):
        paces = np.linspace(low, high, count)
        bodies = [in_softwood(deepest_mm, 1.10, casting=True)] * count
        faster = np.exp(paces).tolist()
        poured, _ = follow(
            bodies, _CASTING, [STATED_ROOM_C] * count, faster=faster, to_the_end=False, hottest_c=2 * STATED_PEAK_C
        )
        over = int(np.argmax(poured.peak_c >= STATED_PEAK_C))
        if not over:
            return None
        low, high = paces[over - 1], paces[over]
    pace = np.interp(STATED_PEAK_C, poured.peak_c[over - 1 : over + 1], paces[over - 1 : over + 1])
    return replace(_CASTING, ln_a=float(pace))


def cure_of_pour(mix: Mix, room_c: float) -> Cure | None:
    """How what a pour is mixed of cures; None where the heat model has nothing to say, or its table is still being built."""
    deepest = mix.resin.deepest_pour_mm
    if deepest and mix.resin.two_part:
        return casting_cure(deepest)
    return cure_of(mix, room_c)
