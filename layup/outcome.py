"""What a plan says, as plain frozen records: the answer the API gives and `python -m layup plan` prints."""

from datetime import datetime
from typing import Literal

from layup.job import Conditions
from layup.joints.outcome import JointResult, ThickenedResult
from layup.materials import Architecture, CoatKind, Fibre
from layup.record import Record

Severity = Literal["stop", "care", "note"]
Step = Literal["measure", "stack", "cut", "prepare", "chemistry", "joints", "pots", "ticket", "log"]


# A coat lies among the plies without a fabric.
LayerKind = Architecture | Literal["coat"]
LayerFibre = Fibre | Literal["none"]


class Problem(Record):
    """Something the plan cannot go on without, at the field `path` of the document, shown on `step`.

    It is `wrong` where what stands there cannot be, rather than missing.
    """

    path: str
    message: str
    step: Step
    wrong: bool = False


class OverrideRecord(Record):
    """Who went on past a stop, when, and why."""

    reason: str
    by: str
    at: str


class CautionRecord(Record):
    """A judgement call: what is wrong, why, what to do.

    `path` points at what it is about in the document as it stands, `about` names the same by ids. `said` is the
    message in metric words, whatever units it is read in: what an override is of.
    """

    id: str
    severity: Severity
    message: str
    reason: str
    do: str
    source: str
    step: Step
    path: str
    overridable: bool
    about: str = ""
    said: str = ""
    override: OverrideRecord | None = None

    @property
    def stops(self) -> bool:
        return self.severity == "stop" and self.override is None


class PlyResult(Record):
    """One ply or coat on one copy of its part. Weights in g, areas in m². What is no reinforcement has no fibre share.

    Laid in strips, it has a least, a mean and a most number of layers; a ply that does not stay is in no total.
    """

    id: str
    name: str
    architecture: LayerKind
    fibre: LayerFibre
    angle: str
    area_m2: float
    fibre_gsm: float
    resin_gsm: float
    fibre_weight_fraction: float | None
    fraction_source: str
    resin_to_fibre: float | None
    thickness_mm: float
    fibre_volume_fraction: float | None
    fibre_g: float
    resin_g: float
    mopped_off_g: float
    roll_m: float
    tightest_radius_mm: float
    stays: bool = True
    layers_least: int = 1
    layers_mean: float = 1
    layers_most: int = 1
    strip_count: int | None = None
    extra_mm: float = 0
    coat: CoatKind | None = None


class DimensionResult(Record):
    """One measure on a part's drawing: its field in the shape, its value, and where it stands, m."""

    field: str
    value_m: float
    a: tuple[float, ...]
    b: tuple[float, ...]


class PartResult(Record):
    """One part: its area is of one copy, `total_area_m2` of all. Plies as in the document, surface first.

    `pieces` are its polygons lying flat, m. The area of one is its outline's, times what it gains by curving, with the
    margin round it, less its holes.
    """

    id: str
    name: str
    substrate: str
    count: int
    area_m2: float
    total_area_m2: float
    area_working: str
    wet_out_gsm: float
    wet_out_source: str
    wet_out_g: float
    plies: tuple[PlyResult, ...]
    thickness_mm: float
    laminate_gsm: float
    fibre_weight_fraction: float | None
    fibre_g: float
    resin_in_plies_g: float
    outline_m2: float = 0
    perimeter_m: float = 0
    holes_m2: float = 0
    area_rule: str = ""
    pieces: tuple[tuple[tuple[float, ...], ...], ...] = ()
    dimensions: tuple[DimensionResult, ...] = ()
    fibre_volume_fraction: float | None = None
    coats_g: float = 0
    gel_coat_g: float = 0
    weight_g: float = 0


class ResinUse(Record):
    """Where the job's resin goes, g. The reserve stays in the tin. `part_b_g` and `catalyst_g` belong to `mixed_g`.

    `in_plies_g` is without coats. Gel coat is another resin, mixed by its own sheet: it is in no other figure.
    """

    in_plies_g: float
    first_wet_out_g: float
    in_joints_g: float
    mopped_off_g: float
    left_in_vessels_g: float
    surplus_g: float
    mixed_g: float
    reserve_g: float
    to_have_g: float
    to_have_ml: float | None
    part_a_g: float | None
    part_b_g: float | None
    catalyst_g: float | None
    catalyst_ml: float | None
    in_coats_g: float = 0
    gel_coat_g: float = 0


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
    """Minutes from the mixing of a thin layer to each state; no state but the next ply comes at nought."""

    next_ply_from_min: float
    window_closes_min: float
    knife_trim_min: float
    sandable_min: float
    load_min: float
    clamps_out_min: float = 0
    full_cure_min: float = 0


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
    """The verdict on the resin at this temperature. `life_min` is of the job's largest pot, and `peak_c` its mean's
    peak if it is left in its cup. `rough` while a table of the heat model is still being built for one of its hardeners."""

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


class PourResult(Record):
    what: str
    amount: float
    unit: str
    running: float | None
    tared: float | None
    note: str


class TicketResult(Record):
    """What the mixer reads for one pot. `order_matters` where the second mark holds only with the first part beneath.

    `pours` are in the order they go in: part B before part A where `b_first`. `left_in_cup_min` is when it kicks if it is
    not poured out of its cup, where `life_min` counts on that.
    """

    by: Literal["weight", "volume"]
    cup_g: float
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

    @property
    def first_part(self) -> PourResult:
        """Part A, or the resin, whenever it goes in."""
        return self.pours[1 if self.b_first else 0]

    @property
    def second_part(self) -> PourResult:
        """Part B, or the catalyst."""
        return self.pours[0 if self.b_first else 1]


class PotResult(Record):
    """`count` alike pots, numbered from `first`, each shared by `shared_by` copies. Times in minutes from the moment the parts touch.

    `laid_g` of its mass reaches the work; `sigma` is how widely ln of the share of life used spreads. It is sized for
    `room_c`, the room at its hour, and a catalysed one dosed for it.
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


class Lever(Record):
    """Something that frees a pot, and the pot it gives, g; None where it does not help enough."""

    name: str
    mass_g: float | None


class StuckResult(Record):
    """Work for which no pot can be used inside its life."""

    owner_id: str
    owner_name: str
    labels: tuple[str, ...]
    why: str
    floor_g: float
    levers: tuple[Lever, ...]


class SheetLane(Record):
    """A lane of the run sheet: one copy of a part or a joint, or all copies that share their pots."""

    id: str
    owner_id: str
    name: str
    under: str


class SheetPot(Record):
    """One pot on the run sheet. Minutes from the start: its parts touch, it is on the work, used, to be used by, kicks.

    `about` is the id of its kind among the plan's pots.
    """

    number: int
    lane: str
    about: str
    mass_g: float
    laid_g: float
    room_c: float
    item_ids: tuple[str, ...]
    weigh_min: float
    touch_min: float
    on_from_min: float
    used_min: float
    use_by_min: float
    kick_min: float


class SheetLayer(Record):
    """A layer on its lane, and the window after it. `mended` is what a missed window costs before it.

    Its window is `watched` where the next layer waits for it, or none follows: one that goes on wet has no use for it.
    """

    lane: str
    words: str
    item_ids: tuple[str, ...]
    from_min: float
    to_min: float
    first_pot: int
    last_pot: int
    opens_min: float
    closes_min: float
    mended: str
    peel_ply: bool
    watched: bool = True


class SheetBusy(Record):
    """What the hands do, or what a wait is good for."""

    from_min: float
    to_min: float
    words: str
    waits: bool


MarkKind = Literal["test", "squeeze-out", "trim", "sand", "clamps", "load", "full cure"]


class SheetMark(Record):
    """A moment on a lane at which something is looked at, or becomes possible."""

    lane: str
    kind: MarkKind
    at_min: float
    words: str


class SheetStop(Record):
    """A stop point: where a lane is left, until when, and what that costs."""

    lane: str
    from_min: float
    to_min: float
    words: str


class RunSheet(Record):
    """The day's plan. Minutes count from `start_at`, None for a plan without a date, which begins at an opening.

    `room_min` and `room_c` are the room's knots. `chance_any` that a pot of the job is lost.
    """

    start_at: datetime | None
    opens_at: str
    sentence: str
    room_words: str
    lanes: tuple[SheetLane, ...]
    pots: tuple[SheetPot, ...]
    layers: tuple[SheetLayer, ...]
    busy: tuple[SheetBusy, ...]
    marks: tuple[SheetMark, ...]
    stops: tuple[SheetStop, ...]
    room_min: tuple[float, ...]
    room_c: tuple[float, ...]
    laid_by_min: float
    trim_min: float
    load_min: float
    chance_any: float
    chance_words: str
    problems: tuple[str, ...]
    start_minute_of_day: float


class CostLine(Record):
    name: str
    cost: float


class CostRecord(Record):
    """Materials in the shop's currency: `total` is None while the price of any of `unpriced` is not known."""

    total: float | None
    known: float
    unpriced: tuple[str, ...]
    lines: tuple[CostLine, ...] = ()


class DewResult(Record):
    """The surface against the moisture of the air, °C. Under 0 °C the point is a frost point."""

    point_c: float
    margin_c: float
    frost: bool
    safe: bool


StepState = Literal["stop", "to do", "ready", ""]


class StepResult(Record):
    """A step of the job in one line: its headline figure, and whether it stops, waits or is ready."""

    step: Step
    headline: str
    state: StepState


class NextStep(Record):
    step: Step
    words: str


class Plan(Record):
    """The whole answer. `problems` are what is missing; everything else is as far as the job allows."""

    version: Literal[1] = 1
    conditions: Conditions
    dew: DewResult | None = None
    parts: tuple[PartResult, ...] = ()
    joints: tuple[JointResult, ...] = ()
    resin: ResinUse | None = None
    chemistry: ChemistryResult | None = None
    pots: tuple[PotResult, ...] = ()
    pot_count: int = 0
    piece_count: int = 0
    prepare_count: int = 0
    cost: CostRecord | None = None
    stuck: tuple[StuckResult, ...] = ()
    run_sheet: RunSheet | None = None
    cautions: tuple[CautionRecord, ...] = ()
    problems: tuple[Problem, ...] = ()
    steps: tuple[StepResult, ...] = ()
    next_step: NextStep = NextStep(step="measure", words="")
