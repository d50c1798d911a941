"""What a layup is made of: fabrics, resin systems with their hardeners or catalyst, fillers. Frozen and validated."""

from enum import StrEnum
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator

from layup.architecture import BUILDS, Architecture, Build
from layup.errors import at_field
from layup.fabric_words import kinds
from layup.printable import all_printable


def _within(least: float, most: float) -> Any:
    """A number that a builder could mean: what lies outside is a slip of the pen or of the unit."""
    return Field(ge=least, le=most, allow_inf_nan=False)


# What numbers of a product may be: wider than any that is sold, narrower than what no sum can be done with.
Density = Annotated[float, _within(0.02, 25)]
Minutes = Annotated[float, _within(0.05, 20_000)]
Grams = Annotated[float, _within(1, 100_000)]
Celsius = Annotated[float, _within(-40, 200)]
Fahrenheit = Annotated[float, _within(-40, 300)]
DosePct = Annotated[float, _within(0.01, 20)]
RatioOfParts = Annotated[float, _within(0.005, 20)]
Price = Annotated[float, _within(0.0001, 1_000_000)]
Kilos = Annotated[float, _within(0.001, 10_000)]
ProductMillimetres = Annotated[float, _within(0.1, 20_000)]
Parts = Annotated[float, _within(0.01, 50)]
Count = Annotated[float, _within(0.001, 1_000_000)]


class SourceKind(StrEnum):
    """Where a number comes from. A data sheet wins over the three before it, the shop's own log over all."""

    PUBLISHED = "published"
    COMMON_PRACTICE = "common practice"
    MEMORY = "memory"
    DATA_SHEET = "data sheet"
    SHOP_LOG = "shop log"
    INVENTED = "invented"


class Material(BaseModel):
    """A frozen thing with numbers, each of which says where it comes from."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    sources: dict[str, SourceKind] = Field(default_factory=dict, max_length=40)

    _printable = model_validator(mode="before")(all_printable)

    @model_validator(mode="after")
    def _every_number_has_a_source(self) -> Self:
        for name in type(self).model_fields:
            value = getattr(self, name)
            if isinstance(value, int | float) and not isinstance(value, bool) and name not in self.sources:
                raise at_field(name, "say where this number comes from")
        return self


Fibre = Literal["E-glass", "carbon", "aramid", "basalt", "flax", "polyester", "foam", "balsa", "polyethylene"]
Binder = Literal["emulsion", "powder", "stitched", "none"]
# published, textbook values; from memory until checked against the shop's own sheets
FIBRE_DENSITY_G_PER_CM3: dict[Fibre, float] = {
    "E-glass": 2.56,
    "carbon": 1.79,
    "aramid": 1.44,
    "basalt": 2.67,
    "flax": 1.45,
    "polyester": 1.38,
    "foam": 0.08,
    "balsa": 0.15,
    "polyethylene": 0.95,
}


Pieces = Annotated[tuple[Kilos, ...], Field(max_length=12)]


class Fabric(Material):
    """One thing laid in a stack. `mat_share` is the mat's share of the glass in a combination, by mass, 0 to 1.

    `roll_length_m` is what a full roll holds, `cut_face` which face goes down. A core has a thickness of its own. A core and what comes off again (peel ply, bleeder, mesh) state the resin they
    take, since they have no fibre share.
    """

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=80)
    kind: str = Field(min_length=1, max_length=20)
    architecture: Architecture
    fibre: Fibre = "E-glass"
    areal_weight_gsm: float = Field(ge=15, le=2500, allow_inf_nan=False)
    mat_share: float | None = Field(default=None, gt=0, lt=1)
    core_thickness_mm: float | None = Field(default=None, gt=0, le=200, allow_inf_nan=False)
    resin_taken_gsm: float | None = Field(default=None, ge=0, le=3000, allow_inf_nan=False)
    styrene_dissolves: bool = False
    binder: Binder = "none"
    epoxy_ok: bool = False
    roll_width_mm: Annotated[float, _within(10, 20_000)]
    tightest_radius_mm: Annotated[float, _within(0.1, 2_000)]
    roll_length_m: Annotated[float, _within(0.1, 10_000)] | None = None
    price_per_m2: Price | None = None
    cut_face: str = Field(default="", max_length=80)
    note: str = Field(default="", max_length=300)

    @field_validator("kind")
    @classmethod
    def _kind_is_a_known_word(cls, kind: str) -> str:
        if kind not in kinds():
            raise ValueError(f"must be one of {', '.join(kinds())}")
        return kind

    @model_validator(mode="after")
    def _combination_has_its_share(self) -> Self:
        if (self.architecture is Architecture.COMBINATION) != (self.mat_share is not None):
            raise at_field("mat_share", "a combination, and nothing else, has a mat share of its glass")
        return self

    @model_validator(mode="after")
    def _what_has_no_fibre_share_says_what_it_takes(self) -> Self:
        if (self.architecture is Architecture.CORE) != (self.core_thickness_mm is not None):
            raise at_field("core_thickness_mm", "a core, and nothing else, has a thickness of its own")
        if self.reinforces == (self.resin_taken_gsm is not None):
            message = "only a core, and what comes off again, states the resin it takes"
            raise at_field("resin_taken_gsm", message)
        return self

    @property
    def build(self) -> Build:
        """What holds of every fabric of its architecture."""
        return BUILDS[self.architecture]

    @property
    def reinforces(self) -> bool:
        """Whether it is fibre in the laminate; a core is not, nor what comes off again."""
        return self.stays and self.architecture is not Architecture.CORE

    @property
    def stays(self) -> bool:
        """Whether it is left in; peel ply, bleeder and mesh come off with the resin they took."""
        return not self.build.comes_off

    @property
    def ounce_base(self) -> Literal["square foot", "square yard"]:
        """What a bare ounce of this fabric is counted over in US trade: mats of every kind by the foot (common practice)."""
        return "square foot" if self.build.mat else "square yard"


CoatKind = Literal["wet-out", "fill", "seal", "gel", "primer", "barrier", "surface", "flood", "top", "slurry"]


class UsualCoat(Material):
    """A coat to begin from: what it is called, and the resin usually in it."""

    kind: CoatKind
    name: str = Field(min_length=1, max_length=40)
    words: tuple[str, ...] = Field(min_length=1)
    resin_gsm: Annotated[float, _within(1, 5_000)]
    note: str = Field(default="", max_length=300)


Ends = Literal[
    "pot life in the cup",
    "workable in the cup",
    "viscosity doubled",
    "gel",
    "peak in the cup",
    "working time as a film",
    "tack free",
    "next coat by",
    "sandable",
    "into service",
    "full cure",
]


# What a label may state, and so what a fit must take.
LEAST_STATED_C, MOST_STATED_C = -20, 200


class StatedTime(BaseModel):
    """One time off a label: how long, at what temperature and mass or dose, in how wide a cup, and what ends it.

    One that was only heard, and not seen, is known so surely: `spread` is the deviation of its ln.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    ends: Ends
    minutes: Minutes
    temperature_c: float = Field(ge=LEAST_STATED_C, le=MOST_STATED_C, allow_inf_nan=False)
    mass_g: Grams | None = None
    cup_mm: ProductMillimetres | None = None
    catalyst_pct: DosePct | None = None
    source: SourceKind = SourceKind.DATA_SHEET
    spread: float = Field(default=0.0, ge=0, le=2, allow_inf_nan=False)


StatedTimes = Annotated[tuple[StatedTime, ...], Field(max_length=30)]


# What a sheet's pot life may mean: it says which, or it is mostly for how long it can be worked.
PotLifeEnds = Literal["gel", "workable", "viscosity doubled"]


class Hardener(Material):
    """One hardener of a two-part family, with its stated pot life and the band of room temperature it is made for."""

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=40)
    family: str = Field(min_length=1, max_length=40)
    density_g_per_cm3: Density | None = None
    band_low_f: Fahrenheit
    band_high_f: Fahrenheit
    pot_life_min: Minutes
    pot_life_mass_g: Grams
    pot_life_temperature_c: Celsius
    pot_life_ends: PotLifeEnds = "workable"
    peak_exotherm_c: float | None = Field(default=None, gt=20, le=300, allow_inf_nan=False)
    stated_times: StatedTimes = ()
    sold_kg: Pieces = ()
    price_per_kg: Price | None = None

    @model_validator(mode="after")
    def _band_runs_upward(self) -> Self:
        if self.band_low_f >= self.band_high_f:
            raise at_field("band_high_f", "the band's low end must be below its high end")
        return self


class Catalyst(Material):
    """The peroxide of a catalysed system: its limits, and the gel time stated for one dose."""

    name: str = Field(min_length=1, max_length=60)
    density_g_per_cm3: Density
    least_pct: DosePct
    most_pct: DosePct
    stated_pct: DosePct
    stated_temperature_c: Celsius
    stated_gel_min: Minutes
    exponent_n: Annotated[float, _within(0.2, 4)]
    stated_times: StatedTimes = ()
    sold_kg: Pieces = ()
    price_per_kg: Price | None = None

    @model_validator(mode="after")
    def _limits_run_upward(self) -> Self:
        if self.least_pct >= self.most_pct:
            raise at_field("most_pct", "the least catalyst must be under the most")
        return self


class OnePart(Material):
    """What is used out of one tin, since the moisture of the air sets it. Minutes from its pouring, at one temperature.

    It can be used for `usable_min`, is tacky from `tack_min`, is covered by `cover_by_min` and sanded from `hard_min`.
    """

    usable_min: Minutes
    tack_min: Minutes
    cover_by_min: Minutes
    hard_min: Minutes
    stated_temperature_c: Celsius

    @model_validator(mode="after")
    def _comes_in_order(self) -> Self:
        if not self.tack_min < self.cover_by_min:
            raise at_field("cover_by_min", "it is tacky before it must be covered")
        return self


Basis = Literal["weight", "volume"]
ResinFamily = Literal["epoxy", "polyester", "vinyl ester", "polyurethane"]
MadeFor = Literal[
    "laminating",
    "infusion",
    "coating",
    "casting",
    "gel coat",
    "top coat",
    "mould surface",
    "primer",
    "bonding primer",
    "fairing",
]


class ResinSystem(Material):
    """A resin with what sets it: hardeners of one family at a fixed ratio, a catalyst within limits, or the air's moisture.

    `ratio_volume_b_per_a` and `ratio_weight_b_per_a` are parts B to one part A. `price_per_kg` is of part A. `bases` are the ways the product may
    be measured. Temperatures are of the air and of the surface, °C. `sold_kg` are the sizes part A is sold in.
    """

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=80)
    family: ResinFamily
    made_for: MadeFor = "laminating"
    density_g_per_cm3: Density | None = None
    cured_density_g_per_cm3: Density
    hardener_family: str = ""
    hardeners: tuple[Hardener, ...] = Field(default=(), max_length=12)
    catalyst: Catalyst | None = None
    one_part: OnePart | None = None
    ratio_volume_b_per_a: RatioOfParts | None = None
    ratio_weight_b_per_a: RatioOfParts | None = None
    ratio_tolerance_pct: Annotated[float, _within(0.1, 50)] = 5.0
    bases: tuple[Basis, ...] = Field(min_length=1)
    minimum_c: Celsius
    comfort_minimum_c: Celsius
    maximum_c: Celsius
    shelf_life_months: Annotated[float, _within(0.1, 1_200)] | None = None
    deepest_pour_mm: ProductMillimetres | None = None
    air_inhibited: bool = False
    sold_kg: Pieces = ()
    price_per_kg: Price | None = None
    mixed_signs: str = Field(default="", max_length=300)
    note: str = Field(default="", max_length=300)

    @model_validator(mode="after")
    def _is_one_of_three_kinds(self) -> Self:
        if [bool(self.hardeners), bool(self.catalyst), bool(self.one_part)].count(True) != 1:
            raise at_field("hardeners", "a system has hardeners, or a catalyst, or sets out of one tin")
        if self.hardeners and not (self.ratio_volume_b_per_a or self.ratio_weight_b_per_a):
            raise at_field("ratio_volume_b_per_a", "a two-part system needs its ratio")
        if any(h.family != self.hardener_family for h in self.hardeners):
            raise at_field("hardener_family", "a hardener of another family does not belong to this resin")
        if not self.minimum_c <= self.comfort_minimum_c < self.maximum_c:
            raise at_field("maximum_c", "the temperature limits must run upward")
        return self

    @model_validator(mode="after")
    def _its_ratios_agree(self) -> Self:
        """Refuse a volume and a weight ratio further apart than the product takes: one was misread."""
        by_volume, by_weight, density_a = (
            self.ratio_volume_b_per_a,
            self.ratio_weight_b_per_a,
            self.density_g_per_cm3,
        )
        for hardener in self.hardeners:
            if not (by_volume and by_weight and density_a and hardener.density_g_per_cm3):
                continue
            worked = by_volume * hardener.density_g_per_cm3 / density_a
            if abs(worked / by_weight - 1) * 100 > self.ratio_tolerance_pct:
                raise at_field(
                    "ratio_weight_b_per_a",
                    f"the two ratios disagree: by volume and the densities it is 100:{100 * worked:.0f} by weight, "
                    f"not 100:{100 * by_weight:.0f}; read the tin again",
                )
        return self

    @property
    def two_part(self) -> bool:
        return bool(self.hardeners)

    @property
    def styrene(self) -> bool:
        """Whether it carries styrene."""
        return self.family in ("polyester", "vinyl ester")


Consistency = Literal["runs", "drapes", "peaks", "stands"]


class Filler(Material):
    """A thickener. `parts_*` are loose volumes of filler for one volume of mixed resin at each consistency.

    One that does not stand by itself takes `helper_parts` of another beside it to stand.
    """

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=60)
    bulk_density_g_per_l: Annotated[float, _within(1, 10_000)]
    true_density_g_per_cm3: Density
    parts_runs: Parts
    parts_drapes: Parts
    parts_peaks: Parts
    parts_stands: Parts
    sold_kg: Pieces = ()
    price_per_kg: Price | None = None
    structural: bool
    sands: Literal["easy", "fair", "hard"]
    helper_id: str = Field(default="", max_length=60)
    helper_parts: Parts | None = None
    uses: str = Field(default="", max_length=120)
    colour: str = Field(default="", max_length=40)
    dust: str = Field(default="", max_length=120)
    note: str = Field(default="", max_length=300)

    @model_validator(mode="after")
    def _a_helper_has_its_parts(self) -> Self:
        if bool(self.helper_id) != (self.helper_parts is not None):
            raise at_field("helper_parts", "say how much of the other filler it takes to stand, and which")
        return self

    @model_validator(mode="after")
    def _more_is_stiffer(self) -> Self:
        parts = (self.parts_runs, self.parts_drapes, self.parts_peaks, self.parts_stands)
        if list(parts) != sorted(parts):
            raise at_field("parts_stands", "more filler is stiffer: the four run upward")
        return self

    def parts(self, consistency: Consistency) -> float:
        """Loose volumes of filler for one of mixed resin."""
        return getattr(self, f"parts_{consistency}")
