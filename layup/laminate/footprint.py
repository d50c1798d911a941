"""Where a ply lies on its part: its strip, how far it runs past, the flat pieces it covers, the strips it is laid in."""

from collections.abc import Iterator
from math import sqrt

from layup.errors import Missing, known
from layup.job import Part, Ply, PlyStrips
from layup.laminate.measures import Measured, patch_extra_mm
from layup.laminate.overlap import overlap_for_layers, strips_for
from layup.shapes import Band


def extra_mm(part: Part, place: int) -> float:
    """How far a ply runs past its part on every side, mm: a patch's steps, or what was written."""
    if part.shape.kind == "patch":
        return patch_extra_mm(part.shape, *place_among_fabrics(part, place))
    return part.plies[place].extra_mm


def place_among_fabrics(part: Part, place: int) -> tuple[int, int]:
    """The place of a ply among those of fabric, and how many there are; a coat goes with the ply it lies on."""
    fabrics = [at for at, ply in enumerate(part.plies) if not ply.coat]
    return max(0, sum(at <= place for at in fabrics) - 1), len(fabrics)


def band_of(part: Part, ply: Ply) -> Band:
    """The named strip a ply lies on. Raises Missing where the part has none of it, or not its measures."""
    band = next((band for band in part.bands if band.id == ply.band_id), None)
    if band is None:
        raise Missing("the strip this ply lay on is gone: write its stack again", "band_id")
    if band.width_m is None or band.length_m is None:
        raise Missing(f"type the width and the length of the strip “{band.name}” under Measure", "band_id")
    return band


def flat_sizes(part: Part, place: int, measured: Measured) -> Iterator[tuple[float, float]]:
    """(length, width) of each flat piece a ply covers on one copy, mm, with its margin and what it runs past."""
    ply = part.plies[place]
    if part.shape.kind == "patch":
        wider = 2 * extra_mm(part, place)
        long, wide = sorted((known(part.shape.length_m), known(part.shape.width_m)), reverse=True)
        yield long * 1000 + wider, wide * 1000 + wider
        return
    partial = band_of(part, ply) if ply.band_id else ply.over
    if partial is not None and partial.width_m and partial.length_m:
        long, wide = sorted((partial.length_m, partial.width_m), reverse=True)
        yield long * 1000 + 2 * ply.extra_mm, wide * 1000 + 2 * ply.extra_mm
        return
    # A surface that curves two ways is longer each way by the root of what it gains.
    grown = sqrt(part.developed_area_factor) * 1000
    wider = 2 * (part.margin_mm + ply.extra_mm)
    for polygon in measured.pieces:
        xs, ys = [x for x, _ in polygon], [y for _, y in polygon]
        yield (max(xs) - min(xs)) * grown + wider, (max(ys) - min(ys)) * grown + wider


def overlap_of(strips: PlyStrips) -> float:
    """The share of its width that each strip overlaps the last."""
    return strips.overlap if strips.layers is None else overlap_for_layers(strips.layers)


def strips_laid(part: Part, place: int, measured: Measured) -> Iterator[tuple[int, float]]:
    """(count, length in mm) of the strips a ply is laid in, one flat piece after the other, along its longer run."""
    strips = known(part.plies[place].strips)
    wide_m = known(strips.width_m)
    for length_mm, width_mm in flat_sizes(part, place, measured):
        yield strips_for(length_mm / 1000, wide_m, overlap_of(strips)), width_mm
