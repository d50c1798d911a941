"""From a damage the job: ground and patched, backed, filled, bedded or injected, as ordinary parts, joints and coats."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from graphlib import TopologicalSorter
from math import ceil
from typing import Any, Literal

from layup.asked import Asked
from layup.damage import Carries, Damage, DamageKind
from layup.errors import LayupError, Missing, OutOfRange
from layup.job import Coat, Ground, JobMaterials, JobSpec, Joint, Part, Ply, ResinInUse, Substrate
from layup.laminate.measures import patch_extra_mm
from layup.laminate.notation import parse_line
from layup.laminate.weights import fibre_density_g_per_cm3, fibre_weight_fraction, resin_areal_weight_gsm, thickness_mm
from layup.materials import Fabric, ResinSystem
from layup.record import Record
from layup.scales import Scales
from layup.shapes import Patch, Rectangle
from layup.shelf import Library

# The ground's width for one of depth (common practice): the designer's or the surveyor's figure wins.
TAPERS: dict[Carries, float] = {"little": 8.0, "as usual": 12.0, "much": 20.0}
# Over this a meter says wet, on its scale for wood (memory); its own sheet wins.
DRY_PCT = 5.0
# A backing runs past the hole on every side, mm; the bed that holds it is so wide and so thick (memory).
BACKING_PAST_MM, BED_WIDE_MM, BED_MM = 50.0, 25.0, 1.5
# More than area times gap goes behind a loose skin (memory), through holes so far apart, mm (memory).
INJECTED_OVER, HOLES_EVERY_MM = 0.2, 60.0
# What lies on washed blisters, as a dry film, µm (common practice), and what fills them, g/m² (memory).
BARRIER_UM, FILLED_GSM = 300.0, 400.0
_FILL_GSM = 150.0
# How far a ply steps past the one within it, and at the least, mm; a tenth of the ground runs past the last (memory).
STEP_MM, LEAST_STEP_MM, FEATHER_SHARE = 20.0, 2.0, 0.1
_MOST_PLIES = 400
# No joint is told of wider than this, mm.
_WIDEST_MM = 1000.0

Reason = Literal["resin", "taper", "stack", "backing", "bed", "injected", "dry", "core", "crack", "barrier", "looks"]


class Because(Record):
    """Why one thing of the job is as it is: what it is about, and the words."""

    about: Reason
    words: str
    source: str


class PlyDrawn(Record):
    """A new ply, in the order it is laid: how far it reaches past the damage, mm, and how thick it lies, mm."""

    name: str
    past_mm: float
    thickness_mm: float


class PatchDrawn(Record):
    """A patch for a drawing, mm: the damage, how deep it is ground and how far past it, the plies, the backing behind it."""

    width_mm: float
    length_mm: float
    depth_mm: float
    skin_mm: float
    ground_mm: float
    taper: float
    through: bool
    backing_mm: float
    plies: tuple[PlyDrawn, ...]


@dataclass(frozen=True)
class Begun:
    """The job that a damage makes, with its reasons; its patch drawn where it has one."""

    spec: JobSpec
    because: tuple[Because, ...]
    drawn: PatchDrawn | None = None

    @property
    def makes(self) -> tuple[str, ...]:
        """Its parts and joints by name, in the order they are laid."""
        things: dict[str, Part | Joint] = {part.id: part for part in self.spec.parts}
        things |= {joint.id: joint for joint in self.spec.joints}
        order = TopologicalSorter({each: thing.comes_after for each, thing in things.items()}).static_order()
        return tuple(things[each].name for each in order)


@dataclass
class _Making:
    """What is made, bit by bit, of the materials of a library."""

    damage: Damage
    library: Library
    scales: Scales
    parts: list[Part] = field(default_factory=list)
    joints: list[Joint] = field(default_factory=list)
    fabrics: dict[str, Fabric] = field(default_factory=dict)
    because: list[Because] = field(default_factory=list)
    drawn: PatchDrawn | None = None

    def say(self, about: Reason, words: str, source: str = "common practice") -> None:
        self.because.append(Because(about=about, words=self.scales.said(words), source=source))

    def size(self, mm: float) -> str:
        return self.scales.words("size", mm)

    def fabric(self, fabric_id: str) -> Fabric:
        found = next(each for each in self.library.fabrics if each.id == fabric_id)
        self.fabrics[found.id] = found
        return found

    @property
    def epoxy(self) -> bool:
        damage = self.damage
        if damage.resin == "by what comes last":
            return damage.look != "gel coat"
        return damage.resin == "epoxy"

    @property
    def resin(self) -> ResinSystem:
        wanted = "epoxy-2-1" if self.epoxy else "polyester-general"
        return next(each for each in self.library.resins if each.id == wanted)

    @property
    def ground(self) -> Substrate:
        return "cured epoxy" if self.damage.old_resin == "epoxy" else "cured polyester"


def job_of(damage: Damage, library: Library, scales: Scales | None = None) -> Begun:
    """The job of a damage. Raises Missing and OutOfRange, with the damage's field as its path, for what is not measured and for
    what cannot be.

    >>> from layup.library import generic
    >>> hole = Damage(name="Hole", width_mm=80, length_mm=120, skin_mm=4, back_reached=True)
    >>> begun = job_of(hole, generic())
    >>> [part.name for part in begun.spec.parts], begun.spec.parts[1].shape.taper
    (['Backing, from inside', 'Patch'], 12.0)
    """
    making = _Making(damage, library, scales or Scales())
    _require(making)
    _which_resin(making)
    _MAKES[damage.kind](making)
    _how_dry(making)
    fillers = {joint.filler_id for joint in making.joints}
    resin = making.resin
    spec = JobSpec(
        name=damage.name or f"Repair: {damage.kind}",
        damage=damage,
        materials=JobMaterials(
            fabrics=tuple(making.fabrics.values()),
            resins=(resin,),
            fillers=tuple(filler for filler in library.fillers if filler.id in fillers),
        ),
        resins=(ResinInUse(id="resin", resin_id=resin.id),),
        parts=tuple(making.parts),
        joints=tuple(making.joints),
    )
    return Begun(spec, tuple(making.because), making.drawn)


def ground_mm(damage: Damage) -> float:
    """How far the ground runs past the damage on every side, mm: its taper times its depth.

    >>> ground_mm(Damage(kind="part way through", depth_mm=3, carries="much"))
    60.0
    """
    deep = damage.depth_mm if damage.kind == "part way through" else damage.skin_mm
    return taper_of(damage) * (deep or 0.0)


def taper_of(damage: Damage) -> float:
    """The ground's width for one of depth: as given, or by what it carries."""
    return damage.taper or TAPERS[damage.carries]


_WIDE = Asked("width_mm", "Wide", "how wide is it?")
_LONG = Asked("length_mm", "Long", "how long is it?")
# What is asked of each kind of damage first, in its order.
ASKED: dict[DamageKind, tuple[Asked, ...]] = {
    "crack in the surface coat": (
        Asked("length_mm", "Long", "how long is the crack?"),
        Asked("depth_mm", "Deep", "how deep is the surface coat?"),
    ),
    "part way through": (
        _WIDE,
        _LONG,
        Asked("depth_mm", "Deep", "how deep does it go?"),
        Asked("skin_mm", "Laminate there", "how thick is the laminate there?"),
    ),
    "hole through": (
        Asked("width_mm", "Wide", "how wide is the hole?"),
        _LONG,
        Asked("skin_mm", "Laminate there", "how thick is the laminate there? Measure it at the edge of the hole"),
    ),
    "skin come loose": (
        Asked("width_mm", "Wide", "how wide does it sound hollow?"),
        Asked("length_mm", "Long", "how long?"),
        Asked("gap_mm", "Gap behind it", "how wide is the gap? Drill one hole and feel"),
    ),
    "blisters": (Asked("width_mm", "Wide", "how wide is the place?"), _LONG),
    "crushed core": (
        Asked("width_mm", "Wide", "how wide is it, cut back to sound core?"),
        _LONG,
        Asked("skin_mm", "Laminate there", "how thick is the skin over it?"),
        Asked("core_mm", "Core", "how thick is the core?"),
    ),
}
# What is ground back and patched.
PATCHED: tuple[DamageKind, ...] = ("part way through", "hole through", "crushed core")


def _require(making: _Making) -> None:
    damage = making.damage
    for asked in ASKED[damage.kind]:
        if getattr(damage, asked.field) is None:
            raise Missing(asked.ask, asked.field)
    for across, panel in (("width_mm", "panel_width_mm"), ("length_mm", "panel_length_mm")):
        own, whole = getattr(damage, across), getattr(damage, panel)
        if own is not None and whole is not None and own >= whole:
            raise OutOfRange("it is as big as the panel it is in: check both", across)
    deep, skin = damage.depth_mm, damage.skin_mm
    if damage.kind == "part way through" and deep is not None and skin is not None and deep >= skin:
        raise OutOfRange("it goes as deep as the laminate is thick: then it is a hole through", "depth_mm")
    if damage.kind in PATCHED:
        _bevel_fits(making)


def _bevel_fits(making: _Making) -> None:
    """The ground past the damage lies on the panel. Raises OutOfRange, with what would fit."""
    damage, size = making.damage, making.size
    past = ground_mm(damage)
    if damage.to_edge_mm is not None and past > damage.to_edge_mm:
        least = damage.to_edge_mm * taper_of(damage) / past
        raise OutOfRange(
            f"the ground runs {size(past)} past it, and the edge is {size(damage.to_edge_mm)} away: go round the edge, or "
            f"no flatter than {least:.0f} to 1",
            "to_edge_mm",
        )
    for across, panel in (("width_mm", "panel_width_mm"), ("length_mm", "panel_length_mm")):
        own, whole = getattr(damage, across), getattr(damage, panel)
        if whole is not None and own + 2 * past > whole:
            fits = (whole - own) / 2 / past * taper_of(damage)
            raise OutOfRange(
                f"with its ground, {size(past)} on each side, it does not fit between these edges: no flatter than {fits:.0f} to 1",
                panel,
            )


def _which_resin(making: _Making) -> None:
    damage = making.damage
    if damage.look == "gel coat" and making.epoxy:
        words = "Epoxy, and gel coat over it at your own risk: only where the patch is small, cured, washed and sanded"
        making.say("resin", words)
    elif damage.look == "gel coat":
        making.say(
            "resin", "Polyester, since gel coat comes last and does not hold on epoxy for sure; epoxy would bond better"
        )
    elif making.epoxy:
        last = "paint comes last" if damage.look == "paint" else "nothing comes over it"
        making.say("resin", f"Epoxy: it bonds best to an old laminate, and {last}")
    else:
        making.say("resin", "Polyester, as you chose: epoxy would bond better to an old laminate")


def _how_dry(making: _Making) -> None:
    wet = making.damage.moisture_pct
    if wet is not None and wet > DRY_PCT:
        words = f"The meter reads {wet:.0f} %: dry it for days or weeks until it reads under {DRY_PCT:.0f} %, or as its sheet says"
        making.say("dry", words, "memory")


def _patch(making: _Making, depth_mm: float, *, through: bool, after: tuple[str, ...] = ()) -> None:
    damage = making.damage
    width, length = _metres(damage.width_mm), _metres(damage.length_mm)
    taper = taper_of(damage)
    plies = tuple(_plies(making, "patch", depth_mm))
    step_mm = _step_mm(making, len(plies))
    coats = tuple(_looks(making))
    making.drawn = _drawn(making, plies, depth_mm, step_mm, through=through)
    making.parts.append(
        Part(
            id="patch",
            name="Patch",
            substrate=making.ground,
            ground=Ground(washed_and_abraded=True, moisture_pct=damage.moisture_pct, later=_later(making)),
            shape=Patch(
                width_m=width,
                length_m=length,
                depth_mm=depth_mm,
                through=through,
                behind=damage.back_reached,
                taper=taper,
                step_mm=step_mm,
                order=damage.order,
            ),
            comes_after=after,
            plies=plies + coats,
        )
    )
    carries = {
        "little": "for a panel that carries little",
        "as usual": "as is usual",
        "much": "for a panel that carries much",
    }
    whose = "the figure you gave" if damage.taper else carries[damage.carries]
    making.say(
        "taper",
        f"Ground back {making.size(ground_mm(damage))} on every side, {taper:g} to 1, {whose}; each ply reaches "
        f"{making.size(step_mm)} further. A designer's or a surveyor's figure wins",
    )


def _step_mm(making: _Making, count: int) -> float:
    """How much further each ply reaches: as given, or so that the last of them ends inside the ground. Raises OutOfRange where
    none does."""
    damage, size = making.damage, making.size
    room = (1 - FEATHER_SHARE) * ground_mm(damage)
    most = room / max(1, count)
    if damage.step_mm is None:
        if most < LEAST_STEP_MM:
            raise OutOfRange(
                f"{count} plies do not step out inside {size(ground_mm(damage))} of ground: a flatter taper, or fewer plies",
                "taper",
            )
        return min(STEP_MM, most)
    if damage.step_mm > most:
        raise OutOfRange(
            f"the last ply would run past the ground: {size(most)} a ply at most, or a flatter taper", "step_mm"
        )
    return damage.step_mm


def _drawn(making: _Making, plies: tuple[Ply, ...], depth_mm: float, step_mm: float, *, through: bool) -> PatchDrawn:
    damage = making.damage
    shape = Patch(step_mm=step_mm, order=damage.order)
    return PatchDrawn(
        width_mm=damage.width_mm or 0.0,
        length_mm=damage.length_mm or 0.0,
        depth_mm=depth_mm,
        skin_mm=damage.skin_mm or depth_mm,
        ground_mm=ground_mm(damage),
        taper=taper_of(damage),
        through=through,
        backing_mm=BACKING_PAST_MM if through else 0.0,
        plies=tuple(
            PlyDrawn(
                name=making.fabrics[ply.fabric_id].name,
                past_mm=patch_extra_mm(shape, place, len(plies)),
                thickness_mm=_ply_mm(making.fabrics[ply.fabric_id], making.resin),
            )
            for place, ply in enumerate(plies)
        ),
    )


def _later(making: _Making) -> str:
    return {"gel coat": "gel coat", "paint": "paint", "nothing": ""}[making.damage.look]


def _looks(making: _Making) -> Iterator[Ply]:
    if making.damage.look == "gel coat":
        gel = next(each for each in making.library.coats if each.kind == "gel")
        yield Ply(id="patch-gel", coat=Coat(kind="gel", resin_gsm=gel.resin_gsm))
        making.say("looks", "Gel coat last, a little proud, by its own sheet; a last coat needs wax or a film to cure")
    elif making.damage.look == "paint":
        yield Ply(id="patch-fill", coat=Coat(kind="fill", resin_gsm=_FILL_GSM))
        making.say("looks", "A fill coat over the weave, to be sanded before paint")


def _plies(making: _Making, part_id: str, depth_mm: float) -> Iterator[Ply]:
    """What lies there again: as written, or as many plies of one fabric as come nearest to what was ground away."""
    written = making.damage.old_stack.strip()
    if written:
        read = parse_line(written, making.library.fabrics)
        if read.problems:
            raise OutOfRange(read.problems[0].message, "old_stack")
        if not any(quick.fabric for quick in read.plies):
            raise OutOfRange("write the fabrics that lie there, such as 2x 450 csm", "old_stack")
        if len(read.plies) > _MOST_PLIES:
            raise OutOfRange(f"no repair has more than {_MOST_PLIES} plies: check it", "old_stack")
        thick = 0.0
        for number, quick in enumerate(read.plies, 1):
            if quick.fabric is None:
                continue
            making.fabrics[quick.fabric.id] = quick.fabric
            thick += _ply_mm(quick.fabric, making.resin)
            yield Ply(id=f"{part_id}-{number}", fabric_id=quick.fabric.id, angle=quick.angle)
        making.say(
            "stack",
            f"The plies that lie there come to {making.size(thick)}, where {making.size(depth_mm)} is ground away",
        )
        return
    fabric = making.fabric("biax-450" if making.epoxy else "csm-450")
    each = _ply_mm(fabric, making.resin)
    count = max(1, round(depth_mm / each))
    for number in range(1, count + 1):
        yield Ply(id=f"{part_id}-{number}", fabric_id=fabric.id)
    plies = "1 ply comes" if count == 1 else f"{count} plies come"
    making.say(
        "stack",
        f"{plies} to {making.size(count * each)}, where {making.size(depth_mm)} is ground away. Where you know what lies there, write it",
    )


def _ply_mm(fabric: Fabric, resin: ResinSystem) -> float:
    try:
        share = fibre_weight_fraction(fabric, "simple", "by fabric").value
    except LayupError:
        return fabric.core_thickness_mm or 0.0
    held = resin_areal_weight_gsm(fabric.areal_weight_gsm, share)
    return thickness_mm(fabric.areal_weight_gsm, held, fibre_density_g_per_cm3(fabric), resin.cured_density_g_per_cm3)


def _hole(making: _Making) -> None:
    damage = making.damage
    width, length = _metres(damage.width_mm), _metres(damage.length_mm)
    fabric = making.fabric("cloth-300" if making.epoxy else "csm-300")
    past = BACKING_PAST_MM / 1000
    backing = Rectangle(width_m=width + 2 * past, length_m=length + 2 * past)
    ply = Ply(id="backing-1", fabric_id=fabric.id)
    if damage.back_reached:
        making.parts.append(
            Part(
                id="backing",
                name="Backing, from inside",
                substrate=making.ground,
                ground=Ground(washed_and_abraded=True),
                shape=backing,
                plies=(ply,),
            )
        )
        making.say(
            "backing",
            f"A backing from inside first, {making.size(BACKING_PAST_MM)} past the hole: a small pot of its own",
        )
        _patch(making, damage.skin_mm or 0.0, through=True, after=("backing",))
        return
    making.parts.append(
        Part(id="backing", name="Backing, laid on film and cured", substrate="waxed mould", shape=backing, plies=(ply,))
    )
    around_m = 2 * (width + length) + 8 * past / 2
    making.joints.append(
        Joint(
            id="bed",
            name="Backing bedded behind the hole",
            kind="glue line",
            length_m=around_m,
            width_mm=BED_WIDE_MM,
            glue_mm=BED_MM,
            substrate=making.ground,
            filler_id="silica",
            consistency="stands",
            comes_after=("backing",),
            fixings="a wire through the backing, twisted over a stick until it sets",
        )
    )
    words = "Nobody reaches the back: one ply is cured on film, rolled through the hole, pulled up against it by a wire in paste"
    making.say("backing", words)
    _patch(making, damage.skin_mm or 0.0, through=True, after=("bed",))


def _part_way(making: _Making) -> None:
    _patch(making, making.damage.depth_mm or 0.0, through=False)


def _crack(making: _Making) -> None:
    damage = making.damage
    deep = damage.depth_mm or 0.0
    making.joints.append(
        Joint(
            id="crack",
            name="Crack, opened to a V",
            kind="gap",
            length_m=_metres(damage.length_mm),
            # A V as wide as it is deep twice over is half as much as a slot.
            width_mm=deep,
            depth_mm=deep,
            panel_thickness_mm=damage.skin_mm or 6.0,
            substrate=making.ground,
            duty="eases the corner",
            filler_id="silica",
            consistency="stands",
        )
    )
    making.say("crack", "Open it to a V until its end is found, chamfer its edges, fill a little proud, sand flush")


def _loose(making: _Making) -> None:
    damage = making.damage
    width, length = damage.width_mm or 0.0, damage.length_mm or 0.0
    making.joints.append(
        Joint(
            id="injected",
            name="Behind the loose skin",
            kind="glue line",
            **_spread_over(damage),
            glue_mm=damage.gap_mm,
            squeeze_out=INJECTED_OVER,
            substrate=making.ground,
            filler_id="silica",
            consistency="runs",
            fixings="weight on it until clamps may come off",
        )
    )
    holes = max(1, round(width / HOLES_EVERY_MM)) * max(1, round(length / HOLES_EVERY_MM))
    count = "1 hole" if holes == 1 else f"{holes} holes"
    making.say(
        "injected", f"{count}, {making.size(HOLES_EVERY_MM)} apart; area times gap and a fifth more goes in", "memory"
    )


def _blisters(making: _Making) -> None:
    damage = making.damage
    plies = (
        Ply(id="blisters-fill", coat=Coat(kind="fill", resin_gsm=FILLED_GSM)),
        Ply(id="blisters-barrier", coat=Coat(kind="barrier", resin_gsm=FILLED_GSM, dry_um=BARRIER_UM)),
    )
    making.parts.append(
        Part(
            id="blisters",
            name="Opened, washed and dried",
            substrate=making.ground,
            ground=Ground(washed_and_abraded=True, moisture_pct=damage.moisture_pct, later="paint"),
            shape=Rectangle(width_m=_metres(damage.width_mm), length_m=_metres(damage.length_mm)),
            plies=plies,
        )
    )
    words = f"Open every blister, wash with fresh water again and again, dry for weeks; then fill, then {BARRIER_UM:.0f} µm of barrier"
    making.say("barrier", words)


def _core(making: _Making) -> None:
    damage = making.damage
    width, length = damage.width_mm or 0.0, damage.length_mm or 0.0
    core = _nearest_core(making)
    making.joints.append(
        Joint(
            id="bed",
            name="Bed for the new core",
            kind="glue line",
            **_spread_over(damage),
            glue_mm=BED_MM,
            substrate=making.ground,
            filler_id="silica",
            consistency="peaks",
        )
    )
    making.parts.append(
        Part(
            id="core",
            name="New core",
            substrate=making.ground,
            ground=Ground(washed_and_abraded=True, moisture_pct=damage.moisture_pct),
            shape=Rectangle(width_m=_metres(width), length_m=_metres(length)),
            comes_after=("bed",),
            plies=(Ply(id="core-1", fabric_id=core.id),),
        )
    )
    making.say(
        "core",
        "Cut back to sound core, bevel its edge, bed the new core in paste, fill the gap round it, then the skin",
    )
    _patch(making, damage.skin_mm or 0.0, through=False, after=("core",))


def _nearest_core(making: _Making) -> Fabric:
    cores = [fabric for fabric in making.library.fabrics if fabric.core_thickness_mm]
    wanted = making.damage.core_mm or 0.0
    found = min(cores, key=lambda fabric: abs((fabric.core_thickness_mm or 0.0) - wanted))
    making.fabrics[found.id] = found
    return found


def _spread_over(damage: Damage) -> dict[str, Any]:
    """The measures of a paste that is spread over all of a damage: in strips alike, where it is wider than a joint is told of."""
    across, along = sorted((damage.width_mm or 0.0, damage.length_mm or 0.0))
    count = max(1, ceil(across / _WIDEST_MM))
    return {"length_m": along / 1000, "width_mm": across / count, "count": count}


def _metres(mm: float | None) -> float:
    return (mm or 0.0) / 1000


_MAKES = {
    "crack in the surface coat": _crack,
    "part way through": _part_way,
    "hole through": _hole,
    "skin come loose": _loose,
    "blisters": _blisters,
    "crushed core": _core,
}
