"""How long the core takes to plan a job, and how that grows with its plies."""

import statistics
import time
from unittest import mock

from cradle.garbage import keep_garbage_out_of_the_way
from layup.cautions.chapters import cautions_for
from layup.cautions.rule import Facts
from layup.job import JobSpec
from layup.library import generic
from layup.plan import plan
from layup.shop_facts import ShopFacts

FABRICS = ("cloth-300", "biax-600", "biax-450", "roving-600", "cloth-200")
CAUTIONS_MS = 5
PLANNED_MS = 150


def job_of(parts: int, plies: int) -> JobSpec:
    library = generic()
    resin = next(resin for resin in library.resins if resin.id == "epoxy-2-1")
    return JobSpec.model_validate(
        {
            "name": "Benchmark",
            "materials": {"fabrics": [f for f in library.fabrics if f.id in FABRICS], "resins": [resin]},
            "resins": [{"id": "resin", "resin_id": resin.id}],
            "parts": [
                {
                    "id": f"p{part}",
                    "shape": {"kind": "rectangle", "width_m": 0.8 + 0.1 * part, "length_m": 2},
                    "plies": [{"id": f"p{part}y{ply}", "fabric_id": FABRICS[ply % 5]} for ply in range(plies)],
                }
                for part in range(parts)
            ],
        }
    )


def main() -> None:
    facts = ShopFacts()
    # As the server's workers plan: what stands is not looked through for garbage again.
    keep_garbage_out_of_the_way()
    print("Planning in the core, median and 95th percentile of 30:")
    for parts in (3, 6, 12, 24, 48):
        job = job_of(parts, 5)
        plan(job, facts)
        times = []
        for _ in range(30):
            began = time.perf_counter()
            plan(job, facts)
            times.append((time.perf_counter() - began) * 1000)
        median, slow = statistics.median(times), statistics.quantiles(times, n=20)[-1]
        promised = f", promised under {PLANNED_MS}" if parts == 12 else ""
        print(f"  {parts:3} parts, {parts * 5:3} plies: {median:6.2f} ms, {slow:6.2f}{promised}")
    print(f"Cautions over the 12-part job: {cautions_ms(job_of(12, 5)):.2f} ms, promised under {CAUTIONS_MS}")


def cautions_ms(job: JobSpec) -> float:
    """The time all rules take together, median of 30, as the plan calls them."""
    times = []
    with mock.patch("layup.plan.cautions_for", side_effect=lambda facts: _timed(facts, times)):
        for _ in range(30):
            plan(job, ShopFacts())
    return statistics.median(times)


def _timed(facts: Facts, times: list[float]):
    began = time.perf_counter()
    found = cautions_for(facts)
    times.append((time.perf_counter() - began) * 1000)
    return found


if __name__ == "__main__":
    main()
