"""Castings: how near the quick march is to a fine reference, and how long peak, lifts and the picture of one take."""

import random
import statistics
import time
from dataclasses import replace

import numpy as np
from scipy.integrate import solve_ivp

from layup.castings import Pour
from layup.chemistry.gel_law import kelvin
from layup.heat.conduction import Body, mesh_of
from layup.heat.cure_kinetics import TwoPartCure
from layup.heat.pour_heat import follow
from layup.job import JobSpec
from layup.library import generic
from layup.plan import plan
from layup.pours.hours import pour_hours
from layup.pours.lifts import cool_lifts, deepest_by_room_mm
from layup.pours.surround import Surround, casting_cure, surround_of
from layup.shop_facts import ShopFacts

CASES, TURNS = 100, 40
SMOKES_C = 150.0
PEAK_K, GEL_SHARE, TABLE_S, DRAGGED_MS = 2.0, 0.01, 1.0, 150
_FINER = 3


def main() -> None:
    print("Castings:")
    _against_reference()
    _times()


def _against_reference() -> None:
    """Of a hundred pours of all depths, rooms and grounds: the peak and the gel of the middle against fine cells and a
    library's solver."""
    draw = random.Random(7)
    peaks, gels = [], []
    for _ in range(CASES):
        cure = casting_cure(draw.choice((15.0, 25.0, 50.0)))
        ground = draw.choice(("softwood", "hardwood", "board", "laminate mould", "foam", "stone"))
        around = surround_of(Pour(id="p", lies_in=ground, fan=draw.random() < 0.3), 1.1, None, 300, True)
        depth, room = draw.uniform(5, 60), draw.uniform(14, 32)
        assert cure is not None
        quick, _ = follow([around.body((depth,))], cure, [room])
        gel_min, peak_c = _reference(_fine(around, depth), cure, room, float(quick.gel_min[0]))
        gels.append(abs(float(quick.gel_min[0]) / gel_min - 1))
        # Past 150 °C it is only told that it smokes.
        if peak_c < SMOKES_C:
            peaks.append(abs(float(quick.peak_c[0]) - peak_c))
    print(
        f"  {len(gels)} pours against a fine reference: peak, where it is under {SMOKES_C:g} °C, off by {statistics.median(peaks):.2f} K, at most"
        f" {max(peaks):.2f} (promised {PEAK_K:g}); gel by {100 * statistics.median(gels):.2f} %, at most"
        f" {100 * max(gels):.2f} (promised {100 * GEL_SHARE:g})"
    )


def _reference(body: Body, cure: TwoPartCure, room_c: float, about_min: float) -> tuple[float, float]:
    """Minutes to the gel of the middle and the peak of the hottest, by SciPy's LSODA on the same equations."""
    mesh = mesh_of(body)
    cells, resin = len(mesh.reacts), mesh.reacts > 0
    rise = cure.heat_j_per_g * 1000 * mesh.reacts / mesh.heat_capacity
    to_room = mesh.from_inner + mesh.from_outer

    def change(_t: float, y: np.ndarray) -> np.ndarray:
        warm, cured = y[::2], y[1::2]
        rate = cure.rates(warm, cured[:, None])[:, 0] * resin
        out = np.empty_like(y)
        out[::2] = mesh.matrix @ warm + to_room * kelvin(room_c) + rise * rate
        out[1::2] = rate
        return out

    start = np.zeros(2 * cells)
    start[::2] = kelvin(room_c)
    till = np.linspace(0.0, 2.2 * 60 * about_min, 8001)
    got = solve_ivp(
        change, (0.0, till[-1]), start, "LSODA", t_eval=till, rtol=1e-7, atol=1e-9, lband=3, uband=3, max_step=1800
    )
    top = body.layers[-1].cells
    middle = got.y[1::2][cells - top + top // 2]
    gel_s = float(np.interp(cure.gels_at, middle, till))
    return gel_s / 60, float(got.y[::2][resin].max()) - 273.15


def _fine(around: Surround, depth_mm: float) -> Body:
    body = around.body((depth_mm,))
    return replace(body, layers=tuple(replace(layer, cells=_FINER * layer.cells) for layer in body.layers))


def _times() -> None:
    cure, around = casting_cure(25.0), surround_of(Pour(id="p"), 1.1, None, 300, True)
    assert cure is not None
    began = time.perf_counter()
    deepest_by_room_mm(cure, around, 61.0)
    print(f"  the deepest pour in seven rooms: {time.perf_counter() - began:.2f} s, promised under {TABLE_S:g}")
    took = []
    for turn in range(TURNS):
        began = time.perf_counter()
        cool_lifts(cure, around, 20 + turn * 0.7, 20.0, 60, 25)
        took.append((time.perf_counter() - began) * 1000)
    print(
        f"  peak and lifts of another depth: {statistics.median(took):.0f} ms, 95th percentile"
        f" {statistics.quantiles(took, n=20)[-1]:.0f}, promised under {DRAGGED_MS}"
    )
    resin = next(each for each in generic().resins if each.id == "epoxy-casting")
    document = {"name": "B", "materials": {"resins": [resin]}, "resins": [{"id": "r", "resin_id": resin.id}]}
    took = []
    for turn in range(TURNS // 2):
        pour = {"id": "p", "length_m": 0.6, "width_mm": 300, "depth_mm": 20 + turn}
        job = JobSpec.model_validate(document | {"pours": [pour]})
        plan(job, ShopFacts())
        began = time.perf_counter()
        pour_hours(job, ShopFacts(), "p")
        took.append((time.perf_counter() - began) * 1000)
    print(f"  its whole picture, beside the page: {statistics.median(took):.0f} ms")


if __name__ == "__main__":
    main()
