"""The run sheet: planning it, how that grows with its pots, and the best start of a week."""

import os
import statistics
import time
from datetime import date, timedelta
from uuid import UUID
from zoneinfo import ZoneInfo

from benchmarks.planning import job_of
from cradle.garbage import keep_garbage_out_of_the_way
from cradle.plans import planned_json
from layup.day.best_start import best_of, starts_of_day
from layup.day.simulated_forecast import simulated_forecast
from layup.job import JobSpec
from layup.plan import plan
from layup.shop_facts import ShopFacts

DAY = date(2026, 5, 4)
EMPTY_MS, WARM_MS, FIRST_S, ALL_S = 150, 50, 1.0, 5.0
TIMES = 40
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "cradle.settings")


def shop() -> ShopFacts:
    return ShopFacts(forecast=simulated_forecast(DAY, ZoneInfo("UTC")), today=DAY)


def wide(parts: int, share: float = 0.5) -> JobSpec:
    """The job of the planning benchmark, its parts so narrow that twelve of them take about a hundred pots."""
    document = job_of(parts, 5).model_dump()
    for part in document["parts"]:
        part["shape"]["width_m"] *= share
    return JobSpec.model_validate(document)


def timed_ms(job: JobSpec, rooms: list[float]) -> list[float]:
    """One plan at each reading of the room."""
    times = []
    for room_c in rooms:
        facts = shop()
        facts = facts.model_copy(update={"conditions": facts.conditions.model_copy(update={"room_c": room_c})})
        began = time.perf_counter()
        plan(job, facts)
        times.append((time.perf_counter() - began) * 1000)
    return times


def warm_ms(job: JobSpec) -> list[float]:
    """The same job in the same day asked for again, as the server answers."""
    facts, times, shop_id = shop(), [], UUID(int=0)
    planned_json(shop_id, job, facts, full=True)
    for _ in range(TIMES):
        began = time.perf_counter()
        planned_json(shop_id, job, facts, full=True)
        times.append((time.perf_counter() - began) * 1000)
    return times


def main() -> None:
    job, facts = wide(12), shop()
    pots = plan(job, facts).pot_count
    # As the server does.
    keep_garbage_out_of_the_way()
    # A reading that no plan was made for yet, so that nothing but the tables of the heat model is kept from before.
    empty = timed_ms(job, [18 + n / 64 for n in range(TIMES)])
    warm = warm_ms(job)
    print(f"The run sheet with its risk, 12 parts, 60 plies, {pots} pots, {TIMES} times:")
    for name, times, promised in (
        ("tables built, another room each time", empty, EMPTY_MS),
        ("the plan kept, asked for again", warm, WARM_MS),
    ):
        percentile = statistics.quantiles(times, n=20)[-1]
        print(
            f"  {name}: median {statistics.median(times):.0f} ms, 95th percentile {percentile:.0f} ms, promised {promised}"
        )
    for share in (0.25, 0.5, 1.0, 2.0):
        other = wide(12, share)
        count = plan(other, facts).pot_count
        median = statistics.median(timed_ms(other, [20.0] * 7))
        print(f"  {count:4} pots: {median:5.0f} ms, {median / count:.2f} a pot")
    began, first, every = time.perf_counter(), 0.0, []
    for n in range(7):
        every += starts_of_day(job, facts, DAY + timedelta(days=n))
        first = first or time.perf_counter() - began
    print(
        f"Best start of 7 days, {len(every)} starts, {pots} pots: a first answer in {first:.2f} s, promised {FIRST_S:g}; "
        f"all in {time.perf_counter() - began:.1f} s, promised {ALL_S:g}: {best_of(tuple(every)).start_at:%a %H:%M}"
    )


if __name__ == "__main__":
    main()
