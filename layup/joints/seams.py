"""Seams alike, done a few at a time: wetted, filled and taped before the next few are begun."""

from functools import partial
from itertools import accumulate, pairwise

from layup.joints.plan import PlannedJoint
from layup.pots.work import Bay, Bays, counts_of_bays


def seams_in_turn(planned: PlannedJoint) -> Bays | None:
    """How the seams of a joint may be divided; a single one falls into its lengths of tape, if it has several."""
    alike, works = planned.joint.count, len(planned.works)
    lengths = min((tab.pieces for tab in planned.tabs), default=1)
    units = alike if alike > 1 else lengths
    if units < 2 or not planned.tabs:
        return None
    name = ("seam", "seams") if alike > 1 else ("length of tape", "lengths of tape")
    return Bays(counts_of_bays(units), divide=partial(_groups, units, works, name))


def _groups(units: int, works: int, name: tuple[str, str], count: int) -> tuple[Bay, ...]:
    most, rest = divmod(units, count)
    ends = list(accumulate(most + (n < rest) for n in range(count)))
    return tuple(
        Bay(number, _words(begins + 1, to, units, name), begins, to, ((to - begins) / units,) * works)
        for number, (begins, to) in enumerate(pairwise((0, *ends)), 1)
    )


def _words(first: int, last: int, of: int, name: tuple[str, str]) -> str:
    """Which of them, in words.

    >>> _words(4, 6, 10, ("seam", "seams")), _words(4, 4, 10, ("seam", "seams"))
    ('seams 4 to 6 of 10', 'seam 4 of 10')
    """
    if first == last:
        return f"{name[0]} {first} of {of}"
    return f"{name[1]} {first} {'and' if last == first + 1 else 'to'} {last} of {of}"
