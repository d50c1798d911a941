"""How true and how quick a filling is: against the closed forms on the mesh of the screen, and its cost by its cells."""

from collections.abc import Callable
from math import log, pi
from statistics import quantiles
from time import perf_counter

import numpy as np
from shapely import Polygon, box

from layup.heat.pot_heat import full_heat
from layup.infusion.bed import FINE, ROUGH, Bed, Layered, Line, filled
from layup.infusion.flow import flow_of
from layup.job import JobSpec
from layup.library import generic
from layup.plan import plan
from layup.shop_facts import ShopFacts
from layup.under_vacuum import FlowLine

_K, _PORES, _H = 1e-10, 0.5, 3e-3
_PLAIN = Layered(_K * _H, _PORES * _H)
_ASKED = {"form": 0.02, "balance": 0.005, "two_m2_s": 0.4, "rough_ms": 100.0, "fine_ms": 600.0}


def _disc(radius_m: float) -> Polygon:
    return Polygon([(radius_m * np.cos(a), radius_m * np.sin(a)) for a in np.linspace(0, 2 * pi, 120, endpoint=False)])


def _holed() -> Bed:
    return Bed(box(0, 0, 2, 1).difference(box(0.7, 0.3, 1.2, 0.6)), _PLAIN)


def _job() -> JobSpec:
    """Two square metres with a cut-out, infused."""
    library = generic()
    resin = next(each for each in library.resins if each.id == "epoxy-infusion")
    cloth = next(each for each in library.fabrics if each.id == "biax-450")
    part = {
        "id": "p",
        "name": "Panel",
        "substrate": "waxed mould",
        "process": "infusion",
        "shape": {"kind": "rectangle", "width_m": 1.0, "length_m": 2.0},
        "cut_outs": [{"id": "c", "width_m": 0.3, "length_m": 0.5}],
        "plies": [{"id": f"y{n}", "fabric_id": cloth.id} for n in range(3)],
    }
    return JobSpec.model_validate(
        {
            "name": "Two square metres",
            "materials": {"fabrics": [cloth.model_dump()], "resins": [resin.model_dump()]},
            "resins": [{"id": "resin", "resin_id": resin.id}],
            "parts": [part],
        }
    )


def _timed(do: Callable[[], object]) -> float:
    begun = perf_counter()
    do()
    return perf_counter() - begun


def main() -> None:
    """Prints what was promised beside what is measured."""
    line = filled(Bed(box(0, 0, 1, 0.3), _PLAIN), [Line(((0, 0), (0, 0.3)))], [Line(((1, 0), (1, 0.3)))])
    port = filled(Bed(_disc(0.5), _PLAIN), [Line(((0, 0),), 0.006)], [Line(((0.495, 0),), 0.002)])
    exact = _PORES / (2 * _K) * (0.25 * log(0.5 / 0.006) - (0.25 - 0.006**2) / 2)
    off = {"line": line.full_s * 2 * _K / _PORES - 1, "port": port.full_s / exact - 1}
    for name, by in off.items():
        print(f"{name} feed, off its closed form by {100 * by:+.2f} % (asked: {100 * _ASKED['form']:.0f} %)")
    holed = _holed()
    feeds, vents = [Line(((0, 0), (2, 0)))], [Line(((0, 1), (2, 1)))]
    found = filled(holed, feeds, vents)
    balance = (found.drawn_m3[-1] - found.left_m3[-1]) / found.pores_m3.sum() - 1
    print(f"drawn less what ran out, against what was filled: {balance:+.1e} (asked: {_ASKED['balance']:.1%})")
    print("cells, s: ", end="")
    for cells in (ROUGH, 600, 1200, FINE, 2400, 3600):
        took = min(_timed(lambda cells=cells: filled(holed, feeds, vents, cells)) for _ in range(3))
        print(f"{filled(holed, feeds, vents, cells).at_s.size}: {took:.3f}", end="  ")
    print(f"\n2 m² with a cut-out, {found.at_s.size} cells: asked under {_ASKED['two_m2_s']} s")
    job, shop = _job(), ShopFacts()
    plan(job, shop)
    dragged: dict[bool, list[float]] = {True: [], False: []}
    for step in range(20):
        # The job's own filling is kept; what is tried is never the same twice.
        for rough, times in dragged.items():
            lines = _lines(0.05 + 0.01 * step + 0.001 * rough)
            times.append(
                1000
                * _timed(lambda lines=lines, rough=rough: flow_of(job, shop, "p", full_heat, lines=lines, rough=rough))
            )
    for rough, times in dragged.items():
        asked = _ASKED["rough_ms" if rough else "fine_ms"]
        print(
            f"a feed dragged, {'rough' if rough else 'full'}: 95 of 100 in {quantiles(times, n=20)[-1]:.0f} ms (asked: {asked:.0f})"
        )


def _lines(y_m: float) -> list[FlowLine]:
    feed = {"id": "f", "does": "feeds", "points": [{"x_m": 0, "y_m": y_m}, {"x_m": 2, "y_m": y_m}]}
    vent = {"id": "v", "does": "vents", "points": [{"x_m": 0, "y_m": 1}, {"x_m": 2, "y_m": 1}]}
    return [FlowLine.model_validate(each) for each in (feed, vent)]


if __name__ == "__main__":
    main()
