"""What is done before a pot is opened, in order, as it follows from the ground, its state, the process and what comes.

Water comes first for blush and release film, solvent after sanding, dust-off and a wipe after every sanding.
"""

from collections.abc import Iterator

from layup.job import JobSpec, Joint, Part
from layup.laminate.measures import ground_mm
from layup.outcome import Plan
from layup.preparing.before_pot import PrepLine
from layup.scales import Scales

# Past this a fast solvent is gone before it is wiped off (memory).
LARGE_AREA_M2 = 1.5
_WOOD = ("bare plywood", "timber")
_LAMINATE = ("sanded laminate", "cured polyester", "cured epoxy")
_POROUS = ("concrete", "foam core", "polystyrene foam")
_DUST = "Dust holds the resin off the ground"
COMMON, MEMORY = "common practice", "memory"


def checklist(job: JobSpec, plan: Plan, scales: Scales) -> tuple[PrepLine, ...]:
    """The lines of a job's preparation in the order they are done. Source: common practice or memory, as each says.

    >>> from layup.shop_facts import ShopFacts
    >>> job = JobSpec(name="Deck")
    >>> from layup.plan import plan
    >>> [line.id for line in checklist(job, plan(job, ShopFacts()), ShopFacts().scales)]
    []
    """
    parts = {part.id: part for part in plan.parts if part.plies}
    if not parts and not plan.joints:
        return ()
    lines = [_line("sheets", "Read the data sheets of what is used today", "They win over every figure here.", COMMON)]
    for part in job.parts:
        if part.id in parts:
            area_m2 = parts[part.id].total_area_m2
            lines += [line.model_copy(update=_of(part)) for line in _part_lines(job, part, area_m2, scales)]
    worked_out = {joint.id for joint in plan.joints}
    for joint in sorted(job.joints, key=lambda joint: not joint.hidden):
        if joint.id in worked_out:
            of = {"part_id": joint.id, "part_name": joint.name or joint.kind}
            lines += [line.model_copy(update=of | {"id": f"{line.id}:{joint.id}"}) for line in _joint_lines(joint)]
    lines += _before_the_pot(job, plan)
    return tuple(lines)


def _joint_lines(joint: Joint) -> Iterator[PrepLine]:
    """What is done before a joint is wetted: fitted dry, its fixings tried, keyed and wiped."""
    if joint.hidden:
        words = "Tick each corner of it before it is closed: it is out of reach after"
        yield _line("reach", words, "A face that was missed there cannot be coated again.", COMMON)
    fixings = f", with {joint.fixings} in place" if joint.fixings else ""
    words = f"Dry fit{fixings}; rehearse the clamps"
    yield _line(
        "fit", words, "Screws go into holes already drilled, and nothing is sought once it is wet.", COMMON, gate=True
    )
    if joint.substrate == "cured epoxy":
        why = "Blush comes off with water and with nothing else; sanding drives it in."
        yield _line("water", "Wash with water and a pad, rinse, dry", why, COMMON)
    key = "Sand, 80 grit along the grain" if joint.substrate in _WOOD else "Sand dull, 80 grit, to past the last strip"
    yield _line("sand", f"{key}, dust off", "Fresh fibre and a key for the first coat.", COMMON)
    if joint.substrate in (*_WOOD, "concrete", "foam core", "polystyrene foam"):
        yield _line("wipe", "Wipe with a clean dry cloth", f"{_DUST}; solvent would soak in and stay.", COMMON)
    else:
        yield _line("wipe", "Wipe with solvent, on with one cloth, off with another", f"{_DUST}.", COMMON)


def _line(code: str, words: str, why: str, source: str, *, gate: bool = False) -> PrepLine:
    return PrepLine(id=code, words=words, why=why, source=source, gate=gate)


def _of(part: Part) -> dict:
    return {"part_id": part.id, "part_name": part.name or "part"}


def _part_lines(job: JobSpec, part: Part, area_m2: float, scales: Scales) -> Iterator[PrepLine]:
    for line in (*_washed(part), *_shaped(part, area_m2, scales), *_closed(job, part, scales), *_fitted(part)):
        yield line.model_copy(update={"id": f"{line.id}:{part.id}"})


def _washed(part: Part) -> Iterator[PrepLine]:
    """What comes off before anything is sanded in."""
    if part.substrate == "cured epoxy":
        why = "Blush and water-soluble film come off with water and with nothing else; sanding drives them in."
        yield _line("water", "Wash with water and a pad, rinse, dry", why, COMMON)
    if part.substrate in ("cured polyester", "sanded laminate") and not part.ground.washed_and_abraded:
        why = "Release film and dirt come off with water first; wax is then taken by solvent."
        yield _line("water", "Wash with water, rinse, dry", why, COMMON)
    if part.ground.contaminated:
        yield _line("degrease", "Degrease before sanding", "Sanding drives grease and oil into the ground.", COMMON)
    if part.substrate in (*_WOOD, "concrete"):
        limit = "12 % at most" if part.substrate in _WOOD else "28 days old and dry"
        words = f"Check it is dry: {limit}"
        yield _line("moisture", words, "Water under resin lifts it later and blisters it in the sun.", COMMON)


def _shaped(part: Part, area_m2: float, scales: Scales) -> Iterator[PrepLine]:
    """Ground, sanded, dusted and wiped, in that order."""
    if part.substrate == "waxed mould":
        why = "A film that pools in a corner marks the part; where there is none it does not come out."
        yield _line("release", "Wax and buff; film thin, dry, none pooled in corners", why, COMMON)
        return
    shape = part.shape
    if shape.kind == "patch" and shape.depth_mm is not None:
        ground = scales.words("size", ground_mm(shape))
        words = f"Grind back {ground} all round, {shape.taper:g} to 1, to a feather"
        yield _line("grind", words, "A patch holds by the length of its taper.", COMMON)
    words, why = _sanding(part)
    yield _line("sand", words, why, COMMON)
    words = "Dust off: vacuum, then a clean brush; no air line with oil in it"
    yield _line("dust", words, f"{_DUST}.", COMMON)
    yield _wipe(part, area_m2)


def _sanding(part: Part) -> tuple[str, str]:
    if part.substrate == "aluminium":
        return (
            "Abrade bright, and coat within the hour",
            "Its oxide grows back at once, and resin holds to nothing but metal.",
        )
    if part.substrate == "polystyrene foam":
        return "Sand fair, lightly", "A foam face that is crushed holds nothing."
    if part.substrate in _LAMINATE:
        return "Sand dull all over, 80 grit", "A shine is a place without a key."
    return "Sand, 80 grit along the grain" if part.substrate in _WOOD else "Sand or grind to sound ground", (
        "Fresh fibre and a key for the first coat."
    )


def _wipe(part: Part, area_m2: float) -> PrepLine:
    why = "After every sanding; on with one cloth, off with another before it dries, or the grease only moves."
    if part.substrate in (*_WOOD, "concrete", "foam core"):
        return _line("wipe", "Wipe with a clean dry cloth", f"{_DUST}; solvent would soak in and stay.", COMMON)
    if part.substrate == "polystyrene foam":
        return _line("wipe", "Wipe with a dry cloth: no solvent", "Solvent dissolves it.", COMMON)
    if area_m2 > LARGE_AREA_M2:
        words = "Wipe with a slow solvent, such as alcohol; nitrile gloves"
        return _line("wipe", words, f"{why} A fast one is gone before it is off a large area.", MEMORY)
    words = "Wipe with a fast solvent, such as acetone; butyl gloves, or nitrile changed at once"
    return _line("wipe", words, f"{why} It goes through nitrile in minutes.", MEMORY)


def _closed(job: JobSpec, part: Part, scales: Scales) -> Iterator[PrepLine]:
    """Masked, backed, filled and sealed."""
    shape = part.shape
    if shape.kind == "patch":
        if shape.through:
            words = "Back the hole: a thin laminate or tape behind it"
            if not shape.behind:
                words = "Back the hole through itself: a thin laminate on a wire, bonded inside"
            yield _line("backing", words, "Without one the first plies sag through.", COMMON)
        if shape.depth_mm is not None:
            yield _line(
                "mask", "Mask outside the ground", "Wider than the last ply, so that it can be trimmed green.", COMMON
            )
    elif part.ground.show_face:
        yield _line("mask", "Mask the show face round it", "A run on a finished face is sanded off twice.", COMMON)
    if part.ground.sharp_corner:
        why = "Fabric will not turn a sharp corner: it bridges, and the bridge is air."
        yield _line("corner", "Fill sharp inside corners, round the outside ones", why, COMMON)
    if part.substrate in _POROUS and job.practice.sealing != "never":
        yield _line("seal", "Seal the ground, and let it tack", "Porous ground drinks the laminate's resin.", COMMON)
    if part.substrate == "timber" and part.ground.show_face and job.practice.sealing != "never":
        yield _line("seal", "Seal the timber, and let it gas out", "Open timber bubbles under a clear coat.", COMMON)
    if part.ground.plastic_fittings:
        yield _line("primer", "Prime smooth plastic fittings for bonding", "Resin does not hold to them.", COMMON)
    if part.ground.hidden_faces:
        words = f"Coat what will be hidden: {part.ground.hidden_faces}"
        yield _line("hidden", words, "Nobody reaches it again.", COMMON)


def _fitted(part: Part) -> Iterator[PrepLine]:
    yield _line(
        "fit", "Dry fit, with its pieces laid out", "What does not fit dry does not fit wet.", COMMON, gate=True
    )
    if part.ground.fixings:
        words = f"Try the clamps, with film under them: {part.ground.fixings}"
        yield _line("clamps", words, "There is no time to look for one once it is wet.", COMMON, gate=True)
    if part.process != "open mould":
        words = "Bag it dry and pull it down: find the leaks now"
        yield _line("bag", words, "A leak found under resin is a lost part.", COMMON, gate=True)


def _before_the_pot(job: JobSpec, plan: Plan) -> Iterator[PrepLine]:
    cups = vessels_needed(job, plan)
    if cups:
        words = f"Set out {cups} {'cup' if cups == 1 else 'cups'} and as many sticks, in the order of the pots"
        yield _line("vessels", words, _vessels_why(job), COMMON)
    resin = next((resin for resin in job.materials.resins if resin.id == job.chemistry.resin_id), None)
    if resin is None:
        return
    if resin.family == "epoxy":
        words = "Gloves, sleeves, goggles; particle filter for dust and powder"
        why = "Resin and hardener sensitise, and the hardener burns eyes. Soap on skin, never solvent."
    else:
        words = "Goggles before the bottle is opened; vapour filter, gloves, air moving, no spark or flame"
        why = "Peroxide blinds; styrene vapour burns and stupefies, and a dust mask is none."
    yield _line("protection", words, f"{why} By the data sheet and local rules.", MEMORY)
    words = "A place outdoors for a pot that runs away: sand or concrete; a bucket of cold water for a warm cup"
    yield _line("runaway", words, "When it smokes there is no time to look for one.", MEMORY)
    if resin.catalyst:
        words = "Wet sand or vermiculite and a plastic scoop by the catalyst; no promoter or acetone near it"
        yield _line("spill", words, "Peroxide on sawdust or rags takes fire by itself.", MEMORY)


def vessels_needed(job: JobSpec, plan: Plan) -> int:
    """Cups to set out: one a pot, one more where it is poured over, two more where each part has a cup of its own.

    Common practice. A part's own cups serve all pots.

    >>> from layup.shop_facts import ShopFacts
    >>> from layup.plan import plan
    >>> vessels_needed(JobSpec(name="Deck"), plan(JobSpec(name="Deck"), ShopFacts()))
    0
    """
    if not plan.pot_count:
        return 0
    each = 2 if job.practice.mixing == "two pots" else 1
    own = 2 if job.practice.vessels == "each in its own" else 0
    return plan.pot_count * each + own


def _vessels_why(job: JobSpec) -> str:
    if job.practice.mixing == "two pots":
        return "Two a pot: what clings to the first wall is not mixed, so it is poured over into a clean one."
    return "One a pot: half-set resin in a used cup sets the next one off."
