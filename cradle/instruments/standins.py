"""Simulated instruments on pseudo-terminals: they speak as real ones do, so that a bench can be tried with none there."""

import contextlib
import logging
import os
import threading
import time
from dataclasses import dataclass, field
from random import Random
from uuid import UUID

from cradle.instruments.feeds import FEEDS
from layup.errors import OutOfRange
from layup.heat.listening import surface_of
from layup.instruments.stand_in import PotStandIn, ScaleStandIn, room_reads_c

try:
    import pty
    import tty
except ImportError:
    # A system without pseudo-terminals.
    pty = tty = None

logger = logging.getLogger(__name__)

KINDS = ("scale", "thermometer", "room")
PACES = (1, 10, 60)
# The scale sends ten times a second, the thermometer once in a second or oftener where time goes faster, the room seldom.
_BEAT_S, _WARMTH_BEATS, _ROOM_BEATS = 0.1, 10, 50
# memory: a fast tin lives so much shorter than its label
_FAST = 0.7
# A hand pours no faster than this, however fast its clock.
_FASTEST_HAND = 10


def key_of(place_id: UUID, kind: str) -> str:
    """What the port of a simulated instrument is called."""
    return f"simulated {kind} {str(place_id)[:8]}"


class _Terminal:
    """One end of a pseudo-terminal, the other as a serial port."""

    def __init__(self) -> None:
        if pty is None:
            raise OutOfRange(
                "simulated instruments need pseudo-terminals, which this system does not have: real ones work"
            )
        self.ours, self._theirs = pty.openpty()
        tty.setraw(self._theirs)
        os.set_blocking(self.ours, False)
        self.path = os.ttyname(self._theirs)

    def send(self, line: str) -> None:
        # Nobody reads: it is lost, as on a wire.
        with contextlib.suppress(BlockingIOError, OSError):
            os.write(self.ours, f"{line}\r\n".encode())

    def close(self) -> None:
        for end in (self.ours, self._theirs):
            with contextlib.suppress(OSError):
                os.close(end)


@dataclass
class StandInBench:
    """The simulated instruments of one bench: what they stand on, how fast their clock goes, whether today's tin is fast."""

    place_id: UUID
    scale: ScaleStandIn
    room_c: float
    pace: int = 1
    fast: bool = False
    terminals: dict[str, _Terminal] = field(default_factory=dict)
    pots: dict[int, PotStandIn] = field(default_factory=dict)
    begun_s: float = field(default_factory=time.time)


class StandIns:
    """The simulated instruments of every bench that has some, on one thread."""

    def __init__(self) -> None:
        self._benches: dict[UUID, StandInBench] = {}
        self._lock = threading.RLock()
        self._thread: threading.Thread | None = None

    def ports(self) -> list[tuple[str, str, str]]:
        """Their ports: the name each keeps, where it is, what it is."""
        with self._lock:
            return [
                (key_of(bench.place_id, kind), terminal.path, f"simulated {kind}")
                for bench in self._benches.values()
                for kind, terminal in bench.terminals.items()
            ]

    def of(self, place_id: UUID) -> StandInBench | None:
        return self._benches.get(place_id)

    def start(self, place_id: UUID, step_g: float, room_c: float) -> StandInBench:
        """Begin the simulated instruments of a bench; those that are there stay."""
        with self._lock:
            bench = self._benches.get(place_id)
            if bench is None:
                bench = StandInBench(place_id, ScaleStandIn(step_g, Random().randrange(1 << 30)), room_c)
                bench.terminals = {kind: _Terminal() for kind in KINDS}
                self._benches[place_id] = bench
            if self._thread is None:
                self._thread = threading.Thread(target=self._run, name="stand-ins", daemon=True)
                self._thread.start()
            return bench

    def stop(self, place_id: UUID) -> None:
        with self._lock:
            bench = self._benches.pop(place_id, None)
            for terminal in bench.terminals.values() if bench else ():
                terminal.close()

    def unplug(self, place_id: UUID, kind: str) -> None:
        with self._lock:
            bench = self._benches.get(place_id)
            if bench and kind in bench.terminals:
                bench.terminals.pop(kind).close()

    def plug_in(self, place_id: UUID, kind: str) -> None:
        with self._lock:
            bench = self._benches.get(place_id)
            if bench and kind not in bench.terminals:
                bench.terminals[kind] = _Terminal()

    def _run(self) -> None:
        beat, last = 0, time.monotonic()
        while True:
            time.sleep(_BEAT_S)
            now = time.monotonic()
            with self._lock:
                for bench in self._benches.values():
                    try:
                        self._beat(bench, beat, now - last)
                    except Exception:
                        logger.exception("a simulated instrument failed")
            beat, last = beat + 1, now

    def _beat(self, bench: StandInBench, beat: int, passed_s: float) -> None:
        line = bench.scale.line(passed_s * min(bench.pace, _FASTEST_HAND))
        if scale := bench.terminals.get("scale"):
            scale.send(line)
        warmth_every = max(1, _WARMTH_BEATS // bench.pace)
        if beat % warmth_every == 0 and (probe := bench.terminals.get("thermometer")):
            probe.send(f"probe, {self._surface_c(bench)}, C")
        if beat % _ROOM_BEATS == 0 and (room := bench.terminals.get("room")):
            minute = bench.pace * (time.time() - bench.begun_s) / 60
            room.send(f"{room_reads_c(bench.room_c, minute)} C")

    def _surface_c(self, bench: StandInBench) -> float:
        """What the thermometer sees: the pot it is pointed at, or the bench beside it."""
        seen = FEEDS.pot_seen(bench.place_id)
        if seen is None:
            return round(bench.room_c, 1)
        if seen.number not in bench.pots:
            cures = seen.cures()
            if cures is None:
                return round(bench.room_c, 1)
            life_min = (_FAST if bench.fast else 1.0) * seen.life_min
            curve = surface_of(*cures, bench.room_c, life_min)
            bench.pots[seen.number] = PotStandIn(curve, bench.room_c, Random().randrange(1 << 30))
        return bench.pots[seen.number].reads_c(seen.age_min())


STANDINS = StandIns()
