"""The full tables of heat, made one after another beside what is on the screen; it goes by rough ones meanwhile."""

import logging
from collections.abc import Callable, Iterable
from queue import SimpleQueue
from threading import Lock, Thread
from typing import TypeVar

from django.conf import settings

from cradle.beside import tables
from cradle.beside.crew import PLANS, STARTS, TABLES
from cradle.beside.tables_on_disk import write_table
from cradle.beside.worker import ProgramEnds
from layup.heat.heat_fit import StatedPot
from layup.heat.pot_heat import HeatOf, PotHeat, full_heat

# A person who types many labels may not make the others wait: past these nothing more is taken on until one is done.
MOST_WAITING = 40
MOST_S = 240.0

Answer = TypeVar("Answer")
logger = logging.getLogger(__name__)

# What is being made, or waits for it.
_begun: set[StatedPot] = set()
_asked: SimpleQueue[StatedPot] = SimpleQueue()
_lock = Lock()
_builder: list[Thread] = []


def with_heat_at_hand(of: Callable[[HeatOf], Answer]) -> Answer:
    """What is worked out here with the heat that is at hand, full or rough. Tables are begun once it is given."""
    if not settings.HEAT_IN_BACKGROUND:
        return of(full_heat)
    answer, lacked = tables.with_heat_at_hand(of)
    begin_tables(lacked)
    return answer


def begin_tables(lacked: Iterable[StatedPot]) -> None:
    """Have the tables made that an answer lacked; the workers learn what there is."""
    for stated in lacked:
        known = tables.table_of(stated)
        if known:
            _tell(stated, known)
        else:
            _begin(stated)


def _begin(stated: StatedPot) -> None:
    with _lock:
        if stated in _begun or _asked.qsize() >= MOST_WAITING:
            return
        _begun.add(stated)
        _asked.put(stated)
        # A daemon, so that nobody waits for a table when the server is stopped.
        if not _builder:
            _builder.append(Thread(target=_build, name="heat", daemon=True))
            _builder[0].start()


def _build() -> None:
    while True:
        stated = _asked.get()
        try:
            heat = TABLES.work("heat", MOST_S, full_heat, stated)
        except ProgramEnds:
            return
        except Exception:
            # One product that cannot be worked out may not stop the others: its plans go by its label alone.
            logger.exception("the heat model of %s failed", stated)
            heat = PotHeat(stated)
        tables.keep_table(stated, heat)
        write_table(stated, heat)
        _tell(stated, heat)
        _begun.discard(stated)


def _tell(stated: StatedPot, heat: PotHeat) -> None:
    for crew in (PLANS, STARTS):
        crew.tell(tables.keep_table, stated, heat)
