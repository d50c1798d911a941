"""The job as one open, versioned document."""

import re
from datetime import date
from typing import Annotated, Any, Final, Literal, Protocol, Self

from pydantic import AfterValidator, AwareDatetime, Field, model_validator

from layup.as_found import AsFound
from layup.castings import Pour
from layup.damage import Damage
from layup.document import Before, Document, Id, Metres, Millimetres, Name, RoomTemperature, Typed, UseId
from layup.finish_wishes import FinishWishes
from layup.materials import Basis, CoatKind, Consistency, Fabric, Filler, ResinSystem
from layup.shapes import Band, CutOut, Rectangle, Shape
from layup.under_vacuum import BagWishes, InfusionWishes
from layup.usual import LENGTHS_OVERLAP, SCARF_SLOPE, SQUEEZE_OUT_SHARE, STAGGER_MM

School = Literal["band", "one step slower"]
PotVessel = Literal["cup", "tray", "tray on a cool pack"]
Surface = Literal["simple", "complex"]
Process = Literal["open mould", "vacuum bag", "infusion"]
ResinContent = Literal["by fabric", "as the table", "lean", "generous"]
Applied = Literal["from a bag", "with a stick"]
Task = Literal["mixes", "wets", "lays", "rolls"]
Reach = Literal["at hand", "leaning over", "from a ladder"]

VERSION: Final = 2
MOST_RESINS = 8
# The id of the one resin that a new job begins with.
FIRST_USE = "resin"
MOST_PLIES = 500
MOST_JOINTS = 2000
MOST_BAYS = 60
MOST_PEOPLE = 12
MOST_POURS = 60


def _of_these_times(moment: date) -> date:
    if not 2000 <= moment.year <= 2200:
        raise ValueError("a year from 2000 to 2200")
    return moment


Moment = Annotated[AwareDatetime, AfterValidator(_of_these_times)]
CalendarDay = Annotated[date, AfterValidator(_of_these_times)]


_ANGLE = re.compile(r"-?\d{1,2}(/-?\d{1,2})*")


def _digits(angle: str) -> str:
    """An angle as the core reads it: degrees from −90 to 90, one or several with strokes between."""
    said = angle.strip().lstrip("±+").rstrip("°").replace("/+", "/")
    if said and not (_ANGLE.fullmatch(said) and all(abs(int(each)) <= 90 for each in said.split("/"))):
        raise ValueError("an angle is in degrees from −90 to 90, such as 45 or 0/90")
    return said


Angle = Annotated[str, Field(max_length=12), AfterValidator(_digits)]


class PlyStrips(Document):
    """A ply laid in strips, each overlapping the last by a fraction of its width, or by what builds so many layers."""

    width_m: Metres | None = None
    layers: float | None = Field(default=None, ge=1, le=20, allow_inf_nan=False)
    overlap: float = Field(default=0, ge=0, le=0.95, allow_inf_nan=False)
    typed: Typed = Field(default_factory=dict, max_length=2)


CoatTool = Literal["brush", "roller", "squeegee", "gun", "poured"]
Micrometres = Annotated[float, Field(ge=5, le=10_000, allow_inf_nan=False)]


# Of one coat, by a wet-film gauge.
MOST_READ = 20


class Coat(Document):
    """A coat of resin in its place among the plies, or `count` of them alike. It is of its part's resin where it names none.

    Each is `resin_gsm` of resin, unless its wet film, its dry film or how far a litre goes says otherwise; with a wet and a
    dry film it takes as many coats as make the dry one. A gauge that was read corrects the next. `tool` tells what is lost.
    Gel coat is never of its part's resin: one that names no resin in use is weighed, and mixed by its own sheet.
    """

    kind: CoatKind
    resin_gsm: float = Field(ge=10, le=5000, allow_inf_nan=False)
    use_id: UseId = ""
    count: int = Field(default=1, ge=1, le=30)
    wet_um: Micrometres | None = None
    dry_um: Micrometres | None = None
    solids_pct: float = Field(default=100, ge=1, le=100, allow_inf_nan=False)
    covers_m2_per_l: Annotated[float, Field(ge=0.05, le=100, allow_inf_nan=False)] | None = None
    tool: CoatTool | Literal[""] = ""
    gauge_um: tuple[Micrometres, ...] = Field(default=(), max_length=MOST_READ)
    typed: Typed = Field(default_factory=dict, max_length=6)


class Ply(Document):
    """One ply, of a fabric, or a coat in its place among them.

    `extra_mm` runs past the part on every side; `fibre_weight_fraction` overrides the table. `over` makes it a partial
    ply, over so much of the part, `band_id` one over a named strip of it; `strips` lays it in strips.
    """

    id: Id
    fabric_id: str = ""
    coat: Coat | None = None
    angle: Angle = ""
    extra_mm: Millimetres = 0
    fibre_weight_fraction: float | None = Field(default=None, ge=0.1, le=0.8, allow_inf_nan=False)
    over: Rectangle | None = None
    band_id: str = Field(default="", max_length=40)
    strips: PlyStrips | None = None

    @model_validator(mode="after")
    def _is_of_one_thing(self) -> Self:
        if bool(self.fabric_id) == (self.coat is not None):
            raise ValueError("a ply is of a fabric, or it is a coat")
        return self


Substrate = Literal[
    "bare plywood",
    "timber",
    "sanded laminate",
    "cured polyester",
    "cured epoxy",
    "foam core",
    "polystyrene foam",
    "aluminium",
    "concrete",
    "waxed mould",
]
OnTop = Literal["", "gel coat", "polyester", "epoxy", "paint"]


class Ground(Document):
    """What a part is laid on, as found, and what comes over it later; `mould` is which of the shop's it is laid in."""

    washed_and_abraded: bool = False
    contaminated: bool = False
    plastic_fittings: bool = False
    sharp_corner: bool = False
    afloat: bool = False
    moisture_pct: float | None = Field(default=None, ge=0, le=100, allow_inf_nan=False)
    age_days: float | None = Field(default=None, ge=0, le=36500, allow_inf_nan=False)
    later: OnTop = ""
    show_face: bool = False
    hidden_faces: str = Field(default="", max_length=200)
    fixings: str = Field(default="", max_length=200)
    mould: Name = ""


class BayWishes(Document):
    """How a builder divides a part into bays: so many alike, bays so wide with the rest for the last, or seams at places
    along it, m; the plan's choice where he says nothing. One bay lays it whole. Each ply steps back from a seam by
    `stagger_mm` more than the one beneath.
    """

    bay_count: int | None = Field(default=None, ge=1, le=MOST_BAYS)
    width_m: Metres | None = None
    seams_m: tuple[Metres, ...] = Field(default=(), max_length=MOST_BAYS - 1)
    stagger_mm: float = Field(default=STAGGER_MM, ge=0, le=500, allow_inf_nan=False)
    typed: Typed = Field(default_factory=dict, max_length=3)


class Part(Document):
    """One surface or piece with its own stack, `count` of them alike; a `pair` is port and starboard, mirrored.

    A surface that curves two ways takes a developed-area factor; a margin is added round the outline for a mould's lip
    or for trimming. Plies run from the surface outward. A mould names the part it is made to shape. It is laid in its
    `bays`, after what it `comes_after`; under a `bag`, or by `infusion`, where its process says so. `reach` tells how it is come at; `found` what lies there already, where it is to be stiffened; `finish` how it is finished once it is cured. A `note` is read by people alone.
    """

    id: Id
    name: Name = ""
    use_id: UseId = ""
    substrate: Substrate = "bare plywood"
    surface: Surface = "simple"
    process: Process = "open mould"
    orientation: Literal["down", "upright", "overhead"] = "down"
    reach: Reach = "at hand"
    bays: BayWishes = BayWishes()
    bag: BagWishes = BagWishes()
    infusion: InfusionWishes = InfusionWishes()
    found: AsFound = AsFound()
    finish: FinishWishes = FinishWishes()
    comes_after: Before = ()
    ground: Ground = Ground()
    mould_for: str = Field(default="", max_length=40)
    shape: Shape = Rectangle()
    cut_outs: tuple[CutOut, ...] = Field(default=(), max_length=50)
    bands: tuple[Band, ...] = Field(default=(), max_length=30)
    developed_area_factor: float = Field(default=1, ge=1, le=4, allow_inf_nan=False)
    margin_mm: Millimetres = 0
    count: int = Field(default=1, ge=1, le=200)
    pair: bool = False
    note: str = Field(default="", max_length=1000)
    plies: tuple[Ply, ...] = Field(default=(), max_length=MOST_PLIES)

    @property
    def copies(self) -> int:
        return self.count * (2 if self.pair else 1)


class TabStrip(Document):
    """One strip of tabbing over a fillet, of a fabric and so wide."""

    id: Id
    fabric_id: str = ""
    width_mm: float | None = Field(default=None, ge=1, le=2000, allow_inf_nan=False)
    typed: Typed = Field(default_factory=dict, max_length=2)


JointKind = Literal["corner", "glue line", "scarf", "gap", "bedding", "holes"]
JointMillimetres = Annotated[float, Field(ge=0.01, le=1000, allow_inf_nan=False)]


class Joint(Document):
    """What is joined with a thickened mix, `count` of it alike. Lengths are of one of them, along one side.

    A corner has a fillet where its faces meet at `angle_deg`, on one side of a panel or on both, strips of tabbing over
    it from the first to the last, and a glue line where one is given. A glue line and bedding are `width_mm` wide, a gap
    `width_mm` by `depth_mm`, a scarf runs 1 in `slope` through stock of the panel's thickness, holes are `hole_count` of
    `diameter_mm` by `depth_mm`. `face_mm` is how wide the narrower face is. Of two fillers the second does `second_share`
    of the thickening. `wished_pots` is in how many pots the builder wants to mix one of it. The cloth of the part
    `covered_by` turns over it, so it is laid before; and it is laid after what it `comes_after`.
    """

    id: Id
    name: Name = ""
    use_id: UseId = ""
    kind: JointKind = "corner"
    count: int = Field(default=1, ge=1, le=200)
    length_m: Metres | None = None
    radius_mm: float | None = Field(default=None, ge=0.1, le=200, allow_inf_nan=False)
    angle_deg: float = Field(default=90, ge=0, le=180, allow_inf_nan=False)
    panel_thickness_mm: float = Field(default=6, ge=0.1, le=200, allow_inf_nan=False)
    face_mm: JointMillimetres | None = None
    sides: int = Field(default=1, ge=1, le=2)
    substrate: Substrate = "bare plywood"
    duty: Literal["carries load", "eases the corner"] = "carries load"
    width_mm: JointMillimetres | None = None
    depth_mm: JointMillimetres | None = None
    glue_mm: float | None = Field(default=None, ge=0.01, le=20, allow_inf_nan=False)
    squeeze_out: float = Field(default=SQUEEZE_OUT_SHARE, ge=0, le=1, allow_inf_nan=False)
    slope: float = Field(default=SCARF_SLOPE, ge=1, le=40, allow_inf_nan=False)
    hole_count: int | None = Field(default=None, ge=1, le=10_000)
    diameter_mm: float | None = Field(default=None, ge=0.1, le=200, allow_inf_nan=False)
    filler_id: str = ""
    second_id: str = ""
    second_share: float = Field(default=0.5, ge=0.05, le=0.95, allow_inf_nan=False)
    own_parts: float | None = Field(default=None, ge=0.05, le=20, allow_inf_nan=False)
    consistency: Consistency = "stands"
    applied: Applied = "with a stick"
    wished_pots: int | None = Field(default=None, ge=1, le=200)
    tabs: tuple[TabStrip, ...] = Field(default=(), max_length=12)
    tab_piece_m: Metres | None = None
    tab_overlap: float = Field(default=LENGTHS_OVERLAP, ge=0, le=0.9, allow_inf_nan=False)
    hidden: bool = False
    covered_by: str = Field(default="", max_length=40)
    comes_after: Before = ()
    fixings: str = Field(default="", max_length=200)
    typed: Typed = Field(default_factory=dict, max_length=20)


class ResinInUse(Document):
    """A resin that the job uses, and what sets it; `word` says what for. An empty hardener or dose is the plan's choice.

    `dose_words` are a dose as a tin prints it, and win over `catalyst_pct`. `blend_share` of the hardener, by mass, is of
    `blend_id`; the rest of it is of the hardener chosen.
    """

    id: Id
    word: str = Field(default="", max_length=40)
    resin_id: str = ""
    hardener_id: str | None = None
    blend_id: str | None = None
    blend_share: float = Field(default=0.5, ge=0.05, le=0.95, allow_inf_nan=False)
    wanted_gel_min: float | None = Field(default=None, ge=3, le=240, allow_inf_nan=False)
    catalyst_pct: float | None = Field(default=None, ge=0.01, le=10, allow_inf_nan=False)
    dose_words: str = Field(default="", max_length=40)
    deadline_h: float | None = Field(default=None, ge=0.1, le=336, allow_inf_nan=False)
    tin_ratio: str = Field(default="", max_length=30)
    tin_ratio_basis: Basis = "volume"
    typed: Typed = Field(default_factory=dict, max_length=6)


class Practice(Document):
    """How this shop works, where schools differ. What speaks for each is in `library/practice.toml`."""

    basis: Basis = "weight"
    mixing: Literal["two pots", "one pot"] = "two pots"
    vessels: Literal["into one cup", "each in its own"] = "into one cup"
    pour_order: Literal["resin", "the thinner part"] = "resin"
    hardener_school: School = "band"
    over_day: Literal["one hardener", "by the hour"] = "one hardener"
    plies: Literal["wet on wet", "set and sanded"] = "wet on wet"
    resin_content: ResinContent = "by fabric"
    first_coat: Literal["on the surface", "on the ply"] = "on the surface"
    catalyst: Literal["solved for gel time", "by the label's chart"] = "solved for gel time"
    mat_edges: Literal["torn", "cut"] = "torn"
    cutting: Literal["before the first pot", "in the tack waits"] = "before the first pot"
    stirring: Literal["slowly", "faster after a minute"] = "slowly"
    warmth: Literal["kept cool", "warmed"] = "kept cool"
    bubbles: Literal["rested out", "flamed out"] = "rested out"
    fit: Literal["close", "with gaps"] = "close"
    paste_on_wood: Literal["straight on", "after tack"] = "straight on"
    tabbing: Literal["wet under it", "cured and sanded"] = "wet under it"
    learners: Literal["mix as anyone", "never mix alone"] = "mix as anyone"
    sealing: Literal["where it is porous", "never"] = "where it is porous"
    repour: Literal["re-pour it locally", "re-pour the whole face"] = "re-pour it locally"


class Person(Document):
    """Somebody who works on a job, and what he does there: all of it, where nothing else is said."""

    id: Id
    name: Name = ""
    tasks: Annotated[tuple[Task, ...], Field(min_length=1, max_length=4)] = ("mixes", "wets", "lays", "rolls")
    learner: bool = False


class PotWishes(Document):
    """What a builder sets by hand about his pots and their day. `hands` counts people alike who do all there is to do.

    `mixer` tells whether somebody besides mixes for them. A `crew` of people with their tasks stands for both. `share` is the share of a pot's life to plan on, in place of the plan's own.
    `cup_g`, `cup_ml` and `cup_mm` are what another cup than the shop's usual one weighs, holds, and how wide it is.
    `start` is when the first pot is weighed; the opening of today where it is left out. `stops_with` is what makes good a
    window that is missed over night; `overtime_h` how long past its closing the shop works for this job. Once it is hard it stands in
    the shop's warm room for `post_cure_h`, as its data sheet asks.
    """

    hands: int = Field(default=1, ge=1, le=8)
    largest_g: float | None = Field(default=None, ge=30, le=20000, allow_inf_nan=False)
    cup_g: float | None = Field(default=None, ge=0, le=5000, allow_inf_nan=False)
    cup_ml: float | None = Field(default=None, ge=5, le=50000, allow_inf_nan=False)
    cup_mm: float | None = Field(default=None, ge=20, le=600, allow_inf_nan=False)
    mixer: Literal["one of the hands", "a person more"] = "one of the hands"
    crew: tuple[Person, ...] = Field(default=(), max_length=MOST_PEOPLE)
    overtime_h: float = Field(default=0, ge=0, le=8, allow_inf_nan=False)
    post_cure_h: float = Field(default=0, ge=0, le=168, allow_inf_nan=False)
    vessel: PotVessel = "cup"
    share: float | None = Field(default=None, ge=0.1, le=0.95, allow_inf_nan=False)
    start: Moment | None = None
    stops_with: Literal["washing and sanding", "peel ply"] = "washing and sanding"
    typed: Typed = Field(default_factory=dict, max_length=6)


class CutWishes(Document):
    """How a job is cut: the overlap where sheets join, and whether one of each fabric is cut to spare."""

    sheet_overlap_mm: float = Field(default=50, ge=0, le=500, allow_inf_nan=False)
    spare: bool = False


class Conditions(Document):
    """Temperatures and humidity a plan is made for: the room's air, and the surface where it differs."""

    room_c: RoomTemperature = 20
    surface_c: RoomTemperature | None = None
    humidity_pct: float | None = Field(default=None, ge=1, le=100, allow_inf_nan=False)

    @property
    def surface_or_room_c(self) -> float:
        return self.room_c if self.surface_c is None else self.surface_c


class Override(Document):
    """A person's reason to go on past a stop. It holds for what the stop said then: said otherwise, it stands again.

    `about` names the thing by ids, such as `parts/p1/plies/y2`. Who and when are written by the server.
    """

    id: Id
    caution_id: str = Field(min_length=1, max_length=80)
    about: str = Field(max_length=200)
    said: str = Field(max_length=400)
    reason: str = Field(min_length=3, max_length=300)
    by: str = Field(default="", max_length=150)
    at: str = Field(default="", max_length=40)


class JobMaterials(Document):
    """A copy of each material the job uses, so that the document plans alone anywhere."""

    fabrics: tuple[Fabric, ...] = Field(default=(), max_length=100)
    resins: tuple[ResinSystem, ...] = Field(default=(), max_length=10)
    fillers: tuple[Filler, ...] = Field(default=(), max_length=30)


class _Named(Protocol):
    @property
    def id(self) -> str: ...


class JobSpec(Document):
    """A job, version 2: what is meant. Ids are made where a thing is created and never reused.

    It uses one resin or several; what names none of them is laid in the first. A repair keeps the `damage` it was begun from.
    """

    version: Literal[2] = VERSION
    name: str = Field(min_length=1, max_length=120)
    damage: Damage | None = None
    conditions: Conditions | None = None
    practice: Practice = Practice()
    materials: JobMaterials = JobMaterials()
    resins: tuple[ResinInUse, ...] = Field(default=(ResinInUse(id=FIRST_USE),), min_length=1, max_length=MOST_RESINS)
    parts: tuple[Part, ...] = Field(default=(), max_length=200)
    joints: tuple[Joint, ...] = Field(default=(), max_length=MOST_JOINTS)
    pours: tuple[Pour, ...] = Field(default=(), max_length=MOST_POURS)
    pots: PotWishes = PotWishes()
    cutting: CutWishes = CutWishes()
    overrides: tuple[Override, ...] = Field(default=(), max_length=200)

    @model_validator(mode="after")
    def _ids_stand_once(self) -> Self:
        things: list[_Named] = [*self.parts, *self.joints, *self.pours, *self.overrides, *self.resins]
        for part in self.parts:
            things += [*part.plies, *part.cut_outs, *part.bands, *part.infusion.lines, *part.found.layers]
            if part.shape.kind == "girths":
                things += part.shape.stations
        for joint in self.joints:
            things += joint.tabs
        for pour in self.pours:
            things += [*pour.readings, *pour.inserts]
        ids = [thing.id for thing in things]
        if len(ids) != len(set(ids)):
            raise ValueError(
                "an id stands twice: every resin, part, ply, hole, strip, station, feed, vent, old layer, joint, pour, reading, insert and override needs its own"
            )
        return self

    @model_validator(mode="after")
    def _is_a_job_people_lay(self) -> Self:
        if sum(len(part.plies) for part in self.parts) > MOST_PLIES:
            raise ValueError(f"a job holds {MOST_PLIES} plies at most: split it")
        return self

    def use_of(self, *named: str) -> ResinInUse | None:
        """The resin in use of a thing: the first that is named, else the job's first; None for one that is not there.

        >>> job = JobSpec(name="Lid", resins=(ResinInUse(id="laminate"), ResinInUse(id="gel")))
        >>> job.use_of("", "gel").id, job.use_of("").id, job.use_of("glue")
        ('gel', 'laminate', None)
        """
        wanted = next(filter(None, named), self.resins[0].id)
        return next((use for use in self.resins if use.id == wanted), None)

    def product_of(self, use: ResinInUse | None) -> ResinSystem | None:
        """The product of a resin in use; None while it is not chosen.

        >>> JobSpec(name="Lid").product_of(JobSpec(name="Lid").resins[0]) is None
        True
        """
        return next((resin for resin in self.materials.resins if use and resin.id == use.resin_id), None)


def id_path(job: JobSpec, path: str) -> str:
    """A path of the document by ids instead of places, so that it stays with the thing.

    >>> part = Part(id="p1", plies=(Ply(id="y2", fabric_id="cloth"),))
    >>> id_path(JobSpec(name="Deck", parts=(part,)), "parts.0.plies.0")
    'parts/p1/plies/y2'
    """
    words: list[str] = []
    node: Any = job
    for step in path.split("."):
        node = node[int(step)] if step.isdigit() else getattr(node, step, None)
        words.append(node.id if step.isdigit() else step)
    return "/".join(words)
