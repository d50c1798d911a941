"""What a plan says of its joints, as plain frozen records."""

from layup.record import Record


class IngredientResult(Record):
    """One filler of a paste: loose volumes for one of mixed resin and where that comes from, and what it weighs."""

    filler_id: str
    name: str
    parts: float
    told_by: str
    loose_ml: float
    grams: float
    cups: str = ""


class FromResinResult(Record):
    """What mixed resin in hand becomes by a joint's recipe: its fillers, the paste with its air, how far the bead runs."""

    resin_g: float
    fillers: tuple[IngredientResult, ...]
    paste_ml: float
    bead_m: float


class WordResult(Record):
    """How many loose parts of a filler one consistency takes, and where that comes from; `by_table` before the log."""

    filler_name: str
    consistency: str
    parts: float
    told_by: str
    by_table: float
    pots: int


class TabResult(Record):
    """One strip of tabbing: where it ends on each face and the radius it turns, mm; weights of all copies and sides."""

    id: str
    name: str
    width_mm: float
    end_mm: float
    flat_mm: float
    radius_mm: float
    thickness_mm: float
    area_m2: float
    pieces: int
    piece_m: float
    layers_least: int
    layers_mean: float
    layers_most: int
    fibre_g: float
    resin_g: float


class JointStep(Record):
    """One step of a joint in its order: the mixed resin it takes, in its parts, and what it waits for."""

    words: str
    when: str
    resin_g: float
    part_a_g: float | None
    part_b_g: float | None


class JointResult(Record):
    """A joint worked out: its shape in mm and, for all copies and sides of it, what it takes.

    `resin_g` and its parts are of the paste. `wet_out_g` and `smoothing_g` are plain, `brushed_g` of them are poured off
    the paste's own pots before the filler goes in. `density` is the paste's, without the air that `with_air_ml` counts.
    """

    id: str
    name: str
    section_mm2: float
    throat_mm: float
    paste_ml: float
    paste_g: float
    resin_g: float
    part_a_g: float | None
    part_b_g: float | None
    catalyst_g: float | None
    filler_name: str
    filler_g: float
    filler_loose_ml: float
    filler_parts_per_100_resin: float
    consistency: str
    radius_note: str
    kind: str = "corner"
    flat: bool = False
    copies: int = 1
    run_m: float = 0
    leg_mm: float = 0
    face_mm: float = 0
    fillers: tuple[IngredientResult, ...] = ()
    filler_words: tuple[WordResult, ...] = ()
    reaches: str = ""
    density_g_per_ml: float = 0
    filler_mass_fraction: float = 0
    solids_by_volume: float = 0
    with_air_ml: float = 0
    wet_out_m2: float = 0
    wet_out_gsm: float = 0
    wet_out_g: float = 0
    smoothing_g: float = 0
    brushed_g: float = 0
    tabs: tuple[TabResult, ...] = ()
    tabs_fibre_g: float = 0
    tabs_resin_g: float = 0
    tabs_mm: float = 0
    layers_words: str = ""
    all_resin_g: float = 0
    steps: tuple[JointStep, ...] = ()
    hidden: bool = False
    corners: tuple[str, ...] = ()
