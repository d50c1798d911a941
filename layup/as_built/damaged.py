"""A damage of what was built: what lies there is known, and need not be ground down to be counted."""

from layup.architecture import Architecture
from layup.as_built.outcome import BuiltPlace
from layup.damage import Damage
from layup.job import JobSpec
from layup.laminate.notation_written import format_line
from layup.laminate.quick_ply import QuickPly


def damage_of(job: JobSpec, place: BuiltPlace) -> Damage | None:
    """A damage begun from a place: its name, the skin and the core as they were laid, its fabrics as the quick line writes them.
    None where no laminate lies there.

    The skin is the one that is seen: of what was laid in a mould the first, else the last. A patch goes on from within, so that
    what was laid in a mould comes back the other way round.

    >>> damage_of(JobSpec(name="Deck"), BuiltPlace(id="a", owner_id="a", name="Fillet", bay="", layers=())) is None
    True
    """
    laid = place.laid.plies if place.laid else ()
    plies = [ply for ply in laid if ply.stays and not ply.coat]
    at = next((at for at, ply in enumerate(plies) if ply.architecture is Architecture.CORE), None)
    moulded = place.laid is not None and place.laid.substrate == "waxed mould"
    skin = plies if at is None else plies[:at] if moulded else plies[at + 1 :]
    if not skin:
        return None
    meant = {ply.id: ply for part in job.parts for ply in part.plies}
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    part = next((part for part in job.parts if part.id == place.owner_id), None)
    use = job.use_of(part.use_id) if part else None
    product = job.product_of(use) if use else None
    from_within = reversed(skin) if moulded else skin
    stack = [
        QuickPly(fabric=fabrics[meant[ply.id].fabric_id], angle=ply.angle) for ply in from_within if ply.id in meant
    ]
    return Damage(
        name=f"{place.called}, repaired"[:120],
        skin_mm=round(sum(ply.thickness_mm for ply in skin), 2),
        core_mm=plies[at].thickness_mm if at is not None else None,
        old_resin="polyester" if product and product.styrene else "epoxy",
        old_stack=format_line(stack),
    )
