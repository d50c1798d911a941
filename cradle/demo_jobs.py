"""The demo shop's jobs, as documents. Invented: nothing computes from these figures."""

from layup.job import Chemistry, JobMaterials, JobSpec, Joint, Part, Ply, PotWishes, Rectangle
from layup.library import generic
from layup.materials import ResinSystem, SourceKind


def _priced(material, **prices):
    """A library material with an invented price, for this shop alone."""
    sources = material.sources | dict.fromkeys(prices, SourceKind.INVENTED)
    return material.model_copy(update=prices | {"sources": sources})


def _priced_epoxy() -> ResinSystem:
    epoxy = next(resin for resin in generic().resins if resin.id == "epoxy-2-1")
    hardeners = tuple(_priced(hardener, price_per_kg=24.0) for hardener in epoxy.hardeners)
    return _priced(epoxy, price_per_kg=16.0).model_copy(update={"hardeners": hardeners})


def skiff() -> JobSpec:
    """A stitched plywood estuary skiff: cloth over plywood in two-part resin, and the chine fillets."""
    library = generic()
    cloth = _priced(next(fabric for fabric in library.fabrics if fabric.id == "cloth-300"), price_per_m2=7.5)
    flour = _priced(next(filler for filler in library.fillers if filler.id == "wood-flour"), price_per_kg=9.0)
    epoxy = _priced_epoxy()
    return JobSpec(
        name="Estuary skiff",
        materials=JobMaterials(fabrics=(cloth,), resins=(epoxy,), fillers=(flour,)),
        chemistry=Chemistry(resin_id=epoxy.id),
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
                plies=(Ply(id="transom-1", fabric_id=cloth.id, extra_mm=25),),
            ),
        ),
        joints=(
            Joint(
                id="chine",
                name="Chines, inside",
                length_m=4.1,
                radius_mm=18,
                panel_thickness_mm=6,
                sides=2,
                filler_id=flour.id,
            ),
        ),
        pots=PotWishes(hands=1),
    )


def buoy_lid() -> JobSpec:
    """A buoy lid in polyester and chopped mat, from a waxed mould."""
    library = generic()
    mats = tuple(fabric for fabric in library.fabrics if fabric.id in ("csm-300", "csm-450"))
    polyester = next(resin for resin in library.resins if resin.catalyst)
    stack = ("csm-300", "csm-450", "csm-450", "csm-450")
    return JobSpec(
        name="Channel buoy lid",
        materials=JobMaterials(fabrics=mats, resins=(polyester,)),
        chemistry=Chemistry(resin_id=polyester.id, wanted_gel_min=25),
        parts=(
            Part(
                id="lid",
                name="Lid",
                substrate="waxed mould",
                shape=Rectangle(width_m=1.2, length_m=1.2),
                plies=tuple(Ply(id=f"lid-{number}", fabric_id=mat) for number, mat in enumerate(stack, 1)),
            ),
        ),
    )
