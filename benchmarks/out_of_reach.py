"""A tablet without a network: a day cut again and again, put off and on, all taps once and in their order; four devices for long.

`python -m benchmarks.out_of_reach 3600` has the devices alone, for an hour of the clock.
"""

import random
import statistics
import sys
import threading
import time
from itertools import pairwise
from pathlib import Path
from uuid import uuid4

from playwright.sync_api import BrowserContext, Page

from benchmarks.bench import _note
from benchmarks.desk import signed_in
from benchmarks.shop import Desk
from tests.browser.desk import Server

CUTS, RESTARTS, OPENS_MS = 100, 10, 1000
DEVICES, EVENTS, FOR_S = 4, 900, 90
WORDS = ("a drip", "starved")


def main() -> None:
    print("Out of reach:")
    with signed_in() as page:
        _cut(_tablet(page))
    devices(FOR_S)


def devices(for_s: float) -> None:
    with signed_in() as page:
        _for_long(_tablet(page), for_s)


def _tablet(page: Page) -> Page:
    """A page of a browser store of its own, which may have others beside it and after it."""
    address = page.url.rstrip("/")
    context = page.context.browser.new_context(storage_state=page.context.storage_state(), base_url=address)
    tablet = context.new_page()
    tablet.goto("/")
    tablet.get_by_role("heading", name="Jobs").wait_for()
    return tablet


def _bench(page: Page) -> str:
    page.goto("/")
    page.get_by_role("list", name="Jobs").get_by_role("link").filter(has_text="Estuary skiff").click()
    page.get_by_role("navigation", name="Steps").get_by_role("link", name="Log").click()
    page.get_by_role("link", name="Open its bench").first.click()
    page.get_by_role("button", name="Write").wait_for()
    return page.url


def _cut(page: Page) -> None:
    """Taps through a day in which the network is cut at random, and the tablet is put off and on while it is."""
    walk, context = random.Random(7), page.context
    page.evaluate("() => navigator.serviceWorker.ready.then(() => undefined)")
    bench = _bench(page)
    run_id = bench.rsplit("/", 1)[1]
    page.get_by_role("button", name="Write").click()
    pressed, opened = 0, []
    restarts = set(walk.sample(range(CUTS), RESTARTS))
    for cut in range(CUTS):
        pressed += _press(page, walk.randint(0, 3), pressed)
        context.set_offline(True)
        pressed += _press(page, walk.randint(0, 3), pressed)
        if cut in restarts:
            page.close()
            page = context.new_page()
            began = time.perf_counter()
            page.goto(bench)
            page.get_by_role("button", name="Write").wait_for()
            opened.append(1000 * (time.perf_counter() - began))
            page.get_by_role("button", name="Write").click()
            pressed += _press(page, 1, pressed)
        page.wait_for_timeout(walk.uniform(0, 400))
        context.set_offline(False)
        page.wait_for_timeout(walk.uniform(0, 400))
    page.get_by_text("for the server").wait_for(state="hidden", timeout=60_000)
    page.get_by_text("to the server now").wait_for(state="hidden", timeout=60_000)
    page.wait_for_timeout(2000)
    events = _events(context, page, run_id)
    moments = [event["happened_at"] for event in events]
    late = sum(one > other for one, other in pairwise(moments))
    print(
        f"  network cut {CUTS} times, tablet put off and on {RESTARTS} times: {pressed} taps, {pressed - len(events)} lost or "
        f"twice, {late} out of their order; opened without a network in {statistics.median(opened):.0f} ms, "
        f"{max(opened):.0f} ms at most ({OPENS_MS} promised)"
    )


def _press(page: Page, times: int, before: int) -> int:
    for n in range(times):
        page.get_by_role("button", name=WORDS[(before + n) % 2]).click()
    return times


def _events(context: BrowserContext, page: Page, run_id: str) -> list[dict]:
    """The notes of a run in the order they were written down."""
    told = context.request.get(f"{page.url.split('/bench/')[0]}/api/runs/{run_id}/bench").json()["events"]
    return [event for event in sorted(told, key=lambda each: each["id"]) if event["data"].get("words") in WORDS]


def _for_long(page: Page, for_s: float) -> None:
    """Four devices on two runs, with as many events as an hour has at a busy bench: what they hold in memory."""
    desk = Desk(_Known(page.url.rstrip("/")))
    benches = [f"/bench/{run_id}" for run_id in _two_runs(desk)]
    pages = [page, *(page.context.new_page() for _ in range(DEVICES - 1))]
    for number, each in enumerate(pages):
        each.goto(benches[number % 2])
        each.get_by_role("button", name="Write").wait_for()
    poster = threading.Thread(target=_post, args=(desk, [bench.rsplit("/", 1)[1] for bench in benches], for_s))
    poster.start()
    sizes = []
    while poster.is_alive():
        page.wait_for_timeout(1000 * for_s / 6)
        sizes.append(sum(map(_heap_mb, pages)))
        print(f"  {sizes[-1]:.1f} MB", flush=True)
    poster.join()
    # Each keeps the events of its own run, the half of all.
    per_event = (sizes[-1] - sizes[len(sizes) // 2]) * 1e6 / (EVENTS / 4 * DEVICES)
    print(
        f"  {DEVICES} devices, {EVENTS} events: {sizes[0]:.0f} MB after the first sixth, {sizes[-1]:.0f} MB at the end; "
        f"{per_event:.0f} bytes an event and device"
    )


def _two_runs(desk: Desk) -> list[str]:
    """Of the demo's skiff: the one that stands, and one begun now."""
    jobs = desk.get(f"/api/shops/{desk.shop_id}/jobs")
    runs = next(f"/api/jobs/{job['id']}/runs" for job in jobs if "skiff" in job["name"].lower())
    return [desk.get(runs)[0]["id"], desk.send("POST", runs, {"tap_id": str(uuid4())})["id"]]


def _heap_mb(page: Page) -> float:
    session = page.context.new_cdp_session(page)
    session.send("HeapProfiler.collectGarbage")
    session.send("Performance.enable")
    metrics = session.send("Performance.getMetrics")["metrics"]
    session.detach()
    return next(each["value"] for each in metrics if each["name"] == "JSHeapUsedSize") / 1e6


class _Known(Server):
    """A server that runs already, as a desk needs one."""

    def __init__(self, address: str):
        self.address = address
        self.folder = Path()


def _post(desk: Desk, run_ids: list[str], for_s: float) -> None:
    for n in range(EVENTS):
        began = time.perf_counter()
        _note(desk, run_ids[n % len(run_ids)], f"event {n}")
        time.sleep(max(0.0, for_s / EVENTS - (time.perf_counter() - began)))


if __name__ == "__main__":
    devices(float(sys.argv[1])) if sys.argv[1:] else main()
