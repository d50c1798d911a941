"""What stands behind the server's door, plain or over TLS: the application, its workers, its readers of ports."""

import socket
import warnings
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from importlib import import_module
from pathlib import Path
from typing import Any

import uvicorn
from django.conf import settings
from django.core.management.base import CommandError
from django.utils import timezone

from cradle.door import PatientProtocol
from cradle.garbage import keep_garbage_out_of_the_way
from cradle.keeping import alone_at, open_to_readers


@contextmanager
def ready_to_serve() -> Iterator[Callable]:
    """The application with all that it needs, until left. Raises CommandError where another serves from the same data."""
    # WhiteNoise answers with a file in pieces; Django reads it in a thread and says so for every one.
    warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")
    # Loaded here, so that the planner and its libraries stand before the garbage is settled.
    from cradle.asgi import application
    from cradle.beside.crew import PLANS
    from cradle.beside.tables_on_disk import read_tables

    with alone_at(settings.DATA_DIR) as alone:
        if not alone:
            raise CommandError("Inch Cradle is served from this data folder already: stop that server first")
        import_module("cradle.bench.deleting").drop_what_is_past(timezone.now())
        # Workers begin with the tables that are kept.
        read_tables()
        PLANS.begin()
        import_module("cradle.api")
        import_module("cradle.instruments.ports").READERS.begin()
        keep_garbage_out_of_the_way()
        with open_to_readers(Path(settings.DATABASES["default"]["NAME"])):
            yield application


@contextmanager
def port_at(host: str, port: int) -> Iterator[socket.socket]:
    """The door of the server, taken before anything is loaded. Raises CommandError where another program has it."""
    try:
        door = socket.create_server((host, port), backlog=2048)
    except OSError as error:
        words = f"{host}:{port} cannot be had, another program may be there: --port {port + 1} takes another"
        raise CommandError(words) from error
    with door:
        yield door


class Telling(uvicorn.Server):
    """A server that says so as soon as it answers."""

    def __init__(self, answers: Callable[[], None], application: Callable, **manners: Any):
        super().__init__(uvicorn.Config(application, **manners))
        self._answers = answers

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        await super().startup(sockets)
        if self.started:
            self._answers()


# How uvicorn serves it, whatever the address.
MANNERS: dict[str, Any] = {"http": PatientProtocol, "log_level": "warning", "lifespan": "off"}
