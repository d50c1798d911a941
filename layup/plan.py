"""plan(job, shop): the whole answer, worked out in the order of the work. Pure: same input, same output."""

from dataclasses import dataclass, field

from layup.answers import chemistry_result, joint_result, pot_results, stuck_result
from layup.catalyst import DoseVerdict, choose_dose
from layup.cautions import cautions_for
from layup.cautions.rule import Facts
from layup.cost import Used, cost_of
from layup.dew import LEAST_MARGIN_C, dew_point_c
from layup.errors import LayupError
from layup.hardeners import HardenerVerdict, choose_hardener
from layup.headlines import with_headlines
from layup.job import Conditions, JobSpec, Joint, Part, ShopFacts
from layup.joints import FILLET_M_PER_MIN, fillet_volume_ml
from layup.materials import Fabric, Filler, ResinSystem
from layup.measures import Measured, asked_for, cut_out_area_m2, hole_pieces, measure, missing_of
from layup.mix import Mix, settle
from layup.outcome import (
    CostLine,
    CostRecord,
    DewResult,
    DimensionResult,
    JointResult,
    PartResult,
    Plan,
    PlyResult,
    Problem,
    ResinUse,
    Step,
)
from layup.plies import net_area_m2, ply_result
from layup.pots import COAT_MIN_PER_M2, Pots, Stuck, Work, split_into_pots, spreading_min_per_m2
from layup.ratio import parse_ratio
from layup.scales import Scales
from layup.thickening import Paste, paste_for_volume

RESERVE_SHARE = 0.10  # memory
# Resin a surface drinks before the first ply, g/m² (memory; 150 to 250 for bare plywood, 60 to 100 for laminate).
WET_OUT_GSM = {
    "bare plywood": 200.0,
    "timber": 200.0,
    "sanded laminate": 80.0,
    "cured polyester": 80.0,
    "cured epoxy": 80.0,
    "foam core": 400.0,
    "polystyrene foam": 400.0,
    "aluminium": 60.0,
    "concrete": 500.0,
    "waxed mould": 0.0,
}


@dataclass
class _Draft:
    """What a plan has found so far."""

    problems: list[Problem] = field(default_factory=list)
    parts: list[PartResult] = field(default_factory=list)
    joints: list[JointResult] = field(default_factory=list)
    works: list[tuple[str, int, list[Work]]] = field(default_factory=list)
    pastes: dict[str, tuple[Joint, Paste, Filler]] = field(default_factory=dict)
    plies: list[tuple[str, Part, Fabric]] = field(default_factory=list)

    def missing(self, path: str, message: str, step: Step) -> None:
        self.problems.append(Problem(path=path, message=message, step=step))


def plan(job: JobSpec, shop: ShopFacts) -> Plan:
    """Plan a job with a shop's facts; a job's own conditions win over the shop's day.

    What is missing comes back in `problems`, and the rest is planned as far as it goes.

    >>> plan(JobSpec(name="New"), ShopFacts()).problems[0].message
    'add a part: what surface is it?'
    """
    return with_headlines(_planned(job, shop), job, shop.scales)


def _planned(job: JobSpec, shop: ShopFacts) -> Plan:
    conditions = job.conditions or shop.conditions
    dew = dew_of(conditions)
    draft = _Draft()
    resin = next((resin for resin in job.materials.resins if resin.id == job.chemistry.resin_id), None)
    _plan_parts(job, resin, draft, shop.scales)
    if resin is None:
        draft.missing("chemistry.resin_id", "choose the resin you hold", "chemistry")
        return Plan(conditions=conditions, dew=dew, parts=tuple(draft.parts), problems=tuple(draft.problems))

    hardener, dose = _verdicts(job, resin, conditions, draft, shop.scales)
    mix = _settled(job, shop, resin, hardener, dose, conditions, draft)
    pots: list[tuple[str, Pots]] = []
    stuck: list[tuple[str, Stuck]] = []
    if mix:
        _plan_joints(job, mix, draft)
        size_for = mix.sizer()
        for owner_name, copies, works in draft.works:
            fitted, unfitted = split_into_pots(works, copies, size_for, mix.step_g)
            pots += [(owner_name, group) for group in fitted]
            stuck += [(owner_name, group) for group in unfitted]
    facts = Facts(
        job=job,
        conditions=conditions,
        room_c=conditions.room_c,
        surface_c=conditions.surface_or_room_c,
        dew=dew,
        day=shop.day,
        scales=shop.scales,
        resin=resin,
        hardener=hardener,
        dose=dose,
        plies=tuple(draft.plies),
        thickness_mm={part.id: part.thickness_mm for part in draft.parts},
        pot_masses_g=tuple(group.mass_g for _, group in pots),
        weight_b_per_a=mix.b_per_a_weight if mix else None,
    )
    resin_use = _resin_use(draft, pots, mix) if mix and pots and not stuck else None
    potted = pot_results(pots, mix, draft.pastes)
    return Plan(
        conditions=conditions,
        dew=dew,
        parts=tuple(draft.parts),
        joints=tuple(draft.joints),
        resin=resin_use,
        chemistry=chemistry_result(job, resin, hardener, dose, conditions.room_c, mix, pots, shop.scales),
        pots=potted,
        pot_count=sum(pot.count for pot in potted),
        cost=_cost(draft, mix, resin_use) if resin_use else None,
        stuck=tuple(stuck_result(owner_name, group, mix) for owner_name, group in stuck),
        cautions=cautions_for(facts),
        problems=tuple(draft.problems),
    )


def dew_of(conditions: Conditions) -> DewResult | None:
    """The dew point and how far the surface is over it; None where the humidity is not known."""
    if conditions.humidity_pct is None:
        return None
    point = dew_point_c(conditions.room_c, conditions.humidity_pct)
    margin = conditions.surface_or_room_c - point
    return DewResult(point_c=point, margin_c=margin, frost=point < 0, safe=margin >= LEAST_MARGIN_C)


def _plan_parts(job: JobSpec, resin: ResinSystem | None, draft: _Draft, scales: Scales) -> None:
    if not job.parts and not job.joints:
        draft.missing("parts", "add a part: what surface is it?", "measure")
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    for number, part in enumerate(job.parts):
        path = f"parts.{number}"
        if not part.plies:
            draft.missing(f"{path}.plies", f"{part.name or 'this part'} has no plies: write its stack", "stack")
        measured = _measured(part, path, draft)
        holes_m2 = _holes_m2(part, path, measured, draft)
        if measured is None or holes_m2 is None:
            continue
        plies = []
        for at, ply in enumerate(part.plies):
            ply_path = f"{path}.plies.{at}"
            fabric = fabrics.get(ply.fabric_id)
            if fabric is None:
                draft.missing(f"{ply_path}.fabric_id", f"“{ply.fabric_id}” is no fabric of this job", "stack")
                continue
            draft.plies.append((ply_path, part, fabric))
            try:
                plies.append(ply_result(part, at, fabric, measured, holes_m2, job.practice, resin))
            except LayupError as error:
                draft.missing(f"{ply_path}.{error.path or 'fibre_weight_fraction'}", error.message, "stack")
        result = _part(part, plies, measured, holes_m2, scales)
        draft.parts.append(result)
        works = _part_works(part, plies, result.area_m2, fabrics, job.pots.hands)
        draft.works.append((part.name or "part", part.copies, works))
    draft.works = [entry for entry in draft.works if entry[2]]


def _measured(part: Part, path: str, draft: _Draft) -> Measured | None:
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


def _holes_m2(part: Part, path: str, measured: Measured | None, draft: _Draft) -> float | None:
    """What the part's cut-outs take away, m²; None where one is not measured or they leave nothing."""
    total, whole = 0.0, True
    for number, cut_out in enumerate(part.cut_outs):
        missing = missing_of(cut_out)
        if missing:
            draft.missing(f"{path}.cut_outs.{number}.{missing.path}", missing.message, "measure")
            whole = False
        else:
            total += cut_out_area_m2(cut_out)
    if whole and measured and total >= measured.area_m2 * part.developed_area_factor:
        draft.missing(f"{path}.cut_outs", "the holes are bigger than the part: check their measures", "measure")
        return None
    return total if whole else None


def _part(part: Part, plies: list[PlyResult], measured: Measured, holes_m2: float, scales: Scales) -> PartResult:
    area = net_area_m2(part, measured, 0, holes_m2)
    left_in = [ply for ply in plies if ply.stays]
    whole = [ply for ply in left_in if ply.fibre_weight_fraction is not None]
    fibre_gsm = sum(ply.fibre_gsm for ply in whole)
    thick = sum(ply.thickness_mm for ply in left_in)
    laminate_gsm = sum(ply.fibre_gsm + ply.resin_gsm for ply in left_in)
    reinforced_gsm = sum(ply.fibre_gsm + ply.resin_gsm for ply in whole)
    reinforced_mm = sum(ply.thickness_mm for ply in whole)
    fibre_mm = sum(ply.fibre_volume_fraction * ply.thickness_mm for ply in whole)
    wet_out_gsm = WET_OUT_GSM[part.substrate]
    return PartResult(
        id=part.id,
        name=part.name,
        substrate=part.substrate,
        count=part.copies,
        area_m2=area,
        total_area_m2=area * part.copies,
        area_working=_area_words(part, measured, holes_m2, scales),
        wet_out_gsm=wet_out_gsm,
        wet_out_source="memory",
        wet_out_g=wet_out_gsm * area,
        plies=tuple(plies),
        thickness_mm=thick,
        laminate_gsm=laminate_gsm,
        fibre_weight_fraction=fibre_gsm / reinforced_gsm if reinforced_gsm else None,
        fibre_g=sum(ply.fibre_g for ply in left_in),
        resin_in_plies_g=sum(ply.resin_g for ply in left_in),
        outline_m2=measured.area_m2,
        perimeter_m=measured.perimeter_m,
        holes_m2=holes_m2,
        area_rule=measured.rule,
        pieces=measured.pieces + hole_pieces(part.cut_outs, measured),
        dimensions=tuple(DimensionResult(field=d.field, value_m=d.value_m, a=d.a, b=d.b) for d in measured.dimensions),
        fibre_volume_fraction=fibre_mm / reinforced_mm if reinforced_mm else None,
    )


def _area_words(part: Part, measured: Measured, holes_m2: float, scales: Scales) -> str:
    shape = part.shape
    words = measured.rule
    if shape.kind == "rectangle":
        words = f"{scales.number('length', shape.width_m)} × {scales.words('length', shape.length_m)}"
    if part.developed_area_factor != 1:
        words += f" × {part.developed_area_factor:g} for its curve"
    if part.margin_mm:
        words += f", {scales.words('size', part.margin_mm)} margin"
    if holes_m2:
        words += f", less {scales.words('area', holes_m2)}"
    if part.copies > 1:
        words += f" × {part.copies}" + (", mirrored pair" if part.pair else "")
    return words


def _part_works(part: Part, plies: list[PlyResult], area: float, fabrics: dict[str, Fabric], hands: int) -> list[Work]:
    works = []
    wet_out_g = WET_OUT_GSM[part.substrate] * area
    if wet_out_g and plies:
        works.append(Work("wet out the surface", part.id, "", wet_out_g, COAT_MIN_PER_M2 * area / hands))
    fabric_of = {ply.id: fabrics.get(ply.fabric_id) for ply in part.plies}
    for number, ply in enumerate(plies, 1):
        minutes = spreading_min_per_m2(fabric_of[ply.id]) * ply.area_m2 / hands
        works.append(Work(f"ply {number}, {ply.name}", part.id, ply.id, ply.resin_g + ply.mopped_off_g, minutes))
    return works


def _verdicts(
    job: JobSpec, resin: ResinSystem, conditions: Conditions, draft: _Draft, scales: Scales
) -> tuple[HardenerVerdict | None, DoseVerdict | None]:
    chemistry = job.chemistry
    if resin.catalyst:
        wanted, own = chemistry.wanted_gel_min, chemistry.catalyst_pct
        return None, choose_dose(resin.catalyst, conditions.room_c, wanted, own, scales)
    school, deadline = job.practice.hardener_school, chemistry.deadline_h
    try:
        verdict = choose_hardener(resin.hardeners, conditions.room_c, school, deadline, chemistry.hardener_id, scales)
    except LayupError as error:
        draft.missing(error.path, error.message, "chemistry")
        verdict = choose_hardener(resin.hardeners, conditions.room_c, school, deadline, scales=scales)
    if verdict.chosen is None:
        draft.missing("conditions.room_c", verdict.sentence, "chemistry")
    return verdict, None


def _settled(
    job: JobSpec,
    shop: ShopFacts,
    resin: ResinSystem,
    hardener: HardenerVerdict | None,
    dose: DoseVerdict | None,
    conditions: Conditions,
    draft: _Draft,
) -> Mix | None:
    _check_tin_ratio(job, resin, draft)
    if conditions.room_c > resin.maximum_c:
        room, most = shop.scales.temperature(conditions.room_c), shop.scales.temperature(resin.maximum_c)
        message = f"{room} is over the {most} of {resin.name}: cool the room"
        draft.missing("conditions.room_c", message, "chemistry")
        return None
    if hardener and hardener.chosen is None:
        return None
    try:
        return settle(job, shop, resin, hardener.chosen.hardener if hardener else None, dose, conditions.room_c)
    except LayupError as error:
        draft.missing(error.path, error.message, "chemistry")
        return None


def _check_tin_ratio(job: JobSpec, resin: ResinSystem, draft: _Draft) -> None:
    chemistry = job.chemistry
    if not chemistry.tin_ratio or not resin.two_part:
        return
    try:
        parse_ratio(chemistry.tin_ratio)
    except LayupError as error:
        draft.missing("chemistry.tin_ratio", error.message, "chemistry")
        return
    if chemistry.tin_ratio_basis not in resin.bases:
        allowed = " or ".join(resin.bases)
        message = f"{resin.name} is measured by {allowed} only: type its ratio by {allowed}"
        draft.missing("chemistry.tin_ratio", message, "chemistry")


def _plan_joints(job: JobSpec, mix: Mix, draft: _Draft) -> None:
    fillers = {filler.id: filler for filler in job.materials.fillers}
    for number, joint in enumerate(job.joints):
        path = f"joints.{number}"
        filler = fillers.get(joint.filler_id)
        if joint.length_m is None:
            draft.missing(f"{path}.length_m", "type the length of the joint", "joints")
        if joint.radius_mm is None:
            draft.missing(f"{path}.radius_mm", "type the radius of the fillet", "joints")
        if filler is None:
            draft.missing(f"{path}.filler_id", "choose the filler", "joints")
        if joint.length_m is None or joint.radius_mm is None or filler is None:
            continue
        volume = fillet_volume_ml(joint.length_m, joint.radius_mm, joint.sides)
        try:
            paste = paste_for_volume(volume, filler, joint.consistency, mix.density_g_per_ml)
        except LayupError as error:
            draft.missing(f"{path}.consistency", error.message, "joints")
            continue
        draft.joints.append(joint_result(joint, paste, filler, mix))
        draft.pastes[joint.id] = (joint, paste, filler)
        minutes = joint.length_m * joint.sides / FILLET_M_PER_MIN / job.pots.hands
        # The paste's own losses are in its volume; what stays in the cup is added to the pot as for any other work.
        radius = mix.shop.scales.words("size", joint.radius_mm)
        works = [Work(f"fillet R {radius}", joint.id, joint.id, paste.resin_g, minutes)]
        draft.works.append((joint.name or "fillet", 1, works))


def _cost(draft: _Draft, mix: Mix, resin_use: ResinUse) -> CostRecord:
    fabric_of = {part.plies[int(path.split(".")[-1])].id: fabric for path, part, fabric in draft.plies}
    used = [
        Used(ply.name, ply.area_m2 * part.count, fabric_of[ply.id].price_per_m2)
        for part in draft.parts
        for ply in part.plies
    ]
    used += [
        Used(filler.name, paste.filler_g / 1000, filler.price_per_kg) for _, paste, filler in draft.pastes.values()
    ]
    part_a = resin_use.mixed_g if resin_use.part_a_g is None else resin_use.part_a_g
    used.append(Used(mix.resin.name, part_a / 1000, mix.resin.price_per_kg))
    if mix.hardener and resin_use.part_b_g:
        used.append(Used(f"{mix.hardener.name} hardener", resin_use.part_b_g / 1000, mix.hardener.price_per_kg))
    if resin_use.catalyst_g:
        used.append(Used(mix.resin.catalyst.name, resin_use.catalyst_g / 1000, mix.resin.catalyst.price_per_kg))
    cost = cost_of(used)
    lines = tuple(CostLine(name=name, cost=amount) for name, amount in cost.lines.items())
    return CostRecord(total=cost.total, known=cost.known, unpriced=cost.unpriced, lines=lines)


def _resin_use(draft: _Draft, pots: list[tuple[str, Pots]], mix: Mix) -> ResinUse:
    count_of = {part.id: part.count for part in draft.parts}
    in_plies = sum(part.resin_in_plies_g * part.count for part in draft.parts)
    peeled = sum(ply.resin_g * part.count for part in draft.parts for ply in part.plies if not ply.stays)
    wet_out = sum(part.wet_out_g * part.count for part in draft.parts if part.plies)
    mopped = sum(ply.mopped_off_g * count_of[part.id] for part in draft.parts for ply in part.plies)
    in_joints = sum(paste.resin_g for _, paste, _ in draft.pastes.values())
    mixed = sum(group.mass_g * group.count for _, group in pots)
    surplus = sum(group.surplus_g * group.count for _, group in pots)
    laid = sum(group.laid_g * group.count for _, group in pots)
    reserve = RESERVE_SHARE * mixed
    part_a, part_b, catalyst = mix.parts_g(mixed)
    to_have = mixed + reserve
    density = mix.resin.density_g_per_cm3
    return ResinUse(
        in_plies_g=in_plies,
        first_wet_out_g=wet_out,
        in_joints_g=in_joints,
        mopped_off_g=mopped + peeled,
        left_in_vessels_g=mixed - surplus - laid,
        surplus_g=surplus,
        mixed_g=mixed,
        reserve_g=reserve,
        to_have_g=to_have,
        to_have_ml=to_have / density if density and not mix.hardener else None,
        part_a_g=part_a,
        part_b_g=part_b,
        catalyst_g=catalyst,
        catalyst_ml=catalyst / mix.resin.catalyst.density_g_per_cm3 if catalyst is not None else None,
    )
