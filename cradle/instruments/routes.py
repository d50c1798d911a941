"""Routes of a shop's benches and instruments, and the one by which small sensors post."""

import time
from uuid import UUID

import serial
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router
from ninja.security import HttpBearer
from ninja.throttling import SimpleRateThrottle

from cradle.bench.models import Run
from cradle.instruments import benches
from cradle.instruments.feeds import FEEDS
from cradle.instruments.models import Instrument, Place
from cradle.instruments.ports import overhear, ports
from cradle.instruments.schemas import (
    AtPlaceIn,
    ExampleIn,
    ExampleOut,
    HeardOut,
    InstrumentIn,
    InstrumentOut,
    InstrumentsOut,
    ListenIn,
    MadeOut,
    PlaceIn,
    PlaceOut,
    PortOut,
    ReadingIn,
    ScaleCheckIn,
    ScaleCheckOut,
    StandInIn,
    StandInsOut,
    TakenOut,
)
from cradle.instruments.standins import KINDS, STANDINS
from cradle.instruments.tokens import instrument_of
from cradle.shops.people import require_owner, require_writer
from cradle.shops.routes import shop_of
from layup.errors import OutOfRange
from layup.instruments.lines import UNITS, in_core, numbers_in, read_line, shape_by_example

router = Router(tags=["instruments"])
# A port that is looked at is listened to for so long, s.
_OVERHEARD_S = 2.5


class Token(HttpBearer):
    """Whoever posts with a token posts for one instrument, and for nothing else."""

    def authenticate(self, request: HttpRequest, token: str) -> Instrument | None:
        return instrument_of(token)


def place_of(request: HttpRequest, place_id: UUID, *, to_write: bool = False) -> Place:
    """A bench of a shop the signed-in person belongs to, or 404. Raises Forbidden where he may only look."""
    places = Place.objects.filter(shop__memberships__person=request.user).select_related("shop", "run")
    place = get_object_or_404(places, pk=place_id)
    if to_write:
        require_writer(request.user, place.shop)
    return place


def _instrument_of(request: HttpRequest, instrument_id: UUID) -> Instrument:
    mine = Instrument.objects.filter(place__shop__memberships__person=request.user, withdrawn_at=None)
    return get_object_or_404(mine.select_related("place__shop"), pk=instrument_id)


def _instruments(request: HttpRequest, shop_id: UUID) -> InstrumentsOut:
    shop = shop_of(request, shop_id)
    places = shop.places.prefetch_related("instruments__checks__by")
    taken = set(Instrument.objects.filter(withdrawn_at=None).values_list("port", flat=True))
    return InstrumentsOut(
        places=[_place_out(place) for place in places],
        ports=[PortOut(key=port.key, words=port.words, taken=port.key in taken) for port in _ports_of(shop_id)],
    )


def _ports_of(shop_id: UUID):
    """The ports of this machine, and those of the shop's own simulated instruments."""
    own = {str(pk)[:8] for pk in Place.objects.filter(shop_id=shop_id).values_list("pk", flat=True)}
    return [port for port in ports() if not port.key.startswith("simulated ") or port.key.split()[-1] in own]


def _place_out(place: Place) -> PlaceOut:
    standins = STANDINS.of(place.pk)
    return PlaceOut(
        id=place.pk,
        name=place.name,
        run_id=place.run_id,
        pot=place.pot,
        instruments=[_instrument_out(one) for one in place.instruments.all() if one.withdrawn_at is None],
        standins=StandInsOut(
            on=standins is not None,
            pace=standins.pace if standins else 1,
            fast=standins.fast if standins else False,
            unplugged=[kind for kind in KINDS if standins and kind not in standins.terminals],
        ),
    )


def _instrument_out(one: Instrument) -> InstrumentOut:
    feed = FEEDS.known(one.pk)
    silent = feed.silent_s(time.time()) if feed else None
    check = next(iter(one.checks.all()), None)
    return InstrumentOut(
        id=one.pk,
        kind=one.kind,
        name=one.name,
        port=one.port,
        baud=one.baud,
        by_token=bool(one.token_hash),
        own_shape=bool(one.pattern),
        value=feed.told.value if feed else None,
        trouble=(feed.told.trouble or ("silent" if silent else "")) if feed else "",
        silent_s=silent,
        lines=list(feed.told.lines) if feed else [],
        check=check
        and ScaleCheckOut(at=check.at, by=check.by.get_username(), known_g=check.known_g, shown_g=check.shown_g),
    )


@router.get("/shops/{uuid:shop_id}/instruments", response=InstrumentsOut)
def list_instruments(request: HttpRequest, shop_id: UUID):
    """The benches of a shop, their instruments and what they tell, the ports there are."""
    return _instruments(request, shop_id)


@router.post("/shops/{uuid:shop_id}/places", response=PlaceOut)
def add_place(request: HttpRequest, shop_id: UUID, sent: PlaceIn):
    """Make a bench."""
    shop = shop_of(request, shop_id, to_write=True)
    return _place_out(benches.add_place(shop, sent.name))


@router.delete("/places/{uuid:place_id}", response=InstrumentsOut)
def remove_place(request: HttpRequest, place_id: UUID):
    """Take a bench away, with its instruments."""
    place = place_of(request, place_id, to_write=True)
    shop_id = place.shop_id
    benches.remove_place(place)
    return _instruments(request, shop_id)


@router.put("/places/{uuid:place_id}/run", response=PlaceOut)
def put_run(request: HttpRequest, place_id: UUID, sent: AtPlaceIn):
    """Work a run at a bench: what is poured there is written down of itself."""
    place = place_of(request, place_id, to_write=True)
    run = get_object_or_404(Run, pk=sent.run_id, job__shop=place.shop) if sent.run_id else None
    benches.put_run(place, run, sent.pot, request.user)
    return _place_out(place)


@router.post("/places/{uuid:place_id}/instruments", response=MadeOut)
def add_instrument(request: HttpRequest, place_id: UUID, sent: InstrumentIn):
    """Put an instrument at a bench; only an owner makes one that posts with a token."""
    place = place_of(request, place_id, to_write=True)
    if not sent.port:
        require_owner(request.user, place.shop)
    elif sent.port not in {port.key for port in _ports_of(place.shop_id)}:
        raise OutOfRange("no such port is plugged in", "port")
    if sent.unit and sent.unit not in UNITS[sent.kind]:
        raise OutOfRange("that is no unit of this instrument", "unit")
    example = (sent.example.lines, sent.example.pressed) if sent.example else None
    about = {"kind": sent.kind, "name": sent.name, "port": sent.port, "baud": sent.baud, "unit": sent.unit}
    made, token = benches.add_instrument(place, request.user, **about, example=example)
    return MadeOut(id=made.pk, token=token)


@router.delete("/instruments/{uuid:instrument_id}", response=InstrumentsOut)
def withdraw_instrument(request: HttpRequest, instrument_id: UUID):
    """Listen to it no more; what posts with a token is the owner's to withdraw."""
    one = _instrument_of(request, instrument_id)
    require_writer(request.user, one.place.shop)
    if one.token_hash:
        require_owner(request.user, one.place.shop)
    benches.withdraw(one)
    return _instruments(request, one.place.shop_id)


@router.post("/shops/{uuid:shop_id}/ports/listen", response=HeardOut)
def listen_to_port(request: HttpRequest, shop_id: UUID, sent: ListenIn):
    """What a port sends, so that one knows which it is."""
    shop_of(request, shop_id, to_write=True)
    port = next((each for each in _ports_of(shop_id) if each.key == sent.port), None)
    if port is None:
        raise OutOfRange("no such port is plugged in", "port")
    on_it = Instrument.objects.filter(port=port.key, withdrawn_at=None).select_related("place").first()
    if on_it:
        if on_it.place.shop_id != shop_id:
            raise OutOfRange("an instrument of another shop is on this port", "port")
        feed = FEEDS.known(on_it.pk)
        return HeardOut(lines=list(feed.told.lines) if feed else [])
    try:
        return HeardOut(lines=overhear(port.path, sent.baud, _OVERHEARD_S))
    except (serial.SerialException, OSError):
        raise OutOfRange("this port cannot be opened: something else has it, or it may not be read", "port") from None


@router.post("/shops/{uuid:shop_id}/line-examples", response=ExampleOut)
def try_example(request: HttpRequest, shop_id: UUID, sent: ExampleIn):
    """What lines of an instrument read as: by the shapes that ship, or by the number that is pressed."""
    shop_of(request, shop_id)
    lines = [line for line in sent.lines if line.strip()]
    shape = shape_by_example(lines, sent.pressed, sent.kind) if sent.pressed >= 0 else None
    reads = [read_line(line, sent.kind, shape) for line in lines]
    return ExampleOut(numbers=numbers_in(lines[0]) if lines else [], reads=[read and read.value for read in reads])


class PerInstrument(SimpleRateThrottle):
    """No instrument floods the server: none sends more than a line of a port would come."""

    scope = "readings"

    def get_cache_key(self, request: HttpRequest) -> str | None:
        return f"readings-{request.auth.pk}"


@router.post("/readings", auth=Token(), throttle=[PerInstrument("30/s")], response=TakenOut)
def post_reading(request: HttpRequest, sent: ReadingIn):
    """A reading of a small sensor on the network, by its own token."""
    one: Instrument = request.auth
    value = in_core(sent.value, sent.unit, one.kind)
    if value is None:
        raise OutOfRange(f"a {one.kind} sends no such thing: check the value and its unit", "value")
    feed = FEEDS.of(one)
    feed.reading(value, sent.still, time.time())
    return TakenOut(trouble=feed.told.trouble)


@router.post("/instruments/{uuid:instrument_id}/check", response=ScaleCheckOut)
def check_scale(request: HttpRequest, instrument_id: UUID, sent: ScaleCheckIn):
    """A known weight stands on the scale: keep what it shows."""
    one = _instrument_of(request, instrument_id)
    require_writer(request.user, one.place.shop)
    check = benches.check_scale(one, sent.known_g, request.user)
    return ScaleCheckOut(at=check.at, by=request.user.get_username(), known_g=check.known_g, shown_g=check.shown_g)


@router.post("/places/{uuid:place_id}/standins", response=PlaceOut)
def work_standins(request: HttpRequest, place_id: UUID, sent: StandInIn):
    """Simulated instruments at a bench: begin them, pour, knock, unplug, a fast tin."""
    place = place_of(request, place_id, to_write=True)
    benches.work_standins(place, request.user, sent.do, kind=sent.kind, pace=sent.pace, fast=sent.fast)
    return _place_out(place_of(request, place_id))
