"""Which hardener of the family: by the band of room temperature, or one step slower, with why the others lost."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from layup.chemistry.cure import CureClocks, two_part_clocks
from layup.chemistry.gel import stated_pot_life_at_min
from layup.errors import OutOfRange
from layup.heat.pot_heat import HeatOf, full_heat
from layup.job import School
from layup.materials import Hardener
from layup.scales import METRIC, Scales
from layup.units import convert
from layup.words import counted, with_article

Place = Literal["in its band", "at the edge", "nearest band", "over the highest band"]
_EDGE_C = 0.05
# So near an edge of its band the neighbour is a choice as good, and is told (memory).
_NEAR_EDGE_C = 1.0


@dataclass(frozen=True)
class AskedFor:
    """What the temperature asks for: positions, fast to slow, of the hardeners whose bands hold it, and how."""

    positions: tuple[int, ...]
    place: Place


@dataclass(frozen=True)
class HardenerRow:
    """One hardener weighed up. `steps_off` is how many steps slower (+) or faster (−) than the temperature asks."""

    hardener: Hardener
    band_c: tuple[float, float]
    steps_off: int
    stated_pot_life_min: float
    clocks: CureClocks
    chosen: bool
    reason: str


@dataclass(frozen=True)
class HardenerVerdict:
    """The hardener to use for a room, or none where that is under the family's lowest band."""

    chosen: HardenerRow | None
    rows: tuple[HardenerRow, ...]
    sentence: str
    reason: str
    room_c: float


def band_c(hardener: Hardener) -> tuple[float, float]:
    """A hardener's band of room temperature, °C."""
    return convert(hardener.band_low_f, "°F", "°C"), convert(hardener.band_high_f, "°F", "°C")


def fast_to_slow(hardeners: Sequence[Hardener]) -> list[Hardener]:
    """Hardeners in the order of their bands: the coldest band belongs to the fastest."""
    return sorted(hardeners, key=lambda hardener: (hardener.band_low_f, hardener.band_high_f))


def asked_for(ordered: Sequence[Hardener], temperature_c: float) -> AskedFor | None:
    """Which of the ordered hardeners the temperature asks for; None under the lowest band, where nothing is defined.

    In a gap between two bands the nearer edge wins, and at equal distance the faster, which is sure to set.
    """
    bands = [band_c(hardener) for hardener in ordered]
    if temperature_c < bands[0][0] - _EDGE_C:
        return None
    held = tuple(i for i, (low, high) in enumerate(bands) if low - _EDGE_C <= temperature_c <= high + _EDGE_C)
    if held:
        return AskedFor(held, "at the edge" if len(held) > 1 else "in its band")
    if temperature_c > max(high for _, high in bands):
        return AskedFor((len(ordered) - 1,), "over the highest band")
    distance = [min(abs(temperature_c - low), abs(temperature_c - high)) for low, high in bands]
    return AskedFor((distance.index(min(distance)),), "nearest band")


def steps_off(position: int, asked: AskedFor) -> int:
    """Steps from what is asked for, slower counted positive."""
    if position > asked.positions[-1]:
        return position - asked.positions[-1]
    return min(0, position - asked.positions[0])


def choose_hardener(
    hardeners: Sequence[Hardener],
    temperature_c: float,
    school: School = "band",
    deadline_h: float | None = None,
    pinned_id: str | None = None,
    scales: Scales = METRIC,
    heat_of: HeatOf = full_heat,
) -> HardenerVerdict:
    """Recommend a hardener for a room temperature, °C, and say why each of the others was passed over.

    The school "one step slower" is followed only where the part can still be sanded by `deadline_h`; two steps never.
    `pinned_id` is the builder's own choice and is kept, with what it costs. Bands: common practice; cure: memory.

    >>> from layup.library import generic
    >>> verdict = choose_hardener(generic().resins[0].hardeners, 23)
    >>> verdict.chosen.hardener.name, verdict.reason
    ('slow', 'its band of 21.1 to 26.7 °C holds 23 °C')
    >>> choose_hardener(generic().resins[0].hardeners, 21.5).reason.partition(". ")[2]
    'Near the edge, 21.1 °C: medium would give 17 min of a 100 g pot in place of 34, and sand after 10 h in place of 20'
    """
    ordered = fast_to_slow(hardeners)
    asked = asked_for(ordered, temperature_c)
    if pinned_id and all(hardener.id != pinned_id for hardener in ordered):
        raise OutOfRange("this hardener does not belong to this resin: never cross families", "hardener_id")
    if asked is None:
        lowest = scales.temperature(band_c(ordered[0])[0])
        sentence = f"No hardener for {scales.temperature(temperature_c)}: warm up to {lowest}"
        reason = f"no hardener of this family is made for less than {lowest}: warm the room, or take another resin"
        rows = [_row(hardener, temperature_c, i + 1, False, reason, heat_of) for i, hardener in enumerate(ordered)]
        return HardenerVerdict(None, tuple(rows), sentence, reason, temperature_c)

    recommended, why = _recommend(ordered, asked, temperature_c, school, deadline_h, scales, heat_of)
    position = recommended
    if pinned_id:
        position = next(i for i, hardener in enumerate(ordered) if hardener.id == pinned_id)
        if position != recommended:
            why = f"your choice; the plan would take {ordered[recommended].name}: {why}"
    rows = []
    for i, hardener in enumerate(ordered):
        off = steps_off(i, asked)
        reason = (
            why if i == position else _passed_over(hardener, off, asked, i, temperature_c, deadline_h, heat_of, scales)
        )
        rows.append(_row(hardener, temperature_c, off, i == position, reason, heat_of))
    chosen = rows[position]
    sentence = f"{chosen.hardener.name.capitalize()} hardener at {scales.temperature(temperature_c)}"
    why += _neighbours(rows, position, temperature_c, scales)
    return HardenerVerdict(replace(chosen, reason=why), tuple(rows), sentence, why, temperature_c)


def _neighbours(rows: Sequence[HardenerRow], position: int, temperature_c: float, scales: Scales) -> str:
    """Near an end of its band, what the hardener on the other side of it would give in place of the chosen one."""
    low, high = rows[position].band_c
    for at, edge_c in ((position - 1, low), (position + 1, high)):
        if not 0 <= at < len(rows) or abs(temperature_c - edge_c) > _NEAR_EDGE_C:
            continue
        other, chosen = rows[at], rows[position]
        mass = f"{{{other.hardener.pot_life_mass_g:g} g}}"
        return (
            f". Near the edge, {scales.temperature(edge_c)}: {other.hardener.name} would give "
            f"{other.stated_pot_life_min:.0f} min of {with_article(scales.said(mass))} pot in place of "
            f"{chosen.stated_pot_life_min:.0f}, and sand after {other.clocks.sandable_min / 60:.0f} h in place of "
            f"{chosen.clocks.sandable_min / 60:.0f}"
        )
    return ""


def with_blend(
    verdict: HardenerVerdict,
    blend: Hardener,
    share: float,
    first_id: str,
    second_id: str,
    temperature_c: float,
    heat_of: HeatOf,
) -> HardenerVerdict:
    """A verdict in which a blend of two of its rows is taken, and stands between them; the rest are as they were."""
    off = {row.hardener.id: row.steps_off for row in verdict.rows}
    steps = round((1 - share) * off[first_id] + share * off[second_id])
    reason = "your blend: rates add by share. Mix a test cup before you trust it"
    row = _row(blend, temperature_c, steps, True, reason, heat_of)
    rows = [
        replace(other, chosen=False, reason=f"the plan would take it: {other.reason}" if other.chosen else other.reason)
        for other in verdict.rows
    ]
    rows.append(row)
    rows.sort(key=lambda each: (each.band_c, each.chosen))
    return HardenerVerdict(row, tuple(rows), verdict.sentence, reason, verdict.room_c)


def _row(hardener: Hardener, temperature_c: float, off: int, chosen: bool, reason: str, heat_of: HeatOf) -> HardenerRow:
    return HardenerRow(
        hardener,
        band_c(hardener),
        off,
        stated_pot_life_at_min(hardener, temperature_c, heat_of),
        two_part_clocks(hardener, temperature_c, heat_of),
        chosen,
        reason,
    )


def _recommend(
    ordered: Sequence[Hardener],
    asked: AskedFor,
    temperature_c: float,
    school: School,
    deadline_h: float | None,
    scales: Scales,
    heat_of: HeatOf,
) -> tuple[int, str]:
    position, why = _by_band(ordered, asked, temperature_c, scales)
    if school == "band" or position + 1 >= len(ordered) or asked.place == "over the highest band":
        return position, why
    slower = ordered[position + 1] if asked.place != "at the edge" else ordered[position]
    sandable_h = two_part_clocks(slower, temperature_c, heat_of).sandable_min / 60
    if deadline_h is not None and sandable_h > deadline_h:
        return (
            position,
            f"{why}; one step slower sands only after {sandable_h:.0f} h, and {scales.written(deadline_h)} h are given",
        )
    if asked.place == "at the edge":
        return position, f"one step slower than {ordered[asked.positions[0]].name}, and still at the edge of its band"
    sands = f"sands after {sandable_h:.0f} h"
    return position + 1, f"one step slower than the band, for more working time; {sands}"


def _by_band(ordered: Sequence[Hardener], asked: AskedFor, temperature_c: float, scales: Scales) -> tuple[int, str]:
    position = asked.positions[-1]
    low, high = band_c(ordered[position])
    at, band = scales.temperature(temperature_c), scales.temperatures(low, high)
    match asked.place:
        case "at the edge":
            both = " and ".join(ordered[i].name for i in asked.positions)
            return position, f"{both} both hold {at}; the slower gives more time and still sets"
        case "nearest band":
            return position, f"{at} falls between two bands; {band} is the nearer"
        case "over the highest band":
            return (
                position,
                f"the slowest there is; it is made for up to {scales.temperature(high)}, so at {at} pots must be smaller",
            )
    return position, f"its band of {band} holds {at}"


def _passed_over(
    hardener: Hardener,
    off: int,
    asked: AskedFor,
    position: int,
    temperature_c: float,
    deadline_h: float | None,
    heat_of: HeatOf,
    scales: Scales,
) -> str:
    sandable_h = two_part_clocks(hardener, temperature_c, heat_of).sandable_min / 60
    if off >= 2:
        return f"{off} steps slower: may not be set after a day"
    if deadline_h is not None and sandable_h > deadline_h:
        return f"sands only after {sandable_h:.0f} h, and {scales.written(deadline_h)} h are given"
    if off == 1:
        return f"one step slower: a choice for more time, sands after {sandable_h:.0f} h"
    if off == 0:
        if asked.place == "at the edge":
            return (
                "at the edge of its band as well; shorter working time"
                if position == asked.positions[0]
                else ("at the edge of its band as well; longer working time")
            )
        return "the one the temperature asks for"
    return f"{counted(-off, 'step')} faster: pots must be smaller" + (", and kick in the cup" if off <= -2 else "")
