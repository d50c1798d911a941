"""What the shop's own pots say about its fillers: how much each really took for a consistency."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp

import numpy as np

from layup.joints.thickening import CONSISTENCIES
from layup.materials import Consistency, Filler, SourceKind
from layup.shop_facts import StirredFiller
from layup.taught import NINE_IN_TEN, Taught
from layup.words import counted

# Standard deviations of ln(parts) (memory): how far a shop's powder and eye are off the table in common, at each
# consistency besides, and from one pot to the next.
SIGMA_POWDER, SIGMA_WORD, SIGMA_POT = 0.20, 0.10, 0.12
# An amount of filler, or a pot, further off its ticket than so many times is a slip of the pen (memory).
MOST_OFF = 4.0


@dataclass(frozen=True)
class LearnedFiller:
    """A filler as the shop's log corrects it, how many pots stand behind each consistency, and as it was before."""

    filler: Filler
    pots: dict[Consistency, int]
    table: Filler | None = None

    def told_by(self, consistency: Consistency) -> str:
        """Where a number of parts comes from, in words."""
        count = self.pots.get(consistency, 0)
        if count:
            return f"shop log, {counted(count, 'pot')}"
        total = sum(self.pots.values())
        told = str(self.filler.sources.get(f"parts_{consistency}", SourceKind.MEMORY))
        return f"{told}, moved by {counted(total, 'pot')} of other words" if total else told


def learned(filler: Filler, log: Sequence[StirredFiller]) -> LearnedFiller:
    """A filler corrected by the pots logged of it: a Bayesian mean between the table and what was stirred in.

    One pot moves every consistency some way, since a finer powder is finer at all of them, and its own the most. The four
    stay in their order: more filler never runs more. Source of the spreads: memory.

    >>> from layup.library import generic
    >>> flour = generic().fillers[1]
    >>> pot = StirredFiller(filler_id=flour.id, consistency="stands", parts=1.6)
    >>> now = learned(flour, [pot, pot, pot])
    >>> round(now.filler.parts_stands, 2), round(now.filler.parts_peaks, 2), now.told_by("stands")
    (1.58, 1.1, 'shop log, 3 pots')
    """
    mine = [entry for entry in log if entry.filler_id == filler.id]
    if not mine:
        return LearnedFiller(filler, {})
    places = [CONSISTENCIES.index(entry.consistency) for entry in mine]
    found = np.log([entry.parts / filler.parts(entry.consistency) for entry in mine])
    prior = SIGMA_POWDER**2 + SIGMA_WORD**2 * np.eye(len(CONSISTENCIES))
    seen = prior[np.ix_(places, places)] + SIGMA_POT**2 * np.eye(len(mine))
    moved = prior[:, places] @ np.linalg.solve(seen, found)
    parts = np.maximum.accumulate([filler.parts(word) * exp(by) for word, by in zip(CONSISTENCIES, moved, strict=True)])
    pots = {word: places.count(at) for at, word in enumerate(CONSISTENCIES) if at in places}
    changed = {f"parts_{word}": float(value) for word, value in zip(CONSISTENCIES, parts, strict=True)}
    told = {f"parts_{word}": SourceKind.SHOP_LOG for word in pots}
    return LearnedFiller(filler.model_copy(update=changed | {"sources": filler.sources | told}), pots, filler)


def taught_filler(filler: Filler, consistency: Consistency, log: Sequence[StirredFiller]) -> Taught:
    """How many loose parts of a filler one of mixed resin takes to stand so: by the table, and with the shop's own pots.

    >>> from layup.library import generic
    >>> flour = generic().fillers[1]
    >>> pot = StirredFiller(filler_id=flour.id, consistency="stands", parts=1.6)
    >>> found = taught_filler(flour, "stands", [pot, pot, pot])
    >>> found.count, round(found.told, 2), round(found.now, 2)
    (3, 1.4, 1.58)
    """
    now = learned(filler, log).filler.parts(consistency)
    count = sum(pot.filler_id == filler.id and pot.consistency == consistency for pot in log)
    # A mean of so many, each off by a pot's own deviation, beside what was held before.
    sure = 1 / (SIGMA_POWDER**2 + SIGMA_WORD**2) + count / SIGMA_POT**2
    band = exp(NINE_IN_TEN * sure**-0.5)
    return Taught(count=count, told=filler.parts(consistency), now=now, least=now / band, most=now * band)


def thickened_share(total_g: float, aside_g: float, told_a_g: float, poured_a_g: float) -> float:
    """The mixed resin that was there to be thickened over what the ticket planned, by what was poured of part A. Exact.

    What is set aside plain is the same, so that a pot a fifth larger thickens more than a fifth more.

    >>> round(thickened_share(145, 45, 100, 120), 2)
    1.29
    """
    return (total_g * poured_a_g / told_a_g - aside_g) / (total_g - aside_g)


def parts_found(told_parts: float, of_told: float, made: float) -> float | None:
    """The loose parts that a pot took for one of its mixed resin, by its ticket's parts.

    `of_told` is the filler stirred in over what was told, `made` the resin that was really there over what was planned.
    None where either is too far off to be meant. Exact.

    >>> round(parts_found(1.4, 1.2, 1.1), 3), parts_found(1.4, 1.2, 0.1)
    (1.527, None)
    """
    if not all(1 / MOST_OFF <= share <= MOST_OFF for share in (of_told, made)):
        return None
    return told_parts * of_told / made
