"""Private addresses that a plan permits for its own site: single ones and ranges, of every port or of one."""

from __future__ import annotations

import ipaddress
from dataclasses import dataclass

Network = ipaddress.IPv4Network | ipaddress.IPv6Network
ALL_PRIVATE = ("0.0.0.0/0", "::/0")


@dataclass(frozen=True, slots=True)
class Permit:
    """A range of addresses; ``port`` ``None`` means any."""

    network: Network
    port: int | None = None

    def covers(self, address: str, port: int) -> bool:
        """Whether an address and a port are within. An IPv4 address written as IPv6 counts as what it is."""
        found = ipaddress.ip_address(address.partition("%")[0])
        if isinstance(found, ipaddress.IPv6Address) and found.ipv4_mapped is not None:
            found = found.ipv4_mapped
        return self.port in (None, port) and found.version == self.network.version and found in self.network


def read_permit(text: str) -> Permit:
    """A permit as people write it: ``127.0.0.1:9610``, ``10.1.0.0/16``, ``[fd00::1]:8080``, ``fd00::/8``.

    Raises :class:`ValueError`: it is none, or has bits set beyond its prefix.
    """
    text = text.strip()
    if text.startswith("["):
        address, closing, port = text[1:].partition("]")
        if not closing or (port and not port.startswith(":")):
            raise ValueError(text)
        return Permit(ipaddress.ip_network(address), _port(port[1:]) if port else None)
    address, colon, port = text.partition(":")
    if colon and ":" not in port:
        return Permit(ipaddress.ip_network(address), _port(port))
    return Permit(ipaddress.ip_network(text))


def _port(text: str) -> int:
    if not (text.isascii() and text.isdigit() and 0 < int(text[:6]) < 65_536):
        raise ValueError(text)
    return int(text)
