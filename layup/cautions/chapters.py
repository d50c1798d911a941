"""The judgement calls, by chapter. Most severe first; each is one sentence, with its reason and what to do."""

from layup import kinds
from layup.cautions import conditions, materials, mixing, people, preparation, tins, windows
from layup.cautions.rule import Facts, Rule
from layup.outcome import CautionRecord


def rules() -> tuple[Rule, ...]:
    """All there are, chapter by chapter, those of the kinds of work before windows and people."""
    of_kinds = (rule for kind in kinds.KINDS for rule in kind.rules)
    return (*_GROUND, *of_kinds, *windows.RULES, *people.RULES)


_GROUND = (*materials.RULES, *tins.RULES, *conditions.RULES, *mixing.RULES, *preparation.RULES)
_ORDER = ("stop", "care", "note")


def cautions_for(facts: Facts) -> tuple[CautionRecord, ...]:
    """Every caution the facts raise, stops first; within a severity in the order of the chapters."""
    found = [caution for rule in rules() for caution in rule.fire(facts)]
    return tuple(sorted(found, key=lambda caution: _ORDER.index(caution.severity)))
