"""What a plan says of what stiffens what lies there, as plain frozen records."""

from typing import Literal

from layup.record import Record

# What else the same material could do.
OtherWay = Literal["other face", "core between", "biaxial for mat", "twice as much"]


class StiffLayer(Record):
    """A layer of the strip, from the side that nothing is laid on: how thick, mm, how stiff along it, GPa, and whence that is
    known. `share` of all the stiffness after is its own."""

    name: str
    thickness_mm: float
    modulus_gpa: float
    source: str
    old: bool
    share: float


class OtherStiffening(Record):
    """Another way, and how many times as stiff it comes to; how thick a core it lays between, mm."""

    way: OtherWay
    times: float
    core_mm: float = 0.0


class StiffResult(Record):
    """How many times as stiff a strip of a part is with its plies as without, and within what nine in ten lie. EI in N·m² per m
    of width; its neutral axis before and after, mm from the first face. It was seen to be `seen_times` as stiff, where it was tried.
    """

    id: str
    name: str
    layers: tuple[StiffLayer, ...]
    before_nm: float
    after_nm: float
    times: float
    low: float
    high: float
    axis_before_mm: float
    axis_after_mm: float
    added_gsm: float
    others: tuple[OtherStiffening, ...]
    seen_times: float | None
    seen_within: bool | None
