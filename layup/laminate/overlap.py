"""Strips laid with an overlap: how far each goes on from the last, how many layers that builds, how many it takes."""

from dataclasses import dataclass
from math import ceil, floor, isclose

from layup.errors import OutOfRange

MOST_STRIPS = 2000


@dataclass(frozen=True)
class Layers:
    """The layers that overlapping strips build: the least and the most anywhere, and their mean."""

    least: int
    mean: float
    most: int


def _require_overlap(overlap: float) -> None:
    if not 0 <= overlap < 1:
        raise OutOfRange("an overlap is from nought to less than the whole strip: at 100 % no strip gets anywhere")


def advance_m(width_m: float, overlap: float) -> float:
    """How far each strip goes on from the last: w (1 − f), m.

    >>> round(advance_m(0.3, 1 / 3), 3)
    0.2
    """
    _require_overlap(overlap)
    return width_m * (1 - overlap)


def layers(overlap: float) -> Layers:
    """The layers of strips overlapped by a fraction: 1/(1 − f) on the mean, alternating where that is not whole.

    >>> layers(1 / 3), layers(2 / 3)
    (Layers(least=1, mean=1.5, most=2), Layers(least=3, mean=3.0, most=3))
    """
    _require_overlap(overlap)
    mean = 1 / (1 - overlap)
    if isclose(mean, round(mean), rel_tol=1e-4):
        whole = round(mean)
        return Layers(whole, float(whole), whole)
    return Layers(floor(mean), round(mean, 9), ceil(mean))


def overlap_for_layers(count: float) -> float:
    """The overlap that builds a mean number of layers: 1 − 1/n. A third is not three layers.

    >>> round(overlap_for_layers(3), 4)
    0.6667
    """
    if count < 1:
        raise OutOfRange("one layer or more")
    return 1 - 1 / count


def strips_for(run_m: float, width_m: float, overlap: float) -> int:
    """Strips that build the least layers of their overlap right up to both ends of a run: ceil((run − w)/advance) + 2n − 1.

    One layer is ceil((run − w)/advance) + 1; n full ones, overlapped by 1 − 1/n, are ceil(run/advance) + n − 1. Raises
    OutOfRange for more strips than anybody lays.

    >>> strips_for(3.0, 1.27, 0.04), strips_for(2.0, 0.3, overlap_for_layers(3))
    (3, 22)
    """
    least = layers(overlap).least
    wanted = (run_m - width_m) / advance_m(width_m, overlap) + 2 * least - 1
    if wanted > MOST_STRIPS:
        raise OutOfRange(f"that is more than {MOST_STRIPS:,} strips: check the width of a strip and its overlap")
    return max(least, ceil(round(wanted, 9)))
