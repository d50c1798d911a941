"""`manage.py serve`: one process that serves pages and API."""

import warnings
from importlib import import_module
from pathlib import Path

import uvicorn
from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from cradle.door import PatientProtocol
from cradle.garbage import keep_garbage_out_of_the_way
from cradle.keeping import alone_at, open_to_readers


class Command(BaseCommand):
    help = "Serve Inch Cradle on this machine."

    def add_arguments(self, parser):
        parser.add_argument("--host", default="127.0.0.1")
        parser.add_argument("--port", type=int, default=8000)

    def handle(self, *args, host: str, port: int, **options):
        self.stdout.write(f"Inch Cradle is at http://{host}:{port}")
        # WhiteNoise answers with a file in pieces; Django reads it in a thread and says so for every one.
        warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")
        # Loaded here, so that the planner and its libraries stand before the garbage is settled.
        from cradle.asgi import application
        from cradle.beside.crew import PLANS
        from cradle.beside.tables_on_disk import read_tables

        with alone_at(settings.DATA_DIR) as alone:
            if not alone:
                raise CommandError("Inch Cradle is served from this data folder already: stop that server first")
            # Workers begin with the tables that are kept.
            read_tables()
            PLANS.begin()
            import_module("cradle.api")
            keep_garbage_out_of_the_way()
            with open_to_readers(Path(settings.DATABASES["default"]["NAME"])):
                uvicorn.run(
                    application,
                    host=host,
                    port=port,
                    http=PatientProtocol,
                    log_level="warning",
                    lifespan="off",
                    # Where it says another address for who asks, only a proxy that is named is believed.
                    proxy_headers=bool(settings.PROXIES),
                    forwarded_allow_ips=settings.PROXIES,
                )
