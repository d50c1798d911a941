"""A ply stack written as a quick line: what is read of it again is the same."""

import re
from collections.abc import Callable, Sequence

from layup.errors import known
from layup.fabric_words import kinds
from layup.laminate.quick_ply import INCH_MM, QuickPly, film_gsm
from layup.materials import Fabric
from layup.scales import METRIC, Scales
from layup.units import convert

_SOLD_BY = re.compile(r"[\d.]+ oz\b")


def quick_words(
    *, weight: str, kind: str, angle: str = "", strip: str = "", extra_mm: str = "", psi_pct: str = ""
) -> str:
    """One ply's words for the quick line from the cells of a table; an empty cell says nothing.

    >>> quick_words(weight="300", kind="cloth", angle="45", extra_mm="50", psi_pct="47.5")
    '300 g/m² cloth 45 +50 psi 47.5%'
    """
    words = [f"{weight} g/m²", kind.replace(",", " "), angle.replace(",", " ")]
    words += [f"@ {strip}"] if strip else []
    words += [f"+{extra_mm}"] if extra_mm and extra_mm != "0" else []
    words += [f"psi {psi_pct}%"] if psi_pct else []
    return " ".join(word for word in words if word)


def format_line(plies: Sequence[QuickPly], scales: Scales = METRIC) -> str:
    """Write plies back as a quick line; `parse_line` of the result, in the same scales, gives the same plies.

    >>> from layup.library import generic
    >>> from layup.laminate.notation import parse_line
    >>> format_line(parse_line("450 mat, 450 csm, 600 biaxial 45 +50", generic().fabrics).plies)
    '2x 450 csm, 600 biax 45 +50'
    >>> US = Scales("US", fabric_unit="oz")
    >>> format_line(parse_line("1.5 csm, 18 biax +2in", generic(in_ounces=True).fabrics, scales=US).plies, US)
    '1.5 oz csm, 18 oz biax +2in'
    """
    runs: list[tuple[QuickPly, int]] = []
    for ply in plies:
        if runs and runs[-1][0] == ply:
            runs[-1] = (ply, runs[-1][1] + 1)
        else:
            runs.append((ply, 1))
    return ", ".join(_write(ply, count, scales) for ply, count in runs)


def _write(ply: QuickPly, count: int, scales: Scales) -> str:
    words = [f"{count}x"] if count > 1 else []
    words += _of_what(ply, scales)
    words += [ply.angle] if ply.angle else []
    words += [f"@ {ply.strip}"] if ply.strip else []
    words += [f"+{_wider(ply.extra_mm, scales)}"] if ply.extra_mm else []
    words += [f"psi {ply.fibre_weight_fraction:g}"] if ply.fibre_weight_fraction is not None else []
    return " ".join(words)


def _of_what(ply: QuickPly, scales: Scales) -> list[str]:
    by_ounces = scales.fabric_unit == "oz"
    if ply.coat:
        return [
            _coat_words(ply.coat.resin_gsm, scales) if by_ounces else f"{ply.coat.resin_gsm:g}",
            f"{ply.coat.kind} coat",
        ]
    fabric = known(ply.fabric)
    word = kinds()[fabric.kind]["words"][0]
    if fabric.core_thickness_mm:
        return [_thick(fabric.core_thickness_mm, scales), word]
    return [_in_ounces(fabric) if by_ounces else f"{fabric.areal_weight_gsm:g}", word]


def _coat_words(resin_gsm: float, scales: Scales) -> str:
    """A coat as the film that it is measured as."""
    ounce = "US fl oz" if scales.fluid_ounce == "us" else "Imperial fl oz"
    gsm_per_ounce = film_gsm(1, ounce, "ft²")
    written = _shortest(resin_gsm / gsm_per_ounce, lambda ounces: round(ounces * gsm_per_ounce, 1) == resin_gsm)
    return f"{written} fl oz/ft²"


def _thick(thickness_mm: float, scales: Scales) -> str:
    if scales.unit_set == "metric":
        return f"{thickness_mm:g} mm"
    return f"{_in_inches(thickness_mm, within_mm=5e-4 * thickness_mm)} in"


def _wider(extra_mm: float, scales: Scales) -> str:
    if scales.unit_set == "metric":
        return f"{extra_mm:g}"
    return f"{_in_inches(extra_mm, within_mm=5e-4)}in"


def _in_inches(length_mm: float, *, within_mm: float) -> str:
    return _shortest(length_mm / INCH_MM, lambda inches: abs(inches * INCH_MM - length_mm) <= within_mm)


def _shortest(value: float, read_back: Callable[[float], bool]) -> str:
    """The number with the fewest decimals that reads back as what it stands for."""
    written = (f"{value:.{digits}f}" for digits in range(8))
    return next((words for words in written if read_back(float(words))), f"{value:.8f}")


def _in_ounces(fabric: Fabric) -> str:
    """The ounces that a fabric's own name says, else those of its weight."""
    sold = _SOLD_BY.match(fabric.name)
    if sold:
        return sold[0]
    unit = "oz/ft²" if fabric.ounce_base == "square foot" else "oz/yd²"
    return f"{round(convert(fabric.areal_weight_gsm, 'g/m²', unit), 2):g} oz"
