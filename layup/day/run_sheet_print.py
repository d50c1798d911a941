"""The run sheet on paper, and a card for each pot."""

from collections.abc import Iterator
from zoneinfo import ZoneInfo

from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from layup.customs import UNSAID, Customs
from layup.day.day_list import entries_of, time_words
from layup.day.outcome import RunSheet, SheetPot
from layup.day.run_sheet_pictures import day_drawn, day_words, days_of
from layup.errors import known
from layup.outcome import Plan
from layup.paper.kit import (
    TICK_WIDE,
    Masthead,
    beside,
    cards,
    code,
    drawn,
    gap,
    grid,
    heading,
    printed,
    rule,
    title,
    words,
)
from layup.pots.outcome import PotResult, PourResult, TicketResult

# Of the caution on a pot that runs away.
_HOT = "Over {40 °C} or smoking: do not pour, stir or lid it; out of doors if that takes seconds, else clear the room. Never water into it."
# What a pour into a marked cup is said in: two figures, so smaller than one.
_MARK_SIZE = 20
# All the digits of a tool's marks, and no others.
_AS_READ = ".10g"
_POUR_SIZE, _SMALL_POUR_SIZE = 34, 24
_A6 = (105 * mm, 148 * mm)
_CARD_INSET, _CODE_SIDE = 7 * mm, 24 * mm


def run_sheet_pdf(head: Masthead, plan: Plan, zone: ZoneInfo) -> bytes:
    """The run sheet drawn day by day, its two risks, and the list in the order of the clock with boxes to tick."""
    sheet = known(plan.run_sheet)
    story = [
        title(f"{head.job_name}: run sheet"),
        words(_when(sheet, zone, head.scales.customs), 11),
        words(f"{sheet.sentence}. {sheet.chance_words.capitalize()}. Room {sheet.room_words}.", after=6),
        *(words(problem, bold=True, after=4) for problem in sheet.problems),
    ]
    for begin, end in days_of(sheet, zone):
        day = day_words(sheet, begin, zone, head.scales.customs)
        story += [heading(day)] if day else []
        story += [drawn(day_drawn(plan, zone, begin, end, head.room[0], head.scales), head), gap(10)]
    return printed(head, "run sheet", [*story, *_list(head, plan, zone)])


def day_list_pdf(head: Masthead, plan: Plan, zone: ZoneInfo) -> bytes:
    """The day's list alone."""
    story = [
        title(f"{head.job_name}: the day's list"),
        words(_when(known(plan.run_sheet), zone, head.scales.customs), 11),
    ]
    return printed(head, "the day's list", [*story, *_list(head, plan, zone)])


def _when(sheet: RunSheet, zone: ZoneInfo, customs: Customs) -> str:
    if sheet.start_at is None:
        return f"From {sheet.opens_at} of a day to be chosen"
    start = sheet.start_at.astimezone(zone)
    return f"{customs.whole_day(start)}, first pot weighed at {customs.clock(start)} ({zone.key})"


def _list(head: Masthead, plan: Plan, zone: ZoneInfo) -> list[Flowable]:
    sheet = known(plan.run_sheet)
    rows = [
        (
            time_words(sheet, entry.from_min, zone, head.scales.customs),
            "" if entry.to_min is None else time_words(sheet, entry.to_min, zone, head.scales.customs),
            entry.where,
            entry.what,
        )
        for entry in entries_of(plan, head.scales)
    ]
    widths = (60, 60, 162, head.room[0] - TICK_WIDE - 282)
    return [heading("In the order of the clock"), grid(("from", "to", "where", "what"), rows, widths)]


def ticket_cards_pdf(head: Masthead, plan: Plan, zone: ZoneInfo, address: str) -> bytes:
    """A card for each pot, four to a sheet of A4, A6 each; on Letter a little shorter.

    `address` with the pot's number after it opens it on a phone.
    """
    wide, tall = head.size
    card = min(_A6[0], wide / 2), min(_A6[1], tall / 2)
    kinds = {pot.id: pot for pot in plan.pots}
    pots = plan.run_sheet.pots if plan.run_sheet else ()
    stories = [list(_card(head, plan, pot, kinds[pot.about], zone, f"{address}{pot.number}", card[0])) for pot in pots]
    margins = (wide - 2 * card[0]) / 2, (tall - 2 * card[1]) / 2
    return printed(head, "tickets", cards(stories, head, card, _CARD_INSET), margins=margins)


def _card(
    head: Masthead, plan: Plan, pot: SheetPot, kind: PotResult, zone: ZoneInfo, address: str, wide: float
) -> Iterator[Flowable]:
    sheet, ticket, room = known(plan.run_sheet), known(kind.ticket), wide - 2 * _CARD_INSET
    lane = next(lane for lane in sheet.lanes if lane.id == pot.lane)
    told = [
        words(f"Pot {pot.number} of {plan.pot_count}", 20, bold=True),
        words(head.job_name, 9),
        words(f"{', '.join(filter(None, (lane.name, kind.bay)))}: {', '.join(kind.labels)}", bold=True),
        *([words(kind.resin_name, bold=True)] if len(plan.resins) > 1 else ()),
        *([words(f"From this pot on: {kind.hardener} hardener", 14, bold=True)] if kind.changes_at(pot.number) else ()),
    ]
    square = code(address, _CODE_SIDE, f"code that opens pot {pot.number}")
    yield beside((told, square), (room - _CODE_SIDE, _CODE_SIDE))
    yield words(
        f"weigh at {time_words(sheet, pot.weigh_min, zone, head.scales.customs)}, for {head.scales.temperature(pot.room_c)}",
        11,
    )
    yield from _pours(ticket, head.scales.customs)
    yield words(f"on the work by {time_words(sheet, pot.use_by_min, zone, head.scales.customs)}", 17, bold=True)
    ends = time_words(sheet, pot.kick_min, zone, head.scales.customs)
    if ticket.second_part is None:
        yield words(f"skins over about {ends}: what is left does not go back into its tin", 8)
    else:
        yield words(f"kicks about {ends}. {head.scales.said(_HOT)}", 8)
    if ticket.left_in_cup_min is not None:
        left = time_words(sheet, pot.touch_min + ticket.left_in_cup_min, zone, head.scales.customs)
        yield words(f"left in its cup it kicks about {left}: pour it out at once", 8, bold=True)
    yield words(f"Wear: {', '.join(ticket.protection)}. The data sheet wins.", 8)
    yield words(head.edition(), 7)


def _pours(ticket: TicketResult, customs: Customs) -> Iterator[Flowable]:
    """What is poured, with the figure to hit the largest, and how it is mixed."""
    if ticket.by == "weight":
        yield words(
            f"Cup on the scale, empty: {customs.number(ticket.cup_reads, _AS_READ)} {ticket.scale_unit}, not tared"
        )
    if ticket.scale_checked:
        yield words(f"{ticket.scale_checked[0].upper()}{ticket.scale_checked[1:]}", 8)
    size = _SMALL_POUR_SIZE if ticket.filler else _POUR_SIZE
    for pour in ticket.pours:
        yield rule()
        yield words(pour.what, 13, bold=True, after=0)
        yield words(pour_words(pour, customs), _MARK_SIZE if _to_a_mark(pour) else size, bold=True, after=1)
        poured = (
            f"on the scale: pour {customs.number(pour.amount, _AS_READ)} {pour.unit}" if pour.tool == "scale" else ""
        )
        yield words(", ".join(word for word in (poured, pour.note) if word), 9.5)
    yield rule()
    yield from (words(said, 9.5) for said in ticket.mixing)
    if ticket.filler:
        yield words(ticket.filler, 9.5, bold=True)


def pour_words(pour: PourResult, customs: Customs = UNSAID) -> str:
    """The figure to hit at a pour, as it stands largest on a card.

    In a marked cup both are said, what is added and the mark it comes up to: the mark alone is poured by mistake.

    >>> on_top = PourResult(what="B", amount=50, unit="ml", running=150, tared=50, note="", tool="marked cup")
    >>> pour_words(on_top)
    'add 50 ml: up to the 150 mark'
    """
    if _to_a_mark(pour):
        amount, mark = customs.number(pour.amount, _AS_READ), customs.number(known(pour.running), _AS_READ)
        return f"add {amount} {pour.unit}: up to the {mark} mark"
    shows = pour.running if pour.tool in ("scale", "numbered cup") and pour.running is not None else pour.amount
    return f"{customs.number(shows, _AS_READ)} {pour.unit}"


def _to_a_mark(pour: PourResult) -> bool:
    return pour.tool == "marked cup" and pour.running is not None
