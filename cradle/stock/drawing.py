"""What runs and cutting draw out of a shop's lots, and put back where it was not used after all."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from cradle.bench.models import Run
from cradle.jobs.models import Job
from cradle.shops.models import Shop
from cradle.stock.models import Lot, Movement
from layup.job import JobSpec
from layup.preparing.before_pot import CutPlan, Offcut
from layup.scales import METRIC
from layup.shelf import Library
from layup.stock.articles import KeepsFor, articles_of
from layup.stock.lots import DIGITS, Draw, draw, in_order, put_back
from layup.stock.needs import Taken, taken_by_piece, together


@dataclass(frozen=True)
class Into:
    """What draws: a pot of a run, or a piece of a job, with what it is called."""

    job: Job
    words: str
    run: Run | None = None
    pot: int | None = None
    piece: str = ""
    at: datetime = field(default_factory=timezone.now)

    def movements(self):
        """What it drew and put back so far."""
        mine = Movement.objects.select_related("lot")
        if self.run:
            return mine.filter(run=self.run, pot=self.pot)
        return mine.filter(job=self.job, run=None, piece=self.piece)


@transaction.atomic
def settle(
    into: Into, person: AbstractBaseUser, taken: Sequence[Taken], spec: JobSpec, chosen: Mapping[str, str] | None = None
) -> None:
    """Draw what is still wanting, and put back what is too much, so that what was drawn is what was taken.

    `chosen` is the lot that somebody said he takes, by article. What no lot has is not drawn: stock never goes under nought.
    """
    wanted, had = together(taken), _had(into)
    keeps = keeps_of(spec)
    for key in dict.fromkeys((*wanted, *had)):
        still = round(wanted.get(key, 0.0) - sum(had.get(key, {}).values()), DIGITS)
        if still > 0:
            named = (chosen or {}).get(key, "")
            order = in_order(_lots(into.job.shop, key, named), keeps.get(key), into.job.shop.now().date(), named)
            _move(into, person, Movement.Kind.DRAWN, draw(order, still).draws, -1)
        elif still < 0:
            _move(into, person, Movement.Kind.PUT_BACK, put_back(had[key], -still), 1)


def held_of(run: Run) -> dict[int, dict[Lot, float]]:
    """What each pot of a run holds of which lot: what it drew, less what went back."""
    found: dict[int, dict[Lot, float]] = defaultdict(dict)
    for movement in run.movements.filter(pot__isnull=False).select_related("lot"):
        of_pot = found[movement.pot]
        of_pot[movement.lot] = round(of_pot.get(movement.lot, 0.0) - movement.amount, DIGITS)
    return {pot: {lot: amount for lot, amount in lots.items() if amount > 0} for pot, lots in found.items()}


def cut_of(job: Job) -> dict[Lot, float]:
    """What the pieces of a job took off which lot, less what went back."""
    found: dict[Lot, float] = defaultdict(float)
    for movement in job.movements.filter(run=None).exclude(piece="").select_related("lot"):
        found[movement.lot] = round(found[movement.lot] - movement.amount, DIGITS)
    return {lot: amount for lot, amount in found.items() if amount > 0}


def chosen_tins(run: Run) -> dict[str, str]:
    """The lot that somebody said is poured from, by article: the last that was said."""
    said = [event.data["lot"] for event in run.standing() if event.kind == "tin taken"]
    lots = {str(lot.pk): lot.article.key for lot in run.job.shop.lots.filter(pk__in=said)}
    return {lots[lot_id]: lot_id for lot_id in said if lot_id in lots}


def keeps_of(spec: JobSpec) -> dict[str, KeepsFor | None]:
    """How long the articles of a job keep, by their key."""
    of = spec.materials
    told = articles_of(Library(fabrics=of.fabrics, resins=of.resins, fillers=of.fillers))
    return {key: article.keeps for key, article in told.items()}


def _lots(shop: Shop, key: str, named: str = ""):
    """The lots of an article that something is left of; of offcuts the one that is named."""
    kind, product_id = key.split(" ", 1)
    lots = shop.lots.filter(article_kind=kind, product_id=product_id, left__gt=0)
    return [lot.fact() for lot in lots if lot.width_mm is None or str(lot.pk) == named]


def offcuts_for(job: Job) -> tuple[Offcut, ...]:
    """What is left over of fabrics for a job to be cut from. What its own pieces took off one is counted to it, so that it
    stays where it was laid out.
    """
    taken: dict[str, dict[str, float]] = defaultdict(dict)
    moved = job.movements.filter(run=None).exclude(piece="").values_list("lot_id", "lot__width_mm", "piece", "amount")
    elsewhere: dict[str, float] = defaultdict(float)
    for lot_id, width_mm, piece, amount in moved:
        if width_mm is None:
            elsewhere[piece] -= amount
        else:
            of_lot = taken[str(lot_id)]
            of_lot[piece] = of_lot.get(piece, 0.0) - amount
    not_for = frozenset(piece for piece, amount in elsewhere.items() if round(amount, DIGITS) > 0)
    found = []
    for lot in job.shop.lots.filter(article_kind="fabric", bad="").exclude(width_mm=None):
        metres = lot.left + sum(taken[str(lot.pk)].values())
        if metres > 0:
            found.append(
                Offcut(
                    lot_id=str(lot.pk),
                    called=lot.batch or "without a number",
                    fabric_id=lot.product_id,
                    width_mm=int(lot.width_mm),
                    length_mm=round(metres * 1000),
                    not_for=not_for,
                )
            )
    return tuple(found)


def _had(into: Into) -> dict[str, dict[str, float]]:
    """What was drawn and not put back, by article and lot, in the order the lots were begun."""
    found: dict[str, dict[str, float]] = defaultdict(dict)
    for movement in into.movements():
        of_article = found[movement.lot.article.key]
        lot_id = str(movement.lot_id)
        of_article[lot_id] = round(of_article.get(lot_id, 0.0) - movement.amount, DIGITS)
    return found


def _move(into: Into, person: AbstractBaseUser, kind: Movement.Kind, draws: Sequence[Draw], sign: int) -> None:
    for each in draws:
        said = {"job": into.job, "run": into.run, "pot": into.pot, "piece": into.piece, "into": into.words[:200]}
        Lot.objects.select_for_update().get(pk=each.lot_id).move(person, kind, sign * each.amount, at=into.at, **said)


def settle_pieces(job: Job, person: AbstractBaseUser, spec: JobSpec, cut: CutPlan, done: Mapping[str, bool]) -> None:
    """Draw the pieces that are cut off their rolls, and put back those that are not cut after all.

    `done` says of each piece that was ticked, by its id, whether it is cut.
    """
    if not job.shop.lots.filter(article_kind="fabric").exists():
        return
    of_piece, named = taken_by_piece(cut), {piece.id: piece for piece in cut.pieces}
    offcut_of = {piece.piece_id: roll.lot_id for roll in cut.rolls if roll.lot_id for piece in roll.pieces}
    for piece_id, is_cut in done.items():
        piece = named[piece_id]
        words = f"piece {piece.number}, {piece.size_words(METRIC)}, {piece.part_name}"
        taken = [of_piece[piece_id]] if is_cut and piece_id in of_piece else []
        chosen = {each.article.key: offcut_of[piece_id] for each in taken if piece_id in offcut_of}
        settle(Into(job, words, piece=piece_id), person, taken, spec, chosen)
