"""Crews of workers, and whose turn it is: heavy work leaves the server's answers, and every other shop's, as quick as ever."""

import os
import time
from collections import Counter
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from threading import Condition, Event
from typing import TypeVar

from django.conf import settings

from cradle.beside.gone import gone_of_asker
from cradle.beside.worker import Ended, Worker
from layup.errors import OutOfRange

_WAITING_LOOKED_AT_S = 0.2
# Of one asker; past these he is told that it is busy.
MOST_WAITING = 40
CORES = os.cpu_count() or 1

Answer = TypeVar("Answer")


class Busy(OutOfRange):
    """Others are served first: the same may be asked again in a moment."""


class NobodyWaits(Busy):
    """Who asked has gone: nobody reads what comes."""


@dataclass(frozen=True, eq=False)
class _Asked:
    asker: Hashable


class Crew:
    """Workers for one kind of work, of which one asker may hold `share` at most.

    Of those who wait, who holds the fewest comes first, then who came first. `too_long` says at `path` that a work takes
    longer than its budget.
    """

    def __init__(self, size: int, share: int, *, nice: bool, too_long: str, path: str):
        self.workers = [Worker(nice=nice) for _ in range(size)]
        self._share, self._too_long, self._path = share, too_long, path
        self._free = list(self.workers)
        self._held: Counter[Hashable] = Counter()
        self._waiting: list[_Asked] = []
        self._turns = Condition()

    def work(self, asker: Hashable, budget_s: float, of: Callable[..., Answer], *args: object) -> Answer:
        """What a function of the core comes to, worked out beside the server.

        Raises OutOfRange where it takes longer than its budget, Busy where too many wait, NobodyWaits once who asked is gone.
        """
        if not settings.HEAVY_IN_PROCESSES:
            return of(*args)
        gone = gone_of_asker()
        worker = self._turn(asker, gone, time.monotonic() + 4 * budget_s)
        try:
            return worker.work(gone, budget_s, of, *args)
        except Ended:
            if gone.is_set():
                raise NobodyWaits("nobody waits for this any more", self._path) from None
            raise OutOfRange(self._too_long.format(budget_s), self._path) from None
        finally:
            self._give_back(asker, worker)

    def begin(self) -> None:
        """Have every worker stand before it is needed."""
        for worker in self.workers:
            worker.begin()

    def tell(self, of: Callable[..., object], *args: object) -> None:
        """Have every worker know a thing."""
        for worker in self.workers:
            worker.tell(of, *args)

    def _turn(self, asker: Hashable, gone: Event, until: float) -> Worker:
        mine = _Asked(asker)
        with self._turns:
            if sum(asked.asker == asker for asked in self._waiting) >= MOST_WAITING:
                raise self._busy()
            self._waiting.append(mine)
            try:
                while not (self._free and self._next() is mine):
                    self._turns.wait(_WAITING_LOOKED_AT_S)
                    if gone.is_set():
                        raise NobodyWaits("nobody waits for this any more", self._path)
                    if time.monotonic() >= until:
                        raise self._busy()
                self._held[asker] += 1
                return self._free.pop()
            finally:
                self._waiting.remove(mine)
                self._turns.notify_all()

    def _next(self) -> _Asked | None:
        """Whose turn it is: nobody's, where all who wait hold their share."""
        may = [asked for asked in self._waiting if self._held[asked.asker] < self._share]
        return min(may, key=lambda asked: self._held[asked.asker], default=None)

    def _busy(self) -> Busy:
        return Busy("the program is busy with what others asked: try again in a minute", self._path)

    def _give_back(self, asker: Hashable, worker: Worker) -> None:
        with self._turns:
            self._free.append(worker)
            self._held[asker] -= 1
            if not self._held[asker]:
                del self._held[asker]
            self._turns.notify_all()


# One more than there are cores: a shop whose plans take long leaves a worker to the others.
PLANS = Crew(
    CORES + 1,
    CORES,
    nice=False,
    too_long="that takes longer than {:.0f} s to plan: split the job, or set larger pots",
    path="",
)
STARTS = Crew(
    1,
    1,
    nice=True,
    too_long="that takes longer than {:.0f} s to try: split the job, or set larger pots",
    path="pots.start",
)
TABLES = Crew(1, 1, nice=True, too_long="a table of heat takes longer than {:.0f} s", path="")
