"""One ply on one part: its area as it is laid, the fibre and the resin in it, how thick it comes to."""

from math import isclose

from layup.coats.film import film_to_go_by, liquid_g_per_ml
from layup.errors import Missing, OutOfRange, known
from layup.job import Part, Ply, Practice
from layup.laminate.areas import grown_area_m2, rectangle_area_m2
from layup.laminate.footprint import band_of, extra_mm, overlap_of, strips_laid
from layup.laminate.measures import Measured
from layup.laminate.outcome import PlyResult
from layup.laminate.overlap import Layers, layers
from layup.laminate.weights import (
    TABLE_PULL_MBAR,
    fibre_density_g_per_cm3,
    fibre_volume_fraction,
    fibre_weight_fraction,
    pressed_fraction,
    resin_areal_weight_gsm,
    thickness_mm,
)
from layup.library import generic
from layup.materials import Fabric, ResinSystem

CURED_DENSITY_G_PER_CM3 = 1.15  # memory: where no resin is chosen yet
# What is drunk by what lies under it, or squeegeed off, and builds no thickness (memory).
_SINKS_IN = ("wet-out", "slurry")
_COAT_NAMES = {coat.kind: coat.name for coat in generic().coats}


def net_area_m2(part: Part, measured: Measured, extra: float, holes_m2: float) -> float:
    """Area of one copy of a part, grown by its margin and by `extra` mm a side, less its holes, m²."""
    outline = measured.area_m2 * part.developed_area_factor
    return grown_area_m2(outline, measured.perimeter_m, part.margin_mm + extra) - holes_m2


def ply_result(
    part: Part,
    place: int,
    fabric: Fabric,
    measured: Measured,
    holes_m2: float,
    practice: Practice,
    resin: ResinSystem | None,
    pull_mbar: float | None = None,
) -> PlyResult:
    """What a ply comes to, under a bag with what presses on it, mbar. Raises LayupError, with the ply's own field as its path, where it cannot be."""
    ply = part.plies[place]
    laid, strip_count = _layers(part, place, fabric, measured)
    extra = extra_mm(part, place)
    area = _area_m2(part, ply, measured, extra, holes_m2) * laid.mean
    cured = resin.cured_density_g_per_cm3 if resin else CURED_DENSITY_G_PER_CM3
    fibre = fabric.areal_weight_gsm
    fraction, source, mopped_share = _fraction(part, ply, fabric, practice)
    by_hand_gsm = _by_hand_gsm(part, ply, fabric, practice)
    if fraction is not None and pull_mbar is not None and ply.fibre_weight_fraction is None:
        fraction = pressed_fraction(fraction, fibre_density_g_per_cm3(fabric), cured, pull_mbar)
        # A bag presses out of what was laid, and adds nothing.
        fraction = max(fraction, fibre / (fibre + by_hand_gsm)) if by_hand_gsm else fraction
        if round(pull_mbar) != round(TABLE_PULL_MBAR):
            source = f"{source}; at {pull_mbar:.0f} mbar that press on it (published form, its number memory)"
    held = known(fabric.resin_taken_gsm) if fraction is None else resin_areal_weight_gsm(fibre, fraction)
    density = fibre_density_g_per_cm3(fabric)
    thick = fabric.core_thickness_mm if fabric.core_thickness_mm else thickness_mm(fibre, held, density, cured)
    return PlyResult(
        id=ply.id,
        name=fabric.name,
        architecture=fabric.architecture,
        fibre=fabric.fibre,
        angle=ply.angle,
        area_m2=area,
        fibre_gsm=fibre * laid.mean,
        resin_gsm=held * laid.mean,
        fibre_weight_fraction=fraction,
        fraction_source=source,
        resin_to_fibre=None if fraction is None else held / fibre,
        thickness_mm=(thick if fabric.stays else 0) * laid.mean,
        fibre_volume_fraction=None if fraction is None else fibre_volume_fraction(fibre, thick, density),
        fibre_g=fibre * area,
        resin_g=held * area,
        mopped_off_g=held * area * mopped_share,
        bled_g=max(0.0, by_hand_gsm - held) * area,
        roll_m=area / (fabric.roll_width_mm / 1000),
        tightest_radius_mm=fabric.tightest_radius_mm,
        stays=fabric.stays,
        layers_least=laid.least,
        layers_mean=laid.mean,
        layers_most=laid.most,
        strip_count=strip_count,
        extra_mm=extra,
    )


def _by_hand_gsm(part: Part, ply: Ply, fabric: Fabric, practice: Practice) -> float:
    """What is laid by hand of a ply that a bag then presses lean, g/m²; nought where none bleeds."""
    if part.process != "vacuum bag" or not fabric.reinforces:
        return 0.0
    by_hand = part.model_copy(update={"process": "open mould"})
    try:
        fraction, _, _ = _fraction(by_hand, ply.model_copy(update={"fibre_weight_fraction": None}), fabric, practice)
    except Missing:
        return 0.0
    return resin_areal_weight_gsm(fabric.areal_weight_gsm, known(fraction))


def coat_result(part: Part, place: int, measured: Measured, holes_m2: float, resin: ResinSystem | None) -> PlyResult:
    """What a coat comes to."""
    ply = part.plies[place]
    coat = known(ply.coat)
    extra = extra_mm(part, place)
    area = _area_m2(part, ply, measured, extra, holes_m2)
    film = film_to_go_by(coat, liquid_g_per_ml(resin))
    cured = resin.cured_density_g_per_cm3 if resin else CURED_DENSITY_G_PER_CM3
    builds = coat.kind not in _SINKS_IN
    return PlyResult(
        id=ply.id,
        name=_COAT_NAMES[coat.kind],
        architecture="coat",
        fibre="none",
        angle="",
        area_m2=area,
        fibre_gsm=0,
        resin_gsm=film.gsm,
        fibre_weight_fraction=None,
        fraction_source="a coat, as written",
        resin_to_fibre=None,
        thickness_mm=film.gsm * coat.solids_pct / 100 / cured / 1000 if builds else 0,
        fibre_volume_fraction=None,
        fibre_g=0,
        resin_g=film.gsm * area,
        mopped_off_g=0,
        roll_m=0,
        tightest_radius_mm=0,
        extra_mm=extra,
        coat=coat.kind,
        coat_count=film.count,
        lost_g=film.gsm * area * film.loss_share,
    )


def _area_m2(part: Part, ply: Ply, measured: Measured, extra: float, holes_m2: float) -> float:
    partial = band_of(part, ply) if ply.band_id else ply.over
    if partial is not None and partial.width_m and partial.length_m:
        edge = 2 * (partial.width_m + partial.length_m)
        return grown_area_m2(rectangle_area_m2(partial.width_m, partial.length_m), edge, extra)
    if part.shape.kind == "patch":
        width, length = known(part.shape.width_m), known(part.shape.length_m)
        return grown_area_m2(rectangle_area_m2(width, length), 2 * (width + length), extra)
    return net_area_m2(part, measured, extra, holes_m2)


def _layers(part: Part, place: int, fabric: Fabric, measured: Measured) -> tuple[Layers, int | None]:
    """The layers a ply builds, and the strips it takes where it is laid in strips."""
    ply = part.plies[place]
    if ply.strips is None or ply.strips.width_m is None:
        return Layers(1, 1.0, 1), None
    roll_m = fabric.roll_width_mm / 1000
    if ply.strips.width_m > roll_m and not isclose(ply.strips.width_m, roll_m):
        message = f"{fabric.name} comes {{={fabric.roll_width_mm:g} mm}} wide: a strip can be no wider"
        raise OutOfRange(message, "strips.width_m")
    try:
        return layers(overlap_of(ply.strips)), sum(count for count, _ in strips_laid(part, place, measured))
    except OutOfRange as error:
        raise OutOfRange(error.message, "strips.width_m") from error


def _fraction(part: Part, ply: Ply, fabric: Fabric, practice: Practice) -> tuple[float | None, str, float]:
    if not fabric.reinforces:
        return None, f"resin it takes: {fabric.sources['resin_taken_gsm']}", 0.0
    if ply.fibre_weight_fraction is not None:
        return ply.fibre_weight_fraction, "data sheet", 0.0
    found = fibre_weight_fraction(fabric, part.surface, practice.resin_content, part.process)
    return found.value, found.source, found.mopped_off_share
