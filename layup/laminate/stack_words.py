"""A stack read from words or from a table put into the job's document, and a stack in the document put into words."""

from collections.abc import Iterable, Sequence
from uuid import uuid4

from layup.job import Coat, JobSpec, Part, Ply
from layup.laminate.quick_ply import QuickPly
from layup.materials import Fabric


def with_stack(job: JobSpec, part_id: str, read: Iterable[QuickPly]) -> JobSpec:
    """A job with one part's stack as read; the fabrics it names are copied into the job's own.

    A ply that stood there already keeps its id and what has no words: its strips, its place, the resin of a coat.

    >>> from layup.library import generic
    >>> from layup.laminate.notation import parse_line
    >>> job = JobSpec(name="Deck", parts=(Part(id="p1", plies=(Ply(id="y1", fabric_id="cloth-300"),)),))
    >>> read = parse_line("300 cloth, 300 cloth 45", generic().fabrics).plies
    >>> [ply.id == "y1" for ply in with_stack(job, "p1", read).parts[0].plies]
    [True, False]
    """
    written = tuple(read)
    fabrics = {fabric.id: fabric for fabric in job.materials.fabrics}
    fabrics |= {ply.fabric.id: ply.fabric for ply in written if ply.fabric}
    parts = (
        part if part.id != part_id else part.model_copy(update={"plies": _plies(part, written)}) for part in job.parts
    )
    materials = job.materials.model_copy(update={"fabrics": tuple(fabrics.values())})
    return job.model_copy(update={"parts": tuple(parts), "materials": materials})


def _plies(part: Part, written: Sequence[QuickPly]) -> tuple[Ply, ...]:
    left: dict[str, list[Ply]] = {}
    for ply in part.plies:
        left.setdefault(_stuff(ply.fabric_id, ply.coat), []).append(ply)
    bands = {band.name: band.id for band in part.bands}
    plies = []
    for quick in written:
        fabric_id = quick.fabric.id if quick.fabric else ""
        alike = left.get(_stuff(fabric_id, quick.coat))
        old = alike.pop(0) if alike else Ply(id=uuid4().hex[:12], fabric_id=fabric_id, coat=quick.coat)
        said = {
            "coat": _coat(old.coat, quick.coat),
            "angle": quick.angle,
            "extra_mm": quick.extra_mm,
            "fibre_weight_fraction": quick.fibre_weight_fraction,
            "band_id": bands.get(quick.strip, ""),
        }
        plies.append(old.model_copy(update=said))
    return tuple(plies)


def _coat(old: Coat | None, written: Coat | None) -> Coat | None:
    """A coat as it is written: what the line cannot say of it stays, but its film where another weight is written."""
    if old is None or written is None:
        return written
    anew = {} if old.resin_gsm == written.resin_gsm else {"wet_um": None, "dry_um": None, "covers_m2_per_l": None}
    return old.model_copy(update={"resin_gsm": written.resin_gsm} | anew)


def _stuff(fabric_id: str, coat: Coat | None) -> str:
    return f"coat {coat.kind}" if coat else fabric_id


def as_written(part: Part, fabrics: Iterable[Fabric]) -> list[QuickPly]:
    """The plies of a part as the quick line knows them; without those whose fabric is not at hand."""
    known = {fabric.id: fabric for fabric in fabrics}
    strips = {band.id: band.name for band in part.bands}
    return [
        QuickPly(
            fabric=known.get(ply.fabric_id),
            angle=ply.angle,
            extra_mm=ply.extra_mm,
            fibre_weight_fraction=ply.fibre_weight_fraction,
            strip=strips.get(ply.band_id, ""),
            coat=ply.coat,
        )
        for ply in part.plies
        if ply.coat or ply.fabric_id in known
    ]
