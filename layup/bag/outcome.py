"""What a plan says of its bags, as plain frozen records."""

from typing import Literal

from layup.record import Record

BagLayerKind = Literal["mould", "laminate", "core", "peel ply", "perforated film", "flow mesh", "breather", "bag"]


class BagLayer(Record):
    """One layer under a bag, from the mould outward: how much of it is cut, m², what it takes of the resin, g/m², how thick it
    lies, mm. It is `written` where it stands in the part's stack, else it comes with the bag."""

    kind: BagLayerKind
    name: str
    area_m2: float
    resin_gsm: float
    thickness_mm: float
    written: bool


class BagOnDay(Record):
    """A bag in its day, minutes from the start: the first pot's parts touch, the last of the resin is on, the bag is on, it is
    pulled down; the laminate has gelled at `gels_min`; it may be opened. `last_pot` is the last pot that may still be laid
    under it, and `last_pot_by_min` by when that must be on the work; `pots_in_all` is the number of the last there is."""

    lane: str
    first_touch_min: float
    laid_min: float
    bagged_min: float
    down_min: float
    gels_min: float
    opens_min: float
    last_pot: int
    last_pot_by_min: float
    pots_in_all: int

    @property
    def to_spare_min(self) -> float:
        return self.gels_min - self.down_min


class BagResult(Record):
    """A bag worked out, of one copy of its part; `bled_g` is of one too. Weights in g, pressures in mbar.

    By hand the laminate takes `by_hand_share` of fibre, under the bag `bagged_share`; what is over goes into what lies on it,
    `bled_gsm` of the `holds_gsm` that it holds. `pull_mbar` presses, with `force_kn`. A leak that was tested is
    `leak_mbar_l_per_s`, with which the pump holds `rises_mbar` over its end and a bag without a pump lasts `keeps_min` before
    half of its pull is gone.
    """

    id: str
    name: str
    copies: int
    infused: bool
    layers: tuple[BagLayer, ...]
    area_m2: float
    perimeter_m: float
    bag_m2: float
    tape_m: float
    pleats: int
    by_hand_share: float | None
    bagged_share: float | None
    bled_g: float
    bled_gsm: float
    holds_gsm: float
    ambient_mbar: float
    level_mbar: float
    inhg: float
    vacuum_pct: float
    pull_mbar: float
    force_kn: float
    tonnes: float
    air_l: float
    draw_down_min: float | None
    bagging_min: float
    leak_mbar_l_per_s: float | None
    leaks: bool
    rises_mbar: float | None
    keeps_min: float | None
    on_day: tuple[BagOnDay, ...] = ()
