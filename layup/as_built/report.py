"""What was built, on paper: for the owner, the surveyor and the next repair; and tags for the parts."""

from collections.abc import Iterator, Mapping, Sequence

from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from layup.as_built.outcome import AsBuilt, BuiltLayer, BuiltPlace, BuiltPot, DoneOtherwise, LotDrawn, Noted
from layup.as_built.words import gel_words, layer_said
from layup.laminate.outcome import PartResult
from layup.laminate.section_picture import section_drawn
from layup.paper.kit import Masthead, beside, code, drawn, gap, grid, heading, photo, printed, title, words
from layup.paper.labels import LABEL_CODE, LABEL_ROOM, labels_on_sheets
from layup.scales import Scales

_CODE = 26 * mm
_MOST_TALL = 220.0
NOT_SIZED = "What stands here is what was done and what was read. It sizes no structure and replaces no survey."


def report_pdf(head: Masthead, built: AsBuilt, address: str, photos: Mapping[int, bytes]) -> bytes:
    """The report of a run: what was done otherwise first, then each place with its section as planned and as laid, its layers,
    the pots with their lots, notes and photos. `address` is what its code opens, `photos` the pictures by their numbers.

    >>> from datetime import date, datetime
    >>> built = AsBuilt(job_name="Deck", revision=1, issued_at=datetime(2026, 5, 4, 9, 0), planned_room_c=20)
    >>> report_pdf(Masthead("Deck", 1, date(2026, 5, 4)), built, "https://shop.example/built/1", {})[:5]
    b'%PDF-'
    """
    told = (title(f"{built.job_name}: as built"), *(words(said) for said in _said(built, head.scales)))
    opens = code(address, _CODE, "opens this record")
    story: list[Flowable] = [beside((told, [opens]), (head.room[0] - _CODE, _CODE)), gap(6)]
    story += [heading("Done otherwise than planned"), *_deviations(built, head)]
    for place in built.places:
        story += _place(place, built, head)
    story += [gap(6), heading("Pots"), *_pots(built, head)]
    story += _cut(built, head)
    story += _noted(built, head, photos)
    story += [gap(8), words(NOT_SIZED, 8.5)]
    return printed(head, "as built", story)


def _said(built: AsBuilt, scales: Scales) -> Iterator[str]:
    customs = scales.customs
    begun = built.moment(built.begun_min)
    yield f"Begun {customs.moment(begun)} {begun.year}, from revision {built.revision}."
    if built.simulated:
        yield "Worked with simulated instruments: a trial, nothing of it was built."
    if built.ended_min is not None and built.outcome:
        yield f"Closed {customs.moment(built.moment(built.ended_min))}: {built.outcome}."
    if built.people:
        yield f"At the bench: {', '.join(built.people)}."
    room = f"Planned for a room of {scales.temperature(built.planned_room_c)}"
    if built.coldest_c is None or built.warmest_c is None:
        yield f"{room}; nobody wrote down how warm it was."
    elif built.coldest_c == built.warmest_c:
        yield f"{room}; it was read as {scales.temperature(built.coldest_c)}."
    else:
        yield f"{room}; it was read as {scales.temperatures(built.coldest_c, built.warmest_c)}."


def _deviations(built: AsBuilt, head: Masthead) -> list[Flowable]:
    if not built.deviations:
        return [words("Nothing that was written down.")]
    rows = [_deviation(each, built, head.scales) for each in built.deviations]
    return [grid(("what", "when, by whom", "why"), rows, (head.room[0] - 270, 120, 150), ticks=False), gap(6)]


def _deviation(each: DoneOtherwise, built: AsBuilt, scales: Scales) -> tuple[str, ...]:
    when = scales.customs.moment(built.moment(each.at_min)) if each.at_min is not None else ""
    return scales.said(each.words), ", ".join(word for word in (when, each.by) if word), each.reason


def _place(place: BuiltPlace, built: AsBuilt, head: Masthead) -> list[Flowable]:
    story: list[Flowable] = [gap(8), heading(place.called)]
    if place.planned and place.laid:
        planned, laid = (_section_words(part, head.scales) for part in (place.planned, place.laid))
        said = (
            f"As planned {planned}; as laid {laid}." if place.laid.plies else f"As planned {planned}; nothing is laid."
        )
        story.append(words(said, after=4, kept=True))
        if place.by_the_bag:
            story.append(words("The bag sets how much resin stays, so the section is as planned for what was laid.", 9))
        if place.laid.plies:
            story.append(_sections(place.planned, place.laid, head))
    heads = ("no.", "layer, the lowest first", "laid", "how it went on", "pots", "resin", "read")
    rows = [_layer(number, layer, place, built, head.scales) for number, layer in enumerate(place.layers, 1)]
    return [*story, grid(heads, rows, (24, head.room[0] - 424, 90, 100, 40, 80, 90), ticks=False)]


def _sections(planned: PartResult, laid: PartResult, head: Masthead) -> Flowable:
    half, tallest_mm = head.room[0] / 2, max(planned.thickness_mm, laid.thickness_mm)
    pictures = []
    for part, what in ((planned, "as planned"), (laid, "as laid")):
        picture = drawn(section_drawn(part, head.scales, tallest_mm), head, most=(half - 8, _MOST_TALL))
        pictures.append([words(what, 9, bold=True, after=2), picture])
    return beside(pictures, (half, half))


def _section_words(part: PartResult, scales: Scales) -> str:
    share = part.fibre_weight_fraction
    thick = scales.words("thickness", part.thickness_mm)
    return thick if share is None else f"{thick}, fibre {100 * share:.0f} %"


def _layer(number: int, layer: BuiltLayer, place: BuiltPlace, built: AsBuilt, scales: Scales) -> tuple[str, ...]:
    said = layer_said(layer, place, built, scales)
    pots = ", ".join(map(str, layer.pots))
    return str(number), scales.said(layer.words), said.laid, said.went_on, pots, said.resin, said.read


def _pots(built: AsBuilt, head: Masthead) -> list[Flowable]:
    if not built.pots:
        return [words("No pot was written down.")]
    heads = ("pot", "for", "of", "planned", "made", "off", "mixed", "what became of it")
    rows = [_pot(pot, built, head.scales) for pot in built.pots]
    return [grid(heads, rows, (22, 72, head.room[0] - 380, 42, 46, 38, 84, 76), ticks=False)]


def _pot(pot: BuiltPot, built: AsBuilt, scales: Scales) -> tuple[str, ...]:
    of = [_called(lot) for lot in pot.lots]
    of = of or [" ".join(word for word in (pot.resin_name, pot.hardener) if word)]
    mixed = scales.customs.moment(built.moment(pot.touched_min)) if pot.touched_min is not None else ""
    room = scales.temperature(pot.room_c) if pot.room_c is not None else ""
    return (
        str(pot.number),
        pot.where,
        "; ".join(of),
        scales.mass(pot.planned_g),
        "not weighed" if pot.made_g is None else scales.mass(pot.made_g),
        "" if pot.off_pct is None else f"{scales.written(pot.off_pct, '+.1f')} %",
        ", ".join(word for word in (mixed, pot.by, room) if word),
        gel_words(pot),
    )


def _cut(built: AsBuilt, head: Masthead) -> list[Flowable]:
    if not built.cut:
        return []
    rows = [(_called(lot), head.scales.words("roll_run", lot.amount)) for lot in built.cut]
    return [gap(6), heading("Cut for it"), grid(("roll", "taken off it"), rows, (head.room[0] - 110, 100), ticks=False)]


def _called(lot: LotDrawn) -> str:
    return lot.called + (f", a bad lot: {lot.bad}" if lot.bad else "")


def _noted(built: AsBuilt, head: Masthead, photos: Mapping[int, bytes]) -> list[Flowable]:
    if not built.noted:
        return []
    story: list[Flowable] = [gap(8), heading("Notes and photos")]
    for each in built.noted:
        story.append(words(_noted_words(each, built, head.scales, printed=each.photo in photos), after=3))
        if each.photo is not None and each.photo in photos:
            said = f"photo of {each.where}" if each.where else "photo"
            story += [photo(photos[each.photo], (head.room[0] * 0.6, _MOST_TALL), said), gap(6)]
    return story


def _noted_words(each: Noted, built: AsBuilt, scales: Scales, *, printed: bool) -> str:
    when = scales.customs.moment(built.moment(each.at_min))
    said = f"“{each.words}”" if each.words else ""
    kept = "a photo, kept in the record" if each.photo is not None and not printed else ""
    return ", ".join(word for word in (when, each.by, each.where, said, kept) if word)


def tags_pdf(head: Masthead, built: AsBuilt, places: Sequence[tuple[BuiltPlace, str]]) -> bytes:
    """A tag of 70 × 37 mm for each place, with the address that its code opens: to be laminated in, or stuck on.

    >>> from datetime import date, datetime
    >>> built = AsBuilt(job_name="Deck", revision=1, issued_at=datetime(2026, 5, 4, 9, 0), planned_room_c=20)
    >>> tags_pdf(Masthead("Deck", 1, date(2026, 5, 4)), built, ())[:5]
    b'%PDF-'
    """
    return labels_on_sheets(head, [_tag(place, built, address, head.scales) for place, address in places])


def _tag(place: BuiltPlace, built: AsBuilt, address: str, scales: Scales) -> list[Flowable]:
    laid = [layer for layer in place.layers if layer.state == "laid"]
    told = [
        words(place.called, 10.5, bold=True, after=0),
        words(built.job_name, 9, after=0),
        gap(1 * mm),
        words(f"{len(laid)} of {len(place.layers)} layers laid", 9, after=0),
        words(f"Begun {scales.customs.day(built.moment(built.begun_min))}", 8.5, after=0),
    ]
    if place.laid and place.laid.plies:
        told.append(words(_section_words(place.laid, scales), 8.5, after=0))
    opens = code(address, LABEL_CODE, f"opens {place.called} as built")
    return [beside((told, [opens]), (LABEL_ROOM - LABEL_CODE, LABEL_CODE))]
