"""The heat in a pot solved again: by another scheme on a fine mesh, and by its own written plainly. For tests, benchmarks."""

from collections.abc import Callable

import numpy as np
from scipy.integrate import solve_ivp

from layup.heat.change import COLDEST_K
from layup.heat.conduction import SHAPE_POWER, Body, drawn_of, gel_min, mesh_of, rise_of
from layup.heat.cure_kinetics import Cure, TwoPartCure

CELLS = 80


def independent(body: Body, cure: TwoPartCure, room_c: float) -> tuple[float, float]:
    """Gel, min, and centre peak within three times the gel, °C, of one layer cooled on its outer face."""
    (layer,) = body.layers
    power = SHAPE_POWER[body.shape]
    step = layer.thickness_m / CELLS
    rims = np.arange(CELLS + 1) * step
    areas, volumes = rims**power, np.diff(rims ** (power + 1)) / (power + 1)
    room_k, h = room_c + 273.15, body.outer.h_w_per_m2_k
    stored = layer.density_g_per_cm3 * 1e6 * layer.specific_heat_j_per_g_k
    rise = cure.heat_j_per_g / layer.specific_heat_j_per_g_k
    k = layer.conductivity_w_per_m_k

    def change(_t: float, y: np.ndarray) -> np.ndarray:
        """Temperatures, then conversions."""
        warm, cured = y[:CELLS], np.clip(y[CELLS:], 0, 1)
        pace = np.exp(cure.ln_a - cure.ea_kj_per_mol * 1000 / 8.314462618 * (1 / warm - 1 / 298.15))
        rate = pace * (cure.kappa + cured**cure.m) * (1 - cured) ** cure.n
        flux = np.zeros(CELLS + 1)
        flux[1:-1] = k * np.diff(warm) / step * areas[1:-1]
        flux[-1] = (room_k - warm[-1]) / (step / 2 / k + 1 / h) * areas[-1]
        return np.concatenate([np.diff(flux) / (volumes * stored) + rise * rate, rate])

    def gelled(_t: float, y: np.ndarray) -> float:
        """Nought at gel."""
        return y[CELLS:] @ volumes / volumes.sum() - cure.gels_at

    near = np.eye(CELLS) + np.eye(CELLS, k=1) + np.eye(CELLS, k=-1)
    pattern = np.block([[near, np.eye(CELLS)], [np.eye(CELLS), np.eye(CELLS)]])
    start = np.concatenate([np.full(CELLS, room_k), np.zeros(CELLS)])
    end_s = 180 * gel_min(body, cure, room_c)
    run = solve_ivp(change, (0, end_s), start, "BDF", events=gelled, rtol=1e-7, atol=1e-8, jac_sparsity=pattern)
    return float(run.t_events[0][0]) / 60, float(run.y[0].max()) - 273.15


def plain_change(body: Body, cure: Cure, room_c: float) -> Callable[[float, np.ndarray], np.ndarray]:
    """The derivative of a case per second as one writes it with arrays, of (T, state) of each cell one after another."""
    mesh, wide = mesh_of(body), 1 + cure.states
    drawn, rise, cells = drawn_of(mesh, body, room_c), rise_of(mesh, cure), len(mesh.reacts)
    live = None if mesh.reacts.all() else (mesh.reacts > 0).astype(float)[:, None]

    def change(_t: float, y: np.ndarray) -> np.ndarray:
        """Temperature, then what it cures by."""
        state = y.reshape(cells, wide)
        rates = cure.rates(np.maximum(state[:, 0], COLDEST_K), state[:, 1:])
        if live is not None:
            rates = live * rates
        out = np.empty((cells, wide))
        out[:, 0] = mesh.matrix @ state[:, 0] + drawn + rise * rates[:, -1]
        out[:, 1:] = rates
        return out.ravel()

    return change
