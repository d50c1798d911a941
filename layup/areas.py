"""Areas of parts and of the plies on them, in m²."""

from layup.errors import OutOfRange


def rectangle_area_m2(width_m: float, length_m: float) -> float:
    """Area of a rectangle, m². Raises OutOfRange unless both sides are more than nought.

    >>> rectangle_area_m2(1.2, 3.5)
    4.2
    """
    if width_m <= 0 or length_m <= 0:
        raise OutOfRange("a side must be more than nought")
    return width_m * length_m


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
