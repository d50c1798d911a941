"""Coats as a kind of work. They lie in their part's stack, since their place among the plies decides what they wait for: the
part lays them, and here they are told as films with their windows."""

from collections.abc import Mapping
from typing import Any

from layup.coats.cautions import RULES
from layup.coats.film import film_to_go_by, liquid_g_per_ml
from layup.coats.outcome import CoatResult, CoatTest
from layup.coats.placed import PlacedCoat
from layup.coats.workings import WORKINGS
from layup.job import Coat, JobSpec
from layup.kind import Draft, KindOfWork, Mixes
from layup.laminate.parts import Parts
from layup.materials import CoatKind
from layup.outcome import Plan, Step
from layup.scales import Scales
from layup.words import counted

_TESTS: Mapping[CoatKind, CoatTest] = {"surface": "brush mark", "slurry": "none", "wet-out": "none"}


class Coats(KindOfWork):
    """Primers, seals, gel coats, surface coats, barriers, flood coats, top coats."""

    key = "coats"
    after = ("pours",)
    rules = RULES
    workings = WORKINGS

    def asked(self) -> dict[str, Any]:
        limits = Coat.model_json_schema()["properties"]
        return {
            "limits": {name: [limits[name]["minimum"], limits[name]["maximum"]] for name in ("count", "solids_pct")}
        }

    def has(self, job: JobSpec) -> bool:
        return any(ply.coat for part in job.parts for ply in part.plies)

    def lay(self, job: JobSpec, mixes: Mixes, draft: Draft) -> None:
        parts: Parts = draft.found["parts"]
        found: list[PlacedCoat] = draft.found.setdefault(self.key, [])
        told = {part.id: part for part in parts.parts}
        for number, part in enumerate(job.parts):
            laid = {ply.id: ply for ply in told[part.id].plies} if part.id in told else {}
            for at, ply in enumerate(part.plies):
                if ply.coat is None or ply.id not in laid:
                    continue
                use = next((use for use in job.resins if use.id == parts.use_ids.get(ply.id)), None)
                product = job.product_of(use) or (job.product_of(job.use_of(part.use_id)) if use else None)
                film = film_to_go_by(ply.coat, liquid_g_per_ml(product))
                path = f"parts.{number}.plies.{at}"
                found.append(
                    PlacedCoat(
                        path,
                        part.id,
                        part.name or f"part {number + 1}",
                        part.copies,
                        ply.coat,
                        laid[ply.id],
                        film,
                        use.id if use else "",
                        product,
                        at == len(part.plies) - 1,
                    )
                )

    def results(self, mixes: Mixes, draft: Draft) -> list[CoatResult]:
        return [_result(each, mixes) for each in draft.found.get(self.key, ())]

    def headline(self, step: Step, plan: Plan, scales: Scales) -> str:
        count = sum(coat.count for coat in plan.coats)
        return counted(count, "coat") if count else ""

    def begun(self, step: Step, plan: Plan) -> bool:
        return bool(plan.coats)


def _result(placed: PlacedCoat, mixes: Mixes) -> CoatResult:
    mix, film = mixes.get(placed.use_id), placed.film
    clocks = mix.clocks if mix else None
    return CoatResult(
        part_id=placed.part_id,
        part_name=placed.part_name,
        ply_id=placed.ply.id,
        path=placed.path,
        kind=placed.coat.kind,
        name=placed.ply.name,
        product=placed.product.name if placed.product else "",
        count=film.count,
        each_wet_um=film.each_wet_um,
        each_gsm=film.each_gsm,
        dry_um=film.dry_um,
        spreads_m2_per_l=film.spreads_m2_per_l,
        loss_share=film.loss_share,
        area_m2=placed.ply.area_m2,
        resin_g=placed.ply.resin_g * placed.copies,
        lost_g=placed.ply.lost_g * placed.copies,
        test=_TESTS.get(placed.coat.kind, "thumb"),
        opens_min=clocks.tack_min if clocks else None,
        closes_min=clocks.window_closes_min if clocks else None,
        on_top=placed.on_top,
    )


COATS = Coats()
