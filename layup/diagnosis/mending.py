"""What mends a cause, on the job at hand: the part that is laid or coated again, as an ordinary part of a job."""

from itertools import count

from layup.diagnosis.guide import Cause, Mend, guide
from layup.errors import Missing, OutOfRange
from layup.job import Coat, Ground, JobSpec, Part, Ply, Substrate
from layup.record import Record
from layup.scales import METRIC, Scales
from layup.shapes import TypedArea


class Mending(Record):
    """What mends a cause: its steps, the resin and glass it takes and the hours of one pair of hands, where the area is known.

    `fabric_m2` and `resin_g` are without what stays in pots: the plan of the repair has those.
    """

    cause: str
    words: str
    steps: tuple[str, ...]
    source: str
    record: str
    waits_h: float
    can_be_made: bool
    area_m2: float | None = None
    hours: float | None = None
    resin_g: float | None = None
    fabric_m2: float | None = None


def mending(cause: Cause, area_m2: float | None = None, part: Part | None = None, scales: Scales = METRIC) -> Mending:
    """What mends a cause over an area, m²; of what is laid again, the glass of a part's plies. Raises OutOfRange for an area
    that cannot be.

    >>> mending(guide().cause("blush"), 2.0).hours
    0.6
    """
    how = guide().mend(cause.mend)
    if area_m2 is not None and not 0 < area_m2 <= MOST_M2:
        raise OutOfRange(scales.said(f"type an area over 0 and up to {MOST_M2:g} m²"), "area_m2")
    plies = [ply for ply in part.plies if ply.fabric_id] if part and how.again == "layers" else []
    known = area_m2 is not None
    return Mending(
        cause=cause.id,
        words=how.words,
        steps=tuple(map(scales.said, how.steps)),
        source=how.source,
        record=cause.record,
        waits_h=how.waits_h,
        can_be_made=how.again != "nothing",
        area_m2=area_m2,
        hours=how.hours_per_m2 * (area_m2 or 0.0) if known else None,
        resin_g=how.resin_gsm * (area_m2 or 0.0) if known and how.again == "coat" else None,
        fabric_m2=len(plies) * (area_m2 or 0.0) if known and plies else None,
    )


# No bench mends more than this at a time, m².
MOST_M2 = 500.0


def mended(job: JobSpec, cause: Cause, part_id: str, area_m2: float | None) -> Part:
    """The part that mends a cause on a part of a job, as it is added to that job: what lay there again, or a coat, on the cured
    laminate after the part itself. Raises Missing and OutOfRange with the field as path.

    >>> from layup.job import JobSpec, Part, Ply
    >>> job = JobSpec(name="Hull", parts=(Part(id="side", name="Side", plies=(Ply(id="1", fabric_id="biax-600"),)),))
    >>> again = mended(job, guide().cause("not_keyed"), "side", 0.4)
    >>> again.name, again.comes_after, again.shape.area_m2, len(again.plies)
    ('Side, mended', ('side',), 0.4, 1)
    """
    how = guide().mend(cause.mend)
    if how.again == "nothing":
        raise OutOfRange("nothing is laid or coated for it: there is no part to make", "cause")
    part = next((each for each in job.parts if each.id == part_id), None)
    if part is None:
        raise Missing("which part is it on?", "part_id")
    if area_m2 is None:
        raise Missing("how large is the bad place?", "area_m2")
    mending(cause, area_m2, part)
    taken = job.model_dump_json()
    name = next(name for n in count(1) if f'"{(name := f"{part.id[:20]}-mended-{n}")}' not in taken)
    return Part(
        id=name,
        name=f"{part.name or 'Part'}, mended"[:120],
        use_id=part.use_id,
        substrate=_cured(job, part),
        orientation=part.orientation,
        reach=part.reach,
        ground=Ground(washed_and_abraded=True),
        shape=TypedArea(area_m2=area_m2),
        comes_after=(part.id,),
        plies=tuple(ply.model_copy(update={"id": f"{name}-{n}"}) for n, ply in enumerate(_plies(how, part), 1)),
    )


def _plies(how: Mend, part: Part) -> list[Ply]:
    if how.again == "coat":
        return [Ply(id="coat", coat=Coat(kind="fill", resin_gsm=how.resin_gsm))]
    # What lies over a strip of the part only, or in lengths of its own, lies over all of what is mended.
    laid = [ply.model_copy(update={"over": None, "strips": None, "band_id": ""}) for ply in part.plies]
    if not laid:
        raise OutOfRange("this part has no layers to lay again", "part_id")
    return laid


def _cured(job: JobSpec, part: Part) -> Substrate:
    resin = job.product_of(job.use_of(part.use_id))
    return "cured polyester" if resin is not None and resin.styrene else "cured epoxy"


def alone(job: JobSpec, part: Part) -> JobSpec:
    """A job of the mended part alone, in the materials and the practice of the job it belongs to.

    >>> job = JobSpec(name="Hull", parts=(Part(id="side"),))
    >>> alone(job, Part(id="side-mended-1", comes_after=("side",))).parts[0].comes_after
    ()
    """
    by_itself = part.model_copy(update={"comes_after": ()})
    named = {part.use_id or job.resins[0].id} | {ply.coat.use_id for ply in part.plies if ply.coat}
    return job.model_copy(
        update={
            "name": f"{job.name}: {part.name}"[:120],
            "resins": tuple(use for use in job.resins if use.id in named) or job.resins,
            "parts": (by_itself,),
            "joints": (),
            "pours": (),
            "overrides": (),
        }
    )
