"""Serial ports: what is plugged in, by a name that it keeps, and a thread for each that is listened to."""

import logging
import os
import threading
import time
from collections.abc import Callable
from contextlib import suppress

import serial
from django.db import DatabaseError, connections
from serial.tools import list_ports

from cradle.instruments.feeds import FEEDS, Feed
from cradle.instruments.models import Instrument
from cradle.instruments.standins import STANDINS
from layup.instruments.lines import LONGEST_LINE

logger = logging.getLogger(__name__)

# Looked for again after so long, s; what a port sends is read so often.
_AGAIN_S, _READ_S = 1.0, 0.2
# What came without an end of line is let go of.
_MOST_HELD = 16 * LONGEST_LINE


class Port:
    """A port that is plugged in: the name it keeps, where it is now, what it is."""

    def __init__(self, key: str, path: str, words: str) -> None:
        self.key, self.path, self.words = key, path, words


def ports() -> list[Port]:
    """The ports there are, those of the stand-ins too."""
    found = [
        Port(_key(info), info.device, info.description if info.description != "n/a" else info.name)
        for info in list_ports.comports()
        # A bare board lists ports that nothing hangs on.
        if info.vid is not None or os.environ.get("CRADLE_ALL_PORTS")
    ]
    return found + [Port(key, path, words) for key, path, words in STANDINS.ports()]


def _key(info) -> str:
    """What a port is called wherever it is plugged in again: by its own number, or where it is plugged in."""
    if info.vid is None:
        return info.device
    return f"usb {info.vid:04x}:{info.pid:04x} {info.serial_number or info.location or info.device}"


class Lines:
    """Bytes as they come, in lines: half ones wait, endless ones are let go of.

    >>> lines = Lines()
    >>> list(lines.split(b"12.5 g\\r\\n13")), list(lines.split(b".0 g\\r14 g\\n"))
    (['12.5 g'], ['13.0 g', '14 g'])
    >>> list(lines.split(b"x" * 5000)), list(lines.split(b"\\n15 g\\n"))
    ([], ['15 g'])
    """

    def __init__(self) -> None:
        self._held = b""
        self._endless = False

    def split(self, came: bytes):
        *whole, self._held = (self._held + came).replace(b"\r", b"\n").split(b"\n")
        for line in whole:
            if not self._endless and line.strip():
                yield line.decode("utf-8", "replace")
            self._endless = False
        if len(self._held) > _MOST_HELD:
            self._held, self._endless = b"", True


class Reader(threading.Thread):
    """Reads one instrument's port, and opens it again when it was gone."""

    def __init__(self, instrument: Instrument) -> None:
        super().__init__(name=f"instrument {instrument.pk}", daemon=True)
        self.instrument = instrument
        self.stopped = threading.Event()

    def run(self) -> None:
        feed = FEEDS.of(self.instrument)
        try:
            while not self.stopped.is_set():
                path = next((port.path for port in ports() if port.key == self.instrument.port), None)
                if path is None:
                    feed.gone("unplugged", time.time())
                    self.stopped.wait(_AGAIN_S)
                    continue
                try:
                    self._read(path, feed)
                except (serial.SerialException, OSError) as error:
                    feed.gone("refused" if "denied" in str(error).lower() else "unplugged", time.time())
                    self.stopped.wait(_AGAIN_S)
        finally:
            connections.close_all()

    def _read(self, path: str, feed: Feed) -> None:
        lines = Lines()
        with serial.Serial(path, self.instrument.baud, timeout=_READ_S, exclusive=True) as port:
            while not self.stopped.is_set():
                came = port.read(max(1, min(port.in_waiting, 4096)))
                now = time.time()
                for line in lines.split(came):
                    try:
                        feed.line(line, now)
                    except Exception:
                        # One bad line is not the end of an instrument.
                        logger.exception("a line of %s failed", self.instrument)


class Readers:
    """A thread for each instrument that is on a port; begun anew when the shop changes them."""

    def __init__(self) -> None:
        self._readers: dict[object, Reader] = {}
        self._lock = threading.Lock()
        self.begun = False

    def begin(self) -> None:
        """Listen to all instruments there are."""
        self.begun = True
        with suppress(DatabaseError):
            self.look_again()
        connections.close_all()

    def look_again(self) -> None:
        """Listen to what the shops have now."""
        if not self.begun:
            return
        wanted = {
            one.pk: one
            for one in Instrument.objects.filter(withdrawn_at=None).exclude(port="").select_related("place__shop")
        }
        with self._lock:
            for pk, reader in list(self._readers.items()):
                if pk not in wanted or _settings(wanted[pk]) != _settings(reader.instrument):
                    reader.stopped.set()
                    del self._readers[pk]
            for pk, instrument in wanted.items():
                if pk not in self._readers:
                    self._readers[pk] = Reader(instrument)
                    self._readers[pk].start()


def _settings(one: Instrument) -> tuple:
    return one.port, one.baud, one.pattern, one.unit, one.place_id, one.name


def overhear(
    path: str, baud: int, seconds: float, most: int = 6, clock: Callable[[], float] = time.monotonic
) -> list[str]:
    """The first lines that a port sends, to be looked at."""
    lines, heard = Lines(), []
    until = clock() + seconds
    with serial.Serial(path, baud, timeout=_READ_S, exclusive=True) as port:
        while clock() < until and len(heard) < most:
            heard += list(lines.split(port.read(max(1, min(port.in_waiting, 4096)))))
    return [line[:LONGEST_LINE] for line in heard[:most]]


READERS = Readers()
