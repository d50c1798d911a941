"""What a shop does with its benches and instruments: make them, put a run there, check a scale, try it simulated."""

import json

from django.contrib.auth.models import AbstractBaseUser
from django.db import IntegrityError, transaction
from django.utils import timezone

from cradle.bench.models import Run
from cradle.bench.stream import HUB, LIVE
from cradle.instruments.feeds import FEEDS
from cradle.instruments.models import Instrument, Kind, Place, ScaleCheck
from cradle.instruments.ports import READERS
from cradle.instruments.standins import KINDS, STANDINS, key_of
from cradle.instruments.tokens import new_token
from cradle.shops.models import Shop
from layup.errors import OutOfRange
from layup.instruments.lines import Instrument as KindName
from layup.instruments.lines import shape_by_example

MOST_PLACES = 20


def add_place(shop: Shop, name: str) -> Place:
    """Make a bench. Raises OutOfRange where the shop has one of that name, or more than anybody has."""
    if shop.places.count() >= MOST_PLACES:
        raise OutOfRange(f"a shop has {MOST_PLACES} benches at most: take one away first", "name")
    try:
        with transaction.atomic():
            return Place.objects.create(shop=shop, name=name.strip())
    except IntegrityError:
        raise OutOfRange(f"there is a bench “{name.strip()}” already: give it another name", "name") from None


def remove_place(place: Place) -> None:
    """Take a bench away, with its instruments."""
    STANDINS.stop(place.pk)
    place.delete()
    READERS.look_again()


def put_run(place: Place, run: Run | None, pot: int | None, person: AbstractBaseUser) -> None:
    """Work a run at a bench from now on: what its instruments write down is by this person. A run is at one bench."""
    with transaction.atomic():
        if run and STANDINS.of(place.pk):
            _simulated(run)
        if run:
            Place.objects.filter(shop=place.shop, run=run).exclude(pk=place.pk).update(run=None)
        place.run, place.pot, place.put_by = run, pot, person
        place.save(update_fields=["run", "pot", "put_by"])
    for one in place.shop.places.all():
        bench = FEEDS.bench_of(one.pk)
        if bench:
            bench.put()


def add_instrument(
    place: Place,
    person: AbstractBaseUser,
    *,
    kind: KindName,
    name: str,
    port: str = "",
    baud: int = 9600,
    unit: str = "",
    example: tuple[list[str], int] | None = None,
) -> tuple[Instrument, str]:
    """Put an instrument at a bench: on a port, or with a token to post by, which is answered this once.

    Raises OutOfRange where the bench has one of its kind, its port is taken, or its lines teach nothing.
    """
    if port and Instrument.objects.filter(port=port, withdrawn_at=None).exists():
        raise OutOfRange("another instrument is on this port", "port")
    pattern = shape_by_example(*example, kind).pattern if example else ""
    token, kept = ("", "") if port else new_token()
    try:
        with transaction.atomic():
            made = Instrument.objects.create(
                place=place,
                kind=kind,
                name=name.strip(),
                port=port,
                baud=baud,
                unit=unit,
                pattern=pattern,
                token_hash=kept,
                made_by=person,
            )
    except IntegrityError:
        words = f"{place.name} has a {Kind(kind).label.lower()} already: withdraw that one first"
        raise OutOfRange(words, "kind") from None
    READERS.look_again()
    return made, token


def withdraw(instrument: Instrument) -> None:
    """An instrument is not listened to any more, and its token opens nothing."""
    instrument.withdrawn_at = timezone.now()
    instrument.save(update_fields=["withdrawn_at"])
    FEEDS.forget(instrument.pk)
    READERS.look_again()


def check_scale(instrument: Instrument, known_g: float, person: AbstractBaseUser) -> ScaleCheck:
    """Keep what a scale shows of a known weight that stands on it. Raises OutOfRange where it shows nothing to go by."""
    feed = FEEDS.known(instrument.pk)
    told = feed.told if feed else None
    if instrument.kind != Kind.SCALE:
        raise OutOfRange("only a scale is checked by a weight", "known_g")
    if told is None or told.value is None or not told.still:
        raise OutOfRange("put the weight on, and wait until the scale stands still", "known_g")
    if abs(told.value - known_g) > 0.2 * known_g:
        words = "the scale shows nothing like that: is the weight on it, alone, and the scale at nought before?"
        raise OutOfRange(words, "known_g")
    return ScaleCheck.objects.create(instrument=instrument, by=person, known_g=known_g, shown_g=told.value)


def work_standins(
    place: Place, person: AbstractBaseUser, do: str, *, kind: str, pace: int | None, fast: bool | None
) -> None:
    """Start, stop and handle the simulated instruments of a bench."""
    if do == "start":
        _start(place, person)
    elif do == "stop":
        STANDINS.stop(place.pk)
        for one in place.instruments.filter(withdrawn_at=None, port__in=[key_of(place.pk, kind) for kind in KINDS]):
            withdraw(one)
    bench = STANDINS.of(place.pk)
    if bench is None:
        if do not in ("start", "stop"):
            raise OutOfRange("start the simulated instruments first", "do")
        return
    at_bench, scale = FEEDS.bench_of(place.pk), bench.scale
    if do == "cup":
        pot = at_bench.pot_to_weigh() if at_bench else None
        scale.put_cup(at_bench.cup_g(pot) if at_bench and pot else 12.0)
    elif do in ("pour", "pour over") and at_bench:
        to_go = max(0.0, at_bench.in_all_g() - scale.in_g)
        scale.pour(to_go * (1.25 if do == "pour over" else 1.0), runs_over=do == "pour")
    elif do == "halt":
        scale.stop()
    elif do == "lift":
        scale.lift()
    elif do == "put back":
        scale.put_back()
    elif do == "nought":
        scale.set_to_nought()
    elif do == "knock":
        scale.knock()
    elif do == "unplug":
        STANDINS.unplug(place.pk, kind)
    elif do == "plug in":
        STANDINS.plug_in(place.pk, kind)
    if fast is not None:
        bench.fast = fast
    if pace is not None:
        _set_pace(place, pace)
        bench.pace = pace


def _start(place: Place, person: AbstractBaseUser) -> None:
    facts = place.shop.shop_facts()
    STANDINS.start(place.pk, facts.scale_step_g, facts.conditions.room_c)
    if place.run:
        _simulated(place.run)
    there = set(place.instruments.filter(withdrawn_at=None).values_list("kind", flat=True))
    for kind in KINDS:
        if kind not in there:
            add_instrument(place, person, kind=kind, name=f"simulated {kind}", port=key_of(place.pk, kind))


def _simulated(run: Run) -> None:
    """What is worked with instruments that are not there is no record of anything."""
    run.simulated = True
    run.save(update_fields=["simulated"])


def _set_pace(place: Place, pace: int) -> None:
    """The clock of the run at a bench goes so fast. Raises OutOfRange where something happened in it already."""
    run = place.run
    if run is None or run.pace == pace:
        return
    if run.events.exclude(kind__in=["opened", "came", "goggles on", "room read", "answered"]).exists():
        raise OutOfRange("a run that was begun keeps its clock: begin another", "pace")
    run.pace = pace
    run.save(update_fields=["pace"])
    HUB.publish(str(place.shop_id), (LIVE, json.dumps({"run_id": str(run.pk), "pace": pace})))
    bench = FEEDS.bench_of(place.pk)
    if bench:
        bench.put()
