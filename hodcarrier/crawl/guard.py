"""Guard rails: which addresses a crawl may connect to.

A service that fetches what people type must not become a tunnel into its own network. Names are resolved here, the
checked address is the one connected to, and addresses inside others (IPv4 in IPv6, 6to4, NAT64, Teredo) are unwrapped. What a plan
permits holds for its own hosts alone: whatever else a site names never leads inside.
"""

from __future__ import annotations

import asyncio
import ipaddress
import socket
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache

from aiohttp.abc import AbstractResolver, ResolveResult

from hodcarrier.core.plan import Plan
from hodcarrier.core.web.permits import Permit, read_permit
from hodcarrier.core.web.urls import same_site, split

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


@dataclass(frozen=True)
class Guard:
    """Which addresses one crawl may connect to: public ones, and for the site's own hosts (``own``) the private ones of ``permits``."""

    permits: tuple[Permit, ...] = ()
    own: Callable[[str, int], bool] = lambda _host, _port: False
    _judged: dict[tuple[str, int], str] = field(default_factory=dict)

    @classmethod
    def of(cls, plan: Plan) -> Guard:
        """The guard of a plan."""

        def own(host: str, port: int) -> bool:
            name = f"[{host}]" if ":" in host.strip("[]") and not host.startswith("[") else host
            return same_site(f"http://{name}:{port}/", plan.host, subdomains=plan.subdomains)

        return cls(tuple(map(read_permit, plan.private_addresses)), own)

    def allows(self, host: str, address: str, port: int) -> bool:
        """Whether a host may be reached at an address."""
        return is_public(address) or (any(permit.covers(address, port) for permit in self.permits) and self.own(host, port))

    def why_refused(self, url: str) -> str:
        """Why a URL whose host is an address may not be asked for; empty when it may, or names a host."""
        parts = split(url)
        literal = literal_address(parts.host)
        if literal is None:
            return ""
        why = self._judged.get((literal, parts.port))
        if why is None:
            why = "" if self.allows(parts.host, literal, parts.port) else f"{literal} is a private address"
            self._judged[literal, parts.port] = why
        return why


class GuardedResolver(AbstractResolver):
    """Resolves names for the HTTP client: the plan's host mapping first, then the system, private addresses left out."""

    def __init__(self, host_map: dict[str, str], guard: Guard) -> None:
        self.host_map = host_map
        self.guard = guard

    async def resolve(self, host: str, port: int = 0, family: socket.AddressFamily = socket.AF_UNSPEC) -> list[ResolveResult]:
        """Addresses to connect to. Raises :class:`RefusedAddress` when only private ones are left."""
        mapped = self.host_map.get(f"{host}:{port}")
        if mapped is not None:
            address, _, mapped_port = mapped.rpartition(":")
            return [_result(host, address.strip("[]"), int(mapped_port))]
        loop = asyncio.get_running_loop()
        found = await loop.getaddrinfo(host, port, type=socket.SOCK_STREAM, family=family)
        results = [_result(host, str(sockaddr[0]), port) for *_, sockaddr in found]
        allowed = [r for r in results if self.guard.allows(host, r["host"], port)]
        if results and not allowed:
            raise RefusedAddress(f"{host} resolves to {results[0]['host']}, a private address")
        return allowed

    async def close(self) -> None:
        """Nothing is held open."""


def _result(name: str, address: str, port: int) -> ResolveResult:
    family = socket.AF_INET6 if ":" in address else socket.AF_INET
    return ResolveResult(hostname=name, host=address, port=port, family=family, proto=0, flags=socket.AI_NUMERICHOST)
