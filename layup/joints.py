"""Fillets: the shape of the bead and how much paste it takes."""

from math import cos, pi, radians, sin, tan

from layup.errors import OutOfRange

FILLET_WASTE_SHARE = 0.10  # memory: squeezed past the stick and left on the board
FILLET_M_PER_MIN = 0.5  # memory: per pair of hands, drawn and cleaned
_SERIES_FROM_DEG = 179.0


def fillet_section_mm2(radius_mm: float, angle_deg: float = 90.0) -> float:
    """Cross-section of a concave fillet between two faces at an angle, mm²: r² (cot(θ/2) − (π − θ)/2).

    Near 180° the difference cancels, and the series (π − θ)³/24 stands in. Exact geometry.

    >>> round(fillet_section_mm2(25), 1)
    134.1
    """
    if radius_mm <= 0:
        raise OutOfRange("the radius must be more than nought")
    if not 0 < angle_deg < 180:
        raise OutOfRange("the faces meet at more than 0 and less than 180 degrees")
    outside = pi - radians(angle_deg)
    if angle_deg > _SERIES_FROM_DEG:
        return radius_mm**2 * outside**3 / 24
    half = radians(angle_deg) / 2
    return radius_mm**2 * (cos(half) / sin(half) - outside / 2)


def fillet_leg_mm(radius_mm: float, angle_deg: float = 90.0) -> float:
    """Distance from the corner to where the fillet meets a face, mm: r cot(θ/2).

    >>> round(fillet_leg_mm(25), 1)
    25.0
    """
    return radius_mm / tan(radians(angle_deg) / 2)


def fillet_throat_mm(radius_mm: float, angle_deg: float = 90.0) -> float:
    """Depth of the fillet from the corner to the bead's face, mm: r (1/sin(θ/2) − 1).

    >>> round(fillet_throat_mm(25), 2)
    10.36
    """
    return radius_mm * (1 / sin(radians(angle_deg) / 2) - 1)


def fillet_volume_ml(
    length_m: float, radius_mm: float, sides: int = 1, waste_share: float = FILLET_WASTE_SHARE
) -> float:
    """Paste for a 90° fillet, ml, with what is lost on the way.

    >>> round(fillet_volume_ml(2.9, 25))
    428
    """
    if length_m <= 0:
        raise OutOfRange("the length must be more than nought")
    return fillet_section_mm2(radius_mm) * length_m * sides * (1 + waste_share)
