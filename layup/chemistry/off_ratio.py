"""A mix that is off its ratio: how bad it is, and what put in now brings it back."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

from layup.errors import OutOfRange
from layup.scales import METRIC, Scales

Grade = Literal["within tolerance", "outside", "gone"]
GONE_AT_TOLERANCES = 4.0  # memory: past four times its tolerance a mix stays liquid or rubbery
LATEST_SHARE = 0.15  # memory: of its life; later a part put in no longer mixes into what has begun
HOTTEST_C = 30.0  # memory

_WILL = {
    "within tolerance": "it cures as it should",
    "outside": "left so it stays soft or brittle, and no warmth mends it after",
    "gone": "left so it stays liquid or rubbery for good: do not use it",
}


@dataclass(frozen=True)
class Cup:
    """What a pot stands in: the most it may weigh by its cup, its resin and its shop; how far on and how hot it is."""

    most_g: float
    life_used: float = 0.0
    surface_c: float | None = None


@dataclass(frozen=True)
class Verdict:
    """How far a mix is off, in per cent of what is wanted, and what to put in. `add_g` is nought where nothing helps.

    `pot_g` and `life_min` are of the pot mended; `refused` says why it may not be.
    """

    off_pct: float
    grade: Grade
    words: str
    add: str = ""
    add_g: float = 0.0
    pot_g: float = 0.0
    life_min: float | None = None
    refused: str = ""

    def unfit(self, scales: Scales = METRIC) -> str:
        """Why it must not be used as it stands and what to do with it; nothing where it is fit to use.

        >>> two_part(372, 120, 0.452, 5, Cup(most_g=1000), lambda mass_g: 25.0).unfit()[-52:]
        'do not use it. To mend it now, mix in 48 g more of B'
        """
        if self.grade == "within tolerance":
            return ""
        to_do = self.refused or f"To mend it now, mix in {scales.mass(self.add_g)} more of {self.add}"
        return f"{self.words}. {to_do}"


def grade_of(off_pct: float, tolerance_pct: float) -> Grade:
    """The grade of a two-part mix by how far its ratio is off. Source: memory; the sheet's tolerance wins.

    >>> grade_of(4, 5), grade_of(-12, 5), grade_of(40, 5)
    ('within tolerance', 'outside', 'gone')
    """
    if abs(off_pct) <= tolerance_pct:
        return "within tolerance"
    return "outside" if abs(off_pct) <= GONE_AT_TOLERANCES * tolerance_pct else "gone"


def two_part(
    a_g: float,
    b_g: float,
    b_per_a: float,
    tolerance_pct: float,
    cup: Cup,
    life_min: Callable[[float], float],
    scales: Scales = METRIC,
) -> Verdict:
    """What to make of a of A and b of B where r = B/A is wanted: b > r a asks for b/r − a of A, else r a − b of B.

    `life_min` gives the life of a pot by its mass, g: a mended pot is a new one. Exact.

    >>> mend = two_part(372, 120, 0.452, 5, Cup(most_g=1000), lambda mass_g: 25.0)
    >>> mend.grade, mend.add, round(mend.add_g)
    ('gone', 'B', 48)
    """
    _both(a_g, b_g)
    off = 100 * (b_g / a_g / b_per_a - 1)
    grade = grade_of(off, tolerance_pct)
    which = "hardener heavy" if off > 0 else "resin heavy"
    words = f"{abs(off):.0f} % {which}: {_WILL[grade]}"
    if grade == "within tolerance":
        words = (
            f"{scales.written(abs(off), '.1f')} % {which}, within the {scales.written(tolerance_pct)} % it takes"
            if abs(off) >= 0.05
            else "on its ratio"
        )
        return Verdict(off, grade, words)
    add, add_g = ("A", b_g / b_per_a - a_g) if off > 0 else ("B", a_g * b_per_a - b_g)
    return _mended(Verdict(off, grade, words, add, add_g, a_g + b_g + add_g), cup, life_min, scales)


def catalysed(
    resin_g: float,
    catalyst_g: float,
    wanted_pct: float,
    limits_pct: tuple[float, float],
    cup: Cup,
    gel_min: Callable[[float], float],
    scales: Scales = METRIC,
) -> Verdict:
    """What to make of a dose: inside the limits it gels at another time; past them, more of the other.

    Catalyst cannot be taken out. `gel_min` gives the gel time by the dose, %.

    >>> over = catalysed(1000, 30, 1.0, (1.0, 2.0), Cup(most_g=4000), lambda pct: 30 / pct)
    >>> over.grade, over.add, round(over.add_g), round(over.life_min)
    ('outside', 'resin', 2000, 30)
    """
    _both(resin_g, catalyst_g)
    least, most = limits_pct
    pct = 100 * catalyst_g / resin_g
    off = 100 * (pct / wanted_pct - 1)
    if least <= pct <= most:
        words = f"{scales.written(pct, '.2f')} %, inside the product's {scales.written(least)} to {scales.written(most)}: gels in {gel_min(pct):.0f} min"
        return Verdict(off, "within tolerance", words, life_min=gel_min(pct))
    if pct > most:
        words = f"{scales.written(pct, '.2f')} % is over the most, {scales.written(most)} %: it cooks, cracks or is left soft"
        mended = Verdict(off, "outside", words, "resin", 100 * catalyst_g / wanted_pct - resin_g)
    else:
        words = f"{scales.written(pct, '.2f')} % is under the least, {scales.written(least)} %: it never cures through"
        mended = Verdict(off, "outside", words, "catalyst", wanted_pct / 100 * resin_g - catalyst_g)
    whole = replace(mended, pot_g=resin_g + catalyst_g + mended.add_g)
    return _mended(whole, cup, lambda mass_g: gel_min(wanted_pct), scales)


def _both(first_g: float, second_g: float) -> None:
    if first_g <= 0 or second_g <= 0:
        raise OutOfRange("both were poured, or there is nothing to mend: type what the scale showed of each")


def _mended(verdict: Verdict, cup: Cup, life_min: Callable[[float], float], scales: Scales) -> Verdict:
    thin = "spread it thin where it does no harm, outdoors, and start again"
    if cup.life_used >= LATEST_SHARE:
        return _refused(verdict, f"{cup.life_used:.0%} of its life is gone: too late to mend. {thin.capitalize()}")
    if cup.surface_c is not None and cup.surface_c >= HOTTEST_C:
        return _refused(
            verdict, f"at {scales.temperature(cup.surface_c)} it is too far on to mend. {thin.capitalize()}"
        )
    if verdict.pot_g > cup.most_g:
        return _refused(
            verdict,
            f"it would take {scales.mass(verdict.add_g)} more, {scales.mass(verdict.pot_g)} in all: over the "
            f"{scales.mass(cup.most_g)} this pot may be. {thin.capitalize()}",
        )
    return replace(verdict, life_min=life_min(verdict.pot_g))


def _refused(verdict: Verdict, why: str) -> Verdict:
    return replace(verdict, add="", add_g=0.0, refused=why)
