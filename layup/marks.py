"""How the tools of a bench are read: from mark to mark, in the unit printed on them."""

from dataclasses import dataclass
from typing import Literal

from layup.customs import UNSAID, Customs

DoseTool = Literal["scale", "syringe", "drops"]
VolumeTool = Literal["marked cup", "numbered cup", "pumps"]
# Which part of a mix a pour is; of what comes out of one tin it is all of it.
PourPart = Literal["A", "B", "resin", "catalyst", "all"]
PourTool = Literal["scale", "syringe", "drops", "marked cup", "numbered cup", "pumps"]
RESIDUE_ML = 2.0  # stays on the wall of a measuring cup (memory)


@dataclass(frozen=True)
class Marks:
    """How a tool is read: from one mark to the next it is `step`, in the `unit` printed on it; one unit is `unit_is` g or ml.

    It holds `most` of its unit at once, where that is known.
    """

    step: float
    unit: str
    unit_is: float = 1.0
    customs: Customs = UNSAID
    most: float | None = None

    @property
    def step_core(self) -> float:
        """What a mark stands for, g or ml."""
        return self.step * self.unit_is

    def nearest(self, core_value: float) -> float:
        """What the tool is made to read for so many g or ml: its own unit, at one of its marks.

        >>> Marks(0.05, "oz", 28.349523125).nearest(340.2)
        12.0
        """
        return round_to(core_value / self.unit_is, self.step)

    def reads(self, value: float) -> str:
        """A value of the tool's in words.

        >>> Marks(0.05, "oz", 28.349523125).reads(12.05)
        '12.05 oz'
        """
        return f"{self.customs.number(value, '.10g')} {self.unit}"


GRAMS = Marks(1, "g")


def round_to(value: float, step: float) -> float:
    """A value rounded to the nearest mark of a tool.

    >>> round_to(282.4, 1), round_to(10.74, 0.2)
    (282.0, 10.8)
    """
    return float(round(round(value / step) * step, 6))
