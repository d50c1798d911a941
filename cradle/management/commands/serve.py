"""`manage.py serve`: one process that serves pages and API."""

import uvicorn
from django.conf import settings
from django.core.management.base import BaseCommand

from cradle.serving import MANNERS, ready_to_serve


class Command(BaseCommand):
    help = "Serve Inch Cradle on this machine."

    def add_arguments(self, parser):
        parser.add_argument("--host", default="127.0.0.1")
        parser.add_argument("--port", type=int, default=8000)

    def handle(self, *args, host: str, port: int, **options):
        self.stdout.write(f"Inch Cradle is at http://{host}:{port}")
        with ready_to_serve() as application:
            uvicorn.run(
                application,
                host=host,
                port=port,
                # Where it says another address for who asks, only a proxy that is named is believed.
                proxy_headers=bool(settings.PROXIES),
                forwarded_allow_ips=settings.PROXIES,
                **MANNERS,
            )
