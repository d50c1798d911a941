"""Heavy work in a process of its own, so that one shop's search for a start leaves everyone else's plans as quick as ever.

A worker knows the core and no Django. What takes longer than its budget is ended, and told so.
"""

import os
import signal
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from multiprocessing import get_context
from threading import Lock, Thread
from typing import TypeVar
from uuid import UUID

from django.conf import settings

from layup.errors import OutOfRange

_PARENT_LOOKED_FOR_S = 2.0

Answer = TypeVar("Answer")
_pools: dict[str, ProcessPoolExecutor] = {}
_lock = Lock()
_shops: dict[UUID, Lock] = {}


class _OverBudget(Exception):
    """A worker has had its time."""


def worked_out(shop_id: UUID, of: Callable[..., Answer], *args: object, budget_s: float | None = None) -> Answer:
    """What a function of the core comes to, worked out beside the server: one at a time a shop, within a budget.

    Raises OutOfRange where it takes longer, or the shop asks for another before the last has come.
    """
    if not settings.HEAVY_IN_PROCESSES:
        return of(*args)
    with _lock:
        shops = _shops.setdefault(shop_id, Lock())
    budget_s = budget_s or settings.HEAVY_BUDGET_S
    if not shops.acquire(timeout=settings.HEAVY_BUDGET_S):
        raise OutOfRange("this shop is trying other starts already: wait until they are done", "pots.start")
    try:
        return beside("starts", _within_budget, of, args, budget_s)
    except _OverBudget:
        raise OutOfRange(
            f"that takes longer than {budget_s:.0f} s to try: split the job, or set larger pots", "pots.start"
        ) from None
    finally:
        shops.release()


def beside(pool: str, of: Callable[..., Answer], *args: object) -> Answer:
    """What a function comes to in a process of a pool; one that was killed is begun anew, once."""
    for last in (False, True):
        try:
            return _pool(pool).submit(of, *args).result()
        except BrokenProcessPool:
            with _lock:
                _pools.pop(pool, None)
            if last:
                raise
    raise AssertionError("unreachable")


def _pool(name: str) -> ProcessPoolExecutor:
    with _lock:
        if name not in _pools:
            # Spawned, not forked: a fork would take the server's threads' locks along.
            _pools[name] = ProcessPoolExecutor(1, get_context("spawn"), _ends_with, (os.getpid(),))
        return _pools[name]


def _ends_with(parent: int) -> None:
    """Ends a worker whose server is gone, however it went."""

    def watch() -> None:
        while os.getppid() == parent:
            time.sleep(_PARENT_LOOKED_FOR_S)
        os._exit(0)

    Thread(target=watch, daemon=True).start()
    # The least of the processor where others want it.
    os.nice(10)


def _within_budget(of: Callable[..., Answer], args: tuple, budget_s: float) -> Answer:
    def over(*_: object) -> None:
        raise _OverBudget

    signal.signal(signal.SIGALRM, over)
    signal.setitimer(signal.ITIMER_REAL, budget_s)
    try:
        return of(*args)
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
