"""One casting worked out: its cavity, what fills it, its heat and lifts, and the work they make."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import partial
from math import inf, isfinite

from layup.castings import Pour
from layup.errors import LayupError, Missing
from layup.heat.cure_kinetics import Cure
from layup.job import JobSpec
from layup.materials import Filler
from layup.pots.mix import Mix
from layup.pots.sizing import COAT_MIN_PER_M2
from layup.pots.work import Handling, Sets, StirsIn, Waits, Work
from layup.pours.cavity import Cavity, cavity_of
from layup.pours.filling import FACE_SHARE, Fill, Filled, chopped_fill, filled, filled_in_lifts, in_all, on_the_resin
from layup.pours.lifts import Lift, cool_lifts, deepest_mm, even_lifts, lifts_of
from layup.pours.surround import SUN_K, Surround, cure_of_pour, surround_of

# A thin stream, so that it carries no air down: so much a minute (memory), whatever hands there are.
POURED_G_PER_MIN = 500.0
FACE_MIN_PER_M2 = 8.0  # resin worked in by brush and roller (memory)
SEAL_GSM = 100.0  # memory
OPEN_GRAINED = ("softwood", "hardwood", "board")

# Takes a path, what is the matter there, and whether what stands there is wrong rather than missing.
Say = Callable[[str, str, bool], None]


@dataclass(frozen=True)
class PlannedPour:
    """A casting worked out, in the resin in use `use_id`. Figures are of one of it.

    `of_lifts` is what each lift takes, `filled` all of them, `other` with the volume of the fill counted the other way.
    `deepest_mm` is the deepest single pour under its peak, and `lifts` what the heat model says of each; without the model,
    `cure` and `deepest_mm` are None, `lifts` are empty and `depths_mm` alone tell how it is poured.
    """

    path: str
    pour: Pour
    use_id: str
    room_c: float
    cavity: Cavity
    fill: Fill | None
    of_lifts: tuple[Filled, ...]
    filled: Filled
    other: Filled | None
    surround: Surround
    cure: Cure | None
    deepest_mm: float | None
    depths_mm: tuple[float, ...]
    lifts: tuple[Lift, ...]
    seal_g: float
    seal_use_id: str
    works: tuple[Work, ...]


def plan_pour(
    path: str, pour: Pour, job: JobSpec, mix: Mix, fillers: Mapping[str, Filler], say: Say
) -> PlannedPour | None:
    """A casting worked out, or None where something is missing; what, and what cannot be, goes to `say` at its field."""
    density, held = mix.density_g_per_ml, pour.held_back
    try:
        cavity = cavity_of(pour)
        fill = _fill(pour, fillers)
        # One that does not fit is refused before anything is worked out with it.
        filled(cavity.volume_l, cavity.surface_m2, density, fill)
    except LayupError as error:
        say(f"{path}.{error.path or 'depth_mm'}", error.message, not isinstance(error, Missing))
        return None
    room_c = round(2 * (mix.room_c + (SUN_K if pour.in_the_sun else 0.0))) / 2
    surround = surround_of(pour, density, fill, cavity.across_mm, bool(mix.resin.deepest_pour_mm))
    cure = cure_of_pour(mix, room_c)
    most_mm = deepest_mm(cure, surround, pour.most_peak_c, room_c) if cure else None
    depths, lifts = _lifts(pour, cavity, mix.resin.deepest_pour_mm or inf, cure, surround, room_c)
    if not mix.resin.deepest_pour_mm:
        # A resin that is not made for casting bonds to itself for as long as its label, or its kind, has it.
        lifts = tuple(replace(lift, closes_min=max(lift.closes_min, mix.clocks.window_closes_min)) for lift in lifts)
    seal = job.use_of(pour.seal_use_id, mix.use.id)
    seals = pour.lies_in in OPEN_GRAINED and not pour.sealed and job.practice.sealing == "where it is porous"
    seal_g = SEAL_GSM * cavity.wetted_m2 if seals else 0.0
    taken_off = pour.fill_volume == "taken off"
    each = partial(
        filled_in_lifts, len(depths), cavity.volume_l, cavity.surface_m2, density, fill, clear_first=pour.but_the_first
    )
    of_lifts = each(taken_off=taken_off, held_back=held)
    planned = PlannedPour(
        path,
        pour,
        mix.use.id,
        room_c,
        cavity,
        fill,
        of_lifts,
        in_all(of_lifts),
        in_all(each(taken_off=not taken_off)) if fill else None,
        surround,
        cure,
        most_mm,
        depths,
        lifts,
        seal_g,
        seal.id if seal else mix.use.id,
        (),
    )
    return replace(planned, works=_works(planned, mix))


def _lifts(
    pour: Pour, cavity: Cavity, stated_mm: float, cure: Cure | None, surround: Surround, room_c: float
) -> tuple[tuple[float, ...], tuple[Lift, ...]]:
    """How deep each lift is, and what the heat model says of it: as the builder wishes, else as few as keep cool and none
    deeper than the sheet states."""
    if pour.lift_mm:
        depths = even_lifts(cavity.deepest_mm, pour.lift_mm)
        return depths, lifts_of(cure, surround, depths, room_c) if cure else ()
    if cure is None:
        return even_lifts(cavity.deepest_mm, stated_mm), ()
    lifts = cool_lifts(cure, surround, cavity.deepest_mm, room_c, pour.most_peak_c, stated_mm)
    return tuple(lift.depth_mm for lift in lifts), lifts


def _fill(pour: Pour, fillers: Mapping[str, Filler]) -> Fill | None:
    if not pour.filled_with:
        return None
    on_resin = on_the_resin(pour.filled_share, pour.share_of == "the whole")
    if pour.filled_with != "filler":
        return chopped_fill(pour.filled_with, on_resin)
    filler = fillers.get(pour.filler_id)
    if filler is None:
        raise Missing("choose what it is filled with", "filler_id")
    return Fill(filler.name, filler.true_density_g_per_cm3, filler.bulk_density_g_per_l, on_resin, filler.price_per_kg)


def _works(planned: PlannedPour, mix: Mix) -> tuple[Work, ...]:
    pour, cavity, fill, depths = planned.pour, planned.cavity, planned.fill, planned.depths_mm
    size, use_id = mix.shop.scales.words, mix.use.id
    stirs = StirsIn(fill.name, fill.on_resin, fill.loose_g_per_l) if fill else None
    works: list[Work] = []
    if planned.seal_g:
        works.append(
            Work(
                "sealing coat",
                pour.id,
                f"{pour.id}-seal",
                planned.seal_g,
                COAT_MIN_PER_M2 * cavity.wetted_m2,
                area_m2=cavity.wetted_m2,
                short="seal",
                use_id=planned.seal_use_id,
                coat="seal",
            )
        )
    for number, (depth, of) in enumerate(zip(depths, planned.of_lifts, strict=True), 1):
        grams, lift = of.resin_g, planned.lifts[number - 1] if planned.lifts else None
        several = len(depths) > 1
        waits: Waits = "for the lift" if number > 1 else "for tack" if planned.seal_g else ""
        if number == 1 and pour.face_first:
            face_g = FACE_SHARE * grams
            works.append(
                Work(
                    "face layer, worked in",
                    pour.id,
                    f"{pour.id}-face",
                    face_g,
                    FACE_MIN_PER_M2 * cavity.surface_m2,
                    waits,
                    cavity.surface_m2,
                    handling=Handling(alone=True),
                    short="face",
                    use_id=use_id,
                    stirs_in=stirs if of.fill_g else None,
                )
            )
            grams, waits = grams - face_g, ""
        works.append(
            Work(
                f"lift {number} of {len(depths)}, {size('size', depth)}" if several else f"pour, {size('size', depth)}",
                pour.id,
                f"{pour.id}-{number}",
                grams,
                grams / POURED_G_PER_MIN,
                waits,
                cavity.surface_m2,
                handling=Handling(poured=True),
                short=f"lift {number}" if several else "pour",
                use_id=use_id,
                sets=Sets(lift.opens_min, lift.closes_min) if lift and isfinite(lift.opens_min) else None,
                stirs_in=stirs if of.fill_g else None,
            )
        )
    return tuple(works)
