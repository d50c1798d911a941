"""The room through one day: its expected temperature, what that does to the dew margin, and the good hours in it."""

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from layup.chemistry.catalyst import DEFAULT_WANTED_GEL_MIN, choose_dose
from layup.chemistry.hardeners import asked_for, fast_to_slow
from layup.customs import UNSAID, Customs
from layup.day.dew import LEAST_MARGIN_C, dew_point_c, humidity_pct_at
from layup.job import Conditions
from layup.materials import ResinSystem
from layup.scales import METRIC, Scales
from layup.shop_facts import RoomDay

# Share of the day's range by which each hour, from midnight, is cooler than the warmest (memory, after the hourly
# fractions for outdoor air in the ASHRAE Handbook of Fundamentals; a heated room does not follow it).
HOURLY_FRACTION = (
    *(0.82, 0.88, 0.92, 0.95, 0.98, 1.00, 0.98, 0.91, 0.74, 0.55, 0.38, 0.23),
    *(0.13, 0.05, 0.00, 0.00, 0.06, 0.14, 0.24, 0.39, 0.50, 0.59, 0.68, 0.75),
)
# How long a reading that differs from the expected curve still bends it (memory).
READING_FADES_H = 6.0
STEP_H = 0.5


@dataclass(frozen=True)
class Moment:
    """The room at an hour of the day. The margin is how far the surface is over the dew point, where humidity is known."""

    hour: float
    room_c: float
    surface_c: float
    dew_margin_c: float | None


@dataclass(frozen=True)
class GoodSpan:
    """Hours in which a resin may be laid, and with what."""

    from_h: float
    to_h: float
    what: str


@dataclass(frozen=True)
class ResinHours:
    """One resin's good hours, and where there are none, what stands in the way most of the day."""

    resin_id: str
    resin_name: str
    spans: tuple[GoodSpan, ...]
    otherwise: str


def expected_c(day: RoomDay, hour: float) -> float:
    """The temperature expected at an hour, °C, between the day's coldest and warmest.

    >>> expected_c(RoomDay(coldest_c=12, warmest_c=20), 5), expected_c(RoomDay(coldest_c=12, warmest_c=20), 14.5)
    (12.0, 20.0)
    """
    at = int(hour) % 24
    before, after = HOURLY_FRACTION[at], HOURLY_FRACTION[(at + 1) % 24]
    fraction = before + (after - before) * (hour - int(hour))
    return day.warmest_c - fraction * (day.warmest_c - day.coldest_c)


def moved_to(conditions: Conditions, room_c: float) -> Conditions:
    """The same air and work in a warmer or cooler room: the surface moves along, the water in the air stays.

    >>> moved = moved_to(Conditions(room_c=20, surface_c=18, humidity_pct=60), 26)
    >>> moved.surface_c, moved.humidity_pct
    (24.0, 41.7)
    """
    change: dict[str, float] = {"room_c": room_c}
    if conditions.surface_c is not None:
        change["surface_c"] = round(conditions.surface_c + room_c - conditions.room_c, 2)
    if conditions.humidity_pct is not None:
        dew_c = dew_point_c(conditions.room_c, conditions.humidity_pct)
        change["humidity_pct"] = round(max(1.0, humidity_pct_at(room_c, dew_c)), 1)
    return Conditions.model_validate(conditions.model_dump() | change)


def room_through(
    conditions: Conditions,
    read_at_h: float | None,
    day: RoomDay | None,
    room_at: Callable[[float], float] | None = None,
) -> tuple[Moment, ...]:
    """The room from midnight to midnight, half-hourly.

    Without a day's range it stays as read. A reading made today bends the curve to itself, less with every hour.
    `room_at` gives the room of an hour where it is known better, by a forecast.
    """
    off = conditions.room_c - expected_c(day, read_at_h) if day and read_at_h is not None else 0.0
    surface_off = 0.0 if conditions.surface_c is None else conditions.surface_c - conditions.room_c
    dew_c = None if conditions.humidity_pct is None else dew_point_c(conditions.room_c, conditions.humidity_pct)
    moments = []
    for step in range(int(24 / STEP_H) + 1):
        hour = step * STEP_H
        room_c = conditions.room_c
        if day:
            fade = max(0.0, 1 - abs(hour - read_at_h) / READING_FADES_H) if read_at_h is not None else 0.0
            room_c = expected_c(day, hour) + off * fade
        if room_at:
            room_c = room_at(hour)
        surface_c = room_c + surface_off
        margin = None if dew_c is None else surface_c - min(dew_c, room_c)
        moments.append(Moment(hour, room_c, surface_c, margin))
    return tuple(moments)


_NO_DOSE = {
    "least": "too warm, even the least catalyst gels too soon",
    "most": "too cold, even the most catalyst gels too late",
}


def good_hours(
    resin: ResinSystem, moments: Sequence[Moment], wanted_gel_min: float | None = None, scales: Scales = METRIC
) -> ResinHours:
    """When a resin may be laid: a hardener in its band (or a dose inside the limits that gels in the wanted time),
    the surface at least 3 °C over the dew point, air and surface over the resin's minimum. Common practice.
    """
    judge = _judge(resin, wanted_gel_min or DEFAULT_WANTED_GEL_MIN, scales)
    verdicts = [(moment.hour, *judge(moment)) for moment in moments]
    spans = tuple(_spans(verdicts))
    refusals = Counter(why for _, what, why in verdicts if not what)
    return ResinHours(resin.id, resin.name, spans, refusals.most_common(1)[0][0] if refusals else "")


def in_words(hours: ResinHours, now_h: float, customs: Customs = UNSAID) -> str:
    """What the rest of the day holds for a resin.

    >>> spans = (GoodSpan(6, 11, "medium"), GoodSpan(11, 18.5, "slow"))
    >>> in_words(ResinHours("e", "Epoxy", spans, ""), 9), in_words(ResinHours("e", "Epoxy", spans, "too cold"), 20)
    ('good now with medium, from 11:00 with slow', 'no good hour left today: too cold')
    """
    left = [span for span in hours.spans if span.to_h > now_h]
    if not left:
        return f"no good hour {'left ' if hours.spans else ''}today" + (
            f": {hours.otherwise}" if hours.otherwise else ""
        )
    first, *later = left
    said = (
        f"good now with {first.what}"
        if first.from_h <= now_h
        else f"good from {customs.hour(first.from_h)} with {first.what}"
    )
    if later and later[0].from_h == first.to_h:
        return f"{said}, from {customs.hour(later[0].from_h)} with {later[0].what}"
    return said if first.to_h >= 24 else f"{said}, until {customs.hour(first.to_h)}"


def _spans(verdicts: Sequence[tuple[float, str, str]]) -> Iterator[GoodSpan]:
    for what, run in groupby(verdicts, key=lambda verdict: verdict[1]):
        hours = [hour for hour, _, _ in run]
        if what and hours[0] < 24:
            yield GoodSpan(hours[0], min(24.0, hours[-1] + STEP_H), what)


def _judge(resin: ResinSystem, wanted_min: float, scales: Scales) -> Callable[[Moment], tuple[str, str]]:
    """A function from a moment to what it may be laid with, or nothing and why not."""
    ordered = fast_to_slow(resin.hardeners)

    def judge(moment: Moment) -> tuple[str, str]:
        """What a moment may be laid with, or why not."""
        if moment.dew_margin_c is not None and moment.dew_margin_c < LEAST_MARGIN_C:
            return "", f"surface within {scales.words('temperature_difference', LEAST_MARGIN_C)} of the dew point"
        coldest = min(moment.room_c, moment.surface_c)
        if coldest < resin.comfort_minimum_c:
            return "", f"under {scales.temperature(resin.comfort_minimum_c)}"
        if moment.room_c > resin.maximum_c:
            return "", f"over {scales.temperature(resin.maximum_c)}"
        if resin.one_part:
            return resin.name, ""
        if resin.catalyst:
            dose = choose_dose(resin.catalyst, moment.room_c, wanted_min)
            return ("a dose in its limits", "") if not dose.limit else ("", _NO_DOSE[dose.limit])
        asked = asked_for(ordered, moment.room_c)
        if asked is None or asked.place == "over the highest band":
            return "", "no hardener for it"
        return ordered[asked.positions[-1]].name, ""

    return judge
