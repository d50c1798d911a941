"""All pieces of a job packed on the rolls they are cut from, counted and labelled in the order they go down."""

from collections.abc import Iterable, Iterator, Sequence
from types import MappingProxyType

from layup import kinds
from layup.errors import LayupError
from layup.job import CutWishes, JobSpec
from layup.materials import Fabric
from layup.preparing.before_pot import CutPiece, CutPlan, CutRoll, Divided, Offcut, PlacedPiece
from layup.preparing.packing import Put, area, longer_side, packed, shorter_side
from layup.preparing.pieces import LONGEST_UNKNOWN_ROLL_M, may_turn

_MOST_PIECES = 5000
UNDIVIDED: Divided = MappingProxyType({})


def piece_count(job: JobSpec, divided: Divided = UNDIVIDED) -> int:
    """How many pieces a job is cut into, spares not counted. Raises LayupError as `cut_plan` does.

    >>> piece_count(JobSpec(name="Deck"))
    0
    """
    count = sum(kind.piece_count(job, divided) for kind in kinds.KINDS)
    if count > _MOST_PIECES:
        raise LayupError(f"{count:,} pieces are more than one job can be cut into: split it")
    return count


def fabrics_cut(job: JobSpec) -> dict[str, Fabric]:
    """The fabrics that a job is cut from, by their ids: its own, and what its kinds of work bring.

    >>> fabrics_cut(JobSpec(name="Deck"))
    {}
    """
    brought = (fabric for kind in kinds.KINDS for fabric in kind.brings(job))
    return {fabric.id: fabric for fabric in (*brought, *job.materials.fabrics)}


def pieces_of(job: JobSpec, divided: Divided = UNDIVIDED) -> Iterator[CutPiece]:
    """Every piece of a job in laying order: first of what is closed in by the rest, then kind by kind."""
    piece_count(job, divided)
    laid = (
        piece
        for early in (True, False)
        for kind in kinds.KINDS
        for piece in kind.pieces(job, early=early, divided=divided)
    )
    for number, piece in enumerate(laid, 1):
        yield piece.model_copy(update={"number": number})


def cut_plan(job: JobSpec, divided: Divided = UNDIVIDED, offcuts: Sequence[Offcut] = ()) -> CutPlan:
    """All pieces of a job packed on its rolls, fabric by fabric; of what is `divided` bay by bay. What goes on `offcuts` that are
    left over is cut from those first.

    Packing: maximal rectangles, the best of a few orders. A roll that states its length is not cut past it.
    """
    pieces = tuple(pieces_of(job, divided))
    fabrics = fabrics_cut(job)
    rolls: list[CutRoll] = []
    for fabric_id in dict.fromkeys(piece.fabric_id for piece in pieces):
        fabric = fabrics[fabric_id]
        own = [piece for piece in pieces if piece.fabric_id == fabric_id]
        wanted = own + _spares(own, job.cutting)
        left_over = [offcut for offcut in offcuts if offcut.fabric_id == fabric_id]
        on_offcuts = from_offcuts(wanted, fabric, left_over)
        placed = {piece.piece_id for roll in on_offcuts for piece in roll.pieces}
        rolls += on_offcuts
        rolls += pack([piece for piece in wanted if piece.id not in placed], fabric)
    return CutPlan(pieces=pieces, rolls=tuple(rolls))


def _spares(pieces: Sequence[CutPiece], wishes: CutWishes) -> list[CutPiece]:
    if not wishes.spare or not pieces:
        return []
    largest = max(pieces, key=lambda piece: piece.along_mm * piece.across_mm)
    return [largest.model_copy(update={"id": f"spare.{largest.fabric_id}", "number": 0, "notes": ("spare",)})]


_ORDERS = (longer_side, area, shorter_side)


def pack(pieces: Sequence[CutPiece], fabric: Fabric) -> list[CutRoll]:
    """Pieces of one fabric on as many rolls as they take; none overlap, and none turns that may not.

    Running length is what has to come off the roll; waste is what of it is in no piece.
    """
    if not pieces:
        return []
    width = int(fabric.roll_width_mm)
    length = int((fabric.roll_length_m or LONGEST_UNKNOWN_ROLL_M) * 1000)
    sizes = [(piece.across_mm, piece.along_mm) for piece in pieces]
    packings = (
        [
            [_placed(pieces[put.which], put) for put in roll]
            for roll in packed(sizes, width, length, turn=may_turn(fabric), order=order)
        ]
        for order in _ORDERS
    )
    best = min(packings, key=lambda rolls: (len(rolls), sum(_run_mm(roll) for roll in rolls)))
    return [_roll(fabric, number, placed) for number, placed in enumerate(best, 1)]


def from_offcuts(pieces: Sequence[CutPiece], fabric: Fabric, offcuts: Sequence[Offcut]) -> list[CutRoll]:
    """The offcuts that some of the pieces are cut from, the smallest that serves first; each piece whole, and none turned that
    may not be.
    """
    rolls: list[CutRoll] = []
    left = list(pieces)
    for offcut in sorted(offcuts, key=lambda each: (each.width_mm * each.length_mm, each.lot_id)):
        may = [piece for piece in left if piece.id not in offcut.not_for]
        placed = _on_one(may, offcut, turn=may_turn(fabric))
        if placed:
            whole = fabric.model_copy(
                update={"roll_width_mm": float(offcut.width_mm), "roll_length_m": offcut.length_mm / 1000}
            )
            roll = _roll(whole, len(rolls) + 1, placed)
            rolls.append(roll.model_copy(update={"lot_id": offcut.lot_id, "called": offcut.called}))
            gone = {piece.piece_id for piece in placed}
            left = [piece for piece in left if piece.id not in gone]
    return rolls


def _on_one(pieces: Sequence[CutPiece], offcut: Offcut, *, turn: bool) -> list[PlacedPiece]:
    """As many of the pieces as one offcut takes, the largest first."""
    sizes = [(piece.across_mm, piece.along_mm) for piece in pieces]
    sheets = packed(sizes, offcut.width_mm, offcut.length_mm, turn=turn, order=area, sheets=1)
    return [_placed(pieces[put.which], put) for sheet in sheets for put in sheet]


def _placed(piece: CutPiece, put: Put) -> PlacedPiece:
    return PlacedPiece(
        piece_id=piece.id,
        number=piece.number,
        x_mm=put.x,
        y_mm=put.y,
        across_mm=put.across,
        along_mm=put.along,
        turned=(put.across, put.along) != (piece.across_mm, piece.along_mm),
        label=f"{piece.ply_number}",
    )


def _run_mm(placed: Iterable[PlacedPiece]) -> float:
    return max(piece.y_mm + piece.along_mm for piece in placed)


def _roll(fabric: Fabric, number: int, placed: list[PlacedPiece]) -> CutRoll:
    run = _run_mm(placed)
    used = sum(piece.across_mm * piece.along_mm for piece in placed)
    return CutRoll(
        fabric_id=fabric.id,
        fabric_name=fabric.name,
        number=number,
        roll_width_mm=fabric.roll_width_mm,
        roll_length_m=fabric.roll_length_m,
        run_m=run / 1000,
        area_m2=used / 1e6,
        waste_share=1 - used / (run * fabric.roll_width_mm),
        architecture=fabric.architecture,
        fibre=fabric.fibre,
        pieces=tuple(sorted(placed, key=lambda piece: (piece.number == 0, piece.number))),
    )
