"""Faults of the program, written down: when, at which route, of which job, what failed and where; no names, nobody's words."""

import logging
import traceback
from collections.abc import Callable
from contextvars import ContextVar
from datetime import UTC, datetime

from django.http import HttpRequest, HttpResponse

_WHERE: ContextVar[str] = ContextVar("where", default="")


class WhereMiddleware:
    """Keeps, for what is written down of a request, its route with the ids in it. A person's name is none."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]):
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        before = _WHERE.set(request.method or "")
        try:
            return self.get_response(request)
        finally:
            _WHERE.reset(before)

    def process_view(self, request: HttpRequest, view: Callable, args: tuple, kwargs: dict) -> None:
        ids = " ".join(f"{name}={value}" for name, value in kwargs.items() if name.endswith("_id"))
        _WHERE.set(f"{request.method} {request.resolver_match.route} {ids}".strip())


class FaultFormatter(logging.Formatter):
    """One record on a line; a fault with the places it came through. What an exception says is left out: it may quote."""

    def format(self, record: logging.LogRecord) -> str:
        at = datetime.fromtimestamp(record.created, UTC).isoformat(timespec="seconds")
        # What a library says of a request names its address, and so may name a person.
        words = record.getMessage() if record.name.startswith("cradle") else record.name
        line = f"{at} {record.levelname} [{_WHERE.get()}] {words}"
        if record.exc_info and record.exc_info[0]:
            kind, error, trace = record.exc_info
            places = traceback.extract_tb(trace)
            cause = error and (error.__cause__ or error.__context__)
            line += f"\n  {kind.__name__}" + (f" of {type(cause).__name__}" if cause else "")
            line += "".join(f"\n    {place.filename}:{place.lineno} {place.name}" for place in places)
        return line
