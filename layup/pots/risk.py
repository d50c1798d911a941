"""How likely pots are to be lost: what a day's pots have in common, and what is each pot's own."""

from collections.abc import Sequence
from math import floor

import numpy as np
from scipy.special import ndtr

_NODES, _WEIGHTS = np.polynomial.hermite_e.hermegauss(61)


def chance_any_lost(used_shares: Sequence[float], common: Sequence[float], own: Sequence[float]) -> float:
    """The chance, 0 to 1, that at least one of a day's pots is past working before it is used.

    Each pot spends a share of its life. ln(life) is out by `common` standard deviations, which all the pots share
    (the gel fit, the thermometer), and by its `own` (its pace). Source: the normal distribution, integrated over what is common.

    >>> alone = chance_any_lost([0.6], [0.2], [0.1])
    >>> round(alone, 4), alone < chance_any_lost([0.6] * 5, [0.2] * 5, [0.1] * 5) < 5 * alone
    (0.0112, True)
    """
    if not len(used_shares):
        return 0.0
    margin = -np.log(np.asarray(used_shares, float))
    spread = np.maximum(np.asarray(own, float), 1e-3)
    kept = ndtr((margin - np.outer(_NODES, np.asarray(common, float))) / spread)
    # What is never out by itself is told by its own margin, not by the nodes of the rule.
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
