"""What is done before a part is laid, in order: washed, shaped, closed and fitted."""

from collections.abc import Iterator

from layup.job import JobSpec, Part
from layup.laminate.measures import ground_mm
from layup.outcome import Plan
from layup.preparing.before_pot import PrepLine
from layup.preparing.lines import COMMON, DUST, LAMINATE, LARGE_AREA_M2, MEMORY, POROUS, WOOD, line_of
from layup.scales import Scales


def lines_of_parts(job: JobSpec, plan: Plan, scales: Scales) -> Iterator[PrepLine]:
    """The lines of each part that has plies."""
    area_m2 = {part.id: part.total_area_m2 for part in plan.parts if part.plies}
    for part in job.parts:
        if part.id in area_m2:
            own = {"part_id": part.id, "part_name": part.name or "part"}
            for line in _part_lines(job, part, area_m2[part.id], scales):
                yield line.model_copy(update=own)


def _part_lines(job: JobSpec, part: Part, area_m2: float, scales: Scales) -> Iterator[PrepLine]:
    for line in (*_washed(part), *_shaped(part, area_m2, scales), *_closed(job, part, scales), *_fitted(part)):
        yield line.model_copy(update={"id": f"{line.id}:{part.id}"})


def _washed(part: Part) -> Iterator[PrepLine]:
    """What comes off before anything is sanded in."""
    if part.substrate == "cured epoxy":
        why = "Blush and water-soluble film come off with water and with nothing else; sanding drives them in."
        yield line_of("water", "Wash with water and a pad, rinse, dry", why, COMMON)
    if part.substrate in ("cured polyester", "sanded laminate") and not part.ground.washed_and_abraded:
        why = "Release film and dirt come off with water first; wax is then taken by solvent."
        yield line_of("water", "Wash with water, rinse, dry", why, COMMON)
    if part.ground.contaminated:
        yield line_of("degrease", "Degrease before sanding", "Sanding drives grease and oil into the ground.", COMMON)
    if part.substrate in (*WOOD, "concrete"):
        limit = "12 % at most" if part.substrate in WOOD else "28 days old and dry"
        words = f"Check it is dry: {limit}"
        yield line_of("moisture", words, "Water under resin lifts it later and blisters it in the sun.", COMMON)


def _mould() -> Iterator[PrepLine]:
    yield line_of(
        "level", "Level the plug both ways, on a base that stays flat", "The mould copies it for good.", COMMON
    )
    why = "Glass does not lie into them; what spans a corner breaks out of the mould with the first part."
    words = "Putty at hand for tight corners: after the second surface coat, before the first glass"
    yield line_of("putty", words, why, COMMON)
    why = "The lip is clamped, trimmed along and pulled at: without one the edge breaks."
    yield line_of("lip", "Board round the plug for the lip, waxed too", why, COMMON)


def _shaped(part: Part, area_m2: float, scales: Scales) -> Iterator[PrepLine]:
    """Ground, sanded, dusted and wiped, in that order."""
    if part.substrate == "waxed mould":
        why = "Film that pools in a corner marks the part; where film is missing the part sticks."
        yield line_of("release", "Wax and buff; film thin, dry, none pooled in corners", why, COMMON)
        if part.mould_for:
            yield from _mould()
        return
    shape = part.shape
    if shape.kind == "patch" and shape.depth_mm is not None:
        yield line_of(
            "tests",
            "Tap all round it and mark what sounds dull; look with a lamp from behind; press it with a known weight; "
            "write down what you find",
            "The same tests tell afterwards whether the repair is sound.",
            COMMON,
        )
        ground = scales.words("size", ground_mm(shape))
        words = f"Grind back {ground} all round, {scales.written(shape.taper)} to 1, to a feather"
        yield line_of("grind", words, "A patch holds by the length of its taper.", COMMON)
    words, why = _sanding(part)
    yield line_of("sand", words, why, COMMON)
    words = "Dust off: vacuum, then a clean brush; no air line with oil in it"
    yield line_of("dust", words, f"{DUST}.", COMMON)
    yield _wipe(part, area_m2)


def _sanding(part: Part) -> tuple[str, str]:
    if part.substrate == "aluminium":
        return (
            "Abrade bright, and coat within the hour",
            "Its oxide grows back at once, and resin holds to nothing but metal.",
        )
    if part.substrate == "polystyrene foam":
        return "Sand fair, lightly", "A foam face that is crushed holds nothing."
    if part.substrate in LAMINATE:
        return "Sand dull all over, 80 grit", "A shine is a place without a key."
    return "Sand, 80 grit along the grain" if part.substrate in WOOD else "Sand or grind to sound ground", (
        "Fresh fibre and a key for the first coat."
    )


def _wipe(part: Part, area_m2: float) -> PrepLine:
    why = "After every sanding; on with one cloth, off with another before it dries, or the grease only moves."
    if part.substrate in (*WOOD, "concrete", "foam core"):
        return line_of("wipe", "Wipe with a clean dry cloth", f"{DUST}; solvent would soak in and stay.", COMMON)
    if part.substrate == "polystyrene foam":
        return line_of("wipe", "Wipe with a dry cloth: no solvent", "Solvent dissolves it.", COMMON)
    if area_m2 > LARGE_AREA_M2:
        words = "Wipe with a slow solvent, such as alcohol; nitrile gloves"
        return line_of("wipe", words, f"{why} A fast one is gone before it is off a large area.", MEMORY)
    words = "Wipe with a fast solvent, such as acetone; butyl gloves, or nitrile changed at once"
    return line_of("wipe", words, f"{why} It goes through nitrile in minutes.", MEMORY)


def _closed(job: JobSpec, part: Part, scales: Scales) -> Iterator[PrepLine]:
    """Masked, backed, filled and sealed."""
    shape = part.shape
    if shape.kind == "patch":
        if shape.through:
            words = "Back the hole: a thin laminate or tape behind it"
            if not shape.behind:
                words = "Back the hole through itself: a thin laminate on a wire, bonded inside"
            yield line_of("backing", words, "Without one the first plies sag through.", COMMON)
        if shape.depth_mm is not None:
            yield line_of(
                "mask", "Mask outside the ground", "Wider than the last ply, so that it can be trimmed green.", COMMON
            )
    elif part.ground.show_face:
        yield line_of("mask", "Mask the show face round it", "A run on a finished face is sanded off twice.", COMMON)
    if part.ground.sharp_corner:
        why = "Fabric will not turn a sharp corner: it bridges, and the bridge is air."
        yield line_of("corner", "Fill sharp inside corners, round the outside ones", why, COMMON)
    if part.substrate in POROUS and job.practice.sealing != "never":
        yield line_of(
            "seal", "Seal the ground, and let it tack", "Porous ground soaks up the laminate's resin.", COMMON
        )
    if part.substrate == "timber" and part.ground.show_face and job.practice.sealing != "never":
        yield line_of("seal", "Seal the timber, and let it gas out", "Open timber bubbles under a clear coat.", COMMON)
    if part.ground.plastic_fittings:
        yield line_of("primer", "Prime smooth plastic fittings for bonding", "Resin does not hold to them.", COMMON)
    if part.ground.hidden_faces:
        words = f"Coat what will be hidden: {part.ground.hidden_faces}"
        yield line_of("hidden", words, "Nobody reaches it again.", COMMON)


def _fitted(part: Part) -> Iterator[PrepLine]:
    yield line_of(
        "fit", "Dry fit, with its pieces laid out", "What does not fit dry does not fit wet.", COMMON, gate=True
    )
    if part.ground.fixings:
        words = f"Try the clamps, with film under them: {part.ground.fixings}"
        yield line_of("clamps", words, "There is no time to look for one once it is wet.", COMMON, gate=True)
