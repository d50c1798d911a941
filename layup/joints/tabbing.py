"""Tabbing: strips laid over a fillet, each wider than the last, and where their edges come to lie."""

from dataclasses import dataclass
from math import pi, radians

from layup.errors import OutOfRange
from layup.joints.volumes import fillet_leg_mm
from layup.laminate.overlap import strips_for

LEAST_FLAT_MM = 25.0  # common practice: less of it on a face peels
FIRST_STRIP_MM = 90.0  # common practice: 75 to 100
STAGGER_MM = 25.0  # common practice: what a strip ends past the one beneath, on both legs


@dataclass(frozen=True)
class LaidStrip:
    """One strip over a fillet: the radius it turns, how much of it lies flat on each face, where it ends, mm."""

    radius_mm: float
    flat_mm: float
    end_mm: float


def lay_strip(width_mm: float, radius_mm: float, angle_deg: float, beneath_mm: float = 0.0) -> LaidStrip:
    """A strip of a width laid over a fillet with so much laminate beneath it.

    Its ends are (w − r(π − θ))/2 + r cot(θ/2) from the corner. What lies beneath takes from the radius, since the fillet
    is hollow: the centre of its arc stays where it is, out in the air, and so do the ends of the arc along the faces.
    Raises OutOfRange where under 25 mm of it lies flat on a face, or nothing is left of the radius. Exact geometry.

    >>> round(lay_strip(190, 25, 90).end_mm, 1)
    100.4
    """
    radius = radius_mm - beneath_mm
    if radius <= 0:
        raise OutOfRange("what lies beneath has filled the fillet: take a larger radius, or fewer strips")
    flat = (width_mm - _arc_mm(radius, angle_deg)) / 2
    if flat < LEAST_FLAT_MM:
        least = least_width_mm(radius_mm, angle_deg, beneath_mm)
        raise OutOfRange(
            f"leaves {{={max(flat, 0):.0f} mm}} flat on each face, and under {{{LEAST_FLAT_MM:g} mm}} peels: "
            f"{{={least:.0f} mm}} wide at least"
        )
    return LaidStrip(radius, flat, flat + (fillet_leg_mm(radius_mm, angle_deg) if angle_deg < 180 else 0.0))


def _arc_mm(radius_mm: float, angle_deg: float) -> float:
    return radius_mm * (pi - radians(angle_deg))


def least_width_mm(radius_mm: float, angle_deg: float, beneath_mm: float = 0.0) -> float:
    """The narrowest strip that still lies 25 mm flat on each face, mm.

    >>> round(least_width_mm(25, 90), 1)
    89.3
    """
    return 2 * LEAST_FLAT_MM + _arc_mm(max(radius_mm - beneath_mm, 0.0), angle_deg)


def next_width_mm(last_mm: float | None, radius_mm: float, angle_deg: float) -> float:
    """The usual width of the next strip, mm: 25 mm past the last on both legs; of the first, what is usual or what this
    fillet needs, rounded up to what is read off a rule (common practice).

    >>> next_width_mm(None, 25, 90), next_width_mm(90, 25, 90), next_width_mm(None, 50, 60)
    (90.0, 140.0, 155.0)
    """
    if last_mm is not None:
        return last_mm + 2 * STAGGER_MM
    return max(FIRST_STRIP_MM, -(-least_width_mm(radius_mm, angle_deg) // 5) * 5)


def lengths_laid(run_m: float, piece_m: float | None, overlap: float) -> tuple[int, float]:
    """How many lengths a strip is laid in and how long each is, m; one piece where none is asked for.

    >>> lengths_laid(2.9, 1.0, 1 / 3)
    (4, 1.0)
    >>> lengths_laid(2.9, None, 1 / 3)
    (1, 2.9)
    """
    if piece_m is None or piece_m >= run_m:
        return 1, run_m
    return strips_for(run_m, piece_m, overlap), piece_m
