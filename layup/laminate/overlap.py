"""Strips laid with an overlap: how far each goes on from the last, how many layers that builds, how many it takes."""

from dataclasses import dataclass
from math import ceil, floor, isclose

from layup.errors import OutOfRange


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


def strips_to_cover(run_m: float, width_m: float, overlap: float) -> int:
    """Strips that cover a run once: ceil((run − w)/advance) + 1.

    >>> strips_to_cover(3.0, 1.27, 0.04)
    3
    """
    step = advance_m(width_m, overlap)
    return max(1, ceil(round((run_m - width_m) / step, 9)) + 1)


def strips_for_layers(run_m: float, width_m: float, count: int) -> int:
    """Strips for n full layers right up to both ends: ceil(run/advance) + n − 1, overlapped by 1 − 1/n.

    >>> strips_for_layers(2.0, 0.3, 3)
    22
    """
    step = advance_m(width_m, overlap_for_layers(count))
    return ceil(round(run_m / step, 9)) + count - 1
