"""A ply as it is written in the quick line, and what is asked about where it cannot be taken."""

from dataclasses import dataclass
from fractions import Fraction

from layup.job import Coat
from layup.materials import Fabric
from layup.units import convert

MIXED_G_PER_ML = 1.1  # of a mixed laminating resin (memory)
INCH_MM = convert(1, "in", "mm")


@dataclass(frozen=True)
class QuickPly:
    """One ply as written: its fabric or its coat and what was said about it. `extra_mm` is added on each side.

    `strip` names the strip of the part it lies on; all of the part where it is empty.
    """

    fabric: Fabric | None = None
    angle: str = ""
    extra_mm: float = 0.0
    fibre_weight_fraction: float | None = None
    strip: str = ""
    coat: Coat | None = None


@dataclass(frozen=True)
class QuickProblem:
    """A stretch of the line, from `start` to `end`, that could not be taken, with texts offered in its place."""

    start: int
    end: int
    message: str
    offers: tuple[str, ...] = ()


@dataclass(frozen=True)
class QuickLine:
    plies: tuple[QuickPly, ...]
    problems: tuple[QuickProblem, ...]
    notes: tuple[str, ...]


class Doubt(Exception):
    def __init__(self, message: str, start: int, end: int, offers: tuple[str, ...] = ()):
        super().__init__(message)
        self.problem = QuickProblem(start, end, message, offers)


def film_gsm(ounces: float, ounce: str, per: str) -> float:
    return ounces * convert(1, ounce, "ml") / convert(1, per, "m²") * MIXED_G_PER_ML


def number_of(words: str) -> float:
    """A number as it is typed, with the fraction of an inch.

    >>> number_of("1 3/8"), number_of("0.5")
    (1.375, 0.5)
    """
    return float(sum(map(Fraction, words.split())))
