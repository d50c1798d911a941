"""Areas of what a builder measures, and of the plies on it. Lengths in m, areas in m²."""

from collections.abc import Sequence
from itertools import pairwise
from math import hypot, isclose, pi

from layup.errors import OutOfRange


def _positive(*lengths_m: float) -> None:
    if min(lengths_m) <= 0:
        raise OutOfRange("a side must be more than nought")


def rectangle_area_m2(width_m: float, length_m: float) -> float:
    """Area of a rectangle, m². Raises OutOfRange unless both sides are more than nought.

    >>> rectangle_area_m2(1.2, 3.5)
    4.2
    """
    _positive(width_m, length_m)
    return width_m * length_m


def trapezoid_area_m2(side_a_m: float, side_b_m: float, height_m: float) -> float:
    """Area between two parallel sides: (a + b) h / 2, m². Exact geometry.

    >>> trapezoid_area_m2(0.8, 1.2, 0.5)
    0.5
    """
    _positive(side_a_m, side_b_m, height_m)
    return (side_a_m + side_b_m) / 2 * height_m


def triangle_area_m2(base_m: float, height_m: float) -> float:
    """Area of a triangle: b h / 2, m². Exact geometry.

    >>> triangle_area_m2(1.2, 0.5)
    0.3
    """
    _positive(base_m, height_m)
    return base_m * height_m / 2


def disc_area_m2(diameter_m: float) -> float:
    """Area of a disc: π d²/4, m². Exact geometry.

    >>> round(disc_area_m2(1.35), 3)
    1.431
    """
    _positive(diameter_m)
    return pi * diameter_m**2 / 4


def cylinder_skin_area_m2(diameter_m: float, length_m: float, around: float = 1.0) -> float:
    """Skin of a cylinder, or of a part of its turn: π d l · around, m². Exact geometry.

    >>> round(cylinder_skin_area_m2(0.3, 2, 0.5), 4)
    0.9425
    """
    _positive(diameter_m, length_m)
    return pi * diameter_m * length_m * around


def frustum_slant_m(diameter_a_m: float, diameter_b_m: float, height_m: float) -> float:
    """Length of a frustum's side, m.

    >>> frustum_slant_m(1.0, 0.4, 0.4)
    0.5
    """
    return hypot(height_m, (diameter_a_m - diameter_b_m) / 2)


def frustum_skin_area_m2(diameter_a_m: float, diameter_b_m: float, height_m: float) -> float:
    """Skin of a cone cut off at both ends: π (a + b)/2 · slant, m². Exact geometry.

    >>> round(frustum_skin_area_m2(1.0, 0.4, 0.4), 4)
    1.0996
    """
    _positive(diameter_a_m, diameter_b_m, height_m)
    return pi * (diameter_a_m + diameter_b_m) / 2 * frustum_slant_m(diameter_a_m, diameter_b_m, height_m)


def girths_area_m2(at_m: Sequence[float], girth_m: Sequence[float]) -> tuple[float, str]:
    """Area under girths taken at stations, m², and the rule it was taken by.

    Simpson's rule where the spacing is even and the count odd, the trapezium rule otherwise. Raises OutOfRange for
    fewer than two stations or stations out of order. Source: published (the
    composite rules of Simpson and of trapezia; exact for a girth that runs as a cubic, or straight from station to station).

    >>> girths_area_m2([0, 1, 2], [0.8, 1.0, 0.6])
    (1.8, 'Simpson')
    >>> girths_area_m2([0, 1, 3], [0.8, 1.0, 0.6])[1]
    'trapezium'
    """
    if len(at_m) < 2:
        raise OutOfRange("two stations or more")
    steps = [after - before for before, after in pairwise(at_m)]
    if min(steps) <= 0:
        raise OutOfRange("the stations run from one end to the other: each further along than the last")
    even = all(isclose(step, steps[0], rel_tol=1e-6) for step in steps)
    if even and len(at_m) % 2 == 1:
        weights = [1, *(4 if at % 2 else 2 for at in range(1, len(at_m) - 1)), 1]
        total = sum(weight * girth for weight, girth in zip(weights, girth_m, strict=True))
        return round(total * steps[0] / 3, 12), "Simpson"
    pairs = pairwise(girth_m)
    return sum(step * (a + b) / 2 for step, (a, b) in zip(steps, pairs, strict=True)), "trapezium"


def grown_area_m2(area_m2: float, perimeter_m: float, extra_mm: float) -> float:
    """Area of a ply that runs `extra_mm` past the part on every side, square at the corners, m².

    Exact for a rectangle: (w + 2e)(l + 2e) = wl + 2e(w + l) + 4e².

    >>> round(grown_area_m2(2.0, 6.0, 50), 4)
    2.31
    """
    extra_m = extra_mm / 1000
    return area_m2 + perimeter_m * extra_m + 4 * extra_m**2


def square_perimeter_m(area_m2: float) -> float:
    """Perimeter of the square of an area, m: stands in where only the area was typed (a long part has more edge).

    >>> square_perimeter_m(4.0)
    8.0
    """
    return 4 * area_m2**0.5
