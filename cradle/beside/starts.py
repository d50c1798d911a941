"""Searches for a start and for what a lever buys: what a worker does, and knows no Django.

They go by full tables of heat; what the worker lacks it makes.
"""

import time
from datetime import date, datetime

from cradle.beside.tables import full_at_hand
from layup.day.best_start import Aim, LeverTried, StartTried, latest_start, levers, starts_of_day
from layup.job import JobSpec
from layup.shop_facts import ShopFacts


def starts_in_time(spec: JobSpec, facts: ShopFacts, day: date, seconds: float) -> tuple[tuple[StartTried, ...], bool]:
    """As many of a day's starts as there is time for, and whether those are all."""
    until, in_time = time.monotonic() + seconds, True

    def go_on() -> bool:
        nonlocal in_time
        in_time = time.monotonic() < until
        return in_time

    return starts_of_day(spec, facts, day, heat_of=full_at_hand, go_on=go_on), in_time


def levers_tried(spec: JobSpec, facts: ShopFacts) -> tuple[LeverTried, ...]:
    """What one step of each lever gives."""
    return levers(spec, facts, full_at_hand)


def start_found_back(spec: JobSpec, facts: ShopFacts, by: datetime, aim: Aim, now: datetime) -> StartTried:
    """The latest start that still meets an hour."""
    return latest_start(spec, facts, by, aim, now, full_at_hand)
