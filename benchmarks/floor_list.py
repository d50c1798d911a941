"""How long the floor's list takes with 200 jobs of 50 revisions each."""

import json
import statistics
import time

from benchmarks.shop import demo_server
from cradle.demo_jobs import buoy_lid, skiff

JOBS, REVISIONS = 200, 50
PROMISED_MS = 100
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
        began = time.perf_counter()
        count = len(desk.get(f"/api/shops/{desk.shop_id}/jobs"))
        first = (time.perf_counter() - began) * 1000
        times = []
        for _ in range(20):
            began = time.perf_counter()
            desk.get(f"/api/shops/{desk.shop_id}/jobs")
            times.append((time.perf_counter() - began) * 1000)
    print(f"The floor's list, {count} jobs of {REVISIONS} revisions:")
    print(f"  the first time, planning each: {first:.0f} ms")
    print(f"  after that, median of 20: {statistics.median(times):.0f} ms, promised under {PROMISED_MS}")


if __name__ == "__main__":
    main()
