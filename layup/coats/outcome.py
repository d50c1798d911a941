"""What a plan says of its coats, as plain frozen records."""

from typing import Literal

from layup.materials import CoatKind
from layup.record import Record

CoatTest = Literal["thumb", "brush mark", "none"]


class CoatResult(Record):
    """A coat on its part, `count` of them alike: each so thick wet and so heavy, on the work; together so thick dry.

    `resin_g` is of all copies, `lost_g` what stays on the tool or goes past the work besides. `test` tells how it is known
    that the next may go on: from `opens_min` after its mixing, and until `closes_min`; None where it is of no resin in use.
    """

    part_id: str
    part_name: str
    ply_id: str
    path: str
    kind: CoatKind
    name: str
    product: str
    count: int
    each_wet_um: float
    each_gsm: float
    dry_um: float
    spreads_m2_per_l: float
    loss_share: float
    area_m2: float
    resin_g: float
    lost_g: float
    test: CoatTest
    opens_min: float | None
    closes_min: float | None
    on_top: bool
