"""What is cut, done and bought before a pot is opened, as plain frozen records beside the plan."""

from collections.abc import Mapping, Sequence
from typing import Literal

from layup.architecture import Architecture
from layup.materials import Fibre
from layup.record import Record
from layup.scales import Scales
from layup.stock.articles import amount_words as stock_words


class CutPiece(Record):
    """One piece to cut, numbered in laying order. `along_mm` is along the warp, `across_mm` across the roll. It is of the
    `bay`, in words, where its part is laid in several."""

    id: str
    number: int
    part_id: str
    part_name: str
    copy_number: int
    copies: int
    ply_id: str
    ply_number: int
    fabric_id: str
    fabric_name: str
    angle: str
    along_mm: int
    across_mm: int
    part_of: str
    edges: Literal["torn", "cut"]
    notes: tuple[str, ...]
    bay: str = ""

    def size_words(self, scales: Scales) -> str:
        """What is cut, along and across."""
        return f"{scales.number('cut', self.along_mm)} × {scales.words('cut', self.across_mm)} {self.fabric_name}"


# Where the bays of each part end that is laid in several, m along it, by its id.
Divided = Mapping[str, Sequence[float]]


class PlacedPiece(Record):
    """Where a piece lies on its roll, from its corner nearest the roll's beginning, mm."""

    piece_id: str
    number: int
    x_mm: float
    y_mm: float
    across_mm: float
    along_mm: float
    turned: bool
    label: str


class Offcut(Record):
    """A piece of a fabric that was left over, in the stock: a lot of its own, so wide and so long, mm. `not_for` are pieces that are
    cut from elsewhere already.
    """

    lot_id: str
    called: str
    fabric_id: str
    width_mm: int
    length_mm: int
    not_for: frozenset[str] = frozenset()


class CutRoll(Record):
    """One roll with the pieces cut from it: `run_m` comes off it, `waste_share` of that is in no piece. An offcut is one, too: the
    lot `lot_id`, and what it is `called`.
    """

    fabric_id: str
    fabric_name: str
    number: int
    roll_width_mm: float
    roll_length_m: float | None
    run_m: float
    area_m2: float
    waste_share: float
    architecture: Architecture
    fibre: Fibre
    pieces: tuple[PlacedPiece, ...]
    lot_id: str = ""
    called: str = ""


class CutPlan(Record):
    """Every piece in laying order, and the rolls they are cut from."""

    pieces: tuple[CutPiece, ...]
    rolls: tuple[CutRoll, ...]


class PrepLine(Record):
    """One thing to do before a pot is opened. One that is a `gate` keeps the first pot shut until it is signed off."""

    id: str
    words: str
    why: str
    source: str
    gate: bool = False
    part_id: str = ""
    part_name: str = ""


Chapter = Literal["fabric", "resin", "filler", "used up"]


BuyUnit = Literal["m", "kg", ""]


class Sold(Record):
    """How a thing is sold, in the unit of its line: by what sizes, where they are known, at what price; fabric how wide."""

    sizes: tuple[float, ...] = ()
    price: float | None = None
    wide_mm: float | None = None


class BuyLine(Record):
    """One line of a shopping list: what, which variant, how much is needed, and what to buy of it in the sizes it is sold in.

    `free` of the need is there for the job, of the `article`, by its key: the rest is bought.
    """

    chapter: Chapter
    what: str
    variant: str
    need: float
    unit: BuyUnit
    buy: str
    cost: float | None
    source: str
    article: str = ""
    sold: Sold = Sold()
    free: float = 0.0


def need_words(line: BuyLine, scales: Scales) -> str:
    """What is needed of a line, in words, and how much of that is there."""
    need = amount_words(line.unit, line.need, scales)
    return f"{need}; {amount_words(line.unit, line.free, scales)} there" if line.free else need


def amount_words(unit: BuyUnit, amount: float, scales: Scales) -> str:
    """An amount in the unit of its line, in words.

    >>> from layup.scales import METRIC
    >>> amount_words("kg", 1.25, METRIC), amount_words("", 1200, METRIC)
    ('1,250 g', '1,200')
    """
    return stock_words("g", 1000 * amount, scales) if unit == "kg" else stock_words(unit, amount, scales)


class ShoppingList(Record):
    """What to buy for a job. `total` is of what is bought of the lines whose price is known.

    `per_m2` is of what the job covers, as if all of it were bought, and known where every fabric, resin and filler has its price.
    """

    lines: tuple[BuyLine, ...]
    total: float | None
    per_m2: float | None
    area_m2: float
    unpriced: tuple[str, ...]
