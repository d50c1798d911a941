"""The judgement calls, by chapter. Most severe first; each is one sentence, with its reason and what to do."""

from layup.cautions import conditions, joints, materials, mixing, people, preparation, windows
from layup.cautions.rule import Facts
from layup.outcome import CautionRecord

RULES = (
    *materials.RULES,
    *conditions.RULES,
    *mixing.RULES,
    *preparation.RULES,
    *joints.RULES,
    *windows.RULES,
    *people.RULES,
)
_ORDER = ("stop", "care", "note")


def cautions_for(facts: Facts) -> tuple[CautionRecord, ...]:
    """Every caution the facts raise, stops first; within a severity in the order of the chapters."""
    found = [caution for rule in RULES for caution in rule.fire(facts)]
    return tuple(sorted(found, key=lambda caution: _ORDER.index(caution.severity)))
