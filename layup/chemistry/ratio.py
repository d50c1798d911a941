"""Ratios of part B to part A, by volume and by weight, and how far a mix is off."""

import re
from dataclasses import dataclass

from layup.errors import Missing, OutOfRange, Unreadable
from layup.materials import Basis, ResinSystem
from layup.scales import METRIC, Scales
from layup.units import figures

DISAGREEMENT_PCT = 2.0
_NUMBER = r"(\d+(?:[.,]\d+)?)"


@dataclass(frozen=True)
class WeightRatio:
    """Parts B to one part A by weight, where it comes from and what to remark on it."""

    b_per_a: float
    derived: bool
    remark: str = ""

    @property
    def parts_b_per_100_a(self) -> float:
        return 100 * self.b_per_a


def weight_ratio_from_volume(b_per_a_volume: float, density_a: float, density_b: float) -> float:
    """B per A by weight from the ratio by volume and the densities in g/cm³. Exact.

    >>> round(100 * weight_ratio_from_volume(0.5, 1.15, 1.04), 1)
    45.2
    """
    return b_per_a_volume * density_b / density_a


def require_basis(resin: ResinSystem, basis: Basis) -> None:
    """Refuse a way of measuring that the product does not allow. Raises OutOfRange."""
    if basis not in resin.bases:
        allowed = " or ".join(resin.bases)
        extra = ", and its densities are not known" if basis == "weight" and resin.density_g_per_cm3 is None else ""
        raise OutOfRange(f"{resin.name} may be measured by {allowed} only{extra}: measure it by {allowed}")


def weight_ratio(resin: ResinSystem, density_b: float | None, scales: Scales = METRIC) -> WeightRatio:
    """The ratio by weight of a two-part system: the stated one, or worked from volume and densities.

    Never infers weight from volume without both densities: raises Missing and says which.
    """
    worked, by_volume = None, resin.ratio_volume_b_per_a
    if by_volume and resin.density_g_per_cm3 and density_b:
        worked = weight_ratio_from_volume(by_volume, resin.density_g_per_cm3, density_b)
    if resin.ratio_weight_b_per_a:
        stated = resin.ratio_weight_b_per_a
        if worked and abs(worked / stated - 1) * 100 > DISAGREEMENT_PCT:
            return WeightRatio(
                stated, False, f"the sheet's volume ratio and densities give 100:{scales.written(100 * worked, '.1f')}"
            )
        return WeightRatio(stated, False)
    if worked is None or by_volume is None:
        absent = "resin" if not resin.density_g_per_cm3 else "hardener"
        raise Missing(f"the density of the {absent} is not known, so {resin.name} cannot be weighed: read its sheet")
    lighter = "since B is lighter" if worked < by_volume else "since B is heavier"
    return WeightRatio(
        worked,
        True,
        f"100:{scales.written(100 * by_volume)} by volume is 100:{scales.written(100 * worked, '.1f')} by weight, {lighter}",
    )


_PER: dict[str, float] = {
    "l": 1000.0,
    "litre": 1000.0,
    "liter": 1000.0,
    "litres": 1000.0,
    "quart": 946.353,
    "qt": 946.353,
}


def parse_dose(text: str, resin_g_per_cm3: float | None, catalyst_g_per_cm3: float) -> float:
    """A dose of catalyst, % by weight, from words as printed: "1.5 %", "2 phr", "9 ml per litre", "10 ml/kg", "12 cc per
    quart", "100:1" with the resin first.

    A dose by volume of resin needs the resin's density. A quart is the US one. Raises Unreadable, Missing or OutOfRange.

    >>> parse_dose("1.5 %", 1.1, 1.12), round(parse_dose("9 ml per litre", 1.1, 1.12), 3)
    (1.5, 0.916)
    >>> round(parse_dose("10 ml per kg", None, 1.12), 2), round(parse_dose("12.5 cc per quart", 1.1, 1.12), 2)
    (1.12, 1.34)
    >>> parse_dose("100:1", None, 1.12), parse_dose("50 to 1", None, 1.12)
    (1.0, 2.0)
    """
    words = text.strip().lower()
    if match := re.fullmatch(rf"{_NUMBER}\s*(?:%|phr|pph|percent)?", words):
        pct = _number(match[1])
    elif match := re.fullmatch(_NUMBER + _BETWEEN + _NUMBER, words):
        resin, dose = _number(match[1]), _number(match[2])
        if resin < dose or not dose:
            raise Unreadable(f"“{text}” is no dose: type the resin first, such as 100:1 for 1 %")
        pct = 100 * dose / resin
    elif match := re.fullmatch(rf"{_NUMBER}\s*(ml|cc|g)\s*(?:per|/|to the|to a)\s*(kg|kilo|[a-z]+)", words):
        grams = _number(match[1]) * (1.0 if match[2] == "g" else catalyst_g_per_cm3)
        if match[3] in ("kg", "kilo"):
            pct = grams / 10
        elif match[3] in _PER:
            if resin_g_per_cm3 is None:
                raise Missing(
                    "the density of the resin is not known: type the dose by weight, such as 1.5 % or 15 g per kg"
                )
            pct = 100 * grams / (_PER[match[3]] * resin_g_per_cm3)
        else:
            raise Unreadable(f"“{text}” names no amount of resin: per kg, per litre or per quart")
    else:
        raise Unreadable(f"“{text}” is no dose: type it as printed, such as 1.5 %, 9 ml per litre or 10 ml per kg")
    if not 0 < pct <= 10:
        raise OutOfRange(f"“{text}” is {figures(pct, 3)} % by weight: no resin takes that")
    return pct


def _number(text: str) -> float:
    return float(text.replace(",", "."))


@dataclass(frozen=True)
class Ratio:
    """A ratio as it was read: parts B to one part A, and the words that name which is which."""

    b_per_a: float

    @property
    def words(self) -> str:
        """The ratio with its order named.

        >>> Ratio(1.1).words
        '110 of B to 100 of A'
        """
        return f"{figures(100 * self.b_per_a, 4)} of B to 100 of A"


LEAST_RATIO, MOST_RATIO = 0.005, 20.0
_NAMES = {"a": "A", "resin": "A", "base": "A", "b": "B", "hardener": "B", "activator": "B"}
_NAME = rf"({'|'.join(_NAMES)})"
_AMOUNT = rf"(?:{_NAME}\s*)?{_NUMBER}(?:\s*(?:g|kg|ml|l|cc)\b)?(?:\s*{_NAME})?"
_BETWEEN = r"\s*(?::|/|\+|\bto\b|\band\b)\s*"
# Words of a label that say nothing of the ratio itself.
_SAYS_NOTHING = re.compile(
    r"\bby (?:volume|weight|mass)\b|\bmix(?:ing)? ratio\b|\bratio\b|\bparts?\b(?! per)|\bof\b|=", re.IGNORECASE
)
_ORDER = re.compile(rf"{_NAME}\s*[:/]\s*{_NAME}\s+(?=\d)")


def parse_ratio(text: str) -> Ratio:
    """B to A from a ratio as printed: "2:1", "100:45", "5 to 1", "45 phr", "50 %", "1 part B to 2 parts A", "0.45".

    A comes first, as tins print it, unless the names say otherwise; a bare number is B for one of A. Raises Unreadable
    or OutOfRange.

    >>> [parse_ratio(text).b_per_a for text in ("2:1", "100:45", "45 phr", "5 to 1", "100:110", "110 phr", "1:2")]
    [0.5, 0.45, 0.45, 0.2, 1.1, 1.1, 2.0]
    >>> parse_ratio("1 part B to 2 parts A").words, parse_ratio("hardener:resin 1:4").words
    ('50 of B to 100 of A', '25 of B to 100 of A')
    """
    words = " ".join(_SAYS_NOTHING.sub(" ", text.lower()).split())
    if match := re.fullmatch(rf"{_NUMBER}\s*(?:%|phr|pph|parts per hundred|per 100|percent)", words):
        value = _number(match[1]) / 100
    elif match := re.fullmatch(_NUMBER, words):
        value = _number(match[1])
    else:
        value = _two_amounts(words, text)
    if not LEAST_RATIO <= value <= MOST_RATIO:
        raise OutOfRange(
            f"“{text.strip()}” reads as {figures(100 * value, 4)} of B to 100 of A, and no resin takes that: "
            "type it as printed, A first, such as 2:1 or 100:45"
        )
    return Ratio(value)


def _two_amounts(words: str, text: str) -> float:
    order = _ORDER.match(words)
    words = words[order.end() :] if order else words
    match = re.fullmatch(_AMOUNT + _BETWEEN + _AMOUNT, words)
    if not match:
        raise Unreadable(f"“{text.strip()}” is no ratio: type it as printed, A first, such as 2:1, 100:45 or 45 phr")
    first, second = order.groups() if order else (match[1] or match[3], match[4] or match[6])
    parts = _NAMES.get(first), _NAMES.get(second)
    if parts[0] and parts[0] == parts[1]:
        raise Unreadable(f"“{text.strip()}” names one part twice: A is the resin, B the hardener")
    a, b = _number(match[2]), _number(match[5])
    if parts[0] == "B" or parts[1] == "A":
        a, b = b, a
    return b / a if a else 0.0
