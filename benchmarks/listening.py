"""Listening to pots that are not quite as the model has them, followed through the full equation of heat.

Another life than the label's, another kinetics, another mass, more or less draught, a start beside the room's, a thermometer
that is off: what the band holds, how far off the gel is told, when a fast mix is called one, what lead its alarms give.
"""

import time
from dataclasses import dataclass, replace
from math import exp, log

import numpy as np
from scipy.optimize import brentq

from layup.heat.conduction import H_CUP, cup, gel_min, simulate
from layup.heat.cure_kinetics import TwoPartCure
from layup.heat.heat_fit import StatedPot, fitted_cure
from layup.heat.listening import Listening

SHARES = (0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9)
POTS, CALLED, SEED = 200, 100, 1
PREPARE_MIN, OUT_MIN = 4.0, 2.0
_LABELS = (StatedPot(20, 25, 100), StatedPot(30, 25, 100), StatedPot(45, 25, 150), StatedPot(75, 25, 100))
# A pot that the planner would not size: it is gone before it is spread.
_LEAST_LIFE_MIN = 12.0
_EACH_S = 10.0
_SIGMA_LIFE = 0.25


@dataclass(frozen=True)
class Strayed:
    """A pot, what its label says of it, and what a thermometer reads of it: minutes and °C."""

    cure: TwoPartCure
    mass_g: float
    room_c: float
    label_min: float
    gel_min: float
    readings: np.ndarray


@dataclass(frozen=True)
class Listened:
    """How a pot was told: by share of its life how far off the gel, and whether the band held it; how long before its gel
    the alarms came, min; whether it was called fast before half of its life; ms a reading."""

    off: dict[float, float]
    held: dict[float, bool]
    label_off: float
    prepare_min: float
    out_min: float
    fast: bool
    ms: float


def strayed(rng: np.random.Generator, life: float | None = None) -> Strayed:
    """A pot of so many times its label's life, or of any."""
    stated = _LABELS[rng.integers(len(_LABELS))]
    cure, mass_g, room_c = fitted_cure(stated), float(exp(rng.uniform(log(100), log(600)))), float(rng.uniform(15, 28))
    label_min = gel_min(cup(mass_g), cure, room_c)
    if label_min < _LEAST_LIFE_MIN:
        return strayed(rng, life)
    wanted = (exp(rng.normal(0, _SIGMA_LIFE)) if life is None else life) * label_min
    other = replace(cure, kappa=cure.kappa * exp(rng.normal(0, 0.4)), m=float(rng.uniform(0.85, 1.2)), glass=None)

    def late(ln_pace: float) -> float:
        return log(gel_min(cup(mass_g), replace(other, ln_a=other.ln_a + ln_pace), room_c) / wanted)

    truly = replace(other, ln_a=other.ln_a + brentq(late, -3.0, 3.0, xtol=3e-3))
    body = cup(mass_g * rng.uniform(0.95, 1.05), h_w_per_m2_k=H_CUP * rng.uniform(0.7, 1.4))
    run = simulate(body, truly, room_c, start_c=room_c + rng.normal(0, 1.5), until="peak")
    gels = float(run.gel_min or 0.0)
    minutes = np.arange(_EACH_S / 60, gels, _EACH_S / 60)
    read = np.interp(minutes, run.minutes, run.surface_c) + rng.normal(0, 0.8) + rng.normal(0, 1.0, len(minutes))
    return Strayed(cure, mass_g, room_c, label_min, gels, np.column_stack([minutes, read]))


def listened(pot: Strayed) -> Listened:
    """A pot listened to from its first reading to its gel."""
    hears = Listening(pot.cure, cup(pot.mass_g), pot.room_c, pot.label_min)
    off, held, lead = {}, {}, {"prepare": 0.0, "out now": 0.0}
    fast, took_s = False, 0.0
    for minute, surface_c in pot.readings:
        began = time.perf_counter()
        hears.hear(minute, surface_c)
        heard, level = hears.heard(minute), hears.level(minute)
        took_s += time.perf_counter() - began
        for share in SHARES:
            if share not in off and minute >= share * pot.gel_min:
                off[share] = heard.gels_min / pot.gel_min - 1
                held[share] = heard.gels_low_min <= pot.gel_min <= heard.gels_high_min
        fast = fast or (minute < pot.gel_min / 2 and heard.fast)
        # What is to be got out now was to be prepared for as well.
        for told in (level, "prepare") if level else ():
            lead[told] = lead[told] or pot.gel_min - minute
    return Listened(
        off=off,
        held=held,
        label_off=pot.label_min / pot.gel_min - 1,
        prepare_min=lead["prepare"],
        out_min=lead["out now"],
        fast=fast,
        ms=1000 * took_s / len(pot.readings),
    )


def main() -> None:
    print(f"Listening, {POTS} pots that are not as the model has them, seed {SEED}:")
    rng = np.random.default_rng(SEED)
    pots = [listened(strayed(rng)) for _ in range(POTS)]
    label = np.sqrt(np.mean([pot.label_off**2 for pot in pots]))
    for share in SHARES:
        told = [pot for pot in pots if share in pot.off]
        off = np.sqrt(np.mean([pot.off[share] ** 2 for pot in told]))
        band = np.mean([pot.held[share] for pot in told])
        print(f"  at {share:.1f} of its life: off by {off:5.1%} (the label {label:.1%}), the band holds {band:.0%}")
    for words, lead, least in (
        ("prepare", [pot.prepare_min for pot in pots], PREPARE_MIN),
        ("out now", [pot.out_min for pot in pots], OUT_MIN),
    ):
        in_time = np.mean([minutes >= least for minutes in lead])
        print(
            f"  “{words}” {least:g} min before its gel or earlier in {in_time:.1%}, at the middle {np.median(lead):.1f} min"
        )
    for life in (0.7, 1.0):
        called = np.mean([listened(strayed(rng, life)).fast for _ in range(CALLED)])
        print(f"  of {life:g} of its label's life, called fast before half of it: {called:.0%}")
    print(f"  a reading takes {np.mean([pot.ms for pot in pots]):.2f} ms\n")


if __name__ == "__main__":
    main()
