"""The run sheet drawn: one day of it as plain shapes, painted as SVG or on paper, black on white."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import timedelta
from xml.sax.saxutils import escape
from zoneinfo import ZoneInfo

from layup.day.day_list import moment, time_words
from layup.day.outcome import RunSheet, SheetPot
from layup.outcome import Plan
from layup.scales import Scales

LEFT, RIGHT = 150.0, 16.0
ROW, POT_TALL, GAP = 40.0, 30.0, 10.0
_MOST_HOURS = 26.0
_TICKS_MIN = (5, 10, 15, 30, 60, 120, 180, 360)

# How wide a letter is at the sizes that pots and bars are written in, points.
_POT_LETTER, _BAR_LETTER = 4.0, 4.6
_MOST_TOLD = 14


@dataclass(frozen=True)
class Shape:
    """A line, a filled outline or a word, in points from the top left. `grey` is 0 black to 1 white."""

    kind: str
    points: tuple[float, ...] = ()
    text: str = ""
    grey: float = 0.0
    size: float = 9.0
    bold: bool = False
    dashed: bool = False
    anchor: str = "start"


def days_of(sheet: RunSheet, zone: ZoneInfo) -> list[tuple[float, float]]:
    """The stretches of a run sheet that are drawn, one for each day on which something is laid, min from the start."""
    by_day: dict[str, list[float]] = {}
    for pot in sheet.pots:
        minute = pot.weigh_min
        key = str((sheet.start_at + timedelta(minutes=minute)).astimezone(zone).date()) if sheet.start_at else "0"
        by_day.setdefault(key, []).extend((minute, pot.kick_min))
    stretches = [(min(of) - 15, max(of) + 60) for of in by_day.values()]
    return [(begin, min(end, begin + _MOST_HOURS * 60)) for begin, end in stretches]


def day_words(sheet: RunSheet, begin: float, zone: ZoneInfo) -> str:
    """The day that a stretch is of; nothing for a plan without a date."""
    at = moment(sheet, begin, zone)
    return f"{at:%A} {at.day} {at:%B}" if at else ""


def drawn(
    plan: Plan, zone: ZoneInfo, begin: float, end: float, wide: float, scales: Scales
) -> tuple[list[Shape], float]:
    """One stretch of a plan's run sheet as shapes, and how tall they stand."""
    sheet = plan.run_sheet
    scale = (wide - LEFT - RIGHT) / (end - begin)

    def x(minute: float) -> float:
        return LEFT + (min(max(minute, begin), end) - begin) * scale

    shapes = list(_ticks(sheet, zone, begin, end, x))
    y = 34.0
    shapes.append(Shape("text", (0, y + 16), "Hands", bold=True))
    for busy in sheet.busy:
        if busy.to_min > begin and busy.from_min < end:
            shapes += _bar(x(busy.from_min), x(busy.to_min), y, 22, busy.words, 1.0 if busy.waits else 0.93)
    y += ROW
    shapes.append(Shape("text", (0, y + 16), "Pots", bold=True))
    # Where there are many, the list beneath says how large each is.
    few = sum(begin <= pot.weigh_min <= end for pot in sheet.pots) <= _MOST_TOLD
    words = {
        pot.number: f"{pot.number}: {plan.pot_words(pot.mass_g, scales)}" if few else f"{pot.number}"
        for pot in sheet.pots
    }
    rows = _pot_rows(sheet, begin, end, lambda pot: _POT_LETTER * (len(words[pot.number]) + 2) / scale)
    for row, pots in enumerate(rows):
        for pot in pots:
            shapes += _pot(pot, x, y + row * (POT_TALL + GAP), words[pot.number])
    y += max(1, len(rows)) * (POT_TALL + GAP) + 8
    for lane in sheet.lanes:
        layers = [layer for layer in sheet.layers if layer.lane == lane.id]
        if not any(layer.from_min < end and layer.closes_min > begin for layer in layers):
            continue
        shapes.append(Shape("text", (0, y + 12), _fitted(lane.name, 26), bold=True))
        shapes.append(Shape("text", (0, y + 24), lane.under, size=8))
        for layer in layers:
            if layer.closes_min > begin and layer.opens_min < end:
                shapes += _window(x(max(layer.opens_min, layer.to_min)), x(layer.closes_min), y)
        for layer in layers:
            if layer.to_min > begin and layer.from_min < end:
                shapes += _bar(x(layer.from_min), x(layer.to_min), y, 26, layer.words, 0.88)
        y += ROW
    shapes.append(Shape("line", (LEFT, y, wide - RIGHT, y), grey=0.6))
    y += 14
    shapes.append(Shape("text", (0, y), f"Room, {scales.unit('temperature', 0)}", bold=True))
    shapes += _room(sheet, x, begin, end, y, scales)
    return shapes, y + 10


def _ticks(sheet: RunSheet, zone: ZoneInfo, begin: float, end: float, x) -> Iterator[Shape]:
    step = next((tick for tick in _TICKS_MIN if (end - begin) / tick <= 11), 720)
    local = sheet.start_minute_of_day
    minute = -((local + begin) // -step) * step - local
    while minute <= end:
        words = time_words(sheet, minute, zone).split(" ")[-1]
        yield Shape("text", (x(minute), 12), words, size=9, bold=True, anchor="middle")
        yield Shape("line", (x(minute), 18, x(minute), 26), grey=0.3)
        minute += step


def _bar(left: float, right: float, y: float, tall: float, words: str, grey: float) -> list[Shape]:
    room = right - left
    # Words that do not fit are on the list beneath: what is drawn is said whole, or by its number.
    number = "".join(letter for letter in words.partition(",")[0] if letter.isdigit())
    said = next((each for each in (words, number) if each and _BAR_LETTER * len(each) <= room - 6), "")
    return [
        Shape("box", (left, y, max(right - left, 1), tall), grey=grey),
        *([Shape("text", (left + 4, y + tall / 2 + 3), said, size=8.5)] if said else []),
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


def _pot(pot, x, y: float, words: str) -> Iterator[Shape]:
    foot = y + POT_TALL
    left, on, used, kick = x(pot.touch_min), x(pot.on_from_min), x(pot.used_min), x(pot.kick_min)
    yield Shape("fill", (left, foot, left, y, on, y, used, foot - 4, used, foot), grey=0.8)
    yield Shape("line", (used, foot - 1, kick, foot - 1), dashed=True)
    yield Shape("line", (kick, foot - 8, kick, foot + 3))
    yield Shape("text", (used + 2, y + 9), words, size=7.5)


def _window(left: float, right: float, y: float) -> Iterator[Shape]:
    if right - left < 1:
        return
    yield Shape("line", (left, y + 13, right, y + 13), grey=0.5, dashed=True)
    yield Shape("line", (right, y + 4, right, y + 22), grey=0.3)


def _room(sheet: RunSheet, x, begin: float, end: float, y: float, scales: Scales) -> Iterator[Shape]:
    for minute, room_c in zip(sheet.room_min, sheet.room_c, strict=True):
        if len(sheet.room_min) == 1:
            yield Shape("text", (LEFT, y), f"{scales.temperature(room_c)}, {sheet.room_words}")
        elif begin <= minute <= end and (minute + sheet.start_minute_of_day) % 60 < 30:
            yield Shape("text", (x(minute), y), scales.whole_degrees(room_c), anchor="middle")


def _fitted(words: str, letters: int) -> str:
    return words if len(words) <= letters else words[: max(0, letters - 1)] + "…"


def run_sheet_svg(job_name: str, plan: Plan, zone: ZoneInfo, scales: Scales, wide: float = 1100.0) -> str:
    """The run sheet as an SVG document, its days one beneath the other. Every word is escaped."""
    sheet = plan.run_sheet
    y, body = (
        30.0,
        [f'<text x="0" y="18" font-size="15" font-weight="700">{escape(job_name)}: {escape(sheet.sentence)}</text>'],
    )
    for begin, end in days_of(sheet, zone):
        body.append(f'<text x="0" y="{y + 18:g}" font-size="11">{escape(day_words(sheet, begin, zone))}</text>')
        shapes, tall = drawn(plan, zone, begin, end, wide, scales)
        body.append(f'<g transform="translate(0 {y + 24:g})">{"".join(map(_as_svg, shapes))}</g>')
        y += tall + 50
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide + 20:g}" height="{y + 20:g}" '
        f'viewBox="-10 -4 {wide + 20:g} {y + 20:g}" '
        f'font-family="Archivo, Helvetica, Arial, sans-serif" role="img"><title>{escape(sheet.sentence)}</title>'
        f'<rect x="-10" y="-4" width="{wide + 20:g}" height="{y + 20:g}" fill="#fff"/>{"".join(body)}</svg>'
    )


def _as_svg(shape: Shape) -> str:
    grey = f"#{round(255 * shape.grey):02x}" + f"{round(255 * shape.grey):02x}" * 2
    points = [f"{point:.1f}" for point in shape.points]
    if shape.kind == "text":
        weight = ' font-weight="700"' if shape.bold else ""
        anchor = ' text-anchor="middle"' if shape.anchor == "middle" else ""
        return f'<text x="{points[0]}" y="{points[1]}" font-size="{shape.size:g}"{weight}{anchor}>{escape(shape.text)}</text>'
    if shape.kind == "line":
        dashes = ' stroke-dasharray="3 3"' if shape.dashed else ""
        return f'<path d="M{points[0]} {points[1]}L{points[2]} {points[3]}" stroke="{grey}"{dashes}/>'
    if shape.kind == "box":
        left, top, width, height = points
        return f'<rect x="{left}" y="{top}" width="{width}" height="{height}" fill="{grey}" stroke="#000"/>'
    path = " ".join(f"{a},{b}" for a, b in zip(points[::2], points[1::2], strict=True))
    return f'<polygon points="{path}" fill="{grey}" stroke="#000"/>'
