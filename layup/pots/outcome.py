"""What a plan says of its pots and their tickets, as plain frozen records."""

from typing import Any, Literal

from pydantic import model_validator

from layup.job import Applied
from layup.marks import PourPart, PourTool
from layup.record import Record

# Which part a pour was, by what it was called, before tickets said it; the rest were part A.
_PART_OF_NAME: dict[str, PourPart] = {"B": "B", "R": "resin", "C": "catalyst"}
# What a pour was measured with, by its unit, before tickets said it.
_TOOL_OF_UNIT: dict[str, PourTool] = {"g": "scale", "mark": "numbered cup", "strokes": "pumps", "drops": "drops"}


class PourResult(Record):
    """One pour, as `tool` reads it; one unit of it is `unit_is` g, or ml."""

    what: str
    amount: float
    unit: str
    running: float | None
    tared: float | None
    note: str
    tool: PourTool
    unit_is: float = 1.0
    part: PourPart = "A"

    @property
    def grams(self) -> float | None:
        """What it weighs, where it is weighed."""
        return self.amount * self.unit_is if self.tool == "scale" else None


class StirInResult(Record):
    """One filler to stir into a pot: loose, by weight, and in cups of the size in hand."""

    filler_id: str
    name: str
    loose_ml: float
    grams: float
    cups: str
    parts: float
    told_by: str


class ThickenedResult(Record):
    """How a pot becomes paste. `aside_g` stays plain, for the brush; then the fillers, until it comes to `consistency`.

    `bead_m` is how far the pot runs, `opening_mm` how wide a bag's corner is cut. `paste_ml_per_g` is what a gram of its
    resin comes to in the cup, as its life is worked out with.
    """

    aside_g: float
    fillers: tuple[StirInResult, ...]
    consistency: str
    looks: str
    paste_ml: float
    scale_shows_g: float | None
    bead_m: float
    applied: Applied
    opening_mm: float
    load: tuple[str, ...]
    dust: str
    paste_ml_per_g: float | None = None


class TicketResult(Record):
    """What the mixer reads for one pot. `order_matters` where the second mark holds only with the first part beneath.

    `pours` are in the order they go in: part B before part A where `b_first`. The scale shows `cup_reads` for the empty
    cup, in its own `scale_unit`; `scale_checked` is what it showed of a known weight. `left_in_cup_min` is when it kicks if it is not poured out of its cup, where `life_min`
    counts on that.
    """

    by: Literal["weight", "volume"]
    cup_g: float
    cup_reads: float
    scale_unit: str
    pours: tuple[PourResult, ...]
    total_g: float | None
    ratio_error_pct: float
    scale_step_g: float
    mixing: tuple[str, ...]
    filler: str
    contact_min: float
    use_by_min: float
    life_min: float
    protection: tuple[str, ...]
    set_out: tuple[str, ...] = ()
    lays: str = ""
    order_matters: bool = False
    b_first: bool = False
    left_in_cup_min: float | None = None
    thickened: ThickenedResult | None = None
    scale_checked: str = ""

    @model_validator(mode="before")
    @classmethod
    def _as_first_written(cls, told: Any) -> Any:
        """Tickets of runs begun when no pour said which part it is, and of those when every scale read grams."""
        if not isinstance(told, dict):
            return told
        if all(isinstance(pour, dict) and "part" not in pour for pour in told.get("pours", ())):
            pours = [{**pour, "part": _PART_OF_NAME.get(pour["what"][:1], "A")} for pour in told["pours"]]
            told = told | {"pours": pours}
        if "scale_unit" in told:
            return told
        drawn = "syringe" if told["by"] == "weight" else "marked cup"
        pours = [{"tool": _TOOL_OF_UNIT.get(pour["unit"], drawn), **pour} for pour in told["pours"]]
        return told | {"cup_reads": told["cup_g"], "scale_unit": "g", "pours": pours}

    @property
    def first_part(self) -> PourResult:
        """Part A, or the resin, whenever it goes in."""
        return self.pours[1 if self.b_first else 0]

    @property
    def second_part(self) -> PourResult | None:
        """Part B, or the catalyst; None of what comes out of one tin."""
        return self.pours[0 if self.b_first else 1] if len(self.pours) > 1 else None


class PotResult(Record):
    """`count` alike pots, numbered from `first`, each shared by `shared_by` copies. Times in minutes from the moment the parts touch.

    It lives, to its gel, for `life_min`, and can be worked for `workable_share` of that.
    `laid_g` of its mass reaches the work; `sigma` is how widely ln of the share of life used spreads. It is sized for
    `room_c`, the room at its hour, and a catalysed one dosed for it. It is of the resin in use `use_id`, which `resin_name`
    tells where a job has several. `hardener` is the name of the one that sets it; `hardener_changes` where the pot before, of the
    same resin, was set by another. `bay` is the bay it is laid in, in words, where there are several.
    """

    id: str
    first: int
    count: int
    mass_g: float
    owner_id: str
    owner_name: str
    labels: tuple[str, ...]
    shared_by: int
    limited_by: str
    life_min: float
    working_share: float
    use_by_min: float
    spread_min: float
    chance_lost: float
    surplus_g: float
    ticket: TicketResult | None
    laid_g: float = 0
    sigma: float = 0
    room_c: float | None = None
    catalyst_pct: float | None = None
    workable_share: float = 1
    use_id: str = ""
    resin_name: str = ""
    bay: str = ""
    hardener: str = ""
    hardener_changes: bool = False

    def changes_at(self, number: int) -> bool:
        """Whether the hardener is another from one of its pots on."""
        return self.hardener_changes and number == self.first

    @property
    def where(self) -> str:
        """What it is laid on, and in which bay of that."""
        return f"{self.owner_name}, {self.bay}" if self.bay else self.owner_name


class Lever(Record):
    """Something that frees a pot, and the pot it gives, g; None where it does not help enough."""

    name: str
    mass_g: float | None


class StuckResult(Record):
    """Work for which no pot can be used inside its life, with how many works like it there are."""

    owner_id: str
    owner_name: str
    labels: tuple[str, ...]
    why: str
    floor_g: float
    levers: tuple[Lever, ...]
    alike: int = 1
