"""How the server stands on the shop's network: its addresses, its certificate, its name; looked at again as they change."""

import logging
import ssl
import threading
from collections.abc import Callable, MutableSequence
from dataclasses import dataclass
from datetime import datetime
from ipaddress import IPv4Address

from django.http import HttpRequest

from cradle.lan.addresses import Reached, reached
from cradle.lan.announced import Announced
from cradle.lan.authority import Authority, Papers

logger = logging.getLogger(__name__)
_LOOKS_AGAIN_S = 30.0


@dataclass(frozen=True)
class Addresses:
    """What is typed on a tablet: the server by number and by name, and the page that says how to trust it, by number."""

    by_number: str
    by_name: str
    trust: str


class Standing:
    """The server on the network. What changes while it runs, a number or the day, is followed within half a minute."""

    def __init__(
        self,
        authority: Authority,
        hosts: MutableSequence[str],
        port: int,
        trust_port: int,
        now: Callable[[], datetime],
        look: Callable[[], Reached] = reached,
    ):
        self.authority, self.port, self.trust_port = authority, port, trust_port
        self._hosts, self._now, self._look = hosts, now, look
        self._announced, self._stopped = Announced(), threading.Event()
        self._numbers: tuple[IPv4Address, ...] = ()
        self._name = ""
        self.tls: ssl.SSLContext | None = None
        self.papers: Papers
        self.look()

    def look(self) -> None:
        """Look where this machine is now, and follow: its name, the hosts it answers to, its certificate."""
        there = self._look()
        if there.numbers != self._numbers:
            self._name = self._announced.tell(there.numbers, self.port) if there.numbers else ""
            self._numbers = there.numbers
        hosts = (*there.hosts, *([self._name] if self._name else []))
        self._hosts[:] = hosts
        before = getattr(self, "papers", None)
        self.papers = self.authority.papers(hosts, self._now())
        if self.tls and self.papers != before:
            # Who comes from now on is shown the new one.
            self.tls.load_cert_chain(self.papers.certificate, self.papers.key)

    @property
    def addresses(self) -> Addresses | None:
        """None without a network."""
        if not self._numbers:
            return None
        number = self._numbers[0]
        by_name = f"https://{self._name}:{self.port}" if self._name else ""
        return Addresses(f"https://{number}:{self.port}", by_name, f"http://{number}:{self.trust_port}/trust")

    def follow(self) -> None:
        """Look again and again in a thread of its own, until stopped."""
        threading.Thread(target=self._follow, daemon=True, name="network").start()

    def _follow(self) -> None:
        while not self._stopped.wait(_LOOKS_AGAIN_S):
            try:
                self.look()
            except Exception:
                # A network that comes and goes must not end the following of it.
                logger.exception("the network was not followed")

    def stop(self) -> None:
        self._stopped.set()
        self._announced.stop()


# How this process stands on a network, where it does.
_here: list[Standing] = []


def stand(standing: Standing) -> None:
    _here[:] = [standing]


def standing() -> Standing | None:
    """How the server stands on the shop's network; None where it answers on its own machine alone."""
    return _here[0] if _here else None


def address_for_all(request: HttpRequest) -> str:
    """The address that is printed in codes: one that any tablet reaches, where there is one, not what was typed here."""
    addresses = _here[0].addresses if _here else None
    return addresses.by_number if addresses else request.build_absolute_uri("/").rstrip("/")
