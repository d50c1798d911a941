"""The demo shop's jobs, as documents. Invented: nothing computes from these figures."""

from layup.as_found import AsFound, OldLayer
from layup.castings import Insert, Pour, Reading
from layup.damage import Damage
from layup.finish_wishes import FinishWishes
from layup.job import (
    BayWishes,
    Coat,
    Conditions,
    Ground,
    JobMaterials,
    JobSpec,
    Joint,
    Part,
    Ply,
    PotWishes,
    ResinInUse,
    TabStrip,
)
from layup.library import generic
from layup.materials import Fabric, ResinSystem, SourceKind
from layup.repair.begin import job_of
from layup.shapes import CutOut, Patch, Rectangle, Trapezoid


def _priced(material, **prices):
    """A library material with an invented price, for this shop alone."""
    sources = material.sources | dict.fromkeys(prices, SourceKind.INVENTED)
    return material.model_copy(update=prices | {"sources": sources})


def _priced_epoxy(resin_id: str = "epoxy-2-1") -> ResinSystem:
    epoxy = next(resin for resin in generic().resins if resin.id == resin_id)
    hardeners = tuple(_priced(hardener, price_per_kg=24.0) for hardener in epoxy.hardeners)
    return _priced(epoxy, price_per_kg=16.0).model_copy(update={"hardeners": hardeners})


def skiff() -> JobSpec:
    """A stitched plywood estuary skiff: cloth over plywood in two-part resin, fillets, tabbing, gunwales glued with a
    slow hardener so that there is time for the clamps, and a coating of its own on the transom."""
    library = generic()
    cloth = _priced(next(fabric for fabric in library.fabrics if fabric.id == "cloth-300"), price_per_m2=7.5)
    tape = _priced(next(fabric for fabric in library.fabrics if fabric.id == "biax-450"), price_per_m2=8.2)
    flour = _priced(next(filler for filler in library.fillers if filler.id == "wood-flour"), price_per_kg=9.0)
    silica = _priced(next(filler for filler in library.fillers if filler.id == "silica"), price_per_kg=21.0)
    epoxy, coating = _priced_epoxy(), _priced_epoxy("epoxy-coating")
    return JobSpec(
        name="Estuary skiff",
        materials=JobMaterials(fabrics=(cloth, tape), resins=(epoxy, coating), fillers=(flour, silica)),
        resins=(
            ResinInUse(id="resin", word="laminate", resin_id=epoxy.id),
            ResinInUse(id="glue", word="glue", resin_id=epoxy.id, hardener_id="epoxy-2-1-slow"),
            ResinInUse(id="coating", word="coating", resin_id=coating.id),
        ),
        parts=(
            Part(
                id="bottom",
                name="Bottom, port and starboard",
                shape=Rectangle(width_m=0.62, length_m=3.9),
                count=2,
                plies=(
                    Ply(id="bottom-1", fabric_id=cloth.id),
                    Ply(id="bottom-2", fabric_id=cloth.id, extra_mm=50),
                ),
            ),
            Part(
                id="transom",
                name="Transom, outside",
                shape=Rectangle(width_m=1.1, length_m=0.42),
                plies=(
                    Ply(id="transom-1", fabric_id=cloth.id, extra_mm=25),
                    Ply(id="transom-coat", coat=Coat(kind="fill", resin_gsm=200, use_id="coating")),
                ),
            ),
        ),
        joints=_skiff_joints(tape.id, flour.id, silica.id),
        pots=PotWishes(hands=1),
    )


def _skiff_joints(tape_id: str, flour_id: str, silica_id: str) -> tuple[Joint, ...]:
    # Bottom and transom are sheathed flat, before they are stitched.
    sheathed = ("bottom", "transom")
    return (
        Joint(
            id="box",
            name="Buoyancy box, inside",
            length_m=1.6,
            radius_mm=12,
            filler_id=flour_id,
            hidden=True,
        ),
        Joint(
            id="chine",
            comes_after=sheathed,
            name="Chines, inside",
            count=2,
            length_m=4.1,
            radius_mm=18,
            angle_deg=125,
            face_mm=280,
            filler_id=flour_id,
            tabs=(TabStrip(id="chine-t1", fabric_id=tape_id, width_mm=90),),
        ),
        Joint(
            id="bulkhead",
            comes_after=sheathed,
            name="Bulkheads to bottom",
            count=2,
            length_m=1.1,
            sides=2,
            radius_mm=15,
            glue_mm=0.5,
            filler_id=flour_id,
            tabs=(
                TabStrip(id="bulkhead-t1", fabric_id=tape_id, width_mm=90),
                TabStrip(id="bulkhead-t2", fabric_id=tape_id, width_mm=140),
            ),
            fixings="8 temporary screws with washers",
        ),
        Joint(
            id="gunwale",
            comes_after=sheathed,
            name="Gunwales",
            use_id="glue",
            kind="glue line",
            count=2,
            length_m=4.0,
            width_mm=28,
            filler_id=flour_id,
            second_id=silica_id,
            second_share=0.4,
            consistency="peaks",
            fixings="clamps every 200 mm",
        ),
    )


def buoy_lid() -> JobSpec:
    """A buoy lid in gel coat, polyester and chopped mat, from a waxed mould."""
    library = generic()
    gel_coat = next(resin for resin in library.resins if resin.id == "gel-coat")
    mats = tuple(fabric for fabric in library.fabrics if fabric.id in ("csm-300", "csm-450"))
    polyester = next(resin for resin in library.resins if resin.catalyst)
    stack = ("csm-300", "csm-450", "csm-450", "csm-450")
    return JobSpec(
        name="Channel buoy lid",
        materials=JobMaterials(fabrics=mats, resins=(polyester, gel_coat)),
        resins=(
            ResinInUse(id="resin", word="laminate", resin_id=polyester.id, wanted_gel_min=25),
            ResinInUse(id="gel", word="gel coat", resin_id=gel_coat.id),
        ),
        parts=(
            Part(
                id="lid",
                name="Lid",
                substrate="waxed mould",
                shape=Rectangle(width_m=1.2, length_m=1.2),
                plies=(
                    Ply(id="lid-gel", coat=Coat(kind="gel", resin_gsm=600, use_id="gel")),
                    *(Ply(id=f"lid-{number}", fabric_id=mat) for number, mat in enumerate(stack, 1)),
                ),
            ),
        ),
    )


def _fabrics(stack: tuple[str, ...]) -> tuple[Fabric, ...]:
    return tuple(fabric for fabric in generic().fabrics if fabric.id in stack)


def _plies(part_id: str, stack: tuple[str, ...]) -> tuple[Ply, ...]:
    return tuple(Ply(id=f"{part_id}-{number}", fabric_id=name) for number, name in enumerate(stack, 1))


def rudder_blade() -> JobSpec:
    """A carbon rudder blade: two skins on shaped foam, in a vacuum bag."""
    stack = ("carbon-200", "carbon-uni-200", "carbon-uni-200", "carbon-200", "peel-85")
    epoxy = _priced_epoxy()
    skins = Part(
        id="skin",
        name="Skin",
        substrate="foam core",
        process="vacuum bag",
        shape=Trapezoid(side_a_m=0.31, side_b_m=0.2, height_m=0.98),
        margin_mm=25,
        pair=True,
        plies=_plies("skin", stack),
    )
    return JobSpec(
        name="Rudder blade",
        materials=JobMaterials(fabrics=_fabrics(stack), resins=(epoxy,)),
        resins=(ResinInUse(id="resin", resin_id=epoxy.id),),
        parts=(skins,),
        pots=PotWishes(hands=1),
    )


def foam_hatch() -> JobSpec:
    """A foam-cored hatch, infused on a waxed mould, with a round port cut from it."""
    stack = ("biax-450", "biax-450", "foam-10", "biax-450")
    epoxy = _priced_epoxy("epoxy-infusion")
    lid = Part(
        id="hatch",
        name="Hatch",
        substrate="waxed mould",
        process="infusion",
        ground=Ground(show_face=True),
        shape=Rectangle(width_m=0.56, length_m=0.72),
        cut_outs=(CutOut(id="port", name="Port", diameter_m=0.18),),
        margin_mm=40,
        plies=_plies("hatch", stack),
    )
    return JobSpec(
        name="Foredeck hatch",
        materials=JobMaterials(fabrics=_fabrics(stack), resins=(epoxy,)),
        resins=(ResinInUse(id="resin", resin_id=epoxy.id),),
        parts=(lid,),
    )


def locker_lid() -> JobSpec:
    """A cracked locker lid of old polyester, ground out and patched from outside in epoxy."""
    stack = ("cloth-300", "cloth-300", "cloth-300", "cloth-300")
    epoxy = _priced_epoxy()
    patch = Part(
        id="patch",
        name="Patch over the crack",
        substrate="cured polyester",
        ground=Ground(washed_and_abraded=True, later="paint"),
        shape=Patch(width_m=0.09, length_m=0.21, depth_mm=3.5, taper=12, step_mm=10, through=False),
        plies=(*_plies("patch", stack), Ply(id="patch-fill", coat=Coat(kind="fill", resin_gsm=150))),
    )
    return JobSpec(
        name="Locker lid, cracked",
        materials=JobMaterials(fabrics=_fabrics(stack), resins=(epoxy,)),
        resins=(ResinInUse(id="resin", resin_id=epoxy.id),),
        parts=(patch,),
    )


def holed_locker() -> JobSpec:
    """A locker of old polyester with a hole through its front whose back nobody reaches, as its damage makes the job; filled,
    sanded and painted after."""
    damage = Damage(
        name="Stern locker, holed through",
        width_mm=70,
        length_mm=110,
        skin_mm=4.5,
        to_edge_mm=90,
        moisture_pct=3,
    )
    spec = job_of(damage, generic()).spec
    finish = FinishWishes(to="under paint", now="filled", low_mm=(0.4, 1.1, 0.6), topped="paint", hours_between=16)
    parts = tuple(
        part.model_copy(update={"finish": finish}) if isinstance(part.shape, Patch) else part for part in spec.parts
    )
    materials = spec.materials.model_copy(update={"resins": (_priced_epoxy(),)})
    return spec.model_copy(update={"parts": parts, "materials": materials})


def springy_foredeck() -> JobSpec:
    """A foredeck of thin plywood that gives under foot, sheathed to stiffen it; how it gave is measured before."""
    stack = ("biax-450", "biax-450", "cloth-300")
    epoxy = _priced_epoxy()
    deck = Part(
        id="foredeck",
        name="Foredeck",
        ground=Ground(washed_and_abraded=True, later="paint"),
        shape=Rectangle(width_m=1.05, length_m=1.6),
        found=AsFound(
            layers=(OldLayer(id="deck", made_of="plywood", thickness_mm=9),),
            gave_before_mm=7,
            tried_with="wren, between the second beam and the third",
        ),
        plies=_plies("foredeck", stack),
    )
    return JobSpec(
        name="Springy foredeck",
        materials=JobMaterials(fabrics=_fabrics(stack), resins=(epoxy,)),
        resins=(ResinInUse(id="resin", resin_id=epoxy.id),),
        parts=(deck,),
    )


def tiller_head() -> JobSpec:
    """A cast tiller-head panel of timber and clear resin: 40 mm deep in two lifts, chopped carbon in the second."""
    casting, sealer = _priced_epoxy("epoxy-casting"), _priced_epoxy("epoxy-coating")
    return JobSpec(
        name="Tiller-head panel",
        conditions=Conditions(room_c=20, humidity_pct=55),
        materials=JobMaterials(resins=(_priced(casting, sold_kg=(1.5, 6.0)), sealer)),
        resins=(
            ResinInUse(id="resin", word="casting", resin_id=casting.id),
            ResinInUse(id="sealer", word="sealer", resin_id=sealer.id),
        ),
        pours=(
            Pour(
                id="panel",
                name="Panel between the cheeks",
                shape="readings",
                length_m=0.52,
                depth_mm=40,
                readings=tuple(Reading(id=f"width-{n}", width_mm=w) for n, w in enumerate((186, 204, 212, 198, 176))),
                inserts=(Insert(id="head", name="Tiller socket", length_mm=90, width_mm=60, depth_mm=40),),
                lies_in="hardwood",
                seal_use_id="sealer",
                filled_with="chopped carbon",
                but_the_first=True,
                held_back=0.05,
            ),
        ),
        pots=PotWishes(largest_g=1500),
    )


def bait_well() -> JobSpec:
    """A concrete bait well lined in mat and polyester: its primer is opened area by area, each covered in its window."""
    library = generic()
    primer = next(resin for resin in library.resins if resin.id == "moisture-primer")
    polyester = next(resin for resin in library.resins if resin.id == "polyester-general")
    waxed = next(resin for resin in library.resins if resin.id == "top-coat")
    mat = next(fabric for fabric in library.fabrics if fabric.id == "csm-450")
    return JobSpec(
        name="Bait well",
        materials=JobMaterials(fabrics=(mat,), resins=(polyester, primer, waxed)),
        resins=(
            ResinInUse(id="resin", word="laminate", resin_id=polyester.id),
            ResinInUse(id="primer", word="primer", resin_id=primer.id),
            ResinInUse(id="top", word="top coat", resin_id=waxed.id),
        ),
        parts=(
            Part(
                id="well",
                name="Floor and walls, unrolled",
                substrate="concrete",
                shape=Rectangle(width_m=2.4, length_m=5.2),
                ground=Ground(age_days=60),
                bays=BayWishes(bay_count=2),
                plies=(
                    Ply(id="well-primer", coat=Coat(kind="primer", resin_gsm=125, use_id="primer", tool="roller")),
                    Ply(id="well-1", fabric_id=mat.id),
                    Ply(id="well-2", fabric_id=mat.id),
                    Ply(id="well-top", coat=Coat(kind="top", resin_gsm=600, wet_um=500, use_id="top", tool="roller")),
                ),
            ),
        ),
        pots=PotWishes(hands=1),
    )


# All of them, the one that is begun at the bench first.
DEMO_JOBS = (
    skiff,
    buoy_lid,
    rudder_blade,
    foam_hatch,
    locker_lid,
    holed_locker,
    tiller_head,
    bait_well,
    springy_foredeck,
)
