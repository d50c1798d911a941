"""A part divided into bays: how it is walked along, the drops of fabric it falls into, and what of each ply lies in a bay."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import accumulate, pairwise
from math import ceil, pi

from layup.architecture import Architecture
from layup.errors import OutOfRange
from layup.job import MOST_BAYS, JobSpec, Part
from layup.laminate.measures import Measured, Point
from layup.materials import Fabric
from layup.pots.work import Bay, Bays, Work, counts_of_bays
from layup.shapes import FrustumSkin
from layup.usual import LEAST_BAY_M

# A shape whose place along the part is not known, or that is one thing: it is never divided.
_WHOLE = ("patch", "area")


@dataclass(frozen=True)
class Run:
    """How a part is walked along: the length of it, m, and its flat pieces, turned so that the walk goes along x.

    A cone is walked round its larger edge: then it goes `around`, and seams lie along the radii of its unrolled sector.
    """

    length_m: float
    pieces: tuple[tuple[Point, ...], ...]
    turned: bool = False
    around: bool = False

    def share(self, from_m: float, to_m: float) -> float:
        """What of the part's area lies between two places of the walk.

        >>> box = Run(4.0, (((0, 0), (4, 0), (4, 2), (0, 2)),))
        >>> box.share(0, 1), box.share(3, 5)
        (0.25, 0.25)
        """
        if self.around:
            return (min(to_m, self.length_m) - max(from_m, 0.0)) / self.length_m
        whole = sum(area_left_of(piece, self.length_m) for piece in self.pieces)
        part = sum(area_left_of(piece, to_m) - area_left_of(piece, from_m) for piece in self.pieces)
        return part / whole

    def seams(self, at_m: float) -> tuple[tuple[Point, Point], ...]:
        """Where a seam lies on each of the flat pieces, from end to end, as the part is drawn."""
        if self.around:
            return (_radius_at(self.pieces[0], at_m / self.length_m),)
        found = (chord(piece, at_m) for piece in self.pieces)
        lines = (((at_m, low), (at_m, high)) for low, high in filter(None, found))
        return tuple(((a[1], a[0]), (b[1], b[0])) if self.turned else (a, b) for a, b in lines)

    def widest_m(self, from_m: float, to_m: float) -> float:
        """How wide a square piece must be that covers the part between two places of the walk."""
        if self.around:
            return _sector_tall(self.pieces[0], from_m / self.length_m, to_m / self.length_m)
        places = [from_m, to_m, *(x for piece in self.pieces for x, _ in piece if from_m < x < to_m)]
        chords = (chord(piece, at) for piece in self.pieces for at in places)
        return max((high - low for low, high in filter(None, chords)), default=0.0)

    def middle(self, at_m: float) -> Point:
        """The middle of the part across the walk, at a place along it."""
        (ax, ay), (bx, by) = self.seams(at_m)[0]
        return (ax + bx) / 2, (ay + by) / 2

    def seam_m(self, at_m: float) -> float:
        """How long a seam is, m."""
        return sum(((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2) ** 0.5 for a, b in self.seams(at_m))


def run_of(part: Part, measured: Measured) -> Run | None:
    """How a part is walked along: its longer way on the flat, a cone round. None for what is never divided."""
    if part.shape.kind in _WHOLE:
        return None
    if isinstance(part.shape, FrustumSkin) and len(measured.pieces[0]) > 4:
        large = max(part.shape.diameter_a_m or 0.0, part.shape.diameter_b_m or 0.0)
        return Run(pi * large, measured.pieces, around=True)
    points = [point for piece in measured.pieces for point in piece]
    long, tall = max(x for x, _ in points), max(y for _, y in points)
    if part.shape.kind in ("strip", "girths") or long >= tall:
        return Run(long, measured.pieces)
    return Run(tall, tuple(tuple((y, x) for x, y in piece) for piece in measured.pieces), turned=True)


def area_left_of(piece: Sequence[Point], at_m: float) -> float:
    """Area of what of a polygon lies at less than `at_m` along x, m². Exact: the polygon is clipped and measured.

    >>> area_left_of(((0, 0), (2, 0), (2, 1), (0, 1)), 0.5)
    0.5
    """
    kept: list[Point] = []
    for a, b in pairwise((*piece, piece[0])):
        if a[0] <= at_m:
            kept.append(a)
        if (a[0] - at_m) * (b[0] - at_m) < 0:
            kept.append((at_m, a[1] + (b[1] - a[1]) * (at_m - a[0]) / (b[0] - a[0])))
    return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in pairwise((*kept, *kept[:1])))) / 2


def chord(piece: Sequence[Point], at_m: float) -> tuple[float, float] | None:
    """From where to where a polygon is crossed at `at_m` along x.

    >>> chord(((0, 0), (2, 0), (2, 1), (0, 1)), 0.5)
    (0.0, 1.0)
    """
    crossed = [
        a[1] + (b[1] - a[1]) * (at_m - a[0]) / (b[0] - a[0])
        for a, b in pairwise((*piece, piece[0]))
        if (a[0] - at_m) * (b[0] - at_m) <= 0 and a[0] != b[0]
    ]
    return (min(crossed), max(crossed)) if crossed else None


def _radius_at(sector: Sequence[Point], turned: float) -> tuple[Point, Point]:
    """The line across an unrolled cone at so much of its turn: its two arcs have as many points each."""
    arc = len(sector) // 2
    at = min(round(turned * (arc - 1)), arc - 1)
    return sector[at], sector[len(sector) - 1 - at]


def _sector_tall(sector: Sequence[Point], from_turn: float, to_turn: float) -> float:
    """How tall a square is that covers an unrolled cone between two of its radii, stood upright."""
    (ax, ay), (bx, by) = _radius_at(sector, (from_turn + to_turn) / 2)
    across = (bx - ax, by - ay)
    long = (across[0] ** 2 + across[1] ** 2) ** 0.5
    points = [point for turn in (from_turn, (from_turn + to_turn) / 2, to_turn) for point in _radius_at(sector, turn)]
    heights = [(x * across[0] + y * across[1]) / long for x, y in points]
    return max(heights) - min(heights)


def drops_m(part: Part, run: Run, fabrics: Mapping[str, Fabric], overlap_mm: float) -> tuple[float, ...]:
    """Where each drop of fabric ends along a part, m, the last at its end: as few as the narrowest roll on it takes with
    what overlaps, all as wide. Pieces of foam or balsa are no drops.
    """
    cloths = (fabrics.get(ply.fabric_id) for ply in part.plies if not ply.strips and not ply.over and not ply.band_id)
    wide = [cloth.roll_width_mm for cloth in cloths if cloth and cloth.architecture is not Architecture.CORE]
    if not wide:
        return (run.length_m,)
    drop_m = (min(wide) - overlap_mm) / 1000
    if drop_m <= 0:
        return (run.length_m,)
    count = max(1, ceil(round((run.length_m - overlap_mm / 1000) / drop_m, 6)))
    return tuple(run.length_m * n / count for n in range(1, count + 1))


def ends_of(drops: Sequence[float], count: int) -> tuple[float, ...]:
    """Where so many bays end, each of whole drops, as even as they come.

    >>> ends_of((1.0, 2.0, 3.0, 4.0, 4.5), 2)
    (3.0, 4.5)
    """
    most, rest = divmod(len(drops), count)
    sizes = [most + (n < rest) for n in range(count)]
    return tuple(drops[n - 1] for n in accumulate(sizes))


def wished_ends(part: Part, run: Run) -> tuple[float, ...] | None:
    """Where the bays end that the builder asks for; None where he leaves it to the plan. Raises OutOfRange at a field of
    `bays` where they cannot be."""
    wishes, length = part.bays, run.length_m
    if wishes.seams_m:
        if wishes.seams_m[-1] >= length or any(a >= b for a, b in pairwise((0.0, *wishes.seams_m))):
            raise OutOfRange(
                f"the seams lie between the ends of the part, each further along than the last: "
                f"it is {{={length:.2f} m}} long",
                "seams_m",
            )
        return (*wishes.seams_m, length)
    if wishes.width_m:
        count = max(1, ceil(round(length / wishes.width_m, 6)))
        if count > MOST_BAYS:
            raise OutOfRange(f"that makes {count} bays, and {MOST_BAYS} is the most: make them wider", "width_m")
        return (*(wishes.width_m * n for n in range(1, count)), length)
    if wishes.bay_count:
        return tuple(length * n / wishes.bay_count for n in range(1, wishes.bay_count + 1))
    return None


def steps_of(part: Part, works: Sequence[Work]) -> tuple[float, ...]:
    """How far each work steps back from the seam of a bay, m: the first ply not at all, each after it once more."""
    step, steps = part.bays.stagger_mm / 1000, []
    plies = -1
    for work in works:
        plies += bool(work.ply)
        steps.append(max(0, plies) * step)
    return tuple(steps)


def bays_between(ends: Sequence[float], run: Run, steps: Sequence[float]) -> tuple[Bay, ...]:
    """The bays that end so: what of each work lies in one, stepped back at its end and begun there by the next."""
    found = []
    for number, (begins, ends_m) in enumerate(pairwise((0.0, *ends)), 1):
        first, last = number == 1, number == len(ends)
        shares = tuple(
            run.share(0.0 if first else begins - back, run.length_m if last else ends_m - back) for back in steps
        )
        edge = 0.0 if last else max(steps, default=0.0) * run.seam_m(ends_m)
        seams = () if last else run.seams(ends_m)
        found.append(
            Bay(
                number,
                f"bay {number} of {len(ends)}",
                begins,
                ends_m,
                shares,
                edge,
                seams,
                run.middle((begins + ends_m) / 2),
            )
        )
    return tuple(found)


def bays_of(
    part: Part, measured: Measured, works: Sequence[Work], fabrics: Mapping[str, Fabric], job: JobSpec
) -> Bays | None:
    """How a part may be divided; None for one that is laid whole. Raises OutOfRange at the field that cannot be."""
    run = run_of(part, measured)
    if run is None:
        return None
    steps = steps_of(part, works)
    wished, back = wished_ends(part, run), max(steps, default=0.0)
    if wished and len(wished) > 1:
        narrow = min(b - a for a, b in pairwise((0.0, *wished)))
        field = "seams_m" if part.bays.seams_m else "width_m" if part.bays.width_m else "bay_count"
        if narrow <= back:
            raise OutOfRange(
                f"a bay of {{={narrow:.2f} m}} is narrower than the {{={1000 * back:.0f} mm}} its plies step back: "
                "fewer bays, or step each ply back less",
                field,
            )
        if narrow < LEAST_BAY_M:
            raise OutOfRange(
                f"a bay of {{={narrow:.3f} m}} is narrower than a roller: fewer bays of {{={LEAST_BAY_M:g} m}} or more",
                field,
            )
    if wished:
        return Bays(wished=len(wished), divide=partial(_divided, {len(wished): wished}, run, steps))
    drops = drops_m(part, run, fabrics, job.cutting.sheet_overlap_mm)
    counts = [count for count in counts_of_bays(len(drops)) if count <= MOST_BAYS]
    wide = [count for count in counts if _narrowest(ends_of(drops, count)) > back]
    ends = {count: ends_of(drops, count) for count in wide}
    return Bays(tuple(wide), divide=partial(_divided, ends, run, steps))


def _divided(ends: Mapping[int, Sequence[float]], run: Run, steps: Sequence[float], count: int) -> tuple[Bay, ...]:
    return bays_between(ends[count], run, steps)


def _narrowest(ends: Sequence[float]) -> float:
    return min(b - a for a, b in pairwise((0.0, *ends)))
