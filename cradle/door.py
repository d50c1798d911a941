"""The door of the server: what is too large is refused before it is taken in, and what is never sent whole is not waited for."""

import asyncio
import json

import h11
from uvicorn.protocols.http.h11_impl import H11Protocol

# A data sheet with its form is the largest thing that is sent.
MOST_SENT_BYTES = 16_000_000
# A request is waited for so long, and for what it sends at the pace of a poor wireless.
WAITED_FOR_S, SLOWEST_BYTES_A_S = 20, 50_000


def with_a_cap(application):
    """An ASGI application around another, which refuses what is larger than anything a shop sends."""

    async def at_the_door(scope, receive, send):
        length = dict(scope.get("headers", ())).get(b"content-length", b"0")
        if length.isdigit() and int(length[:20]) > MOST_SENT_BYTES:
            await _refuse(send, int(length[:20]))
            return
        came = 0

        async def received():
            nonlocal came
            message = await receive()
            came += len(message.get("body", b""))
            # One that does not say how long it is, and goes on and on.
            return message if came <= MOST_SENT_BYTES else {"type": "http.disconnect"}

        await application(scope, received, send)

    return at_the_door


async def _refuse(send, sent_bytes: int) -> None:
    words = f"{sent_bytes / 1e6:,.0f} MB were sent at once, and {MOST_SENT_BYTES / 1e6:.0f} MB is the most: send a smaller file"
    body = json.dumps({"problems": [{"path": "", "message": words}]}).encode()
    headers = [
        (b"content-type", b"application/json"),
        (b"content-length", str(len(body)).encode()),
        (b"connection", b"close"),
    ]
    await send({"type": "http.response.start", "status": 413, "headers": headers})
    await send({"type": "http.response.body", "body": body})


class PatientProtocol(H11Protocol):
    """HTTP as uvicorn speaks it, which hangs up on a request that does not come whole in its time."""

    _hanging_up: asyncio.TimerHandle | None = None
    _came_bytes = 0

    def connection_made(self, transport: asyncio.Transport) -> None:
        super().connection_made(transport)
        self._wait()

    def data_received(self, data: bytes) -> None:
        self._came_bytes += len(data)
        self._wait()
        super().data_received(data)
        if self.conn.their_state not in (h11.IDLE, h11.SEND_BODY):
            self._stop_waiting()

    def connection_lost(self, exc: Exception | None) -> None:
        self._stop_waiting()
        super().connection_lost(exc)

    def _wait(self) -> None:
        if self._hanging_up is None:
            self._began, self._came_bytes = self.loop.time(), 0
        else:
            self._hanging_up.cancel()
        until = self._began + WAITED_FOR_S + self._came_bytes / SLOWEST_BYTES_A_S
        self._hanging_up = self.loop.call_at(until, self.transport.close)

    def _stop_waiting(self) -> None:
        if self._hanging_up:
            self._hanging_up.cancel()
            self._hanging_up = None
