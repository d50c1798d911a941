"""Volumes of joints: fillets at any angle, glue lines, scarfs, gaps, bedding, holes; and how big a bag's corner is cut."""

from math import pi, radians, sin, sqrt, tan

from layup.errors import OutOfRange
from layup.usual import SCARF_SLOPE, SQUEEZE_OUT_SHARE

LEAST_ANGLE_DEG = 5.0  # memory: under it the faces all but touch, and what joins them is a glue line
FLAT_FROM_DEG = 179.0  # memory: no stick draws a fillet there
FILLET_WASTE_SHARE = 0.10  # memory: squeezed past the stick and left on the board
GLUE_LINE_MM = 0.5  # common practice
NOTCHED_SHARE = 0.5  # common practice: what a notched trowel leaves of the height of its teeth
LEAST_RADII, MOST_RADII = 1.0, 3.0  # common practice: a fillet's radius in thicknesses of its panel
_SERIES_FROM_DEG = 179.0


def fillet_section_mm2(radius_mm: float, angle_deg: float = 90.0) -> float:
    """Cross-section of a concave fillet between two faces at an angle, mm²: r² (cot(θ/2) − (π − θ)/2).

    Near 180° the difference cancels, and the series (π − θ)³/24 stands in. Raises OutOfRange for an angle that is none of
    a corner. Exact geometry.

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
    return radius_mm**2 * (1 / tan(radians(angle_deg) / 2) - outside / 2)


def fillet_leg_mm(radius_mm: float, angle_deg: float = 90.0) -> float:
    """Distance from the corner to where the fillet meets a face, mm: r cot(θ/2).

    >>> round(fillet_leg_mm(25), 1)
    25.0
    """
    return radius_mm / tan(radians(angle_deg) / 2)


def radius_for_leg_mm(leg_mm: float, angle_deg: float = 90.0) -> float:
    """The radius whose fillet reaches so far along each face, mm.

    >>> round(radius_for_leg_mm(fillet_leg_mm(25, 120), 120), 6)
    25.0
    """
    return leg_mm * tan(radians(angle_deg) / 2)


def fillet_throat_mm(radius_mm: float, angle_deg: float = 90.0) -> float:
    """Depth of the fillet from the corner to the bead's face, mm: r (1/sin(θ/2) − 1).

    >>> round(fillet_throat_mm(25), 2)
    10.36
    """
    return radius_mm * (1 / sin(radians(angle_deg) / 2) - 1)


def fillet_arc_mm(radius_mm: float, angle_deg: float = 90.0) -> float:
    """Length of the fillet's face across, mm: r (π − θ). It is what the smoothing brush covers.

    >>> round(fillet_arc_mm(25), 1)
    39.3
    """
    return radius_mm * (pi - radians(angle_deg))


def fillet_volume_ml(
    length_m: float,
    radius_mm: float,
    sides: int = 1,
    angle_deg: float = 90.0,
    waste_share: float = FILLET_WASTE_SHARE,
) -> float:
    """Paste for a fillet, ml, with what is lost on the way. On the other side of a panel the faces meet at 180° − θ.

    >>> round(fillet_volume_ml(2.9, 25))
    428
    >>> round(fillet_volume_ml(1, 25, 2, 70) - fillet_volume_ml(1, 25, 1, 70) - fillet_volume_ml(1, 25, 1, 110), 9)
    0.0
    """
    if length_m <= 0:
        raise OutOfRange("the length must be more than nought")
    section = sum(fillet_section_mm2(radius_mm, angle) for angle in side_angles_deg(angle_deg, sides))
    return section * length_m * (1 + waste_share)


def side_angles_deg(angle_deg: float, sides: int) -> tuple[float, ...]:
    """The angle at which the faces meet on each side of a panel that stands on another.

    >>> side_angles_deg(70, 2)
    (70, 110)
    """
    return (angle_deg, 180 - angle_deg) if sides == 2 else (angle_deg,)


def glue_line_ml(
    area_m2: float, thickness_mm: float = GLUE_LINE_MM, squeeze_out_share: float = SQUEEZE_OUT_SHARE
) -> float:
    """Paste for a glue line, ml: area × thickness × (1 + squeeze-out). A joint that does not ooze is starved.

    >>> round(glue_line_ml(0.1))
    60
    """
    return area_m2 * thickness_mm * 1000 * (1 + squeeze_out_share)


def scarf_face_mm(stock_mm: float, slope: float = SCARF_SLOPE) -> float:
    """Length of the sloped face of a scarf of 1 in `slope`, mm: t √(1 + s²). Exact geometry.

    >>> round(scarf_face_mm(6, 8), 2)
    48.37
    """
    if stock_mm <= 0 or slope <= 0:
        raise OutOfRange("a scarf has a thickness and a slope, both more than nought")
    return stock_mm * sqrt(1 + slope**2)


def gap_ml(width_mm: float, depth_mm: float, length_m: float) -> float:
    """What fills a gap, ml: width × depth × length.

    >>> gap_ml(4, 9, 2)
    72
    """
    return width_mm * depth_mm * length_m


def bedding_ml(area_m2: float, height_mm: float, share: float = NOTCHED_SHARE) -> float:
    """What a notched trowel lays, ml: area × height of its teeth × the share they leave.

    >>> bedding_ml(0.5, 4)
    1000.0
    """
    return area_m2 * height_mm * share * 1000


def hole_ml(diameter_mm: float, depth_mm: float) -> float:
    """What a screw hole takes, ml.

    >>> round(hole_ml(4, 12), 3)
    0.151
    """
    return pi / 4 * diameter_mm**2 * depth_mm / 1000


def bag_opening_mm(section_mm2: float) -> float:
    """Where to cut a bag's corner, mm across: a round bead of the same section, which the stick then draws (memory).

    >>> round(bag_opening_mm(134.1))
    13
    """
    return sqrt(4 * section_mm2 / pi)
