"""A pot tried before it is poured: how warm and how far gone it is through time, in its cup or out of it."""

from collections.abc import Iterator
from dataclasses import replace
from math import log
from typing import Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field
from scipy.optimize import root_scalar

from layup.chemistry.gel_law import GelLaw
from layup.chemistry.label import catalyst_label, hardener_label
from layup.errors import OutOfRange, known
from layup.heat.conduction import (
    DENSITY_G_PER_CM3,
    PACK_C,
    Body,
    History,
    Layer,
    cup,
    film,
    gel_min,
    simulate,
    tray,
)
from layup.heat.cure_kinetics import Cure, TwoPartCure
from layup.heat.heat_fit import catalysed_cure
from layup.heat.pot_heat import LEAST_TRAY_GAIN
from layup.materials import Hardener, ResinSystem
from layup.pots.sizing import MOST_VESSEL_FILL, TRAY_M2
from layup.record import Record
from layup.scales import METRIC, Scales

LabVessel = Literal["cup", "tray", "tray on a cool pack", "spread on the work", "casting"]
MOST_POINTS = 140
SPREAD_MM = 0.6
POURED_OUT_MM = 3.0  # memory
CASTING_MM = 20.0
# Nine millimetres of plywood beneath a film (memory).
_PLYWOOD = Layer(0.009, 0.6, 1.6, 0.12, 0.0, 6)
_CENTRE_HOTTER_K = (5.0, 10.0)  # memory
_HOT_SURFACE_C, _OVER_ROOM_K, _NO_POURING_C, _GET_CLEAR_C = 35.0, 8.0, 40.0, 45.0
SUFFERS_C, SMOKE_C = 80.0, 150.0
_CLEAR = "leave it, get clear"


class PotTrial(BaseModel):
    """A pot to try: its mass, where it stands, how warm the room and the mix are, when it is poured out thin.

    `cup_mm` is how wide the cup is inside: where it is left out a pot stands as deep as it is wide.
    In a casting it lies `casting_mm` deep in a form of softwood, air over it. `hardener_id` or `catalyst_pct` in place of the job's own; `start_c` where the tins are not at the room's.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    mass_g: float = Field(ge=10, le=6000, allow_inf_nan=False)
    room_c: float = Field(ge=0, le=45, allow_inf_nan=False)
    vessel: LabVessel = "cup"
    cup_mm: float | None = Field(default=None, ge=20, le=600, allow_inf_nan=False)
    tray_m2: float = Field(default=TRAY_M2, ge=0.005, le=1, allow_inf_nan=False)
    pack_c: float = Field(default=PACK_C, ge=5, le=40, allow_inf_nan=False)
    spread_mm: float = Field(default=SPREAD_MM, ge=0.1, le=10, allow_inf_nan=False)
    casting_mm: float = Field(default=CASTING_MM, ge=3, le=120, allow_inf_nan=False)
    start_c: float | None = Field(default=None, ge=0, le=45, allow_inf_nan=False)
    poured_out_min: float | None = Field(default=None, ge=0.5, le=600, allow_inf_nan=False)
    hardener_id: str | None = None
    catalyst_pct: float | None = Field(default=None, gt=0, le=10, allow_inf_nan=False)


class LabMark(Record):
    """A moment to know: when, how warm the surface is then, what to do."""

    minute: float
    surface_c: float
    words: str


class LabResult(Record):
    """A pot tried. Series of minutes and °C; `life_min` is to gel, `peak_c` of the centre, None where it never warms.

    `depth_mm` of a tray or a film. `gain` is its life over the same pot's in a cup; it `suffers` where its peak is past
    what a cup or a soft foam stands. `trial` is the pot as it was understood, with what was left to be as usual.
    """

    trial: PotTrial
    name: str
    minutes: tuple[float, ...]
    centre_c: tuple[float, ...]
    surface_c: tuple[float, ...]
    life_min: float
    peak_c: float
    peak_min: float
    peak_words: str
    suffers: bool
    marks: tuple[LabMark, ...]
    depth_mm: float | None
    gain: float
    words: str


class LabLevel(Record):
    """A temperature at which something comes to pass, and what."""

    celsius: float
    words: str


class MassPoint(Record):
    """A mass, and what a pot of it left in its cup comes to."""

    mass_g: float
    life_min: float
    peak_c: float


# Where a builder must act, and what becomes of things (memory).
LEVELS = (
    LabLevel(celsius=_NO_POURING_C, words="no more pouring"),
    LabLevel(celsius=SUFFERS_C, words="styrenic cups soften"),
    LabLevel(celsius=SMOKE_C, words="smoke"),
)


def surface_words(scales: Scales = METRIC) -> str:
    """How a thermometer on the pot stands to its centre (memory).

    >>> surface_words()
    'Surface temperatures are what a thermometer on the pot reads; the centre is 5 to 10 °C hotter by 40 °C, and far hotter at the end.'
    """
    low, high = _CENTRE_HOTTER_K
    return (
        "Surface temperatures are what a thermometer on the pot reads; the centre is "
        f"{scales.number('temperature_difference', low)} to {scales.words('temperature_difference', high)} hotter by "
        f"{scales.temperature(_NO_POURING_C)}, and far hotter at the end."
    )


def peak_words(peak_c: float, scales: Scales = METRIC) -> str:
    """A peak as it is told: past 150 °C no figure holds.

    >>> peak_words(92.4), peak_words(190)
    ('about 92 °C', 'over 150 °C, smoke')
    """
    if peak_c > SMOKE_C:
        return scales.said(f"over {{{SMOKE_C:g} °C}}, smoke")
    return f"about {scales.temperature(round(peak_c))}"


def try_pot(
    resin: ResinSystem,
    hardener: Hardener | None,
    catalyst_pct: float | None,
    trial: PotTrial,
    scales: Scales = METRIC,
    cup_ml: float | None = None,
    cast_in: Body | None = None,
    casting_cure: Cure | None = None,
) -> LabResult:
    """Follow a pot by the heat model, its pace set so that in its cup it lives as the label and the shop's gels say.

    `cup_ml` is what its cup holds: a pot that is too much for it is followed, and told. A casting lies as `cast_in`;
    `casting_cure` is how it cures, where the resin's stated deepest pour says that better than its pot.

    Raises OutOfRange for a pot the model has no data for. Source: the heat model of `heat`, unproven past its checks.
    """
    body, depth_mm = _body(trial, cast_in)
    cure, cup_min = _cure(resin, hardener, catalyst_pct, trial)
    if casting_cure and trial.vessel == "casting":
        cure = casting_cure
    run = _followed(body, cure, trial)
    life = run.gel_min or float(run.minutes[-1])
    at = _thinned(run)
    gain = life / cup_min
    return LabResult(
        trial=trial,
        name=hardener.name if hardener else f"{scales.written(known(catalyst_pct), '.2g')} %",
        minutes=tuple(float(run.minutes[i]) for i in at),
        centre_c=tuple(float(run.centre_c[i]) for i in at),
        surface_c=tuple(float(run.surface_c[i]) for i in at),
        life_min=life,
        peak_c=run.peak_c,
        peak_min=run.peak_min,
        peak_words=peak_words(run.peak_c, scales),
        suffers=run.peak_c > SUFFERS_C,
        marks=tuple(sorted(_marks(run, trial, scales), key=lambda mark: mark.minute)),
        depth_mm=depth_mm,
        gain=gain,
        words=_words(trial, life, gain, run, scales) + _too_much(trial, scales, cup_ml),
    )


def by_mass(
    resin: ResinSystem,
    hardener: Hardener | None,
    catalyst_pct: float | None,
    room_c: float,
    cup_mm: float | None = None,
) -> list[MassPoint]:
    """Life and peak against mass in a cup so wide, from the product's table."""
    masses = [25.0, 50.0, 100.0, 200.0, 400.0, 800.0, 1500.0, 3000.0]
    if hardener:
        label = hardener_label(hardener)
        if label.heat.cup is None:
            return []
        return [
            MassPoint(mass_g=m, life_min=label.gel_min(m, room_c, cup_mm), peak_c=label.heat.peak_c(m, room_c, cup_mm))
            for m in masses
        ]
    law, catalyst_pct = _law(resin, catalyst_pct, room_c), known(catalyst_pct)
    cure, life = catalysed_cure(law, catalyst_pct), law.gel_min(room_c, catalyst_pct)
    return [
        MassPoint(mass_g=m, life_min=life, peak_c=simulate(cup(m, cup_mm), cure, room_c, until="peak").peak_c)
        for m in masses
    ]


def _law(resin: ResinSystem, catalyst_pct: float | None, room_c: float) -> GelLaw:
    return catalyst_label(known(resin.catalyst)).law(room_c, known(catalyst_pct))


def _cure(
    resin: ResinSystem, hardener: Hardener | None, catalyst_pct: float | None, trial: PotTrial
) -> tuple[Cure, float]:
    """The cure, and the life of this pot in a cup, min."""
    if hardener is None:
        law, catalyst_pct = _law(resin, catalyst_pct, trial.room_c), known(catalyst_pct)
        return catalysed_cure(law, catalyst_pct), law.gel_min(trial.room_c, catalyst_pct)
    label = hardener_label(hardener)
    if label.heat.cure is None:
        raise OutOfRange(
            f"the heat model has no data for a pot that lives {label.heat.stated.minutes:g} min: trust the sheet alone"
        )
    wanted = label.gel_min(trial.mass_g, trial.room_c, trial.cup_mm)
    return _paced(label.heat.cure, cup(trial.mass_g, trial.cup_mm), trial.room_c, wanted), wanted


def _paced(cure: TwoPartCure, body: Body, room_c: float, wanted_min: float) -> TwoPartCure:
    found = root_scalar(
        lambda ln_a: log(gel_min(body, replace(cure, ln_a=ln_a), room_c) / wanted_min),
        x0=cure.ln_a,
        x1=cure.ln_a + 0.05,
        method="secant",
        xtol=1e-4,
    )
    return replace(cure, ln_a=float(found.root)) if found.converged else cure


def _body(trial: PotTrial, cast_in: Body | None) -> tuple[Body, float | None]:
    if trial.vessel == "cup":
        return cup(trial.mass_g, trial.cup_mm), None
    if trial.vessel == "spread on the work":
        return film(trial.spread_mm / 1000, _PLYWOOD), trial.spread_mm
    if trial.vessel == "casting":
        return known(cast_in, "nothing is known of what it is cast in"), trial.casting_mm
    depth_m = trial.mass_g / DENSITY_G_PER_CM3 * 1e-6 / trial.tray_m2
    return tray(depth_m, trial.pack_c if trial.vessel == "tray on a cool pack" else None), depth_m * 1000


def _followed(body: Body, cure: Cure, trial: PotTrial) -> History:
    if trial.poured_out_min is None:
        return simulate(body, cure, trial.room_c, start_c=trial.start_c, until="peak")
    first = simulate(body, cure, trial.room_c, start_c=trial.start_c, until="time", most_min=trial.poured_out_min)
    if first.gel_min is not None:
        raise OutOfRange(f"it has gelled after {first.gel_min:.0f} min, before it is poured out", "poured_out_min")
    state = (first.cured[-1],) if cure.states == 1 else (first.progress[-1], first.cured[-1])
    thin = tray(POURED_OUT_MM / 1000)
    rest = simulate(thin, cure, trial.room_c, start_c=float(first.mean_c[-1]), start_state=state, until="peak")

    def joined(name: str) -> np.ndarray:
        """A series of both, one after the other."""
        return np.concatenate([getattr(first, name), getattr(rest, name)[1:]])

    return History(
        minutes=np.concatenate([first.minutes, rest.minutes[1:] + trial.poured_out_min]),
        centre_c=joined("centre_c"),
        surface_c=joined("surface_c"),
        mean_c=joined("mean_c"),
        cured=joined("cured"),
        progress=joined("progress"),
        gel_min=None if rest.gel_min is None else trial.poured_out_min + rest.gel_min,
    )


def _thinned(run: History) -> list[int]:
    """Places of a run worth drawing: even along its curves, so that a steep rise keeps its shape."""
    span = max(float(np.ptp(run.centre_c)), 1.0)
    end = min(len(run.minutes), int(np.searchsorted(run.minutes, 1.6 * max(run.peak_min, run.gel_min or 0))) + 1)
    curves = (run.minutes / run.minutes[end - 1], run.centre_c / span, run.surface_c / span)
    steps = np.linalg.norm([np.diff(curve[:end]) for curve in curves], axis=0)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    places = np.searchsorted(along, np.linspace(0, along[-1], MOST_POINTS))
    return sorted({int(min(place, end - 1)) for place in places})


def _marks(run: History, trial: PotTrial, scales: Scales) -> Iterator[LabMark]:
    """When the surface passes what a builder must act on (memory), while it stands in its first vessel or after."""
    spent = 0.5 * run.gel_min if run.gel_min else None
    if spent is not None:
        yield _mark(run, spent, "half of its life is gone")
    hot_c = min(_HOT_SURFACE_C, trial.room_c + _OVER_ROOM_K)
    if trial.poured_out_min is not None:
        yield _mark(run, trial.poured_out_min, scales.said(f"poured out {{{POURED_OUT_MM:g} mm}} thin"))
    for level, words in (
        (hot_c, "use it, or pour it out {3 mm} thin, now"),
        (max(hot_c, _NO_POURING_C), "no more pouring"),
        (max(hot_c, _GET_CLEAR_C), _CLEAR),
    ):
        minute = _passes(run, level)
        if minute is None or (level == hot_c and trial.poured_out_min is not None and minute > trial.poured_out_min):
            continue
        # What is cast is not poured again.
        if trial.vessel == "casting" and words != _CLEAR:
            continue
        yield _mark(run, minute, scales.said(words))
    if run.gel_min:
        yield _mark(run, run.gel_min, "gelled")


def _mark(run: History, minute: float, words: str) -> LabMark:
    return LabMark(minute=minute, surface_c=float(np.interp(minute, run.minutes, run.surface_c)), words=words)


def _passes(run: History, level_c: float) -> float | None:
    over = np.flatnonzero(run.surface_c >= level_c)
    if not len(over):
        return None
    at = int(over[0])
    if at == 0:
        return 0.0
    low, high = run.surface_c[at - 1], run.surface_c[at]
    share = (level_c - low) / (high - low)
    return float(run.minutes[at - 1] + share * (run.minutes[at] - run.minutes[at - 1]))


def _too_much(trial: PotTrial, scales: Scales, cup_ml: float | None) -> str:
    """A word for a pot that its vessel does not hold, or holds too full to mix."""
    if cup_ml is None or trial.mass_g / DENSITY_G_PER_CM3 <= MOST_VESSEL_FILL * cup_ml:
        return ""
    full = scales.mass(MOST_VESSEL_FILL * cup_ml * DENSITY_G_PER_CM3)
    return f". Your {scales.words('volume', cup_ml)} cup mixes {full} at most: split it, or take a pail"


def _words(trial: PotTrial, life: float, gain: float, run: History, scales: Scales) -> str:
    """What the trial teaches, in a sentence."""
    if trial.poured_out_min is not None:
        held = (
            "and it stays cool"
            if run.peak_c < 60
            else f"and it still comes to {peak_words(run.peak_c, scales)}: pour it out sooner"
        )
        return f"poured out after {trial.poured_out_min:.0f} min it gels at {life:.0f}, {held}"
    if trial.vessel == "cup":
        return f"left in its cup it gels after {life:.0f} min"
    if trial.vessel == "casting":
        return f"cast, it gels after {life:.0f} min and comes to {peak_words(run.peak_c, scales)}"
    if gain - 1 < LEAST_TRAY_GAIN:
        return f"no gain over the cup worth the trouble: {life:.0f} min"
    return f"{100 * (gain - 1):.0f} % longer than in the cup: {life:.0f} min"
