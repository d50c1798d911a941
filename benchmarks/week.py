"""How long a week of 12 jobs takes to lay out, and a start that is dragged in it."""

import statistics
import time
from datetime import datetime, timedelta

from benchmarks.shop import demo_server

JOBS, AT_REST_S = 12, 120.0
PROMISED_S, PROMISED_MOVED_MS = 1.0, 200


def main() -> None:
    with demo_server() as desk:
        path = f"/api/shops/{desk.shop_id}"
        jobs = desk.get(f"{path}/jobs")
        while len(jobs) < JOBS:
            desk.send("POST", f"/api/jobs/{jobs[len(jobs) % 9]['id']}/copy", {"name": f"Copy {len(jobs)}"})
            jobs = desk.get(f"{path}/jobs")
        monday = datetime.fromisoformat(desk.get(f"{path}/week")["days"][0]["from_at"])
        for at, job in enumerate(jobs):
            start = monday + timedelta(days=7 + at % 5, hours=8 + at % 6)
            desk.send("PUT", f"/api/jobs/{job['id']}/start", {"start_at": start.isoformat()})
        first = (monday + timedelta(days=7)).date().isoformat()
        # The floor's strips are planned once for a revision: the week is laid out of them.
        until = time.monotonic() + AT_REST_S
        while any(job["behind"] for job in desk.get(f"{path}/week?first={first}")["jobs"]) and time.monotonic() < until:
            time.sleep(0.5)
        took, moved = [], []
        for at in range(12):
            began = time.perf_counter()
            week = desk.get(f"{path}/week?first={first}")
            took.append(time.perf_counter() - began)
            start = monday + timedelta(days=8, hours=8, minutes=30 * at)
            began = time.perf_counter()
            sent = {"job_id": jobs[0]["id"], "start_at": start.isoformat(), "first": first}
            desk.send("POST", f"{path}/week/moved", sent)
            moved.append((time.perf_counter() - began) * 1000)
    laid = sum(job["work"] is not None for job in week["jobs"])
    print(f"A week of {len(week['jobs'])} jobs, {laid} of them planned, {len(week['clashes'])} clashes:")
    print(f"  laid out, median of {len(took)}: {statistics.median(took):.2f} s, promised within {PROMISED_S:g}")
    print(
        f"  a start moved in it, median {statistics.median(moved):.0f} ms, worst {max(moved):.0f}, promised within {PROMISED_MOVED_MS}"
    )


if __name__ == "__main__":
    main()
