"""A worked-out joint told as the plan's records: its figures, its steps in their order, how its pots become paste."""

from collections.abc import Iterator

from layup.chemistry.cure import CureClocks
from layup.day.schedule import PlannedPot
from layup.errors import known
from layup.job import Joint
from layup.joints.outcome import (
    FromResinResult,
    IngredientResult,
    JointResult,
    JointStep,
    TabResult,
    WordResult,
)
from layup.joints.plan import PlannedJoint, Stirred, sized, stirred_for
from layup.joints.thickening import CONSISTENCIES, Paste, reaches
from layup.joints.volumes import (
    LEAST_RADII,
    MOST_RADII,
    fillet_leg_mm,
    fillet_throat_mm,
    scarf_face_mm,
    side_angles_deg,
)
from layup.pots.mix import Mix
from layup.pots.outcome import StirInResult, ThickenedResult
from layup.scales import Scales

# What each consistency looks like (common practice).
LOOKS = {
    "runs": "pours like thin paint",
    "drapes": "falls in a sheet off the stick, and levels slowly",
    "peaks": "holds a soft peak",
    "stands": "stays put on a vertical face, as thick as peanut butter",
}


def joint_result(planned: PlannedJoint, mix: Mix) -> JointResult:
    """A joint's figures, for all copies of it."""
    joint, paste, n = planned.joint, planned.paste, planned.joint.count
    of = sized(joint)
    whole = paste.times(n) if paste else None
    part_a, part_b, catalyst = mix.parts_g(whole.resin_g) if whole else (None, None, None)
    corner = joint.kind == "corner" and not planned.flat
    tabs = tuple(_tab(planned, at) for at in range(len(planned.tabs)))
    return JointResult(
        id=joint.id,
        name=joint.name,
        kind=joint.kind,
        flat=planned.flat,
        copies=n,
        run_m=of.length_m * joint.sides * n,
        section_mm2=planned.section_mm2,
        throat_mm=fillet_throat_mm(of.radius_mm, joint.angle_deg) if corner else 0,
        leg_mm=fillet_leg_mm(of.radius_mm, joint.angle_deg) if corner else 0,
        face_mm=scarf_face_mm(joint.panel_thickness_mm, joint.slope) if joint.kind == "scarf" else 0,
        paste_ml=whole.volume_ml if whole else 0,
        paste_g=whole.mass_g if whole else 0,
        resin_g=whole.resin_g if whole else 0,
        part_a_g=part_a,
        part_b_g=part_b,
        catalyst_g=catalyst,
        filler_name=" and ".join(part.filler.name for part in paste.recipe) if paste else "",
        filler_g=whole.filler_g if whole else 0,
        filler_loose_ml=whole.filler_loose_ml if whole else 0,
        filler_parts_per_100_resin=whole.filler_parts_per_100_resin if whole else 0,
        consistency=joint.consistency if paste else "",
        radius_note=_radius_note(joint, mix) if corner else "",
        fillers=tuple(_ingredients(planned, whole, mix)) if whole else (),
        filler_words=tuple(_words(planned)) if paste else (),
        reaches=_reaches(planned, paste) if paste else "",
        density_g_per_ml=paste.density_g_per_ml if paste else 0,
        filler_mass_fraction=paste.filler_mass_fraction if paste else 0,
        solids_by_volume=1 - paste.resin_ml / paste.volume_ml if paste else 0,
        with_air_ml=whole.with_air_ml if whole else 0,
        wet_out_m2=planned.wet_out_m2 * n,
        wet_out_gsm=planned.wet_out_gsm,
        wet_out_g=planned.wet_out_g * n,
        smoothing_g=planned.smoothing_g * n,
        brushed_g=planned.brushed_g * n,
        tabs=tabs,
        tabs_fibre_g=sum(tab.fibre_g for tab in tabs),
        tabs_resin_g=sum(tab.resin_g for tab in tabs),
        tabs_mm=sum(tab.thickness_mm * tab.layers.mean for tab in planned.tabs),
        layers_words=_layers_words(planned, mix),
        all_resin_g=sum(work.laid_g for work in planned.works) * n,
        steps=tuple(_steps(planned, mix)),
        hidden=joint.hidden,
        corners=corners_of(joint),
    )


def from_resin(planned: PlannedJoint, resin_g: float, mix: Mix) -> FromResinResult | None:
    """What so much mixed resin, all of it thickened, becomes for a joint, g; None for one without paste.

    The bead is shorter by what is lost on the way, as in the joint's own figures.
    """
    if planned.paste is None:
        return None
    paste, joint = stirred_for(planned, resin_g), planned.joint
    run_m = 0.0 if joint.kind == "holes" else sized(joint).length_m * joint.sides
    return FromResinResult(
        resin_g=resin_g,
        fillers=tuple(_ingredients(planned, paste, mix)),
        paste_ml=paste.with_air_ml,
        bead_m=run_m * resin_g / planned.paste.resin_g,
    )


def corners_of(joint: Joint) -> tuple[str, ...]:
    """What of a joint is ticked by itself: each copy, and each side of it.

    >>> corners_of(Joint(id="j", count=2, sides=2))
    ('1, one side', '1, other side', '2, one side', '2, other side')
    """
    sides = ("one side", "other side") if joint.sides == 2 and joint.kind == "corner" else ("",)
    copies = [str(number) for number in range(1, joint.count + 1)] if joint.count > 1 else [""]
    return tuple(", ".join(word for word in (copy, side) if word) or "all of it" for copy in copies for side in sides)


def _radius_note(joint: Joint, mix: Mix) -> str:
    panel, radius = joint.panel_thickness_mm, sized(joint).radius_mm
    shown = mix.shop.scales.words("size", panel)
    if radius < LEAST_RADII * panel:
        return f"under the {shown} panel: common practice is one to three times its thickness"
    if radius > MOST_RADII * panel:
        return f"over three times the {shown} panel: heavy for its job (common practice)"
    return f"{mix.shop.scales.written(radius / panel, '.2g')} × the panel; one to three is common practice"


def _ingredients(planned: PlannedJoint, whole: Paste, mix: Mix) -> Iterator[IngredientResult]:
    scoop_ml = mix.shop.scoop_ml
    scoop = mix.shop.scales.words("volume", scoop_ml)
    for part, learned in zip(whole.recipe, planned.fillers, strict=True):
        yield IngredientResult(
            filler_id=part.filler.id,
            name=part.filler.name,
            parts=part.parts,
            told_by="typed" if planned.joint.own_parts else learned.told_by(planned.joint.consistency),
            loose_ml=whole.loose_ml(part),
            grams=whole.grams(part),
            cups=f"{mix.shop.scales.written(whole.loose_ml(part) / scoop_ml, '.1f')} × {scoop}",
        )


def _words(planned: PlannedJoint) -> Iterator[WordResult]:
    """The four words of its first filler, as the shop's log has them by now."""
    learned = planned.fillers[0]
    for word in CONSISTENCIES:
        yield WordResult(
            filler_name=learned.filler.name,
            consistency=word,
            parts=learned.filler.parts(word),
            told_by=learned.told_by(word),
            by_table=(learned.table or learned.filler).parts(word),
            pots=learned.pots.get(word, 0),
        )


def _reaches(planned: PlannedJoint, paste: Paste) -> str:
    """What the builder's own parts of one filler come to, by the table."""
    part = paste.recipe[0]
    if planned.joint.own_parts is None:
        return ""
    return reaches(part.filler, part.parts) or "hardly thickens"


def _tab(planned: PlannedJoint, at: int) -> TabResult:
    tab, n = planned.tabs[at], planned.joint.count
    return TabResult(
        id=tab.strip.id,
        name=tab.fabric.name,
        width_mm=tab.width_mm,
        end_mm=tab.laid.end_mm,
        flat_mm=tab.laid.flat_mm,
        radius_mm=tab.laid.radius_mm,
        thickness_mm=tab.thickness_mm * tab.layers.mean,
        area_m2=tab.area_m2 * n,
        pieces=tab.pieces * n,
        piece_m=tab.piece_m,
        layers_least=tab.layers.least,
        layers_mean=tab.layers.mean,
        layers_most=tab.layers.most,
        fibre_g=tab.fibre_g * n,
        resin_g=tab.resin_g * n,
    )


def _layers_words(planned: PlannedJoint, mix: Mix) -> str:
    """How many layers lie on each leg, and how thick that is beside the panel."""
    if not planned.tabs:
        return ""
    least, most = (sum(getattr(tab.layers, name) for tab in planned.tabs) for name in ("least", "most"))
    thick = sum(tab.thickness_mm * tab.layers.mean for tab in planned.tabs)
    count = f"{least}" if least == most else f"{least} to {most}"
    size = mix.shop.scales.words
    share = thick / planned.joint.panel_thickness_mm
    return (
        f"{count} {'layer' if most == 1 else 'layers'} at the corner, {size('thickness', thick)} on each leg: "
        f"{100 * share:.0f} % of the {size('size', planned.joint.panel_thickness_mm)} panel"
    )


def _steps(planned: PlannedJoint, mix: Mix) -> Iterator[JointStep]:
    joint, n, clocks = planned.joint, planned.joint.count, mix.clocks
    size = mix.shop.scales.words
    if joint.hidden:
        yield _step(mix, "Before it is closed: coat what will be out of reach, and tick it", "first of the job", 0)
    if planned.wet_out_g:
        where = "on what will be glued" if joint.kind != "corner" else f"to {_reach_words(planned, mix)} each side"
        when = _tack_words(clocks, mix.shop.scales) if planned.thirsty else "the paste goes on at once"
        if planned.wets_from_paste:
            when = "poured off the paste's own pot, before the filler"
        yield _step(mix, f"Wet out with plain resin, {where}", when, planned.wet_out_g * n)
    if planned.paste:
        yield _step(mix, _paste_words(joint, mix), _clean_words(planned.paste), planned.paste.resin_g * n)
    if planned.smoothing_g:
        yield _step(mix, "Brush the fillet smooth with plain resin", "while it is soft", planned.smoothing_g * n)
    for number, tab in enumerate(planned.tabs, 1):
        when = "wetted until it goes clear, air dabbed out"
        if number == 1 and planned.paste and mix.job.practice.tabbing == "cured and sanded":
            when = f"when the fillet has cured and is sanded, from {clocks.sandable_min / 60:.0f} h"
        words = f"Strip {number}: {tab.fabric.name}, {size('size', tab.width_mm)}"
        yield _step(mix, words, when, (tab.resin_g + tab.mopped_off_g) * n)
    if joint.fixings:
        yield _step(mix, f"Take out: {joint.fixings}", f"from {clocks.clamps_out_min / 60:.0f} h", 0)


def _step(mix: Mix, words: str, when: str, resin_g: float) -> JointStep:
    part_a, part_b, _ = mix.parts_g(resin_g) if resin_g else (None, None, None)
    return JointStep(words=words, when=when, resin_g=resin_g, part_a_g=part_a, part_b_g=part_b)


def _reach_words(planned: PlannedJoint, mix: Mix) -> str:
    across = planned.wet_out_m2 / sized(planned.joint).length_m * 1000 / planned.joint.sides
    if planned.joint.glue_mm:
        across -= 2 * planned.joint.panel_thickness_mm / planned.joint.sides
    return mix.shop.scales.words("size", across / 2)


def _tack_words(clocks: CureClocks, scales: Scales) -> str:
    opens, closes = clocks.tack_min, clocks.window_closes_min
    return f"let it go tacky: {opens:.0f} min, and within {scales.written(round(closes / 60, 1))} h"


def _paste_words(joint: Joint, mix: Mix) -> str:
    size = mix.shop.scales.words
    match joint.kind:
        case "corner":
            return f"Fillet, drawn to R {size('size', sized(joint).radius_mm)} with a round-nosed stick"
        case "glue line" | "scarf":
            return "Paste on both faces, enough that it oozes all along; no clamp on a dry joint"
        case "gap":
            return "Fill the gap from its bottom up"
        case "bedding":
            return "Comb the bed, lower the piece on it from one edge"
    return "Fill each hole from its bottom, and a little over"


def _clean_words(paste: Paste) -> str:
    """Squeeze-out: taken off soft, or left to be sanded where the filler sands."""
    hard = any(part.filler.sands == "hard" for part in paste.recipe)
    if hard:
        return "what is over comes off while soft: it cures too hard to sand"
    return "what is over comes off while soft, or is sanded later"


def thickened_result(pot: PlannedPot, planned: PlannedJoint) -> ThickenedResult:
    """How one pot of a joint becomes paste."""
    mix, stirred = pot.mix, pot.works[0].handling
    if not isinstance(stirred, Stirred):
        raise TypeError("a pot of a joint's paste is stirred")
    way, scale = known(stirred.way), mix.shop.scale
    aside = scale.nearest(pot.mass_g * stirred.plain_share) * scale.unit_is
    paste = stirred_for(planned, pot.mass_g - aside)
    fillers = tuple(
        StirInResult(
            filler_id=row.filler_id,
            name=row.name,
            loose_ml=row.loose_ml,
            grams=row.grams,
            cups=row.cups,
            parts=row.parts,
            told_by=row.told_by,
        )
        for row in _ingredients(planned, paste, mix)
    )
    return ThickenedResult(
        aside_g=aside,
        fillers=fillers,
        consistency=planned.joint.consistency,
        looks=LOOKS[planned.joint.consistency],
        paste_ml=paste.with_air_ml,
        scale_shows_g=mix.cup_g + paste.mass_g if mix.by_weight else None,
        bead_m=pot.laid_g * stirred.bead_m_per_g,
        applied=way.applied,
        opening_mm=stirred.opening_mm,
        load=_load_words(way.applied, stirred.opening_mm, mix),
        dust="; ".join(dict.fromkeys(part.filler.dust for part in paste.recipe if part.filler.dust)),
        paste_ml_per_g=way.ml_per_g,
    )


def _load_words(applied: str, opening_mm: float, mix: Mix) -> tuple[str, ...]:
    if applied == "with a stick":
        return ("Out of the cup, spread thin on a board, and from there with the stick: spread out it lasts longer",)
    cut = mix.shop.scales.words("size", opening_mm) if opening_mm else "a pencil's width"
    return (
        "Stand the bag corner down in a clean cup, its mouth folded out over the rim",
        "Scrape the paste in, twist it shut behind the paste, air pressed out",
        f"Cut the corner {cut} wide, and run it in one go: in the bag it is a thick pot",
    )


def smallest_angle_deg(joint: Joint) -> float:
    """The tightest angle a joint's faces meet at, on any of its sides.

    >>> smallest_angle_deg(Joint(id="j", angle_deg=110, sides=2))
    70.0
    """
    return min(side_angles_deg(joint.angle_deg, joint.sides))
