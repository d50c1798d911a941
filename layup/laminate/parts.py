"""The parts of a job: each measured, its plies and coats worked out in laying order, and the work they make."""

from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, field

from layup.architecture import Architecture
from layup.bag.stack import bagging_min
from layup.bag.vacuum import level_mbar, pull_mbar
from layup.coats.film import SLURRY_PARTS, film_of, liquid_g_per_ml
from layup.errors import LayupError, known
from layup.job import Coat, JobSpec, Part, ResinInUse
from layup.kind import GONE, Draft, Products, Turn
from layup.laminate.bays import bays_of
from layup.laminate.ground import REACHED, STEEP, WET_OUT_GSM
from layup.laminate.measures import Measured, asked_for, cut_out_area_m2, hole_pieces, measure, missing_of
from layup.laminate.outcome import DimensionResult, PartResult, PlyResult
from layup.laminate.plies import coat_result, net_area_m2, ply_result
from layup.library import generic
from layup.materials import Fabric, ResinSystem
from layup.order import made_apart
from layup.pots.crew import team_of
from layup.pots.sizing import COAT_MIN_PER_M2, spreading_min_per_m2
from layup.pots.work import Bays, LiesOn, Owner, StirsIn, UnderBag, Waits, Work
from layup.scales import Scales


@dataclass
class Parts:
    """The parts that could be worked out, and every ply of a known fabric: its path, its part and the fabric. Of a part that is
    infused `coats` are the works of its coats, which lie on the mould before any fibre does.

    `runs_off` is the share of what is laid on a part that runs down or drips, by its id; `use_ids` the resin in use of
    each of its plies and coats, by theirs, and of the part itself.
    """

    parts: list[PartResult] = field(default_factory=list)
    plies: list[tuple[str, Part, Fabric]] = field(default_factory=list)
    coats: dict[str, tuple[Work, ...]] = field(default_factory=dict)
    runs_off: dict[str, float] = field(default_factory=dict)
    use_ids: dict[str, str] = field(default_factory=dict)


def in_part_g(part: PartResult, use_ids: Mapping[str, str], use_id: str) -> float:
    """What one copy of a part takes of a resin in use, in it and on it, with what comes off again, g."""
    taken = sum(ply.resin_g + ply.mopped_off_g + ply.lost_g for ply in part.plies if use_ids.get(ply.id) == use_id)
    drunk = part.wet_out_g if first_wet_out(part.plies) is None and use_ids.get(part.id) == use_id else 0.0
    return taken + drunk


def first_wet_out(plies: Sequence[PlyResult]) -> PlyResult | None:
    """The wet-out coat a stack begins with, which stands in for what its surface is expected to drink."""
    return plies[0] if plies and plies[0].coat == "wet-out" else None


def drinks_gsm(part: Part, plies: list[PlyResult]) -> float:
    """Resin that the surface drinks before its first ply, g/m²: none where a coat lies on it first, and wets it."""
    return 0.0 if plies and plies[0].coat else WET_OUT_GSM[part.substrate]


def plan_parts(job: JobSpec, products: Products, draft: Draft) -> Parts:
    """Each part worked out; its work, and what is missing of it, goes to the draft."""
    found = Parts()
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    for number, part in enumerate(job.parts):
        path = f"parts.{number}"
        if not part.plies:
            draft.missing(f"{path}.plies", f"{part.name or 'this part'} has no plies: write its stack", "stack")
        measured = _measured(part, path, draft)
        holes_m2 = _holes_m2(part, path, measured, draft)
        if measured is None or holes_m2 is None:
            continue
        plies, own = [], job.use_of(part.use_id)
        pulls_mbar = _pulls_mbar(part, draft.shop.above_sea_m)
        if own is None:
            draft.missing(f"{path}.use_id", GONE, "stack")
            continue
        found.use_ids[part.id] = own.id
        for at, ply in enumerate(part.plies):
            ply_path = f"{path}.plies.{at}"
            if ply.coat:
                use = coat_use(job, part, ply.coat)
                if use is None and ply.coat.use_id:
                    draft.missing(f"{ply_path}.coat.use_id", GONE, "stack")
                    continue
                found.use_ids[ply.id] = use.id if use else ""
                product = products.get((use or own).id)
                try:
                    film_of(ply.coat, liquid_g_per_ml(product))
                except LayupError as error:
                    draft.missing(f"{ply_path}.{error.path}", error.message, "pours", wrong=True)
                try:
                    plies.append(coat_result(part, at, measured, holes_m2, product))
                except LayupError as error:
                    draft.missing(f"{ply_path}.{error.path or 'coat'}", error.message, "stack")
                continue
            fabric = fabrics.get(ply.fabric_id)
            if fabric is None:
                draft.missing(f"{ply_path}.fabric_id", f"“{ply.fabric_id}” is no fabric of this job", "stack")
                continue
            found.plies.append((ply_path, part, fabric))
            found.use_ids[ply.id] = own.id
            try:
                plies.append(
                    ply_result(part, at, fabric, measured, holes_m2, job.practice, products.get(own.id), pulls_mbar)
                )
            except LayupError as error:
                draft.missing(f"{ply_path}.{error.path or 'fibre_weight_fraction'}", error.message, "stack")
        result = _part(part, plies, measured, holes_m2, found.use_ids, draft.scales)
        found.parts.append(result)
        found.runs_off[part.id] = STEEP[part.orientation].runs_off
        if part.process == "infusion":
            every = _part_works(part, plies, result.area_m2, fabrics, found.use_ids, job, products)
            found.coats[part.id] = tuple(work for work in every if work.coat)
        else:
            under_bag = _under_bag(part, result, job) if part.process == "vacuum bag" else None
            works = tuple(_part_works(part, plies, result.area_m2, fabrics, found.use_ids, job, products))
            edged = under_bag is None and any(not ply.coat for ply in part.plies)
            draft.lay(
                Owner(
                    part.id,
                    part.name or "part",
                    part.copies,
                    works,
                    fixings=part.ground.fixings,
                    edged=edged,
                    bays=None if under_bag else _bays(path, part, measured, works, fabrics, job, draft),
                    comes_after=part.comes_after,
                    lies_on=_beneath(part, job),
                    under_bag=under_bag,
                ),
                Turn.HIDDEN if part.ground.hidden_faces else Turn.PARTS,
            )
    return found


def _pulls_mbar(part: Part, above_sea_m: float) -> float | None:
    """What presses on a part's bag, mbar; None without one, and for a level that cannot be, which the bag says."""
    if part.process == "open mould":
        return None
    with suppress(LayupError):
        return pull_mbar(level_mbar(part.bag.level, part.bag.level_in, above_sea_m), above_sea_m)
    return None


def _under_bag(part: Part, told: PartResult, job: JobSpec) -> UnderBag:
    """How long the bag over a part takes, by the hands there are; what of it cannot be is said by the bag itself."""
    hands = team_of(job.pots).hands
    return UnderBag(bagging_min(part, told, hands))


def _bays(
    path: str,
    part: Part,
    measured: Measured,
    works: Sequence[Work],
    fabrics: Mapping[str, Fabric],
    job: JobSpec,
    draft: Draft,
) -> Bays | None:
    """How the part may be divided into bays; what cannot be is said at its field, and it is laid whole."""
    try:
        return bays_of(part, measured, works, fabrics, job)
    except LayupError as error:
        draft.missing(f"{path}.bays.{error.path}", error.message, "measure", wrong=True)
        return None


def _beneath(part: Part, job: JobSpec) -> tuple[LiesOn, ...]:
    """The fillets that the part's cloth turns over: wet, or cured and sanded, as tabbing over one is; and what was made apart."""
    waits: Waits = "to be sanded" if job.practice.tabbing == "cured and sanded" else ""
    fillets = tuple(LiesOn(joint.id, waits) for joint in job.joints if joint.covered_by == part.id)
    return fillets if part.substrate == "waxed mould" else (*fillets, *made_apart(job, part.comes_after))


def _measured(part: Part, path: str, draft: Draft) -> Measured | None:
    """The part's shape, measured; None where a measure is missing or cannot be, which is said at its field."""
    missing = asked_for(part.shape)
    for field_, message in missing:
        draft.missing(f"{path}.shape.{field_}", message, "measure")
    if missing:
        return None
    try:
        return measure(part.shape)
    except LayupError as error:
        draft.missing(f"{path}.shape.{error.path or _FIRST_FIELD[part.shape.kind]}", error.message, "measure")
        return None


_FIRST_FIELD = {"girths": "stations"}


def _holes_m2(part: Part, path: str, measured: Measured | None, draft: Draft) -> float | None:
    """What the part's cut-outs take away, m²; None where one is not measured or they leave nothing."""
    total, whole = 0.0, True
    for number, cut_out in enumerate(part.cut_outs):
        missing = missing_of(cut_out)
        if missing:
            draft.missing(f"{path}.cut_outs.{number}.{missing.path}", missing.message, "measure")
            whole = False
        else:
            total += cut_out_area_m2(cut_out) or 0.0
    if whole and measured and total >= measured.area_m2 * part.developed_area_factor:
        draft.missing(f"{path}.cut_outs", "the holes are bigger than the part: check their measures", "measure")
        return None
    return total if whole else None


def coat_use(job: JobSpec, part: Part, coat: Coat) -> ResinInUse | None:
    """The resin in use of a coat: its own, else its part's; None for a gel coat of none, and for one that is gone."""
    if coat.kind == "gel" and not coat.use_id:
        return None
    return job.use_of(coat.use_id, part.use_id)


def _part(
    part: Part,
    plies: list[PlyResult],
    measured: Measured,
    holes_m2: float,
    use_ids: Mapping[str, str],
    scales: Scales,
) -> PartResult:
    area = net_area_m2(part, measured, 0, holes_m2)
    left_in = [ply for ply in plies if ply.stays and ply.coat != "wet-out"]
    wet_out = first_wet_out(plies)
    coats = [ply for ply in plies if ply.coat and ply is not wet_out]
    coats_g = sum(ply.resin_g for ply in coats if use_ids[ply.id])
    gel_coat_g = sum(ply.resin_g for ply in coats if not use_ids[ply.id])
    whole = [ply for ply in left_in if ply.fibre_weight_fraction is not None]
    fibre_gsm = sum(ply.fibre_gsm for ply in whole)
    thick = sum(ply.thickness_mm for ply in left_in)
    laminate_gsm = sum(ply.fibre_gsm + ply.resin_gsm for ply in left_in)
    reinforced_gsm = sum(ply.fibre_gsm + ply.resin_gsm for ply in whole)
    reinforced_mm = sum(ply.thickness_mm for ply in whole)
    fibre_mm = sum((ply.fibre_volume_fraction or 0.0) * ply.thickness_mm for ply in whole)
    wet_out_gsm = wet_out.resin_gsm if wet_out else drinks_gsm(part, plies)
    return PartResult(
        id=part.id,
        name=part.name,
        substrate=part.substrate,
        count=part.copies,
        area_m2=area,
        total_area_m2=area * part.copies,
        area_working=_area_words(part, measured, holes_m2, scales),
        wet_out_gsm=wet_out_gsm,
        wet_out_source="as written" if wet_out else "memory",
        wet_out_g=wet_out.resin_g if wet_out else wet_out_gsm * area,
        plies=tuple(plies),
        thickness_mm=thick,
        laminate_gsm=laminate_gsm,
        fibre_weight_fraction=fibre_gsm / reinforced_gsm if reinforced_gsm else None,
        fibre_g=sum(ply.fibre_g for ply in left_in),
        resin_in_plies_g=sum(ply.resin_g for ply in left_in if not ply.coat),
        outline_m2=measured.area_m2,
        perimeter_m=measured.perimeter_m,
        holes_m2=holes_m2,
        area_rule=measured.rule,
        pieces=measured.pieces + hole_pieces(part.cut_outs, measured),
        dimensions=tuple(DimensionResult(field=d.field, value_m=d.value_m, a=d.a, b=d.b) for d in measured.dimensions),
        fibre_volume_fraction=fibre_mm / reinforced_mm if reinforced_mm else None,
        coats_g=coats_g,
        gel_coat_g=gel_coat_g,
        weight_g=sum(ply.fibre_g + ply.resin_g for ply in left_in),
    )


def _area_words(part: Part, measured: Measured, holes_m2: float, scales: Scales) -> str:
    shape = part.shape
    words = measured.rule
    if shape.kind == "rectangle" and shape.width_m and shape.length_m:
        words = f"{scales.number('length', shape.width_m)} × {scales.words('length', shape.length_m)}"
    if part.developed_area_factor != 1:
        words += f" × {scales.written(part.developed_area_factor)} for its curve"
    if part.margin_mm:
        words += f", {scales.words('size', part.margin_mm)} margin"
    if holes_m2:
        words += f", less {scales.words('area', holes_m2)}"
    if part.copies > 1:
        words += f" × {part.copies}" + (", mirrored pair" if part.pair else "")
    return words


def _part_works(
    part: Part,
    plies: list[PlyResult],
    area: float,
    fabrics: dict[str, Fabric],
    use_ids: Mapping[str, str],
    job: JobSpec,
    products: Products,
) -> list[Work]:
    works, steep = [], STEEP[part.orientation]
    hands = team_of(job.pots).hands / REACHED[part.reach]
    wet_out = first_wet_out(plies)
    wet_out_g = wet_out.resin_g + wet_out.lost_g if wet_out else drinks_gsm(part, plies) * area
    if wet_out_g and plies:
        minutes = COAT_MIN_PER_M2 * area * steep.times / hands
        grams = wet_out_g * (1 + steep.runs_off)
        works.append(
            Work(
                "wet out the surface",
                part.id,
                "",
                grams,
                minutes,
                area_m2=area,
                with_next=True,
                pots_at=steep.pots_at,
                short="wet out",
                use_id=use_ids[wet_out.id if wet_out else part.id],
            )
        )
    fabric_of = {ply.id: fabrics.get(ply.fabric_id) for ply in part.plies}
    skin = 0
    for number, ply in enumerate(plies, 1):
        if ply is wet_out or not use_ids[ply.id]:
            continue
        each = COAT_MIN_PER_M2 if ply.coat else spreading_min_per_m2(known(fabric_of[ply.id]))
        grams = (ply.resin_g + ply.mopped_off_g + ply.lost_g + ply.bled_g) * (1 + steep.runs_off) / ply.coat_count
        beneath = next((work for work in reversed(works) if work.item_id), None)
        core = ply.architecture is Architecture.CORE
        skin += core
        for coat in range(1, ply.coat_count + 1):
            of = f" {coat} of {ply.coat_count}" if ply.coat_count > 1 else ""
            works.append(
                Work(
                    f"{ply.name}{of}" if ply.coat else f"ply {number}, {ply.name}",
                    part.id,
                    ply.id,
                    grams,
                    each * ply.area_m2 * steep.times / hands,
                    "for tack" if coat > 1 else _waits(ply, use_ids[ply.id], beneath, job.practice.plies),
                    ply.area_m2,
                    thickness_mm=0.0 if core else ply.thickness_mm / ply.coat_count,
                    strips=ply.strip_count or 1,
                    skin=skin,
                    covers=core,
                    pots_at=steep.pots_at,
                    ply=0 if ply.coat else number,
                    stuff=ply.name,
                    short=f"{ply.name}{of}" if ply.coat else "",
                    use_id=use_ids[ply.id],
                    coat=ply.coat,
                    nth=coat,
                    stirs_in=_slurry(products.get(use_ids[ply.id])) if ply.coat == "slurry" else None,
                )
            )
    return works


def _slurry(product: ResinSystem | None) -> StirsIn:
    """What makes a sealing slurry of a resin: as much loose silica as resin, by volume (common practice)."""
    silica = next(filler for filler in generic().fillers if filler.id == "silica")
    by_weight = SLURRY_PARTS * silica.bulk_density_g_per_l / 1000 / liquid_g_per_ml(product)
    return StirsIn(silica.name, by_weight, silica.bulk_density_g_per_l)


def _waits(ply: PlyResult, use_id: str, beneath: Work | None, school: str) -> Waits:
    """What a layer waits for: a coat over plies for their tack, and for its own whatever comes on a gel coat or on a coat
    of another resin, such as a primer; where plies are set and sanded, each for the last."""
    if beneath is None:
        return ""
    if ply.coat or beneath.coat in ("gel", "surface") or (beneath.coat and beneath.use_id != use_id):
        return "for tack"
    return "to be sanded" if school == "set and sanded" else ""
