"""How true the heat model is beside an independent fine solution, how fast it and its tables are."""

import statistics
import time
from functools import partial
from timeit import timeit

import numpy as np
from scipy.integrate import solve_ivp

from layup.heat.conduction import Body, cup, gel_min, mesh_of, simulate, tray
from layup.heat.gel_table import gel_table, rough_table
from layup.heat.heat_fit import StatedPot, fitted_cure
from tests.core.heat_reference import independent, plain_change

SPEEDS_MIN = (8, 20, 60)
MASSES_G = (10, 30, 100, 300, 1000, 3000)
ROOMS_C = (5, 13, 21, 29, 37, 45)
TRAY_M2 = 0.06
GEL_PCT, PEAK_K, TABLE_PCT, TABLE_S, LOOK_UP_US = 1.0, 2.0, 1.0, 1.0, 20.0


def bodies() -> list[tuple[str, float, Body]]:
    """The cups and the trays of the grid."""
    cups = [("cup", mass, cup(mass)) for mass in MASSES_G]
    return cups + [("tray", mass, tray(mass / (1.10 * TRAY_M2) * 1e-6)) for mass in MASSES_G]


def truth() -> None:
    """Gel and centre peak over the grid, beside 80 cells and a tight tolerance."""
    worst_gel, worst_peak, cases = (0.0, ""), (0.0, ""), 0
    for speed in SPEEDS_MIN:
        cure = fitted_cure(StatedPot(speed, 25, 100))
        for kind, mass, body in bodies():
            for room in ROOMS_C:
                gel, peak = independent(body, cure, room)
                run = simulate(body, cure, room, until="peak", most_min=3 * gel)
                name = f"{speed} min resin, {mass} g in a {kind} at {room} °C"
                worst_gel = max(worst_gel, (100 * abs(run.gel_min / gel - 1), name))
                worst_peak = max(worst_peak, (abs(run.peak_c - peak), name))
                cases += 1
    print(f"Heat model beside an 80-cell solution, {cases} cases:")
    print(f"  gel: {worst_gel[0]:.2f} % at worst ({worst_gel[1]}), promised {GEL_PCT:g}")
    print(f"  centre peak: {worst_peak[0]:.2f} K at worst ({worst_peak[1]}), promised {PEAK_K:g}")


def plain_gel(body: Body, cure, room_c: float) -> float:
    """The same case by solve_ivp's LSODA as it comes, dense, its derivative written with arrays, to the gel."""
    change, weights = plain_change(body, cure, room_c), mesh_of(body).weights
    start = np.tile([room_c + 273.15, 0.0], len(weights))

    def gelled(_t: float, y: np.ndarray) -> float:
        """Nought at gel."""
        return float(weights @ y[1::2]) - cure.gels_at

    gelled.terminal = True
    tight = {"rtol": 1e-5, "atol": np.tile([1e-3, 1e-7], len(start) // 2)}
    return solve_ivp(change, (0, 14 * 86400), start, "LSODA", events=gelled, **tight).t[-1] / 60


def speed() -> None:
    """One solve to gel beside a plain one of the same case."""
    ratios, ours = [], []
    for minutes in SPEEDS_MIN:
        cure = fitted_cure(StatedPot(minutes, 25, 100))
        for _kind, _mass, body in bodies():
            for room in ROOMS_C[1::2]:
                times = [
                    min(_timed(partial(solve, body, cure, room)) for _ in range(3)) for solve in (gel_min, plain_gel)
                ]
                ours.append(times[0])
                ratios.append(times[0] / times[1])
    print(
        f"One solve to gel: {1000 * statistics.median(ours):.1f} ms, {statistics.median(ratios):.2f} of a plain dense "
        f"LSODA of the same case ({sum(ratio > 0.5 for ratio in ratios)} of {len(ratios)} cases over half), promised 0.5"
    )


def tables() -> None:
    """Tables: how long to build, how far off, how long to look up."""
    for vessel, body, sizes in (("cup", cup, (12, 5500)), ("tray", lambda mm: tray(mm / 1000), (0.3, 90))):
        built, errors, rough_ms = [], [], []
        for minutes in SPEEDS_MIN:
            cure = fitted_cure(StatedPot(minutes, 25, 100))
            rough_ms.append(1000 * _timed(partial(rough_table, cure, vessel)))
            gel_table.cache_clear()
            built.append(_timed(partial(gel_table, cure, vessel)))
            table, chance = gel_table(cure, vessel), np.random.default_rng(7)
            for _ in range(60):
                size, room = np.exp(chance.uniform(*np.log(sizes))), chance.uniform(1, 49)
                errors.append(100 * abs(table.gel_min(size, room) / gel_min(body(size), cure, room) - 1))
        looks = timeit(partial(table.gel_min, 200, 21.2), number=2000) / 2000 * 1e6
        print(
            f"Gel-time table of a {vessel}: built in {max(built):.2f} s at most, promised {TABLE_S:g} (the rough one in "
            f"{max(rough_ms):.0f} ms); {max(errors):.2f} % off at worst, promised {TABLE_PCT:g}; a look-up "
            f"{looks:.1f} µs, promised {LOOK_UP_US:g}"
        )


def _timed(of) -> float:
    began = time.perf_counter()
    of()
    return time.perf_counter() - began


def main() -> None:
    speed()
    tables()
    truth()


if __name__ == "__main__":
    main()
