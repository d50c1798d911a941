"""Searches for a start and for what a lever buys: what a worker is sent, and knows no Django.

Each is given the tables of heat that the server has; what they lack the worker makes, and keeps.
"""

import time
from datetime import date, datetime

from layup.day.best_start import Aim, LeverTried, StartTried, latest_start, levers, starts_of_day
from layup.heat.heat_fit import StatedPot
from layup.heat.pot_heat import HeatOf, PotHeat, full_heat
from layup.job import JobSpec
from layup.shop_facts import ShopFacts

Tables = dict[StatedPot, PotHeat]


def starts_in_time(
    tables: Tables, spec: JobSpec, facts: ShopFacts, day: date, seconds: float
) -> tuple[tuple[StartTried, ...], bool]:
    """As many of a day's starts as there is time for, and whether those are all."""
    until, in_time = time.monotonic() + seconds, True

    def go_on() -> bool:
        nonlocal in_time
        in_time = time.monotonic() < until
        return in_time

    return starts_of_day(spec, facts, day, heat_of=_by(tables), go_on=go_on), in_time


def levers_tried(tables: Tables, spec: JobSpec, facts: ShopFacts) -> tuple[LeverTried, ...]:
    """What one step of each lever gives."""
    return levers(spec, facts, _by(tables))


def start_found_back(
    tables: Tables, spec: JobSpec, facts: ShopFacts, by: datetime, aim: Aim, now: datetime
) -> StartTried:
    """The latest start that still meets an hour."""
    return latest_start(spec, facts, by, aim, now, _by(tables))


def _by(tables: Tables) -> HeatOf:
    return lambda stated: tables.get(stated) or full_heat(stated)
