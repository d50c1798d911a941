"""Whether who asked still waits: the closing of a connection is told to the work behind it."""

from threading import Event

from django.http import HttpRequest

_GONE = "cradle.gone"


def telling_who_is_gone(application):
    """An ASGI application around another, in which a request knows when its connection was closed."""

    async def told(scope, receive, send):
        gone = Event()

        async def received():
            message = await receive()
            if message["type"] == "http.disconnect":
                gone.set()
            return message

        await application(scope | {_GONE: gone}, received, send)

    return told


def gone_of(request: HttpRequest) -> Event:
    """What is set once nobody waits for the answer; never, where the server does not say."""
    return getattr(request, "scope", {}).get(_GONE) or Event()
