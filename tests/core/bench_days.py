"""Days at the bench that the core and the web fold alike: cards, taps, moments, and what the core makes of them.

`python -m tests.core.bench_days` writes them down for the tests of the web.
"""

import json
from functools import cache
from pathlib import Path

from layup.bench.card import BenchCard
from layup.bench.events import Event
from layup.bench.issue import issued_card
from layup.bench.state import fold
from layup.bench.to_do import deviation, due, to_do
from layup.job import JobSpec, Practice
from layup.plan import plan
from layup.shop_facts import ShopFacts
from tests.core.jobs import corner, jointed, on, panel, strips, wishing

FILE = Path(__file__).resolve().parents[2] / "web" / "src" / "bench" / "days.json"


@cache
def card_of(name: str) -> BenchCard:
    """The card of one of the jobs of the days."""
    job = JOBS[name]
    return issued_card(job, ShopFacts(), plan(job, ShopFacts()))


def coated_last() -> JobSpec:
    """A small panel in epoxy that is coated at the end: the coat waits for tack."""
    job = panel("epoxy-2-1", "cloth-300", "cloth-300", width_m=0.5, length_m=0.6)
    document = job.model_dump(mode="json")
    document["parts"][0]["plies"].append({"id": "fill", "coat": {"kind": "fill", "resin_gsm": 150}})
    return JobSpec.model_validate(document)


JOBS: dict[str, JobSpec] = {
    "panel": coated_last(),
    "lid": panel("polyester-general", "csm-450", "csm-450"),
    "tray": wishing(panel("epoxy-2-1", "cloth-300", width_m=0.5, length_m=0.6), vessel="tray"),
    "tabbed corner": jointed(corner(tabs=strips(100), tab_piece_m=1.0)),
    "hidden corner": jointed(corner(hidden=True)),
    "infused": on(panel("epoxy-infusion", "biax-450", "biax-450", width_m=0.8, length_m=1.2), process="infusion"),
    "hardener first": coated_last().model_copy(update={"practice": Practice(pour_order="the thinner part")}),
}


def tap(at_min: float, kind: str, subject: str = "1", about: str = "pot", *, tap_id: str = "", back: str = "", **data):
    """An event as it is sent, its id made of what it says."""
    said = {"id": tap_id or f"{about}{subject}-{kind}-{at_min:g}", "about": about, "subject": subject, "kind": kind}
    return Event.model_validate(said | {"at_min": at_min, "by": "wren", "data": data, "takes_back": back})


def run(at_min: float, kind: str, *, tap_id: str = "", **data):
    return tap(at_min, kind, "", "run", tap_id=tap_id, **data)


def mixed(pot: int, at_min: float, a: float, b: float) -> list[Event]:
    """A pot weighed by the scale, stirred two minutes later."""
    n = str(pot)
    return [
        tap(at_min - 1, "A in", n, amount=a),
        tap(at_min, "B in", n, amount=b),
        tap(at_min + 2, "stirred", n),
    ]


def _laid(name: str, at: int) -> str:
    return card_of(name).layers[at].id


def _of(name: str, pot: int) -> tuple[float, float]:
    first, second = card_of(name).pots[pot - 1].pours
    return first.amount, second.amount


def days() -> dict[str, tuple[str, list[Event], tuple[float, ...]]]:
    """Each day: of which job, what was tapped, when it is looked at."""
    a, b = _of("panel", 1)
    first_layer, coat = _laid("panel", 0), _laid("panel", -1)
    opened = run(0, "opened")
    morning = [opened, *mixed(1, 5, a, b), tap(14, "used up"), tap(14, "laid", first_layer, "layer")]
    return {
        "nobody has begun": ("panel", [], (0.0, 60.0)),
        "in the cup": ("panel", [opened, tap(2, "cup on", grams=21), tap(3, "A in", amount=a + 4)], (3.5,)),
        "a pot through its life": ("panel", [opened, *mixed(1, 5, a, b)], (5.5, 8, 14, 18, 24, 60, 900)),
        "too much hardener, mended": (
            "panel",
            [opened, *mixed(1, 5, a, 1.5 * b), tap(6, "A in", tap_id="more", amount=1.5 * a)],
            (5.5, 7.0),
        ),
        "too much hardener, too late": ("panel", [opened, *mixed(1, 5, a, 1.5 * b)], (5.5, 15.0)),
        "the second is still going in": (
            "panel",
            [opened, tap(3, "A in", amount=a), tap(4, "touched"), tap(4.5, "B in", amount=b)],
            (3.5, 4.2, 4.6),
        ),
        "started over": ("panel", [opened, tap(2, "A in", amount=a), tap(3, "started over")], (2.5, 4.0)),
        "taken back": (
            "panel",
            [*morning, tap(20, "taken back", back="pot1-used up-14"), tap(21, "taken back", back="layerx")],
            (19.0, 22.0),
        ),
        "the coat waits": ("panel", morning, (16, 60, 80, 100, 240, 400, 3000)),
        "still wet when it was touched": (
            "panel",
            [*morning, tap(90, "tested", first_layer, "layer", test="thumb", shows="wet")],
            (91, 130, 300),
        ),
        "closed when it was touched": (
            "panel",
            [
                *morning,
                tap(120, "tested", first_layer, "layer", test="thumb", shows="closed"),
                tap(140, "mended", first_layer, "layer"),
            ],
            (121, 141),
        ),
        "a coat that was gauged twice": (
            "panel",
            [
                *morning,
                tap(100, "film read", coat, "layer", wet_um=120),
                tap(104, "laid", coat, "layer"),
                tap(105, "film read", coat, "layer", wet_um=150),
            ],
            (102, 106),
        ),
        "tacky early": (
            "panel",
            [*morning, tap(50, "tested", first_layer, "layer", test="thumb", shows="tacky")],
            (51, 200),
        ),
        "tacky at once": (
            "panel",
            [*morning, tap(15, "tested", first_layer, "layer", test="thumb", shows="tacky")],
            (15, 60, 79),
        ),
        "warmer after lunch": (
            "panel",
            [*morning, run(40, "room read", room_c=26.5)],
            (45, 70),
        ),
        "all laid": ("panel", [*morning, *mixed(2, 100, 20, 9), tap(104, "laid", coat, "layer")], (105.0,)),
        "night and the next day": ("panel", [*morning, run(60, "night"), run(900, "gone on")], (61.0, 901.0)),
        "closed": ("panel", [*morning, run(200, "closed", outcome="good")], (201.0,)),
        "too hot": ("panel", [opened, *mixed(1, 5, a, b), tap(20, "surface", temperature_c=52)], (21.0,)),
        "dumped": ("panel", [opened, *mixed(1, 5, a, b), tap(9, "dumped", words="kicked over")], (10.0,)),
        "alarm answered": (
            "panel",
            [opened, *mixed(1, 5, a, b), run(12, "answered", key="pot 1 half")],
            (11.0, 13.0),
        ),
        "written down at once": (
            "panel",
            [opened, tap(5, "touched", a_g=1.1 * a, b_g=1.1 * b)],
            (12.0,),
        ),
        "catalysed": ("lid", [opened, *mixed(1, 4, *_of("lid", 1)), run(9, "room read", room_c=17)], (6, 12, 40)),
        "a dose short of the product's least": (
            "lid",
            [opened, tap(3, "A in", amount=_of("lid", 1)[0]), tap(4, "B in", amount=0.2 * _of("lid", 1)[1])],
            (5.0,),
        ),
        "poured into its tray": (
            "tray",
            [opened, *mixed(1, 5, *_of("tray", 1)), tap(9, "moved", to="tray")],
            (8.5, 9.5, 20),
        ),
        "a corner that will be hidden": (
            "hidden corner",
            [
                opened,
                *(tap(10, "laid", layer.id, "layer") for layer in card_of("hidden corner").layers),
                tap(12, "ticked", card_of("hidden corner").faces[0].id, "face"),
            ],
            (5, 11, 13),
        ),
        "strip after strip": (
            "tabbed corner",
            [
                opened,
                *mixed(3, 5, *_of("tabbed corner", 3)),
                *(
                    tap(10 + n, "strip laid", _laid("tabbed corner", -1), "layer", number=number)
                    for n, number in enumerate((1, 3, 3, 9, 2))
                ),
                tap(20, "strip laid", _laid("tabbed corner", -1), "layer", number=1),
            ],
            (9, 11.5, 13, 14, 21),
        ),
        "hardener first": (
            "hardener first",
            [opened, tap(3, "B in", amount=_of("hardener first", 1)[0]), tap(4, "A in", amount=60)],
            (3.5, 4.5),
        ),
        "an infusion and its front": (
            "infused",
            [
                opened,
                *mixed(1, 5, *_of("infused", 1)),
                tap(8, "valve opened", "p", "flow"),
                tap(11, "front there", "p", "flow", mark=1),
                tap(11.5, "front there", "p", "flow", mark=9),
                tap(12, "drawn", "p", "flow", grams=640),
                tap(13, "valve closed", "p", "flow"),
                tap(15, "valve throttled", "p", "flow"),
                tap(19, "front there", "p", "flow", mark=2),
                tap(21, "front there", "p", "flow", mark=2),
                tap(33, "front there", "p", "flow", mark=3),
                tap(40, "in the trap", "p", "flow", grams=30),
                tap(60, "valve closed", "p", "flow"),
            ],
            (7.5, 8.5, 11.2, 14, 20, 26, 34, 50, 61),
        ),
        "a plan taken anew": (
            "panel",
            [*morning, run(30, "plan taken", card=card_of("panel").model_dump(mode="json"), pots=[])],
            (31.0,),
        ),
    }


def made_of(name: str, taps: list[Event], now_min: float) -> dict:
    """What the core makes of a day at a moment."""
    state = fold(card_of(name), taps, now_min)
    told = state.model_dump(mode="json", exclude={"card"})
    told |= {
        "to_do": [one.model_dump(mode="json") for one in to_do(state, now_min)],
        "due": [one.model_dump(mode="json") for one in due(state)],
        "deviation": deviation(state).model_dump(mode="json"),
    }
    return json.loads(json.dumps(told), parse_float=lambda text: round(float(text), 6))


def written() -> dict:
    """All days, for the web."""
    return {
        "cards": {name: card_of(name).model_dump(mode="json") for name in JOBS},
        "days": {
            day: {
                "card": name,
                "taps": [event.model_dump(mode="json") for event in taps],
                "seen": [{"now_min": now, "is": made_of(name, taps, now)} for now in moments],
            }
            for day, (name, taps, moments) in days().items()
        },
    }


if __name__ == "__main__":
    FILE.write_text(json.dumps(written(), indent=1) + "\n")
