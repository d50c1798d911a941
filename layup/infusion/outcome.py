"""What a plan says of its infusions, as plain frozen records."""

from typing import Literal

from layup.record import Record

# Where it is known from how open a bed is: the figures of its fabrics, what the builder typed, the shop's own shots.
PermeabilityFrom = Literal["memory", "as typed", "shop log"]


class FlowLineResult(Record):
    """A feed or a vent as it was worked with, proposed where the builder has placed none: its points, m. Resin comes to a vent,
    and opens a feed that waits, `at_min` after the valve was opened; not at all where it sets before."""

    id: str
    name: str
    does: Literal["feeds", "vents"]
    points: tuple[tuple[float, ...], ...]
    waits: bool
    proposed: bool
    at_min: float | None


class LastPlace(Record):
    """A place that fills after all round it, m; air is shut in there unless a vent is near. `at_min` as above."""

    x_m: float
    y_m: float
    at_min: float | None
    shut_in: bool


class FlowMark(Record):
    """A mark for the film, counted from 1: where, m, how far in S the front is when it comes there, and after how many minutes."""

    number: int
    x_m: float
    y_m: float
    s: float
    at_min: float | None


class InRoom(Record):
    """The same infusion in another room: when it is full and when the resin sets, min from the valve, how many times as far
    it would come before it sets, and when the front has come to each of the flow's levels of S; none past its gel."""

    room_c: float
    full_min: float | None
    sets_min: float
    margin: float
    at_min: tuple[float | None, ...]


class Drawn(Record):
    """What the part has drawn by a minute, g, of the pots of one copy."""

    at_min: float
    grams: float


class InfusionResult(Record):
    """An infusion worked out, of one copy of its part. Weights in g; minutes from the opening of the valve.

    Its resin goes into fibre, core, mesh, peel ply, hoses, what runs on into the trap until it is full, and what stays in the
    bucket; `stand_by_g` more is held ready. `permeability_m2` and `porosity` are of the bed with what lies over it, of
    `thickness_mm`: `by_memory_m2` by its fabrics, and by the shop's `own_shots` of a bed of its `bed_name` from `least_m2` to `most_m2`.
    `levels_s` are the levels of S that `by_room` tells minutes of; `full_s` the last of it, `lag_s` of that what
    the fabric lags behind the mesh over it, and `lag_mm` how far. `dry_share` of it stays dry since the resin sets; `coolest_c` and `best_c` are the coolest and
    the warmest room whose margin is enough, and the warmest the quickest. A part alike and `longer` times as long would still fill.
    """

    id: str
    name: str
    copies: int
    area_m2: float
    in_fibre_g: float
    in_core_g: float
    in_mesh_g: float
    in_peel_ply_g: float
    in_hoses_g: float
    in_trap_g: float
    in_bucket_g: float
    mixed_g: float
    stand_by_g: float
    permeability_m2: float
    porosity: float
    thickness_mm: float
    permeability_from: PermeabilityFrom = "memory"
    by_memory_m2: float = 0.0
    bed_name: str = ""
    own_shots: int = 0
    least_m2: float | None = None
    most_m2: float | None = None
    viscosity_mpa_s: float
    viscosity_typed: bool
    pull_mbar: float
    room_c: float
    full_min: float | None
    sets_min: float
    margin: float
    dry_share: float
    first_at_vent_min: float | None
    full_s: float
    lag_s: float
    lag_mm: float = 0.0
    levels_s: tuple[float, ...]
    by_room: tuple[InRoom, ...]
    best_c: float | None
    coolest_c: float | None
    longer: float
    draws: tuple[Drawn, ...]
    feeds_g: tuple[float, ...]
    lines: tuple[FlowLineResult, ...]
    last_places: tuple[LastPlace, ...]
    marks: tuple[FlowMark, ...]
    outline: tuple[tuple[float, ...], ...]
    holes: tuple[tuple[tuple[float, ...], ...], ...]


class FlowMap(Record):
    """The filling of a part in plan, for a drawing: a raster of `columns` by `rows` cells from `left_m`, `low_m`, each
    `width_m` by `height_m`, row by row from below; S at the middle of each, past all that is where no resin comes; None where nothing lies.
    """

    columns: int
    rows: int
    left_m: float
    low_m: float
    width_m: float
    height_m: float
    at_s: tuple[float | None, ...]
    rough: bool
