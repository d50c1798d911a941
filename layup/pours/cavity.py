"""How much a cavity holds: even or tapering, measured along a waney edge or at stations, a disc; less what stands in it."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import hypot, isclose, pi

from scipy.integrate import simpson, trapezoid

from layup.castings import Insert, Pour, Reading
from layup.errors import Missing, OutOfRange, known

_AS_EVEN_AS = 1e-6
# What may stand in a pour: with more there is no pour left round it.
_MOST_TAKEN = 0.95


@dataclass(frozen=True)
class Cavity:
    """One cavity: litres to its brim, its open surface and its wetted walls and floor, m², how deep it is and how wide at
    its narrowest measure, mm, and how long the dam round it is, m. `inserts_l` are taken off the litres.
    """

    volume_l: float
    surface_m2: float
    wetted_m2: float
    deepest_mm: float
    across_mm: float
    round_m: float
    inserts_l: float = 0.0


def tapered_l(
    length_m: float,
    width_mm: float,
    depth_mm: float,
    end_width_mm: float | None = None,
    end_depth_mm: float | None = None,
) -> float:
    """Litres of a cavity whose width and depth run evenly from one end to the other: L/6 (A₀ + 4 Aₘ + A₁). Exact geometry.

    >>> round(tapered_l(0.6, 300, 10, end_depth_mm=25), 3), round(tapered_l(0.6, 300, 20), 3)
    (3.15, 3.6)
    """
    far_w, far_d = (
        width_mm if end_width_mm is None else end_width_mm,
        depth_mm if end_depth_mm is None else end_depth_mm,
    )
    middle = (width_mm + far_w) / 2 * (depth_mm + far_d) / 2
    return length_m / 6 * (width_mm * depth_mm + 4 * middle + far_w * far_d) / 1000


def disc_l(diameter_mm: float, depth_mm: float) -> float:
    """Litres of a disc: π d²/4 by its depth. Exact geometry.

    >>> round(disc_l(300, 20), 3)
    1.414
    """
    return pi * diameter_mm**2 / 4 * depth_mm / 1e6


def along(places_m: Sequence[float], values: Sequence[float]) -> float:
    """What runs along a length, summed over it: by Simpson's rule where an odd number of readings is even, else between
    each two in a straight line. Published rules.

    >>> widths = (300, 340, 360, 330, 310)
    >>> round(along((0, 0.25, 0.5, 0.75, 1), widths) * 25 / 1000, 3), round(along((0, 0.25, 0.5, 1), widths[:4]) * 25 / 1000, 3)
    (8.354, 8.5)
    """
    steps = [b - a for a, b in pairwise(places_m)]
    even = all(isclose(step, steps[0], rel_tol=_AS_EVEN_AS) for step in steps)
    rule = simpson if even and len(places_m) % 2 else trapezoid
    return float(rule(values, x=places_m))


def cavity_of(pour: Pour) -> Cavity:
    """A pour's cavity. Raises Missing for a measure that is not typed, OutOfRange for one that cannot be, at its field."""
    whole = {"even": _even, "readings": _read, "disc": _disc}[pour.shape](pour)
    taken_l, through_m2 = _inserts(pour.inserts, whole.deepest_mm)
    if taken_l > _MOST_TAKEN * whole.volume_l:
        raise OutOfRange("what stands in it fills it: read the sizes again", "inserts")
    return Cavity(
        whole.volume_l - taken_l,
        max(whole.surface_m2 - through_m2, (1 - _MOST_TAKEN) * whole.surface_m2),
        whole.wetted_m2,
        whole.deepest_mm,
        whole.across_mm,
        whole.round_m,
        taken_l,
    )


def _asked(value: float | None, field: str, ask: str) -> float:
    if value is None:
        raise Missing(ask, field)
    return value


def _even(pour: Pour) -> Cavity:
    length = _asked(pour.length_m, "length_m", "type how long the cavity is")
    width = _asked(pour.width_mm, "width_mm", "type how wide the cavity is")
    depth = _asked(pour.depth_mm, "depth_mm", "type how deep it is poured")
    far_w, far_d = pour.end_width_mm or width, pour.end_depth_mm or depth
    side = hypot(length, (far_w - width) / 2000)
    surface = length * (width + far_w) / 2000
    walls = (width * depth + far_w * far_d) / 1e6 + 2 * side * (depth + far_d) / 2000
    return Cavity(
        tapered_l(length, width, depth, far_w, far_d),
        surface,
        surface + walls,
        max(depth, far_d),
        min(max(width, far_w), 1000 * length),
        2 * side + (width + far_w) / 1000,
    )


def _read(pour: Pour) -> Cavity:
    length = _asked(pour.length_m, "length_m", "type how long the cavity is")
    depth = _asked(pour.depth_mm, "depth_mm", "type how deep it is poured")
    if len(pour.readings) < 2:
        raise Missing("read its width at two places along it at the least", "readings")
    places = _places(pour.readings, length)
    widths = [
        _asked(each.width_mm, f"readings.{at}.width_mm", "type how wide it is here")
        for at, each in enumerate(pour.readings)
    ]
    depths = [depth if each.depth_mm is None else each.depth_mm for each in pour.readings]
    volume = along(places, [w * d for w, d in zip(widths, depths, strict=True)]) / 1000
    surface = along(places, widths) / 1000
    if volume <= 0 or surface <= 0:
        raise OutOfRange("it is nought wide, or nought deep, all along", "readings.0.width_mm")
    sides = sum(
        hypot(places[at + 1] - places[at], (widths[at + 1] - widths[at]) / 2000) for at in range(len(places) - 1)
    )
    mean_mm = volume / surface
    dam = 2 * sides + (widths[0] + widths[-1]) / 1000
    return Cavity(volume, surface, surface + dam * mean_mm / 1000, max(depths), 1000 * surface / places[-1], dam)


def _places(readings: Sequence[Reading], length_m: float) -> list[float]:
    """Where the readings are, from end to end; evenly where none says where."""
    typed = [each.at_m for each in readings]
    if all(at is None for at in typed):
        return [length_m * at / (len(readings) - 1) for at in range(len(readings))]
    for at, place in enumerate(typed):
        if place is None:
            raise Missing(
                "say where this one was read, or leave all of them out: they are then even", f"readings.{at}.at_m"
            )
    places = [known(place) for place in typed]
    for at, (before, after) in enumerate(pairwise(places), 1):
        if after <= before:
            raise OutOfRange(
                "read from one end to the other: this one is no further along than the last", f"readings.{at}.at_m"
            )
    if places[0] > 0 or not isclose(places[-1], length_m, rel_tol=0.005):
        raise OutOfRange(
            "the first is read at one end, at nought, and the last at the other",
            f"readings.{0 if places[0] else len(places) - 1}.at_m",
        )
    return places


def _disc(pour: Pour) -> Cavity:
    across = _asked(pour.diameter_mm, "diameter_mm", "type how wide the disc is")
    depth = _asked(pour.depth_mm, "depth_mm", "type how deep it is poured")
    surface, round_m = pi * (across / 2000) ** 2, pi * across / 1000
    return Cavity(disc_l(across, depth), surface, surface + round_m * depth / 1000, depth, across, round_m)


def _inserts(inserts: Sequence[Insert], deepest_mm: float) -> tuple[float, float]:
    """What inserts take of a pour, litres, and of its open surface where they come through it, m²."""
    litres = through = 0.0
    for at, each in enumerate(inserts):
        path = f"inserts.{at}"
        length = _asked(each.length_mm, f"{path}.length_mm", "type how long it is")
        width = _asked(each.width_mm, f"{path}.width_mm", "type how wide it is")
        depth = min(_asked(each.depth_mm, f"{path}.depth_mm", "type how high it stands"), deepest_mm)
        litres += each.count * length * width * depth / 1e6
        through += each.count * length * width / 1e6 if depth >= deepest_mm else 0.0
    return litres, through
