"""What a plan says of its castings, as plain frozen records."""

from typing import Literal

from layup.record import Record


class LiftResult(Record):
    """One lift: how deep, its resin and fill, g, of all copies; by the heat model its peak, °C, and hours.

    It is poured `poured_h` after the first. Hours from its own pouring: its peak, its gel in the middle, on the ground and on
    top; it bears the next, bonds until, and has cooled; the next is poured from `opens_h`. None where the model has nothing to say or it does not come.
    """

    depth_mm: float
    resin_g: float
    fill_g: float
    poured_h: float | None = None
    peak_c: float | None = None
    peak_h: float | None = None
    gel_h: float | None = None
    gel_under_h: float | None = None
    gel_open_h: float | None = None
    bears_h: float | None = None
    bonds_until_h: float | None = None
    cooled_h: float | None = None
    opens_h: float | None = None
    cools_too_late: bool = False


class KitResult(Record):
    """A whole kit of a size the resin is sold in: what it comes to mixed, g, and how deep it fills this cavity, mm."""

    mixed_g: float
    depth_mm: float


class CastingResult(Record):
    """A casting worked out. Weights are of all copies, litres, areas and millimetres of one.

    `level_mm` is where the resin stands without what is stirred in, `rise_mm` what that lifts it, `short_mm` what is left to
    the brim, under nought what stands over it; with `held_back_g` still in its cup. `other_…` are the same with the volume of
    the fill counted the other way. `kilo_short_mm` and `kilo_short_l` are short where a litre is taken for a kilo.
    `heat` tells whether the heat model speaks; `deepest_mm` is then the deepest single pour that stays under the peak in
    `room_c`, and `stated_mm` what the sheet says of its own surround.
    """

    id: str
    name: str
    copies: int
    volume_l: float
    inserts_l: float
    surface_m2: float
    wetted_m2: float
    depth_mm: float
    across_mm: float
    ground_mm: float
    dam_m: float
    water_g: float
    resin_g: float
    part_a_g: float | None
    part_b_g: float | None
    catalyst_g: float | None
    seal_g: float
    face_g: float
    fill_name: str
    fill_g: float
    fill_loose_l: float
    fill_on_resin: float
    fill_of_whole: float
    fill_density_g_per_ml: float
    density_g_per_ml: float
    level_mm: float
    rise_mm: float
    short_mm: float
    held_back_g: float
    held_back_mm: float
    hold_covers: bool
    other_resin_g: float | None
    other_short_mm: float | None
    kilo_short_mm: float
    kilo_short_l: float
    kits: tuple[KitResult, ...]
    heat: Literal["known", "being worked out", "not known"]
    room_c: float
    most_peak_c: float
    stated_mm: float | None
    deepest_mm: float | None
    lifts: tuple[LiftResult, ...]
    peak_c: float | None
    total_h: float | None
    fingernail_h: float
    levels_from_mm: float
