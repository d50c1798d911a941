"""The run sheet drawn: one day of it as plain shapes, painted as SVG or on paper, black on white."""

from collections.abc import Callable, Iterator, Sequence
from datetime import timedelta
from zoneinfo import ZoneInfo

from layup.customs import Customs
from layup.day.day_list import clock_words, moment
from layup.day.outcome import RunSheet, SheetLane, SheetLayer, SheetPot
from layup.errors import known
from layup.outcome import Plan
from layup.paper.face import BOLD, PLAIN, width_of, wrapped
from layup.paper.shapes import Picture, Shape, moved, svg_of
from layup.scales import Scales

LEFT, RIGHT = 150.0, 16.0
ROW, POT_TALL, GAP = 40.0, 30.0, 10.0
_MOST_HOURS = 26.0
_TICKS_MIN = (5, 10, 15, 30, 60, 120, 180, 360)

_POT_SIZE, _BAR_SIZE, _NAME_SIZE, _UNDER_SIZE = 7.5, 8.5, 9.0, 8.0
_MOST_TOLD = 14
_WAIT, _BUSY, _LAID = "#ffffff", "#ededed", "#e0e0e0"
# Where a minute of the day is drawn.
Across = Callable[[float], float]


def days_of(sheet: RunSheet, zone: ZoneInfo) -> list[tuple[float, float]]:
    """The stretches of a run sheet that are drawn, one for each day on which something is laid, min from the start."""
    by_day: dict[str, list[float]] = {}
    for pot in sheet.pots:
        minute = pot.weigh_min
        key = str((sheet.start_at + timedelta(minutes=minute)).astimezone(zone).date()) if sheet.start_at else "0"
        by_day.setdefault(key, []).extend((minute, pot.kick_min))
    stretches = [(min(of) - 15, max(of) + 60) for of in by_day.values()]
    return [(begin, min(end, begin + _MOST_HOURS * 60)) for begin, end in stretches]


def day_words(sheet: RunSheet, begin: float, zone: ZoneInfo, customs: Customs) -> str:
    """The day that a stretch is of; nothing for a plan without a date."""
    at = moment(sheet, begin, zone)
    return customs.weekday(at, whole=True) if at else ""


def day_drawn(plan: Plan, zone: ZoneInfo, begin: float, end: float, wide: float, scales: Scales) -> Picture:
    """One stretch of a plan's run sheet, drawn so wide."""
    sheet = known(plan.run_sheet)
    scale = (wide - LEFT - RIGHT) / (end - begin)

    def x(minute: float) -> float:
        return LEFT + (min(max(minute, begin), end) - begin) * scale

    shapes = list(_ticks(sheet, zone, scales.customs, begin, end, x))
    y = 34.0
    shapes.append(Shape("text", (0, y + 16), "Hands", bold=True))
    for busy in sheet.busy:
        if busy.to_min > begin and busy.from_min < end:
            shapes += _bar(x(busy.from_min), x(busy.to_min), y, 22, (busy.words,), _WAIT if busy.waits else _BUSY)
    y += ROW
    shapes.append(Shape("text", (0, y + 16), "Pots", bold=True))
    # Where there are many, the list beneath says how large each is.
    few = sum(begin <= pot.weigh_min <= end for pot in sheet.pots) <= _MOST_TOLD
    kinds = {pot.id: pot for pot in plan.pots}
    words = {
        pot.number: f"{pot.number}: {plan.pot_words(kinds[pot.about], scales)}" if few else f"{pot.number}"
        for pot in sheet.pots
    }
    rows = _pot_rows(sheet, begin, end, lambda pot: (width_of(words[pot.number], PLAIN, _POT_SIZE) + 8) / scale)
    for row, pots in enumerate(rows):
        for pot in pots:
            shapes += _pot(pot, x, y + row * (POT_TALL + GAP), words[pot.number])
    y += max(1, len(rows)) * (POT_TALL + GAP) + 8
    for lane in sheet.lanes:
        layers = [layer for layer in sheet.layers if layer.lane == lane.id]
        if not any(layer.from_min < end and layer.closes_min > begin for layer in layers):
            continue
        names, tall = _lane_names(lane, y)
        shapes += names
        for layer in layers:
            if layer.watched and layer.closes_min > begin and layer.opens_min < end:
                shapes += _window(x(max(layer.opens_min, layer.to_min)), x(layer.closes_min), y)
        for layer in layers:
            if layer.to_min > begin and layer.from_min < end:
                shapes += _bar(x(layer.from_min), x(layer.to_min), y, 26, _layer_said(layer), _LAID)
        y += max(ROW, tall)
    shapes.append(Shape("line", (LEFT, y, wide - RIGHT, y), colour="#999999"))
    y += 14
    shapes.append(Shape("text", (0, y), f"Room, {scales.unit('temperature', 0)}", bold=True))
    shapes += _room(sheet, x, begin, end, y, scales)
    return Picture(
        tuple(shapes), wide, y + 10, f"{day_words(sheet, begin, zone, scales.customs)} {sheet.sentence}".strip()
    )


def _ticks(sheet: RunSheet, zone: ZoneInfo, customs: Customs, begin: float, end: float, x: Across) -> Iterator[Shape]:
    step = next((tick for tick in _TICKS_MIN if (end - begin) / tick <= 11), 720)
    local = sheet.start_minute_of_day
    minute = -((local + begin) // -step) * step - local
    while minute <= end:
        words = clock_words(sheet, minute, zone, customs)
        yield Shape("text", (x(minute), 12), words, size=9, bold=True, anchor="middle")
        yield Shape("line", (x(minute), 18, x(minute), 26), colour="#4c4c4c")
        minute += step


def _layer_said(layer: SheetLayer) -> tuple[str, ...]:
    """What a layer is called, from long to short: words that do not fit are on the list beneath."""
    if layer.bay > 0:
        return f"bay {layer.bay}: {layer.short}", f"bay {layer.bay}"
    return layer.words, "".join(letter for letter in layer.words.partition(",")[0] if letter.isdigit())


def _bar(left: float, right: float, y: float, tall: float, words: Sequence[str], colour: str) -> list[Shape]:
    """A bar with the first of its words that it has room for."""
    room = right - left
    said = next((each for each in words if each and width_of(each, PLAIN, _BAR_SIZE) <= room - 6), "")
    return [
        Shape("box", (left, y, max(right - left, 1), tall), colour=colour),
        *([Shape("text", (left + 4, y + tall / 2 + 3), said, size=_BAR_SIZE)] if said else []),
    ]


def _pot_rows(
    sheet: RunSheet, begin: float, end: float, words_min: Callable[[SheetPot], float]
) -> list[list[SheetPot]]:
    """Pots over as few rows as keep one off the other, each until it kicks and its words, so many minutes long, end."""

    def free_from(pot: SheetPot) -> float:
        return max(pot.kick_min + 1, pot.used_min + words_min(pot))

    rows: list[list[SheetPot]] = []
    for pot in sheet.pots:
        if pot.kick_min < begin or pot.weigh_min > end:
            continue
        free = next((row for row in rows if free_from(row[-1]) <= pot.touch_min), None)
        if free is None:
            rows.append([pot])
        else:
            free.append(pot)
    return rows


def _pot(pot: SheetPot, x: Across, y: float, words: str) -> Iterator[Shape]:
    foot = y + POT_TALL
    left, on, used, kick = x(pot.touch_min), x(pot.on_from_min), x(pot.used_min), x(pot.kick_min)
    yield Shape("fill", (left, foot, left, y, on, y, used, foot - 4, used, foot), colour="#cccccc")
    yield Shape("line", (used, foot - 1, kick, foot - 1), dashed=True)
    yield Shape("line", (kick, foot - 8, kick, foot + 3))
    yield Shape("text", (used + 2, y + 9), words, size=_POT_SIZE)


def _window(left: float, right: float, y: float) -> Iterator[Shape]:
    if right - left < 1:
        return
    yield Shape("line", (left, y + 13, right, y + 13), colour="#808080", dashed=True)
    yield Shape("line", (right, y + 4, right, y + 22), colour="#4c4c4c")


def _room(sheet: RunSheet, x: Across, begin: float, end: float, y: float, scales: Scales) -> Iterator[Shape]:
    for minute, room_c in zip(sheet.room_min, sheet.room_c, strict=True):
        if len(sheet.room_min) == 1:
            yield Shape("text", (LEFT, y), f"{scales.temperature(room_c)}, {sheet.room_words}")
        elif begin <= minute <= end and (minute + sheet.start_minute_of_day) % 60 < 30:
            yield Shape("text", (x(minute), y), scales.whole_degrees(room_c), anchor="middle")


def _lane_names(lane: SheetLane, y: float) -> tuple[list[Shape], float]:
    """What a lane is called, whole, over as many rows as that takes, and how tall they stand."""
    room, down, shapes = LEFT - 6, y, []
    for words, size, bold in ((lane.name, _NAME_SIZE, True), (lane.under, _UNDER_SIZE, False)):
        for row in wrapped(words, BOLD if bold else PLAIN, size, room):
            down += 12
            shapes.append(Shape("text", (0, down), row, size=size, bold=bold))
    return shapes, down - y + 10


def run_sheet_svg(job_name: str, plan: Plan, zone: ZoneInfo, scales: Scales, wide: float = 1100.0) -> str:
    """The run sheet as an SVG document, its days one beneath the other."""
    sheet = known(plan.run_sheet)
    shapes = [Shape("text", (10, 22), f"{job_name}: {sheet.sentence}", size=15, bold=True)]
    y = 34.0
    for begin, end in days_of(sheet, zone):
        day = day_drawn(plan, zone, begin, end, wide, scales)
        shapes += [
            Shape("text", (10, y + 18), day_words(sheet, begin, zone, scales.customs), size=11),
            *moved(day.shapes, 10, y + 24),
        ]
        y += day.tall + 50
    return svg_of(Picture(tuple(shapes), wide + 20, y + 10, sheet.sentence))
