"""The instruments as they are listened to: each reading followed, shown to every open page, and taken to its bench."""

import json
import logging
import threading
from collections import deque
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from uuid import UUID

from cradle.bench.stream import HUB, LIVE
from cradle.instruments.at_bench import AtBench, PotSeen
from cradle.instruments.models import Instrument, Kind
from layup.instruments.followed import SILENT_S, Believed, ScaleFollower, WarmthFollower, silent_s
from layup.instruments.lines import CORE, LineShape, read_line
from layup.instruments.lines import Instrument as KindName

logger = logging.getLogger(__name__)

# Pages are shown so many readings a second at most.
_SHOWN_EVERY_S = 0.1
# So many lines in a row that are no reading: another speed, another shape, or noise.
_UNREAD_IN_A_ROW = 20
_LINES_KEPT = 6


@dataclass
class Told:
    """What an instrument tells now: its last believed value in the core's unit, and what is wrong with it."""

    value: float | None = None
    still: bool = False
    at_s: float | None = None
    trouble: str = ""
    lines: deque[str] = field(default_factory=lambda: deque(maxlen=_LINES_KEPT))
    unread: int = 0
    count: int = 0


class Feed:
    """One instrument: what comes in, followed."""

    def __init__(self, instrument: Instrument, bench: AtBench) -> None:
        self.id: UUID = instrument.pk
        self.kind: KindName = instrument.kind
        self.told = Told()
        self._bench = bench
        self._shape: LineShape | None = instrument.shape
        self._unit = instrument.unit
        self._name = instrument.name
        self._scale = ScaleFollower(bench.scale_step_g)
        self._warmth = WarmthFollower(bench.room_c)
        self._shown_s = 0.0
        self._lock = threading.Lock()

    def line(self, text: str, at_s: float) -> None:
        """Take a line as it came, at a moment in seconds since the epoch."""
        self.told.lines.append(text[:80])
        read = read_line(text, self.kind, self._shape, self._unit)
        if read is None:
            self.told.unread += 1
            if self.told.unread == _UNREAD_IN_A_ROW:
                self.told.trouble = "unread"
                self._show(at_s)
            return
        self.told.unread = 0
        self.reading(read.value, read.still, at_s)

    def reading(self, value: float, still: bool | None, at_s: float) -> None:
        """Take a reading in the core's unit."""
        with self._lock:
            believed = self._follow(value, still, at_s)
            self.told.value, self.told.still, self.told.trouble = believed.value, believed.still, believed.trouble
            self.told.at_s = at_s
            self.told.count += 1
            if not believed.trouble or self.kind == Kind.SCALE:
                self._bench.take(self.kind, self._name, believed)
            if at_s - self._shown_s >= _SHOWN_EVERY_S or at_s < self._shown_s:
                self._show(at_s)

    def _follow(self, value: float, still: bool | None, at_s: float) -> Believed:
        if self.kind == Kind.SCALE:
            return self._scale.take(at_s, value, still)
        # A simulated pot's minutes go faster than the clock's.
        return replace(self._warmth.take(self._bench.pace * at_s, value), at_s=at_s)

    def _show(self, at_s: float) -> None:
        self._shown_s = at_s
        HUB.publish(self._bench.shop_id, (LIVE, json.dumps(self.shown())))

    def shown(self) -> dict[str, object]:
        """What pages are shown of it."""
        told = self.told
        return {
            "instrument_id": str(self.id),
            "place_id": str(self._bench.place_id),
            "kind": self.kind,
            "value": told.value,
            "unit": CORE[self.kind],
            "still": told.still,
            "trouble": told.trouble,
            "silent_after_s": SILENT_S[self.kind],
            "at": datetime.fromtimestamp(told.at_s, UTC).isoformat() if told.at_s else None,
            **self._bench.shown(self.kind),
        }

    def silent_s(self, now_s: float) -> float | None:
        return silent_s(self.kind, self.told.at_s, now_s)

    def gone(self, trouble: str, at_s: float) -> None:
        """The instrument cannot be heard any more: unplugged, or its port refuses."""
        if self.told.trouble != trouble:
            self.told.trouble = trouble
            self._show(at_s)


class Feeds:
    """The feeds of all instruments that are in use, by their ids."""

    def __init__(self) -> None:
        self._feeds: dict[UUID, Feed] = {}
        self._benches: dict[UUID, AtBench] = {}
        self._lock = threading.Lock()

    def of(self, instrument: Instrument) -> Feed:
        """The feed of an instrument, begun where it has none."""
        with self._lock:
            feed = self._feeds.get(instrument.pk)
            if feed is None:
                feed = self._feeds[instrument.pk] = Feed(instrument, self._bench(instrument))
            return feed

    def _bench(self, instrument: Instrument) -> AtBench:
        bench = self._benches.get(instrument.place_id)
        if bench is None:
            bench = self._benches[instrument.place_id] = AtBench(instrument.place)
        return bench

    def bench_of(self, place_id: UUID) -> AtBench | None:
        return self._benches.get(place_id)

    def pot_seen(self, place_id: UUID) -> PotSeen | None:
        """The pot that the thermometer of a bench is pointed at."""
        bench = self._benches.get(place_id)
        return bench.pot_seen() if bench else None

    def known(self, instrument_id: UUID) -> Feed | None:
        return self._feeds.get(instrument_id)

    def forget(self, instrument_id: UUID) -> None:
        """An instrument is no longer listened to, or is set otherwise."""
        with self._lock:
            self._feeds.pop(instrument_id, None)


FEEDS = Feeds()
