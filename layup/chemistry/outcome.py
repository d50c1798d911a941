"""What a plan says of the chemistry, as plain frozen records."""

from layup.record import Record


class HardenerResult(Record):
    """One hardener weighed up; times in minutes, the pot life that of the job's largest pot in its cup.

    The times are None under the family's lowest band, where nothing is defined.
    """

    id: str
    name: str
    band_low_c: float
    band_high_c: float
    steps_off: int
    pot_life_min: float | None
    next_ply_from_min: float | None
    window_closes_min: float | None
    sandable_min: float | None
    chosen: bool
    reason: str
    blend: bool = False


class DoseRow(Record):
    catalyst_pct: float
    gel_min: tuple[float, ...]
    at_room_min: float = 0


class DoseResult(Record):
    """The catalyst dose; the chart gives gel minutes at `chart_temperatures_c`."""

    catalyst_pct: float
    solved_pct: float
    wanted_gel_min: float
    gel_min: float
    least_pct: float
    most_pct: float
    limit: str
    instead: tuple[str, ...]
    chart_temperatures_c: tuple[float, ...]
    chart: tuple[DoseRow, ...]
    understood: str = ""


class ClocksResult(Record):
    """Minutes from the mixing of a thin layer to each state; no state but the next ply comes at nought.

    Each may take `may_take` times as long; `remark` says where the room makes that much.
    """

    next_ply_from_min: float
    window_closes_min: float
    knife_trim_min: float
    sandable_min: float
    load_min: float
    clamps_out_min: float = 0
    full_cure_min: float = 0
    tack_min: float = 0
    may_take: float = 1.25
    remark: str = ""


class GelLine(Record):
    """One line of the gel chart: minutes at the chart's temperatures. The thick stretch is the band it is made for."""

    name: str
    minutes: tuple[float, ...]
    band_low_c: float | None
    band_high_c: float | None
    chosen: bool
    low_min: tuple[float, ...] = ()
    high_min: tuple[float, ...] = ()


class LabelPoint(Record):
    """One time of the label, or one of the shop's own, as the chosen line would have it on the chart.

    `far_off` where it does not fit the rest. `row` is its place in the label's table, None for the pot life stated
    beside it and for a gel of the shop; its typed minutes are those on the chart over `times_told`.
    """

    temperature_c: float
    minutes: float
    far_off: bool
    shop: bool = False
    row: int | None = None
    times_told: float = 1.0


class BlendPoint(Record):
    """A share of the second hardener, and the life it gives the job's largest pot."""

    share: float
    life_min: float


class BlendResult(Record):
    """What lies between the hardener in hand and another of its family."""

    with_id: str
    with_name: str
    points: tuple[BlendPoint, ...]


class GelChart(Record):
    """The gel chart. Two-part lines are for a pot of `pot_g` in its cup; a catalysed gel does not depend on mass."""

    temperatures_c: tuple[float, ...]
    lines: tuple[GelLine, ...]
    life_at_room_min: float | None
    pot_g: float | None
    points: tuple[LabelPoint, ...] = ()


class DoseWay(Record):
    """The dose of the job's largest pot by one tool: what it really is, and how far half a mark puts it out, %.

    `fit` where the tool is fine enough for it; else `words` say from which pot on it is.
    """

    tool: str
    amount: float
    unit: str
    real_pct: float
    error_pct: float
    fit: bool
    words: str


class ChemistryResult(Record):
    """The verdict on the resin at this temperature. `life_min` is of the job's largest pot, to its gel, and `workable_min` the
    part of it for which it can be worked; `peak_c` its mean's
    peak if it is left in its cup. `rough` while a table of the heat model is still being built for one of its hardeners.
    `tin_ratio_words` names the order of the ratio that was typed off the tin."""

    two_part: bool
    resin_name: str
    sentence: str
    reason: str
    life_min: float | None
    life_give_or_take_min: float | None
    life_of_pot_g: float | None
    needed_min: float | None
    ratio_by_volume: str
    ratio_by_weight: str
    ratio_remark: str
    mixed_signs: str
    hardeners: tuple[HardenerResult, ...]
    dose: DoseResult | None
    chart: GelChart
    clocks: ClocksResult | None = None
    label_doubts: tuple[str, ...] = ()
    shop_words: str = ""
    peak_c: float | None = None
    peak_words: str = ""
    blends: tuple[BlendResult, ...] = ()
    dose_ways: tuple[DoseWay, ...] = ()
    curing_signs: str = ""
    keeps: str = ""
    rough: bool = False
    tin_ratio_words: str = ""
    workable_min: float | None = None
    one_part: bool = False

    @property
    def chosen_id(self) -> str:
        """The hardener that is chosen, by its id; nothing where none is."""
        return next((row.id for row in self.hardeners if row.chosen), "")
