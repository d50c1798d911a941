"""One joint worked out: the paste it takes, the plain resin before and after it, its tabbing, and the work they make."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from math import floor

from layup.errors import LayupError, Missing, OutOfRange, known
from layup.job import Applied, JobSpec, Joint, TabStrip
from layup.joints.asked import ASKED
from layup.joints.filler_log import LearnedFiller
from layup.joints.tabbing import LaidStrip, lay_strip, lengths_laid
from layup.joints.thickening import Paste, Recipe, paste_for_volume, paste_from_resin, recipe_for
from layup.joints.volumes import (
    FLAT_FROM_DEG,
    GLUE_LINE_MM,
    LEAST_ANGLE_DEG,
    bag_opening_mm,
    bedding_ml,
    fillet_arc_mm,
    fillet_leg_mm,
    fillet_section_mm2,
    fillet_volume_ml,
    gap_ml,
    glue_line_ml,
    hole_ml,
    radius_for_leg_mm,
    scarf_face_mm,
    side_angles_deg,
)
from layup.laminate.ground import WET_OUT_GSM
from layup.laminate.overlap import Layers, layers
from layup.laminate.weights import (
    fibre_density_g_per_cm3,
    fibre_weight_fraction,
    resin_areal_weight_gsm,
    thickness_mm,
)
from layup.library import generic
from layup.materials import Fabric, Filler
from layup.pots.crew import team_of
from layup.pots.mix import Mix
from layup.pots.sizing import COAT_MIN_PER_M2, mixed_for_g, spreading_min_per_m2
from layup.pots.work import Handling, PasteWay, Waits, Work

# Minutes for one pair of hands (memory): metres of fillet drawn and cleaned, of glue line or gap run and pressed home,
# square metres of bedding combed, holes filled.
FILLET_M_PER_MIN, GLUE_M_PER_MIN, BEDDING_MIN_PER_M2, HOLES_PER_MIN = 0.5, 1.5, 6.0, 8.0
INSIDE_CORNER_TIMES = 1.5  # memory: what spreading takes in a corner over the flat, 1.5 to 2
SMOOTHING_GSM = 100.0  # memory: plain resin brushed on a fillet to smooth it
BRUSHED_PAST_MM = 10.0  # memory: a wet-out coat runs so far past what comes on it
# These go tacky before the paste, since they drink the resin out of it (common practice).
_THIRSTY = ("bare plywood", "timber")

# Takes a path, what is the matter there, and whether what stands there is wrong rather than missing.
Say = Callable[[str, str, bool], None]


@dataclass(frozen=True)
class Stirred(Handling):
    """Paste, a pot for its joint alone: how much of its resin stays plain for the brush, 0 to 1.

    `recipe_id` names what it is stirred with. A gram of it makes so many metres of bead, through a bag cut open so wide,
    mm.
    """

    recipe_id: str = ""
    plain_share: float = 0.0
    bead_m_per_g: float = 0.0
    opening_mm: float = 0.0


@dataclass(frozen=True)
class LaidTab:
    """A strip of tabbing as it comes to lie. Weights and the area are of one joint, all its sides."""

    strip: TabStrip
    width_mm: float
    fabric: Fabric
    laid: LaidStrip
    area_m2: float
    pieces: int
    piece_m: float
    layers: Layers
    fibre_g: float
    resin_g: float
    mopped_off_g: float
    thickness_mm: float


@dataclass(frozen=True)
class Sized:
    """The measures of a joint that has all that its kind is asked for; nought for those its kind has not."""

    length_m: float
    radius_mm: float
    width_mm: float
    depth_mm: float
    hole_count: int
    diameter_mm: float


def sized(joint: Joint) -> Sized:
    """A joint's measures as they are typed.

    >>> sized(Joint(id="j", length_m=2.4, radius_mm=9)).length_m
    2.4
    """
    return Sized(
        joint.length_m or 0.0,
        joint.radius_mm or 0.0,
        joint.width_mm or 0.0,
        joint.depth_mm or 0.0,
        joint.hole_count or 0,
        joint.diameter_mm or 0.0,
    )


@dataclass(frozen=True)
class PlannedJoint:
    """A joint worked out, in the resin in use `use_id`. Figures are of one of it; `flat` where it is a seam, with strips and no fillet.

    `brushed_g` of its resin are set aside plain from the paste's own pots, for what `wets_from_paste` and to smooth.
    """

    path: str
    joint: Joint
    use_id: str
    flat: bool
    section_mm2: float
    paste: Paste | None
    fillers: tuple[LearnedFiller, ...]
    wet_out_m2: float
    wet_out_gsm: float
    smoothing_m2: float
    tabs: tuple[LaidTab, ...]
    wets_from_paste: bool
    works: tuple[Work, ...]

    @property
    def wet_out_g(self) -> float:
        return self.wet_out_m2 * self.wet_out_gsm

    @property
    def smoothing_g(self) -> float:
        return self.smoothing_m2 * SMOOTHING_GSM

    @property
    def brushed_g(self) -> float:
        return self.smoothing_g + (self.wet_out_g if self.wets_from_paste else 0.0)

    @property
    def thirsty(self) -> bool:
        """Whether its ground drinks: then one school lets the wet-out go tacky before the paste."""
        return self.joint.substrate in _THIRSTY and not self.wets_from_paste


def plan_joint(
    path: str, joint: Joint, job: JobSpec, mix: Mix, fillers: Mapping[str, LearnedFiller], say: Say
) -> PlannedJoint | None:
    """A joint worked out, or None where something is missing; what, and what cannot be, goes to `say` at its field."""
    if ask_measures(path, joint, say):
        return None
    try:
        flat = _is_flat(joint)
        section, volume = (0.0, 0.0) if flat else _paste_volume(joint)
        paste: Paste | None = None
        used: tuple[LearnedFiller, ...] = ()
        if volume:
            recipe, used = _recipe(joint, fillers)
            paste = paste_for_volume(volume, recipe, mix.density_g_per_ml)
    except LayupError as error:
        say(f"{path}.{error.path or 'radius_mm'}", error.message, True)
        return None
    tabs = tuple(_tabs(path, joint, job, mix, flat, say)) if joint.kind == "corner" else ()
    wet_out_m2 = _wet_out_m2(joint, flat, tabs)
    smoothing_m2 = 0.0
    if joint.kind == "corner" and not flat:
        of = sized(joint)
        arcs = sum(fillet_arc_mm(of.radius_mm, angle) for angle in side_angles_deg(joint.angle_deg, joint.sides))
        smoothing_m2 = arcs * of.length_m / 1000
    gsm = WET_OUT_GSM[joint.substrate]
    # A wet-out that is hardly a pot is poured off the paste's own, before the filler goes in.
    small = bool(paste) and not tabs and mixed_for_g(wet_out_m2 * gsm) < mix.floor_g / 2
    planned = PlannedJoint(
        path, joint, mix.use.id, flat, section, paste, used, wet_out_m2, gsm, smoothing_m2, tabs, small, ()
    )
    return replace(planned, works=tuple(replace(work, use_id=mix.use.id) for work in _works(planned, job, mix)))


def ask_measures(path: str, joint: Joint, say: Say) -> bool:
    """Ask for what is not typed of a joint yet, at its field; whether anything is."""
    missing = list(_missing(joint))
    for field, message in missing:
        say(f"{path}.{field}", message, False)
    if missing and joint.kind == "corner" and joint.radius_mm and not _is_flat(joint):
        _check_corner_at(path, joint, say)
    return bool(missing)


def too_few_pots(planned: PlannedJoint, mix: Mix) -> str:
    """What is wrong with the pots wished for in the room of a mix: one that is spent before its bead is run, and how many
    it takes; nothing where they do.
    """
    stirred = ((work, work.handling) for work in planned.works if isinstance(work.handling, Stirred))
    work, handling = next(stirred, (None, None))
    if work is None or handling is None or handling.most_laid_g is None or planned.joint.wished_pots is None:
        return ""
    paste, rate = mix.thickened(handling.way), work.laid_g / work.spread_min
    size, wished = paste.size_for(rate), mixed_for_g(handling.most_laid_g)
    if size.largest_g is None or size.count_for(work.laid_g) <= planned.joint.wished_pots:
        return ""
    needed = size.count_for(work.laid_g)
    share = paste.life.working_share(wished, rate)
    spent, run = paste.life.minutes_at(share, wished), paste.contact_min + wished / rate
    scales = mix.shop.scales
    which = "one pot" if planned.joint.wished_pots == 1 else f"{planned.joint.wished_pots} pots"
    which = f"{which} at {scales.temperature(mix.room_c)}"
    if run > spent:
        words = (
            f"{which}: {scales.mass(wished)} takes {run:.0f} min to mix and run, and must be used within {spent:.0f}"
        )
    else:
        words = f"{which}: {scales.mass(wished)} is more than the {scales.mass(size.largest_g)} a pot may be"
    bead = work.laid_g * handling.bead_m_per_g / needed
    return f"{words}; take {needed} pots" + (f" of {scales.words('length', bead)} each" if bead else "")


def _is_flat(joint: Joint) -> bool:
    return joint.kind == "corner" and joint.angle_deg >= FLAT_FROM_DEG


def _missing(joint: Joint) -> Iterator[tuple[str, str]]:
    flat = _is_flat(joint)
    for asked in ASKED[joint.kind]:
        if asked.ask and getattr(joint, asked.field) is None and not (flat and asked.field == "radius_mm"):
            yield asked.field, asked.ask
    if not flat and not joint.filler_id:
        yield "filler_id", "choose the filler"
    if flat and not joint.tabs:
        yield "angle_deg", "at 180° it is a flat seam, which takes no fillet: add strips over it, or choose a glue line"


def _paste_volume(joint: Joint) -> tuple[float, float]:
    """The section of what is run, mm², and the paste for one of the joint, ml. Raises LayupError at its field."""
    of = sized(joint)
    length, width, depth = of.length_m, of.width_mm, of.depth_mm
    thick = joint.glue_mm or GLUE_LINE_MM
    match joint.kind:
        case "corner":
            _check_corner(joint)
            volume = fillet_volume_ml(length, of.radius_mm, joint.sides, joint.angle_deg)
            section = fillet_section_mm2(of.radius_mm, joint.angle_deg)
            if joint.glue_mm:
                volume += glue_line_ml(length * joint.panel_thickness_mm / 1000, joint.glue_mm, joint.squeeze_out)
            return section, volume
        case "glue line":
            return width * thick, glue_line_ml(length * width / 1000, thick, joint.squeeze_out)
        case "scarf":
            face = scarf_face_mm(joint.panel_thickness_mm, joint.slope)
            return face * thick, glue_line_ml(length * face / 1000, thick, joint.squeeze_out)
        case "gap":
            return width * depth, gap_ml(width, depth, length)
        case "bedding":
            return width * depth, bedding_ml(length * width / 1000, depth)
    return 0.0, of.hole_count * hole_ml(of.diameter_mm, depth)


def _check_corner_at(path: str, joint: Joint, say: Say) -> None:
    try:
        _check_corner(joint)
    except LayupError as error:
        say(f"{path}.{error.path}", error.message, True)


def _check_corner(joint: Joint) -> None:
    angles = side_angles_deg(joint.angle_deg, joint.sides)
    if min(angles) < LEAST_ANGLE_DEG:
        raise OutOfRange(
            f"faces at {joint.angle_deg:g}° lie on one another: choose a glue line, or type the angle between them",
            "angle_deg",
        )
    radius = sized(joint).radius_mm
    leg = max(fillet_leg_mm(radius, angle) for angle in angles)
    if joint.face_mm and leg > joint.face_mm:
        most = min(radius_for_leg_mm(joint.face_mm, angle) for angle in angles)
        raise OutOfRange(
            f"R {{={radius:g} mm}} reaches {{={leg:.0f} mm}} along a face, and the narrower is "
            f"{{={joint.face_mm:g} mm}}: R {{={floor(most + 1e-6)} mm}} at most",
            "radius_mm",
        )


def _recipe(joint: Joint, fillers: Mapping[str, LearnedFiller]) -> tuple[Recipe, tuple[LearnedFiller, ...]]:
    first = fillers.get(joint.filler_id)
    if first is None:
        raise Missing("choose the filler", "filler_id")
    second = fillers.get(joint.second_id) if joint.second_id else None
    if joint.second_id and second is None:
        raise Missing("choose the second filler again: this job has it no more", "second_id")
    generics = {filler.id: filler for filler in generic().fillers}
    at_hand: dict[str, Filler] = generics | {name: known.filler for name, known in fillers.items()}
    try:
        recipe = recipe_for(
            first.filler,
            joint.consistency,
            second=second.filler if second else None,
            second_share=joint.second_share,
            own_parts=joint.own_parts,
            fillers=at_hand,
        )
    except LayupError as error:
        raise OutOfRange(error.message, "own_parts" if joint.own_parts else "consistency") from error
    return recipe, tuple(fillers.get(part.filler.id) or LearnedFiller(part.filler, {}) for part in recipe)


def _tabs(path: str, joint: Joint, job: JobSpec, mix: Mix, flat: bool, say: Say) -> Iterator[LaidTab]:
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    beneath, radius = 0.0, 0.0 if flat else sized(joint).radius_mm
    angle = 180.0 if flat else joint.angle_deg
    for number, strip in enumerate(joint.tabs):
        at = f"{path}.tabs.{number}"
        fabric = fabrics.get(strip.fabric_id)
        if fabric is None or not fabric.reinforces:
            say(f"{at}.fabric_id", f"choose the fabric of strip {number + 1}", False)
            continue
        if strip.width_mm is None:
            say(f"{at}.width_mm", f"type the width of strip {number + 1}", False)
            continue
        try:
            yield (tab := _tab(joint, job, mix, strip, strip.width_mm, fabric, radius, angle, beneath))
        except LayupError as error:
            say(f"{at}.{error.path or 'width_mm'}", f"strip {number + 1} {error.message}", True)
            continue
        if not flat:
            beneath += tab.thickness_mm * tab.layers.mean


def _tab(
    joint: Joint,
    job: JobSpec,
    mix: Mix,
    strip: TabStrip,
    wide_mm: float,
    fabric: Fabric,
    radius: float,
    angle: float,
    beneath: float,
) -> LaidTab:
    if flat := angle == 180:
        laid = lay_strip(wide_mm, 1.0, 180.0)
    else:
        laid = min(
            (lay_strip(wide_mm, radius, side, beneath) for side in side_angles_deg(angle, joint.sides)),
            key=lambda one: one.flat_mm,
        )
    if joint.face_mm and laid.end_mm > joint.face_mm and not flat:
        raise OutOfRange(
            f"ends {{={laid.end_mm:.0f} mm}} from the corner, and the face is {{={joint.face_mm:g} mm}} wide"
        )
    if wide_mm > fabric.roll_width_mm:
        raise OutOfRange(f"is wider than {fabric.name} comes, {{={fabric.roll_width_mm:g} mm}}")
    pieces, piece_m = lengths_laid(sized(joint).length_m, joint.tab_piece_m, joint.tab_overlap)
    area = pieces * piece_m * wide_mm / 1000 * joint.sides
    found = fibre_weight_fraction(fabric, "simple", job.practice.resin_content)
    held = resin_areal_weight_gsm(fabric.areal_weight_gsm, found.value)
    resin_g = held * area
    return LaidTab(
        strip=strip,
        width_mm=wide_mm,
        fabric=fabric,
        laid=laid,
        area_m2=area,
        pieces=pieces * joint.sides,
        piece_m=piece_m,
        layers=layers(joint.tab_overlap) if pieces > 1 else Layers(1, 1.0, 1),
        fibre_g=fabric.areal_weight_gsm * area,
        resin_g=resin_g,
        mopped_off_g=resin_g * found.mopped_off_share,
        thickness_mm=thickness_mm(
            fabric.areal_weight_gsm, held, fibre_density_g_per_cm3(fabric), mix.resin.cured_density_g_per_cm3
        ),
    )


def _wet_out_m2(joint: Joint, flat: bool, tabs: tuple[LaidTab, ...]) -> float:
    """Bare faces that are brushed with plain resin first, of one joint: to where the widest strip or the paste ends."""
    of = sized(joint)
    if joint.kind == "holes":
        return 0.0
    if joint.kind != "corner":
        each = {
            "glue line": 2 * of.width_mm,
            "scarf": 2 * scarf_face_mm(joint.panel_thickness_mm, joint.slope),
            "gap": 2 * of.depth_mm,
            "bedding": 2 * of.width_mm,
        }[joint.kind]
        return each * of.length_m / 1000
    ends = [tab.laid.end_mm for tab in tabs]
    across = 0.0
    for angle in side_angles_deg(joint.angle_deg, joint.sides):
        leg = 0.0 if flat else fillet_leg_mm(of.radius_mm, angle)
        across += 2 * (max([leg, *ends]) + BRUSHED_PAST_MM)
    if joint.glue_mm:
        across += 2 * joint.panel_thickness_mm
    return across * of.length_m / 1000


def paste_minutes(joint: Joint, hands: float) -> float:
    """How long the paste of one joint takes to apply, min (memory; the log corrects it)."""
    of = sized(joint)
    match joint.kind:
        case "corner":
            minutes = of.length_m * joint.sides / FILLET_M_PER_MIN
        case "holes":
            minutes = of.hole_count / HOLES_PER_MIN
        case "bedding":
            minutes = of.length_m * of.width_mm / 1000 * BEDDING_MIN_PER_M2
        case _:
            minutes = of.length_m / GLUE_M_PER_MIN
    return max(minutes, 0.5) / hands


def paste_way(paste_ml: float, resin_g: float, applied: Applied) -> PasteWay:
    """How a paste is run, as its pots are sized by: alike for joints that are stirred and run alike.

    >>> paste_way(121.2, 112, "from a bag")
    PasteWay(ml_per_g=1.0821, applied='from a bag')
    """
    return PasteWay(round(paste_ml / resin_g, 4), applied)


def _works(planned: PlannedJoint, job: JobSpec, mix: Mix) -> Iterator[Work]:
    joint, hands = planned.joint, team_of(job.pots).hands
    size = mix.shop.scales.words
    tacks = planned.thirsty and job.practice.paste_on_wood == "after tack"
    if planned.wet_out_g and not planned.wets_from_paste:
        minutes = COAT_MIN_PER_M2 * planned.wet_out_m2 * INSIDE_CORNER_TIMES / hands
        yield Work(
            "wet out the faces",
            joint.id,
            f"{joint.id}.wet",
            planned.wet_out_g,
            minutes,
            area_m2=planned.wet_out_m2,
            with_next=not tacks,
            short="wet out",
        )
    if planned.paste:
        laid = planned.paste.resin_g + planned.brushed_g
        run_m = (joint.length_m or 0.0) * joint.sides if joint.kind != "holes" else 0.0
        words = {
            "corner": f"fillet R {size('size', joint.radius_mm or 0)}",
            "glue line": "glue line",
            "scarf": "scarf",
            "gap": "fill the gap",
            "bedding": "bedding",
            "holes": "fill the holes",
        }[joint.kind]
        yield Work(
            words,
            joint.id,
            joint.id,
            laid,
            paste_minutes(joint, hands),
            waits="for tack" if planned.wet_out_g and tacks else "",
            area_m2=max(planned.smoothing_m2, planned.wet_out_m2 / 2),
            with_next=job.practice.tabbing == "wet under it",
            short="fillet" if joint.kind == "corner" else joint.kind,
            handling=Stirred(
                alone=True,
                way=paste_way(planned.paste.volume_ml, planned.paste.resin_g, joint.applied),
                recipe_id=joint.id,
                plain_share=planned.brushed_g / laid,
                bead_m_per_g=run_m / laid,
                opening_mm=bag_opening_mm(planned.section_mm2) if planned.section_mm2 else 0.0,
                most_laid_g=laid / joint.wished_pots if joint.wished_pots else None,
            ),
        )
    for number, tab in enumerate(planned.tabs, 1):
        waits: Waits = ""
        if number == 1 and planned.paste and job.practice.tabbing == "cured and sanded":
            waits = "to be sanded"
        yield Work(
            f"strip {number}, {tab.fabric.name}, {size('size', tab.width_mm)} wide",
            joint.id,
            tab.strip.id,
            tab.resin_g + tab.mopped_off_g,
            spreading_min_per_m2(tab.fabric) * tab.area_m2 * INSIDE_CORNER_TIMES / hands,
            waits,
            tab.area_m2,
            thickness_mm=tab.thickness_mm,
            strips=tab.pieces,
            short=f"strip {number}",
        )


def stirred_for(planned: PlannedJoint, resin_g: float) -> Paste:
    """What so much of a joint's mixed resin makes, stirred by its recipe."""
    paste = known(planned.paste)
    return paste_from_resin(resin_g, paste.recipe, paste.resin_g / paste.resin_ml)
