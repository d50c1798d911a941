"""What the shop's own shots say of a bed: how many times as open it was as is told of its fabric from memory."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log

from layup.infusion.fibre import permeability_of
from layup.laminate.outcome import PlyResult
from layup.shop_facts import LoggedShot
from layup.taught import Taught

# A shot speaks for others whose bag presses as hard, within so much, mbar (memory).
ALIKE_MBAR = 100.0


@dataclass(frozen=True)
class OwnShots:
    """How many shots of a bed there were, and how many times as open it was by them: in the middle, at the least, at the most."""

    count: int
    times: float
    least: float
    most: float


def bed_of(plies: Sequence[PlyResult], meshed: bool) -> str:
    """What a bed is called in the log: the fabrics that resin runs through, each once, and whether a mesh lies over them."""
    fabrics = sorted({ply.name for ply in plies if ply.stays and permeability_of(ply)})
    return " and ".join(fabrics) + (" under flow mesh" if meshed else "")


def own_shots(bed: str, pull_mbar: float, shots: Sequence[LoggedShot]) -> OwnShots | None:
    """What the shots of a bed under about the same pull say, None without any: their geometric mean, since how open a bed is
    strays by a factor.

    >>> shots = [LoggedShot(bed="600 biaxial", pull_mbar=900, times=times) for times in (1.0, 1.44)]
    >>> own_shots("600 biaxial", 930, shots), own_shots("600 biaxial", 500, shots)
    (OwnShots(count=2, times=1.2, least=1.0, most=1.44), None)
    """
    found = [shot.times for shot in shots if shot.bed == bed and abs(shot.pull_mbar - pull_mbar) <= ALIKE_MBAR]
    if not found:
        return None
    middle = exp(sum(log(times) for times in found) / len(found))
    return OwnShots(len(found), round(middle, 4), min(found), max(found))


def taught_bed(bed: str, pull_mbar: float, shots: Sequence[LoggedShot]) -> Taught | None:
    """How many times as open a bed is as is told from memory; None without a shot of it.

    >>> shots = [LoggedShot(bed="600 biaxial", pull_mbar=900, times=times) for times in (1.0, 1.44)]
    >>> taught_bed("600 biaxial", 900, shots).now
    1.2
    """
    found = own_shots(bed, pull_mbar, shots)
    if found is None:
        return None
    return Taught(count=found.count, told=1.0, now=found.times, least=found.least, most=found.most)
