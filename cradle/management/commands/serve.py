"""`manage.py serve`: one process that serves pages and API."""

from collections.abc import Callable

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from cradle.keeping import Unsound
from cradle.serving import MANNERS, Telling, port_at, ready_to_serve
from cradle.shops.beginning import said_at_the_terminal
from cradle.upgrading import require_this_version


class Command(BaseCommand):
    help = "Serve Inch Cradle on this machine."
    # What is done once it answers, at its address.
    stealth_options = ("once",)

    def add_arguments(self, parser):
        parser.add_argument("--host", default="127.0.0.1")
        parser.add_argument("--port", type=int, default=8000)

    def handle(self, *args, host: str, port: int, once: Callable[[str], object] | None = None, **options):
        try:
            require_this_version()
        except Unsound as error:
            raise CommandError(str(error)) from error
        address = f"http://{host}:{port}"
        said = said_at_the_terminal()

        def answers() -> None:
            self.stdout.write("\n".join(filter(None, (f"Inch Cradle is at {address}", said))))
            self.stdout.flush()
            if once:
                once(address)

        with port_at(host, port) as door, ready_to_serve() as application:
            # Where it says another address for who asks, only a proxy that is named is believed.
            trusted = {"proxy_headers": bool(settings.PROXIES), "forwarded_allow_ips": settings.PROXIES}
            Telling(answers, application, **trusted, **MANNERS).run(sockets=[door])
