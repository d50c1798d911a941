"""A process beside the server that does one work at a time, and can be told to leave what it has in hand.

It knows the core and no Django, and ends with its server, however that went.
"""

import os
import signal
import time
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import suppress
from ctypes import c_int64
from itertools import count
from multiprocessing import connection, get_all_start_methods, get_context, parent_process
from threading import Event, Lock, Thread
from typing import TypeVar

from cradle.beside.tables import Tables, keep_table, tables_kept

_WAITING_LOOKED_AT_S = 0.2
# A system that knows no alarms ends a process, and its work with it.
_ALARM = getattr(signal, "SIGALRM", None)
_KILL = getattr(signal, "SIGKILL", signal.SIGTERM)
# Past its budget a work has so long to end of itself: what is compiled may not hear that it is to.
_ENDED_WITHIN_S = 60.0 if _ALARM else 0.0
# A third of the processor that a worker gets who does not give way: on a machine that is never idle it still comes on.
_GIVES_WAY_BY = 5

Answer = TypeVar("Answer")

# Workers come from a clean process that has loaded the core: one begins in an instant, and they share what it holds. Where a
# system cannot do that, each loads it for itself.
_FORKS = "forkserver" in get_all_start_methods()
_processes = get_context("forkserver" if _FORKS else "spawn")
if _FORKS:
    _processes.set_forkserver_preload(["cradle.beside.preloaded"])
_numbers = count(1)
# In a worker: the number of the work that it is to leave.
_ending = c_int64(0)


class Ended(Exception):
    """A work has had its time, or nobody waits for what it comes to."""


class ProgramEnds(Exception):
    """The program is being left: no more work is begun."""


class Worker:
    """One process, begun when it is first needed and again when it died. `nice` gives way to all that is not."""

    def __init__(self, *, nice: bool):
        self._nice = nice
        self._lock = Lock()
        self._executor: ProcessPoolExecutor | None = None
        # The process, once it stands, and the number of the work it is to leave.
        self.pid, self._leaving = _processes.RawValue(c_int64, 0), _processes.RawValue(c_int64, 0)

    def work(self, gone: Event, budget_s: float, of: Callable[..., Answer], *args: object) -> Answer:
        """What a function of the core comes to. Raises Ended past its time, or once nobody waits."""
        number = next(_numbers)
        for last in (False, True):
            executor = self._begun()
            try:
                future = _asked(executor, number, of, args, budget_s)
                return self._waited(future, gone, number, time.monotonic() + budget_s + _ENDED_WITHIN_S)
            except BrokenProcessPool:
                # It was killed: by the system for its memory, say. Once more, in a new one.
                self._forget(executor)
                if last:
                    raise
        raise AssertionError("unreachable")

    def begin(self) -> None:
        """Have it stand before it is needed."""
        self._begun().submit(int)

    def tell(self, of: Callable[..., object], *args: object) -> None:
        """Have it know a thing, after what it does now; one that is not begun learns it when it begins."""
        with self._lock, suppress(RuntimeError):
            if self._executor:
                self._executor.submit(of, *args)

    def leave(self, number: int) -> None:
        """Ends a work, if it is the one in hand."""
        self._leaving.value = number
        self._signal(_ALARM or _KILL)

    def _signal(self, what: signal.Signals) -> None:
        if self.pid.value:
            # One that has died meanwhile is begun anew by who waits for it.
            with suppress(ProcessLookupError):
                os.kill(self.pid.value, what)

    def _begun(self) -> ProcessPoolExecutor:
        with self._lock:
            if self._executor is None:
                given = (self.pid, self._leaving, self._nice, tables_kept())
                self._executor = ProcessPoolExecutor(1, _processes, _begin, given)
            return self._executor

    def _forget(self, executor: ProcessPoolExecutor) -> None:
        with self._lock:
            if self._executor is executor:
                self._executor = None
                self.pid.value = 0

    def _waited(self, future: Future[Answer], gone: Event, number: int, until: float) -> Answer:
        """What comes; while it works it is asked, again and again, to leave what nobody waits for.

        One that does not end of itself is killed.
        """
        while True:
            try:
                return future.result(_WAITING_LOOKED_AT_S)
            except TimeoutError:
                if future.done():
                    return future.result()
                if gone.is_set():
                    if future.cancel():
                        raise Ended from None
                    self.leave(number)
                    if not _ALARM:
                        raise Ended from None
                if time.monotonic() >= until and self.pid.value:
                    self._signal(_KILL)
                    raise Ended from None


def _asked(executor: ProcessPoolExecutor, number: int, of: Callable, args: tuple, budget_s: float) -> Future:
    try:
        return executor.submit(_within_budget, number, of, args, budget_s)
    except BrokenProcessPool:
        raise
    except RuntimeError as over:
        raise ProgramEnds from over


def _begin(pid: c_int64, leaving: c_int64, nice: bool, tables: Tables) -> None:
    """In a worker: takes its orders, and goes with its server."""
    global _ending
    if _ALARM:
        signal.signal(_ALARM, signal.SIG_IGN)
    _ending, pid.value = leaving, os.getpid()
    for stated, heat in tables.items():
        keep_table(stated, heat)

    def go_with_the_server() -> None:
        connection.wait([parent_process().sentinel])
        os._exit(0)

    Thread(target=go_with_the_server, daemon=True).start()
    if nice and hasattr(os, "nice"):
        os.nice(_GIVES_WAY_BY)


def _within_budget(number: int, of: Callable[..., Answer], args: tuple, budget_s: float) -> Answer:
    """In a worker: what a function comes to, unless its time is over or it is to be left."""
    if not _ALARM:
        return of(*args)
    until, at_work = time.monotonic() + budget_s, True

    def over() -> bool:
        return time.monotonic() >= until or _ending.value == number

    def ended(*_: object) -> None:
        if at_work and over():
            raise Ended

    def put_down() -> None:
        nonlocal at_work
        at_work = False
        signal.setitimer(signal.ITIMER_REAL, 0)
        signal.signal(_ALARM, signal.SIG_IGN)

    try:
        try:
            signal.signal(_ALARM, ended)
            # Again and again: what is compiled may swallow it, or make another error of it.
            signal.setitimer(signal.ITIMER_REAL, budget_s, _WAITING_LOOKED_AT_S)
            return of(*args)
        except Exception:
            if over():
                raise Ended from None
            raise
        finally:
            put_down()
    finally:
        # The alarm may have gone off just as the work was put down; a worker that waits must not be ended by it.
        put_down()
