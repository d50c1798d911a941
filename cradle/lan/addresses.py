"""Where this machine can be reached on the shop's own network: its numbers and its names."""

import re
import socket
from dataclasses import dataclass
from ipaddress import IPv4Address, IPv4Network, ip_network

import ifaddr

# Kept for machines of their own within this one: no tablet reaches it by them.
_INSIDE = re.compile(r"^(lo\d*|docker|br-|veth|virbr|vmnet|vboxnet|utun|tun|tap)")


@dataclass(frozen=True)
class Reached:
    """How this machine is reached: its numbers, the likeliest first, the networks they are in, and its names."""

    numbers: tuple[IPv4Address, ...]
    networks: tuple[IPv4Network, ...]
    names: tuple[str, ...]

    @property
    def hosts(self) -> tuple[str, ...]:
        """All of them, and what a browser on this machine itself types."""
        return (*map(str, self.numbers), *self.names, "127.0.0.1", "localhost")


def reached() -> Reached:
    """How this machine is reached now; without a network it has no number."""
    found: dict[IPv4Address, IPv4Network] = {}
    for adapter in ifaddr.get_adapters():
        if _INSIDE.match(adapter.nice_name):
            continue
        for each in adapter.ips:
            if each.is_IPv4 and not (number := IPv4Address(each.ip)).is_loopback:
                found[number] = ip_network(f"{number}/{each.network_prefix}", strict=False)
    first = _towards_outside()
    numbers = sorted(found, key=lambda number: (number != first, number.is_link_local, number))
    return Reached(tuple(numbers), tuple(found[number] for number in numbers), _names())


def _towards_outside() -> IPv4Address | None:
    """The number from which this machine would reach others; nothing is sent."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asking:
        try:
            asking.connect(("198.51.100.1", 9))
        except OSError:
            return None
        return IPv4Address(asking.getsockname()[0])


def _names() -> tuple[str, ...]:
    own = re.sub(r"[^a-z0-9-]+", "-", socket.gethostname().split(".")[0].lower()).strip("-")
    return (f"{own}.local",) if own else ()
