"""What a run built, told with its lots, its photos and what was let be before it."""

from collections.abc import Mapping
from zoneinfo import ZoneInfo

from django.utils import timezone

from cradle.bench.models import Photo, Run
from cradle.jobs.models import Tick
from cradle.stock.drawing import cut_of, held_of
from cradle.stock.models import Lot
from layup.as_built.built import RunToTell, as_built
from layup.as_built.cost import BuiltCost, cost_of_built
from layup.as_built.outcome import AsBuilt, DoneOtherwise, LotDrawn
from layup.errors import Missing

# A report of more would be larger than a letter takes.
MOST_PRINTED = 40


def built_of(run: Run) -> AsBuilt:
    """What a run built so far, by its shop's clock. Raises Missing for one from before there was a bench."""
    if run.issued_card is None:
        raise Missing("this run was begun before there was a bench: nothing was written down of its layers", "run")
    shop = run.job.shop
    lots = {number: _drawn(of) for number, of in held_of(run).items()}
    events = list(run.events.all())
    numbers = {event.pk: str(event.tap_id) for event in events}
    photos = Photo.objects.filter(event__run=run).values_list("event_id", flat=True)
    return as_built(
        RunToTell(
            job=run.spec,
            plan=run.issued,
            card=run.issued_card,
            events=[event.fact() for event in events],
            issued_at=run.started_at.astimezone(ZoneInfo(shop.time_zone)),
            now_min=run.minute_of(timezone.now()),
            revision=run.revision_number,
            simulated=run.simulated,
            lots=lots,
            cut=_drawn(cut_of(run.job)),
            waived=_waived(run),
            photos={numbers[pk]: pk for pk in photos},
        )
    )


def cost_of(run: Run, built: AsBuilt) -> BuiltCost | None:
    """What a run cost by the prices of the lots it drew; None where it drew nothing."""
    ids = {lot.id for lot in (*built.cut, *(lot for pot in built.pots for lot in pot.lots))}
    prices = {str(lot.pk): lot.price for lot in run.job.shop.lots.filter(pk__in=ids)}
    return cost_of_built(built, prices, sum(part.total_area_m2 for part in run.issued.parts))


def _drawn(lots: Mapping[Lot, float]) -> tuple[LotDrawn, ...]:
    return tuple(
        LotDrawn(id=str(lot.pk), called=str(lot), amount=amount, unit=lot.article.unit, bad=lot.bad)
        for lot, amount in lots.items()
    )


def photos_of(run: Run, built: AsBuilt) -> dict[int, bytes]:
    """The photos that an account of a run names, by their numbers; of many the first, so that a report can be sent."""
    named = [each.photo for each in built.noted if each.photo is not None][:MOST_PRINTED]
    return {photo.event_id: bytes(photo.content) for photo in Photo.objects.filter(event__run=run, event_id__in=named)}


def _waived(run: Run) -> list[DoneOtherwise]:
    """What was to be done before the first pot and was let be, as it stood when the run was begun."""
    last: dict[tuple[str, str], Tick] = {}
    for tick in run.job.ticks.filter(at__lte=run.started_at).select_related("by"):
        last[tick.kind, tick.thing] = tick
    return [
        DoneOtherwise(
            kind="waived",
            words=f"left undone: {tick.said}",
            at_min=run.minute_of(tick.at),
            by=tick.by.get_username(),
            reason=tick.reason,
        )
        for tick in last.values()
        if tick.state == Tick.State.WAIVED
    ]
