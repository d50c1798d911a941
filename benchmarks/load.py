"""Twenty people at once on one server, each reading and saving without a pause: how many answers, and how late.

`python -m benchmarks.load 3600` goes on for an hour and says each minute what memory is held.
"""

import json
import statistics
import sys
import threading
import time
from pathlib import Path

from benchmarks.shop import Desk, Tablet, demo_server, processes_of, tablets

PEOPLE, SECONDS, WARM_S, TOLD_EVERY_S = 20, 30, 10, 60
PROMISED_MS, PROMISED_A_SECOND, PROMISED_MB = 1000, 30, 700
FILL = """
import sys
from cradle.demo_jobs import buoy_lid, foam_hatch, locker_lid, rudder_blade, skiff
from cradle.jobs.saving import start_job
from cradle.shops.models import Shop
from django.contrib.auth.models import User
for at in range(int(sys.argv[1])):
    made = (skiff, buoy_lid, foam_hatch, locker_lid, rudder_blade)[at % 5]()
    made = made.model_copy(update={"name": f"Job {at}"})
    print(start_job(Shop.objects.get(), made, User.objects.get(username=f"person-{at}")).job_id)
"""


class Person:
    """One at a screen: opens the job, changes its widths, and looks at what follows, again and again."""

    def __init__(self, desk: Desk, tablet: Tablet, job_id: str):
        self.job, self.shop = f"/api/jobs/{job_id}", f"/api/shops/{desk.shop_id}"
        self.tablet = tablet
        self.took: list[tuple[str, float, float]] = []

    def works(self, until: float) -> None:
        opened = json.loads(self.asks("open", "GET", self.job))
        document = opened["document"]
        shape = document["parts"][0]["shape"]
        size = next(name for name in shape if name.endswith("_m"))
        first, number = shape[size], 0
        while time.monotonic() < until:
            number += 1
            changed = json.loads(json.dumps(document))
            changed["parts"][0]["shape"][size] = round(first * (1 + 0.01 * (number % 50)), 4)
            made_from = {name: opened[name] for name in ("revision", "edit")}
            body = {"base": document, "document": changed, "made_from": made_from}
            opened = json.loads(self.asks("save", "PUT", self.job, body))
            document = opened["document"]
            self.asks("what if", "POST", f"{self.job}/what-if", {"room_c": 15 + number % 10})
            for what in ("ready", "cut", "prepare"):
                self.asks(what, "GET", f"{self.job}/{what}")
            self.asks("list", "GET", f"{self.shop}/jobs")
            self.asks("due", "GET", f"{self.shop}/due")
            self.asks("open", "GET", self.job)

    def asks(self, what: str, method: str, path: str, body: dict | None = None) -> bytes:
        began = time.monotonic()
        status, content = self.tablet.send(method, path, body)
        if status != 200:
            raise RuntimeError(f"{method} {path}: {status} {content[:300]!r}")
        self.took.append((what, began, 1000 * (time.monotonic() - began)))
        return content


def main(seconds: float = SECONDS) -> None:
    with demo_server() as desk:
        signed_in = tablets(desk, PEOPLE)
        people = [Person(desk, *of) for of in zip(signed_in, desk.script(FILL, str(PEOPLE)).split(), strict=True)]
        began = time.monotonic()
        until = began + WARM_S + seconds
        threads = [threading.Thread(target=person.works, args=(until,)) for person in people]
        for thread in threads:
            thread.start()
        while time.monotonic() + TOLD_EVERY_S < until:
            time.sleep(TOLD_EVERY_S)
            print(f"  {time.monotonic() - began:.0f} s: {_held_mb(desk.server.process.pid):.0f} MB", flush=True)
        for thread in threads:
            thread.join()
        held_mb = _held_mb(desk.server.process.pid)
    took: dict[str, list[float]] = {}
    for person in people:
        for what, at, ms in person.took:
            if at > began + WARM_S:
                took.setdefault(what, []).append(ms)
    every = sorted(ms for times in took.values() for ms in times)
    print(
        f"{PEOPLE} people at once: {len(every) / seconds:.0f} answers a second (promised {PROMISED_A_SECOND}), "
        f"95th percentile {statistics.quantiles(every, n=20)[-1]:.0f} ms (promised under {PROMISED_MS:,}), "
        f"{held_mb:.0f} MB held by the server and its workers (promised under {PROMISED_MB})"
    )
    for what, times in sorted(took.items()):
        print(
            f"  {what}: median {statistics.median(times):.0f} ms, 95th {statistics.quantiles(times, n=20)[-1]:.0f} ms"
        )


def _held_mb(pid: int) -> float:
    """The memory that the server and its workers hold, MB; what they share is counted once."""
    return sum(_share_mb(each) for each in processes_of(pid))


def _share_mb(pid: int) -> float:
    lines = Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines()
    return int(next(line for line in lines if line.startswith("Pss:")).split()[1]) / 1024


if __name__ == "__main__":
    main(*map(float, sys.argv[1:]))
