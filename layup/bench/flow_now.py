"""An infusion at the bench as it stands: its valve, and what its front says of its bed."""

from bisect import bisect_left
from collections.abc import Sequence

from layup.bench.card import CardFlow
from layup.bench.events import Event, FrontThere, Weighed
from layup.bench.now import FlowNow

_OPEN = {"valve opened": "open", "valve throttled": "throttled", "valve closed": "shut"}


def flow_now(card: CardFlow, events: Sequence[Event], now_min: float) -> FlowNow:
    """The infusion of a card, from what was said of it in the order it happened.

    Where the front is seen tells how open the bed is: it has come to S of the mark, where the plan has it at S of the minutes
    the valve was open; the last mark says it best, since all before is in it. Throttled, the valve counts as open.

    >>> card = CardFlow(id="f", part_id="f", lane="f", lane_name="Hatch", outline=(), minutes=(0, 10, 40), levels_s=(0, 1, 2), full_s=2,
    ...                 sets_min=90, permeability_m2=1e-10, draws_g=900, marks=({"number": 1, "x_m": 0, "y_m": 0, "s": 1},))
    >>> said = Event(id="a", about="flow", subject="f", kind="valve opened", at_min=5)
    >>> seen = Event(id="b", about="flow", subject="f", kind="front there", at_min=25, data={"mark": 1})
    >>> round(flow_now(card, [said, seen], 30).pace, 3), flow_now(card, [said], 5).full_min
    (0.75, 45.0)
    """
    valve, opened, since, spent = "shut", None, None, 0.0
    paces: list[tuple[int, float]] = []
    grams: dict[str, float] = {}
    of_mark = {mark.number: mark for mark in card.marks}
    for event in events:
        so_far = spent + (event.at_min - since if since is not None else 0.0)
        if event.kind in _OPEN:
            valve = _OPEN[event.kind]
            spent, since = so_far, None if valve == "shut" else event.at_min
            opened = event.at_min if opened is None and valve != "shut" else opened
        elif isinstance(event.data, FrontThere):
            mark, planned = of_mark.get(event.data.mark), _between(card.minutes, card.levels_s, so_far)
            if mark and planned > 0 and mark.number not in dict(paces):
                paces.append((mark.number, mark.s / planned))
        elif isinstance(event.data, Weighed):
            grams[event.kind] = event.data.grams
    open_for = spent + (now_min - since if since is not None else 0.0)
    pace = paces[-1][1] if paces else None
    seen = {number for number, _ in paces}
    ahead = min((mark for mark in card.marks if mark.number not in seen), key=lambda mark: mark.s, default=None)

    def comes(s: float) -> float | None:
        """When the front comes to S, in the run's minutes."""
        planned = s / (pace or 1.0)
        if valve == "shut" or planned > card.levels_s[-1] * (1 + 1e-9):
            return None
        return now_min + max(0.0, _between(card.levels_s, card.minutes, planned) - open_for)

    return FlowNow(
        id=card.id,
        valve=valve,
        opened_min=opened,
        open_for_min=open_for,
        reached=tuple(number for number, _ in paces),
        paces=tuple(each for _, each in paces),
        pace=pace,
        full_min=comes(card.full_s),
        sets_min=None if opened is None else opened + card.sets_min,
        next_mark=ahead.number if ahead else None,
        next_min=comes(ahead.s) if ahead else None,
        drawn_g=grams.get("drawn"),
        trap_g=grams.get("in the trap"),
    )


def _between(xs: Sequence[float], ys: Sequence[float], x: float) -> float:
    """A value between the points of a curve, held at its ends."""
    at = bisect_left(xs, x)
    if at == 0:
        return ys[0]
    if at == len(xs):
        return ys[-1]
    return ys[at - 1] + (ys[at] - ys[at - 1]) * (x - xs[at - 1]) / max(1e-9, xs[at] - xs[at - 1])
