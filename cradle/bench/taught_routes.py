"""Routes of what the log has taught: each figure with its records, and records left out with a reason."""

from collections.abc import Callable, Iterator, Sequence
from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from django.db import models
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema

from cradle.bench.models import Event, Run
from cradle.beside.heat import with_heat_at_hand
from cradle.shelf.keeping import library_of
from cradle.shops.models import Gel, Learned, Shop, Shot, Stirred
from cradle.shops.routes import shop_of
from layup.errors import LayupError, OutOfRange
from layup.heat.pot_heat import HeatOf
from layup.infusion.shots import ALIKE_MBAR, taught_bed
from layup.joints.filler_log import taught_filler
from layup.materials import Consistency, Filler, ResinSystem
from layup.shelf import Library
from layup.taught import Pot, Taught, stated_pot_of, taught_gel

router = Router(tags=["log"])
TaughtKind = Literal["gel", "filler", "bed"]
# So many of the last records of a figure are listed.
_MOST_LISTED = 60


class RecordOut(Schema):
    """One record: what was seen, in its figure's unit, and in what pot or bag. `without` is the figure once it is left out, or
    taken in again where it is left out.
    """

    id: int
    at: datetime
    seen: float
    pot: Pot | None = None
    pull_mbar: float | None = None
    run_id: UUID | None = None
    left_out: str
    left_out_by: str
    without: float | None


class TaughtOut(Schema):
    """A figure that the log has taught, of what, and the records behind it."""

    kind: TaughtKind
    name: str
    of: str
    consistency: Consistency | None = None
    pot: Pot | None = None
    pull_mbar: float | None = None
    taught: Taught
    records: list[RecordOut]


class LeaveOutIn(Schema):
    """Whether a record is left out, and why; or taken in again."""

    left_out: bool
    reason: Annotated[str, Field(max_length=300)] = ""


@router.get("/shops/{uuid:shop_id}/taught", response=list[TaughtOut])
def list_taught(request: HttpRequest, shop_id: UUID):
    """All that the shop's log has taught, with counts and bands."""
    return _taught(shop_of(request, shop_id))


@router.put("/shops/{uuid:shop_id}/taught/{kind}/{int:record_id}", response=list[TaughtOut])
def leave_out(request: HttpRequest, shop_id: UUID, kind: TaughtKind, record_id: int, sent: LeaveOutIn):
    """Leave a record out, with a reason, or take it in again; it stays readable. Answers what the log teaches then."""
    shop = shop_of(request, shop_id, to_write=True)
    rows: models.Manager = {"gel": shop.gels, "filler": shop.stirred, "bed": shop.shots}[kind]
    record: Learned = get_object_or_404(rows, pk=record_id)
    reason = sent.reason.strip()
    if sent.left_out and len(reason) < 3:
        raise OutOfRange("say why it is left out, in a word or two", "reason")
    record.left_out, record.left_out_by = (reason, request.user) if sent.left_out else ("", None)
    record.save(update_fields=["left_out", "left_out_by"])
    return _taught(shop)


def _taught(shop: Shop) -> list[TaughtOut]:
    library = library_of(shop)
    made = with_heat_at_hand(lambda heat_of: [*_gels(shop, library, heat_of)])
    return [*made, *_fillers(shop, library), *_beds(shop)]


def _gels(shop: Shop, library: Library, heat_of: HeatOf) -> Iterator[TaughtOut]:
    rows = list(shop.gels.select_related("left_out_by").order_by("-gelled_at", "-id"))
    runs = _runs_of(rows)
    resins = {resin.id: resin for resin in library.resins}
    for resin_id, hardener_id in dict.fromkeys((row.resin_id, row.hardener_id) for row in rows):
        resin = resins.get(resin_id)
        hardener = next((each for each in resin.hardeners if each.id == hardener_id), None) if resin else None
        if resin is None or (hardener is None and resin.catalyst is None):
            continue
        mine = [row for row in rows if (row.resin_id, row.hardener_id) == (resin_id, hardener_id)]

        def figure(some: Sequence[Gel], resin: ResinSystem = resin, hardener_id: str = hardener_id) -> Taught:
            return taught_gel(resin, hardener_id, [row.fact() for row in some], heat_of)

        yield TaughtOut(
            kind="gel",
            name=resin.name,
            of=hardener.name if hardener else "",
            pot=stated_pot_of(resin, hardener_id),
            taught=figure(_in(mine)),
            records=_records(mine, figure, lambda row: row.minutes, lambda row: row.gelled_at, runs),
        )


def _fillers(shop: Shop, library: Library) -> Iterator[TaughtOut]:
    rows = list(shop.stirred.select_related("left_out_by").order_by("-stirred_at", "-id"))
    runs = _runs_of(rows)
    fillers = {filler.id: filler for filler in library.fillers}
    for filler_id, consistency in dict.fromkeys((row.filler_id, row.consistency) for row in rows):
        filler = fillers.get(filler_id)
        if filler is None:
            continue
        mine = [row for row in rows if (row.filler_id, row.consistency) == (filler_id, consistency)]
        others = [row for row in _in(rows) if row.filler_id == filler_id and row.consistency != consistency]

        def figure(
            some: Sequence[Stirred],
            filler: Filler = filler,
            consistency: Consistency = consistency,
            others: Sequence[Stirred] = others,
        ) -> Taught:
            return taught_filler(filler, consistency, [row.fact() for row in (*some, *others)])

        yield TaughtOut(
            kind="filler",
            name=filler.name,
            of=consistency,
            consistency=consistency,
            taught=figure(_in(mine)),
            records=_records(mine, figure, lambda row: row.parts, lambda row: row.stirred_at, runs),
        )


def _beds(shop: Shop) -> Iterator[TaughtOut]:
    """Shots of a bed under about the same pull go together."""
    rows = list(shop.shots.select_related("left_out_by").order_by("-seen_at", "-id"))
    while rows:
        first = rows[0]
        mine = [row for row in rows if row.bed == first.bed and abs(row.pull_mbar - first.pull_mbar) <= ALIKE_MBAR]
        rows = [row for row in rows if row not in mine]

        def figure(some: Sequence[Shot], first: Shot = first) -> Taught | None:
            return taught_bed(first.bed, first.pull_mbar, [row.fact() for row in some])

        taught = figure(_in(mine)) or Taught(count=0, told=1.0, now=1.0, least=1.0, most=1.0)
        yield TaughtOut(
            kind="bed",
            name=first.bed,
            of="",
            pull_mbar=first.pull_mbar,
            taught=taught,
            records=_records(
                mine,
                figure,
                lambda row: row.times,
                lambda row: row.seen_at,
                {row.pk: row.run_id for row in mine},
            ),
        )


def _in(rows: Sequence[Learned]) -> list[Learned]:
    return [row for row in rows if not row.left_out]


def _runs_of(rows: Sequence[Learned]) -> dict[int, UUID]:
    """The run that each record is of, by the press that told it; none of one whose job was deleted."""
    taps = {row.tap_id: row.pk for row in rows}
    events = Event.objects.filter(tap_id__in=taps, run__in=Run.objects.filter(job__deleted_at=None))
    return {taps[tap_id]: run_id for tap_id, run_id in events.values_list("tap_id", "run_id")}


def _records(
    rows: Sequence[Learned],
    figure: Callable[[list], Taught | None],
    seen: Callable[..., float],
    at: Callable[..., datetime],
    runs: dict[int, UUID],
) -> list[RecordOut]:
    return [
        RecordOut(
            id=row.pk,
            at=at(row),
            seen=seen(row),
            pot=_pot_of(row),
            pull_mbar=getattr(row, "pull_mbar", None),
            run_id=runs.get(row.pk),
            left_out=row.left_out,
            left_out_by=row.left_out_by.get_username() if row.left_out_by else "",
            without=_without(rows, row, figure),
        )
        for row in rows[:_MOST_LISTED]
    ]


def _pot_of(row: Learned) -> Pot | None:
    if not isinstance(row, Gel):
        return None
    return Pot(mass_g=row.mass_g, temperature_c=row.temperature_c, catalyst_pct=row.catalyst_pct)


def _without(rows: Sequence[Learned], row: Learned, figure: Callable[[list], Taught | None]) -> float | None:
    """The figure with this one record the other way round: left out, or taken in."""
    others = [other for other in rows if other.pk != row.pk and not other.left_out]
    try:
        found = figure([*others, row] if row.left_out else others)
    except LayupError:
        return None
    return found.now if found else None
