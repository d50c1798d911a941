"""How long a search takes over a shop of 500 jobs, once and again."""

import statistics
import time

from benchmarks.shop import demo_server

JOBS = 500
PROMISED_MS = 100
ASKED = ("skiff", "bottom", "buoyancy box", "epoxy", "no such thing", "hatch 250")
FILL = f"""
from django.contrib.auth.models import User
from cradle.jobs.models import Job, JobRevision
from cradle.shops.models import Shop
shop, person = Shop.objects.get(), User.objects.get()
documents = [job.latest().document for job in shop.jobs.all()]
jobs = Job.objects.bulk_create(Job(shop=shop) for _ in range({JOBS} - len(documents)))
JobRevision.objects.bulk_create(
    JobRevision(
        job=job,
        number=1,
        document=(of := documents[at % len(documents)]) | {{"name": f"{{of['name']}} {{at}}"}},
        saved_by=person,
    )
    for at, job in enumerate(jobs)
)
"""


def main() -> None:
    with demo_server() as desk:
        desk.script(FILL)
        took = []
        for _ in range(5):
            for words in ASKED:
                began = time.perf_counter()
                desk.get(f"/api/shops/{desk.shop_id}/search?q={words.replace(' ', '%20')}")
                took.append((time.perf_counter() - began) * 1000)
    first, *again = took
    print(f"A search over {JOBS} jobs:")
    print(f"  the first, which reads every job once: {first:.0f} ms")
    print(
        f"  median of {len(again)} more: {statistics.median(again):.0f} ms, worst {max(again):.0f}, promised under {PROMISED_MS}"
    )


if __name__ == "__main__":
    main()
