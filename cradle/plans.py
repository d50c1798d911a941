"""Plans for the screen: made beside the server, kept as they were written, told in words where there can be none."""

import hashlib
import logging
from collections import OrderedDict
from concurrent.futures import Future
from threading import Lock
from uuid import UUID

from django.conf import settings

from cradle.beside.crew import PLANS, Busy, NobodyWaits
from cradle.beside.heat import begin_tables
from cradle.beside.written import plan_written
from layup.errors import LayupError
from layup.job import JobSpec
from layup.outcome import CautionRecord, NextStep, Plan, Problem
from layup.shop_facts import ShopFacts

MOST_KEPT_BYTES = 24_000_000

_FAILED = "The program failed in working it out. What failed is in the log of the server."
logger = logging.getLogger(__name__)


class Unplannable(LayupError):
    """A fault of the program's own in the plan of one job: told to its builder, written down, and no other job's affair."""


_kept: OrderedDict[str, bytes] = OrderedDict()
_under_way: dict[str, Future[bytes]] = {}
_lock = Lock()


def planned(shop_id: UUID, spec: JobSpec, facts: ShopFacts, *, full: bool = False) -> Plan:
    """The plan of a job of a shop; where not `full`, its chemistry says where it is still rough."""
    return Plan.model_validate_json(planned_json(shop_id, spec, facts, full=full))


def planned_json(shop_id: UUID, spec: JobSpec, facts: ShopFacts, *, full: bool = False) -> bytes:
    """The same as it is sent. The same job in the same day is planned once.

    A screen asks for several things of a plan at a time: while it is being made, the others wait for it.
    """
    full = full or not settings.HEAT_IN_BACKGROUND
    words = spec.model_dump_json(), facts.model_dump_json()
    key = hashlib.sha256(f"{full} {words[0]} {words[1]}".encode()).hexdigest()
    while True:
        with _lock:
            known = _kept.get(key)
            if known:
                _kept.move_to_end(key)
                return known
            others, mine = _under_way.get(key), Future()
            if others is None:
                _under_way[key] = mine
        if others is None:
            return _made(key, mine, shop_id, *words, full)
        try:
            return others.result()
        except NobodyWaits:
            # Who asked first has gone; who waits here has not.
            continue


def _made(key: str, mine: Future[bytes], shop_id: UUID, spec_json: str, facts_json: str, full: bool) -> bytes:
    try:
        written = PLANS.work(shop_id, settings.PLAN_BUDGET_S, plan_written, spec_json, facts_json, full)
    except LayupError as refused:
        mine.set_exception(refused)
        raise
    except Exception as failed:
        logger.exception("a job cannot be planned")
        told = Unplannable("this job cannot be planned as it stands: take back what was changed last")
        mine.set_exception(told)
        raise told from failed
    else:
        mine.set_result(written.json)
        # A rough plan is worth another as soon as the table stands.
        if not written.lacked:
            _keep(key, written.json)
    finally:
        with _lock:
            del _under_way[key]
    begin_tables(written.lacked)
    return written.json


def planned_or_told(shop_id: UUID, spec: JobSpec, facts: ShopFacts) -> bytes:
    """The plan, or of a job that cannot be planned as it stands one that says so: it is still opened, and mended."""
    try:
        return planned_json(shop_id, spec, facts)
    except Busy:
        # That says nothing of the job.
        raise
    except LayupError as failed:
        return told(shop_id, failed, facts)


def told(shop_id: UUID, failed: LayupError, facts: ShopFacts) -> bytes:
    """A plan of nothing that says why there is none, wherever one looks for it."""
    return _told(failed, planned(shop_id, JobSpec(name="New"), facts)).model_dump_json().encode()


def _told(failed: LayupError, empty: Plan) -> Plan:
    stop = CautionRecord(
        id="program.unplannable",
        severity="stop",
        message=f"{failed.message[0].upper()}{failed.message[1:]}",
        reason=_FAILED if isinstance(failed, Unplannable) else "",
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


def _keep(key: str, written: bytes) -> None:
    """Keeps a plan, and as many of those before it as there is room for."""
    with _lock:
        _kept[key] = written
        while len(_kept) > 1 and sum(map(len, _kept.values())) > MOST_KEPT_BYTES:
            _kept.popitem(last=False)
