"""Plans for the screen: at once, by the rough heat model while the full one's table is built beside it."""

import hashlib
import logging
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future
from queue import SimpleQueue
from threading import Lock, Thread
from typing import TypeVar

from django.conf import settings

from cradle.heavy import beside
from layup.errors import LayupError
from layup.heat.heat_fit import StatedPot
from layup.heat.pot_heat import HeatOf, PotHeat, full_heat, rough_heat
from layup.job import JobSpec
from layup.outcome import CautionRecord, NextStep, Plan, Problem
from layup.plan import plan
from layup.shop_facts import ShopFacts

# A person who types many labels may not make the others wait: past these nothing more is taken on until one is done.
MOST_WAITING = 40
MOST_KEPT = 400
MOST_PLAN_BYTES = 24_000_000

Answer = TypeVar("Answer")
logger = logging.getLogger(__name__)


class Unplannable(LayupError):
    """A fault of the program's own in the plan of one job: told to its builder, written down, and no other job's affair."""


# What was begun, and its model once it is built.
_tables: dict[StatedPot, PotHeat | None] = {}
_asked: SimpleQueue[StatedPot] = SimpleQueue()
_lock = Lock()
_plans: OrderedDict[str, tuple[Plan, int]] = OrderedDict()
_under_way: dict[str, Future[Plan]] = {}
_builder: list[Thread] = []


def planned(spec: JobSpec, facts: ShopFacts) -> Plan:
    """The plan for a screen; its chemistry says where it is still rough. The same job in the same day is planned once.

    A screen asks for several things of a plan at a time: while it is being made, the others wait for it.
    """
    words = f"{settings.HEAT_IN_BACKGROUND} {spec.model_dump_json()} {facts.model_dump_json()}"
    key = hashlib.sha256(words.encode()).hexdigest()
    with _lock:
        known = _plans.get(key)
        if known:
            _plans.move_to_end(key)
            return known[0]
        others, mine = _under_way.get(key), Future()
        if others is None:
            _under_way[key] = mine
    if others is not None:
        return others.result()
    try:
        answer = _planned_now(spec, facts)
    except BaseException as failed:
        mine.set_exception(failed)
        raise
    else:
        mine.set_result(answer)
    finally:
        with _lock:
            del _under_way[key]
    # A rough plan is worth another as soon as the table stands.
    if not (answer.chemistry and answer.chemistry.rough):
        _keep(key, answer)
    return answer


def planned_or_told(spec: JobSpec, facts: ShopFacts) -> Plan:
    """The plan, or of a job that cannot be planned as it stands one that says so: it is still opened, and mended."""
    try:
        return planned(spec, facts)
    except LayupError as failed:
        return _told(failed, planned(JobSpec(name="New"), facts))


def _told(failed: LayupError, empty: Plan) -> Plan:
    """A plan of nothing that says why there is none, wherever one looks for it."""
    stop = CautionRecord(
        id="program.unplannable",
        severity="stop",
        message=f"{failed.message[0].upper()}{failed.message[1:]}",
        reason="The program failed in working it out. What failed is in the log of the server.",
        do="Take back what was changed last, or go back to an earlier revision under Log.",
        source="",
        step="log",
        path=failed.path,
        overridable=False,
    )
    return empty.model_copy(
        update={
            "cautions": (stop,),
            "problems": (Problem(path=failed.path, message=failed.message, step="log", wrong=True),),
            "steps": tuple(
                step.model_copy(update={"headline": "not planned", "state": "stop" if step.step == "log" else ""})
                for step in empty.steps
            ),
            "next_step": NextStep(step="log", words=failed.message),
        }
    )


def _planned_now(spec: JobSpec, facts: ShopFacts) -> Plan:
    """The plan made now. Raises Unplannable where the program fails in it."""
    try:
        return with_heat_at_hand(lambda heat_of: plan(spec, facts, heat_of))
    except LayupError:
        raise
    except Exception as failed:
        logger.exception("a job cannot be planned")
        raise Unplannable("this job cannot be planned as it stands: take back what was changed last") from failed


def _keep(key: str, answer: Plan) -> None:
    """Keeps a plan, and as many of those before it as there is room for, by their length."""
    size = len(answer.model_dump_json())
    with _lock:
        _plans[key] = answer, size
        while len(_plans) > 1 and sum(each for _, each in _plans.values()) > MOST_PLAN_BYTES:
            _plans.popitem(last=False)


def with_heat_at_hand(of: Callable[[HeatOf], Answer]) -> Answer:
    """What is worked out with the heat that is at hand, full or rough.

    One answer reads one state of a product's table throughout, and tables are begun only once it is given.
    """
    if not settings.HEAT_IN_BACKGROUND:
        return of(full_heat)
    read: dict[StatedPot, PotHeat] = {}

    def heat_of(stated: StatedPot) -> PotHeat:
        """What is at hand of a product, the same each time."""
        if stated not in read:
            read[stated] = _at_hand(stated)
        return read[stated]

    answer = of(heat_of)
    for stated, heat in read.items():
        if heat.rough:
            _begin(stated)
    return answer


def tables_at_hand() -> dict[StatedPot, PotHeat]:
    """The tables that stand, for a worker that would else make them again."""
    with _lock:
        return {stated: heat for stated, heat in _tables.items() if heat}


def _at_hand(stated: StatedPot) -> PotHeat:
    return _tables.get(stated) or rough_heat(stated)


def _begin(stated: StatedPot) -> None:
    with _lock:
        if stated in _tables or _asked.qsize() >= MOST_WAITING:
            return
        if len(_tables) >= MOST_KEPT:
            _tables.pop(next(iter(_tables)))
        _tables[stated] = None
        _asked.put(stated)
        # A daemon, so that nobody waits for a table when the server is stopped.
        if not _builder:
            _builder.append(Thread(target=_build, name="heat", daemon=True))
            _builder[0].start()


def _build() -> None:
    while True:
        stated = _asked.get()
        try:
            _tables[stated] = beside("tables", full_heat, stated) if settings.HEAVY_IN_PROCESSES else full_heat(stated)
        except Exception:
            # One product that cannot be worked out may not stop the others: its plans go by its label alone.
            logger.exception("the heat model of %s failed", stated)
            _tables[stated] = PotHeat(stated)
