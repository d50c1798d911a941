"""Bending of a strip of layers, per width. Thickness in mm, modulus in GPa, stiffness in N·m² per m of width."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import exp, hypot, log

# How far a thickness strays, as the deviation of its ln (memory).
THICKNESS_STRAYS = 0.06
# Nine in ten lie within so many deviations.
_BAND = 1.645
_STEP = 1e-4


@dataclass(frozen=True)
class Layer:
    """A layer of a strip, from the side that nothing is laid on; `strays` is the deviation of ln of its modulus. Layers of one
    `kind` stray together."""

    name: str
    thickness_mm: float
    gpa: float
    strays: float
    source: str
    kind: str
    old: bool


def axis_mm(layers: Sequence[Layer]) -> float:
    """How far the neutral axis lies from the first face, mm: Σ E t y / Σ E t (textbook).

    >>> both = [Layer("", 10, 8, 0, "", "a", True), Layer("", 10, 8, 0, "", "a", True)]
    >>> axis_mm(both)
    10.0
    """
    low, weighed, total = 0.0, 0.0, 0.0
    for layer in layers:
        weighed += layer.gpa * layer.thickness_mm * (low + layer.thickness_mm / 2)
        total += layer.gpa * layer.thickness_mm
        low += layer.thickness_mm
    return weighed / total


def stiffness_nm(layers: Sequence[Layer]) -> float:
    """EI of a strip per width, N·m² per m: Σ E (t³/12 + t d²) about its neutral axis (textbook).

    A strip alone, without what shear adds in a soft core.

    >>> round(stiffness_nm([Layer("plywood", 9, 8, 0, "", "plywood", True)]), 1)
    486.0
    """
    axis, low, total = axis_mm(layers), 0.0, 0.0
    for layer in layers:
        middle = low + layer.thickness_mm / 2
        total += layer.gpa * (layer.thickness_mm**3 / 12 + layer.thickness_mm * (middle - axis) ** 2)
        low += layer.thickness_mm
    return total


@dataclass(frozen=True)
class Ratio:
    """How many times as stiff after as before: told, and within what nine in ten lie."""

    times: float
    low: float
    high: float


def ratio_of(before: Sequence[Layer], after: Sequence[Layer]) -> Ratio:
    """After over before, with its band: what is not known well of each modulus and thickness, to first order.

    Source: published form (propagation of uncorrelated errors); the deviations memory.

    >>> wood = Layer("plywood", 9, 8, 0.2, "", "plywood", True)
    >>> ratio_of([wood], [wood])
    Ratio(times=1.0, low=1.0, high=1.0)
    """
    told = log(stiffness_nm(after) / stiffness_nm(before))
    strays = 0.0
    for kind in sorted({layer.kind for layer in after}):
        for of_thickness in (False, True):
            moved = [[_moved(each, kind, of_thickness=of_thickness) for each in layers] for layers in (before, after)]
            change = (log(stiffness_nm(moved[1]) / stiffness_nm(moved[0])) - told) / _STEP
            by = THICKNESS_STRAYS if of_thickness else max(each.strays for each in after if each.kind == kind)
            strays = hypot(strays, change * by)
    return Ratio(exp(told), exp(told - _BAND * strays), exp(told + _BAND * strays))


def _moved(layer: Layer, kind: str, *, of_thickness: bool) -> Layer:
    if layer.kind != kind:
        return layer
    more = 1 + _STEP
    return (
        replace(layer, thickness_mm=layer.thickness_mm * more) if of_thickness else replace(layer, gpa=layer.gpa * more)
    )
