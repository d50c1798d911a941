"""Small jobs that the tests of the core start from."""

from datetime import date
from functools import cache
from zoneinfo import ZoneInfo

from layup.job import Conditions, JobMaterials, JobSpec, Part, Ply, PotWishes, Rectangle
from layup.library import generic
from layup.materials import Fabric, Filler, ResinSystem
from layup.shop_facts import RoomDay, ShopFacts

DAY = date(2026, 5, 4)
LONDON = ZoneInfo("Europe/London")


def fabric(fabric_id: str) -> Fabric:
    return next(found for found in generic().fabrics if found.id == fabric_id)


def resin(resin_id: str) -> ResinSystem:
    return next(found for found in generic().resins if found.id == resin_id)


def filler(filler_id: str) -> Filler:
    return next(found for found in generic().fillers if found.id == filler_id)


def panel(
    resin_id: str, *stack: str, width_m: float = 1.0, length_m: float = 2.0, in_use: dict | None = None, **changes
) -> JobSpec:
    """A job of one rectangle on a waxed mould with a stack of library fabrics; `in_use` is what is said of its resin."""
    fabrics = tuple(fabric(name) for name in dict.fromkeys(stack))
    part = Part(
        id="p",
        name="Panel",
        substrate="waxed mould",
        shape=Rectangle(width_m=width_m, length_m=length_m),
        plies=tuple(Ply(id=f"y{at}", fabric_id=name) for at, name in enumerate(stack)),
    )
    document = {
        "name": "Panel",
        "materials": JobMaterials(fabrics=fabrics, resins=(resin(resin_id),)),
        "resins": [{"id": "resin", **({"resin_id": resin_id} if in_use is None else in_use)}],
        "parts": (part,),
    }
    return JobSpec.model_validate(document | changes)


def on(job: JobSpec, **part_changes) -> JobSpec:
    """The job with its first part changed, as a document would have it."""
    document = job.model_dump(mode="json")
    document["parts"][0] |= part_changes
    return JobSpec.model_validate(document)


def jointed(
    *joints: dict,
    fillers=("wood-flour", "silica", "glass-spheres", "milled-glass"),
    in_use: dict | None = None,
    **changes,
) -> JobSpec:
    """A job of nothing but joints in epoxy, with the fabrics that tabbing is made of."""
    materials = JobMaterials(
        fabrics=tuple(fabric(name) for name in ("biax-450", "biax-600", "combi-805", "cloth-200")),
        resins=(resin("epoxy-2-1"),),
        fillers=tuple(filler(name) for name in fillers),
    )
    said = {"resin_id": "epoxy-2-1"} if in_use is None else in_use
    document = {"name": "Joints", "materials": materials, "resins": [{"id": "resin", **said}]} | changes
    return JobSpec.model_validate(document | {"joints": [{"id": f"j{n}"} | joint for n, joint in enumerate(joints)]})


def corner(**changes) -> dict:
    """A fillet of 20 mm along two metres of plywood."""
    return {"length_m": 2, "radius_mm": 20, "filler_id": "wood-flour"} | changes


def strips(*widths_mm: float, fabric_id: str = "biax-450") -> list[dict]:
    """Strips of tabbing of these widths."""
    return [{"id": f"s{n}-{w:g}", "fabric_id": fabric_id, "width_mm": w} for n, w in enumerate(widths_mm)]


def cast(*pours: dict, resin_id: str = "epoxy-casting", **changes) -> JobSpec:
    """A job of nothing but castings."""
    document = {
        "name": "Castings",
        "materials": {"resins": [resin(resin_id)]},
        "resins": [{"id": "r", "resin_id": resin_id}],
        "pours": [{"id": f"c{n}"} | pour for n, pour in enumerate(pours)],
    }
    return JobSpec.model_validate(document | changes)


def slab(**changes) -> dict:
    """A casting of 600 by 300 mm, 20 mm deep."""
    return {"name": "Panel", "length_m": 0.6, "width_mm": 300, "depth_mm": 20} | changes


def at(room_c: float, surface_c: float | None = None, humidity_pct: float | None = None, **facts) -> ShopFacts:
    conditions = Conditions(room_c=room_c, surface_c=surface_c, humidity_pct=humidity_pct)
    return ShopFacts(conditions=conditions, **facts)


def shed(coldest_c: float = 14, warmest_c: float = 24, **facts) -> ShopFacts:
    """A shop whose room follows the day."""
    room = {"conditions": Conditions(room_c=coldest_c), "day": RoomDay(coldest_c=coldest_c, warmest_c=warmest_c)}
    return ShopFacts(**(room | {"today": DAY, "time_zone": "Europe/London"} | facts))


def wishing(job: JobSpec, **wishes) -> JobSpec:
    """The job with nothing but these wishes about its pots."""
    return job.model_copy(update={"pots": PotWishes(**wishes)})


@cache
def stacked(stack: tuple[str, ...], width_m: float, copies: int, coat: bool) -> JobSpec:
    """Copies of a panel two metres long with a stack, and with a fill coat on it."""
    job = panel("epoxy-2-1", *stack, width_m=width_m, length_m=2)
    part = job.parts[0].model_dump()
    part["count"] = copies
    if coat:
        part["plies"] = (*part["plies"], {"id": "fill", "coat": {"kind": "fill", "resin_gsm": 150}})
    return JobSpec.model_validate(job.model_dump() | {"parts": [part]})


def using(job: JobSpec, *uses: dict) -> JobSpec:
    """The job with more resins in use, and copies of their products."""
    document = job.model_dump(mode="json")
    document["resins"] += uses
    held = {each["id"] for each in document["materials"]["resins"]}
    for resin_id in dict.fromkeys(use.get("resin_id", "") for use in uses):
        if resin_id and resin_id not in held:
            document["materials"]["resins"].append(resin(resin_id).model_dump(mode="json"))
    return JobSpec.model_validate(document)


def primed() -> JobSpec:
    """Polyester over plywood that was primed out of one tin."""
    job = panel("polyester-general", "csm-300", "csm-450")
    primer = {"id": "primer", "coat": {"kind": "seal", "resin_gsm": 120, "use_id": "second"}}
    plies = [primer, *job.model_dump(mode="json")["parts"][0]["plies"]]
    return on(using(job, {"id": "second", "resin_id": "moisture-primer", "word": "primer"}), plies=plies)
