"""A day's starts tried for as long as there is time: what a worker is sent, and knows no Django."""

import time
from datetime import date

from layup.day.best_start import StartTried, starts_of_day
from layup.job import JobSpec, ShopFacts


def starts_in_time(spec: JobSpec, facts: ShopFacts, day: date, seconds: float) -> tuple[tuple[StartTried, ...], bool]:
    """As many of a day's starts as there is time for, and whether those are all."""
    until, in_time = time.monotonic() + seconds, True

    def go_on() -> bool:
        nonlocal in_time
        in_time = time.monotonic() < until
        return in_time

    return starts_of_day(spec, facts, day, go_on=go_on), in_time
