"""How likely pots are to be lost: what a day's pots have in common, and what is each pot's own."""

from collections.abc import Sequence
from math import floor

import numpy as np
from scipy.special import ndtr

_NODES, _WEIGHTS = np.polynomial.hermite_e.hermegauss(61)


def chance_any_lost(used_shares: Sequence[float], common: Sequence[float], own: Sequence[float]) -> float:
    """The chance, 0 to 1, that at least one of a day's pots is past working before it is used.

    Each argument has one number a pot. A pot is used when so much of its working life has gone by: `used_shares`, over 0
    and mostly under 1. Its true life differs from the plan's by a factor whose logarithm is normal, in two parts: one that
    is out the same way for all pots of the day (the gel fit, the thermometer), of standard deviation `common`, and one
    that is each pot's alone (its pace), of standard deviation `own`.

    With z the part they share, in standard deviations, pot i is kept with the chance Φ((−ln usedᵢ − z commonᵢ) ÷ ownᵢ);
    all are kept with the product of these, averaged over a normal z. Source: the normal distribution (published); the
    average by Gauss and Hermite's rule of 61 nodes (published).

    >>> alone = chance_any_lost([0.6], [0.2], [0.1])
    >>> round(alone, 4), alone < chance_any_lost([0.6] * 5, [0.2] * 5, [0.1] * 5) < 5 * alone
    (0.0112, True)
    """
    if not len(used_shares):
        return 0.0
    margin = -np.log(np.asarray(used_shares, float))
    spread = np.maximum(np.asarray(own, float), 1e-3)
    kept = ndtr((margin - np.outer(_NODES, np.asarray(common, float))) / spread)
    # The product of the chances as a sum of logarithms: a chance of nought has none, so it is held just over it.
    all_kept = np.exp(np.log(np.maximum(kept, 1e-300)).sum(axis=1))
    return float(min(1.0, max(0.0, 1 - (_WEIGHTS @ all_kept) / _WEIGHTS.sum())))


def in_such_jobs(chance: float) -> str:
    """A chance as a builder reads it.

    >>> in_such_jobs(0.2), in_such_jobs(0.0004), in_such_jobs(0.7)
    ('about one such job in 5 loses a pot', 'fewer than one such job in 1000 loses a pot', 'more than one such job in 2 loses a pot')
    """
    if chance < 0.001:
        return "fewer than one such job in 1000 loses a pot"
    if chance > 0.5:
        return "more than one such job in 2 loses a pot"
    return f"about one such job in {floor(1 / chance + 0.5)} loses a pot"
