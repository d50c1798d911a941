"""What a reading means at its bench: it fills the pot in hand, it warms a pot, it is the room."""

import logging
import threading
from dataclasses import dataclass
from datetime import UTC, datetime
from uuid import UUID, uuid4

from django.contrib.auth.models import AbstractBaseUser
from django.core.exceptions import ObjectDoesNotExist
from django.db import DatabaseError
from django.utils import timezone

from cradle.bench.models import Run
from cradle.bench.running import record_event, state_of
from cradle.bench.stream import HUB
from cradle.beside.heat import with_heat_at_hand
from cradle.instruments.models import Kind, Place, Warmth
from cradle.shops.day import keep_reading
from layup.bench.events import EventKind
from layup.bench.heard import cures_in
from layup.bench.now import BenchState, PotNow
from layup.errors import LayupError
from layup.heat.conduction import Body
from layup.heat.cure_kinetics import TwoPartCure
from layup.instruments.followed import Believed
from layup.instruments.weighing import OnScale, Step, Weighing

logger = logging.getLogger(__name__)

# One temperature in so long is kept, s; a room is told to the day where it moved so far, K, and not oftener than so, s.
_KEPT_EVERY_S, _ROOM_MOVED_K, _ROOM_EVERY_S = 5.0, 0.5, 300.0


@dataclass(frozen=True)
class PotSeen:
    """A live pot as it stands, with what it is made of."""

    run: Run
    state: BenchState
    pot: PotNow

    @property
    def number(self) -> int:
        return self.pot.number

    @property
    def life_min(self) -> float:
        """What its label gives it, from when its parts touched."""
        return (self.pot.gels_min or 0.0) - (self.pot.touched_min or 0.0)

    def age_min(self) -> float:
        return self.run.minute_of(timezone.now()) - (self.pot.touched_min or 0.0)

    def cures(self) -> tuple[TwoPartCure, Body] | None:
        card = self.state.card.pot(self.pot.number)
        if card is None:
            return None
        return with_heat_at_hand(lambda heat_of: cures_in(self.run.spec, card, self.pot, heat_of))


class AtBench:
    """A bench of the shop with its run, as its instruments see it."""

    def __init__(self, place: Place) -> None:
        self.place_id: UUID = place.pk
        self.shop_id = str(place.shop_id)
        facts = place.shop.shop_facts()
        self.scale_step_g: float = facts.scale_step_g
        self.room_c: float | None = facts.conditions.room_c
        self._lock = threading.Lock()
        self._run_id: UUID | None = None
        self._seen: int | None = None
        self._state: BenchState | None = None
        self._run: Run | None = None
        self._weighing: tuple[int, Weighing] | None = None
        self._kept_s = self._room_s = 0.0
        self._room_was: float | None = None

    def take(self, kind: str, name: str, read: Believed) -> None:
        """Take a believed reading of one of its instruments."""
        with self._lock:
            try:
                if kind == Kind.ROOM:
                    self._room(read)
                elif self._follow():
                    if kind == Kind.SCALE:
                        self._weigh(name, read)
                    else:
                        self._warm(read)
            except (DatabaseError, ObjectDoesNotExist, LayupError) as refused:
                # A pot that was ended meanwhile, a bench that was taken away, a disk that is full: the next tries again.
                logger.warning("a reading at bench %s was not taken: %s", self.place_id, refused)
                self._seen = None

    def put(self) -> None:
        """Another run is worked here now, or the same otherwise: it is read anew."""
        with self._lock:
            self._seen, self._state, self._weighing = None, None, None

    @property
    def pace(self) -> int:
        """How many minutes of its run pass in one."""
        return self._run.pace if self._run else 1

    def cup_g(self, pot: PotNow) -> float:
        """What the empty cup of a pot weighs by its card, g."""
        card = self._state.card.pot(pot.number) if self._state else None
        return card.cup_reads * card.pours[0].unit_is if card else 0.0

    def _follow(self) -> bool:
        """Whether a run is worked here; it is read anew after something was written down of it."""
        if self._seen is None or (self._run_id and HUB.last_of_run.get(self._run_id, 0) > self._seen):
            place = Place.objects.select_related("put_by").get(pk=self.place_id)
            self._run_id, self._place = place.run_id, place
            self._seen = HUB.last_of_run.get(place.run_id, 0) if place.run_id else 0
            self._run = Run.objects.with_events().select_related("job__shop").filter(pk=place.run_id).first()
            self._state = state_of(self._run) if self._run and self._run.issued_card else None
        return bool(self._state and not self._state.outcome and self._place.put_by)

    def _weigh(self, name: str, read: Believed) -> None:
        weighing = self._weighing_now()
        for step in weighing.take(read) if weighing else ():
            self._write(self._followed, step, name)

    def _weighing_now(self) -> Weighing | None:
        """The pot on the scale, as it stands by what was written down."""
        pot = _on_the_scale(self._state)
        if pot is None:
            self._weighing = None
            return None
        card = self._state.card.pot(pot.number)
        if self._weighing is None or self._weighing[0] != pot.number:
            self._weighing = pot.number, Weighing(card, pot)
        elif pot is not self._followed:
            self._weighing[1].follow(card, pot)
        self._followed = pot
        return self._weighing[1]

    def _write(self, pot: PotNow, step: Step, name: str) -> None:
        data = {"cup on": {"grams": step.amount}, "touched": {}}.get(step.kind, {"amount": step.amount})
        self._say(self._place.put_by, step.kind, step.at_s, data, pot, device=name[:40])

    def _say(
        self,
        person: AbstractBaseUser,
        kind: EventKind,
        at_s: float,
        data: dict[str, float],
        pot: PotNow | None = None,
        device: str = "",
    ) -> None:
        """Write an event of the run here down, of a pot or of the whole; the run is read anew after it."""
        record_event(
            self._run,
            person,
            tap_id=uuid4(),
            about="pot" if pot else "run",
            subject=str(pot.number) if pot else "",
            kind=kind,
            happened_at=datetime.fromtimestamp(at_s, UTC),
            data=data,
            device=device,
        )
        self._seen = None

    def _warm(self, read: Believed) -> None:
        if abs(read.at_s - self._kept_s) < _KEPT_EVERY_S / self._run.pace:
            return
        pot = self.pot_listened_to()
        if pot is None:
            return
        self._kept_s = read.at_s
        at = datetime.fromtimestamp(read.at_s, UTC)
        Warmth.objects.create(run=self._run, pot=pot.number, at=at, temperature_c=read.value)
        if read.value >= self._state.card.too_hot_c and not pot.hot:
            # The moment a surface is too hot is an event: every tablet sounds for it.
            self._say(self._place.put_by, "surface", read.at_s, {"temperature_c": read.value}, pot)

    def pot_seen(self) -> "PotSeen | None":
        """The pot the thermometer is pointed at, for what simulates it."""
        with self._lock:
            if not self._follow():
                return None
            pot = self.pot_listened_to()
            if pot is None or pot.touched_min is None or pot.gels_min is None:
                return None
            return PotSeen(self._run, self._state, pot)

    def pot_to_weigh(self) -> PotNow | None:
        """The pot that is on the scale, or comes next."""
        with self._lock:
            return _on_the_scale(self._state) if self._follow() else None

    def in_all_g(self) -> float:
        """What is in the cup, g, once all of the part in hand is in it."""
        with self._lock:
            weighing = self._weighing_now() if self._follow() else None
            return weighing.in_all_g if weighing else 0.0

    def pot_listened_to(self) -> PotNow | None:
        """The pot the thermometer is pointed at: the one that was chosen, or the oldest that is live."""
        live = [pot for pot in self._state.live if pot.vessel == "cup"] if self._state else []
        return next((pot for pot in live if pot.number == self._place.pot), live[0] if live else None)

    def _room(self, read: Believed) -> None:
        """The room as its probe reads it: kept when it moved, and the rest of the day is told by it."""
        moved = self._room_was is None or abs(read.value - self._room_was) >= _ROOM_MOVED_K
        if not moved or (self._room_was is not None and read.at_s - self._room_s < _ROOM_EVERY_S):
            return
        place = Place.objects.select_related("shop", "put_by").get(pk=self.place_id)
        person = place.put_by or place.instruments.first().made_by
        before = place.shop.shop_facts().conditions
        # What else was read of the day stands until somebody reads it anew.
        keep_reading(place.shop, before.model_copy(update={"room_c": read.value}), person)
        self._room_was, self._room_s, self.room_c = read.value, read.at_s, read.value
        if self._follow() and self._state.opened:
            self._say(person, "room read", read.at_s, {"room_c": read.value})

    def shown(self, kind: str) -> dict[str, object]:
        """What pages are shown beside a reading: of a scale the pot on it, of a thermometer the pot it reads."""
        if kind == Kind.SCALE and self._weighing and self._weighing[1].on_scale:
            return {
                "run_id": str(self._run_id),
                "pot": self._weighing[0],
                "on_scale": _on_scale(self._weighing[1].on_scale),
            }
        if kind == Kind.THERMOMETER and self._state:
            pot = self.pot_listened_to()
            return {"run_id": str(self._run_id), "pot": pot.number if pot else None}
        return {}


def _on_scale(on: OnScale) -> dict[str, object]:
    return {"stage": on.stage, "part": on.part, "in_g": on.in_g, "wanted_g": on.wanted_g, "shows_g": on.shows_g}


def _on_the_scale(state: BenchState | None) -> PotNow | None:
    """The pot that is being weighed: one that is begun and not stirred, or the next to be mixed."""
    if state is None or not state.opened or state.night:
        return None
    in_hand = [pot for pot in state.pots if pot.state in ("weighing", "live") and not pot.stirred and not pot.lost]
    begun = in_hand[0] if in_hand else None
    return begun or next((pot for pot in state.pots if pot.state == "planned"), None)
