"""The bench card: all that a tablet needs of an issued plan to weigh, count and watch by itself."""

from layup.bench.events import Touch, Vessel
from layup.day.outcome import SheetBay
from layup.marks import PourPart, PourTool
from layup.record import Record


class CardLife(Record):
    """How long a pot lives in a room, °C, min: in its cup, and in the vessel it is meant to be worked from."""

    room_c: float
    cup_min: float
    vessel_min: float


class CardPour(Record):
    """One part of a pot, as its tool reads it; a mark of the tool is `step`, one unit `unit_is` g, or ml."""

    part: PourPart
    what: str
    note: str
    tool: PourTool
    unit: str
    unit_is: float
    amount: float
    step: float
    running: float | None


class CardPot(Record):
    """One pot, whole. `pours` are in the order they go in; `second_per_first` is what is wanted of the part that sets over
    the part that is set, in their tools' own units, right from `least_off_pct` to `most_off_pct` of it. It may weigh
    `most_g`. It is worked from what it `goes_to`. `lives` are of its planned mass; a life goes as its mass to the power `by_mass`.
    Poured there when it has spent 0, 1/n, … of its life in its cup, it has the shares of `poured_left` before it: what is
    not spent, where there are none.
    """

    number: int
    about: str
    lane: str
    owner_name: str
    bay: str
    labels: tuple[str, ...]
    use_id: str
    resin_name: str
    hardener: str
    hardener_id: str = ""
    cup_mm: float | None = None
    hardener_changes: bool
    mass_g: float
    laid_g: float
    bay_number: int
    room_c: float
    pours: tuple[CardPour, ...]
    b_first: bool
    second_per_first: float | None
    least_off_pct: float
    most_off_pct: float
    most_g: float
    mended_until: float
    cup_reads: float
    scale_unit: str
    mixing: tuple[str, ...]
    filler: str
    filler_ml: float | None
    lays: str
    goes_to: Vessel
    contact_min: float
    spread_min: float
    working_share: float
    planned_touch_min: float
    life_min: float
    use_by_min: float
    lives: tuple[CardLife, ...]
    by_mass: float
    poured_left: tuple[float, ...] = ()
    protection: tuple[str, ...]


class CardLayer(Record):
    """One layer on its lane, in the order they are laid. After it is laid, the next bonds from `opens_after_min` until
    `closes_after_min`, where its `room_c` stays; it is hard after `hard_after_min`.

    `test` is how it is told by touch, where the next waits for it. `mended` is what a closed window costs before it. It is
    so many `works` of its lane's, nought on a card from before they were counted: those of `item_ids`, none on a card from before they were named. It is laid in so many `strips`. A coat lies `wet_um` thick, and is `coat_id` in its job.
    """

    id: str
    lane: str
    lane_name: str
    bay: str
    words: str
    short: str
    first_pot: int
    last_pot: int
    planned_laid_min: float
    opens_after_min: float
    closes_after_min: float
    hard_after_min: float
    use_id: str
    room_c: float
    test: Touch | None = None
    test_words: str = ""
    mended: str = ""
    peel_ply: bool = False
    works: int = 0
    item_ids: tuple[str, ...] = ()
    strips: int = 1
    coat_id: str = ""
    wet_um: float | None = None


class CardFixing(Record):
    """What was put in to hold and is taken out again, so many minutes after the last layer of its lane."""

    id: str
    lane: str
    lane_name: str
    words: str
    after_min: float


class CardFace(Record):
    """What the rest of the work will hide, on its lane: looked at once more before it is out of reach."""

    id: str
    lane: str
    lane_name: str
    words: str


class CardLane(Record):
    """A lane of the work as it lies flat, to scale: a part by its `pieces`, polygons, m, with the seams of its bays; a joint by
    how far it runs, m."""

    id: str
    name: str
    pieces: tuple[tuple[tuple[float, ...], ...], ...] = ()
    bays: tuple[SheetBay, ...] = ()
    run_m: float = 0.0


class CardMark(Record):
    """A mark on the film of an infusion: where it is on the part, m, and how far in S the front has come when it is there."""

    number: int
    x_m: float
    y_m: float
    s: float


class CardFlow(Record):
    """An infusion on its lane, in plan: its outline with its holes, m, the lines of its feeds and of its vents, the marks that
    its front is ticked at. After `minutes` of open valve the front has come to `levels_s`; it is full at `full_s`, and the
    resin sets `sets_min` after the valve was opened. The bed lets through `permeability_m2`, as planned.
    """

    id: str
    part_id: str
    lane: str
    lane_name: str
    outline: tuple[tuple[float, ...], ...]
    holes: tuple[tuple[tuple[float, ...], ...], ...] = ()
    feeds: tuple[tuple[tuple[float, ...], ...], ...] = ()
    vents: tuple[tuple[tuple[float, ...], ...], ...] = ()
    marks: tuple[CardMark, ...] = ()
    minutes: tuple[float, ...]
    levels_s: tuple[float, ...]
    full_s: float
    sets_min: float
    permeability_m2: float
    draws_g: float


class CardStop(Record):
    """Where the plan leaves a lane for the night, in its own minutes, and what that costs."""

    lane: str
    lane_name: str
    planned_from_min: float
    planned_to_min: float
    words: str


class BenchCard(Record):
    """The pots, layers, hidden faces, fixings and flows of a plan; `too_hot_c` is where a pot's surface is not to be come near (memory)."""

    pots: tuple[CardPot, ...]
    layers: tuple[CardLayer, ...]
    fixings: tuple[CardFixing, ...] = ()
    faces: tuple[CardFace, ...] = ()
    lanes: tuple[CardLane, ...] = ()
    flows: tuple[CardFlow, ...] = ()
    stops: tuple[CardStop, ...] = ()
    too_hot_c: float = 40.0

    def pot(self, number: int) -> CardPot | None:
        return next((pot for pot in self.pots if pot.number == number), None)

    def later_by(self, minutes: float) -> "BenchCard":
        """The same planned so many minutes later: a rest that begins now, told by the clock of its run.

        >>> BenchCard(pots=(), layers=()).later_by(30).layers
        ()
        """
        pots = (pot.model_copy(update={"planned_touch_min": pot.planned_touch_min + minutes}) for pot in self.pots)
        layers = (
            layer.model_copy(update={"planned_laid_min": layer.planned_laid_min + minutes}) for layer in self.layers
        )
        stops = (
            stop.model_copy(
                update={
                    "planned_from_min": stop.planned_from_min + minutes,
                    "planned_to_min": stop.planned_to_min + minutes,
                }
            )
            for stop in self.stops
        )
        return self.model_copy(update={"pots": tuple(pots), "layers": tuple(layers), "stops": tuple(stops)})

    def taken(self, rest: "BenchCard") -> "BenchCard":
        """The card once the rest of a run was planned anew: what was poured stays as it was issued.

        >>> BenchCard(pots=(), layers=()).taken(BenchCard(pots=(), layers=())).pots
        ()
        """
        first = min((pot.number for pot in rest.pots), default=None)
        anew = {layer.id for layer in rest.layers}
        pots = tuple(pot for pot in self.pots if first is None or pot.number < first)
        layers = tuple(
            layer for layer in self.layers if layer.id not in anew and (first is None or layer.first_pot < first)
        )
        return self.model_copy(
            update={"pots": (*pots, *rest.pots), "layers": (*layers, *rest.layers), "stops": rest.stops}
        )
