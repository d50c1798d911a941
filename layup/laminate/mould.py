"""A mould taken off a part: its plug waxed, two surface coats, light plies first, three times as thick as the part."""

from collections.abc import Callable
from dataclasses import dataclass
from math import ceil

from layup.errors import Missing
from layup.job import Coat, JobSpec, Part, Ply, ResinContent, ResinInUse
from layup.laminate.weights import (
    fibre_density_g_per_cm3,
    fibre_weight_fraction,
    resin_areal_weight_gsm,
    thickness_mm,
)
from layup.library import generic
from layup.materials import Fabric, ResinSystem
from layup.usual import MOULD_TO_PART

# Common practice: two coats, light mat next to them so that no air stays, then heavier; a lip to clamp and trim at.
SURFACE_GSM, SURFACE_COATS = 350.0, 2
_LIGHT, _LIGHT_PLIES, _HEAVY = "csm-300", 2, "csm-450"
LIP_MM = 100.0
_LEAST_MM = 5.0  # under this no mould keeps its shape (memory)
_SURFACE, _LAMINATE = "mould-surface", "polyester-general"


@dataclass(frozen=True)
class Mould:
    """A mould as a part of its own, with what it is made of and the resins that a job uses for it besides."""

    part: Part
    fabrics: tuple[Fabric, ...]
    products: tuple[ResinSystem, ...]
    uses: tuple[ResinInUse, ...]


def mould_off(job: JobSpec, part: Part, part_mm: float, new_id: Callable[[], str]) -> Mould:
    """The mould to make a part in, taken off the part or its plug. It is laid in resins that the job has, or in new ones.

    Raises Missing while the part has no thickness to go by.

    >>> from itertools import count
    >>> ids = map(str, count(1))
    >>> made = mould_off(JobSpec(name="Lid"), Part(id="lid", name="Lid", margin_mm=10), 3.0, lambda: next(ids))
    >>> made.part.name, made.part.margin_mm, len(made.part.plies)
    ('Mould of Lid', 110.0, 11)
    """
    if part_mm <= 0:
        raise Missing("write the part's stack first: a mould is three times as thick", "plies")
    library = generic()
    light, heavy = (next(each for each in library.fabrics if each.id == name) for name in (_LIGHT, _HEAVY))
    coat_use, coat_made = _in(
        job, _SURFACE, "mould surface", new_id, lambda product: product.made_for == "mould surface"
    )
    use, made = _in(
        job, _LAMINATE, "mould", new_id, lambda product: product.styrene and product.made_for == "laminating"
    )
    wanted = max(MOULD_TO_PART * part_mm, _LEAST_MM)
    light_mm, heavy_mm = (_thick_mm(each, job.practice.resin_content) for each in (light, heavy))
    heavy_plies = max(1, ceil(round((wanted - _LIGHT_PLIES * light_mm) / heavy_mm, 6)))
    coat = Coat(kind="surface", resin_gsm=SURFACE_GSM, count=SURFACE_COATS, use_id=coat_use.id, tool="brush")
    stack = [light] * _LIGHT_PLIES + [heavy] * heavy_plies
    shape = part.shape
    if shape.kind == "girths":
        stations = tuple(station.model_copy(update={"id": new_id()}) for station in shape.stations)
        shape = shape.model_copy(update={"stations": stations})
    taken = part.model_copy(
        update={
            "id": new_id(),
            "name": f"Mould of {part.name or 'the part'}",
            "use_id": use.id,
            "substrate": "waxed mould",
            "process": "open mould",
            "mould_for": part.id,
            "shape": shape,
            "margin_mm": part.margin_mm + LIP_MM,
            "count": 1,
            "pair": False,
            "cut_outs": (),
            "bands": (),
            "comes_after": (),
            "plies": (Ply(id=new_id(), coat=coat), *(Ply(id=new_id(), fabric_id=each.id) for each in stack)),
        }
    )
    products = tuple(product for product in (coat_made, made) if product)
    uses = tuple(each for each, product in ((coat_use, coat_made), (use, made)) if product)
    return Mould(taken, (light, heavy), products, uses)


def _in(
    job: JobSpec, product_id: str, word: str, new_id: Callable[[], str], fits: Callable[[ResinSystem], bool]
) -> tuple[ResinInUse, ResinSystem | None]:
    """A resin in use that fits, or a new one with its product."""
    for use in job.resins:
        product = job.product_of(use)
        if product and fits(product):
            return use, None
    product = next(each for each in generic().resins if each.id == product_id)
    return ResinInUse(id=new_id(), word=word, resin_id=product.id), product


def _thick_mm(fabric: Fabric, content: ResinContent) -> float:
    product = next(each for each in generic().resins if each.id == _LAMINATE)
    share = fibre_weight_fraction(fabric, "simple", content).value
    held = resin_areal_weight_gsm(fabric.areal_weight_gsm, share)
    return thickness_mm(fabric.areal_weight_gsm, held, fibre_density_g_per_cm3(fabric), product.cured_density_g_per_cm3)
