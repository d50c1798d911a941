"""What a thermometer on a pot says of it: how fast this mix is against its label, and how long it still has.

The pot's model is run for many paces and many temperatures at which its parts touched; each reading weighs them anew. A
thermometer that reads a little high or low, and a surface that warms a little more or less than the model's, are allowed for.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf
from typing import Literal

import numpy as np

from layup.errors import OutOfRange
from layup.heat.conduction import SHAPE_POWER, Body
from layup.heat.cure_kinetics import TwoPartCure
from layup.heat.lumped_heat import cooling_per_s, warmed

# memory: how far a mix strays from its label, as the deviation of ln of its life, and its parts from where they stood, K
SIGMA_LIFE, SIGMA_START_K = 0.23, 2.0
# memory: a thermometer's own error, K; how far a surface warms otherwise than the model's, as a share; what is left of a
# reading besides, K, and as a share of what it has warmed, where a cure of another shape runs ahead or behind
_SIGMA_BIAS_K, _SIGMA_GAIN, _SIGMA_READ_K, _SIGMA_SHAPE = 1.0, 0.15, 1.0, 0.2
_LIVES, _STARTS, _REACH = 33, 9, 2.5
_STEPS = 120
# Readings so close together say one thing, min.
_AVERAGED_MIN = 0.5
# No band is told narrower than this share of a life to either side.
_LEAST_BAND = 0.03
_BAND = (0.05, 0.5, 0.95)
# A mix is called fast where it is likelier than not that it lives less than this share of its label's life (memory).
_FAST_UNDER = 0.9
# memory: prepare to use it up so many K over its own start, or with so little left, min; out of the cup at once where its
# surface rises so fast for two minutes, K/min, or with so little left
_PREPARE_OVER_K, _PREPARE_LEFT_MIN = 8.0, 6.0
_OUT_RATE_K_PER_MIN, _RATE_OVER_MIN, _OUT_LEFT_MIN = 2.0, 2.0, 4.5

Level = Literal["", "prepare", "out now"]


@dataclass(frozen=True)
class Heard:
    """What is known of a pot: when it gels, min from when its parts touched, and how many times its label's life it lives;
    each as the middle and the band that holds in nine of ten. It is `fast` where it is likelier than not much faster than
    its label."""

    gels_min: float
    gels_low_min: float
    gels_high_min: float
    life: float
    life_low: float
    life_high: float
    fast: bool


# memory: nothing in a pot is so much colder than its room and its start, K, nor warms or cools so fast, K/min
_COLDER_K, _FASTEST_K_PER_MIN = 5.0, 60.0


def believed(readings: Sequence[tuple[float, float]], coldest_c: float) -> list[tuple[float, float]]:
    """Of readings, min and °C, those that a pot can have given which began no colder than `coldest_c`: not what is read off
    the floor beside it.

    >>> believed([(5, 24.0), (6, 12.0), (7, 25.0), (7.1, 85.0), (9, 27.0)], 20.0)
    [(5, 24.0), (7, 25.0), (9, 27.0)]
    """
    kept: list[tuple[float, float]] = []
    for minute, surface_c in readings:
        step = abs(surface_c - kept[-1][1]) - _SIGMA_BIAS_K if kept else 0.0
        too_fast = kept and step > _FASTEST_K_PER_MIN * (minute - kept[-1][0])
        if surface_c >= coldest_c - _COLDER_K and not too_fast:
            kept.append((minute, surface_c))
    return kept


class Listening:
    """A pot that is listened to. `life_min` is what its label gives it as it stands, from when its parts touched at about
    `start_c`, in a room of `room_c`.

    >>> from layup.heat.conduction import cup
    >>> from layup.heat.heat_fit import StatedPot, rough_cure
    >>> pot = Listening(rough_cure(StatedPot(20, 25, 100)), cup(300), 20.0, 28.0)
    >>> for minute in range(1, 9):
    ...     pot.hear(minute, 20 + 2.5 * minute)
    >>> pot.heard(8).fast, pot.level(8)
    (True, 'out now')
    """

    def __init__(
        self, cure: TwoPartCure, body: Body, room_c: float, life_min: float, start_c: float | None = None
    ) -> None:
        self._room_c = room_c
        reach = np.linspace(-_REACH, _REACH, _LIVES), np.linspace(-_REACH, _REACH, _STARTS)
        in_life, in_start = (grid.ravel() for grid in np.meshgrid(*reach))
        self._lives = np.exp(SIGMA_LIFE * in_life)
        touched_k = (0.0 if start_c is None else start_c - room_c) + SIGMA_START_K * in_start
        minutes, over = warmed(cure, cooling_per_s(body), room_c, touched_k, 1 / self._lives, _STEPS)
        # The model gives the shape of a life; its length is the label's.
        middle = (_STARTS // 2) * _LIVES + _LIVES // 2
        self._minutes, self._over = minutes * (life_min / minutes[-1, middle]), over * _surface_share(body)
        self._gels = self._minutes[-1]
        self._prior = -0.5 * (in_life**2 + in_start**2)
        # Sums of the readings, each over its noise: 1, e, e², and with the model's warming u: u, u², eu.
        self._n, self._e, self._ee, self._u, self._uu, self._eu = np.zeros((6, len(self._lives)))
        self._means: list[tuple[float, float]] = []
        self._by_gel, self._by_life = np.argsort(self._gels), np.argsort(self._lives)
        self._waiting: list[tuple[float, float]] = []
        self._last_min = -inf

    def hear(self, minute: float, surface_c: float) -> None:
        """Take a reading of the pot's surface, °C, so many minutes after its parts touched.

        Raises OutOfRange for one from before the last.

        >>> from layup.heat.conduction import cup
        >>> from layup.heat.heat_fit import StatedPot, rough_cure
        >>> pot = Listening(rough_cure(StatedPot(20, 25, 100)), cup(300), 20.0, 28.0)
        >>> pot.hear(3, 21)
        >>> pot.hear(2, 21)
        Traceback (most recent call last):
        layup.errors.OutOfRange: that reading is older than the last
        """
        if minute < self._last_min:
            raise OutOfRange("that reading is older than the last")
        alone, self._last_min = minute - self._last_min >= _AVERAGED_MIN, minute
        if alone:
            self._weigh_waiting()
        self._waiting.append((minute, surface_c))
        if alone or minute - self._waiting[0][0] >= _AVERAGED_MIN:
            self._weigh_waiting()

    def heard(self, now_min: float) -> Heard:
        """What is known so many minutes after its parts touched, of a pot that has not gelled yet."""
        weights = self._weights(now_min)
        low, gels, high = (float(at) for at in _quantiles(self._gels, weights, self._by_gel))
        life_low, life, life_high = (float(at) for at in _quantiles(self._lives, weights, self._by_life))
        fast = bool(weights[self._lives < _FAST_UNDER].sum() > 0.5)
        least = _LEAST_BAND * gels
        return Heard(gels, min(low, gels - least), max(high, gels + least), life, life_low, life_high, fast)

    def expected(self, minutes: Sequence[float]) -> list[tuple[float, float, float]]:
        """What its label lets one expect of its surface at such minutes, °C: the low, the middle and the high of nine in ten.

        >>> from layup.heat.conduction import cup
        >>> from layup.heat.heat_fit import StatedPot, rough_cure
        >>> pot = Listening(rough_cure(StatedPot(20, 25, 100)), cup(300), 20.0, 28.0)
        >>> low, middle, high = pot.expected([14.0])[0]
        >>> low < middle < high
        True
        """
        weights = np.exp(self._prior) / np.exp(self._prior).sum()
        told = []
        for minute in minutes:
            over = _at(self._minutes, self._over, minute)
            low, middle, high = (self._room_c + float(at) for at in _quantiles(over, weights, np.argsort(over)))
            told.append((low, middle, high))
        return told

    @property
    def means(self) -> list[tuple[float, float]]:
        """The readings as they were weighed: minutes and °C, those close together as one."""
        return [*self._means, *([tuple(np.mean(self._waiting, axis=0).tolist())] if self._waiting else [])]

    def level(self, now_min: float) -> Level:
        """What is to be done about it: prepare to use it up, or get it out of its cup now."""
        if not self._means:
            return ""
        left_min = self.heard(now_min).gels_low_min - now_min
        (minute, surface_c), started_c = self._means[-1], self._means[0][1]
        before = [mean for mean in self._means if minute - mean[0] >= _RATE_OVER_MIN]
        rate = (surface_c - before[-1][1]) / (minute - before[-1][0]) if before else 0.0
        if rate > _OUT_RATE_K_PER_MIN or left_min < _OUT_LEFT_MIN:
            return "out now"
        warmed_k = surface_c - started_c
        return "prepare" if warmed_k >= _PREPARE_OVER_K or left_min < _PREPARE_LEFT_MIN else ""

    def _weigh_waiting(self) -> None:
        if self._waiting:
            minute, surface_c = np.mean(self._waiting, axis=0)
            self._weigh(float(minute), float(surface_c))
        self._waiting = []

    def _weigh(self, minute: float, surface_c: float) -> None:
        """Every pace and start weighed by a reading."""
        over = _at(self._minutes, self._over, minute)
        e, u = surface_c - self._room_c - over, over - self._over[0]
        self._means.append((minute, surface_c))
        noise = _SIGMA_READ_K**2 + (_SIGMA_SHAPE * (surface_c - self._means[0][1])) ** 2
        self._n += 1 / noise
        self._e += e / noise
        self._ee += e * e / noise
        self._u += u / noise
        self._uu += u * u / noise
        self._eu += e * u / noise

    def _weights(self, now_min: float) -> np.ndarray:
        """How much each pace and start is believed, as shares."""
        log = self._prior + self._log_likelihood()
        alive = self._gels > now_min
        if not alive.any():
            # It lives longer than any that was thought of.
            alive = self._gels >= self._gels.max()
        log = np.where(alive, log, -np.inf)
        weights = np.exp(log - log.max())
        return weights / weights.sum()

    def _log_likelihood(self) -> np.ndarray:
        """Of all readings, with the thermometer's bias and the surface's gain summed over (a normal prior and a straight
        line: closed form, textbook)."""
        a, b, d = self._n + 1 / _SIGMA_BIAS_K**2, self._u, self._uu + 1 / _SIGMA_GAIN**2
        det = a * d - b * b
        explained = (d * self._e**2 - 2 * b * self._e * self._eu + a * self._eu**2) / det
        return -0.5 * (np.log(det) + self._ee - explained)


def surface_of(
    cure: TwoPartCure, body: Body, room_c: float, life_min: float, start_c: float | None = None
) -> tuple[np.ndarray, np.ndarray]:
    """How the surface of a pot warms until it gels at `life_min`: minutes from when its parts touched, and °C.

    >>> from layup.heat.conduction import cup
    >>> from layup.heat.heat_fit import StatedPot, rough_cure
    >>> minutes, surface_c = surface_of(rough_cure(StatedPot(20, 25, 100)), cup(300), 20.0, 28.0)
    >>> round(float(minutes[-1]), 6), round(float(surface_c[0]), 6), bool(surface_c[-1] > 35)
    (28.0, 20.0, True)
    """
    start_k = np.array([0.0 if start_c is None else start_c - room_c])
    minutes, over = warmed(cure, cooling_per_s(body), room_c, start_k, np.ones(1), _STEPS)
    return minutes[:, 0] * (life_min / minutes[-1, 0]), room_c + over[:, 0] * _surface_share(body)


def _surface_share(body: Body) -> float:
    """How warm the surface of a body of one layer is, over its room, for a kelvin of its mean: heated evenly through."""
    (layer,) = body.layers
    inside = layer.thickness_m / ((SHAPE_POWER[body.shape] + 3) * layer.conductivity_w_per_m_k)
    return 1 / (1 + body.outer.h_w_per_m2_k * inside)


def _at(minutes: np.ndarray, over: np.ndarray, minute: float) -> np.ndarray:
    """The rise of each column at a minute, straight between its steps; at its gel past it."""
    place = np.clip((minutes <= minute).sum(axis=0) - 1, 0, len(minutes) - 2)
    columns = np.arange(minutes.shape[1])
    begin, end = minutes[place, columns], minutes[place + 1, columns]
    share = np.clip((minute - begin) / (end - begin), 0.0, 1.0)
    return over[place, columns] + share * (over[place + 1, columns] - over[place, columns])


def _quantiles(values: np.ndarray, weights: np.ndarray, order: np.ndarray) -> np.ndarray:
    """The values under which lie the shares of a band, between those that were thought of."""
    along = np.cumsum(weights[order]) - weights[order] / 2
    return np.interp(_BAND, along, values[order])
