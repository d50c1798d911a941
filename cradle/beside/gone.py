"""Whether who asked still waits: the closing of a connection is told to the work behind it."""

from contextvars import ContextVar
from threading import Event

_GONE: ContextVar[Event] = ContextVar("gone")


def telling_who_is_gone(application):
    """An ASGI application around another, in which the work for a request knows when its connection was closed."""

    async def told(scope, receive, send):
        gone = Event()

        async def received():
            message = await receive()
            if message["type"] == "http.disconnect":
                gone.set()
            return message

        of_this = _GONE.set(gone)
        try:
            await application(scope, received, send)
        finally:
            _GONE.reset(of_this)

    return told


def gone_of_asker() -> Event:
    """What is set once nobody waits for the answer to the request in hand; never, where the server does not say."""
    return _GONE.get(None) or Event()
