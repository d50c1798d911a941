"""Instruments that are not there: a scale that a shaky hand pours on, a thermometer on a pot that kicks, a room that drifts.

They speak lines as real ones do; what they stand for is hidden from whoever plans.
"""

from collections.abc import Sequence
from math import exp, sin, tau
from random import Random

import numpy as np

# memory: a hand pours so many g/s, slows over the last of it, s, trembles by this share, and runs over by as much
_POURS_G_PER_S, _SLOWS_S, _TREMBLES, _RUNS_OVER = 18.0, 1.5, 0.3, 0.012
# memory: what a knock throws a scale by, g, and for how long, s
_KNOCK_G, _KNOCK_S = 180.0, 0.15
# memory: a thermometer's noise, K; after its gel a pot warms on so long, min, then cools with this time, min
_NOISE_K, _KICKS_MIN, _COOLS_MIN = 0.3, 2.0, 12.0
# memory: a room drifts by so much, K, in so long, min
_DRIFT_K, _DRIFT_MIN = 1.5, 90.0


class ScaleStandIn:
    """A scale with a cup that is poured into. Time goes by in `line`.

    >>> scale = ScaleStandIn(1.0, seed=1)
    >>> scale.put_cup(12)
    >>> scale.pour(60, runs_over=False)
    >>> lines = [scale.line(0.1) for _ in range(100)]
    >>> lines[-1]
    'ST, +72.0 g'
    """

    def __init__(self, step_g: float, seed: int) -> None:
        self._step_g, self._hand = step_g, Random(seed)
        self._cup_g = self._in_g = self._zero_g = 0.0
        self._on = False
        self._to_go_g = 0.0
        self._knocked_s = 0.0
        self._shown: float = 0.0

    def put_cup(self, grams: float) -> None:
        """An empty cup of so many g is put on the scale."""
        self._cup_g, self._in_g, self._on, self._zero_g = grams, 0.0, True, 0.0

    @property
    def in_g(self) -> float:
        """What is in the cup, g: as the hand knows it, not as the scale shows it."""
        return self._in_g

    def lift(self) -> None:
        """The cup is taken off."""
        self._on, self._to_go_g = False, 0.0

    def put_back(self) -> None:
        """The same cup is put on again."""
        self._on = True

    def set_to_nought(self) -> None:
        """What lies on the scale is shown as nothing."""
        self._zero_g = self._lies()

    def pour(self, grams: float, *, runs_over: bool = True) -> None:
        """So much is poured, g, or a little more."""
        over = abs(self._hand.gauss(0, _RUNS_OVER)) if runs_over else 0.0
        self._to_go_g = grams * (1 + over)

    def stop(self) -> None:
        """The hand stops."""
        self._to_go_g = 0.0

    def knock(self) -> None:
        """The bench is knocked."""
        self._knocked_s = _KNOCK_S

    def _lies(self) -> float:
        return self._cup_g + self._in_g if self._on else 0.0

    def line(self, passed_s: float) -> str:
        """What the scale sends after so many seconds more."""
        if self._to_go_g > 0 and self._on:
            trembles = 1 + self._hand.uniform(-_TREMBLES, _TREMBLES)
            rate = trembles * min(_POURS_G_PER_S, 2 * self._step_g + self._to_go_g / _SLOWS_S)
            now = min(self._to_go_g, rate * passed_s)
            self._in_g, self._to_go_g = self._in_g + now, self._to_go_g - now
        shown = self._lies() - self._zero_g + self._hand.gauss(0, 0.15 * self._step_g)
        if self._knocked_s > 0:
            shown += _KNOCK_G
            self._knocked_s -= passed_s
        shown = round(shown / self._step_g) * self._step_g
        still = abs(shown - self._shown) <= self._step_g and self._to_go_g <= 0
        self._shown = shown
        return f"{'ST' if still else 'MV'}, {'-' if shown < 0 else '+'}{abs(shown):.1f} g"


class PotStandIn:
    """What a thermometer reads of a pot that warms along a curve, minutes and °C, gels at its end, kicks and cools.

    >>> pot = PotStandIn(([0.0, 20.0], [20.0, 45.0]), room_c=20.0, seed=1)
    >>> 19 < pot.reads_c(0) < 21, pot.reads_c(20) > 43, pot.reads_c(22) > 70, pot.reads_c(200) < 22
    (True, True, True, True)
    """

    def __init__(self, curve: tuple[Sequence[float], Sequence[float]], room_c: float, seed: int) -> None:
        self._minutes, self._surface_c = np.asarray(curve[0], float), np.asarray(curve[1], float)
        self._room_c, self._noise = room_c, Random(seed)

    def reads_c(self, minute: float) -> float:
        """The surface so many minutes after its parts touched, °C, as a thermometer shows it."""
        gel_min, gels_c = float(self._minutes[-1]), float(self._surface_c[-1])
        if minute <= gel_min:
            surface_c = float(np.interp(minute, self._minutes, self._surface_c))
        else:
            kicks_c = gels_c + 1.6 * (gels_c - self._room_c)
            up = min(1.0, (minute - gel_min) / _KICKS_MIN)
            down = exp(-max(0.0, minute - gel_min - _KICKS_MIN) / _COOLS_MIN)
            surface_c = self._room_c + (gels_c + up * (kicks_c - gels_c) - self._room_c) * down
        return round(surface_c + self._noise.gauss(0, _NOISE_K), 1)


def room_reads_c(room_c: float, minute: float) -> float:
    """A room that drifts about where it was, °C.

    >>> room_reads_c(20.0, 0), room_reads_c(20.0, 22.5)
    (20.0, 21.5)
    """
    return round(room_c + _DRIFT_K * sin(tau * minute / _DRIFT_MIN), 1)
