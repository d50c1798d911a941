"""A joint's corner drawn to scale: panels, the faces wetted out, the fillet, its strips one over the other."""

from cmath import phase, rect
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import cos, pi, radians, sin

from layup.job import Joint
from layup.joints.outcome import JointResult
from layup.joints.volumes import FLAT_FROM_DEG, LEAST_ANGLE_DEG, fillet_leg_mm, fillet_throat_mm
from layup.paper.face import PLAIN, width_of
from layup.paper.shapes import SOFT, Picture, Shape
from layup.scales import METRIC, Scales

# The page's: points. Strips are hairlines at most scales, and drawn no thinner than this.
WIDE, MOST_TALL, MOST_SCALE, LEAST_STRIP = 500.0, 210.0, 6.0, 2.0
EDGE_TO_EDGE_FROM_DEG = 95.0
_TURNS = 24
_PANEL, _PASTE, _STRIP, _WET = "#E7D8B8", "#C9B48A", "#F2D08C", "#3E6B78"


@dataclass(frozen=True)
class Wedge:
    """One side of a corner: its apex and the ways of its two faces, points of the plane as complex numbers, mm."""

    apex: complex
    base: complex
    rise: complex
    angle: float

    @property
    def out(self) -> complex:
        """The way out of the corner, halfway between its faces."""
        return (self.base + self.rise) / (2 * cos(self.angle / 2))


def wedges_of(joint: Joint) -> tuple[Wedge, ...]:
    """The wedge that the fillet lies in, and the one across the panel where there are two."""
    angle = radians(joint.angle_deg)
    rise = rect(1, angle)
    near = Wedge(0, 1, rise, angle)
    if joint.sides == 1 or joint.angle_deg >= FLAT_FROM_DEG:
        return (near,)
    return near, Wedge(-joint.panel_thickness_mm / sin(angle), -1, rise, pi - angle)


def is_drawn(joint: Joint) -> bool:
    """Whether it is a corner whose faces stand far enough apart, on both sides of its panel."""
    far = joint.angle_deg <= 180 - LEAST_ANGLE_DEG or joint.angle_deg >= FLAT_FROM_DEG
    return joint.kind == "corner" and joint.angle_deg >= LEAST_ANGLE_DEG and (joint.sides == 1 or far)


def fillet_outline(wedge: Wedge, radius_mm: float) -> list[complex]:
    """The fillet as an outline, mm.

    >>> len(fillet_outline(Wedge(0, 1, 1j, pi / 2), 25))
    26
    """
    return [wedge.apex, *_arc(wedge, radius_mm, 0)]


def strip_outline(wedge: Wedge, radius_mm: float, beneath_mm: float, thick_mm: float, end_mm: float) -> list[complex]:
    """A strip as an outline, mm: its own thickness over what lies beneath it, from one end to the other."""
    under = _face(wedge, radius_mm, beneath_mm, end_mm)
    return [*under, *reversed(_face(wedge, radius_mm, beneath_mm + thick_mm, end_mm))]


def _face(wedge: Wedge, radius_mm: float, raised_mm: float, end_mm: float) -> list[complex]:
    """The fillet's face, raised by what lies on it, from one end on the base to the same on the rise."""
    first = wedge.apex + wedge.base * end_mm + _off(wedge.base, wedge.rise) * raised_mm
    last = wedge.apex + wedge.rise * end_mm + _off(wedge.rise, wedge.base) * raised_mm
    return [first, *_arc(wedge, radius_mm, raised_mm), last]


def _arc(wedge: Wedge, radius_mm: float, raised_mm: float) -> list[complex]:
    centre = wedge.apex + wedge.out * radius_mm / sin(wedge.angle / 2)
    off_base, off_rise = _off(wedge.base, wedge.rise), _off(wedge.rise, wedge.base)
    begin, turn = phase(-off_base), phase(off_rise / off_base)
    return [centre + rect(radius_mm - raised_mm, begin + turn * at / _TURNS) for at in range(_TURNS + 1)]


def _off(face: complex, other: complex) -> complex:
    """Off a face, into the open."""
    across = face * 1j
    return across if (across * other.conjugate()).real > 0 else -across


def corner_drawn(joint: Joint, result: JointResult, scales: Scales = METRIC) -> Picture:
    """A corner with its figures beneath it."""
    flat = joint.angle_deg >= FLAT_FROM_DEG
    radius = 0.0 if flat else joint.radius_mm or 0.0
    wedges, panel = wedges_of(joint), joint.panel_thickness_mm
    near = wedges[0]
    leg = 0.0 if flat else fillet_leg_mm(radius, joint.angle_deg)
    reach = max(1.5 * leg, panel * 4, 30.0, *(tab.end_mm + 12 for tab in result.tabs))
    lean, behind = cos(near.angle) * reach, reach if joint.sides == 2 or flat else 1.6 * panel
    left, right = min(-behind, lean - panel), max(reach, lean + panel)
    high = max(sin(near.angle) * reach, panel)
    scale = min(WIDE / (right - left), MOST_TALL / (high + panel), MOST_SCALE)
    top = 8 + high * scale

    def outline(points: list[complex]) -> tuple[float, ...]:
        return tuple(place for z in points for place in ((z.real - left) * scale, top - z.imag * scale))

    # Panels that open wide are stitched edge to edge; else the one stands on the other.
    end = 0.0 if joint.sides == 1 and joint.angle_deg > EDGE_TO_EDGE_FROM_DEG and not flat else left
    shapes = [Shape("fill", outline([end, right, right - 1j * panel, end - 1j * panel]), colour=_PANEL)]
    if flat:
        shapes.append(Shape("line", outline([0, -1j * panel]), thick=2))
    else:
        back = near.rise * 1j * panel
        shapes.append(Shape("fill", outline([0, near.rise * reach, near.rise * reach + back, back]), colour=_PANEL))
    wet = max(leg, *(tab.end_mm for tab in result.tabs), 0.0) + 8
    for wedge in wedges:
        ends = wedge.apex + wedge.base * wet, wedge.apex + (-wedge.base if flat else wedge.rise) * wet
        shapes.append(Shape("line", outline([ends[0], wedge.apex, wedge.apex, ends[1]]), colour=_WET, thick=2.5))
        if radius:
            shapes.append(Shape("fill", outline(fillet_outline(wedge, radius)), colour=_PASTE))
        shapes += _strips(wedge, result, radius, scale, outline, flat=flat)
    foot = top + panel * scale + 18
    told = list(_told(joint, result, radius, leg, scales))
    shapes += [Shape("text", (0, foot + 13 * row), words, colour=SOFT, size=10) for row, words in enumerate(told)]
    wide = max(WIDE, *(width_of(words, PLAIN, 10) for words in told))
    name = f"Corner of {joint.name or 'the joint'}: {told[0]}"
    return Picture(tuple(shapes), wide, foot + 13 * len(told), name)


def _strips(
    wedge: Wedge,
    result: JointResult,
    radius: float,
    scale: float,
    outline: Callable[[list[complex]], tuple[float, ...]],
    *,
    flat: bool,
) -> Iterator[Shape]:
    beneath = 0.0
    for tab in result.tabs:
        thick, end = max(tab.thickness_mm, LEAST_STRIP / scale), tab.end_mm
        if flat:
            points = [
                -end + 1j * beneath,
                end + 1j * beneath,
                end + 1j * (beneath + thick),
                -end + 1j * (beneath + thick),
            ]
        else:
            points = strip_outline(wedge, radius, min(beneath, radius * 0.9), thick, end)
        yield Shape("fill", outline(points), colour=_STRIP)
        beneath += thick


def _told(joint: Joint, result: JointResult, radius: float, leg: float, scales: Scales) -> Iterator[str]:
    panels = f"{scales.words('size', joint.panel_thickness_mm)} panels"
    if radius:
        throat = fillet_throat_mm(radius, joint.angle_deg)
        yield (
            f"fillet R {scales.words('size', radius)} at {scales.written(joint.angle_deg, '.3g')}° between {panels}: "
            f"leg {scales.words('size', leg)}, throat {scales.words('size', throat)}"
        )
    else:
        yield f"{panels} at {scales.written(joint.angle_deg, '.3g')}°"
    for number, tab in enumerate(result.tabs, 1):
        ends = f"ends {scales.words('size', tab.end_mm)} from the corner"
        yield f"strip {number}: {tab.name}, {scales.words('size', tab.width_mm)} wide, {ends}"
