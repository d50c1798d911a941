"""Heavy work in a process of its own, so that one shop's search for a start leaves everyone else's plans as quick as ever.

A worker knows the core and no Django. What takes longer than its budget is ended, and told so; what nobody waits for
any more is ended too.
"""

import os
import signal
import time
from collections.abc import Callable
from concurrent.futures import CancelledError, Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import suppress
from ctypes import c_int64
from dataclasses import dataclass
from itertools import count
from multiprocessing import get_context
from threading import Event, Lock, Thread
from typing import TypeVar
from uuid import UUID

from django.conf import settings

from layup.errors import OutOfRange

_PARENT_LOOKED_FOR_S = 2.0
_WAITING_LOOKED_AT_S = 0.2
_NOBODY_WAITS = "nobody waits for this any more"

Answer = TypeVar("Answer")


class _Ended(Exception):
    """A worker has had its time, or nobody waits for what it does."""


@dataclass(frozen=True)
class _Pool:
    """A worker: `pid` is its process, once it stands, and `ending` the number of the work it is to leave."""

    executor: ProcessPoolExecutor
    pid: c_int64
    ending: c_int64

    def leave(self, number: int) -> None:
        """Ends a work, if it is the one in hand."""
        self.ending.value = number
        if self.pid.value:
            # One that has died meanwhile is begun anew by who waits for it.
            with suppress(ProcessLookupError):
                os.kill(self.pid.value, signal.SIGALRM)


_pools: dict[str, _Pool] = {}
_lock = Lock()
_shops: dict[UUID, Lock] = {}
_numbers = count(1)
# In a worker: the number of the work that it is to leave.
_ending = c_int64(0)


def worked_out(
    shop_id: UUID,
    of: Callable[..., Answer],
    *args: object,
    budget_s: float | None = None,
    gone: Event | None = None,
) -> Answer:
    """What a function of the core comes to, worked out beside the server: one at a time a shop, within a budget.

    It is ended once who asked is `gone`. Raises OutOfRange where it takes longer, the shop asks for another before the
    last has come, or nobody waits.
    """
    if not settings.HEAVY_IN_PROCESSES:
        return of(*args)
    gone = gone or Event()
    with _lock:
        shops = _shops.setdefault(shop_id, Lock())
    budget_s = budget_s or settings.HEAVY_BUDGET_S
    _take_turn(shops, gone)
    number = next(_numbers)
    try:
        return _beside("starts", gone, number, _within_budget, number, of, args, budget_s)
    except (_Ended, CancelledError):
        if gone.is_set():
            raise OutOfRange(_NOBODY_WAITS, "pots.start") from None
        raise OutOfRange(
            f"that takes longer than {budget_s:.0f} s to try: split the job, or set larger pots", "pots.start"
        ) from None
    finally:
        shops.release()


def beside(pool: str, of: Callable[..., Answer], *args: object) -> Answer:
    """What a function comes to in a process of a pool; one that was killed is begun anew, once."""
    return _beside(pool, Event(), 0, of, *args)


def _take_turn(shops: Lock, gone: Event) -> None:
    until = time.monotonic() + settings.HEAVY_BUDGET_S
    while not shops.acquire(timeout=_WAITING_LOOKED_AT_S):
        if gone.is_set():
            raise OutOfRange(_NOBODY_WAITS, "pots.start")
        if time.monotonic() >= until:
            raise OutOfRange("this shop is trying other starts already: wait until they are done", "pots.start")


def _beside(name: str, gone: Event, number: int, of: Callable[..., Answer], *args: object) -> Answer:
    for last in (False, True):
        pool = _pool(name)
        try:
            return _waited(pool, pool.executor.submit(of, *args), gone, number)
        except BrokenProcessPool:
            with _lock:
                _pools.pop(name, None)
            if last:
                raise
    raise AssertionError("unreachable")


def _waited(pool: _Pool, future: Future[Answer], gone: Event, number: int) -> Answer:
    """What a worker answers; while it works it is asked, again and again, to leave what nobody waits for."""
    while True:
        try:
            return future.result(_WAITING_LOOKED_AT_S)
        except TimeoutError:
            if gone.is_set() and not future.cancel():
                pool.leave(number)


def _pool(name: str) -> _Pool:
    with _lock:
        if name not in _pools:
            # Spawned, not forked: a fork would take the server's threads' locks along.
            spawn = get_context("spawn")
            pid, ending = spawn.RawValue(c_int64, 0), spawn.RawValue(c_int64, 0)
            executor = ProcessPoolExecutor(1, spawn, _begin_worker, (os.getpid(), pid, ending))
            _pools[name] = _Pool(executor, pid, ending)
        return _pools[name]


def _begin_worker(parent: int, pid: c_int64, ending: c_int64) -> None:
    """In a worker: takes its orders, and ends with its server, however that went."""
    global _ending
    signal.signal(signal.SIGALRM, signal.SIG_IGN)
    _ending, pid.value = ending, os.getpid()

    def watch() -> None:
        while os.getppid() == parent:
            time.sleep(_PARENT_LOOKED_FOR_S)
        os._exit(0)

    Thread(target=watch, daemon=True).start()
    # The least of the processor where others want it.
    os.nice(10)


def _within_budget(number: int, of: Callable[..., Answer], args: tuple, budget_s: float) -> Answer:
    """In a worker: what a function comes to, unless its time is over or it is to be left."""
    until = time.monotonic() + budget_s

    def ended(*_: object) -> None:
        if time.monotonic() >= until or _ending.value == number:
            raise _Ended

    signal.signal(signal.SIGALRM, ended)
    signal.setitimer(signal.ITIMER_REAL, budget_s)
    try:
        return of(*args)
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
        signal.signal(signal.SIGALRM, signal.SIG_IGN)
