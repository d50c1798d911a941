"""The gel chart: a line for each hardener or dose, the chosen one with its band and the label's own times."""

from math import exp

from layup.chemistry.catalyst import DoseVerdict
from layup.chemistry.ends import IN_THE_CUP
from layup.chemistry.gel import catalysed_gel_min, pot_life_min
from layup.chemistry.gel_fit import GelPoint
from layup.chemistry.hardeners import HardenerVerdict
from layup.chemistry.label import HardenerLabel, Label, catalyst_label, doublings, hardener_label
from layup.chemistry.one_part import cover_by_min, tack_min, usable_min
from layup.chemistry.outcome import GelChart, GelLine, LabelPoint
from layup.errors import known
from layup.heat.pot_heat import HeatOf, full_heat
from layup.materials import Catalyst, Hardener, OnePart, ResinSystem, StatedTime
from layup.scales import METRIC, Scales

CHART_C = tuple(float(t) for t in range(5, 38, 2))
Z_95 = 1.96


def gel_chart(
    resin: ResinSystem,
    hardener: HardenerVerdict | None,
    dose: DoseVerdict | None,
    room_c: float,
    mass_g: float | None,
    heat_of: HeatOf = full_heat,
    cup_mm: float | None = None,
    scales: Scales = METRIC,
) -> GelChart:
    """Lines over the room's temperatures. Two-part lives are of a pot of `mass_g` in a cup so wide, or of the stated pot.

    The chosen line carries the band in which 95 gels of 100 fall.
    """
    if resin.one_part:
        return _one_part(resin.one_part, room_c)
    if hardener is None:
        dose = known(dose)
        return _catalysed(dose.catalyst, dose, room_c, scales)
    return _two_part(resin, hardener, room_c, mass_g, heat_of, cup_mm if mass_g else None)


def _one_part(sets: OnePart, room_c: float) -> GelChart:
    lines = tuple(
        GelLine(
            name=name,
            minutes=tuple(minutes(sets, t) for t in CHART_C),
            band_low_c=None,
            band_high_c=None,
            chosen=minutes is usable_min,
        )
        for name, minutes in (("usable", usable_min), ("tacky", tack_min), ("cover by", cover_by_min))
    )
    stated = LabelPoint(temperature_c=sets.stated_temperature_c, minutes=sets.usable_min, far_off=False)
    return GelChart(
        temperatures_c=CHART_C,
        lines=lines,
        life_at_room_min=usable_min(sets, room_c),
        pot_g=None,
        points=(stated,),
    )


def _two_part(
    resin: ResinSystem,
    verdict: HardenerVerdict,
    room_c: float,
    mass_g: float | None,
    heat_of: HeatOf,
    cup_mm: float | None,
) -> GelChart:
    # Under the family's lowest band nothing is defined, so the lines begin there.
    coldest = min(row.band_c[0] for row in verdict.rows)
    temperatures = (coldest, *(t for t in CHART_C if t > coldest))

    lines = []
    for row in verdict.rows:
        label, pot_g = hardener_label(row.hardener, heat_of), mass_g or row.hardener.pot_life_mass_g
        minutes = tuple(label.gel_min(pot_g, t, cup_mm) for t in temperatures)
        band = _band(minutes, [label.sigma(t, pot_g) for t in temperatures]) if row.chosen else ((), ())
        lines.append(
            GelLine(
                name=row.hardener.name if row.hardener in resin.hardeners else "blend",
                minutes=minutes,
                band_low_c=row.band_c[0],
                band_high_c=row.band_c[1],
                chosen=row.chosen,
                low_min=band[0],
                high_min=band[1],
            )
        )
    chosen = verdict.chosen.hardener if verdict.chosen else None
    # A label's time is of the stated mass: on the line of this pot it stands where this pot would.
    return GelChart(
        temperatures_c=temperatures,
        lines=tuple(lines),
        life_at_room_min=_life(chosen, room_c, mass_g, heat_of, cup_mm) if chosen else None,
        pot_g=mass_g or verdict.rows[0].hardener.pot_life_mass_g,
        points=_hardener_points(hardener_label(chosen, heat_of), chosen, mass_g, cup_mm) if chosen else (),
    )


def _catalysed(catalyst: Catalyst, dose: DoseVerdict, room_c: float, scales: Scales) -> GelChart:
    label = catalyst_label(catalyst)
    doses = [catalyst.least_pct, catalyst.most_pct]
    doses += [dose.catalyst_pct] if all(abs(dose.catalyst_pct - known) > 1e-9 for known in doses) else []
    lines = []
    for pct in doses:
        chosen = abs(pct - dose.catalyst_pct) < 1e-9
        minutes = tuple(catalysed_gel_min(catalyst, t, pct) for t in CHART_C)
        band = _band(minutes, [label.sigma(t, pct) for t in CHART_C]) if chosen else ((), ())
        line = GelLine(
            name=f"{scales.written(pct, '.2g')} %",
            minutes=minutes,
            band_low_c=None,
            band_high_c=None,
            chosen=chosen,
            low_min=band[0],
            high_min=band[1],
        )
        lines.append(line)
    return GelChart(
        temperatures_c=CHART_C,
        lines=tuple(lines),
        life_at_room_min=catalysed_gel_min(catalyst, room_c, dose.catalyst_pct),
        pot_g=None,
        points=_catalyst_points(catalyst, dose.catalyst_pct),
    )


def _band(minutes: tuple[float, ...], sigmas: list[float]) -> tuple[tuple[float, ...], tuple[float, ...]]:
    pairs = list(zip(minutes, sigmas, strict=True))
    return tuple(t * exp(-Z_95 * sd) for t, sd in pairs), tuple(t * exp(Z_95 * sd) for t, sd in pairs)


def _life(hardener: Hardener, room_c: float, mass_g: float | None, heat_of: HeatOf, cup_mm: float | None) -> float:
    return pot_life_min(hardener, room_c, mass_g or hardener.pot_life_mass_g, heat_of, cup_mm)


def _hardener_points(
    label: HardenerLabel, hardener: Hardener, mass_g: float | None, cup_mm: float | None
) -> tuple[LabelPoint, ...]:
    """The label's times, each carried from its own pot to the pot of the line."""
    pot_g = mass_g or hardener.pot_life_mass_g
    stated = GelPoint(
        label.heat.stated.temperature_c, label.heat.stated_gel_min, expected_min=label.heat.stated_gel_min
    )
    factors = []
    for point in _told(label, stated):
        t = point.temperature_c
        heavier = label.kept_per_doubling(t) ** (doublings(pot_g, label.mass_g) - point.doublings)
        factors.append(label.heat.gel_min(pot_g, t, cup_mm) / point.expected_min * heavier)
    return _points(label, stated, hardener.stated_times, factors)


def _catalyst_points(catalyst: Catalyst, catalyst_pct: float) -> tuple[LabelPoint, ...]:
    """The label's times, each carried to the dose of the chosen line."""
    label = catalyst_label(catalyst)
    stated = GelPoint(catalyst.stated_temperature_c, catalyst.stated_gel_min, catalyst.stated_pct)
    n = catalyst.exponent_n if label.fit is None or label.fit.n is None else label.fit.n
    factors = [((point.catalyst_pct or catalyst.stated_pct) / catalyst_pct) ** n for point in _told(label, stated)]
    return _points(label, stated, catalyst.stated_times, factors)


def _told(label: Label, stated: GelPoint) -> tuple[GelPoint, ...]:
    return label.fit.points if label.fit else (stated,)


def _points(
    label: Label, stated: GelPoint, times: tuple[StatedTime, ...], factors: list[float]
) -> tuple[LabelPoint, ...]:
    odd = {found.place for found in label.fit.far_off} if label.fit else set()
    rows = [None, *(row for row, time in enumerate(times) if time.ends in IN_THE_CUP)]
    points = []
    for place, (point, factor) in enumerate(zip(_told(label, stated), factors, strict=True)):
        row = rows[place] if place < len(rows) and not point.shop else None
        points.append(
            LabelPoint(
                temperature_c=point.temperature_c,
                minutes=point.minutes * factor,
                far_off=place in odd,
                shop=point.shop,
                row=row,
                times_told=factor if row is None else factor * point.minutes / times[row].minutes,
            )
        )
    return tuple(points)
