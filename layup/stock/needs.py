"""What a pot and a piece take out of the stock, by article."""

from collections.abc import Mapping, Sequence

from layup.chemistry.blend import shares_in_hand
from layup.chemistry.ratio import weight_ratio
from layup.errors import LayupError, known
from layup.job import JobSpec
from layup.outcome import Plan
from layup.pots.outcome import PotResult
from layup.preparing.before_pot import CutPiece, CutPlan
from layup.record import Record
from layup.stock.articles import Article, of_catalyst, of_filler, of_hardener, of_resin


class Taken(Record):
    """So much of an article, in its unit."""

    article: Article
    amount: float


def taken_by_pot(
    job: JobSpec,
    plan: Plan,
    pot: PotResult,
    *,
    hardener_id: str,
    a_g: float | None,
    b_g: float | None,
    stirred_ml: float | None = None,
) -> tuple[Taken, ...]:
    """What one pot took of each tin: as it was poured, g, and as its ticket says where nobody wrote that down.

    `hardener_id` is the one that sets it. `stirred_ml` is the filler that really went in, loose; None where none did. Nothing
    where a density is not known, so that grams cannot be told.
    """
    use = job.use_of(pot.use_id)
    resin = job.product_of(use)
    if use is None or resin is None:
        return ()
    found: list[Taken] = []
    if resin.one_part:
        found.append(Taken(article=of_resin(resin), amount=pot.mass_g if a_g is None else a_g))
    elif catalyst := resin.catalyst:
        dosed = (pot.catalyst_pct or 0.0) / 100
        mixed_a_g = pot.mass_g / (1 + dosed) if a_g is None else a_g
        found.append(Taken(article=of_resin(resin), amount=mixed_a_g))
        found.append(Taken(article=of_catalyst(catalyst), amount=mixed_a_g * dosed if b_g is None else b_g))
    else:
        chosen = hardener_id or known(plan.resin_of(pot.use_id)).chemistry.chosen_id
        shares = shares_in_hand(resin, use, chosen)
        try:
            b_per_a = weight_ratio(resin, shares[0][0].density_g_per_cm3).b_per_a
        except LayupError:
            b_per_a = 0.0
        if b_per_a or (a_g is not None and b_g is not None):
            mixed_a_g = pot.mass_g / (1 + b_per_a) if a_g is None else a_g
            mixed_b_g = mixed_a_g * b_per_a if b_g is None else b_g
            found.append(Taken(article=of_resin(resin), amount=mixed_a_g))
            found += (Taken(article=of_hardener(each), amount=mixed_b_g * share) for each, share in shares)
    thickened = pot.ticket.thickened if pot.ticket else None
    if thickened and stirred_ml is not None:
        fillers = {filler.id: filler for filler in job.materials.fillers}
        planned_ml = sum(row.loose_ml for row in thickened.fillers)
        for row in thickened.fillers:
            if row.filler_id in fillers and planned_ml:
                amount = row.grams * stirred_ml / planned_ml
                found.append(Taken(article=of_filler(fillers[row.filler_id]), amount=amount))
    return tuple(each for each in found if each.amount > 0)


def taken_by_piece(cut: CutPlan) -> dict[str, Taken]:
    """How much of its roll each piece takes, running metres, by the piece's id: what is cut away is shared by what is laid.

    The pieces of a roll take all that comes off it.
    """
    by_id = {piece.id: piece for piece in cut.pieces}
    found: dict[str, float] = {}
    for roll in cut.rolls:
        area = {placed.piece_id: placed.along_mm * placed.across_mm for placed in roll.pieces}
        whole = sum(placed.along_mm * placed.across_mm for placed in roll.pieces)
        for piece_id, mm2 in area.items():
            found[piece_id] = found.get(piece_id, 0.0) + roll.run_m * mm2 / whole
    return {piece_id: _of_roll(by_id[piece_id], metres) for piece_id, metres in found.items()}


def _of_roll(piece: CutPiece, metres: float) -> Taken:
    return Taken(article=Article(kind="fabric", product_id=piece.fabric_id), amount=metres)


def together(taken: Sequence[Taken]) -> Mapping[str, float]:
    """What several took of each article, by its key.

    >>> tin = Article(kind="resin", product_id="r")
    >>> dict(together([Taken(article=tin, amount=2), Taken(article=tin, amount=3)]))
    {'resin r': 5.0}
    """
    found: dict[str, float] = {}
    for each in taken:
        found[each.article.key] = found.get(each.article.key, 0.0) + each.amount
    return found
