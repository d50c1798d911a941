"""Gel times off a label or out of the shop's log, fitted: a value with its band, from one point or from thirty.

Bayesian linear regression in log time on the gel law of `gel`, with Student-t weights, so that one wild point does not
own the answer. The shop's own gels share the fit, with one offset that says how far the shop is from the label.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import exp, isfinite, log, sqrt
from operator import mul

import numpy as np
from scipy.optimize import lsq_linear

from layup.chemistry.gel_law import GAS_CONSTANT_J_PER_MOL_K
from layup.errors import OutOfRange
from layup.materials import LEAST_STATED_C as LEAST_C
from layup.materials import MOST_STATED_C as MOST_C
from layup.units import figures

REFERENCE_K = 293.15
REFERENCE_PCT = 1.0
NOISE = 0.10  # of ln t (memory)
DEGREES_OF_FREEDOM = 4
FAR_OFF = 3.0  # predictive deviations past which a point is asked about
FEWEST_TO_TELL = 4
_LEAST_N = 0.05
PER_DOUBLING = log(0.90)  # of ln t: a pot heavier than the stated one gels a tenth sooner a doubling (memory)
_ROUNDS, _SETTLED = 60, 1e-10


@dataclass(frozen=True)
class GelPoint:
    """One gel time: at a temperature, and for a catalysed resin at a dose. `shop` for one of the shop's own.

    `doublings` is how many times its pot doubles the mass that the label speaks of. Where a model already expects a
    time, `expected_min`, the fit is of how far the gel is from it. `share_of_gel` is where a stated time ended that the
    gel was worked out from: a question about it is asked in the time that was stated. `spread` is the deviation of its ln
    besides the noise of every gel: of one that was heard and not seen.
    """

    temperature_c: float
    minutes: float
    catalyst_pct: float | None = None
    shop: bool = False
    doublings: float = 0.0
    expected_min: float = 1.0
    share_of_gel: float = 1.0
    spread: float = 0.0


@dataclass(frozen=True)
class GelPrior:
    """What is held of a product before its label is read: a mean and a standard deviation of each.

    `gel_min` is at 20 °C and, of a catalysed resin, at 1 %. Its deviation and the shop offset's are of ln t.
    `least_ea_kj` keeps more heat from lengthening a gel. `per_doubling` is what a doubling of the mass adds to ln t of a two-part pot.
    """

    gel_min: float = 30.0
    gel_sd: float = 0.5
    ea_kj_per_mol: float = 51.2
    ea_sd: float = 8.0
    n: float | None = 1.0
    n_sd: float = 0.15
    least_ea_kj: float = 5.0
    per_doubling: float = PER_DOUBLING
    per_doubling_sd: float = 0.05
    shop_sd: float = 0.15


@dataclass(frozen=True)
class FarOff:
    """A point far from what the others say: its place, and the question to ask."""

    place: int
    question: str


@dataclass(frozen=True)
class GelFit:
    """A fit: posterior mean and covariance of (ln t at reference, Ea in kJ/mol, n or per doubling, shop offset)."""

    prior: GelPrior
    points: tuple[GelPoint, ...]
    mean: tuple[float, ...]
    covariance: np.ndarray
    weights: tuple[float, ...]

    @property
    def ea_kj_per_mol(self) -> float:
        return self.mean[1]

    @property
    def n(self) -> float | None:
        return None if self.prior.n is None else self.mean[2]

    @property
    def per_doubling(self) -> float:
        """What a doubling of the mass adds to ln t; nought for a catalysed resin."""
        return self.mean[2] if self.prior.n is None else 0.0

    @property
    def shop_gels(self) -> int:
        """How many of the points are the shop's own."""
        return sum(point.shop for point in self.points)

    @property
    def shop_offset(self) -> float:
        """How far the shop's gels are from the label's, in ln t: −0.1 is ten per cent sooner."""
        return self.mean[-1]

    def ln_gel(
        self, temperature_c: float, catalyst_pct: float | None = None, *, shop: bool = True, doublings: float = 0.0
    ) -> tuple[float, float]:
        """ln of the gel time, min, and its predictive standard deviation, noise included."""
        # A plan asks hundreds of times, and four numbers are no work for an array.
        row = _terms(self.prior, GelPoint(temperature_c, 1.0, catalyst_pct, shop, doublings))
        spread = sum(
            one * other * between
            for one, line in zip(row, self._spread, strict=True)
            for other, between in zip(row, line, strict=True)
        )
        return sum(map(mul, row, self.mean)), sqrt(spread + NOISE**2)

    @cached_property
    def _spread(self) -> list[list[float]]:
        return self.covariance.tolist()

    def gel_min(self, temperature_c: float, catalyst_pct: float | None = None, *, shop: bool = True) -> float:
        """The gel time, min, at a temperature and dose; of this shop unless told otherwise."""
        return exp(self.ln_gel(temperature_c, catalyst_pct, shop=shop)[0])

    @cached_property
    def far_off(self) -> tuple[FarOff, ...]:
        """The points that lie over three predictive deviations from what the rest say."""
        found = []
        for place, point in enumerate(self.points):
            rest = fit_gel([other for at, other in enumerate(self.points) if at != place], self.prior)
            if question := doubt_about(point, rest):
                found.append(FarOff(place, question))
        return tuple(found)

    @property
    def can_tell(self) -> bool:
        """Whether there are points enough to say which of them is wrong."""
        return len(self.points) >= FEWEST_TO_TELL


def fit_gel(points: Sequence[GelPoint], prior: GelPrior = GelPrior()) -> GelFit:
    """Fit gel times: Bayesian linear regression in log time, noise 0.10, weights 5/(4 + (r/0.10)²) to convergence.

    A point that is less sure has its spread beside the noise. Without points it is the prior. More heat and more catalyst never lengthen a gel: the two slopes stay above nought.
    Raises OutOfRange, at the point's own field, for a time or dose that is nought or less. Source: the weights are
    those of a Student t with four degrees of freedom (published, Lange, Little and Taylor 1989); deviations memory.

    >>> fit = fit_gel([GelPoint(20, 30, 1.0), GelPoint(30, 15, 1.0)])
    >>> round(fit.gel_min(25, 1.0)), round(fit.gel_min(20, 2.0))
    (21, 15)
    >>> round(fit_gel([]).gel_min(20, 1.0), 6)
    30.0
    """
    for place, point in enumerate(points):
        _check(point, place, prior)
    prior_mean, prior_sd = _prior_vectors(prior)
    rows = np.array([_row(prior, point) for point in points]).reshape(-1, len(prior_mean))
    told = np.log([point.minutes / point.expected_min for point in points])
    noise = np.hypot(NOISE, [point.spread for point in points])
    weights = np.ones(len(points))
    mean = prior_mean
    for _ in range(_ROUNDS):
        before, mean = mean, _most_likely(rows, told, np.sqrt(weights) / noise, prior)
        residual = (told - rows @ mean) / noise
        weights = (DEGREES_OF_FREEDOM + 1) / (DEGREES_OF_FREEDOM + residual**2)
        if np.max(np.abs(mean - before), initial=0) < _SETTLED:
            break
    precision = np.diag(prior_sd**-2.0) + rows.T @ ((weights / noise**2)[:, None] * rows)
    return GelFit(prior, tuple(points), tuple(map(float, mean)), np.linalg.inv(precision), tuple(map(float, weights)))


def with_stated(prior: GelPrior, gel_min: float, temperature_c: float) -> GelPrior:
    """A prior moved to one stated time, carried to the reference temperature by its own activation energy.

    >>> round(with_stated(GelPrior(ea_kj_per_mol=53, n=None), 20, 25).gel_min, 1)
    28.8
    """
    slope = prior.ea_kj_per_mol * 1000 / GAS_CONSTANT_J_PER_MOL_K
    at_reference = log(gel_min) - slope * (1 / (temperature_c + 273.15) - 1 / REFERENCE_K)
    return replace(prior, gel_min=exp(at_reference))


def doubt_about(point: GelPoint, fit: GelFit) -> str:
    """The question to ask about a point as it is typed, or nothing: the commonest slips are named.

    >>> doubt_about(GelPoint(20, 0.5, 1.0), fit_gel([]))
    '0.5 min at 20 °C, where about 30 is expected: half an hour?'
    >>> doubt_about(GelPoint(20, 28, 1.0), fit_gel([]))
    ''
    """
    at = (point.temperature_c, point.catalyst_pct)
    off_expected, deviation = fit.ln_gel(*at, shop=point.shop, doublings=point.doublings)
    expected = off_expected + log(point.expected_min)
    off = (log(point.minutes) - expected) / deviation
    if abs(off) <= FAR_OFF:
        return ""
    share = point.share_of_gel
    told, expects = point.minutes * share, exp(expected) * share
    said = f"{figures(told, 4)} min at {point.temperature_c:g} °C, where about {expects:.0f} is expected"
    if point.catalyst_pct is not None and point.catalyst_pct < 0.1:
        return f"{said}: is {point.catalyst_pct:g} a fraction, {100 * point.catalyst_pct:g} %?"
    for factor, question in ((60, "half an hour?" if told == 0.5 else "hours?"), (1 / 60, "seconds?")):
        if abs(log(point.minutes * factor) - expected) / deviation <= FAR_OFF:
            return f"{said}: {question}"
    return f"{said}: is it so?"


def _check(point: GelPoint, place: int, prior: GelPrior) -> None:
    if not (isfinite(point.minutes) and point.minutes > 0):
        raise OutOfRange("a gel takes more than no time: type its minutes", f"{place}.minutes")
    if not LEAST_C <= point.temperature_c <= MOST_C:
        raise OutOfRange("no resin gels at that temperature: check its unit", f"{place}.temperature_c")
    if prior.n is not None and not (point.catalyst_pct and point.catalyst_pct > 0):
        raise OutOfRange("type the catalyst, % by weight", f"{place}.catalyst_pct")


def _row(prior: GelPrior, point: GelPoint) -> np.ndarray:
    return np.array(_terms(prior, point))


def _terms(prior: GelPrior, point: GelPoint) -> tuple[float, float, float, float]:
    """A catalysed resin's pace goes by its dose, a two-part pot's by its mass: the third column is the one or the other."""
    warmth = 1000 / GAS_CONSTANT_J_PER_MOL_K * (1 / (point.temperature_c + 273.15) - 1 / REFERENCE_K)
    pace = point.doublings if prior.n is None else -log((point.catalyst_pct or REFERENCE_PCT) / REFERENCE_PCT)
    return 1.0, warmth, pace, 1.0 if point.shop else 0.0


def _prior_vectors(prior: GelPrior) -> tuple[np.ndarray, np.ndarray]:
    pace, pace_sd = (prior.per_doubling, prior.per_doubling_sd) if prior.n is None else (prior.n, prior.n_sd)
    mean = [log(prior.gel_min), prior.ea_kj_per_mol, pace, 0.0]
    return np.array(mean), np.array([prior.gel_sd, prior.ea_sd, pace_sd, prior.shop_sd])


def _most_likely(rows: np.ndarray, told: np.ndarray, scale: np.ndarray, prior: GelPrior) -> np.ndarray:
    """The most likely parameters, with both slopes above nought: least squares on points and prior together."""
    prior_mean, prior_sd = _prior_vectors(prior)
    system = np.vstack([scale[:, None] * rows, np.diag(1 / prior_sd)])
    wanted = np.concatenate([scale * told, prior_mean / prior_sd])
    free = np.linalg.lstsq(system, wanted, rcond=None)[0]
    least = np.full(len(prior_mean), -np.inf)
    least[1] = prior.least_ea_kj
    if prior.n is not None:
        least[2] = _LEAST_N
    if np.all(free >= least):
        return free
    return lsq_linear(system, wanted, bounds=(least, np.inf)).x
