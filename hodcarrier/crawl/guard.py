"""Guard rails: which addresses a crawl may connect to.

A service that fetches what people type must not become a tunnel into its own network. Names are resolved here, the
checked address is the one connected to, and addresses inside others (IPv4 in IPv6, 6to4, NAT64, Teredo) are unwrapped.
"""

from __future__ import annotations

import asyncio
import ipaddress
import socket
from functools import lru_cache

from aiohttp.abc import AbstractResolver, ResolveResult

_NAT64 = ipaddress.ip_network("64:ff9b::/96")
_NAT64_LOCAL = ipaddress.ip_network("64:ff9b:1::/48")


class RefusedAddress(OSError):
    """All addresses of a name are private, and the plan does not permit those."""


def is_public(text: str) -> bool:
    """Whether an IP address in any spelling the operating system gives is one of the public internet.

    IPv4 addresses inside IPv6 ones count as what they lead to; other forms of the reserved ranges are never public.
    """
    address = ipaddress.ip_address(text.partition("%")[0])
    if isinstance(address, ipaddress.IPv6Address):
        inner = address.ipv4_mapped or address.sixtofour
        if inner is None and address in _NAT64:
            inner = ipaddress.IPv4Address(int(address) & 0xFFFFFFFF)
        if inner is not None:
            return is_public(str(inner))
        if address.teredo is not None or address in _NAT64_LOCAL or address.is_site_local:
            return False
    return address.is_global and not address.is_multicast and not address.is_reserved


@lru_cache(maxsize=1024)
def literal_address(host: str) -> str | None:
    """The IP address a URL's host is, or ``None`` for a name. The WHATWG parser has made one spelling of all."""
    try:
        return str(ipaddress.ip_address(host.strip("[]")))
    except ValueError:
        return None


class GuardedResolver(AbstractResolver):
    """Resolves names for the HTTP client: the plan's host mapping first, then the system, private addresses left out."""

    def __init__(self, host_map: dict[str, str], allow_private: bool) -> None:
        self.host_map = host_map
        self.allow_private = allow_private

    async def resolve(self, host: str, port: int = 0, family: socket.AddressFamily = socket.AF_UNSPEC) -> list[ResolveResult]:
        """Addresses to connect to. Raises :class:`RefusedAddress` when only private ones are left."""
        mapped = self.host_map.get(f"{host}:{port}")
        if mapped is not None:
            address, _, mapped_port = mapped.rpartition(":")
            return [_result(host, address.strip("[]"), int(mapped_port))]
        loop = asyncio.get_running_loop()
        found = await loop.getaddrinfo(host, port, type=socket.SOCK_STREAM, family=family)
        results = [_result(host, str(sockaddr[0]), port) for *_, sockaddr in found]
        allowed = [r for r in results if self.allow_private or is_public(r["host"])]
        if results and not allowed:
            raise RefusedAddress(f"{host} resolves to {results[0]['host']}, a private address")
        return allowed

    async def close(self) -> None:
        """Nothing is held open."""


def _result(name: str, address: str, port: int) -> ResolveResult:
    family = socket.AF_INET6 if ":" in address else socket.AF_INET
    return ResolveResult(hostname=name, host=address, port=port, family=family, proto=0, flags=socket.AI_NUMERICHOST)
