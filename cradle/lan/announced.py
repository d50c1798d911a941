"""The server's name, told to the shop's network by multicast, so that nobody has to type its number."""

from collections.abc import Iterator, Sequence
from contextlib import suppress
from ipaddress import IPv4Address

from zeroconf import AddressResolverIPv4, Error, IPVersion, ServiceInfo, Zeroconf

_TYPE = "_https._tcp.local."
_ANSWERED_WITHIN_MS = 1500
_MOST_SHOPS = 9


class Announced:
    """A name that answers with this machine's numbers for as long as the server runs."""

    def __init__(self) -> None:
        self._says: Zeroconf | None = None

    def tell(self, numbers: Sequence[IPv4Address], port: int) -> str:
        """Tell a name that no other machine has, in the place of what was told before. Answers the name; nothing where the
        network takes no multicast.
        """
        self.stop()
        try:
            self._says = Zeroconf(interfaces=[str(number) for number in numbers], ip_version=IPVersion.V4Only)
            name = next((each for each in _names() if not self._is_anothers(each, numbers)), "")
            if name:
                addresses = [number.packed for number in numbers]
                told = ServiceInfo(_TYPE, f"Inch Cradle.{_TYPE}", port=port, server=f"{name}.", addresses=addresses)
                self._says.register_service(told, allow_name_change=True)
        except (OSError, Error):
            self.stop()
            return ""
        return name

    def _is_anothers(self, name: str, numbers: Sequence[IPv4Address]) -> bool:
        asked = AddressResolverIPv4(f"{name}.")
        if not asked.request(self._says, _ANSWERED_WITHIN_MS):
            return False
        return bool(set(map(str, asked.parsed_addresses())) - set(map(str, numbers)))

    def stop(self) -> None:
        """Say that the name is gone."""
        if self._says:
            with suppress(OSError, Error):
                self._says.close()
        self._says = None


def _names() -> Iterator[str]:
    yield "inch-cradle.local"
    yield from (f"inch-cradle-{n}.local" for n in range(2, _MOST_SHOPS + 1))
