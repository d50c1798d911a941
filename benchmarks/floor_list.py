"""How long the floor's list takes with 150 jobs of 50 revisions each, and after a new reading of the room."""

import json
import statistics
import time

from benchmarks.shop import Desk, demo_server
from cradle.demo_jobs import buoy_lid, skiff

JOBS, REVISIONS = 150, 50
PROMISED_MS, PROMISED_AFTER_S = 100, 2
FILL = """
import json, sys
from django.contrib.auth.models import User
from cradle.jobs.models import Job, JobRevision
from cradle.shops.models import Shop
specs = json.loads(sys.argv[1])
shop, person = Shop.objects.get(), User.objects.get()
jobs = Job.objects.bulk_create([Job(shop=shop) for _ in range({jobs})])
JobRevision.objects.bulk_create(
    [
        JobRevision(job=job, number=number, document=specs[at % 2] | {{"name": f"Job {{at}}"}}, saved_by=person)
        for at, job in enumerate(jobs)
        for number in range(1, {revisions} + 1)
    ],
    batch_size=500,
)
"""


def main() -> None:
    with demo_server() as desk:
        specs = json.dumps([spec.model_dump(mode="json") for spec in (skiff(), buoy_lid())])
        desk.script(FILL.format(jobs=JOBS, revisions=REVISIONS), specs)
        jobs = f"/api/shops/{desk.shop_id}/jobs"
        first, whole, count = _until_whole(desk, jobs)
        desk.send("PUT", f"/api/shops/{desk.shop_id}/conditions", {"room_c": 23.4})
        after, whole_after, _ = _until_whole(desk, jobs)
        times = []
        for _ in range(20):
            began = time.perf_counter()
            desk.get(jobs)
            times.append((time.perf_counter() - began) * 1000)
    print(f"The floor's list, {count} jobs of {REVISIONS} revisions:")
    print(f"  the first time: answered in {first:.1f} s, all planned in {whole:.1f} s")
    print(
        f"  after a new reading: answered in {after:.1f} s (promised {PROMISED_AFTER_S}), with what stood before for those "
        f"still to be planned; all planned in {whole_after:.1f} s"
    )
    print(f"  after that, median of 20: {statistics.median(times):.0f} ms, promised under {PROMISED_MS}")


def _until_whole(desk: Desk, path: str) -> tuple[float, float, int]:
    """Seconds to the first answer, and until no job is behind; the number of jobs."""
    began, first = time.perf_counter(), 0.0
    while True:
        strips = desk.get(path)
        first = first or time.perf_counter() - began
        if not any(strip["behind"] for strip in strips):
            return first, time.perf_counter() - began, len(strips)


if __name__ == "__main__":
    main()
