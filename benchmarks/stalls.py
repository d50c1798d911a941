"""How quick a light plan stays while another shop's heavy search runs: a ratio of the same request with and without."""

import statistics
import threading
import time
from datetime import date

from cradle.beside.crew import STARTS
from cradle.beside.starts import starts_in_time
from layup.plan import plan
from tests.core.jobs import at, panel

PROMISED_MS, TIMES = 150, 120


def main() -> None:
    light = panel("epoxy-2-1", "cloth-300", "cloth-300")
    heavy = panel("epoxy-2-1", *["cloth-300"] * 12, width_m=8, length_m=10, pots={"largest_g": 120})
    alone = _light_ms(light)
    done = threading.Event()

    def search() -> None:
        while not done.is_set():
            STARTS.work("shop", 12.0, starts_in_time, heavy, at(20), date(2026, 5, 4), 3.0)

    searching = threading.Thread(target=search)
    searching.start()
    time.sleep(4)
    along = _light_ms(light)
    done.set()
    searching.join()
    print(
        f"A light plan, 95th percentile: {alone:.0f} ms alone, {along:.0f} ms while a heavy search runs beside it "
        f"(promised under {PROMISED_MS}), {along / alone:.1f} times"
    )


def _light_ms(job) -> float:
    times = []
    for number in range(TIMES):
        began = time.perf_counter()
        plan(job, at(20 + number / 1000))
        times.append(1000 * (time.perf_counter() - began))
        time.sleep(0.02)
    return statistics.quantiles(times, n=20)[-1]
