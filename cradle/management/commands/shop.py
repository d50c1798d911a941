"""`manage.py shop`: migrate, and serve on the shop's own network over TLS, for tablets and phones."""

import asyncio
import threading
from io import StringIO

import segno
import uvicorn
from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.utils import timezone

from cradle.daily_backups import follow_the_days
from cradle.lan.addresses import reached
from cradle.lan.authority import Authority, Unusable
from cradle.lan.standing import Standing, stand
from cradle.lan.trust import trust_only
from cradle.serving import MANNERS, ready_to_serve
from cradle.shops.beginning import said_at_the_terminal
from cradle.upgrading import bring_up_and_tell


class Command(BaseCommand):
    help = "Serve Inch Cradle on the shop's network, over TLS."

    def add_arguments(self, parser):
        parser.add_argument("--port", type=int, default=8443)
        parser.add_argument("--trust-port", type=int, default=8080, help="where tablets learn to trust it, without TLS")
        parser.add_argument("--demo", action="store_true", help="load the demo shop unless it is there")

    def handle(self, *args, port: int, trust_port: int, demo: bool, **options):
        if not settings.ON_THE_NETWORK:
            raise CommandError(
                "start it as the first word after manage.py, so that its settings are those of a network"
            )
        bring_up_and_tell(self.stdout.write)
        if demo:
            call_command("load_demo")
        try:
            authority = Authority(settings.DATA_DIR / "authority", reached().networks)
        except Unusable as error:
            raise CommandError(str(error)) from error
        standing = Standing(authority, settings.ALLOWED_HOSTS, port, trust_port, timezone.now)
        stand(standing)
        with ready_to_serve() as application:
            self._tell(standing)
            standing.follow()
            follow_the_days()
            try:
                self._serve(application, standing)
            finally:
                standing.stop()

    def _serve(self, application, standing: Standing) -> None:
        papers = standing.papers
        tls = uvicorn.Config(
            application,
            host="0.0.0.0",
            port=standing.port,
            ssl_certfile=papers.certificate,
            ssl_keyfile=papers.key,
            # Whoever asks comes himself: no proxy is believed.
            proxy_headers=False,
            **MANNERS,
        )
        tls.load()
        standing.tls = tls.ssl
        # The one page that is read before a tablet trusts the server goes without TLS, and nothing else does.
        plain = uvicorn.Config(
            trust_only(application),
            host="0.0.0.0",
            port=standing.trust_port,
            proxy_headers=False,
            **MANNERS,
        )
        threading.Thread(target=lambda: asyncio.run(uvicorn.Server(plain).serve()), daemon=True, name="trust").start()
        uvicorn.Server(tls).run()

    def _tell(self, standing: Standing) -> None:
        addresses = standing.addresses
        if addresses is None:
            self.stdout.write("This machine is on no network now. As soon as it is, tablets reach Inch Cradle there.")
            self.stdout.write(f"On this machine it is at https://localhost:{standing.port}")
            return
        self.stdout.write(f"Inch Cradle is at  {addresses.by_number}")
        if addresses.by_name:
            self.stdout.write(f"and, by name, at   {addresses.by_name}")
        self.stdout.write(f"A tablet that comes for the first time opens  {addresses.trust}  or scans this:")
        code = StringIO()
        segno.make(addresses.trust, micro=False).terminal(out=code, compact=True, border=2)
        self.stdout.write(code.getvalue())
        if said := said_at_the_terminal():
            self.stdout.write(said)
        self.stdout.write(f"The fingerprint of its certificate: {standing.authority.fingerprint}")
