"""Ratios of part B to part A, by volume and by weight, and how far a mix is off."""

import re
from dataclasses import dataclass

from layup.errors import Missing, OutOfRange, Unreadable
from layup.materials import Basis, ResinSystem

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


def weight_ratio(resin: ResinSystem, density_b: float | None) -> WeightRatio:
    """The ratio by weight of a two-part system: the stated one, or worked from volume and densities.

    Never infers weight from volume without both densities: raises Missing and says which.
    """
    worked = None
    if resin.ratio_volume_b_per_a and resin.density_g_per_cm3 and density_b:
        worked = weight_ratio_from_volume(resin.ratio_volume_b_per_a, resin.density_g_per_cm3, density_b)
    if resin.ratio_weight_b_per_a:
        stated = resin.ratio_weight_b_per_a
        if worked and abs(worked / stated - 1) * 100 > DISAGREEMENT_PCT:
            return WeightRatio(stated, False, f"the sheet's volume ratio and densities give 100:{100 * worked:.1f}")
        return WeightRatio(stated, False)
    if worked is None:
        absent = "resin" if not resin.density_g_per_cm3 else "hardener"
        raise Missing(f"the density of the {absent} is not known, so {resin.name} cannot be weighed: read its sheet")
    by_volume = 100 * resin.ratio_volume_b_per_a
    lighter = "since B is lighter" if worked < resin.ratio_volume_b_per_a else "since B is heavier"
    return WeightRatio(worked, True, f"100:{by_volume:g} by volume is 100:{100 * worked:.1f} by weight, {lighter}")


_PER: dict[str, float] = {
    "l": 1000.0,
    "litre": 1000.0,
    "liter": 1000.0,
    "litres": 1000.0,
    "quart": 946.353,
    "qt": 946.353,
}


def parse_dose(text: str, resin_g_per_cm3: float | None, catalyst_g_per_cm3: float) -> float:
    """A dose of catalyst, % by weight, from words as printed: "1.5 %", "2 phr", "9 ml per litre", "10 ml/kg", "12 cc per quart".

    A dose by volume of resin needs the resin's density. A quart is the US one. Raises Unreadable, Missing or OutOfRange.

    >>> parse_dose("1.5 %", 1.1, 1.12), round(parse_dose("9 ml per litre", 1.1, 1.12), 3)
    (1.5, 0.916)
    >>> round(parse_dose("10 ml per kg", None, 1.12), 2), round(parse_dose("12.5 cc per quart", 1.1, 1.12), 2)
    (1.12, 1.34)
    """
    words = text.strip().lower()
    if match := re.fullmatch(rf"{_NUMBER}\s*(?:%|phr|pph|percent)?", words):
        pct = _number(match[1])
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
        raise OutOfRange(f"“{text}” is {pct:.3g} % by weight: no resin takes that")
    return pct


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def parse_ratio(text: str) -> float:
    """B per A from a ratio as printed: "2:1", "100:45", "5 to 1", "45 phr", "50 %".

    The larger number is taken for A, as tins print it.

    >>> parse_ratio("2:1"), parse_ratio("100:45"), parse_ratio("45 phr"), parse_ratio("5 to 1")
    (0.5, 0.45, 0.45, 0.2)
    """
    text = text.strip()
    if match := re.fullmatch(rf"{_NUMBER}\s*(?:%|phr|pph)", text, re.IGNORECASE):
        value = float(match[1].replace(",", ".")) / 100
    elif match := re.fullmatch(rf"{_NUMBER}\s*(?::|/|to)\s*{_NUMBER}", text, re.IGNORECASE):
        numbers = [float(number.replace(",", ".")) for number in match.groups()]
        value = min(numbers) / max(numbers) if max(numbers) else 0
    else:
        raise Unreadable(f"“{text}” is no ratio: type it as printed, such as 2:1, 100:45 or 45 phr")
    if not 0 < value <= 1:
        raise OutOfRange(f"“{text}” gives no sound ratio: type it as printed, such as 2:1")
    return value
