"""A part's plies laid on what lies there: by how much they stiffen it, and what would stiffen it more."""

from collections.abc import Iterator, Sequence
from dataclasses import replace

from layup.architecture import Architecture
from layup.as_found import OldLayer
from layup.errors import Missing, OutOfRange
from layup.job import Part
from layup.laminate.outcome import PartResult, PlyResult
from layup.laminate.weights import thickness_mm
from layup.materials import FIBRE_DENSITY_G_PER_CM3
from layup.stiffness.bending import Layer, axis_mm, ratio_of, stiffness_nm
from layup.stiffness.moduli import OLD, modulus_of
from layup.stiffness.outcome import OtherStiffening, StiffLayer, StiffResult

# A core that is laid between to compare with, mm, and how stiff it is, GPa (memory).
_CORE_MM, _CORE_GPA, _CORE_STRAYS = 10.0, 0.08, 0.30
# Biaxial as it is laid by hand in the place of mat: its fibre by weight (published, from memory) and its resin's density (memory).
_BIAXIAL_SHARE, _RESIN_G_PER_CM3 = 0.50, 1.2
_STRAYS_TYPED = 0.05


def old_layers(layers: Sequence[OldLayer]) -> list[Layer]:
    """What lies there. Raises Missing, with the layer's field as its path, for one that nobody measured."""
    told = []
    for number, layer in enumerate(layers):
        if layer.thickness_mm is None:
            raise Missing("how thick is it? Measure it at an edge or a hole", f"layers.{number}.thickness_mm")
        known = OLD[layer.made_of]
        if layer.modulus_gpa is None:
            told.append(
                Layer(layer.made_of, layer.thickness_mm, known.gpa, known.strays, known.source, layer.made_of, True)
            )
        else:
            kind = f"{layer.made_of} {layer.modulus_gpa}"
            told.append(
                Layer(layer.made_of, layer.thickness_mm, layer.modulus_gpa, _STRAYS_TYPED, "data sheet", kind, True)
            )
    return told


def laid_layers(plies: Sequence[PlyResult]) -> list[Layer]:
    """What is laid on it, from it outward; what sinks in or comes off again is none."""
    told = []
    for ply in plies:
        modulus = modulus_of(ply)
        if modulus is None or not ply.stays or ply.thickness_mm <= 0:
            continue
        kind = f"{ply.architecture} {ply.fibre}"
        told.append(Layer(ply.name, ply.thickness_mm, modulus.gpa, modulus.strays, modulus.source, kind, False))
    return told


def stiffened(part: Part, told: PartResult) -> StiffResult:
    """How a part's plies stiffen what lies there. Raises Missing and OutOfRange, with the field of `found` as its path."""
    before = old_layers(part.found.layers)
    laid = laid_layers(told.plies)
    if not laid:
        raise Missing("write the plies that are to stiffen it", "layers")
    after = [*before, *laid]
    ratio = ratio_of(before, after)
    seen = _seen_times(part)
    return StiffResult(
        id=part.id,
        name=part.name,
        layers=tuple(_told(after)),
        before_nm=stiffness_nm(before),
        after_nm=stiffness_nm(after),
        times=ratio.times,
        low=ratio.low,
        high=ratio.high,
        axis_before_mm=axis_mm(before),
        axis_after_mm=axis_mm(after),
        added_gsm=told.laminate_gsm,
        others=tuple(_others(before, laid, told.plies)),
        seen_times=seen,
        seen_within=None if seen is None else ratio.low <= seen <= ratio.high,
    )


def _seen_times(part: Part) -> float | None:
    found = part.found
    if found.gave_before_mm is None or found.gave_after_mm is None:
        return None
    if found.gave_after_mm > found.gave_before_mm:
        raise OutOfRange(
            "it gave more after than before: the same person at the same place? Or the two are swapped", "gave_after_mm"
        )
    return found.gave_before_mm / found.gave_after_mm


def _told(layers: Sequence[Layer]) -> Iterator[StiffLayer]:
    axis, low, whole = axis_mm(layers), 0.0, stiffness_nm(layers)
    for layer in layers:
        middle = low + layer.thickness_mm / 2
        own = layer.gpa * (layer.thickness_mm**3 / 12 + layer.thickness_mm * (middle - axis) ** 2)
        low += layer.thickness_mm
        yield StiffLayer(
            name=layer.name,
            thickness_mm=layer.thickness_mm,
            modulus_gpa=layer.gpa,
            source=layer.source,
            old=layer.old,
            share=own / whole,
        )


def _others(before: Sequence[Layer], laid: Sequence[Layer], plies: Sequence[PlyResult]) -> Iterator[OtherStiffening]:
    first = stiffness_nm(before)
    core = Layer("core", _CORE_MM, _CORE_GPA, _CORE_STRAYS, "memory", "core", False)
    halves = [replace(layer, thickness_mm=layer.thickness_mm / 2) for layer in laid]
    yield OtherStiffening(way="other face", times=stiffness_nm([*reversed(halves), *before, *halves]) / first)
    yield OtherStiffening(way="core between", times=stiffness_nm([*before, core, *laid]) / first, core_mm=_CORE_MM)
    if any(_mat(ply) for ply in plies):
        yield OtherStiffening(
            way="biaxial for mat",
            times=stiffness_nm([*before, *laid_layers([_as_biaxial(ply) for ply in plies])]) / first,
        )
    yield OtherStiffening(way="twice as much", times=stiffness_nm([*before, *laid, *laid]) / first)


def _mat(ply: PlyResult) -> bool:
    return ply.architecture is Architecture.CHOPPED_MAT and ply.fibre == "E-glass"


def _as_biaxial(ply: PlyResult) -> PlyResult:
    """The same weight of glass stitched, along the strip and across it."""
    if not _mat(ply):
        return ply
    resin = ply.fibre_gsm * (1 - _BIAXIAL_SHARE) / _BIAXIAL_SHARE
    density = FIBRE_DENSITY_G_PER_CM3["E-glass"]
    thick = thickness_mm(ply.fibre_gsm, resin, density, _RESIN_G_PER_CM3)
    return ply.model_copy(
        update={
            "architecture": Architecture.BIAXIAL,
            "fibre_weight_fraction": _BIAXIAL_SHARE,
            "fibre_volume_fraction": ply.fibre_gsm / density / 1000 / thick,
            "thickness_mm": thick,
            "resin_gsm": resin,
        }
    )
