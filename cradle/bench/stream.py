"""Events told to every open page of a shop as they come: one hub in the process, one stream a page, resumed by the last id."""

import asyncio
import json
import re
import threading
from collections import defaultdict
from contextlib import suppress
from io import BytesIO
from typing import Any
from urllib.parse import parse_qs
from uuid import UUID

from asgiref.sync import ThreadSensitiveContext, sync_to_async
from django.conf import settings
from django.contrib.auth import get_user
from django.core.handlers.asgi import ASGIRequest
from django.db import connections, transaction
from django.utils import timezone
from django.utils.module_loading import import_string

from cradle.bench.models import Event
from cradle.shops.people import Forbidden

_PATH = re.compile(r"/api/shops/([0-9a-f-]{36})/stream")
# A page that has fallen so far behind is hung up on: it comes back and asks for what it lacks.
_MOST_WAITING, _MOST_RESUMED = 1000, 2000
_MOST_PAGES = 300
_BEATS_S, _CHECKS_EVERY = 15.0, 4


# What is only shown, and never asked for again, has no id.
LIVE = 0


class Hub:
    """The pages that watch a shop, each with a queue of its own."""

    def __init__(self) -> None:
        # The last event of each run that was told, for whoever follows a run in this process.
        self.last_of_run: dict[UUID, int] = {}
        self._pages: dict[str, set[tuple[asyncio.AbstractEventLoop, asyncio.Queue]]] = defaultdict(set)
        self._lock = threading.Lock()

    def publish(self, shop_id: str, message: tuple[int, str]) -> None:
        """Give a message to all who watch; called from whatever thread wrote the event."""
        with self._lock:
            pages = list(self._pages.get(shop_id, ()))
        for loop, queue in pages:
            with suppress(RuntimeError):
                loop.call_soon_threadsafe(_put, queue, message)

    def join(self, shop_id: str) -> tuple[asyncio.AbstractEventLoop, asyncio.Queue] | None:
        """A place for one page; None where there are too many."""
        place = asyncio.get_running_loop(), asyncio.Queue(_MOST_WAITING)
        with self._lock:
            if sum(map(len, self._pages.values())) >= _MOST_PAGES:
                return None
            self._pages[shop_id].add(place)
        return place

    def leave(self, shop_id: str, place: tuple[asyncio.AbstractEventLoop, asyncio.Queue]) -> None:
        with self._lock:
            self._pages[shop_id].discard(place)
            if not self._pages[shop_id]:
                del self._pages[shop_id]


def _put(queue: asyncio.Queue, message: tuple[int, str] | None) -> None:
    try:
        queue.put_nowait(message)
    except asyncio.QueueFull:
        queue.get_nowait()
        queue.put_nowait(None)


HUB = Hub()


def told(event: Event) -> dict[str, Any]:
    """An event as pages are told it."""
    return {
        "id": event.pk,
        "run_id": str(event.run_id),
        "tap_id": str(event.tap_id),
        "about": event.about,
        "subject": event.subject,
        "kind": event.kind,
        "happened_at": event.happened_at.isoformat(),
        "came_at": event.came_at.isoformat(),
        "by": event.by.get_username(),
        "device": event.device,
        # What it is taken anew by is asked for: it is long.
        "data": {} if event.kind == "plan taken" else event.data,
        "takes_back": str(event.takes_back.tap_id) if event.takes_back else "",
    }


def tell(event: Event) -> None:
    """Tell an event to who watches its shop, once it is safely written."""
    shop_id = str(event.run.job.shop_id)

    def say() -> None:
        HUB.last_of_run[event.run_id] = event.pk
        HUB.publish(shop_id, (event.pk, json.dumps(told(event))))

    transaction.on_commit(say)


def with_streams(application):
    """An ASGI application around another, which answers a shop's stream itself: it has no end, and needs no thread."""

    async def served(scope, receive, send):
        asked = _PATH.fullmatch(scope["path"]) if scope["type"] == "http" else None
        if asked is None or scope["method"] != "GET":
            await application(scope, receive, send)
        else:
            await _stream(scope, receive, send, asked[1])

    return served


async def _stream(scope, receive, send, shop_id: str) -> None:
    if not await _asked(_may_watch, scope, shop_id):
        return await _refuse(send, 404, "no such shop of yours")
    place = HUB.join(shop_id)
    if place is None:
        return await _refuse(send, 503, "too many pages watch: close one")
    gone = asyncio.ensure_future(_gone(receive))
    try:
        headers = [
            (b"content-type", b"text/event-stream"),
            (b"cache-control", b"no-store"),
            (b"x-accel-buffering", b"no"),
        ]
        await send({"type": "http.response.start", "status": 200, "headers": headers})
        last = _last_id(scope)
        missed = await _asked(_since, shop_id, last) if last is not None else []
        for pk, message in missed:
            await _say(send, f"id: {pk}\ndata: {message}\n\n")
        await _say(send, _beat())
        await _watch(scope, send, shop_id, place[1], gone, max((pk for pk, _ in missed), default=last or 0))
    finally:
        HUB.leave(shop_id, place)
        gone.cancel()


async def _watch(scope, send, shop_id: str, queue: asyncio.Queue, gone: asyncio.Future, last: int) -> None:
    beats = 0
    while not gone.done():
        waiting = asyncio.ensure_future(queue.get())
        done, _ = await asyncio.wait({waiting, gone}, timeout=_BEATS_S, return_when=asyncio.FIRST_COMPLETED)
        if waiting in done:
            message = waiting.result()
            if message is None:
                return
            if message[0] == LIVE:
                await _say(send, f"event: live\ndata: {message[1]}\n\n")
            elif message[0] > last:
                last = message[0]
                await _say(send, f"id: {last}\ndata: {message[1]}\n\n")
            continue
        waiting.cancel()
        if gone.done():
            return
        beats += 1
        # Who was let go, or signed out, watches no longer.
        if beats % _CHECKS_EVERY == 0 and not await _asked(_may_watch, scope, shop_id):
            return
        await _say(send, _beat())


def _beat() -> str:
    return f"event: clock\ndata: {timezone.now().isoformat()}\n\n"


async def _say(send, text: str) -> None:
    await send({"type": "http.response.body", "body": text.encode(), "more_body": True})


async def _refuse(send, status: int, words: str) -> None:
    body = json.dumps({"detail": words}).encode()
    headers = [(b"content-type", b"application/json"), (b"content-length", str(len(body)).encode())]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})


async def _gone(receive) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass


async def _asked(what, *of):
    """Something asked of the database, in a thread of its own."""
    async with ThreadSensitiveContext():
        return await sync_to_async(_and_close)(what, *of)


def _and_close(what, *of):
    try:
        return what(*of)
    finally:
        connections.close_all()


def _may_watch(scope, shop_id: str) -> bool:
    """Whether whoever asks is signed in and belongs to a shop."""
    with suppress(ValueError):
        return _belongs(ASGIRequest(scope, BytesIO()), UUID(shop_id))
    return False


def _belongs(request: ASGIRequest, shop_id: UUID) -> bool:
    sessions = import_string(f"{settings.SESSION_ENGINE}.SessionStore")
    request.session = sessions(request.COOKIES.get(settings.SESSION_COOKIE_NAME))
    person = request.user = get_user(request)
    if not person.is_authenticated or not person.memberships.filter(shop_id=shop_id).exists():
        return False
    try:
        return import_string("cradle.devices.limits.may_from_here")(request)
    except Forbidden:
        return False


def _since(shop_id: str, last: int) -> list[tuple[int, str]]:
    events = Event.objects.filter(run__job__shop_id=UUID(shop_id), pk__gt=last).order_by("pk")
    return [(event.pk, json.dumps(told(event))) for event in events.select_related("by", "takes_back")[:_MOST_RESUMED]]


def _last_id(scope) -> int | None:
    """The last event a page has, by its header or its address."""
    headers = dict(scope.get("headers", ()))
    asked = (
        headers.get(b"last-event-id", b"").decode() or parse_qs(scope["query_string"].decode()).get("after", [""])[0]
    )
    return int(asked) if asked.isdecimal() and len(asked) < 18 else None
