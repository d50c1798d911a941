"""Finish: what shrinks on, what the sun takes, what is not hard yet, dust."""

from collections.abc import Iterator

from layup.cautions.rule import Facts, Finding, Rule
from layup.finish.planned import PlannedFinish

_CLEAR = ("clear, matt", "clear, gloss")


def _finishes(facts: Facts) -> Iterator[tuple[str, str, PlannedFinish]]:
    finishes: dict[str, PlannedFinish] = facts.found.get("finishes", {})
    for planned in finishes.values():
        yield planned.path, planned.part.name or "This part", planned


def _shrinks(facts: Facts) -> Iterator[Finding]:
    for path, name, planned in _finishes(facts):
        wishes = planned.part.finish
        if any(wishes.low_mm) and wishes.fairing == "polyester" and wishes.to != "ready to bond":
            yield Finding(f"{path}.fairing", f"{name}: polyester filler goes on shrinking for a week or two")


def _in_the_sun(facts: Facts) -> Iterator[Finding]:
    for path, name, planned in _finishes(facts):
        wishes = planned.part.finish
        if wishes.to in _CLEAR and planned.two_part:
            yield Finding(f"{path}.to", f"{name}: clear epoxy goes yellow and chalks in the sun")


def _too_smooth(facts: Facts) -> Iterator[Finding]:
    for path, name, planned in _finishes(facts):
        wishes = planned.part.finish
        if wishes.to in _CLEAR and wishes.topped in ("paint", "varnish"):
            message = f"{name}: {wishes.topped} does not hold on a face that was sanded to {wishes.to.removeprefix('clear, ')}"
            yield Finding(f"{path}.topped", message)


def _no_green_stage(facts: Facts) -> Iterator[Finding]:
    for path, name, planned in _finishes(facts):
        if planned.part.finish.trim == "knife, while green" and planned.part.process == "infusion":
            yield Finding(f"{path}.trim", f"{name}: under its bag it is past the green stage when it is opened")


def _larger_than_it(facts: Facts) -> Iterator[Finding]:
    for path, name, planned in _finishes(facts):
        faired = planned.part.finish.faired_m2
        if faired is not None and faired > planned.told.total_area_m2:
            shown = facts.scales.words("area", planned.told.total_area_m2)
            yield Finding(f"{path}.faired_m2", f"{name}: more is to be faired than there is, {shown}")


RULES = (
    Rule(
        id="finish.shrinks",
        severity="note",
        step="finish",
        reason="Polyester cures on for weeks and draws in over deep places: what was fair shows again under paint.",
        do="Wait two weeks before the last sanding, or expect to sand again. Epoxy filler hardly moves.",
        source="common practice",
        find=_shrinks,
    ),
    Rule(
        id="finish.in_the_sun",
        severity="care",
        step="finish",
        reason="Light breaks epoxy down from its surface.",
        do="Out of doors finish it ready for varnish, and put one with a light filter over it, by its sheet.",
        source="common practice",
        find=_in_the_sun,
    ),
    Rule(
        id="finish.too_smooth",
        severity="care",
        step="finish",
        reason="A coat holds in the scratches of the last grit, and a polished face has none.",
        do="Finish it ready for paint or ready for varnish, or leave the coat away.",
        source="common practice",
        find=_too_smooth,
    ),
    Rule(
        id="finish.no_green_stage",
        severity="note",
        step="finish",
        reason="A knife cuts laminate only while it is like leather; under a bag nobody gets at its edge then.",
        do="Plan a saw or a rotary tool, with a mask: hard glass and carbon dust harm.",
        source="common practice",
        find=_no_green_stage,
    ),
    Rule(
        id="finish.more_than_there_is",
        severity="care",
        step="finish",
        reason="What is reckoned is no more than the part.",
        do="Measure the place again, or leave it empty to fair all of it.",
        source="the plan",
        find=_larger_than_it,
    ),
)
