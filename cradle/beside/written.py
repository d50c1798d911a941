"""Plans and what follows from one, written as JSON: what a worker does, and knows no Django."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import TypeVar

from cradle.beside.tables import full_at_hand, with_heat_at_hand
from layup.bench.card import BenchCard
from layup.bench.issue import Rest, issued_card, rest_of
from layup.heat.heat_fit import StatedPot
from layup.heat.pot_heat import HeatOf
from layup.infusion.flow import Flow, flow_of
from layup.job import JobSpec
from layup.outcome import Plan
from layup.plan import plan
from layup.pours.hours import PourHours, pour_hours
from layup.shop_facts import ShopFacts
from layup.under_vacuum import FlowLine

Answer = TypeVar("Answer")


@dataclass(frozen=True)
class Written:
    """An answer as JSON, and the products whose heat it had only roughly."""

    json: bytes
    lacked: tuple[StatedPot, ...]


def plan_written(spec_json: str, facts_json: str, full: bool) -> Written:
    """The plan of a job; `full` makes the tables it lacks, else it goes by what is at hand."""
    spec, facts = JobSpec.model_validate_json(spec_json), _facts(facts_json)
    return _written(lambda heat_of: plan(spec, facts, heat_of), full)


def rest_written(
    spec_json: str,
    facts_json: str,
    issued: Mapping,
    poured: dict[int, datetime],
    dumped: list[int],
    laid: dict[str, datetime],
    now: datetime,
    card: Mapping | None,
    full: bool,
) -> Written:
    """What is left of a run, planned again from now on."""
    spec, facts = JobSpec.model_validate_json(spec_json), _facts(facts_json)
    was = Plan.model_validate(issued)
    in_force = BenchCard.model_validate(card) if card else None
    return _written(lambda heat_of: rest_of(spec, facts, was, poured, dumped, now, heat_of, in_force, laid), full)


def card_written(spec_json: str, facts_json: str, plan_json: str, full: bool) -> Written:
    """What a tablet goes by, of a plan that is issued."""
    spec, facts = JobSpec.model_validate_json(spec_json), _facts(facts_json)
    issued = Plan.model_validate_json(plan_json)
    return _written(lambda heat_of: issued_card(spec, facts, issued, heat_of), full)


def pour_hours_written(
    spec_json: str, facts_json: str, pour_id: str, full: bool
) -> tuple[PourHours | None, tuple[StatedPot, ...]]:
    """A casting through its hours, and the products whose heat it had only roughly; `full` makes the tables it lacks."""
    spec, facts = JobSpec.model_validate_json(spec_json), _facts(facts_json)
    if full:
        return pour_hours(spec, facts, pour_id, full_at_hand), ()
    return with_heat_at_hand(lambda heat_of: pour_hours(spec, facts, pour_id, heat_of))


def flow_written(
    spec_json: str, facts_json: str, part_id: str, lines: tuple[FlowLine, ...] | None, rough: bool, full: bool
) -> tuple[Flow | None, tuple[StatedPot, ...]]:
    """An infusion in plan, and the products whose heat it had only roughly; `full` makes the tables it lacks."""
    spec, facts = JobSpec.model_validate_json(spec_json), _facts(facts_json)

    def flow(heat_of: HeatOf) -> Flow | None:
        return flow_of(spec, facts, part_id, heat_of, lines=lines, rough=rough)

    return (flow(full_at_hand), ()) if full else with_heat_at_hand(flow)


def _written(of: Callable[[HeatOf], Plan | Rest | BenchCard], full: bool) -> Written:
    answer, lacked = (of(full_at_hand), ()) if full else with_heat_at_hand(of)
    return Written(answer.model_dump_json().encode(), lacked)


@lru_cache(maxsize=16)
def _facts(facts_json: str) -> ShopFacts:
    # A shop asks for many plans in one state of its day.
    return ShopFacts.model_validate_json(facts_json)
